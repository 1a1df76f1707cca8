/// Forces that move the air, and gas that takes their motion on; rooms that smoke fills.
#include "base/random.h"
#include "elements/bake.h"
#include "lattices.h"
#include "media/streamlines.h"
#include "sim/smoke/gas.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using namespace hygros::media;
using sim::Gas;
using sim::GasSettings;
using sim::GasStepper;
using sim::Inflow;
using sim::Lattice;
using test::box;
using test::eachCell;

namespace {
Force turbulence(float speed, float eddies)
{
    Force f;
    f.form = Force::Form::Turbulence;
    f.half = Vec3(1e4f);
    f.speed = speed;
    f.pattern = gustPattern(eddies, 3);
    return f;
}
Vec3 motionAt(const Force& f, const Vec3& p)
{
    F8 v[3];
    f.motion8(f8(p.x), f8(p.y), f8(p.z), v);
    return {v[0][0], v[1][0], v[2][0]};
}
std::shared_ptr<Gas> wholeGas(const Lattice& l)
{
    auto gas = Gas::still(l);
    gas->activity = sim::Activity::whole(l);
    return gas;
}
/// Air of even heat that nothing else acts on, stepped with a force.
std::shared_ptr<Gas> moved(const Lattice& l, std::shared_ptr<Gas> gas, const Force& force, int steps, float seconds)
{
    GasSettings s;
    s.buoyancy = 0.f;
    s.weight = 0.f;
    GasStepper stepper(l);
    for (int i = 0; i < steps; ++i)
        gas = stepper.step(*gas, s, {}, {}, seconds, {force});
    return gas;
}
} // namespace

