#include "render/path_ratios.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <utility>

namespace hygros::render {
namespace {
constexpr double surePaths = 16.0; ///< looks that a part's own spread is worth believing from
/// Squared, of a whole picture: before anything is known, and after an edit of what was known.
constexpr double usualError = 1e-2, usualChange = 4e-5;
constexpr double beyondErrors = 2.5;       ///< standard errors: of a hundred parts one looks so by chance
constexpr double usualColour = 0.1;        ///< spread of looks' colours, squared, before it is known
constexpr double fewest = 4.0;             ///< looks of a part that says anything
constexpr float least = 1e-3f, most = 8.f; ///< ratios lie between these

float luminanceOf(const std::array<double, 3>& v)
{
    return luminance(Vec3(static_cast<float>(v[0]), static_cast<float>(v[1]), static_cast<float>(v[2])));
}

/// A part of a level: its sums with what coarser levels have found, and what it comes to.
struct Part {
    double n = 0.0, pathsSquared = 0.0, both = 0.0, marchedSquared = 0.0;
    std::array<double, 3> paths{}, marched{}, squared{}, withLight{};
    double quotient = 1.0, variance = 1.0; ///< of luminance
    bool speaks = false;
    std::array<float, 3> factor{0.f, 0.f, 0.f}; ///< logarithms

