#include "sim/smoke/sharpen.h"

#include "base/simd.h"
#include "sim/smoke/slice.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
constexpr float period = 0.4f;   ///< that a pattern lasts [s]
constexpr float turnover = 0.4f; ///< how long an eddy has moved things [s]
constexpr float eddy = 7.f;      ///< its size in fine cells: it and half of it are shown
constexpr float farthest = 0.4f; ///< that it moves things, as a share of its size
constexpr int paces = 4;         ///< on the way there: so short that nothing is folded over
/// Standard deviation of a component of the curl of three octaves8() of two octaves and scale 1.
constexpr float spread = 0.95f;

struct Pattern {
    float gone, weight; ///< seconds since it was even, below 0 before; how much of it is seen
    std::uint32_t seed;
};
std::array<Pattern, 2> patternsAt(double time, std::uint32_t seed)
{
    std::array<Pattern, 2> out{};
    for (std::size_t k = 0; k < 2; ++k) {
        const double turns = time / static_cast<double>(period) + 0.5 * static_cast<double>(k),
                     whole = std::floor(turns), share = turns - whole;
        // Squares of both add up to one: what they move stays as much.
        out[k] = {static_cast<float>(share - 0.5) * period,
                  static_cast<float>(std::sin(share * static_cast<double>(pi))),
                  seed * 131u + static_cast<std::uint32_t>(static_cast<std::int64_t>(whole)) * 2u +
                      static_cast<std::uint32_t>(k)};
    }
    return out;
}

/// Displacement of unit spread at eight places.
void curl8(const media::Noise& n, F8 x, F8 y, F8 z, F8 out[3])
{
    const float e = 0.15f * n.scale;
    const auto slope = [&](std::uint32_t component, int along) {
        media::Noise own = n;
        own.seed += 7919u * component;
        F8 to[3] = {x, y, z}, from[3] = {x, y, z};
        to[along] = to[along] + e;
        from[along] = from[along] - e;
        return media::octaves8(own, to[0], to[1], to[2]) - media::octaves8(own, from[0], from[1], from[2]);
    };
    const float scale = n.scale / (2.f * e * spread);
    for (int a = 0; a < 3; ++a) {
        const int b = (a + 1) % 3, c = (a + 2) % 3;
        out[a] = (slope(static_cast<std::uint32_t>(c), b) - slope(static_cast<std::uint32_t>(b), c)) * scale;
    }
}

/// Of two fields between cells, by cubics (Catmull & Rom) held within the eight values around.
void smoothAt(const Lattice& l, const Vec3& cells, const float* first, const float* second, float& a, float& b)
{
    a = b = 0.f;
    int low[3];
    float weight[3][4];
    for (int axis = 0; axis < 3; ++axis) {
        const float floor = std::floor(cells[axis]), u = cells[axis] - floor, u2 = u * u, u3 = u2 * u;
        if (!(floor >= 0.f && floor < static_cast<float>(l.n[static_cast<std::size_t>(axis)])))
            return;
        low[axis] = static_cast<int>(floor);
        weight[axis][0] = 0.5f * (2.f * u2 - u - u3);
        weight[axis][1] = 0.5f * (3.f * u3 - 5.f * u2 + 2.f);
        weight[axis][2] = 0.5f * (4.f * u2 + u - 3.f * u3);
        weight[axis][3] = 0.5f * (u3 - u2);
    }
    const std::ptrdiff_t at = l.at(low[0], low[1], low[2]);
    const auto of = [&](const float* v) {
        float sum = 0.f, least = v[at], most = v[at];
        for (int k = 0; k < 4; ++k)
            for (int j = 0; j < 4; ++j) {
                const float* row = v + at + (k - 1) * l.plane() + (j - 1) * l.row();
                sum += (row[-1] * weight[0][0] + row[0] * weight[0][1] + row[1] * weight[0][2] +
                        row[2] * weight[0][3]) *
                       (weight[1][j] * weight[2][k]);
                if ((k == 1 || k == 2) && (j == 1 || j == 2)) {
                    least = std::min({least, row[0], row[1]});
                    most = std::max({most, row[0], row[1]});
                }
            }
        return std::clamp(sum, least, most);
    };
    a = of(first);
    b = of(second);
}

/// How fast the smallest eddies turn that cells hold: half the mean difference to the cells on both sides.
float smallestEddies(const Gas& g, const Vec3& place)
{
    const float h = g.lattice.h;
    float sum = 0.f;
    for (int a = 0; a < 3; ++a) {
        Vec3 step(0.f);
        step[a] = h;
        Vec3 difference = velocityAt(g, place + step) - velocityAt(g, place - step);
        difference[a] = 0.f; // what stretches is no eddy
        sum += difference.length2();
    }
    return 0.5f * std::sqrt(sum / 3.f);
}

