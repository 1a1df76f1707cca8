/// Waves: their laws, what is drawn of them, and water that rays meet.
#include "base/random.h"
#include "media/open_water.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::test;
using media::Swell;
using media::SwellField;
using media::SwellModes;
using media::SwellMoment;

namespace {
constexpr double turn = 6.283185307179586;
constexpr double g = 9.81;

Swell sea(double wind, double fetch = 2e6)
{
    Swell s;
    s.wind = wind;
    s.fetch = fetch;
    return s;
}
} // namespace

class TestSwell : public QObject {
    Q_OBJECT
    JobControl job_;

    std::shared_ptr<const SwellModes> modes(const Swell& s, int finest = 256, std::uint32_t seed = 1)
    {
        return std::make_shared<const SwellModes>(s, finest, seed, job_);
    }
    SwellField field(const Swell& s, double seconds = 0.0, double choppy = 1.0, double loop = 0.0, int finest = 256,
                     std::uint32_t seed = 1)
    {
        return SwellField(modes(s, finest, seed), {seconds, loop, choppy}, job_);
    }
    std::shared_ptr<const media::OpenWater> water(const Swell& s, media::OpenWater::Settings to = {},
                                                  double choppy = 1.0)
    {
        if (to.eye == Vec3(0.f))
            to.eye = Vec3(0.f, 3.f, 0.f);
        return std::make_shared<const media::OpenWater>(
            std::make_shared<const SwellField>(modes(s), SwellMoment{0.0, 0.0, choppy}, job_), to);
    }

private Q_SLOTS:
    void frequencyFollowsLengthAndDepth()
    {
        // Deep: ω² = g·k. Shallow: ω = k·√(g·h). Ripples: ω² = s·k³.
        NEAR(media::frequencyOf(0.1, 1e4), std::sqrt(g * 0.1), 1e-5);
        NEAR(media::frequencyOf(1e-3, 2.0), 1e-3 * std::sqrt(g * 2.0), 1e-5);
        NEAR(media::frequencyOf(3000.0, 1.0), std::sqrt(7.28e-5 * 2.7e10 + g * 3000.0), 1e-5);
        for (const double depth : {0.3, 4.0, 500.0})
            for (const double k : {0.02, 0.5, 9.0, 400.0}) {
                NEAR(media::wavenumberOf(media::frequencyOf(k, depth), depth), k, 1e-7);
                const double e = 1e-5 * k;
                NEAR(media::groupSpeedOf(k, depth),
                     (media::frequencyOf(k + e, depth) - media::frequencyOf(k - e, depth)) / (2.0 * e), 1e-5);
            }
    }

    void seasAreAsHighAsIsKnown()
    {
        // Pierson & Moskowitz: 0.21·U²/g, U 19.5 m up, when fully grown.
        for (const double wind : {5.0, 9.0, 18.0}) {
            const double at20 = 1.026 * wind;
            NEAR(sea(wind).significantHeight(), 0.21 * at20 * at20 / g, 0.05);
        }
        // JONSWAP: g·Hs/U² = 1.6·10⁻³·√(g·F/U²), and the peak at 22·(g²/(U·F))^(1/3), while young.
        // (Its spectrum holds a fifth more than its own law of growth, as is known.)
        for (const double fetch : {500.0, 5e3, 3e4}) {
            const Swell s = sea(12.0, fetch);
            NEAR(s.significantHeight(), 1.6e-3 * 144.0 / g * std::sqrt(g * fetch / 144.0), 0.25);
            NEAR(s.peak(), 22.0 * std::cbrt(g * g / (12.0 * fetch)), 1e-9);
        }
        // It only grows with the wind's way, without a jump.
        double before = 0.0;
        for (double fetch = 100.0; fetch < 3e6; fetch *= 1.1) {
            const double now = sea(10.0, fetch).significantHeight();
            QVERIFY2(now > before * 0.985 && (before == 0.0 || now < before * 1.12),
                     qPrintable(QString("%1 m: %2 after %3").arg(fetch).arg(now).arg(before)));
            before = now;
        }
    }

