#include "geometry/set_rays.h"

#include "base/error.h"

#include <algorithm>

namespace hygros::geometry {

RTCDevice rayDevice()
{
    struct Device {
        RTCDevice device = rtcNewDevice(nullptr);
        ~Device()
        {
            if (device)
                rtcReleaseDevice(device);
        }
    };
    static const Device the;
    if (!the.device)
        throw workingError("Building the ray structure", "", "Embree did not start");
    return the.device;
}

SetRays::SetRays(std::shared_ptr<const SetGeometry> set, const std::vector<std::uint16_t>& without, JobControl& job)
    : set_(std::move(set))
{
    const auto isIn = [&](const Mesh& m) {
        return std::find(without.begin(), without.end(), m.group) == without.end();
    };
    std::size_t vertexCount = 0, indexCount = 0;
    for (const Mesh& m : set_->meshes)
        if (isIn(m)) {
            vertexCount += m.positions.size();
            indexCount += m.indices.size();
        }
    positions.reserve(vertexCount + 1);
    normals.reserve(vertexCount);
    uvs.reserve(vertexCount);
    indices.reserve(indexCount);
    materialOf.reserve(indexCount / 3);
    groupOf.reserve(indexCount / 3);
    // All meshes in one geometry, which is faster to cross than many.
    for (const Mesh& m : set_->meshes) {
        if (!isIn(m))
            continue;
        const auto first = static_cast<std::uint32_t>(positions.size());
        positions.insert(positions.end(), m.positions.begin(), m.positions.end());
        normals.insert(normals.end(), m.normals.begin(), m.normals.end());
        if (m.uvs.empty())
            uvs.resize(positions.size(), Vec2(0, 0));
        else
            uvs.insert(uvs.end(), m.uvs.begin(), m.uvs.end());
        for (const std::uint32_t i : m.indices)
            indices.push_back(first + i);
        materialOf.resize(indices.size() / 3, &set_->materials[m.material]);
        groupOf.resize(indices.size() / 3, m.group);
    }
    job.check();
    job.report(0.9f, "Building the ray structure");
    const RTCDevice device = rayDevice();
    positions.emplace_back(0.f);
    scene = rtcNewScene(device);
    if (triangles() > 0) {
        RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_TRIANGLE);
        rtcSetSharedGeometryBuffer(g, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, positions.data(), 0, sizeof(Vec3),
                                   positions.size() - 1);
        rtcSetSharedGeometryBuffer(g, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, indices.data(), 0, 12, triangles());
        rtcCommitGeometry(g);
        rtcAttachGeometryByID(scene, g, 0);
        rtcReleaseGeometry(g);
    }
    rtcCommitScene(scene);
    if (rtcGetDeviceError(device) != RTC_ERROR_NONE) {
        rtcReleaseScene(scene);
        throw workingError("Building the ray structure", "", "Embree reported an error (is there enough memory?)");
    }
}

SetRays::~SetRays() { rtcReleaseScene(scene); }

std::size_t SetRays::bytes() const
{
    constexpr std::size_t treePerTriangle = 110; // of Embree's, measured on the lock of Marl
    return positions.size() * 2 * sizeof(Vec3) + uvs.size() * sizeof(Vec2) +
           triangles() * (3 * sizeof(std::uint32_t) + sizeof(void*) + sizeof(std::uint16_t) + treePerTriangle);
}

Box3 SetRays::boundsOf(const Mat4& toWorld) const
{
    Box3 box;
    for (std::size_t i = 0; i + 1 < positions.size(); ++i)
        box.extendBy(positions[i] * toWorld);
    return box;
}
} // namespace hygros::geometry
