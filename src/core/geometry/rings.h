#pragma once
/// What rings of drops do to water.
#include "geometry/wet.h"

namespace hygros::geometry {

/// How fast rings run out [m/s] and how wide each is [m]: waves of 2 cm, capillary and gravity waves together.
inline constexpr float ringSpeed = 0.24f, ringWidth = 0.014f;
/// Whether something is to be seen of a ring of that age at a distance from its middle, given squared.
inline bool ringReaches(float age, float distance2)
{
    const float outer = ringSpeed * age + 3.f * ringWidth, inner = ringSpeed * age - 3.f * ringWidth;
    return distance2 <= outer * outer && (inner <= 0.f || distance2 >= inner * inner);
}

/// How steep they make it at a place, over x and z.
Vec2 slopeOf(const Rings& rings, const Vec3& place);
} // namespace hygros::geometry
