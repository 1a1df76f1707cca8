#include "render/frame.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;
using shot::Shot;

namespace {
/// Runs body(row) over rows that are not done; false when stopped before the end.
template <class Body> bool overRows(std::vector<char>& done, const std::atomic<bool>& stop, const Body& body)
{
    parallelRanges(done.size(), 2, [&](std::size_t begin, std::size_t end) {
        for (std::size_t y = begin; y < end; ++y) {
            if (done[y] || stop.load(std::memory_order_relaxed))
                continue;
            body(static_cast<int>(y));
            done[y] = 1;
        }
    });
    return std::find(done.begin(), done.end(), 0) == done.end();
}

/// Tent of half width 0.85 pixels about the centre, from u in [0, 1).
float tent(float u)
{
    const float v = u < 0.5f ? std::sqrt(2.f * u) - 1.f : 1.f - std::sqrt(2.f - 2.f * u);
    return 0.5f + 0.85f * v;
}

float jitterAt(int x, int y, int pass)
{
    return BlueNoise::tile().at(x, y, purposeAirJitter, static_cast<std::uint32_t>(pass));
}
F8 jitters(int x, int y, int pass)
{
    F8 j;
    for (int i = 0; i < lanes; ++i)
        j[i] = jitterAt(x + i, y, pass);
    return j;
}
} // namespace

Frame::Frame(std::shared_ptr<const Shot> shot, int width, int height, std::size_t recordBytes)
    : shot_(std::move(shot)), width_(width), height_(height), view_(shot_->camera, width, height),
      recordBytes_(recordBytes), lampCount_(shot_->spots.size()), quickWidth_((width + 3) / 4), quickHeight_((height + 3) / 4)
{
    const std::size_t pixels = static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
    clusters_.resize(pixels * clusterCount);
    spotLight_.resize(pixels * clusterCount * lampCount_, Vec3(0.f));
    samples_.resize(pixels, 0.f);
    span_.resize(pixels, 0.f);
    mirrorOf_.resize(pixels, -1);
    mirrors_.resize(static_cast<std::size_t>(height));
    mirrorSpots_.resize(static_cast<std::size_t>(height));
    rowDone_.assign(static_cast<std::size_t>(height), 0);
    airSun_.resize(pixels * 3);
    airSky_.resize(pixels * 3);
    airSpot_.resize(pixels * 3 * lampCount_);
    through_.resize(pixels);
    setAir(shot_, true);
    const std::size_t perPass = pixels * (5 + lampCount_ + maxSegments * 2 * std::max<std::size_t>(1, air_->noisyCount()));
    records_.resize(std::clamp<std::size_t>(recordBytes_ / perPass, 1, 8));
}

void Frame::setAir(std::shared_ptr<const Shot> shot, bool noiseChanged)
{
    const std::size_t noisyBefore = air_ ? air_->noisyCount() : 0;
    shot_ = std::move(shot);
    air_ = std::make_unique<AirModel>(*shot_);
    sampler_ = std::make_unique<SurfaceSampler>(*shot_);
    if (shot_->sky) {
        const Vec3 up = shot_->sky->irradiance(Vec3(0, 1, 0));
        const Vec3 sun = shot_->sky->sunIrradiance() * std::max(0.f, shot_->sky->sunDirection().y);
        diffuseTint_ = Vec3(sun.x / std::max(up.x, 1e-9f), sun.y / std::max(up.y, 1e-9f), sun.z / std::max(up.z, 1e-9f));
    }
    if (noiseChanged || air_->noisyCount() != noisyBefore) {
        for (Record& r : records_)
            r.noiseValid = false;
        rolling_.noiseValid = false;
        quickNoiseValid_ = false;
    }
    restart();
}

Ray8 Frame::raysAt(int x, int y) const
{
    const Vec3 o = view_.position(), first = view_.unnormalized(0.5f, static_cast<float>(y) + 0.5f);
    const Vec3 step = view_.unnormalized(1.5f, static_cast<float>(y) + 0.5f) - first;
    F8 column;
    for (int i = 0; i < lanes; ++i)
        column[i] = static_cast<float>(std::min(x + i, width_ - 1));
    Ray8 r;
    r.ox = f8(o.x);
    r.oy = f8(o.y);
    r.oz = f8(o.z);
    r.dx = first.x + column * step.x;
    r.dy = first.y + column * step.y;
    r.dz = first.z + column * step.z;
    const F8 inv = 1.f / sqrt8(r.dx * r.dx + r.dy * r.dy + r.dz * r.dz);
    r.dx *= inv;
    r.dy *= inv;
    r.dz *= inv;
    return r;
}

// ---------------------------------------------------------------------------------------------- tracing

void Frame::addMirror(int y, std::size_t pixel, const SurfaceSample::Mirror& m, float t1, const Vec3* spots)
{
    auto& row = mirrors_[static_cast<std::size_t>(y)];
    auto& rowSpots = mirrorSpots_[static_cast<std::size_t>(y)];
    if (mirrorOf_[pixel] < 0) {
        mirrorOf_[pixel] = static_cast<std::int32_t>(row.size());
        row.push_back({static_cast<std::uint32_t>(pixel), {}});
        rowSpots.resize(row.size() * 2 * lampCount_, Vec3(0.f));
    }
    const auto at = static_cast<std::size_t>(mirrorOf_[pixel]);
    Mirror& mirror = row[at];
    // The nearer in distance of the two, or a free one for something clearly elsewhere.
    int use = 0;
    for (int i = 0; i < 2; ++i) {
        const MirrorCluster& c = mirror.clusters[i];
        if (c.weight == 0.f || std::abs(std::log(c.t / m.t)) < 0.25f) {
            use = i;
            break;
        }
        use = 1;
    }
    MirrorCluster& c = mirror.clusters[use];
    const float w = c.weight, inv = 1.f / (w + 1.f);
    c.t1 = (c.t1 * w + t1) * inv;
    c.t = (c.t * w + m.t) * inv;
    c.point = (c.point * w + m.point) * inv;
    c.direction = (c.direction * w + m.direction).normalized();
    c.reflectance = (c.reflectance * w + m.reflectance) * inv;
    c.weight = w + 1.f;
    c.light.emitted += m.light.emitted;
    c.light.sun += m.light.sun;
    c.light.sky += m.light.sky;
    for (std::size_t l = 0; l < lampCount_; ++l)
        rowSpots[(at * 2 + static_cast<std::size_t>(use)) * lampCount_ + l] += spots[l];
}

