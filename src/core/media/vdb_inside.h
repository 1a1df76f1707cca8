#pragma once
/// What the files that use OpenVDB share; nobody else includes it, for its headers are large.
#include "base/error.h"
#include "media/vdb.h"
#include "media/vdb_check.h"

#include <mutex>
#include <openvdb/io/File.h>
#include <openvdb/openvdb.h>

namespace hygros::media {
namespace vdb = openvdb;
inline constexpr const char* doing = "Reading volumes from";

inline void start()
{
    static std::once_flag once;
    std::call_once(once, [] { vdb::initialize(); });
}

/// Opens the file and calls use(file); what the library throws becomes our error.
template <class Use> auto opened(const std::filesystem::path& path, const Use& use)
{
    start();
    const std::set<std::string> unknown = checkVdb(path);
    try {
        vdb::io::File file(path.string());
        file.setCopyMaxBytes(0);
        file.open(false);
        return use(file, unknown);
    } catch (const Cancelled&) {
        throw;
    } catch (const Error&) {
        throw;
    } catch (const std::bad_alloc&) {
        throw inputError(doing, path.string(), "there is not enough memory for it, or it is damaged");
    } catch (const std::exception& e) {
        throw inputError(doing, path.string(), std::string("it is damaged (") + e.what() + ")",
                         "Copy it again from where it came, or write it again.");
    }
}

/// One channel of a grid's values as numbers.
inline float part(float v, int) { return v; }
inline float part(double v, int) { return static_cast<float>(v); }
inline float part(std::int32_t v, int) { return static_cast<float>(v); }
template <class T> float part(const vdb::math::Vec3<T>& v, int channel) { return static_cast<float>(v[channel]); }

template <class Grid> std::shared_ptr<const BrickGrid> bricksOf(const Grid& grid, int channel, JobControl& job)
{
    using Leaf = typename Grid::TreeType::LeafNodeType;
    static_assert(Leaf::DIM == BrickGrid::cells);
    std::vector<BrickGrid::Block> blocks;
    std::vector<const Leaf*> leaves;
    grid.tree().getNodes(leaves);
    blocks.reserve(leaves.size());
    constexpr bool plain = std::is_same_v<typename Grid::ValueType, float>;
    std::vector<float> copies(plain ? 0 : leaves.size() * Leaf::SIZE);
    for (std::size_t i = 0; i < leaves.size(); ++i) {
        const vdb::Coord at = leaves[i]->origin();
        const float* values = nullptr;
        if constexpr (plain) {
            values = leaves[i]->buffer().data();
        } else {
            float* to = &copies[i * Leaf::SIZE];
            for (vdb::Index n = 0; n < Leaf::SIZE; ++n)
                to[n] = part(leaves[i]->getValue(n), channel);
            values = to;
        }
        blocks.push_back({at.x() >> 3, at.y() >> 3, at.z() >> 3, values, 0.f});
    }
    job.check();
    // Whole regions of one value.
    auto it = grid.tree().cbeginValueOn();
    it.setMaxDepth(Grid::TreeType::ValueOnCIter::LEAF_DEPTH - 1);
    for (; it; ++it) {
        const float v = part(*it, channel);
        if (!(v > 0.f))
            continue;
        const vdb::CoordBBox box = it.getBoundingBox();
        if (static_cast<double>(box.dim().x()) * box.dim().y() * box.dim().z() > 1e12)
            throw inputError(doing, grid.getName(),
                             "a region of one value in it is " + std::to_string(box.dim().x()) + " voxels wide",
                             "Resample it to larger voxels.");
        for (int x = box.min().x() >> 3; x <= box.max().x() >> 3; ++x)
            for (int y = box.min().y() >> 3; y <= box.max().y() >> 3; ++y)
                for (int z = box.min().z() >> 3; z <= box.max().z() >> 3; ++z)
                    blocks.push_back({x, y, z, nullptr, v});
    }
    return BrickGrid::fromBlocks(blocks, job);
}
} // namespace hygros::media
