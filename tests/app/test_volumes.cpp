/// Volumes through the window: importing, what the card says, tints, recipes, handles, and a picture on disk.
#include "window_support.h"

#include "app/card.h"
#include "app/card_column.h"
#include "media/vdb.h"

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
        media::VdbOut density{"density", {0, 0, 0}, {n, n, n}, {}, false}, heat{"temperature", {0, 0, 0}, {n, n, n}, {}, false};
        for (int i = 0; i < n * n * n; ++i) {
            const float r = (Vec3(static_cast<float>(i / n / n), static_cast<float>(i / n % n), static_cast<float>(i % n)) - Vec3(11.5f)).length() / 11.5f;
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
        window_->session().setWantedSamples(2);
        window_->resize(1100, 700);
        window_->show();
        QVERIFY(QTest::qWaitForWindowExposed(window_.get()));
        window_->session().newProject();
        session().edit("camera", [](scene::Project& p) {
            p.find("shot")->set("position", Vec3(0.f, 1.7f, 8.f));
            p.find("shot")->set("aim", Vec3(0.f, 1.f, 0.f));
        });
        window_->chooseFamily(scene::Family::Air);
    }
    void cleanup() { window_.reset(); }

    void anImportedVolumeStandsBeforeTheCameraAndIsSeen()
    {
        const auto before = session().project().elements.size();
        session().importVolume(file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().project().elements.size(), before + 1, 20000);
        const std::string id = session().selected();
        QCOMPARE(element(id).kind->id, std::string("volume"));
        QCOMPARE(element(id).name, std::string("ball"));
        QCOMPARE(std::get<std::string>(element(id).value("glow")), std::string("blackbody")); // it brought a temperature
        QVERIFY(settle());
        const auto shot = session().shot();
        QCOMPARE(shot->volumes.size(), std::size_t(1));
        // On the ground, on the line of sight.
        QVERIFY(std::abs(shot->volumes[0].bounds.min.y) < 0.1f);
        const Vec3 middle = (shot->volumes[0].bounds.min + shot->volumes[0].bounds.max) * 0.5f;
        QVERIFY(std::abs(middle.x) < 0.1f && middle.z < 5.f);
        // The card lists what the file holds, with units, and which grid was taken.
        window_->unfold(id);
        QTRY_VERIFY(window_->column().reveal(id)->findChild<QLabel*>("gridFacts"));
        const QString facts = window_->column().reveal(id)->findChild<QLabel*>("gridFacts")->text();
        QVERIFY2(facts.contains("density") && facts.contains("temperature") && facts.contains("0.0625 m") && facts.contains("1500"), qPrintable(facts));
        QCOMPARE(window_->column().reveal(id)->findChild<QPushButton*>("density")->text(), QString("density (by its name)"));
        auto* choose = window_->column().reveal(id)->findChild<QPushButton*>("heat");
        Q_EMIT choose->menu()->aboutToShow();
        QCOMPARE(choose->menu()->actions().size(), 2);
        choose->menu()->actions()[0]->trigger();
        QCOMPARE(std::get<std::string>(element(id).value("heat")), std::string("density"));
        // One step back for the choice, one for the import.
        session().undo();
        session().undo();
        QCOMPARE(session().project().elements.size(), before);
    }

    void aFileThatIsNoVolumeIsSaidAndNothingChanges()
    {
        const auto before = scene::toJson(session().project());
        session().importVolume(file("broken.vdb"));
        QTRY_VERIFY_WITH_TIMEOUT(window_->message().contains("no OpenVDB file"), 20000);
        QVERIFY(window_->message().contains("broken.vdb"));
        QCOMPARE(scene::toJson(session().project()), before);
    }

    void aTintedVolumeIsDeliveredInItsColour()
    {
        session().importVolume(file("ball.vdb"));
        QTRY_COMPARE_WITH_TIMEOUT(session().selected().empty(), false, 20000);
        const std::string id = session().selected();
        session().setValue(id, "glow", std::string("none"));
        session().setValue(id, "visibility", 0.2);
        std::string tint;
        session().edit("tint", [&](scene::Project& p) {
            scene::Element& e = p.add(*elements::findKind("tint"), "Green");
            e.set("volume", id);
            e.set("colours", scene::ColourStops{{0.f, Vec3(0.05f, 0.9f, 0.1f), 1.f}, {1.f, Vec3(0.05f, 0.9f, 0.1f), 1.f}});
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
        const Vec3 middle = (session().shot()->volumes[0].bounds.min + session().shot()->volumes[0].bounds.max) * 0.5f;
        Vec2 at(0.f, 0.f);
        float depth = 0.f;
        QVERIFY(geometry::View(session().shot()->camera, 96, 60).project(middle, at, depth));
        const QColor c = picture.pixelColor(static_cast<int>(at.x), static_cast<int>(at.y));
        QVERIFY2(c.green() > 1.5 * c.red() && c.green() > 1.5 * c.blue(), qPrintable(c.name()));
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
        QTRY_VERIFY_WITH_TIMEOUT(session().shot() && session().shot()->volumes.size() == 1, 20000);
        session().preview(nullptr);
        QTRY_VERIFY_WITH_TIMEOUT(session().shot()->volumes.empty(), 20000);
        fire->trigger();
        QCOMPARE(session().project().elements.size(), before + 1);
        QVERIFY(settle());
        const auto& v = session().shot()->volumes.at(0);
        QVERIFY(v.glow.heat && v.bounds.max.z < 8.f - 15.f);
        // It lights others: lamps stand for its glow, and no card or row of Reach is theirs.
        QVERIFY(!session().shot()->lamps.empty());
        session().undo();
        QCOMPARE(session().project().elements.size(), before);
    }
};
QTEST_MAIN(TestVolumes)
#include "test_volumes.moc"
