#include "render/streaks.h"

#include "base/parallel.h"
#include "base/random.h"
#include "geometry/camera.h"
#include "geometry/leaf_area.h"
#include "media/falling_grid.h"
#include "media/splash.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

namespace hygros::render {
namespace {
constexpr float nearest = 0.3f;       ///< nothing is drawn nearer to the eye [m]
constexpr float fadesFrom = 0.85f;    ///< of its reach, as far past it as before
constexpr float splashesTo = 6.f;     ///< splashes farther from the eye are too small [m]
constexpr float leapsTo = 25.f;       ///< and what leaps where it lands is larger [m]
constexpr std::size_t most = 400'000; ///< drops in one picture; beyond them none is drawn
constexpr std::size_t atOnce = 4096;  ///< simulated ones that are looked at as one piece of work

class Drawing {
public:
    Drawing(const shot::Shot& shot, int width, int height)
        : shot_(shot), view_(shot.camera, width, height), width_(width), height_(height),
          tangentX_(std::max(view_.middle().x, static_cast<float>(width) - view_.middle().x) * view_.pixelAngle()),
          tangentY_(std::max(view_.middle().y, static_cast<float>(height) - view_.middle().y) * view_.pixelAngle())
    {
    }

    std::vector<Streak> streaks() const
    {
        struct Part {
            const media::Falling* falling;
            std::size_t ofClass, moment;
            Vec3 low, high;
            std::size_t first = 0, count = 0; ///< of those that were simulated
        };
        std::vector<Part> parts;
        for (const media::Falling& f : shot_.falling)
            for (std::size_t c = 0; c < f.classes.size(); ++c)
                for (std::size_t m = 0; m < f.moments.size(); ++m)
                    if (f.classes[c].reach > nearest && f.moments[m].share > 0.f)
                        eachBox(f.classes[c].reach * (2.f - fadesFrom), gridFor(f, c, m),
                                [&](const Vec3& low, const Vec3& high) {
                                    parts.push_back({&f, c, m, low, high});
                                });
        const std::size_t whole = parts.size();
        for (const media::Falling& f : shot_.falling)
            for (std::size_t c = 0; c < f.classes.size() && (f.splashes > 0.f || f.bounce > 0.f); ++c)
                for (std::size_t m = 0; m < f.moments.size(); ++m)
                    if (f.classes[c].diameter >= media::splashSmallest && f.moments[m].share > 0.f) {
                        // By columns: what landed is looked for below where it can be seen, once.
                        std::map<std::pair<float, float>, Part> columns;
                        eachBox(
                            f.bounce > 0.f ? std::min(leapsTo, f.classes[c].reach) : splashesTo, std::nullopt,
                            [&](const Vec3& low, const Vec3& high) {
                                const auto [at, isNew] = columns.try_emplace({low.x, low.z}, Part{&f, c, m, low, high});
                                at->second.low.y = std::min(at->second.low.y, low.y);
                                at->second.high.y = std::max(at->second.high.y, high.y);
                            });
                        for (const auto& column : columns)
                            parts.push_back(column.second);
                    }
        const std::size_t landing = parts.size();
        const float far = std::numeric_limits<float>::infinity();
        for (const media::Falling& f : shot_.falling)
            for (std::size_t i = 0; f.all && i < f.all->size(); i += atOnce)
                parts.push_back({&f, 0, 0, Vec3(-far), Vec3(far), i, std::min(atOnce, f.all->size() - i)});
        std::vector<std::vector<Streak>> found(parts.size());
        parallelFor(parts.size(), [&](std::size_t i) {
            const Part& p = parts[i];
            std::vector<media::Drop> drops;
            media::Falling::Class of;
            if (p.count == 0)
                of = p.falling->classes[p.ofClass];
            else
                of.reach = far;
            if (p.count > 0)
                thinned(*p.falling, p.first, p.count, drops);
            else if (i < whole)
                media::dropsIn(*p.falling, p.ofClass, p.moment, p.low, p.high, drops);
            else {
                splashesIn(*p.falling, p.ofClass, p.moment, p.low, p.high, drops);
                of.reach = p.falling->bounce > 0.f ? leapsTo : splashesTo;
            }
            // Rays of eight at once: to the eye, against its way, to the sun.
            std::array<media::Drop, lanes> some;
            some.fill({Vec3(0.f), Vec3(0.f, -1.f, 0.f)});
            std::array<Streak, lanes> as;
            // A box is small beside what the air changes over.
            const float sun = p.count > 0 ? (drops.empty() ? 0.f : sunAt(drops[drops.size() / 2].at))
                                          : sunAt((p.low + p.high) * 0.5f);
            unsigned count = 0;
            const auto see = [&] {
                const unsigned open = openTo(some, count, i < whole && i < landing);
                const unsigned sunlit = open ? sunlitOf(some, open) : 0;
                for (unsigned k = 0; k < count; ++k)
                    if (open >> k & 1u) {
                        const Vec3 way = some[k].at - view_.position();
                        const float lit = sunlit >> k & 1u ? sun : 0.f;
                        as[k].light = as[k].isOpaque ? matteLight(some[k], way / way.length(), *p.falling, lit)
                                                     : lightAt(some[k], way / way.length(), p.falling->form, lit);
                        found[i].push_back(as[k]);
                    }
                count = 0;
            };
            for (const media::Drop& d : drops)
                if (const auto s = streakOf(*p.falling, of, d)) {
                    some[count] = d;
                    as[count] = *s;
                    if (++count == lanes)
                        see();
                }
            see();
        });
        std::vector<Streak> all;
        for (const auto& some : found)
            if (all.size() + some.size() <= most)
                all.insert(all.end(), some.begin(), some.end());
        return all;
    }

