#include "media/open_water.h"

#include "base/random.h"
#include "geometry/rings.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace hygros::media {
namespace {
constexpr float leastRough = 0.1f, mostRough = 0.75f;
std::uint32_t bitsOf(float v)
{
    std::uint32_t b;
    std::memcpy(&b, &v, sizeof b);
    return b;
}
} // namespace

OpenWater::OpenWater(std::shared_ptr<const SwellField> field, const Settings& settings,
                     std::vector<std::shared_ptr<const WakePatch>> wakes)
    : field_(std::move(field)), wakes_(std::move(wakes)), top_(field_->highest()), bottom_(field_->lowest()),
      settings_(settings), deep_(settings.body.deep())
{
    for (const auto& w : wakes_) {
        wakesTop_ += w->highest();
        top_ += w->highest();
        bottom_ += w->lowest();
    }
    for (int i = 0; i < steps; ++i) {
        geometry::Material& m = smooth_[static_cast<std::size_t>(i)];
        m.baseColour = deep_;
        m.isWater = true;
        m.roughness = leastRough + (mostRough - leastRough) * static_cast<float>(i) / (steps - 1);
    }
    // What the waves throw together of the sun's light, where they are not flat.
    if (settings.toSun.y > 0.f && (field_->tiles() > 0 || !wakes_.empty()))
        caustics_ = std::make_unique<const Caustics>([this](const Vec2& p, float width) { return at(p, width); },
                                                     settings.level, Vec2(settings.eye.x, settings.eye.z),
                                                     settings.toSun);
    if (settings.crests.length2() > 0.f)
        trailWay_ = settings.crests.normalized();
    settleFoam();
}

float OpenWater::widthAt(const Vec3& place) const
{
    const Vec3 way = place - settings_.eye;
    const float far = std::max(0.1f, way.length()), across = far * settings_.pixelAngle,
                lean = std::clamp(std::abs(settings_.eye.y - settings_.level) / far, 1e-3f, 1.f);
    // Along the look a pixel sees more; of that some is taken by the looks that it takes.
    return across * std::sqrt(std::min(1.f / lean, 36.f));
}

SwellSample OpenWater::at(const Vec2& place, float width) const
{
    SwellSample s = field_->at(place.x, place.y, width);
    for (const auto& w : wakes_)
        if (w->holds(place.x, place.y)) {
            const SwellSample own = w->at(place.x, place.y, width);
            s = {s.height + own.height, s.dx + own.dx, s.dz + own.dz, s.slopeX + own.slopeX,
                 s.slopeZ + own.slopeZ, s.xx + own.xx, s.zz + own.zz, s.xz + own.xz};
        }
    return s;
}

SwellShape OpenWater::shapeAt(float x, float z, float scale, std::size_t tiles) const
{
    SwellShape s = field_->shapeAt(x, z, scale, tiles);
    for (const auto& w : wakes_)
        if (w->holds(x, z))
            s += w->shapeAt(x, z, scale);
    return s;
}

SwellSample OpenWater::standing(float x, float z, float width, Vec2& from) const
{
    const float scale = std::log2(std::max(width, 1e-6f));
    for (int i = 0; i < 16; ++i) {
        const SwellShape s = shapeAt(from.x, from.y, scale, field_->tiles());
        const Vec2 next(x - s[1], z - s[2]);
        const float off = (next - from).length();
        from = next;
        if (off < 0.02f * width + 1e-4f)
            break;
    }
    return at(from, width);
}

float OpenWater::heightAt(float x, float z, float width) const
{
    Vec2 from(x, z);
    return settings_.level + standing(x, z, width, from).height;
}

