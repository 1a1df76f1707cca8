#include "app/tone_curve.h"

#include "app/theme.h"
#include "app/words.h"
#include "finish/display.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

namespace hygros::app {
ToneCurve::ToneCurve(QWidget* parent) : QWidget(parent)
{
    setProperty("ownKeys", true);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setFixedHeight(190);
    setToolTip(say("Drag points; click the curve to add one; Delete removes the chosen one."));
    setAccessibleName(say("tone curve"));
}

void ToneCurve::useShares(bool mayFall, const QString& caption)
{
    lowest_ = 0.f;
    highest_ = 1.f;
    gap_ = 0.01f;
    mayFall_ = mayFall;
    caption_ = caption;
    setFixedHeight(130);
    setAccessibleName(caption);
    update();
}

float ToneCurve::valueAt(float x) const
{
    if (!ofShares())
        return finish::monotoneCurve(points_, x);
    std::size_t k = 0;
    while (k + 2 < points_.size() && x > points_[k + 1].x)
        ++k;
    const float u = std::clamp((x - points_[k].x) / std::max(1e-6f, points_[k + 1].x - points_[k].x), 0.f, 1.f);
    return points_[k].y + (points_[k + 1].y - points_[k].y) * u;
}

void ToneCurve::setCurve(const scene::CurvePoints& points)
{
    points_ = points;
    if (chosen_ >= static_cast<int>(points_.size()))
        chosen_ = -1;
    update();
}

QRectF ToneCurve::plot() const { return QRectF(30, 8, width() - (ofShares() ? 46 : 38), height() - 32); }
QPointF ToneCurve::toScreen(const Vec2& p) const
{
    const QRectF r = plot();
    return {r.left() + (p.x - lowest_) / (highest_ - lowest_) * r.width(), r.bottom() - p.y * r.height()};
}
Vec2 ToneCurve::fromScreen(const QPointF& p) const
{
    const QRectF r = plot();
    return Vec2(lowest_ + static_cast<float>((p.x() - r.left()) / r.width()) * (highest_ - lowest_),
                std::clamp(static_cast<float>((r.bottom() - p.y()) / r.height()), 0.f, 1.f));
}
int ToneCurve::pointAt(const QPointF& p) const
{
    for (std::size_t i = 0; i < points_.size(); ++i)
        if (QLineF(toScreen(points_[i]), p).length() < 9)
            return static_cast<int>(i);
    return -1;
}

void ToneCurve::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    const QRectF r = plot();
    p.fillRect(r, t.field);
    p.setFont(figureFont(10));
    for (int s = ofShares() ? 0 : -8; s <= (ofShares() ? 4 : 8); s += ofShares() ? 1 : 4) {
        const double x = toScreen(Vec2(static_cast<float>(s) * (ofShares() ? 0.25f : 1.f), 0)).x();
        p.setPen(t.rule);
        p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
        p.setPen(t.quiet);
        p.drawText(QRectF(x - 20, r.bottom() + 4, 40, 14), Qt::AlignHCenter,
                   ofShares() ? QString::number(s * 25)
                   : s > 0    ? QString("+%1").arg(s)
                              : QString::number(s));
    }
    for (const double y : {0.0, 0.5, 1.0}) {
        const double sy = r.bottom() - y * r.height();
        p.setPen(t.rule);
        p.drawLine(QPointF(r.left(), sy), QPointF(r.right(), sy));
        p.setPen(t.quiet);
        p.drawText(QRectF(0, sy - 7, 26, 14), Qt::AlignRight | Qt::AlignVCenter, QString::number(y * 100));
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setClipRect(r.adjusted(-5, -5, 5, 5));
    QPainterPath path;
    for (int i = 0; i <= 160; ++i) {
        const float x = lowest_ + (highest_ - lowest_) * static_cast<float>(i) / 160.f;
        const QPointF q = toScreen(Vec2(x, valueAt(x)));
        i ? path.lineTo(q) : path.moveTo(q);
    }
    p.setPen(QPen(t.text, 1.5));
    p.drawPath(path);
    for (std::size_t i = 0; i < points_.size(); ++i) {
        const bool on = static_cast<int>(i) == chosen_;
        p.setPen(QPen(on ? t.accent : t.text, 1.5));
        p.setBrush(on ? t.accent : t.field);
        p.drawEllipse(toScreen(points_[i]), 4, 4);
    }
    p.setClipping(false);
    p.setPen(t.quiet);
    p.setFont(figureFont(10));
    QString text = ofShares() ? caption_ : say("stops around middle grey → % of display light");
    if (r.contains(cursor_)) {
        const float x = fromScreen(cursor_).x;
        text = ofShares() ? QString("%1 % → %2 %").arg(figure(100 * x, 0)).arg(figure(100 * valueAt(x), 0))
                          : say("%1 stops → %2 %").arg(figure(x, 1)).arg(figure(100 * valueAt(x), 1));
    }
    p.drawText(QRectF(r.left() + 8, r.top() + 10, r.width() * 0.5, 44), Qt::AlignLeft | Qt::TextWordWrap, text);
    if (hasFocus()) {
        p.setPen(t.accent);
        p.drawRect(r);
    }
}

void ToneCurve::mousePressEvent(QMouseEvent* e)
{
    setFocus();
    chosen_ = pointAt(e->position());
    if (chosen_ < 0) {
        const Vec2 at = fromScreen(e->position());
        const float on = valueAt(at.x);
        if (std::abs(toScreen(Vec2(at.x, on)).y() - e->position().y()) < 12) {
            const auto place = std::lower_bound(points_.begin(), points_.end(), at.x,
                                                [](const Vec2& p, float x) { return p.x < x; });
            if (place == points_.end() || place == points_.begin() || place->x - at.x > gap_) {
                chosen_ = static_cast<int>(place - points_.begin());
                points_.insert(place, Vec2(at.x, on));
                Q_EMIT curveEdited(points_, true);
            }
        }
    }
    dragging_ = chosen_ >= 0;
    update();
}

void ToneCurve::mouseMoveEvent(QMouseEvent* e)
{
    cursor_ = e->position();
    if (dragging_) {
        const auto i = static_cast<std::size_t>(chosen_);
        Vec2 at = fromScreen(e->position());
        const float left = i            ? points_[i - 1].x + gap_
                           : ofShares() ? 0.f
                                        : -20.f,
                    right = i + 1 < points_.size() ? points_[i + 1].x - gap_
                            : ofShares()           ? 1.f
                                                   : 20.f;
        const float low = i && !mayFall_ ? points_[i - 1].y : 0.f,
                    high = i + 1 < points_.size() && !mayFall_ ? points_[i + 1].y : 1.f;
        at.x = std::clamp(at.x, left, right);
        at.y = std::clamp(at.y, low, high);
        points_[i] = at;
        Q_EMIT curveEdited(points_, true);
    }
    update();
}

void ToneCurve::mouseReleaseEvent(QMouseEvent*)
{
    dragging_ = false;
    Q_EMIT editingEnded();
}

void ToneCurve::keyPressEvent(QKeyEvent* e)
{
    if ((e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) && chosen_ >= 0 && points_.size() > 2) {
        points_.erase(points_.begin() + chosen_);
        chosen_ = -1;
        Q_EMIT curveEdited(points_, false);
        Q_EMIT editingEnded();
        update();
        return;
    }
    QWidget::keyPressEvent(e);
}
} // namespace hygros::app
