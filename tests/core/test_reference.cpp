/// The reference integrator beyond single numbers: coloured matter, beams, glow and panoramas, accumulations and
/// denoising.
#include "support.h"

#include "base/parallel.h"
#include "media/tracking.h"
#include "render/denoise.h"
#include "render/flights.h"
#include "render/path_integrator.h"
#include "render/reference.h"
#include "render/still.h"

#include <QtTest>
#include <numeric>

using namespace hygros;
using namespace hygros::render;
using shot::Shot;

namespace {
media::Medium slabOf(float depth, float g, Vec3 albedo = Vec3(1.f))
{
    media::Medium m;
    m.id = "slab";
    m.shape = media::Shape::Layer;
    m.base = 0.f;
    m.top = 2.f;
    m.sigmaT = depth / 2.f;
    m.phase.g = g;
    m.albedo = albedo;
    return m;
}

/// What comes back from above and what goes through, from light of radiance 1 above a slab before a black ground.
struct Slab {
    double back, error;
};
Slab slab(const media::Medium& m, int n)
{
    auto s = std::make_shared<Shot>();
    s->scene = test::mattePlate(-1.f, 1e6f);
    s->media = {m};
    PathIntegrator paths(s, 8, 8);
    paths.setUniformSurroundings(1.f);
    constexpr int rows = 30;
    std::vector<double> means(rows, 0.0);
    parallelFor(rows, [&](std::size_t row) {
        for (int i = 0; i < n / rows; ++i) {
            Random random(hash32(static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(row), 17u));
            const auto l = paths.light(Vec3(0, 5, 0), Vec3(0, -1, 0), 1e-3f, random);
            means[row] += static_cast<double>(l.set.y + l.air.y) / (n / rows);
        }
    });
    const double mean = std::accumulate(means.begin(), means.end(), 0.0) / rows;
    double square = 0.0;
    for (const double v : means)
        square += (v - mean) * (v - mean);
    return {mean, std::sqrt(square / (rows - 1) / rows)};
}

/// A ball of one value in the middle of its grid, radius 12 voxels.
std::shared_ptr<const media::BrickGrid> ballGrid()
{
    std::vector<std::vector<float>> values;
    std::vector<media::BrickGrid::Block> blocks;
    values.reserve(64);
    for (int b = 0; b < 64; ++b) {
        const int bx = b / 16, by = b / 4 % 4, bz = b % 4;
        std::vector<float> v(512);
        for (int i = 0; i < 512; ++i) {
            const Vec3 p(static_cast<float>(bx * 8 + i / 64), static_cast<float>(by * 8 + i / 8 % 8),
                         static_cast<float>(bz * 8 + i % 8));
            v[static_cast<std::size_t>(i)] = (p - Vec3(15.5f)).length() < 12.f ? 1.f : 0.f;
        }
        values.push_back(std::move(v));
        blocks.push_back({bx, by, bz, values.back().data(), 0.f});
    }
    JobControl job;
    return media::BrickGrid::fromBlocks(blocks, job);
}

media::Volume ball(Vec3 centre, float sigma)
{
    media::Volume v;
    v.id = "ball";
    v.density = ballGrid();
    v.sigmaT = sigma;
    Mat4 place;
    place.setScale(Vec3(0.1f));
    Mat4 shift;
    shift.setTranslation(centre - Vec3(1.55f));
    v.place(place * shift);
    return v;
}

std::shared_ptr<Shot> dark()
{
    auto s = std::make_shared<Shot>();
    s->scene = test::emptyScene();
    s->camera = {Vec3(0, 0, 8), Vec3(0, 0, 0), 35.f, 36.f};
    return s;
}

/// Mean light of the whole picture after so many paths a pixel.
Vec3 lightOf(const PathIntegrator& paths)
{
    const std::vector<float> rgb = paths.picture();
    Vec3 sum(0.f);
    for (std::size_t i = 0; i < rgb.size(); i += 3)
        sum += Vec3(rgb[i], rgb[i + 1], rgb[i + 2]) / (static_cast<float>(rgb.size()) / 3.f);
    return sum;
}

double spread(const std::vector<double>& v)
{
    const double mean = std::accumulate(v.begin(), v.end(), 0.0) / static_cast<double>(v.size());
    double s = 0.0;
    for (const double x : v)
        s += (x - mean) * (x - mean);
    return std::sqrt(s / static_cast<double>(v.size() - 1)) / mean;
}

light::Lamp spot()
{
    light::Lamp l;
    l.id = "lamp";
    l.shape = light::Lamp::Shape::Spot;
    l.position = Vec3(0.f, 4.f, 0.f);
    l.aimAlong(Vec3(0, -1, 0));
    l.cosInner = 0.98f;
    l.cosOuter = 0.95f;
    l.radius = 0.02f;
    l.glow = 0.f;
    l.intensity = Vec3(10.f);
    return l;
}
/// A floor 100 m wide at height 0.
std::shared_ptr<geometry::SetGeometry> floorOf(const geometry::Material& material)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    geometry::Mesh m;
    m.positions = {Vec3(-50, 0, -50), Vec3(50, 0, -50), Vec3(50, 0, 50), Vec3(-50, 0, 50)};
    m.normals.assign(4, Vec3(0, 1, 0));
    m.indices = {0, 2, 1, 0, 3, 2};
    set->meshes.push_back(m);
    set->materials.push_back(material);
    set->triangles = 2;
    return set;
}
} // namespace

