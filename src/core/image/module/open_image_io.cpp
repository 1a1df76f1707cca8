/// The module of picture formats, by OpenImageIO.
#include "image/picture_files.h"

#include <OpenImageIO/imageio.h>

namespace hygros::image {
namespace {
class Opened : public OpenPicture {
public:
    explicit Opened(std::unique_ptr<OIIO::ImageInput> in) : in_(std::move(in))
    {
        const OIIO::ImageSpec& spec = in_->spec();
        facts.width = spec.width;
        facts.height = spec.height;
        facts.format = std::string(in_->format_name()) + ", " + spec.format.c_str();
        facts.channels = spec.channelnames;
        for (const auto& a : spec.extra_attribs)
            facts.metadata.emplace_back(a.name().string(), a.get_string());
    }
    std::string read(float* pixels) override
    {
        if (in_->read_image(0, 0, 0, in_->spec().nchannels, OIIO::TypeDesc::FLOAT, pixels))
            return {};
        const std::string why = in_->geterror();
        return why.empty() ? "its pixels cannot be read" : why;
    }

private:
    std::unique_ptr<OIIO::ImageInput> in_;
};

std::string write(const std::filesystem::path& file, OIIO::ImageSpec spec, const Metadata& metadata,
                  OIIO::TypeDesc type, const void* pixels, bool& unknown)
{
    for (const auto& [key, value] : metadata)
        spec.attribute(key, value);
    auto out = OIIO::ImageOutput::create(file.string());
    unknown = !out;
    if (!out)
        return OIIO::geterror();
    if (out->open(file.string(), spec) && out->write_image(type, pixels) && out->close())
        return {};
    const std::string why = out->geterror();
    return why.empty() ? "it cannot be written" : why;
}

class Files : public PictureFiles {
public:
    std::unique_ptr<OpenPicture> open(const std::filesystem::path& file, std::string& why) const override
    {
        auto in = OIIO::ImageInput::open(file.string());
        if (!in) {
            why = OIIO::geterror();
            return nullptr;
        }
        return std::make_unique<Opened>(std::move(in));
    }
    std::string writeFloats(const std::filesystem::path& file, const Image& image, const Metadata& metadata,
                            bool& unknown) const override
    {
        OIIO::ImageSpec spec(image.width, image.height, static_cast<int>(image.channels.size()), OIIO::TypeDesc::FLOAT);
        spec.channelnames = image.channels;
        for (std::size_t c = 0; c < image.channels.size(); ++c) {
            if (image.channels[c] == "A")
                spec.alpha_channel = static_cast<int>(c);
            if (image.channels[c] == "Z")
                spec.z_channel = static_cast<int>(c);
        }
        spec.attribute("compression", "zip");
        return write(file, spec, metadata, OIIO::TypeDesc::FLOAT, image.pixels.data(), unknown);
    }
    std::string writeBytes(const std::filesystem::path& file, int width, int height, const std::uint8_t* rgb,
                           const Metadata& metadata, bool& unknown) const override
    {
        OIIO::ImageSpec spec(width, height, 3, OIIO::TypeDesc::UINT8);
        spec.attribute("oiio:ColorSpace", "sRGB");
        return write(file, spec, metadata, OIIO::TypeDesc::UINT8, rgb, unknown);
    }
};
} // namespace
} // namespace hygros::image

extern "C" const hygros::image::PictureFiles* hygrosPictureFiles()
{
    static const hygros::image::Files files;
    return &files;
}
