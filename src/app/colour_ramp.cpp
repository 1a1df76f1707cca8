#include "app/colour_ramp.h"

#include "app/theme.h"
#include "app/words.h"

#include <QColorDialog>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace hygros::app {
using scene::ColourStop;

ColourRamp::ColourRamp(QWidget* parent) : QWidget(parent)
{
    setProperty("ownKeys", true);
    setFocusPolicy(Qt::StrongFocus);
    setMinimumHeight(92);
    setAccessibleName(say("Colours"));
}

void ColourRamp::setStops(const scene::ColourStops& stops)
{
    stops_ = stops;
    chosen_ = std::min(chosen_, static_cast<int>(stops_.size()) - 1);
    update();
}

QRectF ColourRamp::band() const { return QRectF(12, 20, width() - 24, 44); }
QPointF ColourRamp::knobAt(std::size_t i) const
{
    const QRectF b = band();
    return {b.left() + double(stops_[i].at) * b.width(), b.bottom() - double(stops_[i].opacity) * b.height()};
}
QPointF ColourRamp::flagAt(std::size_t i) const { return {knobAt(i).x(), band().bottom() + 10}; }

ColourStop ColourRamp::between(float at) const
{
    for (std::size_t i = 1; i < stops_.size(); ++i)
        if (at <= stops_[i].at || i + 1 == stops_.size()) {
            const ColourStop &a = stops_[i - 1], &b = stops_[i];
            const float f = std::clamp((at - a.at) / std::max(1e-6f, b.at - a.at), 0.f, 1.f);
            return {at, lerp(a.colour, b.colour, f), a.opacity + (b.opacity - a.opacity) * f};
        }
    return {};
}

