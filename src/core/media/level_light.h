#pragma once
/// Sun and sky in level air: what scattering, all orders of it, makes of their light between the air above a place and
/// the air below it.
///
/// The equation of transfer μ dI/dτ = −I + ω∫p I dΩ′ in plane-parallel air over a matte ground, solved by adding and
/// doubling (van de Hulst 1963; de Haan, Bosma & Hovenier 1987) in `streams` Gauss directions a hemisphere and as many
/// azimuth orders, with the forward peak taken out (delta-M; Wiscombe 1977). From the radiance at every interface
/// comes what the air there scatters, which is told apart into three lobes:
///
///     scattered(view) = ω E [ e^(−τ/μ₀) p(cos) + turned·p₂(cos) + broad·p₄(cos) + around/(4π) ]
///
/// p₂ is the phase function once more convolved with itself (Phase::again), p₄ Phase::broad; the coefficients are the
/// best relative fit, none below zero, over directions about the level.
#include "base/simd.h"
#include "media/phase.h"

#include <array>
#include <memory>
#include <span>
#include <vector>

namespace hygros::media {

/// What one table holds for a pair of optical depths; sun: per unit of irradiance on a plane that faces it.
struct LevelShares {
    float turned = 0.f, broad = 0.f, around = 0.f; ///< see above
    float sunDown = 0.f; ///< irradiance of a level surface by scattered sunlight, per what the sun gives it without air
    float sky = 1.f;     ///< mean radiance from the sky and the ground under it, per the same without air
    float skyDown = 1.f; ///< irradiance of a level surface by the sky, per the same without air
    float straight =
        1.f; ///< part of `sky` that comes from where it came from: not scattered, or by less than one can see
};

/// Level air of one kind under one height of the sun.
struct LevelAir {
    Phase phase;
    float albedo = 1.f;  ///< 0…1
    float sunSine = 1.f; ///< of the sun's height; below `lowestSun` counts as that
    float ground = 0.2f; ///< albedo of what the air lies on
    /// The sky's radiance, mean over azimuths, at these heights; any unit.
    static constexpr int skyHeights = 7;
    std::array<float, skyHeights> sky{1.f, 1.f, 1.f, 1.f, 1.f, 1.f, 1.f};
    /// Sines of those heights, those of the Gauss directions.
    static std::array<float, skyHeights> skySines();
    bool operator==(const LevelAir&) const = default;
    static constexpr float lowestSun = 0.01f;
};

class LevelLight {
public:
    static constexpr int streams = LevelAir::skyHeights; // with the sun's own one they fill vectors

    /// A mixture of two kinds of air at most; some milliseconds.
    LevelLight(const LevelAir& first, const LevelAir& second);

    /// For vertical optical depths above and below eight places; `mix` 0…1 of the second kind.
    struct Shares8 {
        F8 turned, broad, around, sunDown, sky, skyDown, straight;
    };
    Shares8 at8(F8 above, F8 below, F8 mix) const;
    LevelShares at(float above, float below, float mix = 0.f) const;
    /// What reaches surfaces there, whichever way they face: the light around them up to its second harmonics, which
    /// tell irradiance within a few per cent (Ramamoorthi & Hanrahan 2001).
    struct Surfaces8 {
        F8 sun;    ///< irradiance by scattered sunlight, per what the sun gives a plane that faces it without air
        F8 sky;    ///< what is left of the sky's light that comes from where it came from, 0…1
        F8 around; ///< irradiance by the rest of the sky's light, per what a level surface gets of it without air
        /// Sunlight that was turned so little that it still comes from the sun, per the same as `sun`; `slant` is the
        /// depth toward the sun.
        F8 ahead;
    };
    /// `toward` and `up`: of the surface's normal, toward the sun along the level and upward. `slant`: depth of the air
    /// on the way to the sun.
    Surfaces8 surfaces8(F8 above, F8 below, F8 mix, F8 slant, F8 toward, F8 up) const;

    /// Radiance that air of extinction 1 /m sends on per metre toward `view` (unit vector, a ray from the eye; y is up,
    /// the sun stands toward +x), from sunlight scattered at least once before: the unfitted solution, for tests. Only
    /// `first`.
    static double scattered(const LevelAir& air, double above, double below, const std::array<double, 3>& view);
    /// Reflected and transmitted shares of sunlight by a layer over black ground. Only `first`.
    static std::array<double, 2> albedoOf(const LevelAir& air, double depth);

private:
    static constexpr int finest = -10;                     ///< the first node above 0 is 2^finest
    static constexpr int aboveNodes = 36, belowNodes = 19; ///< up to a depth of 128
    static constexpr int stride =
        16; ///< floats a node: LevelShares of the one kind and, in the second eight, of the other
    static float aboveNode(int i);
    static float belowNode(int i);
    void solve(const LevelAir& air, int second);
    /// Moments of the light around a place: its sum over all directions, its flux, its second moments.
    struct Around {
        float sum = 0.f, toward = 0.f, up = 0.f, upUp = 0.f, towardToward = 0.f, towardUp = 0.f;
        float skySum = 0.f, skyUp = 0.f, skyUpUp = 0.f;
        float level = 0.f, skyLevel = 0.f; ///< what comes down on a level surface
        float skyStraight = 0.f;           ///< of the sky: share that was not scattered
    };
    static constexpr int aroundStride = 32; ///< floats a node, sixteen of each kind
    struct Node8;                           ///< eight places in the tables
    bool two_;
    float depthScale_[2] = {1.f, 1.f}; ///< what is left of a depth without the forward peak
    float clearSky_ = 1.f;             ///< irradiance of a level surface by the sky without air
    std::vector<float> table_, around_;
};

/// The same, kept for the mixtures asked for last.
std::shared_ptr<const LevelLight> levelLight(const LevelAir& first, const LevelAir& second);
/// HG moments and Draine's by quadrature: mean Legendre polynomials, χ₀ = 1.
std::vector<double> phaseMoments(const Phase& phase, int count);
} // namespace hygros::media
