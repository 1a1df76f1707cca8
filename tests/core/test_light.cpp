#include "base/random.h"
#include "light/lamp.h"
#include "light/sky.h"
#include "support.h"

using namespace hygros;
using namespace hygros::light;

namespace {
Sky skyAt(double degrees)
{
    SkySettings s;
    s.elevation = radians(degrees);
    return Sky(s);
}
} // namespace

class TestLight : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void sunlightReddensAndWeakensTowardTheHorizon()
    {
        double before = 1e9, ratioBefore = 0.0;
        for (const double e : {60.0, 30.0, 15.0, 7.0, 3.0}) {
            const Vec3 sun = skyAt(e).sunIrradiance();
            const double lux = double(luminance(sun)) * 683.0, ratio = double(sun.x) / double(sun.z);
            QVERIFY(lux < before);
            QVERIFY(ratio > ratioBefore);
            before = lux;
            ratioBefore = ratio;
        }
        // Clear noon sun: about 100 klx facing it.
        const double noon = double(luminance(skyAt(60).sunIrradiance())) * 683.0;
        QVERIFY2(noon > 80e3 && noon < 125e3, qPrintable(QString::number(noon)));
    }

    void skyIsBlueAboveAndBrighterAtTheHorizon()
    {
        const Sky sky = skyAt(30);
        const Vec3 zenith = sky.radiance(Vec3(0, 1, 0)), away = sky.radiance(Vec3(0, 0.05f, 1).normalized());
        QVERIFY(zenith.z > 1.5f * zenith.x);
        QVERIFY(luminance(away) > luminance(zenith));
        // Low sun: the sky around it is warmer than the sky behind the viewer.
        const Sky low = skyAt(6);
        const Vec3 toward = low.radiance(Vec3(0, 0.12f, -1).normalized()),
                   behind = low.radiance(Vec3(0, 0.12f, 1).normalized());
        QVERIFY(toward.x / toward.z > behind.x / behind.z);
        // Noon sky on level ground: some 10–25 klx.
        const double lux = 683.0 * double(luminance(skyAt(60).irradiance(Vec3(0, 1, 0))));
        QVERIFY2(lux > 5e3 && lux < 30e3, qPrintable(QString::number(lux)));
    }

    void theDiskHoldsTheSunsIrradiance()
    {
        const Sky sky = skyAt(25);
        Vec3 t, b;
        frameAround(sky.sunDirection(), t, b);
        double sum = 0.0;
        constexpr int n = 400;
        for (int i = 0; i < n; ++i)
            for (int j = 0; j < n; ++j) {
                const float u = ((static_cast<float>(i) + 0.5f) / n * 2.f - 1.f) * 1.2f * sky.sunRadius(),
                            v = ((static_cast<float>(j) + 0.5f) / n * 2.f - 1.f) * 1.2f * sky.sunRadius();
                sum += double(sky.diskRadiance((sky.sunDirection() + t * u + b * v).normalized()).y);
            }
        sum *= std::pow(2.4 * double(sky.sunRadius()) / n, 2);
        NEAR(sum, sky.sunIrradiance().y, 0.01);
    }

    void harmonicsOfTheSkyGiveItsIrradiance()
    {
        const Sky sky = skyAt(40);
        double up = 0.0, scattered = 0.0;
        constexpr int rings = 200, spokes = 200;
        for (int i = 0; i < rings; ++i)
            for (int j = 0; j < spokes; ++j) {
                const float y = (static_cast<float>(i) + 0.5f) / rings * 2.f - 1.f, r = std::sqrt(1.f - y * y),
                            a = 2.f * pi * static_cast<float>(j) / spokes;
                const double l = double((y >= 0 ? sky.radiance(Vec3(r * std::cos(a), y, r * std::sin(a)))
                                                : sky.groundRadiance())
                                            .y) *
                                 4.0 * M_PI / (rings * spokes);
                up += l * std::max(0.0, double(y));
                scattered += l / (4.0 * M_PI);
            }
        NEAR(sky.irradiance(Vec3(0, 1, 0)).y, up, 0.06); // second-order harmonics of a sky with a bright horizon
        NEAR(sky.scattered(Vec3(1, 0, 0), 0.f).y, scattered, 0.02);
        F8 out[3];
        // The air counts light from sunlit ground with the sun's: the same as over ground that the sun does not reach.
        sky.scattered8(f8(0.6f), f8(0.64f), f8(-0.48f), 0.7f, out);
        const float sunlit = (sky.settings().groundAlbedo * sky.sunIrradiance() * (sky.sunDirection().y / pi)).y;
        const double below = 0.5 -
                             0.75 * 0.7 *
                                 0.64; // of a lobe of mean cosine 0.7, from the first two harmonics of a half sphere
        NEAR(out[1][4], double(sky.scattered(Vec3(0.6f, 0.64f, -0.48f), 0.7f).y) - below * double(sunlit), 1e-3);
        SkySettings black = sky.settings();
        black.groundAlbedo = Vec3(0.f);
        const Sky over(black);
        over.scattered8(f8(0.6f), f8(0.64f), f8(-0.48f), 0.7f, out);
        NEAR(out[1][0], over.scattered(Vec3(0.6f, 0.64f, -0.48f), 0.7f).y, 1e-4);
    }

    void spotFluxIsWhatItsConeIntegratesTo()
    {
        for (const auto& [outer, inner] : {std::pair(46.0, 23.0), std::pair(5.0, 4.0), std::pair(80.0, 0.0)}) {
            Lamp s;
            s.cosOuter = std::cos(radians(outer));
            s.cosInner = std::cos(radians(inner));
            double integral = 0.0;
            constexpr int n = 100000;
            for (int i = 0; i < n; ++i) {
                const double c = double(s.cosOuter) + (1.0 - double(s.cosOuter)) * (i + 0.5) / n;
                integral += double(s.edge(static_cast<float>(c))) * 2.0 * M_PI * (1.0 - double(s.cosOuter)) / n;
            }
            NEAR(integral * double(spotIntensityPerFlux(s.cosInner, s.cosOuter)), 1.0, 1e-4);
        }
    }

    void coneIntervalAgreesWithStepping()
    {
        Random random(5);
        Lamp s;
        s.position = Vec3(0, 4, -10);
        s.direction = Vec3(0.2f, -1, 0.1f).normalized();
        s.cosOuter = std::cos(radians(35));
        s.radius = 0.f; // its rays begin where it stands
        int crossed = 0;
        for (int k = 0; k < 4000; ++k) {
            const Vec3 o(random.range(-15, 15), random.range(-5, 9), random.range(-30, 5));
            const Vec3 d = Vec3(random.range(-1, 1), random.range(-1, 1), random.range(-1, 1)).normalized();
            float t0 = 0.f, t1 = 40.f;
            const bool inside = insideCone(s, o, d, 12.f, t0, t1);
            crossed += inside;
            for (int i = 0; i < 400; ++i) {
                const float t = 40.f * (static_cast<float>(i) + 0.5f) / 400.f;
                const Vec3 v = o + d * t - s.position;
                const float axis = v.dot(s.direction) / v.length();
                const bool in = axis > s.cosOuter + 1e-3f && v.length() < 11.99f,
                           out = axis < s.cosOuter - 1e-3f || v.length() > 12.01f;
                const bool said = inside && t >= t0 - 1e-3f && t <= t1 + 1e-3f;
                QVERIFY2(!(in && !said) && !(out && said && t > t0 + 1e-2f && t < t1 - 1e-2f),
                         qPrintable(QString("ray %1 at %2").arg(k).arg(double(t))));
            }
        }
        QVERIFY(crossed > 300);
    }
};
QTEST_APPLESS_MAIN(TestLight)
#include "test_light.moc"
