/// Plume: one body of simulated gas, smoke or fire; and what feeds it.
#include "sim/smoke/plume.h"
#include "elements/plume_join.h"
#include "elements/plume_parts.h"
#include "elements/volume_look.h"
#include "elements/wind.h"

#include "sim/smoke/gas_file.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr float around = 288.f;      ///< temperature of the air [K]
constexpr double bytesOnDisk = 16.0; ///< a voxel that is in use, as measured

struct PlumeSettings final : VolumeSettings {
    PlumeSettings()
    {
        source = "baked";
        // A gram of soot in a cubic metre has an extinction of 8.7 m²/g (Mulholland & Croarkin 2000).
        visibility = visibilityConstant / 8.7;
        albedo = Vec3(0.6f, 0.6f, 0.6f);
        glow = "blackbody";
        coldest = 800.0;
        emissive = 0.6;
        size = Vec3(4.f, 8.f, 4.f);
        voxel = 0.1;
    }
    double pace = 1.0, buoyancy = 1.0, thinning = 6.0, cooling = 1200.0, burning = 4.0, burnHeat = 1500.0,
           ignition = 600.0, sooting = 0.6, expansion = 1.0, swirling = 0.15, viscosity = 0.0;
    bool ground = true, obstacles = true;
    std::string detail = "shot";
    double keeps = 1.0;
    static constexpr double previewCells = 2.0; ///< voxels of the preview
    /// How large voxels are [m].
    double cell() const { return voxel * (detail == "preview" ? previewCells : detail == "final" ? 0.5 : 1.0); }
    std::shared_ptr<scene::Settings> clone() const override { return std::make_shared<PlumeSettings>(*this); }
};

struct FeedSettings : scene::SettingsOf<FeedSettings> {
    std::string plume, form = "disc", object, material, follows;
    Vec3 position{0.f, 0.2f, 0.f}, size{0.5f, 0.1f, 0.5f};
    double turn = 0.0, temperature = 900.0, smoke = 0.0, fuel = 1.0, rate = 12.0, speed = 0.0, heading = 0.0,
           climb = 90.0, contrast = 0.6, scaleNoise = 0.12, change = 3.0, outward = 0.0, begins = 0.0, lasts = 0.0;
    bool within = false;
    std::int64_t seed = 1;
};

struct PointsKey {
    Identity set;
    float spacing, scale;
    std::string material;
    bool operator==(const PointsKey&) const = default;
};

/// Places all over a set's surface, in its own metres, closer than `spacing`; only of one material where it is named.
std::shared_ptr<const std::vector<media::FeedPoint>> surfaceOf(const FreezeContext& c,
                                                               const geometry::PlacedSet& placed, const Mat4& toOwn,
                                                               float spacing, const std::string& material)
{
    constexpr std::size_t most = 400'000;
    const float scale = Vec3(toOwn[0][0], toOwn[0][1], toOwn[0][2]).length();
    return c.store.get(PointsKey{placed.set, spacing, scale, material}, [&] {
        auto out = std::make_shared<std::vector<media::FeedPoint>>();
        for (const geometry::Mesh& m : placed.set->meshes) {
            if (!material.empty() &&
                (m.material >= placed.set->materials.size() || placed.set->materials[m.material].name != material))
                continue;
            for (std::size_t i = 0; i + 2 < m.indices.size() && out->size() < most; i += 3) {
                const Vec3 a = m.positions[m.indices[i]] * toOwn, b = m.positions[m.indices[i + 1]] * toOwn - a,
                           d = m.positions[m.indices[i + 2]] * toOwn - a;
                Vec3 normal = b.cross(d);
                if (!(normal.length2() > 0.f)) // no area
                    continue;
                normal.normalize();
                const int n = std::clamp(
                    static_cast<int>(std::ceil(std::max({b.length(), d.length(), (b - d).length()}) / spacing)), 1,
                    400);
                for (int u = 0; u < n; ++u)
                    for (int v = 0; u + v < n && out->size() < most; ++v)
                        out->push_back({a + b * ((static_cast<float>(u) + 0.33f) / static_cast<float>(n)) +
                                            d * ((static_cast<float>(v) + 0.33f) / static_cast<float>(n)),
                                        normal});
            }
        }
        return std::shared_ptr<const std::vector<media::FeedPoint>>(std::move(out));
    });
}

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
        f.points = surfaceOf(c, *placed, placed->toWorld * placed->frame.inverse(), 0.6f * voxel, s.material);
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
        if (f.points->empty())
            c.shot.notes.push_back(
                {element.id,
                 !s.material.empty() && std::none_of(placed->set->materials.begin(), placed->set->materials.end(),
                                                     [&](const geometry::Material& m) { return m.name == s.material; })
                     ? "The object has no material '" + s.material + "' any more: nothing feeds."
                 : s.within ? "No face of the object lies in its box: nothing feeds."
                            : "The object's faces have no area: nothing feeds."});
        f.half = (placed->set->bounds.max - placed->set->bounds.min) * 0.5f;
    } else {
        f.form = s.form == "ball"   ? Form::Ball
                 : s.form == "box"  ? Form::Box
                 : s.form == "line" ? Form::Line
                                    : Form::Disc;
        Mat4 turn, move;
        turn.rotate(Vec3(0.f, -radians(s.turn), 0.f));
        move.setTranslation(s.position);
        f.toWorld = turn * move * frameOf(c.project, s.follows, c.store, c.job).value_or(Mat4());
    }
    f.heat = std::max(0.f, static_cast<float>(s.temperature) - around);
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
struct WholeGasKey {
    FileVersion version;
    bool operator==(const WholeGasKey&) const = default;
};
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

