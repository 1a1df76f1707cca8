/// Proofs and what the picture is held against: kept, wiped, flipped, taken apart, gone back to, saved.
#include "app/bench.h"
#include "app/card_column.h"
#include "app/checks_panel.h"
#include "app/export_dialog.h"
#include "app/main_window.h"
#include "app/match_dialog.h"
#include "app/picture_view.h"
#include "app/planes_view.h"
#include "app/proof_strip.h"
#include "app/proof_view.h"
#include "app/scopes_view.h"
#include "image/image.h"
#include "window_support.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <QComboBox>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QSpinBox>
#include <array>
#include <cmath>

using namespace hygros;
using namespace hygros::app;

class TestProofs : public QObject {
    Q_OBJECT
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    PictureView& picture() { return window_->picture(); }
    bool settle() { return test::settle(session()); }
    bool press(const QString& name)
    {
        QTest::qWait(30);
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
        for (auto* b : window_->findChildren<QAbstractButton*>(name))
            if (b->isVisible()) {
                QTest::mouseClick(b, Qt::LeftButton);
                return true;
            }
        return false;
    }
    std::string fog()
    {
        for (const scene::Element& e : session().project().elements)
            if (e.kind->id == "fogBank")
                return e.id;
        return {};
    }
    double top() { return std::get<double>(session().project().find(fog())->value("top")); }
    QString text(const char* name)
    {
        const auto* label = window_->findChild<QLabel*>(name);
        return label ? label->text() : QString();
    }
    QColor shownAt(const QPoint& p) { return picture().grab().toImage().pixelColor(p); }
    static int apart(const QColor& a, const QColor& b)
    {
        return std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) + std::abs(a.blue() - b.blue());
    }
    /// The other picture has been rendered to as many samples.
    bool isFair()
    {
        for (int i = 0; i < 3000; ++i) {
            if (session().compare().words().contains(QString("· %1 samples").arg(session().picture().state().samples)))
                return true;
            QTest::qWait(20);
        }
        return false;
    }
    /// Thick fog over what was kept as a proof.
    void keepAndThicken()
    {
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QCOMPARE(session().proofs().all().size(), std::size_t(1));
        session().document().setValue(fog(), "top", 30.0);
        session().document().setValue(fog(), "visibility", 25.0);
        QVERIFY(settle());
    }

