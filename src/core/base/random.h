#pragma once
/// Deterministic random numbers: everything is a function of pixel, sample index and purpose, so that the
/// same project gives the same picture whatever the number of threads.
#include <array>
#include <cstdint>
#include <vector>

namespace hygros {

/// A well-mixed 32-bit hash (PCG output function, O'Neill 2014; Jarzynski & Olano 2020).
inline std::uint32_t hash32(std::uint32_t v)
{
    v = v * 747796405u + 2891336453u;
    const std::uint32_t w = ((v >> ((v >> 28u) + 4u)) ^ v) * 277803737u;
    return (w >> 22u) ^ w;
}
inline std::uint32_t hash32(std::uint32_t a, std::uint32_t b) { return hash32(a ^ hash32(b + 0x9e3779b9u)); }
inline std::uint32_t hash32(std::uint32_t a, std::uint32_t b, std::uint32_t c) { return hash32(a, hash32(b, c)); }

/// [0, 1) from the upper 24 bits.
inline float unitFloat(std::uint32_t bits) { return static_cast<float>(bits >> 8) * 0x1p-24f; }

/// A small sequential generator for code where order is fixed (generators, path tracing of one pixel).
class Random {
public:
    explicit Random(std::uint32_t seed) : state_(hash32(seed)) {}
    float next() { return unitFloat(state_ = hash32(state_ + 0x9e3779b9u)); }
    float range(float lo, float hi) { return lo + (hi - lo) * next(); }

private:
    std::uint32_t state_;
};

/// A 64×64 tile of ranks whose every prefix is evenly spread (void and cluster, Ulichney 1993): dithering
/// with it pushes the error to the frequencies the eye sees least, so noise looks like fine grain.
class BlueNoise {
public:
    static constexpr int size = 64;
    static const BlueNoise& tile();
    /// Value in (0, 1) at pixel (x, y); different `purpose` values shift the tile so that they do not agree.
    float at(int x, int y, std::uint32_t purpose) const
    {
        const auto sx = static_cast<int>(purpose * 39u), sy = static_cast<int>(purpose * 23u);
        return rank_[static_cast<unsigned>(((y + sy) & (size - 1)) * size + ((x + sx) & (size - 1)))];
    }
    /// The same, turned from pass to pass by a point of a Sobol sequence: blue in the plane, low-discrepancy in time.
    /// Purposes 2k−1 and 2k are the two coordinates of one (0, 2)-sequence; each pair visits its points in an order of
    /// its own (Burley 2020), so that a place in the pixel and a direction drawn together fill their whole space and
    /// not a line in it. Repeats after `passes` passes and `purposes` purposes.
    float at(int x, int y, std::uint32_t purpose, std::uint32_t pass) const
    {
        const float v = at(x, y, purpose) + turns_[(pass & (passes - 1)) * purposes + (purpose & (purposes - 1))];
        return v >= 1.f ? v - 1.f : v;
    }
    static constexpr std::uint32_t passes = 1024, purposes = 128;

private:
    BlueNoise();
    std::array<float, size * size> rank_;
    std::vector<float> turns_;
};
} // namespace hygros
