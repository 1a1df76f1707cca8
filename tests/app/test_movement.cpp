/// The Motion page, and what is baked, in the window.
#include "app/add_place.h"
#include "app/baked_dialog.h"
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/motion_view.h"
#include "app/picture_view.h"
#include "app/time_strip.h"
#include "app/transect_view.h"
#include "scene/evaluate.h"
#include "window_support.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTemporaryDir>
#include <QToolButton>

using namespace hygros;
using namespace hygros::app;
using scene::KeyPlace;

class TestMovement : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    Session& session() { return window_->session(); }
    Document& document() { return session().document(); }
    MotionView& motion() { return *window_->findChild<MotionView*>("motion"); }
    const scene::Track* track(const char* element, const char* parameter)
    {
        return document().project().find(element)->track(parameter);
    }
    std::vector<double> frames(const char* element, const char* parameter)
    {
        std::vector<double> all;
        if (const scene::Track* t = track(element, parameter))
            for (const scene::Key& k : t->keys)
                all.push_back(k.frame);
        return all;
    }
    QPointF keyAt(const char* parameter, double frame) { return motion().placeOf({"haze", parameter, frame}).value(); }
    void press(Qt::Key k, Qt::KeyboardModifiers m = {}) { QTest::keyClick(&motion(), k, m); }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1297, 760);
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        scene::Project p = elements::newProject();
        p.time.last = 50;
        scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
        scene::Track track;
        track.keys = {scene::keyAt(1, 1000.0, scene::Way::Linear), scene::keyAt(20, 2000.0, scene::Way::Linear),
                      scene::keyAt(40, 500.0, scene::Way::Linear)};
        haze.setTrack("visibility", track);
        scene::Track other;
        other.keys = {scene::keyAt(10, 0.2), scene::keyAt(30, 0.8)};
        haze.setTrack("anisotropy", other);
        scene::Element& second = p.add(*elements::findKind("haze"), "Second");
        second.set("visibility", 3000.0);
        document().replace(p, {});
        session().picture().setWantedSamples(1);
        window_->findChild<Bench*>("bench")->showPage("Motion");
        session().selection().setSelected("haze");
        QTRY_VERIFY(motion().isVisible() && motion().placeOf({"haze", "visibility", 20}));
    }
    void cleanup() { window_.reset(); }

    void aKeyIsDraggedInTimeAndInValue()
    {
        QVERIFY(motion().isOpen("haze", "visibility"));
        const QPointF from = keyAt("visibility", 20);
        const double perFrame = motion().xOf(2) - motion().xOf(1);
        test::drag(motion(), from, from + QPointF(5.3 * perFrame, -14));
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 25, 40}));
        QVERIFY(std::get<double>(track("haze", "visibility")->keys[1].value) > 2100.0);
        QCOMPARE(motion().chosenKeys(), (scene::KeyPlaces{{"haze", "visibility", 25}}));
        // One step; and where it was, all is as it was.
        const std::string after = scene::toJson(document().whole());
        document().undo();
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 20, 40}));
        QVERIFY(!document().history().canUndo());
        document().redo();
        QCOMPARE(scene::toJson(document().whole()), after);
    }

    void draggedOverAnotherKeyAndBackNothingIsLost()
    {
        const QPointF from = keyAt("visibility", 20);
        QTest::mousePress(&motion(), Qt::LeftButton, {}, from.toPoint());
        QTest::mouseMove(&motion(), QPointF(motion().xOf(40), from.y()).toPoint());
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 40}));
        QTest::mouseMove(&motion(), QPointF(motion().xOf(22), from.y()).toPoint());
        QTest::mouseRelease(&motion(), Qt::LeftButton, {}, QPointF(motion().xOf(22), from.y()).toPoint());
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 22, 40}));
    }

    void manyAreChosenStretchedAboutThePlayHeadAndRemoved()
    {
        document().setFrame(1);
        motion().setFocus();
        press(Qt::Key_A, Qt::ControlModifier);
        QCOMPARE(motion().chosenKeys().size(), std::size_t{5});
        const QPointF grip = motion().grip(true).value();
        test::drag(motion(), grip, QPointF(motion().xOf(79) + (grip.x() - motion().xOf(40)), grip.y()));
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 39, 79}));
        QCOMPARE(frames("haze", "anisotropy"), (std::vector<double>{19, 59}));
        document().undo();
        QCOMPARE(frames("haze", "anisotropy"), (std::vector<double>{10, 30}));
        // A frame around two of them.
        const QPointF a = keyAt("visibility", 20), b = keyAt("visibility", 40);
        test::drag(motion(), {a.x() - 12, std::min(a.y(), b.y()) - 6}, {b.x() + 12, std::max(a.y(), b.y()) + 6});
        QCOMPARE(motion().chosenKeys(), (scene::KeyPlaces{{"haze", "visibility", 20}, {"haze", "visibility", 40}}));
        press(Qt::Key_Right);
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 21, 41}));
        press(Qt::Key_Delete);
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1}));
        QVERIFY(document().project().find("haze")); // keys went, not the element
        for (int i = 0; i < 2; ++i)
            document().undo();
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 20, 40}));
    }

    void framesAndValuesAreTyped()
    {
        QTest::mouseClick(&motion(), Qt::LeftButton, {}, keyAt("visibility", 20).toPoint());
        auto* frame = motion().findChild<QLineEdit*>("keyFrame");
        auto* value = motion().findChild<QLineEdit*>("keyValue");
        QCOMPARE(frame->text(), QString("20"));
        QCOMPARE(value->text(), QString("2 km"));
        value->setFocus();
        value->selectAll();
        QTest::keyClicks(value, "750 m");
        QTest::keyClick(value, Qt::Key_Return);
        QCOMPARE(std::get<double>(track("haze", "visibility")->at(20)->value), 750.0);
        frame->setFocus();
        frame->selectAll();
        QTest::keyClicks(frame, "22.5");
        QTest::keyClick(frame, Qt::Key_Return);
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 22.5, 40}));
        // What cannot be is said, and nothing changes.
        value->setFocus();
        value->selectAll();
        QTest::keyClicks(value, "far");
        QTest::keyClick(value, Qt::Key_Return);
        QCOMPARE(std::get<double>(track("haze", "visibility")->at(22.5)->value), 750.0);
        QCOMPARE(value->text(), QString("750 m"));
        auto* way = motion().findChild<QComboBox*>("keyWay");
        way->setFocus();
        QTest::keyClick(way, Qt::Key_Down); // linear to hold
        QVERIFY(track("haze", "visibility")->at(22.5)->way == scene::Way::Hold);
    }

    void keysAreCopiedToAnotherElement()
    {
        QTest::mouseClick(&motion(), Qt::LeftButton, {}, keyAt("visibility", 20).toPoint());
        QTest::mouseClick(&motion(), Qt::LeftButton, Qt::ControlModifier, keyAt("visibility", 40).toPoint());
        press(Qt::Key_C, Qt::ControlModifier);
        session().selection().setSelected("second");
        document().setFrame(5);
        press(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(frames("second", "visibility"), (std::vector<double>{5, 25}));
        QCOMPARE(std::get<double>(track("second", "visibility")->keys[1].value), 500.0);
        document().undo();
        QVERIFY(!track("second", "visibility"));
        QGuiApplication::clipboard()->setText("no keys at all");
        QString said;
        connect(&session(), &Session::failed, this, [&](const QString& m) { said = m; });
        press(Qt::Key_V, Qt::ControlModifier);
        QVERIFY(said.contains("the clipboard holds no keys"));
        disconnect(&session(), nullptr, this, nullptr);
    }

    void slopesAreDraggedAndACurveTakesAKeyWhereItIsClicked()
    {
        document().setTrack(
            "haze", "visibility",
            [] {
                scene::Track t;
                t.keys = {scene::keyAt(1, 1000.0), scene::keyAt(20, 2000.0), scene::keyAt(40, 1000.0)};
                return t;
            }(),
            "Keys");
        const QPointF key = keyAt("visibility", 20);
        QTest::mouseClick(&motion(), Qt::LeftButton, {}, key.toPoint());
        // At the top the slope is level: its handle lies beside the key. Down with it.
        test::drag(motion(), key + QPointF(34, 0), key + QPointF(30, 18));
        const scene::Key* k = track("haze", "visibility")->at(20);
        QVERIFY(k->out && k->in && k->out->x < -1.f);
        QCOMPARE(k->in->x, k->out->x);
        QTest::mouseDClick(&motion(), Qt::LeftButton, {}, QPointF(motion().xOf(30), key.y() + 20).toPoint());
        QCOMPARE(frames("haze", "visibility"), (std::vector<double>{1, 20, 30, 40}));
        // A lane is opened and closed by its name.
        const QPointF name = motion().nameOf("haze", "anisotropy").value().center();
        QTest::mouseClick(&motion(), Qt::LeftButton, {}, name.toPoint());
        QVERIFY(motion().isOpen("haze", "anisotropy"));
        QTest::mouseClick(&motion(), Qt::LeftButton, {},
                          motion().nameOf("haze", "anisotropy").value().center().toPoint());
        QVERIFY(!motion().isOpen("haze", "anisotropy"));
    }

    void onePlaceOffersAllThatCanBeAdded()
    {
        session().picture().setWantedSamples(1);
        QTest::keyClick(window_.get(), Qt::Key_Insert);
        auto* place = window_->findChild<AddPlace*>("addPlace");
        QVERIFY(place && place->isVisible());
        // Recipes are drawn in the present scene while nothing else is to be done.
        const auto recipes = session().library().recipes();
        QVERIFY(recipes.size() >= 10);
        auto* first = place->findChild<QToolButton*>("recipe:" + QString::fromStdString(recipes.front().name));
        const qint64 before = first->icon().cacheKey();
        QTRY_VERIFY_WITH_TIMEOUT(first->icon().cacheKey() != before, 60000);
        auto* find = place->findChild<QLineEdit*>("findAddition");
        QTest::keyClicks(find, "cloud deck");
        QVERIFY(!place->findChild<QPushButton*>("kind:cloudDeck")->isHidden());
        QVERIFY(place->findChild<QPushButton*>("kind:spot")->isHidden());
        QTest::keyClick(find, Qt::Key_Return);
        QVERIFY(document().project().find("cloud-deck"));
        QTRY_VERIFY(!window_->findChild<AddPlace*>("addPlace"));
        // A recipe by a click; undone in one step.
        const std::size_t count = document().project().elements.size();
        test::menuAction(*window_, "Add", "Search")->trigger();
        place = window_->findChild<AddPlace*>("addPlace");
        QVERIFY(place);
        first = place->findChild<QToolButton*>("recipe:" + QString::fromStdString(recipes.front().name));
        QTest::mouseClick(first, Qt::LeftButton);
        QVERIFY(document().project().elements.size() > count);
        document().undo();
        QCOMPARE(document().project().elements.size(), count);
    }

    void aClickFocusesAndTheTransectShowsIt()
    {
        scene::Project p = elements::newProject();
        p.folder = std::string(SOURCE_DIR) + "/demo";
        p.add(*elements::findKind("set"), "Marl").set("file", std::string("marl.glb"));
        p.find("shot")->set("position", Vec3(-2.9f, 2.2f, 1.2f));
        p.find("shot")->set("aim", Vec3(1.6f, 2.35f, -30.f));
        document().replace(p, {});
        window_->chooseFamily(scene::Family::Set);
        auto* view = window_->findChild<PictureView*>();
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot() && session().picture().shot()->scene->triangles() > 1000 &&
                                     session().picture().state().depth,
                                 60000);
        session().selection().begin({Selection::Task::Focus, "shot"});
        const QPoint where(view->width() / 4, view->height() * 4 / 5);
        const auto distance = [&] {
            return double(session().picture().distanceAt(
                QPointF((where.x()) / double(view->width()), where.y() / double(view->height()))));
        };
        QTRY_VERIFY_WITH_TIMEOUT(distance() > 0.1 && distance() < 100.0,
                                 30000); // of the set, not of what was there before
        const double met = distance();
        QTest::mouseClick(view, Qt::LeftButton, {}, where);
        QVERIFY(std::get<bool>(document().project().find("shot")->value("blurs")));
        const double focus = std::get<double>(document().project().find("shot")->value("focus"));
        QVERIFY2(focus > 0.6 * met && focus <= met * 1.001, qPrintable(QString("%1 of %2").arg(focus).arg(met)));
        QVERIFY(session().selection().task().what == Selection::Task::Nothing);
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot()->camera.lensRadius > 0.f, 30000);
        // Its line in the Transect is dragged.
        window_->findChild<Bench*>("bench")->showPage("Transect");
        auto* transect = window_->findChild<TransectView*>();
        QTRY_VERIFY_WITH_TIMEOUT(!transect->handlePosition("shot", "focus").isNull(), 30000);
        const QPointF at = transect->handlePosition("shot", "focus");
        test::drag(*transect, at, at + QPointF(40, 0));
        QVERIFY(std::get<double>(document().project().find("shot")->value("focus")) > focus * 1.05);
        document().undo();
        document().undo();
        QVERIFY(!std::get<bool>(document().project().find("shot")->value("blurs"))); // sharp again
    }

    void whatIsNotSeenLeavesThePictureAsItIs()
    {
        session().picture().setWantedSamples(3);
        QVERIFY(test::settle(session()));
        int fewest = 1000;
        connect(&session().picture(), &Picture::pictureChanged, this,
                [&] { fewest = std::min(fewest, session().picture().state().samples); });
        document().edit("wind", [](scene::Project& p) { p.add(*elements::findKind("wind"), "Gale"); });
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot() && !session().picture().shot()->airflow.winds.empty(),
                                 30000);
        QVERIFY(test::settle(session()));
        QTRY_VERIFY(fewest < 1000);                                 // it was shown again,
        QVERIFY2(fewest >= 3, qPrintable(QString::number(fewest))); // and never as a quick picture
        disconnect(&session().picture(), nullptr, this, nullptr);
    }

    void theWayThroughTimeIsDrawnAndItsPointsAreDragged()
    {
        scene::Project p = elements::newProject();
        p.time.last = 40;
        scene::Element& lamp = p.add(*elements::findKind("bulb"), "Lamp");
        scene::Track track;
        track.keys = {scene::keyAt(1, Vec3(-4.f, 1.f, -6.f)), scene::keyAt(20, Vec3(0.f, 1.f, -9.f)),
                      scene::keyAt(40, Vec3(4.f, 1.f, -6.f))};
        lamp.setTrack("position", track);
        document().replace(p, {});
        session().selection().setSelected("lamp");
        auto* view = window_->findChild<PictureView*>();
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot() && !session().picture().shot()->lamps.empty(), 30000);
        const auto place = [&](double frame) {
            return std::get<Vec3>(this->track("lamp", "position")->at(frame)->value);
        };
        const QPointF from = view->path().at(20, view->size()).value();
        test::drag(*view, from, from + QPointF(30, 0));
        QVERIFY(place(20).x > 0.3f);
        QCOMPARE(place(20).y, 1.f);
        QCOMPARE(place(1), Vec3(-4.f, 1.f, -6.f));
        QCOMPARE(document().frame(), 1);
        // Where it was taken there it lies now.
        const QPointF now = view->path().at(20, view->size()).value();
        QVERIFY(QLineF(now, from + QPointF(30, 0)).length() < 3.0);
        document().undo();
        QCOMPARE(place(20), Vec3(0.f, 1.f, -9.f));
        QVERIFY(!document().history().canUndo());
        // A click goes there.
        QTest::mouseClick(view, Qt::LeftButton, {}, view->path().at(40, view->size()).value().toPoint());
        QCOMPARE(document().frame(), 40);
    }

    void lampsAndTheCameraOfAFileAreTakenByItsButton()
    {
        const QTemporaryDir dir;
        QFile file(dir.filePath("boat.gltf"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        // A triangle that carries a point lamp two metres up and a camera, three metres before it.
        const float corners[9] = {0, 0, 0, 1, 0, 0, 0, 1, 0};
        const QByteArray bytes = QByteArray(reinterpret_cast<const char*>(corners), sizeof corners).toBase64();
        file.write(R"({"asset":{"version":"2.0"},"scene":0,"scenes":[{"nodes":[0]}],
            "extensionsUsed":["KHR_lights_punctual"],
            "extensions":{"KHR_lights_punctual":{"lights":[{"type":"point","intensity":250}]}},
            "cameras":[{"type":"perspective","perspective":{"yfov":0.5,"znear":0.1,"aspectRatio":2}}],
            "nodes":[{"mesh":0,"name":"boat","children":[1,2]},
                     {"name":"mast","translation":[0,2,0],"extensions":{"KHR_lights_punctual":{"light":0}}},
                     {"name":"eye","translation":[0,1,3],"camera":0}],
            "meshes":[{"primitives":[{"attributes":{"POSITION":0}}]}],
            "accessors":[{"bufferView":0,"componentType":5126,"count":3,"type":"VEC3","min":[0,0,0],"max":[1,1,0]}],
            "bufferViews":[{"buffer":0,"byteLength":36}],
            "buffers":[{"byteLength":36,"uri":"data:application/octet-stream;base64,)" +
                   bytes + R"("}]})");
        file.close();
        session().bring(*elements::findKind("set"), file.fileName());
        QTRY_COMPARE_WITH_TIMEOUT(document().project().elements.back().kind->id, std::string("set"), 20000);
        const std::string set = document().project().elements.back().id;
        QVERIFY(test::settle(session()));
        window_->chooseFamily(scene::Family::Set);
        window_->unfold(set);
        const auto button = [&] { return window_->column().reveal(set)->findChild<QPushButton*>("do:take"); };
        QTRY_VERIFY(button() && button()->isVisible());
        const std::string before = scene::toJson(document().whole());
        QTest::mouseClick(button(), Qt::LeftButton);
        const scene::Element lamp = document().project().elements.back();
        QCOMPARE(lamp.kind->family, scene::Family::Lights);
        QCOMPARE(std::get<std::string>(lamp.value("follows")), set + "/mast");
        QVERIFY(test::settle(session()));
        const auto shot = session().picture().shot();
        QCOMPARE(shot->lamps.size(), std::size_t{1});
        // The boat stands where it was brought in: the lamp is over it, the camera three metres off and a metre lower.
        const Vec3 apart = shot->camera.position - shot->lamps[0].position;
        QVERIFY((apart - Vec3(0, -1, 3)).length() < 1e-3f);
        // Pressed again, it takes no lamp twice.
        const std::size_t count = document().project().elements.size();
        QTest::mouseClick(button(), Qt::LeftButton);
        QCOMPARE(document().project().elements.size(), count);
        document().undo();
        QCOMPARE(scene::toJson(document().whole()), before);
        QVERIFY(test::settle(session()));
        QTRY_VERIFY(button() && button()->isVisible());
    }

    void aFireIsBakedSeenWhileItBakesAndStaysWhenItsLookChanges()
    {
        scene::Project p = elements::newProject();
        p.time.last = 12;
        p.find("shot")->set("position", Vec3(0.f, 1.f, 6.f));
        p.find("shot")->set("aim", Vec3(0.f, 1.f, 0.f));
        p.find("sun")->set("body", std::string("moon"));
        document().replace(p, {});
        session().picture().setWantedSamples(1);
        window_->chooseFamily(scene::Family::Fire);
        // Both from the menu, set down in front of the camera.
        QAction *plume = nullptr, *feed = nullptr;
        for (QAction* a : window_->findChildren<QAction*>()) {
            plume = a->text() == "Plume" ? a : plume;
            feed = a->text() == "Feed" ? a : feed;
        }
        QVERIFY(plume && feed);
        plume->trigger();
        feed->trigger();
        QVERIFY(document().project().find("plume") && document().project().find("feed"));
        document().edit("Fire", [](scene::Project& q) {
            scene::Element &gas = *q.find("plume"), &coals = *q.find("feed");
            gas.set("position", Vec3(0.f));
            gas.set("size", Vec3(1.6f, 2.4f, 1.6f));
            gas.set("voxel", 0.08);
            coals.set("plume", std::string("plume"));
            coals.set("position", Vec3(0.f, 0.3f, 0.f));
            coals.set("temperature", 1400.0);
            coals.set("rate", 30.0);
        });
        const auto shot = [this] { return session().picture().shot(); };
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->airflow.plumes.size() == 1 && shot()->volumes.empty(), 30000);
        Baker& baker = session().baker();
        QTRY_VERIFY(baker.said("plume").startsWith("Baked: 0 of 12 frames"));
        window_->column().reveal("plume")->setOpen(true);
        QCOMPARE(document().frame(), 1);
        QVERIFY(test::pressButton(*window_, "do:bake"));
        // The play head goes along, and what is newest is what is seen.
        QTRY_COMPARE_WITH_TIMEOUT(document().frame(), 12, 60000);
        QTRY_VERIFY(baker.said("plume").startsWith("Baked: 12 of 12 frames"));
        QTRY_VERIFY_WITH_TIMEOUT(shot()->frame == 12 && shot()->volumes.size() == 1 && !shot()->lamps.empty(), 30000);
        QVERIFY(shot()->volumes[0].glow.heat->most() > 900.f);
        const auto brightest = [this] {
            const QImage image = session().picture().state().image;
            int most = 0;
            for (int y = 0; y < image.height(); y += 2)
                for (int x = 0; x < image.width(); x += 2)
                    most = std::max(most, qRed(image.pixel(x, y)) - qBlue(image.pixel(x, y)));
            return most;
        };
        document().setValue("look", "exposure", -6.0);
        QTRY_VERIFY_WITH_TIMEOUT(brightest() > 60, 30000); // fire's colour
        document().setValue("plume", "emissive", 0.3);
        QTest::qWait(400);
        QVERIFY(baker.said("plume").startsWith("Baked: 12 of 12 frames"));
        document().setValue("plume", "cooling", 3000.0);
        QTRY_VERIFY(baker.said("plume").contains("stale: plume.cooling has changed since"));
        document().undo();
        QTRY_VERIFY(baker.said("plume").startsWith("Baked: 12 of 12 frames"));
    }

    void tracersAreBakedShownStaleAndPurged()
    {
        QTemporaryDir folder;
        const QString file = folder.filePath("gale.hygros");
        scene::Project p = elements::newProject();
        p.time.last = 30;
        p.add(*elements::findKind("wind"), "Gale");
        scene::Element& dots = p.add(*elements::findKind("tracers"), "Dots");
        dots.set("count", std::int64_t{200});
        document().replace(p, {});
        window_->chooseFamily(scene::Family::Weather);
        Baker& baker = session().baker();
        QTRY_VERIFY(baker.said("dots").startsWith("Baked: 0 of 30 frames"));
        for (Card* card : window_->findChildren<Card*>())
            if (card->element() == "dots")
                card->setOpen(true);
        const int before = window_->findChild<TimeStrip*>("timeStrip")->height();
        QVERIFY(before > 54); // room for its bar
        QVERIFY(test::pressButton(*window_, "do:bake"));
        QTRY_VERIFY_WITH_TIMEOUT(baker.said("dots").startsWith("Baked: 30 of 30 frames"), 60000);
        const std::filesystem::path unsaved = document().project().baked;
        QVERIFY(std::filesystem::exists(unsaved));
        // It shows without another edit.
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot() && !session().picture().shot()->airflow.tracers.empty() &&
                                     session().picture().shot()->airflow.tracers[0].points,
                                 30000);
        // What is baked goes along when the project gets a file.
        QVERIFY(document().save(file));
        QVERIFY(std::filesystem::exists((folder.path() + "/gale.baked").toStdString()));
        QVERIFY(!std::filesystem::exists(unsaved));
        QTRY_VERIFY(baker.said("dots").startsWith("Baked: 30 of 30 frames"));
        document().setValue("gale", "speed", 9.0);
        QTRY_VERIFY(baker.said("dots").contains("30 stale: gale.speed has changed since"));
        document().undo();
        QTRY_VERIFY(baker.said("dots").startsWith("Baked: 30 of 30 frames"));
        window_->findChild<TimeStrip*>("timeStrip")->showBaked();
        auto* list = window_->findChild<BakedDialog*>("bakedFrames");
        QVERIFY(list && list->findChild<QLabel*>("folder")->text().contains("gale.baked"));
        QTest::mouseClick(list->findChild<QPushButton*>("purge-dots"), Qt::LeftButton);
        QTRY_VERIFY(!std::filesystem::exists((folder.path() + "/gale.baked").toStdString()));
        QTRY_VERIFY(baker.said("dots").startsWith("Baked: 0 of 30 frames"));
        list->close();
    }
};
QTEST_MAIN(TestMovement)
#include "test_movement.moc"
