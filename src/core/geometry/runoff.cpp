#include "geometry/runoff.h"

#include "base/parallel.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <mutex>
#include <queue>

namespace hygros::geometry {
namespace {
constexpr int cells = 320;
constexpr float cell = 0.1f;
constexpr float cliff = 0.3f;   ///< lower steps are no edge to drip from [m]
constexpr float beyond = 0.02f; ///< outside the edge a drop falls [m]
constexpr float clings = 0.06f; ///< as near as that below the edge is a wall [m]
constexpr float none = -1e9f;   ///< where nothing stands
constexpr std::array<std::array<int, 2>, 8> around8 = {
    {{-1, 0}, {1, 0}, {0, -1}, {0, 1}, {-1, -1}, {1, -1}, {-1, 1}, {1, 1}}};

class Runoff {
public:
    Runoff(const RayScene& bare, const Vec3& around, JobControl& job)
        : bare_(bare), x0_(std::round(around.x / cell) * cell - 0.5f * cells * cell),
          z0_(std::round(around.z / cell) * cell - 0.5f * cells * cell), height_(cells * cells, none),
          to_(cells * cells, -1)
    {
        parallelFor(cells, [&](std::size_t j) {
            for (int i = 0; i < cells && !job.cancelled(); ++i)
                height_[j * cells + static_cast<std::size_t>(i)] = topAt(x0_ + (static_cast<float>(i) + 0.5f) * cell,
                                                                         z0_ + (static_cast<float>(j) + 0.5f) * cell);
        });
        job.check();
        flow();
    }

    std::vector<Drip> drips(JobControl& job) const
    {
        // What each cell takes up, from the last of the way to its first.
        std::vector<float> catches(height_.size(), 0.f);
        for (auto at = order_.rbegin(); at != order_.rend(); ++at) {
            const auto c = static_cast<std::size_t>(*at);
            if (height_[c] <= none)
                continue;
            catches[c] += cell * cell;
            if (to_[c] >= 0)
                catches[static_cast<std::size_t>(to_[c])] += catches[c];
        }
        std::vector<Drip> out;
        std::mutex mutex;
        parallelFor(cells, [&](std::size_t j) {
            if (job.cancelled())
                return;
            std::vector<Drip> own;
            for (std::size_t i = 0; i < cells; ++i) {
                const std::size_t c = j * cells + i;
                if (to_[c] >= 0 && height_[c] - height_[static_cast<std::size_t>(to_[c])] > cliff)
                    if (Drip d; edge(c, static_cast<std::size_t>(to_[c]), d)) {
                        d.catches = catches[c];
                        own.push_back(d);
                    }
            }
            const std::lock_guard lock(mutex);
            out.insert(out.end(), own.begin(), own.end());
        });
        job.check();
        // The same whatever thread was first.
        std::sort(out.begin(), out.end(), [](const Drip& a, const Drip& b) {
            return std::array{a.at.x, a.at.z, a.at.y} < std::array{b.at.x, b.at.z, b.at.y};
        });
        return out;
    }

private:
    float topAt(float x, float z) const
    {
        const Box3& box = bare_.bounds();
        Hit hit;
        const float top = box.max.y + 1.f;
        return !box.isEmpty() && bare_.trace(Vec3(x, top, z), Vec3(0.f, -1.f, 0.f), 0.f, top - box.min.y + 1.f, hit)
                   ? top - hit.t
                   : none;
    }
    Vec3 middle(std::size_t c) const
    {
        return Vec3(x0_ + (static_cast<float>(c % cells) + 0.5f) * cell, height_[c],
                    z0_ + (static_cast<float>(c / cells) + 0.5f) * cell);
    }

    template <class Use> static void eachAround(int c, const Use& use)
    {
        const int x = c % cells, z = c / cells;
        for (const auto& [dx, dz] : around8)
            if (x + dx >= 0 && x + dx < cells && z + dz >= 0 && z + dz < cells)
                use(c + dz * cells + dx, dx != 0 && dz != 0 ? std::sqrt(2.f) * cell : cell);
    }

    /// Where each cell's water goes.
    void flow()
    {
        using Entry = std::pair<float, int>;
        std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
        std::vector<float> filled(height_.size(), std::numeric_limits<float>::infinity());
        std::vector<bool> isKnown(height_.size(), false);
        for (int i = 0; i < cells; ++i)
            for (const int c : {i, (cells - 1) * cells + i, i * cells, i * cells + cells - 1})
                if (!isKnown[static_cast<std::size_t>(c)]) {
                    isKnown[static_cast<std::size_t>(c)] = true;
                    filled[static_cast<std::size_t>(c)] = height_[static_cast<std::size_t>(c)];
                    open.push({filled[static_cast<std::size_t>(c)], c});
                }
        while (!open.empty()) {
            const float level = open.top().first;
            const int c = open.top().second;
            open.pop();
            order_.push_back(c);
            // On a slope by the steepest way that goes over no edge, and over an edge where there is none.
            float steepest = 0.f;
            int by = -1;
            eachAround(c, [&](int n, float far) {
                const auto other = static_cast<std::size_t>(n);
                if (!isKnown[other]) {
                    isKnown[other] = true;
                    filled[other] = std::max(level, height_[other]);
                    to_[other] = c;
                    open.push({filled[other], n});
                } else if (const float down = level - filled[other];
                           down > 1e-3f && down < cliff && down / far > steepest) {
                    steepest = down / far;
                    by = n;
                }
            });
            if (by >= 0)
                to_[static_cast<std::size_t>(c)] = by;
        }
    }

    /// The drip over the edge between a cell and a lower one; false: a wall carries the water down.
    bool edge(std::size_t high, std::size_t low, Drip& d) const
    {
        Vec3 on = middle(high), off = middle(low);
        off.y = on.y;
        for (int k = 0; k < 6; ++k) {
            const Vec3 half = (on + off) * 0.5f;
            const float h = topAt(half.x, half.z);
            if (h > on.y - cliff)
                on = Vec3(half.x, h, half.z);
            else
                off = half;
        }
        const Vec3 out = Vec3(off.x - on.x, 0.f, off.z - on.z).normalized();
        const Vec3 fall = on + out * beyond;
        // Down the face of what it ran off, to its lower edge.
        float hangs = 0.f;
        for (const float down : {0.01f, 0.03f, 0.06f, 0.1f, 0.15f, 0.22f, 0.3f}) {
            if (!bare_.occluded(fall - Vec3(0.f, down, 0.f), -out, clings))
                break;
            hangs = down;
        }
        if (hangs > 0.25f)
            return false;
        d.at = fall - Vec3(0.f, hangs, 0.f);
        Hit hit;
        if (!bare_.trace(d.at - Vec3(0.f, 0.005f, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 100.f, hit) || hit.t < 0.5f * cliff)
            return false;
        d.fall = hit.t + 0.005f;
        d.normal = hit.geometricNormal;
        d.roughness = hit.material->roughness;
        return true;
    }

    const RayScene& bare_;
    float x0_, z0_;
    std::vector<float> height_;
    std::vector<int> to_, order_; ///< of cells: the next on the way; by the height of the water over them
};
} // namespace

std::vector<Drip> dripsOf(const RayScene& bare, const Vec3& around, JobControl& job)
{
    return Runoff(bare, around, job).drips(job);
}
} // namespace hygros::geometry
