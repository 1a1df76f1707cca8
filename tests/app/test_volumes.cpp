/// Volumes through the window: importing, what the card says, tints, recipes, handles, and a picture on disk.
#include "window_support.h"

#include "app/ball_view.h"
#include "app/card.h"
#include "app/card_column.h"
#include "app/picture_view.h"
#include "image/image.h"
#include "media/vdb.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QSpinBox>
#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using namespace hygros::app;

class TestVolumes : public QObject {
    Q_OBJECT
private:
    std::unique_ptr<MainWindow> window_;
    QTemporaryDir dir_;

    Session& session() { return window_->session(); }
    const scene::Element& element(const std::string& id) { return *session().project().find(id); }
    bool settle() { return test::settle(session()); }
    QString file(const char* name) { return dir_.filePath(name); }

private Q_SLOTS:
    void initTestCase()
    {
        test::prepareApplication();
        // A ball of smoke a metre and a half across, hot inside.
        constexpr int n = 24;
        media::VdbOut density{"density", {0, 0, 0}, {n, n, n}, {}, false},
            heat{"temperature", {0, 0, 0}, {n, n, n}, {}, false};
        for (int i = 0; i < n * n * n; ++i) {
            const float r = (Vec3(static_cast<float>(i / n / n), static_cast<float>(i / n % n),
                                  static_cast<float>(i % n)) -
                             Vec3(11.5f))
                                .length() /
                            11.5f;
            density.values.push_back(std::max(0.f, 1.f - r));
            heat.values.push_back(r < 0.5f ? 1500.f : 0.f);
        }
        Mat4 place;
        place.setScale(Vec3(0.0625f));
        JobControl job;
        media::writeVdb(file("ball.vdb").toStdString(), {density, heat}, place, job);
        std::ofstream(file("broken.vdb").toStdString()) << "this is no volume";
    }
    void init()
    {
        window_ = std::make_unique<MainWindow>();
        window_->session().picture().setWantedSamples(2);
        window_->resize(1197, 700);
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        window_->session().newProject();
        session().document().edit("camera", [](scene::Project& p) {
            p.find("shot")->set("position", Vec3(0.f, 1.7f, 8.f));
            p.find("shot")->set("aim", Vec3(0.f, 1.f, 0.f));
        });
        window_->chooseFamily(scene::Family::Air);
    }
    void cleanup() { window_.reset(); }

    void anImportedVolumeStandsBeforeTheCameraAndIsSeen()
    {
        const auto before = session().project().elements.size();
        session().bring(*elements::findKind("volume"), file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().project().elements.size(), before + 1, 20000);
        const std::string id = session().selection().selected();
        QCOMPARE(element(id).kind->id, std::string("volume"));
        QCOMPARE(element(id).name, std::string("ball"));
        QCOMPARE(std::get<std::string>(element(id).value("glow")),
                 std::string("blackbody")); // it brought a temperature
        QVERIFY(settle());
        const auto shot = session().picture().shot();
        QCOMPARE(shot->volumes.size(), std::size_t(1));
        // On the ground, on the line of sight.
        QVERIFY(std::abs(shot->volumes[0].bounds.min.y) < 0.1f);
        const Vec3 middle = (shot->volumes[0].bounds.min + shot->volumes[0].bounds.max) * 0.5f;
        QVERIFY(std::abs(middle.x) < 0.1f && middle.z < 5.f);
        // The card lists what the file holds, with units, and which grid was taken.
        window_->unfold(id);
        QTRY_VERIFY(window_->column().reveal(id)->findChild<QLabel*>("gridFacts"));
        const QString facts = window_->column().reveal(id)->findChild<QLabel*>("gridFacts")->text();
        QVERIFY2(facts.contains("density") && facts.contains("temperature") && facts.contains("0.0625 m") &&
                     facts.contains("1500"),
                 qPrintable(facts));
        QCOMPARE(window_->column().reveal(id)->findChild<QPushButton*>("density")->text(),
                 QString("density (by itself)"));
        auto* choose = window_->column().reveal(id)->findChild<QPushButton*>("heat");
        Q_EMIT choose->menu()->aboutToShow();
        QCOMPARE(choose->menu()->actions().size(), 2);
        choose->menu()->actions()[0]->trigger();
        QCOMPARE(std::get<std::string>(element(id).value("heat")), std::string("density"));
        // One step back for the choice, one for the import.
        session().document().undo();
        session().document().undo();
        QCOMPARE(session().project().elements.size(), before);
    }

