#include "media/veil.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {

void stopsAt(const Veil& v, F8 u, F8 colour[3], F8& opacity)
{
    const auto count = static_cast<std::size_t>(std::max(1, v.stopCount));
    for (int c = 0; c < 3; ++c)
        colour[c] = f8(v.stops[0].colour[c]);
    opacity = f8(v.stops[0].opacity);
    for (std::size_t i = 1; i < count; ++i) {
        const Veil::Stop &a = v.stops[i - 1], &b = v.stops[i];
        const F8 f = clamp8((u - a.at) * (1.f / std::max(1e-6f, b.at - a.at)), 0.f, 1.f);
        for (int c = 0; c < 3; ++c)
            colour[c] += (b.colour[c] - a.colour[c]) * f;
        opacity += (b.opacity - a.opacity) * f;
    }
}

namespace {
/// How much of the horizon's unevenness a direction gets.
F8 horizonWeight(const Ray8& ray, float angle)
{
    const F8 elevation = ray.dy * (1.f / std::max(1e-3f, angle));
    return exp8(-(elevation * elevation));
}
constexpr float leastWeight = 0.02f;
} // namespace

F8 veilWisps8(const Ray8& ray, const Veil& v)
{
    const F8 weight = horizonWeight(ray, v.horizonAngle);
    if (!any(weight > leastWeight))
        return f8(0.f);
    Noise n;
    n.scale = v.horizonSize;
    n.octaves = 3;
    n.seed = v.seed;
    return octaves8(n, ray.dx, ray.dy, ray.dz) * weight;
}

void veil8(const Veil& v, const Ray8& ray, F8 depth, float horizon, F8 times[3], F8 plus[3], const F8* wisps)
{
    const I8 backdrop = depth >= horizon;
    F8 distance = depth;
    if (v.horizonStrength != 0.f) {
        // Where even the widest shift leaves the veil as it is, none is worked out.
        const float widest = std::exp2(2.f * std::abs(v.horizonStrength));
        if (any((depth < v.far * widest) & (depth * widest > v.near)))
            if (const F8 shift = wisps ? *wisps : veilWisps8(ray, v); any(shift != 0.f))
                distance = depth * exp8(shift * (v.horizonStrength * 2.f * 0.69314718f));
    }
    const F8 share = select(backdrop, f8(v.backdropShare), f8(1.f));
    F8 colour[3], far;
    stopsAt(v, clamp8((distance - v.near) * (1.f / std::max(1e-3f, v.far - v.near)), 0.f, 1.f), colour, far);
    far = far * share * v.distanceShare;
    F8 low = f8(0.f);
    if (v.heightShare > 0.f || v.blend == Veil::Blend::Multiply) {
        F8 u = clamp8((ray.y(depth) - v.base) * (1.f / std::max(1e-3f, v.top - v.base)), 0.f, 1.f);
        if (v.thinsUpward)
            u = 1.f - u;
        if (v.fade == Veil::Fade::Soft)
            u = u * u * (3.f - 2.f * u);
        else if (v.fade == Veil::Fade::Exponential)
            u = (exp8(u * 3.f) - 1.f) * (1.f / 19.085537f);
        low = u * share * v.heightShare;
    }
    const float kept = 1.f - v.dark;
    const auto over = [&](int c, F8 opacity, F8 light) {
        times[c] = times[c] * (1.f - opacity);
        plus[c] = plus[c] * (1.f - opacity) + opacity * light;
    };
    for (int c = 0; c < 3; ++c) {
        const F8 light = colour[c] * (v.light[c] * kept);
        const F8 lowLight = f8(v.heightColour[c] * v.light[c] * kept);
        switch (v.blend) {
        case Veil::Blend::Over:
            over(c, far, light);
            over(c, low, lowLight);
            break;
        case Veil::Blend::Add: plus[c] += far * light + low * lowLight; break;
        case Veil::Blend::Multiply: over(c, far * low, light * v.heightColour[c]); break;
        }
    }
}
} // namespace hygros::media
