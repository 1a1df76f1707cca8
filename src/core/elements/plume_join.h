#pragma once
/// Several plumes made one.
#include "scene/project.h"

namespace hygros::elements {

/// Names of the plumes whose boxes overlap that of a plume.
std::vector<std::string> overlapping(const scene::Project& project, const scene::Element& plume);
/// Makes one plume of a plume and all whose boxes overlap its own, and those that overlap these: what feeds and rides
/// them goes with it, its box holds all of theirs, its voxels are the smallest of theirs. Returns how many went.
int joinPlumes(scene::Project& project, const std::string& plume);
} // namespace hygros::elements