    void aFileThatIsNoVolumeIsSaidAndNothingChanges()
    {
        const auto before = scene::toJson(session().project());
        session().bring(*elements::findKind("volume"), file("broken.vdb"));
        QTRY_VERIFY_WITH_TIMEOUT(window_->message().contains("no OpenVDB file"), 20000);
        QVERIFY(window_->message().contains("broken.vdb"));
        QCOMPARE(scene::toJson(session().project()), before);
    }

    void aTintedVolumeIsDeliveredInItsColour()
    {
        session().bring(*elements::findKind("volume"), file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().selection().selected().empty(), false, 20000);
        const std::string id = session().selection().selected();
        session().document().setValue(id, "glow", std::string("none"));
        session().document().setValue(id, "visibility", 0.2);
        std::string tint;
        session().document().edit("tint", [&](scene::Project& p) {
            scene::Element& e = p.add(*elements::findKind("tint"), "Green");
            e.set("volume", id);
            e.set("colours",
                  scene::ColourStops{{0.f, Vec3(0.05f, 0.9f, 0.1f), 1.f}, {1.f, Vec3(0.05f, 0.9f, 0.1f), 1.f}});
            tint = e.id;
        });
        QVERIFY(settle());
        window_->exportPicture();
        auto* dialog = window_->findChild<QDialog*>("exportDialog");
        const QString out = file("green.png");
        dialog->findChild<QLineEdit*>("exportFile")->setText(out);
        dialog->findChild<QSpinBox*>("exportWidth")->setValue(96);
        dialog->findChild<QSpinBox*>("exportHeight")->setValue(60);
        dialog->findChild<QSpinBox*>("exportSamples")->setValue(4);
        QTest::mouseClick(dialog->findChild<QPushButton*>("exportGo"), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(out), 30000);
        const QImage picture(out);
        const Vec3 middle = (session().picture().shot()->volumes[0].bounds.min +
                             session().picture().shot()->volumes[0].bounds.max) *
                            0.5f;
        Vec2 at(0.f, 0.f);
        float depth = 0.f;
        QVERIFY(geometry::View(session().picture().shot()->camera, 96, 60).project(middle, at, depth));
        const QColor c = picture.pixelColor(static_cast<int>(at.x), static_cast<int>(at.y));
        QVERIFY2(c.green() > 1.5 * c.red() && c.green() > 1.5 * c.blue(), qPrintable(c.name()));
    }

    void theReferenceStandsBesideTheLivePictureAndGoesOnAfterARestart()
    {
        session().bring(*elements::findKind("volume"), file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().selection().selected().empty(), false, 20000);
        const std::string id = session().selection().selected();
        session().document().setValue(id, "glow", std::string("none"));
        window_->resize(1097, 640);
        session().reference().setGoal(0.4f, 1.f);
        QVERIFY(settle());
        QVERIFY(session().reference().state().image.isNull());
        // One click shows both.
        QVERIFY(test::pressButton(*window_, "showBoth"));
        QTRY_VERIFY_WITH_TIMEOUT(session().reference().state().done, 90000);
        const double paths = session().reference().state().paths;
        QVERIFY(paths >= 16.0 && session().reference().state().noise <= 0.4f);
        // The figure is the paths' own: that the picture shows less of it is said.
        const QString noise = session().reference().state().noiseInWords();
        QVERIFY2(noise.startsWith("noise ") && noise.endsWith(" % before denoising"), qPrintable(noise));
        QVERIFY2(session().reference().state().ratio > 0.8 && session().reference().state().ratio < 1.25,
                 qPrintable(QString::number(session().reference().state().ratio)));
        // Left of the seam the live picture, right of it the reference; the seam is dragged.
        auto* picture = window_->findChild<PictureView*>("picture");
        picture->setAids(false);
        const auto at = [&](double x, double y) {
            return picture->grab().toImage().pixelColor(static_cast<int>(x * picture->width()),
                                                        static_cast<int>(y * picture->height()));
        };
        const auto of = [&](const QImage& image, double x, double y) {
            return image.pixelColor(static_cast<int>(x * image.width()), static_cast<int>(y * image.height()));
        };
        const auto near = [](const QColor& a, const QColor& b) {
            return std::abs(a.red() - b.red()) + std::abs(a.green() - b.green()) + std::abs(a.blue() - b.blue()) <= 6;
        };
        QVERIFY(near(at(0.25, 0.7), of(session().picture().state().image, 0.25, 0.7)));
        QVERIFY(near(at(0.75, 0.7), of(session().reference().state().image, 0.75, 0.7)));
        picture->setAids(true);
        test::drag(*picture, QPointF(picture->seam(), picture->height() * 0.5),
                   QPointF(picture->width() * 0.2, picture->height() * 0.5));
        NEAR(picture->seam() / picture->width(), 0.2, 0.01);
        QVERIFY(!session().picture().freeCamera()); // it was no turn of the view
        // An edit drops it; undone, it goes on from what was kept.
        session().document().setValue(id, "visibility", 3.0);
        QVERIFY(session().reference().state().image.isNull());
        session().document().undo();
        QVERIFY(settle());
        QTRY_VERIFY_WITH_TIMEOUT(session().reference().state().done, 30000);
        QCOMPARE(session().reference().state().paths, paths);
        // A key goes on to the next; alone, and back to live.
        QTest::keyClick(window_.get(), Qt::Key_F7);
        QCOMPARE(static_cast<int>(session().reference().shown()), static_cast<int>(Reference::Shown::Reference));
        QVERIFY(window_->findChild<QPushButton*>("showReference")->isChecked());
        QVERIFY(test::pressButton(*window_, "showLive"));
        QCOMPARE(static_cast<int>(session().reference().shown()), static_cast<int>(Reference::Shown::Live));
    }

