/// What paths say of the march: the estimate by itself, and in pictures.
#include "base/random.h"
#include "lamps.h"
#include "render/frame.h"
#include "render/path_integrator.h"
#include "render/ratio_row.h"
#include "support.h"

#include <functional>
#include <limits>

using namespace hygros;
using render::Frame;
using render::PathRatios;

namespace {
const std::atomic<bool> never{false};

/// Looks at a made-up picture: the march has 1 everywhere, the paths `truth` with the noise of rare bright paths.
PathRatios lookAt(const std::function<float(const PathRatios::Look&)>& truth, int count, float rare = 0.2f)
{
    PathRatios ratios;
    Random random(5);
    for (int i = 0; i < count; ++i) {
        PathRatios::Look look;
        look.x = random.next();
        look.y = random.next();
        look.isSky = random.next() < 0.2f;
        look.t = look.isSky ? shot::Shot::farDistance : 3.f * std::pow(200.f, random.next());
        look.surface = !look.isSky;
        look.mirror = random.next() < 0.2f;
        const int face = std::min(5, static_cast<int>(6.f * random.next()));
        look.normal = Vec3(0.f);
        look.normal[face / 2] = face % 2 ? -1.f : 1.f;
        const float light = random.next() < rare ? truth(look) / rare : 0.f;
        for (std::size_t s = 0; s < PathRatios::sources; ++s) {
            look.air[s] = look.set[s] = Vec3(light);
            look.airMarched[s] = look.setMarched[s] = Vec3(1.f);
        }
        ratios.add(look);
    }
    ratios.solve();
    return ratios;
}
constexpr int across = 64;
render::RatioRow rowAt(const PathRatios& r, float y) { return {r, across, across, static_cast<int>(y * across)}; }
float airOf(const PathRatios& r, float x, float y, float t, bool isSky = false)
{
    return rowAt(r, y)
        .air(static_cast<int>(x * across), isSky ? shot::Shot::farDistance : t)
        .unpacked()
        .of[PathRatios::sun]
        .y;
}
float setOf(const PathRatios& r, const Vec3& normal)
{
    return rowAt(r, 0.5f).set(across / 2, 40.f, normal).unpacked().of[PathRatios::sky].x;
}

/// Of air alone, that the march takes for 1 everywhere; `light` draws what a path brings.
template <class Light> PathRatios ofAir(int looks, std::uint32_t seed, float most, const Light& light)
{
    PathRatios ratios;
    Random random(seed);
    for (int i = 0; i < looks; ++i) {
        PathRatios::Look look;
        look.x = random.next();
        look.y = random.next();
        look.t = 3.f * std::pow(200.f, random.next());
        const Vec3 brought = light(random, look);
        for (std::size_t s = 0; s < PathRatios::sources; ++s) {
            look.air[s] = brought;
            look.airMarched[s] = Vec3(1.f);
            look.set[s] = look.setMarched[s] = Vec3(0.f);
            look.airMost[s] = look.setMost[s] = most;
        }
        ratios.add(look);
    }
    ratios.solve();
    return ratios;
}

/// A panel far above a thin sheet of fog: nothing that the march knows well.
std::shared_ptr<shot::Shot> overFog()
{
    auto s = std::make_shared<shot::Shot>();
    s->scene = test::plate(0.f, 60.f);
    s->setIds = {"floor"};
    s->media = {test::uniformAir(0.4f, 0.3f, Vec3(0.9f, 0.85f, 0.8f))};
    s->media[0].top = 1.5f;
    light::Lamp lamp = test::lampOf(light::Lamp::Shape::Rectangle);
    lamp.position = Vec3(0.f, 9.f, -6.f);
    lamp.aimAlong(Vec3(0, -1, 0));
    s->lamps = {lamp};
    s->camera = {Vec3(0.f, 4.f, 6.f), Vec3(0.f, 0.5f, -6.f), 30.f, 36.f};
    return s;
}

std::vector<float> refined(Frame& frame, int passes)
{
    for (int p = 0; p < passes; ++p) {
        frame.trace(p, never);
        frame.light(never);
    }
    std::vector<float> rgb;
    frame.resolve(rgb);
    return rgb;
}
double mean(const std::vector<float>& v)
{
    double sum = 0.0;
    for (const float f : v)
        sum += static_cast<double>(f);
    return sum / static_cast<double>(v.size());
}
} // namespace

