#include "app/picture.h"

#include "app/post.h"
#include "app/words.h"

#include "elements/kinds.h"
#include "finish/display.h"

#include <QSettings>
#include <algorithm>

namespace hygros::app {

Picture::Picture(std::shared_ptr<Store> store, QObject* parent) : QObject(parent)
{
    renderer_ = std::make_unique<render::LiveRenderer>(
        [this, display = std::shared_ptr<finish::Display>(), of = shot::Look()](const render::LivePicture& p) mutable {
            // On the renderer's thread: only the finished image crosses over. The display's tables are kept with their
            // look.
            if (!p.trouble.empty()) {
                post(this, [this, what = QString::fromStdString(p.trouble)] { Q_EMIT failed(what); });
                return;
            }
            if (p.samples == 1 || p.isClean)
                linear_ = {p.width, p.height, p.rgb};
            if (!display || !(of == p.look)) {
                display = std::make_shared<finish::Display>(p.look);
                of = p.look;
            }
            PictureState state;
            state.image = QImage(p.width, p.height, QImage::Format_RGB32);
            display->apply(p.rgb.data(), p.width, p.height, state.image.bits(),
                           static_cast<std::size_t>(state.image.bytesPerLine()), 4);
            state.samples = p.samples;
            state.wanted = p.wantedSamples;
            state.secondsSinceEdit = p.secondsSinceEdit;
            state.secondsPerPass = p.secondsPerPass;
            state.secondsLeft = p.secondsLeft;
            state.clean = p.isClean;
            state.revision = p.revision;
            state.frame = p.frame;
            state.depth = p.depth;
            if (p.samples > 0) // of a quick one nobody reads values
                state.linear = std::make_shared<const std::vector<float>>(p.rgb);
            for (std::size_t i = 0; p.isClean && i < p.rgb.size(); i += 3)
                state.light += static_cast<double>(luminance(Vec3(p.rgb[i], p.rgb[i + 1], p.rgb[i + 2]))) * 3.0 /
                               static_cast<double>(p.rgb.size());
            post(this, [this, state] { take(state); });
        });
    freezer_ = std::make_unique<Freezer>(std::move(store),
                                         [this](const std::shared_ptr<const shot::Shot>& frozen, std::uint64_t) {
                                             const auto shot = inPart(frozen);
                                             hand(shot);
                                             post(this, [this, shot] {
                                                 shot_ = shot;
                                                 Q_EMIT shotChanged();
                                             });
                                         });
    connect(freezer_.get(), &Freezer::failed, this, &Picture::failed);
    followsPaths_ = QSettings().value("followPaths", true).toBool();
    renderer_->setFollowsPaths(followsPaths_);
    thumbnailTimer_.setSingleShot(true);
    thumbnailTimer_.setInterval(150);
    connect(&thumbnailTimer_, &QTimer::timeout, this, &Picture::askThumbnails);
}

Picture::~Picture() { end(); }

void Picture::setFollowsPaths(bool follows)
{
    QSettings().setValue("followPaths", follows);
    followsPaths_ = follows;
    renderer_->setFollowsPaths(follows);
    if (shot_)
        hand(shot_);
}

void Picture::end()
{
    freezer_.reset();
    renderer_.reset();
}

void Picture::take(PictureState state)
{
    if (state.revision < leastRevision_)
        return; // of another part of the picture
    if (!region_.isNull())
        putInto(state);
    state_ = state;
    if (state.samples >= 1 && (state.samples == 1 || state.clean))
        thumbnailTimer_.start();
    if (state.samples == 1 || state.clean || (state.samples & (state.samples - 1)) == 0)
        askCosts();
    Q_EMIT pictureChanged();
}

void Picture::setProject(const scene::Project& project)
{
    project_ = project;
    refreeze();
}

void Picture::refreeze()
{
    if (!project_)
        return;
    Q_EMIT staled();
    freezer_->request(*project_, freeCamera_);
}

void Picture::setSize(const QSize& pixels)
{
    if (pixels == size_ || pixels.width() < 8 || pixels.height() < 8)
        return;
    size_ = pixels;
    region_ = QRectF();
    redraw();
}

void Picture::setFreeCamera(std::optional<geometry::Camera> camera)
{
    freeCamera_ = camera;
    if (freeCamera_)
        freeCamera_->part = {};
    region_ = QRectF();
    updateDrawn();
    Q_EMIT cameraChanged();
    refreeze();
}

geometry::Camera Picture::camera() const
{
    geometry::Camera out = freeCamera_ ? *freeCamera_ : shot_ ? shot_->camera : geometry::Camera();
    out.part = {static_cast<float>(part_.x()), static_cast<float>(part_.y()), static_cast<float>(part_.width()),
                static_cast<float>(part_.height())};
    return out;
}

void Picture::clear()
{
    freeCamera_.reset();
    times_ = 0;
    region_ = QRectF();
    updateDrawn();
    thumbnails_.clear();
    shares_.clear();
    Q_EMIT cameraChanged();
}

bool Picture::isSettled() const { return freezer_->isIdle() && state_.clean && state_.revision == lastRevision_; }

float Picture::distanceAt(const QPointF& place) const
{
    const QSize size = state_.image.size();
    const int x = static_cast<int>(place.x() * size.width()), y = static_cast<int>(place.y() * size.height());
    if (!state_.depth || x < 0 || y < 0 || x >= size.width() || y >= size.height() ||
        state_.depth->size() != static_cast<std::size_t>(size.width()) * static_cast<std::size_t>(size.height()))
        return 0.f;
    return (*state_.depth)[static_cast<std::size_t>(y) * static_cast<std::size_t>(size.width()) +
                           static_cast<std::size_t>(x)];
}

float Picture::depthQuantile(double share) const
{
    if (!state_.depth)
        return 0.f;
    std::vector<float> near;
    for (const float d : *state_.depth)
        if (d < shot::Shot::farDistance * 0.999f)
            near.push_back(d);
    if (near.empty())
        return 0.f;
    const auto at = near.begin() +
                    static_cast<std::ptrdiff_t>(std::clamp(share, 0.0, 1.0) * static_cast<double>(near.size() - 1));
    std::nth_element(near.begin(), at, near.end());
    return *at;
}

std::vector<QString> Picture::notes(const std::string& element) const
{
    std::vector<QString> out;
    if (shot_)
        for (const shot::Note& n : shot_->notes)
            if (element.empty() || n.element == element)
                out.push_back(QString::fromStdString(n.text));
    return out;
}

bool Picture::isInTrouble(const std::string& element) const
{
    return shot_ && std::any_of(shot_->notes.begin(), shot_->notes.end(), [&](const shot::Note& n) {
               return n.isTrouble && (element.empty() || n.element == element);
           });
}

void Picture::askThumbnails()
{
    if (!project_)
        return;
    std::vector<std::string> media, lamps;
    for (const scene::Element& e : project_->elements) {
        if (e.kind->family == scene::Family::Air)
            media.push_back(e.id);
        else if (e.kind->family == scene::Family::Lights)
            lamps.push_back(e.id);
    }
    const shot::Look look = shot_ ? shot_->look : shot::Look();
    renderer_->wantContributions(
        media, lamps, [this, look](const std::string& id, const render::Frame::Contribution& c) {
            QImage image(c.width, c.height, QImage::Format_RGB32);
            if (c.width > 0)
                finish::Display(look).apply(c.rgb.data(), c.width, c.height, image.bits(),
                                            static_cast<std::size_t>(image.bytesPerLine()), 4);
            std::shared_ptr<const ShareMap> share;
            if (c.width > 0 && linear_.width > 0)
                share = std::make_shared<const ShareMap>(
                    ShareMap::of(c.width, c.height, c.rgb, linear_.width, linear_.height, linear_.rgb));
            post(this, [this, id, image, share] {
                thumbnails_[id] = image;
                shares_[id] = share;
                Q_EMIT thumbnailChanged(QString::fromStdString(id));
            });
        });
}

std::shared_ptr<const ShareMap> Picture::share(const std::string& element) const
{
    const auto found = shares_.find(element);
    return found == shares_.end() ? nullptr : found->second;
}

void Picture::askCosts()
{
    renderer_->ask("costs", [this](const render::Frame& frame) {
        post(this, [this, costs = frame.costs()] {
            costs_ = costs;
            Q_EMIT costsChanged();
        });
    });
}

QImage Picture::thumbnail(const std::string& element) const
{
    const auto found = thumbnails_.find(element);
    return found == thumbnails_.end() ? QImage() : found->second;
}

QString Picture::costText(const std::string& id) const
{
    const auto found = costs_.find(id);
    if (found == costs_.end())
        return {};
    const double ms = found->second * state_.secondsPerPass * 1e3;
    return say("%1 ms  %2 %")
        .arg(ms < 9.95 ? figure(ms, 1) : figure(ms, 0))
        .arg(figure(found->second * 100.0, found->second < 0.0995 ? 1 : 0));
}

void Picture::setValueStudy(int tones)
{
    valueStudy_ = tones == 0 ? 0 : std::clamp(tones, 3, 7);
    Q_EMIT pictureChanged();
}
} // namespace hygros::app
