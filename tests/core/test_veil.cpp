/// Veils: their ramps against closed forms, pixel by pixel, alone and in the layers that are delivered.
#include "finish/deliver.h"
#include "render/frame.h"
#include "render/still.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::media;
using shot::Shot;

namespace {
Veil grey(float near, float far)
{
    Veil v;
    v.id = "veil";
    v.near = near;
    v.far = far;
    v.light = Vec3(2.f);
    v.stops[0] = {0.f, Vec3(0.2f, 0.4f, 0.6f), 0.f};
    v.stops[1] = {1.f, Vec3(0.8f, 0.6f, 0.4f), 0.9f};
    v.stopCount = 2;
    return v;
}
struct Map {
    double times, plus;
};
Map mapOf(const Veil& v, const Vec3& o, const Vec3& d, float depth, int channel)
{
    F8 times[3] = {f8(1.f), f8(1.f), f8(1.f)}, plus[3] = {f8(0.f), f8(0.f), f8(0.f)};
    veil8(v, ray8(o, d), f8(depth), Shot::farDistance, times, plus);
    return {double(times[channel][0]), double(plus[channel][0])};
}
} // namespace

class TestVeil : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void colourGrowsWithDistanceAsItsStopsSay()
    {
        const Veil v = grey(10.f, 110.f);
        for (const float depth : {5.f, 10.f, 35.f, 60.f, 109.f, 400.f}) {
            const double u = std::clamp((double(depth) - 10.0) / 100.0, 0.0, 1.0), o = 0.9 * u, colour = 0.2 + 0.6 * u;
            const Map m = mapOf(v, Vec3(0), Vec3(0, 0, -1), depth, 0);
            NEAR(m.times, 1.0 - o, 1e-5);
            NEAR(m.plus, o * colour * 2.0, 1e-5);
        }
    }

    void eightStopsAreStraightBetweenNeighbours()
    {
        Veil v = grey(0.f, 1.f);
        v.stopCount = 8;
        for (std::size_t i = 0; i < 8; ++i)
            v.stops[i] = {static_cast<float>(i) / 7.f, Vec3(static_cast<float>(i * i)), (i % 2) ? 0.75f : 0.25f};
        for (int i = 0; i < 7; ++i)
            for (const double f : {0.0, 0.4, 0.9}) {
                F8 colour[3], opacity;
                stopsAt(v, f8(static_cast<float>((i + f) / 7.0)), colour, opacity);
                NEAR(colour[1][0], i * i + f * ((i + 1) * (i + 1) - i * i), 2e-4);
                NEAR(opacity[0], (i % 2 ? 0.75 : 0.25) + f * (i % 2 ? -0.5 : 0.5), 1e-4);
            }
    }

    void heightThinsTowardItsEnd_data()
    {
        QTest::addColumn<int>("fade");
        QTest::addColumn<bool>("upward");
        for (const int fade : {0, 1, 2})
            for (const bool up : {true, false})
                QTest::addRow("fade %d %s", fade, up ? "up" : "down") << fade << up;
    }
    void heightThinsTowardItsEnd()
    {
        QFETCH(int, fade);
        QFETCH(bool, upward);
        Veil v = grey(1.f, 2.f);
        v.distanceShare = 0.f;
        v.heightShare = 0.8f;
        v.base = 5.f;
        v.top = 25.f;
        v.fade = static_cast<Veil::Fade>(fade);
        v.thinsUpward = upward;
        v.heightColour = Vec3(0.5f);
        for (const float y : {0.f, 5.f, 9.f, 15.f, 24.f, 60.f}) {
            double u = std::clamp((double(y) - 5.0) / 20.0, 0.0, 1.0);
            if (upward)
                u = 1.0 - u;
            const double shape = fade == 0 ? u : fade == 1 ? u * u * (3 - 2 * u) : std::expm1(3 * u) / std::expm1(3.0);
            const Map m = mapOf(v, Vec3(0, y, 0), Vec3(0, 0, -1), 100.f, 1);
            NEAR(m.times, 1.0 - 0.8 * shape, 1e-5);
            NEAR(m.plus, 0.8 * shape * 0.5 * 2.0, 1e-5);
        }
    }

    void theTwoAreCombinedThreeWays()
    {
        Veil v = grey(0.001f, 100.f);
        v.heightShare = 0.5f;
        v.base = 0.f;
        v.top = 10.f;
        v.fade = Veil::Fade::Even;
        v.heightColour = Vec3(0.3f);
        const double od = 0.9 * 0.5, cd = 2.0 * 0.5, oh = 0.5 * 0.75, ch = 2.0 * 0.3; // at 50 m, 2.5 m up
        const auto at = [&] { return mapOf(v, Vec3(0, 2.5f, 0), Vec3(0, 0, -1), 50.f, 0); };
        NEAR(at().times, (1 - od) * (1 - oh), 1e-4);
        NEAR(at().plus, od * cd * (1 - oh) + oh * ch, 1e-4);
        v.blend = Veil::Blend::Add;
        NEAR(at().times, 1.0, 1e-6);
        NEAR(at().plus, od * cd + oh * ch, 1e-4);
        v.blend = Veil::Blend::Multiply;
        NEAR(at().times, 1.0 - od * oh, 1e-4);
        NEAR(at().plus, od * oh * cd * 0.3, 1e-4);
        v.dark = 1.f;
        QCOMPARE(at().plus, 0.0);
        NEAR(at().times, 1.0 - od * oh, 1e-4);
    }

    void theBackdropHasAShareOfItsOwn()
    {
        Veil v = grey(10.f, 100.f);
        v.backdropShare = 0.25f;
        NEAR(mapOf(v, Vec3(0), Vec3(0, 0, -1), 5000.f, 0).times, 1.0 - 0.9, 1e-5);
        NEAR(mapOf(v, Vec3(0), Vec3(0, 0, -1), Shot::farDistance, 0).times, 1.0 - 0.9 * 0.25, 1e-5);
    }

    void theHorizonWaversAndTheRestDoesNot()
    {
        Veil v = grey(10.f, 2000.f);
        v.horizonStrength = 1.f;
        v.horizonAngle = 0.05f;
        v.horizonSize = 0.03f;
        double least = 1.0, most = 0.0;
        for (int i = 0; i < 200; ++i) {
            const float a = static_cast<float>(i) * 0.01f;
            const double t = mapOf(v, Vec3(0), Vec3(std::sin(a), 0.f, -std::cos(a)), 900.f, 0).times;
            least = std::min(least, t);
            most = std::max(most, t);
        }
        QVERIFY(most - least > 0.1);
        NEAR(mapOf(v, Vec3(0), Vec3(0, -0.6f, -0.8f), 900.f, 0).times,
             mapOf(grey(10.f, 2000.f), Vec3(0), Vec3(0, -0.6f, -0.8f), 900.f, 0).times, 1e-5);
    }

    void whatIsDeliveredFollowsTheClosedForm()
    {
        // A level floor seen from 2 m: every pixel's distance is known.
        auto bare = std::make_shared<Shot>();
        bare->scene = test::plate(0.f, 5000.f);
        bare->camera = {Vec3(0, 2, 0), Vec3(0, 1.2f, -10), 30.f, 36.f};
        bare->sky = std::make_shared<light::Sky>(light::SkySettings());
        bare->sunId = "sun";
        auto veiled = std::make_shared<Shot>(*bare);
        veiled->veils = {grey(3.f, 60.f)};
        JobControl job;
        render::StillSettings settings;
        settings.width = 64;
        settings.height = 48;
        settings.samples = 3;
        const render::Layers a = render::renderStill(bare, settings, job),
                             b = render::renderStill(veiled, settings, job);
        const auto beautyA = finish::beautyOf(a), beautyB = finish::beautyOf(b);
        QCOMPARE(b.airBy.back().id, std::string("veils"));
        int compared = 0;
        for (std::size_t p = 0; p < a.pixels(); ++p) {
            if (a.depth[p] >= Shot::farDistance * 0.5f || a.depth[p] > 18.f)
                continue; // sky, and rows where one pixel spans many metres
            const double u = std::clamp((double(b.depth[p]) - 3.0) / 57.0, 0.0, 1.0), o = 0.9 * u;
            const double wanted = double(beautyA[p * 3]) * (1 - o) + o * (0.2 + 0.6 * u) * 2.0;
            NEAR(beautyB[p * 3], wanted, 1e-2);
            NEAR(b.transmittance[p * 3], 1 - o, 5e-3);
            ++compared;
        }
        QVERIFY(compared > 300);
    }

    void quickPicturesVeilAirThatHidesAll()
    {
        auto s = std::make_shared<Shot>();
        s->scene = test::plate(0.f, 5000.f);
        s->camera = {Vec3(0, 2, 0), Vec3(0, 2.5f, -10), 30.f, 36.f};
        s->sky = std::make_shared<light::Sky>(light::SkySettings());
        s->media = {test::uniformAir(3.f, 0.f)}; // nothing comes through
        s->veils = {grey(3.f, 60.f)};
        render::Frame f(s, 64, 48);
        const std::atomic<bool> never{false};
        std::vector<float> quick, fine;
        QVERIFY(f.traceSurfaces(0, never) && f.quickPicture(quick, never));
        for (int pass = 0; pass < 4; ++pass)
            QVERIFY(f.trace(pass, never) && f.light(never));
        f.resolve(fine);
        for (std::size_t p = 0; p < 64 * 20; ++p) // sky
            NEAR(quick[p * 3 + 1], fine[p * 3 + 1], 0.06);
    }

    void veilsOfAProjectReadTheirSettings()
    {
        scene::Project p = elements::newProject();
        scene::Element& e = p.add(*elements::findKind("veil"), "Dusk");
        e.set("near", 400.0);
        e.set("far", 90.0); // dragged past: near wins by a hair
        e.set("brightness", 3.0);
        e.set("combine", std::string("multiply"));
        JobControl job;
        Store store;
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->veils.size(), std::size_t{1});
        const Veil& v = shot->veils[0];
        QVERIFY(v.far > v.near && v.blend == Veil::Blend::Multiply && v.stopCount == 2);
        NEAR(v.light.x, 8.0, 1e-5);
        QVERIFY(shot->media.empty());
    }
};

QTEST_GUILESS_MAIN(TestVeil)
#include "test_veil.moc"
