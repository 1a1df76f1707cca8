/// Wind, and the tracers that show it.
#include "elements/wind.h"

#include "base/words.h"

#include "elements/bake.h"
#include "sim/tracers.h"

namespace hygros::elements {
namespace {
struct TracersSettings : scene::SettingsOf<TracersSettings> {
    Vec3 centre{0.f, 4.f, -20.f}, size{40.f, 8.f, 40.f};
    std::int64_t count = 2000, seed = 1;
    double life = 8.0, trail = 0.2;
};

struct TracerKey {
    FileVersion frame;
    bool operator==(const TracerKey&) const = default;
};
} // namespace

Kind windKind()
{
    using S = WindSettings;
    Kind k;
    k.id = "wind";
    k.label = "Wind";
    k.help = "Moves air: tracers, and the banks and decks that are carried by it.";
    k.family = scene::Family::Weather;
    scene::TableOf<S> t;
    t.number("speed", "speed", &S::speed, Quantity::Speed)
        .adding()
        .hard(0, 100)
        .soft(0, 25)
        .lead()
        .in("Wind")
        .says("Mean speed at the reference height.");
    t.number("heading", "toward", &S::heading, Quantity::Angle)
        .adding()
        .heading()
        .hard(-3600, 3600)
        .soft(0, 360)
        .lead()
        .in("Wind")
        .says("Where it blows to, clockwise from −Z seen from above.");
    t.number("reference", "at a height of", &S::reference, Quantity::Length)
        .hard(0.1, 1000)
        .soft(1, 100)
        .log()
        .in("Wind")
        .says("Height over the ground where the speed is what is set; weather stations have 10 m.");
    t.number("roughness", "roughness", &S::roughness, Quantity::Length)
        .hard(1e-5, 5)
        .soft(1e-4, 2)
        .log()
        .in("Wind")
        .says("Roughness length of the ground: 0.2 mm over water, 3 cm over grass, half a metre in a village. The "
              "rougher, the slower it is below.");
    t.number("ground", "ground", &S::ground, Quantity::Length)
        .hard(-1e4, 1e4)
        .soft(-10, 100)
        .in("Wind")
        .says("Height of the ground over which it blows.");
    t.number("gusts", "gusts", &S::gusts, Quantity::Share)
        .hard(0, 2)
        .soft(0, 0.6)
        .in("Gusts")
        .says("How much it varies: standard deviation of each component as a share of the speed.");
    t.number("gustLength", "length", &S::gustLength, Quantity::Length)
        .hard(0.1, 5000)
        .soft(1, 200)
        .log()
        .in("Gusts")
        .says("Size of the largest eddies; smaller ones come with them.");
    t.number("gustChange", "change", &S::gustChange, Quantity::Frequency)
        .hard(0, 20)
        .soft(0, 1)
        .in("Gusts")
        .says("How often a second the eddies change while they are carried along.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).in("Gusts").says("Another number, other gusts.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        media::Wind w;
        w.id = c.element.id;
        const float turn = radians(s.heading);
        w.velocity = Vec3(std::sin(turn), 0.f, -std::cos(turn)) * static_cast<float>(s.speed);
        w.reference = static_cast<float>(s.reference);
        w.roughness = static_cast<float>(s.roughness);
        w.ground = static_cast<float>(s.ground);
        w.gusts = static_cast<float>(s.gusts * s.speed);
        w.pattern = media::gustPattern(static_cast<float>(s.gustLength), static_cast<std::uint32_t>(s.seed));
        const Drifted d = drifted(c, "speed", "heading", s.gustChange);
        w.pattern.offset = d.offset;
        w.pattern.evolution = d.evolution;
        w.pattern.loop = d.loop;
        c.shot.airflow.winds.push_back(w);
        constexpr double fastest = 60.0; // a storm of the fourth class
        if (s.speed > fastest) {
            const std::string to = formatQuantity(s.speed / 3.6, Quantity::Speed);
            shot::Note& n = c.finding("units",
                                      words("It blows at %1, faster than any storm. Were kilometres an hour meant?",
                                            {formatQuantity(s.speed, Quantity::Speed)}));
            n.isTrouble = false;
            n.mends = words("Speed %1", {to}), n.settings = {{c.element.id + ".speed", to}};
        }
    };
    return k;
}

Kind tracersKind()
{
    using S = TracersSettings;
    Kind k;
    k.id = "tracers";
    k.label = "Tracers";
    k.help = "Points that the winds carry, drawn over the Picture and in the Transect; not in what is delivered.";
    k.family = scene::Family::Weather;
    k.actions = {"bake", "purge"};
    scene::TableOf<S> t;
    t.whole("count", "points", &S::count)
        .hard(1, 100000)
        .soft(100, 10000)
        .lead()
        .fixed()
        .in("Tracers")
        .says("How many there are; of more than two thousand only some are drawn.");
    t.number("life", "life", &S::life, Quantity::Time)
        .hard(0.05, 3600)
        .soft(0.5, 60)
        .log()
        .lead()
        .fixed()
        .in("Tracers")
        .says("How long one is carried before it begins anew in the box.");
    t.point("centre", "centre", &S::centre).place().fixed().in("Tracers").says("Middle of the box they begin in.");
    t.point("size", "size", &S::size).hard(0.01, 1e5).fixed().in("Tracers").says("Width, height and depth of the box.");
    t.whole("seed", "seed", &S::seed)
        .hard(0, 1e6)
        .soft(0, 100)
        .fixed()
        .in("Tracers")
        .says("Another number, other places.");
    t.number("trail", "trail", &S::trail, Quantity::Time)
        .hard(0, 10)
        .soft(0, 1)
        .look()
        .in("Tracers")
        .says("How much of its way behind a point is drawn.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.handles = [](const scene::Element&) {
        Handles h;
        h.place = "centre";
        h.size = "size";
        return h;
    };
    k.begin = [](scene::Element& e, const Seen& seen) {
        if (seen.middle <= 0.f)
            return;
        const Vec3 ahead = aheadOf(seen.camera, std::min(seen.middle, 40.f));
        const auto wide = static_cast<float>(std::clamp(double(seen.middle), 5.0, 60.0));
        e.set("centre", Vec3(ahead.x, std::max(0.125f * wide, seen.camera.position.y + 0.05f * wide), ahead.z));
        e.set("size", Vec3(wide, 0.25f * wide, wide));
    };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        media::Tracers tracers;
        tracers.id = c.element.id;
        tracers.centre = s.centre;
        tracers.half = s.size * 0.5f;
        tracers.count = static_cast<std::uint32_t>(s.count);
        tracers.life = static_cast<float>(s.life);
        tracers.seed = static_cast<std::uint32_t>(s.seed);
        tracers.trail = static_cast<float>(s.trail);
        if (const auto frame = bakedFrame(c))
            tracers.points = c.store.get(TracerKey{frame->version}, [&] {
                const auto state = sim::TracerSolver(tracers.id).read(frame->read().bytes());
                auto out = std::make_shared<std::vector<Vec3>>();
                for (const auto& p : static_cast<const sim::TracerState&>(*state).points)
                    out->push_back(p.place);
                return std::shared_ptr<const std::vector<Vec3>>(std::move(out));
            });
        c.shot.airflow.tracers.push_back(std::move(tracers));
    };
    k.solver = [](const std::string& element) { return std::make_unique<sim::TracerSolver>(element); };
    k.comesFrom = [](const scene::Project& project) {
        std::vector<std::string> winds;
        for (const scene::Element& e : project.elements)
            if (movesTheAir(e))
                winds.push_back(e.id);
        return winds;
    };
    return k;
}
} // namespace hygros::elements
