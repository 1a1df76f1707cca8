#include "app/lamp_drawings.h"

#include "app/theme.h"
#include "app/words.h"
#include "light/gobo.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace hygros::app {

ProfileDrawing::ProfileDrawing(QWidget* parent) : QWidget(parent)
{
    setObjectName("profileDrawing");
    setFixedHeight(150);
    setVisible(false);
}

void ProfileDrawing::setProfile(std::shared_ptr<const light::Profile> profile)
{
    if (profile == profile_)
        return;
    profile_ = std::move(profile);
    setVisible(profile_ != nullptr);
    if (profile_)
        setToolTip(say("Relative intensity by angle to the axis; %1 cd at most, %2 lm in all.")
                       .arg(figure(static_cast<double>(profile_->candela()), 0))
                       .arg(figure(static_cast<double>(profile_->lumen()), 0)));
    update();
}

void ProfileDrawing::paintEvent(QPaintEvent*)
{
    if (!profile_)
        return;
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.field);
    p.setRenderHint(QPainter::Antialiasing);
    // Light that goes up is drawn only where there is some.
    float upward = 0.f;
    for (int degree = 100; degree <= 180; degree += 5)
        for (const float c : {0.f, 0.5f * pi, pi, 1.5f * pi})
            upward = std::max(upward, profile_->at(radians(degree), c));
    const bool up = upward > 0.02f;
    const double room = std::min(up ? (height() - 20) * 0.5 : height() - 26.0, width() * 0.5 - 38.0);
    const QPointF middle(width() * 0.5, up ? height() * 0.5 : 12.0);
    p.setFont(figureFont(9));
    for (int ring = 1; ring <= 4; ++ring) {
        const double r = room * ring / 4;
        p.setPen(QPen(t.rule, 1));
        p.drawArc(QRectF(middle.x() - r, middle.y() - r, 2 * r, 2 * r), 16 * 180, up ? 16 * 360 : 16 * 180);
    }
    for (int degree = -90; degree <= 90; degree += 30) {
        const double a = static_cast<double>(radians(degree));
        const QPointF rim = middle + QPointF(std::sin(a), std::cos(a)) * room;
        p.setPen(QPen(t.rule, 1));
        p.drawLine(middle, rim);
        p.setPen(t.quiet);
        if (degree != 0)
            p.drawText(QRectF(rim.x() + (degree < 0 ? -34 : 4), rim.y() - 7, 30, 14),
                       degree < 0 ? Qt::AlignRight : Qt::AlignLeft, QString("%1°").arg(std::abs(degree)));
    }
    const auto curve = [&](float left, float right) {
        QPolygonF line;
        for (int degree = -180; degree <= 180; degree += 2) {
            const double a = static_cast<double>(radians(degree));
            const double r = room * static_cast<double>(
                                        profile_->at(static_cast<float>(std::abs(a)), degree < 0 ? left : right));
            line << middle + QPointF(std::sin(a), std::cos(a)) * r;
        }
        return line;
    };
    QPen pen(familyHue(scene::Family::Lights), 1.5, Qt::DashLine);
    p.setPen(pen);
    p.drawPolyline(curve(1.5f * pi, 0.5f * pi));
    pen.setStyle(Qt::SolidLine);
    p.setPen(pen);
    p.drawPolyline(curve(pi, 0.f));
    p.setPen(t.quiet);
    p.setFont(textFont(10));
    p.drawText(rect().adjusted(8, 0, -8, -3), Qt::AlignRight | Qt::AlignBottom,
               say("%1 cd").arg(figure(static_cast<double>(profile_->candela()), 0)));
}

GoboPad::GoboPad(QWidget* parent) : QWidget(parent)
{
    setProperty("ownKeys", true);
    setObjectName("goboPad");
    setFixedHeight(200);
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setCursor(Qt::CrossCursor);
    setToolTip(
        say("Click to set points; click the first one again or press Return to close an outline. Drag points; right "
            "click removes one."));
}

void GoboPad::setDrawing(const std::string& text)
{
    if (held_)
        return;
    try {
        outlines_ = light::outlinesOf(text);
    } catch (const std::invalid_argument&) {
        outlines_.clear();
    }
    chosen_.reset();
    update();
}

QPointF GoboPad::toWidget(const Vec2& p) const
{
    const double r = 0.5 * std::min(width(), height()) - 8.0;
    return QPointF(width() * 0.5 + static_cast<double>(p.x) * r, height() * 0.5 - static_cast<double>(p.y) * r);
}
Vec2 GoboPad::fromWidget(const QPointF& q) const
{
    const double r = 0.5 * std::min(width(), height()) - 8.0;
    const auto at = [](double v) { return static_cast<float>(std::round(std::clamp(v, -1.2, 1.2) * 100.0) / 100.0); };
    return Vec2(at((q.x() - width() * 0.5) / r), at((height() * 0.5 - q.y()) / r));
}

