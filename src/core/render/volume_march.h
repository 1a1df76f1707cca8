#pragma once
/// Rays through the voxel volumes of a shot, for the live picture.
#include "media/volume_tree.h"
#include "render/bodies.h"
#include "render/volume_light.h"

#include <span>

namespace hygros::render {

/// Where volumes lie on eight rays before `end`, all of them together; empty where t1 == t0. `tree` is of them.
void volumesOn8(std::span<const media::Volume> volumes, const media::VolumeTree& tree, const media::Ray8& ray, F8 end,
                F8& t0, F8& t1);
/// Marches front to back over [begin, end], volumes that overlap together; `jitter` 0…1 by ray. Sunlight that comes
/// straight is worked out at every step (fineSunDepth8), all other light is the lattices'. At most `steps` steps a
/// volume and ray.
void lightVolumes8(const shot::Shot& shot, const media::VolumeTree& tree,
                   std::span<const std::unique_ptr<VolumeLight>> lights, const media::Ray8& ray, F8 begin, F8 end,
                   F8 jitter, int steps, Body::Seen8& out);
} // namespace hygros::render
