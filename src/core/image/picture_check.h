#pragma once
/// Lengths that a picture's file tells of its own pieces, before a library makes room for them.
#include <filesystem>

namespace hygros::image {

/// Throws an input Error where a chunk of a PNG (ISO/IEC 15948) or an attribute in the header of an OpenEXR file is
/// longer than the file; other files pass.
void checkPieces(const std::filesystem::path& file);
} // namespace hygros::image
