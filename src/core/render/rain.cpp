#include "render/rain.h"

#include "base/parallel.h"
#include "base/random.h"
#include "geometry/camera.h"
#include "media/splash.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
constexpr float nearest = 0.3f;       ///< nothing is drawn nearer to the eye [m]
constexpr float fadesFrom = 0.85f;    ///< of its reach, as far past it as before
constexpr float rimShare = 0.5f;      ///< of what a drop takes: bent at its rim alone
constexpr float fromPicture = 0.5f;   ///< of the rest: by what the picture shows; else by the sky
constexpr float splashesTo = 11.f;    ///< splashes farther from the eye are too small [m]
constexpr int coarse = 8;             ///< pixels along one of the picture's blurred copy
constexpr std::size_t most = 400'000; ///< drops in one picture; beyond them none is drawn

/// A drop as it lies on the picture.
struct Streak {
    Vec2 from, to;
    float radius = 0.f, cover = 0.f; ///< [pixels]; optical depth times pixels
    Vec3 light{0.f};                 ///< of sun, sky and lamps, a unit of cover
    bool isClear = true;             ///< it shows the picture's own light as well
};

class Drawing {
public:
    Drawing(const shot::Shot& shot, int width, int height)
        : shot_(shot), view_(shot.camera, width, height), width_(width), height_(height),
          tangentX_(0.5f * static_cast<float>(width) * view_.pixelAngle()),
          tangentY_(0.5f * static_cast<float>(height) * view_.pixelAngle())
    {
    }

