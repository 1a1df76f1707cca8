#include "render/surface.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
constexpr float mirrorRoughness = 0.2f; ///< smoother surfaces are traced, rougher ones use the blurred sky

/// GGX distribution times height-correlated Smith visibility (Walter et al. 2007; Heitz 2014).
float ggx(float alpha, float nl, float nv, float nh)
{
    const float a2 = alpha * alpha;
    const float d = nh * nh * (a2 - 1.f) + 1.f;
    const float vis = 0.5f / (nl * std::sqrt(nv * nv * (1.f - a2) + a2) + nv * std::sqrt(nl * nl * (1.f - a2) + a2) + 1e-6f);
    return a2 / (pi * d * d) * vis;
}

struct Brdf {
    Vec3 diffuse, f0;
    float alpha;
    bool mirror;
    Brdf(const geometry::Material& m, const Vec3& base)
        : diffuse(base * (1.f - m.metallic)), f0(lerp(Vec3(0.04f), base, m.metallic)),
          // A direct highlight narrower than this would be a few white pixels and no more.
          alpha(std::max(m.roughness * m.roughness, 0.01f)), mirror(m.roughness < mirrorRoughness)
    {
    }
    /// Reflected radiance per unit irradiance on a facing surface: brdf times cosine.
    Vec3 reflect(const Vec3& n, const Vec3& l, const Vec3& v) const
    {
        const float nl = n.dot(l), nv = std::max(1e-3f, n.dot(v));
        if (nl <= 0.f)
            return Vec3(0.f);
        const Vec3 h = (l + v).normalized();
        return (diffuse * (1.f / pi) + fresnel(f0, std::max(0.f, h.dot(v))) * ggx(alpha, nl, nv, std::max(0.f, n.dot(h)))) * nl;
    }
};
} // namespace

Vec3 fresnel(const Vec3& f0, float c)
{
    const float m = std::clamp(1.f - c, 0.f, 1.f), m2 = m * m;
    return f0 + (Vec3(1.f) - f0) * (m2 * m2 * m);
}

Vec3 towardSun(const light::Sky& sky, const Vec3& tangent, const Vec3& bitangent, float u, float v)
{
    const float r = light::Sky::sunRadius * std::sqrt(u), a = 2.f * pi * v;
    return (sky.sunDirection() + tangent * (r * std::cos(a)) + bitangent * (r * std::sin(a))).normalized();
}

Vec3 cosineDirection(const Vec3& n, float u, float v)
{
    Vec3 t, b;
    frameAround(n, t, b);
    const float r = std::sqrt(u), a = 2.f * pi * v;
    return t * (r * std::cos(a)) + b * (r * std::sin(a)) + n * std::sqrt(std::max(0.f, 1.f - u));
}

SurfaceSampler::SurfaceSampler(const shot::Shot& shot) : shot_(shot)
{
    if (shot.sky) {
        frameAround(shot.sky->sunDirection(), sunTangent_, sunBitangent_);
        // Where a sky ray is blocked, what blocks it is taken as lit a little by everything.
        const Vec3 up = shot.sky->irradiance(Vec3(0, 1, 0));
        bounce_ = (up * 0.10f + shot.sky->sunIrradiance() * 0.015f) * (1.f / pi);
    }
}

Vec3 SurfaceSampler::background(const Vec3& d, bool withDisk) const
{
    if (!shot_.sky)
        return Vec3(0.f);
    return shot_.sky->radiance(d) + (withDisk ? shot_.sky->diskRadiance(d) : Vec3(0.f));
}

