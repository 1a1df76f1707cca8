/// The map of the sun's shadows on the air against a ray for every look.
#include "render/sun_map.h"

#include "base/random.h"
#include "base/vec.h"
#include "elements/kinds.h"
#include "geometry/camera.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>
#include <thread>

using namespace hygros;
using namespace hygros::test;
using geometry::RayScene;
using render::SunMap;

class TestSunMap : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    JobControl job_;

    std::shared_ptr<const RayScene> scene(const std::string& text, const Mat4& place = Mat4(),
                                          std::optional<Mat4> later = {})
    {
        const std::filesystem::path file = (folder_.path() + "/set.obj").toStdString();
        std::ofstream(file) << text;
        geometry::PlacedSet p;
        p.set = geometry::importSet(file, job_);
        p.toWorld = place;
        p.toWorldLater = later;
        return std::make_shared<RayScene>(std::vector{p}, job_);
    }
    /// Level ground at height 0, 400 m wide, and posts on it by chance.
    static std::string posts(std::uint32_t seed, int count)
    {
        std::string text = "v -200 0 -200\nv 200 0 -200\nv 200 0 200\nv -200 0 200\nf 1 4 3 2\n";
        Random dice(seed);
        for (int i = 0; i < count; ++i) {
            const float x = dice.range(-60, 60), z = dice.range(-120, -6), w = dice.range(0.1f, 1.5f),
                        h = dice.range(2, 14);
            for (const auto& [dx, dz] : {std::pair(-w, -w), std::pair(w, -w), std::pair(w, w), std::pair(-w, w)})
                for (const float y : {0.f, h})
                    text += "v " + std::to_string(x + dx) + " " + std::to_string(y) + " " + std::to_string(z + dz) +
                            "\n";
            const int b = 5 + 8 * i;
            const auto face = [&](int k, int l, int m, int n) {
                text += "f";
                for (const int v : {k, l, m, n})
                    text += " " + std::to_string(b + v);
                text += "\n";
            };
            face(0, 2, 3, 1), face(2, 4, 5, 3), face(4, 6, 7, 5), face(6, 0, 1, 7), face(1, 3, 5, 7);
        }
        return text;
    }
    static Vec3 toSun(double elevation, double heading)
    {
        const double e = elevation * 3.14159265 / 180.0, h = heading * 3.14159265 / 180.0;
        return Vec3(static_cast<float>(std::cos(e) * std::sin(h)), static_cast<float>(std::sin(e)),
                    static_cast<float>(-std::cos(e) * std::cos(h)));
    }
    static unsigned mapped(const SunMap& map, const Vec3& p) { return map.hidden8(f8(p.x), f8(p.y), f8(p.z), 1u); }

