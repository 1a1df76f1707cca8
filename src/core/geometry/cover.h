#pragma once
/// Snow that lies: a surface over what is open to the sky, as thick as it fell there.
///
/// Seen from above the sets are parted into cells, in nested squares that are coarser farther out. In each cell the
/// surfaces that flakes can meet are found one under the other. How much comes to one is the open share of the ways on
/// which flakes fall, so that under roofs and trees less lies, in their lee less, and before walls more drifts in; snow
/// holds on slopes up to its angle of rest. Neighbours of like height are joined; the line at which a cover ends is
/// looked for along the edges between cells (marching squares), and there its edge is rounded.
#include "geometry/ray_scene.h"

namespace hygros::geometry {

struct CoverSettings {
    float depth = 0.1f;       ///< of what lies on open level ground [m]
    Vec3 from{0.f, 1.f, 0.f}; ///< unit: where flakes come from, upward
    float spread = 0.35f;     ///< how far their ways part from that [rad]
    float melted = 0.f;       ///< 0…1 of it: thin places go first
    float steepest = 0.9f;    ///< slope on which the last of it holds [rad]
    float cell = 0.1f;        ///< side of the finest cells [m]
    /// Wind carries it on while it lies: how much, 0…1, and from where (level, unit).
    float drifts = 0.f;
    Vec3 upwind{0.f, 0.f, 1.f};
    std::vector<Vec3> around; ///< places near which cells are finest
    std::uint32_t seed = 1;
    bool operator==(const CoverSettings&) const = default;
};

struct Cover {
    std::shared_ptr<const SetGeometry> set; ///< one mesh in metres of the world; never null, may hold no triangle
    float thickest = 0.f;                   ///< [m]
    double area = 0.0;                      ///< that is covered, seen from above [m²]
    double volume = 0.0;                    ///< of what lies [m³]
};
/// Throws Cancelled.
Cover coverOf(const RayScene& bare, const CoverSettings& settings, JobControl& job);
} // namespace hygros::geometry