    void shallowGroundHoldsWavesDown()
    {
        Swell deep = sea(12.0), shallow = deep;
        shallow.depth = 4.0;
        QVERIFY(shallow.significantHeight() < 0.6 * deep.significantHeight());
        // Energy of what does not feel the ground is the deep water's.
        NEAR(shallow.energy(4.0), deep.energy(4.0), 1e-3);
        QVERIFY(shallow.peakLength() < deep.peakLength());
    }

    void directionsHoldAllTheEnergy()
    {
        Swell s = sea(9.0);
        s.toward = 1.1;
        s.opposing = 0.25;
        for (const double w : {0.6, 1.0, 2.5}) {
            double all = 0.0, with = 0.0;
            constexpr int n = 720;
            for (int i = 0; i < n; ++i) {
                const double a = turn * i / n;
                all += s.energy(w, a) * turn / n;
                if (std::cos(a - s.toward) > 0.0)
                    with += s.energy(w, a) * turn / n;
            }
            NEAR(all, s.energy(w), 2e-3);
            QVERIFY(with > 0.6 * all && with < 0.8 * all); // a quarter runs against it, little across
        }
    }

    void tilesHoldWhatTheSpectrumSays_data()
    {
        QTest::addColumn<double>("wind");
        QTest::addColumn<double>("fetch");
        QTest::newRow("sea") << 9.0 << 2e6;
        QTest::newRow("lake") << 6.0 << 3e3;
        QTest::newRow("pond") << 3.0 << 60.0;
    }
    void tilesHoldWhatTheSpectrumSays()
    {
        QFETCH(double, wind);
        QFETCH(double, fetch);
        const Swell s = sea(wind, fetch);
        double heights = 0.0, slopes = 0.0, mean = 0.0;
        int count = 0;
        for (int k = 0; k < 4; ++k) {
            const SwellField f = field(s, 37.0 * k, 0.0, 0.0, 256, static_cast<std::uint32_t>(k + 1));
            const auto wide = static_cast<float>(f.modes().tiles().front().length);
            for (int i = 0; i < often(40000); ++i) {
                const auto n = static_cast<std::uint32_t>(i);
                const auto at = f.at(wide * unitFloat(hash32(n, 8u)), wide * unitFloat(hash32(n, 9u)), 0.f);
                heights += double(at.height) * double(at.height);
                slopes += double(at.slopeX) * double(at.slopeX) + double(at.slopeZ) * double(at.slopeZ);
                mean += double(at.height);
                ++count;
            }
        }
        const double end = turn / s.shortest, variance = s.variance(0.0, end);
        // What lies between the samples is a little lower than the waves are.
        NEAR(4.0 * std::sqrt(heights / count), 4.0 * std::sqrt(variance), within(0.03));
        NEAR(slopes / count, s.slopeVariance(0.0, end), within(0.25));
        QVERIFY(std::abs(mean / count) < within(0.03) * std::sqrt(variance));
    }

    void aLoopCloses()
    {
        const Swell s = sea(9.0);
        const double loop = 8.0, hs = s.significantHeight();
        const SwellField a = field(s, 0.0, 1.0, loop), b = field(s, loop, 1.0, loop),
                         c = field(s, 0.5 * loop, 1.0, loop);
        double most = 0.0, other = 0.0;
        for (int i = 0; i < 500; ++i) {
            const float x = 3.7f * static_cast<float>(i), z = -2.3f * static_cast<float>(i);
            most = std::max(most, std::abs(double(a.at(x, z, 0.f).height - b.at(x, z, 0.f).height)));
            other = std::max(other, std::abs(double(a.at(x, z, 0.f).height - c.at(x, z, 0.f).height)));
        }
        QVERIFY2(most < 1e-4 * hs, qPrintable(QString::number(most / hs)));
        QVERIFY(other > 0.2 * hs);
    }

