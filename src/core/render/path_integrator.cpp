#include "render/path_walk.h"

#include "base/parallel.h"
#include "media/phase.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::render {
using shot::Shot;

namespace {
constexpr int beamFlights = 3;   ///< flights of a path on which beams are looked for
constexpr int certainEvents = 8; ///< events before roulette begins
constexpr int mostEvents = 20000;

/// What glows is met by the paths themselves: no lamps stand for it.
std::shared_ptr<const Shot> withoutStandIns(std::shared_ptr<const Shot> shot)
{
    if (std::none_of(shot->lamps.begin(), shot->lamps.end(), [](const light::Lamp& l) { return l.ofBody >= 0; }))
        return shot;
    auto own = std::make_shared<Shot>(*shot);
    std::erase_if(own->lamps, [](const light::Lamp& l) { return l.ofBody >= 0; });
    return own;
}

std::vector<std::string> sourcesOf(const Shot& shot)
{
    std::vector<std::string> sources{"own", "matter"};
    const auto add = [&](const std::string& id) {
        if (std::find(sources.begin(), sources.end(), id) == sources.end())
            sources.push_back(id);
    };
    if (shot.sky) {
        add(shot.sunId);
        add("sky");
    }
    for (const light::Lamp& l : shot.lamps)
        add(l.id);
    return sources;
}

/// A little off the surface, by more than the rounding of its position.
Vec3 startOn(const geometry::Hit& hit, const Vec3& o, const Vec3& d)
{
    const Vec3 p = o + d * hit.t;
    return p + hit.geometricNormal * (1e-4f + 2e-6f * (std::abs(p.x) + std::abs(p.y) + std::abs(p.z) + hit.t));
}

/// Its matte colour as paths take it: what comes up out of water they go and look for.
Vec3 matteOf(const geometry::Hit& hit, float pixelAngle, const Vec3& d)
{
    return hit.material->isWater ? Vec3(0.f) : SurfaceSampler::baseColour(hit, pixelAngle, hit.t, -d.dot(hit.normal));
}

bool hasMatte(const Shot& shot) { return shot.scene->hasMatte(); }
} // namespace

PathIntegrator::PathIntegrator(std::shared_ptr<const Shot> shot, int width, int height, LayerWish wish)
    : shot_(withoutStandIns(std::move(shot))), view_(shot_->camera, width, height), sampler_(*shot_), flights_(*shot_),
      glow_(*shot_), sums_(width, height, wish, sourcesOf(*shot_), !shot_->veils.empty(), hasMatte(*shot_))
{
    const auto source = [&](const std::string& id) {
        return static_cast<std::size_t>(std::find(sums_.sources.begin(), sums_.sources.end(), id) -
                                        sums_.sources.begin());
    };
    ownSource_ = source("own");
    matterSource_ = source("matter");
    sunSource_ = shot_->sky ? source(shot_->sunId) : ownSource_;
    skySource_ = shot_->sky ? source("sky") : ownSource_;
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        lampSource_.push_back(source(shot_->lamps[i].id));
        everyLamp_.push_back(static_cast<std::uint16_t>(i));
    }
    if (shot_->sky) {
        frameAround(shot_->sky->sunDirection(), sunTangent_, sunBitangent_);
        groundLevel_ = shot::groundLevel(*shot_);
        ground_.baseColour = shot_->sky->settings().groundAlbedo;
        ground_.roughness = 1.f;
    }
    if (shot_->plate) {
        const std::size_t n = sums_.pixels();
        plateColour_.assign(n * 3, 0.f);
        plateDepth_.assign(n, -1.f);
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x) {
                const std::size_t p = static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                                      static_cast<std::size_t>(x);
                const float d = shot_->plate->fitted(x, y, width, height, &plateColour_[p * 3], shot_->camera.part);
                plateDepth_[p] = d < 0.f ? 1e-3f : std::min(d, Shot::farDistance);
            }
    }
}

Vec3 PathIntegrator::environment(const Vec3& d, bool withDisk) const
{
    if (uniform_ >= 0.f)
        return Vec3(uniform_);
    if (!shot_->sky)
        return Vec3(0.f);
    return shot_->sky->radiance(d) + (withDisk ? shot_->sky->diskRadiance(d) : Vec3(0.f));
}