std::optional<OpenWater::Met> OpenWater::meets(const Vec3& o, const Vec3& d, float near, float far) const
{
    const float top = settings_.level + top_ + 1e-4f, bottom = settings_.level + bottom_ - 1e-4f;
    if ((o.y > top && d.y >= 0.f) || o.y < bottom)
        return std::nullopt;
    // Between the planes that it never leaves.
    float t = near, end = far;
    if (std::abs(d.y) > 1e-9f) {
        const float a = (top - o.y) / d.y, b = (bottom - o.y) / d.y;
        t = std::max(t, std::min(a, b));
        end = std::min(end, std::max(a, b));
    }
    if (!(end > t))
        return std::nullopt;
    // So far away that waves are lower than a pixel: a plane.
    if (const float flat = d.y < -1e-7f ? (settings_.level - o.y) / d.y : -1.f;
        flat > 0.f && (top - bottom) < 0.5f * flat * settings_.pixelAngle) {
        if (flat < near || flat > far)
            return std::nullopt;
        const Vec3 p = o + d * flat;
        return Met{flat, Vec2(p.x, p.z), at(Vec2(p.x, p.z), widthAt(p))};
    }
    // What is seen in a mirror need not be as sharp as what the eye sees.
    const float blunt = (o - settings_.eye).length2() < 0.25f ? 1.f : 4.f;
    float width = 0.f, scale = 0.f, known = -1.f;
    SwellShape s{};
    std::size_t all = field_->tiles();
    const auto aboveAt = [&](float along) {
        const Vec3 p = o + d * along;
        if (std::abs(along - known) > 0.05f * along) {
            width = widthAt(p) * blunt;
            scale = std::log2(width);
            known = along;
            // Waves far lower than a pixel is wide do not move what is seen.
            for (all = 1; all < field_->tiles() && field_->restOf(all) > 0.05f * width;)
                ++all;
            all = std::min(all, field_->tiles());
        }
        s = shapeAt(p.x - s[1], p.z - s[2], scale, all);
        return p.y - settings_.level - s[0];
    };
    // On by what lies between: hardly anywhere is it steeper than this on so short a way, and there it is found from
    // the other side.
    constexpr float steepest = 0.36f;
    const float level = std::sqrt(std::max(0.f, 1.f - d.y * d.y)), nears = std::max(0.02f, steepest * level - d.y);
    // What may come on top of the longest waves.
    const float more = wakesTop_ + (field_->tiles() > 0 ? field_->restOf(1) : 0.f) + 1e-4f;
    const auto leap = [&] {
        const Vec3 p = o + d * t;
        t += field_->clearOf(Vec3(p.x, p.y - settings_.level, p.z), d, more, end - t);
    };
    leap();
    if (t >= end)
        return std::nullopt;
    float above = aboveAt(t), before = t, aboveBefore = above;
    // One that begins on it stands a little off its rough shape: it is out, or goes in again.
    for (int i = 0; i < 4 && above <= 0.f; ++i) {
        t += 0.25f * width + 1e-3f - 0.5f * above;
        above = aboveAt(t);
    }
    if (above <= 0.f)
        return std::nullopt;
    float looked = t;
    for (int i = 0; i < 300; ++i) {
        before = t;
        aboveBefore = above;
        if (t >= end)
            return std::nullopt;
        t = std::min(end, t + std::max(above / nears, 0.25f * width + 2e-4f));
        // Now and then there is room to leap.
        if (above > more && t - looked > field_->nearest()) {
            leap();
            looked = t;
            if (t >= end)
                return std::nullopt;
        }
        above = aboveAt(t);
        if (above <= 0.f)
            break;
    }
    if (above > 0.f)
        return std::nullopt;
    for (int i = 0; i < 6 && t - before > 1e-5f * t; ++i) {
        const float u = aboveBefore / std::max(1e-12f, aboveBefore - above),
                    middle = before + (t - before) * std::clamp(u, 0.1f, 0.9f), own = aboveAt(middle);
        if (own > 0.f) {
            before = middle;
            aboveBefore = own;
        } else {
            t = middle;
            above = own;
        }
    }
    const Vec3 p = o + d * t;
    Vec2 from(p.x - s[1], p.z - s[2]);
    const SwellSample there = standing(p.x, p.z, width, from);
    return Met{t, from, there};
}

std::size_t OpenWater::bytes() const { return sizeof *this + (caustics_ ? caustics_->bytes() : 0); }

bool OpenWater::isUnder(const Vec3& place) const
{
    if (!holds(Vec2(place.x, place.z)) || place.y > settings_.level + top_)
        return false;
    return place.y < settings_.level + bottom_ || place.y < heightAt(place.x, place.z, 1e-3f);
}

bool OpenWater::trace(const Vec3& o, const Vec3& d, float near, float far, geometry::Hit& hit) const
{
    const auto met = meets(o, d, near, far);
    if (!met || met->t > far || met->t < near)
        return false;
    if (const Vec3 p = o + d * met->t; !holds(Vec2(p.x, p.z)))
        return false;
    fill(hit, *met, o, d, 1.f);
    return true;
}

