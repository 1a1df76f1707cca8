/// Volume: smoke, fire or cloud from an OpenVDB file or a numbered sequence of them, or from a shape.
#include "elements/volume_parts.h"

#include "base/error.h"
#include "media/volume_export.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct Coefficients {
    Vec3 scattering, absorption; ///< [1/m]
};
Coefficients coefficientsOf(const VolumeSettings& s, const Vec3& albedo)
{
    const auto sigma = static_cast<float>(extinctionOfVisibility(s.visibility));
    if (s.linking == "free")
        return {s.scatterColour * static_cast<float>(s.scatters), s.absorbColour * static_cast<float>(s.absorbs)};
    if (s.linking == "scattering") {
        const float grey = std::max(1e-6f, luminance(albedo));
        Coefficients out;
        for (int c = 0; c < 3; ++c) {
            out.scattering[c] = std::min(sigma, static_cast<float>(s.scatters) * albedo[c] / grey);
            out.absorption[c] = sigma - out.scattering[c];
        }
        return out;
    }
    return {albedo * sigma, (Vec3(1.f) - albedo) * sigma};
}

float valueAt(const scene::CurvePoints& curve, float x)
{
    std::size_t k = 0;
    while (k + 2 < curve.size() && x > curve[k + 1].x)
        ++k;
    const float u = std::clamp((x - curve[k].x) / std::max(1e-6f, curve[k + 1].x - curve[k].x), 0.f, 1.f);
    return lerp(curve[k].y, curve[k + 1].y, u);
}

std::shared_ptr<const media::Remap> remapOf(const VolumeSettings& s, float most)
{
    const auto isWhole = [](const scene::CurvePoints& c) {
        return std::all_of(c.begin(), c.end(), [](const Vec2& p) { return p.y == 1.f; });
    };
    if (isWhole(s.scatteringCurve) && isWhole(s.absorptionCurve))
        return nullptr;
    auto remap = std::make_shared<media::Remap>();
    remap->most = std::max(1e-20f, most);
    for (int i = 0; i < media::Remap::entries; ++i) {
        const float x = static_cast<float>(i) / (media::Remap::entries - 1);
        remap->scattering[static_cast<std::size_t>(i)] = std::max(0.f, valueAt(s.scatteringCurve, x));
        remap->absorption[static_cast<std::size_t>(i)] = std::max(0.f, valueAt(s.absorptionCurve, x));
    }
    return remap;
}

struct WorkedKey {
    WorkedKey(const std::shared_ptr<const media::LoadedGrid>& base_, const Mat4& place,
              const std::vector<media::GridStep>& work)
        : base(base_), toWorld(place), steps(work)
    {
        for (media::GridStep& step : steps) {
            others.emplace_back(step.other);
            step.other.reset();
        }
    }
    Identity base;
    Mat4 toWorld;
    std::vector<media::GridStep> steps;
    std::vector<Identity> others;
    bool operator==(const WorkedKey&) const = default;
};
struct ShadowKey {
    Identity grid;
    Mat4 toIndex;
    Vec3 sun;
    int most;
    bool operator==(const ShadowKey&) const = default;
};
struct GlowKey {
    /// Only the volume's values; what it points to is known by identity.
    explicit GlowKey(const media::Volume& v) : volume(v), density(v.density), heat(v.glow.heat)
    {
        volume.density.reset();
        volume.glow.heat.reset();
        volume.shadow.reset();
        for (media::Tint& t : volume.tints) {
            distances.emplace_back(t.distance);
            t.distance.reset();
        }
    }
    media::Volume volume;
    Identity density, heat;
    std::vector<Identity> distances;
    bool operator==(const GlowKey&) const = default;
};

