#pragma once
/// Where lying snow makes sets white by themselves, for the freezing of them.
#include "elements/kinds.h"
#include "geometry/snowed.h"

namespace hygros::elements {

geometry::Snowed snowedOn(const scene::Project& project);
/// What snow and rain meet: sets that are seen and cast shadows, bare and where they stand as the shutter opens.
std::vector<geometry::PlacedSet> bareOf(const std::vector<geometry::PlacedSet>& placed);
} // namespace hygros::elements