    void wavesRunWhereAndAsFastAsTheyShould()
    {
        // One narrow swell, 40 m long, toward 120°: 5 s later it is where it was, that much farther.
        Swell s = sea(0.0);
        s.otherHeight = 1.0;
        s.otherLength = 40.0;
        s.otherToward = 120.0 * turn / 360.0;
        const double k = turn / 40.0, speed = media::frequencyOf(k, s.depth) / k, seconds = 0.8;
        const SwellField a = field(s, 0.0, 0.0), b = field(s, seconds, 0.0);
        const Vec2 way(std::sin(float(s.otherToward)), -std::cos(float(s.otherToward)));
        const auto alike = [&](double far) {
            double both = 0.0, one = 0.0;
            for (int i = 0; i < 3000; ++i) {
                const auto n = static_cast<std::uint32_t>(i);
                const float x = 900.f * unitFloat(hash32(n, 1u)), z = 900.f * unitFloat(hash32(n, 2u));
                const double h = double(a.at(x, z, 0.f).height);
                both += h * double(b.at(x + way.x * float(far), z + way.y * float(far), 0.f).height);
                one += h * h;
            }
            return both / one;
        };
        QVERIFY2(alike(speed * seconds) > 0.97, qPrintable(QString::number(alike(speed * seconds))));
        QVERIFY(alike(-speed * seconds) < 0.6);
        NEAR(s.significantHeight(), 1.0, 0.01);
        NEAR(s.peakLength(), 40.0, 0.02);
    }

    void wavesAreSharpAboveAndFlatBelow()
    {
        const Swell s = sea(10.0);
        const SwellField flat = field(s, 3.0, 0.0), sharp = field(s, 3.0, 1.0);
        QCOMPARE(flat.shareUnder(0.f), 0.f);
        const SwellField folds = field(s, 3.0, 4.0);
        QVERIFY2(folds.shareUnder(0.f) > 0.01f, qPrintable(QString::number(folds.shareUnder(0.f))));
        QVERIFY(field(s, 3.0, 6.0).shareUnder(0.f) > folds.shareUnder(0.f));
        NEAR(sharp.foldedAt(4.f), folds.shareUnder(0.f), 0.02);
        // Where it stands high it is drawn together: there is less of it up there, as seen from above.
        double sum = 0.0, weight = 0.0;
        for (int i = 0; i < often(60000); ++i) {
            const auto n = static_cast<std::uint32_t>(i);
            const auto at = sharp.at(900.f * unitFloat(hash32(n, 1u)), 900.f * unitFloat(hash32(n, 2u)), 0.f);
            const double own = std::max(0.f, at.jacobian());
            sum += own * double(at.height);
            weight += own;
        }
        // The mean over the surface sinks as crests narrow: by the mean of height times what it is drawn together.
        QVERIFY2(sum / weight < -0.01, qPrintable(QString::number(sum / weight)));
    }

    void farApartNothingRepeats()
    {
        // Over 4 km no shift brings the sea back onto itself.
        Swell s = sea(9.0);
        s.shortest = 4.0;
        const SwellField f = field(s, 0.0, 1.0, 0.0, 512);
        constexpr int n = 4000;
        const auto at = [&](int i, Vec2 shift) {
            const auto k = static_cast<std::uint32_t>(i);
            return double(
                f.at(2000.f * unitFloat(hash32(k, 1u)) + shift.x, 2000.f * unitFloat(hash32(k, 2u)) + shift.y, 0.f)
                    .height);
        };
        std::vector<double> own(n);
        double power = 0.0;
        for (int i = 0; i < n; ++i) {
            own[i] = at(i, Vec2(0.f));
            power += own[i] * own[i];
        }
        double worst = 0.0;
        std::vector<Vec2> shifts;
        for (const SwellModes::Tile& t : f.modes().tiles())
            for (int k = 1; k <= 3; ++k)
                if (const auto far = static_cast<float>(k * t.length); far < 2000.f && far > 40.f) {
                    shifts.push_back(Vec2(far, 0.f));
                    shifts.push_back(Vec2(0.f, far));
                }
        for (int k = 0; k < 150; ++k)
            shifts.push_back(Vec2(200.f + 1800.f * unitFloat(hash32(std::uint32_t(k), 3u)),
                                  200.f + 1800.f * unitFloat(hash32(std::uint32_t(k), 4u))));
        for (const Vec2& shift : shifts) {
            double both = 0.0;
            for (int i = 0; i < n; ++i)
                both += own[i] * at(i, shift);
            worst = std::max(worst, both / power);
        }
        QVERIFY2(worst < 0.2, qPrintable(QString::number(worst)));
        QVERIFY(f.modes().tiles().front().length > 4000.0);
    }

