#include "media/deck_diffusion.h"

#include "base/parallel.h"
#include "base/random.h"
#include "media/lookup.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::media {
namespace {
constexpr int size = 32, layers = 8; ///< cells of the piece, a side and up
constexpr int row = 2 * size;        ///< rows are there twice, so that a shifted one is read in one go
constexpr std::size_t plane = size * size, cells = plane * layers;
constexpr int rounds = 12;        ///< of repeated scattering
using Cells = std::vector<float>; ///< [layer][z][x]

/// Extinction in a layer for one slope: what is left of light after a part of the way through it, and the mean on it.
struct Slope {
    float rise; ///< sine of the way's height
    int parts;  ///< of the way through a layer, none longer than a cell
    Cells left, mean;
};

class Lattice {
public:
    Lattice(const CloudDeck& deck, float albedo)
        : wide_(0.25f * deck.scale), high_(deck.thickness / layers), density_(cells)
    {
        const float g = deck.phase.meanCosine(), kept = 1.f - albedo * g;
        extinction_ = deck.sigmaT * kept;
        again_ = albedo * (1.f - g) / kept;
        parallelFor(size * layers, [&](std::size_t line) {
            Random random(static_cast<std::uint32_t>(line));
            const int k = static_cast<int>(line) / size, j = static_cast<int>(line) % size;
            for (int i = 0; i < size; ++i) {
                F8 x, y, z;
                for (int l = 0; l < lanes; ++l) { // one in each eighth of the cell
                    x[l] = (static_cast<float>(i) + 0.5f * (static_cast<float>(l & 1) + random.next())) * wide_;
                    y[l] = (static_cast<float>(k) + 0.5f * (static_cast<float>(l >> 2) + random.next())) * high_;
                    z[l] = (static_cast<float>(j) + 0.5f * (static_cast<float>(l >> 1 & 1) + random.next())) * wide_;
                }
                density_[line * size + static_cast<std::size_t>(i)] = sum(deckDensity8(deck, x, deck.base + y, z,
                                                                                       f8(0.f))) /
                                                                      lanes;
            }
        });
        for (std::size_t q = 0; q < 2; ++q)
            slopes_[q] = slope(rises[q]);
    }

    const Cells& density() const { return density_; }
    float wide() const { return wide_; }
    float high() const { return high_; }

    /// Mean radiance of a beam from the sun, straight and scattered.
    Cells ofSun(const Vec3& sun) const
    {
        Cells straight(cells);
        const Slope s = slope(std::max(sun.y, 0.03f));
        sweep(s, -sun.x, -sun.z, false, 1.f / (4.f * pi), nullptr, 1.f, straight);
        return scattered(std::move(straight));
    }
    /// Of even light from above or from below.
    Cells ofEven(bool above) const
    {
        Cells straight(cells);
        everyWay(nullptr, above ? 0.f : 1.f, above ? 1.f : 0.f, straight);
        return scattered(std::move(straight));
    }

private:
    static constexpr std::array<float, 2> rises{0.2113249f, 0.7886751f}; ///< Gauss on 0…1
    static constexpr int headings = 4;

    Slope slope(float rise) const
    {
        const float across = std::sqrt(std::max(0.f, 1.f - rise * rise)) / rise * high_;
        Slope s{rise, std::clamp(static_cast<int>(std::ceil(across / wide_)), 1, 64), Cells(cells), Cells(cells)};
        const float way = extinction_ * high_ / (rise * static_cast<float>(s.parts));
        for (std::size_t c = 0; c < cells; c += lanes) {
            const F8 depth = load8(&density_[c]) * way, left = exp8(-depth);
            store8(&s.left[c], left);
            store8(&s.mean[c], select(depth > 1e-3f, (1.f - left) / max8(depth, f8(1e-6f)), 1.f - depth * 0.5f));
        }
        return s;
    }

