#include "scene/parameter.h"

#include "base/srgb.h"
#include "base/words.h"

#include <algorithm>
#include <cmath>
#include <sstream>
#include <stdexcept>

namespace hygros::scene {
namespace {
[[noreturn]] void refuse(const Parameter& p, const std::string& why)
{
    throw std::invalid_argument(p.label + " " + why);
}

void checkNumber(const Parameter& p, double v)
{
    if (!std::isfinite(v))
        refuse(p, "must be a finite number");
    if (v < p.hardMin || v > p.hardMax)
        refuse(p, "must lie within " + p.rangeShown() + ", not " + formatQuantity(v, p.quantity));
}

/// Colours as written: "#rrggbb" is display-referred sRGB, brought to linear.
std::optional<Vec3> hexColour(const std::string& text)
{
    if (text.size() != 7 || text[0] != '#' || text.find_first_not_of("0123456789abcdefABCDEF", 1) != std::string::npos)
        return std::nullopt;
    const auto channel = [&](std::size_t at) {
        const float c = static_cast<float>(std::stoi(text.substr(at, 2), nullptr, 16)) / 255.f;
        return linearOfSrgb(c);
    };
    return Vec3(channel(1), channel(3), channel(5));
}

std::vector<double> numbersIn(const Parameter& p, std::string text)
{
    std::replace(text.begin(), text.end(), ',', ' ');
    std::replace(text.begin(), text.end(), ';', ' ');
    std::istringstream in(text);
    std::vector<double> out;
    for (std::string word; in >> word;) {
        const auto number = parseQuantity(word, p.type == ValueType::Point ? p.quantity : Quantity::Plain);
        if (!number)
            refuse(p, "does not understand '" + word + "'");
        out.push_back(*number);
    }
    return out;
}
} // namespace

Value Parameter::checked(const Value& value) const
{
    switch (type) {
    case ValueType::Switch:
        if (!std::holds_alternative<bool>(value))
            refuse(*this, "must be on or off");
        return value;
    case ValueType::Whole: {
        double v = 0.0;
        if (const auto* i = std::get_if<std::int64_t>(&value))
            v = static_cast<double>(*i);
        else if (const auto* d = std::get_if<double>(&value); d && *d == std::floor(*d))
            v = *d;
        else
            refuse(*this, "must be a whole number");
        checkNumber(*this, v);
        return static_cast<std::int64_t>(v);
    }
    case ValueType::Number: {
        double v = 0.0;
        if (const auto* d = std::get_if<double>(&value))
            v = *d;
        else if (const auto* i = std::get_if<std::int64_t>(&value))
            v = static_cast<double>(*i);
        else
            refuse(*this, "must be a number");
        checkNumber(*this, v);
        return v;
    }
    case ValueType::Choice: {
        const auto* s = std::get_if<std::string>(&value);
        if (!s || std::find(choices.begin(), choices.end(), *s) == choices.end())
            refuse(*this, "must be one of " + rangeShown() + (s ? ", not '" + *s + "'" : ""));
        return value;
    }
    case ValueType::Text:
    case ValueType::File:
        if (!std::holds_alternative<std::string>(value))
            refuse(*this, "must be text");
        return value;
    case ValueType::Colour:
    case ValueType::Point: {
        const auto* v = std::get_if<Vec3>(&value);
        if (!v)
            refuse(*this, "must be three numbers");
        for (int i = 0; i < 3; ++i)
            checkNumber(*this, (*v)[i]);
        return value;
    }
    case ValueType::Curve: {
        const auto* c = std::get_if<CurvePoints>(&value);
        if (!c || c->size() < 2)
            refuse(*this, "must be at least two points");
        for (std::size_t i = 0; i < c->size(); ++i) {
            const Vec2 p = (*c)[i];
            if (!std::isfinite(p.x) || !std::isfinite(p.y))
                refuse(*this, "must have finite points");
            if (i && (p.x <= (*c)[i - 1].x || (p.y < (*c)[i - 1].y && !mayFall)))
                refuse(*this, "must rise from point to point");
        }
        return value;
    }
    case ValueType::Stops: {
        const auto* stops = std::get_if<ColourStops>(&value);
        if (!stops || stops->size() < 2 || stops->size() > 8)
            refuse(*this, "must be two to eight colours");
        for (std::size_t i = 0; i < stops->size(); ++i) {
            const ColourStop& s = (*stops)[i];
            for (const float v : {s.at, s.colour.x, s.colour.y, s.colour.z, s.opacity})
                if (!std::isfinite(v) || v < 0.f)
                    refuse(*this, "must have finite numbers from 0 up");
            if (s.at > 1.f || s.opacity > 1.f)
                refuse(*this, "must have places and opacities from 0 to 1");
            if (i && s.at <= (*stops)[i - 1].at)
                refuse(*this, "must have places that rise");
        }
        return value;
    }
    }
    return value;
}

Value Parameter::parsed(const std::string& text) const
{
    switch (type) {
    case ValueType::Switch:
        if (text == "on" || text == "true" || text == "yes" || text == "1")
            return true;
        if (text == "off" || text == "false" || text == "no" || text == "0")
            return false;
        refuse(*this, "must be on or off, not '" + text + "'");
    case ValueType::Whole:
    case ValueType::Number: {
        const auto number = parseQuantity(text, quantity);
        if (!number) {
            std::string units;
            for (const std::string& u : unitsOf(quantity))
                units += (units.empty() ? "" : ", ") + u;
            refuse(*this, "does not understand '" + text + "'" + (units.empty() ? "" : " (units: " + units + ")"));
        }
        return checked(*number);
    }
    case ValueType::Choice:
    case ValueType::Text:
    case ValueType::File: return checked(text);
    case ValueType::Colour:
        if (const auto colour = hexColour(text))
            return checked(*colour);
        [[fallthrough]];
    case ValueType::Point: {
        const std::vector<double> n = numbersIn(*this, text);
        if (n.size() == 1 && type == ValueType::Colour)
            return checked(Vec3(static_cast<float>(n[0])));
        if (n.size() != 3)
            refuse(*this, "needs three numbers");
        return checked(Vec3(static_cast<float>(n[0]), static_cast<float>(n[1]), static_cast<float>(n[2])));
    }
    case ValueType::Curve: {
        const std::vector<double> n = numbersIn(*this, text);
        if (n.size() % 2)
            refuse(*this, "needs pairs of numbers");
        CurvePoints c;
        for (std::size_t i = 0; i + 1 < n.size(); i += 2)
            c.emplace_back(static_cast<float>(n[i]), static_cast<float>(n[i + 1]));
        return checked(c);
    }
    case ValueType::Stops: {
        // "0 #dfe6ea 0%; 1 #dfe6ea 90%", or five numbers a stop.
        ColourStops stops;
        std::istringstream each(text);
        for (std::string part; std::getline(each, part, ';');) {
            std::replace(part.begin(), part.end(), ',', ' ');
            std::istringstream words(part);
            std::vector<std::string> w;
            for (std::string word; words >> word;)
                w.push_back(word);
            if (w.empty())
                continue;
            const auto number = [&](const std::string& t) {
                const auto v = parseQuantity(t, Quantity::Share);
                if (!v)
                    refuse(*this, "does not understand '" + t + "'");
                return static_cast<float>(*v);
            };
            ColourStop s;
            if (w.size() == 3 && hexColour(w[1]))
                s = {number(w[0]), *hexColour(w[1]), number(w[2])};
            else if (w.size() == 5)
                s = {number(w[0]), Vec3(number(w[1]), number(w[2]), number(w[3])), number(w[4])};
            else
                refuse(*this, "needs place, colour and opacity for each stop: 0 #dfe6ea 0%; 1 #dfe6ea 90%");
            stops.push_back(s);
        }
        return checked(stops);
    }
    }
    return fallback;
}

std::string Parameter::shown(const Value& value) const
{
    struct {
        const Parameter& p;
        std::string operator()(bool v) const { return words(v ? "on" : "off"); }
        std::string operator()(std::int64_t v) const { return std::to_string(v); }
        std::string operator()(double v) const { return formatQuantity(v, p.quantity); }
        std::string operator()(const std::string& v) const { return p.type == ValueType::Choice ? words(v) : v; }
        std::string operator()(const Vec3& v) const
        {
            return formatNumber(v.x, 4) + " " + formatNumber(v.y, 4) + " " + formatNumber(v.z, 4);
        }
        std::string operator()(const CurvePoints& v) const
        {
            std::string out;
            for (const Vec2& q : v)
                out += (out.empty() ? "" : "  ") + formatNumber(q.x) + " " + formatNumber(q.y);
            return out;
        }
        std::string operator()(const ColourStops& v) const
        {
            std::string out;
            for (const ColourStop& s : v)
                out += (out.empty() ? "" : "; ") + formatNumber(s.at) + " " + formatNumber(s.colour.x) + " " +
                       formatNumber(s.colour.y) + " " + formatNumber(s.colour.z) + " " + formatNumber(s.opacity);
            return out;
        }
    } const show{*this};
    return std::visit(show, value);
}

std::string Parameter::rangeShown() const
{
    if (type == ValueType::Choice) {
        std::string out;
        for (const std::string& c : choices)
            out += (out.empty() ? "" : ", ") + c;
        return out;
    }
    if (hardMin < -1e299 && hardMax > 1e299)
        return {};
    return formatQuantity(hardMin, quantity) + " to " + formatQuantity(hardMax, quantity);
}

double Parameter::rulerPosition(double value) const
{
    if (logarithmic)
        return std::log(std::max(value, softMin * 1e-6) / softMin) / std::log(softMax / softMin);
    return (value - softMin) / (softMax - softMin);
}

double Parameter::rulerValue(double position) const
{
    if (logarithmic)
        return softMin * std::pow(softMax / softMin, position);
    return softMin + position * (softMax - softMin);
}

const Parameter* findParameter(const ParameterTable& table, const std::string& id)
{
    for (const Parameter& p : table)
        if (p.id == id)
            return &p;
    return nullptr;
}

bool applies(const ParameterTable& table, const Parameter& parameter, const Settings& settings)
{
    if (parameter.shownWhen.empty())
        return true;
    const auto equals = parameter.shownWhen.find('=');
    const Parameter* other = findParameter(table, parameter.shownWhen.substr(0, equals));
    if (!other)
        return true;
    // (As it stands in files, whatever the language that it is shown in.)
    const Value value = other->get(settings);
    const auto* text = std::get_if<std::string>(&value);
    const auto* on = std::get_if<bool>(&value);
    const std::string now = text ? *text : on ? (*on ? "on" : "off") : other->shown(value);
    // "link=": while nothing is chosen there; "link=*": while something is.
    if (const std::string rest = parameter.shownWhen.substr(equals + 1); rest.empty() || rest == "*")
        return now.empty() == rest.empty();
    std::istringstream wanted(parameter.shownWhen.substr(equals + 1));
    for (std::string one; std::getline(wanted, one, '|');)
        if (one == now)
            return true;
    return false;
}
} // namespace hygros::scene
