#include "sim/smoke/gas.h"

#include "base/simd.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
constexpr float gravity = 9.81f, airDensity = 1.2f;

double total(const Gas& g, const Field& f)
{
    const double cell = static_cast<double>(g.lattice.h) * g.lattice.h * g.lattice.h;
    return cell * g.activity.sum([&](int x0, int x1, int y, int z) {
        const float* a = f.data() + g.lattice.at(0, y, z);
        double s = 0.0;
        for (int x = x0; x < x1; ++x)
            s += static_cast<double>(a[x]);
        return s;
    });
}
} // namespace

std::shared_ptr<Gas> Gas::still(const Lattice& lattice)
{
    auto g = std::make_shared<Gas>();
    g->lattice = lattice;
    g->activity = Activity(lattice, std::vector<std::uint8_t>(lattice.blockCount(), 0));
    for (Field* f : {&g->x, &g->y, &g->z, &g->heat, &g->soot, &g->fuel, &g->pressure})
        *f = Field(lattice.size());
    return g;
}
std::size_t Gas::bytes() const { return sizeof *this + activity.cells() * 7 * sizeof(float) + lattice.blockCount(); }
double sootOf(const Gas& gas) { return total(gas, gas.soot); }
double heatOf(const Gas& gas) { return total(gas, gas.heat); }
double divergenceOf(const Gas& g)
{
    const Lattice& l = g.lattice;
    const std::ptrdiff_t row = l.row(), plane = l.plane();
    const double sum = g.activity.sum([&](int x0, int x1, int y, int z) {
        double s = 0.0;
        for (int x = x0; x < x1; ++x) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const double d = static_cast<double>((g.x.data()[i + 1] - g.x.data()[i]) +
                                                 (g.y.data()[i + row] - g.y.data()[i]) +
                                                 (g.z.data()[i + plane] - g.z.data()[i]));
            s += d * d;
        }
        return s;
    });
    return std::sqrt(sum / std::max<double>(1.0, static_cast<double>(g.activity.cells()))) / static_cast<double>(l.h);
}

/// Soot that there is to be after it was carried for so long [kg]: what there was, and what grew with the gas where
/// that grew (soot is counted a cubic metre). Below 0 where some is at an open end of the lattice: what leaves is not
/// known.
static double sootToBe(const Gas& g, const std::array<bool, 6>& closed, float seconds)
{
    const Lattice& l = g.lattice;
    const std::ptrdiff_t row = l.row(), plane = l.plane();
    const float *soot = g.soot.data(), *u = g.x.data(), *v = g.y.data(), *w = g.z.data();
    const float by = seconds / l.h;
    constexpr double nothing = 1e-5; // share of all that may be there unheeded
    std::vector<double> ends(static_cast<std::size_t>(l.n[1]) * static_cast<std::size_t>(l.n[2]), 0.0);
    const int last[3] = {l.n[0] - Lattice::side - 1, l.n[1] - Lattice::side - 1, l.n[2] - Lattice::side - 1};
    const double sum = g.activity.sum([&](int x0, int x1, int y, int z) {
        const bool atEnd = (y == 0 && !closed[2]) || (z == 0 && !closed[4]) || (y >= last[1] && !closed[3]) ||
                           (z >= last[2] && !closed[5]);
        double s = 0.0;
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const F8 d = load8(soot + i);
            const F8 growth = (load8(u + i + 1) - load8(u + i)) + (load8(v + i + row) - load8(v + i)) +
                              (load8(w + i + plane) - load8(w + i));
            s += static_cast<double>(hygros::sum(d * (1.f + growth * by)));
            if (atEnd)
                ends[static_cast<std::size_t>(z) * static_cast<std::size_t>(l.n[1]) + static_cast<std::size_t>(y)] +=
                    static_cast<double>(hygros::sum(d));
        }
        double& end =
            ends[static_cast<std::size_t>(z) * static_cast<std::size_t>(l.n[1]) + static_cast<std::size_t>(y)];
        if (!atEnd && x0 == 0 && !closed[0])
            end += static_cast<double>(soot[l.at(0, y, z)]);
        for (int x = std::max(x0, last[0]); x < x1 && !atEnd && !closed[1]; ++x)
            end += static_cast<double>(soot[l.at(x, y, z)]);
        return s;
    });
    double atEnds = 0.0;
    for (const double e : ends)
        atEnds += e;
    return atEnds > nothing * sum
               ? -1.0
               : sum * static_cast<double>(l.h) * static_cast<double>(l.h) * static_cast<double>(l.h);
}

