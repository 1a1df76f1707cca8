#include "render/water_light.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
constexpr float skyGoesIn = 0.934f; ///< of an even sky's light
constexpr float skyCosine = 0.86f;  ///< of its ways in the water, in the mean: all within 48.6° of straight down
} // namespace

Vec3 leftInWater(const geometry::WaterSurface& water, float metres)
{
    const Vec3 lost = water.absorption() + scatteredInWater(water);
    return Vec3(std::exp(-lost.x * metres), std::exp(-lost.y * metres), std::exp(-lost.z * metres));
}

Vec3 sunUnderWater(const shot::Shot& shot, const geometry::WaterSurface& water, const Vec3& place, const Vec3& sun,
                   float time, Vec3& way, bool gathers)
{
    const Vec3 up(0.f, 1.f, 0.f);
    way = up;
    if (sun.y < 1e-3f)
        return Vec3(0.f);
    way = -geometry::refracted(-sun, up);
    const float metres = std::max(0.f, water.level() - place.y) / way.y;
    const Vec3 share = leftInWater(water, metres) * ((1.f - geometry::mirroredByWater(sun.y)) * sun.y / way.y);
    if (maxComponent(share) < 1e-4f)
        return Vec3(0.f);
    if ((metres > 0.f && shot.scene->occluded(place, way, metres, time)) ||
        shot.shadowsOfSun().occluded(place + way * metres + up * 1e-3f, sun, 1e6f, time))
        return Vec3(0.f);
    return gathers ? share * water.gathered(place) : share;
}

Vec3 lampUnderWater(const shot::Shot& shot, const light::Lamp& lamp, const geometry::WaterSurface& water,
                    const Vec3& place, const Vec3& way, float distance, float time)
{
    const float depth = std::max(0.f, water.level() - place.y);
    float metres = way.y > 1e-4f ? depth / way.y : 1e9f;
    const bool goesIn = !(distance > 0.f && distance < metres);
    if (!goesIn)
        metres = distance;
    if (metres > 1e6f)
        return Vec3(0.f);
    const Vec3 left = leftInWater(water, metres) * (goesIn ? 1.f - geometry::mirroredByWater(way.y) : 1.f);
    if (maxComponent(left) < 1e-4f)
        return Vec3(0.f);
    if (lamp.shadows != light::Lamp::Shadows::None &&
        shot.shadowsOf(lamp).occluded(place, way, distance > 0.f ? distance : 1e6f, time))
        return Vec3(0.f);
    return left;
}

Vec3 skyUnderWater(const geometry::WaterSurface& water, float depth)
{
    return leftInWater(water, std::max(0.f, depth) / skyCosine) * (skyGoesIn / skyCosine) * againInWater(water);
}

Vec3 againInWater(const geometry::WaterSurface& water)
{
    Vec3 out;
    const Vec3 s = scatteredInWater(water);
    for (int c = 0; c < 3; ++c) {
        const float lost = water.absorption()[c] + s[c], albedo = lost > 0.f ? s[c] / lost : 0.f;
        out[c] = 1.f / std::max(0.15f, 1.f - 0.75f * albedo);
    }
    return out;
}
} // namespace hygros::render
