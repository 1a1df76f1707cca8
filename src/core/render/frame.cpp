#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;
using shot::Shot;

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
            r.noise.valid = false;
        rolling_.noise.valid = false;
        quickNoise_.valid = false;
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

void Frame::packSurfaces()
{
    for (auto& plane : sheet_)
        plane.resize(span_.size());
    plain_.resize(span_.size());
    parallelRanges(span_.size(), 4096, [&](std::size_t begin, std::size_t end) {
        for (std::size_t p = begin; p < end; ++p) {
            const Cluster* c = &clusters_[p * clusterCount];
            const float inv = 1.f / c[0].weight;
            sheet_[0][p] = c[0].t;
            for (int ch = 0; ch < 3; ++ch) {
                sheet_[1 + ch][p] = c[0].light.emitted[ch] * inv;
                sheet_[4 + ch][p] = c[0].light.sun[ch] * inv;
                sheet_[7 + ch][p] = c[0].light.sky[ch] * inv;
            }
            bool lamps = false;
            for (std::size_t l = 0; l < lampCount_; ++l)
                lamps = lamps || maxComponent(spotLight_[p * clusterCount * lampCount_ + l]) > 0.f;
            plain_[p] = c[1].weight == 0.f && mirrorOf_[p] < 0 && !lamps;
        }
    });
}

bool Frame::prepare(NoiseStore& store, std::size_t airBytes) const
{
    const std::size_t surfaceBytes = static_cast<std::size_t>(height_) * groupsPerRow() * clusterCount * air_->noisyCount() * 8;
    if (store.air.size() != airBytes || store.surface.size() != surfaceBytes) {
        store.air.assign(airBytes, 0);
        store.surface.assign(surfaceBytes, 0);
        store.valid = false;
    }
    store.mirrors.resize(static_cast<std::size_t>(height_));
    return store.valid;
}

void Frame::traceBits(const Ray8& ray, F8 end, F8 jitter, int segments, int pass, Fresh mode, unsigned active,
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
        const bool fresh = mode == Fresh::Each || i % 3 == (mode == Fresh::Grouped ? (group + pass) % 3 : pass % 3);
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
            const std::uint32_t mask = mode == Fresh::Grouped ? 7u << (3 * group) : 1u << i;
            for (int k = 0; k < lanes; ++k)
                sun[k] = (hit >> k) & 1u ? sun[k] & ~mask : sun[k] | mask;
        }
        if (sky && i % 3 == 1 && (mode != Fresh::Rolling || group % 3 == pass % 3)) {
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
        traceBits(ray, end, jitters(x, y, pass), maxSegments, pass, before ? Fresh::Rolling : Fresh::Grouped, active, sun, sky, x, y);
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
        traceBits(ray, end, jitters(static_cast<int>(first), y + 17, pass), mirrorSegments, pass, Fresh::Grouped, active, sun, nullptr,
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
        packSurfaces();
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
    record.noise.valid = false;
    stage_ = 0;
    tracedPasses_ = pass + 1;
    return true;
}
} // namespace hygros::render
