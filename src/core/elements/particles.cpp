/// Particles: things that begin somewhere, fly by their own weight and drag, bounce, slide and lie. Baked.
#include "sim/particles.h"
#include "base/random.h"
#include "base/words.h"
#include "elements/drift_kind.h"
#include "elements/plume_parts.h"
#include "elements/ride.h"
#include "geometry/chosen_faces.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct ParticlesSettings final : scene::SettingsOf<ParticlesSettings> {
    std::string form = "box", object, material, painted, follows, what = "leaves", plume;
    Vec3 position{0.f, 4.f, 0.f}, size{2.f, 1.f, 2.f}, colour{1.f};
    double turn = 0.0, rate = 20.0, speed = 0.0, heading = 0.0, climb = 90.0, outward = 0.0, scatter = 0.3;
    double diameter = 0.06, spread = 0.2, density = 1000.0, life = 0.0;
    bool lands = true;
    double bounce = 0.3, friction = 0.6, lies = 0.0;
    std::int64_t seed = 1;
};

struct DrawnKey {
    FileVersion version;
    bool isFlat;
    bool operator==(const DrawnKey&) const = default;
};

std::optional<media::Feed> whereOf(const FreezeContext& c, const ParticlesSettings& s)
{
    using Form = media::Feed::Form;
    media::Feed f;
    f.id = c.element.id;
    if (s.form == "object") {
        const scene::Element* object = c.project.find(s.object);
        const auto placed = object ? placedSet(c.project, *object, c.store, c.job) : std::nullopt;
        if (!placed) {
            c.note("Choose the object whose faces they begin on.");
            return std::nullopt;
        }
        const Vec3 across = placed->set->bounds.isEmpty() ? Vec3(1.f) : placed->set->bounds.size();
        const float scale = Vec3(placed->toWorld[0][0], placed->toWorld[0][1], placed->toWorld[0][2]).length();
        f.form = Form::Points;
        f.toWorld = placed->frame;
        f.points = surfaceOf(c, *placed, placed->toWorld * placed->frame.inverse(),
                             std::max(1e-3f, across.length() * scale / 400.f), s.material, s.painted);
        if (f.points->empty()) {
            c.note(!s.painted.empty()
                       ? "No painted face of the object is there any more: nothing begins. Paint it anew."
                   : !s.material.empty() ? "The object has no face of the material '" + s.material + "'."
                                         : "The object's faces have no area: nothing begins.");
            return std::nullopt;
        }
        return f;
    }
    f.form = s.form == "ball" ? Form::Ball : s.form == "disc" ? Form::Disc : s.form == "line" ? Form::Line : Form::Box;
    f.half = s.size * 0.5f;
    Mat4 turn, move;
    turn.rotate(Vec3(0.f, -radians(s.turn), 0.f));
    move.setTranslation(s.position);
    f.toWorld = turn * move * frameOf(c.project, s.follows, c.store, c.job).value_or(Mat4());
    return f;
}
} // namespace

