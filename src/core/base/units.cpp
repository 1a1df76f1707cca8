#include "base/units.h"

#include "base/shown_units.h"

#include <algorithm>
#include <atomic>
#include <charconv>
#include <cmath>

namespace hygros {
namespace {
struct Unit {
    const char* name;
    double factor;
    bool reciprocal = false; ///< the value is factor/x rather than factor·x
    double zero = 0.0;       ///< what lies at 0 of it
};

const std::vector<Unit>& unitTable(Quantity quantity)
{
    static const std::vector<Unit> plain{{"", 1}}, share{{"", 1}, {"%", 0.01}},
        length{{"m", 1},    {"", 1},        {"mm", 1e-3},   {"cm", 1e-2},
               {"km", 1e3}, {"in", 0.0254}, {"ft", 0.3048}, {"mi", 1609.344}},
        visibility{{"m", 1},
                   {"", 1},
                   {"mm", 1e-3},
                   {"cm", 1e-2},
                   {"km", 1e3},
                   {"in", 0.0254},
                   {"ft", 0.3048},
                   {"mi", 1609.344},
                   {"/m", visibilityConstant, true},
                   {"1/m", visibilityConstant, true},
                   {"m^-1", visibilityConstant, true},
                   {"/km", visibilityConstant * 1e3, true},
                   {"1/km", visibilityConstant * 1e3, true},
                   {"mmfp", visibilityConstant},
                   {"kmmfp", visibilityConstant * 1e3}},
        angle{{"°", 1}, {"", 1}, {"deg", 1}, {"degrees", 1}, {"rad", 57.295779513082321}},
        speed{{"m/s", 1},     {"", 1},          {"km/h", 1 / 3.6}, {"mm/s", 1e-3},
              {"cm/s", 1e-2}, {"ft/s", 0.3048}, {"mph", 0.44704}},
        flux{{"lm", 1}, {"", 1}, {"klm", 1e3}}, exposure{{"EV", 1}, {"", 1}, {"stops", 1}, {"stop", 1}},
        millimetre{{"mm", 1}, {"", 1}, {"cm", 10}, {"m", 1000}, {"in", 25.4}},
        micrometre{{"µm", 1}, {"", 1}, {"um", 1}, {"mm", 1000}}, irradiance{{"lx", 1}, {"", 1}, {"klx", 1e3}},
        intensity{{"cd", 1}, {"", 1}, {"kcd", 1e3}}, power{{"W", 1}, {"", 1}, {"mW", 1e-3}, {"kW", 1e3}},
        frequency{{"Hz", 1},           {"", 1},          {"/s", 1}, {"1/s", 1}, {"/min", 1.0 / 60},
                  {"1/min", 1.0 / 60}, {"rpm", 1.0 / 60}},
        temperature{{"K", 1}, {"", 1}, {"°C", 1, false, 273.15}, {"C", 1, false, 273.15}},
        time{{"s", 1}, {"", 1}, {"ms", 1e-3}, {"min", 60}, {"h", 3600}},
        mass{{"kg", 1}, {"", 1}, {"g", 1e-3}, {"t", 1e3}},
        coefficient{{"/m", 1},    {"", 1},        {"1/m", 1},         {"/km", 1e-3},    {"1/km", 1e-3},
                    {"/cm", 100}, {"m", 1, true}, {"km", 1e-3, true}, {"cm", 100, true}};
    switch (quantity) {
    case Quantity::Plain: return plain;
    case Quantity::Share: return share;
    case Quantity::Length: return length;
    case Quantity::Visibility: return visibility;
    case Quantity::Angle: return angle;
    case Quantity::Speed: return speed;
    case Quantity::Flux: return flux;
    case Quantity::Exposure: return exposure;
    case Quantity::Millimetre: return millimetre;
    case Quantity::Micrometre: return micrometre;
    case Quantity::Irradiance: return irradiance;
    case Quantity::Temperature: return temperature;
    case Quantity::Time: return time;
    case Quantity::Mass: return mass;
    case Quantity::Coefficient: return coefficient;
    case Quantity::Intensity: return intensity;
    case Quantity::Power: return power;
    case Quantity::Frequency: return frequency;
    }
    return plain;
}

std::string squeezed(std::string_view text)
{
    std::string out;
    for (const char c : text)
        if (c != ' ' && c != '\t')
            out += c == ',' ? '.' : static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c);
    return out;
}
} // namespace

namespace {
/// Packed, so that it is always whole.
std::atomic<std::uint32_t> chosen{0};
} // namespace

void setShownUnits(const ShownUnits& u)
{
    chosen = static_cast<std::uint32_t>(u.length) | static_cast<std::uint32_t>(u.speed) << 8 |
             (u.comma ? 1u << 16 : 0u);
}

ShownUnits shownUnits()
{
    const std::uint32_t v = chosen;
    return {static_cast<ShownUnits::Length>(v & 0xff), static_cast<ShownUnits::Speed>(v >> 8 & 0xff),
            (v >> 16 & 1u) != 0};
}

