#include "app/main_window.h"

#include "app/bench.h"
#include "app/bracket_view.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/checks_panel.h"
#include "app/commands.h"
#include "app/export_dialog.h"
#include "app/history_view.h"
#include "app/motion_view.h"
#include "app/picture_view.h"
#include "app/planes_view.h"
#include "app/proof_strip.h"
#include "app/proof_view.h"
#include "app/reach_view.h"
#include "app/recipe_dialog.h"
#include "app/scopes_view.h"
#include "app/sounding_view.h"
#include "app/status_line.h"
#include "app/theme.h"
#include "app/time_strip.h"
#include "app/transect_view.h"
#include "app/words.h"

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
#include <QStackedWidget>
#include <QVBoxLayout>

namespace hygros::app {

MainWindow::MainWindow(QWidget* parent) : QMainWindow(parent)
{
    setObjectName("mainWindow");
    setWindowIcon(QIcon(":/hygros/icons/hygros.svg"));
    resize(1280, 800);
    setMinimumSize(1000, 640);
    qApp->installEventFilter(this);
    make();
    updateTitle();
}

void MainWindow::make()
{
    // What is told of is told to these, and goes with them.
    parts_ = new QObject(this);
    const Theme& t = Theme::now();
    auto* centre = new QWidget(this);
    auto* whole = new QVBoxLayout(centre);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(0);
    auto* row = new QHBoxLayout;
    row->setSpacing(1);
    whole->addLayout(row, 1);

    stage_ = new QStackedWidget(centre);
    picture_ = new PictureView(session_, stage_);
    bracket_ = new BracketView(session_, stage_);
    stage_->addWidget(picture_);
    stage_->addWidget(bracket_);
    bench_ = new Bench(centre);
    transect_ = new TransectView(session_, bench_);
    planes_ = new PlanesView(session_, bench_);
    sounding_ = new SoundingView(session_, bench_);
    reach_ = new ReachView(session_, bench_);
    bench_->addPage("Transect", transect_);
    bench_->addPage("Planes", planes_);
    bench_->addPage("Sounding", sounding_);
    bench_->addPage("Reach", reach_);
    bench_->addPage("Motion", new MotionView(session_, bench_));
    bench_->addPage("Scopes", new ScopesView(session_, bench_));
    bench_->addPage("History", new HistoryView(session_, bench_));
    bench_->addPage("Proofs", new ProofView(session_, bench_));
    auto* split = split_ = new QSplitter(Qt::Vertical, centre);
    split->addWidget(stage_);
    split->addWidget(bench_);
    split->setStretchFactor(0, 1);
    split->setStretchFactor(1, 0);
    split->setSizes({506, 240});
    split->setHandleWidth(3);
    split->setChildrenCollapsible(false);

    strip_ = new QWidget(centre);
    strip_->setObjectName("message");
    strip_->setStyleSheet(QString("#message{background:%1;border-top:2px solid #D0654B}").arg(t.raised.name()));
    auto* stripRow = new QHBoxLayout(strip_);
    stripRow->setContentsMargins(12, 7, 8, 7);
    stripText_ = new QLabel(strip_);
    stripText_->setWordWrap(true);
    stripText_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    auto* close = new QPushButton(say("Close"), strip_);
    close->setFlat(true);
    stripRow->addWidget(stripText_, 1);
    stripRow->addWidget(close);
    strip_->hide();
    connect(close, &QPushButton::clicked, strip_, &QWidget::hide);

    auto* left = left_ = new QVBoxLayout;
    left->setSpacing(0);
    left->addWidget(split, 1);
    left->addWidget(strip_);
    proofs_ = new ProofStrip(session_, centre);
    row->addWidget(proofs_);
    row->addLayout(left, 1);
    column_ = new CardColumn(session_, centre);
    row->addWidget(column_);
    rail_ = new FamilyRail(centre);
    row->addWidget(rail_);
    time_ = new TimeStrip(session_, centre);
    whole->addWidget(time_);
    setCentralWidget(centre);
    status_ = new StatusLine(session_, this);
    connect(&status_->checks(), &ChecksPanel::wanted, this, [this](const QString& id) { unfold(id.toStdString()); });
    buildMenu();
    nameCommands(*menuBar());

    connect(bench_, &Bench::pageShown, this, [this](const QString& name) {
        session_.readings().setWanted(name == "Planes" || name == "Sounding" || name == "Scopes", name == "Scopes");
    });
    // A new pin is sounded where one can see it.
    connect(&session_.readings(), &Readings::readingsChanged, parts_, [this, pins = std::size_t{0}]() mutable {
        if (session_.readings().pins().size() > pins)
            bench_->showPage("Sounding");
        pins = session_.readings().pins().size();
    });
    connect(bracket_, &BracketView::closed, this, &MainWindow::showPicture);
    connect(&session_, &Session::bracketWanted, parts_,
            [this](const QString& path) { showBracket(path.toStdString()); });
    connect(&session_.document(), &Document::projectReplaced, parts_, [this] { showPicture(); });
    connect(proofs_, &ProofStrip::opened, this, [this] { bench_->showPage("Proofs"); });
    connect(rail_, &FamilyRail::chosen, this, &MainWindow::chooseFamily);
    connect(column_, &CardColumn::familyShown, rail_, &FamilyRail::choose);
    connect(&session_, &Session::failed, parts_, [this](const QString& text) { tell(text); });
    connect(&session_, &Session::told, parts_, [this](const QString& text) { tell(text); });
    connect(&session_.document(), &Document::projectChanged, parts_, [this] {
        tellHistory();
        updateTitle();
    });
    connect(&session_.document(), &Document::fileChanged, parts_, [this] {
        updateTitle();
        fillRecent();
    });
    chooseFamily(scene::Family::Air);
}

void MainWindow::makeAnew()
{
    // What one looks at stays.
    showPicture();
    const scene::Family family = column_->family();
    const std::set<std::string> open = column_->open();
    const QString page = bench_->shownPage();
    const QList<int> sizes = split_->sizes();
    const bool aids = picture_->aids(), values = picture_->zoom().showsValues();
    delete parts_;
    guide_ = nullptr;  // goes with the rest
    status_ = nullptr; // goes with the menu's line
    delete takeCentralWidget();
    delete menuBar(); // at once: its keys are those of the new one
    setMenuBar(new QMenuBar(this));
    make();
    split_->setSizes(sizes);
    bench_->showPage(page);
    chooseFamily(family);
    for (const std::string& id : open)
        if (const scene::Element* e = session_.project().find(id); e && e->kind->family == family)
            unfold(id);
    for (const Command& c : commandsOf(*menuBar())) {
        if (c.id == "View/Aids over the picture")
            c.action->setChecked(aids);
        if (c.id == "View/Values of the pixel under the cursor")
            c.action->setChecked(values);
    }
    tellHistory();
}

void MainWindow::choose(const Choices& choices)
{
    const Choices before = Choices::now();
    choices.keep();
    apply(choices);
    session_.keepUpTo(choices.keptGb);
    session_.picture().setWantedSamples(choices.samples);
    if (choices.followsPaths != session_.picture().followsPaths())
        session_.picture().setFollowsPaths(choices.followsPaths);
    if (choices.light != Theme::isLight()) {
        Theme::useLight(choices.light);
        applyTheme();
        makeAnew();
    } else if (choices.units() != before.units()) {
        makeAnew();
    }
}

void MainWindow::showSetting(const std::string& element, const std::string& parameter)
{
    column_->showField(element, parameter);
}

MainWindow::~MainWindow()
{
    // Widgets go before what they speak to: one that loses the focus may have something to say.
    hide();
    qDeleteAll(findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly));
}

