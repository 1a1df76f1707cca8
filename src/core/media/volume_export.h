#pragma once
/// A placed volume, its look included, as an OpenVDB file.
#include "media/volume.h"

#include <filesystem>

namespace hygros::media {

/// Where the velocity of what is written comes from.
struct ExportedMotion {
    std::filesystem::path file; ///< that holds the grid
    std::string grid;           ///< empty: none
    Mat4 place;                 ///< from the file's world to the shot's
    float scale = 1.f;
};

/// Writes what the volume is in the world, on an even lattice along the world's axes: "density" (the grid's value:
/// extinction ÷ the volume's own), "Cd" (albedo with its tints, three numbers; only if it is tinted), "temperature"
/// (the heat grid's value; only if it glows) and "vel" (metres a second in the world; only where `motion` names a
/// grid). `voxel` is in metres. Throws Error where that would be more than 600 million numbers or the file cannot be
/// written; what was there before is kept then.
void exportVolume(const Volume& volume, float voxel, const std::filesystem::path& file, JobControl& job,
                  const ExportedMotion& motion = {});
} // namespace hygros::media
