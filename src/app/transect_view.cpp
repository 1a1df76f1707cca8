#include "app/transect_view.h"

#include "app/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace hygros::app {
namespace {
constexpr float farthest = 4000.f, lowest = -3.f, highest = 60.f;
constexpr int rows = 72, columns = 260;
/// Heights are drawn by asinh: metres near the ground have room, tree tops still fit.
double bend(double h) { return std::asinh(h / 2.5); }
} // namespace

TransectView::TransectView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("transect");
    setMouseTracking(true);
    setAccessibleName("Transect");
    connect(&session, &Session::shotChanged, this, [this] {
        measure();
        update();
    });
    connect(&session, &Session::hoveredChanged, this, qOverload<>(&QWidget::update));
}

QRectF TransectView::plot() const { return QRectF(46, 12, width() - 92, height() - 40); }
double TransectView::xOf(double d) const { return plot().left() + std::log(std::max(d, 1.0)) / std::log(double(farthest)) * plot().width(); }
double TransectView::distanceOf(double x) const { return std::pow(double(farthest), std::clamp((x - plot().left()) / plot().width(), 0.0, 1.0)); }
double TransectView::yOf(double h) const { return plot().bottom() - (bend(h) - bend(lowest)) / (bend(highest) - bend(lowest)) * plot().height(); }
double TransectView::heightOf(double y) const
{
    return 2.5 * std::sinh((plot().bottom() - y) / plot().height() * (bend(highest) - bend(lowest)) + bend(lowest));
}

void TransectView::measure()
{
    const auto shot = session_.shot();
    if (!shot)
        return;
    reading::TransectGrid grid;
    grid.columns = columns;
    grid.farthest = farthest;
    for (int r = 0; r < rows; ++r)
        grid.rowHeights.push_back(static_cast<float>(2.5 * std::sinh((r + 0.5) / rows * (bend(highest) - bend(lowest)) + bend(lowest))));
    // The outline costs rays and belongs to set and camera alone: carried over while they stay.
    const bool same = outlined_ == shot->scene && outlinedFrom_ == shot->camera && reading_.highest.size() == static_cast<std::size_t>(columns);
    grid.outline = !same;
    reading::Transect next = reading::transectOf(*shot, grid);
    if (same) {
        next.highest = std::move(reading_.highest);
        next.ground = std::move(reading_.ground);
    }
    reading_ = std::move(next);
    outlined_ = shot->scene;
    outlinedFrom_ = shot->camera;
    air_ = QImage(columns, rows, QImage::Format_ARGB32_Premultiplied);
    const QColor hue = familyHue(scene::Family::Air);
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            float sigma = 0.f;
            for (const auto& sheet : reading_.sheets)
                sigma += sheet.extinction[static_cast<std::size_t>(r * columns + c)];
            // How opaque 25 m of it is.
            const int a = static_cast<int>(235.f * (1.f - std::exp(-25.f * sigma)));
            air_.setPixel(c, rows - 1 - r, qPremultiply(qRgba(hue.red(), hue.green(), hue.blue(), a)));
        }
}

std::vector<TransectView::Handle> TransectView::handles() const
{
    std::vector<Handle> all;
    int bank = 0;
    for (const scene::Element& e : session_.project().elements) {
        if (e.kind->family != scene::Family::Air || session_.project().silent(e))
            continue;
        const auto number = [&](const char* id) { return std::get<double>(e.value(id)); };
        if (e.kind->id == "haze") {
            all.push_back({e.id, "visibility", QPointF(xOf(std::clamp(number("visibility"), 1.0, double(farthest))), plot().top()), false});
        } else if (e.kind->id == "fogBank" && std::get<std::string>(e.value("form")) == "layer") {
            const double x = plot().left() + plot().width() * (0.42 + 0.11 * bank++);
            all.push_back({e.id, "top", QPointF(x, yOf(number("top"))), true});
            all.push_back({e.id, "base", QPointF(x + 26, yOf(number("base"))), true});
        }
    }
    return all;
}

QPointF TransectView::handlePosition(const std::string& element, const std::string& parameter) const
{
    for (const Handle& h : handles())
        if (h.element == element && h.parameter == parameter)
            return h.at;
    return {};
}

const TransectView::Handle* TransectView::handleAt(const std::vector<Handle>& all, const QPointF& p) const
{
    const Handle* best = nullptr;
    double nearest = 11;
    for (const Handle& h : all) {
        const double d = QLineF(h.at, p).length();
        if (d < nearest) {
            nearest = d;
            best = &h;
        }
    }
    return best;
}

void TransectView::drawAir(QPainter& p)
{
    const QRectF r = plot();
    p.fillRect(r, QColor("#1a1c1e"));
    if (air_.isNull())
        return;
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(r, air_);
}

