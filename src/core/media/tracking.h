#pragma once
/// Free flights through matter whose extinction differs by channel (spectral tracking; Kutz, Habel, Li & Novák 2017).
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
} // namespace hygros::media
