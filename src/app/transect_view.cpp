#include "app/transect_view.h"

#include "app/theme.h"
#include "app/words.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>
#include <utility>

namespace hygros::app {
TransectView::TransectView(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("transect");
    setMouseTracking(true);
    setAccessibleName(say("Transect"));
    setFocusPolicy(Qt::ClickFocus);
    const Theme& t = Theme::now();
    for (auto [button, name] : {std::pair(&scale_, "transectScale"), std::pair(&all_, "transectAll"),
                                std::pair(&slicing_, "transectSlice")}) {
        *button = new QPushButton(this);
        (*button)->setObjectName(name);
        (*button)->setFont(textFont(11));
        (*button)->setCursor(Qt::PointingHandCursor);
        (*button)->setStyleSheet(QString("QPushButton{border:0;background:transparent;color:%1;padding:0 "
                                         "2px}QPushButton:hover{color:%2}QPushButton:focus{color:%3}")
                                     .arg(t.quiet.name(), t.text.name(), t.accent.name()));
    }
    all_->setText(say("show all"));
    all_->setToolTip(say("Shows all distances and heights again (double click)."));
    scale_->setToolTip(say("Distances by equal factors or by equal steps (L)."));
    connect(scale_, &QPushButton::clicked, this, [this] { setLogarithmic(!logarithmic_); });
    connect(all_, &QPushButton::clicked, this, &TransectView::showAll);
    buildSlice();
    setLogarithmic(true);
    connect(&session.picture(), &Picture::shotChanged, this, [this] {
        if (!ranged_)
            showAll();
        else
            rangeChanged();
    });
    connect(&session.document(), &Document::projectReplaced, this, [this] {
        ranged_ = false;
        if (std::exchange(quality_, std::nullopt))
            setLogarithmic(wasLogarithmic_);
    });
    connect(&session.readings(), &Readings::readingsChanged, this, qOverload<>(&QWidget::update));
    connect(&session.readings(), &Readings::sightChanged, this, [this] {
        const double x = session_.selection().cursorPlace().x();
        const float wanted = x < 0.0 ? 0.5f : static_cast<float>(std::round(x * 200.0) / 200.0);
        if (wanted != across_ && !quality_) {
            across_ = wanted;
            measure();
        }
        update();
    });
    connect(&session.selection(), &Selection::hoveredChanged, this, qOverload<>(&QWidget::update));
}

void TransectView::setLogarithmic(bool on)
{
    logarithmic_ = on;
    scale_->setText(on ? say("by factors") : say("by metres"));
    rangeChanged();
}

void TransectView::showAll()
{
    nearest_ = 1.0;
    farthest_ = 4000.0;
    lowest_ = -3.0;
    highest_ = 60.0;
    // As far and as high as there is something.
    if (const auto shot = session_.picture().shot()) {
        for (const media::CloudDeck& d : shot->decks) {
            highest_ = std::max(highest_, 1.12 * double(d.base + d.thickness));
            farthest_ = 30000.0;
        }
        for (const media::Volume& v : shot->volumes)
            highest_ = std::max(highest_, 1.12 * double(v.bounds.max.y));
        const Box3& box = shot->scene->bounds();
        if (!box.isEmpty())
            lowest_ = std::max(-300.0, std::min(lowest_, double(box.min.y) - 1.0));
        lowest_ = std::min(lowest_, double(shot->camera.position.y) - 3.0);
        highest_ = std::max(highest_, double(shot->camera.position.y) + 10.0);
    }
    ranged_ = false;
    rangeChanged();
}

void TransectView::rangeChanged()
{
    nearest_ = std::clamp(nearest_, 0.05, 5e4);
    farthest_ = std::clamp(farthest_, nearest_ * 1.05, 1.5e5);
    measure();
    askSlice();
    all_->setVisible(ranged_);
    update();
}

void TransectView::resizeEvent(QResizeEvent*)
{
    scale_->adjustSize();
    all_->adjustSize();
    scale_->move(width() - 48 - scale_->width(), height() - 15);
    all_->move(scale_->x() - all_->width() - 10, height() - 15);
    scale_->resize(scale_->width(), 14);
    all_->resize(all_->width(), 14);
    slicing_->move(46, height() - 15);
    slicing_->resize(slicing_->sizeHint().width(), 14);
    askSlice();
}

QRectF TransectView::plot() const { return QRectF(46, 12, width() - 92, height() - 44); }
double TransectView::xOf(double d) const
{
    const double u = logarithmic_ ? std::log(std::max(d, nearest_ * 0.5) / nearest_) / std::log(farthest_ / nearest_)
                                  : (d - nearest_) / (farthest_ - nearest_);
    return plot().left() + u * plot().width();
}
double TransectView::distanceOf(double x) const
{
    const double u = std::clamp((x - plot().left()) / plot().width(), 0.0, 1.0);
    return logarithmic_ ? nearest_ * std::pow(farthest_ / nearest_, u) : nearest_ + (farthest_ - nearest_) * u;
}
double TransectView::yOf(double h) const
{
    return plot().bottom() - (bend(h) - bend(lowest_)) / (bend(highest_) - bend(lowest_)) * plot().height();
}
double TransectView::heightOf(double y) const
{
    return unbent((plot().bottom() - y) / plot().height() * (bend(highest_) - bend(lowest_)) + bend(lowest_));
}

double TransectView::transmittanceAt(double distance) const
{
    const bool sight = session_.readings().sight().known();
    const std::vector<float>& d = sight ? session_.readings().sight().distance : reading_.distance;
    const std::vector<float>& t = sight ? session_.readings().sight().transmittance : reading_.transmittance;
    if (d.empty())
        return 1.0;
    const auto after = std::lower_bound(d.begin(), d.end(), static_cast<float>(distance));
    if (after == d.begin())
        return double(t.front());
    if (after == d.end())
        return double(t.back());
    // Straight in optical depth between two places.
    const auto i = static_cast<std::size_t>(after - d.begin());
    const double f = (distance - double(d[i - 1])) / std::max(1e-9, double(d[i] - d[i - 1]));
    return double(t[i - 1]) * std::pow(std::max(1e-30, double(t[i])) / std::max(1e-30, double(t[i - 1])), f);
}

void TransectView::measure()
{
    const auto shot = session_.picture().shot();
    if (!shot)
        return;
    reading::TransectGrid grid;
    grid.columns = columns;
    grid.nearest = static_cast<float>(nearest_);
    grid.farthest = static_cast<float>(farthest_);
    grid.logarithmic = logarithmic_;
    grid.across = across_;
    for (int r = 0; r < rows; ++r)
        grid.rowHeights.push_back(
            static_cast<float>(unbent((r + 0.5) / rows * (bend(highest_) - bend(lowest_)) + bend(lowest_))));
    // The outline costs rays and belongs to set and camera alone: carried over while they stay.
    const bool range = !reading_.distance.empty() && reading_.distance.front() == grid.nearest &&
                       std::abs(reading_.distance.back() / grid.farthest - 1.f) < 1e-5f;
    const bool same = range && outlined_ == shot->scene && outlinedFrom_ == shot->camera &&
                      outlinedAcross_ == across_ && outlinedLog_ == logarithmic_ &&
                      reading_.highest.size() == static_cast<std::size_t>(columns);
    grid.outline = !same;
    reading::Transect next = reading::transectOf(*shot, grid);
    if (same) {
        next.highest = std::move(reading_.highest);
        next.ground = std::move(reading_.ground);
        next.crest = std::move(reading_.crest);
        next.trough = std::move(reading_.trough);
        next.waterLevel = reading_.waterLevel;
        next.seesUnder = reading_.seesUnder;
    }
    reading_ = std::move(next);
    outlined_ = shot->scene;
    outlinedFrom_ = shot->camera;
    outlinedAcross_ = across_;
    outlinedLog_ = logarithmic_;
    air_ = drawn(familyHue(scene::Family::Air), [&](std::size_t i) {
        float sigma = 0.f;
        for (const auto& sheet : reading_.sheets)
            sigma += sheet.extinction[i];
        return sigma;
    });
    airOf_.clear();
}

QImage TransectView::drawn(const QColor& hue, const std::function<float(std::size_t)>& sigmaAt) const
{
    // How opaque 25 m of it is; on an even scale a fiftieth of the way across, if that is more.
    const float metres = std::max(25.f, static_cast<float>(logarithmic_ ? 25.0 : (farthest_ - nearest_) * 0.02));
    QImage image(columns, rows, QImage::Format_ARGB32_Premultiplied);
    for (int r = 0; r < rows; ++r)
        for (int c = 0; c < columns; ++c) {
            const int a = static_cast<int>(
                235.f * (1.f - std::exp(-metres * sigmaAt(static_cast<std::size_t>(r * columns + c)))));
            image.setPixel(c, rows - 1 - r, qPremultiply(qRgba(hue.red(), hue.green(), hue.blue(), a)));
        }
    return image;
}

const QImage* TransectView::airOf(const std::string& element)
{
    if (const auto kept = airOf_.find(element); kept != airOf_.end())
        return &kept->second;
    for (const auto& sheet : reading_.sheets)
        if (sheet.id == element)
            return &(airOf_[element] = drawn(QColor("#B4C95A"), [&](std::size_t i) { return sheet.extinction[i]; }));
    return nullptr;
}

std::string TransectView::elementAt(const QPointF& p) const
{
    if (!plot().contains(p) || reading_.sheets.empty())
        return {};
    const auto c = std::min<std::size_t>(columns - 1,
                                         static_cast<std::size_t>((p.x() - plot().left()) / plot().width() * columns));
    const auto r = std::min<std::size_t>(rows - 1,
                                         static_cast<std::size_t>((plot().bottom() - p.y()) / plot().height() * rows));
    const reading::Transect::Sheet* most = nullptr;
    for (const auto& sheet : reading_.sheets)
        if (!most || sheet.extinction[r * columns + c] > most->extinction[r * columns + c])
            most = &sheet;
    return most->extinction[r * columns + c] > 1e-7f ? most->id : std::string();
}

void TransectView::paintEvent(QPaintEvent*)
{
    QPainter p(this);
    p.fillRect(rect(), Theme::now().panel);
    p.setClipRect(plot());
    drawAir(p);
    drawSlice(p);
    drawOutline(p);
    if (!quality_) {
        drawLamps(p);
        drawTracers(p);
        drawForces(p);
        drawMarks(p);
    }
    drawAxes(p);
    drawSliceKey(p);
    drawHandles(p);
}

} // namespace hygros::app
