#include "elements/volume_shape.h"

#include "base/parallel.h"
#include "base/units.h"
#include "media/inside.h"
#include "scene/parameter.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
/// Metres under the surface of a plain body whose foot stands in the origin; 0 outside.
F8 depthIn(ShapeSource::Body body, const Vec3& size, F8 x, F8 y, F8 z)
{
    const Vec3 half = size * 0.5f;
    y = y - half.y;
    if (body == ShapeSource::Body::Box)
        return max8(f8(0.f), min8(half.x - abs8(x), min8(half.y - abs8(y), half.z - abs8(z))));
    const F8 u = x * (1.f / half.x), w = z * (1.f / half.z);
    if (body == ShapeSource::Body::Cylinder)
        return max8(f8(0.f), min8((1.f - sqrt8(u * u + w * w)) * std::min(half.x, half.z), half.y - abs8(y)));
    const F8 v = y * (1.f / half.y);
    return max8(f8(0.f), (1.f - sqrt8(u * u + v * v + w * w)) * std::min({half.x, half.y, half.z}));
}
/// A curve as 65 values.
std::vector<float> tableOf(const std::vector<Vec2>& curve)
{
    std::vector<float> out;
    for (int i = 0; i <= 64 && curve.size() > 1; ++i) {
        const float x = static_cast<float>(i) / 64.f;
        std::size_t k = 0;
        while (k + 2 < curve.size() && x > curve[k + 1].x)
            ++k;
        const float u = std::clamp((x - curve[k].x) / std::max(1e-6f, curve[k + 1].x - curve[k].x), 0.f, 1.f);
        out.push_back(lerp(curve[k].y, curve[k + 1].y, u));
    }
    return out;
}
} // namespace

