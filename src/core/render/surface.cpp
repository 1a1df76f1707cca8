#include "render/surface.h"

#include "render/sparkle.h"
#include "render/water_light.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
Vec3 fresnel(const Vec3& f0, float c)
{
    const float m = std::clamp(1.f - c, 0.f, 1.f), m2 = m * m;
    return f0 + (Vec3(1.f) - f0) * (m2 * m2 * m);
}

Vec3 towardSun(const light::Sky& sky, const Vec3& tangent, const Vec3& bitangent, float u, float v)
{
    const float r = sky.sunRadius() * std::sqrt(u), a = 2.f * pi * v;
    return (sky.sunDirection() + tangent * (r * std::cos(a)) + bitangent * (r * std::sin(a))).normalized();
}

Vec3 cosineDirection(const Vec3& n, float u, float v)
{
    Vec3 t, b;
    frameAround(n, t, b);
    const float r = std::sqrt(u), a = 2.f * pi * v;
    return t * (r * std::cos(a)) + b * (r * std::sin(a)) + n * std::sqrt(std::max(0.f, 1.f - u));
}

SurfaceSampler::SurfaceSampler(const shot::Shot& shot, WaterPart only) : shot_(shot), only_(only)
{
    for (std::size_t i = 0; i < shot.lamps.size(); ++i) {
        everyLamp_.push_back(static_cast<std::uint16_t>(i));
        if (hasImage(shot.lamps[i]))
            imagedLamps_.push_back(static_cast<std::uint16_t>(i));
    }
    if (shot.sky) {
        frameAround(shot.sky->sunDirection(), sunTangent_, sunBitangent_);
    }
}

Vec3 SurfaceSampler::background(const Vec3& d, bool withDisk) const
{
    if (!shot_.sky)
        return Vec3(0.f);
    return shot_.sky->radiance(d) + (withDisk ? shot_.sky->diskRadiance(d) : Vec3(0.f));
}

Vec3 SurfaceSampler::towardSunFor(const PixelRandom& random, std::uint32_t shift) const
{
    return towardSun(*shot_.sky, sunTangent_, sunBitangent_, random(purposeSun + shift),
                     random(purposeSun + shift + 1));
}

namespace {
/// Rays leave a surface along its geometric normal by a little more than the rounding of its position.
float liftOver(const geometry::Hit& hit, const Vec3& p)
{
    return 1e-4f + 2e-6f * (std::abs(p.x) + std::abs(p.y) + std::abs(p.z) + hit.t);
}
} // namespace

