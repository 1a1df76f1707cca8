/// What the session measures of the picture: distances, planes, soundings, thumbnails.
#include "app/session.h"

#include "finish/display.h"

#include <algorithm>
#include <utility>

namespace hygros::app {

float Session::distanceAt(const QPointF& place) const
{
    const QSize size = picture_.image.size();
    const int x = static_cast<int>(place.x() * size.width()), y = static_cast<int>(place.y() * size.height());
    if (!picture_.depth || x < 0 || y < 0 || x >= size.width() || y >= size.height() ||
        picture_.depth->size() != static_cast<std::size_t>(size.width()) * static_cast<std::size_t>(size.height()))
        return 0.f;
    return (*picture_.depth)[static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width()) +
                             static_cast<std::size_t>(x)];
}

float Session::depthQuantile(double share) const
{
    if (!picture_.depth)
        return 0.f;
    std::vector<float> near;
    for (const float d : *picture_.depth)
        if (d < shot::Shot::farDistance * 0.999f)
            near.push_back(d);
    if (near.empty())
        return 0.f;
    const auto at = near.begin() +
                    static_cast<std::ptrdiff_t>(std::clamp(share, 0.0, 1.0) * static_cast<double>(near.size() - 1));
    std::nth_element(near.begin(), at, near.end());
    return *at;
}

void Session::setCursorPlace(const QPointF& place)
{
    if (place == cursorPlace_)
        return;
    cursorPlace_ = place;
    sight_ = {};
    Q_EMIT cursorPlaceChanged();
    if (place.x() < 0)
        return;
    renderer_->ask("sight", [this, place](const render::Frame& frame) {
        const render::Sounding s = frame.soundingAt(
            std::min(frame.width() - 1, static_cast<int>(place.x() * frame.width())),
            std::min(frame.height() - 1, static_cast<int>(place.y() * frame.height())));
        QMetaObject::invokeMethod(this, [this, place, s] {
            if (place != cursorPlace_)
                return;
            sight_ = s;
            Q_EMIT cursorPlaceChanged();
        });
    });
}

void Session::setCursorDistance(double metres)
{
    if (std::exchange(cursorDistance_, metres) != metres)
        Q_EMIT cursorDistanceChanged();
}

void Session::askThumbnails()
{
    std::vector<std::string> media, lamps;
    for (const scene::Element& e : project().elements) {
        if (e.kind->family == scene::Family::Air)
            media.push_back(e.id);
        else if (e.kind->family == scene::Family::Lights)
            lamps.push_back(e.id);
    }
    const shot::Look look = shot_ ? shot_->look : shot::Look();
    renderer_->wantContributions(media, lamps,
                                 [this, look](const std::string& id, const render::Frame::Contribution& c) {
                                     QImage image(c.width, c.height, QImage::Format_RGB32);
                                     if (c.width > 0)
                                         finish::Display(look).apply(c.rgb.data(), c.width, c.height, image.bits(),
                                                                     static_cast<std::size_t>(image.bytesPerLine()), 4);
                                     QMetaObject::invokeMethod(this, [this, id, image] {
                                         thumbnails_[id] = image;
                                         Q_EMIT thumbnailChanged(QString::fromStdString(id));
                                     });
                                 });
}

void Session::setReadingsWanted(bool wanted)
{
    if (std::exchange(readingsWanted_, wanted) != wanted)
        askReadings();
}

void Session::askCosts()
{
    renderer_->ask("costs", [this](const render::Frame& frame) {
        QMetaObject::invokeMethod(this, [this, costs = frame.costs()] {
            costs_ = costs;
            Q_EMIT costsChanged();
        });
    });
}

void Session::askReadings()
{
    if (!readingsWanted_ && pins_.empty())
        return;
    // Measured on the renderer's thread from the very layers that would be delivered.
    renderer_->ask("readings", [this, own = ownBorders_, pins = pins_](const render::Frame& frame) {
        const render::Layers layers = frame.layers();
        std::vector<float> beauty(layers.plate.size());
        for (std::size_t i = 0; i < beauty.size(); ++i)
            beauty[i] = layers.plate[i] * layers.transmittance[i] + layers.air[i];
        Readings r;
        reading::PlanePicture picture{layers.width, layers.height, beauty, layers.depth};
        r.borders = reading::bordersFromDepth(picture);
        const std::vector<float>& borders = own.empty() ? r.borders : own;
        r.planes = reading::planesOf(picture, borders);
        picture.rgb = layers.plate;
        r.without = reading::planesOf(picture, borders);
        std::vector<render::Sounding> soundings;
        for (const QPointF& pin : pins)
            soundings.push_back(
                frame.soundingAt(std::min(layers.width - 1, static_cast<int>(pin.x() * layers.width)),
                                 std::min(layers.height - 1, static_cast<int>(pin.y() * layers.height))));
        QMetaObject::invokeMethod(this, [this, r, own, pins, soundings] {
            if (own == ownBorders_)
                readings_ = r;
            if (pins == pins_)
                soundings_ = soundings;
            Q_EMIT readingsChanged();
        });
    });
}

void Session::setPlaneBorders(std::vector<float> borders)
{
    ownBorders_ = std::move(borders);
    Q_EMIT readingsChanged();
    askReadings();
}

void Session::addPin(const QPointF& place)
{
    pins_.push_back(place);
    soundings_.emplace_back();
    choosePin(static_cast<int>(pins_.size()) - 1);
    askReadings();
}

void Session::choosePin(int index)
{
    chosenPin_ = index >= 0 && index < static_cast<int>(pins_.size()) ? index : -1;
    Q_EMIT readingsChanged();
}

void Session::removePin(int index)
{
    if (index < 0 || index >= static_cast<int>(pins_.size()))
        return;
    pins_.erase(pins_.begin() + index);
    soundings_.erase(soundings_.begin() + index);
    choosePin(std::min(index, static_cast<int>(pins_.size()) - 1));
}

const render::Sounding* Session::sounding() const
{
    return chosenPin_ >= 0 && chosenPin_ < static_cast<int>(soundings_.size())
               ? &soundings_[static_cast<std::size_t>(chosenPin_)]
               : nullptr;
}

void Session::setValueStudy(int tones)
{
    valueStudy_ = tones == 0 ? 0 : std::clamp(tones, 3, 7);
    Q_EMIT pictureChanged();
}

QImage Session::thumbnail(const std::string& element) const
{
    const auto found = thumbnails_.find(element);
    return found == thumbnails_.end() ? QImage() : found->second;
}

void Session::setHovered(const std::string& element)
{
    if (element == hovered_)
        return;
    hovered_ = element;
    Q_EMIT hoveredChanged();
}

QString Session::costText(const std::string& id) const
{
    const auto found = costs_.find(id);
    if (found == costs_.end())
        return {};
    const double ms = found->second * picture().secondsPerPass * 1e3;
    return QString("%1 ms  %2 %")
        .arg(ms < 9.95 ? QString::number(ms, 'f', 1) : QString::number(ms, 'f', 0))
        .arg(QString::number(found->second * 100.0, 'f', found->second < 0.0995 ? 1 : 0));
}
} // namespace hygros::app
