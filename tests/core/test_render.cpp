#include "base/parallel.h"
#include "finish/deliver.h"
#include "finish/display.h"
#include "media/phase.h"
#include "reading/transect.h"
#include "render/frame.h"
#include "render/live.h"
#include "render/path_integrator.h"
#include "render/still.h"
#include "support.h"

#include <numeric>

#include <QThread>
#include <future>
#include <set>

using namespace hygros;
using namespace hygros::render;
using shot::Shot;

namespace {
const std::atomic<bool> never{false};

std::shared_ptr<Shot> openField(std::vector<media::Medium> media, bool sun = true)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::plate(0.f, 500.f);
    s->media = std::move(media);
    if (sun) {
        light::SkySettings sky;
        sky.elevation = radians(25);
        s->sky = std::make_shared<light::Sky>(sky);
        s->sunId = "sun";
    }
    s->camera = {Vec3(0, 2, 10), Vec3(0, 1, -10), 35.f, 36.f};
    return s;
}
media::Medium mist()
{
    media::Medium m;
    m.id = "mist";
    m.shape = media::Shape::Layer;
    m.base = 0.f;
    m.top = 4.f;
    m.falloff = 3.f;
    m.sigmaT = 0.05f;
    m.phase.g = 0.6f;
    m.noise.contrast = 0.6f;
    m.noise.scale = 6.f;
    return m;
}
std::vector<float> accumulated(Frame& f, int passes)
{
    f.setFollowsPaths(false); // paths find no sun in even air without end
    for (int p = 0; p < passes; ++p) {
        f.trace(p, never);
        f.light(never);
    }
    std::vector<float> rgb;
    f.resolve(rgb);
    return rgb;
}
double meanDifference(const std::vector<float>& a, const std::vector<float>& b)
{
    double difference = 0.0, total = 0.0;
    for (std::size_t i = 0; i < a.size(); ++i) {
        difference += std::abs(double(a[i]) - double(b[i]));
        total += double(b[i]);
    }
    return difference / total;
}
/// Mean of a small picture, green.
double brightness(std::shared_ptr<const Shot> shot, StillAir air, int samples)
{
    JobControl job;
    StillSettings settings;
    settings.width = 32;
    settings.height = 20;
    settings.samples = samples;
    settings.air = air;
    const Layers l = renderStill(shot, settings, job);
    double sum = 0.0;
    for (std::size_t i = 0; i < l.pixels(); ++i)
        sum += double(l.plate[i * 3 + 1] * l.transmittance[i * 3 + 1] + l.air[i * 3 + 1]);
    return sum / double(l.pixels());
}
} // namespace