LightParts SurfaceSampler::shade(const geometry::Hit& hit, const Vec3& p, const Vec3& d, const Vec3& base,
                                 const PixelRandom& random, std::uint32_t shift, std::span<const std::uint16_t> which,
                                 std::span<Vec3> lamps, const Aside& aside) const
{
    const geometry::Material& material = *hit.material;
    const Brdf brdf(material, base);
    const Vec3 v = -d;
    double* const clock = aside.clock;
    const float lift = liftOver(hit, p);
    const Vec3 start = p + hit.geometricNormal * lift;
    LightParts out;
    out.emitted = material.emission;
    // What stands in the sky's way, lit by sun and sky once; what it gets from elsewhere by a share of its own light.
    const auto blocked = [&](const Vec3& way, const geometry::Hit& other) {
        if (other.matte)
            return;
        const Brdf far(*other.material, baseColour(other, 0.02f, other.t, std::max(0.05f, -way.dot(other.normal))));
        const Vec3 albedo = far.diffuse + far.f0 * 0.5f, again = Vec3(1.f) / (Vec3(1.f) - albedo * 0.4f);
        const Vec3 sent = brdf.diffuse * albedo * again * (1.f / pi);
        const Vec3& sun = shot_.sky->sunDirection();
        const float cosine = other.normal.dot(sun);
        if (cosine > 0.f && other.geometricNormal.dot(sun) > 0.f && shot_.sky->hasSun()) {
            // Dark surfaces send little: the ray to the sun is traced by chance in proportion (Russian roulette).
            const float chance = std::min(1.f, 6.f * pi * luminance(sent));
            if (random(purposeLit + shift) < chance &&
                !shot_.shadowsOfSun().occluded(start + way * other.t + other.geometricNormal * (lift + 1e-4f * other.t),
                                               sun, 1e6f, random.time))
                out.sun += sent * (cosine / chance);
        }
        const float open = openOfBlocking * (0.5f + 0.5f * other.normal.y);
        out.sky += sent * shot_.sky->onLevel() * open;
        out.open += sent * open;
    };
    const auto reachOf = [&](const std::vector<float>& reach) { return hit.set < reach.size() ? reach[hit.set] : 1.f; };
    const auto glittering = [&](const Vec3& way) {
        return aside.pixelAngle > 0.f ? sparkle(hit, p, way, v, aside.pixelAngle * hit.t) : 1.f;
    };
    if (shot_.sky) {
        const Vec3 sun = towardSunFor(random, shift);
        if (sun.dot(hit.geometricNormal) > 0.f && sun.dot(hit.normal) > 0.f &&
            (aside.sun == SunSeen::Unknown ? !shot_.shadowsOfSun().occluded(start, sun, 1e6f, random.time)
                                           : aside.sun == SunSeen::Seen))
            out.sun = brdf.reflect(hit.normal, sun, v, 1.f, glittering(shot_.sky->sunDirection()));
        if (shot_.sky->hasSun())
            sunOffWater(shot_, start, hit.normal, sun, random.time, [&](const Vec3& way, float share) {
                if (way.dot(hit.geometricNormal) > 0.f)
                    out.sun += brdf.reflect(hit.normal, way, v) * share;
            });
        if (shot_.sky->panorama()) {
            // One direction by the picture's brightness and one by the cosine, balanced (Veach & Guibas 1995).
            const float u = random(purposeSky + shift), w = random(purposeSky + shift + 1);
            const auto add = [&](const Vec3& l, bool byPicture) {
                const float cosine = l.dot(hit.normal);
                if (cosine <= 0.f || l.dot(hit.geometricNormal) <= 0.f)
                    return;
                const float both = shot_.sky->panoramaPdf(l) + cosine / pi;
                geometry::Hit met;
                const bool open = both > 0.f && (byPicture ? !shot_.scene->occluded(start, l, 1e6f, random.time)
                                                           : !shot_.scene->blocked(start, l, 1e6f, met, random.time));
                if (open)
                    out.sky += brdf.reflect(hit.normal, l, v, 1.f, brdf.mirror ? 0.f : 1.f) * shot_.sky->radiance(l) *
                               (1.f / both);
                if (!byPicture && open)
                    out.open += brdf.diffuse * (1.f / pi);
                else if (!byPicture && both > 0.f)
                    blocked(l, met);
            };
            float pdf;
            add(shot_.sky->samplePanorama(u, w, pdf), true);
            add(cosineDirection(hit.normal, w, u), false);
        } else {
            const Vec3 up = cosineDirection(hit.normal, random(purposeSky + shift), random(purposeSky + shift + 1));
            geometry::Hit met;
            const bool leaves = up.dot(hit.geometricNormal) > 0.f;
            if (leaves && !shot_.scene->blocked(start, up, 1e6f, met, random.time)) {
                out.sky = brdf.diffuse * shot_.sky->evened(up);
                out.open = brdf.diffuse * (1.f / pi);
                if (!brdf.mirror) {
                    const Vec3 r = (d - hit.normal * (2.f * d.dot(hit.normal))).normalized();
                    const float rough = std::sqrt(brdf.alpha);
                    // Grazing reflection of rough surfaces is weaker than Fresnel's (Lagarde 2011).
                    const Vec3 f = fresnel(brdf.f0, std::max(0.f, hit.normal.dot(v)) * (1.f - rough) + rough);
                    out.sky += f * shot_.sky->scattered(r, 1.f - 0.6f * rough);
                    out.open += f * (1.f / pi);
                }
            } else if (leaves) {
                blocked(up, met);
            }
        }
        out.sun *= reachOf(shot_.sunReach.sets);
        if (!evenReach_) // it carries both; what is the same for all is in the air's own factors
            out.open *= 0.5f * (reachOf(shot_.sunReach.sets) + reachOf(shot_.skyReach.sets));
        out.sky *= reachOf(shot_.skyReach.sets);
    } else if (!shot_.lamps.empty()) {
        // What the air makes of lamps comes from close by.
        out.open = brdf.diffuse * (1.f / pi);
    }
    out.facing = hit.normal * luminance(out.open);
    // What each lamp would give without shadows says which are worth a ray: those under an eighth of all are looked at
    // by chance in proportion and count the more (Russian roulette).
    constexpr std::size_t few = 32;
    constexpr float nearSource = 64.f; // radii, squared
    light::LampSample smallSamples[few];
    std::vector<light::LampSample> manySamples(which.size() > few ? which.size() : 0);
    light::LampSample* samples = manySamples.empty() ? smallSamples : manySamples.data();
    float together = 0.f;
    std::uint64_t before = clock ? ticks() : 0;
    const auto spent = [&](std::size_t lamp) {
        if (!clock)
            return;
        const std::uint64_t now = ticks();
        clock[which[lamp]] += static_cast<double>(now - before);
        before = now;
    };
    for (std::size_t j = 0; j < which.size(); ++j) {
        const light::Lamp& lamp = shot_.lamps[which[j]];
        lamps[j] = Vec3(0.f);
        const float reach = lamp.reachOfSet(hit.set);
        if (!(reach > 0.f))
            continue;
        // A mirror shows the glowing volume itself, and a broad lamp.
        const float glossy = brdf.mirror && (lamp.ofBody >= 0 || hasImage(lamp)) ? 0.f : lamp.toGlossy * reach;
        light::LampSample& s = samples[j];
        if (light::sampleLamp(lamp, p, random(purposeSun + shift), random(purposeSun + shift + 1), s) &&
            s.way.dot(hit.geometricNormal) > 0.f) {
            lamps[j] = brdf.reflect(hit.normal, s.way, v, lamp.toDiffuse * reach, glossy * glittering(s.way)) *
                       s.irradiance;
            together += luminance(lamps[j] * lamp.intensity);
        }
        // Beside a source its parts differ so much that one place on it tells little: four of them, each with its
        // shadow.
        if ((lamp.position - p).length2() < nearSource * lamp.radius * lamp.radius &&
            lamp.shape != light::Lamp::Shape::Parallel) {
            constexpr int places = 4;
            Vec3 all(0.f);
            for (int k = 0; k < places; ++k) {
                light::LampSample one;
                const float u = random(purposeSun + shift) + 0.754877666f * static_cast<float>(k),
                            w = random(purposeSun + shift + 1) + 0.569840296f * static_cast<float>(k);
                if (light::sampleLamp(lamp, p, u - std::floor(u), w - std::floor(w), one) &&
                    one.way.dot(hit.geometricNormal) > 0.f &&
                    (lamp.shadows == light::Lamp::Shadows::None || !(one.distance > 0.f) ||
                     !shot_.shadowsOf(lamp).occluded(start, one.way, one.distance, random.time)))
                    all += brdf.reflect(hit.normal, one.way, v, lamp.toDiffuse * reach, glossy) * one.irradiance;
            }
            together += luminance((all * (1.f / places) - lamps[j]) * lamp.intensity);
            lamps[j] = all * (1.f / places);
            s.distance = 0.f; // its shadow is in already
        }
        spent(j);
    }
    for (std::size_t j = 0; j < which.size(); ++j) {
        const light::Lamp& lamp = shot_.lamps[which[j]];
        if (lamps[j].x + lamps[j].y + lamps[j].z <= 0.f)
            continue;
        const float own = luminance(lamps[j] * lamp.intensity),
                    chance = own > 0.f ? std::min(1.f, own * 8.f / together) : 1.f;
        const light::LampSample& s = samples[j];
        if (chance < 1.f) {
            const float u = random(purposeLamp + which[j]);
            if (u >= chance)
                lamps[j] = Vec3(0.f);
            else
                lamps[j] *= 1.f / chance;
        }
        if (lamps[j].x + lamps[j].y + lamps[j].z > 0.f && lamp.shadows != light::Lamp::Shadows::None &&
            s.distance > 0.f && shot_.shadowsOf(lamp).occluded(start, s.way, s.distance, random.time))
            lamps[j] = Vec3(0.f);
        spent(j);
    }
    return out;
}

