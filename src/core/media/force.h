#pragma once
/// Forces that move the air in a part of space, over and above the wind: turbulence, a swirl, a pull, a hold.
///
/// Each acts by w = (1 − r²)² in an ellipsoid, r from 0 in its middle to 1 at its border. Turbulence is the curl of a
/// noise whose potential is weighted by w, so that no air is made or lost in it, at its border either (R. Bridson et
/// al., Curl-noise for procedural fluid flow, SIGGRAPH 2007). A swirl turns like a solid body inside its radius and by
/// 1/r outside of it (Rankine's vortex). A pull goes toward the middle, or the nearest place of a surface; in gas it
/// acts on what has heat or smoke in it, since air of even weight takes no such force but as pressure. A hold slows
/// whatever passes.
#include "base/simd.h"
#include "media/toward.h"
#include "media/wind.h"

#include <memory>

namespace hygros::media {

struct Force {
    std::string id;
    enum class Form { Turbulence, Swirl, Pull, Hold } form = Form::Turbulence;
    Vec3 centre{0.f};
    Vec3 half{2.f};           ///< half axes of where it acts [m], > 0
    Vec3 axis{0.f, 1.f, 0.f}; ///< of a swirl, length 1
    float speed = 1.f;   ///< of turbulence, each component's standard deviation; of a swirl at its radius, < 0: the
                         ///< other way round; of a pull, < 0: pushes [m/s]
    float radius = 0.5f; ///< of a swirl [m], > 0
    float grip = 2.f;    ///< how fast gas takes the motion on [1/s]
    Noise pattern;       ///< of turbulence: scale: size of the largest eddies
    std::shared_ptr<const TowardSurface> surface; ///< of a pull: where to; null: the middle
    bool operator==(const Force&) const = default;

    /// How much of it acts at eight places.
    F8 weight8(F8 x, F8 y, F8 z) const;
    /// Its motion, weighted, at eight places [m/s]; a hold has none.
    void motion8(F8 x, F8 y, F8 z, F8 out[3]) const;
    /// One component of the same at faces: of turbulence from differences over `h` about the places, so that what flows
    /// out of a cell of that width also flows in.
    F8 component8(int axis, F8 x, F8 y, F8 z, float h) const;
    bool touches(const Vec3& low, const Vec3& high) const;
};

/// What all winds and forces make of the air at a place, as tracers take it [m/s].
Vec3 airAt(const std::vector<Wind>& winds, const std::vector<Force>& forces, const Vec3& place);
} // namespace hygros::media