    /// Squared deviations of the paths from `q` times the march, for a mean of 1.
    double spread(double q, double mean) const
    {
        return std::max(0.0, pathsSquared - 2.0 * q * both + q * q * marchedSquared) / std::max(1e-30, n * mean * mean);
    }
    /// Of a channel's share in luminance, relative: by how looks' colours differ.
    double colourVariance(std::size_t c) const
    {
        const double mean = paths[c] / n, light = static_cast<double>(luminanceOf(paths)) / n;
        if (!(mean > 0.0) || !(light > 0.0))
            return 1.0;
        const double own = std::max(0.0, squared[c] / (mean * mean) - 2.0 * withLight[c] / (mean * light) +
                                             pathsSquared / (light * light)) /
                           n;
        return (n * own + surePaths * usualColour) / ((n + surePaths) * n);
    }
    void judge(double usual)
    {
        const double mean = static_cast<double>(luminanceOf(marched));
        speaks = n >= fewest && mean > 0.0;
        if (!speaks)
            return;
        quotient = static_cast<double>(luminanceOf(paths)) / mean;
        // Against the smaller of the two, within reason: where bright paths were not met yet, there seems to be little
        // light and little spread.
        const double lower = std::clamp(quotient, 0.5, 1.0), own = spread(quotient, lower * mean / n);
        variance = (n * own + surePaths * usual) / ((n + surePaths) * n);
    }
};
} // namespace

PathRatios::Grid::Grid(int f, int h, int w) : faces(f), down(h), across(w)
{
    sums.resize(nodes() * (sources + 1));
    before.assign(nodes() * values, 1.f);
    ratios = before;
}

PathRatios::PathRatios() : air_(1, airDown, airAcross), set_(mirrors + 1, setDown, setAcross) {}

void PathRatios::begin()
{
    for (Grid* g : {&air_, &set_}) {
        g->before = g->ratios;
        std::fill(g->sums.begin(), g->sums.end(), Sums());
        g->all.fill(Sums());
    }
    looks_ = 0.0;
    knownBefore_ = known_;
}

/// The eight nodes around and their shares.
PathRatios::Around PathRatios::around(const Grid& g, float x, float y, float depth)
{
    const auto [x0, fx] = between(x, g.across);
    const auto [y0, fy] = between(y, g.down);
    const int d0 = static_cast<int>(depth), d1 = std::min(d0 + 1, depths - 1);
    const float fd = depth - static_cast<float>(d0);
    Around out;
    for (int k = 0; k < 8; ++k) {
        out.share[k] = (k & 1 ? fx : 1.f - fx) * (k & 2 ? fy : 1.f - fy) * (k & 4 ? fd : 1.f - fd);
        out.node[k] = g.at(0, k & 4 ? d1 : d0, y0 + (k >> 1 & 1), x0 + (k & 1));
    }
    return out;
}

/// Adds `share` of what lies between the nodes.
void PathRatios::blend(const Grid& g, const std::vector<float>& from, int face, const Around& at, float share,
                       Packed& out)
{
    const std::size_t first = g.at(face, 0, 0, 0);
    for (int k = 0; k < 8; ++k) {
        const float w = share * at.share[k];
        if (w == 0.f)
            continue;
        const float* v = &from[(first + at.node[k]) * values];
        out.v[0] += load8(v) * w;
        out.v[1] += load8(v + lanes) * w;
    }
}

PathRatios::By PathRatios::Packed::unpacked() const
{
    By by;
    static_assert(sizeof(By) == (sources + 1) * 3 * sizeof(float) && sizeof(By) <= sizeof(v));
    std::memcpy(static_cast<void*>(&by), v, sizeof by);
    return by;
}

void PathRatios::Sums::add(double w, const Vec3& path, const Vec3& march)
{
    const auto a = static_cast<double>(luminance(path)), b = static_cast<double>(luminance(march));
    n += w;
    pathsSquared += w * a * a;
    both += w * a * b;
    marchedSquared += w * b * b;
    for (std::size_t c = 0; c < 3; ++c) {
        const auto one = static_cast<double>(path[static_cast<int>(c)]);
        paths[c] += w * one;
        squared[c] += w * one * one;
        withLight[c] += w * one * a;
        marched[c] += w * static_cast<double>(march[static_cast<int>(c)]);
    }
}

void PathRatios::Sums::fade(double share)
{
    for (double* v : {&n, &pathsSquared, &both, &marchedSquared})
        *v *= share;
    for (std::size_t c = 0; c < 3; ++c) {
        paths[c] *= share;
        marched[c] *= share;
        squared[c] *= share;
        withLight[c] *= share;
    }
}

void PathRatios::count(Grid& g, int face, const Around& at, float share, const Sources& held, const Sources& marched)
{
    const std::size_t first = g.at(face, 0, 0, 0);
    for (int k = 0; k < 8; ++k) {
        const auto w = static_cast<double>(share * at.share[k]);
        for (std::size_t s = 0; s <= sources && w > 0.0; ++s)
            g.sums[(first + at.node[k]) * (sources + 1) + s].add(w, held[s], marched[s]);
    }
}

void PathRatios::fade(double share)
{
    for (Grid* g : {&air_, &set_}) {
        for (Sums& s : g->sums)
            s.fade(share);
        for (Sums& s : g->all)
            s.fade(share);
    }
}

/// A look counts at the nodes that it is between by the same shares that its ratio will be blended from: what the
/// nodes come to is then what the looks come to.
void PathRatios::add(const Look& l)
{
    const auto isFinite = [](const std::array<Vec3, sources>& v) {
        return std::all_of(v.begin(), v.end(), [](const Vec3& c) { return std::isfinite(c.x + c.y + c.z); });
    };
    if (!isFinite(l.air) || !isFinite(l.airMarched) || !isFinite(l.set) || !isFinite(l.setMarched))
        return;
    looks_ += 1.0;
    struct Counted {
        Sources held, marched;
    };
    const auto counted = [](Grid& g, const std::array<Vec3, sources>& paths, const std::array<Vec3, sources>& marched,
                            const std::array<float, sources>& mosts, const By& before) {
        Counted out;
        Sources whole;
        out.held[all] = out.marched[all] = whole[all] = Vec3(0.f);
        for (std::size_t s = 0; s < sources; ++s) {
            const float light = luminance(paths[s]);
            whole[s] = paths[s];
            out.held[s] = light > mosts[s] ? paths[s] * (mosts[s] / light) : paths[s];
            out.marched[s] = marched[s] * before.of[s];
            whole[all] += whole[s];
            out.held[all] += out.held[s];
            out.marched[all] += marched[s] * before.of[all];
        }
        for (std::size_t s = 0; s <= sources; ++s)
            g.all[s].add(1.0, whole[s], out.marched[s]);
        return out;
    };
    {
        Packed before;
        const Around at = around(air_, l.x, l.y, depthOf(l.t, l.isSky));
        blend(air_, air_.before, 0, at, 1.f, before);
        const Counted c = counted(air_, l.air, l.airMarched, l.airMost, before.unpacked());
        count(air_, 0, at, 1.f, c.held, c.marched);
    }
    if (!l.surface || l.isSky)
        return;
    const Around at = around(set_, l.x, l.y, depthOf(l.t, false));
    const auto face = [&](int axis) { return 2 * axis + (l.normal[axis] < 0.f); };
    const auto share = [&](int axis) { return l.normal[axis] * l.normal[axis]; };
    Packed before;
    if (l.mirror)
        blend(set_, set_.before, mirrors, at, 1.f, before);
    else
        for (int axis = 0; axis < 3; ++axis)
            blend(set_, set_.before, face(axis), at, share(axis), before);
    const Counted c = counted(set_, l.set, l.setMarched, l.setMost, before.unpacked());
    if (l.mirror)
        count(set_, mirrors, at, 1.f, c.held, c.marched);
    else
        for (int axis = 0; axis < 3; ++axis)
            count(set_, face(axis), at, share(axis), c.held, c.marched);
}

PathRatios::Logarithms PathRatios::solve(Grid& g, int source, double wholeError, const Logarithms& expected,
                                         std::initializer_list<Level> levels)
{
    std::vector<Logarithms> found(g.nodes(), expected);
    Logarithms together = expected;
    double usual = 1.0;
    bool first = true;
    std::array<double, 3> scale{1.0, 1.0, 1.0}; ///< of looks up to their most, to come to what all looks say
    double greyScale = 1.0;
    for (const Level& level : levels) {
        const bool whole = level.faces * level.down * level.across * level.depths == 1 && !level.skyApart;
        const int bands = level.depths + (level.skyApart ? 1 : 0);
        const auto bandOf = [&](int d) {
            return level.skyApart && d == depths - 1 ? level.depths
                                                     : std::min(level.depths - 1, d * level.depths / (depths - 1));
        };
        const auto faceOf = [&](int f) { return f * level.faces / g.faces; };
        const auto partAt = [&](int f, int band, int y, int x) {
            return static_cast<std::size_t>(((f * bands + band) * level.down + y) * level.across + x);
        };
        std::vector<Part> parts(static_cast<std::size_t>(level.faces * bands * level.down * level.across));
        for (int f = 0; f < g.faces; ++f)
            for (int d = 0; d < depths; ++d)
                for (int y = 0; y < g.down; ++y)
                    for (int x = 0; x < g.across; ++x) {
                        const std::size_t node = g.at(f, d, y, x);
                        const Sums& s = g.sums[node * (sources + 1) + static_cast<std::size_t>(source)];
                        if (s.n <= 0.0)
                            continue;
                        Part& to =
                            parts[partAt(faceOf(f), bandOf(d), y * level.down / g.down, x * level.across / g.across)];
                        double grey = 0.0;
                        for (std::size_t c = 0; c < 3; ++c) {
                            const auto factor = static_cast<double>(std::exp(found[node][c]));
                            to.paths[c] += s.paths[c] * scale[c];
                            to.marched[c] += s.marched[c] * factor;
                            grey += factor / 3.0;
                        }
                        to.n += s.n;
                        for (std::size_t c = 0; c < 3; ++c) {
                            to.squared[c] += s.squared[c] * scale[c] * scale[c];
                            to.withLight[c] += s.withLight[c] * scale[c] * greyScale;
                        }
                        to.pathsSquared += s.pathsSquared * greyScale * greyScale;
                        to.both += s.both * grey * greyScale;
                        to.marchedSquared += s.marchedSquared * grey * grey;
                    }
        Part held;
        if (first) {
            const Sums& every = g.all[static_cast<std::size_t>(source)];
            held = std::exchange(parts[0], Part());
            double grey = 0.0;
            parts[0].marched = every.marched;
            for (std::size_t c = 0; c < 3; ++c) {
                const auto factor = static_cast<double>(std::exp(expected[c]));
                parts[0].marched[c] *= factor;
                grey += factor / 3.0;
            }
            parts[0].n = every.n;
            parts[0].pathsSquared = every.pathsSquared;
            parts[0].both = every.both * grey;
            parts[0].marchedSquared = every.marchedSquared * grey * grey;
            parts[0].paths = every.paths;
            parts[0].squared = every.squared;
            parts[0].withLight = every.withLight;
        }
        for (Part& p : parts)
            p.judge(usual);
        for (Part& p : parts) {
            if (!p.speaks)
                continue;
            // What lies beyond so many standard errors is not noise; a whole picture may be a little off without that.
            const auto believed = [&](double by, double variance) {
                const double off = (by - 1.0) * (by - 1.0), noise = beyondErrors * beyondErrors * variance;
                const double weight = std::max(whole ? wholeError / (wholeError + variance) : 0.0,
                                               off > noise ? 1.0 - noise / off : 0.0);
                return 1.0 + weight * (by - 1.0);
            };
            const double light = believed(p.quotient, p.variance);
            // Lamps of different colours are told together: one that is too bright at a place must not tint the others.
            const bool tinted = p.quotient > 0.0 && !(source == lamps && level.down * level.across > 1);
            for (std::size_t c = 0; c < 3; ++c)
                if (p.marched[c] > 0.0)
                    p.factor[c] = static_cast<float>(std::log(std::clamp(
                        light * (tinted ? believed(p.paths[c] / p.marched[c] / p.quotient, p.colourVariance(c)) : 1.0),
                        1e-3, static_cast<double>(most))));
        }
        if (first && parts[0].speaks) {
            for (std::size_t c = 0; c < 3; ++c)
                together[c] += parts[0].factor[c];
            const auto paths = static_cast<double>(luminanceOf(held.paths)),
                       marched = static_cast<double>(luminanceOf(held.marched));
            std::array<double, 3> comes{};
            for (std::size_t c = 0; c < 3; ++c) {
                comes[c] = held.marched[c] * std::exp(static_cast<double>(parts[0].factor[c]));
                if (held.paths[c] > 0.0)
                    scale[c] = comes[c] / held.paths[c];
            }
            if (paths > 0.0 && marched > 0.0) {
                greyScale = static_cast<double>(luminanceOf(comes)) / paths;
                usual = held.spread(paths / marched, paths / held.n);
            }
        }
        first = false;
        // To the nodes, between the parts' middles.
        const auto between = [](int node, int nodes, int count, int& low, float& part) {
            const float at = std::clamp(
                (static_cast<float>(node) + 0.5f) * static_cast<float>(count) / static_cast<float>(nodes) - 0.5f, 0.f,
                static_cast<float>(count - 1));
            low = std::min(static_cast<int>(at), std::max(0, count - 2));
            part = at - static_cast<float>(low);
        };
        for (int f = 0; f < g.faces; ++f)
            for (int d = 0; d < depths; ++d) {
                int b0 = bandOf(d);
                float fb = 0.f;
                if (!(level.skyApart && d == depths - 1) && level.depths > 1)
                    between(d, depths - 1, level.depths, b0, fb);
                for (int y = 0; y < g.down; ++y)
                    for (int x = 0; x < g.across; ++x) {
                        int x0, y0;
                        float fx, fy;
                        between(x, g.across, level.across, x0, fx);
                        between(y, g.down, level.down, y0, fy);
                        for (int k = 0; k < 8; ++k) {
                            const float w = (k & 1 ? fx : 1.f - fx) * (k & 2 ? fy : 1.f - fy) * (k & 4 ? fb : 1.f - fb);
                            if (w == 0.f)
                                continue;
                            const Part& p =
                                parts[partAt(faceOf(f), b0 + (k >> 2 & 1), y0 + (k >> 1 & 1), x0 + (k & 1))];
                            for (std::size_t c = 0; c < 3; ++c)
                                found[g.at(f, d, y, x)][c] += w * p.factor[c];
                        }
                    }
            }
    }
    for (std::size_t node = 0; node < g.nodes(); ++node)
        for (std::size_t c = 0; c < 3; ++c) {
            const std::size_t at = node * values + static_cast<std::size_t>(source) * 3 + c;
            g.ratios[at] = std::clamp(g.before[at] * std::exp(found[node][c]), least, most);
        }
    return together;
}

void PathRatios::solve()
{
    if (looks_ <= 0.0)
        return;
    const int n = set_.faces;
    const double wholeError = knownBefore_ ? usualChange : usualError;
    for (int s = 0; s <= sources; ++s) {
        const Logarithms air = solve(air_, s, wholeError, {0.f, 0.f, 0.f},
                                     {{1, 1, 1, 1, false},
                                      {1, 1, 1, 4, true},
                                      {1, 2, 2, 2, true},
                                      {1, 4, 4, 4, true},
                                      {1, 8, 12, 8, true},
                                      {1, 1, 1, 1, false}});
        // What lies in fog has its light from the fog: while its own looks say little, what the air's say is expected.
        solve(set_, s, wholeError, air,
              {{1, 1, 1, 1, false},
               {n, 1, 1, 1, false},
               {n, 1, 1, 4, false},
               {n, 2, 2, 4, false},
               {n, 4, 6, 8, false},
               {1, 1, 1, 1, false}});
    }
    known_ = true;
}

std::size_t PathRatios::bytes() const
{
    std::size_t total = 0;
    for (const Grid* g : {&air_, &set_})
        total += g->sums.capacity() * sizeof(Sums) + (g->before.capacity() + g->ratios.capacity()) * sizeof(float);
    return total;
}
} // namespace hygros::render
