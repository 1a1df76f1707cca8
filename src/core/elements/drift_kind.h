#pragma once
/// What lies strewn on sets, for the freezing of them.
#include "elements/kinds.h"
#include "geometry/strewn.h"

namespace hygros::elements {

geometry::Strewn strewnOn(const scene::Project& project);
} // namespace hygros::elements
