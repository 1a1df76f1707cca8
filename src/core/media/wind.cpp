#include "media/curl.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
/// 0 at the ground, 1 from one eddy above it on (Bridson et al. 2007, section 2.2).
Weight8 awayFromGround(F8 height, float eddy)
{
    const F8 t = clamp8(height * (1.f / eddy), 0.f, 1.f), t2 = t * t, left = 1.f - t2;
    const F8 slope = select((height > 0.f) & (t < 1.f), left * left * (1.875f / eddy), f8(0.f));
    return {t * (1.875f - t2 * (1.25f - t2 * 0.375f)), {f8(0.f), slope, f8(0.f)}};
}
} // namespace

Noise gustPattern(float scale, std::uint32_t seed)
{
    Noise n;
    n.scale = scale;
    n.octaves = 3;
    n.gain = 0.397f; // velocities as the cube root of lengths: potentials as their power 4/3
    n.lacunarity = 2.f;
    n.seed = seed;
    return n;
}

Vec3 Wind::mean(float y) const
{
    const float over = std::max(0.f, y - ground);
    return velocity * (std::log1p(over / roughness) / std::log1p(reference / roughness));
}

Vec3 Wind::at(const Vec3& place) const
{
    Vec3 v = mean(place.y);
    if (gusts <= 0.f)
        return v;
    F8 own[3];
    gusts8(*this, f8(place.x), f8(place.y), f8(place.z), own);
    return v + Vec3(own[0][0], own[1][0], own[2][0]);
}

void curl8(const Noise& pattern, F8 x, F8 y, F8 z, const Weight8 weights[3], F8 out[3])
{
    F8 slope[3][3]; // of a weighted potential, along an axis
    Noise own = pattern;
    for (std::uint32_t k = 0; k < 3; ++k) {
        own.seed = pattern.seed + 7919u * k;
        const F8 potential = octavesSlope8(own, x, y, z, slope[k]);
        for (int a = 0; a < 3; ++a)
            slope[k][a] = slope[k][a] * weights[k].value + potential * weights[k].slope[a];
    }
    const float size = pattern.scale / spreadOfSlopes;
    for (int a = 0; a < 3; ++a) {
        const int b = (a + 1) % 3, c = (a + 2) % 3;
        out[a] = (slope[c][b] - slope[b][c]) * size;
    }
}

void gusts8(const Wind& wind, F8 x, F8 y, F8 z, F8 out[3])
{
    const F8 none = f8(0.f);
    const Weight8 near = awayFromGround(y - wind.ground, wind.pattern.scale);
    const Weight8 weights[3] = {near, {f8(1.f), {none, none, none}}, near};
    curl8(wind.pattern, x, y, z, weights, out);
    for (int a = 0; a < 3; ++a)
        out[a] = out[a] * wind.gusts;
}

F8 meanShare8(const Wind& wind, F8 y)
{
    const F8 over = max8(y - wind.ground, f8(0.f));
    return log8(1.f + over * (1.f / wind.roughness)) * (1.f / std::log1p(wind.reference / wind.roughness));
}

Vec3 windAt(const std::vector<Wind>& winds, const Vec3& place)
{
    Vec3 sum(0.f);
    for (const Wind& w : winds)
        sum += w.at(place);
    return sum;
}
} // namespace hygros::media
