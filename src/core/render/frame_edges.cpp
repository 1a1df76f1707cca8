/// Where there is more to find out about a frame's pixels, and how many looks go there.
#include "render/frame.h"

#include "base/parallel.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::render {
using shot::Shot;

float Frame::lampShare(int x, int y, float& lamps) const
{
    const std::size_t p = index(x, y), group = groupAt(x, y);
    const Cluster& c = clusters_[p * clusterCount];
    const auto which = lampsOf(group);
    lamps = 0.f;
    if (c.shaded == 0.f)
        return 0.f;
    for (std::size_t j = 0; j < which.size(); ++j)
        lamps += luminance(*lampOn(group, 0, x % lanes, j) * shot_->lamps[which[j]].intensity);
    lamps /= c.shaded;
    const float others = luminance(c.light.emitted + c.light.sun * sunLight_ + c.light.sky) / c.shaded;
    return lamps / std::max(1e-9f, lamps + others);
}

void Frame::findEdges(bool first)
{
    coverage_.resize(span_.size());
    // Lamps' light and their share of all.
    std::vector<float> lampLit(lampCount_ ? span_.size() : 0);
    std::vector<char> mostly(lampLit.size());
    if (lampCount_)
        parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
            for (int x = 0; x < width_; ++x) {
                const std::size_t p = index(x, static_cast<int>(row));
                mostly[p] = lampShare(x, static_cast<int>(row), lampLit[p]) > 0.3f;
            }
        });
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x) {
            const float t = clusters_[index(x, y) * clusterCount].t;
            bool edge = false;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const std::size_t p = index(std::clamp(x + dx, 0, width_ - 1), std::clamp(y + dy, 0, height_ - 1));
                    const Cluster* c = &clusters_[p * clusterCount];
                    edge = edge || c[1].weight > 0.f || c[0].t > 1.25f * t || t > 1.25f * c[0].t;
                }
            const std::int32_t mirror = mirrorOf_[index(x, y)];
            if (mirror >= 0)
                edge = edge || mirrors_[row][static_cast<std::size_t>(mirror)].clusters[1].weight > 0.f;
            bool steep = false;
            // (One look tells neither how light changes nor that there is nothing but sky.)
            if (!first && lampCount_ && !edge && mostly[index(x, y)]) {
                const float own = lampLit[index(x, y)];
                for (int dy = -1; dy <= 1 && !steep; ++dy)
                    for (int dx = -1; dx <= 1; ++dx) {
                        const float other =
                            lampLit[index(std::clamp(x + dx, 0, width_ - 1), std::clamp(y + dy, 0, height_ - 1))];
                        steep = steep || other > 1.4f * own || own > 1.4f * other;
                    }
            }
            // The sun's own disc is small and bright, as is a lamp that is seen itself: how much of a pixel they cover
            // is all there is to it.
            int met = 0;
            if (lampCount_)
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx)
                        met += lampMet_[index(std::clamp(x + dx, 0, width_ - 1), std::clamp(y + dy, 0, height_ - 1))];
            if ((met > 0 && met < 9) ||
                (t >= Shot::farDistance && shot_->sky && shot_->sky->hasSun() &&
                 view_.direction(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f)
                         .dot(shot_->sky->sunDirection()) >
                     std::cos(std::min(1.5f, shot_->sky->sunRadius() + 1.5f * view_.pixelAngle())))) {
                coverage_[index(x, y)] = Coverage::Disc;
                continue;
            }
            coverage_[index(x, y)] = edge                     ? Coverage::Edge
                                     : first                  ? Coverage::Even
                                     : t >= Shot::farDistance ? Coverage::BareSky
                                     : steep                  ? Coverage::Steep
                                                              : Coverage::Even;
        }
    });
    // One that is smaller than a few pixels may not have been met yet.
    constexpr float few = 4.f;
    for (const light::Lamp& lamp : shot_->lamps) {
        Vec2 at;
        float depth = 0.f;
        if (lamp.glow <= 0.f || lamp.shape == light::Lamp::Shape::Parallel || !view_.project(lamp.position, at, depth))
            continue;
        using Shape = light::Lamp::Shape;
        const float half = lamp.shape == Shape::Rectangle ? 0.5f * std::max(lamp.width, lamp.height)
                           : lamp.shape == Shape::Tube    ? 0.5f * lamp.width + lamp.radius
                                                          : lamp.radius,
                    wide = half / (depth * view_.pixelAngle());
        if (wide > few)
            continue;
        const float out = wide + 1.5f, right = static_cast<float>(width_), low = static_cast<float>(height_);
        const int x1 = static_cast<int>(std::clamp(at.x + out, 0.f, right)),
                  y1 = static_cast<int>(std::clamp(at.y + out, 0.f, low));
        for (int y = static_cast<int>(std::clamp(at.y - out, 0.f, low)); y < y1; ++y)
            for (int x = static_cast<int>(std::clamp(at.x - out, 0.f, right)); x < x1; ++x)
                coverage_[index(x, y)] = Coverage::Disc;
    }
}

