/// Probe: a place in a plume at which one of its numbers is read over time.
#include "elements/probe.h"

#include "base/shown_units.h"
#include "base/words.h"
#include "elements/air.h"
#include "elements/plume_parts.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct ProbeSettings final : scene::SettingsOf<ProbeSettings> {
    std::string plume, reads = "temperature", follows;
    Vec3 position{0.f, 1.f, 0.f};
};
} // namespace

std::optional<ProbeWish> probeWish(const scene::Project& project, const scene::Element& element, Store& store)
{
    const auto* s = settingsOf<ProbeSettings>(&element);
    if (!s || !measuresOf(project.find(s->plume)))
        return std::nullopt;
    JobControl job;
    ProbeWish wish;
    wish.plume = s->plume;
    wish.place = s->position * frameOf(project, s->follows, store, job).value_or(Mat4());
    wish.quality = s->reads == "smoke"   ? sim::Quality::Smoke
                   : s->reads == "speed" ? sim::Quality::Speed
                   : s->reads == "fuel"  ? sim::Quality::Fuel
                                         : sim::Quality::Temperature;
    return wish;
}

double probed(const sim::Gas& gas, const ProbeWish& wish)
{
    sim::SliceOrder order;
    order.from = wish.place;
    order.distances = {0.f};
    order.heights = {wish.place.y};
    order.quality = wish.quality;
    const double value = double(sim::sliceOf(gas, {}, order).values.at(0));
    return !std::isnan(value) ? value : wish.quality == sim::Quality::Temperature ? double(order.around) : 0.0;
}

std::string probeText(double value, sim::Quality quality)
{
    switch (quality) {
    case sim::Quality::Smoke: return shownNumber(value, 3) + " g/m³";
    case sim::Quality::Speed: return formatQuantity(value, Quantity::Speed);
    case sim::Quality::Fuel: return shownNumber(100.0 * value, 3) + " %";
    default: return formatQuantity(std::round(value), Quantity::Temperature);
    }
}

void asPin(Kind& k, float height)
{
    k.handles = [](const scene::Element&) {
        Handles h;
        h.place = "position";
        return h;
    };
    k.begin = [height](scene::Element& e, const Seen& seen) {
        const Vec3 ahead = aheadOf(seen.camera, 8.f);
        e.set("position", Vec3(std::round(ahead.x * 10.f) * 0.1f, height, std::round(ahead.z * 10.f) * 0.1f));
    };
}

Kind probeKind()
{
    using S = ProbeSettings;
    Kind k;
    k.id = "probe";
    k.label = "Probe";
    k.help = "A place in a plume whose temperature, smoke, speed or fuel is read: now on its card, over time on the "
             "Motion page.";
    k.family = scene::Family::Fire;
    asPin(k, 1.f);
    scene::TableOf<S> t;
    t.text("plume", "in", &S::plume).linked("plume").in("Probe").says("The plume that it is put into.");
    t.choice("reads", "reads", &S::reads, {"temperature", "smoke", "speed", "fuel"})
        .in("Probe")
        .says("What it measures there; speed is that of the gas beside the wind.");
    t.point("position", "position", &S::position).place().in("Place").says("Where it measures.");
    t.text("follows", "goes with", &S::follows)
        .linked("set")
        .carrier()
        .in("Place")
        .says("A set, or a part of one, that it is fixed to.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        carried(c, s.follows);
        const auto wish = probeWish(c.project, c.element, c.store);
        if (!wish)
            return c.note("Choose the plume that it is put into.");
        const auto frame = keptFrame(c.whole, s.plume, c.whole.frameNumber(), c.store);
        if (!frame)
            return c.tell(words("The plume is not baked at this frame."));
        c.tell(words("Reads %1 at frame %2.", {probeText(probed(*keptGas(*frame, c.store), *wish), wish->quality),
                                               std::to_string(c.whole.frameNumber())}));
    };
    return k;
}
} // namespace hygros::elements