    std::vector<Streak> streaks() const
    {
        struct Part {
            const media::Falling* falling;
            std::size_t ofClass, moment;
            Vec3 low, high;
        };
        std::vector<Part> parts;
        for (const media::Falling& f : shot_.falling)
            for (std::size_t c = 0; c < f.classes.size(); ++c)
                for (std::size_t m = 0; m < f.moments.size(); ++m)
                    if (f.classes[c].reach > nearest && f.moments[m].share > 0.f)
                        eachBox(f.classes[c].reach * (2.f - fadesFrom), [&](const Vec3& low, const Vec3& high) {
                            parts.push_back({&f, c, m, low, high});
                        });
        const std::size_t whole = parts.size();
        for (const media::Falling& f : shot_.falling)
            for (std::size_t c = 0; c < f.classes.size() && f.splashes > 0.f; ++c)
                for (std::size_t m = 0; m < f.moments.size(); ++m)
                    if (f.classes[c].diameter >= media::splashSmallest && f.moments[m].share > 0.f)
                        eachBox(splashesTo, [&](const Vec3& low, const Vec3& high) {
                            parts.push_back({&f, c, m, low, high});
                        });
        std::vector<std::vector<Streak>> found(parts.size());
        parallelFor(parts.size(), [&](std::size_t i) {
            const Part& p = parts[i];
            std::vector<media::Drop> drops;
            media::Falling::Class of = p.falling->classes[p.ofClass];
            if (i < whole)
                media::dropsIn(*p.falling, p.ofClass, p.moment, p.low, p.high, drops);
            else {
                splashesIn(*p.falling, p.ofClass, p.moment, p.low, p.high, drops);
                of.reach = splashesTo;
            }
            // Rays of eight at once: to the eye, against its way, to the sun.
            std::array<media::Drop, lanes> some;
            some.fill({Vec3(0.f), Vec3(0.f, -1.f, 0.f)});
            std::array<Streak, lanes> as;
            const float sun = sunAt((p.low + p.high) * 0.5f); // a box is small beside what the air changes over
            unsigned count = 0;
            const auto see = [&] {
                const unsigned open = openTo(some, count, i < whole);
                const unsigned sunlit = open ? sunlitOf(some, open) : 0;
                for (unsigned k = 0; k < count; ++k)
                    if (open >> k & 1u) {
                        const Vec3 way = some[k].at - view_.position();
                        as[k].light = lightAt(some[k], way / way.length(), p.falling->form,
                                              sunlit >> k & 1u ? sun : 0.f);
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

private:
    /// Boxes of the world that together hold what is in sight as far as `reach`.
    template <class Use> void eachBox(float reach, const Use& use) const
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
        const float side = std::max(0.8f, reach / 7.f), round = 0.5f * std::sqrt(3.f) * side;
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
    void splashesIn(const media::Falling& f, std::size_t ofClass, std::size_t moment, const Vec3& low, const Vec3& high,
                    std::vector<media::Drop>& out) const
    {
        constexpr float roof = 60.f;
        const media::Falling::Class& c = f.classes[ofClass];
        const Vec3 velocity(f.wind.x, -c.speed, f.wind.z), gone = velocity * media::splashLasts;
        const float speed = velocity.length();
        // By now they would be below where they landed.
        Vec3 from = low, to = high;
        for (int a = 0; a < 3; ++a) {
            from[a] += std::min(0.f, gone[a]);
            to[a] += std::max(0.f, gone[a]);
        }
        std::vector<media::Drop> drops;
        media::dropsIn(f, ofClass, moment, from, to, drops);
        for (const media::Drop& d : drops) {
            geometry::Hit hit;
            const Vec3 along = velocity / speed, o = d.at - along * roof;
            if (!shot_.scene->trace(o, along, 0.f, roof, hit))
                continue;
            const float age = (roof - hit.t) / speed;
            const Vec3 place = o + along * hit.t;
            bool within = age <= media::splashLasts;
            for (int a = 0; a < 3; ++a)
                within = within && place[a] >= low[a] && place[a] < high[a];
            if (!within)
                continue;
            // Where it landed tells it from all others, from picture to picture.
            const auto number = [](float v) {
                return static_cast<std::uint32_t>(static_cast<std::int32_t>(std::floor(v * 1e3f)));
            };
            media::splashOf(place + hit.geometricNormal * 1e-3f, hit.geometricNormal, d.diameter, c.speed, age,
                            f.splashes, hash32(number(place.x), number(place.z), f.seed), out);
        }
    }

    std::optional<Streak> streakOf(const media::Falling& f, const media::Falling::Class& c, const media::Drop& d) const
    {
        const Vec3 eye = view_.position(), way = d.at - eye;
        const float distance = way.length(), end = 2.f - fadesFrom;
        if (distance < nearest || distance > c.reach * end)
            return std::nullopt;
        const float share = std::clamp((end - distance / c.reach) / (2.f * (1.f - fadesFrom)), 0.f, 1.f);
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

    const shot::Shot& shot_;
    geometry::View view_;
    int width_, height_;
    float tangentX_, tangentY_;
};
} // namespace

RainPicture::RainPicture(const shot::Shot& shot, int width, int height) : width_(width), height_(height)
{
    if (shot.falling.empty())
        return;
    const std::vector<Streak> streaks = Drawing(shot, width, height).streaks();
    drops_ = streaks.size();
    // By bands of rows, each of which takes its streaks in their order.
    constexpr int band = 12;
    const auto bands = static_cast<std::size_t>((height + band - 1) / band);
    std::vector<std::vector<std::uint32_t>> of(bands);
    for (std::size_t i = 0; i < streaks.size(); ++i) {
        const Streak& s = streaks[i];
        const int first = static_cast<int>(std::floor(std::min(s.from.y, s.to.y) - s.radius - 1.f)) / band,
                  last = static_cast<int>(std::ceil(std::max(s.from.y, s.to.y) + s.radius + 1.f)) / band;
        for (int b = std::max(0, first); b <= std::min(static_cast<int>(bands) - 1, last); ++b)
            of[static_cast<std::size_t>(b)].push_back(static_cast<std::uint32_t>(i));
    }
    std::vector<std::vector<Pixel>> lit(bands);
    parallelFor(bands, [&](std::size_t b) {
        const int top = static_cast<int>(b) * band, bottom = std::min(height, top + band);
        std::vector<Pixel> plane(static_cast<std::size_t>(width) * static_cast<std::size_t>(bottom - top));
        for (const std::uint32_t i : of[b]) {
            const Streak& s = streaks[i];
            const Vec2 way = s.to - s.from;
            const float length = way.length(), r = s.radius;
            const Vec2 along = length > 1e-6f ? way / length : Vec2(0.f);
            // Of a bar with round ends and an edge of a pixel.
            const float area = 2.f * r * length + pi * (r * r + 1.f / 12.f), each = s.cover / area;
            const int y0 = std::max(top, static_cast<int>(std::floor(std::min(s.from.y, s.to.y) - r - 0.5f))),
                      y1 = std::min(bottom, static_cast<int>(std::ceil(std::max(s.from.y, s.to.y) + r + 0.5f)));
            for (int y = y0; y < y1; ++y) {
                const float py = static_cast<float>(y) + 0.5f;
                // Where along the streak this row can be met.
                float u0 = 0.f, u1 = 1.f;
                if (std::abs(way.y) > 1e-6f) {
                    const float a = (py - r - 0.5f - s.from.y) / way.y, c = (py + r + 0.5f - s.from.y) / way.y;
                    u0 = std::clamp(std::min(a, c), 0.f, 1.f);
                    u1 = std::clamp(std::max(a, c), 0.f, 1.f);
                }
                const float xa = s.from.x + way.x * u0, xb = s.from.x + way.x * u1;
                const int x0 = std::max(0, static_cast<int>(std::floor(std::min(xa, xb) - r - 0.5f))),
                          x1 = std::min(width, static_cast<int>(std::ceil(std::max(xa, xb) + r + 0.5f)));
                for (int x = x0; x < x1; ++x) {
                    const Vec2 p(static_cast<float>(x) + 0.5f - s.from.x, py - s.from.y);
                    const float ahead = p.x * along.x + p.y * along.y;
                    const float off = ahead <= 0.f      ? p.length()
                                      : ahead >= length ? (p - way).length()
                                                        : std::abs(p.x * along.y - p.y * along.x);
                    const float weight = std::min(r + 0.5f - off, 1.f);
                    if (weight <= 0.f)
                        continue;
                    Pixel& to = plane[static_cast<std::size_t>(y - top) * static_cast<std::size_t>(width) +
                                      static_cast<std::size_t>(x)];
                    to.cover += each * weight;
                    to.clear += s.isClear ? each * weight : 0.f;
                    to.light += s.light * (each * weight);
                }
            }
        }
        for (std::size_t i = 0; i < plane.size(); ++i)
            if (plane[i].cover > 0.f) {
                plane[i].index = static_cast<std::uint32_t>(
                    static_cast<std::size_t>(top) * static_cast<std::size_t>(width) + i);
                lit[b].push_back(plane[i]);
            }
    });
    for (const auto& some : lit)
        pixels_.insert(pixels_.end(), some.begin(), some.end());
}

float RainPicture::transmittance(int x, int y) const
{
    const auto index = static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(width_) +
                       static_cast<std::uint32_t>(x);
    const auto at = std::lower_bound(pixels_.begin(), pixels_.end(), index,
                                     [](const Pixel& p, std::uint32_t i) { return p.index < i; });
    return at != pixels_.end() && at->index == index ? std::exp(-at->cover) : 1.f;
}

std::vector<Vec3> RainPicture::worldOf(const std::vector<float>& rgb) const
{
    const int w = (width_ + coarse - 1) / coarse, h = (height_ + coarse - 1) / coarse;
    const auto at = [&](int x, int y) {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x);
    };
    std::vector<Vec3> narrow(static_cast<std::size_t>(w) * static_cast<std::size_t>(h), Vec3(0.f));
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            Vec3 sum(0.f);
            float count = 0.f;
            for (int j = y * coarse; j < std::min(height_, y * coarse + coarse); ++j)
                for (int i = x * coarse; i < std::min(width_, x * coarse + coarse); ++i, count += 1.f) {
                    const float* p = &rgb[(static_cast<std::size_t>(j) * static_cast<std::size_t>(width_) +
                                           static_cast<std::size_t>(i)) *
                                          3];
                    sum += Vec3(p[0], p[1], p[2]);
                }
            narrow[at(x, y)] = sum / std::max(1.f, count);
        }
    // Three boxes one after the other are about as a bell, a sixth of the picture wide.
    const int r = std::max(1, w / 12);
    std::vector<Vec3> wide = narrow, row(static_cast<std::size_t>(std::max(w, h)));
    for (int pass = 0; pass < 3; ++pass)
        for (const bool across : {true, false})
            for (int line = 0; line < (across ? h : w); ++line) {
                const int n = across ? w : h;
                const auto of = [&](int k) -> Vec3& {
                    return wide[across ? at(std::clamp(k, 0, n - 1), line) : at(line, std::clamp(k, 0, n - 1))];
                };
                Vec3 sum(0.f);
                for (int k = -r; k <= r; ++k)
                    sum += of(k);
                for (int k = 0; k < n; ++k) {
                    row[static_cast<std::size_t>(k)] = sum / static_cast<float>(2 * r + 1);
                    sum += of(k + r + 1) - of(k - r);
                }
                for (int k = 0; k < n; ++k)
                    of(k) = row[static_cast<std::size_t>(k)];
            }
    std::vector<Vec3> out;
    out.reserve(pixels_.size());
    for (const Pixel& p : pixels_) {
        const float x = (static_cast<float>(p.index % static_cast<std::uint32_t>(width_)) + 0.5f) / coarse - 0.5f,
                    y = (static_cast<float>(p.index / static_cast<std::uint32_t>(width_)) + 0.5f) / coarse - 0.5f;
        const int i = std::clamp(static_cast<int>(x), 0, std::max(0, w - 2)),
                  j = std::clamp(static_cast<int>(y), 0, std::max(0, h - 2));
        const float a = std::clamp(x - static_cast<float>(i), 0.f, 1.f),
                    b = std::clamp(y - static_cast<float>(j), 0.f, 1.f);
        const auto between = [&](const std::vector<Vec3>& v) {
            const int ii = std::min(w - 1, i + 1), jj = std::min(h - 1, j + 1);
            return (v[at(i, j)] * (1.f - a) + v[at(ii, j)] * a) * (1.f - b) +
                   (v[at(i, jj)] * (1.f - a) + v[at(ii, jj)] * a) * b;
        };
        out.push_back(between(narrow) * rimShare +
                      between(wide) * ((1.f - rimShare) * fromPicture * p.clear / p.cover));
    }
    return out;
}

void RainPicture::addTo(std::vector<float>& rgb) const
{
    if (isEmpty())
        return;
    const std::vector<Vec3> world = worldOf(rgb);
    for (std::size_t k = 0; k < pixels_.size(); ++k) {
        const Pixel& p = pixels_[k];
        const float left = std::exp(-p.cover);
        const Vec3 light = (world[k] + p.light / p.cover) * (1.f - left);
        for (std::size_t c = 0; c < 3; ++c) {
            float& v = rgb[std::size_t{p.index} * 3 + c];
            v = v * left + light[static_cast<int>(c)];
        }
    }
}

void RainPicture::addTo(Layers& layers) const
{
    if (isEmpty())
        return;
    std::vector<float> beauty(layers.pixels() * 3);
    for (std::size_t i = 0; i < beauty.size(); ++i)
        beauty[i] = layers.plate[i] * layers.transmittance[i] + layers.air[i];
    const std::vector<Vec3> world = worldOf(beauty);
    Layers::ByLamp own{"rain", std::vector<float>(layers.pixels() * 3, 0.f)};
    for (std::size_t k = 0; k < pixels_.size(); ++k) {
        const Pixel& p = pixels_[k];
        const float left = std::exp(-p.cover);
        const Vec3 light = (world[k] + p.light / p.cover) * (1.f - left);
        for (std::size_t c = 0; c < 3; ++c) {
            const std::size_t i = std::size_t{p.index} * 3 + c;
            layers.transmittance[i] *= left;
            own.air[i] = light[static_cast<int>(c)];
            layers.air[i] = layers.air[i] * left + own.air[i];
            for (auto* list : {&layers.airBy, &layers.setBy, &layers.shadowBy})
                for (Layers::ByLamp& one : *list)
                    one.air[i] *= left;
        }
        if (!layers.alpha.empty()) // what a matte holds open is covered by so much
            layers.alpha[p.index] = 1.f - (1.f - layers.alpha[p.index]) * left;
    }
    layers.airBy.push_back(std::move(own));
}
} // namespace hygros::render
