#include "light/lamp.h"

namespace hygros::light {
namespace {
/// Arc tangent to 1e-5 (Hastings 1955).
inline F8 atan8(F8 x)
{
    const F8 a = abs8(x);
    const I8 large = a > 1.f;
    const F8 u = select(large, 1.f / max8(a, f8(1e-9f)), a), v = u * u;
    F8 r = u * (0.9998660f + v * (-0.3302995f + v * (0.1801410f + v * (-0.0851330f + v * 0.0208351f))));
    r = select(large, 0.5f * pi - r, r);
    return select(x < 0.f, -r, r);
}

/// ∫ falloff: what the distance law makes of a physical value at distance d.
float fallen(const Lamp& l, float d)
{
    switch (l.falloff) {
    case Lamp::Falloff::None: return d * d;
    case Lamp::Falloff::Linear: return d * d * std::max(0.f, 1.f - d / l.range);
    default: return 1.f;
    }
}

/// Profile and gobo toward a point, `from` the place the rays seem to come from.
Vec3 tintToward(const Lamp& l, const Vec3& from, const Vec3& point)
{
    Vec3 tint(1.f);
    const Vec3 d = point - from;
    const float ahead = d.dot(l.direction), x = d.dot(l.right), y = d.dot(l.up);
    if (l.profile)
        tint *= l.profile->relative(ahead / std::max(1e-9f, d.length()), x, y);
    if (l.gobo && l.shape == Lamp::Shape::Spot) {
        const float widest = ahead * std::sqrt(std::max(0.f, 1.f - l.cosOuter * l.cosOuter)) /
                             std::max(1e-3f, l.cosOuter);
        tint *= ahead > 0.f ? l.gobo->at(x / widest, y / widest) : Vec3(0.f);
    } else if (l.gobo && l.shape == Lamp::Shape::Parallel) {
        tint *= l.gobo->at(x / l.radius, y / l.radius);
    }
    return tint;
}

float parallelEdge(const Lamp& l, float across)
{
    const float u = std::clamp((1.f - across / l.radius) / std::max(1e-4f, l.softEdge), 0.f, 1.f);
    return u * u * (3.f - 2.f * u);
}
} // namespace

Vec3 Lamp::apex() const
{
    return position - direction * (radius * cosOuter / std::sqrt(std::max(1e-6f, 1.f - cosOuter * cosOuter)));
}

float Lamp::reach() const
{
    if (shape == Shape::Parallel)
        return falloff == Falloff::Linear ? range : 2e4f;
    // A bright lamp carries further: followed to where its light has spread to 5·10⁻⁴ W/m² (a third of a lux).
    const float brightest = maxComponent(intensity); // a profile is 1 at its brightest
    if (falloff == Falloff::Linear)
        return range;
    return falloff == Falloff::None ? 5000.f : std::clamp(std::sqrt(brightest * 2000.f), 5.f, 2000.f);
}

void Lamp::aimAlong(const Vec3& d, float turn)
{
    direction = d;
    const Vec3 level = std::abs(d.y) < 0.999f ? Vec3(0, 1, 0) : Vec3(0, 0, -1);
    const Vec3 r = d.cross(level).normalized(), u = r.cross(d);
    const float c = std::cos(turn), s = std::sin(turn);
    right = r * c + u * s;
    up = u * c - r * s;
}

bool Lamp::lightsAir() const
{
    if (toAir <= 0.f)
        return false;
    if (mediaReach.empty())
        return true;
    return std::any_of(mediaReach.begin(), mediaReach.end(), [](float v) { return v > 0.f; });
}

float intensityPerFlux(const Lamp& l)
{
    if (l.profile && l.shape != Lamp::Shape::Parallel)
        return 1.f / std::max(1e-9f, l.profile->relativeFlux());
    switch (l.shape) {
    case Lamp::Shape::Sphere: return 0.25f / pi;
    case Lamp::Shape::Spot: return spotIntensityPerFlux(l.cosInner, l.cosOuter);
    case Lamp::Shape::Rectangle:
    case Lamp::Shape::Disc: return 1.f / pi;
    case Lamp::Shape::Tube: return 1.f / (pi * pi);
    case Lamp::Shape::Parallel: {
        // ∫ 2πr · smoothstep((1 − r/R)/e) dr = πR²·(1 − e + 3e²/10).
        const float e = std::clamp(l.softEdge, 0.f, 1.f);
        return 1.f / (pi * l.radius * l.radius * (1.f - e + 0.3f * e * e));
    }
    }
    return 0.f;
}

Vec3 sourcePoint(const Lamp& l, const Vec3& p, float u, float v)
{
    const float r = l.radius * std::sqrt(u), a = 2.f * pi * v, x = r * std::cos(a), y = r * std::sin(a);
    switch (l.shape) {
    case Lamp::Shape::Sphere: {
        Vec3 t, b;
        const Vec3 to = p - l.position;
        frameAround(to.length2() > 1e-18f ? to.normalized() : Vec3(0, 1, 0), t, b);
        return l.position + t * x + b * y;
    }
    case Lamp::Shape::Spot:
    case Lamp::Shape::Disc: return l.position + l.right * x + l.up * y;
    case Lamp::Shape::Rectangle: return l.position + l.right * ((u - 0.5f) * l.width) + l.up * ((v - 0.5f) * l.height);
    case Lamp::Shape::Tube: return l.position + l.right * ((u - 0.5f) * l.width);
    case Lamp::Shape::Parallel: break;
    }
    return p - l.direction * std::max(0.f, (p - l.position).dot(l.direction));
}

float clearanceOf(const Lamp& l)
{
    switch (l.shape) {
    case Lamp::Shape::Sphere:
    case Lamp::Shape::Spot:
    case Lamp::Shape::Tube: return 1.5f * l.radius;
    case Lamp::Shape::Rectangle:
    case Lamp::Shape::Disc: return 1e-3f;
    case Lamp::Shape::Parallel: break;
    }
    return 0.f;
}

std::vector<Ball> ballsOf(const Lamp& l)
{
    const float reach = l.reach();
    const auto along = [&](float first, float growth, const auto& widthAt) {
        std::vector<Ball> out;
        for (float a = 0.f, length = first; a < reach && out.size() < 64; a += length, length *= growth) {
            const float b = out.size() == 63 ? reach : std::min(reach, a + length), half = 0.5f * (b - a),
                        wide = widthAt(b);
            out.push_back({l.position + l.direction * (a + half), std::sqrt(half * half + wide * wide)});
        }
        return out;
    };
    if (l.shape == Lamp::Shape::Spot && l.cosOuter > 0.5f) {
        const float slope = std::sqrt(1.f - l.cosOuter * l.cosOuter) / l.cosOuter;
        return along(std::max(0.5f, 2.f * l.radius), 1.6f, [&](float s) { return l.radius + slope * s; });
    }
    if (l.shape == Lamp::Shape::Parallel)
        return along(std::max(2.f * l.radius, reach / 2000.f), 1.15f, [&](float) { return l.radius; });
    return {{l.position, reach}};
}

bool sameBeam(const Lamp& a, const Lamp& b)
{
    if (a.reach() != b.reach() || a.lightsAir() != b.lightsAir())
        return false;
    Lamp other = a;
    other.intensity = b.intensity;
    other.toAir = b.toAir;
    other.mediaReach = b.mediaReach;
    other.bodyReach = b.bodyReach;
    other.ofBody = b.ofBody;
    return other == b;
}

bool sampleLamp(const Lamp& l, const Vec3& p, float u, float v, LampSample& out)
{
    float value = 0.f, lawDistance = 0.f;
    Vec3 from = l.position;
    const auto toward = [&](const Vec3& target) {
        const Vec3 w = target - p;
        out.distance = w.length();
        out.way = w / std::max(1e-9f, out.distance);
    };
    switch (l.shape) {
    case Lamp::Shape::Sphere: {
        const Vec3 to = l.position - p;
        const float d = std::max(to.length(), l.radius * 1.001f), s2 = l.radius * l.radius / (d * d);
        const float spread = s2 / (1.f + std::sqrt(1.f - s2)); // 1 − cos of the half angle
        const float c = 1.f - u * spread, s = std::sqrt(std::max(0.f, 1.f - c * c)), a = 2.f * pi * v;
        const Vec3 axis = to.length2() > 1e-18f ? to.normalized() : Vec3(0, 1, 0);
        Vec3 t, b;
        frameAround(axis, t, b);
        out.way = t * (s * std::cos(a)) + b * (s * std::sin(a)) + axis * c;
        out.distance = std::max(0.f, d - clearanceOf(l));
        value = 2.f * spread / (l.radius * l.radius);
        lawDistance = d;
        break;
    }
    case Lamp::Shape::Spot: {
        if ((p - l.position).dot(l.direction) <= 0.f)
            return false;
        from = l.apex();
        const Vec3 away = p - from;
        const float d2 = away.length2();
        lawDistance = std::sqrt(d2);
        value = l.edge(away.dot(l.direction) / lawDistance) / d2;
        if (value > 0.f)
            toward(sourcePoint(l, p, u, v));
        out.distance = std::max(0.f, out.distance - clearanceOf(l));
        break;
    }
    case Lamp::Shape::Rectangle:
    case Lamp::Shape::Disc: {
        if ((p - l.position).dot(l.direction) <= 0.f)
            return false;
        toward(sourcePoint(l, p, u, v));
        value = std::max(0.f, -out.way.dot(l.direction)) / std::max(1e-8f, out.distance * out.distance);
        out.distance = std::max(0.f, out.distance - clearanceOf(l));
        lawDistance = (p - l.position).length();
        break;
    }
    case Lamp::Shape::Tube: {
        toward(sourcePoint(l, p, u, v));
        const float c = out.way.dot(l.right), d = std::max(out.distance, l.radius);
        value = std::sqrt(std::max(0.f, 1.f - c * c)) / (d * d);
        out.distance = std::max(0.f, out.distance - clearanceOf(l));
        lawDistance = (p - l.position).length();
        break;
    }
    case Lamp::Shape::Parallel: {
        const Vec3 d = p - l.position;
        const float ahead = d.dot(l.direction);
        if (ahead <= 0.f || ahead > l.reach())
            return false;
        value = parallelEdge(l, (d - l.direction * ahead).length());
        out.way = -l.direction;
        out.distance = ahead;
        if (l.falloff == Lamp::Falloff::Linear)
            value *= std::max(0.f, 1.f - ahead / l.range);
        break;
    }
    }
    if (value <= 0.f)
        return false;
    if (l.shape != Lamp::Shape::Parallel)
        value *= fallen(l, lawDistance);
    out.irradiance = Vec3(value);
    if (l.profile || l.gobo)
        out.irradiance *= tintToward(l, from, p);
    return maxComponent(out.irradiance) > 0.f;
}

void lampFluence8(const Lamp& l, F8 x, F8 y, F8 z, F8 way[3], F8& distance, F8 tint[3])
{
    const bool spot = l.shape == Lamp::Shape::Spot;
    const Vec3 from = spot ? l.apex() : l.position;
    const F8 dx = x - from.x, dy = y - from.y, dz = z - from.z, d2 = dx * dx + dy * dy + dz * dz, d = sqrt8(d2),
             inv = 1.f / max8(d, f8(1e-6f));
    const F8 ahead = dx * l.direction.x + dy * l.direction.y + dz * l.direction.z;
    const F8 side = dx * l.right.x + dy * l.right.y + dz * l.right.z, lift = dx * l.up.x + dy * l.up.y + dz * l.up.z;
    distance = d;
    way[0] = -dx * inv;
    way[1] = -dy * inv;
    way[2] = -dz * inv;
    F8 value = f8(0.f);
    switch (l.shape) {
    case Lamp::Shape::Sphere: {
        const F8 s2 = min8((l.radius * l.radius) * inv * inv, f8(0.999f));
        value = 2.f * s2 / (1.f + sqrt8(1.f - s2)) * (1.f / (l.radius * l.radius));
        break;
    }
    case Lamp::Shape::Spot: {
        const F8 u = clamp8((ahead * inv - l.cosOuter) * (1.f / std::max(1e-6f, l.cosInner - l.cosOuter)), 0.f, 1.f);
        const float back = (l.position - from).dot(l.direction);
        value = select(ahead > back, u * u * (3.f - 2.f * u) * inv * inv, f8(0.f));
        break;
    }
    case Lamp::Shape::Rectangle:
    case Lamp::Shape::Disc: {
        const bool disc = l.shape == Lamp::Shape::Disc;
        const float w = 0.5f * (disc ? l.radius * std::sqrt(pi) : l.width),
                    h = 0.5f * (disc ? l.radius * std::sqrt(pi) : l.height), area = 4.f * w * h;
        value = ahead * inv * inv * inv; // far away: cosine over distance squared
        const I8 near = d2 < 100.f * area;
        if (any(near)) {
            const F8 zz = max8(ahead, f8(1e-4f));
            const auto corner = [&](F8 a, F8 b) { return atan8(a * b / (zz * sqrt8(a * a + b * b + zz * zz))); };
            const F8 solid = corner(w - side, h - lift) + corner(w - side, h + lift) + corner(w + side, h - lift) +
                             corner(w + side, h + lift);
            value = select(near, solid * (1.f / area), value);
        }
        value = select(ahead > 0.f, max8(value, f8(0.f)), f8(0.f));
        break;
    }
    case Lamp::Shape::Tube: {
        const F8 h = max8(sqrt8(max8(d2 - side * side, f8(0.f))), f8(l.radius));
        const F8 a = 0.5f * l.width - side, b = 0.5f * l.width + side;
        value = (a / sqrt8(a * a + h * h) + b / sqrt8(b * b + h * h)) / (h * l.width);
        break;
    }
    case Lamp::Shape::Parallel: {
        const F8 across = sqrt8(max8(d2 - ahead * ahead, f8(0.f)));
        const F8 u = clamp8((1.f - across * (1.f / l.radius)) * (1.f / std::max(1e-4f, l.softEdge)), 0.f, 1.f);
        value = select((ahead > 0.f) & (ahead < l.reach()), u * u * (3.f - 2.f * u), f8(0.f));
        if (l.falloff == Lamp::Falloff::Linear)
            value = value * max8(f8(0.f), 1.f - ahead * (1.f / l.range));
        distance = max8(ahead, f8(0.f));
        way[0] = f8(-l.direction.x);
        way[1] = f8(-l.direction.y);
        way[2] = f8(-l.direction.z);
        break;
    }
    }
    if (l.shape != Lamp::Shape::Parallel && l.falloff != Lamp::Falloff::Physical)
        value = value * d2 * (l.falloff == Lamp::Falloff::Linear ? max8(f8(0.f), 1.f - d * (1.f / l.range)) : f8(1.f));
    tint[0] = tint[1] = tint[2] = value;
    if (l.profile) {
        F8 p;
        for (int i = 0; i < lanes; ++i)
            p[i] = value[i] > 0.f ? l.profile->relative(ahead[i] * inv[i], side[i], lift[i]) : 0.f;
        for (int c = 0; c < 3; ++c)
            tint[c] = tint[c] * p;
    }
    if (l.gobo && (spot || l.shape == Lamp::Shape::Parallel)) {
        F8 g[3], scale = f8(1.f / l.radius);
        if (spot)
            scale = std::max(1e-3f, l.cosOuter) / std::sqrt(std::max(1e-6f, 1.f - l.cosOuter * l.cosOuter)) /
                    max8(ahead, f8(1e-6f));
        l.gobo->at8(side * scale, lift * scale, g);
        for (int c = 0; c < 3; ++c)
            tint[c] = tint[c] * g[c];
    }
}

bool insideCone(const Lamp& spot, const Vec3& origin, const Vec3& d, float reach, float& t0, float& t1)
{
    const Vec3 o = origin - spot.apex();
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

namespace {
/// Shrinks [t0, t1] to where the ray is before the plane through `point` that faces `normal`.
bool before(const Vec3& point, const Vec3& normal, const Vec3& o, const Vec3& d, float& t0, float& t1)
{
    const float height = (o - point).dot(normal), slope = d.dot(normal);
    if (std::abs(slope) < 1e-9f)
        return height > 0.f && t0 < t1;
    const float cross = -height / slope;
    if (slope > 0.f)
        t0 = std::max(t0, cross);
    else
        t1 = std::min(t1, cross);
    return t0 < t1;
}
} // namespace

bool insideBeam(const Lamp& l, const Vec3& o, const Vec3& d, float& t0, float& t1)
{
    const float reach = l.reach();
    if (l.shape == Lamp::Shape::Spot)
        return insideCone(l, o, d, reach, t0, t1) && before(l.position, l.direction, o, d, t0, t1);
    const Vec3 v = o - l.position;
    if (l.shape == Lamp::Shape::Parallel) {
        const float oa = v.dot(l.direction), da = d.dot(l.direction);
        const Vec3 vo = v - l.direction * oa, vd = d - l.direction * da;
        const float a = vd.length2(), b = vo.dot(vd), c = vo.length2() - l.radius * l.radius;
        if (a < 1e-12f) {
            if (c > 0.f)
                return false;
        } else {
            const float root = b * b - a * c;
            if (root <= 0.f)
                return false;
            t0 = std::max(t0, (-b - std::sqrt(root)) / a);
            t1 = std::min(t1, (-b + std::sqrt(root)) / a);
        }
        return before(l.position, l.direction, o, d, t0, t1) &&
               before(l.position + l.direction * reach, -l.direction, o, d, t0, t1);
    }
    const float b = v.dot(d), s = b * b - v.dot(v) + reach * reach;
    if (s <= 0.f)
        return false;
    t0 = std::max(t0, -b - std::sqrt(s));
    t1 = std::min(t1, -b + std::sqrt(s));
    if (l.shape == Lamp::Shape::Rectangle || l.shape == Lamp::Shape::Disc)
        return before(l.position, l.direction, o, d, t0, t1);
    return t0 < t1;
}

bool meetsSource(const Lamp& l, const Vec3& o, const Vec3& d, float footprint, float limit, float& t, Vec3& radiance)
{
    if (l.glow <= 0.f || l.shape == Lamp::Shape::Parallel)
        return false;
    const Vec3 to = l.position - o;
    if (l.shape == Lamp::Shape::Rectangle || l.shape == Lamp::Shape::Disc) {
        const float slope = d.dot(l.direction);
        if (slope >= -1e-4f)
            return false;
        t = to.dot(l.direction) / slope;
        if (t <= 1e-3f || t >= limit)
            return false;
        const Vec3 q = o + d * t - l.position;
        const float x = q.dot(l.right), y = q.dot(l.up);
        const bool disc = l.shape == Lamp::Shape::Disc;
        if (disc ? x * x + y * y > l.radius * l.radius : std::abs(x) > 0.5f * l.width || std::abs(y) > 0.5f * l.height)
            return false;
        radiance = Vec3(l.glow / (disc ? pi * l.radius * l.radius : l.width * l.height));
        return true;
    }
    if (l.shape == Lamp::Shape::Tube) {
        // Closest approach of the ray and the tube's line.
        const float b = d.dot(l.right), e = to.dot(d), f = to.dot(l.right), det = std::max(1e-6f, 1.f - b * b);
        t = (e - b * f) / det;
        const float s = std::clamp(b * t - f, -0.5f * l.width, 0.5f * l.width);
        t = (to + l.right * s).dot(d);
        if (t <= 1e-3f || t >= limit)
            return false;
        const float widest = std::max(l.radius, 0.7f * footprint * t);
        if ((o + d * t - l.position - l.right * s).length2() > widest * widest)
            return false;
        radiance = Vec3(l.glow / (2.f * l.radius * l.width) * (l.radius / widest));
        return true;
    }
    t = to.dot(d);
    const float widest = std::max(l.radius, 0.7f * footprint * t), across2 = (d * t - to).length2();
    if (t <= 1e-3f || t - l.radius >= limit || across2 > widest * widest)
        return false;
    t = std::max(1e-3f, t - std::sqrt(std::max(0.f, l.radius * l.radius - across2)));
    if (t >= limit)
        return false;
    radiance = Vec3(l.glow / (pi * widest * widest));
    if (l.shape == Lamp::Shape::Spot) {
        // The disc shines along its axis; from beside, its rim still shows faintly.
        const Vec3 away = (o - l.apex()).normalized();
        radiance *= l.edge(away.dot(l.direction)) + 0.002f * std::max(0.f, 0.3f + 0.7f * away.dot(l.direction));
    }
    if (l.profile)
        radiance *= l.profile->relative(-d.dot(l.direction), -d.dot(l.right), -d.dot(l.up));
    return true;
}
} // namespace hygros::light
