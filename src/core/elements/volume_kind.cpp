/// Volume: its parameters, how it begins and how it is brought from a file.
#include "elements/volume_look.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {

namespace {
/// Something to see at once; a file can be chosen on its card.
void beginShape(scene::Element& e, const Seen& seen)
{
    const Vec3 ahead = aheadOf(seen.camera, 8.f);
    e.set("source", std::string("ball"));
    e.set("visibility", 1.0);
    e.set("position", Vec3(ahead.x, std::max(0.f, seen.camera.position.y - 1.7f), ahead.z));
}

/// The grid taken as density where none is chosen; of a file with one of no known name that one.
std::string densityOf(const std::vector<media::VdbGrid>& grids)
{
    const std::string guessed = media::guessedGrid(grids, "density");
    return guessed.empty() && !grids.empty() ? grids.front().name : guessed;
}

void readDensity(const std::filesystem::path& file, Store& store, JobControl& job)
{
    keptGrid(store, file, densityOf(*keptVolumeFile(store, file, job)), job);
}

/// A file's volume stands on the ground in front of the camera, as dense as its size asks for.
scene::Element& bringFile(scene::Project& project, const std::filesystem::path& file, const std::string& name,
                          const Seen& seen, Store& store)
{
    const JobControl none;
    const auto listed = keptVolumeFile(store, file, none);
    scene::Element& e = project.add(*findKind("volume"), file.stem().string());
    e.set("file", name);
    const std::string density = densityOf(*listed), heat = media::guessedGrid(*listed, "temperature");
    if (media::guessedGrid(*listed, "density").empty())
        e.set("density", density);
    const auto rounded = [](double v) { return std::strtod(formatNumber(v).c_str(), nullptr); };
    const auto even = [](float v) { return std::round(v * 100.f) / 100.f; };
    for (const media::VdbGrid& g : *listed) {
        if (g.name == density) {
            const Vec3 size = g.high - g.low, middle = (g.low + g.high) * 0.5f;
            const double thick = std::max(1e-3, double(std::min({size.x, size.y, size.z})));
            // A third of its thinnest side is what lets a twentieth through at its mean, and it fills the view in part.
            e.set("visibility", rounded(std::max(0.01, thick / 3.0 * std::max(1e-6, g.most))));
            const Vec3 ahead = aheadOf(seen.camera, std::max(4.f, 1.6f * size.length()));
            e.set("position", Vec3(even(ahead.x - middle.x), even(-g.low.y), even(ahead.z - middle.z)));
        }
        if (!heat.empty() && g.name == heat && g.most > 0.0) {
            e.set("glow", std::string("blackbody"));
            // Grids that do not count in kelvin reach from nothing to about one.
            if (g.most < 100.0)
                e.set("kelvin", rounded(2000.0 / g.most));
        }
    }
    return e;
}
/// The grids that a volume's file has for a parameter, and the one that its name chooses.
Kind::Names gridNames(const scene::Project& project, const scene::Element& e, const scene::Parameter& parameter,
                      Store& store)
{
    Kind::Names names;
    const auto file = std::get<std::string>(e.value("file"));
    const auto known = file.empty() ? nullptr : volumeFileAtHand(store, scene::resolved(project, file));
    if (!known)
        return names;
    const bool moves = parameter.id == "velocity";
    for (const media::VdbGrid& g : *known)
        if (g.vector == moves)
            names.all.push_back(g.name);
    names.byItself = media::guessedGrid(*known, moves                       ? "velocity"
                                                : parameter.id == "density" ? "density"
                                                                            : "temperature");
    if (names.byItself.empty() && parameter.id == "heat")
        names.byItself = media::guessedGrid(*known, "emission");
    return names;
}
struct FileVolumeSettings final : VolumeSettings {
    std::shared_ptr<scene::Settings> clone() const override { return std::make_shared<FileVolumeSettings>(*this); }
};
} // namespace

void looksLikeAVolume(Kind& k)
{
    k.column = Kind::Column::Air;
    k.extinction = [](const scene::Element& e) {
        const VolumeLook look = lookOf(e);
        return static_cast<double>(luminance(look.scattering + look.absorption));
    };
    k.along = [](const scene::Element& e, const std::string& parameter, const scene::Value& value) {
        // Its look stays: the other way's numbers are worked out from this one's.
        return parameter == "linking" ? relinked(e, std::get<std::string>(value))
                                      : std::vector<std::pair<std::string, scene::Value>>();
    };
    k.complete = completeVolume;
}

void completeVolume(FreezeContext& c)
{
    // What stands for another's part is not seen itself.
    for (const scene::Element& e : c.project.elements) {
        const std::string& own = c.element.id;
        const auto* part = settingsOf<CombinationSettings>(&e);
        if (part && !e.muted && part->hides && part->other == own && part->volume != own && part->how != "blur" &&
            part->how != "resample")
            return;
        const auto* copied = settingsOf<CopiesSettings>(&e);
        if (copied && !c.project.silent(e) && !copied->original && copied->volume == own)
            return;
    }
    if (auto v = builtVolume(c, c.element))
        contributeVolume(c, std::move(*v), static_cast<float>(c.element.as<VolumeSettings>().lights));
}

