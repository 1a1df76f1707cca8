#pragma once
/// Small shared pieces of frame*.cpp.
#include "base/parallel.h"
#include "render/surface.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <vector>

namespace hygros::render {

/// Runs body(row) over rows that are not done; false when stopped before the end.
template <class Body> bool overRows(std::vector<char>& done, const std::atomic<bool>& stop, const Body& body)
{
    parallelRanges(done.size(), 2, [&](std::size_t begin, std::size_t end) {
        for (std::size_t y = begin; y < end; ++y) {
            if (done[y] || stop.load(std::memory_order_relaxed))
                continue;
            body(static_cast<int>(y));
            done[y] = 1;
        }
    });
    return std::find(done.begin(), done.end(), 0) == done.end();
}

/// Tent of half width 0.85 pixels about the centre, from u in [0, 1).
inline float tent(float u)
{
    const float v = u < 0.5f ? std::sqrt(2.f * u) - 1.f : 1.f - std::sqrt(2.f - 2.f * u);
    return 0.5f + 0.85f * v;
}

/// Whether a pass looks along a pixel's beams: all pixels in the first, then every other one in turns.
inline bool looksAlongBeams(int x, int y, int pass) { return pass == 0 || ((pass + x + y) & 1) == 0; }
/// How often it did after so many passes.
inline int beamLooks(int x, int y, int passes) { return 1 + (std::max(1, passes) - 1 + ((x + y) & 1)) / 2; }

inline float jitterAt(int x, int y, int pass)
{
    return BlueNoise::tile().at(x, y, purposeAirJitter, static_cast<std::uint32_t>(pass));
}
inline F8 jitters(int x, int y, int pass)
{
    float j[lanes];
    for (int i = 0; i < lanes; ++i)
        j[i] = jitterAt(x + i, y, pass);
    return load8(j);
}
} // namespace hygros::render
