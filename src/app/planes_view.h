#pragma once
/// The Planes: the picture in bands of distance, each with its tones, and how far they stand apart. The two borders are
/// dragged on the ruler; a double-click gives them back to the depth histogram.
#include "app/session.h"

#include <QWidget>

namespace hygros::app {

class PlanesView : public QWidget {
    Q_OBJECT
public:
    explicit PlanesView(Session& session, QWidget* parent = nullptr);
    /// Where border 0 or 1 stands in this widget.
    QPointF borderPosition(std::size_t border) const;
    QSize minimumSizeHint() const override { return {480, 170}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void mouseDoubleClickEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QRectF ruler() const;
    double xOf(double distance) const;
    double distanceOf(double x) const;
    void drawPlane(QPainter& p, const QRectF& area, std::size_t index);
    void drawTones(QPainter& p, const QRectF& strip, std::size_t index);
    /// What is measured, and beside it: the picture and itself without its air, or, as both are shown, what it is held
    /// against.
    bool isHeld() const { return !session_.readings().planesAgainst().planes.empty(); }
    const reading::Planes& now() const
    {
        return isHeld() ? session_.readings().planesShown() : session_.readings().planes();
    }
    const reading::Planes& beside() const
    {
        return isHeld() ? session_.readings().planesAgainst() : session_.readings().planesWithoutAir();
    }
    void moveBorder(std::size_t border, double distance);

    Session& session_;
    int held_ = -1;
    std::size_t chosen_ = 0;
};
} // namespace hygros::app
