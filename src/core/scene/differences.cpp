#include "scene/differences.h"

#include "base/shown_units.h"
#include "scene/track_json.h"

#include <algorithm>

namespace hygros::scene {
namespace {
const char* const arrow = " → ";

class Telling {
public:
    Telling(const Project& before, const Project& after) : before_(before), after_(after) {}
    std::vector<Difference> all()
    {
        if (before_.name != after_.name)
            say({}, "The project was called “" + before_.name + "” and is now “" + after_.name + "”");
        times();
        for (const Group& g : after_.groups)
            group(before_.findGroup(g.id), g);
        for (const Element& e : after_.elements)
            if (const Element* was = before_.find(e.id); was && was->kind == e.kind)
                element(*was, e);
            else
                say(e.id, e.name + " (" + e.kind->label + ") is new");
        for (const Element& e : before_.elements)
            if (const Element* now = after_.find(e.id); !now || now->kind != e.kind)
                say(e.id, e.name + " (" + e.kind->label + ") is gone");
        return std::move(out_);
    }

private:
    void say(const std::string& id, std::string text) { out_.push_back({id, std::move(text)}); }
    void times()
    {
        const TimeSettings &a = before_.time, &b = after_.time;
        const auto one = [&](const char* what, const std::string& was, const std::string& now) {
            if (was != now)
                say({}, std::string("Time: ") + what + " " + was + arrow + now);
        };
        const auto number = [](double v) { return shownNumber(v, 6); };
        one("first frame", number(a.first), number(b.first));
        one("last frame", number(a.last), number(b.last));
        one("frames a second", shown(a.rate), shown(b.rate));
        one("shutter", number(a.shutterAngle) + "°", number(b.shutterAngle) + "°");
        one("opens at", number(a.shutterPhase) + "°", number(b.shutterPhase) + "°");
        one("pre-roll", number(a.preRoll) + " s", number(b.preRoll) + " s");
        one("loop", a.loop > 0.0 ? number(a.loop) + " s" : "none", b.loop > 0.0 ? number(b.loop) + " s" : "none");
    }
    void group(const Group* was, const Group& now)
    {
        const std::string name = "Group " + now.name;
        if (!was)
            return;
        if (was->name != now.name)
            say({}, "Group " + was->name + " is now called “" + now.name + "”");
        toggled({}, name, "muted", was->muted, now.muted);
        toggled({}, name, "soloed", was->soloed, now.soloed);
    }
    void toggled(const std::string& id, const std::string& name, const char* what, bool was, bool now)
    {
        if (was != now)
            say(id, name + ": " + (now ? what : std::string("no longer ") + what));
    }
    static std::string labelOf(const ParameterTable& table, const Parameter& p)
    {
        const auto same = std::count_if(table.begin(), table.end(),
                                        [&](const Parameter& o) { return o.label == p.label; });
        return same > 1 && !p.group.empty() ? p.group + ", " + p.label : p.label;
    }
    void element(const Element& was, const Element& now)
    {
        if (was.name != now.name)
            say(now.id, was.name + " is now called “" + now.name + "”");
        toggled(now.id, now.name, "muted", was.muted, now.muted);
        toggled(now.id, now.name, "soloed", was.soloed, now.soloed);
        if (was.group != now.group)
            say(now.id, now.name + ": group " + groupName(before_, was.group) + arrow + groupName(after_, now.group));
        for (const Parameter& p : now.kind->parameters) {
            const std::string label = now.name + ": " + labelOf(now.kind->parameters, p);
            const Track *a = was.track(p.id), *b = now.track(p.id);
            if (a && b) {
                if (trackToJson(p, *a) != trackToJson(p, *b))
                    say(now.id, label + " changes otherwise over time");
                continue;
            }
            const Value before = p.get(*was.settings), after = p.get(*now.settings);
            if (a || b)
                say(now.id,
                    label + (b ? " changes over time now" : " stays the same over time now, " + brief(p, after)));
            else if (before != after)
                say(now.id, p.type == ValueType::Curve || p.type == ValueType::Stops
                                ? label + " is of another shape"
                                : label + " " + between(p, before, after));
        }
        std::vector<std::string> targets;
        for (const auto* e : {&was, &now})
            for (const auto& [target, strength] : e->reach)
                if (std::find(targets.begin(), targets.end(), target) == targets.end())
                    targets.push_back(target);
        for (const std::string& target : targets)
            if (const double a = was.reachTo(target), b = now.reachTo(target); a != b)
                say(now.id, now.name + ": reach to " + nameOf(target) + " " + percent(a) + arrow + percent(b));
    }
    static std::string brief(const Parameter& p, const Value& v)
    {
        const std::string text = p.shown(v);
        return text.empty() ? "none" : text;
    }
    /// With more digits where few would not tell them apart.
    static std::string between(const Parameter& p, const Value& before, const Value& after)
    {
        std::string a = brief(p, before), b = brief(p, after);
        const double *x = std::get_if<double>(&before), *y = std::get_if<double>(&after);
        if (a == b && x && y) {
            a = shownNumber(*x, 9);
            b = shownNumber(*y, 9);
        }
        return a + arrow + b;
    }
    static std::string percent(double v) { return shownNumber(v * 100.0, 4) + " %"; }
    static std::string groupName(const Project& p, const std::string& id)
    {
        const Group* g = p.findGroup(id);
        return g ? g->name : id.empty() ? "none" : id;
    }
    std::string nameOf(const std::string& target) const
    {
        // "element", "element/object" or "sky/element".
        for (const Project* p : {&after_, &before_})
            for (const Element& e : p->elements) {
                if (target == e.id)
                    return e.name;
                if (target.rfind(e.id + "/", 0) == 0)
                    return e.name + " " + target.substr(e.id.size() + 1);
                if (target == "sky/" + e.id)
                    return e.name + " (of the sky)";
            }
        return target;
    }

    const Project &before_, &after_;
    std::vector<Difference> out_;
};
} // namespace

std::vector<Difference> differencesBetween(const Project& before, const Project& after)
{
    return Telling(before, after).all();
}
} // namespace hygros::scene
