/// Snow: flakes near the eye and a veil of the same flakes beyond, by centimetres an hour and temperature.
#include "elements/snow.h"

#include "base/words.h"

#include <cmath>

namespace hygros::elements {
namespace {
/// Of a flake and of what lies, to water.
float flakeDensity(float wet) { return 0.04f + 0.12f * wet; }
float lyingDensity(float wet) { return 0.06f + 0.12f * wet; }
/// Water that it brings [mm/h].
float waterOf(const SnowSettings& s) { return static_cast<float>(s.rate) * 10.f * lyingDensity(s.wetness()); }
} // namespace

Kind snowKind()
{
    using S = SnowSettings;
    Kind k;
    k.id = "snow";
    k.label = "Snow";
    k.help = "Falling snow by centimetres an hour: flakes near the eye, a veil of the same flakes beyond.";
    k.family = scene::Family::Weather;
    k.column = Kind::Column::Air;
    k.extinction = [](const scene::Element& e) {
        const auto& s = e.as<S>();
        return double(media::snow::extinctionBetween(waterOf(s), media::snow::smallest, media::snow::largest,
                                                     flakeDensity(s.wetness())));
    };
    scene::TableOf<S> t;
    t.number("rate", "cm an hour", &S::rate, Quantity::Plain)
        .hard(0, 50)
        .soft(0.1, 10)
        .log()
        .lead()
        .in("Snow")
        .says("How much more lies after an hour: flurries bring 0.2 cm, steady snow 1 to 2, a heavy fall 5.");
    t.number("temperature", "temperature", &S::temperature, Quantity::Temperature)
        .hard(220, 275)
        .soft(248, 274)
        .lead()
        .in("Snow")
        .says("At 273 K large wet flakes fall at 1.5 m/s, under 263 K small dry ones float at 0.6 m/s.");
    describeFall(t, "Snow");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        namespace snow = media::snow;
        const auto& s = c.element.as<S>();
        if (s.rate <= 0.0)
            return c.note("It brings 0 cm an hour: nothing falls.");
        const float wet = s.wetness(), water = waterOf(s), density = flakeDensity(wet);
        FallLaw law;
        law.smallest = snow::smallest;
        law.firstDrawn = 0.6f;
        law.largest = snow::largest;
        law.number = [water](float from, float to) { return snow::numberBetween(water, from, to); };
        law.extinction = [water, density](float from, float to) {
            return snow::extinctionBetween(water, from, to, density);
        };
        // Hardly by size: large flakes are no heavier for the air that they sweep.
        law.speed = [usual = s.speed()](float melted) { return usual * std::pow(melted / 2.f, 0.15f); };
        law.phase = media::Phase{0.95f, 0.5f, 0.1f, 0.f};
        law.form = media::Falling::Form::Flakes;
        law.flutter = 0.06f + 0.04f * (1.f - wet);
        law.flutterRate = 0.9f;
        fall(c, law, s, words("flakes"));
    };
    return k;
}
} // namespace hygros::elements
