/// Volume: smoke, fire or cloud from an OpenVDB file or a numbered sequence of them, or from a shape.
#include "elements/voxel_source.h"

#include "base/error.h"
#include "base/words.h"
#include "elements/bake.h"
#include "media/volume_export.h"
#include "scene/evaluate.h"
#include "sim/smoke/gas_file.h"
#include "sim/smoke/plume.h"

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
    if (voxelSource(c, s)->isCurved() && s.densityCurve != scene::CurvePoints{{0.f, 0.f}, {1.f, 1.f}}) {
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
    const auto hot = source.source->at(source.frame, VoxelGrid::Heat).grid;
    if (!hot)
        return;
    if (hot->values->empty())
        return;
    const int coarse = halvings(hot->toWorld * source.place, s.preview);
    v.glow.heat = keptCoarser(c.store, hot->values, coarse, c.job);
    v.glow.toHeat = (halvedPlace(coarse) * hot->toWorld * source.place).inverse();
    v.glow.table = heatTable(s, hot->values->most(), v.glow.scale);
    v.glow.lights = static_cast<float>(s.lights);
    if (s.glow == "ramp") {
        const scene::ColourStop& first = s.ramp.front();
        const scene::Parameter& p = *scene::findParameter(c.element.kind->parameters, "ramp");
        scene::ColourStops better = s.ramp;
        if (maxComponent(first.colour * first.opacity) > 0.f) {
            shot::Note& n = c.finding(
                "coldGlow", words("The first colour of its ramp is not black: it would glow where there is nothing. "
                                  "It is held at black."));
            better.front() = {first.at, Vec3(0.f), 0.f};
            n.mends = words("Black where it is cold");
            n.settings = {{c.element.id + ".ramp", p.shown(better)}};
        } else if (first.at <= 0.f && s.ramp.size() > 1 && maxComponent(s.ramp[1].colour * s.ramp[1].opacity) > 0.f &&
                   s.ramp[1].at < 0.005f) {
            shot::Note& n = c.finding(
                "coldGlow", words("Its ramp leaves black right above zero: what is left of cold values will glow. "
                                  "Move the second stop up."));
            better[1].at = std::min(0.05f, s.ramp.size() > 2 ? 0.5f * s.ramp[2].at : 0.05f);
            n.mends = words("Second colour at 5 %");
            n.settings = {{c.element.id + ".ramp", p.shown(better)}};
        }
    }
}
} // namespace

std::optional<media::Volume> builtVolume(const FreezeContext& c, const scene::Element& element, double shift)
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
        if (const auto* tint = settingsOf<TintSettings>(&e);
            tint && tint->volume == element.id && !e.muted && tint->share > 0.0)
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
            lamp.ofBody = static_cast<int>(c.shot.volumes.size()); // volumes are the first bodies
            lamp.bodyReach.assign(c.shot.volumes.size() + 1, 1.f);
            lamp.bodyReach.back() = 0.f;
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

void exportVolume(const scene::Project& whole, const std::string& id, const std::filesystem::path& file, float voxel,
                  Store& store, JobControl& job)
{
    const scene::Project project = scene::evaluated(whole, whole.frame);
    const scene::Element* e = project.find(id);
    if (!settingsOf<VolumeSettings>(e))
        throw inputError("Exporting a volume of", project.name, "there is no volume '" + id + "' in its frame");
    shot::Shot shot;
    std::vector<geometry::PlacedSet> placed;
    const FreezeContext c{project, *e,   project.time.looped(project.time.seconds(project.frame)), shot, placed, store,
                          job,     whole};
    const auto& s = e->as<VolumeSettings>();
    const bool tinted = std::any_of(project.elements.begin(), project.elements.end(), [&](const scene::Element& t) {
        const auto* tint = settingsOf<TintSettings>(&t);
        return tint && !t.muted && tint->volume == id;
    });
    if (kindOf(*e).isGas && voxel <= 0.f && !tinted && stepsOf(c, *e).empty()) {
        const auto frame = keptFrame(whole, id, whole.frameNumber(), store);
        if (!frame)
            throw inputError("Exporting a volume of", project.name,
                             "frame " + std::to_string(whole.frameNumber()) + " of '" + id + "' is not baked");
        const Payload payload = frame->read();
        return sim::exportGas(payload.bytes().subspan(sim::headOf(payload.bytes())), file);
    }
    const PlacedGrid source = placedGrid(c, *e);
    const std::filesystem::path own = source.grid ? source.source->file(source.frame) : std::filesystem::path();
    if (voxel <= 0.f && !own.empty() && s.preview <= 0.0 && s.shutter <= 0.0 && !tinted && stepsOf(c, *e).empty())
        return media::copyVdb(own, file, source.place, job);
    const auto v = builtVolume(c, *e);
    if (!v)
        throw inputError("Exporting a volume of", project.name, "volume '" + id + "' is empty in this frame");
    media::ExportedMotion motion;
    if (!own.empty())
        motion = {own,
                  s.velocity.empty() ? media::guessedGrid(*keptVolumeFile(store, own, job), "velocity") : s.velocity,
                  source.place, static_cast<float>(s.velocityScale)};
    media::exportVolume(*v, voxel > 0.f ? voxel : 1.f / v->indexDirection(Vec3(1, 0, 0)).length(), file, job, motion);
}
} // namespace hygros::elements
