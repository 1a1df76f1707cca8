/// A pool: water within the walls of sets, a lock's chamber or a basin.
#include "elements/snow_cover.h"

#include "base/shown_units.h"
#include "base/words.h"
#include "elements/water.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct PoolSettings final : scene::SettingsOf<PoolSettings>, WaveSettings {
    PoolSettings()
    {
        speed = 2.0;
        fetch = 60.0;
        type = "pond";
        shortest = 0.01;
    }
    Vec3 position{0.f, 0.f, -10.f};
    double depth = 1.0, reach = 100.0;
    bool runsOn = false;
};

struct BasinKey {
    std::vector<PlacedKey> placed;
    geometry::Basin::Settings settings;
    bool operator==(const BasinKey&) const = default;
};

void put(FreezeContext& c)
{
    const auto& s = c.element.as<PoolSettings>();
    const std::vector<geometry::PlacedSet> walls = bareOf(c.placed);
    if (walls.empty())
        return c.note("There is no set whose walls could hold water: add one, or Open water.");
    geometry::Basin::Settings settings;
    const double level = double(s.position.y) + s.depth;
    settings.from = Vec3(s.position.x, static_cast<float>(level), s.position.z);
    settings.reach = static_cast<float>(s.reach);
    settings.runsOn = s.runsOn;
    const auto basin = c.store.get(
        BasinKey{keysOf(walls), settings},
        [&] { return std::make_shared<const geometry::Basin>(keptScene(c.store, walls, c.job), settings, c.job); },
        &c.job);
    if (basin->isBlocked())
        return c.note("Its place lies within something solid: set it down where the water is to stand.");
    if (basin->runsOut())
        return c.note("The sets do not close around it within " + formatQuantity(s.reach, Quantity::Length) +
                      ": at this height the water would run out. Lower it, close the walls, or let it run on.");
    const std::string area = shownNumber(double(basin->area()), 3);
    c.tell(basin->deepest() > 0.f ? words("It covers %1 m², %2 deep on average and %3 at most.",
                                          {area, formatQuantity(double(basin->meanDepth()), Quantity::Length),
                                           formatQuantity(double(basin->deepest()), Quantity::Length)})
                                  : words("It covers %1 m², over no ground.", {area}));
    const double depth = basin->meanDepth() > 0.f ? std::max(0.05, double(basin->meanDepth()))
                                                  : std::max(0.05, s.depth);
    putWater(c, s, swellOf(c.project, s, level, depth), level, basin);
}
} // namespace

/// (How deep it is in the mean is not looked up for it: waves of a pool are too short to feel its ground.)
std::optional<WaterLevel> poolLevel(const scene::Project& project, const scene::Element& element)
{
    const auto* s = settingsOf<PoolSettings>(&element);
    if (!s)
        return std::nullopt;
    const double level = double(s->position.y) + s->depth;
    return WaterLevel{level, swellOf(project, *s, level, s->depth), s};
}

Kind poolKind()
{
    using S = PoolSettings;
    Kind k;
    k.id = "pool";
    k.label = "Pool";
    k.help = "Water within the walls of sets: all that hangs together with its place at its height.";
    k.family = scene::Family::Water;
    k.stage = Kind::Stage::Ground;
    k.column = Kind::Column::Objects;
    k.actions = {"placeWater", "exportWater"};
    k.handles = [](const scene::Element&) { return Handles{"position", {}, {}, {}, {}, {}}; };
    k.begin = [](scene::Element& e, const Seen& seen) {
        const Vec3 ahead = aheadOf(seen.camera, 8.f);
        e.set("position", Vec3(std::round(ahead.x * 10.f) * 0.1f, 0.f, std::round(ahead.z * 10.f) * 0.1f));
    };
    scene::TableOf<S> t;
    t.number("depth", "depth", &S::depth, Quantity::Length)
        .hard(0.01, 1000)
        .soft(0.05, 10)
        .log()
        .lead()
        .in("Water")
        .says("How high the water stands over the place where it was set down.");
    t.point("position", "position", &S::position)
        .place()
        .in("Water")
        .says("A place on the ground under it; the water is all that hangs together with it.");
    t.number("reach", "reach", &S::reach, Quantity::Length)
        .hard(0.5, 2000)
        .soft(5, 500)
        .log()
        .in("Water")
        .says("It is looked for no farther from there.");
    t.toggle("runsOn", "runs on", &S::runsOn)
        .in("Water")
        .says("Stands as far as its reach where no walls close around it, as in a reach of a canal.");
    describeWater(t);
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = put;
    return k;
}
} // namespace hygros::elements
