/// What moves in water: its waves against their laws, and as part of a project.
#include "elements/wakes.h"
#include "media/open_water.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
using media::WakeGrid;
using media::WakeState;
namespace fs = std::filesystem;

namespace {
constexpr double turn = 6.283185307179586;

WakeGrid grid(int n, float cell, double depth = 1000.0)
{
    WakeGrid g;
    g.n = n;
    g.cell = cell;
    g.depth = depth;
    g.halves = 1e6f;
    return g;
}
float heightAt(const WakeState& s, const WakeGrid& g, int x, int z)
{
    return s.height[std::size_t(z) * std::size_t(g.n) + std::size_t(x)];
}
/// A train of waves about the middle that runs toward +X.
WakeState train(const WakeGrid& g, double k, float wide, float tall = 1e9f, int at = 0)
{
    WakeState s(g);
    const double w = media::frequencyOf(k, g.depth), up = (9.81 + media::skinOfWater * k * k) / w;
    for (int z = 0; z < g.n; ++z)
        for (int x = 0; x < g.n; ++x) {
            const float u = static_cast<float>(x - (at ? at : g.n / 2)) * g.cell,
                        v = static_cast<float>(z - g.n / 2) * g.cell,
                        e = std::exp(-u * u / (2.f * wide * wide) - v * v / (2.f * tall * tall));
            const std::size_t i = std::size_t(z) * std::size_t(g.n) + std::size_t(x);
            s.height[i] = e * std::cos(static_cast<float>(k) * u);
            s.potential[i] = e * static_cast<float>(up) * std::sin(static_cast<float>(k) * u);
        }
    return s;
}
double middleOf(const WakeState& s, const WakeGrid& g)
{
    double sum = 0.0, all = 0.0;
    for (int z = 0; z < g.n; ++z)
        for (int x = 0; x < g.n; ++x) {
            const double h = double(heightAt(s, g, x, z));
            sum += h * h * x * double(g.cell);
            all += h * h;
        }
    return sum / all;
}
} // namespace

class TestWake : public QObject {
    Q_OBJECT
    JobControl job_;

    /// A small hull that has run for some seconds at a speed toward −Z, and where it is.
    WakeState underWay(const WakeGrid& g, float speed, double seconds, Vec2& hull)
    {
        const double dt = 0.04;
        WakeState s(g);
        const auto push = [&](float z0, float z1, const Vec2& corner) {
            std::vector<float> out(s.height.size());
            const auto one = [&](float z, float sign) {
                for (int j = 0; j < g.n; ++j)
                    for (int i = 0; i < g.n; ++i) {
                        const float u = corner.x + float(i) * g.cell, v = corner.y + float(j) * g.cell - z;
                        if (std::abs(u) < 4.f && std::abs(v) < 6.f)
                            out[std::size_t(j) * std::size_t(g.n) + std::size_t(i)] += sign * 0.1f *
                                                                                       std::exp(-(u * u + v * v) /
                                                                                                (2.f * 0.25f * 0.25f));
                    }
            };
            one(z1, 1.f);
            one(z0, -1.f);
            return out;
        };
        const float half = 0.5f * float(g.n) * g.cell;
        const auto corner = [&](float z) {
            return Vec2(std::round(-half / g.cell) * g.cell,
                        std::round((z - 0.25f * half - 0.5f * half) / g.cell) * g.cell);
        };
        float z = 0.f;
        s.corner = corner(0.f);
        for (double t = 0.0; t < seconds; t += dt) {
            const float next = z - speed * float(dt);
            s = media::stepped(s, g, corner(next), push(z, next, corner(next)), dt);
            z = next;
        }
        hull = Vec2(0.f, z);
        return s;
    }

private Q_SLOTS:
    void aTrainRunsAtItsGroupSpeed_data()
    {
        QTest::addColumn<double>("length");
        QTest::addColumn<double>("depth");
        QTest::newRow("deep") << 4.0 << 1000.0;
        QTest::newRow("shallow") << 8.0 << 0.5;
        QTest::newRow("ripples") << 0.05 << 10.0;
    }
    void aTrainRunsAtItsGroupSpeed()
    {
        QFETCH(double, length);
        QFETCH(double, depth);
        const WakeGrid g = grid(256, static_cast<float>(length / 12.0), depth);
        const double k = turn / length, speed = media::groupSpeedOf(k, depth), seconds = 3.0 * length / speed;
        WakeState s = train(g, k, static_cast<float>(2.0 * length), static_cast<float>(2.0 * length));
        const double from = middleOf(s, g), energy = media::energyOf(s, g);
        for (int i = 0; i < 10; ++i)
            s = media::stepped(s, g, Vec2(0.f), {}, 0.1 * seconds);
        NEAR(middleOf(s, g) - from, speed * seconds, 0.02);
        NEAR(media::energyOf(s, g), energy, 5e-3);
    }

