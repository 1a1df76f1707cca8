#pragma once
/// A walk over an OpenVDB file's structure, before anything of it is trusted.
#include <filesystem>
#include <set>
#include <string>

namespace hygros::media {

/// Follows every size that the file gives (table of contents, notes, node masks, packed values) and sees that it stays
/// inside the file and agrees with the others, so that a reader that believes them is safe. Throws an input Error that
/// says what is wrong: no such file, not such a file, cut short, damaged. Returns the names of grids whose kind is not
/// known here (points and the like): their insides were not looked at. Layout after the format's public description
/// (file versions 222 to 224, trees of 5, 4 and 3 bits a level).
std::set<std::string> checkVdb(const std::filesystem::path& file);
} // namespace hygros::media