GasStepper::GasStepper(const Lattice& lattice) : lattice_(lattice), pool_(lattice), pressure_(lattice) {}

void GasStepper::recycle(Gas& gas)
{
    if (!(gas.lattice == lattice_))
        return;
    const auto written = gas.activity.withEnds(lattice_);
    for (Field* f : {&gas.x, &gas.y, &gas.z, &gas.heat, &gas.soot, &gas.fuel, &gas.pressure})
        pool_.give(std::move(*f), written);
}

std::shared_ptr<Gas> GasStepper::step(const Gas& from, const GasSettings& s, const std::vector<Inflow>& inflows,
                                      const Ambient& ambient, float seconds, const std::vector<media::Force>& forces,
                                      const Guide& guide)
{
    const Lattice& l = lattice_;
    auto to = std::make_shared<Gas>();
    to->lattice = l;
    const bool whole = from.activity.count() == l.blockCount();
    to->activity = whole ? from.activity : needed(from, inflows);
    to->letGo = from.letGo;
    to->seconds = seconds;
    // What had so little in it that its block is in use no more.
    for (const Activity::Span& span : from.activity.spans())
        for (int bx = span.first; bx < span.end; ++bx)
            if (!to->activity.isOn(l.block(bx, span.by, span.bz)))
                for (int z = 0; z < Lattice::side; ++z)
                    for (int y = 0; y < Lattice::side; ++y)
                        to->letGo += static_cast<double>(sum(
                                         load8(from.soot.data() + l.at(bx * Lattice::side, span.by * Lattice::side + y,
                                                                       span.bz * Lattice::side + z)))) *
                                     static_cast<double>(l.h) * static_cast<double>(l.h) * static_cast<double>(l.h);
    const auto take = [&] { return pool_.take(to->activity); };
    const auto inUse = to->activity.on();
    const AmbientAt besides(l, to->activity, ambient);
    {
        Way way{take(), take(), take()};
        findWay(l, to->activity, {from.x.data(), from.y.data(), from.z.data()}, besides, seconds, way);
        Field between = take();
        // Half of a step's pressure acts before its motion, half after (Crank & Nicolson; as by reflection in J.
        // Zehnder, R. Narain, B. Thomaszewski, 2018): what the projection took last time is taken once more.
        const Field* was[3] = {&from.x, &from.y, &from.z};
        Field* now[3] = {&to->x, &to->y, &to->z};
        const std::ptrdiff_t steps[3] = {1, l.row(), l.plane()};
        for (int axis = 0; axis < 3; ++axis) {
            const float *u = was[axis]->data(), *p = from.pressure.data();
            Field reflected = pool_.take(from.activity);
            float* r = reflected.data();
            from.activity.rows([&](int x0, int x1, int y, int z) {
                for (std::ptrdiff_t i = l.at(x0, y, z), end = l.at(x1, y, z); i < end; i += lanes)
                    store8(r + i, load8(u + i) - (load8(p + i) - load8(p + i - steps[axis])) * Gas::mirrored);
            });
            from.activity.ends(
                l, axis, [&](std::ptrdiff_t i, std::ptrdiff_t before) { r[i] = u[i] + p[before] * Gas::mirrored; });
            *now[axis] = take();
            advectFaces(l, to->activity, way, axis, r, between.data(), now[axis]->data());
            pool_.give(std::move(reflected), from.activity.withEnds(l));
        }
        const auto carry = [&](const Field& values) {
            Field carried = take();
            advect(l, to->activity, way, values.data(), carried.data());
            return carried;
        };
        to->heat = carry(from.heat);
        to->soot = carry(from.soot);
        to->fuel = carry(from.fuel);
        for (Field* f : {&way.x, &way.y, &way.z, &between})
            pool_.give(std::move(*f), inUse);
    }
    // Carrying along keeps what there is but for its errors: these are taken out where nothing can have left.
    constexpr double most = 0.01;
    const double wanted = sootToBe(from, s.closed, seconds) - (to->letGo - from.letGo), have = sootOf(*to);
    const double error = wanted > 0.0 && have > 0.0 ? std::clamp(wanted / have, 1.0 - most, 1.0 + most) : 1.0;
    Field growth = take();
    react(*to, s, inflows, seconds, static_cast<float>(error), growth.data());
    push(*to, s, inflows, besides, seconds);
    for (const media::Force& f : forces)
        exert(*to, f, besides, seconds);
    if (s.swirling > 0.f)
        swirl(*to, s, seconds);
    if (s.viscosity > 0.f)
        thicken(*to, s, seconds);
    if (guide.before && guide.after)
        follow(*to, guide, seconds);
    project(*to, s, besides, growth.data(), seconds);
    pool_.give(std::move(growth), inUse);
    return to;
}