void Frame::surfacesRow(int y, int pass)
{
    const Vec3 origin = view_.position();
    std::vector<Vec3> spots(lampCount_), mirrorSpots(lampCount_);
    for (int x = 0; x < width_; ++x) {
        const PixelRandom random{x, y, static_cast<std::uint32_t>(pass)};
        const float px = static_cast<float>(x) + tent(random(31)), py = static_cast<float>(y) + tent(random(37));
        const SurfaceSample s = sampler_->sample(origin, view_.direction(px, py), view_.pixelAngle(), random, spots, mirrorSpots);
        const std::size_t pixel = index(x, y);
        samples_[pixel] += 1.f;
        Cluster* c = &clusters_[pixel * clusterCount];
        int use = -1, nearest = 0;
        float nearestGap = 1e30f;
        for (int i = 0; i < clusterCount; ++i) {
            if (c[i].weight == 0.f) {
                use = i;
                break;
            }
            const float gap = std::abs(std::log(c[i].t / s.t));
            if (gap < 0.12f) {
                use = i;
                break;
            }
            if (gap < nearestGap) {
                nearestGap = gap;
                nearest = i;
            }
        }
        if (use < 0)
            use = nearest;
        Cluster& to = c[use];
        to.t = (to.t * to.weight + s.t) / (to.weight + 1.f);
        to.weight += 1.f;
        to.light.emitted += s.light.emitted;
        to.light.sun += s.light.sun;
        to.light.sky += s.light.sky;
        for (std::size_t l = 0; l < lampCount_; ++l)
            spotLight_[(pixel * clusterCount + static_cast<std::size_t>(use)) * lampCount_ + l] += spots[l];
        if (s.mirror)
            addMirror(y, pixel, *s.mirror, s.t, mirrorSpots.data());
    }
}

void Frame::findSpans()
{
    // Farthest of the 3×3 neighbours: later samples inside the pixel rarely see beyond it.
    std::vector<float> rowMax(span_.size());
    const auto depth = [&](int x, int y) { return clusters_[index(x, y) * clusterCount].t; };
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x)
            rowMax[index(x, y)] = std::max({depth(std::max(0, x - 1), y), depth(x, y), depth(std::min(width_ - 1, x + 1), y)});
    });
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x)
            span_[index(x, y)] = std::max({rowMax[index(x, std::max(0, y - 1))], rowMax[index(x, y)],
                                           rowMax[index(x, std::min(height_ - 1, y + 1))]});
    });
}

void Frame::traceBits(const Ray8& ray, F8 end, F8 jitter, int segments, int pass, bool all, unsigned active,
                      std::uint32_t sun[8], std::uint8_t sky[8], int px, int py) const
{
    if (!shot_->sky || shot_->scene->triangles() == 0) {
        for (int i = 0; i < lanes; ++i) {
            sun[i] = 0xffffffffu;
            sky[i] = 0xff;
        }
        return;
    }
    const light::Sky& dome = *shot_->sky;
    const Box3& box = shot_->scene->bounds();
    Vec3 tangent, bitangent;
    frameAround(dome.sunDirection(), tangent, bitangent);
    geometry::ShadowRays8 rays;
    const Segments8 grid(end, segments);
    F8 t0 = f8(0.f), width = grid.first;
    const auto& tile = BlueNoise::tile();
    for (int i = 0; i < segments; ++i) {
        const int group = i / 3;
        // Fresh rays for a third of the pieces; the others keep what an earlier pass saw there. The first pass has
        // nothing to keep and lets one piece speak for its group.
        const bool fresh = all ? i % 3 == (group + pass) % 3 : i % 3 == pass % 3;
        const F8 t = t0 + width * pieceJitter(jitter, i);
        t0 = t0 + width;
        width = width * grid.ratio;
        const F8 x = ray.x(t), y = ray.y(t), z = ray.z(t);
        if (fresh) {
            const Vec3& s = dome.sunDirection();
            // Only rays that cross the set's bounds can be blocked.
            F8 a = f8(0.f), b = f8(1e6f);
            const auto slab = [&](F8 o, float d, float lo, float hi) {
                const float inv = 1.f / (std::abs(d) < 1e-7f ? 1e-7f : d);
                a = max8(a, min8((lo - o) * inv, (hi - o) * inv));
                b = min8(b, max8((lo - o) * inv, (hi - o) * inv));
            };
            slab(x, s.x, box.min.x, box.max.x);
            slab(y, s.y, box.min.y, box.max.y);
            slab(z, s.z, box.min.z, box.max.z);
            unsigned need = 0;
            for (int k = 0; k < lanes; ++k)
                if (((active >> k) & 1u) && a[k] <= b[k])
                    need |= 1u << k;
            unsigned hit = 0;
            if (need) {
                for (int k = 0; k < lanes; ++k) {
                    const auto purpose = static_cast<std::uint32_t>(purposeSun + 2 * i);
                    const Vec3 d = towardSun(dome, tangent, bitangent, tile.at(px + k, py, purpose, static_cast<std::uint32_t>(pass)),
                                             tile.at(px + k, py, purpose + 1, static_cast<std::uint32_t>(pass)));
                    rays.ox[k] = x[k];
                    rays.oy[k] = y[k];
                    rays.oz[k] = z[k];
                    rays.dx[k] = d.x;
                    rays.dy[k] = d.y;
                    rays.dz[k] = d.z;
                    rays.reach[k] = 1e6f;
                }
                hit = shot_->scene->occluded8(rays, need);
            }
            const std::uint32_t mask = all ? 7u << (3 * group) : 1u << i;
            for (int k = 0; k < lanes; ++k)
                sun[k] = (hit >> k) & 1u ? sun[k] & ~mask : sun[k] | mask;
        }
        if (sky && i % 3 == 1 && (all || group % 3 == pass % 3)) {
            for (int k = 0; k < lanes; ++k) {
                const auto purpose = static_cast<std::uint32_t>(purposeAirSky + 2 * group);
                const Vec3 d = cosineDirection(Vec3(0, 1, 0), tile.at(px + k, py, purpose, static_cast<std::uint32_t>(pass)),
                                               tile.at(px + k, py, purpose + 1, static_cast<std::uint32_t>(pass)));
                rays.ox[k] = x[k];
                rays.oy[k] = y[k];
                rays.oz[k] = z[k];
                rays.dx[k] = d.x;
                rays.dy[k] = d.y;
                rays.dz[k] = d.z;
                rays.reach[k] = 150.f;
            }
            unsigned need = 0;
            for (int k = 0; k < lanes; ++k)
                if (((active >> k) & 1u) && rays.oy[k] < box.max.y)
                    need |= 1u << k;
            const unsigned hit = shot_->scene->occluded8(rays, need);
            for (int k = 0; k < lanes; ++k) {
                const auto mask = static_cast<std::uint8_t>(1u << group);
                sky[k] = static_cast<std::uint8_t>((hit >> k) & 1u ? sky[k] & ~mask : sky[k] | mask);
            }
        }
    }
}

