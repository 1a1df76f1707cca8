#include "media/streamlines.h"

#include "base/parallel.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::media {
namespace {
constexpr int steps = 22;      ///< each way
constexpr float share = 0.03f; ///< length of a step, of the force's mean width

/// The i-th of evenly spread places in the unit ball (a lattice after M. Roberts, 2018, ends by the cube root).
Vec3 inBall(int i)
{
    const auto part = [](double v) { return static_cast<float>(v - std::floor(v)); };
    const double n = i + 1;
    const float u = part(0.5 + n * 0.8191725134), v = part(0.5 + n * 0.6710436067), w = part(0.5 + n * 0.5497004779);
    const float up = 1.f - 2.f * u, around = std::sqrt(std::max(0.f, 1.f - up * up)), r = std::cbrt(w) * 0.9f;
    return Vec3(around * std::cos(2.f * pi * v), up, around * std::sin(2.f * pi * v)) * r;
}
} // namespace

std::vector<Streamline> streamlines(const Force& force, std::span<const Wind> winds, int count)
{
    const float step = share * (force.half.x + force.half.y + force.half.z) * (2.f / 3.f);
    const std::vector<Wind> blown(winds.begin(), winds.end());
    const bool holds = force.form == Force::Form::Hold;
    const auto motion = [&](const std::array<Vec3, lanes>& at) {
        std::array<Vec3, lanes> out;
        if (holds) {
            for (std::size_t k = 0; k < lanes; ++k)
                out[k] = airAt(blown, {force}, at[k]);
            return out;
        }
        F8 x, y, z, v[3];
        for (std::size_t k = 0; k < lanes; ++k) {
            x[k] = at[k].x;
            y[k] = at[k].y;
            z[k] = at[k].z;
        }
        force.motion8(x, y, z, v);
        for (std::size_t k = 0; k < lanes; ++k)
            out[k] = {v[0][k], v[1][k], v[2][k]};
        return out;
    };
    const auto acts = [&](const Vec3& p) {
        const Vec3 d((p.x - force.centre.x) / force.half.x, (p.y - force.centre.y) / force.half.y,
                     (p.z - force.centre.z) / force.half.z);
        return d.length2() < 1.f;
    };
    const int groups = (std::max(0, count) + lanes - 1) / lanes;
    std::vector<Streamline> all(static_cast<std::size_t>(groups) * lanes);
    parallelFor(static_cast<std::size_t>(groups), [&](std::size_t g) {
        std::array<Vec3, lanes> seeds;
        for (std::size_t k = 0; k < lanes; ++k) {
            const Vec3 u = inBall(static_cast<int>(g * lanes + k));
            seeds[k] = force.centre + Vec3(u.x * force.half.x, u.y * force.half.y, u.z * force.half.z);
        }
        const auto there = motion(seeds);
        std::array<std::array<std::vector<Vec3>, 2>, lanes> ways;
        for (int way = 0; way < 2; ++way) {
            const float by = way == 0 ? -step : step;
            std::array<Vec3, lanes> at = seeds;
            std::array<bool, lanes> goes;
            goes.fill(true);
            for (int i = 0; i < steps; ++i) {
                const auto along = [&](const std::array<Vec3, lanes>& where, float length) {
                    const auto v = motion(where);
                    std::array<Vec3, lanes> to = at;
                    for (std::size_t k = 0; k < lanes; ++k) {
                        const float speed = v[k].length();
                        goes[k] = goes[k] && speed > 1e-5f;
                        if (goes[k])
                            to[k] = at[k] + v[k] * (length / speed);
                    }
                    return to;
                };
                const auto next = along(along(at, 0.5f * by), by);
                for (std::size_t k = 0; k < lanes; ++k) {
                    goes[k] = goes[k] && acts(next[k]);
                    if (goes[k])
                        ways[k][static_cast<std::size_t>(way)].push_back(next[k]);
                }
                at = next;
            }
        }
        for (std::size_t k = 0; k < lanes; ++k) {
            Streamline& line = all[g * lanes + k];
            line.points.assign(ways[k][0].rbegin(), ways[k][0].rend());
            line.points.push_back(seeds[k]);
            line.points.insert(line.points.end(), ways[k][1].begin(), ways[k][1].end());
            line.speed = there[k].length();
        }
    });
    std::erase_if(all, [](const Streamline& l) { return l.points.size() < 2 || !(l.speed > 1e-5f); });
    return all;
}
} // namespace hygros::media
