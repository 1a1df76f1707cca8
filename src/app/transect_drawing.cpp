/// What the Transect draws.
#include "app/theme.h"
#include "app/transect_view.h"
#include "app/words.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace hygros::app {
void TransectView::drawAir(QPainter& p)
{
    const QRectF r = plot();
    p.fillRect(r, QColor("#1a1c1e"));
    if (air_.isNull())
        return;
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(r, air_);
    if (const QImage* own = airOf(session_.selection().hovered())) {
        p.setOpacity(0.45);
        p.drawImage(r, *own);
        p.setOpacity(1.0);
    }
}

void TransectView::drawMarks(QPainter& p)
{
    const QRectF r = plot();
    p.setRenderHint(QPainter::Antialiasing, false);
    // Borders of the planes, from top to bottom; how far one sees, a flag at the foot.
    p.setFont(textFont(10));
    for (const float border : session_.readings().planeBorders()) {
        const double x = xOf(double(border));
        if (x <= r.left() || x >= r.right())
            continue;
        p.setPen(QPen(QColor(255, 255, 255, 110), 1, Qt::DotLine));
        p.drawLine(QPointF(x, r.top()), QPointF(x, r.bottom()));
    }
    if (std::isfinite(reading_.sees) && xOf(double(reading_.sees)) < r.right() && double(reading_.sees) > nearest_) {
        const double x = xOf(double(reading_.sees));
        const QColor hue("#f2f2f0");
        p.setRenderHint(QPainter::Antialiasing);
        p.setPen(QPen(hue, 1.4));
        p.drawLine(QPointF(x, r.bottom()), QPointF(x, r.bottom() - 20));
        p.setBrush(hue);
        p.setPen(Qt::NoPen);
        p.drawPolygon(
            QPolygonF{QPointF(x, r.bottom() - 20), QPointF(x + 9, r.bottom() - 16), QPointF(x, r.bottom() - 12)});
        const QString text = say("sees ") +
                             QString::fromStdString(formatQuantity(double(reading_.sees), Quantity::Length));
        p.setFont(figureFont(10));
        const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 4;
        p.setPen(hue);
        // Beside its flag; on the other side of the line where the edge is near.
        p.drawText(QRectF(x + 11 + w < r.right() ? x + 11 : x - w - 4, r.bottom() - 24, w, 14), Qt::AlignVCenter, text);
    }
    // The line of sight under the Picture's cursor, up to what it meets.
    const auto shot = session_.picture().shot();
    const render::Sounding& s = session_.readings().sight();
    if (!shot || !s.known())
        return;
    const double drop = double(s.slope);
    QPainterPath path;
    bool begun = false;
    for (int i = 0; i <= 60; ++i) {
        const double level = distanceOf(r.left() + r.width() * i / 60.0), along = level * std::sqrt(1.0 + drop * drop);
        if (along > double(s.depth))
            break;
        const QPointF q(xOf(level), yOf(double(shot->camera.position.y) + drop * level));
        begun ? path.lineTo(q) : path.moveTo(q);
        begun = true;
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(0xB4, 0xC9, 0x5A, 220), 1.2, Qt::DashLine));
    p.drawPath(path);
}

