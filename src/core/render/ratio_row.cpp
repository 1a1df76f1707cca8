#include "render/ratio_row.h"

#include "shot/shot.h"

#include <algorithm>

namespace hygros::render {
namespace {
PathRatios::Packed one() { return {{f8(1.f), f8(1.f)}}; }
} // namespace

RatioRow::RatioRow(const PathRatios& ratios, int width, int height, int y)
    : known_(ratios.known()), overWidth_(1.f / static_cast<float>(width))
{
    if (!known_)
        return;
    const float v = (static_cast<float>(y) + 0.5f) / static_cast<float>(height);
    const auto take = [v](const Grid& g, float* to) {
        const auto [y0, part] = PathRatios::between(v, g.down);
        const std::size_t row = static_cast<std::size_t>(g.across) * values;
        for (int f = 0; f < g.faces; ++f)
            for (int d = 0; d < PathRatios::depths; ++d) {
                const float* from = &g.ratios[g.at(f, d, y0, 0) * values];
                for (std::size_t i = 0; i < row; i += lanes, to += lanes) {
                    const F8 a = load8(from + i);
                    store8(to, a + (load8(from + row + i) - a) * part);
                }
            }
    };
    take(ratios.air_, air_);
    take(ratios.set_, set_);
}

RatioRow::Around RatioRow::around(int across, float u, float depth)
{
    const auto [x0, fx] = PathRatios::between(u, across);
    const int d0 = static_cast<int>(depth), d1 = std::min(d0 + 1, PathRatios::depths - 1);
    const float fd = depth - static_cast<float>(d0);
    const int near = (d0 * across + x0) * values, far = (d1 * across + x0) * values;
    return {{near, near + values, far, far + values},
            {(1.f - fx) * (1.f - fd), fx * (1.f - fd), (1.f - fx) * fd, fx * fd}};
}

void RatioRow::blend(const float* face, const Around& at, float share, PathRatios::Packed& out)
{
    for (int k = 0; k < 4; ++k) {
        const float* v = face + at.node[k];
        const float w = share * at.share[k];
        out.v[0] += load8(v) * w;
        out.v[1] += load8(v + lanes) * w;
    }
}

PathRatios::Packed RatioRow::air(int column, float t) const
{
    if (!known_)
        return one();
    PathRatios::Packed out;
    blend(air_, around(PathRatios::airAcross, along(column), PathRatios::depthOf(t, t >= shot::Shot::farDistance)), 1.f,
          out);
    return out;
}

PathRatios::Packed RatioRow::set(int column, float t, const Vec3& n) const
{
    if (!known_)
        return one();
    PathRatios::Packed out;
    const Around at = around(PathRatios::setAcross, along(column), PathRatios::depthOf(t, false));
    // Most surfaces face about one way: what has hardly a share is left to the others.
    constexpr float little = 0.04f;
    float shares[3], kept = 0.f;
    for (int axis = 0; axis < 3; ++axis) {
        shares[axis] = n[axis] * n[axis] < little ? 0.f : n[axis] * n[axis];
        kept += shares[axis];
    }
    if (kept <= 0.f) // it faces nowhere
        return one();
    for (int axis = 0; axis < 3; ++axis)
        if (shares[axis] > 0.f)
            blend(set_ + (2 * axis + (n[axis] < 0.f)) * faceOfSet, at, shares[axis] / kept, out);
    return out;
}

PathRatios::Packed RatioRow::mirror(int column, float t) const
{
    if (!known_)
        return one();
    PathRatios::Packed out;
    blend(set_ + PathRatios::mirrors * faceOfSet,
          around(PathRatios::setAcross, along(column), PathRatios::depthOf(t, false)), 1.f, out);
    return out;
}
} // namespace hygros::render
