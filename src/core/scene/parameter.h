#pragma once
/// One description per parameter.
///
/// An element's settings are a plain struct derived from `Settings`; a table of `Parameter` describes each field
/// once: id, label, quantity, hard and soft range, default, help. JSON, cards, undo, `hygros-cli --set`,
/// documentation and validation all read this table; nothing keeps a second list.
///
///     struct HazeSettings : SettingsOf<HazeSettings> { double visibility = 2500; … };
///     TableOf<HazeSettings> t;
///     t.number("visibility", "visibility", &HazeSettings::visibility, Quantity::Visibility)
///         .hard(0.05, 1e7).soft(5, 50e3).log().lead().says("Distance at which contrast has fallen to 5 %.");
#include "base/units.h"
#include "base/vec.h"

#include <cstdint>
#include <functional>
#include <memory>
#include <string>
#include <variant>
#include <vector>

namespace hygros::scene {

/// Points of a monotone curve, x ascending.
using CurvePoints = std::vector<Vec2>;
/// One colour of a ramp: its place 0…1, linear RGB, opacity 0…1.
struct ColourStop {
    float at = 0.f;
    Vec3 colour{1.f, 1.f, 1.f};
    float opacity = 1.f;
    bool operator==(const ColourStop&) const = default;
};
/// Two to eight stops, places rising.
using ColourStops = std::vector<ColourStop>;
/// What a field holds. Whole numbers are int64; choices are their text; colours and points are Vec3.
using Value = std::variant<bool, std::int64_t, double, std::string, Vec3, CurvePoints, ColourStops>;

enum class ValueType { Switch, Whole, Number, Choice, Text, File, Colour, Point, Curve, Stops };

/// Base of every settings struct.
struct Settings {
    virtual ~Settings() = default;
    virtual std::shared_ptr<Settings> clone() const = 0;
};
template <class T> struct SettingsOf : Settings {
    std::shared_ptr<Settings> clone() const override { return std::make_shared<T>(static_cast<const T&>(*this)); }
};

struct Parameter {
    /// Another way to give the same number: density as extinction or mean free path instead of visibility.
    struct Alias {
        std::string id;
        std::string unit;
        double (*toOwn)(double);
        double (*fromOwn)(double);
    };

    std::string id, label, group, help;
    ValueType type = ValueType::Number;
    Quantity quantity = Quantity::Plain;
    double hardMin = -1e300, hardMax = 1e300; ///< values outside are refused
    double softMin = 0, softMax = 1;          ///< what a ruler spans
    bool logarithmic = false;
    bool isLead = false;  ///< shown on the folded card
    bool keyable = true;  ///< may change over time
    bool mayFall = false; ///< of a curve: its values need not rise
    bool addsUp = false;  ///< what it does adds up over time: its values of all times before count (a drift's speed)
    bool isLook = false;  ///< says how something is shown; what is simulated does not come from it
    std::vector<std::string> choices;
    std::vector<Alias> aliases;
    Value fallback;         ///< the default
    bool isPlace = false;   ///< a point of the world that moves with the element; measured from what it goes with
    bool isHeading = false; ///< an angle about the vertical that turns with it
    bool isCarrier = false; ///< names the set that the element goes with
    std::string editor;     ///< how it is edited, where its type does not say enough: a name that the window knows
    std::string files;      ///< of a file: what a dialog offers, "Pictures (*.exr *.png)"
    std::string linksTo;    ///< a text that is the id of an element of this kind; or "name": one of a file's names
    std::string shownWhen;  ///< "other=a|b": only of use while the choice or switch `other` has one of the values;
                            ///< "other=": while the text `other` is empty; "other=*": while it is not
    std::function<Value(const Settings&)> get;
    std::function<void(Settings&, const Value&)> assign; ///< unchecked; use checked() first

