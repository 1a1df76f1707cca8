#pragma once
/// Why a pixel is as dark or as bright as it is: what gives it light and what takes light from it, largest first.
///
/// With L the pixel's luminance, what gives c of it makes it log2(L / (L − c)) stops brighter than it would be without.
/// An element with an optical depth τ on the way keeps the surface's own light S·T from being S·T·e^τ: without its
/// extinction the pixel would be log2((L + S·T·(e^τ − 1)) / L) stops brighter; its own light is counted by itself.
#include "render/sounding.h"

#include <functional>
#include <string>
#include <vector>

namespace hygros::reading {

struct Reason {
    std::string element; ///< its id; "own" and "sky" as in a Sounding
    std::string text;    ///< "Sun on the surface"
    double share = 0.0;  ///< of the pixel's light, of what gives; of the surface's light that is taken, of what takes
    double stops = 0.0;  ///< above 0 what gives, below 0 what takes; of all the pixel's light: infinite
};

struct Why {
    double luminance = 0.0; ///< of the pixel
    std::vector<Reason> gives, takes;
    std::vector<std::string> nothing; ///< lights that give nothing here, in words
    bool known() const { return luminance > 0.0 || !gives.empty() || !takes.empty() || !nothing.empty(); }
};

/// `nameOf` tells what the artist calls an element. What gives under a thousandth or takes under a hundredth of a stop
/// is left out.
Why whyOf(const render::Sounding& sounding, const std::function<std::string(const std::string&)>& nameOf);
} // namespace hygros::reading
