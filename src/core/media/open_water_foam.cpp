/// What is white on water: where waves break and behind them, in wakes, and where waves meet what stands in them.
#include "media/open_water.h"

#include "base/parallel.h"
#include "base/random.h"
#include "geometry/pattern.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr int ages = 3; ///< half-lives that are looked back
/// Noise of foam, 0…1: in cells, or drawn out along a way.
float cellsAt(const Vec2& place, const Vec2& way, float old, std::uint32_t seed)
{
    const Vec2 streak(place.x * way.x + place.y * way.y, place.y * way.x - place.x * way.y);
    const Vec2 u = place / 0.25f, v(streak.x / 1.1f, streak.y / 0.16f);
    const float cells = geometry::pattern(u.x, u.y, seed + 3u), drawn = geometry::pattern(v.x, v.y, seed + 3u),
                fine = geometry::pattern(place.x / 0.06f, place.y / 0.06f, seed + 5u);
    return 0.5f * (cells + (drawn - cells) * std::clamp(2.f * old, 0.f, 1.f) + fine);
}
/// Share of the plane with noise under a value: so much is covered where foam is up to it.
float cellsUnder(float value)
{
    // By 256 steps of the value.
    constexpr int steps = 256;
    static const std::vector<float> shares = [] {
        std::vector<float> all(4096);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const auto n = static_cast<std::uint32_t>(i);
            all[i] = cellsAt(Vec2(100.f * unitFloat(hash32(n, 1u)), 100.f * unitFloat(hash32(n, 2u))), Vec2(1.f, 0.f),
                             0.f, 1u);
        }
        std::sort(all.begin(), all.end());
        std::vector<float> out(steps + 1);
        for (std::size_t i = 0; i <= steps; ++i)
            out[i] = static_cast<float>(std::lower_bound(all.begin(), all.end(), static_cast<float>(i) / steps) -
                                        all.begin()) /
                     static_cast<float>(all.size());
        return out;
    }();
    const float u = std::clamp(value, 0.f, 1.f) * steps;
    const std::size_t i = std::min(std::size_t(steps - 1), static_cast<std::size_t>(u));
    return shares[i] + (shares[i + 1] - shares[i]) * (u - static_cast<float>(i));
}
float smooth(float low, float high, float v)
{
    const float u = std::clamp((v - low) / (high - low), 0.f, 1.f);
    return u * u * (3.f - 2.f * u);
}
} // namespace

float OpenWater::drawnAt(const Vec2& from, float width, std::uint32_t seed) const
{
    float j = at(from, std::max(width, foamWidth_)).jacobian();
    if (width > foamWidth_) {
        // Of waves that are too small to be seen, by chance: the trace of what is drawn together varies as slopes do.
        const float left = field_->slopeVarianceUnder(width) - field_->slopeVarianceUnder(foamWidth_);
        j += std::sqrt(std::max(0.f, -2.f * left * std::log(std::max(1e-7f, 1.f - unitFloat(hash32(seed, 3u)))))) *
             std::cos(2.f * pi * unitFloat(hash32(seed, 4u)));
    }
    return j;
}

/// A crest that breaks runs on and leaves what it made: foam of an age is there where the crest now is so far ahead.
Vec2 OpenWater::crestOf(const Vec2& from, int age, std::uint32_t seed, float& left) const
{
    const float old = static_cast<float>(age) + unitFloat(hash32(seed, 11u + static_cast<std::uint32_t>(age)));
    left = std::exp2(-old);
    return from + settings_.crests * (old * settings_.foamHalves);
}

