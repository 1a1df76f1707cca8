#pragma once
/// The right-hand side: cards of one family, and the narrow rail that chooses it.
#include "app/session.h"

#include <QWidget>
#include <set>

class QLabel;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace hygros::app {

class Card;

class FamilyRail : public QWidget {
    Q_OBJECT
public:
    explicit FamilyRail(QWidget* parent = nullptr);
    void choose(scene::Family family);
    QSize sizeHint() const override { return {58, 300}; }

Q_SIGNALS:
    void chosen(hygros::scene::Family family);

private:
    std::vector<std::pair<scene::Family, QWidget*>> entries_;
};

class CardColumn : public QWidget {
    Q_OBJECT
public:
    explicit CardColumn(Session& session, QWidget* parent = nullptr);
    void showFamily(scene::Family family);
    scene::Family family() const { return family_; }
    /// The card of an element, its family shown first; null if there is none.
    Card* reveal(const std::string& element);
    void scrollTo(Card* card);
    /// Adds an element of a kind, opened.
    void add(const std::string& kind);

private:
    void rebuild();
    void refresh();
    void tellHowFarOneSees();
    void fillRecipes();

    Session& session_;
    QScrollArea* scroll_ = nullptr;
    scene::Family family_ = scene::Family::Air;
    QLabel *title_, *summary_, *sees_, *empty_;
    QPushButton *add_, *recipes_;
    QVBoxLayout* list_;
    std::vector<Card*> cards_;
    std::set<std::string> open_;
};
} // namespace hygros::app
