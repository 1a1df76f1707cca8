/// Which part of the picture is drawn: enlarged, or a region alone.
#include "app/picture.h"

#include <QPainter>
#include <QSettings>
#include <algorithm>
#include <cmath>

namespace hygros::app {

void Picture::redraw()
{
    updateDrawn();
    refreeze();
}

void Picture::updateDrawn()
{
    part_ = QRectF(0, 0, 1, 1);
    QSize pixels = size_;
    if (size_.width() < 32) {
        // nothing to be seen
    } else if (times_ > 0) {
        const double share = std::min(1.0, double(size_.width()) / times_ / deliveredWidth());
        const auto from = [&](double middle) { return std::clamp(middle - 0.5 * share, 0.0, 1.0 - share); };
        part_ = QRectF(from(middle_.x()), from(middle_.y()), share, share);
        pixels = QSize(std::max(32, size_.width() / times_), std::max(18, size_.height() / times_));
    } else
        pixels = QSize(std::max(32, size_.width() / fineness_), std::max(18, size_.height() / fineness_));
    QRectF part = part_;
    if (!region_.isNull()) {
        part = QRectF(part_.x() + region_.x() * part_.width(), part_.y() + region_.y() * part_.height(),
                      region_.width() * part_.width(), region_.height() * part_.height());
        pixels = QSize(std::max(32, static_cast<int>(std::lround(region_.width() * pixels.width()))),
                       std::max(16, static_cast<int>(std::lround(region_.height() * pixels.height()))));
    }
    const geometry::PicturePart drawnPart{static_cast<float>(part.x()), static_cast<float>(part.y()),
                                          static_cast<float>(part.width()), static_cast<float>(part.height())};
    const std::lock_guard lock(drawnMutex_);
    if (drawn_.part != drawnPart)
        leastRevision_ = lastRevision_ + 1;
    drawn_ = {pixels.width(), pixels.height(), drawnPart};
}

void Picture::hand(const std::shared_ptr<const shot::Shot>& shot)
{
    const std::lock_guard lock(drawnMutex_);
    if (drawn_.width >= 32 && shot->camera.part == drawn_.part)
        lastRevision_ = renderer_->setShot(shot, drawn_.width, drawn_.height);
}

Picture::Drawn Picture::drawn() const
{
    const std::lock_guard lock(drawnMutex_);
    return drawn_;
}

QSize Picture::drawnSize() const
{
    const Drawn now = drawn();
    return {now.width, now.height};
}

std::shared_ptr<const shot::Shot> Picture::inPart(const std::shared_ptr<const shot::Shot>& shot) const
{
    const Drawn now = drawn();
    if (now.part.isWhole())
        return shot;
    auto out = std::make_shared<shot::Shot>(*shot);
    out->camera.part = now.part;
    return out;
}

int Picture::deliveredWidth() { return std::max(8, QSettings().value("deliveredWidth", 1920).toInt()); }

void Picture::setDeliveredWidth(int pixels) { QSettings().setValue("deliveredWidth", pixels); }

int Picture::savedFineness()
{
    const int saved = QSettings().value("fineness", 1).toInt();
    return saved == 2 || saved == 4 ? saved : 1;
}

void Picture::setFineness(int pixels)
{
    QSettings().setValue("fineness", pixels);
    fineness_ = savedFineness();
    region_ = QRectF();
    redraw();
    Q_EMIT cameraChanged();
}

void Picture::setZoom(int times, const QPointF& middle)
{
    times_ = std::clamp(times, 0, 16);
    middle_ = middle;
    region_ = QRectF();
    redraw();
    middle_ = part_.center(); // as far as it could be followed
    Q_EMIT cameraChanged();
}

void Picture::setRegion(const QRectF& region)
{
    const QRectF wanted = region.normalized() & QRectF(0, 0, 1, 1);
    const bool some = wanted.width() * size_.width() >= 32 && wanted.height() * size_.height() >= 16;
    if (!some && region_.isNull())
        return;
    if (region_.isNull())
        around_ = state_;
    region_ = some ? wanted : QRectF();
    redraw();
    Q_EMIT cameraChanged();
}

std::optional<QPointF> Picture::inFrame(const QPointF& shown) const
{
    if (region_.isNull())
        return QRectF(0, 0, 1, 1).contains(shown) ? std::optional(shown) : std::nullopt;
    if (!region_.contains(shown))
        return std::nullopt;
    return QPointF((shown.x() - region_.x()) / region_.width(), (shown.y() - region_.y()) / region_.height());
}

QPointF Picture::toWhole(const QPointF& shown) const
{
    return {part_.x() + shown.x() * part_.width(), part_.y() + shown.y() * part_.height()};
}

QPointF Picture::toShown(const QPointF& whole) const
{
    return {(whole.x() - part_.x()) / part_.width(), (whole.y() - part_.y()) / part_.height()};
}

void Picture::putInto(PictureState& state) const
{
    const QSize all = around_.image.size();
    if (all.isEmpty())
        return;
    const QRect at(static_cast<int>(std::lround(region_.x() * all.width())),
                   static_cast<int>(std::lround(region_.y() * all.height())),
                   static_cast<int>(std::lround(region_.width() * all.width())),
                   static_cast<int>(std::lround(region_.height() * all.height())));
    const QImage own = state.image.size() == at.size()
                           ? state.image
                           : state.image.scaled(at.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    QImage image = around_.image;
    {
        QPainter p(&image);
        p.drawImage(at.topLeft(), own);
    }
    // What was measured by pixel goes with it where both have as many.
    const auto joined = [&](const std::shared_ptr<const std::vector<float>>& around,
                            const std::shared_ptr<const std::vector<float>>& inside, int channels) {
        const auto count = [channels](const QSize& s) {
            return static_cast<std::size_t>(s.width()) * static_cast<std::size_t>(s.height()) *
                   static_cast<std::size_t>(channels);
        };
        if (!around || !inside || around->size() != count(all) || inside->size() != count(at.size()))
            return around;
        auto out = std::make_shared<std::vector<float>>(*around);
        for (int y = 0; y < at.height(); ++y)
            std::copy_n(inside->begin() + static_cast<std::ptrdiff_t>(y) * at.width() * channels, at.width() * channels,
                        out->begin() + (static_cast<std::ptrdiff_t>(at.y() + y) * all.width() + at.x()) * channels);
        return std::shared_ptr<const std::vector<float>>(out);
    };
    state.depth = joined(around_.depth, state.depth, 1);
    state.linear = joined(around_.linear, state.linear, 3);
    state.image = image;
}
} // namespace hygros::app
