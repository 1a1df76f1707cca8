/// The march through the air, piece by piece: against quadrature, by its linearity, and at its edges.
#include "base/random.h"
#include "media/phase.h"
#include "render/air_kernel.h"
#include "support.h"

#include <set>

using namespace hygros;
using namespace hygros::render;
using shot::Shot;

namespace {
std::shared_ptr<Shot> shotWith(std::vector<media::Medium> media, double elevation = 40.0, int orders = 1)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::emptyScene();
    s->media = std::move(media);
    light::SkySettings sky;
    sky.elevation = radians(elevation);
    sky.azimuth = 0.7f;
    s->sky = std::make_shared<light::Sky>(sky);
    s->sunId = "sun";
    s->scatteringOrders = orders;
    return s;
}
media::Medium fog(float sigma, float top, float g = 0.5f)
{
    media::Medium m = test::uniformAir(sigma, g);
    m.id = "fog";
    m.top = top;
    return m;
}
media::Medium bank()
{
    media::Medium m;
    m.id = "bank";
    m.shape = media::Shape::Layer;
    m.base = -1.f;
    m.top = 5.f;
    m.falloff = 3.f;
    m.sigmaT = 0.03f;
    m.phase.g = 0.4f;
    return m;
}
AirRays8 raysFrom(const Vec3& o, const Vec3& d, float end)
{
    AirRays8 r;
    r.ray = media::ray8(o, d);
    r.end = r.depth[0] = f8(end);
    r.weight[0] = f8(1.f);
    r.jitter = f8(0.5f);
    return r;
}
light::Lamp lampAt(const Vec3& p, float halfAngle = 40.f)
{
    light::Lamp lamp;
    lamp.id = "lamp";
    lamp.position = p;
    lamp.direction = Vec3(0, -1, 0);
    lamp.cosOuter = std::cos(radians(double(halfAngle)));
    lamp.cosInner = std::cos(radians(double(halfAngle) * 0.6));
    lamp.intensity = Vec3(80.f, 60.f, 30.f);
    return lamp;
}
constexpr std::uint8_t allLit[8] = {1, 1, 1, 1, 1, 1, 1, 1};
} // namespace

