#include "render/volume_light.h"

#include "base/parallel.h"
#include "base/random.h"
#include "media/tracking.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
Vec3 directionOf(float u, float v)
{
    const float z = 1.f - 2.f * u, r = std::sqrt(std::max(0.f, 1.f - z * z)), a = 2.f * pi * v;
    return {r * std::cos(a), z, r * std::sin(a)};
}
Vec3 turned(const Vec3& d, float cosine, float u)
{
    Vec3 a, b;
    frameAround(d, a, b);
    const float sine = std::sqrt(std::max(0.f, 1.f - cosine * cosine)), angle = 2.f * pi * u;
    return (a * (sine * std::cos(angle)) + b * (sine * std::sin(angle)) + d * cosine).normalized();
}
/// Where a ray (of index space, in metres along it) is inside a box.
bool crosses(const Box3& box, const Vec3& o, const Vec3& d, float& t0, float& t1)
{
    for (int a = 0; a < 3; ++a) {
        const float inverse = 1.f / (std::abs(d[a]) < 1e-9f ? 1e-9f : d[a]), u = (box.min[a] - o[a]) * inverse,
                    v = (box.max[a] - o[a]) * inverse;
        t0 = std::max(t0, std::min(u, v));
        t1 = std::min(t1, std::max(u, v));
    }
    return t0 < t1;
}
constexpr int sunSource = 0, skySource = 1, ownSource = 2; ///< times three: their first value
} // namespace

VolumeLight::VolumeLight(std::shared_ptr<const shot::Shot> shot, std::size_t index, const Vec3& eye,
                         const VolumeLight* before, int cells, std::shared_ptr<const media::VolumeTree> tree)
    : shot_(std::move(shot)), tree_(tree ? std::move(tree) : std::make_shared<const media::VolumeTree>(shot_->volumes)),
      index_(index), volume_(shot_->volumes[index]), meanRelative_(media::meanRelative(volume_)), eye_(eye),
      cells_(cells), wide_{volume_.phase, volume_.phase, volume_.phase}
{
    lattice_ = before && before->cells_ == cells && before->volume_.density == volume_.density
                   ? before->lattice_
                   : std::make_shared<const media::BrickGrid::Means>(volume_.density->means(cells));
    const media::BrickGrid::Means& density = *lattice_;
    origin_ = density.origin;
    cell_ = density.cell;
    for (std::size_t a = 0; a < 3; ++a)
        size_[a] = std::max(1, density.size[a]);
    mass_ = density.values;
    mass_.resize(std::max<std::size_t>(1, mass_.size()));
    const Mat4& m = volume_.toIndex;
    const float determinant = std::abs(m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) -
                                       m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0]) +
                                       m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0]));
    cellVolume_ = cell_ * cell_ * cell_ / determinant;
    centre_ = (volume_.bounds.min + volume_.bounds.max) * 0.5f;
    radius_ = std::max(1e-3f, (volume_.bounds.max - volume_.bounds.min).length() * 0.5f);
    static constexpr float narrowest[3] = {0.85f, 0.5f, 0.7f};
    for (std::size_t s = 0; s < 3; ++s) {
        wide_[s].g = std::min(wide_[s].g, narrowest[s]);
        wide_[s].wideG = std::min(wide_[s].wideG, narrowest[s]);
    }
    const std::size_t count = mass_.size();
    for (float& own : mass_)
        own *= volume_.sigmaT * cellVolume_;
    sums_.assign(count * atOpen, 0.f);
    toEye_.assign(count * values, 0.f);
    open_.assign(count, 0.f);
    if (volume_.glow.heat && volume_.glow.table) {
        // What every cell gives off, from a few places in it.
        glowSums_.resize(count);
        const Mat4 toWorld = volume_.toIndex.inverse();
        parallelFor(count, [&](std::size_t c) {
            const Vec3 corner(
                static_cast<float>(c % static_cast<std::size_t>(size_[0])),
                static_cast<float>(c / static_cast<std::size_t>(size_[0]) % static_cast<std::size_t>(size_[1])),
                static_cast<float>(c / static_cast<std::size_t>(size_[0] * size_[1])));
            Random random(hash32(static_cast<std::uint32_t>(c), 71u));
            F8 all = f8(0.f);
            for (int k = 0; k < 4; ++k) {
                F8 x, y, z;
                for (int i = 0; i < lanes; ++i) {
                    const Vec3 p = (origin_ + (corner + Vec3(random.next(), random.next(), random.next())) * cell_) *
                                   toWorld;
                    x[i] = p.x, y[i] = p.y, z[i] = p.z;
                }
                F8 l[3];
                media::glow8(volume_, x, y, z, l);
                all += l[0] * 0.2126f + l[1] * 0.7152f + l[2] * 0.0722f;
            }
            glowSums_[c] = sum(all) * (1.f / 32.f);
        });
        float running = 0.f;
        for (float& v : glowSums_)
            v = running += v;
        if (running <= 0.f)
            glowSums_.clear();
    }
}

