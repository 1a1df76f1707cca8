/// A fine gas keeps to the large motion of a coarser one (Guide in gas.h).
#include "base/simd.h"
#include "sim/smoke/gas.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
/// Along one axis: where places of one lattice lie among those of another.
struct Along {
    /// Low neighbour in the other lattice, and how far it is on the way to the next.
    std::vector<int> low;
    std::vector<float> on;
    Along(int count, float first, float step, float otherFirst, float otherStep)
    {
        for (int i = 0; i < count; ++i) {
            const float at = (first + static_cast<float>(i) * step - otherFirst) / otherStep;
            const float floor = std::floor(at);
            low.push_back(static_cast<int>(floor));
            on.push_back(at - floor);
        }
    }
};
/// Of a component along `axis`: where its first face stands, by axis.
float firstFace(const Lattice& l, int axis, int along) { return l.origin[along] + (along == axis ? 0.f : 0.5f * l.h); }

/// What one component of a fine gas lacks, at the faces of the coarse one; 0 where that one has none.
class Lack {
public:
    Lack(const Gas& fine, const Guide& guide, int axis)
        : coarse_(guide.before->lattice), values_(coarse_.size()), fine_(fine.lattice), axis_(axis)
    {
        const auto of = [&](const Gas& g) { return (axis == 0 ? g.x : axis == 1 ? g.y : g.z).data(); };
        const float *was = of(*guide.before), *is = of(*guide.after), *now = of(fine);
        Field wanted(coarse_.size());
        std::vector<std::uint8_t> on = guide.before->activity.on();
        for (std::size_t i = 0; i < on.size(); ++i)
            on[i] |= guide.after->activity.on()[i];
        const Activity activity(coarse_, on);
        float* goal = wanted.data();
        activity.rows([&](int x0, int x1, int y, int z) {
            for (std::ptrdiff_t i = coarse_.at(x0, y, z), end = coarse_.at(x1, y, z); i < end; ++i)
                goal[i] = was[i] + (is[i] - was[i]) * guide.share;
        });
        std::array<Window, 3> windows{Window(*this, 0), Window(*this, 1), Window(*this, 2)};
        const std::ptrdiff_t row = coarse_.row(), plane = coarse_.plane();
        activity.rows([&](int x0, int x1, int y, int z) {
            for (int x = x0; x < x1; ++x) {
                const std::ptrdiff_t i = coarse_.at(x, y, z);
                if (goal[i] == 0.f) // nothing there, or a wall
                    continue;
                // What it would be if the coarse gas were put on the fine lattice and seen through the same window:
                // tent over tent is the cubic B-spline.
                float smooth = 0.f;
                for (int dz = -1; dz <= 1; ++dz)
                    for (int dy = -1; dy <= 1; ++dy) {
                        const float* g = goal + i + dz * plane + dy * row;
                        smooth += spline(dz) * spline(dy) * (spline(1) * (g[-1] + g[1]) + spline(0) * g[0]);
                    }
                values_.data()[i] = smooth - seen(now, windows, x, y, z);
            }
        });
    }
    /// Adds it to the fine component, blended between the coarse faces.
    void addTo(float* values, const Activity& activity, float by) const
    {
        const auto along = [&](int a) {
            return Along(fine_.n[static_cast<std::size_t>(a)], firstFace(fine_, axis_, a), fine_.h,
                         firstFace(coarse_, axis_, a), coarse_.h);
        };
        const Along ax = along(0), ay = along(1), az = along(2);
        const float* d = values_.data();
        const int first = -1, last[3] = {coarse_.n[0], coarse_.n[1], coarse_.n[2]};
        activity.rows([&](int x0, int x1, int y, int z) {
            const auto sy = static_cast<std::size_t>(y), sz = static_cast<std::size_t>(z);
            const int cy = ay.low[sy], cz = az.low[sz];
            if (cy < first || cz < first || cy + 1 > last[1] || cz + 1 > last[2])
                return;
            const float wy = ay.on[sy], wz = az.on[sz];
            const float *r00 = d + coarse_.at(0, cy, cz), *r10 = d + coarse_.at(0, cy + 1, cz),
                        *r01 = d + coarse_.at(0, cy, cz + 1), *r11 = d + coarse_.at(0, cy + 1, cz + 1);
            const auto between = [&](int c) {
                return (r00[c] * (1.f - wy) + r10[c] * wy) * (1.f - wz) + (r01[c] * (1.f - wy) + r11[c] * wy) * wz;
            };
            int at = first - 1;
            float low = 0.f, high = 0.f;
            float* v = values + fine_.at(0, y, z);
            for (int x = x0; x < x1; ++x) {
                const auto sx = static_cast<std::size_t>(x);
                const int cx = ax.low[sx];
                if (cx < first || cx + 1 > last[0])
                    continue;
                if (cx != at) {
                    low = cx == at + 1 && at >= first ? high : between(cx);
                    high = between(cx + 1);
                    at = cx;
                }
                v[x] += (low + (high - low) * ax.on[sx]) * by;
            }
        });
    }

private:
    static float spline(int d) { return d == 0 ? 2.f / 3.f : 1.f / 6.f; }
    /// Along an axis: by coarse place, the fine ones within a coarse cell's width of it, and how much each counts.
    struct Window {
        std::vector<int> begin, end;
        std::vector<float> weights;
        std::size_t stride;
        Window(const Lack& lack, int along)
        {
            const Lattice &c = lack.coarse_, &f = lack.fine_;
            const float first = firstFace(f, lack.axis_, along), H = c.h;
            stride = static_cast<std::size_t>(std::ceil(2.f * H / f.h)) + 1;
            const int n = f.n[static_cast<std::size_t>(along)];
            for (int i = 0; i < c.n[static_cast<std::size_t>(along)]; ++i) {
                const float at = firstFace(c, lack.axis_, along) + static_cast<float>(i) * H;
                const int low = static_cast<int>(std::floor((at - H - first) / f.h)) + 1;
                const int high = std::min(static_cast<int>(std::ceil((at + H - first) / f.h)),
                                          low + static_cast<int>(stride));
                float sum = 0.f;
                std::vector<float> w(stride, 0.f);
                for (int k = low; k < high; ++k)
                    sum += w[static_cast<std::size_t>(k - low)] = std::max(
                        0.f, 1.f - std::abs(first + static_cast<float>(k) * f.h - at) / H);
                // Beyond the lattice nothing moves.
                begin.push_back(std::clamp(low, 0, n));
                end.push_back(std::clamp(high, 0, n));
                for (std::size_t k = 0; k < stride; ++k) {
                    const std::size_t from = k + static_cast<std::size_t>(begin.back() - low);
                    weights.push_back(sum > 0.f && from < stride ? w[from] / sum : 0.f);
                }
            }
        }
    };
    float seen(const float* values, const std::array<Window, 3>& w, int x, int y, int z) const
    {
        const auto sx = static_cast<std::size_t>(x), sy = static_cast<std::size_t>(y), sz = static_cast<std::size_t>(z);
        const float *wx = w[0].weights.data() + sx * w[0].stride, *wy = w[1].weights.data() + sy * w[1].stride,
                    *wz = w[2].weights.data() + sz * w[2].stride;
        const int x0 = w[0].begin[sx], nx = w[0].end[sx] - x0;
        float sum = 0.f;
        for (int k = w[2].begin[sz]; k < w[2].end[sz]; ++k)
            for (int j = w[1].begin[sy]; j < w[1].end[sy]; ++j) {
                const float* v = values + fine_.at(x0, j, k);
                float row = 0.f;
                for (int i = 0; i < nx; ++i)
                    row += v[i] * wx[i];
                sum += row * wy[j - w[1].begin[sy]] * wz[k - w[2].begin[sz]];
            }
        return sum;
    }

    const Lattice& coarse_;
    Field values_;
    const Lattice& fine_;
    int axis_;
};
} // namespace

void GasStepper::follow(Gas& gas, const Guide& guide, float seconds) const
{
    constexpr float perSecond = 30.f;
    const float by = guide.keeps * (1.f - std::exp(-perSecond * seconds));
    Field* fields[3] = {&gas.x, &gas.y, &gas.z};
    for (int axis = 0; axis < 3; ++axis)
        Lack(gas, guide, axis).addTo(fields[axis]->data(), gas.activity, by);
}
} // namespace hygros::sim
