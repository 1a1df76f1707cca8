#pragma once
/// What a render delivers, linear, before any look.
#include <cstddef>
#include <string>
#include <vector>

namespace hygros::render {

/// What is wanted of a frame's layers beyond the usual.
struct LayerWish {
    bool sources = false; ///< the set's light by its source, and the air's
    bool shadows = false; ///< what shadows take from the light in the air: takes another march
    bool lamps = false;   ///< the air's light by its source; a live picture always knows it
    bool water = false;   ///< water by its parts: of a live picture alone, six times as long
};

/// Per pixel: beauty = plate · transmittance + air, exactly; air = Σ airBy. `depth` is metres along the ray to
/// what covers most of the pixel (Shot::farDistance for sky).
struct Layers {
    struct ByLamp {
        std::string id;         ///< element id; "sky" for the dome
        std::vector<float> air; ///< RGB, premultiplied (light added)
    };
    int width = 0, height = 0;
    int samples = 0; ///< passes averaged
    std::vector<float> plate, transmittance, air, depth;
    /// How much of the pixel belongs to the picture: 1, or less where a matte holds it open, by what the air before it
    /// does not cover. Empty: 1 everywhere.
    std::vector<float> alpha;
    std::vector<ByLamp> airBy;
    /// The set's light by its source, as seen behind the air: Σ setBy + Σ airBy = beauty. "own" is what shines by
    /// itself: background, glowing surfaces, a plate. Empty where it is not known apart (reference paths).
    std::vector<ByLamp> setBy;
    /// What the set's shadows take from each lamp's light in the air: air + shadow is the air's light without them.
    /// Only when asked for.
    std::vector<ByLamp> shadowBy;
    /// Parts of the set's light as seen behind the air, where water is seen: "reflection", "refraction" (what comes up
    /// out of it) and "foam"; and "caustics", what gathered sunlight adds to the second, or takes from it. Only when
    /// asked for.
    std::vector<ByLamp> waterBy;
    /// How much of the pixel is water, foam included, 0…1, the air left out; empty as the parts.
    std::vector<float> waterMask;
    std::size_t pixels() const { return static_cast<std::size_t>(width) * static_cast<std::size_t>(height); }
};
} // namespace hygros::render
