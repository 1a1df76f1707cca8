/// What the Motion page draws.
#include "app/motion_view.h"
#include "app/theme.h"
#include "app/words.h"
#include "scene/evaluate.h"

#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double slopeReach = 34.0; ///< length of a slope's handle [pixels]
QColor shade(int component)
{
    QColor c = Theme::now().text;
    c.setAlphaF(component == 0 ? 1.f : component == 1 ? 0.66f : 0.4f);
    return c;
}
} // namespace

std::optional<QPointF> MotionView::slopeHandle(const Lane& lane, const scene::KeyPlace& key, int component,
                                               bool out) const
{
    const scene::Track* track = elementOf(lane)->track(key.parameter);
    if (!lane.open || numbersIn(lane) == 0 || !scene::isBlended(*lane.parameter))
        return std::nullopt;
    for (std::size_t i = 0; i < track->keys.size(); ++i) {
        const scene::Key& k = track->keys[i];
        if (std::abs(k.frame - key.frame) > 1e-3)
            continue;
        const scene::Way way = out ? k.way : i > 0 ? track->keys[i - 1].way : scene::Way::Hold;
        if (way != scene::Way::Smooth || (out ? i + 1 == track->keys.size() : i == 0))
            return std::nullopt;
        const double slope = double(scene::slopesAt(*lane.parameter, *track, i)[out ? 1 : 0][component]);
        const double v = number(k.value, component), perFrame = xOf(1.0) - xOf(0.0);
        // Its direction on the screen, as far as the scale is even about the key.
        const double step = 0.01 * (to_ - from_), dy = lane.yOf(v + slope * step) - lane.yOf(v), dx = perFrame * step,
                     length = std::hypot(dx, dy);
        const double sign = out ? 1.0 : -1.0;
        return QPointF(xOf(k.frame) + sign * slopeReach * dx / length, lane.yOf(v) + sign * slopeReach * dy / length);
    }
    return std::nullopt;
}