std::size_t VolumeLight::cellOf(const Vec3& p) const
{
    const auto at = [&](int a) {
        return std::clamp(static_cast<int>((p[a] - origin_[a]) / cell_), 0, size_[static_cast<std::size_t>(a)] - 1);
    };
    return static_cast<std::size_t>((at(2) * size_[1] + at(1)) * size_[0] + at(0));
}

namespace {
constexpr int certainEvents = 300; ///< of a photon before chance ends it
constexpr float goesOn = 0.98f;
} // namespace

void VolumeLight::photon(int source, Random& random, Vec3 o, Vec3 d, Vec3 weight, std::vector<float>& to,
                         const Vec3& aroundShare) const
{
    const Vec3 whole = weight;
    const bool grey = media::isGrey(volume_);
    thread_local std::vector<std::pair<float, Vec3>> passed;
    bool scattered = source != sunSource;
    for (int event = 0; event < 2000; ++event) {
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            return;
        // The flight to the next collision.
        float end = t1;
        bool collided = false;
        Vec3 factor(1.f), left = weight,
                          there = weight; // coloured: at the flight's end, at the place that is looked at
        // Where light is left is drawn before the end is known, as a share of the way.
        const float part = random.next();
        passed.clear();
        media::overVolume(volume_, o, d, t0, t1, [&](float a, float b, float bound) {
            for (float t = a;;) {
                t -= std::log(1.f - random.next()) / bound;
                if (t >= b)
                    return true;
                const float u = random.next();
                if (grey ? u * bound < media::extinction(volume_, o + d * t)
                         : media::collides(left, media::opticsAt(volume_, o + d * t).extinction, bound, u, factor)) {
                    end = t;
                    collided = true;
                    return false;
                }
                if (!grey) {
                    left *= factor;
                    passed.push_back({t, left});
                }
            }
        });
        if (scattered) {
            const float at = t0 + (end - t0) * part;
            for (const auto& [t, w] : passed)
                if (t < at)
                    there = w;
            const Vec3 place = o + d * at, share = there * ((end - t0) * media::extinction(volume_, place));
            const float toward = wide_[source](d.dot((eye_ - place).normalized()));
            float* cell = &to[cellOf(volume_.indexOf(place)) * atOpen];
            for (int c = 0; c < 3; ++c) {
                cell[source * 3 + c] += share[c] * toward * (1.f - aroundShare[c]);
                cell[atAround + c] += share[c] * toward * aroundShare[c];
            }
        }
        if (!collided)
            return;
        o += d * end;
        weight = (grey ? weight : left * factor) * media::opticsAt(volume_, o).albedo;
        scattered = true;
        const float strongest = maxComponent(weight), before = maxComponent(whole);
        if (strongest < 0.1f * before) {
            if (random.next() * 0.2f * before >= strongest)
                return;
            weight *= 0.2f * before / strongest;
        }
        // In matter that is all but opaque and white light wanders next to where it came in, without end.
        if (event >= certainEvents) {
            if (random.next() >= goesOn)
                return;
            weight *= 1.f / goesOn;
        }
        d = turned(d, media::samplePhase(volume_.phase, [&] { return random.next(); }), random.next());
    }
}

