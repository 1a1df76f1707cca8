#include "sim/smoke/advect.h"

#include "base/simd.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
const F8 ramp = {0, 1, 2, 3, 4, 5, 6, 7};
constexpr float oneCell = 4096.f;
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
        p.index = (toInt(z0) + Lattice::margin) * plane + (toInt(y0) + Lattice::margin) * row + toInt(x0) +
                  Lattice::pad;
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
    /// Weights of four values one apart, around a place between the middle two.
    static void weights(F8 u, F8 w[4])
    {
        const F8 a = u + 1.f, b = u, c = u - 1.f, d = u - 2.f;
        w[0] = b * c * d * (-1.f / 6);
        w[1] = a * c * d * 0.5f;
        w[2] = a * b * d * -0.5f;
        w[3] = a * b * c * (1.f / 6);
    }
    /// By cubics along each axis, held within the eight values around.
    F8 smooth(const float* a, const Place8& p) const
    {
        F8 wx[4], wy[4], wz[4];
        weights(p.fx, wx);
        weights(p.fy, wy);
        weights(p.fz, wz);
        F8 sum{}, least = f8(1e30f), most = f8(-1e30f);
        for (int k = 0; k < 4; ++k) {
            F8 level{};
            for (int j = 0; j < 4; ++j) {
                F8 c[4];
                const std::int32_t offset = (j - 1) * row + (k - 1) * plane - 1;
                if (p.together) {
                    const float* q = a + p.index[0] + offset;
                    for (int i = 0; i < 4; ++i)
                        c[i] = load8(q + i);
                } else {
                    alignas(32) float v[4][lanes];
                    for (int lane = 0; lane < lanes; ++lane) {
                        const float* q = a + p.index[lane] + offset;
                        for (int i = 0; i < 4; ++i)
                            v[i][lane] = q[i];
                    }
                    for (int i = 0; i < 4; ++i)
                        c[i] = load8(v[i]);
                }
                level += (c[0] * wx[0] + c[1] * wx[1] + c[2] * wx[2] + c[3] * wx[3]) * wy[j];
                if ((j == 1 || j == 2) && (k == 1 || k == 2)) {
                    least = min8(least, min8(c[1], c[2]));
                    most = max8(most, max8(c[1], c[2]));
                }
            }
            sum += level * wz[k];
        }
        return min8(max8(sum, least), most);
    }
    F8 value(const float* a, const Place8& p) const
    {
        F8 c[8];
        corners(a, p, c);
        return blend(c, p);
    }
};
/// Ways as they are kept, of values that stand in the middle of cells or, `beside` a cell on, on their low faces.
struct Backward {
    const Way& way;
    std::ptrdiff_t beside;
    F8 cells(const Field& f, std::ptrdiff_t i, bool on) const
    {
        const auto part = [&](std::ptrdiff_t at) {
            const I8 both = bits(load8(f.data() + at));
            return on ? both >> 16 : (both << 16) >> 16;
        };
        return beside == 0 ? toFloat(part(i)) * (1.f / oneCell)
                           : toFloat(part(i) + part(i - beside)) * (0.5f / oneCell);
    }
    Place8 place(const Sampler& s, std::ptrdiff_t i, int x, int y, int z) const
    {
        return s.at(static_cast<float>(x) + ramp - cells(way.x, i, false),
                    static_cast<float>(y) - cells(way.y, i, false), static_cast<float>(z) - cells(way.z, i, false));
    }
    Place8 target(const Sampler& s, std::ptrdiff_t i, int x, int y, int z) const
    {
        return s.at(static_cast<float>(x) + ramp + cells(way.x, i, true), static_cast<float>(y) + cells(way.y, i, true),
                    static_cast<float>(z) + cells(way.z, i, true));
    }
};
} // namespace

AmbientAt::AmbientAt(const Lattice& l, const Activity& activity, const Ambient& ambient) : blocks_(l.blocks())
{
    if (!ambient)
        return;
    const auto count = [&](std::size_t a) { return static_cast<std::size_t>(blocks_[a] + 1); };
    std::vector<std::uint8_t> wanted(count(0) * count(1) * count(2), 0);
    corners_.assign(wanted.size(), Vec3(0.f));
    for (const Activity::Span& s : activity.spans())
        for (int c = 0; c < 4; ++c)
            for (int bx = s.first; bx <= s.end; ++bx)
                wanted[(static_cast<std::size_t>(s.bz + (c >> 1)) * count(1) +
                        static_cast<std::size_t>(s.by + (c & 1))) *
                           count(0) +
                       static_cast<std::size_t>(bx)] = 1;
    parallelRanges(wanted.size(), 64, [&](std::size_t from, std::size_t to) {
        for (std::size_t i = from; i < to; ++i)
            if (wanted[i]) {
                const std::size_t x = i % count(0), y = i / count(0) % count(1), z = i / count(0) / count(1);
                corners_[i] = ambient(l.origin +
                                      Vec3(static_cast<float>(x), static_cast<float>(y), static_cast<float>(z)) *
                                          (l.h * static_cast<float>(Lattice::side)));
            }
    });
}

