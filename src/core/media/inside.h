#pragma once
/// What a mesh encloses, as a grid of depths under its surface.
///
/// A cell is inside when at least two of three straight lines through it (along X, Y and Z) say so by the number of
/// surfaces they cross; a mesh with a hole still has an inside where the other directions agree.
#include "base/job.h"
#include "base/simd.h"
#include "geometry/ray_scene.h"

#include <vector>

namespace hygros::media {

class InsideField {
public:
    /// `cells` along the longest side, 8…256. Throws Cancelled.
    InsideField(const geometry::PlacedSet& mesh, int cells, JobControl& job);
    /// Metres to the surface for points inside; 0 outside.
    F8 depth8(F8 x, F8 y, F8 z) const;
    const Box3& bounds() const { return bounds_; }
    /// Share of the bounds that is inside.
    float fill() const { return fill_; }
    /// Edges that do not lie between two triangles; 0 for a closed mesh.
    std::size_t openEdges() const { return openEdges_; }
    std::size_t bytes() const { return depth_.size() * sizeof(float); }

private:
    Box3 bounds_;
    Vec3 origin_{0.f};
    float cell_ = 1.f, fill_ = 0.f;
    int size_[3] = {1, 1, 1};
    std::vector<float> depth_; ///< [z][y][x] at cell centres
    std::size_t openEdges_ = 0;
};

/// Edges of a set that do not belong to exactly two triangles, vertices at one place counted as one.
std::size_t openEdgesOf(const geometry::SetGeometry& set);
} // namespace hygros::media
