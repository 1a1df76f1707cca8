#pragma once
/// Figures that need OpenVDB itself as their peer; apart from the rest because its headers are slow to compile.
#include <string>

namespace hygros::bench {

/// Times in milliseconds for the same work.
struct Pair {
    double own = 0.0, peer = 0.0;
    double samples = 0.0; ///< taken by each
};
/// Trilinear samples along coherent rays through a ball of fog 200 voxels in radius, all cores; the peer is
/// tools::BoxSampler on an accessor a thread.
Pair gridSamples();
/// Transmittance of rays through a volume file's density (extinction `sigma` a metre of value 1), without bias; the
/// peer marches with tools::BoxSampler in half voxels, jittered. Both stop where less than e⁻¹⁶ is left. `samples` are
/// rays; the own time is 1e9 if its error against a march of tenths of a voxel is above the peer's.
Pair gridTransmittance(const std::string& file, float sigma);
/// A grid of about 200 MB from disk to ready for rays; the peer is io::File reading it alone.
Pair gridLoad(const std::string& folder);
} // namespace hygros::bench
