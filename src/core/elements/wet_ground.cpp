/// Wet ground: water over what sets are made of, and puddles.
#include "elements/wet_ground.h"

#include "base/random.h"
#include "base/shown_units.h"
#include "base/words.h"
#include "elements/snow_cover.h"
#include "geometry/hollows.h"
#include "geometry/rings.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <mutex>

namespace hygros::elements {
namespace {
struct WetGroundSettings final : scene::SettingsOf<WetGroundSettings> {
    std::string set;
    double wet = 0.8, puddles = 0.15, size = 1.2, uneven = 0.015, runs = 0.5, rises = 0.0, halfLife = 0.0,
           dryFrom = 0.0;
    std::int64_t seed = 1;
};

/// Rings of the drops of a Rain: tiles of level water, worked out when they are first looked at.
class LandedRings final : public geometry::Rings {
public:
    /// `dripped`: what has dripped besides.
    LandedRings(const media::Falling& falling, const std::vector<media::Landing>& dripped, const Vec3& eye)
        : falling_(falling), eye_(eye)
    {
        // Into every tile that their rings can reach.
        for (const media::Landing& l : dripped)
            for (float x = std::floor((l.at.x - reach) / side); x <= std::floor((l.at.x + reach) / side); ++x)
                for (float z = std::floor((l.at.z - reach) / side); z <= std::floor((l.at.z + reach) / side); ++z)
                    dripped_[{static_cast<std::int32_t>(x), static_cast<std::int32_t>(z)}].push_back(l);
    }
    std::size_t bytes() const { return sizeof *this + (std::size_t{1} << 20); }
    void near(const Vec3& place, std::vector<geometry::Ring>& out) const override
    {
        const auto cell = [](float v, float wide) { return static_cast<std::int32_t>(std::floor(v / wide)); };
        const std::array<std::int32_t, 3> key{cell(place.x, side), cell(place.y, step), cell(place.z, side)};
        const float seen = std::min(1.f, 2.f - (place - eye_).length() / from);
        if (seen <= 0.f)
            return;
        const std::vector<Landed>& tile = at(key);
        if (const auto own = dripped_.find({key[0], key[2]}); own != dripped_.end())
            for (const media::Landing& l : own->second)
                if (std::abs(l.at.y - place.y) < 0.1f)
                    out.push_back({l.at.x, l.at.z, l.age, l.diameter * seen});
        const float over = place.y - (static_cast<float>(key[1]) + 0.5f) * step;
        for (const Landed& l : tile) {
            // Those on higher water were there before.
            const float sooner = over * l.slowness, age = l.ring.age + sooner;
            if (age < 0.f || age > lasts)
                continue;
            const float x = l.ring.x - falling_.wind.x * sooner, z = l.ring.z - falling_.wind.z * sooner,
                        dx = place.x - x, dz = place.z - z;
            if (geometry::ringReaches(age, dx * dx + dz * dz))
                out.push_back({x, z, age, l.ring.size * seen});
        }
    }

private:
    static constexpr float side = 0.5f, step = 0.25f, smallest = 1.2e-3f;
    static constexpr float from = 14.f; ///< the eye rings are hard to see, and none twice as far
    struct Landed {
        geometry::Ring ring;
        float slowness = 0.f; ///< of the drop [s/m]
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
                         1.f / l.speed});
            }
        }
        return out;
    }

    media::Falling falling_;
    Vec3 eye_;
    std::map<std::pair<std::int32_t, std::int32_t>, std::vector<media::Landing>> dripped_;
    struct Shelf {
        std::mutex mutex;
        std::map<std::array<std::int32_t, 3>, std::unique_ptr<const std::vector<Landed>>> tiles;
    };
    mutable std::array<Shelf, 61> shelves_;
};
struct RingsKey {
    media::Falling falling;
    std::vector<Identity> dripped;
    Vec3 eye;
    bool operator==(const RingsKey&) const = default;
};
} // namespace

