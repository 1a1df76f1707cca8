#pragma once
/// Pictures in memory and on disk. Pixels are float, linear unless a name says otherwise, top row first,
/// channels interleaved. Files go through a module (picture_files.h).
#include <cstdint>
#include <filesystem>
#include <string>
#include <utility>
#include <vector>

namespace hygros::image {

struct Image {
    int width = 0, height = 0;
    std::vector<std::string> channels; ///< names as in OpenEXR files: "R", "air.R", "Z", …
    std::vector<float> pixels;         ///< width·height·channels.size()

    Image() = default;
    Image(int w, int h, std::vector<std::string> names)
        : width(w), height(h), channels(std::move(names)),
          pixels(static_cast<std::size_t>(w) * static_cast<std::size_t>(h) * channels.size(), 0.f)
    {
    }
    /// Index of a channel; −1 if there is none of that name.
    int channel(const std::string& name) const;
    float* at(int x, int y)
    {
        return &pixels[(static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)) *
                       channels.size()];
    }
    const float* at(int x, int y) const { return const_cast<Image*>(this)->at(x, y); }
};

/// Text that goes into the file with the pixels.
using Metadata = std::vector<std::pair<std::string, std::string>>;

/// Any number of named channels, 32-bit float, ZIP compressed. Atomic.
void writeExr(const std::filesystem::path& file, const Image& image, const Metadata& metadata = {});
/// Eight-bit RGB as given (display-referred). Atomic.
void writePng(const std::filesystem::path& file, int width, int height, const std::vector<std::uint8_t>& rgb,
              const Metadata& metadata = {});
/// Red, green and blue of a picture in linear light: whole-number formats are taken as sRGB, a grey picture comes
/// thrice. Throws an input Error when there are no such channels.
Image readColour(const std::filesystem::path& file);
/// All channels of the first part; throws an input Error.
Image readImage(const std::filesystem::path& file);

struct FileFacts {
    int width = 0, height = 0;
    std::string format; ///< "openexr, half", …
    std::vector<std::string> channels;
    Metadata metadata;
};
FileFacts imageFacts(const std::filesystem::path& file);
} // namespace hygros::image
