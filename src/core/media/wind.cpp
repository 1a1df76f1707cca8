#include "media/wind.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
/// Standard deviation of a component of the curl of three gustPattern()s of scale 1 (measured over 10⁵ places).
constexpr float spreadOfCurl = 0.907f;

/// 0 at the ground, 1 from one eddy above it on (Bridson et al. 2007, section 2.2).
F8 awayFromGround(F8 height)
{
    const F8 t = min8(max8(height, f8(0.f)), f8(1.f)), t2 = t * t;
    return t * (1.875f - t2 * (1.25f - t2 * 0.375f));
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
    // Lanes: a little to both sides of the place along each axis.
    const float e = 0.02f * pattern.scale;
    const F8 x = place.x + F8{e, -e, 0, 0, 0, 0, 0, 0}, y = place.y + F8{0, 0, e, -e, 0, 0, 0, 0},
             z = place.z + F8{0, 0, 0, 0, e, -e, 0, 0};
    const F8 near = awayFromGround((y - ground) / pattern.scale);
    float slope[3][3]; // of potential, along axis
    Noise own = pattern;
    for (std::uint32_t k = 0; k < 3; ++k) {
        own.seed = pattern.seed + 7919u * k;
        F8 potential = octaves8(own, x, y, z);
        if (k != 1)
            potential = potential * near;
        for (int axis = 0; axis < 3; ++axis)
            slope[k][axis] = (potential[2 * axis] - potential[2 * axis + 1]) / (2.f * e);
    }
    const Vec3 curl(slope[2][1] - slope[1][2], slope[0][2] - slope[2][0], slope[1][0] - slope[0][1]);
    return v + curl * (gusts * pattern.scale / spreadOfCurl);
}

Vec3 windAt(const std::vector<Wind>& winds, const Vec3& place)
{
    Vec3 sum(0.f);
    for (const Wind& w : winds)
        sum += w.at(place);
    return sum;
}
} // namespace hygros::media