/// Its body down to the ground, its crests and troughs, and as deep as one sees into it.
void TransectView::drawWater(QPainter& p)
{
    const std::size_t n = std::min(reading_.crest.size(), reading_.distance.size());
    const QColor hue = familyHue(scene::Family::Water);
    const QRectF r = plot();
    const auto yIn = [&](float height) { return std::clamp(yOf(double(height)), r.top(), r.bottom()); };
    p.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < n;) {
        if (std::isnan(reading_.crest[i])) {
            ++i;
            continue;
        }
        std::size_t end = i;
        while (end < n && !std::isnan(reading_.crest[end]))
            ++end;
        QPolygonF crests, troughs;
        QPainterPath body;
        for (std::size_t k = i; k < end; ++k) {
            const double x = xOf(double(reading_.distance[k]));
            crests << QPointF(x, yIn(reading_.crest[k]));
            troughs << QPointF(x, yIn(reading_.trough[k]));
        }
        body.addPolygon(troughs);
        for (std::size_t k = end; k-- > i;) {
            const bool hasGround = k < reading_.ground.size() && !std::isnan(reading_.ground[k]);
            body.lineTo(xOf(double(reading_.distance[k])), hasGround ? yIn(reading_.ground[k]) : r.bottom());
        }
        body.closeSubpath();
        QColor deep = hue.darker(230), light = hue.darker(150);
        deep.setAlpha(150);
        light.setAlpha(150);
        QLinearGradient fade(0, yIn(reading_.waterLevel), 0, yIn(reading_.waterLevel - reading_.seesUnder));
        fade.setColorAt(0, light);
        fade.setColorAt(1, deep);
        p.setPen(Qt::NoPen);
        p.setBrush(fade);
        p.drawPath(body);
        // Between trough and crest, and the crests themselves.
        QPolygonF band = crests;
        for (qsizetype k = troughs.size(); k-- > 0;)
            band << troughs[k];
        QColor foam = hue.lighter(130);
        foam.setAlpha(120);
        p.setBrush(foam);
        p.drawPolygon(band);
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(hue.lighter(140), 1.2));
        p.drawPolyline(crests);
        i = end;
    }
    if (const double y = yOf(double(reading_.waterLevel - reading_.seesUnder));
        reading_.seesUnder > 0.f && y < r.bottom() - 3.0) {
        p.setPen(QPen(hue.lighter(120), 1, Qt::DotLine));
        p.drawLine(QPointF(r.left(), y), QPointF(r.right(), y));
        p.setFont(figureFont(10));
        p.drawText(QRectF(r.left() + 6, y + 1, 220, 13), Qt::AlignLeft,
                   say("seen down to ") +
                       QString::fromStdString(formatQuantity(double(reading_.seesUnder), Quantity::Length)));
    }
}

void TransectView::drawOutline(QPainter& p)
{
    if (!reading_.crest.empty() && !quality_)
        drawWater(p);
    if (reading_.highest.empty())
        return;
    const QColor hue = familyHue(scene::Family::Set);
    p.setRenderHint(QPainter::Antialiasing);
    QPolygonF solid;
    const auto flush = [&] {
        if (solid.size() > 1) {
            QPolygonF closed = solid;
            closed << QPointF(solid.last().x(), plot().bottom()) << QPointF(solid.first().x(), plot().bottom());
            if (!quality_) { // what is sliced stays to be seen
                p.setPen(Qt::NoPen);
                QColor fill = hue.darker(190);
                fill.setAlpha(230);
                p.setBrush(fill);
                p.drawPolygon(closed);
            }
            p.setPen(QPen(hue, 1));
            p.setBrush(Qt::NoBrush);
            p.drawPolyline(solid);
        }
        solid.clear();
    };
    for (std::size_t i = 0; i < reading_.ground.size(); ++i) {
        if (std::isnan(reading_.ground[i])) {
            flush();
            continue;
        }
        solid << QPointF(xOf(double(reading_.distance[i])),
                         std::clamp(yOf(double(reading_.ground[i])), plot().top(), plot().bottom()));
    }
    flush();
    if (quality_)
        return;
    // What rises above the ground, as upright strokes: posts, trees, roofs.
    QColor stroke = hue;
    stroke.setAlpha(170);
    p.setRenderHint(QPainter::Antialiasing, false);
    for (std::size_t i = 0; i < reading_.highest.size(); ++i) {
        if (std::isnan(reading_.highest[i]))
            continue;
        // Over the water, where there is some.
        const bool isWet = i < reading_.trough.size() && !std::isnan(reading_.trough[i]);
        const float from = isWet ? std::max(reading_.ground[i], reading_.trough[i]) : reading_.ground[i];
        if (!(reading_.highest[i] > from + 0.9f))
            continue;
        const double x = xOf(double(reading_.distance[i])),
                     w = std::max(1.6, plot().width() / double(reading_.highest.size()) * 0.8),
                     top = std::max(plot().top(), yOf(double(reading_.highest[i])));
        p.fillRect(QRectF(x - w / 2, top, w, std::max(0.0, yOf(double(from)) - top)), stroke);
    }
}

