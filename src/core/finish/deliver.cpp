#include "finish/deliver.h"

#include "finish/display.h"
#include "finish/glow.h"
#include "image/image.h"

namespace hygros::finish {
namespace {
image::Metadata metadataOf(const render::Layers& l, const Delivery& d)
{
    return {{"Software", "Hygros"},
            {"hygros/project", d.project},
            {"hygros/frame", std::to_string(d.frame)},
            {"hygros/samples", std::to_string(l.samples)},
            {"hygros/colour", "scene-linear, Rec. 709 primaries"},
            {"hygros/air", "premultiplied: beauty = plate * transmittance + air"},
            {"hygros/alpha", "premultiplied; 0 where the set is held out and no air covers it"},
            {"hygros/depth", "metres along the ray"}};
}
} // namespace

std::vector<float> beautyOf(const render::Layers& l)
{
    std::vector<float> b(l.plate.size());
    for (std::size_t i = 0; i < b.size(); ++i)
        b[i] = l.plate[i] * l.transmittance[i] + l.air[i];
    return b;
}

void deliverExr(const std::filesystem::path& file, const render::Layers& l, const Delivery& d)
{
    struct Part {
        std::string name;
        const std::vector<float>* values;
        std::size_t stride;
    };
    const std::vector<float> beauty = d.glow ? glowing(d.look, beautyOf(l).data(), l.width, l.height) : beautyOf(l),
                             opaque = l.alpha.empty() ? std::vector<float>(l.pixels(), 1.f) : l.alpha;
    std::vector<Part> parts{{"", &beauty, 3}, {"A", &opaque, 1}};
    if (d.allLayers) {
        parts.push_back({"plate.", &l.plate, 3});
        parts.push_back({"transmittance.", &l.transmittance, 3});
        parts.push_back({"air.", &l.air, 3});
        for (const auto& lamp : l.airBy)
            parts.push_back({"air." + lamp.id + ".", &lamp.air, 3});
        for (const auto& source : l.setBy)
            parts.push_back({"set." + source.id + ".", &source.air, 3});
        for (const auto& lamp : l.shadowBy)
            parts.push_back({"shadow." + lamp.id + ".", &lamp.air, 3});
        for (const auto& part : l.waterBy)
            parts.push_back({"water." + part.id + ".", &part.air, 3});
        if (!l.waterMask.empty())
            parts.push_back({"water.mask", &l.waterMask, 1});
        parts.push_back({"depth.Z", &l.depth, 1});
    }
    std::vector<std::string> names;
    for (const Part& p : parts) {
        if (p.stride == 1)
            names.push_back(p.name);
        else
            for (const char* c : {"R", "G", "B"})
                names.push_back(p.name + c);
    }
    image::Image image(l.width, l.height, names);
    std::size_t first = 0;
    for (const Part& p : parts) {
        for (std::size_t i = 0; i < l.pixels(); ++i)
            for (std::size_t c = 0; c < p.stride; ++c)
                image.pixels[i * names.size() + first + c] = (*p.values)[i * p.stride + c];
        first += p.stride;
    }
    image::writeExr(file, image, metadataOf(l, d));
}

void deliverPng(const std::filesystem::path& file, const render::Layers& l, const Delivery& d)
{
    image::writePng(file, l.width, l.height, displayed(d.look, beautyOf(l), l.width, l.height), metadataOf(l, d));
}
} // namespace hygros::finish
