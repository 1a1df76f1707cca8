#pragma once
/// What rings of drops do to water.
#include "geometry/wet.h"

namespace hygros::geometry {

/// How steep they make it at a place, over x and z.
Vec2 slopeOf(const Rings& rings, const Vec3& place);
} // namespace hygros::geometry
