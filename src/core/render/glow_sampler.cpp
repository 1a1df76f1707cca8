#include "render/glow_sampler.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
constexpr int most = 24; ///< cells along a lattice's longest side
}

GlowSampler::GlowSampler(const shot::Shot& shot)
{
    double whole = 0.0;
    for (const media::Volume& v : shot.volumes) {
        if (!v.glow.heat || v.glow.lights <= 0.f || v.glow.heat->empty())
            continue;
        const media::BrickGrid::Means means = v.glow.heat->means(most);
        Lattice l;
        l.size = means.size;
        l.origin = means.origin;
        l.cell = means.cell;
        l.toIndex = v.glow.toHeat;
        l.toWorld = v.glow.toHeat.inverse();
        Vec3 step[3];
        for (int a = 0; a < 3; ++a) {
            Vec3 unit(0.f);
            unit[a] = l.cell;
            l.toWorld.multDirMatrix(unit, step[a]);
        }
        l.cellVolume = std::abs(step[0].dot(step[1].cross(step[2])));
        l.chance.assign(means.values.size(), 0.f);
        parallelFor(means.values.size(), [&](std::size_t c) {
            const auto nx = static_cast<std::size_t>(l.size[0]), ny = static_cast<std::size_t>(l.size[1]);
            const Vec3 corner(static_cast<float>(c % nx), static_cast<float>(c / nx % ny),
                              static_cast<float>(c / (nx * ny)));
            // Light rises steeply with heat, so that the mean heat would not do.
            F8 all = f8(0.f);
            Random random(hash32(static_cast<std::uint32_t>(c), 90111u));
            for (int k = 0; k < 8; ++k) {
                F8 x, y, z;
                for (int i = 0; i < lanes; ++i) {
                    const Vec3 p = (l.origin + (corner + Vec3(random.next(), random.next(), random.next())) * l.cell) *
                                   l.toWorld;
                    x[i] = p.x, y[i] = p.y, z[i] = p.z;
                }
                F8 g[3];
                media::glow8(v, x, y, z, g);
                all += g[0] * 0.2126f + g[1] * 0.7152f + g[2] * 0.0722f;
            }
            l.chance[c] = sum(all) * l.cellVolume * v.glow.lights;
        });
        // What 64 places did not find may be there all the same: phase sampling finds it.
        for (const float c : l.chance)
            whole += static_cast<double>(c);
        volumes_.push_back(std::move(l));
    }
    if (whole <= 0.0) {
        volumes_.clear();
        return;
    }
    double running = 0.0;
    for (Lattice& l : volumes_)
        for (float& c : l.chance) {
            c = static_cast<float>(static_cast<double>(c) / whole);
            running += static_cast<double>(c);
            l.sums.push_back(static_cast<float>(running));
        }
}

Vec3 GlowSampler::direction(const Vec3& point, Random& random) const
{
    const float u = random.next();
    const Lattice* l = &volumes_.back();
    for (const Lattice& each : volumes_)
        if (u < each.sums.back()) {
            l = &each;
            break;
        }
    auto c = static_cast<std::size_t>(
        std::min<std::ptrdiff_t>(std::upper_bound(l->sums.begin(), l->sums.end(), u) - l->sums.begin(),
                                 static_cast<std::ptrdiff_t>(l->sums.size()) - 1));
    while (c > 0 && l->chance[c] <= 0.f) // rounding at the very end
        --c;
    const auto nx = static_cast<std::size_t>(l->size[0]), ny = static_cast<std::size_t>(l->size[1]);
    const Vec3 corner(static_cast<float>(c % nx), static_cast<float>(c / nx % ny), static_cast<float>(c / (nx * ny)));
    const Vec3 p = (l->origin + (corner + Vec3(random.next(), random.next(), random.next())) * l->cell) * l->toWorld,
               way = p - point;
    return way.length2() > 1e-20f ? way.normalized() : Vec3(0, 1, 0);
}

float GlowSampler::density(const Vec3& point, const Vec3& direction) const
{
    float total = 0.f;
    for (const Lattice& l : volumes_) {
        // Cells along the ray, in lattice space; r stays in metres.
        const Vec3 o = (point * l.toIndex - l.origin) / l.cell;
        Vec3 d;
        l.toIndex.multDirMatrix(direction, d);
        d /= l.cell;
        float t0 = 0.f, t1 = 1e30f;
        for (int a = 0; a < 3; ++a) {
            const float inverse = 1.f / (std::abs(d[a]) < 1e-12f ? 1e-12f : d[a]), u = -o[a] * inverse,
                        v = (static_cast<float>(l.size[static_cast<std::size_t>(a)]) - o[a]) * inverse;
            t0 = std::max(t0, std::min(u, v));
            t1 = std::min(t1, std::max(u, v));
        }
        if (!(t0 < t1))
            continue;
        int cell[3], step[3];
        float next[3], delta[3];
        for (int a = 0; a < 3; ++a) {
            cell[a] = std::clamp(static_cast<int>(std::floor(o[a] + d[a] * t0)), 0,
                                 l.size[static_cast<std::size_t>(a)] - 1);
            step[a] = d[a] > 0.f ? 1 : -1;
            const bool level = std::abs(d[a]) < 1e-12f;
            delta[a] = level ? 1e30f : 1.f / std::abs(d[a]);
            next[a] = level ? 1e30f : (static_cast<float>(cell[a] + (step[a] > 0 ? 1 : 0)) - o[a]) / d[a];
        }
        for (float t = t0; t < t1;) {
            const int axis = next[0] < next[1] ? (next[0] < next[2] ? 0 : 2) : (next[1] < next[2] ? 1 : 2);
            const float leave = std::min(t1, next[axis]);
            const float chance =
                l.chance[static_cast<std::size_t>((cell[2] * l.size[1] + cell[1]) * l.size[0] + cell[0])];
            if (chance > 0.f && leave > t)
                total += chance / l.cellVolume * (leave * leave * leave - t * t * t) * (1.f / 3.f);
            t = std::max(t, leave);
            cell[axis] += step[axis];
            next[axis] += delta[axis];
            if (cell[axis] < 0 || cell[axis] >= l.size[static_cast<std::size_t>(axis)])
                break;
        }
    }
    return total;
}
} // namespace hygros::render
