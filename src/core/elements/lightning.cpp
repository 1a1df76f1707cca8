/// Lightning: strikes from one place to another, with their light on air and sets.
#include "light/lightning.h"
#include "base/random.h"
#include "base/words.h"
#include "elements/air.h"
#include "elements/kinds.h"
#include "light/blackbody.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct LightningSettings final : scene::SettingsOf<LightningSettings> {
    Vec3 position{0.f, 700.f, -1500.f}, aim{0.f, 0.f, -1500.f};
    double first = 0.2, rate = 0.0, strokes = 3.5, energy = 350.0, glow = 0.04, temperature = 24000.0, branches = 1.0,
           winding = 16.0, spread = 400.0;
    std::int64_t seed = 1;
};
constexpr double soundSpeed = 340.0; ///< [m/s]
constexpr double seenShare = 0.35;   ///< of its light by how the eye weighs colours
constexpr int lampsAlong = 5;        ///< pieces of the channel that shine on the rest
constexpr double forgotten = 9.0;    ///< times the glow: nothing is left of a stroke

struct BoltKey {
    Vec3 from, to;
    float branches, winding;
    std::uint32_t seed;
    bool operator==(const BoltKey&) const = default;
};
struct KeptBolt : light::Bolt {
    std::size_t bytes() const { return sizeof *this + pieces.size() * sizeof(Piece); }
};

/// The ends of a strike: the first as it was placed, later ones beside that.
std::pair<Vec3, Vec3> endsOf(const LightningSettings& s, std::uint32_t number)
{
    if (number == 0)
        return {s.position, s.aim};
    Random random(hash32(static_cast<std::uint32_t>(s.seed), number, 0x54u));
    const auto spread = static_cast<float>(s.spread);
    const Vec3 by(random.range(-spread, spread), 0.f, random.range(-spread, spread));
    return {s.position + by + Vec3(random.range(-0.3f, 0.3f), 0.f, random.range(-0.3f, 0.3f)) * spread, s.aim + by};
}
} // namespace

