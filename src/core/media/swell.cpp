#include "media/swell.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr double g = gravityOfWaves;
constexpr double turn = 2.0 * 3.14159265358979323846;
constexpr double longest = 1e-3, finest = 2000.0; ///< wavenumbers between which there is anything [1/m]

/// tanh(x) that does not lose what little it has.
double depthFactor(double k, double depth) { return std::tanh(std::min(50.0, k * depth)); }

/// Share of the deep water's energy that waves of a frequency keep over shallow ground (Kitaigorodskii).
double overGround(double frequency, double depth)
{
    const double k = wavenumberOf(frequency, depth), t = depthFactor(k, depth), x = 2.0 * k * depth;
    const double s = x < 100.0 ? x / std::sinh(x) : 0.0;
    return t * t / (1.0 + s);
}

/// ∫ f(k) d(ln k)
template <class F> double overScales(double from, double to, const F& f)
{
    from = std::max(from, longest);
    to = std::min(to, finest);
    if (!(to > from))
        return 0.0;
    const double span = std::log(to / from);
    const int steps = std::clamp(static_cast<int>(span * 120.0), 16, 2000);
    double out = 0.0;
    for (int i = 0; i < steps; ++i)
        out += f(from * std::exp(span * (i + 0.5) / steps));
    return out * span / steps;
}
/// How narrow waves at x times the peak's frequency are about the way they run.
double narrowness(double x)
{
    if (x < 0.95)
        return 2.61 * std::pow(std::max(0.56, x), 1.3);
    if (x < 1.6)
        return 2.28 * std::pow(x, -1.3);
    return std::pow(10.0, -0.4 + 0.8393 * std::exp(-0.567 * std::log(x * x)));
}
/// Over direction about the way they run; ∫ = 1.
double spread(double narrow, double angle)
{
    const double b = std::max(0.02, narrow),
                 c = 1.0 / std::cosh(std::min(300.0, b * std::abs(std::remainder(angle, turn))));
    return b / (2.0 * std::tanh(b * 0.5 * turn)) * c * c;
}
constexpr double farNarrow = 14.6; ///< of swell from elsewhere
} // namespace

double frequencyOf(double k, double depth)
{
    return std::sqrt((g * k + skinOfWater * k * k * k) * depthFactor(k, depth));
}

double groupSpeedOf(double k, double depth)
{
    if (!(k > 0.0))
        return std::sqrt(g * depth);
    const double t = depthFactor(k, depth), own = g * k + skinOfWater * k * k * k;
    return ((g + 3.0 * skinOfWater * k * k) * t + own * depth * (1.0 - t * t)) / (2.0 * std::sqrt(own * t));
}

double wavenumberOf(double frequency, double depth)
{
    if (!(frequency > 0.0))
        return 0.0;
    // Newton's steps on ω(k), from the deep water's or the shallow one's, whichever is more.
    double k = std::max(frequency * frequency / g, frequency / std::sqrt(g * std::max(1e-6, depth)));
    for (int i = 0; i < 30; ++i) {
        const double off = frequencyOf(k, depth) - frequency, step = off / groupSpeedOf(k, depth);
        k = std::max(0.1 * k, k - step);
        if (std::abs(step) < 1e-13 * k)
            break;
    }
    return k;
}

