/// What is seen in water: its ground, and its underside and itself from under it.
#include "render/surface.h"
#include "render/water_light.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using geometry::waterIndex;
using geometry::WaterSurface;

namespace {
/// Numbers of what is not looked at from under water, or not at once: the air's.
enum : std::uint32_t {
    purposeUnderSky = purposeAirSky,
    purposeUnderFar = purposeAirSky + 2,
    purposeUnderSide = purposeAirSky + 4
};
constexpr float seenUnder = 150.f;      ///< the clearest water is dark beyond [m]
constexpr float mirroredInside = 0.48f; ///< of even light from under it
} // namespace

float SurfaceSampler::reachUnder(const WaterSurface& water)
{
    const Vec3 lost = water.absorption() + water.back();
    return std::min(seenUnder, 7.f / std::max(1e-3f, std::min({lost.x, lost.y, lost.z})));
}

LightParts SurfaceSampler::lightUnder(const WaterSurface& water, const geometry::Hit& hit, const Vec3& p,
                                      const Vec3& base, const PixelRandom& random, std::span<const std::uint16_t> which,
                                      std::span<Vec3> lamps) const
{
    const Brdf brdf(*hit.material, base);
    const Vec3 matte = brdf.diffuse + brdf.f0 * 0.5f;
    const float lift = 1e-4f + 2e-6f * (std::abs(p.x) + std::abs(p.y) + std::abs(p.z) + hit.t),
                depth = std::max(0.f, water.level() - p.y);
    const Vec3 start = p + hit.geometricNormal * lift, &n = hit.normal;
    const auto reachOf = [&](const std::vector<float>& reach) { return hit.set < reach.size() ? reach[hit.set] : 1.f; };
    const bool gathers = only_ != WaterPart::Even;
    LightParts out;
    out.emitted = hit.material->emission;
    // What its light makes that is thrown down again by the surface.
    const Vec3 down = leftInWater(water, 2.4f * depth);
    const Vec3 again = Vec3(1.f) / (Vec3(1.f) - matte * down * (mirroredInside * std::max(0.f, n.y)));
    if (shot_.sky) {
        if (shot_.sky->hasSun()) {
            const Vec3 sun = towardSun(*shot_.sky, sunTangent_, sunBitangent_, random(purposeSun),
                                       random(purposeSun + 1));
            Vec3 way;
            const Vec3 share = sunUnderWater(shot_, water, start, sun, random.time, way, gathers);
            if (const float c = n.dot(way); c > 0.f && hit.geometricNormal.dot(way) > 0.f)
                out.sun = matte * again * share * (c / pi * reachOf(shot_.sunReach.sets));
        }
        const Vec3 up = cosineDirection(n, random(purposeUnderSky), random(purposeUnderSky + 1));
        if (up.dot(hit.geometricNormal) > 0.f) {
            const float metres = up.y > 1e-3f ? depth / up.y : 1e6f;
            const Vec3 above = up.y > 0.f ? geometry::refractedOut(up, Vec3(0.f, -1.f, 0.f)) : Vec3(0.f);
            const bool isOut = above.y > 0.f;
            const float to = std::min(metres, reachUnder(water));
            const Vec3 reach = matte * again * reachOf(shot_.skyReach.sets);
            // What the water itself sends from there, as far as something stands there.
            const auto own = [&](const Vec3& left) {
                const Vec3 s = scatteredInWater(water), lost = water.absorption() + s;
                const Vec3 e = skyUnderWater(water, depth) * (1.f / (4.f * pi));
                for (int c = 0; c < 3; ++c) {
                    const float l = lost[c] > 0.f ? reach[c] * s[c] / lost[c] * e[c] * (1.f - left[c]) : 0.f;
                    out.sky[c] += l * shot_.sky->onLevel()[c];
                    out.open[c] += l;
                }
            };
            geometry::Hit other;
            const bool blocked = shot_.scene->blocked(start, up, to, other, random.time);
            const Vec3 left = leftInWater(water, blocked ? other.t : to);
            own(left);
            if (blocked) {
                // Lit as what stands in the sky's way over water, by half of it.
                const Vec3 sent = reach * baseColour(other, 0.02f, other.t, 1.f) * left * skyUnderWater(water, depth) *
                                  (0.4f / pi);
                out.sky += sent * shot_.sky->onLevel();
                out.open += sent;
            } else if (isOut) {
                const Vec3 share = reach * left *
                                   ((1.f - geometry::mirroredByWater(above.y)) * waterIndex * waterIndex);
                geometry::Hit far;
                const Vec3 from = start + up * metres + Vec3(0.f, 1e-3f, 0.f);
                if (!shot_.scene->blocked(from, above, 1e6f, far, random.time)) {
                    out.sky += share * shot_.sky->evened(above);
                    out.open += share * (1.f / pi);
                } else if (!far.matte) {
                    const Vec3 sent = share * baseColour(far, 0.02f, far.t, 1.f) * (openOfBlocking * 0.5f / pi);
                    out.sky += sent * shot_.sky->onLevel();
                    out.open += sent;
                }
            }
        }
    } else if (!shot_.lamps.empty()) {
        out.open = matte * skyUnderWater(water, depth) * (1.f / pi);
    }
    out.facing = Vec3(0.f, 1.f, 0.f) * luminance(out.open);
    for (std::size_t j = 0; j < which.size() && j < lamps.size(); ++j) {
        const light::Lamp& lamp = shot_.lamps[which[j]];
        lamps[j] = Vec3(0.f);
        light::LampSample s;
        const float reach = lamp.reachOfSet(hit.set) * lamp.toDiffuse;
        if (!(reach > 0.f) || !light::sampleLamp(lamp, start, random(purposeSun), random(purposeSun + 1), s))
            continue;
        if (const float c = n.dot(s.way); c > 0.f && hit.geometricNormal.dot(s.way) > 0.f)
            lamps[j] = matte * again * s.irradiance *
                       lampUnderWater(shot_, lamp, water, start, s.way, s.distance, random.time) * (c * reach / pi);
    }
    return out;
}