class TestMarch : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void piecesAreWholeTriplesAndGrowWithTheWay()
    {
        int before = 0;
        for (float end = 0.1f; end < Shot::farDistance; end *= 1.3f) {
            const int n = segmentsFor(end, maxSegments);
            QVERIFY(n % 3 == 0 && n >= 6 && n <= maxSegments && n >= before);
            before = n;
        }
        QCOMPARE(segmentsFor(Shot::farDistance, maxSegments), maxSegments);
        QCOMPARE(segmentsFor(Shot::farDistance, 12), 12);
    }

    void piecesCoverTheRayWithoutGapOrOverlap()
    {
        for (const float end : {0.5f, 12.f, 800.f, 30000.f})
            for (const int n : {6, 12, 24}) {
                const Segments8 grid(f8(end), n);
                double t = 0.0, width = double(grid.first[0]);
                for (int i = 0; i < n; ++i) {
                    QVERIFY(width > 0.0);
                    t += width;
                    width *= double(grid.ratio[0]);
                }
                NEAR(t, end, 2e-4);
            }
    }

    void jitterStaysInsideItsPieceAndDiffersFromPieceToPiece()
    {
        std::set<int> seen;
        for (int i = 0; i < maxSegments; ++i) {
            const F8 j = pieceJitter(f8(0.93f), i);
            QVERIFY(j[0] >= 0.f && j[0] < 1.f);
            seen.insert(static_cast<int>(j[0] * 1000.f));
        }
        QVERIFY(seen.size() > 20);
    }

    void noiseMeansAreArithmeticMeans()
    {
        media::Noise noise;
        noise.contrast = 0.8f;
        std::uint16_t means[8] = {};
        double sum = 0.0;
        Random random(5);
        for (int n = 1; n <= 40; ++n) {
            const float v = random.range(0.f, media::modulationBound(noise));
            sum += double(v);
            const F8 now = keepNoise(means, media::modulationBound(noise), f8(v), f8(1.f / static_cast<float>(n)));
            NEAR(now[3], sum / n, 2e-3);
            NEAR(keptNoise(means, media::modulationBound(noise))[3], double(now[3]), 1e-3);
        }
    }

    void aLaneNeverSampledStartsWithItsFirstSample()
    {
        media::Noise noise;
        noise.contrast = 0.5f;
        std::uint16_t means[8] = {0, 0, 0, 0, 30000, 0, 0, 0};
        const F8 now = keepNoise(means, media::modulationBound(noise), f8(1.2f), f8(0.1f));
        NEAR(now[0], 1.2, 1e-3);
        QVERIFY(now[4] > 1.1f && now[4] < 1.2f); // nine tenths of what it was
        F8 none = f8(0.f);
        const F8 kept = keepNoise(means, media::modulationBound(noise), f8(9.f), none);
        NEAR(kept[0], 1.2, 1e-3); // weight 0 leaves it
    }

    void theLeastNoiseIsStillToldFromNone()
    {
        media::Noise noise;
        noise.contrast = 1.f;
        std::uint16_t means[8] = {};
        keepNoise(means, media::modulationBound(noise), f8(0.f), f8(1.f));
        for (const std::uint16_t m : means)
            QCOMPARE(m, std::uint16_t{1});
    }

    void singleScatteringOfTheSunMatchesQuadrature_data()
    {
        QTest::addColumn<float>("sigma");
        QTest::addColumn<float>("g");
        QTest::addColumn<float>("slope");
        QTest::newRow("thin, level") << 0.002f << 0.f << 0.f;
        QTest::newRow("thin, up") << 0.002f << 0.7f << 0.3f;
        QTest::newRow("fog, level") << 0.02f << 0.6f << 0.f;
        QTest::newRow("fog, down") << 0.02f << 0.8f << -0.01f;
        QTest::newRow("dense") << 0.1f << 0.3f << 0.1f;
    }
    void singleScatteringOfTheSunMatchesQuadrature()
    {
        QFETCH(float, sigma);
        QFETCH(float, g);
        QFETCH(float, slope);
        const float top = 60.f, end = 150.f;
        const auto s = shotWith({fog(sigma, top, g)});
        const AirModel model(*s);
        const Vec3 o(0, 2, 0), d = Vec3(0.2f, slope, -1.f).normalized();
        AirRays8 rays = raysFrom(o, d, end);
        AirSums8 sums;
        marchAir(model, rays, sums);
        F8 sun[3], sky[3];
        colourAir(model, rays.ray, sums, sun, sky);
        const Vec3 toSun = s->sky->sunDirection();
        const double phase = double(media::henyeyGreenstein(toSun.dot(d), g));
        double wanted = 0.0;
        constexpr int n = 20000;
        for (int i = 0; i < n; ++i) {
            const double t = double(end) * (i + 0.5) / n, y = 2.0 + double(d.y) * t;
            if (y > double(top))
                continue;
            const double way = (double(top) - y) / double(toSun.y);
            wanted += double(sigma) * std::exp(-double(sigma) * (t + way)) * double(end) / n;
        }
        NEAR(sun[1][2], wanted * phase * double(s->sky->sunIrradiance().y), 0.012);
    }

    void sunlightIsLinearInTheShareOfTheSun()
    {
        const auto s = shotWith({fog(0.01f, 80.f)}, 30.0, 3);
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 300.f);
        std::vector<F8> share(maxSegments, f8(1.f));
        const auto sunOf = [&] {
            rays.sunSeen = share.data();
            AirSums8 sums;
            marchAir(model, rays, sums);
            return double(sums.sun[0][0]);
        };
        const double whole = sunOf();
        std::fill(share.begin(), share.end(), f8(0.25f));
        NEAR(sunOf(), 0.25 * whole, 1e-5);
        std::fill(share.begin(), share.end(), f8(0.f));
        QCOMPARE(sunOf(), 0.0);
        // Each piece counts for itself: two halves of the ray in the sun make the whole.
        for (int i = 0; i < maxSegments; ++i)
            share[static_cast<std::size_t>(i)] = f8(i < 12 ? 1.f : 0.f);
        const double nearHalf = sunOf();
        for (int i = 0; i < maxSegments; ++i)
            share[static_cast<std::size_t>(i)] = f8(i < 12 ? 0.f : 1.f);
        NEAR(nearHalf + sunOf(), whole, 1e-5);
    }

    void underARoofTheSkyIsDimButNotGone()
    {
        const auto s = shotWith({fog(0.01f, 80.f)}, 30.0, 3);
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 300.f);
        AirSums8 open, shut;
        marchAir(model, rays, open);
        const std::vector<F8> none(maxSegments / 3, f8(0.f));
        rays.skySeen = none.data();
        marchAir(model, rays, shut);
        NEAR(shut.sky[0][0], 0.15 * double(open.sky[0][0]), 1e-5);
    }

    void partsOfMediaAddUpToTheWhole()
    {
        media::Medium box;
        box.id = "box";
        box.shape = media::Shape::Box;
        box.centre = Vec3(0, 3, -40);
        box.half = Vec3(20, 4, 15);
        box.falloff = 2.f;
        box.sigmaT = 0.05f;
        const auto s = shotWith({fog(0.004f, 90.f), bank(), box}, 25.0, 3);
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0.05f, 0.01f, -1).normalized(), 400.f);
        AirSums8 sums;
        F8 all[maxSegments][4], one[maxSegments][4];
        marchAir(model, rays, sums, all);
        double sum[3] = {0, 0, 0};
        for (int k = 0; k < 3; ++k) {
            marchAir(model, rays, sums, one, k);
            for (int c = 0; c < 3; ++c)
                sum[c] += double(one[maxSegments - 1][c][0]);
            // The transmittance is that of all media, whichever is asked for.
            NEAR(one[maxSegments - 1][3][0], double(all[maxSegments - 1][3][0]), 1e-6);
        }
        for (int c = 0; c < 3; ++c)
            NEAR(sum[c], double(all[maxSegments - 1][c][0]), 1e-4);
        // And the profile's end is what the sums come to.
        F8 sun[3], sky[3];
        colourAir(model, rays.ray, sums, sun, sky);
        for (int c = 0; c < 3; ++c)
            NEAR(sun[c][0] + sky[c][0], double(all[maxSegments - 1][c][0]), 1e-3);
    }

    void theProfileRisesAndTheTransmittanceFalls()
    {
        const auto s = shotWith({fog(0.02f, 90.f), bank()}, 25.0, 3);
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 2000.f);
        AirSums8 sums;
        F8 p[maxSegments][4];
        marchAir(model, rays, sums, p);
        for (int i = 1; i < maxSegments; ++i) {
            QVERIFY(p[i][1][0] >= p[i - 1][1][0]);
            QVERIFY(p[i][3][0] <= p[i - 1][3][0]);
            QVERIFY(sums.boundary[i + 1][0] <= sums.boundary[i][0]);
        }
    }

    void stoppingBehindDenseFogChangesNothingThatCanBeSeen()
    {
        media::Medium dense = fog(0.5f, 50.f);
        dense.noise.contrast = 0.4f;
        dense.noise.scale = 5.f;
        const auto s = shotWith({dense}, 30.0, 3);
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 5000.f);
        std::vector<std::uint16_t> means(maxSegments * 16, 0);
        rays.noise = {means.data(), true, f8(1.f)};
        AirSums8 whole, stopped;
        marchAir(model, rays, whole); // sampling noise, it goes on to the end
        rays.noise.sample = false;
        marchAir(model, rays, stopped);
        NEAR(stopped.sun[0][0], double(whole.sun[0][0]), 1e-3);
        QVERIFY(stopped.transmittance[0][0] < 1e-5f && stopped.boundary[maxSegments][0] <= 1e-5f);
    }

    void surfacesInsideAPieceGetTheirPartOfIt()
    {
        const auto s = shotWith({fog(0.01f, 1e6f)});
        const AirModel model(*s);
        for (const float depth : {0.f, 3.f, 10.f, 47.f, 99.f, 100.f}) {
            AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 100.f);
            rays.depth[0] = f8(depth);
            AirSums8 sums;
            marchAir(model, rays, sums);
            NEAR(sums.transmittance[0][0], std::exp(-0.01 * double(depth)), 2e-4);
        }
    }

    // A sheet of ground fog that a slanted way meets in one piece: boards before, in and behind it get what lies before
    // them, not what falls to them by length.
    void surfacesInAThinSheetGetWhatLiesBeforeThem()
    {
        media::Medium box = test::uniformAir(0.5f, 0.f);
        box.shape = media::Shape::Box;
        box.centre = Vec3(0, 0, -50);
        box.half = Vec3(20.f, 20.f, 0.5f);
        for (const bool boxed : {false, true}) {
            const auto s = shotWith({boxed ? box : fog(0.5f, 0.4f)});
            const AirModel model(*s);
            const Vec3 d = boxed ? Vec3(0, 0, -1) : Vec3(0, -0.04f, -1).normalized();
            // The sheet begins here, in a piece that ends farther on.
            const float enters = boxed ? 49.5f : (2.f - 0.4f) / -d.y;
            for (const float behind : {-1.f, 0.1f, 0.4f, 0.8f, 1.4f}) {
                AirRays8 rays = raysFrom(Vec3(0, 2, 0), d, 400.f);
                rays.segments = 6;
                rays.depth[0] = f8(enters + behind);
                const float way = boxed ? std::clamp(behind, 0.f, 1.f) : std::max(0.f, behind);
                AirSums8 sums;
                marchAir(model, rays, sums);
                NEAR(sums.transmittance[0][0], std::exp(-0.5f * way), 2e-3);
            }
        }
    }

    void lightWaysOfASlabFollowTheirFormulas()
    {
        const float sigma = 0.02f, top = 40.f, g = 0.6f;
        media::Medium m = fog(sigma, top, g);
        m.albedo = Vec3(0.9f);
        const auto s = shotWith({m}, 30.0);
        const AirModel model(*s);
        for (const float y : {0.f, 10.f, 39.f, 41.f, 500.f}) {
            const AirModel::LightWays ways = model.lightWays(f8(3.f), f8(y), f8(-7.f), nullptr);
            const double up = double(sigma) * std::max(0.0, double(top - y)), slant = up / std::sin(M_PI / 6);
            QVERIFY(std::abs(double(ways.sunDepth[1]) - slant) < 1e-5);
            // The level solution for as much above and below.
            media::LevelAir air{m.phase, 0.9f, 0.5f, luminance(s->sky->settings().groundAlbedo),
                                media::LevelAir::skySines()};
            for (float& ring : air.sky)
                ring = s->sky->ring(ring);
            const media::LevelShares level = media::LevelLight(air, air).at(float(up), float(double(sigma * top) - up));
            NEAR(ways.turned[1] + 1.f, double(level.turned) + 1.0, 1e-3);
            NEAR(ways.broad[1] + 1.f, double(level.broad) + 1.0, 1e-3);
            NEAR(ways.around[1], double(level.around), 1e-3);
            NEAR(ways.straight[1] + ways.sky[1], double(level.sky), 1e-3);
            NEAR(ways.straight[1], double(level.straight), 1e-3);
            // Level surfaces get what comes down, as the second harmonics tell it.
            const F8 upward[3] = {f8(0.f), f8(1.f), f8(0.f)};
            const AirModel::SurfaceWays at = model.surfaceWays(f8(3.f), f8(y), f8(-7.f), upward, nullptr);
            const double scattered = (double(at.sun[1]) - std::exp(-slant)) * 0.5 + double(at.diffuse[1]);
            QVERIFY2(std::abs(scattered - double(level.sunDown) * 0.5) < 0.03 * double(level.sunDown) * 0.5 + 1e-3,
                     qPrintable(QString("%1 for %2").arg(scattered).arg(double(level.sunDown) * 0.5)));
            NEAR(at.sky[1] + at.around[1], double(level.skyDown), 0.01);
            QVERIFY(std::abs(double(model.sunDepth(f8(3.f), f8(y), f8(-7.f), nullptr)[0]) - slant) < 1e-5);
        }
    }

    void theWayBetweenTwoPointsIsTheSameBothWays()
    {
        const auto s = shotWith({fog(0.01f, 30.f), bank()});
        const AirModel model(*s);
        const Vec3 a(0, 1, 0), b(20, 9, -50);
        NEAR(model.depthBetween(a, b), double(model.depthBetween(b, a)), 1e-5);
        QCOMPARE(model.depthBetween(a, a), 0.f);
        QVERIFY(model.depthBetween(a, b) > model.depthBetween(a, lerp(a, b, 0.5f)));
    }

    void noAirGivesNoLightAndKeepsEverything()
    {
        const auto s = shotWith({});
        const AirModel model(*s);
        QVERIFY(model.clear());
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 300.f);
        AirSums8 sums;
        F8 p[maxSegments][4];
        marchAir(model, rays, sums, p);
        QCOMPARE(sums.transmittance[0][0], 1.f);
        QCOMPARE(p[maxSegments - 1][1][0], 0.f);
    }

    void equiAngularSamplesAreSortedInsideAndWeighedRight()
    {
        const Vec3 o(0, 0, 0), d(0, 0, -1), lamp(2, 1, -9);
        double length = 0.0;
        for (int k = 0; k < 64; ++k) {
            F8 t, inverse;
            equiAngular8(o, d, lamp, 3.f, 25.f, (static_cast<float>(k) + 0.5f) / 64.f, t, inverse);
            for (int i = 0; i < lanes; ++i) {
                QVERIFY(t[i] >= 3.f && t[i] <= 25.f);
                QVERIFY(i == 0 || t[i] > t[i - 1]);
                length += double(inverse[i]) / (8 * 64);
            }
        }
        NEAR(length, 22.0, 1e-3); // the mean of one over the density is the length
    }

    void equiAngularSamplingIsFarLessNoisyThanEvenSampling()
    {
        // A lamp close to the ray in thin air: variance of single samples of 1/r² along 40 m (Kulla & Fajardo 2012).
        const Vec3 o(0, 0, 0), d(0, 0, -1), lamp(0.4f, 0, -15);
        Random random(11);
        double evenSum = 0, evenSquare = 0, angularSum = 0, angularSquare = 0;
        constexpr int n = 4000;
        for (int k = 0; k < n; ++k) {
            F8 t, inverse;
            equiAngular8(o, d, lamp, 0.f, 40.f, random.next(), t, inverse);
            const auto pick = static_cast<int>(random.next() * 8.f) & 7;
            const double a = double(inverse[pick]) / double((lamp - d * t[pick]).length2());
            angularSum += a;
            angularSquare += a * a;
            const double u = 40.0 / double((lamp - d * (40.f * random.next())).length2());
            evenSum += u;
            evenSquare += u * u;
        }
        const double angular = angularSquare / n - std::pow(angularSum / n, 2),
                     even = evenSquare / n - std::pow(evenSum / n, 2);
        QVERIFY2(angular * 20 < even, qPrintable(QString("%1 against %2").arg(angular).arg(even)));
        NEAR(angularSum / n, evenSum / n, 0.15);
    }

    void aBeamIsLinearInItsLampAndInWhatIsLit()
    {
        auto s = shotWith({fog(0.02f, 1e5f)});
        s->lamps = {lampAt(Vec3(1, 6, -12))};
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 60.f);
        AirSums8 sums;
        marchAir(model, rays, sums);
        const float* boundary = reinterpret_cast<const float*>(sums.boundary);
        const float end = 60.f, one = 1.f;
        const auto light = [&](const AirModel& m, const std::uint8_t* lit, float share) {
            return beamLight(MarchedRay(m, Vec3(0, 2, 0), Vec3(0, 0, -1), end, maxSegments, boundary), 0, 0.5f, lit,
                             share, 1, &end, &one);
        };
        const Vec3 whole = light(model, allLit, 1.f);
        QVERIFY(whole.x > 0.f);
        NEAR(whole.x / whole.z, 80.0 / 30.0, 1e-4);
        NEAR(light(model, allLit, 0.5f).y, 0.5 * double(whole.y), 1e-5);
        const std::uint8_t front[8] = {1, 1, 1, 1, 0, 0, 0, 0}, back[8] = {0, 0, 0, 0, 1, 1, 1, 1}, none[8] = {};
        NEAR(light(model, front, 1.f).y + light(model, back, 1.f).y, double(whole.y), 1e-5);
        QCOMPARE(light(model, none, 1.f), Vec3(0.f));
        auto brighter = std::make_shared<Shot>(*s);
        brighter->lamps[0].intensity *= 3.f;
        const AirModel other(*brighter);
        NEAR(light(other, allLit, 1.f).y, 3.0 * double(whole.y), 0.01);
    }

    void aBeamEndsAtTheSurfaceBeforeIt()
    {
        auto s = shotWith({fog(0.02f, 1e5f)});
        s->lamps = {lampAt(Vec3(0, 6, -12))};
        const AirModel model(*s);
        AirRays8 rays = raysFrom(Vec3(0, 2, 0), Vec3(0, 0, -1), 60.f);
        AirSums8 sums;
        marchAir(model, rays, sums);
        const float* boundary = reinterpret_cast<const float*>(sums.boundary);
        const MarchedRay marched(model, Vec3(0, 2, 0), Vec3(0, 0, -1), 60.f, maxSegments, boundary);
        const float one = 1.f;
        double before = -1.0;
        for (const float depth : {1.f, 9.f, 11.f, 13.f, 15.f, 60.f}) {
            const double l = double(beamLight(marched, 0, 0.5f, allLit, 1.f, 1, &depth, &one).y);
            QVERIFY(l >= before);
            before = l;
        }
        const float shortOf = 2.f;
        QCOMPARE(beamLight(marched, 0, 0.5f, allLit, 1.f, 1, &shortOf, &one), Vec3(0.f));
        // A pixel that is half post, half sky has half of each.
        const float depths[2] = {2.f, 60.f}, halves[2] = {0.5f, 0.5f};
        const double mixed = double(beamLight(marched, 0, 0.5f, allLit, 1.f, 2, depths, halves).y);
        NEAR(mixed, 0.5 * before, 1e-5);
    }

    void aRayThatMissesTheConeAsksForNoShadowRay()
    {
        auto s = shotWith({fog(0.02f, 1e5f)});
        s->lamps = {lampAt(Vec3(0, 6, -12), 10.f)};
        QCOMPARE(beamVisibility(*s, 0, Vec3(0, 2, 0), Vec3(0, 0.9f, 0.3f).normalized(), 60.f, 0.5f),
                 std::uint8_t{0xff});
        BeamSamples out;
        const AirModel model(*s);
        const std::vector<float> boundary((maxSegments + 1) * lanes, 1.f);
        QVERIFY(!beamSamples(
            MarchedRay(model, Vec3(0, 2, 0), Vec3(0, 0.9f, 0.3f).normalized(), 60.f, maxSegments, boundary.data()), 0,
            0.5f, allLit, 1.f, out));
    }

    void brightLampsAreFollowedFarther()
    {
        light::Lamp dim = lampAt(Vec3(0.f)), bright = dim;
        dim.intensity = Vec3(0.01f);
        bright.intensity = Vec3(1e7f);
        QCOMPARE(dim.reach(), 5.f);
        QCOMPARE(bright.reach(), 2000.f);
        QVERIFY(lampAt(Vec3(0.f)).reach() > 5.f);
    }
};
QTEST_APPLESS_MAIN(TestMarch)
#include "test_march.moc"
