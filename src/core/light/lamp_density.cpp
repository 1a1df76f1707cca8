#include "light/lamp_density.h"

#include <algorithm>
#include <cmath>

namespace hygros::light {

float directionDensity(const Lamp& l, const Vec3& p, const Vec3& way, float& distance)
{
    const Vec3 to = l.position - p;
    if (l.shape == Lamp::Shape::Sphere) {
        const float d = std::max(to.length(), l.radius * 1.001f), s2 = l.radius * l.radius / (d * d),
                    spread = s2 / (1.f + std::sqrt(1.f - s2));
        if (to.length2() <= 1e-18f || way.dot(to.normalized()) < 1.f - spread)
            return 0.f;
        distance = std::max(0.f, d - clearanceOf(l));
        return 1.f / (2.f * pi * spread);
    }
    if (l.shape != Lamp::Shape::Rectangle && l.shape != Lamp::Shape::Disc)
        return 0.f;
    const float slope = -way.dot(l.direction), ahead = -to.dot(l.direction);
    if (slope <= 1e-6f || ahead <= 0.f)
        return 0.f;
    const float t = ahead / slope;
    const Vec3 q = way * t - to;
    const float x = q.dot(l.right), y = q.dot(l.up);
    if (l.shape == Lamp::Shape::Disc ? x * x + y * y > l.radius * l.radius
                                     : std::abs(x) > 0.5f * l.width || std::abs(y) > 0.5f * l.height)
        return 0.f;
    distance = std::max(0.f, t - clearanceOf(l));
    return t * t / (slope * facingArea(l));
}

float facingArea(const Lamp& l)
{
    switch (l.shape) {
    case Lamp::Shape::Sphere:
    case Lamp::Shape::Disc: return pi * l.radius * l.radius;
    case Lamp::Shape::Rectangle: return l.width * l.height;
    default: return 0.f;
    }
}
} // namespace hygros::light
