/// Time in the window: the strip at its foot, keys on rulers, recording, playing, kept runs and what is written of
/// them.
#include "app/card.h"
#include "app/card_column.h"
#include "app/key_marks.h"
#include "app/lead_ruler.h"
#include "app/picture_view.h"
#include "app/stir_dialog.h"
#include "app/time_dialog.h"
#include "app/time_strip.h"
#include "window_support.h"

#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>
#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::app;

class TestTime : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    Session& session() { return window_->session(); }
    Document& document() { return session().document(); }
    TimeStrip* strip() { return window_->findChild<TimeStrip*>("timeStrip"); }
    LeadRuler* ruler(const char* parameter)
    {
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        for (LeadRuler* r : window_->findChildren<LeadRuler*>())
            if (r->isVisible() && r->property("parameter").toString() == parameter)
                return r;
        return nullptr;
    }
    const scene::Track* track(const char* parameter) { return document().project().find("haze")->track(parameter); }
    double visibility() { return std::get<double>(document().project().find("haze")->value("visibility")); }
    /// The place of a frame on the strip.
    QPoint at(double frame, int y = 8) { return {int(std::lround(strip()->xOf(frame))), y}; }
    void key(Qt::Key k, Qt::KeyboardModifiers m) { QTest::keyClick(window_.get(), k, m); }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 640);
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("haze"), "Haze");
        p.time.last = 50;
        document().replace(p, {});
        window_->chooseFamily(scene::Family::Air);
        session().picture().setWantedSamples(2);
        QTRY_VERIFY(strip() && ruler("visibility"));
    }
    void cleanup() { window_.reset(); }

    void scrubbingShowsFramesAndIsNoEdit()
    {
        QTest::mousePress(strip(), Qt::LeftButton, {}, at(10));
        QCOMPARE(document().frame(), 10);
        QTest::mouseMove(strip(), at(23));
        QTest::mouseMove(strip(), at(37));
        QTest::mouseRelease(strip(), Qt::LeftButton, {}, at(37));
        QCOMPARE(document().frame(), 37);
        QVERIFY(!document().history().canUndo());
        QTRY_COMPARE_WITH_TIMEOUT(session().picture().state().frame, 37, 60000);
        auto* typed = window_->findChild<QSpinBox*>("frame");
        typed->setFocus();
        typed->selectAll();
        QTest::keyClicks(typed, "-12");
        QTest::keyClick(typed, Qt::Key_Return);
        QCOMPARE(document().frame(), -12);
        key(Qt::Key_Right, Qt::ControlModifier);
        QCOMPARE(document().frame(), -11);
        key(Qt::Key_Right, Qt::ControlModifier | Qt::AltModifier);
        QCOMPARE(document().frame(), 50);
        key(Qt::Key_Left, Qt::ControlModifier | Qt::AltModifier);
        QCOMPARE(document().frame(), 1);
    }

    void theEndsOfTheRangeAreDragged()
    {
        test::drag(*strip(), at(50, 30), at(40, 30));
        QCOMPARE(document().project().time.last, 40);
        test::drag(*strip(), at(1, 30), at(6, 30));
        QCOMPARE(document().project().time.first, 6);
        document().undo();
        QCOMPARE(document().project().time.first, 1);
        document().undo();
        QCOMPARE(document().project().time.last, 50);
        // The wheel looks closer about the pointer.
        const double before = strip()->xOf(30) - strip()->xOf(29), under = strip()->frameAt(at(30).x());
        QWheelEvent wheel(at(30), strip()->mapToGlobal(at(30)), {}, {0, 240}, Qt::NoButton, Qt::NoModifier,
                          Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(strip(), &wheel);
        QVERIFY(strip()->xOf(30) - strip()->xOf(29) > 1.4 * before);
        QVERIFY(std::abs(strip()->frameAt(at(30).x()) - under) < 1.0);
    }

    void aKeyIsSetAndRemovedOnARuler()
    {
        LeadRuler* r = ruler("visibility");
        r->setFocus();
        QTest::keyClick(r, Qt::Key_K);
        QVERIFY(track("visibility") && track("visibility")->at(1));
        document().setFrame(20);
        const double before = visibility();
        // What is keyed takes a key wherever it is changed.
        test::drag(*r, {r->width() * 0.2, 34}, {r->width() * 0.3, 34});
        QVERIFY(visibility() != before);
        QCOMPARE(track("visibility")->keys.size(), std::size_t(2));
        const double there = visibility();
        document().setFrame(1);
        QCOMPARE(r->value(), before);
        document().setFrame(10);
        QVERIFY(r->value() > std::min(before, there) && r->value() < std::max(before, there));
        // From key to key.
        session().selection().setSelected("haze");
        key(Qt::Key_Right, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(document().frame(), 20);
        key(Qt::Key_Left, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(document().frame(), 1);
        r->setFocus();
        QTest::keyClick(r, Qt::Key_K, Qt::ShiftModifier);
        QCOMPARE(track("visibility")->keys.size(), std::size_t(1));
        document().setFrame(20);
        QTest::keyClick(r, Qt::Key_K, Qt::ShiftModifier);
        QVERIFY(!track("visibility"));
        QCOMPARE(visibility(), there); // the last one leaves its value
        for (int i = 0; i < 4; ++i)
            document().undo();
        QVERIFY(!track("visibility"));
        QCOMPARE(visibility(), before);
    }

    void recordedDragsMakeKeysAndAllIsUndone()
    {
        const std::string start = scene::toJson(document().whole());
        QVERIFY(test::pressButton(*window_, "record"));
        QVERIFY(document().isRecording());
        document().setFrame(30);
        LeadRuler* r = ruler("thinning");
        QVERIFY(r);
        const double before = r->value();
        test::drag(*r, {r->width() * 0.4, 34}, {r->width() * 0.5, 34});
        const scene::Track* t = track("thinning");
        QVERIFY(t);
        QCOMPARE(t->keys.size(), std::size_t(2));
        QCOMPARE(t->keys[0].frame, 1.0);
        QCOMPARE(std::get<double>(t->keys[0].value), before);
        QCOMPARE(std::get<double>(t->keys[1].value), r->value());
        key(Qt::Key_F9, {});
        QVERIFY(!document().isRecording());
        // Saved and read it is the same; undone it is as at first.
        const QTemporaryDir dir;
        const QString file = dir.filePath("recorded.hygros");
        scene::saveProject(document().whole(), file.toStdString());
        const scene::Project back = scene::loadProject(file.toStdString(), elements::findKind);
        QVERIFY(*back.find("haze")->track("thinning") == *t);
        QCOMPARE(back.frame, 30.0);
        document().undo();
        QVERIFY(!document().history().canUndo());
        document().setFrame(1);
        QCOMPARE(scene::toJson(document().whole()), start);
    }

    void whatIsChosenTogetherIsKeyedTogether()
    {
        document().edit("Add", [](scene::Project& p) { p.add(*elements::findKind("haze"), "Second"); });
        session().selection().setChosen({"haze", "second"});
        LeadRuler* r = nullptr;
        QTRY_VERIFY((r = ruler("visibility")));
        r->setFocus();
        QTest::keyClick(r, Qt::Key_K);
        document().setFrame(25);
        QTest::keyClick(r, Qt::Key_Right);
        for (const char* id : {"haze", "second"}) {
            const scene::Track* t = document().project().find(id)->track("visibility");
            QVERIFY(t);
            QCOMPARE(t->keys.size(), std::size_t(2));
            QVERIFY(!(t->keys[0].value == t->keys[1].value));
        }
        // A double has its own; taken away with its element it is gone from the strip.
        session().arranger().duplicate({"second"});
        QCOMPARE(document().project().elements.back().track("visibility")->keys.size(), std::size_t(2));
        // Copied as text it comes with its keys into another project.
        session().arranger().copy({"second"});
        document().replace(elements::newProject(), {});
        session().arranger().paste();
        QVERIFY(document().project().find("second"));
        QCOMPARE(document().project().find("second")->track("visibility")->keys[1].frame, 25.0);
    }

    void aFieldsMenuHasItsKeysAndTheirWays()
    {
        Card* card = window_->column().reveal("haze");
        const scene::Parameter* p = scene::findParameter(card->now().kind->parameters, "visibility");
        const auto choose = [&](const QString& text) {
            QMenu menu;
            addKeyActions(menu, *card, *p);
            QList<QAction*> all = menu.actions();
            for (QAction* a : menu.actions())
                if (a->menu())
                    all += a->menu()->actions();
            for (QAction* a : all)
                if (a->text().contains(text)) {
                    a->trigger();
                    return true;
                }
            return false;
        };
        QVERIFY(!choose("Remove all its keys"));
        QVERIFY(choose("Set a key at frame 1"));
        document().setFrame(11);
        document().setValue("haze", "visibility", 500.0);
        QCOMPARE(track("visibility")->keys.size(), std::size_t(2));
        document().setFrame(6);
        QVERIFY(choose("From here on evenly"));
        QCOMPARE(track("visibility")->keys[0].way, scene::Way::Linear);
        QCOMPARE(visibility(), 1500.0);
        QVERIFY(choose("From here on in a step"));
        QCOMPARE(visibility(), 2500.0);
        QVERIFY(choose("Before and after them: repeat"));
        document().setFrame(31);
        QCOMPARE(visibility(), 2500.0);
        QVERIFY(choose("Frame 11: 500 m")); // goes there
        QCOMPARE(document().frame(), 11);
        QVERIFY(choose("Remove its key at frame 11"));
        QCOMPARE(track("visibility")->keys.size(), std::size_t(1));
        QVERIFY(choose("Remove all its keys"));
        QVERIFY(!track("visibility"));
        while (document().history().canUndo())
            document().undo();
        QCOMPARE(visibility(), 2500.0);
    }

    void theWindowClosesWhileARulerHasTheFocus()
    {
        ruler("visibility")->setFocus();
        QTest::keyClick(ruler("visibility"), Qt::Key_K);
        window_.reset(); // what loses the focus speaks to what is still there
        init();
    }

    void aRunThatIsCancelledKeepsWhatItHas()
    {
        KeptRun& run = session().keptRun();
        run.draw(1);
        QVERIFY(run.isDrawing());
        QTRY_VERIFY_WITH_TIMEOUT(run.bytes() > 0, 60000);
        run.cancel();
        QTRY_VERIFY_WITH_TIMEOUT(!run.isDrawing(), 60000);
        QVERIFY(!run.isWhole());
        QTRY_VERIFY(run.state(1) == KeptRun::State::There && run.state(50) == KeptRun::State::Missing);
        // Nothing is written of what is not whole, or to a name that says no kind.
        const QTemporaryDir dir;
        run.write(dir.filePath("fog.mp4"));
        QVERIFY(window_->message().contains("draw them first"));
        QVERIFY(QDir(dir.path()).isEmpty());
        run.clear();
        QCOMPARE(run.bytes(), std::size_t(0));
    }

    void framesRateAndLoopAreTyped()
    {
        strip()->askTime();
        auto* dialog = window_->findChild<TimeDialog*>("time");
        QVERIFY(dialog);
        const auto type = [&](const char* name, const QString& text) {
            auto* field = dialog->findChild<QLineEdit*>(name);
            field->selectAll();
            QTest::keyClicks(field, text);
        };
        type("last", "-5");
        QTest::mouseClick(dialog->findChild<QPushButton*>("take"), Qt::LeftButton);
        QVERIFY(dialog->isVisible());
        QVERIFY(dialog->findChild<QLabel*>("note")->text().contains("must not come before"));
        type("rate", "0");
        type("last", "120");
        QTest::mouseClick(dialog->findChild<QPushButton*>("take"), Qt::LeftButton);
        QVERIFY(dialog->findChild<QLabel*>("note")->text().contains("1 to 1000"));
        type("rate", "23.976");
        type("loop", "4 s");
        QTest::mouseClick(dialog->findChild<QPushButton*>("take"), Qt::LeftButton);
        const scene::TimeSettings t = document().project().time;
        QCOMPARE(t.last, 120);
        QVERIFY((t.rate == scene::Rate{24000, 1001}));
        QCOMPARE(t.loop, 4.0);
        document().undo();
        QCOMPARE(document().project().time.last, 50);
    }

    void aStirIsLaidOverAValue()
    {
        const scene::Parameter* p = scene::findParameter(document().project().find("haze")->kind->parameters,
                                                         "thinning");
        StirDialog dialog(document(), "haze", *p);
        dialog.show();
        auto* add = dialog.findChild<QPushButton*>("addStir");
        add->menu()->actions().first()->trigger(); // a sway
        QVERIFY(dialog.findChild<QLineEdit*>("amount0"));
        const auto type = [&](const char* name, const QString& text) {
            auto* field = dialog.findChild<QLineEdit*>(name);
            field->selectAll();
            QTest::keyClicks(field, text);
        };
        type("amount0", "20 m");
        type("rough0", "300 %");
        QVERIFY(!dialog.findChild<QLabel*>("note")->text().isEmpty());
        QTest::mouseClick(dialog.findChild<QPushButton*>("take"), Qt::LeftButton);
        QVERIFY(dialog.isVisible()); // what is not understood is not taken
        type("rough0", "50 %");
        QTest::mouseClick(dialog.findChild<QPushButton*>("take"), Qt::LeftButton);
        QVERIFY(track("thinning"));
        QCOMPARE(track("thinning")->stirs[0].rough, 0.5);
        double least = 1e9, most = 0.0;
        for (int f = 1; f <= 50; ++f) {
            document().setFrame(f);
            least = std::min(least, ruler("thinning")->value());
            most = std::max(most, ruler("thinning")->value());
        }
        QVERIFY(most - least > 5.0 && most - least <= 40.0);
        document().undo();
        QVERIFY(!track("thinning"));
    }

    void playingGoesRoundAsPicturesCome()
    {
        scene::TimeSettings t = document().project().time;
        t.last = 4;
        document().setTime(t, "Frames");
        std::set<int> seen;
        connect(&document(), &Document::frameChanged, &document(), [&] { seen.insert(document().frame()); });
        QVERIFY(test::pressButton(*window_, "play"));
        QVERIFY(session().player().state() == Player::State::Computed);
        QTRY_VERIFY_WITH_TIMEOUT(seen == (std::set<int>{1, 2, 3, 4}), 60000);
        key(Qt::Key_F6, {});
        QVERIFY(session().player().state() == Player::State::Still);
        const int stood = document().frame();
        QTest::qWait(300);
        QCOMPARE(document().frame(), stood);
    }

    void keptPicturesPlayAtTheTrueRateAndAreWritten()
    {
        scene::TimeSettings t = document().project().time;
        t.last = 6;
        t.rate = {20, 1};
        document().setTime(t, "Frames");
        LeadRuler* r = ruler("visibility");
        r->setFocus();
        QTest::keyClick(r, Qt::Key_K);
        document().setFrame(6);
        QTest::keyClick(r, Qt::Key_Right);
        KeptRun& run = session().keptRun();
        QVERIFY(!run.isWhole());
        run.draw(1);
        QTRY_VERIFY_WITH_TIMEOUT(!run.isDrawing(), 240000);
        QTRY_VERIFY_WITH_TIMEOUT(run.isWhole(), 10000);
        QVERIFY(!run.image(3).isNull() && run.bytes() > 0);
        QVERIFY(test::pressButton(*window_, "play"));
        QVERIFY(session().player().state() == Player::State::Kept);
        QElapsedTimer clock;
        int shown = 0, last = document().frame();
        qint64 from = 0;
        bool inOrder = true;
        const auto counting = connect(&document(), &Document::frameChanged, &document(), [&] {
            if (shown++ == 0) {
                clock.start();
                from = 0;
            }
            from = clock.elapsed();
            inOrder = inOrder && document().frame() >= 1 && document().frame() <= 6 && document().frame() != last;
            last = document().frame();
        });
        // What the Picture draws by itself, nobody touching anything.
        struct Paints : QObject {
            Document* document;
            int frames = 0, last = -1;
            bool eventFilter(QObject*, QEvent* e) override
            {
                if (e->type() == QEvent::Paint && std::exchange(last, document->frame()) != document->frame())
                    ++frames;
                return false;
            }
        } paints;
        paints.document = &document();
        window_->picture().installEventFilter(&paints);
        QTest::qWait(2300);
        disconnect(counting);
        window_->picture().removeEventFilter(&paints);
        QVERIFY2(paints.frames >= shown - 3 && paints.frames >= 18,
                 qPrintable(QString("%1 drawn of %2").arg(paints.frames).arg(shown)));
        QVERIFY(inOrder);
        // Frames that a busy machine leaves out are left out, not late: count what the clock says went by.
        QVERIFY2(shown >= 20 && shown <= 47, qPrintable(QString::number(shown)));
        QVERIFY(session().player().shown() == run.image(document().frame()));
        session().player().stop();
        // An edit makes what it touches untrue, and undoing it true again.
        document().setFrame(1);
        document().setValue("haze", "thinning", 50.0);
        QTRY_VERIFY_WITH_TIMEOUT(run.state(3) == KeptRun::State::Stale, 5000);
        QVERIFY(run.image(3).isNull());
        document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(run.isWhole(), 5000);
        // On disk.
        const QTemporaryDir dir;
        run.write(dir.filePath("fog.####.png"));
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 20000);
        QCOMPARE(QDir(dir.path()).entryList({"*.png"}).size(), 6);
        QCOMPARE(QImage(dir.filePath("fog.0003.png")).convertToFormat(QImage::Format_RGB32), run.image(3));
        if (QStandardPaths::findExecutable("ffmpeg").isEmpty())
            QSKIP("without ffmpeg no movie is written");
        const QString movie = dir.filePath("fog.mp4");
        run.write(movie);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 60000);
        QVERIFY2(QFile::exists(movie), qPrintable(window_->message()));
        QProcess probe;
        probe.start("ffprobe", {"-v", "error", "-count_frames", "-show_entries", "stream=nb_read_frames,r_frame_rate",
                                "-of", "csv=p=0", movie});
        QVERIFY(probe.waitForFinished());
        QCOMPARE(QString(probe.readAllStandardOutput()).trimmed(), QString("20/1,6"));
        QCOMPARE(QDir(dir.path()).entryList({"*part*"}, QDir::Files | QDir::Hidden).size(), 0);
    }
};

QTEST_MAIN(TestTime)
#include "test_time.moc"
