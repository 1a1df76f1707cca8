/// Volume: smoke, fire or cloud from an OpenVDB file or a numbered sequence of them.
#include "elements/air.h"

#include "base/error.h"
#include "elements/volume_shape.h"
#include "geometry/plate.h"
#include "light/blackbody.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct VolumeSettings : scene::SettingsOf<VolumeSettings>, AirSettings {
    VolumeSettings()
    {
        visibility = 20.0;
        albedo = Vec3(0.9f, 0.9f, 0.9f);
        anisotropy = 0.5;
    }
    std::string source = "file", file, density, heat, object;
    Vec3 size{4.f, 3.f, 4.f};
    double voxel = 0.08, edge = 0.4, hollow = 0.0, scaleNoise = 1.2, contrast = 0.6;
    std::int64_t octaves = 4, seed = 1;
    scene::CurvePoints curve{{0.f, 0.f}, {1.f, 1.f}};
    bool sequence = false;
    std::int64_t offset = 0;
    double speed = 1.0;
    Vec3 position{0.f, 0.f, 0.f};
    double turn = 0.0, pitch = 0.0, roll = 0.0, scale = 1.0, preview = 0.0;
    std::string follows;
    double shadows = 1.0;
    std::string glow = "none";
    double kelvin = 1.0, coldest = 700.0, emissive = 0.1, exposure = 0.0;
    scene::ColourStops ramp{{0.f, Vec3(0.f), 0.f}, {0.2f, Vec3(0.4f, 0.05f, 0.01f), 1.f}, {0.6f, Vec3(1.f, 0.35f, 0.06f), 1.f}, {1.f, Vec3(1.f, 0.8f, 0.5f), 1.f}};
    double rampTop = 1.0, lights = 1.0;
};

struct TintSettings : scene::SettingsOf<TintSettings> {
    std::string volume, by = "height";
    scene::ColourStops colours{{0.f, Vec3(1.f, 0.35f, 0.2f), 1.f}, {1.f, Vec3(0.3f, 0.4f, 1.f), 1.f}};
    double share = 1.0;
    Vec3 origin{0.f, 0.f, 0.f}, axis{0.f, 1.f, 0.f};
    double first = 0.0, last = 10.0, firstValue = 0.0, lastValue = 1.0, scale = 2.0;
    std::int64_t octaves = 3, seed = 1;
};

/// Colour and opacity of a ramp at a place 0…1.
scene::ColourStop stopAt(const scene::ColourStops& stops, float at)
{
    std::size_t k = 0;
    while (k + 2 < stops.size() && at > stops[k + 1].at)
        ++k;
    const auto &a = stops[k], &b = stops[k + 1];
    const float u = std::clamp((at - a.at) / std::max(1e-6f, b.at - a.at), 0.f, 1.f);
    return {at, lerp(a.colour, b.colour, u), lerp(a.opacity, b.opacity, u)};
}

/// A tint as the renderer takes it; `foot` is the volume's lowest place.
media::Tint tintOf(const TintSettings& s, const media::Volume& v)
{
    media::Tint t;
    using By = media::Tint::By;
    t.by = s.by == "point" ? By::Point : s.by == "density" ? By::Density : s.by == "heat" ? By::Heat : s.by == "noise" ? By::Noise : By::Axis;
    t.origin = s.by == "height" ? Vec3(0.f, v.bounds.min.y, 0.f) : s.origin;
    t.direction = s.by == "axis" && s.axis.length2() > 1e-12f ? s.axis.normalized() : Vec3(0, 1, 0);
    const bool byValue = t.by == By::Density || t.by == By::Heat;
    t.from = t.by == By::Noise ? 0.f : static_cast<float>(byValue ? s.firstValue : s.first);
    t.to = t.by == By::Noise ? 1.f : static_cast<float>(byValue ? s.lastValue : s.last);
    if (std::abs(t.to - t.from) < 1e-6f)
        t.to = t.from + 1e-6f;
    t.noise.scale = static_cast<float>(s.scale);
    t.noise.octaves = static_cast<int>(s.octaves);
    t.noise.seed = static_cast<std::uint32_t>(s.seed);
    constexpr int entries = 64;
    for (int i = 0; i < entries; ++i) {
        const scene::ColourStop stop = stopAt(s.colours, static_cast<float>(i) / (entries - 1));
        t.colours.push_back(lerp(Vec3(1.f), stop.colour, stop.opacity * static_cast<float>(s.share)));
    }
    return t;
}

