#include "media/floating.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <complex>

namespace hygros::media {
namespace {
constexpr double turn = 6.283185307179586;
constexpr double heaveDamping = 0.3, pitchDamping = 0.3, rollDamping = 0.1; ///< of the critical
/// Of a mean over a line of length 2u, in wave's phases.
double meanOver(double u) { return std::abs(u) < 1e-3 ? 1.0 : std::sin(u) / u; }
/// Of a slope over it, as it turns a box.
double slopeOver(double u) { return std::abs(u) < 0.05 ? 1.0 : 3.0 * (std::sin(u) - u * std::cos(u)) / (u * u * u); }
} // namespace

double Hull::heaveMass() const
{
    // Half a cylinder of water as wide goes along (Newman, table 4.3).
    const double with = densityOfWater * turn / 16.0 * beam * beam * length;
    return mass() + std::min(with, 3.0 * mass());
}
double Hull::heavePeriod() const
{
    return area > 0.0 ? turn * std::sqrt(heaveMass() / (densityOfWater * gravityOfWaves * area)) : 0.0;
}
double Hull::pitchPeriod(double weight) const
{
    const double arm = pitchArm(weight);
    return arm > 0.0 ? turn * 0.26 * length * std::sqrt(1.5 / (gravityOfWaves * arm)) : 0.0;
}
double Hull::rollPeriod(double weight) const
{
    const double arm = rollArm(weight);
    return arm > 0.0 ? turn * 0.38 * beam * std::sqrt(1.2 / (gravityOfWaves * arm)) : 0.0;
}

Hull hullOf(const std::vector<float>& draughts, int n, float cell, const Vec2& corner)
{
    Hull h;
    const double piece = double(cell) * double(cell);
    double x = 0.0, z = 0.0, deep = 0.0, xx = 0.0, zz = 0.0, xz = 0.0;
    const auto each = [&](const auto& body) {
        for (int j = 0; j < n; ++j)
            for (int i = 0; i < n; ++i)
                if (const double d = double(draughts[std::size_t(j) * std::size_t(n) + std::size_t(i)]); d > 0.0)
                    body(double(corner.x) + i * double(cell), double(corner.y) + j * double(cell), d);
    };
    each([&](double px, double pz, double d) {
        h.volume += d * piece;
        h.area += piece;
        deep += 0.5 * d * d * piece;
        x += px * piece;
        z += pz * piece;
    });
    if (!(h.area > 0.0))
        return h;
    x /= h.area;
    z /= h.area;
    h.middle = Vec2(static_cast<float>(x), static_cast<float>(z));
    h.buoyancy = deep / h.volume;
    each([&](double px, double pz, double) {
        xx += ((px - x) * (px - x) + double(cell) * double(cell) / 12.0) * piece;
        zz += ((pz - z) * (pz - z) + double(cell) * double(cell) / 12.0) * piece;
        xz += (px - x) * (pz - z) * piece;
    });
    // Its long axis, and the moments about both.
    const double angle = 0.5 * std::atan2(2.0 * xz, xx - zz), c = std::cos(angle), s = std::sin(angle);
    h.along = Vec2(static_cast<float>(c), static_cast<float>(s));
    h.secondAlong = xx * c * c + zz * s * s + 2.0 * xz * c * s;
    h.secondAcross = xx * s * s + zz * c * c - 2.0 * xz * c * s;
    h.length = std::sqrt(12.0 * h.secondAlong / h.area);
    h.beam = std::sqrt(12.0 * h.secondAcross / h.area);
    return h;
}

Floating::Floating(const SwellModes& modes, const Hull& hull, double weight, double loop, double choppy,
                   std::size_t most)
    : hull_(hull), weight_(weight)
{
    // Waves that move it, the strongest first; what is left out is less than a hundredth of their energy.
    struct Found {
        Wave wave;
        double energy;
    };
    std::vector<Found> found;
    for (const SwellModes::Tile& t : modes.tiles()) {
        const int half = t.n / 2 + 1;
        const double step = turn / t.length;
        // A transform adds each wave and its mirror image; and a tile's are higher by what is lost between its samples.
        std::vector<double> straight(static_cast<std::size_t>(t.n));
        for (int i = 0; i < t.n; ++i)
            straight[static_cast<std::size_t>(i)] = std::sqrt((2.0 + std::cos(turn * i / t.n)) / 3.0);
        std::vector<std::vector<Found>> rows(static_cast<std::size_t>(t.n));
        parallelFor(rows.size(), [&](std::size_t row) {
            for (int i = 0; i < half; ++i) {
                const std::size_t at = row * std::size_t(half) + std::size_t(i);
                double w = double(t.frequency[at]);
                if (!(w > 0.0))
                    continue;
                if (loop > 0.0)
                    w = std::round(w * loop / turn) * turn / loop;
                const int j = static_cast<int>(row) <= t.n / 2 ? static_cast<int>(row) : static_cast<int>(row) - t.n;
                const double kx = i * step, kz = j * step, k = std::hypot(kx, kz),
                             a = kx * double(hull.along.x) + kz * double(hull.along.y),
                             b = kz * double(hull.along.x) - kx * double(hull.along.y),
                             felt = meanOver(0.5 * a * hull.length) * meanOver(0.5 * b * hull.beam) *
                                    std::exp(-k * hull.draught()),
                             times = (i > 0 ? 2.0 : 1.0) * straight[static_cast<std::size_t>(i)] * straight[row];
                const auto aside = static_cast<float>(
                    choppy / std::max(0.3, std::tanh(std::min(20.0, k * modes.swell().depth))));
                const auto add = [&](float re, float im, double frequency) {
                    const double e = times * times * (double(re) * double(re) + double(im) * double(im)) * felt * felt;
                    if (e > 0.0)
                        rows[row].push_back(
                            {{kx, kz, frequency, static_cast<float>(times) * re, static_cast<float>(times) * im, aside},
                             e});
                };
                add(t.re[at], t.im[at], w);
                add(t.reBack[at], t.imBack[at], -w);
            }
        });
        for (const std::vector<Found>& row : rows)
            found.insert(found.end(), row.begin(), row.end());
    }
    double all = 0.0;
    for (const Found& f : found)
        all += f.energy;
    const auto isStronger = [](const Found& a, const Found& b) { return a.energy > b.energy; };
    if (found.size() > most) {
        std::nth_element(found.begin(), found.begin() + static_cast<std::ptrdiff_t>(most), found.end(), isStronger);
        found.resize(most);
    }
    std::sort(found.begin(), found.end(), isStronger);
    double left = all;
    for (const Found& f : found) {
        if (left < 0.004 * all)
            break;
        left -= f.energy;
        waves_.push_back(f.wave);
    }
}

std::vector<double> Floating::heights(const Vec2& place, double seconds, double step, int count) const
{
    std::vector<double> out(static_cast<std::size_t>(std::max(0, count)), 0.0);
    for (const Wave& w : waves_) {
        const double phase = std::remainder(w.kx * double(place.x) + w.kz * double(place.y) - w.frequency * seconds,
                                            turn);
        // From step to step each turns by the same angle.
        double re = double(w.re) * std::cos(phase) - double(w.im) * std::sin(phase),
               im = double(w.re) * std::sin(phase) + double(w.im) * std::cos(phase);
        const double c = std::cos(w.frequency * step), s = std::sin(w.frequency * step);
        for (double& h : out) {
            h += re;
            const double next = re * c + im * s;
            im = im * c - re * s;
            re = next;
        }
    }
    return out;
}

Afloat Floating::at(const Vec2& place, const Vec2& velocity, double seconds) const
{
    using Complex = std::complex<double>;
    const auto own = [](double period) { return period > 0.0 ? turn / period : 0.0; };
    const double heave = own(hull_.heavePeriod()), pitch = own(hull_.pitchPeriod(weight_)),
                 roll = own(hull_.rollPeriod(weight_));
    // What a wave that is met at a frequency makes of it, by what still water would.
    const auto answer = [](double natural, double damping, double met) {
        if (!(natural > 0.0))
            return Complex(0.0);
        const double r = met / natural;
        return 1.0 / Complex(1.0 - r * r, -2.0 * damping * r);
    };
    double up = 0.0, x = 0.0, z = 0.0, sa = 0.0, sb = 0.0;
    for (const Wave& w : waves_) {
        const double k = std::hypot(w.kx, w.kz), a = w.kx * double(hull_.along.x) + w.kz * double(hull_.along.y),
                     b = w.kz * double(hull_.along.x) - w.kx * double(hull_.along.y), ua = 0.5 * a * hull_.length,
                     ub = 0.5 * b * hull_.beam,
                     met = w.frequency - (w.kx * double(velocity.x) + w.kz * double(velocity.y)),
                     phase = std::remainder(w.kx * double(place.x) + w.kz * double(place.y) - w.frequency * seconds,
                                            turn);
        const Complex wave = Complex(double(w.re), double(w.im)) * std::polar(std::exp(-k * hull_.draught()), phase);
        up += (wave * answer(heave, heaveDamping, met)).real() * meanOver(ua) * meanOver(ub);
        const Complex rise = wave * Complex(0.0, 1.0);
        sa += (rise * answer(pitch, pitchDamping, met)).real() * a * slopeOver(ua) * meanOver(ub);
        sb += (rise * answer(roll, rollDamping, met)).real() * b * slopeOver(ub) * meanOver(ua);
        const double aside = rise.real() * double(w.sideways) * meanOver(ua) * meanOver(ub) / k;
        x += w.kx * aside;
        z += w.kz * aside;
    }
    Afloat out;
    out.heave = static_cast<float>(up);
    out.drift = Vec2(static_cast<float>(x), static_cast<float>(z));
    // Back from its axes; no hull leans farther and comes back.
    constexpr double most = 0.6;
    sa = std::clamp(sa, -most, most);
    sb = std::clamp(sb, -most, most);
    out.slope = Vec2(static_cast<float>(sa * double(hull_.along.x) - sb * double(hull_.along.y)),
                     static_cast<float>(sa * double(hull_.along.y) + sb * double(hull_.along.x)));
    return out;
}
} // namespace hygros::media
