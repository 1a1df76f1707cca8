/// All air together: one density for everything in the Air family.
#include "elements/kinds.h"

namespace hygros::elements {
namespace {
struct AllAirSettings : scene::SettingsOf<AllAirSettings> {
    double density = 1.0;
};
} // namespace

Kind allAirKind()
{
    Kind k;
    k.id = "allAir";
    k.label = "All air";
    k.help = "One density for all haze, banks, decks and volumes together.";
    k.family = scene::Family::Air;
    k.single = true;
    k.staysWhenSilent = true;
    scene::TableOf<AllAirSettings> t;
    t.number("density", "density", &AllAirSettings::density, Quantity::Plain)
        .hard(0, 1000)
        .soft(0.01, 10)
        .log()
        .lead()
        .in("Density")
        .says("Multiplies the density of every haze, fog bank, cloud deck and volume; 1 leaves them as they are.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<AllAirSettings>(); };
    k.contribute = [](FreezeContext& c) {
        c.shot.airDensity = static_cast<float>(c.element.as<AllAirSettings>().density);
    };
    k.complete = [](FreezeContext& c) {
        for (media::Medium& m : c.shot.media)
            m.sigmaT *= c.shot.airDensity;
        if (c.shot.airDensity == 0.f)
            c.shot.media.clear();
    };
    return k;
}
} // namespace hygros::elements
