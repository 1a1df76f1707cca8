#include "app/ball_view.h"

#include "app/theme.h"
#include "app/words.h"
#include "base/units.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace hygros::app {
namespace {
constexpr int pixels = 52;

QImage drawn(const reading::BallOf& ball)
{
    const std::vector<float> rgb = reading::litBall(ball, pixels * 2);
    QImage image(pixels * 2, pixels * 2, QImage::Format_RGB32);
    const auto shown = [](float v) {
        return static_cast<int>(std::lround(255.f * std::pow(std::min(1.f, v / (1.f + 0.25f * v)), 1.f / 2.2f)));
    };
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const float* p = &rgb[static_cast<std::size_t>(y * image.width() + x) * 3];
            image.setPixel(x, y, qRgb(shown(p[0]), shown(p[1]), shown(p[2])));
        }
    return image;
}
} // namespace

BallView::BallView(QWidget* parent) : QWidget(parent)
{
    setObjectName("linking");
    setMinimumHeight(sizeHint().height());
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(say("When it gets denser"));
    setToolTip(
        say("What a ball of it becomes when it gets twice as dense.\nKeep albedo: scattering and absorption grow "
            "together, it only hides more.\n"
            "Keep scattering: only absorption grows, it turns dark.\nFree: each has its own number and colour; here "
            "its scattering is doubled."));
}

QRect BallView::ballRect(int way) const
{
    // The first stands apart: it is what the others come from.
    return QRect(way < 0 ? 3 : 82 + way * 63, 16, pixels, pixels);
}

void BallView::setBalls(const reading::BallOf& now, const std::array<reading::BallOf, 3>& denser, int linked)
{
    now_ = now;
    linked_ = linked;
    images_[0] = drawn(now);
    for (std::size_t i = 0; i < 3; ++i)
        images_[i + 1] = drawn(denser[i]);
    update();
}

void BallView::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(10));
    p.setPen(t.quiet);
    p.drawText(QRect(3, 0, 76, 14), Qt::AlignLeft | Qt::AlignVCenter, say("a ball of it"));
    p.drawText(QRect(82, 0, width() - 82, 14), Qt::AlignLeft | Qt::AlignVCenter, say("twice as dense, keeping"));
    const QString names[] = {say("albedo"), say("scattering"), say("nothing")};
    for (int way = -1; way < 3; ++way) {
        const QRect r = ballRect(way);
        p.drawImage(r, images_[static_cast<std::size_t>(way + 1)]);
        const bool on = way == linked_;
        if (way >= 0) {
            p.setPen(on ? t.text : t.quiet);
            p.drawText(QRect(r.left() - 6, r.bottom() + 2, r.width() + 12, 15), Qt::AlignCenter, names[way]);
            if (on)
                p.fillRect(QRect(r.left(), r.bottom() + 18, r.width(), 2), t.accent);
        } else {
            p.setPen(t.quiet);
            p.drawText(QRect(r.left() - 3, r.bottom() + 2, r.width() + 6, 15), Qt::AlignCenter,
                       QString::fromStdString(formatQuantity(static_cast<double>(now_.diameter), Quantity::Length)));
            // On to the others.
            p.setPen(QPen(t.quiet, 1.3));
            const QPointF a(r.right() + 8, r.center().y()), b(r.right() + 18, r.center().y());
            p.drawLine(a, b);
            p.drawLine(b, b + QPointF(-4, -4));
            p.drawLine(b, b + QPointF(-4, 4));
        }
    }
    p.setFont(figureFont(10));
    p.setPen(t.quiet);
    const auto text = [](const Vec3& v) {
        return QString::fromStdString(formatQuantity(static_cast<double>(luminance(v)), Quantity::Coefficient));
    };
    p.drawText(QRect(3, height() - 26, width() - 6, 24), Qt::AlignLeft | Qt::AlignVCenter,
               say("scatters %1   absorbs %2").arg(text(now_.scattering), text(now_.absorption)));
    if (hasFocus()) {
        p.setPen(QPen(t.accent, 1));
        p.setBrush(Qt::NoBrush);
        p.drawRect(rect().adjusted(0, 0, -1, -1));
    }
}

void BallView::mouseReleaseEvent(QMouseEvent* e)
{
    for (int way = 0; way < 3; ++way)
        if (ballRect(way).adjusted(-4, -2, 4, 22).contains(e->pos()) && way != linked_) {
            Q_EMIT chosen(ways[static_cast<std::size_t>(way)]); // the card may be made anew by it
            return;
        }
}

void BallView::keyPressEvent(QKeyEvent* e)
{
    const int step = e->key() == Qt::Key_Right ? 1 : e->key() == Qt::Key_Left ? 2 : 0;
    if (step)
        Q_EMIT chosen(ways[static_cast<std::size_t>((linked_ + step) % 3)]);
    else
        QWidget::keyPressEvent(e);
}
} // namespace hygros::app
