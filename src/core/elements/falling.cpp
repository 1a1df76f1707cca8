#include "elements/falling.h"

#include "base/words.h"

#include "base/shown_units.h"
#include "media/wind.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr int groups = 3, classesInGroup = 5;
constexpr float farthest = 60.f; ///< none can be told from the veil beyond [m]

/// Those of one group are drawn as far as each other and are veil beyond that.
struct Group {
    float extinction = 0.f, reach = 0.f;
    std::vector<media::Falling::Class> classes;
};

std::vector<Group> groupsOf(const FallLaw& law, float drawn, const geometry::Camera& camera)
{
    std::vector<Group> out(groups);
    const float ratio = std::pow(law.largest / law.firstDrawn, 1.f / (groups * classesInGroup));
    // What is in sight as far as a metre [m³]; as wide as pictures usually are.
    const float half = 0.5f * camera.sensorMm / std::max(1.f, camera.focalMm),
                inSight = 4.f * half * half * 0.5625f / 3.f;
    float wanted = 0.f; // in sight, were the scale of the reaches 1
    for (int g = 0; g < groups; ++g) {
        Group& group = out[static_cast<std::size_t>(g)];
        for (int k = 0; k < classesInGroup; ++k) {
            const float from = law.firstDrawn * std::pow(ratio, static_cast<float>(g * classesInGroup + k)),
                        to = from * ratio;
            media::Falling::Class c;
            c.number = law.number(from, to);
            const float takes = law.extinction(from, to);
            // The diameter that takes for each what they take together.
            const float diameter = c.number > 0.f ? 1e3f * std::sqrt(takes / (c.number * 0.5f * pi)) : from;
            c.diameter = 1e-3f * (law.form == media::Falling::Form::Leaves ? 0.5f * (from + to) : diameter);
            c.speed = law.speed(0.5f * (from + to));
            group.extinction += takes;
            group.classes.push_back(c);
        }
        // Large ones are seen farther than in proportion to their size: they take light by their section.
        group.reach = std::pow(group.classes[classesInGroup / 2].diameter * 1e3f, 1.7f);
        for (const media::Falling::Class& c : group.classes)
            wanted += c.number * inSight * group.reach * group.reach * group.reach;
    }
    const float scale = std::cbrt(std::max(0.f, drawn) / std::max(1e-9f, wanted));
    for (Group& group : out) {
        group.reach = std::min(farthest, group.reach * scale);
        if (group.reach < 0.5f)
            group.reach = 0.f;
        for (media::Falling::Class& c : group.classes)
            c.reach = group.reach;
    }
    return out;
}
} // namespace

Vec3 blownAt(const scene::Project& project, const FallSettings& s, float height)
{
    const auto level = [](double speed, double heading) {
        const auto turn = static_cast<double>(radians(heading));
        return Vec3(static_cast<float>(std::sin(turn) * speed), 0.f, static_cast<float>(-std::cos(turn) * speed));
    };
    const scene::Element* wind = project.find(s.wind);
    const auto* w = settingsOf<WindSettings>(wind);
    if (!w)
        return level(s.driftSpeed, s.driftHeading);
    media::Wind profile;
    profile.velocity = level(w->speed, w->heading);
    profile.reference = static_cast<float>(w->reference);
    profile.roughness = static_cast<float>(w->roughness);
    profile.ground = static_cast<float>(w->ground);
    return project.silent(*wind) ? Vec3(0.f) : profile.mean(height);
}

void fall(FreezeContext& c, const FallLaw& law, const FallSettings& s, const std::string& what)
{
    const geometry::Camera& camera = c.shot.camera;
    const std::vector<Group> all = groupsOf(law, static_cast<float>(s.drawn), camera);
    const auto veil = [&](float extinction, float clear) {
        if (!(extinction > 1e-9f))
            return;
        media::Medium m;
        m.id = c.element.id;
        m.shape = media::Shape::Uniform;
        m.top = static_cast<float>(s.top);
        m.sigmaT = extinction;
        m.albedo = law.albedo;
        m.phase = law.phase;
        m.clear = clear;
        m.clearCentre = camera.position;
        c.shot.media.push_back(m);
    };
    veil(law.extinction(law.smallest, law.firstDrawn), 0.f);
    media::Falling falling;
    falling.id = c.element.id;
    falling.form = law.form;
    falling.flutter = law.flutter;
    falling.flutterRate = law.flutterRate;
    falling.splashes = law.splashes;
    falling.bounce = law.bounce;
    falling.shape = law.shape;
    falling.colours = law.colours;
    falling.tumble = law.tumble;
    double drawn = 0.0;
    float nearest = farthest, reach = 0.f;
    const float half = 0.5f * camera.sensorMm / std::max(1.f, camera.focalMm);
    for (const Group& g : all) {
        veil(g.extinction, g.reach);
        falling.classes.insert(falling.classes.end(), g.classes.begin(), g.classes.end());
        nearest = std::min(nearest, g.reach);
        reach = std::max(reach, g.reach);
        for (const media::Falling::Class& one : g.classes)
            drawn += double(one.number) * double(4.f * half * half * 0.5625f / 3.f) * std::pow(double(g.reach), 3.0);
    }
    falling.top = static_cast<float>(s.top);
    falling.seed = static_cast<std::uint32_t>(s.seed);
    // Of the whole frame, in the middle of its open shutter: each is a streak over all of that.
    const scene::TimeSettings& time = c.whole.time;
    const double open = time.shutterAngle / 360.0,
                 at = time.looped(time.seconds(c.whole.frameNumber() + time.shutterPhase / 360.0 + 0.5 * open));
    falling.blur = static_cast<float>(open / time.rate.perSecond());
    const float height = camera.position.y;
    falling.wind = blownAt(c.project, s, height);
    const FreezeContext then{c.project, c.element, at, c.shot, c.placed, c.store, c.job, c.whole};
    const Drifted carried = drifted(then, s, double(height));
    const double loop = time.loop;
    const auto u = static_cast<float>(loop > 0.0 ? at / loop : 0.0);
    const float before = u * u * (3.f - 2.f * u);
    falling.moments.push_back({at, carried.offset, 1.f - before});
    if (loop > 0.0)
        falling.moments.push_back({at - loop, carried.offset - carried.loop.back, before});
    c.shot.falling.push_back(std::move(falling));
    const float takes = law.extinction(law.smallest, law.largest);
    c.tell(words("About %1 thousand %2 in sight are drawn, small ones to %3 and large ones to %4; the rest is a veil. "
                 "Through all of it one sees %5.",
                 {shownNumber(std::round(drawn * 1e-2) * 0.1, 3), what,
                  formatQuantity(double(nearest), Quantity::Length), formatQuantity(double(reach), Quantity::Length),
                  formatQuantity(double(visibilityOfExtinction(double(takes))), Quantity::Length)}));
}
} // namespace hygros::elements
