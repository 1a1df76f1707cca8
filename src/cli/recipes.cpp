#include "cli/commands.h"

#include "base/error.h"
#include "scene/arrange.h"
#include "scene/recipe.h"

#include <iostream>

namespace hygros::cli {
namespace fs = std::filesystem;

int recipeList(const RecipeOptions& o)
{
    const fs::path folder = o.file.empty() ? fs::path(HYGROS_RECIPES) : fs::path(o.file);
    if (!fs::is_directory(folder))
        throw inputError("Listing recipes", folder.string(), "there is no such folder");
    nlohmann::ordered_json all = nlohmann::ordered_json::array();
    const auto tell = [](const std::string& why) { std::cerr << "note: " << why << "\n"; };
    for (const scene::Recipe& r : scene::recipesIn(folder, elements::findKind, tell)) {
        if (!o.asJson) {
            std::cout << r.name << "\n    " << r.file.string() << "\n    " << r.help << "\n   ";
            for (const scene::Element& e : r.part.elements)
                std::cout << " " << e.name << " (" << e.kind->label << ")"
                          << (&e == &r.part.elements.back() ? "" : ",");
            std::cout << "\n";
        }
        nlohmann::ordered_json j{
            {"name", r.name}, {"file", r.file.string()}, {"help", r.help}, {"depth", r.depth}, {"stands", r.stands}};
        for (const scene::Element& e : r.part.elements)
            j["elements"].push_back({{"id", e.id}, {"kind", e.kind->id}, {"name", e.name}});
        all.push_back(j);
    }
    if (o.asJson)
        std::cout << all.dump(2) << "\n";
    return 0;
}

int recipeApply(const RecipeOptions& o)
{
    const scene::Recipe recipe = scene::loadRecipe(o.file, elements::findKind);
    scene::Project project = scene::loadProject(o.project, elements::findKind);
    Vec3 at(0.f);
    if (o.at.size() == 3)
        at = Vec3(static_cast<float>(o.at[0]), static_cast<float>(o.at[1]), static_cast<float>(o.at[2]));
    else if (recipe.stands > 0.0)
        if (const scene::Element* camera = elements::cameraOf(project)) {
            // On the ground before the shot's camera, as in the window.
            Store store;
            JobControl job;
            const Mat4 from = elements::frameOf(project, *camera, store, job);
            const Vec3 eye = std::get<Vec3>(camera->value("position")) * from,
                       aim = std::get<Vec3>(camera->value("aim")) * from;
            Vec3 level(aim.x - eye.x, 0.f, aim.z - eye.z);
            level = level.length2() > 1e-8f ? level.normalized() : Vec3(0, 0, -1);
            at = eye + level * static_cast<float>(recipe.stands);
            at.y = 0.f;
        }
    const auto ids = scene::applyRecipe(project, recipe, o.scale, at);
    scene::saveProject(project, o.out.empty() ? o.project : o.out);
    for (const std::string& id : ids)
        std::cout << id << "\n";
    return 0;
}

int recipeMake(const RecipeOptions& o)
{
    const scene::Project project = scene::loadProject(o.project, elements::findKind);
    for (const std::string& id : o.elements)
        if (!project.find(id)) {
            std::string known;
            for (const scene::Element& e : project.elements)
                known += (known.empty() ? "" : ", ") + e.id;
            throw inputError("Making a recipe", o.project, "there is no element '" + id + "'",
                             "The project has: " + known + ".");
        }
    scene::Recipe recipe;
    recipe.name = o.name.empty() ? fs::path(o.file).stem().string() : o.name;
    recipe.help = o.words;
    if (o.depth > 0.0)
        recipe.depth = o.depth;
    recipe.part = scene::partOf(project, o.elements);
    scene::saveRecipe(recipe, o.file);
    return 0;
}
} // namespace hygros::cli
