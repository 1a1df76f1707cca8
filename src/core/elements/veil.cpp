/// Veil: colours over the picture by distance and height, without light.
#include "elements/kinds.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct VeilSettings : scene::SettingsOf<VeilSettings> {
    double near = 30.0, far = 1500.0, distanceShare = 1.0;
    scene::ColourStops stops{{0.f, Vec3(0.74f, 0.78f, 0.82f), 0.f}, {1.f, Vec3(0.74f, 0.78f, 0.82f), 0.85f}};
    double brightness = 5.0, dark = 0.0;
    std::string combine = "over";
    double heightShare = 0.0, base = 0.0, top = 40.0;
    std::string thins = "upward", fade = "soft";
    Vec3 heightColour{0.74f, 0.78f, 0.82f};
    double backdrop = 1.0;
    double horizonAngle = 6.0, horizonSize = 3.0, horizonStrength = 0.0;
    std::int64_t seed = 1;
};
} // namespace

Kind veilKind()
{
    using S = VeilSettings;
    Kind k;
    k.id = "veil";
    k.actions = {"fit"};
    k.fit = [](scene::Element& e, const Seen& seen) {
        const auto even = [](float v) { return std::strtod(formatNumber(static_cast<double>(v)).c_str(), nullptr); };
        e.set("near", even(seen.near));
        e.set("far", even(std::max(seen.far, seen.near * 1.05f)));
        // A veil of colour 1 shows as bright as a lit white.
        e.set("brightness", std::round(10.0 * (-static_cast<double>(seen.exposure) - 0.5)) / 10.0);
    };
    k.begin = [fit = k.fit](scene::Element& e, const Seen& seen) {
        if (seen.middle > 0.f)
            fit(e, seen);
    };
    k.section = [](const scene::Element& e, bool selected) {
        std::vector<SectionHandle> all;
        if (!selected)
            return all;
        all = {{"near", false}, {"far", false}};
        if (const auto& s = e.as<S>(); s.heightShare > 0.0 || s.combine == "multiply")
            all.insert(all.end(), {{"top"}, {"base"}});
        return all;
    };
    k.label = "Veil";
    k.help = "The cheap haze: colours laid over the picture by distance and height. No light acts on it.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.number("near", "near", &S::near, Quantity::Length)
        .hard(0, 1e6)
        .soft(1, 5e3)
        .log()
        .lead()
        .in("By distance")
        .says("Distance at which it begins.");
    t.number("far", "far", &S::far, Quantity::Length)
        .hard(0.01, 1e6)
        .soft(10, 50e3)
        .log()
        .lead()
        .in("By distance")
        .says("Distance at which it is complete; always beyond near.");
    t.stops("stops", "colours", &S::stops)
        .in("By distance")
        .says("Colour and opacity from near (0) to far (1), up to eight.");
    t.number("distanceShare", "strength", &S::distanceShare, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("By distance")
        .says("Strength of the veil by distance.");
    t.number("heightShare", "strength", &S::heightShare, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("By height")
        .says("Strength of the veil by height; 0: none.");
    t.number("base", "base", &S::base, Quantity::Length)
        .hard(-1e4, 1e5)
        .soft(-20, 500)
        .in("By height")
        .says("Height of its lower end.");
    t.number("top", "top", &S::top, Quantity::Length)
        .hard(-1e4, 1e5)
        .soft(-20, 500)
        .in("By height")
        .says("Height of its upper end; always above the base.");
    t.choice("thins", "thins", &S::thins, {"upward", "downward"})
        .in("By height")
        .says("Toward which end it thins to nothing.");
    t.choice("fade", "fades", &S::fade, {"even", "soft", "exponential"})
        .in("By height")
        .says("How it thins between the ends.");
    t.colour("heightColour", "colour", &S::heightColour).in("By height").says("Colour of the veil by height.");
    t.choice("combine", "combine", &S::combine, {"over", "add", "multiply"})
        .in("Together")
        .says("Height over distance; both added to the picture as light; or one veil where both are.");
    t.number("brightness", "brightness", &S::brightness, Quantity::Exposure)
        .hard(-40, 40)
        .soft(-4, 12)
        .in("Together")
        .says("How bright its colour 1 is, in stops above 1 W/m²/sr; a veil does not follow the light.");
    t.number("dark", "to dark", &S::dark, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Together")
        .says("Takes back its own light: 100 % fades to black.");
    t.number("backdrop", "over the sky", &S::backdrop, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Together")
        .says("How much of it lies over sky and background.");
    t.number("horizonStrength", "uneven", &S::horizonStrength, Quantity::Exposure)
        .hard(0, 10)
        .soft(0, 2)
        .in("Horizon")
        .says("By how many stops of distance the veil wavers near the horizon, so that its far edge is no ruled line.");
    t.number("horizonAngle", "within", &S::horizonAngle, Quantity::Angle)
        .hard(0.1, 90)
        .soft(0.5, 30)
        .in("Horizon")
        .says("How far above and below the horizon.");
    t.number("horizonSize", "size", &S::horizonSize, Quantity::Angle)
        .hard(0.05, 90)
        .soft(0.2, 20)
        .log()
        .in("Horizon")
        .says("Size of its wisps as seen.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Horizon").says("Another number, another edge.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        media::Veil v;
        v.id = c.element.id;
        v.blend = s.combine == "add"        ? media::Veil::Blend::Add
                  : s.combine == "multiply" ? media::Veil::Blend::Multiply
                                            : media::Veil::Blend::Over;
        v.light = Vec3(static_cast<float>(std::exp2(s.brightness)));
        v.dark = static_cast<float>(s.dark);
        v.near = static_cast<float>(s.near);
        v.far = static_cast<float>(std::fmax(s.far, s.near + 0.01));
        v.distanceShare = static_cast<float>(s.distanceShare);
        v.stopCount = static_cast<int>(std::min<std::size_t>(v.stops.size(), s.stops.size()));
        for (std::size_t i = 0; i < static_cast<std::size_t>(v.stopCount); ++i)
            v.stops[i] = {s.stops[i].at, s.stops[i].colour, s.stops[i].opacity};
        v.heightShare = static_cast<float>(s.heightShare);
        v.base = static_cast<float>(s.base);
        v.top = static_cast<float>(std::fmax(s.top, s.base + 0.01));
        v.thinsUpward = s.thins == "upward";
        v.fade = s.fade == "even"   ? media::Veil::Fade::Even
                 : s.fade == "soft" ? media::Veil::Fade::Soft
                                    : media::Veil::Fade::Exponential;
        v.heightColour = s.heightColour;
        v.backdropShare = static_cast<float>(s.backdrop);
        v.horizonAngle = radians(s.horizonAngle);
        v.horizonSize = radians(s.horizonSize);
        v.horizonStrength = static_cast<float>(s.horizonStrength);
        v.seed = static_cast<std::uint32_t>(s.seed);
        c.shot.veils.push_back(v);
    };
    return k;
}
} // namespace hygros::elements
