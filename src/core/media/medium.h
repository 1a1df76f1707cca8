#pragma once
/// Extinction fields: where there is how much of what.
///
/// A medium's density at a point is  sigmaT · profile(point) · modulation(point)  [1/m]. The profile is a closed
/// form whose integral along any ray is exact (so no step size can show as bands); the modulation is noise and is
/// sampled. Everything is written for eight rays at once; the scalar forms call the same code.
#include "base/simd.h"
#include "base/vec.h"
#include "geometry/camera.h"
#include "media/draught.h"
#include "media/ground.h"
#include "media/inside.h"
#include "media/noise.h"
#include "media/phase.h"

#include <memory>
#include <string>

namespace hygros::media {

enum class Shape {
    Uniform,  ///< 1 below `top`, 0 above
    Thinning, ///< exp(−(h − base)/thinning)
    Layer,    ///< 1 between base and top, smoothly thinning to 0 over the upper `falloff` metres
    Box,      ///< 1 inside, smoothly 0 over the outer `falloff` metres; turned by yaw about the vertical
    Sphere,   ///< an ellipsoid, soft and turned like the box
    Cylinder, ///< an upright elliptic cylinder, soft and turned like the box
    Ground,   ///< from the ground up to `top` metres above it, thinning over its upper `falloff`
    Inside,   ///< what a closed mesh encloses, thinning over `falloff` metres inside its surface
};

/// How density changes from one end of a bank to the other: base to top of a layer, foot to head of a box, cylinder or
/// mesh, middle to rim of a sphere, ground to top of a bank that follows the ground.
struct Ends {
    float far = 1.f;   ///< density at the far end as a share of that at the near one, ≥ 0; 1 is even
    float at = 0.5f;   ///< where the change has half happened, 0…1 from end to end
    float range = 1.f; ///< over which share of the way it happens, > 0
    float curve = 1.f; ///< exponent of the change, > 0: 1 is straight, larger stays near the first end longer
    bool operator==(const Ends&) const = default;
};

struct Medium {
    std::string id; ///< the element it came from
    Shape shape = Shape::Uniform;
    float sigmaT = 0.f;   ///< extinction at profile 1 [1/m]
    Vec3 albedo{1, 1, 1}; ///< scattered share of the extinction, per channel
    Phase phase;          ///< how it spreads light
    float ambient = 1.f;  ///< scales the light from the sky and from around that it scatters; 1 is physical
    /// Clean air: `sigmaT` is its extinction for green, and red and blue go by `cleanSpectrum`. Its shape depends on
    /// height alone and it has no noise. It dims what is seen through it, not the sun and the sky: they come through it
    /// already.
    bool clean = false;
    float base = 0.f, top = 300.f;       ///< heights [m]
    float thinning = 100.f;              ///< height over which a thinning haze falls to 1/e [m]
    float falloff = 0.f;                 ///< [m], at most top − base for a layer
    Vec3 centre{0, 0, 0}, half{1, 1, 1}; ///< box, sphere, cylinder: centre and half extents [m]
    float cosYaw = 1.f, sinYaw = 0.f;
    Vec3 axis{0, 1, 0}; ///< of a layer, unit: heights are measured along it from the origin
    float clear =
        0.f; ///< none of it within this distance of `clearCentre`, for rays that begin there [m]; not physical
    Vec3 clearCentre{0, 0, 0};
    Noise noise;       ///< contrast 0: none
    float cap = 1e30f; ///< noise makes it no denser than this multiple of sigmaT
    Ends ends;
    /// Of a layer: its surface lies up to `swell` metres under and over `top − swell`, in waves about `swellLength`
    /// long that drift and boil with its noise, and it thins over `swellFade` under that. 0: level.
    float swell = 0.f, swellLength = 100.f, swellFade = 0.f;
    Draughts draughts;                           ///< of fires near it
    std::shared_ptr<const GroundHeights> ground; ///< of Shape::Ground
    std::shared_ptr<const InsideField> inside;   ///< of Shape::Inside
    bool operator==(const Medium&) const = default;
};

/// Rayleigh extinction at the centres of the three channels relative to green: λ⁻⁴ at about 680, 550 and 440 nm.
inline constexpr float cleanSpectrum[3] = {0.428f, 1.f, 2.441f};

/// Whether density depends on height alone, noise and ends left out.
inline bool isFlat(const Medium& m)
{
    return m.shape == Shape::Uniform || m.shape == Shape::Thinning || (m.shape == Shape::Layer && m.axis.y > 0.9999f);
}
/// Whether density is more than its closed form: noise, a change from end to end, a surface in waves, fires near it,
/// ground or a mesh.
inline bool isPatterned(const Medium& m)
{
    return m.noise.contrast > 0.f || m.ends.far != 1.f || m.swell > 0.f || m.draughts.any() || m.ground || m.inside;
}

/// Eight rays: origin (shared or not) and unit direction.
struct Ray8 {
    F8 ox, oy, oz, dx, dy, dz;
    F8 x(F8 t) const { return ox + dx * t; }
    F8 y(F8 t) const { return oy + dy * t; }
    F8 z(F8 t) const { return oz + dz * t; }
};
Ray8 ray8(const Vec3& origin, const Vec3& direction);
inline Ray8 ray8(const geometry::SightRay& ray) { return ray8(ray.origin, ray.direction); }
inline void setLane(Ray8& rays, int lane, const geometry::SightRay& ray)
{
    rays.ox[lane] = ray.origin.x, rays.oy[lane] = ray.origin.y, rays.oz[lane] = ray.origin.z;
    rays.dx[lane] = ray.direction.x, rays.dy[lane] = ray.direction.y, rays.dz[lane] = ray.direction.z;
}

/// Shrinks [t0, t1] to where the profile is not zero; an empty result has t1 == t0. Bounded shapes only; others
/// leave it as it is.
void clip8(const Medium& medium, const Ray8& ray, F8& t0, F8& t1);

/// What thins with height is not counted denser below its base than e to this power.
inline constexpr float deepest = 30.f;
/// ∫ profile ds over [t0, t1] in metres, t0 ≤ t1, t1 up to 1e6. Exact for Uniform, Thinning, Layer (level rays
/// included) and hard-edged boxes, spheres and cylinders; their soft edges by 4-point Gauss–Legendre over the interval.
/// Ground and Inside: the length within their bounds; what of it is filled is the pattern's.
F8 profileIntegral8(const Medium& medium, const Ray8& ray, F8 t0, F8 t1);
float profileIntegral(const Medium& medium, const Vec3& origin, const Vec3& direction, float t0, float t1);

/// The profile at a point, 0…1 (Thinning: above 1 below its base).
F8 profile8(const Medium& medium, F8 x, F8 y, F8 z);
float profile(const Medium& medium, const Vec3& p);

/// How high over `top − swell` the surface of a layer in waves lies [m].
F8 swell8(const Medium& medium, F8 x, F8 z);
/// What the profile is multiplied with at a point: noise (at most the cap), the change from end to end, what fires have
/// dried, and for ground and mesh whether the point is in it. Never above patternBound().
F8 pattern8(const Medium& medium, F8 x, F8 y, F8 z);
float patternBound(const Medium& medium);
/// Noise alone, as fires draw it in; without the cap.
F8 wisps8(const Medium& medium, F8 x, F8 y, F8 z);
/// pattern8() without ground or mesh.
F8 detail8(const Medium& medium, F8 x, F8 y, F8 z);
/// Shape::Ground: mean share of [t0, t1] that lies in the fog, density counted; the way over the ground is taken as
/// straight between t0, a place `split` (0…1) of the way, and t1.
F8 groundShare8(const Medium& medium, const Ray8& ray, F8 t0, F8 t1, F8 split);
/// Shape::Ground: metres of full density straight above a point, and above one that is `over` metres over the ground.
F8 aboveGround8(const Medium& medium, F8 x, F8 y, F8 z);
F8 aboveHeight8(const Medium& medium, F8 over);
/// Shape::Ground: density as a share, `over` metres over the ground; noise and ends left out.
F8 atHeight8(const Medium& medium, F8 over);

/// Extinction at a point, noise included [1/m].
float extinction(const Medium& medium, const Vec3& p);

/// Optical depth of the evenly distributed medium (noise left out) over [t0, t1].
inline float opticalDepth(const Medium& medium, const Vec3& origin, const Vec3& direction, float t0, float t1)
{
    return medium.sigmaT * profileIntegral(medium, origin, direction, t0, t1);
}

/// How far light from outside (sun, sky) is followed through air [m].
inline constexpr float outsideDistance = 5e4f;
} // namespace hygros::media
