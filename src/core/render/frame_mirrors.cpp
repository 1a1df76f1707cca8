/// Light that comes by way of mirrors.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_lit.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;

Vec3 Frame::litMirrors(std::size_t pixel, int y, const Vec3* view, int lead, int source,
                       const PathRatios::By* ratio) const
{
    const auto at = static_cast<std::size_t>(mirrorOf_[pixel]);
    const Mirror& mirror = mirrors_[static_cast<std::size_t>(y)][at];
    Vec3 out(0.f);
    const MirrorsSeen& seen = mirrorsSeen_[static_cast<std::size_t>(y)];
    const Vec3 one(1.f), &byLamps = ratio ? ratio->of[PathRatios::lamps] : one,
                         &bySun = ratio ? ratio->of[PathRatios::sun] : one,
                         &bySky = ratio ? ratio->of[PathRatios::sky] : one;
    for (std::size_t i = 0; i < 2; ++i) {
        const MirrorCluster& c = mirror.clusters[i];
        if (c.weight == 0.f)
            continue;
        const MirrorCluster* leading = lead >= 0
                                           ? leadingMirror(static_cast<int>(pixel % static_cast<std::size_t>(width_)),
                                                           lead, c.t)
                                           : nullptr;
        const MirrorCluster& air = leading ? *leading : c;
        if (air.view < 0.f)
            continue;
        Vec3 airLight = source == allSources  ? air.airSun * bySun + air.airSky * bySky + air.airOwn * byLamps
                        : source == sourceSun ? air.airSun * bySun
                        : source == sourceSky ? air.airSky * bySky
                        : source == sourceOwn || source == sourceBodies ? air.airOwn * byLamps
                                                                        : Vec3(0.f);
        const std::size_t slot = (at * 2 + i) * lampCount_;
        for (std::size_t k = 0; k < lampCount_ && slot < seen.lampAir.size(); ++k)
            if (source == allSources || source == sourceLamps + static_cast<int>(k))
                airLight += seen.lampAir[slot + k] * byLamps;
        // The air before the mirror is that of the surface cluster it lies in.
        int front = 0;
        for (int k = 1; k < clusterCount; ++k) {
            const Cluster* cl = &clusters_[pixel * clusterCount];
            if (cl[k].weight > 0.f && std::abs(cl[k].t - c.t1) < std::abs(cl[front].t - c.t1))
                front = k;
        }
        const Vec3 l = lit(
                           c.light, everyLamp_,
                           mirrorLampLight_[static_cast<std::size_t>(y)].data() + (at * 2 + i) * lampCount_, 1,
                           [&] { return c.point + c.direction * c.t; }, air.onto, c.weight, nullptr, source, ratio) *
                           air.tint * air.view +
                       airLight * c.reflectance;
        out += l * view[front] * (c.weight / samples_[pixel]);
    }
    return out;
}

const Frame::MirrorCluster* Frame::leadingMirror(int x, int lead, float t) const
{
    const std::int32_t at = mirrorOf_[index(x, lead)];
    if (at < 0)
        return nullptr;
    const MirrorCluster* best = nullptr;
    for (const MirrorCluster& other : mirrors_[static_cast<std::size_t>(lead)][static_cast<std::size_t>(at)].clusters)
        if (other.weight > 0.f && other.view >= 0.f && (!best || std::abs(other.t - t) < std::abs(best->t - t)))
            best = &other;
    return best;
}

