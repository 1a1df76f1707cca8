#pragma once
/// Free flights through matter whose extinction differs by channel (spectral tracking; Kutz, Habel, Li & Novák 2017).
#include "base/random.h"
#include "base/vec.h"

#include <algorithm>

namespace hygros::media {

/// Whether a tentative collision happens where extinction is `sigma` under the bound `bound` [1/m], `u` in [0, 1). What
/// the path carries is to be multiplied with `factor` either way; it is drawn in proportion to what it carries, so that
/// for one extinction in all channels the factor is 1. `weight` and `sigma` ≥ 0.
inline bool collides(const Vec3& weight, const Vec3& sigma, float bound, float u, Vec3& factor)
{
    const Vec3 none(std::max(0.f, bound - sigma.x), std::max(0.f, bound - sigma.y), std::max(0.f, bound - sigma.z));
    const float real = weight.dot(sigma), null = weight.dot(none);
    if (!(real + null > 0.f)) {
        factor = Vec3(0.f);
        return true;
    }
    const float chance = real / (real + null);
    const bool happens = u < chance;
    factor = happens ? sigma / (bound * chance) : none / (bound * (1.f - chance));
    return happens;
}

/// A tentative collision that did not happen, and what it changes of what a flight carries that comes so far.
struct NullCollision {
    float t; ///< [m]
    Vec3 factor;
};

/// Roulette on what is left of light on its way, so that thick matter does not cost for ever; false where nothing is.
inline bool survives(Vec3& left, Random& random)
{
    const float most = maxComponent(left);
    if (most >= 0.05f)
        return true;
    if (!(random.next() * 0.1f < most)) {
        left = Vec3(0.f);
        return false;
    }
    left *= 0.1f / most;
    return true;
}
} // namespace hygros::media