    void raysMeetItWhereItStands()
    {
        for (const double wind : {2.0, 9.0, 20.0}) {
            media::OpenWater::Settings to;
            to.level = 1.5f;
            to.eye = Vec3(10.f, 8.f, -4.f);
            to.pixelAngle = 1e-5f;
            const auto w = water(sea(wind, 5e4), to);
            Random random(7);
            int met = 0;
            constexpr int rays = 400;
            for (int i = 0; i < rays; ++i) {
                const float a = random.range(0.f, 6.28f), down = random.range(0.15f, 1.2f);
                const Vec3 d = Vec3(std::sin(a), -down, std::cos(a)).normalized();
                geometry::Hit hit;
                if (!w->trace(to.eye, d, 0.f, 1e4f, hit))
                    continue;
                ++met;
                const Vec3 p = to.eye + d * hit.t;
                const float off = p.y - w->heightAt(p.x, p.z, 1e-3f);
                QVERIFY2(std::abs(off) < 0.01f + 1e-3f * hit.t,
                         qPrintable(QString("%1 m off at %2 m").arg(off).arg(hit.t)));
                QVERIFY(hit.normal.dot(d) < 0.f && hit.facet.dot(d) < 0.f && hit.material && hit.material->isWater);
                NEAR(hit.normal.length(), 1.f, 1e-4);
            }
            QCOMPARE(met, rays); // no hole
            geometry::Hit hit;
            QVERIFY(!w->trace(to.eye, Vec3(0.6f, 0.2f, 0.f).normalized(), 0.f, 1e5f, hit));
            QVERIFY(!w->trace(to.eye, Vec3(0.f, -1.f, 0.f), 0.f, 2.f, hit));
        }
    }

    void calmWaterIsFlatToTheHorizon()
    {
        const auto w = water(sea(0.0));
        for (const float down : {0.5f, 0.05f, 1e-3f, 2e-4f}) {
            geometry::Hit hit;
            const Vec3 d = Vec3(0.6f, -down, -0.8f).normalized();
            QVERIFY(w->trace(Vec3(0.f, 3.f, 0.f), d, 0.f, 1e6f, hit));
            NEAR(hit.t, 3.f / -d.y, 1e-3);
            NEAR(hit.normal.y, 1.f, 1e-4);
            NEAR(hit.facet.y, 1.f, 1e-3);
        }
    }

    void whatIsTooSmallToSeeIsASpreadOfFacets()
    {
        // From a picture's far pixels facets spread as the whole sea's slopes do, from near ones hardly at all.
        const Swell s = sea(8.0);
        const auto slopes = [&](float far, float angle) {
            media::OpenWater::Settings to;
            to.eye = Vec3(0.f, far, 0.f);
            to.pixelAngle = angle;
            const auto w = water(s, to, 0.0);
            double sum = 0.0;
            int n = 0;
            Random random(3);
            for (int i = 0; i < often(4000); ++i) {
                const Vec3 d = Vec3(random.range(-0.1f, 0.1f), -1.f, random.range(-0.1f, 0.1f)).normalized();
                geometry::Hit hit;
                if (!w->trace(to.eye, d, 0.f, 1e5f, hit))
                    continue;
                sum += double(hit.facet.x * hit.facet.x + hit.facet.z * hit.facet.z) /
                       double(hit.facet.y * hit.facet.y);
                ++n;
            }
            return sum / n;
        };
        const double all = s.slopeVariance(0.0, 1e9);
        NEAR(slopes(20000.f, 0.02f), all, within(0.06)); // a pixel of 400 m
        NEAR(slopes(2000.f, 0.002f), all, within(0.12)); // some of it shape, some facets
        NEAR(slopes(60.f, 1e-3f), all, within(0.2));
        // Cox & Munk measured 0.003 + 0.00512·U of sun glints.
        NEAR(all, 0.003 + 0.00512 * 8.0, 0.35);
    }

