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

/// How far what is in the middle of each cell at the end of a step has come [cells], by component.
struct Way {
    Field x, y, z;
};
void findWay(const Lattice& lattice, const Activity& activity, const Velocity& velocity, const Ambient& ambient,
             float seconds, Way& way);

/// Where values of an array stand in their cells.
enum class Stands { Middle, FaceX, FaceY, FaceZ };
/// `to` becomes `from` carried along; `between` is for its own use. `corrected`: second order. `from` may be anything
/// outside of `activity`; `to` is written in it alone.
void advect(const Lattice& lattice, const Activity& activity, const Way& way, Stands stands, const float* from,
            float* between, float* to, bool corrected = true);
} // namespace hygros::sim
