/// What lies on the ways to sun, sky and lamps.
#include "render/air_kernel.h"

#include "media/phase8.h"
#include "render/brdf.h"
#include "render/surface.h"

#include <algorithm>
#include <cmath>
#include <list>
#include <mutex>

namespace hygros::render {
using media::Medium;
using media::Ray8;
using media::Shape;

AirModel::AirModel(const shot::Shot& shot, BodyList bodies) : shot_(shot), bodies_(std::move(bodies))
{
    const float ground = shot::groundLevel(shot);
    for (const Medium& m : shot.media) {
        MediumData d{};
        d.medium = &m;
        d.noisyIndex = media::isPatterned(m) ? static_cast<int>(noisy_++) : -1;
        d.element = static_cast<int>(media_.size());
        for (const MediumData& before : media_)
            if (before.medium->id == m.id)
                d.element = before.element;
        d.bounded = m.shape != Shape::Thinning;
        d.flat = media::isFlat(m);
        d.clean = m.clean;
        grounds_ += m.ground ? 1 : 0;
        clean_ = clean_ || m.clean;
        d.bound = media::patternBound(m);
        d.clear = m.clear;
        d.sigma = m.sigmaT;
        d.base = m.base;
        d.top = m.top;
        d.turning = luminance(m.albedo) * (1.f - m.phase.meanCosine());
        d.lost = 1.f - luminance(m.albedo) * std::max(0.f, m.phase.forwardShare());
        if (m.shape == Shape::Thinning) {
            d.inverse = 1.f / m.thinning;
            d.whole = m.sigmaT * m.thinning;
            d.level = 0.02f * m.thinning;
        } else if (m.shape == Shape::Layer && d.flat) {
            // As in media/medium.cpp: a short ramp up, a long one down.
            d.up = std::max(1e-4f, 0.25f * m.falloff);
            d.down = std::max(1e-4f, m.falloff);
            d.inverseUp = 1.f / d.up;
            d.inverseDown = 1.f / d.down;
            d.whole = m.sigmaT * ((m.top - m.base - 0.5f * d.up) - 0.5f * d.down);
            d.level = 0.02f * d.up;
        } else {
            d.level = 1e-3f;
        }
        d.column = d.flat     ? d.above(f8(m.shape == Shape::Thinning ? m.base : std::max(m.base, ground)))[0]
                   : m.ground ? media::aboveHeight8(m, f8(0.f))[0] * m.sigmaT
                              : 0.f;
        media_.push_back(d);
    }
    kept_ = grounds_;
    for (const auto& body : bodies_) {
        standing_ = standing_ || !body->isLevel();
        kept_ += body->keptCount();
    }
    if (shot.sky)
        sun_ = shot.sky->sunDirection();
    // A sun at or under the horizon shines along the ground; a hundred metres of way for one of height is enough.
    sunScale_ = 1.f / std::max(sun_.y, media::LevelAir::lowestSun);
    solveLevels();
    for (const light::Lamp& lamp : shot.lamps)
        glows_.push_back(glowAround(lamp));
}

namespace {
inline F8 rampUp(F8 u)
{
    const F8 c = clamp8(u, 0.f, 1.f);
    return c * c * (3.f - 2.f * c);
}
} // namespace

namespace {
/// Mean reflectance of what lies below the air around the camera, seen straight from above: of the set, and of the
/// sky's ground where it has gaps.
float groundReflectance(const shot::Shot& shot)
{
    const float beyond = luminance(shot.sky->settings().groundAlbedo);
    if (!shot.scene || shot.scene->triangles() == 0)
        return beyond;
    // So far around it counts, by the light of thick air and of thin; in steps, so that small moves change nothing.
    constexpr float half = 150.f, step = 64.f;
    const auto even = [](float v) { return step * std::floor(v / step + 0.5f); };
    const Vec3 middle(even(shot.camera.position.x), 0.f, even(shot.camera.position.z));
    // Edits of the air leave the set as it is: the last few are remembered.
    struct Known {
        Identity scene;
        Vec3 middle;
        float share, found;
    };
    static std::mutex mutex;
    static std::list<Known> known;
    const Identity own(shot.scene);
    const std::lock_guard lock(mutex);
    auto at = std::find_if(known.begin(), known.end(),
                           [&](const Known& k) { return k.scene == own && k.middle == middle; });
    if (at == known.end()) {
        constexpr int side = 24;
        const Box3& box = shot.scene->bounds();
        float hits = 0.f, sum = 0.f;
        for (int i = 0; i < side * side; ++i) {
            const float u = (static_cast<float>(i % side) + 0.5f) / side - 0.5f,
                        v = (static_cast<float>(i / side) + 0.5f) / side - 0.5f;
            const Vec3 from(middle.x + 2.f * half * u, box.max.y + 1.f, middle.z + 2.f * half * v);
            geometry::Hit hit;
            if (!shot.scene->trace(from, Vec3(0.f, -1.f, 0.f), 0.f, box.max.y - box.min.y + 2.f, hit) || hit.matte)
                continue;
            const Brdf brdf(*hit.material, SurfaceSampler::baseColour(hit, 1e-3f, hit.t, 1.f));
            hits += 1.f;
            sum += std::min(1.f, luminance(brdf.diffuse + brdf.f0));
        }
        constexpr std::size_t most = 8;
        known.push_front({own, middle, hits / (side * side), hits > 0.f ? sum / hits : 0.f});
        if (known.size() > most)
            known.pop_back();
        at = known.begin();
    }
    return beyond + (at->found - beyond) * at->share;
}
} // namespace

/// The two kinds of air that differ most in how fast they turn light, and where the others lie between them.
void AirModel::solveLevels()
{
    std::vector<media::LevelAir> kinds;
    const float height = std::max(sun_.y, media::LevelAir::lowestSun),
                albedo = shot_.sky ? groundReflectance(shot_) : 0.f;
    for (const MediumData& d : media_)
        if (!d.clean)
            kinds.push_back({d.medium->phase, luminance(d.medium->albedo), height, albedo});
    std::vector<Body::Layer> layers;
    for (const auto& body : bodies_)
        body->layers(layers);
    for (const Body::Layer& layer : layers)
        kinds.push_back({layer.phase, layer.albedo, height, albedo});
    if (!shot_.sky || (media_.empty() && layers.empty()))
        return;
    std::array<float, media::LevelAir::skyHeights> ring = media::LevelAir::skySines();
    for (float& r : ring)
        r = shot_.sky->ring(r);
    if (kinds.empty()) // clean air and the ground alone
        kinds.push_back({media::rayleighPhase, 1.f, height, albedo});
    for (media::LevelAir& kind : kinds)
        kind.sky = ring;
    // What the air has spread has the colour of what comes down: from near the zenith most comes through.
    skyOnLevel_ = shot_.sky->onLevel();
    const float onLevel = std::max(1e-20f, luminance(skyOnLevel_));
    skyAround_ = skyOnLevel_ * (shot_.sky->meanRadiance() / onLevel);
    skyOnLevel_ *= shot_.setReach().sky;
    sunOnSets_ = shot_.setReach().sun;
    const auto losing = [](const media::LevelAir& a) { return 1.f - a.albedo * a.phase.meanCosine(); };
    const auto [low, high] = std::ranges::minmax_element(kinds, {}, losing);
    level_ = media::levelLight(*low, *high);
    const float from = losing(*low), range = losing(*high) - from;
    std::size_t next = 0;
    const auto mixOf = [&] { return range > 1e-6f ? (losing(kinds[next++]) - from) / range : 0.f; };
    for (MediumData& d : media_) {
        d.mix = d.clean ? 0.f : mixOf();
        skyApart_ = skyApart_ || !(d.flat || d.medium->ground || d.clean);
    }
    // Under clouds light comes down from them as from a sky: in the depth of the air it changes as the sky's does.
    float air = 0.f, ofAir = 0.f, ofClouds = 0.f, gaps = 1.f, column = 0.f;
    for (const MediumData& d : media_) {
        air += d.clean ? 0.f : d.column;
        ofAir += d.clean ? 0.f : d.column * d.mix;
    }
    for (const Body::Layer& layer : layers) {
        overcast_.clouds += layer.meanColumn;
        column += layer.evenColumn;
        ofClouds += layer.meanColumn * mixOf();
        gaps *= 1.f - layer.coverage;
    }
    if (overcast_.clouds <= 0.f)
        return;
    overcast_.covered = 1.f - std::pow(gaps, 1.4f); // seen from below aslant, gaps are narrower
    const media::LevelShares clear = level_->at(air, 0.f, ofAir / std::max(air, 1e-9f));
    media::LevelShares& by = overcast_.by;
    by = level_->at(air + column, 0.f, (ofAir + ofClouds * (column / overcast_.clouds)) / (air + column));
    for (float* v : {&by.turned, &by.broad, &by.around, &by.sky})
        *v /= std::max(clear.sky, 1e-6f);
    for (float* v : {&by.sunDown, &by.skyDown})
        *v /= std::max(clear.skyDown, 1e-6f);
}

F8 AirModel::MediumData::density(F8 y) const
{
    switch (medium->shape) {
    case Shape::Uniform: return select(y <= top, f8(sigma), f8(0.f));
    case Shape::Thinning: return sigma * exp8(min8((base - y) * inverse, f8(media::deepest)));
    default: return sigma * max8(f8(0.f), rampUp((y - base) * inverseUp) - rampUp((y - (top - down)) * inverseDown));
    }
}

F8 AirModel::columnTo(const MediumData& d, const Vec3& direction, float flatScale, F8 x, F8 y, F8 z) const
{
    if (d.flat)
        return d.above(y) * flatScale;
    const Ray8 ray{x, y, z, f8(direction.x), f8(direction.y), f8(direction.z)};
    const float share = d.medium->inside ? d.medium->inside->fill() : 1.f;
    return media::profileIntegral8(*d.medium, ray, f8(0.f), f8(media::outsideDistance)) * (d.sigma * share);
}

/// What is bounded on all sides is also lit through these: the depth that stands above a place in it, as if it were
/// level, when light comes as well by the shorter ways to its four sides. A wide slab keeps its own.
F8 AirModel::sidesOf(const MediumData& d, F8 x, F8 z, F8 up) const
{
    const media::Medium& m = *d.medium;
    Vec3 centre = m.centre, half = m.half;
    if (m.inside) {
        centre = m.inside->bounds().center();
        half = m.inside->bounds().size() * 0.5f;
    } else if (m.shape != Shape::Box && m.shape != Shape::Sphere && m.shape != Shape::Cylinder) {
        return up;
    }
    const F8 dx = x - centre.x, dz = z - centre.z, along = dx * m.cosYaw - dz * m.sinYaw,
             across = dx * m.sinYaw + dz * m.cosYaw;
    const auto ways = [](F8 at, float side) {
        const F8 least = f8(0.02f * side + 1e-4f);
        return 1.f / max8(side - at, least) + 1.f / max8(side + at, least);
    };
    const float share = m.inside ? std::max(0.05f, m.inside->fill()) : 1.f;
    const F8 open = (ways(along, half.x) + ways(across, half.z)) * (0.25f / std::max(1e-9f, d.sigma * share));
    return select(up > 0.f, 1.f / (1.f / max8(up, f8(1e-9f)) + open), up);
}

AirModel::Depths AirModel::depthsAbout(F8 x, F8 y, F8 z, const F8* modulation, float* kept) const
{
    Body::Kept keeps(kept);
    F8 above = f8(0.f), below = f8(0.f), toSun = f8(0.f), mixed = f8(0.f);
    for (const MediumData& d : media_) {
        if (d.clean)
            continue; // the sky's light has come through it already
        F8 up, slant, under = f8(0.f);
        if (d.flat) {
            up = d.above(y);
            slant = up * sunScale_;
            under = max8(d.column - up, f8(0.f));
        } else if (d.medium->ground) {
            // As if level around the point.
            const media::Medium& m = *d.medium;
            up = kept || any(y < m.ground->highest() + m.top)
                     ? media::aboveHeight8(m, y - keeps.value([&] { return m.ground->height8(x, z); })) * d.sigma
                     : f8(0.f);
            slant = up * sunScale_;
            under = max8(d.column - up, f8(0.f));
        } else {
            up = sidesOf(d, x, z, columnTo(d, Vec3(0, 1, 0), 1.f, x, y, z));
            slant = columnTo(d, sun_, sunScale_, x, y, z);
        }
        toSun += modulation && d.noisyIndex >= 0 ? slant * modulation[d.noisyIndex] : slant;
        above += up;
        below += under;
        mixed += (up + under) * d.mix;
    }
    const F8 airToSun = toSun;
    Body::Shade bodies;
    for (const auto& body : bodies_)
        body->shade(x, y, z, keeps, bodies);
    const F8 throughAir = airToSun + bodies.level;
    return {above,
            below,
            throughAir + bodies.beside,
            airToSun,
            mixed / max8(above + below, f8(1e-9f)),
            bodies.cover,
            throughAir,
            bodies.aside,
            bodies.within};
}

AirModel::LightWays AirModel::lightWays(F8 x, F8 y, F8 z, const F8* modulation, float* kept) const
{
    const Depths d = depthsAbout(x, y, z, modulation, kept);
    if (!level_)
        return {d.toSun, f8(0.f), f8(0.f), f8(0.f), f8(1.f), f8(0.f)};
    // What lies toward the sun, as if it lay level.
    const media::LevelLight::Shares8 s = level_->at8(d.airToSun * (1.f / sunScale_), d.below, d.mix);
    F8 sky = s.sky, straight = s.straight;
    LightWays out{d.toSun, s.turned, s.broad, s.around, straight, sky};
    if (skyApart_) {
        const media::LevelLight::Shares8 up = level_->at8(d.above, d.below, d.mix);
        sky = up.sky;
        straight = up.straight;
    }
    if (overcast_.clouds > 0.f) {
        // Light from all around comes from clouds and gaps together; from about the sun, half of it through what stands
        // before it.
        const F8 here = d.clouds * (1.f / overcast_.clouds), around = here * overcast_.covered;
        const F8 before = 0.5f * here * (overcast_.covered + 1.f - exp8(d.airToSun - d.throughAir));
        const auto share = [](F8& clear, F8 under, F8 of) { clear += (under - clear) * of; };
        share(out.turned, sky * overcast_.by.turned, before);
        share(out.broad, sky * overcast_.by.broad, around);
        share(out.around, sky * overcast_.by.around, around);
        sky = sky * (1.f + (overcast_.by.sky - 1.f) * around);
        straight = straight * (1.f - around);
    }
    if (standing_) {
        // Inside dark matter one half of all around is in it. What is seen lies near its edge, the other half is not.
        const F8 left = exp8(-d.aside), half = 0.5f + 0.5f * left, within = 0.5f + 0.5f * exp8(-d.within);
        out.turned = out.turned * left * within;
        out.broad = out.broad * half * within;
        out.around = out.around * half * within;
        straight = straight * within;
        sky = sky * within;
    }
    out.straight = straight;
    out.sky = max8(f8(0.f), sky - straight);
    return out;
}

AirModel::SurfaceWays AirModel::surfaceWays(F8 x, F8 y, F8 z, const F8 normal[3], const F8* modulation,
                                            float* kept) const
{
    const Depths d = depthsAbout(x, y, z, modulation, kept);
    SurfaceWays out{exp8(-d.toSun), f8(0.f), f8(1.f), f8(0.f)};
    if (!level_)
        return out;
    const float level = std::sqrt(std::max(1e-12f, sun_.x * sun_.x + sun_.z * sun_.z));
    const F8 toward = (normal[0] * sun_.x + normal[2] * sun_.z) * (1.f / level);
    media::LevelLight::Surfaces8 s = level_->surfaces8(d.airToSun * (1.f / sunScale_), d.below, d.mix, d.airToSun,
                                                       toward, normal[1]);
    out.diffuse = s.sun;
    // Turned by less than one can see it goes through what else stands in its way, as the rest does.
    out.sun += s.ahead * exp8(d.airToSun - d.toSun);
    if (skyApart_)
        s = level_->surfaces8(d.above, d.below, d.mix, d.airToSun, toward, normal[1]);
    out.sky = s.sky;
    out.around = s.around;
    if (overcast_.clouds > 0.f) {
        // Under cloud all of it comes down as from a sky.
        const F8 here = d.clouds * (1.f / overcast_.clouds), around = here * overcast_.covered;
        const F8 before = 0.5f * here * (overcast_.covered + 1.f - exp8(d.airToSun - d.throughAir));
        const F8 upward = 0.5f + 0.5f * normal[1], under = (s.sky * upward + s.around);
        out.diffuse += (under * (overcast_.by.sunDown * std::max(0.f, sun_.y)) - out.diffuse) * before;
        out.around += (under * overcast_.by.skyDown - out.around) * around;
        out.sky = out.sky * (1.f - around);
    }
    // What comes from broadly around is shaded by half.
    if (standing_)
        out.diffuse = out.diffuse * (0.5f + 0.5f * exp8(-d.aside));
    out.diffuse *= sunOnSets_;
    return out;
}

F8 AirModel::sunDepth(F8 x, F8 y, F8 z, const F8* modulation) const { return lightWays(x, y, z, modulation).sunDepth; }

media::DeckSun AirModel::deckSun() const
{
    media::DeckSun s{sun_, Vec3(0.f), Vec3(0.f), Vec3(0.f), Vec3(0.f), shot_.scatteringOrders};
    if (shot_.sky) {
        s.irradiance = shot_.sky->sunIrradiance();
        s.zenith = shot_.sky->irradiance(Vec3(0, 1, 0)) * (1.f / pi);
        // The ground lies in the deck's own shadow, as far as it covers the sky.
        const float lit = 1.f - overcast_.covered * (1.f - std::min(1.f, overcast_.by.skyDown));
        s.groundBySun = shot_.sky->groundBySun() * lit;
        s.ground = shot_.sky->groundRadiance() * lit - s.groundBySun;
    }
    return s;
}

F8 AirModel::sunPathModulation(std::size_t index, F8 x, F8 y, F8 z, F8 nearModulation, F8 u) const
{
    const Medium& m = *media_[index].medium;
    if (m.ground && m.noise.contrast <= 0.f)
        return f8(1.f); // the way is by what lies above the ground already
    F8 t0 = f8(0.f), t1 = f8(media::outsideDistance);
    const Ray8 ray{x, y, z, f8(sun_.x), f8(sun_.y), f8(sun_.z)};
    media::clip8(m, ray, t0, t1);
    if (m.inside || (m.ends.far != 1.f && !m.ground)) {
        // The mean of three places on the way; what columnTo() counts as filled is taken out again.
        F8 total = f8(0.f);
        for (int k = 0; k < 3; ++k) {
            const F8 t = t0 + (t1 - t0) * ((static_cast<float>(k) + u) * (1.f / 3.f));
            total += media::pattern8(m, ray.x(t), ray.y(t), ray.z(t));
        }
        return min8(total * (1.f / (3.f * (m.inside ? std::max(0.01f, m.inside->fill()) : 1.f))),
                    f8(media_[index].bound));
    }
    // Beyond a few cells the mean is known; sampling stays where structure still shows.
    t1 = min8(t1, t0 + 6.f * m.noise.scale);
    const F8 t = t0 + (t1 - t0) * u;
    if (m.ground)
        nearModulation = media::wisps8(m, x, y, z);
    return min8(0.35f * nearModulation + 0.65f * media::wisps8(m, ray.x(t), ray.y(t), ray.z(t)),
                f8(media_[index].bound));
}

float AirModel::depthBetween(const Vec3& a, const Vec3& b) const
{
    return depthTo(f8(b.x), f8(b.y), f8(b.z), f8(a.x), f8(a.y), f8(a.z))[0];
}

F8 AirModel::depthToLamp8(const light::Lamp& lamp, F8 x, F8 y, F8 z) const
{
    if (lamp.shadows != light::Lamp::Shadows::Full)
        return f8(0.f);
    F8 tx = f8(lamp.position.x), ty = f8(lamp.position.y), tz = f8(lamp.position.z);
    if (lamp.shape == light::Lamp::Shape::Parallel) {
        const Vec3& d = lamp.direction;
        const F8 ahead = (x - tx) * d.x + (y - ty) * d.y + (z - tz) * d.z;
        tx = x - ahead * d.x;
        ty = y - ahead * d.y;
        tz = z - ahead * d.z;
    }
    if (shot_.scatteringOrders <= 1 && lamp.ofBody < 0)
        return depthTo(tx, ty, tz, x, y, z);
    F8 depth = bodiesBetween(tx, ty, tz, x, y, z, &lamp);
    overWays(tx, ty, tz, x, y, z, [&](const MediumData& m, F8 way) { depth += way * m.lost; });
    return depth;
}

AirModel::Ways AirModel::waysTo(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z) const
{
    Ways out;
    overWays(tx, ty, tz, x, y, z, [&](const MediumData& m, F8 way) {
        out.depth += way;
        out.turned += way * m.turning;
        for (int c = 0; c < 3; ++c)
            out.absorbed[c] += way * (1.f - m.medium->albedo[c]);
    });
    return out;
}

F8 AirModel::depthTo(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z) const
{
    F8 depth = bodiesBetween(tx, ty, tz, x, y, z, nullptr);
    overWays(tx, ty, tz, x, y, z, [&](const MediumData&, F8 way) { depth += way; });
    return depth;
}

F8 AirModel::bodiesBetween(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z, const light::Lamp* from) const
{
    F8 depth = f8(0.f);
    if (!standing_)
        return depth;
    const F8 dx = tx - x, dy = ty - y, dz = tz - z, length = sqrt8(dx * dx + dy * dy + dz * dz),
             inv = 1.f / max8(length, f8(1e-6f));
    const Ray8 way{x, y, z, dx * inv, dy * inv, dz * inv};
    for (const auto& body : bodies_)
        depth += body->depthOn(way, length, from);
    return depth;
}

template <class Use> void AirModel::overWays(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z, const Use& use) const
{
    const F8 dx = tx - x, dy = ty - y, dz = tz - z, length = sqrt8(dx * dx + dy * dy + dz * dz),
             inv = 1.f / max8(length, f8(1e-6f));
    const Ray8 ray{x, y, z, dx * inv, dy * inv, dz * inv};
    for (const MediumData& m : media_) {
        if (m.clean)
            continue;
        F8 depth = f8(0.f);
        if (m.medium->ground) {
            // The way over the ground as straight from end to end.
            const media::Medium& g = *m.medium;
            const F8 from = y - g.ground->height8(x, z), to = ty - g.ground->height8(tx, tz), rise = to - from;
            const I8 level = abs8(rise) < 0.05f;
            depth = m.sigma * length *
                    select(level, media::atHeight8(g, from),
                           (media::aboveHeight8(g, from) - media::aboveHeight8(g, to)) / select(level, f8(1.f), rise));
        } else if (m.medium->inside) {
            for (int k = 0; k < 4; ++k) {
                const F8 t = length * (0.125f + 0.25f * static_cast<float>(k));
                depth += media::profile8(*m.medium, ray.x(t), ray.y(t), ray.z(t)) *
                         media::pattern8(*m.medium, ray.x(t), ray.y(t), ray.z(t)) * length * (0.25f * m.sigma);
            }
        } else {
            depth = media::profileIntegral8(*m.medium, ray, f8(0.f), length) * m.sigma;
        }
        use(m, depth);
    }
}
} // namespace hygros::render
