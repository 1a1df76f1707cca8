#pragma once
/// What every kind of lamp has in common: how bright, which colour, how it falls off, what it is seen through, how it
/// changes.
#include "elements/kinds.h"

namespace hygros::elements {

struct LampSettings {
    std::string given = "lumens";
    double power = 4000.0, candela = 1000.0, lux = 100.0, luxAt = 5.0, watts = 6.0;
    std::string colourBy = "colour";
    Vec3 colour{1.f, 0.78f, 0.5f};
    double temperature = 3000.0;
    Vec3 position{0.f, 4.f, -8.f}, aim{0.f, 0.f, -8.f};
    double turn = 0.0, radius = 0.06;
    std::string follows;
    std::string falloff = "physical";
    double range = 50.0;
    double diffuse = 1.0, glossy = 1.0, air = 1.0, glow = 1.0;
    std::string shadows = "set and air";
    bool quick = false, reachShadows = false;
    std::string profile;
    std::string gobo = "none", goboFile, goboDrawing = "-0.5 -0.5, 0.5 -0.5, 0 0.6";
    std::int64_t goboCount = 3, goboSeed = 1;
    double goboOpen = 0.6, goboSoftness = 0.02, goboTurn = 0.0, goboScale = 1.0, goboSpin = 0.0, goboDrift = 0.0,
           goboHeading = 0.0;
    std::string changes = "steady";
    double rate = 3.0, depth = 0.6;
    std::int64_t seed = 1;
    double sweep = 0.0, sweepArc = 360.0;
};

/// Which of the common settings a kind of lamp has.
struct LampTraits {
    bool aims = true, sized = true, profiled = true, gobo = false, sweeps = false, glows = true, falls = true,
         luminous = true;
};

template <class T> void describeLamp(scene::TableOf<T>& t, const LampTraits& traits)
{
    t.choice("given", "given as", &T::given,
             traits.luminous ? std::vector<std::string>{"lumens", "candela", "lux", "watts", "as in the profile"}
                             : std::vector<std::string>{"lumens", "lux", "watts"})
        .in("Light")
        .says("In which measure its brightness is given.");
    t.number("power", "power", &T::power, Quantity::Flux)
        .hard(0, 1e9)
        .soft(10, 1e6)
        .log()
        .lead()
        .in("Light")
        .when("given=lumens")
        .says("All the light that leaves it.");
    if (traits.luminous)
        t.number("candela", "intensity", &T::candela, Quantity::Intensity)
            .hard(0, 1e9)
            .soft(1, 1e6)
            .log()
            .in("Light")
            .when("given=candela")
            .says("Intensity straight ahead.");
    t.number("lux", "illuminance", &T::lux, Quantity::Irradiance)
        .hard(0, 1e9)
        .soft(0.01, 1e5)
        .log()
        .in("Light")
        .when("given=lux")
        .says("What it gives a surface that faces it.");
    if (traits.luminous)
        t.number("luxAt", "at a distance of", &T::luxAt, Quantity::Length)
            .hard(0.01, 1e5)
            .soft(0.5, 100)
            .log()
            .in("Light")
            .when("given=lux")
            .says("Where that illuminance is met.");
    t.number("watts", "radiant power", &T::watts, Quantity::Power)
        .hard(0, 1e9)
        .soft(0.01, 1e3)
        .log()
        .in("Light")
        .when("given=watts")
        .says("Light as power, weighed by the eye: 1 W is 683 lm. Not what it draws from the mains.");
    t.choice("colourBy", "colour by", &T::colourBy, {"colour", "temperature"})
        .in("Light")
        .says("A colour of its own, or that of a glowing body.");
    t.colour("colour", "colour", &T::colour)
        .in("Light")
        .when("colourBy=colour")
        .says("Colour of the light; its brightness does not count.");
    t.number("temperature", "temperature", &T::temperature, Quantity::Temperature)
        .hard(1500, 25000)
        .soft(1700, 12000)
        .log()
        .in("Light")
        .when("colourBy=temperature")
        .says("Of the glowing body: a candle 1850 K, a bulb 2700 K, daylight 6500 K.");
    if (traits.sized)
        t.number("radius", "source radius", &T::radius, Quantity::Length)
            .hard(0.001, 10)
            .soft(0.01, 1)
            .log()
            .in("Light")
            .says("Size of the glowing part: larger ones throw softer shadows.");
    if (traits.glows)
        t.number("glow", "own glow", &T::glow, Quantity::Plain)
            .hard(0, 1e4)
            .soft(0.01, 10)
            .log()
            .in("Light")
            .says("The source itself as the camera and mirrors see it; 1 is physical, 0 hides it.");
    if (traits.profiled)
        t.file("profile", "photometric profile", &T::profile)
            .opens(profileFiles)
            .edited("profile")
            .in("Light")
            .says("An IES file: how a real fixture spreads its light.");
    t.point("position", "position", &T::position).place().in("Place").says("Where the lamp is.");
    if (traits.aims)
        t.point("aim", "aim", &T::aim).place().in("Place").says("The point it shines at.");
    t.number("turn", "turn", &T::turn, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Place")
        .says("About its own axis.");
    t.text("follows", "goes with", &T::follows)
        .linked("set")
        .carrier()
        .in("Place")
        .says("A set it is fixed to: place and aim are then in that set's own metres and move with it.");
    if (traits.sweeps) {
        t.number("sweep", "sweep", &T::sweep, Quantity::Frequency)
            .hard(-100, 100)
            .soft(0, 2)
            .in("Change")
            .says("Turns of its beam about the vertical, as of a beacon; below 0 the other way round.");
        t.number("sweepArc", "sweep arc", &T::sweepArc, Quantity::Angle)
            .hard(1, 360)
            .soft(10, 360)
            .in("Change")
            .says("360° goes round and round; less swings to and fro.");
    }
    t.choice("changes", "changes", &T::changes, {"steady", "candle", "fire", "failing tube", "pulse", "strobe"})
        .in("Change")
        .says("How its strength changes from frame to frame.");
    const std::string moving = "changes=candle|fire|failing tube|pulse|strobe";
    t.number("rate", "rate", &T::rate, Quantity::Frequency)
        .hard(0, 1000)
        .soft(0.1, 25)
        .log()
        .in("Change")
        .when(moving)
        .says("How quickly.");
    t.number("depth", "depth", &T::depth, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Change")
        .when(moving)
        .says("How much of its strength it loses at most.");
    t.whole("seed", "seed", &T::seed)
        .hard(0, 1e9)
        .soft(0, 50)
        .in("Change")
        .when(moving)
        .says("Another course of the same kind.");
    if (traits.falls) {
        t.choice("falloff", "falloff", &T::falloff, {"physical", "none", "linear"})
            .in("Reach")
            .says("Physical: with the square of the distance. None and linear (to a range) are not physical; they "
                  "start from what it gives at 1 m.");
        t.number("range", "range", &T::range, Quantity::Length)
            .hard(0.01, 1e5)
            .soft(1, 1000)
            .log()
            .in("Reach")
            .when("falloff=linear")
            .says("Where it ends.");
    }
    t.number("diffuse", "in matte", &T::diffuse, Quantity::Plain)
        .hard(0, 1e4)
        .soft(0, 2)
        .in("Reach")
        .says("Strength on the set's diffuse colour; 1 is physical.");
    t.number("glossy", "in highlights", &T::glossy, Quantity::Plain)
        .hard(0, 1e4)
        .soft(0, 2)
        .in("Reach")
        .says("Strength in the set's highlights; 1 is physical.");
    t.number("air", "in the air", &T::air, Quantity::Plain)
        .hard(0, 1e4)
        .soft(0, 5)
        .in("Reach")
        .says("Strength in all air: its beam. 1 is physical.");
    t.choice("shadows", "shadows of", &T::shadows, {"set and air", "set", "nothing"})
        .in("Reach")
        .says("What dims its light on the way: the set and the air, the set alone, or nothing (not physical).");
    t.toggle("reachShadows", "Reach shades too", &T::reachShadows)
        .in("Reach")
        .says("What Reach keeps its light from casts no shadow in its light either.");
    t.toggle("quick", "quick beam", &T::quick)
        .in("Reach")
        .says("The beam as if the air around each place were even: no shadows of the set in it, no noise. For previews "
              "and far shots.");
    if (!traits.gobo)
        return;
    t.choice("gobo", "gobo", &T::gobo,
             {"none", "picture", "window", "blinds", "foliage", "breakup", "slit", "stars", "drawn"})
        .in("Gobo")
        .says("What it shines through. A colour picture throws itself into the fog.");
    t.file("goboFile", "picture", &T::goboFile)
        .opens(pictureFiles)
        .in("Gobo")
        .when("gobo=picture")
        .says("The picture, fitted into the beam.");
    t.whole("goboCount", "count", &T::goboCount)
        .hard(1, 64)
        .soft(1, 24)
        .in("Gobo")
        .when("gobo=window|blinds|foliage|breakup|stars")
        .says("Panes across, slats, or how fine the pattern is.");
    t.number("goboOpen", "open", &T::goboOpen, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Gobo")
        .when("gobo=window|blinds|foliage|breakup|slit|stars")
        .says("Share that lets light through.");
    t.whole("goboSeed", "variant", &T::goboSeed)
        .hard(0, 1e9)
        .soft(0, 50)
        .in("Gobo")
        .when("gobo=foliage|breakup|stars")
        .says("Another pattern of the same kind.");
    t.text("goboDrawing", "drawing", &T::goboDrawing)
        .edited("goboDrawing")
        .in("Gobo")
        .when("gobo=drawn")
        .says("Outlines light passes through, from −1 to 1 across the beam: x and y apart by a blank, points by "
              "commas, outlines by semicolons.");
    const std::string some = "gobo=picture|window|blinds|foliage|breakup|slit|stars|drawn";
    t.number("goboSoftness", "softness", &T::goboSoftness, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.5)
        .in("Gobo")
        .when(some)
        .says("Width of its edges as a share of the beam.");
    t.number("goboTurn", "turned", &T::goboTurn, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Gobo")
        .when(some)
        .says("About the beam's axis.");
    t.number("goboScale", "size", &T::goboScale, Quantity::Plain)
        .hard(0.01, 100)
        .soft(0.1, 10)
        .log()
        .in("Gobo")
        .when(some)
        .says("Larger patterns above 1.");
    t.number("goboSpin", "spin", &T::goboSpin, Quantity::Frequency)
        .hard(-100, 100)
        .soft(-1, 1)
        .in("Gobo")
        .when(some)
        .says("Turns a second.");
    t.number("goboDrift", "drift", &T::goboDrift, Quantity::Plain)
        .hard(-100, 100)
        .soft(-1, 1)
        .in("Gobo")
        .when(some)
        .says("Beam widths a second.");
    t.number("goboHeading", "drift toward", &T::goboHeading, Quantity::Angle)
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Gobo")
        .when(some)
        .says("0° is to the right, 90° up.");
}

/// Everything of the lamp that its kind does not set itself; `lamp` comes with its shape and size. Its strength is
/// worked out last, so the size must be in it.
void finishLamp(FreezeContext& c, const LampSettings& s, light::Lamp lamp);
} // namespace hygros::elements
