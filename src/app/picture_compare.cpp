#include "app/picture_compare.h"

#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineF>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <cmath>

namespace hygros::app {
namespace {
constexpr double gripRadius = 7.0, arm = 84.0; ///< [pixels]
const char* const wayNames[] = {QT_TRANSLATE_NOOP("window", "Wipe"), QT_TRANSLATE_NOOP("window", "Flip"),
                                QT_TRANSLATE_NOOP("window", "Difference"), QT_TRANSLATE_NOOP("window", "Beside")};
const char* const wayTips[] = {
    QT_TRANSLATE_NOOP("window", "A line between both; drag it, and turn it by its small grip"),
    QT_TRANSLATE_NOOP("window", "One in place of the other, at each press of F4"),
    QT_TRANSLATE_NOOP("window",
                      "The signed difference: mid-grey where they are the same, brighter where it is lighter now"),
    QT_TRANSLATE_NOOP("window", "Both at half the size")};
} // namespace

PictureCompare::PictureCompare(Session& session, QWidget& over) : session_(session), over_(over)
{
    bar_ = new QWidget(&over);
    bar_->setObjectName("compareBar");
    bar_->setAttribute(Qt::WA_StyledBackground);
    bar_->setStyleSheet("#compareBar{background:rgba(20,21,22,225)} QLabel{color:#e6e6e4}"
                        "QPushButton{background:transparent;border:none;border-bottom:2px solid "
                        "transparent;color:#b9bcbb;padding:2px 7px}"
                        "QPushButton:hover{color:#ffffff}QPushButton:focus{border-bottom-color:#8b8f8d}QPushButton:"
                        "checked{color:#e6e6e4;border-bottom-color:#B4C95A}");
    auto* row = new QHBoxLayout(bar_);
    row->setContentsMargins(10, 3, 4, 3);
    row->setSpacing(2);
    text_ = new QLabel(bar_);
    text_->setObjectName("compareText");
    row->addWidget(text_);
    row->addSpacing(10);
    for (std::size_t i = 0; i < ways_.size(); ++i) {
        auto* b = ways_[i] = new QPushButton(say(wayNames[i]), bar_);
        b->setObjectName(QString("compare%1").arg(wayNames[i]));
        b->setToolTip(say(wayTips[i]));
        b->setCheckable(true);
        row->addWidget(b);
        connect(b, &QPushButton::clicked, this, [this, i] {
            const auto by = static_cast<Compare::By>(i);
            by == Compare::By::Flip ? session_.compare().flip() : session_.compare().setBy(by);
        });
    }
    const auto small = [&](const QString& text, const char* name, const QString& tip) {
        auto* b = new QPushButton(text, bar_);
        b->setObjectName(name);
        b->setToolTip(tip);
        b->setAccessibleName(tip);
        row->addWidget(b);
        return b;
    };
    less_ = small("−", "compareLess", say("Draw the difference half as strong"));
    more_ = small("+", "compareMore", say("Draw the difference twice as strong"));
    connect(less_, &QPushButton::clicked, this,
            [this] { session_.compare().setScale(session_.compare().scale() / 2); });
    connect(more_, &QPushButton::clicked, this,
            [this] { session_.compare().setScale(session_.compare().scale() * 2); });
    connect(small(say("End"), "compareEnd", say("The picture alone again")), &QPushButton::clicked, this,
            [this] { session_.compare().end(); });
    bar_->hide();
    connect(&session.compare(), &Compare::changed, this, &PictureCompare::tell);
    connect(&session.picture(), &Picture::pictureChanged, this, &PictureCompare::tell);
}

QString PictureCompare::nowWords() const { return say("Now · %1 samples").arg(session_.picture().state().samples); }

void PictureCompare::tell()
{
    const Compare& c = session_.compare();
    bar_->setVisible(c.isOn());
    if (!c.isOn())
        return over_.update();
    for (std::size_t i = 0; i < ways_.size(); ++i)
        ways_[i]->setChecked(static_cast<std::size_t>(c.by()) == i);
    const bool differs = c.by() == Compare::By::Difference;
    less_->setVisible(differs);
    more_->setVisible(differs);
    const QString text = c.by() == Compare::By::Flip ? (c.isFlipped() ? c.words() : nowWords())
                         : differs                   ? say("Now − %1 · ×%2").arg(c.words()).arg(figures(c.scale()))
                                                     : say("Against ") + c.words();
    text_->setText(text);
    place();
    over_.update();
}

void PictureCompare::place()
{
    bar_->adjustSize();
    bar_->move(std::max(8, (over_.width() - bar_->width()) / 2), over_.height() - bar_->height() - 10);
}

QPointF PictureCompare::along() const
{
    const double a = session_.compare().seamAngle() * M_PI / 180.0;
    return {std::sin(a), -std::cos(a)};
}

QPointF PictureCompare::movingGrip() const
{
    const QPointF at = session_.compare().seamPlace();
    return {at.x() * over_.width(), at.y() * over_.height()};
}

QPointF PictureCompare::turningGrip() const { return movingGrip() + along() * arm; }

PictureCompare::Grip PictureCompare::gripAt(const QPointF& at) const
{
    const Compare& c = session_.compare();
    if (!c.isOn() || c.by() != Compare::By::Wipe)
        return Grip::None;
    if (QLineF(at, turningGrip()).length() < gripRadius + 3.0)
        return Grip::Turn;
    const QPointF d = at - movingGrip(), way = along();
    return std::abs(d.x() * way.y() - d.y() * way.x()) < 6.0 ? Grip::Move : Grip::None;
}

bool PictureCompare::press(const QPointF& at)
{
    held_ = gripAt(at);
    return isHeld();
}

void PictureCompare::drag(const QPointF& at)
{
    Compare& c = session_.compare();
    if (held_ == Grip::Turn) {
        const QPointF d = at - movingGrip();
        double angle = std::atan2(d.x(), -d.y()) * 180.0 / M_PI;
        // It stays upright or level where it is nearly so.
        if (const double even = std::round(angle / 90.0) * 90.0; std::abs(angle - even) < 2.0)
            angle = even;
        c.setSeam(c.seamPlace(), angle);
    } else {
        c.setSeam({at.x() / std::max(1, over_.width()), at.y() / std::max(1, over_.height())}, c.seamAngle());
    }
}

bool PictureCompare::release() { return std::exchange(held_, Grip::None) != Grip::None; }

void PictureCompare::label(QPainter& p, const QPointF& at, const QString& text, bool rightAligned) const
{
    p.setFont(textFont(11));
    const double wide = p.fontMetrics().horizontalAdvance(text) + 14;
    QRectF box(rightAligned ? at.x() - wide : at.x(), at.y(), wide, 20);
    box.moveLeft(std::clamp(box.left(), 4.0, std::max(4.0, over_.width() - wide - 4.0)));
    box.moveTop(std::clamp(box.top(), 4.0, over_.height() - 24.0));
    p.fillRect(box, QColor(20, 21, 22, 200));
    p.setPen(QColor("#e6e6e4"));
    p.drawText(box, Qt::AlignCenter, text);
}

bool PictureCompare::paint(QPainter& p, const QRect& into, const QImage& shown)
{
    const Compare& c = session_.compare();
    if (!c.isOn())
        return false;
    const QImage& other = c.image();
    const auto fit = [&](const QImage& image, const QRect& area) {
        QRect r(area);
        r.setSize(image.size().scaled(area.size(), Qt::KeepAspectRatio));
        r.moveCenter(area.center());
        return r;
    };
    // A picture of other proportions stands within the frame; the rest of it is the surround.
    const auto drawOther = [&](const QRect& area) {
        p.fillRect(area, QColor("#1d1e1f"));
        if (other.isNull())
            return;
        p.setRenderHint(QPainter::SmoothPixmapTransform, other.size() != area.size());
        p.drawImage(c.with() == Compare::With::File ? fit(other, area) : area, other);
    };
    switch (c.by()) {
    case Compare::By::Flip:
        if (c.isFlipped())
            drawOther(into);
        return c.isFlipped();
    case Compare::By::Beside: {
        p.fillRect(over_.rect(), QColor("#1d1e1f"));
        const int half = over_.width() / 2;
        const QRect left(0, 0, half - 1, over_.height()), right(half + 1, 0, over_.width() - half - 1, over_.height());
        p.setRenderHint(QPainter::SmoothPixmapTransform);
        p.drawImage(fit(shown, left), shown);
        if (!other.isNull())
            p.drawImage(fit(other, right), other);
        label(p, fit(shown, left).topLeft() + QPointF(6, -26), nowWords(), false);
        label(p, QPointF(right.left() + 6, fit(other.isNull() ? shown : other, right).top() - 26), c.words(), false);
        return true;
    }
    case Compare::By::Difference: {
        if (shown.cacheKey() != ofShown_ || other.cacheKey() != ofOther_ || c.scale() != ofScale_) {
            difference_ = c.difference(shown);
            mean_ = c.meanDifference(shown);
            ofShown_ = shown.cacheKey();
            ofOther_ = other.cacheKey();
            ofScale_ = c.scale();
        }
        if (difference_.isNull())
            return false;
        p.drawImage(into, difference_);
        // What a grey means, in levels of 255.
        const QRectF scale(18, 64, 180, 10);
        QLinearGradient g(scale.topLeft(), scale.topRight());
        g.setColorAt(0, Qt::black);
        g.setColorAt(1, Qt::white);
        p.fillRect(scale.adjusted(-6, -22, 6, 24), QColor(20, 21, 22, 210));
        p.fillRect(scale, g);
        p.setFont(figureFont(10));
        p.setPen(QColor("#e6e6e4"));
        const double most = 255.0 / c.scale();
        p.drawText(QRectF(scale.left(), scale.bottom() + 3, 60, 14), Qt::AlignLeft, QString("−%1").arg(figures(most)));
        p.drawText(QRectF(scale.center().x() - 30, scale.bottom() + 3, 60, 14), Qt::AlignHCenter, "0");
        p.drawText(QRectF(scale.right() - 60, scale.bottom() + 3, 60, 14), Qt::AlignRight,
                   QString("+%1").arg(figures(most)));
        p.setFont(textFont(11));
        p.drawText(QRectF(scale.left(), scale.top() - 19, scale.width(), 16), Qt::AlignLeft,
                   say("levels of 255 · mean %1").arg(figure(mean_, 2)));
        return true;
    }
    case Compare::By::Wipe: break;
    }
    const QPointF at = movingGrip(), way = along(), aside(-way.y(), way.x());
    const double far = 4.0 * (over_.width() + over_.height());
    QPainterPath clip;
    clip.addPolygon(
        QPolygonF({at - way * far, at + way * far, at + way * far + aside * far, at - way * far + aside * far}));
    p.save();
    p.setClipPath(clip);
    drawOther(into);
    p.restore();
    p.setRenderHint(QPainter::Antialiasing);
    const QPen dark(QColor(20, 21, 22, 160), 3.0), light(QColor("#e6e6e4"), 1.2);
    for (const QPen& pen : {dark, light}) {
        p.setPen(pen);
        p.drawLine(at - way * far, at + way * far);
    }
    p.setPen(light);
    p.setBrush(QColor(20, 21, 22, 220));
    p.drawRect(QRectF(at.x() - gripRadius, at.y() - gripRadius, 2 * gripRadius, 2 * gripRadius));
    p.setBrush(Theme::now().accent);
    p.drawEllipse(turningGrip(), 4.5, 4.5);
    // Said where each of them lies.
    const QPointF top = at + way * (std::abs(way.y()) > 0.3 ? (at.y() - 40.0) / std::max(0.3, std::abs(way.y())) : 0.0);
    label(p, top - aside * 10.0 + QPointF(0, 0), nowWords(), true);
    label(p, top + aside * 10.0, c.words(), false);
    return false;
}
} // namespace hygros::app
