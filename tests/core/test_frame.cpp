/// A frame over its passes: what is kept, what starts anew, and that no order of doing things shows in the picture.
#include "render/live.h"
#include "render/still.h"
#include "support.h"

#include <future>
#include <tbb/global_control.h>

using namespace hygros;
using namespace hygros::render;
using shot::Shot;

namespace {
const std::atomic<bool> never{false};

media::Medium mist(float sigma = 0.04f)
{
    media::Medium m;
    m.id = "mist";
    m.shape = media::Shape::Layer;
    m.base = -0.5f;
    m.top = 6.f;
    m.falloff = 4.f;
    m.sigmaT = sigma;
    m.phase.g = 0.5f;
    m.noise.contrast = 0.7f;
    m.noise.scale = 5.f;
    return m;
}
/// A floor with a row of slats over it, so that the air has shafts in it.
std::shared_ptr<const geometry::RayScene> slats()
{
    auto set = std::make_shared<geometry::SetGeometry>();
    geometry::Mesh m;
    const auto quad = [&](Vec3 a, Vec3 b, Vec3 c, Vec3 d) {
        const auto first = static_cast<std::uint32_t>(m.positions.size());
        for (const Vec3& p : {a, b, c, d}) {
            m.positions.push_back(p);
            m.normals.push_back(Vec3(0, 1, 0));
        }
        for (const std::uint32_t k : {0u, 2u, 1u, 0u, 3u, 2u})
            m.indices.push_back(first + k);
    };
    quad(Vec3(-200, 0, -200), Vec3(200, 0, -200), Vec3(200, 0, 200), Vec3(-200, 0, 200));
    for (int i = -6; i <= 6; ++i) {
        const auto x = static_cast<float>(i) * 2.f;
        quad(Vec3(x, 5, -40), Vec3(x + 1, 5, -40), Vec3(x + 1, 5, 0), Vec3(x, 5, 0));
    }
    set->meshes.push_back(m);
    set->materials.emplace_back();
    set->materials[0].roughness = 1.f;
    set->triangles = m.indices.size() / 3;
    JobControl job;
    return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
}
std::shared_ptr<Shot> stage(std::vector<media::Medium> media, bool lamp = false)
{
    auto s = std::make_shared<Shot>();
    s->scene = slats();
    s->media = std::move(media);
    light::SkySettings sky;
    sky.elevation = radians(35);
    sky.azimuth = 0.5f;
    s->sky = std::make_shared<light::Sky>(sky);
    s->sunId = "sun";
    s->camera = {Vec3(0, 2, 12), Vec3(0, 2, -10), 35.f, 36.f};
    if (lamp) {
        light::Lamp spot;
        spot.id = "lamp";
        spot.position = Vec3(1, 4, -2);
        spot.direction = Vec3(0, -1, 0);
        spot.cosOuter = 0.7f;
        spot.cosInner = 0.85f;
        spot.intensity = Vec3(300.f, 200.f, 100.f);
        s->lamps = {spot};
    }
    return s;
}
void refine(Frame& f, int passes)
{
    for (int p = f.tracedPasses(); p < passes; ++p) {
        f.trace(p, never);
        f.light(never);
    }
}
std::vector<float> pictureOf(const Frame& f)
{
    std::vector<float> rgb;
    f.resolve(rgb);
    return rgb;
}
/// With the sun behind the camera.
std::shared_ptr<const light::Sky> behind()
{
    light::SkySettings sky;
    sky.elevation = radians(35);
    sky.azimuth = 3.f;
    return std::make_shared<light::Sky>(sky);
}
/// Dark upright strips by chance, thinner than a pixel and up to one, which leave a sixth of the sky open.
std::shared_ptr<const geometry::RayScene> twigs()
{
    auto set = std::make_shared<geometry::SetGeometry>();
    geometry::Mesh m;
    Random dice(11);
    for (int i = 0; i < 420; ++i) {
        const float x = dice.range(-12.f, 12.f), w = dice.range(0.03f, 0.18f), z = dice.range(-12.f, -16.f),
                    lean = dice.range(-1.5f, 1.5f);
        const auto first = static_cast<std::uint32_t>(m.positions.size());
        for (const Vec3& p : {Vec3(x, -8, z), Vec3(x + w, -8, z), Vec3(x + w + lean, 12, z), Vec3(x + lean, 12, z)}) {
            m.positions.push_back(p);
            m.normals.push_back(Vec3(0, 0, 1));
        }
        for (const std::uint32_t k : {0u, 1u, 2u, 0u, 2u, 3u})
            m.indices.push_back(first + k);
    }
    set->meshes.push_back(m);
    set->materials.emplace_back();
    set->materials[0].baseColour = Vec3(0.02f);
    set->materials[0].roughness = 1.f;
    set->triangles = m.indices.size() / 3;
    JobControl job;
    return std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
}
double mean(const std::vector<float>& v) { return std::accumulate(v.begin(), v.end(), 0.0) / double(v.size()); }
} // namespace

