/// The Transect in the hand: its handles, mouse and keys.
#include "app/transect_view.h"

#include "app/theme.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace hygros::app {

double TransectView::groundUnder(const std::string& element, double column) const
{
    if (const auto shot = session_.picture().shot())
        for (const media::Medium& m : shot->media)
            if (m.id == element && m.ground) {
                const Vec3 p = shot->camera.position +
                               reading::sectionHeading(*shot, across_) * static_cast<float>(distanceOf(column));
                return double(m.ground->height(p.x, p.z));
            }
    return 0.0;
}

std::vector<TransectView::Handle> TransectView::handles() const
{
    std::vector<Handle> all;
    if (quality_)
        return all;
    int place = 0;
    for (const scene::Element& e : session_.project().elements) {
        const elements::Kind& kind = elements::kindOf(e);
        if (!kind.section || (session_.project().silent(e) && !kind.staysWhenSilent))
            continue;
        const bool selected = session_.selection().selected() == e.id;
        double column = plot().left() + plot().width() * (0.42 + 0.11 * (place % 5));
        const auto of = kind.section(e, selected);
        for (const elements::SectionHandle& h : of) {
            const double value = std::get<double>(e.value(h.parameter));
            if (!h.upright) {
                if (value >= nearest_ * 0.999 || selected)
                    all.push_back({e.id, h.parameter,
                                   QPointF(xOf(std::clamp(value, nearest_, farthest_)), plot().top()), false, 0.0});
                continue;
            }
            const double zero = h.zero + (h.overGround ? groundUnder(e.id, column) : 0.0);
            if (zero + value >= lowest_ && zero + value <= highest_)
                all.push_back({e.id, h.parameter, QPointF(column, yOf(zero + value)), true, zero});
            column += 26;
        }
        if (std::any_of(of.begin(), of.end(), [](const elements::SectionHandle& h) { return h.upright; }))
            ++place;
    }
    addLampHandles(all);
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

void TransectView::mousePressEvent(QMouseEvent* e)
{
    const auto all = handles();
    if (const Handle* h = handleAt(all, e->position()); h && e->button() == Qt::LeftButton) {
        heldElement_ = h->element;
        heldParameter_ = h->parameter;
        heldZero_ = h->zero;
        heldVertical_ = h->vertical;
        heldLamp_ = h->lamp;
        ++gesture_;
        session_.selection().setHovered(h->element);
    } else if (e->button() == Qt::RightButton || e->button() == Qt::MiddleButton) {
        panning_ = true;
        pannedFrom_ = e->position();
        setCursor(Qt::ClosedHandCursor);
    }
}

void TransectView::mouseMoveEvent(QMouseEvent* e)
{
    cursor_ = e->position();
    if (panning_) {
        const QPointF by = cursor_ - pannedFrom_;
        pannedFrom_ = cursor_;
        const double u = -by.x() / plot().width();
        if (logarithmic_) {
            const double factor = std::pow(farthest_ / nearest_, u);
            nearest_ *= factor;
            farthest_ *= factor;
        } else {
            const double step = std::max((farthest_ - nearest_) * u, 0.05 - nearest_);
            nearest_ += step;
            farthest_ += step;
        }
        const double v = by.y() / plot().height() * (bend(highest_) - bend(lowest_));
        const double lo = unbent(bend(lowest_) + v), hi = unbent(bend(highest_) + v);
        if (hi < 2e4 && lo > -2e3) {
            lowest_ = lo;
            highest_ = hi;
        }
        ranged_ = true;
        rangeChanged();
        return;
    }
    if (!heldElement_.empty() && heldLamp_) {
        dragLamp(cursor_);
        update();
        return;
    }
    if (!heldElement_.empty()) {
        const scene::Element* element = session_.project().find(heldElement_);
        const scene::Parameter* q = element ? scene::findParameter(element->kind->parameters, heldParameter_) : nullptr;
        if (!q)
            return;
        double v = heldVertical_ ? heightOf(std::clamp(cursor_.y(), plot().top(), plot().bottom())) - heldZero_
                                 : distanceOf(cursor_.x());
        // What ends stays above what begins.
        const auto other = [&](const char* id) { return std::get<double>(element->value(id)); };
        const bool pair = scene::findParameter(element->kind->parameters, "top") &&
                          scene::findParameter(element->kind->parameters, "base");
        if (heldParameter_ == "top" && pair)
            v = std::max(v, other("base") + 0.05);
        if (heldParameter_ == "base" && pair)
            v = std::min(v, other("top") - 0.05);
        if (heldParameter_ == "near")
            v = std::min(v, other("far") * 0.98);
        if (heldParameter_ == "far")
            v = std::max(v, other("near") * 1.02);
        const double unit = heldVertical_ && std::abs(v) < 100.0
                                ? 0.01
                                : std::pow(10.0, std::floor(std::log10(std::max(1e-3, std::abs(v)))) - 2);
        v = std::clamp(std::round(v / unit) * unit, q->hardMin, q->hardMax);
        session_.document().setValue(heldElement_, heldParameter_, v, QString("transect#%1").arg(gesture_));
        update();
        return;
    }
    const auto all = handles();
    const Handle* h = handleAt(all, cursor_);
    setCursor(h ? (h->vertical ? Qt::SizeVerCursor : Qt::SizeHorCursor) : Qt::ArrowCursor);
    session_.selection().setHovered(h ? h->element : elementAt(cursor_));
    session_.selection().setCursorDistance(plot().contains(cursor_) ? distanceOf(cursor_.x()) : 0.0);
    update();
}

void TransectView::mouseReleaseEvent(QMouseEvent*)
{
    panning_ = false;
    setCursor(Qt::ArrowCursor);
    if (heldElement_.empty())
        return;
    heldElement_.clear();
    session_.document().endDrag();
    update();
}

void TransectView::mouseDoubleClickEvent(QMouseEvent* e)
{
    if (!handleAt(handles(), e->position()))
        showAll();
}

void TransectView::wheelEvent(QWheelEvent* e)
{
    const double turn = (e->angleDelta().y() ? e->angleDelta().y() : e->angleDelta().x()) / 120.0,
                 factor = std::pow(0.82, turn);
    const QRectF r = plot();
    if (e->modifiers() & Qt::ShiftModifier) {
        // About the height under the cursor, which stays where it is.
        const double at = bend(heightOf(std::clamp(e->position().y(), r.top(), r.bottom())));
        const double lo = unbent(at + (bend(lowest_) - at) * factor), hi = unbent(at + (bend(highest_) - at) * factor);
        if (hi - lo > 0.5 && hi < 2e4 && lo > -2e3) {
            lowest_ = lo;
            highest_ = hi;
        }
    } else if (logarithmic_) {
        const double at = std::log(distanceOf(e->position().x()));
        const double lo = std::exp(at + (std::log(nearest_) - at) * factor),
                     hi = std::exp(at + (std::log(farthest_) - at) * factor);
        if (hi / lo > 1.2 && hi < 1.5e5 && lo > 0.05) {
            nearest_ = lo;
            farthest_ = hi;
        }
    } else {
        const double at = distanceOf(e->position().x());
        const double lo = std::max(0.05, at + (nearest_ - at) * factor), hi = at + (farthest_ - at) * factor;
        if (hi - lo > 1.0 && hi < 1.5e5) {
            nearest_ = lo;
            farthest_ = hi;
        }
    }
    ranged_ = true;
    rangeChanged();
    e->accept();
}

void TransectView::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_L)
        setLogarithmic(!logarithmic_);
    else if (e->key() == Qt::Key_Home)
        showAll();
    else
        QWidget::keyPressEvent(e);
}

void TransectView::leaveEvent(QEvent*)
{
    cursor_ = {-1, -1};
    session_.selection().setHovered({});
    session_.selection().setCursorDistance(0.0);
    update();
}
} // namespace hygros::app
