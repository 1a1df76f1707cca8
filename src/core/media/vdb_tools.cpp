#include "media/vdb_tools.h"

#include "base/parallel.h"
#include "media/vdb_inside.h"

#include <cmath>
#include <openvdb/tools/Composite.h>
#include <openvdb/tools/Filter.h>
#include <openvdb/tools/Interpolation.h>
#include <openvdb/tools/LevelSetUtil.h>
#include <openvdb/tools/MeshToVolume.h>
#include <openvdb/tools/Morphology.h>
#include <openvdb/tools/Prune.h>
#include <openvdb/tools/ValueTransformer.h>
#include <tbb/parallel_reduce.h>

namespace hygros::media {
namespace {
using How = GridStep::How;
constexpr double mostVoxelsMade = 4e8; ///< a resampled box may hold

vdb::Mat4d matrixOf(const Mat4& m)
{
    vdb::Mat4d out;
    for (int r = 0; r < 4; ++r)
        for (int c = 0; c < 4; ++c)
            out(r, c) = static_cast<double>(m[r][c]);
    return out;
}
Mat4 matrixOf(const vdb::math::Transform& t)
{
    const vdb::Mat4d m = t.baseMap()->getAffineMap()->getMat4();
    Mat4 out;
    for (int r = 0; r < 4; ++r)
        for (int c = 0; c < 4; ++c)
            out[r][c] = static_cast<float>(m(r, c));
    return out;
}

vdb::FloatGrid::Ptr gridOf(const BrickGrid& bricks, const Mat4& toWorld)
{
    vdb::FloatGrid::Ptr grid = vdb::FloatGrid::create(0.f);
    bricks.eachBrick([&](int x, int y, int z, const float* values) {
        auto* leaf = grid->tree().touchLeaf(vdb::Coord(x * 8, y * 8, z * 8));
        for (vdb::Index n = 0; n < vdb::FloatTree::LeafNodeType::SIZE; ++n)
            if (values[n] > 0.f)
                leaf->setValueOn(n, values[n]);
    });
    grid->setTransform(vdb::math::Transform::createLinearTransform(matrixOf(toWorld)));
    grid->setGridClass(vdb::GRID_FOG_VOLUME);
    return grid;
}

/// `from` on the lattice of `like`, trilinear: eight places at once by our own sampler.
vdb::FloatGrid::Ptr onLattice(const BrickGrid& from, const Mat4& fromToWorld, const vdb::math::Transform& like,
                              JobControl& job)
{
    auto to = vdb::FloatGrid::create(0.f);
    to->setTransform(like.copy());
    if (from.empty())
        return to;
    const Mat4 toFrom = matrixOf(like) * fromToWorld.inverse(), back = toFrom.inverse();
    Box3 box;
    for (int k = 0; k < 8; ++k)
        box.extendBy(Vec3(k & 1 ? from.bounds().max.x : from.bounds().min.x,
                          k & 2 ? from.bounds().max.y : from.bounds().min.y,
                          k & 4 ? from.bounds().max.z : from.bounds().min.z) *
                     back);
    std::array<int, 3> low{}, size{};
    double cells = 512.0;
    for (std::size_t a = 0; a < 3; ++a) {
        const float first = std::floor((box.min[static_cast<int>(a)] - 1.f) / 8.f),
                    last = std::floor((box.max[static_cast<int>(a)] + 1.f) / 8.f);
        if (!(std::abs(first) < 1e8f) || !(std::abs(last) < 1e8f))
            throw inputError("Combining volumes", "", "they lie too far apart for their voxels");
        low[a] = static_cast<int>(first);
        size[a] = static_cast<int>(last) - low[a] + 1;
        cells *= size[a];
    }
    if (cells > 16.0 * mostVoxelsMade)
        throw inputError("Combining volumes", "",
                         "the other one would take more than six thousand million of the first one's voxels",
                         "Give the first one larger voxels.");
    using Leaf = vdb::FloatTree::LeafNodeType;
    std::vector<std::vector<std::unique_ptr<Leaf>>> made(static_cast<std::size_t>(size[0]));
    parallelFor(made.size(), [&](std::size_t bx) {
        alignas(32) float values[512];
        for (int by = 0; by < size[1] && !job.cancelled(); ++by)
            for (int bz = 0; bz < size[2]; ++bz) {
                const int x0 = (static_cast<int>(bx) + low[0]) * 8, y0 = (by + low[1]) * 8, z0 = (bz + low[2]) * 8;
                // Nothing near the middle and as far as the corners: nothing here.
                const Vec3 middle = Vec3(static_cast<float>(x0) + 3.5f, static_cast<float>(y0) + 3.5f,
                                         static_cast<float>(z0) + 3.5f) *
                                    toFrom;
                Vec3 reach;
                for (int a = 0; a < 3; ++a)
                    reach[a] = 4.5f * (std::abs(toFrom[0][a]) + std::abs(toFrom[1][a]) + std::abs(toFrom[2][a])) + 1.f;
                if (!from.anyIn(Box3(middle - reach, middle + reach)))
                    continue;
                bool any = false;
                for (int i = 0; i < 8; ++i)
                    for (int j = 0; j < 8; ++j) {
                        F8 x, y, z;
                        for (int k = 0; k < lanes; ++k) {
                            const Vec3 p = Vec3(static_cast<float>(x0 + i), static_cast<float>(y0 + j),
                                                static_cast<float>(z0 + k)) *
                                           toFrom;
                            x[k] = p.x, y[k] = p.y, z[k] = p.z;
                        }
                        const F8 v = from.sample8(x, y, z);
                        any = any || hygros::any(v > 0.f);
                        store8(&values[(i * 8 + j) * 8], v);
                    }
                if (!any)
                    continue;
                auto leaf = std::make_unique<Leaf>(vdb::Coord(x0, y0, z0), 0.f, false);
                for (vdb::Index n = 0; n < Leaf::SIZE; ++n)
                    if (values[n] > 0.f)
                        leaf->setValueOn(n, values[n]);
                made[bx].push_back(std::move(leaf));
            }
    });
    job.check();
    for (auto& row : made)
        for (auto& leaf : row)
            to->tree().addLeaf(leaf.release());
    return to;
}

void blur(vdb::FloatGrid& grid, float metres)
{
    // Three box means make a Gaussian: each of n voxels adds (n² − 1)/12 to its variance.
    const double voxel = grid.voxelSize().length() / std::sqrt(3.0), sigma = static_cast<double>(metres) / voxel;
    const int width = std::max(0, static_cast<int>(std::lround((std::sqrt(1.0 + 4.0 * sigma * sigma) - 1.0) / 2.0)));
    if (width == 0)
        return;
    vdb::tools::dilateActiveValues(grid.tree(), std::min(64, 3 * width), vdb::tools::NN_FACE_EDGE_VERTEX,
                                   vdb::tools::EXPAND_TILES);
    vdb::tools::Filter<vdb::FloatGrid> filter(grid);
    filter.mean(width, 3);
}

float curveAt(const std::vector<Vec2>& curve, float x)
{
    std::size_t k = 0;
    while (k + 2 < curve.size() && x > curve[k + 1].x)
        ++k;
    const float u = std::clamp((x - curve[k].x) / std::max(1e-6f, curve[k + 1].x - curve[k].x), 0.f, 1.f);
    return lerp(curve[k].y, curve[k + 1].y, u);
}

void apply(vdb::FloatGrid::Ptr& grid, const GridStep& s, JobControl& job)
{
    switch (s.how) {
    case How::Blur: blur(*grid, s.amount); return;
    case How::Curve: {
        float most = 0.f;
        for (auto it = grid->cbeginValueOn(); it; ++it)
            most = std::max(most, *it);
        if (most > 0.f && s.curve.size() > 1)
            vdb::tools::foreach (grid->beginValueOn(), [&](const vdb::FloatGrid::ValueOnIter& it) {
                it.setValue(most * curveAt(s.curve, *it / most));
            });
        return;
    }
    case How::Resample: {
        const vdb::CoordBBox box = grid->evalActiveVoxelBoundingBox();
        const vdb::Vec3d own = grid->voxelSize();
        const double cells = static_cast<double>(box.dim().x()) * box.dim().y() * box.dim().z() * own.x() * own.y() *
                             own.z() / std::pow(static_cast<double>(s.amount), 3.0);
        if (cells > mostVoxelsMade)
            throw inputError("Resampling a volume", std::to_string(s.amount) + " m",
                             "its box would hold more than 400 million voxels", "Take larger voxels.");
        auto target = vdb::FloatGrid::create(0.f);
        target->setTransform(vdb::math::Transform::createLinearTransform(static_cast<double>(s.amount)));
        // Larger voxels are means of what they hold, not single looks at it.
        const float ratio = s.amount / static_cast<float>(own.length() / std::sqrt(3.0));
        if (ratio > 1.2f)
            blur(*grid, 0.35f * s.amount);
        grid = onLattice(*bricksOf(*grid, 0, job), matrixOf(grid->transform()), target->transform(), job);
        return;
    }
    default: break;
    }
    if (!s.other || s.other->values->empty()) {
        if (s.how == How::Multiply || s.how == How::Inside)
            grid->clear();
        return;
    }
    const vdb::FloatGrid::Ptr other = onLattice(*s.other->values, s.otherToWorld, grid->transform(), job);
    if (s.how == How::Union) {
        vdb::tools::compMax(*grid, *other);
    } else if (s.how == How::Add) {
        vdb::tools::compSum(*grid, *other);
    } else if (s.how == How::Multiply) {
        vdb::tools::compMul(*grid, *other);
    } else {
        const bool cut = s.how == How::Cut;
        const auto accessor = other->getConstAccessor();
        vdb::tools::foreach (
            grid->beginValueOn(),
            [&, accessor](const vdb::FloatGrid::ValueOnIter& it) {
                const float in = std::clamp(accessor.getValue(it.getCoord()), 0.f, 1.f);
                it.setValue(*it * (cut ? 1.f - in : in));
            },
            true, false);
    }
}
} // namespace

LoadedGrid worked(const LoadedGrid& base, const Mat4& toWorld, const std::vector<GridStep>& steps, JobControl& job)
{
    start();
    LoadedGrid out;
    out.notes = base.notes;
    try {
        vdb::FloatGrid::Ptr grid = gridOf(*base.values, toWorld);
        for (std::size_t k = 0; k < steps.size(); ++k) {
            job.report(static_cast<float>(k) / static_cast<float>(steps.size()), "combining volumes");
            job.check();
            // Whole regions of one value as voxels, so that every step reaches each of them.
            grid->tree().voxelizeActiveTiles();
            apply(grid, steps[k], job);
        }
        vdb::tools::pruneInactive(grid->tree());
        out.values = bricksOf(*grid, 0, job);
        out.toWorld = matrixOf(grid->transform());
    } catch (const vdb::Exception& e) {
        throw workingError("Combining volumes", "", e.what(), "The volumes themselves were kept.");
    }
    return out;
}

DistanceField distanceTo(const std::vector<Vec3>& corners, const Box3& bounds, float reach, JobControl& job)
{
    start();
    DistanceField out;
    out.farthest = std::max(1e-3f, reach);
    const Vec3 extent = bounds.max - bounds.min;
    const double voxel = std::max({1e-4, static_cast<double>(std::max({extent.x, extent.y, extent.z})) / 96.0,
                                   static_cast<double>(out.farthest) / 40.0});
    std::vector<vdb::Vec3s> points;
    std::vector<vdb::Vec3I> triangles;
    for (std::size_t i = 0; i + 2 < corners.size(); i += 3) {
        const auto first = static_cast<vdb::Index32>(points.size());
        for (std::size_t k = 0; k < 3; ++k)
            points.emplace_back(corners[i + k].x, corners[i + k].y, corners[i + k].z);
        triangles.emplace_back(first, first + 1, first + 2);
    }
    const auto place = vdb::math::Transform::createLinearTransform(voxel);
    std::vector<BrickGrid::Block> none;
    if (triangles.empty()) {
        out.values = BrickGrid::fromBlocks(none, job);
        return out;
    }
    for (vdb::Vec3s& p : points)
        p = vdb::Vec3s(place->worldToIndex(vdb::Vec3d(p)));
    const vdb::tools::QuadAndTriangleDataAdapter<vdb::Vec3s, vdb::Vec3I> mesh(points, triangles);
    const vdb::FloatGrid::Ptr grid = vdb::tools::meshToVolume<vdb::FloatGrid>(
        mesh, *place, static_cast<float>(out.farthest / voxel), 0.5f, vdb::tools::UNSIGNED_DISTANCE_FIELD);
    job.check();
    vdb::tools::foreach (grid->beginValueOn(), [&](const vdb::FloatGrid::ValueOnIter& it) {
        it.setValue(std::max(0.f, out.farthest - *it));
    });
    out.values = bricksOf(*grid, 0, job);
    out.toWorld = matrixOf(grid->transform());
    return out;
}

LoadedGrid motionBlurred(const std::filesystem::path& path, const std::string& name, const std::string& velocity,
                         double seconds, JobControl& job, float power)
{
    return opened(path, [&](vdb::io::File& file, const std::set<std::string>& unknown) {
        for (const std::string& each : {name, velocity})
            if (!file.hasGrid(each) || unknown.count(each))
                throw inputError(doing, path.string(), "there is no grid '" + each + "' of numbers in it");
        const vdb::GridBase::Ptr base = file.readGrid(name), moving = file.readGrid(velocity);
        if (!base->isType<vdb::FloatGrid>() || !moving->isType<vdb::Vec3SGrid>())
            throw inputError(doing, path.string(),
                             "'" + name + "' must hold single numbers and '" + velocity +
                                 "' vectors, both of 32 or 16 bits");
        const auto density = vdb::gridPtrCast<vdb::FloatGrid>(base);
        const auto speed = vdb::gridPtrCast<vdb::Vec3SGrid>(moving);
        LoadedGrid out;
        if (density->getGridClass() == vdb::GRID_LEVEL_SET) {
            vdb::tools::sdfToFogVolume(*density);
            out.notes.push_back("'" + name + "' is a level set; it was turned into fog.");
        }
        float fastest = 0.f;
        for (auto it = speed->cbeginValueOn(); it; ++it)
            if (const float v = it->length(); std::isfinite(v))
                fastest = std::max(fastest, v);
        const double voxel = density->voxelSize().length() / std::sqrt(3.0),
                     reach = static_cast<double>(fastest) * seconds;
        constexpr int mostSteps = 48;
        const int wanted = static_cast<int>(std::ceil(reach / voxel)) + 1, steps = std::clamp(wanted, 2, mostSteps);
        if (wanted > mostSteps)
            out.notes.push_back("Its fastest parts cross " + std::to_string(wanted) +
                                " voxels while the shutter is open; they are blurred in " + std::to_string(mostSteps) +
                                " steps.");
        // Every voxel leaves its matter along its way, shared between the eight voxels around each place, so that none
        // is lost and none made.
        density->tree().voxelizeActiveTiles();
        std::vector<const vdb::FloatTree::LeafNodeType*> leaves;
        density->tree().getNodes(leaves);
        struct Smear {
            const vdb::FloatGrid& density;
            const vdb::Vec3SGrid& speed;
            const std::vector<const vdb::FloatTree::LeafNodeType*>& leaves;
            JobControl& job;
            double seconds;
            int steps;
            float power;
            vdb::FloatGrid::Ptr grid = vdb::FloatGrid::create(0.f);
            Smear(const vdb::FloatGrid& d, const vdb::Vec3SGrid& v,
                  const std::vector<const vdb::FloatTree::LeafNodeType*>& l, JobControl& j, double t, int n, float p)
                : density(d), speed(v), leaves(l), job(j), seconds(t), steps(n), power(p)
            {
            }
            Smear(Smear& o, tbb::split)
                : density(o.density), speed(o.speed), leaves(o.leaves), job(o.job), seconds(o.seconds), steps(o.steps),
                  power(o.power)
            {
            }
            void operator()(const tbb::blocked_range<std::size_t>& range)
            {
                auto to = grid->getAccessor();
                vdb::tools::GridSampler<vdb::Vec3SGrid, vdb::tools::BoxSampler> velocityAt(speed);
                for (std::size_t i = range.begin(); i < range.end() && !job.cancelled(); ++i)
                    for (auto it = leaves[i]->cbeginValueOn(); it; ++it) {
                        if (!(*it > 0.f))
                            continue;
                        const vdb::Vec3d here = density.indexToWorld(it.getCoord());
                        const vdb::Vec3s v = velocityAt.wsSample(here);
                        const bool moves = std::isfinite(v.length()) && v.length() > 0.f;
                        const int n = moves ? steps : 1;
                        const float value = power == 1.f ? *it : std::pow(*it, power);
                        for (int k = 0; k < n; ++k) {
                            const vdb::Vec3d p = density.worldToIndex(
                                here + vdb::Vec3d(v) * (moves ? seconds * ((k + 0.5) / n - 0.5) : 0.0));
                            const vdb::Coord low = vdb::Coord::floor(p);
                            const vdb::Vec3d f = p - low.asVec3d();
                            for (int c = 0; c < 8; ++c) {
                                const double w = (c & 1 ? f.x() : 1.0 - f.x()) * (c & 2 ? f.y() : 1.0 - f.y()) *
                                                 (c & 4 ? f.z() : 1.0 - f.z());
                                if (w > 1e-6) {
                                    const vdb::Coord at = low.offsetBy(c & 1, (c >> 1) & 1, (c >> 2) & 1);
                                    to.setValueOn(at, to.getValue(at) + value * static_cast<float>(w / n));
                                }
                            }
                        }
                    }
            }
            void join(Smear& o) { vdb::tools::compSum(*grid, *o.grid); }
        };
        Smear smear(*density, *speed, leaves, job, seconds, steps, power);
        tbb::parallel_reduce(
            tbb::blocked_range<std::size_t>(0, leaves.size(), std::max<std::size_t>(64, leaves.size() / 8)), smear);
        job.check();
        const vdb::FloatGrid::Ptr blurred = smear.grid;
        if (power != 1.f)
            vdb::tools::foreach (blurred->beginValueOn(), [root = 1.f / power](const vdb::FloatGrid::ValueOnIter& it) {
                it.setValue(std::pow(*it, root));
            });
        blurred->setTransform(density->transform().copy());
        vdb::tools::pruneInactive(blurred->tree());
        out.values = bricksOf(*blurred, 0, job);
        out.toWorld = matrixOf(blurred->transform());
        return out;
    });
}

std::vector<float> vectorsAt(const std::filesystem::path& path, const std::string& name, const Mat4& place, float scale,
                             const std::array<int, 3>& low, const std::array<int, 3>& size, float voxel,
                             JobControl& job)
{
    return opened(path, [&](vdb::io::File& file, const std::set<std::string>& unknown) {
        if (!file.hasGrid(name) || unknown.count(name))
            throw inputError(doing, path.string(), "there is no grid '" + name + "' in it");
        const vdb::GridBase::Ptr base = file.readGrid(name);
        if (!base->isType<vdb::Vec3SGrid>())
            throw inputError(doing, path.string(), "'" + name + "' must hold vectors of 32 or 16 bits");
        const vdb::Vec3SGrid::Ptr vectors = vdb::gridPtrCast<vdb::Vec3SGrid>(base);
        const Mat4 back = place.inverse();
        const auto rows = static_cast<std::size_t>(size[1]) * static_cast<std::size_t>(size[2]);
        std::vector<float> out(static_cast<std::size_t>(size[0]) * rows * 3, 0.f);
        parallelFor(static_cast<std::size_t>(size[0]), [&](std::size_t i) {
            if (job.cancelled())
                return;
            const vdb::Vec3SGrid::ConstAccessor accessor = vectors->getConstAccessor();
            const vdb::tools::GridSampler<vdb::Vec3SGrid::ConstAccessor, vdb::tools::BoxSampler> at(
                accessor, vectors->transform());
            float* to = &out[i * rows * 3];
            for (int j = 0; j < size[1]; ++j)
                for (int k = 0; k < size[2]; ++k, to += 3) {
                    const Vec3 p = (Vec3(static_cast<float>(low[0] + static_cast<int>(i)),
                                         static_cast<float>(low[1] + j), static_cast<float>(low[2] + k)) *
                                    voxel) *
                                   back;
                    const vdb::Vec3s v = at.wsSample(vdb::Vec3d(double(p.x), double(p.y), double(p.z)));
                    Vec3 world;
                    place.multDirMatrix(Vec3(v.x(), v.y(), v.z()) * scale, world);
                    for (int c = 0; c < 3; ++c)
                        to[c] = std::isfinite(world[c]) ? world[c] : 0.f;
                }
        });
        job.check();
        return out;
    });
}
} // namespace hygros::media