/// What is done to a volume's grid before it is seen.
std::vector<media::GridStep> stepsOf(const FreezeContext& c, const scene::Element& element)
{
    std::vector<media::GridStep> steps;
    const auto& s = element.as<VolumeSettings>();
    if (s.source == "file" && s.densityCurve != scene::CurvePoints{{0.f, 0.f}, {1.f, 1.f}}) {
        media::GridStep curve;
        curve.how = media::GridStep::How::Curve;
        curve.curve = s.densityCurve;
        steps.push_back(curve);
    }
    using How = media::GridStep::How;
    for (const scene::Element& e : c.project.elements) {
        const auto* combination = settingsOf<CombinationSettings>(&e);
        if (!combination || e.muted || combination->volume != element.id)
            continue;
        const CombinationSettings& m = *combination;
        media::GridStep step;
        step.how = m.how == "add"        ? How::Add
                   : m.how == "multiply" ? How::Multiply
                   : m.how == "cut"      ? How::Cut
                   : m.how == "inside"   ? How::Inside
                   : m.how == "blur"     ? How::Blur
                   : m.how == "resample" ? How::Resample
                                         : How::Union;
        if (step.how == How::Blur || step.how == How::Resample) {
            step.amount = static_cast<float>(step.how == How::Blur ? m.radius : m.voxel);
            if (step.amount <= 0.f)
                continue;
        } else {
            const scene::Element* other = c.project.find(m.other);
            if (!settingsOf<VolumeSettings>(other) || other->id == element.id)
                continue; // the combination's own card says so
            const PlacedGrid placed = placedGrid(c, *other);
            if (!placed.grid)
                continue;
            step.other = placed.grid;
            step.otherToWorld = placed.grid->toWorld * placed.place;
        }
        steps.push_back(std::move(step));
    }
    return steps;
}

void addGlow(const FreezeContext& c, const VolumeSettings& s, const PlacedGrid& source, media::Volume& v)
{
    if (s.source != "file") {
        c.note("A shape has no heat to glow with; only files do.");
        return;
    }
    const auto listed = keptVolumeFile(c.store, source.file, c.job);
    const auto& grids = *listed;
    std::string heat = s.heat;
    for (const char* what : {"temperature", "emission"})
        if (heat.empty())
            heat = media::guessedGrid(grids, what);
    if (heat.empty()) {
        c.note("None of the file's grids is known to be a temperature or a flame; choose the heat grid.");
        return;
    }
    // Light from something hot goes by the fourth power of its temperature; what it sends out while it moves stays the
    // same.
    const std::string moving = s.shutter > 0.0 ? velocityOf(c, s, source.file) : "";
    const auto hot = moving.empty() ? gridOf(c, source.file, heat)
                                    : movedGrid(c, source.file, heat, moving, shutterSeconds(c, s),
                                                s.glow == "blackbody" ? 4.f : 1.f);
    if (hot->values->empty())
        return;
    const int coarse = halvings(hot->toWorld * source.place, s.preview);
    v.glow.heat = keptCoarser(c.store, hot->values, coarse, c.job);
    v.glow.toHeat = (halvedPlace(coarse) * hot->toWorld * source.place).inverse();
    v.glow.table = heatTable(s, hot->values->most(), v.glow.scale);
    v.glow.lights = static_cast<float>(s.lights);
    if (s.glow == "ramp") {
        const scene::ColourStop& first = s.ramp.front();
        if (maxComponent(first.colour * first.opacity) > 0.f)
            c.note("The first colour of its ramp is not black: it would glow where there is nothing. It is held at "
                   "black.");
        else if (first.at <= 0.f && s.ramp.size() > 1 && maxComponent(s.ramp[1].colour * s.ramp[1].opacity) > 0.f &&
                 s.ramp[1].at < 0.005f)
            c.note("Its ramp leaves black right above zero: what is left of cold values will glow. Move the second "
                   "stop up.");
    }
}
} // namespace

