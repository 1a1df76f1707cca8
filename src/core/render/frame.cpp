#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;
using shot::Shot;

Frame::Frame(std::shared_ptr<const Shot> shot, int width, int height, WaterPart only)
    : shot_(std::move(shot)), only_(only), width_(width), height_(height), view_(shot_->camera, width, height),
      lampCount_(shot_->lamps.size()), quickWidth_((width + 3) / 4), quickHeight_((height + 3) / 4)
{
    const std::size_t pixels = static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
    clusters_.resize(pixels * clusterCount);
    air_ = std::make_unique<AirModel>(*shot_); // for the lamps' lists; setAir() makes the one that stays
    listLamps();
    lampLight_.resize(lampSlots(), clusterCount, Vec3(0.f));
    samples_.resize(pixels, 0.f);
    lampMet_.resize(lampCount_ ? pixels : 0, 0);
    span_.resize(pixels, 0.f);
    mirrorOf_.resize(pixels, -1);
    mirrors_.resize(static_cast<std::size_t>(height));
    mirrorLampLight_.resize(static_cast<std::size_t>(height));
    rowDone_.assign(static_cast<std::size_t>(height), 0);
    mirrorsSeen_.resize(static_cast<std::size_t>(height));
    rowLooks_.assign(static_cast<std::size_t>(height), 0);
    rowNoise_ = rowBeams_ = rowBodies_ = rowLooks_;
    fitPlate();
    rowSurfaceNoise_.assign(static_cast<std::size_t>(height), 0);
    shimmer_ = Shimmer(*shot_, width, height);
    sparks_ = SparkPicture(*shot_, width, height);
    rain_ = RainPicture(*shot_, width, height);
    setAir(shot_, true);
}

void Frame::setAir(std::shared_ptr<const Shot> shot, bool noiseChanged)
{
    const bool dependedOnAir = bodies_.onAir,
               others = static_cast<const shot::Bodies&>(*shot_) != static_cast<const shot::Bodies&>(*shot);
    const std::size_t noisyBefore = air_ ? air_->noisyCount() : 0;
    const bool rains = !shot->falling.empty() || !shot_->falling.empty();
    // Of the air drops know only what it leaves of the sun.
    const bool sunOnRain = shot->sky && shot->sky->hasSun() && shot->decks.empty();
    const bool rainsAnew = rains &&
                           (shot_->falling != shot->falling || shot_->lamps != shot->lamps ||
                            shot_->decks.empty() != shot->decks.empty() || (sunOnRain && shot_->media != shot->media));
    const bool bent = shot_->hotAir != shot->hotAir;
    const bool dimmed = others || shot_->media != shot->media || shot_->sparks != shot->sparks;
    shot_ = std::move(shot);
    if (rainsAnew)
        rain_ = RainPicture(*shot_, width_, height_);
    if (bent)
        shimmer_ = Shimmer(*shot_, width_, height_);
    if (dimmed)
        sparks_ = SparkPicture(*shot_, width_, height_);
    makeBodies();
    if (others || dependedOnAir || bodies_.onAir) {
        std::fill(rowBodies_.begin(), rowBodies_.end(), 0);
        quickBodiesKept_ = false;
        for (MirrorsSeen& row : mirrorsSeen_)
            row.bodies.clear();
    }
    air_ = std::make_unique<AirModel>(*shot_, bodies_.list);
    sampler_ = std::make_unique<SurfaceSampler>(*shot_, only_);
    if (shot_->sky) {
        sunLight_ = shot_->sky->sunIrradiance();
    }
    if (noiseChanged || air_->noisyCount() != noisyBefore) {
        std::fill(rowNoise_.begin(), rowNoise_.end(), 0);
        std::fill(rowSurfaceNoise_.begin(), rowSurfaceNoise_.end(), 0);
        for (MirrorsSeen& row : mirrorsSeen_) {
            row.noise.assign(row.looks.size() * air_->noisyCount() * (2 * mirrorSegments + 1), 0);
            row.noiseLooks.assign(row.looks.size(), 0);
        }
        // Of another size, or with clusters whose mean is to start anew.
        airNoise_.clear();
        surfaceNoise_.clear();
        quickNoiseKept_ = false;
    }
    std::vector<std::shared_ptr<const void>> sources;
    for (const media::Medium& m : shot_->media)
        if (m.ground)
            sources.push_back(m.ground);
    for (const auto& body : bodies_.list)
        body->sources(sources);
    if (!lampGlows_.empty())
        makeLampGlows();
    if (sources != keptOf_) {
        quickKept_.clear();
        surfaceKept_.clear();
        keptOf_ = std::move(sources);
    }
    keepVeilWisps();
    ratios_.begin();
    paths_.reset();
    pathLooks_ = 0;
    pathMarches_ = 0;
    pathsWait_ = true;
    std::fill(rowBeams_.begin(), rowBeams_.end(), 0);
    for (MirrorsSeen& row : mirrorsSeen_)
        std::fill(row.lampLooks.begin(), row.lampLooks.end(), 0);
    lit_ = false;
    const std::lock_guard lock(meterMutex_);
    meter_ = Meter();
}