bool SurfaceSampler::meets(const Vec3& origin, const Vec3& direction, geometry::Hit& hit, float time) const
{
    return shot_.scene->trace(origin, direction, 1e-3f, shot::Shot::farDistance, hit, time);
}

bool SurfaceSampler::meetsFromEye(const Vec3& origin, const Vec3& direction, geometry::Hit& hit, float time) const
{
    if (!eyeIn_)
        return meets(origin, direction, hit, time);
    return shot_.scene->traceUnder(*eyeIn_, origin, direction, 1e-3f, reachUnder(*eyeIn_), hit, time);
}

unsigned SurfaceSampler::meetFromEye8(const geometry::SightRays8& rays, unsigned active, geometry::Hit hits[8]) const
{
    if (!eyeIn_)
        return shot_.scene->trace8(rays, active, 1e-3f, shot::Shot::farDistance, hits);
    unsigned met = 0;
    for (unsigned i = 0; i < 8; ++i)
        if (((active >> i) & 1u) && meetsFromEye(rays.origin[i], rays.direction[i], hits[i], rays.time[i]))
            met |= 1u << i;
    return met;
}

void SurfaceSampler::lookToSun8(const geometry::SightRays8& rays, const PixelRandom random[8],
                                const geometry::Hit hits[8], unsigned met, SunSeen seen[8]) const
{
    // (Eight shadow rays share one moment of the shutter.)
    if (!shot_.sky || eyeIn_ || shot_.scene->moves())
        return;
    geometry::ShadowRays8 all{};
    unsigned ask = 0;
    for (unsigned i = 0; i < 8; ++i) {
        if (!((met >> i) & 1u) || hits[i].matte)
            continue;
        const geometry::Hit& hit = hits[i];
        const Vec3 sun = towardSunFor(random[i], 0);
        if (!(sun.dot(hit.geometricNormal) > 0.f && sun.dot(hit.normal) > 0.f))
            continue;
        const Vec3 p = rays.origin[i] + rays.direction[i] * hit.t, o = p + hit.geometricNormal * liftOver(hit, p);
        all.ox[i] = o.x, all.oy[i] = o.y, all.oz[i] = o.z;
        all.dx[i] = sun.x, all.dy[i] = sun.y, all.dz[i] = sun.z;
        all.reach[i] = 1e6f;
        ask |= 1u << i;
    }
    const unsigned hidden = shot_.shadowsOfSun().occluded8(all, ask);
    for (unsigned i = 0; i < 8; ++i)
        if ((ask >> i) & 1u)
            seen[i] = (hidden >> i) & 1u ? SunSeen::Hidden : SunSeen::Seen;
}

