/// Which blocks a gas needs: those with something in it, those around, and rooms as wholes.
#include "base/simd.h"
#include "sim/smoke/gas.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
constexpr float thinnest = 1e-6f; ///< soot under this is let go [kg/m³]: a visibility of tens of kilometres
constexpr float coolest = 1.f;    ///< heat under this [K]
constexpr float leastFuel = 1e-4f;
} // namespace

float largestIn(const Lattice& l, const float* a, int bx, int by, int bz)
{
    F8 most{};
    for (int z = 0; z < Lattice::side; ++z)
        for (int y = 0; y < Lattice::side; ++y)
            most = max8(most,
                        abs8(load8(a + l.at(bx * Lattice::side, by * Lattice::side + y, bz * Lattice::side + z))));
    float out = 0.f;
    for (int i = 0; i < lanes; ++i)
        out = std::max(out, most[i]);
    return out;
}

void GasStepper::setSolids(std::vector<std::uint8_t> solid)
{
    if (solid == solid_)
        return;
    solid_ = std::move(solid);
    setUpFor_.reset();
    findRooms();
}

void GasStepper::findRooms()
{
    const Lattice& l = lattice_;
    rooms_.clear();
    roomCount_ = 0;
    if (solid_.empty())
        return;
    const auto b = l.blocks();
    std::vector<std::uint8_t> hasSolid(l.blockCount(), 0), behind(l.blockCount(), 0);
    const auto each = [&](const auto& body) {
        for (int z = 0; z < b[2]; ++z)
            for (int y = 0; y < b[1]; ++y)
                for (int x = 0; x < b[0]; ++x)
                    body(x, y, z, l.block(x, y, z));
    };
    each([&](int x, int y, int z, std::size_t i) {
        for (int k = 0; k < Lattice::side * Lattice::side && !hasSolid[i]; ++k) {
            const std::uint8_t* row = &solid_[static_cast<std::size_t>(
                l.at(x * Lattice::side, y * Lattice::side + k % Lattice::side, z * Lattice::side + k / Lattice::side))];
            hasSolid[i] = std::any_of(row, row + Lattice::side, [](std::uint8_t s) { return s != 0; });
        }
    });
    // Something solid lies to at least five of its six sides: one may be a door, or the sky over a yard.
    for (int axis = 0; axis < 3; ++axis) {
        const int p = (axis + 1) % 3, q = (axis + 2) % 3;
        for (int j = 0; j < b[static_cast<std::size_t>(p)]; ++j)
            for (int k = 0; k < b[static_cast<std::size_t>(q)]; ++k)
                for (const int way : {1, -1}) {
                    bool met = false;
                    const int n = b[static_cast<std::size_t>(axis)];
                    for (int i = 0; i < n; ++i) {
                        int at[3];
                        at[axis] = way > 0 ? i : n - 1 - i;
                        at[p] = j;
                        at[q] = k;
                        const std::size_t block = l.block(at[0], at[1], at[2]);
                        met = met || hasSolid[block];
                        behind[block] = static_cast<std::uint8_t>(behind[block] + met);
                    }
                }
    }
    rooms_.assign(l.blockCount(), -1);
    std::vector<std::array<int, 3>> open;
    each([&](int x, int y, int z, std::size_t first) {
        if (behind[first] < 5 || rooms_[first] >= 0)
            return;
        open = {{x, y, z}};
        rooms_[first] = roomCount_;
        while (!open.empty()) {
            const auto at = open.back();
            open.pop_back();
            for (int side = 0; side < 6; ++side) {
                auto next = at;
                next[static_cast<std::size_t>(side / 2)] += side % 2 ? 1 : -1;
                if (next[0] < 0 || next[1] < 0 || next[2] < 0 || next[0] >= b[0] || next[1] >= b[1] || next[2] >= b[2])
                    continue;
                const std::size_t i = l.block(next[0], next[1], next[2]);
                if (behind[i] >= 5 && rooms_[i] < 0) {
                    rooms_[i] = roomCount_;
                    open.push_back(next);
                }
            }
        }
        ++roomCount_;
    });
}

Activity GasStepper::needed(const Gas& gas, const std::vector<Inflow>& inflows) const
{
    const Lattice& l = lattice_;
    std::vector<std::uint8_t> full(l.blockCount(), 0);
    const auto& spans = gas.activity.spans();
    parallelRanges(spans.size(), 1, [&](std::size_t a, std::size_t b) {
        for (std::size_t s = a; s < b; ++s)
            for (int bx = spans[s].first; bx < spans[s].end; ++bx) {
                const auto most = [&](const Field& f) { return largestIn(l, f.data(), bx, spans[s].by, spans[s].bz); };
                if (most(gas.soot) > thinnest || most(gas.heat) > coolest || most(gas.fuel) > leastFuel)
                    full[l.block(bx, spans[s].by, spans[s].bz)] = 1;
            }
    });
    for (const Inflow& in : inflows)
        for (const auto& [cell, share] : in.cells)
            full[l.block(cell[0] / Lattice::side, cell[1] / Lattice::side, cell[2] / Lattice::side)] = 1;
    Activity activity = Activity(l, std::move(full)).grown(l);
    if (roomCount_ == 0)
        return activity;
    std::vector<std::uint8_t> isMet(static_cast<std::size_t>(roomCount_), 0), on = activity.on();
    for (std::size_t i = 0; i < on.size(); ++i)
        if (on[i] && rooms_[i] >= 0)
            isMet[static_cast<std::size_t>(rooms_[i])] = 1;
    const auto b = l.blocks();
    for (int z = 0; z + 1 < b[2]; ++z)
        for (int y = 0; y + 1 < b[1]; ++y)
            for (int x = 0; x + 1 < b[0]; ++x) // the last at the high sides stay free
                if (const std::size_t i = l.block(x, y, z);
                    rooms_[i] >= 0 && isMet[static_cast<std::size_t>(rooms_[i])])
                    on[i] = 1;
    return {l, std::move(on)};
}
} // namespace hygros::sim