Vec3 AmbientAt::at(float x, float y, float z) const
{
    constexpr float perBlock = 1.f / static_cast<float>(Lattice::side);
    const float p[3] = {x * perBlock, y * perBlock, z * perBlock};
    int b[3];
    float u[3];
    for (std::size_t a = 0; a < 3; ++a) {
        b[a] = std::clamp(static_cast<int>(p[a]), 0, blocks_[a] - 1);
        u[a] = std::clamp(p[a] - static_cast<float>(b[a]), 0.f, 1.f);
    }
    const std::size_t row = static_cast<std::size_t>(blocks_[0] + 1),
                      plane = row * static_cast<std::size_t>(blocks_[1] + 1);
    const Vec3* c = &corners_[static_cast<std::size_t>(b[2]) * plane + static_cast<std::size_t>(b[1]) * row +
                              static_cast<std::size_t>(b[0])];
    const auto along = [&](const Vec3* q) { return q[0] + (q[1] - q[0]) * u[0]; };
    const auto across = [&](const Vec3* q) { return along(q) + (along(q + row) - along(q)) * u[1]; };
    return across(c) + (across(c + plane) - across(c)) * u[2];
}

void findWay(const Lattice& l, const Activity& activity, const Velocity& v, const AmbientAt& ambient, float seconds,
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
                const float fx = static_cast<float>(x), fy = static_cast<float>(y) + 0.5f,
                            fz = static_cast<float>(z) + 0.5f;
                const Vec3 a = ambient.at(fx, fy, fz), b = ambient.at(fx + static_cast<float>(lanes) - 1e-3f, fy, fz);
                const F8 u = (ramp + 0.5f) * (1.f / lanes);
                ax = a.x + (b.x - a.x) * u;
                ay = a.y + (b.y - a.y) * u;
                az = a.z + (b.z - a.z) * u;
            }
            const float half = 0.5f * perCell;
            const auto keep = [i](float* to, F8 back, F8 middle) {
                // Both ends of a bent way are as far from the middle's own speed, on either side.
                const auto fixed = [](F8 far) { return toInt(floor8(clamp8(far, -7.99f, 7.99f) * oneCell + 0.5f)); };
                const I8 both = (fixed(back) & i8(0xffff)) | (fixed(middle * 2.f - back) << 16);
                store8(to + i, fromBits(both));
            };
            const F8 mx = static_cast<float>(x) + ramp - (ux + ax) * half,
                     my = static_cast<float>(y) - (uy + ay) * half, mz = static_cast<float>(z) - (uz + az) * half;
            keep(wx, (sampler.value(v.x, sampler.at(mx + 0.5f, my, mz)) + ax) * perCell, (ux + ax) * perCell);
            keep(wy, (sampler.value(v.y, sampler.at(mx, my + 0.5f, mz)) + ay) * perCell, (uy + ay) * perCell);
            keep(wz, (sampler.value(v.z, sampler.at(mx, my, mz + 0.5f)) + az) * perCell, (uz + az) * perCell);
        }
    });
}

void advect(const Lattice& l, const Activity& activity, const Way& way, const float* from, float* to)
{
    const Sampler sampler(l);
    const Backward back{way, 0};
    activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            store8(to + i, sampler.smooth(from, back.place(sampler, i, x, y, z)));
        }
    });
}

void advectFaces(const Lattice& l, const Activity& activity, const Way& way, int axis, const float* from,
                 float* between, float* to)
{
    const Sampler sampler(l);
    const Backward back{way, axis == 0 ? 1 : axis == 1 ? l.row() : l.plane()};
    activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            store8(between + i, sampler.value(from, back.place(sampler, i, x, y, z)));
        }
    });
    activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const F8 again = sampler.value(between, back.target(sampler, i, x, y, z));
            F8 c[8];
            sampler.corners(from, back.place(sampler, i, x, y, z), c);
            const F8 least = min8(min8(min8(c[0], c[1]), min8(c[2], c[3])), min8(min8(c[4], c[5]), min8(c[6], c[7]))),
                     most = max8(max8(max8(c[0], c[1]), max8(c[2], c[3])), max8(max8(c[4], c[5]), max8(c[6], c[7])));
            const F8 value = load8(between + i) + (load8(from + i) - again) * 0.5f;
            store8(to + i, min8(max8(value, least), most));
        }
    });
}
} // namespace hygros::sim
