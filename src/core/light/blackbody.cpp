#include "light/blackbody.h"

#include <algorithm>
#include <cmath>

namespace hygros::light {
Vec3 blackbodyColour(float kelvin)
{
    const double t = std::clamp(double(kelvin), 1667.0, 25000.0);
    const double x = t < 4000.0 ? -0.2661239e9 / (t * t * t) - 0.2343589e6 / (t * t) + 0.8776956e3 / t + 0.179910
                                : -3.0258469e9 / (t * t * t) + 2.1070379e6 / (t * t) + 0.2226347e3 / t + 0.240390;
    const double y = t < 2222.0   ? -1.1063814 * x * x * x - 1.34811020 * x * x + 2.18555832 * x - 0.20219683
                     : t < 4000.0 ? -0.9549476 * x * x * x - 1.37418593 * x * x + 2.09137015 * x - 0.16748867
                                  : 3.0817580 * x * x * x - 5.87338670 * x * x + 3.75112997 * x - 0.37001483;
    const double X = x / y, Z = (1.0 - x - y) / y;
    return Vec3(static_cast<float>(3.2404542 * X - 1.5371385 - 0.4985314 * Z),
                static_cast<float>(-0.9692660 * X + 1.8760108 + 0.0415560 * Z),
                static_cast<float>(std::max(1e-3, 0.0556434 * X - 0.2040259 + 1.0572252 * Z)));
}

namespace {
/// CIE XYZ of a blackbody's radiance, Y in W/m²/sr.
void tristimulus(double kelvin, double out[3])
{
    out[0] = out[1] = out[2] = 0.0;
    const auto lobe = [](double w, double centre, double below, double above) {
        const double u = (w - centre) * (w < centre ? below : above);
        return std::exp(-0.5 * u * u);
    };
    for (int nm = 360; nm <= 830; nm += 5) {
        const double w = nm, metres = w * 1e-9;
        const double radiance = 1.191042972e-16 /
                                (std::pow(metres, 5) *
                                 std::expm1(std::min(700.0, 1.438776877e-2 / (metres * kelvin)))) *
                                5e-9;
        out[0] += radiance * (0.362 * lobe(w, 442.0, 0.0624, 0.0374) + 1.056 * lobe(w, 599.8, 0.0264, 0.0323) -
                              0.065 * lobe(w, 501.1, 0.0490, 0.0382));
        out[1] += radiance * (0.821 * lobe(w, 568.8, 0.0213, 0.0247) + 0.286 * lobe(w, 530.9, 0.0613, 0.0322));
        out[2] += radiance * (1.217 * lobe(w, 437.0, 0.0845, 0.0278) + 0.681 * lobe(w, 459.0, 0.0385, 0.0725));
    }
}
} // namespace

Vec3 blackbodyRadiance(float kelvin)
{
    double c[3];
    tristimulus(std::clamp(double(kelvin), 400.0, 20000.0), c);
    return Vec3(static_cast<float>(std::max(0.0, 3.2404542 * c[0] - 1.5371385 * c[1] - 0.4985314 * c[2])),
                static_cast<float>(std::max(0.0, -0.9692660 * c[0] + 1.8760108 * c[1] + 0.0415560 * c[2])),
                static_cast<float>(std::max(0.0, 0.0556434 * c[0] - 0.2040259 * c[1] + 1.0572252 * c[2])));
}

Vec2 blackbodyChromaticity(float kelvin)
{
    double c[3];
    tristimulus(std::clamp(double(kelvin), 400.0, 20000.0), c);
    const double sum = c[0] + c[1] + c[2];
    return Vec2(static_cast<float>(c[0] / sum), static_cast<float>(c[1] / sum));
}
} // namespace hygros::light
