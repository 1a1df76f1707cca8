#include "media/level_light.h"

#include "base/parallel.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <list>
#include <mutex>

namespace hygros::media {
namespace {
constexpr int n = LevelLight::streams, size = n + 1; ///< the last stream is the sun's, of no weight
constexpr int orders = 2 * n;
using Row = std::array<double, size>;
using Matrix = std::array<Row, size>;

Matrix product(const Matrix& a, const Matrix& b)
{
    Matrix out{};
    for (std::size_t i = 0; i < size; ++i)
        for (std::size_t k = 0; k < size; ++k)
            for (std::size_t j = 0; j < size; ++j)
                out[i][j] += a[i][k] * b[k][j];
    return out;
}
Row product(const Matrix& a, const Row& b)
{
    Row out{};
    for (std::size_t i = 0; i < size; ++i)
        for (std::size_t k = 0; k < size; ++k)
            out[i] += a[i][k] * b[k];
    return out;
}
/// (1 − a)⁻¹ b. What comes back between layers is less than one: no pivots are needed.
template <class Right> Right between(const Matrix& a, Right b)
{
    Matrix m{};
    for (std::size_t i = 0; i < size; ++i)
        for (std::size_t j = 0; j < size; ++j)
            m[i][j] = (i == j ? 1.0 : 0.0) - a[i][j];
    const auto combine = [](auto& to, const auto& from, double factor) {
        if constexpr (std::is_same_v<Right, Row>)
            to -= factor * from;
        else
            for (std::size_t j = 0; j < size; ++j)
                to[j] -= factor * from[j];
    };
    for (std::size_t k = 0; k < size; ++k)
        for (std::size_t i = k + 1; i < size; ++i) {
            const double f = m[i][k] / m[k][k];
            for (std::size_t j = k; j < size; ++j)
                m[i][j] -= f * m[k][j];
            combine(b[i], b[k], f);
        }
    for (std::size_t k = size; k-- > 0;) {
        for (std::size_t j = k + 1; j < size; ++j)
            combine(b[k], b[j], m[k][j]);
        const double inverse = 1.0 / m[k][k];
        if constexpr (std::is_same_v<Right, Row>)
            b[k] *= inverse;
        else
            for (double& v : b[k])
                v *= inverse;
    }
    return b;
}

struct Layer {
    Matrix r, t;
};
/// Two layers on each other that each look the same from both sides, and are of one kind.
Layer doubled(const Layer& l)
{
    const Matrix dt = between(product(l.r, l.r), l.t);
    const Matrix back = product(l.t, product(l.r, dt));
    Layer out{l.r, product(l.t, dt)};
    for (std::size_t i = 0; i < size; ++i)
        for (std::size_t j = 0; j < size; ++j)
            out.r[i][j] += back[i][j];
    return out;
}

/// Nodes and weights of Gauss–Legendre quadrature over 0…1 (Newton on the recurrence).
void gauss(int count, double* nodes, double* weights)
{
    for (int i = 0; i < count; ++i) {
        double x = std::cos(M_PI * (i + 0.75) / (count + 0.5)), slope = 1.0;
        for (int turn = 0; turn < 50; ++turn) {
            double p0 = 1.0, p1 = x;
            for (int l = 2; l <= count; ++l) {
                const double p2 = ((2 * l - 1) * x * p1 - (l - 1) * p0) / l;
                p0 = p1;
                p1 = p2;
            }
            slope = count * (x * p1 - p0) / (x * x - 1.0);
            const double step = p1 / slope;
            x -= step;
            if (std::abs(step) < 1e-15)
                break;
        }
        nodes[i] = 0.5 * (1.0 - x);
        weights[i] = 1.0 / ((1.0 - x * x) * slope * slope);
    }
}

/// Associated Legendre functions of order m for degrees up to `orders` − 1, normalised by √((l − m)!/(l + m)!).
void legendre(int m, double x, double* out)
{
    std::fill(out, out + orders, 0.0);
    double first = 1.0;
    const double root = std::sqrt(std::max(0.0, 1.0 - x * x));
    for (int k = 1; k <= m; ++k)
        first *= root * std::sqrt((2.0 * k - 1.0) / (2.0 * k));
    out[m] = first;
    if (m + 1 < orders)
        out[m + 1] = x * std::sqrt(2.0 * m + 1.0) * first;
    for (int l = m + 2; l < orders; ++l)
        out[l] = ((2.0 * l - 1.0) * x * out[l - 1] - std::sqrt((l - 1.0) * (l - 1.0) - double(m) * m) * out[l - 2]) /
                 std::sqrt(double(l) * l - double(m) * m);
}

/// One kind of air with its forward peak taken out, ready for layers.
struct Solver {
    std::array<double, size> mu{};
    std::array<double, n> weight{};
    std::vector<double> moments;         ///< as they are
    std::array<double, orders> scaled{}; ///< without the peak
    double peak = 0.0, albedo = 1.0, albedoScaled = 1.0, depthScale = 1.0;
    Phase phase;

