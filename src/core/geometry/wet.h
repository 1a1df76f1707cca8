#pragma once
/// Water that lies over a set's own materials: darker and smoother by how wet a place is, and puddles on level ground.
///
/// What is porous is darker when it is wet, since light that leaves it is thrown back into it by the water's surface:
/// of an albedo a is left a·(1 − p)/(1 − p·a), p being the share thrown back inside (J. Lekner & M. C. Dorf, Why some
/// things are darker when wet, Appl. Opt. 27, 1988).
#include "geometry/set_geometry.h"

#include <array>

namespace hygros::geometry {

/// A drop that fell into standing water: rings run out from it.
struct Ring {
    float x = 0.f, z = 0.f; ///< where [m]
    float age = 0.f;        ///< since then [s]
    float size = 0.f;       ///< of the drop [m]
};
class Rings {
public:
    static constexpr float reach = 0.16f, lasts = 0.55f; ///< farthest they run [m], until they are gone [s]
    virtual ~Rings() = default;
    /// Those that may still be seen at a place.
    virtual void near(const Vec3& place, std::vector<Ring>& out) const = 0;
};

/// Where water stands by the height of the ground (geometry/hollows.h).
class StandingWater {
public:
    virtual ~StandingWater() = default;
    /// How deep it is at a place on level ground [m]; 0 or less: none stands there.
    virtual float depth(const Vec3& place) const = 0;
};

struct Wetness {
    float wet = 0.f;     ///< 0…1: how soaked what is open to the sky is; walls half as much
    float puddles = 0.f; ///< share of level ground that stands under water, 0…1
    float size = 1.2f;   ///< of puddles [m]
    std::uint32_t seed = 1;
    std::shared_ptr<const Rings> rings;            ///< on puddles; null: they lie still
    float beyond = 0.f;                            ///< share of the ground under water that no hollow holds
    std::shared_ptr<const StandingWater> standing; ///< the puddles; null: by a pattern
    /// What runs down steep places in streams: how much of them, 0…1, how far it has run [m] (`streamLength` times a
    /// whole number is as if it had not; after `cycle` of these the pattern comes again, 0: never), and the eye near
    /// which that is seen.
    float runs = 0.f, ran = 0.f;
    std::uint32_t cycle = 0;
    Vec3 eye{0.f};
    static constexpr float streamLength = 0.22f;
    bool isDry() const { return wet <= 0.f && puddles <= 0.f; }
    bool operator==(const Wetness&) const = default;
};

/// A material and what becomes of it.
class WetMaterial {
public:
    WetMaterial(const Material& dry, const Wetness& wetness);
    /// At a place of the world on a surface that faces `normal`; `puddle` becomes whether it stands under water.
    const Material& at(const Vec3& place, const Vec3& normal, bool& puddle) const;
    /// How a puddle's surface stands there.
    Vec3 surface(const Vec3& place) const;
    /// Whether water runs down it, and how its surface stands at a place on what faces `facing`, in place of `normal`.
    bool runs() const { return wetness_.runs > 0.f; }
    Vec3 flowing(const Vec3& place, const Vec3& facing, const Vec3& normal) const;

private:
    static constexpr int steps = 6;
    Wetness wetness_;
    float threshold_ = 0.f;              ///< of the pattern: above it there is water
    float beyond_ = 2.f;                 ///< the same for what hollows do not hold
    std::array<Material, steps> facing_; ///< dry first, as wet as can be last
    Material puddle_;
};
} // namespace hygros::geometry
