#pragma once
/// Volumes made from shapes: what a set object encloses, or a plain body, as voxels.
#include "geometry/ray_scene.h"
#include "media/noise.h"
#include "media/vdb.h"

#include <optional>

namespace hygros::elements {

struct ShapeSource {
    enum class Body { Object, Ball, Box, Cylinder } body = Body::Ball;
    std::optional<geometry::PlacedSet> object; ///< of Body::Object
    Vec3 size{2.f, 2.f, 2.f};                  ///< of the others: width, height and depth, their foot in the origin [m]
    float voxel = 0.1f;                        ///< [m]
    float edge = 0.2f;                         ///< over which density rises from the surface inward [m]
    float hollow = 0.f;                        ///< how much of it is missing in the very middle, 0…1
    media::Noise noise;                        ///< contrast 0: none
    std::vector<Vec2> curve;                   ///< density over density, both 0…1; empty: as it is
    bool operator==(const ShapeSource&) const = default;
};

/// Its voxels, values 0…1 and more where noise adds; placed in the world (objects) or about the origin. Notes say what
/// an artist should know: a mesh that is not closed, voxels made larger so that no side has more than `mostVoxels`.
/// Throws Cancelled.
media::LoadedGrid voxelsOf(const ShapeSource& source, JobControl& job);
inline constexpr int mostVoxels = 256;
} // namespace hygros::elements
