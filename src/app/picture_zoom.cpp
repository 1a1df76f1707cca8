#include "app/picture_zoom.h"

#include "app/theme.h"
#include "app/words.h"

#include <QPainter>
#include <QPushButton>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
constexpr int sizes[] = {0, 1, 2, 4};
}

PictureZoom::PictureZoom(Session& session, QWidget& over) : QObject(&over), session_(session), over_(over)
{
    const char* const names[] = {QT_TRANSLATE_NOOP("window", "Fit"), "1:1", "2:1", "4:1"};
    const char* const tips[] = {
        QT_TRANSLATE_NOOP("window", "The whole picture (Ctrl+0)"),
        QT_TRANSLATE_NOOP("window", "One pixel of the screen for each of the delivered picture (Ctrl+1)"),
        QT_TRANSLATE_NOOP("window", "Two for each (Ctrl+2)"), QT_TRANSLATE_NOOP("window", "Four for each (Ctrl+4)")};
    const QString style = "QPushButton{background:rgba(20,21,22,150);border:none;border-bottom:2px solid "
                          "transparent;color:#b9bcbb;padding:2px 8px}"
                          "QPushButton:hover{color:#ffffff}QPushButton:focus{border-bottom-color:#8b8f8d}"
                          "QPushButton:checked{color:#e6e6e4;border-bottom-color:#B4C95A}"
                          "QPushButton:focus{background:rgba(20,21,22,235)}";
    for (std::size_t i = 0; i < 4; ++i) {
        auto* b = times_[i] = new QPushButton(say(names[i]), &over);
        b->setObjectName(QString("zoom%1").arg(sizes[i]));
        b->setToolTip(say(tips[i]));
        b->setCheckable(true);
        b->setChecked(i == 0);
        b->setStyleSheet(style);
        connect(b, &QPushButton::clicked, this, [this, i] { set(sizes[i]); });
    }
    fineness_ = new QPushButton(&over);
    fineness_->setObjectName("fineness");
    fineness_->setStyleSheet(style);
    connect(fineness_, &QPushButton::clicked, this, [this] {
        Picture& picture = session_.picture();
        picture.setFineness(picture.fineness() == 4 ? 1 : picture.fineness() * 2);
    });
    const auto tellFineness = [this] {
        const int n = session_.picture().fineness();
        fineness_->setText(finenessName(n));
        fineness_->setToolTip(n == 1 ? say("Every pixel of the window is drawn. At half size a picture takes a quarter "
                                           "of the time.")
                                     : say("One pixel is drawn for %1 × %1 of the window, in 1/%2 of the time. "
                                           "Enlarged and delivered pictures are not touched by it.")
                                           .arg(n)
                                           .arg(n * n));
        fineness_->setEnabled(session_.picture().zoom() == 0);
    };
    tellFineness();
    connect(&session.picture(), &Picture::cameraChanged, this, tellFineness);
    all_ = new QPushButton(say("All of it"), &over);
    all_->setObjectName("regionEnd");
    all_->setToolTip(say("Draws all of the picture again (Escape)"));
    all_->setStyleSheet(style);
    all_->hide();
    connect(all_, &QPushButton::clicked, this, [this] { session_.picture().setRegion({}); });
    connect(&session.picture(), &Picture::cameraChanged, this, [this] {
        for (std::size_t i = 0; i < 4; ++i)
            times_[i]->setChecked(session_.picture().zoom() == sizes[i]);
        all_->setVisible(!session_.picture().region().isNull());
        place(right_);
        over_.update();
    });
    connect(&session.selection(), &Selection::cursorPlaceChanged, &over, qOverload<>(&QWidget::update));
}

void PictureZoom::place(int right)
{
    right_ = right;
    right -= 14;
    for (std::size_t i = 4; i-- > 0;) {
        times_[i]->resize(times_[i]->sizeHint());
        right -= times_[i]->width();
        times_[i]->move(right, 8);
    }
    fineness_->resize(fineness_->sizeHint());
    right -= 14 + fineness_->width();
    fineness_->move(right, 8);
    all_->resize(all_->sizeHint());
    all_->move(right - 14 - all_->width(), 8);
}

