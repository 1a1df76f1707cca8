/// Haze: the air everywhere, even up to a ceiling or thinning with height.
#include "elements/air.h"

namespace hygros::elements {
namespace {
struct HazeSettings : scene::SettingsOf<HazeSettings>, AirSettings {
    std::string form = "thinning";
    double thinning = 180.0, base = 0.0, ceiling = 300.0, clear = 0.0, clean = 0.0;
};
} // namespace

Kind hazeKind()
{
    Kind k;
    k.id = "haze";
    k.column = Kind::Column::Air;
    k.extinction = plainExtinction<HazeSettings>;
    k.section = [](const scene::Element& e, bool selected) {
        const auto& s = e.as<HazeSettings>();
        std::vector<SectionHandle> all{{"visibility", false}};
        if (!selected)
            return all;
        all.push_back({"clear", false});
        if (s.form == "uniform")
            all.push_back({"ceiling"});
        else
            all.insert(all.end(), {{"thinning", true, s.base}, {"base"}});
        return all;
    };
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
    t.number("clear", "clear around", &HazeSettings::clear, Quantity::Length)
        .hard(0, 1e5)
        .soft(0, 200)
        .in("Shape")
        .says("Around the camera there is none of it as far as this. Not physical: for a crisp foreground.");
    describeScattering(t);
    t.number("clean", "clean air", &HazeSettings::clean, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Scattering")
        .says("Share of the extinction (for green) that is air itself, not droplets: it scatters blue far more than "
              "red, so "
              "that far hills go blue and what shines through warm.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<HazeSettings>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<HazeSettings>();
        media::Medium m = mediumOf(c.element, s);
        m.shape = s.form == "uniform" ? media::Shape::Uniform : media::Shape::Thinning;
        m.base = static_cast<float>(s.base);
        m.thinning = static_cast<float>(s.thinning);
        m.top = static_cast<float>(s.ceiling);
        m.clear = static_cast<float>(s.clear);
        m.clearCentre = c.shot.camera.position;
        const auto clean = static_cast<float>(s.clean);
        if (clean > 0.f) {
            media::Medium air = m;
            air.clean = true;
            air.sigmaT = m.sigmaT * clean;
            air.albedo = Vec3(1.f);
            air.phase = media::rayleighPhase;
            c.shot.media.push_back(air);
        }
        m.sigmaT *= 1.f - clean;
        if (m.sigmaT > 0.f)
            c.shot.media.push_back(m);
    };
    return k;
}
} // namespace hygros::elements
