#pragma once
/// What a plume's baked frames do to things that it carries.
#include "elements/kinds.h"

namespace hygros::elements {

/// The plume's gas at two of its frames, and where between them one is. Before its first frame that one carries.
struct Ride {
    std::shared_ptr<const media::Carrier> before, after;
    double frameBefore = 0.0, frame = 0.0;
};
Ride rideOn(const scene::Project& project, const std::string& plume, double frame, Store& store);
} // namespace hygros::elements