void MainWindow::chooseFamily(scene::Family family) { column_->showFamily(family); }

void MainWindow::unfold(const std::string& element)
{
    if (!column_->reveal(element))
        return;
    // Choosing a family makes its cards anew.
    if (Card* card = column_->reveal(element))
        card->setOpen(true);
    if (Card* card = column_->reveal(element))
        column_->scrollTo(card);
}

void MainWindow::showBracket(const std::string& path)
{
    stage_->setCurrentWidget(bracket_);
    bracket_->open(path);
}

void MainWindow::showPicture()
{
    if (stage_->currentWidget() == picture_)
        return;
    session_.bracket().end();
    if (stage_->currentWidget() != bracket_)
        stage_->currentWidget()->deleteLater(); // the first page
    stage_->setCurrentWidget(picture_);
    picture_->setFocus();
}

void MainWindow::tellHistory()
{
    const scene::History& history = session_.document().history();
    const auto named = [](const QString& what, const std::string& name) {
        return name.empty() ? what : QString("%1: %2").arg(what, QString::fromStdString(name));
    };
    undo_->setEnabled(history.canUndo());
    redo_->setEnabled(history.canRedo());
    undo_->setText(named(say("Undo"), history.undoName()));
    redo_->setText(named(say("Redo"), history.redoName()));
}

