#pragma once
/// How surfaces reflect: a matte lobe and a GGX lobe (Walter et al. 2007) with height-correlated shadowing (Heitz 2014)
/// and Schlick's Fresnel term (1994).
#include "geometry/ray_scene.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {

/// Reflectance of a surface seen at cosine c (Schlick 1994).
Vec3 fresnel(const Vec3& f0, float c);
/// Of what mirrors at a place: of water one of its small waves.
inline const Vec3& mirrorNormal(const geometry::Hit& hit) { return hit.material->isWater ? hit.facet : hit.normal; }
/// What it gives back of light that comes along d: of water less where one small wave mirrors another.
inline Vec3 mirrorShare(const geometry::Hit& hit, const Vec3& f0, const Vec3& d)
{
    const Vec3& n = mirrorNormal(hit);
    if (!hit.material->isWater)
        return fresnel(f0, -d.dot(n));
    float share = geometry::mirroredByWater(-d.dot(n));
    if (const float over = (d - n * (2.f * d.dot(n))).dot(hit.geometricNormal); over < 0.f)
        share *= geometry::mirroredByWater(-over);
    return Vec3(share);
}
/// Where a mirror sends what comes along d, a little off its plane.
inline Vec3 mirrorDirection(const geometry::Hit& hit, const Vec3& d)
{
    const Vec3& n = mirrorNormal(hit);
    const Vec3 r = (d - n * (2.f * d.dot(n))).normalized();
    const float over = r.dot(hit.geometricNormal);
    if (hit.material->isWater && over < 0.f) // into the next small wave, and up from that
        return (r - hit.geometricNormal * (2.f * over - 0.01f)).normalized();
    return over < 0.01f ? (r + hit.geometricNormal * (0.01f - over)).normalized() : r;
}
/// Cosine-distributed direction about n.
Vec3 cosineDirection(const Vec3& n, float u, float v);

struct Brdf {
    static constexpr float mirrorRoughness = 0.2f; ///< smoother surfaces are traced as mirrors
    Vec3 diffuse, f0;
    Vec3 mirrorF0; ///< of what is traced as a mirror: water, where it is no metal
    float alpha;
    bool mirror;
    Brdf(const geometry::Material& m, const Vec3& base)
        : diffuse(base * (1.f - m.metallic)), f0(lerp(Vec3(m.isWater ? 0.02f : 0.04f), base, m.metallic)),
          mirrorF0(lerp(Vec3(0.02f), base, m.metallic)),
          // A direct highlight narrower than this would be a few white pixels and no more.
          alpha(std::max(m.roughness * m.roughness, 0.01f)), mirror(m.isWater || m.roughness < mirrorRoughness)
    {
    }
    /// Distribution times visibility: the brdf's glossy part without its Fresnel term [1/sr].
    float ggx(float nl, float nv, float nh) const
    {
        const float a2 = alpha * alpha, d = nh * nh * (a2 - 1.f) + 1.f;
        const float vis = 0.5f / (nl * std::sqrt(nv * nv * (1.f - a2) + a2) +
                                  nv * std::sqrt(nl * nl * (1.f - a2) + a2) + 1e-6f);
        return a2 / (pi * d * d) * vis;
    }
    /// Reflected radiance per unit irradiance on a facing surface: brdf times cosine. `kd`, `ks`: strengths of the
    /// matte and the glossy part. 0 where the light comes from behind.
    Vec3 reflect(const Vec3& n, const Vec3& l, const Vec3& v, float kd = 1.f, float ks = 1.f) const
    {
        const float nl = n.dot(l), nv = std::max(1e-3f, n.dot(v));
        if (nl <= 0.f)
            return Vec3(0.f);
        const Vec3 h = (l + v).normalized();
        return (diffuse * (kd / pi) +
                fresnel(f0, std::max(0.f, h.dot(v))) * (ks * ggx(nl, nv, std::max(0.f, n.dot(h))))) *
               nl;
    }
    /// Share of directions that glossySample() draws from the glossy lobe, seen along v.
    float glossyShare(const Vec3& n, const Vec3& v) const
    {
        const float g = maxComponent(fresnel(f0, std::max(0.f, n.dot(v)))), d = maxComponent(diffuse);
        return g + d > 0.f ? std::clamp(g / (g + d), 0.05f, 1.f) : 1.f;
    }
    /// A direction of the glossy lobe: the mirror image of v about a normal of the facets that are seen (Heitz 2018).
    Vec3 glossyDirection(const Vec3& n, const Vec3& v, float u, float w) const;
    /// Density over solid angle of both lobes together, the glossy one with glossyShare() [1/sr].
    float density(const Vec3& n, const Vec3& l, const Vec3& v) const;
};
} // namespace hygros::render
