#pragma once
/// Checks: what in a project has no effect, or hardly looks as meant; where, by how much, why, and what to set.
///
/// Each is told from the frozen shot and from what was measured of its picture; what was not measured is not judged.
#include "scene/project.h"
#include "shot/shot.h"

#include <map>
#include <optional>

namespace hygros::reading {

/// Optical depth under which a medium cannot be seen: it takes half a percent of the light.
inline constexpr double unseenDepth = 0.005;

struct Finding {
    enum class Grade {
        Trouble,    ///< it does not do what it is there for
        Advice,     ///< it may not look as meant
        Information ///< on purpose, as a rule: good to know
    } grade = Grade::Trouble;
    std::string id;      ///< which check it is: "thin", "outside", "hidden", …
    std::string element; ///< id; empty: of the picture as a whole
    std::string text;    ///< a sentence or two, with its number
    double number = 0.0; ///< that it was told by
    /// What would mend it, "element.parameter" and its value as text; empty: nothing does by itself.
    struct Fix {
        std::string label;
        std::vector<std::pair<std::string, std::string>> settings;
        bool bakes = false; ///< the element, instead of setting anything
    } fix;
};

/// What is known of the picture. Elements that are not in a list were not measured.
struct Measured {
    std::map<std::string, double> adds;  ///< light that an element alone adds, of the picture's
    std::map<std::string, double> costs; ///< of the time of a pass
    std::optional<double> white;   ///< share of the pixels that are shown as white, 250 of 255 and more in all channels
    std::vector<float> separation; ///< between neighbouring planes [stops]; empty: not measured
    std::map<std::string, Box3> bounds; ///< of sets, where they stand
};
/// Of a set where it stands; nothing for what has no geometry, or whose file is not there.
std::optional<Box3> boundsOf(const scene::Project& project, const scene::Element& element, Store& store,
                             JobControl& job);
/// Renders a small picture for it; a second or two.
Measured measured(const scene::Project& project, const std::shared_ptr<const shot::Shot>& shot, Store& store,
                  JobControl& job);

/// Troubles first, each grade in the project's order. `project` as it stands at the shot's frame.
std::vector<Finding> checksOf(const scene::Project& project, const shot::Shot& shot, const Measured& measured);
} // namespace hygros::reading
