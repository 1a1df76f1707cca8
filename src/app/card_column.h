#pragma once
/// The right-hand side: cards of one family, and the narrow rail that chooses it.
#include "app/card.h"

#include <QWidget>
#include <set>

class QLabel;
class QLineEdit;
class QPushButton;
class QScrollArea;
class QVBoxLayout;

namespace hygros::app {

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
    /// Goes to one setting: its card open, its field in view and with the focus. False where it is not shown.
    bool showField(const std::string& element, const std::string& parameter);
    const std::set<std::string>& open() const { return open_; }
    /// Choosing with the keyboard's modifiers: Ctrl adds or takes away, Shift takes all between.
    void choose(const std::string& element, Qt::KeyboardModifiers modifiers);
    void chooseAll();
    /// Recipes anew, after one was saved.
    void fillRecipes();
    /// Adds an element of a kind, opened.
    void add(const std::string& kind);

Q_SIGNALS:
    void recipeWanted(); ///< of what is chosen
    void familyShown(hygros::scene::Family family);

private:
    void rebuild();
    QWidget* makeCard(const scene::Element& e);
    QWidget* makeHead(const scene::Group& g);
    /// What is dropped at a place comes before this element; empty: at the end of the family.
    std::string beforeAt(const QPoint& global) const;
    void showDrop(const QPoint& global);
    void drop(const std::vector<std::string>& elements, const QPoint& global);
    void dropGroup(const std::string& group, const QPoint& global);
    /// What is to stand in the list now.
    std::vector<std::string> wantedLayout() const;
    void applyFilter();
    void refresh();
    void tellHowFarOneSees();

    Session& session_;
    QScrollArea* scroll_ = nullptr;
    scene::Family family_ = scene::Family::Air;
    QLabel *title_, *summary_, *sees_, *empty_;
    QPushButton *add_, *recipes_;
    QVBoxLayout* list_;
    std::vector<Card*> cards_;
    std::vector<GroupHead*> heads_;
    std::vector<std::string> layout_; ///< what stands in the list: ids of elements, and of groups after a '#'
    QWidget* mark_ = nullptr;         ///< where what is dragged would stand
    QLineEdit* find_ = nullptr;
    QPushButton* changed_ = nullptr;
    CardFilter filter_;
    std::string anchor_; ///< from where Shift chooses
    std::set<std::string> open_;
};
} // namespace hygros::app
