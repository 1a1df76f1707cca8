/// Particles: things that begin somewhere, fly by their own weight and drag, bounce, slide and lie. Baked.
#include "sim/particles.h"
#include "base/random.h"
#include "base/shown_units.h"
#include "base/words.h"
#include "elements/drift_kind.h"
#include "elements/places.h"
#include "elements/plume_parts.h"
#include "elements/ride.h"
#include "geometry/chosen_faces.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct ParticlesSettings final : scene::SettingsOf<ParticlesSettings> {
    std::string form = "box", object, material, painted, follows, what = "leaves", shown, part, plume;
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
    float tumble;
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

bool liesFlat(const ParticlesSettings& s) { return s.what != "balls" && s.what != "objects"; }

/// All of a baked frame as they are drawn.
std::shared_ptr<const std::vector<media::Drop>> drawn(const FreezeContext& c, const ParticlesSettings& s,
                                                      const BakedFrame& frame)
{
    const bool isFlat = liesFlat(s);
    const float tumble = isFlat ? stuffOf(s.what).tumble : 1.f;
    return c.store.get(DrawnKey{frame.version, isFlat, tumble}, [&] {
        const auto state = sim::ParticleSolver(c.element.id).read(frame.read().bytes());
        const auto& all = static_cast<const sim::ParticleState&>(*state);
        auto out = std::make_shared<std::vector<media::Drop>>();
        const auto& m = all.moving;
        out->reserve(m.count + all.lyingCount());
        for (std::size_t i = 0; i < m.count; ++i) {
            media::Drop d{Vec3(m.x[i], m.y[i], m.z[i]), Vec3(m.u[i], m.v[i], m.w[i]), m.size[i]};
            d.own = hash32(m.number[i], 11u);
            d.age = m.age[i];
            // It turns over as it flies through the air.
            d.turned = std::fmod(m.age[i] * tumble * (0.5f + unitFloat(hash32(d.own, 6u))), 1.f) * 2.f * pi;
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
}

void tellOf(const FreezeContext& c, const ParticlesSettings& s, const std::vector<media::Drop>& all,
            const std::string& shown)
{
    std::size_t lie = 0;
    for (const media::Drop& d : all)
        lie += d.lies ? 1 : 0;
    const bool isFlat = liesFlat(s);
    const float falls = media::terminalSpeed(isFlat, static_cast<float>(isFlat ? stuffOf(s.what).kilograms : s.density),
                                             static_cast<float>(s.diameter));
    c.tell(words("%1 fly and %2 lie at this frame, 36 and 28 bytes each; in still air one of median size falls at %3. "
                 "%4",
                 {shownNumber(double(all.size() - lie), 6), shownNumber(double(lie), 6),
                  formatQuantity(double(falls), Quantity::Speed), shown}));
}

/// Those that are objects of a set stand in the scene as copies of it.
void standAsObjects(FreezeContext& c)
{
    constexpr std::size_t most = 5000;
    const auto& s = c.element.as<ParticlesSettings>();
    if (s.what != "objects")
        return;
    const auto model = chosenObject(c, s.shown, s.part, words("Choose the set that each of them is a copy of."));
    if (!model)
        return;
    const auto frame = bakedFrame(c);
    if (!frame)
        return;
    Box3 box;
    for (const geometry::Mesh& m : model->set->meshes)
        if (std::find(model->without.begin(), model->without.end(), m.group) == model->without.end())
            for (const Vec3& p : m.positions)
                box.extendBy(p * model->toWorld);
    const float longest = box.isEmpty() ? 0.f : maxComponent(box.size());
    if (!(longest > 0.f))
        return c.note("What each of them is a copy of has no extent: nothing is seen of them.");
    const auto all = drawn(c, s, *frame);
    std::vector<const media::Drop*> near;
    for (const media::Drop& d : *all)
        near.push_back(&d);
    if (near.size() > most) {
        const Vec3 eye = c.shot.camera.position;
        const auto closer = [&](const media::Drop* a, const media::Drop* b) {
            return (a->at - eye).length2() < (b->at - eye).length2();
        };
        std::nth_element(near.begin(), near.begin() + most, near.end(), closer);
        near.resize(most);
        std::sort(near.begin(), near.end()); // as they were born
    }
    const float open = static_cast<float>(c.whole.time.shutterAngle / 360.0 / c.whole.time.rate.perSecond());
    const Vec3 middle = box.center(), foot(middle.x, box.min.y, middle.z);
    for (const media::Drop* d : near) {
        const auto chance = [&](std::uint32_t of) { return unitFloat(hash32(d->own, of)); };
        Mat4 here, size, turn, there;
        here.setTranslation(-(d->lies ? foot : middle));
        size.setScale(Vec3(d->diameter / longest));
        turn.rotate(Vec3(0.f, 2.f * pi * chance(31u), 0.f));
        geometry::PlacedSet copy = *model;
        Mat4 shape = model->toWorld * here * size * turn;
        if (d->lies) {
            there.setTranslation(d->at - Vec3(0.f, 0.5f * d->diameter, 0.f));
        } else {
            // About an axis of its own.
            const float up = 2.f * chance(32u) - 1.f, around = 2.f * pi * chance(33u),
                        level = std::sqrt(std::max(0.f, 1.f - up * up));
            Mat4 over;
            over.setAxisAngle(Vec3(level * std::cos(around), up, level * std::sin(around)), d->turned);
            shape = shape * over;
            there.setTranslation(d->at);
        }
        copy.toWorld = shape * there;
        if (const Vec3 half = d->velocity * (0.5f * open); half.length2() > 0.f) {
            Mat4 before, after;
            before.setTranslation(-half);
            after.setTranslation(half);
            copy.toWorldLater = copy.toWorld * after;
            copy.toWorld = copy.toWorld * before;
        }
        copy.frame = Mat4();
        copy.element = c.element.id;
        copy.visible = copy.casts = copy.carried = true;
        c.placed.push_back(std::move(copy));
    }
    tellOf(c, s, *all,
           all->size() > most
               ? words("The %1 nearest to the camera are seen as objects.", {shownNumber(double(most), 6)})
               : words("Each is seen as an object."));
}
} // namespace

Kind particlesKind()
{
    using S = ParticlesSettings;
    Kind k;
    k.id = "particles";
    k.label = "Particles";
    k.help = "Leaves, petals, ash, balls or objects of a set that begin in a box or on faces, fly by weight and drag, "
             "bounce, slide and "
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
    t.choice("what", "what", &S::what, {"leaves", "narrow leaves", "petals", "ash", "balls", "objects"})
        .in("What")
        .says("How they look and how they fly. Objects are those of a set; they fly as balls of that size do.");
    t.text("shown", "set", &S::shown)
        .linked("set")
        .look()
        .in("What")
        .when("what=objects")
        .says("The set that each of them is a copy of; its own place does not matter, and it may be muted.");
    t.text("part", "object of it", &S::part)
        .look()
        .in("What")
        .when("what=objects")
        .says("The name of one of its objects, such as a brick of a wall; empty: the whole set.");
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
        .when("what=balls|objects")
        .says("Cork 200, ice 900, stone 2600, iron 7800.");
    t.colour("colour", "tint", &S::colour)
        .look()
        .in("What")
        .when("what=leaves|narrow leaves|petals|ash|balls")
        .says("Multiplied with their own colours.");
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
    k.stage = Kind::Stage::Set;
    k.contribute = standAsObjects;
    k.complete = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        auto from = whereOf(c, s);
        if (!from)
            return;
        const bool isFlat = liesFlat(s);
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
            if (set.casts && !set.carried)
                p.obstacles.push_back(set);
        const auto plume = s.plume.empty() ? std::nullopt : measuresOf(c.project.find(s.plume));
        p.pace = plume ? plume->pace : 1.f;
        c.shot.airflow.particles.push_back(std::move(p));
        if (s.what == "objects") // they stand there already
            return;
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
        f.all = drawn(c, s, *frame);
        tellOf(c, s, *f.all, words("All are drawn; of those far smaller than a pixel one stands for many."));
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