std::shared_ptr<const sim::Gas> keptGas(const BakedFrame& frame, Store& store)
{
    return store.get(WholeGasKey{frame.version}, [&]() -> std::shared_ptr<const sim::Gas> {
        const Payload payload = frame.read();
        return sim::readGas(payload.bytes().subspan(sim::headOf(payload.bytes())));
    });
}

std::optional<PlumeMeasures> measuresOf(const scene::Element* plume)
{
    const auto* s = settingsOf<PlumeSettings>(plume);
    return s ? std::optional(PlumeMeasures{static_cast<float>(s->cell()), static_cast<float>(s->pace)}) : std::nullopt;
}

std::vector<std::string> originsOfPlumes(const scene::Project& project)
{
    std::vector<std::string> ids;
    for (const scene::Element& e : project.elements)
        if (settingsOf<FeedSettings>(&e) || movesTheAir(e) || kindOf(e).placed)
            ids.push_back(e.id);
    return ids;
}

Kind plumeKind()
{
    using S = PlumeSettings;
    Kind k;
    k.id = "plume";
    looksLikeAVolume(k);
    k.label = "Plume";
    k.help = "A body of simulated gas: smoke, fire, steam, dust. Feeds fill it; bake it to see it.";
    k.family = scene::Family::Fire;
    k.actions = {"bake", "purge", "joinPlumes", "exportVolume"};
    k.handles = [](const scene::Element&) {
        Handles h;
        h.place = "position";
        h.size = "size";
        return h;
    };
    k.begin = [](scene::Element& e, const Seen& seen) {
        const Vec3 ahead = aheadOf(seen.camera, 8.f);
        e.set("position", Vec3(std::round(ahead.x * 10.f) * 0.1f, 0.f, std::round(ahead.z * 10.f) * 0.1f));
    };
    scene::TableOf<S> t;
    t.number("voxel", "voxels", &S::voxel, Quantity::Length)
        .hard(1e-4, 100)
        .soft(0.02, 1)
        .log()
        .lead()
        .fixed()
        .in("Gas")
        .says("How finely it is simulated. Half as large takes sixteen times as long.");
    t.choice("detail", "detail", &S::detail, {"preview", "shot", "final"})
        .fixed()
        .in("Gas")
        .says("Preview has voxels twice as large and takes a sixteenth of the time, final half as large.");
    t.number("keeps", "keeps to its preview", &S::keeps, Quantity::Share)
        .hard(0, 1)
        .in("Gas")
        .when("detail=shot|final")
        .says("How much its large motion stays that of the preview; 0 makes another fire of the same kind.");
    t.number("cooling", "cools by", &S::cooling, Quantity::Plain)
        .hard(0, 1e6)
        .soft(50, 2e4)
        .log()
        .lead()
        .in("Gas")
        .says("Kelvin a second that it loses at 2088 K; cooler gas far less, by the fourth power.");
    t.number("thinning", "smoke halves in", &S::thinning, Quantity::Time)
        .hard(0, 1e5)
        .soft(0.2, 60)
        .log()
        .in("Gas")
        .says("How long half of the smoke stays; 0 keeps all of it.");
    t.number("buoyancy", "rises", &S::buoyancy, Quantity::Plain)
        .hard(-10, 10)
        .soft(0, 3)
        .in("Gas")
        .says("Times as strongly as hot gas does; 1 is physical.");
    t.number("swirling", "swirls", &S::swirling, Quantity::Plain)
        .hard(0, 2)
        .soft(0, 1)
        .in("Gas")
        .says("Gives back what the cells lose of small swirls.");
    t.number("viscosity", "viscosity", &S::viscosity, Quantity::Plain)
        .hard(0, 1e6)
        .soft(0, 100)
        .in("Gas")
        .says("Times that of air: small flames are as smooth as they are by it. Hot gas has some ten times as much.");
    t.number("expansion", "expands", &S::expansion, Quantity::Plain)
        .hard(0, 10)
        .soft(0, 3)
        .in("Gas")
        .says("Room that gas takes as it burns; 1 is physical.");
    t.number("pace", "pace", &S::pace, Quantity::Plain)
        .hard(0.01, 100)
        .soft(0.1, 4)
        .log()
        .in("Gas")
        .says("Seconds of the gas in a second of the film.");
    t.number("burning", "burns", &S::burning, Quantity::Frequency)
        .hard(0, 1000)
        .soft(0.2, 30)
        .log()
        .in("Fire")
        .says("Share of the fuel that burns a second: low makes tall lazy flames, high short sharp ones.");
    t.number("burnHeat", "heat", &S::burnHeat, Quantity::Temperature)
        .hard(0, 1e4)
        .soft(300, 3000)
        .in("Fire")
        .says("How much hotter a full share of fuel makes the gas.");
    t.number("ignition", "burns above", &S::ignition, Quantity::Temperature)
        .hard(0, 5000)
        .soft(300, 1500)
        .in("Fire")
        .says("Cooler fuel does not burn.");
    t.number("sooting", "smokes", &S::sooting, Quantity::Plain)
        .hard(0, 1000)
        .soft(0, 5)
        .in("Fire")
        .says("Grams of soot in a cubic metre that a full share of fuel leaves.");
    t.point("position", "position", &S::position).place().fixed().in("Box").says("Middle of the box's floor.");
    t.point("size", "largest size", &S::size)
        .hard(0.05, 1e4)
        .fixed()
        .in("Box")
        .says("Where it may go; it is simulated only where there is something.");
    t.toggle("ground", "stands on ground", &S::ground).fixed().in("Box").says("Nothing passes the floor of its box.");
    t.toggle("obstacles", "sets stand in its way", &S::obstacles)
        .fixed()
        .in("Box")
        .says("Sets are solid to it; what feeds it is open.");
    describeVolumeLook(t);
    describeVolumeGlow(t);
    k.parameters = t.take();
    // What is seen is no part of what is simulated.
    for (scene::Parameter& p : k.parameters)
        p.isLook = p.group == "Scattering" || p.group == "Glow";
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        media::Plume p;
        p.id = c.element.id;
        p.floor = s.position;
        p.size = s.size;
        p.voxel = static_cast<float>(s.cell());
        p.pace = static_cast<float>(s.pace);
        p.gas.around = around;
        p.gas.buoyancy = static_cast<float>(s.buoyancy);
        p.gas.thinning = static_cast<float>(s.thinning);
        p.gas.cooling = static_cast<float>(s.cooling);
        p.gas.burning = static_cast<float>(s.burning);
        p.gas.heat = static_cast<float>(s.burnHeat);
        p.gas.ignition = std::max(0.f, static_cast<float>(s.ignition) - around);
        p.gas.sooting = static_cast<float>(s.sooting * 1e-3);
        p.gas.expansion = static_cast<float>(s.expansion);
        p.gas.viscosity = static_cast<float>(s.viscosity) * media::GasSettings::viscosityOfAir;
        p.gas.swirling = static_cast<float>(s.swirling);
        p.gas.closed[2] = s.ground;
        if (s.obstacles)
            p.obstacles = c.placed;
        if (s.detail != "preview" && s.keeps > 0.0) {
            p.keeps = static_cast<float>(s.keeps);
            media::Plume preview = p;
            preview.voxel = static_cast<float>(s.voxel * PlumeSettings::previewCells);
            preview.feeds = feedsOf(c, c.element.id, preview.voxel);
            p.preview.push_back(std::move(preview));
        }
        p.feeds = feedsOf(c, c.element.id, p.voxel);
        if (p.feeds.empty()) {
            const auto mine = [&](const scene::Element& e) {
                const auto* feed = settingsOf<FeedSettings>(&e);
                return feed && feed->plume == c.element.id;
            };
            c.note(std::any_of(c.project.elements.begin(), c.project.elements.end(), mine)
                       ? "What feeds it is muted, or its object is not there: nothing comes of it."
                       : "Nothing feeds it: add a Feed and choose this plume on its card.");
        }
        for (const std::string& name : overlapping(c.project, c.element))
            c.note("It overlaps with " + name +
                   ": they do not push each other. \"Join overlapping plumes\" makes them one.");
        double cells = 1.0;
        for (int a = 0; a < 3; ++a)
            cells *= std::ceil(double(s.size[a]) / s.cell());
        c.tell("Its box holds " + formatNumber(cells * 1e-6, 3) + " million voxels of " +
               formatQuantity(s.cell(), Quantity::Length) + "; if all of them fill, that is " +
               formatNumber(cells * sim::PlumeSolver::bytesACell * 1e-9, 2) + " GB of memory and up to " +
               formatNumber(cells * bytesOnDisk * 1e-6, 2) + " MB a frame.");
        c.shot.airflow.plumes.push_back(std::move(p));
        completeVolume(c);
    };
    k.isGas = true;
    k.solver = [](const std::string& element) { return std::make_unique<sim::PlumeSolver>(element); };
    k.comesFrom = originsOfPlumes;
    return k;
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
    t.choice("form", "form", &S::form, {"disc", "ball", "box", "line", "object"})
        .in("Feed")
        .says("Its shape, or the surface of a set object.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Feed")
        .when("form=object")
        .says("The set object whose surface feeds.");
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
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const scene::Element* plume = c.project.find(s.plume);
        if (!settingsOf<PlumeSettings>(plume))
            return c.note("Choose the plume that it feeds.");
        carried(c, s.follows); // says what is not there
        const auto& p = plume->as<PlumeSettings>();
        if (s.form == "object")
            return;
        const Vec3 at = s.position * frameOf(c.project, s.follows, c.store, c.job).value_or(Mat4());
        if (std::abs(at.x - p.position.x) > 0.5f * p.size.x || std::abs(at.z - p.position.z) > 0.5f * p.size.z ||
            at.y < p.position.y || at.y > p.position.y + p.size.y)
            c.note("It lies outside of the plume's box: nothing comes of it there.");
        else if (s.rate <= 0.0)
            c.note("Its rate is 0: nothing flows.");
        else if (!feedsNow(c, s))
            c.tell(sinceFirst(c) < s.begins
                       ? "It feeds from frame " + frameAfter(c, s.begins) + " on."
                       : "It stopped feeding at frame " + frameAfter(c, std::max(0.0, s.begins) + s.lasts) + ".");
        else if (s.fuel > 0.0 && s.temperature < p.ignition)
            c.note("It is cooler than " + formatQuantity(p.ignition, Quantity::Temperature) +
                   ", at which the plume's fuel burns: it stays dark unless something else lights it.");
        if (std::min({s.size.x, s.size.z}) < static_cast<float>(p.cell()))
            c.note("It is smaller than the plume's voxels.");
    };
    return k;
}
} // namespace hygros::elements
