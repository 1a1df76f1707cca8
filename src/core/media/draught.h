#pragma once
/// What the air that a fire draws in does to a bank of mist: its pattern is carried toward the fire, and what has come
/// into the warm air over it dries.
///
/// A plume in still air (B. R. Morton, G. I. Taylor, J. S. Turner, Turbulent gravitational convection from maintained
/// and instantaneous sources, 1956; even profiles) of buoyancy flux B, at a height H over its virtual source:
/// radius b = 6α/5·H, speed w = 5/(6α)·(9αB/10π)^⅓·H^(−⅓), and air comes in at its edge with α·w. Outside of it
/// that is level and 1/r: u(r) = α·w·b/r = 0.0390·B^⅓·H^⅔/r with α = 0.12. What is at r now was at √(r² + 2·r·u·t) a
/// time t before, and no area of the pattern is made or lost. Two patterns that have been drawn for so long and longer
/// fade into each other and begin anew in turns, with the contrast kept (N. Max, B. Becker, Flow visualization using
/// moving textures, 1996).
#include "base/simd.h"
#include "media/noise.h"

#include <vector>

namespace hygros::media {

struct Draught {
    static constexpr float entrainment = 0.12f; ///< α, of even profiles
    static constexpr float widens = 1.2f * entrainment;
    /// α·w·b ÷ (B^⅓·H^⅔).
    static constexpr float draws = 0.0390f;
    /// w ÷ (B^⅓·H^(−⅓)).
    static constexpr float rises = 2.258f;
    /// B^⅔·H^(−5/3) times this is how much warmer it is, at 288 K [K]: 288/g·1/(π·(6α/5)²·w).
    static constexpr float warms = 199.6f;
    /// Warmer by this times its extinction [K·m] air keeps nothing of a mist: 8 µm droplets of extinction σ are
    /// 5.3 g/m³·σ·m, saturated air at 10 °C takes 0.6 g/m³ more a kelvin, and what evaporates cools by 2 K a g/m³.
    static constexpr float dries = 20.f;
    /// Beyond so many cells of a pattern it is left as it is.
    static constexpr float reach = 6.f;

    Vec3 foot{0.f};        ///< middle of the fire at its lowest [m]
    float radius = 0.2f;   ///< of the fire, > 0 [m]
    float drawn[2]{0, 0};  ///< 2·draws·∫B^⅓ dt over the time that either pattern has been drawn for [m^(4/3)]
    float passes[2]{0, 0}; ///< how far the pattern has gone by in that time [m]
    float warmth = 0.f;    ///< B^⅔·warms ÷ (dries·extinction) [m^(5/3)]
    Vec2 lean{0.f, 0.f};   ///< in a wind its middle is off by this times H^(4/3) less that at its foot [m^(−1/3)]
    bool operator==(const Draught&) const = default;

    /// How far under the foot the virtual source lies [m].
    float depth() const { return radius / widens; }
};

struct Draughts {
    std::vector<Draught> fires;
    float period = 0.f; ///< after which a pattern begins anew [s]
    float turned = 0.f; ///< share of the second pattern, 0…1
    bool operator==(const Draughts&) const = default;
    bool any() const { return !fires.empty(); }
};

/// modulation8() of a pattern that fires draw in; within modulationBound(), with its mean and contrast.
F8 drawnModulation8(const Noise& noise, const Draughts& draughts, F8 x, F8 y, F8 z);
/// Which share of a mist is left at a place, 0…1.
F8 undried8(const Draughts& draughts, F8 x, F8 y, F8 z);
} // namespace hygros::media
