#include "geometry/wet.h"

#include "geometry/rings.h"

#include "geometry/pattern.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::geometry {
namespace {
constexpr float thrownBack = 0.5f;                   ///< p, for water
constexpr float wetRoughness = 0.24f, water = 0.03f; ///< of a film of water on what is rough; of a puddle
constexpr float level = 0.985f;                      ///< cosine of the steepest ground on which water stands
constexpr float wallsWet = 0.5f;

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
    beyond_ = wetness.beyond > 0.f ? above(wetness.beyond) : 2.f;
}

const Material& WetMaterial::at(const Vec3& place, const Vec3& normal, bool& puddle) const
{
    puddle = false;
    // What is water already has rings all over.
    if (normal.y > level && facing_[0].roughness < 2.f * water && facing_[0].metallic < 0.5f) {
        puddle = wetness_.rings != nullptr;
        return facing_[0];
    }
    if (normal.y > level && threshold_ <= 1.f) {
        const float size = std::max(0.05f, wetness_.size);
        const float depth = wetness_.standing ? wetness_.standing->depth(place)
                                              : std::numeric_limits<float>::quiet_NaN();
        puddle = wetness_.puddles >= 1.f || depth > 0.f;
        // Where nothing is known of hollows, and what they do not hold, by chance.
        if (!puddle && (std::isnan(depth) || beyond_ <= 1.f))
            puddle = pattern(place.x / size, place.z / size, wetness_.seed) >
                     (std::isnan(depth) ? threshold_ : beyond_);
        if (puddle)
            return puddle_;
    }
    // Under sides stay dry, walls are half as wet as what faces the sky.
    const float up = normal.y < 0.f ? wallsWet * std::max(0.f, 1.f + 2.f * normal.y)
                                    : wallsWet + (1.f - wallsWet) * std::min(1.f, normal.y / 0.5f);
    return facing_[static_cast<std::size_t>(up * (steps - 1) + 0.5f)];
}

Vec2 slopeOf(const Rings& all, const Vec3& place)
{
    constexpr float wave = 0.02f, dies = 0.16f, steepest = 0.35f;
    thread_local std::vector<Ring> rings;
    rings.clear();
    all.near(place, rings);
    float sx = 0.f, sz = 0.f;
    for (const Ring& ring : rings) {
        const float dx = place.x - ring.x, dz = place.z - ring.z, d2 = dx * dx + dz * dz;
        if (d2 < 1e-8f || !ringReaches(ring.age, d2))
            continue;
        const float d = std::sqrt(d2), radius = ringSpeed * ring.age, off = (d - radius) / ringWidth;
        // As high as a fifth of the drop where the ring begins; it thins as it widens.
        const float height = 0.2f * ring.size * std::sqrt(0.02f / (0.02f + radius)) * std::exp(-ring.age / dies),
                    slope = height * (2.f * pi / wave) * std::cos(2.f * pi * (d - radius) / wave) *
                            std::exp(-0.5f * off * off);
        sx += slope * dx / d;
        sz += slope * dz / d;
    }
    const float length = std::sqrt(sx * sx + sz * sz), least = length > steepest ? steepest / length : 1.f;
    return Vec2(sx, sz) * least;
}

namespace {
float smooth(float from, float to, float x)
{
    const float t = std::clamp((x - from) / (to - from), 0.f, 1.f);
    return t * t * (3.f - 2.f * t);
}
} // namespace

Vec3 WetMaterial::flowing(const Vec3& place, const Vec3& facing, const Vec3& normal) const
{
    constexpr float near = 7.f, far = 28.f; // from the eye [m]: streams are finer than what is seen farther out
    constexpr float wide = 0.016f;          // of a stream
    constexpr float steepest = 0.16f;       // slope of its sides
    const float steep = std::sqrt(std::max(0.f, 1.f - facing.y * facing.y)),
                strength = smooth(0.17f, 0.5f, steep) * smooth(-0.3f, 0.f, facing.y) *
                           smooth(far, near, (place - wetness_.eye).length());
    if (!(strength > 0.f))
        return normal;
    // Across and down what it runs on, by the world's axis that lies in it most.
    const bool alongX = std::abs(facing.x) < std::abs(facing.z);
    const Vec3 axis = alongX ? Vec3(1.f, 0.f, 0.f) : Vec3(0.f, 0.f, 1.f);
    const Vec3 across = (axis - facing * axis.dot(facing)).normalized();
    Vec3 down = facing.cross(across);
    if (down.y > 0.f)
        down = -down;
    const float c = alongX ? place.x : place.z, s = -place.y / steep;
    // Streams stand where they stand and wind a little; what is in them comes down in surges.
    const float bent = c + 0.03f * (hills(c / 0.2f, s / 0.3f, wetness_.seed + 3u) - 0.5f);
    const float least = 1.f - 0.8f * std::min(1.f, wetness_.runs);
    const auto height = [&](float u, float v) {
        const float stream = smooth(least - 0.15f, least + 0.15f, hills(u / wide, v / 1.7f, wetness_.seed));
        const float surge = hills(u / (0.5f * wide), (v - wetness_.ran) / Wetness::streamLength, wetness_.seed + 9u,
                                  wetness_.cycle);
        return stream * (0.45f + 0.55f * surge);
    };
    const float step = 0.15f * wide, here = height(bent, s), byAcross = (height(bent + step, s) - here) / step * wide,
                byDown = (height(bent, s + step) - here) / step * wide;
    const auto slope = [&](float of) { return std::clamp(of * 0.11f, -steepest, steepest) * strength; };
    return (normal - across * slope(byAcross) - down * slope(byDown)).normalized();
}

Vec3 WetMaterial::surface(const Vec3& place) const
{
    if (!wetness_.rings)
        return Vec3(0.f, 1.f, 0.f);
    const Vec2 slope = slopeOf(*wetness_.rings, place);
    return Vec3(-slope.x, 1.f, -slope.y).normalized();
}
} // namespace hygros::geometry
