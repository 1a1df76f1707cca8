#include "sim/smoke/slice.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::sim {
namespace {
constexpr float airDensity = 1.2f; ///< [kg/m³]

/// In cells, from where values stand that are `shift` cells from the low corners of their cells.
Vec3 inCells(const Lattice& l, const Vec3& place, const Vec3& shift) { return (place - l.origin) / l.h - shift; }

bool isInUse(const Gas& g, const Vec3& place)
{
    const Lattice& l = g.lattice;
    const Vec3 cell = (place - l.origin) / l.h;
    int block[3] = {};
    for (int a = 0; a < 3; ++a) {
        if (!(cell[a] >= 0.f && cell[a] < static_cast<float>(l.n[static_cast<std::size_t>(a)])))
            return false;
        block[a] = static_cast<int>(cell[a]) / Lattice::side;
    }
    return g.activity.isOn(l.block(block[0], block[1], block[2]));
}
} // namespace

Vec3 velocityAt(const Gas& g, const Vec3& place)
{
    const Lattice& l = g.lattice;
    if (!isInUse(g, place))
        return Vec3(0.f);
    const auto face = [&](int axis, const Field& f) {
        Vec3 shift(0.5f);
        shift[axis] = 0.f;
        return valueAt(l, f, inCells(l, place, shift));
    };
    return {face(0, g.x), face(1, g.y), face(2, g.z)};
}

Slice sliceOf(const Gas& g, const std::vector<media::Wind>& winds, const SliceOrder& order)
{
    const Lattice& l = g.lattice;
    const std::size_t columns = order.distances.size(), rows = order.heights.size();
    Slice out;
    constexpr float none = std::numeric_limits<float>::quiet_NaN();
    out.values.assign(columns * rows, none);
    out.flow.assign(columns * rows, Vec2(0.f));
    std::vector<float> fastest(rows, 0.f);
    parallelFor(rows, [&](std::size_t r) {
        for (std::size_t c = 0; c < columns; ++c) {
            Vec3 place = order.from + order.heading * order.distances[c];
            place.y = order.heights[r];
            if (!isInUse(g, place))
                continue;
            const Vec3 v = velocityAt(g, place) + media::windAt(winds, place);
            const std::size_t i = r * columns + c;
            out.flow[i] = Vec2(v.dot(order.heading), v.y);
            fastest[r] = std::max(fastest[r], out.flow[i].length());
            const Vec3 middle = inCells(l, place, Vec3(0.5f));
            switch (order.quality) {
            case Quality::Smoke: out.values[i] = 1e3f * valueAt(l, g.soot, middle); break;
            case Quality::Temperature: out.values[i] = order.around + valueAt(l, g.heat, middle); break;
            case Quality::Speed: out.values[i] = v.length(); break;
            case Quality::Fuel: out.values[i] = valueAt(l, g.fuel, middle); break;
            case Quality::Pressure: // what it takes from the velocity in a step is its slope over the density
                out.values[i] = g.seconds > 0.f ? valueAt(l, g.pressure, middle) * (1.f + Gas::mirrored) * airDensity *
                                                      l.h / g.seconds
                                                : none;
            }
        }
    });
    out.fastest = *std::max_element(fastest.begin(), fastest.end());
    bool any = false;
    for (const float v : out.values)
        if (!std::isnan(v)) {
            out.least = any ? std::min(out.least, v) : v;
            out.most = any ? std::max(out.most, v) : v;
            any = true;
        }
    return out;
}
} // namespace hygros::sim
