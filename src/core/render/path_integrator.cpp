#include "render/path_integrator.h"

#include "base/parallel.h"
#include "media/phase.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::render {
using media::Medium;
using media::Shape;
using shot::Shot;

namespace {
constexpr int pieces = 16;

/// Upper bound of one medium's extinction on a piece of a ray.
float majorant(const Medium& m, const Vec3& o, const Vec3& d, float t0, float t1)
{
    const float noise = media::patternBound(m);
    if (m.shape == Shape::Thinning)
        return m.sigmaT * noise * std::exp(std::min(80.f, (m.base - std::min(o.y + d.y * t0, o.y + d.y * t1)) / m.thinning)) * 1.0001f;
    F8 a = f8(t0), b = f8(t1);
    media::clip8(m, media::ray8(o, d), a, b);
    return b[0] > a[0] ? m.sigmaT * noise : 0.f;
}

float extinction(const media::CloudDeck& deck, const Vec3& p)
{
    return deck.sigmaT * media::deckDensity8(deck, f8(p.x), f8(p.y), f8(p.z), f8(0.f))[0];
}

/// Roulette on what is left of light on its way, so that thick matter does not cost for ever; false where nothing is.
bool survives(float& t, Random& random)
{
    if (t >= 0.05f)
        return true;
    if (random.next() > t / 0.1f) {
        t = 0.f;
        return false;
    }
    t = 0.1f;
    return true;
}

/// Calls body(t0, t1, majorant) for pieces of growing length; stops when it returns false.
template <class Body> void overPieces(const Shot& shot, const Vec3& o, const Vec3& d, float length, const Body& body)
{
    float t0 = 0.f;
    const float a = 4.f, ratio = std::pow(1.f + length / a, 1.f / pieces);
    float width = (ratio - 1.f) * a;
    for (int i = 0; i < pieces; ++i) {
        const float t1 = i + 1 == pieces ? length : t0 + width;
        float total = 0.f;
        for (const Medium& m : shot.media)
            total += majorant(m, o, d, t0, t1);
        for (const media::CloudDeck& deck : shot.decks) {
            const float y0 = o.y + d.y * t0, y1 = o.y + d.y * t1;
            if (std::max(y0, y1) > deck.base && std::min(y0, y1) < deck.base + deck.thickness)
                total += deck.sigmaT;
        }
        if (total > 0.f && !body(t0, t1, total))
            return;
        t0 = t1;
        width *= ratio;
    }
}
} // namespace

namespace {
/// What glows is met by the paths themselves: no lamps stand for it.
std::shared_ptr<const Shot> withoutStandIns(std::shared_ptr<const Shot> shot)
{
    if (std::none_of(shot->lamps.begin(), shot->lamps.end(), [](const light::Lamp& l) { return l.ofVolume >= 0; }))
        return shot;
    auto own = std::make_shared<Shot>(*shot);
    std::erase_if(own->lamps, [](const light::Lamp& l) { return l.ofVolume >= 0; });
    return own;
}
} // namespace

PathIntegrator::PathIntegrator(std::shared_ptr<const Shot> shot, int width, int height)
    : shot_(withoutStandIns(std::move(shot))), width_(width), height_(height), sampler_(*shot_)
{
    const std::size_t n = static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
    sum_.assign(n * 3, 0.f);
    air_.assign(n * 3, 0.f);
    through_.assign(n, 0.f);
    depth_.assign(n, 0.f);
    if (shot_->sky)
        frameAround(shot_->sky->sunDirection(), sunTangent_, sunBitangent_);
}

