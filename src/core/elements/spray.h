#pragma once
/// Spray of a water: drops that fly where it is struck and where it strikes, and what of it hangs in the air.
#include "elements/wakes.h"
#include "elements/water.h"
#include "geometry/shores.h"

namespace hygros::elements {

struct SprayWish {
    const WaveSettings* waves = nullptr;
    media::Swell swell;
    WakeWish wakes;
    std::shared_ptr<const media::SwellModes> modes;
    std::shared_ptr<const geometry::Shores> shores; ///< null: nothing stands near
    std::shared_ptr<const geometry::RayScene> bare; ///< what stands there
};
/// Puts it into the shot and tells of it.
void putSpray(FreezeContext& c, const SprayWish& wish);
} // namespace hygros::elements
