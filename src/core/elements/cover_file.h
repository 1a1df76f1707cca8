#pragma once
/// What lies, as files for others.
#include "elements/kinds.h"

namespace hygros::elements {

/// All that stands in a project's frame, with what lies on it.
std::vector<geometry::PlacedSet> standing(const scene::Project& project, Store& store, JobControl& job);

/// Writes a Snow cover, or the puddles of Wet ground within 24 m of the camera to all sides: as a mesh (.ply, .obj
/// or .glb: metres of the world, with normals), or as a height map (.exr: channels "height" of its surface over 0 and
/// "depth" of what lies [m], seen from above, −Z up; metadata say where and how wide a pixel is; 0 where none lies).
/// `cell`: side of such a pixel [m]; 0: 0.1. Throws an input Error where the element is none, or nothing of it lies; a
/// working Error where the file cannot be written.
void exportCover(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                 double cell, Store& store, JobControl& job);
} // namespace hygros::elements
