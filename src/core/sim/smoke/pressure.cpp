#include "sim/smoke/pressure_parts.h"

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
