#pragma once
/// Extinction fields: where there is how much of what.
///
/// A medium's density at a point is  sigmaT · profile(point) · modulation(point)  [1/m]. The profile is a closed
/// form whose integral along any ray is exact (so no step size can show as bands); the modulation is noise and is
/// sampled. Everything is written for eight rays at once; the scalar forms call the same code.
#include "base/simd.h"
#include "base/vec.h"
#include "media/noise.h"

#include <string>

namespace hygros::media {

enum class Shape {
    Uniform,  ///< 1 below `top`, 0 above
    Thinning, ///< exp(−(h − base)/thinning)
    Layer,    ///< 1 between base and top, smoothly thinning to 0 over the upper `falloff` metres
    Box,      ///< 1 inside, smoothly 0 over the outer `falloff` metres; turned by yaw about the vertical
    Sphere,   ///< an ellipsoid, soft and turned like the box
    Cylinder, ///< an upright elliptic cylinder, soft and turned like the box
};

struct Medium {
    std::string id;         ///< the element it came from
    Shape shape = Shape::Uniform;
    float sigmaT = 0.f;     ///< extinction at profile 1 [1/m]
    Vec3 albedo{1, 1, 1};   ///< scattered share of the extinction, per channel
    float g = 0.f;          ///< mean cosine of the phase function
    float base = 0.f, top = 300.f; ///< heights [m]
    float thinning = 100.f; ///< height over which a thinning haze falls to 1/e [m]
    float falloff = 0.f;    ///< [m], at most top − base for a layer
    Vec3 centre{0, 0, 0}, half{1, 1, 1}; ///< box, sphere, cylinder: centre and half extents [m]
    float cosYaw = 1.f, sinYaw = 0.f;
    Noise noise;            ///< contrast 0: none
};

/// Whether density depends on height alone.
inline bool isFlat(Shape shape) { return shape == Shape::Uniform || shape == Shape::Thinning || shape == Shape::Layer; }

/// Eight rays: origin (shared or not) and unit direction.
struct Ray8 {
    F8 ox, oy, oz, dx, dy, dz;
    F8 x(F8 t) const { return ox + dx * t; }
    F8 y(F8 t) const { return oy + dy * t; }
    F8 z(F8 t) const { return oz + dz * t; }
};
Ray8 ray8(const Vec3& origin, const Vec3& direction);

/// Shrinks [t0, t1] to where the profile is not zero; an empty result has t1 == t0. Bounded shapes only; others
/// leave it as it is.
void clip8(const Medium& medium, const Ray8& ray, F8& t0, F8& t1);

/// ∫ profile ds over [t0, t1] in metres, t0 ≤ t1, t1 up to 1e6. Exact for Uniform, Thinning, Layer (level rays
/// included) and hard-edged boxes, spheres and cylinders; their soft edges by 4-point Gauss–Legendre over the interval.
F8 profileIntegral8(const Medium& medium, const Ray8& ray, F8 t0, F8 t1);
float profileIntegral(const Medium& medium, const Vec3& origin, const Vec3& direction, float t0, float t1);

/// The profile at a point, 0…1 (Thinning: above 1 below its base).
F8 profile8(const Medium& medium, F8 x, F8 y, F8 z);
float profile(const Medium& medium, const Vec3& p);

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