QString MainWindow::message() const { return strip_->isHidden() ? QString() : stripText_->text(); }

void MainWindow::tell(const QString& text)
{
    stripText_->setText(text);
    strip_->show();
}

void MainWindow::updateTitle()
{
    setWindowTitle(QString::fromStdString(session_.project().name) +
                   (session_.document().hasUnsavedChanges() ? say(" · changed") : "") + say(" — Hygros"));
}

bool MainWindow::mayLeave()
{
    if (!session_.document().hasUnsavedChanges())
        return true;
    QMessageBox ask(QMessageBox::Question, say("Unsaved changes"),
                    say("“%1” has changes that are not saved.").arg(QString::fromStdString(session_.project().name)),
                    QMessageBox::NoButton, this);
    QPushButton* save = ask.addButton(say("Save"), QMessageBox::AcceptRole);
    QPushButton* drop = ask.addButton(say("Drop the changes"), QMessageBox::DestructiveRole);
    ask.addButton(say("Stay"), QMessageBox::RejectRole);
    ask.exec();
    if (ask.clickedButton() == save)
        return saveProject();
    return ask.clickedButton() == drop;
}

void MainWindow::newProject()
{
    if (mayLeave())
        session_.newProject();
}

void MainWindow::openProject()
{
    if (!mayLeave())
        return;
    const QString f = QFileDialog::getOpenFileName(this, say("Open a project"),
                                                   QFileInfo(session_.document().file()).absolutePath(),
                                                   say("Hygros projects (*.hygros)"));
    if (!f.isEmpty())
        session_.open(f);
}

bool MainWindow::saveProjectAs()
{
    QString f = QFileDialog::getSaveFileName(this, say("Save the project"), session_.document().file(),
                                             say("Hygros projects (*.hygros)"));
    if (f.isEmpty())
        return false;
    if (!f.endsWith(".hygros"))
        f += ".hygros";
    return session_.document().save(f);
}

void MainWindow::saveRecipe()
{
    auto* dialog = new RecipeDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &RecipeDialog::saved, column_, &CardColumn::fillRecipes);
    dialog->open();
}

void MainWindow::importSet()
{
    const QString f = QFileDialog::getOpenFileName(this, say("Import a set"), {}, elements::geometryFiles);
    if (!f.isEmpty())
        session_.bring(*elements::findKind("set"), f);
}

void MainWindow::exportPicture()
{
    auto* dialog = new ExportDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

bool MainWindow::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::ShortcutOverride && watched->property("ownKeys").toBool())
        event->accept();
    return QMainWindow::eventFilter(watched, event);
}

void MainWindow::closeEvent(QCloseEvent* e)
{
    if (mayLeave())
        e->accept();
    else
        e->ignore();
}
} // namespace hygros::app
