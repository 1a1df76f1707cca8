#pragma once
/// Many small pictures that get better together: the contact sheet of a bracket.
///
/// Pictures that differ in their air, lamp strengths or look alone share one frame: what is seen of set and shadows is
/// looked at once for all of them, and each is a few marches more (as many as passes where its noise is another).
#include "base/job.h"
#include "shot/shot.h"

#include <cstddef>
#include <functional>
#include <memory>
#include <string>
#include <vector>

namespace hygros::render {

struct SheetTile {
    std::size_t which = 0;
    std::vector<float> rgb; ///< linear, of the size asked for; empty where there is trouble
    shot::Look look;
    int samples = 0;     ///< passes in it; 0: quick
    bool isLast = false; ///< it gets no better
    std::string trouble; ///< why there is no picture
};

struct SheetWish {
    std::size_t count = 0;
    int width = 320, height = 180; ///< of a tile
    int samples = 16;              ///< passes in the end, 1…1024
    /// The shot of a tile; called once for each. What it throws, but Cancelled, becomes the tile's trouble.
    std::function<std::shared_ptr<const shot::Shot>(std::size_t)> shot;
};

/// Calls `show` on this thread for every tile as it gets better: all coarsely first, then by passes four times as many
/// each round. Throws Cancelled.
void renderSheet(const SheetWish& wish, JobControl& job, const std::function<void(SheetTile)>& show);
} // namespace hygros::render
