#include "media/water_body.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr float through = 0.52f; ///< of radiance, out of the water [1]; what is mirrored back inside: 1.7 of it
constexpr float inside = 1.7f;
/// Radiance under the surface by the light that goes in, to what a matte surface in its place would have.
float outOf(float under)
{
    return std::clamp(pi * through * under / (1.f - inside * std::min(0.4f, under)), 0.f, 0.95f);
}
} // namespace

Vec3 WaterBody::deep() const { return over(Vec3(0.f), 1e6f, 1e6f); }

Vec3 WaterBody::over(const Vec3& ground, float metres, float down) const
{
    Vec3 out;
    for (int c = 0; c < 3; ++c) {
        const float lost = absorption[c] + back[c], u = lost > 0.f ? back[c] / lost : 0.f,
                    under = (0.0949f + 0.0794f * u) * u, left = std::exp(-lost * (metres + down));
        // Ground gives the light back to all sides; a look from above takes it through the surface as the water's own.
        out[c] = outOf(under * (1.f - left)) + ground[c] * left * (1.f - outOf(under));
    }
    return out;
}

float WaterBody::sight() const
{
    // What is scattered in all is some 50 times what is scattered back (T. J. Petzold's measurements, 1972: 0.018).
    return 4.8f / (absorption[1] + back[1] / 0.018f);
}

const std::vector<WaterType>& waterTypes()
{
    // Absorption: pure water and what is dissolved in it, which takes blue most; back: by what floats in it.
    static const std::vector<WaterType> all = {
        {"clear", "Clear sea", {Vec3(0.345f, 0.063f, 0.022f), Vec3(0.0007f, 0.0012f, 0.0026f)}},
        {"coast", "Coast", {Vec3(0.37f, 0.10f, 0.16f), Vec3(0.0065f, 0.0078f, 0.0090f)}},
        {"lake", "Lake", {Vec3(0.38f, 0.13f, 0.27f), Vec3(0.0060f, 0.0070f, 0.0080f)}},
        {"pond", "Pond", {Vec3(0.46f, 0.30f, 0.85f), Vec3(0.022f, 0.026f, 0.030f)}},
        {"silt", "Silt", {Vec3(0.50f, 0.42f, 1.05f), Vec3(0.34f, 0.30f, 0.28f)}},
        {"peat", "Peat", {Vec3(0.75f, 1.6f, 5.5f), Vec3(0.010f, 0.011f, 0.012f)}},
    };
    return all;
}
} // namespace hygros::media