void Frame::airBitsRow(int y, int pass, Record& record, const Record* before)
{
    for (int x = 0; x < width_; x += lanes) {
        const Ray8 ray = raysAt(x, y);
        F8 end;
        std::uint32_t sun[8];
        std::uint8_t sky[8];
        unsigned active = 0;
        for (int i = 0; i < lanes; ++i) {
            const std::size_t p = index(std::min(x + i, width_ - 1), y);
            end[i] = span_[p];
            sun[i] = before ? before->sun[p] : 0xffffffffu;
            sky[i] = before ? before->sky[p] : 0xff;
            if (x + i < width_)
                active |= 1u << i;
        }
        traceBits(ray, end, jitters(x, y, pass), maxSegments, pass, !before, active, sun, sky, x, y);
        for (int i = 0; i < lanes && x + i < width_; ++i) {
            const std::size_t p = index(x + i, y);
            record.sun[p] = sun[i];
            record.sky[p] = sky[i];
            const Vec3 d(ray.dx[i], ray.dy[i], ray.dz[i]);
            for (std::size_t l = 0; l < lampCount_; ++l)
                record.spots[l * span_.size() + p] = spotVisibility(
                    *shot_, l, view_.position(), d, span_[p],
                    BlueNoise::tile().at(x + i, y, purposeSpot + static_cast<std::uint32_t>(l), static_cast<std::uint32_t>(pass)));
        }
    }
    const auto& row = mirrors_[static_cast<std::size_t>(y)];
    auto& bitsOut = record.mirrors[static_cast<std::size_t>(y)];
    bitsOut.assign(row.size() * 2, 0xff);
    for (std::size_t first = 0; first < row.size() * 2; first += lanes) {
        Ray8 ray = media::ray8(Vec3(0.f), Vec3(0, 1, 0));
        F8 end = f8(1.f);
        unsigned active = 0;
        for (std::size_t i = 0; i < lanes && first + i < row.size() * 2; ++i) {
            const MirrorCluster& c = row[(first + i) / 2].clusters[(first + i) % 2];
            if (c.weight == 0.f)
                continue;
            active |= 1u << i;
            ray.ox[i] = c.point.x, ray.oy[i] = c.point.y, ray.oz[i] = c.point.z;
            ray.dx[i] = c.direction.x, ray.dy[i] = c.direction.y, ray.dz[i] = c.direction.z;
            end[i] = c.t;
        }
        if (!active)
            continue;
        std::uint32_t sun[8];
        std::fill(sun, sun + 8, 0xffffffffu);
        traceBits(ray, end, jitters(static_cast<int>(first), y + 17, pass), mirrorSegments, pass, true, active, sun, nullptr,
                  static_cast<int>(first), y);
        for (std::size_t i = 0; i < lanes && first + i < bitsOut.size(); ++i)
            bitsOut[first + i] = static_cast<std::uint8_t>(sun[i]);
    }
}

bool Frame::traceSurfaces(int pass, const std::atomic<bool>& stop)
{
    if (pass < tracedPasses_)
        return true;
    if (stage_ == 0) {
        if (!overRows(rowDone_, stop, [&](int y) { surfacesRow(y, pass); }))
            return false;
        if (pass == 0)
            findSpans();
        std::fill(rowDone_.begin(), rowDone_.end(), 0);
        stage_ = 1;
        surfacePasses_ = pass + 1;
    }
    return true;
}

bool Frame::trace(int pass, const std::atomic<bool>& stop)
{
    if (pass < tracedPasses_)
        return true;
    if (!traceSurfaces(pass, stop))
        return false;
    Record& record = recordFor(pass);
    record.sun.resize(span_.size());
    record.sky.resize(span_.size());
    record.spots.resize(span_.size() * lampCount_);
    record.mirrors.resize(static_cast<std::size_t>(height_));
    const Record* before = pass == 0 ? nullptr : &recordFor(pass - 1);
    if (!overRows(rowDone_, stop, [&](int y) { airBitsRow(y, pass, record, before); }))
        return false;
    std::fill(rowDone_.begin(), rowDone_.end(), 0);
    record.traced = true;
    record.noiseValid = false;
    stage_ = 0;
    tracedPasses_ = pass + 1;
    return true;
}

// ---------------------------------------------------------------------------------------------- lighting

void Frame::surfaceAir(F8 x, F8 y, F8 z, F8 jitter, F8& sun, F8& sky, F8& diffuse) const
{
    sun = sky = f8(1.f);
    diffuse = f8(0.f);
    if (air_->clear() || !shot_->sky)
        return;
    F8 few[8];
    std::vector<F8> many(air_->noisyCount() > 8 ? air_->noisyCount() : 0);
    F8* modulation = many.empty() ? few : many.data();
    const auto media = air_->media();
    const Vec3 s = air_->sunDirection();
    float slantG = 0.f, sigma = 0.f;
    for (std::size_t k = 0; k < media.size(); ++k) {
        const media::Medium& m = *media[k].medium;
        slantG += m.g * m.sigmaT;
        sigma += m.sigmaT;
        if (media[k].noisyIndex < 0)
            continue;
        F8 a = f8(0.f), b = f8(media::outsideDistance);
        const Ray8 way{x, y, z, f8(s.x), f8(s.y), f8(s.z)};
        media::clip8(m, way, a, b);
        F8 mod = f8(1.f);
        if (any(b > a))
            mod = air_->sunPathModulation(k, x, y, z, media::modulation8(m.noise, x, y, z), jitter);
        modulation[media[k].noisyIndex] = mod;
    }
    const F8 tau = air_->sunDepth(x, y, z, modulation);
    sun = exp8(-tau);
    sky = air_->skyShare(x, y, z);
    // Sunlight the air has diffused on its way still reaches the surface from around (two-stream, as skyShare).
    diffuse = max8(f8(0.f), 1.f / (1.f + 0.75f * (1.f - slantG / std::max(sigma, 1e-12f)) * tau) - sun) * 0.8f;
}

