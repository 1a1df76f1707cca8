/// Feed: what feeds a plume.
#include "elements/plume_parts.h"

#include "base/words.h"
#include "elements/plume_settings.h"
#include "geometry/chosen_faces.h"
#include "image/image.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
/// Seconds since the project's first frame.
double sinceFirst(const FreezeContext& c)
{
    return c.seconds - (c.whole.time.first - 1) / c.whole.time.rate.perSecond();
}
/// The first frame at which so much time has passed since the project's first.
std::string frameAfter(const FreezeContext& c, double seconds)
{
    constexpr double rounding = 1e-6;
    return std::to_string(c.whole.time.first +
                          std::lround(std::ceil(seconds * c.whole.time.rate.perSecond() - rounding)));
}
/// Whether it feeds now, or within so many seconds: one that has no beginning did so all through the pre-roll.
bool feedsNow(const FreezeContext& c, const FeedSettings& s, double within = 0.0)
{
    constexpr double rounding = 1e-6;
    const double now = sinceFirst(c) + rounding;
    return (s.begins <= 0.0 || now + within >= s.begins) && (s.lasts <= 0.0 || now < std::max(0.0, s.begins) + s.lasts);
}

struct MaskKey {
    bool operator==(const MaskKey&) const = default;
};
/// How bright a picture is, as it is seen: black feeds nothing, white all.
std::shared_ptr<const media::FeedMask> maskOf(const FreezeContext& c, const FeedSettings& s)
{
    constexpr int most = 1024; // along a side
    return c.read(scene::resolved(c.project, s.mask), MaskKey{}, [&] {
        const image::Image picture = image::readColour(scene::resolved(c.project, s.mask));
        const int step = (std::max(picture.width, picture.height) + most - 1) / most;
        auto mask = std::make_shared<media::FeedMask>();
        mask->width = picture.width / step;
        mask->height = picture.height / step;
        for (int y = 0; y < mask->height; ++y)
            for (int x = 0; x < mask->width; ++x) {
                float sum = 0.f;
                for (int j = 0; j < step; ++j)
                    for (int i = 0; i < step; ++i) {
                        const float* p = picture.at(x * step + i, y * step + j);
                        const float v = luminance(Vec3(p[0], p[1], p[2]));
                        sum += std::isfinite(v) ? std::pow(std::clamp(v, 0.f, 1.f), 1.f / 2.2f) : 0.f;
                    }
                mask->share.push_back(sum / static_cast<float>(step * step));
            }
        return std::shared_ptr<const media::FeedMask>(std::move(mask));
    });
}

std::optional<media::Feed> feedOf(const FreezeContext& c, const scene::Element& element, float voxel)
{
    const auto& s = element.as<FeedSettings>();
    using Form = media::Feed::Form;
    media::Feed f;
    f.id = element.id;
    f.half = s.size * 0.5f;
    if (s.form == "object") {
        const scene::Element* object = c.project.find(s.object);
        const auto placed = object ? placedSet(c.project, *object, c.store, c.job) : std::nullopt;
        if (!placed)
            return std::nullopt;
        f.form = Form::Points;
        f.toWorld = placed->frame;
        f.points = surfaceOf(c, *placed, placed->toWorld * placed->frame.inverse(), 0.6f * voxel, s.material,
                             s.painted);
        if (s.within) { // of the faces only what lies in its box
            auto kept = std::make_shared<std::vector<media::FeedPoint>>();
            const Vec3 half = s.size * 0.5f;
            for (const media::FeedPoint& p : *f.points) {
                const Vec3 from = p.at * placed->frame - s.position;
                if (std::abs(from.x) <= half.x && std::abs(from.y) <= half.y && std::abs(from.z) <= half.z)
                    kept->push_back(p);
            }
            f.points = std::move(kept);
        }
        f.half = (placed->set->bounds.max - placed->set->bounds.min) * 0.5f;
    } else if (s.form == "embers") {
        f.points = emberPoints(c, s.particles, 0.6f * voxel);
        if (!f.points)
            return std::nullopt;
        f.form = Form::Points;
        f.half = Vec3(0.f);
    } else {
        f.form = s.form == "ball"   ? Form::Ball
                 : s.form == "box"  ? Form::Box
                 : s.form == "line" ? Form::Line
                                    : Form::Disc;
        Mat4 turn, move;
        turn.rotate(Vec3(0.f, -radians(s.turn), 0.f));
        move.setTranslation(s.position);
        f.toWorld = turn * move * frameOf(c.project, s.follows, c.store, c.job).value_or(Mat4());
        if (!s.mask.empty() && s.form != "line")
            f.mask = maskOf(c, s);
    }
    f.heat = std::max(0.f, static_cast<float>(s.temperature) - airAround);
    f.soot = static_cast<float>(s.smoke * 1e-3);
    f.fuel = static_cast<float>(s.fuel);
    f.rate = feedsNow(c, s) ? static_cast<float>(s.rate) : 0.f;
    f.pushes = (s.speed > 0.0 || s.outward != 0.0) && feedsNow(c, s, 1.0 / c.whole.time.rate.perSecond());
    f.outward = static_cast<float>(s.outward);
    const float climb = radians(s.climb), heading = radians(s.heading);
    f.velocity = Vec3(std::sin(heading) * std::cos(climb), std::sin(climb), -std::cos(heading) * std::cos(climb)) *
                 static_cast<float>(s.speed);
    f.noise.scale = static_cast<float>(s.scaleNoise);
    f.noise.contrast = static_cast<float>(s.contrast);
    f.noise.octaves = 2;
    f.noise.seed = static_cast<std::uint32_t>(s.seed);
    f.noise.evolution = static_cast<float>(std::max(0.0, c.seconds * s.change + 1000.0));
    return f;
}
} // namespace