void Frame::lightMirrorsRow(int y, bool sampleNoise, bool share, int lead)
{
    auto& row = mirrors_[static_cast<std::size_t>(y)];
    MirrorsSeen& seen = mirrorsSeen_[static_cast<std::size_t>(y)];
    // Only clusters that exist take a lane. For a quick picture one of up to six alike neighbours is marched for all.
    std::vector<std::uint32_t> slots, led;
    slots.reserve(row.size() * 2);
    led.reserve(row.size() * 2);
    for (std::uint32_t which = 0; which < 2; ++which)
        for (std::uint32_t i = 0; i < row.size(); ++i) {
            if (lead >= 0 &&
                mirrorOf_[index(static_cast<int>(row[i].pixel % static_cast<std::uint32_t>(width_)), lead)] >= 0)
                continue;
            const MirrorCluster& c = row[i].clusters[which];
            if (c.weight == 0.f)
                continue;
            const std::uint32_t slot = i * 2 + which;
            bool follows = false;
            if (share && !slots.empty() && slots.back() % 2 == which && slot - slots.back() <= 10) {
                const Mirror& leader = row[slots.back() / 2];
                const float ratio = leader.clusters[which].t / c.t;
                follows = row[i].pixel - leader.pixel <= 5 && ratio > 0.85f && ratio < 1.18f;
            }
            if (!follows) {
                slots.push_back(slot);
                led.push_back(0);
            } else {
                led.back() = slot; // the last that follows
            }
        }
    const std::size_t noisy = air_->noisyCount(), perSlot = noisy * (2 * mirrorSegments + 1);
    // Mirrors found before any look from the air have neither counts nor noise of their own yet.
    if (seen.noiseLooks.size() < row.size() * 2) {
        seen.noise.resize(row.size() * 2 * perSlot, 0);
        seen.noiseLooks.resize(row.size() * 2, 0);
    }
    const bool lampsShow = !share && std::any_of(shot_->lamps.begin(), shot_->lamps.end(),
                                                 [](const light::Lamp& l) { return l.lightsAir(); });
    if (lampsShow) {
        seen.lampAir.resize(row.size() * 2 * lampCount_, Vec3(0.f));
        seen.lampLooks.resize(row.size() * 2, 0);
        ++seen.lampTurn;
    } else if (!share) {
        seen.lampAir.clear();
    }
    std::vector<std::uint16_t> means(std::max<std::size_t>(1, perSlot * lanes));
    AirSums8 sums;
    for (std::size_t first = 0; first < slots.size(); first += lanes) {
        AirRays8 rays;
        rays.ray = media::ray8(Vec3(0.f), Vec3(0, 1, 0));
        rays.fromEye = false;
        rays.end = f8(1.f);
        rays.segments = mirrorSegments;
        rays.jitter = f8(0.5f);
        const std::size_t count = std::min<std::size_t>(lanes, slots.size() - first);
        F8 seenSun[mirrorSegments];
        std::fill(std::begin(seenSun), std::end(seenSun), f8(1.f));
        rays.sunSeen = seenSun;
        bool sample = false;
        F8 weight = f8(0.f), normal[3] = {f8(0.f), f8(1.f), f8(0.f)};
        for (std::size_t i = 0; i < count; ++i) {
            const std::uint32_t slot = slots[first + i];
            const MirrorCluster& c = row[slot / 2].clusters[slot % 2];
            rays.ray.ox[i] = c.point.x, rays.ray.oy[i] = c.point.y, rays.ray.oz[i] = c.point.z;
            rays.ray.dx[i] = c.direction.x, rays.ray.dy[i] = c.direction.y, rays.ray.dz[i] = c.direction.z;
            rays.end[i] = c.t;
            setNormal(normal, static_cast<int>(i), c.light);
            if (slot < seen.looks.size() && seen.looks[slot] > 0)
                for (std::size_t s = 0; s < mirrorSegments; ++s)
                    seenSun[s][i] = static_cast<float>(seen.sunLit[slot * mirrorSegments + s]) /
                                    static_cast<float>(seen.looks[slot]);
            const int looks = seen.noiseLooks[slot];
            rays.jitter[i] = jitterAt(static_cast<int>(slot), y + 17, draw_ + static_cast<int>(looks));
            weight[i] = looks == 0 ? 1.f : (sampleNoise && looks < 250 ? 1.f / static_cast<float>(looks + 1) : 0.f);
            sample = sample || weight[i] > 0.f;
            for (std::size_t v = 0; v < perSlot; ++v)
                means[v * lanes + i] = seen.noise[slot * perSlot + v];
        }
        rays.depth[0] = rays.end;
        rays.weight[0] = f8(1.f);
        NoiseRecord atSurface;
        if (noisy) {
            // [segment][noisy][2][8] as the march wants it, then [noisy][8] for the surface.
            rays.noise = {means.data(), sample, weight};
            atSurface = {means.data() + mirrorSegments * noisy * 2 * lanes, sample, weight};
        }
        F8 body[mostSlabs * bodyPlanes], tint[3] = {f8(1.f), f8(1.f), f8(1.f)};
        if (const std::size_t planes = bodyFloats() / lanes) {
            alignas(32) float seenBodies[mostSlabs * bodyPlanes * lanes];
            float looks = 1e9f;
            const std::size_t stride = planes + 1;
            if (seen.bodies.size() < row.size() * 2 * stride)
                seen.bodies.resize(row.size() * 2 * stride, 0.f);
            for (std::size_t i = 0; i < lanes; ++i) {
                const float* kept = &seen.bodies[slots[first + std::min(i, count - 1)] * stride];
                looks = std::min(looks, kept[0]);
                for (std::size_t v = 0; v < planes; ++v)
                    seenBodies[v * lanes + i] = kept[1 + v];
            }
            if (looks < noiseEnough && (sampleNoise || looks == 0.f || !hasNoise())) {
                lookAtBodies(rays.ray, rays.end,
                             jitters(static_cast<int>(first), y + 31, draw_ + static_cast<int>(looks)), looks,
                             seenBodies);
                for (std::size_t i = 0; i < count; ++i) {
                    float* kept = &seen.bodies[slots[first + i] * stride];
                    kept[0] = looks + 1.f;
                    for (std::size_t v = 0; v < planes; ++v)
                        kept[1 + v] = seenBodies[v * lanes + i];
                }
            }
            putBodies(seenBodies, body, rays);
        }
        if (air_->hasClean())
            air_->cleanTint(rays.ray, rays.end, tint);
        marchAir(*air_, rays, sums);
        F8 sun[3], sky[3];
        colourAir(*air_, rays.ray, sums, sun, sky);
        const AirModel::SurfaceWays ways = surfaceAir(rays.ray, rays.end, normal, rays.jitter, atSurface);
        for (std::size_t i = 0; i < count; ++i) {
            if (noisy && weight[i] > 0.f) {
                const std::uint32_t slot = slots[first + i];
                ++seen.noiseLooks[slot];
                for (std::size_t v = 0; v < perSlot; ++v)
                    seen.noise[slot * perSlot + v] = means[v * lanes + i];
            }
            const std::uint32_t last = std::max(slots[first + i], led[first + i]);
            for (std::uint32_t slot = slots[first + i]; slot <= last; slot += 2) {
                MirrorCluster& c = row[slot / 2].clusters[slot % 2];
                c.airSun = Vec3(sun[0][i], sun[1][i], sun[2][i]);
                c.airOwn = Vec3(sums.body[2][0][i], sums.body[2][1][i], sums.body[2][2][i]);
                c.airSky = Vec3(sky[0][i], sky[1][i], sky[2][i]);
                c.view = sums.transmittance[0][i];
                c.tint = Vec3(tint[0][i], tint[1][i], tint[2][i]);
                c.onto = laneOf(ways, static_cast<int>(i));
            }
            // Patterns are taken where the samples lie: pieces of a mirrored way are long, and a thin bank in one of
            // them is not spread over it.
            if (lampsShow) {
                const std::uint32_t slot = slots[first + i];
                const MirrorCluster& c = row[slot / 2].clusters[slot % 2];
                lampsInMirror(
                    MarchedRay(*air_, c.point, c.direction, c.t, mirrorSegments,
                               reinterpret_cast<const float*>(sums.boundary) + i, nullptr,
                               shot_->scatteringOrders > 1 ? reinterpret_cast<const float*>(sums.onward) + i : nullptr),
                    seen, slot, y);
            }
        }
    }
}

