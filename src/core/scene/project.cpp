#include "scene/project.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/json_depth.h"
#include "base/words.h"

#include <algorithm>
#include <cctype>
#include <stdexcept>

namespace hygros::scene {
using nlohmann::json;
namespace fs = std::filesystem;

std::string familyName(Family family)
{
    switch (family) {
    case Family::Air: return "Air";
    case Family::Fire: return "Fire";
    case Family::Weather: return "Weather";
    case Family::Water: return "Water";
    case Family::Lights: return "Lights";
    case Family::Set: return "Set";
    case Family::Finish: return "Finish";
    }
    return {};
}

Value Element::value(const std::string& parameter) const
{
    const Parameter* p = findParameter(kind->parameters, parameter);
    if (!p)
        throw std::invalid_argument(kind->label + " has no parameter '" + parameter + "'");
    return p->get(*settings);
}

void Element::set(const std::string& parameter, const Value& v)
{
    const Parameter* p = findParameter(kind->parameters, parameter);
    if (!p)
        throw std::invalid_argument(kind->label + " has no parameter '" + parameter + "'");
    const Value good = p->checked(v);
    auto copy = settings->clone();
    p->assign(*copy, good);
    settings = std::move(copy);
}

const Track* Element::track(const std::string& parameter) const { return motion.of(parameter).get(); }

void Element::setTrack(const std::string& parameter, Track track)
{
    const Parameter* p = findParameter(kind->parameters, parameter);
    if (!p)
        throw std::invalid_argument(kind->label + " has no parameter '" + parameter + "'");
    if (track.empty()) {
        motion.remove(parameter);
        return;
    }
    checkTrack(*p, track);
    motion.put(parameter, std::move(track));
}

void Element::change(const Parameter& p, const std::function<Value(const Value&)>& own, double stretched)
{
    set(p.id, own(p.get(*settings)));
    const Track* was = track(p.id);
    if (!was)
        return;
    Track next = *was;
    const auto times = static_cast<float>(stretched);
    for (Key& k : next.keys) {
        k.value = p.checked(own(k.value));
        for (std::optional<Vec3>* slope : {&k.in, &k.out})
            if (*slope)
                **slope *= times;
    }
    for (Stir& s : next.stirs)
        s.amount *= times;
    setTrack(p.id, std::move(next));
}

Element* Project::find(const std::string& id)
{
    for (Element& e : elements)
        if (e.id == id)
            return &e;
    return nullptr;
}
const Element* Project::find(const std::string& id) const { return const_cast<Project*>(this)->find(id); }

std::string idFromName(const std::string& name, const std::string& otherwise)
{
    std::string id;
    for (const char c : name)
        if (std::isalnum(static_cast<unsigned char>(c)))
            id += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        else if (!id.empty() && id.back() != '-')
            id += '-';
    while (id.ends_with('-'))
        id.pop_back();
    return id.empty() ? otherwise : id;
}

Element& Project::add(const ElementKind& kind, const std::string& elementName)
{
    // Ids are the same in all languages.
    const std::string stem = idFromName(englishOf(elementName), kind.id);
    std::string id = stem;
    for (int n = 2; find(id); ++n)
        id = stem + "-" + std::to_string(n);
    Element e;
    e.id = id;
    e.name = elementName;
    e.kind = &kind;
    e.settings = kind.make();
    elements.push_back(std::move(e));
    return elements.back();
}

const Parameter& reachParameter()
{
    static const Parameter parameter = [] {
        Parameter p;
        p.id = "reach";
        p.label = "reach";
        p.quantity = Quantity::Plain;
        p.hard(0, 1000).soft(0, 2);
        p.fallback = 1.0;
        return p;
    }();
    return parameter;
}

void Element::setReach(const std::string& target, double strength)
{
    if (strength == 1.0)
        reach.erase(target);
    else
        reach[target] = strength;
}

double Element::reachTo(const std::string& target) const
{
    const auto found = reach.find(target);
    return found == reach.end() ? 1.0 : found->second;
}

void Project::remove(const std::string& id)
{
    std::erase_if(elements, [&](const Element& e) { return e.id == id; });
    dropEmptyGroups();
    // Reach to what is gone.
    for (Element& e : elements) {
        std::erase_if(e.reach, [&](const auto& entry) {
            std::string_view target = entry.first;
            if (target.starts_with("sky/"))
                target.remove_prefix(4);
            return target == id || target.starts_with(id + "/");
        });
    }
}

Group* Project::findGroup(const std::string& id)
{
    for (Group& g : groups)
        if (!id.empty() && g.id == id)
            return &g;
    return nullptr;
}
const Group* Project::findGroup(const std::string& id) const { return const_cast<Project*>(this)->findGroup(id); }

void Project::dropEmptyGroups()
{
    std::erase_if(groups, [&](const Group& g) {
        return std::none_of(elements.begin(), elements.end(), [&](const Element& e) { return e.group == g.id; });
    });
}

bool Project::silent(const Element& element) const
{
    const auto mutes = [&](const Element& e) {
        const Group* g = findGroup(e.group);
        return e.muted || (g && g->muted);
    };
    const auto solos = [&](const Element& e) {
        const Group* g = findGroup(e.group);
        return e.soloed || (g && g->soloed);
    };
    if (mutes(element))
        return true;
    if (solos(element))
        return false;
    return std::any_of(elements.begin(), elements.end(), [&](const Element& other) {
        return other.kind->family == element.kind->family && solos(other);
    });
}

void Project::setPath(const std::string& path, const std::string& text)
{
    const auto dot = path.find('.');
    const std::string id = path.substr(0, dot);
    Element* e = find(id);
    if (Group* g = findGroup(id); dot != std::string::npos && !e && g) {
        const std::string flagName = path.substr(dot + 1);
        if (flagName != "muted" && flagName != "soloed")
            throw inputError("Setting", path, "a group has no parameter '" + flagName + "'", "It has: muted, soloed.");
        Parameter flag;
        flag.type = ValueType::Switch;
        flag.label = flagName;
        try {
            (flagName == "muted" ? g->muted : g->soloed) = std::get<bool>(flag.parsed(text));
        } catch (const std::invalid_argument& bad) {
            throw inputError("Setting", path, bad.what());
        }
        return;
    }
    if (dot == std::string::npos || !e) {
        std::string known;
        for (const Element& each : elements)
            known += (known.empty() ? "" : ", ") + each.id;
        throw inputError("Setting", path, "there is no element '" + id + "'", "The project has: " + known + ".");
    }
    std::string parameter = path.substr(dot + 1);
    std::optional<double> keyFrame;
    if (const auto at = parameter.find('@'); at != std::string::npos) {
        keyFrame = parseQuantity(parameter.substr(at + 1), Quantity::Plain);
        if (!keyFrame || std::abs(*keyFrame) > TimeSettings::farthest)
            throw inputError("Setting", path, "'" + parameter.substr(at + 1) + "' is no frame",
                             "A key is set as element.parameter@FRAME=VALUE.");
        parameter.resize(at);
    }
    const auto take = [&](const Parameter& p, const Value& value) {
        if (!keyFrame)
            return e->set(p.id, value);
        const Track* was = e->track(p.id);
        Track next = was ? *was : Track();
        next.put(scene::keyAt(*keyFrame, value));
        e->setTrack(p.id, std::move(next));
    };
    try {
        if (keyFrame && (parameter == "muted" || parameter == "soloed" || parameter.starts_with("reach.")))
            throw std::invalid_argument(parameter + " cannot change over time");
        if (parameter == "muted" || parameter == "soloed") {
            Parameter flag;
            flag.type = ValueType::Switch;
            flag.label = parameter;
            (parameter == "muted" ? e->muted : e->soloed) = std::get<bool>(flag.parsed(text));
            return;
        }
        if (parameter.starts_with("reach.") && e->kind->family == Family::Lights) {
            const std::string target = parameter.substr(6);
            std::string owner = target.starts_with("sky/") ? target.substr(4) : target;
            if (const auto slash = owner.find('/'); slash != std::string::npos && find(owner.substr(0, slash)) &&
                                                    find(owner.substr(0, slash))->kind->hasObjects)
                owner.resize(slash); // an object of a set
            if (!find(owner))
                throw std::invalid_argument("there is no element '" + target + "' to reach");
            e->setReach(target, std::get<double>(reachParameter().parsed(text)));
            return;
        }
        if (const Parameter* p = findParameter(e->kind->parameters, parameter)) {
            take(*p, p->parsed(text));
            return;
        }
        for (const Parameter& p : e->kind->parameters)
            for (const Parameter::Alias& alias : p.aliases)
                if (alias.id == parameter) {
                    // A bare number is in the alias's unit; with a unit of its own the text says what it is.
                    const auto bare = parseQuantity(text, Quantity::Plain);
                    if (bare && *bare <= 0.0)
                        throw std::invalid_argument(parameter + " must be greater than 0");
                    take(p, bare ? p.checked(alias.toOwn(*bare)) : p.parsed(text));
                    return;
                }
    } catch (const std::invalid_argument& bad) {
        throw inputError("Setting", path, bad.what());
    }
    std::string known;
    for (const Parameter& p : e->kind->parameters)
        known += (known.empty() ? "" : ", ") + p.id;
    throw inputError("Setting", path, e->kind->label + " has no parameter '" + parameter + "'",
                     "It has: " + known + ".");
}
} // namespace hygros::scene
