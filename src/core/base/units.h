#pragma once
/// Quantities with units: what an artist types and what is shown.
///
/// Every number of a project is kept in one unit per quantity (the first named below); text in any listed unit
/// is converted on entry. Entry is case-insensitive, a decimal comma is accepted, spaces are free.
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace hygros {

enum class Quantity {
    Plain,       ///< a bare number
    Share,       ///< 0…1; also %
    Length,      ///< m; also mm, cm, km, in, ft, mi
    Visibility,  ///< m of meteorological optical range; also /m and /km (extinction), and "m mfp" (mean free path)
    Angle,       ///< degrees; also rad
    Speed,       ///< m/s; also km/h
    Flux,        ///< lumen; also klm
    Exposure,    ///< EV (stops)
    Millimetre,  ///< mm of a camera's focal length or sensor; also cm, m
    Micrometre,  ///< µm of a droplet's diameter; also um, mm
    Irradiance,  ///< lux; also klx
    Intensity,   ///< candela; also kcd
    Power,       ///< W; also mW, kW
    Frequency,   ///< 1/s; also Hz, /min
    Temperature, ///< kelvin
    Time,        ///< seconds; also ms, min, h
    Mass,        ///< kg; also g, t
    Coefficient, ///< 1/m of scattering or absorption; also /km, and "m" of a mean free path
};

/// Visibility V of an air with extinction σt: contrast falls to 5 %, V = ln(20)/σt (meteorological optical
/// range, WMO Guide to Instruments and Methods of Observation, chapter 9).
inline constexpr double visibilityConstant = 2.995732273553991;
/// 1/m from m, and back: the relation is its own inverse. Zero gives infinity.
inline double extinctionOfVisibility(double visibilityMetres) { return visibilityConstant / visibilityMetres; }
inline double visibilityOfExtinction(double extinctionPerMetre) { return visibilityConstant / extinctionPerMetre; }
inline double visibilityOfMeanFreePath(double metres) { return visibilityConstant * metres; }

/// The value in the quantity's own unit, or nothing if the text is no number, not finite, or has a foreign unit.
std::optional<double> parseQuantity(std::string_view text, Quantity quantity);
/// Three significant figures with the unit that reads best: "2.5 km", "46 m", "4 mm", "35°", "62 %".
std::string formatQuantity(double value, Quantity quantity);
/// The unit a project file keeps the quantity in ("m", "deg", …; empty for plain numbers).
std::string unitOf(Quantity quantity);
/// The units accepted on entry, for help texts.
std::vector<std::string> unitsOf(Quantity quantity);
/// A number with at most `digits` significant figures and no trailing zeros or exponent for ordinary sizes.
std::string formatNumber(double value, int digits = 3);
} // namespace hygros
