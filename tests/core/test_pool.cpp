/// Pools: where water stands within walls; and water as an element of a project.
#include "elements/water_file.h"
#include "finish/deliver.h"
#include "geometry/basin.h"
#include "image/image.h"
#include "media/open_water.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
using geometry::Basin;
namespace fs = std::filesystem;

namespace {
/// Boxes as an OBJ file's text: corners low and high.
struct Boxes {
    std::string text;
    int count = 0;
    void add(const std::string& name, const Vec3& low, const Vec3& high)
    {
        text += "o " + name + "\n";
        for (int i = 0; i < 8; ++i)
            text += "v " + std::to_string(i & 1 ? high.x : low.x) + " " + std::to_string(i & 2 ? high.y : low.y) + " " +
                    std::to_string(i & 4 ? high.z : low.z) + "\n";
        for (const auto& [a, b, c, d] :
             {std::array<int, 4>{1, 3, 4, 2}, {5, 6, 8, 7}, {1, 2, 6, 5}, {3, 7, 8, 4}, {1, 5, 7, 3}, {2, 4, 8, 6}}) {
            text += "f";
            for (const int i : {a, b, c, d})
                text += " " + std::to_string(count * 8 + i);
            text += "\n";
        }
        ++count;
    }
};
/// A chamber of 4 by 6 m inside, floor at 0, walls 2 m high and `thick`; the one at +Z with a gap of 1 m where wanted.
std::string chamber(float thick, bool gap)
{
    Boxes b;
    b.add("floor", Vec3(-9, -1, -9), Vec3(9, 0, 9));
    b.add("left", Vec3(-2 - thick, -0.5f, -3 - thick), Vec3(-2, 2, 3 + thick));
    b.add("right", Vec3(2, -0.5f, -3 - thick), Vec3(2 + thick, 2, 3 + thick));
    b.add("far", Vec3(-2.1f, -0.5f, -3 - thick), Vec3(2.1f, 2, -3));
    b.add("gate", Vec3(-2.1f, -0.5f, 3), Vec3(gap ? 1.f : 2.1f, 2, 3 + thick));
    return b.text;
}
} // namespace

class TestPool : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;

    fs::path write(const std::string& name, const std::string& text)
    {
        const fs::path file = fs::path(folder_.path().toStdString()) / name;
        std::ofstream(file) << text;
        return file;
    }
    std::shared_ptr<const geometry::RayScene> scene(const std::string& text)
    {
        const auto set = geometry::importSet(write("walls.obj", text), job_);
        return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job_);
    }
    scene::Project project(const std::string& text)
    {
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("set"), "Walls").set("file", write("project.obj", text).string());
        p.find("shot")->set("position", Vec3(0.f, 3.f, 7.f));
        p.find("shot")->set("aim", Vec3(0.f, 0.5f, 0.f));
        return p;
    }
    static bool told(const shot::Shot& shot, const char* words)
    {
        for (const shot::Note& n : shot.notes)
            if (n.text.find(words) != std::string::npos)
                return true;
        return false;
    }

