/// Checks: each has a scene that brings it about and one that must not; what mends it does.
#include "reading/checks.h"

#include "elements/bake.h"
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
    /// A plume of 4 × 8 × 4 m before the camera and a feed in it.
    Project burning()
    {
        Project p = project();
        scene::Element& plume = p.add(*elements::findKind("plume"), "Fire");
        plume.id = "fire";
        plume.set("position", Vec3(0.f, 0.f, -10.f));
        scene::Element& feed = p.add(*elements::findKind("feed"), "Grate");
        feed.id = "grate";
        feed.set("plume", std::string("fire"));
        feed.set("position", Vec3(0.f, 0.2f, -10.f));
        return p;
    }
    void feedsThatNothingLeaves()
    {
        const Project well = burning();
        for (const char* id : {"nothingLeaves", "feedOutside", "unlit", "coarse"})
            QVERIFY2(!one(found(well), id), qPrintable(ids(found(well))));
        const auto comesAndGoes = [&](const char* id, const auto& spoil) {
            Project p = burning();
            spoil(p);
            const auto all = found(p);
            const Finding* f = one(all, id);
            if (!f || f->fix.settings.empty() || f->fix.label.empty())
                return false;
            return !one(found(mended(p, *f)), id);
        };
        QVERIFY(comesAndGoes("nothingLeaves", [](Project& p) { p.find("grate")->set("rate", 0.0); }));
        QVERIFY(comesAndGoes("nothingLeaves", [](Project& p) {
            p.find("grate")->set("fuel", 0.0);
            p.find("grate")->set("temperature", 288.0);
        }));
        QVERIFY(
            comesAndGoes("feedOutside", [](Project& p) { p.find("grate")->set("position", Vec3(9.f, -2.f, 0.f)); }));
        QVERIFY(comesAndGoes("unlit", [](Project& p) { p.find("grate")->set("temperature", 400.0); }));
        QVERIFY(comesAndGoes("coarse", [](Project& p) { p.find("fire")->set("voxel", 1.0); }));
        QVERIFY(comesAndGoes("coarse", [](Project& p) {
            p.find("fire")->set("voxel", 0.3);
            p.find("fire")->set("detail", std::string("preview"));
        }));
        // One that is to begin later is no trouble.
        Project later = burning();
        later.find("grate")->set("rate", 0.0);
        scene::Track t;
        t.keys = {scene::keyAt(1, 0.0, scene::Way::Linear), scene::keyAt(40, 12.0, scene::Way::Linear)};
        later.find("grate")->setTrack("rate", t);
        QVERIFY2(!one(found(later), "nothingLeaves"), qPrintable(ids(found(later))));
        // Embers too.
        Project embers = burning();
        scene::Element& e = embers.add(*elements::findKind("embers"), "Sparks");
        e.set("plume", std::string("fire"));
        QVERIFY(!one(found(embers), "nothingLeaves"));
        embers.elements.back().set("rate", 0.0);
        const auto all = found(embers);
        const Finding* f = one(all, "nothingLeaves");
        QVERIFY2(f && f->element == embers.elements.back().id, qPrintable(ids(all)));
        QVERIFY(!one(found(mended(embers, *f)), "nothingLeaves"));
    }
    void framesThatAreNotBaked()
    {
        Project p = burning();
        QVERIFY(!one(found(p), "notBaked")); // it has no place for them yet
        p.baked = (folder_.path() + "/baked").toStdString();
        const auto all = found(p);
        const Finding* f = one(all, "notBaked");
        QVERIFY2(f && f->element == "fire" && f->fix.bakes && f->fix.settings.empty(), qPrintable(ids(all)));
        // As its button does; the wind of another strength is another bake.
        p.find("fire")->set("voxel", 0.5);
        p.time.last = 3;
        FrameStore frames(p.baked);
        elements::bake(p, "fire", frames, store_, job_);
        QVERIFY2(!one(found(p), "notBaked") && !one(found(p), "stale"), qPrintable(ids(found(p))));
        p.find("grate")->set("fuel", 0.4);
        const auto stale = found(p);
        QVERIFY2(one(stale, "stale") && one(stale, "stale")->fix.bakes, qPrintable(ids(stale)));
    }
    void lightWhereItIsCold()
    {
        Project p = project();
        scene::Element& v = p.add(*elements::findKind("volume"), "Glow");
        v.id = "glow";
        v.set("source", std::string("file"));
        v.set("file", std::string(SOURCE_DIR "/demo/volumes/embers.vdb"));
        v.set("density", std::string("density"));
        v.set("heat", std::string("temperature"));
        v.set("glow", std::string("ramp"));
        v.set("position", Vec3(0.f, 1.f, -10.f));
        QVERIFY2(!one(found(p), "coldGlow"), qPrintable(ids(found(p))));
        for (const char* ramp :
             {"0 #ff4010 100%; 1 #ffd0a0 100%", "0 #000000 0%; 0.001 #ff4010 100%; 1 #ffd0a0 100%"}) {
            p.setPath("glow.ramp", ramp);
            const auto all = found(p);
            const Finding* f = one(all, "coldGlow");
            QVERIFY2(f, qPrintable(ids(all)));
            const Project well = mended(p, *f);
            QVERIFY2(!one(found(well), "coldGlow"), f->fix.settings[0].second.c_str());
        }
    }
    void unitsMixedUp()
    {
        Project p = project();
        scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
        haze.id = "thick";
        haze.set("form", std::string("uniform"));
        haze.set("visibility", 2.5);
        auto all = found(p);
        const Finding* f = one(all, "units");
        QVERIFY2(f && f->text.find("kilometres") != std::string::npos, qPrintable(ids(all)));
        const Project well = mended(p, *f);
        NEAR(std::get<double>(well.find("thick")->value("visibility")), 2500.0, 0.01);
        QVERIFY(!one(found(well), "units"));
        p.find("thick")->set("visibility", 60.0); // thick and meant
        QVERIFY(!one(found(p), "units"));

        scene::Element& wind = p.add(*elements::findKind("wind"), "Wind");
        wind.id = "blows";
        wind.set("speed", 72.0);
        all = found(p);
        f = one(all, "units");
        QVERIFY2(f && f->element == "blows" && f->grade == Finding::Grade::Advice, qPrintable(ids(all)));
        NEAR(std::get<double>(mended(p, *f).find("blows")->value("speed")), 20.0, 0.01);
        p.find("blows")->set("speed", 30.0);
        QVERIFY(!one(found(p), "units"));
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
