/// The menu, and what is asked before a project is left or written over.
#include "app/main_window.h"

#include "app/add_place.h"
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/export_dialog.h"
#include "app/picture_view.h"
#include "app/planes_view.h"
#include "app/reach_view.h"
#include "app/recipe_dialog.h"
#include "app/sounding_view.h"
#include "app/status_line.h"
#include "app/theme.h"
#include "app/time_strip.h"
#include "app/transect_view.h"
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
    QMenu* project = bar->addMenu("Project");
    project->addAction("New", QKeySequence::New, this, &MainWindow::newProject);
    project->addAction("Open…", QKeySequence::Open, this, &MainWindow::openProject);
    recent_ = project->addMenu("Open again");
    project->addSeparator();
    project->addAction("Save", QKeySequence::Save, this, &MainWindow::saveProject);
    project->addAction("Save as…", QKeySequence::SaveAs, this, &MainWindow::saveProjectAs);
    project->addSeparator();
    project->addAction("Import set…", QKeySequence("Ctrl+I"), this, &MainWindow::importSet);
    project->addAction("Import plate…", QKeySequence("Ctrl+Shift+I"), this, [this] {
        chooseFamily(scene::Family::Set);
        column_->add("plate");
    });
    project->addAction("Import volume…", QKeySequence("Ctrl+Alt+I"), this, [this] {
        chooseFamily(scene::Family::Air);
        const QString file = QFileDialog::getOpenFileName(this, "Import a volume", {}, elements::volumeFiles);
        if (!file.isEmpty())
            session_.bring(*elements::findKind("volume"), file);
    });
    project->addAction("Export picture…", QKeySequence("Ctrl+E"), this, &MainWindow::exportPicture);
    project->addSeparator();
    project->addAction("Quit", QKeySequence::Quit, this, &QWidget::close);
    QMenu* edit = bar->addMenu("Edit");
    undo_ = edit->addAction("Undo", QKeySequence::Undo, &session_.document(), &Document::undo);
    redo_ = edit->addAction("Redo", QKeySequence("Ctrl+Shift+Z"), &session_.document(), &Document::redo);
    undo_->setEnabled(false);
    redo_->setEnabled(false);
    edit->addAction("History", QKeySequence("Ctrl+Alt+Z"), this, [this] { bench_->showPage("History"); });
    edit->addSeparator();
    Arranger& arranger = session_.arranger();
    const auto hand = [&](const QString& text, const QKeySequence& keys, std::function<void()> act) {
        QAction* a = edit->addAction(text, this, std::move(act));
        a->setShortcut(keys);
        return a;
    };
    std::vector<QAction*> needChosen{
        hand("Cut", QKeySequence::Cut,
             [&arranger] {
                 arranger.copy(arranger.with({}));
                 arranger.remove(arranger.with({}));
             }),
        hand("Copy", QKeySequence::Copy, [&arranger] { arranger.copy(arranger.with({})); }),
        hand("Duplicate", QKeySequence("Ctrl+D"), [&arranger] { arranger.duplicate(arranger.with({})); }),
        hand("Remove", QKeySequence::Delete, [&arranger] { arranger.remove(arranger.with({})); }),
        hand("Group…", QKeySequence("Ctrl+G"),
             [this, &arranger] {
                 bool good = false;
                 const QString name = QInputDialog::getText(this, "Group", "Name of the group", QLineEdit::Normal,
                                                            "Group", &good);
                 if (good && !name.trimmed().isEmpty())
                     arranger.group(arranger.with({}), name.trimmed());
             }),
        hand("Save as recipe…", {}, [this] { saveRecipe(); })};
    QAction* paste = hand("Paste", QKeySequence::Paste, [&arranger] { arranger.paste(); });
    edit->insertAction(needChosen[2], paste);
    edit->addAction("Memory for what is kept…", this, [this] {
        const Store& store = session_.store();
        bool good = false;
        const double most = QInputDialog::getDouble(
            this, "Memory for what is kept",
            QString("Sets, volumes and shadows that were read or worked out are kept while they fit [GB].\n"
                    "Now %1 GB are kept; what was not used for longest goes first.")
                .arg(static_cast<double>(store.bytes()) * 1e-9, 0, 'f', 2),
            static_cast<double>(store.limit()) * 1e-9, 0.1, 512.0, 1, &good);
        if (good)
            session_.keepUpTo(most);
    });
    hand("Choose all cards shown", QKeySequence("Ctrl+A"), [this] { column_->chooseAll(); });
    const auto enable = [this, needChosen] {
        for (QAction* a : needChosen)
            a->setEnabled(!session_.selection().chosen().empty());
    };
    enable();
    connect(&session_.selection(), &Selection::chosenChanged, this, enable);
    connect(column_, &CardColumn::recipeWanted, this, &MainWindow::saveRecipe);
    QMenu* view = bar->addMenu("View");
    view->addAction("Back to the shot", QKeySequence("Home"), picture_, &PictureView::returnToShot);
    view->addAction("Make this the shot", QKeySequence("Ctrl+Home"), picture_, &PictureView::takeAsShot);
    view->addSeparator();
    QAction* aids = view->addAction("Aids over the picture");
    aids->setCheckable(true);
    aids->setChecked(true);
    aids->setShortcut(QKeySequence("F8"));
    connect(aids, &QAction::toggled, picture_, &PictureView::setAids);
    QMenu* study = view->addMenu("Value study");
    auto* tones = new QActionGroup(study);
    for (const int n : {0, 3, 4, 5, 6, 7}) {
        QAction* a = study->addAction(n == 0 ? QString("Off: the picture as it is") : QString("%1 tones").arg(n), this,
                                      [this, n] { session_.picture().setValueStudy(n); });
        a->setCheckable(true);
        a->setChecked(n == 0);
        tones->addAction(a);
    }
    QMenu* reference = view->addMenu("Reference picture");
    auto* goals = new QActionGroup(reference);
    for (const double noise : {0.05, 0.02, 0.01, 0.005}) {
        QAction* a = reference->addAction(QString("Ends under %1 % noise").arg(noise * 100.0), this, [this, noise] {
            session_.reference().setGoal(static_cast<float>(noise), session_.reference().denoise());
        });
        a->setCheckable(true);
        a->setChecked(noise == 0.02);
        goals->addAction(a);
    }
    reference->addSeparator();
    auto* shares = new QActionGroup(reference);
    for (const int share : {0, 50, 80, 100}) {
        QAction* a = reference->addAction(
            share == 0 ? QString("As measured, not denoised") : QString("Denoised by %1 %").arg(share), this,
            [this, share] {
                session_.reference().setGoal(session_.reference().noise(), static_cast<float>(share) / 100.f);
            });
        a->setCheckable(true);
        a->setChecked(share == 100);
        shares->addAction(a);
    }
    view->addAction("Live, both or reference", QKeySequence("F7"), this, [this] {
        session_.reference().setShown(
            static_cast<Reference::Shown>((static_cast<int>(session_.reference().shown()) + 1) % 3));
    });
    QAction* paths = view->addAction("Hold the live picture to paths");
    paths->setCheckable(true);
    paths->setChecked(session_.picture().followsPaths());
    connect(paths, &QAction::toggled, &session_.picture(), &Picture::setFollowsPaths);
    QAction* light = view->addAction("Light window (from the next start)");
    light->setCheckable(true);
    light->setChecked(QSettings().value("lightWindow", false).toBool());
    connect(light, &QAction::toggled, this, [](bool on) { QSettings().setValue("lightWindow", on); });
    buildProofsMenu();
    QMenu* time = bar->addMenu("Time");
    time->addAction("Play or stop", QKeySequence("F6"), &session_.player(), &Player::toggle);
    time->addAction("One frame on", QKeySequence("Ctrl+Right"), this, [this] { time_->step(1); });
    time->addAction("One frame back", QKeySequence("Ctrl+Left"), this, [this] { time_->step(-1); });
    time->addAction("Next key", QKeySequence("Ctrl+Shift+Right"), this, [this] { time_->toKey(true); });
    time->addAction("Former key", QKeySequence("Ctrl+Shift+Left"), this, [this] { time_->toKey(false); });
    time->addAction("First frame", QKeySequence("Ctrl+Alt+Left"), this, [this] { time_->toEnd(false); });
    time->addAction("Last frame", QKeySequence("Ctrl+Alt+Right"), this, [this] { time_->toEnd(true); });
    time->addSeparator();
    QAction* record = time->addAction("Record changes as keys");
    record->setCheckable(true);
    record->setShortcut(QKeySequence("F9"));
    connect(record, &QAction::toggled, &session_.document(), &Document::setRecording);
    connect(&session_.document(), &Document::recordingChanged, record,
            [this, record] { record->setChecked(session_.document().isRecording()); });
    time->addAction("Keep the run as pictures", this, [this] { session_.keptRun().draw(8); });
    time->addAction("Write the kept run…", this, [this] { time_->writeRun(); });
    time->addAction("Bake all that is not fresh", this, [this] {
        for (const std::string& id : elements::simulated(session_.project()))
            session_.baker().bake(id);
    });
    const auto chosenOrAll = [this] { // of what is simulated: what is chosen, or all
        std::vector<std::string> out;
        const auto all = elements::simulated(session_.project());
        for (const std::string& id : session_.selection().chosen())
            if (std::find(all.begin(), all.end(), id) != all.end())
                out.push_back(id);
        return out.empty() ? all : out;
    };
    time->addAction("Bake or stop", QKeySequence("F10"), this, [this, chosenOrAll] {
        for (const std::string& id : chosenOrAll())
            session_.baker().isBaking(id) ? session_.baker().cancel(id) : session_.baker().bake(id);
    });
    time->addAction("Bake again from the start", QKeySequence("Ctrl+F10"), this, [this, chosenOrAll] {
        for (const std::string& id : chosenOrAll())
            session_.baker().again(id);
    });
    time->addAction("Baked frames…", this, [this] { time_->showBaked(); });
    time->addAction("Frames, rate and shutter…", this, [this] { time_->askTime(); });
    QMenu* add = bar->addMenu("Add");
    add->addAction("Search everything and recipes…", QKeySequence(Qt::Key_Insert), this, &MainWindow::showAddPlace);
    add->addSeparator();
    for (const elements::Kind& k : elements::kinds())
        if (!k.permanent)
            add->addAction(QString::fromStdString(k.label), this,
                           [this, id = k.id, family = k.family, single = k.single] {
                               if (single)
                                   for (const scene::Element& e : session_.project().elements)
                                       if (e.kind->id == id)
                                           return tell(QString("There is a %1 already; its card is under %2.")
                                                           .arg(QString::fromStdString(e.kind->label).toLower(),
                                                                QString::fromStdString(scene::familyName(family))));
                               chooseFamily(family);
                               column_->add(id);
                           });
    QMenu* help = bar->addMenu("Help");
    help->addAction("About Hygros", this, [this] {
        QMessageBox::about(this, "About Hygros",
                           QString("<b>Hygros %1</b><p>Air, fog and light for 3D scenes.</p><p>Licence: Apache-2.0. "
                                   "Words are set in Inter "
                                   "(SIL Open Font Licence 1.1), figures in B612 (SIL Open Font Licence 1.1).</p>")
                               .arg(HYGROS_VERSION));
    });
    bar->setCornerWidget(status_, Qt::TopRightCorner);
    fillRecent();
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
    QString why = QString("“%1” was changed by somebody else since it was opened here.")
                      .arg(QFileInfo(file).fileName());
    if (const auto other = session_.document().otherHolder())
        why = QString("“%1” is open in another window (process %2 on %3, since %4).")
                  .arg(QFileInfo(file).fileName())
                  .arg(other->process)
                  .arg(other->host, other->since);
    QMessageBox ask(QMessageBox::Question, "Save", why + " What is to become of it?", QMessageBox::NoButton, this);
    ask.setObjectName("clash");
    QPushButton* aside = ask.addButton("Save under another name…", QMessageBox::AcceptRole);
    QPushButton* over = ask.addButton("Write over it", QMessageBox::DestructiveRole);
    ask.addButton("Do not save", QMessageBox::RejectRole);
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
            QMessageBox::NoIcon, "Unsaved work",
            QString("“%1” was not saved when Hygros ended. It is kept as it was at %2.%3")
                .arg(QString::fromStdString(found.name.toStdString()), found.time,
                     found.file.isEmpty() ? QString() : "\n" + found.file + " stays as it is until you save."),
            QMessageBox::NoButton, this);
        ask.setObjectName("recovery");
        if (!found.picture.isNull())
            ask.setIconPixmap(QPixmap::fromImage(found.picture));
        QPushButton* take = ask.addButton("Go on with it", QMessageBox::AcceptRole);
        QPushButton* drop = ask.addButton("Throw it away", QMessageBox::DestructiveRole);
        ask.addButton("Ask again next time", QMessageBox::RejectRole);
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
