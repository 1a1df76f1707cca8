/// Force: what moves the air in a part of space.
#include "elements/air.h"
#include "elements/bake.h"
#include "elements/wind.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::elements {
namespace {
struct ForceSettings final : scene::SettingsOf<ForceSettings> {
    std::string form = "turbulence", to = "middle", object, follows;
    Vec3 position{0.f, 1.5f, 0.f}, size{4.f, 3.f, 4.f};
    double speed = 1.0, pull = 1.0, turns = 0.5, radius = 0.5, tilt = 0.0, heading = 0.0, eddies = 0.6, change = 1.0,
           grip = 2.0;
    std::int64_t seed = 1;
};
struct TowardKey {
    PlacedKey placed;
    Vec3 low, high;
    bool operator==(const TowardKey&) const = default;
};

/// Where it pulls to; null where there is nothing, and that is noted.
std::shared_ptr<const media::TowardSurface> surfaceFor(const FreezeContext& c, const ForceSettings& s,
                                                       const media::Force& force)
{
    const scene::Element* object = c.project.find(s.object);
    const auto placed = object ? placedSet(c, *object) : std::nullopt;
    if (!placed) {
        c.note("Choose the object whose surface it pulls to.");
        return nullptr;
    }
    const Vec3 low = force.centre - force.half, high = force.centre + force.half;
    auto found = c.store.get(
        TowardKey{PlacedKey(*placed), low, high},
        [&] {
            std::vector<std::array<Vec3, 3>> triangles;
            for (const geometry::Mesh& m : placed->set->meshes)
                for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3)
                    triangles.push_back({m.positions[m.indices[i]] * placed->toWorld,
                                         m.positions[m.indices[i + 1]] * placed->toWorld,
                                         m.positions[m.indices[i + 2]] * placed->toWorld});
            return std::make_shared<const media::TowardSurface>(triangles, low, high, c.job);
        },
        &c.job);
    if (found->isEmpty()) {
        c.note("No part of the object lies where it acts: it pulls nowhere.");
        return nullptr;
    }
    return found;
}
} // namespace

