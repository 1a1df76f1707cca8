#pragma once
#include "base/vec.h"

namespace hygros::light {
/// Linear Rec. 709 colour of a blackbody of `kelvin` (1667…25000), luminance 1. Chromaticity by the cubic fits of Kim
/// et al. 2002 to the Planckian locus.
Vec3 blackbodyColour(float kelvin);
} // namespace hygros::light
