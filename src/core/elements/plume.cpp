/// Plume: one body of simulated gas, smoke or fire.
#include "sim/smoke/plume.h"

#include "base/shown_units.h"
#include "base/words.h"
#include "elements/plume_join.h"
#include "elements/plume_parts.h"
#include "elements/plume_settings.h"
#include "elements/volume_look.h"
#include "elements/voxel_source.h"
#include "elements/wind.h"
#include "scene/evaluate.h"
#include "sim/smoke/gas_file.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr double bytesOnDisk = 16.0; ///< a voxel that is in use, as measured

struct WholeGasKey {
    FileVersion version;
    bool operator==(const WholeGasKey&) const = default;
};
} // namespace

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
    return s ? std::optional(PlumeMeasures{static_cast<float>(s->cell()), static_cast<float>(s->pace), airAround})
             : std::nullopt;
}

Retiming retimingOf(const FreezeContext& c)
{
    const auto* s = settingsOf<PlumeSettings>(&c.element);
    Retiming out;
    const scene::Element* whole = c.whole.find(c.element.id);
    const bool isKeyed = whole && whole->track("showSpeed");
    if (!s || (!isKeyed && s->showSpeed == 1.0 && s->showFrom == 0.0 && s->showEnds == "nothing"))
        return out;
    const scene::TimeSettings& time = c.whole.time;
    const double rate = time.rate.perSecond();
    out.isOn = true;
    out.frameSeconds = static_cast<float>(s->pace / rate);
    // Frames of the bake that have passed since the first: the speed summed up over time.
    const double now = c.project.frame - time.first;
    double gone = now * s->showSpeed;
    if (isKeyed) {
        const scene::Parameter& p = *scene::findParameter(c.element.kind->parameters, "showSpeed");
        const int pieces = static_cast<int>(std::clamp(std::ceil(std::abs(now)), 1.0, 20000.0));
        gone = 0.0;
        for (int i = 0; i < pieces; ++i)
            gone += std::get<double>(scene::valueAt(c.whole, *whole, p, time.first + now * (i + 0.5) / pieces)) * now /
                    pieces;
    }
    const double length = std::max(1, time.last - time.first);
    double at = gone + s->showFrom * rate;
    if (s->showEnds == "loop") {
        const double fade = std::clamp(s->showFade * rate, 0.0, 0.5 * length), period = std::max(1.0, length - fade);
        const double phase = at - std::floor(at / period) * period;
        at = fade + phase;
        if (phase > period - fade) {
            out.fade = static_cast<float>((phase - (period - fade)) / fade);
            out.other = time.first + phase - (period - fade);
        }
    } else if (s->showEnds == "hold") {
        at = std::clamp(at, 0.0, length);
    } else {
        constexpr double rounding = 1e-6;
        out.isOver = at < -rounding || at > length + rounding;
    }
    out.frame = time.first + std::clamp(at, 0.0, length);
    return out;
}

namespace {
bool isFeeding(const scene::Project& project, const std::string& embers)
{
    return std::any_of(project.elements.begin(), project.elements.end(), [&](const scene::Element& e) {
        const auto* feed = settingsOf<FeedSettings>(&e);
        return feed && feed->form == "embers" && feed->particles == embers;
    });
}
} // namespace

std::vector<std::string> originsOfPlumes(const scene::Project& project)
{
    std::vector<std::string> ids;
    for (const scene::Element& e : project.elements)
        if (settingsOf<FeedSettings>(&e) || movesTheAir(e) || kindOf(e).placed)
            ids.push_back(e.id);
        else if (e.kind->id == "embers" && isFeeding(project, e.id))
            ids.push_back(e.id);
    return ids;
}

