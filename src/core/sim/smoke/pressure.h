#pragma once
/// The pressure that takes the divergence out of a velocity: conjugate gradients, each step prepared by one V-cycle of
/// a multigrid (W. L. Briggs, V. E. Henson, S. F. McCormick, A Multigrid Tutorial, 2000; A. McAdams, E. Sifakis, J.
/// Teran, A parallel multigrid Poisson solver for fluids, 2010), flexible in its directions (Y. Notay, 2000) because
/// restriction and prolongation are not each other's transpose.
///
/// Cells are fluid, air (pressure 0 at their middle) or solid (nothing passes). Smoothing is Gauss–Seidel by colours of
/// a chessboard; each colour of a row lies together, so that all is done eight at a time.
#include "sim/smoke/lattice.h"

#include <memory>

namespace hygros::sim {

enum class Cell : std::uint8_t { Air, Fluid, Solid };

/// Kinds of all cells of a lattice, its margin included: what lies around it is air or wall by side.
struct CellKinds {
    std::vector<Cell> kinds; ///< by Lattice::at()
    bool anySolid = false;   ///< within the cells in use
    bool sealed = false;     ///< walls on all sides
    /// Fluid in what is in use, air elsewhere; `closed`: low x, high x, low y, … are walls.
    static CellKinds of(const Lattice& lattice, const Activity& activity, const std::array<bool, 6>& closed);
};

class PressureSolver {
public:
    explicit PressureSolver(const Lattice& lattice);
    ~PressureSolver();
    PressureSolver(PressureSolver&&) noexcept;
    /// After what is in use or what is solid has changed.
    void setUp(const Activity& activity, const CellKinds& cells);

    /// The right-hand side of a row of fluid, x from x0 to x1: −h·(divergence of the velocity − the one wanted) [m/s].
    /// What comes out is then taken from the velocity by its differences (times density and cell, by the time step, it
    /// is a pressure in pascals). `row` points at x0.
    void setRow(int x0, int x1, int y, int z, const float* row);
    /// Pressures of a row, from x0 on; other rows, air and walls give 0.
    void row(int x0, int x1, int y, int z, float* out) const;

    struct Result {
        int iterations = 0;
        float residual = 0.f; ///< largest left, as a share of the largest on the right-hand side
    };
    /// Until no residual is over `tolerance` of the largest right-hand side. What sealed regions gain or lose without a
    /// way out is taken from the right-hand side first: no pressure could undo it.
    Result solve(float tolerance, int most);
    std::size_t bytes() const;

private:
    struct Ghost;
    struct Extent;
    struct Level;
    struct Parts;
    std::unique_ptr<Parts> p_;
};
} // namespace hygros::sim
