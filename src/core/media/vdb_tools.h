#pragma once
/// Work on voxel grids through OpenVDB's tools: combining, cutting, blurring, resampling, moving along their velocity.
#include "media/vdb.h"

namespace hygros::media {

/// One step of work on a grid.
struct GridStep {
    enum class How {
        Union,    ///< the larger of both values
        Add,      ///< their sum
        Multiply, ///< their product
        Cut,      ///< what lies inside the other is taken away, softly where the other is thin (values up to 1)
        Inside,   ///< only what lies inside the other stays
        Blur,     ///< a Gaussian of `amount` metres
        Resample, ///< voxels of `amount` metres, even along all axes
        Curve,    ///< values, as shares of the largest, by `curve`
    } how = How::Union;
    std::shared_ptr<const LoadedGrid> other; ///< of the first five
    Mat4 otherToWorld;                       ///< from its index space
    float amount = 0.f;                      ///< [m]
    std::vector<Vec2> curve;                 ///< x and y from 0 to 1, x rising
    bool operator==(const GridStep&) const = default;
};

/// The grid after all steps, in order; its toWorld is from its own index space to where `toWorld` (from the base's
/// index space) puts it. Notes of the base are kept. Throws Error where nothing sensible comes out (voxels too many),
/// and Cancelled.
LoadedGrid worked(const LoadedGrid& base, const Mat4& toWorld, const std::vector<GridStep>& steps, JobControl& job);

/// A file's grid as it is seen while its shutter is open for `seconds`: every voxel's matter is spread along its way by
/// the grid `velocity` (metres of the file a second), from half a shutter before to half a shutter after, in steps no
/// longer than a voxel, so that nothing falls into separate copies. The whole of it stays the same: of the values to
/// the power `power`, as light from something hot goes by the fourth power of its temperature. Throws as loadVdb().
LoadedGrid motionBlurred(const std::filesystem::path& file, const std::string& name, const std::string& velocity,
                         double seconds, JobControl& job, float power = 1.f);
/// A file's grid of vectors at the places (low + (i, j, k))·voxel of the world, [x][y][z], turned and scaled by `place`
/// (from the file's world) and times `scale`; 0 where it has none. Throws as loadVdb().
std::vector<float> vectorsAt(const std::filesystem::path& file, const std::string& name, const Mat4& place, float scale,
                             const std::array<int, 3>& low, const std::array<int, 3>& size, float voxel,
                             JobControl& job);

/// Metres from a surface, near it: `values` holds farthest minus the distance, 0 beyond.
struct DistanceField {
    std::shared_ptr<const BrickGrid> values;
    Mat4 toWorld;
    float farthest = 0.f;
    std::size_t bytes() const { return sizeof *this + (values ? values->bytes() : 0); }
};
/// To triangles (three corners each), for places in `bounds` and as far as `reach` metres; no finer than 1/96 of the
/// bounds or 1/40 of the reach.
DistanceField distanceTo(const std::vector<Vec3>& corners, const Box3& bounds, float reach, JobControl& job);
} // namespace hygros::media
