/// Surfaces, shadows and lamps against closed forms; what a picture must do when one thing changes.
#include "render/frame.h"
#include "render/still.h"
#include "render/surface.h"
#include "support.h"

using namespace hygros;
using namespace hygros::render;
using shot::Shot;

namespace {
const std::atomic<bool> never{false};

std::shared_ptr<Shot> stage(std::shared_ptr<const geometry::RayScene> scene)
{
    auto s = std::make_shared<Shot>();
    s->scene = std::move(scene);
    s->camera = {Vec3(0, 5, 0.001f), Vec3(0, 0, 0), 35.f, 36.f};
    return s;
}
light::Lamp lampAt(float height)
{
    light::Lamp l;
    l.id = "lamp";
    l.position = Vec3(0, height, 0);
    l.direction = Vec3(0, -1, 0);
    l.cosOuter = std::cos(radians(60));
    l.cosInner = std::cos(radians(50));
    l.intensity = Vec3(10.f, 20.f, 30.f);
    l.radius = 1e-3f; // its cone begins where it stands
    l.glow = 0.f;
    return l;
}
/// Two squares: a matte floor at 0 and a lid of the given half size at height 2.
std::shared_ptr<const geometry::RayScene> floorWithLid(float half)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    for (const auto& [y, h] : {std::pair(0.f, 50.f), std::pair(2.f, half)}) {
        geometry::Mesh m;
        m.positions = {Vec3(-h, y, -h), Vec3(h, y, -h), Vec3(h, y, h), Vec3(-h, y, h)};
        m.normals.assign(4, Vec3(0, 1, 0));
        m.indices = {0, 2, 1, 0, 3, 2};
        set->meshes.push_back(m);
    }
    geometry::Material matte;
    matte.baseColour = Vec3(0.5f);
    matte.roughness = 1.f;
    set->materials.push_back(matte);
    set->triangles = 4;
    JobControl job;
    return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
}
Layers still(const std::shared_ptr<const Shot>& s, int samples, int w = 48, int h = 32, bool followsPaths = false)
{
    StillSettings settings;
    settings.followsPaths = followsPaths; // coverage is asked without the noise of few paths
    settings.width = w;
    settings.height = h;
    settings.samples = samples;
    JobControl job;
    return renderStill(s, settings, job);
}
Vec3 beauty(const Layers& l, int x, int y)
{
    const auto i = static_cast<std::size_t>((y * l.width + x) * 3);
    return Vec3(l.plate[i] * l.transmittance[i] + l.air[i], l.plate[i + 1] * l.transmittance[i + 1] + l.air[i + 1],
                l.plate[i + 2] * l.transmittance[i + 2] + l.air[i + 2]);
}
} // namespace

