#pragma once
/// What every kind of air has in common: density, albedo, anisotropy, noise.
#include "elements/kinds.h"

#include <cmath>

namespace hygros::elements {

struct AirSettings {
    double visibility = 2500.0;
    Vec3 albedo{0.99f, 0.99f, 0.99f};
    double anisotropy = 0.6;
    std::string spread = "g";
    double secondAnisotropy = -0.3, secondShare = 0.3;
    double droplets = 12.0;
    double albedoShare = 1.0, ambient = 1.0;
    Vec3 tint{1.f, 1.f, 1.f};
};

/// How a pattern moves: by itself, or carried by a wind.
struct DriftSettings {
    double driftSpeed = 0.4, driftHeading = 90.0, boil = 0.0;
    std::string wind;
};

/// How far a pattern has drifted and changed at the frame; closed over the project's loop.
struct Drifted {
    Vec3 offset{0.f}; ///< [m]
    float evolution = 0.f;
    media::NoiseLoop loop;
};
/// Of an element with the parameters of describeDrift(), at a height that a wind is taken at [m].
Drifted drifted(const FreezeContext& c, const DriftSettings& settings, double height);
/// The same for a speed [m/s] and a heading [degrees from north, clockwise] that may be keyed, by their ids.
Drifted drifted(const FreezeContext& c, const std::string& speed, const std::string& heading, double boil);

/// The same of a pattern that changes in place only.
Drifted boiled(const FreezeContext& c, double boil);

template <class T> void describeCarriedBy(scene::TableOf<T>& t)
{
    t.text("wind", "carried by", &T::wind)
        .linked("wind")
        .in("Noise")
        .says("A Wind that carries it along, in place of its own drift.");
}
template <class T> scene::Parameter& describeDensity(scene::TableOf<T>& t, double softMin, double softMax)
{
    using scene::Parameter;
    return t.number("visibility", "visibility", &T::visibility, Quantity::Visibility)
        .hard(0.01, 1e8)
        .soft(softMin, softMax)
        .log()
        .lead()
        .edited("density")
        .in("Scattering")
        .orAs({"extinction", "/m", visibilityOfExtinction, extinctionOfVisibility})
        .orAs({"meanFreePath", "m", visibilityOfMeanFreePath, [](double v) { return v / visibilityConstant; }})
        .says("How far one sees through it: contrast falls to 5 % there. Extinction is 2.996 / visibility.");
}
template <class T> void describeScattering(scene::TableOf<T>& t)
{
    t.colour("albedo", "albedo", &T::albedo)
        .hard(0, 1)
        .in("Scattering")
        .says("Share of the extinguished light that is scattered; the rest is absorbed.");
    t.number("anisotropy", "anisotropy g", &T::anisotropy, Quantity::Plain)
        .hard(-0.95, 0.95)
        .soft(-0.9, 0.9)
        .in("Scattering")
        .when("spread=g|two")
        .says("Mean cosine of scattering: 0 evenly around, toward 1 straight on (bright around the sun).");
    t.choice("spread", "spread by", &T::spread, {"g", "two", "droplets"})
        .in("Scattering")
        .says("How scattered light is spread: by one number g, by two lobes of their own g, or by the size of the "
              "droplets.");
    t.number("secondAnisotropy", "second lobe g", &T::secondAnisotropy, Quantity::Plain)
        .hard(-0.95, 0.95)
        .soft(-0.9, 0.9)
        .in("Scattering")
        .when("spread=two")
        .says("Mean cosine of the second lobe; below 0 it throws light back.");
    t.number("secondShare", "second lobe's share", &T::secondShare, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Scattering")
        .when("spread=two")
        .says("How much of the light goes by the second lobe.");
    t.number("droplets", "droplet size", &T::droplets, Quantity::Micrometre)
        .hard(5, 50)
        .soft(5, 50)
        .log()
        .in("Scattering")
        .when("spread=droplets")
        .says("Diameter of the water droplets, 5 to 50 µm: larger ones send more of the light straight on.");
    t.number("albedoShare", "albedo's colour", &T::albedoShare, Quantity::Share)
        .hard(0, 1)
        .soft(0, 1)
        .in("Scattering")
        .says("How much of the albedo's colour shows in the light; 0 leaves its brightness alone.");
    t.colour("tint", "tint", &T::tint)
        .hard(0, 10)
        .in("Scattering")
        .says("Multiplies the light it scatters; not physical, white leaves it.");
    t.number("ambient", "ambient", &T::ambient, Quantity::Plain)
        .hard(0, 20)
        .soft(0, 2)
        .in("Scattering")
        .says("Scales what it takes from the sky and from around; 1 is physical.");
}

/// Extinction for the card of a kind whose settings are S.
template <class S> double plainExtinction(const scene::Element& e)
{
    return extinctionOfVisibility(e.as<S>().visibility);
}

template <class S> media::Medium mediumOf(const scene::Element& element, const S& s)
{
    media::Medium m;
    m.id = element.id;
    m.sigmaT = static_cast<float>(extinctionOfVisibility(s.visibility));
    m.phase = s.spread == "droplets" ? media::dropletPhase(static_cast<float>(s.droplets))
              : s.spread == "two"    ? media::Phase{static_cast<float>(s.anisotropy), static_cast<float>(s.secondShare),
                                                 static_cast<float>(s.secondAnisotropy), 0.f}
                                     : media::plainPhase(static_cast<float>(s.anisotropy));
    m.ambient = static_cast<float>(s.ambient);
    // How much of the albedo's colour shows; its brightness stays.
    const float grey = luminance(s.albedo);
    m.albedo = (Vec3(grey) + (s.albedo - Vec3(grey)) * static_cast<float>(s.albedoShare)) * s.tint;
    return m;
}
} // namespace hygros::elements