void TransectView::drawAxes(QPainter& p)
{
    const Theme& t = Theme::now();
    const QRectF r = plot();
    p.setClipping(false);
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setFont(figureFont(10));
    double lastY = r.bottom() + 20;
    for (const double h : {-200.0, -50.0, -20.0, -5.0, -2.0, 0.0, 2.0, 5.0, 10.0, 20.0, 60.0, 200.0, 500.0, 1000.0,
                           2000.0, 5000.0, 10000.0}) {
        if (h < lowest_ || h > highest_ || lastY - yOf(h) < 15)
            continue;
        lastY = yOf(h);
        p.setPen(t.quiet);
        p.drawText(QRectF(0, yOf(h) - 7, r.left() - 8, 14), Qt::AlignRight | Qt::AlignVCenter,
                   h >= 1000.0 ? figures(h / 1000.0, 6) + " km" : figures(h, 6) + (h >= 60.0 ? " m" : ""));
        p.setPen(QColor(255, 255, 255, 26));
        p.drawLine(QPointF(r.left(), yOf(h)), QPointF(r.right(), yOf(h)));
    }
    const auto tick = [&](double d, bool named) {
        if (d < nearest_ * 0.9999 || d > farthest_ * 1.0001)
            return;
        p.setPen(named ? t.quiet : t.rule);
        p.drawLine(QPointF(xOf(d), r.bottom()), QPointF(xOf(d), r.bottom() + (named ? 6 : 3)));
        if (!named)
            return;
        p.setPen(t.quiet);
        p.drawText(QRectF(xOf(d) - 30, r.bottom() + 7, 60, 13), Qt::AlignCenter,
                   QString::fromStdString(formatQuantity(d, Quantity::Length)));
    };
    if (logarithmic_) {
        // Decades, and 2 and 5 of each where there is room.
        const bool room = std::log10(farthest_ / nearest_) < 1.9;
        for (int decade = -2; decade <= 5; ++decade)
            for (int k = 1; k < 10; ++k)
                tick(std::pow(10.0, decade) * k, k == 1 || (room && (k == 2 || k == 5)));
    } else {
        const double raw = (farthest_ - nearest_) / 6.0, ten = std::pow(10.0, std::floor(std::log10(raw)));
        const double step = ten * (raw / ten < 1.5 ? 1 : raw / ten < 3.5 ? 2 : raw / ten < 7.5 ? 5 : 10);
        for (double d = std::ceil(nearest_ / step) * step; d <= farthest_; d += step)
            tick(d, true);
    }
    if (quality_)
        return drawCursor(p, sliceAt(cursor_));
    p.setPen(t.text);
    p.drawText(QRectF(r.right() + 6, r.top() - 6, 40, 14), Qt::AlignLeft, "T 1");
    p.drawText(QRectF(r.right() + 6, r.bottom() - 8, 40, 14), Qt::AlignLeft, "T 0");
    // Transmittance, level along the heading.
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath curve;
    const double end = session_.readings().sight().known() ? double(session_.readings().sight().depth) : 1e9;
    for (std::size_t i = 0; i < reading_.distance.size() && double(reading_.distance[i]) <= end; ++i) {
        const QPointF q(xOf(double(reading_.distance[i])),
                        r.bottom() - transmittanceAt(double(reading_.distance[i])) * r.height());
        i ? curve.lineTo(q) : curve.moveTo(q);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(0, 0, 0, 120), 3));
    p.drawPath(curve);
    p.setPen(QPen(QColor("#f2f2f0"), 1.5));
    p.drawPath(curve);
    if (!reading_.transmittance.empty())
        drawCursor(p, QString("T %1").arg(figure(transmittanceAt(distanceOf(cursor_.x())), 2)));
}

