#pragma once
/// Ray queries against one or more placed sets: built once, then immutable and shared between threads (Embree).
#include "base/simd.h"
#include "geometry/set_geometry.h"

#include <memory>
#include <vector>

namespace hygros::geometry {

/// A set, where it stands. Affine, may scale.
struct PlacedSet {
    std::shared_ptr<const SetGeometry> set;
    Mat4 toWorld;
    bool visible = true;                     ///< met by rays of sight and of mirrors
    bool casts = true;                       ///< met by shadow rays
    bool matte = false;                      ///< seen as a hole: its own light is nothing
    Mat4 frame = Mat4();                     ///< where what is fixed to it stands: toWorld without the file's unit
    std::string element = {};                ///< whose it is
    std::uint16_t order = 0;                 ///< what Hit::set tells of its first object; the others follow
    std::vector<std::uint16_t> without = {}; ///< objects that are left out
    bool operator==(const PlacedSet&) const = default;
};

struct Hit {
    float t = 0.f;                ///< distance along the unit direction [m]
    Vec3 normal, geometricNormal; ///< unit, both on the side the ray came from
    Vec2 uv{0, 0};
    float uvPerMetre = 0.f; ///< how fast uv changes over the surface
    const Material* material = nullptr;
    bool matte = false;
    std::uint16_t set = 0; ///< PlacedSet::order of what was met, and its Mesh::group on top
};

/// Eight shadow segments; lanes whose bit in `active` is 0 are left alone.
struct ShadowRays8 {
    alignas(32) float ox[8], oy[8], oz[8], dx[8], dy[8], dz[8], reach[8];
};

class RayScene {
public:
    /// Cancelled is thrown if the job asks for it.
    RayScene(std::vector<PlacedSet> sets, JobControl& job);
    ~RayScene();
    RayScene(const RayScene&) = delete;
    RayScene& operator=(const RayScene&) = delete;

    const Box3& bounds() const { return bounds_; }
    std::size_t triangles() const { return triangles_; }
    std::size_t bytes() const;
    /// Whether a visible set is a matte.
    bool hasMatte() const;
    /// Nearest visible surface in (near, far); false if there is none.
    bool trace(const Vec3& origin, const Vec3& direction, float near, float far, Hit& hit) const;
    /// Whether anything that casts shadows stands in the way.
    bool occluded(const Vec3& origin, const Vec3& direction, float reach) const;
    /// Bit i is set where segment i meets a surface. Rays of one call should be alike for speed.
    unsigned occluded8(const ShadowRays8& rays, unsigned active) const;

private:
    struct Impl;
    std::unique_ptr<Impl> impl_;
    Box3 bounds_;
    std::size_t triangles_ = 0;
};
} // namespace hygros::geometry
