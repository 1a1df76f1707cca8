#pragma once
/// Sample volumes for the lock at Marl, made by formulas: heaps of balls and bent columns whose surface billows.
#include <filesystem>

namespace hygros::demo {
/// Writes cumulus, steam, smokes, dust, fireball and embers as OpenVDB files into `folder`.
void makeMatter(const std::filesystem::path& folder);
} // namespace hygros::demo
