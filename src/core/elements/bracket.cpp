#include "elements/bracket.h"

#include "base/error.h"
#include "elements/kinds.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
using scene::Parameter;
using scene::Value;
using scene::ValueType;

/// What a path leads to: a setting of an element, whether an element or a group is muted, or the frame.
struct Place {
    const scene::Element* element = nullptr;
    const Parameter* parameter = nullptr;
    const scene::Group* group = nullptr;
    bool muted = false, frame = false;
};

Place find(const scene::Project& project, const std::string& path)
{
    Place out;
    if (path == "frame") {
        out.frame = true;
        return out;
    }
    const auto dot = path.find('.');
    const std::string id = path.substr(0, dot), name = dot == std::string::npos ? "" : path.substr(dot + 1);
    out.element = project.find(id);
    out.group = out.element ? nullptr : project.findGroup(id);
    if (!out.element && !out.group) {
        std::string known;
        for (const scene::Element& e : project.elements)
            known += (known.empty() ? "" : ", ") + e.id;
        throw inputError("Bracketing", path, "there is no element '" + id + "'", "The project has: " + known + ".");
    }
    if (name == "muted") {
        out.muted = true;
        return out;
    }
    out.parameter = out.element ? scene::findParameter(out.element->kind->parameters, name) : nullptr;
    if (!out.parameter) {
        std::string known = "muted";
        if (out.element)
            for (const Parameter& p : out.element->kind->parameters)
                if (!bracketWays(project, id + "." + p.id).empty())
                    known += ", " + p.id;
        throw inputError("Bracketing", path, "'" + id + "' has no setting '" + name + "'", "It has: " + known + ".");
    }
    return out;
}

double numberOf(const Value& v)
{
    if (const auto* whole = std::get_if<std::int64_t>(&v))
        return static_cast<double>(*whole);
    return std::get<double>(v);
}

/// The nearest value that the parameter can have.
Value valueFor(const Parameter& p, double number)
{
    number = std::clamp(number, p.hardMin, p.hardMax);
    return p.type == ValueType::Whole ? Value(static_cast<std::int64_t>(std::llround(number))) : Value(number);
}

double typed(const std::string& path, const std::string& text, Quantity quantity)
{
    const auto value = parseQuantity(text, quantity);
    if (!value) {
        const std::string unit = unitOf(quantity);
        throw inputError("Bracketing", path, "'" + text + "' is no value for it",
                         unit.empty() ? "A number is needed." : "A number in " + unit + " is needed.");
    }
    return *value;
}

void addBoth(BracketAxis& axis)
{
    for (const bool on : {false, true})
        axis.values.emplace_back(on);
}

double step(double from, double to, int i, int count) { return from + (to - from) * i / (count - 1); }
} // namespace

std::string BracketAxis::words() const
{
    return values.size() < 2 || std::holds_alternative<bool>(values[0]) ||
                   std::holds_alternative<std::string>(values[0])
               ? label
               : label + " from " + shown.front() + " to " + shown.back();
}

std::vector<BracketBy> bracketWays(const scene::Project& project, const std::string& path)
{
    const Place at = find(project, path);
    if (at.frame)
        return {BracketBy::Frames};
    if (at.muted)
        return {BracketBy::Choices};
    switch (at.parameter->type) {
    case ValueType::Number:
    case ValueType::Whole:
        // Only what is above 0 can be stepped by how many times it is.
        if (at.parameter->quantity == Quantity::Exposure)
            return {BracketBy::Stops, BracketBy::Even};
        if (at.parameter->logarithmic)
            return {BracketBy::Factors, BracketBy::Even, BracketBy::Stops};
        return at.parameter->hardMin >= 0.0 ? std::vector{BracketBy::Even, BracketBy::Factors, BracketBy::Stops}
                                            : std::vector{BracketBy::Even};
    case ValueType::Switch:
    case ValueType::Choice: return {BracketBy::Choices};
    default: return {};
    }
}

BracketWish bracketBegin(const scene::Project& project, const std::string& path)
{
    const Place at = find(project, path);
    const auto ways = bracketWays(project, path);
    BracketWish wish{path, ways.empty() ? BracketBy::Even : ways.front(), "", "", 6};
    if (at.frame) {
        wish.from = std::to_string(project.time.first);
        wish.to = std::to_string(project.time.last);
        return wish;
    }
    if (wish.by == BracketBy::Choices || ways.empty())
        return wish;
    if (wish.by == BracketBy::Stops) {
        wish.from = "-2";
        wish.to = "2";
        wish.count = 5;
        return wish;
    }
    const Parameter& p = *at.parameter;
    const double now = numberOf(at.element->value(p.id));
    double from = p.softMin, to = p.softMax;
    if (wish.by == BracketBy::Factors && now > 0.0) {
        from = std::max({now / 4.0, p.hardMin, 1e-12});
        to = std::min(now * 4.0, p.hardMax);
    } else if (p.softMax > p.softMin) {
        // A third of the ruler about the present value.
        const double half = (p.softMax - p.softMin) / 6.0;
        from = std::clamp(now - half, p.softMin, p.softMax - 2.0 * half);
        to = from + 2.0 * half;
    }
    wish.from = p.shown(valueFor(p, from));
    wish.to = p.shown(valueFor(p, to));
    return wish;
}

