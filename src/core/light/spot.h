#pragma once
/// A spot lamp: a small source that fills a cone.
#include "base/vec.h"

#include <algorithm>
#include <cmath>
#include <string>

namespace hygros::light {

struct Spot {
    std::string id;           ///< the element it came from
    Vec3 position{0, 0, 0};
    Vec3 direction{0, -1, 0}; ///< unit
    float cosInner = 0.9f, cosOuter = 0.8f; ///< full strength inside the inner cone, none outside the outer
    Vec3 intensity{0, 0, 0};  ///< on the axis [W/sr]
    float radius = 0.05f;     ///< of the source [m]; nearer than this its light grows no further

    /// Share of the intensity toward a direction whose cosine to the axis is c: a smoothstep between the cones.
    float edge(float c) const
    {
        const float u = std::clamp((c - cosOuter) / std::max(1e-6f, cosInner - cosOuter), 0.f, 1.f);
        return u * u * (3.f - 2.f * u);
    }
};

/// Intensity on the axis per unit of flux [1/sr]: the inverse of ∫ edge dω = 2π·((1 − cosInner) + (cosInner − cosOuter)/2).
inline float spotIntensityPerFlux(float cosInner, float cosOuter)
{
    return 1.f / (2.f * pi * ((1.f - cosInner) + 0.5f * (cosInner - cosOuter)));
}

/// Where a ray is inside the spot's outer cone (half angle below 90°) and within `reach` metres of its tip.
/// False when it is nowhere; otherwise t0 < t1, both within the given interval.
bool insideCone(const Spot& spot, const Vec3& origin, const Vec3& direction, float reach, float& t0, float& t1);
} // namespace hygros::light
