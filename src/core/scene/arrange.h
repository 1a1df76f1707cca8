#pragma once
/// Elements in the hand: parts of a project taken out, put in, doubled, moved and grouped.
#include "scene/project.h"

#include <span>

namespace hygros::scene {

using Ids = std::span<const std::string>;

/// The elements with these ids, in the project's order, and the groups they belong to. Ids that are not there count for
/// nothing.
Project partOf(const Project& project, Ids ids);

/// How a part comes into a project.
struct Putting {
    std::string after;     ///< stands behind this element; empty: at the end
    double scale = 1.0;    ///< lengths and visibilities are multiplied with it
    Vec3 move{0, 0, 0};    ///< added to places [m]
    bool keepsIds = false; ///< where they are free
};
/// Adds a part's elements, with unused ids; links, Reach and groups among them follow. File names are taken over as
/// seen from the project's folder. What a project can have only once and has already is left out. Returns the new ids.
std::vector<std::string> putPart(Project& project, const Project& part, const Putting& how);
/// The same elements once more, each behind the last of them, under names of their own; lights reach what they reached
/// and are reached alike. What there can be only one of is left out.
std::vector<std::string> duplicate(Project& project, Ids ids);

/// A part as text: the project's own JSON, with where it was taken from.
std::string partToText(const Project& project, Ids ids);
/// The part that a text holds. Throws an input Error when it holds none.
Project partFromText(const std::string& text, const KindLookup& kinds);

/// Puts elements before another (empty: at the end); they join that one's group, or leave theirs where there is none.
void moveBefore(Project& project, Ids ids, const std::string& before);
/// Makes a group of elements; they then stand together, where the first of them stood. Returns its id.
std::string makeGroup(Project& project, Ids ids, const std::string& name);
/// Its elements stay, without it.
void dissolveGroup(Project& project, const std::string& group);
/// Ids of a group's elements, in the project's order.
std::vector<std::string> membersOf(const Project& project, const std::string& group);
/// A name like this one that no element has: "Mist", "Mist 2", "Mist 3" …
std::string freeName(const Project& project, const std::string& name);

/// Whether a parameter's value is the one it begins with.
bool isDefault(const Element& element, const Parameter& parameter);
} // namespace hygros::scene
