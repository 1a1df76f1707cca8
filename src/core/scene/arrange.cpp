#include "scene/arrange.h"

#include "base/error.h"

#include <algorithm>
#include <map>

namespace hygros::scene {
namespace {
bool has(Ids ids, const std::string& id) { return std::find(ids.begin(), ids.end(), id) != ids.end(); }

/// A file's name as seen from another folder; absolute where there is no way.
std::string fileFrom(const Project& part, const std::filesystem::path& folder, const std::string& file)
{
    const auto full = std::filesystem::absolute(resolved(part, file)).lexically_normal();
    const auto shorter = folder.empty() ? full : full.lexically_relative(std::filesystem::absolute(folder));
    return (shorter.empty() ? full : shorter).generic_string();
}

/// A light's Reach, with what was renamed under its new names. Targets may begin with "sky/" and end with "/object".
std::map<std::string, double> renamedReach(const std::map<std::string, double>& reach,
                                           const std::map<std::string, std::string>& renamed)
{
    std::map<std::string, double> out;
    for (const auto& [target, strength] : reach) {
        const std::string sky = target.starts_with("sky/") ? "sky/" : "";
        const std::string rest = target.substr(sky.size());
        const auto slash = rest.find('/');
        const auto known = renamed.find(rest.substr(0, slash));
        out[known == renamed.end()
                ? target
                : sky + known->second + (slash == std::string::npos ? "" : rest.substr(slash))] = strength;
    }
    return out;
}

void scaleLengths(Element& e, double scale)
{
    for (const Parameter& p : e.kind->parameters) {
        if (p.quantity != Quantity::Length && p.quantity != Quantity::Visibility)
            continue;
        const auto within = [&](double v) { return std::clamp(v * scale, p.hardMin, p.hardMax); };
        const auto scaled = [&](const Value& v) -> Value {
            if (const auto* number = std::get_if<double>(&v))
                return within(*number);
            const auto* point = std::get_if<Vec3>(&v);
            if (!point)
                return v;
            Vec3 out;
            for (int i = 0; i < 3; ++i)
                out[i] = static_cast<float>(within(static_cast<double>((*point)[i])));
            return out;
        };
        e.change(p, scaled, scale);
    }
}
} // namespace

Project partOf(const Project& project, Ids ids)
{
    Project part;
    part.name = project.name;
    part.time = project.time;
    part.folder = project.folder;
    for (const Element& e : project.elements)
        if (has(ids, e.id)) {
            part.elements.push_back(e);
            const Group* g = project.findGroup(e.group);
            if (g && !part.findGroup(g->id))
                part.groups.push_back(*g);
        }
    return part;
}

std::string freeName(const Project& project, const std::string& name)
{
    const auto taken = [&](const std::string& n) {
        return std::any_of(project.elements.begin(), project.elements.end(),
                           [&](const Element& e) { return e.name == n; });
    };
    if (!taken(name))
        return name;
    // "Mist 2" goes on with 3, not with "Mist 2 2".
    std::string stem = name;
    const auto blank = stem.find_last_of(' ');
    if (blank != std::string::npos && blank > 0 && blank + 1 < stem.size() &&
        std::all_of(stem.begin() + static_cast<std::ptrdiff_t>(blank) + 1, stem.end(),
                    [](char c) { return c >= '0' && c <= '9'; }))
        stem.resize(blank);
    for (int n = 2;; ++n)
        if (const std::string next = stem + " " + std::to_string(n); !taken(next))
            return next;
}

std::vector<std::string> putPart(Project& project, const Project& part, const Putting& how)
{
    std::vector<std::string> ids;
    std::map<std::string, std::string> renamed, groups;
    std::size_t at = project.elements.size();
    for (std::size_t i = 0; i < project.elements.size(); ++i)
        if (project.elements[i].id == how.after)
            at = i + 1;
    for (const Element& from : part.elements) {
        const bool taken = std::any_of(project.elements.begin(), project.elements.end(),
                                       [&](const Element& e) { return e.kind == from.kind; });
        if (from.kind->single && taken)
            continue;
        const bool free = how.keepsIds && !project.find(from.id);
        Element added = project.add(*from.kind, from.name);
        project.elements.pop_back();
        const std::string id = free ? from.id : added.id;
        added = from;
        added.id = id;
        renamed[from.id] = id;
        for (const Parameter& p : added.kind->parameters) {
            const Value own = p.get(*added.settings);
            if (const auto* file = std::get_if<std::string>(&own); file && p.type == ValueType::File && !file->empty())
                added.set(p.id, fileFrom(part, project.folder, *file));
        }
        if (how.scale != 1.0)
            scaleLengths(added, how.scale);
        for (const Parameter& p : added.kind->parameters)
            if (p.isPlace && how.move != Vec3(0.f))
                added.change(p, [&](const Value& v) -> Value { return std::get<Vec3>(v) + how.move; });
        if (const Group* g = part.findGroup(added.group)) {
            if (!groups.count(g->id)) {
                Group copy = *g;
                for (int n = 2; project.findGroup(copy.id); ++n)
                    copy.id = g->id + "-" + std::to_string(n);
                groups[g->id] = copy.id;
                project.groups.push_back(copy);
            }
            added.group = groups[g->id];
        } else {
            added.group.clear();
        }
        ids.push_back(id);
        project.elements.insert(project.elements.begin() + static_cast<std::ptrdiff_t>(at++), std::move(added));
    }
    for (const std::string& id : ids) {
        Element& e = *project.find(id);
        e.reach = renamedReach(e.reach, renamed);
        for (const auto& [parameter, track] : Motion(e.motion)) {
            Track next = *track;
            for (Stir& s : next.stirs)
                if (const auto dot = s.source.find('.'); dot != std::string::npos)
                    if (const auto known = renamed.find(s.source.substr(0, dot)); known != renamed.end())
                        s.source = known->second + s.source.substr(dot);
            e.setTrack(parameter, std::move(next));
        }
        for (const Parameter& p : e.kind->parameters)
            if (!p.linksTo.empty()) {
                const auto link = std::get<std::string>(p.get(*e.settings));
                // What goes with a part of a set names it after a slash.
                const auto slash = p.isCarrier ? link.find('/') : std::string::npos;
                if (const auto known = renamed.find(link); known != renamed.end())
                    e.set(p.id, known->second);
                else if (const auto set = renamed.find(link.substr(0, slash));
                         slash != std::string::npos && set != renamed.end())
                    e.set(p.id, set->second + link.substr(slash));
            }
    }
    return ids;
}

std::vector<std::string> duplicate(Project& project, Ids ids)
{
    Project part = partOf(project, ids);
    std::erase_if(part.elements, [](const Element& e) { return e.kind->single; });
    if (part.elements.empty())
        return {};
    // A group that is not doubled as a whole takes the doubles in.
    std::vector<std::string> joined;
    for (const Group& g : part.groups)
        if (membersOf(part, g.id).size() != membersOf(project, g.id).size())
            joined.push_back(g.id);
    std::map<std::string, std::string> kept;
    for (Element& e : part.elements) {
        if (std::find(joined.begin(), joined.end(), e.group) != joined.end())
            kept[e.id] = e.group;
        e.name = freeName(project, e.name);
    }
    std::erase_if(part.groups,
                  [&](const Group& g) { return std::find(joined.begin(), joined.end(), g.id) != joined.end(); });
    for (Group& g : part.groups)
        g.name += " copy";
    std::vector<std::string> originals;
    for (const Element& e : part.elements)
        originals.push_back(e.id);
    Putting how;
    how.after = originals.back();
    const std::vector<std::string> added = putPart(project, part, how);
    std::map<std::string, std::string> doubles;
    for (std::size_t i = 0; i < added.size(); ++i) {
        doubles[originals[i]] = added[i];
        if (const auto group = kept.find(originals[i]); group != kept.end())
            project.find(added[i])->group = group->second;
        // Names that were free one by one may have become alike.
        Element& e = *project.find(added[i]);
        const std::string name = e.name;
        e.name.clear();
        e.name = freeName(project, name);
    }
    for (Element& e : project.elements) {
        std::map<std::string, double> more;
        for (const auto& [target, strength] : renamedReach(e.reach, doubles))
            more.emplace(target, strength);
        e.reach.insert(more.begin(), more.end());
    }
    return added;
}

std::string partToText(const Project& project, Ids ids)
{
    Project part = partOf(project, ids);
    part.unknown = nlohmann::json::object();
    if (!project.folder.empty())
        part.unknown["takenFrom"] = std::filesystem::absolute(project.folder).generic_string();
    return toJson(part);
}

Project partFromText(const std::string& text, const KindLookup& kinds)
{
    Project part = fromJson(text, "the clipboard", kinds);
    if (part.elements.empty())
        throw inputError("Pasting", "", "the clipboard holds no element of a kind that is known here");
    if (part.unknown.contains("takenFrom") && part.unknown["takenFrom"].is_string())
        part.folder = part.unknown["takenFrom"].get<std::string>();
    return part;
}

void moveBefore(Project& project, Ids ids, const std::string& before)
{
    if (has(ids, before))
        return;
    const Element* target = project.find(before);
    const std::string group = target ? target->group : std::string();
    std::vector<Element> moved;
    for (const Element& e : project.elements)
        if (has(ids, e.id)) {
            moved.push_back(e);
            moved.back().group = group;
        }
    std::erase_if(project.elements, [&](const Element& e) { return has(ids, e.id); });
    const auto at = std::find_if(project.elements.begin(), project.elements.end(),
                                 [&](const Element& e) { return e.id == before; });
    project.elements.insert(at, moved.begin(), moved.end());
}

std::string makeGroup(Project& project, Ids ids, const std::string& name)
{
    Group group;
    group.name = name;
    const std::string stem = idFromName(name, "group");
    group.id = stem;
    for (int n = 2; project.findGroup(group.id); ++n)
        group.id = stem + "-" + std::to_string(n);
    std::vector<Element> members;
    std::ptrdiff_t first = -1;
    std::vector<Element> others;
    for (const Element& e : project.elements) {
        if (has(ids, e.id)) {
            if (first < 0)
                first = static_cast<std::ptrdiff_t>(others.size());
            members.push_back(e);
            members.back().group = group.id;
        } else {
            others.push_back(e);
        }
    }
    if (members.empty())
        throw std::invalid_argument("there is nothing to group");
    others.insert(others.begin() + first, members.begin(), members.end());
    project.elements = std::move(others);
    project.groups.push_back(group);
    project.dropEmptyGroups();
    return group.id;
}

void dissolveGroup(Project& project, const std::string& group)
{
    for (Element& e : project.elements)
        if (e.group == group)
            e.group.clear();
    project.dropEmptyGroups();
}

std::vector<std::string> membersOf(const Project& project, const std::string& group)
{
    std::vector<std::string> ids;
    for (const Element& e : project.elements)
        if (e.group == group)
            ids.push_back(e.id);
    return ids;
}

bool isDefault(const Element& element, const Parameter& parameter)
{
    return parameter.get(*element.settings) == parameter.fallback;
}
} // namespace hygros::scene
