#pragma once
/// Heights of the ground under the air, for banks that lie on it.
///
/// The set's surface seen from straight above, with what stands out narrowly (posts, trees, bridges) taken away by a
/// morphological opening, then smoothed; kept on two nested square grids, a fine one around the camera and a coarse
/// one over all of the set.
#include "base/job.h"
#include "base/simd.h"
#include "base/vec.h"
#include "geometry/ray_scene.h"

#include <memory>
#include <vector>

namespace hygros::media {

struct GroundSettings {
    Vec3 around{0, 0, 0};   ///< middle of the fine grid
    float smoothing = 10.f; ///< standard deviation of the smoothing [m], ≥ 0
    float ignore = 6.f;     ///< what is narrower than this and stands out upward is no ground [m], ≥ 0
    bool operator==(const GroundSettings&) const = default;
};

class GroundHeights {
public:
    /// Throws Cancelled. Without a set everything is at height 0.
    GroundHeights(const geometry::RayScene& scene, const GroundSettings& settings, JobControl& job);
    /// Height of the smoothed ground [m]; beyond the set that of its edge.
    F8 height8(F8 x, F8 z) const;
    /// Height of the ground before smoothing [m].
    F8 floor8(F8 x, F8 z) const;
    float height(float x, float z) const { return height8(f8(x), f8(z))[0]; }
    float lowest() const { return lowest_; }
    float highest() const { return highest_; }
    std::size_t bytes() const
    {
        return (fine_.height.size() + fine_.floor.size() + coarse_.height.size() + coarse_.floor.size()) *
               sizeof(float);
    }

private:
    struct Grid {
        float x0 = 0.f, z0 = 0.f, cell = 1.f; ///< place of the first value, distance of two [m]
        int size = 2;
        std::vector<float> height, floor; ///< [row along Z][column along X], smoothed and not
        void read(const std::vector<float>& values, F8 x, F8 z, F8& value, F8& inside) const;
    };
    Grid build(const geometry::RayScene& scene, float x0, float z0, float side, int size,
               const GroundSettings& settings, JobControl& job) const;
    F8 read8(std::vector<float> Grid::*values, F8 x, F8 z) const;
    Grid fine_, coarse_;
    float lowest_ = 0.f, highest_ = 0.f;
};
} // namespace hygros::media
