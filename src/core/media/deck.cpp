#include "media/deck.h"

#include "base/parallel.h"
#include "base/random.h"
#include "media/deck_diffusion.h"
#include "media/lookup.h"
#include "media/phase8.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
inline F8 smoothstep(F8 u)
{
    const F8 c = clamp8(u, 0.f, 1.f);
    return c * c * (3.f - 2.f * c);
}
float cloudBase(const CloudDeck& d) { return d.base + d.floor * d.thickness; }
float cloudHeight(const CloudDeck& d) { return d.thickness * (1.f - d.floor); }
Vec3 turned(const Vec3& v, float heading)
{
    const float c = std::cos(heading), s = std::sin(heading);
    return Vec3(v.x * c + v.z * s, v.y, v.z * c - v.x * s);
}
Noise largeNoise(const CloudDeck& d)
{
    Noise n;
    n.scale = d.scale;
    n.octaves = 3;
    n.gain = 0.5f;
    n.lacunarity = 2.1f;
    n.seed = d.seed;
    n.offset = d.offset;
    n.evolution = d.evolution;
    n.loop = d.loop;
    n.stretch = Vec3(1.f, 0.8f, 1.f);
    if (d.rolls > 0.f) { // its axes lie along and across the rolls
        n.stretch = Vec3(1.f, 0.8f, 1.f + 4.f * d.rolls);
        n.offset = turned(n.offset, d.heading);
        n.loop.back = turned(n.loop.back, d.heading);
    }
    return n;
}
F8 large8(const CloudDeck& d, const Noise& n, F8 x, F8 y, F8 z)
{
    // The noise is sampled as if the slab were a quarter as high: clouds are columns of it rather than a foam.
    const F8 at = cloudBase(d) + (y - cloudBase(d)) * 0.25f;
    if (d.rolls <= 0.f)
        return octaves8(n, x, at, z);
    const float c = std::cos(d.heading), s = std::sin(d.heading);
    return octaves8(n, x * c + z * s, at, z * c - x * s);
}
/// Where clouds gather.
F8 gathered8(const CloudDeck& d, F8 x, F8 z)
{
    if (d.gathered <= 0.f)
        return f8(0.f);
    Noise n = largeNoise(d);
    n.octaves = 2;
    n.scale = 7.f * d.scale;
    n.seed += 911u;
    n.stretch = Vec3(1.f);
    n.offset = d.offset;
    n.loop.back = d.loop.back;
    return octaves8(n, x, f8(0.f), z) * (0.55f * d.gathered);
}
Noise fineNoise(const CloudDeck& d)
{
    Noise n = largeNoise(d);
    n.scale = d.fine;
    n.octaves = 1;
    n.seed = d.seed + 4241u;
    n.offset = d.offset * 1.08f; // wisps are torn along a little
    n.loop.back = d.loop.back * 1.08f;
    n.stretch = Vec3(1.f);
    return n;
}
/// How much harder it is to be cloud at a height share u.
inline F8 lift(const CloudDeck& d, F8 u) { return u * u * (0.45f * d.heaped); }
/// The layer's own ends: a firm base, a softer top.
inline F8 envelope(const CloudDeck& d, F8 u)
{
    return smoothstep(u * (1.f / (0.22f - 0.14f * d.heaped))) * smoothstep((1.f - u) * (1.f / 0.3f));
}
constexpr float softness = 0.16f;
} // namespace

