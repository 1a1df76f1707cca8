#include "reading/match.h"

#include "base/error.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "render/frame.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <set>

namespace hygros::reading {
namespace {
constexpr int width = 240, height = 135, passes = 3;

double linearOfByte(std::uint8_t byte)
{
    const double c = byte / 255.0;
    return c <= 0.04045 ? c / 12.92 : std::pow((c + 0.055) / 1.055, 2.4);
}
const std::array<double, 256>& linearTable()
{
    static const std::array<double, 256> table = [] {
        std::array<double, 256> t{};
        for (std::size_t i = 0; i < t.size(); ++i)
            t[i] = linearOfByte(static_cast<std::uint8_t>(i));
        return t;
    }();
    return table;
}

/// Sums of a plane's pixels as they are shown.
struct Sums {
    double stops = 0.0, r = 0.0, g = 0.0, b = 0.0;
    std::size_t pixels = 0;
    void add(const std::uint8_t* bgra)
    {
        const auto& t = linearTable();
        const double cb = t[bgra[0]], cg = t[bgra[1]], cr = t[bgra[2]];
        stops += std::log2(std::max(1e-4, 0.2126 * cr + 0.7152 * cg + 0.0722 * cb) / 0.18);
        r += cr, g += cg, b += cb;
        ++pixels;
    }
    ShownTone tone() const
    {
        ShownTone out;
        out.pixels = pixels;
        if (pixels == 0)
            return out;
        out.stops = static_cast<float>(stops / double(pixels));
        const double x = 0.4124 * r + 0.3576 * g + 0.1805 * b, y = 0.2126 * r + 0.7152 * g + 0.0722 * b,
                     z = 0.0193 * r + 0.1192 * g + 0.9505 * b, d = x + 15.0 * y + 3.0 * z;
        out.u = d > 0.0 ? static_cast<float>(4.0 * x / d) : 0.f;
        out.v = d > 0.0 ? static_cast<float>(9.0 * y / d) : 0.f;
        return out;
    }
};

/// The place of the least value between two ends, by golden sections; `f` is looked at `steps` times.
double leastOf(double from, double to, int steps, const std::function<double(double)>& f)
{
    const double golden = (std::sqrt(5.0) - 1.0) / 2.0;
    double a = to - golden * (to - from), b = from + golden * (to - from);
    double fa = f(a), fb = f(b);
    for (int i = 2; i < steps; ++i)
        if (fa < fb) {
            to = b, b = a, fb = fa;
            a = to - golden * (to - from);
            fa = f(a);
        } else {
            from = a, a = b, fa = fb;
            b = from + golden * (to - from);
            fb = f(b);
        }
    return fa < fb ? a : b;
}

class Matching {
public:
    Matching(const scene::Project& project, const ShownTones& wanted, const MatchWishes& wishes, Store& store,
             JobControl& job)
        : project_(project), wanted_(wanted), wishes_(wishes), store_(store), job_(job)
    {
    }
    Match done()
    {
        if (!wishes_.exposure && !wishes_.neutral && wishes_.element.empty())
            refuse("nothing is to be fitted", "Choose the exposure, the neutral point or an element.");
        const scene::Element* finish = nullptr;
        for (const scene::Element& e : project_.elements)
            if (scene::findParameter(e.kind->parameters, "exposure") &&
                scene::findParameter(e.kind->parameters, "white"))
                finish = &e;
        if (!finish)
            throw std::logic_error("a project without a finish");
        Match out;
        out.wanted = wanted_;
        draw(std::nullopt);
        out.borders = {borders_[0], borders_[1]};
        out.before = tones(look_.exposure, look_.white);
        for (std::size_t i = 0; i < 3; ++i)
            both_[i] = wanted_[i].pixels > 0 && out.before[i].pixels >= fewest;
        if (std::count(both_.begin(), both_.end(), true) < 2)
            refuse("fewer than two planes are in both pictures",
                   "Lay the boxes on what stands near, farther and far, and set the borders of the planes.");
        out.missBefore = miss(out.before);
        out.colourBefore = colours(out.before);

        double ev = double(look_.exposure), kelvin = double(look_.white);
        if (!wishes_.element.empty()) {
            out.visibility = visibility(ev);
            draw(out.visibility);
        }
        // The neutral point keeps the luminance of a neutral alone: both once more.
        for (int round = 0; round < 2; ++round) {
            if (wishes_.exposure)
                ev = exposure(kelvin);
            if (wishes_.neutral)
                kelvin = neutral(ev);
        }
        if (wishes_.exposure)
            out.exposure = ev;
        if (wishes_.neutral)
            out.neutral = kelvin;
        out.after = tones(float(ev), float(kelvin));
        out.missAfter = miss(out.after);
        out.colourAfter = colours(out.after);
        if (out.exposure)
            out.settings.emplace_back(finish->id + ".exposure", formatNumber(ev, 4));
        if (out.neutral)
            out.settings.emplace_back(finish->id + ".white", formatNumber(kelvin, 4));
        if (out.visibility)
            out.settings.emplace_back(wishes_.element + ".visibility", formatNumber(*out.visibility, 4) + " m");
        job_.report(1.f, "Matched");
        return out;
    }

private:
    static constexpr std::size_t fewest = 40;     ///< pixels of a plane
    static constexpr double colourWeight = 100.0; ///< stops that a distance of 1 in u′v′ counts for

