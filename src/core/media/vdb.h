#pragma once
/// OpenVDB files: what is in them, their grids made ready for rays, and back.
#include "media/brick_grid.h"

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

namespace hygros::media {

/// What one grid of a file is.
struct VdbGrid {
    std::string name;           ///< may be empty
    std::string type;           ///< "float", "half", "vec3s" …, as the file says
    std::string kind;           ///< "fog", "level set", "staggered" or "unknown"
    Vec3 voxel{0.f};            ///< size [m]
    std::uint64_t active = 0;   ///< voxels
    std::uint64_t bytes = 0;    ///< in memory as OpenVDB holds it
    Vec3 low{0.f}, high{0.f};   ///< corners of what is active [m]
    double least = 0, most = 0; ///< values (of vectors: lengths)
    bool vector = false;        ///< three numbers a voxel
};
/// All grids, in the file's order. Throws Error: no such file, not such a file, cut short, damaged.
std::vector<VdbGrid> vdbGrids(const std::filesystem::path& file);

/// One grid ready for rays.
struct LoadedGrid {
    std::shared_ptr<const BrickGrid> values;
    std::shared_ptr<const BrickGrid> more[2]; ///< second and third number of vectors; negative parts are lost
    Mat4 toWorld;                             ///< from index space, row vectors; metres
    std::size_t bytes() const
    {
        std::size_t sum = sizeof *this;
        for (const auto& each : {values, more[0], more[1]})
            sum += each ? each->bytes() : 0;
        return sum;
    }
    std::vector<std::string> notes; ///< what the artist should know: level set turned to fog, values refused …
};
/// The grid called `name` (or the only one, if empty). Level sets become fog (1 inside, falling to 0 over their band's
/// inner half). Throws as vdbGrids(), and Cancelled.
LoadedGrid loadVdb(const std::filesystem::path& file, const std::string& name, JobControl& job);

/// Which of a file's grids most likely holds what, by the names in use: "density", "temperature", "emission",
/// "velocity", "colour"; empty if none does. Density falls back to the only number grid there is.
std::string guessedGrid(const std::vector<VdbGrid>& grids, const std::string& what);

/// A grid to be written: single numbers, on a lattice placed by `toWorld`.
struct VdbOut {
    std::string name;
    std::array<int, 3> low{0, 0, 0}, size{0, 0, 0}; ///< voxels
    std::vector<float> values;                      ///< [x][y][z]; three of them a voxel where `vector`
    bool vector = false;
};
/// Writes fog grids; values of at most `background` in size are left out. Whole or not at all.
void writeVdb(const std::filesystem::path& file, const std::vector<VdbOut>& grids, const Mat4& toWorld, JobControl& job,
              bool half = false, float background = 0.f);
/// Copies all grids of a file as they are, value for value, to another, moved by `place` (from the file's world to the
/// new one). Throws as both do.
void copyVdb(const std::filesystem::path& from, const std::filesystem::path& to, const Mat4& place, JobControl& job);
} // namespace hygros::media
