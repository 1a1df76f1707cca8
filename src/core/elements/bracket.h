#pragma once
/// Brackets: one setting stepped over a range, or two crossed, so that pictures of all of them can be looked at beside
/// each other.
#include "base/store.h"
#include "scene/project.h"

#include <cstdint>
#include <string>
#include <vector>

namespace hygros::elements {

/// How the values lie between the first and the last.
enum class BracketBy : std::uint8_t {
    Even,    ///< equally far apart
    Factors, ///< each the same number of times the one before; both ends above 0
    Stops,   ///< ends are stops about the present value: times 2^stops, of an exposure plus
    Frames,  ///< ends are frames, the path is "frame"
    Choices  ///< all that a choice or a switch can be; without ends
};

struct BracketWish {
    std::string path; ///< "fog.visibility", "fog.muted", "frame"
    BracketBy by = BracketBy::Even;
    std::string from, to; ///< as they are typed, with units
    int count = 5;        ///< 2…bracketMost; of choices as many as there are
};
inline constexpr int bracketMost = 12, bracketTilesMost = 64;

/// One setting and the values it is given.
struct BracketAxis {
    std::string path, label; ///< "Fog bank: visibility"
    std::vector<scene::Value> values;
    std::vector<std::string> shown; ///< "640 m"
    std::size_t size() const { return values.size(); }
    /// "Fog bank: visibility from 250 m to 4 km"
    std::string words() const;
};

/// Throws an input Error: an unknown path, ends that it cannot have, a setting that cannot be stepped so.
BracketAxis bracketAxis(const scene::Project& project, const BracketWish& wish);
/// Ways in which a setting can be stepped, the best first; empty where it cannot be.
std::vector<BracketBy> bracketWays(const scene::Project& project, const std::string& path);
/// A range about the present value to begin with.
BracketWish bracketBegin(const scene::Project& project, const std::string& path);

/// The project with one of the values; a setting with keys is held at it at every frame. Throws as setValue().
scene::Project bracketed(scene::Project project, const BracketAxis& axis, std::size_t which, Store& store);
} // namespace hygros::elements
