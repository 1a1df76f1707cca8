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

/// Tells what has no effect or hardly looks as meant; 1 where there is trouble among it.
int checkCommand(const std::string& file, int frame, bool asJson);

struct BakeOptions {
    std::string project, frames, element, folder;
    double limit = 0.0; ///< GB
    bool list = false, purge = false, asJson = false;
};
/// Bakes what is simulated in a project, or lists or removes what is baked.
int bakeCommand(const BakeOptions& o);
/// Says which of these frames are not baked.
void tellUnbaked(const scene::Project& project, int first, int last, Store& store);

/// Copies what a project uses beside it, or beside `out`, and writes it there.
int collectCommand(const std::string& file, const std::string& out);

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
