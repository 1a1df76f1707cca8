/// Snow that lies on the sets: thick where it falls, none under roofs.
#include "elements/snow_cover.h"

#include "base/shown_units.h"
#include "base/words.h"
#include "elements/snow.h"
#include "geometry/cover.h"
#include "scene/evaluate.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct SnowCoverSettings final : scene::SettingsOf<SnowCoverSettings> {
    std::string snow;
    double depth = 0.12, hours = 6.0, melted = 0.0, steepest = 52.0, spread = 20.0, cell = 0.1, sparkle = 0.5,
           drifts = 1.0;
    std::int64_t seed = 1;
};
constexpr double deepest = 5.0; ///< [m]
struct CoverKey {
    std::vector<PlacedKey> placed;
    geometry::CoverSettings settings;
    bool operator==(const CoverKey&) const = default;
};
struct KeptCover : geometry::Cover {
    std::size_t bytes() const { return set->bytes(); }
};

/// Settings of what lies; depth 0 where nothing does.
geometry::CoverSettings settingsFor(const scene::Project& project, const SnowCoverSettings& s)
{
    geometry::CoverSettings out;
    out.depth = static_cast<float>(s.depth);
    if (const auto* snow = settingsOf<SnowSettings>(project.find(s.snow))) {
        out.depth = static_cast<float>(std::min(deepest, 0.01 * snow->rate * s.hours));
        // Near the ground gusts bring flakes down that a steady wind would carry past.
        constexpr float lowest = 0.45f;
        const Vec3 wind = blownAt(project, *snow, 2.f);
        Vec3 from = Vec3(-wind.x, snow->speed(), -wind.z).normalized();
        if (from.y < lowest) {
            const float level = std::sqrt(std::max(1e-6f, from.x * from.x + from.z * from.z)),
                        to = std::sqrt(1.f - lowest * lowest);
            from = Vec3(from.x * to / level, lowest, from.z * to / level);
        }
        out.from = from;
        // Dry snow begins to drift in some 5 m/s at 10 m and is well under way at 10, wet snow later (L. Li & J. W.
        // Pomeroy, Estimates of threshold wind speeds for snow transport, J. Appl. Meteorol. 36, 1997).
        const Vec3 high = blownAt(project, *snow, 10.f);
        const float speed = std::hypot(high.x, high.z), begins = 4.5f + 2.5f * snow->wetness();
        if (speed > begins) {
            out.drifts = static_cast<float>(s.drifts) * std::min(1.f, (speed - begins) / 6.f);
            out.upwind = Vec3(-high.x, 0.f, -high.z) * (1.f / speed);
        }
    }
    out.spread = radians(s.spread);
    out.steepest = radians(s.steepest);
    out.melted = static_cast<float>(s.melted);
    out.cell = static_cast<float>(s.cell);
    out.seed = static_cast<std::uint32_t>(s.seed);
    return out;
}

/// Where the camera is while the shot runs, and a little ahead of that, to whole metres.
std::vector<Vec3> around(const FreezeContext& c)
{
    std::vector<Vec3> out;
    const auto add = [&](const geometry::Camera& camera) {
        const Vec3 way = camera.aim - camera.position, level(way.x, 0.f, way.z);
        const Vec3 p = camera.position + (level.length2() > 1e-8f ? level.normalized() * 7.f : Vec3(0.f));
        out.push_back(Vec3(std::round(p.x / 4.f) * 4.f, 0.f, std::round(p.z / 4.f) * 4.f));
    };
    add(c.shot.camera);
    return out;
}
} // namespace

geometry::Snowed snowedOn(const scene::Project& project)
{
    geometry::Snowed out;
    for (const scene::Element& e : project.elements) {
        const auto* s = settingsOf<SnowCoverSettings>(&e);
        if (!s || project.silent(e))
            continue;
        const geometry::CoverSettings cover = settingsFor(project, *s);
        // A centimetre is white all over; less has gaps.
        const float amount = std::min(1.f, cover.depth / 0.01f) * (1.f - cover.melted);
        if (amount > out.amount)
            out = {amount, cover.from, cover.steepest, static_cast<float>(s->sparkle), cover.seed};
    }
    return out;
}

std::vector<geometry::PlacedSet> bareOf(const std::vector<geometry::PlacedSet>& placed)
{
    std::vector<geometry::PlacedSet> under;
    for (const geometry::PlacedSet& p : placed)
        if (p.visible && p.casts && !p.matte && !p.carried) {
            under.push_back(p);
            under.back().wetness = {};
            under.back().snowed = {};
            under.back().strewn = {};
            under.back().toWorldLater.reset();
        }
    return under;
}

