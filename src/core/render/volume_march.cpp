#include "render/volume_march.h"

#include "media/phase8.h"

#include <algorithm>

namespace hygros::render {
namespace {
struct Crossing {
    std::size_t volume;
    F8 t0, t1;
    float nearest, farthest;
};
} // namespace

void volumesOn8(std::span<const media::Volume> volumes, const media::VolumeTree& tree, const media::Ray8& ray, F8 end,
                F8& t0, F8& t1)
{
    F8 first = end, last = f8(0.f);
    tree.over8(ray, end, [&](std::size_t k) {
        F8 a = f8(0.f), b = end;
        media::clip8(volumes[k], ray, a, b);
        const I8 met = b > a;
        first = select(met, min8(first, a), first);
        last = select(met, max8(last, b), last);
        return true;
    });
    t0 = min8(first, last);
    t1 = last;
}

void lightVolumes8(const shot::Shot& shot, const media::VolumeTree& tree,
                   std::span<const std::unique_ptr<VolumeLight>> lights, const media::Ray8& ray, F8 begin, F8 end,
                   F8 jitter, int most, Body::Seen8& out)
{
    for (int c = 0; c < 3; ++c)
        out.sun[c] = out.sky[c] = out.own[c] = f8(0.f);
    out.through[0] = out.through[1] = out.through[2] = f8(1.f);
    out.distance = end;
    // One transmittance serves all channels unless something is coloured.
    const bool coloured = std::any_of(shot.volumes.begin(), shot.volumes.end(),
                                      [](const media::Volume& v) { return !media::isGrey(v); });
    const int kinds = coloured ? 3 : 1;
    thread_local std::vector<Crossing> crossings;
    crossings.clear();
    tree.over8(ray, end, [&](std::size_t k) {
        Crossing c{k, f8(0.f), end, 1e30f, 0.f};
        media::clip8(shot.volumes[k], ray, c.t0, c.t1);
        c.t0 = max8(c.t0, begin);
        for (int i = 0; i < lanes; ++i)
            if (c.t1[i] > c.t0[i]) {
                c.nearest = std::min(c.nearest, c.t0[i]);
                c.farthest = std::max(c.farthest, c.t1[i]);
            }
        if (c.farthest > 0.f)
            crossings.push_back(c);
        return true;
    });
    if (crossings.empty())
        return;
    std::sort(crossings.begin(), crossings.end(),
              [](const Crossing& a, const Crossing& b) { return a.nearest < b.nearest; });
    const Vec3 sun = shot.sky ? shot.sky->sunDirection() : Vec3(0, 1, 0);
    const Vec3 sunLight = shot.sky ? shot.sky->sunIrradiance() : Vec3(0.f);
    const F8 cosine = ray.dx * sun.x + ray.dy * sun.y + ray.dz * sun.z;
    F8 weights = f8(0.f), weighted = f8(0.f);
    const auto weigh = [&](F8 t, F8 w) {
        weights += w;
        weighted += w * t;
    };
    for (std::size_t first = 0; first < crossings.size();) {
        // Those that overlap go together.
        std::size_t last = first + 1;
        float farthest = crossings[first].farthest;
        while (last < crossings.size() && crossings[last].nearest < farthest)
            farthest = std::max(farthest, crossings[last++].farthest);
        const std::span<const Crossing> together(&crossings[first], last - first);
        first = last;
        F8 t0 = end, t1 = f8(0.f);
        float finest = 1e30f; // metres a step may be worth
        for (const Crossing& c : together) {
            const I8 met = c.t1 > c.t0;
            t0 = select(met, min8(t0, c.t0), t0);
            t1 = select(met, max8(t1, c.t1), t1);
            const media::Volume& v = shot.volumes[c.volume];
            const Vec3 d(ray.dx[0], ray.dy[0], ray.dz[0]);
            // No fewer than forty across coarse grids, so that a preview is as bright as what it stands for.
            finest = std::min({finest, 1.5f / std::max(1e-9f, v.indexDirection(d).length()),
                               (v.bounds.max - v.bounds.min).length() / 40.f});
        }
        t1 = max8(t0, t1);
        const F8 length = t1 - t0;
        float longest = 0.f;
        for (int i = 0; i < lanes; ++i)
            longest = std::max(longest, length[i]);
        const int steps = std::clamp(static_cast<int>(longest / finest) + 1, 3, most);
        const F8 dt = length * (1.f / static_cast<float>(steps));
        for (int s = 0; s < steps; ++s) {
            const F8 t = t0 + dt * (static_cast<float>(s) + pieceJitter(jitter, s)), x = ray.x(t), y = ray.y(t),
                     z = ray.z(t);
            F8 all[3] = {f8(0.f), f8(0.f), f8(0.f)}, sunGain[3] = {f8(0.f), f8(0.f), f8(0.f)},
               skyGain[3] = {f8(0.f), f8(0.f), f8(0.f)}, ownGain[3] = {f8(0.f), f8(0.f), f8(0.f)};
            bool glows = false;
            for (const Crossing& c : together) {
                const media::Volume& v = shot.volumes[c.volume];
                const F8 sigma = select((t >= c.t0) & (t <= c.t1), media::extinction8(v, x, y, z), f8(0.f));
                if (v.glow.heat) {
                    F8 given[3];
                    media::glow8(v, x, y, z, given);
                    const I8 in = (t >= c.t0) & (t <= c.t1);
                    for (int ch = 0; ch < 3; ++ch)
                        ownGain[ch] += select(in, given[ch], f8(0.f));
                    glows = true;
                }
                if (!any(sigma > 0.f))
                    continue;
                F8 relative[3], albedo[3];
                media::optics8(v, x, y, z, sigma, relative, albedo);
                for (int ch = 0; ch < kinds; ++ch)
                    all[ch] += coloured ? sigma * relative[ch] : sigma;
                VolumeLight::Scattered8 scattered;
                lights[c.volume]->at8(x, y, z, scattered);
                F8 straight[3] = {f8(0.f), f8(0.f), f8(0.f)};
                if (v.shadow && v.bySun > 0.f) {
                    const F8 fraction = jitter * 7.f + static_cast<float>(s) * 0.754877666f;
                    const F8 depth = media::fineSunDepth8(v, x, y, z, fraction - floor8(fraction)),
                             share = scattered.open * media::phase8(v.phase, cosine) * v.bySun;
                    const Vec3& by = lights[c.volume]->meanRelative();
                    for (int ch = 0; ch < 3; ++ch)
                        straight[ch] = ch > 0 && by[ch] == by[0] ? straight[0] : exp8(depth * -by[ch]) * share;
                }
                for (int ch = 0; ch < 3; ++ch) {
                    const F8 scatters = (coloured ? sigma * relative[ch] : sigma) * albedo[ch];
                    sunGain[ch] += scatters * (scattered.sun[ch] + straight[ch] * sunLight[ch]);
                    skyGain[ch] += scatters * scattered.sky[ch];
                    ownGain[ch] += scatters * scattered.own[ch];
                }
            }
            if (!any((all[0] > 0.f) | (all[1] > 0.f) | (all[2] > 0.f)) && !glows)
                continue;
            F8 weight[3], gained = f8(0.f), visible = f8(0.f);
            for (int ch = 0; ch < kinds; ++ch) {
                const F8 delta = all[ch] * dt, left = exp8(-delta),
                         held = select(delta < 1e-3f, 1.f - 0.5f * delta, (1.f - left) / max8(delta, f8(1e-12f)));
                weight[ch] = out.through[ch] * held * dt;
                gained += out.through[ch] * (1.f - left) * (1.f / static_cast<float>(kinds));
                out.through[ch] = out.through[ch] * left;
                visible = max8(visible, out.through[ch]);
            }
            for (int ch = 0; ch < 3; ++ch) {
                const F8 w = weight[coloured ? ch : 0];
                out.sun[ch] += w * sunGain[ch];
                out.sky[ch] += w * skyGain[ch];
                out.own[ch] += w * ownGain[ch];
                if (glows) // a flame that hides nothing is still somewhere
                    gained += w * ownGain[ch] * 1e-6f;
            }
            weigh(t, gained);
            if (!any(visible > 2e-3f))
                break;
        }
    }
    if (!coloured)
        out.through[1] = out.through[2] = out.through[0];
    out.distance = select(weights > 0.f, weighted / max8(weights, f8(1e-30f)), end);
}
} // namespace hygros::render
