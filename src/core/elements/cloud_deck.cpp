/// Cloud deck: a layer aloft with gaps, to the horizon.
#include "elements/air.h"
#include "media/deck_diffusion.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct CloudDeckSettings : scene::SettingsOf<CloudDeckSettings>, AirSettings, DriftSettings {
    CloudDeckSettings()
    {
        visibility = 90.0;
        spread = "droplets";
        droplets = 14.0;
        anisotropy = 0.8;
        driftSpeed = 8.0;
    }
    double base = 1400.0, thickness = 450.0, coverage = 0.5, heaped = 0.7;
    double scale = 900.0, fine = 130.0, erosion = 0.5;
    std::int64_t seed = 1;
    bool shadows = true;
};
} // namespace

namespace {
struct DeckShadowKey {
    media::CloudDeck deck;
    Vec3 sun, around;
    bool operator==(const DeckShadowKey&) const = default;
};

struct DeckDiffusionKey {
    media::CloudDeck deck;
    Vec3 sun;
    bool operator==(const DeckDiffusionKey&) const = default;
};

std::shared_ptr<const media::DeckDiffusion> diffusionOf(const FreezeContext& c, media::CloudDeck deck)
{
    // Where it has drifted to changes nothing.
    deck.id.clear();
    deck.offset = Vec3(0.f);
    deck.evolution = 0.f;
    deck.loop = {};
    const Vec3 sun = c.shot.sky->sunDirection();
    return c.store.get(DeckDiffusionKey{deck, sun},
                       [&] { return std::make_shared<const media::DeckDiffusion>(deck, sun); });
}

std::shared_ptr<const media::DeckShadow> shadowOf(const FreezeContext& c, const media::CloudDeck& deck)
{
    // Its grids are wide: they follow the camera in steps.
    const auto even = [](float v) { return 200.f * std::floor(v / 200.f + 0.5f); };
    const Vec3 sun = c.shot.sky->sunDirection(), eye = c.shot.camera.position, around(even(eye.x), 0.f, even(eye.z));
    return c.store.get(DeckShadowKey{deck, sun, around},
                       [&] { return std::make_shared<const media::DeckShadow>(deck, sun, around); });
}
} // namespace

Kind cloudDeckKind()
{
    using S = CloudDeckSettings;
    Kind k;
    k.id = "cloudDeck";
    k.column = Kind::Column::Air;
    k.extinction = plainExtinction<S>;
    k.section = [](const scene::Element& e, bool) {
        return std::vector<SectionHandle>{{"base"}, {"thickness", true, e.as<S>().base}};
    };
    k.label = "Cloud deck";
    k.help = "A layer of cloud aloft, to the horizon, with gaps and a shadow.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.number("coverage", "coverage", &S::coverage, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .lead()
        .in("Shape")
        .says("Share of the sky that it covers.");
    t.number("base", "base", &S::base, Quantity::Length)
        .hard(-1e4, 2e4)
        .soft(20, 8000)
        .log()
        .lead()
        .in("Shape")
        .says("Height of its underside.");
    t.number("thickness", "thickness", &S::thickness, Quantity::Length)
        .hard(5, 1e4)
        .soft(30, 3000)
        .log()
        .in("Shape")
        .says("From its underside to the highest it may reach.");
    t.number("heaped", "heaped", &S::heaped, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Shape")
        .says("0: an even sheet; 100 %: flat below, heaped above.");
    t.toggle("shadows", "casts shadow", &S::shadows).in("Shape").says("Shades the set and the air below.");
    describeDensity(t, 10, 2000);
    describeScattering(t);
    t.number("scale", "clouds", &S::scale, Quantity::Length)
        .hard(1, 1e5)
        .soft(50, 10e3)
        .log()
        .in("Noise")
        .says("Size of single clouds.");
    t.number("fine", "wisps", &S::fine, Quantity::Length)
        .hard(0.5, 1e4)
        .soft(10, 1000)
        .log()
        .in("Noise")
        .says("Size of the wisps at their edges.");
    t.number("erosion", "erosion", &S::erosion, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Noise")
        .says("How far wisps eat into the edges.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Noise").says("Another number, another sky.");
    t.number("driftSpeed", "drift", &S::driftSpeed, Quantity::Speed)
        .adding()
        .hard(0, 200)
        .soft(0, 30)
        .in("Noise")
        .says("Speed of the deck.");
    t.number("driftHeading", "toward", &S::driftHeading, Quantity::Angle)
        .adding()
        .hard(-3600, 3600)
        .soft(0, 360)
        .in("Noise")
        .says("Heading of the drift, clockwise from −Z seen from above.");
    t.number("boil", "boil", &S::boil, Quantity::Plain)
        .hard(0, 20)
        .soft(0, 0.2)
        .in("Noise")
        .says("How often a second the clouds change in place.");
    describeCarriedBy(t);
    k.parameters = t.take();
    for (scene::Parameter& p : k.parameters)
        if (p.id == "visibility")
            p.isLead = false;
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const media::Medium m = mediumOf(c.element, s);
        media::CloudDeck d;
        d.id = c.element.id;
        d.base = static_cast<float>(s.base);
        d.thickness = static_cast<float>(s.thickness);
        d.coverage = static_cast<float>(s.coverage);
        d.sigmaT = m.sigmaT * c.shot.airDensity;
        d.albedo = m.albedo;
        d.phase = m.phase;
        d.ambient = m.ambient;
        d.heaped = static_cast<float>(s.heaped);
        d.scale = static_cast<float>(s.scale);
        d.fine = static_cast<float>(s.fine);
        d.erosion = static_cast<float>(s.erosion);
        d.seed = static_cast<std::uint32_t>(s.seed);
        const Drifted drift = drifted(c, s, s.base);
        d.offset = drift.offset;
        d.evolution = drift.evolution;
        d.loop = drift.loop;
        if (d.coverage <= 0.f || d.sigmaT <= 0.f)
            return;
        d.settle();
        if (c.shot.sky) {
            auto diffusion = diffusionOf(c, d);
            if (s.shadows)
                d.shadow = shadowOf(c, d);
            d.diffusion = std::move(diffusion);
        }
        c.shot.decks.push_back(d);
    };
    return k;
}
} // namespace hygros::elements
