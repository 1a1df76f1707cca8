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
    double scale = 900.0, fine = 130.0, erosion = 0.5, gathered = 0.3, rolls = 0.0, ragged = 0.0, falls = 0.0,
           fallout = 0.5;
    std::string form = "cumulus";
    std::int64_t seed = 1;
    bool shadows = true;
};
} // namespace

namespace {
/// Clouds by their names in the trade: heights, sizes and cover as the World Meteorological Organization's
/// International Cloud Atlas (2017) describes them.
struct Form {
    const char* name;
    std::vector<std::pair<const char*, double>> numbers;
};
const std::vector<Form> forms{{"cumulus",
                               {{"coverage", 0.4},
                                {"base", 1300},
                                {"thickness", 650},
                                {"heaped", 0.85},
                                {"visibility", 80},
                                {"scale", 900},
                                {"fine", 150},
                                {"erosion", 0.6},
                                {"gathered", 0.4},
                                {"rolls", 0},
                                {"ragged", 0},
                                {"falls", 0}}},
                              {"stratocumulus",
                               {{"coverage", 0.8},
                                {"base", 1000},
                                {"thickness", 350},
                                {"heaped", 0.45},
                                {"visibility", 90},
                                {"scale", 700},
                                {"fine", 110},
                                {"erosion", 0.45},
                                {"gathered", 0.25},
                                {"rolls", 0.45},
                                {"ragged", 0},
                                {"falls", 0}}},
                              {"stratus",
                               {{"coverage", 1},
                                {"base", 350},
                                {"thickness", 300},
                                {"heaped", 0},
                                {"visibility", 130},
                                {"scale", 1500},
                                {"fine", 200},
                                {"erosion", 0.3},
                                {"gathered", 0.1},
                                {"rolls", 0},
                                {"ragged", 0.4},
                                {"falls", 0}}},
                              {"altocumulus",
                               {{"coverage", 0.5},
                                {"base", 3600},
                                {"thickness", 180},
                                {"heaped", 0.5},
                                {"visibility", 160},
                                {"scale", 260},
                                {"fine", 60},
                                {"erosion", 0.5},
                                {"gathered", 0.7},
                                {"rolls", 0.3},
                                {"ragged", 0},
                                {"falls", 0}}},
                              {"nimbostratus",
                               {{"coverage", 0.95},
                                {"base", 800},
                                {"thickness", 1500},
                                {"heaped", 0.35},
                                {"visibility", 90},
                                {"scale", 1800},
                                {"fine", 260},
                                {"erosion", 0.9},
                                {"gathered", 0.5},
                                {"rolls", 0},
                                {"ragged", 1},
                                {"falls", 600},
                                {"fallout", 2}}}};

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

struct Settled {
    float threshold, meanColumn, evenColumn;
};
struct SettledKey {
    media::CloudDeck deck;
    bool operator==(const SettledKey&) const = default;
};
/// What it takes to cover so much of the sky: found once for a deck, wherever it drifts.
void settle(const FreezeContext& c, media::CloudDeck& deck)
{
    media::CloudDeck still = deck;
    still.id.clear();
    still.offset = Vec3(0.f);
    still.evolution = 0.f;
    still.loop = {};
    const auto settled = c.store.get(SettledKey{still}, [&] {
        still.settle();
        return std::make_shared<const Settled>(Settled{still.threshold, still.meanColumn, still.evenColumn});
    });
    deck.threshold = settled->threshold;
    deck.meanColumn = settled->meanColumn;
    deck.evenColumn = settled->evenColumn;
}

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
    k.along = [](const scene::Element&, const std::string& parameter, const scene::Value& value) {
        std::vector<std::pair<std::string, scene::Value>> all{{parameter, value}};
        const auto* form = std::get_if<std::string>(&value);
        if (parameter != "form" || !form)
            return all;
        for (const Form& f : forms)
            if (*form == f.name)
                for (const auto& [id, number] : f.numbers)
                    all.push_back({id, number});
        return all;
    };
    k.label = "Cloud deck";
    k.help = "A layer of cloud aloft, to the horizon, with gaps and a shadow.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.choice("form", "kind", &S::form, {"cumulus", "stratocumulus", "stratus", "altocumulus", "nimbostratus"})
        .in("Shape")
        .says("Sets the other numbers as such clouds have them; they may be changed after that.");
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
    t.number("gathered", "gathered", &S::gathered, Quantity::Share)
        .hard(0, 1)
        .in("Shape")
        .says("0: clouds stand evenly; more: close here, few there.");
    t.number("rolls", "in rolls", &S::rolls, Quantity::Share)
        .hard(0, 1)
        .in("Shape")
        .says("How far they are drawn out along the drift.");
    t.number("ragged", "ragged base", &S::ragged, Quantity::Share)
        .hard(0, 1)
        .in("Shape")
        .says("How unevenly its underside hangs.");
    t.number("falls", "fall streaks", &S::falls, Quantity::Length)
        .hard(0, 5000)
        .soft(0, 1500)
        .in("Shape")
        .says("How far what falls from it comes down before it is gone; 0: nothing falls.");
    t.number("fallout", "their thickness", &S::fallout, Quantity::Share)
        .hard(0, 4)
        .soft(0, 4)
        .in("Shape")
        .says("100 %: a heavy shower, of a seventeenth of the cloud's own density.");
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
        d.gathered = static_cast<float>(s.gathered);
        d.rolls = static_cast<float>(s.rolls);
        d.heading = radians(s.driftHeading);
        d.ragged = static_cast<float>(s.ragged);
        if (s.falls > 0.0 && s.fallout > 0.0) {
            // The layer reaches down as far as something falls.
            d.base -= static_cast<float>(s.falls);
            d.thickness += static_cast<float>(s.falls);
            d.floor = static_cast<float>(std::min(0.9, s.falls / double(d.thickness)));
            d.fallout = static_cast<float>(s.fallout);
        }
        settle(c, d);
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