    std::optional<SeenDrop> at(const Vec2& place, float within) const
    {
        std::optional<SeenDrop> best;
        float nearestOff = within;
        const Vec3 eye = view_.position(), along = view_.direction(place.x, place.y);
        const auto look = [&](const media::Falling& f, const media::Falling::Class& c, const media::Drop& d) {
            const auto s = streakOf(f, c, d);
            if (!s)
                return;
            const Vec2 way = s->to - s->from, to = place - s->from;
            const float length2 = way.x * way.x + way.y * way.y,
                        u = length2 > 0.f ? std::clamp((to.x * way.x + to.y * way.y) / length2, 0.f, 1.f) : 0.f,
                        off = std::max(0.f, (to - way * u).length() - s->radius);
            const Vec3 sight = d.at - eye;
            const float distance = sight.length();
            // Of those that are as near the one in front.
            if (off > nearestOff || (best && off == nearestOff && distance >= best->distance) ||
                shot_.scene->occluded(eye, sight / distance, distance * 0.999f))
                return;
            nearestOff = off;
            best = SeenDrop{f.id, f.form, d, distance};
        };
        for (const media::Falling& f : shot_.falling) {
            for (std::size_t c = 0; c < f.classes.size(); ++c)
                for (std::size_t m = 0; m < f.moments.size(); ++m) {
                    const media::Falling::Class& of = f.classes[c];
                    // Boxes along the line of sight, as wide as what may be seen there.
                    const float step = 0.5f, streak = (f.wind.length() + of.speed) * f.blur;
                    std::vector<media::Drop> drops;
                    for (float t = nearest; t < of.reach * (2.f - fadesFrom); t += step) {
                        const Vec3 middle = eye + along * (t + 0.5f * step);
                        const float wide = 0.5f * step + (t + step) * view_.pixelAngle() * within + streak;
                        drops.clear();
                        media::dropsIn(f, c, m, middle - Vec3(wide), middle + Vec3(wide), drops);
                        for (const media::Drop& d : drops)
                            look(f, of, d);
                    }
                }
            media::Falling::Class endless;
            endless.reach = std::numeric_limits<float>::infinity();
            for (std::size_t i = 0; f.all && i < f.all->size(); ++i)
                look(f, endless, (*f.all)[i]);
        }
        return best;
    }

private:
    /// Things that swing stand beside their cells.
    static std::optional<media::FallingGrid> gridFor(const media::Falling& f, std::size_t c, std::size_t m)
    {
        return f.flutter > 0.f ? std::nullopt : std::optional(media::gridOf(f, c, m));
    }
    /// Those that were simulated, so many of them from one on. What is far smaller than a pixel stands for others of
    /// its size: the smaller, the fewer of them are drawn, and these the larger, so that together they cover as much.
    void thinned(const media::Falling& f, std::size_t first, std::size_t count, std::vector<media::Drop>& out) const
    {
        constexpr float least = 0.12f; // radius from which on each is drawn [pixels]
        for (std::size_t i = first; i < first + count; ++i) {
            media::Drop d = (*f.all)[i];
            const float depth = (d.at - view_.position()).dot(view_.forward());
            if (!(depth > nearest))
                continue;
            const float own = 0.5f * d.diameter / (depth * view_.pixelAngle());
            if (own < least) {
                const float kept = std::max(1e-4f, own * own / (least * least));
                if (unitFloat(hash32(d.own, 5u)) >= kept)
                    continue;
                d.diameter /= std::sqrt(kept);
            }
            out.push_back(d);
        }
    }
    /// Boxes of the world that together hold what is in sight as far as `reach`.
    /// On whole cells of a grid where there is one.
    template <class Use> void eachBox(float reach, const std::optional<media::FallingGrid>& grid, const Use& use) const
    {
        const Vec3 eye = view_.position();
        Vec3 low = eye, high = eye;
        for (int c = 0; c < 4; ++c) {
            const Vec3 corner = eye + (view_.forward() + view_.right() * (c & 1 ? tangentX_ : -tangentX_) +
                                       view_.up() * (c & 2 ? tangentY_ : -tangentY_)) *
                                          reach;
            for (int a = 0; a < 3; ++a) {
                low[a] = std::min(low[a], corner[a]);
                high[a] = std::max(high[a], corner[a]);
            }
        }
        for (int a = 0; a < 3; ++a) {
            low[a] = std::max(low[a], eye[a] - reach);
            high[a] = std::min(high[a], eye[a] + reach);
        }
        float side = std::max(0.8f, reach / 7.f);
        if (grid) {
            side = std::ceil(side / grid->side - 0.01f) * grid->side;
            for (int a = 0; a < 3; ++a)
                low[a] = grid->rest[a] + std::floor((low[a] - grid->rest[a]) / grid->side) * grid->side;
        }
        const float round = 0.5f * std::sqrt(3.f) * side;
        const auto count = [&](int a) { return std::max(1, static_cast<int>(std::ceil((high[a] - low[a]) / side))); };
        for (int z = 0; z < count(2); ++z)
            for (int y = 0; y < count(1); ++y)
                for (int x = 0; x < count(0); ++x) {
                    const Vec3 corner = low +
                                        Vec3(static_cast<float>(x), static_cast<float>(y), static_cast<float>(z)) *
                                            side;
                    const Vec3 v = corner + Vec3(0.5f * side) - eye;
                    const float depth = v.dot(view_.forward());
                    if (v.length() - round > reach || depth < -round ||
                        std::abs(v.dot(view_.right())) >
                            depth * tangentX_ + round * std::sqrt(1.f + tangentX_ * tangentX_) ||
                        std::abs(v.dot(view_.up())) >
                            depth * tangentY_ + round * std::sqrt(1.f + tangentY_ * tangentY_))
                        continue;
                    use(corner, corner + Vec3(side));
                }
    }