    void whiteIsAsMuchAsIsKnown()
    {
        NEAR(media::whiteShare(10.0), 3.84e-6 * std::pow(10.0, 3.41), 1e-9);
        // Near, where waves are shape, and from so far that most of them are not.
        for (const auto& [wind, angle] : {std::pair{9.0, 1e-5f}, {15.0, 1e-5f}, {15.0, 3e-2f}}) {
            const double wanted = media::whiteShare(wind);
            media::OpenWater::Settings to;
            to.eye = Vec3(0.f, 300.f, 0.f);
            to.pixelAngle = angle;
            to.foam = static_cast<float>(wanted);
            const auto w = water(sea(wind), to);
            int white = 0;
            constexpr int looks = 40000;
            for (int i = 0; i < often(looks); ++i) {
                const auto n = static_cast<std::uint32_t>(i);
                geometry::Hit hit;
                const Vec3 from(800.f * unitFloat(hash32(n, 1u)), 300.f, 800.f * unitFloat(hash32(n, 2u)));
                QVERIFY(w->trace(from, Vec3(0.f, -1.f, 0.f), 0.f, 1e4f, hit));
                white += hit.material->isWater ? 0 : 1;
            }
            const double share = double(white) / often(looks);
            QVERIFY2(watched || (share > 0.5 * wanted && share < 2.0 * wanted),
                     qPrintable(QString("%1 of %2").arg(share).arg(wanted)));
        }
    }

    void foamLiesBehindTheCrestsThatMadeIt()
    {
        // Where the water breaks now: behind it, where crests come from, there is foam; ahead there is less.
        media::OpenWater::Settings to;
        to.foam = static_cast<float>(media::whiteShare(14.0));
        to.foamHalves = 2.f;
        to.crests = Vec2(6.f, 0.f);
        const auto w = water(sea(14.0), to);
        to.foamHalves = 0.f;
        const auto bare = water(sea(14.0), to);
        double behind = 0.0, ahead = 0.0, without = 0.0;
        int breaks = 0;
        for (std::uint32_t n = 0; n < 60000 && breaks < 200; ++n) {
            const Vec2 at(900.f * unitFloat(hash32(n, 1u)), 900.f * unitFloat(hash32(n, 2u)));
            if (bare->foamAt(at, 0.05f, n).cover < 0.5f)
                continue;
            ++breaks;
            const Vec2 far(8.f, 0.f);
            behind += double(w->foamAt(at - far, 0.05f, n).cover);
            ahead += double(w->foamAt(at + far, 0.05f, n).cover);
            without += double(bare->foamAt(at - far, 0.05f, n).cover);
        }
        QVERIFY(breaks > 50);
        QVERIFY2(behind > 1.3 * ahead && behind > 1.3 * without,
                 qPrintable(QString("%1 %2 %3").arg(behind).arg(ahead).arg(without)));
    }

    void foamLiesAtShores()
    {
        // A post of 1 m in a choppy sea: it washes white about it, as far as its waves are high, and not a step on.
        auto post = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh m;
        for (int i = 0; i < 8; ++i)
            m.positions.push_back(Vec3(i & 1 ? 0.5f : -0.5f, i & 2 ? 3.f : -3.f, i & 4 ? 0.5f : -0.5f));
        m.normals.assign(8, Vec3(0, 1, 0));
        m.indices = {0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4,
                     2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5};
        post->meshes.push_back(m);
        post->materials.emplace_back();
        post->triangles = 12;
        for (const Vec3& p : m.positions)
            post->bounds.extendBy(p);
        const geometry::RayScene scene({{post, Mat4()}}, job_);
        const auto shores = std::make_shared<const geometry::Shores>(scene, 0.f, Vec2(0.f), job_);
        NEAR(shores->away(2.5f, 0.f), 2.f, 0.1);
        NEAR(shores->away(0.f, -4.f), 3.5f, 0.05);
        NEAR(shores->away(2.5f, 2.5f), std::sqrt(8.f), 0.1);
        QCOMPARE(shores->away(50.f, 0.f), geometry::Shores::farthest);
        QCOMPARE(shores->away(500.f, 0.f), geometry::Shores::farthest);
        media::OpenWater::Settings to;
        to.shores = shores;
        to.waveHeight = 0.8f;
        to.foamAtShores = media::shoreFoamOf(0.8f);
        const auto w = water(sea(6.0), to);
        QVERIFY(w->foamAt(Vec2(0.6f, 0.f), 0.05f, 1u).cover > 0.1f);
        QVERIFY(w->foamAt(Vec2(3.f, 0.f), 0.05f, 1u).cover < 0.02f);
        QCOMPARE(media::shoreFoamOf(0.01f), 0.f);
    }

