#include "app/library.h"

#include "app/words.h"

#include "elements/kinds.h"
#include "scene/arrange.h"

#include <QBuffer>
#include <QCoreApplication>
#include <QDir>
#include <QStandardPaths>
#include <cmath>

namespace hygros::app {

Library::Library(Document& document, Picture& picture, QObject* parent)
    : QObject(parent), document_(document), picture_(picture)
{
    connect(&document, &Document::projectChanged, this, [this] { previews_ = false; });
}

std::vector<scene::Recipe> Library::recipes()
{
    // Beside an installed program, else where it was built.
    const QString installed = QCoreApplication::applicationDirPath() + "/../share/hygros/recipes";
    const std::string folder = QDir(installed).exists() ? installed.toStdString() : HYGROS_RECIPES;
    const auto tell = [this](const std::string& why) { Q_EMIT failed(QString::fromStdString(why)); };
    std::vector<scene::Recipe> all = scene::recipesIn(folder, elements::findKind, tell);
    const auto rank = [](const scene::Recipe& r) {
        return std::find(families().begin(), families().end(), familyOf(r)) - families().begin();
    };
    std::stable_sort(all.begin(), all.end(),
                     [&](const scene::Recipe& a, const scene::Recipe& b) { return rank(a) < rank(b); });
    for (scene::Recipe& r : scene::recipesIn(ownFolder().toStdString(), elements::findKind, tell))
        all.push_back(std::move(r));
    return all;
}

QString Library::ownFolder() { return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recipes"; }

scene::Family Library::familyOf(const scene::Recipe& recipe) { return recipe.part.elements.front().kind->family; }

const std::vector<scene::Family>& Library::families()
{
    using F = scene::Family;
    static const std::vector<F> all{F::Air, F::Lights, F::Fire, F::Weather, F::Water, F::Set, F::Finish};
    return all;
}

bool Library::isOwn(const scene::Recipe& recipe)
{
    return recipe.part.folder == std::filesystem::absolute(ownFolder().toStdString());
}

bool Library::save(const std::vector<std::string>& elements, const QString& name, const QString& words,
                   const QImage& picture, bool stands)
{
    try {
        scene::Recipe recipe;
        recipe.name = name.toStdString();
        recipe.help = words.toStdString();
        QByteArray bytes;
        QBuffer buffer(&bytes);
        if (!picture.isNull() && picture.save(&buffer, "PNG"))
            recipe.picture = bytes.toBase64().toStdString();
        recipe.part = scene::partOf(document_.whole(), elements);
        const double depth = static_cast<double>(picture_.depthQuantile(0.9));
        if (depth > 0.0)
            recipe.depth = std::round(depth * 10.0) / 10.0;
        if (stands) {
            const geometry::Camera c = picture_.camera();
            Vec3 middle(0.f);
            int places = 0;
            for (const scene::Element& e : recipe.part.elements)
                for (const scene::Parameter& p : e.kind->parameters)
                    if (p.isPlace) {
                        middle += std::get<Vec3>(e.value(p.id));
                        ++places;
                    }
            middle = places ? middle / static_cast<float>(places) : c.position;
            const Vec3 away(middle.x - c.position.x, 0.f, middle.z - c.position.z);
            recipe.stands = std::max(0.5, std::round(static_cast<double>(away.length()) * 10.0) / 10.0);
            scene::Recipe there = recipe;
            const Vec3 origin = placeOf(there);
            for (scene::Element& e : recipe.part.elements)
                for (const scene::Parameter& p : e.kind->parameters)
                    if (p.isPlace)
                        e.set(p.id, std::get<Vec3>(e.value(p.id)) - origin);
        }
        QDir().mkpath(ownFolder());
        scene::saveRecipe(recipe, scene::freeRecipeFile(ownFolder().toStdString(), recipe.name));
        return true;
    } catch (const std::exception& e) {
        Q_EMIT failed(troubleOf(e));
        return false;
    }
}

std::vector<std::string> Library::take(const scene::Recipe& recipe)
{
    std::vector<std::string> ids;
    document_.edit(say("Recipe ") + nameOf(recipe.name), [&](scene::Project& p) {
        ids = scene::applyRecipe(p, recipe, scaleOf(recipe), placeOf(recipe));
        if (!isOwn(recipe))
            for (const std::string& id : ids)
                p.find(id)->name = words(p.find(id)->name);
    });
    return ids;
}

double Library::scaleOf(const scene::Recipe& recipe) const
{
    const double depth = static_cast<double>(picture_.depthQuantile(0.9));
    return fits_ && depth > 0.0 ? depth / recipe.depth : 1.0;
}

Vec3 Library::placeOf(const scene::Recipe& recipe) const
{
    const geometry::Camera c = picture_.camera();
    const Vec3 ahead = c.aim - c.position;
    const Vec3 level = Vec3(ahead.x, 0.f, ahead.z).length2() > 1e-8f ? Vec3(ahead.x, 0.f, ahead.z).normalized()
                                                                     : Vec3(0, 0, -1);
    const auto even = [](float v) { return std::round(v * 100.f) / 100.f; };
    Vec3 at = c.position + level * static_cast<float>(recipe.stands);
    at.y = 0.f;
    // On what lies there, where the set has a ground.
    geometry::Hit hit;
    if (const auto shot = picture_.shot();
        shot && shot->scene->trace(Vec3(at.x, c.position.y + 0.5f, at.z), Vec3(0, -1, 0), 0.f, 200.f, hit))
        at.y = c.position.y + 0.5f - hit.t;
    return {even(at.x), even(at.y), even(at.z)};
}

void Library::preview(const scene::Recipe* recipe)
{
    if (!recipe && !previews_)
        return;
    previews_ = recipe != nullptr;
    scene::Project shown = document_.whole();
    if (recipe)
        scene::applyRecipe(shown, *recipe, scaleOf(*recipe), placeOf(*recipe));
    picture_.setProject(shown);
}
} // namespace hygros::app
