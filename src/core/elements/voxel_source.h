#pragma once
/// Where a volume's voxels come from: a file or a numbered sequence of files, a shape, a simulation. One seam that
/// answers: the grid at frame N, or not yet.
#include "elements/volume_parts.h"

namespace hygros::elements {

/// Which of a source's grids.
enum class VoxelGrid {
    Density, ///< what is seen
    Heat,    ///< what glows
};

struct VoxelAnswer {
    enum class State {
        There,
        Nothing, ///< at this frame there is none, and that is right or was noted
        NotYet,  ///< there will be one: a simulation has not come so far
    } state = State::Nothing;
    std::shared_ptr<const media::LoadedGrid> grid; ///< of State::There
};

/// Made while a frame is frozen, of one volume element; keeps a reference to the context. What takes time it keeps in
/// the store. What the artist should know it notes; what cannot be read it throws.
class VoxelSource {
public:
    virtual ~VoxelSource() = default;
    /// At a frame of the project (which may be fractional, and may lie before the first).
    virtual VoxelAnswer at(double frame, VoxelGrid which) const = 0;
    /// The OpenVDB file that this frame is in; empty: it is in none.
    virtual std::filesystem::path file(double frame) const
    {
        (void)frame;
        return {};
    }
    /// It stands where its element is; else where it comes from is.
    virtual bool isPlaced() const { return true; }
    /// Density over density (the element's curve) is asked for.
    virtual bool isCurved() const { return false; }
};

/// By the choice of the element's parameter `source`. A new one is a line in the table in voxel_source.cpp.
std::unique_ptr<VoxelSource> voxelSource(const FreezeContext& c, const VolumeSettings& s);
} // namespace hygros::elements
