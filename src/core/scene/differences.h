#pragma once
/// What differs between two states of a project, in words.
#include "scene/project.h"

namespace hygros::scene {

struct Difference {
    std::string element; ///< its id; empty: of the project as a whole
    std::string text;    ///< "Fog bank: top 4 m → 6.5 m"
};
/// From `before` to `after`, element by element in the order of `after`, what is gone last. Frames that are looked at
/// do not count.
std::vector<Difference> differencesBetween(const Project& before, const Project& after);
} // namespace hygros::scene
