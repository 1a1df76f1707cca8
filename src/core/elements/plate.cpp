/// Plate: a picture with its depth, instead of geometry or together with it.
#include "elements/kinds.h"

namespace hygros::elements {
namespace {
struct PlateSettings : scene::SettingsOf<PlateSettings> {
    std::string picture, depth, layer, channel;
    std::string along = "ray", unit = "metres", gaps = "hold";
    double maximum = 1000.0, metres = 1.0, brightness = 0.0, sky = 1.0;
    bool fit = false, sequence = false, shades = true;
    std::int64_t offset = 0;
};

struct PlateKey {
    geometry::PlateSource source;
    FileVersion depth;
    bool operator==(const PlateKey&) const = default;
};
struct ReliefKey {
    Identity plate;
    float focalMm, sensorMm;
    bool operator==(const ReliefKey&) const = default;
};

/// The plate's surface; without triangles where it has no depth.
std::shared_ptr<const geometry::SetGeometry> reliefOf(const FreezeContext& c, const geometry::PlateSource& source)
{
    return c.store.get(ReliefKey{c.shot.plate, source.focalMm, source.sensorMm}, [&] {
        auto relief = geometry::reliefOf(*c.shot.plate, source.focalMm, source.sensorMm);
        return relief ? relief : std::make_shared<const geometry::SetGeometry>();
    });
}
} // namespace

Kind plateKind()
{
    using S = PlateSettings;
    Kind k;
    k.id = "plate";
    k.stage = Kind::Stage::Set;
    k.actions = {"horizon"};
    k.brings = pictureFiles;
    k.readBefore = [](const std::filesystem::path& file, Store&, JobControl&) { geometry::hasDepth(file); };
    k.bring = [](scene::Project& project, const std::filesystem::path& file, const std::string& name, const Seen&,
                 Store&) -> scene::Element& {
        const scene::ElementKind* kind = findKind("plate");
        scene::Element* e = nullptr;
        for (scene::Element& other : project.elements)
            if (other.kind == kind)
                e = &other;
        if (!e)
            e = &project.add(*kind, file.stem().string());
        e->set("picture", name);
        return *e;
    };
    k.label = "Plate";
    k.help = "A picture with its depth; its pixels are never changed.";
    k.family = scene::Family::Set;
    k.single = true;
    scene::TableOf<S> t;
    t.file("picture", "picture", &S::picture)
        .opens(pictureFiles)
        .in("Files")
        .says("EXR (linear), or PNG, JPEG, TIFF, HDR.");
    t.file("depth", "depth", &S::depth)
        .opens(pictureFiles)
        .in("Files")
        .says("The depth: a channel of the picture's own EXR, or a picture of its own. Empty: the picture's own Z, if "
              "it has one.");
    t.text("layer", "layer", &S::layer)
        .in("Files")
        .says("Layer of an EXR of many: plate takes plate.R, plate.G and plate.B. Empty: R, G and B.");
    t.text("channel", "depth channel", &S::channel)
        .in("Files")
        .says("Channel of the depth file; empty takes Z, depth.Z or the only one.");
    t.number("brightness", "brightness", &S::brightness, Quantity::Exposure)
        .hard(-40, 40)
        .soft(-6, 10)
        .lead()
        .in("Files")
        .says("Brings a display-referred picture to the brightness of the light; 0 leaves every pixel as it is.");
    t.number("sky", "air over its sky", &S::sky, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .lead()
        .in("Depth")
        .says("How much the air covers the plate's sky, which is infinitely far.");
    t.choice("along", "measured", &S::along, {"ray", "axis"})
        .in("Depth")
        .says("From the camera to the point, or along the camera's axis.");
    t.choice("unit", "unit", &S::unit, {"metres", "0–1", "1–0", "1/metres"})
        .in("Depth")
        .says("Metres; 0 to 1 of a maximum (1 is sky); 1 to 0 of a maximum (0 is sky); or one over metres.");
    t.number("maximum", "maximum", &S::maximum, Quantity::Length)
        .hard(0.01, 1e6)
        .soft(1, 50e3)
        .log()
        .in("Depth")
        .when("unit=0–1|1–0")
        .says("The distance that a full value stands for.");
    t.number("metres", "metres a unit", &S::metres, Quantity::Plain)
        .hard(1e-6, 1e6)
        .soft(0.001, 1000)
        .log()
        .in("Depth")
        .when("unit=metres|1/metres")
        .says("Metres of one unit of the depth: 0.01 for centimetres.");
    t.toggle("fit", "fit depth", &S::fit)
        .in("Depth")
        .says("Resamples a depth of another size to the picture's; off leaves such a depth out.");
    t.toggle("shades", "shades the air", &S::shades)
        .in("Depth")
        .says("Its surface, as far as the depth tells it, stands in the light's way. What the camera does not see "
              "casts no shadow.");
    t.toggle("sequence", "numbered frames", &S::sequence)
        .in("Frames")
        .says("Takes the files' last number as the frame.");
    t.whole("offset", "offset", &S::offset)
        .hard(-1e6, 1e6)
        .soft(-100, 100)
        .in("Frames")
        .when("sequence=on")
        .says("Added to the frame's number.");
    t.choice("gaps", "missing frames", &S::gaps, {"hold", "nothing"})
        .in("Frames")
        .when("sequence=on")
        .says("A frame whose file is not there: the one before it stays, or there is no plate.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (s.picture.empty())
            return;
        geometry::PlateSource source;
        source.picture = scene::resolved(c.project, s.picture);
        if (!s.depth.empty())
            source.depth = scene::resolved(c.project, s.depth);
        if (s.sequence) {
            const auto gaps = s.gaps == "hold" ? geometry::Gaps::Hold : geometry::Gaps::Empty;
            constexpr double rounding = 1e-6; // of a loop's end
            const int number = static_cast<int>(std::floor(c.project.time.loopedFrame(c.project.frame) + rounding)) +
                               static_cast<int>(s.offset);
            for (std::filesystem::path* p : {&source.picture, &source.depth}) {
                std::string note;
                if (!p->empty())
                    *p = geometry::frameOf(*p, number, note, gaps);
                if (!note.empty())
                    c.note(note);
                if (!note.empty() && p->empty())
                    return;
            }
        }
        if (source.depth.empty() && geometry::hasDepth(source.picture))
            source.depth = source.picture;
        source.reading.along = s.along == "axis" ? geometry::DepthReading::Along::Axis
                                                 : geometry::DepthReading::Along::Ray;
        using Unit = geometry::DepthReading::Unit;
        source.reading.unit = s.unit == "metres" ? Unit::Metres
                              : s.unit == "0–1"  ? Unit::Share
                              : s.unit == "1–0"  ? Unit::InvertedShare
                                                 : Unit::Inverse;
        source.reading.maximum = static_cast<float>(s.maximum);
        source.reading.scale = static_cast<float>(s.metres);
        source.reading.layer = s.layer;
        source.reading.channel = s.channel;
        source.reading.resample = s.fit;
        source.brightness = static_cast<float>(s.brightness);
        source.focalMm = c.shot.camera.focalMm;
        source.sensorMm = c.shot.camera.sensorMm;
        c.shot.plate = c.read(source.picture, PlateKey{source, versionOf(source.depth)},
                              [&] { return std::shared_ptr<const geometry::Plate>(geometry::loadPlate(source)); });
        if (!source.depth.empty())
            c.cameFrom(versionOf(source.depth));
        c.shot.plateSky = static_cast<float>(s.sky);
        for (const std::string& note : c.shot.plate->notes)
            c.note(note);
        if (const auto relief = s.shades ? reliefOf(c, source) : nullptr; relief && relief->triangles > 0) {
            const geometry::View view(c.shot.camera, 16, 16);
            geometry::PlacedSet placed;
            placed.set = relief;
            const Vec3 r = view.right(), u = view.up(), b = -view.forward(), p = view.position();
            placed.toWorld = Mat4(r.x, r.y, r.z, 0, u.x, u.y, u.z, 0, b.x, b.y, b.z, 0, p.x, p.y, p.z, 1);
            placed.visible = false;
            placed.element = c.element.id;
            c.placed.push_back(placed);
        }
        if (source.depth.empty())
            c.note("The plate has no depth: all of it counts as sky.");
    };
    return k;
}
} // namespace hygros::elements
