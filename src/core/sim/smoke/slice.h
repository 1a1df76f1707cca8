#pragma once
/// A section through a gas, for the eye: one of its numbers over a grid of distances and heights, and how it moves.
#include "media/force.h"
#include "sim/smoke/gas.h"

namespace hygros::sim {

enum class Quality {
    Smoke,       ///< [g/m³]
    Temperature, ///< [K]
    Speed,       ///< of gas and air together [m/s]
    Pressure,    ///< over that of the air around, as if it did not change from step to step [Pa]; not-a-number in
                 ///< frames that do not know their step
    Fuel,        ///< share, 0…1
};

struct SliceOrder {
    Vec3 from{0.f};                        ///< distances are counted from here; its height does not matter
    Vec3 heading{0.f, 0.f, -1.f};          ///< level, length 1
    std::vector<float> distances, heights; ///< of columns and rows [m]
    Quality quality = Quality::Temperature;
    float around = 288.f; ///< temperature of the air [K]
};

struct Slice {
    /// Rows × columns, the lowest row first. Not-a-number where the gas has no cells in use.
    std::vector<float> values;
    /// Velocity in the section, along its heading and up [m/s]; with the wind. 0 where there is no gas.
    std::vector<Vec2> flow;
    float least = 0.f, most = 0.f; ///< of the values
    float fastest = 0.f;           ///< of the flow
};

/// Of the gas alone, beside the air's [m/s]; 0 where it has no cells in use.
Vec3 velocityAt(const Gas& gas, const Vec3& place);

/// Blended between cells.
Slice sliceOf(const Gas& gas, const std::vector<media::Wind>& winds, const SliceOrder& order);
} // namespace hygros::sim
