/// Projects as JSON, and their files.
#include "scene/project.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/json_depth.h"
#include "scene/evaluate.h"
#include "scene/track_json.h"

#include <algorithm>
#include <cctype>
#include <charconv>
#include <stdexcept>

namespace hygros::scene {
using nlohmann::json;
namespace fs = std::filesystem;

namespace {
json valueToJson(const Value& value)
{
    struct {
        json operator()(bool v) const { return v; }
        json operator()(std::int64_t v) const { return v; }
        json operator()(double v) const { return v; }
        json operator()(const std::string& v) const { return v; }
        json operator()(const Vec3& v) const { return json::array({exact(v.x), exact(v.y), exact(v.z)}); }
        json operator()(const CurvePoints& v) const
        {
            json points = json::array();
            for (const Vec2& p : v)
                points.push_back({exact(p.x), exact(p.y)});
            return points;
        }
        json operator()(const ColourStops& v) const
        {
            json stops = json::array();
            for (const ColourStop& s : v)
                stops.push_back(
                    {exact(s.at), exact(s.colour.x), exact(s.colour.y), exact(s.colour.z), exact(s.opacity)});
            return stops;
        }
        /// The shortest decimal that reads back as the same float.
        static double exact(float v)
        {
            char text[32];
            const auto end = std::to_chars(text, text + sizeof text, v).ptr;
            double d = v;
            std::from_chars(text, end, d);
            return d;
        }
    } const convert{};
    return std::visit(convert, value);
}

/// What a value is, in few words, however large it is.
std::string brief(const json& j)
{
    if (j.is_array())
        return "a list of " + std::to_string(j.size());
    if (j.is_object())
        return "an object";
    if (j.is_string() && j.get_ref<const std::string&>().size() > 40)
        return "a text of " + std::to_string(j.get_ref<const std::string&>().size()) + " characters";
    return j.dump(-1, ' ', false, json::error_handler_t::replace);
}

/// Throws std::invalid_argument when the JSON type cannot be the parameter's.
Value valueFromJson(const Parameter& p, const json& j)
{
    const auto bad = [&](const char* wanted) {
        return std::invalid_argument(p.label + " must be " + wanted + ", not " + brief(j));
    };
    const auto numbers = [&](std::size_t count) {
        if (!j.is_array() || j.size() != count ||
            !std::all_of(j.begin(), j.end(), [](const json& n) { return n.is_number(); }))
            throw bad(count == 3 ? "three numbers" : "two numbers");
    };
    switch (p.type) {
    case ValueType::Switch:
        if (!j.is_boolean())
            throw bad("true or false");
        return j.get<bool>();
    case ValueType::Whole:
        if (j.is_number_integer())
            return j.get<std::int64_t>();
        throw bad("a whole number");
    case ValueType::Number:
        if (!j.is_number())
            throw bad("a number");
        return j.get<double>();
    case ValueType::Choice:
    case ValueType::Text:
    case ValueType::File:
        if (!j.is_string())
            throw bad("text");
        return j.get<std::string>();
    case ValueType::Colour:
    case ValueType::Point: numbers(3); return Vec3(j[0].get<float>(), j[1].get<float>(), j[2].get<float>());
    case ValueType::Curve: {
        if (!j.is_array())
            throw bad("a list of points");
        CurvePoints c;
        for (const json& point : j) {
            if (!point.is_array() || point.size() != 2 || !point[0].is_number() || !point[1].is_number())
                throw bad("a list of points");
            c.emplace_back(point[0].get<float>(), point[1].get<float>());
        }
        return c;
    }
    case ValueType::Stops: {
        if (!j.is_array())
            throw bad("a list of colour stops");
        ColourStops stops;
        for (const json& s : j) {
            if (!s.is_array() || s.size() != 5 ||
                !std::all_of(s.begin(), s.end(), [](const json& n) { return n.is_number(); }))
                throw bad("a list of stops, five numbers each");
            stops.push_back(
                {s[0].get<float>(), Vec3(s[1].get<float>(), s[2].get<float>(), s[3].get<float>()), s[4].get<float>()});
        }
        return stops;
    }
    }
    throw bad("readable");
}

json elementToJson(const Element& e)
{
    json out = json::object();
    out["id"] = e.id;
    out["kind"] = e.kind->id;
    out["name"] = e.name;
    if (!e.group.empty())
        out["group"] = e.group;
    if (e.muted)
        out["muted"] = true;
    if (e.soloed)
        out["soloed"] = true;
    if (!e.reach.empty()) {
        json reach = json::object();
        for (const auto& [target, strength] : e.reach)
            reach[target] = strength;
        out["reach"] = reach;
    }
    for (const auto& [id, track] : e.motion)
        if (const Parameter* p = findParameter(e.kind->parameters, id))
            out["motion"][id] = trackToJson(*p, *track);
    json settings = e.unknown.is_object() && e.unknown.contains("settings") ? e.unknown["settings"] : json::object();
    for (const Parameter& p : e.kind->parameters)
        settings[p.id] = valueToJson(p.get(*e.settings));
    out["settings"] = settings;
    if (e.unknown.is_object())
        for (const auto& [key, value] : e.unknown.items()) {
            if (key == "motion")
                out[key].update(value);
            else if (key != "settings")
                out[key] = value;
        }
    return out;
}

Element elementFromJson(const json& j, const ElementKind& kind)
{
    Element e;
    e.kind = &kind;
    e.settings = kind.make();
    e.unknown = json::object();
    for (const auto& [key, value] : j.items()) {
        if (key == "id" || key == "name") {
            if (!value.is_string() || value.get<std::string>().empty())
                throw std::invalid_argument(key + " must be text");
            (key == "id" ? e.id : e.name) = value.get<std::string>();
        } else if (key == "group") {
            if (!value.is_string())
                throw std::invalid_argument("group must be text");
            e.group = value.get<std::string>();
        } else if (key == "muted" || key == "soloed") {
            if (!value.is_boolean())
                throw std::invalid_argument(key + " must be true or false");
            (key == "muted" ? e.muted : e.soloed) = value.get<bool>();
        } else if (key == "reach" && kind.family == Family::Lights) {
            if (!value.is_object())
                throw std::invalid_argument("reach must be an object");
            for (const auto& [target, strength] : value.items()) {
                if (!strength.is_number())
                    throw std::invalid_argument("reach to " + target + " must be a number, not " + brief(strength));
                e.setReach(target, std::get<double>(reachParameter().checked(strength.get<double>())));
            }
        } else if (key == "motion") {
            if (!value.is_object())
                throw std::invalid_argument("motion must be an object");
            for (const auto& [name, track] : value.items()) {
                if (const Parameter* p = findParameter(kind.parameters, name))
                    e.setTrack(name, trackFromJson(*p, track));
                else
                    e.unknown["motion"][name] = track;
            }
        } else if (key == "settings") {
            if (!value.is_object())
                throw std::invalid_argument("settings must be an object");
            for (const auto& [name, setting] : value.items()) {
                if (const Parameter* p = findParameter(kind.parameters, name)) {
                    e.set(name, valueFromJson(*p, setting));
                    continue;
                }
                bool taken = false;
                for (const Parameter& p : kind.parameters)
                    for (const Parameter::Alias& alias : p.aliases)
                        if (alias.id == name) {
                            if (!setting.is_number() || !(setting.get<double>() > 0.0))
                                throw std::invalid_argument(name + " must be a number greater than 0, not " +
                                                            brief(setting));
                            if (value.contains(p.id))
                                throw std::invalid_argument(name + " and " + p.id + " say the same thing; keep one");
                            e.set(p.id, alias.toOwn(setting.get<double>()));
                            taken = true;
                        }
                if (!taken)
                    e.unknown["settings"][name] = setting;
            }
        } else if (key != "kind") {
            e.unknown[key] = value;
        }
    }
    if (e.name.empty())
        e.name = kind.label;
    return e;
}
} // namespace

nlohmann::json jsonOf(const Value& value) { return valueToJson(value); }
Value valueOf(const Parameter& parameter, const nlohmann::json& j) { return valueFromJson(parameter, j); }

namespace {
/// The lowest version that reads all of it.
int versionOf(const Project& p)
{
    const bool moves = std::any_of(p.elements.begin(), p.elements.end(),
                                   [](const Element& e) { return !e.motion.empty(); });
    return moves || p.time.loop > 0.0 || !p.time.rate.isWhole() ? projectVersion : 1;
}
} // namespace

std::string toJson(const Project& project)
{
    // ordered: what identifies the file stands first, unknown keys last.
    nlohmann::ordered_json out;
    out["format"] = "hygros-project";
    out["version"] = versionOf(project);
    out["name"] = project.name;
    out["frame"] = project.frameNumber();
    out["framesPerSecond"] = nlohmann::ordered_json(rateToJson(project.time.rate));
    TimeSettings usual;
    usual.rate = project.time.rate;
    if (!(project.time == usual))
        out["time"] = nlohmann::ordered_json(timeToJson(project.time));
    if (!project.groups.empty()) {
        nlohmann::ordered_json groups = nlohmann::ordered_json::array();
        for (const Group& g : project.groups) {
            nlohmann::ordered_json one{{"id", g.id}, {"name", g.name}};
            for (const auto& [key, on] :
                 {std::pair("muted", g.muted), std::pair("soloed", g.soloed), std::pair("folded", g.folded)})
                if (on)
                    one[key] = true;
            if (g.unknown.is_object())
                for (const auto& [key, value] : g.unknown.items())
                    one[key] = nlohmann::ordered_json(value);
            groups.push_back(one);
        }
        out["groups"] = groups;
    }
    nlohmann::ordered_json list = nlohmann::ordered_json::array();
    for (const Element& e : project.elements)
        list.push_back(nlohmann::ordered_json(elementToJson(e)));
    for (const json& e : project.unknownElements)
        list.push_back(nlohmann::ordered_json(e));
    out["elements"] = list;
    if (project.unknown.is_object())
        for (const auto& [key, value] : project.unknown.items())
            out[key] = nlohmann::ordered_json(value);
    return out.dump(2) + "\n";
}

namespace {
Group groupFromJson(const json& j)
{
    if (!j.is_object())
        throw std::invalid_argument("a group must be an object");
    Group g;
    g.unknown = json::object();
    for (const auto& [key, value] : j.items()) {
        if (key == "id" || key == "name") {
            if (!value.is_string() || value.get_ref<const std::string&>().empty())
                throw std::invalid_argument("a group's " + key + " must be text");
            (key == "id" ? g.id : g.name) = value.get<std::string>();
        } else if (key == "muted" || key == "soloed" || key == "folded") {
            if (!value.is_boolean())
                throw std::invalid_argument("a group's " + key + " must be true or false");
            (key == "muted" ? g.muted : key == "soloed" ? g.soloed : g.folded) = value.get<bool>();
        } else {
            g.unknown[key] = value;
        }
    }
    if (g.id.empty())
        throw std::invalid_argument("a group has no id");
    if (g.name.empty())
        g.name = g.id;
    return g;
}
} // namespace

Project fromJson(const std::string& text, const std::string& subject, const KindLookup& kinds)
{
    const std::string doing = "Opening", kept = "Nothing was replaced.";
    checkJsonDepth(text, doing, subject);
    json root;
    try {
        root = json::parse(text);
    } catch (const json::parse_error& e) {
        const auto upTo = std::min(e.byte, text.size());
        const auto line = 1 + std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(upTo), '\n');
        throw inputError(doing, subject, "it is damaged near line " + std::to_string(line) + " (not valid JSON)", kept);
    } catch (const json::exception&) {
        throw inputError(doing, subject, "it holds a number too large to be one", kept);
    }
    if (!root.is_object() || !root.contains("format") || root["format"] != "hygros-project")
        throw inputError(doing, subject, "it is not a Hygros project", kept);
    if (!root.contains("version") || !root["version"].is_number_integer() || root["version"].get<int>() < 1)
        throw inputError(doing, subject, "its version is missing or no whole number", kept);
    if (root["version"].get<std::int64_t>() > projectVersion)
        throw inputError(doing, subject,
                         "it was saved by a newer Hygros (format version " + root["version"].dump() +
                             "; this one reads up to " + std::to_string(projectVersion) + ")",
                         kept + " Open it with the newer version.");
    Project project;
    project.unknown = json::object();
    try {
        for (const auto& [key, value] : root.items()) {
            if (key == "format" || key == "version")
                continue;
            if (key == "name") {
                if (!value.is_string())
                    throw std::invalid_argument("name must be text");
                project.name = value.get<std::string>();
            } else if (key == "frame") {
                if (!value.is_number_integer() || std::abs(value.get<double>()) > TimeSettings::farthest)
                    throw std::invalid_argument("frame must be a whole number within ten million");
                project.frame = value.get<int>();
            } else if (key == "framesPerSecond") {
                project.time.rate = rateFromJson(value);
            } else if (key == "time") {
                timeFromJson(project.time, value);
            } else if (key == "groups") {
                if (!value.is_array())
                    throw std::invalid_argument("groups must be a list");
                for (const json& j : value) {
                    Group g = groupFromJson(j);
                    if (project.findGroup(g.id))
                        throw std::invalid_argument("the group '" + g.id + "' is there twice");
                    project.groups.push_back(std::move(g));
                }
            } else if (key == "elements") {
                if (!value.is_array())
                    throw std::invalid_argument("elements must be a list");
            } else {
                project.unknown[key] = value;
            }
        }
    } catch (const std::invalid_argument& bad) {
        throw inputError(doing, subject, bad.what(), kept);
    }
    if (root.contains("elements"))
        for (const json& j : root["elements"]) {
            if (!j.is_object() || !j.contains("kind") || !j["kind"].is_string())
                throw inputError(doing, subject, "an element has no kind", kept);
            const ElementKind* kind = kinds(j["kind"].get<std::string>());
            if (!kind) {
                project.unknownElements.push_back(j);
                continue;
            }
            const std::string label = j.contains("id") && j["id"].is_string() ? j["id"].get<std::string>() : kind->id;
            try {
                Element e = elementFromJson(j, *kind);
                if (e.id.empty() || e.id.find('.') != std::string::npos)
                    throw std::invalid_argument("its id is missing or has a dot in it");
                if (project.find(e.id))
                    throw std::invalid_argument("its id is used twice");
                if (kind->single)
                    for (const Element& other : project.elements)
                        if (other.kind == kind)
                            throw std::invalid_argument("there can be only one " + kind->label);
                // A group that only its elements tell of.
                if (!e.group.empty() && !project.findGroup(e.group))
                    project.groups.push_back({e.group, e.group, false, false, false, json::object()});
                project.elements.push_back(std::move(e));
            } catch (const std::invalid_argument& bad) {
                throw inputError(doing, subject, "element '" + label + "': " + bad.what(), kept);
            }
        }
    try {
        checkFollows(project);
    } catch (const std::invalid_argument& bad) {
        throw inputError(doing, subject, bad.what(), kept);
    }
    return project;
}