    /// What bursts up from drops of a class that landed in a box of late.
    /// Not made part of the loop that calls it: that of the falling drops was 15 % slower with it inside.
    [[gnu::noinline]] void splashesIn(const media::Falling& f, std::size_t ofClass, std::size_t moment, const Vec3& low,
                                      const Vec3& high, std::vector<media::Drop>& out) const
    {
        constexpr float roof = 60.f;
        const media::Falling::Class& c = f.classes[ofClass];
        const Vec3 velocity(f.wind.x, -c.speed, f.wind.z);
        const float speed = velocity.length();
        const float lasts = f.bounce > 0.f ? 1.1f * media::leapsLast(speed, f.bounce) : media::splashLasts;
        const float back = speed * lasts + 0.1f;
        // In strong wind by pieces of that time: what lies on slanting ways is not a box.
        const int pieces = std::clamp(static_cast<int>(std::ceil(f.wind.length() * lasts / 2.f)), 1, 32);
        std::vector<media::Drop> drops;
        for (int k = 0; k < pieces; ++k) {
            const float begin = lasts * static_cast<float>(k) / static_cast<float>(pieces),
                        end = lasts * static_cast<float>(k + 1) / static_cast<float>(pieces);
            // By now they would be below where they landed.
            Vec3 from = low, to = high;
            for (int a = 0; a < 3; ++a) {
                from[a] += std::min(velocity[a] * begin, velocity[a] * end);
                to[a] += std::max(velocity[a] * begin, velocity[a] * end);
            }
            drops.clear();
            media::dropsIn(f, ofClass, moment, from, to, drops);
            for (const media::Drop& d : drops) {
                geometry::Hit hit;
                const Vec3 along = velocity / speed, o = d.at - along * back;
                if (!shot_.scene->trace(o, along, 0.f, back, hit))
                    continue;
                const float age = (back - hit.t) / speed;
                const Vec3 place = o + along * hit.t;
                bool within = age >= begin && age < end;
                for (int a = 0; a < 3; ++a)
                    within = within && place[a] >= low[a] && place[a] < high[a];
                if (!within || shot_.scene->occluded(o, -along, roof))
                    continue;
                // Where it landed tells it from all others, from picture to picture.
                const auto number = [](float v) {
                    return static_cast<std::uint32_t>(static_cast<std::int32_t>(std::floor(v * 125.f)));
                };
                if (f.bounce > 0.f) {
                    const std::uint32_t seed = hash32(number(place.x), number(place.z), f.seed);
                    media::Drop leaping{Vec3(0.f), Vec3(0.f)};
                    if (media::leapOf(place + hit.geometricNormal * (0.5f * d.diameter), hit.geometricNormal, velocity,
                                      d.diameter, age, f.bounce, seed, leaping)) {
                        leaping.own = seed;
                        out.push_back(leaping);
                    }
                    continue;
                }
                media::splashOf(place + hit.geometricNormal * 1e-3f, hit.geometricNormal, d.diameter, c.speed, age,
                                f.splashes, hash32(number(place.x), number(place.z), f.seed), out);
            }
        }
    }

