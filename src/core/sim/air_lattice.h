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
    /// Side of the smallest swirls [m]; infinite where nothing changes from place to place but with height.
    float finest() const;
};

class AirLattice {
public:
    /// Around so many places; between its nodes the air is mixed evenly. Nodes are a fifth of the smallest swirl apart.
    AirLattice(const AirMotion& air, std::span<const float> x, std::span<const float> y, std::span<const float> z);
    /// Whether it was worth its while; else ask the air itself.
    bool isUsed() const { return !nodes_.empty(); }
    /// At one of the places that it was made for.
    void at8(F8 x, F8 y, F8 z, F8 out[3]) const;

private:
    static constexpr int cells = 8, side = cells + 1; ///< of a block, along each axis
    struct Node {
        float v[4];
    };
    Vec3 low_{0.f};
    float spacing_ = 1.f;
    int blocks_[3] = {0, 0, 0};
    std::vector<std::int32_t> blockAt_; ///< −1: none
    std::vector<Node> nodes_;
};
} // namespace hygros::sim
