/// Wet ground: water over what sets are made of, and puddles.
#include "elements/wet_ground.h"

#include "base/random.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <mutex>

namespace hygros::elements {
namespace {
struct WetGroundSettings final : scene::SettingsOf<WetGroundSettings> {
    std::string set;
    double wet = 0.8, puddles = 0.15, size = 1.2;
    std::int64_t seed = 1;
};

/// Rings of the drops of a Rain: tiles of level water, worked out when they are first looked at.
class LandedRings final : public geometry::Rings {
public:
    LandedRings(const media::Falling& falling, const Vec3& eye) : falling_(falling), eye_(eye) {}
    std::size_t bytes() const { return sizeof *this + (std::size_t{1} << 20); }
    void near(const Vec3& place, std::vector<geometry::Ring>& out) const override
    {
        const auto cell = [](float v, float wide) { return static_cast<std::int32_t>(std::floor(v / wide)); };
        const std::array<std::int32_t, 3> key{cell(place.x, side), cell(place.y, step), cell(place.z, side)};
        const float seen = std::min(1.f, 2.f - (place - eye_).length() / from);
        if (seen <= 0.f)
            return;
        const std::vector<Landed>& tile = at(key);
        const float over = place.y - (static_cast<float>(key[1]) + 0.5f) * step;
        for (const Landed& l : tile) {
            // Those on higher water were there before.
            const float sooner = over / l.speed, age = l.ring.age + sooner;
            if (age >= 0.f && age <= lasts)
                out.push_back({l.ring.x - falling_.wind.x * sooner, l.ring.z - falling_.wind.z * sooner, age,
                               l.ring.size * seen});
        }
    }

private:
    static constexpr float side = 0.5f, step = 0.25f, smallest = 1.2e-3f;
    static constexpr float from = 14.f; ///< the eye rings are hard to see, and none twice as far
    struct Landed {
        geometry::Ring ring;
        float speed = 0.f;
    };
    const std::vector<Landed>& at(const std::array<std::int32_t, 3>& key) const
    {
        Shelf& shelf = shelves_[hash32(static_cast<std::uint32_t>(key[0]), static_cast<std::uint32_t>(key[1]),
                                       static_cast<std::uint32_t>(key[2])) %
                                shelves_.size()];
        const std::lock_guard lock(shelf.mutex);
        auto& tile = shelf.tiles[key];
        if (!tile)
            tile = std::make_unique<const std::vector<Landed>>(made(key));
        return *tile; // stays where it is
    }
    std::vector<Landed> made(const std::array<std::int32_t, 3>& key) const
    {
        const Vec3 low(static_cast<float>(key[0]) * side - reach, 0.f, static_cast<float>(key[2]) * side - reach),
            high = low + Vec3(side + 2.f * reach, 0.f, side + 2.f * reach);
        const float height = (static_cast<float>(key[1]) + 0.5f) * step;
        std::vector<Landed> out;
        std::vector<media::Landing> landed;
        for (std::size_t c = 0; c < falling_.classes.size(); ++c) {
            if (falling_.classes[c].diameter < smallest)
                continue;
            const float more = 0.5f * step / falling_.classes[c].speed;
            for (std::size_t m = 0; m < falling_.moments.size(); ++m) {
                landed.clear();
                media::landingsIn(falling_, c, m, low, high, height + more * falling_.classes[c].speed,
                                  lasts + 2.f * more, landed);
                for (const media::Landing& l : landed)
                    out.push_back(
                        {{l.at.x + falling_.wind.x * more, l.at.z + falling_.wind.z * more, l.age - more, l.diameter},
                         l.speed});
            }
        }
        return out;
    }

    media::Falling falling_;
    Vec3 eye_;
    struct Shelf {
        std::mutex mutex;
        std::map<std::array<std::int32_t, 3>, std::unique_ptr<const std::vector<Landed>>> tiles;
    };
    mutable std::array<Shelf, 61> shelves_;
};
struct RingsKey {
    media::Falling falling;
    Vec3 eye;
    bool operator==(const RingsKey&) const = default;
};
} // namespace

geometry::Wetness wetnessOn(const scene::Project& project, const std::string& set, const shot::Shot& shot, Store& store)
{
    geometry::Wetness out;
    for (const scene::Element& e : project.elements) {
        const auto* s = settingsOf<WetGroundSettings>(&e);
        if (!s || project.silent(e) || (!s->set.empty() && s->set != set))
            continue;
        out.wet = std::max(out.wet, static_cast<float>(s->wet));
        if (static_cast<float>(s->puddles) > out.puddles) {
            out.puddles = static_cast<float>(s->puddles);
            out.size = static_cast<float>(s->size);
            out.seed = static_cast<std::uint32_t>(s->seed);
        }
    }
    // What stands under a puddle's drops does not matter: one that falls is one that makes a ring.
    if (!out.isDry())
        for (const media::Falling& f : shot.falling)
            if (f.form == media::Falling::Form::Drops)
                out.rings = store.get(RingsKey{f, shot.camera.position},
                                      [&] { return std::make_shared<const LandedRings>(f, shot.camera.position); });
    return out;
}

Kind wetGroundKind()
{
    using S = WetGroundSettings;
    Kind k;
    k.id = "wetGround";
    k.label = "Wet ground";
    k.help = "Water over sets: darker, glossier, with puddles that mirror. Their own materials stay.";
    k.family = scene::Family::Weather;
    scene::TableOf<S> t;
    t.number("wet", "wet", &S::wet, Quantity::Share)
        .hard(0, 1)
        .lead()
        .in("Water")
        .says("How soaked what is open to the sky is: darker and smoother. Walls are half as wet, under sides dry.");
    t.number("puddles", "puddles", &S::puddles, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.6)
        .lead()
        .in("Water")
        .says("Share of level ground that stands under water.");
    t.number("size", "puddle size", &S::size, Quantity::Length)
        .hard(0.05, 100)
        .soft(0.2, 6)
        .log()
        .in("Water")
        .says("How far across they are.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Water").says("Another number, other puddles.");
    t.text("set", "on", &S::set).linked("set").in("Water").says("The set that is wet; nothing chosen: all.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (!s.set.empty() && !c.project.find(s.set))
            c.note("The set that is to be wet is not there.");
        else if (c.placed.empty())
            c.note("There is no set that could be wet.");
        else if (s.wet <= 0.0 && s.puddles <= 0.0)
            c.note("It is neither wet nor has it puddles: nothing changes.");
    };
    return k;
}
} // namespace hygros::elements