    [[noreturn]] void refuse(const std::string& why, const std::string& remedy) const
    {
        throw inputError("Match", project_.name, why, remedy);
    }
    /// Renders the picture, with another visibility where one is named.
    void draw(std::optional<double> metres)
    {
        job_.check();
        job_.report(std::min(0.95f, static_cast<float>(drawn_++) / 22.f), "Matching");
        scene::Project p = project_;
        if (metres) {
            p.find(wishes_.element)->setTrack("visibility", {});
            p.find(wishes_.element)->set("visibility", *metres);
        }
        const auto shot = elements::freeze(p, store_, job_, elements::Missing::Told);
        const std::atomic<bool> never{false};
        render::Frame frame(shot, width, height);
        frame.setFollowsPaths(false);
        for (int i = 0; i < passes; ++i) {
            frame.trace(i, never);
            frame.light(never);
            job_.check();
        }
        frame.resolve(rgb_);
        look_ = shot->look;
        if (!plane_.empty())
            return;
        std::vector<float> depth(std::size_t(width) * height);
        for (int y = 0; y < height; ++y)
            for (int x = 0; x < width; ++x)
                depth[std::size_t(y) * width + std::size_t(x)] = frame.depthAt(x, y);
        const PlanePicture picture{width, height, rgb_, depth};
        borders_ = wishes_.borders[1] > 0.f ? std::vector<float>(wishes_.borders.begin(), wishes_.borders.end())
                                            : bordersFromDepth(picture);
        // The sky is no plane of its own here: a photograph's farthest box lies on what stands there.
        for (const float d : depth)
            plane_.push_back(
                d >= picture.farFrom
                    ? 3
                    : static_cast<int>(std::upper_bound(borders_.begin(), borders_.end(), d) - borders_.begin()));
    }
    ShownTones tones(float ev, float kelvin) const
    {
        shot::Look look = look_;
        look.exposure = ev;
        look.white = kelvin;
        std::vector<std::uint8_t> shown(std::size_t(width) * height * 4);
        finish::Display(look).apply(rgb_.data(), width, height, shown.data(), std::size_t(width) * 4, 4);
        std::array<Sums, 4> sums;
        for (std::size_t i = 0; i < plane_.size(); ++i)
            sums[static_cast<std::size_t>(plane_[i])].add(shown.data() + 4 * i);
        return {sums[0].tone(), sums[1].tone(), sums[2].tone()};
    }
    double miss(const ShownTones& t) const
    {
        double sum = 0.0;
        int n = 0;
        for (std::size_t i = 0; i < 3; ++i)
            if (both_[i]) {
                const double d = double(t[i].stops) - double(wanted_[i].stops);
                sum += d * d;
                ++n;
            }
        return n ? std::sqrt(sum / n) : 0.0;
    }
    double colours(const ShownTones& t) const
    {
        double sum = 0.0;
        int n = 0;
        for (std::size_t i = 0; i < 3; ++i)
            if (both_[i]) {
                sum += std::hypot(double(t[i].u - wanted_[i].u), double(t[i].v - wanted_[i].v));
                ++n;
            }
        return n ? sum / n : 0.0;
    }
    double exposure(double kelvin) const
    {
        const auto at = [&](double ev) { return miss(tones(float(ev), float(kelvin))); };
        const double now = double(look_.exposure);
        // A tone curve is flat at its ends: first by whole stops.
        double best = now, least = at(now);
        for (int i = -8; i <= 8; ++i)
            if (const double m = at(now + i); m < least)
                least = m, best = now + i;
        return leastOf(best - 1.0, best + 1.0, 16, at);
    }
    double neutral(double ev) const
    {
        return 1e6 / leastOf(1e6 / 15000.0, 1e6 / 2500.0, 22,
                             [&](double mired) { return colours(tones(float(ev), float(1e6 / mired))); });
    }
    double visibility(double& ev)
    {
        const scene::Element* e = project_.find(wishes_.element);
        const scene::Parameter* p = e ? scene::findParameter(e->kind->parameters, "visibility") : nullptr;
        if (!p || !scene::applies(e->kind->parameters, *p, *e->settings))
            refuse("the element has no visibility", "Choose one whose density is told by how far one sees in it.");
        const double now = std::get<double>(p->get(*e->settings));
        std::map<double, double> known; // by log2 of the visibility
        const auto at = [&](double l) {
            if (const auto it = known.find(l); it != known.end())
                return it->second;
            draw(std::clamp(std::exp2(l), p->hardMin, p->hardMax));
            // Tones alone hardly tell thicker air from a darker exposure: colours, as well as they can be had, do.
            double to = ev, kelvin = double(look_.white);
            if (wishes_.exposure)
                to = exposure(kelvin);
            if (wishes_.neutral)
                kelvin = neutral(to);
            const ShownTones t = tones(float(to), float(kelvin));
            return known[l] = std::hypot(miss(t), colourWeight * colours(t));
        };
        const double first = std::log2(now);
        double best = first, least = at(first);
        for (int i = -4; i <= 4; ++i)
            if (const double m = at(first + 1.5 * i); m < least)
                least = m, best = first + 1.5 * i;
        return std::clamp(std::exp2(leastOf(best - 1.5, best + 1.5, 10, at)), p->hardMin, p->hardMax);
    }

