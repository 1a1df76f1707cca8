#pragma once
/// Motion that neither makes nor loses air: the curl of three noises (R. Bridson et al., Curl-noise for procedural
/// fluid flow, SIGGRAPH 2007), from the noises' own slopes, at eight places at once.
#include "media/wind.h"

namespace hygros::media {

/// octaves8() and its slope along each axis [1/m], exact where it is not held at ±1.
F8 octavesSlope8(const Noise& noise, F8 x, F8 y, F8 z, F8 slope[3]);

/// What a potential is multiplied with at a place, and its slope [1/m].
struct Weight8 {
    F8 value, slope[3];
};
/// Standard deviation of a component of the curl of three gustPattern()s of scale 1 (measured over 10⁵ places), by
/// differences over a twenty-fifth of the scale, as cells of gas take it.
inline constexpr float spreadOfCurl = 0.907f;
/// The same by their slopes.
inline constexpr float spreadOfSlopes = 0.914f;
/// Curl of three patterns of different seeds, each weighted, times the pattern's scale and by spreadOfSlopes: each
/// component has a standard deviation of about 1 where weights are 1.
void curl8(const Noise& pattern, F8 x, F8 y, F8 z, const Weight8 weights[3], F8 out[3]);

/// What gusts add to the mean of a wind at eight places [m/s].
void gusts8(const Wind& wind, F8 x, F8 y, F8 z, F8 out[3]);
/// The mean of a wind at eight heights, as a share of its velocity.
F8 meanShare8(const Wind& wind, F8 y);
} // namespace hygros::media
