#include "app/planes_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double nearest = 1.0, farthest = 4000.0;
const char* const names[] = {QT_TRANSLATE_NOOP("window", "fore"), QT_TRANSLATE_NOOP("window", "middle"),
                             QT_TRANSLATE_NOOP("window", "back")};
QString stops(float v, bool sign) { return (sign && v >= 0.f ? "+" : "") + figure(double(v), 1); }
QString metres(double d) { return QString::fromStdString(formatQuantity(d, Quantity::Length)); }
} // namespace

PlanesView::PlanesView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("planes");
    setAccessibleName(say("Planes"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setToolTip(say("Drag a border; double-click gives both back to the depth of the picture."));
    connect(&session.readings(), &Readings::readingsChanged, this, qOverload<>(&QWidget::update));
}

QRectF PlanesView::ruler() const { return QRectF(46, 10, width() - 92, 22); }
double PlanesView::xOf(double d) const
{
    return ruler().left() +
           std::log(std::clamp(d, nearest, farthest) / nearest) / std::log(farthest / nearest) * ruler().width();
}
double PlanesView::distanceOf(double x) const
{
    return nearest * std::pow(farthest / nearest, std::clamp((x - ruler().left()) / ruler().width(), 0.0, 1.0));
}

QPointF PlanesView::borderPosition(std::size_t border) const
{
    const auto& borders = session_.readings().planeBorders();
    return border < borders.size() ? QPointF(xOf(double(borders[border])), ruler().bottom()) : QPointF();
}

void PlanesView::drawPlane(QPainter& p, const QRectF& area, std::size_t index)
{
    const Theme& t = Theme::now();
    const reading::Plane& plane = now().planes[index];
    const bool first = index == 0, last = index + 1 == now().planes.size();
    p.setFont(textFont(12, QFont::DemiBold));
    p.setPen(t.text);
    p.drawText(QRectF(area.left(), area.top(), area.width(), 16), Qt::AlignLeft | Qt::AlignVCenter,
               say(names[std::min<std::size_t>(index, 2)]));
    p.setFont(figureFont(11));
    p.setPen(t.quiet);
    const QString reach = first  ? say("to ") + metres(double(plane.to))
                          : last ? say("from ") + metres(double(plane.from))
                                 : metres(double(plane.from)) + say(" to ") + metres(double(plane.to));
    p.drawText(QRectF(area.left(), area.top(), area.width(), 16), Qt::AlignRight | Qt::AlignVCenter, reach);
    if (plane.pixels == 0) {
        p.setFont(textFont(11));
        p.drawText(QRectF(area.left(), area.top() + 26, area.width(), 34), Qt::AlignLeft | Qt::TextWordWrap,
                   say("Nothing stands here."));
        return;
    }
    const QRectF strip(area.left(), area.top() + 22, area.width(), std::max(24.0, area.height() - 22 - 58));
    drawTones(p, strip, index);
    const auto& before = beside().planes;
    const auto line = [&](int row, const QString& what, const QString& now, const QString& was) {
        const QRectF r(area.left(), strip.bottom() + 5 + 17 * row, area.width(), 16);
        p.setFont(textFont(11));
        p.setPen(t.quiet);
        p.drawText(r, Qt::AlignLeft | Qt::AlignVCenter, what);
        p.setFont(figureFont(11));
        p.drawText(r, Qt::AlignRight | Qt::AlignVCenter, was);
        p.setPen(t.text);
        p.drawText(r.adjusted(0, 0, -64, 0), Qt::AlignRight | Qt::AlignVCenter, now);
    };
    const reading::Plane* other = index < before.size() && before[index].pixels ? &before[index] : nullptr;
    const auto chroma = [](const reading::Plane& of) { return figure(double(of.chroma), 3); };
    line(0, say("mean"), stops(plane.meanStops, true) + say(" stops"), other ? stops(other->meanStops, true) : "");
    line(1, say("spread"), stops(plane.spreadStops, false) + say(" stops"),
         other ? stops(other->spreadStops, false) : "");
    line(2, say("chroma"), chroma(plane), other ? chroma(*other) : "");
}

/// The tone strip: how much of the plane has which tone, dark at the left; each column in the grey it stands for. What
/// it is held against hangs down from the middle.
void PlanesView::drawTones(QPainter& p, const QRectF& strip, std::size_t index)
{
    const Theme& t = Theme::now();
    p.fillRect(strip, t.field);
    const auto& other = beside().planes;
    const bool known = index < other.size() && other[index].pixels;
    // What is shown has its exposure already.
    const float exposure = isHeld() || !session_.picture().shot() ? 0.f : session_.picture().shot()->look.exposure;
    const double w = strip.width() / reading::toneBins, high = isHeld() ? 0.5 * strip.height() : strip.height(),
                 foot = strip.top() + high;
    const auto bars = [&](const reading::Plane& plane, double up) {
        const float most = *std::max_element(plane.tones.begin(), plane.tones.end());
        for (int i = 0; i < reading::toneBins; ++i) {
            const double h = high * double(plane.tones[static_cast<std::size_t>(i)] / most);
            if (h < 0.5)
                continue;
            const float stop = reading::toneFirst + (static_cast<float>(i) + 0.5f) * reading::toneStep + exposure;
            const int grey = std::clamp(
                static_cast<int>(255.f * std::pow(std::clamp((stop + 7.f) / 12.f, 0.f, 1.f), 1.2f)), 26, 245);
            p.fillRect(QRectF(strip.left() + i * w, foot, std::max(1.0, w - 0.6), -up * h).normalized(),
                       QColor(grey, grey, grey));
        }
    };
    bars(now().planes[index], 1.0);
    const auto mark = [&](float stop, double from, double to) {
        const double x = strip.left() +
                         double((stop - reading::toneFirst) / (reading::toneStep * reading::toneBins)) * strip.width();
        p.drawLine(QPointF(x, from), QPointF(x, to));
    };
    p.setPen(QPen(t.text, 1));
    mark(now().planes[index].meanStops, strip.top(), foot);
    if (isHeld()) {
        p.setPen(t.rule);
        p.drawLine(QPointF(strip.left(), foot), QPointF(strip.right(), foot));
    }
    if (!known)
        return;
    if (!isHeld()) { // what the plane would be without its air: a second, dotted mark
        p.setPen(QPen(t.quiet, 1, Qt::DotLine));
        mark(other[index].meanStops, strip.top(), foot);
        return;
    }
    bars(other[index], -1.0);
    p.setPen(QPen(t.text, 1));
    mark(other[index].meanStops, foot, strip.bottom());
    if (index == 0) {
        p.setFont(textFont(10));
        p.setPen(t.quiet);
        const QRectF room = strip.adjusted(4, 1, -4, -1);
        for (const auto& [text, side] : {std::pair(say("the picture"), Qt::AlignTop),
                                         std::pair(say("what it is held against"), Qt::AlignBottom)}) {
            const QRectF under = p.boundingRect(room, Qt::AlignLeft | side, text);
            p.fillRect(under.adjusted(-2, 0, 2, 0), t.field); // tones may reach as far
            p.drawText(room, Qt::AlignLeft | side, text);
        }
    }
}

void PlanesView::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.panel);
    const reading::Planes& planes = now();
    if (planes.planes.empty()) {
        p.setPen(t.quiet);
        p.setFont(textFont(12));
        p.drawText(rect().adjusted(40, 0, -40, 0), Qt::AlignCenter | Qt::TextWordWrap,
                   say("The planes are measured from the first full picture."));
        return;
    }
    const QRectF r = ruler();
    p.setFont(figureFont(10));
    p.setPen(t.rule);
    p.drawLine(r.bottomLeft(), r.bottomRight());
    for (int decade = 0; decade <= 3; ++decade)
        for (int k = 1; k < 10; ++k) {
            const double d = std::pow(10.0, decade) * k;
            if (d > farthest)
                break;
            p.setPen(k == 1 ? t.quiet : t.rule);
            p.drawLine(QPointF(xOf(d), r.bottom()), QPointF(xOf(d), r.bottom() - (k == 1 ? 7 : 4)));
            if (k == 1)
                p.drawText(QRectF(xOf(d) - 30, r.top() - 4, 60, 14), Qt::AlignCenter, metres(d));
        }
    p.setRenderHint(QPainter::Antialiasing);
    const auto& borders = session_.readings().planeBorders();
    for (std::size_t i = 0; i < borders.size(); ++i) {
        const QPointF at = borderPosition(i);
        const bool active = held_ == static_cast<int>(i) || (hasFocus() && chosen_ == i);
        p.setBrush(active ? t.accent : t.text);
        p.setPen(Qt::NoPen);
        p.drawPolygon(QPolygonF{at, at + QPointF(-6, 10), at + QPointF(6, 10)});
    }
    p.setRenderHint(QPainter::Antialiasing, false);
    // Bands side by side, with what parts them in between.
    const double top = r.bottom() + 18, gap = 92, count = static_cast<double>(planes.planes.size());
    const double w = (width() - 2 * 24 - gap * (count - 1)) / count;
    for (std::size_t i = 0; i < planes.planes.size(); ++i) {
        const QRectF area(24 + static_cast<double>(i) * (w + gap), top, w, height() - top - 6);
        drawPlane(p, area, i);
        if (i + 1 == planes.planes.size())
            break;
        const float apart = planes.separation[i];
        const bool empty = planes.planes[i].pixels == 0 || planes.planes[i + 1].pixels == 0,
                   merges = !empty && apart < reading::mergesBelow;
        const QRectF between(area.right() + 8, top + 18, gap - 16, 62);
        p.setPen(merges ? QColor("#E0A050") : t.text);
        p.setFont(figureFont(14));
        p.drawText(QRectF(between.left(), between.top(), between.width(), 18), Qt::AlignCenter,
                   empty ? "–" : stops(apart, false));
        p.setFont(textFont(11));
        p.setPen(merges ? QColor("#E0A050") : t.quiet);
        p.drawText(QRectF(between.left(), between.top() + 18, between.width(), 30),
                   Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap,
                   empty    ? ""
                   : merges ? say("stops: they\nmerge")
                            : say("stops apart"));
        const auto& was = beside().separation;
        if (!empty && i < was.size()) {
            p.setPen(t.quiet);
            p.drawText(QRectF(between.left() - 8, between.top() + 50, between.width() + 16, 16), Qt::AlignCenter,
                       stops(was[i], false) + (isHeld() ? say(" there") : say(" without air")));
        }
    }
}