int SurfaceSampler::meetsLamp(const Vec3& o, const Vec3& d, float pixelAngle, std::span<const std::uint16_t> which,
                              float& t, Vec3& radiance) const
{
    int met = -1;
    for (std::size_t j = 0; j < which.size(); ++j) {
        float at;
        Vec3 l;
        if (light::meetsSource(shot_.lamps[which[j]], o, d, pixelAngle, t, at, l)) {
            met = static_cast<int>(j);
            t = at;
            radiance = l;
        }
    }
    return met;
}

Vec3 SurfaceSampler::meetsSparks(const Vec3& o, const Vec3& d, float limit, float pixelAngle, float before,
                                 float& distance) const
{
    Vec3 all(0.f);
    float brightest = 0.f;
    for (const media::Sparks& s : shot_.sparks) {
        float at = limit;
        const Vec3 light = s.all->along(o, d, limit, pixelAngle, before, at);
        all += light;
        if (const float own = luminance(light); own > brightest) {
            brightest = own;
            distance = at;
        }
    }
    return all;
}

Vec3 SurfaceSampler::baseColour(const geometry::Hit& h, float angle, float along, float facing)
{
    if (h.material->isWater)
        return h.water->deep();
    Vec3 c = h.material->baseColour;
    if (h.material->texture)
        c *= h.material->texture->sample(h.uv, h.uvPerMetre * along * angle / std::sqrt(std::max(0.05f, facing)));
    return c;
}

