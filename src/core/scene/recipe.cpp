#include "scene/recipe.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/json_depth.h"
#include "scene/arrange.h"

#include <algorithm>

namespace hygros::scene {

namespace {
void checkPart(const Project& part, const std::string& doing, const std::string& subject)
{
    for (const Element& e : part.elements)
        if (e.kind->single)
            throw inputError(doing, subject,
                             "a project has one " + e.kind->label + " of its own; a recipe cannot bring another");
}
} // namespace

Recipe loadRecipe(const std::filesystem::path& file, const KindLookup& kinds)
{
    const std::string doing = "Reading the recipe", text = readText(file, doing);
    checkJsonDepth(text, doing, file.string());
    nlohmann::json root = nlohmann::json::parse(text, nullptr, false);
    if (root.is_discarded())
        throw inputError(doing, file.string(), "it is damaged (not valid JSON)");
    if (!root.is_object() || !root.contains("format") || root["format"] != "hygros-recipe")
        throw inputError(doing, file.string(), "it is not a Hygros recipe");
    Recipe recipe;
    recipe.file = file;
    recipe.name = root.contains("name") && root["name"].is_string() ? root["name"].get<std::string>()
                                                                    : file.stem().string();
    if (root.contains("help") && root["help"].is_string())
        recipe.help = root["help"].get<std::string>();
    if (root.contains("picture") && root["picture"].is_string())
        recipe.picture = root["picture"].get<std::string>();
    if (root.contains("depth")) {
        if (!root["depth"].is_number() || !(root["depth"].get<double>() > 0.0))
            throw inputError(doing, file.string(), "its depth must be a number of metres above 0");
        recipe.depth = root["depth"].get<double>();
    }
    if (root.contains("stands")) {
        if (!root["stands"].is_number() || !(root["stands"].get<double>() >= 0.0))
            throw inputError(doing, file.string(), "how far it stands before the camera must be a number of metres");
        recipe.stands = root["stands"].get<double>();
    }
    // For the rest it is a project.
    root["format"] = "hygros-project";
    recipe.part = fromJson(root.dump(), file.string(), kinds);
    recipe.part.folder = file.parent_path();
    if (recipe.part.elements.empty())
        throw inputError(doing, file.string(), "it holds no element of a kind that is known here");
    checkPart(recipe.part, doing, file.string());
    return recipe;
}

std::vector<Recipe> recipesIn(const std::filesystem::path& folder, const KindLookup& kinds,
                              const std::function<void(const std::string&)>& problem)
{
    std::vector<Recipe> all;
    std::vector<std::filesystem::path> folders{folder};
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (entry.is_directory(none))
            folders.push_back(entry.path());
    std::sort(folders.begin() + 1, folders.end());
    for (const std::filesystem::path& each : folders) {
        const auto first = static_cast<std::ptrdiff_t>(all.size());
        for (const auto& entry : std::filesystem::directory_iterator(each, none))
            if (entry.path().extension() == ".hygros-recipe") {
                try {
                    all.push_back(loadRecipe(entry.path(), kinds));
                } catch (const Error& e) {
                    problem(e.what());
                }
            }
        std::sort(all.begin() + first, all.end(), [](const Recipe& a, const Recipe& b) { return a.name < b.name; });
    }
    return all;
}

void saveRecipe(const Recipe& recipe, const std::filesystem::path& file)
{
    const std::string doing = "Saving the recipe";
    if (recipe.part.elements.empty())
        throw inputError(doing, recipe.name, "there is nothing in it");
    checkPart(recipe.part, doing, recipe.name);
    nlohmann::ordered_json root = nlohmann::ordered_json::parse(
        toJson(namedFrom(recipe.part, std::filesystem::absolute(file).parent_path())));
    nlohmann::ordered_json out;
    out["format"] = "hygros-recipe";
    out["version"] = root["version"];
    out["name"] = recipe.name;
    if (!recipe.help.empty())
        out["help"] = recipe.help;
    out["depth"] = recipe.depth;
    if (recipe.stands > 0.0)
        out["stands"] = recipe.stands;
    if (root.contains("groups"))
        out["groups"] = root["groups"];
    out["elements"] = root["elements"];
    if (!recipe.picture.empty())
        out["picture"] = recipe.picture;
    writeTextAtomically(file, out.dump(2) + "\n");
}

std::filesystem::path freeRecipeFile(const std::filesystem::path& folder, const std::string& name)
{
    const std::string stem = idFromName(name, "recipe");
    std::filesystem::path file = folder / (stem + ".hygros-recipe");
    for (int n = 2; std::filesystem::exists(file); ++n)
        file = folder / (stem + "-" + std::to_string(n) + ".hygros-recipe");
    return file;
}

std::vector<std::string> applyRecipe(Project& project, const Recipe& recipe, double scale, const Vec3& at)
{
    Putting how;
    how.scale = scale;
    if (recipe.stands > 0.0)
        how.move = at;
    return putPart(project, recipe.part, how);
}
} // namespace hygros::scene
