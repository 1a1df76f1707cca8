#include "light/spot.h"

namespace hygros::light {

bool insideCone(const Spot& spot, const Vec3& origin, const Vec3& d, float reach, float& t0, float& t1)
{
    const Vec3 o = origin - spot.position;
    // Sphere of the lamp's reach.
    const float b = o.dot(d), s = b * b - o.dot(o) + reach * reach;
    if (s <= 0.f)
        return false;
    const float rs = std::sqrt(s);
    t0 = std::max(t0, -b - rs);
    t1 = std::min(t1, -b + rs);
    if (t0 >= t1)
        return false;
    // ((o + t·d)·a)² = cos²·|o + t·d|², on the axis's own side.
    const float c2 = spot.cosOuter * spot.cosOuter;
    const float da = d.dot(spot.direction), oa = o.dot(spot.direction);
    const float qa = da * da - c2, qb = da * oa - c2 * b, qc = oa * oa - c2 * o.dot(o);
    float crossings[2];
    int count = 0;
    if (std::abs(qa) < 1e-8f) {
        if (std::abs(qb) > 1e-12f)
            crossings[count++] = -qc / (2.f * qb);
    } else {
        const float disc = qb * qb - qa * qc;
        if (disc > 0.f) {
            const float root = std::sqrt(disc);
            crossings[count++] = std::min((-qb - root) / qa, (-qb + root) / qa);
            crossings[count++] = std::max((-qb - root) / qa, (-qb + root) / qa);
        }
    }
    // The part of the interval between crossings whose middle lies inside; a cone is convex, so there is one.
    float edges[4] = {t0, 0, 0, 0};
    int n = 1;
    for (int i = 0; i < count; ++i)
        if (crossings[i] > t0 && crossings[i] < t1)
            edges[n++] = crossings[i];
    edges[n] = t1;
    for (int i = 0; i < n; ++i) {
        const float mid = 0.5f * (edges[i] + edges[i + 1]);
        const Vec3 p = o + d * mid;
        if (p.dot(spot.direction) > 0.f && p.dot(spot.direction) * p.dot(spot.direction) >= c2 * p.dot(p)) {
            t0 = edges[i];
            t1 = edges[i + 1];
            return t1 > t0;
        }
    }
    return false;
}
} // namespace hygros::light
