#include "media/level_light.h"

#include "base/parallel.h"
#include "media/level_solver.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <list>
#include <mutex>

namespace hygros::media {
using namespace adding;

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
                // What comes straight: dimmed by the depth without the forward peak; what the ground makes of it too.
                const double depthAbove = double(aboveNode(static_cast<int>(i))) * s.depthScale,
                             depthBelow = double(belowNode(static_cast<int>(j))) * s.depthScale;
                double onGround = 0.0, straightLevel = 0.0, straightMean = 0.0;
                for (std::size_t k = 0; k < n; ++k) {
                    onGround += 2.0 * s.weight[k] * s.mu[k] * sky[k] * std::exp(-(depthAbove + depthBelow) / s.mu[k]);
                    straightLevel += 2.0 * s.weight[k] * s.mu[k] * sky[k] * std::exp(-depthAbove / s.mu[k]);
                }
                Around& sky3 = around[i * belowNodes + j][0];
                for (std::size_t k = 0; k < n; ++k) {
                    const double w = 2.0 * M_PI * s.weight[k];
                    const double fromAbove = sky[k] * std::exp(-depthAbove / s.mu[k]),
                                 fromBelow = double(air.ground) * onGround * std::exp(-depthBelow / s.mu[k]);
                    straightMean += 0.5 * s.weight[k] * (fromAbove + fromBelow);
                    const double spread = even.down[k] - fromAbove, up = even.up[k] - fromBelow;
                    sky3.skySum += static_cast<float>(w * (spread + up));
                    sky3.skyUp += static_cast<float>(w * s.mu[k] * (spread - up));
                    sky3.skyUpUp += static_cast<float>(w * s.mu[k] * s.mu[k] * (spread + up));
                    sky3.skyLevel += static_cast<float>(w * s.mu[k] * spread);
                }
                sky3.skyStraight = static_cast<float>(straightLevel / std::max(dark, level));
                if (i == 0 && j == 0 && second == 0)
                    clearSky_ = static_cast<float>(M_PI * level);
                LevelShares& to = shares[i * belowNodes + j];
                to.sunDown = static_cast<float>(down / sun + f.down[n] -
                                                std::exp(-double(aboveNode(static_cast<int>(i))) / sun));
                to.sky = static_cast<float>(mean / std::max(dark, without));
                to.skyDown = static_cast<float>(evenDown / std::max(dark, level));
                to.straight = static_cast<float>(straightMean / std::max(dark, without));
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
                             of.skyDown,
                             of.straight};
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
            sum.level += a.level;
            sum.skyLevel += a.skyLevel;
            sum.skyStraight += a.skyStraight;
        }
        const float values[] = {sum.sum,   sum.toward,   sum.up,   sum.skySum,       sum.skyUp,    sum.skyUpUp,
                                sum.level, sum.skyLevel, sum.upUp, sum.towardToward, sum.towardUp, sum.skyStraight};
        std::copy(std::begin(values), std::end(values), at);
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
    // What comes down on level surfaces is known exactly: the nearer to level they are, the more of it is taken.
    const F8 upward = max8(up, f8(0.f));
    const auto exact = [&](F8 told, F8 toldLevel, F8 level) {
        return told * (1.f + upward * (level / max8(toldLevel, f8(1e-9f)) - 1.f));
    };
    const F8 sum = low[0], upUp = high[0], ahead2 = high[1], both = high[2];
    Surfaces8 out;
    out.sun = exact(
        facing(sum, low[1] * toward + low[2] * up,
               ahead2 * toward * toward + upUp * up * up + (sum - ahead2 - upUp) * across + 2.f * both * toward * up),
        facing(sum, low[2], upUp), low[6]);
    const F8 side = 0.5f * (low[3] - low[5]);
    out.around = exact(facing(low[3], low[4] * up, low[5] * up * up + side * (toward * toward + across)),
                       facing(low[3], low[4], low[5]), low[7]) *
                 (1.f / std::max(1e-30f, clearSky_)); // none of no sky
    out.sky = high[3];
    const F8 scale = f8(depthScale_[0]) + (two_ ? mix * (depthScale_[1] - depthScale_[0]) : f8(0.f));
    out.ahead = exp8(-slant * scale) - exp8(-slant);
    const float most = aboveNode(aboveNodes - 1);
    if (any(above > most)) {
        const F8 deeper = most / max8(above, f8(most));
        out.sun = out.sun * deeper;
        out.around = out.around * deeper;
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
    return {lane[0], lane[1], lane[2], lane[3], lane[4], lane[5], lane[6]};
}

LevelShares LevelLight::at(float above, float below, float mix) const
{
    const Shares8 s = at8(f8(above), f8(below), f8(mix));
    return {s.turned[0], s.broad[0], s.around[0], s.sunDown[0], s.sky[0], s.skyDown[0], s.straight[0]};
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
