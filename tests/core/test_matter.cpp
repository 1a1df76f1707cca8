/// Light in voxel volumes: closed forms, path-traced light, and that a look survives coarser voxels.
#include "base/random.h"
#include "light/blackbody.h"
#include "media/vdb.h"
#include "media/volume.h"
#include "render/frame.h"
#include "render/path_integrator.h"
#include "render/still.h"
#include "render/volume_light.h"
#include "support.h"

#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::render;
using shot::Shot;

namespace {
const std::atomic<bool> never{false};

/// A grid over [0, n)³ from a formula of 0…1 places.
std::shared_ptr<const media::BrickGrid> gridOf(int n, const std::function<float(Vec3)>& f)
{
    const int side = n / 8;
    std::vector<std::vector<float>> kept(static_cast<std::size_t>(side * side * side), std::vector<float>(512));
    std::vector<media::BrickGrid::Block> blocks;
    for (int b = 0; b < side * side * side; ++b) {
        const int x = b / side / side, y = b / side % side, z = b % side;
        for (int i = 0; i < 512; ++i)
            kept[static_cast<std::size_t>(b)][static_cast<std::size_t>(i)] = f(
                Vec3(static_cast<float>(x * 8 + i / 64), static_cast<float>(y * 8 + i / 8 % 8),
                     static_cast<float>(z * 8 + i % 8)) /
                static_cast<float>(n - 1));
        blocks.push_back({x, y, z, kept[static_cast<std::size_t>(b)].data(), 0.f});
    }
    JobControl job;
    return media::BrickGrid::fromBlocks(blocks, job);
}
float puff(const Vec3& p)
{
    const Vec3 q = (p - Vec3(0.5f, 0.45f, 0.5f)) * 2.f;
    const float lumps = 0.25f * std::sin(9.f * p.x) * std::sin(11.f * p.y + 1.f) * std::sin(8.f * p.z);
    return std::clamp((0.72f + lumps - Vec3(q.x, q.y * 1.2f, q.z).length()) * 6.f, 0.f, 1.f);
}
media::Volume volumeOf(std::shared_ptr<const media::BrickGrid> grid, const Vec3& low, float voxel, float sigma,
                       float g = 0.f, Vec3 albedo = Vec3(1.f))
{
    media::Volume v;
    v.id = "matter";
    v.density = std::move(grid);
    v.sigmaT = sigma;
    v.phase.g = g;
    v.albedo = albedo;
    Mat4 place, move;
    place.setScale(Vec3(voxel));
    move.setTranslation(low);
    v.place(place * move);
    return v;
}
/// Volumes over a meadow under sun and sky; the camera looks at (0, 10, 0) from 40 m.
std::shared_ptr<Shot> overMeadow(std::vector<media::Volume> volumes)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::plate(0.f, 2000.f, Vec3(0.3f));
    light::SkySettings sky;
    sky.elevation = radians(35);
    sky.azimuth = radians(-70);
    s->sky = std::make_shared<light::Sky>(sky);
    s->sunId = "sun";
    for (media::Volume& v : volumes)
        v.shadow = std::make_shared<media::VolumeShadow>(v, s->sky->sunDirection());
    s->volumes = std::move(volumes);
    s->camera = {Vec3(0, 8, 40), Vec3(0, 10, 0), 50.f, 36.f};
    return s;
}
/// Mean picture and what comes through, over a part in the middle.
struct Middle {
    Vec3 light{0.f};
    double through = 0.0;
};
Middle middleOf(const Layers& l, int margin)
{
    Middle m;
    int count = 0;
    for (int y = margin; y < l.height - margin; ++y)
        for (int x = margin; x < l.width - margin; ++x, ++count) {
            const std::size_t p = static_cast<std::size_t>(y * l.width + x) * 3;
            for (std::size_t c = 0; c < 3; ++c)
                m.light[static_cast<int>(c)] += l.plate[p + c] * l.transmittance[p + c] + l.air[p + c];
            m.through += static_cast<double>(l.transmittance[p]);
        }
    m.light /= static_cast<float>(count);
    m.through /= count;
    return m;
}
Middle seen(const std::shared_ptr<const Shot>& shot, StillAir air, int samples, int margin = 8)
{
    StillSettings s;
    s.width = 64;
    s.height = 40;
    s.samples = test::often(samples);
    s.air = air;
    JobControl job;
    return middleOf(renderStill(shot, s, job), margin);
}
} // namespace

