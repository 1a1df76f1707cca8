/// The Motion page in the hand: choosing, dragging, stretching.
#include "app/motion_view.h"
#include "app/words.h"
#include "app/zoom.h"
#include "scene/evaluate.h"

#include <QCheckBox>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double grasp = 8.0; ///< how near a grip is taken [pixels]

} // namespace

void MotionView::mousePressEvent(QMouseEvent* e)
{
    setFocus(Qt::MouseFocusReason);
    pressed_ = around_ = e->position();
    moved_ = false;
    before_ = session_.document().whole();
    chosenBefore_ = chosen_;
    dragLane_.reset();
    if (e->button() == Qt::MiddleButton) {
        drag_ = Drag::Pan;
        return;
    }
    if (e->button() != Qt::LeftButton || lanes_.empty())
        return;
    for (const bool last : {false, true})
        if (const auto at = grip(last); at && (*at - pressed_).manhattanLength() < grasp) {
            drag_ = Drag::Stretch;
            lastGrip_ = last;
            return;
        }
    if (pressed_.y() >= headerShown && pressed_.y() < plot().top()) {
        drag_ = Drag::Head;
        session_.player().stop();
        session_.document().setFrame(static_cast<int>(std::lround(frameAt(pressed_.x()))));
        return;
    }
    const Lane* lane = laneAt(pressed_);
    if (lane && pressed_.x() < nameWidthShown && pressed_.y() < lane->rect.top() + thinLane) {
        opened_ = true;
        lane->open ? open_.erase(lane->id) : open_.insert(lane->id).second;
        layOut();
        update();
        return;
    }
    if (lane && lane->open)
        for (const scene::KeyPlace& k : chosen_)
            if (LaneId{k.element, k.parameter} == lane->id)
                for (int c = 0; c < numbersIn(*lane); ++c)
                    for (const bool out : {false, true})
                        if (const auto end = slopeHandle(*lane, k, c, out);
                            end && (*end - pressed_).manhattanLength() < grasp) {
                            drag_ = Drag::Slope;
                            held_ = {k, c};
                            slopeOut_ = out;
                            dragLane_ = *lane;
                            return;
                        }
    const bool adds = e->modifiers() & (Qt::ShiftModifier | Qt::ControlModifier);
    if (const auto hit = keyAt(pressed_)) {
        if (adds && chosen_.count(hit->key)) {
            chosen_.erase(hit->key);
        } else {
            if (!adds && !chosen_.count(hit->key))
                chosen_.clear();
            chosen_.insert(hit->key);
            held_ = *hit;
            drag_ = Drag::Keys;
            dragLane_ = *laneOf({hit->key.element, hit->key.parameter});
        }
        chosenBefore_ = chosen_;
    } else {
        if (!adds)
            chosen_.clear();
        chosenBefore_ = chosen_;
        drag_ = Drag::Around;
    }
    showChosen();
    update();
}

