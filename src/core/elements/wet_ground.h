#pragma once
/// Which water lies on a set.
#include "elements/kinds.h"

namespace hygros::elements {
/// Rings of what falls in a shot and has fallen by now; null: no rain.
std::shared_ptr<const geometry::Rings> ringsOf(const shot::Shot& shot, Store& store);
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