private Q_SLOTS:
    void waterFillsWhatWallsEnclose_data()
    {
        QTest::addColumn<float>("thick");
        QTest::newRow("walls") << 0.4f;
        QTest::newRow("sheets") << 0.01f;
    }
    void waterFillsWhatWallsEnclose()
    {
        QFETCH(float, thick);
        const Basin b(scene(chamber(thick, false)), {Vec3(0.5f, 1.f, 0.3f), 50.f, false}, job_);
        QVERIFY(!b.isBlocked() && !b.runsOut());
        NEAR(b.area(), 24.f, 0.06);
        NEAR(b.meanDepth(), 1.f, 1e-3);
        NEAR(b.deepest(), 1.f, 1e-3);
        // To the walls, and not a hand's breadth beyond them.
        for (float z = -2.97f; z < 3.f; z += 0.11f)
            for (float x = -1.985f; x < 2.f; x += 0.107f)
                QVERIFY2(b.holds(x, z), qPrintable(QString("%1 %2").arg(x).arg(z)));
        for (float s = -2.f; s < 2.f; s += 0.13f) {
            QVERIFY(!b.holds(s, 3.f + thick + 0.01f) && !b.holds(s, -3.01f - thick));
            QVERIFY(!b.holds(-2.01f - thick, s) && !b.holds(2.01f + thick, s));
        }
    }

    void groundIsNoWallThatOneStandsIn()
    {
        // A hollow in ground that has no other side: a way to the side meets it once.
        std::string text = "o land\n";
        constexpr int n = 41;
        for (int j = 0; j < n; ++j)
            for (int i = 0; i < n; ++i) {
                const double x = 0.5 * (i - 20), z = 0.5 * (j - 20), r = std::hypot(x, z);
                text += "v " + std::to_string(x) + " " + std::to_string(r < 6.0 ? -2.0 + r * r / 18.0 : 0.0) + " " +
                        std::to_string(z) + "\n";
            }
        for (int j = 0; j + 1 < n; ++j)
            for (int i = 0; i + 1 < n; ++i) {
                const int a = j * n + i + 1;
                text += "f " + std::to_string(a) + " " + std::to_string(a + n) + " " + std::to_string(a + n + 1) + " " +
                        std::to_string(a + 1) + "\n";
            }
        const Basin b(scene(text), {Vec3(1.f, -0.5f, 0.4f), 40.f, false}, job_);
        QVERIFY(!b.isBlocked() && !b.runsOut());
        NEAR(b.area(), 3.14159 * 27.0, 0.05); // r² = 18·1.5
        NEAR(b.deepest(), 1.5, 0.03);
        QVERIFY(b.holds(0.f, 0.f) && !b.holds(5.6f, 0.f));
    }

    void itRunsOutOfWhatIsOpen()
    {
        const auto open = scene(chamber(0.4f, true));
        QVERIFY(Basin(open, {Vec3(0.f, 1.f, 0.f), 40.f, false}, job_).runsOut());
        const Basin on(open, {Vec3(0.f, 1.f, 0.f), 40.f, true}, job_);
        QVERIFY(!on.runsOut() && on.area() > 5000.f && on.holds(0.f, 20.f));
        // Higher than the walls as well, and within a wall there is no place for it.
        QVERIFY(Basin(scene(chamber(0.4f, false)), {Vec3(0.f, 2.5f, 0.f), 40.f, false}, job_).runsOut());
        QVERIFY(Basin(scene(chamber(0.4f, false)), {Vec3(2.2f, 1.f, 0.f), 40.f, false}, job_).isBlocked());
    }

    void aPoolOfAProjectIsSeen()
    {
        scene::Project p = project(chamber(0.4f, false));
        scene::Element& pool = p.add(*elements::findKind("pool"), "Pool");
        pool.set("position", Vec3(0.f, 0.f, 0.f));
        pool.set("depth", 0.8);
        const auto shot = elements::freeze(p, store_, job_);
        QCOMPARE(shot->waters.size(), std::size_t(1));
        QVERIFY(told(*shot, "It covers 2"));
        geometry::Hit hit;
        QVERIFY(shot->scene->trace(Vec3(0.f, 4.f, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 10.f, hit));
        QVERIFY(hit.material->isWater && std::abs(4.f - hit.t - 0.8f) < 0.05f);
        QCOMPARE(shot->setIds.at(hit.set), pool.id);
        QVERIFY(shot->scene->trace(Vec3(5.f, 4.f, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 10.f, hit));
        QVERIFY(!hit.material->isWater);
        // The same settings, the same shot; another time of the waves, another.
        QVERIFY(*elements::freeze(p, store_, job_) == *shot);
        p.frame = 9;
        QVERIFY(!(*elements::freeze(p, store_, job_) == *shot));
        // What cannot hold water says so, and nothing else is lost.
        p = project(chamber(0.4f, true));
        p.add(*elements::findKind("pool"), "Pool").set("position", Vec3(0.f, 0.f, 0.f));
        const auto dry = elements::freeze(p, store_, job_);
        QVERIFY(dry->waters.empty() && told(*dry, "the water would run out"));
        scene::Project none = elements::newProject();
        none.add(*elements::findKind("pool"), "Pool");
        QVERIFY(told(*elements::freeze(none, store_, job_), "no set whose walls"));
    }

    void rainMakesItsRingsOnIt()
    {
        scene::Project p = elements::newProject();
        p.find("shot")->set("position", Vec3(0.f, 2.f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 0.f, -5.f));
        p.add(*elements::findKind("openWater"), "Lake").set("speed", 0.0);
        const auto tilted = [&](const shot::Shot& shot) {
            int count = 0;
            for (float x = -2.f; x < 2.f; x += 0.05f)
                for (float z = -6.f; z < -2.f; z += 0.05f) {
                    geometry::Hit hit;
                    if (shot.scene->trace(Vec3(x, 2.f, z), Vec3(0.f, -1.f, 0.f), 0.f, 5.f, hit))
                        count += hit.facet.y < 0.9999f;
                }
            return count;
        };
        QCOMPARE(tilted(*elements::freeze(p, store_, job_)), 0);
        p.add(*elements::findKind("rain"), "Rain").set("rate", 10.0);
        const int some = tilted(*elements::freeze(p, store_, job_));
        QVERIFY2(some > 50, qPrintable(QString::number(some)));
        p.find("rain")->set("rate", 50.0);
        QVERIFY(tilted(*elements::freeze(p, store_, job_)) > some);
    }

    void openWaterTellsOfItself()
    {
        scene::Project p = elements::newProject();
        scene::Element& w = p.add(*elements::findKind("openWater"), "Sea");
        auto shot = elements::freeze(p, store_, job_);
        QVERIFY(told(*shot, "significant height") && told(*shot, "They repeat after") && told(*shot, "is white"));
        w.set("speed", 0.0);
        QVERIFY(told(*elements::freeze(p, store_, job_), "lies like a mirror"));
        // Sharper than it may be it is held, and says so.
        w.set("speed", 12.0);
        w.set("choppy", 8.0);
        w.set("foldLimit", 0.01);
        shot = elements::freeze(p, store_, job_);
        QVERIFY(told(*shot, "lean together by"));
        w.set("holdsFolds", false);
        QVERIFY(!told(*elements::freeze(p, store_, job_), "lean together by"));
        // A Wind drives it.
        const std::string wind = p.add(*elements::findKind("wind"), "Wind").id;
        p.find(wind)->set("speed", 3.0);
        p.find("sea")->set("wind", wind);
        const auto by = elements::freeze(p, store_, job_);
        p.find(wind)->set("speed", 15.0);
        QVERIFY(!(*elements::freeze(p, store_, job_) == *by));
        p.find("sea")->set("wind", std::string("gone"));
        QVERIFY(told(*elements::freeze(p, store_, job_), "is not there"));
        // Damaged numbers are refused before anything changes.
        QVERIFY_EXCEPTION_THROWN(p.find("sea")->set("depth", 0.0), std::invalid_argument);
        QVERIFY_EXCEPTION_THROWN(p.find("sea")->set("speed", 1e4), std::invalid_argument);
    }

    void waterGoesOutAsSurfaceMapsAndABuoysTable()
    {
        const fs::path folder(folder_.path().toStdString());
        scene::Project p = elements::newProject();
        p.find("shot")->set("position", Vec3(0.f, 3.f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 2.f, -10.f));
        scene::Element& w = p.add(*elements::findKind("openWater"), "Sea");
        w.set("level", 1.0);
        w.set("fetch", 5000.0);
        w.set("detail", std::string("quick"));
        p.frame = 4;
        const auto shot = elements::freeze(p, store_, job_);
        const auto& water = static_cast<const media::OpenWater&>(*shot->waters.at(0).surface);
        // Its mesh stands where rays meet it.
        elements::WaterWish wish;
        wish.side = 20.0;
        wish.cell = 0.1;
        for (const char* name : {"sea.ply", "sea.glb"}) {
            elements::exportWater(p, "sea", folder / name, wish, store_, job_);
            const auto mesh = geometry::importSet(folder / name, job_);
            QCOMPARE(mesh->triangles, std::size_t(200 * 200 * 2));
            const geometry::RayScene again({{mesh, Mat4()}}, job_);
            for (float x = -8.f; x < 8.f; x += 1.3f) {
                geometry::Hit hit;
                QVERIFY(again.trace(Vec3(x, 9.f, -9.f), Vec3(0.f, -1.f, 0.f), 0.f, 20.f, hit));
                QVERIFY(std::abs(9.f - hit.t - water.heightAt(x, -9.f, 0.1f)) < 0.02f && hit.normal.y > 0.6f);
            }
        }
        // Maps: the same surface; and a tile whose edges fit.
        elements::exportWater(p, "sea", folder / "sea.exr", wish, store_, job_);
        image::Image map = image::readImage(folder / "sea.exr");
        QCOMPARE(map.width, 201);
        const media::SwellSample s = water.at(Vec2(-10.f, -19.f), 0.1f);
        NEAR(map.at(0, 0)[map.channel("displacement.y")], s.height, 1e-2);
        NEAR(map.at(0, 0)[map.channel("jacobian")], s.jacobian(), 1e-2);
        for (const char* name : {"displacement.x", "normal.y", "foam"})
            QVERIFY(map.channel(name) >= 0);
        wish.tiles = true;
        elements::exportWater(p, "sea", folder / "tile.exr", wish, store_, job_);
        map = image::readImage(folder / "tile.exr");
        QCOMPARE(map.width, 256);
        const int h = map.channel("displacement.y");
        double across = 0.0, along = 0.0;
        for (int y = 0; y < 256; ++y) {
            across += std::pow(double(map.at(0, y)[h] - map.at(255, y)[h]), 2.0);
            along += std::pow(double(map.at(101, y)[h] - map.at(100, y)[h]), 2.0);
        }
        QVERIFY2(across < 2.0 * along && across > 0.3 * along, qPrintable(QString::number(across / along)));
        // A buoy measures about what the spectrum says.
        const elements::Buoy b = elements::buoyAt(p, "sea", 2.0, -7.0, 1, often(300), store_, job_);
        NEAR(b.significantHeight, b.spectrumHeight, test::within(0.45));
        NEAR(b.meanPeriod, b.spectrumPeriod, test::within(0.6));
        elements::exportBuoy(p, "sea", 2.0, -7.0, 1, 5, folder / "buoy.csv", store_, job_);
        std::ifstream file(folder / "buoy.csv");
        std::string line;
        int lines = 0;
        while (std::getline(file, line))
            lines += line.empty() || line[0] == '#' ? 0 : 1;
        QCOMPARE(lines, 6);
        // What cannot be is said, and nothing is written.
        THROWS_SAYING(elements::exportWater(p, "sun", folder / "no.ply", {}, store_, job_),
                      "only Open water and a Pool");
        THROWS_SAYING(elements::exportWater(p, "sea", folder / "no.abc", {}, store_, job_), ".ply");
        THROWS_SAYING(elements::exportWater(p, "sea", folder / "no.ply", {60.0, 1e-3, false}, store_, job_),
                      "samples a side");
        THROWS_SAYING(elements::exportWater(p, "nobody", folder / "no.ply", {}, store_, job_), "no such element");
        QVERIFY(!fs::exists(folder / "no.ply") && !fs::exists(folder / "no.abc"));
    }

    void bothIntegratorsSeeTheSameWater()
    {
        // A lake under an even sky, seen at three steepnesses: the mean of each picture agrees.
        scene::Project p = elements::newProject();
        p.find("sun")->set("strength", 0.0);
        scene::Element& w = p.add(*elements::findKind("openWater"), "Lake");
        w.set("speed", 4.0);
        w.set("fetch", 2000.0);
        w.set("type", std::string("silt"));
        p.find("shot")->set("position", Vec3(0.f, 6.f, 0.f));
        for (const float drop : {3.f, 12.f}) {
            p.find("shot")->set("aim", Vec3(0.f, 6.f - drop, -10.f));
            const auto shot = elements::freeze(p, store_, job_);
            const auto mean = [&](render::StillAir air, int samples) {
                render::StillSettings s;
                s.width = 40;
                s.height = 24;
                s.samples = samples;
                s.air = air;
                s.followsPaths = false; // on its own
                const std::vector<float> beauty = finish::beautyOf(render::renderStill(render::Shots{{shot}}, s, job_));
                Vec3 sum(0.f);
                for (std::size_t i = beauty.size() / 2; i + 2 < beauty.size(); i += 3) // the lower half
                    sum += Vec3(beauty[i], beauty[i + 1], beauty[i + 2]);
                return sum;
            };
            const Vec3 a = mean(render::StillAir::Live, often(64)), b = mean(render::StillAir::Paths, often(256));
            for (int c = 0; c < 3; ++c)
                NEAR(a[c], b[c], within(0.06));
        }
    }
};

QTEST_GUILESS_MAIN(TestPool)
#include "test_pool.moc"