/// The file of this frame.
std::filesystem::path fileOf(const FreezeContext& c, const VolumeSettings& s)
{
    const std::filesystem::path file = scene::resolved(c.project, s.file);
    if (!s.sequence)
        return file;
    std::string note;
    const std::filesystem::path found = geometry::frameOf(file, static_cast<int>(std::floor((c.project.frame - 1) * s.speed)) + 1 + static_cast<int>(s.offset), note);
    if (!note.empty())
        c.note(note);
    return found;
}

/// The density of this frame, from wherever it comes, and the file it is from; null where something is missing, which is noted.
std::pair<std::shared_ptr<const media::LoadedGrid>, std::filesystem::path> sourceOf(const FreezeContext& c, const VolumeSettings& s)
{
    if (s.source == "file") {
        if (s.file.empty()) {
            c.note("Choose an OpenVDB file; until then it is left out.");
            return {};
        }
        const std::filesystem::path file = fileOf(c, s);
        const auto& grids = *c.cache.volumeFile(file);
        const std::string name = s.density.empty() ? media::guessedGrid(grids, "density") : s.density;
        if (name.empty() && grids.size() != 1) {
            c.note("None of the file's grids is known to be a density; choose one.");
            return {};
        }
        return {c.cache.grid(file, name, c.job), file};
    }
    ShapeSource shape;
    using Body = ShapeSource::Body;
    shape.body = s.source == "object" ? Body::Object : s.source == "box" ? Body::Box : s.source == "cylinder" ? Body::Cylinder : Body::Ball;
    if (shape.body == Body::Object) {
        const scene::Element* object = c.project.find(s.object);
        shape.object = object ? placedSet(c.project, *object, c.cache, c.job) : std::nullopt;
        if (!shape.object) {
            c.note(s.object.empty() ? "Choose the set object that becomes fog; until then it is left out." : "There is no set object '" + s.object + "'; it is left out.");
            return {};
        }
    } else {
        shape.size = s.size;
    }
    shape.voxel = static_cast<float>(s.voxel);
    shape.edge = static_cast<float>(s.edge);
    shape.hollow = static_cast<float>(s.hollow);
    if (s.curve != scene::CurvePoints{{0.f, 0.f}, {1.f, 1.f}})
        shape.curve = s.curve;
    shape.noise.contrast = static_cast<float>(s.contrast);
    shape.noise.scale = static_cast<float>(s.scaleNoise);
    shape.noise.octaves = static_cast<int>(s.octaves);
    shape.noise.seed = static_cast<std::uint32_t>(s.seed);
    return {c.cache.shape(shape, c.job), {}};
}

/// How often a grid is halved so that its voxels are at least `wanted` metres.
int halvings(const Mat4& toWorld, double wanted)
{
    double voxel = 1e30;
    for (int a = 0; a < 3; ++a)
        voxel = std::min(voxel, static_cast<double>(Vec3(toWorld[a][0], toWorld[a][1], toWorld[a][2]).length()));
    int times = 0;
    for (; times < 8 && voxel * 1.001 < wanted; ++times)
        voxel *= 2.0;
    return times;
}

/// Where a grid halved so often has its places.
Mat4 halvedPlace(int times)
{
    Mat4 m;
    for (int i = 0; i < times; ++i) {
        Mat4 step;
        step.setScale(Vec3(2.f));
        Mat4 shift;
        shift.setTranslation(Vec3(media::BrickGrid::coarseShift));
        m = step * shift * m;
    }
    return m;
}

/// Radiance that a metre of a ramp's white gives off at brightness 0 [W/m³/sr].
constexpr float rampRadiance = 1.f;

