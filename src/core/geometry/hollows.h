#pragma once
/// Hollows of the ground in which water stands: how high it can stand in each before it runs over.
///
/// Seen from above the sets are heights on two nested square grids, to which an unevenness is added that no set has;
/// hollows are filled to their brims from the outside in (priority flood: R. Barnes et al., Priority-flood: an optimal
/// depression-filling and watershed-labeling algorithm for digital elevation models, Comput. Geosci. 62, 2014). Water
/// stands as far under the brim everywhere as is needed for it to cover the share of level ground that is wished: deep
/// hollows have it first, and its line follows the height of each place of the surface itself.
#include "geometry/ray_scene.h"

namespace hygros::geometry {

struct HollowSettings {
    Vec3 around{0.f};      ///< middle of the fine grid; its height does not matter
    float size = 1.2f;     ///< about how far the added hollows are apart [m]
    float uneven = 0.015f; ///< how deep these are [m]
    std::uint32_t seed = 1;
    bool operator==(const HollowSettings&) const = default;
};

class Hollows {
public:
    /// Throws Cancelled.
    Hollows(const RayScene& bare, const HollowSettings& settings, JobControl& job);
    /// How far water stands over a place, were it at its brim [m]; negative: in no hollow, NaN: beyond the grids.
    float underBrim(const Vec3& place) const;
    /// How far under the brims it stands so that it covers a share of the level ground about the middle [m].
    float lineFor(float share) const;
    /// The largest share that hollows hold.
    float most() const { return most_; }
    /// Under the brim of a hollow on level ground [m].
    float deepest() const { return sorted_.empty() ? 0.f : sorted_.front(); }
    std::size_t bytes() const;

private:
    struct Grid {
        static constexpr int cells = 512; ///< a side
        float x0 = 0.f, z0 = 0.f, cell = 1.f;
        std::vector<float> height, brim; ///< with the unevenness; brim: not above the height where no hollow is [m]
        std::vector<bool> level;
        bool at(float x, float z, int& i, int& j) const;
    };
    float uneven(float x, float z) const;
    void look(Grid& grid, const RayScene& bare, JobControl& job) const;
    void fill(Grid& grid, const Grid* around) const;
    HollowSettings settings_;
    Grid fine_, coarse_;
    std::vector<float> sorted_; ///< depths of level ground under its brim, the deepest first
    float most_ = 0.f;
};

/// Water in these, at one line.
class WaterInHollows final : public StandingWater {
public:
    WaterInHollows(std::shared_ptr<const Hollows> hollows, float line) : hollows_(std::move(hollows)), line_(line) {}
    float depth(const Vec3& place) const override { return hollows_->underBrim(place) - line_; }

private:
    std::shared_ptr<const Hollows> hollows_;
    float line_;
};
} // namespace hygros::geometry
