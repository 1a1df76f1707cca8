#pragma once
/// Between image.h and the library that knows pictures' formats. That library brings some two hundred others along,
/// which take four tenths of a second to link; so it lies in a module of its own (hygros-pictures.so), which is loaded
/// when the first picture is read or written. Nothing of a module's side throws but std::bad_alloc.
#include "image/image.h"

#include <memory>

namespace hygros::image {

class OpenPicture {
public:
    virtual ~OpenPicture() = default;
    FileFacts facts;
    /// All channels, interleaved; what is in the way, or nothing.
    virtual std::string read(float* pixels) = 0;
};

class PictureFiles {
public:
    virtual ~PictureFiles() = default;
    /// Null with what is in the way.
    virtual std::unique_ptr<OpenPicture> open(const std::filesystem::path& file, std::string& why) const = 0;
    /// What is in the way, or nothing. `unknown` becomes true where no format belongs to the ending.
    virtual std::string writeFloats(const std::filesystem::path& file, const Image& image, const Metadata& metadata,
                                    bool& unknown) const = 0;
    virtual std::string writeBytes(const std::filesystem::path& file, int width, int height, const std::uint8_t* rgb,
                                   const Metadata& metadata, bool& unknown) const = 0;
};

/// The module, loaded at the first call; throws a working Error where it cannot be. From several threads at once.
const PictureFiles& pictureFiles();

/// What the module has under the name "hygrosPictureFiles".
using PictureFilesMaker = const PictureFiles* (*)();
} // namespace hygros::image