Project loadProject(const fs::path& file, const KindLookup& kinds)
{
    Project project = fromJson(readText(file, "Opening"), file.string(), kinds);
    project.folder = fs::absolute(file).parent_path();
    project.baked = bakedBeside(file);
    return project;
}

Project namedFrom(const Project& project, const fs::path& folder)
{
    Project copy = project;
    for (Element& e : copy.elements)
        for (const Parameter& p : e.kind->parameters)
            if (p.type == ValueType::File) {
                const auto name = std::get<std::string>(p.get(*e.settings));
                if (!name.empty()) {
                    const fs::path full = fs::absolute(resolved(project, name)),
                                   shorter = full.lexically_relative(folder);
                    e.set(p.id, (shorter.empty() ? full : shorter).generic_string());
                }
            }
    copy.folder = folder;
    return copy;
}

void saveProject(const Project& project, const fs::path& file)
{
    writeTextAtomically(file, toJson(namedFrom(project, fs::absolute(file).parent_path())));
}

fs::path bakedBeside(const fs::path& file)
{
    return fs::absolute(file).parent_path() / (file.stem().string() + ".baked");
}

fs::path resolved(const Project& project, const std::string& file)
{
    const fs::path path(file);
    if (path.is_absolute() || project.folder.empty())
        return path;
    return (project.folder / path).lexically_normal();
}
} // namespace hygros::scene