private Q_SLOTS:
    void initTestCase() { QVERIFY(folder_.isValid()); }

    void aWallShadesWhatLiesBehindIt()
    {
        // Upright, 10 m high, at z = −20; the sun in the north at 45°: its shadow reaches from there to z = −10 on the
        // ground, and at height y to z = −20 + (10 − y).
        const auto wall = scene("v -100 0 -20\nv 100 0 -20\nv 100 10 -20\nv -100 10 -20\nf 1 2 3 4\n");
        const Vec3 eye(0.f, 1.7f, 0.f);
        SunMap map(wall->bounds(), eye, 0.002f);
        for (int pass = 0; pass < 4; ++pass) {
            map.begin(wall, toSun(45, 0), Vec2(0.25f * float(pass), 0.9f - 0.2f * float(pass)), 7u);
            for (float y = 0.5f; y < 12.f; y += 0.7f)
                for (float z = -30.f; z < -2.f; z += 0.45f) {
                    const float edge = -20.f + (10.f - y);
                    if (std::abs(z - edge) < 0.3f || std::abs(z + 20.f) < 0.3f)
                        continue; // within a cell of the shadow's end
                    QCOMPARE(mapped(map, Vec3(3.f, y, z)), z > -20.f && z < edge ? 1u : 0u);
                }
        }
        // Out of its bounds nothing is shaded.
        QCOMPARE(mapped(map, Vec3(0.f, 5.f, 900.f)), 0u);
    }

    void levelGroundDoesNotShadeTheAirRightAboveIt()
    {
        const auto ground = scene("v -2000 0 -2000\nv 2000 0 -2000\nv 2000 0 2000\nv -2000 0 2000\nf 1 4 3 2\n");
        SunMap map(ground->bounds(), Vec3(0.f, 1.7f, 0.f), 0.002f);
        Random dice(3);
        int shaded = 0, lit = 0;
        for (int pass = 0; pass < 6; ++pass) {
            map.begin(ground, toSun(4.0 + 5.0 * pass, 60.0 * pass), Vec2(dice.next(), dice.next()), 7u);
            for (int i = 0; i < 2000; ++i) {
                const float far = std::exp(dice.range(0.f, 6.5f)), turn = dice.range(0.f, 6.28f),
                            over = 0.002f * far + 0.02f; // two pixels
                const Vec3 p(far * std::cos(turn), over, far * std::sin(turn));
                shaded += static_cast<int>(mapped(map, p));
                lit += 1 - static_cast<int>(mapped(map, Vec3(p.x, -over, p.z)));
            }
        }
        QVERIFY2(shaded < 12 && lit < 12, qPrintable(QString("%1 %2").arg(shaded).arg(lit)));
    }

    void asARayForEachLookBetweenPostsByChance_data()
    {
        QTest::addColumn<double>("elevation");
        QTest::addColumn<double>("heading");
        QTest::newRow("from the side") << 25.0 << 90.0;
        QTest::newRow("into the sun") << 12.0 << 5.0;
        QTest::newRow("from behind") << 30.0 << 170.0;
        QTest::newRow("low") << 3.0 << 250.0;
        QTest::newRow("overhead") << 88.0 << 40.0;
    }
    void asARayForEachLookBetweenPostsByChance()
    {
        QFETCH(double, elevation);
        QFETCH(double, heading);
        const auto set = scene(posts(static_cast<std::uint32_t>(heading), 60));
        const Vec3 eye(0.f, 1.7f, 0.f), sun = toSun(elevation, heading);
        SunMap map(set->bounds(), eye, 0.002f);
        Random dice(11);
        double byMap = 0.0, byRay = 0.0, apart = 0.0;
        int n = 0;
        for (int pass = 0; pass < 8; ++pass) {
            map.begin(set, sun, Vec2(dice.next(), dice.next()), static_cast<std::uint32_t>(pass));
            for (int i = 0; i < 4000; ++i, ++n) {
                // Along lines of sight.
                const float t = std::exp(dice.range(0.7f, 4.8f));
                const Vec3 d = Vec3(dice.range(-0.6f, 0.6f), dice.range(-0.02f, 0.3f), -1.f).normalized();
                const Vec3 p = eye + d * t;
                const unsigned a = mapped(map, p), b = set->occluded(p, sun, 1e4f) ? 1u : 0u;
                byMap += a, byRay += b, apart += a != b;
            }
        }
        qInfo() << "shaded" << byMap / n << "and by rays" << byRay / n << "other" << apart / n;
        QVERIFY(byRay > 0.002 * n); // there is something to be told
        QVERIFY2(std::abs(byMap - byRay) < 0.004 * n + 0.01 * byRay,
                 qPrintable(QString("%1 %2").arg(byMap).arg(byRay)));
        QVERIFY2(apart < 0.04 * n, qPrintable(QString::number(apart / n)));
    }

    void whatIsPlacedAndWhatMovesToo()
    {
        // The wall of above, but built lying at the origin and stood up where it is; and one that moves by 20 m.
        Mat4 place;
        place.rotate(Vec3(radians(90.0), 0.f, 0.f));
        Mat4 move;
        move.setTranslation(Vec3(0.f, 10.f, -20.f));
        const std::string lying = "v -100 0 0\nv 100 0 0\nv 100 0 10\nv -100 0 10\nf 1 2 3 4\n";
        const auto wall = scene(lying, place * move);
        SunMap map(wall->bounds(), Vec3(0.f, 1.7f, 0.f), 0.002f);
        map.begin(wall, toSun(45, 0), Vec2(0.5f, 0.5f), 1u);
        QCOMPARE(mapped(map, Vec3(0.f, 3.f, -16.f)), 1u);
        QCOMPARE(mapped(map, Vec3(0.f, 3.f, -12.f)), 0u);
        Mat4 later;
        later.setTranslation(Vec3(0.f, 10.f, 0.f));
        const auto moving = scene(lying, place * move, place * later);
        SunMap moves(moving->bounds(), Vec3(0.f, 1.7f, 0.f), 0.002f);
        int shaded = 0;
        for (int pass = 0; pass < 200; ++pass) {
            moves.begin(moving, toSun(45, 0), Vec2(0.5f, 0.5f), static_cast<std::uint32_t>(pass));
            shaded += static_cast<int>(mapped(moves, Vec3(0.f, 3.f, -8.5f)));
        }
        // In its shadow, which is 7 m long there, while the wall is from −15.5 to −8.5: 7 of 20 m.
        NEAR(shaded / 200.0, 0.35, 0.3);
    }

    void severalThreadsAtOnceFindTheSame()
    {
        const auto set = scene(posts(5, 60));
        const Vec3 eye(0.f, 1.7f, 0.f), sun = toSun(20, 100);
        std::vector<unsigned> found[2];
        for (auto& each : found) {
            SunMap map(set->bounds(), eye, 0.002f);
            map.begin(set, sun, Vec2(0.3f, 0.7f), 1u);
            each.resize(4 * 4000);
            const auto work = [&](std::size_t part) {
                for (std::size_t i = 0; i < 4000; ++i) {
                    Random dice(static_cast<std::uint32_t>(i)); // all ask for the same
                    const Vec3 p(dice.range(-30, 30), dice.range(0, 8), dice.range(-80, -2));
                    each[part * 4000 + i] = mapped(map, p);
                }
            };
            if (&each == &found[0]) {
                for (std::size_t k = 0; k < 4; ++k)
                    work(k);
            } else {
                std::vector<std::jthread> threads;
                for (std::size_t k = 0; k < 4; ++k)
                    threads.emplace_back(work, k);
            }
        }
        QVERIFY(found[0] == found[1]);
    }
};

QTEST_GUILESS_MAIN(TestSunMap)
#include "test_sun_map.moc"
