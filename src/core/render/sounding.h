#pragma once
/// What one line of sight meets, by distance: a sounding.
#include "base/vec.h"

#include <string>
#include <vector>

namespace hygros::render {

/// All series run over `distance`, ascending from 0 (the eye) to the surface or the horizon. Light is cumulated
/// radiance that reaches the eye from nearer than the distance [W/m²/sr], linear RGB; its last entries sum to the
/// pixel's air light where one surface fills the pixel.
struct Sounding {
    struct ByElement {
        std::string id;
        std::vector<float> extinction; ///< mean over the step that ends at the distance, noise included [1/m]
        std::vector<Vec3> light;       ///< sunlight and skylight scattered by this element
    };
    struct ByLamp {
        std::string id;
        std::vector<Vec3> light; ///< of this lamp, scattered by all elements
    };
    float depth = 0.f; ///< to what covers most of the pixel [m]; 0: nothing is known yet
    bool sky = false;
    float slope = 0.f; ///< rise of the line of sight for a metre of level way
    Vec3 surface{0.f}; ///< radiance of what lies there, before the air in front of it
    /// The same by where it comes from: "own" (what shines by itself, a plate), the sun's element, "sky", lamps.
    struct BySource {
        std::string id;
        Vec3 light;
    };
    std::vector<BySource> surfaceBy;
    std::vector<float> distance, transmittance;
    std::vector<Vec3> sunAndSky; ///< all elements together
    std::vector<ByElement> elements;
    std::vector<ByLamp> lamps;
    bool known() const { return depth > 0.f; }
    /// Air light of everything at the last distance.
    Vec3 airLight() const
    {
        Vec3 sum = sunAndSky.empty() ? Vec3(0.f) : sunAndSky.back();
        for (const ByLamp& lamp : lamps)
            sum += lamp.light.back();
        return sum;
    }
    /// The series as a table: a heading line, then a line a distance; decimal points, commas between. Light as
    /// luminance.
    std::string csv() const;
};
} // namespace hygros::render
