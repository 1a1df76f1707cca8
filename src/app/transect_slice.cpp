/// The Transect's section through a plume: its heat, smoke, speed, pressure or fuel, with arrows of how it moves.
#include "app/gas_slice.h"
#include "app/theme.h"
#include "app/transect_view.h"
#include "app/words.h"

#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <algorithm>
#include <cmath>

namespace hygros::app {
namespace {
struct QualityRow {
    sim::Quality quality;
    const char *name, *unit;
    std::vector<QColor> ramp; ///< even steps from least to most
    bool aboutZero = false;   ///< the ramp's middle is 0
};
const std::vector<QualityRow>& qualityRows()
{
    static const std::vector<QualityRow> rows{
        {sim::Quality::Temperature,
         QT_TRANSLATE_NOOP("window", "temperature"),
         "K",
         {QColor("#1d1a20"), QColor("#571b1e"), QColor("#a8351f"), QColor("#e0762f"), QColor("#f5c173"),
          QColor("#fdf3dc")}},
        {sim::Quality::Smoke,
         QT_TRANSLATE_NOOP("window", "smoke"),
         "g/m³",
         {QColor("#1a1c1e"), QColor("#56544f"), QColor("#a09a8f"), QColor("#e4dfd5")}},
        {sim::Quality::Speed,
         QT_TRANSLATE_NOOP("window", "speed"),
         "m/s",
         {QColor("#1a1c1e"), QColor("#3c3e66"), QColor("#8F93D6"), QColor("#e7e8fb")}},
        {sim::Quality::Pressure,
         QT_TRANSLATE_NOOP("window", "pressure"),
         "Pa",
         {QColor("#7fd0da"), QColor("#2d6f78"), QColor("#1a1c1e"), QColor("#8a3c2b"), QColor("#f0977f")},
         true},
        {sim::Quality::Fuel,
         QT_TRANSLATE_NOOP("window", "fuel"),
         "%",
         {QColor("#1a1c1e"), QColor("#5c4c1a"), QColor("#b99a45"), QColor("#f6e3a4")}},
    };
    return rows;
}
const QualityRow& rowOf(sim::Quality quality)
{
    for (const QualityRow& row : qualityRows())
        if (row.quality == quality)
            return row;
    return qualityRows().front();
}
QRgb colourAt(const std::vector<QColor>& ramp, float share)
{
    const float at = std::clamp(share, 0.f, 1.f) * static_cast<float>(ramp.size() - 1);
    const auto low = std::min(static_cast<std::size_t>(at), ramp.size() - 2);
    const float on = at - static_cast<float>(low);
    const auto mix = [&](int a, int b) { return static_cast<int>(std::lround(float(a) + float(b - a) * on)); };
    return qRgb(mix(ramp[low].red(), ramp[low + 1].red()), mix(ramp[low].green(), ramp[low + 1].green()),
                mix(ramp[low].blue(), ramp[low + 1].blue()));
}
/// What the ramp's ends stand for.
std::pair<float, float> endsOf(const sim::Slice& slice, const QualityRow& row)
{
    if (row.aboutZero) {
        const float most = std::max({std::abs(slice.least), std::abs(slice.most), 1e-6f});
        return {-most, most};
    }
    return {row.quality == sim::Quality::Temperature ? slice.least : 0.f, std::max(slice.most, slice.least + 1e-6f)};
}
QString shown(float value, const QualityRow& row)
{
    const double v = double(value) * (row.quality == sim::Quality::Fuel ? 100.0 : 1.0);
    return figures(v, std::abs(v) >= 1000.0 ? 4 : 3) + " " + row.unit;
}
} // namespace

std::optional<sim::Quality> TransectView::qualityNamed(const QString& name)
{
    for (const QualityRow& row : qualityRows())
        if (name == row.name)
            return row.quality;
    return std::nullopt;
}

void TransectView::buildSlice()
{
    slice_ = new GasSlice(session_, this);
    connect(slice_, &GasSlice::changed, this, [this] { update(); });
    auto* menu = new QMenu(this);
    menu->setObjectName("transectSliceMenu");
    const auto entry = [&](const QString& name, std::optional<sim::Quality> quality) {
        connect(menu->addAction(name), &QAction::triggered, this, [this, quality] { setSlice(quality); });
    };
    entry(say("no slice"), std::nullopt);
    for (const QualityRow& row : qualityRows())
        entry(say(row.name), row.quality);
    slicing_->setToolTip(say("A section through the chosen plume, as it is baked at this frame."));
    connect(slicing_, &QPushButton::clicked, this,
            [this, menu] { menu->popup(slicing_->mapToGlobal(QPoint(0, -menu->sizeHint().height()))); });
    connect(&session_.selection(), &Selection::chosenChanged, this, &TransectView::askSlice);
}

const scene::Element* TransectView::slicedElement() const
{
    const scene::Element* found = nullptr;
    for (const scene::Element& e : session_.project().elements) {
        if (!elements::kindOf(e).isGas)
            continue;
        if (e.id == session_.selection().selected())
            return &e;
        if (!found || e.id == slice_->element())
            found = &e;
    }
    return found;
}

void TransectView::setSlice(std::optional<sim::Quality> quality)
{
    const bool began = quality && !quality_;
    quality_ = quality;
    if (!quality_) {
        unframed_ = false;
        setLogarithmic(wasLogarithmic_);
        return showAll();
    }
    if (began)
        wasLogarithmic_ = logarithmic_;
    unframed_ = unframed_ || began;
    rangeChanged();
}

bool TransectView::frameSlice(const std::string& element)
{
    const auto shot = session_.picture().shot();
    if (!shot)
        return false;
    for (const media::Plume& p : shot->airflow.plumes)
        if (p.id == element) {
            Vec3 to = p.floor - shot->camera.position;
            to.y = 0.f;
            // Upright no more than twice as small as along: shapes stay what they are.
            const double tall = 1.15 * double(p.size.y), wide = double(std::max(p.size.x, p.size.z));
            const double across = plot().width() / std::max(1.0, plot().height()) * tall;
            const double middle = double(to.length()), reach = std::max(0.75 * wide, 0.25 * across);
            logarithmic_ = false;
            scale_->setText(say("by metres"));
            nearest_ = std::max(0.05, middle - reach);
            farthest_ = middle + reach;
            lowest_ = double(p.floor.y) - 0.08 * double(p.size.y);
            highest_ = double(p.floor.y) + 1.05 * double(p.size.y);
            ranged_ = true;
            return true;
        }
    return false;
}

void TransectView::askSlice()
{
    const scene::Element* e = slicedElement();
    slicing_->setVisible(e != nullptr);
    const QString text = quality_ ? say("slice: %1").arg(say(rowOf(*quality_).name)) : say("slice");
    if (slicing_->text() != text) {
        slicing_->setText(text);
        slicing_->resize(slicing_->sizeHint().width(), 14);
    }
    const auto shot = session_.picture().shot();
    if (!quality_ || !e || !shot) {
        if (!slice_->element().empty())
            slice_->want({}, {});
        return;
    }
    unframed_ = unframed_ || (!slice_->element().empty() && slice_->element() != e->id);
    if (unframed_ && frameSlice(e->id)) {
        unframed_ = false;
        return rangeChanged();
    }
    sim::SliceOrder order;
    order.quality = *quality_;
    order.from = shot->camera.position;
    order.heading = reading::sectionHeading(*shot, across_);
    for (const media::Plume& p : shot->airflow.plumes)
        if (p.id == e->id) {
            order.around = p.gas.around;
            Vec3 to = p.floor - shot->camera.position;
            to.y = 0.f;
            if (to.length() > 0.05f)
                order.heading = to.normalized();
        }
    const QRectF r = plot();
    const int wide = std::max(16, int(r.width()) / 2), high = std::max(16, int(r.height()));
    for (int i = 0; i < wide; ++i)
        order.distances.push_back(float(distanceOf(r.left() + (i + 0.5) / wide * r.width())));
    for (int i = 0; i < high; ++i)
        order.heights.push_back(float(heightOf(r.bottom() - (i + 0.5) / high * r.height())));
    slice_->want(e->id, order);
}

void TransectView::drawSlice(QPainter& p)
{
    if (!quality_)
        return;
    const QRectF r = plot();
    const sim::Slice* slice = slice_->slice();
    p.setFont(textFont(11));
    if (!slice) {
        p.setPen(Theme::now().quiet);
        p.drawText(r, Qt::AlignCenter, slice_->why());
        return;
    }
    const sim::SliceOrder& by = slice_->order();
    const QualityRow& row = rowOf(by.quality);
    const auto [least, most] = endsOf(*slice, row);
    const int wide = int(by.distances.size()), high = int(by.heights.size());
    QImage image(wide, high, QImage::Format_ARGB32_Premultiplied);
    for (int y = 0; y < high; ++y)
        for (int x = 0; x < wide; ++x) {
            const float v = slice->values[static_cast<std::size_t>(y * wide + x)];
            image.setPixel(x, high - 1 - y,
                           std::isnan(v) ? qRgba(0, 0, 0, 0) : colourAt(row.ramp, (v - least) / (most - least)));
        }
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    p.drawImage(r, image);
    // Arrows of the flow: the fastest are as long as they stand apart.
    constexpr double apart = 20.0;
    p.setRenderHint(QPainter::Antialiasing);
    for (double y = r.top() + apart / 2; y < r.bottom(); y += apart)
        for (double x = r.left() + apart / 2; x < r.right(); x += apart) {
            const int c = std::clamp(int((x - r.left()) / r.width() * wide), 0, wide - 1),
                      k = std::clamp(int((r.bottom() - y) / r.height() * high), 0, high - 1);
            const Vec2 v = slice->flow[static_cast<std::size_t>(k * wide + c)];
            if (!(v.length() > 0.02f * slice->fastest))
                continue;
            // As it runs in the drawing, whose two scales differ.
            const double d = distanceOf(x), h = heightOf(y), second = 0.02;
            QLineF way(QPointF(x, y), QPointF(xOf(d + double(v.x) * second), yOf(h + double(v.y) * second)));
            way.setLength(4.0 + (apart - 4.0) * double(v.length() / slice->fastest));
            const QPointF tip = way.p2();
            QLineF barb(tip, way.p1());
            barb.setLength(3.5);
            for (const QColor& ink : {QColor(0, 0, 0, 130), QColor(255, 255, 255, 190)}) {
                p.setPen(QPen(ink, ink.red() ? 1.0 : 2.4, Qt::SolidLine, Qt::RoundCap));
                p.drawLine(way);
                for (const double turn : {28.0, -28.0}) {
                    QLineF side = barb;
                    side.setAngle(barb.angle() + turn);
                    p.drawLine(side);
                }
            }
        }
}

void TransectView::drawSliceKey(QPainter& p)
{
    const sim::Slice* slice = slice_->slice();
    if (!quality_ || !slice)
        return;
    const Theme& t = Theme::now();
    const QRectF r = plot();
    const sim::SliceOrder& by = slice_->order();
    const QualityRow& row = rowOf(by.quality);
    const auto [least, most] = endsOf(*slice, row);
    const QRectF bar(r.right() + 6, r.top() + 14, 7, r.height() - 28);
    QLinearGradient ramp(bar.bottomLeft(), bar.topLeft());
    for (std::size_t i = 0; i < row.ramp.size(); ++i)
        ramp.setColorAt(double(i) / double(row.ramp.size() - 1), row.ramp[i]);
    p.fillRect(bar, ramp);
    p.setFont(figureFont(10));
    p.setPen(t.text);
    const auto number = [&](float v) {
        return figures(double(v) * (by.quality == sim::Quality::Fuel ? 100.0 : 1.0), 3);
    };
    p.drawText(QRectF(r.right() + 4, r.top() - 4, 44, 14), Qt::AlignLeft | Qt::AlignVCenter, number(most));
    p.drawText(QRectF(r.right() + 4, r.bottom() - 12, 44, 14), Qt::AlignLeft | Qt::AlignVCenter, number(least));
    p.setPen(t.quiet);
    p.drawText(QRectF(bar.right() + 3, bar.center().y() - 7, 32, 14), Qt::AlignLeft | Qt::AlignVCenter, row.unit);
    const QString arrows = say("fastest %1 m/s").arg(figures(double(slice->fastest), 3));
    QFontMetrics metrics(p.font());
    const QRectF box(r.left() + 6, r.top() + 5, metrics.horizontalAdvance(arrows) + 12, 17);
    p.fillRect(box, QColor(20, 21, 22, 190));
    p.setPen(QColor("#e6e6e4"));
    p.drawText(box, Qt::AlignCenter, arrows);
}

QString TransectView::sliceAt(const QPointF& at) const
{
    const sim::Slice* slice = slice_->slice();
    const QRectF r = plot();
    if (!quality_ || !slice || !r.contains(at))
        return {};
    const int wide = int(slice_->order().distances.size()), high = int(slice_->order().heights.size());
    const int c = std::clamp(int((at.x() - r.left()) / r.width() * wide), 0, wide - 1),
              k = std::clamp(int((r.bottom() - at.y()) / r.height() * high), 0, high - 1);
    const auto i = static_cast<std::size_t>(k * wide + c);
    if (std::isnan(slice->values[i]))
        return say("no gas here");
    const QString flow = QString::fromStdString(formatQuantity(double(slice->flow[i].length()), Quantity::Speed));
    const QualityRow& row = rowOf(slice_->order().quality);
    return row.quality == sim::Quality::Speed ? flow : shown(slice->values[i], row) + "   " + flow;
}
} // namespace hygros::app
