#pragma once
/// Light scattered inside a voxel volume, for the live picture.
///
/// Photons from sun, sky and set, lamps and the volume's own glow are followed through it (free flights by delta
/// tracking with the bricks' own bounds). At one place of every flight they leave what is scattered from there toward
/// the eye, weighted with the flight's length and the extinction (a one-sample track-length estimator), on a coarse
/// lattice; divided by a cell's mass it is light per unit of extinction where there is matter, and between cells both
/// are interpolated, so that empty cells at the edge neither darken nor brighten it. Narrow phase functions are widened
/// for that last step (to g = 0.85 for the sun's light, which was scattered before; 0.5 for the sky's, 0.7 for lamps
/// and glow, which come from many sides). Sunlight that was not scattered yet is left out: rays work it out by
/// themselves at full detail.
#include "base/random.h"
#include "media/volume_tree.h"
#include "render/air_kernel.h"
#include "render/surface.h"

#include <memory>
#include <vector>

namespace hygros::render {

class VolumeLight {
public:
    /// Of shot.volumes[index], as seen from `eye`. `before` (or null) lends its lattice where grid and `cells`, along
    /// the longest side, are the same. `tree` (or null: it makes its own) is of all volumes of the shot.
    VolumeLight(std::shared_ptr<const shot::Shot> shot, std::size_t index, const Vec3& eye,
                const VolumeLight* before = nullptr, int cells = most,
                std::shared_ptr<const media::VolumeTree> tree = nullptr);
    /// Follows more photons; the same batch gives the same ones. Uses all cores. `air` dims what comes from the sun and
    /// from lamps.
    void add(const AirModel& air, int photons);
    int batches() const { return batches_; }
    /// Light scattered toward the eye at eight points, per unit of extinction and of albedo, from sun (scattered
    /// before, here or in the air and the set around), sky, and lamps and glow together.
    struct Scattered8 {
        F8 sun[3], sky[3], own[3];
        F8 open; ///< share of the sun's light that comes to the volume's edge past set and air
    };
    void at8(F8 x, F8 y, F8 z, Scattered8& out) const;

    /// media::meanRelative() of its volume, worked out once.
    const Vec3& meanRelative() const { return meanRelative_; }

    static constexpr int most = 48;

private:
    void gather();
    /// Optical depth from eight points to the sun, but for this volume.
    F8 sunDepthBeside(const AirModel& air, F8 x, F8 y, F8 z) const;
    /// What other volumes leave of the light from around that comes to `p` from a direction, before `reach` [m]. They
    /// are lit by it too: what they scatter counts as let through.
    float throughOthers(const Vec3& p, const Vec3& from, float reach) const;
    /// Evens those of the values toward the eye that `of` is set for: two by eight.
    void smooth(const I8 of[2]);
    std::size_t cellOf(const Vec3& indexPlace) const;
    /// `aroundShare`: how much of it, by channel, is left as `around`.
    void photon(int source, Random& random, Vec3 origin, Vec3 direction, Vec3 weight, std::vector<float>& to,
                const Vec3& aroundShare = Vec3(0.f)) const;
    void fromSun(const AirModel& air, int count, Random& random, std::vector<float>& to) const;
    void fromSky(int count, const AirModel& air, Random& random, std::vector<float>& to) const;
    void fromLamp(const light::Lamp& lamp, int count, const AirModel& air, Random& random,
                  std::vector<float>& to) const;
    void fromGlow(int count, Random& random, std::vector<float>& to) const;

    std::shared_ptr<const shot::Shot> shot_;
    std::shared_ptr<const media::VolumeTree> tree_;
    std::size_t index_;
    const media::Volume& volume_;
    Vec3 meanRelative_;
    std::array<int, 3> size_{1, 1, 1};
    Vec3 origin_{0.f};       ///< of the lattice, index space
    float cell_ = 1.f;       ///< voxels
    float cellVolume_ = 1.f; ///< [m³]
    Vec3 centre_{0.f};
    float radius_ = 1.f; ///< of a ball around it [m]
    Vec3 eye_;
    int cells_;
    media::Phase wide_[3]; ///< by source, no narrower than is told above
    int batches_ = 0;
    float photons_ = 0.f; ///< what sums are weighted with, together
    /// What is kept of a cell. `around` is the sun's light that comes from the air and the set around, from everywhere
    /// as the sky's does; it is evened as that is and goes out as the sun's.
    enum Value {
        atSun = 0,
        atSky = 3,
        atOwn = 6,
        atAround = 9,
        atOpen = 12,
        atMass = 13,
        atSmoothMass = 14,
        values = 16
    };
    std::vector<float> sums_; ///< [cell][values up to atOpen]
    std::vector<float> open_; ///< [cell] sum over batches of what set and air let through from the sun
    std::shared_ptr<const media::BrickGrid::Means> lattice_; ///< mean density of every cell, whatever the look
    std::vector<float> mass_;                                ///< [cell] extinction × volume
    std::vector<float> toEye_;                               ///< [cell][values], toward the eye
    std::vector<float> glowSums_;                            ///< [cell] running sum of what is given off
};
} // namespace hygros::render
