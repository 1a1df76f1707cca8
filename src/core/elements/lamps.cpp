/// The lamps.
#include "elements/lamp.h"

#include "base/error.h"
#include "light/blackbody.h"
#include "light/modulation.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct SpotSettings : scene::SettingsOf<SpotSettings>, LampSettings {
    double angle = 60.0, edge = 0.4;
};
struct BulbSettings : scene::SettingsOf<BulbSettings>, LampSettings {
    BulbSettings() { power = 800.0; }
};
struct PanelSettings : scene::SettingsOf<PanelSettings>, LampSettings {
    std::string form = "rectangle";
    double width = 1.2, height = 0.8;
    PanelSettings()
    {
        radius = 0.5;
        colour = Vec3(1.f, 0.95f, 0.88f);
    }
};
struct TubeSettings : scene::SettingsOf<TubeSettings>, LampSettings {
    double length = 1.2;
    TubeSettings()
    {
        power = 3000.0;
        radius = 0.013;
        colour = Vec3(0.9f, 1.f, 0.95f);
    }
};
struct BeamSettings : scene::SettingsOf<BeamSettings>, LampSettings {
    double edge = 0.3;
    BeamSettings()
    {
        given = "lux";
        radius = 1.0;
        lux = 2000.0;
        colour = Vec3(1.f, 0.97f, 0.9f);
    }
};

light::Change changeOf(const std::string& name)
{
    using light::Change;
    return name == "candle"         ? Change::Candle
           : name == "fire"         ? Change::Fire
           : name == "failing tube" ? Change::FailingTube
           : name == "pulse"        ? Change::Pulse
           : name == "strobe"       ? Change::Strobe
                                    : Change::Steady;
}
light::Gobo::Pattern patternOf(const std::string& name)
{
    using enum light::Gobo::Pattern;
    return name == "window"    ? Window
           : name == "blinds"  ? Blinds
           : name == "foliage" ? Foliage
           : name == "breakup" ? Breakup
           : name == "slit"    ? Slit
           : name == "stars"   ? Stars
                               : Drawn;
}

struct PlacedGoboKey {
    Identity gobo;
    light::Gobo::Placing placing;
    bool operator==(const PlacedGoboKey&) const = default;
};

std::shared_ptr<const light::Gobo> goboOf(FreezeContext& c, const LampSettings& s)
{
    if (s.gobo == "none" || (s.gobo == "picture" && s.goboFile.empty()))
        return nullptr;
    try {
        std::shared_ptr<const light::Gobo> gobo;
        if (s.gobo == "picture") {
            const auto softness = static_cast<float>(s.goboSoftness);
            const auto file = scene::resolved(c.project, s.goboFile);
            gobo = c.read(file, softness, [&] { return light::Gobo::load(file, softness); });
            if (gobo->refused() > 0)
                c.note("The gobo holds " + std::to_string(gobo->refused()) +
                       " values that are negative or no numbers; they let nothing through.");
        } else {
            light::Gobo::Settings g;
            g.pattern = patternOf(s.gobo);
            g.count = static_cast<int>(s.goboCount);
            g.open = static_cast<float>(s.goboOpen);
            g.seed = static_cast<std::uint32_t>(s.goboSeed);
            g.softness = static_cast<float>(s.goboSoftness);
            if (s.gobo == "drawn")
                g.outlines = light::outlinesOf(s.goboDrawing);
            gobo = c.store.get(g, [&] { return std::make_shared<const light::Gobo>(g); });
        }
        // In a loop it goes to and fro.
        const double loop = c.project.time.loop,
                     moved = loop > 0.0 ? std::sin(2.0 * double(pi) * c.seconds / loop) * loop / (2.0 * double(pi))
                                        : c.seconds,
                     way = s.goboDrift * 2.0 * moved, heading = double(radians(s.goboHeading));
        light::Gobo::Placing placing;
        placing.turn = radians(s.goboTurn + 360.0 * std::fmod(c.project.time.fitted(s.goboSpin) * c.seconds, 1.0));
        placing.shift = Vec2(static_cast<float>(way * std::cos(heading)), static_cast<float>(way * std::sin(heading)));
        placing.scale = static_cast<float>(s.goboScale);
        return c.store.get(PlacedGoboKey{gobo, placing}, [&] { return gobo->placed(placing); });
    } catch (const std::invalid_argument& e) {
        c.note(std::string("The drawn gobo: ") + e.what() + ". The lamp shines without it.");
    } catch (const Error& e) {
        c.note(std::string(e.what()) + " The lamp shines without it.");
    }
    return nullptr;
}

template <class S> Kind lampKind(std::string id, std::string label, std::string help)
{
    Kind k;
    k.id = std::move(id);
    k.label = std::move(label);
    k.help = std::move(help);
    k.family = scene::Family::Lights;
    k.make = [] { return std::make_shared<S>(); };
    k.row = Kind::Row::Light;
    k.standsOver = 3.6f;
    k.actions = {"place", "aim"};
    k.handles = [](const scene::Element& e) {
        Handles h;
        h.place = "position";
        h.aim = "aim";
        h.range = e.as<S>().falloff == "linear" && scene::findParameter(e.kind->parameters, "falloff") ? "range" : "";
        return h;
    };
    return k;
}