void ColourRamp::paintEvent(QPaintEvent*)
{
    if (stops_.size() < 2)
        return;
    const Theme& t = Theme::now();
    QPainter p(this);
    const QRectF b = band();
    p.setFont(textFont(11));
    p.setPen(t.quiet);
    p.drawText(QRectF(2, 0, width() - 4, 16), Qt::AlignLeft | Qt::AlignVCenter, say("colours"));
    if (chosen_ >= 0) {
        const ColourStop& s = stops_[static_cast<std::size_t>(chosen_)];
        p.setFont(figureFont(11));
        p.setPen(t.text);
        p.drawText(QRectF(2, 0, width() - 4, 16), Qt::AlignRight | Qt::AlignVCenter,
                   say("at %1 %   opaque %2 %")
                       .arg(figure(100.0 * double(s.at), 0))
                       .arg(figure(100.0 * double(s.opacity), 0)));
    }
    for (int x = 0; x < static_cast<int>(b.width()); ++x) {
        const ColourStop s = between(static_cast<float>(x / b.width()));
        // Over a dark and a light ground, so that opacity is seen.
        for (const auto& [ground, top, height] :
             {std::tuple(0.05f, b.top(), b.height() / 2), std::tuple(0.6f, b.center().y(), b.height() / 2)})
            p.fillRect(QRectF(b.left() + x, top, 1, height),
                       displayColour(Vec3(ground) * (1.f - s.opacity) + s.colour * s.opacity));
    }
    p.setRenderHint(QPainter::Antialiasing);
    QPolygonF line;
    for (std::size_t i = 0; i < stops_.size(); ++i)
        line << knobAt(i);
    p.setPen(QPen(QColor(0, 0, 0, 140), 3));
    p.drawPolyline(line);
    p.setPen(QPen(QColor("#f2f2f0"), 1.2));
    p.drawPolyline(line);
    for (std::size_t i = 0; i < stops_.size(); ++i) {
        const bool on = static_cast<int>(i) == chosen_;
        const QPointF f = flagAt(i);
        p.setPen(QPen(on ? t.accent : t.quiet, on ? 2 : 1.2));
        p.setBrush(displayColour(stops_[i].colour));
        p.drawPolygon(QPolygonF{f + QPointF(0, -8), f + QPointF(6, 0), f + QPointF(6, 9), f + QPointF(-6, 9),
                                f + QPointF(-6, 0)});
        p.setBrush(on ? t.accent : QColor("#f2f2f0"));
        p.setPen(QPen(QColor(0, 0, 0, 160), 1));
        p.drawEllipse(knobAt(i), 4, 4);
    }
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void ColourRamp::mousePressEvent(QMouseEvent* e)
{
    held_ = Held::None;
    for (std::size_t i = 0; i < stops_.size(); ++i) {
        if (QLineF(flagAt(i), e->position()).length() < 11)
            held_ = Held::Place;
        else if (QLineF(knobAt(i), e->position()).length() < 8)
            held_ = Held::Opacity;
        if (held_ != Held::None) {
            chosen_ = static_cast<int>(i);
            update();
            return;
        }
    }
    const float at = static_cast<float>((e->position().x() - band().left()) / band().width());
    if (e->position().y() > band().bottom() && at > 0.f && at < 1.f && stops_.size() < 8) {
        const ColourStop added = between(at);
        const auto after = std::find_if(stops_.begin(), stops_.end(), [&](const ColourStop& s) { return s.at > at; });
        chosen_ = static_cast<int>(after - stops_.begin());
        stops_.insert(after, added);
        held_ = Held::Place;
        Q_EMIT stopsEdited(stops_, true);
    }
    update();
}

void ColourRamp::mouseMoveEvent(QMouseEvent* e)
{
    if (held_ == Held::None || chosen_ < 0)
        return;
    const auto i = static_cast<std::size_t>(chosen_);
    const QRectF b = band();
    if (held_ == Held::Opacity) {
        stops_[i].opacity = static_cast<float>(
            std::round(100.0 * std::clamp((b.bottom() - e->position().y()) / b.height(), 0.0, 1.0)) / 100.0);
    } else {
        // Never past a neighbour.
        const double lo = i == 0 ? 0.0 : double(stops_[i - 1].at) + 0.01,
                     hi = i + 1 == stops_.size() ? 1.0 : double(stops_[i + 1].at) - 0.01;
        stops_[i].at = static_cast<float>(
            std::clamp(std::round(1000.0 * (e->position().x() - b.left()) / b.width()) / 1000.0, lo, std::max(lo, hi)));
    }
    Q_EMIT stopsEdited(stops_, true);
    update();
}

void ColourRamp::mouseReleaseEvent(QMouseEvent*)
{
    if (held_ != Held::None)
        Q_EMIT editingEnded();
    held_ = Held::None;
}

void ColourRamp::mouseDoubleClickEvent(QMouseEvent* e)
{
    held_ = Held::None;
    for (std::size_t i = 0; i < stops_.size(); ++i)
        if (QLineF(flagAt(i), e->position()).length() < 11) {
            const QColor c = QColorDialog::getColor(displayColour(stops_[i].colour), this, say("Colour of the stop"));
            if (!c.isValid())
                return;
            stops_[i].colour = linearColour(c);
            Q_EMIT stopsEdited(stops_, false);
            update();
            return;
        }
}

void ColourRamp::keyPressEvent(QKeyEvent* e)
{
    const auto i = static_cast<std::size_t>(chosen_);
    if (chosen_ >= 0 && (e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) && stops_.size() > 2) {
        stops_.erase(stops_.begin() + chosen_);
        chosen_ = std::min(chosen_, static_cast<int>(stops_.size()) - 1);
        Q_EMIT stopsEdited(stops_, false);
    } else if (e->key() == Qt::Key_Right || e->key() == Qt::Key_Left) {
        chosen_ = std::clamp(chosen_ + (e->key() == Qt::Key_Right ? 1 : -1), 0, static_cast<int>(stops_.size()) - 1);
    } else if (chosen_ >= 0 && (e->key() == Qt::Key_Up || e->key() == Qt::Key_Down)) {
        stops_[i].opacity = std::clamp(stops_[i].opacity + (e->key() == Qt::Key_Up ? 0.05f : -0.05f), 0.f, 1.f);
        Q_EMIT stopsEdited(stops_, false);
    } else {
        QWidget::keyPressEvent(e);
        return;
    }
    update();
}
} // namespace hygros::app