F8 VolumeLight::sunDepthBeside(const AirModel& air, F8 x, F8 y, F8 z) const
{
    const F8 all = air.sunDepth(x, y, z, nullptr);
    if (!volume_.shadow)
        return all;
    const F8 own = volume_.shadow->column8(x, y, z) * (volume_.sigmaT * volume_.shadowShare *
                                                       ((meanRelative_.x + meanRelative_.y + meanRelative_.z) / 3.f));
    return max8(f8(0.f), all - own);
}

void VolumeLight::fromSun(const AirModel& air, int count, Random& random, std::vector<float>& to) const
{
    const Vec3 sun = shot_->sky->sunDirection(), d = -sun;
    Vec3 a, b;
    frameAround(sun, a, b);
    const Vec3 share = shot_->sky->sunIrradiance() *
                       (volume_.bySun * pi * radius_ * radius_ / static_cast<float>(count));
    const float turn = random.next(), shift = random.next();
    // Eight at a time, as the air is asked.
    F8 x = f8(0.f), y = f8(0.f), z = f8(0.f);
    int filled = 0;
    const auto send = [&] {
        const F8 left = exp8(-sunDepthBeside(air, x, y, z));
        for (int lane = 0; lane < filled; ++lane)
            photon(sunSource, random, Vec3(x[lane], y[lane], z[lane]), d, share * left[lane], to);
        filled = 0;
    };
    for (int i = 0; i < count; ++i) {
        // Evenly over the disc that the ball shows the sun (a golden-ratio spiral).
        const float r = radius_ * std::sqrt((static_cast<float>(i) + shift) / static_cast<float>(count)),
                    angle = 2.f * pi * std::fmod(turn + 0.61803399f * static_cast<float>(i), 1.f);
        const Vec3 o = centre_ + a * (r * std::cos(angle)) + b * (r * std::sin(angle)) - d * (1.5f * radius_);
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            continue;
        const Vec3 p = o + d * t0;
        if (shot_->shadowsOfSun().occluded(p, sun, 1e6f))
            continue;
        x[filled] = p.x, y[filled] = p.y, z[filled] = p.z;
        if (++filled == lanes)
            send();
    }
    if (filled > 0)
        send();
}

float VolumeLight::throughOthers(const Vec3& p, const Vec3& from, float reach) const
{
    constexpr int places = 8;
    float depth = 0.f;
    tree_->over(p, from, reach, [&](std::size_t k) {
        const media::Volume& v = shot_->volumes[k];
        float t0 = 0.f, t1 = reach;
        if (k == index_ || !crosses(v.density->bounds(), v.indexOf(p), v.indexDirection(from), t0, t1))
            return true;
        float mean = 0.f;
        for (int i = 0; i < places; ++i)
            mean += media::extinction(v, p + from * (t0 + (t1 - t0) * (static_cast<float>(i) + 0.5f) / places)) /
                    places;
        depth += mean * (t1 - t0) * (1.f - luminance(v.albedo));
        return true;
    });
    return std::exp(-depth);
}

