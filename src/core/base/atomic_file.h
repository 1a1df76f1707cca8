#pragma once
/// Files that are either whole or untouched.
#include <filesystem>
#include <functional>
#include <string>

namespace hygros {

/// Calls write(temporaryPath) in the target's folder, flushes the result to disk and renames it over `target`.
/// If write throws or anything fails, the temporary is removed, `target` is as it was, and an Error is thrown.
/// The temporary keeps the target's extension, since image libraries choose the format by it.
void writeAtomically(const std::filesystem::path& target,
                     const std::function<void(const std::filesystem::path&)>& write);
void writeTextAtomically(const std::filesystem::path& target, const std::string& text);

/// The whole file; throws an input Error that says why it cannot be read.
std::string readText(const std::filesystem::path& file, const std::string& doing);
} // namespace hygros