std::optional<SurfaceSampler::Ground> SurfaceSampler::groundUnder(const geometry::Hit& hit, const Vec3& p,
                                                                  const Vec3& d, float time) const
{
    Ground ground;
    ground.way = geometry::refracted(d, hit.facet);
    if (!shot_.scene->traceSets(p, ground.way, 1e-3f, reachUnder(*hit.water), ground.hit, time) || ground.hit.matte)
        return std::nullopt;
    return ground;
}

void SurfaceSampler::addGround(const Ground& ground, const geometry::Hit& hit, const Vec3& p, const Vec3& d,
                               float pixelAngle, const PixelRandom& random, std::span<const std::uint16_t> which,
                               std::span<Vec3> lamps, SurfaceSample& s) const
{
    const WaterSurface& water = *hit.water;
    const float far = ground.hit.t;
    const Vec3 base = baseColour(ground.hit, pixelAngle, hit.t + far, -ground.way.dot(ground.hit.normal));
    const float out = 1.f - geometry::mirroredByWater(-d.dot(hit.facet));
    const Vec3 left = leftInWater(water, far) * (out / (waterIndex * waterIndex));
    std::vector<Vec3> below(which.size());
    s.light += lightUnder(water, ground.hit, p + ground.way * far, base, random, which, below) * left;
    for (std::size_t j = 0; j < which.size(); ++j)
        lamps[j] += below[j] * left;
    s.diffuse = water.over(base, far, -ground.way.y * far);
}

LightParts SurfaceSampler::scatteredUnder(const WaterSurface& water, const Vec3& o, const Vec3& d, float far,
                                          const PixelRandom& random, std::span<const std::uint16_t> which,
                                          std::span<Vec3> lamps) const
{
    LightParts out;
    const bool gathers = only_ != WaterPart::Even;
    const Vec3 scatter = scatteredInWater(water), lost = water.absorption() + scatter, again = againInWater(water);
    const float rate = std::max(1e-4f, std::min({lost.x, lost.y, lost.z})), whole = 1.f - std::exp(-rate * far);
    if (!(whole > 0.f) || !(maxComponent(scatter) > 0.f))
        return out;
    constexpr int places = 2;
    for (int k = 0; k < places; ++k) {
        const float u = (static_cast<float>(k) + random(purposeUnderFar)) / places,
                    t = -std::log(1.f - u * whole) / rate;
        const Vec3 p = o + d * t;
        // Light of a place, by the chance to look at it.
        const Vec3 much = scatter * again * leftInWater(water, t) * (whole / (rate * std::exp(-rate * t) * places)) *
                          (1.f / (4.f * pi));
        if (shot_.sky) {
            if (shot_.sky->hasSun()) {
                Vec3 way;
                const Vec3 sun = towardSun(*shot_.sky, sunTangent_, sunBitangent_, random(purposeSun),
                                           random(purposeSun + 1));
                out.sun += much * sunUnderWater(shot_, water, p, sun, random.time, way, gathers);
            }
            const float depth = water.level() - p.y;
            // Half of the water's light comes from straight above.
            const bool dark = shot_.scene->occluded(p, Vec3(0.f, 1.f, 0.f), std::max(0.f, depth), random.time);
            const Vec3 l = much * skyUnderWater(water, depth) / again * (dark ? 0.3f : 1.f);
            out.sky += l * shot_.sky->onLevel();
            out.open += l;
        } else {
            out.open += much * skyUnderWater(water, water.level() - p.y) / again;
        }
        for (std::size_t j = 0; j < which.size() && j < lamps.size(); ++j) {
            const light::Lamp& lamp = shot_.lamps[which[j]];
            light::LampSample s;
            if (lamp.toAir > 0.f && light::sampleLamp(lamp, p, random(purposeSun), random(purposeSun + 1), s))
                lamps[j] += much * s.irradiance * lamp.toAir *
                            lampUnderWater(shot_, lamp, water, p, s.way, s.distance, random.time);
        }
    }
    out.facing = Vec3(0.f, 1.f, 0.f) * luminance(out.open);
    return out;
}