Kind particlesKind()
{
    using S = ParticlesSettings;
    Kind k;
    k.id = "particles";
    k.label = "Particles";
    k.help = "Leaves, petals, ash or balls that begin in a box or on faces, fly by weight and drag, bounce, slide and "
             "lie. Bake them.";
    k.family = scene::Family::Weather;
    k.actions = {"bake", "purge", "exportPoints"};
    k.handles = [](const scene::Element& e) {
        Handles h;
        if (e.as<S>().form != "object") {
            h.place = "position";
            h.size = "size";
        }
        return h;
    };
    k.begin = [](scene::Element& e, const Seen& seen) {
        const Vec3 ahead = aheadOf(seen.camera, 8.f);
        e.set("position",
              Vec3(std::round(ahead.x * 10.f) * 0.1f, std::round(ahead.y + 2.f), std::round(ahead.z * 10.f) * 0.1f));
    };
    const std::string shaped = "form=box|disc|ball|line";
    scene::TableOf<S> t;
    t.choice("form", "begin in", &S::form, {"box", "disc", "ball", "line", "object"})
        .in("Where")
        .says("A shape, or the surface of a set object.");
    t.text("object", "object", &S::object)
        .linked("set")
        .in("Where")
        .when("form=object")
        .says("The set object whose faces they begin on.");
    t.text("painted", "painted faces", &S::painted)
        .edited("faces")
        .in("Where")
        .when("form=object")
        .says("They begin on faces painted in the Picture, on no others; where none are, on all.");
    t.text("material", "of material", &S::material)
        .in("Where")
        .when("form=object")
        .says("Only on faces of the material of this name; empty: all.");
    t.point("position", "position", &S::position).place().in("Where").when(shaped).says("Its middle.");
    t.point("size", "size", &S::size).hard(0.001, 1e4).in("Where").when(shaped).says("Width, height and depth.");
    t.number("turn", "turn", &S::turn, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 180)
        .in("Where")
        .when(shaped)
        .says("Turn about the vertical.");
    t.text("follows", "goes with", &S::follows)
        .linked("set")
        .carrier()
        .in("Where")
        .when(shaped)
        .says("A set, or a part of one, that it is fixed to.");
    t.number("rate", "begin", &S::rate, Quantity::Frequency)
        .hard(0, 1e6)
        .soft(1, 2000)
        .log()
        .lead()
        .in("How many")
        .says("How many a second.");
    t.number("life", "life", &S::life, Quantity::Time)
        .hard(0, 1e5)
        .soft(0, 30)
        .in("How many")
        .says("How long each is there in the mean; 0: to the end.");
    t.whole("seed", "seed", &S::seed).hard(0, 1e6).soft(0, 100).fixed().in("How many").says("Another number, others.");
    t.choice("what", "what", &S::what, {"leaves", "narrow leaves", "petals", "ash", "balls"})
        .in("What")
        .says("How they look and how they fly.");
    t.number("diameter", "size", &S::diameter, Quantity::Length)
        .hard(1e-5, 5)
        .soft(0.001, 0.2)
        .log()
        .lead()
        .in("What")
        .says("Across one of them, in the median.");
    t.number("spread", "sizes differ", &S::spread, Quantity::Plain)
        .hard(0, 2)
        .soft(0, 1)
        .in("What")
        .says("0: all are alike; 0.7: a sixth of them is twice as large, a sixth half as large.");
    t.number("density", "kg/m³", &S::density, Quantity::Plain)
        .hard(1, 25000)
        .soft(20, 8000)
        .log()
        .in("What")
        .when("what=balls")
        .says("Cork 200, ice 900, stone 2600, iron 7800.");
    t.colour("colour", "tint", &S::colour).look().in("What").says("Multiplied with their own colours.");
    t.number("speed", "speed", &S::speed, Quantity::Speed)
        .hard(0, 1000)
        .soft(0, 20)
        .lead()
        .in("Begins with")
        .says("With which they begin; 0 lets them go.");
    t.number("climb", "climbs", &S::climb, Quantity::Angle)
        .hard(-90, 90)
        .soft(-90, 90)
        .in("Begins with")
        .says("Direction of that speed over the level; 90 is straight up.");
    t.number("heading", "heading", &S::heading, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 360)
        .in("Begins with")
        .says("Direction of that speed from north, clockwise.");
    t.number("outward", "outward", &S::outward, Quantity::Speed)
        .hard(-1000, 1000)
        .soft(0, 20)
        .in("Begins with")
        .says("Speed off the faces that they begin on, or away from the middle, as well.");
    t.number("scatter", "scatter", &S::scatter, Quantity::Speed)
        .hard(0, 1000)
        .soft(0, 5)
        .in("Begins with")
        .says("To all sides, each its own.");
    t.text("plume", "carried by", &S::plume)
        .linked("plume")
        .in("Begins with")
        .says("A plume whose draught carries them, beside the wind and forces. Bake the plume first.");
    t.toggle("lands", "meet the set", &S::lands).in("Where they land").says("Off: they go through everything.");
    t.number("bounce", "bounce", &S::bounce, Quantity::Share)
        .hard(0, 1)
        .soft(0, 0.9)
        .in("Where they land")
        .when("lands=true")
        .says("Share of their speed into a surface with which they leave it.");
    t.number("friction", "friction", &S::friction, Quantity::Plain)
        .hard(0, 10)
        .soft(0, 1.5)
        .in("Where they land")
        .when("lands=true")
        .says("0 slides like ice on ice; 0.6 holds on slopes up to 31°.");
    t.number("lies", "lie for", &S::lies, Quantity::Time)
        .hard(0, 1e5)
        .soft(0, 60)
        .in("Where they land")
        .when("lands=true")
        .says("How long they lie until they are gone; 0: to the end.");
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        auto from = whereOf(c, s);
        if (!from)
            return;
        const bool isFlat = s.what != "balls";
        const Stuff stuff = stuffOf(s.what);
        media::Particles p;
        p.id = c.element.id;
        p.from = std::move(*from);
        p.rate = static_cast<float>(s.rate);
        p.size = static_cast<float>(s.diameter);
        p.spread = static_cast<float>(s.spread);
        p.flat = isFlat;
        p.weight = static_cast<float>(isFlat ? stuff.kilograms : s.density);
        p.life = static_cast<float>(s.life);
        const float climb = radians(s.climb), heading = radians(s.heading);
        p.velocity = Vec3(std::sin(heading) * std::cos(climb), std::sin(climb), -std::cos(heading) * std::cos(climb)) *
                     static_cast<float>(s.speed);
        p.outward = static_cast<float>(s.outward);
        p.scatter = static_cast<float>(s.scatter);
        p.lands = s.lands;
        p.bounce = static_cast<float>(s.bounce);
        p.friction = static_cast<float>(s.friction);
        p.lies = static_cast<float>(s.lies);
        p.ground = shot::groundLevel(c.shot);
        p.seed = static_cast<std::uint32_t>(s.seed);
        for (const geometry::PlacedSet& set : c.placed)
            if (set.casts)
                p.obstacles.push_back(set);
        const auto plume = s.plume.empty() ? std::nullopt : measuresOf(c.project.find(s.plume));
        p.pace = plume ? plume->pace : 1.f;
        const float falls = media::terminalSpeed(p.flat, p.weight, p.size);
        c.shot.airflow.particles.push_back(std::move(p));
        const auto frame = bakedFrame(c);
        if (!frame)
            return;
        media::Falling f;
        f.id = c.element.id;
        f.form = isFlat ? media::Falling::Form::Leaves : media::Falling::Form::Balls;
        f.shape = stuff.shape;
        for (std::size_t i = 0; i < f.colours.size(); ++i) {
            const Vec3 own = isFlat ? stuff.colours[i] : Vec3(0.45f + 0.08f * static_cast<float>(i));
            f.colours[i] = Vec3(own.x * s.colour.x, own.y * s.colour.y, own.z * s.colour.z);
        }
        f.blur = static_cast<float>(c.whole.time.shutterAngle / 360.0 / c.whole.time.rate.perSecond());
        f.seed = static_cast<std::uint32_t>(s.seed);
        std::size_t lie = 0;
        f.all = c.store.get(DrawnKey{frame->version, isFlat}, [&] {
            const auto state = sim::ParticleSolver(c.element.id).read(frame->read().bytes());
            const auto& all = static_cast<const sim::ParticleState&>(*state);
            auto out = std::make_shared<std::vector<media::Drop>>();
            const auto& m = all.moving;
            out->reserve(m.count + all.lyingCount());
            for (std::size_t i = 0; i < m.count; ++i) {
                media::Drop d{Vec3(m.x[i], m.y[i], m.z[i]), Vec3(m.u[i], m.v[i], m.w[i]), m.size[i]};
                d.own = hash32(m.number[i], 11u);
                d.age = m.age[i];
                // It turns over as it flies through the air.
                d.turned = std::fmod(m.age[i] * stuff.tumble * (0.5f + unitFloat(hash32(d.own, 6u))), 1.f) * 2.f * pi;
                out->push_back(d);
            }
            for (const auto& some : all.lying)
                for (const sim::Lying& l : *some) {
                    media::Drop d{l.place, Vec3(0.f), l.size};
                    d.own = hash32(l.number, 11u);
                    d.lies = true;
                    out->push_back(d);
                }
            return std::shared_ptr<const std::vector<media::Drop>>(std::move(out));
        });
        for (const media::Drop& d : *f.all)
            lie += d.lies ? 1 : 0;
        c.tell(words("%1 fly and %2 lie at this frame, 36 and 28 bytes each; in still air one of median size falls at "
                     "%3. All are drawn; of those far smaller than a pixel one stands for many.",
                     {formatNumber(double(f.all->size() - lie), 6), formatNumber(double(lie), 6),
                      formatQuantity(double(falls), Quantity::Speed)}));
        c.shot.falling.push_back(std::move(f));
    };
    k.solver = [](const std::string& element) { return std::make_unique<sim::ParticleSolver>(element); };
    k.carriedBy = [](const scene::Project& project, const scene::Element& element) -> std::optional<std::string> {
        const std::string& plume = element.as<S>().plume;
        return measuresOf(project.find(plume)) ? std::optional(plume) : std::nullopt;
    };
    k.ride = [](const scene::Project& project, const scene::Element& element, double frame, Store& store,
                shot::Shot& shot) {
        for (media::Particles& p : shot.airflow.particles)
            if (p.id == element.id) {
                Ride ride = rideOn(project, element.as<S>().plume, frame, store);
                p.frame = ride.frame;
                p.frameBefore = ride.frameBefore;
                p.before = std::move(ride.before);
                p.after = std::move(ride.after);
            }
    };
    k.comesFrom = originsOfPlumes;
    return k;
}
} // namespace hygros::elements
