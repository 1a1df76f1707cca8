#pragma once
/// Adding and doubling of plane-parallel layers of air, azimuth order by azimuth order; see media/level_light.h.
#include "media/level_light.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace hygros::media::adding {

constexpr int n = LevelLight::streams, size = n + 1; ///< the last stream is the sun's, of no weight
constexpr int orders = 2 * n;
using Row = std::array<double, size>;
using Matrix = std::array<Row, size>;

inline Matrix product(const Matrix& a, const Matrix& b)
{
    Matrix out{};
    for (std::size_t i = 0; i < size; ++i)
        for (std::size_t k = 0; k < size; ++k)
            for (std::size_t j = 0; j < size; ++j)
                out[i][j] += a[i][k] * b[k][j];
    return out;
}
inline Row product(const Matrix& a, const Row& b)
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
inline Layer doubled(const Layer& l)
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
inline void gauss(int count, double* nodes, double* weights)
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
inline void legendre(int m, double x, double* out)
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
inline Field fieldBetween(const Layer* above, const Matrix& below, const Row& incident)
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
inline double cosineOf(double height, double azimuth, double sun)
{
    return height * sun + std::sqrt((1.0 - height * height) * (1.0 - sun * sun)) * std::cos(azimuth);
}

/// Moments of one azimuth order of scattered sunlight; what the ground sends up of sunlight that was not scattered is
/// left out: surfaces meet that themselves.
template <class Around>
Around aroundOf(const Solver& s, int m, const Field& f, double ground, double above, double below)
{
    double sum = 0.0, toward = 0.0, up = 0.0, upUp = 0.0, towardToward = 0.0, towardUp = 0.0, level = 0.0;
    const double lit = m == 0 ? ground * s.mu[n] / M_PI * std::exp(-(above + below) * s.depthScale / s.mu[n]) : 0.0;
    for (std::size_t k = 0; k < n; ++k) {
        const double mu = s.mu[k], side = std::sqrt(1.0 - mu * mu), w = s.weight[k];
        const double fromBelow = f.up[k] - lit * std::exp(-below * s.depthScale / mu);
        const double all = f.down[k] + fromBelow, net = f.down[k] - fromBelow;
        level += m == 0 ? 2.0 * M_PI * w * mu * f.down[k] : 0.0;
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
    out.level = static_cast<float>(level);
    return out;
}

inline Row fromSun()
{
    Row r{};
    r[n] = 1.0;
    return r;
}

/// Where the lobes are fitted: azimuths from the sun at three heights.
constexpr std::size_t heights = 3, turns = 8, views = heights * turns, lobes = 3;
constexpr double heightAt[heights] = {-0.2, 0.0, 0.2};
inline double turnAt(std::size_t k) { return M_PI * static_cast<double>(k * (k + 5)) / 84.0; } // closer by the sun

/// Least squares with no coefficient below zero, by trying which of the three are not zero.
inline std::array<double, lobes> fitted(const double (&basis)[views][lobes], const double (&value)[views])
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
} // namespace hygros::media::adding
