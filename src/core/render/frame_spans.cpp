/// How far the air before a frame's pixels is looked at, and in how many pieces.
#include "render/frame.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
/// The pieces of one ray (as Segments8): which one a distance lies in, and the middle of one.
struct Pieces {
    float end;
    int count;
    float logarithm() const { return std::log(1.f + end / Segments8::a); }
    int at(float distance) const
    {
        const float place = static_cast<float>(count) * std::log(1.f + distance / Segments8::a) / logarithm();
        return std::clamp(static_cast<int>(place), 0, count - 1);
    }
    float middle(float piece) const
    {
        return Segments8::a * (std::exp(logarithm() * (piece + 0.5f) / static_cast<float>(count)) - 1.f);
    }
};
} // namespace

void Frame::findSpans()
{
    if (tracedPasses_ > 0)
        return growSpans();
    // Farthest of all that was seen in the 7×7 neighbours: later samples inside the pixel hardly ever see beyond it,
    // and what they do see there would stand in the air of what is near.
    constexpr int reach = 3;
    std::vector<float> seen(span_.size()), rowMax(span_.size());
    pieces_.resize(static_cast<std::size_t>(height_) * groupsPerRow());
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x)
            for (const Cluster *c = &clusters_[index(x, y) * clusterCount], *end = c + clusterCount; c < end; ++c)
                if (c->weight > 0.f)
                    seen[index(x, y)] = std::max(seen[index(x, y)], c->t);
        for (int x = 0; x < width_; ++x)
            rowMax[index(x, y)] = *std::max_element(&seen[index(std::max(0, x - reach), y)],
                                                    &seen[index(std::min(width_ - 1, x + reach), y)] + 1);
    });
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x)
            for (int near = std::max(0, y - reach); near <= std::min(height_ - 1, y + reach); ++near)
                span_[index(x, y)] = std::max(near == std::max(0, y - reach) ? 0.f : span_[index(x, y)],
                                              rowMax[index(x, near)]);
        // Under water there is no air before the eye.
        if (sampler_->eyeIn())
            std::fill_n(&span_[index(0, y)], width_, 1e-3f);
        settlePieces(y);
    });
}

void Frame::growSpans()
{
    // Where something was found far beyond what the air was looked at for, it would stand in the air of what is near.
    // What was seen of the air before is moved to the pieces that are there now.
    const std::size_t noisy = air_->noisyCount();
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_ && !sampler_->eyeIn(); x += lanes) {
            const std::size_t group = groupAt(x, y);
            const int columns = std::min(lanes, width_ - x);
            Pieces before[lanes], now[lanes];
            bool grown = false;
            float farthest = 0.f;
            for (int i = 0; i < columns; ++i) {
                const std::size_t p = index(x + i, y);
                before[i] = {span_[p], pieces_[group]};
                for (std::size_t k = 0; k < clusterCount; ++k)
                    if (const Cluster& c = clusters_[p * clusterCount + k]; c.weight > 0.f && c.t > 1.05f * span_[p]) {
                        span_[p] = c.t;
                        grown = true;
                    }
                farthest = std::max(farthest, span_[p]);
            }
            if (!grown)
                continue;
            pieces_[group] = static_cast<std::uint8_t>(segmentsFor(farthest, maxSegments));
            for (int i = 0; i < columns; ++i)
                now[i] = {span_[index(x + i, y)], pieces_[group]};
            const int looks = rowLooks_[row];
            if (sunLit_.empty() || looks == 0)
                continue;
            // Beyond where a ray ended another of the eight may have gone on; else light is not kept from there.
            const auto move = [&](std::uint8_t* counts, int together, const auto& looksOf) {
                std::uint8_t old[maxSegments * lanes];
                std::copy_n(counts, std::size_t(before[0].count / together * lanes), old);
                for (int i = 0; i < columns; ++i)
                    for (int s = 0; s < now[i].count / together; ++s) {
                        const float middle = now[i].middle(static_cast<float>(s * together) +
                                                           0.5f * static_cast<float>(together - 1));
                        int from = i;
                        for (int other = 0; other < columns && before[from].end < middle; ++other)
                            from = before[other].end > before[from].end ? other : from;
                        float share = 1.f;
                        if (before[from].end >= middle) {
                            const int piece = std::min(before[from].at(middle) / together,
                                                       before[from].count / together - 1);
                            share = static_cast<float>(old[piece * lanes + from]) / static_cast<float>(looksOf(piece));
                        }
                        counts[s * lanes + i] = static_cast<std::uint8_t>(
                            std::lround(std::min(1.f, share) * static_cast<float>(looksOf(s))));
                    }
            };
            move(sunLit_.at(group), 1, [&](int s) { return sunLooks(s, looks); });
            move(skyLit_.at(group), 3, [&](int g) { return 1 + (looks - 1 + 2 - (g + 2) % 3) / 3; });
            if (airNoise_.empty() || rowNoise_[row] == 0)
                continue;
            // Of noise beyond, its mean before.
            std::vector<std::uint16_t> old(maxSegments * noisy * 2 * lanes);
            std::uint16_t* means = airNoise_.at(group);
            std::copy_n(means, old.size(), old.begin());
            for (std::size_t q = 0; q < noisy * 2; ++q)
                for (int i = 0; i < columns; ++i) {
                    const auto of = [&](int piece) {
                        return (static_cast<std::size_t>(piece) * noisy * 2 + q) * lanes + static_cast<std::size_t>(i);
                    };
                    unsigned sum = 0;
                    for (int s = 0; s < before[i].count; ++s)
                        sum += old[of(s)];
                    for (int s = 0; s < now[i].count; ++s) {
                        const float middle = now[i].middle(static_cast<float>(s));
                        means[of(s)] = middle <= before[i].end
                                           ? old[of(before[i].at(middle))]
                                           : static_cast<std::uint16_t>(sum / static_cast<unsigned>(before[i].count));
                    }
                }
        }
    });
}

void Frame::settlePieces(int y)
{
    for (int x = 0; x < width_; x += lanes)
        pieces_[groupAt(x, y)] = static_cast<std::uint8_t>(segmentsFor(
            *std::max_element(&span_[index(x, y)], &span_[index(x, y)] + std::min(lanes, width_ - x)), maxSegments));
}
} // namespace hygros::render
