/// Light in level air: against published values, a closed form, photons followed one by one, and its own whole
/// solution.
#include "base/random.h"
#include "media/level_light.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::media;

namespace {
LevelAir air(float g, double elevation, float albedo = 1.f)
{
    return {plainPhase(g), albedo, static_cast<float>(std::sin(elevation * M_PI / 180.0))};
}

/// Chandrasekhar's H for isotropic scattering, by iteration of 1/H(μ) = √(1 − ω) + ω/2 ∫ μ′H(μ′)/(μ + μ′) dμ′.
double chandrasekharH(double albedo, double mu)
{
    constexpr int n = 400;
    std::vector<double> h(n, 1.0);
    const auto at = [&](double m) {
        double integral = 0.0;
        for (int j = 0; j < n; ++j) {
            const double other = (j + 0.5) / n;
            integral += other * h[static_cast<std::size_t>(j)] / (m + other) / n;
        }
        return 1.0 / (std::sqrt(1.0 - albedo) + 0.5 * albedo * integral);
    };
    for (int turn = 0; turn < 120; ++turn) {
        std::vector<double> next(n);
        for (int i = 0; i < n; ++i)
            next[static_cast<std::size_t>(i)] = at((i + 0.5) / n);
        h = next;
    }
    return at(mu);
}

/// What a thin level in a slab scatters toward an eye that looks level, from photons; all orders but the first.
double byPhotons(const LevelAir& kind, double above, double below, double azimuth, double* error)
{
    constexpr int batches = 16, photons = test::often(6000);
    const double whole = above + below, thin = 0.06 * whole, g = double(kind.phase.g), sun = double(kind.sunSine);
    double sum = 0.0, squares = 0.0;
    Random random(77);
    const auto u = [&] { return double(random.next()); };
    for (int b = 0; b < batches; ++b) {
        double total = 0.0;
        for (int i = 0; i < photons; ++i) {
            double depth = 0.0, weight = 1.0, d[3] = {-std::sqrt(1.0 - sun * sun), -sun, 0.0};
            for (int order = 0; order < 300; ++order) {
                depth += -d[1] * -std::log(1.0 - u());
                if (depth < 0.0)
                    break;
                if (depth > whole) { // the matte ground
                    weight *= double(kind.ground);
                    if (weight < 1e-3)
                        break;
                    depth = whole;
                    const double up = std::sqrt(u()), turn = 2.0 * M_PI * u(), level = std::sqrt(1.0 - up * up);
                    d[0] = level * std::cos(turn), d[1] = up, d[2] = level * std::sin(turn);
                    continue;
                }
                if (order > 0 && std::abs(depth - above) < 0.5 * thin)
                    total += weight * double(kind.phase(float(-d[0] * std::cos(azimuth) - d[2] * std::sin(azimuth)))) *
                             sun / thin;
                weight *= double(kind.albedo);
                const double c = double(sampleHenyeyGreenstein(float(g), float(u()))),
                             s = std::sqrt(std::max(0.0, 1.0 - c * c)), turn = 2.0 * M_PI * u();
                const Vec3 from{static_cast<float>(d[0]), static_cast<float>(d[1]), static_cast<float>(d[2])};
                const Vec3 a = from.cross(std::abs(from.y) > 0.9f ? Vec3(1, 0, 0) : Vec3(0, 1, 0)).normalized(),
                           bb = from.cross(a);
                for (int k = 0; k < 3; ++k)
                    d[k] = d[k] * c + s * (std::cos(turn) * double(a[k]) + std::sin(turn) * double(bb[k]));
            }
        }
        const double mean = total * double(kind.albedo) / photons;
        sum += mean / batches;
        squares += mean * mean / batches;
    }
    *error = std::sqrt(std::max(0.0, squares - sum * sum) / (batches - 1));
    return sum;
}
/// The fitted lobes put together again, ÷ irradiance.
double lobes(const LevelAir& kind, const LevelShares& s, double height, double azimuth)
{
    const double sun = double(kind.sunSine);
    const auto c = float(height * sun + std::sqrt((1.0 - height * height) * (1.0 - sun * sun)) * std::cos(azimuth));
    return double(kind.albedo) * (double(s.turned * kind.phase.again()(c)) + double(s.broad * kind.phase.broad()(c)) +
                                  double(s.around) / (4.0 * M_PI));
}
std::array<double, 3> looking(double height, double azimuth)
{
    const double level = std::sqrt(1.0 - height * height);
    return {level * std::cos(azimuth), height, level * std::sin(azimuth)};
}
} // namespace

