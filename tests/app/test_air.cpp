/// From an empty project to delivered layers by hand, and the tools of the air: handles, a known length, horizon and
/// ground of a plate, a veil's colours, the Transect's zoom and its tie to the Picture.
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/colour_ramp.h"
#include "app/lead_ruler.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "app/theme.h"
#include "app/transect_view.h"
#include "image/image.h"
#include "window_support.h"

#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QSpinBox>
#include <QWheelEvent>

using namespace hygros;
using namespace hygros::app;
using test::drag;

class TestAir : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    PictureView& picture() { return *window_->findChild<PictureView*>("picture"); }
    TransectView& transect() { return window_->transect(); }
    const scene::Element& element(const char* id) { return *session().project().find(id); }
    double number(const char* id, const char* parameter) { return std::get<double>(element(id).value(parameter)); }
    bool settle() { return test::settle(session()); }
    void wheel(QWidget& w, QPointF at, int turns, Qt::KeyboardModifiers keys = {})
    {
        QWheelEvent e(at, w.mapToGlobal(at), {}, {0, 120 * turns}, Qt::NoButton, keys, Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(&w, &e);
    }
    void open(const QString& file)
    {
        session().open(file);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QCOMPARE(session().document().file(), file);
    }
    bool press(const char* name) { return test::pressButton(*window_, name); }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 700);
        session().picture().setWantedSamples(1);
        window_->show();
    }
    void cleanup() { window_.reset(); }

    void fromAnEmptyProjectToDeliveredLayers()
    {
        // Bring the lock; somebody exported it at half its size.
        session().newProject();
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/marl.glb");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QTRY_VERIFY(session().project().find("marl"));
        session().document().setValue("marl", "scale", 0.5);
        QVERIFY(settle());
        // Its card offers to scale it by a known length: two clicks and the true number.
        window_->unfold("marl");
        QVERIFY(press("do:knownLength"));
        QCOMPARE(session().selection().task().what, Selection::Task::KnownLength);
        const QPoint a(picture().width() / 4, picture().height() - 30),
            b(picture().width() * 3 / 4, picture().height() - 60);
        const geometry::View view(session().picture().camera(), picture().width(), picture().height());
        const auto at = [&](const QPoint& p) {
            const float d = session().picture().distanceAt(
                QPointF(double(p.x()) / picture().width(), double(p.y()) / picture().height()));
            return view.position() + view.direction(static_cast<float>(p.x()), static_cast<float>(p.y())) * d;
        };
        const double measured = double((at(b) - at(a)).length());
        QVERIFY(measured > 0.2);
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, a);
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, b);
        auto* field = window_->findChild<QLineEdit*>("lengthField");
        QVERIFY(field->isVisible());
        QVERIFY(window_->findChild<QLabel*>("taskText")->text().contains("It should be"));
        // Nonsense is refused and nothing scaled.
        QTest::keyClicks(field, "long");
        QTest::keyClick(field, Qt::Key_Return);
        QCOMPARE(number("marl", "scale"), 0.5);
        QVERIFY(window_->message().contains("is no length"));
        field->clear();
        QTest::keyClicks(field, QString("%1 cm").arg(200.0 * measured, 0, 'f', 2));
        QTest::keyClick(field, Qt::Key_Return);
        QVERIFY(std::abs(number("marl", "scale") - 1.0) < 2e-3);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        // Look along the canal, then the recipe.
        session().document().edit("Camera", [](scene::Project& p) {
            p.find("shot")->set("position", Vec3(-2.9f, 2.2f, 1.2f));
            p.find("shot")->set("aim", Vec3(1.6f, 2.35f, -30.f));
        });
        window_->chooseFamily(scene::Family::Air);
        QVERIFY(settle());
        auto* recipes = window_->findChild<QPushButton*>("recipes");
        QAction* mist = nullptr;
        for (QAction* action : recipes->menu()->actions())
            if (action->text() == "River mist")
                mist = action;
        QVERIFY(mist);
        mist->trigger();
        QVERIFY(session().project().elements.back().kind->family == scene::Family::Air);
        // Tune it: denser mist, typed into the card.
        const std::string id = session().project().elements.back().id;
        session().document().setValue(id, "visibility", 40.0);
        QVERIFY(settle());
        // Deliver.
        window_->exportPicture();
        auto* dialog = window_->findChild<QDialog*>("exportDialog");
        const QString file = dir_.filePath("river.exr");
        dialog->findChild<QLineEdit*>("exportFile")->setText(file);
        dialog->findChild<QSpinBox*>("exportWidth")->setValue(128);
        dialog->findChild<QSpinBox*>("exportHeight")->setValue(72);
        dialog->findChild<QSpinBox*>("exportSamples")->setValue(2);
        QTest::mouseClick(dialog->findChild<QPushButton*>("exportGo"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 240000);
        const image::Image out = image::readImage(file.toStdString());
        const auto channel = [&](const char* name, int x, int y) {
            return double(out.at(x, y)[static_cast<std::size_t>(out.channel(name))]);
        };
        double mean = 0.0;
        for (int y = 0; y < 72; ++y)
            for (int x = 0; x < 128; ++x) {
                NEAR(channel("R", x, y),
                     channel("plate.R", x, y) * channel("transmittance.R", x, y) + channel("air.R", x, y), 1e-4);
                mean += channel("transmittance.R", x, y) / (72 * 128);
            }
        QVERIFY(mean > 0.05 && mean < 0.97);
    }

    void aSetIsMovedTurnedLiftedAndSizedByItsHandles()
    {
        open(test::demo());
        window_->unfold("marl");
        session().selection().setSelected("marl");
        session().document().setValue("marl", "position", Vec3(0.f, 0.f, -12.f));
        QVERIFY(settle());
        using Part = PictureHandles::Part;
        const auto place = [&] { return std::get<Vec3>(element("marl").value("position")); };
        const auto at = [&](Part part) { return picture().handles().at(part, picture().size()); };
        for (const Part part : {Part::Move, Part::Turn, Part::Lift, Part::Size})
            QVERIFY(!at(part).isNull());
        const Vec3 before = place();
        drag(picture(), at(Part::Move), at(Part::Move) + QPointF(60, 0));
        QVERIFY(place().x > before.x + 0.5f && std::abs(place().y - before.y) < 1e-4f);
        QVERIFY(settle());
        const QPointF tip = at(Part::Lift);
        drag(picture(), tip, tip - QPointF(0, 40));
        QVERIFY(place().y > 0.2f);
        session().document().undo();
        QCOMPARE(place().y, before.y);
        session().document().undo(); // one step a drag
        QCOMPARE(place(), before);
        QVERIFY(settle());
        drag(picture(), at(Part::Turn), at(Part::Turn) + QPointF(40, 8));
        QVERIFY(std::abs(number("marl", "turn")) > 5.0);
        session().document().undo();
        QCOMPARE(number("marl", "turn"), 0.0);
        QVERIFY(settle());
        const QPointF middle = at(Part::Move), rim = at(Part::Size);
        drag(picture(), rim, middle + (rim - middle) * 1.5);
        QVERIFY(std::abs(number("marl", "scale") - 1.5) < 0.1);
        session().document().undo();
        // Nothing selected, no handles.
        session().selection().setSelected({});
        QVERIFY(at(Part::Move).isNull());
    }

    void aBoxOfFogHasHandlesToo()
    {
        open(test::demo());
        session().document().setValue("mist", "form", std::string("box"));
        session().selection().setSelected("mist");
        QVERIFY(settle());
        const QPointF at = picture().handles().at(PictureHandles::Part::Move, picture().size());
        QVERIFY(!at.isNull());
        const Vec3 before = std::get<Vec3>(element("mist").value("centre"));
        drag(picture(), at, at + QPointF(-50, 0));
        QVERIFY(std::get<Vec3>(element("mist").value("centre")).x < before.x - 0.3f);
    }

    void turningAboutAPlaceGoesByTheLevelInARolledViewToo()
    {
        open(test::demo());
        for (const double roll : {0.0, 30.0, 90.0, -140.0}) {
            session().document().setValue("shot", "roll", roll);
            session().selection().setSelected({});
            session().picture().setFreeCamera({});
            QVERIFY(settle());
            for (const QPointF by : {QPointF(40, 0), QPointF(0, 30), QPointF(-24, 24)}) {
                session().picture().setFreeCamera({});
                const geometry::Camera was = session().picture().camera();
                const geometry::View before(was, picture().width(), picture().height());
                const QPointF middle(0.5 * picture().width(), 0.5 * picture().height());
                const Vec3 far = before.position() + before.forward() * 1000.f;
                drag(picture(), middle, middle + by);
                QVERIFY(session().picture().freeCamera());
                const geometry::Camera now = *session().picture().freeCamera();
                QVERIFY(std::abs(now.roll - was.roll) < 1e-4f);
                Vec2 pixel(0.f);
                float depth = 0.f;
                QVERIFY(geometry::View(now, picture().width(), picture().height()).project(far, pixel, depth));
                // What is far behind the place that is turned about goes the other way than the mouse.
                const QPointF went = middle - QPointF(double(pixel.x), double(pixel.y));
                const double length = std::hypot(went.x(), went.y()), wanted = std::hypot(by.x(), by.y());
                QVERIFY2(length > 0.3 * wanted && (went.x() * by.x() + went.y() * by.y()) > 0.96 * length * wanted,
                         qPrintable(QString("%1: %2 %3").arg(roll).arg(went.x()).arg(went.y())));
            }
        }
        // Straight down there is no level to go by; it turns all the same, and nothing of it is lost.
        session().document().setValue("shot", "roll", 0.0);
        const Vec3 eye = std::get<Vec3>(element("shot").value("position"));
        session().document().setValue("shot", "aim", eye + Vec3(0.f, -3.f, 0.f));
        session().picture().setFreeCamera({});
        QVERIFY(settle());
        drag(picture(), QPointF(200, 150), QPointF(260, 150));
        QVERIFY(session().picture().freeCamera());
        const geometry::Camera turned = *session().picture().freeCamera();
        for (int a = 0; a < 3; ++a)
            QVERIFY(std::isfinite(turned.aim[a]) && std::isfinite(turned.position[a]));
        const geometry::View view(turned, 100, 60), was({eye, eye + Vec3(0.f, -3.f, 0.f), 35.f, 36.f}, 100, 60);
        QVERIFY(std::isfinite(turned.roll) && view.right().dot(was.right()) < 0.995f);
        session().picture().setFreeCamera({});
    }

    void aTiltThroughTheMiddleLeavesNoNumberBehind()
    {
        open(QString(SOURCE_DIR) + "/demo/plate.hygros");
        QVERIFY(settle());
        window_->unfold("plate");
        QVERIFY(press("do:horizon"));
        const double y = picture().horizonY(), middle = 0.5 * picture().width();
        // An end of the line is dragged onto its own middle: what it leaned to before stays.
        drag(picture(), QPointF(picture().width() - 12.0, y), QPointF(middle, y));
        QVERIFY(std::isfinite(std::get<double>(element("shot").value("roll"))));
        QVERIFY(std::isfinite(picture().horizonY()));
        QVERIFY(press("taskDone"));
    }

    void aPlateGetsItsHorizonAndItsCameraHeight()
    {
        open(QString(SOURCE_DIR) + "/demo/plate.hygros");
        QVERIFY(settle());
        const Vec3 eye = std::get<Vec3>(element("shot").value("position"));
        // The camera is as high as it was when the plate was made; somebody lost that.
        session().document().edit("Lose it", [&](scene::Project& p) {
            p.find("shot")->set("position", eye + Vec3(0, 3.f, 0));
            p.find("shot")->set("aim", Vec3(1.6f, 5.35f, -30.f));
        });
        QVERIFY(settle());
        window_->unfold("plate");
        QVERIFY(press("do:horizon"));
        QCOMPARE(session().selection().task().what, Selection::Task::Horizon);
        // All that is said of it stands within the Picture, and its end is in reach.
        const auto* done = window_->findChild<QPushButton*>("taskDone");
        QVERIFY(picture().rect().contains(QRect(done->mapTo(&picture(), QPoint()), done->size())));
        const double y = picture().horizonY();
        QVERIFY(y > 0 && y < picture().height());
        drag(picture(), QPointF(90, y), QPointF(90, y + 40));
        QTRY_VERIFY(std::abs(picture().horizonY() - (y + 40)) < 3.0);
        session().document().undo();
        QTRY_VERIFY(std::abs(picture().horizonY() - y) < 1.0);
        // An end of the line tilts it about its middle: the camera rolls.
        const double right = picture().width() - 12.0;
        drag(picture(), QPointF(right, y), QPointF(right, y - 24));
        QTRY_VERIFY(std::abs(picture().horizonY(right) - (y - 24)) < 3.0);
        QVERIFY(std::abs(picture().horizonY() - y) < 1.0);
        const double leans = std::atan(24.0 / (right - 0.5 * picture().width())) * 180.0 / M_PI;
        QVERIFY(std::abs(std::get<double>(element("shot").value("roll")) - leans) < 0.3);
        // Its middle is dragged up and down as before, and it stays tilted.
        drag(picture(), QPointF(0.5 * picture().width(), y), QPointF(0.5 * picture().width(), y + 20));
        QTRY_VERIFY(std::abs(picture().horizonY() - (y + 20)) < 3.0);
        QVERIFY(std::abs(std::get<double>(element("shot").value("roll")) - leans) < 0.3);
        session().document().undo();
        session().document().undo();
        QCOMPARE(std::get<double>(element("shot").value("roll")), 0.0);
        QTRY_VERIFY(std::abs(picture().horizonY(right) - y) < 1.0);
        QVERIFY(settle());
        // The ground's mark onto the path: the camera stands as high over it as the depth says.
        const QPointF path(picture().width() * 0.15, picture().height() * 0.72);
        const float d = session().picture().distanceAt(
            QPointF(path.x() / picture().width(), path.y() / picture().height()));
        QVERIFY(d > 0.5f && d < 100.f);
        const geometry::View view(session().picture().camera(), picture().width(), picture().height());
        const float drop = -view.direction(static_cast<float>(path.x()), static_cast<float>(path.y())).y * d;
        drag(picture(), picture().groundMark(), path);
        QVERIFY(std::abs(std::get<Vec3>(element("shot").value("position")).y - drop) < 0.05f);
        QTest::keyClick(&picture(), Qt::Key_Escape);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
    }

    void aPlateOfAnotherSizeSaysSoOnItsCard()
    {
        image::Image small(8, 8, {"Y"});
        std::fill(small.pixels.begin(), small.pixels.end(), 5.f);
        image::writeExr(dir_.filePath("small.exr").toStdString(), small);
        open(QString(SOURCE_DIR) + "/demo/plate.hygros");
        window_->unfold("plate");
        session().document().setValue("plate", "depth", dir_.filePath("small.exr").toStdString());
        auto* notes = window_->column().reveal("plate")->findChild<QLabel*>("notes");
        QTRY_VERIFY_WITH_TIMEOUT(window_->column().reveal("plate")->findChild<QLabel*>("notes")->text().contains("8×8"),
                                 20000);
        notes = window_->column().reveal("plate")->findChild<QLabel*>("notes");
        QVERIFY(notes->isVisible());
        // Trouble has a line of its hue beside it.
        QCOMPARE(notes->grab().toImage().pixelColor(1, notes->height() / 2), familyHue(scene::Family::Fire));
        session().document().undo();
        QTRY_VERIFY_WITH_TIMEOUT(!window_->column().reveal("plate")->findChild<QLabel*>("notes")->isVisible(), 20000);
    }

    void aVeilTakesItsDistancesFromTheSetAndItsColoursFromTheRamp()
    {
        open(test::demo());
        QVERIFY(settle());
        window_->column().add("veil");
        const std::string id = session().project().elements.back().id;
        const double far = number(id.c_str(), "far"), near = number(id.c_str(), "near");
        NEAR(near, session().picture().depthQuantile(0.1), 0.02);
        NEAR(far, session().picture().depthQuantile(0.97), 0.02);
        QVERIFY(settle());
        const QImage before = session().picture().state().image;
        auto* ramp = window_->findChild<ColourRamp*>("stops");
        QVERIFY(ramp);
        // Opacity of the last stop down by its knob; a third stop by a click between the flags.
        drag(*ramp, ramp->knobAt(1), ramp->knobAt(1) + QPointF(0, 60));
        const auto stops = [&] { return std::get<scene::ColourStops>(session().project().find(id)->value("stops")); };
        QCOMPARE(stops()[1].opacity, 0.f);
        session().document().undo();
        QVERIFY(stops()[1].opacity > 0.8f);
        const QPointF between = (ramp->flagAt(0) + ramp->flagAt(1)) / 2;
        QTest::mouseClick(ramp, Qt::LeftButton, {}, between.toPoint());
        QCOMPARE(stops().size(), std::size_t{3});
        QTest::keyClick(ramp, Qt::Key_Up);
        QVERIFY(stops()[1].opacity > 0.4f);
        QTest::keyClick(ramp, Qt::Key_Delete);
        QCOMPARE(stops().size(), std::size_t{2});
        QVERIFY(!before.isNull());
    }

    void theTransectZoomsPansAndChangesItsScale()
    {
        open(test::demo());
        QVERIFY(settle());
        TransectView& t = transect();
        const double span = t.farthest() / t.nearest();
        wheel(t, QPointF(t.width() * 0.6, 80), 3);
        QVERIFY(t.farthest() / t.nearest() < 0.6 * span);
        const double top = t.highest();
        wheel(t, QPointF(t.width() * 0.6, t.height() - 60), 2, Qt::ShiftModifier);
        QVERIFY(t.highest() < top);
        const double near = t.nearest();
        QTest::mousePress(&t, Qt::RightButton, {}, QPoint(300, 80));
        QTest::mouseMove(&t, QPoint(240, 80));
        QTest::mouseRelease(&t, Qt::RightButton, {}, QPoint(240, 80));
        QVERIFY(t.nearest() > near);
        QVERIFY(window_->findChild<QPushButton*>("transectAll")->isVisible());
        QVERIFY(press("transectAll"));
        QCOMPARE(t.farthest() / t.nearest(), span);
        QVERIFY(t.isLogarithmic());
        QVERIFY(press("transectScale"));
        QVERIFY(!t.isLogarithmic());
        // A handle is dragged on the even scale as on the other.
        const QPointF handle = t.handlePosition("haze", "visibility");
        QVERIFY(!handle.isNull());
        drag(t, handle, handle - QPointF(60, 0));
        QVERIFY(number("haze", "visibility") < 2400.0);
        session().document().undo();
        QTest::keyClick(&t, Qt::Key_L);
        QVERIFY(t.isLogarithmic());
    }

    void theSelectedCardHasHandlesForAllItsDistancesAndHeights()
    {
        open(test::demo());
        QVERIFY(settle());
        TransectView& t = transect();
        QVERIFY(t.handlePosition("haze", "clear").isNull());
        window_->unfold("haze");
        session().selection().setSelected("haze");
        for (const char* p : {"visibility", "clear", "base"})
            QVERIFY2(!t.handlePosition("haze", p).isNull(), p);
        const QPointF clear = t.handlePosition("haze", "clear");
        drag(t, clear, QPointF(t.width() * 0.4, clear.y()));
        QVERIFY(number("haze", "clear") > 5.0);
        session().document().undo();
        QCOMPARE(number("haze", "clear"), 0.0);
        session().document().setValue("mist", "form", std::string("ground"));
        QVERIFY(settle());
        const QPointF height = t.handlePosition("mist", "height");
        QVERIFY(!height.isNull());
        drag(t, height, height - QPointF(0, 25));
        QVERIFY(number("mist", "height") > 1.3);
    }

    void theCurveUnderTheCursorIsTheRenderersOwn()
    {
        open(test::demo());
        session().picture().setWantedSamples(6);
        QVERIFY(settle());
        const render::Layers layers = session().picture().renderer().layers();
        int compared = 0;
        for (const QPointF& place : {QPointF(0.3, 0.8), QPointF(0.75, 0.62), QPointF(0.5, 0.75), QPointF(0.9, 0.9)}) {
            QTest::mouseMove(&picture(), QPoint(static_cast<int>(place.x() * picture().width()),
                                                static_cast<int>(place.y() * picture().height())));
            QTRY_VERIFY_WITH_TIMEOUT(session().readings().sight().known(), 10000);
            const int x = static_cast<int>(session().selection().cursorPlace().x() * layers.width),
                      y = static_cast<int>(session().selection().cursorPlace().y() * layers.height);
            const auto p = static_cast<std::size_t>(y * layers.width + x);
            // Where one surface fills the pixel its transmittance is the curve's at that surface. (The curve that is
            // known may still be that of the place before.)
            const double wanted = double(layers.transmittance[p * 3]);
            const auto end = [&] { return double(session().readings().sight().distance.back()); };
            const auto drawn = [&] { return transect().transmittanceAt(end()); };
            const auto known = [&] { return session().readings().sight().known(); };
            const auto sameSurface = [&] {
                return known() && std::abs(double(layers.depth[p]) - end()) < 0.01 * end();
            };
            QTest::qWait(200);
            if (sameSurface() && std::abs(drawn() - wanted) < 0.2) {
                QTRY_VERIFY2_WITH_TIMEOUT(known() && std::abs(drawn() - wanted) < 1e-3,
                                          qPrintable(QString("%1 %2").arg(drawn()).arg(wanted)), 10000);
                ++compared;
            }
        }
        QVERIFY(compared >= 2);
    }

    void pointingInTheTransectShowsTheDistanceInThePicture()
    {
        open(test::demo());
        QVERIFY(settle());
        const auto grab = [&] { return picture().grab().toImage(); };
        const QImage before = grab();
        QTest::mouseMove(&transect(), QPoint(transect().width() / 2, 30));
        QVERIFY(session().selection().cursorDistance() > 5.0);
        const QImage with = grab();
        int changed = 0;
        for (int y = 0; y < with.height(); ++y)
            for (int x = 0; x < with.width(); ++x)
                changed += with.pixel(x, y) != before.pixel(x, y);
        QVERIFY(changed > 200);
    }

    void recipesAreFittedToTheSetsDepth()
    {
        open(test::demo());
        QVERIFY(settle());
        auto* recipes = window_->findChild<QPushButton*>("recipes");
        QAction *fit = nullptr, *mist = nullptr;
        for (QAction* a : recipes->menu()->actions()) {
            fit = a->objectName() == "fitRecipes" ? a : fit;
            mist = a->text() == "River mist" ? a : mist;
        }
        QVERIFY(fit && mist);
        fit->setChecked(true);
        mist->trigger();
        const scene::Element& haze = *(session().project().elements.end() - 2);
        const double scale = double(session().picture().depthQuantile(0.9)) / 600.0;
        NEAR(std::get<double>(haze.value("visibility")), 3000.0 * scale, 0.02);
        fit->setChecked(false);
    }

    void aBankFillsAChosenSetObject()
    {
        open(test::demo());
        window_->unfold("mist");
        session().document().setValue("mist", "form", std::string("object"));
        QTRY_VERIFY_WITH_TIMEOUT(!session().picture().notes("mist").empty(), 20000);
        QVERIFY(session().picture().notes("mist")[0].contains("Choose the set object"));
        auto* choose = window_->column().reveal("mist")->findChild<QPushButton*>("object");
        QVERIFY(choose && choose->menu());
        Q_EMIT choose->menu()->aboutToShow();
        QCOMPARE(choose->menu()->actions().size(), 1);
        choose->menu()->actions()[0]->trigger();
        QCOMPARE(std::get<std::string>(element("mist").value("object")), std::string("marl"));
    }
};
QTEST_MAIN(TestAir)
#include "test_air.moc"