    std::optional<Streak> streakOf(const media::Falling& f, const media::Falling::Class& c, const media::Drop& d) const
    {
        const Vec3 eye = view_.position(), way = d.at - eye;
        const float distance = way.length(), end = 2.f - fadesFrom;
        if (distance < nearest || distance > c.reach * end)
            return std::nullopt;
        const float share = d.share *
                            (std::isfinite(c.reach)
                                 ? std::clamp((end - distance / c.reach) / (2.f * (1.f - fadesFrom)), 0.f, 1.f)
                                 : 1.f);
        const Vec3 half = d.velocity * (0.5f * f.blur);
        Streak s;
        Vec2 middle;
        float depth = 0.f, unused = 0.f;
        if (!view_.project(d.at, middle, depth) || !view_.project(d.at - half, s.from, unused) ||
            !view_.project(d.at + half, s.to, unused))
            return std::nullopt;
        const float own = 0.5f * d.diameter / (depth * view_.pixelAngle()), blur = view_.blurRadius(depth),
                    margin = own + blur + (s.to - s.from).length() + 1.f;
        if (middle.x < -margin || middle.y < -margin || middle.x > static_cast<float>(width_) + margin ||
            middle.y > static_cast<float>(height_) + margin)
            return std::nullopt;
        s.radius = std::max(0.6f, std::hypot(own, blur));
        s.cover = 2.f * pi * own * own * share;
        s.isClear = f.form == media::Falling::Form::Drops;
        if (f.form == media::Falling::Form::Balls || f.form == media::Falling::Form::Spray) {
            s.isOpaque = true;
            s.cover = pi * own * own * share;
        }
        if (f.form == media::Falling::Form::Leaves) {
            constexpr float outlineFrom = 1.2f; // half its length; smaller ones are a dot [pixels]
            const LeafFrame leaf = frameOf(d);
            s.isOpaque = true;
            s.shape = f.shape;
            s.cover = share * geometry::leafArea(f.shape) * own * own * 4.f * std::abs(leaf.normal.dot(way / distance));
            if (own > outlineFrom && blur < own) {
                Vec2 tip, side;
                if (!view_.project(d.at + leaf.along * (0.5f * d.diameter), tip, unused) ||
                    !view_.project(d.at + leaf.across * (0.5f * d.diameter), side, unused))
                    return std::nullopt;
                s.along = tip - middle;
                s.across = side - middle;
                s.radius = own + 1.f;
                s.cover = share;
            }
        }
        return s;
    }

