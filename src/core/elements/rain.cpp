/// Rain: drops near the eye and a veil of the same drops beyond, by millimetres an hour.
#include "elements/falling.h"

#include "base/shown_units.h"
#include "base/words.h"
#include "elements/snow_cover.h"
#include "geometry/wet.h"
#include "media/drips.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct RainSettings final : scene::SettingsOf<RainSettings>, FallSettings {
    double rate = 8.0, splashes = 1.0, drips = 1.0;
};

struct DripsKey {
    std::vector<PlacedKey> placed;
    Vec3 around;
    bool operator==(const DripsKey&) const = default;
};
struct KeptDrips {
    std::vector<geometry::Drip> all;
    std::size_t bytes() const { return sizeof *this + all.size() * sizeof(geometry::Drip); }
};
struct DrippingKey {
    Identity edges;
    media::DripSettings settings;
    double seconds, loop;
    bool operator==(const DrippingKey&) const = default;
};
struct Dripping {
    std::shared_ptr<const std::vector<media::Drop>> drops;
    std::shared_ptr<const std::vector<media::Landing>> landed;
    std::size_t bytes() const
    {
        return sizeof *this + drops->size() * sizeof(media::Drop) + landed->size() * sizeof(media::Landing);
    }
};

/// What drips from the sets near the eye, beside what falls.
void drip(FreezeContext& c, const RainSettings& s)
{
    const std::vector<geometry::PlacedSet> under = bareOf(c.placed);
    if (s.drips <= 0.0 || under.empty())
        return;
    // About what is seen near the eye; anew only where that has moved on.
    constexpr float ahead = 8.f, step = 8.f;
    const geometry::Camera& camera = c.shot.camera;
    const Vec3 way = camera.aim - camera.position, level(way.x, 0.f, way.z),
               middle = camera.position + (level.length2() > 1e-8f ? level.normalized() * ahead : Vec3(0.f)),
               around(std::round(middle.x / step) * step, 0.f, std::round(middle.z / step) * step);
    const auto edges = c.store.get(
        DripsKey{keysOf(under), around},
        [&] {
            return std::make_shared<const KeptDrips>(
                KeptDrips{geometry::dripsOf(*keptScene(c.store, under, c.job), around, c.job)});
        },
        &c.job);
    if (edges->all.empty())
        return;
    const media::Falling& rain = c.shot.falling.back();
    const media::DripSettings settings{static_cast<float>(s.rate), static_cast<float>(s.drips), rain.wind,
                                       rain.splashes, rain.seed};
    // Kept, so that pictures of one moment know that they are alike.
    const double seconds = rain.moments.front().seconds, loop = c.whole.time.loop;
    const auto now = c.store.get(DrippingKey{edges, settings, seconds, loop}, [&] {
        Dripping d;
        std::vector<media::Drop> drops;
        std::vector<media::Landing> landed;
        media::dripsAt(edges->all, settings, seconds, loop, geometry::Rings::lasts, drops, landed);
        d.drops = std::make_shared<const std::vector<media::Drop>>(std::move(drops));
        d.landed = std::make_shared<const std::vector<media::Landing>>(std::move(landed));
        return std::make_shared<const Dripping>(std::move(d));
    });
    double often = 0.0;
    for (const geometry::Drip& d : edges->all)
        often += 1.0 / media::dripEvery(d, settings);
    media::Falling f;
    f.id = rain.id;
    f.wind = rain.wind;
    f.blur = rain.blur;
    f.seed = rain.seed;
    f.all = now->drops;
    f.landed = now->landed;
    c.shot.falling.push_back(std::move(f));
    c.tell(words("Within 16 m %1 edges drip, together %2 drops a second.",
                 {shownNumber(double(edges->all.size()), 6), shownNumber(often, 3)}));
}
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
    k.stage = Kind::Stage::Falls; // before what gets wet: rings on puddles are those of its drops
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
    t.number("drips", "drips", &S::drips, Quantity::Share)
        .hard(0, 3)
        .soft(0, 1)
        .in("Where it lands")
        .says("Share of what falls on roofs, gates and twigs that drips from their edges, within 16 m.");
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
        fall(c, law, s, words("drops"));
        drip(c, s);
    };
    return k;
}
} // namespace hygros::elements
