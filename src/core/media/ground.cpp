#include "media/ground.h"

#include "base/parallel.h"
#include "media/lookup.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::media {
namespace {
/// Least (or greatest) of each value's neighbours within `reach` cells along rows, then along columns.
template <class Pick> void spread(std::vector<float>& grid, int size, int reach, const Pick& pick)
{
    if (reach <= 0)
        return;
    const auto n = static_cast<std::size_t>(size);
    std::vector<float> rows(grid.size());
    parallelFor(n, [&](std::size_t z) {
        for (int x = 0; x < size; ++x) {
            float v = grid[z * n + static_cast<std::size_t>(x)];
            for (int k = std::max(0, x - reach); k <= std::min(size - 1, x + reach); ++k)
                v = pick(v, grid[z * n + static_cast<std::size_t>(k)]);
            rows[z * n + static_cast<std::size_t>(x)] = v;
        }
    });
    parallelFor(n, [&](std::size_t z) {
        for (std::size_t x = 0; x < n; ++x) {
            float v = rows[z * n + x];
            for (int k = std::max(0, static_cast<int>(z) - reach); k <= std::min(size - 1, static_cast<int>(z) + reach);
                 ++k)
                v = pick(v, rows[static_cast<std::size_t>(k) * n + x]);
            grid[z * n + x] = v;
        }
    });
}

/// A Gaussian of standard deviation `sigma` cells, as three running means.
void smooth(std::vector<float>& grid, int size, float sigma)
{
    if (sigma < 0.3f)
        return;
    const int reach = std::min(
        size - 1, std::max(1, static_cast<int>(std::lround(0.5f * (std::sqrt(4.f * sigma * sigma + 1.f) - 1.f)))));
    const auto n = static_cast<std::size_t>(size);
    const auto lines = [&](std::size_t stride, std::size_t across) {
        parallelFor(n, [&](std::size_t line) {
            std::vector<double> sums(n + 1, 0.0);
            for (int round = 0; round < 3; ++round) {
                float* at = &grid[line * across];
                for (std::size_t i = 0; i < n; ++i)
                    sums[i + 1] = sums[i] + static_cast<double>(at[i * stride]);
                for (int i = 0; i < size; ++i) {
                    const int from = std::max(0, i - reach), to = std::min(size - 1, i + reach);
                    at[static_cast<std::size_t>(i) * stride] = static_cast<float>(
                        (sums[static_cast<std::size_t>(to) + 1] - sums[static_cast<std::size_t>(from)]) /
                        (to - from + 1));
                }
            }
        });
    };
    lines(1, n);
    lines(n, 1);
}
} // namespace

GroundHeights::Grid GroundHeights::build(const geometry::RayScene& scene, float x0, float z0, float side, int size,
                                         const GroundSettings& settings, JobControl& job) const
{
    Grid g;
    g.cell = side / static_cast<float>(size - 1);
    g.x0 = x0;
    g.z0 = z0;
    g.size = size;
    const auto n = static_cast<std::size_t>(size);
    const float none = std::numeric_limits<float>::quiet_NaN();
    g.height.assign(n * n, none);
    const Box3& box = scene.bounds();
    parallelFor(n, [&](std::size_t z) {
        for (std::size_t x = 0; x < n; ++x) {
            const Vec3 from(g.x0 + g.cell * static_cast<float>(x), box.max.y + 1.f,
                            g.z0 + g.cell * static_cast<float>(z));
            geometry::Hit hit;
            if (scene.trace(from, Vec3(0, -1, 0), 0.f, box.max.y - box.min.y + 2.f, hit))
                g.height[z * n + x] = from.y - hit.t;
        }
    });
    job.check();
    // Beyond the set the ground goes on as at its edge: values grow outward, twice the distance each time.
    bool some = false, holes = false;
    for (const float h : g.height)
        (std::isnan(h) ? holes : some) = true;
    if (!some)
        std::fill(g.height.begin(), g.height.end(), box.isEmpty() ? 0.f : box.min.y);
    for (int round = 0; some && holes && round < 2 * size; ++round) {
        std::vector<float> before = g.height;
        holes = false;
        for (std::size_t z = 0; z < n; ++z)
            for (std::size_t x = 0; x < n; ++x) {
                if (!std::isnan(before[z * n + x]))
                    continue;
                float sum = 0.f, count = 0.f;
                const auto take = [&](std::size_t at) {
                    if (!std::isnan(before[at])) {
                        sum += before[at];
                        count += 1.f;
                    }
                };
                if (x > 0)
                    take(z * n + x - 1);
                if (x + 1 < n)
                    take(z * n + x + 1);
                if (z > 0)
                    take((z - 1) * n + x);
                if (z + 1 < n)
                    take((z + 1) * n + x);
                if (count > 0.f)
                    g.height[z * n + x] = sum / count;
                else
                    holes = true;
            }
    }
    const int reach = static_cast<int>(std::lround(0.5f * settings.ignore / g.cell));
    spread(g.height, size, reach, [](float a, float b) { return std::min(a, b); });
    spread(g.height, size, reach, [](float a, float b) { return std::max(a, b); });
    g.floor = g.height;
    smooth(g.height, size, settings.smoothing / g.cell);
    job.check();
    return g;
}

