#pragma once
/// A look at an FBX file's structure, before a reader that follows it without end is let at it.
#include <filesystem>

namespace hygros::geometry {

/// Throws an input Error where its blocks lie in each other too deep, or its models hang on each other in a circle, on
/// one another too deep, or on several others so that they come in more than a million places. Both forms of the
/// format, with text and binary; what is no such file passes, for the reader to say so.
void checkFbx(const std::filesystem::path& file);
} // namespace hygros::geometry
