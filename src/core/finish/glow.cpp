#include "finish/glow.h"

#include "base/parallel.h"
#include "finish/display.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::finish {
namespace {
/// Three channels side by side.
struct Plane {
    int width = 0, height = 0;
    std::vector<float> rgb;
    Plane(int w, int h) : width(w), height(h), rgb(static_cast<std::size_t>(w) * static_cast<std::size_t>(h) * 3) {}
    float* row(int y) { return rgb.data() + static_cast<std::size_t>(y) * static_cast<std::size_t>(width) * 3; }
    const float* row(int y) const { return const_cast<Plane*>(this)->row(y); }
    const float* clamped(int y) const { return row(std::clamp(y, 0, height - 1)); }
};

/// Each pixel has the light of 4×4 finer ones by the weights 1 3 3 1 in each direction.
Plane halved(const Plane& fine)
{
    Plane out((fine.width + 1) / 2, (fine.height + 1) / 2);
    parallelFor(static_cast<std::size_t>(out.height), [&](std::size_t line) {
        const int y = static_cast<int>(line);
        std::vector<float> between(static_cast<std::size_t>(fine.width) * 3);
        const float* rows[4];
        for (int k = 0; k < 4; ++k)
            rows[k] = fine.clamped(2 * y - 1 + k);
        for (std::size_t i = 0; i < between.size(); ++i)
            between[i] = 0.125f * (rows[0][i] + rows[3][i]) + 0.375f * (rows[1][i] + rows[2][i]);
        float* to = out.row(y);
        const auto at = [&](int x, int c) {
            return between[static_cast<std::size_t>(std::clamp(x, 0, fine.width - 1) * 3 + c)];
        };
        for (int x = 0; x < out.width; ++x)
            for (int c = 0; c < 3; ++c)
                to[x * 3 + c] = 0.125f * (at(2 * x - 1, c) + at(2 * x + 2, c)) +
                                0.375f * (at(2 * x, c) + at(2 * x + 1, c));
    });
    return out;
}

/// Weights 1 4 6 4 1 in each direction: without it circles would depend on where they stand among the coarse pixels.
void soften(Plane& p)
{
    constexpr float weights[5] = {0.0625f, 0.25f, 0.375f, 0.25f, 0.0625f};
    const Plane from = p;
    parallelFor(static_cast<std::size_t>(p.height), [&](std::size_t line) {
        const int y = static_cast<int>(line);
        std::vector<float> between(static_cast<std::size_t>(p.width) * 3, 0.f);
        for (int k = 0; k < 5; ++k) {
            const float* row = from.clamped(y + k - 2);
            for (std::size_t i = 0; i < between.size(); ++i)
                between[i] += weights[k] * row[i];
        }
        float* to = p.row(y);
        for (int x = 0; x < p.width; ++x)
            for (int c = 0; c < 3; ++c) {
                to[x * 3 + c] = 0.f;
                for (int k = 0; k < 5; ++k)
                    to[x * 3 + c] += weights[k] *
                                     between[static_cast<std::size_t>(std::clamp(x + k - 2, 0, p.width - 1) * 3 + c)];
            }
    });
}

/// Adds the coarser plane, linearly between its pixels, to `weight` times the finer one.
void takeCoarser(Plane& fine, float weight, const Plane& coarse)
{
    parallelFor(static_cast<std::size_t>(fine.height), [&](std::size_t line) {
        const int y = static_cast<int>(line);
        float* to = fine.row(y);
        const float *near = coarse.clamped(y / 2), *far = coarse.clamped(y / 2 + (y % 2 ? 1 : -1));
        for (int x = 0; x < fine.width; ++x) {
            const int a = std::min(x / 2, coarse.width - 1) * 3,
                      b = std::clamp(x / 2 + (x % 2 ? 1 : -1), 0, coarse.width - 1) * 3;
            for (int c = 0; c < 3; ++c)
                to[x * 3 + c] = weight * to[x * 3 + c] + 0.75f * (0.75f * near[a + c] + 0.25f * near[b + c]) +
                                0.25f * (0.75f * far[a + c] + 0.25f * far[b + c]);
        }
    });
}

/// Shares of the circles with radii 2^k pixels, k from 0 on; they sum to 1.
std::vector<float> sharesOf(float reach, int height)
{
    // Octaves above 1/540 of the height; the first and the last fade in, so that no size jumps.
    const float finest = std::log2(static_cast<float>(height) / 540.f),
                last = std::log2(std::max(reach * static_cast<float>(height), 1.f));
    std::vector<float> shares;
    float sum = 0.f;
    for (int k = 0; k == 0 || static_cast<float>(k) < last + 1.f; ++k) {
        const float octave = static_cast<float>(k), in = std::clamp(octave - finest + 1.f, k == 0 ? 0.05f : 0.f, 1.f),
                    out = std::clamp(last + 1.f - octave, 0.f, 1.f);
        shares.push_back(in * out * std::exp2(-0.5f * octave));
        sum += shares.back();
    }
    for (float& s : shares)
        s /= sum;
    return shares;
}
} // namespace

std::vector<float> glowing(const shot::Look& look, const float* rgb, int width, int height)
{
    const std::size_t values = static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * 3;
    std::vector<float> out(rgb, rgb + values);
    if (look.glow <= 0.f || width < 2 || height < 2)
        return out;
    const Vec3 gain = whiteGains(look.white) * std::exp2(look.exposure);
    const float threshold = std::exp2(look.glowFrom);
    Plane whole(width, height);
    std::vector<float>& bright = whole.rgb;
    parallelFor(static_cast<std::size_t>(height), [&](std::size_t y) {
        const std::size_t end = (y + 1) * static_cast<std::size_t>(width) * 3;
        for (std::size_t i = y * static_cast<std::size_t>(width) * 3; i < end; i += 3) {
            const float brightest = std::max({out[i] * gain.x, out[i + 1] * gain.y, out[i + 2] * gain.z});
            const float share = std::isfinite(brightest) ? look.glow * shareAbove(brightest, threshold) : 0.f;
            for (std::size_t c = i; c < i + 3; ++c) {
                bright[c] = share > 0.f && out[c] > 0.f && std::isfinite(out[c]) ? share * out[c] : 0.f;
                out[c] -= bright[c];
            }
        }
    });
    std::vector<Plane> levels;
    levels.push_back(std::move(whole));
    const std::vector<float> shares = sharesOf(look.glowReach, height);
    while (levels.size() < shares.size() && levels.back().width > 1 && levels.back().height > 1)
        levels.push_back(halved(levels.back()));
    for (std::size_t k = 1; k < levels.size(); ++k)
        soften(levels[k]);
    float rest = 0.f; // circles larger than the picture are its largest one
    for (std::size_t k = levels.size(); k < shares.size(); ++k)
        rest += shares[k];
    for (float& v : levels.back().rgb)
        v *= shares[levels.size() - 1] + rest;
    for (std::size_t k = levels.size() - 1; k-- > 0;)
        takeCoarser(levels[k], shares[k], levels[k + 1]);
    for (std::size_t i = 0; i < values; ++i)
        out[i] += levels[0].rgb[i];
    return out;
}
} // namespace hygros::finish
