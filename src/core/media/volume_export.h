#pragma once
/// A placed volume, its look included, as an OpenVDB file.
#include "media/volume.h"

#include <filesystem>

namespace hygros::media {

/// Writes what the volume is in the world, on an even lattice along the world's axes: "density" (the grid's value: extinction ÷ the volume's own),
/// "Cd" (albedo with its tints, three numbers; only if it is tinted) and "temperature" (the heat grid's value; only if it glows). `voxel` is in
/// metres. Throws Error where that would be more than 400 million voxels or the file cannot be written; what was there before is kept then.
void exportVolume(const Volume& volume, float voxel, const std::filesystem::path& file, JobControl& job);
} // namespace hygros::media
