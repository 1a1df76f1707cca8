#include "sim/smoke/pressure.h"

#include "base/simd.h"

#include <algorithm>
#include <cmath>

namespace hygros::sim {
namespace {
/// Adds two packed halves of a row as they lie in space: red has even places if `parity` is 0.
void unpack(const float* red, const float* black, int parity, int half, float* out)
{
    const float* even = parity == 0 ? red : black;
    const float* odd = parity == 0 ? black : red;
    int k = 0;
    for (; k + lanes <= half; k += lanes) {
        const F8 a = load8(even + k), b = load8(odd + k);
        const F8 lo = _mm256_unpacklo_ps(a, b), hi = _mm256_unpackhi_ps(a, b);
        store8(out + 2 * k, _mm256_permute2f128_ps(lo, hi, 0x20));
        store8(out + 2 * k + 8, _mm256_permute2f128_ps(lo, hi, 0x31));
    }
    for (; k < half; ++k) {
        out[2 * k] = even[k];
        out[2 * k + 1] = odd[k];
    }
}
void pack(const float* in, int parity, int half, float* red, float* black)
{
    float* even = parity == 0 ? red : black;
    float* odd = parity == 0 ? black : red;
    for (int k = 0; k < half; ++k) {
        even[k] = in[2 * k];
        odd[k] = in[2 * k + 1];
    }
}
/// 1 ÷ number of open faces; of none 0: such a cell has no pressure.
F8 inverseOf(const std::uint8_t* diagonal)
{
    static const F8 table = {0.f, 1.f, 1.f / 2, 1.f / 3, 1.f / 4, 1.f / 5, 1.f / 6, 0.f};
    const __m256i index = _mm256_cvtepu8_epi32(_mm_loadl_epi64(reinterpret_cast<const __m128i*>(diagonal)));
    return _mm256_permutevar8x32_ps(table, index);
}
F8 diagonalOf(const std::uint8_t* diagonal)
{
    return _mm256_cvtepi32_ps(_mm256_cvtepu8_epi32(_mm_loadl_epi64(reinterpret_cast<const __m128i*>(diagonal))));
}
} // namespace

CellKinds CellKinds::of(const Lattice& l, const Activity& activity, const std::array<bool, 6>& closed)
{
    CellKinds out;
    out.sealed = std::all_of(closed.begin(), closed.end(), [](bool c) { return c; });
    out.kinds.assign(l.size(), Cell::Air);
    activity.rows([&](int x0, int x1, int y, int z) {
        std::fill(out.kinds.begin() + l.at(x0, y, z), out.kinds.begin() + l.at(x1, y, z), Cell::Fluid);
    });
    for (int z = -1; z <= l.n[2]; ++z)
        for (int y = -1; y <= l.n[1]; ++y) {
            const bool wall = (closed[2] && y < 0) || (closed[3] && y == l.n[1]) || (closed[4] && z < 0) ||
                              (closed[5] && z == l.n[2]);
            Cell* row = &out.kinds[static_cast<std::size_t>(l.at(0, y, z))];
            if (wall)
                std::fill(row - 1, row + l.n[0] + 1, Cell::Solid);
            if (closed[0])
                row[-1] = Cell::Solid;
            if (closed[1])
                row[l.n[0]] = Cell::Solid;
        }
    return out;
}

namespace {
/// A place in air or wall beside fluid, and the fluid that its value comes from.
struct Ghost {
    static constexpr int most = 6;
    std::int32_t place = 0;
    int count = 0;
    float factor = 1.f;
    std::int32_t from[most] = {};
};
} // namespace

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

namespace {
/// A box of cells: low to high, high not in it.
struct Extent {
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
} // namespace

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

PressureSolver::PressureSolver(const Lattice& lattice) : p_(std::make_unique<Parts>())
{
    p_->lattice = lattice;
    auto& levels = p_->levels;
    levels.emplace_back();
    levels[0].shape(lattice.n);
    levels[0].diagonal.assign(levels[0].size(), 0);
    for (Field* f : {&p_->pressure, &p_->direction, &p_->turned, &levels[0].e, &levels[0].r})
        *f = Field(levels[0].size());
    while (std::max({levels.back().n[0], levels.back().n[1], levels.back().n[2]}) > 4 && levels.size() < 12) {
        const Level& from = levels.back();
        Level coarse;
        coarse.shape({((from.n[0] + 1) / 2 + 1) / 2 * 2, (from.n[1] + 1) / 2, (from.n[2] + 1) / 2});
        coarse.kinds.assign(coarse.spaceSize(), Cell::Solid);
        coarse.space = Field(coarse.spaceSize());
        for (Field* f : {&coarse.e, &coarse.r, &coarse.left, &coarse.below, &coarse.behind, &coarse.inverse})
            *f = Field(coarse.size());
        levels.push_back(std::move(coarse));
    }
}
PressureSolver::~PressureSolver() = default;
PressureSolver::PressureSolver(PressureSolver&&) noexcept = default;

namespace {
/// The share of a face between two fine cells that lets through.
float open(Cell a, Cell b) { return a == Cell::Solid || b == Cell::Solid ? 0.f : 1.f; }
} // namespace

void PressureSolver::setUp(const Activity& activity, const CellKinds& cells)
{
    const Lattice& l = p_->lattice;
    auto& levels = p_->levels;
    Level& fine = levels[0];
    // What was in use and is no more reads as nothing.
    fine.each([&](const Level::Run& run) {
        for (int colour = 0; colour < 2; ++colour) {
            const std::size_t i = fine.rowAt(run.y, run.z) + static_cast<std::size_t>(fine.offset(colour) + run.k0);
            for (Field* f : {&fine.e, &p_->direction, &p_->pressure})
                std::fill_n(f->data() + i, run.k1 - run.k0, 0.f);
            std::fill_n(fine.diagonal.data() + i, run.k1 - run.k0, std::uint8_t{0});
        }
    });
    fine.runs.clear();
    Extent now;
    for (const Activity::Span& s : activity.spans()) {
        now.add({s.first * 8, s.by * 8, s.bz * 8}, {s.end * 8, s.by * 8 + 8, s.bz * 8 + 8});
        for (int z = s.bz * 8; z < s.bz * 8 + 8; ++z)
            for (int y = s.by * 8; y < s.by * 8 + 8; ++y)
                fine.runs.push_back({y, z, s.first * 4, s.end * 4});
    }
    fine.cut();
    const Cell* kinds = cells.kinds.data();
    fine.each([&](const Level::Run& run) {
        for (int x = 2 * run.k0; x < 2 * run.k1; ++x) {
            const std::ptrdiff_t i = l.at(x, run.y, run.z);
            if (kinds[i] != Cell::Fluid)
                continue;
            int faces = 0;
            for (const std::ptrdiff_t by : {std::ptrdiff_t{1}, static_cast<std::ptrdiff_t>(l.row()), l.plane()})
                faces += (kinds[i - by] != Cell::Solid) + (kinds[i + by] != Cell::Solid);
            const int colour = (x + run.y + run.z) & 1;
            fine.diagonal[fine.rowAt(run.y, run.z) + static_cast<std::size_t>(fine.offset(colour) + x / 2)] =
                static_cast<std::uint8_t>(faces);
        }
    });
    // Where anything is in use now or was the last time, with what lies around it; at first everywhere.
    Extent changed = p_->isSetUp ? now : Extent{{0, 0, 0}, l.n};
    changed.add(p_->last);
    p_->last = now;
    p_->isSetUp = true;
    for (std::size_t i = 1; i < levels.size(); ++i) {
        changed = changed.halved();
        p_->coarsen(levels[i - 1], levels[i], i, changed, i == 1 ? cells.kinds : levels[i - 1].kinds);
    }
    p_->region.clear();
    p_->regions = 0;
    if (cells.anySolid || cells.sealed)
        p_->findRegions(cells.kinds);
}

void PressureSolver::Parts::coarsen(const Level& fine, Level& coarse, std::size_t level, const Extent& changed,
                                    const std::vector<Cell>& kinds)
{
    const bool finest = level == 1;
    const auto fineAt = [&](int x, int y, int z) {
        return finest ? static_cast<std::size_t>(lattice.at(x, y, z)) : fine.spaceAt(x, y, z);
    };
    const auto kindAt = [&](int x, int y, int z) {
        return x < -1 || y < -1 || z < -1 || x > fine.n[0] || y > fine.n[1] || z > fine.n[2] ? Cell::Solid
                                                                                             : kinds[fineAt(x, y, z)];
    };
    const auto overRows = [&](int more, const auto& body) {
        const int z0 = std::max(-1, changed.low[2] - 1), z1 = std::min(coarse.n[2] + more, changed.high[2] + 1 + more),
                  y0 = std::max(-1, changed.low[1] - 1), y1 = std::min(coarse.n[1] + more, changed.high[1] + 1 + more);
        parallelRanges(static_cast<std::size_t>(std::max(0, z1 - z0)), 4, [&](std::size_t from, std::size_t to) {
            for (int z = z0 + static_cast<int>(from); z < z0 + static_cast<int>(to); ++z)
                for (int y = y0; y < y1; ++y)
                    body(y, z);
        });
    };
    const int x0 = std::max(-1, changed.low[0] - 1), x1 = std::min(coarse.n[0], changed.high[0] + 1);
    // Kinds, in the margin too: it stands for what lies there.
    overRows(1, [&](int y, int z) {
        for (int x = x0; x <= x1; ++x) {
            const auto clampTo = [](int v, int most) { return std::clamp(v, -1, most); };
            int fluid = 0, air = 0;
            for (int c = 0; c < 8; ++c) {
                const Cell k = kindAt(clampTo(2 * x + (c & 1), fine.n[0]), clampTo(2 * y + ((c >> 1) & 1), fine.n[1]),
                                      clampTo(2 * z + (c >> 2), fine.n[2]));
                fluid += k == Cell::Fluid;
                air += k == Cell::Air;
            }
            coarse.kinds[coarse.spaceAt(x, y, z)] = fluid > 0 ? Cell::Fluid : air > 0 ? Cell::Air : Cell::Solid;
        }
    });
    // Faces: the mean of the four that make one up.
    const auto fineFace = [&](int axis, int x, int y, int z) { // the low one of a fine cell
        if (finest)
            return open(kindAt(x, y, z), kindAt(x - (axis == 0), y - (axis == 1), z - (axis == 2)));
        if (x < 0 || y < 0 || z < 0 || x > fine.n[0] || y > fine.n[1] || z > fine.n[2])
            return 0.f;
        const Field& f = axis == 0 ? fine.left : axis == 1 ? fine.below : fine.behind;
        return f.data()[fine.rowAt(y, z) + static_cast<std::size_t>(fine.offset((x + y + z) & 1) + x / 2)];
    };
    overRows(1, [&](int y, int z) {
        for (int x = x0; x <= x1; ++x) {
            float face[3] = {0, 0, 0};
            for (int c = 0; c < 4; ++c) {
                const int a = c & 1, b = c >> 1;
                face[0] += 0.25f * fineFace(0, 2 * x, 2 * y + a, 2 * z + b);
                face[1] += 0.25f * fineFace(1, 2 * x + a, 2 * y, 2 * z + b);
                face[2] += 0.25f * fineFace(2, 2 * x + a, 2 * y + b, 2 * z);
            }
            if (x < 0 || y < 0 || z < 0)
                continue;
            const std::size_t i = coarse.rowAt(y, z) + static_cast<std::size_t>(coarse.offset((x + y + z) & 1) + x / 2);
            coarse.left.data()[i] = face[0];
            coarse.below.data()[i] = face[1];
            coarse.behind.data()[i] = face[2];
        }
    });
    // The pressure is 0 half a finest cell beyond the face to air.
    const float width = static_cast<float>(1 << level);
    const float toAir = 2.f * width / (width + 1.f);
    float* inverse = coarse.inverse.data();
    const auto at = [&](int x, int y, int z) {
        return coarse.rowAt(y, z) + static_cast<std::size_t>(coarse.offset((x + y + z) & 1) + x / 2);
    };
    coarse.runs.clear();
    std::vector<Level::Run> runs(static_cast<std::size_t>(coarse.n[1] * coarse.n[2]), Level::Run{0, 0, 0, 0});
    overRows(0, [&](int y, int z) {
        if (y < 0 || z < 0 || y >= coarse.n[1] || z >= coarse.n[2])
            return;
        int first = -1, end = -1;
        for (int x = std::max(0, x0); x < std::min(coarse.n[0], x1 + 1); ++x) {
            const std::size_t i = at(x, y, z);
            inverse[i] = coarse.e.data()[i] = 0.f;
            if (coarse.kinds[coarse.spaceAt(x, y, z)] != Cell::Fluid)
                continue;
            const auto share = [&](const Field& f, int fx, int fy, int fz, int nx, int ny, int nz) {
                const float o = f.data()[at(fx, fy, fz)];
                return coarse.kinds[coarse.spaceAt(nx, ny, nz)] == Cell::Air ? o * toAir : o;
            };
            const float diagonal = share(coarse.left, x, y, z, x - 1, y, z) +
                                   share(coarse.left, x + 1, y, z, x + 1, y, z) +
                                   share(coarse.below, x, y, z, x, y - 1, z) +
                                   share(coarse.below, x, y + 1, z, x, y + 1, z) +
                                   share(coarse.behind, x, y, z, x, y, z - 1) +
                                   share(coarse.behind, x, y, z + 1, x, y, z + 1);
            if (diagonal > 0.f) {
                inverse[i] = 1.f / diagonal;
                first = first < 0 ? x / 2 : first;
                end = x / 2;
            }
        }
        if (first >= 0)
            runs[static_cast<std::size_t>(z * coarse.n[1] + y)] = {y, z, first, end + 1};
    });
    for (const Level::Run& run : runs)
        if (run.k1 > run.k0)
            coarse.runs.push_back(run);
    coarse.cut();
    // Values for what lies around, so that cubes of eight can be blended there too: behind a wall the pressure before
    // it, in air what makes it 0 where the air begins.
    const float mirrored = -(width - 1.f) / (width + 1.f);
    std::vector<std::vector<Ghost>> found(static_cast<std::size_t>(coarse.n[2] + 2));
    const auto rowOfGhosts = [&](int y, int z) {
        for (int x = x0; x <= x1; ++x) {
            const std::size_t place = coarse.spaceAt(x, y, z);
            if (coarse.kinds[place] == Cell::Fluid)
                continue;
            Ghost ghost;
            ghost.place = static_cast<std::int32_t>(place);
            ghost.factor = coarse.kinds[place] == Cell::Air ? mirrored : 1.f;
            for (int reach = 1; reach <= 3 && ghost.count == 0; ++reach) // over faces first, then edges, then corners
                for (int c = 0; c < 27; ++c) {
                    const int dx = c % 3 - 1, dy = c / 3 % 3 - 1, dz = c / 9 - 1, nx = x + dx, ny = y + dy, nz = z + dz;
                    if (std::abs(dx) + std::abs(dy) + std::abs(dz) != reach || nx < 0 || ny < 0 || nz < 0 ||
                        nx >= coarse.n[0] || ny >= coarse.n[1] || nz >= coarse.n[2] || ghost.count == Ghost::most)
                        continue;
                    const std::size_t near = coarse.spaceAt(nx, ny, nz);
                    if (coarse.kinds[near] == Cell::Fluid)
                        ghost.from[ghost.count++] = static_cast<std::int32_t>(near);
                }
            if (ghost.count > 0)
                found[static_cast<std::size_t>(z + 1)].push_back(ghost);
        }
    };
    const int z0 = std::max(-1, changed.low[2] - 1), z1 = std::min(coarse.n[2], changed.high[2] + 1);
    parallelRanges(static_cast<std::size_t>(std::max(0, z1 - z0 + 1)), 2, [&](std::size_t from, std::size_t to) {
        for (int z = z0 + static_cast<int>(from); z < z0 + static_cast<int>(to); ++z)
            for (int y = std::max(-1, changed.low[1] - 1); y <= std::min(coarse.n[1], changed.high[1] + 1); ++y)
                rowOfGhosts(y, z);
    });
    coarse.ghosts.clear();
    for (const auto& some : found)
        coarse.ghosts.insert(coarse.ghosts.end(), some.begin(), some.end());
}

void PressureSolver::Parts::smooth(Level& l, int colour, bool fromNothing) const
{
    const bool finest = isFinest(l);
    float* z = l.e.data();
    const float* r = l.r.data();
    const std::size_t up = static_cast<std::size_t>(l.row), deep = up * static_cast<std::size_t>(l.n[1] + 2);
    l.each([&](const Level::Run& run) {
        const std::size_t base = l.rowAt(run.y, run.z);
        const int odd = (run.y + run.z + colour) & 1;
        const std::size_t own = base + static_cast<std::size_t>(l.offset(colour)),
                          other = base + static_cast<std::size_t>(l.offset(1 - colour));
        const float* o = z + other;
        const int toLeft = odd ? 0 : -1, toRight = odd ? 1 : 0;
        for (int k = run.k0; k < run.k1; k += lanes) {
            const std::size_t i = own + static_cast<std::size_t>(k);
            const F8 inverse = finest ? inverseOf(&l.diagonal[i]) : load8(l.inverse.data() + i);
            if (fromNothing) {
                store8(z + i, load8(r + i) * inverse);
                continue;
            }
            const float* p = o + k;
            F8 s = load8(r + i);
            if (finest) {
                s += (load8(p + toLeft) + load8(p + toRight)) + (load8(p - up) + load8(p + up)) +
                     (load8(p - deep) + load8(p + deep));
            } else {
                const std::size_t j = other + static_cast<std::size_t>(k);
                s += load8(p + toLeft) * load8(l.left.data() + i) +
                     load8(p + toRight) * load8(l.left.data() + j + toRight) +
                     load8(p - up) * load8(l.below.data() + i) + load8(p + up) * load8(l.below.data() + j + up) +
                     load8(p - deep) * load8(l.behind.data() + i) + load8(p + deep) * load8(l.behind.data() + j + deep);
            }
            store8(z + i, s * inverse);
        }
    });
}

void PressureSolver::Parts::restrictTo(const Level& fine, Level& coarse) const
{
    // Black has been smoothed last: what is left stands on red alone, one of two cells along x.
    const bool finest = isFinest(fine);
    const float *z = fine.e.data(), *r = fine.r.data();
    const std::size_t up = static_cast<std::size_t>(fine.row), deep = up * static_cast<std::size_t>(fine.n[1] + 2);
    coarse.each([&](const Level::Run& run) {
        alignas(32) float sums[2048];
        const int k0 = 2 * run.k0, k1 = std::min(2 * run.k1, fine.half);
        std::fill(sums, sums + 2 * run.k1 + lanes - k0 + lanes, 0.f);
        for (int c = 0; c < 4; ++c) {
            const int y = 2 * run.y + (c & 1), zz = 2 * run.z + (c >> 1);
            if (y >= fine.n[1] || zz >= fine.n[2])
                continue;
            const std::size_t base = fine.rowAt(y, zz), own = base + static_cast<std::size_t>(fine.offset(0)),
                              other = base + static_cast<std::size_t>(fine.offset(1));
            const int odd = (y + zz) & 1, toLeft = odd ? 0 : -1, toRight = odd ? 1 : 0;
            for (int k = k0; k < k1; k += lanes) {
                const std::size_t i = own + static_cast<std::size_t>(k), j = other + static_cast<std::size_t>(k);
                const float* p = z + j;
                F8 s;
                if (finest) {
                    const F8 diagonal = diagonalOf(&fine.diagonal[i]);
                    s = load8(r + i) - diagonal * load8(z + i) + (load8(p + toLeft) + load8(p + toRight)) +
                        (load8(p - up) + load8(p + up)) + (load8(p - deep) + load8(p + deep));
                    s = select(diagonal > 0.f, s, f8(0.f));
                } else {
                    const F8 inverse = load8(fine.inverse.data() + i);
                    s = load8(r + i) + load8(p + toLeft) * load8(fine.left.data() + i) +
                        load8(p + toRight) * load8(fine.left.data() + j + toRight) +
                        load8(p - up) * load8(fine.below.data() + i) +
                        load8(p + up) * load8(fine.below.data() + j + up) +
                        load8(p - deep) * load8(fine.behind.data() + i) +
                        load8(p + deep) * load8(fine.behind.data() + j + deep);
                    s = select(inverse > 0.f, s - load8(z + i) / max8(inverse, f8(1e-20f)), f8(0.f));
                }
                store8(sums + (k - k0), load8(sums + (k - k0)) + s);
            }
        }
        for (int k = k1; k < 2 * run.k1; ++k)
            sums[k - k0] = 0.f;
        for (int k = run.k0; k < run.k1; ++k) {
            const std::size_t base = coarse.rowAt(run.y, run.z);
            const int odd = (run.y + run.z) & 1; // red stands at odd places of odd rows
            const float red = sums[2 * (k - run.k0) + odd], black = sums[2 * (k - run.k0) + 1 - odd];
            float* out = coarse.r.data() + base;
            const std::size_t i = static_cast<std::size_t>(coarse.offset(0) + k),
                              j = static_cast<std::size_t>(coarse.offset(1) + k);
            out[i] = 0.5f * red;
            out[j] = 0.5f * black;
        }
    });
}

void PressureSolver::Parts::prolong(Level& coarse, Level& fine) const
{
    float* space = coarse.space.data();
    coarse.each([&](const Level::Run& run) {
        const float* z = coarse.e.data() + coarse.rowAt(run.y, run.z);
        unpack(z + coarse.offset(0) + run.k0, z + coarse.offset(1) + run.k0, (run.y + run.z) & 1, run.k1 - run.k0,
               space + coarse.spaceAt(2 * run.k0, run.y, run.z));
    });
    for (const Ghost& ghost : coarse.ghosts) {
        float sum = 0.f;
        for (int i = 0; i < ghost.count; ++i)
            sum += space[ghost.from[i]];
        space[ghost.place] = sum * ghost.factor / static_cast<float>(ghost.count);
    }
    const bool finest = isFinest(fine);
    fine.each([&](const Level::Run& run) {
        alignas(32) float between[2048];
        const int y = run.y >> 1, z = run.z >> 1, dy = run.y & 1 ? 1 : -1, dz = run.z & 1 ? 1 : -1;
        const float* a = space + coarse.spaceAt(run.k0, y, z);
        const float* b = space + coarse.spaceAt(run.k0, y + dy, z);
        const float* c = space + coarse.spaceAt(run.k0, y, z + dz);
        const float* d = space + coarse.spaceAt(run.k0, y + dy, z + dz);
        const int count = run.k1 - run.k0;
        for (int k = -1; k <= count; k += lanes)
            store8(between + 8 + k,
                   load8(a + k) * (9.f / 16) + (load8(b + k) + load8(c + k)) * (3.f / 16) + load8(d + k) * (1.f / 16));
        for (int colour = 0; colour < 2; ++colour) {
            const int side = (run.y + run.z + colour) & 1 ? 1 : -1;
            const std::size_t own = fine.rowAt(run.y, run.z) + static_cast<std::size_t>(fine.offset(colour) + run.k0);
            float* out = fine.e.data() + own;
            for (int k = 0; k < count; k += lanes) {
                const F8 by = load8(between + 8 + k) * 0.75f + load8(between + 8 + k + side) * 0.25f;
                const F8 inUse = finest ? diagonalOf(&fine.diagonal[own + static_cast<std::size_t>(k)])
                                        : load8(fine.inverse.data() + own + k);
                store8(out + k, load8(out + k) + select(inUse > 0.f, by, f8(0.f)));
            }
        }
    });
}

void PressureSolver::Parts::cycle(std::size_t level)
{
    Level& l = levels[level];
    smooth(l, 0, true);
    smooth(l, 1, false);
    if (level + 1 == levels.size()) {
        for (int i = 0; i < 12; ++i) {
            smooth(l, i & 1 ? 1 : 0, false);
        }
        return;
    }
    smooth(l, 0, false);
    smooth(l, 1, false);
    restrictTo(l, levels[level + 1]);
    cycle(level + 1);
    prolong(levels[level + 1], l);
    // The other way round, so that the whole is alike from both sides.
    smooth(l, 1, false);
    smooth(l, 0, false);
    smooth(l, 1, false);
    smooth(l, 0, false);
}

void PressureSolver::Parts::multiply(const Field& in, Field& out) const
{
    const Level& l = levels[0];
    const std::size_t up = static_cast<std::size_t>(l.row), deep = up * static_cast<std::size_t>(l.n[1] + 2);
    l.each([&](const Level::Run& run) {
        const std::size_t base = l.rowAt(run.y, run.z);
        for (int colour = 0; colour < 2; ++colour) {
            const int odd = (run.y + run.z + colour) & 1, toLeft = odd ? 0 : -1, toRight = odd ? 1 : 0;
            const std::size_t own = base + static_cast<std::size_t>(l.offset(colour) + run.k0);
            const float* p = in.data() + base + static_cast<std::size_t>(l.offset(1 - colour) + run.k0);
            const float* v = in.data() + own;
            float* o = out.data() + own;
            for (int k = 0; k < run.k1 - run.k0; k += lanes, p += lanes) {
                const F8 diagonal = diagonalOf(&l.diagonal[own + static_cast<std::size_t>(k)]);
                const F8 s = diagonal * load8(v + k) -
                             ((load8(p + toLeft) + load8(p + toRight)) + (load8(p - up) + load8(p + up)) +
                              (load8(p - deep) + load8(p + deep)));
                store8(o + k, select(diagonal > 0.f, s, f8(0.f)));
            }
        }
    });
}

void PressureSolver::setRow(int x0, int x1, int y, int z, const float* row)
{
    Level& l = p_->levels[0];
    float* r = l.r.data() + l.rowAt(y, z);
    const int half = (x1 - x0) / 2;
    float *red = r + l.offset(0) + x0 / 2, *black = r + l.offset(1) + x0 / 2;
    pack(row, (y + z) & 1, half, red, black);
    const std::uint8_t* d = l.diagonal.data() + l.rowAt(y, z);
    for (int k = 0; k < half; ++k) {
        if (!d[l.offset(0) + x0 / 2 + k])
            red[k] = 0.f;
        if (!d[l.offset(1) + x0 / 2 + k])
            black[k] = 0.f;
    }
}

void PressureSolver::row(int x0, int x1, int y, int z, float* out) const
{
    const Level& l = p_->levels[0];
    const float* x = p_->pressure.data() + l.rowAt(y, z);
    unpack(x + l.offset(0) + x0 / 2, x + l.offset(1) + x0 / 2, (y + z) & 1, (x1 - x0) / 2, out);
}

void PressureSolver::Parts::findRegions(const std::vector<Cell>& kinds)
{
    // Regions of fluid by flooding; those that touch air have a pressure of their own and are not kept.
    const Lattice& l = lattice;
    region.assign(l.size(), -1);
    std::vector<std::ptrdiff_t> stack, all;
    const std::ptrdiff_t by[3] = {1, l.row(), l.plane()};
    for (const Level::Run& run : levels[0].runs)
        for (int x = 2 * run.k0; x < 2 * run.k1; ++x) {
            const std::ptrdiff_t start = l.at(x, run.y, run.z);
            if (kinds[static_cast<std::size_t>(start)] != Cell::Fluid || region[static_cast<std::size_t>(start)] != -1)
                continue;
            bool airy = false;
            all.clear();
            stack = {start};
            region[static_cast<std::size_t>(start)] = regions;
            while (!stack.empty()) {
                const std::ptrdiff_t i = stack.back();
                stack.pop_back();
                all.push_back(i);
                for (const std::ptrdiff_t step : by)
                    for (const std::ptrdiff_t j : {i - step, i + step}) {
                        const Cell k = kinds[static_cast<std::size_t>(j)];
                        airy = airy || k == Cell::Air;
                        if (k == Cell::Fluid && region[static_cast<std::size_t>(j)] == -1) {
                            region[static_cast<std::size_t>(j)] = regions;
                            stack.push_back(j);
                        }
                    }
            }
            if (airy)
                for (const std::ptrdiff_t i : all)
                    region[static_cast<std::size_t>(i)] = -2;
            else
                ++regions;
        }
    if (regions == 0)
        region = {};
}

void PressureSolver::Parts::settleRegions()
{
    if (regions == 0)
        return;
    Level& l = levels[0];
    std::vector<double> sum(static_cast<std::size_t>(regions), 0.0), count(static_cast<std::size_t>(regions), 0.0);
    const auto each = [&](const auto& body) {
        for (const Level::Run& run : l.runs)
            for (int x = 2 * run.k0; x < 2 * run.k1; ++x)
                if (const std::int32_t g = region[static_cast<std::size_t>(lattice.at(x, run.y, run.z))]; g >= 0) {
                    const std::size_t i = l.rowAt(run.y, run.z) +
                                          static_cast<std::size_t>(l.offset((x + run.y + run.z) & 1) + x / 2);
                    if (l.diagonal[i])
                        body(static_cast<std::size_t>(g), l.r.data()[i]);
                }
    };
    each([&](std::size_t g, float& v) {
        sum[g] += static_cast<double>(v);
        ++count[g];
    });
    each([&](std::size_t g, float& v) { v -= static_cast<float>(sum[g] / count[g]); });
}

PressureSolver::Result PressureSolver::solve(float tolerance, int most)
{
    Parts& p = *p_;
    Level& l = p.levels[0];
    p.settleRegions();
    const auto overBoth = [&](const auto& body) {
        return [&, body](const Level::Run& run) {
            double s = 0.0;
            for (int colour = 0; colour < 2; ++colour)
                s += body(l.rowAt(run.y, run.z) + static_cast<std::size_t>(l.offset(colour) + run.k0), run.k1 - run.k0);
            return s;
        };
    };
    const auto dot = [&](const Field& a, const Field& b) {
        return l.sum(overBoth([&](std::size_t i, int count) {
            F8 s{};
            for (int k = 0; k < count; k += lanes)
                s += load8(a.data() + i + k) * load8(b.data() + i + k);
            return static_cast<double>(hygros::sum(s));
        }));
    };
    const auto largest = [&](const Field& a) {
        // A maximum as a power mean would round; each run's own largest is kept instead.
        std::vector<float> parts(l.tasks.size(), 0.f);
        parallelRanges(l.tasks.size() - 1, 1, [&](std::size_t from, std::size_t to) {
            for (std::size_t t = from; t < to; ++t) {
                F8 m{};
                for (std::size_t i = l.tasks[t]; i < l.tasks[t + 1]; ++i) {
                    const Level::Run& run = l.runs[i];
                    for (int colour = 0; colour < 2; ++colour) {
                        const float* v = a.data() + l.rowAt(run.y, run.z) + l.offset(colour);
                        for (int k = run.k0; k < run.k1; k += lanes)
                            m = max8(m, abs8(load8(v + k)));
                    }
                }
                for (int i = 0; i < lanes; ++i)
                    parts[t] = std::max(parts[t], m[i]);
            }
        });
        return *std::max_element(parts.begin(), parts.end());
    };
    l.each([&](const Level::Run& run) {
        for (int colour = 0; colour < 2; ++colour)
            std::fill_n(p.pressure.data() + l.rowAt(run.y, run.z) + l.offset(colour) + run.k0, run.k1 - run.k0, 0.f);
    });
    Result result;
    const float whole = largest(l.r);
    if (!(whole > 0.f) || !std::isfinite(whole))
        return result;
    double before = 0.0;
    double against = 0.0; // new correction on what the last step took away
    for (; result.iterations < most; ++result.iterations) {
        p.cycle(0);
        const double now = dot(l.e, l.r);
        if (result.iterations > 0)
            against = dot(l.e, p.turned);
        const float beta = result.iterations == 0 ? 0.f : static_cast<float>(against / before);
        l.each([&](const Level::Run& run) {
            for (int colour = 0; colour < 2; ++colour) {
                const std::size_t i = l.rowAt(run.y, run.z) + static_cast<std::size_t>(l.offset(colour) + run.k0);
                for (int k = 0; k < run.k1 - run.k0; k += lanes)
                    store8(p.direction.data() + i + k,
                           load8(l.e.data() + i + k) + load8(p.direction.data() + i + k) * beta);
            }
        });
        p.multiply(p.direction, p.turned);
        const double bent = dot(p.direction, p.turned);
        if (!(std::abs(bent) > 0.0) || !std::isfinite(bent) || !std::isfinite(now))
            break;
        const float alpha = static_cast<float>(now / bent);
        l.each([&](const Level::Run& run) {
            for (int colour = 0; colour < 2; ++colour) {
                const std::size_t i = l.rowAt(run.y, run.z) + static_cast<std::size_t>(l.offset(colour) + run.k0);
                for (int k = 0; k < run.k1 - run.k0; k += lanes) {
                    store8(p.pressure.data() + i + k,
                           load8(p.pressure.data() + i + k) + load8(p.direction.data() + i + k) * alpha);
                    const F8 gone = load8(p.turned.data() + i + k) * alpha;
                    store8(l.r.data() + i + k, load8(l.r.data() + i + k) - gone);
                    store8(p.turned.data() + i + k, -gone);
                }
            }
        });
        before = now;
        result.residual = largest(l.r) / whole;
        if (result.residual <= tolerance) {
            ++result.iterations;
            break;
        }
    }
    return result;
}

std::size_t PressureSolver::bytes() const
{
    std::size_t sum = 0;
    for (const Level& l : p_->levels)
        sum += (l.e.size() + l.r.size() + l.left.size() + l.below.size() + l.behind.size() + l.inverse.size() +
                l.space.size()) *
                   sizeof(float) +
               l.diagonal.size() + l.kinds.size();
    return sum + 3 * p_->pressure.size() * sizeof(float);
}
} // namespace hygros::sim
