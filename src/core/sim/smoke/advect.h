#pragma once
/// How numbers over a lattice are carried along by a velocity: steps back along the way (midpoint rule), and the
/// corrected scheme of A. Selle, R. Fedkiw, B. Kim, Y. Liu, J. Rossignac, An unconditionally stable MacCormack method,
/// 2008: second order, held within the eight values that it came from.
#include "sim/smoke/lattice.h"

#include <functional>

namespace hygros::sim {

/// A velocity on the faces [m/s]; where none is set, 0.
struct Velocity {
    const float *x, *y, *z;
};
/// What moves besides, by place; null: nothing. Same units.
using Ambient = std::function<Vec3(const Vec3&)>;
/// That, taken at the corners of the blocks in use and blended between them.
class AmbientAt {
public:
    AmbientAt(const Lattice& lattice, const Activity& activity, const Ambient& ambient);
    explicit operator bool() const { return !corners_.empty(); }
    /// At a place in cells from the lattice's low corner, within a block in use.
    Vec3 at(float x, float y, float z) const;

private:
    std::array<int, 3> blocks_{};
    std::vector<Vec3> corners_; ///< z slowest
};

/// How far what is in the middle of each cell at the end of a step has come, and how far what begins there goes, by
/// component: two numbers of 16 bits in the place of one, in 4096ths of a cell. No way is longer than eight cells.
struct Way {
    Field x, y, z;
};
void findWay(const Lattice& lattice, const Activity& activity, const Velocity& velocity, const AmbientAt& ambient,
             float seconds, Way& way);

/// Values in the middles of cells: `to` becomes `from` carried along, by cubics between them (Lagrange), held within
/// the eight values around the place that each came from. `from` may be anything outside of `activity`; `to` is written
/// in it alone.
void advect(const Lattice& lattice, const Activity& activity, const Way& way, const float* from, float* to);
/// Components of a velocity on their faces, by the corrected scheme; `between` is for its own use.
void advectFaces(const Lattice& lattice, const Activity& activity, const Way& way, int axis, const float* from,
                 float* between, float* to);
} // namespace hygros::sim
