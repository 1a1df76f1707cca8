#pragma once
/// The way to the nearest place of a surface, for what is drawn to it.
#include "base/job.h"
#include "base/simd.h"
#include "base/vec.h"

#include <array>
#include <vector>

namespace hygros::media {

/// Nearest places of a surface on a lattice over a box, mixed evenly between its points. They are found near the
/// surface and handed on from point to point (P.-E. Danielsson, Euclidean distance mapping, Comput. Graph. Image
/// Process. 14, 1980); wrong by a part of a cell at most.
class TowardSurface {
public:
    /// `triangles` in the world; those outside of the box do not count. Throws Cancelled.
    TowardSurface(const std::vector<std::array<Vec3, 3>>& triangles, const Vec3& low, const Vec3& high,
                  JobControl& job);
    /// No part of the surface lies in the box: there is no way to it.
    bool isEmpty() const { return nearest_.empty(); }
    float cell() const { return cell_; }
    /// From eight places to the surface [m]; places outside of the box count as those on its border.
    void way8(F8 x, F8 y, F8 z, F8 out[3]) const;
    std::size_t bytes() const { return sizeof *this + nearest_.size() * sizeof(Vec3); }

private:
    std::size_t at(int x, int y, int z) const
    {
        return (static_cast<std::size_t>(z) * static_cast<std::size_t>(n_[1]) + static_cast<std::size_t>(y)) *
                   static_cast<std::size_t>(n_[0]) +
               static_cast<std::size_t>(x);
    }
    Vec3 low_{0.f};
    float cell_ = 1.f;
    std::array<int, 3> n_{};
    std::vector<Vec3> nearest_;
};
} // namespace hygros::media
