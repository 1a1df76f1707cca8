#include "geometry/snowed.h"

#include "geometry/pattern.h"

#include <algorithm>

namespace hygros::geometry {

Material snowMaterial()
{
    Material m;
    m.name = "snow";
    m.isSnow = true;
    m.baseColour = Vec3(0.90f, 0.915f, 0.93f);
    m.roughness = 0.75f;
    return m;
}

bool snowMayLie(const Snowed& s, const Vec3& place, const Vec3& normal, Vec3& toSky)
{
    // Gusts let some of it down on what is turned away from its common way.
    const Vec3 from = (s.from + Vec3(0.f, 1.f, 0.f)).normalized();
    if (normal.dot(from) <= 0.f || normal.y <= 0.f)
        return false;
    // Ragged at its ends: where it is steep, and where it is thin all over.
    const float fine = pattern(place.x / 0.13f + 3.1f * place.y, place.z / 0.13f - 2.3f * place.y, s.seed),
                wide = pattern(place.x / 0.9f, place.z / 0.9f, s.seed + 5u);
    const float steep = std::acos(std::clamp(normal.y, -1.f, 1.f)) / std::max(0.05f, s.steepest);
    if (steep > 0.8f + 0.4f * fine || s.amount < 0.65f * wide + 0.35f * fine)
        return false;
    // So is the edge of what a roof shelters.
    const float a = 0.5f * (fine - 0.5f), b = 0.5f * (wide - 0.5f);
    toSky = (from + Vec3(a, 0.f, b)).normalized();
    return true;
}
} // namespace hygros::geometry
