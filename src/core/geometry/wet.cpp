#include "geometry/wet.h"

#include "base/random.h"

#include <algorithm>
#include <cmath>

namespace hygros::geometry {
namespace {
constexpr float thrownBack = 0.5f;                   ///< p, for water
constexpr float wetRoughness = 0.24f, water = 0.03f; ///< of a film of water on what is rough; of a puddle
constexpr float level = 0.985f;                      ///< cosine of the steepest ground on which water stands
constexpr float wallsWet = 0.5f;

/// Smooth values 0…1 on the ground, two octaves; spread evenly enough that a share of them lies above 1 − share.
float pattern(float x, float z, std::uint32_t seed)
{
    const auto octave = [&](float u, float v, std::uint32_t s) {
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
/// The value that a share of the pattern lies above: found by counting, once.
float above(float share)
{
    static const std::vector<float> sorted = [] {
        std::vector<float> all;
        for (int i = 0; i < 16384; ++i)
            all.push_back(pattern(0.37f * static_cast<float>(i % 128), 0.41f * static_cast<float>(i / 128), 5u));
        std::sort(all.begin(), all.end());
        return all;
    }();
    const auto at = static_cast<std::size_t>(std::clamp(1.f - share, 0.f, 1.f) * static_cast<float>(sorted.size() - 1));
    return sorted[at];
}

Material wetted(const Material& dry, float wet)
{
    Material m = dry;
    // What is smooth or metal has no pores.
    const float pores = std::clamp((dry.roughness - 0.25f) / 0.35f, 0.f, 1.f) * (1.f - dry.metallic) * wet;
    for (int c = 0; c < 3; ++c) {
        const float a = std::clamp(dry.baseColour[c], 0.f, 1.f);
        m.baseColour[c] = a + (a * (1.f - thrownBack) / (1.f - thrownBack * a) - a) * pores;
    }
    m.roughness = dry.roughness + (std::min(dry.roughness, wetRoughness) - dry.roughness) * wet;
    return m;
}
} // namespace

WetMaterial::WetMaterial(const Material& dry, const Wetness& wetness) : wetness_(wetness)
{
    for (int i = 0; i < steps; ++i)
        facing_[static_cast<std::size_t>(i)] = wetted(dry, wetness.wet * static_cast<float>(i) / (steps - 1));
    puddle_ = wetted(dry, 1.f);
    puddle_.roughness = std::min(dry.roughness, water);
    puddle_.metallic = 0.f;
    threshold_ = wetness.puddles > 0.f ? above(wetness.puddles) : 2.f;
}

const Material& WetMaterial::at(const Vec3& place, const Vec3& normal, bool& puddle) const
{
    puddle = false;
    if (normal.y > level && threshold_ <= 1.f) {
        const float size = std::max(0.05f, wetness_.size);
        puddle = wetness_.puddles >= 1.f || pattern(place.x / size, place.z / size, wetness_.seed) > threshold_;
        if (puddle)
            return puddle_;
    }
    // Under sides stay dry, walls are half as wet as what faces the sky.
    const float up = normal.y < 0.f ? wallsWet * std::max(0.f, 1.f + 2.f * normal.y)
                                    : wallsWet + (1.f - wallsWet) * std::min(1.f, normal.y / 0.5f);
    return facing_[static_cast<std::size_t>(up * (steps - 1) + 0.5f)];
}
} // namespace hygros::geometry
