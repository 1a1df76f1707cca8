#include "app/reference.h"

#include "app/choices.h"
#include "app/post.h"
#include "app/words.h"

#include "elements/kinds.h"
#include "finish/display.h"

#include <QDir>

namespace hygros::app {
namespace {

/// Where the paths of a state are kept; the oldest of them go.
std::filesystem::path keptFile(const std::string& state)
{
    const Choices choices = Choices::now();
    const QString folder = choices.cache() + "/paths";
    if (!QDir().mkpath(folder))
        return {};
    // The newest, as far as they fit.
    double bytes = 0.0;
    for (const QFileInfo& file : QDir(folder).entryInfoList({"*.exr"}, QDir::Files, QDir::Time))
        if ((bytes += static_cast<double>(file.size())) > choices.cacheGb * 1e9)
            QFile::remove(file.absoluteFilePath());
    return (folder + "/" + QString::fromStdString(state) + ".exr").toStdString();
}
} // namespace

Reference::Reference(Picture& picture, std::function<std::optional<scene::Project>()> project, QObject* parent)
    : QObject(parent), picture_(picture), project_(std::move(project))
{
    connect(&picture, &Picture::staled, this, &Reference::drop);
    connect(&picture, &Picture::pictureChanged, this, [this] {
        if (picture_.state().clean)
            start();
    });
}

void Reference::setShown(Shown shown)
{
    if (shown == shown_)
        return;
    shown_ = shown;
    if (!isWanted() && renderer_)
        renderer_->stop();
    else
        start();
    Q_EMIT referenceChanged();
}

void Reference::setCompared(bool compared)
{
    if (compared == compared_)
        return;
    compared_ = compared;
    if (!isWanted() && renderer_)
        renderer_->stop();
    else
        start();
}

void Reference::setGoal(float noise, float denoise)
{
    noise_ = noise;
    denoise_ = denoise;
    start();
    Q_EMIT referenceChanged();
}

void Reference::drop()
{
    if (renderer_)
        renderer_->stop();
    if (!state_.image.isNull() || state_.paths > 0.0) {
        state_ = {};
        of_ = 0;
        Q_EMIT referenceChanged();
    }
}

void Reference::start()
{
    const auto project = project_();
    const auto shot = picture_.shot();
    if (!isWanted() || !project || !picture_.isSettled() || !shot)
        return;
    if (!renderer_)
        renderer_ = std::make_unique<render::ReferenceRenderer>(
            [this, display = std::shared_ptr<finish::Display>(),
             of = shot::Look()](const render::ReferencePicture& p) mutable {
                if (!display || !(of == p.look)) {
                    display = std::make_shared<finish::Display>(p.look);
                    of = p.look;
                }
                QImage image;
                if (!p.rgb.empty()) {
                    image = QImage(p.width, p.height, QImage::Format_RGB32);
                    display->apply(p.rgb.data(), p.width, p.height, image.bits(),
                                   static_cast<std::size_t>(image.bytesPerLine()), 4);
                }
                render::ReferencePicture facts = p;
                facts.rgb.clear();
                post(this, [this, facts, image] { take(facts, image); });
            });
    const QSize size = picture_.drawnSize();
    std::string state = elements::stateOf(*project, *shot, size.width(), size.height());
    if (const auto& c = picture_.freeCamera())
        for (const float v : {c->position.x, c->position.y, c->position.z, c->aim.x, c->aim.y, c->aim.z})
            state += "_" + std::to_string(std::bit_cast<std::uint32_t>(v));
    if (const geometry::PicturePart& part = shot->camera.part; !part.isWhole())
        for (const float v : {part.x, part.y, part.width, part.height})
            state += "_" + std::to_string(std::bit_cast<std::uint32_t>(v));
    const std::uint64_t revision = picture_.state().revision;
    render::ReferenceTask task{shot, size.width(), size.height(), noise_, denoise_, keptFile(state), state, revision};
    of_ = revision;
    renderer_->start(std::move(task));
}

void Reference::take(const render::ReferencePicture& p, const QImage& image)
{
    if (p.revision != of_)
        return;
    if (!p.trouble.empty())
        Q_EMIT failed(say("Reference: ") + QString::fromStdString(p.trouble));
    const double live = picture_.state().light;
    if (!image.isNull())
        state_ = {image,
                  p.firstLook ? 0.0 : p.paths,
                  p.noise,
                  p.denoised,
                  p.light > 0.0 && live > 0.0 ? live / p.light : 0.0,
                  p.done,
                  p.firstLook};
    Q_EMIT referenceChanged();
}

QString ReferenceState::noiseInWords() const
{
    return (denoised ? say("noise %1 % before denoising") : say("noise %1 %")).arg(figure(double(noise) * 100.0, 1));
}
} // namespace hygros::app
