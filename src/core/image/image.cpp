#include "image/image.h"

#include "base/atomic_file.h"
#include "base/error.h"

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
void write(const fs::path& target, OIIO::ImageSpec spec, const Metadata& metadata, OIIO::TypeDesc type, const void* pixels)
{
    for (const auto& [key, value] : metadata)
        spec.attribute(key, value);
    writeAtomically(target, [&](const fs::path& temporary) {
        auto out = OIIO::ImageOutput::create(temporary.string());
        if (!out)
            throw inputError("Writing", target.string(), "no picture format belongs to this ending", "Use .exr or .png.");
        if (!out->open(temporary.string(), spec) || !out->write_image(type, pixels) || !out->close())
            throw workingError("Writing", target.string(), out->geterror(), "What was there before is untouched.");
    });
}
std::unique_ptr<OIIO::ImageInput> open(const fs::path& file, const char* doing)
{
    if (!fs::exists(file))
        throw inputError(doing, file.string(), "there is no such file");
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

void writePng(const fs::path& file, int width, int height, const std::vector<std::uint8_t>& rgb, const Metadata& metadata)
{
    OIIO::ImageSpec spec(width, height, 3, OIIO::TypeDesc::UINT8);
    spec.attribute("oiio:ColorSpace", "sRGB");
    write(file, spec, metadata, OIIO::TypeDesc::UINT8, rgb.data());
}

Image readImage(const fs::path& file)
{
    auto in = open(file, "Reading");
    const OIIO::ImageSpec& spec = in->spec();
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
} // namespace hygros::image