bool SurfaceSampler::hasImage(const light::Lamp& l)
{
    using Shape = light::Lamp::Shape;
    return l.glow > 0.f && (l.shape == Shape::Rectangle || l.shape == Shape::Disc || l.shape == Shape::Tube);
}

bool SurfaceSampler::isMirror(const geometry::Hit& hit)
{
    return !hit.matte && (hit.material->isWater || hit.material->roughness < Brdf::mirrorRoughness);
}

SurfaceSample SurfaceSampler::shaded(const geometry::Hit* met, const Vec3& origin, const Vec3& d, float pixelAngle,
                                     const PixelRandom& random, std::span<const std::uint16_t> which,
                                     std::span<Vec3> lamps, std::span<Vec3> mirrorLamps, const Aside& aside) const
{
    SurfaceSample s = wholly(met, origin, d, pixelAngle, random, which, lamps, mirrorLamps, aside);
    if (only_ != WaterPart::All)
        keepPart(met, s, lamps, mirrorLamps);
    return s;
}

void SurfaceSampler::keepPart(const geometry::Hit* met, SurfaceSample& s, std::span<Vec3> lamps,
                              std::span<Vec3> mirrorLamps) const
{
    const bool isWater = met && met->water && !met->matte, isFoam = isWater && !met->material->isWater;
    // From under it all that is seen comes through it.
    const bool own = eyeIn_ ? only_ == WaterPart::Refraction || only_ == WaterPart::Even
                            : isWater && only_ != WaterPart::Mask && isFoam == (only_ == WaterPart::Foam);
    if (!own) {
        s.light = LightParts();
        std::fill(lamps.begin(), lamps.end(), Vec3(0.f));
    }
    if (only_ == WaterPart::Mask && (isWater || eyeIn_))
        s.light.emitted = Vec3(1.f);
    const bool mirrors = eyeIn_ ? own : isWater && !isFoam && only_ == WaterPart::Reflection;
    if (s.mirror && !mirrors) { // (It stays, so that each part is looked at as often as the whole.)
        s.mirror->light = LightParts();
        s.mirror->reflectance = Vec3(0.f);
        std::fill(mirrorLamps.begin(), mirrorLamps.end(), Vec3(0.f));
    }
}

