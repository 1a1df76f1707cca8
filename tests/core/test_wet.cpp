/// Wet ground: what water makes of a set's surfaces, in both integrators, and where puddles stand.
#include "base/error.h"
#include "elements/cover_file.h"
#include "geometry/hollows.h"
#include "geometry/wet.h"
#include "image/image.h"
#include "render/brdf.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>
#include <sstream>

using namespace hygros;
using geometry::Material;
using geometry::WetMaterial;
using geometry::Wetness;
namespace fs = std::filesystem;

namespace {
Wetness water(float wet, float puddles, float size = 1.2f, std::uint32_t seed = 1)
{
    Wetness w;
    w.wet = wet;
    w.puddles = puddles;
    w.size = size;
    w.seed = seed;
    return w;
}
} // namespace

class TestWet : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;

    /// A yard of 40 m with a wall across it, under an even grey sky.
    scene::Project yard()
    {
        const fs::path file = fs::path(folder_.path().toStdString()) / "yard.obj";
        std::ofstream(file.parent_path() / "yard.mtl") << "newmtl stone\nKd 0.4 0.4 0.4\nNs 2\n";
        std::ofstream(file) << "mtllib yard.mtl\no yard\nv -20 0 -20\nv 20 0 -20\nv 20 0 20\nv -20 0 20\n"
                               "v -20 0 -15\nv 20 0 -15\nv 20 6 -15\nv -20 6 -15\n"
                               "usemtl stone\nf 4 3 2 1\nf 5 6 7 8\n";
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("set"), "Yard").set("file", file.string());
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 8.f));
        p.find("shot")->set("aim", Vec3(0.f, 0.9f, 0.f));
        return p;
    }
    /// Ground of 40 m by its height, in cells of 0.1 m.
    std::shared_ptr<const geometry::RayScene> land(const std::function<float(float, float)>& height,
                                                   std::vector<geometry::PlacedSet> more = {})
    {
        constexpr int n = 401;
        auto set = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh m;
        for (int j = 0; j < n; ++j)
            for (int i = 0; i < n; ++i) {
                const float x = -20.f + 0.1f * float(i), z = -20.f + 0.1f * float(j);
                m.positions.push_back(Vec3(x, height(x, z), z));
                m.normals.push_back(Vec3(0.f, 1.f, 0.f));
                set->bounds.extendBy(m.positions.back());
                if (i > 0 && j > 0) {
                    const auto a = std::uint32_t(j * n + i);
                    m.indices.insert(m.indices.end(), {a, a - 1, a - n, a - 1, a - n - 1, a - n});
                }
            }
        // Upward: the sides of each triangle are taken from either side by rays.
        set->meshes = {m};
        set->materials.resize(1);
        more.push_back({set, Mat4()});
        return std::make_shared<geometry::RayScene>(more, job_);
    }
    const Material& materialAt(const shot::Shot& shot, const Vec3& from, const Vec3& to, geometry::Hit& hit)
    {
        [&] { QVERIFY(shot.scene->trace(from, (to - from).normalized(), 1e-3f, 1e3f, hit)); }();
        return *hit.material;
    }

