#pragma once
/// Scales of frames under the wheel.
#include "scene/time.h"

#include <algorithm>
#include <cmath>

namespace hygros::app {

/// Brings [from, to] nearer by so much of a wheel's turn [eighths of a degree], what lies at `at` staying there.
inline void zoomFrames(double at, int turned, double& from, double& to)
{
    const double share = (at - from) / (to - from);
    const double length = std::clamp((to - from) * std::pow(1.25, -turned / 120.0), 4.0,
                                     4.0 * scene::TimeSettings::farthest);
    from = at - share * length;
    to = from + length;
}
} // namespace hygros::app
