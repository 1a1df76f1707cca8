#include "app/compare.h"

#include "app/post.h"
#include "app/words.h"
#include "finish/display.h"

#include <QFileInfo>
#include <QImageReader>
#include <algorithm>
#include <cmath>

namespace hygros::app {

Compare::Compare(Document& document, Picture& picture, Proofs& proofs, app::Reference& reference,
                 std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), document_(document), picture_(picture), proofs_(proofs), reference_(reference),
      store_(std::move(store))
{
    connect(&reference, &app::Reference::referenceChanged, this, [this] {
        if (with_ != With::Reference)
            return;
        image_ = reference_.state().firstLook ? QImage() : reference_.state().image;
        Q_EMIT changed();
    });
    // It gets as far as the picture itself: also while that is edited, when it waits.
    connect(&picture, &Picture::pictureChanged, this, [this] {
        if (!isOn())
            return;
        if (renderer_)
            renderer_->setWantedSamples(std::max(1, picture_.state().samples));
        if (picture_.drawnSize() != QSize(width_, height_) || part_ != picture_.shownPart())
            render();
    });
    connect(&document, &Document::projectChanged, this, [this] {
        if (with_ == With::NoElement && !document_.project().find(element_))
            return end();
        if (with_ == With::NoAir || with_ == With::NoElement)
            render();
    });
    connect(&picture, &Picture::cameraChanged, this, [this] {
        if (!whole_.isNull() && samples_ == 0) {
            fitPart();
            Q_EMIT changed();
        }
        if (with_ == With::NoAir || with_ == With::NoElement)
            render();
    });
    connect(&document, &Document::frameChanged, this, [this] {
        if (with_ == With::NoAir || with_ == With::NoElement)
            render();
    });
    connect(&document, &Document::proofsChanged, this, [this] {
        const auto& all = proofs_.all();
        if (with_ != With::Proof || std::find(all.begin(), all.end(), proof_) != all.end())
            return;
        // Renamed, or gone.
        const auto same = std::find_if(all.begin(), all.end(), [this](const Proofs::One& p) {
            return p->time == proof_->time && p->picture == proof_->picture;
        });
        if (same == all.end())
            return end();
        proof_ = *same;
        Q_EMIT changed();
    });
}

Compare::~Compare() { stop(); }

void Compare::stop()
{
    freezer_.reset();
    renderer_.reset();
    last_ = 0;
    least_ = 0;
}

void Compare::begin(With with)
{
    if (!isOn())
        flipped_ = false;
    with_ = with;
    reference_.setCompared(with == With::Reference);
    image_ = whole_ = QImage();
    samples_ = 0;
    if (freezer_)
        freezer_->cancel();
    least_ = last_ + 1;
}

void Compare::withProof(const Proofs::One& proof)
{
    if (!proof || !proof->isReadable())
        return;
    begin(With::Proof);
    proof_ = proof;
    whole_ = proofs_.picture(proof);
    fitPart();
    render();
    Q_EMIT changed();
}

void Compare::withReference()
{
    stop();
    begin(With::Reference);
    image_ = reference_.state().firstLook ? QImage() : reference_.state().image;
    Q_EMIT changed();
}

void Compare::fitPart()
{
    const QRectF part = picture_.shownPart();
    image_ = part == QRectF(0, 0, 1, 1) ? whole_
                                        : whole_.copy(static_cast<int>(part.x() * whole_.width()),
                                                      static_cast<int>(part.y() * whole_.height()),
                                                      std::max(1, static_cast<int>(part.width() * whole_.width())),
                                                      std::max(1, static_cast<int>(part.height() * whole_.height())));
}

void Compare::withoutAir()
{
    begin(With::NoAir);
    render();
    Q_EMIT changed();
}

void Compare::withoutElement(const std::string& element)
{
    if (!document_.project().find(element))
        return;
    begin(With::NoElement);
    element_ = element;
    render();
    Q_EMIT changed();
}

bool Compare::withFile(const QString& file)
{
    QImageReader reader(file);
    reader.setAutoTransform(true);
    const QImage image = reader.read();
    if (image.isNull()) {
        Q_EMIT failed(
            say("“%1” cannot be read as a picture: %2.").arg(QFileInfo(file).fileName(), reader.errorString()));
        return false;
    }
    begin(With::File);
    file_ = file;
    whole_ = image.convertToFormat(QImage::Format_RGB32);
    fitPart();
    stop();
    Q_EMIT changed();
    return true;
}

void Compare::end()
{
    begin(With::Nothing);
    proof_.reset();
    stop();
    Q_EMIT changed();
}

void Compare::setBy(By by)
{
    by_ = by;
    flipped_ = by == By::Flip;
    Q_EMIT changed();
}

void Compare::flip()
{
    if (!isOn())
        return;
    flipped_ = by_ == By::Flip ? !flipped_ : true;
    by_ = By::Flip;
    Q_EMIT changed();
}

void Compare::setSeam(const QPointF& place, double angle)
{
    seamPlace_ = QPointF(std::clamp(place.x(), 0.0, 1.0), std::clamp(place.y(), 0.0, 1.0));
    seamAngle_ = std::remainder(angle, 360.0);
    Q_EMIT changed();
}

void Compare::setScale(double times)
{
    scale_ = std::clamp(times, 1.0, 64.0);
    Q_EMIT changed();
}

std::optional<scene::Project> Compare::other() const
{
    switch (with_) {
    case With::Proof: return proof_->state;
    case With::NoAir:
    case With::NoElement: {
        scene::Project p = document_.whole();
        for (scene::Element& e : p.elements)
            if (with_ == With::NoElement
                    ? e.id == element_
                    : e.kind->family == scene::Family::Air || e.kind->family == scene::Family::Fire) {
                e.muted = true;
                e.soloed = false;
            }
        return p;
    }
    case With::Nothing:
    case With::Reference:
    case With::File: break;
    }
    return std::nullopt;
}

void Compare::render()
{
    auto project = other();
    if (!project || picture_.size().width() < 32)
        return;
    width_ = picture_.drawnSize().width();
    height_ = picture_.drawnSize().height();
    part_ = picture_.shownPart();
    if (!renderer_) {
        renderer_ = std::make_unique<render::LiveRenderer>([this](const render::LivePicture& p) {
            if (!p.trouble.empty() || p.samples < 1)
                return;
            QImage image(p.width, p.height, QImage::Format_RGB32);
            finish::Display(p.look).apply(p.rgb.data(), p.width, p.height, image.bits(),
                                          static_cast<std::size_t>(image.bytesPerLine()), 4);
            post(this, [this, image, samples = p.samples, revision = p.revision] {
                if (revision < least_ || !isOn() || with_ == With::File)
                    return;
                // A proof that was kept at this size stands until it is as clean again.
                if (with_ == With::Proof && samples < proof_->samples && samples_ == 0 && image_.size() == image.size())
                    return;
                image_ = image;
                samples_ = samples;
                Q_EMIT changed();
            });
        });
        renderer_->setFollowsPaths(picture_.followsPaths());
        freezer_ = std::make_unique<Freezer>(store_,
                                             [this](const std::shared_ptr<const shot::Shot>& shot, std::uint64_t) {
                                                 last_ = renderer_->setShot(picture_.inPart(shot), width_, height_);
                                             });
        connect(freezer_.get(), &Freezer::failed, this, &Compare::failed);
    }
    renderer_->setWantedSamples(std::max(1, picture_.state().samples));
    freezer_->request(std::move(*project), with_ == With::Proof ? std::nullopt : picture_.freeCamera());
}

QImage Compare::difference(const QImage& shown) const
{
    if (shown.isNull() || image_.isNull())
        return {};
    const QImage a = shown.convertToFormat(QImage::Format_RGB32),
                 b = image_.size() == a.size()
                         ? image_
                         : image_.scaled(a.size(), Qt::IgnoreAspectRatio, Qt::SmoothTransformation)
                               .convertToFormat(QImage::Format_RGB32);
    QImage out(a.size(), QImage::Format_RGB32);
    const auto channel = [this](int x, int y) {
        return std::clamp(static_cast<int>(std::lround(127.5 + 0.5 * scale_ * (x - y))), 0, 255);
    };
    for (int y = 0; y < a.height(); ++y) {
        const auto* p = reinterpret_cast<const QRgb*>(a.constScanLine(y));
        const auto* q = reinterpret_cast<const QRgb*>(b.constScanLine(y));
        auto* to = reinterpret_cast<QRgb*>(out.scanLine(y));
        for (int x = 0; x < a.width(); ++x)
            to[x] = qRgb(channel(qRed(p[x]), qRed(q[x])), channel(qGreen(p[x]), qGreen(q[x])),
                         channel(qBlue(p[x]), qBlue(q[x])));
    }
    return out;
}

double Compare::meanDifference(const QImage& shown) const
{
    if (shown.isNull() || image_.size() != shown.size())
        return 0.0;
    double sum = 0.0;
    for (int y = 0; y < shown.height(); ++y)
        for (int x = 0; x < shown.width(); ++x) {
            const QRgb p = shown.pixel(x, y), q = image_.pixel(x, y);
            sum += std::abs(qRed(p) - qRed(q)) + std::abs(qGreen(p) - qGreen(q)) + std::abs(qBlue(p) - qBlue(q));
        }
    return sum / (3.0 * shown.width() * shown.height());
}

QString Compare::words() const
{
    QString what;
    switch (with_) {
    case With::Nothing: return {};
    case With::Proof: what = QString::fromStdString(proof_->note); break;
    case With::NoAir: what = say("Without air"); break;
    case With::NoElement: {
        const scene::Element* e = document_.project().find(element_);
        what = say("Without ") + QString::fromStdString(e ? e->name : element_);
        break;
    }
    case With::Reference: {
        const ReferenceState& r = reference_.state();
        return r.image.isNull() || r.firstLook ? say("the reference, which begins once the picture is clean")
                                               : say("Reference · %1 paths%2")
                                                     .arg(figure(r.paths, r.paths < 10 ? 1 : 0))
                                                     .arg(r.noise < 1.f ? " · " + r.noiseInWords() : QString());
    }
    case With::File: return QFileInfo(file_).fileName();
    }
    return samples_ > 0           ? say("%1 · %2 samples").arg(what).arg(samples_)
           : with_ == With::Proof ? say("%1 · as kept, %2 samples").arg(what).arg(proof_->samples)
                                  : what + " · …";
}
} // namespace hygros::app
