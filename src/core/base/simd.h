#pragma once
/// Eight floats or ints at once, on the compiler's vector extensions (one AVX2 register). The kernels that
/// run per sample are written over these so that what is vectorised does not depend on the optimiser's mood.
#include <bit>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <immintrin.h>

namespace hygros {
typedef float F8 __attribute__((vector_size(32)));
typedef std::int32_t I8 __attribute__((vector_size(32)));
typedef std::uint32_t U8 __attribute__((vector_size(32)));

inline constexpr int lanes = 8;

inline F8 f8(float value) { return F8{} + value; }
inline I8 i8(std::int32_t value) { return I8{} + value; }
inline F8 load8(const float* p)
{
    F8 v;
    std::memcpy(&v, p, sizeof v);
    return v;
}
inline void store8(float* p, F8 v) { std::memcpy(p, &v, sizeof v); }
/// Eight half floats and back; values above 65000 are held there.
inline F8 loadHalf8(const std::uint16_t* p)
{
    return _mm256_cvtph_ps(_mm_loadu_si128(reinterpret_cast<const __m128i*>(p)));
}
inline std::uint16_t halfOf(float v)
{
    return static_cast<std::uint16_t>(_mm_extract_epi16(_mm_cvtps_ph(_mm_set_ss(v < 65000.f ? v : 65000.f), 0), 0));
}
inline F8 toFloat(I8 v) { return __builtin_convertvector(v, F8); }
inline I8 toInt(F8 v) { return __builtin_convertvector(v, I8); }
inline I8 bits(F8 v) { return std::bit_cast<I8>(v); }
inline F8 fromBits(I8 v) { return std::bit_cast<F8>(v); }
/// mask is all ones or all zeros per lane, as comparisons give it.
inline F8 select(I8 mask, F8 a, F8 b) { return mask ? a : b; }
inline I8 select(I8 mask, I8 a, I8 b) { return mask ? a : b; }
/// Eight vectors of eight become those of their first, second, … numbers.
inline void transpose8(F8 v[8])
{
    F8 a[8], b[8];
    for (int i = 0; i < 8; i += 2) {
        a[i] = _mm256_unpacklo_ps(v[i], v[i + 1]);
        a[i + 1] = _mm256_unpackhi_ps(v[i], v[i + 1]);
    }
    for (int i = 0; i < 8; i += 4)
        for (int k = 0; k < 2; ++k) {
            b[i + 2 * k] = _mm256_shuffle_ps(a[i + k], a[i + 2 + k], 0x44);
            b[i + 2 * k + 1] = _mm256_shuffle_ps(a[i + k], a[i + 2 + k], 0xee);
        }
    for (int i = 0; i < 4; ++i) {
        v[i] = _mm256_permute2f128_ps(b[i], b[i + 4], 0x20);
        v[i + 4] = _mm256_permute2f128_ps(b[i], b[i + 4], 0x31);
    }
}
inline F8 min8(F8 a, F8 b) { return _mm256_min_ps(a, b); }
inline F8 max8(F8 a, F8 b) { return _mm256_max_ps(a, b); }
inline F8 clamp8(F8 v, float lo, float hi) { return min8(max8(v, f8(lo)), f8(hi)); }
inline F8 abs8(F8 v) { return fromBits(bits(v) & i8(0x7fffffff)); }
inline F8 floor8(F8 v) { return _mm256_floor_ps(v); }
inline F8 sqrt8(F8 v) { return _mm256_sqrt_ps(v); }
inline bool any(I8 mask)
{
    return !_mm256_testz_si256(reinterpret_cast<__m256i>(mask), reinterpret_cast<__m256i>(mask));
}
/// Sum of the eight lanes.
inline float sum(F8 v) { return ((v[0] + v[4]) + (v[1] + v[5])) + ((v[2] + v[6]) + (v[3] + v[7])); }

/// e^x, relative error under 3e-7 for −87 ≤ x ≤ 88 (clamped outside): 2^n times a degree-6 polynomial on
/// |r| ≤ ln2/2, coefficients after Cephes' expf.
inline F8 exp8(F8 x)
{
    x = clamp8(x, -87.3f, 88.f);
    const F8 n = floor8(x * 1.44269504088896341f + 0.5f);
    F8 r = x - n * 0.693359375f;
    r = r + n * 2.12194440e-4f;
    // In pairs (Estrin), so that the chain of dependent steps is half as long.
    const F8 z = r * r, a = r * 1.6666665459e-1f + 5.0000001201e-1f, b = r * 8.3334519073e-3f + 4.1665795894e-2f,
             c = r * 1.9875691500e-4f + 1.3981999507e-3f;
    const F8 p = ((c * z + b) * z + a) * z + (r + 1.f);
    return p * fromBits((toInt(n) + 127) << 23);
}

/// ln x for x > 0 (normal floats), relative error about 2e-7 away from 1, absolute 2e-7 near it (Cephes).
inline F8 log8(F8 x)
{
    const I8 b = bits(x);
    I8 e = ((b >> 23) & i8(0xff)) - 126;
    F8 m = fromBits((b & i8(0x007fffff)) | i8(0x3f000000));
    const I8 small = m < 0.707106781186547524f;
    e = e + small; // the mask is −1 where true
    m = m - 1.f + select(small, m, f8(0.f));
    const F8 z = m * m;
    const F8 z2 = z * z, k0 = m * -2.4999993993e-1f + 3.3333331174e-1f, k2 = m * -1.6668057665e-1f + 2.0000714765e-1f,
             k4 = m * -1.2420140846e-1f + 1.4249322787e-1f, k6 = m * -1.1514610310e-1f + 1.1676998740e-1f;
    const F8 p = (z2 * 7.0376836292e-2f + (k6 * z + k4)) * z2 + (k2 * z + k0);
    const F8 fe = toFloat(e);
    F8 y = p * m * z - fe * 2.12194440e-4f - z * 0.5f;
    return m + y + fe * 0.693359375f;
}

/// tan x for |x| < π/2, relative error under 3e-7 (Cephes' tanf below π/4, the rest by 1 / tan(π/2 − x)).
inline F8 tan8(F8 x)
{
    const F8 a = abs8(x);
    const I8 steep = a > 0.78539816f;
    const F8 r = select(steep, 1.57079637f - a, a), z = r * r;
    const F8 p = ((((z * 9.38540185543e-3f + 3.11992232697e-3f) * z + 2.44301354525e-2f) * z + 5.34112807005e-2f) * z +
                  1.33387994085e-1f) *
                     z +
                 3.33331568548e-1f;
    const F8 t = p * z * r + r;
    const F8 up = select(steep, 1.f / max8(t, f8(1e-9f)), t);
    return select(x < 0.f, -up, up);
}

/// arc tan x, error under 2e-7 (Cephes' atanf).
inline F8 atan8(F8 x)
{
    const F8 a = abs8(x);
    const I8 far = a > 2.414213562f, middle = (a > 0.4142135623f) & ~far;
    const F8 r = select(far, -1.f / max8(a, f8(1e-9f)), select(middle, (a - 1.f) / (a + 1.f), a));
    const F8 start = select(far, f8(1.57079637f), select(middle, f8(0.78539816f), f8(0.f))), z = r * r;
    const F8 y = start +
                 ((((z * 8.05374449538e-2f - 1.38776856032e-1f) * z + 1.99777106478e-1f) * z - 3.33329491539e-1f) * z *
                      r +
                  r);
    return select(x < 0.f, -y, y);
}
} // namespace hygros