Kind volumeKind()
{
    using S = FileVolumeSettings;
    Kind k;
    k.id = "volume";
    k.actions = {"exportVolume"};
    k.handles = [](const scene::Element&) { return Handles{"position", "turn", "scale", {}, {}, {}}; };
    looksLikeAVolume(k);
    k.begin = beginShape;
    k.brings = volumeFiles;
    k.readBefore = readDensity;
    k.bring = bringFile;
    k.names = gridNames;
    k.label = "Volume";
    k.help = "Smoke, fire or cloud from an OpenVDB file or a numbered sequence of them, or from a shape.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.choice("source", "made from", &S::source, {"file", "object", "ball", "box", "cylinder"})
        .in("Source")
        .says("An OpenVDB file, what a set object encloses, or a plain body.");
    t.file("file", "file", &S::file)
        .opens(volumeFiles)
        .edited("grids")
        .in("Source")
        .when("source=file")
        .says("The OpenVDB file, relative to the project.");
    t.text("density", "density grid", &S::density)
        .linked("name")
        .in("Source")
        .when("source=file")
        .says("Which of the file's grids is the density; empty: the one whose name says so.");
    t.text("heat", "heat grid", &S::heat)
        .linked("name")
        .in("Glow")
        .when("glow=blackbody|ramp")
        .says("Which grid glows; empty: temperature or flame by its name.");
    t.toggle("sequence", "numbered frames", &S::sequence)
        .in("Source")
        .when("source=file")
        .says("Takes the file's last number as the frame.");
    t.whole("offset", "offset", &S::offset)
        .hard(-1e6, 1e6)
        .soft(-100, 100)
        .in("Source")
        .when("sequence=on")
        .says("Added to the frame's number.");
    t.number("speed", "speed", &S::speed, Quantity::Plain)
        .hard(-100, 100)
        .soft(0, 2)
        .in("Source")
        .when("sequence=on")
        .says("Files a frame; 1 is as they come.");
    t.choice("ends", "before and after", &S::ends, {"hold", "loop", "nothing"})
        .in("Source")
        .when("sequence=on")
        .says("Beyond the files there are: the first or last stays, they begin anew, or there is nothing.");
    t.choice("gaps", "missing frames", &S::gaps, {"hold", "nothing"})
        .in("Source")
        .when("sequence=on")
        .says("A frame whose file is not there: the one before it stays, or there is nothing.");
    t.number("shutter", "motion blur", &S::shutter, Quantity::Share)
        .hard(0, 4)
        .soft(0, 1)
        .in("Source")
        .when("source=file")
        .says("Share of a frame that the shutter is open: matter is spread along its way by the velocity grid; 0 "
              "leaves it sharp.");
    t.text("velocity", "velocity grid", &S::velocity)
        .linked("name")
        .in("Source")
        .when("source=file")
        .says("Which grid says how fast it moves; empty: the one whose name says so.");
    t.number("velocityScale", "velocity ×", &S::velocityScale, Quantity::Plain)
        .hard(-1e4, 1e4)
        .soft(0, 2)
        .in("Source")
        .when("source=file")
        .says("Multiplies the velocity; 1 where the file counts metres a second.");
    t.number("preview", "least voxel", &S::preview, Quantity::Length)
        .hard(0, 1e4)
        .soft(0, 2)
        .in("Source")
        .when("source=file")
        .says("Works with voxels at least this large, halved from the file's; 0 takes them as they are.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Source")
        .when("source=object")
        .says("The set object whose inside becomes fog; hide the object itself on its own card.");
    t.point("size", "size", &S::size)
        .hard(0.01, 1e4)
        .in("Source")
        .when("source=ball|box|cylinder")
        .says("Its width, height and depth.");
    t.number("voxel", "voxels", &S::voxel, Quantity::Length)
        .hard(1e-3, 1e3)
        .soft(0.01, 2)
        .log()
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("Size of its voxels; no side gets more than 256 of them.");
    t.number("edge", "soft edge", &S::edge, Quantity::Length)
        .hard(0, 1e3)
        .soft(0, 3)
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("How far under the surface it takes to full density.");
    t.number("hollow", "hollow", &S::hollow, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("How much of the density is missing in the very middle.");
    t.curve("curve", "density curve", &S::curve)
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("Density over what edge and hollow leave of it.");
    t.number("noiseScale", "noise scale", &S::scaleNoise, Quantity::Length)
        .hard(0.001, 1e4)
        .soft(0.05, 50)
        .log()
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("Size of the largest wisps.");
    t.number("contrast", "noise contrast", &S::contrast, Quantity::Plain)
        .hard(0, 4)
        .soft(0, 2)
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("0: even. Above 1 gaps open.");
    t.whole("octaves", "octaves", &S::octaves)
        .hard(1, 8)
        .soft(1, 8)
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("Layers of detail, each finer.");
    t.whole("seed", "seed", &S::seed)
        .hard(0, 1e6)
        .soft(0, 100)
        .in("Source")
        .when("source=object|ball|box|cylinder")
        .says("Another number, another pattern.");
    t.curve("densityCurve", "density over file's", &S::densityCurve)
        .falls()
        .in("Source")
        .when("source=file")
        .says("Density over the grid's value, both as shares of its largest.");
    describeVolumeLook(t);
    t.point("position", "position", &S::position).place().in("Place").says("Where the file's origin stands.");
    t.number("turn", "turn", &S::turn, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Place")
        .says("Turn about the vertical, clockwise from above.");
    t.number("pitch", "pitch", &S::pitch, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Place")
        .says("Before the turn: nods about its X.");
    t.number("roll", "roll", &S::roll, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Place")
        .says("Before the turn: leans about its Z.");
    t.number("scale", "scale", &S::scale, Quantity::Plain)
        .hard(1e-4, 1e4)
        .soft(0.1, 10)
        .log()
        .lead()
        .in("Place")
        .says("Metres for one of the file's.");
    t.text("follows", "goes with", &S::follows)
        .carrier()
        .linked("set")
        .in("Place")
        .says("A set it is fixed to: its place is then in that set's own metres and moves with it.");
    describeVolumeGlow(t);
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    return k;
}
} // namespace hygros::elements