void VolumeLight::fromSky(int count, const AirModel& air, Random& random, std::vector<float>& to) const
{
    const float share = volume_.ambient * 4.f * pi * pi * radius_ * radius_ / static_cast<float>(count);
    const SurfaceSampler sampler(*shot_);
    std::vector<Vec3> mirrorLamps(shot_->lamps.size());
    // Eight at a time, as the air is marched.
    struct Start {
        Vec3 place, from, bySky, bySun;
        float t;
        /// What of the set is met, with what it mirrors: what the air leaves of its light is looked up for eight.
        int parts = 0;
        LightParts part[2];
        Vec3 at[2];
    } waiting[lanes];
    int filled = 0;
    AirSums8 sums;
    const auto send = [&] {
        AirRays8 rays;
        for (int i = 0; i < lanes; ++i) {
            const Start& s = waiting[std::min(i, filled - 1)];
            rays.ray.ox[i] = s.place.x, rays.ray.oy[i] = s.place.y, rays.ray.oz[i] = s.place.z;
            rays.ray.dx[i] = s.from.x, rays.ray.dy[i] = s.from.y, rays.ray.dz[i] = s.from.z;
            rays.end[i] = s.t;
            rays.jitter[i] = random.next();
        }
        rays.fromEye = false;
        rays.segments = 9;
        rays.depth[0] = rays.end;
        rays.weight[0] = f8(1.f);
        for (int k = 0; k < 2; ++k) {
            F8 at[3], normal[3];
            bool met = false;
            for (int i = 0; i < lanes; ++i) {
                const Start& s = waiting[std::min(i, filled - 1)];
                met = met || s.parts > k;
                const Vec3 p = s.parts > k ? s.at[k] : s.place, n = s.parts > k ? s.part[k].normal() : Vec3(0, 1, 0);
                for (int c = 0; c < 3; ++c) {
                    at[c][i] = p[c];
                    normal[c][i] = n[c];
                }
            }
            if (!met)
                break;
            const AirModel::SurfaceWays ways = air.surfaceWays(at[0], at[1], at[2], normal, nullptr);
            const float spread = shot_->scatteringOrders > 1 ? 1.f : 0.f;
            for (int i = 0; i < filled; ++i) {
                Start& s = waiting[i];
                if (s.parts <= k)
                    continue;
                const LightParts& l = s.part[k];
                s.bySun += (l.sun * ways.sun[i] + l.open * (spread * ways.diffuse[i])) * shot_->sky->sunIrradiance();
                s.bySky += l.emitted + l.sky * ways.sky[i] + l.open * air.skyOnLevel() * (spread * ways.around[i]);
            }
        }
        F8 bySun[3], bySky[3];
        marchAir(air, rays, sums);
        colourAir(air, rays.ray, sums, bySun, bySky);
        for (int i = 0; i < filled; ++i) {
            const Start& s = waiting[i];
            const float through = sums.transmittance[0][i];
            const Vec3 ofSun = (s.bySun * through + Vec3(bySun[0][i], bySun[1][i], bySun[2][i])) * volume_.bySun,
                       all = ofSun + (s.bySky * through + Vec3(bySky[0][i], bySky[1][i], bySky[2][i])) * volume_.bySky;
            Vec3 sunShare(0.f);
            for (int c = 0; c < 3; ++c)
                sunShare[c] = all[c] > 0.f ? ofSun[c] / all[c] : 0.f;
            photon(skySource, random, s.place, -s.from, all * (share * throughOthers(s.place, s.from, s.t)), to,
                   sunShare);
        }
        filled = 0;
    };
    for (int i = 0; i < count; ++i) {
        const Vec3 from = directionOf((static_cast<float>(i) + random.next()) / static_cast<float>(count),
                                      random.next()),
                   d = -from;
        Vec3 a, b;
        frameAround(from, a, b);
        const float r = radius_ * std::sqrt(random.next()), angle = 2.f * pi * random.next();
        const Vec3 o = centre_ + a * (r * std::cos(angle)) + b * (r * std::sin(angle)) + from * (1.5f * radius_);
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            continue;
        // The sky, or what of the set is in its place: lit by sun and sky, shaded by this volume too. And the air
        // before it.
        Start start{o + d * t0, from, shot_->sky->radiance(from), Vec3(0.f), shot::Shot::farDistance, 0, {}, {}};
        for (int c = 0; c < 3 && from.y < 0.f && !shot_->sky->panorama(); ++c) {
            start.bySun[c] = std::min(start.bySky[c], shot_->sky->groundBySun()[c]);
            start.bySky[c] -= start.bySun[c];
        }
        geometry::Hit hit;
        if (sampler.meets(start.place, from, hit)) {
            const PixelRandom own{static_cast<int>(random.next() * 64.f), static_cast<int>(random.next() * 64.f),
                                  static_cast<std::uint32_t>(random.next() * 1024.f)};
            const SurfaceSample s = sampler.shaded(&hit, start.place, from, 0.01f, own, {}, {}, mirrorLamps);
            start.t = hit.t;
            start.bySky = start.bySun = Vec3(0.f);
            const auto add = [&](const LightParts& light, const Vec3& at) {
                start.part[start.parts] = light;
                start.at[start.parts++] = at;
            };
            add(s.light, start.place + from * hit.t);
            if (s.mirror)
                add(s.mirror->light * s.mirror->reflectance, s.mirror->point + s.mirror->direction * s.mirror->t);
        }
        waiting[filled++] = start;
        if (filled == lanes)
            send();
    }
    if (filled > 0)
        send();
}

