#pragma once
/// How matter in voxels looks: the part of a table that all kinds have whose matter is a volume.
#include "elements/volume_parts.h"

namespace hygros::elements {

/// What a kind does whose settings are VolumeSettings: its column in Reach, its extinction, its links, its place in the
/// shot (Kind::complete).
void looksLikeAVolume(Kind& kind);
void completeVolume(FreezeContext& c);

/// Scattering and absorption.
template <class T> void describeVolumeLook(scene::TableOf<T>& t)
{
    t.choice("linking", "when it gets denser", &T::linking, {"albedo", "scattering", "free"})
        .edited("balls")
        .in("Scattering")
        .says("Keep albedo: scattering and absorption grow together. Keep scattering: only absorption grows. Free: "
              "each has its own number and colour.");
    describeDensity(t, 0.2, 2e3)
        .when("linking=albedo|scattering")
        .orAs({"halfOpaque", "m that hide half", [](double m) { return m * visibilityConstant / 0.69314718056; },
               [](double v) { return v * 0.69314718056 / visibilityConstant; }})
        .orAs({"opaque", "m that hide 99 %", [](double m) { return m * visibilityConstant / 4.60517018599; },
               [](double v) { return v * 4.60517018599 / visibilityConstant; }});
    t.number("scatters", "scatters", &T::scatters, Quantity::Coefficient)
        .hard(0, 1e4)
        .soft(1e-3, 100)
        .log()
        .lead()
        .in("Scattering")
        .when("linking=scattering|free")
        .says("Scattering coefficient where the grid is 1.");
    t.number("absorbs", "absorbs", &T::absorbs, Quantity::Coefficient)
        .hard(0, 1e4)
        .soft(1e-4, 100)
        .log()
        .in("Scattering")
        .when("linking=free")
        .says("Absorption coefficient where the grid is 1.");
    t.colour("scatterColour", "scatters by colour", &T::scatterColour)
        .hard(0, 10)
        .in("Scattering")
        .when("linking=free")
        .says("Scattering of each channel, as a share of the number.");
    t.colour("absorbColour", "absorbs by colour", &T::absorbColour)
        .hard(0, 10)
        .in("Scattering")
        .when("linking=free")
        .says("Absorption of each channel, as a share of the number: what is low here comes through.");
    describeScattering(t);
    t.curve("scatteringCurve", "scattering kept", &T::scatteringCurve)
        .falls()
        .in("Scattering")
        .says("Share of its scattering that stays, over the grid's value as a share of its largest.");
    t.curve("absorptionCurve", "absorption kept", &T::absorptionCurve)
        .falls()
        .in("Scattering")
        .says("Share of its absorption that stays, over the grid's value as a share of its largest.");
    t.number("shadows", "shadow density", &T::shadows, Quantity::Plain)
        .hard(0, 10)
        .soft(0, 2)
        .in("Scattering")
        .says("Scales the shadow it casts on set and air; not physical, 1 leaves it.");
}

/// Light that it gives off.
template <class T> void describeVolumeGlow(scene::TableOf<T>& t)
{
    t.choice("glow", "glow", &T::glow, {"none", "blackbody", "ramp"})
        .in("Glow")
        .says(
            "How hot matter shines: not at all, as a blackbody of its temperature, or by colours over a grid's value.");
    t.number("kelvin", "kelvin a unit", &T::kelvin, Quantity::Plain)
        .hard(1e-3, 1e5)
        .soft(1, 3000)
        .log()
        .in("Glow")
        .when("glow=blackbody")
        .says("What the grid's value 1 means in kelvin.");
    t.number("coldest", "dark below", &T::coldest, Quantity::Temperature)
        .hard(0, 5000)
        .soft(300, 2000)
        .in("Glow")
        .when("glow=blackbody")
        .says("Cooler matter does not shine.");
    t.number("emissive", "emitted", &T::emissive, Quantity::Plain)
        .hard(0, 1000)
        .soft(0.001, 10)
        .log()
        .in("Glow")
        .when("glow=blackbody")
        .says("How much of a blackbody's light a metre of it gives off [1/m].");
    t.stops("ramp", "colours", &T::ramp)
        .in("Glow")
        .when("glow=ramp")
        .says("Light given off over the grid's value; the first stop stays dark.");
    t.number("rampTop", "top value", &T::rampTop, Quantity::Plain)
        .hard(1e-6, 1e6)
        .soft(0.01, 100)
        .log()
        .in("Glow")
        .when("glow=ramp")
        .says("The grid's value at the last colour.");
    t.number("exposure", "brightness", &T::exposure, Quantity::Exposure)
        .hard(-30, 30)
        .soft(-8, 8)
        .in("Glow")
        .when("glow=blackbody|ramp")
        .says("Doubles with each stop.");
    t.number("lights", "lights others", &T::lights, Quantity::Plain)
        .hard(0, 100)
        .soft(0, 4)
        .in("Glow")
        .when("glow=blackbody|ramp")
        .says("Scales what its glow gives to set, air and other volumes; 1 is what is seen.");
}
} // namespace hygros::elements
