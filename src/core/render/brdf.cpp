#include "render/brdf.h"

namespace hygros::render {

Vec3 Brdf::glossyDirection(const Vec3& n, const Vec3& v, float u, float w) const
{
    Vec3 t, b;
    frameAround(n, t, b);
    const Vec3 local(v.dot(t), v.dot(b), std::max(1e-3f, v.dot(n)));
    const Vec3 stretched = Vec3(alpha * local.x, alpha * local.y, local.z).normalized();
    const float across = stretched.x * stretched.x + stretched.y * stretched.y;
    const Vec3 t1 = across > 1e-12f ? Vec3(-stretched.y, stretched.x, 0.f) / std::sqrt(across) : Vec3(1, 0, 0),
               t2 = stretched.cross(t1);
    const float r = std::sqrt(u), phi = 2.f * pi * w, p1 = r * std::cos(phi), s = 0.5f * (1.f + stretched.z);
    const float p2 = (1.f - s) * std::sqrt(std::max(0.f, 1.f - p1 * p1)) + s * r * std::sin(phi);
    const Vec3 facet = t1 * p1 + t2 * p2 + stretched * std::sqrt(std::max(0.f, 1.f - p1 * p1 - p2 * p2));
    const Vec3 h = Vec3(alpha * facet.x, alpha * facet.y, std::max(1e-6f, facet.z)).normalized();
    const Vec3 half = t * h.x + b * h.y + n * h.z;
    return (half * (2.f * v.dot(half)) - v).normalized();
}

float Brdf::density(const Vec3& n, const Vec3& l, const Vec3& v) const
{
    const float nl = n.dot(l), nv = std::max(1e-3f, n.dot(v));
    if (nl <= 0.f)
        return 0.f;
    const float nh = std::max(0.f, n.dot((l + v).normalized())), a2 = alpha * alpha, d = nh * nh * (a2 - 1.f) + 1.f;
    const float seen = 2.f * nv / (nv + std::sqrt(a2 + (1.f - a2) * nv * nv)); // Smith's masking of v
    const float share = glossyShare(n, v);
    return share * a2 / (pi * d * d) * seen / (4.f * nv) + (1.f - share) * nl / pi;
}
} // namespace hygros::render
