/// The menu, and what is asked before a project is left or written over.
#include "app/main_window.h"

#include "app/add_place.h"
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/export_dialog.h"
#include "app/finder.h"
#include "app/help_dialog.h"
#include "app/picture_view.h"
#include "app/planes_view.h"
#include "app/preferences_dialog.h"
#include "app/reach_view.h"
#include "app/recipe_dialog.h"
#include "app/sounding_view.h"
#include "app/status_line.h"
#include "app/theme.h"
#include "app/time_strip.h"
#include "app/transect_view.h"
#include "app/words.h"
#include "elements/bake.h"

#include <QActionGroup>
#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QLabel>
#include <QMenuBar>
#include <QMessageBox>
#include <QPushButton>
#include <QSettings>
#include <QSplitter>
#include <QVBoxLayout>

namespace hygros::app {

void MainWindow::buildMenu()
{
    QMenuBar* bar = menuBar();
    QMenu* project = bar->addMenu(say("Project"));
    project->addAction(say("New"), QKeySequence::New, this, &MainWindow::newProject);
    project->addAction(say("Open…"), QKeySequence::Open, this, &MainWindow::openProject);
    recent_ = project->addMenu(say("Open again"));
    project->addSeparator();
    project->addAction(say("Save"), QKeySequence::Save, this, &MainWindow::saveProject);
    project->addAction(say("Save as…"), QKeySequence::SaveAs, this, &MainWindow::saveProjectAs);
    project->addSeparator();
    project->addAction(say("Import set…"), QKeySequence("Ctrl+I"), this, &MainWindow::importSet);
    project->addAction(say("Import plate…"), QKeySequence("Ctrl+Shift+I"), this, [this] {
        chooseFamily(scene::Family::Set);
        column_->add("plate");
    });
    project->addAction(say("Import volume…"), QKeySequence("Ctrl+Alt+I"), this, [this] {
        chooseFamily(scene::Family::Air);
        const QString file = QFileDialog::getOpenFileName(this, say("Import a volume"), {}, elements::volumeFiles);
        if (!file.isEmpty())
            session_.bring(*elements::findKind("volume"), file);
    });
    project->addAction(say("Collect its files"), this, [this] {
        if (session_.document().file().isEmpty() && !saveProjectAs())
            return;
        session_.collect();
    });
    project->addAction(say("Export picture…"), QKeySequence("Ctrl+E"), this, &MainWindow::exportPicture);
    project->addSeparator();
    project->addAction(say("Quit"), QKeySequence::Quit, this, &QWidget::close);
    QMenu* edit = bar->addMenu(say("Edit"));
    undo_ = edit->addAction(say("Undo"), QKeySequence::Undo, &session_.document(), &Document::undo);
    redo_ = edit->addAction(say("Redo"), QKeySequence("Ctrl+Shift+Z"), &session_.document(), &Document::redo);
    undo_->setEnabled(false);
    redo_->setEnabled(false);
    edit->addAction(say("History"), QKeySequence("Ctrl+Alt+Z"), this, [this] { bench_->showPage("History"); });
    edit->addSeparator();
    Arranger& arranger = session_.arranger();
    const auto hand = [&](const QString& text, const QKeySequence& keys, std::function<void()> act) {
        QAction* a = edit->addAction(text, this, std::move(act));
        a->setShortcut(keys);
        return a;
    };
    std::vector<QAction*> needChosen{
        hand(say("Cut"), QKeySequence::Cut,
             [&arranger] {
                 arranger.copy(arranger.with({}));
                 arranger.remove(arranger.with({}));
             }),
        hand(say("Copy"), QKeySequence::Copy, [&arranger] { arranger.copy(arranger.with({})); }),
        hand(say("Duplicate"), QKeySequence("Ctrl+D"), [&arranger] { arranger.duplicate(arranger.with({})); }),
        hand(say("Remove"), QKeySequence::Delete, [&arranger] { arranger.remove(arranger.with({})); }),
        hand(say("Group…"), QKeySequence("Ctrl+G"),
             [this, &arranger] {
                 bool good = false;
                 const QString name = QInputDialog::getText(this, say("Group"), say("Name of the group"),
                                                            QLineEdit::Normal, say("Group"), &good);
                 if (good && !name.trimmed().isEmpty())
                     arranger.group(arranger.with({}), name.trimmed());
             }),
        hand(say("Save as recipe…"), {}, [this] { saveRecipe(); })};
    QAction* paste = hand(say("Paste"), QKeySequence::Paste, [&arranger] { arranger.paste(); });
    edit->insertAction(needChosen[2], paste);
    hand(say("Choose all cards shown"), QKeySequence("Ctrl+A"), [this] { column_->chooseAll(); });
    const auto enable = [this, needChosen] {
        for (QAction* a : needChosen)
            a->setEnabled(!session_.selection().chosen().empty());
    };
    enable();
    connect(&session_.selection(), &Selection::chosenChanged, parts_, enable);
    edit->addSeparator();
    edit->addAction(say("Find anything…"), QKeySequence("Ctrl+K"), this, &MainWindow::findAnything);
    edit->addAction(say("Preferences…"), QKeySequence("Ctrl+,"), this, &MainWindow::showPreferences);
    connect(column_, &CardColumn::recipeWanted, this, &MainWindow::saveRecipe);
    buildViewMenu();
    buildProofsMenu();
    buildTimeMenu();
    QMenu* add = bar->addMenu(say("Add"));
    add->addAction(say("Search everything and recipes…"), QKeySequence(Qt::Key_Insert), this,
                   &MainWindow::showAddPlace);
    add->addSeparator();
    for (const elements::Kind& k : elements::kinds())
        if (!k.permanent)
            add->addAction(
                QString::fromStdString(k.label), this, [this, id = k.id, family = k.family, single = k.single] {
                    if (single)
                        for (const scene::Element& e : session_.project().elements)
                            if (e.kind->id == id)
                                return tell(say("There is a %1 already; its card is under %2.")
                                                .arg(inText(e.kind->label), nameOf(scene::familyName(family))));
                    chooseFamily(family);
                    column_->add(id);
                });
    QMenu* help = bar->addMenu(say("Help"));
    help->addAction(say("What settings do"), QKeySequence(Qt::Key_F1), this, [this] {
        auto* dialog = findChild<HelpDialog*>();
        if (!dialog)
            dialog = new HelpDialog(this);
        dialog->showFor(focusWidget());
        dialog->show();
        dialog->raise();
    });
    help->addAction(say("First page"), this, &MainWindow::showFirstPage);
    help->addAction(say("A first fog, guided"), this, &MainWindow::startGuide);
    help->addSeparator();
    help->addAction(say("About Hygros"), this, [this] {
        QMessageBox::about(this, say("About Hygros"),
                           say("<b>Hygros %1</b><p>Air, fog and light for 3D scenes.</p><p>Licence: Apache-2.0. "
                               "Words are set in Inter "
                               "(SIL Open Font Licence 1.1), figures in B612 (SIL Open Font Licence 1.1).</p>")
                               .arg(HYGROS_VERSION));
    });
    bar->setCornerWidget(status_, Qt::TopRightCorner);
    fillRecent();
}

void MainWindow::findAnything()
{
    auto* finder = new Finder(*this);
    finder->setAttribute(Qt::WA_DeleteOnClose);
    finder->open();
}

void MainWindow::showPreferences()
{
    auto* dialog = new PreferencesDialog(*this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->show();
}

void MainWindow::showAddPlace()
{
    auto* place = new AddPlace(
        session_,
        [this](const std::string& kind) {
            chooseFamily(elements::findKind(kind)->family);
            column_->add(kind);
        },
        this);
    place->setAttribute(Qt::WA_DeleteOnClose);
    place->show();
}

void MainWindow::fillRecent()
{
    recent_->clear();
    for (const QString& f : session_.document().recentFiles())
        recent_->addAction(QFileInfo(f).fileName() + "   " + QFileInfo(f).absolutePath(), this, [this, f] {
            if (mayLeave())
                session_.open(f);
        });
    recent_->setEnabled(!recent_->isEmpty());
}

bool MainWindow::saveProject()
{
    const QString file = session_.document().file();
    if (file.isEmpty())
        return saveProjectAs();
    const Document::Clash clash = session_.document().clash();
    if (clash == Document::Clash::None)
        return session_.document().save(file);
    QString why = say("“%1” was changed by somebody else since it was opened here.").arg(QFileInfo(file).fileName());
    if (const auto other = session_.document().otherHolder())
        why = say("“%1” is open in another window (process %2 on %3, since %4).")
                  .arg(QFileInfo(file).fileName())
                  .arg(other->process)
                  .arg(other->host, other->since);
    QMessageBox ask(QMessageBox::Question, say("Save"), why + say(" What is to become of it?"), QMessageBox::NoButton,
                    this);
    ask.setObjectName("clash");
    QPushButton* aside = ask.addButton(say("Save under another name…"), QMessageBox::AcceptRole);
    QPushButton* over = ask.addButton(say("Write over it"), QMessageBox::DestructiveRole);
    ask.addButton(say("Do not save"), QMessageBox::RejectRole);
    ask.setDefaultButton(aside);
    ask.exec();
    if (ask.clickedButton() == aside)
        return saveProjectAs();
    return ask.clickedButton() == over && session_.document().save(file);
}

bool MainWindow::offerRecovery()
{
    for (const Recovery::Found& found : Recovery::found()) {
        QMessageBox ask(
            QMessageBox::NoIcon, say("Unsaved work"),
            say("“%1” was not saved when Hygros ended. It is kept as it was at %2.%3")
                .arg(QString::fromStdString(found.name.toStdString()), found.time,
                     found.file.isEmpty() ? QString() : "\n" + found.file + say(" stays as it is until you save.")),
            QMessageBox::NoButton, this);
        ask.setObjectName("recovery");
        if (!found.picture.isNull())
            ask.setIconPixmap(QPixmap::fromImage(found.picture));
        QPushButton* take = ask.addButton(say("Go on with it"), QMessageBox::AcceptRole);
        QPushButton* drop = ask.addButton(say("Throw it away"), QMessageBox::DestructiveRole);
        ask.addButton(say("Ask again next time"), QMessageBox::RejectRole);
        ask.setDefaultButton(take);
        ask.exec();
        if (ask.clickedButton() == drop)
            Recovery::discard(found.journal);
        if (ask.clickedButton() == take) {
            session_.recover(found.journal);
            return true;
        }
    }
    return false;
}
} // namespace hygros::app
