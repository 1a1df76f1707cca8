#pragma once
/// The sRGB transfer curve (IEC 61966-2-1), 0…1 both ways.
#include <cmath>

namespace hygros {

inline float linearOfSrgb(float c) { return c <= 0.04045f ? c / 12.92f : std::pow((c + 0.055f) / 1.055f, 2.4f); }
inline float srgbOfLinear(float c) { return c <= 0.0031308f ? 12.92f * c : 1.055f * std::pow(c, 1.f / 2.4f) - 0.055f; }
} // namespace hygros