std::optional<media::Volume> builtVolume(const FreezeContext& c, const scene::Element& element, int shift)
{
    const auto& s = element.as<VolumeSettings>();
    const PlacedGrid source = placedGrid(c, element, shift);
    if (!source.grid)
        return std::nullopt;
    std::shared_ptr<const media::LoadedGrid> grid = source.grid;
    Mat4 place = source.place;
    if (const auto steps = stepsOf(c, element); !steps.empty()) {
        // What depends on nothing else is worked on where the file has it, so that moving it costs nothing.
        const bool alone = std::all_of(steps.begin(), steps.end(), [](const media::GridStep& step) {
            return step.how == media::GridStep::How::Curve;
        });
        const Mat4 stands = alone ? source.grid->toWorld : source.grid->toWorld * place;
        grid = c.store.get(
            WorkedKey(source.grid, stands, steps),
            [&] {
                return std::make_shared<const media::LoadedGrid>(media::worked(*source.grid, stands, steps, c.job));
            },
            &c.job);
        place = alone ? place : Mat4();
    }
    for (const std::string& note : grid->notes)
        c.note(note);
    if (grid->values->empty())
        return std::nullopt;
    const media::Medium look = mediumOf(element, s);
    media::Volume v;
    v.id = element.id;
    const int times = halvings(grid->toWorld * place, s.preview);
    v.density = keptCoarser(c.store, grid->values, times, c.job);
    v.place(halvedPlace(times) * grid->toWorld * place);
    const Coefficients k = coefficientsOf(s, look.albedo);
    const Vec3 all = k.scattering + k.absorption;
    const float grey = luminance(all);
    v.sigmaT = grey * c.shot.airDensity;
    if (grey > 0.f) {
        // The same in all channels is exactly that, so that the fast way is taken.
        v.spectrum = maxComponent(all) - std::min({all.x, all.y, all.z}) <= 1e-5f * grey ? Vec3(1.f) : all / grey;
        for (int ch = 0; ch < 3; ++ch)
            v.albedo[ch] = all[ch] > 0.f ? k.scattering[ch] / all[ch] : 0.f;
    }
    v.phase = look.phase;
    v.ambient = look.ambient;
    v.shadowShare = static_cast<float>(s.shadows);
    v.remap = remapOf(s, v.density->most());
    if (s.glow != "none")
        addGlow(c, s, source, v);
    for (const scene::Element& e : c.project.elements)
        if (const auto* tint = settingsOf<TintSettings>(&e); tint && tint->volume == element.id && !e.muted && tint->share > 0.0)
            v.tints.push_back(tintOf(c, *tint, v));
    return v;
}

void contributeVolume(FreezeContext& c, media::Volume v, float lights, bool coarseShadow)
{
    if (c.shot.sky) {
        const Vec3 sun = c.shot.sky->sunDirection();
        const int cells = coarseShadow ? 40 : media::VolumeShadow::most;
        v.shadow = c.store.get(ShadowKey{v.density, v.toIndex, sun, cells},
                               [&] { return std::make_shared<const media::VolumeShadow>(v, sun, cells); });
    }
    if (v.glow.heat && lights > 0.f)
        for (light::Lamp lamp :
             *c.store.get(GlowKey(v), [&] { return std::make_shared<const std::vector<light::Lamp>>(lampsOf(v)); })) {
            lamp.intensity *= lights;
            lamp.ofVolume = static_cast<int>(c.shot.volumes.size());
            lamp.volumeReach.assign(c.shot.volumes.size() + 1, 1.f);
            lamp.volumeReach.back() = 0.f;
            c.shot.lamps.push_back(std::move(lamp));
        }
    if (v.sigmaT > 0.f || v.glow.heat)
        c.shot.volumes.push_back(std::move(v));
}

std::vector<std::pair<std::string, scene::Value>> relinked(const scene::Element& volume, const std::string& linking)
{
    const auto& s = volume.as<VolumeSettings>();
    const Coefficients k = coefficientsOf(s, mediumOf(volume, s).albedo);
    const Vec3 all = k.scattering + k.absorption;
    const float scatters = luminance(k.scattering), absorbs = luminance(k.absorption),
                grey = std::max(1e-9f, luminance(all));
    std::vector<std::pair<std::string, scene::Value>> out;
    const auto set = [&](const char* id, const scene::Value& v) { out.emplace_back(id, v); };
    const auto hue = [](const Vec3& v, float mean) { return mean > 1e-9f ? v / mean : Vec3(1.f); };
    if (linking == "free") {
        set("scatters", scene::Value(static_cast<double>(scatters)));
        set("absorbs", scene::Value(static_cast<double>(absorbs)));
        set("scatterColour", scene::Value(hue(k.scattering, scatters)));
        set("absorbColour", scene::Value(hue(k.absorption, absorbs)));
    } else {
        set("visibility", scene::Value(std::clamp(visibilityOfExtinction(static_cast<double>(grey)), 0.01, 1e8)));
        set("scatters", scene::Value(static_cast<double>(scatters)));
        if (s.linking != "albedo") {
            Vec3 albedo;
            for (int c = 0; c < 3; ++c)
                albedo[c] = std::clamp(k.scattering[c] / grey, 0.f, 1.f);
            set("albedo", scene::Value(albedo));
            set("albedoShare", scene::Value(1.0));
            set("tint", scene::Value(Vec3(1.f)));
        }
    }
    set("linking", scene::Value(linking));
    return out;
}

VolumeLook lookOf(const scene::Element& volume)
{
    const auto& s = volume.as<VolumeSettings>();
    const media::Medium m = mediumOf(volume, s);
    const Coefficients k = coefficientsOf(s, m.albedo);
    return {k.scattering, k.absorption, m.phase};
}

