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
    std::vector<ByLamp> airBy;
    std::size_t pixels() const { return static_cast<std::size_t>(width) * static_cast<std::size_t>(height); }
};
} // namespace hygros::render
