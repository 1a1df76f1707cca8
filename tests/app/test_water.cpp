/// Water by hand: a pool by a click, a boat's wake, wind by its ruler, surfaces on disk.
#include "app/add_place.h"
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/edged_label.h"
#include "app/lead_ruler.h"
#include "app/main_window.h"
#include "app/motion_view.h"
#include "app/picture_view.h"
#include "app/waves_drawing.h"
#include "media/open_water.h"
#include "window_support.h"

#include <QProcess>
#include <QToolButton>

using namespace hygros;
using namespace hygros::app;

class TestWater : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    PictureView& picture() { return window_->picture(); }
    const scene::Element& element(const std::string& id) { return *session().project().find(id); }
    bool settle() { return test::settle(session()); }
    bool press(const char* name) { return test::pressButton(*window_, name); }
    QImage image() { return session().picture().state().image; }
    std::shared_ptr<const shot::Shot> shot() { return session().picture().shot(); }
    bool isTold(const QString& words) { return test::isTold(*window_, words); }
    QPoint pixelOf(const Vec3& world) { return test::pixelOf(session(), picture(), world); }
    std::string add(const char* kind)
    {
        test::menuAction(*window_, "Add", kind)->trigger();
        return session().project().elements.back().id;
    }
    float highest() { return shot()->waters.empty() ? -1.f : shot()->waters[0].surface->highest(); }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 640);
        session().picture().setWantedSamples(1);
        window_->show();
        session().newProject();
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/weir.glb");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QTRY_VERIFY(session().project().find("weir"));
        session().document().setValue("shot", "position", Vec3(1.f, 3.f, 4.f));
        session().document().setValue("shot", "aim", Vec3(2.f, 0.f, -12.f));
        QVERIFY(settle());
    }
    void cleanup() { window_.reset(); }

    void recipesOfWaterComeAndGo()
    {
        const QImage bare = image();
        const std::size_t before = session().project().elements.size();
        for (const char* recipe : {"Still pond", "Lake in a breeze", "Long swell, no wind", "Open sea"}) {
            QVERIFY2(test::take(session(), recipe), recipe);
            QVERIFY(session().project().elements.size() > before);
            QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->waters.empty(), 60000);
            QVERIFY(settle());
            QVERIFY2(image() != bare, recipe);
            // It is told of nothing amiss.
            for (const scene::Element& e : session().project().elements)
                for (const shot::Note& n : shot()->notes)
                    QVERIFY2(n.element != e.id || !n.isTrouble || !n.check.empty(), n.text.c_str());
            session().document().undo();
            QCOMPARE(session().project().elements.size(), before);
            QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->waters.empty(), 60000);
        }
        QVERIFY(settle());
        QCOMPARE(image(), bare);
        // In the list they stand under their family's name, and are found by it.
        test::menuAction(*window_, "Add", "Search everything")->trigger();
        auto* place = window_->findChild<AddPlace*>("addPlace");
        QVERIFY(place);
        const auto heads = [&] {
            QStringList shown;
            for (auto* label : place->findChildren<EdgedLabel*>())
                if (label->isVisible() && label->text() != "Own" &&
                    label->parent() == place->findChild<QToolButton*>("recipe:Open sea")->parent())
                    shown << label->text();
            return shown;
        };
        QTRY_COMPARE(heads().join(" "), QString("Recipes, as they would look here Air Fire Weather Water"));
        QTest::keyClicks(place->findChild<QLineEdit*>(), "water waves");
        QTRY_COMPARE(heads().join(" "), QString("Recipes, as they would look here Water"));
        QVERIFY(!place->findChild<QToolButton*>("recipe:Candle")->isVisible());
        place->close();
    }

    void aPoolIsSetDownByAClick()
    {
        const QImage bare = image();
        const std::string id = add("Pool");
        session().document().setValue(id, "depth", 1.7);
        window_->unfold(id);
        QVERIFY(settle());
        QVERIFY(press("do:placeWater"));
        QCOMPARE(session().selection().task().what, Selection::Task::PlaceWater);
        const QPoint bed = pixelOf(Vec3(2.5f, -1.8f, -9.f));
        QVERIFY(!bed.isNull());
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, bed);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        const Vec3 place = std::get<Vec3>(element(id).value("position"));
        QVERIFY2(std::abs(place.y + 1.8f) < 0.1f, qPrintable(QString::number(place.y)));
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->waters.empty(), 60000);
        QVERIFY(settle());
        QVERIFY(image() != bare);
        QTRY_VERIFY(isTold("It covers"));
        // Higher than its banks it runs out, and that is said.
        session().document().setValue(id, "depth", 6.0);
        QTRY_VERIFY_WITH_TIMEOUT(isTold("the water would run out"), 60000);
        session().document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->waters.empty(), 60000);
        // Undone to the beginning the picture is what it was.
        session().document().undo(); // the click
        session().document().undo(); // the depth
        session().document().undo(); // the element
        QVERIFY(!session().project().find(id));
        QVERIFY(settle());
        QCOMPARE(image(), bare);
    }

    void openWaterStandsAtTheLineThatIsClicked()
    {
        const std::string id = add("Open water");
        window_->unfold(id);
        QVERIFY(settle());
        QVERIFY(press("do:placeWater"));
        const QPoint bank = pixelOf(Vec3(-2.9f, 0.5f, -16.f));
        QVERIFY(!bank.isNull());
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, bank);
        const double level = std::get<double>(element(id).value("level"));
        QVERIFY2(level > -0.6 && level < 0.8 && level != 0.0, qPrintable(QString::number(level)));
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->waters.empty() &&
                                     std::abs(double(shot()->waters[0].surface->level()) - level) < 1e-4,
                                 60000);
        QTRY_VERIFY(isTold("significant height"));
        // Its family has a place of its own.
        QTest::mouseClick(window_->findChild<QToolButton*>("family:Water"), Qt::LeftButton);
        QVERIFY(window_->column().reveal(id));
    }

    void windIsDraggedAndWavesAnswer()
    {
        const std::string id = add("Open water");
        session().document().setValue(id, "level", 0.0);
        session().document().setValue(id, "speed", 2.0);
        window_->unfold(id);
        QVERIFY(settle());
        const float low = highest();
        const QImage before = image();
        // Its ruler, where the card has it in the open.
        LeadRuler* wind = nullptr;
        for (auto* r : window_->column().reveal(id)->findChildren<LeadRuler*>("speed"))
            wind = r->isVisible() ? r : wind;
        QVERIFY(wind);
        const double y = 0.75 * wind->height();
        test::drag(*wind, QPointF(0.15 * wind->width(), y), QPointF(0.6 * wind->width(), y));
        QVERIFY(std::get<double>(element(id).value("speed")) > 4.0);
        QTRY_VERIFY_WITH_TIMEOUT(highest() > 1.5f * low, 60000);
        QVERIFY(settle());
        QVERIFY(image() != before);
        session().document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(highest() - low) < 1e-6f, 60000);
    }

    void theSpectrumIsHeldByItsTipItsEdgeAndItsPeak()
    {
        const std::string id = add("Open water");
        session().document().setValue(id, "speed", 8.0);
        session().document().setValue(id, "heading", 90.0);
        window_->unfold(id);
        QVERIFY(settle());
        const auto value = [&](const char* what) { return std::get<double>(element(id).value(what)); };
        auto* waves = window_->column().reveal(id)->findChild<WavesDrawing*>();
        QVERIFY(waves && !waves->tip().isNull() && !waves->edge().isNull() && !waves->peak().isNull());
        // The wind is turned by its tip, about the middle of the rose: from +X to +Z.
        const QPointF tip = waves->tip();
        test::drag(*waves, tip, QPointF(66.0, tip.y() + (tip.x() - 66.0)));
        QVERIFY2(std::abs(value("heading") - 180.0) < 4.0, qPrintable(QString::number(value("heading"))));
        session().document().undo();
        NEAR(value("heading"), 90.0, 1e-9);
        // Its edge toward the wind's way: waves hold closer to it.
        const QPointF edge = waves->edge();
        test::drag(*waves, edge, QPointF(edge.x() + 3.0, 0.5 * (edge.y() + 66.0)));
        QVERIFY2(value("narrow") > 1.3, qPrintable(QString::number(value("narrow"))));
        session().document().undo();
        NEAR(value("narrow"), 1.0, 1e-9);
        // Longer waves are those of more wind.
        const float low = highest();
        const QPointF peak = waves->peak();
        test::drag(*waves, peak, peak + QPointF(18.0, 0.0));
        QVERIFY2(value("speed") > 10.0, qPrintable(QString::number(value("speed"))));
        QTRY_VERIFY_WITH_TIMEOUT(highest() > 1.2f * low, 60000);
        session().document().undo();
        NEAR(value("speed"), 8.0, 1e-9);
        // By a Wind's own it can only be held closer to its way.
        const std::string wind = add("Wind");
        session().document().setValue(id, "wind", wind);
        window_->unfold(id);
        QVERIFY(settle());
        waves = window_->column().reveal(id)->findChild<WavesDrawing*>();
        QVERIFY(waves && waves->tip().isNull() && !waves->edge().isNull());
    }

    void aBoatIsPutAfloatAndABuoyMeasures()
    {
        const std::string sea = add("Open water");
        session().document().setValue(sea, "level", 0.0);
        session().document().setValue(sea, "speed", 9.0);
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/tender.glb");
        QTRY_VERIFY_WITH_TIMEOUT(session().project().find("tender"), 30000);
        session().document().setValue("tender", "position", Vec3(2.5f, 0.f, -8.f));
        session().document().edit("Time", [](scene::Project& p) { p.time.last = 60; });
        window_->unfold("tender");
        QVERIFY(settle());
        const QImage still = image();
        session().document().setValue("tender", "floats", true);
        QVERIFY(settle());
        QTRY_VERIFY(isTold("It floats") && isTold("rolls in"));
        QVERIFY(image() != still);
        // Another frame, another wave under it.
        const QImage first = image();
        session().document().setFrame(20);
        QVERIFY(settle());
        QVERIFY(image() != first);
        session().document().setFrame(1);
        QVERIFY(settle());
        QCOMPARE(image(), first);
        // The buoy's curve: every frame, at once, and another where the wind is another.
        const std::string buoy = add("Buoy");
        window_->findChild<Bench*>()->showPage("Motion");
        session().selection().setSelected(buoy);
        auto& motion = *window_->findChild<MotionView*>();
        QVERIFY(motion.probe().isOn());
        QTRY_COMPARE_WITH_TIMEOUT(int(motion.probe().values().size()), 60, 30000);
        const double before = motion.probe().values().at(30);
        QTRY_VERIFY_WITH_TIMEOUT(isTold("the spectrum says"), 30000);
        session().document().setValue(sea, "speed", 14.0);
        QTRY_VERIFY_WITH_TIMEOUT(motion.probe().values().size() == 60 && motion.probe().values().at(30) != before,
                                 30000);
        session().document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(motion.probe().values().size() == 60 && motion.probe().values().at(30) == before,
                                 30000);
        session().selection().setSelected(sea);
        QVERIFY(!motion.probe().isOn());
    }

    void fromUnderTheWaterOneSeesItToo()
    {
        const std::string pool = add("Pool");
        session().document().setValue(pool, "position", Vec3(2.5f, -1.8f, -20.f));
        session().document().setValue(pool, "depth", 1.8);
        session().document().setValue(pool, "type", std::string("clear"));
        QVERIFY(settle());
        const QImage above = image();
        session().document().setValue("shot", "position", Vec3(2.f, -0.9f, -3.f));
        session().document().setValue("shot", "aim", Vec3(2.f, -0.9f, -12.f));
        window_->unfold(pool);
        QVERIFY(settle());
        QTRY_VERIFY(isTold("The camera is under it"));
        // Lit, and bluer than red: water takes red first.
        const QImage under = image();
        QVERIFY(under != above);
        long red = 0, blue = 0;
        for (int y = 0; y < under.height(); y += 3)
            for (int x = 0; x < under.width(); x += 3) {
                red += qRed(under.pixel(x, y));
                blue += qBlue(under.pixel(x, y));
            }
        QVERIFY2(blue > red && blue > 0, qPrintable(QString("%1 %2").arg(red).arg(blue)));
        // Peat is dark at once.
        session().document().setValue(pool, "type", std::string("peat"));
        QVERIFY(settle());
        long dark = 0;
        for (int y = 0; y < under.height(); y += 3)
            for (int x = 0; x < under.width(); x += 3)
                dark += qBlue(image().pixel(x, y));
        QVERIFY(dark < blue);
    }

    void aBoatMakesItsWakeAndTheSurfaceGoesOut()
    {
        const std::string pool = add("Pool");
        session().document().setValue(pool, "position", Vec3(2.5f, -1.8f, -20.f));
        session().document().setValue(pool, "depth", 1.8);
        session().document().setValue(pool, "speed", 0.0);
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/tender.glb");
        QTRY_VERIFY_WITH_TIMEOUT(session().project().find("tender"), 30000);
        session().document().edit("Time", [](scene::Project& p) { p.time.last = 60; });
        // Two keys along the canal.
        session().document().edit("Boat", [](scene::Project& p) {
            scene::Track track;
            track.keys = {{1.0, Vec3(2.5f, 0.f, -4.f)}, {60.0, Vec3(2.5f, 0.f, -9.f)}};
            p.find("tender")->motion.put("position", track);
        });
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(highest()) < 1e-5f, 60000); // at the first frame it is still at rest
        QVERIFY(settle());
        session().document().setFrame(50);
        QTRY_VERIFY_WITH_TIMEOUT(highest() > 0.01f, 120000);
        QVERIFY(settle());
        const QImage wake = image();
        session().document().setValue(pool, "wakes", 0.0);
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(highest()) < 1e-5f, 60000);
        QVERIFY(settle());
        QVERIFY(image() != wake);
        session().document().undo();
        // Saved, its surface goes out as a mesh a frame.
        const QString file = dir_.filePath("boat.hygros");
        QVERIFY(session().document().save(file));
        QProcess out;
        out.start(CLI, {"water", file, QString::fromStdString(pool), "--out", dir_.filePath("pool.###.ply"), "--frames",
                        "49-50", "--side", "24", "--cell", "0.2"});
        QVERIFY(out.waitForFinished(240000));
        QVERIFY2(out.exitCode() == 0, out.readAllStandardError());
        JobControl job;
        const auto mesh = geometry::importSet(dir_.filePath("pool.050.ply").toStdString(), job);
        QVERIFY(mesh->triangles > 500 && mesh->bounds.max.y > 0.01f && mesh->bounds.max.y < 0.6f);
        QVERIFY(QFile::exists(dir_.filePath("pool.049.ply")));
    }
};

QTEST_MAIN(TestWater)
#include "test_water.moc"