void PlanesView::moveBorder(std::size_t border, double distance)
{
    std::vector<float> borders = session_.readings().planeBorders();
    if (border >= borders.size())
        return;
    // Borders stay in order, a tenth apart.
    const double lo = border == 0 ? nearest : double(borders[border - 1]) * 1.1,
                 hi = border + 1 < borders.size() ? double(borders[border + 1]) / 1.1 : farthest;
    borders[border] = static_cast<float>(std::clamp(distance, lo, std::max(lo, hi)));
    session_.readings().setPlaneBorders(borders);
}

void PlanesView::mousePressEvent(QMouseEvent* e)
{
    double best = 12;
    for (std::size_t i = 0; i < session_.readings().planeBorders().size(); ++i)
        if (const double d = std::abs(borderPosition(i).x() - e->position().x());
            d < best && e->position().y() < ruler().bottom() + 16) {
            best = d;
            held_ = static_cast<int>(i);
            chosen_ = i;
        }
    update();
}

void PlanesView::mouseMoveEvent(QMouseEvent* e)
{
    if (held_ >= 0)
        moveBorder(static_cast<std::size_t>(held_), distanceOf(e->position().x()));
}

void PlanesView::mouseReleaseEvent(QMouseEvent*)
{
    held_ = -1;
    update();
}

void PlanesView::mouseDoubleClickEvent(QMouseEvent*) { session_.readings().setPlaneBorders({}); }

void PlanesView::keyPressEvent(QKeyEvent* e)
{
    const auto& borders = session_.readings().planeBorders();
    if (borders.empty())
        return QWidget::keyPressEvent(e);
    chosen_ = std::min(chosen_, borders.size() - 1);
    const double step = e->modifiers() & Qt::ShiftModifier ? 1.01 : 1.08;
    if (e->key() == Qt::Key_Left)
        moveBorder(chosen_, double(borders[chosen_]) / step);
    else if (e->key() == Qt::Key_Right)
        moveBorder(chosen_, double(borders[chosen_]) * step);
    else if (e->key() == Qt::Key_Up || e->key() == Qt::Key_Down)
        chosen_ = (chosen_ + 1) % borders.size();
    else
        return QWidget::keyPressEvent(e);
    update();
}
} // namespace hygros::app