class TestLevel : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void theSlabOfDepthTwoSharesLightAsPublished()
    {
        const auto [reflected, transmitted] = LevelLight::albedoOf(air(0.f, 90.0), 2.0);
        NEAR(reflected, 0.5176, 1e-3);
        NEAR(transmitted, 0.4824, 1e-3);
    }

    void noLightIsLostWithoutAbsorption_data()
    {
        QTest::addColumn<float>("g");
        QTest::addColumn<double>("depth");
        for (const float g : {-0.3f, 0.f, 0.5f, 0.85f, 0.95f})
            for (const double depth : {0.03, 0.7, 3.0, 21.0})
                QTest::addRow("g %g, depth %g", double(g), depth) << g << depth;
    }
    void noLightIsLostWithoutAbsorption()
    {
        QFETCH(float, g);
        QFETCH(double, depth);
        for (const double elevation : {4.0, 30.0, 80.0}) {
            const auto [reflected, transmitted] = LevelLight::albedoOf(air(g, elevation), depth);
            NEAR(reflected + transmitted, 1.0, 4e-3);
            QVERIFY(reflected >= 0.0 && transmitted > 0.0);
        }
    }

    void endlessAirReflectsByChandrasekharsFunction_data()
    {
        QTest::addColumn<double>("albedo");
        QTest::addColumn<double>("mu");
        for (const double albedo : {0.3, 0.8, 0.95})
            for (const double mu : {0.2, 0.6, 1.0})
                QTest::addRow("albedo %g, sine %g", albedo, mu) << albedo << mu;
    }
    void endlessAirReflectsByChandrasekharsFunction()
    {
        QFETCH(double, albedo);
        QFETCH(double, mu);
        const auto [reflected, transmitted] = LevelLight::albedoOf({plainPhase(0.f), float(albedo), float(mu)}, 60.0);
        NEAR(reflected, 1.0 - chandrasekharH(albedo, mu) * std::sqrt(1.0 - albedo), 3e-3);
        QVERIFY(transmitted < 1e-6);
    }

    void whatALevelScattersIsWhatPhotonsSay_data()
    {
        QTest::addColumn<float>("g");
        QTest::addColumn<double>("elevation");
        QTest::addColumn<double>("above");
        QTest::addColumn<double>("below");
        QTest::addColumn<double>("azimuth");
        QTest::newRow("thin, low sun, toward it") << 0.8f << 6.0 << 0.2 << 0.2 << 0.3;
        QTest::newRow("thin, low sun, aside") << 0.8f << 6.0 << 0.3 << 0.1 << 1.6;
        QTest::newRow("high sun") << 0.8f << 40.0 << 0.6 << 0.4 << 0.0;
        QTest::newRow("high sun, away") << 0.7f << 40.0 << 0.6 << 0.4 << 3.1;
        QTest::newRow("thick") << 0.75f << 20.0 << 2.0 << 1.5 << 0.8;
        QTest::newRow("even in all directions") << 0.f << 30.0 << 0.5 << 1.0 << 2.0;
    }
    void whatALevelScattersIsWhatPhotonsSay()
    {
        QFETCH(float, g);
        QFETCH(double, elevation);
        QFETCH(double, above);
        QFETCH(double, below);
        QFETCH(double, azimuth);
        const LevelAir kind = air(g, elevation, 0.98f);
        double error = 0.0;
        const double expected = byPhotons(kind, above, below, azimuth, &error),
                     got = LevelLight::scattered(kind, above, below, looking(0.0, azimuth));
        QVERIFY2(std::abs(got - expected) < test::within(4.0 * error + 0.02 * expected),
                 qPrintable(QString("%1, photons %2 ± %3").arg(got).arg(expected).arg(error)));
    }

    void lobesFollowTheWholeSolutionAboutTheLevel_data()
    {
        QTest::addColumn<float>("g");
        QTest::addColumn<double>("elevation");
        for (const float g : {0.3f, 0.65f, 0.85f})
            for (const double elevation : {5.0, 16.0, 50.0})
                QTest::addRow("g %g, sun %g", double(g), elevation) << g << elevation;
    }
    void lobesFollowTheWholeSolutionAboutTheLevel()
    {
        QFETCH(float, g);
        QFETCH(double, elevation);
        const LevelAir kind = air(g, elevation, 0.99f);
        const LevelLight light(kind, kind);
        for (const double above : {0.07, 0.3, 1.3, 4.0})
            for (const double below : {0.0, 0.25, 2.2}) {
                double ratio = 0.0;
                int count = 0;
                for (const double azimuth : {0.15, 0.6, 1.2, 2.0, 3.0})
                    for (const double height : {-0.15, 0.1}) {
                        const double whole = LevelLight::scattered(kind, above, below, looking(height, azimuth));
                        const double fitted = lobes(kind, light.at(float(above), float(below)), height, azimuth);
                        QVERIFY2(fitted > 0.45 * whole && fitted < 1.7 * whole,
                                 qPrintable(QString("%1 / %2: %3 of %4").arg(above).arg(below).arg(fitted).arg(whole)));
                        ratio += fitted / whole;
                        ++count;
                    }
                ratio /= count;
                QVERIFY2(ratio > 0.85 && ratio < 1.1,
                         qPrintable(QString("%1 / %2: %3").arg(above).arg(below).arg(ratio)));
            }
    }

    void sharesHaveNoStepsAndStayInBounds()
    {
        for (const Phase& phase : {plainPhase(0.8f), dropletPhase(12.f), rayleighPhase}) {
            const LevelAir kind{phase, 0.99f, 0.2f};
            const LevelLight light(kind, kind);
            LevelShares before = light.at(0.f, 0.4f);
            NEAR(before.skyDown, 1.0, 0.12); // the ground's own light comes back a little
            for (int i = 1; i < 4000; ++i) {
                const float above = 1e-4f * std::pow(1.004f, float(i));
                if (above > 40.f)
                    break;
                const LevelShares s = light.at(above, 0.4f);
                for (const auto& [now, last] :
                     {std::pair(s.turned, before.turned), std::pair(s.broad, before.broad),
                      std::pair(s.around, before.around), std::pair(s.sunDown, before.sunDown),
                      std::pair(s.sky, before.sky), std::pair(s.skyDown, before.skyDown)})
                    QVERIFY2(now >= 0.f && now < 3.f && std::abs(now - last) < 0.03f,
                             qPrintable(QString("at %1: %2 after %3").arg(above).arg(now).arg(last)));
                before = s;
            }
            // Between nodes below as well.
            for (float below = 0.f; below < 20.f; below += 0.01f) {
                const LevelShares now = light.at(0.7f, below), next = light.at(0.7f, below + 0.01f);
                QVERIFY(std::abs(now.turned + now.broad + now.around - next.turned - next.broad - next.around) < 0.04f);
            }
        }
    }

    void withoutAirNothingIsScatteredButTheGroundsLight()
    {
        const LevelAir kind = air(0.7f, 25.0);
        const LevelShares s = LevelLight(kind, kind).at(0.f, 0.f);
        NEAR(s.sky, 1.0, 1e-4);
        NEAR(s.skyDown, 1.0, 1e-4);
        QVERIFY(std::abs(s.sunDown) < 1e-4f);
        // Ground of albedo 0.2 under a sun of sine 0.42: half of all directions see 0.15·0.42/π.
        const double mean = double(s.turned + s.broad + s.around) / (4.0 * M_PI),
                     ground = 0.2 * std::sin(25.0 * M_PI / 180.0) / M_PI / 2.0;
        NEAR(mean, ground, 0.35);
    }

    void deepUnderAirTheSunsPlaceIsForgotten()
    {
        const LevelAir kind = air(0.7f, 35.0, 0.999f);
        const double toward = LevelLight::scattered(kind, 12.0, 4.0, looking(0.0, 0.0)),
                     away = LevelLight::scattered(kind, 12.0, 4.0, looking(0.0, M_PI));
        NEAR(toward, away, 0.1);
        const LevelLight light(kind, kind);
        // Beyond the table it falls as light diffuses, by the depth.
        NEAR(double(light.at(256.f, 1.f).around), 0.5 * double(light.at(128.f, 1.f).around), 1e-3);
    }

    void mixturesLieBetweenTheirKinds()
    {
        const LevelAir a = air(0.85f, 12.0), b = air(0.3f, 12.0, 0.9f);
        const LevelLight both(a, b), first(a, a), second(b, b);
        for (const float above : {0.02f, 0.4f, 3.f}) {
            QCOMPARE(both.at(above, 0.5f, 0.f).sky, first.at(above, 0.5f).sky);
            QCOMPARE(both.at(above, 0.5f, 1.f).sunDown, second.at(above, 0.5f).sunDown);
            NEAR(both.at(above, 0.5f, 0.5f).turned,
                 0.5 * double(first.at(above, 0.5f).turned + second.at(above, 0.5f).turned), 1e-4);
        }
        QCOMPARE(levelLight(a, b).get(), levelLight(a, b).get());
        QVERIFY(levelLight(a, b) != levelLight(b, a));
    }

    void momentsOfPhasesAreThoseOfTheirFormulas()
    {
        const auto hg = phaseMoments(plainPhase(0.7f), 9);
        for (std::size_t l = 0; l < hg.size(); ++l)
            NEAR(hg[l], std::pow(double(0.7f), double(l)), 1e-6);
        const auto rayleigh = phaseMoments(rayleighPhase, 5);
        NEAR(rayleigh[0], 1.0, 1e-6);
        NEAR(rayleigh[2], 0.1, 1e-5);
        QVERIFY(std::abs(rayleigh[1]) < 1e-6 && std::abs(rayleigh[4]) < 1e-6);
        const Phase drops = dropletPhase(20.f);
        const auto m = phaseMoments(drops, 3);
        NEAR(m[0], 1.0, 1e-5);
        NEAR(m[1], double(drops.meanCosine()), 1e-4);
    }
};
QTEST_GUILESS_MAIN(TestLevel)
#include "test_level.moc"
