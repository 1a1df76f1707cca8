#include "app/picture_handles.h"

#include "app/theme.h"

#include <algorithm>
#include <cmath>

namespace hygros::app {
using geometry::View;

namespace {
constexpr PictureHandles::Part everyPart[] = {
    PictureHandles::Part::Move, PictureHandles::Part::Turn, PictureHandles::Part::Lift, PictureHandles::Part::Size,
    PictureHandles::Part::Aim,  PictureHandles::Part::Cone, PictureHandles::Part::Range};
/// Where the line of sight of a pixel meets the level through `height`; false above the horizon or far away.
bool onLevel(const View& view, const QPointF& p, float height, Vec3& point)
{
    const Vec3 d = view.direction(static_cast<float>(p.x()), static_cast<float>(p.y()));
    const float t = (height - view.position().y) / d.y;
    if (!(t > 0.f) || t > 2e4f)
        return false;
    point = view.position() + d * t;
    return true;
}
bool isAngle(const scene::Element& e, const std::string& parameter)
{
    const scene::Parameter* p = scene::findParameter(e.kind->parameters, parameter);
    return p && p->quantity == Quantity::Angle;
}
/// Values that read well: to three figures of a metre's hundredth.
float even(float v) { return std::round(v * 100.f) / 100.f; }
} // namespace

PictureHandles::Target PictureHandles::target() const
{
    Target t;
    const scene::Element* e = session_.selection().selected().empty()
                                  ? nullptr
                                  : session_.project().find(session_.selection().selected());
    if (!e)
        return t;
    const elements::Kind& kind = elements::kindOf(*e);
    const elements::Handles h = kind.handles ? kind.handles(*e) : elements::Handles();
    if (h.place.empty())
        return t;
    t = {e, h.place, h.turn, h.size, {}, 0.0, h.aim, h.cone, h.range, {}};
    if (!t.aim.empty())
        t.target = session_.document().placeOf(e->id, t.aim);
    t.position = session_.document().placeOf(e->id, t.place);
    if (!t.turn.empty())
        t.heading = std::get<double>(e->value(t.turn));
    return t;
}

float PictureHandles::radius(const Target& t, const View& view)
{
    return discPixels * view.pixelAngle() * std::max(0.5f, (t.position - view.position()).length());
}

Vec3 PictureHandles::worldAt(const Target& t, Part part, const View& view) const
{
    const float r = radius(t, view), a = radians(t.heading);
    switch (part) {
    case Part::Turn: return t.position + Vec3(std::sin(a) * r, 0.f, -std::cos(a) * r);
    case Part::Size: return t.position + Vec3(std::cos(a) * r, 0.f, std::sin(a) * r);
    case Part::Lift: return t.position + Vec3(0.f, r, 0.f);
    case Part::Aim: return t.target;
    case Part::Cone: {
        // On the rim to the right as the camera sees it.
        const Vec3 axis = t.target - t.position;
        const Vec3 across = axis.cross(view.position() - t.target);
        const double value = std::get<double>(t.element->value(t.cone));
        const float wide = isAngle(*t.element, t.cone) ? axis.length() * std::tan(std::min(1.5f, radians(0.5 * value)))
                                                       : static_cast<float>(value);
        const Vec3 side = across.length2() > 1e-12f ? across.normalized() : view.right();
        return t.target + side * (side.dot(view.right()) < 0.f ? -wide : wide);
    }
    case Part::Range: {
        const Vec3 way = t.aim.empty() ? view.right() : (t.target - t.position).normalized();
        return t.position + way * static_cast<float>(std::get<double>(t.element->value(t.range)));
    }
    default: return t.position;
    }
}

QPointF PictureHandles::at(Part part, const QSize& size) const
{
    const Target t = target();
    if (!t.element || (part == Part::Turn && t.turn.empty()) || (part == Part::Size && t.size.empty()) ||
        (part == Part::Aim && t.aim.empty()) || (part == Part::Cone && (t.cone.empty() || t.aim.empty())) ||
        (part == Part::Range && t.range.empty()))
        return {};
    const View view = session_.picture().viewIn(size);
    Vec2 pixel;
    float depth = 0.f;
    return view.project(worldAt(t, part, view), pixel, depth) ? QPointF(double(pixel.x), double(pixel.y)) : QPointF();
}

PictureHandles::Part PictureHandles::partAt(const QPointF& p, const QSize& size) const
{
    Part best = Part::None;
    double nearest = 10.0;
    for (const Part part : everyPart) {
        const QPointF q = at(part, size);
        if (!q.isNull() && QLineF(q, p).length() < nearest) {
            nearest = QLineF(q, p).length();
            best = part;
        }
    }
    return best;
}

void PictureHandles::paint(QPainter& p, const QSize& size, Part lit) const
{
    const Target t = target();
    if (!t.element)
        return;
    const View view = session_.picture().viewIn(size);
    const float r = radius(t, view);
    QPolygonF disc;
    for (int i = 0; i <= 48; ++i) {
        const float a = 2.f * pi * static_cast<float>(i) / 48.f;
        Vec2 q;
        float depth = 0.f;
        if (!view.project(t.position + Vec3(std::sin(a) * r, 0.f, std::cos(a) * r), q, depth))
            return;
        disc << QPointF(double(q.x), double(q.y));
    }
    p.setRenderHint(QPainter::Antialiasing);
    p.setBrush(Qt::NoBrush);
    const QColor accent("#B4C95A");
    const auto both = [&](const auto& draw) {
        p.setPen(QPen(QColor(0, 0, 0, 150), 3.4));
        draw();
        p.setPen(QPen(accent, 1.4));
        draw();
    };
    const QPointF middle = at(Part::Move, size), tip = at(Part::Lift, size);
    both([&] {
        p.drawPolyline(disc);
        p.drawLine(middle, tip);
        if (const QPointF aim = at(Part::Aim, size); !aim.isNull()) {
            const QPointF rim = at(Part::Cone, size);
            p.drawLine(middle, aim);
            if (!rim.isNull()) {
                p.drawLine(middle, rim);
                p.drawLine(aim, rim);
            }
        }
    });
    for (const Part part : everyPart) {
        const QPointF q = at(part, size);
        if (q.isNull())
            continue;
        p.setBrush(part == lit || part == held_ ? accent : QColor(20, 21, 22, 220));
        p.setPen(QPen(accent, 1.6));
        switch (part) {
        case Part::Move: p.drawEllipse(q, 5.5, 5.5); break;
        case Part::Turn: p.drawPolygon(QPolygonF{q + QPointF(0, -7), q + QPointF(6, 5), q + QPointF(-6, 5)}); break;
        case Part::Lift: p.drawPolygon(QPolygonF{q + QPointF(-6, 3), q + QPointF(0, -6), q + QPointF(6, 3)}); break;
        case Part::Aim:
            p.drawPolygon(QPolygonF{q + QPointF(0, -7), q + QPointF(7, 0), q + QPointF(0, 7), q + QPointF(-7, 0)});
            break;
        default: p.drawRect(QRectF(q - QPointF(4.5, 4.5), QSizeF(9, 9))); break;
        }
    }
    static constexpr const char* words[] = {"",
                                            QT_TRANSLATE_NOOP("window", "move over the level"),
                                            QT_TRANSLATE_NOOP("window", "turn"),
                                            QT_TRANSLATE_NOOP("window", "lift"),
                                            QT_TRANSLATE_NOOP("window", "size"),
                                            QT_TRANSLATE_NOOP("window", "aim"),
                                            QT_TRANSLATE_NOOP("window", "beam"),
                                            QT_TRANSLATE_NOOP("window", "range")};
    const Part told = held_ != Part::None ? held_ : lit;
    if (told == Part::None)
        return;
    QString text = QString::fromStdString(t.element->name) + ": " + say(words[static_cast<int>(told)]);
    const std::string& id = told == Part::Turn    ? t.turn
                            : told == Part::Size  ? t.size
                            : told == Part::Aim   ? t.aim
                            : told == Part::Cone  ? t.cone
                            : told == Part::Range ? t.range
                                                  : t.place;
    if (const scene::Parameter* q = scene::findParameter(t.element->kind->parameters, id))
        text += "   " + QString::fromStdString(q->shown(q->get(*t.element->settings)));
    p.setFont(figureFont(11));
    const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 14;
    QRectF box(middle.x() - w / 2.0, middle.y() + 14, w, 20);
    box.moveLeft(std::clamp(box.left(), 4.0, std::max(4.0, double(size.width() - w - 4))));
    box.moveTop(std::min(box.top(), double(size.height()) - 24));
    p.fillRect(box, QColor(20, 21, 22, 200));
    p.setPen(QColor("#e6e6e4"));
    p.drawText(box, Qt::AlignCenter, text);
}

bool PictureHandles::press(const QPointF& p, const QSize& size)
{
    const Part part = partAt(p, size);
    const Target t = target();
    if (part == Part::None || !t.element)
        return false;
    held_ = part;
    pressed_ = p;
    ++gesture_;
    startPlace_ = t.position;
    // With others that are chosen it moves as one with them.
    const auto& chosen = session_.selection().chosen();
    starts_ = chosen.size() > 1 ? session_.arranger().placesOf(chosen) : std::vector<Arranger::Place>();
    startTurn_ = t.heading;
    if (!t.size.empty()) {
        const scene::Value v = t.element->value(t.size);
        if (std::holds_alternative<Vec3>(v))
            startSize_ = std::get<Vec3>(v);
        else
            startScale_ = std::get<double>(v);
    }
    if (part == Part::Aim)
        startPlace_ = t.target;
    if (part == Part::Cone || part == Part::Range)
        startScale_ = std::get<double>(t.element->value(part == Part::Cone ? t.cone : t.range));
    const QPointF middle = at(part == Part::Cone ? Part::Aim : Part::Move, size);
    startRadius_ = std::max(4.0, QLineF(middle, p).length());
    Vec3 point;
    startAngle_ = onLevel(session_.picture().viewIn(size), p, t.position.y, point)
                      ? std::atan2(double(point.x - t.position.x), double(t.position.z - point.z))
                      : 0.0;
    return true;
}

void PictureHandles::drag(const QPointF& p, const QSize& size)
{
    const Target t = target();
    if (!t.element || held_ == Part::None)
        return;
    const View view = session_.picture().viewIn(size);
    const QString merge = QString("handle#%1").arg(gesture_);
    switch (held_) {
    case Part::Aim:
    case Part::Move: {
        Vec3 from, to;
        // The level through the thing; seen from near that level, the plane that faces the camera.
        Vec3 place = startPlace_;
        if (onLevel(view, pressed_, startPlace_.y, from) && onLevel(view, p, startPlace_.y, to) &&
            std::abs(view.position().y - startPlace_.y) > 0.3f) {
            place += to - from;
        } else {
            const float metres = (startPlace_ - view.position()).dot(view.forward()) * view.pixelAngle();
            place += view.right() * (static_cast<float>(p.x() - pressed_.x()) * metres);
        }
        const Vec3 to3(even(place.x), even(place.y), even(place.z));
        if (held_ == Part::Move && starts_.size() > 1)
            session_.arranger().movePlaces(starts_, to3 - startPlace_, merge);
        else
            session_.document().setPlace(t.element->id, held_ == Part::Aim ? t.aim : t.place, to3, merge);
        break;
    }
    case Part::Lift: {
        const float metres = std::max(0.1f, (startPlace_ - view.position()).dot(view.forward())) * view.pixelAngle();
        const float height = even(startPlace_.y - static_cast<float>(p.y() - pressed_.y()) * metres);
        if (starts_.size() > 1)
            session_.arranger().movePlaces(starts_, Vec3(0.f, height - startPlace_.y, 0.f), merge);
        else
            session_.document().setPlace(t.element->id, t.place, Vec3(startPlace_.x, height, startPlace_.z), merge);
        break;
    }
    case Part::Turn: {
        Vec3 point;
        if (!onLevel(view, p, t.position.y, point))
            break;
        const double angle = std::atan2(double(point.x - t.position.x), double(t.position.z - point.z));
        double turn = startTurn_ + (angle - startAngle_) * 57.295779513082321;
        turn = std::round(turn * 2.0) / 2.0;
        while (turn > 180.0)
            turn -= 360.0;
        while (turn < -180.0)
            turn += 360.0;
        session_.document().setValue(t.element->id, t.turn, turn, merge);
        break;
    }
    case Part::Size: {
        const double factor = std::clamp(QLineF(at(Part::Move, size), p).length() / startRadius_, 0.02, 50.0);
        if (std::holds_alternative<Vec3>(t.element->value(t.size)))
            session_.document().setValue(t.element->id, t.size,
                                         Vec3(std::max(0.01f, even(startSize_.x * static_cast<float>(factor))),
                                              std::max(0.01f, even(startSize_.y * static_cast<float>(factor))),
                                              std::max(0.01f, even(startSize_.z * static_cast<float>(factor)))),
                                         merge);
        else
            session_.document().setValue(t.element->id, t.size,
                                         std::strtod(formatNumber(startScale_ * factor, 4).c_str(), nullptr), merge);
        break;
    }
    case Part::Cone:
    case Part::Range: {
        const std::string& id = held_ == Part::Cone ? t.cone : t.range;
        const scene::Parameter& q = *scene::findParameter(t.element->kind->parameters, id);
        const double factor = std::clamp(
            QLineF(at(held_ == Part::Cone ? Part::Aim : Part::Move, size), p).length() / startRadius_, 0.01, 100.0);
        double value = startScale_ * factor;
        if (q.quantity == Quantity::Angle)
            value = 2.0 * std::atan(std::tan(std::min(1.5, startScale_ * 0.5 / 57.295779513082321)) * factor) *
                    57.295779513082321;
        session_.document().setValue(
            t.element->id, id, std::clamp(std::strtod(formatNumber(value, 3).c_str(), nullptr), q.hardMin, q.hardMax),
            merge);
        break;
    }
    case Part::None: break;
    }
}

void PictureHandles::release()
{
    if (held_ != Part::None)
        session_.document().endDrag();
    held_ = Part::None;
}
} // namespace hygros::app