namespace {
/// Why nothing comes of the embers that are to feed; nothing where something does.
void tellOfEmbers(const FreezeContext& c, const FeedSettings& s)
{
    const scene::Element* embers = c.project.find(s.particles);
    if (!embers)
        c.note("Choose the embers that feed.");
    else if (const scene::Parameter* rides = scene::findParameter(embers->kind->parameters, "plume");
             rides && std::get<std::string>(embers->value("plume")) == s.plume)
        c.note("These embers ride the plume that they are to feed: choose those of another.");
    else if (!keptFrame(c.whole, s.particles, c.whole.frameNumber(), c.store))
        c.note("\"" + embers->name + "\" is not baked at this frame: nothing feeds.");
}
/// What has become of painted faces; false where nothing more is to be said.
bool tellOfPainted(const FreezeContext& c, const FeedSettings& s)
{
    const auto chosen = geometry::ChosenFaces::parse(s.painted);
    if (!chosen) {
        c.note("What was painted on the object cannot be read: nothing feeds. Paint it anew.");
        return false;
    }
    const auto placed = placedSet(c.project, *c.project.find(s.object), c.store, c.job);
    const std::size_t gone = chosen->on(*placed->set).gone;
    if (gone == chosen->count())
        c.note("The object's mesh has changed since its faces were painted: none of the " + std::to_string(gone) +
               " is there, nothing feeds. Paint it anew.");
    else if (gone > 0)
        c.note("The object's mesh has changed since its faces were painted: " + std::to_string(gone) + " of " +
               std::to_string(chosen->count()) + " are no longer there.");
    return gone != chosen->count();
}
} // namespace

std::vector<media::Feed> feedsOf(const FreezeContext& c, const std::string& plume, float voxel)
{
    std::vector<media::Feed> feeds;
    for (const scene::Element& e : c.project.elements) {
        const auto* settings = settingsOf<FeedSettings>(&e);
        if (!settings || c.project.silent(e) || settings->plume != plume)
            continue;
        if (auto f = feedOf(c, e, voxel))
            feeds.push_back(std::move(*f));
    }
    return feeds;
}

