#pragma once
/// Gradient noise in three dimensions (Perlin 2002: quintic fade; here with eight turned gradients on a hashed integer
/// lattice; no period within ±2³¹ cells) and its sum over octaves, for eight points at once.
#include "base/simd.h"
#include "base/vec.h"

#include <cstdint>

namespace hygros::media {

/// How a pattern that drifts and boils comes back after a loop: it is blended over from itself as it was a loop before,
/// with its contrast kept, and its changes in place come round.
struct NoiseLoop {
    Vec3 back{0.f, 0.f, 0.f}; ///< metres that it drifts in a loop
    float turned = 0.f;       ///< share of what it was a loop before, 0…1
    std::uint32_t cycle = 0;  ///< changes of all of it until the first is back, 2 or more; 0: never
    bool operator==(const NoiseLoop&) const = default;
};

struct Noise {
    float scale = 10.f;     ///< metres of one cell of the first octave, > 0
    float contrast = 0.f;   ///< 0 leaves the density even; see modulation()
    int octaves = 4;        ///< 1…8
    float gain = 0.5f;      ///< amplitude of each octave relative to the one before, 0…1
    float lacunarity = 2.f; ///< frequency of each octave relative to the one before, ≥ 1
    std::uint32_t seed = 0;
    Vec3 offset{0.f, 0.f, 0.f};  ///< metres the pattern has drifted by
    Vec3 stretch{1.f, 1.f, 1.f}; ///< lengthens the pattern along each axis, > 0
    float warp = 0.f;      ///< how far a slower noise pulls the pattern about, in cells of the first octave, 0…2
    float evolution = 0.f; ///< how far the pattern has changed in place, in changes of all of it, ≥ 0
    NoiseLoop loop = {};
    bool operator==(const Noise&) const = default;
};

/// One octave at (x, y, z) in lattice units; within about ±1, mean 0, standard deviation about 0.25.
F8 gradientNoise8(F8 x, F8 y, F8 z, std::uint32_t seed);
float gradientNoise(float x, float y, float z, std::uint32_t seed);

/// The octaves' sum divided by the sum of their amplitudes, at world positions in metres.
F8 octaves8(const Noise& noise, F8 x, F8 y, F8 z);
float octaves(const Noise& noise, const Vec3& p);

/// What the density is multiplied with: max(0, 1 + 3·contrast·octaves). With contrast up to 1 its mean over
/// space stays 1 within 1 %, so that a visibility keeps its meaning; above, gaps open and the mean rises.
inline constexpr float modulationGain = 3.f;
F8 modulation8(const Noise& noise, F8 x, F8 y, F8 z);
float modulation(const Noise& noise, const Vec3& p);
/// No value of modulation() exceeds this.
inline float modulationBound(const Noise& noise) { return 1.f + modulationGain * noise.contrast; }
} // namespace hygros::media