float PathIntegrator::through(const Vec3& o, const Vec3& d, float length, Random& random) const
{
    float t = 1.f;
    // Volumes one after the other, each by its bricks' own bounds; what they let through multiplies.
    for (const media::Volume& v : shot_->volumes)
        media::overVolume(v, o, d, 0.f, length, [&](float t0, float t1, float bound) {
            for (float at = t0;;) {
                at -= std::log(1.f - random.next()) / bound;
                if (at >= t1)
                    return t > 0.f;
                t *= 1.f - media::extinction(v, o + d * at) / bound;
                if (!survives(t, random))
                    return false;
            }
        });
    if (t <= 0.f)
        return 0.f;
    overPieces(*shot_, o, d, length, [&](float t0, float t1, float bound) {
        float at = t0;
        for (;;) {
            at -= std::log(1.f - random.next()) / bound;
            if (at >= t1)
                return t > 0.f;
            float sigma = 0.f;
            for (const Medium& m : shot_->media)
                sigma += media::extinction(m, o + d * at);
            for (const media::CloudDeck& deck : shot_->decks)
                sigma += extinction(deck, o + d * at);
            t *= 1.f - sigma / bound;
            if (!survives(t, random))
                return false;
        }
    });
    return t;
}

bool PathIntegrator::collide(const Vec3& o, const Vec3& d, float limit, Random& random, float& t, std::size_t& medium) const
{
    bool found = false;
    overPieces(*shot_, o, d, limit, [&](float t0, float t1, float bound) {
        float at = t0;
        for (;;) {
            at -= std::log(1.f - random.next()) / bound;
            if (at >= t1)
                return true;
            float pick = random.next() * bound;
            const std::size_t plain = shot_->media.size();
            for (std::size_t k = 0; k < plain + shot_->decks.size(); ++k) {
                pick -= k < plain ? media::extinction(shot_->media[k], o + d * at) : extinction(shot_->decks[k - plain], o + d * at);
                if (pick < 0.f) {
                    t = at;
                    medium = k;
                    found = true;
                    return false;
                }
            }
        }
    });
    // Volumes compete: the nearest collision of all is the one that happens.
    float nearest = found ? t : limit;
    for (std::size_t k = 0; k < shot_->volumes.size(); ++k) {
        const media::Volume& v = shot_->volumes[k];
        media::overVolume(v, o, d, 0.f, nearest, [&](float t0, float t1, float bound) {
            for (float at = t0;;) {
                at -= std::log(1.f - random.next()) / bound;
                if (at >= t1)
                    return true;
                if (random.next() * bound < media::extinction(v, o + d * at)) {
                    t = nearest = at;
                    medium = shot_->media.size() + shot_->decks.size() + k;
                    found = true;
                    return false;
                }
            }
        });
    }
    return found;
}

const media::Phase& PathIntegrator::phaseOf(std::size_t medium) const
{
    const std::size_t media = shot_->media.size(), decks = media + shot_->decks.size();
    return medium < media ? shot_->media[medium].phase : medium < decks ? shot_->decks[medium - media].phase : shot_->volumes[medium - decks].phase;
}

Vec3 PathIntegrator::albedoOf(std::size_t medium, const Vec3& p) const
{
    const std::size_t media = shot_->media.size(), decks = media + shot_->decks.size();
    return medium < media ? shot_->media[medium].albedo : medium < decks ? shot_->decks[medium - media].albedo : media::albedoAt(shot_->volumes[medium - decks], p);
}

float PathIntegrator::lampReach(const light::Lamp& lamp, std::size_t medium) const
{
    const std::size_t media = shot_->media.size(), decks = media + shot_->decks.size();
    if (medium < media)
        return lamp.reachOfMedium(medium);
    if (medium < decks)
        return medium - media < lamp.deckReach.size() ? lamp.deckReach[medium - media] : 1.f;
    return lamp.reachOfVolume(medium - decks);
}

Vec3 PathIntegrator::glowAlong(const Vec3& o, const Vec3& d, float length, Random& random) const
{
    Vec3 total(0.f);
    for (const media::Volume& v : shot_->volumes) {
        if (!v.glow.heat)
            continue;
        // What is given off up to the collision, from one place in every brick that is crossed: the flight's own chance of getting there is
        // what is left of it.
        const Vec3 start = o * v.glow.toHeat;
        Vec3 way;
        v.glow.toHeat.multDirMatrix(d, way);
        v.glow.heat->overBricks(start, way, 0.f, length, [&](float t0, float t1, float) {
            const Vec3 p = o + d * (t0 + (t1 - t0) * random.next());
            F8 l[3];
            media::glow8(v, f8(p.x), f8(p.y), f8(p.z), l);
            total += Vec3(l[0][0], l[1][0], l[2][0]) * (t1 - t0);
            return true;
        });
    }
    return total;
}

