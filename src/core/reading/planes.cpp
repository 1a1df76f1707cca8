#include "reading/planes.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::reading {
namespace {
float luminanceOf(const float* c) { return 0.2126f * c[0] + 0.7152f * c[1] + 0.0722f * c[2]; }

/// Distance from the white of D65 in CIE 1976 u′v′.
float chromaOf(const float* c)
{
    const float x = 0.4124f * c[0] + 0.3576f * c[1] + 0.1805f * c[2], y = luminanceOf(c),
                z = 0.0193f * c[0] + 0.1192f * c[1] + 0.9505f * c[2];
    const float d = x + 15.f * y + 3.f * z;
    if (d <= 1e-9f)
        return 0.f;
    return std::hypot(4.f * x / d - 0.19783f, 9.f * y / d - 0.46834f);
}
} // namespace

std::vector<float> bordersFromDepth(const PlanePicture& picture)
{
    constexpr int bins = 64;
    float nearest = 1e30f, farthest = 0.f;
    for (const float d : picture.depth)
        if (d > 0.f && d < picture.farFrom) {
            nearest = std::min(nearest, d);
            farthest = std::max(farthest, d);
        }
    if (farthest <= nearest * 1.01f)
        return {20.f, 200.f};
    const float lo = std::log(nearest), width = (std::log(farthest) - lo) / bins;
    std::array<double, bins> count{};
    for (const float d : picture.depth)
        if (d > 0.f && d < picture.farFrom)
            count[static_cast<std::size_t>(std::clamp(static_cast<int>((std::log(d) - lo) / width), 0, bins - 1))] +=
                1.0;
    // Cumulated weight and first moment: the variance between three classes is greatest where that within is least.
    std::array<double, bins + 1> weight{}, moment{};
    for (std::size_t i = 0; i < bins; ++i) {
        weight[i + 1] = weight[i] + count[i];
        moment[i + 1] = moment[i] + count[i] * (static_cast<double>(i) + 0.5);
    }
    const auto between = [&](std::size_t a, std::size_t b) {
        const double w = weight[b] - weight[a], m = moment[b] - moment[a];
        return w > 0.0 ? m * m / w : 0.0;
    };
    double best = -1.0;
    std::size_t first = bins / 3, second = 2 * bins / 3;
    for (std::size_t i = 1; i + 1 < bins; ++i)
        for (std::size_t j = i + 1; j < bins; ++j)
            if (const double v = between(0, i) + between(i, j) + between(j, bins); v > best) {
                best = v;
                first = i;
                second = j;
            }
    const auto distance = [&](std::size_t bin) { return std::exp(lo + width * static_cast<float>(bin)); };
    return {distance(first), distance(second)};
}

Planes planesOf(const PlanePicture& picture, std::span<const float> borders)
{
    Planes out;
    out.planes.resize(borders.size() + 1);
    for (std::size_t i = 0; i < out.planes.size(); ++i) {
        out.planes[i].from = i == 0 ? 0.f : borders[i - 1];
        out.planes[i].to = i == borders.size() ? picture.farFrom : borders[i];
        out.planes[i].tones.assign(toneBins, 0.f);
    }
    struct Sums {
        double stops = 0, squares = 0, chroma = 0, colour[3] = {0, 0, 0};
    };
    std::vector<Sums> sums(out.planes.size());
    for (std::size_t p = 0; p < picture.depth.size(); ++p) {
        const auto at = static_cast<std::size_t>(std::upper_bound(borders.begin(), borders.end(), picture.depth[p]) -
                                                 borders.begin());
        const float* c = picture.rgb.data() + 3 * p;
        const float stops = std::log2(std::max(1e-6f, luminanceOf(c)) / 0.18f);
        Sums& s = sums[at];
        s.stops += double(stops);
        s.squares += double(stops) * double(stops);
        s.chroma += double(chromaOf(c));
        for (int k = 0; k < 3; ++k)
            s.colour[k] += double(c[k]);
        Plane& plane = out.planes[at];
        plane.tones[static_cast<std::size_t>(
            std::clamp(static_cast<int>(std::floor((stops - toneFirst) / toneStep)), 0, toneBins - 1))] += 1.f;
        ++plane.pixels;
    }
    for (std::size_t i = 0; i < out.planes.size(); ++i) {
        Plane& plane = out.planes[i];
        if (plane.pixels == 0)
            continue;
        const double n = static_cast<double>(plane.pixels), mean = sums[i].stops / n;
        plane.meanStops = static_cast<float>(mean);
        plane.spreadStops = static_cast<float>(std::sqrt(std::max(0.0, sums[i].squares / n - mean * mean)));
        plane.chroma = static_cast<float>(sums[i].chroma / n);
        for (int k = 0; k < 3; ++k)
            plane.colour[k] = static_cast<float>(sums[i].colour[k] / n);
        for (float& tone : plane.tones)
            tone /= static_cast<float>(n);
    }
    for (std::size_t i = 0; i + 1 < out.planes.size(); ++i) {
        const Plane &a = out.planes[i], &b = out.planes[i + 1];
        out.separation.push_back(a.pixels && b.pixels ? std::abs(b.meanStops - a.meanStops) : 0.f);
    }
    return out;
}
} // namespace hygros::reading