Vec3 Frame::lit(const LightParts& light, const Vec3* spots, const Vec3& point, float sun, float sky, float diffuse,
                float samples) const
{
    Vec3 l = light.emitted;
    if (shot_->sky) {
        l += light.sun * shot_->sky->sunIrradiance() * sun;
        l += light.sky * (Vec3(sky) + diffuseTint_ * diffuse);
    }
    for (std::size_t i = 0; i < lampCount_; ++i)
        if (spots[i].x + spots[i].y + spots[i].z > 0.f) {
            const light::Spot& lamp = shot_->spots[i];
            l += spots[i] * lamp.intensity * std::exp(-air_->depthBetween(point, lamp.position));
        }
    return l * (1.f / samples);
}

Vec3 Frame::litMirrors(std::size_t pixel, int y, const float* view) const
{
    const auto at = static_cast<std::size_t>(mirrorOf_[pixel]);
    const Mirror& mirror = mirrors_[static_cast<std::size_t>(y)][at];
    Vec3 out(0.f);
    for (std::size_t i = 0; i < 2; ++i) {
        const MirrorCluster& c = mirror.clusters[i];
        if (c.weight == 0.f || c.passes == 0.f)
            continue;
        // The air before the mirror is that of the surface cluster it lies in.
        int front = 0;
        for (int k = 1; k < clusterCount; ++k) {
            const Cluster* cl = &clusters_[pixel * clusterCount];
            if (cl[k].weight > 0.f && std::abs(cl[k].t - c.t1) < std::abs(cl[front].t - c.t1))
                front = k;
        }
        const float inv = 1.f / c.passes;
        const Vec3 l = lit(c.light, &mirrorSpots_[static_cast<std::size_t>(y)][(at * 2 + i) * lampCount_], c.point + c.direction * c.t,
                           c.sun * inv, c.sky * inv, c.diffuse * inv, c.weight) *
                           (c.view * inv) +
                       c.air * c.reflectance * inv;
        out += l * (view[front] * c.weight / samples_[pixel]);
    }
    return out;
}

Vec3 Frame::behindAir(std::size_t pixel, int y, const Through& through, float& transmittance) const
{
    const Cluster* c = &clusters_[pixel * clusterCount];
    Vec3 out(0.f);
    float view[clusterCount]{};
    transmittance = 0.f;
    // A cluster found after the last lit pass has no air yet; the others stand in for it.
    float known = 0.f;
    for (int k = 0; k < clusterCount; ++k)
        known += through.passes[k] > 0.f ? c[k].weight : 0.f;
    const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_));
    const Vec3 d = view_.direction(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f);
    for (int k = 0; k < clusterCount; ++k) {
        if (c[k].weight == 0.f || through.passes[k] == 0.f)
            continue;
        const float share = c[k].weight / known, inv = 1.f / through.passes[k];
        view[k] = through.view[k] * inv;
        transmittance += share * view[k];
        const Vec3 l = lit(c[k].light, &spotLight_[(pixel * clusterCount + static_cast<std::size_t>(k)) * lampCount_],
                           view_.position() + d * c[k].t, through.sun[k] * inv, through.sky[k] * inv, through.diffuse[k] * inv, c[k].weight);
        out += l * (share * view[k]);
    }
    if (mirrorOf_[pixel] >= 0)
        out += litMirrors(pixel, y, view);
    return out;
}

void Frame::lightMirrorsRow(int y, int pass, const Record* record)
{
    auto& row = mirrors_[static_cast<std::size_t>(y)];
    const std::size_t count = row.size() * 2;
    AirSums8 sums;
    for (std::size_t first = 0; first < count; first += lanes) {
        AirRays8 rays;
        rays.ray = media::ray8(Vec3(0.f), Vec3(0, 1, 0));
        rays.end = f8(1.f);
        rays.segments = mirrorSegments;
        rays.jitter = jitters(static_cast<int>(first), y + 17, pass);
        rays.skyBits = U8{} + 0xffu;
        rays.sunBits = U8{} + 0xffu;
        unsigned active = 0;
        for (std::size_t i = 0; i < lanes && first + i < count; ++i) {
            const MirrorCluster& c = row[(first + i) / 2].clusters[(first + i) % 2];
            if (c.weight == 0.f)
                continue;
            active |= 1u << i;
            rays.ray.ox[i] = c.point.x, rays.ray.oy[i] = c.point.y, rays.ray.oz[i] = c.point.z;
            rays.ray.dx[i] = c.direction.x, rays.ray.dy[i] = c.direction.y, rays.ray.dz[i] = c.direction.z;
            rays.end[i] = c.t;
            // Mirrors found after this pass was recorded have no bits in it.
            if (record && first + i < record->mirrors[static_cast<std::size_t>(y)].size())
                rays.sunBits[i] = record->mirrors[static_cast<std::size_t>(y)][first + i];
        }
        if (!active)
            continue;
        rays.depths = 1;
        rays.depth[0] = rays.end;
        rays.weight[0] = f8(1.f);
        marchAir(*air_, rays, sums);
        F8 sun[3], sky[3], toSun, toSky, diffuse;
        colourAir(*air_, rays.ray, sums, sun, sky);
        surfaceAir(rays.ray.x(rays.end), rays.ray.y(rays.end), rays.ray.z(rays.end), rays.jitter, toSun, toSky, diffuse);
        for (std::size_t i = 0; i < lanes && first + i < count; ++i) {
            if (!((active >> i) & 1u))
                continue;
            MirrorCluster& c = row[(first + i) / 2].clusters[(first + i) % 2];
            c.passes += 1.f;
            c.air += Vec3(sun[0][i] + sky[0][i], sun[1][i] + sky[1][i], sun[2][i] + sky[2][i]);
            c.view += sums.transmittance[0][i];
            c.sun += toSun[i];
            c.sky += toSky[i];
            c.diffuse += diffuse[i];
        }
    }
}

