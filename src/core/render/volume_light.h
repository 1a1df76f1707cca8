#pragma once
/// Light scattered inside a voxel volume, for the live picture.
///
/// Photons from sun, sky, lamps and the volume's own glow are followed through it (free flights by delta tracking with the bricks'
/// own bounds) and leave their light on a coarse lattice: at one place of every flight, weighted with its length, so that the mean is the
/// fluence (a one-sample track-length estimator), by direction in spherical harmonics up to the second order (sun) or the first. For an eye the
/// phase function's moments turn it into the light each cell scatters that way. Sunlight that was not scattered yet is left out:
/// rays work it out by themselves at full detail.
#include "base/random.h"
#include "render/air_kernel.h"

#include <memory>
#include <vector>

namespace hygros::render {

class VolumeLight {
public:
    /// Of shot.volumes[index]; `air` dims what comes from the sun and from lamps.
    VolumeLight(std::shared_ptr<const shot::Shot> shot, std::size_t index);
    /// Follows more photons; the same batch gives the same ones. Uses all cores.
    void add(const AirModel& air, int photons);
    int batches() const { return batches_; }
    /// Works out what is scattered toward a place.
    void lookFrom(const Vec3& eye);
    /// Light scattered toward that place at eight points, per unit of extinction, from sun (scattered before), sky, and lamps and glow together.
    struct Scattered8 {
        F8 sun[3], sky[3], own[3];
        F8 open; ///< share of the sun's light that comes to the volume's edge past set and air
    };
    void at8(F8 x, F8 y, F8 z, Scattered8& out) const;
    /// The same volume in the same light.
    bool serves(const shot::Shot& shot, std::size_t index) const;
    std::size_t bytes() const { return (sums_.size() + toEye_.size()) * sizeof(float); }

    static constexpr int most = 32; ///< cells along the longest side

private:
    static constexpr int sunTerms = 9, otherTerms = 4, terms = sunTerms + 2 * otherTerms; ///< a channel
    std::size_t cellOf(const Vec3& indexPlace) const;
    void photon(int source, Random& random, Vec3 origin, Vec3 direction, Vec3 weight, std::vector<float>& to) const;
    void fromSun(const AirModel& air, int count, Random& random, std::vector<float>& to) const;
    void fromSky(int count, Random& random, std::vector<float>& to) const;
    void fromLamp(const light::Lamp& lamp, int count, const AirModel& air, Random& random, std::vector<float>& to) const;
    void fromGlow(int count, Random& random, std::vector<float>& to) const;

    std::shared_ptr<const shot::Shot> shot_;
    std::size_t index_;
    const media::Volume& volume_;
    std::array<int, 3> size_{1, 1, 1};
    Vec3 origin_{0.f}; ///< of the lattice, index space
    float cell_ = 1.f; ///< voxels
    float cellVolume_ = 1.f; ///< [m³]
    Vec3 centre_{0.f};
    float radius_ = 1.f; ///< of a ball around it [m]
    float moments_[3] = {1.f, 0.f, 0.f}; ///< of the phase function
    int batches_ = 0;
    float photons_ = 0.f; ///< what sums are weighted with, together
    std::vector<float> sums_;  ///< [cell][channel][terms]
    std::vector<float> open_;  ///< [cell] sum over batches of what set and air let through from the sun
    std::vector<float> toEye_; ///< [cell][12]: sun, sky, own by channel, open; two to spare
    std::vector<float> glowSums_; ///< [cell] running sum of what is given off
};
} // namespace hygros::render
