#pragma once
/// The commands of hygros-cli; each returns its exit code or throws an Error.
#include "elements/kinds.h"

#include <filesystem>
#include <string>
#include <vector>

namespace hygros::cli {

/// What was found while a frame was frozen, to stderr: the work goes on all the same, unless `strict`: then anything
/// that is trouble is an input Error.
void tellNotes(const scene::Project& project, const shot::Shot& shot, bool strict);

int infoCommand(const std::string& file, bool asJson, bool strict);

struct RecipeOptions {
    std::string file, project, out, name, words;
    std::vector<std::string> elements;
    double depth = 0.0, scale = 1.0;
    std::vector<double> at;
    bool asJson = false;
};
/// Recipes of a folder, or of the one that comes with the program.
int recipeList(const RecipeOptions& o);
/// Puts a recipe into a project and writes it.
int recipeApply(const RecipeOptions& o);
/// Makes a recipe of a project's elements.
int recipeMake(const RecipeOptions& o);
} // namespace hygros::cli
