/// Lamps by hand: placing, aiming, dragging a cone in the Transect, a gobo, Reach, and the beams delivered alone.
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/export_dialog.h"
#include "app/lamp_drawings.h"
#include "app/picture_view.h"
#include "app/reach_view.h"
#include "app/transect_view.h"
#include "image/image.h"
#include "light/gobo.h"
#include "window_support.h"

#include <QCheckBox>
#include <QFileDialog>
#include <QLineEdit>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>
#include <QSpinBox>
#include <QTimer>
#include <fstream>

using namespace hygros;
using namespace hygros::app;
using test::drag;

class TestLights : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    PictureView& picture() { return window_->picture(); }
    TransectView& transect() { return window_->transect(); }
    const scene::Element& element(const std::string& id) { return *session().project().find(id); }
    double number(const std::string& id, const char* parameter)
    {
        return std::get<double>(element(id).value(parameter));
    }
    Vec3 point(const std::string& id, const char* parameter) { return std::get<Vec3>(element(id).value(parameter)); }
    bool settle() { return test::settle(session()); }
    QAction* action(const char* menu, const QString& text) { return test::menuAction(*window_, menu, text); }
    bool press(const char* name) { return test::pressButton(*window_, name); }
    Vec3 seenAt(const QPoint& p)
    {
        const geometry::View view(session().picture().camera(), picture().width(), picture().height());
        geometry::Hit hit;
        const Vec3 d = view.direction(static_cast<float>(p.x()), static_cast<float>(p.y()));
        return session().picture().shot()->scene->trace(view.position(), d, 1e-3f, 1e4f, hit)
                   ? view.position() + d * hit.t
                   : Vec3(0.f);
    }
    QPoint pixelOf(const Vec3& world) { return test::pixelOf(session(), picture(), world); }

    /// Chooses a file in the dialog that is about to open.
    void answerWith(const QString& file)
    {
        QTimer::singleShot(200, this, [file] {
            auto* dialog = qobject_cast<QFileDialog*>(QApplication::activeModalWidget());
            QVERIFY(dialog);
            auto* name = dialog->findChild<QLineEdit*>();
            name->setText(file);
            QTest::keyClick(name, Qt::Key_Return);
        });
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1197, 760);
        session().picture().setWantedSamples(1);
        window_->show();
        session().open(QString(SOURCE_DIR) + "/demo/first-light.hygros");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
    }
    void cleanup() { window_.reset(); }

    void aSpotIsPlacedAimedDraggedAndUndone()
    {
        QVERIFY(settle());
        const std::string before = scene::toJson(session().project());
        const QAction* undo = action("Edit", "Undo");
        QVERIFY(undo);
        action("Add", "Spot lamp")->trigger();
        const std::string id = session().project().elements.back().id;
        QCOMPARE(element(id).kind->id, std::string("spot"));
        window_->unfold(id);
        QVERIFY(press("do:place"));
        QCOMPARE(session().selection().task().what, Selection::Task::PlaceLamp);
        // On the towpath, to the left behind the gate.
        const QPoint path = pixelOf(Vec3(-4.f, 0.5f, -16.f));
        const Vec3 ground = seenAt(path);
        QVERIFY(ground.length2() > 0.f);
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, path);
        QVERIFY((point(id, "position") - (ground + Vec3(0.f, 3.6f, 0.f))).length() < 0.05f);
        // Then what it shines at.
        QCOMPARE(session().selection().task().what, Selection::Task::AimLamp);
        QVERIFY(settle());
        const QPoint target = pixelOf(Vec3(-5.f, 0.5f, -20.f));
        const Vec3 seen = seenAt(target);
        QTest::mouseClick(&picture(), Qt::LeftButton, {}, target);
        QCOMPARE(session().selection().task().what, Selection::Task::Nothing);
        QVERIFY((point(id, "aim") - seen).length() < 0.05f);
        QVERIFY(settle());
        // The cone's rim in the Transect.
        session().selection().setSelected(id);
        const QPointF rim = transect().handlePosition(id, "angle");
        QVERIFY(!rim.isNull());
        const double angle = number(id, "angle");
        const QPointF foot = transect().handlePosition(id, "aim");
        drag(transect(), rim, rim + (rim - foot) * 0.6);
        QVERIFY2(number(id, "angle") > angle + 3.0, qPrintable(QString::number(number(id, "angle"))));
        // And its place, which moves away and up there.
        QVERIFY(settle());
        const Vec3 place = point(id, "position");
        const QPointF at = transect().handlePosition(id, "position");
        drag(transect(), at, at + QPointF(30, -20));
        QVERIFY(point(id, "position").y > place.y + 0.05f);
        QVERIFY((point(id, "position") - session().picture().camera().position).length() >
                (place - session().picture().camera().position).length());
        // A gobo, by its choice on the card.
        QVERIFY(press("gobo=window") || session().document().setValue(id, "gobo", std::string("window")));
        QVERIFY(settle());
        const auto& lamps = session().picture().shot()->lamps;
        const auto lamp = std::find_if(lamps.begin(), lamps.end(), [&](const light::Lamp& l) { return l.id == id; });
        QVERIFY(lamp != lamps.end() && lamp->gobo);
        // A Reach cell.
        window_->bench().showPage("Reach");
        auto* reach = window_->findChild<ReachView*>("reach");
        QVERIFY(reach && reach->isVisible());
        QTest::mouseClick(reach->viewport(), Qt::LeftButton, {}, reach->cellPosition(id, "haze"));
        QCOMPARE(element(id).reachTo("haze"), 0.0);
        QVERIFY(settle());
        // Everything comes back, step by step.
        for (int i = 0; i < 40 && scene::toJson(session().project()) != before; ++i)
            action("Edit", "Undo")->trigger();
        QCOMPARE(scene::toJson(session().project()), before);
    }

    void reachIsSetByMouseAndKeysForCellsRowsAndColumns()
    {
        QVERIFY(settle());
        window_->bench().showPage("Reach");
        QTest::qWait(50);
        auto& reach = *window_->findChild<ReachView*>("reach");
        QWidget& table = *reach.viewport();
        const QPoint cell = reach.cellPosition("lamp", "mist");
        QVERIFY(!cell.isNull());
        QTest::mouseClick(&table, Qt::LeftButton, {}, cell);
        QCOMPARE(element("lamp").reachTo("mist"), 0.0);
        QTest::mouseClick(&table, Qt::LeftButton, {}, cell);
        QCOMPARE(element("lamp").reachTo("mist"), 1.0);
        // Dragging up strengthens, in one step.
        const auto steps = session().document().history().canUndo();
        QVERIFY(steps);
        QTest::mousePress(&table, Qt::LeftButton, {}, cell);
        for (int i = 1; i <= 10; ++i)
            QTest::mouseMove(&table, cell - QPoint(0, 2 * i));
        QTest::mouseRelease(&table, Qt::LeftButton, {}, cell - QPoint(0, 20));
        QVERIFY(element("lamp").reachTo("mist") > 1.2);
        session().document().undo();
        QCOMPARE(element("lamp").reachTo("mist"), 1.0);
        // A typed number, then the row by its name.
        QTest::mouseClick(&table, Qt::LeftButton, {}, cell);
        QTest::keyClicks(&reach, "0.25");
        QTest::keyClick(&reach, Qt::Key_Return);
        QCOMPARE(element("lamp").reachTo("mist"), 0.25);
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.rowNamePosition("lamp"));
        for (const char* target : {"haze", "mist", "marl"})
            QCOMPARE(element("lamp").reachTo(target), 0.0);
        // The sky has a row of its own.
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.cellPosition("sky", "haze"));
        QCOMPARE(element("sun").reachTo("sky/haze"), 0.0);
        QCOMPARE(element("sun").reachTo("haze"), 1.0);
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.columnNamePosition("haze"));
        QCOMPARE(element("sun").reachTo("haze"), 0.0);
        // What the passes cost stands beside, once measured.
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().costs().count("haze") == 1, 20000);
        QVERIFY(session().picture().costs().at("haze") > 0.0 && session().picture().costs().at("haze") < 1.0);
        // Saved and read again.
        const QString file = dir_.filePath("reach.hygros");
        QVERIFY(session().document().save(file));
        session().open(file);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QCOMPARE(element("sun").reachTo("sky/haze"), 0.0);
        QCOMPARE(element("lamp").reachTo("marl"), 0.0);
    }

    void reachOpensTheObjectsOfASetAndRowsAreCopied()
    {
        QVERIFY(settle());
        window_->bench().showPage("Reach");
        QTest::qWait(50);
        auto& reach = *window_->findChild<ReachView*>("reach");
        QWidget& table = *reach.viewport();
        QVERIFY(reach.cellPosition("lamp", "marl/water").isNull());
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.objectsPosition("marl"));
        QVERIFY(!reach.cellPosition("lamp", "marl/towpath").isNull());
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.cellPosition("lamp", "marl/ground"));
        QCOMPARE(element("lamp").reachTo("marl/ground"), 0.0);
        QVERIFY(settle());
        const auto& ids = session().picture().shot()->setIds;
        const auto at = static_cast<std::size_t>(std::find(ids.begin(), ids.end(), "marl/ground") - ids.begin());
        QCOMPARE(session().picture().shot()->lamps[0].setReach.at(at), 0.f);
        // Closed again, what is not as usual stays in sight.
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.objectsPosition("marl"));
        QVERIFY(!reach.cellPosition("lamp", "marl/ground").isNull() &&
                reach.cellPosition("lamp", "marl/towpath").isNull());
        // A row is copied and pasted onto another.
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.cellPosition("lamp", "mist"));
        QCOMPARE(element("lamp").reachTo("mist"), 0.0);
        QTest::keySequence(&reach, QKeySequence::Copy);
        QTest::mouseClick(&table, Qt::LeftButton, {}, reach.cellPosition("sun", "haze"));
        QTest::keySequence(&reach, QKeySequence::Paste);
        QCOMPARE(element("sun").reachTo("mist"), 0.0);
        QCOMPARE(element("sun").reachTo("marl/ground"), 0.0);
        QCOMPARE(element("sun").reachTo("haze"), 1.0);
        // The card says what the lamp costs.
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().costText("lamp").contains("%"), 20000);
    }

    void aGoboIsDrawnPointByPoint()
    {
        session().document().setValue("lamp", "gobo", std::string("drawn"));
        window_->unfold("lamp");
        Card* card = window_->column().reveal("lamp");
        QVERIFY(card);
        QTRY_VERIFY(card->findChild<GoboPad*>("goboPad"));
        auto& pad = *card->findChild<GoboPad*>("goboPad");
        pad.resize(280, 200);
        const auto click = [&](float x, float y, Qt::MouseButton button = Qt::LeftButton) {
            QTest::mouseClick(&pad, button, {}, pad.toWidget(Vec2(x, y)).toPoint());
        };
        // A square beside the triangle that is there.
        for (const auto& [x, y] : {std::pair(0.6f, 0.6f), {0.9f, 0.6f}, {0.9f, 0.9f}, {0.6f, 0.9f}})
            click(x, y);
        click(0.6f, 0.6f);
        const auto outlines = light::outlinesOf(std::get<std::string>(element("lamp").value("goboDrawing")));
        QCOMPARE(outlines.size(), std::size_t{2});
        QCOMPARE(outlines[1].size(), std::size_t{4});
        QVERIFY(std::abs(outlines[1][2].x - 0.9f) < 0.02f && std::abs(outlines[1][2].y - 0.9f) < 0.02f);
        QVERIFY(settle());
        QVERIFY(session().picture().shot()->lamps[0].gobo);
        // A point is dragged in one step, another taken away.
        const QPoint from = pad.toWidget(Vec2(-0.5f, -0.5f)).toPoint(), to = pad.toWidget(Vec2(-0.8f, -0.2f)).toPoint();
        QTest::mousePress(&pad, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 5; ++i)
            QTest::mouseMove(&pad, from + (to - from) * i / 5);
        QTest::mouseRelease(&pad, Qt::LeftButton, {}, to);
        const auto dragged = light::outlinesOf(std::get<std::string>(element("lamp").value("goboDrawing")));
        QVERIFY(std::abs(dragged[0][0].x + 0.8f) < 0.03f && std::abs(dragged[0][0].y + 0.2f) < 0.03f);
        session().document().undo();
        QVERIFY(light::outlinesOf(std::get<std::string>(element("lamp").value("goboDrawing"))) == outlines);
        click(0.9f, 0.9f, Qt::RightButton);
        QCOMPARE(light::outlinesOf(std::get<std::string>(element("lamp").value("goboDrawing")))[1].size(),
                 std::size_t{3});
    }

    void aLampGoesWithTheSetItIsFixedTo()
    {
        const Vec3 world = session().document().placeOf("lamp", "position");
        session().document().setValue("marl", "turn", 90.0);
        session().document().setValue("lamp", "follows", std::string("marl"));
        QVERIFY((session().document().placeOf("lamp", "position") - world).length() < 1e-3f); // it stays where it is
        session().document().setValue("marl", "position", Vec3(3.f, 0.f, 1.f));
        QVERIFY((session().document().placeOf("lamp", "position") - world - Vec3(3.f, 0.f, 1.f)).length() < 1e-3f);
        QVERIFY(settle());
        QVERIFY((session().picture().shot()->lamps[0].position - world - Vec3(3.f, 0.f, 1.f)).length() < 1e-3f);
        // Set free it stays as well.
        session().document().setValue("lamp", "follows", std::string());
        QVERIFY((point("lamp", "position") - world - Vec3(3.f, 0.f, 1.f)).length() < 1e-3f);
    }

    void anUnfoldedCardIsBroughtIntoSight()
    {
        session().open(QString(SOURCE_DIR) + "/demo/lamps.hygros");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 240000);
        window_->unfold("window");
        Card* card = window_->column().reveal("window");
        QVERIFY(card && card->isOpen());
        QTRY_VERIFY(!card->visibleRegion().isEmpty());
    }

    void beamsAreDeliveredAloneWithTheSetHeldOut()
    {
        QVERIFY(settle());
        ExportDialog dialog(session());
        dialog.show();
        const QString file = dir_.filePath("beams.exr");
        dialog.findChild<QLineEdit*>("exportFile")->setText(file);
        dialog.findChild<QSpinBox*>("exportWidth")->setValue(160);
        dialog.findChild<QSpinBox*>("exportHeight")->setValue(90);
        dialog.findChild<QSpinBox*>("exportSamples")->setValue(3);
        dialog.findChild<QCheckBox*>("exportLamps")->setChecked(true);
        dialog.findChild<QCheckBox*>("exportHoldout")->setChecked(true);
        QTest::mouseClick(dialog.findChild<QPushButton*>("exportGo"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 240000);
        QVERIFY(QFileInfo::exists(file));
        const image::Image out = image::readImage(file.toStdString());
        for (const char* name :
             {"R", "A", "air.lamp.R", "air.sun.G", "set.lamp.B", "shadow.sun.R", "set.own.R", "depth.Z"})
            QVERIFY2(out.channel(name) >= 0, name);
        const auto at = [&](const char* name, int x, int y) { return double(out.at(x, y)[out.channel(name)]); };
        // The ground in front is held out: black but for the air, its alpha what the air covers.
        int held = 0;
        for (int y = 60; y < 90; y += 3)
            for (int x = 4; x < 156; x += 7) {
                const double t = at("transmittance.G", x, y);
                if (at("depth.Z", x, y) > 100.0)
                    continue;
                ++held;
                QVERIFY(std::abs(at("G", x, y) - at("air.G", x, y)) < 1e-4 + 1e-3 * at("air.G", x, y));
                QVERIFY(std::abs(at("A", x, y) - (1.0 - t)) < 0.02);
                QCOMPARE(at("set.lamp.G", x, y), 0.0);
            }
        QVERIFY(held > 50);
        // And the project itself holds nothing out.
        QVERIFY(!std::get<bool>(element("marl").value("matte")));
    }

    void aColourTableIsChosenSeenAndDelivered()
    {
        // Turns red and blue over; chosen in the dialog, from a folder of its own.
        const QString file = dir_.filePath("turned.cube");
        {
            std::ofstream out(file.toStdString());
            out << "TITLE \"turned\"\nLUT_3D_SIZE 2\n";
            for (int i = 0; i < 8; ++i)
                out << (i >> 2) << ' ' << (i >> 1 & 1) << ' ' << (i & 1) << '\n';
        }
        QVERIFY(settle());
        // More red than blue, or less, in the lower half.
        const auto warmth = [&] {
            const QImage seen = picture().grab().toImage();
            double sum = 0.0;
            for (int y = seen.height() / 2; y < seen.height(); ++y)
                for (int x = 0; x < seen.width(); ++x)
                    sum += qRed(seen.pixel(x, y)) - qBlue(seen.pixel(x, y));
            return sum / (seen.width() * seen.height() / 2.0);
        };
        const double before = warmth();
        QVERIFY(std::abs(before) > 2.0);
        window_->chooseFamily(scene::Family::Finish);
        QVERIFY(window_->column().reveal("look"));
        window_->column().reveal("look")->setOpen(true);
        const auto button = [&](const char* name) {
            return window_->column().reveal("look")->findChild<QPushButton*>(name);
        };
        auto* choose = button("table");
        QTRY_VERIFY(choose && choose->isVisible());
        const auto asks = [&] { return button("tableTakes=ACEScct") && button("tableTakes=ACEScct")->isVisible(); };
        QVERIFY(!asks());
        answerWith(file);
        choose->click();
        QVERIFY(settle());
        QTRY_COMPARE(button("table")->text(), QString("turned.cube"));
        QTRY_VERIFY(asks());
        QTRY_VERIFY2(std::abs(warmth() + before) < 0.15 * std::abs(before) + 0.5,
                     qPrintable(QString("%1 %2").arg(warmth()).arg(before)));
        // By half of it nothing is left of either.
        QVERIFY(test::typeInto(*window_, "tableShare", "50 %"));
        QVERIFY(settle());
        QTRY_VERIFY(std::abs(warmth()) < 0.15 * std::abs(before) + 0.5);
        action("Edit", "Undo")->trigger();
        QVERIFY(settle());
        QTRY_VERIFY(std::abs(warmth() + before) < 0.15 * std::abs(before) + 0.5);
        // A file that is damaged since: words on the card, the picture as without, and what was set stays.
        std::ofstream(file.toStdString()) << "LUT_3D_SIZE 2\n0 0 0\n";
        session().document().setValue("look", "exposure", number("look", "exposure") + 0.001);
        QVERIFY(settle());
        QTRY_VERIFY(std::abs(warmth() - before) < 0.15 * std::abs(before) + 0.5);
        QVERIFY(test::isTold(*window_, "ends after 1 of 8 lines"));
        QCOMPARE(button("table")->text(), QString("turned.cube"));
    }

    void aColourConfigurationIsChosenByItsNames()
    {
        // Two displays; on the second red and blue have changed places.
        const QString file = dir_.filePath("grey & green.ocio");
        std::ofstream(file.toStdString()) << R"(ocio_profile_version: 2
roles: {default: raw, scene_linear: ours}
file_rules: [!<Rule> {name: Default, colorspace: default}]
displays:
  Panel: [!<View> {name: Plain, colorspace: panel}, !<View> {name: Dim, colorspace: dim}]
  Lamp & wall: [!<View> {name: Turned, colorspace: turned}]
active_displays: [Panel, Lamp & wall]
colorspaces:
  - !<ColorSpace> {name: ours}
  - !<ColorSpace> {name: raw, isdata: true}
  - !<ColorSpace> {name: panel, from_scene_reference: !<ExponentTransform> {value: [0.45, 0.45, 0.45, 1]}}
  - !<ColorSpace> {name: dim, from_scene_reference: !<ExponentTransform> {value: [2, 2, 2, 1]}}
  - !<ColorSpace>
    name: turned
    from_scene_reference: !<GroupTransform>
      children:
        - !<MatrixTransform> {matrix: [0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 0, 0, 0, 0, 1]}
        - !<ExponentTransform> {value: [0.45, 0.45, 0.45, 1]}
)";
        QVERIFY(settle());
        const auto sum = [&](const auto& of) {
            const QImage seen = picture().grab().toImage();
            double all = 0.0;
            for (int y = seen.height() / 2; y < seen.height(); ++y)
                for (int x = 0; x < seen.width(); ++x)
                    all += of(seen.pixel(x, y));
            return all / (seen.width() * seen.height() / 2.0);
        };
        const auto warmth = [&] { return sum([](QRgb p) { return double(qRed(p) - qBlue(p)); }); };
        const auto bright = [&] { return sum([](QRgb p) { return double(qGreen(p)); }); };
        window_->chooseFamily(scene::Family::Finish);
        window_->column().reveal("look")->setOpen(true);
        const auto button = [&](const char* name) {
            return window_->column().reveal("look")->findChild<QPushButton*>(name);
        };
        QTRY_VERIFY(button("config") && button("config")->isVisible());
        QVERIFY(!button("display") || !button("display")->isVisible());
        answerWith(file);
        button("config")->click();
        QVERIFY(settle());
        QCOMPARE(button("config")->text(), QString("grey && green.ocio"));
        QTRY_COMPARE(button("display")->text(), QString("Panel (by itself)"));
        QTRY_COMPARE(button("view")->text(), QString("Plain (by itself)"));
        QTRY_VERIFY(test::isTold(*window_, "Shown on Panel, view Plain"));
        const double warm = warmth(), light = bright();
        QVERIFY(std::abs(warm) > 2.0);
        const auto choose = [&](const char* of, const QString& name) {
            QMenu* menu = button(of)->menu();
            Q_EMIT menu->aboutToShow();
            for (QAction* a : menu->actions())
                if (a->text() == name)
                    return a->trigger(), true;
            return false;
        };
        QVERIFY(choose("view", "Dim"));
        QVERIFY(settle());
        QTRY_VERIFY(bright() < 0.7 * light);
        QCOMPARE(button("view")->text(), QString("Dim"));
        // Another display has other views: the first of them, and the old name is not kept.
        QVERIFY(choose("display", "Lamp && wall"));
        QVERIFY(settle());
        QTRY_COMPARE(button("view")->text(), QString("Turned (by itself)"));
        QTRY_VERIFY2(std::abs(warmth() + warm) < 0.15 * std::abs(warm) + 0.5,
                     qPrintable(QString("%1 %2").arg(warmth()).arg(warm)));
        // One step back is the display and the view that went with it.
        action("Edit", "Undo")->trigger();
        QVERIFY(settle());
        QTRY_COMPARE(button("view")->text(), QString("Dim"));
        QTRY_VERIFY(bright() < 0.7 * light);
        // Damaged since: words on the card, shown by the look alone, nothing forgotten.
        std::ofstream(file.toStdString()) << "ocio_profile_version: 2\nno more";
        session().document().setValue("look", "exposure", number("look", "exposure") + 0.001);
        QVERIFY(settle());
        QTRY_VERIFY(test::isTold(*window_, "no OpenColorIO configuration that can be used"));
        QTRY_COMPARE(button("view")->text(), QString("Dim"));
        QTRY_VERIFY(bright() > 0.7 * light);
    }
};
QTEST_MAIN(TestLights)
#include "test_lights.moc"
