#pragma once
/// Where the sun stands for a place and a time.
#include <string>

namespace hygros::light {

struct SunPosition {
    double elevation = 0.0; ///< degrees above the horizon, refraction included
    double azimuth = 0.0;   ///< degrees clockwise from north
};
/// After the low-accuracy formulas of the Astronomical Almanac (as published by NOAA), good to a few hundredths of a
/// degree between 1950 and 2050. Latitude north and longitude east positive, degrees; `hour` is that of a clock `zone`
/// hours ahead of UTC. Throws std::invalid_argument with a sentence when `date` is not of the form 2026-06-21.
SunPosition sunPosition(double latitude, double longitude, const std::string& date, double hour, double zone);
} // namespace hygros::light
