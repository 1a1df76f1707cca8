#pragma once
/// What surfaces send back, lit through the present air.
#include "render/frame.h"

#include <cmath>

namespace hygros::render {

template <class Point>
inline Vec3 Frame::lit(const LightParts& light, std::span<const std::uint16_t> which, const Vec3* lamps,
                       std::size_t stride, const Point& point, const Onto& onto, float samples, const float* through,
                       int source, const PathRatios::By* ratio) const
{
    const bool all = source == allSources;
    const Vec3 one(1.f);
    const auto times = [&](PathRatios::Source s) -> const Vec3& { return ratio ? ratio->of[s] : one; };
    Vec3 l = all || source == sourceOwn ? light.emitted : Vec3(0.f);
    if (shot_->sky) {
        // Straight, and what the air has scattered on its way.
        if (all || source == sourceSun)
            l += (light.sun * onto.sun + light.open * onto.diffuse) * sunLight_ * times(PathRatios::sun);
        if (all || source == sourceSky)
            l += (light.sky * onto.sky + light.open * air_->skyOnLevel() * onto.around) * times(PathRatios::sky);
    }
    for (std::size_t j = 0; j < which.size() && (all || source >= sourceLamps); ++j) {
        if (!all && source != sourceLamps + which[j])
            continue;
        const Vec3& own = lamps[j * stride];
        const light::Lamp& lamp = shot_->lamps[which[j]];
        const float* ways = through ? through + j * lampWays * lanes : nullptr;
        if (own.x + own.y + own.z > 0.f)
            l += own * lamp.intensity * times(PathRatios::lamps) *
                 (ways ? ways[0] : std::exp(-air_->depthToLamp(lamp, point())));
        if (!air_->glowOf(which[j]).found)
            continue;
        Vec3 glow;
        if (ways) {
            glow = Vec3(ways[lanes], ways[2 * lanes], ways[3 * lanes]);
        } else {
            const Vec3 p = point(), n = light.normal();
            const F8 normal[3] = {f8(n.x), f8(n.y), f8(n.z)};
            F8 sent[3];
            glowOnto(which[j], f8(p.x), f8(p.y), f8(p.z), normal, sent);
            glow = Vec3(sent[0][0], sent[1][0], sent[2][0]);
        }
        l += light.open * glow * lamp.intensity * times(PathRatios::lamps);
    }
    return l * (1.f / samples);
}

/// The normals of eight pixels' clusters, lanes apart.
inline void setNormal(F8 normal[3], int lane, const LightParts& light)
{
    const Vec3 n = light.normal();
    for (int c = 0; c < 3; ++c)
        normal[c][lane] = n[c];
}

/// A normal in 16 bits, five a number: good to three degrees.
inline std::uint16_t packedNormal(const Vec3& n)
{
    const auto five = [](float v) { return static_cast<unsigned>(std::lround((v * 0.5f + 0.5f) * 30.f)); };
    return static_cast<std::uint16_t>(five(n.x) | five(n.y) << 5 | five(n.z) << 10);
}
inline void unpackNormals(const std::uint16_t* packed, F8 normal[3])
{
    const I8 all = reinterpret_cast<I8>(
        _mm256_cvtepu16_epi32(_mm_loadu_si128(reinterpret_cast<const __m128i*>(packed))));
    const F8 x = toFloat(all & i8(31)) * (1.f / 15.f) - 1.f, y = toFloat((all >> 5) & i8(31)) * (1.f / 15.f) - 1.f,
             z = toFloat((all >> 10) & i8(31)) * (1.f / 15.f) - 1.f;
    const F8 inverse = 1.f / sqrt8(max8(x * x + y * y + z * z, f8(1e-6f)));
    normal[0] = x * inverse;
    normal[1] = y * inverse;
    normal[2] = z * inverse;
}
} // namespace hygros::render
