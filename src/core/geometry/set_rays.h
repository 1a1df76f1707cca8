#pragma once
/// The triangles of one set in a ray structure of their own (Embree): built once and used wherever the set stands.
#include "geometry/set_geometry.h"

#include <embree3/rtcore.h>

#include <memory>
#include <vector>

namespace hygros::geometry {

/// In the set's own space and unit. Immutable once built; threads share it.
class SetRays {
public:
    /// `without`: groups (SetGeometry::groups) that are left out. Throws a working Error when there is not enough
    /// memory, and Cancelled when the job asks for it.
    SetRays(std::shared_ptr<const SetGeometry> set, const std::vector<std::uint16_t>& without, JobControl& job);
    ~SetRays();
    SetRays(const SetRays&) = delete;
    SetRays& operator=(const SetRays&) = delete;

    std::size_t bytes() const;
    std::size_t triangles() const { return indices.size() / 3; }
    /// The smallest box around the set as it stands after `toWorld`.
    Box3 boundsOf(const Mat4& toWorld) const;

    std::vector<Vec3> positions; ///< and one more, as Embree reads 16 bytes at the last
    std::vector<Vec3> normals;   ///< unit length
    std::vector<Vec2> uvs;
    std::vector<std::uint32_t> indices;
    std::vector<const Material*> materialOf; ///< by triangle
    std::vector<std::uint16_t> groupOf;      ///< by triangle
    RTCScene scene = nullptr;

private:
    std::shared_ptr<const SetGeometry> set_;
};

/// Embree's device, the same for all structures; it ends with the last of them.
RTCDevice rayDevice();
} // namespace hygros::geometry
