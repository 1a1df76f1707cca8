/// Wet ground: what water makes of a set's surfaces, in both integrators, and where puddles stand.
#include "elements/kinds.h"
#include "geometry/wet.h"
#include "render/brdf.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

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
