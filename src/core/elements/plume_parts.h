#pragma once
/// What elements that go with a plume share with it.
#include "elements/bake.h"
#include "sim/smoke/gas.h"

namespace hygros::elements {

/// What feeds a plume at this frame; `voxel` [m] decides how closely surfaces are covered.
std::vector<media::Feed> feedsOf(const FreezeContext& c, const std::string& plume, float voxel);
/// The gas of a plume's baked frame, kept.
std::shared_ptr<const sim::Gas> keptGas(const BakedFrame& frame, Store& store);
/// Voxels [m] and pace of a plume; nothing where the element is none.
struct PlumeMeasures {
    float voxel, pace;
};
std::optional<PlumeMeasures> measuresOf(const scene::Element* plume);
/// Ids of everything that a plume comes from.
std::vector<std::string> originsOfPlumes(const scene::Project& project);
} // namespace hygros::elements
