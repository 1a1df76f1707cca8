#pragma once
/// Smooth chance on the ground: where puddles stand, where snow lies thinner.
#include "base/random.h"

#include <cmath>

namespace hygros::geometry {

/// Smooth values 0…1 on the plane, about one hill a unit; along v they come again after `cycle` units (0: never).
inline float hills(float u, float v, std::uint32_t seed, std::uint32_t cycle = 0)
{
    const float fu = std::floor(u), fv = std::floor(v), a = u - fu, b = v - fv;
    const auto at = [&](int i, int j) {
        std::int64_t row = static_cast<std::int64_t>(fv) + j;
        if (cycle > 0)
            row = (row % cycle + cycle) % cycle;
        return unitFloat(hash32(seed, static_cast<std::uint32_t>(static_cast<std::int32_t>(fu) + i),
                                static_cast<std::uint32_t>(row)));
    };
    const float p = a * a * (3.f - 2.f * a), q = b * b * (3.f - 2.f * b);
    return (at(0, 0) * (1.f - p) + at(1, 0) * p) * (1.f - q) + (at(0, 1) * (1.f - p) + at(1, 1) * p) * q;
}
/// The same in two octaves.
inline float pattern(float x, float z, std::uint32_t seed)
{
    return (hills(x, z, seed) * 2.f + hills(x * 2.3f + 7.1f, z * 2.3f - 3.7f, seed + 17u)) / 3.f;
}
} // namespace hygros::geometry