void Frame::resetMirrorSums(int y)
{
    for (Mirror& m : mirrors_[static_cast<std::size_t>(y)])
        for (MirrorCluster& c : m.clusters) {
            c.air = Vec3(0.f);
            c.passes = c.view = c.sun = c.sky = c.diffuse = 0.f;
        }
}

void Frame::lightRow(int y, int pass, Record& record)
{
    const bool first = pass == 0;
    const std::size_t noisy = air_->noisyCount(), groupBytes = maxSegments * noisy * 16;
    AirSums8 sums;
    for (int x = 0; x < width_; x += lanes) {
        AirRays8 rays;
        rays.ray = raysAt(x, y);
        rays.jitter = jitters(x, y, pass);
        rays.depths = 1;
        for (int i = 0; i < lanes; ++i) {
            const std::size_t p = index(std::min(x + i, width_ - 1), y);
            rays.end[i] = span_[p];
            rays.sunBits[i] = record.sun[p];
            rays.skyBits[i] = record.sky[p];
            for (int k = 0; k < clusterCount; ++k) {
                const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)];
                rays.depth[k][i] = std::min(c.t, span_[p]);
                rays.weight[k][i] = c.weight / samples_[p];
                if (c.weight > 0.f)
                    rays.depths = std::max(rays.depths, k + 1);
            }
        }
        if (noisy && !record.noise.empty())
            rays.noise = {record.noise.data() + (static_cast<std::size_t>(y) * groupsPerRow() + static_cast<std::size_t>(x / 8)) * groupBytes,
                          !record.noiseValid};
        marchAir(*air_, rays, sums);
        F8 sun[3], sky[3];
        colourAir(*air_, rays.ray, sums, sun, sky);
        F8 toSun[clusterCount], toSky[clusterCount], diffuse[clusterCount];
        for (int k = 0; k < rays.depths; ++k)
            surfaceAir(rays.ray.x(rays.depth[k]), rays.ray.y(rays.depth[k]), rays.ray.z(rays.depth[k]), rays.jitter, toSun[k],
                       toSky[k], diffuse[k]);
        for (int i = 0; i < lanes && x + i < width_; ++i) {
            const std::size_t p = index(x + i, y);
            for (std::size_t c = 0; c < 3; ++c) {
                airSun_[p * 3 + c] = (first ? 0.f : airSun_[p * 3 + c]) + sun[c][i];
                airSky_[p * 3 + c] = (first ? 0.f : airSky_[p * 3 + c]) + sky[c][i];
            }
            Through& t = through_[p];
            if (first)
                t = Through();
            for (int k = 0; k < rays.depths; ++k) {
                if (rays.weight[k][i] == 0.f)
                    continue;
                t.passes[k] += 1.f;
                t.view[k] += sums.transmittance[k][i];
                t.sun[k] += toSun[k][i];
                t.sky[k] += toSky[k][i];
                t.diffuse[k] += diffuse[k][i];
            }
            const Vec3 d(rays.ray.dx[i], rays.ray.dy[i], rays.ray.dz[i]);
            float depth[clusterCount], weight[clusterCount];
            for (int k = 0; k < rays.depths; ++k) {
                depth[k] = rays.depth[k][i];
                weight[k] = rays.weight[k][i];
            }
            for (std::size_t l = 0; l < lampCount_; ++l) {
                const Vec3 a = spotAirLight(
                    *air_, l, view_.position(), d, span_[p], maxSegments, reinterpret_cast<const float*>(sums.boundary) + i,
                    BlueNoise::tile().at(x + i, y, purposeSpot + static_cast<std::uint32_t>(l), static_cast<std::uint32_t>(pass)),
                    record.spots[l * span_.size() + p], rays.depths, depth, weight);
                float* to = &airSpot_[(p * lampCount_ + l) * 3];
                for (int c = 0; c < 3; ++c)
                    to[c] = (first ? 0.f : to[c]) + a[c];
            }
        }
    }
    if (first)
        resetMirrorSums(y);
    lightMirrorsRow(y, pass, &record);
}

bool Frame::light(int pass, const std::atomic<bool>& stop)
{
    Record& record = recordFor(pass);
    const std::size_t noiseBytes = static_cast<std::size_t>(height_) * groupsPerRow() * maxSegments * air_->noisyCount() * 16;
    // Noise is kept for the recorded passes only; the rolling one is marched once.
    if (&record != &rolling_ && record.noise.size() != noiseBytes) {
        record.noise.assign(noiseBytes, 0);
        record.noiseValid = false;
    }
    std::vector<char> done(static_cast<std::size_t>(height_), 0);
    if (!overRows(done, stop, [&](int y) { lightRow(y, pass, record); }))
        return false;
    record.noiseValid = true;
    litPasses_ = pass + 1;
    return true;
}

