#pragma once
/// What every kind of air has in common: density, albedo, anisotropy, noise.
#include "elements/kinds.h"

namespace hygros::elements {

struct AirSettings {
    double visibility = 2500.0;
    Vec3 albedo{0.99f, 0.99f, 0.99f};
    double anisotropy = 0.6;
};

template <class T> void describeDensity(scene::TableOf<T>& t, double softMin, double softMax)
{
    using scene::Parameter;
    t.number("visibility", "visibility", &T::visibility, Quantity::Visibility)
        .hard(0.01, 1e8)
        .soft(softMin, softMax)
        .log()
        .lead()
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
        .says("Mean cosine of scattering: 0 evenly around, toward 1 straight on (bright around the sun).");
}

template <class S> media::Medium mediumOf(const scene::Element& element, const S& s)
{
    media::Medium m;
    m.id = element.id;
    m.sigmaT = static_cast<float>(extinctionOfVisibility(s.visibility));
    m.albedo = s.albedo;
    m.g = static_cast<float>(s.anisotropy);
    return m;
}
} // namespace hygros::elements