class TestRatios : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void beforeAnyLookThereIsNothingToChange()
    {
        PathRatios none;
        QVERIFY(!none.known());
        none.solve();
        QVERIFY(!none.known());
        QCOMPARE(airOf(none, 0.3f, 0.7f, 10.f), 1.f);
        QCOMPARE(setOf(none, Vec3(0, 1, 0)), 1.f);
    }

    void whatIsRightStaysAsItIs()
    {
        // Noise of the paths alone: an area of a hundredth of the picture has a fifth to a tenth of it.
        const PathRatios r = lookAt([](const auto&) { return 1.f; }, 40000);
        double worst = 0.0;
        for (float x = 0.05f; x < 1.f; x += 0.1f)
            for (float y = 0.05f; y < 1.f; y += 0.1f)
                for (const float t : {4.f, 30.f, 300.f})
                    worst = std::max(worst, std::abs(double(airOf(r, x, y, t)) - 1.0));
        QVERIFY2(worst < 0.04, qPrintable(QString::number(worst)));
    }

    void aWholePictureTooDarkIsFoundWithFewLooks()
    {
        const PathRatios r = lookAt([](const auto&) { return 1.5f; }, 8000);
        QVERIFY(std::abs(airOf(r, 0.5f, 0.5f, 20.f) / 1.5f - 1.f) < 0.1f);
        QVERIFY(std::abs(setOf(r, Vec3(1, 0, 0)) / 1.5f - 1.f) < 0.1f);
    }

    void lightThatIsNotThereGoes()
    {
        const PathRatios r = lookAt([](const auto&) { return 0.01f; }, 4000);
        QVERIFY(airOf(r, 0.5f, 0.5f, 20.f) < 0.03f);
    }

    void partsOfThePictureAreToldApart()
    {
        const auto truth = [](const PathRatios::Look& l) {
            return l.isSky ? 0.5f : (l.x < 0.5f ? 0.7f : 1.6f) * (l.t < 30.f ? 1.f : 1.5f);
        };
        const PathRatios r = lookAt(truth, 200000);
        for (const float y : {0.2f, 0.8f}) {
            QVERIFY(std::abs(airOf(r, 0.15f, y, 6.f) / 0.7f - 1.f) < 0.12f);
            QVERIFY(std::abs(airOf(r, 0.85f, y, 6.f) / 1.6f - 1.f) < 0.12f);
            QVERIFY(std::abs(airOf(r, 0.15f, y, 400.f) / 1.05f - 1.f) < 0.12f);
            QVERIFY(std::abs(airOf(r, 0.85f, y, 400.f) / 2.4f - 1.f) < 0.12f);
            QVERIFY(std::abs(airOf(r, 0.5f, y, 1.f, true) / 0.5f - 1.f) < 0.12f);
        }
    }

    void surfacesAreToldApartByWhereTheyFace()
    {
        const auto truth = [](const PathRatios::Look& l) { return l.mirror ? 3.f : l.normal.y > 0.f ? 1.8f : 1.f; };
        const PathRatios r = lookAt(truth, 200000);
        QVERIFY(std::abs(setOf(r, Vec3(0, 1, 0)) / 1.8f - 1.f) < 0.12f);
        QVERIFY(std::abs(setOf(r, Vec3(0, -1, 0)) - 1.f) < 0.12f);
        QVERIFY(std::abs(setOf(r, Vec3(1, 0, 0)) - 1.f) < 0.12f);
        const float between = setOf(r, Vec3(0.f, 0.70710678f, 0.70710678f));
        QVERIFY(std::abs(between / 1.4f - 1.f) < 0.12f);
        QVERIFY(std::abs(rowAt(r, 0.5f).mirror(across / 2, 40.f).unpacked().of[PathRatios::lamps].z / 3.f - 1.f) <
                0.12f);
    }

    void anotherStateBeginsWithWhatWasFound()
    {
        PathRatios r = lookAt([](const auto&) { return 1.5f; }, 20000);
        const float before = airOf(r, 0.4f, 0.4f, 20.f);
        r.begin();
        QCOMPARE(airOf(r, 0.4f, 0.4f, 20.f), before);
        r.solve(); // there are no looks of the new state
        QCOMPARE(airOf(r, 0.4f, 0.4f, 20.f), before);
        QVERIFY(r.known());
    }

    void fewBrightPathsCountForTheWholeAndNotForTheirPlace()
    {
        // One look in two thousand carries half of the light.
        const PathRatios ratios = ofAir(60000, 9, 40.f, [](Random& random, const auto&) {
            return Vec3(random.next() < 1.f / 2000.f ? 2000.f : 1.f);
        });
        for (const float x : {0.1f, 0.5f, 0.9f})
            for (const float t : {5.f, 50.f, 400.f}) {
                const float found = airOf(ratios, x, 0.4f, t);
                QVERIFY2(std::abs(found / 2.f - 1.f) < 0.3f, qPrintable(QString::number(found)));
                QVERIFY(std::abs(found / airOf(ratios, 0.5f, 0.7f, 50.f) - 1.f) < 0.1f);
            }
    }

    void coloursAreFoundWhereBrightnessIsNot()
    {
        const PathRatios ratios = ofAir(3000, 4, 1e30f, [](Random& random, const auto&) {
            return Vec3(0.8f, 1.f, 1.3f) * (random.next() < 0.02f ? 50.f : 0.f);
        });
        const Vec3 found = rowAt(ratios, 0.5f).air(across / 2, 20.f).unpacked().of[PathRatios::sun];
        NEAR(found.x / found.y, 0.8, 0.03);
        NEAR(found.z / found.y, 1.3, 0.03);
    }

    void lightThatWasNotMetYetIsNotTakenForDarkness()
    {
        // The march is right, and one look in five hundred carries most of the light: of four thousand looks some draws
        // meet too few of these, and have less light and less spread. No such draw may turn the picture dark.
        double worst = 1.0, mean = 0.0;
        constexpr int draws = 60;
        for (std::uint32_t seed = 1; seed <= draws; ++seed) {
            const PathRatios ratios = ofAir(4000, seed, 1e30f, [](Random& random, const auto&) {
                return Vec3(random.next() < 1.f / 500.f ? 400.f : 0.2f + 0.001f * random.next());
            });
            const auto found = static_cast<double>(airOf(ratios, 0.5f, 0.5f, 50.f));
            worst = std::min(worst, found);
            mean += found / draws;
        }
        QVERIFY2(worst > 0.58, qPrintable(QString::number(worst)));
        QVERIFY2(std::abs(mean - 1.0) < 0.25, qPrintable(QString::number(mean)));
    }

    void surfacesInFogAreExpectedToBeLitAsTheAirIs()
    {
        // Hardly any look meets the set; all of them meet air that should have a third of its light.
        const auto looked = [](float onSet, int setLooks) {
            PathRatios ratios;
            Random random(6);
            for (int i = 0; i < 20000; ++i) {
                PathRatios::Look look;
                look.x = random.next();
                look.y = random.next();
                look.t = 20.f;
                look.surface = i < setLooks;
                for (std::size_t s = 0; s < PathRatios::sources; ++s) {
                    look.air[s] = Vec3(random.next() < 0.1f ? 10.f / 3.f : 0.f);
                    look.set[s] = Vec3(random.next() < 0.05f ? 20.f * onSet : 0.f);
                    look.airMarched[s] = look.setMarched[s] = Vec3(1.f);
                }
                ratios.add(look);
            }
            ratios.solve();
            return double(setOf(ratios, Vec3(0, 1, 0)));
        };
        QVERIFY2(looked(1.f / 3.f, 40) < 0.6, qPrintable(QString::number(looked(1.f / 3.f, 40))));
        // Its own looks, once there are enough, count alone.
        NEAR(looked(1.f, 20000), 1.0, 0.1);
    }

    void looksThatAreNoNumbersAreLeftOut()
    {
        PathRatios r = lookAt([](const auto&) { return 1.2f; }, 4000);
        const double looks = r.looks();
        PathRatios::Look bad;
        for (std::size_t s = 0; s < PathRatios::sources; ++s)
            bad.air[s] = bad.airMarched[s] = bad.set[s] = bad.setMarched[s] = Vec3(1.f);
        bad.air[PathRatios::sky].x = std::numeric_limits<float>::infinity();
        r.add(bad);
        bad.air[PathRatios::sky].x = std::numeric_limits<float>::quiet_NaN();
        r.add(bad);
        QCOMPARE(r.looks(), looks);
    }

    void picturesComeNearerToTheirReference()
    {
        // A lamp far above a thin sheet of fog: nothing that the march knows well.
        const auto s = overFog();
        constexpr int width = 24, height = 16;
        Frame alone(s, width, height), both(s, width, height);
        alone.setFollowsPaths(false);
        const double marched = mean(refined(alone, 16)), told = mean(refined(both, 16));
        render::PathIntegrator paths(s, width, height);
        for (int i = 0; i < 128; ++i)
            paths.pass();
        const double wanted = mean(paths.picture());
        const QString figures = QString("march %1, with paths %2").arg(marched / wanted).arg(told / wanted);
        QVERIFY2(std::abs(told / wanted - 1.0) < 0.05, qPrintable(figures));
        QVERIFY2(std::abs(told / wanted - 1.0) < 0.6 * std::abs(marched / wanted - 1.0), qPrintable(figures));
    }

    void aMirrorIsHeldToPathsBesideAVolumeToo()
    {
        // Still water to the horizon under a sky in haze. A puff of smoke behind the camera must not change how bright
        // it is: mirrors were left out where there was one, and took what other surfaces came to.
        const auto water = [](bool smoke) {
            scene::Project p = elements::newProject();
            p.find("sun")->set("elevation", 24.0);
            p.find("sun")->set("azimuth", 150.0);
            scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
            haze.set("visibility", 1500.0);
            haze.set("thinning", 600.0);
            if (smoke) {
                scene::Element& puff = p.add(*elements::findKind("volume"), "Puff");
                puff.set("source", std::string("ball"));
                puff.set("position", Vec3(0.f, 2.f, 60.f));
                puff.set("voxel", 0.5);
            }
            Store store;
            JobControl job;
            auto s = std::make_shared<shot::Shot>(*elements::freeze(p, store, job));
            s->scene = test::mirrorPlate();
            s->setIds = {"water"};
            s->camera = {Vec3(0.f, 2.f, 6.f), Vec3(0.f, 1.f, 0.f), 30.f, 36.f};
            return s;
        };
        constexpr int width = 48, height = 32;
        const auto lower = [](const std::vector<float>& rgb) {
            return mean({rgb.begin() + static_cast<std::ptrdiff_t>(rgb.size() * 2 / 3), rgb.end()});
        };
        Frame alone(water(false), width, height), without(water(false), width, height),
            beside(water(true), width, height);
        alone.setFollowsPaths(false);
        const double marched = lower(refined(alone, 24)), clear = lower(refined(without, 24)),
                     told = lower(refined(beside, 24));
        render::PathIntegrator paths(water(true), width, height);
        for (int i = 0; i < 200; ++i)
            paths.pass();
        const double wanted = lower(paths.picture());
        const QString figures = QString("march %1, with paths %2, beside a volume %3")
                                    .arg(marched / wanted)
                                    .arg(clear / wanted)
                                    .arg(told / wanted);
        qInfo("%s", qPrintable(figures));
        QVERIFY2(std::abs(told / clear - 1.0) < 0.02, qPrintable(figures));
        QVERIFY2(std::abs(told / wanted - 1.0) < 0.04, qPrintable(figures));
    }

    void layersAddUpToThePicture()
    {
        const auto s = overFog();
        Frame frame(s, 24, 16);
        const auto rgb = refined(frame, 6);
        const render::Layers l = frame.layers(true);
        for (std::size_t i = 0; i < rgb.size(); ++i) {
            float sum = 0.f;
            for (const auto& by : l.airBy)
                sum += by.air[i];
            for (const auto& by : l.setBy)
                sum += by.air[i];
            QVERIFY(std::abs(sum - rgb[i]) <= 2e-4f * std::max(1e-3f, rgb[i]));
        }
    }

    void whatTheArtistHasTurnedIsTheMarchsAlone()
    {
        const auto s = overFog();
        s->lamps[0].quick = true; // a beam by closed form is not what paths find
        Frame alone(s, 24, 16), both(s, 24, 16);
        alone.setFollowsPaths(false);
        const auto a = refined(alone, 4), b = refined(both, 4);
        for (std::size_t i = 0; i < a.size(); ++i)
            QCOMPARE(a[i], b[i]);
    }
};

QTEST_APPLESS_MAIN(TestRatios)
#include "test_ratios.moc"