int Frame::noisePasses() const
{
    return hasNoise() ? *std::min_element(rowNoise_.begin(), rowNoise_.end()) : tracedPasses_;
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

void Frame::fitPlate()
{
    const geometry::Plate* plate = shot_->plate.get();
    if (!plate)
        return;
    plateColour_.resize(span_.size());
    plateDepth_.assign(span_.size(), -1.f);
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        for (int x = 0; x < width_; ++x) {
            const std::size_t p = index(x, static_cast<int>(row));
            const float d = plate->fitted(x, static_cast<int>(row), width_, height_, plateColour_.at(p),
                                          shot_->camera.part);
            // Beyond the plate's edges the picture is masked: black, with nothing before it.
            plateDepth_[p] = d < 0.f ? 1e-3f : std::min(d, Shot::farDistance);
        }
    });
}

bool Frame::isPlate(std::size_t pixel) const
{
    const Cluster* c = &clusters_[pixel * clusterCount];
    return c[0].weight > 0.f && c[0].plateShare() == 1.f && c[1].weight == 0.f && c[2].weight == 0.f;
}

void Frame::beginSunMap(int pass)
{
    if (!shot_->sky || !shot_->sky->hasSun() || shot_->scene->triangles() == 0) {
        sunMap_ = {};
        return;
    }
    if (sunMap_[0] && sunMapPass_ == pass)
        return; // a pass that was stopped goes on
    Vec3 tangent, bitangent;
    frameAround(shot_->sky->sunDirection(), tangent, bitangent);
    for (int i = 0; i < sunMaps; ++i) {
        std::unique_ptr<SunMap>& map = sunMap_[static_cast<std::size_t>(i)];
        if (!map)
            map = std::make_unique<SunMap>(shot_->scene->bounds(), shot_->camera.position, 2.f * view_.pixelAngle());
        // The next of an even sequence over disc and cells (Roberts' R2, here in four dimensions).
        const int n = (draw_ + pass) * sunMaps + i;
        const auto part = [&](double step) { return static_cast<float>(std::fmod(0.5 + (n + 1.0) * step, 1.0)); };
        map->begin(shot_->sunShadows ? shot_->sunShadows : shot_->scene,
                   towardSun(*shot_->sky, tangent, bitangent, part(0.8566748838545029), part(0.7338918566271260)),
                   Vec2(part(0.6287067210378087), part(0.5385972572236101)), static_cast<std::uint32_t>(n));
    }
    sunMapPass_ = pass;
}

namespace {
/// sin(2πx) for |x| ≤ ¼, to 1e-5.
F8 sinOfTurn(F8 x)
{
    const F8 z = x * x;
    return ((((42.058696f * z - 76.705859f) * z + 81.605249f) * z - 41.341702f) * z + 6.2831853f) * x;
}

/// cosineDirection() about the vertical of eight pairs of random numbers.
void upward8(F8 u, F8 v, geometry::ShadowRays8& rays)
{
    const F8 turn = v - 0.5f, wide = abs8(turn), r = sqrt8(u); // half a turn on: as even
    const F8 folded = select(wide > 0.25f, 0.5f - wide, wide);
    store8(rays.dx, r * sinOfTurn(0.25f - wide));
    store8(rays.dy, sqrt8(max8(f8(0.f), 1.f - u)));
    store8(rays.dz, r * sinOfTurn(select(turn < 0.f, -folded, folded)));
}
} // namespace

