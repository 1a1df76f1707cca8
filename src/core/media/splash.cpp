#include "media/splash.h"

#include "base/random.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr float gravity = 9.81f;
constexpr int leaps = 3;
} // namespace

float leapsLast(float speed, float bounce)
{
    float lasts = 0.f, own = speed;
    for (int k = 0; k < leaps; ++k)
        lasts += 2.f * (own *= bounce) / gravity;
    return lasts;
}

bool leapOf(const Vec3& place, const Vec3& normal, const Vec3& velocity, float diameter, float age, float bounce,
            std::uint32_t seed, Drop& out)
{
    Random random(seed);
    const float fast = std::max(0.f, -velocity.dot(normal));
    const Vec3 level = (velocity + normal * fast) * (0.5f * bounce);
    // Hailstones are not round, ground is not even: they leap aside.
    const float around = 2.f * pi * random.next(), aside = fast * bounce * random.range(0.1f, 0.5f);
    const Vec3 side =
        (std::abs(normal.y) < 0.9f ? Vec3(0.f, 1.f, 0.f) : Vec3(1.f, 0.f, 0.f)).cross(normal).normalized();
    Vec3 begin = place, start = normal * (fast * bounce * random.range(0.7f, 1.1f)) + level +
                                (side * std::cos(around) + normal.cross(side) * std::sin(around)) * aside;
    const float pull = gravity * std::max(0.05f, normal.y); // across the surface
    float left = age;
    for (int k = 0; k < leaps; ++k) {
        const float lasts = 2.f * start.dot(normal) / pull;
        if (left < lasts) {
            out = {begin + start * left - Vec3(0.f, 0.5f * gravity * left * left, 0.f),
                   start - Vec3(0.f, gravity * left, 0.f), diameter};
            return true;
        }
        // On along the surface, slower.
        begin += (start - normal * start.dot(normal)) * lasts;
        start = start * bounce;
        left -= lasts;
    }
    return false;
}

void splashOf(const Vec3& place, const Vec3& normal, float diameter, float speed, float age, float share,
              std::uint32_t seed, std::vector<Drop>& out)
{
    if (diameter < splashSmallest || age < 0.f || age > splashLasts)
        return;
    Random random(seed);
    // By what it brings: its width times its speed, against that of a drop of 2 mm.
    const float force = diameter * speed / (2e-3f * 6.49f);
    const auto count = static_cast<int>(share * (4.f + 8.f * std::min(2.f, force)) + random.next());
    const Vec3 side =
                   (std::abs(normal.y) < 0.9f ? Vec3(0.f, 1.f, 0.f) : Vec3(1.f, 0.f, 0.f)).cross(normal).normalized(),
               across = normal.cross(side);
    for (int i = 0; i < count; ++i) {
        const float around = 2.f * pi * (static_cast<float>(i) + 0.7f * random.next()) / static_cast<float>(count),
                    rises = radians(48.0) + radians(28.0) * random.next(), own = speed * random.range(0.08f, 0.27f),
                    size = diameter * random.range(0.12f, 0.32f);
        const Vec3 start = (side * std::cos(around) + across * std::sin(around)) * (own * std::cos(rises)) +
                           normal * (own * std::sin(rises));
        const Vec3 at = place + start * age - Vec3(0.f, 0.5f * gravity * age * age, 0.f);
        if ((at - place).dot(normal) < 0.f) // it lies again
            continue;
        out.push_back({at, start - Vec3(0.f, gravity * age, 0.f), size});
    }
}
} // namespace hygros::media
