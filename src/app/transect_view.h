#pragma once
/// The Transect: distance across (logarithmic), height up; the set's outline, the air as it is, the lamps, and the
/// transmittance curve. Handles: a bank's base and top (dragged up and down), a haze's visibility (dragged along).
#include "app/session.h"
#include "reading/transect.h"

#include <QWidget>

namespace hygros::app {

class TransectView : public QWidget {
    Q_OBJECT
public:
    explicit TransectView(Session& session, QWidget* parent = nullptr);
    /// Where a handle stands in this widget; null when there is none. `parameter` is "base", "top" or "visibility".
    QPointF handlePosition(const std::string& element, const std::string& parameter) const;
    QSize sizeHint() const override { return {600, 212}; }
    QSize minimumSizeHint() const override { return {360, 170}; }

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void leaveEvent(QEvent*) override;

private:
    struct Handle {
        std::string element, parameter;
        QPointF at;
        bool vertical;
    };
    QRectF plot() const;
    double xOf(double distance) const;
    double distanceOf(double x) const;
    double yOf(double height) const;
    double heightOf(double y) const;
    std::vector<Handle> handles() const;
    const Handle* handleAt(const std::vector<Handle>& all, const QPointF& p) const;
    void measure();
    void drawAir(QPainter& p);
    void drawOutline(QPainter& p);
    void drawLamps(QPainter& p);
    void drawAxes(QPainter& p);
    void drawHandles(QPainter& p);

    Session& session_;
    reading::Transect reading_;
    QImage air_;
    std::shared_ptr<const geometry::RayScene> outlined_;
    geometry::Camera outlinedFrom_;
    QPointF cursor_{-1, -1};
    std::string heldElement_, heldParameter_;
    int gesture_ = 0;
};
} // namespace hygros::app
