#pragma once
/// Lamps: sources with a place, and the light they send to a point.
///
/// All shapes are one struct, so that a shot's lamps are a flat array. What a lamp sends is `intensity` times a number
/// for the point, worked out here in two ways that agree in the mean: sampleLamp() toward one random point of the
/// source, for surfaces and for reference paths; lampFluence8() for all of the source at once, in closed form, for air.
#include "base/simd.h"
#include "base/vec.h"
#include "light/gobo.h"
#include "light/profile.h"

#include <algorithm>
#include <cmath>
#include <memory>
#include <string>
#include <vector>

namespace hygros::geometry {
class RayScene;
}

namespace hygros::light {

struct Lamp {
    enum class Shape {
        Sphere,    ///< shines evenly all around
        Spot,      ///< a disc of `radius` that fills a cone: the beam leaves the disc at full width
        Rectangle, ///< a matte panel of `width` × `height`, one-sided
        Disc,      ///< a matte round panel of `radius`, one-sided
        Tube,      ///< a matte cylinder of `width` along `right`
        Parallel,  ///< a beam of parallel light, `radius` wide
    };
    enum class Falloff {
        Physical,
        None,   ///< everywhere as at 1 m; not physical
        Linear, ///< as at 1 m, going down to nothing at `range`; not physical
    };
    /// What stands in the light's way.
    enum class Shadows { Full, SetOnly, None };

    std::string id; ///< the element it came from
    Shape shape = Shape::Spot;
    Vec3 position{0, 0, 0};                 ///< middle of the source
    Vec3 direction{0, -1, 0};               ///< unit; axis of spot and parallel beam, front of panels
    Vec3 right{1, 0, 0};                    ///< unit, across the direction: the gobo's and the panel's x, along a tube
    Vec3 up{0, 0, 1};                       ///< unit, across both
    float cosInner = 0.9f, cosOuter = 0.8f; ///< spot: full strength inside the inner cone, none outside the outer
    float softEdge = 0.3f;                  ///< parallel beam: share of the radius over which it fades out
    float radius = 0.05f;                   ///< sphere, spot's disc, disc, tube's thickness, parallel beam [m]
    float width = 1.f, height = 1.f;        ///< panel; tube's length is the width [m]
    /// Spot: on the axis; sphere: everywhere; panels: straight ahead; tube: straight across [W/sr]. Parallel:
    /// irradiance [W/m²].
    Vec3 intensity{0, 0, 0};
    Falloff falloff = Falloff::Physical;
    float range = 50.f;                                 ///< of the linear falloff [m]
    float toDiffuse = 1.f, toGlossy = 1.f, toAir = 1.f; ///< strengths; 1 is physical
    Shadows shadows = Shadows::Full;
    bool quick = false;                     ///< its beam by closed form: locally even air, no shadow, no noise
    float glow = 1.f;                       ///< the source itself, as the camera sees it; 0: it cannot be seen
    std::shared_ptr<const Profile> profile; ///< shapes the light of spot, sphere and panels; null: none
    std::shared_ptr<const Gobo> gobo;       ///< of spot and parallel beam; null: none
    /// Reach: strength in each of the shot's media, bodies and placed sets, in their order; empty: 1 everywhere.
    std::shared_ptr<const geometry::RayScene>
        shadowScene; ///< what shades it, where that is not all of the scene; null: all
    std::vector<float> mediaReach, bodyReach, setReach;
    int ofBody = -1; ///< the shot's body whose glow it stands for (and that does not dim it); −1: a lamp of its own

