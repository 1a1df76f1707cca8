/// Drift: leaves, petals and ash that fall and blow, and those that lie; dust and sand by what a cubic metre holds.
#include "elements/drift_kind.h"

#include "base/words.h"
#include "elements/falling.h"
#include "geometry/leaf_area.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
Stuff stuffOf(const std::string& what)
{
    using geometry::LeafShape;
    if (what == "narrow leaves")
        return {LeafShape::Narrow,
                0.08,
                1.8f,
                {Vec3(0.30f, 0.26f, 0.05f), Vec3(0.36f, 0.24f, 0.05f), Vec3(0.22f, 0.13f, 0.05f),
                 Vec3(0.17f, 0.20f, 0.05f)}};
    if (what == "petals")
        return {LeafShape::Petal,
                0.05,
                2.2f,
                {Vec3(0.80f, 0.62f, 0.66f), Vec3(0.84f, 0.74f, 0.76f), Vec3(0.78f, 0.54f, 0.60f),
                 Vec3(0.86f, 0.80f, 0.80f)}};
    if (what == "ash")
        return {LeafShape::Scrap,
                0.012,
                1.0f,
                {Vec3(0.32f, 0.31f, 0.30f), Vec3(0.20f, 0.20f, 0.20f), Vec3(0.45f, 0.44f, 0.43f),
                 Vec3(0.06f, 0.06f, 0.06f)}};
    return {
        LeafShape::Broad,
        0.1,
        1.3f,
        {Vec3(0.42f, 0.22f, 0.03f), Vec3(0.34f, 0.13f, 0.03f), Vec3(0.24f, 0.11f, 0.04f), Vec3(0.40f, 0.30f, 0.05f)}};
}

namespace {
struct DriftKindSettings final : scene::SettingsOf<DriftKindSettings>, FallSettings {
    DriftKindSettings()
    {
        driftSpeed = 2.5;
        top = 14.0;
        drawn = 4000;
    }
    std::string what = "leaves";
    double amount = 0.3, size = 0.06, lying = 0.15, mass = 0.2, grain = 1e-4, thins = 6.0;
    Vec3 colour{1.f};
};

bool isGrains(const DriftKindSettings& s) { return s.what == "dust" || s.what == "sand"; }
constexpr double airDensity = 1.2, grainDensity = 2650.0, gravity = 9.81;

/// Weight against drag on a tumbling plate, with a drag coefficient of 1.2.
float plateSpeed(double kilograms)
{
    return static_cast<float>(std::sqrt(2.0 * kilograms * gravity / (airDensity * 1.2)));
}
/// R. I. Ferguson & M. Church, A simple universal equation for grain settling velocity, J. Sediment. Res. 74, 2004, in
/// air: w = R·g·d²/(18·ν + √(0.75·0.4·R·g·d³)).
float grainSpeed(double diameter)
{
    constexpr double viscosity = 1.5e-5, r = grainDensity / airDensity - 1.0;
    return static_cast<float>(r * gravity * diameter * diameter /
                              (18.0 * viscosity + std::sqrt(0.3 * r * gravity * diameter * diameter * diameter)));
}
/// Twice the section of grains of one size that together weigh so much [g/m³] in air.
double grainExtinction(double mass, double diameter) { return 3.0 * 1e-3 * mass / (grainDensity * diameter); }
} // namespace

geometry::Strewn strewnOn(const scene::Project& project)
{
    geometry::Strewn out = hailOn(project);
    for (const scene::Element& e : project.elements) {
        const auto* s = settingsOf<DriftKindSettings>(&e);
        if (!s || project.silent(e) || isGrains(*s) || static_cast<float>(s->lying) <= out.share)
            continue;
        const Stuff stuff = stuffOf(s->what);
        out.share = static_cast<float>(s->lying);
        out.size = static_cast<float>(s->size);
        out.shape = stuff.shape;
        for (std::size_t i = 0; i < out.colours.size(); ++i)
            out.colours[i] = Vec3(stuff.colours[i].x * s->colour.x, stuff.colours[i].y * s->colour.y,
                                  stuff.colours[i].z * s->colour.z);
        out.seed = static_cast<std::uint32_t>(s->seed);
    }
    return out;
}

