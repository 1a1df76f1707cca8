#include "media/falling.h"
#include "media/falling_grid.h"

#include "base/random.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::media {
namespace rain {
namespace {
/// Gunn & Kinzer 1949, table 2: diameter [mm] and speed [m/s].
constexpr std::array<std::array<float, 2>, 35> speeds{
    {{0.f, 0.f},    {0.1f, 0.27f}, {0.2f, 0.72f}, {0.3f, 1.17f}, {0.4f, 1.62f}, {0.5f, 2.06f}, {0.6f, 2.47f},
     {0.7f, 2.87f}, {0.8f, 3.27f}, {0.9f, 3.67f}, {1.0f, 4.03f}, {1.2f, 4.64f}, {1.4f, 5.17f}, {1.6f, 5.65f},
     {1.8f, 6.09f}, {2.0f, 6.49f}, {2.2f, 6.90f}, {2.4f, 7.27f}, {2.6f, 7.57f}, {2.8f, 7.82f}, {3.0f, 8.06f},
     {3.2f, 8.26f}, {3.4f, 8.44f}, {3.6f, 8.60f}, {3.8f, 8.72f}, {4.0f, 8.83f}, {4.2f, 8.92f}, {4.4f, 8.98f},
     {4.6f, 9.03f}, {4.8f, 9.07f}, {5.0f, 9.09f}, {5.2f, 9.12f}, {5.4f, 9.14f}, {5.6f, 9.16f}, {5.8f, 9.17f}}};
} // namespace

float slope(float rate) { return 4.1f * std::pow(std::max(1e-4f, rate), -0.21f); }

float speed(float diameter)
{
    const auto above = std::find_if(speeds.begin() + 1, speeds.end(),
                                    [&](const auto& row) { return row[0] >= diameter; });
    if (above == speeds.end())
        return speeds.back()[1];
    const auto& low = *(above - 1);
    return low[1] + ((*above)[1] - low[1]) * (std::max(0.f, diameter) - low[0]) / ((*above)[0] - low[0]);
}

float brings(float rate)
{
    if (!(rate > 0.f))
        return 1.f;
    constexpr int steps = 96;
    const float l = slope(rate), width = (largest - smallest) / steps;
    float flux = 0.f; // mm³ a m² and s, which is 3.6·10⁻³ mm an hour
    for (int i = 0; i < steps; ++i) {
        const float d = smallest + (static_cast<float>(i) + 0.5f) * width;
        flux += perVolume * std::exp(-l * d) * width * (pi / 6.f) * d * d * d * speed(d);
    }
    return rate / (3.6e-3f * flux);
}

float numberBetween(float rate, float from, float to)
{
    const float l = slope(rate);
    return rate > 0.f ? brings(rate) * perVolume / l * (std::exp(-l * from) - std::exp(-l * to)) : 0.f;
}

float extinctionBetween(float rate, float from, float to)
{
    const float l = slope(rate);
    const auto left = [&](float d) { return std::exp(-l * d) * (d * d / l + 2.f * d / (l * l) + 2.f / (l * l * l)); };
    return rate > 0.f ? brings(rate) * 0.5f * pi * 1e-6f * perVolume * (left(from) - left(to)) : 0.f;
}
} // namespace rain

namespace snow {
float perVolume(float rate) { return 3800.f * std::pow(std::max(1e-3f, rate), -0.87f); }
float slope(float rate) { return 2.55f * std::pow(std::max(1e-3f, rate), -0.48f); }
float flake(float melted, float density) { return melted / std::cbrt(std::max(1e-3f, density)); }
float numberBetween(float rate, float from, float to)
{
    const float l = slope(rate);
    return rate > 0.f ? perVolume(rate) / l * (std::exp(-l * from) - std::exp(-l * to)) : 0.f;
}
float extinctionBetween(float rate, float from, float to, float density)
{
    const float l = slope(rate), size = flake(1.f, density);
    const auto left = [&](float d) { return std::exp(-l * d) * (d * d / l + 2.f * d / (l * l) + 2.f / (l * l * l)); };
    return rate > 0.f ? 0.5f * pi * 1e-6f * perVolume(rate) * size * size * (left(from) - left(to)) : 0.f;
}
} // namespace snow

FallingGrid gridOf(const Falling& f, std::size_t ofClass, std::size_t ofMoment)
{
    constexpr float inCell = 6.f; // on average
    const Falling::Class& c = f.classes[ofClass];
    const Falling::Moment& m = f.moments[ofMoment];
    FallingGrid g;
    g.side = std::clamp(std::cbrt(inCell / std::max(1e-9f, c.number)), 0.2f, 20.f);
    // Where the cells have come to: whole ones, and the rest of the way.
    const double way[3] = {static_cast<double>(m.carried.x), -static_cast<double>(c.speed) * m.seconds,
                           static_cast<double>(m.carried.z)};
    for (int a = 0; a < 3; ++a) {
        const double cells = way[a] / static_cast<double>(g.side);
        g.whole[static_cast<std::size_t>(a)] = std::floor(cells);
        g.rest[a] = static_cast<float>(cells - g.whole[static_cast<std::size_t>(a)]) * g.side;
    }
    return g;
}