    template <class Way>
    static geometry::ShadowRays8 raysOf(const std::array<media::Drop, lanes>& drops, const Way& way)
    {
        geometry::ShadowRays8 rays;
        for (std::size_t k = 0; k < lanes; ++k) {
            Vec3 from, d;
            float reach = 0.f;
            way(drops[k], from, d, reach);
            rays.ox[k] = from.x;
            rays.oy[k] = from.y;
            rays.oz[k] = from.z;
            rays.dx[k] = d.x;
            rays.dy[k] = d.y;
            rays.dz[k] = d.z;
            rays.reach[k] = reach;
        }
        return rays;
    }
    /// Which of the first of them are neither behind something nor, where they come from above, under a roof.
    unsigned openTo(const std::array<media::Drop, lanes>& drops, unsigned count, bool fromAbove) const
    {
        constexpr float roof = 60.f;
        unsigned open = (1u << count) - 1u;
        open &= ~shot_.scene->occluded8(raysOf(drops,
                                               [&](const media::Drop& d, Vec3& from, Vec3& along, float& reach) {
                                                   from = view_.position();
                                                   along = d.at - from;
                                                   const float length = std::max(1e-6f, along.length());
                                                   along /= length;
                                                   reach = length * 0.9999f;
                                               }),
                                        open);
        if (!fromAbove)
            return open;
        open &= ~shot_.scene->occluded8(raysOf(drops,
                                               [&](const media::Drop& d, Vec3& from, Vec3& along, float& reach) {
                                                   from = d.at;
                                                   along = -d.velocity / std::max(1e-6f, d.velocity.length());
                                                   reach = roof;
                                               }),
                                        open);
        return open;
    }
    /// Which of them the sun reaches, the air left out.
    unsigned sunlitOf(const std::array<media::Drop, lanes>& drops, unsigned which) const
    {
        constexpr float far = 3000.f;
        if (!shot_.sky || !shot_.sky->hasSun() || !shot_.decks.empty())
            return 0;
        return which &
               ~shot_.shadowsOfSun().occluded8(raysOf(drops,
                                                      [&](const media::Drop& d, Vec3& from, Vec3& along, float& reach) {
                                                          from = d.at;
                                                          along = shot_.sky->sunDirection();
                                                          reach = far;
                                                      }),
                                               which);
    }

    /// What the air leaves of the sun.
    float sunAt(const Vec3& place) const
    {
        float depth = 0.f;
        if (shot_.sky && shot_.sky->hasSun())
            for (const media::Medium& m : shot_.media)
                if (!m.clean)
                    depth += media::opticalDepth(m, place, shot_.sky->sunDirection(), 0.f, media::outsideDistance);
        return std::exp(-depth);
    }

    /// What a drop gives of sun, sky and lamps toward the eye, a unit of what it takes; `sun`: the share of the sun's
    /// light that comes to it.
    Vec3 lightAt(const media::Drop& d, const Vec3& sight, media::Falling::Form form, float sun) const
    {
        const bool isClear = form == media::Falling::Form::Drops;
        // Of a flake: half is bent at its rim, the rest goes to all sides alike.
        constexpr float evenly = (1.f - rimShare) / (4.f * pi);
        const auto phase = [&](const Vec3& way) { return isClear ? media::rain::phase(way.dot(sight)) : evenly; };
        Vec3 out(0.f);
        if (shot_.sky) {
            out += isClear ? shot_.sky->scattered(sight, media::rain::phase.wideG) *
                                 ((1.f - rimShare) * (1.f - fromPicture))
                           : shot_.sky->scattered(sight, 0.f) * (1.f - rimShare);
            if (sun > 0.f)
                out += shot_.sky->sunIrradiance() * (phase(shot_.sky->sunDirection()) * sun);
        }
        for (const light::Lamp& lamp : shot_.lamps) {
            light::LampSample to;
            if (!lamp.lightsAir() || !light::sampleLamp(lamp, d.at, 0.5f, 0.5f, to))
                continue;
            const Vec3 light = Vec3(lamp.intensity.x * to.irradiance.x, lamp.intensity.y * to.irradiance.y,
                                    lamp.intensity.z * to.irradiance.z) *
                               (phase(to.way) * lamp.toAir);
            // Not worth a look where there is far more already.
            if (luminance(light) < 0.01f * luminance(out) ||
                (lamp.shadows != light::Lamp::Shadows::None &&
                 shot_.shadowsOf(lamp).occluded(d.at, to.way, to.distance * 0.999f)))
                continue;
            out += light;
        }
        return out;
    }

