#include "app/time_strip.h"

#include "app/editors.h"
#include "app/theme.h"
#include "app/time_dialog.h"

#include <QContextMenuEvent>
#include <QFileDialog>
#include <QMenu>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QSpinBox>
#include <QToolTip>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr int leftWidth = 292, rightMargin = 22;
}

TimeStrip::TimeStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("timeStrip");
    setMouseTracking(true);
    setFixedHeight(54);
    const Theme& t = Theme::now();
    frame_ = new QSpinBox(this);
    frame_->setObjectName("frame");
    frame_->setRange(-scene::TimeSettings::farthest, scene::TimeSettings::farthest);
    frame_->setFont(figureFont(13));
    frame_->setPrefix("frame ");
    frame_->setFrame(false);
    frame_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    frame_->setStyleSheet(QString("QSpinBox{background:transparent;color:%1}QSpinBox:focus{color:%2}")
                              .arg(t.text.name(), t.accent.name()));
    frame_->setGeometry(8, 5, 88, 24);
    frame_->setAlignment(Qt::AlignLeft);
    frame_->setToolTip("The frame shown. Type one, or step with the arrow keys.");
    frame_->setKeyboardTracking(false);
    const auto button = [&](const QString& name, const QString& text, int x, int width, const QString& help) {
        auto* b = new QPushButton(text, this);
        b->setObjectName(name);
        b->setFont(textFont(11));
        b->setStyleSheet(plainButton());
        b->setGeometry(x, 6, width, 22);
        b->setToolTip(help);
        return b;
    };
    play_ = button("play", "Play", 96, 50, "Play the range, round and round (F6)");
    record_ = button("record", "Record", 151, 58, "While on, every change makes a key at the frame shown (F9)");
    record_->setCheckable(true);
    keep_ = button("keep", "Keep run", 214, 68,
                   "Draw all frames of the range into memory; they then play at the true rate");
    Document& d = session.document();
    connect(frame_, &QSpinBox::valueChanged, this, [this](int f) { session_.document().setFrame(f); });
    connect(play_, &QPushButton::clicked, &session.player(), &Player::toggle);
    connect(record_, &QPushButton::toggled, &d, &Document::setRecording);
    connect(keep_, &QPushButton::clicked, this, [this] {
        KeptRun& run = session_.keptRun();
        run.isDrawing() ? run.cancel() : run.draw(8);
    });
    for (auto signal : {&Document::frameChanged, &Document::projectChanged, &Document::recordingChanged})
        connect(&d, signal, this, &TimeStrip::pull);
    connect(&d, &Document::projectReplaced, this, [this] {
        zoomed_ = false;
        showAll();
    });
    connect(&session.player(), &Player::changed, this, &TimeStrip::pull);
    connect(&session.keptRun(), &KeptRun::changed, this, &TimeStrip::pull);
    connect(&session.selection(), &Selection::chosenChanged, this, qOverload<>(&QWidget::update));
    showAll();
    pull();
}

QRect TimeStrip::scale() const { return {leftWidth + 14, 0, width() - leftWidth - 14 - rightMargin, height()}; }

double TimeStrip::xOf(double frame) const
{
    const QRect s = scale();
    return s.left() + (frame - from_) / std::max(1e-6, to_ - from_) * s.width();
}

double TimeStrip::frameAt(double x) const
{
    const QRect s = scale();
    return from_ + (x - s.left()) / std::max(1, s.width()) * (to_ - from_);
}

void TimeStrip::showAll()
{
    const scene::TimeSettings& t = session_.project().time;
    const double length = std::max(1, t.last - t.first);
    from_ = t.first - 0.04 * length;
    to_ = t.last + 0.04 * length;
    update();
}

void TimeStrip::pull()
{
    const QSignalBlocker quiet(frame_), alsoQuiet(record_);
    frame_->setValue(session_.document().frame());
    record_->setChecked(session_.document().isRecording());
    play_->setText(session_.player().state() == Player::State::Still ? "Play" : "Stop");
    keep_->setText(session_.keptRun().isDrawing() ? "Cancel" : "Keep run");
    if (!zoomed_)
        showAll();
    update();
}

std::vector<double> TimeStrip::keys() const
{
    std::vector<double> all;
    const auto& chosen = session_.selection().chosen();
    for (const scene::Element& e : session_.project().elements) {
        if (!chosen.empty() && std::find(chosen.begin(), chosen.end(), e.id) == chosen.end())
            continue;
        for (const auto& [id, track] : e.motion)
            for (const scene::Key& k : track->keys)
                all.push_back(k.frame);
    }
    std::sort(all.begin(), all.end());
    all.erase(std::unique(all.begin(), all.end()), all.end());
    return all;
}