namespace {
/// JONSWAP's numbers for a wind and a fetch, gone over into Pierson and Moskowitz' where that is full.
struct Grown {
    double level = 0.0081, peak = 1.0, sharp = 1.0;
};
Grown grown(double wind, double fetch)
{
    Grown out;
    const double at20 = 1.026 * wind; // 19.5 m up, over the sea
    out.peak = std::pow(0.74 / 1.25, 0.25) * g / at20;
    const double far = g * fetch / (wind * wind), young = 22.0 * g / wind / std::cbrt(far);
    if (young <= out.peak)
        return out;
    // The peak is less sharp and the level nears its last one over the last factor of four in fetch.
    const double full = std::pow(22.0 * g / wind / out.peak, 3.0),
                 u = std::clamp(std::log(full / far) / std::log(4.0), 0.0, 1.0);
    out.level = (1.0 - u) * out.level + u * 0.076 * std::pow(far, -0.22);
    out.sharp = 1.0 + 2.3 * u;
    out.peak = young;
    return out;
}
double jonswap(const Grown& by, double frequency)
{
    const double r = by.peak / frequency, width = frequency <= by.peak ? 0.07 : 0.09,
                 off = (frequency - by.peak) / (width * by.peak);
    return by.level * g * g * std::pow(frequency, -5.0) * std::exp(-1.25 * r * r * r * r) *
           std::pow(by.sharp, std::exp(-0.5 * off * off));
}
/// Swell that has run far: narrow about its frequency (a normal law over frequency, 6 % wide).
double farSwell(const Swell& s, double frequency)
{
    if (!(s.otherHeight > 0.0))
        return 0.0;
    const double at = frequencyOf(turn / s.otherLength, s.depth), width = 0.06 * at, off = (frequency - at) / width;
    return off * off > 200.0
               ? 0.0
               : s.otherHeight * s.otherHeight / 16.0 * std::exp(-0.5 * off * off) / (width * std::sqrt(turn));
}
} // namespace

double Swell::peak() const { return wind > 0.0 ? grown(wind, fetch).peak : 0.0; }

double Swell::windWaves(double frequency) const
{
    if (!(wind > 0.0) || !(fetch > 0.0) || !(frequency > 0.0))
        return 0.0;
    return strength * strength * jonswap(grown(wind, fetch), frequency) * overGround(frequency, depth);
}

double Swell::energy(double frequency) const
{
    return frequency > 0.0 ? windWaves(frequency) + strength * strength * farSwell(*this, frequency) : 0.0;
}

double Swell::energy(double frequency, double way) const
{
    const double k = wavenumberOf(frequency, depth);
    return density(ring(k), way) * k / groupSpeedOf(k, depth);
}

Swell::Ring Swell::ring(double k) const
{
    const double frequency = frequencyOf(k, depth), over = groupSpeedOf(k, depth) / k;
    Ring out{windWaves(frequency) * over, strength * strength * farSwell(*this, frequency) * over, 1.0};
    if (out.own > 0.0)
        out.narrow = narrow * narrowness(frequency / peak());
    return out;
}

double Swell::density(const Ring& r, double way) const
{
    double out = 0.0;
    if (r.own > 0.0)
        out += r.own * ((1.0 - opposing) * spread(r.narrow, way - toward) +
                        (opposing > 0.0 ? opposing * spread(r.narrow, way - toward + 0.5 * turn) : 0.0));
    if (r.other > 0.0)
        out += r.other * spread(farNarrow, way - otherToward);
    return out;
}

double Swell::density(double kx, double kz) const
{
    const double k = std::hypot(kx, kz);
    return k > 0.0 ? density(ring(k), std::atan2(kx, -kz)) : 0.0;
}

double Swell::variance(double from, double to) const
{
    return overScales(from, to, [&](double k) { return energy(frequencyOf(k, depth)) * groupSpeedOf(k, depth) * k; });
}

double Swell::slopeVariance(double from, double to) const
{
    return overScales(from, to,
                      [&](double k) { return energy(frequencyOf(k, depth)) * groupSpeedOf(k, depth) * k * k * k; });
}

double Swell::significantHeight() const { return 4.0 * std::sqrt(variance(0.0, finest)); }

double Swell::meanPeriod() const
{
    const double to = turn / std::max(1e-3, shortest), m2 = overScales(0.0, to, [&](double k) {
                                                           const double w = frequencyOf(k, depth);
                                                           return w * w * energy(w) * groupSpeedOf(k, depth) * k;
                                                       });
    return m2 > 0.0 ? turn * std::sqrt(variance(0.0, to) / m2) : 0.0;
}

double Swell::peakLength() const
{
    double best = 0.0, at = 0.0;
    for (double k = longest; k < finest; k *= 1.01)
        if (const double e = energy(frequencyOf(k, depth)); e > best) {
            best = e;
            at = k;
        }
    return at > 0.0 ? turn / at : 0.0;
}

double whiteShare(double wind) { return std::min(1.0, 3.84e-6 * std::pow(std::max(0.0, wind), 3.41)); }
} // namespace hygros::media