/// The motion of a gas by blocks, blended between their middles: what carries a pattern must not tear it.
class LargeMotion {
public:
    LargeMotion(const Gas& gas, const std::vector<media::Wind>& winds) : l_(gas.lattice), of_(l_.blockCount())
    {
        const auto& spans = gas.activity.spans();
        parallelFor(spans.size(), [&](std::size_t s) {
            for (int bx = spans[s].first; bx < spans[s].end; ++bx) {
                Of& o = of_[l_.block(bx, spans[s].by, spans[s].bz)];
                constexpr int step = 2,
                              count = (Lattice::side / step) * (Lattice::side / step) * (Lattice::side / step);
                for (int z = 1; z < Lattice::side; z += step)
                    for (int y = 1; y < Lattice::side; y += step)
                        for (int x = 1; x < Lattice::side; x += step) {
                            const Vec3 place = l_.middle(bx * Lattice::side + x, spans[s].by * Lattice::side + y,
                                                         spans[s].bz * Lattice::side + z);
                            o.velocity += velocityAt(gas, place) / static_cast<float>(count);
                            o.eddies += smallestEddies(gas, place) / static_cast<float>(count);
                        }
                o.velocity += media::windAt(winds, l_.middle(bx * Lattice::side + 4, spans[s].by * Lattice::side + 4,
                                                             spans[s].bz * Lattice::side + 4));
                o.weight = 1.f;
            }
        });
    }
    struct Of {
        Vec3 velocity{0.f};
        float eddies = 0.f, weight = 0.f;
    };
    Of at(const Vec3& place) const
    {
        const Vec3 p = (place - l_.origin) / (l_.h * Lattice::side) - Vec3(0.5f);
        const auto b = l_.blocks();
        Of out;
        for (int c = 0; c < 8; ++c) {
            float w = 1.f;
            int at[3];
            for (int a = 0; a < 3; ++a) {
                const float low = std::floor(p[a]), u = p[a] - low;
                const int high = c >> a & 1;
                at[a] = std::clamp(static_cast<int>(low) + high, 0, b[static_cast<std::size_t>(a)] - 1);
                w *= high ? u : 1.f - u;
            }
            const Of& o = of_[l_.block(at[0], at[1], at[2])];
            w *= o.weight;
            out.velocity += o.velocity * w;
            out.eddies += o.eddies * w;
            out.weight += w;
        }
        if (out.weight > 0.f) {
            out.velocity /= out.weight;
            out.eddies /= out.weight;
        }
        return out;
    }

private:
    const Lattice& l_;
    std::vector<Of> of_;
};
} // namespace

std::shared_ptr<const Gas> sharpened(const Gas& gas, const Gas& moving, float strength, double time, std::uint32_t seed,
                                     const std::vector<media::Wind>& winds)
{
    constexpr int side = Lattice::side;
    const Lattice& l = gas.lattice;
    auto out = std::make_shared<Gas>();
    Lattice& fine = out->lattice;
    fine = l;
    fine.h = 0.5f * l.h;
    for (std::size_t a = 0; a < 3; ++a)
        fine.n[a] = 2 * l.n[a];
    out->heat = Field(fine.size());
    out->soot = Field(fine.size());
    std::vector<std::uint8_t> on(fine.blockCount(), 0);
    for (const Activity::Span& s : gas.activity.spans())
        for (int bx = s.first; bx < s.end; ++bx)
            for (int c = 0; c < 8; ++c)
                on[fine.block(2 * bx + (c & 1), 2 * s.by + (c >> 1 & 1), 2 * s.bz + (c >> 2))] = 1;
    out->activity = Activity(fine, std::move(on));
    const auto patterns = patternsAt(time, seed);
    const float size = eddy * fine.h, passedOn = std::cbrt(size / (2.f * l.h));
    const LargeMotion motion(moving, winds);
    media::Noise base;
    base.scale = size;
    base.octaves = 2;
    const float *heat = gas.heat.data(), *soot = gas.soot.data();
    out->activity.rows([&](int x0, int x1, int y, int z) {
        static_assert(side % lanes == 0);
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t to = fine.at(x, y, z), from = l.at(x / 2, y / 2, z / 2);
            // Nothing around: nothing comes.
            F8 much = f8(0.f);
            for (int k = -1; k <= 1; ++k)
                for (int j = -1; j <= 1; ++j)
                    for (int i : {-2, 0})
                        much = max8(much, max8(load8(heat + from + i + j * l.row() + k * l.plane()),
                                               1e6f * load8(soot + from + i + j * l.row() + k * l.plane())));
            if (!any(much > 0.5f))
                continue;
            F8 px, py, pz, vx, vy, vz, reach;
            for (int k = 0; k < lanes; ++k) {
                const Vec3 own = fine.middle(x + k, y, z);
                const LargeMotion::Of m = motion.at(own);
                px[k] = own.x;
                py[k] = own.y;
                pz[k] = own.z;
                vx[k] = m.velocity.x;
                vy[k] = m.velocity.y;
                vz[k] = m.velocity.z;
                reach[k] = size * farthest * strength * (1.f - std::exp(-m.eddies * passedOn * turnover / size));
            }
            for (int pace = 0; pace < paces; ++pace) {
                F8 moved[3] = {f8(0.f), f8(0.f), f8(0.f)};
                for (const Pattern& p : patterns) {
                    if (p.weight < 1e-3f)
                        continue;
                    media::Noise noise = base;
                    noise.seed = p.seed;
                    F8 curl[3];
                    curl8(noise, px - vx * p.gone, py - vy * p.gone, pz - vz * p.gone, curl);
                    for (int a = 0; a < 3; ++a)
                        moved[a] = moved[a] + curl[a] * (reach * (p.weight / paces));
                }
                px = px + moved[0];
                py = py + moved[1];
                pz = pz + moved[2];
            }
            for (int k = 0; k < lanes; ++k) {
                const Vec3 cells = (Vec3(px[k], py[k], pz[k]) - l.origin) / l.h - Vec3(0.5f);
                smoothAt(l, cells, heat, soot, out->heat.data()[to + k], out->soot.data()[to + k]);
            }
        }
    });
    return out;
}
} // namespace hygros::sim
