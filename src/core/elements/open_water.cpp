/// Open water: waves by wind, fetch and depth, to the horizon.
#include "elements/water.h"

namespace hygros::elements {
namespace {
struct OpenWaterSettings final : scene::SettingsOf<OpenWaterSettings>, WaveSettings {
    double level = 0.0, depth = 100.0;
    double swellHeight = 0.0, swellLength = 120.0, swellHeading = 30.0;
};
} // namespace

namespace {
media::Swell swellOver(const scene::Project& project, const OpenWaterSettings& s)
{
    media::Swell swell = swellOf(project, s, s.level, s.depth);
    swell.otherHeight = s.swellHeight;
    swell.otherLength = s.swellLength;
    swell.otherToward = double(radians(s.swellHeading));
    return swell;
}
} // namespace

std::optional<WaterLevel> openWaterLevel(const scene::Project& project, const scene::Element& element)
{
    const auto* s = settingsOf<OpenWaterSettings>(&element);
    return s ? std::optional(WaterLevel{s->level, swellOver(project, *s), s}) : std::nullopt;
}

Kind openWaterKind()
{
    using S = OpenWaterSettings;
    Kind k;
    k.id = "openWater";
    k.label = "Open water";
    k.help = "Water to the horizon: waves by wind, length of water that it blows over, and depth.";
    k.family = scene::Family::Water;
    k.stage = Kind::Stage::Ground;
    k.column = Kind::Column::Objects;
    k.actions = {"placeWater", "exportWater"};
    scene::TableOf<S> t;
    t.number("level", "level", &S::level, Quantity::Length)
        .hard(-1e4, 1e4)
        .soft(-5, 5)
        .lead()
        .in("Water")
        .says("Height over 0 at which it would lie still.");
    t.number("depth", "depth", &S::depth, Quantity::Length)
        .hard(0.05, 1e4)
        .soft(0.3, 1000)
        .log()
        .in("Water")
        .says("Of the ground under it, for its waves: over shallow ground they are lower, shorter and slower.");
    describeWater(t);
    t.number("swellHeight", "height", &S::swellHeight, Quantity::Length)
        .hard(0, 30)
        .soft(0, 5)
        .in("Swell from elsewhere")
        .says("Significant height of waves that come from far away; 0: none.");
    t.number("swellLength", "length", &S::swellLength, Quantity::Length)
        .hard(0.5, 1000)
        .soft(10, 400)
        .log()
        .in("Swell from elsewhere")
        .says("From crest to crest.");
    t.number("swellHeading", "runs toward", &S::swellHeading, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 360)
        .in("Swell from elsewhere")
        .says("Heading, clockwise from −Z seen from above.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        putWater(c, s, swellOver(c.project, s), s.level);
    };
    return k;
}
} // namespace hygros::elements