    explicit Solver(const LevelAir& air)
        : moments(phaseMoments(air.phase, orders + 1)), albedo(air.albedo), phase(air.phase)
    {
        gauss(n, mu.data(), weight.data());
        mu[n] = std::max(air.sunSine, LevelAir::lowestSun);
        peak = std::clamp(moments[orders], 0.0, 0.999);
        for (std::size_t l = 0; l < orders; ++l)
            scaled[l] = (moments[l] - peak) / (1.0 - peak);
        depthScale = 1.0 - albedo * peak;
        albedoScaled = albedo * (1.0 - peak) / depthScale;
    }
    /// p_m between two directions by moments chi; `up` and `down` are normalised Legendre functions.
    template <class Moments>
    static double order(int m, const Moments& chi, const double* a, const double* b, bool opposite)
    {
        double sum = 0.0;
        for (int l = m; l < orders; ++l)
            sum += (2 * l + 1) * chi[static_cast<std::size_t>(l)] * a[l] * b[l] *
                   (opposite && ((l + m) & 1) ? -1.0 : 1.0);
        return sum / (4.0 * M_PI);
    }
    /// Layers of 2^(finest + k) and half as much again, k = 0…; index 2k and 2k + 1.
    std::vector<Layer> layers(int m, int finest, int count) const
    {
        double p[size][orders];
        for (std::size_t i = 0; i < size; ++i)
            legendre(m, mu[i], p[i]);
        std::vector<Layer> out(static_cast<std::size_t>(count));
        const int before = finest + 22; // then thin enough that light is scattered once
        for (int half = 0; half < 2; ++half) {
            const double thin = std::ldexp(half ? 1.5 : 1.0, finest - before) * depthScale;
            Layer l{};
            for (std::size_t i = 0; i < size; ++i) {
                l.t[i][i] = std::exp(-thin / mu[i]);
                for (std::size_t j = 0; i < n && j < size; ++j) {
                    const double share = albedoScaled * thin / mu[i] *
                                         (j < n ? 2.0 * M_PI * weight[j] : (m == 0 ? 1.0 : 2.0));
                    l.t[i][j] += share * order(m, scaled, p[i], p[j], false);
                    l.r[i][j] = share * order(m, scaled, p[i], p[j], true);
                }
            }
            for (int k = 0; k < before; ++k)
                l = doubled(l);
            for (int k = half; k < count; k += 2) {
                out[static_cast<std::size_t>(k)] = l;
                if (k + 2 < count)
                    l = doubled(l);
            }
        }
        return out;
    }
    Matrix matte(int m, double ground) const
    {
        Matrix r{};
        for (std::size_t i = 0; m == 0 && i < n; ++i) {
            for (std::size_t j = 0; j < n; ++j)
                r[i][j] = 2.0 * ground * weight[j] * mu[j];
            r[i][n] = ground * mu[n] / M_PI;
        }
        return r;
    }
    /// What air over something sends back up.
    static Matrix over(const Layer& l, const Matrix& below)
    {
        Matrix out = product(l.t, product(below, between(product(l.r, below), l.t)));
        for (std::size_t i = 0; i < size; ++i)
            for (std::size_t j = 0; j < size; ++j)
                out[i][j] += l.r[i][j];
        return out;
    }
};

/// Light at an interface, by stream.
struct Field {
    Row down, up;
};
Field fieldBetween(const Layer* above, const Matrix& below, const Row& incident)
{
    Field f;
    f.down = above ? between(product(above->r, below), product(above->t, incident)) : incident;
    f.up = product(below, f.down);
    return f;
}

/// What of a field of one azimuth order is scattered toward directions, ÷ albedo: functions of their sines of height.
struct Outward {
    std::array<double, n> down, up; ///< per unit of radiance in a stream
    Outward(const Solver& s, int m, double height)
    {
        double out[orders], in[orders];
        legendre(m, height, out);
        for (std::size_t i = 0; i < n; ++i) {
            legendre(m, s.mu[i], in);
            const double w = 2.0 * M_PI * s.weight[i];
            down[i] = w * Solver::order(m, s.moments, out, in, false);
            up[i] = w * Solver::order(m, s.moments, out, in, true);
        }
    }
    double of(const Field& f) const
    {
        double sum = 0.0;
        for (std::size_t i = 0; i < n; ++i)
            sum += down[i] * f.down[i] + up[i] * f.up[i];
        return sum;
    }
};

/// Cosine between what comes from the sun and what goes to an eye looking that high, and that far from the sun's
/// azimuth.
double cosineOf(double height, double azimuth, double sun)
{
    return height * sun + std::sqrt((1.0 - height * height) * (1.0 - sun * sun)) * std::cos(azimuth);
}

/// Moments of one azimuth order of scattered sunlight; what the ground sends up of sunlight that was not scattered is
/// left out: surfaces meet that themselves.
template <class Around>
Around aroundOf(const Solver& s, int m, const Field& f, double ground, double above, double below)
{
    double sum = 0.0, toward = 0.0, up = 0.0, upUp = 0.0, towardToward = 0.0, towardUp = 0.0;
    const double lit = m == 0 ? ground * s.mu[n] / M_PI * std::exp(-(above + below) * s.depthScale / s.mu[n]) : 0.0;
    for (std::size_t k = 0; k < n; ++k) {
        const double mu = s.mu[k], side = std::sqrt(1.0 - mu * mu), w = s.weight[k];
        const double fromBelow = f.up[k] - lit * std::exp(-below * s.depthScale / mu);
        const double all = f.down[k] + fromBelow, net = f.down[k] - fromBelow;
        if (m == 0) {
            sum += 2.0 * M_PI * w * all;
            up += 2.0 * M_PI * w * mu * net;
            upUp += 2.0 * M_PI * w * mu * mu * all;
            towardToward += M_PI * w * side * side * all;
        } else if (m == 1) {
            toward += M_PI * w * side * all;
            towardUp += M_PI * w * mu * side * net;
        } else {
            towardToward += 0.5 * M_PI * w * side * side * all;
        }
    }
    Around out;
    out.sum = static_cast<float>(sum);
    out.toward = static_cast<float>(toward);
    out.up = static_cast<float>(up);
    out.upUp = static_cast<float>(upUp);
    out.towardToward = static_cast<float>(towardToward);
    out.towardUp = static_cast<float>(towardUp);
    return out;
}

Row fromSun()
{
    Row r{};
    r[n] = 1.0;
    return r;
}

/// Where the lobes are fitted: azimuths from the sun at three heights.
constexpr std::size_t heights = 3, turns = 8, views = heights * turns, lobes = 3;
constexpr double heightAt[heights] = {-0.2, 0.0, 0.2};
double turnAt(std::size_t k) { return M_PI * static_cast<double>(k * (k + 5)) / 84.0; } // closer by the sun

/// Least squares with no coefficient below zero, by trying which of the three are not zero.
std::array<double, lobes> fitted(const double (&basis)[views][lobes], const double (&value)[views])
{
    double a[lobes][lobes]{}, b[lobes]{}, whole = 0.0;
    for (std::size_t v = 0; v < views; ++v) {
        const double w = 1.0 / std::max(1e-300, value[v] * value[v]);
        whole += w * value[v] * value[v];
        for (std::size_t i = 0; i < lobes; ++i) {
            b[i] += w * basis[v][i] * value[v];
            for (std::size_t j = 0; j < lobes; ++j)
                a[i][j] += w * basis[v][i] * basis[v][j];
        }
    }
    std::array<double, lobes> best{};
    double least = whole;
    for (unsigned set = 1; set < (1u << lobes); ++set) {
        double m[lobes][lobes + 1];
        for (std::size_t i = 0; i < lobes; ++i) {
            const bool in = set >> i & 1u;
            for (std::size_t j = 0; j < lobes; ++j)
                m[i][j] = in && (set >> j & 1u) ? a[i][j] : (i == j ? 1.0 : 0.0);
            m[i][lobes] = in ? b[i] : 0.0;
        }
        bool fits = true;
        for (std::size_t k = 0; k < lobes && fits; ++k) {
            fits = m[k][k] > 1e-9 * std::max(1e-300, set >> k & 1u ? a[k][k] : 1.0);
            for (std::size_t i = 0; i < lobes && fits; ++i)
                if (const double f = i == k ? 0.0 : m[i][k] / m[k][k]; f != 0.0)
                    for (std::size_t j = k; j <= lobes; ++j)
                        m[i][j] -= f * m[k][j];
        }
        std::array<double, lobes> x{};
        double left = whole;
        for (std::size_t k = 0; k < lobes && fits; ++k) {
            x[k] = m[k][lobes] / m[k][k];
            fits = x[k] >= 0.0;
            left -= x[k] * (set >> k & 1u ? b[k] : 0.0);
        }
        if (fits && left < least) {
            least = left;
            best = x;
        }
    }
    // Relative errors squared favour too little; the mean shall be right.
    double mean = 0.0;
    for (std::size_t v = 0; v < views; ++v)
        for (std::size_t i = 0; i < lobes; ++i)
            mean += best[i] * basis[v][i] / (value[v] * static_cast<double>(views));
    for (double& x : best)
        x /= std::max(mean, 1e-9);
    return best;
}
} // namespace

std::vector<double> phaseMoments(const Phase& phase, int count)
{
    std::vector<double> out(static_cast<std::size_t>(count), 0.0);
    for (int l = 0; l < count; ++l)
        out[static_cast<std::size_t>(l)] = (1.0 - double(phase.wide)) * (l == 0 ? 1.0 : std::pow(double(phase.g), l));
    if (phase.wide == 0.f)
        return out;
    constexpr int points = 192;
    static const auto rule = [] {
        std::array<std::array<double, points>, 2> r{};
        gauss(points, r[0].data(), r[1].data());
        return r;
    }();
    for (std::size_t i = 0; i < points; ++i) {
        const double c = 2.0 * rule[0][i] - 1.0, w = 4.0 * M_PI * rule[1][i] * double(phase.wide) *
                                                     double(draine(float(c), phase.wideG, phase.wideA));
        double p0 = 1.0, p1 = c;
        for (int l = 0; l < count; ++l) {
            out[static_cast<std::size_t>(l)] += w * p0;
            const double p2 = ((2 * l + 3) * c * p1 - (l + 1) * p0) / (l + 2);
            p0 = p1;
            p1 = p2;
        }
    }
    return out;
}

std::array<float, LevelAir::skyHeights> LevelAir::skySines()
{
    double nodes[n], weights[n];
    gauss(n, nodes, weights);
    std::array<float, skyHeights> out;
    std::copy(nodes, nodes + n, out.begin());
    return out;
}

float LevelLight::aboveNode(int i) { return i == 0 ? 0.f : std::ldexp((i - 1) & 1 ? 1.5f : 1.f, finest + (i - 1) / 2); }
float LevelLight::belowNode(int i) { return i == 0 ? 0.f : std::ldexp(1.f, finest + i - 1); }

LevelLight::LevelLight(const LevelAir& first, const LevelAir& second)
    : two_(!(first == second)), table_(static_cast<std::size_t>(aboveNodes * belowNodes * stride)),
      around_(static_cast<std::size_t>(aboveNodes * belowNodes * aroundStride))
{
    solve(first, 0);
    if (two_)
        solve(second, 1);
}

void LevelLight::solve(const LevelAir& air, int second)
{
    const Solver s(air);
    constexpr std::size_t nodes = aboveNodes * belowNodes;
    struct PerOrder {
        std::vector<std::array<double, heights>> outward; ///< [node]
    };
    std::vector<PerOrder> byOrder(orders);
    std::vector<LevelShares> shares(nodes);
    std::vector<std::array<Around, 3>> around(nodes); // by azimuth order
    depthScale_[second] = static_cast<float>(s.depthScale);
    const double sun = s.mu[n];
    parallelFor(orders, [&](std::size_t order) {
        const int m = static_cast<int>(order);
        const auto layers = s.layers(m, finest, aboveNodes - 1);
        const Outward out[heights] = {{s, m, heightAt[0]}, {s, m, heightAt[1]}, {s, m, heightAt[2]}};
        const Matrix matte = s.matte(m, double(air.ground));
        Row sky{};
        double level = 0.0, whole = 0.0;
        for (std::size_t k = 0; k < n; ++k) {
            sky[k] = double(air.sky[k]);
            whole += s.weight[k] * sky[k];
            level += 2.0 * s.weight[k] * s.mu[k] * sky[k];
        }
        const double dark = 1e-30, without = 0.5 * (whole + double(air.ground) * level);
        byOrder[order].outward.resize(nodes);
        for (std::size_t j = 0; j < belowNodes; ++j) {
            const Matrix below = j == 0 ? matte : Solver::over(layers[2 * (j - 1)], matte);
            for (std::size_t i = 0; i < aboveNodes; ++i) {
                const Layer* above = i == 0 ? nullptr : &layers[i - 1];
                const Field f = fieldBetween(above, below, fromSun());
                for (std::size_t h = 0; h < heights; ++h)
                    byOrder[order].outward[i * belowNodes + j][h] = out[h].of(f);
                if (m < 3)
                    around[i * belowNodes + j][order] = aroundOf<Around>(s, m, f, double(air.ground),
                                                                         double(aboveNode(static_cast<int>(i))),
                                                                         double(belowNode(static_cast<int>(j))));
                if (m > 0)
                    continue;
                const Field even = fieldBetween(above, below, sky);
                double down = 0.0, mean = 0.0, evenDown = 0.0;
                for (std::size_t k = 0; k < n; ++k) {
                    down += 2.0 * M_PI * s.weight[k] * s.mu[k] * f.down[k];
                    mean += 0.5 * s.weight[k] * (even.down[k] + even.up[k]);
                    evenDown += 2.0 * s.weight[k] * s.mu[k] * even.down[k];
                }
                Around& sky3 = around[i * belowNodes + j][0];
                for (std::size_t k = 0; k < n; ++k) {
                    const double w = 2.0 * M_PI * s.weight[k];
                    sky3.skySum += static_cast<float>(w * (even.down[k] + even.up[k]));
                    sky3.skyUp += static_cast<float>(w * s.mu[k] * (even.down[k] - even.up[k]));
                    sky3.skyUpUp += static_cast<float>(w * s.mu[k] * s.mu[k] * (even.down[k] + even.up[k]));
                }
                LevelShares& to = shares[i * belowNodes + j];
                to.sunDown = static_cast<float>(down / sun + f.down[n] -
                                                std::exp(-double(aboveNode(static_cast<int>(i))) / sun));
                to.sky = static_cast<float>(mean / std::max(dark, without));
                to.skyDown = static_cast<float>(evenDown / std::max(dark, level));
            }
        }
    });
    double basis[views][lobes], straight[views];
    const Phase again = air.phase.again(), wide = air.phase.broad();
    for (std::size_t v = 0; v < views; ++v) {
        const auto c = static_cast<float>(cosineOf(heightAt[v / turns], turnAt(v % turns), sun));
        straight[v] = double(air.phase(c));
        basis[v][0] = double(again(c));
        basis[v][1] = double(wide(c));
        basis[v][2] = 1.0 / (4.0 * M_PI);
    }
    parallelFor(nodes, [&](std::size_t node) {
        const double above = double(aboveNode(static_cast<int>(node / belowNodes)));
        const double aside = std::exp(-above * s.depthScale / sun) - std::exp(-above / sun);
        double value[views];
        for (std::size_t v = 0; v < views; ++v) {
            value[v] = aside * straight[v];
            for (std::size_t m = 0; m < orders; ++m)
                value[v] += std::cos(static_cast<double>(m) * turnAt(v % turns)) * byOrder[m].outward[node][v / turns];
            value[v] = std::max(value[v], 1e-12);
        }
        const auto x = fitted(basis, value);
        float* to = &table_[node * stride + static_cast<std::size_t>(second) * 8];
        const LevelShares& of = shares[node];
        const float all[] = {static_cast<float>(x[0]),
                             static_cast<float>(x[1]),
                             static_cast<float>(x[2]),
                             of.sunDown,
                             of.sky,
                             of.skyDown};
        std::copy(std::begin(all), std::end(all), to);
        float* at = &around_[node * aroundStride + static_cast<std::size_t>(second) * 16];
        Around sum;
        for (const Around& a : around[node]) {
            sum.sum += a.sum;
            sum.toward += a.toward;
            sum.up += a.up;
            sum.upUp += a.upUp;
            sum.towardToward += a.towardToward;
            sum.towardUp += a.towardUp;
            sum.skySum += a.skySum;
            sum.skyUp += a.skyUp;
            sum.skyUpUp += a.skyUpUp;
        }
        const float values[] = {sum.sum, sum.toward, sum.up,   sum.skySum,       sum.skyUp,   sum.skyUpUp,
                                0.f,     0.f,        sum.upUp, sum.towardToward, sum.towardUp};
        std::copy(std::begin(values), std::end(values), at);
        if (node == 0 && second == 0)
            std::copy(values + 3, values + 6, clearSky_);
    });
}

struct LevelLight::Node8 {
    I8 i, j;
    F8 wa, wb;
    explicit Node8(F8 above, F8 below)
    {
        constexpr float smallest = 1.f / static_cast<float>(1 << -finest);
        const F8 a = clamp8(above, 0.f, aboveNode(aboveNodes - 1) * 0.999999f),
                 b = clamp8(below, 0.f, belowNode(belowNodes - 1) * 0.999999f);
        i = (bits(a) >> 22) - i8((std::bit_cast<std::int32_t>(smallest) >> 22) - 1);
        j = (bits(b) >> 23) - i8((std::bit_cast<std::int32_t>(smallest) >> 23) - 1);
        const I8 firstA = i < i8(1), firstB = j < i8(1), zero = i8(0);
        i = select(firstA, zero, i);
        j = select(firstB, zero, j);
        wa = select(firstA, a * (1.f / smallest), toFloat(bits(a) & i8(0x3fffff)) * 0x1p-22f);
        wb = select(firstB, b * (1.f / smallest), toFloat(bits(b) & i8(0x7fffff)) * 0x1p-23f);
    }
};

LevelLight::Surfaces8 LevelLight::surfaces8(F8 above, F8 below, F8 mix, F8 slant, F8 toward, F8 up) const
{
    const Node8 node(above, below);
    const I8 place = (node.i * belowNodes + node.j) * aroundStride;
    F8 low[lanes], high[lanes];
    for (int l = 0; l < lanes; ++l) {
        const float* p = &around_[static_cast<std::size_t>(place[l])];
        const F8 v = f8(node.wa[l]), w = f8(node.wb[l]);
        const auto read = [&](const float* at) {
            const F8 near = load8(at) + (load8(at + aroundStride) - load8(at)) * w;
            const float* q = at + belowNodes * aroundStride;
            const F8 far = load8(q) + (load8(q + aroundStride) - load8(q)) * w;
            return near + (far - near) * v;
        };
        low[l] = read(p);
        high[l] = read(p + 8);
        if (two_) {
            low[l] += (read(p + 16) - low[l]) * f8(mix[l]);
            high[l] += (read(p + 24) - high[l]) * f8(mix[l]);
        }
    }
    transpose8(low);
    transpose8(high);
    const F8 across = max8(f8(0.f), 1.f - toward * toward - up * up);
    // Clamped cosine: 1/4, 1/2 and 5/16 of the moments of order 0, 1 and 2.
    const auto facing = [&](F8 sum, F8 flux, F8 second) {
        return max8(f8(0.f), 0.25f * sum + 0.5f * flux + 0.3125f * (1.5f * second - 0.5f * sum));
    };
    const F8 sum = low[0], upUp = high[0], ahead2 = high[1], both = high[2];
    Surfaces8 out;
    out.sun = facing(sum, low[1] * toward + low[2] * up,
                     ahead2 * toward * toward + upUp * up * up + (sum - ahead2 - upUp) * across +
                         2.f * both * toward * up);
    const auto level = [&](F8 all, F8 flux, F8 second) {
        const F8 side = 0.5f * (all - second);
        return facing(all, flux * up, second * up * up + side * (toward * toward + across));
    };
    const F8 clear = level(f8(clearSky_[0]), f8(clearSky_[1]), f8(clearSky_[2]));
    out.sky = level(low[3], low[4], low[5]) / max8(clear, f8(1e-3f * clearSky_[0]));
    const F8 scale = f8(depthScale_[0]) + (two_ ? mix * (depthScale_[1] - depthScale_[0]) : f8(0.f));
    out.ahead = exp8(-slant * scale) - exp8(-slant);
    const float most = aboveNode(aboveNodes - 1);
    if (any(above > most)) {
        const F8 deeper = most / max8(above, f8(most));
        out.sun = out.sun * deeper;
        out.sky = out.sky * deeper;
    }
    return out;
}

LevelLight::Shares8 LevelLight::at8(F8 above, F8 below, F8 mix) const
{
    const float most = aboveNode(aboveNodes - 1);
    const Node8 node(above, below);
    const I8 place = (node.i * belowNodes + node.j) * stride;
    F8 lane[lanes];
    for (int l = 0; l < lanes; ++l) {
        const float* p = &table_[static_cast<std::size_t>(place[l])];
        const F8 v = f8(node.wa[l]), w = f8(node.wb[l]);
        const auto read = [&](const float* at) {
            const F8 near = load8(at) + (load8(at + stride) - load8(at)) * w;
            const float* q = at + belowNodes * stride;
            const F8 far = load8(q) + (load8(q + stride) - load8(q)) * w;
            return near + (far - near) * v;
        };
        lane[l] = read(p);
        if (two_)
            lane[l] += (read(p + 8) - lane[l]) * f8(mix[l]);
    }
    transpose8(lane);
    // Deeper than the table light goes on falling with depth as it diffuses.
    if (any(above > most)) {
        const F8 deeper = most / max8(above, f8(most));
        for (F8& v : lane)
            v = v * deeper;
    }
    return {lane[0], lane[1], lane[2], lane[3], lane[4], lane[5]};
}

LevelShares LevelLight::at(float above, float below, float mix) const
{
    const Shares8 s = at8(f8(above), f8(below), f8(mix));
    return {s.turned[0], s.broad[0], s.around[0], s.sunDown[0], s.sky[0], s.skyDown[0]};
}

namespace {
/// One layer of any depth: thin ones doubled.
Layer layerOf(const Solver& s, int m, double depth)
{
    const int exponent = std::ilogb(std::max(depth, 1e-9));
    Solver scaled = s;
    scaled.depthScale = s.depthScale * std::ldexp(depth, -exponent); // the first layer then has just this depth
    return scaled.layers(m, exponent, 1).front();
}
} // namespace

double LevelLight::scattered(const LevelAir& air, double above, double below, const std::array<double, 3>& view)
{
    const Solver s(air);
    const double level = std::sqrt(std::max(1e-30, 1.0 - view[1] * view[1])),
                 azimuth = std::acos(std::clamp(view[0] / level, -1.0, 1.0)), sun = s.mu[n];
    double sum = (std::exp(-above * s.depthScale / sun) - std::exp(-above / sun)) *
                 double(air.phase(static_cast<float>(cosineOf(view[1], azimuth, sun))));
    for (int m = 0; m < orders; ++m) {
        const Layer upper = layerOf(s, m, above), lower = layerOf(s, m, below);
        const Field f = fieldBetween(above > 0.0 ? &upper : nullptr,
                                     below > 0.0 ? Solver::over(lower, s.matte(m, double(air.ground)))
                                                 : s.matte(m, double(air.ground)),
                                     fromSun());
        sum += std::cos(m * azimuth) * Outward(s, m, view[1]).of(f);
    }
    return sum * double(air.albedo);
}

std::array<double, 2> LevelLight::albedoOf(const LevelAir& air, double depth)
{
    const Solver s(air);
    const Layer l = layerOf(s, 0, depth);
    std::array<double, 2> out{0.0, l.t[n][n]};
    for (std::size_t i = 0; i < n; ++i) {
        const double w = 2.0 * M_PI * s.weight[i] * s.mu[i] / s.mu[n];
        out[0] += w * l.r[i][n];
        out[1] += w * l.t[i][n];
    }
    return out;
}

std::shared_ptr<const LevelLight> levelLight(const LevelAir& first, const LevelAir& second)
{
    struct Kept {
        LevelAir first, second;
        std::shared_ptr<const LevelLight> light;
    };
    static std::mutex mutex;
    static std::list<Kept> kept;
    constexpr std::size_t most = 12;
    {
        const std::lock_guard lock(mutex);
        for (auto it = kept.begin(); it != kept.end(); ++it)
            if (it->first == first && it->second == second) {
                kept.splice(kept.begin(), kept, it);
                return it->light;
            }
    }
    auto made = std::make_shared<const LevelLight>(first, second);
    const std::lock_guard lock(mutex);
    kept.push_front({first, second, made});
    if (kept.size() > most)
        kept.pop_back();
    return made;
}
} // namespace hygros::media
