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

/// Draine 2003: (1 − g²)/(4π (1 + g² − 2g cos)^1.5) · (1 + a cos²)/(1 + a (1 + 2g²)/3).
inline float draine(float cosine, float g, float a)
{
    return henyeyGreenstein(cosine, g) * (1.f + a * cosine * cosine) / (1.f + a * (1.f + 2.f * g * g) / 3.f);
}

/// How one medium spreads light: Henyey–Greenstein at g, and a share of Draine's function beside it.
struct Phase {
    float g = 0.f;                              ///< of the Henyey–Greenstein part
    float wide = 0.f, wideG = 0.f, wideA = 0.f; ///< share, g and a of the Draine part
    bool operator==(const Phase&) const = default;

    float operator()(float cosine) const
    {
        const float narrow = henyeyGreenstein(cosine, g);
        return wide == 0.f ? narrow : narrow * (1.f - wide) + wide * draine(cosine, wideG, wideA);
    }
    float meanCosine() const
    {
        return (1.f - wide) * g + wide * wideG * (1.f + wideA * (3.f + 2.f * wideG * wideG) / 5.f) /
                                      (1.f + wideA * (1.f + 2.f * wideG * wideG) / 3.f);
    }
    /// Share of the light that counts as still on its way: the second moment, which a peak straight ahead takes over
    /// (delta-M; Wiscombe 1977).
    float forwardShare() const { return (1.f - wide) * g * std::fabs(g) + wide * wideG * wideG; }
    /// Of light that was scattered once before: mean cosines multiply (exact for Henyey–Greenstein, whose moments are
    /// gⁿ).
    Phase again() const { return {g * g, wide, wideG * wideG, wideA}; }
    /// Of light that was scattered often: the fourth power of the mean cosine, without a peak.
    Phase broad() const
    {
        const float mean = meanCosine();
        return {mean * mean * mean * mean, 0.f, 0.f, 0.f};
    }
    /// As it looks after more scattering: every g halved `times` times.
    Phase blunted(int times) const { return {std::ldexp(g, -times), wide, std::ldexp(wideG, -times), wideA}; }
};
inline Phase plainPhase(float g) { return {g, 0.f, 0.f, 0.f}; }
/// Rayleigh's function is Draine's with g = 0 and a = 1.
inline constexpr Phase rayleighPhase{0.f, 1.f, 0.f, 1.f};

/// Water droplets of `diameter` micrometres, 5…50: the fit of Jendersie & d'Eon 2023 (equations 4–7) to Mie scattering
/// averaged over sizes and wavelengths.
inline Phase dropletPhase(float diameter)
{
    const float d = std::fmin(50.f, std::fmax(5.f, diameter));
    return {std::exp(-0.0990567f / (d - 1.67154f)), std::exp(-0.599085f / (d - 0.641583f) - 0.665888f),
            std::exp(-2.20679f / (d + 3.91029f) - 0.428934f), std::exp(3.62489f - 8.29288f / (d + 5.52825f))};
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

/// A direction cosine distributed as `phase` for u, v in [0, 1): by its parts; Draine's by rejection from
/// Henyey–Greenstein, `next` giving more random numbers.
template <class Next> float samplePhase(const Phase& phase, const Next& next)
{
    if (next() >= phase.wide)
        return sampleHenyeyGreenstein(phase.g, next());
    for (int i = 0; i < 64; ++i) {
        const float c = sampleHenyeyGreenstein(phase.wideG, next());
        if (next() * (1.f + phase.wideA) <= 1.f + phase.wideA * c * c)
            return c;
    }
    return phase.wideG;
}
} // namespace hygros::media