void GasStepper::react(Gas& g, const GasSettings& s, const std::vector<Inflow>& inflows, float seconds,
                       float correction, float* growth)
{
    const Lattice& l = lattice_;
    float *heat = g.heat.data(), *soot = g.soot.data(), *fuel = g.fuel.data();
    for (const Inflow& in : inflows)
        for (const auto& [c, share] : in.cells) {
            const std::ptrdiff_t i = l.at(c[0], c[1], c[2]);
            const float by = 1.f - std::exp(-in.rate * share * seconds);
            heat[i] += std::max(0.f, in.heat - heat[i]) * by;
            soot[i] += std::max(0.f, in.soot / correction - soot[i]) * by;
            fuel[i] += std::max(0.f, in.fuel - fuel[i]) * by;
        }
    const float burns = 1.f - std::exp(-s.burning * seconds),
                stays = s.thinning > 0.f ? std::exp2(-seconds / s.thinning) : 1.f;
    // dθ/dt = −c·(θ/θ₁)⁴ has θ⁻³ growing evenly by 3·c/θ₁⁴.
    const float cools = 3.f * s.cooling * seconds / std::max(1.f, s.hottest),
                perHottest = 1.f / std::max(1.f, s.hottest);
    const bool solid = !solid_.empty();
    g.activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            F8 h = load8(heat + i), d = load8(soot + i) * correction, f = load8(fuel + i);
            const F8 before = h, burnt = select(h > s.ignition, f * burns, f8(0.f));
            f -= burnt;
            d = (d + burnt * s.sooting) * stays;
            h += burnt * s.heat;
            const F8 gained = h - before;
            if (s.cooling > 0.f) {
                const F8 r = max8(h * perHottest, f8(0.f)), cube = r * r * r;
                // (1/r³ + k)^(−1/3) = r·(1 + k·r³)^(−1/3)
                const F8 base = 1.f + cube * cools;
                F8 root;
                for (int k = 0; k < lanes; ++k)
                    root[k] = base[k] == 1.f ? 1.f : 1.f / std::cbrt(base[k]);
                h = select(h > 0.f, h * root, h);
            }
            // What grows hotter in burning takes more room: by the change of the temperature itself.
            store8(growth + i, gained * (s.expansion / std::max(1e-6f, seconds)) / (h + s.around));
            if (solid)
                for (int k = 0; k < lanes; ++k)
                    if (solid_[static_cast<std::size_t>(i + k)])
                        h[k] = d[k] = f[k] = 0.f;
            store8(heat + i, h);
            store8(soot + i, d);
            store8(fuel + i, f);
        }
    });
}

