#pragma once
/// Which water lies on a set.
#include "elements/kinds.h"

namespace hygros::elements {
/// The water of a frame: made for all sets at once, from where they stand.
class Waters {
public:
    /// `seconds`: since the project's first frame.
    Waters(const scene::Project& project, const std::vector<geometry::PlacedSet>& placed, const shot::Shot& shot,
           double seconds, Store& store, JobControl& job);
    /// Of all Wet ground elements that are on a set or on everything: the wettest of each.
    geometry::Wetness on(const std::string& set) const;

private:
    struct One {
        std::string set; ///< empty: all
        geometry::Wetness wetness;
    };
    std::vector<One> all_;
    std::shared_ptr<const geometry::Rings> rings_;
};
} // namespace hygros::elements
