#include "light/lightning.h"

#include "base/random.h"

#include <algorithm>
#include <cmath>

namespace hygros::light {
namespace {
constexpr float shortest = 0.004f; ///< pieces, of the channel's length
constexpr int mostHalvings = 9;

float gaussian(Random& random)
{
    const float u = std::max(1e-7f, random.next()), v = random.next();
    return std::sqrt(-2.f * std::log(u)) * std::cos(2.f * pi * v);
}
Vec3 across(const Vec3& way, Random& random)
{
    const Vec3 side = (std::abs(way.y) < 0.9f ? Vec3(0.f, 1.f, 0.f) : Vec3(1.f, 0.f, 0.f)).cross(way).normalized(),
               other = way.cross(side);
    const float turn = 2.f * pi * random.next();
    return side * std::cos(turn) + other * std::sin(turn);
}

/// Points from one to the other, both of them.
std::vector<Vec3> wayBetween(const Vec3& from, const Vec3& to, float winding, float piece, Random& random)
{
    std::vector<Vec3> points{from, to};
    // Putting a middle aside by h of a piece's length l turns its halves by 4·h/l; all halvings together turn more than
    // the last of them by √2.
    const float aside = winding / (4.f * std::sqrt(2.f)) * std::sqrt(0.5f * pi);
    for (int k = 0; k < mostHalvings && (points[1] - points[0]).length() > piece; ++k) {
        std::vector<Vec3> finer;
        for (std::size_t i = 0; i + 1 < points.size(); ++i) {
            const Vec3 way = points[i + 1] - points[i];
            const float length = way.length();
            finer.push_back(points[i]);
            finer.push_back((points[i] + points[i + 1]) * 0.5f +
                            (length > 0.f ? across(way / length, random) : Vec3(0.f)) *
                                (std::abs(gaussian(random)) * aside * length * 1.15f));
        }
        finer.push_back(points.back());
        points = std::move(finer);
    }
    return points;
}

void branch(Bolt& bolt, const std::vector<Vec3>& way, float left, float share, float branches, float winding,
            float piece, int depth, Random& random)
{
    if (depth > 3)
        return;
    // About so many leave a whole channel.
    const float each = branches * (depth == 0 ? 9.f : 3.f) / static_cast<float>(way.size());
    for (std::size_t i = 1; i + 1 < way.size(); ++i) {
        const float down = static_cast<float>(i) / static_cast<float>(way.size());
        if (random.next() > each * 1.6f * (1.f - down) || bolt.pieces.size() > 6000)
            continue;
        const Vec3 on = (way.back() - way[i]).normalized();
        const float length = left * (1.f - down) * random.range(0.2f, 0.65f),
                    tilt = radians(20.0) + radians(35.0) * random.next();
        if (length < 4.f * piece)
            continue;
        const Vec3 to = way[i] + (on * std::cos(tilt) + across(on, random) * std::sin(tilt)) * length;
        const std::vector<Vec3> own = wayBetween(way[i], to, winding * 1.15f, piece, random);
        for (std::size_t k = 0; k + 1 < own.size(); ++k) // it thins to its end
            bolt.pieces.push_back(
                {own[k], own[k + 1],
                 share * 0.45f * (1.f - 0.8f * static_cast<float>(k) / static_cast<float>(own.size())), false});
        branch(bolt, own, length, share * 0.4f, branches, winding, piece, depth + 1, random);
    }
}
} // namespace

Bolt boltBetween(const Vec3& from, const Vec3& to, float branches, float winding, std::uint32_t seed)
{
    Bolt bolt;
    const float straight = (to - from).length();
    if (!(straight > 0.f))
        return bolt;
    Random random(hash32(seed, 0x51u));
    const float piece = shortest * straight;
    const std::vector<Vec3> way = wayBetween(from, to, winding, piece, random);
    for (std::size_t i = 0; i + 1 < way.size(); ++i) {
        bolt.pieces.push_back({way[i], way[i + 1], 1.f, true});
        bolt.length += (way[i + 1] - way[i]).length();
    }
    branch(bolt, way, straight, 1.f, std::max(0.f, branches), winding, piece, 0, random);
    return bolt;
}

std::vector<Stroke> strokesOf(double at, double count, std::uint32_t seed)
{
    Random random(hash32(seed, 0x52u));
    std::vector<Stroke> out{{at, 1.f, true}};
    const double more = std::max(0.0, count - 1.0);
    auto others = static_cast<int>(more);
    if (double(random.next()) < more - others)
        ++others;
    if (others > 0) // one more or one less
        others += random.next() < 0.25f ? 1 : random.next() < 0.33f ? -1 : 0;
    for (int i = 0; i < std::min(others, 20); ++i) {
        at += 0.06 * std::exp(0.5 * double(gaussian(random)));
        out.push_back({at, 0.35f + 0.4f * random.next(), false});
    }
    return out;
}

std::vector<double> strikesBetween(double first, double rate, double from, double to, std::uint32_t seed)
{
    std::vector<double> out;
    if (first >= from && first < to)
        out.push_back(first);
    constexpr int most = 100000;
    if (rate > 0.0) {
        Random random(hash32(seed, 0x53u));
        double at = first;
        for (int i = 0; i < most && at < to; ++i) {
            at += -std::log(std::max(1e-7, 1.0 - double(random.next()))) / rate;
            if (at >= from && at < to)
                out.push_back(at);
        }
    }
    return out;
}

double flashBetween(double from, double to, double glow)
{
    if (to <= 0.0 || to <= from || glow <= 0.0)
        return 0.0;
    const double a = std::max(0.0, from);
    return (std::exp(-a / glow) - std::exp(-to / glow)) / (to - from);
}
} // namespace hygros::light
