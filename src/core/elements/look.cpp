/// How the linear picture is shown.
#include "base/error.h"
#include "elements/kinds.h"
#include "image/colour_config.h"
#include "image/colour_table.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct LookSettings : scene::SettingsOf<LookSettings> {
    double exposure = -5.0, white = 6500.0, pales = 0.0, glow = 0.0, glowFrom = 1.0, glowReach = 0.2;
    std::string table, tableTakes = "picture as shown";
    double tableFrom = -10.0, tableTo = 6.5, tableShare = 1.0;
    std::string config, display, view, light;
    scene::CurvePoints curve{{-9.f, 0.f},  {-5.f, 0.0045f}, {-2.f, 0.045f}, {0.f, 0.19f},
                             {2.f, 0.56f}, {4.f, 0.88f},    {6.5f, 1.f}};
};
struct ViewKey {
    Identity config;
    image::ColourViewNames names;
    std::vector<FileVersion> beside;
    bool operator==(const ViewKey&) const = default;
};

/// What its configuration offers for a parameter.
Kind::Names configNames(const scene::Project& project, const scene::Element& e, const scene::Parameter& parameter,
                        Store& store)
{
    const auto& s = e.as<LookSettings>();
    const auto known = s.config.empty() ? nullptr : colourConfigAtHand(store, scene::resolved(project, s.config));
    if (!known)
        return {};
    Kind::Names names;
    names.all = parameter.id == "display" ? known->displays()
                : parameter.id == "view"  ? known->views(s.display)
                                          : known->lights();
    if (parameter.id != "light" && !names.all.empty())
        names.byItself = names.all.front();
    return names;
}

/// The tone curve that comes nearest to what a view makes of greys: for what asks how well noise is seen.
std::vector<Vec2> curveOf(const image::ColourView& view)
{
    constexpr int from = -12, to = 10, each = 2;
    std::vector<float> rgba;
    for (int i = each * from; i <= each * to; ++i) {
        const float grey = 0.18f * std::exp2(static_cast<float>(i) / each);
        rgba.insert(rgba.end(), {grey, grey, grey, 1.f});
    }
    view.apply(rgba.data(), rgba.size() / 4);
    std::vector<Vec2> curve;
    float most = 0.f;
    for (int i = each * from; i <= each * to; ++i) {
        const float* shown = &rgba[static_cast<std::size_t>(4 * (i - each * from))];
        const float encoded = luminance(Vec3(shown[0], shown[1], shown[2]));
        most = encoded > most ? std::min(1.f, encoded) : most; // it rises; what is no number does not count
        curve.emplace_back(static_cast<float>(i) / each, std::pow(most, 2.2f));
    }
    return curve;
}

/// The view of its configuration; what is wrong with it is noted.
std::shared_ptr<const image::ColourView> viewOf(const FreezeContext& c, const LookSettings& s)
{
    try {
        FileVersion was;
        const auto config = keptColourConfig(c.store, scene::resolved(c.project, s.config), c.job, &was);
        c.cameFrom(was);
        for (const FileVersion& beside : config->beside())
            c.cameFrom(beside);
        const image::ColourViewNames names{s.display, s.view, s.light};
        auto view = c.store.get(
            ViewKey{config, names, config->beside()}, [&] { return config->view(names); }, &c.job);
        using Light = image::ColourView::Light;
        const image::ColourViewNames& are = view->names();
        if (view->light() == Light::Converted)
            c.tell(words("Shown on %1, view %2; light is converted to ACES2065-1.", {are.display, are.view}));
        else if (view->light() == Light::Named)
            c.tell(words("Shown on %1, view %2; light counts as %3.", {are.display, are.view, are.light}));
        else
            c.tell(words("Shown on %1, view %2. The configuration does not say how its light relates to other light: "
                         "ours counts as %3.",
                         {are.display, are.view, are.light}));
        return view;
    } catch (const Error& e) {
        c.note(std::string(e.what()) + " The picture is shown without it.");
        return nullptr;
    }
}
} // namespace