    /// How a leaf stands: it turns over about its length.
    struct LeafFrame {
        Vec3 along, across, normal;
    };
    static LeafFrame frameOf(const media::Drop& d)
    {
        const float around = 2.f * pi * unitFloat(d.own), lean = 0.7f * (unitFloat(hash32(d.own, 1u)) - 0.5f);
        LeafFrame f;
        if (d.lies) {
            f.along = Vec3(std::cos(around), 0.f, std::sin(around));
            f.across = Vec3(-std::sin(around), 0.f, std::cos(around));
            f.normal = Vec3(0.f, 1.f, 0.f);
            return f;
        }
        f.along = Vec3(std::cos(around), lean, std::sin(around)).normalized();
        const Vec3 level = f.along.cross(Vec3(0.f, 1.f, 0.f)).normalized(), up = level.cross(f.along);
        const float turn = d.turned + 2.f * pi * unitFloat(hash32(d.own, 2u));
        f.across = level * std::cos(turn) + up * std::sin(turn);
        f.normal = f.along.cross(f.across);
        return f;
    }
    /// What a leaf or a ball gives toward the eye. A leaf: matte, and half as much through it as from its lit side; a
    /// ball: matte, the mean over its disc.
    Vec3 matteLight(const media::Drop& d, const Vec3& sight, const media::Falling& falling, float sun) const
    {
        constexpr float through = 0.5f;
        const bool isBall = falling.form == media::Falling::Form::Balls,
                   isSpray = falling.form == media::Falling::Form::Spray;
        const Vec3 normal = frameOf(d).normal,
                   colour = isSpray ? Vec3(0.95f) : falling.colours[hash32(d.own, 3u) % falling.colours.size()];
        const auto taken = [&](const Vec3& way) {
            if (isSpray) { // some bounces deep: half of it to all sides, half still onward
                constexpr media::Phase onward{0.7f, 0.f, 0.5f, 0.f};
                return onward(way.dot(sight));
            }
            if (isBall) { // Lambert's sphere, by the angle from lamp to eye
                const float c = std::clamp(-way.dot(sight), -1.f, 1.f), angle = std::acos(c);
                return 2.f / 3.f * (std::sqrt(1.f - c * c) + (pi - angle) * c) / (pi * pi);
            }
            const float c = normal.dot(way);
            return std::abs(c) * (c * normal.dot(sight) < 0.f ? 1.f : through) / pi;
        };
        Vec3 light(0.f);
        if (shot_.sky) {
            light += shot_.sky->scattered(sight, 0.f);
            if (sun > 0.f)
                light += shot_.sky->sunIrradiance() * (sun * taken(shot_.sky->sunDirection()));
        }
        for (const light::Lamp& lamp : shot_.lamps) {
            light::LampSample to;
            if (!lamp.lightsAir() || !light::sampleLamp(lamp, d.at, 0.5f, 0.5f, to) ||
                (lamp.shadows != light::Lamp::Shadows::None &&
                 shot_.shadowsOf(lamp).occluded(d.at, to.way, to.distance * 0.999f)))
                continue;
            for (int c = 0; c < 3; ++c)
                light[c] += lamp.intensity[c] * to.irradiance[c] * taken(to.way);
        }
        return Vec3(colour.x * light.x, colour.y * light.y, colour.z * light.z);
    }

    const shot::Shot& shot_;
    geometry::View view_;
    int width_, height_;
    float tangentX_, tangentY_;
};
} // namespace

float leafIn(const Streak& s, const Vec2& pixel)
{
    constexpr int places = 8;
    const float area = s.along.x * s.across.y - s.along.y * s.across.x;
    if (std::abs(area) < 1e-3f) // seen on edge
        return 0.f;
    int inside = 0;
    for (int k = 0; k < places; ++k) {
        const float t = (static_cast<float>(k) + 0.5f) / places;
        const Vec2 p = pixel - (s.to - s.from) * t +
                       Vec2(0.25f * static_cast<float>((k * 5 & 3) * 2 - 3) * 0.5f,
                            0.25f * static_cast<float>((k * 3 & 3) * 2 - 3) * 0.5f);
        inside += geometry::insideLeaf(s.shape, (p.x * s.across.y - p.y * s.across.x) / area,
                                       (s.along.x * p.y - s.along.y * p.x) / area);
    }
    return static_cast<float>(inside) / places;
}

std::optional<SeenDrop> dropAt(const shot::Shot& shot, int width, int height, const Vec2& place, float within)
{
    return Drawing(shot, width, height).at(place, within);
}

std::vector<Streak> streaksOf(const shot::Shot& shot, int width, int height)
{
    return Drawing(shot, width, height).streaks();
}
} // namespace hygros::render
