#include "reading/scopes.h"

#include "base/vec.h"

#include <algorithm>
#include <cmath>

namespace hygros::reading {

int distanceBin(float metres, float farFrom)
{
    if (!(metres < farFrom))
        return Scopes::distances - 1;
    const float u = std::log(std::max(metres, Scopes::nearest) / Scopes::nearest) /
                    std::log(Scopes::farthest / Scopes::nearest);
    return std::clamp(static_cast<int>(u * (Scopes::distances - 1)), 0, Scopes::distances - 2);
}

Scopes scopesOf(const PlanePicture& p, std::span<const std::uint8_t> shown, const Region& region)
{
    Scopes out;
    const std::size_t all = static_cast<std::size_t>(std::max(0, p.width)) *
                            static_cast<std::size_t>(std::max(0, p.height));
    const bool isKnown = !p.rgb.empty() || !p.depth.empty(); // else a picture as it is shown, from anywhere
    if (all == 0 || (isKnown && (p.rgb.size() < all * 3 || p.depth.size() < all)) || shown.size() < all * 4)
        return out;
    const auto edge = [](float share, int size) {
        return std::clamp(static_cast<int>(std::lround(share * static_cast<float>(size))), 0, size);
    };
    const int x0 = std::min(edge(region.left, p.width), p.width - 1),
              x1 = std::max(x0 + 1, edge(region.right, p.width)),
              y0 = std::min(edge(region.top, p.height), p.height - 1),
              y1 = std::max(y0 + 1, edge(region.bottom, p.height));
    out.pixels = static_cast<std::size_t>(x1 - x0) * static_cast<std::size_t>(y1 - y0);
    const float one = 1.f / static_cast<float>(out.pixels);
    for (auto& w : out.waveform)
        w.assign(std::size_t(Scopes::levels) * Scopes::columns, 0.f);
    for (auto& h : out.histogram)
        h.assign(Scopes::bins, 0.f);
    out.byDistance.assign(std::size_t(Scopes::tones) * Scopes::distances, 0.f);
    std::vector<float> sums(Scopes::distances, 0.f), counts(Scopes::distances, 0.f), wide(Scopes::columns, 0.f), stops;
    stops.reserve(out.pixels);
    for (int x = x0; x < x1; ++x)
        wide[static_cast<std::size_t>((x - x0) * Scopes::columns / (x1 - x0))] += static_cast<float>(y1 - y0);
    std::size_t black = 0, white = 0;
    for (int y = y0; y < y1; ++y)
        for (int x = x0; x < x1; ++x) {
            const std::size_t i = static_cast<std::size_t>(y) * static_cast<std::size_t>(p.width) +
                                  static_cast<std::size_t>(x);
            const auto column = static_cast<std::size_t>((x - x0) * Scopes::columns / (x1 - x0));
            const std::uint8_t* s = &shown[i * 4];
            bool isBlack = false, isWhite = false;
            for (std::size_t c = 0; c < 3; ++c) {
                const std::uint8_t v = s[2 - c];
                isBlack = isBlack || v == 0;
                isWhite = isWhite || v == 255;
                out.waveform[c][std::size_t(v / 2) * Scopes::columns + column] += 1.f / wide[column];
                out.histogram[c][std::size_t(v / 2)] += one;
            }
            black += isBlack;
            white += isWhite;
            if (!isKnown)
                continue;
            const float light = std::max(1e-6f, luminance(Vec3(p.rgb[3 * i], p.rgb[3 * i + 1], p.rgb[3 * i + 2]))),
                        stop = std::log2(light / 0.18f);
            stops.push_back(stop);
            const auto d = static_cast<std::size_t>(distanceBin(p.depth[i], p.farFrom));
            const float u = (stop - Scopes::firstStop) / (Scopes::lastStop - Scopes::firstStop);
            const int t = std::clamp(static_cast<int>(u * Scopes::tones), 0, Scopes::tones - 1);
            out.byDistance[static_cast<std::size_t>(t) * Scopes::distances + d] += one;
            sums[d] += stop;
            counts[d] += 1.f;
        }
    out.black = static_cast<float>(black) * one;
    out.white = static_cast<float>(white) * one;
    if (!isKnown)
        return out;
    for (std::size_t d = 0; d < sums.size(); ++d)
        out.meanTone.push_back(counts[d] > 0.f ? sums[d] / counts[d] : -1e9f);
    const auto quantile = [&](double share) {
        const auto at = stops.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(stops.size() - 1));
        std::nth_element(stops.begin(), at, stops.end());
        return *at;
    };
    out.lowStop = quantile(0.01);
    out.highStop = quantile(0.99);
    return out;
}
} // namespace hygros::reading