void MotionView::mouseMoveEvent(QMouseEvent* e)
{
    const QPointF to = e->position();
    if (drag_ == Drag::None) {
        bool gripped = false;
        for (const bool last : {false, true})
            if (const auto at = grip(last); at && (*at - to).manhattanLength() < grasp)
                gripped = true;
        setCursor(gripped ? Qt::SizeHorCursor : keyAt(to) ? Qt::PointingHandCursor : Qt::ArrowCursor);
        return;
    }
    if (!moved_ && drag_ != Drag::Head && (to - pressed_).manhattanLength() < 3.0)
        return;
    moved_ = true;
    switch (drag_) {
    case Drag::Head: session_.document().setFrame(static_cast<int>(std::lround(frameAt(to.x())))); break;
    case Drag::Keys: dragKeys(to); break;
    case Drag::Slope: dragSlope(to); break;
    case Drag::Stretch: {
        // About the play head; where that is at the grip itself, about the other end.
        const double head = session_.document().frame();
        double first = 1e300, end = -1e300;
        for (const scene::KeyPlace& k : chosenBefore_) {
            first = std::min(first, k.frame);
            end = std::max(end, k.frame);
        }
        const double own = lastGrip_ ? end : first, pivot = std::abs(head - own) > 0.5 ? head : lastGrip_ ? first : end;
        const double times = (own + (to.x() - pressed_.x()) * (to_ - from_) / plot().width() - pivot) / (own - pivot);
        if (times < 0.02)
            break;
        change(
            say("Stretch keys"),
            [&](scene::Project& p) {
                p = before_;
                return scene::changeKeys(p, chosenBefore_, scene::stretched(pivot, times, snap_->isChecked()));
            },
            QString("motion#%1").arg(gesture_));
        break;
    }
    case Drag::Around: {
        around_ = to;
        chosen_ = chosenBefore_;
        const QRectF box = QRectF(pressed_, around_).normalized();
        for (const Lane& l : lanes_)
            for (const scene::Key& k : elementOf(l)->track(l.id.second)->keys) {
                const scene::KeyPlace place{l.id.first, l.id.second, k.frame};
                const auto at = placeOf(place);
                bool inside = at && box.contains(*at);
                for (int c = 1; !inside && l.open && c < numbersIn(l); ++c)
                    inside = box.contains(QPointF(xOf(k.frame), l.yOf(number(k.value, c))));
                if (inside)
                    chosen_.insert(place);
            }
        showChosen();
        update();
        break;
    }
    case Drag::Pan: {
        const double by = (pressed_.x() - to.x()) * (to_ - from_) / plot().width();
        from_ += by;
        to_ += by;
        scrolled_ += pressed_.y() - to.y();
        pressed_ = to;
        zoomed_ = true;
        layOut();
        update();
        break;
    }
    case Drag::None: break;
    }
}

void MotionView::dragKeys(const QPointF& to)
{
    const double by = (to.x() - pressed_.x()) * (to_ - from_) / plot().width();
    // In an open lane along whichever way one goes more, with Shift; else both.
    const bool shift = QGuiApplication::keyboardModifiers() & Qt::ShiftModifier;
    const bool flat = shift && std::abs(to.x() - pressed_.x()) >= std::abs(to.y() - pressed_.y());
    const bool upright = shift && !flat;
    const bool valued = dragLane_ && dragLane_->open && numbersIn(*dragLane_) > 0 && !flat;
    const double rise = valued ? (pressed_.y() - to.y()) / (dragLane_->rect.height() - 16.0) *
                                     (dragLane_->high - dragLane_->low)
                               : 0.0;
    const scene::Parameter* parameter = dragLane_ ? dragLane_->parameter : nullptr;
    change(
        say("Move keys"),
        [&](scene::Project& p) {
            p = before_;
            return scene::changeKeys(p, chosenBefore_, scene::shifted(upright ? 0.0 : by, snap_->isChecked()),
                                     [&](const scene::Parameter& q, const scene::Value& v) -> scene::Value {
                                         if (&q != parameter || rise == 0.0)
                                             return v;
                                         const double at = q.rulerPosition(number(v, held_.component)) + rise;
                                         return scene::limited(
                                             q, MotionView::withNumber(v, held_.component, q.rulerValue(at)));
                                     });
        },
        QString("motion#%1").arg(gesture_));
}

void MotionView::dragSlope(const QPointF& to)
{
    const Lane lane = *dragLane_;
    scene::KeyPlace place = held_.key;
    const scene::Key* key = before_.find(place.element)->track(place.parameter)->at(place.frame);
    const double v = number(key->value, held_.component);
    const double frames = std::max(0.05, (frameAt(to.x()) - key->frame) * (slopeOut_ ? 1.0 : -1.0)) *
                          (slopeOut_ ? 1.0 : -1.0);
    const double slope = (lane.valueAt(to.y()) - v) / frames;
    change(
        say("Slope of a key"),
        [&](scene::Project& p) {
            p = before_;
            scene::Element& e = *p.find(place.element);
            scene::Track track = *e.track(place.parameter);
            for (std::size_t i = 0; i < track.keys.size(); ++i)
                if (std::abs(track.keys[i].frame - place.frame) < 1e-3) {
                    const auto both = scene::slopesAt(*lane.parameter, track, i);
                    scene::Key& k = track.keys[i];
                    // Both sides go together, but with Ctrl: then the curve has a corner.
                    const bool corner = QGuiApplication::keyboardModifiers() & Qt::ControlModifier;
                    if (slopeOut_ || !corner) {
                        k.out = k.out.value_or(both[1]);
                        (*k.out)[held_.component] = static_cast<float>(slope);
                    }
                    if (!slopeOut_ || !corner) {
                        k.in = k.in.value_or(both[0]);
                        (*k.in)[held_.component] = static_cast<float>(slope);
                    }
                }
            e.setTrack(place.parameter, std::move(track));
            return chosenBefore_;
        },
        QString("motion#%1").arg(gesture_));
}

