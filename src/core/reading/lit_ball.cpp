#include "reading/lit_ball.h"

#include <algorithm>
#include <cmath>

namespace hygros::reading {

std::vector<float> litBall(const BallOf& ball, int size)
{
    std::vector<float> rgb(static_cast<std::size_t>(size) * static_cast<std::size_t>(size) * 3);
    const Vec3 toLamp = Vec3(-0.55f, 0.7f, 0.45f).normalized();
    const Vec3 sigma = ball.scattering + ball.absorption;
    const float radius = 0.5f * ball.diameter, margin = 1.18f;
    constexpr int steps = 24, octaves = 5;
    for (int py = 0; py < size; ++py)
        for (int px = 0; px < size; ++px) {
            const float x = ((static_cast<float>(px) + 0.5f) / static_cast<float>(size) * 2.f - 1.f) * margin,
                        y = (1.f - (static_cast<float>(py) + 0.5f) / static_cast<float>(size) * 2.f) * margin;
            // The field behind it: bright at the right, dark at the left, so that one sees how much comes through.
            const Vec3 field(x > 0.08f ? 0.42f : 0.03f);
            Vec3 light(0.f), through(1.f);
            const float inside = 1.f - x * x - y * y;
            if (inside > 0.f) {
                const float half = std::sqrt(inside) * radius, step = 2.f * half / steps;
                for (int i = 0; i < steps; ++i) {
                    const Vec3 p = Vec3(x * radius, y * radius, half - (static_cast<float>(i) + 0.5f) * step);
                    // The way out toward the lamp.
                    const float b = p.dot(toLamp),
                                way = -b + std::sqrt(std::max(0.f, b * b - p.dot(p) + radius * radius));
                    Vec3 gain(0.f);
                    float share = 1.f, thinner = 1.f;
                    media::Phase phase = ball.phase;
                    for (int k = 0; k < octaves; ++k) {
                        for (int c = 0; c < 3; ++c) {
                            const float albedo = sigma[c] > 0.f ? ball.scattering[c] / sigma[c] : 0.f;
                            gain[c] += share * std::pow(albedo, static_cast<float>(k)) *
                                       std::exp(-sigma[c] * way * thinner) * phase(-toLamp.z) * pi;
                        }
                        share *= 0.6f;
                        thinner *= 0.4f;
                        phase = phase.blunted(1);
                    }
                    for (int c = 0; c < 3; ++c) {
                        const float depth = radius - std::sqrt(std::min(radius * radius, p.length2()));
                        const float sky = 0.12f * std::exp(-0.5f * sigma[c] * depth);
                        const float left = std::exp(-sigma[c] * step),
                                    held = sigma[c] > 1e-9f ? (1.f - left) / sigma[c] : step;
                        light[c] += through[c] * held * ball.scattering[c] * (gain[c] + sky);
                        through[c] *= left;
                    }
                }
            }
            for (int c = 0; c < 3; ++c)
                rgb[(static_cast<std::size_t>(py) * static_cast<std::size_t>(size) + static_cast<std::size_t>(px)) * 3 +
                    static_cast<std::size_t>(c)] = light[c] + through[c] * field[c];
        }
    return rgb;
}
} // namespace hygros::reading
