#pragma once
/// The look's tone curve by points: stops around middle grey across, displayed light up. Points are dragged; a click
/// on the curve adds one, Delete removes the chosen one. It never falls.
#include "scene/parameter.h"

#include <QWidget>

namespace hygros::app {

class ToneCurve : public QWidget {
    Q_OBJECT
public:
    explicit ToneCurve(QWidget* parent = nullptr);
    void setCurve(const scene::CurvePoints& points);
    /// From shares to shares, straight between its points, instead of from stops to light. `mayFall`: it need not rise.
    void useShares(bool mayFall, const QString& caption);
    const scene::CurvePoints& curve() const { return points_; }
    QSize sizeHint() const override { return {280, 190}; }

Q_SIGNALS:
    void curveEdited(const hygros::scene::CurvePoints& points, bool dragging);
    void editingEnded();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;
    void keyPressEvent(QKeyEvent*) override;

private:
    QRectF plot() const;
    QPointF toScreen(const Vec2& p) const;
    Vec2 fromScreen(const QPointF& p) const;
    int pointAt(const QPointF& p) const;
    scene::CurvePoints points_;
    bool ofShares() const { return highest_ == 1.f; }
    float valueAt(float x) const;
    float lowest_ = -10.f, highest_ = 8.f, gap_ = 0.05f;
    bool mayFall_ = false;
    QString caption_;
    int chosen_ = -1;
    bool dragging_ = false;
    QPointF cursor_{-1, -1};
};
} // namespace hygros::app
