#pragma once
/// The project: a list of elements with their settings, as plain values. Copying a Project is cheap (settings
/// are shared until changed), which is what undo keeps.
#include "scene/track.h"

#include <cmath>
#include <filesystem>
#include <map>
#include <nlohmann/json.hpp>
#include <string>
#include <vector>

namespace hygros::scene {

enum class Family { Air, Fire, Weather, Water, Lights, Set, Finish };
std::string familyName(Family family);

/// What the document needs to know of a kind of element. The kinds themselves live in elements/.
struct ElementKind {
    std::string id, label, help;
    Family family = Family::Air;
    bool single = false;     ///< a project has at most one (the shot, the look)
    bool permanent = false;  ///< a project always has it; it is not added or removed
    bool hasObjects = false; ///< Reach tells its objects apart, as "element/object"
    ParameterTable parameters;
    std::function<std::shared_ptr<Settings>()> make;
};

/// Kinds by id; null when unknown.
using KindLookup = std::function<const ElementKind*(const std::string&)>;

struct Element {
    std::string id;   ///< unique in the project; the first part of a parameter path
    std::string name; ///< what the artist calls it
    const ElementKind* kind = nullptr;
    std::string group; ///< id of the group it belongs to; empty: none
    bool muted = false, soloed = false;
    std::shared_ptr<const Settings> settings;
    /// Of a light: its strength in other elements, by their ids; those that are not here get 1. The sky's, which
    /// belongs to the sun's element, begin with "sky/".
    std::map<std::string, double> reach;
    void setReach(const std::string& target, double strength);
    double reachTo(const std::string& target) const;
    /// How its parameters change over time, by their ids.
    Motion motion;
    std::shared_ptr<const Settings> unposed; ///< in a posed project (evaluate.h): the settings as they are saved
    /// Null where the parameter has neither keys nor stirs.
    const Track* track(const std::string& parameter) const;
    /// Checked; throws std::invalid_argument. An empty one is taken away.
    void setTrack(const std::string& parameter, Track track);
    /// Puts another value in place of the setting and of all its keys: v becomes own(v). Slopes and stirs are
    /// multiplied by `stretched`.
    void change(const Parameter& parameter, const std::function<Value(const Value&)>& own, double stretched = 1.0);
    nlohmann::json unknown; ///< keys this version does not know, kept for saving

    Value value(const std::string& parameter) const;
    /// Checked; throws std::invalid_argument.
    void set(const std::string& parameter, const Value& value);
    template <class T> const T& as() const { return static_cast<const T&>(*settings); }
};

/// What a strength in Element::reach may be.
const Parameter& reachParameter();

/// Elements that belong together: they are muted, soloed, folded away and moved as one.
struct Group {
    std::string id, name;
    bool muted = false, soloed = false, folded = false;
    nlohmann::json unknown; ///< as Element::unknown
};

/// A name in small letters, digits and single hyphens; `otherwise` where nothing of it is left.
std::string idFromName(const std::string& name, const std::string& otherwise);

struct Project {
    std::string name = "Untitled";
    double frame = 1.0; ///< the one that is looked at, which may lie between two
    TimeSettings time;
    int frameNumber() const { return static_cast<int>(std::floor(frame)); }
    std::vector<Element> elements;
    std::vector<Group> groups;
    std::filesystem::path folder; ///< relative file names start here; not saved
    std::filesystem::path baked;  ///< folder of its frame store; not saved; empty: it has none
    nlohmann::json unknown;
    std::vector<nlohmann::json> unknownElements; ///< of kinds this version does not know

    Element* find(const std::string& id);
    const Element* find(const std::string& id) const;
    /// A new element with default settings and an unused id made from the name.
    Element& add(const ElementKind& kind, const std::string& elementName);
    void remove(const std::string& id);
    Group* findGroup(const std::string& id);
    const Group* findGroup(const std::string& id) const;
    void dropEmptyGroups();
    /// Muted itself or by its group, or another of its family is soloed and it is not.
    bool silent(const Element& element) const;
    /// Sets "element.parameter" from text with units, or "group.muted"; "element.parameter@48" puts a key at a frame.
    /// Throws an input Error that lists what exists.
    void setPath(const std::string& path, const std::string& text);
};

/// Files with motion, a loop or a fraction as rate are of version 2; others stay readable by programs of version 1.
inline constexpr int projectVersion = 2;

/// The project as JSON text (metres, degrees, relative paths; docs/project-format.md).
std::string toJson(const Project& project);
/// Reads JSON text. `subject` names it in errors. Throws an input Error for damage (with line and column), a foreign
/// format, a newer version, a wrong type, a value out of range. Unknown keys and kinds are kept.
Project fromJson(const std::string& text, const std::string& subject, const KindLookup& kinds);

/// A setting's value as it stands in a project file.
nlohmann::json jsonOf(const Value& value);
/// And back; throws std::invalid_argument when the JSON type cannot be the parameter's.
Value valueOf(const Parameter& parameter, const nlohmann::json& json);

Project loadProject(const std::filesystem::path& file, const KindLookup& kinds);
/// The same with file names as seen from another folder.
Project namedFrom(const Project& project, const std::filesystem::path& folder);
/// Atomic; file names inside are made relative to the new place.
void saveProject(const Project& project, const std::filesystem::path& file);

/// Where the baked frames of a project lie: beside it, in a folder of its name.
std::filesystem::path bakedBeside(const std::filesystem::path& file);

/// `file` as seen from the project's folder, absolute.
std::filesystem::path resolved(const Project& project, const std::string& file);
} // namespace hygros::scene
