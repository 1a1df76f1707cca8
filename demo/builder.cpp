#include "builder.h"

#include <algorithm>
#include <cmath>

namespace hygros::demo {

std::uint32_t Builder::vertex(const Vec3& p, const Vec3& n, const Vec2& uv)
{
    positions.push_back(p);
    normals.push_back(n);
    uvs.push_back(uv);
    return static_cast<std::uint32_t>(positions.size() - 1);
}

void Builder::triangle(std::uint32_t a, std::uint32_t b, std::uint32_t c) { indices.insert(indices.end(), {a, b, c}); }

namespace {
/// Texture coordinates from the plane a face lies in most.
Vec2 planar(const Vec3& p, const Vec3& n, float scale)
{
    const Vec3 a(std::abs(n.x), std::abs(n.y), std::abs(n.z));
    if (a.y >= a.x && a.y >= a.z)
        return Vec2(p.x, p.z) * scale;
    return a.x > a.z ? Vec2(p.z, -p.y) * scale : Vec2(p.x, -p.y) * scale;
}
} // namespace

void Builder::quad(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d)
{
    const Vec3 n = (b - a).cross(d - a).normalized();
    const float s = surface.texturesPerMetre;
    const auto i = vertex(a, n, planar(a, n, s));
    vertex(b, n, planar(b, n, s));
    vertex(c, n, planar(c, n, s));
    vertex(d, n, planar(d, n, s));
    triangle(i, i + 1, i + 2);
    triangle(i, i + 2, i + 3);
}

void Builder::box(const Vec3& centre, const Vec3& size, float bevel, float turn, float tilt)
{
    const float ct = std::cos(turn), st = std::sin(turn), cz = std::cos(tilt), sz = std::sin(tilt);
    const auto place = [&](const Vec3& v) {
        const Vec3 r(v.x * cz - v.y * sz, v.x * sz + v.y * cz, v.z);
        return Vec3(r.x * ct + r.z * st, r.y, -r.x * st + r.z * ct);
    };
    const Vec3 h = size * 0.5f;
    const float b = std::min({bevel, h.x * 0.45f, h.y * 0.45f, h.z * 0.45f});
    const float s = surface.texturesPerMetre;
    const auto face = [&](std::initializer_list<Vec3> corners) {
        std::vector<Vec3> v(corners);
        Vec3 n = (v[1] - v[0]).cross(v[2] - v[0]);
        Vec3 middle(0.f);
        for (const Vec3& q : v)
            middle += q;
        if (n.dot(middle) < 0.f) {
            std::reverse(v.begin(), v.end());
            n = -n;
        }
        n.normalize();
        const Vec3 worldNormal = place(n);
        // Lay the texture along the box's own axes, its longest side along u.
        const auto first = static_cast<std::uint32_t>(positions.size());
        for (const Vec3& q : v) {
            Vec2 uv;
            const Vec3 an(std::abs(n.x), std::abs(n.y), std::abs(n.z));
            if (an.y > 0.7f)
                uv = h.x >= h.z ? Vec2(q.x, q.z) : Vec2(q.z, q.x);
            else if (an.x > an.z)
                uv = h.y > h.z * 2.f ? Vec2(q.y, q.z) : Vec2(q.z, -q.y);
            else
                uv = h.y > h.x * 2.f ? Vec2(q.y, q.x) : Vec2(q.x, -q.y);
            uv += Vec2(centre.x * 0.37f + centre.z * 0.61f, centre.y);
            vertex(centre + place(q), worldNormal, uv * s);
        }
        for (std::uint32_t k = 2; k < v.size(); ++k)
            triangle(first, first + k - 1, first + k);
    };
    for (int axis = 0; axis < 3; ++axis) {
        const int u = (axis + 1) % 3, w = (axis + 2) % 3;
        for (const float side : {-1.f, 1.f}) {
            const auto corner = [&](float su, float sw) {
                Vec3 q;
                q[axis] = side * h[axis];
                q[u] = su * (h[u] - b);
                q[w] = sw * (h[w] - b);
                return q;
            };
            face({corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)});
        }
        // The four chamfers along this axis.
        for (const float su : {-1.f, 1.f})
            for (const float sw : {-1.f, 1.f}) {
                const auto edge = [&](float along, bool onU) {
                    Vec3 q;
                    q[axis] = along * (h[axis] - b);
                    q[u] = su * (onU ? h[u] : h[u] - b);
                    q[w] = sw * (onU ? h[w] - b : h[w]);
                    return q;
                };
                face({edge(-1, true), edge(1, true), edge(1, false), edge(-1, false)});
            }
    }
    for (const float x : {-1.f, 1.f})
        for (const float y : {-1.f, 1.f})
            for (const float z : {-1.f, 1.f})
                face({Vec3(x * h.x, y * (h.y - b), z * (h.z - b)), Vec3(x * (h.x - b), y * h.y, z * (h.z - b)),
                      Vec3(x * (h.x - b), y * (h.y - b), z * h.z)});
}