private Q_SLOTS:
    void wetStoneIsDarkerAndSmoother()
    {
        Material dry;
        dry.baseColour = Vec3(0.4f, 0.2f, 0.1f);
        dry.roughness = 0.9f;
        bool puddle = true;
        const WetMaterial wet(dry, water(1.f, 0.f));
        const Material& up = wet.at(Vec3(0.f), Vec3(0, 1, 0), puddle);
        QVERIFY(!puddle);
        // a·(1 − p)/(1 − p·a) with p = 1/2.
        for (int c = 0; c < 3; ++c)
            NEAR(up.baseColour[c], dry.baseColour[c] * 0.5f / (1.f - 0.5f * dry.baseColour[c]), 1e-4);
        QVERIFY(up.roughness < 0.3f && up.roughness > render::Brdf::mirrorRoughness);
        // A wall is half as wet, what faces down dry.
        const Material &wall = wet.at(Vec3(0.f), Vec3(1, 0, 0), puddle),
                       &under = wet.at(Vec3(0.f), Vec3(0, -1, 0), puddle);
        QVERIFY(wall.baseColour.x > up.baseColour.x && wall.baseColour.x < dry.baseColour.x);
        QCOMPARE(under.baseColour, dry.baseColour);
        QCOMPARE(under.roughness, dry.roughness);
        // Half wet is between; what is polished or metal keeps its colour.
        QVERIFY(WetMaterial(dry, water(0.5f, 0.f)).at(Vec3(0.f), Vec3(0, 1, 0), puddle).baseColour.x > up.baseColour.x);
        Material metal = dry;
        metal.metallic = 1.f;
        QCOMPARE(WetMaterial(metal, water(1.f, 0.f)).at(Vec3(0.f), Vec3(0, 1, 0), puddle).baseColour, dry.baseColour);
    }

    void puddlesCoverTheShareTheyAreToldTo()
    {
        const Material dry;
        for (const float share : {0.f, 0.1f, 0.4f, 0.8f, 1.f})
            for (const std::uint32_t seed : {1u, 9u}) {
                const WetMaterial wet(dry, water(1.f, share, 0.7f, seed));
                int under = 0, all = 0;
                for (float z = -40.f; z < 40.f; z += 0.31f)
                    for (float x = -40.f; x < 40.f; x += 0.31f, ++all) {
                        bool puddle = false;
                        const Material& m = wet.at(Vec3(x, 0.f, z), Vec3(0, 1, 0), puddle);
                        under += puddle;
                        QVERIFY(!puddle || m.roughness < render::Brdf::mirrorRoughness);
                    }
                QVERIFY2(std::abs(float(under) / float(all) - share) < 0.04f,
                         qPrintable(QString("%1 of %2").arg(double(under) / all).arg(double(share))));
                bool puddle = true;
                wet.at(Vec3(0.f), Vec3(0.3f, 0.95f, 0.f).normalized(), puddle); // no water stands on a slope
                QVERIFY(!puddle);
            }
    }

    void waterStandsInHollowsByTheirTrueHeight()
    {
        // A bowl 0.1 m deep and 2 m in radius in level ground, no unevenness added.
        const auto bowl = [](float x, float z) { return -0.1f * std::max(0.f, 1.f - (x * x + z * z) / 4.f); };
        geometry::HollowSettings s;
        s.uneven = 0.f;
        const geometry::Hollows hollows(*land(bowl), s, job_);
        for (const float r : {0.f, 0.6f, 1.2f, 1.8f})
            QVERIFY(std::abs(hollows.underBrim(Vec3(r, bowl(r, 0.f), 0.f)) + bowl(r, 0.f)) < 0.01f);
        QVERIFY(hollows.underBrim(Vec3(4.f, 0.f, 0.f)) <= 0.001f);
        QVERIFY(std::isnan(hollows.underBrim(Vec3(900.f, 0.f, 0.f))));
        QVERIFY(std::abs(hollows.deepest() - 0.1f) < 0.005f);
        // As much as half of the bowl's area: it stands 0.05 m under the brim, 1.41 m wide to each side.
        const float share = hollows.most() * 0.5f, line = hollows.lineFor(share);
        QVERIFY2(std::abs(line - 0.05f) < 0.005f, qPrintable(QString::number(line)));
        const geometry::WaterInHollows water(std::make_shared<geometry::Hollows>(hollows), line);
        QVERIFY(water.depth(Vec3(1.3f, bowl(1.3f, 0.f), 0.f)) > 0.f);
        QVERIFY(water.depth(Vec3(1.55f, bowl(1.55f, 0.f), 0.f)) < 0.f);
        // Half a metre over the ground nothing stands, nor under it.
        QVERIFY(water.depth(Vec3(0.f, 0.5f, 0.f)) < 0.f && water.depth(Vec3(0.f, -1.f, 0.f)) < 0.f);
    }

    void aBowlThatRunsOutHoldsWaterToItsOutletOnly()
    {
        // A ditch 0.1 m deep leads from the bowl to the edge of the land.
        const auto ground = [](float x, float z) {
            const float bowl = -0.2f * std::max(0.f, 1.f - (x * x + z * z) / 4.f);
            return std::abs(z) < 0.3f && x > 0.f ? std::min(bowl, -0.1f) : bowl;
        };
        geometry::HollowSettings s;
        s.uneven = 0.f;
        const geometry::Hollows hollows(*land(ground), s, job_);
        const float depth = hollows.underBrim(Vec3(-0.1f, ground(-0.1f, 0.f), 0.f));
        QVERIFY2(std::abs(depth - 0.1f) < 0.012f, qPrintable(QString::number(depth)));
    }

    void waterRunsOffIntoAPond()
    {
        // The bowl with a pond in its middle: it runs off into that, and the pond is no puddle.
        const auto ground = [](float x, float z) { return -0.1f * std::max(0.f, 1.f - (x * x + z * z) / 4.f); };
        auto pond = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh m;
        for (const auto& [x, z] : {std::pair{-0.5f, -0.5f}, {0.5f, -0.5f}, {0.5f, 0.5f}, {-0.5f, 0.5f}}) {
            m.positions.push_back(Vec3(x, -0.08f, z));
            m.normals.push_back(Vec3(0.f, 1.f, 0.f));
            pond->bounds.extendBy(m.positions.back());
        }
        m.indices = {0, 2, 1, 0, 3, 2};
        pond->meshes = {m};
        pond->materials.resize(1);
        pond->materials[0].roughness = 0.02f;
        geometry::HollowSettings s;
        s.uneven = 0.f;
        const geometry::Hollows hollows(*land(ground, {{pond, Mat4()}}), s, job_);
        QVERIFY(hollows.underBrim(Vec3(1.f, ground(1.f, 0.f), 0.f)) <= 0.001f);
        QVERIFY(hollows.underBrim(Vec3(0.f, -0.08f, 0.f)) <= 0.f);
        QCOMPARE(hollows.most(), 0.f);
    }

    void onLevelGroundTheAddedHollowsHoldTheShareThatIsAskedFor()
    {
        const auto scene = land([](float, float) { return 0.f; });
        for (const float size : {0.6f, 1.2f, 2.5f}) {
            geometry::HollowSettings s;
            s.size = size;
            s.uneven = 0.015f * size;
            const auto hollows = std::make_shared<geometry::Hollows>(*scene, s, job_);
            QVERIFY2(hollows->most() > 0.2f && hollows->most() < 0.6f, qPrintable(QString::number(hollows->most())));
            for (const float share : {0.03f, 0.1f, 0.2f}) {
                const geometry::WaterInHollows water(hollows, hollows->lineFor(share));
                int under = 0, all = 0;
                for (float x = -11.9f; x < 11.9f; x += 0.07f)
                    for (float z = -11.9f; z < 11.9f; z += 0.07f, ++all)
                        under += water.depth(Vec3(x, 0.f, z)) > 0.f;
                QVERIFY2(std::abs(double(under) / all - double(share)) < 0.02,
                         qPrintable(QString("%1 for %2").arg(double(under) / all).arg(double(share))));
            }
        }
        // On a slope steeper than its unevenness none stands.
        geometry::HollowSettings s;
        const geometry::Hollows slope(*land([](float x, float) { return 0.15f * x; }), s, job_);
        QVERIFY2(slope.most() < 0.02f, qPrintable(QString::number(slope.most())));
    }

    void puddlesRiseAndDry()
    {
        scene::Project p = yard();
        p.time.last = 100;
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Rained on");
        wet.set("wet", 1.0);
        wet.set("puddles", 0.2);
        wet.set("rises", 2.0);
        wet.set("halfLife", 1.0);
        wet.set("dryFrom", 2.0);
        const auto at = [&](double frame) {
            p.frame = frame;
            const auto shot = elements::freeze(p, store_, job_);
            geometry::Hit hit;
            int under = 0;
            for (float x = -8.f; x < 8.f; x += 0.11f)
                for (float z = -6.f; z < 7.f; z += 0.11f) {
                    materialAt(*shot, Vec3(x, 1.5f, z), Vec3(x, 0.f, z), hit);
                    under += hit.material->roughness < render::Brdf::mirrorRoughness;
                }
            return under;
        };
        const int none = at(1), some = at(26), full = at(51), half = at(76);
        QCOMPARE(none, 0);
        QVERIFY(some > 0 && full > some && half < full && half > 0);
        // Half of the ground that was under water after one half-life, about.
        QVERIFY2(std::abs(double(half) / full - 0.5) < 0.15, qPrintable(QString("%1 of %2").arg(half).arg(full)));
        QVERIFY2(std::abs(double(some) / full - 0.5) < 0.15, qPrintable(QString("%1 of %2").arg(some).arg(full)));
    }

    void puddlesGoOutAsAMeshAndAsHeights()
    {
        scene::Project p = yard();
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Rained on");
        wet.set("puddles", 0.15);
        const fs::path folder(folder_.path().toStdString());
        elements::exportCover(p, wet.id, folder / "water.ply", 0.1, store_, job_);
        elements::exportCover(p, wet.id, folder / "water.exr", 0.1, store_, job_);
        const image::Image map = image::readImage(folder / "water.exr");
        const int high = map.channel("height"), deep = map.channel("depth");
        QVERIFY(high >= 0 && deep >= 0);
        std::size_t under = 0, level = 0;
        for (int y = 0; y < map.height; ++y)
            for (int x = 0; x < map.width; ++x) {
                const float depth = map.at(x, y)[deep];
                QVERIFY(depth >= 0.f && depth < 0.05f);
                under += depth > 0.f;
                if (depth > 0.f)
                    QVERIFY(std::abs(map.at(x, y)[high] - depth) < 1e-4f); // the yard lies at 0
                level += 1;
            }
        const double share = double(under) / double(level);
        QVERIFY2(share > 0.05 && share < 0.2, qPrintable(QString::number(share)));
        std::ifstream file(folder / "water.ply", std::ios::binary);
        std::stringstream text;
        text << file.rdbuf();
        QVERIFY(text.str().find("element vertex " + std::to_string(4 * under) + "\n") != std::string::npos);
        wet.set("puddles", 0.0);
        QVERIFY_EXCEPTION_THROWN(elements::exportCover(p, wet.id, folder / "none.ply", 0.1, store_, job_), Error);
        QVERIFY(!fs::exists(folder / "none.ply"));
    }

    void aWetSetIsSeenAndTheOthersStayDry()
    {
        scene::Project p = yard();
        const Vec3 eye(0.f, 1.7f, 8.f);
        geometry::Hit hit;
        const auto dry = elements::freeze(p, store_, job_);
        const Material was = materialAt(*dry, eye, Vec3(0.f), hit);
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Rained on");
        wet.set("wet", 1.0);
        wet.set("puddles", 0.0);
        const auto after = elements::freeze(p, store_, job_);
        QVERIFY(materialAt(*after, eye, Vec3(0.f), hit).baseColour.x < 0.8f * was.baseColour.x);
        QVERIFY(materialAt(*after, eye, Vec3(0.f, 3.f, -15.f), hit).baseColour.x < was.baseColour.x);
        wet.set("puddles", 1.0);
        const auto flooded = elements::freeze(p, store_, job_);
        QVERIFY(materialAt(*flooded, eye, Vec3(0.f), hit).roughness < render::Brdf::mirrorRoughness);
        QCOMPARE(hit.normal, Vec3(0.f, 1.f, 0.f));
        // On another set it does nothing here; muted neither; and it says so where that is not there.
        wet.set("set", std::string("elsewhere"));
        const auto other = elements::freeze(p, store_, job_);
        QCOMPARE(materialAt(*other, eye, Vec3(0.f), hit).baseColour, was.baseColour);
        QVERIFY(std::any_of(other->notes.begin(), other->notes.end(),
                            [](const shot::Note& n) { return n.text.find("not there") != std::string::npos; }));
        wet.set("set", std::string("yard"));
        QVERIFY(materialAt(*elements::freeze(p, store_, job_), eye, Vec3(0.f), hit).baseColour != was.baseColour);
        wet.muted = true;
        QCOMPARE(materialAt(*elements::freeze(p, store_, job_), eye, Vec3(0.f), hit).baseColour, was.baseColour);
    }

    void waterRunsDownWallsWhileItRains()
    {
        scene::Project p = yard();
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Rained on");
        wet.set("wet", 1.0);
        const Vec3 eye(0.f, 1.7f, -9.f);
        p.find("shot")->set("position", eye);
        p.find("shot")->set("aim", Vec3(0.f, 1.7f, -15.f));
        const auto normals = [&](double frame, const Vec3& from) {
            p.frame = frame;
            const auto shot = elements::freeze(p, store_, job_);
            std::vector<Vec3> all;
            geometry::Hit hit;
            for (float y = 0.2f; y < 3.f; y += 0.05f)
                for (float x = -2.f; x < 2.f; x += 0.013f) {
                    materialAt(*shot, from, Vec3(x, y, -15.f), hit);
                    all.push_back(hit.normal);
                }
            return all;
        };
        const auto tilted = [](const std::vector<Vec3>& all) {
            return std::count_if(all.begin(), all.end(), [](const Vec3& n) { return n.z < 0.9998f; });
        };
        // Without rain nothing runs.
        QCOMPARE(tilted(normals(1, eye)), 0);
        p.add(*elements::findKind("rain"), "Rain").set("rate", 20.0);
        const auto now = normals(1, eye), later = normals(3, eye), again = normals(1, eye);
        QVERIFY2(tilted(now) > std::ssize(now) / 10 && tilted(now) < std::ssize(now) * 9 / 10,
                 qPrintable(QString("%1 of %2").arg(tilted(now)).arg(now.size())));
        QVERIFY(now == again);
        int moved = 0;
        Vec3 mean(0.f);
        for (std::size_t i = 0; i < now.size(); ++i) {
            moved += (now[i] - later[i]).length() > 0.01f;
            mean += now[i] / static_cast<float>(now.size());
            QVERIFY(now[i].z > 0.6f); // none is steeper than its sides may be
        }
        QVERIFY2(moved > std::ssize(now) / 20, qPrintable(QString::number(moved)));
        // To no side more than to the other.
        QVERIFY2(std::abs(mean.x) < 0.02f && std::abs(mean.y) < 0.02f,
                 qPrintable(QString("%1 %2").arg(double(mean.x)).arg(double(mean.y))));
        // The ground has none of it, nor a wall far away; 0 turns it off.
        geometry::Hit hit;
        const auto shot = elements::freeze(p, store_, job_);
        materialAt(*shot, eye, Vec3(0.3f, 0.f, -11.f), hit);
        if (hit.material->roughness > render::Brdf::mirrorRoughness)
            QCOMPARE(hit.normal, Vec3(0.f, 1.f, 0.f));
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 19.f));
        QCOMPARE(tilted(normals(1, Vec3(0.f, 1.7f, 19.f))), 0);
        p.find("shot")->set("position", eye);
        p.find(wet.id)->set("runs", 0.0);
        QCOMPARE(tilted(normals(1, eye)), 0);
        // In a loop it closes: the frame after the last is the first.
        p.find(wet.id)->set("runs", 0.6);
        p.time.loop = 2.0;
        const auto first = normals(1, eye), half = normals(26, eye), after = normals(51, eye);
        QVERIFY(first == after && !(first == half));
        p.frame = 50.99;
        const auto close = normals(50.98, eye);
        double off = 0.0;
        for (std::size_t i = 0; i < first.size(); ++i)
            off = std::max(off, double((first[i] - close[i]).length()));
        QVERIFY2(off < 0.1, qPrintable(QString::number(off)));
    }

    void puddlesMirrorInBothIntegrators()
    {
        // The wall and the sky over it stand upside down in the flooded yard; both integrators see the same.
        scene::Project p = yard();
        scene::Element& wet = p.add(*elements::findKind("wetGround"), "Flood");
        wet.set("puddles", 1.0);
        render::StillSettings s;
        s.width = 96;
        s.height = 54;
        s.samples = test::often(32);
        const auto shot = elements::freeze(p, store_, job_);
        const auto picture = [&](render::StillAir air) {
            render::StillSettings own = s;
            own.air = air;
            own.samples = air == render::StillAir::Paths ? test::often(256) : s.samples;
            const render::Layers l = render::renderStill(render::Shots{{shot}}, own, job_);
            double sum = 0.0;
            for (int y = 36; y < 50; ++y) // of the ground
                for (int x = 20; x < 76; ++x)
                    for (int c = 0; c < 3; ++c) {
                        const auto i = std::size_t((y * 96 + x) * 3 + c);
                        sum += double(l.plate[i] * l.transmittance[i] + l.air[i]);
                    }
            return sum;
        };
        const double live = picture(render::StillAir::Live), paths = picture(render::StillAir::Paths);
        QVERIFY2(std::abs(live / paths - 1.0) < test::within(0.06),
                 qPrintable(QString("%1 and %2").arg(live).arg(paths)));
    }
};
QTEST_GUILESS_MAIN(TestWet)
#include "test_wet.moc"
