#pragma once
/// A Wind element's settings, for what it carries; and what else moves the air.
#include "elements/air.h"

namespace hygros::elements {

struct WindSettings : scene::SettingsOf<WindSettings> {
    double speed = 3.0, heading = 90.0, reference = 10.0, roughness = 0.05, ground = 0.0;
    double gusts = 0.25, gustLength = 12.0, gustChange = 0.1;
    std::int64_t seed = 1;
};
/// Whether it is a Wind or a Force.
bool movesTheAir(const scene::Element& element);
} // namespace hygros::elements
