#include "media/particles.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr float airDensity = 1.2f, viscosity = 1.8e-5f, gravity = 9.81f;
constexpr float plateDrag = 1.2f;
} // namespace

float dragRate(bool flat, float weight, float diameter, float speed)
{
    if (flat) // a tumbling plate shows half of its area on average; weight against drag as Drift has it
        return 0.5f * airDensity * plateDrag * speed / weight;
    const float reynolds = airDensity * speed * diameter / viscosity, unit = viscosity / (weight * diameter * diameter);
    return unit * std::max(18.f * (1.f + 0.15f * std::pow(reynolds, 0.687f)), 0.33f * reynolds);
}

float terminalSpeed(bool flat, float weight, float diameter)
{
    // The speed at which what drag takes is what gravity gives; it grows with speed throughout.
    float low = 0.f, high = 1.f;
    while (dragRate(flat, weight, diameter, high) * high < gravity && high < 1e4f)
        high *= 2.f;
    for (int i = 0; i < 40; ++i) {
        const float middle = 0.5f * (low + high);
        (dragRate(flat, weight, diameter, middle) * middle < gravity ? low : high) = middle;
    }
    return 0.5f * (low + high);
}

bool beginsAt(const Feed& from, float u, float v, float w, Vec3& place, Vec3& normal)
{
    using Form = Feed::Form;
    if (from.form == Form::Points) {
        const std::size_t count = from.points ? from.points->size() : 0;
        if (count == 0)
            return false;
        const FeedPoint& p = (*from.points)[std::min(count - 1, static_cast<std::size_t>(u * float(count)))];
        place = p.at * from.toWorld;
        from.toWorld.multDirMatrix(p.normal, normal);
        normal = normal.length2() > 0.f ? normal.normalized() : Vec3(0.f, 1.f, 0.f);
        return true;
    }
    Vec3 p(2.f * u - 1.f, 2.f * v - 1.f, 2.f * w - 1.f);
    if (from.form == Form::Disc) {
        const float r = std::sqrt(u);
        p = Vec3(r * std::cos(pi * p.z), p.y, r * std::sin(pi * p.z));
    } else if (from.form == Form::Ball) {
        const float r = std::cbrt(u), flat = std::sqrt(std::max(0.f, 1.f - p.y * p.y));
        p = Vec3(flat * std::cos(pi * p.z), p.y, flat * std::sin(pi * p.z)) * r;
    }
    if (from.mask && from.mask->at(0.5f * (p.x + 1.f), 0.5f * (p.z + 1.f)) < 0.5f)
        return false;
    const Vec3 own(p.x * from.half.x, p.y * from.half.y, p.z * from.half.z);
    place = own * from.toWorld;
    // Of a disc up, of a line from its axis, else from the middle.
    Vec3 away = from.form == Form::Disc ? Vec3(0.f, 1.f, 0.f) : from.form == Form::Line ? Vec3(0.f, own.y, own.z) : own;
    if (!(away.length2() > 1e-12f))
        away = Vec3(0.f, 1.f, 0.f);
    from.toWorld.multDirMatrix(away, normal);
    normal = normal.length2() > 0.f ? normal.normalized() : Vec3(0.f, 1.f, 0.f);
    return true;
}
} // namespace hygros::media
