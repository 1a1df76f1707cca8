/// Forms of air beyond slabs and boxes: what lies on the ground or fills a mesh, layers in any direction, ends, the cap
/// on noise, droplets, clean air; and how the march sees them.
#include "base/random.h"
#include "media/medium.h"
#include "render/air_kernel.h"
#include "render/still.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::media;

namespace {
/// Quads as one set: corner, two sides.
std::shared_ptr<geometry::SetGeometry> quads(const std::vector<std::array<Vec3, 3>>& all)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    geometry::Mesh m;
    for (const auto& [corner, u, v] : all) {
        const auto first = static_cast<std::uint32_t>(m.positions.size());
        for (const Vec3& p : {corner, corner + u, corner + u + v, corner + v}) {
            m.positions.push_back(p);
            m.normals.push_back(u.cross(v).normalized());
            set->bounds.extendBy(p);
        }
        for (const std::uint32_t k : {0u, 1u, 2u, 0u, 2u, 3u})
            m.indices.push_back(first + k);
    }
    set->meshes.push_back(m);
    set->materials.emplace_back();
    set->triangles = m.indices.size() / 3;
    return set;
}
/// Flat country with a chamber 6 m wide and 3 m deep along Z, and a post beside it.
std::shared_ptr<const geometry::RayScene> chamber()
{
    const Vec3 z(0, 0, 200), post(20, 0, 20);
    JobControl job;
    return std::make_shared<const geometry::RayScene>(
        std::vector<geometry::PlacedSet>{{quads({{Vec3(-100, 0, -100), z, Vec3(97, 0, 0)},
                                                 {Vec3(3, 0, -100), z, Vec3(97, 0, 0)},
                                                 {Vec3(-3, -3, -100), z, Vec3(6, 0, 0)},
                                                 {post + Vec3(0, 9, 0), Vec3(0, 0, 0.5f), Vec3(0.5f, 0, 0)}}),
                                          Mat4()}},
        job);
}
/// The six faces of a box from a to b; `open` leaves the last out.
std::shared_ptr<geometry::SetGeometry> box(Vec3 a, Vec3 b, bool open = false)
{
    const Vec3 d = b - a, x(d.x, 0, 0), y(0, d.y, 0), z(0, 0, d.z);
    std::vector<std::array<Vec3, 3>> faces{{a, y, x}, {a, z, y}, {a, x, z}, {b, -x, -y}, {b, -y, -z}};
    if (!open)
        faces.push_back({b, -z, -x});
    return quads(faces);
}
Medium onGround(const std::shared_ptr<const geometry::RayScene>& scene, float height, float smoothing)
{
    JobControl job;
    Medium m;
    m.id = "mist";
    m.shape = Shape::Ground;
    m.sigmaT = 0.1f;
    m.top = height;
    m.falloff = 0.3f;
    m.ground = std::make_shared<const GroundHeights>(*scene, GroundSettings{Vec3(0), smoothing, 4.f}, job);
    return m;
}
float patternAt(const Medium& m, float x, float y, float z) { return pattern8(m, f8(x), f8(y), f8(z))[0]; }
/// Optical depth by the midpoint rule, from extinction() alone.
double byHand(const Medium& m, const Vec3& o, const Vec3& d, double length, int steps = 40000)
{
    double sum = 0.0;
    for (int i = 0; i < steps; ++i)
        sum += double(extinction(m, o + d * static_cast<float>((i + 0.5) * length / steps)));
    return sum * length / steps;
}
} // namespace

