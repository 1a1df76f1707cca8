#pragma once
/// Colour configurations: files (*.ocio) of the open OpenColorIO format, which say how light is shown on which display.
/// What is made of one is immutable and fast.
#include "base/store.h"

#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace hygros::image {

/// Names within a configuration; each empty one is the configuration's own choice.
struct ColourViewNames {
    std::string display, view;
    std::string light; ///< the colour space that linear light with the primaries of Rec. 709 counts as
    bool operator==(const ColourViewNames&) const = default;
};

/// One view on one display.
class ColourView {
public:
    /// How light comes in: converted to ACES2065-1, which the configuration names (its role aces_interchange); as what
    /// `light` names; or unconverted as its scene_linear, where it does not say how that relates to anything.
    enum class Light { Converted, Named, Assumed };
    const ColourViewNames& names() const { return names_; } ///< none is empty but that of converted light
    Light light() const { return light_; }
    /// `count` pixels of red, green, blue and alpha, in place: linear light with the primaries of Rec. 709, from 0 on,
    /// becomes what the display is given, 0 to 1 where it is not brighter than it can be. From any thread.
    void apply(float* rgba, std::size_t count) const;
    std::size_t bytes() const { return std::size_t{1} << 20; } ///< about

    struct Work;
    ColourView(ColourViewNames names, Light light, std::unique_ptr<const Work> work);
    ~ColourView();

private:
    ColourViewNames names_;
    Light light_;
    std::unique_ptr<const Work> work_;
};

class ColourConfig {
public:
    static constexpr std::size_t mostBytes = std::size_t{16} << 20; ///< larger ones are refused
    /// Reads the text of one; other files that it names are looked for from `file`'s folder. Throws an input Error
    /// where it is none or shows nothing.
    static std::shared_ptr<const ColourConfig> parse(const std::string& text, const std::filesystem::path& file);
    static std::shared_ptr<const ColourConfig> load(const std::filesystem::path& file);

    /// The one that it shows by itself stands first.
    const std::vector<std::string>& displays() const { return displays_; }
    /// Of a display, likewise; none of one that it does not have. Empty: of the first.
    std::vector<std::string> views(const std::string& display) const;
    /// Its colour spaces that are light of the scene.
    const std::vector<std::string>& lights() const { return lights_; }
    /// Throws an input Error when it has no such names, or what it needs is not there or broken.
    std::shared_ptr<const ColourView> view(const ColourViewNames& names) const;
    /// The other files that it reads, as far as they are there, as they were.
    const std::vector<FileVersion>& beside() const { return beside_; }
    std::size_t bytes() const { return bytes_; }

    struct Work;
    explicit ColourConfig(std::unique_ptr<const Work> work);
    ~ColourConfig();

private:
    std::unique_ptr<const Work> work_;
    std::string subject_;
    std::size_t bytes_ = 0;
    std::vector<std::string> displays_, lights_;
    std::vector<FileVersion> beside_;
};
} // namespace hygros::image
