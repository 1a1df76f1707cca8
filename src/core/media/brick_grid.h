#pragma once
/// Sparse fields of numbers on a regular lattice: what voxel files hold, made ready for rays.
///
/// Index space: value (i, j, k) stands at that whole-numbered place, and between places the field is trilinear; where
/// nothing is stored it is 0. Values lie in bricks of 8³ cells with one more layer, so that every cell finds its eight
/// corners in one brick; they are half floats of a share of the largest (relative error under 5e-4). Bricks that are
/// alike throughout are stored once.
#include "base/job.h"
#include "base/simd.h"
#include "base/vec.h"

#include <algorithm>
#include <array>
#include <functional>
#include <memory>
#include <span>
#include <vector>

namespace hygros::media {

class BrickGrid {
public:
    static constexpr int cells = 8;
    /// 8³ values at (8x … 8x+7, …), z fastest; without `values` all are `constant`.
    struct Block {
        int x, y, z;
        const float* values;
        float constant;
    };
    /// Negative and not-a-number values count as 0 (see refused()). Throws Error where the blocks lie too far apart to
    /// be indexed, and Cancelled.
    static std::shared_ptr<const BrickGrid> fromBlocks(std::span<const Block> blocks, JobControl& job);

    bool empty() const { return most_ == 0.f; }
    /// Largest value.
    float most() const { return most_; }
    /// Values that were negative or not a number.
    std::size_t refused() const { return refused_; }
    /// Where the field can be above 0, in index space.
    const Box3& bounds() const { return bounds_; }
    std::size_t bytes() const { return bricks_ * stride * 2 + index_.size() * 4 + bound_.size() * 4; }
    std::size_t bricks() const { return bricks_; }

    /// Trilinear values at eight places of index space.
    F8 sample8(F8 x, F8 y, F8 z) const;
    float sample(const Vec3& p) const;

    /// Calls body(t0, t1, bound) for the stretches of origin + t·direction (index space, any length) between t0 and t1
    /// that cross bricks with something in them, in order; `bound` is not exceeded there. Ends early when body returns
    /// false.
    template <class Body>
    void overBricks(const Vec3& origin, const Vec3& direction, float t0, float t1, const Body& body) const;

    /// ∫ value dt over [t0, t1] of origin + t·direction (index space) from one place in every step of t, which begin at
    /// a random place u (0…1): without bias over u. Empty bricks cost nothing. Ends early, with at least `enough`,
    /// where there is more.
    float integral(const Vec3& origin, const Vec3& direction, float t0, float t1, float step, float u,
                   float enough = 1e30f) const;

    /// Whether the field can be above 0 in a box of index space: by whole bricks.
    bool anyIn(const Box3& box) const;
    /// Calls body(x, y, z, 512 values, z fastest) for every brick with something in it; it stands at (8x … 8x+7, …).
    void eachBrick(const std::function<void(int, int, int, const float*)>& body) const;

    /// Box means: every value is the mean of 2³ of this one's; index places are halved (see coarseShift).
    std::shared_ptr<const BrickGrid> halved(JobControl& job) const;
    /// A place i of this grid lies at (i − coarseShift)/2 of its half.
    static constexpr float coarseShift = 0.5f;

    /// Means over an even lattice of cells that fills bounds(), at most `most` along the longest side. [z][y][x].
    struct Means {
        std::array<int, 3> size{0, 0, 0};
        Vec3 origin{0.f}; ///< of the first cell's corner, index space
        float cell = 1.f; ///< its side, index space
        std::vector<float> values;
    };
    Means means(int most) const;

private:
    void allocate(std::size_t bricks);
    static constexpr int stored = cells + 1, stride = 736; ///< 9³, padded
    std::size_t at(int bx, int by, int bz) const
    {
        return (static_cast<std::size_t>(bx) * static_cast<std::size_t>(size_[1]) + static_cast<std::size_t>(by)) *
                   static_cast<std::size_t>(size_[2]) +
               static_cast<std::size_t>(bz);
    }
    std::array<int, 3> first_{0, 0, 0}, size_{0, 0, 0}; ///< bricks: where they begin (÷8), how many
    std::vector<std::uint32_t> index_;                  ///< [x][y][z] which brick; 0 is the empty one
    std::vector<float> bound_;                          ///< [x][y][z] largest value
    std::size_t bricks_ = 0;
    std::unique_ptr<std::uint16_t[]> values_; ///< [brick][x][y][z] halves, shares of most_
    float most_ = 0.f;
    std::size_t refused_ = 0;
    Box3 bounds_;
};

template <class Body>
void BrickGrid::overBricks(const Vec3& o, const Vec3& d, float t0, float t1, const Body& body) const
{
    if (empty())
        return;
    int brick[3], step[3];
    float next[3], delta[3];
    for (int a = 0; a < 3; ++a) {
        const float low = static_cast<float>(first_[static_cast<std::size_t>(a)] * cells),
                    high = low + static_cast<float>(size_[static_cast<std::size_t>(a)] * cells);
        if (std::abs(d[a]) < 1e-12f) {
            if (o[a] < low || o[a] >= high)
                return;
            continue;
        }
        const float u = (low - o[a]) / d[a], v = (high - o[a]) / d[a];
        t0 = std::max(t0, std::min(u, v));
        t1 = std::min(t1, std::max(u, v));
    }
    if (!(t0 < t1))
        return;
    for (int a = 0; a < 3; ++a) {
        const float low = static_cast<float>(first_[static_cast<std::size_t>(a)] * cells),
                    place = o[a] + d[a] * t0 - low;
        brick[a] = std::clamp(static_cast<int>(std::floor(place * (1.f / cells))), 0,
                              size_[static_cast<std::size_t>(a)] - 1);
        step[a] = d[a] > 0.f ? 1 : -1;
        const bool level = std::abs(d[a]) < 1e-12f;
        delta[a] = level ? 1e30f : static_cast<float>(cells) / std::abs(d[a]);
        next[a] = level ? 1e30f : (low + static_cast<float>((brick[a] + (step[a] > 0 ? 1 : 0)) * cells) - o[a]) / d[a];
    }
    float t = t0;
    for (;;) {
        const int axis = next[0] < next[1] ? (next[0] < next[2] ? 0 : 2) : (next[1] < next[2] ? 1 : 2);
        const float leave = std::min(next[axis], t1), bound = bound_[at(brick[0], brick[1], brick[2])];
        if (bound > 0.f && leave > t && !body(t, leave, bound))
            return;
        t = std::max(t, leave);
        brick[axis] += step[axis];
        next[axis] += delta[axis];
        if (leave >= t1 || brick[axis] < 0 || brick[axis] >= size_[static_cast<std::size_t>(axis)])
            return;
    }
}
} // namespace hygros::media
