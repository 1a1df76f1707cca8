#include "image/image.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/srgb.h"
#include "image/picture_check.h"

#include <OpenImageIO/imageio.h>
#include <algorithm>

namespace hygros::image {
namespace fs = std::filesystem;

int Image::channel(const std::string& name) const
{
    const auto found = std::find(channels.begin(), channels.end(), name);
    return found == channels.end() ? -1 : static_cast<int>(found - channels.begin());
}

namespace {
void write(const fs::path& target, OIIO::ImageSpec spec, const Metadata& metadata, OIIO::TypeDesc type,
           const void* pixels)
{
    for (const auto& [key, value] : metadata)
        spec.attribute(key, value);
    writeAtomically(target, [&](const fs::path& temporary) {
        auto out = OIIO::ImageOutput::create(temporary.string());
        if (!out)
            throw inputError("Writing", target.string(), "no picture format belongs to this ending",
                             "Use .exr or .png.");
        if (!out->open(temporary.string(), spec) || !out->write_image(type, pixels) || !out->close())
            throw workingError("Writing", target.string(), out->geterror(), "What was there before is untouched.");
    });
}
std::unique_ptr<OIIO::ImageInput> open(const fs::path& file, const char* doing)
{
    if (!fs::exists(file))
        throw inputError(doing, file.string(), "there is no such file");
    checkPieces(file);
    auto in = OIIO::ImageInput::open(file.string());
    if (!in)
        throw inputError(doing, file.string(), "it is no picture that can be read (" + OIIO::geterror() + ")");
    return in;
}
} // namespace

void writeExr(const fs::path& file, const Image& image, const Metadata& metadata)
{
    OIIO::ImageSpec spec(image.width, image.height, static_cast<int>(image.channels.size()), OIIO::TypeDesc::FLOAT);
    spec.channelnames = image.channels;
    spec.alpha_channel = image.channel("A");
    spec.z_channel = image.channel("Z");
    spec.attribute("compression", "zip");
    write(file, spec, metadata, OIIO::TypeDesc::FLOAT, image.pixels.data());
}

void writePng(const fs::path& file, int width, int height, const std::vector<std::uint8_t>& rgb,
              const Metadata& metadata)
{
    OIIO::ImageSpec spec(width, height, 3, OIIO::TypeDesc::UINT8);
    spec.attribute("oiio:ColorSpace", "sRGB");
    write(file, spec, metadata, OIIO::TypeDesc::UINT8, rgb.data());
}

namespace {
/// Refuses sizes that the file cannot hold, before room is made for them: what is packed best takes some thousandth.
void checkSize(const fs::path& file, const OIIO::ImageSpec& spec)
{
    constexpr double always = 64e6, packedAtBest = 30000.0; // bytes; times
    const double wanted = double(spec.width) * double(spec.height) * double(spec.nchannels) * sizeof(float);
    std::error_code unknown;
    const auto there = fs::file_size(file, unknown);
    if (!unknown && wanted > always && wanted > packedAtBest * double(there))
        throw inputError("Reading", file.string(),
                         "it is damaged: its " + std::to_string(there) + " bytes cannot hold " +
                             std::to_string(spec.width) + " × " + std::to_string(spec.height) + " pixels");
}
} // namespace

Image readImage(const fs::path& file)
{
    auto in = open(file, "Reading");
    const OIIO::ImageSpec& spec = in->spec();
    checkSize(file, spec);
    Image image(spec.width, spec.height, spec.channelnames);
    if (!in->read_image(0, 0, 0, spec.nchannels, OIIO::TypeDesc::FLOAT, image.pixels.data()))
        throw inputError("Reading", file.string(), "it is damaged (" + in->geterror() + ")");
    return image;
}

FileFacts imageFacts(const fs::path& file)
{
    auto in = open(file, "Reading");
    const OIIO::ImageSpec& spec = in->spec();
    FileFacts facts;
    facts.width = spec.width;
    facts.height = spec.height;
    facts.format = std::string(in->format_name()) + ", " + spec.format.c_str();
    facts.channels = spec.channelnames;
    for (const auto& a : spec.extra_attribs)
        facts.metadata.emplace_back(a.name().string(), a.get_string());
    return facts;
}

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
