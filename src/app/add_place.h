#pragma once
/// One place for all that can be added: kinds by family, and recipes as they would look in the present scene. Typing
/// searches both; Return takes the first that is left.
#include "app/recipe_pictures.h"

#include <QDialog>

class QGridLayout;
class QLabel;
class QLineEdit;
class QPushButton;
class QToolButton;
class QVBoxLayout;

namespace hygros::app {

class AddPlace : public QDialog {
    Q_OBJECT
public:
    AddPlace(Session& session, std::function<void(const std::string& kind)> add, QWidget* parent = nullptr);
    ~AddPlace() override;
    const RecipePictures& pictures() const { return *pictures_; }

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fillKinds(QVBoxLayout* column);
    void fillRecipes();
    void search(const QString& text);
    void takeFirst();
    QLabel* headOf(const QString& name, const QColor& hue);

    Session& session_;
    std::function<void(const std::string&)> add_;
    QLineEdit* find_;
    QGridLayout* grid_ = nullptr;
    QLabel* none_;
    struct KindEntry {
        QPushButton* button;
        QString words;
        QLabel* head; ///< its family's name
    };
    struct RecipeEntry {
        QToolButton* button;
        QString words;
        scene::Recipe recipe;
        QLabel* head; ///< that of its family, or of one's own
    };
    std::vector<KindEntry> kinds_;
    std::vector<RecipeEntry> recipes_;
    std::unique_ptr<RecipePictures> pictures_;
};
} // namespace hygros::app
