#pragma once
/// One element in the column: thumbnail of what it alone adds, name, mute and solo, its two lead rulers; a click on
/// its head unfolds it to all settings.
#include "app/session.h"

#include <QWidget>

class QLabel;
class QVBoxLayout;

namespace hygros::app {

/// The look of a button that opens a menu or a file.
QString plainButton();

class LeadRuler;
class ToneCurve;

class Card : public QWidget {
    Q_OBJECT
public:
    Card(Session& session, const std::string& element, bool open, QWidget* parent = nullptr);
    const std::string& element() const { return element_; }
    bool isOpen() const { return open_; }
    void setOpen(bool open);
    /// Takes over what the project says now.
    void refresh();

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
    const scene::Element& now() const;
    void build();
    void tellNotes();
    void addGroup(QVBoxLayout* column, const QString& name, const std::vector<const scene::Parameter*>& parameters);
    QWidget* editorFor(const scene::Parameter& parameter);
    /// A choice among elements, or among a volume file's grids, at the end of `row`.
    void linkField(QWidget* row, const scene::Parameter& parameter);
    /// A line for each grid of a volume's file.
    QWidget* gridFacts();
    /// The same density in several forms; a click on the ruler's word goes round.
    void visibilityForms(LeadRuler* ruler);
    /// How scattering and absorption are linked, by three drawn balls.
    QWidget* ballEditor(const scene::Parameter& parameter);
    LeadRuler* rulerFor(const scene::Parameter& parameter);
    QString mergeKey(const scene::Parameter& parameter) const;
    QRect muteRect() const;
    QRect soloRect() const;
    void toggle(bool scene::Element::*flag, const QString& name);

    Session& session_;
    std::string element_;
    bool open_, hovered_ = false;
    int gesture_ = 0; ///< numbers the drags so that each is one undo step
    int visibilityForm_ = 0;
    QWidget* body_ = nullptr;
    QLabel* notes_ = nullptr;
    std::vector<std::function<void()>> refreshers_;
    std::string shape_; ///< which settings apply; a change rebuilds the card
};
} // namespace hygros::app
