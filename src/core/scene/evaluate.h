#pragma once
/// A project at a frame: what views and freezing see.
#include "scene/project.h"

#include <optional>

namespace hygros::scene {

/// One parameter's value at a frame, which may lie between two: what its keys say, with its stirs laid over, within
/// its hard range. Of a parameter without keys and stirs it is the setting. Where stirs follow one another in a
/// circle, the circle is cut at the parameter that was asked for.
Value valueAt(const Project& project, const Element& element, const Parameter& parameter, double frame);

/// All values at a frame, as a project of plain values without keys and stirs.
Project evaluated(const Project& project, double frame);
/// The same with keys and stirs beside them: what an artist sees who stands there.
Project posed(const Project& project, double frame);

/// What was changed in `next` since it was `posed(project, frame)`, as a change of `project`: settings with keys or
/// stirs get a key at the frame (what stirs add is not in it); with `recordedFrom` others get one too, and one there
/// with the value that they had. All else is as in `next`.
Project withKeys(const Project& project, Project next, double frame, std::optional<double> recordedFrom);

/// Throws std::invalid_argument where parameters follow one another in a circle.
void checkFollows(const Project& project);
} // namespace hygros::scene
