#include "geometry/ray_scene.h"

#include "base/error.h"
#include "geometry/set_rays.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <map>

namespace hygros::geometry {
namespace {
Mat4 mixed(const Mat4& a, const Mat4& b, float t)
{
    Mat4 m;
    for (int i = 0; i < 4; ++i)
        for (int k = 0; k < 4; ++k)
            m[i][k] = a[i][k] * (1.f - t) + b[i][k] * t;
    return m;
}
} // namespace

struct RayScene::Impl {
    RTCScene seen = nullptr;    ///< what rays of sight and of mirrors meet
    RTCScene shadows = nullptr; ///< what casts shadows; the same one where that is the same
    struct Instance {
        PlacedSet placed;
        std::shared_ptr<const SetRays> rays;
        bool asItIs; ///< stands where its file says and does not move
        Mat4 forNormals;
        std::map<const Material*, WetMaterial> wet; ///< of a set that is; by its own
        std::vector<Material> strewn;               ///< of what lies on it, by its tint
    };
    std::vector<Instance> instances; ///< by Embree's number of the instance
    const Material snow = snowMaterial();
    std::vector<PlacedWater> waters;
    bool plain = false; ///< one instance that is as it is: its structure serves by itself
    bool moves = false;

    ~Impl() { release(); }
    void release()
    {
        if (plain)
            return;
        if (shadows && shadows != seen)
            rtcReleaseScene(shadows);
        if (seen)
            rtcReleaseScene(seen);
    }
    void trace(RTCScene scene, RTCRayHit& r) const
    {
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        r.hit.geomID = RTC_INVALID_GEOMETRY_ID;
        r.hit.instID[0] = RTC_INVALID_GEOMETRY_ID;
        rtcIntersect1(scene, &context, &r);
    }
    static bool blocks(RTCScene scene, const Vec3& o, const Vec3& d, float reach, float time)
    {
        RTCIntersectContext context;
        rtcInitIntersectContext(&context);
        RTCRay r{o.x, o.y, o.z, 0.f, d.x, d.y, d.z, time, reach, 0xffffffffu, 0u, 0u};
        rtcOccluded1(scene, &context, &r);
        return r.tfar < 0.f;
    }
    bool met(RTCScene scene, const Vec3& o, const Vec3& d, float near, float far, float time, Hit& hit) const;
    /// What a ray found.
    struct Found {
        unsigned instance, triangle;
        float t, u, v;
    };
    void tell(const Found& found, const Vec3& o, const Vec3& d, float time, Hit& hit) const;
    bool water(const Vec3& o, const Vec3& d, float near, float far, bool met, Hit& hit) const;
};

RayScene::RayScene(std::vector<PlacedSet> sets, JobControl& job,
                   const std::function<std::shared_ptr<const SetRays>(const PlacedSet&)>& raysOf,
                   std::vector<PlacedWater> waters)
    : impl_(std::make_unique<Impl>())
{
    Impl& im = *impl_;
    im.waters = std::move(waters);
    for (PlacedSet& p : sets) {
        // Flattened to nothing: no ray meets it.
        if (!(std::abs(p.toWorld.determinant()) > 1e-30f) || !(std::abs(p.later().determinant()) > 1e-30f))
            continue;
        std::shared_ptr<const SetRays> rays;
        if (raysOf)
            rays = raysOf(p);
        else if (const auto same = std::find_if(
                     im.instances.begin(), im.instances.end(),
                     [&](const Impl::Instance& i) { return i.placed.set == p.set && i.placed.without == p.without; });
                 same != im.instances.end())
            rays = same->rays;
        else
            rays = std::make_shared<const SetRays>(p.set, p.without, job);
        if (rays->triangles() == 0)
            continue;
        triangles_ += rays->triangles();
        bounds_.extendBy(rays->boundsOf(p.toWorld));
        if (p.moves())
            bounds_.extendBy(rays->boundsOf(p.later()));
        const bool asItIs = p.toWorld == Mat4() && !p.moves();
        im.moves = im.moves || p.moves();
        Mat4 forNormals = p.toWorld.inverse().transposed();
        std::map<const Material*, WetMaterial> wet;
        if (!p.wetness.isDry())
            for (const Material& m : p.set->materials)
                wet.emplace(&m, WetMaterial(m, p.wetness));
        std::vector<Material> strewn;
        if (!p.strewn.isBare())
            for (const Vec3& colour : p.strewn.colours) {
                strewn.emplace_back();
                strewn.back().baseColour = colour;
                strewn.back().roughness = 0.6f;
            }
        im.instances.push_back({std::move(p), std::move(rays), asItIs, forNormals, std::move(wet), std::move(strewn)});
    }
    job.check();
    if (im.instances.size() == 1) {
        const Impl::Instance& only = im.instances.front();
        im.plain = only.asItIs && only.placed.visible && only.placed.casts;
        if (im.plain) {
            im.seen = im.shadows = only.rays->scene;
            return;
        }
    }
    const RTCDevice device = rayDevice();
    const bool alike = std::all_of(im.instances.begin(), im.instances.end(),
                                   [](const Impl::Instance& i) { return i.placed.visible == i.placed.casts; });
    im.seen = rtcNewScene(device);
    im.shadows = alike ? im.seen : rtcNewScene(device);
    for (std::size_t i = 0; i < im.instances.size(); ++i) {
        const PlacedSet& p = im.instances[i].placed;
        RTCGeometry g = rtcNewGeometry(device, RTC_GEOMETRY_TYPE_INSTANCE);
        rtcSetGeometryInstancedScene(g, im.instances[i].rays->scene);
        rtcSetGeometryTimeStepCount(g, p.moves() ? 2 : 1);
        rtcSetGeometryTransform(g, 0, RTC_FORMAT_FLOAT4X4_COLUMN_MAJOR, p.toWorld.getValue());
        if (p.moves())
            rtcSetGeometryTransform(g, 1, RTC_FORMAT_FLOAT4X4_COLUMN_MAJOR, p.later().getValue());
        rtcCommitGeometry(g);
        if (p.visible)
            rtcAttachGeometryByID(im.seen, g, static_cast<unsigned>(i));
        if (p.casts && !alike)
            rtcAttachGeometryByID(im.shadows, g, static_cast<unsigned>(i));
        rtcReleaseGeometry(g);
    }
    rtcCommitScene(im.seen);
    if (!alike)
        rtcCommitScene(im.shadows);
    if (rtcGetDeviceError(device) != RTC_ERROR_NONE)
        throw workingError("Building the ray structure", "", "Embree reported an error (is there enough memory?)");
}

RayScene::~RayScene() = default;

std::size_t RayScene::bytes() const
{
    // What stands in it is kept by itself.
    constexpr std::size_t treePerInstance = 600;
    return impl_->instances.size() * (sizeof(Impl::Instance) + treePerInstance);
}

bool RayScene::hasMatte() const
{
    return std::any_of(impl_->instances.begin(), impl_->instances.end(),
                       [](const auto& i) { return i.placed.matte && i.placed.visible; });
}

bool RayScene::moves() const { return impl_->moves; }

const std::vector<PlacedWater>& RayScene::waters() const { return impl_->waters; }

bool RayScene::Impl::met(RTCScene scene, const Vec3& o, const Vec3& d, float near, float far, float time,
                         Hit& hit) const
{
    RTCRayHit r;
    r.ray = {o.x, o.y, o.z, near, d.x, d.y, d.z, time, far, 0xffffffffu, 0u, 0u};
    trace(scene, r);
    if (r.hit.geomID == RTC_INVALID_GEOMETRY_ID)
        return false;
    tell({plain ? 0 : r.hit.instID[0], r.hit.primID, r.ray.tfar, r.hit.u, r.hit.v}, o, d, time, hit);
    return true;
}

void RayScene::Impl::tell(const Found& found, const Vec3& o, const Vec3& d, float time, Hit& hit) const
{
    const Instance& instance = instances[found.instance];
    const SetRays& s = *instance.rays;
    const std::size_t triangle = found.triangle;
    hit.facet = Vec3(0.f); // what is asked again may have met water before
    hit.water = nullptr;
    const std::uint32_t* tri = &s.indices[triangle * 3];
    const float u = found.u, v = found.v, w = 1.f - u - v;
    hit.t = found.t;
    Vec3 one = s.positions[tri[1]] - s.positions[tri[0]], two = s.positions[tri[2]] - s.positions[tri[0]];
    hit.normal = s.normals[tri[0]] * w + s.normals[tri[1]] * u + s.normals[tri[2]] * v;
    if (!instance.asItIs) {
        const PlacedSet& p = instance.placed;
        const Mat4 now = p.moves() ? mixed(p.toWorld, p.later(), time) : p.toWorld;
        const auto turn = [](const Mat4& m, const Vec3& a) {
            Vec3 out;
            m.multDirMatrix(a, out);
            return out;
        };
        one = turn(now, one);
        two = turn(now, two);
        hit.normal = turn(p.moves() ? now.inverse().transposed() : instance.forNormals, hit.normal);
    }
    hit.normal.normalize();
    Vec3 ng = one.cross(two);
    const float doubleArea = ng.length();
    ng = doubleArea > 0.f ? ng / doubleArea : Vec3(0, 1, 0);
    if (!(hit.normal.length2() > 0.f))
        hit.normal = ng;
    // Orient the geometric normal by the shading normal first, so that smooth shading survives at silhouettes.
    if (ng.dot(hit.normal) < 0.f)
        ng = -ng;
    if (ng.dot(d) > 0.f) {
        ng = -ng;
        hit.normal = -hit.normal;
    }
    hit.geometricNormal = ng;
    const auto lean = [&] { // one that is bent past the viewer
        if (const float facing = hit.normal.dot(d); facing > -0.02f)
            hit.normal = (hit.normal - d * (facing + 0.02f)).normalized();
    };
    lean();
    const Vec2 &ua = s.uvs[tri[0]], &ub = s.uvs[tri[1]], &uc = s.uvs[tri[2]];
    hit.uv = ua * w + ub * u + uc * v;
    const Vec2 e1 = ub - ua, e2 = uc - ua;
    hit.uvPerMetre = doubleArea > 0.f ? std::sqrt(std::abs(e1.x * e2.y - e1.y * e2.x) / doubleArea) : 0.f;
    hit.material = s.materialOf[triangle];
    // What stands under a roof stays dry: two ways up, so that a branch is none.
    const auto isSheltered = [&] {
        constexpr float roof = 60.f;
        const Vec3 from = o + d * hit.t + hit.geometricNormal * 0.02f;
        return blocks(shadows, from, Vec3(0.f, 1.f, 0.f), roof, time) &&
               blocks(shadows, from, Vec3(0.21f, 0.95f, -0.23f), roof, time);
    };
    if (!instance.wet.empty() && (hit.geometricNormal.y < 0.3f || !isSheltered())) {
        bool puddle = false;
        if (const auto wet = instance.wet.find(hit.material); wet != instance.wet.end()) {
            hit.material = &wet->second.at(o + d * hit.t, hit.geometricNormal, puddle);
            if (puddle) { // water lies level, but for rings
                hit.normal = wet->second.surface(o + d * hit.t);
                lean();
            } else if (wet->second.runs()) {
                hit.normal = wet->second.flowing(o + d * hit.t, hit.geometricNormal, hit.normal);
                lean();
            }
        }
    }
    if (!instance.strewn.empty() && hit.geometricNormal.y > 0.f && s.materialOf[triangle]->roughness > bareRoughness) {
        const Vec3 place = o + d * hit.t;
        Vec3 tilted;
        if (const int tint = strewnAt(instance.placed.strewn, place, hit.geometricNormal, tilted); tint >= 0) {
            hit.material = &instance.strewn[static_cast<std::size_t>(tint)];
            hit.normal = tilted;
            lean();
        }
    }
    if (!instance.placed.snowed.isBare() && s.materialOf[triangle]->roughness > bareRoughness) {
        const Vec3 place = o + d * hit.t;
        Vec3 toSky;
        if (snowMayLie(instance.placed.snowed, place, hit.geometricNormal, toSky) &&
            !blocks(shadows, place + hit.geometricNormal * 0.01f, toSky, 200.f, time))
            hit.material = &snow;
    }
    hit.sparkle = hit.material->isSnow ? instance.placed.snowed.sparkle : 0.f;
    hit.matte = instance.placed.matte;
    hit.set = static_cast<std::uint16_t>(instance.placed.order + s.groupOf[triangle]);
}

/// Water before what of the sets was met, if it was.
bool RayScene::Impl::water(const Vec3& o, const Vec3& d, float near, float far, bool met, Hit& hit) const
{
    for (const PlacedWater& w : waters) {
        Hit on;
        if (!w.surface->trace(o, d, near, met ? hit.t : far, on))
            continue;
        on.set = w.order;
        hit = on;
        met = true;
    }
    return met;
}

bool RayScene::trace(const Vec3& o, const Vec3& d, float near, float far, Hit& hit, float time) const
{
    const bool met = impl_->met(impl_->seen, o, d, near, far, time, hit);
    return impl_->water(o, d, near, far, met, hit);
}

unsigned RayScene::trace8(const SightRays8& rays, unsigned active, float near, float far, Hit hits[8]) const
{
    if (!active)
        return 0;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    context.flags = RTC_INTERSECT_CONTEXT_FLAG_COHERENT;
    RTCRayHit8 r;
    alignas(32) int valid[8];
    for (unsigned i = 0; i < 8; ++i) {
        const bool on = (active >> i) & 1u;
        valid[i] = on ? -1 : 0;
        const Vec3 &o = rays.origin[i], &d = rays.direction[i];
        r.ray.org_x[i] = o.x, r.ray.org_y[i] = o.y, r.ray.org_z[i] = o.z;
        r.ray.dir_x[i] = d.x, r.ray.dir_y[i] = d.y, r.ray.dir_z[i] = d.z;
        r.ray.tnear[i] = near, r.ray.tfar[i] = far, r.ray.time[i] = rays.time[i];
        r.ray.mask[i] = 0xffffffffu, r.ray.flags[i] = r.ray.id[i] = 0;
        r.hit.geomID[i] = r.hit.instID[0][i] = RTC_INVALID_GEOMETRY_ID;
    }
    rtcIntersect8(valid, impl_->seen, &context, &r);
    unsigned all = 0;
    for (unsigned i = 0; i < 8; ++i) {
        if (!valid[i])
            continue;
        const bool met = r.hit.geomID[i] != RTC_INVALID_GEOMETRY_ID;
        hits[i] = Hit(); // whose it was before
        if (met)
            impl_->tell({impl_->plain ? 0 : r.hit.instID[0][i], r.hit.primID[i], r.ray.tfar[i], r.hit.u[i], r.hit.v[i]},
                        rays.origin[i], rays.direction[i], rays.time[i], hits[i]);
        if (impl_->water(rays.origin[i], rays.direction[i], near, far, met, hits[i]))
            all |= 1u << i;
    }
    return all;
}

bool RayScene::traceSets(const Vec3& o, const Vec3& d, float near, float far, Hit& hit, float time) const
{
    return impl_->met(impl_->seen, o, d, near, far, time, hit);
}

bool RayScene::traceUnder(const WaterSurface& water, const Vec3& o, const Vec3& d, float near, float far, Hit& hit,
                          float time) const
{
    const bool met = traceSets(o, d, near, far, hit, time);
    Hit up;
    if (!water.traceUp(o, d, near, met ? hit.t : far, up))
        return met;
    for (const PlacedWater& w : impl_->waters)
        if (w.surface.get() == &water)
            up.set = w.order;
    hit = up;
    return true;
}

const WaterSurface* RayScene::waterAround(const Vec3& place) const
{
    for (const PlacedWater& w : impl_->waters)
        if (w.surface->isUnder(place))
            return w.surface.get();
    return nullptr;
}

bool RayScene::blocked(const Vec3& o, const Vec3& d, float reach, Hit& hit, float time) const
{
    return impl_->met(impl_->shadows, o, d, 0.f, reach, time, hit);
}

bool RayScene::occluded(const Vec3& o, const Vec3& d, float reach, float time) const
{
    return Impl::blocks(impl_->shadows, o, d, reach, time);
}

namespace {
void fill(RTCRay8& r, int valid[8], const ShadowRays8& rays, unsigned active)
{
    for (unsigned i = 0; i < 8; ++i) {
        valid[i] = (active >> i) & 1u ? -1 : 0;
        r.tnear[i] = 0.f;
        r.time[i] = rays.time;
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
}
} // namespace

unsigned RayScene::nearest8(const ShadowRays8& rays, unsigned active, float distance[8], Vec3 normal[8]) const
{
    if (!active)
        return 0;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    context.flags = RTC_INTERSECT_CONTEXT_FLAG_COHERENT;
    RTCRayHit8 r;
    alignas(32) int valid[8];
    fill(r.ray, valid, rays, active);
    for (unsigned i = 0; i < 8; ++i) {
        r.hit.geomID[i] = RTC_INVALID_GEOMETRY_ID;
        r.hit.instID[0][i] = RTC_INVALID_GEOMETRY_ID;
    }
    rtcIntersect8(valid, impl_->shadows, &context, &r);
    unsigned hit = 0;
    for (unsigned i = 0; i < 8; ++i) {
        distance[i] = r.ray.tfar[i];
        if (!valid[i] || r.hit.geomID[i] == RTC_INVALID_GEOMETRY_ID)
            continue;
        hit |= 1u << i;
        normal[i] = Vec3(r.hit.Ng_x[i], r.hit.Ng_y[i], r.hit.Ng_z[i]);
        if (const unsigned instance = r.hit.instID[0][i]; instance != RTC_INVALID_GEOMETRY_ID)
            impl_->instances[instance].forNormals.multDirMatrix(Vec3(normal[i]), normal[i]);
    }
    return hit;
}

unsigned RayScene::occluded8(const ShadowRays8& rays, unsigned active) const
{
    if (!active)
        return 0;
    RTCIntersectContext context;
    rtcInitIntersectContext(&context);
    RTCRay8 r;
    alignas(32) int valid[8];
    fill(r, valid, rays, active);
    rtcOccluded8(valid, impl_->shadows, &context, &r);
    unsigned hit = 0;
    for (unsigned i = 0; i < 8; ++i)
        if (valid[i] && r.tfar[i] < 0.f)
            hit |= 1u << i;
    return hit;
}
} // namespace hygros::geometry
