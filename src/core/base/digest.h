#pragma once
/// A running 64-bit digest (XXH3) of values: equal for equal content, on every machine of the same byte order.
#include <cstdint>
#include <span>
#include <string>

namespace hygros {

/// Of so many bytes at once; another `seed`, another digest.
std::uint64_t digestOf(std::span<const char> bytes, std::uint64_t seed = 0);
inline std::uint64_t digestOfText(const std::string& text, std::uint64_t seed = 0)
{
    return digestOf(std::span<const char>(text.data(), text.size()), seed);
}
/// What a file holds; 0 where it cannot be read.
std::uint64_t digestOfFile(const std::string& path);
} // namespace hygros