class TestMatter : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void blackbodiesHaveTheirColours()
    {
        // Of the Planckian locus (CIE 1931).
        const struct {
            float kelvin, x, y;
        } rows[] = {
            {2000.f, 0.527f, 0.413f}, {3000.f, 0.437f, 0.404f}, {6500.f, 0.3135f, 0.3237f}, {10000.f, 0.281f, 0.288f}};
        for (const auto& row : rows) {
            const Vec2 c = light::blackbodyChromaticity(row.kelvin);
            QVERIFY2(std::abs(c.x - row.x) < 0.003f && std::abs(c.y - row.y) < 0.003f,
                     qPrintable(QString("%1 K: %2 %3").arg(row.kelvin).arg(c.x).arg(c.y)));
        }
        // Platinum at its freezing point shone with 60 candela a square centimetre, which once was the candela's
        // definition.
        NEAR(luminance(light::blackbodyRadiance(2042.f)) * 683.f, 6.0e5f, 0.03);
        QVERIFY(light::blackbodyRadiance(900.f).z == 0.f && light::blackbodyRadiance(900.f).x > 0.f);
    }

    void aCubeOfOneDensityDimsAsTheFormulaSays()
    {
        // Ten metres of 0.09 /m in front of the sky.
        auto shot = overMeadow(
            {volumeOf(gridOf(40, [](Vec3) { return 1.f; }), Vec3(-19.5f, 0.f, -19.5f), 1.f, 0.09f, 0.f, Vec3(0.f))});
        shot->camera = {Vec3(0, 20, 60), Vec3(0, 20, 0), 200.f, 36.f};
        const double wanted = std::exp(-0.09 * 40.0); // 39 between voxels and half of one, thinning, at each end
        Frame f(shot, 32, 20);
        for (int p = 0; p < 8; ++p) {
            f.trace(p, never);
            f.light(never);
        }
        NEAR(middleOf(f.layers(), 4).through, wanted, 0.004);
        // Ratio tracking is unbiased: thirty seeds lie around it as they should.
        const media::Volume& v = shot->volumes[0];
        double mean = 0.0, square = 0.0;
        constexpr int seeds = 30, tries = 4000;
        for (int seed = 0; seed < seeds; ++seed) {
            Random random(static_cast<std::uint32_t>(seed) + 100);
            double sum = 0.0;
            for (int i = 0; i < tries; ++i) {
                double t = 1.0;
                media::overVolume(
                    v, Vec3(0.3f, 20.2f, 60.f), Vec3(0, 0, -1), 0.f, 200.f, [&](float a, float b, float bound) {
                        for (float at = a;;) {
                            at -= std::log(1.f - random.next()) / bound;
                            if (at >= b)
                                return true;
                            t *= 1.0 - static_cast<double>(media::extinction(v, Vec3(0.3f, 20.2f, 60.f - at)) / bound);
                        }
                    });
                sum += t;
            }
            mean += sum / tries / seeds;
            square += sum / tries * sum / tries / seeds;
        }
        const double error = std::sqrt(std::max(1e-30, square - mean * mean) / (seeds - 1));
        QVERIFY2(std::abs(mean - wanted) < 3.0 * error + 3e-4 * wanted,
                 qPrintable(QString("%1 ± %2, not %3").arg(mean).arg(error).arg(wanted)));
    }

    void aWhiteVolumeInWhiteSurroundingsIsInvisible()
    {
        for (const float g : {0.f, 0.7f}) {
            auto shot = overMeadow({volumeOf(gridOf(32, puff), Vec3(-8.f, 2.f, -8.f), 0.5f, 0.8f, g)});
            shot->scene = test::emptyScene();
            PathIntegrator paths(shot, 24, 15);
            paths.setUniformSurroundings(1.f);
            for (int pass = 0; pass < 24; ++pass)
                paths.pass();
            NEAR(luminance(middleOf(paths.layers(), 0).light), 1.f, 0.005);
        }
    }

    void theLivePictureIsAsBrightAsThePathTraced_data()
    {
        QTest::addColumn<double>("sigma");
        QTest::addColumn<double>("g");
        QTest::addColumn<Vec3>("albedo");
        QTest::newRow("thin steam") << 0.08 << 0.6 << Vec3(0.99f);
        QTest::newRow("thick cloud") << 1.5 << 0.85 << Vec3(0.999f);
        QTest::newRow("grey smoke") << 1.0 << 0.3 << Vec3(0.6f, 0.55f, 0.5f);
        QTest::newRow("backward") << 0.5 << -0.4 << Vec3(0.9f);
    }
    void theLivePictureIsAsBrightAsThePathTraced()
    {
        QFETCH(double, sigma);
        QFETCH(double, g);
        QFETCH(Vec3, albedo);
        const auto shot = overMeadow({volumeOf(gridOf(48, puff), Vec3(-8.f, 2.f, -8.f), 0.34f,
                                               static_cast<float>(sigma), static_cast<float>(g), albedo)});
        const Middle live = seen(shot, StillAir::Live, 20), truth = seen(shot, StillAir::Paths, 260);
        for (int c = 0; c < 3; ++c)
            QVERIFY2(
                std::abs(live.light[c] - truth.light[c]) < test::within(0.08) * truth.light[c],
                qPrintable(QString("channel %1: %2, path-traced %3").arg(c).arg(live.light[c]).arg(truth.light[c])));
    }

    void twiceTheDensityIsDenserAndNotBrighterForItsOpacity()
    {
        // Light of the matter alone by how much it hides: the albedo's affair, not the density's.
        const auto brightness = [&](float sigma) {
            const auto shot = overMeadow(
                {volumeOf(gridOf(32, puff), Vec3(-8.f, 2.f, -8.f), 0.5f, sigma, 0.2f, Vec3(0.7f))});
            Frame f(shot, 64, 40);
            f.setFollowsPaths(false);
            for (int p = 0; p < 12; ++p) {
                f.trace(p, never);
                f.light(never);
            }
            const Layers l = f.layers();
            double air = 0.0, hidden = 0.0;
            for (std::size_t p = 0; p < l.depth.size(); ++p) {
                air += static_cast<double>(l.air[p * 3 + 1]);
                hidden += 1.0 - static_cast<double>(l.transmittance[p * 3 + 1]);
            }
            return std::pair(air / hidden, hidden);
        };
        const auto [thin, thinHides] = brightness(0.02f);
        const auto [twice, twiceHides] = brightness(0.04f);
        QVERIFY(twiceHides > 1.5 * thinHides);
        NEAR(twice, thin, 0.1);
    }

    void aLookSurvivesCoarserVoxels()
    {
        const auto fine = gridOf(96, puff);
        JobControl job;
        const auto shotOf = [&](int times) {
            std::shared_ptr<const media::BrickGrid> grid = fine;
            float voxel = 0.17f, shift = 0.f;
            for (int i = 0; i < times; ++i) {
                grid = grid->halved(job);
                shift += voxel * media::BrickGrid::coarseShift;
                voxel *= 2.f;
            }
            return overMeadow({volumeOf(grid, Vec3(-8.f, 2.f, -8.f) + Vec3(shift), voxel, 0.8f, 0.5f, Vec3(0.95f))});
        };
        const auto picture = [&](int times) {
            Frame f(shotOf(times), 96, 60);
            f.setFollowsPaths(false); // whose noise is of this size
            for (int p = 0; p < test::often(16); ++p) {
                f.trace(p, never);
                f.light(never);
            }
            std::vector<float> rgb;
            f.resolve(rgb);
            return rgb;
        };
        const auto whole = picture(0), half = picture(1), quarter = picture(2);
        const auto difference = [&](const std::vector<float>& a) {
            double d = 0.0, all = 0.0;
            for (std::size_t i = 0; i < a.size(); ++i) {
                d += std::abs(static_cast<double>(a[i] - whole[i]));
                all += static_cast<double>(whole[i]);
            }
            return d / all;
        };
        QVERIFY2(difference(half) < test::within(0.02) && difference(quarter) < test::within(0.03),
                 qPrintable(QString("%1 and %2").arg(difference(half)).arg(difference(quarter))));
    }

    void aVolumeShadesTheMeadowUnderIt()
    {
        auto shot = overMeadow(
            {volumeOf(gridOf(32, [](Vec3) { return 1.f; }), Vec3(-8.f, 12.f, -8.f), 0.5f, 0.05f, 0.f, Vec3(0.2f))});
        const Vec3 sun = shot->sky->sunDirection();
        // Where the middle's shadow falls.
        const Vec3 middle(0.f, 20.f, 0.f), under = middle - sun * (20.f / sun.y);
        const AirModel air(*shot);
        double exact = 0.0;
        for (int i = 0; i < 4000; ++i)
            exact += static_cast<double>(media::extinction(
                         shot->volumes[0], under + sun * (60.f * (static_cast<float>(i) + 0.5f) / 4000.f))) *
                     60.0 / 4000.0;
        const auto depth = [&](const Vec3& p) { return air.sunDepth(f8(p.x), f8(p.y), f8(p.z), nullptr)[0]; };
        NEAR(depth(under), exact, 0.02);
        QCOMPARE(depth(under + Vec3(60.f, 0.f, 0.f)), 0.f);
        shot->volumes[0].shadowShare = 0.f;
        QCOMPARE(depth(under), 0.f);
    }

    void aGlowingVolumeLightsTheGroundAsBruteForceSays()
    {
        // A hot ball over a floor, in a file; what the floor gets from the lamps that stand for it, and from the glow
        // itself summed up.
        const QTemporaryDir dir;
        constexpr int n = 32;
        media::VdbOut density{"density", {0, 0, 0}, {n, n, n}, {}, false},
            heat{"temperature", {0, 0, 0}, {n, n, n}, {}, false};
        for (int i = 0; i < n * n * n; ++i) {
            const Vec3 p(static_cast<float>(i / n / n) - 15.5f, static_cast<float>(i / n % n) - 15.5f,
                         static_cast<float>(i % n) - 15.5f);
            const float r = p.length() / 15.f;
            density.values.push_back(r < 1.f ? 0.2f : 0.f);
            heat.values.push_back(r < 0.9f ? 1400.f + 500.f * (1.f - r) : 0.f);
        }
        Mat4 place;
        place.setScale(Vec3(0.1f));
        JobControl job;
        media::writeVdb(dir.filePath("ball.vdb").toStdString(), {density, heat}, place, job);
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.find("sun")->muted = true;
        scene::Element& e = p.add(*elements::findKind("volume"), "ball");
        e.set("file", std::string("ball.vdb"));
        e.set("visibility", 3000.0); // hides nothing
        e.set("glow", std::string("blackbody"));
        e.set("emissive", 0.5);
        Store store;
        const auto shot = elements::freeze(p, store, job);
        QVERIFY(!shot->lamps.empty() && shot->lamps.size() <= 4);
        const media::Volume& v = shot->volumes.at(0);
        for (const Vec3& at : {Vec3(1.55f, -2.f, 1.55f), Vec3(5.f, -1.f, 1.f), Vec3(-6.f, -4.f, 9.f)}) {
            Vec3 lamps(0.f), brute(0.f);
            for (const light::Lamp& lamp : shot->lamps)
                for (int k = 0; k < 256; ++k) {
                    light::LampSample s;
                    if (light::sampleLamp(lamp, at, (static_cast<float>(k) + 0.5f) / 256.f,
                                          std::fmod(static_cast<float>(k) * 0.618034f, 1.f), s))
                        lamps += lamp.intensity * s.irradiance * (std::max(0.f, s.way.y) / 256.f);
                }
            constexpr int fine = 64;
            const float step = 3.2f / fine;
            for (int x = 0; x < fine; ++x)
                for (int y = 0; y < fine; ++y)
                    for (int z = 0; z < fine; z += lanes) {
                        F8 pz, light[3];
                        for (int k = 0; k < lanes; ++k)
                            pz[k] = (static_cast<float>(z + k) + 0.5f) * step;
                        const float px = (static_cast<float>(x) + 0.5f) * step,
                                    py = (static_cast<float>(y) + 0.5f) * step;
                        media::glow8(v, f8(px), f8(py), pz, light);
                        for (int k = 0; k < lanes; ++k) {
                            const Vec3 way = Vec3(px, py, pz[k]) - at;
                            const float d2 = way.length2();
                            brute += Vec3(light[0][k], light[1][k], light[2][k]) *
                                     (step * step * step * std::max(0.f, way.y) / (d2 * std::sqrt(d2)));
                        }
                    }
            QVERIFY2(std::abs(luminance(lamps) - luminance(brute)) < 0.02f * luminance(brute),
                     qPrintable(QString("%1, not %2").arg(luminance(lamps)).arg(luminance(brute))));
        }
        // Its own glow, looked at straight, is the integral along the line of sight.
        const Vec3 eye(1.55f, 1.55f, 20.f);
        Frame f(
            [&] {
                auto s = std::make_shared<Shot>(*shot);
                s->camera = {eye, Vec3(1.55f, 1.55f, 0.f), 2000.f, 36.f};
                return std::shared_ptr<const Shot>(s);
            }(),
            16, 10);
        for (int q = 0; q < 8; ++q) {
            f.trace(q, never);
            f.light(never);
        }
        double along = 0.0;
        for (int k = 0; k < 4000; ++k) {
            F8 l[3];
            media::glow8(v, f8(1.55f), f8(1.55f), f8(3.2f * (static_cast<float>(k) + 0.5f) / 4000.f), l);
            along += static_cast<double>(l[0][0]) * 3.2 / 4000.0;
        }
        const Layers l = f.layers();
        const std::size_t centre = (5u * 16u + 8u) * 3u;
        NEAR(l.air[centre], along, 0.03);
        QVERIFY(
            std::any_of(l.airBy.begin(), l.airBy.end(), [](const Layers::ByLamp& by) { return by.id == "matter"; }));
        QCOMPARE(std::count_if(l.airBy.begin(), l.airBy.end(), [&](const Layers::ByLamp& by) { return by.id == e.id; }),
                 std::ptrdiff_t(1));
    }

    void aMirrorShowsAGlowingVolumeOnce()
    {
        // Water under a hot ball: what is mirrored is the ball and not also a highlight of the lamps that stand for it.
        const auto ball = gridOf(24, [](Vec3 p) { return (p - Vec3(0.5f)).length() < 0.45f ? 1.f : 0.f; });
        media::Volume v = volumeOf(ball, Vec3(-1.f, 2.f, -5.f), 0.09f, 0.01f);
        v.glow.heat = ball;
        v.glow.toHeat = v.toIndex;
        v.glow.table = std::make_shared<std::vector<Vec3>>(
            std::vector<Vec3>{Vec3(0.f), Vec3(2.f, 1.f, 0.5f), Vec3(2.f, 1.f, 0.5f)});
        auto shot = std::make_shared<Shot>();
        shot->scene = test::mirrorPlate(Vec3(0.02f), 0.f);
        light::Lamp lamp;
        lamp.shape = light::Lamp::Shape::Sphere;
        lamp.id = v.id;
        lamp.position = Vec3(0.f, 3.f, -4.f);
        lamp.radius = 0.7f;
        lamp.intensity = Vec3(8.f, 4.f, 2.f);
        lamp.glow = 0.f;
        lamp.ofBody = 0;
        shot->lamps = {lamp};
        shot->volumes = {v};
        shot->camera = {Vec3(0.f, 3.f, 6.f), Vec3(0.f, 0.f, 0.5f), 60.f, 36.f}; // its image lies where it looks
        const Middle live = seen(shot, StillAir::Live, 16, 10), truth = seen(shot, StillAir::Paths, 600, 10);
        QVERIFY(truth.light.x > 1e-3f);
        QVERIFY2(std::abs(live.light.x - truth.light.x) < test::within(0.12) * truth.light.x,
                 qPrintable(QString("%1, path-traced %2").arg(live.light.x).arg(truth.light.x)));
    }

    void photonsAreTheSameEachTime()
    {
        const auto shot = overMeadow(
            {volumeOf(gridOf(32, puff), Vec3(-8.f, 2.f, -8.f), 0.5f, 0.8f, 0.5f, Vec3(0.95f))});
        const AirModel air(*shot);
        VolumeLight a(shot, 0, shot->camera.position), b(shot, 0, shot->camera.position);
        for (int i = 0; i < 2; ++i) {
            a.add(air, 4000);
            b.add(air, 4000);
        }
        VolumeLight::Scattered8 one, two;
        a.at8(f8(0.f), f8(9.f), f8(0.f), one);
        b.at8(f8(0.f), f8(9.f), f8(0.f), two);
        for (int c = 0; c < 3; ++c)
            QVERIFY(one.sun[c][0] == two.sun[c][0] && one.sky[c][0] == two.sky[c][0] && one.sun[c][0] > 0.f &&
                    one.sky[c][0] > 0.f);
        // A lent lattice is the same lattice, also of another density.
        auto denser = std::make_shared<Shot>(*shot);
        denser->volumes[0].sigmaT *= 2.f;
        VolumeLight own(denser, 0, shot->camera.position), lent(denser, 0, shot->camera.position, &a);
        own.add(air, 2000);
        lent.add(air, 2000);
        own.at8(f8(0.f), f8(9.f), f8(0.f), one);
        lent.at8(f8(0.f), f8(9.f), f8(0.f), two);
        QVERIFY(one.sun[0][0] == two.sun[0][0] && one.sky[2][0] == two.sky[2][0]);
    }
};
QTEST_GUILESS_MAIN(TestMatter)
#include "test_matter.moc"
