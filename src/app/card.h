#pragma once
/// One element in the column: thumbnail of what it alone adds, name, mute and solo, its lead rulers; a click on its
/// head unfolds it to all settings. With Ctrl or Shift a click chooses it together with others; dragged by its head it
/// moves in the list.
#include "app/session.h"

#include <QWidget>
#include <set>

class QLineEdit;
class QMenu;
class QPushButton;
class QVBoxLayout;

namespace hygros::app {

class EdgedLabel;
class LeadRuler;

/// Which settings cards show: those whose name holds the text, and only those that differ from a new element's.
struct CardFilter {
    QString text;
    bool changedOnly = false;
    bool isOn() const { return changedOnly || !text.isEmpty(); }
    bool operator==(const CardFilter&) const = default;
};

class Card : public QWidget {
    Q_OBJECT
public:
    Card(Session& session, const std::string& element, bool open, const CardFilter& filter, QWidget* parent = nullptr);
    const std::string& element() const { return element_; }
    bool isOpen() const { return open_; }
    void setOpen(bool open);
    void setFilter(const CardFilter& filter);
    /// Takes over what the project says now.
    void refresh();
    /// The field of a setting of an open card, its group unfolded; null where it is not shown.
    QWidget* field(const std::string& parameter);
    /// The name becomes a field.
    void beginRename();

    // For the fields.
    Session& session() { return session_; }
    const scene::Element& now() const;
    scene::Value value(const scene::Parameter& parameter) const;
    /// Sets a parameter, of all that are chosen together with this one; more of the same gesture may follow while
    /// `dragging`. False when it is refused.
    bool set(const scene::Parameter& parameter, const scene::Value& value, bool dragging = false);
    void endGesture();
    /// Calls `pull` now and whenever the project changes, as long as the card keeps its fields.
    void onRefresh(std::function<void()> pull);
    /// Calls `pull` whenever there is another shot, as long as the card keeps its fields.
    void onShot(std::function<void()> pull) { shotPulls_.push_back(std::move(pull)); }
    /// It goes, and is told nothing any more: its element may be gone, or another one by now.
    void leave();

Q_SIGNALS:
    void opened(const QString& element, bool open);
    void pressed(const QString& element, Qt::KeyboardModifiers modifiers); ///< with Ctrl or Shift: choosing
    void dragged(const QString& element, const QPoint& global);            ///< by its head
    void dropped(const QString& element, const QPoint& global);
    void recipeWanted(); ///< of what is chosen

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void enterEvent(QEnterEvent*) override;
    void leaveEvent(QEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    void build();
    void tellNotes();
    void pullShot();
    /// The parameter whose file is not there; empty: none.
    std::string missing() const;
    void findFile();
    bool shows(const scene::Parameter& parameter) const;
    std::string shapeNow() const;
    void addGroup(QVBoxLayout* column, const std::string& name, const std::vector<const scene::Parameter*>& parameters);
    void paintHead(QPainter& p, const scene::Element& e, bool silent);
    const scene::Parameter* parameterAt(const QPoint& place) const;
    void fillMenu(QMenu& menu, const scene::Parameter* parameter);
    QRect nameRect() const;
    QRect muteRect() const;
    QRect soloRect() const;
    void toggle(bool scene::Element::*flag);

    Session& session_;
    std::string element_;
    bool open_, hovered_ = false;
    CardFilter filter_;
    int gesture_ = 0; ///< numbers the drags so that each is one undo step
    QPoint pressedAt_;
    bool headPressed_ = false, dragging_ = false;
    QWidget* body_ = nullptr;
    EdgedLabel* notes_ = nullptr;
    QPushButton* find_ = nullptr;
    QLineEdit* rename_ = nullptr;
    std::vector<std::function<void()>> refreshers_, shotPulls_;
    std::string shape_; ///< which settings are shown; a change rebuilds the card
};

/// The head of a group in the column: its name, how many, mute and solo; a click folds it and chooses its elements.
class GroupHead : public QWidget {
    Q_OBJECT
public:
    GroupHead(Session& session, const std::string& group, QWidget* parent = nullptr);
    const std::string& group() const { return group_; }
    QSize sizeHint() const override { return {200, 30}; }

Q_SIGNALS:
    void dragged(const QString& group, const QPoint& global);
    void dropped(const QString& group, const QPoint& global);
    void recipeWanted();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    QRect muteRect() const { return {width() - 52, 5, 44, 20}; }
    QRect soloRect() const { return {width() - 92, 5, 38, 20}; }
    void fold();
    Session& session_;
    std::string group_;
    QPoint pressedAt_;
    bool dragging_ = false;
};
/// The words that mute and solo what a card or a group's head stands for.
void drawSwitches(QPainter& p, const QRect& solo, bool soloed, const QRect& mute, bool muted);
} // namespace hygros::app
