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
double smooth(double t, std::uint32_t seed)
{
    const double whole = std::floor(t), f = t - whole, e = f * f * (3.0 - 2.0 * f);
    const auto i = static_cast<std::int64_t>(whole);
    return at(i, seed) + (at(i + 1, seed) - at(i, seed)) * e;
}
} // namespace

float strengthAt(Change change, double seconds, double rate, double depth, std::uint32_t seed)
{
    const double t = seconds * rate;
    double lost = 0.0; // 0…1
    switch (change) {
    case Change::Steady: return 1.f;
    case Change::Candle: {
        const double slow = smooth(t * 0.35, seed), quick = smooth(t * 2.2, seed + 1u);
        lost = 0.25 * slow + 0.75 * std::pow(quick, 4.0);
        break;
    }
    case Change::Fire:
        lost = 0.5 * smooth(t, seed) + 0.3 * smooth(t * 2.7, seed + 1u) + 0.2 * smooth(t * 6.1, seed + 2u);
        break;
    case Change::FailingTube: {
        // Each turn is calm, dark or stuttering.
        const auto turn = static_cast<std::int64_t>(std::floor(t));
        const double mood = at(turn, seed);
        if (mood > 0.75)
            lost = 1.0;
        else if (mood > 0.45)
            lost = at(static_cast<std::int64_t>(std::floor(t * 9.0)), seed + 1u) > 0.5 ? 1.0 : 0.1;
        else
            lost = 0.06 * smooth(t * 12.0, seed + 2u);
        break;
    }
    case Change::Pulse: lost = 0.5 - 0.5 * std::cos(2.0 * double(pi) * (t + at(0, seed))); break;
    case Change::Strobe: {
        const double phase = t + at(0, seed);
        lost = phase - std::floor(phase) < 0.2 ? 0.0 : 1.0;
        break;
    }
    }
    return static_cast<float>(1.0 - std::clamp(depth, 0.0, 1.0) * std::clamp(lost, 0.0, 1.0));
}
} // namespace hygros::light
