#pragma once
/// Inside of the pressure solver: its grids. For pressure.cpp and pressure_setup.cpp alone.
#include "base/simd.h"
#include "sim/smoke/pressure.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {

/// A place in air or wall beside fluid, and the fluid that its value comes from.
struct PressureSolver::Ghost {
    static constexpr int most = 6;
    std::int32_t place = 0;
    int count = 0;
    float factor = 1.f;
    std::int32_t from[most] = {};
};

/// One grid of the multigrid. Rows are packed: a row's red cells from place `red`, its black ones from place `black`
/// on.
struct PressureSolver::Level {
    std::array<int, 3> n{};             ///< even along x
    int half = 0, row = 0;              ///< cells of a colour in a row; floats of a row
    Field e, r;                         ///< correction and right-hand side
    std::vector<std::uint8_t> diagonal; ///< of the finest level, packed: open faces
    Field left, below, behind, inverse; ///< of coarser levels, packed: shares of the faces that are open, 1 ÷ diagonal
    std::vector<Cell> kinds;            ///< of coarser levels, in space, with a margin of one (two rows wide along x)
    Field space;                        ///< of coarser levels: the correction in space
    std::vector<Ghost> ghosts;
    struct Run {
        int y, z, k0, k1; ///< packed places of cells in use
    };
    std::vector<Run> runs;
    std::vector<std::size_t> tasks{0, 0}; ///< where a task's runs begin

    static constexpr int pad = 4, margin = 8;
    std::size_t rowAt(int y, int z) const
    {
        return static_cast<std::size_t>(((z + 1) * (n[1] + 2) + y + 1)) * static_cast<std::size_t>(row);
    }
    std::size_t size() const
    {
        return static_cast<std::size_t>(row) * static_cast<std::size_t>((n[1] + 2) * (n[2] + 2));
    }
    int offset(int colour) const { return pad + (colour == 0 ? 0 : row / 2); }
    std::size_t spaceAt(int x, int y, int z) const
    {
        return static_cast<std::size_t>((z + 1) * (n[1] + 2) + y + 1) * static_cast<std::size_t>(n[0] + 2 * margin) +
               static_cast<std::size_t>(margin + x);
    }
    std::size_t spaceSize() const
    {
        return static_cast<std::size_t>((n[1] + 2) * (n[2] + 2)) * static_cast<std::size_t>(n[0] + 2 * margin);
    }
    void shape(const std::array<int, 3>& cells)
    {
        n = cells;
        half = n[0] / 2;
        row = 2 * (((half + lanes - 1) / lanes) * lanes + 2 * pad);
    }
    template <class Body> void each(const Body& body) const
    {
        const auto some = [&](std::size_t a, std::size_t b) {
            for (std::size_t i = tasks[a]; i < tasks[b]; ++i)
                body(runs[i]);
        };
        if (tasks.size() < 3)
            return some(0, tasks.size() - 1);
        parallelRanges(tasks.size() - 1, 1, some);
    }
    template <class Body> double sum(const Body& body) const
    {
        std::vector<double> parts(tasks.size(), 0.0);
        const auto some = [&](std::size_t a, std::size_t b) {
            for (std::size_t t = a; t < b; ++t)
                for (std::size_t i = tasks[t]; i < tasks[t + 1]; ++i)
                    parts[t] += body(runs[i]);
        };
        if (tasks.size() < 3)
            some(0, tasks.size() - 1);
        else
            parallelRanges(tasks.size() - 1, 1, some);
        double all = 0.0;
        for (const double p : parts)
            all += p;
        return all;
    }
    /// Tasks of about so many cells.
    void cut()
    {
        constexpr int enough = 8192;
        tasks = {0};
        int cells = 0;
        for (std::size_t i = 0; i < runs.size(); ++i) {
            cells += 2 * (runs[i].k1 - runs[i].k0);
            if (cells >= enough) {
                tasks.push_back(i + 1);
                cells = 0;
            }
        }
        if (tasks.back() != runs.size())
            tasks.push_back(runs.size());
        if (tasks.size() == 1)
            tasks.push_back(0);
    }
};

/// A box of cells: low to high, high not in it.
struct PressureSolver::Extent {
    std::array<int, 3> low{1 << 30, 1 << 30, 1 << 30}, high{0, 0, 0};
    void add(const std::array<int, 3>& a, const std::array<int, 3>& b)
    {
        for (std::size_t i = 0; i < 3; ++i) {
            low[i] = std::min(low[i], a[i]);
            high[i] = std::max(high[i], b[i]);
        }
    }
    void add(const Extent& o) { add(o.low, o.high); }
    Extent halved() const
    {
        Extent out;
        for (std::size_t i = 0; i < 3; ++i) {
            out.low[i] = low[i] / 2;
            out.high[i] = (high[i] + 1) / 2;
        }
        return out;
    }
};

struct PressureSolver::Parts {
    Lattice lattice;
    std::vector<Level> levels;
    Field pressure, direction, turned; ///< of the finest level: the pressure, the direction, the matrix times it
    std::vector<std::int32_t> region;  ///< by space of the finest level; of regions without air
    std::int32_t regions = 0;
    Extent last;
    bool isSetUp = false;

    void coarsen(const Level& fine, Level& coarse, std::size_t level, const Extent& changed,
                 const std::vector<Cell>& kinds);
    void smooth(Level& l, int colour, bool fromNothing) const;
    void restrictTo(const Level& fine, Level& coarse) const;
    void prolong(Level& coarse, Level& fine) const;
    void cycle(std::size_t level);
    void multiply(const Field& in, Field& out) const;
    void findRegions(const std::vector<Cell>& kinds);
    void settleRegions();
    bool isFinest(const Level& l) const { return &l == levels.data(); }
};

} // namespace hygros::sim
