#pragma once
/// The wind of a frame: a mean that grows with height, and gusts that drift with it.
///
/// The mean follows the logarithmic law over rough ground, u(y) ∝ ln((y + z₀)/z₀) (P. J. Richards, R. P. Hoxey,
/// Appropriate boundary conditions for computational wind engineering models, J. Wind Eng. 46, 1993). Gusts are the
/// curl of a noise, so that air is neither made nor lost in them (R. Bridson et al., Curl-noise for procedural fluid
/// flow, SIGGRAPH 2007), of eddies whose speeds go with the cube root of their size (Kolmogorov), carried along by the
/// mean at its reference height (Taylor's frozen turbulence). At the ground nothing blows up or down.
#include "media/noise.h"

#include <memory>
#include <string>
#include <vector>

namespace hygros::media {

struct Wind {
    std::string id;
    Vec3 velocity{0.f};     ///< of the mean at its reference height, level [m/s]
    float reference = 10.f; ///< height over the ground where that is so [m], > 0
    float roughness = 0.1f; ///< z₀: 0.0002 over water, 0.03 over grass, 0.5 in a village [m], > 0
    float ground = 0.f;     ///< height of the ground [m]
    float gusts = 0.f;      ///< standard deviation of each component of what gusts add, far from the ground [m/s]
    Noise pattern;          ///< scale: size of the largest eddies; offset and evolution: where the frame has them
    bool operator==(const Wind&) const = default;

    /// The mean at a height; nothing under the ground.
    Vec3 mean(float y) const;
    /// The mean and the gusts at a place [m/s].
    Vec3 at(const Vec3& place) const;
};
/// A pattern of gusts for Wind: three octaves.
Noise gustPattern(float scale, std::uint32_t seed);

/// Points that the winds carry, as an aid; see sim/tracers.h.
struct Tracers {
    std::string id;
    Vec3 centre{0.f}, half{10.f}; ///< the box that they begin in and are brought back to [m]
    std::uint32_t count = 2000;
    float life = 8.f; ///< seconds until one begins anew
    std::uint32_t seed = 1;
    float trail = 0.2f;                              ///< how much of their way is drawn behind them [s]
    std::shared_ptr<const std::vector<Vec3>> points; ///< where they are, as baked; null: not baked
    bool operator==(const Tracers&) const = default;
};

/// All winds together.
Vec3 windAt(const std::vector<Wind>& winds, const Vec3& place);
} // namespace hygros::media