void CloudDeck::settle()
{
    // Where the noise has which quantile, at the height where most cloud is.
    const Noise n = largeNoise(*this);
    constexpr int groups = 512;
    std::vector<float> values;
    values.reserve(groups * lanes);
    Random random(77);
    std::vector<F8> xs, zs;
    const float most = cloudBase(*this) + 0.3f * cloudHeight(*this);
    for (int i = 0; i < groups; ++i) {
        F8 x, z;
        for (int k = 0; k < lanes; ++k) {
            x[k] = (random.next() - 0.5f) * 400.f * scale;
            z[k] = (random.next() - 0.5f) * 400.f * scale;
        }
        const F8 v = large8(*this, n, x, f8(most), z) + gathered8(*this, x, z);
        for (int k = 0; k < lanes; ++k)
            values.push_back(v[k]);
        xs.push_back(x);
        zs.push_back(z);
    }
    std::sort(values.begin(), values.end());
    const auto quantile = [&](float share) {
        return values[static_cast<std::size_t>(std::clamp(1.f - share, 0.f, 1.f) *
                                               static_cast<float>(values.size() - 1))];
    };
    threshold = quantile(coverage) - 0.3f * softness;
    if (coverage >= 0.999f)
        threshold = values.front() - softness - 0.5f;
    else if (coverage <= 0.f)
        threshold = 10.f;
    else {
        // Seen from below a cloud is as wide as its widest part: the share of the lines up that meet it, counted, and
        // the quantile for which that is the one wished.
        constexpr int lines = 128, looks = 6;
        float low = 0.f, high = std::min(1.f, coverage + 0.02f);
        for (int round = 0; round < 7; ++round) {
            const float middle = 0.5f * (low + high);
            threshold = quantile(middle) - 0.3f * softness;
            int met = 0;
            for (std::size_t i = 0; i < lines; ++i) {
                F8 column = f8(0.f);
                for (int s = 0; s < looks; ++s)
                    column += deckDensity8(
                        *this, xs[i],
                        f8(cloudBase(*this) + cloudHeight(*this) * (static_cast<float>(s) + 0.5f) / looks), zs[i],
                        f8(20.f));
                const F8 depth = column * (cloudHeight(*this) * sigmaT / looks);
                for (int k = 0; k < lanes; ++k)
                    met += depth[k] > 0.3f;
            }
            (static_cast<float>(met) < coverage * static_cast<float>(lines * lanes) ? low : high) = middle;
        }
    }
    // The mean column from straight lines up.
    constexpr int steps = 8;
    double total = 0.0, through = 0.0;
    // Light that is scattered on and on goes through 1 ÷ (1 + ¾·(1 − g)·τ) of a sheet; thin edges let more through than
    // their share of the depth says.
    const float turning = 0.75f * std::max(0.02f, 1.f - luminance(albedo) * phase.meanCosine());
    for (int i = 0; i < 64; ++i) {
        F8 x, z, column = f8(0.f);
        for (int k = 0; k < lanes; ++k) {
            x[k] = (random.next() - 0.5f) * 400.f * scale;
            z[k] = (random.next() - 0.5f) * 400.f * scale;
        }
        for (int s = 0; s < steps; ++s)
            column += deckDensity8(*this, x, f8(base + thickness * (static_cast<float>(s) + 0.5f) / steps), z,
                                   f8(thickness / steps)) *
                      (thickness * sigmaT / steps);
        total += static_cast<double>(sum(column));
        through += static_cast<double>(sum(1.f / (1.f + turning * column)));
    }
    meanColumn = static_cast<float>(total / (64.0 * lanes));
    const double covered = std::max(0.01, static_cast<double>(coverage)),
                 byClouds = std::clamp((through / (64.0 * lanes) - (1.0 - covered)) / covered, 1e-3, 1.0);
    evenColumn = static_cast<float>((1.0 / byClouds - 1.0) / static_cast<double>(turning));
}

namespace {
/// What falls from a cloud, under its base: `down` is 0 there and 1 where the last of it is gone.
F8 falling8(const CloudDeck& d, F8 x, F8 y, F8 z, F8 down)
{
    // It lags behind the cloud that drifts on, more the farther it has come.
    const float lag = 1.2f * d.floor * d.thickness, sx = std::sin(d.heading), sz = -std::cos(d.heading);
    const F8 back = down * down * lag, ox = x + back * sx, oz = z + back * sz;
    const float from = cloudBase(d) + 0.25f * cloudHeight(d);
    const F8 above = large8(d, largeNoise(d), ox, f8(from), oz) + gathered8(d, ox, oz) - d.threshold;
    Noise n = fineNoise(d);
    n.seed += 77u;
    n.scale = 0.35f * d.scale;
    const F8 sheet = smoothstep((above - 0.2f + octaves8(n, ox, f8(0.f), oz) * 0.5f) * 3.f);
    n.scale = d.fine;
    n.stretch = Vec3(1.f, 9.f, 1.f);
    const F8 streak = clamp8(1.f + 1.6f * octaves8(n, ox, y, oz), 0.f, 2.f), left = 1.f - down;
    return sheet * streak * left * sqrt8(left) * (0.06f * d.fallout);
}
} // namespace

