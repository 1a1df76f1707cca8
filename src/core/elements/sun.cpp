/// Sun or moon with the sky around it.
#include "elements/kinds.h"

#include "base/error.h"
#include "base/words.h"
#include "light/sun_position.h"

#include <cmath>
#include <stdexcept>

namespace hygros::elements {
namespace {
struct SunSettings : scene::SettingsOf<SunSettings> {
    std::string by = "angles", date = "2026-06-21", body = "sun", panorama;
    double elevation = 30.0, azimuth = 20.0, latitude = 52.4, longitude = 9.7, hour = 9.0, zone = 2.0, north = 0.0;
    double strength = 1.0, sky = 1.0, turbidity = 1.0, ozone = 1.0, disk = 1.0, moonLit = 1.0, stars = 1.0,
           panoramaTurn = 0.0;
    bool reachShadows = false, panoramaSun = true;
    Vec3 ground{0.2f, 0.2f, 0.18f};
};
} // namespace

namespace {
struct SkyKey {
    explicit SkyKey(const light::SkySettings& s) : settings(s), panorama(s.panorama) { settings.panorama.reset(); }
    light::SkySettings settings;
    Identity panorama;
    bool operator==(const SkyKey&) const = default;
};
} // namespace

Kind sunKind()
{
    using S = SunSettings;
    Kind k;
    k.id = "sun";
    k.row = Kind::Row::LightAndSky;
    k.label = "Sun and sky";
    k.help = "The sun, or the moon, with the sky around it.";
    k.family = scene::Family::Lights;
    k.single = true;
    scene::TableOf<S> t;
    t.choice("by", "placed by", &S::by, {"angles", "place and time"})
        .in("Place")
        .says("By its height and direction, or by where and when the shot is.");
    t.number("elevation", "elevation", &S::elevation, Quantity::Angle)
        .hard(-18, 90)
        .soft(-6, 90)
        .lead()
        .in("Place")
        .when("by=angles")
        .says("Height above the horizon; its colour follows. Below 0 is dusk, below −18 night.");
    t.number("azimuth", "azimuth", &S::azimuth, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .lead()
        .in("Place")
        .when("by=angles")
        .says("Direction, clockwise from −Z seen from above.");
    t.number("latitude", "latitude", &S::latitude, Quantity::Angle)
        .hard(-90, 90)
        .soft(-90, 90)
        .in("Place")
        .when("by=place and time")
        .says("North is positive.");
    t.number("longitude", "longitude", &S::longitude, Quantity::Angle)
        .hard(-180, 180)
        .soft(-180, 180)
        .in("Place")
        .when("by=place and time")
        .says("East is positive.");
    t.text("date", "date", &S::date).in("Place").when("by=place and time").says("Year-month-day.");
    t.number("hour", "hour", &S::hour, Quantity::Plain)
        .hard(0, 24)
        .soft(0, 24)
        .in("Place")
        .when("by=place and time")
        .says("Of the clock there; 9.5 is half past nine.");
    t.number("zone", "clock ahead of UTC", &S::zone, Quantity::Plain)
        .hard(-14, 14)
        .soft(-12, 12)
        .in("Place")
        .when("by=place and time")
        .says("In hours, with summer time.");
    t.number("north", "north", &S::north, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Place")
        .when("by=place and time")
        .says("Where north lies, clockwise from −Z seen from above.");
    t.number("strength", "strength", &S::strength, Quantity::Plain)
        .hard(0, 1e4)
        .soft(0.01, 10)
        .log()
        .in("Light")
        .says("Scales sun and sky together; 1 is the real one.");
    t.number("sky", "sky share", &S::sky, Quantity::Share)
        .hard(0, 100)
        .soft(0, 2)
        .in("Light")
        .says("Scales the sky alone.");
    t.choice("body", "what shines", &S::body, {"sun", "moon", "nothing"})
        .in("Light")
        .says("By day the sun; at night the moon, 1/400 000 as bright when full, or the stars alone.");
    t.number("moonLit", "lit share of the moon", &S::moonLit, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Light")
        .when("body=moon")
        .says("100 % is full moon, 50 % a half.");
    t.number("stars", "night sky", &S::stars, Quantity::Plain)
        .hard(0, 1e5)
        .soft(0.1, 100)
        .log()
        .in("Light")
        .says("Glow of the sky without sun and moon; 1 is a dark night in the country, 100 one over a town.");
    t.number("turbidity", "aerosol", &S::turbidity, Quantity::Plain)
        .hard(0, 30)
        .soft(0, 8)
        .in("Air above")
        .says("Aerosol of the high air relative to clean country air. It belongs to the sky alone: air in the shot is "
              "Haze, which is not counted here.");
    t.number("ozone", "ozone", &S::ozone, Quantity::Plain)
        .hard(0, 10)
        .soft(0, 3)
        .in("Air above")
        .says("Relative to the usual; it keeps the zenith blue at dusk.");
    t.number("disk", "disk size", &S::disk, Quantity::Plain)
        .hard(0.05, 50)
        .soft(0.2, 10)
        .log()
        .in("Light")
        .says("Relative to the real half degree: larger ones throw softer shadows; the light stays the same.");
    t.colour("ground", "ground", &S::ground)
        .hard(0, 1)
        .in("Light")
        .says("Colour of the country around, which lights the sky and shows below the horizon.");
    t.file("panorama", "panorama", &S::panorama)
        .opens(pictureFiles)
        .in("Panorama")
        .says("A picture of the whole sphere (EXR, HDR) instead of the computed sky; twice as wide as high.");
    t.number("panoramaTurn", "turned", &S::panoramaTurn, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Panorama")
        .says("Clockwise seen from above.");
    t.toggle("panoramaSun", "take its sun out", &S::panoramaSun)
        .in("Panorama")
        .says("The picture's sun becomes a true one with sharp shadows and shafts; where it stood the picture gets "
              "like its surroundings.");
    t.toggle("reachShadows", "Reach shades too", &S::reachShadows)
        .in("Light")
        .says("What Reach keeps the sun from casts no shadow in its light either.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.stage = Kind::Stage::Set; // before water, which gathers its light
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::SkySettings sky;
        sky.elevation = radians(s.elevation);
        sky.azimuth = radians(s.azimuth);
        if (s.by == "place and time")
            try {
                const light::SunPosition at = light::sunPosition(s.latitude, s.longitude, s.date, s.hour, s.zone);
                sky.elevation = radians(std::max(-18.0, at.elevation));
                sky.azimuth = radians(at.azimuth + s.north);
                c.tell(words("It stands at %1, %2 from north.", {formatQuantity(at.elevation, Quantity::Angle),
                                                                 formatQuantity(at.azimuth, Quantity::Angle)}));
            } catch (const std::invalid_argument& bad) {
                c.note(std::string(bad.what()) + "; it is placed by its angles.");
            }
        sky.strength = static_cast<float>(s.strength);
        sky.skyStrength = static_cast<float>(s.sky);
        sky.turbidity = static_cast<float>(s.turbidity);
        sky.ozone = static_cast<float>(s.ozone);
        sky.disk = static_cast<float>(s.disk);
        sky.groundAlbedo = s.ground;
        sky.body = s.body == "moon"      ? light::SkySettings::Body::Moon
                   : s.body == "nothing" ? light::SkySettings::Body::None
                                         : light::SkySettings::Body::Sun;
        sky.moonLit = static_cast<float>(s.moonLit);
        sky.stars = static_cast<float>(s.stars);
        if (!s.panorama.empty())
            try {
                const auto file = scene::resolved(c.project, s.panorama);
                sky.panorama = c.read(file, Whole(), [&] { return light::Panorama::load(file); });
                sky.panoramaTurn = radians(s.panoramaTurn);
                sky.panoramaSun = s.panoramaSun;
                if (sky.panorama->refused() > 0)
                    c.note("The panorama holds " + std::to_string(sky.panorama->refused()) +
                           " values that are negative or no numbers; they count as black.");
            } catch (const Error& e) {
                c.note(std::string(e.what()) + " The computed sky stands in.");
            }
        c.shot.sky = c.store.get(SkyKey(sky), [&] { return std::make_shared<const light::Sky>(sky); });
        c.shot.sunId = c.element.id;
    };
    return k;
}
} // namespace hygros::elements