SurfaceSample SurfaceSampler::wholly(const geometry::Hit* met, const Vec3& origin, const Vec3& d, float pixelAngle,
                                     const PixelRandom& random, std::span<const std::uint16_t> which,
                                     std::span<Vec3> lamps, std::span<Vec3> mirrorLamps, const Aside& with) const
{
    Aside aside = with;
    aside.pixelAngle = pixelAngle;
    SurfaceSample s;
    if (!met) {
        s.t = shot::Shot::farDistance;
        s.light.emitted = background(d, true);
        std::fill(lamps.begin(), lamps.end(), Vec3(0.f));
        return s;
    }
    const geometry::Hit& hit = *met;
    s.t = hit.t;
    if (hit.matte) {
        s.normal = hit.normal;
        std::fill(lamps.begin(), lamps.end(), Vec3(0.f));
        return s;
    }
    const Vec3 p = origin + d * hit.t;
    // Of water what it sends back itself, down to the ground that shows.
    const auto ground = hit.material->isWater ? groundUnder(hit, p, d, random.time) : std::nullopt;
    const Vec3 base = ground ? hit.water->over(Vec3(0.f), ground->hit.t, -ground->way.y * ground->hit.t)
                             : baseColour(hit, pixelAngle, hit.t, -d.dot(hit.normal));
    s.light = shade(hit, p, d, base, random, 0, which, lamps, aside);
    if (only_ != WaterPart::All && hit.material->isWater) {
        // Glints of sun and lamps are mirrored: what is left where nothing comes up out of it.
        std::vector<Vec3> glints(lamps.size());
        const LightParts own = shade(hit, p, d, Vec3(0.f), random, 0, which, glints, aside);
        const bool mirrored = only_ == WaterPart::Reflection;
        s.light = mirrored ? own : s.light - own;
        for (std::size_t j = 0; j < lamps.size(); ++j)
            lamps[j] = mirrored ? glints[j] : lamps[j] - glints[j];
    }
    s.normal = hit.normal;
    s.diffuse = Brdf(*hit.material, base).diffuse;
    if (!isMirror(hit))
        return s;
    if (ground && only_ != WaterPart::Reflection)
        addGround(*ground, hit, p, d, pixelAngle, random, which, lamps, s);

    SurfaceSample::Mirror m;
    m.point = p + hit.geometricNormal * (1e-4f + 2e-6f * hit.t);
    m.direction = mirrorDirection(hit, d);
    m.reflectance = mirrorShare(hit, Brdf(*hit.material, base).mirrorF0, d);
    geometry::Hit second;
    const bool more = shot_.scene->trace(m.point, m.direction, 0.f, shot::Shot::farDistance, second, random.time);
    float lampDistance = more ? second.t : shot::Shot::farDistance;
    Vec3 radiance(0.f);
    if (const int own = meetsLamp(m.point, m.direction, pixelAngle, imagedLamps_, lampDistance, radiance); own >= 0) {
        const std::uint16_t lamp = imagedLamps_[static_cast<std::size_t>(own)];
        m.t = lampDistance;
        std::fill(mirrorLamps.begin(), mirrorLamps.end(), Vec3(0.f));
        mirrorLamps[lamp] = radiance * (shot_.lamps[lamp].toGlossy * shot_.lamps[lamp].reachOfSet(hit.set));
    } else if (more && second.material->isWater) {
        // A wave that mirrors another wave: that one's own light is little beside what it mirrors of the sky.
        m.t = second.t;
        const Vec3 on = mirrorDirection(second, m.direction);
        m.light.emitted = background(on, false) * mirrorShare(second, Vec3(0.02f), m.direction);
        std::fill(mirrorLamps.begin(), mirrorLamps.end(), Vec3(0.f));
    } else if (more) {
        m.t = second.t;
        const Vec3 q = m.point + m.direction * second.t;
        const Vec3 base2 = baseColour(second, pixelAngle, hit.t + second.t, -m.direction.dot(second.normal));
        m.light = shade(second, q, m.direction, base2, random, purposeMirror, everyLamp_, mirrorLamps, {aside.clock});
    } else {
        m.t = shot::Shot::farDistance;
        m.light.emitted = background(m.direction, false);
        std::fill(mirrorLamps.begin(), mirrorLamps.end(), Vec3(0.f));
    }
    if (!shot_.sparks.empty()) {
        float at = m.t;
        m.light.emitted += meetsSparks(m.point, m.direction, m.t, pixelAngle, hit.t, at);
        if (m.t >= shot::Shot::farDistance) // only the sky is behind them
            m.t = at;
    }
    m.light = m.light * m.reflectance;
    for (Vec3& c : mirrorLamps)
        c *= m.reflectance;
    s.mirror = m;
    return s;
}
} // namespace hygros::render
