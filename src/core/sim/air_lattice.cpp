#include "sim/air_lattice.h"

#include "base/parallel.h"
#include "media/curl.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>
#include <mutex>

namespace hygros::sim {

void AirMotion::uneven8(F8 x, F8 y, F8 z, F8 out[3], F8& held) const
{
    out[0] = out[1] = out[2] = f8(0.f);
    held = f8(1.f);
    F8 own[3];
    const auto add = [&] {
        for (int a = 0; a < 3; ++a)
            out[a] += own[a];
    };
    for (const media::Wind& w : airflow.winds)
        if (w.gusts > 0.f) {
            media::gusts8(w, x, y, z, own);
            add();
        }
    for (const media::Force& f : airflow.forces) {
        const F8 acts = f.weight8(x, y, z);
        if (f.form == media::Force::Form::Hold)
            held = held * (1.f - std::min(1.f, f.grip) * acts);
        else if (any(acts > 0.f)) {
            f.motion8(x, y, z, own);
            add();
        }
    }
}

void AirMotion::joined8(F8 y, const F8 uneven[3], F8 held, F8 out[3]) const
{
    for (int a = 0; a < 3; ++a)
        out[a] = uneven[a];
    for (const media::Wind& w : airflow.winds) {
        const F8 by = media::meanShare8(w, y);
        for (int a = 0; a < 3; ++a)
            out[a] += by * w.velocity[a];
    }
    for (int a = 0; a < 3; ++a)
        out[a] = out[a] * held;
}

void AirMotion::at8(F8 x, F8 y, F8 z, F8 out[3]) const
{
    F8 uneven[3], held;
    uneven8(x, y, z, uneven, held);
    joined8(y, uneven, held, out);
    const auto add = [&](int lane, const Vec3& v) {
        for (int a = 0; a < 3; ++a)
            out[a][lane] += v[a];
    };
    for (int k = 0; k < lanes && (before || after); ++k) {
        const Vec3 p(x[k], y[k], z[k]);
        if (before)
            add(k, before->at(p) * (pace * (after ? 1.f - share : 1.f)));
        if (after)
            add(k, after->at(p) * (pace * (before ? share : 1.f)));
    }
}

float AirMotion::finest() const
{
    float finest = std::numeric_limits<float>::infinity();
    const auto smallest = [](const media::Noise& n) {
        return n.scale / std::pow(std::max(1.f, n.lacunarity), static_cast<float>(n.octaves - 1));
    };
    for (const media::Wind& w : airflow.winds)
        if (w.gusts > 0.f)
            finest = std::min(finest, smallest(w.pattern));
    for (const media::Force& f : airflow.forces)
        finest = std::min({finest,
                           f.form == media::Force::Form::Turbulence ? smallest(f.pattern)
                           : f.form == media::Force::Form::Swirl    ? f.radius
                                                                    : f.half.x,
                           f.half.x, f.half.y, f.half.z});
    if (before || after)
        finest = 0.f; // a plume's own voxels say how it moves
    return finest;
}

AirLattice::AirLattice(const AirMotion& air, std::span<const Places> places) : air_(air)
{
    constexpr std::size_t few = 20'000, mostBlocks = 4'000'000;
    const float finest = air.finest();
    std::size_t count = 0;
    for (const Places& some : places)
        count += some.x.size();
    if (count < few || !(finest > 1e-4f) || !std::isfinite(finest))
        return;
    spacing_ = finest / 5.f;
    Box3 box;
    std::mutex joins;
    const auto boxOf = [](const Places& some, std::size_t begin, std::size_t end) {
        Box3 own;
        const std::span<const float> by[3] = {some.x, some.y, some.z};
        for (int a = 0; a < 3; ++a) {
            F8 least = f8(by[a][begin]), most = least;
            std::size_t i = begin;
            for (; i + lanes <= end; i += lanes) {
                least = min8(least, load8(&by[a][i]));
                most = max8(most, load8(&by[a][i]));
            }
            for (; i < end; ++i) {
                least = min8(least, f8(by[a][i]));
                most = max8(most, f8(by[a][i]));
            }
            own.min[a] = least[0];
            own.max[a] = most[0];
            for (int l = 1; l < lanes; ++l) {
                own.min[a] = std::min(own.min[a], least[l]);
                own.max[a] = std::max(own.max[a], most[l]);
            }
        }
        return own;
    };
    for (const Places& some : places)
        parallelRanges(some.x.size(), 65536, [&](std::size_t begin, std::size_t end) {
            const Box3 own = boxOf(some, begin, end);
            const std::lock_guard lock(joins);
            box.extendBy(own);
        });
    low_ = box.min;
    const Vec3 high = box.max;
    const float block = spacing_ * cells;
    std::size_t all = 1;
    for (int a = 0; a < 3; ++a) {
        low_[a] -= 0.01f * spacing_;
        const double along = std::floor((double(high[a]) - double(low_[a])) / double(block)) + 1.0;
        if (!(along < 1e6))
            return;
        blocks_[a] = static_cast<int>(along);
        all *= static_cast<std::size_t>(along);
        if (all > mostBlocks)
            return;
    }
    blockAt_.assign(all, -1);
    // By the very sums that at8() does.
    const float per = 1.f / spacing_;
    const auto mark = [&](const Places& some, std::size_t begin, std::size_t end) {
        const std::span<const float> by[3] = {some.x, some.y, some.z};
        for (std::size_t i = begin; i < end; i += lanes) {
            // What is over comes again with the last.
            const std::size_t from = some.x.size() < lanes ? i : std::min(i, some.x.size() - lanes);
            const int here = static_cast<int>(std::min<std::size_t>(lanes, some.x.size() - from));
            I8 at[3];
            for (int a = 0; a < 3; ++a) {
                F8 v = f8(by[a][from]);
                if (here == lanes)
                    v = load8(&by[a][from]);
                else
                    for (int l = 1; l < here; ++l)
                        v[l] = by[a][from + static_cast<std::size_t>(l)];
                at[a] = toInt(clamp8((v - low_[a]) * per, 0.f, static_cast<float>(blocks_[a] * cells) - 0.001f)) >> 3;
            }
            const I8 index = (at[2] * blocks_[1] + at[1]) * blocks_[0] + at[0];
            for (int l = 0; l < lanes; ++l) {
                std::atomic_ref<std::int32_t> to(blockAt_[static_cast<std::size_t>(index[l])]);
                if (to.load(std::memory_order_relaxed) != 0)
                    to.store(0, std::memory_order_relaxed);
            }
        }
    };
    for (const Places& some : places)
        parallelRanges(some.x.size(), 4096, [&](std::size_t begin, std::size_t end) { mark(some, begin, end); });
    std::vector<std::size_t> used;
    for (std::size_t b = 0; b < all; ++b)
        if (blockAt_[b] == 0) {
            blockAt_[b] = static_cast<std::int32_t>(used.size());
            used.push_back(b);
        }
    constexpr std::size_t inBlock = side * side * side;
    if (used.size() * inBlock > count / 2)
        return;
    nodes_.resize(used.size() * inBlock);
    parallelFor(used.size(), [&](std::size_t k) {
        const auto of = [&](std::size_t v) { return static_cast<float>(v) * block; };
        const auto wide = static_cast<std::size_t>(blocks_[0]), tall = static_cast<std::size_t>(blocks_[1]);
        const Vec3 corner = low_ + Vec3(of(used[k] % wide), of(used[k] / wide % tall), of(used[k] / (wide * tall)));
        Node* to = &nodes_[k * inBlock];
        for (std::size_t i = 0; i < inBlock; i += lanes) {
            F8 p[3] = {};
            for (std::size_t l = 0; l < lanes; ++l) {
                const std::size_t n = std::min(i + l, inBlock - 1);
                const std::size_t at[3] = {n % side, n / side % side, n / (side * side)};
                for (int a = 0; a < 3; ++a)
                    p[a][l] = corner[a] + static_cast<float>(at[a]) * spacing_;
            }
            F8 v[3], held;
            air.uneven8(p[0], p[1], p[2], v, held);
            for (std::size_t l = 0; l < lanes && i + l < inBlock; ++l)
                to[i + l] = {{v[0][l], v[1][l], v[2][l], held[l]}};
        }
    });
}

void AirLattice::at8(F8 x, F8 y, F8 z, F8 out[3]) const
{
    typedef float F4 __attribute__((vector_size(16)));
    const float per = 1.f / spacing_;
    const F8 u[3] = {(x - low_.x) * per, (y - low_.y) * per, (z - low_.z) * per};
    I8 cell[3], block[3];
    F8 part[3];
    for (int a = 0; a < 3; ++a) {
        const F8 at = clamp8(u[a], 0.f, static_cast<float>(blocks_[a] * cells) - 0.001f);
        const F8 whole = floor8(at);
        part[a] = at - whole;
        cell[a] = toInt(whole);
        block[a] = cell[a] >> 3;
        cell[a] = cell[a] & i8(cells - 1);
    }
    const I8 blockIndex = (block[2] * blocks_[1] + block[1]) * blocks_[0] + block[0],
             node = (cell[2] * side + cell[1]) * side + cell[0];
    F8 uneven[3], held;
    const Node* of[lanes];
    for (int k = 0; k < lanes; ++k) {
        const std::int32_t b = blockAt_[static_cast<std::size_t>(blockIndex[k])];
        of[k] =
            &nodes_[static_cast<std::size_t>(b < 0 ? 0 : b) * (side * side * side) + static_cast<std::size_t>(node[k])];
        for (const int row : {0, side, side * side, side * side + side})
            __builtin_prefetch(of[k] + row);
    }
    for (int k = 0; k < lanes; ++k) {
        const Node* n = of[k];
        const auto read = [&](int i) {
            F4 v;
            std::memcpy(&v, &n[i], sizeof v);
            return v;
        };
        const float fx = part[0][k], fy = part[1][k], fz = part[2][k];
        const auto row = [&](int i) {
            const F4 a = read(i);
            return a + (read(i + 1) - a) * fx;
        };
        const F4 a = row(0), b1 = row(side), c = row(side * side), d = row(side * side + side);
        const F4 low = a + (b1 - a) * fy, high = c + (d - c) * fy;
        const F4 v = low + (high - low) * fz;
        uneven[0][k] = v[0];
        uneven[1][k] = v[1];
        uneven[2][k] = v[2];
        held[k] = v[3];
    }
    air_.joined8(y, uneven, held, out);
}
} // namespace hygros::sim
