/// Embers: glowing bits that ride a plume.
#include "sim/embers.h"
#include "base/random.h"
#include "base/words.h"
#include "elements/plume_parts.h"
#include "elements/ride.h"
#include "light/blackbody.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct EmbersSettings : scene::SettingsOf<EmbersSettings> {
    std::string plume;
    double rate = 25.0, life = 1.6, fall = 0.5, scatter = 0.8, size = 0.003, temperature = 1500.0, exposure = 0.0;
    std::int64_t seed = 1;
};

struct SparkKey {
    FileVersion version;
    double size, temperature, exposure;
    float blur;
    std::int64_t seed;
    bool operator==(const SparkKey&) const = default;
};

/// How an ember that is born so hot looks at a share of its life: its own burning keeps it hot for most of it.
Vec3 radianceAt(double hottest, double share, double stops)
{
    constexpr double dark = 780.0; ///< a dull red that a dark eye just sees [K]
    const double kelvin = dark + (std::max(dark, hottest) - dark) * std::sqrt(1.0 - share);
    const double fades = std::min(1.0, (1.0 - share) * 8.0);
    return light::blackbodyRadiance(static_cast<float>(kelvin)) * static_cast<float>(std::exp2(stops) * fades);
}
} // namespace

Kind embersKind()
{
    using S = EmbersSettings;
    Kind k;
    k.id = "embers";
    k.label = "Embers";
    k.help = "Sparks that a plume carries up: they glow, cool, fall and go out. Bake the plume, then these.";
    k.family = scene::Family::Fire;
    k.actions = {"bake", "purge", "exportPoints"};
    scene::TableOf<S> t;
    t.text("plume", "rides", &S::plume).linked("plume").in("Embers").says("The plume that carries them.");
    t.number("rate", "born", &S::rate, Quantity::Frequency)
        .hard(0, 1e5)
        .soft(1, 300)
        .log()
        .lead()
        .in("Embers")
        .says("How many a second, from all that feeds the plume.");
    t.number("life", "life", &S::life, Quantity::Time)
        .hard(0.02, 600)
        .soft(0.3, 10)
        .log()
        .lead()
        .in("Embers")
        .says("How long one glows in the mean; some go out early, some late.");
    t.number("fall", "falls at", &S::fall, Quantity::Speed)
        .hard(0.001, 50)
        .soft(0.05, 3)
        .log()
        .in("Embers")
        .says("In still air: light flakes at some cm/s, splinters at metres a second.");
    t.number("scatter", "leaps", &S::scatter, Quantity::Speed)
        .hard(0, 100)
        .soft(0, 5)
        .in("Embers")
        .says("Speed of their own when they are born, upward and to all sides.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).fixed().in("Embers").says("Another number, others.");
    t.number("size", "size", &S::size, Quantity::Length)
        .hard(1e-5, 1)
        .soft(5e-4, 0.01)
        .log()
        .look()
        .lead()
        .in("Glow")
        .says("How large they are, in the mean.");
    t.number("temperature", "temperature", &S::temperature, Quantity::Temperature)
        .hard(800, 4000)
        .soft(1000, 2200)
        .look()
        .in("Glow")
        .says("When they are born; they cool to a dull red.");
    t.number("exposure", "brightness", &S::exposure, Quantity::Exposure)
        .hard(-20, 20)
        .soft(-4, 6)
        .look()
        .in("Glow")
        .says("Stops brighter than a body of that temperature is.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        const auto plume = measuresOf(c.project.find(s.plume));
        if (!plume)
            return c.note("Choose the plume that it rides.");
        if (s.rate <= 0.0 && !c.whole.find(c.element.id)->track("rate")) {
            shot::Note& n = c.finding("nothingLeaves", words("None are born: their rate is 0."));
            n.mends = words("Rate 25"), n.settings = {{c.element.id + ".rate", "25"}};
        }
        media::Embers e;
        e.id = c.element.id;
        e.feeds = feedsOf(c, s.plume, plume->voxel);
        std::erase_if(e.feeds, [](const media::Feed& f) { return !(f.rate > 0.f); });
        e.pace = plume->pace;
        e.rate = static_cast<float>(s.rate);
        e.life = static_cast<float>(s.life);
        e.fall = static_cast<float>(s.fall);
        e.scatter = static_cast<float>(s.scatter);
        e.seed = static_cast<std::uint32_t>(s.seed);
        c.shot.airflow.embers.push_back(std::move(e));
        const auto frame = bakedFrame(c);
        if (!frame)
            return;
        media::Sparks sparks;
        sparks.id = c.element.id;
        const auto blur = static_cast<float>(c.whole.time.shutterAngle / 360.0 / c.whole.time.rate.perSecond());
        sparks.all = c.store.get(SparkKey{frame->version, s.size, s.temperature, s.exposure, blur, s.seed}, [&] {
            const auto state = sim::EmberSolver(c.element.id).read(frame->read().bytes());
            std::vector<media::Spark> out;
            for (const auto& one : static_cast<const sim::EmberState&>(*state).embers) {
                media::Spark spark;
                spark.at = one.place;
                spark.velocity = one.velocity;
                const float own = unitFloat(hash32(static_cast<std::uint32_t>(s.seed), one.number, 77u));
                spark.radius = 0.5f * static_cast<float>(s.size) * (0.5f + own);
                spark.radiance = radianceAt(s.temperature, std::clamp(double(one.age / one.life), 0.0, 1.0),
                                            s.exposure);
                out.push_back(spark);
            }
            return std::make_shared<const media::SparkList>(std::move(out), blur);
        });
        c.tell(words("%1 at this frame.", {std::to_string(sparks.all->all().size())}));
        c.shot.sparks.push_back(std::move(sparks));
    };
    k.solver = [](const std::string& element) { return std::make_unique<sim::EmberSolver>(element); };
    k.carriedBy = [](const scene::Project& project, const scene::Element& element) -> std::optional<std::string> {
        const std::string& plume = element.as<S>().plume;
        return measuresOf(project.find(plume)) ? std::optional(plume) : std::nullopt;
    };
    k.ride = [](const scene::Project& project, const scene::Element& element, double frame, Store& store,
                shot::Shot& shot) {
        for (media::Embers& e : shot.airflow.embers) {
            if (e.id != element.id)
                continue;
            Ride ride = rideOn(project, element.as<S>().plume, frame, store);
            e.frame = ride.frame;
            e.frameBefore = ride.frameBefore;
            e.before = std::move(ride.before);
            e.after = std::move(ride.after);
        }
    };
    k.comesFrom = originsOfPlumes;
    return k;
}
} // namespace hygros::elements
