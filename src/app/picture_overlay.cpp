/// What is drawn over the picture: reference, tones, pins, aids.
#include "app/picture_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <array>
#include <cmath>

namespace hygros::app {
namespace {
/// Size, speed and age of what falls under the cursor.
QString dropText(const render::SeenDrop& seen)
{
    using Form = media::Falling::Form;
    const auto metres = [](float v) { return QString::fromStdString(formatQuantity(double(v), Quantity::Length)); };
    QString text = seen.form == Form::Drops    ? say("drop ")
                   : seen.form == Form::Flakes ? say("flake ")
                   : seen.form == Form::Spray  ? say("spray ")
                   : seen.form == Form::Leaves ? say("leaf ")
                                               : say("ball ");
    text += metres(seen.drop.diameter) + ", ";
    text += seen.drop.lies ? say("lies") : QString("%1 m/s").arg(figure(double(seen.drop.velocity.length()), 1));
    if (seen.drop.age >= 0.f)
        text += say(", %1 s old").arg(figure(double(seen.drop.age), 1));
    return text + say(" at ") + metres(seen.distance);
}
} // namespace

using geometry::Camera;

void PictureView::drawReference(QPainter& p)
{
    const ReferenceState& r = session_.reference().state();
    const bool both = session_.reference().shown() == Reference::Shown::Both;
    p.setRenderHint(QPainter::Antialiasing);
    if (both) {
        const double x = std::round(seam()) + 0.5, y = height() * 0.5;
        for (const auto& [colour, w] : {std::pair(QColor(0, 0, 0, 120), 3.0), std::pair(QColor("#e6e6e4"), 1.0)}) {
            p.setPen(QPen(colour, w));
            p.drawLine(QPointF(x, 0), QPointF(x, height()));
            // What one holds it by: a plumb bob on the line.
            p.setBrush(QColor(20, 21, 22, 200));
            p.drawPolygon(QPolygonF{QPointF(x - 6, y - 9), QPointF(x + 6, y - 9), QPointF(x + 6, y + 1),
                                    QPointF(x, y + 10), QPointF(x - 6, y + 1)});
        }
    }
    QString text = say("the reference begins when the live picture is clean");
    if (!r.image.isNull()) {
        text = r.firstLook ? say("reference  a first look, denoised")
                           : say("reference  %1 paths").arg(figure(r.paths, r.paths < 10 ? 1 : 0));
        if (r.noise < 1.f)
            text += "   " + r.noiseInWords();
        if (r.ratio > 0.0)
            text += say("   live is %1%2 % of its light")
                        .arg(r.noise > 0.1f ? say("about ") : "")
                        .arg(figure(r.ratio * 100.0, 0));
        if (r.done)
            text += say("   done");
    }
    p.setFont(figureFont(11));
    const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 16;
    const QRect box(width() - w - 8, which_[0]->geometry().bottom() + 5, w, 21);
    p.fillRect(box, QColor(20, 21, 22, 190));
    p.setPen(QColor("#e6e6e4"));
    p.drawText(box, Qt::AlignCenter, text);
}

QImage PictureView::inFlatTones(const QImage& image, int tones) const
{
    // As with half-shut eyes: a little blur first, then greys between the darkest and the brightest hundredth.
    const QImage soft = image
                            .scaled(std::max(1, image.width() / 3), std::max(1, image.height() / 3),
                                    Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                            .scaled(image.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                            .convertToFormat(QImage::Format_Grayscale8);
    std::array<int, 256> count{};
    for (int y = 0; y < soft.height(); ++y)
        for (int x = 0; x < soft.width(); ++x)
            ++count[soft.constScanLine(y)[x]];
    const int hundredth = soft.width() * soft.height() / 100;
    int lo = 0, hi = 255;
    for (int sum = 0; lo < 254 && (sum += count[static_cast<std::size_t>(lo)]) < hundredth;)
        ++lo;
    for (int sum = 0; hi > lo + 1 && (sum += count[static_cast<std::size_t>(hi)]) < hundredth;)
        --hi;
    std::array<uchar, 256> flat{};
    for (int v = 0; v < 256; ++v) {
        const int step = std::clamp((v - lo) * tones / std::max(1, hi - lo), 0, tones - 1);
        flat[static_cast<std::size_t>(v)] = static_cast<uchar>(lo + (hi - lo) * step / (tones - 1));
    }
    QImage out(soft.size(), QImage::Format_Grayscale8);
    for (int y = 0; y < soft.height(); ++y)
        for (int x = 0; x < soft.width(); ++x)
            out.scanLine(y)[x] = flat[soft.constScanLine(y)[x]];
    return out;
}

void PictureView::drawPins(QPainter& p)
{
    p.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < session_.readings().pins().size(); ++i) {
        const QPointF at = zoom_.placeOf(session_.readings().pins()[i]);
        const bool chosen = session_.readings().chosenPin() == static_cast<int>(i);
        // A plumb line with its bob: a ring above, a short bar where it touches.
        for (const auto& [colour, w] :
             {std::pair(QColor(0, 0, 0, 150), 3.6), std::pair(chosen ? Theme::now().accent : QColor("#e6e6e4"), 1.5)}) {
            p.setPen(QPen(colour, w));
            p.setBrush(Qt::NoBrush);
            p.drawEllipse(at - QPointF(0, 26), 4.5, 4.5);
            p.drawLine(at - QPointF(0, 21), at);
            p.drawLine(at - QPointF(5, 0), at + QPointF(5, 0));
        }
        if (!chosen || !session_.readings().sounding() || !session_.readings().sounding()->known())
            continue;
        const render::Sounding& s = *session_.readings().sounding();
        const QString text = (s.sky ? say("sky")
                                    : QString::fromStdString(formatQuantity(double(s.depth), Quantity::Length))) +
                             QString("  T %1").arg(figure(double(s.transmittance.back()), 2));
        p.setFont(figureFont(11));
        const int w = QFontMetrics(p.font()).horizontalAdvance(text) + 14;
        const QRectF box(std::clamp(at.x() + 10, 4.0, std::max(4.0, double(width() - w - 4))),
                         std::max(4.0, at.y() - 36), w, 20);
        p.fillRect(box, QColor(20, 21, 22, 190));
        p.setPen(QColor("#e6e6e4"));
        p.drawText(box, Qt::AlignCenter, text);
    }
}

void PictureView::drawShares(QPainter& p, const ShareMap& map)
{
    p.setFont(figureFont(10));
    p.setBrush(Qt::NoBrush);
    for (const auto& [level, word] : {std::pair(0.2f, "20 %"), std::pair(0.5f, "50 %")}) {
        std::vector<QPointF> longest;
        for (const auto& line : map.lines(level)) {
            QPolygonF polygon;
            for (const QPointF& q : line)
                polygon << QPointF(q.x() * width(), q.y() * height());
            p.setPen(QPen(QColor(0, 0, 0, 110), 3.0));
            p.drawPolyline(polygon);
            QPen pen(QColor(0xB4, 0xC9, 0x5A, 230), 1.3);
            if (level < 0.5f)
                pen.setDashPattern({4, 4});
            p.setPen(pen);
            p.drawPolyline(polygon);
            if (line.size() > longest.size())
                longest = line;
        }
        // Its number on the longest of them, inside of the picture.
        if (longest.size() < 12)
            continue;
        const QPointF at = longest[longest.size() * (level < 0.5f ? 1 : 2) / 3];
        const int w = QFontMetrics(p.font()).horizontalAdvance(word) + 8;
        QRectF box(at.x() * width() - w / 2.0, at.y() * height() - 8.0, w, 16.0);
        box.moveLeft(std::clamp(box.left(), 2.0, width() - w - 2.0));
        box.moveTop(std::clamp(box.top(), 2.0, height() - 18.0));
        p.fillRect(box, QColor(20, 21, 22, 190));
        p.setPen(QColor("#e6e6e4"));
        p.drawText(box, Qt::AlignCenter, word);
    }
}

void PictureView::drawAids(QPainter& p)
{
    if (const double d = session_.selection().cursorDistance(); d > 0.0 && session_.picture().state().depth) {
        // Where the distance pointed at in the Transect lies: the line between nearer and farther.
        constexpr int step = 3;
        p.setPen(QPen(QColor(0xB4, 0xC9, 0x5A, 210), 1.2));
        const auto nearer = [&](int x, int y) {
            const float at = session_.picture().distanceAt(QPointF((x + 0.5) / width(), (y + 0.5) / height()));
            return at > 0.f && double(at) < d;
        };
        for (int y = 0; y + step < height(); y += step)
            for (int x = 0; x + step < width(); x += step) {
                const bool here = nearer(x, y);
                if (here != nearer(x + step, y))
                    p.drawLine(x + step / 2, y, x + step / 2, y + step);
                if (here != nearer(x, y + step))
                    p.drawLine(x, y + step / 2, x + step, y + step / 2);
            }
    }
    p.setRenderHint(QPainter::Antialiasing);
    const scene::Element* e = session_.selection().hovered().empty()
                                  ? nullptr
                                  : session_.project().find(session_.selection().hovered());
    const auto shot = session_.picture().shot();
    if (e && shot) {
        // Lines where the hovered element adds a fifth and a half of the picture's light.
        if (const auto share = session_.picture().share(e->id); share && !session_.project().silent(*e))
            drawShares(p, *share);
        p.setFont(textFont(12, QFont::Medium));
        const QString name = QString::fromStdString(e->name);
        const QRect label(10, height() - 30, QFontMetrics(p.font()).horizontalAdvance(name) + 18, 21);
        p.fillRect(label, QColor(20, 21, 22, 190));
        p.setPen(Theme::now().isLight() ? QColor("#B4C95A") : Theme::now().accent);
        p.drawText(label, Qt::AlignCenter, name);
    }
    if (cursor_.x() >= 0 && button_ == Qt::NoButton && underMouse()) {
        // What is under the cursor: distance, and how much of it comes through the air; from the renderer's own march
        // as soon as it has answered.
        const auto state = session_.picture().shot();
        const float d = session_.picture().distanceAt(
            QPointF((cursor_.x() + 0.5) / width(), (cursor_.y() + 0.5) / height()));
        if (d > 0.f && state) {
            const geometry::View view(session_.picture().camera(), width(), height());
            const Vec3 dir = view.direction(static_cast<float>(cursor_.x()) + 0.5f,
                                            static_cast<float>(cursor_.y()) + 0.5f);
            const render::Sounding& sight = session_.readings().sight();
            float depth = 0.f;
            for (const media::Medium& m : state->media)
                depth += sight.known() ? 0.f : media::opticalDepth(m, view.position(), dir, 0.f, d);
            const double through = sight.known() ? double(sight.transmittance.back()) : std::exp(-double(depth));
            const QString text = (d >= shot::Shot::farDistance * 0.999f
                                      ? say("sky")
                                      : QString::fromStdString(formatQuantity(d, Quantity::Length))) +
                                 QString("   T %1").arg(figure(through, 2));
            const QString all = session_.readings().drop() ? dropText(*session_.readings().drop()) + "   " + text
                                                           : text;
            p.setFont(figureFont(11));
            const int w = QFontMetrics(p.font()).horizontalAdvance(all) + 16;
            const QRect box(width() - w - 10, height() - 30, w, 21);
            p.fillRect(box, QColor(20, 21, 22, 190));
            p.setPen(QColor("#e6e6e4"));
            p.drawText(box, Qt::AlignCenter, all);
        }
    }
}
} // namespace hygros::app