class TestReference : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void raysThatComeDownIntoThinningHazeEndSoon()
    {
        // From a cloud down through haze that thins over 30 m, and on below the ground, where it is e³⁰ times as dense:
        // a bound for kilometres of it would take millions of steps a metre.
        auto s = std::make_shared<Shot>();
        s->scene = test::mattePlate(-1.f, 1.f);
        media::Medium haze;
        haze.shape = media::Shape::Thinning;
        haze.sigmaT = 6e-4f;
        haze.thinning = 30.f;
        s->media = {haze};
        const Flights flights(*s);
        Random random(5);
        QElapsedTimer clock;
        clock.start();
        double sum = 0.0;
        constexpr int n = 4000;
        for (int i = 0; i < n; ++i) {
            const Vec3 down = Vec3(0.f, -1.f, 0.f);
            sum += double(flights.through(Vec3(0, 600, 0), down, 660.f, false, true, random).x) / n;
            // All the way, steeply and flatly: nothing is left.
            for (const float slope : {-1.f, -0.3f, -0.05f}) {
                const Vec3 way = Vec3(1.f, slope, 0.f).normalized();
                QCOMPARE(flights.through(Vec3(0, 600, 0), way, 5e4f, false, true, random).x, 0.f);
                Flights::Collision c;
                Vec3 weight(1.f);
                QVERIFY(flights.collide(Vec3(0, 600, 0), way, 5e4f, false, weight, random, c));
            }
        }
        const double depth = 6e-4 * 30.0 * (std::exp(2.0) - std::exp(-20.0));
        NEAR(sum, std::exp(-depth), 0.02);
        QVERIFY2(clock.elapsed() < 4000, qPrintable(QString::number(clock.elapsed())));
    }

    void slabsReflectAndTransmitByTheirDepth_data()
    {
        QTest::addColumn<double>("depth");
        QTest::addColumn<double>("g");
        QTest::addColumn<double>("albedo");
        for (const double depth : {0.25, 1.0, 2.0, 8.0})
            for (const double g : {0.0, 0.6, -0.4})
                for (const double albedo : {1.0, 0.8})
                    QTest::addRow("depth %g, g %g, albedo %g", depth, g, albedo) << depth << g << albedo;
    }
    void slabsReflectAndTransmitByTheirDepth()
    {
        QFETCH(double, depth);
        QFETCH(double, g);
        QFETCH(double, albedo);
        // The same walk in one dimension of depth: a check that shares no code.
        std::uint64_t state = 88172645463325252ull;
        const auto next = [&] {
            state ^= state << 13;
            state ^= state >> 7;
            state ^= state << 17;
            return static_cast<double>(state >> 11) * 0x1p-53;
        };
        double back = 0.0;
        constexpr int n = 80000;
        for (int i = 0; i < n; ++i) {
            double z = 0.0, mu = 1.0, weight = 1.0;
            for (int event = 0; event < 4000; ++event) {
                z += mu * -std::log(1.0 - next());
                if (z < 0.0)
                    back += weight;
                if (z < 0.0 || z > depth)
                    break;
                weight *= albedo;
                const double u = next(), s = g == 0.0 ? 0.0 : (1.0 - g * g) / (1.0 - g + 2.0 * g * u),
                             c = g == 0.0 ? 2.0 * u - 1.0 : (1.0 + g * g - s * s) / (2.0 * g);
                mu = mu * c + std::sqrt(std::max(0.0, (1.0 - mu * mu) * (1.0 - c * c))) * std::cos(2.0 * M_PI * next());
            }
        }
        back /= n;
        const Slab own = slab(
            slabOf(static_cast<float>(depth), static_cast<float>(g), Vec3(static_cast<float>(albedo))), 80000);
        const double noise = std::sqrt(back * (1.0 - back) / n);
        QVERIFY2(std::abs(own.back - back) < 0.005 * back + 3.0 * std::hypot(noise, own.error),
                 qPrintable(QString("%1 ± %2, not %3").arg(own.back).arg(own.error).arg(back)));
    }

    void trackingByChannelIsRightForEveryChannel()
    {
        // A ball whose channels are 0.2, 1 and 3 /m thick: what comes through its middle by channel, from delta
        // tracking with one path for all three.
        auto v = ball(Vec3(0.f), 1.f);
        v.spectrum = Vec3(0.2f, 1.f, 3.f);
        v.albedo = Vec3(0.f);
        auto s = dark();
        s->volumes = {v};
        const Flights flights(*s);
        constexpr int seeds = 30, tries = 4000;
        for (int c = 0; c < 3; ++c) {
            // The exact depth along x through the middle.
            double depth = 0.0;
            for (int i = 0; i < 4000; ++i)
                depth += static_cast<double>(
                             media::opticsAt(v, Vec3(-2.f + 0.001f * (static_cast<float>(i) + 0.5f), 0.02f, 0.02f))
                                 .extinction[c]) *
                         0.001;
            for (const bool ratio : {false, true}) {
                double mean = 0.0, square = 0.0;
                for (int seed = 0; seed < seeds; ++seed) {
                    Random random(hash32(static_cast<std::uint32_t>(seed), 5u));
                    double own = 0.0;
                    for (int i = 0; i < tries; ++i) {
                        Vec3 weight(1.f);
                        Flights::Collision where;
                        if (ratio)
                            own += static_cast<double>(flights.through(Vec3(-2.f, 0.02f, 0.02f), Vec3(1, 0, 0), 4.f,
                                                                       false, false, random)[c]) /
                                   tries;
                        else if (!flights.collide(Vec3(-2.f, 0.02f, 0.02f), Vec3(1, 0, 0), 4.f, false, weight, random,
                                                  where))
                            own += static_cast<double>(weight[c]) / tries;
                    }
                    mean += own / seeds;
                    square += own * own / seeds;
                }
                const double error = std::sqrt(std::max(1e-30, square - mean * mean) / (seeds - 1));
                QVERIFY2(std::abs(mean - std::exp(-depth)) < 3.0 * error + 1e-4,
                         qPrintable(
                             QString("channel %1: %2 ± %3, not %4").arg(c).arg(mean).arg(error).arg(std::exp(-depth))));
            }
        }
    }

    void whatIsClearAroundTheEyeHoldsNoChances()
    {
        // Haze that thins within half a metre, its base far above: e³⁰ times as dense all around, but for a ball.
        auto haze = test::uniformAir(0.05f);
        haze.shape = media::Shape::Thinning;
        haze.base = 365.f;
        haze.thinning = 0.5f;
        haze.clear = 180.f;
        haze.clearCentre = Vec3(-3.f, 2.f, -66.f);
        auto s = dark();
        s->media = {haze};
        const Flights flights(*s);
        Random random(3u);
        const Vec3 up = Vec3(-0.155557f, 0.387096f, -0.908822f).normalized();
        for (const Vec3& d : {up, Vec3(0, 1, 0), Vec3(0, -1, 0), Vec3(1, 0, 0)}) {
            // From the eye to the ball's edge nothing is met, and nothing comes through what is beyond.
            Vec3 weight(1.f);
            Flights::Collision c;
            QVERIFY(!flights.collide(haze.clearCentre, d, 179.9f, false, weight, random, c));
            QVERIFY(flights.collide(haze.clearCentre, d, 1e5f, false, weight, random, c));
            NEAR(c.t, 180.f, 1e-3f);
            QCOMPARE(flights.through(haze.clearCentre, d, 179.9f, false, false, random), Vec3(1.f));
            QCOMPARE(flights.through(haze.clearCentre, d, 1e5f, false, false, random), Vec3(0.f));
            // And from beside the eye, across the middle.
            QCOMPARE(flights.through(haze.clearCentre - d * 100.f, d, 279.9f, false, false, random), Vec3(1.f));
            QCOMPARE(flights.through(haze.clearCentre - d * 100.f, d, 281.f, false, false, random), Vec3(0.f));
        }
        // Clean air so dense takes light by channel, and makes none.
        haze.clear = 0.f;
        haze.clean = true;
        s->media = {haze};
        const Flights clean(*s);
        for (int i = 0; i < 1000; ++i) {
            Vec3 weight(1.f);
            Flights::Collision c;
            QVERIFY(clean.collide(haze.clearCentre, Vec3(0, 1, 0), 1e5f, true, weight, random, c));
            QVERIFY2(weight.x >= 0.f && weight.x + weight.y + weight.z < 100.f,
                     qPrintable(QString("%1 %2 %3").arg(weight.x).arg(weight.y).arg(weight.z)));
        }
        haze.clean = false;
        // Even haze with a clear ball in it: what comes through a chord beside its middle.
        haze = test::uniformAir(0.05f);
        haze.clear = 10.f;
        haze.clearCentre = Vec3(0.f);
        s->media = {haze};
        const Flights beside(*s);
        double left = 0.0, passed = 0.0;
        constexpr int tries = 40000;
        for (int i = 0; i < tries; ++i) {
            left += double(beside.through(Vec3(-15, 6, 0), Vec3(1, 0, 0), 30.f, false, false, random).x) / tries;
            Vec3 weight(1.f);
            Flights::Collision c;
            passed += !beside.collide(Vec3(-15, 6, 0), Vec3(1, 0, 0), 30.f, false, weight, random, c) / double(tries);
        }
        // 14 m of 30 lie outside.
        QVERIFY(std::abs(left - std::exp(-0.05 * 14.0)) < 0.01);
        QVERIFY(std::abs(passed - std::exp(-0.05 * 14.0)) < 0.01);
    }

    void overTheirTopMediaCostAFlightNothing()
    {
        // Even haze that ends at a height, and a bank: a flight that has left both asks for no chance any more.
        auto haze = test::uniformAir(0.4f), bank = test::uniformAir(2.f);
        haze.top = 1.5f;
        bank.shape = media::Shape::Layer;
        bank.base = 0.f;
        bank.top = 3.f;
        auto s = std::make_shared<shot::Shot>();
        s->scene = test::mattePlate(0.f, 60.f);
        s->media = {haze, bank};
        const Flights flights(*s);
        const auto drawn = [&](const Vec3& from, const Vec3& along) {
            Random random(5u), counted(5u);
            Vec3 weight(1.f);
            Flights::Collision c;
            const bool met = flights.collide(from, along, 1e5f, false, weight, random, c);
            const float next = random.next();
            int n = 0;
            while (counted.next() != next && n < 100000)
                ++n;
            return std::pair(met, n);
        };
        QCOMPARE(drawn(Vec3(0.f, 4.f, 0.f), Vec3(0.f, 1.f, 0.f)), std::pair(false, 0));
        // From inside: as many as fit into what is left of them, and no more.
        int most = 0;
        for (int i = 0; i < 200; ++i) {
            const auto [met, n] = drawn(Vec3(0.01f * static_cast<float>(i), 1.45f, 0.f), Vec3(0.f, 1.f, 0.f));
            most = std::max(most, n);
        }
        QVERIFY2(most < 60, qPrintable(QString::number(most)));
        // And ways of any kind through both, a far ball and thinning air are let through as their depth has it.
        media::Medium ball, thin;
        ball.shape = media::Shape::Sphere;
        ball.centre = Vec3(0.f, 3.f, -40.f);
        ball.half = Vec3(5.f);
        ball.sigmaT = 0.3f;
        thin.shape = media::Shape::Thinning;
        thin.sigmaT = 0.01f;
        thin.thinning = 30.f;
        haze.sigmaT = 0.02f;
        bank.sigmaT = 0.1f;
        s->media = {haze, bank, ball, thin};
        const Flights both(*s);
        Random random(11u);
        double off = 0.0, missed = 0.0, wanted = 0.0;
        constexpr int ways = 600, tries = 60;
        for (int i = 0; i < ways; ++i) {
            const Vec3 from(random.range(-3.f, 3.f), random.range(0.f, 6.f), random.range(-60.f, 3.f)),
                along = Vec3(random.range(-0.3f, 0.3f), random.range(-0.2f, 0.2f), random.range(-1.f, 0.2f))
                            .normalized();
            double depth = 0.0;
            for (const media::Medium& m : s->media)
                depth += double(media::opticalDepth(m, from, along, 0.f, 90.f));
            for (int k = 0; k < tries; ++k) {
                Vec3 weight(1.f);
                Flights::Collision c;
                off += double(both.through(from, along, 90.f, false, false, random).x) - std::exp(-depth);
                missed += both.collide(from, along, 90.f, false, weight, random, c) ? 0.0 : 1.0;
                wanted += std::exp(-depth);
            }
        }
        QVERIFY2(std::abs(off / wanted) < 0.02, qPrintable(QString::number(off / wanted)));
        // What has a closed form is not asked by chance.
        s->media = {haze, thin};
        const Flights known(*s);
        const Vec3 from(0.f, 0.5f, 0.f), along = Vec3(0.1f, 0.05f, -1.f).normalized();
        const double depth = double(media::opticalDepth(haze, from, along, 0.f, 90.f)) +
                             double(media::opticalDepth(thin, from, along, 0.f, 90.f));
        for (int k = 0; k < 10; ++k)
            NEAR(double(known.through(from, along, 90.f, false, false, random).x), std::exp(-depth), 1e-5);
        QVERIFY2(std::abs(missed / wanted - 1.0) < 0.02, qPrintable(QString::number(missed / wanted)));
    }

    void airAndBodiesOfAllKindsCompeteForAFlight()
    {
        // Straight up through air, a ball and a deck: what comes through, and what it meets first, by quadrature.
        auto s = dark();
        media::Medium air = slabOf(0.5f, 0.f);
        air.top = 400.f;
        air.sigmaT = 1e-3f;
        media::CloudDeck deck;
        deck.id = "deck";
        deck.base = 300.f;
        deck.thickness = 200.f;
        deck.coverage = 0.9f;
        deck.sigmaT = 0.01f;
        deck.settle();
        // Under a cloud, not under a gap.
        float east = 0.f;
        while (media::deckDensity8(deck, f8(east), f8(380.f), f8(0.f), f8(0.f))[0] < 0.3f && east < 20000.f)
            east += 50.f;
        auto v = ball(Vec3(east, 100.f, 0.f), 0.4f);
        v.id = "ball";
        v.albedo = Vec3(0.f);
        s->media = {air};
        s->volumes = {v};
        s->decks = {deck};
        QCOMPARE(s->bodyIds(), (std::vector<std::string>{"ball", "deck"}));
        const Flights flights(*s);
        QCOMPARE(flights.scatterers(), std::size_t{3});
        const Vec3 from(east + 0.02f, 0.f, 0.02f), up(0.f, 1.f, 0.f);
        double depth = 0.0;
        std::array<double, 3> first{};
        constexpr double step = 0.005;
        for (int i = 0; i < 120000; ++i) {
            const Vec3 p = from + up * static_cast<float>((i + 0.5) * step);
            const double whole = depth;
            for (std::size_t k = 0; k < 3; ++k) {
                const auto sigma = static_cast<double>(flights.extinction(k, p, false).x);
                first[k] += std::exp(-whole) * sigma * step;
                depth += sigma * step;
            }
        }
        QVERIFY2(std::min({first[0], first[1], first[2]}) > 0.05,
                 qPrintable(QString("%1 %2 %3 at %4").arg(first[0]).arg(first[1]).arg(first[2]).arg(east)));
        constexpr int tries = 40000;
        Random random(7u);
        std::array<double, 3> met{};
        double through = 0.0;
        for (int i = 0; i < tries; ++i) {
            Vec3 weight(1.f);
            Flights::Collision c;
            if (flights.collide(from, up, 600.f, false, weight, random, c))
                met[c.scatterer] += 1.0 / tries;
            through += static_cast<double>(flights.through(from, up, 600.f, false, false, random).x) / tries;
        }
        for (std::size_t k = 0; k < 3; ++k)
            QVERIFY2(std::abs(met[k] - first[k]) < 4.0 * std::sqrt(first[k] / tries) + 2e-3,
                     qPrintable(QString("scatterer %1: %2, not %3").arg(k).arg(met[k]).arg(first[k])));
        QVERIFY2(std::abs(through - std::exp(-depth)) < 0.01 * std::exp(-depth) + 2e-3,
                 qPrintable(QString("%1, not %2").arg(through).arg(std::exp(-depth))));
        // Their strength for a lamp and for the sky is by the same numbers.
        light::Lamp lamp;
        lamp.mediaReach = {0.5f};
        lamp.bodyReach = {0.25f, 0.125f};
        QCOMPARE(flights.reach(lamp, 0), 0.5f);
        QCOMPARE(flights.reach(lamp, 1), 0.25f);
        QCOMPARE(flights.reach(lamp, 2), 0.125f);
        QCOMPARE(flights.reach(shot::Shot::SkyReach{{}, {1.f, 0.f}, {}}, 2), 0.f);
    }

    void coloursThatOnlyAbsorbAreInvisibleNowhereAndWhiteOnesEverywhere()
    {
        // White furnace: matter that scatters all light, by different coefficients, does not show before even
        // surroundings.
        auto s = dark();
        auto v = ball(Vec3(0.f), 2.f);
        v.spectrum = Vec3(0.3f, 1.f, 2.f);
        s->volumes = {v};
        PathIntegrator paths(s, 24, 16);
        paths.setUniformSurroundings(1.f);
        for (int i = 0; i < 300; ++i)
            paths.pass();
        const Vec3 white = lightOf(paths);
        for (int c = 0; c < 3; ++c)
            NEAR(white[c], 1.f, 0.006);
        // A tint onto absorption takes its colour from what comes through: a mean free path lets half of the red
        // through beside its own dimming.
        media::Tint red;
        red.by = media::Tint::By::Axis;
        red.colours = {Vec3(0.5f, 1.f, 1.f), Vec3(0.5f, 1.f, 1.f)};
        red.onto = media::Tint::Onto::Absorption;
        v.spectrum = Vec3(1.f);
        v.tints = {red};
        const media::Optics o = media::opticsAt(v, Vec3(0.f));
        NEAR(o.extinction.x, 2.f * (1.f + std::log(2.f)), 1e-3);
        NEAR(o.extinction.y, 2.f, 1e-3);
        NEAR(o.extinction.x * o.albedo.x, 2.f, 1e-3); // scattering is left alone
        QVERIFY(media::mostRelative(v) >= 1.f + std::log(2.f));
    }

    void remapsBendScatteringAndAbsorptionApart()
    {
        auto v = ball(Vec3(0.f), 1.f);
        v.albedo = Vec3(0.6f);
        auto remap = std::make_shared<media::Remap>();
        remap->scattering.fill(0.5f);
        remap->absorption.fill(2.f);
        v.remap = remap;
        const media::Optics o = media::opticsAt(v, Vec3(0.f));
        NEAR(o.extinction.y * o.albedo.y, 0.3f, 1e-3);
        NEAR(o.extinction.y * (1.f - o.albedo.y), 0.8f, 1e-3);
        QVERIFY(media::mostRelative(v) >= 1.1f);
        QVERIFY(!media::isGrey(v));
    }

    void aCollisionIsDrawnInProportionAndItsFactorsMakeUpForIt()
    {
        const Vec3 weight(1.f, 0.2f, 0.f), sigma(0.5f, 2.f, 1.f);
        Vec3 happens(0.f), not_(0.f), factor;
        int times = 0;
        constexpr int n = 100000;
        for (int i = 0; i < n; ++i)
            if (media::collides(weight, sigma, 2.f, (static_cast<float>(i) + 0.5f) / n, factor)) {
                happens += factor / static_cast<float>(n);
                ++times;
            } else {
                not_ += factor / static_cast<float>(n);
            }
        QVERIFY(times > 0 && times < n);
        QVERIFY((happens - sigma / 2.f).length() < 1e-3f);
        QVERIFY((not_ - (Vec3(1.f) - sigma / 2.f)).length() < 1e-3f);
        QVERIFY(media::collides(Vec3(0.f), sigma, 2.f, 0.9f, factor) && factor == Vec3(0.f));
    }

    void beamsInThinAirAreFoundWithTheSameMeanAndFarLessNoise()
    {
        auto s = dark();
        s->lamps = {spot()};
        s->media = {test::uniformAir(0.004f)};
        s->camera = {Vec3(0, 2, 6), Vec3(0, 2, 0), 35.f, 36.f};
        std::vector<double> with, without;
        for (std::uint32_t seed = 0; seed < 24; ++seed)
            for (const bool looks : {true, false}) {
                PathIntegrator paths(s, 2, 2);
                paths.setLooksForBeams(looks);
                double sum = 0.0;
                constexpr int n = 6000;
                for (int i = 0; i < n; ++i) {
                    Random random(hash32(static_cast<std::uint32_t>(i), seed, looks ? 1u : 2u));
                    const Vec3 d = Vec3(0.2f * (random.next() - 0.5f), 0.2f * (random.next() - 0.5f), -1.f)
                                       .normalized();
                    const auto l = paths.light(Vec3(0, 2, 6), d, 1e-3f, random);
                    sum += static_cast<double>(l.air.y + l.set.y) / n;
                }
                (looks ? with : without).push_back(sum);
            }
        const auto mean = [](const std::vector<double>& v) {
            return std::accumulate(v.begin(), v.end(), 0.0) / static_cast<double>(v.size());
        };
        const double error = std::hypot(spread(with), spread(without)) / std::sqrt(24.0);
        QVERIFY2(std::abs(mean(with) / mean(without) - 1.0) < 3.0 * error,
                 qPrintable(QString("%1 against %2").arg(mean(with)).arg(mean(without))));
        // Variance at least 20 times below.
        QVERIFY2(spread(without) > std::sqrt(20.0) * spread(with),
                 qPrintable(QString("%1 against %2").arg(spread(without)).arg(spread(with))));
    }

    void glowIsSampledWithTheSameMeanAsItIsMet()
    {
        // A glowing ball over a floor: what paths find by chance and what is looked for balance to the floor's closed
        // form.
        auto s = dark();
        s->scene = test::plate(-3.f, 200.f, Vec3(0.5f), 1.f);
        auto v = ball(Vec3(0.f), 0.f);
        v.glow.heat = v.density;
        v.glow.toHeat = v.toIndex;
        v.glow.table = std::make_shared<const std::vector<Vec3>>(std::vector<Vec3>{Vec3(0.f), Vec3(1.f), Vec3(1.f)});
        s->volumes = {v};
        const GlowSampler sampler(*s);
        QVERIFY(!sampler.empty());
        // Its density over all directions is 1 (from outside and from inside).
        for (const Vec3& from : {Vec3(0, -3, 0), Vec3(4, 1, 2), Vec3(0.2f, 0.1f, 0.f)}) {
            Random random(9);
            double sum = 0.0;
            constexpr int n = 400000;
            for (int i = 0; i < n; ++i) {
                const float z = 1.f - 2.f * random.next(), r = std::sqrt(1.f - z * z), a = 6.2831853f * random.next();
                sum += static_cast<double>(sampler.density(from, Vec3(r * std::cos(a), r * std::sin(a), z))) * 4.0 *
                       M_PI / n;
            }
            NEAR(sum, 1.0, 0.02);
            for (int i = 0; i < 200; ++i)
                QVERIFY(sampler.density(from, sampler.direction(from, random)) > 0.f);
        }
        // Irradiance under it: its power 4π·V·1 from 3 m away, nearly a point's; the floor reflects 0.5/π of it (and a
        // little gloss).
        PathIntegrator paths(s, 8, 8);
        double floor = 0.0;
        constexpr int n = 60000;
        for (int i = 0; i < n; ++i) {
            Random random(hash32(static_cast<std::uint32_t>(i), 77u));
            const auto l = paths.light(Vec3(0, -2.9f, 2.f), (Vec3(0, -3, 0) - Vec3(0, -2.9f, 2.f)).normalized(), 1e-3f,
                                       random);
            floor += static_cast<double>(l.set.y) / n;
        }
        double irradiance = 0.0, volume = 0.0;
        const double cell = 0.05;
        for (double x = -1.5; x < 1.5; x += cell)
            for (double y = -1.5; y < 1.5; y += cell)
                for (double z = -1.5; z < 1.5; z += cell) {
                    F8 g[3];
                    media::glow8(v, f8(static_cast<float>(x)), f8(static_cast<float>(y)), f8(static_cast<float>(z)), g);
                    const double d2 = x * x + (y + 3) * (y + 3) + z * z;
                    irradiance += static_cast<double>(g[1][0]) * cell * cell * cell * (y + 3) / (d2 * std::sqrt(d2));
                    volume += static_cast<double>(g[1][0]) * cell * cell * cell;
                }
        QVERIFY(volume > 5.0);
        const double matte = irradiance * 0.5 / M_PI;
        QVERIFY2(floor > matte * 0.98 && floor < matte * 1.15,
                 qPrintable(QString("%1, matte alone %2").arg(floor).arg(matte)));
    }

    void glowingSurfacesAreSeenAndLightNothing()
    {
        // A glowing floor under thin air, seen from above and away: its own light where it is seen, none in the air
        // over it.
        geometry::Material bright;
        bright.baseColour = Vec3(0.f);
        bright.roughness = 1.f;
        bright.emission = Vec3(2.f, 1.f, 0.5f);
        const auto set = floorOf(bright);
        JobControl job;
        auto s = dark();
        s->scene = std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
        s->media = {test::uniformAir(0.1f)};
        PathIntegrator paths(s, 8, 8);
        Vec3 seen(0.f), over(0.f);
        for (int i = 0; i < 40000; ++i) {
            Random random(hash32(static_cast<std::uint32_t>(i), 3u));
            const auto down = paths.light(Vec3(0, 5, 0), Vec3(0, -1, 0), 1e-3f, random),
                       up = paths.light(Vec3(0, 5, 0), Vec3(0, 1, 0), 1e-3f, random);
            seen += (down.set + down.air) / 40000.f;
            over += (up.set + up.air) / 40000.f;
        }
        QVERIFY((seen - Vec3(2.f, 1.f, 0.5f) * std::exp(-0.5f)).length() < 0.02f);
        QCOMPARE(over, Vec3(0.f));
    }

    void groundBeyondTheSetLightsTheAirAsItsAlbedoSays()
    {
        // Thin, even air under a high sun, looked through level: bright ground below lights it, black ground does not,
        // and the eye sees none of it.
        const auto meanOver = [](float albedo) {
            auto s = std::make_shared<shot::Shot>();
            s->scene = test::emptyScene();
            s->media = {test::uniformAir(0.002f)};
            s->media[0].top = 60.f;
            light::SkySettings sky;
            sky.elevation = radians(60.0);
            sky.skyStrength = 0.f;
            sky.groundAlbedo = Vec3(albedo);
            s->sky = std::make_shared<light::Sky>(sky);
            s->sunId = "sun";
            PathIntegrator paths(s, 8, 8);
            double mean = 0.0;
            for (int i = 0; i < 30000; ++i) {
                Random random(hash32(static_cast<std::uint32_t>(i), 5u));
                mean += double(paths.light(Vec3(0, 30, 0), Vec3(1, 0, 0), 1e-3f, random).air.y) / 30000.0;
            }
            return mean / double(s->sky->sunIrradiance().y);
        };
        const double black = meanOver(0.f), half = meanOver(0.5f);
        // Isotropic air: E/4π from the sun, and from the ground ½·A·E·sin h/π of mean radiance, dimmed a little on both
        // ways.
        const double more = 0.5 * 0.5 * std::sin(M_PI / 3.0) / M_PI * (4.0 * M_PI);
        QVERIFY2(half / black > 1.0 + 0.8 * more && half / black < 1.0 + 1.05 * more,
                 qPrintable(QString("%1, wanted about %2").arg(half / black).arg(1.0 + 0.9 * more)));
    }

    void wideLampsInNarrowlyScatteringAirEqualQuadrature_data()
    {
        QTest::addColumn<int>("shape");
        QTest::addColumn<float>("g");
        for (const float g : {0.3f, 0.9f, 0.97f}) {
            QTest::addRow("ball, g %g", double(g)) << int(light::Lamp::Shape::Sphere) << g;
            QTest::addRow("panel, g %g", double(g)) << int(light::Lamp::Shape::Rectangle) << g;
            QTest::addRow("disc, g %g", double(g)) << int(light::Lamp::Shape::Disc) << g;
        }
    }
    void wideLampsInNarrowlyScatteringAirEqualQuadrature()
    {
        QFETCH(int, shape);
        QFETCH(float, g);
        auto s = dark();
        s->scene = test::emptyScene();
        s->media = {test::uniformAir(0.05f, g)};
        s->media[0].albedo = Vec3(0.02f); // hardly any light is scattered twice
        light::Lamp lamp;
        lamp.shape = static_cast<light::Lamp::Shape>(shape);
        lamp.position = Vec3(0.f, 0.9f, -6.f);
        lamp.direction = Vec3(0, 0, 1);
        lamp.right = Vec3(1, 0, 0);
        lamp.up = Vec3(0, 1, 0);
        lamp.radius = 0.4f;
        lamp.width = 0.9f;
        lamp.height = 0.5f;
        lamp.intensity = Vec3(3.f);
        lamp.glow = 0.f;
        s->lamps = {lamp};
        // ∫ along the way, and at every place over the source by its own samples.
        constexpr int steps = 400, side = 24;
        const double length = 12.0;
        double wanted = 0.0;
        for (int i = 0; i < steps; ++i) {
            const double t = (i + 0.5) / steps * length;
            const Vec3 p(0.f, 0.f, float(-t));
            for (int j = 0; j < side * side; ++j) {
                light::LampSample l;
                if (!light::sampleLamp(lamp, p, (float(j % side) + 0.5f) / side, (float(j / side) + 0.5f) / side, l))
                    continue;
                const double depth = 0.05 * (t + double(l.distance));
                wanted += 0.05 * 0.02 * double(l.irradiance.y) * 3.0 *
                          double(s->media[0].phase(l.way.dot(Vec3(0, 0, -1)))) * std::exp(-depth) * length /
                          (steps * side * side);
            }
        }
        PathIntegrator paths(s, 8, 8);
        constexpr int count = 25000;
        std::vector<double> sums(12, 0.0);
        parallelFor(sums.size(), [&](std::size_t b) {
            for (int i = 0; i < count; ++i) {
                Random random(hash32(static_cast<std::uint32_t>(i), static_cast<std::uint32_t>(b) + 70u));
                sums[b] += double(paths.light(Vec3(0, 0, 0), Vec3(0, 0, -1), 1e-3f, random).air.y) / count;
            }
        });
        double mean = 0.0, squares = 0.0;
        for (const double v : sums) {
            mean += v / double(sums.size());
            squares += v * v / double(sums.size());
        }
        const double error = std::sqrt(std::max(0.0, squares - mean * mean) / double(sums.size() - 1));
        QVERIFY2(std::abs(mean - wanted) < 4.0 * error + 0.02 * wanted,
                 qPrintable(QString("%1 ± %2, wanted %3").arg(mean).arg(error).arg(wanted)));
        QVERIFY2(error < 0.03 * wanted, qPrintable(QString("%1 of %2").arg(error).arg(mean)));
    }

    void whatTheSkyDoesNotReachIsDarkUnderAPanoramaToo()
    {
        geometry::Material grey;
        grey.baseColour = Vec3(0.5f);
        grey.roughness = 1.f;
        const auto set = floorOf(grey);
        JobControl job;
        auto s = std::make_shared<shot::Shot>();
        s->scene = std::make_shared<const geometry::RayScene>(std::vector<geometry::PlacedSet>{{set, Mat4()}}, job);
        light::SkySettings sky;
        sky.panorama = std::make_shared<const light::Panorama>(32, 16, std::vector<float>(32 * 16 * 3, 1.f));
        sky.panoramaSun = false;
        s->sky = std::make_shared<light::Sky>(sky);
        s->sunId = "sun";
        const auto seenFrom = [&] {
            PathIntegrator paths(s, 8, 8);
            double seen = 0.0;
            for (int i = 0; i < 20000; ++i) {
                Random random(hash32(static_cast<std::uint32_t>(i), 9u));
                seen += double(paths.light(Vec3(0, 5, 0), Vec3(0, -1, 0), 1e-3f, random).set.y) / 20000.0;
            }
            return seen;
        };
        const double lit = seenFrom();
        QVERIFY2(lit > 0.48 && lit < 0.56, qPrintable(QString::number(lit))); // half of an even sky, and a little gloss
        s->skyReach.sets = {0.25f};
        NEAR(seenFrom() / lit, 0.25, 0.02);
        s->skyReach.sets = {0.f};
        QCOMPARE(seenFrom(), 0.0);
    }

    void glowSeenThroughColouredMatterTakesItsColour()
    {
        // A glowing ball that also absorbs by channel: the light along its middle has a closed form, (1 − e^(−σl))/σ of
        // what it gives off, channel by channel.
        auto s = dark();
        auto v = ball(Vec3(0.f), 1.f);
        v.albedo = Vec3(0.f);
        v.spectrum = Vec3(0.5f, 1.f, 2.f);
        v.glow.heat = v.density;
        v.glow.toHeat = v.toIndex;
        v.glow.table = std::make_shared<const std::vector<Vec3>>(std::vector<Vec3>{Vec3(0.f), Vec3(1.f), Vec3(1.f)});
        s->volumes = {v};
        PathIntegrator paths(s, 8, 8);
        Vec3 sum(0.f);
        constexpr int n = 40000;
        for (int i = 0; i < n; ++i) {
            Random random(hash32(static_cast<std::uint32_t>(i), 31u));
            const auto l = paths.light(Vec3(0.02f, 0.02f, 6.f), Vec3(0, 0, -1), 1e-3f, random);
            sum += (l.air + l.set) / static_cast<float>(n);
        }
        // By small steps along the same line.
        Vec3 wanted(0.f), through(1.f);
        for (int i = 0; i < 12000; ++i) {
            const Vec3 p(0.02f, 0.02f, 6.f - 0.001f * (static_cast<float>(i) + 0.5f));
            F8 g[3];
            media::glow8(v, f8(p.x), f8(p.y), f8(p.z), g);
            const Vec3 sigma = media::opticsAt(v, p).extinction;
            for (int c = 0; c < 3; ++c) {
                wanted[c] += through[c] * g[c][0] * 0.001f;
                through[c] *= std::exp(-sigma[c] * 0.001f);
            }
        }
        for (int c = 0; c < 3; ++c)
            NEAR(sum[c] / wanted[c], 1.f, 0.02);
    }

    void layersBySourceAddUpToThePicture()
    {
        auto s = dark();
        s->scene = test::plate(-2.f, 100.f, Vec3(0.3f));
        s->lamps = {spot()};
        s->media = {test::uniformAir(0.05f)};
        StillSettings settings{48, 27, 16, StillAir::Paths, {true, true, true}};
        JobControl job;
        const Layers l = renderStill(s, settings, job);
        QCOMPARE(l.samples, 16);
        std::vector<float> set(l.plate.size(), 0.f), air(set);
        for (const auto& by : l.setBy)
            for (std::size_t i = 0; i < set.size(); ++i)
                set[i] += by.air[i];
        for (const auto& by : l.airBy)
            for (std::size_t i = 0; i < set.size(); ++i)
                air[i] += by.air[i];
        double most = 0.0;
        for (std::size_t i = 0; i < set.size(); ++i) {
            most = std::max(most, static_cast<double>(set[i]));
            QVERIFY(std::abs(air[i] - l.air[i]) < 1e-5f + 1e-4f * l.air[i]);
            QVERIFY(std::abs(set[i] - l.plate[i] * l.transmittance[i]) < 1e-5f + 1e-4f * set[i]);
        }
        QVERIFY(most > 0.0);
        QVERIFY(std::any_of(l.airBy.begin(), l.airBy.end(), [](const auto& by) { return by.id == "lamp"; }));
    }

    void aNoiseTargetEndsItAndPathsGoWhereItIsNoisy()
    {
        auto s = dark();
        s->scene = test::plate(-2.f, 100.f, Vec3(0.3f));
        s->lamps = {spot()};
        s->lamps[0].cosOuter = 0.8f;
        s->lamps[0].cosInner = 0.9f;
        s->media = {test::uniformAir(0.03f)};
        StillSettings settings{48, 30, 20000, StillAir::Paths};
        settings.noise = 0.15f;
        JobControl job;
        StillProgress reached;
        renderStill(s, settings, job, [&](const StillProgress& p) { reached = p; });
        QVERIFY(reached.noise <= 0.15f);
        QVERIFY(reached.samples >= 16.0 && reached.samples < 20000.0);
        // Uneven: some tiles have more paths than others, none less than the first round.
        PathIntegrator paths(s, 48, 30);
        for (int i = 0; i < 60; ++i)
            paths.passWhere(0.1f);
        const auto& counts = paths.gathered().paths;
        const auto [least, most] = std::minmax_element(counts.begin(), counts.end());
        QVERIFY(*least >= 16.f && *most > *least);
        // And time ends it too.
        settings.noise = 0.f;
        settings.seconds = 0.3;
        QElapsedTimer clock;
        clock.start();
        renderStill(s, settings, job, [&](const StillProgress& p) { reached = p; });
        QVERIFY(reached.samples >= 1.0 && clock.elapsed() < 8000);
    }

    void keptPathsGoOnWhereTheyEndedAndOnlyForTheirOwnState()
    {
        auto s = dark();
        s->scene = test::plate(-2.f, 100.f, Vec3(0.3f));
        s->lamps = {spot()};
        s->media = {test::uniformAir(0.05f)};
        QTemporaryDir folder;
        const std::filesystem::path file = (folder.path() + "/kept.exr").toStdString();
        JobControl job;
        StillSettings whole{40, 24, 24, StillAir::Paths};
        const Layers atOnce = renderStill(s, whole, job);
        StillSettings part = whole;
        part.samples = 10;
        part.kept = file;
        part.keptFor = "one";
        StillProgress reached;
        renderStill(s, part, job, [&](const StillProgress& p) { reached = p; });
        QVERIFY(!reached.resumed);
        part.samples = 24;
        const Layers resumed = renderStill(s, part, job, [&](const StillProgress& p) { reached = p; });
        QVERIFY(reached.resumed);
        for (std::size_t i = 0; i < atOnce.air.size(); ++i)
            QVERIFY(std::abs(atOnce.air[i] - resumed.air[i]) <= 2e-6f + 1e-5f * atOnce.air[i]);
        // Another state begins anew; so does another size.
        part.keptFor = "another";
        part.samples = 2;
        renderStill(s, part, job, [&](const StillProgress& p) { reached = p; });
        QVERIFY(!reached.resumed);
        part.width = 32;
        renderStill(s, part, job, [&](const StillProgress& p) { reached = p; });
        QVERIFY(!reached.resumed);
        // A damaged file is said, and stays.
        QFile broken(QString::fromStdString(file.string()));
        QVERIFY(broken.resize(broken.size() / 2));
        const auto size = std::filesystem::file_size(file);
        THROWS_SAYING(renderStill(s, part, job), "kept.exr");
        QCOMPARE(std::filesystem::file_size(file), size);
        // Cancelled, what there is is kept.
        part.kept = (folder.path() + "/cancelled.exr").toStdString();
        part.samples = 500;
        try {
            renderStill(s, part, job, [&](const StillProgress& p) {
                if (p.samples >= 3.0)
                    job.cancel();
            });
            QFAIL("not cancelled");
        } catch (const Cancelled&) {
        }
        PathIntegrator paths(s, 32, 24);
        QVERIFY(paths.gathered().resume(part.kept, "another"));
        QVERIFY(paths.gathered().meanPaths() >= 3.0);
    }

    void theDenoiserTakesNoiseAndLeavesEdges()
    {
        // An even field with a beam of four times its light across it, sharp at one side, and noise of known size.
        constexpr int w = 96, h = 64, n = 8;
        Accumulation sums(w, h, {true, false, true}, {"own", "lamp"}, false, false);
        Random random(3);
        const auto truth = [](int x, int y) { return x > 40 + y / 4 && x < 60 + y / 4 ? 4.f : 1.f; };
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x) {
                const auto p = static_cast<std::size_t>(y * w + x);
                sums.paths[p] = n;
                sums.depth[p] = 50.f;
                for (int i = 0; i < n; ++i) {
                    // Exponentially distributed light, as a path's may be.
                    const float l = -truth(x, y) * std::log(1.f - random.next());
                    sums.airSquares[p] += l * l;
                    for (std::size_t c = 0; c < 3; ++c) {
                        sums.air[p * 3 + c] += l;
                        sums.airBy[(p * 2 + (i & 1)) * 3 + c] += l;
                    }
                }
            }
        const auto error = [&](const Accumulation& a) {
            double e = 0.0;
            for (int y = 0; y < h; ++y)
                for (int x = 0; x < w; ++x)
                    e += std::pow(static_cast<double>(a.air[static_cast<std::size_t>(y * w + x) * 3] / n - truth(x, y)),
                                  2.0);
            return std::sqrt(e / (w * h));
        };
        const Accumulation noisy = sums;
        const double before = error(noisy);
        JobControl job;
        denoise(sums, {1.f}, job);
        QVERIFY2(error(sums) < 0.4 * before, qPrintable(QString("%1 of %2").arg(error(sums)).arg(before)));
        // The step stays a step: two pixels to its sides the light is the field's and the beam's.
        double inside = 0.0, outside = 0.0;
        for (int y = 0; y < h; ++y) {
            outside += static_cast<double>(sums.air[static_cast<std::size_t>(y * w + 40 + y / 4 - 2) * 3]) / n / h;
            inside += static_cast<double>(sums.air[static_cast<std::size_t>(y * w + 40 + y / 4 + 3) * 3]) / n / h;
        }
        NEAR(outside, 1.0, 0.15);
        NEAR(inside, 4.0, 0.4);
        // Parts add up as before.
        for (std::size_t i = 0; i < sums.air.size(); ++i)
            QVERIFY(std::abs(sums.airBy[i / 3 * 6 + i % 3] + sums.airBy[i / 3 * 6 + 3 + i % 3] - sums.air[i]) <
                    1e-3f * (1.f + sums.air[i]));
        // The share is a share; 0 changes nothing.
        Accumulation half = noisy, none = noisy;
        denoise(half, {0.5f}, job);
        denoise(none, {0.f}, job);
        for (std::size_t i = 0; i < sums.air.size(); ++i) {
            QVERIFY(std::abs(half.air[i] - 0.5f * (noisy.air[i] + sums.air[i])) < 1e-3f * (1.f + noisy.air[i]));
            QCOMPARE(none.air[i], noisy.air[i]);
        }
        // Frames before and after help where they agree.
        Accumulation alone = noisy, together = noisy;
        Accumulation next = noisy;
        Random other(77);
        for (int p = 0; p < w * h; ++p) {
            float sum = 0.f, squares = 0.f;
            for (int i = 0; i < n; ++i) {
                const float l = -truth(p % w, p / w) * std::log(1.f - other.next());
                sum += l;
                squares += l * l;
            }
            for (std::size_t c = 0; c < 3; ++c)
                next.air[static_cast<std::size_t>(p) * 3 + c] = sum;
            next.airSquares[static_cast<std::size_t>(p)] = squares;
        }
        const geometry::Camera camera{Vec3(0, 0, 0), Vec3(0, 0, -1), 35.f, 36.f};
        const DenoiseNeighbour neighbour{&next, camera};
        denoise(alone, {1.f, 2, 1}, job, camera);
        denoise(together, {1.f, 2, 1}, job, camera, {&neighbour, 1});
        QVERIFY2(error(together) < 0.92 * error(alone),
                 qPrintable(QString("%1, alone %2").arg(error(together)).arg(error(alone))));
    }

    void theDenoiserBringsFewPathsNearToMany()
    {
        auto s = dark();
        s->scene = test::plate(-2.f, 100.f, Vec3(0.3f));
        s->lamps = {spot()};
        s->lamps[0].cosOuter = 0.8f;
        s->media = {test::uniformAir(0.05f)};
        PathIntegrator few(s, 64, 36), many(s, 64, 36);
        for (int i = 0; i < 16; ++i)
            few.pass();
        for (int i = 0; i < 500; ++i)
            many.pass();
        const std::vector<float> truth = many.picture(), noisy = few.picture();
        JobControl job;
        denoise(few.gathered(), {1.f}, job);
        const std::vector<float> out = few.picture();
        double before = 0.0, after = 0.0, light = 0.0, own = 0.0;
        for (std::size_t i = 0; i < truth.size(); ++i) {
            before += std::pow(std::sqrt(static_cast<double>(noisy[i])) - std::sqrt(static_cast<double>(truth[i])),
                               2.0);
            after += std::pow(
                std::sqrt(static_cast<double>(std::max(0.f, out[i]))) - std::sqrt(static_cast<double>(truth[i])), 2.0);
            light += static_cast<double>(truth[i]);
            own += static_cast<double>(out[i]);
        }
        QVERIFY2(after < 0.35 * before, qPrintable(QString("%1 of %2").arg(after).arg(before)));
        NEAR(own / light, 1.0, 0.08);
        // The live integrator's layers too, and beauty stays plate · transmittance + air.
        StillSettings settings{96, 54, 2};
        Layers live = renderStill(s, settings, job);
        const Layers was = live;
        denoise(live, {1.f}, job);
        double moved = 0.0;
        for (std::size_t i = 0; i < live.air.size(); ++i) {
            QVERIFY(std::isfinite(live.air[i]) && std::isfinite(live.plate[i]));
            moved += static_cast<double>(std::abs(live.air[i] - was.air[i]));
            QVERIFY(std::abs(live.airBy[0].air[i] - live.air[i]) < 1e-5f + 1e-3f * live.air[i]);
        }
        QVERIFY(moved > 0.0);
        job.cancel();
        Layers left = was;
        THROWS_SAYING(denoise(left, {1.f}, job), "cancelled");
        QCOMPARE(left.air, was.air);
    }

    void theWindowsReferenceRunsToItsGoalAndGoesOn()
    {
        auto s = dark();
        s->scene = test::plate(-2.f, 100.f, Vec3(0.3f));
        s->lamps = {spot()};
        s->lamps[0].cosOuter = 0.8f;
        s->media = {test::uniformAir(0.05f)};
        QTemporaryDir folder;
        const std::filesystem::path file = (folder.path() + "/window.exr").toStdString();
        std::mutex mutex;
        std::vector<ReferencePicture> seen;
        const auto last = [&] {
            const std::lock_guard lock(mutex);
            return seen.empty() ? ReferencePicture() : seen.back();
        };
        double first = 0.0;
        {
            ReferenceRenderer renderer([&](const ReferencePicture& p) {
                const std::lock_guard lock(mutex);
                seen.push_back(p);
            });
            renderer.start({s, 32, 18, 0.2f, 1.f, file, "key", 7});
            QTRY_VERIFY_WITH_TIMEOUT(last().done, 240000);
            QVERIFY(last().noise <= 0.2f && last().revision == 7 && last().rgb.size() == 32 * 18 * 3 &&
                    last().light > 0.0);
            first = last().paths;
            // A lower goal goes on with the same paths.
            renderer.start({s, 32, 18, 0.1f, 0.f, file, "key", 8});
            QTRY_VERIFY_WITH_TIMEOUT(last().revision == 8 && last().done, 240000);
            QVERIFY(last().paths > first);
            first = last().paths;
            renderer.stop();
        }
        seen.clear();
        // After a restart it stands where it was.
        ReferenceRenderer again([&](const ReferencePicture& p) {
            const std::lock_guard lock(mutex);
            seen.push_back(p);
        });
        again.start({s, 32, 18, 0.1f, 0.f, file, "key", 9});
        QTRY_VERIFY_WITH_TIMEOUT(last().done, 30000);
        QCOMPARE(last().paths, first);
        // A damaged file is told, and the picture is made all the same.
        QFile(QString::fromStdString(file.string())).resize(900);
        seen.clear();
        again.start({s, 28, 18, 0.3f, 0.f, file, "key", 10});
        QTRY_VERIFY_WITH_TIMEOUT(last().done, 30000);
        QVERIFY(!last().trouble.empty());
    }

    void theFirstLookAlreadyLooksLikeThePicture()
    {
        auto s = dark();
        s->scene = test::plate(-2.f, 100.f, Vec3(0.3f));
        s->lamps = {spot()};
        s->lamps[0].cosOuter = 0.8f;
        s->media = {test::uniformAir(0.05f)};
        std::mutex mutex;
        std::vector<ReferencePicture> seen;
        const auto count = [&] {
            const std::lock_guard lock(mutex);
            return seen.size();
        };
        ReferenceRenderer renderer([&](const ReferencePicture& p) {
            const std::lock_guard lock(mutex);
            seen.push_back(p);
        });
        renderer.start({s, 320, 180, 1e-4f, 1.f, {}, "key", 1});
        QTRY_VERIFY_WITH_TIMEOUT(count() >= 2, 120000);
        renderer.stop();
        std::unique_lock held(mutex);
        const ReferencePicture look = seen[0];
        QVERIFY(look.firstLook && look.width == 80 && look.height == 45 && look.rgb.size() == 80 * 45 * 3);
        QVERIFY(!look.done && look.trouble.empty() && look.revision == 1 && look.paths >= 2.0);
        QVERIFY(!seen[1].firstLook && seen[1].width == 320);
        held.unlock();
        // Against as many paths as they are, by a picture that took many.
        PathIntegrator raw(s, 80, 45), true_(s, 80, 45);
        while (raw.gathered().meanPaths() < look.paths)
            raw.pass();
        while (true_.gathered().meanPaths() < 400.0)
            true_.pass();
        const auto rawRgb = raw.picture(), wanted = true_.picture();
        double ofLook = 0.0, ofRaw = 0.0, mean = 0.0, meanLook = 0.0;
        for (std::size_t i = 0; i < wanted.size(); ++i) {
            ofLook += std::pow(double(look.rgb[i]) - double(wanted[i]), 2);
            ofRaw += std::pow(double(rawRgb[i]) - double(wanted[i]), 2);
            mean += double(wanted[i]);
            meanLook += double(look.rgb[i]);
        }
        QVERIFY2(ofLook < 0.5 * ofRaw, qPrintable(QString("%1 of %2").arg(ofLook).arg(ofRaw)));
        QVERIFY2(std::abs(meanLook / mean - 1.0) < 0.1, qPrintable(QString::number(meanLook / mean)));
        // What is wanted as measured, or is small, has none.
        for (const ReferenceTask& task : {ReferenceTask{s, 320, 180, 1e-4f, 0.f, {}, "key", 2},
                                          ReferenceTask{s, 96, 54, 1e-4f, 1.f, {}, "key", 3}}) {
            const auto answered = [&] {
                const std::lock_guard lock(mutex);
                return seen.back().revision == task.revision;
            };
            renderer.start(task);
            QTRY_VERIFY_WITH_TIMEOUT(answered(), 120000);
            renderer.stop();
            const std::lock_guard lock(mutex);
            for (const ReferencePicture& p : seen)
                QVERIFY(p.revision != task.revision || !p.firstLook);
        }
    }
};

QTEST_GUILESS_MAIN(TestReference)
#include "test_reference.moc"
