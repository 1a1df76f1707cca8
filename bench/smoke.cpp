#include "smoke.h"

#include "sim/smoke/gas.h"

#include <chrono>
#include <cmath>
#include <fstream>
#include <openvdb/openvdb.h>
#include <openvdb/tools/PoissonSolver.h>
#include <unistd.h>

namespace hygros::bench {
namespace {
using namespace sim;
double since(std::chrono::steady_clock::time_point t)
{
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - t).count();
}
template <class Body> double least(int times, const Body& body)
{
    double best = 1e30;
    for (int i = 0; i < times; ++i) {
        const auto t = std::chrono::steady_clock::now();
        body();
        best = std::min(best, since(t));
    }
    return best;
}
Lattice cube(int n, float h = 0.02f)
{
    Lattice l;
    l.n = {n, n, n};
    l.h = h;
    return l;
}
/// What a rising plume leaves: sources low, sinks high, eddies about them.
float source(int n, int x, int y, int z)
{
    const float px = (float(x) + 0.5f) / float(n) - 0.5f, py = (float(y) + 0.5f) / float(n) - 0.5f,
                pz = (float(z) + 0.5f) / float(n) - 0.5f;
    return std::exp(-20.f * (px * px + pz * pz)) * (std::sin(9.f * py + 25.f * px) * std::cos(21.f * pz));
}
bool solid(int n, int x, int y, int z)
{
    const float px = (float(x) + 0.5f) / float(n) - 0.5f, py = (float(y) + 0.5f) / float(n) - 0.65f,
                pz = (float(z) + 0.5f) / float(n) - 0.5f;
    return (y == n / 3 + 1 && std::abs(px) < 0.3f && std::abs(pz) < 0.3f) ||
           px * px + py * py + pz * pz < 0.12f * 0.12f;
}
double resident()
{
    std::ifstream f("/proc/self/statm");
    double all = 0.0, here = 0.0;
    f >> all >> here;
    return here * double(sysconf(_SC_PAGESIZE));
}
} // namespace

Pressure pressure(int n, bool solids, bool withPeer)
{
    const Lattice l = cube(n);
    const Activity all = Activity::whole(l);
    CellKinds cells = CellKinds::of(l, all, {true, true, true, false, true, true});
    cells.anySolid = solids;
    for (int z = 0; solids && z < n; ++z)
        for (int y = 0; y < n; ++y)
            for (int x = 0; x < n; ++x)
                if (solid(n, x, y, z))
                    cells.kinds[std::size_t(l.at(x, y, z))] = Cell::Solid;
    PressureSolver solver(l);
    solver.setUp(all, cells);
    std::vector<float> row(static_cast<std::size_t>(n));
    Pressure out;
    out.own = 1e30;
    for (int i = 0; i < 5; ++i) {
        for (int z = 0; z < n; ++z)
            for (int y = 0; y < n; ++y) {
                for (int x = 0; x < n; ++x)
                    row[std::size_t(x)] = source(n, x, y, z);
                solver.setRow(0, n, y, z, row.data());
            }
        const auto t = std::chrono::steady_clock::now();
        out.iterations = solver.solve(1e-4f, 100).iterations;
        out.own = std::min(out.own, since(t));
    }
    if (!withPeer)
        return out;
    openvdb::initialize();
    openvdb::FloatTree tree(0.f);
    float most = 0.f;
    for (int z = 0; z < n; ++z)
        for (int y = 0; y < n; ++y)
            for (int x = 0; x < n; ++x)
                if (!solids || !solid(n, x, y, z)) {
                    const float v = -source(n, x, y, z);
                    tree.setValue(openvdb::Coord(x, y, z), v);
                    most = std::max(most, std::abs(v));
                }
    const auto edge = [n](const openvdb::Coord&, const openvdb::Coord& neighbour, double&, double& diagonal) {
        if (neighbour.y() >= n)
            diagonal -= 1.0; // open: the pressure is 0 there; walls give nothing
    };
    openvdb::math::pcg::State state = openvdb::math::pcg::terminationDefaults<double>();
    state.iterations = 4000;
    state.relativeError = 1e-4;
    state.absoluteError = 1e-12 * double(most);
    openvdb::util::NullInterrupter interrupter;
    const auto t = std::chrono::steady_clock::now();
    openvdb::tools::poisson::solveWithBoundaryConditions(tree, edge, state, interrupter, true);
    out.peer = state.success ? since(t) : 0.0;
    return out;
}

