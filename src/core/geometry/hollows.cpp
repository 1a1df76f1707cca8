#include "geometry/hollows.h"

#include "base/parallel.h"
#include "geometry/pattern.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <queue>

namespace hygros::geometry {
namespace {
constexpr float fineCell = 0.05f, coarseCell = 0.4f;
constexpr float none = -1e9f;                      ///< height of what lets water away
constexpr float shallowest = 5e-4f;                ///< of hollows that count [m]
constexpr float isWater = 0.06f;                   ///< smoother than this [roughness]
constexpr float isLevel = 0.985f, isGround = 0.5f; ///< cosines
} // namespace

bool Hollows::Grid::at(float x, float z, int& i, int& j) const
{
    const float u = (x - x0) / cell, v = (z - z0) / cell;
    if (!(u >= 0.f && v >= 0.f && u < static_cast<float>(cells) && v < static_cast<float>(cells)))
        return false;
    i = static_cast<int>(u);
    j = static_cast<int>(v);
    return true;
}

float Hollows::uneven(float x, float z) const
{
    const float size = std::max(0.05f, settings_.size);
    return settings_.uneven * (1.f - pattern(x / size, z / size, settings_.seed));
}

Hollows::Hollows(const RayScene& bare, const HollowSettings& settings, JobControl& job) : settings_(settings)
{
    for (Grid* g : {&coarse_, &fine_}) {
        g->cell = g == &fine_ ? fineCell : coarseCell;
        // On whole cells of the coarse one, so that nothing swims when the middle moves.
        const float half = 0.5f * static_cast<float>(Grid::cells) * g->cell;
        g->x0 = std::round((settings.around.x - half) / coarseCell) * coarseCell;
        g->z0 = std::round((settings.around.z - half) / coarseCell) * coarseCell;
        look(*g, bare, job);
        fill(*g, g == &fine_ ? &coarse_ : nullptr);
        job.check();
    }
    std::size_t level = 0;
    for (std::size_t i = 0; i < fine_.height.size(); ++i)
        if (fine_.level[i]) {
            ++level;
            if (fine_.brim[i] - fine_.height[i] > shallowest)
                sorted_.push_back(fine_.brim[i] - fine_.height[i]);
        }
    std::sort(sorted_.begin(), sorted_.end(), std::greater<>());
    most_ = level > 0 ? static_cast<float>(sorted_.size()) / static_cast<float>(level) : 0.f;
}

void Hollows::look(Grid& g, const RayScene& bare, JobControl& job) const
{
    constexpr std::size_t n = Grid::cells;
    g.height.assign(n * n, none);
    std::vector<std::uint8_t> level(n * n, 0);
    const Box3& box = bare.bounds();
    if (!box.isEmpty())
        parallelFor(n, [&](std::size_t j) {
            for (std::size_t i = 0; i < n && !job.cancelled(); ++i) {
                // A ray that goes just between two triangles finds nothing: then once more beside it.
                bool isKnown = false;
                for (const float aside : {0.f, 0.31f}) {
                    const float x = g.x0 + (static_cast<float>(i) + 0.5f + aside) * g.cell,
                                z = g.z0 + (static_cast<float>(j) + 0.5f + 0.6f * aside) * g.cell;
                    // The first that faces up; twigs and walls let rain by.
                    float y = box.max.y + 1.f;
                    for (int k = 0; k < 12 && !isKnown; ++k) {
                        Hit hit;
                        if (!bare.trace(Vec3(x, y, z), Vec3(0.f, -1.f, 0.f), 0.f, y - box.min.y + 1.f, hit))
                            break;
                        y -= hit.t;
                        // A canal or a pond: water runs off into it.
                        if (hit.material && hit.material->roughness < isWater && hit.material->metallic < 0.5f)
                            isKnown = true;
                        else if (hit.geometricNormal.y > isGround) {
                            g.height[j * n + i] = y + uneven(x, z);
                            level[j * n + i] = hit.geometricNormal.y > isLevel;
                            isKnown = true;
                        }
                        y -= 1e-3f;
                    }
                    if (isKnown)
                        break;
                }
            }
        });
    g.level.assign(level.begin(), level.end());
}

void Hollows::fill(Grid& g, const Grid* around) const
{
    constexpr int n = Grid::cells;
    struct Cell {
        float brim;
        std::int32_t index;
        bool operator<(const Cell& o) const { return brim > o.brim; } // the lowest first
    };
    std::priority_queue<Cell> open;
    g.brim.assign(g.height.size(), std::numeric_limits<float>::quiet_NaN());
    const auto enter = [&](int i, int j, float brim) {
        float& to = g.brim[static_cast<std::size_t>(j) * n + static_cast<std::size_t>(i)];
        if (std::isnan(to)) {
            to = brim;
            open.push({brim, j * n + i});
        }
    };
    for (int k = 0; k < n; ++k)
        for (const auto& [i, j] : {std::pair{k, 0}, {k, n - 1}, {0, k}, {n - 1, k}}) {
            float brim = g.height[static_cast<std::size_t>(j) * n + static_cast<std::size_t>(i)];
            int ci = 0, cj = 0;
            // What stands around it holds its water up at the border.
            if (around && around->at(g.x0 + (static_cast<float>(i) + 0.5f) * g.cell,
                                     g.z0 + (static_cast<float>(j) + 0.5f) * g.cell, ci, cj)) {
                const std::size_t at = static_cast<std::size_t>(cj) * n + static_cast<std::size_t>(ci);
                if (around->brim[at] - around->height[at] > shallowest)
                    brim = std::max(brim, around->brim[at]);
            }
            enter(i, j, brim);
        }
    for (std::size_t c = 0; c < g.height.size(); ++c) // and into what lies within
        if (g.height[c] <= none)
            enter(static_cast<int>(c) % n, static_cast<int>(c) / n, none);
    while (!open.empty()) {
        const Cell c = open.top();
        open.pop();
        const int i = c.index % n, j = c.index / n;
        for (int dj = -1; dj <= 1; ++dj)
            for (int di = -1; di <= 1; ++di) {
                const int a = i + di, b = j + dj;
                if (a >= 0 && b >= 0 && a < n && b < n)
                    enter(a, b,
                          std::max(c.brim, g.height[static_cast<std::size_t>(b) * n + static_cast<std::size_t>(a)]));
            }
    }
}

float Hollows::underBrim(const Vec3& p) const
{
    constexpr float layer = 0.15f; // what is farther from the height seen from above is another surface [m]
    int i = 0, j = 0;
    const Grid* g = fine_.at(p.x, p.z, i, j) ? &fine_ : coarse_.at(p.x, p.z, i, j) ? &coarse_ : nullptr;
    if (!g)
        return std::numeric_limits<float>::quiet_NaN();
    const float own = p.y + uneven(p.x, p.z);
    // The line lies in cells of the hollow itself as soon as it is lower than the brim by what a cell's ground differs.
    const std::size_t at = static_cast<std::size_t>(j) * Grid::cells + static_cast<std::size_t>(i);
    const bool holds = g->brim[at] - g->height[at] > shallowest &&
                       std::abs(g->height[at] - own) < layer + 0.3f * g->cell;
    return holds ? g->brim[at] - own : -1.f;
}

float Hollows::lineFor(float share) const
{
    if (sorted_.empty() || most_ <= 0.f)
        return 0.f;
    const auto at = static_cast<std::size_t>(std::max(0.f, share / most_) * static_cast<float>(sorted_.size()));
    return at < sorted_.size() ? sorted_[at] : shallowest;
}

std::size_t Hollows::bytes() const
{
    return (fine_.height.size() + coarse_.height.size()) * 2 * sizeof(float) + sorted_.size() * sizeof(float);
}
} // namespace hygros::geometry