    void theReferenceIsExportedWithItsNoiseOrTime()
    {
        session().bring(*elements::findKind("volume"), file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().selection().selected().empty(), false, 20000);
        QVERIFY(settle());
        window_->exportPicture();
        auto* dialog = window_->findChild<QDialog*>("exportDialog");
        auto* noise = dialog->findChild<QLineEdit*>("exportNoise");
        QVERIFY(noise->isHidden());
        dialog->findChild<QComboBox*>("exportIntegrator")->setCurrentIndex(1);
        QVERIFY(!noise->isHidden());
        auto* go = dialog->findChild<QPushButton*>("exportGo");
        noise->setText("much");
        QVERIFY(!go->isEnabled());
        noise->setText("45 %");
        dialog->findChild<QLineEdit*>("exportTime")->setText("20 s");
        QVERIFY(go->isEnabled());
        const QString out = file("reference.exr");
        dialog->findChild<QLineEdit*>("exportFile")->setText(out);
        dialog->findChild<QSpinBox*>("exportWidth")->setValue(64);
        dialog->findChild<QSpinBox*>("exportHeight")->setValue(40);
        dialog->findChild<QSpinBox*>("exportDenoise")->setValue(50);
        QTest::mouseClick(go, Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(out), 240000);
        QTRY_VERIFY_WITH_TIMEOUT(!session().jobs().isBusy(), 20000);
        const image::FileFacts facts = image::imageFacts(out.toStdString());
        QVERIFY(std::find(facts.channels.begin(), facts.channels.end(), "transmittance.G") != facts.channels.end());
        QVERIFY(std::find(facts.channels.begin(), facts.channels.end(), "air.sky.G") != facts.channels.end());
    }