GroundHeights::GroundHeights(const geometry::RayScene& scene, const GroundSettings& settings, JobControl& job)
{
    if (scene.triangles() == 0) {
        fine_.height = coarse_.height = fine_.floor = coarse_.floor = {0.f, 0.f, 0.f, 0.f};
        return;
    }
    const Box3& box = scene.bounds();
    const float whole = std::max({box.max.x - box.min.x, box.max.z - box.min.z, 1.f});
    // About half a metre around the camera; the grid's corner falls on multiples of its cells, so that a small move of
    // the camera leaves the values where they were.
    constexpr int fineSize = 512, coarseSize = 384;
    const float side = std::min(256.f, whole), cell = side / (fineSize - 1);
    const auto corner = [&](float middle) { return std::floor((middle - 0.5f * side) / (32.f * cell)) * 32.f * cell; };
    job.report(0.3f, "Looking for the ground");
    coarse_ = build(scene, 0.5f * (box.min.x + box.max.x) - 0.5f * whole, 0.5f * (box.min.z + box.max.z) - 0.5f * whole,
                    whole, coarseSize, settings, job);
    fine_ = build(scene, corner(settings.around.x), corner(settings.around.z), side, fineSize, settings, job);
    lowest_ = *std::min_element(coarse_.height.begin(), coarse_.height.end());
    highest_ = *std::max_element(coarse_.height.begin(), coarse_.height.end());
    lowest_ = std::min(lowest_, *std::min_element(fine_.height.begin(), fine_.height.end()));
    highest_ = std::max(highest_, *std::max_element(fine_.height.begin(), fine_.height.end()));
}

void GroundHeights::Grid::read(const std::vector<float>& values, F8 x, F8 z, F8& value, F8& inside) const
{
    const float last = static_cast<float>(size - 1);
    const F8 u = (x - x0) * (1.f / cell), v = (z - z0) * (1.f / cell);
    // 1 within, falling to 0 over the outermost twelfth.
    const float margin = std::max(1.f, last / 12.f);
    inside = clamp8(min8(min8(u, last - u), min8(v, last - v)) * (1.f / margin), 0.f, 1.f);
    const F8 cu = clamp8(u, 0.f, last - 1e-3f), cv = clamp8(v, 0.f, last - 1e-3f);
    value = bilinear8(values.data(), size, cu, cv);
}

F8 GroundHeights::height8(F8 x, F8 z) const { return read8(&Grid::height, x, z); }
F8 GroundHeights::floor8(F8 x, F8 z) const { return read8(&Grid::floor, x, z); }

F8 GroundHeights::read8(std::vector<float> Grid::*values, F8 x, F8 z) const
{
    F8 value, inside;
    fine_.read(fine_.*values, x, z, value, inside);
    if (!any(inside < 1.f))
        return value; // all near the camera
    F8 wide, unused;
    coarse_.read(coarse_.*values, x, z, wide, unused);
    return wide + (value - wide) * inside;
}
} // namespace hygros::media
