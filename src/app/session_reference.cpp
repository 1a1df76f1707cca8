/// The reference picture beside the live one: when it begins, where it is kept, and how both compare.
#include "app/session.h"

#include "finish/display.h"

#include <QDir>
#include <QStandardPaths>

namespace hygros::app {
namespace {
constexpr int mostKept = 12; ///< states whose paths are kept between sessions

/// Where the paths of a state are kept; the oldest of them go.
std::filesystem::path keptFile(const std::string& state)
{
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + "/paths";
    if (!QDir().mkpath(folder))
        return {};
    const QFileInfoList files = QDir(folder).entryInfoList({"*.exr"}, QDir::Files, QDir::Time);
    for (int i = mostKept; i < files.size(); ++i)
        QFile::remove(files[i].absoluteFilePath());
    return (folder + "/" + QString::fromStdString(state) + ".exr").toStdString();
}
} // namespace

void Session::setShown(Shown shown)
{
    if (shown == shown_)
        return;
    shown_ = shown;
    if (shown_ == Shown::Live && referenceRenderer_)
        referenceRenderer_->stop();
    else
        startReference();
    Q_EMIT referenceChanged();
}

void Session::setReferenceGoal(float noise, float denoise)
{
    referenceNoise_ = noise;
    referenceDenoise_ = denoise;
    startReference();
    Q_EMIT referenceChanged();
}

void Session::dropReference()
{
    if (referenceRenderer_)
        referenceRenderer_->stop();
    if (!reference_.image.isNull() || reference_.paths > 0.0) {
        reference_ = {};
        referenceOf_ = 0;
        Q_EMIT referenceChanged();
    }
}

void Session::startReference()
{
    if (shown_ == Shown::Live || previewed_ || !isSettled() || !shot_)
        return;
    if (!referenceRenderer_)
        referenceRenderer_ = std::make_unique<render::ReferenceRenderer>(
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
                QMetaObject::invokeMethod(this, [this, facts, image] { takeReference(facts, image); });
            });
    std::string state = elements::stateOf(project(), *shot_, pictureSize_.width(), pictureSize_.height());
    if (freeCamera_)
        for (const float v : {freeCamera_->position.x, freeCamera_->position.y, freeCamera_->position.z,
                              freeCamera_->aim.x, freeCamera_->aim.y, freeCamera_->aim.z})
            state += "_" + std::to_string(std::bit_cast<std::uint32_t>(v));
    render::ReferenceTask task{shot_,           pictureSize_.width(), pictureSize_.height(),
                               referenceNoise_, referenceDenoise_,    keptFile(state),
                               state,           picture_.revision};
    referenceOf_ = picture_.revision;
    referenceRenderer_->start(std::move(task));
}

void Session::takeReference(const render::ReferencePicture& p, const QImage& image)
{
    if (p.revision != referenceOf_)
        return;
    if (!p.trouble.empty())
        Q_EMIT failed("Reference: " + QString::fromStdString(p.trouble));
    if (!image.isNull())
        reference_ = {image, p.paths, p.noise, p.light > 0.0 && picture_.light > 0.0 ? picture_.light / p.light : 0.0,
                      p.done};
    Q_EMIT referenceChanged();
}
} // namespace hygros::app
