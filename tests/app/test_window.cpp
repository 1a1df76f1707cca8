/// Drives the real window with mouse and keys on the First light demo.
#include "app/bench.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/lead_ruler.h"
#include "app/main_window.h"
#include "app/picture_view.h"
#include "app/planes_view.h"
#include "app/theme.h"
#include "app/transect_view.h"
#include "image/image.h"
#include "window_support.h"

#include <QCheckBox>
#include <QClipboard>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <set>

using namespace hygros;
using namespace hygros::app;

class TestWindow : public QObject {
    Q_OBJECT
    static constexpr double replayTolerance = 0.03; ///< mean levels of 255
    QTemporaryDir dir_;
    std::unique_ptr<MainWindow> window_;

    Session& session() { return window_->session(); }
    double value(const char* element, const char* parameter)
    {
        return std::get<double>(session().project().find(element)->value(parameter));
    }
    /// Waits for the clean picture of whatever the project says now.
    QImage cleanPicture()
    {
        const auto start = QDateTime::currentMSecsSinceEpoch();
        while (QDateTime::currentMSecsSinceEpoch() - start < 90000) {
            if (session().picture().isSettled())
                return session().picture().state().image;
            QTest::qWait(20);
        }
        return {};
    }
    /// The clean picture after one edit and its undo. Passes lit the first time see fewer antialiasing samples than
    /// when they are lit again, so that only replayed pictures can be compared to the last digit.
    QImage replayedPicture()
    {
        cleanPicture();
        session().document().setValue("look", "exposure", -9.0);
        session().document().undo();
        return cleanPicture();
    }
    static double difference(const QImage& a, const QImage& b)
    {
        if (a.size() != b.size() || a.isNull())
            return 1e9;
        double sum = 0.0;
        for (int y = 0; y < a.height(); ++y)
            for (int x = 0; x < a.width(); ++x)
                sum += std::abs(qGray(a.pixel(x, y)) - qGray(b.pixel(x, y)));
        return sum / (a.width() * a.height());
    }
    void open(const QString& file)
    {
        session().open(file);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QCOMPARE(session().document().file(), file);
    }
    Card* card(const char* id) { return window_->column().reveal(id); }
    void type(LeadRuler* ruler, const QString& text)
    {
        QVERIFY(ruler);
        // A click on the value opens it for typing.
        QTest::mouseClick(ruler, Qt::LeftButton, {}, QPoint(ruler->width() - 12, 10));
        auto* field = ruler->findChild<QLineEdit*>();
        QVERIFY(field);
        QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 700);
        session().picture().setWantedSamples(2);
        window_->show();
        open(test::demo());
    }
    void cleanup() { window_.reset(); }

    void theDemoOpensWithAPicture()
    {
        const QImage picture = cleanPicture();
        QVERIFY(!picture.isNull());
        int lo = 255, hi = 0;
        for (int x = 0; x < picture.width(); x += 3)
            for (int y = 0; y < picture.height(); y += 3) {
                lo = std::min(lo, qGray(picture.pixel(x, y)));
                hi = std::max(hi, qGray(picture.pixel(x, y)));
            }
        QVERIFY2(lo < 70 && hi > 200, qPrintable(QString("%1…%2").arg(lo).arg(hi)));
        QVERIFY(card("haze") && card("mist"));
        QVERIFY(window_->windowTitle().startsWith("First light"));
    }

    void aStartWithAMissingFileSaysSoAndStillShowsAPicture()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(1097, 700);
        session().picture().setWantedSamples(1);
        session().openAtStart(dir_.filePath("gone.hygros"));
        window_->show();
        QTRY_VERIFY_WITH_TIMEOUT(window_->message().contains("gone.hygros"), 10000);
        QVERIFY(!cleanPicture().isNull());
        QVERIFY(session().document().file().isEmpty());
    }

    void planesAreMeasuredFromWhatIsDelivered()
    {
        cleanPicture();
        QTest::qWait(200);
        QVERIFY(session().readings().planes().planes.empty()); // nobody looks, nothing is measured
        QTest::mouseClick(window_->findChild<QPushButton*>("page:Planes"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().planes().planes.size() == 3, 20000);
        QCOMPARE(window_->bench().shownPage(), QString("Planes"));
        // Drag the first border to the left; the planes follow.
        PlanesView& view = window_->planes();
        const float before = session().readings().planeBorders()[0];
        const QPoint from = view.borderPosition(0).toPoint() + QPoint(0, 4);
        QTest::mousePress(&view, Qt::LeftButton, {}, from);
        QTest::mouseMove(&view, from - QPoint(40, 0));
        QTest::mouseRelease(&view, Qt::LeftButton, {}, from - QPoint(40, 0));
        QVERIFY(session().readings().planeBorders()[0] < before * 0.8f);
        QTRY_VERIFY_WITH_TIMEOUT(
            std::abs(session().readings().planes().planes[0].to - session().readings().planeBorders()[0]) < 1e-3f,
            20000);
        // The same numbers from the layers that an export would write.
        const render::Layers l = session().picture().renderer().layers();
        double sum = 0.0, n = 0.0;
        for (std::size_t i = 0; i < l.pixels(); ++i) {
            if (l.depth[i] >= session().readings().planeBorders()[0])
                continue;
            double y = 0.0;
            const double weights[3] = {0.2126, 0.7152, 0.0722};
            for (std::size_t c = 0; c < 3; ++c)
                y += weights[c] * double(l.plate[i * 3 + c] * l.transmittance[i * 3 + c] + l.air[i * 3 + c]);
            sum += std::log2(std::max(1e-6, y) / 0.18);
            n += 1.0;
        }
        QTRY_VERIFY_WITH_TIMEOUT(std::abs(double(session().readings().planes().planes[0].meanStops) - sum / n) < 1e-3,
                                 20000);
        QCOMPARE(session().readings().planes().planes[0].pixels, static_cast<std::size_t>(n));
        QTest::mouseDClick(&view, Qt::LeftButton, {}, QPoint(view.width() / 2, view.height() - 20));
        QTRY_COMPARE_WITH_TIMEOUT(session().readings().planeBorders()[0], before, 20000);
    }

    void aClickDropsAPinWhoseSoundingEqualsThePicture()
    {
        cleanPicture();
        PictureView& picture = window_->picture();
        const QPoint at(picture.width() * 3 / 4, picture.height() * 2 / 3);
        QTest::mouseClick(&picture, Qt::LeftButton, {}, at);
        QCOMPARE(session().readings().pins().size(), std::size_t{1});
        QCOMPARE(window_->bench().shownPage(), QString("Sounding"));
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().sounding() && session().readings().sounding()->known(), 20000);
        const render::Sounding s = *session().readings().sounding();
        const render::Layers l = session().picture().renderer().layers();
        const auto p = static_cast<std::size_t>(at.y() * l.width + at.x());
        QVERIFY(std::abs(double(s.depth - l.depth[p])) < 1e-3 * double(l.depth[p]));
        QVERIFY2(std::abs(double(s.transmittance.back() - l.transmittance[p * 3])) < 1e-3,
                 qPrintable(
                     QString("%1 against %2").arg(double(s.transmittance.back())).arg(double(l.transmittance[p * 3]))));
        const double air = double(luminance(s.airLight())),
                     delivered = double(luminance(Vec3(l.air[p * 3], l.air[p * 3 + 1], l.air[p * 3 + 2])));
        QVERIFY2(std::abs(air - delivered) < 0.02 * delivered,
                 qPrintable(QString("%1 against %2").arg(air).arg(delivered)));
        QTest::mouseClick(window_->findChild<QPushButton*>("copySounding"), Qt::LeftButton);
        const QStringList lines = QGuiApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts);
        QCOMPARE(lines.size(), static_cast<qsizetype>(s.distance.size()) + 1);
        QVERIFY(lines[0].startsWith("distance_m,transmittance") && lines[0].contains("mist light"));
        QVERIFY(std::abs(lines.last().split(',')[1].toDouble() - double(s.transmittance.back())) < 1e-4);
        QTest::mouseClick(window_->findChild<QPushButton*>("removePin"), Qt::LeftButton);
        QVERIFY(session().readings().pins().empty());
    }

    void theValueStudyShowsFlatTones()
    {
        cleanPicture();
        session().picture().setValueStudy(4);
        QImage shown = window_->picture().grab().toImage();
        std::set<int> tones;
        for (int y = 40; y < shown.height() - 40; ++y)
            for (int x = 0; x < shown.width(); ++x)
                tones.insert(qGray(shown.pixel(x, y)));
        QVERIFY2(tones.size() == 4, qPrintable(QString::number(tones.size())));
        session().picture().setValueStudy(0);
        shown = window_->picture().grab().toImage();
        tones.clear();
        for (int x = 0; x < shown.width(); ++x)
            tones.insert(qGray(shown.pixel(x, shown.height() / 2)));
        QVERIFY(tones.size() > 20);
    }

    void draggingTheBanksTopInTheTransectChangesParameterFileAndPicture()
    {
        const QImage before = cleanPicture();
        const double top = value("mist", "top");
        TransectView& t = window_->transect();
        const QPoint handle = t.handlePosition("mist", "top").toPoint();
        QVERIFY(!handle.isNull());
        QTest::mousePress(&t, Qt::LeftButton, {}, handle);
        for (int i = 1; i <= 8; ++i)
            QTest::mouseMove(&t, handle - QPoint(0, 5 * i));
        QTest::mouseRelease(&t, Qt::LeftButton, {}, handle - QPoint(0, 40));
        const double raised = value("mist", "top");
        QVERIFY2(raised > top + 2.0, qPrintable(QString::number(raised)));
        QVERIFY(difference(cleanPicture(), before) > 1.0);
        const QString file = dir_.filePath("dragged.hygros");
        QVERIFY(session().document().save(file));
        QFile f(file);
        QVERIFY(f.open(QIODevice::ReadOnly));
        const auto json = nlohmann::json::parse(f.readAll().toStdString());
        bool found = false;
        for (const auto& e : json["elements"])
            if (e["id"] == "mist") {
                QCOMPARE(e["settings"]["top"].get<double>(), raised);
                found = true;
            }
        QVERIFY(found);
    }

    void aWholeDragIsOneUndoStep()
    {
        const double top = value("mist", "top"), base = value("mist", "base");
        TransectView& t = window_->transect();
        QTest::qWait(100);
        const auto drag = [&](const char* parameter, int up) {
            const QPoint handle = t.handlePosition("mist", parameter).toPoint();
            QTest::mousePress(&t, Qt::LeftButton, {}, handle);
            for (int i = 1; i <= 5; ++i)
                QTest::mouseMove(&t, handle - QPoint(0, up * i / 5));
            QTest::mouseRelease(&t, Qt::LeftButton, {}, handle - QPoint(0, up));
        };
        drag("top", 30);
        drag("base", 12);
        QVERIFY(value("mist", "top") > top && value("mist", "base") > base);
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(value("mist", "base"), base);
        QVERIFY(value("mist", "top") > top);
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(value("mist", "top"), top);
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(value("mist", "top") > top);
    }

    void hazeVisibilityIsDraggedAlongTheDistance()
    {
        TransectView& t = window_->transect();
        QTest::qWait(100);
        const QPoint handle = t.handlePosition("haze", "visibility").toPoint();
        QTest::mousePress(&t, Qt::LeftButton, {}, handle);
        QTest::mouseMove(&t, handle - QPoint(150, 0));
        QTest::mouseRelease(&t, Qt::LeftButton, {}, handle - QPoint(150, 0));
        QVERIFY(value("haze", "visibility") < 1500.0 && value("haze", "visibility") > 100.0);
    }

    void twoKilometresIsTypedAndUndoneTwice()
    {
        auto* ruler = card("haze")->findChild<LeadRuler*>("visibility");
        type(ruler, "2 km");
        QCOMPARE(value("haze", "visibility"), 2000.0);
        type(ruler, "0.01 /m");
        NEAR(value("haze", "visibility"), 299.573, 1e-5);
        type(ruler, "fog");
        QVERIFY(window_->message().contains("does not understand 'fog'"));
        NEAR(value("haze", "visibility"), 299.573, 1e-5);
        session().document().undo();
        QCOMPARE(value("haze", "visibility"), 2000.0);
        session().document().undo();
        QCOMPARE(value("haze", "visibility"), 2500.0);
    }

    void aMutedCardGivesThePictureWithoutTheElement()
    {
        Card* c = card("mist");
        const QImage with = cleanPicture();
        QTest::mouseClick(c, Qt::LeftButton, {}, QPoint(c->width() - 30, 18)); // the word "mute"
        QVERIFY(session().project().find("mist")->muted);
        const QImage muted = cleanPicture();
        QVERIFY(difference(muted, with) > 1.0);
        QVERIFY(session().document().edit("Remove", [](scene::Project& p) { p.remove("mist"); }));
        const QImage without = cleanPicture();
        QVERIFY2(difference(muted, without) < 0.01, qPrintable(QString::number(difference(muted, without))));
    }

    void savedAndReopenedItIsTheSamePicture()
    {
        type(card("mist")->findChild<LeadRuler*>("visibility"), "40 m");
        const QImage before = cleanPicture();
        const QString file = dir_.filePath("again.hygros");
        QVERIFY(session().document().save(file));
        QVERIFY(!session().document().hasUnsavedChanges());
        session().newProject();
        QVERIFY(!session().project().find("mist"));
        open(file);
        QCOMPARE(value("mist", "visibility"), 40.0);
        QVERIFY(difference(cleanPicture(), before) < 0.01);
        QVERIFY(session().document().recentFiles().contains(file));
    }

    void thePictureIsExportedThroughTheDialog()
    {
        window_->exportPicture();
        auto* dialog = window_->findChild<QDialog*>("exportDialog");
        QVERIFY(dialog);
        const QString file = dir_.filePath("out.exr");
        auto* name = dialog->findChild<QLineEdit*>("exportFile");
        name->setText(dir_.filePath("out.gif"));
        auto* go = dialog->findChild<QPushButton*>("exportGo");
        QVERIFY(!go->isEnabled());
        name->setText(file);
        dialog->findChild<QSpinBox*>("exportWidth")->setValue(96);
        dialog->findChild<QSpinBox*>("exportHeight")->setValue(54);
        dialog->findChild<QSpinBox*>("exportSamples")->setValue(2);
        QTest::mouseClick(go, Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 240000);
        const image::Image in = image::readImage(file.toStdString());
        QCOMPARE(in.width, 96);
        QVERIFY(in.channel("air.lamp.R") >= 0 && in.channel("depth.Z") >= 0);
    }

    void exportIsCancelledAndLeavesNoFile()
    {
        window_->exportPicture();
        auto* dialog = window_->findChild<QDialog*>("exportDialog");
        const QString file = dir_.filePath("cancelled.exr");
        dialog->findChild<QLineEdit*>("exportFile")->setText(file);
        dialog->findChild<QSpinBox*>("exportWidth")->setValue(320);
        dialog->findChild<QSpinBox*>("exportHeight")->setValue(180);
        dialog->findChild<QSpinBox*>("exportSamples")->setValue(5000);
        QTest::mouseClick(dialog->findChild<QPushButton*>("exportGo"), Qt::LeftButton);
        QTest::qWait(400);
        QVERIFY(session().jobs().isBusy());
        QTest::mouseClick(dialog->findChild<QPushButton*>("exportClose"), Qt::LeftButton); // reads Cancel while it runs
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 20000);
        QVERIFY(!QFile::exists(file));
        QVERIFY(window_->message().isEmpty());
        QVERIFY(session().project().find("mist"));
    }

    void soloShowsOneElementAlone()
    {
        Card* haze = card("haze");
        replayedPicture();
        QTest::mouseClick(haze, Qt::LeftButton, {}, QPoint(haze->width() - 72, 18)); // the word "solo"
        QVERIFY(session().project().find("haze")->soloed);
        QVERIFY(session().project().silent(*session().project().find("mist")));
        const QImage alone = cleanPicture();
        QVERIFY(session().document().edit("Mute", [](scene::Project& p) {
            p.find("haze")->soloed = false;
            p.find("mist")->muted = true;
        }));
        {
            const double d = difference(cleanPicture(), alone);
            QVERIFY2(d < replayTolerance, qPrintable(QString::number(d)));
        }
    }

    void anotherFrameMovesTheMistAndIsNoEdit()
    {
        const QImage first = replayedPicture();
        auto* frame = window_->findChild<QSpinBox*>("frame");
        QVERIFY(frame);
        frame->setValue(400);
        QCOMPARE(session().document().frame(), 400);
        QVERIFY(difference(cleanPicture(), first) > 0.05);
        // Where one looks is not the project's history.
        QVERIFY(!session().document().history().canUndo());
        frame->setValue(1);
        {
            const double d = difference(cleanPicture(), first);
            QVERIFY2(d < replayTolerance, qPrintable(QString::number(d)));
        }
    }

    void keysReachCardsAndRulers()
    {
        Card* c = card("haze");
        c->setFocus(Qt::TabFocusReason);
        QTest::keyClick(c, Qt::Key_Space);
        QVERIFY(c->isOpen());
        QTest::keyClick(c, Qt::Key_M);
        QVERIFY(session().project().find("haze")->muted);
        session().document().undo();
        QVERIFY(!session().project().find("haze")->muted);
        auto* ruler = c->findChild<LeadRuler*>("visibility");
        ruler->setFocus(Qt::TabFocusReason);
        QTest::keyClick(ruler, Qt::Key_Return);
        auto* field = ruler->findChild<QLineEdit*>();
        QVERIFY(field);
        field->setText("900 m");
        QTest::keyClick(field, Qt::Key_Return);
        QCOMPARE(value("haze", "visibility"), 900.0);
    }

    void theLookChangesThePictureWithoutTracingAnything()
    {
        const QImage before = replayedPicture();
        QVERIFY(session().document().setValue("look", "exposure", 4.0));
        QVERIFY(difference(cleanPicture(), before) > 15.0);
        session().document().undo();
        {
            const double d = difference(cleanPicture(), before);
            QVERIFY2(d < replayTolerance, qPrintable(QString::number(d)));
        }
    }

    void aRefusedEditChangesNothingAndSaysWhy()
    {
        QVERIFY(!session().document().setValue("haze", "visibility", -3.0));
        QVERIFY(window_->message().contains("must lie within"));
        QCOMPARE(value("haze", "visibility"), 2500.0);
        QVERIFY(!session().document().history().canUndo());
    }

    void damagedFilesReplaceNothing()
    {
        const auto tryOpen = [&](const QByteArray& text) {
            QFile f(dir_.filePath("bad.hygros"));
            if (f.open(QIODevice::WriteOnly | QIODevice::Truncate))
                f.write(text);
            f.close();
            session().open(f.fileName());
            QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 20000);
            QCOMPARE(session().project().name, std::string("First light"));
            QVERIFY(session().project().find("mist"));
        };
        tryOpen("{\"format\": \"hygros-project\", ");
        QVERIFY(window_->message().contains("damaged"));
        tryOpen(R"({"format":"hygros-project","version":7})");
        QVERIFY(window_->message().contains("newer"));
        // A set that is there but cannot be read.
        QFile broken(dir_.filePath("broken.glb"));
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("no set at all");
        broken.close();
        tryOpen(
            R"({"format":"hygros-project","version":1,"elements":[{"id":"s","kind":"set","settings":{"file":"broken.glb"}}]})");
        QVERIFY2(window_->message().contains("broken.glb"), qPrintable(window_->message()));
    }

    void aProjectOpensWithoutASetThatIsGoneAndItsCardSaysWhich()
    {
        QFile f(dir_.filePath("moved.hygros"));
        QVERIFY(f.open(QIODevice::WriteOnly));
        f.write(
            R"({"format":"hygros-project","version":1,"name":"Moved","elements":[{"id":"shot","kind":"shot","settings":{}},
            {"id":"s","kind":"set","name":"Set","settings":{"file":"gone.glb"}}]})");
        f.close();
        session().open(f.fileName());
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 20000);
        QCOMPARE(session().project().name, std::string("Moved"));
        window_->chooseFamily(scene::Family::Set);
        const auto notes = [&] {
            auto* label = card("s") ? card("s")->findChild<QLabel*>("notes") : nullptr;
            return label ? label->text() : QString();
        };
        QTRY_VERIFY_WITH_TIMEOUT(notes().contains("gone.glb"), 10000);
        auto* find = card("s")->findChild<QPushButton*>("findFile");
        QVERIFY(find && !find->isHidden());
        // Saved as it is it keeps the name that it has.
        QVERIFY(session().document().save(f.fileName()));
        QVERIFY(f.open(QIODevice::ReadOnly));
        QVERIFY(f.readAll().contains("gone.glb"));
    }

    void freeLookLeavesTheShotAloneAndComesBack()
    {
        const QImage shot = cleanPicture();
        PictureView& p = window_->picture();
        const Vec3 position = std::get<Vec3>(session().project().find("shot")->value("position"));
        QTest::mousePress(&p, Qt::LeftButton, {}, QPoint(300, 200));
        for (int i = 1; i < 6; ++i)
            QTest::mouseMove(&p, QPoint(300 + 20 * i, 200 + 4 * i));
        QTest::mouseRelease(&p, Qt::LeftButton, {}, QPoint(400, 220));
        QVERIFY(session().picture().freeCamera().has_value());
        QVERIFY(std::get<Vec3>(session().project().find("shot")->value("position")) == position);
        QVERIFY(difference(cleanPicture(), shot) > 2.0);
        auto* back = p.findChild<QPushButton*>("backToShot");
        QVERIFY(back->isVisible());
        QTest::mouseClick(back, Qt::LeftButton);
        QVERIFY(!session().picture().freeCamera());
        QVERIFY(difference(cleanPicture(), shot) < 0.01);
        // The wheel goes nearer; "make this the shot" keeps it, and undo gives the old shot back.
        QWheelEvent turn(QPointF(300, 200), p.mapToGlobal(QPointF(300, 200)), {}, QPoint(0, 240), Qt::NoButton,
                         Qt::NoModifier, Qt::NoScrollPhase, false);
        QCoreApplication::sendEvent(&p, &turn);
        QTest::mouseClick(p.findChild<QPushButton*>("takeAsShot"), Qt::LeftButton);
        QVERIFY(!(std::get<Vec3>(session().project().find("shot")->value("position")) == position));
        session().document().undo();
        QVERIFY(std::get<Vec3>(session().project().find("shot")->value("position")) == position);
    }

    void fogIsMadeFromAnEmptyProject()
    {
        session().newProject();
        QVERIFY(session().project().find("sun"));
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/marl.glb");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QVERIFY(session().project().find("marl"));
        window_->column().add("fogBank");
        Card* c = card("fog-bank");
        QVERIFY(c && c->isOpen());
        auto* top = c->findChild<LeadRuler*>("top");
        type(top, "5 m");
        QCOMPARE(value("fog-bank", "top"), 5.0);
        // Switched to a box, the layer's settings give way to the box's.
        QTest::mouseClick(c->findChild<QPushButton*>("form=box"), Qt::LeftButton);
        QCOMPARE(std::get<std::string>(session().project().find("fog-bank")->value("form")), std::string("box"));
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        QVERIFY(c->findChild<LeadRuler*>("edge") && !c->findChild<LeadRuler*>("top"));
        QVERIFY(!cleanPicture().isNull());
    }

    void hoveringACardLightsUpItsElement()
    {
        Card* c = card("mist");
        cleanPicture();
        QEnterEvent enter(QPointF(5, 5), QPointF(5, 5), QPointF(5, 5));
        QCoreApplication::sendEvent(c, &enter);
        QCOMPARE(session().selection().hovered(), std::string("mist"));
        QEvent leave(QEvent::Leave);
        QCoreApplication::sendEvent(c, &leave);
        QVERIFY(session().selection().hovered().empty());
        QTRY_VERIFY_WITH_TIMEOUT(!session().picture().thumbnail("mist").isNull(), 20000);
        QTRY_VERIFY_WITH_TIMEOUT(!session().picture().thumbnail("lamp").isNull(), 20000);
    }
};
QTEST_MAIN(TestWindow)
#include "test_window.moc"
