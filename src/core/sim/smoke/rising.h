#pragma once
/// How strongly a gas rises, for what it does to the air around.
#include "sim/smoke/gas.h"

namespace hygros::sim {

struct Rising {
    Vec3 foot{0.f};     ///< middle of what is warm at its lowest [m]
    float radius = 0.f; ///< of what is warm there [m]
    double buoyancy = 0; ///< flux of buoyancy through a level, its mean over the heights by itself [m⁴/s³]: ∫g·(1 −
                         ///< T₀/T)·w dA; 0: nothing warm rises
};
/// `around`: temperature of the air [K].
Rising risingOf(const Gas& gas, float around);
} // namespace hygros::sim
