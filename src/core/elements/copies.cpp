/// Combination: one volume and another become one. Copies: a volume scattered over a box or a surface.
#include "elements/places.h"
#include "elements/volume_parts.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
Kind combinationKind()
{
    using S = CombinationSettings;
    Kind k;
    k.id = "combination";
    k.label = "Combination";
    k.help = "Makes one volume of two: together, one times the other, one cut by the other; or blurs and resamples "
             "one. They are done in the order of their cards.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.text("volume", "volume", &S::volume)
        .linked("volume")
        .in("Combination")
        .says("The volume that is worked on, and whose look stays.");
    t.choice("how", "how", &S::how, {"union", "add", "multiply", "cut", "inside", "blur", "resample"})
        .in("Combination")
        .says("Union: the denser of both. Add: their sum. Multiply: their product. Cut: without what lies inside the "
              "other. Inside: only what lies inside the other. Blur, resample: the one volume alone.");
    t.text("other", "with", &S::other)
        .linked("volume")
        .in("Combination")
        .when("how=union|add|multiply|cut|inside")
        .says("The other volume; a shape, a set object's inside or a file.");
    t.toggle("hides", "other is only a part", &S::hides)
        .in("Combination")
        .when("how=union|add|multiply|cut|inside")
        .says("The other volume is not seen by itself.");
    t.number("radius", "blur", &S::radius, Quantity::Length)
        .hard(0, 1e4)
        .soft(0.01, 50)
        .log()
        .lead()
        .in("Combination")
        .when("how=blur")
        .says("Size of the blur: the standard deviation of its Gaussian.");
    t.number("voxel", "voxels", &S::voxel, Quantity::Length)
        .hard(1e-3, 1e4)
        .soft(0.01, 10)
        .log()
        .lead()
        .in("Combination")
        .when("how=resample")
        .says("Size of the new voxels.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto isVolume = [&](const std::string& id) {
            const scene::Element* e = id.empty() ? nullptr : c.project.find(id);
            return settingsOf<VolumeSettings>(e) != nullptr;
        };
        if (!isVolume(s.volume))
            c.note(s.volume.empty() ? "Choose the volume that is worked on."
                                    : "The volume that is worked on is not there.");
        else if (s.how != "blur" && s.how != "resample" && (!isVolume(s.other) || s.other == s.volume))
            c.note("Choose another volume to combine it with.");
    };
    return k;
}

Kind copiesKind()
{
    using S = CopiesSettings;
    Kind k;
    k.id = "copies";
    k.label = "Copies";
    k.help = "Many of one volume, scattered over a box or a surface, each turned, sized and timed by chance. They "
             "share its memory.";
    k.family = scene::Family::Air;
    scene::TableOf<S> t;
    t.text("volume", "volume", &S::volume)
        .linked("volume")
        .in("Copies")
        .says("The volume that is copied, with its look; its own place does not matter.");
    t.whole("count", "count", &S::count).hard(1, 400).soft(1, 60).in("Copies").says("How many.");
    whereOf(t);
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Where")
        .when("onto=surface")
        .says("The set object on whose surface they stand.");
    standingOf(t);
    chanceOf(t, "the volume's own scale");
    t.whole("lag", "lag", &S::lag)
        .hard(0, 10000)
        .soft(0, 200)
        .in("Chance")
        .says("Of a sequence: they run up to so many frames behind one another.");
    t.toggle("original", "and the volume itself", &S::original).in("Copies").says("It is also seen where it stands.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const scene::Element* volume = s.volume.empty() ? nullptr : c.project.find(s.volume);
        if (!settingsOf<VolumeSettings>(volume)) {
            c.note(s.volume.empty() ? "Choose the volume that is copied." : "The volume that is copied is not there.");
            return;
        }
        if (volume->muted)
            return;
        Random random(hash32(static_cast<std::uint32_t>(s.seed), 40503u));
        std::vector<Spot> spots;
        const int count = static_cast<int>(s.count);
        if (s.onto == "surface") {
            const scene::Element* object = c.project.find(s.object);
            const auto placed = object ? placedSet(c, *object) : std::nullopt;
            if (!placed) {
                c.note("Choose the set object on whose surface they stand.");
                return;
            }
            spots = onSurface(*placed, count, random);
        } else {
            spots = insideBox(s.centre, s.size, count, random);
        }
        // At most this many times of a sequence are in memory at once.
        constexpr int mostTimes = 8;
        const int times = s.lag > 0 ? std::min<int>(mostTimes, static_cast<int>(s.lag) + 1) : 1;
        std::vector<std::optional<media::Volume>> models;
        std::vector<Vec3> feet;
        for (int k2 = 0; k2 < times; ++k2) {
            models.push_back(builtVolume(c, *volume, times > 1 ? -static_cast<int>(s.lag) * k2 / (times - 1) : 0.0));
            const auto& m = models.back();
            // They stand on the middle of the volume's foot.
            feet.push_back(m ? Vec3(0.5f * (m->bounds.min.x + m->bounds.max.x), m->bounds.min.y,
                                    0.5f * (m->bounds.min.z + m->bounds.max.z))
                             : Vec3(0.f));
        }
        const auto& own = volume->as<VolumeSettings>();
        const auto low = static_cast<float>(std::min(s.smallest, s.largest)),
                   high = static_cast<float>(std::max(s.smallest, s.largest));
        constexpr int mostGlowing = 24;
        const bool glows = own.lights > 0.0 && spots.size() <= mostGlowing;
        if (own.glow != "none" && !glows && own.lights > 0.0)
            c.note("More than " + std::to_string(mostGlowing) +
                   " copies shine, but do not light set and air in the live picture.");
        for (const Spot& spot : spots) {
            const float turn = (random.next() - 0.5f) * static_cast<float>(radians(s.turn)),
                        size = low * std::pow(high / low, random.next());
            const auto which = static_cast<std::size_t>(
                std::min(times - 1, static_cast<int>(random.next() * static_cast<float>(times))));
            if (!models[which])
                continue;
            media::Volume v = *models[which];
            v.id = c.element.id;
            const Mat4 moved = toSpot(feet[which], size, turn, spot, s.onto == "surface" && !s.upright,
                                      static_cast<float>(s.lift));
            v.place(v.toIndex.inverse() * moved);
            if (v.glow.heat)
                v.glow.toHeat = (v.glow.toHeat.inverse() * moved).inverse();
            contributeVolume(c, std::move(v), glows ? static_cast<float>(own.lights) : 0.f, true);
        }
    };
    return k;
}
} // namespace hygros::elements
