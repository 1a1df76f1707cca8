#include "scene/recipe.h"

#include "base/atomic_file.h"
#include "base/error.h"

#include <algorithm>
#include <map>

namespace hygros::scene {

Recipe loadRecipe(const std::filesystem::path& file, const KindLookup& kinds)
{
    const std::string doing = "Reading the recipe", text = readText(file, doing);
    nlohmann::json root = nlohmann::json::parse(text, nullptr, false);
    if (root.is_discarded())
        throw inputError(doing, file.string(), "it is damaged (not valid JSON)");
    if (!root.is_object() || !root.contains("format") || root["format"] != "hygros-recipe")
        throw inputError(doing, file.string(), "it is not a Hygros recipe");
    Recipe recipe;
    recipe.name = root.contains("name") && root["name"].is_string() ? root["name"].get<std::string>()
                                                                    : file.stem().string();
    if (root.contains("help") && root["help"].is_string())
        recipe.help = root["help"].get<std::string>();
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
    for (const Element& e : recipe.part.elements)
        if (e.kind->single)
            throw inputError(doing, file.string(),
                             "a project has one " + e.kind->label + " of its own; a recipe cannot bring another");
    return recipe;
}

std::vector<Recipe> recipesIn(const std::filesystem::path& folder, const KindLookup& kinds,
                              const std::function<void(const std::string&)>& problem)
{
    std::vector<Recipe> all;
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator(folder, none))
        if (entry.path().extension() == ".hygros-recipe") {
            try {
                all.push_back(loadRecipe(entry.path(), kinds));
            } catch (const Error& e) {
                problem(e.what());
            }
        }
    std::sort(all.begin(), all.end(), [](const Recipe& a, const Recipe& b) { return a.name < b.name; });
    return all;
}

std::vector<std::string> applyRecipe(Project& project, const Recipe& recipe, double scale, const Vec3& at)
{
    std::vector<std::string> ids;
    std::map<std::string, std::string> renamed;
    for (const Element& e : recipe.part.elements) {
        Element& added = project.add(*e.kind, e.name);
        added.settings = e.settings;
        added.unknown = e.unknown;
        renamed[e.id] = added.id;
        for (const Parameter& p : added.kind->parameters) {
            const Value own = p.get(*added.settings);
            if (const auto* file = std::get_if<std::string>(&own);
                file && p.type == ValueType::File && !file->empty()) {
                const auto full = std::filesystem::absolute(resolved(recipe.part, *file)).lexically_normal(),
                           shorter = project.folder.empty()
                                         ? full
                                         : full.lexically_relative(std::filesystem::absolute(project.folder));
                added.set(p.id, (shorter.empty() ? full : shorter).generic_string());
            }
            if (const auto* place = std::get_if<Vec3>(&own); place && recipe.stands > 0.0 && p.isPlace)
                added.set(p.id, *place + at);
            if (scale == 1.0 || (p.quantity != Quantity::Length && p.quantity != Quantity::Visibility))
                continue;
            const auto within = [&](double v) { return std::clamp(v * scale, p.hardMin, p.hardMax); };
            const Value now = p.get(*added.settings);
            if (const auto* number = std::get_if<double>(&now)) {
                added.set(p.id, within(*number));
            } else if (const auto* point = std::get_if<Vec3>(&now)) {
                Vec3 scaled;
                for (int i = 0; i < 3; ++i)
                    scaled[i] = static_cast<float>(within(static_cast<double>((*point)[i])));
                added.set(p.id, scaled);
            }
        }
        ids.push_back(added.id);
    }
    for (const std::string& id : ids) {
        Element& e = *project.find(id);
        for (const Parameter& p : e.kind->parameters)
            if (!p.linksTo.empty())
                if (const auto known = renamed.find(std::get<std::string>(p.get(*e.settings))); known != renamed.end())
                    e.set(p.id, known->second);
    }
    return ids;
}
} // namespace hygros::scene
