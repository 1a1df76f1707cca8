/// What thick air around a lamp passes on, by diffusion: where photons have not told it yet.
#include "render/air_kernel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {

AirModel::Glow AirModel::glowAround(const light::Lamp& lamp) const
{
    Glow out;
    if (media_.empty() || lamp.quick || !lamp.lightsAir() || shot_.scatteringOrders <= 1)
        return out;
    const auto freeWay = [&](const Vec3& d) {
        geometry::Hit hit;
        const float start = 0.05f + light::clearanceOf(lamp);
        return shot_.scene && shot_.scene->trace(lamp.position, d, start, media::outsideDistance, hit)
                   ? hit.t
                   : media::outsideDistance;
    };
    // The directions of a cube's faces and corners.
    float thickness = 0.f, way = 0.f, around = 0.f;
    out.lowest = lamp.position.y - glowReach;
    float lowest = 1e9f;
    for (int first = 0; first < 16; first += lanes) {
        F8 x, y, z;
        for (int i = 0; i < lanes; ++i) {
            const int k = first + i;
            Vec3 d = k < 8 ? Vec3(k & 1 ? 1.f : -1.f, k & 2 ? 1.f : -1.f, k & 4 ? 1.f : -1.f) / std::sqrt(3.f)
                           : Vec3(k / 2 % 3 == 1 ? 1.f : 0.f, k / 2 % 3 == 2 ? 1.f : 0.f, k / 2 % 3 == 0 ? 1.f : 0.f) *
                                 (k & 1 ? 1.f : -1.f);
            const float free = k < 14 ? freeWay(d) : 1.f; // two lanes are left over
            const Vec3 to = lamp.position + d * free;
            if (k < 14 && free < glowReach)
                lowest = std::min(lowest, to.y);
            way += std::min(glowReach, free) / 14.f * (k < 14 ? 1.f : 0.f);
            if (d.y < -0.99f)
                out.floor = to.y;
            x[i] = to.x, y[i] = to.y, z[i] = to.z;
        }
        const Ways ways = waysTo(x, y, z, f8(lamp.position.x), f8(lamp.position.y), f8(lamp.position.z));
        const F8 depth = ways.reduced(1);
        const int used = std::min(lanes, 14 - first);
        {
            // What turns light within reach: the air may be thick below or beside a lamp alone.
            F8 nx, ny, nz;
            for (int i = 0; i < lanes; ++i) {
                const Vec3 v = Vec3(x[i], y[i], z[i]) - lamp.position;
                const float length = v.length(), share = length > 15.f ? 15.f / length : 1.f;
                nx[i] = lamp.position.x + v.x * share;
                ny[i] = lamp.position.y + v.y * share;
                nz[i] = lamp.position.z + v.z * share;
            }
            const Ways close = waysTo(nx, ny, nz, f8(lamp.position.x), f8(lamp.position.y), f8(lamp.position.z));
            for (int i = 0; i < used; ++i)
                around += close.turned[i] / 14.f;
        }
        for (int i = 0; i < used; ++i) {
            if (y[i] >= lamp.position.y) // down is the floor's
                out.near += 1.f / (14.f * (depth[i] + 0.71f));
        }
    }
    // Whether the air close by is thick enough to matter.
    const float here = std::min(15.f, way);
    thickness = 0.5f * here *
                (waysTo(f8(lamp.position.x), f8(lamp.position.y + 1.f), f8(lamp.position.z), f8(lamp.position.x),
                        f8(lamp.position.y), f8(lamp.position.z))
                     .turned[0] +
                 waysTo(f8(lamp.position.x), f8(lamp.position.y - 1.f), f8(lamp.position.z), f8(lamp.position.x),
                        f8(lamp.position.y), f8(lamp.position.z))
                     .turned[0]);
    thickness = std::max(thickness, around);
    if (lowest < 1e9f)
        out.lowest = lowest;
    constexpr float thick = 0.1f;
    if (thickness < thick)
        return Glow{};
    float met = 1.f; // the rest goes straight into what the lamp is aimed at
    // Narrow light is turned about one free way in front of its lamp.
    out.centre = lamp.position;
    out.way = way;
    if (lamp.shape != light::Lamp::Shape::Sphere && lamp.shape != light::Lamp::Shape::Tube) {
        out.way = std::min(glowReach, freeWay(lamp.direction));
        const float half = 0.5f * out.way;
        const Vec3 to = lamp.position + lamp.direction * half;
        const Ways ways = waysTo(f8(to.x), f8(to.y), f8(to.z), f8(lamp.position.x), f8(lamp.position.y),
                                 f8(lamp.position.z));
        const float forward = lamp.shape == light::Lamp::Shape::Spot || lamp.shape == light::Lamp::Shape::Parallel
                                  ? 1.f
                                  : 0.67f;
        met = 1.f - std::exp(-8.f * ways.depth[0]);
        out.centre += lamp.direction * (forward * std::min(half, half / std::max(1e-6f, ways.reduced(1)[0])));
    }
    out.power = std::min(1.f, (thickness - thick) / thick) * met / (4.f * pi * light::intensityPerFlux(lamp));
    return out;
}

void AirModel::diffused(std::size_t lamp, F8 x, F8 y, F8 z, F8 fluence[3], F8& outward) const
{
    const Glow& glow = glows_[lamp];
    const float radius = shot_.lamps[lamp].radius;
    const F8 dx = x - glow.centre.x, dy = y - glow.centre.y, dz = z - glow.centre.z,
             r2 = max8(dx * dx + dy * dy + dz * dz, f8(1e-4f + 0.1f * radius * radius)), r = sqrt8(r2);
    const Ways ways = waysTo(x, y, z, f8(glow.centre.x), f8(glow.centre.y), f8(glow.centre.z));
    // The image below the floor, which some of the light comes back from; thin air.
    const F8 beyond = 0.9f * r / max8(ways.reduced(1), f8(1e-9f));
    const F8 image = r2 + 4.f * (glow.centre.y - glow.floor + beyond) * (max8(y - glow.floor, f8(0.f)) + beyond);
    const F8 spread = glow.way / r + ways.turned, share = spread / (0.64f + spread);
    const F8 common = (1.f - r / sqrt8(image)) * share * (glow.power * 3.f) / r2;
    // It flows outward, by Fick's law 3F/φ = 1/τ′, and is scattered on from there.
    outward = min8(1.f / max8(ways.reduced(1), f8(1e-9f)), f8(3.f));
    for (int c = 0; c < 3; ++c) {
        const F8 reduced = max8(ways.reduced(c), f8(1e-9f)), albedo = ways.turned / reduced, two = 2.f - albedo;
        fluence[c] = common * ways.turned / two * exp8(-reduced * sqrt8(3.f * (1.f - albedo) / two)) *
                     max8(1.f - reduced * glow.near, f8(0.f));
    }
}
} // namespace hygros::render
