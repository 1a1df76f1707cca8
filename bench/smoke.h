#pragma once
/// Figures of simulated gas; the peers are OpenVDB's pressure solver on the same equations, and how fast memory moves.
#include <string>

namespace hygros::bench {

/// Pressure on a box of n³ cells, walls but for an open top, to 1e-4 of the largest right-hand side (what the
/// divergence of a plume looks like); `solids`: a plate and a ball in it. Milliseconds; the peer is
/// tools::poisson::solveWithBoundaryConditions on the same matrix; its time is 0 where it did not come so far.
struct Pressure {
    double own = 0.0, peer = 0.0;
    int iterations = 0;
};
Pressure pressure(int n, bool solids, bool withPeer);
/// Nanoseconds that a triad (a = b + c·d) needs to move 600 bytes.
double triad();
/// Nanoseconds a cell of a whole step on a full box of n³ cells.
double denseStep(int n);
/// A plume in a tall box: time of a step where all blocks are in use, by that where only those that are needed are; and
/// the share of these. Bytes a cell in use while it is simulated.
struct Sparse {
    double times = 0.0, share = 0.0, bytes = 0.0;
};
Sparse sparseStep();
} // namespace hygros::bench
