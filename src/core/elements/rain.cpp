/// Rain: drops near the eye and a veil of the same drops beyond, by millimetres an hour.
#include "elements/falling.h"

namespace hygros::elements {
namespace {
struct RainSettings final : scene::SettingsOf<RainSettings>, FallSettings {
    double rate = 8.0, splashes = 1.0;
};
} // namespace

Kind rainKind()
{
    using S = RainSettings;
    Kind k;
    k.id = "rain";
    k.label = "Rain";
    k.help = "Rain by millimetres an hour: drops near the eye, a veil of the same drops beyond.";
    k.family = scene::Family::Weather;
    k.column = Kind::Column::Air;
    k.stage = Kind::Stage::Set; // before what gets wet: rings on puddles are those of its drops
    k.extinction = [](const scene::Element& e) {
        return double(media::rain::extinctionBetween(static_cast<float>(e.as<S>().rate), media::rain::smallest,
                                                     media::rain::largest));
    };
    scene::TableOf<S> t;
    t.number("rate", "mm an hour", &S::rate, Quantity::Plain)
        .hard(0, 500)
        .soft(0.2, 100)
        .log()
        .lead()
        .in("Rain")
        .says("Drizzle brings under 1 mm an hour, steady rain 2 to 8, a cloudburst 50 and more.");
    describeFall(t, "Rain");
    t.number("splashes", "splashes", &S::splashes, Quantity::Share)
        .hard(0, 3)
        .soft(0, 1)
        .in("Where it lands")
        .says("How much bursts up again where drops land near the eye; 100 %: as on stone.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        namespace rain = media::rain;
        const auto& s = c.element.as<S>();
        const auto rate = static_cast<float>(s.rate);
        if (rate <= 0.f)
            return c.note("It brings 0 mm an hour: nothing falls.");
        FallLaw law;
        law.smallest = rain::smallest;
        law.firstDrawn = 0.35f;
        law.largest = rain::largest;
        law.number = [rate](float from, float to) { return rain::numberBetween(rate, from, to); };
        law.extinction = [rate](float from, float to) { return rain::extinctionBetween(rate, from, to); };
        law.speed = rain::speed;
        law.phase = rain::phase;
        law.splashes = static_cast<float>(s.splashes);
        fall(c, law, s, "drops");
    };
    return k;
}
} // namespace hygros::elements
