#pragma once
/// A buoy: how high the water stands over time at a place of it.
#include "elements/water.h"

#include <optional>

namespace hygros::elements {

struct BuoyWish {
    Vec2 place{0.f}; ///< over the plane [m]
    media::Swell swell;
    WaveSettings waves;
    scene::TimeSettings time;
    bool operator==(const BuoyWish& o) const
    {
        return place == o.place && swell == o.swell && waves.seed == o.waves.seed && waves.detail == o.waves.detail &&
               waves.pace == o.waves.pace && time == o.time;
    }
};
/// Of a buoy element; nothing for others and where there is no water.
std::optional<BuoyWish> buoyWish(const scene::Project& project, const scene::Element& element);
/// Heights over the level by frame, from the first to the last [m]. Of the wind's waves and swell: wakes do not count.
std::vector<double> buoyHeights(const BuoyWish& wish, Store& store, JobControl& job);

/// What a buoy measures over some minutes, and what the spectrum says it should.
struct BuoyMeasured {
    double height = 0.0, period = 0.0; ///< significant height [m]; mean period between crossings upward [s]
    double lowest = 0.0, highest = 0.0;
    static constexpr double minutes = 10.0;
    std::size_t bytes() const { return sizeof *this; }
};
std::shared_ptr<const BuoyMeasured> buoyMeasured(const BuoyWish& wish, Store& store, JobControl& job);
std::string buoyText(double height);
} // namespace hygros::elements