VolumeLook denserLook(const scene::Element& volume, const std::string& linking, double times)
{
    scene::Element other = volume;
    for (const auto& [id, value] : relinked(volume, linking))
        other.set(id, value);
    const auto& s = other.as<VolumeSettings>();
    if (linking == "free")
        other.set("scatters", std::min(1e4, s.scatters * times));
    else
        other.set("visibility", std::max(0.01, s.visibility / times));
    return lookOf(other);
}

void exportVolume(const scene::Project& project, const std::string& id, const std::filesystem::path& file, float voxel,
                  Store& store, JobControl& job)
{
    const scene::Element* e = project.find(id);
    if (!settingsOf<VolumeSettings>(e))
        throw inputError("Exporting a volume of", project.name, "there is no volume '" + id + "' in its frame");
    shot::Shot shot;
    std::vector<geometry::PlacedSet> placed;
    const FreezeContext c{project, *e, (project.frame - 1) / project.framesPerSecond, shot, placed, store, job};
    const auto& s = e->as<VolumeSettings>();
    const bool tinted = std::any_of(project.elements.begin(), project.elements.end(), [&](const scene::Element& t) {
        const auto* tint = settingsOf<TintSettings>(&t);
        return tint && !t.muted && tint->volume == id;
    });
    if (voxel <= 0.f && s.source == "file" && s.preview <= 0.0 && s.shutter <= 0.0 && !tinted &&
        stepsOf(c, *e).empty()) {
        if (const PlacedGrid source = placedGrid(c, *e); source.grid)
            return media::copyVdb(source.file, file, source.place, job);
    }
    const auto v = builtVolume(c, *e);
    if (!v)
        throw inputError("Exporting a volume of", project.name, "volume '" + id + "' is empty in this frame");
    media::ExportedMotion motion;
    if (s.source == "file")
        if (const PlacedGrid source = placedGrid(c, *e); source.grid) {
            const auto listed = keptVolumeFile(store, source.file, job);
            const auto& grids = *listed;
            motion = {source.file, s.velocity.empty() ? media::guessedGrid(grids, "velocity") : s.velocity,
                      source.place, static_cast<float>(s.velocityScale)};
        }
    media::exportVolume(*v, voxel > 0.f ? voxel : 1.f / v->indexDirection(Vec3(1, 0, 0)).length(), file, job, motion);
}

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
scene::Element& bringFile(scene::Project& project, const std::filesystem::path& file, const std::string& name, const Seen& seen, Store& store)
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
} // namespace

