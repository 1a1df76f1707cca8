#pragma once
/// Light that a lens scatters around what is bright.
#include "shot/shot.h"

#include <vector>

namespace hygros::finish {

/// Share of a pixel's light that lies above the look's threshold, 0…1; `brightest` is its largest channel after
/// exposure and white gains.
inline float shareAbove(float brightest, float threshold)
{
    return brightest > threshold ? 1.f - threshold / brightest : 0.f;
}

/// Picture with the look's glow: of the light above `look.glowFrom` stops over white, `look.glow` leaves its pixel and
/// falls around it by a sum of Gaussian circles whose radii double from 1/540 of the picture's height up to
/// `look.glowReach` of it, each with 2^-½ of the light of the one before: about r^-2.5, as veiling glare falls off in
/// measured lenses and eyes (Vos, CIE 146:2002 gives r^-2 to r^-3). The sum of all pixels is kept but for what crosses
/// the border; beyond it the picture is taken to go on as at its edge, so that even light stays even. Independent of
/// the number of pixels and of threads. rgb: width·height·3 linear floats; not finite or negative light does not glow.
/// The picture itself if the look has no glow.
std::vector<float> glowing(const shot::Look& look, const float* rgb, int width, int height);
} // namespace hygros::finish
