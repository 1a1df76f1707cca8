#pragma once
/// Places by chance, for what is scattered.
#include "base/random.h"
#include "elements/kinds.h"
#include "geometry/ray_scene.h"
#include "scene/parameter.h"

#include <vector>

namespace hygros::elements {

struct Spot {
    Vec3 place, up{0, 1, 0};
};
/// In a box, evenly. `centre`, `size` [m].
std::vector<Spot> insideBox(const Vec3& centre, const Vec3& size, int count, Random& random);
/// On a set's triangles, evenly by area: those that are no steeper than `steepest` [rad] (π: all). The objects that are
/// left out of it are; `up` points upward. Empty where there is no such triangle.
std::vector<Spot> onSurface(const geometry::PlacedSet& placed, int count, Random& random, float steepest = pi);

/// A set element where it stands, of it one object alone unless `part` is empty; `none` is noted where there is no set.
std::optional<geometry::PlacedSet> chosenObject(const FreezeContext& c, const std::string& id, const std::string& part,
                                                const std::string& none);

/// Turns (0, 1, 0) to `up` the short way.
Mat4 tilt(const Vec3& up);
/// From where a thing stands on its foot to a spot: enlarged, turned about the vertical [rad], then tilted.
Mat4 toSpot(const Vec3& foot, float size, float turn, const Spot& spot, bool tilted, float lift);

/// Where many are scattered: rows of their card for the box; those for a surface follow.
template <class S> void whereOf(scene::TableOf<S>& t)
{
    t.choice("onto", "scattered in", &S::onto, {"box", "surface"})
        .in("Where")
        .says("A box, or the surface of a set object.");
    t.point("centre", "centre", &S::centre).place().in("Where").when("onto=box").says("Middle of the box.");
    t.point("size", "size", &S::size).hard(0, 1e5).in("Where").when("onto=box").says("Its width, height and depth.");
}
/// How they stand there.
template <class S> void standingOf(scene::TableOf<S>& t)
{
    t.toggle("upright", "upright", &S::upright)
        .in("Where")
        .when("onto=surface")
        .says("They stand upright; else they stand off the surface.");
    t.number("lift", "lift", &S::lift, Quantity::Length)
        .hard(-1e4, 1e4)
        .soft(-5, 5)
        .in("Where")
        .says("How far they are lifted from their places; below zero they sink in.");
}
/// How each of many is turned and sized by chance; `own` is what its size is a multiple of.
template <class S> void chanceOf(scene::TableOf<S>& t, const std::string& own)
{
    t.number("turn", "turn", &S::turn, Quantity::Angle)
        .hard(0, 360)
        .soft(0, 360)
        .in("Chance")
        .says("Each is turned about the vertical by up to half of this either way.");
    t.number("smallest", "smallest", &S::smallest, Quantity::Plain)
        .hard(0.001, 1e3)
        .soft(0.1, 4)
        .log()
        .lead()
        .in("Chance")
        .says("Size of the smallest, as a multiple of " + own + ".");
    t.number("largest", "largest", &S::largest, Quantity::Plain)
        .hard(0.001, 1e3)
        .soft(0.1, 4)
        .log()
        .lead()
        .in("Chance")
        .says("Size of the largest.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Chance").says("Another number, another scatter.");
}
} // namespace hygros::elements
