#include "app/time_strip.h"

#include "app/editors.h"
#include "app/theme.h"
#include "app/words.h"

#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QSpinBox>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr int rightMargin = 22;
}

TimeStrip::TimeStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("timeStrip");
    setMouseTracking(true);
    setFixedHeight(54);
    const Theme& t = Theme::now();
    frame_ = new QSpinBox(this);
    frame_->setObjectName("frame");
    frame_->setAccessibleName(say("Frame that is looked at"));
    frame_->setRange(-scene::TimeSettings::farthest, scene::TimeSettings::farthest);
    frame_->setFont(figureFont(13));
    frame_->setPrefix(say("frame "));
    frame_->setFrame(false);
    frame_->setButtonSymbols(QAbstractSpinBox::NoButtons);
    frame_->setStyleSheet(QString("QSpinBox{background:transparent;color:%1}QSpinBox:focus{color:%2}")
                              .arg(t.text.name(), t.accent.name()));
    frame_->setGeometry(8, 5, 88, 24);
    frame_->setAlignment(Qt::AlignLeft);
    frame_->setToolTip(say("The frame shown. Type one, or step with the arrow keys."));
    frame_->setKeyboardTracking(false);
    // As wide as what they say now and at other times.
    int x = 96;
    const auto button = [&](const QString& name, const QStringList& texts, const QString& help) {
        auto* b = new QPushButton(texts.front(), this);
        b->setObjectName(name);
        b->setFont(textFont(11));
        b->setStyleSheet(plainButton());
        int width = 0;
        for (const QString& text : texts)
            width = std::max(width, QFontMetrics(b->font()).horizontalAdvance(text) + 24);
        b->setGeometry(x, 6, width, 22);
        b->setToolTip(help);
        x += width + 5;
        return b;
    };
    play_ = button("play", {say("Play"), say("Stop")}, say("Play the range, round and round (F6)"));
    record_ = button("record", {say("Record")}, say("While on, every change makes a key at the frame shown (F9)"));
    record_->setCheckable(true);
    keep_ = button("keep", {say("Keep run"), say("Cancel")},
                   say("Draw all frames of the range into memory; they then play at the true rate"));
    leftWidth_ = std::max(leftWidth_, x + 8);
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
    connect(&session.baker(), &Baker::changed, this, [this] {
        setFixedHeight(sizeHint().height());
        update();
    });
    connect(&session.selection(), &Selection::chosenChanged, this, qOverload<>(&QWidget::update));
    showAll();
    pull();
}

QRect TimeStrip::scale() const { return {leftWidth_ + 14, 0, width() - leftWidth_ - 14 - rightMargin, height()}; }

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
    play_->setText(session_.player().state() == Player::State::Still ? say("Play") : say("Stop"));
    keep_->setText(session_.keptRun().isDrawing() ? say("Cancel") : say("Keep run"));
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
    const double one = s.width() / std::max(1.0, to_ - from_);
    for (const auto& [f, state] : session_.keptRun().states()) {
        if (f + 0.5 < from_ || f - 0.5 > to_)
            continue;
        p.setPen(QPen(state == KeptRun::State::There ? t.quiet : t.faint, 2,
                      state == KeptRun::State::There ? Qt::SolidLine : Qt::DotLine, Qt::FlatCap));
        p.drawLine(QPointF(std::max(double(s.left()), xOf(f - 0.5)), 51),
                   QPointF(std::min(double(s.right()), xOf(f - 0.5) + one), 51));
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

QSize TimeStrip::sizeHint() const
{
    return {800, 54 + 6 * static_cast<int>(std::min<std::size_t>(session_.baker().spans().size(), 6))};
}

void TimeStrip::drawBaked(QPainter& p) const
{
    // A bar an element: whole where it is baked, dotted where that is stale.
    const Theme& t = Theme::now();
    const QRect s = scale();
    const double one = s.width() / std::max(1.0, to_ - from_);
    double y = 57.0;
    for (const auto& [id, span] : session_.baker().spans()) {
        const scene::Element* e = session_.project().find(id);
        const QColor hue = e ? familyHue(e->kind->family) : t.quiet;
        p.setPen(QPen(t.rule, 1));
        p.drawLine(QPointF(std::max(double(s.left()), xOf(span.first)), y),
                   QPointF(std::min(double(s.right()), xOf(span.first + double(span.states.size()) - 1)), y));
        for (std::size_t i = 0; i < span.states.size();) {
            std::size_t end = i;
            while (end < span.states.size() && span.states[end] == span.states[i])
                ++end;
            const double from = xOf(span.first + double(i) - 0.5), to = from + one * double(end - i);
            const FrameStore::State state = span.states[i];
            if (state != FrameStore::State::Missing && to > s.left() && from < s.right()) {
                const bool fresh = state == FrameStore::State::Fresh;
                QPen pen(fresh ? hue : t.quiet, 3, fresh ? Qt::SolidLine : Qt::CustomDashLine, Qt::FlatCap);
                if (!fresh)
                    pen.setDashPattern({1, 1.4});
                p.setPen(pen);
                p.drawLine(QPointF(std::max(double(s.left()), from), y), QPointF(std::min(double(s.right()), to), y));
                if (fresh && session_.baker().isBaking(id)) { // where it is just now
                    p.setPen(QPen(t.accent, 2));
                    p.drawLine(QPointF(to, y - 3), QPointF(to, y + 3));
                }
            }
            i = end;
        }
        p.setPen(QPen(t.text, 1.5));
        for (const int frame : span.changes) // where other settings came in while it was baked
            if (const double x = xOf(frame - 0.5); x > s.left() && x < s.right())
                p.drawLine(QPointF(x, y - 4), QPointF(x, y + 4));
        y += 6.0;
        if (y > height())
            break;
    }
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
                       .arg(figure(time.seconds(session_.document().frame()), 2))
                       .arg(QString::fromStdString(scene::shown(time.rate)));
    if (time.loop > 0.0)
        said += say("   loop %1 s").arg(figures(time.loop, 4));
    if (player.state() != Player::State::Still)
        said = say("%1: %2 of %3 frames/s")
                   .arg(player.state() == Player::State::Kept ? say("kept") : say("computed"))
                   .arg(figure(player.rate(), 1))
                   .arg(QString::fromStdString(scene::shown(time.rate)));
    p.drawText(QRect(14, 31, leftWidth_ - 20, 18), Qt::AlignVCenter | Qt::AlignLeft, said);
    p.setPen(t.rule);
    p.drawLine(leftWidth_, 8, leftWidth_, height() - 8);
    p.save();
    p.setClipRect(scale().adjusted(-12, 0, 14, 0));
    drawScale(p);
    drawBaked(p);
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

} // namespace hygros::app
