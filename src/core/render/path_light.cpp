/// Light that arrives at the events of a path: next-event estimation in the air and on surfaces, and the search for
/// beams.
#include "render/path_walk.h"

#include "light/lamp_density.h"
#include "media/phase.h"
#include "render/sparkle.h"
#include "render/water_light.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::render {
using shot::Shot;

PathIntegrator::BeamSearch PathIntegrator::beamsAlong(const Vec3& o, const Vec3& d, float limit) const
{
    BeamSearch search;
    float together = 0.f;
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        const light::Lamp& lamp = shot_->lamps[i];
        float t0 = 0.f, t1 = limit;
        if (!lamp.lightsAir() || !light::insideBeam(lamp, o, d, t0, t1) || !(t1 > t0))
            continue;
        BeamSearch::Beam b{
            i, t0, t1, (lamp.position - o).dot(d), 0.f, 0.f, 0.f, lamp.shape == light::Lamp::Shape::Parallel, 0.f};
        const Vec3 off = o + d * b.closest - lamp.position;
        b.distance = std::max(off.length(), std::max(1e-3f, 0.5f * lamp.radius));
        b.from = std::atan((t0 - b.closest) / b.distance);
        b.angle = std::atan((t1 - b.closest) / b.distance) - b.from;
        if (!b.even && !(b.angle > 1e-7f))
            continue;
        // What of its light is met on the way, as if the air were even.
        b.chance = luminance(lamp.intensity) * lamp.toAir * (b.even ? t1 - t0 : b.angle / b.distance);
        together += b.chance;
        search.beams.push_back(b);
    }
    if (!(together > 0.f))
        return {};
    for (BeamSearch::Beam& b : search.beams)
        b.chance /= together;
    return search;
}

void PathIntegrator::searchBeams(Walk& walk, const BeamSearch& search, const Vec3& o, const Vec3& d, float limit,
                                 bool clean) const
{
    // One lamp, one distance.
    Random& random = walk.random;
    float u = random.next();
    const BeamSearch::Beam* b = &search.beams.back();
    for (const BeamSearch::Beam& each : search.beams)
        if ((u -= each.chance) < 0.f) {
            b = &each;
            break;
        }
    const float v = random.next(),
                t = b->even ? b->t0 + (b->t1 - b->t0) * v : b->closest + b->distance * std::tan(b->from + b->angle * v);
    if (!(t > 0.f) || !(t < limit) || t < b->t0 || t > b->t1)
        return;
    const light::Lamp& lamp = shot_->lamps[b->lamp];
    const Vec3 p = o + d * t;
    light::LampSample s;
    if (!light::sampleLamp(lamp, p, random.next(), random.next(), s))
        return;
    Vec3 scattered(0.f);
    float sigma = 0.f;
    const float cosine = s.way.dot(d);
    for (std::size_t k = 0; k < flights_.scatterers(); ++k) {
        const media::Optics here = flights_.opticsAt(k, p, clean);
        sigma += here.extinction.y;
        if (maxComponent(here.extinction) > 0.f)
            scattered += here.extinction * here.albedo * (flights_.phase(k)(cosine) * flights_.reach(lamp, k));
    }
    if (maxComponent(scattered) <= 0.f)
        return;
    const float density = b->chance * search.density(*b, t), other = flights_.roughDensity(o, d, t, clean);
    Vec3 l = walk.weight * scattered * lamp.intensity * s.irradiance * (lamp.toAir / (density + other));
    l *= flights_.through(o, d, t, clean, false, random);
    if (maxComponent(l) <= 0.f)
        return;
    const bool blocked = lamp.shadows != light::Lamp::Shadows::None &&
                         shot_->shadowsOf(lamp).occluded(p, s.way, s.distance, walk.time);
    if (blocked && !walk.shadowBy)
        return;
    if (lamp.shadows == light::Lamp::Shadows::Full)
        l *= flights_.through(p, s.way, s.distance, true, true, random);
    if (blocked)
        walk.shadow(l, lampSource_[b->lamp]);
    else
        walk.gainAs(l, lampSource_[b->lamp], walk.first || walk.firstInAir);
}