/// Beyond the set the air lies on matte ground (shot::groundLevel). A panorama brings its own.
bool PathIntegrator::meetsGround(const Vec3& o, const Vec3& d, geometry::Hit& hit) const
{
    if (!shot_->sky || shot_->sky->panorama() || uniform_ >= 0.f || !(d.y < -1e-6f) || o.y <= groundLevel_)
        return false;
    hit = geometry::Hit{};
    hit.t = (o.y - groundLevel_) / -d.y;
    hit.normal = hit.geometricNormal = Vec3(0.f, 1.f, 0.f);
    hit.material = &ground_;
    hit.set = 0xffff;
    return hit.t < media::outsideDistance;
}

/// From here to the end. `beyond` (or null) is light that ends the first flight at `limit`: a plate's.
void PathIntegrator::path(Walk& walk, Vec3 o, Vec3 d, float limit, const Vec3* beyond) const
{
    Random& random = walk.random;
    int begin = 0;
    if (const geometry::WaterSurface* in = sampler_.eyeIn(); in && (o - shot_->camera.position).length2() < 0.25f) {
        const bool isOut = underWater(walk, *in, o, d);
        walk.out.through = Vec3(1.f);
        if (!isOut)
            return;
        limit = Shot::farDistance;
        beyond = nullptr;
        // What was scattered in it sees no source any more: those it was lit by there.
        begin = walk.sharp ? 0 : 1;
        walk.first = walk.sharp;
    }
    for (int event = begin; event < mostEvents; ++event) {
        walk.out.events = event + 1;
        geometry::Hit hit;
        const bool first = event == 0;
        const bool met = (sampler_.meets(o, d, hit, walk.time) &&
                          !(first && beyond && !(hit.t < limit && !hit.matte))) ||
                         (!walk.sharp && meetsGround(o, d, hit));
        float end = met ? hit.t : media::outsideDistance;
        // The eye sees sources themselves, and mirrors broad ones; next-event estimation stands for all else.
        Vec3 source(0.f);
        int lamp = -1;
        if (walk.sharp && first) {
            float at = first && beyond ? limit : met ? hit.t : Shot::farDistance;
            lamp = sampler_.meetsLamp(o, d, walk.pixelAngle, everyLamp_, at, source);
            if (lamp >= 0)
                end = at;
        }
        const bool onPlate = first && beyond && lamp < 0 && !met;
        if (onPlate)
            end = limit >= Shot::farDistance ? media::outsideDistance : limit;
        const bool background = lamp < 0 && !met && !onPlate;
        const bool clean = !background && !(onPlate && limit >= Shot::farDistance);
        if (first && !sampler_.eyeIn()) {
            walk.out.depth = background || (onPlate && limit >= Shot::farDistance) ? Shot::farDistance : end;
            walk.out.matte = met && hit.matte;
        }
        BeamSearch beams;
        const bool looks = looksForBeams_ && event < beamFlights && !shot_->lamps.empty() && flights_.scatterers() > 0;
        if (looks)
            beams = beamsAlong(o, d, end);
        if (!beams.beams.empty())
            searchBeams(walk, beams, o, d, end, clean);
        Flights::Collision c;
        const Vec3 before = walk.weight;
        const bool split = first && flights_.scatterers() > 0;
        if (split) {
            // What lies behind the air is looked at by every path, dimmed by what comes through, and only then does the
            // flight's chance decide.
            walk.weight *= flights_.through(o, d, end, clean, false, random);
            walk.out.through = walk.weight;
        }
        if (first) {
            walk.firstInAir = false;
            if (!split)
                walk.out.through = walk.weight;
            if (onPlate)
                walk.gain(walk.weight * *beyond, ownSource_);
            else if (lamp >= 0) {
                walk.out.lampSeen = true;
                walk.see(walk.weight * source * shot_->lamps[static_cast<std::size_t>(lamp)].intensity,
                         lampSource_[static_cast<std::size_t>(lamp)]);
            } else if (background) {
                walk.gain(walk.weight * environment(d, false), ownSource_);
                if (uniform_ < 0.f && shot_->sky)
                    walk.see(walk.weight * shot_->sky->diskRadiance(d), ownSource_);
            } else if (!hit.matte) {
                walk.see(walk.weight * hit.material->emission, ownSource_);
                const Brdf brdf(*hit.material, matteOf(hit, walk.pixelAngle, d));
                walk.out.albedo = (hit.material->isWater ? hit.water->deep() : brdf.diffuse) + brdf.f0;
                walk.skyReach = hit.set < shot_->skyReach.sets.size() ? shot_->skyReach.sets[hit.set] : 1.f;
                if (split && maxComponent(walk.weight) > 0.f)
                    lightSurface(walk, hit, brdf, startOn(hit, o, d), d);
            }
            if (met && lamp < 0 && !sampler_.eyeIn())
                walk.out.normal = hit.normal;
        }
        walk.weight = before;
        const bool inAir = flights_.scatterers() > 0 && flights_.collide(o, d, end, clean, walk.weight, random, c);
        if (first) {
            walk.firstInAir = inAir;
            walk.out.airDepth = inAir ? c.t : -1.f;
        }
        walk.first = false;
        // What volumes give off on the way counts with what the flight carried there; where the last event also looked
        // for it, balanced.
        if (Vec3 glow = flights_.isColoured() ? flights_.glowThrough(o, d, end, clean, !walk.sharp, random)
                                              : flights_.glowAlong(o, d, inAir ? c.t : end, !walk.sharp, random);
            maxComponent(glow) > 0.f) {
            if (!glow_.empty() && walk.direction >= 0.f)
                glow *= walk.direction / (walk.direction + glow_.density(o, d));
            walk.gainAs(before * glow, matterSource_, first || walk.firstInAir);
        }
        if (inAir) {
            o += d * c.t;
            walk.weight *= flights_.opticsAt(c.scatterer, o, true).albedo;
            if (maxComponent(walk.weight) <= 0.f)
                return;
            const media::Phase& phase = flights_.phase(c.scatterer);
            walk.skyReach = flights_.reach(shot_->skyReach, c.scatterer);
            lightAir(walk, o, d, c.scatterer, beams.beams.empty() ? nullptr : &beams, c.t, o - d * c.t, clean);
            const float cosine = media::samplePhase(phase, [&] { return random.next(); }), a = 2.f * pi * random.next();
            Vec3 u, v;
            frameAround(d, u, v);
            const float sine = std::sqrt(std::max(0.f, 1.f - cosine * cosine));
            d = (u * (sine * std::cos(a)) + v * (sine * std::sin(a)) + d * cosine).normalized();
            walk.direction = phase(cosine);
            walk.sharp = false;
        } else if (first && (onPlate || lamp >= 0 || background)) {
            return;
        } else if (background) {
            Vec3 l = environment(d, false) * walk.skyReach;
            if (walk.direction >= 0.f && uniform_ < 0.f && shot_->sky && shot_->sky->panorama())
                l *= walk.direction / (walk.direction + shot_->sky->panoramaPdf(d));
            // What a mirror shows is what would be seen itself, as live.
            walk.gain(walk.weight * l, walk.sharp ? ownSource_ : skySource_);
            return;
        } else {
            if (hit.matte)
                return;
            const Vec3 base = matteOf(hit, walk.pixelAngle, d);
            const Brdf brdf(*hit.material, base);
            const Vec3 v = -d, start = startOn(hit, o, d), below = o + d * (hit.t + 1e-3f);
            if (!first && walk.sharp) // seen in a mirror; what it would light, lamps do
                walk.gain(walk.weight * hit.material->emission, ownSource_);
            walk.skyReach = hit.set < shot_->skyReach.sets.size() ? shot_->skyReach.sets[hit.set] : 1.f;
            if (!split)
                lightSurface(walk, hit, brdf, start, d);
            const Vec3 mirrored = brdf.mirror ? mirrorShare(hit, brdf.mirrorF0, d) : Vec3(0.f);
            const float share = brdf.mirror ? std::clamp(luminance(mirrored), 0.05f, 0.95f) : 0.f;
            o = start;
            if (random.next() < share) {
                walk.weight *= mirrored / share;
                d = mirrorDirection(hit, d);
                walk.direction = -1.f;
            } else if (hit.material->isWater) {
                // Into it, and on where it comes out again.
                walk.weight *= (1.f - geometry::mirroredByWater(-d.dot(hit.facet))) /
                               ((1.f - share) * geometry::waterIndex * geometry::waterIndex);
                d = geometry::refracted(d, hit.facet);
                o = below;
                if (!underWater(walk, *hit.water, o, d))
                    return;
            } else if (brdf.mirror) {
                d = cosineDirection(hit.normal, random.next(), random.next());
                walk.weight *= brdf.diffuse / (1.f - share);
                walk.direction = d.dot(hit.normal) / pi;
                walk.sharp = false;
            } else {
                const Vec3 n = hit.normal;
                d = random.next() < brdf.glossyShare(n, v) ? brdf.glossyDirection(n, v, random.next(), random.next())
                                                           : cosineDirection(n, random.next(), random.next());
                walk.direction = brdf.density(n, d, v);
                if (!(walk.direction > 0.f))
                    return;
                walk.weight *= brdf.reflect(n, d, v) / walk.direction;
                walk.sharp = false;
            }
            if ((!hit.material->isWater && d.dot(hit.geometricNormal) <= 0.f) || maxComponent(walk.weight) <= 0.f)
                return;
        }
        if (event + 1 >= certainEvents) {
            const float go = std::min(0.99f, maxComponent(walk.weight));
            if (random.next() >= go)
                return;
            walk.weight /= go;
        }
    }
}

