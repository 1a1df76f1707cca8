#include "elements/floats.h"

#include "base/shown_units.h"
#include "elements/kept.h"
#include "elements/wakes.h"
#include "elements/water.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr int samples = 96; ///< a side of the square in which its hull is sounded

struct HullKey {
    Identity set;
    Mat4 shape; ///< without where it stands
    double low, mass;
    bool operator==(const HullKey&) const = default;
};
struct KeptHull {
    media::Hull hull;
    double sinks = 0.0;
    double weight = 0.0; ///< where the middle of its surface is [m]
    bool goesUnder = false;
    std::size_t bytes() const { return sizeof *this; }
};
struct FloatingKey {
    Identity modes;
    double low, mass, weight, loop, choppy;
    Vec2 along;
    double length, beam;
    bool operator==(const FloatingKey&) const = default;
};

/// Height of the middle of its surface, as if it were of one sheet.
double middleOf(const geometry::PlacedSet& placed)
{
    double sum = 0.0, area = 0.0;
    for (const geometry::Mesh& m : placed.set->meshes)
        for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3) {
            const Vec3 a = m.positions[m.indices[i]] * placed.toWorld,
                       b = m.positions[m.indices[i + 1]] * placed.toWorld,
                       c = m.positions[m.indices[i + 2]] * placed.toWorld;
            const double own = double((b - a).cross(c - a).length());
            sum += own * double(a.y + b.y + c.y) / 3.0;
            area += own;
        }
    return area > 0.0 ? sum / area : 0.0;
}

KeptHull soundedHull(const geometry::RayScene& scene, double level, double mass)
{
    const Box3& box = scene.bounds();
    const float wide = std::max({box.max.x - box.min.x, box.max.z - box.min.z, 1e-3f}) * 1.12f, cell = wide / samples;
    const Vec2 corner(0.5f * (box.min.x + box.max.x - wide), 0.5f * (box.min.z + box.max.z - wide));
    const auto at = [&](double height) {
        return media::hullOf(draughtOf(scene, static_cast<float>(height), corner, samples, cell, false), samples, cell,
                             corner);
    };
    KeptHull out;
    if (!(mass > 0.0)) {
        out.hull = at(level);
        return out;
    }
    double low = double(box.min.y), high = double(box.max.y);
    if (at(high).mass() < mass) {
        out.goesUnder = true;
        return out;
    }
    for (int i = 0; i < 18; ++i) {
        const double middle = 0.5 * (low + high);
        (at(middle).mass() < mass ? low : high) = middle;
    }
    out.hull = at(0.5 * (low + high));
    out.sinks = 0.5 * (low + high) - level; // so much of it more is under water
    return out;
}
} // namespace

std::optional<FloatingPose> floatingPose(const scene::Project& project, const geometry::PlacedSet& still,
                                         const Vec2& velocity, const FloatWish& wish, Store& store, JobControl& job)
{
    const auto water = waterNear(project);
    if (!water)
        return std::nullopt;
    FloatingPose out;
    // Sounded where it stands, by shape: it may go about without being sounded anew.
    geometry::PlacedSet here = still;
    const Vec3 stands = still.toWorld.translation();
    here.toWorld[3][0] = here.toWorld[3][2] = 0.f;
    here.toWorldLater.reset();
    const auto kept = store.get(
        HullKey{still.set, here.toWorld, water->level, wish.mass},
        [&] {
            const auto scene = keptScene(store, {here}, job);
            KeptHull hull = soundedHull(*scene, water->level, wish.mass);
            hull.weight = middleOf(here);
            return std::make_shared<const KeptHull>(hull);
        },
        &job);
    if (kept->goesUnder) {
        out.trouble = "It weighs more than all the water that it takes the place of: it would sink. Make it lighter.";
        return out;
    }
    out.hull = kept->hull;
    out.sinks = kept->sinks;
    if (!(out.hull.area > 0.0)) {
        out.trouble = "It does not reach the water: lower it to how deep it should sit, or give it a mass.";
        return out;
    }
    const Box3& b = still.set->bounds;
    float low = 1e30f, high = -1e30f;
    for (int i = 0; i < 8; ++i) {
        const float y =
            (Vec3(i & 1 ? b.max.x : b.min.x, i & 2 ? b.max.y : b.min.y, i & 4 ? b.max.z : b.min.z) * still.toWorld).y;
        low = std::min(low, y);
        high = std::max(high, y);
    }
    out.weight = (wish.weightAt > 0.0 ? double(low) + wish.weightAt * double(high - low) : kept->weight) -
                 (water->level + out.sinks);
    const auto modes = modesOf(*water->waves, water->swell, store, job);
    const double loop = project.time.loop * water->waves->pace;
    const auto floating = store.get(
        FloatingKey{modes, water->level, out.hull.mass(), out.weight, loop, water->waves->choppy, out.hull.along,
                    out.hull.length, out.hull.beam},
        [&] {
            return std::make_shared<const media::Floating>(*modes, out.hull, out.weight, loop, water->waves->choppy);
        },
        &job);
    const double seconds = project.time.looped(project.time.seconds(project.frame)) * water->waves->pace;
    const Vec2 middle(out.hull.middle.x + stands.x, out.hull.middle.y + stands.z);
    const media::Afloat now = floating->at(middle, velocity, seconds);
    // Turned about its middle at the level, by the way that its deck leans.
    const Vec3 up = Vec3(-now.slope.x, 1.f, -now.slope.y).normalized(), axis = Vec3(0.f, 1.f, 0.f).cross(up);
    Mat4 there, lean, back;
    there.setTranslation(Vec3(-middle.x, -static_cast<float>(water->level), -middle.y));
    if (const float sine = axis.length(); sine > 1e-6f)
        lean.setAxisAngle(axis / sine, std::atan2(sine, up.y));
    // (It sinks first: what is turned about is the level as it lies afloat.)
    Mat4 down;
    down.setTranslation(Vec3(0.f, -static_cast<float>(out.sinks), 0.f));
    back.setTranslation(
        Vec3(middle.x + now.drift.x, static_cast<float>(water->level) + now.heave, middle.y + now.drift.y));
    out.moves = down * there * lean * back;
    return out;
}

std::string describeFloating(const FloatingPose& p)
{
    if (!p.trouble.empty())
        return p.trouble;
    const auto metres = [](double v) { return formatQuantity(v, Quantity::Length); };
    const auto seconds = [](double v) { return formatQuantity(v, Quantity::Time); };
    const double roll = p.hull.rollArm(p.weight), mass = p.hull.mass();
    std::string text = "It floats: " + formatQuantity(mass, Quantity::Mass) + ", " + metres(p.hull.draught()) +
                       " deep on average, over " + shownNumber(p.hull.area) + " m². It heaves in " +
                       seconds(p.hull.heavePeriod());
    if (!(roll > 0.0))
        return text + ". Its metacentre lies " + metres(-roll) +
               " under its middle of weight: it would turn over. Put its weight lower or its hull wider.";
    return text + ", pitches in " + seconds(p.hull.pitchPeriod(p.weight)) + " and rolls in " +
           seconds(p.hull.rollPeriod(p.weight)) + "; its metacentre lies " + metres(roll) +
           " over its middle of weight.";
}
} // namespace hygros::elements
