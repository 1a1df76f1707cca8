#pragma once
/// How far it is over water, at its level, to the nearest that stands in it.
#include "geometry/ray_scene.h"

#include <array>

namespace hygros::geometry {

class Shores {
public:
    /// Around `centre`, to some 130 m away, as fine as 0.1 m to 32 m. Throws Cancelled.
    Shores(const RayScene& bare, float level, const Vec2& centre, JobControl& job);
    /// Metres to the nearest wall or bank, farthest() at most.
    float away(float x, float z) const;
    static constexpr float farthest = 6.f;
    std::size_t bytes() const;

private:
    static constexpr int cells = 640;
    struct Scale {
        float cell;
        Vec2 corner;
        std::vector<float> away; ///< empty: nothing stands there
    };
    std::array<Scale, 2> scales_; ///< the finer first
};
} // namespace hygros::geometry