bool OpenWater::traceUp(const Vec3& o, const Vec3& d, float near, float far, geometry::Hit& hit) const
{
    const float top = settings_.level + top_ + 1e-4f, bottom = settings_.level + bottom_ - 1e-4f;
    if (o.y > top || (o.y < bottom && d.y <= 0.f))
        return false;
    float t = near, end = far;
    if (std::abs(d.y) > 1e-9f) {
        const float a = (top - o.y) / d.y, b = (bottom - o.y) / d.y;
        t = std::max(t, std::min(a, b));
        end = std::min(end, std::max(a, b));
    }
    // One that runs level under water meets it nowhere near: the water has taken it before.
    end = std::min(end, t + 400.f);
    SwellShape s{};
    float width = 0.f;
    const auto under = [&](float along) {
        const Vec3 p = o + d * along;
        width = widthAt(p);
        s = shapeAt(p.x - s[1], p.z - s[2], std::log2(width), field_->tiles());
        return settings_.level + s[0] - p.y;
    };
    constexpr float steepest = 0.36f;
    const float nears = std::max(0.02f, steepest * std::sqrt(std::max(0.f, 1.f - d.y * d.y)) + d.y);
    float deep = under(t), before = t, deepBefore = deep;
    for (int i = 0; i < 300 && deep > 0.f; ++i) {
        if (t >= end)
            return false;
        before = t;
        deepBefore = deep;
        t = std::min(end, t + std::max(deep / nears, 0.25f * width + 2e-4f));
        deep = under(t);
    }
    if (deep > 0.f)
        return false;
    for (int i = 0; i < 6 && t - before > 1e-5f * t; ++i) {
        const float u = deepBefore / std::max(1e-12f, deepBefore - deep),
                    middle = before + (t - before) * std::clamp(u, 0.1f, 0.9f), own = under(middle);
        (own > 0.f ? before : t) = middle;
        (own > 0.f ? deepBefore : deep) = own;
    }
    const Vec3 p = o + d * t;
    if (t < near || t > far || !holds(Vec2(p.x, p.z)))
        return false;
    Vec2 from(p.x - s[1], p.z - s[2]);
    const SwellSample there = standing(p.x, p.z, width, from);
    fill(hit, {t, from, there}, o, d, -1.f);
    return true;
}

void OpenWater::fill(geometry::Hit& hit, const Met& met, const Vec3& o, const Vec3& d, float side) const
{
    const float t = met.t;
    const Vec2& from = met.from;
    const SwellSample& s = met.there;
    const Vec3 p = o + d * t;
    const float width = widthAt(p);
    hit = geometry::Hit();
    hit.t = t;
    hit.water = this;
    Vec3 n = s.normal() * side;
    // One that is bent past the viewer.
    if (const float facing = n.dot(d); facing > -0.01f)
        n = (n - d * (facing + 0.01f)).normalized();
    hit.normal = n;
    hit.geometricNormal = n;
    // Drops make rings; far ones are told of by none.
    const Vec2 rung = settings_.rings ? slopeOf(*settings_.rings, p) : Vec2(0.f);
    const float variance = std::max(1e-6f, field_->slopeVarianceUnder(width));
    // A small wave of those that are not in the shape: another at every place that is looked at.
    const std::uint32_t seed = hash32(bitsOf(p.x), bitsOf(p.z), settings_.seed);
    const float r = std::sqrt(-variance * std::log(std::max(1e-7f, 1.f - unitFloat(hash32(seed, 1u))))),
                around = 2.f * pi * unitFloat(hash32(seed, 2u));
    const float sx = -n.x / std::max(0.05f, std::abs(n.y)) * side + rung.x + r * std::cos(around),
                sz = -n.z / std::max(0.05f, std::abs(n.y)) * side + rung.y + r * std::sin(around);
    Vec3 facet = Vec3(-sx, 1.f, -sz).normalized() * side;
    if (const float facing = facet.dot(d); facing > -0.01f)
        facet = (facet - d * (facing + 0.01f)).normalized();
    hit.facet = facet;
    // GGX's width (roughness squared) for the same spread of slopes.
    const float rough = std::sqrt(std::sqrt(variance));
    const auto step = static_cast<std::size_t>(
        std::clamp((rough - leastRough) / (mostRough - leastRough) * (steps - 1) + 0.5f, 0.f, float(steps - 1)));
    hit.material = &smooth_[step];
    if (const geometry::Material* white = whiteOf(from, width, seed)) {
        hit.material = white;
        // It is rough by far more than the wave that it lies on, and light goes about in it.
        hit.normal = (n + Vec3(0.f, 2.f * side, 0.f)).normalized();
    }
}
} // namespace hygros::media
