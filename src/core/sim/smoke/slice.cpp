#include "sim/smoke/slice.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::sim {
namespace {
constexpr float airDensity = 1.2f; ///< [kg/m³]

/// Where a place lies between the values of a lattice that stand at `shift` cells from the low corners of its cells.
struct Between {
    std::ptrdiff_t at = 0;
    Vec3 on{0.f};
    bool within = false;
    Between(const Lattice& l, const Vec3& place, const Vec3& shift)
    {
        const Vec3 p = (place - l.origin) / l.h - shift;
        int low[3];
        for (int a = 0; a < 3; ++a) {
            const float f = std::floor(p[a]);
            on[a] = p[a] - f;
            if (!(f >= -1.f && f <= static_cast<float>(l.n[static_cast<std::size_t>(a)])))
                return;
            low[a] = static_cast<int>(f);
        }
        at = l.at(low[0], low[1], low[2]);
        within = true;
    }
    float of(const Field& f, const Lattice& l) const
    {
        if (!within)
            return 0.f;
        const float* v = f.data() + at;
        const auto along = [&](std::ptrdiff_t i) { return v[i] + (v[i + 1] - v[i]) * on.x; };
        const auto flat = [&](std::ptrdiff_t i) { return along(i) + (along(i + l.row()) - along(i)) * on.y; };
        return flat(0) + (flat(l.plane()) - flat(0)) * on.z;
    }
};
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
        return Between(l, place, shift).of(f, l);
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
            const Between middle(l, place, Vec3(0.5f));
            switch (order.quality) {
            case Quality::Smoke: out.values[i] = 1e3f * middle.of(g.soot, l); break;
            case Quality::Temperature: out.values[i] = order.around + middle.of(g.heat, l); break;
            case Quality::Speed: out.values[i] = v.length(); break;
            case Quality::Fuel: out.values[i] = middle.of(g.fuel, l); break;
            case Quality::Pressure: // what it takes from the velocity in a step is its slope over the density
                out.values[i] = g.seconds > 0.f
                                    ? middle.of(g.pressure, l) * (1.f + Gas::mirrored) * airDensity * l.h / g.seconds
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
