#pragma once
/// How much of the picture's light one element adds, place by place, and lines of equal share through it.
#include <QPointF>
#include <span>
#include <string>
#include <vector>

namespace hygros::app {

struct ShareMap {
    int width = 0, height = 0;
    std::vector<float> share; ///< 0…1 and more, at the cells' middles; smooth

    /// Of `part`, linear RGB of that size, in `whole`, linear RGB of another; evened over about three cells, so that
    /// noise in an element is no confetti.
    static ShareMap of(int width, int height, std::span<const float> part, int wholeWidth, int wholeHeight,
                       std::span<const float> whole);
    /// Where it equals `level`: line by line, from 0 to 1 across and down. Lines end at the edge or in themselves.
    std::vector<std::vector<QPointF>> lines(float level) const;
};
} // namespace hygros::app