void OpenWater::settleFoam()
{
    white_.baseColour = Vec3(0.82f, 0.84f, 0.84f);
    white_.roughness = 0.9f;
    film_.baseColour = deep_ + (white_.baseColour - deep_) * 0.4f;
    film_.roughness = 0.6f;
    if (!(settings_.foam > 0.f))
        return;
    // Where it is white so that as much of it is as should be, cells and all; what is drawn together is seen from above
    // by that much less. Waves break that are not small beside the longest.
    foamWidth_ = std::max(0.02f, 0.01f * static_cast<float>(field_->modes().swell().peakLength()));
    const float wide = field_->tiles() > 0 ? static_cast<float>(field_->modes().tiles().front().length) : 1.f;
    struct Place {
        float j[ages + 1], left[ages + 1];
    };
    std::vector<Place> places(3000);
    parallelRanges(places.size(), 500, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            const auto n = static_cast<std::uint32_t>(i);
            const Vec2 from(wide * unitFloat(hash32(n, 21u)), wide * unitFloat(hash32(n, 22u)));
            Place& p = places[i];
            p.left[0] = 1.f;
            p.j[0] = field_->at(from.x, from.y, foamWidth_).jacobian();
            for (int k = 0; k < ages; ++k) {
                const Vec2 crest = crestOf(from, k, hash32(n, 23u), p.left[k + 1]);
                p.j[k + 1] = settings_.foamHalves > 0.f ? field_->at(crest.x, crest.y, foamWidth_).jacobian() : 9.f;
            }
        }
    });
    float low = -2.f, high = 2.f;
    for (int i = 0; i < 14; ++i) {
        whiteUnder_ = 0.5f * (low + high);
        double seen = 0.0, white = 0.0;
        for (const Place& p : places)
            if (p.j[0] > 0.f) {
                float in = 0.f;
                for (int k = 0; k <= ages; ++k)
                    in = std::max(in, whiteAt(p.j[k]) * p.left[k]);
                seen += double(p.j[0]);
                white += double(p.j[0] * in);
            }
        (white < double(settings_.foam) * seen ? low : high) = whiteUnder_;
    }
}

OpenWater::Foam OpenWater::foamAt(const Vec2& from, float width, std::uint32_t seed) const
{
    Foam out;
    const auto add = [&](float cover, float age) {
        if (cover > out.cover)
            out = {cover, age};
    };
    if (settings_.foam > 0.f) {
        add(whiteAt(drawnAt(from, width, seed)), 0.f);
        for (int k = 0; k < ages && settings_.foamHalves > 0.f && out.cover < 1.f; ++k) {
            float left;
            const Vec2 crest = crestOf(from, k, seed, left);
            if (left > out.cover)
                add(whiteAt(drawnAt(crest, width, hash32(seed, 31u + static_cast<std::uint32_t>(k)))) * left,
                    static_cast<float>(k + 1) / ages);
        }
    }
    for (const auto& w : wakes_)
        if (w->holds(from.x, from.y))
            if (const float own = w->foamAt(from.x, from.y) * settings_.foamOfWakes; own > out.cover)
                add(std::min(1.f, own), 1.f - own);
    if (settings_.shores && settings_.foamAtShores > 0.f) {
        // As far as waves wash, more where one comes in.
        const float high = at(from, width).height / std::max(0.02f, settings_.waveHeight),
                    reach = std::clamp(0.7f * settings_.waveHeight, 0.04f, 3.f),
                    // What was washed off there before has gone on with the waves.
            old = unitFloat(hash32(seed, 41u)), gone = 7.f * reach * old;
        const auto near = [&](const Vec2& p) {
            const float away = settings_.shores->away(p.x, p.y) / reach;
            return std::exp(-away * away);
        };
        const float here = near(from), washed = near(from - trailWay_ * gone) * (1.f - old);
        add(settings_.foamAtShores * std::max(here, 0.8f * washed) * (0.7f + 0.6f * std::clamp(high, -0.5f, 0.5f)),
            here > washed ? 0.2f : 0.3f + 0.7f * old);
    }
    return out;
}

const geometry::Material* OpenWater::whiteOf(const Vec2& from, float width, std::uint32_t seed) const
{
    const Foam foam = foamAt(from, width, seed);
    if (foam.cover <= 0.f)
        return nullptr;
    const float over = foam.cover - cellsUnder(cellsAt(from, trailWay_, foam.age, settings_.seed));
    // Thick foam stands up, thin foam is a film.
    return over <= 0.f ? nullptr : over < 0.12f + 0.25f * foam.age ? &film_ : &white_;
}

float shoreFoamOf(float waveHeight) { return smooth(0.03f, 0.35f, waveHeight); }
} // namespace hygros::media
