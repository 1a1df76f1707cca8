#include "base/digest.h"

#include <fstream>
#include <memory>
#include <vector>
#define XXH_INLINE_ALL
#include <xxhash.h>

namespace hygros {

std::uint64_t digestOf(std::span<const char> bytes, std::uint64_t seed)
{
    return XXH3_64bits_withSeed(bytes.data(), bytes.size(), seed);
}

std::uint64_t digestOfFile(const std::string& path)
{
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return 0;
    std::vector<char> piece(std::size_t{1} << 20);
    std::uint64_t digest = 1;
    while (in.read(piece.data(), static_cast<std::streamsize>(piece.size())), in.gcount() > 0)
        digest = digestOf({piece.data(), static_cast<std::size_t>(in.gcount())}, digest);
    return in.bad() ? 0 : digest;
}
} // namespace hygros
