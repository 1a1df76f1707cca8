#pragma once
/// What was simulated as single things, as files of points for others.
#include "elements/kinds.h"

namespace hygros::elements {

/// Writes the baked Particles or Embers of a project's frame as points: .ply (binary, one vertex each with x, y, z, vx,
/// vy, vz [m, m/s], radius [m], id and lies: 0 or 1) or .vdb (OpenVDB points "points" with P, v, pscale, id, lies).
/// Metres of the world, Y up. Returns how many. Throws an input Error where the element is neither, is not baked at the
/// frame or the file's name ends otherwise; a working Error where the file cannot be written.
std::size_t exportPoints(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                         Store& store, JobControl& job);
} // namespace hygros::elements
