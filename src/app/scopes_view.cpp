#include "app/scopes_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace hygros::app {
using reading::Scopes;

namespace {
constexpr double margin = 34.0, head = 20.0, foot = 18.0;
const QColor channelHues[] = {QColor(214, 96, 88), QColor(112, 178, 104), QColor(96, 136, 208)};

/// A plot of shares as light on dark: what is twice as often is not twice as bright, or little would be seen.
QImage glowOf(const std::vector<float>& shares, int columns, int rows, const QColor& hue, float full)
{
    QImage image(columns, rows, QImage::Format_ARGB32_Premultiplied);
    for (int r = 0; r < rows; ++r) {
        auto* line = reinterpret_cast<QRgb*>(image.scanLine(rows - 1 - r));
        for (int c = 0; c < columns; ++c) {
            const float u = std::min(1.f, std::pow(shares[static_cast<std::size_t>(r * columns + c)] / full, 0.4f));
            line[c] = qPremultiply(qRgba(hue.red(), hue.green(), hue.blue(), static_cast<int>(255.f * u)));
        }
    }
    return image;
}
} // namespace

ScopesView::ScopesView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("scopes");
    setAccessibleName(say("Scopes"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setToolTip(say("Drag a region on the small picture; a double-click, or Esc, takes the whole again."));
    connect(&session.readings(), &Readings::readingsChanged, this, qOverload<>(&QWidget::update));
    connect(&session.picture(), &Picture::pictureChanged, this, qOverload<>(&QWidget::update));
    connect(&session.compare(), &Compare::changed, this, qOverload<>(&QWidget::update));
}

QRectF ScopesView::small() const
{
    const QSize of = session_.picture().state().image.size();
    const double high = std::min(110.0, height() - head - foot - 8.0),
                 wide = of.isEmpty() ? high * 1.6 : high * of.width() / of.height();
    return {14.0, head + 4.0, std::min(wide, 0.22 * width()), high * std::min(1.0, 0.22 * width() / wide)};
}

std::array<QRectF, 3> ScopesView::charts() const
{
    const double left = small().right() + 18.0, all = width() - left - 10.0, high = height() - head - foot - 6.0;
    std::array<QRectF, 3> out;
    const double shares[] = {0.30, 0.26, 0.44};
    double x = left;
    for (std::size_t i = 0; i < 3; ++i) {
        const double wide = all * shares[i];
        out[i] = QRectF(x + margin, head, wide - margin - 8.0, high);
        x += wide;
    }
    return out;
}

void ScopesView::paintEvent(QPaintEvent*)
{
    const Theme& t = Theme::now();
    QPainter p(this);
    const Scopes& s = session_.readings().scopes();
    if (s.pixels == 0) {
        p.setPen(t.quiet);
        p.drawText(rect(), Qt::AlignCenter, say("Measured once the first full picture is there."));
        return;
    }
    const QImage& image = session_.picture().state().image;
    const QRectF at = small();
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    if (!image.isNull())
        p.drawImage(at, image);
    const reading::Region& r = session_.readings().region();
    const QRectF chosen(at.left() + double(r.left) * at.width(), at.top() + double(r.top) * at.height(),
                        double(r.right - r.left) * at.width(), double(r.bottom - r.top) * at.height());
    p.setPen(QPen(t.accent, 1.2));
    p.drawRect(chosen.adjusted(0, 0, -1, -1));
    p.setFont(figureFont(11));
    p.setPen(t.quiet);
    p.drawText(QRectF(at.left(), at.bottom() + 3, 300, 15), Qt::AlignLeft,
               r == reading::Region()
                   ? say("whole picture")
                   : say("%1 % of it").arg(figure(double((r.right - r.left) * (r.bottom - r.top)) * 100.0, 1)));
    p.drawText(QRectF(at.left(), at.bottom() + 18, 300, 15), Qt::AlignLeft,
               say("%1 % black").arg(figure(double(s.black) * 100.0, 1)));
    p.drawText(QRectF(at.left(), at.bottom() + 33, 300, 15), Qt::AlignLeft,
               say("%1 % white").arg(figure(double(s.white) * 100.0, 1)));
    p.drawText(QRectF(at.left(), at.bottom() + 48, 300, 15), Qt::AlignLeft,
               say("%1 to %2 stops").arg(figure(double(s.lowStop), 1)).arg(figure(double(s.highStop), 1)));
    const auto areas = charts();
    const char* const names[] = {QT_TRANSLATE_NOOP("window", "Across the picture"),
                                 QT_TRANSLATE_NOOP("window", "Tones"), QT_TRANSLATE_NOOP("window", "Tone by distance")};
    for (std::size_t i = 0; i < 3; ++i) {
        p.fillRect(areas[i], QColor("#17181a"));
        p.setFont(textFont(11, QFont::DemiBold));
        p.setPen(t.text);
        p.drawText(QRectF(areas[i].left(), 0, areas[i].width(), head - 2), Qt::AlignLeft | Qt::AlignVCenter,
                   say(names[i]));
    }
    const Scopes& there = other();
    if (there.pixels == 0) {
        drawWaveform(p, areas[0], s, true);
    } else { // both beside each other, on one scale
        const double half = 0.5 * areas[0].width() - 2.0;
        const QRectF left(areas[0].topLeft(), QSizeF(half, areas[0].height())),
            right = left.translated(half + 4.0, 0.0);
        p.fillRect(QRectF(left.right(), left.top(), 4.0, left.height()), t.panel);
        drawWaveform(p, left, s, true);
        drawWaveform(p, right, there, false);
        p.setPen(t.quiet);
        p.setFont(textFont(11));
        p.drawText(QRectF(left.left(), left.bottom() + 2, half, 15), Qt::AlignHCenter, say("the picture"));
        p.drawText(QRectF(right.left(), right.bottom() + 2, half, 15), Qt::AlignHCenter,
                   say("what it is held against"));
    }
    drawHistogram(p, areas[1]);
    drawByDistance(p, areas[2]);
}

const Scopes& ScopesView::other()
{
    const QImage image = session_.compare().isOn() ? session_.compare().image() : QImage();
    if (image.isNull()) {
        other_ = {};
        otherOf_ = {-1, {}};
        return other_;
    }
    if (const std::pair of(image.cacheKey(), session_.readings().region()); of != otherOf_) {
        const QImage plain = image.convertToFormat(QImage::Format_RGB32);
        other_ = reading::scopesOf({plain.width(), plain.height(), {}, {}},
                                   {plain.constBits(), static_cast<std::size_t>(plain.sizeInBytes())}, of.second);
        otherOf_ = of;
    }
    return other_;
}

void ScopesView::drawWaveform(QPainter& p, const QRectF& area, const Scopes& s, bool levels)
{
    const Theme& t = Theme::now();
    p.setCompositionMode(QPainter::CompositionMode_Plus);
    for (std::size_t c = 0; c < 3; ++c)
        p.drawImage(area, glowOf(s.waveform[c], Scopes::columns, Scopes::levels, channelHues[c], 0.25f));
    p.setCompositionMode(QPainter::CompositionMode_SourceOver);
    p.setFont(figureFont(10));
    for (const int level : {0, 64, 128, 192, 255}) {
        const double y = area.bottom() - area.height() * level / 255.0;
        p.setPen(QColor(255, 255, 255, 28));
        p.drawLine(QPointF(area.left(), y), QPointF(area.right(), y));
        p.setPen(t.quiet);
        if (levels)
            p.drawText(QRectF(area.left() - margin, y - 7, margin - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                       QString::number(level));
    }
}

void ScopesView::drawHistogram(QPainter& p, const QRectF& area)
{
    const Theme& t = Theme::now();
    const Scopes& s = session_.readings().scopes();
    float most = 1e-6f;
    for (const auto& h : s.histogram) // the ends may hold very many, and would press the rest down
        for (std::size_t i = 1; i + 1 < h.size(); ++i)
            most = std::max(most, h[i]);
    p.save();
    p.setClipRect(area);
    p.setRenderHint(QPainter::Antialiasing);
    for (std::size_t c = 0; c < 3; ++c) {
        QPainterPath path(area.bottomLeft());
        for (int i = 0; i < Scopes::bins; ++i) {
            const double v = std::sqrt(double(s.histogram[c][static_cast<std::size_t>(i)] / most));
            path.lineTo(area.left() + (i + 0.5) / Scopes::bins * area.width(),
                        area.bottom() - v * 0.96 * area.height());
        }
        path.lineTo(area.bottomRight());
        QColor fill = channelHues[c];
        fill.setAlpha(50);
        p.fillPath(path, fill);
        p.setPen(QPen(channelHues[c], 1.2));
        p.drawPath(path);
    }
    // What it is held against, in dashes.
    if (const Scopes& there = other(); there.pixels)
        for (std::size_t c = 0; c < 3; ++c) {
            QPainterPath path;
            for (int i = 0; i < Scopes::bins; ++i) {
                const double v = std::sqrt(double(there.histogram[c][static_cast<std::size_t>(i)] / most));
                const QPointF q(area.left() + (i + 0.5) / Scopes::bins * area.width(),
                                area.bottom() - v * 0.96 * area.height());
                i ? path.lineTo(q) : path.moveTo(q);
            }
            p.setPen(QPen(channelHues[c].lighter(135), 1.1, Qt::DashLine));
            p.drawPath(path);
        }
    p.restore();
    p.setFont(figureFont(10));
    p.setPen(t.quiet);
    for (const int level : {0, 128, 255})
        p.drawText(QRectF(area.left() + area.width() * level / 255.0 - 20, area.bottom() + 2, 40, 14), Qt::AlignHCenter,
                   QString::number(level));
}

void ScopesView::drawByDistance(QPainter& p, const QRectF& area)
{
    const Theme& t = Theme::now();
    const Scopes& s = session_.readings().scopes();
    p.drawImage(area, glowOf(s.byDistance, Scopes::distances, Scopes::tones, QColor(220, 222, 218), 0.004f));
    const auto xOf = [&](double metres) {
        return area.left() +
               area.width() *
                   (std::log(metres / double(Scopes::nearest)) / std::log(double(Scopes::farthest / Scopes::nearest))) *
                   (Scopes::distances - 1) / Scopes::distances;
    };
    const auto yOf = [&](double stop) {
        return area.bottom() -
               area.height() * (stop - double(Scopes::firstStop)) / double(Scopes::lastStop - Scopes::firstStop);
    };
    p.setFont(figureFont(10));
    for (int stop = -6; stop <= 4; stop += 2) {
        p.setPen(QColor(255, 255, 255, stop == 0 ? 60 : 26));
        p.drawLine(QPointF(area.left(), yOf(stop)), QPointF(area.right(), yOf(stop)));
        p.setPen(t.quiet);
        p.drawText(QRectF(area.left() - margin, yOf(stop) - 7, margin - 5, 14), Qt::AlignRight | Qt::AlignVCenter,
                   stop > 0 ? QString("+%1").arg(stop) : QString::number(stop));
    }
    for (const double d : {1.0, 10.0, 100.0, 1000.0}) {
        p.setPen(QColor(255, 255, 255, 26));
        p.drawLine(QPointF(xOf(d), area.top()), QPointF(xOf(d), area.bottom()));
        p.setPen(t.quiet);
        p.drawText(QRectF(xOf(d) - 30, area.bottom() + 2, 60, 14), Qt::AlignHCenter,
                   QString::fromStdString(formatQuantity(d, Quantity::Length)));
    }
    p.drawText(QRectF(area.right() - 24, area.bottom() + 2, 30, 14), Qt::AlignRight, say("sky"));
    // The mean at each distance: the picture's staging in one line.
    p.save();
    p.setClipRect(area);
    p.setRenderHint(QPainter::Antialiasing);
    QPainterPath mean;
    bool on = false;
    for (int d = 0; d < Scopes::distances - 1; ++d) {
        const double tone = double(s.meanTone[static_cast<std::size_t>(d)]);
        if (tone < -1e8)
            continue;
        const QPointF q(area.left() + (d + 0.5) / Scopes::distances * area.width(), yOf(tone));
        on ? mean.lineTo(q) : mean.moveTo(q);
        on = true;
    }
    p.setPen(QPen(familyHue(scene::Family::Air), 1.6));
    p.drawPath(mean);
    p.restore();
    if (area.contains(cursor_)) {
        const double u = (cursor_.x() - area.left()) / area.width() * Scopes::distances / (Scopes::distances - 1),
                     metres = double(Scopes::nearest) * std::pow(double(Scopes::farthest / Scopes::nearest), u),
                     stop = double(Scopes::firstStop) + (area.bottom() - cursor_.y()) / area.height() *
                                                            double(Scopes::lastStop - Scopes::firstStop);
        p.setPen(t.text);
        p.setFont(figureFont(11));
        p.drawText(QRectF(area.left(), 0, area.width(), head - 2), Qt::AlignRight | Qt::AlignVCenter,
                   say("%1 · %2%3 stops")
                       .arg(u >= 1.0 ? say("sky") : QString::fromStdString(formatQuantity(metres, Quantity::Length)))
                       .arg(stop >= 0 ? "+" : "")
                       .arg(figure(stop, 1)));
    }
}

void ScopesView::setRegion(const QPointF& a, const QPointF& b)
{
    const QRectF at = small();
    const auto u = [&](double x) { return static_cast<float>(std::clamp((x - at.left()) / at.width(), 0.0, 1.0)); };
    const auto v = [&](double y) { return static_cast<float>(std::clamp((y - at.top()) / at.height(), 0.0, 1.0)); };
    reading::Region r{u(std::min(a.x(), b.x())), v(std::min(a.y(), b.y())), u(std::max(a.x(), b.x())),
                      v(std::max(a.y(), b.y()))};
    if (r.right - r.left < 0.01f || r.bottom - r.top < 0.01f)
        r = {};
    session_.readings().setRegion(r);
}

void ScopesView::mousePressEvent(QMouseEvent* e)
{
    if (e->button() == Qt::LeftButton && small().adjusted(-4, -4, 4, 4).contains(e->position()))
        from_ = e->position();
}
void ScopesView::mouseMoveEvent(QMouseEvent* e)
{
    cursor_ = e->position();
    setCursor(small().contains(cursor_) ? Qt::CrossCursor : Qt::ArrowCursor);
    if (from_.x() >= 0)
        setRegion(from_, e->position());
    update();
}
void ScopesView::mouseReleaseEvent(QMouseEvent*) { from_ = {-1, -1}; }
void ScopesView::mouseDoubleClickEvent(QMouseEvent*) { session_.readings().setRegion({}); }
void ScopesView::keyPressEvent(QKeyEvent* e)
{
    if (e->key() == Qt::Key_Escape)
        return session_.readings().setRegion({});
    QWidget::keyPressEvent(e);
}
} // namespace hygros::app