void PictureZoom::setShown(bool shown)
{
    for (QPushButton* b : times_)
        b->setVisible(shown);
    fineness_->setVisible(shown);
}

QString PictureZoom::finenessName(int pixels)
{
    return pixels == 4 ? say("Quarter size") : pixels == 2 ? say("Half size") : say("Full size");
}

void PictureZoom::setShowsValues(bool shown)
{
    values_ = shown;
    over_.update();
}

QPointF PictureZoom::placeOf(const QPointF& whole) const
{
    const QPointF at = session_.picture().toShown(whole);
    return {at.x() * over_.width(), at.y() * over_.height()};
}

void PictureZoom::set(int times)
{
    // About what one looks at, or the middle.
    const QPointF cursor = session_.selection().cursorPlace();
    Picture& picture = session_.picture();
    if (times == 0 || picture.zoom() > 0)
        picture.setZoom(times, picture.shownPart().center());
    else
        picture.setZoom(times, cursor.x() >= 0 ? picture.toWhole(cursor) : QPointF(0.5, 0.5));
}

void PictureZoom::step(int by, const QPointF& at)
{
    Picture& picture = session_.picture();
    const auto now = std::find(std::begin(sizes), std::end(sizes), picture.zoom()) - std::begin(sizes);
    const int next = sizes[std::clamp(static_cast<int>(now) + by, 0, 3)];
    if (next == picture.zoom())
        return;
    const QPointF shown(at.x() / over_.width(), at.y() / over_.height()), whole = picture.toWhole(shown);
    picture.setZoom(next, whole);
    // What was under the cursor is there again, as far as the picture reaches.
    const QRectF part = picture.shownPart();
    picture.setZoom(
        next, QPointF(whole.x() + (0.5 - shown.x()) * part.width(), whole.y() + (0.5 - shown.y()) * part.height()));
}

QRect PictureZoom::map() const
{
    if (session_.picture().zoom() == 0 || session_.picture().shownPart().width() >= 1.0)
        return {};
    const int w = 136, h = std::max(20, w * over_.height() / std::max(1, over_.width()));
    return {over_.width() - w - 10, over_.height() - h - 10, w, h};
}

void PictureZoom::moveTo(const QPointF& mapPlace)
{
    const QRect m = map();
    session_.picture().setZoom(session_.picture().zoom(),
                               QPointF((mapPlace.x() - m.x()) / m.width(), (mapPlace.y() - m.y()) / m.height()));
}

bool PictureZoom::press(const QPointF& place, Qt::MouseButton button)
{
    last_ = first_ = place;
    if (button == Qt::LeftButton && session_.selection().task().what == Selection::Task::DrawRegion)
        held_ = Held::Region;
    else if (button == Qt::LeftButton && map().contains(place.toPoint())) {
        held_ = Held::Map;
        moveTo(place);
    } else if (button == Qt::MiddleButton && !map().isNull())
        held_ = Held::Part;
    return held_ != Held::None;
}

bool PictureZoom::drag(const QPointF& place)
{
    switch (held_) {
    case Held::None: return false;
    case Held::Map: moveTo(place); break;
    case Held::Part: {
        Picture& picture = session_.picture();
        const QRectF part = picture.shownPart();
        picture.setZoom(picture.zoom(),
                        part.center() - QPointF((place.x() - last_.x()) / over_.width() * part.width(),
                                                (place.y() - last_.y()) / over_.height() * part.height()));
        break;
    }
    case Held::Region: break;
    }
    last_ = place;
    over_.update();
    return true;
}