void TransectView::drawOutline(QPainter& p)
{
    if (reading_.highest.empty())
        return;
    const QColor hue = familyHue(scene::Family::Set);
    p.setRenderHint(QPainter::Antialiasing);
    QPolygonF solid;
    const auto flush = [&] {
        if (solid.size() > 1) {
            QPolygonF closed = solid;
            closed << QPointF(solid.last().x(), plot().bottom()) << QPointF(solid.first().x(), plot().bottom());
            p.setPen(Qt::NoPen);
            QColor fill = hue.darker(190);
            fill.setAlpha(230);
            p.setBrush(fill);
            p.drawPolygon(closed);
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
        solid << QPointF(xOf(double(reading_.distance[i])), std::clamp(yOf(double(reading_.ground[i])), plot().top(), plot().bottom()));
    }
    flush();
    // What rises above the ground, as upright strokes: posts, trees, roofs.
    QColor stroke = hue;
    stroke.setAlpha(170);
    p.setRenderHint(QPainter::Antialiasing, false);
    for (std::size_t i = 0; i < reading_.highest.size(); ++i)
        if (!std::isnan(reading_.highest[i]) && reading_.highest[i] > reading_.ground[i] + 0.9f) {
            const double x = xOf(double(reading_.distance[i])), w = std::max(1.6, plot().width() / columns * 0.8);
            p.fillRect(QRectF(x - w / 2, std::max(plot().top(), yOf(double(reading_.highest[i]))), w,
                              std::max(0.0, yOf(double(reading_.ground[i])) - std::max(plot().top(), yOf(double(reading_.highest[i]))))), stroke);
        }
}

void TransectView::drawLamps(QPainter& p)
{
    const auto shot = session_.shot();
    if (!shot)
        return;
    const geometry::View view(shot->camera, 100, 100);
    p.setRenderHint(QPainter::Antialiasing);
    for (const light::Spot& s : shot->spots) {
        const auto distance = [&](const Vec3& q) {
            const Vec3 d = q - shot->camera.position;
            return std::max(1.0, double(std::hypot(d.x, d.z)));
        };
        if ((s.position - shot->camera.position).dot(view.forward()) <= 0.f)
            continue;
        QColor hue = familyHue(scene::Family::Lights);
        const float reach = 4.5f, spread = std::tan(std::acos(s.cosOuter)) * reach;
        const Vec3 foot = s.position + s.direction * reach;
        const double d = distance(foot), x = xOf(distance(s.position)), y = yOf(double(s.position.y));
        QPolygonF cone{QPointF(x, y), QPointF(xOf(std::max(1.0, d - double(spread))), yOf(double(foot.y))), QPointF(xOf(d + double(spread)), yOf(double(foot.y)))};
        const bool lit = session_.hovered() == s.id;
        hue.setAlpha(lit ? 130 : 70);
        p.setPen(Qt::NoPen);
        p.setBrush(hue);
        p.drawPolygon(cone);
        hue.setAlpha(255);
        p.setBrush(hue);
        p.drawEllipse(QPointF(x, y), lit ? 4.5 : 3.5, lit ? 4.5 : 3.5);
    }
}

void TransectView::drawAxes(QPainter& p)
{
    const Theme& t = Theme::now();
    const QRectF r = plot();
    p.setClipping(false);
    p.setRenderHint(QPainter::Antialiasing, false);
    p.setFont(figureFont(10));
    for (const double h : {0.0, 2.0, 5.0, 20.0, 60.0}) {
        p.setPen(t.quiet);
        p.drawText(QRectF(0, yOf(h) - 7, r.left() - 8, 14), Qt::AlignRight | Qt::AlignVCenter, QString::number(h) + (h == 60.0 ? " m" : ""));
        p.setPen(QColor(255, 255, 255, 26));
        p.drawLine(QPointF(r.left(), yOf(h)), QPointF(r.right(), yOf(h)));
    }
    for (int decade = 0; decade <= 3; ++decade)
        for (int k = 1; k < 10; ++k) {
            const double d = std::pow(10.0, decade) * k;
            if (d > double(farthest))
                break;
            p.setPen(k == 1 ? t.quiet : t.rule);
            p.drawLine(QPointF(xOf(d), r.bottom()), QPointF(xOf(d), r.bottom() + (k == 1 ? 6 : 3)));
            if (k == 1) {
                p.setPen(t.quiet);
                p.drawText(QRectF(xOf(d) - 30, r.bottom() + 8, 60, 14), Qt::AlignCenter, QString::fromStdString(formatQuantity(d, Quantity::Length)));
            }
        }
    p.setPen(t.text);
    p.drawText(QRectF(r.right() + 6, r.top() - 6, 40, 14), Qt::AlignLeft, "T 1");
    p.drawText(QRectF(r.right() + 6, r.bottom() - 8, 40, 14), Qt::AlignLeft, "T 0");
    // Transmittance, level along the heading.
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath curve;
    for (std::size_t i = 0; i < reading_.transmittance.size(); ++i) {
        const QPointF q(xOf(double(reading_.distance[i])), r.bottom() - double(reading_.transmittance[i]) * r.height());
        i ? curve.lineTo(q) : curve.moveTo(q);
    }
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(0, 0, 0, 120), 3));
    p.drawPath(curve);
    p.setPen(QPen(QColor("#f2f2f0"), 1.5));
    p.drawPath(curve);
    if (r.contains(cursor_) && heldElement_.empty()) {
        const double d = distanceOf(cursor_.x());
        const auto i = std::min(reading_.transmittance.size() - 1, static_cast<std::size_t>((cursor_.x() - r.left()) / r.width() * (columns - 1)));
        p.setPen(QPen(QColor(255, 255, 255, 90), 1, Qt::DotLine));
        p.drawLine(QPointF(cursor_.x(), r.top()), QPointF(cursor_.x(), r.bottom()));
        if (!reading_.transmittance.empty()) {
            const QString text = QString("%1   %2 up   T %3")
                                     .arg(QString::fromStdString(formatQuantity(d, Quantity::Length)),
                                          QString::fromStdString(formatQuantity(std::abs(heightOf(cursor_.y())) < 0.05 ? 0.0 : heightOf(cursor_.y()), Quantity::Length)))
                                     .arg(double(reading_.transmittance[i]), 0, 'f', 2);
            const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 14;
            QRectF box(cursor_.x() + 10, r.bottom() - 22, w, 18);
            if (box.right() > r.right())
                box.moveRight(cursor_.x() - 10);
            p.fillRect(box, QColor(20, 21, 22, 215));
            p.setPen(QColor("#e6e6e4"));
            p.drawText(box, Qt::AlignCenter, text);
        }
    }
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
        const bool on = held || (under && under->element == h.element && under->parameter == h.parameter) || session_.hovered() == h.element;
        const QColor colour = on ? QColor("#B4C95A") : familyHue(scene::Family::Air);
        const scene::Parameter* q = scene::findParameter(e->kind->parameters, h.parameter);
        const QString value = QString::fromStdString(q->shown(q->get(*e->settings)));
        QString label = h.vertical ? QString::fromStdString(q->label) + " " + value : QString::fromStdString(e->name) + " " + value;
        p.setPen(QPen(colour, held ? 2 : 1.2, h.vertical ? Qt::SolidLine : Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        if (h.vertical) {
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
        if (on || !h.vertical) {
            p.setFont(figureFont(11));
            const int w = QFontMetrics(p.font()).horizontalAdvance(label) + 12;
            QRectF box = h.vertical ? QRectF(h.at.x() + (h.parameter == "top" ? 10 : 10), h.parameter == "top" ? h.at.y() - 22 : h.at.y() + 4, w, 18)
                                    : QRectF(h.at.x() + 8, r.top() + 2, w, 18);
            if (box.right() > r.right())
                box.moveRight(h.at.x() - 8);
            p.fillRect(box, QColor(20, 21, 22, 205));
            p.setPen(on ? QColor("#B4C95A") : QColor("#c9d6e2"));
            p.drawText(box, Qt::AlignCenter, label);
        }
    }
}

void TransectView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.fillRect(rect(), Theme::now().panel);
    p.setClipRect(plot());
    drawAir(p);
    drawOutline(p);
    drawLamps(p);
    drawAxes(p);
    drawHandles(p);
}

