#pragma once
/// What falls: drawn one by one near the eye, a veil beyond. For the kinds of rain and snow.
#include "elements/wind.h"
#include "media/falling.h"

#include <functional>

namespace hygros::elements {

struct FallSettings : DriftSettings {
    double top = 800.0;
    std::int64_t drawn = 40000, seed = 1;
};

/// How many there are of which size; sizes in mm, of whatever the law counts.
struct FallLaw {
    float smallest, firstDrawn, largest;                   ///< smaller ones than the second are a veil from the eye on
    std::function<float(float from, float to)> number;     ///< a cubic metre
    std::function<float(float from, float to)> extinction; ///< twice the section of what falls [1/m]
    std::function<float(float size)> speed;                ///< down [m/s]
    media::Phase phase;                                    ///< of the veil
    media::Falling::Form form = media::Falling::Form::Drops;
    float flutter = 0.f, flutterRate = 0.f;
    float splashes = 0.f, bounce = 0.f;
    Vec3 albedo{0.9999f};                                   ///< of the veil
    geometry::LeafShape shape = geometry::LeafShape::Broad; ///< of leaves
    std::array<Vec3, geometry::Strewn::tints> colours = {Vec3(0.f), Vec3(0.f), Vec3(0.f), Vec3(0.f)};
    float tumble = 0.f; ///< [1/s]
};
/// What carries it at a height: its own numbers, or the Wind that it is linked with [m/s].
Vec3 blownAt(const scene::Project& project, const FallSettings& s, float height);
/// Puts it into the shot, drops and veil, and tells how it was parted; `what`: "drops".
void fall(FreezeContext& c, const FallLaw& law, const FallSettings& s, const std::string& what);

/// Rows of a card: clouds, how many are drawn, what carries it.
template <class T> void describeFall(scene::TableOf<T>& t, const std::string& group, const std::string& drawnWhen = "")
{
    t.number("top", "falls from", &T::top, Quantity::Length)
        .hard(1, 2e4)
        .soft(5, 3000)
        .log()
        .in(group)
        .when(drawnWhen)
        .says("Height over 0 of the clouds that it comes from.");
    t.whole("drawn", "drawn at most", &T::drawn)
        .hard(0, 200000)
        .soft(0, 100000)
        .in(group)
        .when(drawnWhen)
        .says("About how many in sight are drawn one by one; the others are a veil. 0: all of it is.");
    t.whole("seed", "seed", &T::seed).hard(0, 1e6).soft(0, 100).in(group).says("Another number, others.");
    t.number("driftSpeed", "blown at", &T::driftSpeed, Quantity::Speed)
        .hard(0, 100)
        .soft(0, 20)
        .lead()
        .in("Wind")
        .says("How fast the air carries it sideways.");
    t.number("driftHeading", "toward", &T::driftHeading, Quantity::Angle)
        .heading()
        .hard(-3600, 3600)
        .soft(-180, 360)
        .in("Wind")
        .says("Heading of that, clockwise from −Z seen from above.");
    t.text("wind", "carried by", &T::wind)
        .linked("wind")
        .in("Wind")
        .says("A Wind that carries it, in place of its own numbers: as that blows at the height of the camera.");
}
} // namespace hygros::elements
