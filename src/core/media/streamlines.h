#pragma once
/// Lines along which a force moves the air, as they are at one time: what can be drawn of it.
#include "media/force.h"

#include <span>

namespace hygros::media {

struct Streamline {
    std::vector<Vec3> points; ///< at even distances, in the direction of the motion; two or more
    float speed = 0.f;        ///< at its middle [m/s]
};
/// About `count` lines spread evenly over where the force acts, by midpoints. Of a hold those of the winds, as it lets
/// them through: without any wind it has none.
std::vector<Streamline> streamlines(const Force& force, std::span<const Wind> winds, int count);
} // namespace hygros::media
