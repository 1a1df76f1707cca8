#pragma once
/// Waves of a water as its card draws them: how they spread about the wind, and how their energy lies over lengths. The
/// tip of the spread is dragged to turn the wind, its edges to hold waves closer to it, the curve's peak to make them
/// longer or shorter.
#include "media/swell.h"

#include <QWidget>
#include <optional>

namespace hygros::app {

class WavesDrawing : public QWidget {
    Q_OBJECT
public:
    explicit WavesDrawing(QWidget* parent = nullptr);
    /// Nothing: calm. `turns`: whether the wind is its own and may be turned and changed here.
    void setWaves(const std::optional<media::Swell>& swell, bool turns);
    QSize sizeHint() const override { return {280, 132}; }
    /// Where they are held, in this widget; null where there is none.
    QPointF tip() const;
    QPointF edge() const;
    QPointF peak() const;

Q_SIGNALS:
    void headingEdited(double degrees);
    void narrowEdited(double narrow);
    void windEdited(double speed);
    void editingEnded();

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;
    void mouseMoveEvent(QMouseEvent*) override;
    void mouseReleaseEvent(QMouseEvent*) override;

private:
    enum class Held { Nothing, Tip, Edge, Peak };
    Held heldAt(const QPointF& p) const;
    QPointF middle() const;
    double radius() const;
    QRectF plot() const;
    QPointF onRose(double angle, double far) const;
    double xOf(double length) const;
    double lengthAt(double x) const;
    std::optional<media::Swell> swell_;
    bool turns_ = false;
    double half_ = 0.0;                     ///< angle at which half of the peak's energy is left [rad]
    double shortest_ = 0.1, longest_ = 10.; ///< of the curve [m]; they stay while something is held
    Held held_ = Held::Nothing;
};
} // namespace hygros::app