void GasStepper::push(Gas& g, const GasSettings& s, const std::vector<Inflow>& inflows, const AmbientAt& ambient,
                      float seconds)
{
    const Lattice& l = lattice_;
    const std::ptrdiff_t row = l.row();
    const float *heat = g.heat.data(), *soot = g.soot.data();
    float* v = g.y.data();
    const float up = s.buoyancy * gravity * seconds, down = s.weight * gravity / airDensity * seconds;
    g.activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            const F8 h = (load8(heat + i) + load8(heat + i - row)) * 0.5f,
                     d = (load8(soot + i) + load8(soot + i - row)) * 0.5f;
            store8(v + i, load8(v + i) + h / (h + s.around) * up - d * down);
        }
    });
    for (const Inflow& in : inflows) {
        if (!in.pushes)
            continue;
        for (std::size_t k = 0; k < in.cells.size(); ++k) {
            const auto& [c, share] = in.cells[k];
            const float by = 0.5f * (1.f - std::exp(-in.rate * share * seconds));
            const std::ptrdiff_t i = l.at(c[0], c[1], c[2]);
            const auto toward = [&](Field& f, float goal, std::ptrdiff_t step) {
                for (const std::ptrdiff_t j : {i, i + step})
                    f.data()[j] += (goal - f.data()[j]) * by;
            };
            // Velocities are counted beside the ambient one.
            const Vec3 wanted = in.velocity + (in.beside.empty() ? Vec3(0.f) : in.beside[k]) -
                                (ambient ? ambient.at(static_cast<float>(c[0]) + 0.5f, static_cast<float>(c[1]) + 0.5f,
                                                      static_cast<float>(c[2]) + 0.5f)
                                         : Vec3(0.f));
            toward(g.x, wanted.x, 1);
            toward(g.y, wanted.y, row);
            toward(g.z, wanted.z, l.plane());
        }
    }
}

void GasStepper::exert(Gas& g, const media::Force& force, const AmbientAt& ambient, float seconds)
{
    using Form = media::Force::Form;
    constexpr float hot = 100.f, thick = 1e-4f; ///< half of a pull acts at these [K], [kg/m³]
    const Lattice& l = lattice_;
    const Vec3 first = l.origin,
               last = l.origin +
                      Vec3(static_cast<float>(l.n[0]), static_cast<float>(l.n[1]), static_cast<float>(l.n[2])) * l.h;
    if (!force.touches(first, last))
        return;
    Field* fields[3] = {&g.x, &g.y, &g.z};
    const std::ptrdiff_t steps[3] = {1, l.row(), l.plane()};
    const float *heat = g.heat.data(), *soot = g.soot.data();
    const float by = 1.f - std::exp(-force.grip * seconds);
    const F8 ramp{0.f, 1.f, 2.f, 3.f, 4.f, 5.f, 6.f, 7.f};
    g.activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const Vec3 low = l.middle(x, y, z) - Vec3(l.h), high = l.middle(x + lanes, y, z);
            if (!force.touches(low, high + Vec3(0.f, l.h, l.h)))
                continue;
            const std::ptrdiff_t i = l.at(x, y, z);
            for (int axis = 0; axis < 3; ++axis) {
                Vec3 place = l.middle(x, y, z);
                place[axis] -= 0.5f * l.h;
                const F8 px = place.x + ramp * l.h, py = f8(place.y), pz = f8(place.z);
                const F8 wanted = force.component8(axis, px, py, pz, l.h);
                float* v = fields[axis]->data() + i;
                const F8 now = load8(v);
                if (force.form == Form::Turbulence) { // over and above what it does
                    store8(v, now + wanted * by);
                } else if (force.form == Form::Pull) {
                    const F8 h = (load8(heat + i) + load8(heat + i - steps[axis])) * (0.5f / hot),
                             d = (load8(soot + i) + load8(soot + i - steps[axis])) * (0.5f / thick), much = h + d;
                    store8(v, now + wanted * (by * max8(much, f8(0.f)) / (1.f + max8(much, f8(0.f)))));
                } else { // toward that motion of all the air
                    F8 besides{};
                    if (ambient)
                        for (int k = 0; k < lanes; ++k) {
                            float at[3] = {static_cast<float>(x + k) + 0.5f, static_cast<float>(y) + 0.5f,
                                           static_cast<float>(z) + 0.5f};
                            at[axis] -= 0.5f;
                            besides[k] = ambient.at(at[0], at[1], at[2])[axis];
                        }
                    const float along = force.axis[axis];
                    const float share = force.form == Form::Swirl ? 1.f - along * along : 1.f;
                    const F8 weight = force.weight8(px, py, pz) * by;
                    store8(v, now + wanted * by - (now + besides) * share * weight);
                }
            }
        }
    });
}

