#include "media/force.h"

#include "media/curl.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
F8 potential8(const Force& f, std::uint32_t component, F8 x, F8 y, F8 z)
{
    Noise own = f.pattern;
    own.seed += 7919u * component;
    return octaves8(own, x, y, z) * f.weight8(x, y, z);
}
} // namespace

F8 Force::weight8(F8 x, F8 y, F8 z) const
{
    const F8 u = (x - centre.x) * (1.f / half.x), v = (y - centre.y) * (1.f / half.y),
             w = (z - centre.z) * (1.f / half.z);
    const F8 left = max8(1.f - (u * u + v * v + w * w), f8(0.f));
    return left * left;
}

F8 Force::component8(int a, F8 x, F8 y, F8 z, float h) const
{
    switch (form) {
    case Form::Turbulence: {
        const int b = (a + 1) % 3, c = (a + 2) % 3;
        const auto slope = [&](int component, int along) {
            const float e = 0.5f * h;
            F8 to[3] = {x, y, z}, from[3] = {x, y, z};
            to[along] += e;
            from[along] -= e;
            const auto k = static_cast<std::uint32_t>(component);
            return potential8(*this, k, to[0], to[1], to[2]) - potential8(*this, k, from[0], from[1], from[2]);
        };
        return (slope(c, b) - slope(b, c)) * (speed * pattern.scale / (spreadOfCurl * h));
    }
    case Form::Swirl: {
        const F8 d[3] = {x - centre.x, y - centre.y, z - centre.z};
        const F8 along = d[0] * axis.x + d[1] * axis.y + d[2] * axis.z;
        F8 out[3];
        for (int k = 0; k < 3; ++k)
            out[k] = d[k] - along * axis[k];
        const F8 square = out[0] * out[0] + out[1] * out[1] + out[2] * out[2];
        // Seen from above a vertical swirl turns as the sun does.
        const int b = (a + 1) % 3, c = (a + 2) % 3;
        const F8 across = out[b] * axis[c] - out[c] * axis[b];
        return across * (speed * radius) / max8(square, f8(radius * radius)) * weight8(x, y, z);
    }
    case Form::Pull: {
        if (surface) {
            F8 way[3];
            surface->way8(x, y, z, way);
            const F8 far = sqrt8(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
            // Slower within a cell of it, so that nothing leaps through.
            return way[a] / (far + surface->cell()) * speed * weight8(x, y, z);
        }
        const F8 d[3] = {centre.x - x, centre.y - y, centre.z - z};
        const F8 length = sqrt8(d[0] * d[0] + d[1] * d[1] + d[2] * d[2]);
        // No jump in the middle.
        const float soft = 0.1f * std::min({half.x, half.y, half.z});
        return d[a] / (length + soft) * speed * weight8(x, y, z);
    }
    case Form::Hold: break;
    }
    return f8(0.f);
}

void Force::motion8(F8 x, F8 y, F8 z, F8 out[3]) const
{
    if (form != Form::Turbulence) {
        for (int a = 0; a < 3; ++a)
            out[a] = component8(a, x, y, z, 0.f);
        return;
    }
    const F8 off[3] = {x - centre.x, y - centre.y, z - centre.z};
    F8 left = f8(1.f);
    for (int a = 0; a < 3; ++a)
        left -= off[a] * off[a] * (1.f / (half[a] * half[a]));
    left = max8(left, f8(0.f));
    Weight8 weight{left * left, {}};
    for (int a = 0; a < 3; ++a)
        weight.slope[a] = left * off[a] * (-4.f / (half[a] * half[a]));
    const Weight8 weights[3] = {weight, weight, weight};
    curl8(pattern, x, y, z, weights, out);
    for (int a = 0; a < 3; ++a)
        out[a] = out[a] * speed;
}

bool Force::touches(const Vec3& low, const Vec3& high) const
{
    for (int a = 0; a < 3; ++a)
        if (centre[a] + half[a] <= low[a] || centre[a] - half[a] >= high[a])
            return false;
    return true;
}

Vec3 airAt(const std::vector<Wind>& winds, const std::vector<Force>& forces, const Vec3& place)
{
    Vec3 v = windAt(winds, place);
    float held = 1.f;
    for (const Force& f : forces) {
        if (!f.touches(place, place))
            continue;
        const F8 x = f8(place.x), y = f8(place.y), z = f8(place.z);
        if (f.form == Force::Form::Hold) {
            held *= 1.f - std::min(1.f, f.grip) * f.weight8(x, y, z)[0];
            continue;
        }
        F8 own[3];
        f.motion8(x, y, z, own);
        v += Vec3(own[0][0], own[1][0], own[2][0]);
    }
    return v * held;
}
} // namespace hygros::media