Vec3 PathIntegrator::environment(const Vec3& d, bool withDisk) const
{
    if (uniform_ >= 0.f)
        return Vec3(uniform_);
    if (!shot_->sky)
        return Vec3(0.f);
    return shot_->sky->radiance(d) + (withDisk ? shot_->sky->diskRadiance(d) : Vec3(0.f));
}

Vec3 PathIntegrator::lightAt(const Vec3& p, const Vec3& d, std::size_t medium, Random& random) const
{
    const media::Phase& phase = phaseOf(medium);
    Vec3 l(0.f);
    if (shot_->sky && uniform_ < 0.f) {
        const Vec3 sun = towardSun(*shot_->sky, sunTangent_, sunBitangent_, random.next(), random.next());
        if (!shot_->shadowsOfSun().occluded(p, sun, 1e6f))
            l += shot_->sky->sunIrradiance() *
                 (phase(sun.dot(d)) * through(p, sun, media::outsideDistance, random));
    }
    for (const light::Lamp& lamp : shot_->lamps) {
        const float reach = lamp.toAir * lampReach(lamp, medium);
        light::LampSample s;
        if (reach <= 0.f || !light::sampleLamp(lamp, p, random.next(), random.next(), s))
            continue;
        if (lamp.shadows != light::Lamp::Shadows::None && shot_->shadowsOf(lamp).occluded(p, s.way, s.distance))
            continue;
        l += lamp.intensity * s.irradiance * (reach * phase(s.way.dot(d)) * (lamp.shadows == light::Lamp::Shadows::Full ? through(p, s.way, s.distance, random) : 1.f));
    }
    return l;
}

Vec3 PathIntegrator::radiance(Vec3 o, Vec3 d, float pixelAngle, const PixelRandom& surfaces, Random& random, Vec3& fromAir,
                              float& transmittance, float& depth) const
{
    Vec3 total(0.f), weight(1.f);
    std::vector<Vec3> lamps(shot_->lamps.size()), mirrorLamps(lamps.size());
    fromAir = Vec3(0.f);
    bool firstInAir = false, seesDisk = true;
    PixelRandom r = surfaces;
    for (int bounce = 0; bounce < 20000; ++bounce) {
        const SurfaceSample s = sampler_.sample(o, d, pixelAngle, r, lamps, mirrorLamps);
        const bool background = s.normal.length2() == 0.f;
        float t = 0.f;
        std::size_t medium = 0;
        if (bounce == 0)
            depth = s.t;
        const bool inAir = collide(o, d, background ? media::outsideDistance : s.t, random, t, medium);
        if (bounce == 0) {
            transmittance = inAir ? 0.f : 1.f;
            firstInAir = inAir;
        }
        Vec3 gained = weight * glowAlong(o, d, inAir ? t : background ? media::outsideDistance : s.t, random);
        if (inAir) {
            const media::Phase& phase = phaseOf(medium);
            o += d * t;
            const Vec3 albedo = albedoOf(medium, o);
            weight *= albedo;
            gained += weight * lightAt(o, d, medium, random);
            const float c = media::samplePhase(phase, [&] { return random.next(); }), a = 2.f * pi * random.next();
            Vec3 u, v;
            frameAround(d, u, v);
            const float sine = std::sqrt(std::max(0.f, 1.f - c * c));
            d = (u * (sine * std::cos(a)) + v * (sine * std::sin(a)) + d * c).normalized();
            seesDisk = false;
        } else if (background) {
            gained += weight * environment(d, seesDisk);
        } else {
            const Vec3 p = o + d * s.t;
            gained += weight * s.light.emitted;
            if (shot_->sky && maxComponent(s.light.sun) > 0.f)
                gained += weight * s.light.sun * shot_->sky->sunIrradiance() *
                          through(p, shot_->sky->sunDirection(), media::outsideDistance, random);
            for (std::size_t i = 0; i < lamps.size(); ++i)
                if (maxComponent(lamps[i]) > 0.f) {
                    const light::Lamp& lamp = shot_->lamps[i];
                    const Vec3 to = lamp.shape == light::Lamp::Shape::Parallel ? lamp.direction * -std::max(0.f, (p - lamp.position).dot(lamp.direction)) : lamp.position - p;
                    gained += weight * lamps[i] * lamp.intensity * (lamp.shadows == light::Lamp::Shadows::Full ? through(p, to.normalized(), to.length(), random) : 1.f);
                }
            const Vec3 start = p + s.normal * (1e-3f + 1e-5f * s.t);
            const float mirrored = s.mirror ? std::clamp(luminance(s.mirror->reflectance), 0.05f, 0.95f) : 0.f;
            if (random.next() < mirrored) {
                weight *= s.mirror->reflectance / mirrored;
                o = s.mirror->point;
                d = s.mirror->direction;
            } else {
                weight *= s.diffuse / (1.f - mirrored);
                o = start;
                d = cosineDirection(s.normal, random.next(), random.next());
            }
            seesDisk = false;
        }
        total += gained;
        if (firstInAir)
            fromAir += gained;
        if (!inAir && background)
            break;
        // Every bounce draws its surface randoms elsewhere in the tile.
        r.x += 29;
        r.y += 13;
        if (bounce > 7) {
            const float go = std::min(0.99f, maxComponent(weight));
            if (random.next() >= go)
                break;
            weight /= go;
        }
    }
    return total;
}

