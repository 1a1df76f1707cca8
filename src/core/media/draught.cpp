#include "media/draught.h"

#include <cmath>

namespace hygros::media {
namespace {
F8 cubeRoot8(F8 positive) { return exp8(log8(positive) * (1.f / 3)); }

/// Where what is at a place was in both patterns.
struct Before {
    F8 x[2], z[2];
    bool isMoved = false;
};
Before before(const Draughts& draughts, float scale, F8 x, F8 y, F8 z)
{
    Before out{{x, x}, {z, z}, false};
    const float far = Draught::reach * scale;
    for (const Draught& fire : draughts.fires) {
        const F8 rx = x - fire.foot.x, rz = z - fire.foot.z, away2 = rx * rx + rz * rz;
        F8 fade = max8(f8(0.f), 1.f - away2 * (1.f / (far * far)));
        if (!any(fade > 0.f))
            continue;
        out.isMoved = true;
        fade = fade * fade;
        const F8 c = cubeRoot8(max8(y - fire.foot.y, f8(0.f)) + fire.depth()),
                 r2 = max8(away2, f8(fire.radius * fire.radius)), r = sqrt8(r2);
        for (int i = 0; i < 2; ++i) {
            // What goes by is near for so long as it needs to pass alone.
            const F8 near = r / (r + fire.passes[i] * (2.f / 3));
            const F8 out1 = sqrt8(1.f + fire.drawn[i] * c * c * near * fade / r2) - 1.f;
            out.x[i] = out.x[i] + out1 * rx;
            out.z[i] = out.z[i] + out1 * rz;
        }
    }
    return out;
}

/// How alike the octaves are of two places so far apart, in cells of the first, squared; as for a loop in noise.cpp.
F8 alike8(const Noise& noise, F8 far2)
{
    F8 r2 = far2 * (1.f / (0.45f * 0.45f)), same = f8(0.f);
    float power = 1.f, all = 0.f;
    for (int o = 0; o < noise.octaves; ++o) {
        same += power * exp8(-min8(r2, f8(60.f)));
        all += power;
        power *= noise.gain * noise.gain;
        r2 = r2 * (noise.lacunarity * noise.lacunarity);
    }
    return same * (1.f / all);
}
} // namespace

F8 drawnModulation8(const Noise& noise, const Draughts& draughts, F8 x, F8 y, F8 z)
{
    const Before b = before(draughts, noise.scale, x, y, z);
    if (!b.isMoved)
        return modulation8(noise, x, y, z);
    const float w = draughts.turned, v = 1.f - w;
    F8 sum;
    if (w <= 0.f || v <= 0.f) {
        sum = octaves8(noise, b.x[w > 0.f], y, b.z[w > 0.f]);
    } else {
        const F8 dx = (b.x[0] - b.x[1]) * (1.f / (noise.scale * noise.stretch.x)),
                 dz = (b.z[0] - b.z[1]) * (1.f / (noise.scale * noise.stretch.z)),
                 alike = alike8(noise, dx * dx + dz * dz);
        const F8 blend = v * octaves8(noise, b.x[0], y, b.z[0]) + w * octaves8(noise, b.x[1], y, b.z[1]);
        sum = clamp8(blend / sqrt8(v * v + w * w + 2.f * v * w * alike), -1.f, 1.f);
    }
    return max8(f8(0.f), 1.f + modulationGain * noise.contrast * sum);
}

F8 undried8(const Draughts& draughts, F8 x, F8 y, F8 z)
{
    F8 power = f8(0.f);
    for (const Draught& fire : draughts.fires) {
        const F8 up = y - fire.foot.y, h = max8(up, f8(0.f)) + fire.depth(), c = cubeRoot8(h);
        const float foot = fire.depth() * std::cbrt(fire.depth());
        const F8 off = h * c - foot;
        const F8 rx = x - fire.foot.x - fire.lean.x * off, rz = z - fire.foot.z - fire.lean.y * off;
        const F8 b = h * Draught::widens, under = min8(up, f8(0.f)) * (1.f / fire.radius);
        const F8 apart = (rx * rx + rz * rz) / (b * b) + under * under;
        if (any(apart < 12.f))
            power += fire.warmth / (h * c * c) * exp8(-min8(apart, f8(60.f)));
    }
    return exp8(-min8(power, f8(60.f)));
}
} // namespace hygros::media
