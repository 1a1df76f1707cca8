#pragma once
/// Smooth chance on the ground: where puddles stand, where snow lies thinner.
#include "base/random.h"

#include <cmath>

namespace hygros::geometry {

/// Smooth values 0…1 on the plane, about one hill a unit, two octaves.
inline float pattern(float x, float z, std::uint32_t seed)
{
    const auto octave = [](float u, float v, std::uint32_t s) {
        const float fu = std::floor(u), fv = std::floor(v), a = u - fu, b = v - fv;
        const auto at = [&](int i, int j) {
            return unitFloat(hash32(s, static_cast<std::uint32_t>(static_cast<std::int32_t>(fu) + i),
                                    static_cast<std::uint32_t>(static_cast<std::int32_t>(fv) + j)));
        };
        const float p = a * a * (3.f - 2.f * a), q = b * b * (3.f - 2.f * b);
        return (at(0, 0) * (1.f - p) + at(1, 0) * p) * (1.f - q) + (at(0, 1) * (1.f - p) + at(1, 1) * p) * q;
    };
    return (octave(x, z, seed) * 2.f + octave(x * 2.3f + 7.1f, z * 2.3f - 3.7f, seed + 17u)) / 3.f;
}
} // namespace hygros::geometry
