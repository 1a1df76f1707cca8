#pragma once
/// Scopes: how the picture's tones lie across its width, how many there are of each, and at which distance.
#include "reading/planes.h"

#include <array>
#include <cstdint>

namespace hygros::reading {

struct Scopes {
    static constexpr int columns = 192, levels = 128; ///< of the waveform: across the region, and from black to white
    static constexpr int bins = 128;                  ///< of the histogram
    static constexpr int distances = 144, tones = 96; ///< of the plot by distance
    static constexpr float nearest = 0.5f, farthest = 30000.f; ///< [m], by equal factors
    static constexpr float firstStop = -8.f, lastStop = 4.f;   ///< around 0.18
    /// By channel: [level][column], share of the column's pixels; as shown.
    std::array<std::vector<float>, 3> waveform;
    /// By channel, share of the region's pixels; as shown, from black to white.
    std::array<std::vector<float>, 3> histogram;
    /// [tone][distance], share of the region's pixels, scene-linear; the last distance is the sky.
    std::vector<float> byDistance;
    /// Mean tone at each distance [stops]; far under firstStop where there is nothing.
    std::vector<float> meanTone;
    std::size_t pixels = 0;              ///< of the region; 0: nothing is known
    float black = 0.f, white = 0.f;      ///< share of them with a channel at 0, at 255
    float lowStop = 0.f, highStop = 0.f; ///< within which 98 % of their tones lie
};
/// A part of the picture, 0…1 of its width and height.
struct Region {
    float left = 0.f, top = 0.f, right = 1.f, bottom = 1.f;
    bool operator==(const Region&) const = default;
};
/// Of a picture and as it is shown; without its light and its depth what is by distance stays empty (four bytes a
/// pixel, the first three of which are blue, green and red).
Scopes scopesOf(const PlanePicture& picture, std::span<const std::uint8_t> shown, const Region& region = {});
/// Which of the distances one is; the last for the sky.
int distanceBin(float metres, float farFrom);
} // namespace hygros::reading