namespace {
/// Curl of a velocity in the middles of eight cells, times the cell's width.
void curl8(const Gas& g, std::ptrdiff_t i, F8 out[3])
{
    const std::ptrdiff_t row = g.lattice.row(), plane = g.lattice.plane();
    const float *x = g.x.data(), *y = g.y.data(), *z = g.z.data();
    // A face's differences to the cells before and behind, of both faces of a cell.
    const auto across = [&](const float* v, std::ptrdiff_t own, std::ptrdiff_t step) {
        return ((load8(v + i + step) + load8(v + i + own + step)) - (load8(v + i - step) + load8(v + i + own - step))) *
               0.25f;
    };
    out[0] = across(z, plane, row) - across(y, row, plane);
    out[1] = across(x, 1, plane) - across(z, plane, 1);
    out[2] = across(y, row, 1) - across(x, 1, row);
}
} // namespace

void GasStepper::swirl(Gas& g, const GasSettings& s, float seconds)
{
    // Toward where it swirls more: the force N × ω that keeps it (R. Fedkiw, J. Stam, H. W. Jensen, Visual simulation
    // of smoke, 2001), at a rate of a few a second, and never so much that it feeds on itself.
    constexpr float perSecond = 4.f;
    const Lattice& l = lattice_;
    const std::ptrdiff_t steps[3] = {1, l.row(), l.plane()};
    edges(g);
    Field much = pool_.take(g.activity);
    g.activity.rows([&](int x0, int x1, int y, int z) {
        for (std::ptrdiff_t i = l.at(x0, y, z), end = l.at(x1, y, z); i < end; i += lanes) {
            F8 w[3];
            curl8(g, i, w);
            store8(much.data() + i, sqrt8(w[0] * w[0] + w[1] * w[1] + w[2] * w[2]));
        }
    });
    // Not at open edges: nothing takes what is given there.
    const Activity within = g.activity.shrunk(l);
    Field force[3] = {pool_.take(within), pool_.take(within), pool_.take(within)};
    const float by = 0.5f * std::min(0.5f, s.swirling * perSecond * seconds);
    within.rows([&](int x0, int x1, int y, int z) {
        for (std::ptrdiff_t i = l.at(x0, y, z), end = l.at(x1, y, z); i < end; i += lanes) {
            F8 w[3], n[3];
            curl8(g, i, w);
            for (int a = 0; a < 3; ++a)
                n[a] = load8(much.data() + i + steps[a]) - load8(much.data() + i - steps[a]);
            const F8 length = sqrt8(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) + 1e-6f;
            const F8 strength = by / length;
            for (int a = 0; a < 3; ++a) {
                const int b = (a + 1) % 3, c = (a + 2) % 3;
                store8(force[a].data() + i, (n[b] * w[c] - n[c] * w[b]) * strength);
            }
        }
    });
    Field* fields[3] = {&g.x, &g.y, &g.z};
    g.activity.rows([&](int x0, int x1, int y, int z) {
        for (std::ptrdiff_t i = l.at(x0, y, z), end = l.at(x1, y, z); i < end; i += lanes)
            for (int a = 0; a < 3; ++a) {
                float* v = fields[a]->data() + i;
                store8(v, load8(v) + load8(force[a].data() + i) + load8(force[a].data() + i - steps[a]));
            }
    });
    pool_.give(std::move(much), g.activity.on());
    for (Field& f : force)
        pool_.give(std::move(f), within.on());
}