PathIntegrator::PathLight PathIntegrator::light(const Vec3& origin, const Vec3& direction, float pixelAngle,
                                                Random& random) const
{
    Walk walk{random, pixelAngle, {}};
    path(walk, origin, direction, Shot::farDistance, nullptr);
    return walk.out;
}

PathIntegrator::PathLight PathIntegrator::light(const Probe& probe, Random& random, float* setBy, float* airBy) const
{
    Walk walk{random, probe.pixelAngle, {}};
    walk.time = probe.time;
    walk.setBy = setBy;
    walk.airBy = airBy;
    const Vec3 none(0.f);
    path(walk, probe.origin, probe.direction, probe.limit, probe.onPlate ? &none : nullptr);
    return walk.out;
}

void PathIntegrator::samplePixel(int x, int y)
{
    const std::size_t p = static_cast<std::size_t>(y) * static_cast<std::size_t>(sums_.width) +
                          static_cast<std::size_t>(x);
    // Another frame is another draw, so that frames of a sequence help each other.
    Random random(hash32(static_cast<std::uint32_t>(p), static_cast<std::uint32_t>(sums_.paths[p]),
                         static_cast<std::uint32_t>(shot_->frame)));
    Walk walk{random, view_.pixelAngle(), {}};
    const std::size_t sources = sums_.sources.size() * 3;
    const auto part = [&](std::vector<float>& by) { return by.empty() ? nullptr : &by[p * sources]; };
    walk.setBy = part(sums_.setBy);
    walk.airBy = part(sums_.airBy);
    walk.shadowBy = part(sums_.shadowBy);
    // Over the pixel evenly, path after path: Roberts' R2 sequence from a place of the pixel's own.
    const auto k = static_cast<std::uint32_t>(sums_.paths[p]);
    const std::uint32_t from = hash32(static_cast<std::uint32_t>(p), static_cast<std::uint32_t>(shot_->frame), 0x7032u);
    const float dx = tent(unitFloat(from + k * 3242174889u)), dy = tent(unitFloat(hash32(from) + k * 2447445414u));
    const float u = view_.hasLens() ? random.next() : 0.5f, v = view_.hasLens() ? random.next() : 0.5f;
    walk.time = shot_->scene->moves() ? random.next() : 0.f;
    const geometry::SightRay sight = view_.ray(static_cast<float>(x) + dx, static_cast<float>(y) + dy, u, v, walk.time);
    Vec3 beyond(0.f);
    float limit = Shot::farDistance;
    const bool plate = !plateDepth_.empty();
    if (plate) {
        beyond = Vec3(plateColour_[p * 3], plateColour_[p * 3 + 1], plateColour_[p * 3 + 2]);
        limit = plateDepth_[p];
    }
    geometry::Hit hit;
    const bool met = (plate || !shot_->veils.empty()) && sampler_.meets(sight.origin, sight.direction, hit, walk.time);
    if (plate && met && hit.matte) // it stands for something that is on the plate
        limit = std::min(limit, hit.t);
    if (!shot_->veils.empty()) {
        // Veils lie over what is seen at the surface's distance.
        const media::Ray8 ray = media::ray8(sight);
        F8 times[3] = {f8(1.f), f8(1.f), f8(1.f)}, plus[3] = {f8(0.f), f8(0.f), f8(0.f)};
        const float depth = std::min(met ? hit.t : Shot::farDistance, limit);
        for (const media::Veil& veil : shot_->veils)
            media::veil8(veil, ray, f8(depth), Shot::farDistance, times, plus);
        for (int c = 0; c < 3; ++c) {
            walk.weight[c] = times[c][0];
            sums_.veils[p * 3 + static_cast<std::size_t>(c)] += plus[c][0];
        }
    }
    // A plate's sky is covered by the air as far as the artist wants it.
    const bool spared = plate && !met && limit >= Shot::farDistance && shot_->plateSky < 1.f &&
                        random.next() >= shot_->plateSky;
    if (spared) {
        walk.out.depth = Shot::farDistance;
        walk.out.through = walk.weight;
        walk.gain(walk.weight * beyond, ownSource_);
    } else {
        path(walk, sight.origin, sight.direction, limit, plate ? &beyond : nullptr);
    }
    const PathLight& l = walk.out;
    for (std::size_t c = 0; c < 3; ++c) {
        const int ch = static_cast<int>(c);
        sums_.set[p * 3 + c] += l.set[ch];
        sums_.air[p * 3 + c] += l.air[ch];
        sums_.through[p * 3 + c] += l.through[ch];
        sums_.albedo[p * 3 + c] += l.albedo[ch];
        sums_.normal[p * 3 + c] += l.normal[ch];
    }
    for (std::size_t c = 0; c < 3; ++c)
        sums_.seen[p * 3 + c] += l.seen[static_cast<int>(c)];
    const float set = luminance(l.set - l.seen), air = luminance(l.air);
    sums_.setSquares[p] += set * set;
    sums_.airSquares[p] += air * air;
    if (!sums_.open.empty() && l.matte)
        sums_.open[p] += (l.through.x + l.through.y + l.through.z) / 3.f;
    sums_.depth[p] = sums_.paths[p] == 0.f ? l.depth : std::min(sums_.depth[p], l.depth);
    if (l.airDepth >= 0.f) {
        sums_.airDepth[p] += l.airDepth;
        sums_.airMet[p] += 1.f;
    }
    sums_.paths[p] += 1.f;
}

