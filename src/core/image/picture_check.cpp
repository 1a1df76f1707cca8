#include "image/picture_check.h"

#include "base/error.h"

#include <array>
#include <cstdint>
#include <cstring>
#include <fstream>

namespace hygros::image {
namespace {
[[noreturn]] void damaged(const std::filesystem::path& file, const char* piece)
{
    throw inputError("Reading", file.string(),
                     std::string("it is damaged: ") + piece + " is said to be longer than the file");
}

void checkPng(std::ifstream& in, const std::filesystem::path& file, std::uint64_t size)
{
    std::uint64_t at = 8;
    std::array<unsigned char, 8> head{};
    while (at + 12 <= size) {
        in.seekg(static_cast<std::streamoff>(at));
        if (!in.read(reinterpret_cast<char*>(head.data()), 8))
            return;
        const std::uint64_t length = std::uint64_t{head[0]} << 24 | head[1] << 16 | head[2] << 8 | head[3];
        if (at + 12 + length > size)
            damaged(file, "a piece");
        if (std::memcmp(head.data() + 4, "IEND", 4) == 0)
            return;
        at += 12 + length;
    }
}

void checkExr(std::ifstream& in, const std::filesystem::path& file, std::uint64_t size)
{
    constexpr std::uint32_t manyParts = 0x1000;
    constexpr int longestName = 256;
    std::uint32_t version = 0;
    in.seekg(4);
    in.read(reinterpret_cast<char*>(&version), 4);
    const auto word = [&] { // what ends with a zero; empty where it does at once, or the file does
        std::string text;
        for (char c = 0; in.get(c) && c != 0 && text.size() < longestName;)
            text += c;
        return text;
    };
    while (in) {
        std::string name = word();
        if (name.empty())
            return; // no further part
        for (; in && !name.empty(); name = word()) {
            word(); // its type
            std::int32_t length = 0;
            if (!in.read(reinterpret_cast<char*>(&length), 4))
                return;
            const auto here = static_cast<std::uint64_t>(in.tellg());
            if (length < 0 || here + static_cast<std::uint64_t>(length) > size)
                damaged(file, "what its header tells");
            in.seekg(length, std::ios::cur);
        }
        if (!(version & manyParts))
            return;
    }
}
} // namespace

void checkPieces(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    std::error_code unknown;
    const std::uint64_t size = std::filesystem::file_size(file, unknown);
    char mark[8] = {};
    if (unknown || !in.read(mark, 8))
        return;
    if (std::memcmp(mark, "\x89PNG\r\n\x1a\n", 8) == 0)
        checkPng(in, file, size);
    else if (std::memcmp(mark, "\x76\x2f\x31\x01", 4) == 0)
        checkExr(in, file, size);
}
} // namespace hygros::image
