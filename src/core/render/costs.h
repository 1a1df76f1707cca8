#pragma once
/// What each lamp and each element takes of a pass, measured while it is computed.
#include <algorithm>
#include <cstdint>
#include <immintrin.h>
#include <map>
#include <string>
#include <vector>

namespace hygros::render {

/// Shares of the time of all passes so far, by element id; they need not add up to 1: what belongs to nobody is not
/// listed.
using Costs = std::map<std::string, double>;

/// The processor's own clock, fine and cheap enough for a few pixels' work.
inline std::uint64_t ticks() { return __rdtsc(); }

/// Ticks by lamp, medium and so on; one a row while it is worked on, and one for all.
struct Meter {
    std::vector<double> lamps, media;
    double bodies = 0.0, toSky = 0.0, total = 0.0;
    void prepare(std::size_t lampCount, std::size_t mediumCount)
    {
        lamps.assign(lampCount, 0.0);
        media.assign(mediumCount, 0.0);
        bodies = toSky = total = 0.0;
    }
    void add(const Meter& o)
    {
        lamps.resize(std::max(lamps.size(), o.lamps.size()), 0.0);
        media.resize(std::max(media.size(), o.media.size()), 0.0);
        for (std::size_t i = 0; i < o.lamps.size(); ++i)
            lamps[i] += o.lamps[i];
        for (std::size_t i = 0; i < o.media.size(); ++i)
            media[i] += o.media[i];
        bodies += o.bodies;
        toSky += o.toSky;
        total += o.total;
    }
};
} // namespace hygros::render
