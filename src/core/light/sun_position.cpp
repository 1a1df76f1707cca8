#include "light/sun_position.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <numbers>
#include <stdexcept>

namespace hygros::light {

SunPosition sunPosition(double latitude, double longitude, const std::string& date, double hour, double zone)
{
    int year = 0, month = 0, day = 0, read = 0;
    const bool whole = std::sscanf(date.c_str(), "%d-%d-%d%n", &year, &month, &day, &read) == 3 &&
                       read == static_cast<int>(date.size());
    const std::chrono::year_month_day civil{std::chrono::year(year), std::chrono::month(static_cast<unsigned>(month)),
                                            std::chrono::day(static_cast<unsigned>(day))};
    if (!whole || !civil.ok())
        throw std::invalid_argument("“" + date + "” is no date; write year-month-day as in 2026-06-21");
    constexpr double rad = std::numbers::pi / 180.0;
    // Days since noon of 1 January 2000 in universal time.
    const double days = double(std::chrono::sys_days(civil).time_since_epoch().count() -
                               std::chrono::sys_days(std::chrono::year(2000) / 1 / 1).time_since_epoch().count()) -
                        0.5 + (hour - zone) / 24.0;
    const double mean = 280.460 + 0.9856474 * days, anomaly = (357.528 + 0.9856003 * days) * rad;
    const double longitudeOfSun = (mean + 1.915 * std::sin(anomaly) + 0.020 * std::sin(2.0 * anomaly)) * rad,
                 tilt = (23.439 - 4e-7 * days) * rad;
    const double rightAscension = std::atan2(std::cos(tilt) * std::sin(longitudeOfSun), std::cos(longitudeOfSun));
    const double declination = std::asin(std::sin(tilt) * std::sin(longitudeOfSun));
    const double sidereal = (280.46062 + 360.985647 * days + longitude) * rad, hourAngle = sidereal - rightAscension,
                 lat = latitude * rad;
    const double sine = std::sin(lat) * std::sin(declination) +
                        std::cos(lat) * std::cos(declination) * std::cos(hourAngle);
    SunPosition out;
    out.elevation = std::asin(std::clamp(sine, -1.0, 1.0)) / rad;
    out.azimuth = std::atan2(-std::sin(hourAngle),
                             std::tan(declination) * std::cos(lat) - std::sin(lat) * std::cos(hourAngle)) /
                  rad;
    out.azimuth -= 360.0 * std::floor(out.azimuth / 360.0);
    // Refraction of the lower air (Sæmundsson 1986), in degrees.
    if (out.elevation > -1.0)
        out.elevation += 1.02 / 60.0 / std::tan((out.elevation + 10.3 / (out.elevation + 5.11)) * rad);
    return out;
}
} // namespace hygros::light
