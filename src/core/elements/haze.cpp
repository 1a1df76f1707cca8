/// Haze: the air everywhere, even up to a ceiling or thinning with height.
#include "elements/air.h"

namespace hygros::elements {
namespace {
struct HazeSettings : scene::SettingsOf<HazeSettings>, AirSettings {
    std::string form = "thinning";
    double thinning = 180.0, base = 0.0, ceiling = 300.0;
};
} // namespace

Kind hazeKind()
{
    Kind k;
    k.id = "haze";
    k.label = "Haze";
    k.help = "The air everywhere: even, or thinning with height.";
    k.family = scene::Family::Air;
    scene::TableOf<HazeSettings> t;
    describeDensity(t, 50, 50e3);
    t.number("thinning", "thins over", &HazeSettings::thinning, Quantity::Length)
        .hard(0.5, 1e6)
        .soft(5, 5e3)
        .log()
        .lead()
        .in("Shape")
        .when("form=thinning")
        .says("Height over which the density falls to 37 %.");
    t.choice("form", "form", &HazeSettings::form, {"thinning", "uniform"})
        .in("Shape")
        .says("Thinning with height, or even up to a ceiling.");
    t.number("base", "base", &HazeSettings::base, Quantity::Length)
        .hard(-1e4, 1e4)
        .soft(-50, 500)
        .in("Shape")
        .when("form=thinning")
        .says("Height at which the visibility holds.");
    t.number("ceiling", "ceiling", &HazeSettings::ceiling, Quantity::Length)
        .hard(-1e4, 1e6)
        .soft(5, 5e3)
        .log()
        .in("Shape")
        .when("form=uniform")
        .says("Height above which the air is clear; sun and sky must come down through all below it.");
    describeScattering(t);
    k.parameters = t.take();
    k.make = [] { return std::make_shared<HazeSettings>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<HazeSettings>();
        media::Medium m = mediumOf(c.element, s);
        m.shape = s.form == "uniform" ? media::Shape::Uniform : media::Shape::Thinning;
        m.base = static_cast<float>(s.base);
        m.thinning = static_cast<float>(s.thinning);
        m.top = static_cast<float>(s.ceiling);
        c.shot.media.push_back(m);
    };
    return k;
}
} // namespace hygros::elements
