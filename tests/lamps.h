#pragma once
/// A lamp over the floor for tests, of any shape.
#include "light/lamp.h"

namespace hygros::test {
inline light::Lamp lampOf(light::Lamp::Shape shape, const char* id = "lamp")
{
    light::Lamp l;
    l.id = id;
    l.shape = shape;
    l.position = Vec3(0.5f, 3.f, -6.f);
    l.aimAlong(Vec3(0.3f, -1.f, 0.1f).normalized());
    l.cosOuter = std::cos(radians(40));
    l.cosInner = std::cos(radians(25));
    l.radius = shape == light::Lamp::Shape::Parallel ? 0.8f : 0.15f;
    l.width = 1.2f;
    l.height = 0.5f;
    l.glow = 0.f;
    l.intensity = shape == light::Lamp::Shape::Parallel ? Vec3(4.f, 3.f, 2.f) : Vec3(20.f, 15.f, 10.f);
    return l;
}
} // namespace hygros::test
