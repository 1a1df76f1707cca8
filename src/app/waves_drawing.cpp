#include "app/waves_drawing.h"

#include "app/theme.h"
#include "app/words.h"
#include "base/units.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double turn = 6.283185307179586;

/// Energy of waves at the peak by how far they run off the wind, to that of those with it.
double spreadAt(const media::Swell& s, double off)
{
    const double f = s.peak(), all = s.energy(f, s.toward);
    return all > 0.0 ? s.energy(f, s.toward + off) / all : 0.0;
}
double halfOf(const media::Swell& s)
{
    double low = 0.0, high = 0.5 * turn;
    for (int i = 0; i < 24; ++i) {
        const double middle = 0.5 * (low + high);
        (spreadAt(s, middle) > 0.5 ? low : high) = middle;
    }
    return low;
}
/// Energy by logarithm of length.
double overLengths(const media::Swell& s, double length)
{
    const double k = turn / length, w = media::frequencyOf(k, s.depth);
    return s.energy(w) * media::groupSpeedOf(k, s.depth) * k;
}
} // namespace

WavesDrawing::WavesDrawing(QWidget* parent) : QWidget(parent)
{
    setMouseTracking(true);
    setFixedHeight(132);
    setToolTip(
        say("How waves spread about the wind, and their energy by length. Drag the tip to turn the wind, the edge to "
            "hold waves closer to it, the peak to make them longer."));
}

void WavesDrawing::setWaves(const std::optional<media::Swell>& swell, bool turns)
{
    swell_ = swell && swell->peakLength() > 0.0 ? swell : std::nullopt;
    turns_ = turns;
    if (swell_) {
        half_ = halfOf(*swell_);
        if (held_ == Held::Nothing) {
            const double peak = swell_->peakLength();
            shortest_ = 0.03 * peak;
            longest_ = 5.0 * std::max(peak, swell_->otherHeight > 0.0 ? swell_->otherLength : 0.0);
        }
    }
    update();
}

QPointF WavesDrawing::middle() const { return {66.0, 66.0}; }
double WavesDrawing::radius() const { return 40.0; }
QRectF WavesDrawing::plot() const { return QRectF(134, 14, width() - 146, height() - 40); }
QPointF WavesDrawing::onRose(double angle, double far) const
{
    return middle() + QPointF(std::sin(angle), -std::cos(angle)) * (far * radius());
}
double WavesDrawing::xOf(double length) const
{
    return plot().left() + std::log(length / shortest_) / std::log(longest_ / shortest_) * plot().width();
}
double WavesDrawing::lengthAt(double x) const
{
    return shortest_ * std::pow(longest_ / shortest_, (x - plot().left()) / plot().width());
}
QPointF WavesDrawing::tip() const { return swell_ && turns_ ? onRose(swell_->toward, 1.12) : QPointF(); }
QPointF WavesDrawing::edge() const { return swell_ ? onRose(swell_->toward + half_, 0.5) : QPointF(); }
QPointF WavesDrawing::peak() const
{
    return swell_ && turns_ ? QPointF(xOf(turn / media::wavenumberOf(swell_->peak(), swell_->depth)), plot().top())
                            : QPointF();
}

WavesDrawing::Held WavesDrawing::heldAt(const QPointF& p) const
{
    const auto near = [&](const QPointF& handle) { return !handle.isNull() && QLineF(handle, p).length() < 10.0; };
    return near(tip()) ? Held::Tip : near(edge()) ? Held::Edge : near(peak()) ? Held::Peak : Held::Nothing;
}

