#pragma once
/// What moves the air, at many places at once: worked out on a lattice where things are dense enough for that to pay,
/// else at each place by itself.
#include "shot/shot.h"

#include <cstdint>
#include <functional>
#include <span>
#include <vector>

namespace hygros::sim {

/// The air of a shot and of what carries things in it [m/s].
struct AirMotion {
    const shot::Airflow& airflow;
    std::shared_ptr<const media::Carrier> before, after;
    float share = 0.f; ///< of `after`
    float pace = 1.f;  ///< of both
    void at8(F8 x, F8 y, F8 z, F8 out[3]) const;
    /// Side of the smallest swirls of what uneven8() gives [m]; infinite where there are none.
    float finest() const;
    /// What gusts and forces but holds add to the means of the winds, and the share that holds leave of all of it.
    void uneven8(F8 x, F8 y, F8 z, F8 out[3], F8& held) const;
    /// The means of the winds and what is added to them, as far as it is not held.
    void joined8(F8 y, const F8 uneven[3], F8 held, F8 out[3]) const;
};

/// Some of the places that a lattice is made for.
struct Places {
    std::span<const float> x, y, z; ///< of the same length
};

class AirLattice {
public:
    /// Around so many places; between its nodes what is uneven is mixed evenly. Nodes are a fifth of the smallest swirl
    /// apart. Keeps the air by reference.
    AirLattice(const AirMotion& air, std::span<const Places> places);
    /// Whether it was worth its while; else ask the air itself.
    bool isUsed() const { return !nodes_.empty(); }
    /// At one of the places that it was made for.
    void at8(F8 x, F8 y, F8 z, F8 out[3]) const;

private:
    static constexpr int cells = 8, side = cells + 1; ///< of a block, along each axis
    struct Node {
        float v[4]; ///< what is uneven; the share that is not held
    };
    const AirMotion& air_;
    Vec3 low_{0.f};
    float spacing_ = 1.f;
    int blocks_[3] = {0, 0, 0};
    std::vector<std::int32_t> blockAt_; ///< −1: none
    std::vector<Node> nodes_;
};
} // namespace hygros::sim
