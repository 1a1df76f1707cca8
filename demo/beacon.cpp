/// A beacon at the mouth of an estuary, and the channel that it marks: a file of its own, water level at y = 0.
#include "marl.h"

#include <array>
#include <cmath>

namespace hygros::demo {
namespace {
void piles(Marl& m, const Vec3& at)
{
    // Four timbers that lean together, stayed twice, on rubble.
    constexpr float foot = 1.7f, head = 0.75f, top = 5.2f;
    const auto leg = [&](int k, float y) {
        const float a = 0.5f * pi * (static_cast<float>(k) + 0.5f), u = (y + 3.f) / (top + 3.f),
                    r = foot + (head - foot) * u;
        return at + Vec3(r * std::cos(a), y, r * std::sin(a));
    };
    for (int k = 0; k < 4; ++k) {
        m.timber.tube(leg(k, -3.f), leg(k, top), 0.17f, 0.14f, 12);
        for (const auto& [low, high] : {std::array{0.7f, 2.3f}, std::array{2.6f, 4.4f}}) {
            m.timber.tube(leg(k, low), leg((k + 1) % 4, high), 0.055f, 0.055f, 8);
            m.timber.tube(leg(k, high), leg((k + 1) % 4, high), 0.06f, 0.06f, 8);
        }
        m.iron.tube(leg(k, 0.25f), leg(k, 0.62f), 0.185f, 0.185f, 14);
    }
    for (int i = 0; i < 60; ++i) {
        const auto n = static_cast<std::uint32_t>(i);
        const float a = 2.f * pi * unitFloat(hash32(n, 1u)), r = 2.6f * std::sqrt(unitFloat(hash32(n, 2u))),
                    s = 0.35f + 0.5f * unitFloat(hash32(n, 3u));
        m.stone.box(at + Vec3(r * std::cos(a), -0.75f - 0.5f * r, r * std::sin(a)), Vec3(s, 0.7f * s, 0.9f * s), 0.06f,
                    7.f * unitFloat(hash32(n, 4u)), unitFloat(hash32(n, 5u)));
    }
}
void platform(Marl& m, const Vec3& at)
{
    for (int i = 0; i < 9; ++i)
        m.plank.box(at + Vec3(-0.96f + 0.24f * static_cast<float>(i), 5.28f, 0.f), Vec3(0.21f, 0.06f, 2.1f), 0.01f);
    for (int k = 0; k < 8; ++k) {
        const float a = 0.25f * pi * static_cast<float>(k);
        const Vec3 post(1.f * std::cos(a), 5.3f, 1.f * std::sin(a)),
            next(1.f * std::cos(a + 0.25f * pi), 5.3f, 1.f * std::sin(a + 0.25f * pi));
        m.iron.tube(at + post, at + post + Vec3(0, 0.95f, 0), 0.018f, 0.018f, 6);
        for (const float y : {0.5f, 0.95f})
            m.iron.tube(at + post + Vec3(0, y, 0), at + next + Vec3(0, y, 0), 0.014f, 0.014f, 6);
    }
    // The lantern: a drum of glass under a cap, on a stalk.
    m.iron.tube(at + Vec3(0, 5.3f, 0), at + Vec3(0, 6.1f, 0), 0.11f, 0.09f, 12);
    m.iron.tube(at + Vec3(0, 6.08f, 0), at + Vec3(0, 6.16f, 0), 0.3f, 0.3f, 16);
    m.litGlass.tube(at + Vec3(0, 6.16f, 0), at + Vec3(0, 6.62f, 0), 0.2f, 0.2f, 16);
    m.iron.tube(at + Vec3(0, 6.62f, 0), at + Vec3(0, 6.95f, 0), 0.34f, 0.03f, 16);
    m.iron.tube(at + Vec3(0, 6.9f, 0), at + Vec3(0, 7.5f, 0), 0.02f, 0.008f, 6);
    // A day mark of slats, and a ladder down to the water.
    for (int i = 0; i < 7; ++i)
        m.plank.box(at + Vec3(0.f, 3.1f + 0.26f * static_cast<float>(i), 1.02f - 0.045f * static_cast<float>(i)),
                    Vec3(1.9f - 0.2f * static_cast<float>(i), 0.17f, 0.03f), 0.005f);
    const Vec3 low = at + Vec3(1.55f, -0.6f, 0.f), high = at + Vec3(1.0f, 5.4f, 0.f);
    for (const float z : {-0.22f, 0.22f})
        m.iron.tube(low + Vec3(0, 0, z), high + Vec3(0, 0, z), 0.025f, 0.025f, 6);
    for (int i = 1; i < 20; ++i) {
        const Vec3 p = low + (high - low) * (static_cast<float>(i) / 20.f);
        m.iron.tube(p - Vec3(0, 0, 0.22f), p + Vec3(0, 0, 0.22f), 0.016f, 0.016f, 6);
    }
}
} // namespace

void buildBeacon(Marl& m)
{
    const Vec3 at(4.f, 0.f, -26.f);
    piles(m, at);
    platform(m, at);
    // Withies along the channel, each pair farther out, some with a wisp of straw at the top.
    for (int i = 0; i < 14; ++i)
        for (int side = 0; side < 2; ++side) {
            const auto n = static_cast<std::uint32_t>(2 * i + side);
            const float z = -60.f - 55.f * static_cast<float>(i) - 14.f * unitFloat(hash32(n, 6u)),
                        x = (side ? 26.f : -20.f) + 0.05f * z * (side ? -0.4f : 0.3f) + 5.f * unitFloat(hash32(n, 7u)),
                        lean = 0.5f * (unitFloat(hash32(n, 8u)) - 0.5f);
            const Vec3 foot(x, -2.5f, z), head(x + lean, 2.6f + unitFloat(hash32(n, 9u)), z + 0.4f * lean);
            m.timber.tube(foot, head, 0.09f, 0.05f, 8);
            if (side == 0)
                for (int k = 0; k < 12; ++k) {
                    const float a = 2.f * pi * static_cast<float>(k) / 12.f;
                    m.grass.blade(head - Vec3(0, 0.5f, 0), head + Vec3(0.24f * std::cos(a), 0.15f, 0.24f * std::sin(a)),
                                  0.06f);
                }
        }
    // Low land on both sides, closing far out to the right.
    const auto land = [&](float x0, float x1, float z0, float z1, float rise, std::uint32_t seed) {
        constexpr int n = 60;
        const auto place = [&](int i, int j) {
            const float u = static_cast<float>(i) / n, v = static_cast<float>(j) / n, x = x0 + (x1 - x0) * u,
                        z = z0 + (z1 - z0) * v;
            const float dome = std::sin(pi * u) * std::sin(pi * v),
                        h = rise * dome * (0.75f + 0.35f * groundNoise(x * 0.004f, z * 0.004f, seed)) - 1.2f;
            return Vec3(x, h, z);
        };
        for (int j = 0; j < n; ++j)
            for (int i = 0; i < n; ++i)
                m.hills.quad(place(i, j), place(i, j + 1), place(i + 1, j + 1), place(i + 1, j));
    };
    land(-2600.f, -420.f, -900.f, -3400.f, 34.f, 3u);
    land(700.f, 3400.f, -1500.f, -4400.f, 58.f, 5u);
}
} // namespace hygros::demo