void PathIntegrator::lightAir(Walk& walk, const Vec3& p, const Vec3& d, std::size_t k, const BeamSearch* beams, float t,
                              const Vec3& from, bool clean) const
{
    Random& random = walk.random;
    const media::Phase& phase = flights_.phase(k);
    if (shot_->sky && uniform_ < 0.f) {
        const Vec3 sun = towardSun(*shot_->sky, sunTangent_, sunBitangent_, random.next(), random.next());
        // (None below the horizon: the way to it would be followed for nothing.)
        const float strength = shot_->sky->hasSun() ? flights_.reach(shot_->sunReach, k) : 0.f;
        const bool blocked = strength > 0.f && shot_->shadowsOfSun().occluded(p, sun, 1e6f, walk.time);
        if (strength > 0.f && (!blocked || walk.shadowBy)) {
            const Vec3 l = walk.weight * shot_->sky->sunIrradiance() * (strength * phase(sun.dot(d))) *
                           flights_.through(p, sun, media::outsideDistance, false, true, random);
            if (blocked)
                walk.shadow(l, sunSource_);
            else
                walk.gain(l, sunSource_);
        }
        if (shot_->sky->panorama()) {
            float density;
            const Vec3 way = shot_->sky->samplePanorama(random.next(), random.next(), density);
            const float own = phase(way.dot(d));
            if (density > 0.f && !shot_->scene->occluded(p, way, 1e6f, walk.time))
                walk.gain(walk.weight * shot_->sky->radiance(way) * (walk.skyReach * own / (density + own)) *
                              flights_.through(p, way, media::outsideDistance, false, true, random),
                          skySource_);
        }
    }
    if (!glow_.empty()) {
        const Vec3 way = glow_.direction(p, random);
        const float density = glow_.density(p, way), own = phase(way.dot(d));
        if (density > 0.f) {
            geometry::Hit hit;
            const float limit = shot_->scene->trace(p, way, 1e-3f, Shot::farDistance, hit, walk.time)
                                    ? hit.t
                                    : media::outsideDistance;
            walk.gain(walk.weight * (own / (density + own)) * flights_.glowThrough(p, way, limit, false, true, random),
                      matterSource_);
        }
    }
    if (shot_->lamps.empty())
        return;
    // Each lamp without shadows first; then shadows for about two of them, drawn by what they would give.
    struct Lit {
        light::LampSample sample;
        float strength, own;
    };
    constexpr std::size_t few = 32;
    std::array<Lit, few> small;
    std::vector<Lit> many(shot_->lamps.size() > few ? shot_->lamps.size() : 0);
    Lit* lit = many.empty() ? small.data() : many.data();
    float together = 0.f, rough = -1.f, drawnCosine = 1.f;
    const float peak = phase(1.f);
    bool drawn = false;
    Vec3 drawnWay(0.f);
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        const light::Lamp& lamp = shot_->lamps[i];
        lit[i].own = 0.f;
        const float reach = lamp.toAir * flights_.reach(lamp, k);
        if (reach <= 0.f || !light::sampleLamp(lamp, p, random.next(), random.next(), lit[i].sample))
            continue;
        const float own = phase(lit[i].sample.way.dot(d));
        float elsewhere = 1.f;
        if (beams) // the rest is what looking for beams finds
            if (const float found = beams->densityOf(i, t); found > 0.f) {
                if (rough < 0.f)
                    rough = flights_.roughDensity(from, d, t, clean);
                elsewhere = rough / (rough + found);
            }
        lit[i].strength = reach * own * elsewhere;
        // Where the phase function is narrower than a source is wide, one of its own directions looks for the source as
        // well; the two are balanced.
        const float area = light::facingArea(lamp), away2 = (lamp.position - p).length2();
        if (float distance = 0.f; area * peak > 0.1f * std::max(away2, area)) {
            const float density = light::directionDensity(lamp, p, lit[i].sample.way, distance);
            if (density > 0.f) {
                lit[i].strength *= density / (density + own);
                if (!drawn) {
                    drawn = true;
                    drawnCosine = media::samplePhase(phase, [&] { return random.next(); });
                    const float turn = 2.f * pi * random.next(),
                                sine = std::sqrt(std::max(0.f, 1.f - drawnCosine * drawnCosine));
                    Vec3 u, v;
                    frameAround(d, u, v);
                    drawnWay = (u * (sine * std::cos(turn)) + v * (sine * std::sin(turn)) + d * drawnCosine)
                                   .normalized();
                }
                if (const float other = light::directionDensity(lamp, p, drawnWay, distance); other > 0.f) {
                    const float narrow = phase(drawnCosine);
                    const bool blocked = lamp.shadows != light::Lamp::Shadows::None &&
                                         shot_->shadowsOf(lamp).occluded(p, drawnWay, distance, walk.time);
                    if (!blocked || walk.shadowBy) {
                        Vec3 l = walk.weight * lamp.intensity * lit[i].sample.irradiance *
                                 (density * reach * elsewhere * narrow / (narrow + other));
                        if (lamp.shadows == light::Lamp::Shadows::Full)
                            l *= flights_.through(p, drawnWay, distance, true, true, random);
                        if (blocked)
                            walk.shadow(l, lampSource_[i]);
                        else
                            walk.gain(l, lampSource_[i]);
                    }
                }
            }
        }
        lit[i].own = luminance(lamp.intensity * lit[i].sample.irradiance) * lit[i].strength;
        together += lit[i].own;
    }
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        if (lit[i].own <= 0.f)
            continue;
        const light::Lamp& lamp = shot_->lamps[i];
        const float chance = std::min(1.f, lit[i].own * 2.f / together);
        if (chance < 1.f && random.next() >= chance)
            continue;
        const light::LampSample& s = lit[i].sample;
        const bool blocked = lamp.shadows != light::Lamp::Shadows::None &&
                             shot_->shadowsOf(lamp).occluded(p, s.way, s.distance, walk.time);
        if (blocked && !walk.shadowBy)
            continue;
        Vec3 l = walk.weight * lamp.intensity * s.irradiance * (lit[i].strength / chance);
        if (lamp.shadows == light::Lamp::Shadows::Full)
            l *= flights_.through(p, s.way, s.distance, true, true, random);
        if (blocked)
            walk.shadow(l, lampSource_[i]);
        else
            walk.gain(l, lampSource_[i]);
    }
}