std::shared_ptr<const std::vector<Vec3>> heatTable(const VolumeSettings& s, float most, float& scale)
{
    constexpr int entries = 256;
    auto table = std::make_shared<std::vector<Vec3>>(entries, Vec3(0.f));
    const float bright = static_cast<float>(std::exp2(s.exposure));
    scale = static_cast<float>(entries - 1) / most;
    for (int i = 1; i < entries; ++i) {
        const float value = most * static_cast<float>(i) / static_cast<float>(entries - 1);
        Vec3 l(0.f);
        if (s.glow == "blackbody") {
            const double kelvin = value * s.kelvin;
            if (kelvin >= s.coldest)
                l = light::blackbodyRadiance(static_cast<float>(kelvin)) * static_cast<float>(s.emissive);
        } else {
            const scene::ColourStop stop = stopAt(s.ramp, value / static_cast<float>(s.rampTop));
            l = stop.colour * (stop.opacity * rampRadiance);
        }
        (*table)[static_cast<std::size_t>(i)] = l * bright;
    }
    return table;
}
/// Lamps that stand for what a volume gives off: its light gathered into up to four balls where it comes from, dimmed by its own matter on the way
/// out as the mean of six directions says.
std::vector<light::Lamp> lampsOf(const media::Volume& v)
{
    media::BrickGrid::Means cells = v.glow.heat->means(24);
    const auto [nx, ny, nz] = cells.size;
    const std::size_t count = cells.values.size();
    const Mat4 toWorld = v.glow.toHeat.inverse();
    struct Cell {
        Vec3 at, light; ///< place; radiant intensity by channel
        float power;
    };
    std::vector<Cell> shining;
    std::vector<float> sigma(count);
    std::vector<Vec3> given(count), place(count);
    Vec3 step[3];
    for (int a = 0; a < 3; ++a) {
        Vec3 unit(0.f);
        unit[a] = cells.cell;
        toWorld.multDirMatrix(unit, step[a]);
    }
    const float volume = std::abs(step[0].dot(step[1].cross(step[2])));
    for (std::size_t c = 0; c < count; ++c) {
        const Vec3 corner(static_cast<float>(c % static_cast<std::size_t>(nx)), static_cast<float>(c / static_cast<std::size_t>(nx) % static_cast<std::size_t>(ny)),
                          static_cast<float>(c / static_cast<std::size_t>(nx * ny)));
        // Its mean from 64 places: light rises steeply with heat, so that the mean heat would not do.
        F8 sums[3] = {f8(0.f), f8(0.f), f8(0.f)}, extinction = f8(0.f);
        for (int z = 0; z < 4; ++z)
            for (int half = 0; half < 2; ++half) {
                F8 x8, y8, z8;
                for (int i = 0; i < lanes; ++i) {
                    const Vec3 p = (cells.origin + (corner + (Vec3(static_cast<float>(i % 4), static_cast<float>(half * 2 + i / 4), static_cast<float>(z)) + Vec3(0.5f)) * 0.25f) * cells.cell) * toWorld;
                    x8[i] = p.x, y8[i] = p.y, z8[i] = p.z;
                }
                F8 l[3];
                media::glow8(v, x8, y8, z8, l);
                for (int ch = 0; ch < 3; ++ch)
                    sums[ch] += l[ch];
                extinction += media::extinction8(v, x8, y8, z8);
            }
        given[c] = Vec3(sum(sums[0]), sum(sums[1]), sum(sums[2])) * (volume / 64.f);
        sigma[c] = sum(extinction) / 64.f * (1.f - luminance(v.albedo) * 0.9f);
        place[c] = (cells.origin + (corner + Vec3(0.5f)) * cells.cell) * toWorld;
    }
    const std::size_t stride[3] = {1, static_cast<std::size_t>(nx), static_cast<std::size_t>(nx) * static_cast<std::size_t>(ny)};
    for (std::size_t c = 0; c < count; ++c) {
        if (maxComponent(given[c]) <= 0.f)
            continue;
        float out = 0.f;
        for (int a = 0; a < 3; ++a) {
            const auto size = static_cast<std::ptrdiff_t>(cells.size[static_cast<std::size_t>(a)]), own = static_cast<std::ptrdiff_t>(c / stride[a] % static_cast<std::size_t>(size));
            for (const std::ptrdiff_t way : {std::ptrdiff_t(-1), std::ptrdiff_t(1)}) {
                float depth = 0.5f * sigma[c];
                for (std::ptrdiff_t k = own + way; k >= 0 && k < size; k += way)
                    depth += sigma[static_cast<std::size_t>(static_cast<std::ptrdiff_t>(c) + (k - own) * static_cast<std::ptrdiff_t>(stride[a]))];
                out += std::exp(-depth * step[a].length()) / 6.f;
            }
        }
        const Vec3 l = given[c] * out;
        shining.push_back({place[c], l, luminance(l)});
    }
    // Halved twice where it is widest, each time at the middle of its power.
    std::vector<std::pair<std::size_t, std::size_t>> parts{{0, shining.size()}};
    for (int round = 0; round < 2; ++round) {
        std::vector<std::pair<std::size_t, std::size_t>> next;
        for (const auto& [from, to] : parts) {
            if (to - from < 2) {
                next.push_back({from, to});
                continue;
            }
            Box3 box;
            float whole = 0.f;
            for (std::size_t i = from; i < to; ++i) {
                box.extendBy(shining[i].at);
                whole += shining[i].power;
            }
            const int axis = static_cast<int>(box.majorAxis());
            std::sort(shining.begin() + static_cast<std::ptrdiff_t>(from), shining.begin() + static_cast<std::ptrdiff_t>(to), [&](const Cell& a, const Cell& b) { return a.at[axis] < b.at[axis]; });
            std::size_t middle = from + 1;
            for (float half = shining[from].power; middle + 1 < to && half < 0.5f * whole; ++middle)
                half += shining[middle].power;
            next.push_back({from, middle});
            next.push_back({middle, to});
        }
        parts = next;
    }
    std::vector<light::Lamp> lamps;
    for (const auto& [from, to] : parts) {
        light::Lamp lamp;
        Vec3 middle(0.f);
        float whole = 0.f, spread = 0.f;
        for (std::size_t i = from; i < to; ++i) {
            lamp.intensity += shining[i].light;
            middle += shining[i].at * shining[i].power;
            whole += shining[i].power;
        }
        if (whole <= 0.f)
            continue;
        lamp.position = middle / whole;
        for (std::size_t i = from; i < to; ++i)
            spread += (shining[i].at - lamp.position).length2() * shining[i].power;
        lamp.id = v.id;
        lamp.shape = light::Lamp::Shape::Sphere;
        lamp.radius = std::max(0.01f, std::sqrt(spread / whole));
        lamp.glow = 0.f; // the volume itself is what one sees
        lamps.push_back(lamp);
    }
    return lamps;
}
} // namespace

