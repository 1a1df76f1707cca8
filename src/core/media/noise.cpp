#include "media/noise.h"

#include <cmath>

namespace hygros::media {
namespace {
/// Turns each octave a little so that lattice planes of different octaves do not line up.
constexpr float turnC = 0.8f, turnS = 0.6f;

inline U8 scramble(U8 h)
{
    h ^= h >> 15;
    h *= 0x2c1b3c6du;
    h ^= h >> 12;
    return h;
}

/// Gradient dotted with the offset: one of (±1, ±1, 0) and its permutations, taken from the hash's low bits.
inline F8 gradientDot(U8 h, F8 x, F8 y, F8 z)
{
    const I8 k = reinterpret_cast<I8>(h);
    const I8 low = k & i8(15);
    const F8 u = select(low < 8, x, y);
    const F8 v = select(low < 4, y, select((low == 12) | (low == 14), x, z));
    return fromBits(bits(u) ^ (k << 31)) + fromBits(bits(v) ^ ((k << 30) & i8(static_cast<std::int32_t>(0x80000000u))));
}
inline F8 fade(F8 t) { return t * t * t * (t * (t * 6.f - 15.f) + 10.f); }
inline F8 mix(F8 a, F8 b, F8 t) { return a + (b - a) * t; }
} // namespace

F8 gradientNoise8(F8 x, F8 y, F8 z, std::uint32_t seed)
{
    const F8 fx = floor8(x), fy = floor8(y), fz = floor8(z);
    const U8 ix = reinterpret_cast<U8>(toInt(fx)), iy = reinterpret_cast<U8>(toInt(fy)),
             iz = reinterpret_cast<U8>(toInt(fz));
    x -= fx;
    y -= fy;
    z -= fz;
    const U8 hx0 = ix * 0x8da6b343u + seed * 0x9e3779b9u, hx1 = hx0 + 0x8da6b343u;
    const U8 hy0 = iy * 0xd8163841u, hy1 = hy0 + 0xd8163841u;
    const U8 hz0 = iz * 0xcb1ab31fu, hz1 = hz0 + 0xcb1ab31fu;
    const F8 u = fade(x), v = fade(y), w = fade(z);
    const F8 x1 = x - 1.f, y1 = y - 1.f, z1 = z - 1.f;
    const F8 n00 = mix(gradientDot(scramble(hx0 ^ hy0 ^ hz0), x, y, z), gradientDot(scramble(hx1 ^ hy0 ^ hz0), x1, y, z), u);
    const F8 n10 = mix(gradientDot(scramble(hx0 ^ hy1 ^ hz0), x, y1, z), gradientDot(scramble(hx1 ^ hy1 ^ hz0), x1, y1, z), u);
    const F8 n01 = mix(gradientDot(scramble(hx0 ^ hy0 ^ hz1), x, y, z1), gradientDot(scramble(hx1 ^ hy0 ^ hz1), x1, y, z1), u);
    const F8 n11 = mix(gradientDot(scramble(hx0 ^ hy1 ^ hz1), x, y1, z1), gradientDot(scramble(hx1 ^ hy1 ^ hz1), x1, y1, z1), u);
    return mix(mix(n00, n10, v), mix(n01, n11, v), w);
}

float gradientNoise(float x, float y, float z, std::uint32_t seed)
{
    // The plain form of the batch above, lane for lane; kept separate as the peer the batch is measured against.
    const auto scramble1 = [](std::uint32_t h) {
        h ^= h >> 15;
        h *= 0x2c1b3c6du;
        h ^= h >> 12;
        return h;
    };
    const auto dot1 = [](std::uint32_t h, float a, float b, float c) {
        const std::uint32_t low = h & 15u;
        const float u = low < 8 ? a : b, v = low < 4 ? b : (low == 12 || low == 14 ? a : c);
        return ((h & 1u) ? -u : u) + ((h & 2u) ? -v : v);
    };
    const float fx = std::floor(x), fy = std::floor(y), fz = std::floor(z);
    const auto ix = static_cast<std::uint32_t>(static_cast<std::int32_t>(fx)),
               iy = static_cast<std::uint32_t>(static_cast<std::int32_t>(fy)),
               iz = static_cast<std::uint32_t>(static_cast<std::int32_t>(fz));
    x -= fx;
    y -= fy;
    z -= fz;
    const auto fade1 = [](float t) { return t * t * t * (t * (t * 6.f - 15.f) + 10.f); };
    const float u = fade1(x), v = fade1(y), w = fade1(z);
    float corner[8];
    for (std::uint32_t c = 0; c < 8; ++c) {
        const std::uint32_t bx = c & 1u, by = (c >> 1) & 1u, bz = c >> 2;
        const std::uint32_t h = ((ix + bx) * 0x8da6b343u + seed * 0x9e3779b9u) ^ ((iy + by) * 0xd8163841u) ^
                                ((iz + bz) * 0xcb1ab31fu);
        corner[c] = dot1(scramble1(h), x - static_cast<float>(bx), y - static_cast<float>(by), z - static_cast<float>(bz));
    }
    const auto mix1 = [](float a, float b, float t) { return a + (b - a) * t; };
    return mix1(mix1(mix1(corner[0], corner[1], u), mix1(corner[2], corner[3], u), v),
                mix1(mix1(corner[4], corner[5], u), mix1(corner[6], corner[7], u), v), w);
}

F8 octaves8(const Noise& noise, F8 x, F8 y, F8 z)
{
    const float start = 1.f / noise.scale;
    x = (x - noise.offset.x) * start;
    y = (y - noise.offset.y) * start;
    z = (z - noise.offset.z) * start;
    F8 total = f8(0.f);
    float amplitude = 1.f, amplitudes = 0.f;
    for (int o = 0; o < noise.octaves; ++o) {
        total += amplitude * gradientNoise8(x, y, z, noise.seed + static_cast<std::uint32_t>(o) * 101u);
        amplitudes += amplitude;
        amplitude *= noise.gain;
        const F8 turned = (x * turnC - z * turnS) * noise.lacunarity;
        z = (x * turnS + z * turnC) * noise.lacunarity;
        x = turned;
        y = y * noise.lacunarity;
    }
    return total * (1.f / amplitudes);
}

float octaves(const Noise& noise, const Vec3& p)
{
    const float start = 1.f / noise.scale;
    float x = (p.x - noise.offset.x) * start, y = (p.y - noise.offset.y) * start, z = (p.z - noise.offset.z) * start;
    float total = 0.f, amplitude = 1.f, amplitudes = 0.f;
    for (int o = 0; o < noise.octaves; ++o) {
        total += amplitude * gradientNoise(x, y, z, noise.seed + static_cast<std::uint32_t>(o) * 101u);
        amplitudes += amplitude;
        amplitude *= noise.gain;
        const float turned = (x * turnC - z * turnS) * noise.lacunarity;
        z = (x * turnS + z * turnC) * noise.lacunarity;
        x = turned;
        y = y * noise.lacunarity;
    }
    return total / amplitudes;
}

F8 modulation8(const Noise& noise, F8 x, F8 y, F8 z)
{
    if (noise.contrast <= 0.f)
        return f8(1.f);
    return max8(f8(0.f), 1.f + modulationGain * noise.contrast * octaves8(noise, x, y, z));
}

float modulation(const Noise& noise, const Vec3& p)
{
    return noise.contrast <= 0.f ? 1.f : std::fmax(0.f, 1.f + modulationGain * noise.contrast * octaves(noise, p));
}
} // namespace hygros::media
