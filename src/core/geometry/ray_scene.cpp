#include "geometry/ray_scene.h"

#include "base/error.h"
#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <embree3/rtcore.h>
#include <tuple>

namespace hygros::geometry {

struct RayScene::Impl {
    RTCDevice device = nullptr;
    RTCScene scene = nullptr;   ///< what is seen
    RTCScene shadows = nullptr; ///< what casts shadows; the same one where that is the same
    std::vector<PlacedSet> sets;
    // All meshes in one Embree geometry, which is faster to cross than many.
    std::vector<Vec3> positions, normals;
    std::vector<Vec2> uvs;
    std::vector<std::uint32_t> indices;
    std::vector<const Material*> materialOf; ///< by triangle
    std::vector<std::uint16_t> setOf;        ///< by triangle
    /// Triangles alike in how rays meet them, one geometry each.
    struct Part {
        bool visible, casts, matte;
        std::size_t firstTriangle, triangles;
    };
    std::vector<Part> parts;

    ~Impl()
    {
        if (shadows && shadows != scene)
            rtcReleaseScene(shadows);
        if (scene)
            rtcReleaseScene(scene);
        if (device)
            rtcReleaseDevice(device);
    }
};

RayScene::RayScene(std::vector<PlacedSet> sets, JobControl& job) : impl_(std::make_unique<Impl>())
{
    Impl& im = *impl_;
    std::stable_sort(sets.begin(), sets.end(), [](const PlacedSet& a, const PlacedSet& b) {
        return std::tuple(!a.visible, !a.casts, a.matte) < std::tuple(!b.visible, !b.casts, b.matte);
    });
    im.sets = std::move(sets);
    std::size_t vertexCount = 0, indexCount = 0;
    for (const PlacedSet& s : im.sets)
        for (const Mesh& m : s.set->meshes) {
            vertexCount += m.positions.size();
            indexCount += m.indices.size();
        }
    im.positions.reserve(vertexCount + 1);
    im.normals.reserve(vertexCount);
    im.uvs.reserve(vertexCount);
    im.indices.reserve(indexCount);
    im.materialOf.reserve(indexCount / 3);
    for (const PlacedSet& s : im.sets) {
        if (im.parts.empty() || im.parts.back().visible != s.visible || im.parts.back().casts != s.casts ||
            im.parts.back().matte != s.matte)
            im.parts.push_back({s.visible, s.casts, s.matte, im.indices.size() / 3, 0});
        const bool placed = s.toWorld != Mat4();
        const Mat4 forNormals = s.toWorld.inverse().transposed();
        for (const Mesh& m : s.set->meshes) {
            if (std::find(s.without.begin(), s.without.end(), m.group) != s.without.end())
                continue;
            const auto first = static_cast<std::uint32_t>(im.positions.size());
            if (placed) {
                for (std::size_t i = 0; i < m.positions.size(); ++i) {
                    Vec3 p, n;
                    s.toWorld.multVecMatrix(m.positions[i], p);
                    forNormals.multDirMatrix(m.normals[i], n);
                    im.positions.push_back(p);
                    im.normals.push_back(n.length2() > 0.f ? n.normalized() : Vec3(0, 1, 0));
                }
            } else {
                im.positions.insert(im.positions.end(), m.positions.begin(), m.positions.end());
                im.normals.insert(im.normals.end(), m.normals.begin(), m.normals.end());
            }
            if (m.uvs.empty())
                im.uvs.resize(im.positions.size(), Vec2(0, 0));
            else
                im.uvs.insert(im.uvs.end(), m.uvs.begin(), m.uvs.end());
            for (const std::uint32_t i : m.indices)
                im.indices.push_back(first + i);
            im.materialOf.resize(im.indices.size() / 3, &s.set->materials[m.material]);
            im.setOf.resize(im.indices.size() / 3, static_cast<std::uint16_t>(s.order + m.group));
        }
        im.parts.back().triangles = im.indices.size() / 3 - im.parts.back().firstTriangle;
    }
    for (const Vec3& p : im.positions)
        bounds_.extendBy(p);
    triangles_ = im.indices.size() / 3;
    im.positions.emplace_back(0.f); // Embree reads 16 bytes at the last vertex
    job.check();
    job.report(0.9f, "Building the ray structure");

    im.device = rtcNewDevice(nullptr);
    if (!im.device)
        throw workingError("Building the ray structure", "", "Embree did not start");
    im.scene = rtcNewScene(im.device);
    const bool alike = std::all_of(im.parts.begin(), im.parts.end(),
                                   [](const Impl::Part& p) { return p.visible == p.casts; });
    im.shadows = alike ? im.scene : rtcNewScene(im.device);
    for (std::size_t i = 0; i < im.parts.size(); ++i) {
        const Impl::Part& part = im.parts[i];
        if (part.triangles == 0)
            continue;
        RTCGeometry g = rtcNewGeometry(im.device, RTC_GEOMETRY_TYPE_TRIANGLE);
        rtcSetSharedGeometryBuffer(g, RTC_BUFFER_TYPE_VERTEX, 0, RTC_FORMAT_FLOAT3, im.positions.data(), 0,
                                   sizeof(Vec3), im.positions.size() - 1);
        rtcSetSharedGeometryBuffer(g, RTC_BUFFER_TYPE_INDEX, 0, RTC_FORMAT_UINT3, im.indices.data(),
                                   part.firstTriangle * 12, 12, part.triangles);
        rtcCommitGeometry(g);
        if (part.visible)
            rtcAttachGeometryByID(im.scene, g, static_cast<unsigned>(i));
        if (part.casts && !alike)
            rtcAttachGeometryByID(im.shadows, g, static_cast<unsigned>(i));
        rtcReleaseGeometry(g);
    }
    rtcCommitScene(im.scene);
    if (!alike)
        rtcCommitScene(im.shadows);
    if (rtcGetDeviceError(im.device) != RTC_ERROR_NONE)
        throw workingError("Building the ray structure", "", "Embree reported an error (is there enough memory?)");
    job.check();
}

RayScene::~RayScene() = default;

std::size_t RayScene::bytes() const
{
    constexpr std::size_t treePerTriangle = 110; // of Embree's, measured on the lock of Marl
    return impl_->positions.size() * 2 * sizeof(Vec3) + impl_->uvs.size() * sizeof(Vec2) +
           triangles_ * (3 * sizeof(std::uint32_t) + sizeof(void*) + sizeof(std::uint16_t) + treePerTriangle);
}

bool RayScene::hasMatte() const
{
    return std::any_of(impl_->parts.begin(), impl_->parts.end(),
                       [](const auto& part) { return part.matte && part.visible; });
}

bool RayScene::trace(const Vec3& o, const Vec3& d, float near, float far, Hit& hit) const
{
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRayHit r;
    r.ray = {o.x, o.y, o.z, near, d.x, d.y, d.z, 0.f, far, 0xffffffffu, 0u, 0u};
    r.hit.geomID = RTC_INVALID_GEOMETRY_ID;
    r.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
    rtcIntersect1(impl_->scene, &context, &r);
    if (r.hit.geomID == RTC_INVALID_GEOMETRY_ID)
        return false;
    const Impl& im = *impl_;
    const Impl::Part& part = im.parts[r.hit.geomID];
    const std::size_t triangle = part.firstTriangle + r.hit.primID;
    const std::uint32_t* tri = &im.indices[triangle * 3];
    const float u = r.hit.u, v = r.hit.v, w = 1.f - u - v;
    hit.t = r.ray.tfar;
    Vec3 ng(r.hit.Ng_x, r.hit.Ng_y, r.hit.Ng_z);
    const float doubleArea = ng.length();
    ng = doubleArea > 0.f ? ng / doubleArea : Vec3(0, 1, 0);
    hit.normal = (im.normals[tri[0]] * w + im.normals[tri[1]] * u + im.normals[tri[2]] * v).normalized();
    // Orient the geometric normal by the shading normal first, so that smooth shading survives at silhouettes.
    if (ng.dot(hit.normal) < 0.f)
        ng = -ng;
    if (ng.dot(d) > 0.f) {
        ng = -ng;
        hit.normal = -hit.normal;
    }
    hit.geometricNormal = ng;
    const float facing = hit.normal.dot(d);
    if (facing > -0.02f) // bent past the viewer: lean it back
        hit.normal = (hit.normal - d * (facing + 0.02f)).normalized();
    const Vec2 &ua = im.uvs[tri[0]], &ub = im.uvs[tri[1]], &uc = im.uvs[tri[2]];
    hit.uv = ua * w + ub * u + uc * v;
    const Vec2 e1 = ub - ua, e2 = uc - ua;
    hit.uvPerMetre = doubleArea > 0.f ? std::sqrt(std::abs(e1.x * e2.y - e1.y * e2.x) / doubleArea) : 0.f;
    hit.material = im.materialOf[triangle];
    hit.matte = part.matte;
    hit.set = im.setOf[triangle];
    return true;
}

bool RayScene::occluded(const Vec3& o, const Vec3& d, float reach) const
{
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRay r{o.x, o.y, o.z, 0.f, d.x, d.y, d.z, 0.f, reach, 0xffffffffu, 0u, 0u};
    rtcOccluded1(impl_->shadows, &context, &r);
    return r.tfar < 0.f;
}

unsigned RayScene::occluded8(const ShadowRays8& rays, unsigned active) const
{
    if (!active)
        return 0;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRay8 r;
    alignas(32) int valid[8];
    for (unsigned i = 0; i < 8; ++i) {
        valid[i] = (active >> i) & 1u ? -1 : 0;
        r.tnear[i] = 0.f;
        r.time[i] = 0.f;
        r.mask[i] = 0xffffffffu;
        r.flags[i] = 0;
        r.id[i] = 0;
    }
    std::memcpy(r.org_x, rays.ox, sizeof rays.ox);
    std::memcpy(r.org_y, rays.oy, sizeof rays.oy);
    std::memcpy(r.org_z, rays.oz, sizeof rays.oz);
    std::memcpy(r.dir_x, rays.dx, sizeof rays.dx);
    std::memcpy(r.dir_y, rays.dy, sizeof rays.dy);
    std::memcpy(r.dir_z, rays.dz, sizeof rays.dz);
    std::memcpy(r.tfar, rays.reach, sizeof rays.reach);
    rtcOccluded8(valid, impl_->shadows, &context, &r);
    unsigned hit = 0;
    for (unsigned i = 0; i < 8; ++i)
        if (valid[i] && r.tfar[i] < 0.f)
            hit |= 1u << i;
    return hit;
}
} // namespace hygros::geometry
