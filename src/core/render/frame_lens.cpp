/// What a lens blurs: which pixels see through all of it, and how far.
#include "base/parallel.h"
#include "render/frame.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {

void Frame::findBlurred()
{
    if (!view_.hasLens())
        return;
    // By tiles: how far what stands there spreads [pixels], and the farthest of it. What spreads to a pixel is seen
    // from that pixel through some part of the lens.
    constexpr int tile = 16;
    constexpr float least = 0.6f; // pixels; less is not seen
    const int across = (width_ + tile - 1) / tile, down = (height_ + tile - 1) / tile;
    std::vector<float> spread(static_cast<std::size_t>(across * down), 0.f), farthest(spread.size(), 0.f);
    const float most = static_cast<float>(std::max(width_, height_));
    for (int y = 0; y < height_; ++y)
        for (int x = 0; x < width_; ++x) {
            const auto at = static_cast<std::size_t>(y / tile * across + x / tile);
            const float t = clusters_[index(x, y) * clusterCount].t;
            spread[at] = std::max(spread[at], std::min(most, view_.blurRadius(t)));
            farthest[at] = std::max(farthest[at], t);
        }
    const float widest = *std::max_element(spread.begin(), spread.end());
    const int reach = static_cast<int>(std::ceil(widest / tile)) + 1;
    blurred_.assign(span_.size(), 0);
    parallelFor(static_cast<std::size_t>(down), [&](std::size_t row) {
        const int ty = static_cast<int>(row);
        for (int tx = 0; tx < across; ++tx) {
            bool some = false;
            float far = 0.f;
            for (int y = std::max(0, ty - reach); y <= std::min(down - 1, ty + reach); ++y)
                for (int x = std::max(0, tx - reach); x <= std::min(across - 1, tx + reach); ++x) {
                    const auto at = static_cast<std::size_t>(y * across + x);
                    // Between the nearest pixels of both.
                    const auto away = static_cast<float>(tile *
                                                         std::max(0, std::max(std::abs(x - tx), std::abs(y - ty)) - 1));
                    if (spread[at] < least || spread[at] < away)
                        continue;
                    some = true;
                    far = std::max(far, farthest[at]);
                }
            if (!some)
                continue;
            for (int y = ty * tile; y < std::min(height_, ty * tile + tile); ++y)
                for (int x = tx * tile; x < std::min(width_, tx * tile + tile); ++x) {
                    blurred_[index(x, y)] = 1;
                    if (!sampler_->eyeIn())
                        span_[index(x, y)] = std::max(span_[index(x, y)], far);
                }
        }
        for (int y = ty * tile; y < std::min(height_, ty * tile + tile); ++y)
            settlePieces(y);
    });
}

void Frame::forgetSharp(int x, int y)
{
    // The first pass looked through the lens's middle alone, so that the quick picture is clear.
    const std::size_t pixel = index(x, y), group = groupAt(x, y);
    samples_[pixel] = 0.f;
    for (int k = 0; k < clusterCount; ++k) {
        clusters_[pixel * clusterCount + static_cast<std::size_t>(k)] = Cluster();
        for (std::size_t j = 0; j < lampsOf(group).size(); ++j)
            *lampOn(group, k, x % lanes, j) = Vec3(0.f);
    }
    if (!lampMet_.empty())
        lampMet_[pixel] = 0;
    if (mirrorOf_[pixel] >= 0)
        for (MirrorCluster& c :
             mirrors_[static_cast<std::size_t>(y)][static_cast<std::size_t>(mirrorOf_[pixel])].clusters) {
            c.weight = 0.f;
            c.light = LightParts();
        }
}
} // namespace hygros::render