    const scene::Project& project_;
    const ShownTones& wanted_;
    const MatchWishes& wishes_;
    Store& store_;
    JobControl& job_;
    shot::Look look_;
    std::vector<float> rgb_, borders_;
    std::vector<int> plane_; ///< of each pixel; 3: the sky
    std::array<bool, 3> both_{};
    int drawn_ = 0;
};
} // namespace

std::vector<float> linearOf(std::span<const std::uint8_t> shown)
{
    const auto& t = linearTable();
    std::vector<float> out(shown.size() / 4 * 3);
    for (std::size_t i = 0; i < out.size() / 3; ++i)
        for (std::size_t c = 0; c < 3; ++c)
            out[i * 3 + c] = static_cast<float>(t[shown[i * 4 + 2 - c]]);
    return out;
}

ShownTone toneOf(std::span<const std::uint8_t> shown, int w, int h, const Region& box)
{
    const auto edge = [](float share, int of) { return std::clamp(int(std::lround(share * float(of))), 0, of); };
    Sums sums;
    for (int y = edge(box.top, h); y < edge(box.bottom, h); ++y)
        for (int x = edge(box.left, w); x < edge(box.right, w); ++x)
            sums.add(shown.data() + 4 * (std::size_t(y) * std::size_t(w) + std::size_t(x)));
    return sums.tone();
}

Match match(const scene::Project& project, const ShownTones& photograph, const MatchWishes& wishes, Store& store,
            JobControl& job)
{
    return Matching(project, photograph, wishes, store, job).done();
}
} // namespace hygros::reading
