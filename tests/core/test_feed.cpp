/// What feeds a plume: chosen faces of an object, motion off its surface, when it begins and ends; and the recipes.
#include "elements/bake.h"
#include "elements/plume_join.h"
#include "geometry/chosen_faces.h"
#include "image/image.h"
#include "scene/recipe.h"
#include "sim/smoke/plume.h"
#include "sim/smoke/stamps.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using namespace hygros::sim;
namespace fs = std::filesystem;

namespace {
bool notes(const shot::Shot& shot, const std::string& element, const std::string& words)
{
    return std::any_of(shot.notes.begin(), shot.notes.end(), [&](const shot::Note& n) {
        return n.element == element && n.text.find(words) != std::string::npos;
    });
}
} // namespace

class TestFeed : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    Store store_;
    JobControl job_;
    fs::path inside(const char* name) const { return fs::path(folder_.path().toStdString()) / name; }
    scene::Project fed()
    {
        scene::Project p = elements::newProject();
        p.folder = folder_.path().toStdString();
        scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
        plume.set("size", Vec3(6.f, 4.f, 6.f));
        plume.set("position", Vec3(0.f, -1.f, 0.f));
        plume.set("voxel", 0.1);
        plume.set("detail", std::string("preview"));
        scene::Element& feed = p.add(*elements::findKind("feed"), "Feed");
        feed.set("plume", std::string("plume"));
        return p;
    }
    /// Two level squares of a metre: grate at x −2…−1, embers at x 1…2, 0.5 m up; and a face without area.
    scene::Project withObject()
    {
        std::ofstream(inside("hearth.mtl"))
            << "newmtl grate\nKd 0.2 0.2 0.2\nnewmtl embers\nKd 0.8 0.2 0.1\nnewmtl line\nKd 1 1 1\n";
        std::ofstream(inside("hearth.obj")) << "mtllib hearth.mtl\no hearth\n"
                                               "v -2 0.5 0\nv -1 0.5 0\nv -1 0.5 1\nv -2 0.5 1\n"
                                               "v 1 0.5 0\nv 2 0.5 0\nv 2 0.5 1\nv 1 0.5 1\n"
                                               "usemtl grate\nf 1 4 3 2\nusemtl embers\nf 5 8 7 6\n"
                                               "usemtl line\nf 1 2 2\n";
        scene::Project p = fed();
        p.add(*elements::findKind("set"), "Hearth").set("file", std::string("hearth.obj"));
        p.find("feed")->set("form", std::string("object"));
        p.find("feed")->set("object", std::string("hearth"));
        return p;
    }
    media::Feed feedOf(const scene::Project& p)
    {
        const auto shot = elements::freeze(p, store_, job_);
        const auto& plumes = shot->airflow.plumes;
        return plumes.empty() || plumes[0].feeds.empty() ? media::Feed() : plumes[0].feeds[0];
    }