bool PathIntegrator::passOver(const std::vector<bool>* tiles, const std::atomic<bool>* stop)
{
    constexpr int side = Accumulation::tile;
    const int across = (sums_.width + side - 1) / side, down = (sums_.height + side - 1) / side;
    std::atomic<bool> whole{true};
    parallelFor(static_cast<std::size_t>(across * down), [&](std::size_t t) {
        if (tiles && !(*tiles)[t])
            return;
        if (stop && *stop) {
            whole = false;
            return;
        }
        const int x0 = static_cast<int>(t) % across * side, y0 = static_cast<int>(t) / across * side;
        for (int y = y0; y < std::min(sums_.height, y0 + side); ++y)
            for (int x = x0; x < std::min(sums_.width, x0 + side); ++x)
                samplePixel(x, y);
    });
    ++rounds_;
    return whole;
}

bool PathIntegrator::pass(const std::atomic<bool>* stop) { return passOver(nullptr, stop); }

bool PathIntegrator::passWhere(float noise, const std::atomic<bool>* stop)
{
    // Errors are themselves estimates: they decide only after some paths, and what they spare is looked at again now
    // and then.
    if (sums_.meanPaths() < 16.0 || rounds_ % 8 == 0)
        return pass(stop);
    const std::vector<float> errors = sums_.tileErrors();
    std::vector<bool> tiles(errors.size());
    bool any = false;
    for (std::size_t t = 0; t < errors.size(); ++t) {
        tiles[t] = errors[t] > noise;
        any = any || tiles[t];
    }
    return passOver(any ? &tiles : nullptr, stop);
}

std::vector<float> PathIntegrator::picture() const
{
    std::vector<float> rgb(sums_.set.size());
    for (std::size_t i = 0; i < rgb.size(); ++i)
        rgb[i] = (sums_.set[i] + sums_.air[i] + (sums_.veils.empty() ? 0.f : sums_.veils[i])) /
                 std::max(1.f, sums_.paths[i / 3]);
    return rgb;
}
} // namespace hygros::render
