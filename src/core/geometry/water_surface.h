#pragma once
/// A water surface as rays see it (media/open_water.h is one).
#include "base/vec.h"

#include <algorithm>
#include <cmath>
#include <cstddef>

namespace hygros::geometry {

struct Hit;

class WaterSurface {
public:
    virtual ~WaterSurface() = default;
    /// The nearest meeting of a ray from above with it in (near, far); false: none. Fills all of the hit but Hit::set.
    virtual bool trace(const Vec3& origin, const Vec3& direction, float near, float far, Hit& hit) const = 0;
    /// The same of a ray from under it with its underside.
    virtual bool traceUp(const Vec3& origin, const Vec3& direction, float near, float far, Hit& hit) const = 0;
    /// Whether a place lies under it: over some ground that it covers or not.
    virtual bool isUnder(const Vec3& place) const = 0;
    /// Whether it covers a place of its level.
    virtual bool holds(float x, float z) const = 0;
    /// What a metre takes from a ray, and what it throws back of it [1/m].
    virtual const Vec3& absorption() const = 0;
    virtual const Vec3& back() const = 0;
    /// How much more of the sun its waves gather at a place than were it flat: of what goes in, at places under it; of
    /// what it mirrors, at places over it. 1 in the mean over a level plane.
    virtual float gathered(const Vec3& place) const = 0;
    /// Colour of light that comes back up out of it, by a share of what goes in: of water so deep that no ground is
    /// seen; and over ground of a colour that a look meets after so many metres in the water, `down` of them below.
    virtual Vec3 deep() const = 0;
    virtual Vec3 over(const Vec3& ground, float metres, float down) const = 0;
    /// As far as something can be made out in it [m].
    virtual float sight() const = 0;
    /// Height where it lies still, and over it the highest that it reaches [m].
    virtual float level() const = 0;
    virtual float highest() const = 0;
    virtual std::size_t bytes() const = 0;
};
/// Of water against air, for light.
inline constexpr float waterIndex = 1.333f;
/// Share of unpolarised light that a water surface mirrors, by its cosine on the air's side (Fresnel).
inline float mirroredByWater(float cosine)
{
    const float c = std::clamp(cosine, 0.f, 1.f), n = waterIndex, t = std::sqrt(1.f - (1.f - c * c) / (n * n)),
                across = (c - n * t) / (c + n * t), along = (n * c - t) / (n * c + t);
    return 0.5f * (across * across + along * along);
}
/// The same by the cosine under water: 1 where nothing goes out (total reflection).
inline float mirroredInWater(float cosine)
{
    const float c = std::clamp(cosine, 0.f, 1.f), sine2 = waterIndex * waterIndex * (1.f - c * c);
    return sine2 >= 1.f ? 1.f : mirroredByWater(std::sqrt(1.f - sine2));
}
/// Where a look that comes along d from above goes on below a surface (Snell); both unit.
inline Vec3 refracted(const Vec3& d, const Vec3& normal)
{
    const float c = -d.dot(normal), e = 1.f / waterIndex, k = 1.f - e * e * (1.f - c * c);
    return (d * e + normal * (e * c - std::sqrt(std::max(0.f, k)))).normalized();
}
/// Where one goes on in the air that comes along d from under a surface; `normal` down. Zero: it is mirrored whole.
inline Vec3 refractedOut(const Vec3& d, const Vec3& normal)
{
    const float c = -d.dot(normal), k = 1.f - waterIndex * waterIndex * (1.f - c * c);
    return k <= 0.f ? Vec3(0.f) : (d * waterIndex + normal * (waterIndex * c - std::sqrt(k))).normalized();
}
} // namespace hygros::geometry
