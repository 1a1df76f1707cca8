#pragma once
/// Sparks (media::Sparks) over a picture: each is a streak of the way that it goes while the shutter is open, of the
/// light that its surface sends into the pixels on it, dimmed by the air, the matter and the set before it. They are
/// drawn over what is rendered, the same for every integrator; their light on the set is not followed. Mirrors show
/// them by media::SparkList::along.
#include "render/layers.h"
#include "shot/shot.h"

#include <cstdint>

namespace hygros::render {

class SparkPicture {
public:
    SparkPicture() = default;
    SparkPicture(const shot::Shot& shot, int width, int height);
    bool isEmpty() const { return pixels_.empty(); }
    /// Adds it to a linear picture of the same size, three numbers a pixel.
    void addTo(std::vector<float>& rgb) const;
    /// Adds it to the air's light, and as a layer "sparks".
    void addTo(Layers& layers) const;

private:
    struct Pixel {
        std::uint32_t index = 0;
        Vec3 light{0.f};
    };
    std::vector<Pixel> pixels_;
};
} // namespace hygros::render
