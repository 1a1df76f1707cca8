#pragma once
/// Figures of open water; milliseconds.
#include <string>

namespace hygros::bench {

/// A figure and its peer.
struct Against {
    double own = 0.0, peer = 0.0;
};
/// Waves of 512² samples at another moment; their bare transforms.
Against waterField();
/// Frozen and seen at three eighths of the size after a change of wind. `estuary`: the demo's project.
double waterEdit(const std::string& estuary);
/// A pass at 960×540; the same with a flat mirror in place of the waves.
Against waterPass(const std::string& estuary);
/// A step of a wake's patch of 512² samples; a pair of bare transforms.
Against waterWake();
/// What foam takes to be ready for a moment; against that moment's field.
Against waterFoam();
} // namespace hygros::bench