std::optional<GoboPad::Point> GoboPad::pointAt(const QPointF& q) const
{
    for (std::size_t o = 0; o < outlines_.size(); ++o)
        for (std::size_t i = 0; i < outlines_[o].size(); ++i)
            if (QLineF(toWidget(outlines_[o][i]), q).length() < 7.0)
                return Point{o, i};
    return std::nullopt;
}

void GoboPad::tell(bool dragging) { Q_EMIT drawingEdited(QString::fromStdString(light::textOf(outlines_)), dragging); }

void GoboPad::close()
{
    if (inWork_.size() >= 3) {
        outlines_.push_back(inWork_);
        inWork_.clear();
        tell(false);
    }
    update();
}

void GoboPad::remove(const Point& p)
{
    auto& outline = outlines_[p.outline];
    outline.erase(outline.begin() + static_cast<std::ptrdiff_t>(p.index));
    if (outline.size() < 3) // nothing is inside two points
        outlines_.erase(outlines_.begin() + static_cast<std::ptrdiff_t>(p.outline));
    chosen_.reset();
    tell(false);
    update();
}

void GoboPad::mousePressEvent(QMouseEvent* e)
{
    const auto met = pointAt(e->position());
    if (e->button() == Qt::RightButton) {
        if (met)
            remove(*met);
        else if (!inWork_.empty())
            inWork_.pop_back();
        update();
        return;
    }
    if (e->button() != Qt::LeftButton)
        return;
    if (inWork_.size() >= 3 && QLineF(toWidget(inWork_.front()), e->position()).length() < 8.0)
        return close();
    if (met && inWork_.empty()) {
        held_ = chosen_ = met;
    } else {
        inWork_.push_back(fromWidget(e->position()));
    }
    update();
}

void GoboPad::mouseMoveEvent(QMouseEvent* e)
{
    pointer_ = e->position();
    if (held_) {
        outlines_[held_->outline][held_->index] = fromWidget(e->position());
        tell(true);
    }
    update();
}

void GoboPad::mouseReleaseEvent(QMouseEvent*)
{
    if (held_)
        Q_EMIT editingEnded();
    held_.reset();
}

void GoboPad::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Return || e->key() == Qt::Key_Enter)
        close();
    else if (e->key() == Qt::Key_Escape && !inWork_.empty())
        inWork_.clear();
    else if ((e->key() == Qt::Key_Delete || e->key() == Qt::Key_Backspace) && chosen_)
        remove(*chosen_);
    else
        return QWidget::keyPressEvent(e);
    update();
}

void GoboPad::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.field);
    p.setRenderHint(QPainter::Antialiasing);
    // The beam, and its middle.
    const QPointF middle = toWidget(Vec2(0, 0));
    const double r = toWidget(Vec2(1, 0)).x() - middle.x();
    p.setPen(QPen(t.rule, 1));
    p.setBrush(Qt::black);
    p.drawEllipse(middle, r, r);
    QPainterPath path;
    path.setFillRule(Qt::OddEvenFill);
    for (const auto& outline : outlines_) {
        QPolygonF polygon;
        for (const Vec2& v : outline)
            polygon << toWidget(v);
        path.addPolygon(polygon);
        path.closeSubpath();
    }
    QPainterPath beam;
    beam.addEllipse(middle, r, r);
    p.fillPath(path.intersected(beam), familyHue(scene::Family::Lights));
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(t.quiet, 1));
    p.drawPath(path);
    p.drawLine(middle - QPointF(4, 0), middle + QPointF(4, 0));
    p.drawLine(middle - QPointF(0, 4), middle + QPointF(0, 4));
    for (std::size_t o = 0; o < outlines_.size(); ++o)
        for (std::size_t i = 0; i < outlines_[o].size(); ++i) {
            const bool chosen = chosen_ == Point{o, i};
            p.setPen(QPen(chosen ? t.accent : t.text, 1.5));
            p.setBrush(t.field);
            p.drawEllipse(toWidget(outlines_[o][i]), 3.5, 3.5);
        }
    if (!inWork_.empty()) {
        QPolygonF line;
        for (const Vec2& v : inWork_)
            line << toWidget(v);
        line << pointer_;
        p.setPen(QPen(t.accent, 1.5));
        p.setBrush(Qt::NoBrush);
        p.drawPolyline(line);
        p.drawEllipse(line.first(), inWork_.size() >= 3 ? 5.0 : 3.0, inWork_.size() >= 3 ? 5.0 : 3.0);
    }
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    }
}
} // namespace hygros::app
