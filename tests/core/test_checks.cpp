/// Checks: each has a scene that brings it about and one that must not; what mends it does.
#include "reading/checks.h"

#include "elements/kinds.h"
#include "scene/evaluate.h"
#include "support.h"

#include <QProcess>
#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
using reading::Finding;
using scene::Project;

class TestChecks : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;

    /// A wall across the view 20 m away, on ground, in thin haze.
    Project project()
    {
        const std::filesystem::path file = (folder_.path() + "/wall.obj").toStdString();
        std::ofstream(file) << "v -40 0 -20\nv 40 0 -20\nv 40 30 -20\nv -40 30 -20\nv -40 0 5\nv 40 0 5\n"
                               "f 1 2 3 4\nf 5 6 2 1\n";
        Project p = elements::newProject();
        p.add(*elements::findKind("set"), "Wall").set("file", file.string());
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 1.7f, -10.f));
        return p;
    }
    static scene::Element& fog(Project& p, double visibility, const Vec3& at, const Vec3& size)
    {
        scene::Element& e = p.add(*elements::findKind("fogBank"), "Fog");
        e.set("form", std::string("box"));
        e.set("visibility", visibility);
        e.set("centre", at);
        e.set("size", size);
        return e;
    }
    std::vector<Finding> found(const Project& p, bool measured = false)
    {
        const auto shot = elements::freeze(p, store_, job_, elements::Missing::Told);
        const Project now = scene::posed(p, p.frame);
        return reading::checksOf(now, *shot,
                                 measured ? reading::measured(now, shot, store_, job_) : reading::Measured());
    }
    static const Finding* one(const std::vector<Finding>& all, const char* id)
    {
        for (const Finding& f : all)
            if (f.id == id)
                return &f;
        return nullptr;
    }
    static QString ids(const std::vector<Finding>& all)
    {
        QString out;
        for (const Finding& f : all)
            out += QString::fromStdString(f.id + " (" + f.text + ") ");
        return out;
    }
    static Project mended(Project p, const Finding& f)
    {
        for (const auto& [path, value] : f.fix.settings)
            p.setPath(path, value);
        return p;
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(folder_.isValid()); }

    void quietWhenAllIsWell()
    {
        Project p = project();
        fog(p, 40.0, Vec3(0.f, 2.f, -10.f), Vec3(8.f, 4.f, 6.f));
        const auto all = found(p, true);
        for (const Finding& f : all)
            QVERIFY2(f.grade != Finding::Grade::Trouble, qPrintable(ids(all)));
    }

    void fogThatCannotBeSeen()
    {
        Project p = project();
        fog(p, 1e6, Vec3(0.f, 2.f, -10.f), Vec3(8.f, 4.f, 6.f));
        auto all = found(p);
        const Finding* f = one(all, "thin");
        QVERIFY2(f, qPrintable(ids(all)));
        // Six metres of it straight through at a visibility of 1000 km, some eight along a slant.
        NEAR(f->number, 2.996 * 8.0 / 1e6, 0.26);
        QCOMPARE(f->grade, Finding::Grade::Trouble);
        QVERIFY(!one(found(mended(p, *f)), "thin"));

        Project behind = project();
        fog(behind, 20.0, Vec3(0.f, 5.f, -40.f), Vec3(8.f, 4.f, 6.f));
        all = found(behind);
        QVERIFY2(one(all, "hidden") && !one(all, "thin") && !one(all, "outside"), qPrintable(ids(all)));

        Project outside = project();
        fog(outside, 20.0, Vec3(0.f, 2.f, 30.f), Vec3(8.f, 4.f, 6.f));
        all = found(outside);
        f = one(all, "outside");
        QVERIFY2(f && !one(all, "hidden"), qPrintable(ids(all)));
        QVERIFY2(f->text.find("30 m from the camera") != std::string::npos, f->text.c_str());

        // Muted it is not judged.
        outside.elements.back().muted = true;
        QVERIFY(!one(found(outside), "outside"));
    }
    void aLayerUnderTheGround()
    {
        Project p = project();
        scene::Element& e = p.add(*elements::findKind("fogBank"), "Low");
        e.set("form", std::string("layer"));
        e.set("top", -3.0);
        e.set("base", -9.0);
        const std::string id = e.id;
        const auto all = found(p);
        const Finding* f = one(all, "underground");
        QVERIFY2(f, qPrintable(ids(all)));
        QVERIFY(!f->fix.settings.empty());
        const Project well = mended(p, *f);
        QVERIFY(std::get<double>(well.find(id)->value("top")) > 1.0);
        QVERIFY(!one(found(well), "underground"));
        p.find(id)->set("top", 1.5);
        QVERIFY(!one(found(p), "underground"));
    }
    void noiseFinerThanAPixel()
    {
        Project p = project();
        scene::Element& e = fog(p, 30.0, Vec3(0.f, 4.f, -17.f), Vec3(20.f, 8.f, 3.f));
        e.set("contrast", 1.0);
        e.set("scale", 0.01);
        const std::string id = e.id;
        const auto all = found(p);
        const Finding* f = one(all, "fineNoise");
        QVERIFY2(f && f->number < 1.0, qPrintable(ids(all)));
        const Project well = mended(p, *f);
        QVERIFY(!one(found(well), "fineNoise"));
        p.find(id)->set("scale", 2.0);
        QVERIFY(!one(found(p), "fineNoise"));
    }
    void lampsThatLightNothing()
    {
        Project p = project();
        scene::Element& lamp = p.add(*elements::findKind("bulb"), "Bulb");
        lamp.set("position", Vec3(0.f, 2.f, -10.f));
        lamp.set("power", 0.0);
        const std::string id = lamp.id;
        QVERIFY(one(found(p), "noPower"));
        p.find(id)->set("power", 3000.0);
        auto all = found(p, true);
        QVERIFY2(!one(all, "noPower") && !one(all, "noLamp"), qPrintable(ids(all)));
        // Behind the wall nobody sees what it lights.
        p.find(id)->set("position", Vec3(0.f, 2.f, -60.f));
        for (scene::Element& e : p.elements)
            if (e.kind->family == scene::Family::Air)
                e.muted = true;
        all = found(p, true);
        const Finding* f = one(all, "noLamp");
        QVERIFY2(f && f->element == id, qPrintable(ids(all)));
    }
    void theSunUnderTheHorizon()
    {
        Project p = project();
        p.find("sun")->set("elevation", -4.0);
        const auto all = found(p);
        const Finding* f = one(all, "night");
        QVERIFY2(f, qPrintable(ids(all)));
        QCOMPARE(f->number, -4.0);
        QVERIFY(!one(found(mended(p, *f)), "night"));
    }
    void wavesThatFold()
    {
        Project p = project();
        scene::Element& w = p.add(*elements::findKind("openWater"), "Sea");
        w.set("level", -3.0);
        w.set("speed", 14.0);
        w.set("choppy", 4.0);
        w.set("holdsFolds", false);
        const auto all = found(p);
        const Finding* f = one(all, "folds");
        QVERIFY2(f && f->number > 0.02, qPrintable(ids(all)));
        QVERIFY(!one(found(mended(p, *f)), "folds"));
    }
    void aSetInAnotherUnit()
    {
        Project p = project();
        p.elements.back().set("scale", 0.001);
        const auto all = found(p, true);
        const Finding* f = one(all, "scale");
        QVERIFY2(f, qPrintable(ids(all)));
        NEAR(f->number, 0.08, 0.01);
        QVERIFY(!one(found(mended(p, *f), true), "scale"));
        QVERIFY(!one(found(project(), true), "scale"));
    }
    void tooBright()
    {
        Project p = project();
        p.find("look")->set("exposure", 9.0);
        const auto all = found(p, true);
        const Finding* f = one(all, "white");
        QVERIFY2(f && f->number > 0.5, qPrintable(ids(all)));
        QCOMPARE(std::get<double>(mended(p, *f).find("look")->value("exposure")), 8.0);
        p.find("look")->set("exposure", -2.0);
        QVERIFY(!one(found(p, true), "white"));
    }
    void planesThatMerge()
    {
        // Measured ones alone are judged.
        const Project p = project();
        const auto shot = elements::freeze(p, store_, job_);
        reading::Measured m;
        m.separation = {0.1f, 1.4f};
        auto all = reading::checksOf(p, *shot, m);
        QVERIFY(one(all, "merge"));
        m.separation = {0.6f, 1.4f};
        all = reading::checksOf(p, *shot, m);
        QVERIFY(!one(all, "merge"));
    }
    void dearAndHardlySeen()
    {
        Project p = project();
        scene::Element& e = fog(p, 40.0, Vec3(0.f, 2.f, -10.f), Vec3(8.f, 4.f, 6.f));
        const auto shot = elements::freeze(p, store_, job_);
        reading::Measured m;
        m.adds[e.id] = 0.002;
        m.costs[e.id] = 0.4;
        QVERIFY(one(reading::checksOf(p, *shot, m), "dear"));
        m.adds[e.id] = 0.1;
        QVERIFY(!one(reading::checksOf(p, *shot, m), "dear"));
    }
    void whatIsNotPhysicalIsInformation()
    {
        Project p = project();
        scene::Element& e = fog(p, 40.0, Vec3(0.f, 2.f, -10.f), Vec3(8.f, 4.f, 6.f));
        QVERIFY(!one(found(p), "notPhysical"));
        e.set("ambient", 2.0);
        const auto all = found(p);
        const Finding* f = one(all, "notPhysical");
        QVERIFY2(f && f->grade == Finding::Grade::Information, qPrintable(ids(all)));
        QVERIFY(f->text.find("× 2") != std::string::npos);
    }
    void whatIsMissingIsThereOnce()
    {
        Project p = project();
        p.add(*elements::findKind("set"), "Gone").set("file", std::string("/nowhere/gone.glb"));
        const auto all = found(p);
        QVERIFY2(one(all, "missing"), qPrintable(ids(all)));
        QCOMPARE(std::count_if(all.begin(), all.end(), [](const Finding& f) { return f.id == "missing"; }), 1);
        QVERIFY(one(found(p, true), "missing")); // nor does measuring stumble over it
        // Troubles stand first.
        for (std::size_t i = 1; i < all.size(); ++i)
            QVERIFY(all[i - 1].grade <= all[i].grade);
    }

    void theCommandTellsThem()
    {
        Project p = project();
        const std::string id = fog(p, 1e6, Vec3(0.f, 2.f, -10.f), Vec3(8.f, 4.f, 6.f)).id;
        const QString file = folder_.filePath("thin.hygros");
        scene::saveProject(p, file.toStdString());
        QProcess run;
        run.start(CLI, {"check", file, "--json"});
        QVERIFY(run.waitForFinished(120000));
        QCOMPARE(run.exitCode(), 1);
        const auto said = nlohmann::json::parse(run.readAllStandardOutput().toStdString());
        std::string fix;
        for (const auto& f : said["findings"])
            if (f["check"] == "thin" && f["element"] == id) {
                QCOMPARE(f["grade"].get<std::string>(), std::string("trouble"));
                fix = f["fix"][0].get<std::string>();
            }
        QVERIFY(!fix.empty());
        // As it says.
        p.setPath(fix.substr(0, fix.find('=')), fix.substr(fix.find('=') + 1));
        scene::saveProject(p, file.toStdString());
        run.start(CLI, {"check", file});
        QVERIFY(run.waitForFinished(120000));
        QCOMPARE(run.exitCode(), 0);
        QVERIFY(!run.readAllStandardOutput().contains("trouble"));
        run.start(CLI, {"check", folder_.filePath("none.hygros")});
        QVERIFY(run.waitForFinished(60000));
        QCOMPARE(run.exitCode(), 2);
    }
};

QTEST_GUILESS_MAIN(TestChecks)
#include "test_checks.moc"
