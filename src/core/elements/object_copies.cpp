/// Copies of a set, or of one of its objects, scattered over a box or a surface: rocks, trees, posts, hills. They are
/// instances: one ray structure for all.
#include "elements/kinds.h"
#include "elements/places.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct ObjectCopiesSettings : scene::SettingsOf<ObjectCopiesSettings> {
    std::string set, part, onto = "box", ground, groundPart;
    std::int64_t count = 24, seed = 1;
    Vec3 centre{0.f, 0.f, 0.f}, size{40.f, 0.f, 40.f};
    double turn = 360.0, smallest = 0.7, largest = 1.3, lift = 0.0, steepest = 60.0;
    bool upright = true;
    bool visible = true, casts = true;
};

/// The middle of its foot.
Vec3 footOf(const geometry::PlacedSet& placed)
{
    Box3 box;
    for (const geometry::Mesh& m : placed.set->meshes)
        if (std::find(placed.without.begin(), placed.without.end(), m.group) == placed.without.end())
            for (const Vec3& p : m.positions)
                box.extendBy(p * placed.toWorld);
    return box.isEmpty() ? Vec3(0.f) : Vec3(0.5f * (box.min.x + box.max.x), box.min.y, 0.5f * (box.min.z + box.max.z));
}
} // namespace

Kind objectCopiesKind()
{
    using S = ObjectCopiesSettings;
    Kind k;
    k.id = "objectCopies";
    k.stage = Kind::Stage::Set;
    k.hasObjects = true;
    k.column = Kind::Column::Objects;
    k.label = "Copies of objects";
    k.help = "Many of one set, or of one object of it, scattered over a box or a surface, each turned and sized by "
             "chance. They share its memory.";
    k.family = scene::Family::Set;
    k.handles = [](const scene::Element& e) {
        return e.as<S>().onto == "box" ? Handles{"centre", {}, "size", {}, {}, {}} : Handles{};
    };
    scene::TableOf<S> t;
    t.text("set", "set", &S::set)
        .linked("set")
        .in("Copies")
        .says("The set that is copied; its own place does not matter, and it may be muted.");
    t.text("part", "object of it", &S::part)
        .in("Copies")
        .says("The name of one of its objects, such as a tree of a wood; empty: the whole set.");
    t.whole("count", "count", &S::count).hard(1, 5000).soft(1, 400).lead().in("Copies").says("How many.");
    whereOf(t);
    t.text("ground", "surface of", &S::ground)
        .linked("set")
        .in("Where")
        .when("onto=surface")
        .says("The set on whose surface they stand.");
    t.text("groundPart", "object of it", &S::groundPart)
        .in("Where")
        .when("onto=surface")
        .says("The name of the object they stand on; empty: all of the set.");
    t.number("steepest", "steepest", &S::steepest, Quantity::Angle)
        .hard(0, 90)
        .soft(0, 90)
        .in("Where")
        .when("onto=surface")
        .says("They stand on slopes up to this.");
    standingOf(t);
    chanceOf(t, "the set's own");
    t.toggle("visible", "seen", &S::visible)
        .in("Picture")
        .says("Seen by the camera and in mirrors; off leaves their shadows alone.");
    t.toggle("casts", "cast shadow", &S::casts).in("Picture").says("They shade the set and the air.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto model = chosenObject(c, s.set, s.part, words("Choose the set that is copied."));
        if (!model)
            return;
        Random random(hash32(static_cast<std::uint32_t>(s.seed), 60913u));
        const int count = static_cast<int>(s.count);
        std::vector<Spot> spots;
        if (s.onto == "surface") {
            const auto ground = chosenObject(c, s.ground, s.groundPart,
                                             words("Choose the set on whose surface they stand."));
            if (!ground)
                return;
            spots = onSurface(*ground, count, random, static_cast<float>(radians(s.steepest)));
            if (spots.empty())
                c.note("There is no surface that is flat enough to stand on.");
        } else {
            spots = insideBox(s.centre, s.size, count, random);
        }
        const Vec3 foot = footOf(*model);
        const auto low = static_cast<float>(std::min(s.smallest, s.largest)),
                   high = static_cast<float>(std::max(s.smallest, s.largest));
        for (const Spot& spot : spots) {
            const float turn = (random.next() - 0.5f) * static_cast<float>(radians(s.turn)),
                        size = low * std::pow(high / low, random.next());
            geometry::PlacedSet copy = *model;
            copy.toWorld = model->toWorld * toSpot(foot, size, turn, spot, s.onto == "surface" && !s.upright,
                                                   static_cast<float>(s.lift));
            copy.frame = Mat4();
            copy.element = c.element.id;
            copy.visible = s.visible;
            copy.casts = s.casts;
            c.placed.push_back(copy);
        }
    };
    return k;
}
} // namespace hygros::elements
