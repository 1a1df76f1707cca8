/// Fire in the window: set down by a click, seen while it is simulated, changed on the way, shaped by forces.
#include "app/add_place.h"
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/lead_ruler.h"
#include "app/motion_view.h"
#include "app/picture_view.h"
#include "app/time_strip.h"
#include "app/transect_view.h"
#include "window_support.h"

#include <QElapsedTimer>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QTemporaryDir>
#include <QToolButton>
#include <QWheelEvent>
#include <fstream>

using namespace hygros;
using namespace hygros::app;

class TestFire : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    Session& session() { return window_->session(); }
    Document& document() { return session().document(); }
    PictureView& view() { return *window_->findChild<PictureView*>(); }
    std::shared_ptr<const shot::Shot> shot() { return session().picture().shot(); }
    /// The element of that kind.
    std::string idOf(const char* kind)
    {
        for (const scene::Element& e : document().project().elements)
            if (e.kind->id == kind)
                return e.id;
        return {};
    }
    Vec3 placeOf(const char* kind)
    {
        const scene::Element* e = document().project().find(idOf(kind));
        return e ? std::get<Vec3>(e->value("position")) : Vec3(0.f);
    }
    QAction* action(const char* text)
    {
        for (QAction* a : window_->findChildren<QAction*>())
            if (a->text() == text)
                return a;
        return nullptr;
    }
    /// How many pixels of the picture are of a fire's colour.
    int firePixels()
    {
        const QImage image = session().picture().state().image;
        int count = 0;
        for (int y = 0; y < image.height(); ++y)
            for (int x = 0; x < image.width(); ++x) {
                const QRgb c = image.pixel(x, y);
                count += qRed(c) > 120 && qRed(c) > qBlue(c) + 40;
            }
        return count;
    }
    double brightness(const QRect& where)
    {
        const QImage image = session().picture().state().image;
        double sum = 0.0;
        for (int y = where.top(); y < where.bottom(); ++y)
            for (int x = where.left(); x < where.right(); ++x)
                sum += qGray(image.pixel(std::clamp(x, 0, image.width() - 1), std::clamp(y, 0, image.height() - 1)));
        return sum / (where.width() * where.height());
    }
    /// The lock at night, seen along the towpath.
    void nightAtTheLock(int frames)
    {
        scene::Project p = elements::newProject();
        p.time.last = frames;
        p.folder = std::string(SOURCE_DIR) + "/demo";
        p.add(*elements::findKind("set"), "Marl").set("file", std::string("marl.glb"));
        p.find("shot")->set("position", Vec3(-6.6f, 1.7f, 1.4f));
        p.find("shot")->set("aim", Vec3(-4.6f, 1.45f, -9.f));
        p.find("sun")->set("body", std::string("moon"));
        p.find("sun")->set("strength", 1.0);
        p.find("look")->set("exposure", 1.0);
        p.find("look")->set("pales", 0.7);
        document().replace(p, {});
        session().picture().setWantedSamples(2);
    }

    /// A fire of a hand's breadth, six metres off.
    void smallFire(int frames)
    {
        scene::Project p = elements::newProject();
        p.time.last = frames;
        scene::Element& gas = p.add(*elements::findKind("plume"), "Plume");
        gas.set("position", Vec3(0.f, 0.f, 0.f));
        gas.set("size", Vec3(1.6f, 2.4f, 1.6f));
        gas.set("voxel", 0.05);
        gas.set("detail", std::string("preview"));
        scene::Element& coals = p.add(*elements::findKind("feed"), "Feed");
        coals.set("plume", std::string("plume"));
        coals.set("position", Vec3(0.f, 0.3f, 0.f));
        coals.set("temperature", 1400.0);
        coals.set("smoke", 2.0);
        p.find("shot")->set("position", Vec3(0.f, 1.2f, 6.f));
        p.find("shot")->set("aim", Vec3(0.f, 1.2f, 0.f));
        document().replace(p, {});
        session().picture().setWantedSamples(1);
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1197, 720);
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
    }
    void cleanup()
    {
        session().baker().purge({});
        session().jobs().cancelAll();
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 60000);
        window_.reset();
    }

    void aBrazierIsSetDownByAClickAndChangedWhileItBurns()
    {
        nightAtTheLock(70);
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->scene->triangles() > 1000 && session().picture().state().depth,
                                 60000);
        QVERIFY(test::settle(session()));
        const std::size_t before = document().project().elements.size();
        const QPoint where(view().width() / 2, view().height() * 3 / 4);
        const QImage dark = session().picture().state().image;
        const double scale = double(dark.width()) / view().width();
        const QRect ground(int((where.x() - 60) * scale), int((where.y() + 20) * scale), int(120 * scale),
                           int(30 * scale));
        const double unlit = brightness(ground);
        const int lamps = firePixels(); // what is warm without a fire
        action("Search everything and recipes…")->trigger();
        auto* place = window_->findChild<AddPlace*>("addPlace");
        QVERIFY(place);
        auto* brazier = place->findChild<QToolButton*>("recipe:Brazier");
        QVERIFY(brazier);
        QElapsedTimer since;
        QTest::mouseClick(brazier, Qt::LeftButton);
        QCOMPARE(document().project().elements.size(), before + 2);
        QCOMPARE(session().selection().task().what, Selection::Task::PlaceTaken);
        const std::string plume = idOf("plume");
        QVERIFY(session().baker().isBaking(plume));
        // A click into the sky sets nothing down and says so.
        const Vec3 ahead = placeOf("plume");
        QTest::mouseClick(&view(), Qt::LeftButton, {}, QPoint(view().width() / 2, 4));
        QCOMPARE(placeOf("plume"), ahead);
        const Vec3 apart = placeOf("feed") - ahead;
        since.start();
        QTest::mouseClick(&view(), Qt::LeftButton, {}, where);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        geometry::Hit hit;
        const geometry::View seen(shot()->camera, view().width(), view().height());
        const Vec3 d = seen.direction(float(where.x()), float(where.y()));
        QVERIFY(shot()->scene->trace(seen.position(), d, 1e-3f, 1e4f, hit));
        QVERIFY((placeOf("plume") - (seen.position() + d * hit.t)).length() < 0.02f);
        QVERIFY((placeOf("feed") - placeOf("plume") - apart).length() < 2e-3f); // both went
        // It burns by itself: the play head goes along, and flames are seen.
        QTRY_VERIFY_WITH_TIMEOUT(firePixels() > lamps + 60, 60000);
        qInfo("flames on screen after %.1f s, at frame %d", double(since.elapsed()) * 1e-3, document().frame());
        // Cooled more while it runs: it goes on, and a mark stands where that came in.
        Baker& baker = session().baker();
        QVERIFY(baker.isBaking(plume));
        const int changed = document().frame();
        document().setValue(plume, "cooling", 9000.0);
        QTRY_COMPARE_WITH_TIMEOUT(document().frame(), 70, 60000);
        QTRY_VERIFY_WITH_TIMEOUT(brightness(ground) > unlit + 10.0, 60000); // and the ground is lit
        QTRY_VERIFY_WITH_TIMEOUT(!baker.isBaking(plume), 60000);
        QTRY_COMPARE(baker.spans().at(plume).changes.size(), std::size_t{1});
        QVERIFY(baker.spans().at(plume).changes[0] > changed);
        QVERIFY2(baker.said(plume).contains("stale"), qPrintable(baker.said(plume)));
        QVERIFY(shot()->volumes.size() == 1); // and is seen none the less
        // Again from the start, by its key: then there is no mark, and all of it is fresh.
        action("Bake again from the start")->trigger();
        QTRY_VERIFY_WITH_TIMEOUT(!baker.isBaking(plume) && baker.said(plume).startsWith("Baked: 70 of 70"), 120000);
        QVERIFY(baker.spans().at(plume).changes.empty());
        // All is undone, step by step.
        for (int i = 0; i < 3; ++i)
            document().undo();
        QCOMPARE(document().project().elements.size(), before);
        QTRY_VERIFY_WITH_TIMEOUT(shot()->volumes.empty() && shot()->airflow.plumes.empty(), 30000);
    }

    void escapeLeavesWhatWasTakenWhereItIs()
    {
        nightAtTheLock(4);
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->scene->triangles() > 1000, 60000);
        for (const scene::Recipe& r : session().library().recipes())
            if (r.name == "Camp fire")
                session().take(r);
        QCOMPARE(session().selection().task().what, Selection::Task::PlaceTaken);
        const Vec3 ahead = placeOf("plume");
        auto* words = window_->findChild<QLabel*>("taskText");
        QVERIFY(words && words->text().contains("Camp fire"));
        QTest::keyClick(&view(), Qt::Key_Escape);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        QCOMPARE(placeOf("plume"), ahead);
        // Undone before it is set down: the click then only ends the task.
        for (const scene::Recipe& r : session().library().recipes())
            if (r.name == "Camp fire")
                session().take(r);
        document().undo();
        QTest::mouseClick(&view(), Qt::LeftButton, {}, QPoint(view().width() / 2, view().height() * 3 / 4));
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
    }

    void itsBoxBeginsItAnewAndItsTimeToo()
    {
        scene::Project p = elements::newProject();
        p.time.last = 300;
        scene::Element& gas = p.add(*elements::findKind("plume"), "Plume");
        gas.set("size", Vec3(1.6f, 2.4f, 1.6f));
        gas.set("voxel", 0.06);
        scene::Element& coals = p.add(*elements::findKind("feed"), "Feed");
        coals.set("plume", std::string("plume"));
        coals.set("position", Vec3(0.f, 0.3f, 0.f));
        document().replace(p, {});
        session().picture().setWantedSamples(1);
        Baker& baker = session().baker();
        baker.bake("plume");
        QTRY_VERIFY_WITH_TIMEOUT(document().frame() >= 2, 30000);
        QVERIFY(baker.isBaking("plume"));
        document().setValue("plume", "size", Vec3(1.6f, 3.2f, 1.6f));
        // A change of time while it bakes: it goes on with that by itself.
        QVERIFY(baker.isBaking("plume"));
        document().edit("Time", [](scene::Project& q) { q.time.last = 30; });
        QTRY_VERIFY_WITH_TIMEOUT(!baker.isBaking("plume") && baker.said("plume").startsWith("Baked: 30 of 30"), 60000);
        QVERIFY(baker.spans().at("plume").changes.empty()); // all of it is of the new box
    }

    void itsDraughtOnMistIsSetOnTheCard()
    {
        smallFire(12);
        document().edit("Mist", [](scene::Project& p) {
            scene::Element& mist = p.add(*elements::findKind("fogBank"), "Mist");
            mist.set("visibility", 12.0);
            mist.set("base", -1.0);
            mist.set("driftSpeed", 0.0);
        });
        window_->chooseFamily(scene::Family::Fire);
        window_->unfold("plume");
        QTRY_VERIFY_WITH_TIMEOUT(test::pressButton(*window_, "do:bake") && session().baker().isBaking("plume"), 30000);
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().said("plume").startsWith("Baked: 12 of 12"), 60000);
        document().setFrame(12);
        QVERIFY(test::settle(session()));
        const QImage still = session().picture().state().image;
        QVERIFY(!shot()->media.empty() && !shot()->media.front().draughts.any());
        // Found by its name, set by its ruler.
        auto* find = window_->findChild<QLineEdit*>("findSetting");
        QTest::keyClicks(find, "draws mist");
        QVERIFY(test::typeInto(*window_, "draught", "1"));
        QCOMPARE(std::get<double>(document().project().find("plume")->value("draught")), 1.0);
        QTRY_VERIFY_WITH_TIMEOUT(shot()->media.front().draughts.any(), 30000);
        QVERIFY(test::settle(session()));
        QVERIFY(session().picture().state().image != still);
        // It is no matter of what is baked.
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().spans().at("plume").count(FrameStore::State::Fresh) == 12, 30000);
        document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(!shot()->media.front().draughts.any(), 30000);
        QVERIFY(test::settle(session()));
        // (What the flames light in the air is looked for anew: a level or so.)
        const QImage back = session().picture().state().image;
        double apart = 0.0;
        for (int y = 0; y < still.height(); ++y)
            for (int x = 0; x < still.width(); ++x)
                apart += std::abs(qGray(back.pixel(x, y)) - qGray(still.pixel(x, y)));
        apart /= still.width() * still.height();
        QVERIFY2(apart < 1.0, qPrintable(QString::number(apart)));
    }

    void aSliceShowsWhatIsInThePlumeAndFollowsIt()
    {
        smallFire(12);
        auto& transect = *window_->findChild<TransectView*>();
        auto* button = transect.findChild<QPushButton*>("transectSlice");
        QTRY_VERIFY_WITH_TIMEOUT(shot() && button && button->isVisible(), 30000);
        QCOMPARE(button->text(), QString("slice"));
        const double far = transect.farthest();
        const auto choose = [&](const QString& name) {
            for (QAction* a : transect.findChild<QMenu*>("transectSliceMenu")->actions())
                if (a->text() == name)
                    return a->trigger();
            QFAIL("no such entry");
        };
        const auto at = [&](double distance, double height) {
            // By the widget's own scale, which is even here.
            const QRectF plot(46, 12, transect.width() - 92, transect.height() - 44);
            return QPointF(plot.left() + (distance - transect.nearest()) / (transect.farthest() - transect.nearest()) *
                                             plot.width(),
                           plot.bottom() -
                               (height - transect.lowest()) / (transect.highest() - transect.lowest()) * plot.height());
        };
        choose("temperature");
        QCOMPARE(button->text(), QString("slice: temperature"));
        // Chosen before the frame with the plume in it is there: it is framed once that comes.
        QTRY_VERIFY_WITH_TIMEOUT(transect.nearest() < 5.2 && transect.farthest() > 6.8 && transect.farthest() < far,
                                 30000);
        QVERIFY(transect.highest() > 2.3 && transect.highest() < 4.0);
        QCOMPARE(transect.sliceAt(at(6.0, 0.4)), QString()); // not baked yet
        session().baker().bake("plume");
        QTRY_VERIFY_WITH_TIMEOUT(!session().baker().isBaking("plume"), 60000);
        document().setFrame(12);
        const auto kelvin = [&](double distance, double height) {
            const QString words = transect.sliceAt(at(distance, height));
            return words.contains(" K") ? words.section(' ', 0, 0).toDouble() : 0.0;
        };
        QTRY_VERIFY_WITH_TIMEOUT(kelvin(6.0, 0.4) > 800.0, 30000);
        QVERIFY(kelvin(6.0, 0.4) > kelvin(6.35, 0.4) + 200.0); // hottest in the middle
        QTRY_VERIFY_WITH_TIMEOUT(transect.sliceAt(at(6.0, 0.4)).contains("m/s"), 30000);
        QCOMPARE(transect.sliceAt(at(4.9, 0.4)), QString("no gas here"));
        // It is drawn: hot gas in warm colours, nothing of it where none is.
        const QImage drawn = transect.grab().toImage();
        const double ratio = drawn.devicePixelRatio();
        const auto colour = [&](double distance, double height) {
            return drawn.pixelColor((at(distance, height) * ratio).toPoint());
        };
        QVERIFY(colour(6.0, 0.42).red() > colour(6.0, 0.42).blue() + 20);
        // Another quality, and what was chosen before is undone by none.
        choose("speed");
        QTRY_VERIFY_WITH_TIMEOUT(
            transect.sliceAt(at(6.0, 0.6)).endsWith("m/s") && !transect.sliceAt(at(6.0, 0.6)).contains(" K"), 30000);
        choose("no slice");
        QCOMPARE(button->text(), QString("slice"));
        QVERIFY(transect.isLogarithmic());
        QCOMPARE(transect.sliceAt(at(6.0, 0.4)), QString());
        // Without a plume there is nothing to slice.
        document().edit("Remove", [](scene::Project& q) { q.remove("plume"); });
        QTRY_VERIFY_WITH_TIMEOUT(!button->isVisible(), 30000);
    }

    void allBakedFramesAreExportedAndComeBackTheSame()
    {
        QTemporaryDir folder;
        smallFire(4);
        QString said;
        const auto listening = connect(&session(), &Session::failed, this, [&](const QString& words) { said = words; });
        session().exportVolume("plume", folder.filePath("smoke.####.vdb"), 0.f);
        QTRY_VERIFY_WITH_TIMEOUT(said.contains("none of its frames is baked"), 30000);
        disconnect(listening);
        session().baker().bake("plume");
        QTRY_VERIFY_WITH_TIMEOUT(!session().baker().isBaking("plume"), 60000);
        session().exportVolume("plume", folder.filePath("smoke.####.vdb"), 0.f);
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(folder.filePath("smoke.0004.vdb")) && !session().jobs().isBusy(), 30000);
        // As a volume with the same look it is the same to the eye, and to what it lights.
        Store store;
        JobControl job;
        scene::Project back = document().whole();
        back.frame = 3;
        const auto was = elements::freeze(back, store, job);
        scene::Element& volume = back.add(*elements::findKind("volume"), "Back");
        volume.set("file", folder.filePath("smoke.0001.vdb").toStdString());
        volume.set("sequence", true);
        for (const scene::Parameter& q : back.find("plume")->kind->parameters)
            if (q.isLook && scene::findParameter(volume.kind->parameters, q.id))
                volume.set(q.id, back.find("plume")->value(q.id));
        back.remove("plume");
        const auto is = elements::freeze(back, store, job);
        QCOMPARE(was->volumes.size(), std::size_t{1});
        QCOMPARE(is->volumes.size(), std::size_t{1});
        QCOMPARE(is->lamps.size(), was->lamps.size());
        const media::Volume &a = was->volumes[0], &b = is->volumes[0];
        float most = 0.f, apart = 0.f, hot = 0.f, other = 0.f;
        for (float y = 0.05f; y < 1.5f; y += 0.06f)
            for (float x = -0.6f; x < 0.6f; x += 0.05f) {
                const F8 px = f8(x), py = f8(y), pz = f8(0.03f);
                const float va = media::extinction8(a, px, py, pz)[0], vb = media::extinction8(b, px, py, pz)[0];
                most = std::max(most, va);
                apart = std::max(apart, std::abs(va - vb));
                const auto heat = [&](const media::Volume& v) {
                    Vec3 at;
                    v.glow.toHeat.multVecMatrix(Vec3(x, y, 0.03f), at);
                    return v.glow.heat->sample8(f8(at.x), f8(at.y), f8(at.z))[0];
                };
                hot = std::max(hot, heat(a));
                other = std::max(other, std::abs(heat(a) - heat(b)));
            }
        QVERIFY(most > 1.f && hot > 800.f);
        QVERIFY2(apart < 1e-3f * most, qPrintable(QString("%1 of %2").arg(apart).arg(most)));
        QVERIFY2(other < 1e-3f * hot, qPrintable(QString("%1 of %2").arg(other).arg(hot)));
    }

    void facesArePaintedWithABrush()
    {
        // A wall of 8 × 8 squares, three metres off.
        QTemporaryDir folder;
        const std::filesystem::path file = std::filesystem::path(folder.path().toStdString()) / "wall.obj";
        {
            std::ofstream out(file);
            out << "o wall\n";
            for (int y = 0; y <= 8; ++y)
                for (int x = 0; x <= 8; ++x)
                    out << "v " << (x - 4) * 0.25 << ' ' << y * 0.25 << " 0\n";
            for (int y = 0; y < 8; ++y)
                for (int x = 0; x < 8; ++x)
                    out << "f " << y * 9 + x + 1 << ' ' << y * 9 + x + 2 << ' ' << y * 9 + x + 11 << ' '
                        << y * 9 + x + 10 << '\n';
        }
        smallFire(4);
        document().edit("a wall", [&](scene::Project& p) {
            p.add(*elements::findKind("set"), "Wall").set("file", file.string());
            p.find("feed")->set("form", std::string("object"));
            p.find("feed")->set("object", std::string("wall"));
            p.find("shot")->set("position", Vec3(0.f, 1.f, 3.f));
            p.find("shot")->set("aim", Vec3(0.f, 1.f, 0.f));
        });
        QTRY_VERIFY_WITH_TIMEOUT(shot() && shot()->scene->triangles() == 128 && session().picture().state().depth,
                                 60000);
        window_->unfold("feed");
        QVERIFY(test::pressButton(*window_, "paintFaces"));
        QVERIFY(view().brush().isOn());
        const auto painted = [&] {
            const auto chosen = geometry::ChosenFaces::parse(
                std::get<std::string>(document().project().find("feed")->value("painted")));
            return chosen ? int(chosen->count()) : -1;
        };
        const geometry::View eye(session().picture().camera(), view().width(), view().height());
        const auto pixel = [&](float x, float y) {
            Vec2 at(0.f);
            float depth = 0.f;
            eye.project(Vec3(x, y, 0.f), at, depth);
            return QPointF(double(at.x), double(at.y));
        };
        // A brush smaller than a square, along the middle of the lowest row: its sixteen triangles and no other.
        for (int i = 0; i < 40 && view().brush().radius() > 4.0; ++i) {
            QWheelEvent wheel(pixel(0.f, 1.f), view().mapToGlobal(pixel(0.f, 1.f)), {}, {0, -120}, Qt::NoButton,
                              Qt::ControlModifier, Qt::NoScrollPhase, false);
            QApplication::sendEvent(&view(), &wheel);
        }
        QVERIFY(view().brush().radius() <= 4.0);
        QTest::mousePress(&view(), Qt::LeftButton, {}, pixel(-0.99f, 0.125f).toPoint());
        for (int i = 1; i <= 200; ++i)
            QTest::mouseMove(&view(), pixel(-0.99f + 1.98f * float(i) / 200.f, 0.125f).toPoint());
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, pixel(0.99f, 0.125f).toPoint());
        QCOMPARE(painted(), 16);
        QVERIFY(window_->findChild<QLabel*>("taskText")->text().contains("16 painted"));
        QCOMPARE(window_->findChild<QLabel*>("paintedCount")->text(), QString("16"));
        // With Shift one square's two triangles go again; each stroke is one step.
        QTest::mouseClick(&view(), Qt::LeftButton, Qt::ShiftModifier, pixel(0.125f, 0.125f).toPoint());
        QVERIFY2(painted() == 14 || painted() == 15, qPrintable(QString::number(painted())));
        document().undo();
        QCOMPARE(painted(), 16);
        document().undo();
        QCOMPARE(painted(), 0);
        document().redo();
        QTest::keyClick(&view(), Qt::Key_Escape);
        QVERIFY(!view().brush().isOn());
        // Only the lowest row feeds now.
        QTRY_VERIFY_WITH_TIMEOUT(shot() && !shot()->airflow.plumes.empty() &&
                                     !shot()->airflow.plumes[0].feeds.empty() &&
                                     std::all_of(shot()->airflow.plumes[0].feeds[0].points->begin(),
                                                 shot()->airflow.plumes[0].feeds[0].points->end(),
                                                 [](const media::FeedPoint& f) { return f.at.y < 0.26f; }),
                                 30000);
        QVERIFY(test::pressButton(*window_, "clearFaces"));
        QCOMPARE(painted(), 0);
    }

    void aProbesCurveStandsOnTheMotionPage()
    {
        smallFire(10);
        QVERIFY(test::settle(session()));
        document().edit("a probe", [&](scene::Project& p) {
            scene::Element& probe = p.add(*elements::findKind("probe"), "Over the coals");
            probe.set("plume", std::string("plume"));
            probe.set("position", Vec3(0.f, 0.35f, 0.f));
        });
        window_->findChild<Bench*>()->showPage("Motion");
        const std::string id = idOf("probe");
        session().selection().setSelected(id);
        auto& motion = *window_->findChild<MotionView*>();
        QVERIFY(motion.probe().isOn());
        QVERIFY(motion.probePlot().height() > 60.0);
        QVERIFY(motion.probe().values().empty());
        session().baker().bake("plume");
        QTRY_COMPARE_WITH_TIMEOUT(int(motion.probe().values().size()), 10, 60000);
        QVERIFY(motion.probe().values().at(10) > 400.0);
        // Elsewhere it reads something else; of what is nowhere in the plume, the air's temperature.
        document().setValue(id, "position", Vec3(0.f, 30.f, 0.f));
        QTRY_VERIFY_WITH_TIMEOUT(motion.probe().values().size() == 10 && motion.probe().values().at(10) == 288.0,
                                 30000);
        session().selection().setSelected("shot");
        QVERIFY(!motion.probe().isOn());
        QCOMPARE(motion.probePlot().height(), 0.0);
    }

    void glowAndPalingAreOnTheLooksCard()
    {
        nightAtTheLock(4);
        QVERIFY(test::settle(session()));
        window_->chooseFamily(scene::Family::Finish);
        Card* card = window_->column().reveal("look");
        QVERIFY(card);
        card->setOpen(true);
        QVERIFY(card->findChild<LeadRuler*>("glow") && card->findChild<LeadRuler*>("pales"));
        // Everything far above its threshold glows: the picture changes, its dark corner by the light around it.
        const QImage before = session().picture().state().image;
        document().setValue("look", "exposure", 6.0);
        document().setValue("look", "glow", 0.5);
        document().setValue("look", "glowFrom", -8.0);
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().isSettled() && session().picture().state().image != before, 60000);
        const QImage glowing = session().picture().state().image;
        document().setValue("look", "glow", 0.0);
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().state().image != glowing && session().picture().isSettled(),
                                 60000);
    }
};
QTEST_MAIN(TestFire)
#include "test_fire.moc"
