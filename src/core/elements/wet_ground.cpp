/// Wet ground: water over what sets are made of, and puddles.
#include "elements/wet_ground.h"

#include <algorithm>

namespace hygros::elements {
namespace {
struct WetGroundSettings final : scene::SettingsOf<WetGroundSettings> {
    std::string set;
    double wet = 0.8, puddles = 0.15, size = 1.2;
    std::int64_t seed = 1;
};
} // namespace

geometry::Wetness wetnessOn(const scene::Project& project, const std::string& set)
{
    geometry::Wetness out;
    for (const scene::Element& e : project.elements) {
        const auto* s = settingsOf<WetGroundSettings>(&e);
        if (!s || project.silent(e) || (!s->set.empty() && s->set != set))
            continue;
        out.wet = std::max(out.wet, static_cast<float>(s->wet));
        if (static_cast<float>(s->puddles) > out.puddles) {
            out.puddles = static_cast<float>(s->puddles);
            out.size = static_cast<float>(s->size);
            out.seed = static_cast<std::uint32_t>(s->seed);
        }
    }
    return out;
}

Kind wetGroundKind()
{
    using S = WetGroundSettings;
    Kind k;
    k.id = "wetGround";
    k.label = "Wet ground";
    k.help = "Water over sets: darker, glossier, with puddles that mirror. Their own materials stay.";
    k.family = scene::Family::Weather;
    scene::TableOf<S> t;
    t.number("wet", "wet", &S::wet, Quantity::Share)
        .hard(0, 1)
        .lead()
        .in("Water")
        .says("How soaked what is open to the sky is: darker and smoother. Walls are half as wet, under sides dry.");
    t.number("puddles", "puddles", &S::puddles, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.6)
        .lead()
        .in("Water")
        .says("Share of level ground that stands under water.");
    t.number("size", "puddle size", &S::size, Quantity::Length)
        .hard(0.05, 100)
        .soft(0.2, 6)
        .log()
        .in("Water")
        .says("How far across they are.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Water").says("Another number, other puddles.");
    t.text("set", "on", &S::set).linked("set").in("Water").says("The set that is wet; nothing chosen: all.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (!s.set.empty() && !c.project.find(s.set))
            c.note("The set that is to be wet is not there.");
        else if (c.placed.empty())
            c.note("There is no set that could be wet.");
        else if (s.wet <= 0.0 && s.puddles <= 0.0)
            c.note("It is neither wet nor has it puddles: nothing changes.");
    };
    return k;
}
} // namespace hygros::elements
