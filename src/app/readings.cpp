#include "app/readings.h"

#include "app/post.h"
#include "finish/display.h"
#include "reading/match.h"

#include <algorithm>
#include <utility>

namespace hygros::app {

Readings::Readings(Picture& picture, Selection& selection, QObject* parent)
    : QObject(parent), picture_(picture), selection_(selection)
{
    timer_.setSingleShot(true);
    connect(&timer_, &QTimer::timeout, this, &Readings::ask);
    connect(&picture, &Picture::pictureChanged, this, [this] {
        const PictureState& s = picture_.state();
        if (s.samples >= 1 && (s.clean || !timer_.isActive()))
            timer_.start(s.samples == 1 || s.clean ? 60 : 1500);
    });
    connect(&selection, &Selection::cursorPlaceChanged, this, &Readings::askSight);
}

void Readings::askSight()
{
    const QPointF place = selection_.cursorPlace();
    sight_ = {};
    drop_.reset();
    Q_EMIT sightChanged();
    const auto spot = picture_.inFrame(place);
    if (!spot)
        return;
    picture_.renderer().ask("sight", [this, place, at = *spot](const render::Frame& frame) {
        const render::Sounding s = frame.soundingAt(
            std::min(frame.width() - 1, static_cast<int>(at.x() * frame.width())),
            std::min(frame.height() - 1, static_cast<int>(at.y() * frame.height())));
        constexpr float within = 3.f; // pixels
        const auto drop = render::dropAt(frame.shot(), frame.width(), frame.height(),
                                         Vec2(static_cast<float>(at.x()) * static_cast<float>(frame.width()),
                                              static_cast<float>(at.y()) * static_cast<float>(frame.height())),
                                         within);
        post(this, [this, place, s, drop] {
            if (place != selection_.cursorPlace())
                return;
            sight_ = s;
            drop_ = drop;
            Q_EMIT sightChanged();
        });
    });
}

void Readings::setWanted(bool wanted, bool scopes)
{
    const bool more = (wanted && !wanted_) || (scopes && !scopesWanted_);
    wanted_ = wanted;
    scopesWanted_ = scopes;
    if (more)
        ask();
}

void Readings::setRegion(const reading::Region& region)
{
    if (region_ == region)
        return;
    region_ = region;
    Q_EMIT readingsChanged();
    ask();
}

void Readings::setAgainst(const QImage& image)
{
    if (image.cacheKey() == against_.cacheKey())
        return;
    against_ = image;
    if (image.isNull())
        measured_.shown = measured_.against = {};
    Q_EMIT readingsChanged();
    if (!timer_.isActive()) // it may be refined as the picture is
        timer_.start(60);
}

void Readings::ask()
{
    if (!wanted_ && pins_.empty())
        return;
    // Measured on the renderer's thread from the very layers that would be delivered.
    std::vector<std::optional<QPointF>> spots; // of the pins, in what is drawn
    for (const QPointF& pin : pins_)
        spots.push_back(picture_.inFrame(picture_.toShown(pin)));
    picture_.renderer().ask("readings", [this, own = ownBorders_, pins = pins_, spots, scopes = scopesWanted_,
                                         region = region_, against = against_](const render::Frame& frame) {
        const render::Layers layers = frame.layers();
        std::vector<float> beauty(layers.plate.size());
        for (std::size_t i = 0; i < beauty.size(); ++i)
            beauty[i] = layers.plate[i] * layers.transmittance[i] + layers.air[i];
        Measured m;
        reading::PlanePicture picture{layers.width, layers.height, beauty, layers.depth};
        m.borders = reading::bordersFromDepth(picture);
        const std::vector<float>& borders = own.empty() ? m.borders : own;
        m.planes = reading::planesOf(picture, borders);
        std::vector<std::uint8_t> shown;
        if (scopes || !against.isNull()) {
            shown.resize(layers.pixels() * 4);
            finish::Display(frame.shot().look)
                .apply(beauty.data(), layers.width, layers.height, shown.data(),
                       static_cast<std::size_t>(layers.width) * 4, 4);
        }
        if (scopes)
            m.scopes = reading::scopesOf(picture, shown, region);
        if (!against.isNull()) {
            // A picture from elsewhere has been through a display's curve: both are compared as they are shown.
            const QImage other = against.scaled(layers.width, layers.height).convertToFormat(QImage::Format_RGB32);
            const std::vector<float> ours = reading::linearOf(shown),
                                     theirs = reading::linearOf(
                                         {other.constBits(), static_cast<std::size_t>(other.sizeInBytes())});
            m.shown = reading::planesOf({layers.width, layers.height, ours, layers.depth}, borders);
            m.against = reading::planesOf({layers.width, layers.height, theirs, layers.depth}, borders);
        }
        picture.rgb = layers.plate;
        m.without = reading::planesOf(picture, borders);
        std::vector<render::Sounding> soundings;
        for (const auto& at : spots)
            soundings.push_back(
                at ? frame.soundingAt(std::min(layers.width - 1, static_cast<int>(at->x() * layers.width)),
                                      std::min(layers.height - 1, static_cast<int>(at->y() * layers.height)))
                   : render::Sounding());
        post(this, [this, m, own, pins, soundings] {
            if (own == ownBorders_)
                measured_ = m;
            if (against_.isNull())
                measured_.shown = measured_.against = {};
            if (pins == pins_)
                soundings_ = soundings;
            Q_EMIT readingsChanged();
        });
    });
}

void Readings::setPlaneBorders(std::vector<float> borders)
{
    ownBorders_ = std::move(borders);
    Q_EMIT readingsChanged();
    ask();
}

void Readings::addPin(const QPointF& place)
{
    pins_.push_back(place);
    soundings_.emplace_back();
    choosePin(static_cast<int>(pins_.size()) - 1);
    ask();
}

void Readings::choosePin(int index)
{
    chosenPin_ = index >= 0 && index < static_cast<int>(pins_.size()) ? index : -1;
    Q_EMIT readingsChanged();
}

void Readings::removePin(int index)
{
    if (index < 0 || index >= static_cast<int>(pins_.size()))
        return;
    pins_.erase(pins_.begin() + index);
    soundings_.erase(soundings_.begin() + index);
    choosePin(std::min(index, static_cast<int>(pins_.size()) - 1));
}

const render::Sounding* Readings::sounding() const
{
    return chosenPin_ >= 0 && chosenPin_ < static_cast<int>(soundings_.size())
               ? &soundings_[static_cast<std::size_t>(chosenPin_)]
               : nullptr;
}

void Readings::clear()
{
    measured_ = {};
    ownBorders_.clear();
    pins_.clear();
    soundings_.clear();
    chosenPin_ = -1;
    Q_EMIT readingsChanged();
}
} // namespace hygros::app