    void wallsThrowWavesBack()
    {
        // A wall across; a train that comes to it goes away from it again with all that it had.
        const WakeGrid g = grid(256, 0.25f);
        const double k = turn / 3.0;
        WakeState s = train(g, k, 4.f, 6.f, 128);
        const float wall = 46.f;
        const double energy = media::energyOf(s, g), from = middleOf(s, g);
        const double speed = media::groupSpeedOf(k, g.depth), seconds = 2.0 * (double(wall) - from) / speed;
        const int steps = 160;
        for (int i = 0; i < steps; ++i)
            s = media::stepped(s, g, Vec2(0.f), {}, seconds / steps, [&](float x, float) { return x < wall; });
        NEAR(media::energyOf(s, g), energy, 0.02);
        NEAR(middleOf(s, g), from, 0.05);
        for (int x = int(wall / g.cell) + 1; x < g.n; ++x)
            QCOMPARE(heightAt(s, g, x, g.n / 2), 0.f);
    }

    void wakesStandAtKelvinsAngle_data()
    {
        QTest::addColumn<float>("speed");
        for (const float v : {1.6f, 2.f, 2.5f})
            QTest::newRow(qPrintable(QString("%1 m/s").arg(double(v)))) << v;
    }
    void wakesStandAtKelvinsAngle()
    {
        QFETCH(float, speed);
        const float length = 2.f * 3.14159265f * speed * speed / 9.81f;
        const WakeGrid g = grid(320, length / 10.f);
        Vec2 hull;
        const WakeState s = underWay(g, speed, 16.0 * double(length) / double(speed), hull);
        // Along its track crests follow each other at 2π·v²/g.
        const int column = static_cast<int>(std::lround((0.f - s.corner.x) / g.cell));
        std::vector<double> crossings;
        double before = 0.0;
        for (int j = int(std::lround((hull.y + 2.f * length - s.corner.y) / g.cell));
             j < int(std::lround((hull.y + 7.f * length - s.corner.y) / g.cell)) && j < g.n; ++j) {
            const double h = double(heightAt(s, g, column, j));
            if (before < 0.0 && h >= 0.0)
                crossings.push_back(double(s.corner.y) + (j - h / (h - before)) * double(g.cell));
            before = h;
        }
        QVERIFY2(crossings.size() >= 3, qPrintable(QString::number(crossings.size())));
        NEAR((crossings.back() - crossings.front()) / double(crossings.size() - 1), double(length), 0.05);
        // The wake's arms: where at each distance behind waves are highest.
        double angle = 0.0;
        int count = 0;
        for (float back = 4.f; back < 8.f; back += 0.25f) {
            // Over a wave's length, so that it is the envelope.
            float most = 0.f, at = 0.f;
            for (int i = column; i < g.n - 40; ++i) {
                float highest = 0.f;
                for (float d = -0.4f; d <= 0.4f; d += 0.1f) {
                    const int j = int(std::lround((hull.y + (back + d) * length - s.corner.y) / g.cell));
                    if (j >= 0 && j < g.n)
                        highest = std::max(highest, std::abs(heightAt(s, g, i, j)));
                }
                if (highest > most) {
                    most = highest;
                    at = float(i - column) * g.cell;
                }
            }
            angle += std::atan(double(at) / double(back * length)) * 360.0 / turn;
            ++count;
        }
        angle /= count;
        QVERIFY2(std::abs(angle - 19.47) < 2.0, qPrintable(QString::number(angle)));
    }

