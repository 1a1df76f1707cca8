#include "base/random.h"
#include "media/medium.h"
#include "media/phase.h"
#include "support.h"

using namespace hygros;
using namespace hygros::media;

namespace {
/// Midpoint quadrature of the profile in double precision, the plain way.
double quadrature(const Medium& m, const Vec3& o, const Vec3& d, double t0, double t1, int steps = 20000)
{
    double sum = 0.0;
    for (int i = 0; i < steps; ++i) {
        const double t = t0 + (t1 - t0) * (i + 0.5) / steps;
        sum += double(profile(m, o + d * static_cast<float>(t)));
    }
    return sum * (t1 - t0) / steps;
}
Medium layer()
{
    Medium m;
    m.shape = Shape::Layer;
    m.base = 0.f;
    m.top = 3.f;
    m.falloff = 2.f;
    m.sigmaT = 0.05f;
    return m;
}
} // namespace

class TestMedia : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void uniformAirFollowsBeerAndLambert()
    {
        const Medium m = test::uniformAir(0.0031f);
        for (const float length : {1.f, 50.f, 700.f, 2000.f})
            NEAR(std::exp(-opticalDepth(m, Vec3(0, 2, 0), Vec3(0, 0, -1), 0.f, length)),
                 std::exp(-0.0031 * double(length)), 1e-5);
        // Nothing is above its ceiling.
        Medium low = m;
        low.top = 10.f;
        NEAR(opticalDepth(low, Vec3(0, 0, 0), Vec3(0, 1, 0), 0.f, 1000.f), 0.0031 * 10, 1e-5);
        QCOMPARE(opticalDepth(low, Vec3(0, 11, 0), Vec3(1, 0, 0), 0.f, 1000.f), 0.f);
    }

    void thinningHazeMatchesItsClosedFormForEverySlope()
    {
        Medium m;
        m.shape = Shape::Thinning;
        m.sigmaT = 0.0012f;
        m.base = 5.f;
        m.thinning = 180.f;
        const double length = 1500.0, h0 = 40.0;
        for (const double slope : {0.0, 1e-7, -1e-7, 1e-5, 1e-3, -1e-3, 0.02, 0.04, 0.2, -0.02, 0.7, 1.0}) {
            const Vec3 d(static_cast<float>(std::sqrt(1.0 - slope * slope)), static_cast<float>(slope), 0.f);
            const double x = double(d.y) * length / 180.0, start = 0.0012 * std::exp(-(h0 - 5.0) / 180.0) * length;
            const double wanted = std::abs(x) < 1e-9 ? start : start * -std::expm1(-x) / x;
            const double depth = double(
                opticalDepth(m, Vec3(0, static_cast<float>(h0), 0), d, 0.f, static_cast<float>(length)));
            QVERIFY(std::isfinite(depth));
            NEAR(std::exp(-depth), std::exp(-wanted), 1e-5);
        }
        // To the end of the world, upward: σ0·H·e^{−(h−h0)/H}.
        NEAR(opticalDepth(m, Vec3(0, 5, 0), Vec3(0, 1, 0), 0.f, 1e6f), 0.0012 * 180.0, 1e-5);
    }

    void deepBelowItsBaseThinningHazeStaysANumber()
    {
        // A look down from under the ground, to the end of the world.
        Medium m;
        m.shape = Shape::Thinning;
        m.sigmaT = 0.05f;
        m.thinning = 20.f;
        for (const float down : {-0.01f, -0.5f, -1.f}) {
            const Vec3 d(std::sqrt(1.f - down * down), down, 0.f);
            for (const float from : {-1.f, 10.f, 3000.f}) {
                const float depth = opticalDepth(m, Vec3(0, from, 0), d, 0.f, 3e4f);
                QVERIFY(std::isfinite(depth) && (from + 3e4f * down > 0.f || depth > 10.f));
            }
            const F8 there = media::profile8(m, f8(0.f), f8(-3e4f), f8(0.f));
            QVERIFY(std::isfinite(there[0] * 3e4f * m.sigmaT));
        }
    }

    void layerIntegralIsExactAcrossItsEdges_data()
    {
        QTest::addColumn<float>("height");
        QTest::addColumn<float>("slope");
        for (const float h : {-2.f, 0.3f, 1.7f, 2.9f, 5.f, 900.f})
            for (const float s : {-0.7f, -0.05f, -1e-4f, 0.f, 1e-6f, 3e-3f, 0.2f, 0.9f})
                QTest::addRow("h %g slope %g", double(h), double(s)) << h << s;
    }
    void layerIntegralIsExactAcrossItsEdges()
    {
        QFETCH(float, height);
        QFETCH(float, slope);
        const Medium m = layer();
        const Vec3 o(0, height, 0), d(std::sqrt(1.f - slope * slope), slope, 0.f);
        const double wanted = quadrature(m, o, d, 0.0, 1200.0, 400000),
                     actual = double(profileIntegral(m, o, d, 0.f, 1200.f));
        QVERIFY2(std::abs(actual - wanted) < 2e-3 * std::max(1.0, wanted),
                 qPrintable(QString("%1 against %2").arg(actual).arg(wanted)));
    }

    void aSurfaceInWavesRisesAndSinksAboutItsTop()
    {
        Medium m;
        m.shape = Shape::Layer;
        m.sigmaT = 0.02f;
        m.base = 0.f;
        m.top = 20.f + 4.f; // as high as the highest wave
        m.swell = 4.f;
        m.swellLength = 60.f;
        m.swellFade = 1.f;
        QVERIFY(isPatterned(m));
        double sum = 0.0, square = 0.0;
        float low = 1e9f, high = -1e9f;
        int n = 0;
        for (float x = -1500.f; x < 1500.f; x += 13.f)
            for (float z = -1500.f; z < 1500.f; z += 130.f, ++n) {
                // Where half of it is left: half of its fade under the surface.
                float from = 14.f, to = 26.f;
                for (int k = 0; k < 30; ++k) {
                    const float y = 0.5f * (from + to);
                    (extinction(m, Vec3(x, y, z)) > 0.5f * m.sigmaT ? from : to) = y;
                }
                low = std::min(low, from);
                high = std::max(high, from);
                sum += double(from);
                square += double(from) * double(from);
            }
        const double mean = sum / n, spread = std::sqrt(square / n - mean * mean);
        QVERIFY2(std::abs(mean - 19.5) < 0.5, qPrintable(QString::number(mean)));
        QVERIFY2(spread > 1.0 && spread < 3.0, qPrintable(QString::number(spread)));
        QVERIFY(low >= 15.4f && high <= 24.f && high > 21.5f && low < 17.5f);
        // All of it well under the waves, and none over the highest.
        QCOMPARE(extinction(m, Vec3(3.f, 10.f, 7.f)), m.sigmaT);
        QCOMPARE(extinction(m, Vec3(3.f, 24.1f, 7.f)), 0.f);
    }

    void layerIsWholeInTheMiddleAndNothingOutside()
    {
        const Medium m = layer();
        QCOMPARE(profile(m, Vec3(0, 0.8f, 0)), 1.f);
        QCOMPARE(profile(m, Vec3(0, -0.1f, 0)), 0.f);
        QCOMPARE(profile(m, Vec3(0, 3.01f, 0)), 0.f);
        // Vertical path: whole height less half of each ramp.
        NEAR(profileIntegral(m, Vec3(0, -5, 0), Vec3(0, 1, 0), 0.f, 20.f), 3.0 - 0.25 - 1.0, 1e-5);
    }

    void hardBoxIsTheLengthInsideEvenWhenTurned()
    {
        Medium m;
        m.shape = Shape::Box;
        m.centre = Vec3(0, 2, -20);
        m.half = Vec3(5, 2, 3);
        NEAR(profileIntegral(m, Vec3(0, 2, 0), Vec3(0, 0, -1), 0.f, 100.f), 6.0, 1e-5);
        m.cosYaw = std::cos(pi / 2);
        m.sinYaw = std::sin(pi / 2);
        NEAR(profileIntegral(m, Vec3(0, 2, 0), Vec3(0, 0, -1), 0.f, 100.f), 10.0, 1e-4);
        QCOMPARE(profileIntegral(m, Vec3(0, 9, 0), Vec3(0, 0, -1), 0.f, 100.f), 0.f);
        m.falloff = 1.f;
        QVERIFY(profile(m, Vec3(0, 2, -20)) == 1.f);
        QVERIFY(profile(m, Vec3(0, 3.5f, -20)) < 0.6f);
    }

    void phaseFunctionIntegratesToOneWithMeanCosineG_data()
    {
        QTest::addColumn<float>("g");
        for (const float g : {-0.8f, -0.3f, 0.f, 0.4f, 0.76f, 0.9f})
            QTest::addRow("g %g", double(g)) << g;
    }
    void phaseFunctionIntegratesToOneWithMeanCosineG()
    {
        QFETCH(float, g);
        double integral = 0.0, mean = 0.0;
        constexpr int n = 200000;
        for (int i = 0; i < n; ++i) {
            const double c = -1.0 + 2.0 * (i + 0.5) / n,
                         p = double(henyeyGreenstein(static_cast<float>(c), g)) * 2.0 * M_PI * 2.0 / n;
            integral += p;
            mean += p * c;
        }
        QVERIFY(std::abs(integral - 1.0) < 1e-4);
        QVERIFY(std::abs(mean - double(g)) < 1e-4);
        double sampled = 0.0;
        for (int i = 0; i < n; ++i)
            sampled += double(sampleHenyeyGreenstein(g, (static_cast<float>(i) + 0.5f) / n)) / n;
        QVERIFY(std::abs(sampled - double(g)) < 1e-3);
    }

    void rayleighIntegratesToOne()
    {
        double integral = 0.0;
        for (int i = 0; i < 20000; ++i)
            integral += double(rayleigh(static_cast<float>(-1.0 + (i + 0.5) / 10000.0))) * 2.0 * M_PI / 10000.0;
        NEAR(integral, 1.0, 1e-4);
    }

    void noiseBatchEqualsItsPlainForm()
    {
        Random random(3);
        Noise n;
        n.seed = 17;
        n.scale = 3.f;
        n.contrast = 0.8f;
        n.offset = Vec3(5, 0, -2);
        for (int i = 0; i < 2000; ++i) {
            const Vec3 p(random.range(-900, 900), random.range(-50, 50), random.range(-900, 900));
            QVERIFY(std::abs(octaves8(n, f8(p.x), f8(p.y), f8(p.z))[2] - octaves(n, p)) < 2e-4f);
            QVERIFY(std::abs(modulation8(n, f8(p.x), f8(p.y), f8(p.z))[7] - modulation(n, p)) < 1e-3f);
        }
    }

    void noiseIsSmoothHasNoPeriodAndKeepsTheMeanDensity()
    {
        Noise n;
        n.scale = 4.f;
        n.contrast = 1.f;
        n.seed = 5;
        Random random(9);
        double mean = 0.0;
        float most = 0.f;
        for (int i = 0; i < 200000; ++i) {
            const float m = modulation(
                n, Vec3(random.range(-4000, 4000), random.range(-40, 40), random.range(-4000, 4000)));
            mean += double(m) / 200000.0;
            most = std::max(most, m);
            QVERIFY(m >= 0.f);
        }
        NEAR(mean, 1.0, 0.01);
        QVERIFY(most <= modulationBound(n));
        // Neighbouring points are alike; points one old-style period of 256 cells apart are not.
        double near = 0.0, far = 0.0;
        for (int i = 0; i < 4000; ++i) {
            const Vec3 p(random.range(-500, 500), 0.f, random.range(-500, 500));
            near += std::abs(double(octaves(n, p) - octaves(n, p + Vec3(0.02f, 0, 0))));
            far += std::abs(double(octaves(n, p) - octaves(n, p + Vec3(256.f * 4.f, 0, 0))));
        }
        QVERIFY(near * 20 < far);
    }

    void driftMovesThePatternWithTheWind()
    {
        Noise still, moved;
        moved.offset = Vec3(12.5f, 0, 3);
        for (const float x : {0.f, 7.f, 31.f})
            QVERIFY(std::abs(octaves(still, Vec3(x, 1, 2)) - octaves(moved, Vec3(x + 12.5f, 1, 5))) < 1e-4f);
    }

    void aSphereIsAsLongAsItsChords()
    {
        Medium m;
        m.shape = Shape::Sphere;
        m.centre = Vec3(2, 3, -20);
        m.half = Vec3(5.f);
        for (const float off : {0.f, 1.f, 3.f, 4.9f, 5.f, 7.f}) {
            const double wanted = off < 5.f ? 2.0 * std::sqrt(25.0 - double(off) * double(off)) : 0.0;
            const float through = profileIntegral(m, Vec3(2 + off, 3, 0), Vec3(0, 0, -1), 0.f, 100.f);
            QVERIFY2(std::abs(double(through) - wanted) < 2e-3,
                     qPrintable(QString("%1 at %2, wanted %3").arg(double(through)).arg(double(off)).arg(wanted)));
        }
        // From inside outward, and an interval that ends inside.
        NEAR(profileIntegral(m, m.centre, Vec3(0, 1, 0), 0.f, 50.f), 5.0, 1e-4);
        NEAR(profileIntegral(m, Vec3(2, 3, 0), Vec3(0, 0, -1), 0.f, 20.f), 5.0, 1e-4);
        // An ellipsoid, turned by a right angle, has its long side the other way.
        m.half = Vec3(8, 2, 4);
        NEAR(profileIntegral(m, Vec3(2, 3, 0), Vec3(0, 0, -1), 0.f, 100.f), 8.0, 1e-4);
        m.cosYaw = 0.f;
        m.sinYaw = 1.f;
        NEAR(profileIntegral(m, Vec3(2, 3, 0), Vec3(0, 0, -1), 0.f, 100.f), 16.0, 1e-4);
    }

    void aCylinderIsCutByItsSideAndItsLids()
    {
        Medium m;
        m.shape = Shape::Cylinder;
        m.centre = Vec3(0, 4, -10);
        m.half = Vec3(3, 4, 3);
        NEAR(profileIntegral(m, Vec3(0, 4, 0), Vec3(0, 0, -1), 0.f, 50.f), 6.0, 1e-4);
        NEAR(profileIntegral(m, Vec3(1, 20, -10), Vec3(0, -1, 0), 0.f, 50.f), 8.0, 1e-4); // upright, through both lids
        QCOMPARE(profileIntegral(m, Vec3(3.1f, 20, -10), Vec3(0, -1, 0), 0.f, 50.f), 0.f);
        QCOMPARE(profileIntegral(m, Vec3(0, 9, 0), Vec3(0, 0, -1), 0.f, 50.f), 0.f); // over it
        // Slanting: in through the side, out through the lid.
        const Vec3 d = Vec3(0, 1, -1).normalized();
        const double length = double(profileIntegral(m, Vec3(0, 4, -7), d, 0.f, 50.f));
        NEAR(length, 4.0 * std::sqrt(2.0), 1e-4);
    }

    void softBodiesThinTowardTheirFaces()
    {
        for (const Shape shape : {Shape::Box, Shape::Sphere, Shape::Cylinder}) {
            Medium m;
            m.shape = shape;
            m.centre = Vec3(0, 0, 0);
            m.half = Vec3(4.f);
            m.falloff = 2.f;
            NEAR(profile(m, Vec3(0, 0, 0)), 1.0, 1e-5);
            QCOMPARE(profile(m, Vec3(4.01f, 0, 0)), 0.f);
            float before = 1.f;
            for (float x = 0.f; x < 4.2f; x += 0.1f) {
                const float now = profile(m, Vec3(x, 0, 0));
                QVERIFY(now <= before + 1e-6f && now >= 0.f);
                before = now;
            }
            NEAR(profile(m, Vec3(3, 0, 0)), 0.5, 1e-3); // halfway through the soft edge
            // The integral agrees with many small steps.
            double steps = 0.0;
            constexpr int n = 20000;
            for (int i = 0; i < n; ++i)
                steps += double(profile(m, Vec3(0.7f, -0.4f, -10.f + 20.f * (static_cast<float>(i) + 0.5f) / n))) *
                         20.0 / n;
            NEAR(profileIntegral(m, Vec3(0.7f, -0.4f, -10), Vec3(0, 0, 1), 0.f, 20.f), steps, 0.05); // in one stride
        }
    }

    void noiseOfEveryKindIsTheSameInBatchAndPlain()
    {
        Noise n;
        n.scale = 6.f;
        n.contrast = 0.8f;
        n.warp = 0.7f;
        n.stretch = Vec3(4, 0.5f, 2);
        n.offset = Vec3(3, 0, -1);
        for (const float evolution : {0.f, 0.25f, 1.f, 3.6f}) {
            n.evolution = evolution;
            F8 x, y, z;
            for (int i = 0; i < lanes; ++i) {
                x[i] = 3.1f * static_cast<float>(i) - 9.f;
                y[i] = 0.7f * static_cast<float>(i);
                z[i] = -5.3f * static_cast<float>(i);
            }
            const F8 batch = octaves8(n, x, y, z);
            for (int i = 0; i < lanes; ++i)
                QVERIFY(std::abs(batch[i] - octaves(n, Vec3(x[i], y[i], z[i]))) < 2e-4f);
        }
    }

    void stretchLengthensThePatternByItsFactor()
    {
        Noise plain, flat;
        flat.stretch = Vec3(4, 0.5f, 1);
        for (int i = 0; i < 50; ++i) {
            const Vec3 p(1.3f * static_cast<float>(i), 0.4f * static_cast<float>(i), -2.f);
            QVERIFY(std::abs(octaves(flat, Vec3(p.x * 4.f, p.y * 0.5f, p.z)) - octaves(plain, p)) < 2e-4f);
        }
    }

    void boilChangesThePatternWithoutAJumpAndKeepsItsContrast()
    {
        Noise n;
        n.scale = 5.f;
        n.octaves = 2;
        const auto moments = [&](float evolution) {
            n.evolution = evolution;
            double sum = 0.0, square = 0.0;
            for (int i = 0; i < 4000; ++i) {
                const double v = double(octaves(n, Vec3(1.7f * static_cast<float>(i), 3.1f * static_cast<float>(i % 61),
                                                        0.9f * static_cast<float>(i % 17))));
                sum += v;
                square += v * v;
            }
            return std::pair(sum / 4000, std::sqrt(square / 4000));
        };
        const double still = moments(0.f).second;
        for (const float e : {0.2f, 0.5f, 0.8f, 1.f, 2.5f})
            NEAR(moments(e).second, still, 0.08);
        // Small steps of time are small steps of the pattern, also where one pattern hands over to the next.
        const Vec3 p(3.3f, 1.2f, -8.f);
        for (float e = 0.9f; e < 1.1f; e += 0.005f) {
            n.evolution = e;
            const float now = octaves(n, p);
            n.evolution = e + 0.005f;
            QVERIFY(std::abs(octaves(n, p) - now) < 0.03f);
        }
        n.evolution = 0.f;
        const float first = octaves(n, p);
        n.evolution = 1.f;
        QVERIFY(octaves(n, p) != first);
    }

    void warpKeepsTheMeanDensity()
    {
        Noise n;
        n.scale = 4.f;
        n.contrast = 1.f;
        n.warp = 1.f;
        double mean = 0.0;
        for (int i = 0; i < 20000; ++i)
            mean += double(modulation(n, Vec3(2.3f * static_cast<float>(i), 1.9f * static_cast<float>(i % 97),
                                              0.7f * static_cast<float>(i % 53)))) /
                    20000;
        NEAR(mean, 1.0, 0.03);
    }

    void aBankBoilsWithTheFrameAndTakesItsForm()
    {
        scene::Project project = elements::newProject();
        project.add(*elements::findKind("fogBank"), "Bank");
        project.setPath("bank.form", "sphere");
        project.setPath("bank.size", "12 6 12");
        project.setPath("bank.boil", "0.5");
        project.frame = 51; // two seconds in
        Store store;
        JobControl job;
        const auto shot = elements::freeze(project, store, job);
        QCOMPARE(shot->media.size(), 1u);
        QVERIFY(shot->media[0].shape == Shape::Sphere);
        QCOMPARE(shot->media[0].half, Vec3(6, 3, 6));
        NEAR(shot->media[0].noise.evolution, 1.0, 1e-6);
        project.frame = 1;
        QCOMPARE(elements::freeze(project, store, job)->media[0].noise.evolution, 0.f);
        THROWS_SAYING(project.setPath("bank.stretch", "0 1 1"), "stretch");
        THROWS_SAYING(project.setPath("bank.form", "torus"), "form");
    }
};
QTEST_APPLESS_MAIN(TestMedia)
#include "test_media.moc"