namespace {
double sinceFirst(const FreezeContext& c)
{
    return c.seconds - (c.whole.time.first - 1) / c.whole.time.rate.perSecond();
}
struct HollowsKey {
    std::vector<PlacedKey> placed;
    geometry::HollowSettings settings;
    bool operator==(const HollowsKey&) const = default;
};
struct KeptWaterKey {
    Identity hollows;
    float line;
    bool operator==(const KeptWaterKey&) const = default;
};

/// How deep the hollows are that are added to a set's own, for puddles of a size.
float unevenFor(double size, double uneven) { return static_cast<float>(std::min(0.3, size * uneven)); }

std::shared_ptr<const geometry::Hollows> hollowsOf(const WetGroundSettings& s,
                                                   const std::vector<geometry::PlacedSet>& placed,
                                                   const geometry::Camera& camera, Store& store, JobControl& job)
{
    const std::vector<geometry::PlacedSet> under = bareOf(placed);
    if (under.empty())
        return nullptr;
    // About what is seen near the eye; anew only where that has moved on.
    constexpr float ahead = 6.f, step = 6.f;
    const Vec3 way = camera.aim - camera.position, level(way.x, 0.f, way.z);
    const Vec3 middle = camera.position + (level.length2() > 1e-8f ? level.normalized() * ahead : Vec3(0.f));
    geometry::HollowSettings settings;
    settings.around = Vec3(std::round(middle.x / step) * step, 0.f, std::round(middle.z / step) * step);
    settings.size = static_cast<float>(s.size);
    settings.uneven = unevenFor(s.size, s.uneven);
    settings.seed = static_cast<std::uint32_t>(s.seed);
    return store.get(
        HollowsKey{keysOf(under), settings},
        [&] { return std::make_shared<const geometry::Hollows>(*keptScene(store, under, job), settings, job); }, &job);
}

/// What is left of water that dries from a time on.
double leftOf(const WetGroundSettings& s, double seconds)
{
    return s.halfLife > 0.0 && seconds > s.dryFrom ? std::exp2(-(seconds - s.dryFrom) / s.halfLife) : 1.0;
}
/// How much of the ground stands under water by now.
double puddlesOf(const WetGroundSettings& s, double seconds)
{
    const double risen = s.rises > 0.0 ? std::min(1.0, std::max(0.0, seconds) / s.rises) : 1.0;
    return s.puddles * risen * leftOf(s, seconds);
}
} // namespace

Waters::Waters(const scene::Project& project, const std::vector<geometry::PlacedSet>& placed, const shot::Shot& shot,
               double seconds, Store& store, JobControl& job)
{
    for (const scene::Element& e : project.elements) {
        const auto* s = settingsOf<WetGroundSettings>(&e);
        if (!s || project.silent(e))
            continue;
        One one{s->set, {}};
        geometry::Wetness& w = one.wetness;
        w.wet = static_cast<float>(s->wet * leftOf(*s, seconds));
        w.puddles = static_cast<float>(puddlesOf(*s, seconds));
        w.size = static_cast<float>(s->size);
        w.runs = static_cast<float>(s->runs) * std::min(1.f, w.wet);
        w.seed = static_cast<std::uint32_t>(s->seed);
        if (w.puddles > 0.f && w.puddles < 1.f)
            if (const auto hollows = hollowsOf(*s, placed, shot.camera, store, job)) {
                const float line = hollows->lineFor(w.puddles), most = hollows->most();
                w.standing = store.get(KeptWaterKey{hollows, line},
                                       [&] { return std::make_shared<const geometry::WaterInHollows>(hollows, line); });
                w.beyond = most < w.puddles ? (w.puddles - most) / std::max(1e-3f, 1.f - most) : 0.f;
            }
        all_.push_back(std::move(one));
    }
    // What stands under a puddle's drops does not matter: one that falls is one that makes a ring.
    if (!all_.empty())
        rings_ = ringsOf(shot, store);
    // Water runs down walls while it rains; where time is a loop, by a whole number of surges in it.
    for (One& one : all_) {
        if (!rings_)
            one.wetness.runs = 0.f;
        constexpr double fast = 0.45; // [m/s]
        constexpr auto length = static_cast<double>(geometry::Wetness::streamLength);
        const double loop = project.time.loop;
        if (loop > 0.0)
            one.wetness.cycle = static_cast<std::uint32_t>(std::clamp(std::round(fast * loop / length), 1.0, 1e6));
        const double speed = loop > 0.0 ? one.wetness.cycle * length / loop : fast;
        one.wetness.ran = one.wetness.runs > 0.f ? static_cast<float>(speed * seconds) : 0.f;
        one.wetness.eye = one.wetness.runs > 0.f ? shot.camera.position : Vec3(0.f);
    }
}

