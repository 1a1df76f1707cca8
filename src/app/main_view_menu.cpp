/// The menus of what is looked at, and of time.
#include "app/bench.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "app/sounding_view.h"
#include "app/theme.h"
#include "app/time_strip.h"
#include "app/words.h"
#include "elements/bake.h"

#include <QActionGroup>
#include <QMenuBar>

namespace hygros::app {

void MainWindow::buildViewMenu()
{
    QMenu* view = menuBar()->addMenu(say("View"));
    view->addAction(say("Back to the shot"), QKeySequence("Home"), picture_, &PictureView::returnToShot);
    view->addAction(say("Make this the shot"), QKeySequence("Ctrl+Home"), picture_, &PictureView::takeAsShot);
    view->addSeparator();
    for (const int times : {0, 1, 2, 4})
        view->addAction(times == 0 ? say("Fit the whole picture") : say("Pixels %1:1").arg(times),
                        QKeySequence(QString("Ctrl+%1").arg(times)), this,
                        [this, times] { picture_->zoom().set(times); });
    QMenu* fineness = view->addMenu(say("Size that is drawn"));
    auto* finenesses = new QActionGroup(fineness);
    for (const int n : PictureZoom::finenesses) {
        QAction* a = fineness->addAction(PictureZoom::finenessName(n), this,
                                         [this, n] { session_.picture().setFineness(n); });
        a->setCheckable(true);
        finenesses->addAction(a);
        connect(fineness, &QMenu::aboutToShow, a, [this, a, n] { a->setChecked(session_.picture().fineness() == n); });
    }
    view->addAction(say("Draw a region alone"), QKeySequence("Ctrl+R"), this, [this] {
        showPicture();
        session_.selection().begin({Selection::Task::DrawRegion, {}});
    });
    view->addAction(say("Why is it dark or bright here?"), QKeySequence("F12"), this, [this] {
        showPicture();
        bench_->showPage("Sounding");
        sounding_->setWhy(true);
        if (session_.readings().chosenPin() < 0)
            tell(say("Click in the Picture: what gives that place light, and what takes it, is then listed below."));
    });
    QAction* values = view->addAction(say("Values of the pixel under the cursor"));
    values->setCheckable(true);
    values->setShortcut(QKeySequence("F11"));
    connect(values, &QAction::toggled, this, [this](bool on) { picture_->zoom().setShowsValues(on); });
    view->addSeparator();
    QAction* aids = view->addAction(say("Aids over the picture"));
    aids->setCheckable(true);
    aids->setChecked(true);
    aids->setShortcut(QKeySequence("F8"));
    connect(aids, &QAction::toggled, picture_, &PictureView::setAids);
    QMenu* study = view->addMenu(say("Value study"));
    auto* tones = new QActionGroup(study);
    for (const int n : {0, 3, 4, 5, 6, 7}) {
        QAction* a = study->addAction(n == 0 ? say("Off: the picture as it is") : say("%1 tones").arg(n), this,
                                      [this, n] { session_.picture().setValueStudy(n); });
        a->setCheckable(true);
        a->setChecked(n == 0);
        tones->addAction(a);
    }
    QMenu* reference = view->addMenu(say("Reference picture"));
    auto* goals = new QActionGroup(reference);
    for (const double noise : {0.05, 0.02, 0.01, 0.005}) {
        QAction* a = reference->addAction(say("Ends under %1 % noise").arg(noise * 100.0), this, [this, noise] {
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
            share == 0 ? say("As measured, not denoised") : say("Denoised by %1 %").arg(share), this, [this, share] {
                session_.reference().setGoal(session_.reference().noise(), static_cast<float>(share) / 100.f);
            });
        a->setCheckable(true);
        a->setChecked(share == 100);
        shares->addAction(a);
    }
    view->addAction(say("Live, both or reference"), QKeySequence("F7"), this, [this] {
        session_.reference().setShown(
            static_cast<Reference::Shown>((static_cast<int>(session_.reference().shown()) + 1) % 3));
    });
    QAction* paths = view->addAction(say("Hold the live picture to paths"));
    paths->setCheckable(true);
    paths->setChecked(session_.picture().followsPaths());
    connect(paths, &QAction::toggled, &session_.picture(), &Picture::setFollowsPaths);
    QAction* light = view->addAction(say("Light window"));
    light->setCheckable(true);
    light->setChecked(Theme::isLight());
    connect(
        light, &QAction::toggled, this,
        [this](bool on) {
            Choices c = Choices::now();
            c.light = on;
            choose(c);
        },
        Qt::QueuedConnection); // the menu itself is made anew
}

void MainWindow::buildTimeMenu()
{
    QMenu* time = menuBar()->addMenu(say("Time"));
    time->addAction(say("Play or stop"), QKeySequence("F6"), &session_.player(), &Player::toggle);
    time->addAction(say("One frame on"), QKeySequence("Ctrl+Right"), this, [this] { time_->step(1); });
    time->addAction(say("One frame back"), QKeySequence("Ctrl+Left"), this, [this] { time_->step(-1); });
    time->addAction(say("Next key"), QKeySequence("Ctrl+Shift+Right"), this, [this] { time_->toKey(true); });
    time->addAction(say("Former key"), QKeySequence("Ctrl+Shift+Left"), this, [this] { time_->toKey(false); });
    time->addAction(say("First frame"), QKeySequence("Ctrl+Alt+Left"), this, [this] { time_->toEnd(false); });
    time->addAction(say("Last frame"), QKeySequence("Ctrl+Alt+Right"), this, [this] { time_->toEnd(true); });
    time->addSeparator();
    QAction* record = time->addAction(say("Record changes as keys"));
    record->setCheckable(true);
    record->setShortcut(QKeySequence("F9"));
    connect(record, &QAction::toggled, &session_.document(), &Document::setRecording);
    connect(&session_.document(), &Document::recordingChanged, record,
            [this, record] { record->setChecked(session_.document().isRecording()); });
    time->addAction(say("Keep the run as pictures"), this, [this] { session_.keptRun().draw(8); });
    time->addAction(say("Write the kept run…"), this, [this] { time_->writeRun(); });
    time->addAction(say("Bake all that is not fresh"), this, [this] {
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
    time->addAction(say("Bake or stop"), QKeySequence("F10"), this, [this, chosenOrAll] {
        for (const std::string& id : chosenOrAll())
            session_.baker().isBaking(id) ? session_.baker().cancel(id) : session_.baker().bake(id);
    });
    time->addAction(say("Bake again from the start"), QKeySequence("Ctrl+F10"), this, [this, chosenOrAll] {
        for (const std::string& id : chosenOrAll())
            session_.baker().again(id);
    });
    time->addAction(say("Baked frames…"), this, [this] { time_->showBaked(); });
    time->addAction(say("Frames, rate and shutter…"), this, [this] { time_->askTime(); });
}
} // namespace hygros::app
