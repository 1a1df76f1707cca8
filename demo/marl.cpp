#include "marl.h"

#include <algorithm>
#include <cmath>

namespace hygros::demo {
namespace {
Surface surfaceOf(const char* name, Vec3 colour, float roughness, int texture = -1, float perMetre = 0.5f,
                  float metallic = 0.f)
{
    Surface s;
    s.name = name;
    s.colour = colour;
    s.roughness = roughness;
    s.texture = texture;
    s.texturesPerMetre = perMetre;
    s.metallic = metallic;
    return s;
}
} // namespace

Marl::Marl()
{
    const Vec3 white(1.f, 1.f, 1.f);
    ground.surface = surfaceOf("ground", white, 0.95f, pictureGrass, 0.35f);
    path.surface = surfaceOf("towpath", white, 0.9f, pictureGravel, 0.6f);
    water.surface = surfaceOf("water", Vec3(0.012f, 0.018f, 0.014f), 0.03f);
    stone.surface = surfaceOf("stone", white, 0.8f, pictureStone, 0.45f);
    brick.surface = surfaceOf("brick", white, 0.85f, pictureBrick, 1.0f);
    timber.surface = surfaceOf("timber", white, 0.75f, picturePlanks, 0.8f);
    plank.surface = surfaceOf("planks", Vec3(0.9f, 0.88f, 0.8f), 0.8f, picturePlanks, 1.2f);
    iron.surface = surfaceOf("iron", Vec3(0.035f, 0.038f, 0.04f), 0.45f);
    glass.surface = surfaceOf("lantern glass", Vec3(0.55f, 0.58f, 0.58f), 0.25f);
    litGlass.surface = surfaceOf("lit lantern", Vec3(0.9f, 0.7f, 0.45f), 0.4f);
    litGlass.surface.emission = Vec3(2.4f, 0.95f, 0.24f);
    bark.surface = surfaceOf("bark", white, 0.9f, pictureBark, 0.7f);
    twig.surface = surfaceOf("twigs", Vec3(0.060f, 0.048f, 0.038f), 0.9f);
    grass.surface = surfaceOf("grass blades", Vec3(0.105f, 0.105f, 0.040f), 0.7f);
    hull.surface = surfaceOf("hull", Vec3(0.018f, 0.022f, 0.028f), 0.4f);
    cabin.surface = surfaceOf("cabin", Vec3(0.11f, 0.030f, 0.022f), 0.45f);
    roof.surface = surfaceOf("roof", Vec3(0.10f, 0.095f, 0.09f), 0.7f, pictureStone, 1.6f);
    hills.surface = surfaceOf("hills", Vec3(0.060f, 0.065f, 0.040f), 0.95f);
}

std::vector<Builder> Marl::meshes() const
{
    return {ground,   path, water, stone, brick, timber, plank, iron, glass,
            litGlass, bark, twig,  grass, hull,  cabin,  roof,  hills};
}

float groundHeight(float x, float z)
{
    const float near = std::exp(-std::abs(x - 2.5f) / 14.f);
    const float rough = 0.16f * groundNoise(x * 0.21f, z * 0.21f, 5) + 0.05f * groundNoise(x * 1.3f, z * 1.3f, 15);
    const float fields = 1.1f * groundNoise(x * 0.013f, z * 0.013f, 25) * (1.f - near);
    const float distance = std::hypot(x, z);
    const float rise = std::max(0.f, distance - 1200.f);
    // Low hills: ridges that grow between 1.4 and 2.6 km.
    const float ridge = 0.55f + 0.45f * groundNoise(x * 0.0016f, z * 0.0016f, 45) +
                        0.22f * groundNoise(x * 0.006f, z * 0.006f, 55);
    const float hill = std::min(1.f, rise / 1300.f);
    return bankHeight - 0.06f + rough * (1.f - 0.7f * near) + fields +
           150.f * hill * hill * (3.f - 2.f * hill) * std::max(0.f, ridge);
}

void layGround(Marl& m)
{
    // One height field with lines close together near the camera and at the canal's edges.
    std::vector<float> xs, zs;
    for (int i = 0; i <= 96; ++i) {
        const float u = static_cast<float>(i) / 48.f - 1.f;
        xs.push_back(2.5f + (u < 0 ? -1.f : 1.f) * (std::abs(u) * 24.f + 3200.f * std::pow(std::abs(u), 5.f)));
    }
    for (const float edge : {-3.9f, -3.0f, -2.55f, -2.0f, 7.0f, 7.55f, 8.0f, 8.9f})
        xs.push_back(edge);
    std::sort(xs.begin(), xs.end());
    for (int i = 0; i <= 170; ++i) {
        const float u = static_cast<float>(i) / 170.f;
        zs.push_back(40.f - 130.f * u - 3400.f * std::pow(u, 4.f));
    }
    std::vector<Vec3> points;
    for (const float z : zs)
        for (const float x : xs) {
            float y = groundHeight(x, z);
            const float length = z > -1100.f ? 1.f : std::max(0.f, 1.f - (-1100.f - z) / 100.f);
            if (x > -2.3f && x < 7.3f)
                y = std::min(y, bankHeight - 2.3f * length);
            else if ((x > -2.8f && x < 7.8f))
                y = std::min(y, bankHeight - 0.52f * length);
            points.emplace_back(x, y, z);
        }
    const std::size_t w = xs.size();
    const auto normalAt = [&](std::size_t i, std::size_t j) {
        const auto p = [&](std::size_t a, std::size_t b) { return points[b * w + a]; };
        const Vec3 dx = p(std::min(i + 1, w - 1), j) - p(i ? i - 1 : 0, j);
        const Vec3 dz = p(i, std::min(j + 1, zs.size() - 1)) - p(i, j ? j - 1 : 0);
        Vec3 n = dx.cross(dz);
        return n.y < 0.f ? (-n).normalized() : n.normalized();
    };
    for (std::size_t j = 0; j + 1 < zs.size(); ++j)
        for (std::size_t i = 0; i + 1 < w; ++i) {
            // Under the lock's masonry nothing is needed.
            const Vec3 middle = (points[j * w + i] + points[(j + 1) * w + i + 1]) * 0.5f;
            const bool far = std::hypot(middle.x, middle.z) > 900.f;
            Builder& b = far ? m.hills : m.ground;
            const auto put = [&](std::size_t a, std::size_t c) {
                const Vec3& p = points[c * w + a];
                return b.vertex(p, normalAt(a, c), Vec2(p.x, p.z) * b.surface.texturesPerMetre);
            };
            const auto a = put(i, j), bb = put(i + 1, j), c = put(i + 1, j + 1), d = put(i, j + 1);
            b.triangle(a, bb, c);
            b.triangle(a, c, d);
        }
    // The towpath: a worn strip a little above the grass, crowned and uneven.
    constexpr int rows = 260, columns = 6;
    const auto pathAt = [](int column, int row) {
        const float z = 20.f - 0.0032f * static_cast<float>(row * row) - static_cast<float>(row) * 0.9f;
        const float x = -6.1f + 0.45f * static_cast<float>(column) +
                        0.15f * groundNoise(z * 0.2f, static_cast<float>(column), 3);
        const float crown = 0.05f * (1.f - std::abs(static_cast<float>(column) - 3.f) / 3.f);
        return Vec3(x,
                    std::max(groundHeight(x, z) + 0.012f, bankHeight - 0.05f) + crown +
                        0.015f * groundNoise(x * 3.f, z * 3.f, 8),
                    z);
    };
    // Round between its corners: a wet one mirrors, and would show every face.
    for (int row = 0; row <= rows; ++row)
        for (int k = 0; k <= columns; ++k) {
            const Vec3 p = pathAt(k, row),
                       across = pathAt(std::min(k + 1, columns), row) - pathAt(std::max(k - 1, 0), row),
                       along = pathAt(k, std::min(row + 1, rows)) - pathAt(k, std::max(row - 1, 0));
            const auto v = m.path.vertex(p, across.cross(along).normalized(),
                                         Vec2(p.x, p.z) * m.path.surface.texturesPerMetre);
            if (row == 0 || k == 0)
                continue;
            const auto before = v - static_cast<std::uint32_t>(columns + 1);
            m.path.triangle(before - 1, before, v);
            m.path.triangle(before - 1, v, v - 1);
        }
    // Still water with the slightest swell in its normals.
    const auto waterNormal = [](float x, float z) {
        const float s = 0.004f;
        return Vec3(s * groundNoise(x * 0.9f, z * 0.55f, 31), 1.f, s * groundNoise(x * 0.9f, z * 0.55f, 37))
            .normalized();
    };
    for (int i = 0; i < 150; ++i)
        for (int k = 0; k < 8; ++k) {
            const auto zAt = [](int n) {
                return 12.f - 0.6f * static_cast<float>(n) - 0.046f * static_cast<float>(n * n);
            };
            const auto xAt = [](int n) {
                return canalLeft - 0.35f + static_cast<float>(n) * (canalRight - canalLeft + 0.7f) / 8.f;
            };
            const auto put = [&](float x, float z) {
                return m.water.vertex(Vec3(x, 0.f, z), waterNormal(x, z), Vec2(x, z));
            };
            const auto a = put(xAt(k), zAt(i)), b = put(xAt(k + 1), zAt(i)), c = put(xAt(k + 1), zAt(i + 1)),
                       d = put(xAt(k), zAt(i + 1));
            m.water.triangle(a, b, c);
            m.water.triangle(a, c, d);
        }
}

void buildLock(Marl& m)
{
    Random random(7);
    // Walls of dressed stone with a coping of separate slabs, from behind the camera to past the far gates.
    for (const float side : {-1.f, 1.f}) {
        const float face = side < 0 ? canalLeft : canalRight;
        m.stone.box(Vec3(face + side * 0.5f, -0.9f, -12.f), Vec3(1.f, 2.6f, 56.f), 0.02f);
        for (float z = 15.f; z > -40.f;) {
            const float length = random.range(1.1f, 1.7f);
            m.stone.box(Vec3(face + side * (0.42f + random.range(-0.012f, 0.012f)),
                             bankHeight - 0.06f + random.range(-0.008f, 0.008f), z - length * 0.5f),
                        Vec3(0.94f, 0.26f, length - 0.018f), 0.025f, random.range(-0.006f, 0.006f));
            z -= length;
        }
        // Mooring posts of iron.
        for (const float z : {-2.f, -14.f, -20.5f, -27.f}) {
            const Vec3 foot(face + side * 0.45f, bankHeight + 0.05f, z);
            const Vec3 points[4] = {foot, foot + Vec3(0, 0.34f, 0), foot + Vec3(0, 0.36f, 0), foot + Vec3(0, 0.46f, 0)};
            const float radii[4] = {0.11f, 0.085f, 0.125f, 0.07f};
            m.iron.tube(points, radii, 14);
            m.iron.tube(points[3], points[3] + Vec3(0, 0.012f, 0), 0.07f, 0.001f, 14);
        }
    }
    // Two pairs of gates. A leaf is a frame of heavy timbers with planking, a balance beam and a walkway.
    const auto leaf = [&](float hingeX, float hingeZ, float side, float open) {
        const float width = 5.35f, angle = open;
        const Vec3 hinge(hingeX, 0.f, hingeZ);
        const Vec3 along(-side * std::cos(angle), 0.f, -std::sin(angle)), across(-along.z, 0.f, along.x);
        const float turn = std::atan2(-along.z, along.x);
        const auto at = [&](float a, float y, float c = 0.f) { return hinge + along * a + across * c + Vec3(0, y, 0); };
        m.timber.box(at(0.16f, -0.15f), Vec3(0.34f, 2.6f, 0.34f), 0.025f, turn);
        m.timber.box(at(width - 0.16f, -0.2f), Vec3(0.32f, 2.5f, 0.32f), 0.025f, turn);
        for (const float y : {0.92f, 0.30f, -0.35f})
            m.timber.box(at(width * 0.5f, y), Vec3(width - 0.6f, 0.26f, 0.28f), 0.02f, turn);
        for (int i = 0; i < 16; ++i)
            m.plank.box(at(0.46f + 0.298f * static_cast<float>(i), -0.08f + random.range(-0.012f, 0.012f), 0.17f),
                        Vec3(0.288f, 2.0f, 0.055f), 0.008f, turn);
        // Balance beam: over the bank, thicker and a little higher at its end.
        const float tilt = 0.02f;
        m.timber.box(at(0.2f, 1.20f), Vec3(4.9f, 0.36f, 0.34f), 0.03f, turn, 0.f);
        m.timber.box(at(-3.3f, 1.24f + tilt), Vec3(2.6f, 0.44f, 0.42f), 0.035f, turn);
        for (const float a : {-4.2f, -2.2f})
            m.iron.box(at(a, 1.24f), Vec3(0.07f, 0.47f, 0.45f), 0.005f, turn);
        // Walkway on brackets, with a handrail.
        for (int k = 0; k < 3; ++k)
            m.plank.box(at(width * 0.5f + 0.3f, 0.78f, -0.30f - 0.17f * static_cast<float>(k)),
                        Vec3(width - 0.4f, 0.045f, 0.155f), 0.008f, turn);
        for (const float a : {0.7f, 2.6f, 4.6f}) {
            m.iron.tube(at(a, 0.75f, -0.62f), at(a, 1.82f, -0.62f), 0.022f, 0.020f, 8);
            m.timber.box(at(a, 0.70f, -0.38f), Vec3(0.09f, 0.1f, 0.5f), 0.01f, turn);
        }
        m.iron.tube(at(0.6f, 1.82f, -0.62f), at(4.7f, 1.82f, -0.62f), 0.024f, 0.024f, 8);
        m.iron.tube(at(0.6f, 1.35f, -0.62f), at(4.7f, 1.35f, -0.62f), 0.015f, 0.015f, 8);
        // Paddle gear.
        m.iron.box(at(3.4f, 1.25f, 0.18f), Vec3(0.14f, 0.9f, 0.12f), 0.01f, turn);
        m.iron.tube(at(3.4f, 1.62f, 0.05f), at(3.4f, 1.62f, 0.34f), 0.09f, 0.09f, 14);
    };
    leaf(canalLeft - 0.05f, chamberNear, -1.f, radians(62));
    leaf(canalRight + 0.05f, chamberNear, 1.f, radians(58));
    leaf(canalLeft - 0.05f, chamberFar, -1.f, radians(24));
    leaf(canalRight + 0.05f, chamberFar, 1.f, radians(76));
    // Rubbing strakes along the near walls.
    for (const float side : {-1.f, 1.f})
        for (const float y : {0.18f})
            m.timber.box(Vec3((side < 0 ? canalLeft + 0.05f : canalRight - 0.05f), y, -20.5f), Vec3(0.12f, 0.16f, 24.f),
                         0.015f);
}

void buildHut(Marl& m)
{
    Random random(17);
    const Vec3 o(-10.5f, bankHeight - 0.05f, -31.f);
    m.stone.box(o + Vec3(0, 0.12f, 0), Vec3(4.5f, 0.35f, 5.7f), 0.02f);
    m.brick.box(o + Vec3(0, 1.45f, 0), Vec3(4.2f, 2.6f, 5.4f), 0.015f);
    // Gables and a slate roof of courses.
    const float eaves = o.y + 2.72f, ridge = o.y + 4.35f;
    for (const float z : {o.z - 2.7f, o.z + 2.7f}) {
        const Vec3 a(o.x - 2.1f, eaves, z), b(o.x + 2.1f, eaves, z), c(o.x, ridge - 0.05f, z);
        const Vec3 n(0, 0, z > o.z ? 1.f : -1.f);
        const auto i = m.brick.vertex(a, n, Vec2(a.x, -a.y));
        m.brick.vertex(b, n, Vec2(b.x, -b.y));
        m.brick.vertex(c, n, Vec2(c.x, -c.y));
        m.brick.triangle(i, i + 1, i + 2);
    }
    for (const float side : {-1.f, 1.f})
        for (int row = 0; row < 9; ++row)
            for (int k = 0; k < 18; ++k) {
                const float u = (static_cast<float>(row) + 0.5f) / 9.f;
                const float slope = std::atan2(ridge - eaves, 2.4f);
                const Vec3 p(o.x + side * (2.4f * (1.f - u)), eaves - 0.16f + (ridge - eaves + 0.16f) * u + 0.03f,
                             o.z - 2.97f + 0.33f * (static_cast<float>(k) + (row % 2 ? 0.5f : 0.f)));
                m.roof.box(p + Vec3(0, random.range(-0.006f, 0.006f), 0), Vec3(0.40f, 0.022f, 0.325f), 0.004f, 0.f,
                           side < 0 ? slope : -slope);
            }
    m.brick.box(Vec3(o.x + 0.3f, ridge + 0.35f, o.z - 1.6f), Vec3(0.62f, 1.7f, 0.62f), 0.012f);
    m.stone.box(Vec3(o.x + 0.3f, ridge + 1.22f, o.z - 1.6f), Vec3(0.78f, 0.1f, 0.78f), 0.02f);
    m.brick.tube(Vec3(o.x + 0.3f, ridge + 1.25f, o.z - 1.6f), Vec3(o.x + 0.3f, ridge + 1.62f, o.z - 1.6f), 0.13f, 0.11f,
                 12);
    // Door and windows toward the canal and the camera.
    m.plank.box(Vec3(o.x + 2.11f, o.y + 1.15f, o.z + 1.2f), Vec3(0.06f, 1.95f, 0.9f), 0.01f);
    const auto window = [&](const Vec3& c, bool facesZ) {
        const Vec3 pane = facesZ ? Vec3(0.8f, 0.95f, 0.03f) : Vec3(0.03f, 0.95f, 0.8f);
        m.glass.box(c, pane, 0.004f);
        for (const float s : {-1.f, 0.f, 1.f}) {
            m.plank.box(c + (facesZ ? Vec3(s * 0.4f, 0, 0.02f) : Vec3(0.02f, 0, s * 0.4f)), Vec3(0.06f, 1.05f, 0.06f),
                        0.006f);
            m.plank.box(c + (facesZ ? Vec3(0, s * 0.48f, 0.02f) : Vec3(0.02f, s * 0.48f, 0)),
                        facesZ ? Vec3(0.9f, 0.06f, 0.06f) : Vec3(0.06f, 0.06f, 0.9f), 0.006f);
        }
        m.stone.box(c + (facesZ ? Vec3(0, -0.58f, 0.05f) : Vec3(0.05f, -0.58f, 0)),
                    facesZ ? Vec3(1.1f, 0.1f, 0.16f) : Vec3(0.16f, 0.1f, 1.1f), 0.01f);
    };
    window(Vec3(o.x + 2.11f, o.y + 1.5f, o.z - 1.0f), false);
    window(Vec3(o.x + 0.5f, o.y + 1.5f, o.z + 2.71f), true);
}

void buildBoat(Marl& m)
{
    const float x0 = 4.7f, z0 = -25.5f, length = 13.5f, half = 1.03f;
    // Hull sections from stern to bow; the bow narrows and rises.
    const int sections = 28;
    std::vector<Vec3> left, right, leftLow, rightLow;
    for (int i = 0; i <= sections; ++i) {
        const float u = static_cast<float>(i) / sections;
        const float taper = u > 0.84f ? std::sqrt(std::max(0.f, 1.f - std::pow((u - 0.84f) / 0.16f, 2.f)))
                                      : (u < 0.06f ? 0.75f + 0.25f * u / 0.06f : 1.f);
        const float top = 0.62f + 0.34f * std::pow(std::max(0.f, (u - 0.72f) / 0.28f), 2.f) +
                          0.08f * std::max(0.f, 0.2f - u) * 5.f;
        const float z = z0 - length * u;
        left.emplace_back(x0 - half * taper, top, z);
        right.emplace_back(x0 + half * taper, top, z);
        leftLow.emplace_back(x0 - half * 0.9f * taper, -0.35f, z);
        rightLow.emplace_back(x0 + half * 0.9f * taper, -0.35f, z);
    }
    for (std::size_t i = 0; i < sections; ++i) {
        m.hull.quad(leftLow[i], left[i], left[i + 1], leftLow[i + 1]);
        m.hull.quad(right[i], rightLow[i], rightLow[i + 1], right[i + 1]);
        m.plank.quad(left[i] + Vec3(0, -0.12f, 0), right[i] + Vec3(0, -0.12f, 0), right[i + 1] + Vec3(0, -0.12f, 0),
                     left[i + 1] + Vec3(0, -0.12f, 0));
    }
    m.hull.quad(right[0], left[0], leftLow[0], rightLow[0]);
    m.timber.tube(left, std::vector<float>(left.size(), 0.045f), 8);
    m.timber.tube(right, std::vector<float>(right.size(), 0.045f), 8);
    // Cabin with a cambered roof, panels, portholes, chimney; tiller at the stern.
    const float c0 = z0 - 1.9f, c1 = z0 - 9.4f, cm = (c0 + c1) * 0.5f, cl = c0 - c1;
    m.cabin.box(Vec3(x0, 0.95f, cm), Vec3(1.78f, 1.05f, cl), 0.03f);
    for (int k = 0; k < 8; ++k) {
        const auto arc = [&](int n) {
            const float a = static_cast<float>(n) / 4.f - 1.f;
            return Vec3(x0 + a * 0.98f, 1.50f + 0.10f * (1.f - a * a), 0.f);
        };
        const Vec3 a = arc(k), b = arc(k + 1);
        m.hull.quad(Vec3(a.x, a.y, c0 + 0.12f), Vec3(b.x, b.y, c0 + 0.12f), Vec3(b.x, b.y, c1 - 0.12f),
                    Vec3(a.x, a.y, c1 - 0.12f));
    }
    for (const float side : {-1.f, 1.f}) {
        m.timber.box(Vec3(x0 + side * 0.97f, 1.49f, cm), Vec3(0.06f, 0.07f, cl + 0.24f), 0.015f);
        for (int k = 0; k < 5; ++k) {
            const float z = c0 - 0.8f - 1.45f * static_cast<float>(k);
            m.cabin.box(Vec3(x0 + side * 0.895f, 0.95f, z), Vec3(0.03f, 0.72f, 1.22f), 0.01f);
            m.glass.tube(Vec3(x0 + side * 0.905f, 1.08f, z), Vec3(x0 + side * 0.925f, 1.08f, z), 0.15f, 0.15f, 18);
            m.glass.tube(Vec3(x0 + side * 0.925f, 1.08f, z), Vec3(x0 + side * 0.926f, 1.08f, z), 0.15f, 0.001f, 18);
            m.iron.tube(Vec3(x0 + side * 0.90f, 1.08f, z), Vec3(x0 + side * 0.94f, 1.08f, z), 0.185f, 0.175f, 18);
        }
    }
    m.iron.tube(Vec3(x0 - 0.45f, 1.55f, c0 - 0.9f), Vec3(x0 - 0.45f, 2.15f, c0 - 0.9f), 0.075f, 0.07f, 12);
    m.iron.tube(Vec3(x0 - 0.45f, 2.13f, c0 - 0.9f), Vec3(x0 - 0.45f, 2.19f, c0 - 0.9f), 0.10f, 0.09f, 12);
    const Vec3 tiller[3] = {Vec3(x0, 0.5f, z0 + 0.25f), Vec3(x0, 1.25f, z0 + 0.1f), Vec3(x0, 1.45f, z0 - 0.9f)};
    const float radii[3] = {0.05f, 0.04f, 0.025f};
    m.timber.tube(tiller, radii, 8);
    for (int k = 0; k < 4; ++k) // what lies on the roof
        m.plank.box(
            Vec3(x0 + 0.25f + 0.1f * static_cast<float>(k % 2), 1.63f + 0.05f * static_cast<float>(k), cm - 1.4f),
            Vec3(0.18f, 0.045f, 3.4f), 0.008f, 0.02f * static_cast<float>(k));
}

void buildTender(Marl& m)
{
    // An open work boat, 4.4 m long, with a lamp mast: its own file, the water line at y = 0, bow toward −Z.
    const float length = 4.4f, half = 0.72f;
    const int sections = 20;
    std::vector<Vec3> left, right, leftLow, rightLow;
    for (int i = 0; i <= sections; ++i) {
        const float u = static_cast<float>(i) / sections, z = 0.5f * length - length * u;
        const float taper = u > 0.55f ? std::sqrt(std::max(0.f, 1.f - std::pow((u - 0.55f) / 0.45f, 2.2f)))
                                      : 0.86f + 0.14f * u / 0.55f;
        const float top = 0.42f + 0.22f * u * u;
        left.emplace_back(-half * taper, top, z);
        right.emplace_back(half * taper, top, z);
        leftLow.emplace_back(-half * 0.72f * taper, -0.18f, z + 0.05f);
        rightLow.emplace_back(half * 0.72f * taper, -0.18f, z + 0.05f);
    }
    for (std::size_t i = 0; i < sections; ++i) {
        m.hull.quad(leftLow[i], left[i], left[i + 1], leftLow[i + 1]);
        m.hull.quad(right[i], rightLow[i], rightLow[i + 1], right[i + 1]);
        m.hull.quad(rightLow[i], leftLow[i], leftLow[i + 1], rightLow[i + 1]); // its bottom, under water
        m.plank.quad(leftLow[i] + Vec3(0.02f, 0.22f, 0), rightLow[i] + Vec3(-0.02f, 0.22f, 0),
                     rightLow[i + 1] + Vec3(-0.02f, 0.22f, 0), leftLow[i + 1] + Vec3(0.02f, 0.22f, 0));
        m.plank.quad(left[i] + Vec3(0.05f, 0, 0), leftLow[i] + Vec3(0.05f, 0.2f, 0),
                     leftLow[i + 1] + Vec3(0.05f, 0.2f, 0), left[i + 1] + Vec3(0.05f, 0, 0));
        m.plank.quad(rightLow[i] + Vec3(-0.05f, 0.2f, 0), right[i] + Vec3(-0.05f, 0, 0),
                     right[i + 1] + Vec3(-0.05f, 0, 0), rightLow[i + 1] + Vec3(-0.05f, 0.2f, 0));
    }
    m.hull.quad(right[0], left[0], leftLow[0], rightLow[0]);
    m.timber.tube(left, std::vector<float>(left.size(), 0.032f), 8);
    m.timber.tube(right, std::vector<float>(right.size(), 0.032f), 8);
    for (const float z : {1.1f, 0.1f, -0.9f})
        m.plank.box(Vec3(0, 0.34f, z), Vec3(1.3f, 0.045f, 0.26f), 0.01f);
    // The mast with a ring and a small roof over the lamp.
    m.timber.tube(Vec3(0, 0.05f, -0.9f), Vec3(0, 2.55f, -0.9f), 0.045f, 0.032f, 10);
    m.iron.tube(Vec3(0, 2.5f, -0.9f), Vec3(0, 2.56f, -0.9f), 0.11f, 0.11f, 14);
    for (int k = 0; k < 3; ++k) {
        const float a = 2.f * pi * (static_cast<float>(k) + 0.5f) / 3.f;
        const Vec3 foot(0.1f * std::cos(a), 2.55f, -0.9f + 0.1f * std::sin(a));
        m.iron.tube(foot, foot + Vec3(0, 0.26f, 0), 0.008f, 0.008f, 6);
    }
    m.iron.tube(Vec3(0, 2.81f, -0.9f), Vec3(0, 2.9f, -0.9f), 0.15f, 0.02f, 14);
    // Coil of rope, a box of tools, an oar.
    for (int k = 0; k < 3; ++k) {
        std::vector<Vec3> ring;
        for (int i = 0; i <= 20; ++i) {
            const float a = 2.f * pi * static_cast<float>(i) / 20.f;
            ring.emplace_back(0.28f + 0.17f * std::cos(a), 0.1f + 0.035f * static_cast<float>(k),
                              0.6f + 0.17f * std::sin(a));
        }
        m.timber.tube(ring, std::vector<float>(ring.size(), 0.02f), 6);
    }
    m.plank.box(Vec3(-0.25f, 0.2f, 0.6f), Vec3(0.4f, 0.28f, 0.5f), 0.015f, 0.2f);
    m.timber.tube(Vec3(0.45f, 0.42f, 1.6f), Vec3(0.3f, 0.5f, -1.2f), 0.022f, 0.022f, 8);
}

void buildBridge(Marl& m)
{
    // A brick arch over canal and towpath.
    const float z0 = -128.f, z1 = -131.4f, x0 = -8.f, x1 = 10.f, rise = 3.3f, spring = 0.5f;
    const int n = 40;
    const auto under = [&](int i) {
        const float u = static_cast<float>(i) / n, x = x0 + (x1 - x0) * u;
        return Vec3(x, spring + rise * std::sqrt(std::max(0.f, 1.f - std::pow(2.f * u - 1.f, 2.f))), 0.f);
    };
    const auto deck = [&](float x) { return 4.75f - 1.5f * std::pow((x - 1.f) / 16.f, 2.f); };
    for (int i = 0; i < n; ++i) {
        const Vec3 a = under(i), b = under(i + 1);
        m.brick.quad(Vec3(a.x, a.y, z1), Vec3(b.x, b.y, z1), Vec3(b.x, b.y, z0), Vec3(a.x, a.y, z0));
        for (const auto& [z, out] : {std::pair(z0, 1.f), std::pair(z1, -1.f)}) {
            const Vec3 p(a.x, a.y, z), q(b.x, b.y, z), r(b.x, deck(b.x) + 0.85f, z), s(a.x, deck(a.x) + 0.85f, z);
            if (out > 0)
                m.brick.quad(p, q, r, s);
            else
                m.brick.quad(q, p, s, r);
            // A ring of stone round the arch.
            const Vec3 middle = (a + b) * 0.5f;
            const float tilt = std::atan2(b.y - a.y, b.x - a.x);
            m.stone.box(Vec3(middle.x, middle.y, z + out * 0.03f) + Vec3(-std::sin(tilt), std::cos(tilt), 0) * 0.2f,
                        Vec3((b - a).length() - 0.012f, 0.42f, 0.1f), 0.012f, 0.f, tilt);
        }
    }
    for (const float side : {-1.f, 1.f}) {
        const float edge = side < 0 ? x0 : x1;
        // Abutments and the walls that follow the ramp down.
        for (int k = 0; k < 8; ++k) {
            const float x = edge + side * (0.75f + 1.5f * static_cast<float>(k));
            const float top = deck(x) + 0.85f - 0.14f * static_cast<float>(k);
            for (const float z : {z0 - 0.16f, z1 + 0.16f})
                m.brick.box(Vec3(x, top * 0.5f, z), Vec3(1.52f, top, 0.34f), 0.008f);
            m.ground.box(Vec3(x, (top - 0.9f) * 0.5f, (z0 + z1) * 0.5f), Vec3(1.52f, top - 0.9f, 2.8f), 0.02f);
        }
    }
    for (int i = 0; i < 34; ++i) { // coping of the parapets
        const float x = -19.f + 1.18f * static_cast<float>(i);
        if (x < x0 - 1.f || x > x1 + 1.f)
            continue;
        for (const float z : {z0 - 0.1f, z1 + 0.1f})
            m.stone.box(Vec3(x, deck(x) + 0.9f, z), Vec3(1.16f, 0.13f, 0.42f), 0.02f, 0.f,
                        std::atan(-2.f * 1.5f * (x - 1.f) / 256.f));
    }
}

void raiseLampPosts(Marl& m)
{
    for (int i = 0; i < 20; ++i) {
        const float z = -10.f - 20.f * static_cast<float>(i), x = -4.15f;
        const Vec3 o(x, groundHeight(x, z) - 0.05f, z);
        const int sides = i < 4 ? 14 : 8;
        const auto up = [&](float h) { return o + Vec3(0, h, 0); };
        const Vec3 points[10] = {up(0),    up(0.5f),  up(0.52f), up(0.62f), up(0.66f),
                                 up(1.1f), up(1.14f), up(1.2f),  up(3.1f),  up(3.62f)};
        const float radii[10] = {0.125f, 0.115f, 0.14f, 0.14f, 0.085f, 0.07f, 0.095f, 0.06f, 0.045f, 0.04f};
        m.iron.tube(points, radii, sides);
        if (i > 0) // ladder bar; the nearest post has lost its own
            m.iron.tube(up(3.12f) + Vec3(-0.32f, 0, 0), up(3.12f) + Vec3(0.32f, 0, 0), 0.018f, 0.018f, 6);
        m.iron.tube(up(3.6f), up(3.68f), 0.04f, 0.16f, sides);
        // Lantern: four tapered panes, corner bars, a hipped cap with a finial.
        Builder& panes = i == 0 ? m.litGlass : m.glass;
        const auto corner = [&](int k, float h, float r) {
            const float a = pi * (0.25f + 0.5f * static_cast<float>(k));
            return up(h) + Vec3(std::cos(a) * r, 0, std::sin(a) * r);
        };
        for (int k = 0; k < 4; ++k) {
            panes.quad(corner(k + 1, 3.69f, 0.155f), corner(k, 3.69f, 0.155f), corner(k, 4.12f, 0.235f),
                       corner(k + 1, 4.12f, 0.235f));
            m.iron.tube(corner(k, 3.68f, 0.165f), corner(k, 4.13f, 0.245f), 0.012f, 0.012f, 5);
            m.iron.quad(corner(k + 1, 4.13f, 0.29f), corner(k, 4.13f, 0.29f), corner(k, 4.32f, 0.08f),
                        corner(k + 1, 4.32f, 0.08f));
            m.iron.quad(corner(k, 4.13f, 0.29f), corner(k + 1, 4.13f, 0.29f), corner(k + 1, 4.12f, 0.2f),
                        corner(k, 4.12f, 0.2f));
        }
        const Vec3 cap[4] = {up(4.31f), up(4.38f), up(4.42f), up(4.52f)};
        const float capRadii[4] = {0.085f, 0.06f, 0.045f, 0.004f};
        m.iron.tube(cap, capRadii, sides);
    }
}

namespace {
/// A bare columnar poplar: a trunk, steep branches that part twice; fewer parts with distance.
void poplar(Marl& m, const Vec3& root, float height, int detail, Random& random)
{
    std::vector<Vec3> trunk;
    std::vector<float> radii;
    Vec3 p = root - Vec3(0, 0.3f, 0);
    const int pieces = detail == 0 ? 12 : detail == 1 ? 8 : 5;
    const float step = height / static_cast<float>(pieces), thick = 0.011f * height;
    for (int i = 0; i <= pieces; ++i) {
        const float u = static_cast<float>(i) / static_cast<float>(pieces);
        trunk.push_back(p);
        radii.push_back(thick * (1.f - u) + 0.015f + (i == 0 ? thick * 0.6f : 0.f));
        p += Vec3(random.range(-0.06f, 0.06f) * step, step, random.range(-0.06f, 0.06f) * step);
    }
    m.bark.tube(trunk, radii, detail == 0 ? 9 : detail == 1 ? 6 : 4);
    const auto trunkAt = [&](float u) {
        const float f = u * static_cast<float>(pieces);
        const auto i = std::min(static_cast<std::size_t>(f), static_cast<std::size_t>(pieces - 1));
        return lerp(trunk[i], trunk[i + 1], f - static_cast<float>(i));
    };
    const int limbs = detail == 0 ? 52 : detail == 1 ? 34 : 22;
    for (int i = 0; i < limbs; ++i) {
        const float u = 0.10f +
                        0.87f * std::pow((static_cast<float>(i) + random.next()) / static_cast<float>(limbs), 0.92f);
        const float a = 2.39996f * static_cast<float>(i) + random.range(-0.5f, 0.5f);
        const Vec3 from = trunkAt(u);
        // Columnar habit: steep, shorter toward the top and at the very bottom.
        const float length = height * (0.05f + 0.19f * std::pow(1.f - u, 0.7f) * std::min(1.f, u * 5.f)) *
                             random.range(0.75f, 1.25f);
        const float lean = random.range(0.36f, 0.62f);
        Vec3 d(std::cos(a) * lean, 1.f, std::sin(a) * lean);
        d.normalize();
        const Vec3 mid = from + d * (length * 0.5f);
        const Vec3 end = mid + (d + Vec3(0, 0.45f, 0)).normalized() * (length * 0.5f);
        const float r = 0.0042f * height * (1.f - u) + 0.014f;
        const Vec3 points[3] = {from, mid, end};
        const float rr[3] = {r, r * 0.6f, 0.006f};
        (detail == 2 ? m.twig : m.bark).tube(points, rr, detail == 0 ? 5 : 3);
        const int shoots = detail == 0 ? 7 : detail == 1 ? 4 : 2;
        for (int k = 0; k < shoots; ++k) {
            const float v = 0.25f + 0.7f * (static_cast<float>(k) + random.next()) / static_cast<float>(shoots);
            const Vec3 base = v < 0.5f ? lerp(from, mid, v * 2.f) : lerp(mid, end, v * 2.f - 1.f);
            const float b = random.range(0.f, 2.f * pi);
            const Vec3 e(d.x * 0.6f + std::cos(b) * 0.42f, 0.9f, d.z * 0.6f + std::sin(b) * 0.42f);
            const float l = length * random.range(0.25f, 0.5f) * (1.2f - v);
            const Vec3 tip = base + e.normalized() * l;
            if (detail == 0)
                m.twig.tube(base, tip, 0.012f, 0.004f, 3);
            else
                m.twig.blade(base, tip, detail == 1 ? 0.024f : 0.05f);
            const int fine = detail == 0 ? 5 : detail == 1 ? 2 : 0;
            for (int t = 0; t < fine; ++t) {
                const Vec3 s = lerp(base, tip, random.range(0.2f, 0.95f));
                const Vec3 q(random.range(-0.5f, 0.5f), random.range(0.5f, 1.f), random.range(-0.5f, 0.5f));
                m.twig.blade(s, s + (e.normalized() + q).normalized() * random.range(0.3f, 0.75f), 0.011f);
            }
        }
    }
}
} // namespace

void plantPoplars(Marl& m)
{
    Random random(29);
    for (int i = 0; i < 50; ++i) {
        const float z = -14.f - 8.f * static_cast<float>(i);
        for (const float x : {-9.0f, 12.5f}) {
            if (x < 0.f && z < -26.f && z > -36.f)
                continue; // the hut stands here
            const float px = x + random.range(-0.35f, 0.35f), pz = z + random.range(-0.7f, 0.7f);
            const int detail = i < 8 ? 0 : i < 20 ? 1 : 2;
            poplar(m, Vec3(px, groundHeight(px, pz), pz), random.range(15.5f, 19.5f), detail, random);
        }
    }
}

void sowGrass(Marl& m)
{
    Random random(43);
    const auto tuft = [&](float x, float z, float y, int blades, float tall) {
        for (int k = 0; k < blades; ++k) {
            const Vec3 root(x + random.range(-0.09f, 0.09f), y - 0.02f, z + random.range(-0.09f, 0.09f));
            const float h = tall * random.range(0.5f, 1.2f);
            m.grass.blade(root, root + Vec3(random.range(-0.4f, 0.4f) * h, h, random.range(-0.4f, 0.4f) * h),
                          0.010f + 0.006f * tall);
        }
    };
    for (int i = 0; i < 2600; ++i) { // along the path and the banks, thinning with distance
        const float z = 3.f - 75.f * random.next() * random.next();
        const bool left = random.next() < 0.72f;
        const float x = left ? (random.next() < 0.5f ? random.range(-3.35f, -2.95f) : random.range(-10.f, -6.1f))
                             : random.range(8.5f, 13.f);
        tuft(x, z, std::max(groundHeight(x, z), bankHeight - 0.1f), 9, random.range(0.10f, 0.34f));
    }
    for (int i = 0; i < 700; ++i) { // reeds past the lock
        const float z = -42.f - 150.f * std::pow(random.next(), 1.5f);
        const float x = random.next() < 0.5f ? canalLeft + random.range(-0.3f, 0.25f)
                                             : canalRight + random.range(-0.25f, 0.3f);
        tuft(x, z, -0.05f, 6, random.range(0.7f, 1.5f));
    }
}
} // namespace hygros::demo
