#include "light/blackbody.h"

#include <algorithm>

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
    return Vec3(static_cast<float>(3.2404542 * X - 1.5371385 - 0.4985314 * Z), static_cast<float>(-0.9692660 * X + 1.8760108 + 0.0415560 * Z),
                static_cast<float>(std::max(1e-3, 0.0556434 * X - 0.2040259 + 1.0572252 * Z)));
}

} // namespace hygros::light