void VolumeLight::fromLamp(const light::Lamp& lamp, int count, const AirModel& air, Random& random,
                           std::vector<float>& to) const
{
    if (lamp.toAir <= 0.f || lamp.reachOfBody(index_) <= 0.f)
        return;
    const float strength = lamp.toAir * lamp.reachOfBody(index_);
    const Vec3 toCentre = centre_ - lamp.position;
    const float distance = toCentre.length();
    const bool parallel = lamp.shape == light::Lamp::Shape::Parallel, inside = !parallel && distance < radius_ * 1.02f;
    const Vec3 axis = parallel ? lamp.direction : inside ? Vec3(0, 1, 0) : toCentre / distance;
    Vec3 a, b;
    frameAround(axis, a, b);
    const float cosine = inside ? -1.f : std::sqrt(std::max(0.f, 1.f - radius_ * radius_ / (distance * distance)));
    const float solid = 2.f * pi * (1.f - cosine);
    for (int i = 0; i < count; ++i) {
        Vec3 o, d, share;
        light::LampSample s;
        const float u = (static_cast<float>(i) + random.next()) / static_cast<float>(count), v = random.next(),
                    r1 = random.next(), r2 = random.next();
        if (parallel) {
            const float r = lamp.radius * std::sqrt(u);
            o = lamp.position + a * (r * std::cos(2.f * pi * v)) + b * (r * std::sin(2.f * pi * v));
            d = axis;
            if (!light::sampleLamp(lamp, o + d * 0.01f, r1, r2, s))
                continue;
            share = s.irradiance * (pi * lamp.radius * lamp.radius);
        } else {
            // Toward a far place in that direction: what arrives there, times the square of the way, is what leaves the
            // source.
            const float c = 1.f - u * (1.f - cosine), sine = std::sqrt(std::max(0.f, 1.f - c * c));
            const Vec3 w = axis * c + a * (sine * std::cos(2.f * pi * v)) + b * (sine * std::sin(2.f * pi * v));
            const float far = std::max(distance, radius_);
            const Vec3 target = lamp.position + w * far;
            if (!light::sampleLamp(lamp, target, r1, r2, s))
                continue;
            d = -s.way;
            o = target + s.way * far;
            share = s.irradiance * (far * far * solid);
        }
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            continue;
        const Vec3 p = o + d * t0;
        if (lamp.shadows != light::Lamp::Shadows::None) {
            if (t0 > 0.f && shot_->shadowsOf(lamp).occluded(p, -d, std::max(0.f, t0 - light::clearanceOf(lamp))))
                continue;
            if (lamp.shadows == light::Lamp::Shadows::Full && t0 > 0.f)
                share *= std::exp(-air.depthBetween(o, p));
        }
        share *= lamp.intensity;
        photon(ownSource, random, p, d, share * (strength / static_cast<float>(count)), to);
    }
}

void VolumeLight::fromGlow(int count, Random& random, std::vector<float>& to) const
{
    const Mat4 toWorld = volume_.toIndex.inverse();
    const float whole = glowSums_.back();
    for (int i = 0; i < count; ++i) {
        const float u = (static_cast<float>(i) + random.next()) / static_cast<float>(count) * whole;
        const auto at = static_cast<std::size_t>(
            std::min<std::ptrdiff_t>(std::upper_bound(glowSums_.begin(), glowSums_.end(), u) - glowSums_.begin(),
                                     static_cast<std::ptrdiff_t>(glowSums_.size()) - 1));
        const float own = glowSums_[at] - (at > 0 ? glowSums_[at - 1] : 0.f);
        if (own <= 0.f)
            continue;
        const Vec3 corner(
            static_cast<float>(at % static_cast<std::size_t>(size_[0])),
            static_cast<float>(at / static_cast<std::size_t>(size_[0]) % static_cast<std::size_t>(size_[1])),
            static_cast<float>(at / static_cast<std::size_t>(size_[0] * size_[1])));
        const Vec3 p = (origin_ + (corner + Vec3(random.next(), random.next(), random.next())) * cell_) * toWorld;
        F8 l[3];
        media::glow8(volume_, f8(p.x), f8(p.y), f8(p.z), l);
        const Vec3 given(l[0][0], l[1][0], l[2][0]);
        if (maxComponent(given) <= 0.f)
            continue;
        photon(ownSource, random, p, directionOf(random.next(), random.next()),
               given * (4.f * pi * cellVolume_ * whole / (own * static_cast<float>(count))), to);
    }
}