SurfaceSample SurfaceSampler::shadedUnder(const geometry::Hit* met, const Vec3& origin, const Vec3& d, float pixelAngle,
                                          const PixelRandom& random, std::span<const std::uint16_t> which,
                                          std::span<Vec3> lamps, std::span<Vec3> mirrorLamps) const
{
    const WaterSurface& water = *eyeIn_;
    SurfaceSample s;
    std::fill(lamps.begin(), lamps.end(), Vec3(0.f));
    std::vector<Vec3> leg(which.size());
    // The water before what is met, and that.
    const auto see = [&](const geometry::Hit* hit, const Vec3& o, const Vec3& way, const Vec3& share) {
        const float far = hit ? hit->t : reachUnder(water);
        std::fill(leg.begin(), leg.end(), Vec3(0.f));
        s.light += scatteredUnder(water, o, way, far, random, which, leg) * share;
        for (std::size_t j = 0; j < which.size(); ++j)
            lamps[j] += leg[j] * share;
        if (!hit || hit->matte || hit->water)
            return;
        const Vec3 base = baseColour(*hit, pixelAngle, hit->t, -way.dot(hit->normal)),
                   left = leftInWater(water, far) * share;
        s.light += lightUnder(water, *hit, o + way * far, base, random, which, leg) * left;
        for (std::size_t j = 0; j < which.size(); ++j)
            lamps[j] += leg[j] * left;
    };
    const Vec3 up(0.f, 1.f, 0.f);
    s.t = met ? met->t : reachUnder(water);
    s.normal = met ? met->normal : up;
    see(met, origin, d, Vec3(1.f));
    if (met && !met->water)
        s.diffuse = Brdf(*met->material, baseColour(*met, pixelAngle, met->t, -d.dot(met->normal))).diffuse;
    if (!met || !met->water || met->matte)
        return s;
    // Its underside: out through it, or back down.
    const float along = met->t;
    const Vec3 p = origin + d * along, left = leftInWater(water, along);
    if (!met->material->isWater) { // foam, lit from above
        const Vec3 sent = throughFoam(water, met->material->baseColour) * left * (1.f / pi);
        if (shot_.sky) {
            const Vec3& sun = shot_.sky->sunDirection();
            if (sun.y > 0.f && !shot_.shadowsOfSun().occluded(p + up * 1e-3f, sun, 1e6f, random.time))
                s.light.sun += sent * sun.y;
            s.light.sky += sent * shot_.sky->onLevel();
        }
        s.light.open += sent;
        return s;
    }
    const float mirrored = geometry::mirroredInWater(-d.dot(met->facet));
    if (random(purposeUnderSide) < mirrored) {
        const Vec3 down = (d - met->facet * (2.f * d.dot(met->facet))).normalized();
        geometry::Hit ground;
        const Vec3 from = p + met->geometricNormal * 1e-3f;
        const bool more = shot_.scene->traceSets(from, down, 1e-3f, reachUnder(water), ground, random.time);
        see(more ? &ground : nullptr, from, down, left);
        return s;
    }
    SurfaceSample::Mirror m;
    m.direction = geometry::refractedOut(d, met->facet);
    if (m.direction.y < 0.01f)
        m.direction = (m.direction + up * (0.01f - m.direction.y)).normalized();
    m.point = p - met->geometricNormal * (1e-3f + 2e-6f * along);
    m.reflectance = left * (waterIndex * waterIndex);
    std::fill(mirrorLamps.begin(), mirrorLamps.end(), Vec3(0.f));
    geometry::Hit far;
    const bool more = shot_.scene->traceSets(m.point, m.direction, 0.f, shot::Shot::farDistance, far, random.time);
    float lampDistance = more ? far.t : shot::Shot::farDistance;
    Vec3 radiance(0.f);
    const int own = meetsLamp(m.point, m.direction, pixelAngle, everyLamp_, lampDistance, radiance);
    m.t = own >= 0 ? lampDistance : more ? far.t : shot::Shot::farDistance;
    if (own >= 0) {
        mirrorLamps[static_cast<std::size_t>(own)] = radiance;
    } else if (more && !far.matte) {
        const Vec3 q = m.point + m.direction * far.t;
        m.light = shade(far, q, m.direction, baseColour(far, pixelAngle, along + far.t, -m.direction.dot(far.normal)),
                        random, purposeMirror, everyLamp_, mirrorLamps);
    } else if (!more) {
        m.light.emitted = background(m.direction, true);
    }
    m.light = m.light * m.reflectance;
    for (Vec3& c : mirrorLamps)
        c *= m.reflectance;
    s.mirror = m;
    return s;
}
} // namespace hygros::render