    /// Light of radiance `in` that goes through the piece one way, and what `source` adds to it: means of cells times
    /// `share` are added to `means`.
    void sweep(const Slope& s, float wayX, float wayZ, bool up, float share, const Cells* source, float in,
               Cells& means) const
    {
        const float step = high_ / (s.rise * wide_ * static_cast<float>(s.parts)), back = -wayX * step,
                    aside = -wayZ * step, part = share / static_cast<float>(s.parts);
        const int wholeX = static_cast<int>(std::floor(back)), wholeZ = static_cast<int>(std::floor(aside));
        const float fx = back - static_cast<float>(wholeX), fz = aside - static_cast<float>(wholeZ);
        const auto start = static_cast<std::size_t>(wholeX & (size - 1));
        const auto line = [](int z) { return static_cast<std::size_t>((z & (size - 1)) * row); };
        std::vector<float> light(size * row, in), next(size * row);
        for (int turn = 0; turn < layers; ++turn) {
            const auto first = static_cast<std::size_t>(up ? turn : layers - 1 - turn) * plane;
            for (int p = 0; p < s.parts; ++p) {
                for (int j = 0; j < size; ++j) {
                    const float *near = &light[line(j + wholeZ) + start], *far = &light[line(j + wholeZ + 1) + start];
                    float* to = &next[line(j)];
                    for (std::size_t i = 0; i < size; i += lanes) {
                        const std::size_t c = first + static_cast<std::size_t>(j) * size + i;
                        const F8 a = load8(near + i) * (1.f - fx) + load8(near + i + 1) * fx,
                                 b = load8(far + i) * (1.f - fx) + load8(far + i + 1) * fx,
                                 own = source ? load8(&(*source)[c]) : f8(0.f), over = a + (b - a) * fz - own;
                        store8(&means[c], load8(&means[c]) + (own + over * load8(&s.mean[c])) * part);
                        const F8 out = own + over * load8(&s.left[c]);
                        store8(to + i, out);
                        store8(to + i + size, out);
                    }
                }
                std::swap(light, next);
            }
        }
    }
    void everyWay(const Cells* source, float fromBelow, float fromAbove, Cells& means) const
    {
        for (std::size_t q = 0; q < rises.size(); ++q)
            for (int h = 0; h < headings; ++h) {
                // The flatter ones between the steeper.
                const float heading = 2.f * pi * (static_cast<float>(h) + 0.25f + 0.5f * static_cast<float>(q)) /
                                      headings,
                            across = std::sqrt(1.f - rises[q] * rises[q]);
                for (const bool up : {false, true})
                    sweep(slopes_[q], across * std::cos(heading), across * std::sin(heading), up,
                          1.f / (4.f * headings), source, up ? fromBelow : fromAbove, means);
            }
    }
    Cells scattered(Cells straight) const
    {
        Cells source(cells), all = straight;
        for (int round = 0; round < rounds; ++round) {
            for (std::size_t c = 0; c < cells; ++c)
                source[c] = again_ * all[c];
            all = straight;
            everyWay(&source, 0.f, 0.f, all);
        }
        return all;
    }

    float wide_, high_; ///< a cell [m]
    float extinction_, again_;
    Cells density_;
    std::array<Slope, 2> slopes_;
};
F8 place(F8 depth, int count) { return min8(log8(1.f + depth) * 1.44269504f, f8(static_cast<float>(count) - 1.001f)); }
} // namespace

F8 deckSunDepth8(const CloudDeck& d, F8 x, F8 y, F8 z, const Vec3& sun, float up, F8 jitter)
{
    // No farther than the slab goes.
    const F8 way = min8(max8(f8(0.f), (d.base + d.thickness - y) * (1.f / up)), f8(6.f * d.thickness));
    static constexpr float from[4] = {0.f, 0.1f, 0.28f, 0.6f}, share[4] = {0.1f, 0.18f, 0.32f, 0.4f};
    F8 depth = f8(0.f);
    for (int k = 0; k < 4; ++k) {
        F8 j = jitter + 0.381966f * static_cast<float>(k);
        j = j - floor8(j);
        const F8 q = way * (from[k] + share[k] * j);
        depth += deckDensity8(d, x + sun.x * q, y + up * q, z + sun.z * q, way * share[k]) * way *
                 (share[k] * d.sigmaT);
    }
    return depth;
}

