/// The set, the shot camera and the look.
#include "elements/kinds.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct SetSettings : scene::SettingsOf<SetSettings> {
    std::string file;
    Vec3 position{0.f, 0.f, 0.f};
    double turn = 0.0, scale = 1.0;
};
struct ShotSettings : scene::SettingsOf<ShotSettings> {
    double focal = 35.0, sensor = 36.0;
    Vec3 position{0.f, 1.7f, 8.f}, aim{0.f, 1.7f, 0.f};
};
struct LookSettings : scene::SettingsOf<LookSettings> {
    double exposure = -5.0, white = 6500.0;
    scene::CurvePoints curve{{-9.f, 0.f}, {-5.f, 0.0045f}, {-2.f, 0.045f}, {0.f, 0.19f}, {2.f, 0.56f}, {4.f, 0.88f}, {6.5f, 1.f}};
};
} // namespace

Kind setKind()
{
    using S = SetSettings;
    Kind k;
    k.id = "set";
    k.label = "Set";
    k.help = "Geometry from a glTF or OBJ file.";
    k.family = scene::Family::Set;
    scene::TableOf<S> t;
    t.file("file", "file", &S::file).in("File").says("The geometry file, relative to the project.");
    t.number("scale", "scale", &S::scale, Quantity::Plain).hard(1e-6, 1e6).soft(0.001, 1000).log().lead().in("Place").says(
        "Metres of one unit of the file.");
    t.number("turn", "turn", &S::turn, Quantity::Angle).hard(-3600, 3600).soft(-180, 180).lead().in("Place").says(
        "Turn about the vertical.");
    t.point("position", "position", &S::position).in("Place").says("Where the file's origin stands.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (s.file.empty())
            return;
        geometry::PlacedSet placed;
        placed.set = c.cache.set(scene::resolved(c.project, s.file), c.job);
        Mat4 scale, turn, move;
        scale.setScale(Vec3(static_cast<float>(s.scale)));
        turn.rotate(Vec3(0.f, -radians(s.turn), 0.f));
        move.setTranslation(s.position);
        placed.toWorld = scale * turn * move;
        c.placed.push_back(placed);
    };
    return k;
}

Kind shotKind()
{
    using S = ShotSettings;
    Kind k;
    k.id = "shot";
    k.label = "Shot camera";
    k.help = "The camera the picture is for.";
    k.family = scene::Family::Set;
    k.single = true;
    k.staysWhenSilent = true;
    scene::TableOf<S> t;
    t.number("focal", "focal length", &S::focal, Quantity::Millimetre).hard(1, 5000).soft(8, 400).log().lead().in("Lens").says(
        "Focal length of the lens.");
    t.number("sensor", "sensor width", &S::sensor, Quantity::Millimetre).hard(0.5, 500).soft(4, 70).lead().in("Lens").says(
        "Width of the recorded frame.");
    t.point("position", "position", &S::position).in("Place").says("Where the camera stands.");
    t.point("aim", "aim", &S::aim).in("Place").says("The point in the middle of the picture.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        c.shot.camera = {s.position, s.aim, static_cast<float>(s.focal), static_cast<float>(s.sensor)};
    };
    return k;
}

Kind lookKind()
{
    using S = LookSettings;
    Kind k;
    k.id = "look";
    k.label = "Look";
    k.help = "How the linear picture is shown; what is delivered as EXR stays linear.";
    k.family = scene::Family::Finish;
    k.single = true;
    k.staysWhenSilent = true;
    scene::TableOf<S> t;
    t.number("exposure", "exposure", &S::exposure, Quantity::Exposure).hard(-40, 40).soft(-12, 6).lead().in("Tone").says(
        "Stops by which the picture is brightened.");
    t.number("white", "neutral at", &S::white, Quantity::Temperature).hard(1500, 25000).soft(2500, 12000).log().lead().in("Tone").says(
        "Colour temperature of the light that is to look white: lower cools the picture, higher warms it.");
    t.curve("curve", "tone curve", &S::curve).in("Tone").says(
        "From stops around middle grey to displayed light; always rising.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        c.shot.look = {static_cast<float>(s.exposure), static_cast<float>(s.white), s.curve};
    };
    return k;
}
} // namespace hygros::elements