void Frame::resolve(std::vector<float>& rgb) const
{
    rgb.resize(span_.size() * 3);
    const float inv = 1.f / static_cast<float>(std::max(1, litPasses_));
    const bool smooth = litPasses_ <= 2;
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        const int y = static_cast<int>(row);
        for (int x = 0; x < width_; ++x) {
            const std::size_t p = index(x, y);
            float t = 0.f;
            const Vec3 behind = behindAir(p, y, through_[p], t);
            Vec3 air(0.f);
            const auto airAt = [&](std::size_t q) {
                Vec3 a(airSun_[q * 3] + airSky_[q * 3], airSun_[q * 3 + 1] + airSky_[q * 3 + 1], airSun_[q * 3 + 2] + airSky_[q * 3 + 2]);
                for (std::size_t l = 0; l < lampCount_; ++l)
                    for (int c = 0; c < 3; ++c)
                        a[c] += airSpot_[(q * lampCount_ + l) * 3 + static_cast<std::size_t>(c)];
                return a;
            };
            if (smooth) {
                // One value a pixel carries a whole dither tile's error: average over 4×4 where the depth agrees.
                float weights = 0.f;
                for (int dy = -2; dy < 2; ++dy)
                    for (int dx = -2; dx < 2; ++dx) {
                        const std::size_t q = index(std::clamp(x + dx, 0, width_ - 1), std::clamp(y + dy, 0, height_ - 1));
                        const float ratio = clusters_[q * clusterCount].t / clusters_[p * clusterCount].t;
                        const bool same = q == p || (ratio > 0.8f && ratio < 1.25f && clusters_[q * clusterCount + 1].weight == 0.f &&
                                                     clusters_[p * clusterCount + 1].weight == 0.f);
                        if (same) {
                            air += airAt(q);
                            weights += 1.f;
                        }
                    }
                air *= 1.f / weights;
            } else {
                air = airAt(p);
            }
            for (std::size_t c = 0; c < 3; ++c)
                rgb[p * 3 + c] = behind[static_cast<int>(c)] + air[static_cast<int>(c)] * inv;
        }
    });
}

Layers Frame::layers() const
{
    Layers out;
    out.width = width_;
    out.height = height_;
    out.samples = litPasses_;
    const std::size_t n = span_.size();
    out.plate.resize(n * 3);
    out.transmittance.resize(n * 3);
    out.air.assign(n * 3, 0.f);
    out.depth.resize(n);
    const float inv = 1.f / static_cast<float>(std::max(1, litPasses_));
    if (shot_->sky) {
        out.airBy.push_back({shot_->sunId, std::vector<float>(n * 3)});
        out.airBy.push_back({"sky", std::vector<float>(n * 3)});
    }
    for (const light::Spot& s : shot_->spots)
        out.airBy.push_back({s.id, std::vector<float>(n * 3)});
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        for (int x = 0; x < width_; ++x) {
            const std::size_t p = index(x, static_cast<int>(row));
            float t = 0.f;
            const Vec3 behind = behindAir(p, static_cast<int>(row), through_[p], t);
            // Plate is what multiplied by the transmittance gives what is seen behind the air; where nothing comes
            // through, its own value does not matter and 0 is used.
            const Vec3 plate = t > 1e-8f ? behind / t : Vec3(0.f);
            for (std::size_t c = 0; c < 3; ++c) {
                out.plate[p * 3 + c] = plate[static_cast<int>(c)];
                out.transmittance[p * 3 + c] = t;
                std::size_t by = 0;
                if (shot_->sky) {
                    out.airBy[by++].air[p * 3 + c] = airSun_[p * 3 + c] * inv;
                    out.airBy[by++].air[p * 3 + c] = airSky_[p * 3 + c] * inv;
                }
                for (std::size_t l = 0; l < lampCount_; ++l)
                    out.airBy[by++].air[p * 3 + c] = airSpot_[(p * lampCount_ + l) * 3 + c] * inv;
                for (const Layers::ByLamp& lamp : out.airBy)
                    out.air[p * 3 + c] += lamp.air[p * 3 + c];
            }
            out.depth[p] = depthAt(x, static_cast<int>(row));
        }
    });
    return out;
}

float Frame::depthAt(int x, int y) const
{
    const Cluster* c = &clusters_[index(x, y) * clusterCount];
    int most = 0;
    for (int k = 1; k < clusterCount; ++k)
        if (c[k].weight > c[most].weight)
            most = k;
    return c[most].t;
}

std::size_t Frame::bytes() const
{
    std::size_t total = clusters_.size() * sizeof(Cluster) + spotLight_.size() * sizeof(Vec3) +
                        (samples_.size() + span_.size() + airSun_.size() + airSky_.size() + airSpot_.size()) * sizeof(float) +
                        through_.size() * sizeof(Through) + quickProfile_.size() * sizeof(float) + quickNoise_.size();
    for (const Record& r : records_)
        total += r.sun.size() * 4 + r.sky.size() + r.spots.size() + r.noise.size();
    for (const auto& row : mirrors_)
        total += row.capacity() * sizeof(Mirror);
    return total;
}

// ---------------------------------------------------------------------------------------------- contributions

Frame::Contribution Frame::mediumAlone(const std::string& id)
{
    Contribution out{quickWidth_, quickHeight_, {}};
    out.rgb.assign(quickCells_.size() * 3, 0.f);
    const auto media = air_->media();
    const std::atomic<bool> never{false};
    for (std::size_t k = 0; k < media.size(); ++k)
        if (media[k].medium->id == id && quickBuilt_) {
            std::vector<float> profile;
            marchQuick(never, static_cast<int>(k), profile);
            for (std::size_t c = 0; c < quickCells_.size(); ++c)
                for (std::size_t ch = 0; ch < 3; ++ch)
                    out.rgb[c * 3 + ch] += profile[(c * maxSegments + maxSegments - 1) * 4 + ch];
        }
    return out;
}

Frame::Contribution Frame::lampAlone(const std::string& id)
{
    Contribution out{quickWidth_, quickHeight_, {}};
    out.rgb.assign(static_cast<std::size_t>(quickWidth_ * quickHeight_) * 3, 0.f);
    if (litPasses_ == 0)
        return out;
    const float inv = 1.f / static_cast<float>(litPasses_);
    parallelFor(static_cast<std::size_t>(quickHeight_), [&](std::size_t gy) {
        for (int gx = 0; gx < quickWidth_; ++gx) {
            const std::size_t p = index(std::min(width_ - 1, gx * 4 + 2), std::min(height_ - 1, static_cast<int>(gy) * 4 + 2));
            const Cluster& c = clusters_[p * clusterCount];
            const Through& t = through_[p];
            Vec3 l(0.f);
            const float view = t.passes[0] > 0.f ? t.view[0] / t.passes[0] : 1.f;
            if (shot_->sky && id == shot_->sunId) {
                const float passes = std::max(1.f, t.passes[0]);
                l = (c.light.sun * shot_->sky->sunIrradiance() * (t.sun[0] / passes) + c.light.sky * (t.sky[0] / passes)) * (view / c.weight);
                for (int ch = 0; ch < 3; ++ch)
                    l[ch] += (airSun_[p * 3 + static_cast<std::size_t>(ch)] + airSky_[p * 3 + static_cast<std::size_t>(ch)]) * inv;
            }
            for (std::size_t s = 0; s < lampCount_; ++s)
                if (shot_->spots[s].id == id) {
                    l = spotLight_[p * clusterCount * lampCount_ + s] * shot_->spots[s].intensity * (view / c.weight);
                    for (int ch = 0; ch < 3; ++ch)
                        l[ch] += airSpot_[(p * lampCount_ + s) * 3 + static_cast<std::size_t>(ch)] * inv;
                }
            for (std::size_t ch = 0; ch < 3; ++ch)
                out.rgb[(gy * static_cast<std::size_t>(quickWidth_) + static_cast<std::size_t>(gx)) * 3 + ch] = l[static_cast<int>(ch)];
        }
    });
    return out;
}

