/// What is drawn by chance is drawn as its density says: directions, points of lamps, places, and the sequences below.
#include "elements/places.h"
#include "lamps.h"
#include "light/lamp_density.h"
#include "media/phase.h"
#include "render/accumulation.h"
#include "render/brdf.h"
#include "render/ratio_row.h"
#include "support.h"

#include <set>

using namespace hygros;
using light::Lamp;
using render::Brdf;

namespace {
/// A direction of the whole sphere, evenly: from u, v in [0, 1).
Vec3 anywhere(float u, float v)
{
    const float z = 1.f - 2.f * u, r = std::sqrt(std::max(0.f, 1.f - z * z));
    return {r * std::cos(2.f * pi * v), z, r * std::sin(2.f * pi * v)};
}
/// Mean of f over an even grid of the sphere, jittered, times its solid angle.
template <class F> double overSphere(int n, const F& f)
{
    Random random(11);
    double all = 0.0;
    for (int i = 0; i < n; ++i)
        for (int j = 0; j < n; ++j)
            all += static_cast<double>(f(anywhere((static_cast<float>(i) + random.next()) / static_cast<float>(n),
                                                  (static_cast<float>(j) + random.next()) / static_cast<float>(n))));
    return all * 4.0 * M_PI / (n * n);
}
geometry::Material rough(float roughness, float metallic = 0.f)
{
    geometry::Material m;
    m.roughness = roughness;
    m.metallic = metallic;
    return m;
}
/// Seen at an angle from the normal (+Y).
Vec3 seenAt(double degrees) { return {std::sin(radians(degrees)), std::cos(radians(degrees)), 0.f}; }
const Vec3 upward(0, 1, 0);
} // namespace

