#include "reading/checks.h"

#include "base/error.h"
#include "base/shown_units.h"
#include "base/words.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "media/open_water.h"
#include "reading/planes.h"
#include "render/frame.h"

#include <algorithm>
#include <cmath>

namespace hygros::reading {
namespace {
using Grade = Finding::Grade;
constexpr int across = 24, down = 14;        ///< looks through the picture
constexpr double nothing = 2e-5;             ///< of the picture's light: it adds none
constexpr double barely = 0.004, dear = 0.2; ///< of its light; of the time of a pass
constexpr double muchWhite = 0.02;
constexpr double muchFolded = 0.02;
constexpr double hides = 4.6; ///< optical depth: one percent comes through

std::string length(double v) { return formatQuantity(v, Quantity::Length); }
std::string share(double v) { return shownNumber(v * 100.0, 2) + " %"; }

/// A number of an element, where it has one of that name that is of use.
std::optional<double> numberOf(const scene::Element& e, const std::string& id)
{
    const scene::Parameter* p = scene::findParameter(e.kind->parameters, id);
    if (!p || p->type != scene::ValueType::Number || !scene::applies(e.kind->parameters, *p, *e.settings))
        return std::nullopt;
    return std::get<double>(p->get(*e.settings));
}

class Checking {
public:
    Checking(const scene::Project& project, const shot::Shot& shot, const Measured& measured)
        : project_(project), shot_(shot), measured_(measured), view_(shot.camera, across, down)
    {
    }
    std::vector<Finding> all()
    {
        for (const shot::Note& n : shot_.notes)
            if ((n.isTrouble || !n.check.empty()) && std::none_of(out_.begin(), out_.end(), [&](const Finding& f) {
                    return f.element == n.element && f.text == n.text;
                })) {
                Finding& f = say(n.isTrouble ? Grade::Trouble : Grade::Advice,
                                 !n.check.empty()    ? n.check.c_str()
                                 : n.missing.empty() ? "note"
                                                     : "missing",
                                 n.element, n.text);
                f.fix = {n.mends, n.settings, n.bakes};
            }
        look();
        for (const scene::Element& e : project_.elements) {
            if (project_.silent(e))
                continue;
            air(e);
            cost(e);
            onPurpose(e);
        }
        lamps();
        sun();
        water();
        sets();
        picture();
        std::stable_sort(out_.begin(), out_.end(),
                         [](const Finding& a, const Finding& b) { return a.grade < b.grade; });
        return std::move(out_);
    }

private:
    Finding& say(Grade grade, const char* id, const std::string& element, std::string text, double number = 0.0)
    {
        out_.push_back({grade, id, element, std::move(text), number, {}});
        return out_.back();
    }
    void mends(Finding& f, std::string label, std::vector<std::pair<std::string, std::string>> settings) const
    {
        f.fix = {std::move(label), std::move(settings), false};
    }
    /// How far one sees at each place of the picture.
    void look()
    {
        for (int y = 0; y < down; ++y)
            for (int x = 0; x < across; ++x) {
                const geometry::SightRay ray = view_.ray(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f);
                geometry::Hit hit;
                const bool met = shot_.scene->trace(ray.origin, ray.direction, 0.f, shot::Shot::farDistance, hit);
                rays_.push_back({ray.origin, ray.direction, met ? hit.t : shot::Shot::farDistance});
                if (met)
                    lowest_ = std::min(lowest_, ray.origin.y + ray.direction.y * hit.t);
            }
    }
    struct Ray {
        Vec3 origin, direction;
        float far;
    };
    static double through(const std::vector<const media::Medium*>& media, const Vec3& o, const Vec3& d, float from,
                          float to)
    {
        double sum = 0.0;
        for (const media::Medium* m : media)
            sum += double(media::opticalDepth(*m, o, d, from, to));
        return sum;
    }

