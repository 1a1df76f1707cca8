#pragma once
/// Veils: colours laid over the picture by distance and by height. No light acts on them and they cast none.
#include "base/simd.h"
#include "base/vec.h"
#include "media/medium.h"
#include "media/noise.h"

#include <array>
#include <string>

namespace hygros::media {

struct Veil {
    std::string id;
    enum class Blend { Over, Add, Multiply } blend = Blend::Over;
    Vec3 light{1, 1, 1}; ///< radiance of the colour 1 [W/m²/sr], by channel
    float dark = 0.f;    ///< share by which the veil's own light is taken back, 0…1: 1 fades to black
    // By distance
    float near = 20.f, far = 800.f; ///< [m], near < far
    float distanceShare = 1.f;      ///< 0…1
    struct Stop {
        float at = 0.f; ///< 0 at near, 1 at far; rising
        Vec3 colour{1, 1, 1};
        float opacity = 0.f; ///< 0…1
        bool operator==(const Stop&) const = default;
    };
    std::array<Stop, 8> stops{};
    int stopCount = 0; ///< 2…8
    // By height
    float heightShare = 0.f;      ///< 0…1
    float base = 0.f, top = 30.f; ///< [m], base < top
    bool thinsUpward = true;      ///< full at the base and nothing at the top, or the other way round
    enum class Fade { Even, Soft, Exponential } fade = Fade::Soft;
    Vec3 heightColour{1, 1, 1};
    /// Opacity is scaled by this where there is nothing but sky.
    float backdropShare = 1.f;
    // Unevenness of distance near the horizon
    float horizonAngle = 0.1f;   ///< how far above and below it [rad]
    float horizonSize = 0.05f;   ///< of its wisps [rad]
    float horizonStrength = 0.f; ///< stops by which distances are shifted; 0: none
    std::uint32_t seed = 1;
    bool operator==(const Veil&) const = default;
};

/// Adds a veil to the affine map `times`, `plus` of what is seen at `depth` along rays (the sky at `horizon` and
/// beyond): picture → times · picture + plus. Over: o = opacity, c = colour · light · (1 − dark): times (1 − o), plus
/// o·c; distance first, height over it. Add: plus o·c of both. Multiply: one veil with the product of both opacities
/// and of both colours. `wisps`: veilWisps8() of these rays, where it is kept; else worked out where it shows.
void veil8(const Veil& veil, const Ray8& ray, F8 depth, float horizon, F8 times[3], F8 plus[3],
           const F8* wisps = nullptr);
/// The horizon's noise by direction, −1…1, fading to 0 far from the horizon. Depends on horizonAngle, horizonSize and
/// seed alone.
F8 veilWisps8(const Ray8& ray, const Veil& veil);
/// Colour and opacity of the stops at u, straight between them.
void stopsAt(const Veil& veil, F8 u, F8 colour[3], F8& opacity);
} // namespace hygros::media
