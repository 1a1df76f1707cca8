#include "media/brick_grid.h"

#include "base/error.h"
#include "base/parallel.h"

#include <atomic>
#include <cmath>
#include <map>

#include <sys/mman.h>

namespace hygros::media {
namespace {
/// More brick places than this are refused [entries of 8 bytes].
constexpr double mostPlaces = 4e8;
inline float clean(float v, std::size_t& refused)
{
    if (v >= 0.f && v < 3e38f)
        return v;
    ++refused;
    return 0.f;
}
/// The same for eight; `refused` counts down in the lanes that were.
inline F8 clean8(F8 v, I8& refused)
{
    const I8 fine = (v >= 0.f) & (v < 3e38f);
    refused += ~fine;
    return select(fine, v, f8(0.f));
}
} // namespace

void BrickGrid::allocate(std::size_t bricks)
{
    // Every brick but the empty one is filled afterwards, on all cores: touching it here would cost as much again.
    bricks_ = bricks;
    values_ = std::make_unique_for_overwrite<std::uint16_t[]>(bricks * stride);
    // In large pages, where the system has them: fewer faults while it is filled, fewer misses while rays cross it.
    constexpr std::uintptr_t page = std::uintptr_t{1} << 21;
    const auto begin = (reinterpret_cast<std::uintptr_t>(values_.get()) + page - 1) / page * page,
               end = reinterpret_cast<std::uintptr_t>(values_.get() + bricks * stride) / page * page;
    if (end > begin)
        madvise(reinterpret_cast<void*>(begin), end - begin, MADV_HUGEPAGE);
    std::fill_n(values_.get(), stride, std::uint16_t{0});
}

std::shared_ptr<const BrickGrid> BrickGrid::fromBlocks(std::span<const Block> blocks, JobControl& job)
{
    auto out = std::make_shared<BrickGrid>();
    BrickGrid& g = *out;
    g.allocate(1);
    // What is there, and the largest of it.
    std::vector<float> most(blocks.size(), 0.f);
    std::atomic<std::size_t> refused{0};
    parallelRanges(blocks.size(), 64, [&](std::size_t begin, std::size_t end) {
        std::size_t bad = 0;
        for (std::size_t b = begin; b < end && !job.cancelled(); ++b) {
            if (!blocks[b].values) {
                most[b] = clean(blocks[b].constant, bad);
                continue;
            }
            F8 largest = f8(0.f);
            I8 odd{};
            for (int i = 0; i < cells * cells * cells; i += lanes)
                largest = max8(largest, clean8(load8(blocks[b].values + i), odd));
            for (int i = 0; i < lanes; ++i) {
                most[b] = std::max(most[b], largest[i]);
                bad += static_cast<std::size_t>(-odd[i]);
            }
        }
        refused += bad;
    });
    job.check();
    g.refused_ = refused;
    std::array<int, 3> low{1 << 30, 1 << 30, 1 << 30}, high{-(1 << 30), -(1 << 30), -(1 << 30)};
    for (std::size_t b = 0; b < blocks.size(); ++b)
        if (most[b] > 0.f) {
            const int place[3] = {blocks[b].x, blocks[b].y, blocks[b].z};
            for (std::size_t a = 0; a < 3; ++a) {
                low[a] = std::min(low[a], place[a] - 1); // cells below reach up to these values
                high[a] = std::max(high[a], place[a]);
            }
            g.most_ = std::max(g.most_, most[b]);
        }
    if (g.empty())
        return out;
    double places = 1.0;
    for (std::size_t a = 0; a < 3; ++a) {
        g.first_[a] = low[a];
        g.size_[a] = high[a] - low[a] + 1;
        places *= g.size_[a];
    }
    if (places > mostPlaces)
        throw inputError("Reading", "a grid",
                         "its voxels lie too far apart (" + std::to_string(static_cast<long>(places * 512e-9)) +
                             " thousand million places)",
                         "Split it, or resample it to larger voxels.");
    g.index_.assign(static_cast<std::size_t>(places), 0);
    g.bound_.assign(g.index_.size(), 0.f);
    // Which block lies where: its number plus one.
    std::vector<std::uint32_t> blockAt(g.index_.size(), 0);
    for (std::size_t b = 0; b < blocks.size(); ++b)
        if (most[b] > 0.f)
            blockAt[g.at(blocks[b].x - low[0], blocks[b].y - low[1], blocks[b].z - low[2])] =
                static_cast<std::uint32_t>(b + 1);
    const auto blockOf = [&](int x, int y, int z) -> const Block* {
        if (x >= g.size_[0] || y >= g.size_[1] || z >= g.size_[2])
            return nullptr;
        const std::uint32_t b = blockAt[g.at(x, y, z)];
        return b ? &blocks[b - 1] : nullptr;
    };
    // Bricks that are needed, numbered in order; those of one value throughout share theirs.
    struct Wanted {
        int x, y, z;
        std::uint32_t brick;
    };
    std::vector<Wanted> wanted;
    std::map<float, std::uint32_t> alike;
    std::uint32_t count = 1;
    for (int x = 0; x < g.size_[0]; ++x) {
        job.check();
        for (int y = 0; y < g.size_[1]; ++y)
            for (int z = 0; z < g.size_[2]; ++z) {
                bool some = false, even = true;
                const Block* own = blockOf(x, y, z);
                for (int k = 0; k < 8; ++k) {
                    const Block* b = k ? blockOf(x + (k >> 2), y + ((k >> 1) & 1), z + (k & 1)) : own;
                    some = some || b;
                    even = even && b && !b->values && b->constant == own->constant;
                }
                if (!some)
                    continue;
                std::uint32_t brick = count;
                if (even) {
                    const auto [at, fresh] = alike.try_emplace(own->constant, count);
                    brick = at->second;
                    if (!fresh) {
                        g.index_[g.at(x, y, z)] = brick;
                        g.bound_[g.at(x, y, z)] = own->constant;
                        continue;
                    }
                }
                ++count;
                wanted.push_back({x, y, z, brick});
            }
    }
    g.allocate(count);
    const float share = 1.f / g.most_;
    parallelRanges(wanted.size(), 32, [&](std::size_t begin, std::size_t end) {
        std::size_t ignored = 0;
        for (std::size_t w = begin; w < end && !job.cancelled(); ++w) {
            const Wanted& place = wanted[w];
            std::uint16_t* to = &g.values_[static_cast<std::size_t>(place.brick) * stride];
            F8 largest = f8(0.f);
            float edge = 0.f;
            I8 odd{};
            // It and those that hold its last layers: by x, y, z.
            const Block* around[2][2][2];
            for (int k = 0; k < 8; ++k)
                around[k >> 2][k >> 1 & 1][k & 1] = blockOf(place.x + (k >> 2), place.y + (k >> 1 & 1),
                                                            place.z + (k & 1));
            for (int i = 0; i < stored; ++i)
                for (int j = 0; j < stored; ++j, to += stored) {
                    const int from = (i % cells * cells + j % cells) * cells;
                    const Block *here = around[i / cells][j / cells][0], *beyond = around[i / cells][j / cells][1];
                    const F8 row = !here ? f8(0.f)
                                         : clean8(here->values ? load8(here->values + from) : f8(here->constant), odd);
                    const float last = !beyond
                                           ? 0.f
                                           : clean(beyond->values ? beyond->values[from] : beyond->constant, ignored);
                    largest = max8(largest, row);
                    edge = std::max(edge, last);
                    _mm_storeu_si128(reinterpret_cast<__m128i*>(to), _mm256_cvtps_ph(row * share, 0));
                    to[cells] = halfOf(last * share);
                }
            float bound = edge;
            for (int i = 0; i < lanes; ++i)
                bound = std::max(bound, largest[i]);
            const std::size_t at = g.at(place.x, place.y, place.z);
            g.index_[at] = bound > 0.f ? place.brick : 0;
            g.bound_[at] = bound > 0.f ? bound * 1.0005f + g.most_ * 6e-8f : 0.f; // halves are rounded
        }
    });
    job.check();
    for (const Wanted& w : wanted)
        if (g.index_[g.at(w.x, w.y, w.z)]) {
            const Vec3 corner(static_cast<float>((w.x + low[0]) * cells), static_cast<float>((w.y + low[1]) * cells),
                              static_cast<float>((w.z + low[2]) * cells));
            g.bounds_.extendBy(corner);
            g.bounds_.extendBy(corner + Vec3(cells));
        }
    for (std::size_t b = 0; b < blocks.size(); ++b) // those that share a brick
        if (most[b] > 0.f && !blocks[b].values) {
            const Vec3 corner(static_cast<float>(blocks[b].x * cells), static_cast<float>(blocks[b].y * cells),
                              static_cast<float>(blocks[b].z * cells));
            g.bounds_.extendBy(corner);
            g.bounds_.extendBy(corner + Vec3(cells - 1));
        }
    return out;
}

F8 BrickGrid::sample8(F8 x, F8 y, F8 z) const
{
    if (empty())
        return f8(0.f);
    x -= static_cast<float>(first_[0] * cells);
    y -= static_cast<float>(first_[1] * cells);
    z -= static_cast<float>(first_[2] * cells);
    const I8 in = (x >= 0.f) & (y >= 0.f) & (z >= 0.f) & (x < static_cast<float>(size_[0] * cells)) &
                  (y < static_cast<float>(size_[1] * cells)) & (z < static_cast<float>(size_[2] * cells));
    if (!any(in))
        return f8(0.f);
    x = select(in, x, f8(0.f));
    y = select(in, y, f8(0.f));
    z = select(in, z, f8(0.f));
    const I8 ix = toInt(x), iy = toInt(y), iz = toInt(z);
    const F8 fx = x - toFloat(ix), fy = y - toFloat(iy), fz = z - toFloat(iz);
    const I8 place = ((ix >> 3) * size_[1] + (iy >> 3)) * size_[2] + (iz >> 3),
             local = ((ix & 7) * stored + (iy & 7)) * stored + (iz & 7);
    const std::uint16_t* p[lanes];
    std::uint32_t some = 0;
    for (int i = 0; i < lanes; ++i) {
        const std::uint32_t brick = index_[static_cast<std::size_t>(place[i])];
        some |= brick;
        p[i] = values_.get() + static_cast<std::size_t>(brick) * stride + static_cast<std::size_t>(local[i]);
    }
    if (!some)
        return f8(0.f);
    // Each row of two along z in one 32-bit load.
    const auto row = [&](int offset, F8& near, F8& far) {
        const auto two = [&](int i) {
            std::int32_t v;
            std::memcpy(&v, p[i] + offset, 4);
            return v;
        };
        const __m128i a = _mm_set_epi32(two(3), two(2), two(1), two(0)),
                      b = _mm_set_epi32(two(7), two(6), two(5), two(4)), low = _mm_set1_epi32(0xffff);
        near = _mm256_cvtph_ps(_mm_packus_epi32(_mm_and_si128(a, low), _mm_and_si128(b, low)));
        far = _mm256_cvtph_ps(_mm_packus_epi32(_mm_srli_epi32(a, 16), _mm_srli_epi32(b, 16)));
    };
    const auto along = [&](int offset) {
        F8 near, far;
        row(offset, near, far);
        return near + (far - near) * fz;
    };
    const F8 v00 = along(0), v01 = along(stored), v10 = along(stored * stored), v11 = along(stored * stored + stored);
    const F8 v0 = v00 + (v01 - v00) * fy, v1 = v10 + (v11 - v10) * fy;
    return select(in, (v0 + (v1 - v0) * fx) * most_, f8(0.f));
}

float BrickGrid::sample(const Vec3& p) const
{
    if (empty())
        return 0.f;
    const float x = p.x - static_cast<float>(first_[0] * cells), y = p.y - static_cast<float>(first_[1] * cells),
                z = p.z - static_cast<float>(first_[2] * cells);
    if (!(x >= 0.f && y >= 0.f && z >= 0.f && x < static_cast<float>(size_[0] * cells) &&
          y < static_cast<float>(size_[1] * cells) && z < static_cast<float>(size_[2] * cells)))
        return 0.f;
    const int ix = static_cast<int>(x), iy = static_cast<int>(y), iz = static_cast<int>(z);
    const std::uint32_t brick = index_[at(ix >> 3, iy >> 3, iz >> 3)];
    if (!brick)
        return 0.f;
    const std::uint16_t* v = values_.get() + static_cast<std::size_t>(brick) * stride +
                             static_cast<std::size_t>(((ix & 7) * stored + (iy & 7)) * stored + (iz & 7));
    const auto two = [&](int offset) {
        std::int32_t pair;
        std::memcpy(&pair, v + offset, 4);
        return pair;
    };
    // All eight corners: x is the upper bit, then y, then z.
    const __m256 corners = _mm256_cvtph_ps(
        _mm_set_epi32(two(stored * stored + stored), two(stored * stored), two(stored), two(0)));
    const float fx = x - static_cast<float>(ix), fy = y - static_cast<float>(iy), fz = z - static_cast<float>(iz);
    const __m128 low = _mm256_castps256_ps128(corners), high = _mm256_extractf128_ps(corners, 1);
    const __m128 byX = _mm_add_ps(low, _mm_mul_ps(_mm_sub_ps(high, low), _mm_set1_ps(fx)));
    const __m128 byY = _mm_add_ps(byX, _mm_mul_ps(_mm_sub_ps(_mm_movehl_ps(byX, byX), byX), _mm_set1_ps(fy)));
    const float near = _mm_cvtss_f32(byY), far = _mm_cvtss_f32(_mm_shuffle_ps(byY, byY, 1));
    return (near + (far - near) * fz) * most_;
}

float BrickGrid::integral(const Vec3& o, const Vec3& d, float t0, float t1, float step, float u, float enough) const
{
    // Even places from a random start, which integrate what ends softly best; their numbers run on through all bricks.
    const float first = t0 + (u - 1.f) * step, inverse = 1.f / step;
    F8 sums = f8(0.f);
    constexpr F8 lane{0.f, 1.f, 2.f, 3.f, 4.f, 5.f, 6.f, 7.f};
    const F8 place = lane * step;
    float runStart = 0.f, runEnd = -1.f;
    const auto sampleRun = [&] {
        const float k0 = std::ceil((runStart - first) * inverse), k1 = std::floor((runEnd - first) * inverse);
        for (float k = k0; k <= k1; k += 8.f) {
            const F8 t = first + k * step + place;
            const F8 v = sample8(o.x + d.x * t, o.y + d.y * t, o.z + d.z * t);
            sums += select((t >= runStart) & (t < runEnd), v, f8(0.f));
        }
    };
    const float most = enough * inverse;
    overBricks(o, d, t0, t1, [&](float a, float b, float) {
        // Bricks in a row are one run, as long as it is not too long to stop in time.
        if (runEnd >= runStart && a <= runEnd + 1e-4f * step && runEnd - runStart < 24.f * step) {
            runEnd = b;
            return true;
        }
        if (runEnd > runStart)
            sampleRun();
        runStart = a;
        runEnd = b;
        return most > 1e29f || sum(sums) < most;
    });
    if (runEnd > runStart && (most > 1e29f || sum(sums) < most))
        sampleRun();
    return sum(sums) * step;
}

bool BrickGrid::anyIn(const Box3& box) const
{
    int low[3], high[3];
    for (int a = 0; a < 3 && !empty(); ++a) {
        const auto k = static_cast<std::size_t>(a);
        low[a] = std::max(0, static_cast<int>(std::floor(box.min[a] / cells)) - first_[k]);
        high[a] = std::min(size_[k] - 1, static_cast<int>(std::floor(box.max[a] / cells)) - first_[k]);
    }
    for (int x = empty() ? 1 : low[0]; x <= (empty() ? 0 : high[0]); ++x)
        for (int y = low[1]; y <= high[1]; ++y)
            for (int z = low[2]; z <= high[2]; ++z)
                if (bound_[at(x, y, z)] > 0.f)
                    return true;
    return false;
}

void BrickGrid::eachBrick(const std::function<void(int, int, int, const float*)>& body) const
{
    alignas(32) float values[cells * cells * cells];
    for (int x = 0; x < size_[0]; ++x)
        for (int y = 0; y < size_[1]; ++y)
            for (int z = 0; z < size_[2]; ++z) {
                if (!index_[at(x, y, z)])
                    continue;
                const int bx = x + first_[0], by = y + first_[1], bz = z + first_[2];
                F8 along;
                for (int k = 0; k < cells; ++k)
                    along[k] = static_cast<float>(bz * cells + k);
                for (int i = 0; i < cells; ++i)
                    for (int j = 0; j < cells; ++j)
                        store8(&values[(i * cells + j) * cells],
                               sample8(f8(static_cast<float>(bx * cells + i)), f8(static_cast<float>(by * cells + j)),
                                       along));
                body(bx, by, bz, values);
            }
}

std::shared_ptr<const BrickGrid> BrickGrid::halved(JobControl& job) const
{
    // Blocks of the half: 8³ of its values are 16³ of these, two bricks a side.
    if (empty())
        return fromBlocks({}, job);
    const auto down = [](int v) { return v >= 0 ? v / 2 : -((1 - v) / 2); };
    std::array<int, 3> low{}, size{};
    for (std::size_t a = 0; a < 3; ++a) {
        low[a] = down(first_[a]);
        size[a] = down(first_[a] + size_[a] - 1) - low[a] + 1;
    }
    std::vector<std::array<int, 3>> places;
    for (int x = 0; x < size[0]; ++x)
        for (int y = 0; y < size[1]; ++y)
            for (int z = 0; z < size[2]; ++z)
                for (int k = 0; k < 8; ++k) {
                    const int bx = (x + low[0]) * 2 + (k >> 2) - first_[0],
                              by = (y + low[1]) * 2 + ((k >> 1) & 1) - first_[1],
                              bz = (z + low[2]) * 2 + (k & 1) - first_[2];
                    if (bx >= 0 && by >= 0 && bz >= 0 && bx < size_[0] && by < size_[1] && bz < size_[2] &&
                        index_[at(bx, by, bz)]) {
                        places.push_back({x + low[0], y + low[1], z + low[2]});
                        break;
                    }
                }
    std::vector<float> values(places.size() * 512);
    parallelRanges(places.size(), 8, [&](std::size_t begin, std::size_t end) {
        for (std::size_t b = begin; b < end && !job.cancelled(); ++b)
            for (int i = 0; i < cells; ++i)
                for (int j = 0; j < cells; ++j) {
                    // Eight of the half's values along z; each is the mean of two rows' pairs. The field at whole
                    // places is what is stored.
                    F8 total = f8(0.f), z;
                    for (int k = 0; k < cells; ++k)
                        z[k] = static_cast<float>((places[b][2] * cells + k) * 2);
                    for (int c = 0; c < 8; ++c)
                        total += sample8(f8(static_cast<float>((places[b][0] * cells + i) * 2 + (c >> 2))),
                                         f8(static_cast<float>((places[b][1] * cells + j) * 2 + ((c >> 1) & 1))),
                                         z + static_cast<float>(c & 1));
                    store8(&values[b * 512 + static_cast<std::size_t>(i * cells + j) * cells], total * 0.125f);
                }
    });
    job.check();
    std::vector<Block> blocks;
    blocks.reserve(places.size());
    for (std::size_t b = 0; b < places.size(); ++b)
        blocks.push_back({places[b][0], places[b][1], places[b][2], &values[b * 512], 0.f});
    return fromBlocks(blocks, job);
}

BrickGrid::Means BrickGrid::means(int most) const
{
    Means m;
    if (empty())
        return m;
    const Vec3 size = bounds_.max - bounds_.min;
    m.origin = bounds_.min;
    m.cell = std::max(1.f, std::max({size.x, size.y, size.z}) / static_cast<float>(most));
    for (int a = 0; a < 3; ++a)
        m.size[static_cast<std::size_t>(a)] = std::max(1, static_cast<int>(std::ceil(size[a] / m.cell - 1e-3f)));
    m.values.assign(static_cast<std::size_t>(m.size[0]) * static_cast<std::size_t>(m.size[1]) *
                        static_cast<std::size_t>(m.size[2]),
                    0.f);
    // A few places in every cell, one per voxel and axis up to four.
    const int per = std::clamp(static_cast<int>(std::ceil(m.cell)), 1, 8);
    parallelFor(static_cast<std::size_t>(m.size[2]), [&](std::size_t z) {
        for (int y = 0; y < m.size[1]; ++y)
            for (int x = 0; x < m.size[0]; x += lanes) {
                F8 total = f8(0.f), lane;
                for (int i = 0; i < lanes; ++i)
                    lane[i] = static_cast<float>(x + i);
                for (int c = 0; c < per; ++c)
                    for (int b = 0; b < per; ++b)
                        for (int a = 0; a < per; ++a) {
                            const auto part = [&](int i) {
                                return (static_cast<float>(i) + 0.5f) / static_cast<float>(per);
                            };
                            total += sample8(m.origin.x + (lane + part(a)) * m.cell,
                                             f8(m.origin.y + (static_cast<float>(y) + part(b)) * m.cell),
                                             f8(m.origin.z + (static_cast<float>(z) + part(c)) * m.cell));
                        }
                for (int i = 0; i < lanes && x + i < m.size[0]; ++i)
                    m.values[(z * static_cast<std::size_t>(m.size[1]) + static_cast<std::size_t>(y)) *
                                 static_cast<std::size_t>(m.size[0]) +
                             static_cast<std::size_t>(x + i)] = total[i] / static_cast<float>(per * per * per);
            }
    });
    return m;
}
} // namespace hygros::media
