#pragma once
/// Ray queries against one or more placed sets: immutable and shared between threads (Embree). Each set has a ray
/// structure of its own (SetRays), of which a scene holds instances: to place one anew builds nothing else.
#include "base/simd.h"
#include "geometry/set_geometry.h"
#include "geometry/snowed.h"
#include "geometry/strewn.h"
#include "geometry/water_surface.h"
#include "geometry/wet.h"

#include <functional>
#include <memory>
#include <optional>
#include <vector>

namespace hygros::geometry {

class SetRays;

/// Water that rays meet beside the sets, whose it is, and the number that Hit::set tells of it.
struct PlacedWater {
    std::shared_ptr<const WaterSurface> surface;
    std::string element;
    std::uint16_t order = 0;
    bool operator==(const PlacedWater&) const = default;
};

/// A set, where it stands. Affine, may scale.
struct PlacedSet {
    std::shared_ptr<const SetGeometry> set;
    Mat4 toWorld;
    bool visible = true;                     ///< met by rays of sight and of mirrors
    bool casts = true;                       ///< met by shadow rays
    bool matte = false;                      ///< seen as a hole: its own light is nothing
    bool carried = false;                    ///< by what is simulated: nothing lies on it, nothing simulated meets it
    Mat4 frame = Mat4();                     ///< where what is fixed to it stands: toWorld without the file's unit
    std::string element = {};                ///< whose it is
    std::uint16_t order = 0;                 ///< what Hit::set tells of its first object; the others follow
    std::vector<std::uint16_t> without = {}; ///< objects that are left out
    Wetness wetness = {};
    Snowed snowed = {};
    Strewn strewn = {};
    /// Where it stands when the shutter closes (time 1), if it moves while that is open; in between matrices are mixed
    /// evenly.
    std::optional<Mat4> toWorldLater = {};
    bool moves() const { return toWorldLater && *toWorldLater != toWorld; }
    const Mat4& later() const { return toWorldLater ? *toWorldLater : toWorld; }
    bool operator==(const PlacedSet&) const = default;
};

struct Hit {
    float t = 0.f;                          ///< distance along the unit direction [m]
    Vec3 normal{0.f}, geometricNormal{0.f}; ///< unit, both on the side the ray came from
    Vec2 uv{0, 0};
    float uvPerMetre = 0.f; ///< how fast uv changes over the surface
    const Material* material = nullptr;
    bool matte = false;
    std::uint16_t set = 0; ///< PlacedSet::order of what was met, and its Mesh::group on top
    /// Where the material is water: one of the small waves that are there, as a mirror [unit]; and whose it is.
    Vec3 facet{0.f};
    const WaterSurface* water = nullptr;
    float sparkle = 0.f; ///< of snow: how much of its gloss are single glints, 0…1
};

/// Eight shadow segments at one time; lanes whose bit in `active` is 0 are left alone.
struct ShadowRays8 {
    alignas(32) float ox[8], oy[8], oz[8], dx[8], dy[8], dz[8], reach[8];
    float time = 0.f;
};

/// Eight rays of sight of length-1 directions, each at its own time.
struct SightRays8 {
    Vec3 origin[8], direction[8];
    float time[8] = {};
};

class RayScene {
public:
    /// `raysOf` gives the structure of a set without its left-out objects, kept from before perhaps; none: they are
    /// built. Throws as SetRays does.
    RayScene(std::vector<PlacedSet> sets, JobControl& job,
             const std::function<std::shared_ptr<const SetRays>(const PlacedSet&)>& raysOf = {},
             std::vector<PlacedWater> waters = {});
    ~RayScene();
    RayScene(const RayScene&) = delete;
    RayScene& operator=(const RayScene&) = delete;

    const Box3& bounds() const { return bounds_; }
    std::size_t triangles() const { return triangles_; }
    /// Without the sets' own structures.
    std::size_t bytes() const;
    /// Whether something moves while the shutter is open.
    bool moves() const;
    /// Whether a visible set is a matte.
    bool hasMatte() const;
    const std::vector<PlacedWater>& waters() const;
    /// Nearest visible surface in (near, far), water among them; false if there is none. Here and below `time` is 0
    /// when the shutter opens and 1 when it closes.
    bool trace(const Vec3& origin, const Vec3& direction, float near, float far, Hit& hit, float time = 0.f) const;
    /// Eight of them, those whose bit in `active` is set; bit i of the answer: `hits[i]` was met. Rays of one call
    /// should be alike for speed.
    unsigned trace8(const SightRays8& rays, unsigned active, float near, float far, Hit hits[8]) const;
    /// The same without water.
    bool traceSets(const Vec3& origin, const Vec3& direction, float near, float far, Hit& hit, float time = 0.f) const;
    /// From under a water surface: the nearest of the sets and of its underside.
    bool traceUnder(const WaterSurface& water, const Vec3& origin, const Vec3& direction, float near, float far,
                    Hit& hit, float time = 0.f) const;
    /// The water that a place lies in; null: none.
    const WaterSurface* waterAround(const Vec3& place) const;
    /// Whether anything that casts shadows stands in the way.
    bool occluded(const Vec3& origin, const Vec3& direction, float reach, float time = 0.f) const;
    /// The same, and the nearest of it.
    bool blocked(const Vec3& origin, const Vec3& direction, float reach, Hit& hit, float time = 0.f) const;
    /// Bit i is set where segment i meets a surface. Rays of one call should be alike for speed.
    unsigned occluded8(const ShadowRays8& rays, unsigned active) const;
    /// The same, how far it is to the nearest, and which way that faces (either side, of any length).
    unsigned nearest8(const ShadowRays8& rays, unsigned active, float distance[8], Vec3 normal[8]) const;

private:
    struct Impl;
    std::unique_ptr<Impl> impl_;
    Box3 bounds_;
    std::size_t triangles_ = 0;
};
} // namespace hygros::geometry