void GasStepper::thicken(Gas& g, const GasSettings& s, float seconds)
{
    // Explicit steps of ∂q/∂t = ν·∇²q; each within what keeps them stable.
    constexpr float most = 1.f / 8.f;
    constexpr int mostSteps = 200;
    const Lattice& l = lattice_;
    const float all = s.viscosity * seconds / (l.h * l.h);
    const int steps = std::clamp(static_cast<int>(std::ceil(all / most)), 1, mostSteps);
    const float by = std::min(all / static_cast<float>(steps), most);
    const std::ptrdiff_t row = l.row(), plane = l.plane();
    Field next = pool_.take(g.activity);
    edges(g);
    for (int step = 0; step < steps; ++step)
        for (Field* f : {&g.x, &g.y, &g.z, &g.heat, &g.fuel}) {
            const float* v = f->data();
            float* to = next.data();
            g.activity.rows([&](int x0, int x1, int y, int z) {
                for (std::ptrdiff_t i = l.at(x0, y, z), end = l.at(x1, y, z); i < end; i += lanes) {
                    const F8 here = load8(v + i);
                    store8(to + i,
                           here + ((load8(v + i - 1) + load8(v + i + 1)) + (load8(v + i - row) + load8(v + i + row)) +
                                   (load8(v + i - plane) + load8(v + i + plane)) - here * 6.f) *
                                      by);
                }
            });
            float* back = f->data();
            g.activity.rows([&](int x0, int x1, int y, int z) {
                std::copy(to + l.at(x0, y, z), to + l.at(x1, y, z), back + l.at(x0, y, z));
            });
        }
    pool_.give(std::move(next), g.activity.on());
}

void GasStepper::edges(Gas& g) const
{
    Field* fields[3] = {&g.x, &g.y, &g.z};
    for (int axis = 0; axis < 3; ++axis)
        g.activity.ends(lattice_, axis, [&](std::ptrdiff_t i, std::ptrdiff_t before) {
            fields[axis]->data()[i] = fields[axis]->data()[before];
        });
}

void GasStepper::calmInflow(Gas& g, float seconds) const
{
    // Air that comes in was at rest far out: where it enters, its pressure is lower by ½ρu² (Bernoulli). Were it not,
    // what comes in would bring motion that nothing has paid for, and jets would feed on themselves.
    const Lattice& l = lattice_;
    const float by = 0.5f * seconds / l.h;
    const std::ptrdiff_t steps[3] = {1, l.row(), l.plane()};
    Field* fields[3] = {&g.x, &g.y, &g.z};
    const auto calmed = [&](float u) { return u > 0.f ? u / (1.f + u * by) : u; };
    for (int axis = 0; axis < 3; ++axis) {
        float* v = fields[axis]->data();
        g.activity.ends(l, axis, [&](std::ptrdiff_t i, std::ptrdiff_t) { v[i] = -calmed(-v[i]); });
        const int p = (axis + 1) % 3, q = (axis + 2) % 3;
        for (const Activity::Span& s : g.activity.spans())
            for (int bx = s.first; bx < s.end; ++bx) {
                const int block[3] = {bx, s.by, s.bz};
                int before[3] = {bx, s.by, s.bz};
                --before[axis];
                if (before[axis] >= 0 && g.activity.isOn(l.block(before[0], before[1], before[2])))
                    continue;
                const std::ptrdiff_t first = l.at(block[0] * Lattice::side, block[1] * Lattice::side,
                                                  block[2] * Lattice::side);
                for (int j = 0; j < Lattice::side; ++j)
                    for (int k = 0; k < Lattice::side; ++k)
                        v[first + j * steps[p] + k * steps[q]] = calmed(v[first + j * steps[p] + k * steps[q]]);
            }
    }
}

