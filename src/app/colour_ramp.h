#pragma once
/// Two to eight colours over a length: a band shows them over light and dark, flags under it are dragged along; a click
/// between flags adds one, Delete removes the chosen one, a double click chooses its colour, and dragging a flag's
/// upper knob up and down sets its opacity.
#include "scene/parameter.h"

#include <QWidget>

namespace hygros::app {

class ColourRamp : public QWidget {
    Q_OBJECT
public:
    explicit ColourRamp(QWidget* parent = nullptr);
    void setStops(const scene::ColourStops& stops);
    const scene::ColourStops& stops() const { return stops_; }
    /// Where a stop's knob (its opacity) and flag (its place) are, for drawing and hitting.
    QPointF knobAt(std::size_t stop) const;
    QPointF flagAt(std::size_t stop) const;
    QSize sizeHint() const override { return {280, 92}; }

Q_SIGNALS:
    void stopsEdited(const hygros::scene::ColourStops& stops, bool dragging);
    void editingEnded();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QRectF band() const;
    scene::ColourStop between(float at) const;
    scene::ColourStops stops_;
    int chosen_ = -1;
    enum class Held { None, Place, Opacity } held_ = Held::None;
};
} // namespace hygros::app
