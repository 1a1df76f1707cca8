#pragma once
/// Glowing bits that fly: how they are born and carried.
#include "media/plume.h"

#include <memory>
#include <string>
#include <vector>

namespace hygros::media {

/// Embers as they are simulated, see sim/embers.h.
struct Embers {
    std::string id;
    std::vector<Feed> feeds;                      ///< where they are born; their noise does not matter
    std::shared_ptr<const Carrier> before, after; ///< the plume that carries them at two frames; null: still
    double frameBefore = 0.0;                     ///< the frame of `before`; `after` is one on
    double frame = 0.0;                           ///< now
    float pace = 1.f;                             ///< seconds of the plume a second
    float rate = 30.f;                            ///< born a second, from all feeds
    float life = 2.5f;                            ///< mean time until they are out [s]
    float fall = 0.4f;                            ///< speed at which they would fall in still air [m/s]
    float scatter = 0.6f;                         ///< standard deviation of their own speed when they are born [m/s]
    std::uint32_t seed = 1;
    bool operator==(const Embers&) const = default;
};
} // namespace hygros::media
