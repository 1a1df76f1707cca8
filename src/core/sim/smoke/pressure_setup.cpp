/// The grids of the pressure solver: what is fluid, air and wall on each, and which regions have no way out.
#include "sim/smoke/pressure_parts.h"

namespace hygros::sim {
namespace {
/// The share of a face between two fine cells that lets through.
float open(Cell a, Cell b) { return a == Cell::Solid || b == Cell::Solid ? 0.f : 1.f; }
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
} // namespace hygros::sim