Kind tintKind()
{
    using S = TintSettings;
    Kind k;
    k.id = "tint";
    k.label = "Tint";
    k.help = "Colours laid over a volume: along an axis, from a point, by its density, its heat or noise. Several stack.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.text("volume", "volume", &S::volume).linked("volume").in("Colour").says("The volume that it colours.");
    t.stops("colours", "colours", &S::colours).in("Colour").says("From the first place to the last; where a colour is not opaque the volume's own shows.");
    t.number("share", "share", &S::share, Quantity::Share).hard(0, 1).soft(0, 1).lead().in("Colour").says("How much of it is laid on.");
    t.choice("by", "by", &S::by, {"height", "axis", "point", "density", "heat", "noise"}).in("Where").says(
        "What decides on the colour: height over the volume's foot, metres along an axis, metres from a point, the density's value, the heat's, or noise.");
    t.point("origin", "from place", &S::origin).in("Where").when("by=axis|point").says("Where metres are counted from, in the world.");
    t.point("axis", "toward", &S::axis, Quantity::Plain).in("Where").when("by=axis").says("Direction along which they are counted.");
    t.number("first", "first colour at", &S::first, Quantity::Length).hard(-1e5, 1e5).soft(0, 100).in("Where").when("by=height|axis|point").says("Where the first colour lies.");
    t.number("last", "last colour at", &S::last, Quantity::Length).hard(-1e5, 1e5).soft(0, 100).in("Where").when("by=height|axis|point").says("Where the last colour lies.");
    t.number("firstValue", "first value", &S::firstValue, Quantity::Plain).hard(-1e6, 1e6).soft(0, 1).in("Where").when("by=density|heat").says("The grid's value of the first colour.");
    t.number("lastValue", "last value", &S::lastValue, Quantity::Plain).hard(-1e6, 1e6).soft(0, 2).in("Where").when("by=density|heat").says("The grid's value of the last colour.");
    t.number("scale", "scale", &S::scale, Quantity::Length).hard(0.001, 1e5).soft(0.1, 100).log().in("Where").when("by=noise").says("Size of the largest patches.");
    t.whole("octaves", "octaves", &S::octaves).hard(1, 8).soft(1, 8).in("Where").when("by=noise").says("Layers of detail, each finer.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Where").when("by=noise").says("Another number, another pattern.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const scene::Element* volume = s.volume.empty() ? nullptr : c.project.find(s.volume);
        if (!volume || volume->kind->id != "volume")
            c.note(s.volume.empty() ? "Choose the volume that it colours." : "The volume that it colours is not there.");
        else if (s.by == "heat" && std::get<std::string>(volume->value("glow")) == "none")
            c.note("Its volume has no heat: let it glow, or choose another kind of place.");
    };
    return k;
}

