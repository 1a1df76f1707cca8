#pragma once
/// What lies scattered on the ground: leaves, petals, ash. Told at each place by itself, as thick on a square metre as
/// is wished, however large the ground is; on what faces up and is open to the sky.
#include "geometry/set_geometry.h"

#include <array>

namespace hygros::geometry {

/// Outlines, in the plane of one that lies from −1 (its stalk) to 1 (its tip) along u.
enum class LeafShape {
    Broad,  ///< as of a poplar: widest near the stalk, with a point
    Narrow, ///< as of a willow
    Petal,  ///< round, with a notch
    Scrap,  ///< torn, as ash is
    Ball,   ///< a ball of that diameter
};
bool insideLeaf(LeafShape shape, float u, float v);

struct Strewn {
    static constexpr std::size_t tints = 4;
    float share = 0.f;  ///< 0…1 of level ground under them, about
    float size = 0.06f; ///< from stalk to tip [m]
    LeafShape shape = LeafShape::Broad;
    std::array<Vec3, tints> colours = {Vec3(0.f), Vec3(0.f), Vec3(0.f), Vec3(0.f)};
    std::uint32_t seed = 1;
    bool isBare() const { return share <= 0.f; }
    bool operator==(const Strewn&) const = default;
};
/// Which colour lies there and how it is tilted; −1: none.
int strewnAt(const Strewn& strewn, const Vec3& place, const Vec3& normal, Vec3& tilted);
} // namespace hygros::geometry