class TestForce : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void streamlinesGoWhereTheForceGoes()
    {
        // A swirl about the vertical: rings around its axis, at even heights, within where it acts.
        Force f;
        f.form = Force::Form::Swirl;
        f.half = Vec3(3.f, 2.f, 3.f);
        f.speed = 2.f;
        f.radius = 1.f;
        const auto rings = media::streamlines(f, {}, 40);
        QVERIFY(rings.size() >= 36);
        for (const auto& line : rings) {
            QVERIFY(line.points.size() > 4 && line.speed > 0.f);
            const float radius = std::hypot(line.points[0].x, line.points[0].z);
            for (const Vec3& p : line.points) {
                NEAR(std::hypot(p.x, p.z), radius, radius > 0.3f ? 0.06 : 0.6);
                QVERIFY(std::abs(p.y - line.points[0].y) < 1e-4f);
            }
            // In the direction of the motion.
            const std::size_t middle = line.points.size() / 2;
            QVERIFY((line.points[middle + 1] - line.points[middle]).dot(motionAt(f, line.points[middle])) > 0.f);
        }
        // A pull: straight to the middle; turned about, away from it.
        f.form = Force::Form::Pull;
        for (const float speed : {1.f, -1.f}) {
            f.speed = speed;
            for (const auto& line : media::streamlines(f, {}, 16))
                QVERIFY((line.points.back().length() < line.points.front().length()) == (speed > 0.f));
        }
        // A hold has none of its own, and shows how the wind goes through it.
        f.form = Force::Form::Hold;
        QVERIFY(media::streamlines(f, {}, 16).empty());
        Wind wind;
        wind.velocity = Vec3(0.f, 0.f, -3.f);
        wind.ground = -10.f;
        const auto through = media::streamlines(f, std::vector<Wind>{wind}, 16);
        QVERIFY(!through.empty());
        for (const auto& line : through)
            QVERIFY(line.points.back().z < line.points.front().z && line.speed < 3.f);
    }
    void turbulenceHasItsSpeedAndKeepsItsAir()
    {
        const Force f = turbulence(1.5f, 0.8f);
        Random chance(7);
        double square[3] = {}, worst = 0.0, fastest = 0.0;
        constexpr int places = 4000;
        const float h = 0.05f;
        for (int i = 0; i < places; ++i) {
            const Vec3 p(40.f * chance.next(), 40.f * chance.next(), 40.f * chance.next());
            const Vec3 v = motionAt(f, p);
            for (int a = 0; a < 3; ++a)
                square[a] += double(v[a] * v[a]) / places;
            // What flows out of a cell through its faces also flows in.
            double out = 0.0;
            for (int a = 0; a < 3; ++a)
                for (const float side : {-0.5f, 0.5f}) {
                    Vec3 face = p;
                    face[a] += side * h;
                    const double through = double(f.component8(a, f8(face.x), f8(face.y), f8(face.z), h)[0]);
                    out += side > 0.f ? through : -through;
                    fastest = std::max(fastest, std::abs(through));
                }
            worst = std::max(worst, std::abs(out));
        }
        for (const double s : square)
            NEAR(std::sqrt(s), 1.5, 0.12);
        QVERIFY2(worst < 2e-3 * fastest, qPrintable(QString("%1 of %2").arg(worst).arg(fastest)));
    }

    void turbulenceEndsAtItsBorder()
    {
        Force f = turbulence(1.f, 0.5f);
        f.half = Vec3(2.f, 1.f, 2.f);
        QCOMPARE(motionAt(f, Vec3(0.f, 1.3f, 0.f)).length(), 0.f);
        QVERIFY(motionAt(f, Vec3(0.2f, 0.1f, 0.1f)).length() > 0.f);
        QVERIFY(f.touches(Vec3(1.f, 0.f, 0.f), Vec3(5.f)));
        QVERIFY(!f.touches(Vec3(2.5f, 0.f, 0.f), Vec3(5.f)));
        // Inside of it no air is made either, for its potential is what is weighted.
        const float h = 0.04f;
        double out = 0.0;
        for (int a = 0; a < 3; ++a)
            for (const float side : {-0.5f, 0.5f}) {
                Vec3 face(0.9f, 0.6f, 0.7f);
                face[a] += side * h;
                out += double(side) * 2.0 * double(f.component8(a, f8(face.x), f8(face.y), f8(face.z), h)[0]);
            }
        QVERIFY(std::abs(out) < 2e-3);
    }

    void aSwirlIsRankinesVortex()
    {
        Force f;
        f.form = Force::Form::Swirl;
        f.half = Vec3(1e4f);
        f.speed = 2.f;
        f.radius = 0.5f;
        NEAR(motionAt(f, Vec3(0.25f, 3.f, 0.f)).length(), 1.0, 1e-3); // like a solid body inside
        NEAR(motionAt(f, Vec3(0.f, -2.f, 0.5f)).length(), 2.0, 1e-3); // fastest at its radius
        NEAR(motionAt(f, Vec3(-2.f, 0.f, 0.f)).length(), 0.5, 1e-3);  // by 1/r outside
        const Vec3 east = motionAt(f, Vec3(0.5f, 0.f, 0.f));          // as the sun goes: from east to south (+Z)
        QVERIFY(east.z > 1.9f && std::abs(east.x) < 1e-4f && std::abs(east.y) < 1e-4f);
        f.axis = Vec3(1.f, 0.f, 0.f);
        const Vec3 above = motionAt(f, Vec3(4.f, 0.5f, 0.f));
        QVERIFY(std::abs(above.x) < 1e-4f && std::abs(std::abs(above.z) - 2.f) < 1e-3f);
    }

    void gasTakesASwirlOn()
    {
        Force f;
        f.form = Force::Form::Swirl;
        f.centre = Vec3(1.6f, 0.8f, 1.6f);
        f.half = Vec3(1.5f, 4.f, 1.5f);
        f.speed = 1.f;
        f.radius = 0.5f;
        f.grip = 8.f;
        const Lattice l = box(32, 16, 32, 0.1f);
        const auto gas = moved(l, wholeGas(l), f, 30, 0.04f);
        // Speed around the axis at its radius, from the faces there.
        const float east = gas->z.data()[l.at(21, 8, 16)], south = gas->x.data()[l.at(16, 8, 21)];
        QVERIFY2(east > 0.75f && east < 1.1f, qPrintable(QString::number(double(east))));
        NEAR(-south / east, 1.0, 0.1);
        QVERIFY(std::abs(gas->y.data()[l.at(16, 8, 16)]) < 0.5f * east);
    }

    void aPullDrawsWhatIsHotAndLeavesTheAirAlone()
    {
        Force f;
        f.form = Force::Form::Pull;
        f.centre = Vec3(2.f, 0.8f, 0.8f);
        f.half = Vec3(2.5f);
        f.speed = 1.5f;
        f.grip = 4.f;
        const Lattice l = box(32, 16, 16, 0.1f);
        const auto middleOf = [&](const Gas& g) {
            double at = 0.0, all = 0.0;
            eachCell(l, [&](int x, int y, int z) {
                const double s = double(g.soot.data()[l.at(x, y, z)]);
                at += s * double(l.middle(x, y, z).x);
                all += s;
            });
            return at / all;
        };
        const auto smoky = [&] {
            auto gas = wholeGas(l);
            eachCell(l, [&](int x, int y, int z) {
                if ((l.middle(x, y, z) - Vec3(1.2f, 0.8f, 0.8f)).length() < 0.3f)
                    gas->soot.data()[l.at(x, y, z)] = 1e-3f;
            });
            return gas;
        };
        const double before = middleOf(*smoky()), after = middleOf(*moved(l, smoky(), f, 15, 0.04f));
        QVERIFY2(after > before + 0.1, qPrintable(QString("%1 to %2").arg(before).arg(after)));
        f.speed = -1.5f;
        QVERIFY(middleOf(*moved(l, smoky(), f, 15, 0.04f)) < before - 0.1);
        QVERIFY(moved(l, wholeGas(l), f, 15, 0.04f)->fastest < 1e-5f);
    }

    void aPullToASurfaceGoesToItsNearestPlace()
    {
        // A ball of 1 m radius from triangles, and a floor: from anywhere the way is that of closed form.
        std::vector<std::array<Vec3, 3>> ball;
        constexpr int rings = 48;
        const auto on = [](int i, int j) {
            const float a = pi * static_cast<float>(i) / rings, b = 2.f * pi * static_cast<float>(j) / rings;
            return Vec3(std::sin(a) * std::cos(b), std::cos(a), std::sin(a) * std::sin(b));
        };
        for (int i = 0; i < rings; ++i)
            for (int j = 0; j < rings; ++j) {
                ball.push_back({on(i, j), on(i + 1, j), on(i + 1, j + 1)});
                ball.push_back({on(i, j), on(i + 1, j + 1), on(i, j + 1)});
            }
        const std::vector<std::array<Vec3, 3>> floor{
            {Vec3(-1e5f, 0.f, -1e5f), Vec3(1e5f, 0.f, -1e5f), Vec3(0.f, 0.f, 2e5f)}};
        JobControl job;
        Random random(4);
        for (const bool isBall : {true, false}) {
            const TowardSurface to(isBall ? ball : floor, Vec3(-2.f, -2.f, -3.f), Vec3(2.f, 2.f, 3.f), job);
            QVERIFY(!to.isEmpty());
            for (int i = 0; i < 2000; ++i) {
                const Vec3 p(random.range(-2.f, 2.f), random.range(-2.f, 2.f), random.range(-3.f, 3.f));
                if (isBall && p.length() < 0.3f) // where all of it is as near
                    continue;
                F8 way[3];
                to.way8(f8(p.x), f8(p.y), f8(p.z), way);
                const Vec3 found(way[0][3], way[1][3], way[2][3]),
                    wanted = isBall ? p * (1.f / p.length() - 1.f) : Vec3(0.f, -p.y, 0.f);
                QVERIFY2((found - wanted).length() < 1.2f * to.cell() + 0.05f * wanted.length(),
                         qPrintable(QString("%1").arg(double((found - wanted).length() / to.cell()))));
            }
        }
        QVERIFY(TowardSurface(ball, Vec3(3.f), Vec3(4.f), job).isEmpty());
        QVERIFY(TowardSurface({}, Vec3(0.f), Vec3(1.f), job).isEmpty());
        // As a force: toward it at its speed, slower beside it, none at the border.
        Force f;
        f.form = Force::Form::Pull;
        f.half = Vec3(2.f, 2.f, 3.f);
        f.speed = 2.f;
        f.surface = std::make_shared<const TowardSurface>(ball, -f.half, f.half, job);
        const Vec3 above(0.f, 1.5f, 0.f), v = motionAt(f, above);
        const double weight = double(f.weight8(f8(0.f), f8(1.5f), f8(0.f))[0]);
        NEAR(v.y, -2.0 * weight * 0.5 / (0.5 + double(f.surface->cell())), 0.1);
        QVERIFY(motionAt(f, Vec3(0.f, 0.6f, 0.f)).y > 0.f); // from within, outward
        QVERIFY(std::abs(motionAt(f, Vec3(0.f, 1.001f, 0.f)).y) < 0.2f * f.weight8(f8(0.f), f8(1.f), f8(0.f))[0]);
        QCOMPARE(motionAt(f, Vec3(0.f, 0.f, 3.f)), Vec3(0.f));
        // What rides the air comes to it from everywhere.
        Vec3 p(0.9f, 0.9f, -1.f);
        for (int i = 0; i < 400; ++i)
            p += airAt({}, {f}, p) * 0.02f;
        NEAR(p.length(), 1.0, 0.06);
    }

    void aHoldSlowsWhatPasses()
    {
        Force f;
        f.form = Force::Form::Hold;
        f.centre = Vec3(1.6f, 0.8f, 0.8f);
        f.half = Vec3(0.8f, 8.f, 8.f);
        f.grip = 3.f;
        const Lattice l = box(32, 16, 16, 0.1f);
        auto gas = wholeGas(l);
        eachCell(l, [&](int x, int y, int z) { gas->x.data()[l.at(x, y, z)] = 1.f; });
        const double inside = double(moved(l, gas, f, 10, 0.04f)->x.data()[l.at(16, 8, 8)]);
        f.half = Vec3(0.01f);
        const double free = double(moved(l, gas, f, 10, 0.04f)->x.data()[l.at(16, 8, 8)]);
        QVERIFY2(inside < 0.9 * free && free > 0.9, qPrintable(QString("%1, free %2").arg(inside).arg(free)));
    }

    void tracersFeelThemAll()
    {
        Force swirl;
        swirl.form = Force::Form::Swirl;
        swirl.half = Vec3(10.f);
        swirl.speed = 1.f;
        swirl.radius = 1.f;
        Force hold;
        hold.form = Force::Form::Hold;
        hold.centre = Vec3(50.f, 0.f, 0.f);
        hold.half = Vec3(2.f);
        hold.grip = 1.f;
        Wind wind;
        wind.velocity = Vec3(3.f, 0.f, 0.f);
        wind.reference = 10.f;
        const Vec3 far(200.f, 10.f, 0.f);
        QVERIFY((airAt({wind}, {swirl, hold}, far) - wind.at(far)).length() < 1e-6f);
        const Vec3 near(1.f, 0.5f, 0.f);
        QVERIFY((airAt({wind}, {swirl, hold}, near) - wind.at(near)).length() > 0.8f);
        QVERIFY(airAt({wind}, {hold}, Vec3(50.f, 0.f, 0.f)).length() < 1e-6f);
    }

    void aProjectsForceIsInTheShot()
    {
        scene::Project p = elements::newProject();
        scene::Element& e = p.add(*elements::findKind("force"), "Eddy");
        e.set("form", std::string("swirl"));
        e.set("turns", 0.5);
        e.set("radius", 2.0);
        e.set("position", Vec3(1.f, 2.f, 3.f));
        e.set("size", Vec3(4.f, 6.f, 8.f));
        e.set("tilt", 90.0);
        e.set("heading", 90.0);
        Store store;
        JobControl job;
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->airflow.forces.size(), std::size_t{1});
        const Force& f = shot->airflow.forces[0];
        NEAR(f.speed, 2.0 * double(pi) * 0.5 * 2.0, 1e-4);
        QCOMPARE(f.half, Vec3(2.f, 3.f, 4.f));
        QCOMPARE(f.centre, Vec3(1.f, 2.f, 3.f));
        QVERIFY((f.axis - Vec3(1.f, 0.f, 0.f)).length() < 1e-5f); // leaning toward +X
        // To a surface: of what, and where none is there, is said.
        scene::Element& eddy = *p.find("eddy");
        eddy.set("form", std::string("pull"));
        eddy.set("to", std::string("surface"));
        const auto told = [&](const char* words) {
            const auto now = elements::freeze(p, store, job);
            return now->airflow.forces.empty() &&
                   std::any_of(now->notes.begin(), now->notes.end(), [&](const shot::Note& n) {
                       return n.element == "eddy" && n.text.find(words) != std::string::npos;
                   });
        };
        QVERIFY(told("Choose the object"));
        scene::Element& marl = p.add(*elements::findKind("set"), "Marl");
        marl.set("file", std::string(SOURCE_DIR) + "/demo/tender.glb");
        p.find("eddy")->set("object", std::string("marl"));
        p.find("eddy")->set("position", Vec3(0.f, 900.f, 0.f));
        QVERIFY(told("pulls nowhere"));
        p.find("eddy")->set("position", Vec3(0.f, 0.f, 0.f));
        p.find("eddy")->set("size", Vec3(60.f));
        QVERIFY(elements::freeze(p, store, job)->airflow.forces.at(0).surface != nullptr);
        QVERIFY(elements::freeze(p, store, job)->airflow == elements::freeze(p, store, job)->airflow); // kept
        p.find("eddy")->muted = true;
        QVERIFY(elements::freeze(p, store, job)->airflow.forces.empty());
    }

    void smokeFillsARoomFromTheCeilingAndLeavesByTheDoor()
    {
        // A hut of 3.2 m by 2.4 m with thick walls in a wider box; a smouldering feed on its floor.
        const Lattice l = box(64, 40, 40, 0.1f); // the last blocks at the high sides stay free
        const auto inHut = [](int x, int y, int z) { return x >= 4 && x < 36 && y < 24 && z >= 4 && z < 28; };
        const auto wall = [&](int x, int y, int z) {
            return x >= 2 && x < 38 && y < 26 && z >= 2 && z < 30 && !inHut(x, y, z);
        };
        const auto door = [](int x, int y, int z) { return x >= 36 && x < 38 && y < 16 && z >= 12 && z < 20; };
        const auto solids = [&](bool open) {
            std::vector<std::uint8_t> s(l.size(), 0);
            eachCell(l, [&](int x, int y, int z) {
                s[static_cast<std::size_t>(l.at(x, y, z))] = wall(x, y, z) && !(open && door(x, y, z));
            });
            return s;
        };
        Inflow in;
        in.heat = 150.f;
        in.soot = 1e-3f;
        in.rate = 20.f;
        for (int x = 17; x < 23; ++x)
            for (int z = 13; z < 19; ++z)
                in.cells.push_back({{std::int16_t(x), 0, std::int16_t(z)}, 1.f});
        GasSettings s;
        s.closed[2] = true;
        GasStepper stepper(l);
        const auto mean = [&](const Gas& g, const auto& where) {
            double all = 0.0;
            int cells = 0;
            eachCell(l, [&](int x, int y, int z) {
                if (where(x, y, z)) {
                    all += double(g.soot.data()[l.at(x, y, z)]);
                    ++cells;
                }
            });
            return all / cells;
        };
        const auto below = [&](int x, int y, int z) { return inHut(x, y, z) && y < 6 && std::abs(x - 20) > 6; };
        const auto above = [&](int x, int y, int z) { return inHut(x, y, z) && y >= 18; };
        const auto outside = [&](int x, int y, int z) { return x >= 40 && y < 40 && z >= 0; };
        auto gas = Gas::still(l);
        stepper.setSolids(solids(false));
        for (int i = 0; i < 60; ++i)
            gas = stepper.step(*gas, s, {in}, {}, 0.06f);
        const double high = mean(*gas, above), low = mean(*gas, below);
        QVERIFY2(high > 4.0 * low && high > 1e-6, qPrintable(QString("%1 over %2").arg(high).arg(low)));
        QCOMPARE(mean(*gas, outside), 0.0);
        stepper.setSolids(solids(true));
        for (int i = 0; i < 240; ++i)
            gas = stepper.step(*gas, s, {in}, {}, 0.06f);
        QVERIFY2(mean(*gas, outside) > 1e-8, qPrintable(QString::number(mean(*gas, outside))));
        // It leaves under the lintel; fresh air comes in over the sill.
        const auto through = [&](int from, int to) {
            double sum = 0.0;
            for (int y = from; y < to; ++y)
                for (int z = 13; z < 19; ++z)
                    sum += double(gas->x.data()[l.at(37, y, z)]);
            return sum / (6.0 * (to - from));
        };
        const double out = through(11, 16), in_ = through(0, 5);
        QVERIFY2(out > 0.05 && in_ < -0.02, qPrintable(QString("%1 out, %2 in").arg(out).arg(in_)));
    }
};
QTEST_GUILESS_MAIN(TestForce)
#include "test_force.moc"