namespace {
/// How light is seen, as 0 to 255: exposure and curve of a look, and a display's own curve, near enough to tell where
/// noise shows.
class Levels {
public:
    explicit Levels(const shot::Look& look) : scale_(std::exp2(look.exposure) / 0.18f)
    {
        std::size_t k = 0;
        for (std::size_t i = 0; i < table_.size(); ++i) {
            const float stops = lowest + static_cast<float>(i) * step;
            float shown = 0.18f * std::exp2(stops);
            if (const auto& c = look.curve; c.size() >= 2) {
                while (k + 2 < c.size() && c[k + 1].x < stops)
                    ++k;
                const float along = (stops - c[k].x) / std::max(1e-6f, c[k + 1].x - c[k].x);
                shown = c[k].y + std::clamp(along, 0.f, 1.f) * (c[k + 1].y - c[k].y);
            }
            table_[i] = 255.f * std::pow(std::clamp(shown, 0.f, 1.f), 1.f / 2.2f);
        }
    }
    float at(float luminance) const
    {
        const float place = (std::log2(std::max(1e-9f, luminance * scale_)) - lowest) / step,
                    inside = std::clamp(place, 0.f, static_cast<float>(table_.size() - 2));
        const auto i = static_cast<std::size_t>(inside);
        const float part = std::min(1.f, inside - static_cast<float>(i));
        return table_[i] * (1.f - part) + table_[i + 1] * part;
    }
    float slope(float luminance) const
    {
        const float apart = std::max(1e-6f, 0.1f * luminance);
        return (at(luminance + apart) - at(std::max(0.f, luminance - apart))) / (2.f * apart);
    }

private:
    static constexpr float lowest = -12.f, step = 0.1f;
    float scale_;
    std::array<float, 240> table_;
};
} // namespace

void Frame::shareLooks(int passes)
{
    looks_.clear();
    if (looksEvenly_ || !lit_)
        return; // or it is not known what is seen of a pixel
    // Coverage is looked for at evenly spread places: with the variance of as many by chance times `evenness` by their
    // square root (edges and strips of a quarter of a pixel at all angles, 16 to 288 looks: 0.9 to 2.5).
    constexpr float evenness = 2.2f, wantedLevels = 8.f; // squared, times passes
    constexpr float most = 16.f;
    std::vector<float> rgb;
    resolve(rgb);
    const Levels levels(shot_->look);
    const std::size_t pixels = span_.size();
    std::vector<float> light(pixels);
    parallelRanges(pixels, 8192, [&](std::size_t begin, std::size_t end) {
        for (std::size_t p = begin; p < end; ++p)
            light[p] = luminance(Vec3(rgb[p * 3], rgb[p * 3 + 1], rgb[p * 3 + 2]));
    });
    // What one look differs by, in levels squared: by what it meets, and by the light there.
    std::vector<float> covered(pixels), lights(pixels);
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x) {
            const std::size_t p = index(x, y);
            const Cluster* c = &clusters_[p * clusterCount];
            const float n = std::max(1.f, samples_[p]);
            float even = 0.f, light2 = 0.f;
            for (int k = 0; k < clusterCount; ++k) {
                if (c[k].weight == 0.f)
                    continue;
                const float share = c[k].weight / n;
                even += share * share;
                if (c[k].shaded < 2.f)
                    continue;
                const float mean = c[k].sum / c[k].shaded,
                            variance = std::max(0.f, c[k].square / c[k].shaded - mean * mean) * c[k].shaded /
                                       (c[k].shaded - 1.f),
                            left = std::max(0.f, through_[p].view[k]);
                // (Of so many looks at the pixel, those at this light.)
                light2 += share * share * variance * left * left * n / c[k].shaded;
            }
            const float slope = levels.slope(light[p]);
            lights[p] = light2 * slope * slope;
            if (coverage_[p] != Coverage::Edge && even > 0.999f)
                continue;
            // How far apart what covers the pixel may be, from what is seen around it; that nothing else was met yet
            // does not say that nothing else is there.
            float low = light[p], high = light[p];
            for (int dy = -2; dy <= 2; ++dy)
                for (int dx = -2; dx <= 2; ++dx) {
                    const float other =
                        light[index(std::clamp(x + dx, 0, width_ - 1), std::clamp(y + dy, 0, height_ - 1))];
                    low = std::min(low, other);
                    high = std::max(high, other);
                }
            // (A little of a bright sky between dark twigs is seen more than a twig before the sky.)
            const float apart = std::min(255.f, (high - low) * slope);
            covered[p] = apart * apart * std::max(0.5f * (1.f - even), 1.f / (n + 2.f));
        }
    });
    looks_.resize(pixels);
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        const auto count = static_cast<float>(passes), wanted = wantedLevels / count;
        for (int x = 0; x < width_; ++x) {
            const std::size_t p = index(x, y);
            // A few looks may have missed what neighbours met.
            float aroundCovered = 0.f, aroundLights = 0.f;
            for (int dy = -1; dy <= 1; ++dy)
                for (int dx = -1; dx <= 1; ++dx) {
                    const std::size_t q = index(std::clamp(x + dx, 0, width_ - 1), std::clamp(y + dy, 0, height_ - 1));
                    aroundCovered += covered[q] / 9.f;
                    aroundLights += lights[q] / 9.f;
                }
            const float byCover = std::max(covered[p], aroundCovered), byLight = std::max(lights[p], aroundLights);
            // As many a pass as bring it there when there are twice as many passes (cover: variance ∝ n^(−3/2)).
            const float enough = std::max(std::pow(evenness * byCover / wanted, 2.f / 3.f), byLight / wanted);
            const float more = (enough - samples_[p]) / count;
            looks_[p] = static_cast<std::uint8_t>(std::clamp(more, 0.f, most));
            if (byLight > byCover)
                looks_[p] |= shadeAll;
        }
    });
}
} // namespace hygros::render
