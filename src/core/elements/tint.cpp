/// Tint: colours laid over a volume.
#include "elements/volume_parts.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct DistanceKey {
    PlacedKey set;
    Vec3 low, high;
    float reach;
    bool operator==(const DistanceKey&) const = default;
};

/// How far a set's surface is from places in `bounds`, up to `reach` metres.
std::shared_ptr<const media::DistanceField> distanceTo(const FreezeContext& c, const geometry::PlacedSet& set,
                                                       const Box3& bounds, float reach)
{
    return c.store.get(
        DistanceKey{PlacedKey(set), bounds.min, bounds.max, reach},
        [&] {
            std::vector<Vec3> corners;
            const Box3 near(bounds.min - Vec3(reach), bounds.max + Vec3(reach));
            for (const geometry::Mesh& m : set.set->meshes)
                for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3) {
                    Box3 own;
                    std::array<Vec3, 3> t;
                    for (std::size_t k = 0; k < 3; ++k)
                        own.extendBy(t[k] = m.positions[m.indices[i + k]] * set.toWorld);
                    if (near.intersects(own))
                        corners.insert(corners.end(), t.begin(), t.end());
                }
            return std::make_shared<const media::DistanceField>(media::distanceTo(corners, bounds, reach, c.job));
        },
        &c.job);
}
} // namespace

media::Tint tintOf(const FreezeContext& c, const TintSettings& s, const media::Volume& v)
{
    media::Tint t;
    using By = media::Tint::By;
    t.by = s.by == "point"     ? By::Point
           : s.by == "density" ? By::Density
           : s.by == "heat"    ? By::Heat
           : s.by == "noise"   ? By::Noise
           : s.by == "surface" ? By::Surface
                               : By::Axis;
    t.onto = s.onto == "absorption" ? media::Tint::Onto::Absorption : media::Tint::Onto::Scattering;
    if (t.by == By::Surface) {
        const scene::Element* object = c.project.find(s.object);
        if (const auto placed = object ? placedSet(c, *object) : std::nullopt) {
            const auto field = distanceTo(c, *placed, v.bounds,
                                          static_cast<float>(std::max(std::abs(s.first), std::abs(s.last))));
            t.distance = field->values;
            t.toDistance = field->toWorld.inverse();
            t.farthest = field->farthest;
        }
    }
    t.origin = s.by == "height" ? Vec3(0.f, v.bounds.min.y, 0.f) : s.origin;
    t.direction = s.by == "axis" && s.axis.length2() > 1e-12f ? s.axis.normalized() : Vec3(0, 1, 0);
    const bool byValue = t.by == By::Density || t.by == By::Heat;
    t.from = t.by == By::Noise ? 0.f : static_cast<float>(byValue ? s.firstValue : s.first);
    t.to = t.by == By::Noise ? 1.f : static_cast<float>(byValue ? s.lastValue : s.last);
    if (std::abs(t.to - t.from) < 1e-6f)
        t.to = t.from + 1e-6f;
    t.noise.scale = static_cast<float>(s.scale);
    t.noise.octaves = static_cast<int>(s.octaves);
    t.noise.seed = static_cast<std::uint32_t>(s.seed);
    constexpr int entries = 64;
    for (int i = 0; i < entries; ++i) {
        const scene::ColourStop stop = stopAt(s.colours, static_cast<float>(i) / (entries - 1));
        t.colours.push_back(lerp(Vec3(1.f), stop.colour, stop.opacity * static_cast<float>(s.share)));
    }
    return t;
}

Kind tintKind()
{
    using S = TintSettings;
    Kind k;
    k.id = "tint";
    k.swatch = "colours";
    k.label = "Tint";
    k.help =
        "Colours laid over a volume: along an axis, from a point, by its density, its heat or noise. Several stack.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.text("volume", "volume", &S::volume).linked("volume").in("Colour").says("The volume that it colours.");
    t.stops("colours", "colours", &S::colours)
        .in("Colour")
        .says("From the first place to the last; where a colour is not opaque the volume's own shows.");
    t.number("share", "share", &S::share, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .lead()
        .in("Colour")
        .says("How much of it is laid on.");
    t.choice("onto", "goes to", &S::onto, {"scattering", "absorption"})
        .in("Colour")
        .says("Scattering: the light it sends on takes the colour. Absorption: light that passes through takes it, by "
              "each mean free path as much as the colour says.");
    t.choice("by", "by", &S::by, {"height", "axis", "point", "surface", "density", "heat", "noise"})
        .in("Where")
        .says("What decides on the colour: height over the volume's foot, metres along an axis, metres from a point or "
              "from a set object's surface, the density's value, the heat's, or noise.");
    t.point("origin", "from place", &S::origin)
        .place()
        .in("Where")
        .when("by=axis|point")
        .says("Where metres are counted from, in the world.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Where")
        .when("by=surface")
        .says("The set object from whose surface metres are counted.");
    t.point("axis", "toward", &S::axis, Quantity::Plain)
        .in("Where")
        .when("by=axis")
        .says("Direction along which they are counted.");
    t.number("first", "first colour at", &S::first, Quantity::Length)
        .hard(-1e5, 1e5)
        .soft(0, 100)
        .in("Where")
        .when("by=height|axis|point|surface")
        .says("Where the first colour lies.");
    t.number("last", "last colour at", &S::last, Quantity::Length)
        .hard(-1e5, 1e5)
        .soft(0, 100)
        .in("Where")
        .when("by=height|axis|point|surface")
        .says("Where the last colour lies.");
    t.number("firstValue", "first value", &S::firstValue, Quantity::Plain)
        .hard(-1e6, 1e6)
        .soft(0, 1)
        .in("Where")
        .when("by=density|heat")
        .says("The grid's value of the first colour.");
    t.number("lastValue", "last value", &S::lastValue, Quantity::Plain)
        .hard(-1e6, 1e6)
        .soft(0, 2)
        .in("Where")
        .when("by=density|heat")
        .says("The grid's value of the last colour.");
    t.number("scale", "scale", &S::scale, Quantity::Length)
        .hard(0.001, 1e5)
        .soft(0.1, 100)
        .log()
        .in("Where")
        .when("by=noise")
        .says("Size of the largest patches.");
    t.whole("octaves", "octaves", &S::octaves)
        .hard(1, 8)
        .soft(1, 8)
        .in("Where")
        .when("by=noise")
        .says("Layers of detail, each finer.");
    t.whole("seed", "seed", &S::seed)
        .hard(0, 1e6)
        .soft(0, 100)
        .in("Where")
        .when("by=noise")
        .says("Another number, another pattern.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const scene::Element* volume = s.volume.empty() ? nullptr : c.project.find(s.volume);
        if (!settingsOf<VolumeSettings>(volume))
            c.note(s.volume.empty() ? "Choose the volume that it colours."
                                    : "The volume that it colours is not there.");
        else if (s.by == "heat" && std::get<std::string>(volume->value("glow")) == "none")
            c.note("Its volume has no heat: let it glow, or choose another kind of place.");
        else if (s.by == "surface" && !c.project.find(s.object))
            c.note("Choose the set object from whose surface it counts.");
    };
    return k;
}
} // namespace hygros::elements
