/// The time strip in the hand: dragging, zooming, its menu.
#include "app/baked_dialog.h"
#include "app/time_dialog.h"
#include "app/time_strip.h"
#include "app/words.h"
#include "app/zoom.h"

#include <QContextMenuEvent>
#include <QFileDialog>
#include <QMenu>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace hygros::app {

TimeStrip::Grip TimeStrip::gripAt(const QPoint& place) const
{
    const QRect s = scale();
    if (!s.adjusted(-10, 0, 10, 0).contains(place))
        return Grip::None;
    const scene::TimeSettings& t = session_.project().time;
    // The ends are taken by their lower part, the head above.
    if (place.y() > 18) {
        if (std::abs(place.x() - xOf(t.first)) < 6.0)
            return Grip::First;
        if (std::abs(place.x() - xOf(t.last)) < 6.0)
            return Grip::Last;
    }
    return Grip::Head;
}

void TimeStrip::mousePressEvent(QMouseEvent* e)
{
    setFocus(Qt::MouseFocusReason);
    if (e->button() == Qt::MiddleButton || (e->button() == Qt::LeftButton && e->modifiers() & Qt::AltModifier)) {
        grip_ = Grip::Pan;
        panFrom_ = frameAt(e->pos().x());
        return;
    }
    if (e->button() != Qt::LeftButton)
        return;
    grip_ = gripAt(e->pos());
    if (grip_ == Grip::Head) {
        session_.player().stop();
        session_.document().setFrame(static_cast<int>(std::lround(frameAt(e->pos().x()))));
    }
}

void TimeStrip::mouseMoveEvent(QMouseEvent* e)
{
    const int frame = static_cast<int>(std::lround(
        std::clamp(frameAt(e->pos().x()), -1.0 * scene::TimeSettings::farthest, 1.0 * scene::TimeSettings::farthest)));
    switch (grip_) {
    case Grip::None: {
        const Grip over = gripAt(e->pos());
        setCursor(over == Grip::First || over == Grip::Last ? Qt::SizeHorCursor : Qt::ArrowCursor);
        break;
    }
    case Grip::Head: session_.document().setFrame(frame); break;
    case Grip::First:
    case Grip::Last: {
        scene::TimeSettings t = session_.project().time;
        if (grip_ == Grip::First)
            t.first = std::min(frame, t.last);
        else
            t.last = std::max(frame, t.first);
        const bool was = std::exchange(zoomed_, true); // the scale stays under the hand
        if (!(t == session_.project().time))
            session_.document().setTime(t, grip_ == Grip::First ? say("First frame") : say("Last frame"), "time#range");
        zoomed_ = was;
        break;
    }
    case Grip::Pan: {
        const double by = panFrom_ - frameAt(e->pos().x());
        from_ += by;
        to_ += by;
        zoomed_ = true;
        update();
    }
    }
}

void TimeStrip::mouseReleaseEvent(QMouseEvent*)
{
    if (grip_ == Grip::First || grip_ == Grip::Last)
        session_.document().endDrag();
    grip_ = Grip::None;
    pull();
}

void TimeStrip::mouseDoubleClickEvent(QMouseEvent* e)
{
    if (!scale().contains(e->pos()))
        return;
    zoomed_ = false;
    showAll();
}

void TimeStrip::wheelEvent(QWheelEvent* e)
{
    zoomFrames(frameAt(e->position().x()), e->angleDelta().y(), from_, to_);
    zoomed_ = true;
    update();
    e->accept();
}

void TimeStrip::resizeEvent(QResizeEvent*) { update(); }

bool TimeStrip::event(QEvent* event)
{
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (scale().contains(help->pos())) {
            const double frame = std::round(frameAt(help->pos().x()));
            QString text = say("frame %1 · %2 s").arg(frame).arg(figure(session_.project().time.seconds(frame), 2));
            for (const auto& [id, span] : session_.baker().spans())
                if (const scene::Element* e = session_.project().find(id); e && help->pos().y() > 50)
                    text += "\n" + QString::fromStdString(e->name) + ": " + session_.baker().said(id);
            QToolTip::showText(help->globalPos(), text, this);
            return true;
        }
    }
    return QWidget::event(event);
}

void TimeStrip::askTime()
{
    auto* dialog = new TimeDialog(session_.document(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void TimeStrip::showBaked()
{
    auto* dialog = new BakedDialog(session_, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void TimeStrip::writeRun()
{
    const QString file = QFileDialog::getSaveFileName(
        this, say("Write the kept run"), {},
        say("Movie (*.mp4 *.mkv *.mov);;Numbered pictures, name with #### (*.png)"));
    if (!file.isEmpty())
        session_.keptRun().write(file);
}

void TimeStrip::contextMenuEvent(QContextMenuEvent* e)
{
    QMenu menu(this);
    const int here = static_cast<int>(std::lround(frameAt(e->pos().x())));
    Document& d = session_.document();
    if (scale().contains(e->pos())) {
        menu.addAction(say("First frame is %1").arg(here), this, [&d, here] {
            scene::TimeSettings t = d.project().time;
            t.first = here;
            t.last = std::max(t.last, here);
            d.setTime(t, say("First frame"));
        });
        menu.addAction(say("Last frame is %1").arg(here), this, [&d, here] {
            scene::TimeSettings t = d.project().time;
            t.last = here;
            t.first = std::min(t.first, here);
            d.setTime(t, say("Last frame"));
        });
        menu.addAction(say("Show the whole range"), this, [this] {
            zoomed_ = false;
            showAll();
        });
        menu.addSeparator();
    }
    menu.addAction(say("Frames, rate and shutter…"), this, &TimeStrip::askTime);
    menu.addAction(say("Baked frames…"), this, &TimeStrip::showBaked);
    menu.addSeparator();
    KeptRun& run = session_.keptRun();
    for (const int passes : {1, 8, 32})
        menu.addAction(say("Keep the run, %1 %2 a frame").arg(passes).arg(passes == 1 ? say("sample") : say("samples")),
                       &run, [&run, passes] { run.draw(passes); });
    menu.addAction(say("Write the kept run…"), this, &TimeStrip::writeRun);
    menu.addAction(say("Forget the kept run (%1 MB)").arg(run.bytes() / 1000000), &run, &KeptRun::clear)
        ->setEnabled(run.bytes() > 0);
    menu.exec(e->globalPos());
}
} // namespace hygros::app
