#include "sim/smoke/advect.h"

#include "base/simd.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
const F8 ramp = {0, 1, 2, 3, 4, 5, 6, 7};
const I8 steps = {0, 1, 2, 3, 4, 5, 6, 7};

/// Eight places between cells of an array.
struct Place8 {
    I8 index;      ///< of the low corner
    F8 fx, fy, fz; ///< 0…1 from there
    bool together; ///< the low corners lie side by side
};

struct Sampler {
    explicit Sampler(const Lattice& l)
        : row(l.row()), plane(static_cast<std::int32_t>(l.plane())), top{static_cast<float>(l.n[0]) - 1e-3f,
                                                                         static_cast<float>(l.n[1]) - 1e-3f,
                                                                         static_cast<float>(l.n[2]) - 1e-3f}
    {
    }
    std::int32_t row, plane;
    float top[3];

    /// Of places in cells of the array: a whole number is where a value stands.
    Place8 at(F8 x, F8 y, F8 z) const
    {
        x = clamp8(x, -1.f, top[0]);
        y = clamp8(y, -1.f, top[1]);
        z = clamp8(z, -1.f, top[2]);
        const F8 x0 = floor8(x), y0 = floor8(y), z0 = floor8(z);
        Place8 p;
        p.fx = x - x0;
        p.fy = y - y0;
        p.fz = z - z0;
        p.index = (toInt(z0) + 1) * plane + (toInt(y0) + 1) * row + toInt(x0) + Lattice::pad;
        p.together = !any(p.index != i8(p.index[0]) + steps);
        return p;
    }
    /// The eight corners, x fastest.
    void corners(const float* a, const Place8& p, F8 c[8]) const
    {
        if (p.together) {
            const float* q = a + p.index[0];
            c[0] = load8(q);
            c[1] = load8(q + 1);
            c[2] = load8(q + row);
            c[3] = load8(q + row + 1);
            c[4] = load8(q + plane);
            c[5] = load8(q + plane + 1);
            c[6] = load8(q + plane + row);
            c[7] = load8(q + plane + row + 1);
            return;
        }
        const std::int32_t offsets[4] = {0, row, plane, plane + row};
        alignas(32) float near[lanes], far[lanes];
        for (int k = 0; k < 4; ++k) {
            for (int i = 0; i < lanes; ++i) {
                const float* q = a + p.index[i] + offsets[k];
                near[i] = q[0];
                far[i] = q[1];
            }
            c[2 * k] = load8(near);
            c[2 * k + 1] = load8(far);
        }
    }
    static F8 blend(const F8 c[8], const Place8& p)
    {
        const F8 a = c[0] + (c[1] - c[0]) * p.fx, b = c[2] + (c[3] - c[2]) * p.fx, d = c[4] + (c[5] - c[4]) * p.fx,
                 e = c[6] + (c[7] - c[6]) * p.fx;
        const F8 f = a + (b - a) * p.fy, g = d + (e - d) * p.fy;
        return f + (g - f) * p.fz;
    }
    F8 value(const float* a, const Place8& p) const
    {
        F8 c[8];
        corners(a, p, c);
        return blend(c, p);
    }
};
} // namespace

void findWay(const Lattice& l, const Activity& activity, const Velocity& v, const Ambient& ambient, float seconds,
             Way& way)
{
    const Sampler sampler(l);
    const float perCell = seconds / l.h; // metres a second to cells
    const std::ptrdiff_t row = l.row(), plane = l.plane();
    float *wx = way.x.data(), *wy = way.y.data(), *wz = way.z.data();
    activity.rows([&](int x0, int x1, int y, int z) {
        // The ambient motion changes little over a block: from its ends.
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const F8 ux = (load8(v.x + i) + load8(v.x + i + 1)) * 0.5f,
                     uy = (load8(v.y + i) + load8(v.y + i + row)) * 0.5f,
                     uz = (load8(v.z + i) + load8(v.z + i + plane)) * 0.5f;
            F8 ax{}, ay{}, az{};
            if (ambient) {
                const Vec3 a = ambient(l.middle(x, y, z)), b = ambient(l.middle(x + lanes, y, z));
                const F8 u = ramp * (1.f / lanes);
                ax = a.x + (b.x - a.x) * u;
                ay = a.y + (b.y - a.y) * u;
                az = a.z + (b.z - a.z) * u;
            }
            const float half = 0.5f * perCell;
            const F8 mx = static_cast<float>(x) + ramp - (ux + ax) * half,
                     my = static_cast<float>(y) - (uy + ay) * half, mz = static_cast<float>(z) - (uz + az) * half;
            store8(wx + i, (sampler.value(v.x, sampler.at(mx + 0.5f, my, mz)) + ax) * perCell);
            store8(wy + i, (sampler.value(v.y, sampler.at(mx, my + 0.5f, mz)) + ay) * perCell);
            store8(wz + i, (sampler.value(v.z, sampler.at(mx, my, mz + 0.5f)) + az) * perCell);
        }
    });
}

void advect(const Lattice& l, const Activity& activity, const Way& way, Stands stands, const float* from,
            float* between, float* to, bool corrected)
{
    const Sampler sampler(l);
    const std::ptrdiff_t beside = stands == Stands::FaceX   ? 1
                                  : stands == Stands::FaceY ? l.row()
                                  : stands == Stands::FaceZ ? l.plane()
                                                            : 0;
    const float *wx = way.x.data(), *wy = way.y.data(), *wz = way.z.data();
    const auto wayAt = [&](const float* w, std::ptrdiff_t i) {
        return beside == 0 ? load8(w + i) : (load8(w + i) + load8(w + i - beside)) * 0.5f;
    };
    float* first = corrected ? between : to;
    activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const Place8 p = sampler.at(static_cast<float>(x) + ramp - wayAt(wx, i),
                                        static_cast<float>(y) - wayAt(wy, i), static_cast<float>(z) - wayAt(wz, i));
            store8(first + i, sampler.value(from, p));
        }
    });
    if (!corrected)
        return;
    activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const F8 dx = wayAt(wx, i), dy = wayAt(wy, i), dz = wayAt(wz, i);
            const F8 px = static_cast<float>(x) + ramp, py = f8(static_cast<float>(y)), pz = f8(static_cast<float>(z));
            const F8 back = sampler.value(between, sampler.at(px + dx, py + dy, pz + dz));
            F8 c[8];
            sampler.corners(from, sampler.at(px - dx, py - dy, pz - dz), c);
            const F8 least = min8(min8(min8(c[0], c[1]), min8(c[2], c[3])), min8(min8(c[4], c[5]), min8(c[6], c[7]))),
                     most = max8(max8(max8(c[0], c[1]), max8(c[2], c[3])), max8(max8(c[4], c[5]), max8(c[6], c[7])));
            const F8 value = load8(between + i) + (load8(from + i) - back) * 0.5f;
            store8(to + i, min8(max8(value, least), most));
        }
    });
}
} // namespace hygros::sim
