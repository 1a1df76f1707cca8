#pragma once
/// The cells in which things that fall stand (media/falling.h), for those who ask for many of them at once.
#include "media/falling.h"

#include <array>

namespace hygros::media {

/// Cells of a class at a moment: cubes of `side` [m], one of whose corners is at `rest`. A box whose sides lie between
/// them holds whole cells, so that no cell is worked out for two boxes.
struct FallingGrid {
    float side = 1.f;
    std::array<double, 3> whole{}; ///< cells that they have come by
    Vec3 rest{0.f};                ///< and the rest of the way [m]
};
FallingGrid gridOf(const Falling& falling, std::size_t ofClass, std::size_t moment);
} // namespace hygros::media
