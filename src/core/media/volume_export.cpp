#include "media/volume_export.h"

#include "base/error.h"
#include "base/parallel.h"
#include "base/shown_units.h"
#include "base/units.h"
#include "media/vdb_tools.h"

#include <atomic>
#include <cmath>

namespace hygros::media {

void exportVolume(const Volume& v, float voxel, const std::filesystem::path& file, JobControl& job,
                  const ExportedMotion& motion)
{
    const std::string doing = "Exporting a volume to";
    if (!(voxel > 0.f))
        throw inputError(doing, file.string(), "its voxels must be larger than nothing");
    const Vec3 extent = v.bounds.max - v.bounds.min;
    std::array<int, 3> low{}, size{};
    const bool tinted = !v.tints.empty(), hot = v.glow.heat != nullptr, moving = !motion.grid.empty();
    const double numbers = 1.0 + (tinted ? 3.0 : 0.0) + (hot ? 1.0 : 0.0) + (moving ? 3.0 : 0.0);
    double all = 1.0;
    for (std::size_t a = 0; a < 3; ++a) {
        const auto axis = static_cast<int>(a);
        low[a] = static_cast<int>(std::floor(v.bounds.min[axis] / voxel));
        all *= std::ceil(static_cast<double>(extent[axis] / voxel)) + 2.0;
        size[a] = all * numbers < 6e8 ? static_cast<int>(std::ceil(extent[axis] / voxel)) + 2 : 1;
    }
    if (all * numbers >= 6e8)
        throw inputError(doing, file.string(),
                         "at voxels of " + formatQuantity(static_cast<double>(voxel), Quantity::Length) +
                             " it would have " + shownNumber(all * 1e-6) + " million of them",
                         "Choose larger voxels.");
    const auto count = static_cast<std::size_t>(size[0]) * static_cast<std::size_t>(size[1]) *
                       static_cast<std::size_t>(size[2]);
    std::vector<VdbOut> grids{{"density", low, size, std::vector<float>(count), false}};
    if (tinted)
        grids.push_back({"Cd", low, size, std::vector<float>(count * 3), true});
    if (hot)
        grids.push_back({"temperature", low, size, std::vector<float>(count), false});
    const std::size_t heatGrid = grids.size() - 1;
    std::atomic<int> rows{0};
    parallelFor(static_cast<std::size_t>(size[0]), [&](std::size_t i) {
        if (job.cancelled())
            return;
        const F8 x = f8(static_cast<float>(low[0] + static_cast<int>(i)) * voxel);
        for (int j = 0; j < size[1]; ++j)
            for (int k = 0; k < size[2]; k += lanes) {
                const F8 y = f8(static_cast<float>(low[1] + j) * voxel);
                F8 z;
                for (int l = 0; l < lanes; ++l)
                    z[l] = static_cast<float>(low[2] + k + l) * voxel;
                const F8 density = v.sigmaT > 0.f ? extinction8(v, x, y, z) * (1.f / v.sigmaT) : f8(0.f);
                F8 colour[3], heat = f8(0.f);
                if (tinted && any(density > 0.f)) {
                    F8 relative[3];
                    optics8(v, x, y, z, density * v.sigmaT, relative, colour);
                }
                if (hot) {
                    const Mat4& m = v.glow.toHeat;
                    heat = v.glow.heat->sample8(x * m[0][0] + y * m[1][0] + z * m[2][0] + m[3][0],
                                                x * m[0][1] + y * m[1][1] + z * m[2][1] + m[3][1],
                                                x * m[0][2] + y * m[1][2] + z * m[2][2] + m[3][2]);
                }
                for (int l = 0; l < lanes && k + l < size[2]; ++l) {
                    const std::size_t at = (i * static_cast<std::size_t>(size[1]) + static_cast<std::size_t>(j)) *
                                               static_cast<std::size_t>(size[2]) +
                                           static_cast<std::size_t>(k + l);
                    grids[0].values[at] = density[l];
                    for (std::size_t c = 0; tinted && density[l] > 0.f && c < 3; ++c)
                        grids[1].values[at * 3 + c] = colour[c][l];
                    if (hot)
                        grids[heatGrid].values[at] = heat[l];
                }
            }
        job.report(0.6f * static_cast<float>(++rows) / static_cast<float>(size[0]), "sampling");
    });
    job.check();
    if (moving) {
        // Where there is matter or heat; elsewhere nothing moves that could be seen.
        std::vector<float> velocity = vectorsAt(motion.file, motion.grid, motion.place, motion.scale, low, size, voxel,
                                                job);
        for (std::size_t at = 0; at < count; ++at)
            if (!(grids[0].values[at] > 0.f) && !(hot && grids[heatGrid].values[at] > 0.f))
                std::fill_n(&velocity[at * 3], 3, 0.f);
        grids.push_back({"vel", low, size, std::move(velocity), true});
    }
    Mat4 place;
    place.setScale(Vec3(voxel));
    writeVdb(file, grids, place, job);
}
} // namespace hygros::media