void PathIntegrator::lightSurface(Walk& walk, const geometry::Hit& hit, const Brdf& brdf, const Vec3& start,
                                  const Vec3& d) const
{
    Random& random = walk.random;
    const Vec3 v = -d, n = hit.normal;
    const auto reachOf = [&](const std::vector<float>& reach) { return hit.set < reach.size() ? reach[hit.set] : 1.f; };
    // What a mirror shows of sky and glow its own rays find.
    const float glossy = brdf.mirror ? 0.f : 1.f;
    const auto glittering = [&](const Vec3& way) { // as the eye sees it; what it throws on is the same in the mean
        return walk.out.events == 1 ? sparkle(hit, start, way, v, walk.pixelAngle * hit.t) : 1.f;
    };
    if (shot_->sky && uniform_ < 0.f) {
        const Vec3 sun = towardSun(*shot_->sky, sunTangent_, sunBitangent_, random.next(), random.next());
        const float strength = reachOf(shot_->sunReach.sets);
        if (strength > 0.f && shot_->sky->hasSun())
            sunOffWater(*shot_, start, n, sun, walk.time, [&](const Vec3& way, float share) {
                if (way.dot(hit.geometricNormal) > 0.f)
                    walk.gain(walk.weight * brdf.reflect(n, way, v) * shot_->sky->sunIrradiance() * (strength * share),
                              sunSource_);
            });
        // (What water throws on from the sun is met from there, as above, and not again by chance.)
        const bool again = hit.material->isWater && !walk.sharp;
        if (strength > 0.f && !again && sun.dot(hit.geometricNormal) > 0.f && sun.dot(n) > 0.f &&
            !shot_->shadowsOfSun().occluded(start, sun, 1e6f, walk.time))
            walk.gain(walk.weight * brdf.reflect(n, sun, v, 1.f, glittering(shot_->sky->sunDirection())) *
                          shot_->sky->sunIrradiance() * strength *
                          flights_.through(start, sun, media::outsideDistance, false, true, random),
                      sunSource_);
        if (shot_->sky->panorama()) {
            float density;
            const Vec3 way = shot_->sky->samplePanorama(random.next(), random.next(), density);
            if (density > 0.f && way.dot(n) > 0.f && way.dot(hit.geometricNormal) > 0.f &&
                !shot_->scene->occluded(start, way, 1e6f, walk.time)) {
                const float own = brdf.mirror ? way.dot(n) / pi : brdf.density(n, way, v);
                walk.gain(walk.weight * brdf.reflect(n, way, v, 1.f, glossy) * shot_->sky->radiance(way) *
                              (walk.skyReach / (density + own)) *
                              flights_.through(start, way, media::outsideDistance, false, true, random),
                          skySource_);
            }
        }
    }
    if (!glow_.empty()) {
        const Vec3 way = glow_.direction(start, random);
        const float density = way.dot(n) > 0.f && way.dot(hit.geometricNormal) > 0.f ? glow_.density(start, way) : 0.f;
        if (density > 0.f) {
            const float own = brdf.mirror ? way.dot(n) / pi : brdf.density(n, way, v);
            geometry::Hit other;
            const float limit = shot_->scene->trace(start, way, 0.f, Shot::farDistance, other, walk.time)
                                    ? other.t
                                    : media::outsideDistance;
            walk.gain(walk.weight * brdf.reflect(n, way, v, 1.f, glossy) *
                          flights_.glowThrough(start, way, limit, false, true, random) / (density + own),
                      matterSource_);
        }
    }
    if (brdf.mirror && walk.sharp && !shot_->sparks.empty()) {
        const Vec3 way = mirrorDirection(hit, d);
        geometry::Hit behind;
        float distance = shot_->scene->trace(start, way, 0.f, Shot::farDistance, behind, walk.time) ? behind.t
                                                                                                    : Shot::farDistance;
        const Vec3 light = sampler_.meetsSparks(start, way, distance, walk.pixelAngle, hit.t, distance);
        if (maxComponent(light) > 0.f)
            walk.gain(walk.weight * mirrorShare(hit, brdf.mirrorF0, d) * light *
                          flights_.through(start, way, distance, true, true, random),
                      ownSource_);
    }
    if (shot_->lamps.empty())
        return;
    if (brdf.mirror && !sampler_.imagedLamps().empty()) {
        const Vec3 way = mirrorDirection(hit, d);
        float distance = Shot::farDistance;
        Vec3 radiance(0.f);
        const int image = sampler_.meetsLamp(start, way, walk.pixelAngle, sampler_.imagedLamps(), distance, radiance);
        if (image >= 0 && !shot_->scene->occluded(start, way, distance, walk.time)) {
            const std::uint16_t l = sampler_.imagedLamps()[static_cast<std::size_t>(image)];
            const light::Lamp& lamp = shot_->lamps[l];
            walk.gain(walk.weight * mirrorShare(hit, brdf.mirrorF0, d) * radiance * lamp.intensity *
                          (lamp.toGlossy * lamp.reachOfSet(hit.set)) *
                          flights_.through(start, way, distance, true, true, random),
                      lampSource_[l]);
        }
    }
    struct Lit {
        light::LampSample sample;
        Vec3 light;
        float own;
    };
    constexpr std::size_t few = 32;
    std::array<Lit, few> small;
    std::vector<Lit> many(shot_->lamps.size() > few ? shot_->lamps.size() : 0);
    Lit* lit = many.empty() ? small.data() : many.data();
    float together = 0.f;
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        const light::Lamp& lamp = shot_->lamps[i];
        lit[i].own = 0.f;
        const float reach = lamp.reachOfSet(hit.set);
        if (reach <= 0.f || !light::sampleLamp(lamp, start, random.next(), random.next(), lit[i].sample) ||
            lit[i].sample.way.dot(hit.geometricNormal) <= 0.f)
            continue;
        // What holds a small lamp does not shade it, so what falls on it is no light of the lamp's: seen itself it is
        // lit, and sends nothing on (a glint of it, met by chance, was as bright as a hundred thousand paths).
        constexpr float holder = 0.2f; // [m]
        if (!walk.sharp && lit[i].sample.distance <= 0.f && light::clearanceOf(lamp) < holder)
            continue;
        const float highlight = brdf.mirror && SurfaceSampler::hasImage(lamp) ? 0.f : lamp.toGlossy * reach;
        lit[i].light = brdf.reflect(n, lit[i].sample.way, v, lamp.toDiffuse * reach,
                                    highlight * glittering(lit[i].sample.way)) *
                       lit[i].sample.irradiance * lamp.intensity;
        together += lit[i].own = luminance(lit[i].light);
    }
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        if (lit[i].own <= 0.f)
            continue;
        const light::Lamp& lamp = shot_->lamps[i];
        const float chance = std::min(1.f, lit[i].own * 2.f / together);
        if (chance < 1.f && random.next() >= chance)
            continue;
        const light::LampSample& s = lit[i].sample;
        if (lamp.shadows != light::Lamp::Shadows::None &&
            shot_->shadowsOf(lamp).occluded(start, s.way, s.distance, walk.time))
            continue;
        Vec3 l = walk.weight * lit[i].light / chance;
        if (lamp.shadows == light::Lamp::Shadows::Full)
            l *= flights_.through(start, s.way, s.distance, true, true, random);
        walk.gain(l, lampSource_[i]);
    }
}
} // namespace hygros::render
