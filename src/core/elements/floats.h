#pragma once
/// Sets that float on a water of the project.
#include "elements/kinds.h"
#include "media/floating.h"

namespace hygros::elements {

struct FloatWish {
    double mass = 0.0;     ///< [kg]; 0: what it weighs as deep as it stands
    double weightAt = 0.0; ///< of its height: where its middle of weight lies; 0: in the middle of its surface
};
struct FloatingPose {
    Mat4 moves;                       ///< from where it stands to where it floats, in the world
    media::Hull hull;                 ///< afloat, in still water
    double sinks = 0.0, weight = 0.0; ///< under where it stands; middle of weight over the level [m]
    std::string trouble;              ///< why it does not float: words for the card; empty
};
/// Nothing where the project has no water. `velocity` over the plane [m/s].
std::optional<FloatingPose> floatingPose(const scene::Project& project, const geometry::PlacedSet& still,
                                         const Vec2& velocity, const FloatWish& wish, Store& store, JobControl& job);
/// What is to be said of that on its card.
std::string describeFloating(const FloatingPose& pose);
} // namespace hygros::elements