// ---------------------------------------------------------------------------------------------- quick picture

bool Frame::buildQuick(const std::atomic<bool>& stop)
{
    const std::size_t cells = static_cast<std::size_t>(quickWidth_ * quickHeight_);
    quickCells_.resize(cells);
    quickSpots_.resize(cells * lampCount_);
    std::vector<char> done(static_cast<std::size_t>(quickHeight_), 0);
    const bool whole = overRows(done, stop, [&](int gy) {
        for (int gx = 0; gx < quickWidth_; ++gx) {
            // Through the deepest pixel of the block: nothing stands in that ray's way up to the block's far end.
            int bx = 0, by = 0;
            float deepest = -1.f, span = 0.f;
            for (int y = gy * 4; y < std::min(height_, gy * 4 + 4); ++y)
                for (int x = gx * 4; x < std::min(width_, gx * 4 + 4); ++x) {
                    const float t = clusters_[index(x, y) * clusterCount].t;
                    if (t > deepest || (t == deepest && x == gx * 4 + 2 && y == gy * 4 + 2)) {
                        deepest = t;
                        bx = x;
                        by = y;
                    }
                    span = std::max(span, span_[index(x, y)]);
                }
            QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + gx)];
            c.direction = view_.direction(static_cast<float>(bx) + 0.5f, static_cast<float>(by) + 0.5f);
            c.span = deepest;
            c.logScale = static_cast<float>(maxSegments) / std::log(1.f + c.span / Segments8::a);
            c.jitter = jitterAt(gx, gy, 0);
        }
        for (int gx = 0; gx < quickWidth_; gx += lanes) {
            Ray8 ray = media::ray8(view_.position(), Vec3(0, 0, -1));
            F8 end = f8(1.f), jitter = f8(0.f);
            unsigned active = 0;
            std::uint32_t sun[8];
            std::uint8_t sky[8];
            for (int i = 0; i < lanes; ++i) {
                const QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + std::min(gx + i, quickWidth_ - 1))];
                ray.dx[i] = c.direction.x, ray.dy[i] = c.direction.y, ray.dz[i] = c.direction.z;
                end[i] = c.span;
                jitter[i] = c.jitter;
                sun[i] = 0xffffffffu;
                sky[i] = 0xff;
                if (gx + i < quickWidth_)
                    active |= 1u << i;
            }
            traceBits(ray, end, jitter, maxSegments, 0, true, active, sun, sky, gx, gy);
            for (int i = 0; i < lanes && gx + i < quickWidth_; ++i) {
                const std::size_t at = static_cast<std::size_t>(gy * quickWidth_ + gx + i);
                QuickCell& c = quickCells_[at];
                c.sun = sun[i];
                c.sky = sky[i];
                for (std::size_t l = 0; l < lampCount_; ++l)
                    quickSpots_[at * lampCount_ + l] = spotVisibility(*shot_, l, view_.position(), c.direction, c.span, 0.5f);
            }
        }
    });
    quickBuilt_ = whole;
    quickNoiseValid_ = false;
    return whole;
}

bool Frame::marchQuick(const std::atomic<bool>& stop, int only, std::vector<float>& out)
{
    const std::size_t noisy = air_->noisyCount(), groups = (static_cast<std::size_t>(quickWidth_) + 7) / 8;
    const std::size_t groupBytes = maxSegments * noisy * 16;
    if (quickNoise_.size() != static_cast<std::size_t>(quickHeight_) * groups * groupBytes) {
        quickNoise_.assign(static_cast<std::size_t>(quickHeight_) * groups * groupBytes, 0);
        quickNoiseValid_ = false;
    }
    out.resize(quickCells_.size() * maxSegments * 4);
    std::vector<char> done(static_cast<std::size_t>(quickHeight_), 0);
    const bool write = !quickNoiseValid_;
    const bool whole = overRows(done, stop, [&](int gy) {
        AirSums8 sums;
        F8 profile[maxSegments][4];
        for (int gx = 0; gx < quickWidth_; gx += lanes) {
            AirRays8 rays;
            rays.ray = media::ray8(view_.position(), Vec3(0, 0, -1));
            rays.depths = 0;
            for (int i = 0; i < lanes; ++i) {
                const QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + std::min(gx + i, quickWidth_ - 1))];
                rays.ray.dx[i] = c.direction.x, rays.ray.dy[i] = c.direction.y, rays.ray.dz[i] = c.direction.z;
                rays.end[i] = c.span;
                rays.jitter[i] = c.jitter;
                rays.sunBits[i] = c.sun;
                rays.skyBits[i] = c.sky;
            }
            rays.depths = 1;
            rays.depth[0] = rays.end;
            rays.weight[0] = f8(1.f);
            if (noisy)
                rays.noise = {quickNoise_.data() + (static_cast<std::size_t>(gy) * groups + static_cast<std::size_t>(gx / 8)) * groupBytes, write};
            marchAir(*air_, rays, sums, profile, only);
            for (int i = 0; i < lanes && gx + i < quickWidth_; ++i) {
                const std::size_t at = static_cast<std::size_t>(gy * quickWidth_ + gx + i);
                float* to = &out[at * maxSegments * 4];
                for (std::size_t s = 0; s < maxSegments; ++s)
                    for (std::size_t c = 0; c < 4; ++c)
                        to[s * 4 + c] = profile[s][c][i];
                const QuickCell& cell = quickCells_[at];
                for (std::size_t l = 0; l < lampCount_ && only < 0; ++l) {
                    // A lamp's beam is put where its light is met, in equal parts of three depths of the cone.
                    const light::Spot& lamp = shot_->spots[l];
                    float t0 = 0.f, t1 = cell.span;
                    if (!light::insideCone(lamp, view_.position(), cell.direction, spotReach(lamp), t0, t1))
                        continue;
                    constexpr int cuts = 3;
                    Vec3 before(0.f);
                    for (int k = 1; k <= cuts; ++k) {
                        const float depth = t0 + (t1 - t0) * static_cast<float>(k) / cuts, one = 1.f;
                        const Vec3 light = spotAirLight(*air_, l, view_.position(), cell.direction, cell.span, maxSegments,
                                                        reinterpret_cast<const float*>(sums.boundary) + i, 0.5f,
                                                        quickSpots_[at * lampCount_ + l], 1, &depth, &one);
                        const Vec3 step = light - before;
                        before = light;
                        const int from = std::clamp(static_cast<int>(std::log(1.f + depth / Segments8::a) * cell.logScale), 0, maxSegments - 1);
                        for (std::size_t s = static_cast<std::size_t>(from); s < maxSegments; ++s)
                            for (std::size_t c = 0; c < 3; ++c)
                                to[s * 4 + c] += step[static_cast<int>(c)];
                    }
                }
            }
        }
    });
    if (whole && only < 0)
        quickNoiseValid_ = true;
    return whole;
}