void TimeStrip::toKey(bool forward)
{
    const auto all = keys();
    const double now = session_.document().frame();
    double to = now;
    if (forward) {
        const auto found = std::upper_bound(all.begin(), all.end(), now);
        if (found != all.end())
            to = std::ceil(*found);
    } else {
        const auto found = std::lower_bound(all.begin(), all.end(), now);
        if (found != all.begin())
            to = std::floor(*std::prev(found));
    }
    session_.document().setFrame(static_cast<int>(to));
}

void TimeStrip::step(int frames) { session_.document().setFrame(session_.document().frame() + frames); }

void TimeStrip::toEnd(bool last)
{
    const scene::TimeSettings& t = session_.project().time;
    session_.document().setFrame(last ? t.last : t.first);
}

void TimeStrip::drawScale(QPainter& p) const
{
    const Theme& t = Theme::now();
    const scene::TimeSettings& time = session_.project().time;
    const QRect s = scale();
    constexpr int line = 27;
    // Beyond the range the scale is only hinted at.
    p.setPen(t.rule);
    p.drawLine(s.left(), line, s.right(), line);
    const double firstX = std::clamp(xOf(time.first), double(s.left()), double(s.right())),
                 lastX = std::clamp(xOf(time.last), double(s.left()), double(s.right()));
    p.setPen(QPen(t.quiet, 1));
    p.drawLine(QPointF(firstX, line), QPointF(lastX, line));
    // Steps of 1, 2, 5 … frames that leave room for their numbers.
    const double perPixel = (to_ - from_) / std::max(1, s.width());
    double stepped = 1.0;
    for (int i = 0; stepped / perPixel < 52.0; ++i)
        stepped *= i % 3 == 1 ? 2.5 : 2.0;
    const double small = stepped >= 10.0 ? stepped / 10.0 : stepped >= 5.0 ? 1.0 : stepped;
    p.setFont(figureFont(10));
    for (double f = std::ceil(from_ / small) * small; f <= to_; f += small) {
        const double x = xOf(f);
        const bool tall = std::abs(std::remainder(f, stepped)) < 1e-6;
        p.setPen(tall ? t.quiet : t.rule);
        p.drawLine(QPointF(x, line), QPointF(x, line + (tall ? 6 : 3)));
        if (tall)
            p.drawText(QRectF(x - 40, line + 7, 80, 13), Qt::AlignCenter, QString::number(std::lround(f)));
    }
    // Kept pictures: a thin bar; what is not true any more is dotted.
    const KeptRun& run = session_.keptRun();
    const double one = s.width() / std::max(1.0, to_ - from_);
    for (int f = std::max(time.first, static_cast<int>(from_)); f <= std::min(time.last, static_cast<int>(to_) + 1);
         ++f) {
        const KeptRun::State state = run.state(f);
        if (state == KeptRun::State::Missing)
            continue;
        p.setPen(QPen(state == KeptRun::State::There ? t.quiet : t.faint, 2,
                      state == KeptRun::State::There ? Qt::SolidLine : Qt::DotLine, Qt::FlatCap));
        p.drawLine(QPointF(std::max(double(s.left()), xOf(f - 0.5)), height() - 3),
                   QPointF(std::min(double(s.right()), xOf(f - 0.5) + one), height() - 3));
    }
    // The ends of the range: brackets.
    p.setPen(QPen(t.text, 1.5));
    for (const int end : {time.first, time.last}) {
        const double x = xOf(end), in = end == time.first ? 4.0 : -4.0;
        if (x < s.left() - 1 || x > s.right() + 1)
            continue;
        p.drawPolyline(QPolygonF{QPointF(x + in, line - 7), QPointF(x, line - 7), QPointF(x, line + 5),
                                 QPointF(x + in, line + 5)});
    }
}

void TimeStrip::drawKeys(QPainter& p) const
{
    // Pins that stand on the scale.
    const Theme& t = Theme::now();
    p.setPen(QPen(t.text, 1));
    p.setBrush(t.text);
    const QRect s = scale();
    double lastX = -100.0;
    for (const double f : keys()) {
        const double x = xOf(f);
        if (x < s.left() || x > s.right() || x - lastX < 1.0)
            continue;
        lastX = x;
        p.drawLine(QPointF(x, 26), QPointF(x, 19));
        p.drawEllipse(QPointF(x, 17.5), 2.2, 2.2);
    }
    p.setBrush(Qt::NoBrush);
}

