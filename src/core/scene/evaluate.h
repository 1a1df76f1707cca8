#pragma once
/// A project at a frame: what views and freezing see.
#include "scene/project.h"

namespace hygros::scene {

/// The values at a frame, as a project of plain values. Nothing is keyed yet: they are those of the project, at that
/// frame.
inline Project evaluated(Project project, int frame)
{
    project.frame = frame;
    return project;
}
} // namespace hygros::scene