std::shared_ptr<const geometry::Rings> ringsOf(const shot::Shot& shot, Store& store)
{
    std::vector<media::Landing> dripped;
    std::vector<Identity> from;
    for (const media::Falling& f : shot.falling)
        if (f.landed) {
            dripped.insert(dripped.end(), f.landed->begin(), f.landed->end());
            from.push_back(f.landed);
        }
    std::shared_ptr<const geometry::Rings> out;
    for (const media::Falling& f : shot.falling)
        if (f.form == media::Falling::Form::Drops && !f.classes.empty())
            out = store.get(RingsKey{f, from, shot.camera.position},
                            [&] { return std::make_shared<const LandedRings>(f, dripped, shot.camera.position); });
    return out;
}

geometry::Wetness Waters::on(const std::string& set) const
{
    geometry::Wetness out;
    for (const One& one : all_) {
        if (!one.set.empty() && one.set != set)
            continue;
        const float wet = std::max(out.wet, one.wetness.wet);
        if (one.wetness.puddles > out.puddles || out.isDry())
            out = one.wetness;
        out.wet = wet;
    }
    if (!out.isDry())
        out.rings = rings_;
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
    k.actions = {"exportCover"};
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
        .says("Share of level ground about the camera that stands under water: in hollows, the deep ones first.");
    t.number("size", "puddle size", &S::size, Quantity::Length)
        .hard(0.05, 100)
        .soft(0.2, 6)
        .log()
        .in("Water")
        .says("How far apart hollows are that the sets do not have themselves.");
    t.number("uneven", "unevenness", &S::uneven, Quantity::Share)
        .hard(0, 0.2)
        .soft(0, 0.05)
        .in("Water")
        .says("How deep these are, of their size; 0: the sets' own hollows alone hold water.");
    t.number("runs", "runs down", &S::runs, Quantity::Share)
        .hard(0, 1)
        .in("Water")
        .says("While it rains: how much of steep places has water running down it in streams.");
    t.number("rises", "rises in", &S::rises, Quantity::Time)
        .hard(0, 1e6)
        .soft(0, 120)
        .in("Over time")
        .says("From the first frame on puddles come to stand as they are set, in so long; 0: they do already.");
    t.number("halfLife", "dries by half in", &S::halfLife, Quantity::Time)
        .hard(0, 1e7)
        .soft(0, 1200)
        .in("Over time")
        .says("Half of the water is gone after this, and half of the rest after as long again; 0: it stays.");
    t.number("dryFrom", "from", &S::dryFrom, Quantity::Time)
        .hard(0, 1e6)
        .soft(0, 120)
        .in("Over time")
        .says("Seconds after the first frame at which it begins to dry.");
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
        else if (const double seconds = sinceFirst(c), share = puddlesOf(s, seconds); share > 0.0 && share < 1.0)
            if (const auto hollows = hollowsOf(s, c.placed, c.shot.camera, c.store, c.job)) {
                const auto percent = [](double v) { return shownNumber(std::round(v * 1000.0) / 10.0, 3) + " %"; };
                if (double(hollows->most()) < share)
                    c.tell(words("The hollows near the camera hold water on %1 of the level ground; what is more than "
                                 "that stands anywhere.",
                                 {percent(double(hollows->most()))}));
                else
                    c.tell(
                        words("Water stands in hollows on %1 of the level ground near the camera, %2 deep at most; "
                              "they would hold it on %3.",
                              {percent(share),
                               formatQuantity(double(hollows->deepest() - hollows->lineFor(static_cast<float>(share))),
                                              Quantity::Length),
                               percent(double(hollows->most()))}));
            }
    };
    return k;
}
} // namespace hygros::elements
