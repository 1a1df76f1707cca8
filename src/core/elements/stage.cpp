/// The set and the shot camera.
#include "elements/floats.h"

#include "base/words.h"
#include "elements/kinds.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct SetSettings : scene::SettingsOf<SetSettings> {
    std::string file;
    Vec3 position{0.f, 0.f, 0.f};
    double turn = 0.0, scale = 1.0;
    std::string unit = "metres";
    bool visible = true, casts = true, matte = false;
    bool floats = false;
    double mass = 0.0, weightAt = 0.0;
    bool plays = false;
    std::int64_t clip = 1;
    double clipSpeed = 1.0, clipOffset = 0.0;
    std::string clipEnds = "loop";
};
double metresOf(const std::string& unit)
{
    return unit == "centimetres"   ? 0.01
           : unit == "millimetres" ? 0.001
           : unit == "inches"      ? 0.0254
           : unit == "feet"        ? 0.3048
                                   : 1.0;
}
struct ShotSettings : scene::SettingsOf<ShotSettings> {
    double focal = 35.0, sensor = 36.0, focus = 10.0, number = 2.8, roll = 0.0;
    bool blurs = false;
    Vec3 position{0.f, 1.7f, 8.f}, aim{0.f, 1.7f, 0.f};
    std::string follows;
};

struct PosedKey {
    Identity set;
    int clip;
    double seconds;
    bool operator==(const PosedKey&) const = default;
};

/// The set as its clip has it at the project's frame.
std::shared_ptr<const geometry::SetGeometry> posed(const scene::Project& project, const SetSettings& s,
                                                   const std::shared_ptr<const geometry::SetGeometry>& set,
                                                   Store& store, JobControl& job)
{
    const auto clip = static_cast<int>(s.clip) - 1;
    if (!s.plays || clip < 0 || clip >= static_cast<int>(set->clips.size()))
        return set;
    const double length = set->clips[static_cast<std::size_t>(clip)].seconds;
    double at = (project.time.looped(project.time.seconds(project.frame)) - s.clipOffset) * s.clipSpeed;
    if (s.clipEnds == "hold" || length <= 0.0) {
        at = std::clamp(at, 0.0, length);
    } else {
        const double turns = std::floor(at / length);
        at -= turns * length;
        if (s.clipEnds == "swing" && std::fmod(std::abs(turns), 2.0) == 1.0)
            at = length - at;
    }
    return store.get(
        PosedKey{set, clip, at},
        [&] { return geometry::posedSet(set, scene::resolved(project, s.file), clip, at, job); }, &job);
}

std::optional<geometry::PlacedSet> placedFile(const scene::Project& project, const scene::Element& element,
                                              Store& store, JobControl& job)
{
    if (element.as<SetSettings>().file.empty())
        return std::nullopt;
    const auto& s = element.as<SetSettings>();
    geometry::PlacedSet placed;
    placed.set = posed(project, s, keptSet(store, scene::resolved(project, s.file), job), store, job);
    Mat4 scale, turn, move;
    scale.setScale(Vec3(static_cast<float>(s.scale * metresOf(s.unit))));
    turn.rotate(Vec3(0.f, -radians(s.turn), 0.f));
    move.setTranslation(s.position);
    placed.toWorld = scale * turn * move;
    Mat4 own;
    own.setScale(Vec3(static_cast<float>(s.scale)));
    placed.frame = own * turn * move;
    placed.element = element.id;
    placed.visible = s.visible;
    placed.casts = s.casts;
    placed.matte = s.matte;
    return placed;
}

/// How it floats, of one that does.
std::optional<FloatingPose> afloat(const scene::Project& project, const scene::Element& element,
                                   const geometry::PlacedSet& still, Store& store, JobControl& job)
{
    const auto& s = element.as<SetSettings>();
    if (!s.floats)
        return std::nullopt;
    // Its way over the water, by where keys have it a little later.
    Vec2 velocity(0.f);
    if (!element.motion.empty()) {
        constexpr double ahead = 0.5;
        const scene::Project later = scene::evaluated(project, project.frame + ahead);
        if (const scene::Element* then = later.find(element.id)) {
            const Vec3 way = then->as<SetSettings>().position - s.position;
            velocity = Vec2(way.x, way.z) * static_cast<float>(project.time.rate.perSecond() / ahead);
        }
    }
    return floatingPose(project, still, velocity, {s.mass, s.weightAt}, store, job);
}