class TestRender : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void pointLampInUniformAirMatchesQuadrature_data()
    {
        QTest::addColumn<float>("sigma");
        QTest::addColumn<float>("g");
        for (const float s : {0.01f, 0.1f, 0.5f})
            for (const float g : {0.f, 0.7f})
                QTest::addRow("sigma %g g %g", double(s), double(g)) << s << g;
    }
    void pointLampInUniformAirMatchesQuadrature()
    {
        QFETCH(float, sigma);
        QFETCH(float, g);
        auto s = std::make_shared<Shot>();
        s->scene = test::emptyScene();
        s->media = {test::uniformAir(sigma, g)};
        s->scatteringOrders = 1;
        light::Lamp lamp;
        lamp.position = Vec3(1.5f, 0.5f, -12);
        lamp.direction = Vec3(0, -1, 0.2f).normalized();
        lamp.cosOuter = std::cos(radians(80));
        lamp.cosInner = std::cos(radians(70));
        lamp.intensity = Vec3(100.f);
        lamp.radius = 0.001f;
        s->lamps = {lamp};
        const AirModel model(*s);
        const Vec3 o(0, 0, 0), d(0, 0, -1);
        const float end = 30.f;
        AirRays8 rays;
        rays.ray = media::ray8(o, d);
        rays.end = f8(end);
        rays.jitter = f8(0.5f);
        rays.depth[0] = f8(end);
        rays.weight[0] = f8(1.f);
        AirSums8 sums;
        marchAir(model, rays, sums);
        // 128 jitters of 8 samples: 1024 in all.
        double mean = 0.0;
        const float one = 1.f;
        const MarchedRay marched(model, o, d, end, maxSegments, reinterpret_cast<const float*>(sums.boundary));
        const std::uint8_t lit[8] = {1, 1, 1, 1, 1, 1, 1, 1};
        for (int k = 0; k < 128; ++k)
            mean += double(beamLight(marched, 0, (static_cast<float>(k) + 0.5f) / 128.f, lit, 1.f, 1, &end, &one).y) /
                    128.0;
        double wanted = 0.0;
        constexpr int n = 400000;
        for (int i = 0; i < n; ++i) {
            const double t = double(end) * (i + 0.5) / n;
            const Vec3 to = lamp.position - Vec3(0, 0, static_cast<float>(-t));
            const double r = double(to.length());
            const float axis = -to.dot(lamp.direction) / static_cast<float>(r);
            wanted += double(sigma) * std::exp(-double(sigma) * (t + r)) / (r * r) * 100.0 * double(lamp.edge(axis)) *
                      double(media::henyeyGreenstein(to.dot(d) / static_cast<float>(r), g)) * double(end) / n;
        }
        NEAR(mean, wanted, 0.005);
    }

    void marchedTransmittanceIsTheClosedForm()
    {
        media::Medium haze;
        haze.shape = media::Shape::Thinning;
        haze.sigmaT = 0.002f;
        haze.thinning = 90.f;
        media::Medium bank = mist();
        bank.noise.contrast = 0.f;
        auto s = openField({haze, bank});
        const AirModel model(*s);
        for (const float slope : {-0.2f, -0.01f, -1e-5f, 0.f, 1e-6f, 0.004f, 0.3f, 0.99f}) {
            const Vec3 o(0, 2, 0), d(0, slope, -std::sqrt(1.f - slope * slope));
            AirRays8 rays;
            rays.ray = media::ray8(o, d);
            rays.end = f8(900.f);
            rays.jitter = f8(0.3f);
            rays.depths = 2;
            rays.depth[0] = f8(900.f);
            rays.depth[1] = f8(60.f);
            rays.weight[0] = rays.weight[1] = f8(0.5f);
            AirSums8 sums;
            marchAir(model, rays, sums);
            const double depth = double(media::opticalDepth(haze, o, d, 0.f, 900.f) +
                                        media::opticalDepth(bank, o, d, 0.f, 900.f));
            QVERIFY(std::abs(double(sums.transmittance[0][5]) - std::exp(-depth)) < 2e-4);
            const double nearDepth = double(media::opticalDepth(haze, o, d, 0.f, 60.f) +
                                            media::opticalDepth(bank, o, d, 0.f, 60.f));
            QVERIFY(std::abs(double(sums.transmittance[1][0]) - std::exp(-nearDepth)) < 0.02);
        }
    }

    void whiteFurnaceIsWhiteWithPathTracedAir()
    {
        auto s = std::make_shared<Shot>();
        s->scene = test::emptyScene();
        media::Medium box;
        box.shape = media::Shape::Box;
        box.centre = Vec3(0, 2, -6);
        box.half = Vec3(2, 2, 2);
        box.sigmaT = 1.f;
        box.phase.g = 0.5f;
        box.noise.contrast = 0.5f;
        box.noise.scale = 1.f;
        media::Medium thin;
        thin.shape = media::Shape::Layer;
        thin.base = -40.f;
        thin.top = 60.f;
        thin.sigmaT = 0.001f;
        s->media = {box, thin};
        s->camera = {Vec3(0, 2, 0), Vec3(0, 2, -6), 35.f, 36.f};
        PathIntegrator paths(s, 24, 16);
        paths.setUniformSurroundings(1.f);
        for (int p = 0; p < 256; ++p)
            paths.pass();
        const Layers l = paths.layers();
        double mean = 0.0;
        for (std::size_t i = 0; i < l.pixels(); ++i) {
            const double v = double(l.plate[i * 3 + 1] * l.transmittance[i * 3 + 1] + l.air[i * 3 + 1]);
            QVERIFY2(std::abs(v - 1.0) < 0.12, qPrintable(QString::number(v)));
            mean += v / double(l.pixels());
        }
        NEAR(mean, 1.0, 0.005);
    }

    void conservativeSlabReflectsWhatTheLiteratureSays()
    {
        // Isotropic, τ = 2, normal incidence: 0.5176 comes back. Below lies a black plate, above light of radiance 1.
        auto s = std::make_shared<Shot>();
        s->scene = test::mattePlate(-1.f, 1e5f);
        media::Medium slab;
        slab.shape = media::Shape::Layer;
        slab.base = 0.f;
        slab.top = 2.f;
        slab.sigmaT = 1.f;
        s->media = {slab};
        PathIntegrator paths(s, 8, 8);
        paths.setUniformSurroundings(1.f);
        double sum = 0.0;
        constexpr int n = 160000;
        std::vector<double> rows(16, 0.0);
        parallelFor(16, [&](std::size_t row) {
            for (int i = 0; i < n / 16; ++i) {
                Random random(hash32(static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(row)));
                const PathIntegrator::PathLight l = paths.light(Vec3(0, 5, 0), Vec3(0, -1, 0), 1e-3f, random);
                rows[row] += double(l.set.y + l.air.y);
            }
        });
        for (const double r : rows)
            sum += r;
        QVERIFY2(std::abs(sum / n - 0.5176) < 0.006, qPrintable(QString::number(sum / n)));
    }

    void withoutASkyOrASunTheRestStaysAsItWas()
    {
        light::Lamp lamp;
        lamp.id = "lamp";
        lamp.position = Vec3(2, 4, 0);
        lamp.direction = Vec3(0, -1, 0);
        lamp.intensity = Vec3(50.f);
        StillSettings settings;
        settings.width = 48;
        settings.height = 32;
        settings.samples = 3;
        settings.layers.sources = true;
        settings.followsPaths = false;
        const auto rendered = [&](float strength, float sky) {
            auto s = openField({test::uniformAir(0.004f, 0.5f, Vec3(0.9f, 0.95f, 1.f)), mist()});
            light::SkySettings above;
            above.elevation = radians(25);
            above.strength = strength;
            above.skyStrength = sky;
            above.stars = 0.f;
            s->sky = std::make_shared<light::Sky>(above);
            s->lamps = {lamp};
            JobControl job;
            return renderStill(s, settings, job);
        };
        const Layers all = rendered(1.f, 1.f), noSky = rendered(1.f, 0.f), night = rendered(0.f, 1.f);
        const auto of = [](const std::vector<Layers::ByLamp>& by, const std::string& id) {
            for (const auto& one : by)
                if (one.id == id)
                    return std::accumulate(one.air.begin(), one.air.end(), 0.0);
            return 0.0;
        };
        for (const Layers* l : {&noSky, &night})
            for (const auto* values : {&l->plate, &l->air})
                QVERIFY(
                    std::all_of(values->begin(), values->end(), [](float v) { return std::isfinite(v) && v >= 0.f; }));
        for (const auto by : {&Layers::setBy, &Layers::airBy}) {
            QCOMPARE(of(noSky.*by, "sky"), 0.0);
            NEAR(of(noSky.*by, "sun"), of(all.*by, "sun"), 0.01);
            NEAR(of(noSky.*by, "lamp"), of(all.*by, "lamp"), 0.01);
            QCOMPARE(of(night.*by, "sky"), 0.0);
            QCOMPARE(of(night.*by, "sun"), 0.0);
            NEAR(of(night.*by, "lamp"), of(all.*by, "lamp"), 0.01);
            QVERIFY2(of(all.*by, "sun") > 0.0 && of(all.*by, "lamp") > 0.0 && of(all.*by, "sky") > 0.0,
                     qPrintable(
                         QString("%1 %2 %3").arg(of(all.*by, "sun")).arg(of(all.*by, "lamp")).arg(of(all.*by, "sky"))));
        }
    }
    void layersAddUpExactly()
    {
        auto s = openField({test::uniformAir(0.004f, 0.5f, Vec3(0.9f, 0.95f, 1.f)), mist()});
        light::Lamp lamp;
        lamp.id = "lamp";
        lamp.position = Vec3(2, 4, 0);
        lamp.direction = Vec3(0, -1, 0);
        lamp.intensity = Vec3(50.f);
        s->lamps = {lamp};
        StillSettings settings;
        settings.width = 64;
        settings.height = 40;
        settings.samples = 3;
        JobControl job;
        const Layers l = renderStill(s, settings, job);
        QCOMPARE(l.airBy.size(), 3u);
        double airOfLamp = 0.0;
        for (std::size_t i = 0; i < l.pixels() * 3; ++i) {
            float sum = 0.f;
            for (const auto& by : l.airBy)
                sum += by.air[i];
            QVERIFY(std::abs(sum - l.air[i]) <= 1e-5f * std::max(1.f, l.air[i]));
            QVERIFY(std::isfinite(l.plate[i]) && l.plate[i] >= 0.f && l.transmittance[i] >= 0.f &&
                    l.transmittance[i] <= 1.0001f);
            airOfLamp += double(l.airBy[2].air[i]);
        }
        QVERIFY(airOfLamp > 0.0);
        // A level surface straight ahead: depth along the ray.
        QVERIFY(l.depth[39 * 64 + 32] > 2.f && l.depth[39 * 64 + 32] < 12.f);
        QCOMPARE(l.depth[32], Shot::farDistance);
    }

    void replayedEditEqualsAFreshRender()
    {
        auto before = openField({mist()});
        auto after = std::make_shared<Shot>(*before);
        after->media[0].sigmaT = 0.15f;
        after->media[0].albedo = Vec3(0.8f, 0.9f, 1.f);
        Frame edited(before, 96, 54), fresh(after, 96, 54);
        accumulated(edited, 3);
        edited.setAir(after, false);
        const auto a = accumulated(edited, 3), b = accumulated(fresh, 3);
        QVERIFY2(meanDifference(a, b) < 0.004, qPrintable(QString::number(meanDifference(a, b))));
    }

    void quickPictureAgreesWithTheRefinedOne()
    {
        Frame f(openField({test::uniformAir(0.003f, 0.4f), mist()}), 160, 96);
        QVERIFY(f.traceSurfaces(0, never));
        std::vector<float> quick;
        QVERIFY(f.quickPicture(quick, never));
        const auto fine = accumulated(f, 8);
        QVERIFY2(meanDifference(quick, fine) < 0.08, qPrintable(QString::number(meanDifference(quick, fine))));
    }

    void noBandingAcrossASmoothBank()
    {
        // Along a row of sky through an even bank the expected picture is smooth: second differences stay tiny once
        // averaged.
        media::Medium m = mist();
        m.noise.contrast = 0.f;
        auto s = openField({m});
        s->scene = test::emptyScene();
        Frame f(s, 128, 72);
        const auto rgb = accumulated(f, 16);
        double worst = 0.0;
        for (int y = 4; y < 68; ++y)
            for (int x = 2; x < 126; ++x) {
                const auto at = [&](int dx) {
                    return double(rgb[static_cast<std::size_t>((y * 128 + x + dx) * 3 + 1)]);
                };
                worst = std::max(worst, std::abs(at(-1) - 2 * at(0) + at(1)) / at(0));
            }
        QVERIFY2(worst < 0.03, qPrintable(QString::number(worst)));
    }

    void denseFogGlowsInsteadOfGoingBlack()
    {
        auto fog = test::uniformAir(0.06f, 0.7f);
        fog.top = 60.f; // τ about 3.6 straight up
        auto s = openField({fog});
        auto single = std::make_shared<Shot>(*s);
        single->scatteringOrders = 1;
        const double live = brightness(s, StillAir::Live, 4), alone = brightness(single, StillAir::Live, 4),
                     truth = brightness(s, StillAir::Paths, 400);
        qInfo("dense fog: live %.3f, single scattering %.3f, path traced %.3f", live, alone, truth);
        QVERIFY(live > alone);
        QVERIFY2(live > 0.75 * truth && live < 1.25 * truth, qPrintable(QString("%1 against %2").arg(live).arg(truth)));
    }

    void airIsAsBrightAsPathTracedUnderASunOfAnyHeight_data()
    {
        QTest::addColumn<double>("elevation");
        QTest::addColumn<float>("sigma");
        QTest::addColumn<float>("g");
        for (const double elevation : {4.0, 15.0, 35.0, 65.0})
            for (const auto& [sigma, g] :
                 {std::pair(0.004f, 0.8f), std::pair(0.02f, 0.8f), std::pair(0.02f, 0.3f), std::pair(0.07f, 0.85f)})
                QTest::addRow("%g degrees, %g /m, g %g", elevation, double(sigma), double(g))
                    << elevation << sigma << g;
    }
    void airIsAsBrightAsPathTracedUnderASunOfAnyHeight()
    {
        QFETCH(double, elevation);
        QFETCH(float, sigma);
        QFETCH(float, g);
        auto fog = test::uniformAir(sigma, g);
        fog.top = 30.f;
        fog.albedo = Vec3(0.99f);
        auto s = openField({fog});
        light::SkySettings sky;
        sky.elevation = radians(elevation);
        sky.azimuth = 1.1f;
        s->sky = std::make_shared<light::Sky>(sky);
        const double live = brightness(s, StillAir::Live, 4), truth = brightness(s, StillAir::Paths, 60);
        qInfo("live %.3f of path traced", live / truth);
        QVERIFY2(live > 0.85 * truth && live < 1.15 * truth, qPrintable(QString("%1 against %2").arg(live).arg(truth)));
    }

    void clearAirLeavesThePlateUntouched()
    {
        auto s = openField({});
        JobControl job;
        StillSettings settings;
        settings.width = 48;
        settings.height = 32;
        settings.samples = 2;
        const Layers l = renderStill(s, settings, job);
        for (std::size_t i = 0; i < l.pixels() * 3; ++i) {
            QCOMPARE(l.transmittance[i], 1.f);
            QCOMPARE(l.air[i], 0.f);
        }
    }

    void changesAreToldApart()
    {
        const auto a = openField({mist()});
        auto b = std::make_shared<Shot>(*a);
        QVERIFY(changeBetween(*a, *b) == Change::None);
        b->look.exposure = 2.f;
        QVERIFY(changeBetween(*a, *b) == Change::None);
        b->media[0].sigmaT = 1.f;
        QVERIFY(changeBetween(*a, *b) == Change::Air);
        b->media[0].noise.seed = 9;
        QVERIFY(changeBetween(*a, *b) == Change::AirAndNoise);
        b->camera.focalMm = 50.f;
        QVERIFY(changeBetween(*a, *b) == Change::Light);
    }

    void whatIsDraggedInALargeWindowIsSmaller()
    {
        using render::firstEighths;
        QCOMPARE(firstEighths(0.0, false), 3);
        QCOMPARE(firstEighths(0.29, false), 3);
        QCOMPARE(firstEighths(0.5, false), 2);
        QCOMPARE(firstEighths(1.2, false), 1);
        QCOMPARE(firstEighths(0.2, true), 2);
        // No larger one is ever slower than a third of a second where that can be had.
        for (const double seconds : {0.1, 0.3, 0.4, 0.6, 0.9, 2.0}) {
            const double share = firstEighths(seconds, false) / 3.0;
            QVERIFY(seconds * share * share <= 0.3 || share < 0.34);
        }
    }

    void theTimeLeftIsTold()
    {
        // By the rule of marches, to the end: 64 passes, 36 of them marched, 12 more for the noise.
        NEAR(render::secondsLeft(0, 0, 64, 1.0, 0.0), 64.0, 1e-9);
        NEAR(render::secondsLeft(0, 0, 64, 0.0, 1.0), 48.0, 1e-9);
        NEAR(render::secondsLeft(64, 48, 64, 1.0, 1.0) + 1.0, 1.0, 1e-9);
        NEAR(render::secondsLeft(60, 34, 64, 1.0, 1.0), 4.0 + 2.0 + 12.0, 1e-9);
        // As it comes: something is left until the picture is clean, then nothing.
        std::vector<std::pair<int, double>> seen;
        std::promise<void> done;
        LiveRenderer live([&](const LivePicture& p) {
            seen.emplace_back(p.samples, p.secondsLeft);
            if (p.isClean && p.samples == 12)
                done.set_value();
        });
        live.setFollowsPaths(false);
        live.setWantedSamples(12);
        live.setShot(openField({mist()}), 160, 100);
        QVERIFY(done.get_future().wait_for(std::chrono::seconds(120)) == std::future_status::ready);
        QCOMPARE(seen.back().second, 0.0);
        for (const auto& [samples, left] : seen)
            QVERIFY(samples < 1 || samples == 12 || left > 0.0);
    }

    void picturesComeWhileSomethingIsDragged()
    {
        // Shots that come faster than pictures can be made: there are some on the way all the same.
        std::mutex mutex;
        std::set<std::uint64_t> seen;
        LiveRenderer live([&](const LivePicture& p) {
            const std::lock_guard lock(mutex);
            seen.insert(p.revision);
        });
        live.setWantedSamples(2);
        const auto s = openField({mist()});
        for (const bool camera : {true, false}) {
            const auto until = std::chrono::steady_clock::now() + std::chrono::seconds(3);
            std::uint64_t last = 0;
            {
                const std::lock_guard lock(mutex);
                seen.clear();
            }
            for (int i = 0; std::chrono::steady_clock::now() < until; ++i) {
                auto next = std::make_shared<Shot>(*s);
                if (camera)
                    next->camera.position.x += 0.01f * static_cast<float>(i);
                else
                    next->media[0].sigmaT *= 1.f + 0.001f * static_cast<float>(i);
                last = live.setShot(next, 800, 500);
                QThread::msleep(3);
            }
            const std::lock_guard lock(mutex);
            const auto before = static_cast<int>(
                std::count_if(seen.begin(), seen.end(), [&](auto r) { return r < last; }));
            QVERIFY2(before >= 5, qPrintable(QString::number(before)));
        }
    }

    void liveRendererAnswersTheNewestShotAndComesClean()
    {
        std::mutex mutex;
        std::vector<std::pair<std::uint64_t, int>> seen;
        std::promise<void> done;
        std::uint64_t last = 0;
        std::atomic<bool> finished{false};
        LiveRenderer live([&](const LivePicture& p) {
            const std::lock_guard lock(mutex);
            seen.emplace_back(p.revision, p.samples);
            if (last && p.revision == last && p.isClean && !finished.exchange(true))
                done.set_value();
        });
        live.setWantedSamples(3);
        auto s = openField({mist()});
        live.setShot(s, 96, 64);
        for (int i = 0; i < 12; ++i) {
            auto next = std::make_shared<Shot>(*s);
            next->media[0].sigmaT = 0.02f * static_cast<float>(i + 1);
            const std::uint64_t r = live.setShot(next, 96, 64);
            const std::lock_guard lock(mutex);
            last = r;
        }
        QVERIFY(done.get_future().wait_for(std::chrono::seconds(60)) == std::future_status::ready);
        const std::lock_guard lock(mutex);
        QVERIFY(
            std::is_sorted(seen.begin(), seen.end(), [](const auto& a, const auto& b) { return a.first < b.first; }));
        QCOMPARE(seen.back().second, 3);
    }

    void aRolledPictureIsTheLevelOneTurned()
    {
        // A mist over ground under a low sun, seen upright and with the camera lying on its side: place by place the
        // same light, live and by paths.
        auto level = openField({mist()});
        auto rolled = std::make_shared<Shot>(*level);
        rolled->camera.roll = 0.5f * pi;
        constexpr int size = 48, block = 12;
        for (const StillAir air : {StillAir::Live, StillAir::Paths}) {
            StillSettings settings;
            settings.width = settings.height = size;
            settings.samples = air == StillAir::Live ? 12 : 256;
            settings.air = air;
            JobControl job;
            const auto a = finish::beautyOf(renderStill(level, settings, job)),
                       b = finish::beautyOf(renderStill(rolled, settings, job));
            double most = 0.0, apart = 0.0;
            for (int by = 0; by < size; by += block)
                for (int bx = 0; bx < size; bx += block) {
                    double one = 0.0, other = 0.0, upright = 0.0;
                    for (int y = by; y < by + block; ++y)
                        for (int x = bx; x < bx + block; ++x) {
                            const auto at = [](int px, int py) {
                                return static_cast<std::size_t>(py * size + px) * 3 + 1;
                            };
                            one += double(a[at(size - 1 - y, x)]);
                            upright += double(a[at(x, y)]);
                            other += double(b[at(x, y)]);
                        }
                    most = std::max(most, std::abs(other / one - 1.0));
                    apart = std::max(apart, std::abs(other / upright - 1.0));
                }
            QVERIFY2(most < 0.03, qPrintable(QString::number(most)));
            QVERIFY2(apart > 0.2, qPrintable(QString::number(apart))); // the two differ
        }
    }

    void transectMeasuresTheAir()
    {
        auto s = openField({test::uniformAir(0.00299573f)});
        NEAR(reading::seesTo(*s), 1000.0, 1e-3);
        reading::TransectGrid grid;
        grid.columns = 64;
        grid.rowHeights = {1.f, 10.f};
        const auto t = reading::transectOf(*s, grid);
        for (std::size_t i = 0; i < 64; ++i)
            NEAR(t.transmittance[i], std::exp(-0.00299573 * double(t.distance[i])), 1e-4);
        NEAR(t.sheets[0].extinction[70], 0.00299573, 1e-5);
        QVERIFY(std::abs(t.ground[5]) < 1e-3f);
        QVERIFY(std::isnan(t.ground[63])); // beyond the plate
        s->media.clear();
        QVERIFY(std::isinf(reading::seesTo(*s)));
    }
};
QTEST_APPLESS_MAIN(TestRender)
#include "test_render.moc"
