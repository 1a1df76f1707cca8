#pragma once
/// Where rain that fell on roofs, gates and twigs comes off them: edges from which it drips.
///
/// Seen from above the sets are heights on a square grid. What falls onto a cell runs on to the neighbour that lies
/// lower by most, out of pits over their brim (priority flood: R. Barnes et al., Priority-flood: an optimal
/// depression-filling and watershed-labeling algorithm for digital elevation models, Comput. Geosci. 62, 2014; flow by
/// the steepest way: J. F. O'Callaghan & D. M. Mark, The extraction of drainage networks from digital elevation data,
/// Comput. Vision Graph. 28, 1984). Where the way goes over an edge it drips, unless a wall carries it down.
#include "geometry/ray_scene.h"

namespace hygros::geometry {

/// A place at which drops hang and fall.
struct Drip {
    Vec3 at{0.f};               ///< where they hang
    float fall = 0.f;           ///< from there to what is below [m]
    float catches = 0;          ///< level area whose rain comes off there [m²]
    Vec3 normal{0.f, 1.f, 0.f}; ///< of what they land on
    float roughness = 1.f;      ///< of that
    bool operator==(const Drip&) const = default;
};

/// All in a square of 32 m about a place (its height does not matter). Throws Cancelled.
std::vector<Drip> dripsOf(const RayScene& bare, const Vec3& around, JobControl& job);
} // namespace hygros::geometry
