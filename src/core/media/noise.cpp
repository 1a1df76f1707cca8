#include "media/curl.h"

#include <cmath>

namespace hygros::media {
namespace {
/// Turns each octave a little so that lattice planes of different octaves do not line up.
constexpr float turnC = 0.8f, turnS = 0.6f;

/// Eight gradients of length √2: the corners of a cube, turned so that none lies along an axis or a diagonal of the
/// lattice. They sum to zero and have the same second moment in every direction.
struct Gradients {
    alignas(32) float x[8], y[8], z[8];
};
constexpr Gradients gradients = [] {
    // Rows of a rotation (2/3, −1/3, 2/3 and so on is one with rational entries), turned once more by 3-4-5.
    constexpr float r[3][3] = {
        {2.f / 3, -1.f / 3, 2.f / 3}, {2.f / 3, 2.f / 3, -1.f / 3}, {-1.f / 3, 2.f / 3, 2.f / 3}};
    constexpr float size = 0.81649658f; // √(2/3)
    Gradients g{};
    for (int i = 0; i < 8; ++i) {
        const float c[3] = {i & 1 ? 1.f : -1.f, i & 2 ? 1.f : -1.f, i & 4 ? 1.f : -1.f};
        float v[3] = {0, 0, 0};
        for (int k = 0; k < 3; ++k)
            for (int j = 0; j < 3; ++j)
                v[k] += r[k][j] * c[j] * size;
        g.x[i] = 0.8f * v[0] - 0.6f * v[1];
        g.y[i] = 0.6f * v[0] + 0.8f * v[1];
        g.z[i] = v[2];
    }
    return g;
}();
constexpr std::uint32_t primeX = 0x8da6b343u, primeY = 0xd8163841u, primeZ = 0xcb1ab31fu, seedPrime = 0x9e3779b9u,
                        mixer = 0x2c1b3c6du;

/// Gradient dotted with the offset; the corner's hash gives the gradient by its upper bits.
inline F8 gradientDot(U8 lattice, F8 x, F8 y, F8 z, F8 gx, F8 gy, F8 gz)
{
    const auto at = reinterpret_cast<__m256i>((lattice * mixer) >> 29);
    return F8(_mm256_permutevar8x32_ps(gx, at)) * x + F8(_mm256_permutevar8x32_ps(gy, at)) * y +
           F8(_mm256_permutevar8x32_ps(gz, at)) * z;
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
    const U8 hx0 = ix * primeX + seed * seedPrime, hx1 = hx0 + primeX;
    const U8 hy0 = iy * primeY, hy1 = hy0 + primeY;
    const U8 hz0 = iz * primeZ, hz1 = hz0 + primeZ;
    const U8 h00 = hx0 ^ hy0, h10 = hx1 ^ hy0, h01 = hx0 ^ hy1, h11 = hx1 ^ hy1;
    const F8 gx = load8(gradients.x), gy = load8(gradients.y), gz = load8(gradients.z);
    const F8 u = fade(x), v = fade(y), w = fade(z);
    const F8 x1 = x - 1.f, y1 = y - 1.f, z1 = z - 1.f;
    const F8 near0 = mix(gradientDot(h00 ^ hz0, x, y, z, gx, gy, gz), gradientDot(h10 ^ hz0, x1, y, z, gx, gy, gz), u);
    const F8 near1 = mix(gradientDot(h01 ^ hz0, x, y1, z, gx, gy, gz), gradientDot(h11 ^ hz0, x1, y1, z, gx, gy, gz),
                         u);
    const F8 far0 = mix(gradientDot(h00 ^ hz1, x, y, z1, gx, gy, gz), gradientDot(h10 ^ hz1, x1, y, z1, gx, gy, gz), u);
    const F8 far1 = mix(gradientDot(h01 ^ hz1, x, y1, z1, gx, gy, gz), gradientDot(h11 ^ hz1, x1, y1, z1, gx, gy, gz),
                        u);
    return mix(mix(near0, near1, v), mix(far0, far1, v), w);
}

namespace {
/// A value and its slope along the three axes of the world.
struct Sloped {
    F8 value, slope[3];
};
inline Sloped operator+(Sloped a, const Sloped& b)
{
    a.value += b.value;
    for (int k = 0; k < 3; ++k)
        a.slope[k] += b.slope[k];
    return a;
}
inline Sloped operator-(Sloped a, const Sloped& b)
{
    a.value -= b.value;
    for (int k = 0; k < 3; ++k)
        a.slope[k] -= b.slope[k];
    return a;
}
inline Sloped operator*(Sloped a, float by)
{
    a.value *= by;
    for (F8& s : a.slope)
        s *= by;
    return a;
}
inline Sloped operator*(float by, const Sloped& a) { return a * by; }
inline Sloped operator+(Sloped a, float by)
{
    a.value += by;
    return a;
}
inline Sloped operator-(const Sloped& a, float by) { return a + -by; }
inline Sloped& operator+=(Sloped& a, const Sloped& b) { return a = a + b; }

/// gradientNoise8() and its slope: with W the weight of a corner, g its gradient and d = g·offset, the slope of Σ W d
/// is Σ W g and, along each axis, the fade's own slope times the difference of what is mixed along it.
inline Sloped gradientNoiseSlope8(const Sloped& px, const Sloped& py, const Sloped& pz, std::uint32_t seed)
{
    F8 x = px.value, y = py.value, z = pz.value;
    const F8 fx = floor8(x), fy = floor8(y), fz = floor8(z);
    const U8 ix = reinterpret_cast<U8>(toInt(fx)), iy = reinterpret_cast<U8>(toInt(fy)),
             iz = reinterpret_cast<U8>(toInt(fz));
    x -= fx;
    y -= fy;
    z -= fz;
    const U8 hx[2] = {ix * primeX + seed * seedPrime, (ix + 1u) * primeX + seed * seedPrime};
    const U8 hy[2] = {iy * primeY, (iy + 1u) * primeY}, hz[2] = {iz * primeZ, (iz + 1u) * primeZ};
    const F8 gx = load8(gradients.x), gy = load8(gradients.y), gz = load8(gradients.z);
    const F8 u = fade(x), v = fade(y), w = fade(z);
    const auto fadeSlope = [](F8 t) { return t * t * (t * (t * 30.f - 60.f) + 30.f); };
    F8 d[2][2][2], g[3] = {};
#pragma GCC unroll 8
    for (int c = 0; c < 8; ++c) {
        const int i = c & 1, j = c >> 1 & 1, k = c >> 2;
        const auto at = reinterpret_cast<__m256i>(((hx[i] ^ hy[j] ^ hz[k]) * mixer) >> 29);
        const F8 cx = _mm256_permutevar8x32_ps(gx, at), cy = _mm256_permutevar8x32_ps(gy, at),
                 cz = _mm256_permutevar8x32_ps(gz, at);
        const F8 weight = (i ? u : 1.f - u) * (j ? v : 1.f - v) * (k ? w : 1.f - w);
        g[0] += cx * weight;
        g[1] += cy * weight;
        g[2] += cz * weight;
        d[i][j][k] = cx * (i ? x - 1.f : x) + cy * (j ? y - 1.f : y) + cz * (k ? z - 1.f : z);
    }
    F8 m[2][2], e[2][2]; // mixed along x, and what changes along it
    for (int j = 0; j < 2; ++j)
        for (int k = 0; k < 2; ++k) {
            e[j][k] = d[1][j][k] - d[0][j][k];
            m[j][k] = d[0][j][k] + e[j][k] * u;
        }
    const F8 near = mix(m[0][0], m[1][0], v), far = mix(m[0][1], m[1][1], v);
    g[0] += fadeSlope(x) * mix(mix(e[0][0], e[1][0], v), mix(e[0][1], e[1][1], v), w);
    g[1] += fadeSlope(y) * mix(m[1][0] - m[0][0], m[1][1] - m[0][1], w);
    g[2] += fadeSlope(z) * (far - near);
    Sloped out;
    out.value = mix(near, far, w);
    for (int a = 0; a < 3; ++a)
        out.slope[a] = g[0] * px.slope[a] + g[1] * py.slope[a] + g[2] * pz.slope[a];
    return out;
}
} // namespace

float gradientNoise(float x, float y, float z, std::uint32_t seed)
{
    // The plain form of the batch above, lane for lane; kept separate as the peer the batch is measured against.
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
        const std::uint32_t h = ((ix + bx) * primeX + seed * seedPrime) ^ ((iy + by) * primeY) ^ ((iz + bz) * primeZ);
        const std::uint32_t g = (h * mixer) >> 29;
        corner[c] = gradients.x[g] * (x - static_cast<float>(bx)) + gradients.y[g] * (y - static_cast<float>(by)) +
                    gradients.z[g] * (z - static_cast<float>(bz));
    }
    const auto mix1 = [](float a, float b, float t) { return a + (b - a) * t; };
    return mix1(mix1(mix1(corner[0], corner[1], u), mix1(corner[2], corner[3], u), v),
                mix1(mix1(corner[4], corner[5], u), mix1(corner[6], corner[7], u), v), w);
}

namespace {
inline F8 withinOne(F8 v) { return clamp8(v, -1.f, 1.f); }
inline float withinOne(float v) { return std::fmin(1.f, std::fmax(-1.f, v)); }
inline Sloped withinOne(Sloped a)
{
    const I8 isHeld = abs8(a.value) > 1.f;
    for (F8& s : a.slope)
        s = select(isHeld, f8(0.f), s);
    a.value = withinOne(a.value);
    return a;
}

/// The octaves of one seed, written once for eight points and for one: `noise3(x, y, z, seed)` is one octave.
template <class T, class OneOctave>
T sumOfOctaves(const Noise& noise, T x, T y, T z, std::uint32_t seed, const OneOctave& noise3)
{
    T total = x * 0.f;
    float amplitude = 1.f, amplitudes = 0.f;
    for (int o = 0; o < noise.octaves; ++o) {
        total += amplitude * noise3(x, y, z, seed + static_cast<std::uint32_t>(o) * 101u);
        amplitudes += amplitude;
        amplitude *= noise.gain;
        const T turned = (x * turnC - z * turnS) * noise.lacunarity;
        z = (x * turnS + z * turnC) * noise.lacunarity;
        x = turned;
        y = y * noise.lacunarity;
    }
    return total * (1.f / amplitudes);
}

template <class T, class OneOctave> T evolvedOctaves(const Noise& noise, T x, T y, T z, const OneOctave& noise3)
{
    const float start = 1.f / noise.scale;
    x = (x - noise.offset.x) * (start / noise.stretch.x);
    y = (y - noise.offset.y) * (start / noise.stretch.y);
    z = (z - noise.offset.z) * (start / noise.stretch.z);
    if (noise.warp > 0.f) {
        // Half as fast, three ways; 1.4 brings its usual size to about a third of a cell at warp 1.
        const float pull = 1.4f * noise.warp;
        const T u = x * 0.5f, v = y * 0.5f, w = z * 0.5f;
        x = x + pull * noise3(u, v, w, noise.seed + 7001u);
        y = y + pull * noise3(u, v, w, noise.seed + 7002u);
        z = z + pull * noise3(u, v, w, noise.seed + 7003u);
    }
    if (noise.evolution <= 0.f)
        return sumOfOctaves(noise, x, y, z, noise.seed, noise3);
    // From one pattern to the next and on, with the same contrast all the way (the two are independent).
    const float whole = std::floor(noise.evolution), u = noise.evolution - whole, f = u * u * (3.f - 2.f * u);
    const auto patternAt = [&](float step) {
        const auto k = static_cast<std::uint32_t>(step);
        return noise.seed + (noise.loop.cycle ? k % noise.loop.cycle : k) * 15485863u;
    };
    const float even = 1.f / std::sqrt((1.f - f) * (1.f - f) + f * f);
    const T from = sumOfOctaves(noise, x, y, z, patternAt(whole), noise3);
    if (f <= 0.f)
        return from;
    return withinOne((from * (1.f - f) + sumOfOctaves(noise, x, y, z, patternAt(whole + 1.f), noise3) * f) * even);
}

/// What keeps the contrast of a pattern blended with itself so far away. Octaves that are far apart in their own cells
/// are independent; near ones are alike by about exp(−(r/0.45)²).
float evenBlend(const Noise& noise)
{
    const Vec3 far = noise.loop.back / (noise.stretch * noise.scale);
    float r2 = far.length2() / (0.45f * 0.45f), power = 1.f, alike = 0.f, all = 0.f;
    for (int o = 0; o < noise.octaves; ++o) {
        alike += power * std::exp(-r2);
        all += power;
        power *= noise.gain * noise.gain;
        r2 *= noise.lacunarity * noise.lacunarity;
    }
    const float w = noise.loop.turned, rho = alike / all;
    return 1.f / std::sqrt(w * w + (1.f - w) * (1.f - w) + 2.f * w * (1.f - w) * rho);
}

template <class T, class OneOctave> T loopedOctaves(const Noise& noise, T x, T y, T z, const OneOctave& noise3)
{
    const T now = evolvedOctaves(noise, x, y, z, noise3);
    const float w = noise.loop.turned;
    if (w <= 0.f)
        return now;
    const Vec3& back = noise.loop.back;
    const T before = evolvedOctaves(noise, x + back.x, y + back.y, z + back.z, noise3);
    return withinOne((now * (1.f - w) + before * w) * evenBlend(noise));
}
} // namespace

F8 octaves8(const Noise& noise, F8 x, F8 y, F8 z)
{
    return loopedOctaves(noise, x, y, z,
                         [](F8 a, F8 b, F8 c, std::uint32_t seed) { return gradientNoise8(a, b, c, seed); });
}

F8 octavesSlope8(const Noise& noise, F8 x, F8 y, F8 z, F8 slope[3])
{
    const F8 one = f8(1.f), none = f8(0.f);
    const Sloped sum = loopedOctaves(noise, Sloped{x, {one, none, none}}, Sloped{y, {none, one, none}},
                                     Sloped{z, {none, none, one}},
                                     [](const Sloped& a, const Sloped& b, const Sloped& c, std::uint32_t seed) {
                                         return gradientNoiseSlope8(a, b, c, seed);
                                     });
    for (int a = 0; a < 3; ++a)
        slope[a] = sum.slope[a];
    return sum.value;
}

float octaves(const Noise& noise, const Vec3& p)
{
    return loopedOctaves(noise, p.x, p.y, p.z,
                         [](float a, float b, float c, std::uint32_t seed) { return gradientNoise(a, b, c, seed); });
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
