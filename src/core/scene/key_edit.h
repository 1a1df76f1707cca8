#pragma once
/// Many keys at once: moved, stretched, copied.
#include "scene/project.h"

#include <nlohmann/json.hpp>
#include <set>

namespace hygros::scene {

/// A key, by where it is.
struct KeyPlace {
    std::string element, parameter;
    double frame = 0.0;
    auto operator<=>(const KeyPlace&) const = default;
};
using KeyPlaces = std::set<KeyPlace>;

/// Moves the chosen keys of `project` in time by frame → to(frame), and changes their values by `value` (not at all
/// without). A key that is not chosen and stands where a chosen one comes to lie gives way. Slopes go with a stretch.
/// Returns where the chosen keys are now. Throws std::invalid_argument, with nothing changed, where a value would leave
/// its range.
KeyPlaces changeKeys(Project& project, const KeyPlaces& chosen, const std::function<double(double)>& to,
                     const std::function<Value(const Parameter&, const Value&)>& value = {});
/// Frames about a pivot: pivot + (frame − pivot)·times; `whole`: rounded.
std::function<double(double)> stretched(double pivot, double times, bool whole);
std::function<double(double)> shifted(double by, bool whole);
void removeKeys(Project& project, const KeyPlaces& chosen);

/// The chosen keys as text for the clipboard: by parameter, frames counted from the first of them.
std::string keysToText(const Project& project, const KeyPlaces& chosen);
/// Puts such keys into an element, the first of them at a frame; those of parameters that it has and whose values fit.
/// Returns where they are; empty where none fits. Throws std::invalid_argument where the text holds no keys.
KeyPlaces pasteKeys(Project& project, const std::string& element, double frame, const std::string& text);
} // namespace hygros::scene
