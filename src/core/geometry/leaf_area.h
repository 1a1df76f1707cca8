#pragma once
/// What leaves cover (geometry/strewn.h has their outlines).
#include "geometry/strewn.h"

namespace hygros::geometry {

/// Of the square of its length from stalk to tip; the outline's own area, worked out once.
constexpr float leafArea(LeafShape shape)
{
    return shape == LeafShape::Broad    ? 0.213f
           : shape == LeafShape::Narrow ? 0.143f
           : shape == LeafShape::Petal  ? 0.431f
           : shape == LeafShape::Ball   ? 0.785f
                                        : 0.393f;
}
} // namespace hygros::geometry