class TestFrame : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void skyBetweenTwigsStandsInItsOwnAir()
    {
        // Pixels of which the first look met a twig, as its neighbours did, must not end the air of the sky there:
        // pictures of other random numbers would differ for good.
        auto s = stage({test::uniformAir(0.004f)});
        s->scene = twigs();
        s->sky = behind();
        constexpr int width = 96, height = 48;
        Frame a(s, width, height), b(s, width, height);
        a.setFollowsPaths(false);
        b.setFollowsPaths(false);
        b.drawFrom(300);
        refine(a, 24);
        refine(b, 24);
        const auto pictureA = pictureOf(a), pictureB = pictureOf(b);
        double squares = 0.0, most = 0.0;
        for (std::size_t i = 1; i < pictureA.size(); i += 3) {
            const double apart = std::abs(double(pictureA[i] - pictureB[i]));
            squares += apart * apart;
            most = std::max(most, apart);
        }
        const double own = mean(pictureA), rms = std::sqrt(squares / (width * height)) / own;
        const QString figures = QString("rms %1, most %2 of the mean").arg(rms).arg(most / own);
        qInfo("%s", qPrintable(figures));
        QVERIFY2(rms < 0.05 && most < 0.5 * own, qPrintable(figures));
    }

    void looksGoWhereNoiseIsSeen()
    {
        auto s = stage({test::uniformAir(0.004f)});
        s->scene = twigs();
        s->sky = behind();
        // The left half is open: there is nothing to find out but the air.
        s->camera.aim = Vec3(-9, 2, -10);
        constexpr int width = 96, height = 48;
        Frame f(s, width, height);
        f.setFollowsPaths(false);
        refine(f, 16);
        double twigs = 0.0, open = 0.0;
        int twigCount = 0, openCount = 0;
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                const auto looks = double(f.looksAt(x, y));
                if (x < 16)
                    open += looks, ++openCount;
                else if (x > 80)
                    twigs += looks, ++twigCount;
            }
        const QString figures =
            QString("%1 looks at twigs, %2 at open sky").arg(twigs / twigCount).arg(open / openCount);
        QVERIFY2(twigs / twigCount > 40.0 && open / openCount < 12.0, qPrintable(figures));
    }

    void noiseIsSampledOnceAPassAndKeptThroughEditsOfDensity()
    {
        auto s = stage({mist()});
        Frame f(s, 64, 40);
        refine(f, 3);
        QCOMPARE(f.noisePasses(), 3);
        auto denser = std::make_shared<Shot>(*s);
        denser->media[0].sigmaT *= 2.f;
        f.setAir(denser, false);
        QVERIFY(!f.isLit());
        QCOMPARE(f.noisePasses(), 3);
        QVERIFY(f.light(never) && f.isLit());
        QCOMPARE(f.noisePasses(), 3); // there are no more samples than passes
        auto other = std::make_shared<Shot>(*denser);
        other->media[0].noise.seed = 77;
        f.setAir(other, true);
        QCOMPARE(f.noisePasses(), 0);
        f.light(never);
        QCOMPARE(f.noisePasses(), 1);
    }

    void mutedAndBackAgainNoiseStartsAnew()
    {
        auto s = stage({mist()});
        Frame f(s, 64, 40);
        f.setFollowsPaths(false);
        refine(f, 2);
        const auto before = pictureOf(f);
        auto clear = std::make_shared<Shot>(*s);
        clear->media.clear();
        f.setAir(clear, false); // the number of noisy media tells, whatever the caller says
        f.light(never);
        QVERIFY(mean(pictureOf(f)) != mean(before));
        f.setAir(s, false);
        while (f.noisePasses() < 2)
            f.light(never);
        // Clusters of the second pass have now seen both samples, so edges may differ by a little.
        const auto after = pictureOf(f);
        double apart = 0.0;
        for (std::size_t i = 0; i < after.size(); ++i)
            apart += std::abs(double(after[i] - before[i]));
        QVERIFY(apart / double(after.size()) < 2e-3 * mean(before));
    }

    void oneMarchIsAllThatAnEditNeeds()
    {
        auto thin = stage({mist(0.01f)}), thick = std::make_shared<Shot>(*thin);
        thick->media[0].sigmaT = 0.09f;
        Frame edited(thin, 64, 40), fresh(thick, 64, 40);
        edited.setFollowsPaths(false);
        fresh.setFollowsPaths(false);
        refine(edited, 6);
        refine(fresh, 6);
        edited.setAir(thick, false);
        edited.light(never);
        const auto a = pictureOf(edited), b = pictureOf(fresh);
        for (std::size_t i = 0; i < a.size(); ++i)
            QVERIFY(std::abs(a[i] - b[i]) <= 1e-4f * std::max(1.f, b[i]));
    }

    void marchingAgainWithoutAChangeChangesNothing()
    {
        Frame f(stage({mist()}), 64, 40);
        refine(f, 4);
        const auto a = pictureOf(f);
        f.light(never);
        f.light(never);
        const auto b = pictureOf(f);
        for (std::size_t i = 0; i < a.size(); ++i)
            QVERIFY(std::abs(a[i] - b[i]) <= 1e-4f * a[i]);
    }

    void theNumberOfThreadsDoesNotShow()
    {
        const auto once = [] {
            Frame f(stage({mist()}, true), 72, 40);
            refine(f, 5);
            return pictureOf(f);
        };
        const auto many = once();
        const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
        QVERIFY(once() == many);
    }

    void oddSizesAreFilledToTheirEdges()
    {
        for (const auto& [w, h] : {std::pair(8, 8), std::pair(9, 11), std::pair(17, 8), std::pair(31, 23)}) {
            Frame f(stage({mist()}, true), w, h);
            std::vector<float> quick;
            QVERIFY(f.traceSurfaces(0, never));
            QVERIFY(f.quickPicture(quick, never));
            refine(f, 2);
            const auto fine = pictureOf(f);
            QCOMPARE(fine.size(), static_cast<std::size_t>(w * h * 3));
            QCOMPARE(quick.size(), fine.size());
            for (std::size_t i = 0; i < fine.size(); ++i)
                QVERIFY(std::isfinite(fine[i]) && fine[i] > 0.f && std::isfinite(quick[i]) && quick[i] > 0.f);
        }
    }

    void neighboursHelpWithoutShiftingTheMean()
    {
        // With few looks of its own a pixel borrows; the light of the whole must be that of many passes.
        auto s = stage({test::uniformAir(0.03f, 0.3f)});
        s->media[0].top = 20.f;
        const auto airAfter = [&](int passes) {
            Frame f(s, 96, 60);
            refine(f, passes);
            return mean(f.layers().air);
        };
        NEAR(airAfter(4), airAfter(96), 0.02);
    }

    void shaftsStayWhereTheyAre()
    {
        // Air under a slat is darker than air under a gap, and averaging with neighbours does not wash it out.
        auto s = stage({test::uniformAir(0.004f, 0.f)});
        s->media[0].top = 20.f;
        light::SkySettings sky;
        sky.elevation = radians(90);
        sky.skyStrength = 0.f;
        sky.groundAlbedo = Vec3(0.f);
        s->sky = std::make_shared<light::Sky>(sky);
        s->scatteringOrders = 1;
        s->camera = {Vec3(0.5f, 2.5f, 30.f), Vec3(0.5f, 2.5f, -10.f), 200.f, 36.f};
        Frame f(s, 200, 120);
        refine(f, 24);
        const Layers l = f.layers();
        const geometry::View view(s->camera, 200, 120);
        // Both lines of sight stay under their slat or gap from end to end.
        const auto at = [&](float x) {
            Vec2 p(0.f, 0.f);
            float depth = 0.f;
            view.project(Vec3(x, 3.f, -20.f), p, depth);
            return double(l.air[(static_cast<std::size_t>(p.y) * 200 + static_cast<std::size_t>(p.x)) * 3 + 1]);
        };
        const double under = at(0.5f), between = at(1.5f);
        QVERIFY2(between > 1.12 * under, qPrintable(QString("%1 against %2").arg(between).arg(under)));
    }

    void aSoundingInEvenAirIsTheClosedForm()
    {
        auto s = stage({test::uniformAir(0.01f, 0.f)});
        s->scene = test::plate(-50.f, 5000.f);
        s->camera = {Vec3(0, 2, 0), Vec3(0, -20, -60), 35.f, 36.f};
        Frame f(s, 64, 40);
        QVERIFY(!f.soundingAt(10, 10).known());
        refine(f, 4);
        QVERIFY(!f.soundingAt(-1, 3).known() && !f.soundingAt(64, 3).known());
        const Sounding p = f.soundingAt(32, 30);
        QVERIFY(p.known() && !p.sky);
        QCOMPARE(p.elements.size(), 1u);
        for (std::size_t i = 0; i < p.distance.size(); ++i) {
            QVERIFY(i == 0 || p.distance[i] > p.distance[i - 1]);
            NEAR(p.transmittance[i], std::exp(-0.01 * double(p.distance[i])), 2e-3);
            NEAR(p.elements[0].extinction[i], 0.01, 1e-3);
            NEAR(luminance(p.elements[0].light[i]) + 1.0, luminance(p.sunAndSky[i]) + 1.0, 1e-4);
        }
        NEAR(p.distance.back(), double(p.depth), 1e-3);
        QVERIFY(luminance(p.surface) > 0.f);
    }

    void aSoundingAddsUpToTheLayers()
    {
        auto s = stage({mist(), test::uniformAir(0.002f, 0.6f)}, true);
        s->media[1].top = 60.f;
        Frame f(s, 96, 60);
        refine(f, 6);
        const Layers l = f.layers();
        int skies = 0;
        for (const auto& [x, y] :
             {std::pair(20, 50), std::pair(48, 45), std::pair(70, 55), std::pair(48, 3), std::pair(10, 8)}) {
            const Sounding p = f.soundingAt(x, y);
            const std::size_t at = (static_cast<std::size_t>(y) * 96 + static_cast<std::size_t>(x)) * 3 + 1;
            NEAR(p.transmittance.back(), double(l.transmittance[at]), 0.01);
            NEAR(p.airLight().y, double(l.air[at]), 0.02);
            QCOMPARE(p.elements.size(), 2u);
            QCOMPARE(p.lamps.size(), 1u);
            const double parts = double(p.elements[0].light.back().y + p.elements[1].light.back().y);
            NEAR(parts, double(p.sunAndSky.back().y), 1e-3);
            skies += p.sky;
        }
        QVERIFY(skies >= 1);
    }

    void contributionsComeOnlyWhenThereIsSomething()
    {
        Frame f(stage({mist()}, true), 64, 40);
        f.traceSurfaces(0, never);
        QVERIFY(mean(f.lampAlone("lamp").rgb) == 0.0); // nothing marched yet
        std::vector<float> rgb;
        f.quickPicture(rgb, never);
        refine(f, 1);
        QVERIFY(mean(f.lampAlone("lamp").rgb) > 0.0);
        QVERIFY(mean(f.mediumAlone("mist").rgb) > 0.0);
        QCOMPARE(mean(f.mediumAlone("nobody").rgb), 0.0);
    }

    void questionsAreAnsweredFromALitFrameAndTheNewestOfATopicOnly()
    {
        std::promise<int> answered;
        std::atomic<int> first{0}, second{0};
        LiveRenderer live([](const LivePicture&) {});
        live.setWantedSamples(2);
        // Asked before there is anything: the second replaces the first.
        live.ask("planes", [&](const Frame&) { ++first; });
        live.ask("planes", [&](const Frame& f) {
            ++second;
            answered.set_value(f.isLit() ? f.width() : 0);
        });
        live.setShot(stage({mist()}), 64, 40);
        auto future = answered.get_future();
        QVERIFY(future.wait_for(std::chrono::seconds(60)) == std::future_status::ready);
        QCOMPARE(future.get(), 64);
        QCOMPARE(first.load(), 0);
        QCOMPARE(second.load(), 1);
    }

    void aNewSizeIsANewPictureOfThatSize()
    {
        std::mutex mutex;
        std::vector<std::pair<int, int>> clean;
        std::shared_ptr<const std::vector<float>> depth;
        std::promise<void> both;
        LiveRenderer live([&](const LivePicture& p) {
            const std::lock_guard lock(mutex);
            if (!p.isClean)
                return;
            clean.emplace_back(p.width, p.height);
            depth = p.depth;
            if (clean.size() == 2)
                both.set_value();
        });
        live.setWantedSamples(1);
        auto s = stage({mist()});
        live.setShot(s, 64, 40);
        for (int i = 0; i < 3000; ++i) {
            {
                const std::lock_guard lock(mutex);
                if (!clean.empty())
                    break;
            }
            QTest::qSleep(10);
        }
        live.setShot(s, 80, 48);
        QVERIFY(both.get_future().wait_for(std::chrono::seconds(60)) == std::future_status::ready);
        // Not while asking the renderer, which may be handing over a picture.
        QVERIFY(live.frameBytes() > 100000);
        QCOMPARE(live.layers().width, 80);
        const std::unique_lock lock(mutex);
        QCOMPARE(clean[0], std::pair(64, 40));
        QCOMPARE(clean[1], std::pair(80, 48));
        // Distances come with the picture.
        QVERIFY(depth && depth->size() == 80u * 48u);
        for (const float d : *depth)
            QVERIFY(d > 0.f && d <= Shot::farDistance);
    }

    void cancelledStillsLeaveNothingBehind()
    {
        JobControl job;
        StillSettings settings;
        settings.width = 64;
        settings.height = 40;
        settings.samples = 50;
        int seen = 0;
        bool cancelled = false;
        try {
            renderStill(stage({mist()}), settings, job, [&](const StillProgress& now) {
                QVERIFY(now.share > 0.f && now.share <= 1.f);
                seen = static_cast<int>(now.samples);
                if (seen == 2)
                    job.cancel();
            });
        } catch (const Cancelled&) {
            cancelled = true;
        }
        QVERIFY(cancelled);
        QCOMPARE(seen, 2);
        QVERIFY(job.progress() > 0.f && job.message().find("Pass") != std::string::npos);
    }
};
QTEST_APPLESS_MAIN(TestFrame)
#include "test_frame.moc"