Kind lightningKind()
{
    using S = LightningSettings;
    Kind k;
    k.id = "lightning";
    k.label = "Lightning";
    k.help =
        "A strike from cloud to ground, or between any two places: it flashes and flickers, and lights the air and "
        "the sets.";
    k.family = scene::Family::Weather;
    k.row = Kind::Row::Light;
    k.actions = {"strike"};
    k.handles = [](const scene::Element&) { return Handles{"position", "", "", "aim", "", ""}; };
    k.begin = [](scene::Element& e, const Seen& seen) {
        // Beyond what stands there, and as high as clouds are from so far.
        const Vec3 eye = seen.camera.position, way = seen.camera.aim - eye, level(way.x, 0.f, way.z);
        const float distance = std::clamp(3.f * seen.far, 300.f, 2500.f);
        const Vec3 foot = eye + (level.length2() > 1e-8f ? level.normalized() : Vec3(0.f, 0.f, -1.f)) * distance;
        e.set("aim", Vec3(std::round(foot.x), 0.f, std::round(foot.z)));
        e.set("position", Vec3(std::round(foot.x + 0.1f * distance), std::round(0.45f * distance), std::round(foot.z)));
    };
    scene::TableOf<S> t;
    t.number("first", "first at", &S::first, Quantity::Time)
        .hard(0, 1e5)
        .soft(0, 20)
        .lead()
        .in("Strikes")
        .says("When the first of them strikes, after frame 1.");
    t.number("rate", "others a minute", &S::rate, Quantity::Plain)
        .hard(0, 600)
        .soft(0, 30)
        .lead()
        .in("Strikes")
        .says("Strikes that follow the first by chance, each on a way of its own; 0: it is the only one.");
    t.number("spread", "beside it by", &S::spread, Quantity::Length)
        .hard(0, 2e4)
        .soft(0, 3000)
        .in("Strikes")
        .says("How far from the first one the others come down.");
    t.number("strokes", "strokes", &S::strokes, Quantity::Plain)
        .hard(1, 12)
        .soft(1, 6)
        .in("Strikes")
        .says("How often a strike flares up on average, about 60 ms apart: its flicker.");
    t.whole("seed", "seed", &S::seed)
        .hard(0, 1e6)
        .soft(0, 100)
        .lead()
        .in("Strikes")
        .says("Another number, another way and other times.");
    t.point("position", "from", &S::position).in("Channel").says("Where it begins: in the cloud.");
    t.point("aim", "to", &S::aim).in("Channel").says("Where it ends: on the ground, or in the air.");
    t.number("branches", "branches", &S::branches, Quantity::Share)
        .hard(0, 3)
        .soft(0, 1.5)
        .in("Channel")
        .says("How many side arms; 100 % is usual on the way to the ground.");
    t.number("winding", "winding", &S::winding, Quantity::Angle)
        .hard(0, 45)
        .soft(4, 30)
        .in("Channel")
        .says("How much a piece of it turns from the last on average; 16° was measured.");
    t.number("energy", "light of a stroke [kJ]", &S::energy, Quantity::Plain)
        .hard(0, 1e6)
        .soft(10, 5000)
        .log()
        .in("Light")
        .says("Visible light of a strike's first stroke; 350 kJ was measured on average. Later ones have about half.");
    t.number("glow", "dies away in", &S::glow, Quantity::Time)
        .hard(0.0002, 2)
        .soft(0.005, 0.3)
        .log()
        .in("Light")
        .says("Until a third is left of a stroke's light: 0.2 ms of the stroke alone, 40 to 150 ms with a current that "
              "goes on.");
    t.number("temperature", "temperature", &S::temperature, Quantity::Temperature)
        .hard(2000, 25000)
        .soft(6000, 25000)
        .in("Light")
        .says("Of the channel: its colour.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        if (!((s.aim - s.position).length() > 1.f))
            return c.note("Its ends are in one place: there is no way for it.");
        const auto seed = static_cast<std::uint32_t>(s.seed);
        // While the shutter is open; where it is closed, over the frame.
        const scene::TimeSettings& time = c.whole.time;
        const double perFrame = 1.0 / time.rate.perSecond(),
                     open = time.shutterAngle > 0.0 ? time.shutterAngle / 360.0 : 1.0,
                     from = c.seconds + time.shutterPhase / 360.0 * perFrame, to = from + open * perFrame;
        const double longest = forgotten * s.glow + 2.0; // a strike is over after that
        const std::vector<double> all = light::strikesBetween(s.first, s.rate / 60.0, 0.0,
                                                              std::max(to, s.first + 600.0), seed);
        const Vec3 colour = light::blackbodyColour(static_cast<float>(s.temperature));
        std::vector<media::Spark> sparks;
        const double shown = open * perFrame; // what the pieces are drawn as streaks of
        std::string told;
        for (std::size_t n = 0; n < all.size(); ++n) {
            const auto number = static_cast<std::uint32_t>(n);
            const auto [begin, end] = endsOf(s, number);
            if (n < 6) {
                const double far = double((end - c.shot.camera.position).length());
                told += words("%1%2", {(n ? "; " : ""), words("%1 (its thunder %2 later)",
                                                              {formatQuantity(all[n], Quantity::Time),
                                                               formatQuantity(far / soundSpeed, Quantity::Time)})});
            } else if (n == 6)
                told += words("; and on");
            if (all[n] > to || all[n] + longest < from)
                continue;
            double whole = 0.0,
                   first = 0.0; // light a second now, of the channel and of its branches, a unit of the first's
            for (const light::Stroke& stroke : light::strokesOf(all[n], s.strokes, hash32(seed, number))) {
                const double now = light::flashBetween(from - stroke.at, to - stroke.at, s.glow) * double(stroke.share);
                whole += now;
                first += stroke.isFirst ? now : 0.0;
            }
            if (!(s.energy > 0.0) || whole * s.glow < 1e-6)
                continue;
            const BoltKey key{begin, end, static_cast<float>(s.branches), radians(s.winding),
                              hash32(seed, number, 0x55u)};
            const auto bolt = c.store.get(
                key,
                [&] {
                    return std::make_shared<const KeptBolt>(
                        KeptBolt{light::boltBetween(key.from, key.to, key.branches, key.winding, key.seed)});
                },
                &c.job);
            double length = 0.0;
            for (const auto& p : bolt->pieces)
                length += double((p.to - p.from).length() * p.share);
            const double metre = 1e3 * s.energy * seenShare / std::max(1.0, length); // [J/m]
            for (const auto& p : bolt->pieces) {
                const double watts = metre * double(p.share) * (p.isMain ? whole : first);
                const Vec3 way = p.to - p.from, at = (p.from + p.to) * 0.5f,
                           sight = (at - c.shot.camera.position).normalized();
                const float long_ = way.length();
                if (!(watts > 0.0) || !(long_ > 0.f))
                    continue;
                const float across = std::max(0.1f, way.cross(sight).length() / long_);
                media::Spark spark;
                spark.at = at;
                spark.velocity = way / static_cast<float>(shown);
                spark.radius = 0.12f;
                // Of a matte cylinder: a square of π of its light a metre goes straight across.
                spark.radiance = colour * (static_cast<float>(watts) * long_ * across /
                                           (pi * pi * pi * spark.radius * spark.radius));
                sparks.push_back(spark);
            }
            // Its channel as a few straight glowing tubes.
            std::vector<const light::Bolt::Piece*> main;
            double branchShare = 0.0;
            for (const auto& p : bolt->pieces)
                if (p.isMain)
                    main.push_back(&p);
                else
                    branchShare += double((p.to - p.from).length() * p.share);
            const double watts = metre * (double(bolt->length) * whole + branchShare * first);
            for (int i = 0; i < lampsAlong; ++i) {
                const std::size_t a = main.size() * static_cast<std::size_t>(i) / lampsAlong,
                                  b = main.size() * static_cast<std::size_t>(i + 1) / lampsAlong;
                if (b <= a)
                    continue;
                const Vec3 low = main[a]->from, high = main[b - 1]->to;
                light::Lamp lamp;
                lamp.id = c.element.id;
                lamp.shape = light::Lamp::Shape::Tube;
                lamp.position = (low + high) * 0.5f;
                lamp.width = (high - low).length();
                lamp.radius = 0.3f;
                lamp.right = (high - low).normalized();
                lamp.direction = (std::abs(lamp.right.y) < 0.9f ? Vec3(0.f, 1.f, 0.f) : Vec3(1.f, 0.f, 0.f))
                                     .cross(lamp.right)
                                     .normalized();
                lamp.up = lamp.direction.cross(lamp.right);
                lamp.glow = 0.f; // it is drawn by itself
                lamp.quick = true;
                lamp.intensity = colour * (static_cast<float>(watts / lampsAlong) * light::intensityPerFlux(lamp));
                c.shot.lamps.push_back(std::move(lamp));
            }
        }
        if (!sparks.empty())
            c.shot.sparks.push_back(
                {c.element.id, std::make_shared<const media::SparkList>(std::move(sparks), static_cast<float>(shown))});
        c.tell(words("Strikes at %1.", {told}));
    };
    return k;
}
} // namespace hygros::elements