void Frame::lampsInMirror(const MarchedRay& way, MirrorsSeen& seen, std::uint32_t slot, int y) const
{
    // A few mirrors a march, in turns; one that was not looked at yet shows what its neighbour does.
    constexpr std::uint32_t apart = 8;
    constexpr int enough = 48;
    std::uint8_t& looks = seen.lampLooks[slot];
    Vec3* mean = &seen.lampAir[slot * lampCount_];
    const bool turn = (slot / 2 + seen.lampTurn * 3) % apart == 0;
    if (looks >= enough || (looks > 0 && !turn))
        return;
    if (!turn && slot >= 2 && slot / 2 % apart != 0) {
        std::copy_n(mean - 2 * lampCount_, lampCount_, mean);
        return;
    }
    const float jitter = jitterAt(static_cast<int>(slot), y + 53, draw_ + static_cast<int>(looks)), depth = way.end,
                weight = 1.f;
    for (std::size_t l = 0; l < lampCount_; ++l) {
        const unsigned bits = beamVisibility(*shot_, l, way.origin, way.direction, way.end, jitter);
        std::uint8_t lit[lanes];
        for (int k = 0; k < lanes; ++k)
            lit[k] = static_cast<std::uint8_t>(bits >> k & 1u);
        const Vec3 light = beamLight(way, l, jitter, lit, 1.f, 1, &depth, &weight) +
                           glowLight(way, l, jitter, 1, &depth, &weight);
        mean[l] += (light - mean[l]) * (1.f / static_cast<float>(looks + 1));
    }
    ++looks;
}
} // namespace hygros::render