F8 deckDensity8(const CloudDeck& d, F8 x, F8 y, F8 z, F8 step)
{
    const F8 whole = (y - d.base) * (1.f / d.thickness);
    const I8 in = (whole > 0.f) & (whole < 1.f);
    if (!any(in))
        return f8(0.f);
    F8 u = (whole - d.floor) * (1.f / (1.f - d.floor)), fallen = f8(0.f);
    if (d.ragged > 0.f) { // here and there it hangs lower
        Noise n = fineNoise(d);
        n.octaves = 3;
        n.scale = 0.5f * d.scale;
        n.seed += 501u;
        const float deep = std::min(0.45f * d.ragged, 0.25f * d.scale * d.ragged / cloudHeight(d));
        const F8 hangs = deep * (0.5f + clamp8(octaves8(n, x, f8(0.f), z) * 1.4f, -0.5f, 0.5f));
        u = (u - hangs) * (1.f / (1.f - deep));
    }
    if (d.fallout > 0.f && any(in & (u < 0.08f))) {
        const F8 down = clamp8((d.floor - whole) * (1.f / std::max(1e-3f, d.floor)), 0.f, 1.f);
        fallen = select(in & (u < 0.08f), falling8(d, x, y, z, down), f8(0.f));
    }
    const I8 cloud = in & (u > 0.f) & (u < 1.f);
    if (!any(cloud))
        return fallen;
    const F8 large = large8(d, largeNoise(d), x, y, z) + gathered8(d, x, z), ends = envelope(d, u);
    F8 inside = large - d.threshold - lift(d, u) - (1.f - ends) * 0.2f; // 0 at the surface
    // Heaps within heaps, round outward and creased between.
    const float reach = 0.3f * d.erosion;
    const I8 near = cloud & (inside > -reach) & (inside < reach + softness);
    if (d.erosion > 0.f && any(near)) {
        F8 heaps = f8(0.f);
        float weight = 1.f, size = d.fine * 2.6f;
        Noise n = fineNoise(d);
        for (int o = 0; o < 5; ++o, weight *= 0.62f, size *= 0.45f) {
            const F8 seen = clamp8(2.f - step * (0.35f / size), 0.f, 1.f);
            if (!any(seen > 0.f))
                break;
            n.scale = size;
            n.seed += 31u;
            heaps += weight * seen * (0.45f - abs8(octaves8(n, x, y, z)) * 2.4f);
        }
        inside += heaps * (0.25f * d.erosion);
    }
    // What a sample stands for is a piece of the cloud: over long ones its edge is as soft as the piece is long.
    constexpr float firm = 0.35f * softness;
    const F8 blur = step * (0.8f / d.scale), wide = sqrt8(firm * firm + blur * blur);
    const F8 body = smoothstep((inside + 0.5f * (wide - firm)) / wide);
    return max8(select(cloud, body * ends, f8(0.f)), fallen);
}

DeckShadow::DeckShadow(const CloudDeck& deck, const Vec3& sun, const Vec3& eye)
    : base_(deck.base), thickness_(deck.thickness)
{
    const float up = std::max(sun.y, 0.03f);
    slopeX_ = sun.x / up;
    slopeZ_ = sun.z / up;
    fill(wide_, deck, eye, 10);
    fill(near_, deck, eye, 32);
    double total = 0.0;
    for (const float t : wide_.through)
        total += static_cast<double>(t);
    mean_ = static_cast<float>(total / static_cast<double>(wide_.through.size()));
}

void DeckShadow::fill(Grid& g, const CloudDeck& deck, const Vec3& eye, int steps) const
{
    const float reach = 0.5f * g.cell * static_cast<float>(g.size - 1);
    // On whole cells, and drifting with the clouds would make it swim: the grid stays with the world.
    g.x0 = std::floor((eye.x + slopeX_ * (base_ - eye.y) - reach) / g.cell) * g.cell;
    g.z0 = std::floor((eye.z + slopeZ_ * (base_ - eye.y) - reach) / g.cell) * g.cell;
    const auto size = static_cast<std::size_t>(g.size);
    g.through.resize(size * size);
    const float rise = thickness_ / static_cast<float>(steps),
                length = rise * std::sqrt(slopeX_ * slopeX_ + slopeZ_ * slopeZ_ + 1.f);
    parallelFor(size, [&](std::size_t j) {
        for (int i = 0; i < g.size; i += lanes) {
            F8 x, tau = f8(0.f);
            for (int k = 0; k < lanes; ++k)
                x[k] = g.x0 + g.cell * static_cast<float>(i + k);
            const F8 z = f8(g.z0 + g.cell * static_cast<float>(j));
            for (int s = 0; s < steps; ++s) {
                const float h = rise * (static_cast<float>(s) + 0.5f);
                tau += deckDensity8(deck, x + slopeX_ * h, f8(base_ + h), z + slopeZ_ * h,
                                    f8(std::max(length, g.cell))) *
                       (deck.sigmaT * length);
            }
            store8(&g.through[j * size + static_cast<std::size_t>(i)], exp8(-tau));
        }
    });
}

F8 DeckShadow::above8(F8 y) const { return clamp8((base_ + thickness_ - y) * (1.f / thickness_), 0.f, 1.f); }