void MotionView::drawCurve(QPainter& p, const Lane& lane)
{
    const Theme& t = Theme::now();
    const scene::Element& e = *elementOf(lane);
    const scene::Track& track = *e.track(lane.id.second);
    const scene::Value plain = lane.parameter->get(*e.settings);
    // Three lines of value with their unit.
    p.setFont(figureFont(10));
    for (const double share : {0.0, 0.5, 1.0}) {
        const double y = lane.rect.bottom() - 8.0 - share * (lane.rect.height() - 16.0);
        p.setPen(QPen(t.rule, 1, Qt::DotLine));
        p.drawLine(QPointF(lane.rect.left(), y), QPointF(lane.rect.right(), y));
        p.setPen(t.quiet);
        const double value = lane.valueAt(y);
        const bool number = lane.parameter->type == scene::ValueType::Number;
        p.drawText(QRectF(lane.rect.right() + 5, y - 7, 60, 14), Qt::AlignLeft | Qt::AlignVCenter,
                   number ? QString::fromStdString(formatQuantity(value, lane.parameter->quantity))
                          : figures(value, 3));
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setClipRect(lane.rect.intersected(plot()));
    const bool steps = !scene::isBlended(*lane.parameter);
    const int points = std::max(2, static_cast<int>(lane.rect.width() / (track.stirs.empty() ? 2.0 : 1.0)));
    for (int c = numbersIn(lane) - 1; c >= 0; --c) {
        QPolygonF all, keyed;
        double was = 0.0;
        for (int i = 0; i <= points; ++i) {
            const double x = lane.rect.left() + lane.rect.width() * i / points, frame = frameAt(x);
            const double v = number(scene::valueAt(whole_, e, *lane.parameter, frame), c);
            if (steps && i > 0 && v != was)
                all << QPointF(x, lane.yOf(was));
            was = v;
            all << QPointF(x, lane.yOf(v));
            if (!track.stirs.empty())
                keyed << QPointF(x, lane.yOf(number(scene::keyedValue(*lane.parameter, track, frame, plain), c)));
        }
        if (!keyed.isEmpty()) { // what the stirs are laid over
            p.setPen(QPen(t.faint, 1, Qt::DashLine));
            p.drawPolyline(keyed);
        }
        p.setPen(QPen(shade(c), 1.4));
        p.drawPolyline(all);
    }
    p.setClipping(false);
}

void MotionView::drawKeys(QPainter& p, const Lane& lane)
{
    const Theme& t = Theme::now();
    const scene::Track& track = *elementOf(lane)->track(lane.id.second);
    p.setRenderHint(QPainter::Antialiasing);
    double last = -100.0;
    for (const scene::Key& k : track.keys) {
        const double x = xOf(k.frame);
        if (x < lane.rect.left() - 2.0 || x > lane.rect.right() + 2.0)
            continue;
        const scene::KeyPlace place{lane.id.first, lane.id.second, k.frame};
        const bool chosen = chosen_.count(place) > 0;
        if (!chosen && !lane.open && x - last < 1.0)
            continue; // closer than can be told apart
        last = x;
        const QColor colour = chosen ? t.accent : t.text;
        if (lane.open && numbersIn(lane) > 0) {
            for (int c = 0; c < numbersIn(lane); ++c) {
                const QPointF at(x, lane.yOf(number(k.value, c)));
                if (chosen)
                    for (const bool out : {false, true})
                        if (const auto end = slopeHandle(lane, place, c, out)) {
                            p.setPen(QPen(t.accent, 1));
                            p.drawLine(at, *end);
                            p.setBrush(t.panel);
                            p.drawEllipse(*end, 2.6, 2.6);
                        }
                p.setPen(QPen(colour, 1.3));
                p.setBrush(chosen ? colour : t.panel);
                p.drawEllipse(at, 3.4, 3.4);
            }
        } else {
            // A pin, as on rulers and the strip; its foot says how it goes on.
            const double y = lane.rect.top() + 0.5 * thinLane;
            p.setPen(QPen(colour, 1.3));
            p.setBrush(colour);
            p.drawEllipse(QPointF(x, y - 2.0), 3.0, 3.0);
            p.drawLine(QPointF(x, y + 1.0), QPointF(x, y + 7.0));
            if (k.way == scene::Way::Hold)
                p.drawLine(QPointF(x, y + 7.0), QPointF(x + 5.0, y + 7.0));
            else if (k.way == scene::Way::Linear)
                p.drawLine(QPointF(x, y + 7.0), QPointF(x + 4.0, y + 3.0));
        }
    }
    p.setBrush(Qt::NoBrush);
}

void MotionView::drawLane(QPainter& p, const Lane& lane)
{
    const Theme& t = Theme::now();
    const scene::Element& e = *elementOf(lane);
    p.fillRect(QRectF(nameWidthShown, lane.rect.top(), lane.rect.width(), lane.rect.height() - 1), t.window);
    // Name and value at the play head.
    p.setRenderHint(QPainter::Antialiasing);
    const QPointF arrow(12, lane.rect.top() + 0.5 * thinLane);
    p.setPen(QPen(t.quiet, 1.2));
    p.drawPolyline(lane.open ? QPolygonF{arrow + QPointF(-4, -2), arrow + QPointF(0, 2), arrow + QPointF(4, -2)}
                             : QPolygonF{arrow + QPointF(-2, -4), arrow + QPointF(2, 0), arrow + QPointF(-2, 4)});
    p.setFont(textFont(11));
    p.setPen(t.text);
    const bool several = lanes_.front().id.first != lanes_.back().id.first;
    const QString name = (several ? QString::fromStdString(e.name) + " · " : QString()) +
                         QString::fromStdString(lane.parameter->label);
    const QString value = QString::fromStdString(
        lane.parameter->shown(scene::valueAt(whole_, e, *lane.parameter, session_.document().frame())));
    p.setFont(figureFont(10));
    const double valueWide = std::min(86.0, QFontMetricsF(p.font()).horizontalAdvance(value) + 4.0);
    const double room = nameWidthShown - 28.0 - (lane.open ? 0.0 : valueWide);
    p.setFont(textFont(11));
    p.drawText(QRectF(22, lane.rect.top(), room, thinLane), Qt::AlignVCenter | Qt::AlignLeft,
               QFontMetrics(p.font()).elidedText(name, Qt::ElideRight, static_cast<int>(room)));
    p.setFont(figureFont(10));
    p.setPen(t.quiet);
    const QRectF valueBox = lane.open ? QRectF(22, lane.rect.top() + 20, nameWidthShown - 30, 16)
                                      : QRectF(nameWidthShown - 8 - valueWide, lane.rect.top(), valueWide, thinLane);
    p.drawText(valueBox, Qt::AlignVCenter | (lane.open ? Qt::AlignLeft : Qt::AlignRight),
               QFontMetrics(p.font()).elidedText(value, Qt::ElideRight, static_cast<int>(valueBox.width())));
    if (lane.open && numbersIn(lane) == 3) {
        const bool colour = lane.parameter->type == scene::ValueType::Colour;
        for (int c = 0; c < 3; ++c) {
            p.setPen(shade(c));
            p.drawText(QRectF(22 + 22 * c, lane.rect.top() + 36, 20, 16), Qt::AlignLeft | Qt::AlignVCenter,
                       QString(colour ? "rgb"[c] : "xyz"[c]));
        }
    }
    const auto& track = *e.track(lane.id.second);
    if (lane.open) {
        p.setRenderHint(QPainter::Antialiasing, false);
        drawCurve(p, lane);
    } else if (!track.stirs.empty()) {
        // A wave along the lane: it is stirred.
        p.setPen(QPen(t.faint, 1));
        QPainterPath wave(QPointF(lane.rect.left(), lane.rect.top() + 0.5 * thinLane));
        for (double x = lane.rect.left(); x < lane.rect.right(); x += 3.0)
            wave.lineTo(x, lane.rect.top() + 0.5 * thinLane + 3.0 * std::sin(x * 0.22));
        p.drawPath(wave);
    } else {
        p.setPen(QPen(t.rule, 1));
        p.drawLine(QPointF(lane.rect.left(), lane.rect.top() + 0.5 * thinLane + 7),
                   QPointF(lane.rect.right(), lane.rect.top() + 0.5 * thinLane + 7));
    }
    p.setClipRect(lane.rect.adjusted(-6, 0, 6, 0).intersected(plot().adjusted(-6, 0, 6, 4)));
    drawKeys(p, lane);
    p.setClipping(false);
}

void MotionView::drawScale(QPainter& p)
{
    const Theme& t = Theme::now();
    const QRectF r = plot();
    const double y = r.top() - 3.0;
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setPen(t.rule);
    p.drawLine(QPointF(r.left(), y), QPointF(r.right(), y));
    const double perPixel = (to_ - from_) / r.width();
    double stepped = 1.0;
    for (int i = 0; stepped / perPixel < 56.0; ++i)
        stepped *= i % 3 == 1 ? 2.5 : 2.0;
    p.setFont(figureFont(10));
    for (double f = std::ceil(from_ / stepped) * stepped; f <= to_; f += stepped) {
        p.setPen(t.quiet);
        p.drawLine(QPointF(xOf(f), y - 4), QPointF(xOf(f), y));
        p.drawText(QRectF(xOf(f) - 30, y - 17, 60, 13), Qt::AlignCenter, QString::number(std::lround(f)));
    }
    p.setRenderHint(QPainter::Antialiasing);
    // Grips over what is chosen.
    if (const auto first = grip(false), last = grip(true); first && last) {
        p.setPen(QPen(t.accent, 1.4));
        for (const auto& [at, in] : {std::pair(*first, 4.0), std::pair(*last, -4.0)})
            p.drawPolyline(
                QPolygonF{at + QPointF(in, -6), at + QPointF(0, -6), at + QPointF(0, 6), at + QPointF(in, 6)});
        p.setPen(QPen(t.accent, 1, Qt::DotLine));
        p.drawLine(*first + QPointF(0, 6), *last + QPointF(0, 6));
    }
    const double x = xOf(session_.document().frame());
    if (x >= r.left() - 1 && x <= r.right() + 1) {
        p.setPen(QPen(session_.document().isRecording() ? QColor("#D0654B") : t.accent, 1.2));
        p.drawLine(QPointF(x, r.top() - scaleShown), QPointF(x, std::min(r.bottom(), r.top() - scrolled_ + height_)));
        if (const QRectF below = probePlot(); below.height() > 0.0)
            p.drawLine(QPointF(x, below.top()), QPointF(x, below.bottom()));
    }
}

void MotionView::drawProbe(QPainter& p)
{
    const Theme& t = Theme::now();
    const QRectF r = probePlot().adjusted(0, 1, 0, 0);
    p.fillRect(r, t.window);
    p.setFont(textFont(11));
    p.setPen(t.text);
    p.drawText(QRectF(12, r.top() + 2, nameWidthShown - 20, 18), Qt::AlignLeft | Qt::AlignVCenter,
               QFontMetrics(p.font()).elidedText(probe_.name(), Qt::ElideRight, static_cast<int>(nameWidthShown) - 24));
    const auto& values = probe_.values();
    const auto said = [&](double value) { return probe_.said(value); };
    const auto now = values.find(session_.document().frame());
    p.setFont(figureFont(10));
    p.setPen(t.quiet);
    p.drawText(QRectF(12, r.top() + 22, nameWidthShown - 20, 16), Qt::AlignLeft | Qt::AlignVCenter,
               now == values.end() ? probe_.missing() : said(now->second));
    if (values.empty())
        return;
    double low = values.begin()->second, high = low, sum = 0.0;
    for (const auto& [frame, value] : values) {
        low = std::min(low, value);
        high = std::max(high, value);
        sum += value;
    }
    p.drawText(QRectF(12, r.top() + 40, nameWidthShown - 20, 16), Qt::AlignLeft | Qt::AlignVCenter,
               say("mean ") + said(sum / static_cast<double>(values.size())));
    const double pad = std::max(0.05 * (high - low), 1e-4 * std::max(1.0, std::abs(high)));
    const auto yOf = [&](double value) {
        return r.bottom() - 8.0 - (value - low + pad) / (high - low + 2.0 * pad) * (r.height() - 16.0);
    };
    for (const double value : high > low ? std::vector<double>{low, high} : std::vector<double>{low}) {
        p.setPen(QPen(t.rule, 1, Qt::DotLine));
        p.drawLine(QPointF(r.left(), yOf(value)), QPointF(r.right(), yOf(value)));
        p.setPen(t.quiet);
        p.drawText(QRectF(r.right() + 5, yOf(value) - 7, 62, 14), Qt::AlignLeft | Qt::AlignVCenter, said(value));
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setClipRect(r);
    p.setPen(QPen(t.text, 1.4));
    QPolygonF line;
    int before = values.begin()->first - 1;
    for (const auto& [frame, value] : values) {
        if (frame != before + 1) { // a frame between is not baked
            p.drawPolyline(line);
            line.clear();
        }
        before = frame;
        line << QPointF(xOf(frame), yOf(value));
    }
    p.drawPolyline(line);
    p.setClipping(false);
}

void MotionView::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.panel);
    p.setFont(textFont(12));
    p.setPen(t.quiet);
    if (probe_.isOn())
        drawProbe(p);
    if (lanes_.empty() && probe_.isOn())
        return drawScale(p);
    p.setFont(textFont(12));
    p.setPen(t.quiet);
    if (lanes_.empty()) {
        p.drawText(
            rect().adjusted(20, 40, -20, -10), Qt::AlignCenter | Qt::TextWordWrap,
            say("Nothing moves yet. Press K on a ruler of a card to set a key at this frame, or turn on Record and "
                "change something at another one."));
        return;
    }
    const QString said = chosen_.empty()       ? say("click a name: its curve")
                         : chosen_.size() == 1 ? say("1 key")
                                               : say("%1 keys").arg(chosen_.size());
    p.setFont(textFont(11));
    p.drawText(QRectF(12, 4, 180, 22), Qt::AlignVCenter | Qt::AlignLeft, said);
    p.setClipRect(QRectF(0, plot().top(), width(), plot().height() + 4));
    for (const Lane& lane : lanes_)
        if (lane.rect.bottom() > plot().top() && lane.rect.top() < plot().bottom()) {
            p.save();
            drawLane(p, lane);
            p.restore();
            p.setClipRect(QRectF(0, plot().top(), width(), plot().height() + 4));
        }
    p.setClipping(false);
    drawScale(p);
    if (drag_ == Drag::Around) {
        p.setPen(QPen(t.accent, 1, Qt::DashLine));
        p.drawRect(QRectF(pressed_, around_).normalized());
    }
}
} // namespace hygros::app
