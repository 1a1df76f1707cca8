#pragma once
#include "base/vec.h"

namespace hygros::light {
/// Linear Rec. 709 colour of a blackbody of `kelvin` (1667…25000), luminance 1. Chromaticity by the cubic fits of Kim
/// et al. 2002 to the Planckian locus.
Vec3 blackbodyColour(float kelvin);
/// Radiance of a blackbody as linear Rec. 709, weighted to luminance [W/m²/sr; 1 W is 683 lm], for 400…20000 K:
/// Planck's law through the CIE 1931 observer in the closed fits of Wyman, Sloan & Shirley 2013, 5-nm steps. Deep reds
/// outside Rec. 709 have no blue.
Vec3 blackbodyRadiance(float kelvin);
/// Its CIE 1931 chromaticity.
Vec2 blackbodyChromaticity(float kelvin);
} // namespace hygros::light
