/// Volume: smoke, fire or cloud from an OpenVDB file or a numbered sequence of them.
#include "elements/air.h"

#include "base/error.h"
#include "geometry/plate.h"
#include "light/blackbody.h"

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
    std::string file, density, heat;
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
    double rampTop = 1.0;
};

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

std::shared_ptr<const std::vector<Vec3>> heatTable(const VolumeSettings& s, float most, float& scale)
{
    constexpr int entries = 256;
    auto table = std::make_shared<std::vector<Vec3>>(entries);
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
            const float at = value / static_cast<float>(s.rampTop);
            std::size_t k = 0;
            while (k + 2 < s.ramp.size() && at > s.ramp[k + 1].at)
                ++k;
            const auto &a = s.ramp[k], &b = s.ramp[k + 1];
            const float u = std::clamp((at - a.at) / std::max(1e-6f, b.at - a.at), 0.f, 1.f);
            l = lerp(a.colour * a.opacity, b.colour * b.opacity, u) * 1000.f;
        }
        (*table)[static_cast<std::size_t>(i)] = l * bright;
    }
    return table;
}
} // namespace

Kind volumeKind()
{
    using S = VolumeSettings;
    Kind k;
    k.id = "volume";
    k.label = "Volume";
    k.help = "Smoke, fire or cloud from an OpenVDB file or a numbered sequence of them.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.file("file", "file", &S::file).in("File").says("The OpenVDB file, relative to the project.");
    t.text("density", "density grid", &S::density).linked("grid").in("File").says("Which of the file's grids is the density; empty: the one whose name says so.");
    t.text("heat", "heat grid", &S::heat).linked("grid").in("File").when("glow=blackbody|ramp").says("Which grid glows; empty: temperature or flame by its name.");
    t.toggle("sequence", "numbered frames", &S::sequence).in("File").says("Takes the file's last number as the frame.");
    t.whole("offset", "offset", &S::offset).hard(-1e6, 1e6).soft(-100, 100).in("File").when("sequence=on").says("Added to the frame's number.");
    t.number("speed", "speed", &S::speed, Quantity::Plain).hard(-100, 100).soft(0, 2).in("File").when("sequence=on").says("Files a frame; 1 is as they come.");
    t.number("preview", "voxels at least", &S::preview, Quantity::Length).hard(0, 1e4).soft(0, 2).in("File").says(
        "Works with voxels at least this large, halved from the file's; 0 takes them as they are.");
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
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (s.file.empty()) {
            c.note("Choose an OpenVDB file; until then it is left out.");
            return;
        }
        const std::filesystem::path file = fileOf(c, s);
        const auto& grids = *c.cache.volumeFile(file);
        const std::string name = s.density.empty() ? media::guessedGrid(grids, "density") : s.density;
        if (name.empty() && grids.size() != 1) {
            c.note("None of the file's grids is known to be a density; choose one.");
            return;
        }
        const auto loaded = c.cache.grid(file, name, c.job);
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
        if (!s.follows.empty()) {
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
        if (s.glow != "none") {
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
        if (c.shot.sky)
            v.shadow = c.cache.volumeShadow(v, c.shot.sky->sunDirection());
        if (v.sigmaT > 0.f || v.glow.heat)
            c.shot.volumes.push_back(std::move(v));
    };
    return k;
}
} // namespace hygros::elements
