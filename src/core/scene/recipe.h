#pragma once
/// Recipes: a part of a project as an open file, to be put into any other. `*.hygros-recipe` is JSON like a project's
/// (docs/project-format.md) with "format": "hygros-recipe", a name, a line of help, and elements. Distances are metres,
/// so a recipe looks alike in every set that is in metres too.
#include "scene/project.h"

namespace hygros::scene {

struct Recipe {
    std::string name, help;
    std::filesystem::path file; ///< that it was read from; empty: none
    std::string picture;        ///< what it looks like: a PNG in base 64; may be empty
    double depth = 600.0; ///< the depth of set it was made in [m]: the distance that nine tenths of the set lie within
    double stands =
        0.0;      ///< its places are counted from the ground this far before the camera [m]; 0: from the world's origin
    Project part; ///< its elements; part.folder is the recipe's own, from which its files are named
};

/// Throws an input Error as loadProject does; also for a recipe without elements, or with one of a kind that a project
/// has once (sun, shot, look).
Recipe loadRecipe(const std::filesystem::path& file, const KindLookup& kinds);
/// All recipes of a folder by name, then those of each folder in it; files that cannot be read are left out and told to
/// `problem`. An absent folder has none.
std::vector<Recipe> recipesIn(const std::filesystem::path& folder, const KindLookup& kinds,
                              const std::function<void(const std::string&)>& problem);
/// Writes it whole or not at all; file names inside become relative to the new place. Throws an input Error for what a
/// recipe cannot hold (the sun, the shot, the look; nothing), and workingError when it cannot be written.
void saveRecipe(const Recipe& recipe, const std::filesystem::path& file);
/// A file's name for a recipe that no other has yet in that folder.
std::filesystem::path freeRecipeFile(const std::filesystem::path& folder, const std::string& name);
/// Adds the recipe's elements, each with an id of its own; returns their ids. `scale` multiplies all their lengths and
/// visibilities (as far as the parameters' ranges allow), to fit a set of another depth.
/// Files are named from the project's folder again, elements that name each other go on doing so, and `at` is added to
/// every position of a recipe that stands somewhere.
std::vector<std::string> applyRecipe(Project& project, const Recipe& recipe, double scale = 1.0,
                                     const Vec3& at = Vec3(0.f));
} // namespace hygros::scene