class TestSurface : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void lampLightFallsWithTheSquareOfDistance()
    {
        // Straight below: L = albedo/π · I/h², plus the small gloss of a rough dielectric.
        double before = 0.0;
        for (const float h : {1.f, 2.f, 4.f}) {
            auto s = stage(test::plate(0.f, 50.f));
            s->lamps = {lampAt(h)};
            const double l = double(beauty(still(s, 4), 24, 16).y), matte = 0.5 / M_PI * 20.0 / double(h * h);
            QVERIFY2(l > matte * 0.98 && l < matte * 1.15, qPrintable(QString("%1 against %2").arg(l).arg(matte)));
            if (before > 0.0)
                NEAR(before / l, 4.0, 0.05);
            before = l;
        }
    }

    void lampColourAndStrengthAreLinear()
    {
        auto s = stage(test::plate(0.f, 50.f));
        s->lamps = {lampAt(3.f)};
        s->media = {test::uniformAir(0.05f, 0.3f, Vec3(0.9f))};
        auto twice = std::make_shared<Shot>(*s);
        twice->lamps[0].intensity *= 2.f;
        const Layers a = still(s, 3), b = still(twice, 3);
        for (std::size_t i = 0; i < a.air.size(); ++i)
            QVERIFY(std::abs(b.airBy[0].air[i] - 2.f * a.airBy[0].air[i]) <= 1e-4f * b.airBy[0].air[i] + 1e-7f);
        NEAR(beauty(b, 20, 10).x, 2.0 * double(beauty(a, 20, 10).x), 1e-3);
        NEAR(beauty(a, 24, 16).z / beauty(a, 24, 16).x, 3.0, 1e-3);
    }

    void airBetweenLampAndFloorDimsTheFloor()
    {
        auto clear = stage(test::plate(0.f, 50.f));
        clear->lamps = {lampAt(4.f)};
        auto foggy = std::make_shared<Shot>(*clear);
        foggy->media = {test::uniformAir(0.2f, 0.f, Vec3(0.f))}; // only absorbs
        const Layers a = still(clear, 4), b = still(foggy, 4);
        // Camera at 5 m, lamp at 4 m: e^{−0.2·(5+4)}.
        NEAR(double(beauty(b, 24, 16).y) / double(beauty(a, 24, 16).y), std::exp(-0.2 * 9.0), 0.01);
        NEAR(b.transmittance[static_cast<std::size_t>((16 * 48 + 24) * 3)], std::exp(-0.2 * 5.0), 0.01);
        for (const float air : b.air)
            QCOMPARE(air, 0.f);
    }

    void aLidShadowsTheFloorAndTheAirUnderIt()
    {
        const auto lightUnderLid = [&](float half) {
            auto s = stage(floorWithLid(half));
            s->camera = {Vec3(0, 1, 12), Vec3(0, 1, 0), 50.f, 36.f};
            s->lamps = {lampAt(4.f)};
            s->media = {test::uniformAir(0.02f)};
            const Layers l = still(s, 6);
            // The ray along y = 1 under the lid, through the cone.
            double sum = 0.0;
            for (int x = 22; x < 26; ++x)
                sum += double(l.airBy[0].air[static_cast<std::size_t>((16 * 48 + x) * 3 + 1)]);
            return sum;
        };
        const double open = lightUnderLid(0.001f), covered = lightUnderLid(8.f);
        QVERIFY(open > 0.0);
        QVERIFY2(covered < 0.01 * open, qPrintable(QString("%1 of %2").arg(covered).arg(open)));
    }

    void sunlightOnAMatteFloorIsLambertian()
    {
        light::SkySettings sky;
        sky.elevation = radians(50);
        sky.skyStrength = 0.f;
        sky.groundAlbedo = Vec3(0.f);
        auto s = stage(test::plate(0.f, 5000.f));
        s->sky = std::make_shared<light::Sky>(sky);
        const double wanted = 0.5 / M_PI * double(s->sky->sunIrradiance().y) * std::sin(50.0 * M_PI / 180.0);
        const double actual = double(beauty(still(s, 8), 24, 16).y);
        QVERIFY2(actual > wanted * 0.98 && actual < wanted * 1.2,
                 qPrintable(QString("%1 against %2").arg(actual).arg(wanted)));
    }

    void theSunsShadowLiesWhereGeometrySaysAndGoesWithTheLid()
    {
        light::SkySettings sky;
        sky.elevation = radians(45);
        sky.azimuth = 0.f; // toward −Z: the lid at 2 m throws its shadow 2 m toward +Z
        sky.skyStrength = 0.f;
        sky.groundAlbedo = Vec3(0.f);
        auto s = stage(floorWithLid(0.5f));
        s->sky = std::make_shared<light::Sky>(sky);
        s->camera = {Vec3(0, 20, 2.001f), Vec3(0, 0, 2), 35.f, 36.f};
        const geometry::View view(s->camera, 96, 64);
        const Layers l = still(s, 4, 96, 64);
        const auto at = [&](const Vec3& p) {
            Vec2 pixel(0.f, 0.f);
            float depth = 0.f;
            view.project(p, pixel, depth);
            return double(beauty(l, static_cast<int>(pixel.x), static_cast<int>(pixel.y)).y);
        };
        QVERIFY(at(Vec3(0.1f, 0, 2.1f)) < 0.05 * at(Vec3(3, 0, 2)));
        QVERIFY(at(Vec3(0, 0, 4)) > 0.9 * at(Vec3(3, 0, 2)));
    }

    void aMirrorShowsTheSkyThroughTheAirOnBothLegs()
    {
        light::SkySettings sky;
        sky.elevation = radians(40);
        sky.azimuth = pi; // behind the viewer, so that the sun's own highlight stays out
        auto s = stage(test::mirrorPlate());
        s->camera = {Vec3(0, 2, 20), Vec3(0, 0, 10), 35.f, 36.f};
        s->sky = std::make_shared<light::Sky>(sky);
        const Layers clear = still(s, 6);
        const geometry::View view(s->camera, 48, 32);
        Vec3 d = view.direction(24.5f, 16.5f);
        d.y = -d.y;
        NEAR(luminance(beauty(clear, 24, 16)), luminance(s->sky->radiance(d)), 0.05);
        auto hazy = std::make_shared<Shot>(*s);
        media::Medium layer;
        layer.id = "layer";
        layer.shape = media::Shape::Layer;
        layer.base = -1.f;
        layer.top = 3.f;
        layer.sigmaT = 0.03f;
        layer.albedo = Vec3(0.f);
        hazy->media = {layer};
        const Layers through = still(hazy, 6);
        // Both legs cross the layer: from the eye at 2 m down to the mirror, and up again to 3 m.
        const double slope = double(d.y), depth = 0.03 * (2.0 / slope + 3.0 / slope);
        NEAR(luminance(beauty(through, 24, 16)), luminance(beauty(clear, 24, 16)) * std::exp(-depth), 0.06);
    }

    void aMirrorShowsALampOnce_data()
    {
        QTest::addColumn<int>("shape");
        QTest::newRow("bulb") << static_cast<int>(light::Lamp::Shape::Sphere);
        QTest::newRow("panel") << static_cast<int>(light::Lamp::Shape::Rectangle);
        QTest::newRow("disc") << static_cast<int>(light::Lamp::Shape::Disc);
    }
    void aMirrorShowsALampOnce()
    {
        // As much as one sees of it directly from the mirror's other side: I / d². As a highlight or as an image, never
        // as both.
        QFETCH(const int, shape);
        auto s = stage(test::mirrorPlate());
        s->camera = {Vec3(0, 2, 6), Vec3(0, 0, 2), 35.f, 36.f};
        light::Lamp lamp = lampAt(2.f);
        lamp.shape = static_cast<light::Lamp::Shape>(shape);
        lamp.position = Vec3(0, 2, -2);
        lamp.radius = 0.15f;
        lamp.width = 0.5f;
        lamp.height = 0.4f;
        lamp.glow = 1.f;
        lamp.aimAlong((Vec3(0, 0, 2) - lamp.position).normalized());
        s->lamps = {lamp};
        const geometry::View view(s->camera, 48, 32);
        const auto sum = [&](const Layers& l) {
            double all = 0.0;
            for (int y = 0; y < l.height; ++y)
                for (int x = 0; x < l.width; ++x) {
                    const double along = double(
                        view.direction(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f)
                            .dot(view.direction(24.f, 16.f)));
                    all += double(beauty(l, x, y).y) * std::pow(along, 3.0);
                }
            return all * double(view.pixelAngle()) * double(view.pixelAngle());
        };
        // `intensity` is that along the axis, which is turned to the mirror.
        const double wanted = 20.0 / (4.0 * (16.0 + 4.0));
        NEAR(sum(still(s, 64)), wanted, 0.05);
        StillSettings paths;
        paths.air = StillAir::Paths;
        paths.width = 48;
        paths.height = 32;
        paths.samples = 256;
        JobControl job;
        NEAR(sum(renderStill(s, paths, job)), wanted, 0.08);
    }

    void aMirrorShowsSparks_data()
    {
        QTest::addColumn<float>("way");
        QTest::newRow("still") << 0.f;
        QTest::newRow("a streak") << 1.2f;
        QTest::newRow("a long one") << 3.f;
    }
    void aMirrorShowsSparks()
    {
        // As much light as one sees of it from the mirror's other side, however thin it is: L·πr² / d².
        QFETCH(const float, way);
        auto s = stage(test::mirrorPlate());
        s->camera = {Vec3(0, 2, 6), Vec3(0, 0, 2), 35.f, 36.f};
        media::Spark spark;
        spark.at = Vec3(0, 2, -2);
        spark.radiance = Vec3(4000.f, 2000.f, 500.f);
        const geometry::View view(s->camera, 48, 32);
        for (const float radius : {0.15f, 0.01f}) {
            spark.radius = radius;
            spark.velocity = Vec3(way, 0.2f * way, 0.f) * 20.f;
            s->sparks = {{"strike", std::make_shared<const media::SparkList>(std::vector{spark}, 0.05f)}};
            const auto sum = [&](const Layers& l) {
                double all = 0.0;
                for (int y = 0; y < l.height; ++y)
                    for (int x = 0; x < l.width; ++x)
                        all += double(beauty(l, x, y).y);
                return all * double(view.pixelAngle()) * double(view.pixelAngle());
            };
            const double wanted = 2000.0 * double(pi) * double(radius) * double(radius) / (16.0 + 64.0);
            NEAR(sum(still(s, 64)), wanted, test::within(0.06));
            StillSettings paths;
            paths.air = StillAir::Paths;
            paths.width = 48;
            paths.height = 32;
            paths.samples = test::often(256);
            JobControl job;
            NEAR(sum(renderStill(s, paths, job)), wanted, test::within(0.06));
            // Where something stands before it, it is not seen.
            auto hidden = std::make_shared<Shot>(*s);
            hidden->sparks[0].all = std::make_shared<const media::SparkList>(
                std::vector{media::Spark{Vec3(0, -3, -2), Vec3(0.f), radius, spark.radiance}}, 0.05f);
            QVERIFY(sum(still(hidden, 8)) < 1e-6 * wanted);
        }
    }

    void aMirrorShowsBeamsInTheAir_data()
    {
        QTest::addColumn<bool>("bank");
        QTest::newRow("haze") << false;
        QTest::newRow("over a thin bank") << true;
    }
    void aMirrorShowsBeamsInTheAir()
    {
        // A beam through haze, above what is seen of the water it is mirrored in; by march alone as by paths. A noisy
        // bank on the water is not where the beam is.
        QFETCH(bool, bank);
        auto s = stage(test::mirrorPlate());
        s->camera = {Vec3(0, 3, 6), Vec3(0, 0, 0), 35.f, 36.f};
        s->media = {test::uniformAir(0.02f, 0.3f, Vec3(0.9f))};
        if (bank) {
            media::Medium m = test::uniformAir(0.1f, 0.3f, Vec3(0.9f));
            m.id = "bank";
            m.shape = media::Shape::Layer;
            m.base = 0.f;
            m.top = 0.5f;
            m.falloff = 0.1f;
            m.noise.contrast = 0.6f;
            m.noise.scale = 1.f;
            s->media.push_back(m);
        }
        light::Lamp lamp = lampAt(3.f);
        lamp.position = Vec3(-6, 4, -6);
        lamp.cosOuter = std::cos(radians(12));
        lamp.cosInner = std::cos(radians(9));
        lamp.aimAlong(Vec3(1, 0.15f, -0.1f).normalized());
        s->lamps = {lamp};
        const auto byLamp = [](const Layers& l) {
            double sum = 0.0;
            for (int y = 0; y < l.height; ++y)
                for (int x = 0; x < l.width; ++x) {
                    const auto p = static_cast<std::size_t>((y * l.width + x) * 3 + 1);
                    sum += double(l.plate[p] * l.transmittance[p]);
                }
            return sum;
        };
        StillSettings paths;
        paths.air = StillAir::Paths;
        paths.width = 48;
        paths.height = 32;
        paths.samples = 600;
        JobControl job;
        const double live = byLamp(still(s, 32)), truth = byLamp(renderStill(s, paths, job));
        qInfo("a beam in the mirror: live %.3f of paths", live / truth);
        QVERIFY(truth > 0.0);
        NEAR(live / truth, 1.0, 0.15);
    }

    void whatALampCoversOfAPixelIsKnown()
    {
        // A panel of less than a pixel before a wall that is hardly farther away: its share is what it covers and not
        // how often it was looked at.
        auto s = stage(test::plate(0.f, 50.f));
        s->camera = {Vec3(0, 10, 0.001f), Vec3(0, 0, 0), 35.f, 36.f};
        light::Lamp lamp = lampAt(0.3f);
        lamp.shape = light::Lamp::Shape::Rectangle;
        lamp.position = Vec3(0.1f, 0.3f, 0.05f);
        lamp.width = lamp.height = 0.13f;
        lamp.glow = 1.f;
        lamp.aimAlong(Vec3(0, 1, 0));
        s->lamps = {lamp};
        const geometry::View view(s->camera, 48, 32);
        // And paths, which meet the dark wall beside it, do not make it darker.
        for (const bool followsPaths : {false, true}) {
            const Layers l = still(s, 48, 48, 32, followsPaths);
            double sum = 0.0;
            for (int y = 0; y < 32; ++y)
                for (int x = 0; x < 48; ++x)
                    sum += double(beauty(l, x, y).y);
            NEAR(sum * double(view.pixelAngle()) * double(view.pixelAngle()), 20.0 / (9.7 * 9.7), 0.04);
        }
    }

    void lampsOfAPartOfAPixelAreAllMet()
    {
        // Eight bulbs before the night sky, each a quarter of a pixel, wherever they lie in it.
        auto s = stage(test::plate(0.f, 50.f));
        s->camera = {Vec3(0, 5, 0), Vec3(0, 8, -10), 35.f, 36.f};
        const geometry::View view(s->camera, 48, 32);
        s->lamps.clear();
        for (int i = 0; i < 8; ++i) {
            light::Lamp lamp = lampAt(0.3f);
            const float x = 5.f + 5.13f * static_cast<float>(i), y = 6.f + 2.37f * static_cast<float>(i);
            lamp.shape = light::Lamp::Shape::Sphere;
            lamp.position = s->camera.position + view.direction(x, y) * 20.f;
            lamp.radius = 20.f * view.pixelAngle() * 0.28f;
            lamp.glow = 1.f;
            s->lamps.push_back(lamp);
        }
        const Layers l = still(s, 24);
        double all = 0.0;
        for (int i = 0; i < 8; ++i) {
            const int x = static_cast<int>(5.f + 5.13f * static_cast<float>(i)),
                      y = static_cast<int>(6.f + 2.37f * static_cast<float>(i));
            double sum = 0.0;
            for (int dy = -2; dy <= 2; ++dy)
                for (int dx = -2; dx <= 2; ++dx) {
                    const double along = double(
                        view.direction(static_cast<float>(x + dx), static_cast<float>(y + dy)).dot(view.forward()));
                    sum += double(beauty(l, x + dx, y + dy).y) * along * along * along;
                }
            sum *= double(view.pixelAngle()) * double(view.pixelAngle()) * 400.0 / 20.0; // I / d² is 20 / 400
            NEAR(sum, 1.0, 0.25);
            all += sum / 8.0;
        }
        NEAR(all, 1.0, 0.06);
    }

    void edgePixelsMeetTheirFogTwice()
    {
        // A near lid over a far floor in thick absorbing air: pixels on the lid's edge mix near light and far darkness,
        // so their transmittance lies between the two.
        auto s = stage(floorWithLid(0.311f));
        s->camera = {Vec3(0, 3, 0.001f), Vec3(0, 0, 0), 35.f, 36.f};
        s->media = {test::uniformAir(0.4f, 0.f, Vec3(0.f))};
        const Layers l = still(s, 16);
        int between = 0;
        const double lid = std::exp(-0.4), floor = std::exp(-0.4 * 3.0);
        for (int x = 0; x < 48; ++x) {
            const double t = double(l.transmittance[static_cast<std::size_t>((16 * 48 + x) * 3)]);
            QVERIFY(t < lid * 1.01 && t > floor * 0.6);
            between += t < lid * 0.9 && t > floor * 1.15;
        }
        QVERIFY(between >= 1);
    }

    void manyThinThingsAtManyDistancesKeepTheirShareAndTheirAir()
    {
        // Slats thinner than a pixel at six distances before the sky, in absorbing air: more distances in a pixel than
        // it has clusters. The small picture must equal the mean of a large one in which every slat has pixels of its
        // own.
        auto set = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh m;
        for (int i = 0; i < 120; ++i) {
            const float z = -10.f - 9.f * static_cast<float>(i % 6),
                        x = (static_cast<float>(i) / 60.f - 1.f) * -0.5f * z, w = -0.0016f * z;
            const auto first = static_cast<std::uint32_t>(m.positions.size());
            for (const auto& [u, v] :
                 {std::pair(-w, -60.f), std::pair(w, -60.f), std::pair(w, 60.f), std::pair(-w, 60.f)})
                m.positions.push_back(Vec3(x + u, v, z));
            for (const std::uint32_t k : {0u, 1u, 2u, 0u, 2u, 3u})
                m.indices.push_back(first + k);
        }
        m.normals.assign(m.positions.size(), Vec3(0, 0, 1));
        set->materials.emplace_back();
        set->materials[0].roughness = 1.f;
        set->triangles = m.indices.size() / 3;
        set->meshes.push_back(m);
        JobControl job;
        auto s = stage(
            std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job));
        s->camera = {Vec3(0, 1, 0), Vec3(0, 1, -10), 35.f, 36.f};
        light::SkySettings sky;
        sky.azimuth = 2.f;
        s->sky = std::make_shared<light::Sky>(sky);
        media::Medium air = test::uniformAir(0.02f, 0.f, Vec3(0.f));
        air.top = 30.f;
        s->media = {air};
        const auto mean = [&](int width, int height, int passes) {
            const Layers l = still(s, passes, width, height);
            Vec3 sum(0.f); // beauty, transmittance
            for (std::size_t i = 0; i < l.pixels(); ++i)
                sum += Vec3(l.plate[i * 3 + 1] * l.transmittance[i * 3 + 1] + l.air[i * 3 + 1],
                            l.transmittance[i * 3 + 1], 0.f) /
                       static_cast<float>(l.pixels());
            return sum;
        };
        const Vec3 small = mean(24, 16, 48), large = mean(384, 256, 4);
        NEAR(small.x, large.x, 0.02);
        NEAR(small.y, large.y, 0.02);
    }

    void stoppingAndGoingOnGivesTheSamePicture()
    {
        auto s = stage(test::plate(0.f, 50.f));
        s->lamps = {lampAt(3.f)};
        s->media = {test::uniformAir(0.03f)};
        Frame whole(s, 80, 48), stopped(s, 80, 48);
        whole.trace(0, never);
        whole.light(never);
        const std::atomic<bool> raised{true};
        QVERIFY(!stopped.trace(0, raised));
        QVERIFY(stopped.trace(0, never));
        QVERIFY(!stopped.light(raised));
        QVERIFY(stopped.light(never));
        std::vector<float> a, b;
        whole.resolve(a);
        stopped.resolve(b);
        QVERIFY(a == b);
    }

    void clustersFoundLaterAreAttenuatedToo()
    {
        // Noise is kept from a time when pixels had one cluster; the edge pixels' later clusters lie under the bank
        // too.
        auto s = stage(floorWithLid(0.311f));
        light::SkySettings sky;
        sky.elevation = radians(50);
        s->sky = std::make_shared<light::Sky>(sky);
        s->camera = {Vec3(0, 3, 0.001f), Vec3(0, 0, 0), 35.f, 36.f};
        media::Medium bank;
        bank.id = "bank";
        bank.shape = media::Shape::Layer;
        bank.base = 4.f; // above the camera: it only dims what comes down
        bank.top = 8.f;
        bank.sigmaT = 1.f;
        bank.albedo = Vec3(0.f);
        bank.noise.contrast = 0.3f;
        bank.noise.scale = 50.f;
        s->media = {bank};
        Frame f(s, 48, 32);
        std::vector<float> early, late, fresh;
        f.traceSurfaces(0, never);
        f.quickPicture(early, never);
        for (int p = 0; p < 12; ++p)
            f.trace(p, never);
        f.quickPicture(late, never); // reads the kept noise
        f.setAir(s, true);
        f.quickPicture(fresh, never); // takes it anew
        for (std::size_t i = 0; i < late.size(); ++i)
            QVERIFY2(late[i] < 3.f * fresh[i] + 1e-3f,
                     qPrintable(QString("%1 against %2").arg(double(late[i])).arg(double(fresh[i]))));
    }

    void contributionsTellElementsApart()
    {
        auto s = stage(test::plate(0.f, 50.f));
        light::SkySettings sky;
        sky.elevation = radians(30);
        s->sky = std::make_shared<light::Sky>(sky);
        s->sunId = "sun";
        s->lamps = {lampAt(3.f)};
        media::Medium thick = test::uniformAir(0.05f), thin = test::uniformAir(0.0005f);
        thick.id = "thick";
        thin.id = "thin";
        thick.top = thin.top = 40.f;
        s->media = {thick, thin};
        Frame f(s, 64, 40);
        f.trace(0, never);
        std::vector<float> rgb;
        f.quickPicture(rgb, never);
        f.light(never);
        const auto total = [](const Frame::Contribution& c) {
            double sum = 0.0;
            for (const float v : c.rgb)
                sum += double(v);
            return sum;
        };
        const double a = total(f.mediumAlone("thick")), b = total(f.mediumAlone("thin"));
        NEAR(a / b, 100.0, 0.02);
        QVERIFY(total(f.lampAlone("lamp")) > 0.0 && total(f.lampAlone("sun")) > 0.0);
        QCOMPARE(total(f.lampAlone("nobody")), 0.0);
        QCOMPARE(f.mediumAlone("thick").width, 16);
    }

    void moreMediaThanEightStillAddUp()
    {
        // Ten thin airs are one of ten times the density.
        auto ten = stage(test::plate(0.f, 50.f)), one = stage(test::plate(0.f, 50.f));
        light::SkySettings sky;
        sky.elevation = radians(30);
        ten->sky = one->sky = std::make_shared<light::Sky>(sky);
        ten->lamps = one->lamps = {lampAt(3.f)};
        for (int i = 0; i < 10; ++i)
            ten->media.push_back(test::uniformAir(0.002f, 0.5f));
        one->media = {test::uniformAir(0.02f, 0.5f)};
        for (auto* s : {ten.get(), one.get()})
            for (media::Medium& m : s->media)
                m.top = 50.f;
        const Layers a = still(ten, 2), b = still(one, 2);
        for (std::size_t i = 0; i < a.air.size(); ++i) {
            QVERIFY(std::abs(a.air[i] - b.air[i]) <= 2e-3f * b.air[i] + 1e-6f);
            QVERIFY(std::abs(a.transmittance[i] - b.transmittance[i]) < 1e-4f);
        }
    }

    void besideASourceOneLookTellsMuch()
    {
        // Six centimetres under the middle of a round panel: E = I / (r² + h²), and no single place of the panel
        // decides.
        auto s = stage(test::plate(0.f, 50.f));
        light::Lamp panel = lampAt(0.06f);
        panel.shape = light::Lamp::Shape::Disc;
        panel.radius = 0.1f;
        s->lamps = {panel};
        const SurfaceSampler sampler(*s);
        std::vector<Vec3> lamps(1), mirrored(1);
        const Vec3 from(1.f, 0.03f, 0.f), way = (Vec3(0.f) - from).normalized();
        double mean = 0.0, square = 0.0;
        constexpr int looks = 512;
        for (int i = 0; i < looks; ++i) {
            sampler.sample(from, way, 1e-3f, PixelRandom{i % 64, i / 64, static_cast<std::uint32_t>(i)}, lamps,
                           mirrored);
            mean += static_cast<double>(lamps[0].x) / looks;
            square += static_cast<double>(lamps[0].x * lamps[0].x) / looks;
        }
        // Diffuse 0.5 ÷ π, and a little gloss of grazing sight.
        const double wanted = 0.5 / 3.14159265 / (0.1 * 0.1 + 0.06 * 0.06);
        QVERIFY2(mean > 0.97 * wanted && mean < 1.3 * wanted,
                 qPrintable(QString("%1, diffuse alone %2").arg(mean).arg(wanted)));
        const double spread = std::sqrt(std::max(0.0, square - mean * mean)) / mean;
        QVERIFY2(spread < 0.5, qPrintable(QString::number(spread)));
    }

    void extremesStayFinite()
    {
        for (const float sigma : {1e-7f, 1.f, 300.f}) {
            auto s = stage(test::plate(0.f, 50.f));
            light::SkySettings sky;
            sky.elevation = radians(-2);
            s->sky = std::make_shared<light::Sky>(sky);
            s->lamps = {lampAt(0.02f), lampAt(5.f)};
            media::Medium bank = test::uniformAir(sigma, 0.95f);
            bank.shape = media::Shape::Layer;
            bank.base = -1.f;
            bank.top = 1.f;
            bank.noise.contrast = 4.f;
            s->media = {bank, test::uniformAir(sigma, -0.95f, Vec3(0.f, 0.5f, 1.f))};
            const Layers l = still(s, 2);
            for (std::size_t i = 0; i < l.air.size(); ++i)
                QVERIFY(std::isfinite(l.air[i]) && std::isfinite(l.plate[i]) && l.air[i] >= 0.f &&
                        l.transmittance[i] >= 0.f);
        }
    }
};
QTEST_APPLESS_MAIN(TestSurface)
#include "test_surface.moc"
