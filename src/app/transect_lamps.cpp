/// Lamps in the Transect: their cones and what of them is dragged.
#include "app/transect_view.h"

#include "app/theme.h"

#include <QPainter>
#include <cmath>

namespace hygros::app {

std::optional<TransectView::LampDrawing> TransectView::drawingOf(const light::Lamp& lamp) const
{
    const auto shot = session_.picture().shot();
    const scene::Element* e = session_.project().find(lamp.id);
    if (!e || !shot)
        return std::nullopt;
    const geometry::View view(shot->camera, 100, 100);
    if ((lamp.position - shot->camera.position).dot(view.forward()) <= 0.f)
        return std::nullopt;
    // The drawing's own plane: along the ground away from the camera, and up.
    const Vec3 to = lamp.position - shot->camera.position;
    const Vec3 heading = Vec3(to.x, 0.f, to.z).length2() > 1e-9f
                             ? Vec3(to.x, 0.f, to.z).normalized()
                             : Vec3(view.forward().x, 0.f, view.forward().z).normalized();
    LampDrawing d;
    d.heading = heading;
    d.from = QPointF(std::max(1.0, std::hypot(double(to.x), double(to.z))), double(lamp.position.y));
    d.along = QPointF(double(lamp.direction.dot(heading)), double(lamp.direction.y));
    const double shown = std::hypot(d.along.x(), d.along.y());
    double length = 4.5;
    if (scene::findParameter(e->kind->parameters, "aim"))
        length = std::clamp(double((session_.document().placeOf(e->id, "aim") - lamp.position).length()), 0.2, 400.0);
    d.length = length * std::max(0.05, shown);
    d.along = shown > 0.05 ? d.along / shown : QPointF(0.0, -1.0);
    d.across = QPointF(-d.along.y(), d.along.x());
    if (d.across.x() < 0.0 || (d.across.x() < 1e-6 && d.across.y() < 0.0))
        d.across = -d.across;
    d.wide = lamp.shape == light::Lamp::Shape::Parallel ? double(lamp.radius)
             : lamp.shape == light::Lamp::Shape::Spot
                 ? length * std::tan(std::min(1.5, std::acos(double(lamp.cosOuter))))
                 : 0.0;
    d.foot = d.from + d.along * d.length;
    return d;
}

void TransectView::addLampHandles(std::vector<Handle>& all) const
{
    const auto shot = session_.picture().shot();
    if (!shot || session_.selection().selected().empty())
        return;
    for (const light::Lamp& lamp : shot->lamps) {
        if (lamp.id != session_.selection().selected())
            continue;
        const scene::Element* e = session_.project().find(lamp.id);
        const auto d = drawingOf(lamp);
        if (!e || !d)
            return;
        const auto at = [&](const QPointF& metres) {
            return QPointF(xOf(std::clamp(metres.x(), nearest_, farthest_)), yOf(metres.y()));
        };
        const auto add = [&](const char* id, const QPointF& metres) {
            Handle h{e->id, id, at(metres), true, 0.0};
            h.lamp = true;
            all.push_back(h);
        };
        add("position", d->from);
        if (scene::findParameter(e->kind->parameters, "aim"))
            add("aim", d->foot);
        if (const auto& handles = elements::kindOf(*e).handles)
            if (const std::string cone = handles(*e).cone; !cone.empty())
                add(cone.c_str(), d->foot + d->across * d->wide);
        if (lamp.falloff == light::Lamp::Falloff::Linear)
            add("range", d->from + d->along * double(lamp.range));
        return;
    }
}

void TransectView::dragLamp(const QPointF& p)
{
    const auto shot = session_.picture().shot();
    const scene::Element* e = session_.project().find(heldElement_);
    if (!shot || !e)
        return;
    const auto lamp = std::find_if(shot->lamps.begin(), shot->lamps.end(),
                                   [&](const light::Lamp& l) { return l.id == heldElement_; });
    const auto d = lamp == shot->lamps.end() ? std::nullopt : drawingOf(*lamp);
    if (!d)
        return;
    const QPointF metres(distanceOf(std::clamp(p.x(), plot().left(), plot().right())),
                         heightOf(std::clamp(p.y(), plot().top(), plot().bottom())));
    const QString merge = QString("transect#%1").arg(gesture_);
    if (heldParameter_ == "position" || heldParameter_ == "aim") {
        // Along the ground away from the camera, and up and down; to the side it stays.
        const Vec3 was = session_.document().placeOf(e->id, heldParameter_), to = was - shot->camera.position;
        const double before = heldParameter_ == "position" ? d->from.x()
                                                           : double(Vec3(to.x, 0.f, to.z).dot(d->heading));
        Vec3 place = was + d->heading * static_cast<float>(metres.x() - before);
        place.y = static_cast<float>(metres.y());
        session_.document().setPlace(e->id, heldParameter_, place, merge);
        return;
    }
    const QPointF out = metres - d->from;
    const double along = QPointF::dotProduct(out, d->along), across = std::abs(QPointF::dotProduct(out, d->across));
    double value = 0.0;
    if (heldParameter_ == "angle")
        value = std::round(2.0 * std::atan2(across, std::max(1e-3, along)) * 57.295779513082321 * 2.0) / 2.0;
    else if (heldParameter_ == "radius")
        value = std::strtod(formatNumber(across, 3).c_str(), nullptr);
    else
        value = std::strtod(formatNumber(std::max(0.01, along), 3).c_str(), nullptr);
    const scene::Parameter& q = *scene::findParameter(e->kind->parameters, heldParameter_);
    session_.document().setValue(e->id, heldParameter_, std::clamp(value, q.hardMin, q.hardMax), merge);
}

void TransectView::drawLamps(QPainter& p)
{
    const auto shot = session_.picture().shot();
    if (!shot)
        return;
    p.setRenderHint(QPainter::Antialiasing);
    for (const light::Lamp& lamp : shot->lamps) {
        const auto d = drawingOf(lamp);
        if (!d)
            continue;
        QColor hue = familyHue(scene::Family::Lights);
        const bool lit = session_.selection().hovered() == lamp.id || session_.selection().selected() == lamp.id;
        const auto at = [&](const QPointF& metres) {
            return QPointF(xOf(std::max(0.05, metres.x())), yOf(metres.y()));
        };
        hue.setAlpha(lit ? 130 : 70);
        p.setPen(Qt::NoPen);
        p.setBrush(hue);
        // The axes bend (distance by factors, heights by arc sinh), so edges are drawn in steps.
        QPolygonF cone;
        constexpr int steps = 12;
        const bool parallel = lamp.shape == light::Lamp::Shape::Parallel;
        const auto edge = [&](double u, double side) {
            return at(d->from + d->along * (d->length * u) + d->across * (side * d->wide * (parallel ? 1.0 : u)));
        };
        if (d->wide > 0.0) {
            for (int i = 0; i <= steps; ++i)
                cone << edge(double(i) / steps, 1.0);
            for (int i = steps; i >= 0; --i)
                cone << edge(double(i) / steps, -1.0);
            p.drawPolygon(cone);
        }
        hue.setAlpha(255);
        p.setBrush(hue);
        p.drawEllipse(at(d->from), lit ? 4.5 : 3.5, lit ? 4.5 : 3.5);
    }
}
} // namespace hygros::app
