#pragma once
/// Directions toward what volumes give off, in proportion to its power.
///
/// A volume's heat lies on a coarse lattice; a cell is drawn by what it gives off and a point evenly in it, and the
/// direction to that point is the sample. Its density over solid angle is the sum over all cells on the ray: ∫ p(x) r²
/// dr, p the density of points [1/m³].
#include "base/random.h"
#include "shot/shot.h"

namespace hygros::render {

class GlowSampler {
public:
    explicit GlowSampler(const shot::Shot& shot);
    /// Nothing glows.
    bool empty() const { return volumes_.empty(); }
    /// A unit direction from `point`.
    Vec3 direction(const Vec3& point, Random& random) const;
    /// Density of that direction [1/sr]; 0 where it meets nothing that glows.
    float density(const Vec3& point, const Vec3& direction) const;

private:
    struct Lattice {
        std::array<int, 3> size{0, 0, 0};
        Vec3 origin{0.f};
        float cell = 1.f;
        Mat4 toIndex, toWorld;
        float cellVolume = 1.f;    ///< [m³]
        std::vector<float> chance; ///< of a cell, over all volumes
        std::vector<float> sums;   ///< running, from what came before it
    };
    std::vector<Lattice> volumes_;
};
} // namespace hygros::render