Kind feedKind()
{
    using S = FeedSettings;
    Kind k;
    k.id = "feed";
    k.label = "Feed";
    k.help = "What feeds a plume: a shape or an object that gives it heat, fuel and smoke.";
    k.family = scene::Family::Fire;
    k.handles = [](const scene::Element&) {
        Handles h;
        h.place = "position";
        h.turn = "turn";
        return h;
    };
    scene::TableOf<S> t;
    t.text("plume", "feeds", &S::plume).linked("plume").in("Feed").says("The plume that it feeds.");
    t.choice("form", "form", &S::form, {"disc", "ball", "box", "line", "object", "embers"})
        .in("Feed")
        .says("Its shape, the surface of a set object, or where baked embers fly.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Feed")
        .when("form=object")
        .says("The set object whose surface feeds.");
    t.text("painted", "painted faces", &S::painted)
        .edited("faces")
        .in("Feed")
        .when("form=object")
        .says("Faces painted in the Picture feed, no others; where none are, all do.");
    t.text("particles", "embers", &S::particles)
        .linked("embers")
        .in("Feed")
        .when("form=embers")
        .says("The baked Embers that leave a trail; those of another plume.");
    t.file("mask", "mask", &S::mask)
        .opens(pictureFiles)
        .in("Feed")
        .when("form=disc|ball|box")
        .says("A picture laid over it from above, its top to the back: it feeds where that is bright.");
    t.text("material", "of material", &S::material)
        .in("Feed")
        .when("form=object")
        .says("Only faces of the material of this name feed; empty: all.");
    t.toggle("within", "only in its box", &S::within)
        .in("Feed")
        .when("form=object")
        .says("Only faces in a box feed; its place and size stand below.");
    t.number("temperature", "temperature", &S::temperature, Quantity::Temperature)
        .hard(0, 1e4)
        .soft(288, 2000)
        .lead()
        .in("Feed")
        .says("Of what it gives; the air has 288 K.");
    t.number("fuel", "fuel", &S::fuel, Quantity::Share)
        .hard(0, 10)
        .soft(0, 1)
        .lead()
        .in("Feed")
        .says("Share of what it gives that burns; 0 gives smoke alone.");
    t.number("smoke", "smoke", &S::smoke, Quantity::Plain)
        .hard(0, 1e4)
        .soft(0, 10)
        .in("Feed")
        .says("Grams of smoke in a cubic metre of what it gives; 1 hides what is 30 cm behind.");
    t.number("rate", "rate", &S::rate, Quantity::Frequency)
        .hard(0, 1000)
        .soft(0, 30)
        .in("Feed")
        .says("How fast the air in it becomes like what it gives; 0 stops it.");
    t.number("speed", "speed", &S::speed, Quantity::Speed)
        .hard(0, 1000)
        .soft(0, 20)
        .in("Feed")
        .says("What it gives comes out so fast; 0 leaves it to rise by itself.");
    t.number("climb", "climbs", &S::climb, Quantity::Angle)
        .hard(-90, 90)
        .soft(-90, 90)
        .in("Feed")
        .says("Direction of that speed over the level; 90 is straight up.");
    t.number("heading", "heading", &S::heading, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 360)
        .in("Feed")
        .says("Direction of that speed from north, clockwise.");
    t.number("outward", "outward", &S::outward, Quantity::Speed)
        .hard(-1000, 1000)
        .soft(0, 20)
        .in("Feed")
        .says("Speed away from its middle as well, level from a disc; from an object straight off its faces.");
    t.number("begins", "begins after", &S::begins, Quantity::Time)
        .hard(0, 1e6)
        .soft(0, 10)
        .in("Feed")
        .says("Counted from the first frame; at 0 it feeds through the pre-roll too.");
    t.number("lasts", "lasts", &S::lasts, Quantity::Time)
        .hard(0, 1e6)
        .soft(0, 10)
        .in("Feed")
        .says("How long it feeds; 0 goes on to the end.");
    t.number("contrast", "unevenness", &S::contrast, Quantity::Plain)
        .hard(0, 4)
        .soft(0, 2)
        .in("Noise")
        .says("0 feeds evenly; above 1 in places only.");
    t.number("noiseScale", "noise scale", &S::scaleNoise, Quantity::Length)
        .hard(0.001, 1e3)
        .soft(0.02, 5)
        .log()
        .in("Noise")
        .says("Size of its patches.");
    t.number("change", "changes", &S::change, Quantity::Frequency)
        .hard(0, 1000)
        .soft(0, 10)
        .in("Noise")
        .says("How often a second the patches are others.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Noise").says("Another number, another pattern.");
    t.point("position", "position", &S::position).place().in("Place").says("Its middle.");
    t.point("size", "size", &S::size)
        .hard(0.001, 1e4)
        .in("Place")
        .says("Width, height and depth; a line is as thick as high.");
    t.number("turn", "turn", &S::turn, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Place")
        .when("form=disc|ball|box|line")
        .says("Turn about the vertical.");
    t.text("follows", "goes with", &S::follows)
        .linked("set")
        .carrier()
        .in("Place")
        .when("form=disc|ball|box|line")
        .says("A set, or a part of one, that it is fixed to.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto plume = measuresOf(c.project.find(s.plume));
        if (plume && s.form == "embers")
            return tellOfEmbers(c, s);
        if (!plume || s.form != "object")
            return;
        const auto f = feedOf(c, c.element, plume->voxel); // its places are kept
        if (f && !s.painted.empty() && !tellOfPainted(c, s))
            return;
        if (!f || !f->points->empty())
            return;
        const scene::Element& object = *c.project.find(s.object);
        const auto placed = placedSet(c.project, object, c.store, c.job);
        const auto& materials = placed->set->materials;
        c.note(!s.material.empty() && std::none_of(materials.begin(), materials.end(),
                                                   [&](const geometry::Material& m) { return m.name == s.material; })
                   ? "The object has no material '" + s.material + "' any more: nothing feeds."
               : !s.painted.empty() ? "No painted face feeds: the others that are asked for lie elsewhere."
               : s.within           ? "No face of the object lies in its box: nothing feeds."
                                    : "The object's faces have no area: nothing feeds.");
    };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const scene::Element* plume = c.project.find(s.plume);
        if (!settingsOf<PlumeSettings>(plume))
            return c.note("Choose the plume that it feeds.");
        carried(c, s.follows); // says what is not there
        const auto& p = plume->as<PlumeSettings>();
        if (s.form == "object" || s.form == "embers")
            return;
        const Vec3 at = s.position * frameOf(c.project, s.follows, c.store, c.job).value_or(Mat4());
        if (std::abs(at.x - p.position.x) > 0.5f * p.size.x || std::abs(at.z - p.position.z) > 0.5f * p.size.z ||
            at.y < p.position.y || at.y > p.position.y + p.size.y) {
            shot::Note& n = c.finding("feedOutside",
                                      words("It lies outside of the plume's box: nothing comes of it there."));

            if (s.follows.empty()) {
                const auto within = [](float v, float lo, float hi) { return std::clamp(v, std::min(lo, hi), hi); };
                const Vec3 half = s.size * 0.5f, room = p.size * 0.5f;
                const Vec3 to(within(s.position.x, p.position.x - room.x + half.x, p.position.x + room.x - half.x),
                              within(s.position.y, p.position.y + half.y, p.position.y + p.size.y - half.y),
                              within(s.position.z, p.position.z - room.z + half.z, p.position.z + room.z - half.z));
                n.mends = words("Into its box");
                n.settings = {{c.element.id + ".position",
                               formatNumber(to.x, 5) + " " + formatNumber(to.y, 5) + " " + formatNumber(to.z, 5)}};
            }
        } else if (s.rate <= 0.0) {
            shot::Note& n = c.finding("nothingLeaves", words("Its rate is 0: nothing flows."));

            const bool isKeyed = c.whole.find(c.element.id)->track("rate") != nullptr;
            if (isKeyed) // it will
                n.isTrouble = false, n.check.clear();
            else
                n.mends = words("Rate 12 Hz"), n.settings = {{c.element.id + ".rate", "12"}};
        } else if (s.fuel <= 0.0 && s.smoke <= 0.0 && std::abs(s.temperature - double(airAround)) < 1.0 &&
                   s.speed <= 0.0 && s.outward == 0.0) {
            shot::Note& n = c.finding(
                "nothingLeaves", words("It gives air as it is around: neither heat nor fuel nor smoke comes of it."));

            n.mends = words("Smoke of 1 g/m³ at 400 K");
            n.settings = {{c.element.id + ".smoke", "1"}, {c.element.id + ".temperature", "400 K"}};
        } else if (!feedsNow(c, s))
            c.tell(sinceFirst(c) < s.begins
                       ? words("It feeds from frame %1 on.", {frameAfter(c, s.begins)})
                       : words("It stopped feeding at frame %1.", {frameAfter(c, std::max(0.0, s.begins) + s.lasts)}));
        else if (s.fuel > 0.0 && s.temperature < p.ignition) {
            shot::Note& n = c.finding("unlit", words("It is cooler than %1, at which the plume's fuel burns: it stays "
                                                     "dark unless something else lights it.",
                                                     {formatQuantity(p.ignition, Quantity::Temperature)}));

            const std::string hotter = formatQuantity(p.ignition + 300.0, Quantity::Temperature);
            n.mends = words("Temperature %1", {hotter});
            n.settings = {{c.element.id + ".temperature", hotter}};
        }
        if (const double wide = std::min(double(s.size.x), double(s.size.z)); wide < p.cell()) {
            shot::Note& n = c.finding(
                "coarse", words("It is smaller than the plume's voxels: %1 across, and they are %2 wide.",
                                {formatQuantity(wide, Quantity::Length), formatQuantity(p.cell(), Quantity::Length)}));

            if (p.detail == "preview" && wide >= p.voxel) {
                n.mends = words("Detail as in the shot");
                n.settings = {{plume->id + ".detail", "shot"}};
            } else {
                const std::string finer = formatQuantity(0.5 * wide * p.voxel / p.cell(), Quantity::Length);
                n.mends = words("Voxels of %1", {finer});
                n.settings = {{plume->id + ".voxel", finer}};
            }
        }
    };
    return k;
}
} // namespace hygros::elements
