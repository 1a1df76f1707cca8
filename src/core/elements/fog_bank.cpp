/// Fog bank: a layer without end in any direction, a box, a sphere, a cylinder, what a set object encloses, or what
/// lies on the ground; with noise that drifts and boils.
#include "elements/air.h"

#include <cmath>

namespace hygros::elements {
namespace {
struct FogBankSettings : scene::SettingsOf<FogBankSettings>, AirSettings, DriftSettings {
    FogBankSettings()
    {
        visibility = 60.0;
        anisotropy = 0.7;
    }
    std::string form = "layer";
    double base = 0.0, top = 3.0, falloff = 2.0, swell = 0.0, swellLength = 80.0;
    Vec3 centre{0.f, 2.f, -20.f}, size{10.f, 4.f, 10.f};
    double turn = 0.0, edge = 0.5;
    std::string follows;
    Vec3 axis{0.f, 1.f, 0.f};
    double height = 1.2, smoothing = 12.0, ignore = 6.0;
    std::string object;
    double farDensity = 1.0, blendAt = 0.5, blendRange = 1.0, blendCurve = 1.0;
    double densest = 0.01;
    double scale = 12.0, contrast = 0.5, gain = 0.5, lacunarity = 2.0;
    std::int64_t octaves = 4, seed = 1;
    double warp = 0.0;
    Vec3 stretch{1.f, 1.f, 1.f};
};
} // namespace

namespace {
struct GroundKey {
    Identity scene;
    media::GroundSettings settings;
    bool operator==(const GroundKey&) const = default;
};
struct InsideKey {
    PlacedKey mesh;
    bool operator==(const InsideKey&) const = default;
};

/// `settings.around` is brought to a coarse grid, so that small camera moves keep the ground.
std::shared_ptr<const media::GroundHeights> groundUnder(const FreezeContext& c, media::GroundSettings settings)
{
    for (int axis = 0; axis < 3; ++axis)
        settings.around[axis] = axis == 1 ? 0.f : 32.f * std::floor(settings.around[axis] / 32.f + 0.5f);
    return c.store.get(
        GroundKey{c.shot.scene, settings},
        [&] { return std::make_shared<const media::GroundHeights>(*c.shot.scene, settings, c.job); }, &c.job);
}
} // namespace

Kind fogBankKind()
{
    using S = FogBankSettings;
    Kind k;
    k.id = "fogBank";
    k.column = Kind::Column::Air;
    k.extinction = plainExtinction<S>;
    k.begin = [](scene::Element& e, const Seen& seen) { e.set("centre", aheadOf(seen.camera, 8.f)); };
    k.handles = [](const scene::Element& e) {
        const std::string& form = e.as<S>().form;
        return form == "box" || form == "sphere" || form == "cylinder" ? Handles{"centre", "turn", "size", {}, {}, {}}
                                                                       : Handles();
    };
    k.section = [](const scene::Element& e, bool) -> std::vector<SectionHandle> {
        const std::string& form = e.as<S>().form;
        if (form == "layer")
            return {{"top"}, {"base"}};
        if (form == "ground")
            return {{"height", true, 0.0, true}};
        return {};
    };
    k.label = "Fog bank";
    k.help = "Bounded fog with noise: a layer, a box, a sphere, a cylinder, the inside of a set object, or what lies "
             "on the ground.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    describeDensity(t, 2, 5e3);
    t.number("top", "top", &S::top, Quantity::Length)
        .hard(-1e4, 1e5)
        .soft(-5, 60)
        .lead()
        .in("Shape")
        .when("form=layer")
        .says("Height at which the bank ends.");
    describeScattering(t);
    t.choice("form", "form", &S::form, {"layer", "ground", "box", "sphere", "cylinder", "object"})
        .in("Shape")
        .says("A layer without sides, fog that lies on the ground, a box, a sphere, an upright cylinder, or the inside "
              "of a set object.");
    t.number("height", "above ground", &S::height, Quantity::Length)
        .hard(-1e3, 1e4)
        .soft(-3, 20)
        .lead()
        .in("Shape")
        .when("form=ground")
        .says("How high it reaches above the smoothed ground; at 0 and below it fills hollows alone.");
    t.number("smoothing", "ground smoothed", &S::smoothing, Quantity::Length)
        .hard(0, 2000)
        .soft(0, 60)
        .in("Shape")
        .when("form=ground")
        .says("Over which length the ground is evened: longer lets the fog's top lie level, deep in hollows and thin "
              "on rises.");
    t.number("ignore", "passes over", &S::ignore, Quantity::Length)
        .hard(0, 200)
        .soft(0, 20)
        .in("Shape")
        .when("form=ground")
        .says("What is narrower than this and stands up (posts, trees, a bridge) is no ground.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Shape")
        .when("form=object")
        .says("The set object whose inside it fills; hide the object itself on its own card.");
    t.point("axis", "upward", &S::axis, Quantity::Plain)
        .in("Shape")
        .when("form=layer")
        .says("The direction in which base and top are measured: 0 1 0 is up, 1 0 0 makes the layer a wall.");
    t.number("base", "base", &S::base, Quantity::Length)
        .hard(-1e4, 1e5)
        .soft(-5, 60)
        .in("Shape")
        .when("form=layer")
        .says("Height at which the bank begins.");
    t.number("falloff", "thins over", &S::falloff, Quantity::Length)
        .hard(0, 1e5)
        .soft(0, 30)
        .in("Shape")
        .when("form=layer|ground")
        .says("How much of its upper part thins to nothing; never more than its height.");
    t.number("swell", "surface in waves", &S::swell, Quantity::Length)
        .hard(0, 1e4)
        .soft(0, 20)
        .in("Shape")
        .when("form=layer")
        .says("How far its surface rises and sinks about its top; 0: it is level. The waves drift with its pattern.");
    t.number("swellLength", "wave length", &S::swellLength, Quantity::Length)
        .hard(0.1, 1e5)
        .soft(5, 1000)
        .log()
        .in("Shape")
        .when("form=layer")
        .says("How far apart the waves of its surface are.");
    t.point("centre", "centre", &S::centre).place().in("Shape").when("form=box|sphere|cylinder").says("Its middle.");
    t.point("size", "size", &S::size)
        .hard(0.01, 1e5)
        .in("Shape")
        .when("form=box|sphere|cylinder")
        .says("Its width, height and depth.");
    t.number("turn", "turn", &S::turn, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Shape")
        .when("form=box|sphere|cylinder")
        .says("Turn about the vertical.");
    t.text("follows", "goes with", &S::follows)
        .carrier()
        .linked("set")
        .in("Shape")
        .when("form=box|sphere|cylinder")
        .says("A set it is fixed to: its middle and turn are then in that set's own metres and move with it.");
    t.number("edge", "soft edge", &S::edge, Quantity::Length)
        .hard(0, 1e4)
        .soft(0, 5)
        .in("Shape")
        .when("form=box|sphere|cylinder|object")
        .says("How far inside its faces it thins to nothing.");
    t.number("farDensity", "far end", &S::farDensity, Quantity::Share)
        .hard(0, 100)
        .soft(0, 2)
        .in("Ends")
        .says("Density at the top (of a sphere: the rim) as a share of that at the foot (the middle); 100 % is even.");
    t.number("blendAt", "blend at", &S::blendAt, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Ends")
        .says("Where between the ends the change has half happened.");
    t.number("blendRange", "blend over", &S::blendRange, Quantity::Share)
        .hard(0.001, 10)
        .soft(0.01, 1)
        .in("Ends")
        .says("Over which share of the way from end to end it happens.");
    t.number("blendCurve", "blend curve", &S::blendCurve, Quantity::Plain)
        .hard(0.1, 10)
        .soft(0.25, 4)
        .log()
        .in("Ends")
        .says("1 is straight; more holds the foot's density longer, less leaves it sooner.");
    t.number("scale", "scale", &S::scale, Quantity::Length)
        .hard(0.01, 1e5)
        .soft(0.5, 500)
        .log()
        .in("Noise")
        .says("Size of the largest wisps.");
    t.number("contrast", "contrast", &S::contrast, Quantity::Plain)
        .hard(0, 4)
        .soft(0, 2)
        .in("Noise")
        .says("0: even. Up to 1 the mean density stays; above, gaps open.");
    t.number("densest", "never below", &S::densest, Quantity::Visibility)
        .hard(0.001, 1e8)
        .soft(0.01, 1e3)
        .log()
        .in("Noise")
        .says("Noise makes it no denser than this visibility.");
    t.whole("octaves", "octaves", &S::octaves).hard(1, 8).soft(1, 8).in("Noise").says("Layers of detail, each finer.");
    t.number("gain", "gain", &S::gain, Quantity::Plain)
        .hard(0, 1)
        .soft(0, 1)
        .in("Noise")
        .says("Strength of each octave relative to the one before.");
    t.number("lacunarity", "lacunarity", &S::lacunarity, Quantity::Plain)
        .hard(1, 4)
        .soft(1.5, 3)
        .in("Noise")
        .says("Fineness of each octave relative to the one before.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Noise").says("Another number, another pattern.");
    t.number("driftSpeed", "drift", &S::driftSpeed, Quantity::Speed)
        .adding()
        .hard(0, 200)
        .soft(0, 5)
        .in("Noise")
        .says("Speed of the pattern.");
    t.number("driftHeading", "toward", &S::driftHeading, Quantity::Angle)
        .adding()
        .hard(-3600, 3600)
        .soft(0, 360)
        .in("Noise")
        .says("Heading of the drift, clockwise from −Z seen from above.");
    t.number("warp", "warp", &S::warp, Quantity::Plain)
        .hard(0, 2)
        .soft(0, 1)
        .in("Noise")
        .says("How far slower wisps pull the pattern about: 0 is plain, 1 is torn.");
    t.number("boil", "boil", &S::boil, Quantity::Plain)
        .hard(0, 20)
        .soft(0, 1)
        .in("Noise")
        .says("How often a second the pattern changes in place.");
    describeCarriedBy(t);
    t.point("stretch", "stretch", &S::stretch, Quantity::Plain)
        .hard(0.05, 50)
        .in("Noise")
        .says("Lengthens the wisps along X, Y and Z: 4 0.5 4 lays them flat.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        media::Medium m = mediumOf(c.element, s);
        if (s.form == "ground") {
            m.shape = media::Shape::Ground;
            m.top = static_cast<float>(s.height);
            m.falloff = static_cast<float>(s.falloff);
            m.ground = groundUnder(
                c, {c.shot.camera.position, static_cast<float>(s.smoothing), static_cast<float>(s.ignore)});
        } else if (s.form == "object") {
            const scene::Element* object = c.project.find(s.object);
            const auto placed = object ? placedSet(c, *object) : std::nullopt;
            if (!placed) {
                c.note(s.object.empty() ? "Choose the set object that it fills; until then it is left out."
                                        : "There is no set object '" + s.object + "' to fill; it is left out.");
                return;
            }
            m.shape = media::Shape::Inside;
            m.falloff = static_cast<float>(s.edge);
            m.inside = c.store.get(
                InsideKey{PlacedKey(*placed)},
                [&] { return std::make_shared<const media::InsideField>(*placed, 96, c.job); }, &c.job);
            if (m.inside->openEdges() > 0)
                c.note("'" + object->name + "' is not closed (" + std::to_string(m.inside->openEdges()) +
                       " open edges): its inside is taken where at least two of three directions agree.");
            if (m.inside->fill() <= 0.f) {
                c.note("'" + object->name + "' encloses nothing; the bank is left out.");
                return;
            }
        } else if (s.form != "layer") {
            m.shape = s.form == "sphere"     ? media::Shape::Sphere
                      : s.form == "cylinder" ? media::Shape::Cylinder
                                             : media::Shape::Box;
            m.centre = s.centre;
            m.half = s.size * 0.5f;
            m.falloff = static_cast<float>(s.edge);
            float turn = radians(s.turn);
            if (const auto frame = carried(c, s.follows)) {
                frame->multVecMatrix(s.centre, m.centre);
                turn += turnOf(*frame);
            }
            m.cosYaw = std::cos(turn);
            m.sinYaw = std::sin(turn);
        } else {
            m.shape = media::Shape::Layer;
            m.axis = s.axis.length2() > 1e-12f ? s.axis.normalized() : Vec3(0, 1, 0);
            m.base = static_cast<float>(s.base);
            m.top = static_cast<float>(s.top);
            m.falloff = static_cast<float>(std::fmin(s.falloff, s.top - s.base));
            if (s.top <= s.base)
                return; // nothing between base and top
            if (s.swell > 0.0 && m.axis.y > 0.9999f) {
                // The layer reaches as high as its highest wave; what is thinner lies under the surface.
                m.swell = static_cast<float>(std::fmin(s.swell, s.top - s.base));
                m.swellLength = static_cast<float>(s.swellLength);
                m.swellFade = m.falloff;
                m.top += m.swell;
                m.falloff = 0.f;
            }
        }
        m.noise = {static_cast<float>(s.scale), static_cast<float>(s.contrast),   static_cast<int>(s.octaves),
                   static_cast<float>(s.gain),  static_cast<float>(s.lacunarity), static_cast<std::uint32_t>(s.seed)};
        const float height = m.shape == media::Shape::Layer    ? 0.5f * (m.base + m.top)
                             : m.shape == media::Shape::Ground ? 0.5f * m.top
                             : m.shape == media::Shape::Inside ? c.shot.camera.position.y
                                                               : m.centre.y;
        const Drifted drift = drifted(c, s, double(height));
        m.noise.offset = drift.offset;
        m.cap = static_cast<float>(std::fmax(1.0, extinctionOfVisibility(s.densest) / m.sigmaT));
        m.ends = {static_cast<float>(s.farDensity), static_cast<float>(s.blendAt), static_cast<float>(s.blendRange),
                  static_cast<float>(s.blendCurve)};
        m.noise.warp = static_cast<float>(s.warp);
        m.noise.stretch = s.stretch;
        m.noise.evolution = drift.evolution;
        m.noise.loop = drift.loop;
        c.shot.media.push_back(m);
    };
    return k;
}
} // namespace hygros::elements