void dropsIn(const Falling& f, std::size_t ofClass, std::size_t ofMoment, const Vec3& low, const Vec3& high,
             std::vector<Drop>& out)
{
    const Falling::Class& c = f.classes[ofClass];
    if (!(c.number > 0.f))
        return;
    const FallingGrid grid = gridOf(f, ofClass, ofMoment);
    const float side = grid.side, mean = c.number * side * side * side;
    const Vec3& rest = grid.rest;
    const Falling::Moment& m = f.moments[ofMoment];
    float first = 0.f; // of those that belong to this moment
    for (std::size_t i = 0; i < ofMoment; ++i)
        first += f.moments[i].share;
    std::int64_t from[3], to[3];
    const float beside = f.flutter; // what stands in a cell may be seen beside it
    for (int a = 0; a < 3; ++a) {
        from[a] = static_cast<std::int64_t>(std::floor((low[a] - beside - rest[a]) / side));
        // A border between cells is the end of the one before.
        to[a] = static_cast<std::int64_t>(std::ceil((high[a] + beside - rest[a]) / side)) - 1;
    }
    const float none = std::exp(-mean);
    const std::uint32_t own = hash32(f.seed, static_cast<std::uint32_t>(ofClass));
    const Vec3 velocity(f.wind.x, -c.speed, f.wind.z);
    for (std::int64_t z = from[2]; z <= to[2]; ++z)
        for (std::int64_t y = from[1]; y <= to[1]; ++y)
            for (std::int64_t x = from[0]; x <= to[0]; ++x) {
                const auto number = [&](std::int64_t at, int axis) {
                    return static_cast<std::uint32_t>(
                        at - static_cast<std::int64_t>(grid.whole[static_cast<std::size_t>(axis)]));
                };
                Random random(hash32(hash32(own, number(x, 0)), number(y, 1), number(z, 2)));
                // As many as chance has it (D. E. Knuth, The Art of Computer Programming 2, 3.4.1).
                for (float left = random.next(); left > none; left *= random.next()) {
                    Drop d{Vec3(0.f), Vec3(0.f)};
                    d.at = Vec3(static_cast<float>(x) + random.next(), static_cast<float>(y) + random.next(),
                                static_cast<float>(z) + random.next()) *
                               side +
                           Vec3(rest[0], rest[1], rest[2]);
                    const float turn = random.next();
                    if (f.flutter > 0.f) { // about where it falls, each in its own time
                        const float swing = 2.f * pi * (0.6f + 0.8f * random.next()) * f.flutterRate;
                        const auto phase = static_cast<float>(
                            std::fmod(m.seconds * static_cast<double>(swing), 2.0 * static_cast<double>(pi)));
                        const float a = phase + 2.f * pi * random.next(), b = phase + 2.f * pi * random.next();
                        d.at += Vec3(std::sin(a), 0.f, std::sin(b)) * f.flutter;
                        d.velocity = Vec3(std::cos(a), 0.f, std::cos(b)) * (f.flutter * swing);
                    }
                    bool within = turn >= first && turn < first + m.share && d.at.y > f.ground && d.at.y < f.top;
                    for (int a = 0; a < 3; ++a)
                        within = within && d.at[a] >= low[a] && d.at[a] < high[a];
                    if (!within)
                        continue;
                    d.velocity = f.flutter > 0.f ? d.velocity + velocity : velocity;
                    d.diameter = c.diameter;
                    if (f.form == Falling::Form::Leaves) {
                        d.own = hash32(static_cast<std::uint32_t>(random.next() * 0x1p24f), f.seed);
                        const double rate = static_cast<double>(f.tumble) * (0.5 + static_cast<double>(random.next()));
                        d.turned = static_cast<float>(std::fmod(m.seconds * rate, 1.0)) * 2.f * pi;
                    }
                    out.push_back(d);
                }
            }
}

void landingsIn(const Falling& f, std::size_t ofClass, std::size_t moment, const Vec3& low, const Vec3& high,
                float height, float lasts, std::vector<Landing>& out)
{
    const Falling::Class& c = f.classes[ofClass];
    thread_local std::vector<Drop> drops;
    // In strong wind by pieces of that time: what lies on slanting ways is not a box.
    const int pieces = std::clamp(static_cast<int>(std::ceil(f.wind.length() * lasts)), 1, 64);
    for (int k = 0; k < pieces; ++k) {
        const float begin = lasts * static_cast<float>(k) / static_cast<float>(pieces),
                    end = lasts * static_cast<float>(k + 1) / static_cast<float>(pieces);
        const Vec3 a = f.wind * begin, b = f.wind * end;
        // They have fallen on since, as if there were no ground.
        const Vec3 from(low.x + std::min(a.x, b.x), height - c.speed * end, low.z + std::min(a.z, b.z)),
            to(high.x + std::max(a.x, b.x), height - c.speed * begin, high.z + std::max(a.z, b.z));
        drops.clear();
        dropsIn(f, ofClass, moment, from, to, drops);
        for (const Drop& d : drops) {
            const float age = (height - d.at.y) / c.speed;
            const Vec3 at(d.at.x - f.wind.x * age, height, d.at.z - f.wind.z * age);
            if (age >= 0.f && age <= lasts && at.x >= low.x && at.x < high.x && at.z >= low.z && at.z < high.z)
                out.push_back({at, age, d.diameter, c.speed});
        }
    }
}
} // namespace hygros::media