Kind forceKind()
{
    using S = ForceSettings;
    Kind k;
    k.id = "force";
    k.label = "Force";
    k.help =
        "Moves the air in a part of space: turbulence, a swirl, a pull or push, a hold. Plumes and tracers follow it.";
    k.family = scene::Family::Weather;
    k.handles = [](const scene::Element&) {
        Handles h;
        h.place = "position";
        h.size = "size";
        return h;
    };
    k.begin = [](scene::Element& e, const Seen& seen) {
        const Vec3 ahead = aheadOf(seen.camera, 8.f);
        e.set("position", Vec3(std::round(ahead.x * 10.f) * 0.1f, 1.5f, std::round(ahead.z * 10.f) * 0.1f));
    };
    scene::TableOf<S> t;
    t.choice("form", "form", &S::form, {"turbulence", "swirl", "pull", "hold"})
        .in("Force")
        .says("Eddies; a turning about an axis; toward its middle or away from it; or slowing what passes.");
    t.number("speed", "speed", &S::speed, Quantity::Speed)
        .hard(0, 200)
        .soft(0, 5)
        .lead()
        .in("Force")
        .when("form=turbulence")
        .says("How fast its eddies are: standard deviation of each component.");
    t.number("eddies", "eddies", &S::eddies, Quantity::Length)
        .hard(0.005, 1000)
        .soft(0.05, 10)
        .log()
        .in("Force")
        .when("form=turbulence")
        .says("Size of the largest eddies; smaller ones come with them.");
    t.number("change", "changes", &S::change, Quantity::Frequency)
        .hard(0, 100)
        .soft(0, 5)
        .in("Force")
        .when("form=turbulence")
        .says("How often a second the eddies are others.");
    t.whole("seed", "seed", &S::seed)
        .hard(0, 1e6)
        .soft(0, 100)
        .in("Force")
        .when("form=turbulence")
        .says("Another number, other eddies.");
    t.number("turns", "turns", &S::turns, Quantity::Frequency)
        .hard(-100, 100)
        .soft(-3, 3)
        .lead()
        .in("Force")
        .when("form=swirl")
        .says("Turns a second inside its radius, as the sun goes; below zero the other way round.");
    t.number("radius", "radius", &S::radius, Quantity::Length)
        .hard(0.005, 1000)
        .soft(0.05, 10)
        .log()
        .in("Force")
        .when("form=swirl")
        .says("Where it is fastest; outside of it the speed falls with the distance.");
    t.number("tilt", "leans", &S::tilt, Quantity::Angle)
        .hard(-180, 180)
        .soft(0, 90)
        .in("Force")
        .when("form=swirl")
        .says("How far its axis leans from the vertical.");
    t.number("heading", "toward", &S::heading, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(0, 360)
        .in("Force")
        .when("form=swirl")
        .says("Where its axis leans to, clockwise from −Z seen from above.");
    t.number("pull", "pull", &S::pull, Quantity::Speed)
        .hard(-200, 200)
        .soft(-5, 5)
        .lead()
        .in("Force")
        .when("form=pull")
        .says("Toward its middle; below zero it pushes away. Gas with heat or smoke in it takes it.");
    t.choice("to", "to", &S::to, {"middle", "surface"})
        .in("Force")
        .when("form=pull")
        .says("Where it pulls: to its middle, or from everywhere to the nearest place of a set object.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Force")
        .when("to=surface")
        .says("The set object whose surface it pulls to, as far as that lies where the force acts.");
    t.number("grip", "takes hold", &S::grip, Quantity::Frequency)
        .hard(0, 1000)
        .soft(0, 20)
        .lead()
        .in("Force")
        .says("How fast gas takes the motion on: share a second.");
    t.point("position", "position", &S::position).place().in("Place").says("Its middle.");
    t.point("size", "size", &S::size)
        .hard(0.01, 1e5)
        .in("Place")
        .says("Width, height and depth of the rounded space that it acts in; full in the middle, none at the border.");
    t.text("follows", "goes with", &S::follows)
        .linked("set")
        .carrier()
        .in("Place")
        .says("A set, or a part of one, that it is fixed to.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto f = [](double v) { return static_cast<float>(v); };
        media::Force force;
        force.id = c.element.id;
        force.form = s.form == "swirl"  ? media::Force::Form::Swirl
                     : s.form == "pull" ? media::Force::Form::Pull
                     : s.form == "hold" ? media::Force::Form::Hold
                                        : media::Force::Form::Turbulence;
        force.centre = s.position * carried(c, s.follows).value_or(Mat4());
        force.half = s.size * 0.5f;
        const float tilt = radians(s.tilt), heading = radians(s.heading);
        force.axis = Vec3(std::sin(tilt) * std::sin(heading), std::cos(tilt), -std::sin(tilt) * std::cos(heading));
        force.radius = f(s.radius);
        force.speed = force.form == media::Force::Form::Swirl  ? 2.f * pi * f(s.turns * s.radius)
                      : force.form == media::Force::Form::Pull ? f(s.pull)
                                                               : f(s.speed);
        force.grip = f(s.grip);
        force.pattern = media::gustPattern(f(s.eddies), static_cast<std::uint32_t>(s.seed));
        const Drifted d = boiled(c, s.change);
        force.pattern.offset = d.offset;
        force.pattern.evolution = d.evolution;
        force.pattern.loop = d.loop;
        if (force.form == media::Force::Form::Pull && s.to == "surface") {
            force.surface = surfaceFor(c, s, force);
            if (!force.surface)
                return;
        }
        c.shot.airflow.forces.push_back(std::move(force));
    };
    return k;
}

bool movesTheAir(const scene::Element& e) { return settingsOf<ForceSettings>(&e) || settingsOf<WindSettings>(&e); }
} // namespace hygros::elements