    float reachOfMedium(std::size_t i) const { return i < mediaReach.size() ? mediaReach[i] : 1.f; }
    float reachOfBody(std::size_t i) const { return i < bodyReach.size() ? bodyReach[i] : 1.f; }
    float reachOfSet(std::size_t i) const { return i < setReach.size() ? setReach[i] : 1.f; }
    bool operator==(const Lamp&) const = default;
    /// Share of a spot's intensity toward a direction whose cosine to the axis is c: a smoothstep between the cones.
    float edge(float c) const
    {
        const float u = std::clamp((c - cosOuter) / std::max(1e-6f, cosInner - cosOuter), 0.f, 1.f);
        return u * u * (3.f - 2.f * u);
    }
    /// Where a spot's rays seem to come from: behind its disc.
    Vec3 apex() const;
    /// Farther than this its light is not followed [m].
    float reach() const;
    /// Puts `right` and `up` across the direction, turned about it by `turn` radians; level where that can be said.
    void aimAlong(const Vec3& unitDirection, float turn = 0.f);
    bool lightsAir() const;
};

/// Intensity on the axis per unit of flux [1/sr]: the inverse of ∫ edge dω = 2π·((1 − cosInner) + (cosInner −
/// cosOuter)/2).
inline float spotIntensityPerFlux(float cosInner, float cosOuter)
{
    return 1.f / (2.f * pi * ((1.f - cosInner) + 0.5f * (cosInner - cosOuter)));
}
/// `intensity` of a lamp per unit of flux; per shape: sphere 1/4π, spot as above, panels 1/π (Lambert), tube 1/π²,
/// parallel one over the area of its beam [1/m²]. With a profile: by its own integral.
float intensityPerFlux(const Lamp& lamp);

/// One way from a point to a lamp.
struct LampSample {
    Vec3 way;             ///< unit, toward a point of the source
    float distance = 0.f; ///< to it; short of the source's own body where that has one [m]
    Vec3 irradiance;      ///< on a surface facing `way`, for an intensity of 1 [1/m²] (parallel: 1)
};
/// u, v in [0, 1). False where the lamp sends nothing to the point. Spheres are sampled by solid angle, panels and
/// tubes by area.
bool sampleLamp(const Lamp& lamp, const Vec3& point, float u, float v, LampSample& out);

/// A random point of the source as seen from `point`, for shadows; and how far before it a ray ends, so that what holds
/// the lamp does not shade it [m].
Vec3 sourcePoint(const Lamp& lamp, const Vec3& point, float u, float v);
float clearanceOf(const Lamp& lamp);

/// Balls that together hold all places a lamp's light is followed to.
struct Ball {
    Vec3 centre;
    float radius;
};
std::vector<Ball> ballsOf(const Lamp& lamp);
/// Whether two lamps light the same places alike: they differ at most in how bright they are and in what air they
/// light.
bool sameBeam(const Lamp& a, const Lamp& b);

/// Irradiance summed over all directions at eight points for an intensity of 1: Ω·L of spheres and rectangles in closed
/// form (solid angle of a rectangle after Van Oosterom & Strackee 1983), tubes by their line integral, discs as squares
/// of the same area; `way` and `distance` toward the middle of the source. Colour by profile and gobo in `tint`.
void lampFluence8(const Lamp& lamp, F8 x, F8 y, F8 z, F8 way[3], F8& distance, F8 tint[3]);

/// Where a ray is inside a spot's outer cone (half angle below 90°) and within `reach` metres of its tip.
/// False when it is nowhere; otherwise t0 < t1, both within the given interval.
bool insideCone(const Lamp& spot, const Vec3& origin, const Vec3& direction, float reach, float& t0, float& t1);
/// Where the lamp's light can be met along a ray: its cone, the half space before a panel, a cylinder, a ball of its
/// reach.
bool insideBeam(const Lamp& lamp, const Vec3& origin, const Vec3& direction, float& t0, float& t1);

/// The glowing source as a ray meets it before `limit`: distance and radiance for an intensity of 1 [1/m²]. A source
/// smaller than `footprint` radians is taken as that large and as much dimmer.
bool meetsSource(const Lamp& lamp, const Vec3& origin, const Vec3& direction, float footprint, float limit, float& t,
                 Vec3& radiance);
} // namespace hygros::light