    Parameter& hard(double lo, double hi) { return hardMin = lo, hardMax = hi, *this; }
    Parameter& soft(double lo, double hi) { return softMin = lo, softMax = hi, *this; }
    Parameter& log() { return logarithmic = true, *this; }
    Parameter& lead() { return isLead = true, *this; }
    Parameter& falls() { return mayFall = true, *this; }
    Parameter& adding() { return addsUp = true, *this; }
    Parameter& look() { return isLook = true, *this; }
    Parameter& fixed() { return keyable = false, *this; }
    Parameter& in(std::string name) { return group = std::move(name), *this; }
    Parameter& place() { return isPlace = true, *this; }
    Parameter& heading() { return isHeading = true, *this; }
    Parameter& carrier() { return isCarrier = true, *this; }
    Parameter& edited(std::string by) { return editor = std::move(by), *this; }
    Parameter& opens(std::string text) { return files = std::move(text), *this; }
    Parameter& says(std::string text) { return help = std::move(text), *this; }
    Parameter& when(std::string text) { return shownWhen = std::move(text), *this; }
    Parameter& linked(std::string kind) { return linksTo = std::move(kind), *this; }
    Parameter& orAs(Alias alias) { return aliases.push_back(std::move(alias)), *this; }

    /// `value`, brought to this parameter's type if that loses nothing; throws std::invalid_argument with a
    /// sentence for people if the type is wrong, the number is not finite, or the hard range is left.
    Value checked(const Value& value) const;
    /// The value that `text` means ("2 km", "0.01 /m", "#f0e8d0", "1 2.5 -3", "box"); throws as checked() does.
    Value parsed(const std::string& text) const;
    /// For people: "2.5 km", "on", "0.99 0.99 0.98".
    std::string shown(const Value& value) const;
    /// "0.05 m to 10 000 km" or the choices; empty where anything goes.
    std::string rangeShown() const;
    /// Where the value lies on the ruler, 0…1 of the soft range (may leave it), and back.
    double rulerPosition(double value) const;
    double rulerValue(double position) const;
};

using ParameterTable = std::vector<Parameter>;

/// The parameter with this id; null if none has it (aliases are not ids).
const Parameter* findParameter(const ParameterTable& table, const std::string& id);
/// True while `shownWhen` holds for these settings.
bool applies(const ParameterTable& table, const Parameter& parameter, const Settings& settings);

template <class T> class TableOf {
public:
    Parameter& number(std::string id, std::string label, double T::*field, Quantity quantity)
    {
        Parameter& p = add(std::move(id), std::move(label), ValueType::Number, field);
        p.quantity = quantity;
        return p;
    }
    Parameter& whole(std::string id, std::string label, std::int64_t T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::Whole, field);
    }
    Parameter& toggle(std::string id, std::string label, bool T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::Switch, field);
    }
    Parameter& choice(std::string id, std::string label, std::string T::*field, std::vector<std::string> choices)
    {
        Parameter& p = add(std::move(id), std::move(label), ValueType::Choice, field);
        p.choices = std::move(choices);
        return p;
    }
    Parameter& text(std::string id, std::string label, std::string T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::Text, field).fixed();
    }
    Parameter& file(std::string id, std::string label, std::string T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::File, field).fixed();
    }
    /// Linear RGB.
    Parameter& colour(std::string id, std::string label, Vec3 T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::Colour, field).hard(0, 1e6).soft(0, 1);
    }
    Parameter& point(std::string id, std::string label, Vec3 T::*field, Quantity quantity = Quantity::Length)
    {
        Parameter& p = add(std::move(id), std::move(label), ValueType::Point, field).hard(-1e6, 1e6);
        p.quantity = quantity;
        return p;
    }
    Parameter& curve(std::string id, std::string label, CurvePoints T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::Curve, field);
    }
    Parameter& stops(std::string id, std::string label, ColourStops T::*field)
    {
        return add(std::move(id), std::move(label), ValueType::Stops, field);
    }
    ParameterTable take() { return std::move(table_); }

private:
    template <class F> Parameter& add(std::string id, std::string label, ValueType type, F T::*field)
    {
        Parameter p;
        p.id = std::move(id);
        p.label = std::move(label);
        p.type = type;
        p.fallback = Value(T().*field);
        p.get = [field](const Settings& s) { return Value(static_cast<const T&>(s).*field); };
        p.assign = [field](Settings& s, const Value& v) { static_cast<T&>(s).*field = std::get<F>(v); };
        table_.push_back(std::move(p));
        return table_.back();
    }
    ParameterTable table_;
};
} // namespace hygros::scene