void PathIntegrator::pass(int pass)
{
    const geometry::View view(shot_->camera, width_, height_);
    parallelFor(static_cast<std::size_t>(height_), [&](std::size_t row) {
        for (int x = 0; x < width_; ++x) {
            const int y = static_cast<int>(row);
            const std::size_t p = row * static_cast<std::size_t>(width_) + static_cast<std::size_t>(x);
            Random random(hash32(static_cast<std::uint32_t>(p), static_cast<std::uint32_t>(pass)));
            const PixelRandom surfaces{x, y, static_cast<std::uint32_t>(pass)};
            Vec3 air;
            float t = 0.f, depth = 0.f;
            const Vec3 l = radiance(view.position(), view.direction(static_cast<float>(x) + random.next(), static_cast<float>(y) + random.next()),
                                    view.pixelAngle(), surfaces, random, air, t, depth);
            for (std::size_t c = 0; c < 3; ++c) {
                sum_[p * 3 + c] += l[static_cast<int>(c)];
                air_[p * 3 + c] += air[static_cast<int>(c)];
            }
            through_[p] += t;
            depth_[p] = pass == 0 ? depth : std::min(depth_[p], depth);
        }
    });
    passes_ = pass + 1;
}

Layers PathIntegrator::layers() const
{
    Layers out;
    out.width = width_;
    out.height = height_;
    out.samples = passes_;
    const std::size_t n = through_.size();
    out.plate.resize(n * 3);
    out.transmittance.resize(n * 3);
    out.air.resize(n * 3);
    out.depth = depth_;
    const float inv = 1.f / static_cast<float>(std::max(1, passes_));
    for (std::size_t p = 0; p < n; ++p)
        for (std::size_t c = 0; c < 3; ++c) {
            const float t = through_[p] * inv, air = air_[p * 3 + c] * inv, behind = sum_[p * 3 + c] * inv - air;
            out.air[p * 3 + c] = air;
            out.transmittance[p * 3 + c] = t;
            out.plate[p * 3 + c] = t > 0.f ? behind / t : 0.f;
        }
    out.airBy.push_back({"all", out.air});
    return out;
}
} // namespace hygros::render
