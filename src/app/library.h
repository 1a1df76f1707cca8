#pragma once
/// Recipes: those there are, shown and taken.
#include "app/document.h"
#include "app/picture.h"
#include "scene/recipe.h"

namespace hygros::app {

class Library : public QObject {
    Q_OBJECT
public:
    Library(Document& document, Picture& picture, QObject* parent = nullptr);
    /// Recipes that ship with the program, by family, and behind them those of one's own.
    std::vector<scene::Recipe> recipes();
    /// Puts a recipe into the project as one step; returns its elements.
    std::vector<std::string> take(const scene::Recipe& recipe);
    /// Whether a recipe's distances are brought to the set's depth when it is previewed or taken.
    void setFits(bool fits) { fits_ = fits; }
    bool fits() const { return fits_; }
    /// What a recipe's lengths would be multiplied with.
    double scaleOf(const scene::Recipe& recipe) const;
    /// Where a recipe that stands before the camera stands now.
    Vec3 placeOf(const scene::Recipe& recipe) const;
    /// Shows the picture as it would be with the recipe, the project untouched; null ends it.
    void preview(const scene::Recipe* recipe);
    /// Keeps elements as a recipe of one's own; `stands`: their places are counted from the ground before the camera.
    /// False and a message when it fails.
    bool save(const std::vector<std::string>& elements, const QString& name, const QString& words,
              const QImage& picture, bool stands);
    static QString ownFolder();
    static bool isOwn(const scene::Recipe& recipe);
    /// That of what it begins with.
    static scene::Family familyOf(const scene::Recipe& recipe);
    /// As families stand in lists of what can be added.
    static const std::vector<scene::Family>& families();
    bool previews() const { return previews_; }

Q_SIGNALS:
    void failed(const QString& message);

private:
    Document& document_;
    Picture& picture_;
    bool fits_ = false, previews_ = false;
};
} // namespace hygros::app
