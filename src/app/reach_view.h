#pragma once
/// The Reach: which light acts on which air and which part of the set, and how strongly; a table of lights by what they
/// meet, with what each costs. A click turns a cell off and on, dragging up and down or typing a number sets its
/// strength; a name turns its whole row or column.
#include "app/session.h"

#include <QAbstractScrollArea>
#include <set>

namespace hygros::app {

class ReachView : public QAbstractScrollArea {
    Q_OBJECT
public:
    explicit ReachView(Session& session, QWidget* parent = nullptr);
    QSize minimumSizeHint() const override { return {480, 150}; }
    /// Middle of the cell where a light meets an element, in this widget's viewport; null when there is none. The sky's
    /// row is "sky".
    QPoint cellPosition(const std::string& light, const std::string& target) const;
    /// What opens a set's objects beside it.
    QPoint objectsPosition(const std::string& set) const;
    QPoint rowNamePosition(const std::string& light) const;
    QPoint columnNamePosition(const std::string& target) const;

protected:
    void paintEvent(QPaintEvent*) override;
    void resizeEvent(QResizeEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void wheelEvent(QWheelEvent*) override;
    void keyPressEvent(QKeyEvent*) override;
    void contextMenuEvent(QContextMenuEvent*) override;

private:
    struct Row {
        std::string element, prefix; ///< whose reach it is; "sky/" for the sky's
        QString name;
        bool silent = false;
    };
    struct Column {
        std::string id;
        QString name;
        bool air = false, silent = false;
        bool holds = false, open = false; ///< a set of several objects; they stand beside it
        bool object = false;
    };
    struct Cell {
        int row = -1, column = -1; ///< −1 for a name
        bool operator==(const Cell&) const = default;
    };
    void gather();
    bool hasReach(const std::string& target) const;
    void openObjects(const std::string& set);
    QRect cellRect(int row, int column) const;
    std::optional<Cell> cellAt(const QPoint& p) const;
    double strength(const Cell& c) const;
    void setStrength(const Cell& c, double value, const QString& merge = {});
    void toggle(const Cell& c);
    void copyRow(int row);
    void pasteRow(int row);
    void typed(const QString& text);

    static constexpr int nameWidth = 168, costWidth = 92, cellWidth = 96, rowHeight = 24, headHeight = 38;
    static QString figure(double v) { return QString::fromStdString(formatNumber(v, 2)); }
    QString costText(const std::string& id) const
    {
        const QString text = session_.picture().costText(id);
        return text.isEmpty() ? "–" : text;
    }
    Session& session_;
    std::vector<Row> rows_;
    std::vector<Column> columns_;
    std::set<std::string> opened_; ///< sets whose objects are shown
    Cell chosen_{0, 0}, pointed_;
    std::optional<Cell> held_;
    QPoint pressed_;
    double heldStrength_ = 1.0;
    bool dragged_ = false;
    QString entry_; ///< a number being typed
};
} // namespace hygros::app
