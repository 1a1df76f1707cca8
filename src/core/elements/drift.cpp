/// How far patterns have drifted: the integral of a velocity that may be keyed.
#include "elements/wind.h"
#include "media/wind.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
Drifted boiled(const FreezeContext& c, double boil)
{
    const double loop = c.project.time.loop;
    Drifted d;
    d.evolution = static_cast<float>(std::fmax(0.0, boil * c.seconds));
    if (loop > 0.0 && boil > 0.0) {
        d.loop.cycle = static_cast<std::uint32_t>(std::fmax(2.0, std::round(boil * loop)));
        d.evolution = static_cast<float>(c.seconds / loop) * static_cast<float>(d.loop.cycle);
    }
    return d;
}

namespace {
Vec3 level(double speed, double heading)
{
    const double turn = double(radians(heading));
    return {static_cast<float>(std::sin(turn) * speed), 0.f, static_cast<float>(-std::cos(turn) * speed)};
}

/// A velocity by two parameters of an element: speed and heading.
struct Course {
    const FreezeContext& c;
    const scene::Element& element; ///< of the whole project
    const scene::Parameter *speed, *heading;

    bool isSteady() const { return !element.track(speed->id) && !element.track(heading->id); }
    Vec3 at(double frame) const
    {
        const auto number = [&](const scene::Parameter& p) {
            return std::get<double>(scene::valueAt(c.whole, element, p, frame));
        };
        return level(number(*speed), number(*heading));
    }
    /// From time 0 to a time [m]; by frames, or longer pieces where that is far away.
    Vec3 way(double seconds) const
    {
        if (isSteady())
            return at(c.whole.frame) * static_cast<float>(seconds);
        const scene::TimeSettings& time = c.whole.time;
        const double frames = std::abs(seconds) * time.rate.perSecond();
        const int pieces = static_cast<int>(std::clamp(std::ceil(frames), 1.0, 20000.0));
        double x = 0.0, z = 0.0;
        for (int i = 0; i < pieces; ++i) {
            const Vec3 v = at(time.frameAt(seconds * (i + 0.5) / pieces));
            x += double(v.x);
            z += double(v.z);
        }
        return {static_cast<float>(x * seconds / pieces), 0.f, static_cast<float>(z * seconds / pieces)};
    }
};

Drifted drifted(const FreezeContext& c, const Course& course, double share, double boil)
{
    const double loop = c.project.time.loop;
    const auto way = [&](double seconds) { return course.way(seconds) * static_cast<float>(share); };
    Drifted d = boiled(c, boil);
    d.offset = way(c.seconds);
    if (loop <= 0.0)
        return d;
    const auto u = static_cast<float>(c.seconds / loop);
    if (const Vec3 back = way(loop); back != Vec3(0.f)) {
        d.loop.back = back;
        d.loop.turned = u * u * (3.f - 2.f * u);
    }
    return d;
}

Course courseOf(const FreezeContext& c, const scene::Element& e, const std::string& speed, const std::string& heading)
{
    const scene::Element* whole = c.whole.find(e.id);
    return {c, whole ? *whole : e, scene::findParameter(e.kind->parameters, speed),
            scene::findParameter(e.kind->parameters, heading)};
}
} // namespace

Drifted drifted(const FreezeContext& c, const std::string& speed, const std::string& heading, double boil)
{
    return drifted(c, courseOf(c, c.element, speed, heading), 1.0, boil);
}

Drifted drifted(const FreezeContext& c, const DriftSettings& s, double height)
{
    if (s.wind.empty())
        return drifted(c, "driftSpeed", "driftHeading", s.boil);
    const scene::Element* wind = c.project.find(s.wind);
    const auto* w = settingsOf<WindSettings>(wind);
    if (!w) {
        c.note("The wind that carries it is not there; it drifts by itself.");
        return drifted(c, "driftSpeed", "driftHeading", s.boil);
    }
    media::Wind profile;
    profile.velocity = Vec3(1.f, 0.f, 0.f);
    profile.reference = static_cast<float>(w->reference);
    profile.roughness = static_cast<float>(w->roughness);
    profile.ground = static_cast<float>(w->ground);
    const double share = c.project.silent(*wind) ? 0.0 : double(profile.mean(static_cast<float>(height)).x);
    return drifted(c, courseOf(c, *wind, "speed", "heading"), share, s.boil);
}
} // namespace hygros::elements