class TestAirForms : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void theGroundIsWhereTheSetIs()
    {
        JobControl job;
        const GroundHeights raw(*chamber(), {Vec3(0), 0.f, 4.f}, job);
        NEAR(raw.height(0, 0), -3.0, 0.01);
        NEAR(raw.height(0, 40), -3.0, 0.01);
        QVERIFY(std::abs(raw.height(30, 10)) < 1e-3f);
        // The post is narrower than what is passed over.
        QVERIFY(std::abs(raw.height(20.25f, 20.25f)) < 1e-3f);
        // Beyond the set it goes on as at its edge.
        QVERIFY(std::abs(raw.height(900, -4000)) < 1e-3f);
        QVERIFY(raw.lowest() < -2.9f && raw.highest() < 0.01f);
        const GroundHeights noSet(*test::emptyScene(), {}, job);
        QCOMPARE(noSet.height(12, -7), 0.f);
    }

    void smoothingEvensTheGroundAndKeepsItsMean()
    {
        JobControl job;
        const auto scene = chamber();
        const GroundHeights smooth(*scene, {Vec3(0), 6.f, 4.f}, job);
        // A trench of width w and depth h under a Gaussian of deviation s is h·erf(w/2/(s√2)) deep in its middle.
        NEAR(smooth.height(0, 0), -3.0 * std::erf(3.0 / (6.0 * std::sqrt(2.0))), 0.1);
        QVERIFY(smooth.height(12, 0) < -0.05f && smooth.height(40, 0) > -0.01f);
    }

    void fogFillsTheChamberAndNotTheTowpathAtTheSameHeight()
    {
        // Level fog: smoothed over 20 m, its top 0.3 m under the smoothed ground.
        const Medium m = onGround(chamber(), -0.1f, 8.f);
        const float inside = patternAt(m, 0, -1.6f, 0), above = patternAt(m, 0, 0.2f, 0),
                    path = patternAt(m, 12, 0.05f, 0), farPath = patternAt(m, 40, 0.02f, 0);
        NEAR(inside, 1.0, 1e-5);
        QCOMPARE(above, 0.f);
        QCOMPARE(path, 0.f);
        QCOMPARE(farPath, 0.f);
        // Draped fog: 1 m over every ground; at −2.5 m in the chamber, and nothing of it there at the towpath's height.
        const Medium draped = onGround(chamber(), 1.f, 0.f);
        NEAR(patternAt(draped, 0, -2.5f, 5), 1.0, 1e-5);
        QCOMPARE(patternAt(draped, 0, 0.3f, 5), 0.f);
        NEAR(patternAt(draped, 30, 0.3f, 5), 1.0, 1e-5);
        QCOMPARE(patternAt(draped, 30, -1.5f, 5), 0.f); // under the ground there is none
    }

    void theMarchFindsGroundFogAsFineStepsDo()
    {
        const Medium m = onGround(chamber(), 1.2f, 4.f);
        for (const Vec3& d : {Vec3(0.3f, -0.12f, -1.f), Vec3(1.f, -0.06f, 0.2f), Vec3(0.05f, -0.4f, -1.f)}) {
            const Vec3 o(-14.f, 2.f, 30.f), unit = d.normalized();
            const float length = std::min(60.f, 1.9f / -unit.y);
            auto shot = std::make_shared<shot::Shot>();
            shot->scene = test::emptyScene();
            shot->media = {m};
            const render::AirModel air(*shot);
            double depth = 0.0;
            for (int k = 0; k < 16; ++k) {
                render::AirRays8 rays;
                rays.ray = ray8(o, unit);
                rays.end = rays.depth[0] = f8(length);
                rays.weight[0] = f8(1.f);
                rays.jitter = f8((static_cast<float>(k) + 0.5f) / 16.f);
                render::AirSums8 sums;
                render::marchAir(air, rays, sums);
                depth += -std::log(double(sums.transmittance[0][0])) / 16;
            }
            const double hand = byHand(m, o, unit, double(length));
            qInfo("%.3f %.3f", depth, hand);
            QVERIFY(hand > 0.2);
            NEAR(depth, hand, 0.04);
        }
    }

    void metresOfFogAboveAPoint()
    {
        const Medium m = onGround(chamber(), 2.f, 0.f);
        // Over flat ground: 1.7 m of full density and half of the 0.3 m that fade.
        NEAR(aboveGround8(m, f8(40), f8(0), f8(0))[0], 1.85, 0.01);
        NEAR(aboveGround8(m, f8(40), f8(1), f8(0))[0], 0.85, 0.01);
        QCOMPARE(aboveGround8(m, f8(40), f8(5), f8(0))[0], 0.f);
    }

    void aMeshIsFilledToItsSurface()
    {
        JobControl job;
        const InsideField field({box(Vec3(-2, 0, -1), Vec3(2, 1, 1)), Mat4()}, 64, job);
        QCOMPARE(field.openEdges(), std::size_t{0});
        NEAR(field.fill(), 1.0, 0.01);
        // Depth under the nearest face, to a cell's half.
        NEAR(field.depth8(f8(0), f8(0.5f), f8(0))[0], 0.5, 0.1);
        NEAR(field.depth8(f8(1.8f), f8(0.5f), f8(0))[0], 0.2, 0.2);
        QCOMPARE(field.depth8(f8(2.2f), f8(0.5f), f8(0))[0], 0.f);
        Medium m;
        m.shape = Shape::Inside;
        m.sigmaT = 0.5f;
        m.falloff = 0.01f;
        m.inside = std::make_shared<const InsideField>(field);
        NEAR(byHand(m, Vec3(-10, 0.5f, 0), Vec3(1, 0, 0), 20.0, 4000), 2.0, 0.05); // 4 m at 0.5 /m
        NEAR(byHand(m, Vec3(0, 9, 0), Vec3(0, -1, 0), 20.0, 8000), 0.5, 0.08);
    }

    void aMeshWithAHoleStillHasAnInsideAndSaysSo()
    {
        JobControl job;
        const auto leaky = box(Vec3(0), Vec3(2), true);
        QCOMPARE(openEdgesOf(*leaky), std::size_t{4});
        const InsideField field({leaky, Mat4()}, 32, job);
        QCOMPARE(field.openEdges(), std::size_t{4});
        QVERIFY(field.fill() > 0.95f);
        QVERIFY(field.depth8(f8(1), f8(1), f8(1))[0] > 0.8f);
        // A single wall encloses nothing.
        const InsideField wall({quads({{Vec3(0), Vec3(2, 0, 0), Vec3(0, 2, 0)}}), Mat4()}, 16, job);
        QCOMPARE(wall.fill(), 0.f);
    }

    void aLayerStandsInAnyDirection()
    {
        Medium wall;
        wall.shape = Shape::Layer;
        wall.sigmaT = 0.2f;
        wall.axis = Vec3(1, 0, 0);
        wall.base = 4.f;
        wall.top = 9.f;
        wall.falloff = 0.f;
        QVERIFY(!isFlat(wall));
        NEAR(opticalDepth(wall, Vec3(0, 50, 3), Vec3(1, 0, 0), 0.f, 100.f), 0.2 * 5, 1e-4);
        const float s = std::sqrt(0.5f);
        NEAR(opticalDepth(wall, Vec3(0), Vec3(s, 0, s), 0.f, 100.f), 0.2 * 5 * std::sqrt(2.0), 1e-4);
        QCOMPARE(extinction(wall, Vec3(2, 0, 0)), 0.f);
        NEAR(extinction(wall, Vec3(6, -80, 20)), 0.2, 1e-4);
        // The same layer upright is what it always was.
        wall.axis = Vec3(0, 1, 0);
        QVERIFY(isFlat(wall));
        NEAR(opticalDepth(wall, Vec3(0), Vec3(0, 1, 0), 0.f, 100.f), 1.0, 1e-4);
    }

    void densityGoesFromEndToEnd_data()
    {
        QTest::addColumn<float>("at");
        QTest::addColumn<float>("range");
        QTest::addColumn<float>("curve");
        QTest::newRow("straight") << 0.5f << 1.f << 1.f;
        QTest::newRow("late and quick") << 0.8f << 0.2f << 1.f;
        QTest::newRow("bent") << 0.5f << 1.f << 2.5f;
    }
    void densityGoesFromEndToEnd()
    {
        QFETCH(float, at);
        QFETCH(float, range);
        QFETCH(float, curve);
        Medium m;
        m.shape = Shape::Layer;
        m.base = 10.f;
        m.top = 20.f;
        m.falloff = 0.f;
        m.sigmaT = 1.f;
        m.ends = {0.25f, at, range, curve};
        for (const float u : {0.02f, 0.3f, 0.5f, 0.75f, 0.98f}) {
            const double s = std::pow(std::clamp((double(u) - double(at)) / double(range) + 0.5, 0.0, 1.0),
                                      double(curve));
            NEAR(extinction(m, Vec3(3, 10.f + 10.f * u, 1)), 1.0 + s * (0.25 - 1.0), 1e-4);
        }
        NEAR(patternBound(m), 1.0, 1e-6);
        m.ends.far = 3.f;
        NEAR(patternBound(m), 3.0, 1e-6);
    }

    void noiseStaysUnderItsCap()
    {
        Medium m = test::uniformAir(0.1f);
        m.noise.contrast = 1.5f;
        m.noise.scale = 3.f;
        float most = 0.f, mostFree = 0.f;
        for (int i = 0; i < 4000; ++i) {
            const Vec3 p(static_cast<float>(i) * 0.37f, static_cast<float>(i % 17), static_cast<float>(i % 91) * 0.7f);
            m.cap = 1e30f;
            mostFree = std::max(mostFree, extinction(m, p));
            m.cap = 1.3f;
            most = std::max(most, extinction(m, p));
        }
        QVERIFY(mostFree > 0.2f);
        NEAR(most, 0.13, 1e-4);
        NEAR(patternBound(m), 1.3, 1e-6);
    }

    void phaseFunctionsHoldTheirEnergyAndMean_data()
    {
        QTest::addColumn<float>("diameter");
        for (const float d : {5.f, 8.f, 12.f, 20.f, 35.f, 50.f})
            QTest::newRow(qPrintable(QString("%1 µm").arg(double(d)))) << d;
        QTest::newRow("Rayleigh") << 0.f;
        QTest::newRow("g 0.6") << -1.f;
    }
    void phaseFunctionsHoldTheirEnergyAndMean()
    {
        QFETCH(float, diameter);
        const Phase p = diameter > 0.f ? dropletPhase(diameter) : diameter == 0.f ? rayleighPhase : plainPhase(0.6f);
        double whole = 0.0, mean = 0.0;
        // Substitution by angle, fine near straight on where droplets peak.
        constexpr int steps = 400000;
        for (int i = 0; i < steps; ++i) {
            const double v = (i + 0.5) / steps, angle = pi * v * v * v, c = std::cos(angle),
                         weight = 2.0 * double(pi) * std::sin(angle) * double(pi) * 3.0 * v * v / steps;
            const double value = double(p(static_cast<float>(c)));
            whole += value * weight;
            mean += value * c * weight;
        }
        NEAR(whole, 1.0, 3e-3);
        QVERIFY(std::abs(mean - double(p.meanCosine())) < 3e-3);
        if (diameter == 0.f)
            NEAR(p(0.3f), rayleigh(0.3f), 1e-5);
        if (diameter > 0.f)
            QVERIFY(p.meanCosine() > 0.75f && p.meanCosine() < 0.95f); // fog and cloud: about 0.8 to 0.9
    }

    void sampledDirectionsFollowThePhase()
    {
        for (const Phase& p : {dropletPhase(10.f), rayleighPhase}) {
            Random random(9);
            double mean = 0.0;
            constexpr int count = 200000;
            for (int i = 0; i < count; ++i)
                mean += double(samplePhase(p, [&] { return random.next(); })) / count;
            QVERIFY(std::abs(mean - double(p.meanCosine())) < 4e-3);
        }
    }

    void cleanAirTakesBlueFirstAndGivesItBack()
    {
        // A black plate 4 km away through clean air; no sun shade in it, only the sky's and the sun's light scattered.
        auto shot = std::make_shared<shot::Shot>();
        shot->scene = test::emptyScene();
        Medium clean = test::uniformAir(static_cast<float>(extinctionOfVisibility(20000.0)));
        clean.clean = true;
        clean.phase = rayleighPhase;
        clean.top = 3000.f;
        shot->media = {clean};
        shot->sky = std::make_shared<light::Sky>(light::SkySettings());
        const render::AirModel air(*shot);
        const Ray8 ray = ray8(Vec3(0, 2, 0), Vec3(0, 0, -1));
        F8 tint[3];
        air.cleanTint(ray, f8(4000.f), tint);
        for (int c = 0; c < 3; ++c)
            NEAR(tint[c][0], std::exp(-4000.0 * double(clean.sigmaT) * double(cleanSpectrum[c])), 1e-4);
        render::AirRays8 rays;
        rays.ray = ray;
        rays.end = rays.depth[0] = f8(4000.f);
        rays.weight[0] = f8(1.f);
        rays.jitter = f8(0.5f);
        render::AirSums8 sums;
        render::marchAir(air, rays, sums);
        F8 sun[3], sky[3];
        render::colourAir(air, ray, sums, sun, sky);
        // Against haze of the same extinction that is grey: more blue, less red.
        auto grey = std::make_shared<shot::Shot>(*shot);
        grey->media[0].clean = false;
        const render::AirModel greyAir(*grey);
        render::AirSums8 greySums;
        render::marchAir(greyAir, rays, greySums);
        F8 greySun[3], greySky[3];
        render::colourAir(greyAir, ray, greySums, greySun, greySky);
        QVERIFY(sky[2][0] / sky[0][0] > 1.8f * greySky[2][0] / greySky[0][0]);
        QVERIFY(sun[2][0] > 0.f && std::isfinite(sun[2][0]));
        // Without light lost on its way in, a thin path's light grows as its extinction by channel: under six metres.
        auto thin = std::make_shared<shot::Shot>(*shot), thinGrey = std::make_shared<shot::Shot>(*grey);
        thin->media[0].top = thinGrey->media[0].top = 6.f;
        const render::AirModel thinAir(*thin), thinGreyAir(*thinGrey);
        rays.end = rays.depth[0] = f8(40.f);
        render::marchAir(thinAir, rays, sums);
        render::colourAir(thinAir, ray, sums, sun, sky);
        render::marchAir(thinGreyAir, rays, greySums);
        render::colourAir(thinGreyAir, ray, greySums, greySun, greySky);
        NEAR(sky[2][0] / sky[1][0] / (greySky[2][0] / greySky[1][0]), cleanSpectrum[2], 0.02);
    }

    void nothingIsMetInTheClearSpaceAroundTheCamera()
    {
        Medium m = test::uniformAir(0.01f);
        m.clear = 30.f;
        m.clearCentre = Vec3(1, 2, 3);
        NEAR(opticalDepth(m, Vec3(1, 2, 3), Vec3(0, 0, -1), 0.f, 100.f), 0.7, 1e-5);
        QCOMPARE(opticalDepth(m, Vec3(1, 2, 3), Vec3(0, 0, -1), 0.f, 20.f), 0.f);
        QCOMPARE(extinction(m, Vec3(1, 2, -20)), 0.f);
        NEAR(extinction(m, Vec3(1, 2, -40)), 0.01, 1e-5);
        auto shot = std::make_shared<shot::Shot>();
        shot->scene = test::emptyScene();
        shot->media = {m};
        const render::AirModel air(*shot);
        render::AirRays8 rays;
        rays.ray = ray8(m.clearCentre, Vec3(0, 0, -1));
        rays.end = rays.depth[0] = f8(100.f);
        rays.weight[0] = f8(1.f);
        rays.jitter = f8(0.5f);
        render::AirSums8 sums;
        render::marchAir(air, rays, sums);
        NEAR(-std::log(sums.transmittance[0][0]), 0.7, 1e-3);
        rays.fromEye = false; // a mirrored ray meets it all
        render::marchAir(air, rays, sums);
        NEAR(-std::log(sums.transmittance[0][0]), 1.0, 1e-3);
    }

    void allFormsComeOutOfAProject()
    {
        const QTemporaryDir dir;
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.add(*elements::findKind("allAir"), "all").set("density", 0.5);
        scene::Element& haze = p.add(*elements::findKind("haze"), "haze");
        haze.set("clean", 0.25);
        scene::Element& bank = p.add(*elements::findKind("fogBank"), "bank");
        bank.set("form", std::string("object"));
        bank.set("object", std::string("nobody"));
        JobControl job;
        Store store;
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->media.size(), std::size_t{2});
        QVERIFY(shot->media[0].clean && !shot->media[1].clean);
        const double whole = 0.5 * extinctionOfVisibility(2500.0);
        NEAR(shot->media[0].sigmaT, 0.25 * whole, 1e-5);
        NEAR(shot->media[1].sigmaT, 0.75 * whole, 1e-5);
        QCOMPARE(shot->notes.size(), std::size_t{1});
        QVERIFY(QString::fromStdString(shot->notes[0].text).contains("no set object 'nobody'"));
        p.find("bank")->set("form", std::string("ground"));
        const auto grounded = elements::freeze(p, store, job);
        QVERIFY(grounded->notes.empty());
        QVERIFY(grounded->media.back().ground != nullptr);
        // The same ground serves the next frame.
        p.frame = 9;
        QCOMPARE(elements::freeze(p, store, job)->media.back().ground, grounded->media.back().ground);
    }
};

QTEST_GUILESS_MAIN(TestAirForms)
#include "test_air_forms.moc"