namespace {
/// Its warmth as what bends light.
void addShimmer(FreezeContext& c, const PlumeSettings& s)
{
    const auto answer = voxelSource(c, s)->at(c.project.frame, VoxelGrid::Heat);
    if (answer.state != VoxelAnswer::State::There || answer.grid->values->empty())
        return;
    media::HotAir hot;
    hot.id = c.element.id;
    hot.temperature = answer.grid->values;
    hot.toIndex = answer.grid->toWorld.inverse();
    hot.around = airAround;
    hot.strength = static_cast<float>(s.shimmers);
    c.shot.hotAir.push_back(std::move(hot));
}
} // namespace

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
    t.number("sharpens", "sharper", &S::sharpens, Quantity::Plain)
        .hard(0, 4)
        .soft(0, 2)
        .in("Scattering")
        .says("Eddies half a voxel small, on top of what is baked; 1 as strong as its own swirls pass on. Nothing is "
              "baked anew.");
    t.number("shimmers", "heat haze", &S::shimmers, Quantity::Plain)
        .hard(0, 100)
        .soft(0, 5)
        .in("Glow")
        .says("How strongly its warmth bends the light of what stands behind; 1 is physical, 0 leaves it out.");
    t.number("draught", "draws mist in", &S::draught, Quantity::Plain)
        .hard(0, 100)
        .soft(0, 10)
        .in("Glow")
        .says("The air that its fire draws in moves banks near it, and its warmth dries them: times as strongly as it "
              "does. 1 is physical, 0 leaves them as they are.");
    t.number("showSpeed", "shown at speed", &S::showSpeed, Quantity::Plain)
        .hard(-100, 100)
        .soft(0, 3)
        .in("Time")
        .says("Times as fast as it was simulated; between two frames along its motion. Keys make a curve, 0 holds.");
    t.number("showFrom", "shown from", &S::showFrom, Quantity::Time)
        .hard(-1e5, 1e5)
        .soft(-10, 10)
        .in("Time")
        .says("How far into the bake it begins.");
    t.choice("showEnds", "before and after", &S::showEnds, {"nothing", "hold", "loop"})
        .in("Time")
        .says("What is shown outside of the baked frames.");
    t.number("showFade", "fades over", &S::showFade, Quantity::Time)
        .hard(0, 1000)
        .soft(0, 5)
        .in("Time")
        .when("showEnds=loop")
        .says("How long its end is blended into its beginning.");
    describeVolumeLook(t);
    describeVolumeGlow(t);
    k.parameters = t.take();
    // What is seen is no part of what is simulated.
    for (scene::Parameter& p : k.parameters)
        p.isLook = p.group == "Scattering" || p.group == "Glow" || p.group == "Time";
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        media::Plume p;
        p.id = c.element.id;
        p.floor = s.position;
        p.size = s.size;
        p.voxel = static_cast<float>(s.cell());
        p.pace = static_cast<float>(s.pace);
        p.gas.around = airAround;
        p.gas.buoyancy = static_cast<float>(s.buoyancy);
        p.gas.thinning = static_cast<float>(s.thinning);
        p.gas.cooling = static_cast<float>(s.cooling);
        p.gas.burning = static_cast<float>(s.burning);
        p.gas.heat = static_cast<float>(s.burnHeat);
        p.gas.ignition = std::max(0.f, static_cast<float>(s.ignition) - airAround);
        p.gas.sooting = static_cast<float>(s.sooting * 1e-3);
        p.gas.expansion = static_cast<float>(s.expansion);
        p.gas.viscosity = static_cast<float>(s.viscosity) * media::GasSettings::viscosityOfAir;
        p.gas.swirling = static_cast<float>(s.swirling);
        p.gas.closed[2] = s.ground;
        if (s.obstacles)
            std::copy_if(c.placed.begin(), c.placed.end(), std::back_inserter(p.obstacles),
                         [](const geometry::PlacedSet& set) { return !set.carried; });
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
        c.tell(words("Its box holds %1 million voxels of %2; if all of them fill, that is %3 GB of memory and up to %4 "
                     "MB a frame.",
                     {shownNumber(cells * 1e-6, 3), formatQuantity(s.cell(), Quantity::Length),
                      shownNumber(cells * sim::PlumeSolver::bytesACell * 1e-9, 2),
                      shownNumber(cells * bytesOnDisk * 1e-6, 2)}));
        c.shot.airflow.plumes.push_back(std::move(p));
        completeVolume(c);
        if (s.shimmers > 0.0)
            addShimmer(c, s);
        if (s.draught > 0.0)
            addDraughts(c, s.draught);
    };
    k.isGas = true;
    k.solver = [](const std::string& element) { return std::make_unique<sim::PlumeSolver>(element); };
    k.comesFrom = originsOfPlumes;
    return k;
}

} // namespace hygros::elements