Kind lookKind()
{
    using S = LookSettings;
    Kind k;
    k.id = "look";
    k.onlyLook = k.permanent = true;
    k.label = "Look";
    k.help = "How the linear picture is shown; what is delivered as EXR stays linear.";
    k.family = scene::Family::Finish;
    k.single = true;
    k.staysWhenSilent = true;
    k.names = configNames;
    // Another configuration, or display, has names of its own.
    k.along = [](const scene::Element&, const std::string& parameter, const scene::Value& value) {
        std::vector<std::pair<std::string, scene::Value>> all{{parameter, value}};
        if (parameter == "config")
            all.insert(all.end(), {{"display", std::string()}, {"light", std::string()}});
        if (parameter == "config" || parameter == "display")
            all.emplace_back("view", std::string());
        return all;
    };
    scene::TableOf<S> t;
    t.number("exposure", "exposure", &S::exposure, Quantity::Exposure)
        .hard(-40, 40)
        .soft(-12, 6)
        .lead()
        .in("Tone")
        .says("Stops by which the picture is brightened.");
    t.number("white", "neutral at", &S::white, Quantity::Temperature)
        .hard(1500, 25000)
        .soft(2500, 12000)
        .log()
        .lead()
        .in("Tone")
        .says("Colour temperature of the light that is to look white: lower cools the picture, higher warms it.");
    t.curve("curve", "tone curve", &S::curve)
        .edited("tones")
        .in("Tone")
        .when("config=")
        .says("From stops around middle grey to displayed light; always rising.");
    t.number("pales", "bright colours pale", &S::pales, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Tone")
        .when("config=")
        .says("How much colour light loses that is far brighter than white, as on film: flames turn white-yellow "
              "inside and keep their red edge. Colours below white stay as they are.");
    t.number("glow", "glow", &S::glow, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.5)
        .in("Glow")
        .says("Share of the brightest light that the lens scatters around it. No light is added. Pictures as shown and "
              "PNG have it; EXR by choice.");
    t.number("glowFrom", "above white by", &S::glowFrom, Quantity::Exposure)
        .hard(-10, 20)
        .soft(-2, 8)
        .in("Glow")
        .says("Stops above white at which light begins to glow.");
    t.number("glowReach", "reaches", &S::glowReach, Quantity::Share)
        .hard(0.002, 1)
        .soft(0.01, 0.5)
        .log()
        .in("Glow")
        .says("How far it reaches, as a share of the picture's height.");
    t.file("config", "configuration", &S::config)
        .opens("Colour configurations (*.ocio)")
        .in("Colour configuration")
        .says(
            "An OpenColorIO configuration that shows the picture, on screen and in PNG: exposure and neutral point "
            "come before it, a colour table after it. It takes the place of tone curve and paling. EXR stays linear.");
    t.text("display", "display", &S::display)
        .linked("name")
        .in("Colour configuration")
        .when("config=*")
        .says("Which of its displays the picture is made for; empty: the one that it names first.");
    t.text("view", "view", &S::view)
        .linked("name")
        .in("Colour configuration")
        .when("config=*")
        .says("Which of that display's views; empty: its own choice.");
    t.text("light", "light counts as", &S::light)
        .linked("name")
        .in("Colour configuration")
        .when("config=*")
        .says("Which of its colour spaces our light is: linear, with the primaries of Rec. 709. Empty: it is converted "
              "to ACES2065-1 where the configuration names that, else taken as its scene_linear.");
    t.file("table", "colour table", &S::table)
        .opens("Colour tables (*.cube)")
        .in("Colour table")
        .says(
            "A .cube file that the picture passes last, as shown and in PNG: a look that was made elsewhere. EXR stays "
            "linear and knows nothing of it.");
    t.choice("tableTakes", "it takes", &S::tableTakes, {"picture as shown", "light in stops", "ACEScct"})
        .in("Colour table")
        .when("table=*")
        .says(
            "What its numbers are made for. The picture as shown: after the tone curve. Light in stops: 0 to 1 are the "
            "stops below, around middle grey. ACEScct: that encoding of light. With light it takes the tone curve's "
            "place, and that of a configuration.");
    t.number("tableFrom", "0 is at", &S::tableFrom, Quantity::Exposure)
        .hard(-30, 20)
        .soft(-14, 0)
        .in("Colour table")
        .when("tableTakes=light in stops")
        .says("Stops around middle grey that the table's 0 stands for.");
    t.number("tableTo", "1 is at", &S::tableTo, Quantity::Exposure)
        .hard(-20, 30)
        .soft(0, 14)
        .in("Colour table")
        .when("tableTakes=light in stops")
        .says("Stops around middle grey that the table's 1 stands for.");
    t.number("tableShare", "how much", &S::tableShare, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Colour table")
        .when("table=*")
        .says("How much of it the picture takes; the rest stays as it would be without.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto f = [](double v) { return static_cast<float>(v); };
        shot::Look& look = c.shot.look;
        look = {.exposure = f(s.exposure),
                .white = f(s.white),
                .curve = s.curve,
                .pales = f(s.pales),
                .glow = f(s.glow),
                .glowFrom = f(s.glowFrom),
                .glowReach = f(s.glowReach)};
        if (!s.config.empty())
            look.view = viewOf(c, s);
        if (look.view)
            look.curve = curveOf(*look.view);
        if (s.table.empty() || s.tableShare <= 0.0)
            return;
        using Takes = shot::Look::TableTakes;
        look.tableTakes = s.tableTakes == "ACEScct"          ? Takes::AcesCct
                          : s.tableTakes == "light in stops" ? Takes::Stops
                                                             : Takes::Displayed;
        look.tableFrom = f(s.tableFrom);
        look.tableTo = f(s.tableTo);
        look.tableShare = f(s.tableShare);
        if (look.tableTakes == Takes::Stops && s.tableTo - s.tableFrom < 0.01) {
            c.note("Its colour table's 1 lies not above its 0. The picture is shown without it.");
            return;
        }
        try {
            const auto file = scene::resolved(c.project, s.table);
            look.table = c.read(file, Whole(), [&] { return image::ColourTable::load(file); });
        } catch (const Error& e) {
            c.note(std::string(e.what()) + " The picture is shown without it.");
        }
    };
    return k;
}
} // namespace hygros::elements
