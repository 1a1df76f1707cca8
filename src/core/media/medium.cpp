#include "media/medium.h"

#include <algorithm>

namespace hygros::media {
namespace {
/// ∫₀ᵘ smoothstep: 0 below 0, u³ − u⁴/2 up to 1, u − 1/2 beyond.
inline F8 rampIntegral(F8 u)
{
    const F8 c = clamp8(u, 0.f, 1.f);
    return c * c * c * (1.f - 0.5f * c) + max8(u - 1.f, f8(0.f));
}
inline F8 ramp(F8 u)
{
    const F8 c = clamp8(u, 0.f, 1.f);
    return c * c * (3.f - 2.f * c);
}

/// A layer's lower edge is softened over this part of its falloff, so that it does not end like a sheet.
struct LayerEdges {
    float base, top, up, down;
    explicit LayerEdges(const Medium& m)
        : base(m.base), top(m.top), up(std::max(1e-4f, 0.25f * m.falloff)), down(std::max(1e-4f, m.falloff))
    {
    }
    F8 profile(F8 h) const { return ramp((h - base) * (1.f / up)) - ramp((h - (top - down)) * (1.f / down)); }
    /// Antiderivative in height; constant outside the layer, so that far heights lose no digits.
    F8 integral(F8 h) const
    {
        h = min8(max8(h, f8(base)), f8(top));
        return rampIntegral((h - base) * (1.f / up)) * up - rampIntegral((h - (top - down)) * (1.f / down)) * down;
    }
};

/// (1 − e^{−x})/x, finite for every x.
inline F8 meanDecay(F8 x)
{
    const I8 small = abs8(x) < 0.25f;
    const F8 series = 1.f + x * (-0.5f + x * (1.f / 6 +
                                              x * (-1.f / 24 + x * (1.f / 120 + x * (-1.f / 720 + x * (1.f / 5040))))));
    const F8 safe = select(small, f8(1.f), x);
    return select(small, series, (1.f - exp8(-safe)) / safe);
}

inline void slab(F8 o, F8 d, float lo, float hi, F8& t0, F8& t1)
{
    const F8 safe = select(abs8(d) < 1e-9f, f8(1e-9f), d);
    const F8 inv = 1.f / safe;
    const F8 a = (lo - o) * inv, b = (hi - o) * inv;
    t0 = max8(t0, min8(a, b));
    t1 = min8(t1, max8(a, b));
}

/// The ray in a box's own frame: its centre at the origin, its sides along the axes.
inline Ray8 inBox(const Medium& m, const Ray8& r)
{
    const F8 x = r.ox - m.centre.x, z = r.oz - m.centre.z;
    Ray8 b;
    b.ox = x * m.cosYaw - z * m.sinYaw;
    b.oz = x * m.sinYaw + z * m.cosYaw;
    b.oy = r.oy - m.centre.y;
    b.dx = r.dx * m.cosYaw - r.dz * m.sinYaw;
    b.dz = r.dx * m.sinYaw + r.dz * m.cosYaw;
    b.dy = r.dy;
    return b;
}
/// Profile of a box, sphere or cylinder at a point of its own frame.
inline F8 bodyProfile(const Medium& m, F8 x, F8 y, F8 z)
{
    const float edge = std::max(m.falloff, 1e-4f);
    // A soft edge may not eat more than the whole half extent.
    const auto side = [&](F8 inside, float half) { return ramp(inside * (1.f / std::min(edge, half))); };
    const F8 u = x * (1.f / m.half.x), v = y * (1.f / m.half.y), w = z * (1.f / m.half.z);
    if (m.shape == Shape::Sphere) {
        const float least = std::min({m.half.x, m.half.y, m.half.z});
        return side((1.f - sqrt8(u * u + v * v + w * w)) * least, least);
    }
    if (m.shape == Shape::Cylinder) {
        const float least = std::min(m.half.x, m.half.z);
        return side((1.f - sqrt8(u * u + w * w)) * least, least) * side(m.half.y - abs8(y), m.half.y);
    }
    return side(m.half.x - abs8(x), m.half.x) * side(m.half.y - abs8(y), m.half.y) * side(m.half.z - abs8(z), m.half.z);
}
/// Where o + t·d lies inside the unit circle or sphere: both given scaled to it, dot products over the axes that count.
inline void insideUnit(F8 oo, F8 od, F8 dd, F8& t0, F8& t1)
{
    const F8 safe = max8(dd, f8(1e-18f)), root = od * od - safe * (oo - 1.f);
    const F8 half = sqrt8(max8(root, f8(0.f))) / safe, middle = -od / safe;
    const I8 miss = root <= 0.f;
    t0 = select(miss, t1, max8(t0, middle - half));
    t1 = select(miss, t0, min8(t1, middle + half));
}
} // namespace

/// The ray with heights measured along a layer's own axis.
inline Ray8 alongAxis(const Medium& m, const Ray8& r)
{
    if (isFlat(m))
        return r;
    Ray8 a = r;
    a.oy = r.ox * m.axis.x + r.oy * m.axis.y + r.oz * m.axis.z;
    a.dy = r.dx * m.axis.x + r.dy * m.axis.y + r.dz * m.axis.z;
    return a;
}

Ray8 ray8(const Vec3& o, const Vec3& d) { return {f8(o.x), f8(o.y), f8(o.z), f8(d.x), f8(d.y), f8(d.z)}; }

void clip8(const Medium& m, const Ray8& ray, F8& t0, F8& t1)
{
    switch (m.shape) {
    case Shape::Uniform: slab(ray.oy, ray.dy, -1e7f, m.top, t0, t1); break;
    case Shape::Thinning: return;
    case Shape::Layer: {
        const Ray8 r = alongAxis(m, ray);
        slab(r.oy, r.dy, m.base, m.top, t0, t1);
        break;
    }
    case Shape::Ground: slab(ray.oy, ray.dy, m.ground->lowest() - 1.f, m.ground->highest() + m.top, t0, t1); break;
    case Shape::Inside: {
        const Box3& box = m.inside->bounds();
        slab(ray.ox, ray.dx, box.min.x, box.max.x, t0, t1);
        slab(ray.oy, ray.dy, box.min.y, box.max.y, t0, t1);
        slab(ray.oz, ray.dz, box.min.z, box.max.z, t0, t1);
        break;
    }
    case Shape::Box:
    case Shape::Sphere:
    case Shape::Cylinder: {
        const Ray8 b = inBox(m, ray);
        const F8 ox = b.ox * (1.f / m.half.x), oy = b.oy * (1.f / m.half.y), oz = b.oz * (1.f / m.half.z),
                 dx = b.dx * (1.f / m.half.x), dy = b.dy * (1.f / m.half.y), dz = b.dz * (1.f / m.half.z);
        if (m.shape == Shape::Sphere) {
            insideUnit(ox * ox + oy * oy + oz * oz, ox * dx + oy * dy + oz * dz, dx * dx + dy * dy + dz * dz, t0, t1);
            break;
        }
        slab(b.oy, b.dy, -m.half.y, m.half.y, t0, t1);
        if (m.shape == Shape::Cylinder) {
            // Upright rays are inside all the way or not at all.
            const F8 dd = dx * dx + dz * dz, oo = ox * ox + oz * oz;
            const I8 upright = dd < 1e-12f;
            F8 a = t0, c = t1;
            insideUnit(oo, ox * dx + oz * dz, select(upright, f8(1.f), dd), a, c);
            t0 = select(upright, t0, a);
            t1 = select(upright, select(oo < 1.f, t1, t0), c);
            break;
        }
        slab(b.ox, b.dx, -m.half.x, m.half.x, t0, t1);
        slab(b.oz, b.dz, -m.half.z, m.half.z, t0, t1);
        break;
    }
    }
    t1 = max8(t0, t1);
}

F8 profileIntegral8(const Medium& m, const Ray8& ray, F8 t0, F8 t1)
{
    switch (m.shape) {
    case Shape::Uniform: {
        clip8(m, ray, t0, t1);
        return t1 - t0;
    }
    case Shape::Thinning: {
        const float inv = 1.f / m.thinning;
        const F8 length = t1 - t0;
        // From the deeper end, so that nothing is multiplied that is tiny with what is huge; and far below its base,
        // where there is no end to it, as dense as can be counted with.
        const F8 rise = ray.dy * length * inv, deeper = select(rise < 0.f, ray.y(t1), ray.y(t0));
        return exp8(min8((m.base - deeper) * inv, f8(deepest))) * length * meanDecay(abs8(rise));
    }
    case Shape::Ground:
    case Shape::Inside: {
        clip8(m, ray, t0, t1);
        return t1 - t0;
    }
    case Shape::Layer: {
        const LayerEdges layer(m);
        const Ray8 own = alongAxis(m, ray);
        const F8 h0 = own.y(t0), h1 = own.y(t1), dh = h1 - h0, length = t1 - t0;
        // Nearly level rays: 3-point Gauss–Legendre, exact for the cubic pieces; others by the antiderivative.
        const I8 level = abs8(dh) < 0.5f * layer.up;
        F8 exact = f8(0.f), near = f8(0.f);
        if (any(~level)) {
            const F8 safe = select(level, f8(1.f), dh);
            exact = (layer.integral(h1) - layer.integral(h0)) / safe;
        }
        if (any(level)) {
            const F8 mid = 0.5f * (h0 + h1), r = dh * 0.387298334620741689f;
            near = (5.f * (layer.profile(mid - r) + layer.profile(mid + r)) + 8.f * layer.profile(mid)) * (1.f / 18);
        }
        return length * select(level, near, exact);
    }
    case Shape::Box:
    case Shape::Sphere:
    case Shape::Cylinder: {
        clip8(m, ray, t0, t1);
        const F8 length = t1 - t0;
        if (m.falloff <= 1e-4f)
            return length;
        const Ray8 b = inBox(m, ray);
        const F8 mid = 0.5f * (t0 + t1);
        const auto at = [&](F8 t) { return bodyProfile(m, b.x(t), b.y(t), b.z(t)); };
        const F8 inner = length * (0.5f * 0.339981043584856265f), outer = length * (0.5f * 0.861136311594052575f);
        return length * 0.5f *
               (0.652145154862546143f * (at(mid - inner) + at(mid + inner)) +
                0.347854845137453857f * (at(mid - outer) + at(mid + outer)));
    }
    }
    return f8(0.f);
}

float profileIntegral(const Medium& m, const Vec3& o, const Vec3& d, float t0, float t1)
{
    if (m.clear > 0.f && o == m.clearCentre) {
        t0 = std::max(t0, m.clear);
        t1 = std::max(t0, t1);
    }
    const Ray8 ray = ray8(o, d);
    if (!m.ground && !m.inside)
        return profileIntegral8(m, ray, f8(t0), f8(t1))[0];
    // What the ground or the mesh fills of its bounds: eight pieces at a time, growing with distance for the ground.
    F8 a = f8(t0), b = f8(t1);
    clip8(m, ray, a, b);
    const float from = a[0], length = b[0] - a[0];
    if (!(length > 0.f))
        return 0.f;
    const int rounds = std::clamp(static_cast<int>(length * 0.1f), 1, 12);
    const float grow = m.ground ? length / (length + 20.f) : 0.f;
    const auto placeOf = [&](F8 u) { return from + length * (u * (1.f - grow) + u * u * grow); };
    float total = 0.f;
    for (int r = 0; r < rounds; ++r) {
        F8 lane;
        for (int k = 0; k < lanes; ++k)
            lane[k] = static_cast<float>(r * lanes + k) / static_cast<float>(rounds * lanes);
        const F8 p0 = placeOf(lane), p1 = placeOf(lane + 1.f / static_cast<float>(rounds * lanes)),
                 mid = 0.5f * (p0 + p1);
        const F8 share = m.ground ? groundShare8(m, ray, p0, p1, f8(0.5f))
                                  : pattern8(m, ray.x(mid), ray.y(mid), ray.z(mid));
        total += sum(share * (p1 - p0));
    }
    return total;
}

F8 profile8(const Medium& m, F8 x, F8 y, F8 z)
{
    switch (m.shape) {
    case Shape::Uniform: return select(y <= m.top, f8(1.f), f8(0.f));
    case Shape::Thinning: return exp8(min8((m.base - y) * (1.f / m.thinning), f8(deepest)));
    case Shape::Layer: return LayerEdges(m).profile(alongAxis(m, {x, y, z, f8(0), f8(0), f8(0)}).oy);
    case Shape::Ground: return select(y <= m.ground->highest() + m.top, f8(1.f), f8(0.f));
    case Shape::Inside: {
        const Box3& b = m.inside->bounds();
        return select((x >= b.min.x) & (x <= b.max.x) & (y >= b.min.y) & (y <= b.max.y) & (z >= b.min.z) &
                          (z <= b.max.z),
                      f8(1.f), f8(0.f));
    }
    case Shape::Box:
    case Shape::Sphere:
    case Shape::Cylinder: {
        const Ray8 b = inBox(m, {x, y, z, f8(0), f8(0), f8(0)});
        return bodyProfile(m, b.ox, b.oy, b.oz);
    }
    }
    return f8(0.f);
}
float profile(const Medium& m, const Vec3& p) { return profile8(m, f8(p.x), f8(p.y), f8(p.z))[0]; }

namespace {
/// Height above the ground.
F8 overGround(const Medium& m, F8 x, F8 y, F8 z) { return y - m.ground->height8(x, z); }
/// Where a point lies between the ends, 0…1.
F8 betweenEnds(const Medium& m, F8 x, F8 y, F8 z)
{
    switch (m.shape) {
    case Shape::Uniform:
    case Shape::Thinning: return f8(0.f);
    case Shape::Layer:
        return (alongAxis(m, {x, y, z, f8(0), f8(0), f8(0)}).oy - m.base) * (1.f / std::max(1e-4f, m.top - m.base));
    case Shape::Ground: return overGround(m, x, y, z) * (1.f / std::max(1e-4f, m.top));
    case Shape::Inside: {
        const Box3& b = m.inside->bounds();
        return (y - b.min.y) * (1.f / std::max(1e-4f, b.max.y - b.min.y));
    }
    default: break;
    }
    const Ray8 b = inBox(m, {x, y, z, f8(0), f8(0), f8(0)});
    if (m.shape != Shape::Sphere)
        return b.oy * (0.5f / m.half.y) + 0.5f;
    const F8 u = b.ox * (1.f / m.half.x), v = b.oy * (1.f / m.half.y), w = b.oz * (1.f / m.half.z);
    return sqrt8(u * u + v * v + w * w);
}
} // namespace

namespace {
/// Over which height the upper part of ground fog thins.
float groundFade(const Medium& m) { return std::max(1e-3f, m.falloff); }
/// Fog goes this far under the ground as it is known, so that a coarse grid leaves no gap over a bumpy surface [m].
constexpr float underGround = 0.6f;
} // namespace

F8 pattern8(const Medium& m, F8 x, F8 y, F8 z)
{
    F8 p = f8(1.f);
    if (m.ground)
        p = select(y > m.ground->floor8(x, z) - underGround, atHeight8(m, overGround(m, x, y, z)), f8(0.f));
    else if (m.inside)
        p = ramp(m.inside->depth8(x, y, z) * (1.f / std::max(m.falloff, 1e-3f)));
    return any(p > 0.f) ? p * detail8(m, x, y, z) : p;
}

F8 groundShare8(const Medium& m, const Ray8& ray, F8 t0, F8 t1, F8 split)
{
    struct Over {
        F8 top, floor; ///< metres over the fog's ground and over the real one
    };
    const auto over = [&](F8 t) {
        const F8 x = ray.x(t), z = ray.z(t), y = ray.y(t);
        return Over{y - m.ground->height8(x, z), y - m.ground->floor8(x, z) + underGround};
    };
    const float fade = groundFade(m);
    const auto meanOf = [&](Over a, Over b) {
        // The part over the real ground: from u0 to u1 of the way.
        const F8 drop = b.floor - a.floor, safe = select(abs8(drop) < 1e-4f, f8(1e-4f), drop), cross = -a.floor / safe;
        const F8 u0 = select(a.floor < 0.f, clamp8(cross, 0.f, 1.f), f8(0.f)),
                 u1 = select(b.floor < 0.f, clamp8(cross, 0.f, 1.f), f8(1.f));
        const F8 part = select((a.floor < 0.f) & (b.floor < 0.f), f8(0.f), max8(f8(0.f), u1 - u0));
        const F8 h0 = a.top + (b.top - a.top) * u0, h1 = a.top + (b.top - a.top) * u1, dh = h1 - h0;
        const I8 level = abs8(dh) < 0.02f * fade;
        const F8 mean = select(level, atHeight8(m, 0.5f * (h0 + h1)),
                               (aboveHeight8(m, h0) - aboveHeight8(m, h1)) / select(level, f8(1.f), dh));
        return mean * part;
    };
    const Over a = over(t0), b = over(t0 + (t1 - t0) * split), c = over(t1);
    return meanOf(a, b) * split + meanOf(b, c) * (1.f - split);
}

F8 wisps8(const Medium& m, F8 x, F8 y, F8 z)
{
    return m.draughts.any() && m.noise.contrast > 0.f ? drawnModulation8(m.noise, m.draughts, x, y, z)
                                                      : modulation8(m.noise, x, y, z);
}

F8 detail8(const Medium& m, F8 x, F8 y, F8 z)
{
    F8 p = f8(1.f);
    if (m.noise.contrast > 0.f)
        p = p * min8(wisps8(m, x, y, z), f8(m.cap));
    if (m.draughts.any())
        p = p * undried8(m.draughts, x, y, z);
    if (m.ends.far != 1.f) {
        F8 u = clamp8((betweenEnds(m, x, y, z) - m.ends.at) * (1.f / std::max(1e-3f, m.ends.range)) + 0.5f, 0.f, 1.f);
        if (m.ends.curve != 1.f)
            u = select(u > 0.f, exp8(log8(max8(u, f8(1e-20f))) * m.ends.curve), f8(0.f));
        p = p * (1.f + u * (m.ends.far - 1.f));
    }
    if (m.swell > 0.f) {
        // Above all waves there is none, under all of them all of it.
        const F8 under = m.top - m.swell - y;
        if (any((under < m.swell + m.swellFade) & (p > 0.f)))
            p = p * ramp((under + swell8(m, x, z)) * (1.f / std::max(m.swellFade, 0.02f * m.swell)));
    }
    return p;
}

F8 swell8(const Medium& m, F8 x, F8 z)
{
    Noise waves = m.noise;
    waves.scale = m.swellLength;
    waves.octaves = 3;
    waves.gain = 0.42f;
    waves.lacunarity = 2.1f;
    waves.warp = 0.f;
    waves.stretch = Vec3(1.f);
    waves.seed += 3571u;
    return clamp8(octaves8(waves, x, f8(0.f), z) * 2.6f, -1.f, 1.f) * m.swell;
}

float patternBound(const Medium& m)
{
    return (m.noise.contrast > 0.f ? std::min(modulationBound(m.noise), m.cap) : 1.f) * std::max(1.f, m.ends.far);
}

F8 aboveGround8(const Medium& m, F8 x, F8 y, F8 z)
{
    if (!any(y < m.ground->highest() + m.top))
        return f8(0.f);
    return aboveHeight8(m, overGround(m, x, y, z));
}

F8 aboveHeight8(const Medium& m, F8 over)
{
    const float f = groundFade(m);
    return rampIntegral((m.top - over) * (1.f / f)) * f;
}

F8 atHeight8(const Medium& m, F8 over) { return ramp((m.top - over) * (1.f / groundFade(m))); }

float extinction(const Medium& m, const Vec3& p)
{
    if (m.clear > 0.f && (p - m.clearCentre).length2() < m.clear * m.clear)
        return 0.f;
    const float d = m.sigmaT * profile(m, p);
    return d > 0.f && isPatterned(m) ? d * pattern8(m, f8(p.x), f8(p.y), f8(p.z))[0] : d;
}
} // namespace hygros::media