class TestDraws : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void everyPrefixOfATileIsSpreadEvenly()
    {
        // Of the values under a threshold no quarter of the tile has many more than its share.
        const BlueNoise& tile = BlueNoise::tile();
        for (const float below : {0.02f, 0.1f, 0.5f}) {
            int inQuarter[4] = {0, 0, 0, 0}, all = 0;
            for (int y = 0; y < BlueNoise::size; ++y)
                for (int x = 0; x < BlueNoise::size; ++x)
                    if (tile.at(x, y, 1) < below) {
                        ++all;
                        ++inQuarter[(y >= BlueNoise::size / 2) * 2 + (x >= BlueNoise::size / 2)];
                    }
            NEAR(all, below * BlueNoise::size * BlueNoise::size, 0.01);
            for (const int one : inQuarter)
                QVERIFY2(std::abs(one - all / 4) <= 3 + all / 40, qPrintable(QString::number(one)));
        }
    }

    void neighboursOfATileDiffer()
    {
        // Blue: what is next to a pixel is farther from its value than chance would have it (a third in the mean).
        const BlueNoise& tile = BlueNoise::tile();
        double apart = 0.0;
        for (int y = 0; y < BlueNoise::size; ++y)
            for (int x = 0; x < BlueNoise::size; ++x)
                apart += std::abs(double(tile.at(x, y, 3)) - double(tile.at(x + 1, y, 3)));
        QVERIFY(apart / (BlueNoise::size * BlueNoise::size) > 0.38);
    }

    void twoPurposesTogetherFillTheirSquare()
    {
        // Purposes 2k − 1 and 2k: of sixteen passes one is in each cell of four by four, wherever the pixel is.
        const BlueNoise& tile = BlueNoise::tile();
        for (const std::uint32_t first : {1u, 5u, 31u})
            for (const auto& [x, y] : {std::pair{0, 0}, std::pair{17, 40}}) {
                std::set<int> rows, columns;
                double mean[2] = {0.0, 0.0};
                for (std::uint32_t pass = 0; pass < 16; ++pass) {
                    const float u = tile.at(x, y, first, pass), v = tile.at(x, y, first + 1, pass);
                    QVERIFY(u >= 0.f && u < 1.f && v >= 0.f && v < 1.f);
                    // By where it is from the first one, around: a turn moves all of them.
                    const float du = u - tile.at(x, y, first), dv = v - tile.at(x, y, first + 1);
                    columns.insert(static_cast<int>((du < 0.f ? du + 1.f : du) * 16.f + 0.01f) % 16);
                    rows.insert(static_cast<int>((dv < 0.f ? dv + 1.f : dv) * 16.f + 0.01f) % 16);
                    mean[0] += static_cast<double>(u) / 16.0;
                    mean[1] += static_cast<double>(v) / 16.0;
                }
                QCOMPARE(columns.size(), std::size_t{16});
                QCOMPARE(rows.size(), std::size_t{16});
                NEAR(mean[0], 0.5, 0.13);
                NEAR(mean[1], 0.5, 0.13);
            }
    }

    void sequentialNumbersAreEven()
    {
        Random random(123);
        int bins[32] = {};
        double product = 0.0, before = 0.5;
        constexpr int n = 64000;
        for (int i = 0; i < n; ++i) {
            const float u = random.next();
            QVERIFY(u >= 0.f && u < 1.f);
            ++bins[static_cast<int>(u * 32.f)];
            product += (double(u) - 0.5) * (before - 0.5);
            before = static_cast<double>(u);
        }
        double chi = 0.0;
        for (const int b : bins)
            chi += std::pow(b - n / 32.0, 2) / (n / 32.0);
        QVERIFY2(chi < 62.0, qPrintable(QString::number(chi))); // 31 degrees of freedom, one in a thousand
        QVERIFY(std::abs(product / n) < 0.002);                 // one says nothing about the next
        QCOMPARE(Random(123).next(), Random(123).next());
        QVERIFY(Random(123).next() != Random(124).next());
    }

    void cosinesOfPhaseFunctionsAreDrawnAsTheySay_data()
    {
        QTest::addColumn<float>("g");
        QTest::addColumn<float>("droplets");
        QTest::newRow("even") << 0.f << 0.f;
        QTest::newRow("forward") << 0.85f << 0.f;
        QTest::newRow("backward") << -0.4f << 0.f;
        QTest::newRow("small droplets") << 0.f << 6.f;
        QTest::newRow("large droplets") << 0.f << 30.f;
        QTest::newRow("molecules") << 2.f << 0.f;
    }
    void cosinesOfPhaseFunctionsAreDrawnAsTheySay()
    {
        QFETCH(float, g);
        QFETCH(float, droplets);
        const media::Phase phase = droplets > 0.f ? media::dropletPhase(droplets)
                                   : g > 1.f      ? media::rayleighPhase
                                                  : media::plainPhase(g);
        constexpr int bins = 20, n = 200000;
        int drawn[bins] = {};
        Random random(5);
        double mean = 0.0;
        for (int i = 0; i < n; ++i) {
            const float c = media::samplePhase(phase, [&] { return random.next(); });
            QVERIFY(c >= -1.f && c <= 1.f);
            ++drawn[std::min(bins - 1, static_cast<int>((c + 1.f) * 0.5f * bins))];
            mean += static_cast<double>(c) / n;
        }
        QVERIFY(std::abs(mean - static_cast<double>(phase.meanCosine())) < 0.004);
        double left = 1.0;
        for (int b = 0; b < bins; ++b) {
            // The function over a bin, finely; what is left for the last one, where droplets have a peak narrower than
            // any grid.
            double wanted = 0.0;
            constexpr int fine = 4000;
            for (int k = 0; k < fine; ++k) {
                const double c = -1.0 + 2.0 * (b + (k + 0.5) / fine) / bins;
                wanted += static_cast<double>(phase(static_cast<float>(c))) * 2.0 * M_PI * 2.0 / bins / fine;
            }
            if (droplets > 0.f && b + 1 == bins)
                wanted = left;
            left -= wanted;
            const double error = 4.0 * std::sqrt(std::max(wanted, 1e-6) / n) + 1e-4;
            QVERIFY2(std::abs(drawn[b] / double(n) - wanted) < error,
                     qPrintable(QString("bin %1: %2, wanted %3").arg(b).arg(drawn[b] / double(n)).arg(wanted)));
        }
    }

    void cosinesOfMatteSurfacesHaveTheirMean()
    {
        Random random(3);
        const Vec3 n = Vec3(0.3f, -0.8f, 0.5f).normalized();
        double mean = 0.0;
        Vec3 sum(0.f);
        constexpr int count = 40000;
        for (int i = 0; i < count; ++i) {
            const Vec3 d = render::cosineDirection(n, (static_cast<float>(i) + 0.5f) / count, random.next());
            NEAR(d.length(), 1.0, 1e-4);
            QVERIFY(d.dot(n) > -1e-4f);
            mean += static_cast<double>(d.dot(n)) / count;
            sum += d * (1.f / count);
        }
        NEAR(mean, 2.0 / 3.0, 0.005);
        QVERIFY((sum - n * (2.f / 3.f)).length() < 0.01f); // and even around
    }

    void mirrorsSendBackAtTheAngleOfWhatComes()
    {
        const geometry::Material polished = rough(0.f);
        geometry::Hit hit;
        hit.material = &polished;
        hit.normal = hit.geometricNormal = upward;
        for (const double degrees : {0.0, 20.0, 60.0, 85.0}) {
            const Vec3 d = -seenAt(degrees), r = render::mirrorDirection(hit, d);
            NEAR(r.y, -d.y, 1e-4);
            NEAR(r.x, d.x, 1e-4);
        }
        // A normal that is bent by a picture never sends light into the surface.
        hit.normal = Vec3(0.9f, 0.436f, 0.f).normalized();
        const Vec3 r = render::mirrorDirection(hit, -seenAt(80.0));
        QVERIFY(r.dot(hit.geometricNormal) > 0.f);
        NEAR(r.length(), 1.0, 1e-4);
        // Water mirrors by one of its small waves; one that sends light into the next gives less, and up from there.
        geometry::Material water = rough(0.3f);
        water.isWater = true;
        hit.material = &water;
        hit.normal = upward;
        hit.facet = Vec3(0.17f, 0.985f, 0.f).normalized();
        const Vec3 steep = render::mirrorDirection(hit, -seenAt(20.0)),
                   low = render::mirrorDirection(hit, Vec3(0.999f, -0.04f, 0.f).normalized());
        NEAR(steep.dot(hit.facet), seenAt(20.0).dot(hit.facet), 1e-4);
        QVERIFY(low.y > 0.f);
        const Vec3 facing = seenAt(86.0);
        hit.facet = Vec3(-0.5f, 0.866f, 0.f).normalized();
        QVERIFY(render::mirrorDirection(hit, -facing).y > 0.f);
        QVERIFY(render::mirrorShare(hit, Vec3(0.02f), -seenAt(70.0)).x <=
                render::fresnel(Vec3(0.02f), seenAt(70.0).dot(hit.facet)).x + 1e-6f);
    }

    void fresnelGoesFromItsBaseToWhite()
    {
        const Vec3 f0(0.04f, 0.3f, 0.9f);
        QVERIFY((render::fresnel(f0, 1.f) - f0).length() < 1e-5f);
        QVERIFY((render::fresnel(f0, 0.f) - Vec3(1.f)).length() < 1e-5f);
        // Schlick 1994 at 60°: F0 + (1 − F0) / 32.
        NEAR(render::fresnel(f0, 0.5f).x, 0.04 + 0.96 / 32.0, 1e-4);
    }

    void lightGoesBothWaysAlike()
    {
        // A surface's distribution does not change when the light and the eye change places (Helmholtz).
        const Brdf surface(rough(0.4f), Vec3(0.6f, 0.3f, 0.1f));
        for (const auto& [a, b] : {std::pair{10.0, 50.0}, std::pair{35.0, 70.0}}) {
            const Vec3 l = Vec3(seenAt(a).x, seenAt(a).y, 0.2f).normalized(), v = seenAt(-b);
            const Vec3 one = surface.reflect(upward, l, v) / upward.dot(l),
                       other = surface.reflect(upward, v, l) / upward.dot(v);
            for (int c = 0; c < 3; ++c)
                NEAR(one[c], other[c], 1e-4);
        }
        QVERIFY(surface.reflect(upward, Vec3(0, -1, 0), upward) == Vec3(0.f));
    }

    void noSurfaceGivesMoreThanItGets_data()
    {
        QTest::addColumn<float>("roughness");
        QTest::addColumn<float>("metallic");
        for (const float r : {0.3f, 0.6f, 1.f})
            for (const float m : {0.f, 1.f})
                QTest::addRow("rough %.1f metal %.0f", double(r), double(m)) << r << m;
    }
    void noSurfaceGivesMoreThanItGets()
    {
        QFETCH(float, roughness);
        QFETCH(float, metallic);
        const Brdf white(rough(roughness, metallic), Vec3(1.f));
        for (const double degrees : {0.0, 45.0, 75.0}) {
            const Vec3 v = seenAt(degrees);
            const double back = overSphere(400, [&](const Vec3& l) { return white.reflect(upward, l, v).y; });
            // Matte white with a gloss on top gives more, at the flattest view a fifth: the two lobes are not weighed
            // against each other, as in the standard's simplest form.
            QVERIFY2(back < (metallic > 0.f ? 1.005 : 1.21), qPrintable(QString::number(back)));
            QVERIFY2(back > (metallic > 0.f ? 0.3 : 0.98), qPrintable(QString::number(back)));
            // A metal loses what its facets send each other, one scattering being followed. Of the roughest one the
            // rest is known: ∫ l / (l + v) dl over cosines = 1 − v ln((1 + v) / v).
            const double cosine = std::cos(degrees * M_PI / 180.0);
            if (metallic > 0.f && roughness == 1.f)
                NEAR(back, 1.0 - cosine * std::log((1.0 + cosine) / cosine), 0.01);
        }
        // The matte part alone is all of its colour.
        const Brdf matte(rough(1.f), Vec3(0.7f, 0.5f, 0.2f));
        const double diffuse = overSphere(
            200, [&](const Vec3& l) { return matte.reflect(upward, l, seenAt(30.0), 1.f, 0.f).x; });
        NEAR(diffuse, 0.7, 0.01);
    }

    void glossyDirectionsAreDrawnAsTheirDensity_data()
    {
        QTest::addColumn<float>("roughness");
        QTest::addColumn<double>("degrees");
        QTest::newRow("gloss from above") << 0.45f << 5.0;
        QTest::newRow("gloss aslant") << 0.45f << 60.0;
        QTest::newRow("rough aslant") << 0.9f << 50.0;
    }
    void glossyDirectionsAreDrawnAsTheirDensity()
    {
        QFETCH(float, roughness);
        QFETCH(double, degrees);
        // Metal: all of its directions are of the glossy lobe.
        const Brdf metal(rough(roughness, 1.f), Vec3(0.9f));
        const Vec3 v = seenAt(degrees);
        QCOMPARE(metal.glossyShare(upward, v), 1.f);
        constexpr int bins = 6, n = 300000;
        double drawn[bins][bins] = {}, wanted[bins][bins] = {};
        const auto binOf = [](const Vec3& l, int& i, int& j) {
            i = std::min(bins - 1, static_cast<int>(std::clamp(l.y, 0.f, 0.9999f) * bins));
            j = std::min(bins - 1, static_cast<int>((std::atan2(l.z, l.x) + pi) / (2.f * pi) * bins));
        };
        Random random(9);
        int under = 0;
        for (int k = 0; k < n; ++k) {
            const Vec3 l = metal.glossyDirection(upward, v, random.next(), random.next());
            if (l.y <= 0.f) {
                ++under; // goes into the surface: no light comes from there
                continue;
            }
            int i, j;
            binOf(l, i, j);
            drawn[i][j] += 1.0 / n;
        }
        constexpr int fine = 1200;
        double whole = 0.0;
        for (int a = 0; a < fine; ++a)
            for (int b = 0; b < fine; ++b) {
                const Vec3 l = anywhere(0.5f * (static_cast<float>(a) + 0.5f) / fine,
                                        (static_cast<float>(b) + 0.5f) / fine);
                int i, j;
                binOf(l, i, j);
                const double p = static_cast<double>(metal.density(upward, l, v)) * 2.0 * M_PI / (fine * fine);
                wanted[i][j] += p;
                whole += p;
            }
        NEAR(whole + under / double(n), 1.0, 0.01);
        for (int i = 0; i < bins; ++i)
            for (int j = 0; j < bins; ++j)
                QVERIFY2(std::abs(drawn[i][j] - wanted[i][j]) < 0.0035 + 0.02 * wanted[i][j],
                         qPrintable(QString("%1 %2: %3, wanted %4").arg(i).arg(j).arg(drawn[i][j]).arg(wanted[i][j])));
    }

    void lampsAreDrawnAsTheirDensity_data()
    {
        QTest::addColumn<int>("shape");
        QTest::newRow("ball") << static_cast<int>(Lamp::Shape::Sphere);
        QTest::newRow("panel") << static_cast<int>(Lamp::Shape::Rectangle);
        QTest::newRow("disc") << static_cast<int>(Lamp::Shape::Disc);
    }
    void lampsAreDrawnAsTheirDensity()
    {
        QFETCH(int, shape);
        Lamp lamp = test::lampOf(static_cast<Lamp::Shape>(shape));
        lamp.radius = 0.6f;
        const Vec3 point(1.2f, 0.4f, -5.2f);
        // Densities of all directions together are 1.
        const double whole = overSphere(1500, [&](const Vec3& way) {
            float distance = 0.f;
            return light::directionDensity(lamp, point, way, distance);
        });
        NEAR(whole, 1.0, 0.02);
        // What is drawn has a density, a distance to the source, and with it one radiance all over the source.
        Random random(17);
        float radiance = 0.f;
        for (int i = 0; i < 200; ++i) {
            light::LampSample s;
            QVERIFY(light::sampleLamp(lamp, point, random.next(), random.next(), s));
            float distance = 0.f;
            const float density = light::directionDensity(lamp, point, s.way, distance);
            if (density <= 0.f) // the very edge
                continue;
            const float here = s.irradiance.x * density;
            if (radiance == 0.f)
                radiance = here;
            NEAR(here, radiance, 0.01);
            NEAR(distance, s.distance, 0.02);
        }
        // Times the area that faces one it is the intensity: 1.
        NEAR(radiance * light::facingArea(lamp), 1.0, 0.01);
        float nothing = 0.f;
        QCOMPARE(light::directionDensity(lamp, point, Vec3(0, -1, 0), nothing), 0.f);
        lamp.shape = Lamp::Shape::Spot;
        QCOMPARE(light::facingArea(lamp), 0.f);
    }

    void aBallLightsAsItsCentreWould()
    {
        // Irradiance of a surface that faces a ball, above its horizon, is that of a point: I/d².
        Lamp ball = test::lampOf(Lamp::Shape::Sphere);
        ball.radius = 0.5f;
        for (const float distance : {0.8f, 2.f, 10.f}) {
            const Vec3 axis = Vec3(0.3f, 0.4f, -0.5f).normalized(), point = ball.position - axis * distance;
            double got = 0.0;
            constexpr int n = 64;
            for (int i = 0; i < n; ++i)
                for (int j = 0; j < n; ++j) {
                    light::LampSample s;
                    if (light::sampleLamp(ball, point, (static_cast<float>(i) + 0.5f) / n,
                                          (static_cast<float>(j) + 0.5f) / n, s))
                        got += static_cast<double>(s.irradiance.x * std::max(0.f, s.way.dot(axis))) / (n * n);
                }
            NEAR(got * double(distance) * double(distance), 1.0, 0.01);
        }
    }

    void placesInABoxAreEven()
    {
        Random random(2);
        const auto spots = elements::insideBox(Vec3(10, 5, -3), Vec3(4, 2, 8), 8000, random);
        QCOMPARE(spots.size(), std::size_t{8000});
        int eighth[8] = {};
        for (const elements::Spot& s : spots) {
            const Vec3 d = s.place - Vec3(10, 5, -3);
            QVERIFY(std::abs(d.x) <= 2.f && std::abs(d.y) <= 1.f && std::abs(d.z) <= 4.f);
            ++eighth[(d.x > 0.f) + 2 * (d.y > 0.f) + 4 * (d.z > 0.f)];
        }
        for (const int e : eighth)
            NEAR(e, 1000.0, 0.12);
    }

    void placesOnASurfaceGoByItsArea()
    {
        // A level floor of 3 m², and a wall of 1 m² that is left out where only gentle slopes count.
        auto set = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh floor, wall;
        floor.positions = {Vec3(0, 0, 0), Vec3(3, 0, 0), Vec3(3, 0, 1), Vec3(0, 0, 1)};
        floor.normals.assign(4, upward);
        floor.indices = {0, 2, 1, 0, 3, 2};
        wall.positions = {Vec3(0, 0, 0), Vec3(1, 0, 0), Vec3(1, 1, 0), Vec3(0, 1, 0)};
        wall.normals.assign(4, Vec3(0, 0, 1));
        wall.indices = {0, 1, 2, 0, 2, 3};
        set->meshes = {floor, wall};
        set->materials.push_back({});
        set->triangles = 4;
        Random random(8);
        const auto all = elements::onSurface({set, Mat4()}, 8000, random);
        const auto onWall = std::count_if(all.begin(), all.end(), [](const auto& s) { return s.place.y > 1e-4f; });
        NEAR(double(onWall) / 8000.0, 0.25, 0.06);
        int thirds[3] = {};
        for (const elements::Spot& s : all)
            if (s.place.y <= 1e-4f) {
                QVERIFY(s.up.y > 0.99f);
                ++thirds[std::min(2, static_cast<int>(s.place.x))];
            }
        for (const int t : thirds)
            NEAR(t, 2000.0, 0.1);
        const auto gentle = elements::onSurface({set, Mat4()}, 500, random, radians(30));
        QCOMPARE(gentle.size(), std::size_t{500});
        for (const elements::Spot& s : gentle)
            QVERIFY(s.place.y <= 1e-4f);
        set->meshes = {wall};
        set->triangles = 2;
        QVERIFY(elements::onSurface({set, Mat4()}, 500, random, radians(30)).empty());
    }

    void whatIsScatteredStandsWhereItShould()
    {
        const Vec3 up = Vec3(0.4f, 0.8f, -0.3f).normalized();
        Vec3 turned;
        elements::tilt(up).multDirMatrix(upward, turned);
        QVERIFY((turned - up).length() < 1e-5f);
        elements::tilt(upward).multDirMatrix(Vec3(0.6f, 0, 0.8f), turned);
        QVERIFY((turned - Vec3(0.6f, 0, 0.8f)).length() < 1e-5f);
        // Its foot comes to the spot; what was a metre above it is as far as it was enlarged, along the spot's up.
        const Vec3 foot(2, 0, 7);
        const elements::Spot spot{Vec3(-5, 3, 1), up};
        for (const bool tilted : {false, true}) {
            const Mat4 m = elements::toSpot(foot, 2.5f, 1.1f, spot, tilted, 0.f);
            QVERIFY((foot * m - spot.place).length() < 1e-4f);
            const Vec3 top = (foot + upward) * m;
            QVERIFY((top - (spot.place + (tilted ? up : upward) * 2.5f)).length() < 1e-4f);
        }
        const Mat4 lifted = elements::toSpot(foot, 1.f, 0.f, spot, false, 0.75f);
        NEAR((foot * lifted).y, 3.75, 1e-5);
    }

    void aRowOfRatiosIsWhatTheLooksAround()
    {
        // A picture whose right half is half as bright as marched, far from the middle of it.
        render::PathRatios ratios;
        Random random(4);
        for (int i = 0; i < 60000; ++i) {
            render::PathRatios::Look look;
            look.x = random.next();
            look.y = random.next();
            look.t = 40.f;
            look.surface = true;
            const float truth = (look.x < 0.5f ? 1.f : 0.5f) * (0.5f + random.next());
            for (std::size_t s = 0; s < render::PathRatios::sources; ++s) {
                look.air[s] = look.set[s] = Vec3(truth);
                look.airMarched[s] = look.setMarched[s] = Vec3(1.f);
            }
            ratios.add(look);
        }
        QVERIFY(!ratios.known());
        QCOMPARE(render::RatioRow(ratios, 64, 36, 20).air(5, 40.f).at(0, 0), 1.f); // before it is solved
        ratios.solve();
        const render::RatioRow row(ratios, 64, 36, 20);
        QVERIFY(row.known());
        NEAR(row.air(3, 40.f).at(render::PathRatios::sun, 1), 1.0, 0.05);
        NEAR(row.air(60, 40.f).at(render::PathRatios::sun, 1), 0.5, 0.05);
        NEAR(row.set(60, 40.f, upward).at(render::PathRatios::sky, 1), 0.5, 0.06);
        // It goes from one to the other without a leap or a turn back.
        float before = 2.f;
        for (int x = 24; x < 42; ++x) {
            const float here = row.air(x, 40.f).at(render::PathRatios::lamps, 2);
            QVERIFY2(here <= before + 0.02f && before - here < 0.15f + (x == 24 ? 2.f : 0.f),
                     qPrintable(QString("%1: %2").arg(x).arg(double(here))));
            before = here;
        }
        // A normal between two faces lies between their ratios; one that faces nowhere changes nothing.
        QCOMPARE(row.set(30, 40.f, Vec3(0.f)).at(0, 0), 1.f);
        const auto by = row.set(60, 40.f, upward).unpacked();
        NEAR(by.of[render::PathRatios::sky].y, row.set(60, 40.f, upward).at(render::PathRatios::sky, 1), 1e-6);
    }

    void noiseOfWhatIsGatheredIsItsStandardError()
    {
        // Paths of 0 or 2, as often the one as the other: mean 1, deviation 1; 64 pixels a tile.
        render::Accumulation a(32, 32, {}, {"sun"}, false, false);
        Random random(6);
        for (const int paths : {32, 128}) {
            for (std::size_t p = 0; p < a.pixels(); ++p)
                for (auto n = static_cast<int>(a.paths[p]); n < paths; ++n) {
                    const float light = random.next() < 0.5f ? 0.f : 2.f;
                    a.paths[p] += 1.f;
                    for (std::size_t c = 0; c < 3; ++c)
                        a.set[p * 3 + c] += light;
                    a.setSquares[p] += light * light;
                }
            QCOMPARE(a.meanPaths(), double(paths));
            // Of a pixel: 1/√n.
            for (const float error : a.tileErrors())
                NEAR(error, 1.0 / std::sqrt(paths), 0.12);
            NEAR(a.noise(), 1.0 / std::sqrt(paths), 0.12);
        }
        QCOMPARE(render::Accumulation(16, 16, {}, {"sun"}, false, false).noise(), 1.f);
    }
};

QTEST_GUILESS_MAIN(TestDraws)
#include "test_draws.moc"