Kind driftKind()
{
    using S = DriftKindSettings;
    Kind k;
    k.id = "drift";
    k.label = "Drift";
    k.help = "Leaves, petals or ash that fall, blow and lie; dust or sand in the air.";
    k.family = scene::Family::Weather;
    k.column = Kind::Column::Air;
    k.extinction = [](const scene::Element& e) {
        const auto& s = e.as<S>();
        if (isGrains(s))
            return grainExtinction(s.mass, s.grain);
        const Stuff stuff = stuffOf(s.what);
        return s.amount / double(plateSpeed(stuff.kilograms)) * 0.5 * 0.87 * double(geometry::leafArea(stuff.shape)) *
               s.size * s.size;
    };
    const std::string leaves = "what=leaves|narrow leaves|petals|ash", grains = "what=dust|sand";
    scene::TableOf<S> t;
    t.choice("what", "what", &S::what, {"leaves", "narrow leaves", "petals", "ash", "dust", "sand"})
        .in("Drift")
        .says("What it is that drifts.");
    t.number("amount", "a m² and second", &S::amount, Quantity::Plain)
        .hard(0, 1000)
        .soft(0.01, 20)
        .log()
        .lead()
        .in("Drift")
        .when(leaves)
        .says("How many come down on a square metre in a second.");
    t.number("size", "size", &S::size, Quantity::Length)
        .hard(0.001, 1)
        .soft(0.005, 0.2)
        .log()
        .in("Drift")
        .when(leaves)
        .says("From stalk to tip.");
    t.number("lying", "lying", &S::lying, Quantity::Share)
        .hard(0, 0.97)
        .soft(0, 0.9)
        .lead()
        .in("Drift")
        .when(leaves)
        .says("Share of level ground under those that lie already.");
    t.number("mass", "g/m³", &S::mass, Quantity::Plain)
        .hard(0, 1000)
        .soft(0.001, 50)
        .log()
        .lead()
        .in("Drift")
        .when(grains)
        .says("What a cubic metre holds near the ground: 0.01 is a dusty day, 1 a dust storm, 10 a sand storm.");
    t.number("grain", "grain", &S::grain, Quantity::Length)
        .hard(1e-6, 2e-3)
        .soft(5e-6, 1e-3)
        .log()
        .in("Drift")
        .when(grains)
        .says("Across one of them: dust 0.005 to 0.05 mm, sand 0.1 to 0.5 mm.");
    t.number("thins", "up to", &S::thins, Quantity::Length)
        .hard(0.1, 5000)
        .soft(0.5, 500)
        .log()
        .in("Drift")
        .when(grains)
        .says("About the height up to which it is thick: sand some metres, dust hundreds. Twice as high is its top.");
    t.colour("colour", "tint", &S::colour).in("Drift").says("Multiplied with its own colours.");
    describeFall(t, "Drift", leaves);
    k.parameters = t.take();
    k.make = [] { return std::make_shared<S>(); };
    k.contribute = [](FreezeContext& c) {
        const auto& s = c.element.as<S>();
        FallLaw law;
        if (isGrains(s)) {
            if (!(s.mass > 0.0))
                return c.note("A cubic metre holds none of it: nothing changes.");
            media::Medium m;
            m.id = c.element.id;
            // A sheet that thins upward, in gusts that drift with the wind.
            m.shape = media::Shape::Layer;
            m.base = -5.f;
            m.top = 2.f * static_cast<float>(s.thins);
            m.falloff = m.top;
            m.noise.scale = std::clamp(1.5f * static_cast<float>(s.thins), 5.f, 300.f);
            m.noise.contrast = 0.65f;
            m.noise.seed = static_cast<std::uint32_t>(s.seed);
            const Drifted carried = drifted(c, s, s.thins);
            m.noise.offset = carried.offset;
            m.noise.loop = carried.loop;
            m.sigmaT = static_cast<float>(grainExtinction(s.mass, s.grain));
            m.albedo = s.what == "sand" ? Vec3(0.97f, 0.90f, 0.76f) : Vec3(0.96f, 0.91f, 0.82f);
            for (int a = 0; a < 3; ++a)
                m.albedo[a] = std::min(0.9999f, m.albedo[a] * s.colour[a]);
            m.phase = media::Phase{0.9f, 0.6f, 0.45f, 0.f};
            c.shot.media.push_back(m);
            c.tell(words("One sees %1 through it near the ground; in still air its grains sink at %2.",
                         {formatQuantity(double(visibilityOfExtinction(double(m.sigmaT))), Quantity::Length),
                          formatQuantity(double(grainSpeed(s.grain)), Quantity::Speed)}));
            return;
        }
        if (!(s.amount > 0.0))
            return;
        const Stuff stuff = stuffOf(s.what);
        const float speed = plateSpeed(stuff.kilograms), size = 1e3f * static_cast<float>(s.size);
        law.smallest = law.firstDrawn = 0.7f * size;
        law.largest = 1.15f * size;
        const float number = static_cast<float>(s.amount) / speed; // a cubic metre
        law.number = [=](float from, float to) { return number * (to - from) / (0.45f * size); };
        // A quarter of the surface of both sides is what a tumbling plate covers on average.
        law.extinction = [=](float from, float to) {
            const float across = 1e-3f * 0.5f * (from + to);
            return number * (to - from) / (0.45f * size) * 0.5f * geometry::leafArea(stuff.shape) * across * across;
        };
        law.speed = [=](float) { return speed; };
        law.phase = media::Phase{0.2f, 0.5f, 0.f, 0.f};
        law.form = media::Falling::Form::Leaves;
        law.flutter = 0.22f;
        law.flutterRate = 0.55f;
        law.shape = stuff.shape;
        law.tumble = stuff.tumble;
        law.albedo = Vec3(0.4f, 0.3f, 0.15f);
        for (std::size_t i = 0; i < law.colours.size(); ++i)
            law.colours[i] = Vec3(stuff.colours[i].x * s.colour.x, stuff.colours[i].y * s.colour.y,
                                  stuff.colours[i].z * s.colour.z);
        fall(c, law, s, s.what == "ash" ? "flakes of ash" : s.what);
    };
    return k;
}
} // namespace hygros::elements