/// The same with a mark on the rim of its beam.
Kind withCone(Kind k, std::string cone)
{
    k.handles = [plain = k.handles, cone = std::move(cone)](const scene::Element& e) {
        Handles h = plain(e);
        h.cone = cone;
        return h;
    };
    return k;
}
} // namespace

float turnOf(const Mat4& frame)
{
    Vec3 x;
    frame.multDirMatrix(Vec3(1, 0, 0), x);
    return std::atan2(-x.z, x.x);
}

void finishLamp(FreezeContext& c, const LampSettings& s, light::Lamp lamp)
{
    lamp.id = c.element.id;
    Vec3 position = s.position, aim = s.aim;
    if (const auto frame = carried(c, s.follows)) {
        frame->multVecMatrix(s.position, position);
        frame->multVecMatrix(s.aim, aim);
    }
    lamp.position = position;
    Vec3 d = aim - position;
    d = d.length2() > 1e-12f ? d.normalized() : Vec3(0, -1, 0);
    if (s.sweep != 0.0) {
        double turn = c.project.time.fitted(s.sweep) * c.seconds;
        turn -= std::floor(turn);
        const double angle = s.sweepArc >= 360.0
                                 ? 360.0 * turn
                                 : s.sweepArc * (0.5 - 0.5 * std::cos(2.0 * double(pi) * turn)) - 0.5 * s.sweepArc;
        Mat4 about;
        about.rotate(Vec3(0.f, -radians(angle), 0.f));
        Vec3 turned;
        about.multDirMatrix(d, turned);
        d = turned;
    }
    lamp.aimAlong(d, radians(s.turn));
    lamp.falloff = s.falloff == "none"     ? light::Lamp::Falloff::None
                   : s.falloff == "linear" ? light::Lamp::Falloff::Linear
                                           : light::Lamp::Falloff::Physical;
    lamp.range = static_cast<float>(s.range);
    lamp.toDiffuse = static_cast<float>(s.diffuse);
    lamp.toGlossy = static_cast<float>(s.glossy);
    lamp.toAir = static_cast<float>(s.air);
    lamp.glow = static_cast<float>(s.glow);
    lamp.shadows = s.shadows == "nothing" ? light::Lamp::Shadows::None
                   : s.shadows == "set"   ? light::Lamp::Shadows::SetOnly
                                          : light::Lamp::Shadows::Full;
    lamp.quick = s.quick;
    if (!s.profile.empty())
        try {
            const auto file = scene::resolved(c.project, s.profile);
            lamp.profile = c.read(file, Whole(), [&] { return light::Profile::load(file); });
        } catch (const Error& e) {
            c.note(std::string(e.what()) + " The lamp shines without it.");
        }
    if (lamp.shape == light::Lamp::Shape::Spot || lamp.shape == light::Lamp::Shape::Parallel)
        lamp.gobo = goboOf(c, s);

    // How bright: per shape from flux, or straight from intensity or illuminance.
    constexpr double lumensPerWatt = 683.0;
    const bool parallel = lamp.shape == light::Lamp::Shape::Parallel;
    double strength = 0.0;
    if (s.given == "candela")
        strength = s.candela / lumensPerWatt;
    else if (s.given == "lux")
        strength = s.lux / lumensPerWatt * (parallel ? 1.0 : s.luxAt * s.luxAt);
    else if (s.given == "as in the profile") {
        if (lamp.profile)
            strength = double(lamp.profile->candela()) / lumensPerWatt;
        else
            c.note("It takes its brightness from a photometric profile, and has none: it is dark.");
    } else
        strength = (s.given == "watts" ? s.watts : s.power / lumensPerWatt) * double(light::intensityPerFlux(lamp));
    strength *= double(light::strengthAt(changeOf(s.changes), c.seconds, s.rate, s.depth,
                                         static_cast<std::uint32_t>(s.seed), c.project.time.loop));
    const Vec3 colour = s.colourBy == "temperature" ? light::blackbodyColour(static_cast<float>(s.temperature))
                                                    : s.colour;
    if (const float brightness = luminance(colour); brightness > 0.f)
        lamp.intensity = Vec3(std::max(0.f, colour.x), std::max(0.f, colour.y), std::max(0.f, colour.z)) *
                         (static_cast<float>(strength) / brightness);
    if (s.falloff != "physical" && !parallel)
        c.note("Its falloff is not physical.");
    c.shot.lamps.push_back(std::move(lamp));
}