void Frame::lookToLights(const Ray8& ray, F8 end, F8 jitter, int segments, int pass, Look look, unsigned active,
                         int firstMap, std::uint8_t* sunLit, std::uint8_t* skyLit, int px, int py) const
{
    const bool open = !shot_->sky || shot_->scene->triangles() == 0, moves = shot_->scene->moves();
    const light::Sky* dome = shot_->sky.get();
    const Box3& box = shot_->scene->bounds();
    Vec3 tangent, bitangent;
    if (dome)
        frameAround(dome->sunDirection(), tangent, bitangent);
    geometry::ShadowRays8 rays;
    const Segments8 grid(end, segments);
    F8 t0 = f8(0.f), width = grid.first;
    const auto& tile = BlueNoise::tile();
    // A piece's own first look replaces what a neighbour saw for it.
    const auto count = [](std::uint8_t* to, unsigned hit, bool anew) {
        for (int k = 0; k < lanes; ++k) {
            const auto one = static_cast<std::uint8_t>(~hit >> k & 1u);
            to[k] = anew ? one : static_cast<std::uint8_t>(std::min(255, to[k] + one));
        }
    };
    for (int i = 0; i < segments; ++i) {
        const int group = i / 3;
        const bool turn = look == Look::Each || i % 3 == (look == Look::Grouped ? (group + pass) % 3 : pass % 3);
        const F8 t = t0 + width * pieceJitter(jitter, i);
        t0 = t0 + width;
        width = width * grid.ratio;
        const bool skyTurn = skyLit && i % 3 == 1 && (look != Look::Turn || group % 3 == pass % 3);
        if (!turn && !skyTurn)
            continue;
        const F8 x = ray.x(t), y = ray.y(t), z = ray.z(t);
        const auto aim = [&](int k, const Vec3& d, float reach) {
            rays.ox[k] = x[k];
            rays.oy[k] = y[k];
            rays.oz[k] = z[k];
            rays.dx[k] = d.x;
            rays.dy[k] = d.y;
            rays.dz[k] = d.z;
            rays.reach[k] = reach;
        };
        // Where something moves the passes fill the time that the shutter is open.
        if (moves)
            rays.time = tile.at(px, py, purposeTime, static_cast<std::uint32_t>(draw_ + pass + i));
        if (turn) {
            unsigned hit = 0;
            if (!open && dome->hasSun()) {
                const Vec3& s = dome->sunDirection();
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
                if (need && firstMap >= 0) {
                    hit = sunMap_[static_cast<std::size_t>((firstMap + group) % sunMaps)]->hidden8(x, y, z, need);
                } else if (need) {
                    const auto purpose = static_cast<std::uint32_t>(purposeAirSun + 2 * i);
                    for (int k = 0; k < lanes; ++k) {
                        const Vec3 d = towardSun(
                            *dome, tangent, bitangent,
                            tile.at(px + k, py, purpose, static_cast<std::uint32_t>(draw_ + pass)),
                            tile.at(px + k, py, purpose + 1, static_cast<std::uint32_t>(draw_ + pass)));
                        aim(k, d, 1e6f);
                    }
                    hit = shot_->shadowsOfSun().occluded8(rays, need);
                }
            }
            if (look == Look::Grouped)
                for (int j = 3 * group; j < 3 * group + 3; ++j)
                    count(sunLit + j * lanes, hit, true);
            else
                count(sunLit + i * lanes, hit, look == Look::Each || sunLooks(i, pass + 1) == 1);
        }
        if (skyTurn) {
            unsigned hit = 0;
            if (!open) {
                unsigned need = 0;
                F8 u = f8(0.f), v = u;
                for (int k = 0; k < lanes; ++k) {
                    const auto purpose = static_cast<std::uint32_t>(purposeAirSky + 2 * group);
                    u[k] = tile.at(px + k, py, purpose, static_cast<std::uint32_t>(draw_ + pass));
                    v[k] = tile.at(px + k, py, purpose + 1, static_cast<std::uint32_t>(draw_ + pass));
                    rays.reach[k] = 150.f;
                    if (((active >> k) & 1u) && y[k] < box.max.y)
                        need |= 1u << k;
                }
                store8(rays.ox, x), store8(rays.oy, y), store8(rays.oz, z);
                upward8(u, v, rays);
                hit = shot_->scene->occluded8(rays, need);
            }
            count(skyLit + group * lanes, hit, look != Look::Turn);
        }
    }
}

