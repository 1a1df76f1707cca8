#include "render/sparkle.h"

#include "base/random.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
float sparkle(const geometry::Hit& hit, const Vec3& place, const Vec3& l, const Vec3& v, float wide)
{
    constexpr float glints = 110.f;     // of a square metre
    constexpr float smallest = 0.0015f; // cell [m]
    constexpr float turned = 0.02f;     // by so much of the way between light and eye others are seen
    constexpr float manyInACell = 20.f;
    if (hit.sparkle <= 0.f)
        return 1.f;
    const int level = std::max(0, static_cast<int>(std::floor(std::log2(std::max(wide, 1e-6f) / smallest))));
    const float cell = std::ldexp(smallest, std::min(level, 24)), mean = glints * cell * cell;
    if (mean > manyInACell)
        return 1.f;
    const auto at = [](float x) { return static_cast<std::uint32_t>(static_cast<std::int32_t>(std::floor(x))); };
    const std::uint32_t own = hash32(at(place.x / cell), at(place.y / cell), at(place.z / cell)) +
                              static_cast<std::uint32_t>(level) * 0x9e37u;
    // Each cell goes over to its next glints at ways of its own.
    const Vec3 h = (l + v).normalized() * (1.f / turned);
    std::uint32_t way = 0;
    for (int a = 0; a < 3; ++a)
        way = hash32(way, at(h[a] + unitFloat(hash32(own, static_cast<std::uint32_t>(a)))));
    // Poisson's law by its sums; each glint as bright as it happens to be, many faint and a few bright.
    const float u = unitFloat(hash32(own, way, 0x51ab5u));
    float term = std::exp(-mean), sum = term, bright = 0.f;
    for (std::uint32_t n = 1; u >= sum && n < 100; ++n) {
        const float e = std::log(std::max(1e-7f, unitFloat(hash32(own, way, n))));
        bright += 0.5f * e * e;
        term *= mean / static_cast<float>(n);
        sum += term;
    }
    return 1.f + hit.sparkle * (bright / mean - 1.f);
}
} // namespace hygros::render