Kind snowCoverKind()
{
    using S = SnowCoverSettings;
    Kind k;
    k.id = "snowCover";
    k.label = "Snow cover";
    k.help = "Snow that lies on sets: thick in the open, less under trees, none under roofs.";
    k.family = scene::Family::Weather;
    k.stage = Kind::Stage::Ground;
    k.actions = {"exportCover"};
    scene::TableOf<S> t;
    t.number("depth", "depth", &S::depth, Quantity::Length)
        .hard(0, deepest)
        .soft(0.005, 1)
        .log()
        .lead()
        .in("Snow")
        .when("snow=")
        .says("How thick it lies on open level ground.");
    t.text("snow", "fallen from", &S::snow)
        .linked("snow")
        .in("Snow")
        .says("A Snow that brings it: its centimetres an hour, and the way on which the wind drives its flakes.");
    t.number("hours", "for so many hours", &S::hours, Quantity::Plain)
        .hard(0, 1000)
        .soft(0, 48)
        .lead()
        .in("Snow")
        .when("snow=*")
        .says("How long that Snow has fallen.");
    t.number("melted", "melted", &S::melted, Quantity::Share)
        .hard(0, 1)
        .lead()
        .in("Snow")
        .says("Share of it that is gone again; what was thin goes first.");
    t.number("steepest", "holds up to", &S::steepest, Quantity::Angle)
        .hard(5, 85)
        .soft(20, 75)
        .in("How it lies")
        .says("Slope on which the last of it holds; on half of that it lies whole.");
    t.number("spread", "drives in by", &S::spread, Quantity::Angle)
        .hard(1, 60)
        .soft(5, 45)
        .in("How it lies")
        .says("How far flakes part from their common way: how far it reaches in under eaves and trees.");
    t.number("drifts", "wind moves it", &S::drifts, Quantity::Share)
        .hard(0, 1)
        .in("How it lies")
        .when("snow=*")
        .says(
            "How much a strong wind sweeps off what stands free and piles up behind what shelters: from some 5 m/s on, "
            "as it blows on that Snow.");
    t.number("cell", "detail", &S::cell, Quantity::Length)
        .hard(0.04, 1)
        .soft(0.05, 0.4)
        .log()
        .in("How it lies")
        .says("Distance of its points near the camera; farther out they are wider apart.");
    t.number("sparkle", "glitter", &S::sparkle, Quantity::Share)
        .hard(0, 1)
        .look()
        .in("How it lies")
        .says("How much of its gloss are crystals that mirror sun or lamps by themselves. None is added: dry cold snow "
              "glitters, wet snow does not.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("How it lies").says("Another number, other lumps.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (!s.snow.empty() && !c.project.find(s.snow))
            c.note("The Snow that it is to have fallen from is not there.");
        geometry::CoverSettings settings = settingsFor(c.project, s);
        if (settings.depth <= 0.f || settings.melted >= 1.f)
            return c.note("Nothing of it lies.");
        if (static_cast<double>(settings.depth) >= deepest && !s.snow.empty())
            c.note("That much Snow in so many hours is more than 5 m: it is taken for 5 m.");
        const std::vector<geometry::PlacedSet> under = bareOf(c.placed);
        if (under.empty())
            return c.note("There is no set on which it could lie.");
        settings.around = around(c);
        const auto cover = c.store.get(
            CoverKey{keysOf(under), settings},
            [&] {
                return std::make_shared<const KeptCover>(
                    KeptCover{geometry::coverOf(*keptScene(c.store, under, c.job), settings, c.job)});
            },
            &c.job);
        if (cover->set->triangles == 0)
            return c.note("Nothing near the camera is open to the sky: none lies there.");
        geometry::PlacedSet p;
        p.set = std::shared_ptr<const geometry::SetGeometry>(cover, cover->set.get());
        p.element = c.element.id;
        p.snowed.sparkle = static_cast<float>(s.sparkle);
        c.placed.push_back(std::move(p));
        c.tell(
            words("Around the camera it covers %1 m², up to %2 thick and %3 on average, as %4 thousand triangles; "
                  "farther out it is white where it would lie.",
                  {shownNumber(std::round(cover->area), 4), formatQuantity(double(cover->thickest), Quantity::Length),
                   formatQuantity(cover->area > 0.0 ? cover->volume / cover->area : 0.0, Quantity::Length),
                   shownNumber(std::round(double(cover->set->triangles) * 1e-3), 4)}));
    };
    return k;
}
} // namespace hygros::elements