bool PictureZoom::release()
{
    const Held was = std::exchange(held_, Held::None);
    if (was == Held::Region) {
        const QRectF drawn(QPointF(first_.x() / over_.width(), first_.y() / over_.height()),
                           QPointF(last_.x() / over_.width(), last_.y() / over_.height()));
        session_.selection().begin({});
        session_.picture().setRegion(QRectF()); // what is around is the whole picture's
        session_.picture().setRegion(drawn.normalized());
    }
    return was != Held::None;
}

void PictureZoom::paintRegion(QPainter& p) const
{
    const QRectF region = session_.picture().region();
    if (region.isNull() && held_ != Held::Region)
        return;
    const QRectF at = held_ == Held::Region ? QRectF(first_, last_).normalized()
                                            : QRectF(region.x() * over_.width(), region.y() * over_.height(),
                                                     region.width() * over_.width(), region.height() * over_.height());
    p.save();
    p.setClipRegion(QRegion(over_.rect()) - QRegion(at.toRect()));
    p.fillRect(over_.rect(), QColor(20, 21, 22, 110)); // it stays as it was
    p.restore();
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(Theme::now().accent, 1));
    p.drawRect(at.adjusted(-0.5, -0.5, 0.5, 0.5));
}

QString PictureZoom::valueText() const
{
    const QPointF at = session_.selection().cursorPlace();
    const Picture& picture = session_.picture();
    const PictureState& s = picture.state();
    if (at.x() < 0 || at.x() >= 1 || at.y() < 0 || at.y() >= 1 || s.image.isNull())
        return {};
    const int x = static_cast<int>(at.x() * s.image.width()), y = static_cast<int>(at.y() * s.image.height());
    // Where it is in the delivered picture.
    const QPointF whole = picture.toWhole(at);
    const double wide = Picture::deliveredWidth(), high = wide * over_.height() / std::max(1, over_.width());
    QString text = QString("%1, %2").arg(static_cast<int>(whole.x() * wide)).arg(static_cast<int>(whole.y() * high));
    const std::size_t p = static_cast<std::size_t>(y) * static_cast<std::size_t>(s.image.width()) +
                          static_cast<std::size_t>(x);
    if (s.linear && s.linear->size() >= 3 * (p + 1)) {
        text += say("   linear");
        for (std::size_t c = 0; c < 3; ++c)
            text += " " + figure(double((*s.linear)[3 * p + c]), 4);
    }
    const QRgb shown = s.image.pixel(x, y);
    text += say("   shown %1 %2 %3").arg(qRed(shown)).arg(qGreen(shown)).arg(qBlue(shown));
    if (const float d = picture.distanceAt(at); d > 0.f)
        text += "   " + (d >= shot::Shot::farDistance * 0.999f
                             ? say("sky")
                             : QString::fromStdString(formatQuantity(double(d), Quantity::Length)));
    return text;
}

void PictureZoom::paint(QPainter& p) const
{
    p.setRenderHint(QPainter::Antialiasing, false);
    const QRect m = map();
    if (!m.isNull()) {
        p.fillRect(m, QColor(20, 21, 22, 190));
        p.setPen(QColor("#6c7072"));
        p.setBrush(Qt::NoBrush);
        p.drawRect(m.adjusted(0, 0, -1, -1));
        const QRectF part = session_.picture().shownPart();
        p.setPen(QPen(Theme::now().accent, 1));
        p.drawRect(QRectF(m.x() + part.x() * m.width(), m.y() + part.y() * m.height(), part.width() * m.width(),
                          part.height() * m.height())
                       .toRect()
                       .adjusted(0, 0, -1, -1));
    }
    const QString text = values_ ? valueText() : QString();
    if (text.isEmpty())
        return;
    p.setFont(figureFont(11));
    const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 16;
    const QRect box(m.isNull() ? over_.width() - w - 10 : m.left() - w - 8, over_.height() - 31, w, 21);
    p.fillRect(box, QColor(20, 21, 22, 200));
    p.setPen(QColor("#e6e6e4"));
    p.drawText(box, Qt::AlignCenter, text);
}
} // namespace hygros::app