bool Frame::quickPicture(std::vector<float>& rgb, const std::atomic<bool>& stop)
{
    if (!quickBuilt_ && !buildQuick(stop))
        return false;
    if (!marchQuick(stop, -1, quickProfile_))
        return false;
    rgb.resize(span_.size() * 3);
    std::vector<char> done(static_cast<std::size_t>(height_), 0);
    litPasses_ = 0; // the mirrors' sums are used here too
    return overRows(done, stop, [&](int y) {
        resetMirrorSums(y);
        lightMirrorsRow(y, 0, tracedPasses_ > 0 ? &recordFor(0) : nullptr);
        const float gy = (static_cast<float>(y) + 0.5f) * 0.25f - 0.5f;
        const int y0 = std::clamp(static_cast<int>(std::floor(gy)), 0, quickHeight_ - 1), y1 = std::min(y0 + 1, quickHeight_ - 1);
        const float fy = std::clamp(gy - static_cast<float>(y0), 0.f, 1.f);
        for (int x = 0; x < width_; x += lanes) {
            const Ray8 ray = raysAt(x, y);
            const F8 jitter = jitters(x, y, 0);
            F8 toSun[clusterCount], toSky[clusterCount], diffuse[clusterCount], depth[clusterCount];
            int depths = 1;
            for (int k = 0; k < clusterCount; ++k) {
                bool used = k == 0;
                for (int i = 0; i < lanes; ++i) {
                    const Cluster& c = clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount + static_cast<std::size_t>(k)];
                    depth[k][i] = c.t;
                    used = used || c.weight > 0.f;
                }
                if (!used)
                    break;
                depths = k + 1;
                surfaceAir(ray.x(depth[k]), ray.y(depth[k]), ray.z(depth[k]), jitter, toSun[k], toSky[k], diffuse[k]);
            }
            for (int i = 0; i < lanes && x + i < width_; ++i) {
                const std::size_t p = index(x + i, y);
                const float gx = (static_cast<float>(x + i) + 0.5f) * 0.25f - 0.5f;
                const int x0 = std::clamp(static_cast<int>(std::floor(gx)), 0, quickWidth_ - 1), x1 = std::min(x0 + 1, quickWidth_ - 1);
                const float fx = std::clamp(gx - static_cast<float>(x0), 0.f, 1.f);
                const std::size_t at[4] = {static_cast<std::size_t>(y0 * quickWidth_ + x0), static_cast<std::size_t>(y0 * quickWidth_ + x1),
                                           static_cast<std::size_t>(y1 * quickWidth_ + x0), static_cast<std::size_t>(y1 * quickWidth_ + x1)};
                const float bilinear[4] = {(1.f - fx) * (1.f - fy), fx * (1.f - fy), (1.f - fx) * fy, fx * fy};
                Through through;
                Vec3 airLight(0.f);
                for (int k = 0; k < depths; ++k) {
                    const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)];
                    if (c.weight == 0.f)
                        break;
                    const float logT = std::log(1.f + c.t * (1.f / Segments8::a));
                    float sum[4] = {0.f, 0.f, 0.f, 0.f}, weights = 0.f;
                    for (int q = 0; q < 4; ++q) {
                        const QuickCell& cell = quickCells_[at[q]];
                        // A neighbour that ends before this depth knows nothing of the air behind; it counts only
                        // when there is no other.
                        float w = bilinear[q] + 1e-3f;
                        if (c.t > cell.span * 1.05f)
                            w *= 1e-3f;
                        const float u = std::min(logT * cell.logScale, static_cast<float>(maxSegments));
                        const int s = std::min(static_cast<int>(u), maxSegments - 1);
                        const float f = u - static_cast<float>(s);
                        const float* b = &quickProfile_[(at[q] * maxSegments + static_cast<std::size_t>(s)) * 4];
                        static constexpr float start[4] = {0.f, 0.f, 0.f, 1.f};
                        const float* a = s ? b - 4 : start;
                        for (int ch = 0; ch < 4; ++ch)
                            sum[ch] += w * (a[ch] + (b[ch] - a[ch]) * f);
                        weights += w;
                    }
                    const float inv = 1.f / weights, share = c.weight / samples_[p];
                    airLight += Vec3(sum[0], sum[1], sum[2]) * (inv * share);
                    through.passes[k] = 1.f;
                    through.view[k] = sum[3] * inv;
                    through.sun[k] = toSun[k][i];
                    through.sky[k] = toSky[k][i];
                    through.diffuse[k] = diffuse[k][i];
                }
                float t = 0.f;
                const Vec3 l = behindAir(p, y, through, t) + airLight;
                for (std::size_t c = 0; c < 3; ++c)
                    rgb[p * 3 + c] = l[static_cast<int>(c)];
            }
        }
    });
}
} // namespace hygros::render
