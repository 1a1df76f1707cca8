#pragma once
/// Layers to files.
#include "render/layers.h"
#include "shot/shot.h"

#include <filesystem>

namespace hygros::finish {

struct Delivery {
    std::string project;
    int frame = 1;
    shot::Look look;
    bool allLayers = false;
    bool glow = false; ///< the beauty of an EXR has the look's glow
};

/// Linear, look left out, but for its glow in R G B where that is asked for. Channels: R G B A (beauty; A is 1, the sky
/// belongs to the picture, but for mattes, which hold it open; premultiplied); with all layers also plate.*,
/// transmittance.*, air.* (premultiplied), air.<lamp>.* and depth.Z (metres along the ray); with sources and shadows
/// (render::LayerWish) set.<source>.*, the set's light by source as seen behind the air, and shadow.<lamp>.*, what
/// shadows take from the air's light; with the water's parts water.reflection.*, water.refraction.*, water.foam.* (as
/// seen behind the air: their sum is what is seen of water), water.caustics.* (signed) and water.mask. Σ set.* + Σ
/// air.<lamp>.* = R G B; a lamp's strength can so be changed afterwards: R G B + (k − 1)(set.<lamp> + air.<lamp>). R =
/// plate.R · transmittance.R + air.R to rounding, and so on. Atomic.
void deliverExr(const std::filesystem::path& file, const render::Layers& layers, const Delivery& delivery);
/// Through the look, 8-bit sRGB. Atomic.
void deliverPng(const std::filesystem::path& file, const render::Layers& layers, const Delivery& delivery);
/// plate · transmittance + air.
std::vector<float> beautyOf(const render::Layers& layers);
} // namespace hygros::finish
