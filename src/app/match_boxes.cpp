/// The photograph with its planes' boxes.
#include "app/match_dialog.h"
#include "app/theme.h"
#include "app/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace hygros::app {
namespace {
constexpr float leastSide = 0.02f;
constexpr double grip = 9.0;
} // namespace

PlaneBoxes::PlaneBoxes(QWidget* parent) : QWidget(parent)
{
    setObjectName("planeBoxes");
    setAccessibleName(say("Photograph with its planes"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumSize(320, 200);
    setToolTip(
        say("Lay the boxes on what stands near, farther and far: drag their middle or a corner. 1, 2 or 3 chooses one, "
            "the arrows move it, with Shift they size it."));
}

void PlaneBoxes::setPicture(const QImage& image)
{
    image_ = image.convertToFormat(QImage::Format_RGB32);
    update();
    Q_EMIT changed();
}

void PlaneBoxes::setBox(int plane, const reading::Region& box)
{
    reading::Region b = box;
    b.left = std::clamp(b.left, 0.f, 1.f - leastSide);
    b.top = std::clamp(b.top, 0.f, 1.f - leastSide);
    b.right = std::clamp(b.right, b.left + leastSide, 1.f);
    b.bottom = std::clamp(b.bottom, b.top + leastSide, 1.f);
    boxes_[static_cast<std::size_t>(plane)] = b;
    update();
    Q_EMIT changed();
}

reading::ShownTones PlaneBoxes::tones() const
{
    reading::ShownTones out{};
    if (!image_.isNull())
        for (std::size_t i = 0; i < 3; ++i)
            out[i] = reading::toneOf({image_.constBits(), static_cast<std::size_t>(image_.sizeInBytes())},
                                     image_.width(), image_.height(), boxes_[i]);
    return out;
}

QRectF PlaneBoxes::place() const
{
    if (image_.isNull())
        return {};
    const QSizeF size = QSizeF(image_.size()).scaled(QSizeF(width(), height()), Qt::KeepAspectRatio);
    return {0.5 * (width() - size.width()), 0.5 * (height() - size.height()), size.width(), size.height()};
}

QRectF PlaneBoxes::boxPlace(int plane) const
{
    const QRectF at = place();
    const reading::Region& b = boxes_[static_cast<std::size_t>(plane)];
    return {QPointF(at.left() + double(b.left) * at.width(), at.top() + double(b.top) * at.height()),
            QPointF(at.left() + double(b.right) * at.width(), at.top() + double(b.bottom) * at.height())};
}

void PlaneBoxes::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.fillRect(rect(), t.field);
    if (image_.isNull()) {
        p.setPen(t.quiet);
        p.drawText(rect(), Qt::AlignCenter, say("Choose a photograph."));
        return;
    }
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(place(), image_);
    p.setFont(textFont(11, QFont::DemiBold));
    for (int i = 0; i < 3; ++i) {
        const QRectF b = boxPlace(i);
        // Seen on dark and on bright alike.
        p.setPen(QPen(QColor(0, 0, 0, 170), 3.0));
        p.drawRect(b);
        p.setPen(QPen(hasFocus() && i == chosen_ ? t.accent : QColor(244, 244, 240), i == chosen_ ? 1.8 : 1.2));
        p.drawRect(b);
        const QString name = QString("%1 %2").arg(i + 1).arg(say(names[i]));
        const QRectF tag(b.left(), b.top(), p.fontMetrics().horizontalAdvance(name) + 10.0, 17.0);
        p.fillRect(tag, QColor(16, 17, 18, 205));
        p.setPen(QColor(244, 244, 240));
        p.drawText(tag, Qt::AlignCenter, name);
    }
}

void PlaneBoxes::mousePressEvent(QMouseEvent* e)
{
    if (e->button() != Qt::LeftButton || image_.isNull())
        return;
    const QPointF at = e->position();
    corner_ = -1;
    for (int i = 2; i >= 0 && corner_ < 0; --i) {
        const QRectF b = boxPlace(i);
        const QPointF corners[] = {b.topLeft(), b.topRight(), b.bottomRight(), b.bottomLeft()};
        for (int c = 0; c < 4; ++c)
            if (QLineF(at, corners[c]).length() < grip)
                chosen_ = i, corner_ = c;
        if (corner_ < 0 && b.contains(at))
            chosen_ = i, corner_ = 4;
    }
    from_ = at;
    was_ = boxes_[static_cast<std::size_t>(chosen_)];
    update();
}

void PlaneBoxes::mouseMoveEvent(QMouseEvent* e)
{
    if (corner_ < 0 || image_.isNull())
        return;
    const QRectF at = place();
    float dx = static_cast<float>((e->position().x() - from_.x()) / at.width()),
          dy = static_cast<float>((e->position().y() - from_.y()) / at.height());
    reading::Region b = was_;
    if (corner_ == 4) { // as it is, within the picture
        dx = std::clamp(dx, -b.left, 1.f - b.right);
        dy = std::clamp(dy, -b.top, 1.f - b.bottom);
        b = {b.left + dx, b.top + dy, b.right + dx, b.bottom + dy};
    } else {
        (corner_ == 0 || corner_ == 3 ? b.left : b.right) += dx;
        (corner_ < 2 ? b.top : b.bottom) += dy;
        if (b.right < b.left)
            std::swap(b.left, b.right);
        if (b.bottom < b.top)
            std::swap(b.top, b.bottom);
    }
    setBox(chosen_, b);
}

void PlaneBoxes::mouseReleaseEvent(QMouseEvent*) { corner_ = -1; }

void PlaneBoxes::keyPressEvent(QKeyEvent* e)
{
    if (e->key() >= Qt::Key_1 && e->key() <= Qt::Key_3) {
        chosen_ = e->key() - Qt::Key_1;
        return update();
    }
    const float dx = e->key() == Qt::Key_Left    ? -0.01f
                     : e->key() == Qt::Key_Right ? 0.01f
                                                 : 0.f,
                dy = e->key() == Qt::Key_Up     ? -0.01f
                     : e->key() == Qt::Key_Down ? 0.01f
                                                : 0.f;
    if (dx == 0.f && dy == 0.f)
        return QWidget::keyPressEvent(e);
    reading::Region b = boxes_[static_cast<std::size_t>(chosen_)];
    b.right += dx, b.bottom += dy;
    if (!(e->modifiers() & Qt::ShiftModifier)) {
        if (b.left + dx < 0.f || b.right > 1.f || b.top + dy < 0.f || b.bottom > 1.f)
            return;
        b.left += dx, b.top += dy;
    }
    setBox(chosen_, b);
}
} // namespace hygros::app