    void aStoneMakesRingsThatRunOut()
    {
        // A drop of water's worth falls in; after it a ring of each length stands as far out as its group has run.
        const WakeGrid g = grid(256, 0.05f);
        WakeState s(g);
        for (int z = 0; z < g.n; ++z)
            for (int x = 0; x < g.n; ++x) {
                const float u = float(x - 128) * g.cell, v = float(z - 128) * g.cell;
                s.height[std::size_t(z) * 256 + std::size_t(x)] = -0.05f * std::exp(-(u * u + v * v) / 0.02f);
            }
        const double seconds = 5.0;
        for (int i = 0; i < 24; ++i)
            s = media::stepped(s, g, Vec2(0.f), {}, seconds / 24);
        // Around it alike, and at each radius as long as waves are whose group came there: k = g·t²/(4·r²).
        for (const float r : {2.5f, 3.5f}) {
            const int i = int(r / g.cell);
            QVERIFY(std::abs(heightAt(s, g, 128 + i, 128) - heightAt(s, g, 128, 128 + i)) < 2e-5f);
        }
        // Crests along +X; their spacing is the local wave's.
        std::vector<double> zero;
        for (int i = int(2.2f / g.cell); i < int(4.6f / g.cell); ++i) {
            const double a = double(heightAt(s, g, 128 + i, 128)), b = double(heightAt(s, g, 129 + i, 128));
            if (a < 0.0 && b >= 0.0)
                zero.push_back((i + a / (a - b)) * double(g.cell));
        }
        QVERIFY(zero.size() >= 2);
        for (std::size_t i = 1; i < zero.size(); ++i) {
            const double r = 0.5 * (zero[i] + zero[i - 1]), k = 9.81 * seconds * seconds / (4.0 * r * r);
            NEAR(zero[i] - zero[i - 1], turn / k, 0.08);
        }
    }

    void foamFadesByItsHalves()
    {
        // Something goes down fast: the water is torn. Then half of the foam is gone in each of its half-lives, however
        // long the steps are; it spreads meanwhile.
        WakeGrid g = grid(64, 0.25f);
        g.foamHalves = 2.f;
        std::vector<float> push(64 * 64, 0.f);
        for (int z = 30; z < 34; ++z)
            for (int x = 30; x < 34; ++x)
                push[std::size_t(z * 64 + x)] = 0.08f;
        WakeState s = media::stepped(WakeState(g), g, Vec2(0.f), push, 0.04);
        const double begun = media::foamOf(s, g);
        QVERIFY(begun > 0.5 && begun < 3.0);
        for (const double step : {0.04, 0.2}) {
            WakeState later = s;
            std::fill(later.height.begin(), later.height.end(), 0.f); // no wave breaks any more
            std::fill(later.potential.begin(), later.potential.end(), 0.f);
            for (int i = 0; i < static_cast<int>(std::lround(3.0 / step)); ++i)
                later = media::stepped(later, g, Vec2(0.f), {}, step);
            NEAR(media::foamOf(later, g) / begun, std::exp2(-3.0 / 2.0), 0.01);
            const std::size_t beside = 32 * 64 + 36;
            QVERIFY(later.foam[beside] > 0.001f && s.foam[beside] == 0.f);
        }
        // Slowly let in, nothing is torn.
        for (float& p : push)
            p *= 0.02f;
        QCOMPARE(media::foamOf(media::stepped(WakeState(g), g, Vec2(0.f), push, 0.04), g), 0.0);
        const media::WakePatch patch(s, g, 1.f);
        QVERIFY(patch.foamAt(8.f, 8.f) > 0.9f && patch.foamAt(2.f, 2.f) == 0.f);
    }

    void aHullStandsAsDeepAsItDoes()
    {
        geometry::Mesh m;
        for (int i = 0; i < 8; ++i) {
            m.positions.push_back(Vec3(i & 1 ? 2.f : -2.f, i & 2 ? 1.f : -0.5f, i & 4 ? 1.f : -1.f));
            m.normals.push_back(Vec3(0, 1, 0));
        }
        for (const auto& [a, b, c, d] : {std::array<unsigned, 4>{0, 1, 3, 2},
                                         {4, 6, 7, 5},
                                         {0, 4, 5, 1},
                                         {2, 3, 7, 6},
                                         {0, 2, 6, 4},
                                         {1, 5, 7, 3}})
            for (const unsigned i : {a, b, c, a, c, d})
                m.indices.push_back(i);
        auto set = std::make_shared<geometry::SetGeometry>();
        set->meshes.push_back(m);
        set->materials.emplace_back();
        set->triangles = 12;
        const geometry::RayScene box({{set, Mat4()}}, job_);
        const float cell = 0.05f;
        const auto draught = [&](float level) {
            double sum = 0.0;
            for (const float d : elements::draughtOf(box, level, Vec2(-4.f), 160, cell))
                sum += double(d) * double(cell) * double(cell);
            return sum;
        };
        NEAR(draught(0.f), 4.0 * 2.0 * 0.5, 0.05); // the water that it takes the place of
        NEAR(draught(0.3f), 4.0 * 2.0 * 0.8, 0.05);
        NEAR(draught(2.f), 4.0 * 2.0 * 1.5, 0.05); // under water as a whole
        QCOMPARE(draught(-0.6f), 0.0);
    }

