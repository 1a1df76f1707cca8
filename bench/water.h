#pragma once
/// Figures of open water; milliseconds.
#include <string>

namespace hygros::bench {

struct Water {
    double field = 0.0, transforms = 0.0; ///< waves of 512² samples at another moment; their bare transforms
    double edit = 0.0;                    ///< frozen and seen at three eighths of the size after a change of wind
    double pass = 0.0, mirror = 0.0;      ///< a pass at 960×540; the same with a flat mirror in place of the waves
};
/// `estuary`: the demo's project.
Water water(const std::string& estuary);
} // namespace hygros::bench
