/// Sun with its sky, and the spot lamp.
#include "elements/kinds.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct SunSettings : scene::SettingsOf<SunSettings> {
    double elevation = 30.0, azimuth = 20.0, strength = 1.0, sky = 1.0, turbidity = 1.0;
};
struct SpotSettings : scene::SettingsOf<SpotSettings> {
    double power = 4000.0, angle = 60.0, edge = 0.4, radius = 0.06;
    Vec3 position{0.f, 4.f, -8.f}, aim{0.f, 0.f, -8.f}, colour{1.f, 0.78f, 0.5f};
};
} // namespace

Kind sunKind()
{
    using S = SunSettings;
    Kind k;
    k.id = "sun";
    k.label = "Sun and sky";
    k.help = "The sun with a clear sky around it.";
    k.family = scene::Family::Lights;
    k.single = true;
    scene::TableOf<S> t;
    t.number("elevation", "elevation", &S::elevation, Quantity::Angle).hard(-5, 90).soft(-5, 90).lead().in("Place").says(
        "Height of the sun above the horizon; its colour follows.");
    t.number("azimuth", "azimuth", &S::azimuth, Quantity::Angle).hard(-3600, 3600).soft(-180, 180).lead().in("Place").says(
        "Direction of the sun, clockwise from −Z seen from above.");
    t.number("strength", "strength", &S::strength, Quantity::Plain).hard(0, 1e4).soft(0.01, 10).log().in("Light").says(
        "Scales sun and sky together; 1 is the real sun.");
    t.number("sky", "sky share", &S::sky, Quantity::Share).hard(0, 100).soft(0, 2).in("Light").says("Scales the sky alone.");
    t.number("turbidity", "aerosol", &S::turbidity, Quantity::Plain).hard(0, 30).soft(0, 8).in("Light").says(
        "Aerosol of the high air relative to clean country air; nearby haze is an element of its own.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::SkySettings sky;
        sky.elevation = radians(s.elevation);
        sky.azimuth = radians(s.azimuth);
        sky.strength = static_cast<float>(s.strength);
        sky.skyStrength = static_cast<float>(s.sky);
        sky.turbidity = static_cast<float>(s.turbidity);
        c.shot.sky = c.cache.sky(sky);
        c.shot.sunId = c.element.id;
    };
    return k;
}

Kind spotKind()
{
    using S = SpotSettings;
    Kind k;
    k.id = "spot";
    k.label = "Spot lamp";
    k.help = "A lamp that fills a cone.";
    k.family = scene::Family::Lights;
    scene::TableOf<S> t;
    t.number("power", "power", &S::power, Quantity::Flux).hard(0, 1e9).soft(10, 1e6).log().lead().in("Light").says(
        "Luminous flux inside the cone.");
    t.number("angle", "beam angle", &S::angle, Quantity::Angle).hard(0.5, 170).soft(2, 150).lead().in("Light").says(
        "Full opening of the cone.");
    t.number("edge", "soft edge", &S::edge, Quantity::Share).hard(0, 1).soft(0, 1).in("Light").says(
        "Share of the cone over which it fades out.");
    t.colour("colour", "colour", &S::colour).in("Light").says("Colour of the light; its brightness does not count.");
    t.point("position", "position", &S::position).in("Place").says("Where the lamp is.");
    t.point("aim", "aim", &S::aim).in("Place").says("The point it shines at.");
    t.number("radius", "source radius", &S::radius, Quantity::Length).hard(0.001, 10).soft(0.01, 1).log().in("Light").says(
        "Size of the glowing part.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::Spot spot;
        spot.id = c.element.id;
        spot.position = s.position;
        const Vec3 d = s.aim - s.position;
        spot.direction = d.length2() > 1e-12f ? d.normalized() : Vec3(0, -1, 0);
        const float half = radians(s.angle) * 0.5f;
        spot.cosOuter = std::cos(half);
        spot.cosInner = std::cos(half * (1.f - static_cast<float>(s.edge)));
        const float brightness = luminance(s.colour);
        if (brightness > 0.f)
            spot.intensity = s.colour * (static_cast<float>(s.power) / 683.f / brightness *
                                         light::spotIntensityPerFlux(spot.cosInner, spot.cosOuter));
        spot.radius = static_cast<float>(s.radius);
        c.shot.spots.push_back(spot);
    };
    return k;
}
} // namespace hygros::elements