void TransectView::drawCursor(QPainter& p, const QString& reads)
{
    const QRectF r = plot();
    if (!r.contains(cursor_) || !heldElement_.empty())
        return;
    p.setPen(QPen(QColor(255, 255, 255, 90), 1, Qt::DotLine));
    p.drawLine(QPointF(cursor_.x(), r.top()), QPointF(cursor_.x(), r.bottom()));
    const double up = heightOf(cursor_.y());
    const QString text = say("%1   %2 up   %3")
                             .arg(QString::fromStdString(formatQuantity(distanceOf(cursor_.x()), Quantity::Length)),
                                  QString::fromStdString(
                                      formatQuantity(std::abs(up) < 0.05 ? 0.0 : up, Quantity::Length)),
                                  reads);
    const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 14;
    QRectF box(cursor_.x() + 10, r.bottom() - 22, w, 18);
    if (box.right() > r.right())
        box.moveRight(cursor_.x() - 10);
    p.fillRect(box, QColor(20, 21, 22, 215));
    p.setPen(QColor("#e6e6e4"));
    p.drawText(box, Qt::AlignCenter, text);
}

void TransectView::drawHandles(QPainter& p)
{
    const QRectF r = plot();
    const auto all = handles();
    const Handle* under = heldElement_.empty() ? handleAt(all, cursor_) : nullptr;
    p.setRenderHint(QPainter::Antialiasing);
    for (const Handle& h : all) {
        const scene::Element* e = session_.project().find(h.element);
        const bool held = h.element == heldElement_ && h.parameter == heldParameter_;
        const bool on = held || (under && under->element == h.element && under->parameter == h.parameter) ||
                        session_.selection().hovered() == h.element;
        const QColor colour = on ? QColor("#B4C95A") : familyHue(h.lamp ? scene::Family::Lights : scene::Family::Air);
        const scene::Parameter* q = scene::findParameter(e->kind->parameters, h.parameter);
        const QString value = QString::fromStdString(q->shown(q->get(*e->settings)));
        QString label = h.vertical || h.parameter != "visibility" ? QString::fromStdString(q->label) + " " + value
                                                                  : QString::fromStdString(e->name) + " " + value;
        p.setPen(QPen(colour, held ? 2 : 1.2, h.vertical ? Qt::SolidLine : Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        if (h.lamp) {
            p.setBrush(h.parameter == "aim" ? colour : QColor("#1a1c1e"));
            p.setPen(QPen(colour, 2));
            if (h.parameter == "position")
                p.drawEllipse(h.at, 5, 5);
            else
                p.drawPolygon(QPolygonF{h.at + QPointF(0, -6), h.at + QPointF(6, 0), h.at + QPointF(0, 6),
                                        h.at + QPointF(-6, 0)});
        } else if (h.vertical) {
            QColor line = colour;
            line.setAlpha(on ? 255 : 150);
            p.setPen(QPen(line, 1));
            p.drawLine(QPointF(r.left(), h.at.y()), QPointF(r.right(), h.at.y()));
            p.setBrush(QColor("#1a1c1e"));
            p.setPen(QPen(colour, 2));
            p.drawEllipse(h.at, 5, 5);
        } else {
            p.drawLine(QPointF(h.at.x(), r.top()), QPointF(h.at.x(), r.bottom()));
            p.setBrush(colour);
            p.setPen(Qt::NoPen);
            p.drawPolygon(QPolygonF{h.at + QPointF(-6, -9), h.at + QPointF(6, -9), h.at + QPointF(0, 3)});
        }
        // Only what is being worked on is written out, so that the drawing stays a drawing.
        if (held || (under && under->parameter == h.parameter) || (on && !h.lamp) || !h.vertical) {
            p.setFont(figureFont(11));
            const int w = QFontMetrics(p.font()).horizontalAdvance(label) + 12;
            QRectF box = h.vertical ? QRectF(h.at.x() + 10, h.parameter == "base" ? h.at.y() + 4 : h.at.y() - 22, w, 18)
                                    : QRectF(h.at.x() + 8, r.top() + 2, w, 18);
            if (box.right() > r.right())
                box.moveRight(h.at.x() - 8);
            p.fillRect(box, QColor(20, 21, 22, 205));
            p.setPen(on ? QColor("#B4C95A") : QColor("#c9d6e2"));
            p.drawText(box, Qt::AlignCenter, label);
        }
    }
}
} // namespace hygros::app