void Frame::lookFromAirRow(int y, int pass)
{
    Meter meter;
    meter.prepare(lampCount_, 0);
    const std::uint64_t begun = ticks();
    for (int x = 0; x < width_; x += lanes) {
        const Ray8 ray = raysAt(x, y);
        F8 end;
        unsigned active = 0;
        for (int i = 0; i < lanes; ++i) {
            end[i] = span_[index(std::min(x + i, width_ - 1), y)];
            if (x + i < width_)
                active |= 1u << i;
        }
        const std::size_t group = groupAt(x, y);
        const std::uint64_t toSky = ticks();
        lookToLights(ray, end, jitters(x, y, draw_ + pass), pieces_[group], pass,
                     pass == 0 ? Look::Grouped : Look::Turn, active, firstMapOf(x, y), sunLit_.at(group),
                     skyLit_.at(group), x, y);
        meter.toSky += static_cast<double>(ticks() - toSky);
        const auto which = lampsOf(group);
        for (std::size_t j = 0; j < which.size(); ++j) {
            const std::uint64_t before = ticks();
            for (int i = 0; i < lanes && x + i < width_; ++i) {
                if (!looksAlongBeams(x + i, y, pass))
                    continue;
                const std::size_t l = which[j], p = index(x + i, y);
                const unsigned lit = beamVisibility(
                    *shot_, l, Vec3(ray.ox[i], ray.oy[i], ray.oz[i]), Vec3(ray.dx[i], ray.dy[i], ray.dz[i]), span_[p],
                    BlueNoise::tile().at(x + i, y, purposeLamp + static_cast<std::uint32_t>(l),
                                         static_cast<std::uint32_t>(draw_ + pass)));
                std::uint8_t* to = beamLit_.at(lampBase_[group] + j, static_cast<std::size_t>(i));
                for (int k = 0; k < lanes; ++k)
                    to[k] = static_cast<std::uint8_t>((pass == 0 ? 0u : to[k]) + ((lit >> k) & 1u));
            }
            meter.lamps[which[j]] += static_cast<double>(ticks() - before);
        }
    }
    const auto& row = mirrors_[static_cast<std::size_t>(y)];
    MirrorsSeen& seen = mirrorsSeen_[static_cast<std::size_t>(y)];
    const std::size_t slots = row.size() * 2;
    seen.looks.resize(slots, 0);
    seen.sunLit.resize(slots * mirrorSegments, 0);
    seen.noise.resize(slots * air_->noisyCount() * (2 * mirrorSegments + 1), 0);
    seen.noiseLooks.resize(slots, 0);
    for (std::size_t first = 0; first < slots; first += lanes) {
        Ray8 ray = media::ray8(Vec3(0.f), Vec3(0, 1, 0));
        F8 end = f8(1.f);
        unsigned active = 0;
        for (std::size_t i = 0; i < lanes && first + i < slots; ++i) {
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
        std::uint8_t lit[mirrorSegments * lanes];
        // One piece of each three is looked at and speaks for the others; every mirror has its own count of looks.
        lookToLights(ray, end, jitters(static_cast<int>(first), y + 17, draw_ + pass), mirrorSegments, pass,
                     Look::Grouped, active, -1, lit, nullptr, static_cast<int>(first), y);
        for (std::size_t i = 0; i < lanes && first + i < slots; ++i) {
            if (!((active >> i) & 1u))
                continue;
            std::uint8_t& looks = seen.looks[first + i];
            if (looks == 255)
                continue;
            ++looks;
            for (std::size_t s = 0; s < mirrorSegments; ++s)
                seen.sunLit[(first + i) * mirrorSegments + s] = static_cast<std::uint8_t>(
                    seen.sunLit[(first + i) * mirrorSegments + s] + lit[s * lanes + i]);
        }
    }
    rowLooks_[static_cast<std::size_t>(y)] = static_cast<std::uint16_t>(pass + 1);
    meter.total = static_cast<double>(ticks() - begun);
    meterRow(meter);
}
bool Frame::traceSurfaces(int pass, const std::atomic<bool>& stop)
{
    if (pass < tracedPasses_)
        return true;
    if (stage_ == 0) {
        if (!overRows(rowDone_, stop, [&](int y) { surfacesRow(y, pass); }))
            return false;
        findSpans();
        if (pass == 0)
            findBlurred();
        if (pass >= 2 && ((pass & (pass + 1)) == 0 || pass == 5 || pass == 11)) { // 3, 5, 7, 11, 15, 31 …
            findEdges();
            shareLooks(pass + 1);
        }
        packSurfaces();
        packLamps();
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
    if (pass == 0 && stage_ == 1) {
        if (coverage_.empty())
            findEdges(true);
        if (!overRows(rowDone_, stop, [&](int y) { edgesRow(y); }))
            return false;
        // Between twigs one look does not tell how far one sees.
        findSpans();
        findBlurred();
        packSurfaces();
        packLamps();
        std::fill(rowDone_.begin(), rowDone_.end(), 0);
        stage_ = 2;
    }
    if (sunLit_.empty()) {
        const std::size_t groups = static_cast<std::size_t>(height_) * groupsPerRow();
        sunLit_.resize(groups, maxSegments);
        skyLit_.resize(groups, maxSegments / 3);
        beamLit_.resize(lampSlots(), lanes);
    }
    // Counts are bytes: after 255 passes the air has been seen well enough.
    const bool look = pass < 255;
    if (look)
        beginSunMap(pass);
    if (look && !overRows(rowDone_, stop, [&](int y) { lookFromAirRow(y, pass); }))
        return false;
    std::fill(rowDone_.begin(), rowDone_.end(), 0);
    stage_ = 0;
    tracedPasses_ = pass + 1;
    return true;
}
} // namespace hygros::render
