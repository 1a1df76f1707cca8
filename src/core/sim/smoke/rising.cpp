#include "sim/smoke/rising.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {

Rising risingOf(const Gas& gas, float around)
{
    constexpr double gravity = 9.81;
    const Lattice& l = gas.lattice;
    struct Level {
        double flux = 0.0, warm = 0.0, x = 0.0, z = 0.0, x2 = 0.0, z2 = 0.0;
    };
    std::vector<Level> levels(static_cast<std::size_t>(l.n[1]));
    for (const Activity::Span& s : gas.activity.spans())
        for (int z = s.bz * Lattice::side; z < (s.bz + 1) * Lattice::side; ++z)
            for (int y = s.by * Lattice::side; y < (s.by + 1) * Lattice::side; ++y)
                for (int x = s.first * Lattice::side; x < s.end * Lattice::side; ++x) {
                    const std::ptrdiff_t i = l.at(x, y, z);
                    const double heat = double(gas.heat.data()[i]);
                    if (!(heat > 0.0))
                        continue;
                    Level& level = levels[static_cast<std::size_t>(y)];
                    const Vec3 at = l.middle(x, y, z);
                    const double up = 0.5 * (double(gas.y.data()[i]) + double(gas.y.data()[i + l.row()]));
                    level.flux += gravity * heat / (heat + double(around)) * up;
                    level.warm += heat;
                    level.x += heat * double(at.x), level.x2 += heat * double(at.x) * double(at.x);
                    level.z += heat * double(at.z), level.z2 += heat * double(at.z) * double(at.z);
                }
    Rising out;
    const double area = double(l.h) * double(l.h);
    double flux = 0.0, flux2 = 0.0, warmest = 0.0;
    for (const Level& level : levels) {
        const double f = std::max(0.0, level.flux * area);
        flux += f;
        flux2 += f * f;
        warmest = std::max(warmest, level.warm);
    }
    if (flux <= 0.0)
        return out;
    out.buoyancy = flux2 / flux;
    // The lowest level that is as warm as a tenth of the warmest.
    const auto low = std::find_if(levels.begin(), levels.end(),
                                  [&](const Level& level) { return level.warm > 0.1 * warmest; });
    const double w = low->warm, mx = low->x / w, mz = low->z / w;
    out.foot = Vec3(static_cast<float>(mx), l.middle(0, static_cast<int>(low - levels.begin()), 0).y - 0.5f * l.h,
                    static_cast<float>(mz));
    // A disc that is evenly warm has its radius squared as the sum of both variances, twice.
    const double spread = 2.0 * std::max(0.0, low->x2 / w - mx * mx + low->z2 / w - mz * mz);
    out.radius = std::max(0.5f * l.h, static_cast<float>(std::sqrt(spread)));
    return out;
}
} // namespace hygros::sim
