#pragma once
/// What glows and is smaller than a pixel: embers, and the pieces of a strike.
#include "base/vec.h"

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace hygros::media {

/// A bit that glows, as it is drawn.
struct Spark {
    Vec3 at{0.f}, velocity{0.f}; ///< [m], [m/s]
    float radius = 0.001f;       ///< [m]
    Vec3 radiance{0.f};          ///< of its surface [W/m²/sr]
    bool operator==(const Spark&) const = default;
};

/// Many of them, and where to look for those that lie along a ray: spheres about groups of them, halved again and
/// again.
class SparkList {
public:
    /// `blur`: seconds of their way that are seen at once; each is a streak of so long.
    SparkList(std::vector<Spark> all, float blur);
    const std::vector<Spark>& all() const { return all_; }
    float blur() const { return blur_; }
    std::size_t bytes() const;
    /// Light that a ray of sight of unit length meets before `limit` [W/m²/sr]. It is as wide as `angle` times its
    /// length, which was `before` where this piece of it begins; what is thinner is spread over that, and no light is
    /// gained or lost. `distance` becomes the mean one of what was met.
    Vec3 along(const Vec3& origin, const Vec3& direction, float limit, float angle, float before,
               float& distance) const;
    bool operator==(const SparkList& o) const { return blur_ == o.blur_ && all_ == o.all_; }

private:
    struct Node {
        Vec3 centre{0.f};
        float radius = 0.f;
        std::uint32_t first = 0, count = 0; ///< of `order_`
        std::uint32_t second = 0;           ///< of its halves, the first one is the next; 0: it has none
    };
    void divide(std::uint32_t first, std::uint32_t count);
    std::vector<Spark> all_;
    float blur_ = 0.f;
    std::vector<std::uint32_t> order_;
    std::vector<Node> nodes_;
};

struct Sparks {
    std::string id;
    std::shared_ptr<const SparkList> all; ///< never null
    bool operator==(const Sparks& o) const { return id == o.id && (all == o.all || *all == *o.all); }
};
} // namespace hygros::media
