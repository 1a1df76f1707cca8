#pragma once
/// Where snow lies on a set's own surfaces, told at each place by itself: what faces the sky that flakes come from and
/// is open to it is white. For branches, far hills and all that is too small for a cover of its own (geometry/cover.h).
#include "geometry/set_geometry.h"

namespace hygros::geometry {

struct Snowed {
    float amount = 0.f;       ///< 0…1: how much of what could be white is
    Vec3 from{0.f, 1.f, 0.f}; ///< unit: where flakes come from
    float steepest = 0.9f;    ///< slope on which the last of it holds [rad]
    float sparkle = 0.f;      ///< of what is white: Hit::sparkle
    std::uint32_t seed = 1;
    bool isBare() const { return amount <= 0.f; }
    bool operator==(const Snowed&) const = default;
};

/// Of what lies: fresh snow gives back nearly all light (S. G. Warren, Optical properties of snow, Rev. Geophys. 20,
/// 1982: 0.9 and more in the visible, a little less of the red).
Material snowMaterial();

/// What is as smooth as that is water or glass: none stays on it.
inline constexpr float bareRoughness = 0.16f;
/// What a look at the sky must find open for a place to be white: the way from it. Nothing: it is too steep, faces
/// away, or is one of the gaps.
bool snowMayLie(const Snowed& snowed, const Vec3& place, const Vec3& normal, Vec3& toSky);
} // namespace hygros::geometry