BracketAxis bracketAxis(const scene::Project& project, const BracketWish& wish)
{
    const Place at = find(project, wish.path);
    const auto ways = bracketWays(project, wish.path);
    BracketAxis out{wish.path, "", {}, {}};
    if (ways.empty())
        throw inputError("Bracketing", wish.path, "it is no number, switch or choice");
    if (std::find(ways.begin(), ways.end(), wish.by) == ways.end())
        throw inputError("Bracketing", wish.path,
                         at.frame                        ? "frames are stepped by frames"
                         : ways[0] == BracketBy::Choices ? "it is stepped by choices"
                                                         : "it cannot be stepped so");
    if (at.muted) {
        out.label = at.element ? at.element->name : at.group->name;
        addBoth(out);
        out.shown = {"with", "without"};
        return out;
    }
    out.label = at.frame ? "Frame" : at.element->name + ": " + at.parameter->label;
    if (wish.by == BracketBy::Choices) {
        if (at.parameter->type == ValueType::Switch)
            addBoth(out);
        for (const std::string& choice : at.parameter->choices)
            out.values.emplace_back(choice);
        for (const Value& v : out.values)
            out.shown.push_back(at.parameter->shown(v));
        return out;
    }
    if (wish.count < 2 || wish.count > bracketMost)
        throw inputError("Bracketing", wish.path,
                         "the number of steps must be from 2 to " + std::to_string(bracketMost));
    const bool stops = wish.by == BracketBy::Stops;
    const Quantity quantity = at.frame ? Quantity::Plain : stops ? Quantity::Exposure : at.parameter->quantity;
    const double from = typed(wish.path, wish.from, quantity), to = typed(wish.path, wish.to, quantity);
    if (from == to)
        throw inputError("Bracketing", wish.path, "both ends are the same");
    if (wish.by == BracketBy::Factors && !(from > 0.0 && to > 0.0))
        throw inputError("Bracketing", wish.path, "stepped by factors both ends must be above 0");
    if (at.frame && std::max(std::abs(from), std::abs(to)) > scene::TimeSettings::farthest)
        throw inputError("Bracketing", wish.path,
                         "frames lie within ±" + std::to_string(scene::TimeSettings::farthest));
    if (!at.frame && !stops)
        for (const double end : {from, to})
            if (end < at.parameter->hardMin || end > at.parameter->hardMax)
                throw inputError("Bracketing", wish.path, "its values go from " + at.parameter->rangeShown());
    const double now = at.frame ? 0.0 : numberOf(at.element->value(at.parameter->id));
    if (stops && quantity != at.parameter->quantity && now == 0.0)
        throw inputError("Bracketing", wish.path, "it is 0 now, and any number of times that is 0",
                         "Step it evenly instead.");
    for (int i = 0; i < wish.count; ++i) {
        double number = 0.0;
        if (wish.by == BracketBy::Factors)
            number = from * std::pow(to / from, double(i) / (wish.count - 1));
        else
            number = step(from, to, i, wish.count);
        if (at.frame) {
            const auto frame = static_cast<std::int64_t>(std::llround(number));
            if (out.values.empty() || std::get<std::int64_t>(out.values.back()) != frame) {
                out.values.emplace_back(frame);
                out.shown.push_back(std::to_string(frame));
            }
            continue;
        }
        const Parameter& p = *at.parameter;
        if (stops)
            number = p.quantity == Quantity::Exposure ? now + number : now * std::exp2(number);
        const Value v = valueFor(p, number);
        if (!out.values.empty() && out.values.back() == v)
            continue; // whole numbers, or the end of what it can be
        out.values.push_back(v);
        out.shown.push_back(p.shown(v));
    }
    if (out.values.size() < 2)
        throw inputError("Bracketing", wish.path, "all steps come to the same value, " + out.shown.front());
    return out;
}

scene::Project bracketed(scene::Project project, const BracketAxis& axis, std::size_t which, Store& store)
{
    const Place at = find(project, axis.path);
    const Value& value = axis.values.at(which);
    if (at.frame) {
        project.frame = numberOf(value);
    } else if (at.group) {
        project.findGroup(at.group->id)->muted = std::get<bool>(value);
    } else if (at.muted) {
        project.find(at.element->id)->muted = std::get<bool>(value);
    } else {
        const std::string id = at.element->id, parameter = at.parameter->id;
        project.find(id)->setTrack(parameter, {});
        setValue(project, id, parameter, value, store);
    }
    return project;
}
} // namespace hygros::elements
