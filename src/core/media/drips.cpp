#include "media/drips.h"

#include "base/random.h"
#include "media/splash.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::media {
namespace {
constexpr float gravity = 9.81f;
constexpr double mostOften = 1.0 / 30.0; ///< a second and edge; more is a thread of water [s]
constexpr float swellsFrom = 0.45f;      ///< of its time until it falls a drop can be seen to hang

/// How far one has fallen, and how long that takes.
float fallen(float seconds, float last)
{
    return last * last / gravity * std::log(std::cosh(gravity * seconds / last));
}
float timeFor(float way, float last)
{
    const float e = std::exp(way * gravity / (last * last)); // cosh of what is looked for
    return last / gravity * std::log(e + std::sqrt(std::max(0.f, e * e - 1.f)));
}
} // namespace

double dripEvery(const geometry::Drip& drip, const DripSettings& s)
{
    const double volume = double(pi) / 6.0 * std::pow(double(dripDiameter), 3.0),
                 gets = double(s.rate) * double(s.share) * 1e-3 / 3600.0 * double(drip.catches);
    return gets > 0.0 ? std::max(mostOften, volume / gets) : std::numeric_limits<double>::infinity();
}

void dripsAt(const std::vector<geometry::Drip>& drips, const DripSettings& s, double seconds, double loop, float lasts,
             std::vector<Drop>& out, std::vector<Landing>& landed)
{
    const float last = rain::speed(1e3f * dripDiameter), takesUp = last / gravity; // the wind's speed, about [s]
    std::vector<Drop> burst;
    for (std::size_t i = 0; i < drips.size(); ++i) {
        const geometry::Drip& d = drips[i];
        const std::uint32_t own = hash32(static_cast<std::uint32_t>(i), s.seed, 0x64u);
        double every = dripEvery(d, s);
        if (!std::isfinite(every))
            continue;
        std::int64_t inLoop = 0;
        if (loop > 0.0) {
            // So many whole ones in a loop; of edges that drip more rarely as many as do in that time.
            if (every > loop && unitFloat(hash32(own, 3u)) >= static_cast<float>(loop / every))
                continue;
            inLoop = std::max<std::int64_t>(1, std::llround(loop / every));
            every = loop / static_cast<double>(inLoop);
        }
        const float takes = timeFor(d.fall, last);
        const double phase = double(unitFloat(own)) * every;
        const auto number = [&](std::int64_t k) {
            const std::int64_t turn = inLoop > 0 ? ((k % inLoop) + inLoop) % inLoop : k;
            return hash32(own, static_cast<std::uint32_t>(turn), 7u);
        };
        const auto leaves = [&](std::int64_t k) {
            return phase + (static_cast<double>(k) + 0.5 * double(unitFloat(number(k)))) * every;
        };
        const auto newest = static_cast<std::int64_t>(std::floor((seconds - phase) / every));
        const double back = double(takes) + double(std::max(lasts, splashLasts));
        const auto oldest = static_cast<std::int64_t>(std::floor((seconds - phase - back) / every)) - 1;
        for (std::int64_t k = newest + 1; k >= oldest; --k) {
            const auto age = static_cast<float>(seconds - leaves(k));
            const std::uint32_t name = number(k);
            Random random(name);
            const float diameter = dripDiameter * random.range(0.9f, 1.1f);
            if (age < 0.f) { // it hangs and grows, once the one before has gone
                const auto grown = static_cast<float>(1.0 - double(-age) / (leaves(k) - leaves(k - 1)));
                if (grown < swellsFrom || grown > 1.f)
                    continue;
                Drop drop{d.at - Vec3(0.f, 0.4f * diameter * std::cbrt(grown), 0.f), Vec3(0.f),
                          diameter * std::cbrt(grown)};
                drop.own = name;
                out.push_back(drop);
                continue;
            }
            const auto placeAt = [&](float t) {
                return d.at - Vec3(0.f, fallen(t, last), 0.f) + s.wind * (t - takesUp * (1.f - std::exp(-t / takesUp)));
            };
            if (age < takes) {
                Drop drop{placeAt(age),
                          s.wind * (1.f - std::exp(-age / takesUp)) - Vec3(0.f, last * std::tanh(age / takesUp), 0.f),
                          diameter};
                drop.own = name;
                drop.age = age;
                out.push_back(drop);
                continue;
            }
            const float since = age - takes, speed = last * std::tanh(takes / takesUp);
            const Vec3 place = placeAt(takes);
            if (since < lasts)
                landed.push_back({place, since, diameter, speed});
            burst.clear();
            splashOf(place + d.normal * 1e-3f, d.normal, diameter, speed, since, s.splashes, name, burst);
            for (Drop& small : burst) {
                small.own = hash32(name, static_cast<std::uint32_t>(out.size()));
                out.push_back(small);
            }
        }
    }
}
} // namespace hygros::media
