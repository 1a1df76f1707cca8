#pragma once
/// Drops (media::Falling) over a picture: each is a streak of the way that it falls while the shutter is open. It takes
/// from what lies behind as much as its extinction says and gives what it gathers: half of that is bent so little that
/// it is the light around the place behind it; the other half comes from the world on all sides, turned upside down in
/// it, here what the picture shows widely about it together with the sky's light by its phase function; and sun, sky
/// and lamps where they reach it. Nothing falls under a roof. Drawn over what is rendered, the same for every
/// integrator; what they are too far away for is a medium of its own.
#include "render/layers.h"
#include "shot/shot.h"

#include <cstdint>

namespace hygros::render {

class RainPicture {
public:
    RainPicture() = default;
    RainPicture(const shot::Shot& shot, int width, int height);
    bool isEmpty() const { return pixels_.empty(); }
    std::size_t drops() const { return drops_; } ///< drawn
    /// Onto a linear picture of the same size, three numbers a pixel.
    void addTo(std::vector<float>& rgb) const;
    /// Onto plate, transmittance and air; what drops give is a layer "rain".
    void addTo(Layers& layers) const;
    /// What they leave of the light behind them in a pixel, 0…1.
    float transmittance(int x, int y) const;

private:
    struct Pixel {
        std::uint32_t index = 0;
        float cover = 0.f;  ///< optical depth
        float clear = 0.f;  ///< of it that of drops
        float opaque = 0.f; ///< of it that of leaves
        Vec3 light{0.f};    ///< of sun, sky and lamps, for that optical depth
    };
    /// The picture's light about every pixel that has a drop: narrow for one half, wide for the other.
    std::vector<Vec3> worldOf(const std::vector<float>& rgb) const;
    int width_ = 0, height_ = 0;
    std::size_t drops_ = 0;
    std::vector<Pixel> pixels_; ///< by index
};
} // namespace hygros::render