double triad()
{
    constexpr std::size_t count = std::size_t{1} << 25;
    std::vector<float> a(count, 1.f), b(count, 2.f), c(count, 0.f);
    const double ms = least(6, [&] {
        parallelRanges(count, 1 << 16, [&](std::size_t i, std::size_t end) {
            for (; i < end; ++i)
                c[i] = a[i] + 3.f * b[i];
        });
    });
    return ms * 1e6 / (12.0 * double(count)) * 600.0;
}

double denseStep(int n)
{
    const Lattice l = cube(n);
    GasStepper stepper(l);
    std::shared_ptr<Gas> gas = Gas::still(l);
    gas->activity = Activity::whole(l);
    GasSettings s;
    s.closed = {true, true, true, false, true, true};
    for (int z = 0; z < n; ++z)
        for (int y = 0; y < n; ++y)
            for (int x = 0; x < n; ++x) {
                const float d = float((x - n / 2) * (x - n / 2) + (y - n / 3) * (y - n / 3) +
                                      (z - n / 2) * (z - n / 2)) /
                                (0.025f * float(n) * float(n));
                gas->heat.data()[l.at(x, y, z)] = 150.f * std::exp(-d);
                gas->soot.data()[l.at(x, y, z)] = 1e-3f * std::exp(-d);
            }
    double best = 1e30;
    for (int i = 0; i < 8; ++i) {
        std::shared_ptr<Gas> next;
        const auto t = std::chrono::steady_clock::now();
        next = stepper.step(*gas, s, {}, {}, 1.f / 24);
        best = std::min(best, since(t));
        stepper.recycle(*gas);
        gas = next;
    }
    return best * 1e6 / std::pow(double(n), 3.0);
}

Sparse sparseStep()
{
    Lattice l;
    l.n = {96, 192, 96};
    l.h = 0.03f;
    l.origin = Vec3(-1.44f, 0.f, -1.44f);
    GasSettings s;
    s.cooling = 1500.f;
    Inflow in;
    in.heat = 700.f;
    in.fuel = 1.f;
    in.rate = 25.f;
    for (int z = 0; z < l.n[2]; ++z)
        for (int y = 2; y < 5; ++y)
            for (int x = 0; x < l.n[0]; ++x)
                if (const Vec3 p = l.middle(x, y, z); std::hypot(p.x, p.z) < 0.2f)
                    in.cells.push_back({{std::int16_t(x), std::int16_t(y), std::int16_t(z)}, 1.f});
    const double before = resident();
    GasStepper stepper(l);
    std::shared_ptr<Gas> gas = Gas::still(l);
    Sparse out;
    double own = 1e30;
    for (int i = 0; i < 240 && double(gas->activity.count()) < 0.18 * double(l.blockCount()); ++i) {
        const auto t = std::chrono::steady_clock::now();
        auto next = stepper.step(*gas, s, {in}, {}, 1.f / 60);
        const double ms = since(t);
        stepper.recycle(*gas);
        gas = next;
        out.share = double(gas->activity.count()) / double(l.blockCount());
        if (out.share > 0.15)
            own = std::min(own, ms);
    }
    out.bytes = (resident() - before) / double(gas->activity.cells());
    GasStepper whole(l);
    gas->activity = Activity::whole(l);
    double all = 1e30;
    for (int i = 0; i < 4; ++i) {
        const auto t = std::chrono::steady_clock::now();
        auto next = whole.step(*gas, s, {in}, {}, 1.f / 60);
        all = std::min(all, since(t));
        whole.recycle(*gas);
        gas = next;
    }
    out.times = all / own;
    return out;
}
} // namespace hygros::bench
