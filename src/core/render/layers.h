#pragma once
/// What a render delivers, linear, before any look.
#include <cstddef>
#include <string>
#include <vector>

namespace hygros::render {

/// Per pixel: beauty = plate · transmittance + air, exactly; air = Σ airBy. `depth` is metres along the ray to
/// what covers most of the pixel (Shot::farDistance for sky).
struct Layers {
    struct ByLamp {
        std::string id;         ///< element id; "sky" for the dome
        std::vector<float> air; ///< RGB, premultiplied (light added by the air)
    };
    int width = 0, height = 0;
    int samples = 0; ///< passes averaged
    std::vector<float> plate, transmittance, air, depth;
    /// How much of the pixel belongs to the picture: 1, or less where a matte holds it open, by what the air before it
    /// does not cover. Empty: 1 everywhere.
    std::vector<float> alpha;
    std::vector<ByLamp> airBy;
    std::size_t pixels() const { return static_cast<std::size_t>(width) * static_cast<std::size_t>(height); }
};
} // namespace hygros::render