Kind volumeKind()
{
    using S = VolumeSettings;
    Kind k;
    k.id = "volume";
    k.column = Kind::Column::Air;
    k.actions = {"exportVolume"};
    k.handles = [](const scene::Element&) { return Handles{"position", "turn", "scale", {}, {}, {}}; };
    k.extinction = [](const scene::Element& e) {
        const VolumeLook look = lookOf(e);
        return static_cast<double>(luminance(look.scattering + look.absorption));
    };
    k.along = [](const scene::Element& e, const std::string& parameter, const scene::Value& value) {
        // Its look stays: the other way's numbers are worked out from this one's.
        return parameter == "linking" ? relinked(e, std::get<std::string>(value)) : std::vector<std::pair<std::string, scene::Value>>();
    };
    k.begin = beginShape;
    k.brings = volumeFiles;
    k.readBefore = readDensity;
    k.bring = bringFile;
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
        .linked("grid")
        .in("Source")
        .when("source=file")
        .says("Which of the file's grids is the density; empty: the one whose name says so.");
    t.text("heat", "heat grid", &S::heat)
        .linked("grid")
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
    t.number("shutter", "motion blur", &S::shutter, Quantity::Share)
        .hard(0, 4)
        .soft(0, 1)
        .in("Source")
        .when("source=file")
        .says("Share of a frame that the shutter is open: matter is spread along its way by the velocity grid; 0 "
              "leaves it sharp.");
    t.text("velocity", "velocity grid", &S::velocity)
        .linked("vectorGrid")
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
    t.choice("linking", "when it gets denser", &S::linking, {"albedo", "scattering", "free"})
        .edited("balls")
        .in("Scattering")
        .says("Keep albedo: scattering and absorption grow together. Keep scattering: only absorption grows. Free: "
              "each has its own number and colour.");
    describeDensity(t, 0.2, 2e3)
        .when("linking=albedo|scattering")
        .orAs({"halfOpaque", "m that hide half", [](double m) { return m * visibilityConstant / 0.69314718056; },
               [](double v) { return v * 0.69314718056 / visibilityConstant; }})
        .orAs({"opaque", "m that hide 99 %", [](double m) { return m * visibilityConstant / 4.60517018599; },
               [](double v) { return v * 4.60517018599 / visibilityConstant; }});
    t.number("scatters", "scatters", &S::scatters, Quantity::Coefficient)
        .hard(0, 1e4)
        .soft(1e-3, 100)
        .log()
        .lead()
        .in("Scattering")
        .when("linking=scattering|free")
        .says("Scattering coefficient where the grid is 1.");
    t.number("absorbs", "absorbs", &S::absorbs, Quantity::Coefficient)
        .hard(0, 1e4)
        .soft(1e-4, 100)
        .log()
        .in("Scattering")
        .when("linking=free")
        .says("Absorption coefficient where the grid is 1.");
    t.colour("scatterColour", "scatters by colour", &S::scatterColour)
        .hard(0, 10)
        .in("Scattering")
        .when("linking=free")
        .says("Scattering of each channel, as a share of the number.");
    t.colour("absorbColour", "absorbs by colour", &S::absorbColour)
        .hard(0, 10)
        .in("Scattering")
        .when("linking=free")
        .says("Absorption of each channel, as a share of the number: what is low here comes through.");
    describeScattering(t);
    t.curve("scatteringCurve", "scattering kept", &S::scatteringCurve)
        .falls()
        .in("Scattering")
        .says("Share of its scattering that stays, over the grid's value as a share of its largest.");
    t.curve("absorptionCurve", "absorption kept", &S::absorptionCurve)
        .falls()
        .in("Scattering")
        .says("Share of its absorption that stays, over the grid's value as a share of its largest.");
    t.number("shadows", "shadow density", &S::shadows, Quantity::Plain)
        .hard(0, 10)
        .soft(0, 2)
        .in("Scattering")
        .says("Scales the shadow it casts on set and air; not physical, 1 leaves it.");
    t.point("position", "position", &S::position)
        .place().in("Place").says("Where the file's origin stands.");
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
    t.choice("glow", "glow", &S::glow, {"none", "blackbody", "ramp"})
        .in("Glow")
        .says(
            "How hot matter shines: not at all, as a blackbody of its temperature, or by colours over a grid's value.");
    t.number("kelvin", "kelvin a unit", &S::kelvin, Quantity::Plain)
        .hard(1e-3, 1e5)
        .soft(1, 3000)
        .log()
        .in("Glow")
        .when("glow=blackbody")
        .says("What the grid's value 1 means in kelvin.");
    t.number("coldest", "dark below", &S::coldest, Quantity::Temperature)
        .hard(0, 5000)
        .soft(300, 2000)
        .in("Glow")
        .when("glow=blackbody")
        .says("Cooler matter does not shine.");
    t.number("emissive", "emitted", &S::emissive, Quantity::Plain)
        .hard(0, 1000)
        .soft(0.001, 10)
        .log()
        .in("Glow")
        .when("glow=blackbody")
        .says("How much of a blackbody's light a metre of it gives off [1/m].");
    t.stops("ramp", "colours", &S::ramp)
        .in("Glow")
        .when("glow=ramp")
        .says("Light given off over the grid's value; the first stop stays dark.");
    t.number("rampTop", "top value", &S::rampTop, Quantity::Plain)
        .hard(1e-6, 1e6)
        .soft(0.01, 100)
        .log()
        .in("Glow")
        .when("glow=ramp")
        .says("The grid's value at the last colour.");
    t.number("exposure", "brightness", &S::exposure, Quantity::Exposure)
        .hard(-30, 30)
        .soft(-8, 8)
        .in("Glow")
        .when("glow=blackbody|ramp")
        .says("Doubles with each stop.");
    t.number("lights", "lights others", &S::lights, Quantity::Plain)
        .hard(0, 100)
        .soft(0, 4)
        .in("Glow")
        .when("glow=blackbody|ramp")
        .says("Scales what its glow gives to set, air and other volumes; 1 is what is seen.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
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
            contributeVolume(c, std::move(*v), static_cast<float>(c.element.as<S>().lights));
    };
    return k;
}
} // namespace hygros::elements
