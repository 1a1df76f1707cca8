#include "volumes.h"

#include "base/parallel.h"
#include "base/random.h"
#include "media/vdb.h"
#include "media/volume.h"

#include <chrono>
#include <filesystem>
#include <functional>
#include <openvdb/io/File.h>
#include <openvdb/math/Ray.h>
#include <openvdb/openvdb.h>
#include <openvdb/tools/Interpolation.h>
#include <openvdb/tools/LevelSetSphere.h>
#include <openvdb/tools/LevelSetUtil.h>
#include <openvdb/tools/ValueTransformer.h>

namespace hygros::bench {
namespace {
namespace vdb = openvdb;
double fastest(int runs, const std::function<void()>& work)
{
    double best = 1e300;
    for (int i = 0; i < runs; ++i) {
        const auto start = std::chrono::steady_clock::now();
        work();
        best = std::min(best,
                        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
    }
    return best;
}
void save(const vdb::GridBase::Ptr& grid, const std::string& file)
{
    vdb::io::File out(file);
    out.setCompression(vdb::io::COMPRESS_NONE);
    out.write({grid});
    out.close();
}
} // namespace

Pair gridSamples()
{
    vdb::initialize();
    const auto ball = vdb::tools::createLevelSetSphere<vdb::FloatGrid>(200.f, vdb::Vec3f(0.f), 1.f, 3.f);
    vdb::tools::sdfToFogVolume(*ball);
    ball->setName("density");
    const std::string file = (std::filesystem::temp_directory_path() / "hygros-bench-ball.vdb").string();
    save(ball, file);
    JobControl job;
    const std::shared_ptr<const media::BrickGrid> grid = media::loadVdb(file, "density", job).values;
    std::filesystem::remove(file);
    // Parallel rays, a voxel and a half apart, samples half a voxel apart.
    constexpr int side = 256, steps = 800;
    const vdb::Vec3d way = vdb::Vec3d(0.9, 0.31, 0.3).unit();
    std::vector<double> own(side), peers(side);
    const auto start = [](int i, int j) {
        return vdb::Vec3d(-200.0, -62.0 + 0.6 * (i - side / 2), -60.0 + 0.6 * (j - side / 2));
    };
    Pair out;
    out.samples = double(side) * side * steps;
    out.own = fastest(5, [&] {
        parallelFor(side, [&](std::size_t i) {
            F8 lane, total = f8(0.f);
            for (int k = 0; k < lanes; ++k)
                lane[k] = 0.5f * static_cast<float>(k);
            for (int j = 0; j < side; ++j) {
                const vdb::Vec3d o = start(static_cast<int>(i), j);
                for (int s = 0; s < steps; s += lanes) {
                    const F8 t = lane + 0.5f * static_cast<float>(s);
                    total += grid->sample8(static_cast<float>(o.x()) + t * static_cast<float>(way.x()),
                                           static_cast<float>(o.y()) + t * static_cast<float>(way.y()),
                                           static_cast<float>(o.z()) + t * static_cast<float>(way.z()));
                }
            }
            own[i] = static_cast<double>(sum(total));
        });
    });
    out.peer = fastest(2, [&] {
        parallelFor(side, [&](std::size_t i) {
            const auto accessor = ball->getConstAccessor();
            double total = 0.0;
            for (int j = 0; j < side; ++j) {
                const vdb::Vec3d o = start(static_cast<int>(i), j);
                for (int s = 0; s < steps; ++s)
                    total += static_cast<double>(vdb::tools::BoxSampler::sample(accessor, o + way * (0.5 * s)));
            }
            peers[i] = total;
        });
    });
    double a = 0.0, b = 0.0;
    for (int i = 0; i < side; ++i) {
        a += own[static_cast<std::size_t>(i)];
        b += peers[static_cast<std::size_t>(i)];
    }
    if (std::abs(a - b) > 1e-3 * b) // both must have seen the same fog
        out.own = 1e9;
    return out;
}

Pair gridTransmittance(const std::string& file, float sigma)
{
    vdb::initialize();
    JobControl job;
    const media::LoadedGrid loaded = media::loadVdb(file, "density", job);
    vdb::io::File in(file);
    in.open(false);
    const vdb::FloatGrid::Ptr grid = vdb::gridPtrCast<vdb::FloatGrid>(in.readGrid("density"));
    const vdb::CoordBBox box = grid->evalActiveVoxelBoundingBox();
    const auto voxel = static_cast<float>(grid->voxelSize().x());
    // Rays across the box in all directions, the same for both.
    constexpr std::size_t rays = 20000;
    std::vector<Vec3> from(rays), way(rays);
    std::vector<float> length(rays);
    Random random(99);
    for (std::size_t i = 0; i < rays; ++i) {
        const auto place = [&] {
            Vec3 p;
            for (int a = 0; a < 3; ++a)
                p[a] = random.range(static_cast<float>(box.min()[a]), static_cast<float>(box.max()[a]));
            return p;
        };
        const Vec3 a = place(), b = place(), d = (b - a).normalized();
        from[i] = a - d * 500.f;
        way[i] = d;
        length[i] = 1000.f;
    }
    std::vector<float> own(rays), peer(rays), truth(rays);
    const auto march = [&](std::vector<float>& out, double step, bool jitter) {
        parallelFor(rays / 100, [&](std::size_t block) {
            const auto accessor = grid->getConstAccessor();
            for (std::size_t i = block * 100; i < block * 100 + 100; ++i) {
                // Its box is clipped for it as well.
                vdb::math::Ray<double> ray(vdb::Vec3d(from[i].x, from[i].y, from[i].z),
                                           vdb::Vec3d(way[i].x, way[i].y, way[i].z), 0.0,
                                           static_cast<double>(length[i]));
                double depth = 0.0;
                const vdb::BBoxd bounds(box.min().asVec3d() - vdb::Vec3d(1), box.max().asVec3d() + vdb::Vec3d(1));
                if (ray.clip(bounds))
                    for (double t = ray.t0() + step * (jitter ? static_cast<double>(
                                                                    unitFloat(hash32(static_cast<std::uint32_t>(i))))
                                                              : 0.5);
                         t < ray.t1() && depth * step * voxel * sigma < 16.0; t += step)
                        depth += static_cast<double>(vdb::tools::BoxSampler::sample(accessor, ray(t)));
                out[i] = std::exp(-static_cast<float>(depth * step) * voxel * sigma);
            }
        });
    };
    Pair out;
    out.samples = rays;
    out.own = fastest(7, [&] {
        parallelFor(rays / 100, [&](std::size_t block) {
            for (std::size_t i = block * 100; i < block * 100 + 100; ++i)
                own[i] = std::exp(-loaded.values->integral(from[i], way[i], 0.f, length[i], 0.42f,
                                                           unitFloat(hash32(static_cast<std::uint32_t>(i), 7u)),
                                                           16.f / (voxel * sigma)) *
                                  voxel * sigma);
        });
    });
    out.peer = fastest(2, [&] { march(peer, 0.5, true); });
    march(truth, 0.1, false);
    double ownError = 0.0, peerError = 0.0;
    for (std::size_t i = 0; i < rays; ++i) {
        ownError += std::pow(static_cast<double>(own[i] - truth[i]), 2.0);
        peerError += std::pow(static_cast<double>(peer[i] - truth[i]), 2.0);
    }
    if (ownError > peerError)
        out.own = 1e9;
    return out;
}

Pair gridLoad(const std::string& folder)
{
    vdb::initialize();
    const vdb::FloatGrid::Ptr grid = vdb::FloatGrid::create();
    grid->setName("density");
    grid->denseFill(vdb::CoordBBox(vdb::Coord(0), vdb::Coord(367)), 0.5f, true);
    // Every voxel its own value, so that nothing is stored once for many.
    vdb::tools::foreach (grid->beginValueOn(), [](const vdb::FloatGrid::ValueOnIter& it) {
        const vdb::Coord c = it.getCoord();
        it.setValue(0.1f + static_cast<float>((c.x() * 73 + c.y() * 151 + c.z() * 29) % 997) * 1e-3f);
    });
    const std::string file = (std::filesystem::path(folder) / "hygros-bench-load.vdb").string();
    save(grid, file);
    Pair out;
    out.samples = static_cast<double>(grid->activeVoxelCount());
    out.peer = fastest(3, [&] {
        vdb::io::File in(file);
        in.setCopyMaxBytes(0);
        in.open(false);
        in.readGrid("density");
    });
    out.own = fastest(3, [&] {
        JobControl job;
        media::loadVdb(file, "density", job);
    });
    std::filesystem::remove(file);
    return out;
}
} // namespace hygros::bench
