#pragma once
/// Light that goes through water surfaces, or off them: for both integrators the same. The surface is taken as level
/// for where light goes in, and what its waves gather of it is told by WaterSurface::gathered().
#include "shot/shot.h"

namespace hygros::render {

/// Share of light that is left after some metres in water, as far as it goes straight on.
Vec3 leftInWater(const geometry::WaterSurface& water, float metres);

/// Sunlight that comes to a place under water: `way` is unit and toward it there, the returned share is irradiance
/// across that way to the sun's own; `gathers`: with the waves' share. Zero where a set stands between. `sun`: toward a
/// place of its disc.
Vec3 sunUnderWater(const shot::Shot& shot, const geometry::WaterSurface& water, const Vec3& place, const Vec3& sun,
                   float time, Vec3& way, bool gathers = true);
/// The same of what the water mirrors up to a place over it, for each water of the shot; `add(way, share)`.
template <class Add>
void sunOffWater(const shot::Shot& shot, const Vec3& place, const Vec3& normal, const Vec3& sun, float time,
                 const Add& add)
{
    constexpr float highest = 24.f, least = 0.004f;
    if (sun.y < 0.01f)
        return;
    const Vec3 way(sun.x, -sun.y, sun.z);
    if (way.dot(normal) <= 0.f)
        return;
    for (const geometry::PlacedWater& w : shot.waters) {
        const float high = place.y - w.surface->level(), metres = high / sun.y;
        if (high <= 0.f || high > highest || metres > 200.f)
            continue;
        const Vec3 off = place + way * metres;
        const float share = w.surface->holds(off.x, off.z)
                                ? geometry::mirroredByWater(sun.y) * w.surface->gathered(place)
                                : 0.f;
        if (share > least && !shot.scene->occluded(place, way, metres, time) &&
            !shot.shadowsOfSun().occluded(off + Vec3(0.f, 1e-3f, 0.f), sun, 1e6f, time))
            add(way, share);
    }
}
/// Light of a lamp that comes to a place under water straight, by what would come were there no water; `distance`: of
/// the lamp (0: it is endlessly far away).
Vec3 lampUnderWater(const shot::Shot& shot, const light::Lamp& lamp, const geometry::WaterSurface& water,
                    const Vec3& place, const Vec3& way, float distance, float time);
/// What the sky and the water itself send about under water, by a level surface's irradiance in the air: over all
/// directions [1].
Vec3 skyUnderWater(const geometry::WaterSurface& water, float depth);
/// Share of the light that falls on foam from above that comes through it, diffused.
inline Vec3 throughFoam(const geometry::WaterSurface& water, const Vec3& foam)
{
    return foam * skyUnderWater(water, 0.f) * 0.4f;
}
/// Of light that is scattered in water, with what is scattered again.
Vec3 againInWater(const geometry::WaterSurface& water);
/// What is scattered in a metre, to all sides alike [1/m]: half of it goes back.
inline Vec3 scatteredInWater(const geometry::WaterSurface& water) { return water.back() * 2.f; }
} // namespace hygros::render
