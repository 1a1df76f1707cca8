#pragma once
/// Phase functions: how the light of one scattering event is spread over directions, in 1/sr, integral 1.
/// `cosine` is between the light's direction of travel before and after; 1 is straight on.
#include "base/vec.h"

#include <cmath>

namespace hygros::media {

/// Henyey & Greenstein 1941. g is the mean cosine, −1 < g < 1; 0 is isotropic (1/4π).
inline float henyeyGreenstein(float cosine, float g)
{
    const float d = 1.f + g * g - 2.f * g * cosine;
    return (1.f - g * g) / (4.f * pi * d * std::sqrt(d));
}

/// Rayleigh scattering by molecules: 3/(16π)·(1 + cos²).
inline float rayleigh(float cosine) { return 3.f / (16.f * pi) * (1.f + cosine * cosine); }

/// A direction cosine distributed as henyeyGreenstein(·, g) for u in [0, 1) (inversion; Witt 1977).
inline float sampleHenyeyGreenstein(float g, float u)
{
    if (std::abs(g) < 1e-3f)
        return 1.f - 2.f * u;
    const float s = (1.f - g * g) / (1.f + g - 2.f * g * u);
    return std::fmin(1.f, std::fmax(-1.f, (1.f + g * g - s * s) / (2.f * g)));
}
} // namespace hygros::media
