/// The menu of proofs and of what the picture is held against.
#include "app/main_window.h"

#include "app/bench.h"
#include "app/match_dialog.h"
#include "app/proof_strip.h"
#include "app/words.h"

#include <QActionGroup>
#include <QFileDialog>
#include <QMenuBar>

namespace hygros::app {

void MainWindow::buildProofsMenu()
{
    Compare& compare = session_.compare();
    QMenu* menu = menuBar()->addMenu(say("Proofs"));
    menu->addAction(say("Keep a proof"), QKeySequence("F5"), this, [this] { session_.proofs().keep(); });
    menu->addAction(say("Against the last proof, or not"), QKeySequence("F3"), this, [this, &compare] {
        if (compare.isOn())
            return compare.end();
        if (session_.proofs().all().empty())
            return tell(say("There is no proof yet: F5 keeps one."));
        compare.withProof(session_.proofs().all().back());
        bench_->showPage("Proofs");
    });
    menu->addAction(say("Flip"), QKeySequence("F4"), this, [&compare] { compare.flip(); });
    menu->addAction(say("Bracket…"), QKeySequence("Ctrl+B"), this, [this] { showBracket(); });
    menu->addSeparator();
    menu->addAction(say("Against: without air"), this, [&compare] { compare.withoutAir(); });
    menu->addAction(say("Against: the reference"), this, [&compare] { compare.withReference(); });
    menu->addAction(say("Against: without the chosen element"), this, [this, &compare] {
        if (session_.selection().selected().empty())
            return tell(say("Choose a card first: the picture is then held against itself without that."));
        compare.withoutElement(session_.selection().selected());
    });
    menu->addAction(say("Against a picture from disk…"), this, [this, &compare] {
        const QString file = QFileDialog::getOpenFileName(this, say("Hold the picture against"), {},
                                                          say("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp)"));
        if (!file.isEmpty())
            compare.withFile(file);
    });
    menu->addAction(say("Match to a photograph…"), this, [this, &compare] {
        auto* dialog = new MatchDialog(session_, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        if (compare.with() == Compare::With::File)
            dialog->usePhotograph(compare.file());
        dialog->open();
    });
    menu->addSeparator();
    auto* ways = new QActionGroup(menu);
    std::vector<QAction*> actions;
    for (const auto& [text, by] : {std::pair(say("By a line between both"), Compare::By::Wipe),
                                   std::pair(say("By their difference"), Compare::By::Difference),
                                   std::pair(say("Beside each other"), Compare::By::Beside)}) {
        QAction* a = menu->addAction(text, this, [&compare, by = by] { compare.setBy(by); });
        a->setCheckable(true);
        a->setData(static_cast<int>(by));
        ways->addAction(a);
        actions.push_back(a);
    }
    menu->addSeparator();
    QAction* end = menu->addAction(say("The picture alone"), this, [&compare] { compare.end(); });
    const auto update = [&compare, actions, end] {
        end->setEnabled(compare.isOn());
        for (QAction* a : actions) {
            a->setEnabled(compare.isOn());
            a->setChecked(compare.isOn() && a->data().toInt() == static_cast<int>(compare.by()));
        }
    };
    connect(&compare, &Compare::changed, parts_, update);
    update();
}
} // namespace hygros::app
