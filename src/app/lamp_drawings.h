#pragma once
/// What a lamp's card draws: the spread of its photometric profile, and the pad on which a gobo's outlines are drawn.
#include "light/profile.h"

#include <QWidget>
#include <optional>

namespace hygros::app {

/// Relative intensity by angle to the axis, straight down the middle; the plane across dashed. Rings stand at quarters
/// of the brightest.
class ProfileDrawing : public QWidget {
    Q_OBJECT
public:
    explicit ProfileDrawing(QWidget* parent = nullptr);
    /// Null: nothing to draw, the widget takes no room.
    void setProfile(std::shared_ptr<const light::Profile> profile);
    QSize sizeHint() const override { return {280, 150}; }

protected:
    void paintEvent(QPaintEvent*) override;

private:
    std::shared_ptr<const light::Profile> profile_;
};

/// Outlines from −1 to 1 across the beam. A click sets a point of the outline in work, a click on its first point (or
/// Return) closes it; points are dragged, a right click or Delete takes one away, Escape drops the outline in work.
class GoboPad : public QWidget {
    Q_OBJECT
public:
    explicit GoboPad(QWidget* parent = nullptr);
    void setDrawing(const std::string& text);
    /// Where a place of the beam is in this widget.
    QPointF toWidget(const Vec2& p) const;
    QSize sizeHint() const override { return {280, 200}; }

Q_SIGNALS:
    void drawingEdited(const QString& text, bool dragging); ///< dragging: more of the same gesture may follow
    void editingEnded();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    struct Point {
        std::size_t outline, index;
        bool operator==(const Point&) const = default;
    };
    Vec2 fromWidget(const QPointF& p) const;
    std::optional<Point> pointAt(const QPointF& p) const;
    void close();
    void remove(const Point& p);
    void tell(bool dragging);

    std::vector<std::vector<Vec2>> outlines_;
    std::vector<Vec2> inWork_;
    std::optional<Point> held_, chosen_;
    QPointF pointer_;
};
} // namespace hygros::app
