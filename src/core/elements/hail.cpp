/// Hail: stones that fall, leap where they land, and lie.
///
/// Sizes: exponential, cut off below 5 mm, what hail is from (L. Cheng & M. English, A relationship between hailstone
/// concentration and size, J. Atmos. Sci. 40, 1983); how many by what they bring. Speeds: weight against the drag of a
/// ball.
#include "elements/drift_kind.h"

#include "base/shown_units.h"
#include "base/words.h"
#include "elements/falling.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct HailSettings final : scene::SettingsOf<HailSettings>, FallSettings {
    HailSettings() { drawn = 20000; }
    double rate = 30.0, size = 0.012, bounce = 0.3, lying = 0.1;
};
constexpr float ice = 850.f;        ///< hailstones hold air [kg/m³]
constexpr float smallest = 5.f;     ///< [mm]
constexpr double waterOfIce = 0.85; ///< mm of water that a mm of it melts to

/// How stones of a shower are: N(D) = number·exp(−slope·D) a cubic metre and mm.
struct Shower {
    float number = 0.f, slope = 1.f, largest = 10.f; ///< D in mm
    float between(float from, float to) const
    {
        return number / slope * (std::exp(-slope * from) - std::exp(-slope * to));
    }
    /// Twice their section [1/m].
    float extinction(float from, float to) const
    {
        const auto left = [&](float d) {
            return std::exp(-slope * d) * (d * d / slope + 2.f * d / (slope * slope) + 2.f / (slope * slope * slope));
        };
        return 0.5f * pi * 1e-6f * number * (left(from) - left(to));
    }
};
float speedOf(float millimetres) { return media::terminalSpeed(false, ice, 1e-3f * millimetres); }
/// `size`: of the stones by whose weight half of it falls [m]; `rate`: mm of ice an hour.
Shower showerOf(double rate, double size)
{
    Shower s;
    const auto across = static_cast<float>(1e3 * size);
    s.largest = std::max(3.f * across, smallest * 1.5f);
    // The mass-median of an exponential law is 3.67/Λ (its cut-off moves it little for stones over a centimetre).
    s.slope = 3.67f / std::max(0.5f, across);
    s.number = 1.f;
    double brings = 0.0; // m³ of ice a m² and second
    constexpr int steps = 64;
    for (int i = 0; i < steps; ++i) {
        const float width = (s.largest - smallest) / steps, d = smallest + (static_cast<float>(i) + 0.5f) * width;
        brings += double(s.between(d - 0.5f * width, d + 0.5f * width)) * double(pi) / 6.0 *
                  std::pow(1e-3 * double(d), 3.0) * double(speedOf(d));
    }
    s.number = static_cast<float>(rate * 1e-3 / 3600.0 / std::max(1e-30, brings));
    return s;
}
std::array<Vec3, geometry::Strewn::tints> coloursOfIce()
{
    return {Vec3(0.86f, 0.89f, 0.91f), Vec3(0.72f, 0.77f, 0.80f), Vec3(0.90f, 0.92f, 0.93f), Vec3(0.62f, 0.68f, 0.72f)};
}
} // namespace

geometry::Strewn hailOn(const scene::Project& project)
{
    geometry::Strewn out;
    for (const scene::Element& e : project.elements) {
        const auto* s = settingsOf<HailSettings>(&e);
        if (!s || project.silent(e) || static_cast<float>(s->lying) <= out.share)
            continue;
        out.share = static_cast<float>(s->lying);
        out.size = static_cast<float>(s->size);
        out.shape = geometry::LeafShape::Ball;
        out.colours = coloursOfIce();
        out.seed = static_cast<std::uint32_t>(s->seed);
    }
    return out;
}

Kind hailKind()
{
    using S = HailSettings;
    Kind k;
    k.id = "hail";
    k.label = "Hail";
    k.help = "Hailstones by millimetres an hour and their size: they fall, leap where they land, and lie.";
    k.family = scene::Family::Weather;
    k.column = Kind::Column::Air;
    k.stage = Kind::Stage::Falls;
    k.extinction = [](const scene::Element& e) {
        const auto& s = e.as<S>();
        const Shower shower = showerOf(s.rate, s.size);
        return double(shower.extinction(smallest, shower.largest));
    };
    scene::TableOf<S> t;
    t.number("rate", "mm an hour", &S::rate, Quantity::Plain)
        .hard(0, 500)
        .soft(1, 150)
        .log()
        .lead()
        .in("Hail")
        .says("How thick a layer of ice it would lay in an hour.");
    t.number("size", "size", &S::size, Quantity::Length)
        .hard(0.004, 0.15)
        .soft(0.005, 0.06)
        .log()
        .lead()
        .in("Hail")
        .says("Across the stones by whose weight half of it falls; there are many smaller and some larger ones.");
    describeFall(t, "Hail");
    t.number("bounce", "leaps", &S::bounce, Quantity::Share)
        .hard(0, 0.9)
        .soft(0, 0.6)
        .in("Where it lands")
        .says("Share of their speed with which stones leap up again: 40 % from stone, 10 % from grass.");
    t.number("lying", "lying", &S::lying, Quantity::Share)
        .hard(0, 0.97)
        .soft(0, 0.9)
        .lead()
        .in("Where it lands")
        .says("Share of level ground under stones that lie already.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (!(s.rate > 0.0))
            return c.note("It brings 0 mm an hour: nothing falls.");
        const Shower shower = showerOf(s.rate, s.size);
        FallLaw law;
        law.smallest = law.firstDrawn = smallest;
        law.largest = shower.largest;
        law.number = [shower](float from, float to) { return shower.between(from, to); };
        law.extinction = [shower](float from, float to) { return shower.extinction(from, to); };
        law.speed = speedOf;
        law.phase = media::Phase{0.9f, 0.5f, 0.3f, 0.f};
        law.form = media::Falling::Form::Balls;
        law.colours = coloursOfIce();
        law.bounce = static_cast<float>(s.bounce);
        fall(c, law, s, "stones");
        c.tell(words("Stones of %1 fall at %2; an hour of it melts to %3 mm of water.",
                     {formatQuantity(s.size, Quantity::Length),
                      formatQuantity(double(speedOf(static_cast<float>(1e3 * s.size))), Quantity::Speed),
                      shownNumber(waterOfIce * s.rate, 3)}));
    };
    return k;
}
} // namespace hygros::elements