Kind volumeKind()
{
    using S = VolumeSettings;
    Kind k;
    k.id = "volume";
    k.label = "Volume";
    k.help = "Smoke, fire or cloud from an OpenVDB file or a numbered sequence of them.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.choice("source", "made from", &S::source, {"file", "object", "ball", "box", "cylinder"}).in("Source").says(
        "An OpenVDB file, what a set object encloses, or a plain body.");
    t.file("file", "file", &S::file).in("Source").when("source=file").says("The OpenVDB file, relative to the project.");
    t.text("density", "density grid", &S::density).linked("grid").in("Source").when("source=file").says("Which of the file's grids is the density; empty: the one whose name says so.");
    t.text("heat", "heat grid", &S::heat).linked("grid").in("Glow").when("glow=blackbody|ramp").says("Which grid glows; empty: temperature or flame by its name.");
    t.toggle("sequence", "numbered frames", &S::sequence).in("Source").when("source=file").says("Takes the file's last number as the frame.");
    t.whole("offset", "offset", &S::offset).hard(-1e6, 1e6).soft(-100, 100).in("Source").when("sequence=on").says("Added to the frame's number.");
    t.number("speed", "speed", &S::speed, Quantity::Plain).hard(-100, 100).soft(0, 2).in("Source").when("sequence=on").says("Files a frame; 1 is as they come.");
    t.number("preview", "least voxel", &S::preview, Quantity::Length).hard(0, 1e4).soft(0, 2).in("Source").when("source=file").says(
        "Works with voxels at least this large, halved from the file's; 0 takes them as they are.");
    t.text("object", "object", &S::object).linked("set").in("Source").when("source=object").says(
        "The set object whose inside becomes fog; hide the object itself on its own card.");
    t.point("size", "size", &S::size).hard(0.01, 1e4).in("Source").when("source=ball|box|cylinder").says("Its width, height and depth.");
    t.number("voxel", "voxels", &S::voxel, Quantity::Length).hard(1e-3, 1e3).soft(0.01, 2).log().in("Source").when("source=object|ball|box|cylinder").says(
        "Size of its voxels; no side gets more than 256 of them.");
    t.number("edge", "soft edge", &S::edge, Quantity::Length).hard(0, 1e3).soft(0, 3).in("Source").when("source=object|ball|box|cylinder").says(
        "How far under the surface it takes to full density.");
    t.number("hollow", "hollow", &S::hollow, Quantity::Share).hard(0, 1).soft(0, 1).in("Source").when("source=object|ball|box|cylinder").says(
        "How much of the density is missing in the very middle.");
    t.curve("curve", "density curve", &S::curve).in("Source").when("source=object|ball|box|cylinder").says("Density over what edge and hollow leave of it.");
    t.number("noiseScale", "noise scale", &S::scaleNoise, Quantity::Length).hard(0.001, 1e4).soft(0.05, 50).log().in("Source").when("source=object|ball|box|cylinder").says(
        "Size of the largest wisps.");
    t.number("contrast", "noise contrast", &S::contrast, Quantity::Plain).hard(0, 4).soft(0, 2).in("Source").when("source=object|ball|box|cylinder").says(
        "0: even. Above 1 gaps open.");
    t.whole("octaves", "octaves", &S::octaves).hard(1, 8).soft(1, 8).in("Source").when("source=object|ball|box|cylinder").says("Layers of detail, each finer.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Source").when("source=object|ball|box|cylinder").says("Another number, another pattern.");
    describeDensity(t, 0.2, 2e3);
    describeScattering(t);
    t.number("shadows", "shadow density", &S::shadows, Quantity::Plain).hard(0, 10).soft(0, 2).in("Scattering").says(
        "Scales the shadow it casts on set and air; not physical, 1 leaves it.");
    t.point("position", "position", &S::position).in("Place").says("Where the file's origin stands.");
    t.number("turn", "turn", &S::turn, Quantity::Angle).hard(-3600, 3600).soft(-180, 180).in("Place").says("Turn about the vertical, clockwise from above.");
    t.number("pitch", "pitch", &S::pitch, Quantity::Angle).hard(-3600, 3600).soft(-180, 180).in("Place").says("Before the turn: nods about its X.");
    t.number("roll", "roll", &S::roll, Quantity::Angle).hard(-3600, 3600).soft(-180, 180).in("Place").says("Before the turn: leans about its Z.");
    t.number("scale", "scale", &S::scale, Quantity::Plain).hard(1e-4, 1e4).soft(0.1, 10).log().lead().in("Place").says("Metres for one of the file's.");
    t.text("follows", "goes with", &S::follows).linked("set").in("Place").says("A set it is fixed to: its place is then in that set's own metres and moves with it.");
    t.choice("glow", "glow", &S::glow, {"none", "blackbody", "ramp"}).in("Glow").says(
        "How hot matter shines: not at all, as a blackbody of its temperature, or by colours over a grid's value.");
    t.number("kelvin", "kelvin a unit", &S::kelvin, Quantity::Plain).hard(1e-3, 1e5).soft(1, 3000).log().in("Glow").when("glow=blackbody").says(
        "What the grid's value 1 means in kelvin.");
    t.number("coldest", "dark below", &S::coldest, Quantity::Temperature).hard(0, 5000).soft(300, 2000).in("Glow").when("glow=blackbody").says("Cooler matter does not shine.");
    t.number("emissive", "emitted", &S::emissive, Quantity::Plain).hard(0, 1000).soft(0.001, 10).log().in("Glow").when("glow=blackbody").says(
        "How much of a blackbody's light a metre of it gives off [1/m].");
    t.stops("ramp", "colours", &S::ramp).in("Glow").when("glow=ramp").says("Light given off over the grid's value; the first stop stays dark.");
    t.number("rampTop", "top value", &S::rampTop, Quantity::Plain).hard(1e-6, 1e6).soft(0.01, 100).log().in("Glow").when("glow=ramp").says(
        "The grid's value at the last colour.");
    t.number("exposure", "brightness", &S::exposure, Quantity::Exposure).hard(-30, 30).soft(-8, 8).in("Glow").when("glow=blackbody|ramp").says("Doubles with each stop.");
    t.number("lights", "lights others", &S::lights, Quantity::Plain).hard(0, 100).soft(0, 4).in("Glow").when("glow=blackbody|ramp").says(
        "Scales what its glow gives to set, air and other volumes; 1 is what is seen.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto [loaded, file] = sourceOf(c, s);
        if (!loaded)
            return;
        for (const std::string& note : loaded->notes)
            c.note(note);
        if (loaded->values->empty())
            return;
        Mat4 place, rotation, move;
        place.setScale(Vec3(static_cast<float>(s.scale)));
        const auto about = [&](const Vec3& axis, double degrees) {
            Mat4 m;
            m.setAxisAngle(axis, radians(degrees));
            rotation = rotation * m;
        };
        about(Vec3(1, 0, 0), s.pitch);
        about(Vec3(0, 0, 1), s.roll);
        about(Vec3(0, 1, 0), -s.turn);
        move.setTranslation(s.position);
        place = place * rotation * move;
        if (s.source == "object")
            place = Mat4(); // it stays where its object is
        if (!s.follows.empty() && s.source != "object") {
            if (const auto frame = frameOf(c.project, s.follows, c.cache, c.job))
                place = place * *frame;
            else
                c.note("The set it goes with is not there; its place is taken as it stands.");
        }
        const media::Medium look = mediumOf(c.element, s);
        media::Volume v;
        v.id = c.element.id;
        const int times = halvings(loaded->toWorld * place, s.preview);
        v.density = c.cache.coarser(loaded->values, times, c.job);
        v.place(halvedPlace(times) * loaded->toWorld * place);
        v.sigmaT = look.sigmaT * c.shot.airDensity;
        v.albedo = look.albedo;
        v.phase = look.phase;
        v.ambient = look.ambient;
        v.shadowShare = static_cast<float>(s.shadows);
        if (s.glow != "none" && s.source != "file")
            c.note("A shape has no heat to glow with; only files do.");
        if (s.glow != "none" && s.source == "file") {
            const auto& grids = *c.cache.volumeFile(file);
            std::string heat = s.heat;
            for (const char* what : {"temperature", "emission"})
                if (heat.empty())
                    heat = media::guessedGrid(grids, what);
            if (heat.empty()) {
                c.note("None of the file's grids is known to be a temperature or a flame; choose the heat grid.");
            } else {
                const auto hot = c.cache.grid(file, heat, c.job);
                const int coarse = halvings(hot->toWorld * place, s.preview);
                v.glow.heat = c.cache.coarser(hot->values, coarse, c.job);
                v.glow.toHeat = (halvedPlace(coarse) * hot->toWorld * place).inverse();
                if (hot->values->empty())
                    v.glow.heat = nullptr;
                else
                    v.glow.table = heatTable(s, hot->values->most(), v.glow.scale);
                if (s.glow == "ramp" && maxComponent(s.ramp.front().colour * s.ramp.front().opacity) > 0.f)
                    c.note("The first colour of its ramp is not black: it would glow where there is nothing. It is held at black.");
            }
        }
        for (const scene::Element& e : c.project.elements)
            if (e.kind->id == "tint" && e.as<TintSettings>().volume == c.element.id && !e.muted && e.as<TintSettings>().share > 0.0)
                v.tints.push_back(tintOf(e.as<TintSettings>(), v));
        if (c.shot.sky)
            v.shadow = c.cache.volumeShadow(v, c.shot.sky->sunDirection());
        if (v.glow.heat && s.lights > 0.0)
            for (light::Lamp lamp : *c.cache.glowLamps(v, [&] { return lampsOf(v); })) {
                lamp.intensity *= static_cast<float>(s.lights);
                lamp.ofVolume = static_cast<int>(c.shot.volumes.size());
                lamp.volumeReach.assign(c.shot.volumes.size() + 1, 1.f);
                lamp.volumeReach.back() = 0.f;
                c.shot.lamps.push_back(std::move(lamp));
            }
        if (v.sigmaT > 0.f || v.glow.heat)
            c.shot.volumes.push_back(std::move(v));
    };
    return k;
}
} // namespace hygros::elements