void TransectView::mousePressEvent(QMouseEvent* e)
{
    const auto all = handles();
    if (const Handle* h = handleAt(all, e->position()); h && e->button() == Qt::LeftButton) {
        heldElement_ = h->element;
        heldParameter_ = h->parameter;
        ++gesture_;
        session_.setHovered(h->element);
    }
}

void TransectView::mouseMoveEvent(QMouseEvent* e)
{
    cursor_ = e->position();
    if (!heldElement_.empty()) {
        const scene::Element* element = session_.project().find(heldElement_);
        if (!element)
            return;
        double v = heldParameter_ == "visibility" ? distanceOf(cursor_.x()) : heightOf(std::clamp(cursor_.y(), plot().top(), plot().bottom()));
        // A bank keeps its top above its base.
        if (heldParameter_ == "top")
            v = std::max(v, std::get<double>(element->value("base")) + 0.05);
        if (heldParameter_ == "base")
            v = std::min(v, std::get<double>(element->value("top")) - 0.05);
        const double unit = heldParameter_ == "visibility" ? std::pow(10.0, std::floor(std::log10(v)) - 2) : 0.01;
        v = std::round(v / unit) * unit;
        session_.setValue(heldElement_, heldParameter_, v, QString("transect#%1").arg(gesture_));
        update();
        return;
    }
    const auto all = handles();
    const Handle* h = handleAt(all, cursor_);
    setCursor(h ? (h->vertical ? Qt::SizeVerCursor : Qt::SizeHorCursor) : Qt::ArrowCursor);
    session_.setHovered(h ? h->element : std::string());
    update();
}

void TransectView::mouseReleaseEvent(QMouseEvent*)
{
    if (heldElement_.empty())
        return;
    heldElement_.clear();
    session_.endDrag();
    update();
}

void TransectView::leaveEvent(QEvent*)
{
    cursor_ = {-1, -1};
    session_.setHovered({});
    update();
}
} // namespace hygros::app
