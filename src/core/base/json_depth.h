#pragma once
/// JSON that nests too deeply is refused before it is read: readers and writers go as deep as it does.
#include <string>

namespace hygros {

/// Nothing that is a project, a recipe or a set goes so deep.
inline constexpr int deepestJson = 64;
/// Throws an input Error where brackets in JSON text nest deeper than that.
void checkJsonDepth(const std::string& text, const std::string& doing, const std::string& subject);
} // namespace hygros
