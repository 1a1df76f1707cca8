#pragma once
/// A mesh as a file for others.
#include "geometry/set_geometry.h"

#include <filesystem>

namespace hygros::geometry {

/// What a dialog offers: ".ply", ".obj" and ".glb".
bool isMeshFile(const std::filesystem::path& file);
inline constexpr const char* meshFileEndings = ".ply, .obj or .glb";
/// Positions, normals and triangles, in metres of the world, Y up: PLY (binary, little endian), OBJ or binary glTF by
/// the file's ending. Whole or untouched. Throws a working Error when it cannot be written; `doing` says what failed.
void writeMesh(const std::filesystem::path& out, const Mesh& mesh, const std::string& doing);
} // namespace hygros::geometry