void Builder::tube(std::span<const Vec3> points, std::span<const float> radii, int sides)
{
    Vec3 tangent, bitangent;
    float along = 0.f;
    std::uint32_t before = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const Vec3 d = (points[std::min(i + 1, points.size() - 1)] - points[i ? i - 1 : 0]).normalized();
        if (i == 0)
            frameAround(d, tangent, bitangent);
        else {
            along += (points[i] - points[i - 1]).length();
            tangent = (tangent - d * tangent.dot(d)).normalized();
            bitangent = d.cross(tangent);
        }
        const auto first = static_cast<std::uint32_t>(positions.size());
        for (int k = 0; k <= sides; ++k) {
            const float a = 2.f * pi * static_cast<float>(k) / static_cast<float>(sides);
            const Vec3 n = tangent * std::cos(a) + bitangent * std::sin(a);
            vertex(points[i] + n * radii[i], n, Vec2(a * std::max(radii[0], 0.02f), -along) * surface.texturesPerMetre);
        }
        if (i > 0)
            for (int k = 0; k < sides; ++k) {
                const auto a = before + static_cast<std::uint32_t>(k), b = first + static_cast<std::uint32_t>(k);
                triangle(a, a + 1, b + 1);
                triangle(a, b + 1, b);
            }
        before = first;
    }
}

void Builder::tube(const Vec3& a, const Vec3& b, float ra, float rb, int sides)
{
    const Vec3 points[2] = {a, b};
    const float radii[2] = {ra, rb};
    tube(points, radii, sides);
}

void Builder::blade(const Vec3& root, const Vec3& tip, float width)
{
    const Vec3 d = (tip - root).normalized();
    Vec3 side = d.cross(Vec3(hash32(static_cast<std::uint32_t>(positions.size())) & 1 ? 1.f : 0.3f, 0.2f, 0.7f))
                    .normalized() *
                (width * 0.5f);
    const Vec3 n = Vec3(0, 1, 0) * 0.7f + side.cross(d).normalized() * 0.3f;
    const auto i = vertex(root - side, n.normalized(), Vec2(0, 0));
    vertex(root + side, n.normalized(), Vec2(0.1f, 0));
    vertex(tip, n.normalized(), Vec2(0.05f, 0.3f));
    triangle(i, i + 1, i + 2);
}

float tiledNoise(float x, float y, int period, std::uint32_t seed)
{
    const float fx = std::floor(x), fy = std::floor(y);
    const auto at = [&](int cx, int cy) {
        const int wx = ((cx % period) + period) % period, wy = ((cy % period) + period) % period;
        return unitFloat(hash32(static_cast<std::uint32_t>(wx), static_cast<std::uint32_t>(wy), seed));
    };
    float u = x - fx, v = y - fy;
    u = u * u * (3 - 2 * u);
    v = v * v * (3 - 2 * v);
    const int ix = static_cast<int>(fx), iy = static_cast<int>(fy);
    const float a = at(ix, iy) + (at(ix + 1, iy) - at(ix, iy)) * u;
    const float b = at(ix, iy + 1) + (at(ix + 1, iy + 1) - at(ix, iy + 1)) * u;
    return a + (b - a) * v;
}

float tiledClouds(float x, float y, int period, std::uint32_t seed)
{
    float sum = 0.f, amplitude = 0.5f;
    for (int o = 0; o < 4; ++o) {
        sum += amplitude * tiledNoise(x, y, period, seed + static_cast<std::uint32_t>(o));
        x *= 2.f;
        y *= 2.f;
        period *= 2;
        amplitude *= 0.5f;
    }
    return sum / 0.9375f;
}

float groundNoise(float x, float y, std::uint32_t seed)
{
    float sum = 0.f, amplitude = 0.5f;
    for (int o = 0; o < 4; ++o) {
        sum += amplitude * (2.f * tiledNoise(x, y, 1 << 20, seed + static_cast<std::uint32_t>(o)) - 1.f);
        x = x * 2.03f + 11.f;
        y = y * 2.03f + 7.f;
        amplitude *= 0.5f;
    }
    return sum;
}
} // namespace hygros::demo
