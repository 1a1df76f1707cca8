/// The textures of the place, painted from noise.
#include "builder.h"

#include <algorithm>
#include <cmath>

namespace hygros::demo {
namespace {
std::uint8_t encoded(float linear)
{
    const float c = std::min(1.f, std::max(0.f, linear));
    const float s = c <= 0.0031308f ? 12.92f * c : 1.055f * std::pow(c, 1.f / 2.4f) - 0.055f;
    return static_cast<std::uint8_t>(s * 255.f + 0.5f);
}

template <class Colour> Picture paint(const char* name, int size, const Colour& colourAt)
{
    Picture p{name, size, {}};
    p.rgb.reserve(static_cast<std::size_t>(size * size * 3));
    for (int y = 0; y < size; ++y)
        for (int x = 0; x < size; ++x) {
            const Vec3 c = colourAt((static_cast<float>(x) + 0.5f) / static_cast<float>(size),
                                    (static_cast<float>(y) + 0.5f) / static_cast<float>(size));
            for (int k = 0; k < 3; ++k)
                p.rgb.push_back(encoded(c[k]));
        }
    return p;
}

/// Blocks in courses: which block, and how far from its joint (0 in the joint, 1 well inside).
struct Block {
    std::uint32_t id;
    float inside;
};
Block blockAt(float u, float v, int columns, int rows, float joint)
{
    const float y = v * static_cast<float>(rows);
    const int row = static_cast<int>(y);
    const float x = u * static_cast<float>(columns) + (row % 2 ? 0.5f : 0.f);
    const int column = static_cast<int>(x) % columns;
    const float fx = x - std::floor(x), fy = y - std::floor(y);
    const float ratio = static_cast<float>(rows) / static_cast<float>(columns);
    const float gap = std::min(std::min(fx, 1.f - fx) * ratio, std::min(fy, 1.f - fy));
    return {hash32(static_cast<std::uint32_t>(column), static_cast<std::uint32_t>(row)), std::min(1.f, gap / joint)};
}
} // namespace

std::vector<Picture> paintTextures()
{
    std::vector<Picture> all;
    all.push_back(paint("stone", 512, [](float u, float v) {
        const Block b = blockAt(u, v, 3, 6, 0.06f);
        const float tone = 0.85f + 0.3f * unitFloat(b.id);
        const float grain = 0.72f + 0.55f * tiledClouds(u * 12, v * 12, 12, 3);
        const float moss = std::max(0.f, tiledClouds(u * 5, v * 5, 5, 9) - 0.52f) * 3.f;
        const Vec3 stone = Vec3(0.27f, 0.25f, 0.22f) * (tone * grain);
        const Vec3 wet = lerp(stone, Vec3(0.10f, 0.12f, 0.05f), std::min(0.7f, moss));
        return wet * (0.35f + 0.65f * b.inside);
    }));
    all.push_back(paint("brick", 512, [](float u, float v) {
        const Block b = blockAt(u, v, 4, 12, 0.10f);
        const float tone = 0.65f + 0.7f * unitFloat(b.id);
        const float grain = 0.75f + 0.5f * tiledClouds(u * 24, v * 24, 24, 21);
        const Vec3 brick = Vec3(0.25f, 0.095f, 0.06f) * (tone * grain);
        return lerp(Vec3(0.22f, 0.20f, 0.18f) * grain, brick, b.inside);
    }));
    all.push_back(paint("planks", 512, [](float u, float v) {
        const float y = v * 4.f;
        const int plank = static_cast<int>(y);
        const float fy = y - std::floor(y), gap = std::min(1.f, std::min(fy, 1.f - fy) / 0.03f);
        const auto seed = static_cast<std::uint32_t>(40 + plank);
        const float fibre = tiledNoise(u * 8, v * 128, 128, seed) * 0.5f +
                            tiledClouds(u * 4, v * 32, 32, seed + 5) * 0.6f;
        const float tone = 0.8f + 0.4f * unitFloat(hash32(seed));
        return Vec3(0.155f, 0.125f, 0.095f) * (tone * (0.45f + 0.9f * fibre) * (0.25f + 0.75f * gap));
    }));
    all.push_back(paint("grass", 512, [](float u, float v) {
        const float clumps = tiledClouds(u * 6, v * 6, 6, 61), fine = tiledNoise(u * 128, v * 128, 128, 63);
        const float dry = std::min(1.f, std::max(0.f, (tiledClouds(u * 4, v * 4, 4, 71) - 0.4f) * 3.f));
        const Vec3 c = lerp(Vec3(0.060f, 0.085f, 0.028f), Vec3(0.145f, 0.125f, 0.062f), dry);
        return c * (0.45f + 0.7f * clumps + 0.35f * fine);
    }));
    all.push_back(paint("gravel", 512, [](float u, float v) {
        const float stones = tiledNoise(u * 90, v * 90, 90, 81), broad = tiledClouds(u * 7, v * 7, 7, 83);
        return Vec3(0.20f, 0.18f, 0.15f) * (0.45f + 0.55f * stones + 0.4f * broad);
    }));
    all.push_back(paint("bark", 256, [](float u, float v) {
        const float ridges = tiledNoise(u * 16, v * 4, 16, 91), fine = tiledClouds(u * 16, v * 16, 16, 93);
        return Vec3(0.085f, 0.072f, 0.058f) * (0.45f + 0.8f * ridges * fine + 0.35f * fine);
    }));
    return all;
}
} // namespace hygros::demo