LightParts SurfaceSampler::shade(const geometry::Hit& hit, const Vec3& p, const Vec3& d, const Vec3& base,
                                 const PixelRandom& random, std::uint32_t shift, std::span<Vec3> spots) const
{
    const geometry::Material& material = *hit.material;
    const Brdf brdf(material, base);
    const Vec3 v = -d;
    // Leave the surface along its geometric normal by a little more than the rounding of its position.
    const float lift = 1e-4f + 2e-6f * (std::abs(p.x) + std::abs(p.y) + std::abs(p.z) + hit.t);
    const Vec3 start = p + hit.geometricNormal * lift;
    LightParts out;
    out.emitted = material.emission;
    if (shot_.sky) {
        const Vec3 sun = towardSun(*shot_.sky, sunTangent_, sunBitangent_, random(purposeSun + shift), random(purposeSun + shift + 1));
        if (sun.dot(hit.geometricNormal) > 0.f && sun.dot(hit.normal) > 0.f && !shot_.scene->occluded(start, sun, 1e6f))
            out.sun = brdf.reflect(hit.normal, sun, v);
        const Vec3 up = cosineDirection(hit.normal, random(purposeSky + shift), random(purposeSky + shift + 1));
        const bool open = up.dot(hit.geometricNormal) > 0.f && !shot_.scene->occluded(start, up, 1e6f);
        if (open) {
            out.sky = brdf.diffuse * shot_.sky->irradiance(hit.normal) * (1.f / pi);
            if (!brdf.mirror) {
                const Vec3 r = (d - hit.normal * (2.f * d.dot(hit.normal))).normalized();
                const float rough = std::sqrt(brdf.alpha);
                // Grazing reflection of rough surfaces is weaker than Fresnel's (Lagarde 2011).
                const Vec3 f = fresnel(brdf.f0, std::max(0.f, hit.normal.dot(v)) * (1.f - rough) + rough);
                out.sky += f * shot_.sky->scattered(r, 1.f - 0.6f * rough);
            }
        } else {
            out.sky = brdf.diffuse * bounce_;
        }
    }
    for (std::size_t i = 0; i < spots.size(); ++i) {
        const light::Spot& spot = shot_.spots[i];
        const Vec3 to = spot.position - p;
        const float d2 = std::max(to.length2(), spot.radius * spot.radius);
        const Vec3 l = to.normalized();
        const float edge = spot.edge(-l.dot(spot.direction));
        spots[i] = Vec3(0.f);
        if (edge <= 0.f || l.dot(hit.geometricNormal) <= 0.f)
            continue;
        // Toward a point of the lamp's disk, short of the lamp itself.
        Vec3 t, b;
        frameAround(l, t, b);
        const float r = spot.radius * std::sqrt(random(purposeSun + shift + 1)), a = 2.f * pi * random(purposeSun + shift);
        const Vec3 target = spot.position + t * (r * std::cos(a)) + b * (r * std::sin(a));
        const Vec3 way = target - start;
        const float length = way.length();
        if (length <= spot.radius || !shot_.scene->occluded(start, way / length, length - 1.5f * spot.radius))
            spots[i] = brdf.reflect(hit.normal, l, v) * (edge / d2);
    }
    return out;
}

bool SurfaceSampler::meets(const Vec3& origin, const Vec3& direction, geometry::Hit& hit) const
{
    return shot_.scene->trace(origin, direction, 1e-3f, shot::Shot::farDistance, hit);
}

bool SurfaceSampler::isMirror(const geometry::Hit& hit) { return !hit.matte && hit.material->roughness < mirrorRoughness; }

SurfaceSample SurfaceSampler::shaded(const geometry::Hit* met, const Vec3& origin, const Vec3& d, float pixelAngle, const PixelRandom& random,
                                     std::span<Vec3> spots, std::span<Vec3> mirrorSpots) const
{
    SurfaceSample s;
    if (!met) {
        s.t = shot::Shot::farDistance;
        s.light.emitted = background(d, true);
        std::fill(spots.begin(), spots.end(), Vec3(0.f));
        return s;
    }
    const geometry::Hit& hit = *met;
    s.t = hit.t;
    if (hit.matte) {
        s.normal = hit.normal;
        std::fill(spots.begin(), spots.end(), Vec3(0.f));
        return s;
    }
    const Vec3 p = origin + d * hit.t;
    const auto colour = [](const geometry::Hit& h, float angle, float along, float facing) {
        Vec3 c = h.material->baseColour;
        if (h.material->texture)
            c *= h.material->texture->sample(h.uv, h.uvPerMetre * along * angle / std::sqrt(std::max(0.05f, facing)));
        return c;
    };
    const Vec3 base = colour(hit, pixelAngle, hit.t, -d.dot(hit.normal));
    s.light = shade(hit, p, d, base, random, 0, spots);
    s.normal = hit.normal;
    s.diffuse = Brdf(*hit.material, base).diffuse;
    if (!isMirror(hit))
        return s;

    SurfaceSample::Mirror m;
    m.point = p + hit.geometricNormal * (1e-4f + 2e-6f * hit.t);
    m.direction = (d - hit.normal * (2.f * d.dot(hit.normal))).normalized();
    if (m.direction.dot(hit.geometricNormal) < 0.01f)
        m.direction = (m.direction + hit.geometricNormal * (0.01f - m.direction.dot(hit.geometricNormal))).normalized();
    m.reflectance = fresnel(lerp(Vec3(0.02f), base, hit.material->metallic), -d.dot(hit.normal));
    geometry::Hit second;
    if (shot_.scene->trace(m.point, m.direction, 0.f, shot::Shot::farDistance, second)) {
        m.t = second.t;
        const Vec3 q = m.point + m.direction * second.t;
        const Vec3 base2 = colour(second, pixelAngle, hit.t + second.t, -m.direction.dot(second.normal));
        m.light = shade(second, q, m.direction, base2, random, purposeMirror, mirrorSpots);
    } else {
        m.t = shot::Shot::farDistance;
        m.light.emitted = background(m.direction, false);
        std::fill(mirrorSpots.begin(), mirrorSpots.end(), Vec3(0.f));
    }
    m.light.emitted *= m.reflectance;
    m.light.sun *= m.reflectance;
    m.light.sky *= m.reflectance;
    for (Vec3& c : mirrorSpots)
        c *= m.reflectance;
    s.mirror = m;
    return s;
}
} // namespace hygros::render