    void air(const scene::Element& e)
    {
        std::vector<const media::Medium*> media;
        for (const media::Medium& m : shot_.media)
            if (m.id == e.id)
                media.push_back(&m);
        if (media.empty() || e.kind->family != scene::Family::Air)
            return;
        double seen = 0.0, behind = 0.0;
        for (const Ray& r : rays_) {
            seen = std::max(seen, through(media, r.origin, r.direction, 0.f, r.far));
            behind = std::max(behind, through(media, r.origin, r.direction, 0.f, shot::Shot::farDistance));
        }
        const media::Medium& m = *media.front();
        if (seen >= unseenDepth) {
            if (std::all_of(media.begin(), media.end(),
                            [](const auto* one) { return maxComponent(one->albedo) <= 0.f; }) &&
                !measured_.adds.empty())
                say(Grade::Information, "absorbs", e.id, words("Its albedo is 0: it takes light and sends none on."),
                    0.0);
            noise(e, media);
            wall(e, m, media);
            return;
        }
        if (m.shape == media::Shape::Layer && m.axis.y > 0.99f && lowest_ < 1e29f && m.top <= lowest_ + 1e-3f) {
            Finding& f = say(Grade::Trouble, "underground", e.id,
                             words("It adds nothing: it lies under the ground. Its top is at %1, the lowest ground in "
                                   "the picture at %2.",
                                   {length(double(m.top)), length(double(lowest_))}),
                             double(m.top));
            if (numberOf(e, "top"))
                mends(f, words("Top 2 m over the ground"),
                      {{e.id + ".top", formatNumber(double(lowest_) + 2.0, 5) + " m"}});
            return;
        }
        if (behind >= unseenDepth) {
            say(Grade::Trouble, "hidden", e.id, words("It adds nothing: it lies behind the set wherever one looks."),
                seen);
            return;
        }
        // Through it anywhere, were it in the picture.
        double anywhere = 0.0;
        const bool bounded = m.shape != media::Shape::Uniform && m.shape != media::Shape::Thinning &&
                             m.shape != media::Shape::Layer;
        if (bounded)
            for (const Vec3& d : {Vec3(1, 0, 0), Vec3(0, 1, 0), Vec3(0, 0, 1)})
                anywhere = std::max(anywhere, through(media, m.centre - d * 5000.f, d, 0.f, 10000.f));
        if (anywhere >= unseenDepth) {
            say(Grade::Trouble, "outside", e.id,
                words("It adds nothing: it lies outside the view, %1 from the camera.",
                      {length(double((m.centre - shot_.camera.position).length()))}),
                anywhere);
            return;
        }
        const double most = std::max(seen, anywhere);
        Finding& f = say(Grade::Trouble, "thin", e.id,
                         words("It adds nothing: density times size gives an optical depth of %1 at most; from %2 on "
                               "something is seen.",
                               {shownNumber(most, 2), shownNumber(unseenDepth, 1)}),
                         most);
        if (const auto sees = numberOf(e, "visibility"); sees && most > 0.0) {
            const std::string to = formatQuantity(std::max(1.0, *sees * most / 0.3), Quantity::Visibility);
            mends(f, words("Visibility %1", {to}), {{e.id + ".visibility", to}});
        }
    }
    /// Air everywhere so thick that next to nothing of the set comes through: metres where kilometres were meant.
    void wall(const scene::Element& e, const media::Medium& m, const std::vector<const media::Medium*>& media)
    {
        const auto sees = numberOf(e, "visibility");
        if ((m.shape != media::Shape::Uniform && m.shape != media::Shape::Thinning) || !sees || *sees > 100.0)
            return;
        double least = 1e30, nearest = 1e30;
        for (const Ray& r : rays_)
            if (r.far < shot::Shot::farDistance) {
                least = std::min(least, through(media, r.origin, r.direction, 0.f, r.far));
                nearest = std::min(nearest, double(r.far));
            }
        if (nearest > 1e29 || least < hides)
            return;
        Finding& f = say(Grade::Advice, "units", e.id,
                         words("Nothing of the set is seen in it: one sees %1 far, and the nearest of the set is at "
                               "%2. Were kilometres meant?",
                               {formatQuantity(*sees, Quantity::Visibility), length(nearest)}),
                         *sees);
        const std::string to = formatQuantity(*sees * 1000.0, Quantity::Visibility);
        mends(f, words("Visibility %1", {to}), {{e.id + ".visibility", to}});
    }
    /// Noise that is finer than a pixel of a picture 1280 wide is a flicker and no shape.
    void noise(const scene::Element& e, const std::vector<const media::Medium*>& media)
    {
        for (const media::Medium* m : media) {
            if (!(m->noise.contrast > 0.f))
                continue;
            // As near as it is met.
            float nearest = shot::Shot::farDistance;
            for (const Ray& r : rays_)
                for (float t = 0.5f; t < std::min(r.far, nearest); t *= 1.3f)
                    if (double(media::opticalDepth(*m, r.origin, r.direction, 0.f, t)) > 0.002)
                        nearest = t;
            const double pixel = double(nearest) * double(shot_.camera.sensorMm) /
                                 std::max(1.0, double(shot_.camera.focalMm)) / 1280.0;
            if (double(m->noise.scale) >= pixel)
                continue;
            Finding& f = say(Grade::Advice, "fineNoise", e.id,
                             words("Its noise of %1 is finer than a pixel, which is %2 wide where it is nearest.",
                                   {length(double(m->noise.scale)), length(pixel)}),
                             double(m->noise.scale) / pixel);
            for (const char* id : {"noiseScale", "scale"})
                if (numberOf(e, id)) {
                    mends(f, words("Noise of eight pixels"), {{e.id + "." + id, length(8.0 * pixel)}});
                    break;
                }
            return;
        }
    }
    void cost(const scene::Element& e)
    {
        const auto adds = measured_.adds.find(e.id), costs = measured_.costs.find(e.id);
        if (adds == measured_.adds.end() || costs == measured_.costs.end())
            return;
        if (costs->second > dear && adds->second < barely && adds->second > nothing)
            say(Grade::Advice, "dear", e.id,
                words("It takes %1 of a pass and adds %2 of the picture's light.",
                      {share(costs->second), share(adds->second)}),
                costs->second);
    }
    /// What is not as in nature: cheats are fair where one knows of them.
    void onPurpose(const scene::Element& e)
    {
        std::string what;
        const auto add = [&](const std::string& words) { what += (what.empty() ? "" : ", ") + words; };
        for (const media::Medium& m : shot_.media)
            if (m.id == e.id && e.kind->family == scene::Family::Air) {
                if (m.clear > 0.f)
                    add(words("none of it within %1", {length(double(m.clear))}));
                if (m.ambient != 1.f)
                    add(words("light from around × %1", {shownNumber(double(m.ambient), 3)}));
                break;
            }
        for (const media::Veil& v : shot_.veils)
            if (v.id == e.id)
                add(words("a veil takes no part in the light"));
        for (const light::Lamp& l : shot_.lamps)
            if (l.id == e.id) {
                if (l.toDiffuse != 1.f || l.toGlossy != 1.f)
                    add(words("lights sets × %1, glints × %2",
                              {shownNumber(double(l.toDiffuse), 3), shownNumber(double(l.toGlossy), 3)}));
                if (l.toAir != 1.f)
                    add(words("lights air × %1", {shownNumber(double(l.toAir), 3)}));
                break;
            }
        if (!e.reach.empty())
            add(words("Reach is not the same everywhere"));
        if (!what.empty())
            say(Grade::Information, "notPhysical", e.id, words("Not as in nature: %1.", {what}));
    }
    void lamps()
    {
        std::vector<std::string> done;
        for (const light::Lamp& l : shot_.lamps) {
            const scene::Element* e = project_.find(l.id);
            if (!e || std::find(done.begin(), done.end(), l.id) != done.end())
                continue;
            done.push_back(l.id);
            if (maxComponent(l.intensity) <= 0.f) {
                say(Grade::Trouble, "noPower", l.id, words("It gives no light: its power is 0."), 0.0);
                continue;
            }
            const auto adds = measured_.adds.find(l.id);
            if (adds == measured_.adds.end() || adds->second > nothing)
                continue;
            bool reaches = false;
            for (std::size_t i = 0; i < shot_.setIds.size(); ++i)
                reaches = reaches || (l.reachOfSet(i) > 0.f && (l.toDiffuse > 0.f || l.toGlossy > 0.f));
            for (std::size_t i = 0; i < shot_.media.size(); ++i)
                reaches = reaches || (l.reachOfMedium(i) > 0.f && l.toAir > 0.f);
            say(Grade::Trouble, "noLamp", l.id,
                reaches ? words("It adds nothing: no surface and no air in the picture gets its light.")
                        : words("It adds nothing: by Reach and its strengths it lights neither set nor air."),
                adds->second);
        }
    }
    void sun()
    {
        const scene::Element* e = project_.find(shot_.sunId);
        if (!e || project_.silent(*e))
            return;
        const auto high = numberOf(*e, "elevation");
        if (!high || *high >= 0.0 || (shot_.sky && shot_.sky->hasSun()))
            return;
        Finding& f = say(Grade::Advice, "night", e->id,
                         words("The sun stands %1° under the horizon and lights nothing.", {shownNumber(-*high, 3)}),
                         *high);
        mends(f, words("Sun at 6°"), {{e->id + ".elevation", "6"}});
    }
    void water()
    {
        for (const geometry::PlacedWater& w : shot_.waters) {
            const auto* open = dynamic_cast<const media::OpenWater*>(w.surface.get());
            const scene::Element* e = project_.find(w.element);
            if (!open || !e)
                continue;
            const double folded = double(open->field().shareUnder(0.f));
            if (folded < muchFolded)
                continue;
            Finding& f = say(Grade::Trouble, "folds", w.element,
                             words("%1 of its waves fold over themselves.", {share(folded)}), folded);
            if (scene::findParameter(e->kind->parameters, "holdsFolds"))
                mends(f, words("Hold folds"), {{w.element + ".holdsFolds", "on"}, {w.element + ".foldLimit", "2 %"}});
        }
    }
    void sets()
    {
        for (const auto& [id, box] : measured_.bounds) {
            const scene::Element* e = project_.find(id);
            if (!e || box.isEmpty() || project_.silent(*e))
                continue;
            const Vec3 size = box.size();
            const double most = double(std::max({size.x, size.y, size.z}));
            if (most > 0.25 && most < 4e4)
                continue;
            Finding& f = say(Grade::Advice, "scale", id,
                             words("It is %1 long, which is %2 for a set: its file may be in another unit.",
                                   {length(most), (most < 1.0 ? words("small") : words("large"))}),
                             most);
            if (const auto scale = numberOf(*e, "scale")) {
                const double by = most < 1.0 ? 100.0 : most > 4e5 ? 0.001 : 0.01;
                mends(f, words("Scale × %1", {shownNumber(by, 3)}), {{id + ".scale", formatNumber(*scale * by, 9)}});
            }
        }
    }
    void picture()
    {
        if (shot_.airDensity == 0.f)
            for (const scene::Element& e : project_.elements)
                if (const auto d = numberOf(e, "density"); d && *d == 0.0 && e.kind->single && !project_.silent(e)) {
                    for (Finding& f : out_)
                        if (f.element == e.id)
                            mends(f, words("Density 100 %"), {{e.id + ".density", "100 %"}});
                }
        if (measured_.white && *measured_.white > muchWhite) {
            Finding& f = say(Grade::Advice, "white", {},
                             words("%1 of the picture is as bright as can be shown.", {share(*measured_.white)}),
                             *measured_.white);
            for (const scene::Element& e : project_.elements)
                if (const auto ev = numberOf(e, "exposure"); ev && e.kind->family == scene::Family::Finish)
                    mends(f, words("Exposure one stop less"), {{e.id + ".exposure", formatNumber(*ev - 1.0, 4)}});
        }
        const std::string names[] = {words("foreground"), words("middle"), words("background")};
        for (std::size_t i = 0; i < measured_.separation.size() && i < 2; ++i)
            if (const float apart = measured_.separation[i]; apart != 0.f && std::abs(apart) < mergesBelow)
                say(Grade::Advice, "merge", {},
                    words("The %1 and the %2 stand %3 stops apart: they read as one plane.",
                          {names[i], names[i + 1], shownNumber(std::abs(double(apart)), 2)}),
                    std::abs(double(apart)));
    }

