#pragma once
/// One element in the column: thumbnail of what it alone adds, name, mute and solo, its two lead rulers; a click on
/// its head unfolds it to all settings.
#include "app/session.h"

#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace hygros::app {

class LeadRuler;

class Card : public QWidget {
    Q_OBJECT
public:
    Card(Session& session, const std::string& element, bool open, QWidget* parent = nullptr);
    const std::string& element() const { return element_; }
    bool isOpen() const { return open_; }
    void setOpen(bool open);
    /// Takes over what the project says now.
    void refresh();

    // For the fields.
    Session& session() { return session_; }
    const scene::Element& now() const;
    scene::Value value(const scene::Parameter& parameter) const;
    /// Sets a parameter; more of the same gesture may follow while `dragging`. False when it is refused.
    bool set(const scene::Parameter& parameter, const scene::Value& value, bool dragging = false);
    void endGesture();
    /// Calls `pull` now and whenever the project changes, as long as the card keeps its fields.
    void onRefresh(std::function<void()> pull);

Q_SIGNALS:
    void opened(const QString& element, bool open);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void enterEvent(QEnterEvent*) override;
    void leaveEvent(QEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    void build();
    void tellNotes();
    void addGroup(QVBoxLayout* column, const QString& name, const std::vector<const scene::Parameter*>& parameters);
    QRect muteRect() const;
    QRect soloRect() const;
    void toggle(bool scene::Element::*flag, const QString& name);

    Session& session_;
    std::string element_;
    bool open_, hovered_ = false;
    int gesture_ = 0; ///< numbers the drags so that each is one undo step
    QWidget* body_ = nullptr;
    QLabel* notes_ = nullptr;
    std::vector<std::function<void()>> refreshers_;
    std::string shape_; ///< which settings apply; a change rebuilds the card
};
} // namespace hygros::app
