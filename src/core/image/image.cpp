#include "image/image.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/srgb.h"
#include "image/picture_check.h"
#include "image/picture_files.h"

#include <algorithm>
#include <array>

namespace hygros::image {
namespace fs = std::filesystem;

int Image::channel(const std::string& name) const
{
    const auto found = std::find(channels.begin(), channels.end(), name);
    return found == channels.end() ? -1 : static_cast<int>(found - channels.begin());
}

namespace {
/// By `write`, which gives what is in the way.
template <class Write> void writeWhole(const fs::path& target, const Write& write)
{
    const PictureFiles& files = pictureFiles();
    writeAtomically(target, [&](const fs::path& temporary) {
        bool unknown = false;
        const std::string why = write(files, temporary, unknown);
        if (unknown)
            throw inputError("Writing", target.string(), "no picture format belongs to this ending",
                             "Use .exr or .png.");
        if (!why.empty())
            throw workingError("Writing", target.string(), why, "What was there before is untouched.");
    });
}
std::unique_ptr<OpenPicture> open(const fs::path& file)
{
    if (!fs::exists(file))
        throw inputError("Reading", file.string(), "there is no such file");
    checkPieces(file);
    std::string why;
    auto in = pictureFiles().open(file, why);
    if (!in)
        throw inputError("Reading", file.string(), "it is no picture that can be read (" + why + ")");
    return in;
}
} // namespace

void writeExr(const fs::path& file, const Image& image, const Metadata& metadata)
{
    writeWhole(file, [&](const PictureFiles& files, const fs::path& to, bool& unknown) {
        return files.writeFloats(to, image, metadata, unknown);
    });
}

void writePng(const fs::path& file, int width, int height, const std::vector<std::uint8_t>& rgb,
              const Metadata& metadata)
{
    writeWhole(file, [&](const PictureFiles& files, const fs::path& to, bool& unknown) {
        return files.writeBytes(to, width, height, rgb.data(), metadata, unknown);
    });
}

namespace {
/// Refuses sizes that the file cannot hold, before room is made for them: what is packed best takes some thousandth.
void checkSize(const fs::path& file, const FileFacts& facts)
{
    constexpr double always = 64e6, packedAtBest = 30000.0; // bytes; times
    const double wanted = double(facts.width) * double(facts.height) * double(facts.channels.size()) * sizeof(float);
    std::error_code unknown;
    const auto there = fs::file_size(file, unknown);
    if (!unknown && wanted > always && wanted > packedAtBest * double(there))
        throw inputError("Reading", file.string(),
                         "it is damaged: its " + std::to_string(there) + " bytes cannot hold " +
                             std::to_string(facts.width) + " × " + std::to_string(facts.height) + " pixels");
}
} // namespace

Image readImage(const fs::path& file)
{
    const auto in = open(file);
    checkSize(file, in->facts);
    Image image(in->facts.width, in->facts.height, in->facts.channels);
    if (const std::string why = in->read(image.pixels.data()); !why.empty())
        throw inputError("Reading", file.string(), "it is damaged (" + why + ")");
    return image;
}

FileFacts imageFacts(const fs::path& file) { return open(file)->facts; }

Image readColour(const std::filesystem::path& file)
{
    const Image all = readImage(file);
    int at[3] = {-1, -1, -1};
    for (const auto& names : {std::array{"R", "G", "B"}, std::array{"r", "g", "b"}, std::array{"red", "green", "blue"},
                              std::array{"Y", "Y", "Y"}}) {
        for (std::size_t c = 0; c < 3; ++c)
            at[c] = all.channel(names[c]);
        if (at[0] >= 0 && at[1] >= 0 && at[2] >= 0)
            break;
    }
    if ((at[0] < 0 || at[1] < 0 || at[2] < 0) && all.channels.size() == 1)
        at[0] = at[1] = at[2] = 0;
    if (at[0] < 0 || at[1] < 0 || at[2] < 0)
        throw inputError("Reading the picture", file.string(), "it has no red, green and blue");
    const bool coded = imageFacts(file).format.find("int") != std::string::npos;
    Image out(all.width, all.height, {"R", "G", "B"});
    for (std::size_t p = 0; p < out.pixels.size() / 3; ++p)
        for (std::size_t c = 0; c < 3; ++c) {
            const float v = all.pixels[p * all.channels.size() + static_cast<std::size_t>(at[c])];
            out.pixels[p * 3 + c] = coded ? linearOfSrgb(v) : v;
        }
    return out;
}
} // namespace hygros::image
