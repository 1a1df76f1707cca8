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
    /// The nearest meeting of a ray from above with it in (near, far); false: none. Fills all of the hit but Hit::set
    /// and Hit::colour.
    virtual bool trace(const Vec3& origin, const Vec3& direction, float near, float far, Hit& hit) const = 0;
    /// Colour of light that comes back up out of it, by a share of what goes in: of water so deep that no ground is
    /// seen; and over ground of a colour that a look meets after so many metres in the water, `down` of them below.
    virtual Vec3 deep() const = 0;
    virtual Vec3 over(const Vec3& ground, float metres, float down) const = 0;
    /// Height where it lies still, and over it the highest that it reaches [m].
    virtual float level() const = 0;
    virtual float highest() const = 0;
    virtual std::size_t bytes() const = 0;
};
/// Of water against air, for light.
inline constexpr float waterIndex = 1.333f;
/// Where a look that comes along d from above goes on below a surface (Snell); both unit.
inline Vec3 refracted(const Vec3& d, const Vec3& normal)
{
    const float c = -d.dot(normal), e = 1.f / waterIndex, k = 1.f - e * e * (1.f - c * c);
    return (d * e + normal * (e * c - std::sqrt(std::max(0.f, k)))).normalized();
}
} // namespace hygros::geometry
