#include "sim/air_lattice.h"

#include "base/parallel.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <limits>

namespace hygros::sim {

void AirMotion::at8(F8 x, F8 y, F8 z, F8 out[3]) const
{
    out[0] = out[1] = out[2] = f8(0.f);
    const auto add = [&](int lane, const Vec3& v) {
        for (int a = 0; a < 3; ++a)
            out[a][lane] += v[a];
    };
    for (const media::Wind& w : airflow.winds)
        if (w.gusts > 0.f)
            for (int k = 0; k < lanes; ++k)
                add(k, w.at(Vec3(x[k], y[k], z[k])));
        else {
            const F8 over = max8(y - w.ground, f8(0.f));
            const F8 times = log8(1.f + over / w.roughness) * (1.f / std::log1p(w.reference / w.roughness));
            for (int a = 0; a < 3; ++a)
                out[a] += times * w.velocity[a];
        }
    F8 held = f8(1.f);
    for (const media::Force& f : airflow.forces) {
        if (f.form == media::Force::Form::Hold) {
            held = held * (1.f - std::min(1.f, f.grip) * f.weight8(x, y, z));
            continue;
        }
        if (!any(f.weight8(x, y, z) > 0.f))
            continue;
        F8 own[3];
        f.motion8(x, y, z, own);
        for (int a = 0; a < 3; ++a)
            out[a] += own[a];
    }
    for (int a = 0; a < 3; ++a)
        out[a] = out[a] * held;
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
        finest = std::min(finest, w.gusts > 0.f ? smallest(w.pattern) : 5.f * w.roughness + 0.5f);
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

AirLattice::AirLattice(const AirMotion& air, std::span<const float> x, std::span<const float> y,
                       std::span<const float> z)
{
    constexpr std::size_t few = 20'000, mostBlocks = 4'000'000;
    const float finest = air.finest();
    const bool isCostly = std::any_of(air.airflow.winds.begin(), air.airflow.winds.end(),
                                      [](const media::Wind& w) { return w.gusts > 0.f; }) ||
                          !air.airflow.forces.empty();
    if (x.size() < few || !isCostly || !(finest > 1e-4f) || !std::isfinite(finest))
        return;
    spacing_ = finest / 5.f;
    const std::span<const float> places[3] = {x, y, z};
    Vec3 high(0.f);
    for (int a = 0; a < 3; ++a) {
        F8 least = f8(places[a][0]), most = least;
        std::size_t i = 0;
        for (; i + lanes <= x.size(); i += lanes) {
            least = min8(least, load8(&places[a][i]));
            most = max8(most, load8(&places[a][i]));
        }
        low_[a] = least[0];
        high[a] = most[0];
        for (int l = 1; l < lanes; ++l) {
            low_[a] = std::min(low_[a], least[l]);
            high[a] = std::max(high[a], most[l]);
        }
        for (; i < x.size(); ++i) {
            low_[a] = std::min(low_[a], places[a][i]);
            high[a] = std::max(high[a], places[a][i]);
        }
    }
    const float block = spacing_ * cells;
    std::size_t all = 1;
    for (int a = 0; a < 3; ++a) {
        low_[a] -= 0.01f * spacing_;
        const double count = std::floor((double(high[a]) - double(low_[a])) / double(block)) + 1.0;
        if (!(count < 1e6))
            return;
        blocks_[a] = static_cast<int>(count);
        all *= static_cast<std::size_t>(count);
        if (all > mostBlocks)
            return;
    }
    blockAt_.assign(all, -1);
    // By the very sums that at8() does.
    const float per = 1.f / spacing_;
    const auto blockOf = [&](std::size_t i) {
        const auto at = [&](float v, int a) {
            const auto cell = static_cast<int>(
                std::clamp((v - low_[a]) * per, 0.f, static_cast<float>(blocks_[a] * cells) - 0.001f));
            return static_cast<std::size_t>(cell >> 3);
        };
        return (at(z[i], 2) * static_cast<std::size_t>(blocks_[1]) + at(y[i], 1)) *
                   static_cast<std::size_t>(blocks_[0]) +
               at(x[i], 0);
    };
    parallelRanges(x.size(), 4096, [&](std::size_t begin, std::size_t end) {
        for (std::size_t i = begin; i < end; ++i) {
            std::atomic_ref<std::int32_t> to(blockAt_[blockOf(i)]);
            if (to.load(std::memory_order_relaxed) != 0)
                to.store(0, std::memory_order_relaxed);
        }
    });
    std::vector<std::size_t> used;
    for (std::size_t b = 0; b < all; ++b)
        if (blockAt_[b] == 0) {
            blockAt_[b] = static_cast<std::int32_t>(used.size());
            used.push_back(b);
        }
    constexpr std::size_t inBlock = side * side * side;
    if (used.size() * inBlock > x.size() / 2)
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
            F8 v[3];
            air.at8(p[0], p[1], p[2], v);
            for (std::size_t l = 0; l < lanes && i + l < inBlock; ++l)
                to[i + l] = {{v[0][l], v[1][l], v[2][l], 0.f}};
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
    for (int k = 0; k < lanes; ++k) {
        const std::int32_t b = blockAt_[static_cast<std::size_t>(blockIndex[k])];
        const Node* n =
            &nodes_[static_cast<std::size_t>(b < 0 ? 0 : b) * (side * side * side) + static_cast<std::size_t>(node[k])];
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
        out[0][k] = v[0];
        out[1][k] = v[1];
        out[2][k] = v[2];
    }
}
} // namespace hygros::sim