void GasStepper::project(Gas& g, const GasSettings& s, const AmbientAt& ambient, const float* growth, float seconds)
{
    const Lattice& l = lattice_;
    const std::ptrdiff_t steps[3] = {1, l.row(), l.plane()};
    if (!setUpFor_ || !(*setUpFor_ == g.activity) || closed_ != s.closed) {
        cells_ = CellKinds::of(l, g.activity, s.closed);
        if (!solid_.empty())
            for (std::size_t i = 0; i < solid_.size(); ++i)
                if (solid_[i]) {
                    cells_.kinds[i] = Cell::Solid;
                    cells_.anySolid = true;
                }
        pressure_.setUp(g.activity, cells_);
        setUpFor_ = g.activity;
        closed_ = s.closed;
    }
    edges(g);
    calmInflow(g, seconds);
    Field* fields[3] = {&g.x, &g.y, &g.z};
    const Cell* kinds = cells_.kinds.data();
    // Nothing passes through what is solid: there the gas stands still, whatever moves around it.
    const auto still = [&](int axis, std::ptrdiff_t i, int x, int y, int z) {
        if (kinds[i] != Cell::Solid && kinds[i - steps[axis]] != Cell::Solid)
            return;
        float low[3] = {static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f, static_cast<float>(z) + 0.5f};
        low[axis] -= 0.5f;
        fields[axis]->data()[i] = ambient ? -ambient.at(low[0], low[1], low[2])[axis] : 0.f;
    };
    const bool walls = std::any_of(s.closed.begin(), s.closed.end(), [](bool c) { return c; });
    if (cells_.anySolid || walls) {
        g.activity.rows([&](int x0, int x1, int y, int z) {
            if (!cells_.anySolid && x0 > 0 && y > 0 && z > 0 && x1 < l.n[0] && y + 1 < l.n[1] && z + 1 < l.n[2])
                return;
            for (int x = x0; x < x1; ++x)
                for (int axis = 0; axis < 3; ++axis)
                    still(axis, l.at(x, y, z), x, y, z);
        });
        for (int axis = 0; axis < 3; ++axis)
            g.activity.ends(l, axis, [&](std::ptrdiff_t i, std::ptrdiff_t) {
                if (kinds[i] == Cell::Solid || kinds[i - steps[axis]] == Cell::Solid)
                    fields[axis]->data()[i] = 0.f;
            });
    }
    g.activity.rows([&](int x0, int x1, int y, int z) {
        alignas(32) float row[4096];
        const std::ptrdiff_t at = l.at(x0, y, z);
        for (int k = 0; k < x1 - x0; k += lanes) {
            const std::ptrdiff_t i = at + k;
            const F8 d = (load8(g.x.data() + i + 1) - load8(g.x.data() + i)) +
                         (load8(g.y.data() + i + steps[1]) - load8(g.y.data() + i)) +
                         (load8(g.z.data() + i + steps[2]) - load8(g.z.data() + i));
            store8(row + k, load8(growth + i) * l.h - d);
        }
        pressure_.setRow(x0, x1, y, z, row);
    });
    constexpr int most = 60;
    const PressureSolver::Result result = pressure_.solve(s.tolerance, most);
    g.iterations = result.iterations;
    g.residual = result.residual;
    g.pressure = pool_.take(g.activity);
    Field& p = g.pressure;
    g.activity.rows([&](int x0, int x1, int y, int z) { pressure_.row(x0, x1, y, z, p.data() + l.at(x0, y, z)); });
    std::vector<float> fastest(g.activity.spans().size() + 1, 0.f);
    const float* pressure = p.data();
    g.activity.rows([&](int x0, int x1, int y, int z) {
        for (int x = x0; x < x1; x += lanes) {
            const std::ptrdiff_t i = l.at(x, y, z);
            for (int axis = 0; axis < 3; ++axis) {
                float* v = fields[axis]->data() + i;
                F8 by = load8(pressure + i) - load8(pressure + i - steps[axis]);
                if (cells_.anySolid || walls)
                    for (int k = 0; k < lanes; ++k)
                        if (kinds[i + k] == Cell::Solid || kinds[i + k - steps[axis]] == Cell::Solid)
                            by[k] = 0.f;
                store8(v, load8(v) - by);
            }
        }
    });
    for (int axis = 0; axis < 3; ++axis)
        g.activity.ends(l, axis, [&](std::ptrdiff_t i, std::ptrdiff_t before) {
            if (kinds[i] != Cell::Solid && kinds[before] != Cell::Solid)
                fields[axis]->data()[i] += pressure[before];
        });
    const auto& spans = g.activity.spans();
    parallelRanges(spans.size(), 1, [&](std::size_t a, std::size_t b) {
        for (std::size_t k = a; k < b; ++k)
            for (int bx = spans[k].first; bx < spans[k].end; ++bx)
                for (const Field* f : fields)
                    fastest[k] = std::max(fastest[k], largestIn(l, f->data(), bx, spans[k].by, spans[k].bz));
    });
    g.fastest = *std::max_element(fastest.begin(), fastest.end());
}
} // namespace hygros::sim