    void groundShowsThroughAsFarAsItShould()
    {
        // A white floor under h metres: what is lost is lost down and up again.
        media::WaterBody pure;
        for (const float h : {1.f, 3.f, 10.f})
            for (int c = 0; c < 3; ++c)
                NEAR(pure.over(Vec3(0.9f), h, h)[c], 0.9f * std::exp(-2.f * h * pure.absorption[c]), 0.01);
        for (const media::WaterType& t : media::waterTypes()) {
            const Vec3 deep = t.body.deep();
            QVERIFY(deep.x > 0.f && deep.y > 0.f && deep.z > 0.f && std::max({deep.x, deep.y, deep.z}) < 0.4f);
            QVERIFY(t.body.sight() > 0.1f && t.body.sight() < 200.f);
            const Vec3 far = t.body.over(Vec3(0.5f), 90.f, 90.f);
            QVERIFY((far - deep).length() < 0.02f);
        }
        QVERIFY(media::waterTypes().front().body.sight() > 20.f); // clear sea
    }

    void looksBendWhereTheyGoIn()
    {
        // Snell: seen from below all of the sky lies within 48.6° of straight up.
        const Vec3 level = geometry::refracted(Vec3(1.f, -1e-5f, 0.f).normalized(), Vec3(0.f, 1.f, 0.f));
        NEAR(std::asin(double(level.x)) * 360.0 / turn, 48.6, 0.002);
        const Vec3 d = Vec3(std::sin(0.5f), -std::cos(0.5f), 0.f);
        NEAR(geometry::refracted(d, Vec3(0.f, 1.f, 0.f)).x, std::sin(0.5f) / 1.333f, 1e-5);
        QVERIFY((geometry::refracted(Vec3(0.f, -1.f, 0.f), Vec3(0.f, 1.f, 0.f)) - Vec3(0.f, -1.f, 0.f)).length() <
                1e-6f);
    }

    void aSceneMeetsSetsAndWater()
    {
        // A floor 2 m under still clear water: its colour through the water, and where nothing lies, the deep's.
        auto floor = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh m;
        m.positions = {Vec3(-5, -2, -5), Vec3(5, -2, -5), Vec3(5, -2, 5), Vec3(-5, -2, 5)};
        m.normals.assign(4, Vec3(0, 1, 0));
        m.indices = {0, 2, 1, 0, 3, 2};
        floor->meshes.push_back(m);
        geometry::Material white;
        white.baseColour = Vec3(0.8f);
        floor->materials.push_back(white);
        floor->triangles = 2;
        media::OpenWater::Settings to;
        to.body = media::WaterBody();
        const auto surface = water(sea(0.0), to);
        geometry::PlacedWater placed{surface, "sea", 5};
        const geometry::RayScene scene({{floor, Mat4()}}, job_, {}, {placed});
        geometry::Hit hit;
        QVERIFY(scene.trace(Vec3(0.f, 3.f, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 100.f, hit));
        NEAR(hit.t, 3.f, 1e-3);
        QCOMPARE(hit.set, std::uint16_t(5));
        QVERIFY(hit.water == surface.get() && hit.material->isWater);
        QVERIFY(scene.trace(Vec3(60.f, 3.f, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 100.f, hit));
        // From under it the same ground, and its underside.
        QVERIFY(scene.traceUnder(*surface, Vec3(0.f, -1.f, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 100.f, hit));
        NEAR(hit.t, 1.f, 1e-4);
        QVERIFY(scene.traceUnder(*surface, Vec3(0.f, -1.f, 0.f), Vec3(0.f, 1.f, 0.f), 0.f, 100.f, hit));
        NEAR(hit.t, 1.f, 1e-3);
        QVERIFY(hit.geometricNormal.y < -0.99f);
        // What stands out of it is met first; shadows pass it.
        QVERIFY(!scene.occluded(Vec3(60.f, -1.f, 0.f), Vec3(0.f, 1.f, 0.f), 100.f));
        QCOMPARE(scene.waters().size(), std::size_t(1));
    }
};

QTEST_GUILESS_MAIN(TestSwell)
#include "test_swell.moc"