void VolumeLight::add(const AirModel& air, int photons)
{
    if (volume_.density->empty())
        return;
    // A fixed number of parts, added in order: the same light whatever the number of threads.
    constexpr std::size_t parts = 4;
    std::vector<std::vector<float>> own(parts, std::vector<float>(sums_.size(), 0.f));
    const int each = std::max(1, photons / static_cast<int>(parts));
    const auto weight = static_cast<float>(each);
    parallelFor(parts, [&](std::size_t part) {
        Random random(hash32(static_cast<std::uint32_t>(batches_) * static_cast<std::uint32_t>(parts) +
                                 static_cast<std::uint32_t>(part),
                             4177u));
        if (shot_->sky && volume_.bySun > 0.f)
            fromSun(air, each, random, own[part]);
        if (shot_->sky && (volume_.bySun + volume_.bySky) * volume_.ambient > 0.f)
            fromSky(each, air, random, own[part]);
        for (const light::Lamp& lamp : shot_->lamps)
            fromLamp(lamp, std::max(64, each / 4 / static_cast<int>(std::max<std::size_t>(1, shot_->lamps.size() / 4))),
                     air, random, own[part]);
        if (!glowSums_.empty())
            fromGlow(each / 2, random, own[part]);
    });
    parallelRanges(sums_.size(), 4096, [&](std::size_t from, std::size_t to) {
        for (const std::vector<float>& part : own)
            for (std::size_t i = from; i < to; ++i)
                sums_[i] += part[i] * (weight / parts);
    });
    if (shot_->sky && volume_.bySun > 0.f) {
        // And one look to the sun from every cell: what of the set and of the air stands in its way.
        const Mat4 toWorld = volume_.toIndex.inverse();
        const Vec3 sun = shot_->sky->sunDirection();
        parallelFor(static_cast<std::size_t>(size_[2] * size_[1]), [&](std::size_t row) {
            Random random(hash32(static_cast<std::uint32_t>(row), static_cast<std::uint32_t>(batches_), 9176u));
            const int y = static_cast<int>(row) % size_[1], z = static_cast<int>(row) / size_[1];
            for (int x = 0; x < size_[0]; x += lanes) {
                // Lanes beyond the row's end stand at its last place.
                F8 px = f8(0.f), py = f8(0.f), pz = f8(0.f), share = f8(0.f);
                const int used = std::min(lanes, size_[0] - x);
                for (int i = 0; i < lanes; ++i) {
                    if (i >= used) {
                        px[i] = px[used - 1], py[i] = py[used - 1], pz[i] = pz[used - 1];
                        continue;
                    }
                    const Vec3 p = (origin_ +
                                    (Vec3(static_cast<float>(x + i), static_cast<float>(y), static_cast<float>(z)) +
                                     Vec3(random.next(), random.next(), random.next())) *
                                        cell_) *
                                   toWorld;
                    px[i] = p.x, py[i] = p.y, pz[i] = p.z;
                    share[i] = shot_->shadowsOfSun().occluded(p, sun, 1e6f) ? 0.f : weight;
                }
                if (any(share > 0.f))
                    share = share * exp8(-sunDepthBeside(air, px, py, pz));
                for (int i = 0; i < used; ++i)
                    open_[row * static_cast<std::size_t>(size_[0]) + static_cast<std::size_t>(x + i)] += share[i];
            }
        });
    }
    ++batches_;
    photons_ += weight;
    gather();
}
} // namespace hygros::render
