#pragma once
/// What floats: how deep it sits by its weight, and how waves lift, pitch and roll it.
///
/// Hydrostatics by the water that it takes the place of (Archimedes; metacentre over the middle of buoyancy by the
/// second moment of the waterplane over the volume). Motion in waves is linear: each wave by itself drives heave by the
/// mean of its height over the waterplane, pitch and roll by its slope, through a mass on a spring with damping, at the
/// frequency at which the hull meets it (J. N. Newman, Marine Hydrodynamics, 1977, ch. 6). So any moment is known
/// without those before.
#include "base/vec.h"
#include "media/swell_field.h"

#include <vector>

namespace hygros::media {

inline constexpr double densityOfWater = 1000.0; ///< [kg/m³]

/// What stands under a level.
struct Hull {
    double volume = 0.0;                          ///< of water that it takes the place of [m³]
    double area = 0.0;                            ///< of its waterplane [m²]
    Vec2 middle{0.f};                             ///< of that, over the plane [m]
    Vec2 along{1.f, 0.f};                         ///< the way it is longer, unit
    double length = 0.0, beam = 0.0;              ///< of a box with the same second moments [m]
    double buoyancy = 0.0;                        ///< of its middle of volume, under the level [m]
    double secondAlong = 0.0, secondAcross = 0.0; ///< moments of the waterplane about its axes, for pitch and roll [m⁴]
    double draught() const { return area > 0.0 ? volume / area : 0.0; }
    double mass() const { return volume * densityOfWater; } ///< that it carries, afloat [kg]
    /// Of the metacentre over a middle of weight that lies `weight` over the level: for roll, and for pitch [m].
    double rollArm(double weight) const { return volume > 0.0 ? secondAcross / volume - buoyancy - weight : 0.0; }
    double pitchArm(double weight) const { return volume > 0.0 ? secondAlong / volume - buoyancy - weight : 0.0; }
    /// With the water that goes along with it: heave's mass, periods of heave, pitch and roll [s]; 0: it does not.
    double heaveMass() const;
    double heavePeriod() const;
    double pitchPeriod(double weight) const;
    double rollPeriod(double weight) const;
};
/// By samples of how deep it stands, by rows of a square from a corner [m].
Hull hullOf(const std::vector<float>& draughts, int n, float cell, const Vec2& corner);

/// How it lies at a moment, beside where it lies still.
struct Afloat {
    float heave = 0.f; ///< up [m]
    Vec2 drift{0.f};   ///< to and fro with the waves [m]
    Vec2 slope{0.f};   ///< of its deck over the plane: rise by metre toward +X and +Z
};

class Floating {
public:
    /// `weight`: its middle of weight over the level [m]; `loop` and `choppy` as SwellMoment's. Of the waves that move
    /// it the strongest, `most` of them.
    Floating(const SwellModes& modes, const Hull& hull, double weight, double loop, double choppy,
             std::size_t most = 30000);
    Afloat at(const Vec2& place, const Vec2& velocity, double seconds) const;
    /// How high the water itself stands there, over the level, at so many times [m].
    std::vector<double> heights(const Vec2& place, double seconds, double step, int count) const;
    std::size_t waves() const { return waves_.size(); }
    std::size_t bytes() const { return sizeof *this + waves_.size() * sizeof(Wave); }

private:
    struct Wave {
        double kx, kz, frequency; ///< < 0: it runs the other way
        float re, im, sideways;
    };
    std::vector<Wave> waves_;
    Hull hull_;
    double weight_;
};
} // namespace hygros::media
