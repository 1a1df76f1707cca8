#include "media/spray.h"

#include "base/parallel.h"
#include "base/random.h"
#include "base/units.h"
#include "media/swell.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr float gravity = 9.81f;
constexpr float median = 1.1e-3f, spread = 0.5f, smallest = 0.3e-3f, largest = 6e-3f; ///< [m]
constexpr float fades = 0.5f; ///< seconds over which those go that are still in the air at the end
/// Of a law of 0 and 1.
float normalOf(Random& random)
{
    const float u = std::max(1e-7f, 1.f - random.next()), v = random.next();
    return std::sqrt(-2.f * std::log(u)) * std::cos(2.f * pi * v);
}
float diameterOf(Random& random) { return std::clamp(median * std::exp(spread * normalOf(random)), smallest, largest); }
/// Mean water in a drop [m³].
double meanVolume()
{
    static const double mean = [] {
        Random random(7u);
        double sum = 0.0;
        constexpr int count = 20000;
        for (int i = 0; i < count; ++i)
            sum += std::pow(double(diameterOf(random)), 3.0);
        return double(pi) / 6.0 * sum / count;
    }();
    return mean;
}
} // namespace

double sprayDrops(double volume) { return std::max(0.0, volume) / meanVolume(); }

double sprayMist(double wind)
{
    return extinctionOfVisibility(1000.0) * std::min(8.0, whiteShare(wind) / whiteShare(25.0));
}

Drop flying(const Vec3& place, const Vec3& velocity, float diameter, float seconds, const Vec3& wind)
{
    const float last = rain::speed(diameter * 1e3f), slows = last / gravity, left = std::exp(-seconds / slows);
    const Vec3 end = wind - Vec3(0.f, last, 0.f);
    Drop d;
    d.at = place + end * seconds + (velocity - end) * (slows * (1.f - left));
    d.velocity = end + (velocity - end) * left;
    d.diameter = diameter;
    d.age = seconds;
    return d;
}

double sprayShare(const std::vector<SprayBurst>& bursts, const SpraySettings& s)
{
    double fly = 0.0, thrown = 0.0;
    for (const SprayBurst& b : bursts) {
        if (b.age < 0.f || b.age >= sprayLasts)
            continue;
        const float lands = 2.6f * std::max(0.f, b.velocity.y) / gravity + 0.15f + b.lasts,
                    begun = b.lasts > 0.f ? std::min(1.f, b.age / b.lasts) : 1.f,
                    down = std::clamp((b.age / lands - 0.7f) / 0.6f, 0.f, 1.f);
        const double drops = sprayDrops(double(b.volume)) * double(begun * std::min(1.f, (sprayLasts - b.age) / fades));
        thrown += drops;
        fly += drops * double(1.f - down * down * (3.f - 2.f * down));
    }
    return std::min({1.0, double(s.most) / std::max(1.0, fly), sprayTried * double(s.most) / std::max(1.0, thrown)});
}

void sprayOf(const std::vector<SprayBurst>& bursts, const SpraySettings& s, std::vector<Drop>& out)
{
    const double kept = sprayShare(bursts, s);
    const float grows = std::min(14.f, static_cast<float>(std::sqrt(1.0 / kept)));
    std::vector<std::vector<Drop>> each(bursts.size());
    parallelFor(bursts.size(), [&](std::size_t k) {
        const SprayBurst& b = bursts[k];
        if (b.age < 0.f || b.age >= sprayLasts)
            return;
        Random counting(hash32(b.own, 1u));
        const auto count = static_cast<std::uint32_t>(sprayDrops(double(b.volume)) * kept + double(counting.next()));
        const float fast = b.velocity.length();
        for (std::uint32_t i = 0; i < count; ++i) {
            const std::uint32_t own = hash32(b.own, i, 3u);
            Random random(own);
            const float age = b.age - b.lasts * random.next();
            if (age < 0.f)
                continue;
            const float diameter = diameterOf(random);
            const auto some = [&] { return random.range(-1.f, 1.f); };
            const Vec3 aside = Vec3(some(), 0.4f * some(), some()) * b.wide;
            // Some are much faster than the rest: it goes to points.
            const float more = std::exp(b.scatter * normalOf(random));
            const Vec3 start = b.velocity * more + Vec3(some(), some(), some()) * (0.6f * b.scatter * fast);
            Drop d = flying(b.place + aside, start, diameter, age, s.wind);
            if (d.at.y < s.level && d.velocity.y < 0.f)
                continue;
            d.own = own;
            // Sheets tear as they go: what holds together at first falls apart into what it is made of.
            d.diameter = diameter * grows;
            d.share = std::clamp((sprayLasts - age) / fades, 0.f, 1.f);
            each[k].push_back(d);
        }
    });
    for (const std::vector<Drop>& drops : each)
        out.insert(out.end(), drops.begin(), drops.end());
}
} // namespace hygros::media
