#pragma once
/// Reading grids for eight points at once: pairs of neighbours by 64-bit loads, which here are faster than gathers.
#include "base/simd.h"

namespace hygros::media {

/// values[index[i]] and values[index[i] + 1] for the eight lanes.
inline void pairs8(const float* values, I8 index, F8& first, F8& second)
{
    const auto two = [&](int a, int b) {
        __m128 v = _mm_castpd_ps(_mm_load_sd(reinterpret_cast<const double*>(values + index[a])));
        return _mm_loadh_pi(v, reinterpret_cast<const __m64*>(values + index[b]));
    };
    const __m128 v01 = two(0, 1), v23 = two(2, 3), v45 = two(4, 5), v67 = two(6, 7);
    const __m256 low = _mm256_set_m128(v45, v01), high = _mm256_set_m128(v67, v23);
    first = _mm256_shuffle_ps(low, high, _MM_SHUFFLE(2, 0, 2, 0));
    second = _mm256_shuffle_ps(low, high, _MM_SHUFFLE(3, 1, 3, 1));
}

/// Bilinear value at column u and row v of a grid `width` values wide; both must lie inside, short of its last row and
/// column.
inline F8 bilinear8(const float* values, int width, F8 u, F8 v)
{
    const I8 iu = toInt(u), iv = toInt(v), at = iv * width + iu;
    const F8 fu = u - toFloat(iu), fv = v - toFloat(iv);
    F8 a, b, c, d;
    pairs8(values, at, a, b);
    pairs8(values + width, at, c, d);
    const F8 top = a + (b - a) * fu, bottom = c + (d - c) * fu;
    return top + (bottom - top) * fv;
}
} // namespace hygros::media