void TimeStrip::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    const scene::TimeSettings& time = session_.project().time;
    QPainter p(this);
    p.fillRect(rect(), t.panel);
    p.setPen(t.rule);
    p.drawLine(0, 0, width(), 0);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(figureFont(10));
    p.setPen(t.quiet);
    const Player& player = session_.player();
    QString said = QString("%1 s   %2/s")
                       .arg(time.seconds(session_.document().frame()), 0, 'f', 2)
                       .arg(QString::fromStdString(scene::shown(time.rate)));
    if (time.loop > 0.0)
        said += QString("   loop %1 s").arg(QString::fromStdString(formatNumber(time.loop, 4)));
    if (player.state() != Player::State::Still)
        said = QString("%1: %2 of %3 frames/s")
                   .arg(player.state() == Player::State::Kept ? "kept" : "computed")
                   .arg(player.rate(), 0, 'f', 1)
                   .arg(QString::fromStdString(scene::shown(time.rate)));
    p.drawText(QRect(14, 31, leftWidth - 20, 18), Qt::AlignVCenter | Qt::AlignLeft, said);
    p.setPen(t.rule);
    p.drawLine(leftWidth, 8, leftWidth, height() - 8);
    p.save();
    p.setClipRect(scale().adjusted(-12, 0, 14, 0));
    drawScale(p);
    drawKeys(p);
    // The play head: the rulers' pointer, above the scale, and a line through it.
    const QRect s = scale();
    const double x = xOf(session_.document().frame());
    if (x >= s.left() - 1 && x <= s.right() + 1) {
        const QColor colour = session_.document().isRecording() ? QColor("#D0654B") : t.accent;
        p.setPen(QPen(colour, 1.2));
        p.drawLine(QPointF(x, 4), QPointF(x, 31));
        QPainterPath pointer;
        pointer.moveTo(x, 13);
        pointer.lineTo(x - 5, 4);
        pointer.lineTo(x + 5, 4);
        pointer.closeSubpath();
        p.fillPath(pointer, colour);
    }
    p.restore();
}

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
            session_.document().setTime(t, grip_ == Grip::First ? "First frame" : "Last frame", "time#range");
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
    const double at = frameAt(e->position().x()), times = std::pow(1.25, -e->angleDelta().y() / 120.0);
    const double length = std::clamp((to_ - from_) * times, 4.0, 4.0 * scene::TimeSettings::farthest);
    const double share = (at - from_) / (to_ - from_);
    from_ = at - share * length;
    to_ = from_ + length;
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
            QToolTip::showText(
                help->globalPos(),
                QString("frame %1 · %2 s").arg(frame).arg(session_.project().time.seconds(frame), 0, 'f', 2), this);
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

void TimeStrip::writeRun()
{
    const QString file = QFileDialog::getSaveFileName(
        this, "Write the kept run", {}, "Movie (*.mp4 *.mkv *.mov);;Numbered pictures, name with #### (*.png)");
    if (!file.isEmpty())
        session_.keptRun().write(file);
}

void TimeStrip::contextMenuEvent(QContextMenuEvent* e)
{
    QMenu menu(this);
    const int here = static_cast<int>(std::lround(frameAt(e->pos().x())));
    Document& d = session_.document();
    if (scale().contains(e->pos())) {
        menu.addAction(QString("First frame is %1").arg(here), this, [&d, here] {
            scene::TimeSettings t = d.project().time;
            t.first = here;
            t.last = std::max(t.last, here);
            d.setTime(t, "First frame");
        });
        menu.addAction(QString("Last frame is %1").arg(here), this, [&d, here] {
            scene::TimeSettings t = d.project().time;
            t.last = here;
            t.first = std::min(t.first, here);
            d.setTime(t, "Last frame");
        });
        menu.addAction("Show the whole range", this, [this] {
            zoomed_ = false;
            showAll();
        });
        menu.addSeparator();
    }
    menu.addAction("Frames, rate and shutter…", this, &TimeStrip::askTime);
    menu.addSeparator();
    KeptRun& run = session_.keptRun();
    for (const int passes : {1, 8, 32})
        menu.addAction(QString("Keep the run, %1 %2 a frame").arg(passes).arg(passes == 1 ? "sample" : "samples"), &run,
                       [&run, passes] { run.draw(passes); });
    menu.addAction("Write the kept run…", this, &TimeStrip::writeRun);
    menu.addAction(QString("Forget the kept run (%1 MB)").arg(run.bytes() / 1000000), &run, &KeptRun::clear)
        ->setEnabled(run.bytes() > 0);
    menu.exec(e->globalPos());
}
} // namespace hygros::app
