#pragma once
/// How quantities are shown to people: the artist's own choice, for formatQuantity() in this process alone. What is
/// typed is understood in every unit whatever is chosen; files and the command line know metres, kelvin and points.
#include <cstdint>
#include <string>

namespace hygros {

struct ShownUnits {
    enum class Length : std::uint8_t { Metres, Feet } length = Length::Metres;
    enum class Speed : std::uint8_t { MetresPerSecond, KilometresPerHour } speed = Speed::MetresPerSecond;
    bool comma = false; ///< between whole and parts
    bool operator==(const ShownUnits&) const = default;
};
/// May be called at any time, from any thread.
void setShownUnits(const ShownUnits& units);
ShownUnits shownUnits();
/// A number alone, for people: as formatNumber() writes it (units.h), with the artist's decimal sign.
std::string shownNumber(double value, int digits = 3);
} // namespace hygros
