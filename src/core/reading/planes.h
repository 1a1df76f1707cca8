#pragma once
/// Planes: how the picture's tones fall into foreground, middle and background, as a painter squints at it.
///
/// Bands of distance are measured in scene-linear light, before any look: mean and spread of log2 luminance, chroma,
/// and how far the mean of one band stands from the next. Two bands under a third of a stop apart merge for the eye.
#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace hygros::reading {

/// A third of a stop: neighbours nearer than this in mean tone read as one plane.
inline constexpr float mergesBelow = 1.f / 3.f;

/// A picture to be measured: width·height pixels, RGB linear, distance along the ray [m].
struct PlanePicture {
    int width = 0, height = 0;
    std::span<const float> rgb;   ///< 3 a pixel
    std::span<const float> depth; ///< 1 a pixel; `farFrom` and beyond is sky
    float farFrom = 29000.f;
};

struct Plane {
    float from = 0.f, to = 0.f; ///< distances [m]; the last one includes the sky
    std::size_t pixels = 0;
    float meanStops = 0.f;       ///< mean of log2(luminance / 0.18)
    float spreadStops = 0.f;     ///< standard deviation of the same
    float chroma = 0.f;          ///< mean distance from neutral in CIE 1976 u′v′ (D65 white)
    float colour[3] = {0, 0, 0}; ///< mean linear RGB
    std::vector<float> tones;    ///< share of pixels by tone, toneBins from toneFirst stops on
};
inline constexpr int toneBins = 48;
inline constexpr float toneFirst = -8.f, toneStep = 0.25f; ///< stops around 0.18

struct Planes {
    std::vector<Plane> planes;     ///< near to far
    std::vector<float> separation; ///< [stops] between neighbours, one fewer than planes; 0 where one is empty
};

/// The two distances that part the picture's surfaces into three bands of least spread in log distance (Otsu 1979, two
/// thresholds, over 64 bins); the sky is left out. Falls back to 20 m and 200 m when there is no depth to speak of.
std::vector<float> bordersFromDepth(const PlanePicture& picture);
/// Measures the bands between ascending `borders` (any number). Luminances below 1e-6 count as 1e-6.
Planes planesOf(const PlanePicture& picture, std::span<const float> borders);
} // namespace hygros::reading