Kind spotKind()
{
    using S = SpotSettings;
    Kind k = withCone(
        lampKind<S>("spot", "Spot lamp", "A lamp that fills a cone; its beam leaves the lamp as wide as the lamp is."),
        "angle");
    k.begin = [](scene::Element& e, const Seen& seen) {
        const Vec3 ahead = aheadOf(seen.camera, 8.f);
        const float eye = seen.camera.position.y;
        e.set("position", Vec3(ahead.x, eye + 2.5f, ahead.z));
        e.set("aim", Vec3(ahead.x, eye - 2.f, ahead.z));
    };
    scene::TableOf<S> t;
    describeLamp(t, {.gobo = true, .sweeps = true});
    t.number("angle", "beam angle", &S::angle, Quantity::Angle)
        .hard(0.5, 170)
        .soft(2, 150)
        .lead()
        .in("Light")
        .says("Full opening of the cone.");
    t.number("edge", "soft edge", &S::edge, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Light")
        .says("Share of the cone over which it fades out.");
    k.parameters = t.take();
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::Lamp lamp;
        lamp.shape = light::Lamp::Shape::Spot;
        const float half = radians(s.angle) * 0.5f;
        lamp.cosOuter = std::cos(half);
        lamp.cosInner = std::cos(half * (1.f - static_cast<float>(s.edge)));
        lamp.radius = static_cast<float>(s.radius);
        finishLamp(c, s, std::move(lamp));
    };
    return k;
}

Kind bulbKind()
{
    using S = BulbSettings;
    Kind k = lampKind<S>("bulb", "Bulb", "A glowing ball that shines all around.");
    k.standsOver = 1.f;
    k.actions = {"place"};
    scene::TableOf<S> t;
    describeLamp(t, {});
    k.parameters = t.take();
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::Lamp lamp;
        lamp.shape = light::Lamp::Shape::Sphere;
        lamp.radius = static_cast<float>(s.radius);
        finishLamp(c, s, std::move(lamp));
    };
    return k;
}

Kind panelKind()
{
    using S = PanelSettings;
    Kind k = lampKind<S>("panel", "Panel", "A flat matte light, rectangular or round, that shines to one side.");
    scene::TableOf<S> t;
    t.choice("form", "form", &S::form, {"rectangle", "disc"}).in("Light").says("Its outline.");
    describeLamp(t, {.sized = false});
    t.number("width", "width", &S::width, Quantity::Length)
        .hard(0.001, 1000)
        .soft(0.05, 20)
        .log()
        .lead()
        .in("Light")
        .when("form=rectangle")
        .says("Across the panel.");
    t.number("height", "height", &S::height, Quantity::Length)
        .hard(0.001, 1000)
        .soft(0.05, 20)
        .log()
        .in("Light")
        .when("form=rectangle")
        .says("The other way.");
    t.number("radius", "radius", &S::radius, Quantity::Length)
        .hard(0.001, 500)
        .soft(0.02, 10)
        .log()
        .in("Light")
        .when("form=disc")
        .says("Of the disc.");
    k.parameters = t.take();
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::Lamp lamp;
        lamp.shape = s.form == "disc" ? light::Lamp::Shape::Disc : light::Lamp::Shape::Rectangle;
        lamp.radius = static_cast<float>(s.radius);
        lamp.width = static_cast<float>(s.width);
        lamp.height = static_cast<float>(s.height);
        finishLamp(c, s, std::move(lamp));
    };
    return k;
}

Kind tubeKind()
{
    using S = TubeSettings;
    Kind k = lampKind<S>("tube", "Tube", "A long thin light.");
    scene::TableOf<S> t;
    describeLamp(t, {.profiled = false});
    t.number("length", "length", &S::length, Quantity::Length)
        .hard(0.01, 1000)
        .soft(0.2, 20)
        .log()
        .lead()
        .in("Light")
        .says("From end to end.");
    k.parameters = t.take();
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::Lamp lamp;
        lamp.shape = light::Lamp::Shape::Tube;
        lamp.radius = static_cast<float>(s.radius);
        lamp.width = static_cast<float>(s.length);
        finishLamp(c, s, std::move(lamp));
    };
    return k;
}

Kind beamKind()
{
    using S = BeamSettings;
    Kind k = withCone(
        lampKind<S>("beam", "Parallel beam",
                    "Light whose rays run side by side, as wide as you like: a searchlight, a shaft, another sun."),
        "radius");
    scene::TableOf<S> t;
    describeLamp(t,
                 {.sized = false, .profiled = false, .gobo = true, .sweeps = true, .glows = false, .luminous = false});
    t.number("radius", "beam radius", &S::radius, Quantity::Length)
        .hard(0.01, 1e5)
        .soft(0.1, 1000)
        .log()
        .lead()
        .in("Light")
        .says("Half the beam's width.");
    t.number("edge", "soft edge", &S::edge, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Light")
        .says("Share of the radius over which it fades out.");
    k.parameters = t.take();
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        light::Lamp lamp;
        lamp.shape = light::Lamp::Shape::Parallel;
        lamp.radius = static_cast<float>(s.radius);
        lamp.softEdge = static_cast<float>(s.edge);
        finishLamp(c, s, std::move(lamp));
    };
    return k;
}
} // namespace hygros::elements
