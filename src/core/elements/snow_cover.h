#pragma once
/// Where lying snow makes sets white by themselves, for the freezing of them.
#include "elements/kinds.h"
#include "geometry/snowed.h"

namespace hygros::elements {

geometry::Snowed snowedOn(const scene::Project& project);
} // namespace hygros::elements
