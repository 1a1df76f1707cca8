#pragma once
/// Where water stands at a level within the walls of sets: all that hangs together with a place at that height.
#include "geometry/ray_scene.h"

namespace hygros::geometry {

class Basin {
public:
    struct Settings {
        Vec3 from{0.f};      ///< a place in it; its height is the water's level
        float reach = 100.f; ///< farther from there it is not looked for [m]
        bool runsOn = false; ///< water may stand as far as that; else it is none where it would run out
        bool operator==(const Settings&) const = default;
    };
    /// Throws Cancelled.
    Basin(std::shared_ptr<const RayScene> bare, const Settings& settings, JobControl& job);
    /// Something solid stands where it should begin; or walls do not close around it.
    bool isBlocked() const { return isBlocked_; }
    bool runsOut() const { return runsOut_; }
    /// Whether water stands at a place.
    bool holds(float x, float z) const;
    float area() const { return area_; } ///< [m²]
    /// Of the ground under it; nothing under it: 0 for both [m].
    float meanDepth() const { return meanDepth_; }
    float deepest() const { return deepest_; }
    std::size_t bytes() const { return sizeof *this + wet_.size(); }

private:
    static constexpr int cells = 512;
    float x0_ = 0.f, z0_ = 0.f, cell_ = 0.1f;
    static constexpr std::uint8_t wet = 1, rim = 2; ///< its middle is; a wall may stand in it
    std::vector<std::uint8_t> wet_;
    std::shared_ptr<const RayScene> bare_;
    float level_ = 0.f;
    bool isBlocked_ = false, runsOut_ = false;
    float area_ = 0.f, meanDepth_ = 0.f, deepest_ = 0.f;
    bool isInside(const Vec3& place) const;
    bool fill(const Settings& settings, JobControl& job);
    void sound(JobControl& job);
};
} // namespace hygros::geometry
