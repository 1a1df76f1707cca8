#pragma once
/// What a Snow is set to, for what it lies on.
#include "elements/falling.h"

#include <algorithm>

namespace hygros::elements {

struct SnowSettings final : scene::SettingsOf<SnowSettings>, FallSettings {
    SnowSettings() { driftSpeed = 0.8; }
    double rate = 2.0, temperature = 270.0;
    /// 0 for dry cold snow (−10 °C and less), 1 for wet flakes at the melting point.
    float wetness() const { return std::clamp(static_cast<float>(temperature - 263.15) / 10.f, 0.f, 1.f); }
    /// At which flakes fall that melt to drops of 2 mm [m/s].
    float speed() const { return 0.6f + 0.9f * wetness(); }
};
} // namespace hygros::elements
