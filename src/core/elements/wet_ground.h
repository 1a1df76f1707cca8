#pragma once
/// Which water lies on a set.
#include "elements/kinds.h"

namespace hygros::elements {
/// Of all Wet ground elements that are on it or on everything: the wettest of each.
geometry::Wetness wetnessOn(const scene::Project& project, const std::string& set, const shot::Shot& shot,
                            Store& store);
} // namespace hygros::elements
