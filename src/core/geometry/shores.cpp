#include "geometry/shores.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace hygros::geometry {

Shores::Shores(const RayScene& bare, float level, const Vec2& centre, JobControl& job)
{
    const Box3& box = bare.bounds();
    float cell = 0.1f;
    for (Scale& s : scales_) {
        s.cell = cell;
        s.corner = centre - Vec2(0.5f * cell * cells);
        cell *= 4.f;
        if (box.isEmpty() || box.min.y > level || box.max.y < level)
            continue;
        // Along every row and column of cells: where a way at the level meets something, a shore is.
        std::vector<std::uint8_t> shore(std::size_t(cells) * cells, 0);
        const float wide = s.cell * cells;
        for (const bool alongX : {true, false})
            parallelFor(cells, [&](std::size_t row) {
                const float aside = (static_cast<float>(row) + 0.5f) * s.cell;
                const Vec3 way = alongX ? Vec3(1.f, 0.f, 0.f) : Vec3(0.f, 0.f, 1.f),
                           from = alongX ? Vec3(s.corner.x, level, s.corner.y + aside)
                                         : Vec3(s.corner.x + aside, level, s.corner.y);
                Hit hit;
                float gone = 0.f;
                for (int i = 0; i < 256 && !job.cancelled() && bare.traceSets(from, way, gone, wide, hit); ++i) {
                    const auto k = std::min(std::size_t(cells - 1), static_cast<std::size_t>(hit.t / s.cell));
                    // (Rows write cells of their own; columns come after.)
                    shore[alongX ? row * cells + k : k * cells + row] = 1;
                    gone = hit.t * (1.f + 1e-5f) + 1e-3f;
                }
            });
        job.check();
        if (std::find(shore.begin(), shore.end(), std::uint8_t(1)) == shore.end())
            continue;
        // On from cell to cell, straight and across (G. Borgefors, Distance transformations in digital images, 1986).
        s.away.assign(shore.size(), farthest);
        const auto at = [&](int x, int z) -> float& {
            return s.away[static_cast<std::size_t>(z) * cells + static_cast<std::size_t>(x)];
        };
        const float one = s.cell, across = 1.414f * s.cell;
        for (int z = 0; z < cells; ++z)
            for (int x = 0; x < cells; ++x) {
                float d = shore[static_cast<std::size_t>(z) * cells + static_cast<std::size_t>(x)] ? 0.f : farthest;
                if (x > 0)
                    d = std::min(d, at(x - 1, z) + one);
                if (z > 0) {
                    d = std::min(d, at(x, z - 1) + one);
                    if (x > 0)
                        d = std::min(d, at(x - 1, z - 1) + across);
                    if (x + 1 < cells)
                        d = std::min(d, at(x + 1, z - 1) + across);
                }
                at(x, z) = d;
            }
        for (int z = cells - 1; z >= 0; --z)
            for (int x = cells - 1; x >= 0; --x) {
                float& d = at(x, z);
                if (x + 1 < cells)
                    d = std::min(d, at(x + 1, z) + one);
                if (z + 1 < cells) {
                    d = std::min(d, at(x, z + 1) + one);
                    if (x > 0)
                        d = std::min(d, at(x - 1, z + 1) + across);
                    if (x + 1 < cells)
                        d = std::min(d, at(x + 1, z + 1) + across);
                }
            }
    }
}

float Shores::away(float x, float z) const
{
    for (const Scale& s : scales_) {
        const float u = (x - s.corner.x) / s.cell - 0.5f, v = (z - s.corner.y) / s.cell - 0.5f;
        if (!(u >= 0.f && v >= 0.f && u < cells - 1 && v < cells - 1))
            continue;
        if (s.away.empty())
            return farthest;
        const auto i = static_cast<std::size_t>(u), j = static_cast<std::size_t>(v);
        const float a = u - static_cast<float>(i), b = v - static_cast<float>(j);
        const float* d = &s.away[j * cells + i];
        return (d[0] * (1.f - a) + d[1] * a) * (1.f - b) + (d[cells] * (1.f - a) + d[cells + 1] * a) * b;
    }
    return farthest;
}

std::size_t Shores::bytes() const
{
    return sizeof *this + (scales_[0].away.size() + scales_[1].away.size()) * sizeof(float);
}
} // namespace hygros::geometry