    void aBoatOfAProjectMakesItsWake()
    {
        QTemporaryDir folder;
        const fs::path file = fs::path(folder.path().toStdString()) / "boat.obj";
        std::ofstream(file)
            << "o boat\nv -0.6 -0.3 -2\nv 0.6 -0.3 -2\nv 0.6 -0.3 2\nv -0.6 -0.3 2\nv -0.7 0.5 -2\nv 0.7 0.5 "
               "-2\nv 0.7 0.5 2\nv -0.7 0.5 2\nf 1 2 3 4\nf 1 5 6 2\nf 2 6 7 3\nf 3 7 8 4\nf 4 8 5 1\n";
        scene::Project p = elements::newProject();
        p.time.last = 100;
        p.add(*elements::findKind("openWater"), "Lake").set("speed", 0.0);
        scene::Element& boat = p.add(*elements::findKind("set"), "Boat");
        boat.set("file", file.string());
        const std::string id = boat.id;
        p.find("shot")->set("position", Vec3(0.f, 4.f, 12.f));
        Store store;
        const auto highest = [&](const shot::Shot& s) { return s.waters.at(0).surface->highest(); };
        p.frame = 60;
        QCOMPARE(highest(*elements::freeze(p, store, job_)), 0.f); // it lies still
        scene::Track track;
        track.keys = {{1.0, Vec3(0.f, 0.f, 0.f)}, {100.0, Vec3(0.f, 0.f, -8.f)}};
        p.find(id)->motion.put("position", track);
        const auto shot = elements::freeze(p, store, job_);
        QVERIFY2(highest(*shot) > 0.01f && highest(*shot) < 1.f, qPrintable(QString::number(highest(*shot))));
        // The same again, from what is kept and from nothing.
        QVERIFY(*elements::freeze(p, store, job_) == *shot);
        Store other;
        const auto again = elements::freeze(p, other, job_);
        const auto& a = static_cast<const media::OpenWater&>(*shot->waters[0].surface);
        const auto& b = static_cast<const media::OpenWater&>(*again->waters[0].surface);
        for (float x = -3.f; x < 3.f; x += 0.5f)
            for (float z = -6.f; z < 4.f; z += 0.5f)
                QCOMPARE(a.heightAt(x, z, 0.01f), b.heightAt(x, z, 0.01f));
        // At the first frame it is still at rest; without wakes it is flat; muted it moves nothing.
        p.frame = 1;
        QCOMPARE(highest(*elements::freeze(p, store, job_)), 0.f);
        p.frame = 60;
        p.find("lake")->set("wakes", 0.0);
        QCOMPARE(highest(*elements::freeze(p, store, job_)), 0.f);
        p.find("lake")->set("wakes", 1.0);
        p.find(id)->set("position", Vec3(0.f));
        // High over the water it makes none.
        track.keys = {{1.0, Vec3(0.f, 3.f, 0.f)}, {100.0, Vec3(0.f, 3.f, -8.f)}};
        p.find(id)->motion.put("position", track);
        QCOMPARE(highest(*elements::freeze(p, store, job_)), 0.f);
        // Afloat on waves it pushes what it would in still water, though the water has keys of its own.
        track.keys = {{1.0, Vec3(0.f, 0.f, 0.f)}, {100.0, Vec3(0.f, 0.f, -8.f)}};
        p.find(id)->motion.put("position", track);
        scene::Track even;
        even.keys = {{1.0, 1.0}, {100.0, 1.0}};
        p.find("lake")->motion.put("foam", even);
        p.find("lake")->set("speed", 7.0);
        const auto fixed = elements::freeze(p, store, job_);
        p.find(id)->set("floats", true);
        const auto afloat = elements::freeze(p, store, job_);
        QVERIFY(!(*afloat == *fixed)); // it is lifted
        const auto& c = static_cast<const media::OpenWater&>(*fixed->waters[0].surface);
        const auto& d = static_cast<const media::OpenWater&>(*afloat->waters[0].surface);
        for (float x = -3.f; x < 3.f; x += 0.5f)
            for (float z = -6.f; z < 4.f; z += 0.5f)
                QCOMPARE(c.heightAt(x, z, 0.01f), d.heightAt(x, z, 0.01f));
    }
};

QTEST_GUILESS_MAIN(TestWake)
#include "test_wake.moc"
