#pragma once
/// Addresses in a glTF file.
#include <cctype>
#include <string>

namespace hygros::geometry {

/// A relative address as a file's name: "two%20words.png" is "two words.png".
inline std::string decodedUri(const std::string& uri)
{
    std::string out;
    for (std::size_t i = 0; i < uri.size(); ++i)
        if (uri[i] == '%' && i + 2 < uri.size() && std::isxdigit(static_cast<unsigned char>(uri[i + 1])) &&
            std::isxdigit(static_cast<unsigned char>(uri[i + 2]))) {
            out += static_cast<char>(std::stoi(uri.substr(i + 1, 2), nullptr, 16));
            i += 2;
        } else {
            out += uri[i];
        }
    return out;
}
} // namespace hygros::geometry
