/// What the line of sight of one pixel meets.
#include "render/frame.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {

Sounding Frame::soundingAt(int px, int py) const
{
    Sounding out;
    if (!lit_ || px < 0 || py < 0 || px >= width_ || py >= height_)
        return out;
    // The march of this pixel's group once more, by what was seen, keeping every boundary.
    const int x = px / lanes * lanes, lane = px - x;
    const std::size_t group = groupAt(x, py), noisy = air_->noisyCount(), pixel = index(px, py);
    AirRays8 rays;
    rays.ray = raysAt(x, py);
    rays.jitter = f8(0.5f);
    for (int i = 0; i < lanes; ++i)
        rays.end[i] = span_[index(std::min(x + i, width_ - 1), py)];
    rays.segments = pieces_[group];
    F8 sunSeen[maxSegments], skySeen[maxSegments / 3];
    seenFromAir(x, py, rays.end, sunSeen, skySeen);
    rays.sunSeen = sunSeen;
    rays.skySeen = skySeen;
    rays.depth[0] = rays.end;
    rays.weight[0] = f8(1.f);
    std::vector<std::uint16_t> means(maxSegments * std::max<std::size_t>(1, noisy) * 2 * lanes);
    if (noisy) {
        std::copy_n(airNoise_.at(group), maxSegments * noisy * 2 * lanes, means.begin());
        rays.noise = {means.data(), false, f8(0.f)};
    }
    F8 body[mostSlabs * bodyPlanes];
    if (bodyFloats() > 0)
        putBodies(bodySeen_.at(group), body, rays);
    const Cluster* c = &clusters_[pixel * clusterCount];
    int most = 0;
    for (int k = 1; k < clusterCount; ++k)
        if (c[k].weight > c[most].weight)
            most = k;
    out.depth = c[most].t;
    // What comes through to the surface is asked for beside, and lights nothing.
    rays.depths = 2;
    rays.depth[1] = f8(out.depth);
    rays.weight[1] = f8(0.f);
    AirSums8 sums;
    F8 profile[maxSegments][4];
    marchAir(*air_, rays, sums, profile);

    out.sky = out.depth >= shot::Shot::farDistance;
    const float level = std::hypot(rays.ray.dx[lane], rays.ray.dz[lane]);
    out.slope = level > 1e-6f ? rays.ray.dy[lane] / level : 1e6f;
    out.surface = behindSurface(pixel, py, most, allSources);
    out.surfaceBy.push_back({"own", behindSurface(pixel, py, most, sourceOwn)});
    if (shot_->sky) {
        out.surfaceBy.push_back({shot_->sunId, behindSurface(pixel, py, most, sourceSun)});
        out.surfaceBy.push_back({"sky", behindSurface(pixel, py, most, sourceSky)});
    }
    for (std::size_t l = 0; l < lampCount_; ++l)
        out.surfaceBy.push_back(
            {shot_->lamps[l].id, behindSurface(pixel, py, most, sourceLamps + static_cast<int>(l))});

    const auto n = static_cast<std::size_t>(rays.segments);
    const float span = rays.end[lane], scale = static_cast<float>(n) / std::log(1.f + span / Segments8::a);
    const Vec3 o(rays.ray.ox[lane], rays.ray.oy[lane], rays.ray.oz[lane]),
        d(rays.ray.dx[lane], rays.ray.dy[lane], rays.ray.dz[lane]);
    const auto boundary = [&](std::size_t i) { return Segments8::a * std::expm1(static_cast<float>(i) / scale); };
    // Boundaries short of the surface, then the surface itself, a share of the way through its piece.
    std::size_t whole = 0;
    while (whole < n && boundary(whole + 1) < out.depth * 0.9999f)
        ++whole;
    const auto transmittanceAt = [&](std::size_t i) { return std::max(sums.boundary[i][lane], 1e-30f); };
    float part = whole < n ? (out.depth - boundary(whole)) / (boundary(whole + 1) - boundary(whole)) : 0.f;
    // By what of the piece's air lies before the surface, as the picture has it, where there is any.
    if (const float all = whole < n ? std::log(transmittanceAt(whole + 1) / transmittanceAt(whole)) : 0.f; all < -1e-4f)
        part = std::clamp(std::log(std::max(sums.transmittance[1][lane], 1e-30f) / transmittanceAt(whole)) / all, 0.f,
                          1.f);
    const auto add = [&](float distance, float transmittance, const Vec3& light) {
        out.distance.push_back(distance);
        // Of clean air what it leaves of green.
        out.transmittance.push_back(air_->hasClean()
                                        ? transmittance * std::exp(-air_->cleanDepth(rays.ray, f8(distance))[lane])
                                        : transmittance);
        out.sunAndSky.push_back(light);
    };
    // Sun and sky together, as paths have it for this pixel's air.
    const PathRatios::By ratio = airRatio(px, py, ratioRow(py));
    Vec3 paths(1.f);
    for (int ch = 0; ch < 3; ++ch) {
        const float sun = airSun_.at(pixel)[ch], sky = airSky_.at(pixel)[ch];
        if (sun + sky > 0.f)
            paths[ch] = (sun * ratio.of[PathRatios::sun][ch] + sky * ratio.of[PathRatios::sky][ch]) / (sun + sky);
    }
    const auto lightAt = [&](F8(*p)[4], std::size_t i) {
        return i == 0 ? Vec3(0.f) : Vec3(p[i - 1][0][lane], p[i - 1][1][lane], p[i - 1][2][lane]) * paths;
    };
    for (std::size_t i = 0; i <= whole; ++i)
        add(boundary(i), transmittanceAt(i), lightAt(profile, i));
    if (whole < n)
        add(out.depth, transmittanceAt(whole) * std::pow(transmittanceAt(whole + 1) / transmittanceAt(whole), part),
            lerp(lightAt(profile, whole), lightAt(profile, whole + 1), part));

    const auto media = air_->media();
    for (std::size_t k = 0; k < media.size(); ++k) {
        if (media[k].element != static_cast<int>(k)) {
            // The same element once more (its clean air): its light is in already.
            Sounding::ByElement& first = *std::find_if(out.elements.begin(), out.elements.end(),
                                                       [&](const auto& e) { return e.id == media[k].medium->id; });
            for (std::size_t i = 0; i < out.distance.size(); ++i) {
                const std::size_t piece = i == 0 ? 0 : i - 1;
                const float t0 = boundary(piece), t1 = boundary(piece + 1);
                first.extinction[i] += media::opticalDepth(*media[k].medium, o, d, t0, t1) / (t1 - t0);
            }
            continue;
        }
        Sounding::ByElement by{media[k].medium->id, {}, {}};
        F8 alone[maxSegments][4];
        marchAir(*air_, rays, sums, alone, static_cast<int>(k));
        for (std::size_t i = 0; i < out.distance.size(); ++i) {
            const bool last = i == whole + 1;
            by.light.push_back(last ? lerp(lightAt(alone, whole), lightAt(alone, whole + 1), part) : lightAt(alone, i));
            // Mean extinction of the piece that ends here; the first stands for the eye.
            const std::size_t piece = i == 0 ? 0 : i - 1;
            const float t0 = boundary(piece), t1 = boundary(piece + 1);
            float sigma = media[k].sigma *
                          media::profileIntegral8(*media[k].medium, media::ray8(o, d), f8(std::max(t0, media[k].clear)),
                                                  f8(std::max(t1, media[k].clear)))[0] /
                          (t1 - t0);
            if (const int q = media[k].noisyIndex; q >= 0)
                sigma *= keptNoise(&means[(piece * noisy + static_cast<std::size_t>(q)) * 16], media[k].bound)[lane];
            by.extinction.push_back(sigma);
        }
        out.elements.push_back(std::move(by));
    }
    if (rays.slabCount > 0) {
        // Of bodies: what the air does not account for, and their depth in the step where they are met.
        Sounding::ByElement by{bodies_.list.front()->id(0), {}, {}};
        for (std::size_t i = 0; i < out.distance.size(); ++i) {
            Vec3 rest = out.sunAndSky[i];
            for (const Sounding::ByElement& e : out.elements)
                rest -= e.light[i];
            by.light.push_back(Vec3(std::max(0.f, rest.x), std::max(0.f, rest.y), std::max(0.f, rest.z)));
            float met = 0.f;
            for (int b = 0; b < rays.slabCount; ++b) {
                const float at = body[b * bodyPlanes + bodyAt][lane],
                            hidden = -std::log(std::max(1e-6f, body[b * bodyPlanes + bodyThrough][lane]));
                const bool here = i > 0 && at > out.distance[i - 1] && at <= out.distance[i];
                met += here ? hidden / (out.distance[i] - out.distance[i - 1]) : 0.f;
            }
            by.extinction.push_back(met);
        }
        out.elements.push_back(std::move(by));
    }
    const std::size_t lampGroup = groupOf(pixel);
    const MarchedRay marched(*air_, o, d, span, rays.segments, reinterpret_cast<const float*>(sums.boundary) + lane,
                             noisy ? means.data() + lane : nullptr,
                             shot_->scatteringOrders > 1 ? reinterpret_cast<const float*>(sums.onward) + lane
                                                         : nullptr);
    for (std::size_t l = 0; l < lampCount_; ++l) {
        Sounding::ByLamp by{shot_->lamps[l].id, std::vector<Vec3>(out.distance.size(), Vec3(0.f))};
        const auto listed = lampsOf(lampGroup);
        const auto found = std::find(listed.begin(), listed.end(), l);
        if (found == listed.end()) {
            out.lamps.push_back(std::move(by)); // its light does not come near
            continue;
        }
        const auto j = static_cast<std::size_t>(found - listed.begin());
        BeamSamples beam;
        const float share = 1.f / static_cast<float>(beamLooks(px, py, rowLooks_[static_cast<std::size_t>(py)]));
        const auto gather = [&] {
            for (std::size_t i = 0; i < out.distance.size(); ++i)
                for (int s = 0; s < lanes; ++s)
                    if (beam.t[s] < out.distance[i])
                        by.light[i] += Vec3(beam.light[0][s], beam.light[1][s], beam.light[2][s]) *
                                       ratio.of[PathRatios::lamps] * 0.5f;
        };
        for (const float jitter : {0.25f, 0.75f}) {
            if (beamSamples(marched, l, jitter,
                            beamLit_.at(lampBase_[lampGroup] + j, static_cast<std::size_t>(px % lanes)), share, beam))
                gather();
            if (glowSamples(marched, l, jitter, beam))
                gather();
        }
        out.lamps.push_back(std::move(by));
    }
    return out;
}

Vec3 Frame::behindSurface(std::size_t pixel, int y, int cluster, int source) const
{
    const Cluster& c = clusters_[pixel * clusterCount + static_cast<std::size_t>(cluster)];
    const Through& t = through_[pixel];
    if (c.weight == 0.f || t.view[cluster] < 0.f)
        return Vec3(0.f);
    // As behindAir() does for this cluster alone, before the air in front of it.
    Through one;
    one.view[cluster] = 1.f;
    one.onto[cluster] = t.onto[cluster];
    return behindAir(pixel, y, one, nullptr, ratioRow(y), nullptr, -1, source).behind;
}
} // namespace hygros::render