private Q_SLOTS:
    void initTestCase() { test::prepareApplication(); }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->resize(900, 600);
        session().picture().setWantedSamples(2);
        window_->show();
        session().newProject();
        session().bring(*elements::findKind("set"), QString(SOURCE_DIR) + "/demo/weir.glb");
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        session().add(*elements::findKind("fogBank"));
        session().document().setValue(fog(), "top", 4.0);
        QVERIFY(settle());
    }
    void cleanup() { window_.reset(); }

    void aKeyKeepsTheStateAndTheStripShowsIt()
    {
        const QString before = QString::fromStdString(scene::toJson(session().document().whole()));
        QTest::keyClick(window_.get(), Qt::Key_F5);
        QVERIFY(press("keepProof"));
        const auto& all = session().proofs().all();
        QCOMPARE(all.size(), std::size_t(2));
        QCOMPARE(QString::fromStdString(scene::toJson(all[0]->state)), before);
        QCOMPARE(all[1]->note, std::string("Proof 2"));
        QCOMPARE(session().proofs().picture(all[0]), session().picture().state().image);
        QTRY_VERIFY(window_->findChild<QAbstractButton*>("proof:0")->isVisible());
        QVERIFY(!session().document().history().canUndo() || session().document().history().undoName() != "Proof 1");
        QVERIFY(session().document().hasUnsavedChanges());
        // One is forgotten.
        QVERIFY(press("proof:1"));
        QCOMPARE(window_->bench().shownPage(), QString("Proofs"));
        QVERIFY(press("proofForget"));
        QCOMPARE(session().proofs().all().size(), std::size_t(1));
        QVERIFY(!session().compare().isOn());
    }

    void theWipeShowsBothAndItsLineIsDraggedAndTurned()
    {
        const QImage kept = session().picture().state().image;
        keepAndThicken();
        const QImage now = session().picture().state().image;
        QTest::keyClick(window_.get(), Qt::Key_F3);
        QVERIFY(session().compare().isOn());
        QVERIFY(isFair());
        // Rendered anew it is what it was.
        QVERIFY2(session().compare().meanDifference(kept) < 3.0,
                 qPrintable(QString::number(session().compare().meanDifference(kept))));
        const int w = picture().width(), h = picture().height();
        const QPoint left(w / 4, h / 2), right(3 * w / 4, h / 2);
        QVERIFY(apart(kept.pixelColor(right), now.pixelColor(right)) > 20);
        QVERIFY(apart(shownAt(left), now.pixelColor(left)) < 9);
        QVERIFY(apart(shownAt(right), session().compare().image().pixelColor(right)) < 9);
        // Dragged to the far right almost all of it is the present picture.
        test::drag(picture(), picture().compare().movingGrip(), QPointF(w - 20.0, h / 2.0));
        QVERIFY(apart(shownAt(right), now.pixelColor(right)) < 9);
        test::drag(picture(), picture().compare().movingGrip(), QPointF(w / 2.0, h / 2.0));
        // Turned to level: the proof lies under it.
        const QPointF grip = picture().compare().turningGrip(), middle = picture().compare().movingGrip();
        test::drag(picture(), grip, middle + QPointF(84, 0));
        QCOMPARE(session().compare().seamAngle(), 90.0);
        const QPoint above(w / 4, h / 4), below(w / 4, 3 * h / 4);
        QVERIFY(apart(shownAt(above), now.pixelColor(above)) < 9);
        QVERIFY(apart(shownAt(below), session().compare().image().pixelColor(below)) < 9);
        // No pin was set, the camera was not moved.
        QVERIFY(session().readings().pins().empty());
        QVERIFY(!session().picture().freeCamera());
        QVERIFY(press("compareEnd"));
        QVERIFY(apart(shownAt(below), now.pixelColor(below)) < 9);
    }

    void flippedSubtractedAndBesideEachOther()
    {
        const QImage kept = session().picture().state().image;
        keepAndThicken();
        const QImage now = session().picture().state().image;
        QTest::keyClick(window_.get(), Qt::Key_F3);
        QVERIFY(isFair());
        const int w = picture().width(), h = picture().height();
        const QPoint place(w / 3, h / 3);
        QTest::keyClick(window_.get(), Qt::Key_F4);
        QVERIFY(apart(shownAt(place), session().compare().image().pixelColor(place)) < 9);
        QTest::keyClick(window_.get(), Qt::Key_F4);
        QVERIFY(apart(shownAt(place), now.pixelColor(place)) < 9);
        QVERIFY(text("compareText").startsWith("Now"));
        QVERIFY(press("compareDifference"));
        const double scale = session().compare().scale();
        const QImage& other = session().compare().image();
        const int red = std::clamp(
            int(std::lround(127.5 + 0.5 * scale * (qRed(now.pixel(place)) - qRed(other.pixel(place))))), 0, 255);
        QVERIFY(std::abs(shownAt(place).red() - red) <= 2);
        QVERIFY(press("compareMore"));
        QCOMPARE(session().compare().scale(), 2.0 * scale);
        QVERIFY(session().compare().meanDifference(now) > 2.0);
        QVERIFY(press("compareBeside"));
        // Each in its half, and neither cut: their corners are seen.
        const QImage both = picture().grab().toImage();
        QVERIFY(apart(both.pixelColor(w / 4, h / 2), now.pixelColor(w / 2, h / 2)) < 60);
        QVERIFY(apart(both.pixelColor(3 * w / 4, h / 2), kept.pixelColor(w / 2, h / 2)) < 60);
    }

    void whatDiffersIsSaidAndCanBeTakenBack()
    {
        keepAndThicken();
        const std::string id = fog();
        session().document().setValue("sun", "elevation", 31.0);
        QVERIFY(press("proof:0"));
        QTRY_VERIFY(text("proofCount").startsWith("3 things"));
        QStringList words;
        for (auto* l : window_->findChild<QWidget*>("proofRows")->findChildren<QLabel*>())
            words << l->text();
        QVERIFY2(words.filter("top 4 m → 30 m").size() == 1, qPrintable(words.join(" | ")));
        // The fog as it was, the sun as it is.
        QVERIFY(press(QString::fromStdString("take:" + id)));
        QCOMPARE(top(), 4.0);
        QCOMPARE(std::get<double>(session().project().find("sun")->value("elevation")), 31.0);
        QTRY_COMPARE(text("proofCount"), QString("One thing differs now:"));
        session().document().undo();
        QCOMPARE(top(), 30.0);
        // All of it, and back again.
        QTRY_VERIFY(text("proofCount").startsWith("3 things"));
        QVERIFY(press("proofBack"));
        QCOMPARE(top(), 4.0);
        QTRY_COMPARE(text("proofCount"), QString("Nothing differs from it now."));
        QVERIFY(QString::fromStdString(session().document().history().undoName()).contains("Proof 1"));
        session().document().undo();
        QCOMPARE(top(), 30.0);
        QCOMPARE(session().proofs().all().size(), std::size_t(1));
        // An element that is gone comes back.
        session().document().edit("Remove", [&](scene::Project& p) { p.remove(id); });
        QTRY_VERIFY(window_->findChild<QAbstractButton*>(QString::fromStdString("take:" + id)));
        QTest::qWait(200);
        QVERIFY(press(QString::fromStdString("take:" + id)));
        QVERIFY(session().project().find(id));
    }

    void theyAreSavedAndRecovered()
    {
        keepAndThicken();
        auto* note = window_->findChild<QLineEdit*>("proofNote");
        QVERIFY(press("proof:0"));
        note->setFocus();
        note->selectAll();
        QTest::keyClicks(note, "Thin");
        QTest::keyClick(note, Qt::Key_Return);
        QCOMPARE(session().proofs().all()[0]->note, std::string("Thin"));
        QVERIFY(session().compare().isOn()); // still the same proof
        // The journal of what is not saved has it.
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(session().recovery().journal()), 5000);
        const auto journal = [&] {
            QFile file(session().recovery().journal());
            return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
        };
        QTRY_VERIFY_WITH_TIMEOUT(journal().contains("\"Thin\""), 5000);
        const QString file = dir_.filePath("proofs.hygros");
        QVERIFY(session().document().save(file));
        QVERIFY2(QFileInfo(file).size() < 400'000, qPrintable(QString::number(QFileInfo(file).size())));
        session().open(file);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 30000);
        QTRY_COMPARE(session().proofs().all().size(), std::size_t(1));
        QCOMPARE(session().proofs().all()[0]->note, std::string("Thin"));
        QVERIFY(!session().proofs().picture(session().proofs().all()[0]).isNull());
        QVERIFY(!session().document().hasUnsavedChanges());
        QVERIFY(press("proof:0"));
        QVERIFY(press("proofBack"));
        QCOMPARE(top(), 4.0);
    }

    void againstItselfWithoutTheAirAndAgainstAFile()
    {
        session().document().setValue(fog(), "top", 30.0);
        session().document().setValue(fog(), "visibility", 25.0);
        QVERIFY(settle());
        const QImage now = session().picture().state().image;
        test::menuAction(*window_, "Proofs", "Against: without air")->trigger();
        QVERIFY(isFair());
        QVERIFY(session().compare().meanDifference(now) > 2.0);
        session().selection().setSelected(fog());
        test::menuAction(*window_, "Proofs", "Against: without the chosen")->trigger();
        QVERIFY(isFair());
        QVERIFY(session().compare().words().startsWith("Without"));
        // It follows edits of what both have.
        const QImage was = session().compare().image();
        session().document().setValue("look", "exposure", 1.0);
        QVERIFY(settle());
        QTRY_VERIFY_WITH_TIMEOUT(session().compare().image() != was, 30000);
        // Without the element it was about, it ends.
        session().document().edit("Remove", [&](scene::Project& p) { p.remove(fog()); });
        QVERIFY(!session().compare().isOn());
        const QString file = dir_.filePath("photograph.png");
        QImage red(60, 30, QImage::Format_RGB32);
        red.fill(QColor(200, 20, 20));
        QVERIFY(red.save(file));
        QVERIFY(session().compare().withFile(file));
        const QPoint right(3 * picture().width() / 4, picture().height() / 2);
        QVERIFY(apart(shownAt(right), QColor(200, 20, 20)) < 6);
        // What is no picture is said, and nothing changes.
        QFile bad(dir_.filePath("bad.png"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("no picture");
        bad.close();
        QVERIFY(!session().compare().withFile(bad.fileName()));
        QVERIFY(window_->message().contains("bad.png"));
        QCOMPARE(session().compare().words(), QString("photograph.png"));
    }

    void planesOfThePictureAndOfAPhotographStandSideBySide()
    {
        session().document().setValue(fog(), "form", std::string("layer"));
        session().document().setValue(fog(), "top", 40.0);
        session().document().setValue(fog(), "visibility", 400.0);
        QVERIFY(settle());
        // The photograph: this very picture with half the light.
        QImage half = session().picture().state().image.convertToFormat(QImage::Format_RGB32);
        std::array<int, 256> halved{};
        for (std::size_t i = 0; i < 256; ++i) {
            const double c = double(i) / 255.0,
                         light = 0.5 * (c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4));
            halved[i] = qRound(255.0 * (light <= 0.0031308 ? 12.92 * light : 1.055 * std::pow(light, 1 / 2.4) - 0.055));
        }
        const auto at = [&](int v) { return halved[static_cast<std::size_t>(v)]; };
        for (int y = 0; y < half.height(); ++y)
            for (int x = 0; x < half.width(); ++x) {
                const QRgb c = half.pixel(x, y);
                half.setPixel(x, y, qRgb(at(qRed(c)), at(qGreen(c)), at(qBlue(c))));
            }
        const QString file = dir_.filePath("darker.png");
        QVERIFY(half.save(file));
        window_->bench().showPage("Planes");
        const Readings& readings = session().readings();
        QTRY_VERIFY_WITH_TIMEOUT(readings.planes().planes.size() == 3, 20000);
        QVERIFY(readings.planesAgainst().planes.empty());
        const QImage alone = window_->planes().grab().toImage();
        QVERIFY(session().compare().withFile(file));
        QTRY_VERIFY_WITH_TIMEOUT(readings.planesAgainst().planes.size() == 3, 20000);
        for (std::size_t i = 0; i < 3; ++i) {
            const reading::Plane &ours = readings.planesShown().planes[i], &theirs = readings.planesAgainst().planes[i];
            QCOMPARE(ours.pixels, theirs.pixels);
            if (ours.pixels == 0)
                continue;
            NEAR(double(theirs.meanStops - ours.meanStops), -1.0, 0.1);
            NEAR(double(theirs.chroma), double(ours.chroma), 0.01);
        }
        QVERIFY(window_->planes().grab().toImage() != alone);
        session().compare().end();
        QVERIFY(readings.planesAgainst().planes.empty());
        QTRY_COMPARE(window_->planes().grab().toImage(), alone);
    }

    void aPhotographIsMatchedAndTakenBack()
    {
        // The photograph: this very picture, as it was brighter, bluer and clearer.
        session().document().setValue(fog(), "form", std::string("layer"));
        session().document().setValue(fog(), "top", 40.0);
        session().document().setValue(fog(), "visibility", 400.0);
        QVERIFY(settle());
        const QString file = dir_.filePath("morning.png");
        QVERIFY(session().picture().state().image.save(file));
        const double exposure = std::get<double>(session().project().find("look")->value("exposure"));
        session().document().setValue("look", "exposure", exposure - 1.5);
        session().document().setValue("look", "white", 5000.0);
        QVERIFY(settle());
        QVERIFY(session().compare().withFile(file));
        test::menuAction(*window_, "Proofs", "Match to a photograph")->trigger();
        auto* dialog = window_->findChild<MatchDialog*>();
        QVERIFY(dialog && dialog->isVisible());
        QVERIFY(!dialog->boxes().picture().isNull()); // what it was held against
        // Boxes by mouse and by keys.
        PlaneBoxes& boxes = dialog->boxes();
        const reading::Region was = boxes.box(0);
        test::drag(boxes, boxes.boxPlace(0).center(), boxes.boxPlace(0).center() + QPointF(20, 4));
        QVERIFY(boxes.box(0).left > was.left &&
                std::abs((boxes.box(0).right - boxes.box(0).left) - (was.right - was.left)) < 1e-4f);
        const reading::Region second = boxes.box(1);
        test::drag(boxes, boxes.boxPlace(1).bottomRight(), boxes.boxPlace(1).bottomRight() + QPointF(12, 0));
        QVERIFY(boxes.box(1).right > second.right && boxes.box(1).left == second.left);
        boxes.setFocus();
        QTest::keyClick(&boxes, Qt::Key_3);
        const reading::Region third = boxes.box(2);
        QTest::keyClick(&boxes, Qt::Key_Left);
        QVERIFY(boxes.box(2).left < third.left);
        boxes.setBox(0, was), boxes.setBox(1, second), boxes.setBox(2, third);
        auto* words = dialog->findChild<QLabel*>("matchWords");
        auto* take = dialog->findChild<QPushButton*>("matchTake");
        QVERIFY(!take->isEnabled());
        QTest::mouseClick(dialog->findChild<QPushButton*>("matchGo"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(dialog->found().has_value(), 60000);
        QVERIFY2(words->text().contains("stops apart"), qPrintable(words->text()));
        QVERIFY2(dialog->found()->missAfter < 0.5 * dialog->found()->missBefore, qPrintable(words->text()));
        QVERIFY(take->isEnabled());
        QTest::mouseClick(take, Qt::LeftButton);
        const auto* look = session().project().find("look");
        QVERIFY(std::abs(std::get<double>(look->value("exposure")) - exposure) < 0.8);
        QVERIFY(std::get<double>(look->value("white")) > 5200.0);
        session().document().undo();
        QCOMPARE(std::get<double>(session().project().find("look")->value("white")), 5000.0);
        // What is no picture is said in it.
        MatchDialog other(session(), window_.get());
        QVERIFY(!other.usePhotograph(dir_.filePath("none.png")));
        QVERIFY(other.findChild<QLabel*>("matchWords")->text().contains("none.png"));
        QVERIFY(!other.findChild<QPushButton*>("matchGo")->isEnabled());
        session().compare().end();
    }

    void whatIsNotBakedIsBakedFromTheChecks()
    {
        const QString file = dir_.filePath("fire.hygros");
        session().document().edit("Fire", [](scene::Project& p) {
            p.add(*elements::findKind("plume"), "Fire").id = "fire";
            p.find("fire")->set("voxel", 0.5);
            p.add(*elements::findKind("feed"), "Grate").id = "grate";
            p.find("grate")->set("plume", std::string("fire"));
            p.time.last = 2;
        });
        QVERIFY(session().document().save(file));
        QVERIFY(settle());
        auto* button = window_->findChild<QPushButton*>("checks");
        QTRY_VERIFY_WITH_TIMEOUT(button->text().contains("·"), 20000);
        QTest::mouseClick(button, Qt::LeftButton);
        auto* panel = window_->findChild<ChecksPanel*>();
        const auto mend = [&] { return panel->findChild<QPushButton*>("mend:notBaked"); };
        QTRY_VERIFY_WITH_TIMEOUT(mend(), 20000);
        QTest::mouseClick(mend(), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(session().baker().said("fire").startsWith("Baked: 2 of 2"), 60000);
        QTRY_VERIFY_WITH_TIMEOUT(!mend(), 30000);
        panel->hide();
    }

    void checksAreListedAndMended()
    {
        auto* button = window_->findChild<QPushButton*>("checks");
        session().document().setValue(fog(), "visibility", 1e7);
        QVERIFY(settle());
        QTRY_VERIFY_WITH_TIMEOUT(button->text().contains("·"), 20000);
        QTest::mouseClick(button, Qt::LeftButton);
        auto* panel = window_->findChild<ChecksPanel*>();
        QVERIFY(panel->isVisible());
        const auto mend = [&] { return panel->findChild<QPushButton*>("mend:thin"); };
        QTRY_VERIFY(mend());
        // Its name leads to its card.
        window_->chooseFamily(scene::Family::Lights);
        bool led = false;
        connect(panel, &ChecksPanel::wanted, this, [&](const QString& id) { led = id.toStdString() == fog(); });
        for (auto* name : panel->findChildren<QPushButton*>("checkElement"))
            if (name->text() == QString::fromStdString(session().project().find(fog())->name)) {
                QTest::mouseClick(name, Qt::LeftButton);
                break;
            }
        QVERIFY(led);
        QVERIFY(!panel->isVisible());
        QVERIFY(window_->column().reveal(fog()));
        QTest::mouseClick(button, Qt::LeftButton);
        QTRY_VERIFY(mend());
        QTest::mouseClick(mend(), Qt::LeftButton);
        QVERIFY(std::get<double>(session().project().find(fog())->value("visibility")) < 1e6);
        QTRY_VERIFY_WITH_TIMEOUT(!mend(), 20000);
        panel->hide();
        session().document().undo();
        QCOMPARE(std::get<double>(session().project().find(fog())->value("visibility")), 1e7);
    }

    void scopesMeasureThePictureAndARegionOfIt()
    {
        QVERIFY(press("page:Scopes"));
        auto* scopes = window_->findChild<ScopesView*>();
        QVERIFY(scopes && scopes->isVisible());
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().scopes().pixels > 0, 20000);
        const std::size_t whole = session().readings().scopes().pixels;
        QCOMPARE(whole, std::size_t(picture().width()) * std::size_t(picture().height()));
        const QImage before = scopes->grab().toImage();
        const QRectF at = scopes->small();
        test::drag(*scopes, at.topLeft() + QPointF(2, 2), at.center());
        QTRY_VERIFY_WITH_TIMEOUT(session().readings().scopes().pixels < whole / 3, 20000);
        QVERIFY(session().readings().scopes().pixels > whole / 6);
        QTRY_VERIFY(scopes->grab().toImage() != before);
        QTest::keyClick(scopes, Qt::Key_Escape);
        QTRY_COMPARE_WITH_TIMEOUT(session().readings().scopes().pixels, whole, 20000);
        // Held against a picture from disk its tones are beside: all of them red.
        const QString file = dir_.filePath("red.png");
        QImage red(60, 30, QImage::Format_RGB32);
        red.fill(QColor(200, 0, 0));
        QVERIFY(red.save(file));
        const QImage alone = scopes->grab().toImage();
        QVERIFY(session().compare().withFile(file));
        QTRY_VERIFY(scopes->grab().toImage() != alone);
        const auto redness = [&](const QImage& image) {
            int n = 0;
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width(); ++x) {
                    const QColor c = image.pixelColor(x, y);
                    n += c.red() > c.green() + 50 && c.red() > c.blue() + 50;
                }
            return n;
        };
        QVERIFY(redness(scopes->grab().toImage()) > redness(alone) + 20);
        session().compare().end();
        QTRY_VERIFY(redness(scopes->grab().toImage()) <= redness(alone) + 5);
    }

    void waterGoesOutByItsParts()
    {
        const std::string pool = [&] {
            test::menuAction(*window_, "Add", "Pool")->trigger();
            return session().project().elements.back().id;
        }();
        session().document().setValue(pool, "position", Vec3(2.5f, -1.8f, -9.f));
        session().document().setValue(pool, "depth", 1.7);
        session().document().setValue("shot", "position", Vec3(1.f, 3.f, 4.f));
        session().document().setValue("shot", "aim", Vec3(2.f, 0.f, -12.f));
        QVERIFY(settle());
        ExportDialog dialog(session());
        dialog.show();
        const QString file = dir_.filePath("water.exr");
        dialog.findChild<QLineEdit*>("exportFile")->setText(file);
        dialog.findChild<QSpinBox*>("exportWidth")->setValue(96);
        dialog.findChild<QSpinBox*>("exportHeight")->setValue(64);
        dialog.findChild<QSpinBox*>("exportSamples")->setValue(1);
        auto* water = dialog.findChild<QCheckBox*>("exportWater");
        QVERIFY(water->isVisible() && water->isEnabled());
        // The reference does not know them.
        dialog.findChild<QComboBox*>("exportIntegrator")->setCurrentIndex(1);
        QVERIFY(!water->isEnabled());
        dialog.findChild<QComboBox*>("exportIntegrator")->setCurrentIndex(0);
        dialog.findChild<QSpinBox*>("exportSamples")->setValue(1);
        water->setChecked(true);
        QTest::mouseClick(dialog.findChild<QPushButton*>("exportGo"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 240000);
        const image::Image out = image::readImage(file.toStdString());
        double mask = 0.0, mirrored = 0.0;
        for (int y = 0; y < 64; ++y)
            for (int x = 0; x < 96; ++x) {
                mask += double(out.at(x, y)[out.channel("water.mask")]);
                mirrored += double(out.at(x, y)[out.channel("water.reflection.G")]);
            }
        QVERIFY(mask > 96 * 64 * 0.05 && mask < 96 * 64 * 0.9);
        QVERIFY(mirrored > 0.0);
    }

    void theHistoryTellsItsStepsAndGoesToThem()
    {
        session().document().setValue(fog(), "top", 6.5);
        session().document().setValue(fog(), "visibility", 40.0);
        QVERIFY(press("page:History"));
        auto* list = window_->findChild<QListWidget*>("history");
        QVERIFY(list->count() >= 3);
        QVERIFY2(list->item(0)->text().contains("visibility") && list->item(0)->text().contains("→ 40 m"),
                 qPrintable(list->item(0)->text()));
        QVERIFY2(list->item(1)->text().endsWith("top 4 m → 6.5 m"), qPrintable(list->item(1)->text()));
        QCOMPARE(list->currentRow(), 0);
        // Two steps back by a click; they stay to be gone forward to.
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(2)).center());
        QCOMPARE(top(), 4.0);
        QVERIFY(session().document().history().canRedo());
        QTRY_COMPARE(list->currentRow(), 2);
        QTest::mouseClick(list->viewport(), Qt::LeftButton, {}, list->visualItemRect(list->item(1)).center());
        QCOMPARE(top(), 6.5);
        // Saved under a name, what was done can still be undone, and files are found.
        const QString file = dir_.filePath("deep/er/saved.hygros");
        QVERIFY(QDir().mkpath(QFileInfo(file).path()));
        QVERIFY(session().document().save(file));
        QVERIFY(!session().document().hasUnsavedChanges());
        session().document().undo();
        QCOMPARE(top(), 4.0);
        QVERIFY(session().document().hasUnsavedChanges());
        for (const scene::Element& e : session().project().elements)
            if (e.kind->id == "set")
                QVERIFY(std::filesystem::exists(
                    scene::resolved(session().project(), std::get<std::string>(e.value("file")))));
        session().document().redo();
        QCOMPARE(top(), 6.5);
        QVERIFY(settle());
        QCOMPARE(session().picture().notes({}).size(), std::size_t(0));
    }
};

QTEST_MAIN(TestProofs)
#include "test_proofs.moc"
