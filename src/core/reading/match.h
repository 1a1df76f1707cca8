#pragma once
/// Match: exposure, neutral point and one element's visibility by the planes of a photograph, as a starting point.
///
/// A photograph has no distances, so its three planes are boxes that the artist lays on it; the picture's own are bands
/// of distance (reading/planes.h). Both are compared as they are shown, taken back to linear light by the display's
/// curve (IEC 61966-2-1): what a camera's own curve did to the photograph is not known. Fitted is least
///   Σ over planes of (s − p)²,  s and p mean log2 luminance of the picture's plane and the photograph's,
/// over exposure, the mean distance in CIE 1976 u′v′ over the neutral point, and the root of both squared, the second
/// times 100, over the visibility, for which the other two are found each time: three tones alone hardly tell thicker
/// air from a darker exposure.
#include "base/job.h"
#include "base/store.h"
#include "reading/scopes.h"
#include "scene/project.h"

#include <array>
#include <optional>

namespace hygros::reading {

/// How a plane looks as it is shown.
struct ShownTone {
    float stops = 0.f;      ///< mean of log2(luminance / 0.18)
    float u = 0.f, v = 0.f; ///< u′v′ of its mean colour
    std::size_t pixels = 0; ///< 0: nothing is known
};
using ShownTones = std::array<ShownTone, 3>; ///< near to far

/// Linear RGB, three floats a pixel, of a picture as it is shown (four bytes a pixel as below).
std::vector<float> linearOf(std::span<const std::uint8_t> shown);
/// Of a box of a picture as it is shown (four bytes a pixel: blue, green, red and one that does not count).
ShownTone toneOf(std::span<const std::uint8_t> shown, int width, int height, const Region& box);

struct MatchWishes {
    bool exposure = true, neutral = true;
    std::string element;            ///< whose visibility is fitted; empty: none
    std::array<float, 2> borders{}; ///< [m], near to far; both 0: from the picture's depth
};
struct Match {
    std::optional<double> exposure, neutral, visibility; ///< [stops, K, m]; those that were wished for
    std::array<float, 2> borders{};                      ///< that the picture was parted at [m]
    ShownTones wanted, before, after;
    /// Root mean square distance of the planes' tones [stops], of those that both have.
    double missBefore = 0.0, missAfter = 0.0;
    /// Mean distance of their colours in u′v′.
    double colourBefore = 0.0, colourAfter = 0.0;
    /// "element.parameter" and value as text: what takes it over.
    std::vector<std::pair<std::string, std::string>> settings;
};

/// Renders small pictures of the project's frame, some twenty of them; a few seconds. `project` with its keys.
/// Throws an input Error where the photograph has fewer than two planes that the picture has too, where the element has
/// no visibility, or where nothing is wished for; Cancelled where the job is.
Match match(const scene::Project& project, const ShownTones& photograph, const MatchWishes& wishes, Store& store,
            JobControl& job);
} // namespace hygros::reading
