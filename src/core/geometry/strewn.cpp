#include "geometry/strewn.h"

#include "base/random.h"
#include "geometry/leaf_area.h"
#include "geometry/pattern.h"

#include <algorithm>
#include <cmath>

namespace hygros::geometry {

bool insideLeaf(LeafShape shape, float u, float v)
{
    if (u < -1.f || u > 1.f)
        return false;
    const float a = 0.5f * (u + 1.f); // 0 at the stalk
    switch (shape) {
    case LeafShape::Broad: {
        if (a < 0.22f)
            return std::abs(v) < 0.025f; // the stalk
        const float b = (a - 0.22f) / 0.78f;
        return std::abs(v) < 0.78f * std::sqrt(std::max(0.f, b)) * std::pow(1.f - b, 0.85f) * 1.15f;
    }
    case LeafShape::Narrow: return std::abs(v) < 0.22f * std::sin(pi * std::pow(a, 0.85f));
    case LeafShape::Petal: {
        const float r = std::sqrt(u * u + v * v * 1.7f), notch = u > 0.55f ? 0.5f * (u - 0.55f) : 0.f;
        return r < 0.95f && std::abs(v) >= notch * 0.6f && std::abs(v) < 0.25f + 0.6f * a;
    }
    case LeafShape::Scrap: {
        const float angle = std::atan2(v, u);
        return u * u + v * v < 0.5f + 0.2f * std::sin(3.f * angle + 1.f) + 0.15f * std::sin(7.f * angle);
    }
    case LeafShape::Ball: return u * u + v * v < 1.f;
    }
    return false;
}

int strewnAt(const Strewn& s, const Vec3& place, const Vec3& normal, Vec3& tilted)
{
    if (normal.y < 0.6f)
        return -1;
    // The wind sweeps them together: more in some places than in others.
    const float gathered = pattern(place.x / (14.f * s.size), place.z / (14.f * s.size), s.seed + 21u),
                heaps = 0.25f + 2.4f * gathered * gathered;
    // Cells of two of them; each may lie over the border into its neighbours, later ones over earlier.
    const float side = 1.3f * s.size, half = 0.5f * s.size;
    // So many in a cell that the share is covered, were they laid by chance: 1 − exp(−n·area).
    const float ofSquare = 0.87f * leafArea(s.shape); // their sizes differ
    const float number = -std::log(1.f - std::min(0.97f, s.share * heaps)) * side * side / (ofSquare * s.size * s.size);
    const auto cx = static_cast<std::int32_t>(std::floor(place.x / side)),
               cz = static_cast<std::int32_t>(std::floor(place.z / side));
    int found = -1;
    std::uint32_t highest = 0;
    for (int dz = -1; dz <= 1; ++dz)
        for (int dx = -1; dx <= 1; ++dx) {
            Random random(hash32(static_cast<std::uint32_t>(cx + dx), static_cast<std::uint32_t>(cz + dz), s.seed));
            const int count = std::min(8, static_cast<int>(number + random.next()));
            for (int i = 0; i < count; ++i) {
                const float x = (static_cast<float>(cx + dx) + random.next()) * side,
                            z = (static_cast<float>(cz + dz) + random.next()) * side, turn = 2.f * pi * random.next(),
                            size = random.range(0.7f, 1.15f) * half, curl = random.next(),
                            lean = 2.f * pi * random.next();
                const auto over = static_cast<std::uint32_t>(random.next() * 0x1p24f);
                const auto tint = static_cast<int>(random.next() * static_cast<float>(Strewn::tints));
                const float px = place.x - x, pz = place.z - z, c = std::cos(turn), w = std::sin(turn);
                const float u = (px * c + pz * w) / size, v = (-px * w + pz * c) / size;
                if (over < highest || !insideLeaf(s.shape, u, v))
                    continue;
                highest = over;
                found = std::min(tint, static_cast<int>(Strewn::tints) - 1);
                if (s.shape == LeafShape::Ball) {
                    const Vec3 across(u * c - v * w, 0.f, u * w + v * c);
                    tilted = (across + normal * std::sqrt(std::max(0.02f, 1.f - u * u - v * v))).normalized();
                    continue;
                }
                // Dry ones curl: they shine in their own direction.
                const float tilt = 0.15f + 0.45f * curl, along = 0.5f * curl * u;
                tilted = (normal + Vec3(std::cos(lean) * tilt + c * along, 0.f, std::sin(lean) * tilt + w * along))
                             .normalized();
            }
        }
    return found;
}
} // namespace hygros::geometry
