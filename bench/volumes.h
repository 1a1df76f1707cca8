#pragma once
/// Figures that need OpenVDB itself as their peer; apart from the rest because its headers are slow to compile.
#include <string>

namespace hygros::bench {

/// Times in milliseconds for the same work.
struct Pair {
    double own = 0.0, peer = 0.0;
    double samples = 0.0; ///< taken by each
};
/// Trilinear samples along coherent rays through a ball of fog 200 voxels in radius, all cores; the peer is tools::BoxSampler on an accessor a thread.
Pair gridSamples();
/// A grid of about 200 MB from disk to ready for rays; the peer is io::File reading it alone.
Pair gridLoad(const std::string& folder);
} // namespace hygros::bench
