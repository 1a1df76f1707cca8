#pragma once
/// What lies strewn on sets, for the freezing of them.
#include "elements/kinds.h"
#include "geometry/strewn.h"

namespace hygros::elements {

geometry::Strewn strewnOn(const scene::Project& project);
/// What lies of hail.
geometry::Strewn hailOn(const scene::Project& project);

/// What leaves and the like are made of.
struct Stuff {
    geometry::LeafShape shape = geometry::LeafShape::Broad;
    double kilograms = 0.1; ///< a square metre of it
    float tumble = 1.f;     ///< how often one turns over [1/s]
    std::array<Vec3, geometry::Strewn::tints> colours = {Vec3(0.f), Vec3(0.f), Vec3(0.f), Vec3(0.f)};
};
/// "leaves", "narrow leaves", "petals", "ash"; anything else: leaves.
Stuff stuffOf(const std::string& what);
} // namespace hygros::elements
