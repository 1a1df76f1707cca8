#pragma once
/// Air whose warmth bends light that goes through it.
#include "media/brick_grid.h"

#include <memory>
#include <string>

namespace hygros::media {

struct HotAir {
    /// n − 1 of air for visible light at 288.15 K and 101325 Pa (P. E. Ciddor, Refractive index of air: new equations
    /// for the visible and near infrared, 1996); at even pressure it goes by the density, so by 1 ÷ temperature.
    static constexpr float refractivity = 2.77e-4f, at = 288.15f;
    std::string id;                               ///< the element it came from
    std::shared_ptr<const BrickGrid> temperature; ///< [K]; what is below `around` counts as that
    Mat4 toIndex;                                 ///< from the world to the grid's index space, row vectors
    float around = 288.f;                         ///< temperature of the air [K]
    float strength = 1.f;                         ///< of the bending; 1 is physical
    bool operator==(const HotAir&) const = default;
};
} // namespace hygros::media