DeckDiffusion::DeckDiffusion(const CloudDeck& drifting, const Vec3& sun)
{
    static_assert(layers == media::layers);
    CloudDeck deck = drifting;
    deck.offset = Vec3(0.f);
    deck.evolution = 0.f;
    deck.loop = {};
    channels_ = deck.albedo.x == deck.albedo.y && deck.albedo.y == deck.albedo.z ? 1 : 3;
    const std::array<float, 3> albedo{deck.albedo.x, deck.albedo.y, deck.albedo.z};
    values_.assign(static_cast<std::size_t>(channels_ * sources * (layers + 1) * depths), 0.f);
    const float up = std::max(sun.y, 0.03f);

    std::vector<Lattice> lattices;
    for (int c = 0; c < channels_; ++c)
        lattices.emplace_back(deck, albedo[static_cast<std::size_t>(c)]);
    std::vector<Cells> means(static_cast<std::size_t>(channels_ * sources));
    parallelFor(means.size(), [&](std::size_t i) {
        const Lattice& lattice = lattices[i / sources];
        means[i] = i % sources == 0 ? lattice.ofSun(sun) : lattice.ofEven(i % sources == 1);
    });

    // Where each cell belongs.
    const Lattice& one = lattices.front();
    Cells depth(cells);
    parallelFor(size * layers, [&](std::size_t line) {
        const F8 y = f8(deck.base + (static_cast<float>(line / size) + 0.5f) * one.high()),
                 z = f8((static_cast<float>(line % size) + 0.5f) * one.wide());
        for (std::size_t i = 0; i < size; i += lanes) {
            F8 x;
            for (int l = 0; l < lanes; ++l)
                x[l] = (static_cast<float>(i) + static_cast<float>(l) + 0.5f) * one.wide();
            store8(&depth[line * size + i], place(deckSunDepth8(deck, x, y, z, sun, up, f8(0.45f)), depths));
        }
    });
    for (int c = 0; c < channels_; ++c)
        for (int s = 0; s < sources; ++s) {
            const Cells& of = means[static_cast<std::size_t>(c * sources + s)];
            float* to = &values_[at(c, s)];
            float before = 0.f; // the mean of the layer below, for one without cloud
            for (std::size_t k = 0; k < static_cast<std::size_t>(layers); ++k, to += depths) {
                std::array<float, depths> weight{}, value{};
                float allWeight = 0.f, allValue = 0.f;
                for (std::size_t i = k * plane; i < (k + 1) * plane; ++i) {
                    const float w = one.density()[i];
                    if (!(w > 0.f))
                        continue;
                    const auto low = static_cast<std::size_t>(depth[i]);
                    const float share = depth[i] - static_cast<float>(low);
                    for (std::size_t n = 0; n < 2; ++n) {
                        const float part = w * (n == 1 ? share : 1.f - share);
                        weight[low + n] += part;
                        value[low + n] += part * of[i];
                    }
                    allWeight += w;
                    allValue += w * of[i];
                }
                if (allWeight > 0.f)
                    before = allValue / allWeight;
                // Where hardly any cell is, the layer's mean.
                const float few = 1e-3f * allWeight + 1e-6f;
                for (std::size_t n = 0; n < depths; ++n)
                    to[n] = (value[n] + few * before) / (weight[n] + few);
            }
            std::copy_n(to - depths, depths, to);
        }
}

DeckDiffusion::Means DeckDiffusion::at8(int channel, F8 height, F8 depth) const
{
    const F8 u = place(depth, depths), v = clamp8(height * static_cast<float>(layers) - 0.5f, 0.f, layers - 1.f);
    const auto of = [&](int source) { return bilinear8(&values_[at(channel, source)], depths, u, v); };
    return {of(0), of(1), of(2)};
}
} // namespace hygros::media