void WavesDrawing::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    const QColor hue = familyHue(scene::Family::Water);
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(figureFont(10));
    if (!swell_) {
        p.setPen(t.quiet);
        p.drawText(rect(), Qt::AlignCenter, say("calm"));
        return;
    }
    // The rose: its own share of the strongest way outward; half of it is the inner ring.
    p.setBrush(t.field);
    p.setPen(t.rule);
    p.drawEllipse(middle(), radius(), radius());
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(middle(), 0.5 * radius(), 0.5 * radius());
    QPainterPath lobe;
    constexpr int steps = 180;
    for (int i = 0; i <= steps; ++i) {
        const double off = turn * i / steps;
        const QPointF q = onRose(swell_->toward + off, std::min(1.0, spreadAt(*swell_, off)));
        i ? lobe.lineTo(q) : lobe.moveTo(q);
    }
    QColor fill = hue;
    fill.setAlpha(110);
    p.setBrush(fill);
    p.setPen(QPen(hue.lighter(130), 1.3));
    p.drawPath(lobe);
    p.setPen(t.quiet);
    const char* letters[] = {"−Z", "+X", "+Z", "−X"};
    for (int i = 0; i < 4; ++i) {
        if (turns_ && std::abs(std::remainder(0.25 * turn * i - swell_->toward, turn)) < 0.35)
            continue; // there the tip is
        const QPointF at = onRose(0.25 * turn * i, 1.33);
        p.drawText(QRectF(at.x() - 12, at.y() - 7, 24, 14), Qt::AlignCenter, letters[i]);
    }
    // Energy over lengths.
    const QRectF r = plot();
    p.fillRect(r, t.field);
    double most = 0.0;
    std::vector<double> values;
    constexpr int columns = 120;
    for (int i = 0; i <= columns; ++i) {
        values.push_back(overLengths(*swell_, lengthAt(r.left() + r.width() * i / columns)));
        most = std::max(most, values.back());
    }
    QPainterPath curve;
    for (int i = 0; i <= columns; ++i) {
        const QPointF q(r.left() + r.width() * i / columns,
                        r.bottom() - 0.9 * r.height() * values[static_cast<std::size_t>(i)] / std::max(1e-30, most));
        i ? curve.lineTo(q) : curve.moveTo(q);
    }
    QPainterPath under = curve;
    under.lineTo(r.bottomRight());
    under.lineTo(r.bottomLeft());
    p.fillPath(under, fill);
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(hue.lighter(130), 1.3));
    p.drawPath(curve);
    const double ten = std::pow(10.0, std::ceil(std::log10(shortest_)));
    double lastX = -100.0;
    for (double length = ten; length < longest_; length *= 10.0) {
        if (xOf(length) - lastX < 34.0)
            continue;
        lastX = xOf(length);
        p.setPen(t.rule);
        p.drawLine(QPointF(xOf(length), r.top()), QPointF(xOf(length), r.bottom()));
        p.setPen(t.quiet);
        p.drawText(QRectF(xOf(length) - 28, r.bottom() + 3, 56, 13), Qt::AlignCenter,
                   QString::fromStdString(formatQuantity(length, Quantity::Length)));
    }
    // What can be held.
    p.setPen(QPen(t.panel, 1));
    p.setBrush(t.text);
    if (turns_) {
        QTransform way;
        way.translate(tip().x(), tip().y());
        way.rotateRadians(swell_->toward);
        p.drawPolygon(way.map(QPolygonF({{0, -6}, {5, 4}, {-5, 4}})));
        p.drawPolygon(QPolygonF({peak() + QPointF(-5, -6), peak() + QPointF(5, -6), peak() + QPointF(0, 4)}));
    }
    p.drawEllipse(edge(), 4, 4);
}

void WavesDrawing::mousePressEvent(QMouseEvent* e)
{
    held_ = e->button() == Qt::LeftButton ? heldAt(e->position()) : Held::Nothing;
}

void WavesDrawing::mouseMoveEvent(QMouseEvent* e)
{
    if (held_ == Held::Nothing) {
        setCursor(heldAt(e->position()) == Held::Nothing ? Qt::ArrowCursor : Qt::PointingHandCursor);
        return;
    }
    if (!swell_)
        return;
    const QPointF from = e->position() - middle();
    const double angle = std::atan2(from.x(), -from.y());
    if (held_ == Held::Tip) {
        double degrees = std::round(angle * 360.0 / turn);
        Q_EMIT headingEdited(degrees < 0.0 ? degrees + 360.0 : degrees);
    } else if (held_ == Held::Edge) {
        // As narrow as leaves half of the energy at that angle.
        const double wanted = std::clamp(std::abs(std::remainder(angle - swell_->toward, turn)), 0.05, 1.5);
        media::Swell s = *swell_;
        double low = std::log(0.05), high = std::log(20.0);
        for (int i = 0; i < 20; ++i) {
            s.narrow = std::exp(0.5 * (low + high));
            (halfOf(s) > wanted ? low : high) = 0.5 * (low + high);
        }
        Q_EMIT narrowEdited(std::round(100.0 * std::exp(0.5 * (low + high))) / 100.0);
    } else {
        // Waves are as long as that by so much wind.
        const double wanted = std::clamp(lengthAt(e->position().x()), shortest_, longest_);
        media::Swell s = *swell_;
        double low = 0.2, high = 60.0;
        for (int i = 0; i < 24; ++i) {
            s.wind = 0.5 * (low + high);
            (turn / media::wavenumberOf(s.peak(), s.depth) < wanted ? low : high) = s.wind;
        }
        Q_EMIT windEdited(std::round(10.0 * s.wind) / 10.0);
    }
}

void WavesDrawing::mouseReleaseEvent(QMouseEvent*)
{
    if (held_ == Held::Nothing)
        return;
    held_ = Held::Nothing;
    Q_EMIT editingEnded();
}
} // namespace hygros::app
