#pragma once
/// What a probe measures: one of the numbers of a baked plume at a place.
#include "elements/bake.h"
#include "sim/smoke/slice.h"

#include <optional>

namespace hygros::elements {

struct ProbeWish {
    std::string plume;
    Vec3 place{0.f}; ///< world [m]
    sim::Quality quality = sim::Quality::Temperature;
    bool operator==(const ProbeWish&) const = default;
};
/// Of a probe element; nothing for others and for one that is put into no plume.
std::optional<ProbeWish> probeWish(const scene::Project& project, const scene::Element& element, Store& store);
/// At that place; where the plume has nothing, what still air has. Of the gas alone: the wind does not count.
double probed(const sim::Gas& gas, const ProbeWish& wish);
/// What a kind has that is one place: its handle, and where it begins at such a height.
void asPin(Kind& kind, float height);
std::string probeText(double value, sim::Quality quality);
} // namespace hygros::elements