media::LoadedGrid voxelsOf(const ShapeSource& s, JobControl& job)
{
    media::LoadedGrid out;
    std::unique_ptr<media::InsideField> inside;
    Box3 box;
    float voxel = s.voxel;
    const auto fit = [&](const Vec3& extent) {
        const float least = std::max({extent.x, extent.y, extent.z}) / static_cast<float>(mostVoxels - 8);
        if (voxel < least) {
            voxel = least;
            out.notes.push_back("Its voxels are " + formatQuantity(static_cast<double>(voxel), Quantity::Length) +
                                ": no side gets more than " + std::to_string(mostVoxels) + " of them.");
        }
    };
    if (s.body == ShapeSource::Body::Object) {
        const geometry::PlacedSet& mesh = *s.object;
        Box3 own;
        for (const geometry::Mesh& m : mesh.set->meshes)
            for (const Vec3& p : m.positions)
                own.extendBy(p * mesh.toWorld);
        const Vec3 extent = own.isEmpty() ? Vec3(1.f) : own.max - own.min;
        fit(extent);
        inside = std::make_unique<media::InsideField>(
            mesh, std::clamp(static_cast<int>(std::max({extent.x, extent.y, extent.z}) / voxel), 8, 256), job);
        box = inside->bounds();
        if (inside->openEdges() > 0)
            out.notes.push_back("The object is not closed (" + std::to_string(inside->openEdges()) +
                                " open edges): its inside is taken where at least two of three directions agree.");
        if (inside->fill() <= 0.f)
            out.notes.push_back("The object encloses nothing.");
    } else {
        fit(s.size);
        box = Box3(Vec3(-0.5f * s.size.x, 0.f, -0.5f * s.size.z), Vec3(0.5f * s.size.x, s.size.y, 0.5f * s.size.z));
    }
    // Places stand half a voxel inside the bounds, as each stands for a voxel around it.
    const Vec3 low = box.min - Vec3(0.5f * voxel), extent = box.max - box.min + Vec3(voxel);
    std::array<int, 3> bricks{};
    for (std::size_t a = 0; a < 3; ++a)
        bricks[a] = static_cast<int>(std::ceil(extent[static_cast<int>(a)] / voxel / 8.f)) + 1;
    const std::vector<float> curve = tableOf(s.curve);
    // How deep it is at most, for what is missing in the middle.
    float deepest = 1e-6f;
    if (!inside) {
        deepest = 0.5f * std::min({s.size.x, s.size.y, s.size.z});
    } else {
        for (int i = 0; i < 20 * 20 * 20; i += lanes) {
            F8 x, y, z;
            for (int k = 0; k < lanes; ++k) {
                const int n = i + k;
                x[k] = box.min.x + (box.max.x - box.min.x) * (static_cast<float>(n % 20) + 0.5f) / 20.f;
                y[k] = box.min.y + (box.max.y - box.min.y) * (static_cast<float>(n / 20 % 20) + 0.5f) / 20.f;
                z[k] = box.min.z + (box.max.z - box.min.z) * (static_cast<float>(n / 400) + 0.5f) / 20.f;
            }
            const F8 d = inside->depth8(x, y, z);
            for (int k = 0; k < lanes; ++k)
                deepest = std::max(deepest, d[k]);
        }
    }
    const auto count = static_cast<std::size_t>(bricks[0]) * static_cast<std::size_t>(bricks[1]) *
                       static_cast<std::size_t>(bricks[2]);
    std::vector<float> values(count * 512, 0.f);
    std::vector<char> used(count, 0);
    parallelFor(count, [&](std::size_t b) {
        if (job.cancelled())
            return;
        const int bz = static_cast<int>(b % static_cast<std::size_t>(bricks[2])),
                  by = static_cast<int>(b / static_cast<std::size_t>(bricks[2]) % static_cast<std::size_t>(bricks[1])),
                  bx = static_cast<int>(b / static_cast<std::size_t>(bricks[2] * bricks[1]));
        for (int i = 0; i < 8; ++i)
            for (int j = 0; j < 8; ++j) {
                const F8 x = f8(low.x + static_cast<float>(bx * 8 + i) * voxel),
                         y = f8(low.y + static_cast<float>(by * 8 + j) * voxel);
                F8 z;
                for (int k = 0; k < lanes; ++k)
                    z[k] = low.z + static_cast<float>(bz * 8 + k) * voxel;
                const F8 depth = inside ? inside->depth8(x, y, z) : depthIn(s.body, s.size, x, y, z);
                if (!any(depth > 0.f))
                    continue;
                F8 d = clamp8(depth * (1.f / std::max(s.edge, 1e-4f)), 0.f, 1.f);
                d = d * d * (3.f - 2.f * d);
                if (s.hollow > 0.f) {
                    const F8 u = clamp8(depth * (1.f / deepest), 0.f, 1.f);
                    d = d * (1.f - s.hollow * u * u);
                }
                if (!curve.empty())
                    for (int k = 0; k < lanes; ++k) {
                        const float at = std::clamp(d[k], 0.f, 1.f) * 63.999f;
                        const auto n = static_cast<std::size_t>(at);
                        d[k] = d[k] > 0.f ? lerp(curve[n], curve[n + 1], at - static_cast<float>(n)) : 0.f;
                    }
                if (s.noise.contrast > 0.f)
                    d = d * media::modulation8(s.noise, x, y, z);
                d = select(depth > 0.f, d, f8(0.f));
                if (any(d > 0.f)) {
                    store8(&values[b * 512 + static_cast<std::size_t>(i * 64 + j * 8)], d);
                    used[b] = 1;
                }
            }
    });
    job.check();
    std::vector<media::BrickGrid::Block> blocks;
    for (std::size_t b = 0; b < count; ++b)
        if (used[b])
            blocks.push_back(
                {static_cast<int>(b / static_cast<std::size_t>(bricks[2] * bricks[1])),
                 static_cast<int>(b / static_cast<std::size_t>(bricks[2]) % static_cast<std::size_t>(bricks[1])),
                 static_cast<int>(b % static_cast<std::size_t>(bricks[2])), &values[b * 512], 0.f});
    out.values = media::BrickGrid::fromBlocks(blocks, job);
    Mat4 place, move;
    place.setScale(Vec3(voxel));
    move.setTranslation(low);
    out.toWorld = place * move;
    return out;
}
} // namespace hygros::elements