private Q_SLOTS:
    void viscosityEvensOutAsItShould()
    {
        // A sheared layer u(y) ∝ cos(ky) keeps its shape and decays by exp(−ν·k²·t).
        constexpr int n = 32;
        Lattice l;
        l.n = {128, n, 16};
        l.h = 1.f / n;
        auto gas = Gas::still(l);
        gas->activity = Activity::whole(l);
        for (int z = 0; z < 16; ++z)
            for (int y = 0; y < n; ++y)
                for (int x = 0; x <= l.n[0]; ++x)
                    gas->x.data()[l.at(x, y, z)] = 1e-3f * std::cos(2.f * pi * (float(y) + 0.5f) * l.h);
        GasSettings s;
        s.buoyancy = 0.f;
        s.closed = {false, false, true, true, true, true};
        s.viscosity = 0.002f;
        GasStepper stepper(l);
        const auto middle = [&](const Gas& g) { return double(g.x.data()[l.at(64, n / 2, 8)]); };
        const double was = middle(*gas);
        double seconds = 0.0;
        for (int i = 0; i < 10; ++i) {
            gas = stepper.step(*gas, s, {}, {}, 0.1f);
            seconds += 0.1;
        }
        const double wanted = std::exp(-0.002 * std::pow(2.0 * double(pi), 2.0) * seconds);
        QVERIFY2(std::abs(middle(*gas) / was / wanted - 1.0) < 0.02,
                 qPrintable(QString("%1 for %2").arg(middle(*gas) / was).arg(wanted)));
    }

    void onlyTheChosenFacesFeed()
    {
        scene::Project p = withObject();
        const auto reach = [&](const media::Feed& f) {
            Box3 box;
            for (const media::FeedPoint& point : *f.points)
                box.extendBy(point.at * f.toWorld);
            return box;
        };
        QVERIFY(reach(feedOf(p)).min.x < -1.9f && reach(feedOf(p)).max.x > 1.9f);
        p.find("feed")->set("material", std::string("embers"));
        QVERIFY(reach(feedOf(p)).min.x >= 1.f && reach(feedOf(p)).max.x > 1.9f);
        // Of these only what lies in a box.
        p.find("feed")->set("within", true);
        p.find("feed")->set("position", Vec3(1.f, 0.5f, 0.f));
        p.find("feed")->set("size", Vec3(1.f, 1.f, 4.f));
        QVERIFY(reach(feedOf(p)).max.x <= 1.5f && reach(feedOf(p)).max.x > 1.4f);
        const PlumeSolver solver("plume");
        auto shot = elements::freeze(p, store_, job_);
        auto state = solver.step(*solver.begin(*shot), *shot, 0.04, job_);
        const Gas& gas = *static_cast<const PlumeState&>(*state).gas;
        const Lattice& l = gas.lattice;
        double left = 0.0, right = 0.0;
        for (int z = 0; z < l.n[2]; ++z)
            for (int y = 0; y < l.n[1]; ++y)
                for (int x = 0; x < l.n[0]; ++x)
                    (l.middle(x, y, z).x < 0.9f ? left : right) += double(gas.heat.data()[l.at(x, y, z)]);
        QCOMPARE(left, 0.0);
        QVERIFY(right > 0.0);
    }

    void paintedFacesAloneFeed()
    {
        scene::Project p = withObject();
        JobControl job;
        const auto set = elements::placedSet(p, *p.find("hearth"), store_, job)->set;
        // The faces whose middle lies at x 1…2, wherever the file's reader has put them.
        std::map<std::size_t, std::vector<bool>> on;
        std::size_t wanted = 0;
        for (std::size_t m = 0; m < set->meshes.size(); ++m) {
            const geometry::Mesh& mesh = set->meshes[m];
            on[m].resize(mesh.indices.size() / 3);
            for (std::size_t i = 0; i < on[m].size(); ++i) {
                on[m][i] = mesh.positions[mesh.indices[3 * i]].x + mesh.positions[mesh.indices[3 * i + 1]].x > 1.9f;
                wanted += on[m][i];
            }
        }
        const geometry::ChosenFaces faces(*set, on);
        QCOMPARE(faces.count(), wanted);
        QVERIFY(wanted >= 2);
        // As text and back they are the same.
        const auto again = geometry::ChosenFaces::parse(faces.text());
        QVERIFY(again && again->text() == faces.text() && again->count() == wanted && again->on(*set).gone == 0);
        p.find("feed")->set("painted", faces.text());
        for (const media::FeedPoint& point : *feedOf(p).points)
            QVERIFY((point.at * feedOf(p).toWorld).x >= 1.f);
        QVERIFY(feedOf(p).points->size() > 20);
        QVERIFY(!notes(*elements::freeze(p, store_, job_), "feed", "painted"));
        // What was painted survives the project's file.
        const fs::path file = inside("painted.hygros");
        scene::saveProject(p, file);
        const scene::Project loaded = scene::loadProject(file, elements::findKind);
        QCOMPARE(std::get<std::string>(loaded.find("feed")->value("painted")), faces.text());
        // Another mesh under the same name: none of them is there.
        {
            std::ofstream(inside("hearth.obj")) << "mtllib hearth.mtl\no hearth\n"
                                                   "v -2 0.5 0\nv -1 0.5 0\nv -1 0.5 1\nv -2 0.5 1\nv 0 1 0\n"
                                                   "usemtl embers\nf 1 2 5\nf 2 3 5\nf 3 4 5\nf 4 1 5\n";
        }
        QVERIFY(
            notes(*elements::freeze(p, store_, job_), "feed", "none of the " + std::to_string(wanted) + " is there"));
        QVERIFY(feedOf(p).points->empty());
        for (const char* damaged :
             {"x", "12 3", "12 3 0-9 m\n", "12 3 2,1 m\n", "12 3 1- m\n", "12 99999999999999 1 m"}) {
            p.find("feed")->set("painted", std::string(damaged));
            if (std::string(damaged) != "12 99999999999999 1 m")
                QVERIFY2(!geometry::ChosenFaces::parse(damaged), damaged);
            QVERIFY2(elements::freeze(p, store_, job_) && feedOf(p).points->empty(), damaged);
        }
        p.find("feed")->set("painted", std::string("x"));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "feed", "cannot be read"));
    }

    void aPictureMasksWhatFeeds()
    {
        // White at the back left quarter alone.
        constexpr int n = 64;
        std::vector<std::uint8_t> rgb(std::size_t(n) * n * 3, 0);
        for (int y = 0; y < n / 2; ++y)
            for (int x = 0; x < n / 2; ++x)
                for (int c = 0; c < 3; ++c)
                    rgb[std::size_t((y * n + x) * 3 + c)] = 255;
        image::writePng(inside("mask.png"), n, n, rgb);
        scene::Project p = fed();
        p.find("feed")->set("form", std::string("box"));
        p.find("feed")->set("position", Vec3(0.f, 0.5f, 0.f));
        p.find("feed")->set("size", Vec3(2.f, 0.4f, 2.f));
        p.find("feed")->set("contrast", 0.0);
        const auto shares = [&] {
            const auto shot = elements::freeze(p, store_, job_);
            const Lattice l = PlumeSolver::latticeOf(shot->airflow.plumes.at(0));
            const media::Feed& f = shot->airflow.plumes[0].feeds.at(0);
            std::array<double, 4> quarters{}; // back left, back right, front left, front right
            for (const auto& [c, share] : inflowOf(f, f.toWorld, l).cells) {
                const Vec3 at = l.middle(c[0], c[1], c[2]);
                quarters[std::size_t((at.x > 0.f) + 2 * (at.z > 0.f))] += double(share);
            }
            return quarters;
        };
        const auto whole = shares();
        NEAR(whole[0], whole[3], 1e-3);
        p.find("feed")->set("mask", std::string("mask.png"));
        const auto masked = shares();
        NEAR(masked[0], whole[0], 0.06);
        QVERIFY2(masked[1] + masked[2] + masked[3] < 0.06 * whole[0], qPrintable(QString::number(masked[3])));
        std::ofstream(inside("mask.png")) << "no picture";
        THROWS_SAYING(elements::freeze(p, store_, job_), "mask.png");
    }

    void embersLeaveATrail()
    {
        scene::Project p = fed();
        p.time.last = 6;
        p.baked = inside("trail");
        FrameStore frames(p.baked);
        p.find("feed")->set("position", Vec3(0.f, 0.f, 0.f));
        p.find("feed")->set("temperature", 1400.0);
        elements::bake(p, "plume", frames, store_, job_);
        scene::Element& sparks = p.add(*elements::findKind("embers"), "Sparks");
        sparks.set("plume", std::string("plume"));
        sparks.set("rate", 200.0);
        sparks.set("scatter", 3.0);
        scene::Element& smoke = p.add(*elements::findKind("plume"), "Trails");
        smoke.set("size", Vec3(6.f, 4.f, 6.f));
        smoke.set("position", Vec3(0.f, -1.f, 0.f));
        smoke.set("detail", std::string("preview"));
        scene::Element& trail = p.add(*elements::findKind("feed"), "Trail");
        trail.set("plume", std::string("trails"));
        trail.set("form", std::string("embers"));
        trail.set("smoke", 1.0);
        QVERIFY(notes(*elements::freeze(p, store_, job_), "trail", "Choose the embers"));
        trail.set("particles", std::string("sparks"));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "trail", "is not baked at this frame"));
        elements::bake(p, "sparks", frames, store_, job_);
        p.frame = 6;
        const auto shot = elements::freeze(p, store_, job_);
        QVERIFY(!notes(*shot, "trail", "not baked"));
        const media::Plume* trails = nullptr;
        for (const media::Plume& one : shot->airflow.plumes)
            if (one.id == "trails")
                trails = &one;
        QVERIFY(trails && trails->feeds.size() == 1);
        const auto& points = *trails->feeds[0].points;
        QVERIFY(points.size() > shot->sparks.at(0).all->all().size());
        // Closer than a voxel on the way that each has come since the last frame.
        for (const media::Spark& s : shot->sparks[0].all->all())
            QVERIFY(std::any_of(points.begin(), points.end(),
                                [&](const media::FeedPoint& f) { return (f.at - s.at).length() < 1e-4f; }));
        elements::bake(p, "trails", frames, store_, job_);
        const auto kept = elements::keptFrame(p, "trails", 6, store_);
        QVERIFY(kept);
        // Those that ride the plume itself are refused in words.
        trail.set("plume", std::string("plume"));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "trail", "choose those of another"));
    }

    void facesThatAreNotThereAreSaid()
    {
        scene::Project p = withObject();
        p.find("feed")->set("material", std::string("coals"));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "feed", "no material 'coals'"));
        // Once, also where a preview is fed as well.
        p.find("plume")->set("detail", std::string("shot"));
        const auto said = elements::freeze(p, store_, job_);
        QCOMPARE(std::count_if(said->notes.begin(), said->notes.end(),
                               [](const shot::Note& n) { return n.element == "feed" && n.isTrouble; }),
                 1);
        p.find("plume")->set("detail", std::string("preview"));
        p.find("feed")->set("material", std::string("line"));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "feed", "no area"));
        p.find("feed")->set("material", std::string());
        p.find("feed")->set("within", true);
        p.find("feed")->set("position", Vec3(0.f, 3.f, 0.f));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "feed", "lies in its box"));
        QVERIFY(feedOf(p).points->empty());
        // It is baked all the same.
        const PlumeSolver solver("plume");
        const auto shot = elements::freeze(p, store_, job_);
        const auto state = solver.step(*solver.begin(*shot), *shot, 0.04, job_);
        QCOMPARE(heatOf(*static_cast<const PlumeState&>(*state).gas), 0.0);
    }

    void itFeedsFromItsBeginningToItsEnd()
    {
        scene::Project p = fed();
        p.time.first = 11;
        p.time.last = 60;
        p.find("feed")->set("begins", 0.4);
        p.find("feed")->set("lasts", 0.2);
        const double rate = p.time.rate.perSecond();
        for (int frame = 5; frame <= 40; ++frame) {
            p.frame = frame;
            const double since = (frame - 11) / rate;
            QCOMPARE(feedOf(p).rate > 0.f, since > 0.4 - 1e-6 && since < 0.6 - 1e-6);
        }
        p.frame = 12;
        const int begins = 11 + int(std::ceil(0.4 * rate)), ends = 11 + int(std::ceil(0.6 * rate));
        QVERIFY(notes(*elements::freeze(p, store_, job_), "feed", "feeds from frame " + std::to_string(begins)));
        p.frame = 50;
        QVERIFY(notes(*elements::freeze(p, store_, job_), "feed", "stopped feeding at frame " + std::to_string(ends)));
        // One without a beginning feeds through the pre-roll.
        p.find("feed")->set("begins", 0.0);
        p.find("feed")->set("lasts", 0.0);
        p.frame = -20;
        QVERIFY(feedOf(p).rate > 0.f);
    }

    void whatItGivesGoesOutward()
    {
        scene::Project p = fed();
        p.find("feed")->set("contrast", 0.0);
        p.find("feed")->set("size", Vec3(2.f, 0.4f, 2.f));
        p.find("feed")->set("outward", 3.0);
        Lattice l;
        l.n = {64, 32, 64};
        l.h = 0.1f;
        l.origin = Vec3(-3.2f, -1.f, -3.2f);
        const auto check = [&](const auto& wanted) {
            const media::Feed f = feedOf(p);
            QVERIFY(f.pushes);
            const Inflow in = inflowOf(f, f.toWorld, l);
            QCOMPARE(in.beside.size(), in.cells.size());
            QVERIFY(in.cells.size() > 50);
            for (std::size_t i = 0; i < in.cells.size(); ++i) {
                const auto& c = in.cells[i].first;
                const Vec3 should = wanted(l.middle(c[0], c[1], c[2])) * 3.f;
                QVERIFY2((in.beside[i] - should).length() < 1e-3f, qPrintable(QString::number(i)));
            }
        };
        check([](const Vec3& at) { return Vec3(at.x, 0.f, at.z).normalized(); });
        p.find("feed")->set("form", std::string("ball"));
        p.find("feed")->set("position", Vec3(0.2f, 0.3f, 0.1f));
        check([](const Vec3& at) { return (at - Vec3(0.2f, 0.3f, 0.1f)).normalized(); });
        p = withObject();
        p.find("feed")->set("contrast", 0.0);
        p.find("feed")->set("outward", 3.0);
        check([](const Vec3&) { return Vec3(0.f, 1.f, 0.f); });
        // The gas takes it on.
        const PlumeSolver solver("plume");
        const auto shot = elements::freeze(p, store_, job_);
        QVERIFY(solver.stepsAFrame(*solver.begin(*shot), *shot, 0.04) >= 1);
        const auto state = solver.step(*solver.begin(*shot), *shot, 0.04, job_);
        QVERIFY(static_cast<const PlumeState&>(*state).gas->fastest > 0.3f);
    }

    void everyRecipeOfFireIsOne_data()
    {
        QTest::addColumn<QString>("file");
        for (const auto& entry : fs::directory_iterator(fs::path(SOURCE_DIR) / "demo/recipes/fire"))
            QTest::newRow(entry.path().stem().c_str()) << QString::fromStdString(entry.path().string());
    }
    void everyRecipeOfFireIsOne()
    {
        QFETCH(QString, file);
        const scene::Recipe recipe = scene::loadRecipe(file.toStdString(), elements::findKind);
        scene::Project p = elements::newProject();
        const auto ids = scene::applyRecipe(p, recipe, 1.0, Vec3(2.f, 0.f, -5.f));
        QVERIFY(ids.size() >= 2);
        for (const int frame : {1, 14}) {
            p.frame = frame;
            const auto shot = elements::freeze(p, store_, job_);
            QCOMPARE(shot->airflow.plumes.size(), std::size_t{1});
            for (const shot::Note& n : shot->notes)
                QVERIFY2(!n.isTrouble || n.text.find("baked") != std::string::npos, n.text.c_str());
        }
        // Something comes of it, and it is fed within the first second.
        const PlumeSolver solver(ids[0]);
        const auto shotAt = [&](double frame) {
            p.frame = frame;
            return elements::freeze(p, store_, job_);
        };
        const auto begun = solver.begin(*shotAt(1));
        double most = 0.0;
        for (int frame = 1; frame < 25 && most == 0.0; ++frame) {
            const auto state = solver.step(*begun, *shotAt(frame), 0.01, job_);
            const Gas& gas = *static_cast<const PlumeState&>(*state).gas;
            most = std::max(sootOf(gas), heatOf(gas));
        }
        QVERIFY(most > 0.0);
    }

    void plumesThatOverlapAreToldAndJoined()
    {
        scene::Project p = fed();
        scene::Element& other = p.add(*elements::findKind("plume"), "Other");
        other.set("position", Vec3(4.f, 0.f, 0.f));
        other.set("size", Vec3(4.f, 6.f, 4.f));
        other.set("voxel", 0.06);
        const std::string otherId = other.id;
        scene::Element& far = p.add(*elements::findKind("plume"), "Far");
        far.set("position", Vec3(7.f, 0.f, 0.f)); // overlaps the second alone
        far.set("size", Vec3(3.f, 2.f, 3.f));
        far.set("voxel", 0.2);
        scene::Element& apart = p.add(*elements::findKind("plume"), "Apart");
        apart.set("position", Vec3(40.f, 0.f, 0.f));
        scene::Element& feed = p.add(*elements::findKind("feed"), "Second");
        feed.set("plume", otherId);
        feed.set("position", Vec3(4.f, 0.5f, 0.f));
        scene::Element& embers = p.add(*elements::findKind("embers"), "Embers");
        embers.set("plume", otherId);
        QCOMPARE(elements::overlapping(p, *p.find("plume")), std::vector<std::string>{"Other"});
        QVERIFY(notes(*elements::freeze(p, store_, job_), "plume", "overlaps with Other"));
        QCOMPARE(elements::joinPlumes(p, "plume"), 2);
        QVERIFY(!p.find(otherId) && p.find("apart"));
        QVERIFY(elements::overlapping(p, *p.find("plume")).empty());
        QCOMPARE(std::get<std::string>(p.find("embers")->value("plume")), std::string("plume"));
        const scene::Element& joined = *p.find("plume");
        QCOMPARE(std::get<double>(joined.value("voxel")), 0.06);
        const Vec3 at = std::get<Vec3>(joined.value("position")), size = std::get<Vec3>(joined.value("size"));
        QVERIFY((at - Vec3(2.75f, -1.f, 0.f)).length() < 1e-4f && (size - Vec3(11.5f, 7.f, 6.f)).length() < 1e-4f);
        const auto shot = elements::freeze(p, store_, job_);
        QCOMPARE(shot->airflow.plumes.at(0).feeds.size(), std::size_t{2});
        QVERIFY(!notes(*shot, "plume", "overlaps"));
    }

    void itSaysHowMuchItTakesAndKeepsToThat()
    {
        scene::Project p = fed();
        QVERIFY(notes(*elements::freeze(p, store_, job_), "plume", "0.018 million voxels of 20 cm") ||
                notes(*elements::freeze(p, store_, job_), "plume", "million voxels of"));
        p.find("feed")->muted = true;
        QVERIFY(notes(*elements::freeze(p, store_, job_), "plume", "What feeds it is muted"));
        p.find("feed")->muted = false;
        PlumeSolver solver("plume");
        solver.setMemoryLimit(1e5); // a few hundred cells
        const auto shot = elements::freeze(p, store_, job_);
        THROWS_SAYING(solver.step(*solver.begin(*shot), *shot, 0.04, job_), "GB of memory, more than");
        solver.setMemoryLimit(1e9);
        solver.step(*solver.begin(*shot), *shot, 0.04, job_);
    }

    void darkFiresSayWhy()
    {
        scene::Project p = fed();
        p.time.last = 2;
        p.find("feed")->set("fuel", 0.0);
        p.find("feed")->set("temperature", 600.0);
        p.find("feed")->set("smoke", 1.0);
        p.baked = inside("dark");
        {
            FrameStore frames(p.baked);
            elements::bake(p, "plume", frames, store_, job_);
        }
        p.frame = 2;
        QVERIFY(notes(*elements::freeze(p, store_, job_), "plume", "Nothing glows at this frame: the hottest is"));
        p.find("plume")->set("glow", std::string("none"));
        QVERIFY(!notes(*elements::freeze(p, store_, job_), "plume", "Nothing glows"));
    }

    void aShortPushIsReckonedWithInTimeAndOnlyThen()
    {
        // Steps are as short as what is about to be pushed asks for.
        scene::Project p = fed();
        p.find("feed")->set("speed", 40.0);
        p.find("feed")->set("begins", 0.5);
        p.find("feed")->set("lasts", 0.03);
        const PlumeSolver solver("plume");
        const auto stepsAt = [&](int frame) {
            p.frame = frame;
            const auto shot = elements::freeze(p, store_, job_);
            return solver.stepsAFrame(*solver.begin(*shot), *shot, 1.0 / p.time.rate.perSecond());
        };
        const int calm = stepsAt(3), before = 1 + int(std::floor(0.5 * p.time.rate.perSecond()));
        QVERIFY(stepsAt(before) >= calm + 2);
        QCOMPARE(stepsAt(before + 4), calm);
    }

    void aCandleStandsStillAndIsThreeCentimetresTall()
    {
        if (test::watched)
            QSKIP("its bounds need all of its frames");
        scene::Project p = elements::newProject();
        const auto ids = scene::applyRecipe(
            p,
            scene::loadRecipe(std::string(SOURCE_DIR) + "/demo/recipes/fire/candle.hygros-recipe", elements::findKind));
        const PlumeSolver solver(ids[0]);
        const auto shotAt = [&](double frame) {
            p.frame = frame;
            return elements::freeze(p, store_, job_);
        };
        std::shared_ptr<const State> state = solver.begin(*shotAt(1));
        double least = 1e9, most = 0.0, aside = 0.0;
        for (int frame = 1; frame < 30; ++frame) {
            state = solver.advance(
                std::move(state), [&](double share) { return shotAt(frame + share); }, 1.0 / 25.0, job_);
            if (frame < 20)
                continue;
            // What glows to the eye: hotter than 1200 K.
            const Gas& gas = *static_cast<const PlumeState&>(*state).gas;
            const Lattice& l = gas.lattice;
            double top = 0.0, bottom = 1.0, sx = 0.0, sz = 0.0, n = 0.0;
            for (int z = 0; z < l.n[2]; ++z)
                for (int y = 0; y < l.n[1]; ++y)
                    for (int x = 0; x < l.n[0]; ++x)
                        if (gas.heat.data()[l.at(x, y, z)] > 1200.f - 288.f) {
                            const Vec3 at = l.middle(x, y, z);
                            top = std::max(top, double(at.y));
                            bottom = std::min(bottom, double(at.y));
                            sx += double(at.x);
                            sz += double(at.z);
                            ++n;
                        }
            least = std::min(least, top - bottom);
            most = std::max(most, top - bottom);
            aside = std::max(aside, std::hypot(sx, sz) / std::max(1.0, n));
        }
        qInfo("flame %.1f to %.1f mm tall, its middle %.2f mm aside", 1e3 * least, 1e3 * most, 1e3 * aside);
        QVERIFY(least >= 0.02 && most <= 0.04);
        QVERIFY(most - least < 0.006);
        QVERIFY(aside < 0.001);
    }
};
QTEST_GUILESS_MAIN(TestFeed)
#include "test_feed.moc"
