/// Weather by hand: rain by its recipe, snow that lies, a strike by two clicks, leaves, layers on disk.
#include "app/bench.h"
#include "app/card.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "image/image.h"
#include "window_support.h"

#include <QProcess>

using namespace hygros;
using namespace hygros::app;

class TestWeather : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    PictureView& picture() { return window_->picture(); }
    const scene::Element& element(const char* id) { return *session().project().find(id); }
    bool settle() { return test::settle(session()); }
    bool press(const char* name) { return test::pressButton(*window_, name); }
    QImage image() { return session().picture().state().image; }
    std::shared_ptr<const shot::Shot> shot() { return session().picture().shot(); }
    bool take(const char* recipe) { return test::take(session(), recipe); }
    bool isTold(const QString& words) { return test::isTold(*window_, words); }
    bool type(const char* parameter, const QString& value) { return test::typeInto(*window_, parameter, value); }
    /// Chooses an entry of a link's menu on the card.
    bool choose(const char* parameter, const QString& entry)
    {
        QTest::qWait(30);
        for (auto* button : window_->findChildren<QPushButton*>(parameter))
            if (button->isVisible() && button->menu()) {
                Q_EMIT button->menu()->aboutToShow();
                for (QAction* a : button->menu()->actions())
                    if (a->text() == entry) {
                        a->trigger();
                        return true;
                    }
            }
        return false;
    }
    QPoint pixelOf(const Vec3& world) { return test::pixelOf(session(), picture(), world); }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 640);
        session().picture().setWantedSamples(1);
        window_->show();
        session().newProject();
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/marl.glb");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QTRY_VERIFY(session().project().find("marl"));
        QVERIFY(settle());
    }
    void cleanup() { window_.reset(); }

    void rainComesByARecipeAndGoesByUndo()
    {
        const QImage dry = image();
        const std::size_t before = session().project().elements.size();
        QVERIFY(take("Cloudburst"));
        QCOMPARE(session().project().elements.size(), before + 3);
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->falling.size() == 2, 30000); // and what drips
        QVERIFY(settle());
        const QImage wet = image();
        QVERIFY(wet != dry);
        const double sees = elements::kindOf(element("cloudburst")).extinction(element("cloudburst"));
        // Its rate is one ruler: more of it, and the veil is thicker; the wind bends it.
        session().document().setValue("cloudburst", "rate", 140.0);
        QVERIFY(elements::kindOf(element("cloudburst")).extinction(element("cloudburst")) > 1.2 * sees);
        session().document().setValue("cloudburst", "driftSpeed", 12.0);
        QTRY_VERIFY_WITH_TIMEOUT(shot()->falling[0].wind.length() > 11.f, 30000);
        QVERIFY(settle());
        QVERIFY(image() != wet);
        window_->unfold("cloudburst");
        QTRY_VERIFY(isTold("thousand drops in sight are drawn"));
        for (int i = 0; i < 3; ++i)
            session().document().undo();
        QCOMPARE(session().project().elements.size(), before);
        QVERIFY(settle());
        QCOMPARE(image(), dry);
    }

    void snowLiesByItsRecipeAndIsSeen()
    {
        const QImage bare = image();
        const std::size_t before = session().project().elements.size(), sets = shot()->setIds.size();
        QVERIFY(take("Dry cold snow"));
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->setIds.size() > sets, 60000);
        QVERIFY(settle());
        const QImage white = image();
        // The ground in the lower third is brighter by far.
        const auto lightOf = [](const QImage& i) {
            double sum = 0.0;
            for (int y = i.height() * 3 / 4; y < i.height(); y += 3)
                for (int x = 0; x < i.width(); x += 3)
                    sum += qGray(i.pixel(x, y));
            return sum;
        };
        QVERIFY2(lightOf(white) > 1.15 * lightOf(bare),
                 qPrintable(QString("%1 %2").arg(lightOf(white)).arg(lightOf(bare))));
        // Its link into the recipe's own snow holds, and the card says what lies.
        const std::string snow = std::get<std::string>(element("lying-snow").value("snow"));
        QVERIFY(session().project().find(snow));
        window_->unfold("lying-snow");
        QTRY_VERIFY(isTold("thousand triangles"));
        // More hours, more snow; the Snow's own rate does the same.
        const auto area = [&] {
            for (const shot::Note& n : shot()->notes)
                if (n.element == "lying-snow")
                    return n.text;
            return std::string();
        };
        const std::string was = area();
        session().document().setValue(snow, "rate", 3.0);
        QTRY_VERIFY_WITH_TIMEOUT(area() != was && !area().empty(), 60000);
        session().document().undo();
        session().document().undo();
        QCOMPARE(session().project().elements.size(), before);
        QVERIFY(settle());
        QCOMPARE(image(), bare);
    }

    void aStrikeIsSetByTwoClicks()
    {
        test::menuAction(*window_, "Add", "Lightning")->trigger();
        const std::string id = session().project().elements.back().id;
        QCOMPARE(element(id.c_str()).kind->id, std::string("lightning"));
        session().document().setValue(id, "first", 0.0);
        session().document().setValue(id, "glow", 0.2);
        QVERIFY(settle());
        window_->unfold(id);
        QVERIFY(press("do:strike"));
        QCOMPARE(session().selection().task().what, Selection::Task::StrikeTo);
        const QPoint ground = pixelOf(Vec3(-4.f, 0.5f, -26.f));
        QVERIFY(!ground.isNull());
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, ground);
        QCOMPARE(session().selection().task().what, Selection::Task::StrikeFrom);
        QVERIFY(settle());
        const QPoint sky(ground.x() + 40, 12);
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, sky);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        const Vec3 to = std::get<Vec3>(element(id.c_str()).value("aim")),
                   from = std::get<Vec3>(element(id.c_str()).value("position"));
        const QPoint a = pixelOf(to), b = pixelOf(from);
        QVERIFY2(std::abs(a.x() - ground.x()) < 4 && std::abs(b.x() - sky.x()) < 4 && std::abs(b.y() - sky.y()) < 4,
                 qPrintable(QString("%1 %2").arg(b.x()).arg(b.y())));
        QVERIFY(from.y > to.y);
        QTRY_VERIFY_WITH_TIMEOUT(!shot()->sparks.empty(), 30000);
        QVERIFY(settle());
        QTRY_VERIFY(isTold("its thunder"));
        // Halfway between the clicks it is seen.
        const QImage i = image();
        const double sx = double(i.width()) / picture().width(), sy = double(i.height()) / picture().height();
        const int y = int(0.5 * (a.y() + b.y()) * sy);
        int most = 0;
        for (int x = int((std::min(a.x(), b.x()) - 60) * sx); x < int((std::max(a.x(), b.x()) + 60) * sx); ++x)
            most = std::max(most, qGray(i.pixel(std::clamp(x, 0, i.width() - 1), y)));
        QVERIFY2(most > 240, qPrintable(QString::number(most)));
        session().document().undo(); // from
        session().document().undo(); // to
        QVERIFY((std::get<Vec3>(element(id.c_str()).value("aim")) - to).length() > 1.f);
    }

    void leavesBlowAndLie()
    {
        const QImage bare = image();
        QVERIFY(take("Autumn gusts"));
        QTRY_VERIFY_WITH_TIMEOUT(!shot()->falling.empty(), 30000);
        QVERIFY(settle());
        const QImage strewn = image();
        QVERIFY(strewn != bare);
        // Without those that fly the ground is covered all the same; without those that lie it is not.
        session().document().setValue("leaves", "lying", 0.0);
        QVERIFY(settle());
        int changed = 0, all = 0;
        const QImage clear = image();
        for (int y = strewn.height() * 3 / 4; y < strewn.height(); y += 2)
            for (int x = 0; x < strewn.width(); x += 2, ++all)
                changed += std::abs(qGray(strewn.pixel(x, y)) - qGray(clear.pixel(x, y))) > 6;
        QVERIFY2(changed > all / 100, qPrintable(QString("%1 of %2").arg(changed).arg(all)));
    }

    void hailComesByItsRecipeFallsAndLies()
    {
        const QImage bare = image();
        QVERIFY(take("Hail shower"));
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->falling.size() == 3, 30000); // and what drips
        QVERIFY(settle());
        QVERIFY(image() != bare);
        window_->unfold("hail");
        QTRY_VERIFY(isTold("thousand stones in sight are drawn"));
        QTRY_VERIFY(isTold("mm of water"));
        // None lie when that is set to nothing: the ground is another.
        const QImage lying = image();
        session().document().setValue("hail", "lying", 0.0);
        QVERIFY(settle());
        QVERIFY(image() != lying);
        session().document().undo();
        session().document().undo();
        QVERIFY(settle());
        QCOMPARE(image(), bare);
    }

    void particlesAreBakedFromTheirCardAndSeen()
    {
        session().document().edit("Time", [](scene::Project& p) { p.time.last = 40; });
        test::menuAction(*window_, "Add", "Particles")->trigger();
        const std::string id = session().project().elements.back().id;
        QCOMPARE(element(id.c_str()).kind->id, std::string("particles"));
        session().document().setValue(id, "rate", 600.0);
        QVERIFY(settle());
        window_->unfold(id);
        QTRY_VERIFY(isTold("is not baked"));
        const QImage before = image();
        QVERIFY(press("do:bake"));
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().said(id).startsWith("Baked: 40 of 40"), 60000);
        session().document().setFrame(40);
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->falling.empty() && shot()->falling[0].all, 30000);
        QVERIFY(shot()->falling[0].all->size() > 500);
        QTRY_VERIFY(isTold("lie at this frame"));
        QVERIFY(settle());
        QVERIFY(image() != before);
        // Another number of them: what is baked is stale, and that is said; undone it is good again.
        session().document().setValue(id, "rate", 300.0);
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().spans().at(id).count(FrameStore::State::Stale) == 40, 30000);
        session().document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().spans().at(id).count(FrameStore::State::Fresh) == 40, 30000);
    }

    void objectsOfASetFallFromTheirCard()
    {
        session().document().edit("Time", [](scene::Project& p) { p.time.last = 16; });
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/beacon.glb");
        QTRY_VERIFY(session().project().find("beacon"));
        session().document().setValue("beacon", "visible", false);
        test::menuAction(*window_, "Add", "Particles")->trigger();
        const std::string id = session().project().elements.back().id;
        window_->unfold(id);
        // The card has its place a moment after it was added.
        const auto what = [&] { return std::get<std::string>(element(id.c_str()).value("what")); };
        QTRY_VERIFY(press("what=objects") && what() == "objects");
        QTRY_VERIFY(isTold("Choose the set"));
        QVERIFY(choose("shown", QString::fromStdString(element("beacon").name)));
        for (auto* field : window_->findChildren<QLineEdit*>("part"))
            if (field->isVisible()) {
                QTest::keyClicks(field, "planks");
                QTest::keyClick(field, Qt::Key_Return);
            }
        QCOMPARE(std::get<std::string>(element(id.c_str()).value("part")), std::string("planks"));
        QVERIFY(type("diameter", "40 cm"));
        QVERIFY(type("rate", "60 /s"));
        QVERIFY(settle());
        const QImage before = image();
        const std::size_t triangles = shot()->scene->triangles();
        QVERIFY(press("do:bake"));
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().said(id).startsWith("Baked: 16 of 16"), 60000);
        session().document().setFrame(16);
        // They stand in the scene as what they are, and are seen.
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->scene->triangles() > triangles, 30000);
        QVERIFY(settle());
        QVERIFY(image() != before);
        // How they look is no matter of the bake.
        session().document().setValue(id, "part", std::string("iron"));
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().spans().at(id).count(FrameStore::State::Fresh) == 16, 30000);
        session().document().setValue(id, "part", std::string("sails"));
        QTRY_VERIFY(isTold("sails"));
    }

    void rainRunsDownAndSnowDriftsByTheirRulers()
    {
        QVERIFY(take("Cloudburst"));
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->falling.empty(), 30000);
        std::string wet;
        for (const scene::Element& e : session().project().elements)
            if (e.kind->id == "wetGround")
                wet = e.id;
        if (wet.empty()) {
            test::menuAction(*window_, "Add", "Wet ground")->trigger();
            wet = session().project().elements.back().id;
        }
        window_->unfold(wet);
        QVERIFY(type("runs", "0 %"));
        QVERIFY(settle());
        const QImage dry = image();
        QVERIFY(type("runs", "100 %"));
        QCOMPARE(std::get<double>(element(wet.c_str()).value("runs")), 1.0);
        QVERIFY(settle());
        QVERIFY(image() != dry);
        session().document().undo();
        QVERIFY(settle());
        QCOMPARE(image(), dry);

        session().newProject();
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/marl.glb");
        QTRY_VERIFY(session().project().find("marl"));
        QVERIFY(take("Dry cold snow"));
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy() && shot() && shot()->setIds.size() > 17, 60000);
        session().document().setValue(std::get<std::string>(element("lying-snow").value("snow")), "driftSpeed", 12.0);
        window_->unfold("lying-snow");
        QVERIFY(type("drifts", "0 %"));
        QVERIFY(type("sparkle", "0 %"));
        QVERIFY(settle());
        const QImage even = image();
        QVERIFY(type("drifts", "100 %"));
        QVERIFY(settle());
        const QImage drifted = image();
        QVERIFY(drifted != even);
        QVERIFY(type("sparkle", "100 %"));
        QVERIFY(settle());
        QVERIFY(image() != drifted);
        session().document().undo();
        session().document().undo();
        QVERIFY(settle());
        QCOMPARE(image(), even);
    }

    void cloudsByTheirKindAreOneStep()
    {
        test::menuAction(*window_, "Add", "Cloud deck")->trigger();
        const std::string id = session().project().elements.back().id;
        QVERIFY(settle());
        const QImage heaps = image();
        const double base = std::get<double>(element(id.c_str()).value("base"));
        window_->unfold(id);
        QVERIFY(press("form=nimbostratus"));
        QVERIFY(press("form=nimbostratus")); // changes nothing, and is no step
        QCOMPARE(std::get<double>(element(id.c_str()).value("coverage")), 0.95);
        QVERIFY(std::get<double>(element(id.c_str()).value("falls")) > 0.0);
        QVERIFY(settle());
        QVERIFY(image() != heaps);
        session().document().undo();
        QCOMPARE(std::get<std::string>(element(id.c_str()).value("form")), std::string("cumulus"));
        QCOMPARE(std::get<double>(element(id.c_str()).value("base")), base);
    }

    void rainGoesOutAsALayer()
    {
        QVERIFY(take("Thunderstorm"));
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->falling.empty(), 30000);
        const QString file = dir_.filePath("storm.hygros"), out = dir_.filePath("storm.exr");
        QVERIFY(session().document().save(file));
        QProcess cli;
        cli.start(CLI, {"render", file, "--size", "160x100", "--samples", "2", "--layers", "all", "--out", out});
        QVERIFY(cli.waitForFinished(test::watched ? 900000 : 120000));
        QVERIFY2(cli.exitCode() == 0, cli.readAllStandardError());
        const auto names = image::imageFacts(out.toStdString()).channels;
        QVERIFY(std::any_of(names.begin(), names.end(),
                            [](const std::string& n) { return n.find("rain") != std::string::npos; }));
    }
};

QTEST_MAIN(TestWeather)
#include "test_weather.moc"
