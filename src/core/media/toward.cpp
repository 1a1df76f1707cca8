#include "media/toward.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr int along = 56; ///< points over the longest side
} // namespace

TowardSurface::TowardSurface(const std::vector<std::array<Vec3, 3>>& triangles, const Vec3& low, const Vec3& high,
                             JobControl& job)
    : low_(low)
{
    const Vec3 size = high - low;
    cell_ = std::max(1e-6f, maxComponent(size) / static_cast<float>(along - 1));
    for (int a = 0; a < 3; ++a)
        n_[static_cast<std::size_t>(a)] = std::clamp(static_cast<int>(std::ceil(size[a] / cell_)) + 1, 2, along + 1);
    const std::size_t count = at(0, 0, n_[2]);
    std::vector<Vec3> nearest(count, Vec3(0.f));
    std::vector<float> square(count, 1e30f);
    const auto place = [&](int x, int y, int z) {
        return low_ + Vec3(static_cast<float>(x), static_cast<float>(y), static_cast<float>(z)) * cell_;
    };
    const auto offer = [&](int x, int y, int z, const Vec3& p) {
        const std::size_t i = at(x, y, z);
        if (const float d = (p - place(x, y, z)).length2(); d < square[i]) {
            square[i] = d;
            nearest[i] = p;
        }
    };
    // Pieces no longer than half a cell, each offered to the points about it; of what lies outside nothing is cut.
    std::vector<std::array<Vec3, 3>> open;
    bool any = false;
    std::size_t done = 0;
    for (const auto& whole : triangles) {
        if (++done % 4096 == 0)
            job.check();
        open.assign(1, whole);
        while (!open.empty()) {
            const auto t = open.back();
            open.pop_back();
            bool outside = false;
            for (int a = 0; a < 3; ++a)
                outside = outside || std::max({t[0][a], t[1][a], t[2][a]}) < low[a] ||
                          std::min({t[0][a], t[1][a], t[2][a]}) > high[a];
            if (outside)
                continue;
            const float sides[3] = {(t[1] - t[0]).length2(), (t[2] - t[1]).length2(), (t[0] - t[2]).length2()};
            const auto longest = static_cast<std::size_t>(std::max_element(sides, sides + 3) - sides);
            if (sides[longest] > 0.25f * cell_ * cell_) {
                const Vec3 &a = t[longest], &b = t[(longest + 1) % 3], &c = t[(longest + 2) % 3],
                           middle = (a + b) * 0.5f;
                open.push_back({a, middle, c});
                open.push_back({middle, b, c});
                continue;
            }
            const Vec3 p = (t[0] + t[1] + t[2]) * (1.f / 3.f), u = (p - low_) * (1.f / cell_);
            int first[3];
            for (int a = 0; a < 3; ++a)
                first[a] = static_cast<int>(std::floor(u[a]));
            for (int k = 0; k < 8; ++k) {
                const int x = first[0] + (k & 1), y = first[1] + (k >> 1 & 1), z = first[2] + (k >> 2);
                if (x < 0 || y < 0 || z < 0 || x >= n_[0] || y >= n_[1] || z >= n_[2])
                    continue;
                offer(x, y, z, p);
                any = true;
            }
        }
    }
    if (!any)
        return;
    // To and fro over the lattice, from each point's neighbours that came before.
    for (int sweep = 0; sweep < 4; ++sweep) {
        job.check();
        const bool back = sweep & 1;
        for (int i = 0; i < n_[2]; ++i)
            for (int j = 0; j < n_[1]; ++j)
                for (int k = 0; k < n_[0]; ++k) {
                    const int x = back ? n_[0] - 1 - k : k, y = back ? n_[1] - 1 - j : j, z = back ? n_[2] - 1 - i : i;
                    for (int s = 0; s < 27; ++s) {
                        const int u = x + s % 3 - 1, v = y + s / 3 % 3 - 1, w = z + s / 9 - 1;
                        if (s == 13 || u < 0 || v < 0 || w < 0 || u >= n_[0] || v >= n_[1] || w >= n_[2])
                            continue;
                        if (const std::size_t from = at(u, v, w); square[from] < 1e30f)
                            offer(x, y, z, nearest[from]);
                    }
                }
    }
    nearest_ = std::move(nearest);
}

void TowardSurface::way8(F8 x, F8 y, F8 z, F8 out[3]) const
{
    const F8 places[3] = {x, y, z};
    for (int lane = 0; lane < lanes; ++lane) {
        int first[3];
        float part[3];
        for (int a = 0; a < 3; ++a) {
            const float u = std::clamp((places[a][lane] - low_[a]) / cell_, 0.f,
                                       static_cast<float>(n_[static_cast<std::size_t>(a)] - 1));
            first[a] = std::min(static_cast<int>(u), n_[static_cast<std::size_t>(a)] - 2);
            part[a] = u - static_cast<float>(first[a]);
        }
        Vec3 to(0.f);
        for (int k = 0; k < 8; ++k) {
            const int b[3] = {k & 1, k >> 1 & 1, k >> 2};
            float share = 1.f;
            for (int a = 0; a < 3; ++a)
                share *= b[a] ? part[a] : 1.f - part[a];
            to += nearest_[at(first[0] + b[0], first[1] + b[1], first[2] + b[2])] * share;
        }
        for (int a = 0; a < 3; ++a)
            out[a][lane] = to[a] - places[a][lane];
    }
}
} // namespace hygros::media