void MotionView::mouseReleaseEvent(QMouseEvent* e)
{
    if (drag_ == Drag::Keys && !moved_ && !(e->modifiers() & (Qt::ShiftModifier | Qt::ControlModifier)))
        chosen_ = {held_.key}; // a click on one of several chooses it alone
    drag_ = Drag::None;
    dragLane_.reset();
    ++gesture_;
    session_.document().endDrag();
    pull();
}

void MotionView::mouseDoubleClickEvent(QMouseEvent* e)
{
    const Lane* lane = laneAt(e->position());
    if (!lane || e->position().x() < nameWidthShown) {
        zoomed_ = false; // all of the range
        return pull();
    }
    if (keyAt(e->position()))
        return;
    // A key on the curve, or where an open lane was clicked.
    const LaneId id = lane->id;
    const scene::Parameter& p = *lane->parameter;
    double frame = frameAt(e->position().x());
    if (snap_->isChecked())
        frame = std::round(frame);
    const scene::Element& el = *elementOf(*lane);
    scene::Key key = scene::keyAt(frame, scene::keyedValue(p, *el.track(id.second), frame, p.get(*el.settings)));
    if (lane->open && numbersIn(*lane) == 1)
        key.value = scene::limited(p, MotionView::withNumber(key.value, 0, lane->valueAt(e->position().y())));
    change(say("Key"), [&](scene::Project& project) {
        scene::Element& own = *project.find(id.first);
        scene::Track track = *own.track(id.second);
        for (const scene::Key& k : track.keys)
            if (k.frame < frame)
                key.way = k.way;
        track.put(key);
        own.setTrack(id.second, std::move(track));
        return scene::KeyPlaces{{id.first, id.second, frame}};
    });
}

void MotionView::wheelEvent(QWheelEvent* e)
{
    if (e->modifiers() & Qt::ShiftModifier || e->position().x() < nameWidthShown) {
        scrolled_ -= e->angleDelta().y() / 3.0;
    } else {
        zoomFrames(frameAt(e->position().x()), e->angleDelta().y(), from_, to_);
        zoomed_ = true;
    }
    layOut();
    update();
    e->accept();
}

bool MotionView::event(QEvent* event)
{
    // Copy, paste and remove mean keys here, not elements.
    if (event->type() == QEvent::ShortcutOverride) {
        auto* key = static_cast<QKeyEvent*>(event);
        if (key->matches(QKeySequence::Copy) || key->matches(QKeySequence::Paste) ||
            key->matches(QKeySequence::SelectAll) || (key->key() == Qt::Key_Delete && !chosen_.empty())) {
            key->accept();
            return true;
        }
    }
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (const auto hit = keyAt(help->pos())) {
            const scene::Element* e = whole_.find(hit->key.element);
            const scene::Parameter* p = scene::findParameter(e->kind->parameters, hit->key.parameter);
            QToolTip::showText(help->globalPos(),
                               say("%1 %2 at frame %3: %4")
                                   .arg(QString::fromStdString(e->name), QString::fromStdString(p->label),
                                        QString::fromStdString(formatNumber(hit->key.frame, 7)),
                                        QString::fromStdString(p->shown(e->track(p->id)->at(hit->key.frame)->value))),
                               this);
            return true;
        }
    }
    return QWidget::event(event);
}

} // namespace hygros::app