std::optional<double> parseQuantity(std::string_view text, Quantity quantity)
{
    std::string t = squeezed(text);
    if (t.starts_with("mfp"))
        t = t.substr(3) + (t.ends_with("m") ? "mfp" : "mmfp");
    if (t.starts_with('+'))
        t.erase(0, 1);
    double number = 0.0;
    const char* end = t.data() + t.size();
    // "inf" and "nan" are read by from_chars too; both are refused below.
    const auto [rest, error] = std::from_chars(t.data(), end, number);
    if (error != std::errc() || !std::isfinite(number))
        return std::nullopt;
    const std::string unit(rest, end);
    for (const Unit& u : unitTable(quantity))
        if (squeezed(u.name) == unit) {
            if (!u.reciprocal)
                return number * u.factor + u.zero;
            if (number <= 0.0)
                return std::nullopt; // no visibility belongs to an extinction of zero or less
            return u.factor / number;
        }
    return std::nullopt;
}

std::string formatNumber(double value, int digits)
{
    if (!std::isfinite(value))
        return value != value ? "—" : (value > 0 ? "∞" : "−∞");
    if (value == 0.0)
        return "0";
    // Not printf: what that writes is the desktop's language's.
    char buffer[64];
    const double magnitude = std::floor(std::log10(std::abs(value)) + 1e-12);
    if (magnitude > 6 || magnitude < -5) {
        return {buffer, std::to_chars(buffer, std::end(buffer), value, std::chars_format::general, digits).ptr};
    }
    const int decimals = std::max(0, digits - 1 - static_cast<int>(magnitude));
    std::string text(buffer, std::to_chars(buffer, std::end(buffer), value, std::chars_format::fixed, decimals).ptr);
    if (text.find('.') != std::string::npos) {
        while (text.ends_with('0'))
            text.pop_back();
        if (text.ends_with('.'))
            text.pop_back();
    }
    return text == "-0" ? "0" : text;
}

namespace {
std::string shownIn(double value, Quantity quantity, const ShownUnits& units)
{
    const double size = std::abs(value);
    if ((quantity == Quantity::Length || quantity == Quantity::Visibility) &&
        units.length == ShownUnits::Length::Feet) {
        if (size >= 0.9995 * 1609.344)
            return formatNumber(value / 1609.344) + " mi";
        if (size >= 0.3048 || size == 0.0)
            return formatNumber(value / 0.3048) + " ft";
        return formatNumber(value / 0.0254) + " in";
    }
    if (quantity == Quantity::Speed && units.speed == ShownUnits::Speed::KilometresPerHour)
        return formatNumber(value * 3.6) + " km/h";
    switch (quantity) {
    case Quantity::Plain: return formatNumber(value);
    case Quantity::Share: return formatNumber(value * 100.0) + " %";
    case Quantity::Length:
    case Quantity::Visibility:
        if (size >= 999.5)
            return formatNumber(value * 1e-3) + " km";
        if (size >= 0.1 || size == 0.0)
            return formatNumber(value) + " m";
        return formatNumber(value * 1e3) + " mm";
    case Quantity::Angle: return formatNumber(value) + "°";
    case Quantity::Speed: return formatNumber(value) + " m/s";
    case Quantity::Flux: return size >= 1e4 ? formatNumber(value * 1e-3) + " klm" : formatNumber(value, 4) + " lm";
    case Quantity::Exposure: return (value > 0 ? "+" : "") + formatNumber(value) + " EV";
    case Quantity::Millimetre: return formatNumber(value) + " mm";
    case Quantity::Micrometre: return formatNumber(value) + " µm";
    case Quantity::Temperature: return formatNumber(value, 4) + " K";
    case Quantity::Intensity: return size >= 1e4 ? formatNumber(value * 1e-3) + " kcd" : formatNumber(value, 4) + " cd";
    case Quantity::Power: return size >= 1e4 ? formatNumber(value * 1e-3) + " kW" : formatNumber(value) + " W";
    case Quantity::Frequency: return formatNumber(value) + " Hz";
    case Quantity::Time: return size >= 120.0 ? formatNumber(value / 60.0) + " min" : formatNumber(value) + " s";
    case Quantity::Mass: return size >= 1e4 ? formatNumber(value * 1e-3) + " t" : formatNumber(value) + " kg";
    case Quantity::Coefficient:
        return size < 0.1 && size > 0.0 ? formatNumber(value * 1e3) + " /km" : formatNumber(value) + " /m";
    case Quantity::Irradiance:
        return size >= 1e4 ? formatNumber(value * 1e-3) + " klx" : formatNumber(value, 4) + " lx";
    }
    return formatNumber(value);
}
} // namespace

namespace {
std::string withSign(std::string text, const ShownUnits& units)
{
    if (units.comma)
        std::replace(text.begin(), text.end(), '.', ',');
    return text;
}
} // namespace

std::string shownNumber(double value, int digits) { return withSign(formatNumber(value, digits), shownUnits()); }

std::string formatQuantity(double value, Quantity quantity)
{
    const ShownUnits units = shownUnits();
    return withSign(shownIn(value, quantity, units), units);
}

std::string unitOf(Quantity quantity)
{
    const std::string name = unitTable(quantity).front().name;
    return name == "°" ? "deg" : name;
}

std::vector<std::string> unitsOf(Quantity quantity)
{
    std::vector<std::string> names;
    for (const Unit& u : unitTable(quantity))
        if (*u.name)
            names.emplace_back(std::string(u.name) == "mmfp"    ? "m mfp"
                               : std::string(u.name) == "kmmfp" ? "km mfp"
                                                                : u.name);
    return names;
}
} // namespace hygros
