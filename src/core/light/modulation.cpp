#include "light/modulation.h"

#include "base/random.h"
#include "base/vec.h"

#include <algorithm>
#include <cmath>

namespace hygros::light {
namespace {
/// A value 0…1 for each whole number, and smoothly between.
double at(std::int64_t i, std::uint32_t seed)
{
    return double(hash32(static_cast<std::uint32_t>(i), seed) >> 8) * 0x1p-24;
}
/// Turns of something that goes round `rate` times a second, and how many until it comes back; 0: never.
struct Turns {
    double at;
    std::int64_t round;
    std::int64_t wrapped(std::int64_t i) const { return round ? ((i % round) + round) % round : i; }
    double value(std::int64_t i, std::uint32_t seed) const { return light::at(wrapped(i), seed); }
    double smooth(std::uint32_t seed) const
    {
        const double whole = std::floor(at), f = at - whole, e = f * f * (3.0 - 2.0 * f);
        const auto i = static_cast<std::int64_t>(whole);
        return value(i, seed) + (value(i + 1, seed) - value(i, seed)) * e;
    }
};
} // namespace

float strengthAt(Change change, double seconds, double rate, double depth, std::uint32_t seed, double loop)
{
    const auto turns = [&](double times) -> Turns {
        if (loop <= 0.0)
            return {seconds * rate * times, 0};
        const double whole = std::max(1.0, std::round(rate * times * loop));
        return {seconds / loop * whole, static_cast<std::int64_t>(whole)};
    };
    const Turns once = turns(1.0);
    double lost = 0.0; // 0…1
    switch (change) {
    case Change::Steady: return 1.f;
    case Change::Candle: {
        const double slow = turns(0.35).smooth(seed), quick = turns(2.2).smooth(seed + 1u);
        lost = 0.25 * slow + 0.75 * std::pow(quick, 4.0);
        break;
    }
    case Change::Fire:
        lost = 0.5 * once.smooth(seed) + 0.3 * turns(2.7).smooth(seed + 1u) + 0.2 * turns(6.1).smooth(seed + 2u);
        break;
    case Change::FailingTube: {
        // Each turn is calm, dark or stuttering.
        const double mood = once.value(static_cast<std::int64_t>(std::floor(once.at)), seed);
        if (mood > 0.75) {
            lost = 1.0;
        } else if (mood > 0.45) {
            const Turns quick = turns(9.0);
            lost = quick.value(static_cast<std::int64_t>(std::floor(quick.at)), seed + 1u) > 0.5 ? 1.0 : 0.1;
        } else {
            lost = 0.06 * turns(12.0).smooth(seed + 2u);
        }
        break;
    }
    case Change::Pulse: lost = 0.5 - 0.5 * std::cos(2.0 * M_PI * (once.at + at(0, seed))); break;
    case Change::Strobe: {
        const double phase = once.at + at(0, seed);
        lost = phase - std::floor(phase) < 0.2 ? 0.0 : 1.0;
        break;
    }
    }
    return static_cast<float>(1.0 - std::clamp(depth, 0.0, 1.0) * std::clamp(lost, 0.0, 1.0));
}
} // namespace hygros::light
