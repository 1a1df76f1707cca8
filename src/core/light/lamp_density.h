#pragma once
/// How sampleLamp() draws directions, for those who also draw them otherwise (multiple importance sampling, Veach &
/// Guibas 1995).
#include "light/lamp.h"

namespace hygros::light {

/// Density [1/sr] with which sampleLamp() draws the direction `way` (unit) from `point`, and the distance it gives with
/// it [m]. 0 where that way does not meet the source, and for shapes that are no areas to meet: spots, tubes and
/// parallel beams. Its product with the irradiance of a sample is the source's radiance per unit of intensity, the same
/// all over it.
float directionDensity(const Lamp& lamp, const Vec3& point, const Vec3& way, float& distance);
/// Area of such a source as it is seen from its front [m²]; 0 for the other shapes.
float facingArea(const Lamp& lamp);
} // namespace hygros::light
