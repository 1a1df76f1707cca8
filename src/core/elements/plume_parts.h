#pragma once
/// What elements that go with a plume share with it.
#include "elements/bake.h"
#include "sim/smoke/gas.h"

namespace hygros::elements {

/// What feeds a plume at this frame; `voxel` [m] decides how closely surfaces are covered.
std::vector<media::Feed> feedsOf(const FreezeContext& c, const std::string& plume, float voxel);
/// Places all over a set's surface, in its own metres, closer than `spacing`; only of one material where it is named,
/// and only of the faces that were painted (geometry/chosen_faces.h) where any were.
std::shared_ptr<const std::vector<media::FeedPoint>> surfaceOf(const FreezeContext& c,
                                                               const geometry::PlacedSet& placed, const Mat4& toOwn,
                                                               float spacing, const std::string& material,
                                                               const std::string& painted);
/// Where baked embers are at this frame and have come since the last, closer than `spacing`, in the world; null where
/// they are not baked.
std::shared_ptr<const std::vector<media::FeedPoint>> emberPoints(const FreezeContext& c, const std::string& embers,
                                                                 float spacing);
/// The gas of a plume's baked frame, kept.
std::shared_ptr<const sim::Gas> keptGas(const BakedFrame& frame, Store& store);
/// Voxels [m] and pace of a plume; nothing where the element is none.
struct PlumeMeasures {
    float voxel, pace, around;
};
std::optional<PlumeMeasures> measuresOf(const scene::Element* plume);
/// Which of a plume's baked frames is shown at the frame that is frozen.
struct Retiming {
    bool isOn = false;        ///< else the frame's own
    bool isOver = false;      ///< nothing is shown
    double frame = 0.0;       ///< may lie between two
    double other = 0.0;       ///< the one that is faded in
    float fade = 0.f;         ///< how much of that, 0…1
    float frameSeconds = 0.f; ///< of the gas, from frame to frame
};
Retiming retimingOf(const FreezeContext& c);
/// What the air that a plume's baked fire draws in does to the shot's banks (media/draught.h): `strength` times as much
/// as it does. Not to haze.
void addDraughts(FreezeContext& c, double strength);
/// Ids of everything that a plume comes from.
std::vector<std::string> originsOfPlumes(const scene::Project& project);
} // namespace hygros::elements