F8 DeckShadow::depth8(F8 x, F8 y, F8 z) const
{
    const F8 above = above8(y);
    return any(above > 0.f) ? whole8(x, y, z) * above : f8(0.f);
}

F8 DeckShadow::whole8(F8 x, F8 y, F8 z) const
{
    const F8 rise = base_ - y; // down again for points inside
    const F8 px = x + slopeX_ * rise, pz = z + slopeZ_ * rise;
    F8 through = f8(mean_);
    const auto add = [&](const Grid& g, float edge) {
        const F8 u = (px - g.x0) * (1.f / g.cell), v = (pz - g.z0) * (1.f / g.cell);
        const float last = static_cast<float>(g.size - 1);
        const F8 in = clamp8(min8(min8(u, last - u), min8(v, last - v)) * (1.f / edge), 0.f, 1.f);
        if (!any(in > 0.f))
            return;
        const F8 cu = clamp8(u, 0.f, last - 1e-2f), cv = clamp8(v, 0.f, last - 1e-2f);
        through += (bilinear8(g.through.data(), g.size, cu, cv) - through) * in;
    };
    add(wide_, 24.f);
    add(near_, 24.f);
    return -log8(max8(through, f8(1e-6f)));
}

void lightDecks8(const std::vector<CloudDeck>& decks, const DeckSun& sun, const Ray8& ray, F8 end, F8 jitter,
                 float horizon, DeckLight8& out)
{
    for (int c = 0; c < 3; ++c)
        out.sun[c] = out.sky[c] = f8(0.f);
    out.through = f8(1.f);
    out.distance = f8(horizon);
    // Sky rays go on to where decks end.
    const F8 limit = select(end >= horizon * 0.999f, f8(deckDistance), end);
    struct Crossing {
        const CloudDeck* deck;
        F8 t0, t1;
        float nearest;
    };
    std::vector<Crossing> crossings;
    for (const CloudDeck& d : decks) {
        Crossing c{&d, f8(0.f), limit, 0.f};
        const F8 dy = select(abs8(ray.dy) < 1e-6f, f8(1e-6f), ray.dy), inv = 1.f / dy;
        const F8 a = (d.base - ray.oy) * inv, b = (d.base + d.thickness - ray.oy) * inv;
        c.t0 = max8(c.t0, min8(a, b));
        c.t1 = min8(c.t1, max8(a, b));
        if (!any(c.t1 > c.t0))
            continue;
        c.nearest = 1e30f;
        for (int k = 0; k < lanes; ++k)
            if (c.t1[k] > c.t0[k])
                c.nearest = std::min(c.nearest, c.t0[k]);
        crossings.push_back(c);
    }
    std::sort(crossings.begin(), crossings.end(),
              [](const Crossing& a, const Crossing& b) { return a.nearest < b.nearest; });
    F8 weightSum = f8(0.f), weightedT = f8(0.f);
    F8 scaled = f8(1.f), depth = f8(0.f); // what comes through in scaled transport; optical depth so far
    F8 skyBehind = f8(1.f),
       sunBehind = f8(1.f); // what comes through of light behind, turned or not, as far as it reaches
    DeckDiffusion::Means means;
    const float up = std::max(sun.direction.y, 0.03f);
    const F8 cosine = ray.dx * sun.direction.x + ray.dy * sun.direction.y + ray.dz * sun.direction.z;
    for (const Crossing& cross : crossings) {
        const CloudDeck& d = *cross.deck;
        const F8 length = max8(f8(0.f), cross.t1 - cross.t0);
        // Steps grow with distance. As many for all: a number that changed from ray to ray would show as a line.
        constexpr int steps = 22;
        const F8 a = max8(cross.t0, f8(50.f)), ratio = exp8(log8(1.f + length / a) * (1.f / steps));
        F8 t = cross.t0, width = (ratio - 1.f) * a;
        const F8 phase = phase8(d.phase, cosine), scaledBefore = scaled, throughBefore = out.through;
        const float g = d.phase.meanCosine(), even = 1.f / (4.f * pi), scale = 1.f - luminance(d.albedo) * g;
        const bool many = sun.orders > 1 && d.diffusion;
        F8 tau = f8(-1.f), before = f8(0.f); // none yet
        constexpr int closer = 4;
        for (int s = 0; s < steps; ++s, t = t + width, width = width * ratio) {
            const F8 at = t + width * jitter, x = ray.x(at), y = ray.y(at), z = ray.z(at);
            F8 density = deckDensity8(d, x, y, z, width);
            // Where a step crosses an edge it looks more closely.
            const I8 edge = ((density > 0.01f) & (density < 0.99f)) | ((density > 0.5f) ^ (before > 0.5f));
            before = density;
            if (any(edge & (length > 0.f) & (width > 0.25f * d.fine))) {
                F8 mean = f8(0.f);
                for (int k = 0; k < closer; ++k) {
                    F8 j = jitter + static_cast<float>(k) / closer;
                    j = j - floor8(j);
                    const F8 other = t + width * j;
                    mean += deckDensity8(d, ray.x(other), ray.y(other), ray.z(other), width * (1.f / closer));
                }
                density = select(edge, mean * (1.f / closer), density);
            }
            density = select(length > 0.f, density, f8(0.f));
            if (!any(density > 0.f))
                continue;
            const F8 delta = density * width * d.sigmaT, left = exp8(-delta), gained = out.through * (1.f - left);
            // Behind what hides all single events the depth to the sun is about that of the place before.
            if (tau[0] < 0.f || any(out.through > 0.02f))
                tau = deckSunDepth8(d, x, y, z, sun.direction, up, jitter + 0.618034f * static_cast<float>(s));
            const F8 straight = exp8(-tau);
            const F8 once = gained * straight * phase;
            if (many) {
                const F8 scaledLeft = exp8(-delta * scale), scaledSun = exp8(-tau * scale);
                const F8 more = scaled * (1.f - scaledLeft) * (1.f / scale); // ∫ σ of scaled light over the step
                // All of the way, to the middle of the step.
                const F8 all = max8(depth + delta * 0.5f + tau, f8(0.02f));
                const F8 unmet = out.through * sqrt8(left) * straight,
                         unturned = scaled * sqrt8(scaledLeft) * scaledSun;
                // Events from the second on: how many there are, how straight they go together, and what they add.
                const F8 events = max8(1.f - unmet * (1.f + all), f8(1e-4f));
                const F8 blunt = clamp8(max8(unturned - unmet * (1.f + g * all), f8(0.f)) / events, 1e-3f,
                                        std::max(g * g, 2e-3f));
                const F8 turned = max8(f8(0.f), (more * scaledSun - gained * straight) / all - gained * straight * g);
                const F8 away = 1.f + blunt * blunt - 2.f * blunt * cosine;
                const F8 spread = ((1.f - blunt * blunt) / (away * sqrt8(away)) - 1.f) * (even / blunt) + even;
                const F8 diffused = more * ((1.f - g) * d.ambient);
                for (int c = 0; c < 3; ++c) {
                    if (c == 0 || d.albedo[c] != d.albedo[c - 1])
                        means = d.diffusion->at8(c, (y - d.base) * (1.f / d.thickness), tau);
                    const F8 bySun = max8(f8(0.f), once - gained * straight * ((1.f - g) * even) + turned * spread +
                                                       diffused * means.sun);
                    out.sun[c] += (bySun * sun.irradiance[c] + diffused * means.ground * sun.groundBySun[c]) *
                                  (d.albedo[c] * d.bySun);
                    out.sky[c] += diffused * (means.sky * sun.zenith[c] + means.ground * sun.ground[c]) *
                                  (d.albedo[c] * d.bySky);
                }
                scaled = scaled * scaledLeft;
            } else {
                for (int c = 0; c < 3; ++c)
                    out.sun[c] += once * (sun.irradiance[c] * d.albedo[c] * d.bySun);
                scaled = scaled * left;
            }
            depth += delta;
            weightedT += gained * at;
            weightSum += gained;
            out.through = out.through * left;
            if (!any(scaled > 0.03f))
                break;
        }
        const F8 through = out.through / max8(throughBefore, f8(1e-30f)),
                 turned = scaled / max8(scaledBefore, f8(1e-30f)) - through;
        skyBehind = skyBehind * (through + turned * d.bySky);
        sunBehind = sunBehind * (through + turned * d.bySun);
    }
    // What of that is turned by little.
    const I8 up8 = ray.dy > 0.f, open = ~up8 | (end >= horizon * 0.999f);
    skyBehind = select(open, skyBehind - out.through, f8(0.f));
    sunBehind = select(open, sunBehind - out.through, f8(0.f));
    for (int c = 0; c < 3; ++c) {
        out.sky[c] += skyBehind * select(up8, f8(sun.zenith[c]), f8(sun.ground[c]));
        out.sun[c] += sunBehind * select(up8, f8(0.f), f8(sun.groundBySun[c]));
    }
    out.distance = min8(select(weightSum > 1e-6f, weightedT / max8(weightSum, f8(1e-12f)), f8(horizon)),
                        f8(horizon * 0.999f));
}
} // namespace hygros::media