    void ballsLinkScatteringAndAbsorptionAndTheLookStays()
    {
        session().bring(*elements::findKind("volume"), file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().selection().selected().empty(), false, 20000);
        const std::string id = session().selection().selected();
        session().document().setValue(id, "albedo", Vec3(0.9f, 0.6f, 0.5f));
        QVERIFY(settle());
        const media::Volume before = session().picture().shot()->volumes.at(0);
        window_->unfold(id);
        QTest::qWait(100); // cards are made anew
        QTRY_VERIFY(window_->column().reveal(id)->findChild<BallView*>("linking"));
        auto* balls = window_->column().reveal(id)->findChild<BallView*>("linking");
        // What is drawn differs: keeping scattering is the darkest.
        const QImage drawn = balls->grab().toImage();
        const auto light = [&](int way) {
            const QRect r = balls->ballRect(way);
            double sum = 0.0;
            for (int y = r.top() + 12; y < r.bottom() - 12; ++y)
                for (int x = r.left() + 12; x < r.center().x(); ++x)
                    sum += qGray(drawn.pixel(x, y));
            return sum;
        };
        QVERIFY(light(1) < light(0) && light(1) < light(-1));
        QVERIFY(balls->ballRect(2).right() < balls->width());
        QTest::mouseClick(balls, Qt::LeftButton, {}, balls->ballRect(2).center());
        QCOMPARE(std::get<std::string>(element(id).value("linking")), std::string("free"));
        QVERIFY(settle());
        const media::Volume after = session().picture().shot()->volumes.at(0);
        const Vec3 p = (before.bounds.min + before.bounds.max) * 0.5f;
        QVERIFY((media::opticsAt(after, p).extinction - media::opticsAt(before, p).extinction).length() <
                2e-3f * media::opticsAt(before, p).extinction.length());
        QVERIFY((media::opticsAt(after, p).albedo - media::opticsAt(before, p).albedo).length() < 2e-3f);
        // The card has the numbers of that way now; one step takes all of it back.
        QTRY_VERIFY(window_->column().reveal(id)->findChild<QLineEdit*>("scatterColour"));
        session().document().undo();
        QCOMPARE(std::get<std::string>(element(id).value("linking")), std::string("albedo"));
    }

    void twoVolumesAreCombinedAndExportedFromTheirCards()
    {
        session().bring(*elements::findKind("volume"), file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().selection().selected().empty(), false, 20000);
        const std::string id = session().selection().selected();
        QTest::qWait(50);
        test::menuAction(*window_, "Add", "Volume")->trigger();
        QTRY_COMPARE(session().project().elements.back().kind->id, std::string("volume"));
        const std::string other = session().project().elements.back().id;
        QVERIFY(settle());
        QCOMPARE(session().picture().shot()->volumes.size(), std::size_t(2));
        test::menuAction(*window_, "Add", "Combination")->trigger();
        QTRY_COMPARE(session().project().elements.back().kind->id, std::string("combination"));
        const std::string how = session().project().elements.back().id;
        window_->unfold(how);
        QTest::qWait(100);
        QTRY_VERIFY(window_->column().reveal(how)->findChild<QPushButton*>("volume"));
        // The menus offer the volumes by name.
        const auto pick = [&](const char* field, const std::string& what) {
            auto* choose = window_->column().reveal(how)->findChild<QPushButton*>(field);
            Q_EMIT choose->menu()->aboutToShow();
            for (QAction* a : choose->menu()->actions())
                if (a->text() == QString::fromStdString(element(what).name))
                    return a->trigger(), true;
            return false;
        };
        QVERIFY(pick("volume", id));
        QTest::qWait(100);
        QVERIFY(pick("other", other));
        QVERIFY(settle());
        QCOMPARE(session().picture().shot()->volumes.size(), std::size_t(1));
        session().exportVolume(id, file("both.vdb"), 0.2f);
        QTRY_VERIFY_WITH_TIMEOUT(QFile::exists(file("both.vdb")) && !session().jobs().isBusy(), 30000);
        NEAR(media::vdbGrids(file("both.vdb").toStdString()).at(0).voxel.x, 0.2f, 1e-5);
    }

    void aRecipeForMatterIsTakenInOneStep()
    {
        auto* recipes = window_->findChild<QPushButton*>("recipes");
        QAction* fire = nullptr;
        for (QAction* a : recipes->menu()->actions())
            fire = a->text() == "Fireball" ? a : fire;
        QVERIFY(fire);
        const auto before = session().project().elements.size();
        // Rested on, it is shown; left, it is gone.
        Q_EMIT fire->hovered();
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot() && session().picture().shot()->volumes.size() == 1, 20000);
        session().library().preview(nullptr);
        QTRY_VERIFY_WITH_TIMEOUT(session().picture().shot()->volumes.empty(), 20000);
        fire->trigger();
        QCOMPARE(session().project().elements.size(), before + 1);
        QVERIFY(settle());
        const auto& v = session().picture().shot()->volumes.at(0);
        QVERIFY(v.glow.heat && v.bounds.max.z < 8.f - 15.f);
        // It lights others: lamps stand for its glow, and no card or row of Reach is theirs.
        QVERIFY(!session().picture().shot()->lamps.empty());
        session().document().undo();
        QCOMPARE(session().project().elements.size(), before);
    }
};
QTEST_MAIN(TestVolumes)
#include "test_volumes.moc"