void move(geometry::PlacedSet& placed, const std::optional<FloatingPose>& pose)
{
    if (!pose || !pose->trouble.empty())
        return;
    placed.toWorld = placed.toWorld * pose->moves;
    placed.frame = placed.frame * pose->moves;
}

std::optional<geometry::PlacedSet> placedAfloat(const scene::Project& project, const scene::Element& element,
                                                Store& store, JobControl& job)
{
    auto placed = placedFile(project, element, store, job);
    if (placed)
        move(*placed, afloat(project, element, *placed, store, job));
    return placed;
}
} // namespace

namespace {
void tellFiles(const FreezeContext& c, const scene::Element& element, const geometry::PlacedSet& placed)
{
    c.cameFrom(versionOf(scene::resolved(c.project, element.as<SetSettings>().file)));
    for (const FileVersion& beside : placed.set->beside)
        c.cameFrom(beside);
}
} // namespace

std::optional<geometry::PlacedSet> placedSet(const FreezeContext& c, const scene::Element& element)
{
    const auto placed = placedSet(c.project, element, c.store, c.job);
    if (placed)
        tellFiles(c, element, *placed);
    return placed;
}

Kind setKind()
{
    using S = SetSettings;
    Kind k;
    k.id = "set";
    k.stage = Kind::Stage::Set;
    k.hasObjects = true;
    k.column = Kind::Column::Objects;
    k.placed = placedAfloat;
    k.handles = [](const scene::Element&) { return Handles{"position", "turn", "scale", {}, {}, {}}; };
    k.actions = {"knownLength", "take"};
    k.brings = geometryFiles;
    k.readBefore = [](const std::filesystem::path& file, Store& store, JobControl& job) { keptSet(store, file, job); };
    k.bring = [](scene::Project& project, const std::filesystem::path& file, const std::string& name, const Seen&,
                 Store& store) -> scene::Element& {
        scene::Element& e = project.add(*findKind("set"), file.stem().string());
        e.set("file", name);
        JobControl none;
        const auto set = keptSet(store, file, none);
        const float metres = set->metresPerUnit;
        e.set("plays", !set->clips.empty());
        for (const auto& [unit, size] : {std::pair("centimetres", 0.01f), std::pair("millimetres", 0.001f),
                                         std::pair("inches", 0.0254f), std::pair("feet", 0.3048f)})
            if (std::abs(metres - size) < 0.01f * size)
                e.set("unit", std::string(unit));
        return e;
    };
    k.label = "Set";
    k.help = "Geometry from a glTF, OBJ, PLY or FBX file.";
    k.family = scene::Family::Set;
    scene::TableOf<S> t;
    t.file("file", "file", &S::file)
        .opens(geometryFiles)
        .in("File")
        .says("The geometry file, relative to the project.");
    t.number("scale", "scale", &S::scale, Quantity::Plain)
        .hard(1e-6, 1e6)
        .soft(0.001, 1000)
        .log()
        .lead()
        .in("Place")
        .says("Enlarges it; on top of the file's unit.");
    t.number("turn", "turn", &S::turn, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .lead()
        .heading()
        .in("Place")
        .says("Turn about the vertical.");
    t.point("position", "position", &S::position).place().in("Place").says("Where the file's origin stands.");
    t.choice("unit", "file's unit", &S::unit, {"metres", "centimetres", "millimetres", "inches", "feet"})
        .in("Place")
        .says("What one unit of the file is.");
    t.toggle("visible", "seen", &S::visible)
        .in("Picture")
        .says("Seen by the camera and in mirrors; off leaves its shadow alone.");
    t.toggle("casts", "casts shadow", &S::casts).in("Picture").says("Shades the set and the air.");
    t.toggle("matte", "matte", &S::matte)
        .in("Picture")
        .says("Holds the picture open where it stands (alpha 0), still shades; before a plate the plate shows there.");
    t.toggle("floats", "floats", &S::floats)
        .in("Afloat")
        .says("Lies on the project's water as deep as its weight asks, and waves lift, pitch and roll it.");
    t.number("mass", "mass", &S::mass, Quantity::Mass)
        .hard(0, 1e9)
        .soft(0, 1e5)
        .in("Afloat")
        .when("floats=on")
        .says("0: what it weighs as deep as it stands.");
    t.number("weightAt", "weight lies at", &S::weightAt, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Afloat")
        .when("floats=on")
        .says(
            "Of its height; 0: in the middle of its surface. Lower, and it rights itself faster; high up it would turn "
            "over.");
    t.toggle("plays", "animation", &S::plays)
        .in("Animation")
        .says("Moves as the file's clip says: its nodes, skins and morph targets (glTF).");
    t.whole("clip", "clip", &S::clip)
        .hard(1, 1000)
        .soft(1, 10)
        .fixed()
        .in("Animation")
        .when("plays=on")
        .says("Which of the file's clips, by number.");
    t.number("clipSpeed", "speed", &S::clipSpeed, Quantity::Plain)
        .hard(-100, 100)
        .soft(0, 3)
        .fixed()
        .in("Animation")
        .when("plays=on")
        .says("Times as fast as it was made; below 0 backward.");
    t.number("clipOffset", "begins at", &S::clipOffset, Quantity::Time)
        .hard(-1e5, 1e5)
        .soft(0, 20)
        .in("Animation")
        .when("plays=on")
        .says("When it begins, in seconds of the project.");
    t.choice("clipEnds", "before and after", &S::clipEnds, {"loop", "hold", "swing"})
        .in("Animation")
        .when("plays=on")
        .says("What it does outside of its length: comes again, stands still, goes to and fro.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (s.file.empty())
            return;
        const auto whole = keptSet(c.store, scene::resolved(c.project, s.file), c.job);
        if (!whole->trouble.empty())
            c.note(whole->trouble);
        if (s.plays && s.clip > static_cast<std::int64_t>(whole->clips.size())) {
            c.note(whole->clips.empty() ? "The file has no clips; it stands still."
                   : whole->clips.size() == 1
                       ? "The file has only 1 clip; it stands still."
                       : "The file has only " + std::to_string(whole->clips.size()) + " clips; it stands still.");
        } else if (s.plays) {
            const geometry::Clip& clip = whole->clips[static_cast<std::size_t>(s.clip - 1)];
            c.tell(words("Clip %1 of %2: %3, %4.", {std::to_string(s.clip), std::to_string(whole->clips.size()),
                                                    clip.name, formatQuantity(clip.seconds, Quantity::Time)}));
        }
        if (const std::size_t lamps = whole->lamps.size(), cameras = whole->cameras.size(); lamps + cameras > 0)
            c.tell(words("The file also holds %1 and %2.",
                         {lamps == 1 ? words("1 lamp") : words("%1 lamps", {std::to_string(lamps)}),
                          cameras == 1 ? words("1 camera") : words("%1 cameras", {std::to_string(cameras)})}));
        geometry::PlacedSet placed = *placedFile(c.project, c.element, c.store, c.job);
        tellFiles(c, c.element, placed);
        if (s.floats) {
            const auto pose = afloat(c.project, c.element, placed, c.store, c.job);
            move(placed, pose);
            if (!pose)
                c.note("There is no water that it could float on: add Open water or a Pool.");
            else if (!pose->trouble.empty())
                c.note(pose->trouble);
            else
                c.tell(describeFloating(*pose));
        }
        const Box3& b = placed.set->bounds;
        // What floats can tell apart ends long before this.
        constexpr float farthest = 1e7f;
        for (const Vec3& corner : {b.min, b.max}) {
            const Vec3 there = corner * placed.toWorld;
            if (!(maxComponent(Vec3(std::abs(there.x), std::abs(there.y), std::abs(there.z))) <= farthest)) {
                c.note(
                    "It reaches farther than 10 000 km and is left out: check its scale, its unit and its position.");
                return;
            }
        }
        c.placed.push_back(placed);
        const auto metres = static_cast<float>(s.scale * metresOf(s.unit));
        const Vec3 size = (b.max - b.min) * metres;
        const double widest = static_cast<double>(maxComponent(size));
        const auto shown = [](double v) { return formatQuantity(v, Quantity::Length); };
        if (widest < 0.25)
            c.note("It is only " + shown(widest) + " across: is the file's unit right? Scale it by a known length.");
        else if (widest > 3e4 || size.y > 600.f)
            c.note("It is " + shown(widest) + " across and " + shown(static_cast<double>(size.y)) +
                   " high: is the file's unit right? Scale it by a known length.");
    };
    return k;
}

Kind shotKind()
{
    using S = ShotSettings;
    Kind k;
    k.id = "shot";
    k.stage = Kind::Stage::Camera;
    k.isCamera = k.permanent = true;
    k.actions = {"focus"};
    k.section = [](const scene::Element& e, bool) {
        return e.as<S>().blurs ? std::vector<SectionHandle>{{"focus", false}} : std::vector<SectionHandle>();
    };
    k.label = "Shot camera";
    k.help = "The camera the picture is for.";
    k.family = scene::Family::Set;
    k.single = true;
    k.staysWhenSilent = true;
    scene::TableOf<S> t;
    t.number("focal", "focal length", &S::focal, Quantity::Millimetre)
        .hard(1, 5000)
        .soft(8, 400)
        .log()
        .lead()
        .in("Lens")
        .says("Focal length of the lens.");
    t.number("sensor", "sensor width", &S::sensor, Quantity::Millimetre)
        .hard(0.5, 500)
        .soft(4, 70)
        .lead()
        .in("Lens")
        .says("Width of the recorded frame.");
    t.toggle("blurs", "depth of field", &S::blurs)
        .in("Lens")
        .says("What is nearer or farther than the focus is blurred; off, all is sharp.");
    t.number("focus", "focus", &S::focus, Quantity::Length)
        .hard(0.02, 1e6)
        .soft(0.3, 300)
        .log()
        .in("Lens")
        .when("blurs=on")
        .says("Distance along the camera's axis of what is sharp.");
    t.number("number", "f-number", &S::number, Quantity::Plain)
        .hard(0.3, 128)
        .soft(0.7, 32)
        .log()
        .in("Lens")
        .when("blurs=on")
        .says("Focal length by the aperture's width: 1.4 blurs much, 16 little.");
    t.point("position", "position", &S::position).place().in("Place").says("Where the camera stands.");
    t.point("aim", "aim", &S::aim).place().in("Place").says("The point in the middle of the picture.");
    t.number("roll", "roll", &S::roll, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-45, 45)
        .in("Place")
        .says("Turn about the way it looks: above 0 clockwise, and the horizon rises to the right.");
    t.text("follows", "goes with", &S::follows)
        .linked("set")
        .carrier()
        .in("Place")
        .says(
            "A set, or a part of one, that it rides and leans with: place and aim are then in that one's own metres.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        c.shot.camera = {s.position, s.aim, static_cast<float>(s.focal), static_cast<float>(s.sensor)};
        c.shot.camera.roll = radians(s.roll);
        if (const auto from = carried(c, s.follows))
            c.shot.camera = geometry::carriedBy(c.shot.camera, *from);
        if (s.blurs) {
            c.shot.camera.focus = static_cast<float>(s.focus);
            c.shot.camera.lensRadius = geometry::lensRadiusOf(static_cast<float>(s.focal), static_cast<float>(s.number),
                                                              static_cast<float>(s.focus));
        }
    };
    return k;
}
} // namespace hygros::elements