    const scene::Project& project_;
    const shot::Shot& shot_;
    const Measured& measured_;
    geometry::View view_;
    std::vector<Ray> rays_;
    float lowest_ = 1e30f; ///< of what they meet [m]
    std::vector<Finding> out_;
};
} // namespace

std::vector<Finding> checksOf(const scene::Project& project, const shot::Shot& shot, const Measured& measured)
{
    return Checking(project, shot, measured).all();
}

std::optional<Box3> boundsOf(const scene::Project& project, const scene::Element& e, Store& store, JobControl& job)
{
    try {
        const auto placed = elements::placedSet(project, e, store, job);
        if (!placed)
            return std::nullopt;
        Box3 box;
        const Box3& b = placed->set->bounds;
        for (int i = 0; i < 8; ++i)
            box.extendBy(Vec3(i & 1 ? b.max.x : b.min.x, i & 2 ? b.max.y : b.min.y, i & 4 ? b.max.z : b.min.z) *
                         placed->toWorld);
        return box;
    } catch (const Error&) {
        return std::nullopt; // that its file is not there is among the shot's notes
    }
}

Measured measured(const scene::Project& project, const std::shared_ptr<const shot::Shot>& shot, Store& store,
                  JobControl& job)
{
    constexpr int width = 320, height = 180, passes = 3;
    Measured out;
    const std::atomic<bool> never{false};
    render::Frame frame(shot, width, height);
    frame.setFollowsPaths(false);
    for (int i = 0; i < passes; ++i) {
        frame.trace(i, never);
        frame.light(never);
        job.check();
    }
    std::vector<float> rgb, quick;
    frame.resolve(rgb);
    frame.quickPicture(quick, never);
    out.costs = frame.costs();
    const auto light = [](const std::vector<float>& of) {
        double sum = 0.0;
        for (std::size_t i = 0; i + 2 < of.size(); i += 3)
            sum += double(luminance(Vec3(of[i], of[i + 1], of[i + 2])));
        return of.empty() ? 0.0 : sum * 3.0 / double(of.size());
    };
    const double whole = std::max(1e-12, light(rgb));
    for (const scene::Element& e : project.elements) {
        if (project.silent(e))
            continue;
        if (e.kind->family == scene::Family::Air)
            out.adds[e.id] = light(frame.mediumAlone(e.id).rgb) / whole;
        else if (e.kind->family == scene::Family::Lights)
            out.adds[e.id] = light(frame.lampAlone(e.id).rgb) / whole;
        if (const auto box = boundsOf(project, e, store, job))
            out.bounds[e.id] = *box;
    }
    std::vector<std::uint8_t> shown(std::size_t(width) * height * 4);
    finish::Display(shot->look).apply(rgb.data(), width, height, shown.data(), std::size_t(width) * 4, 4);
    std::size_t white = 0;
    for (std::size_t i = 0; i < shown.size(); i += 4)
        white += shown[i] >= 250 && shown[i + 1] >= 250 && shown[i + 2] >= 250;
    out.white = double(white) / (double(width) * height);
    std::vector<float> depth(std::size_t(width) * height);
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x)
            depth[std::size_t(y) * width + std::size_t(x)] = frame.depthAt(x, y);
    const PlanePicture picture{width, height, rgb, depth};
    if (std::count_if(depth.begin(), depth.end(), [&](float d) { return d < picture.farFrom; }) > width * height / 20)
        out.separation = planesOf(picture, bordersFromDepth(picture)).separation;
    return out;
}
} // namespace hygros::reading
