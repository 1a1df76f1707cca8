#pragma once
/// Stills: a picture of a given size and number of samples, without a window.
#include "base/job.h"
#include "render/layers.h"
#include "shot/shot.h"

#include <functional>
#include <memory>

namespace hygros::render {

enum class StillAir {
    Live, ///< the live integrator, as in the window
    Paths ///< path-traced air: all orders of scattering, unbiased; noisier and slower
};

struct StillSettings {
    int width = 960, height = 540;
    int samples = 64;
    StillAir air = StillAir::Live;
    LayerWish layers = {};
};

/// `progress(share, pass)` is called after each pass. Throws Cancelled. In Paths the transmittance layer is that of
/// the sampled paths' first free flight and airBy holds one sum under "air".
Layers renderStill(std::shared_ptr<const shot::Shot> shot, const StillSettings& settings, JobControl& job,
                   const std::function<void(float, int)>& progress = {});
} // namespace hygros::render
