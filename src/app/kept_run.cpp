#include "app/kept_run.h"

#include "app/post.h"
#include "app/words.h"
#include "base/error.h"
#include "base/numbered.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "finish/movie.h"
#include "render/still.h"

#include <QDir>
#include <QElapsedTimer>
#include <QFileInfo>
#include <algorithm>
#include <limits>

namespace hygros::app {

KeptRun::KeptRun(Document& document, Picture& picture, Jobs& jobs, std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), document_(document), picture_(picture), jobs_(jobs), store_(std::move(store))
{
    judgeSoon_.setSingleShot(true);
    connect(&judgeSoon_, &QTimer::timeout, this, &KeptRun::judgeSome);
    connect(&document, &Document::projectChanged, this, &KeptRun::judgeSoon);
    connect(&document, &Document::projectReplaced, this, &KeptRun::clear);
}

std::string KeptRun::stateOf(const scene::Project& whole, int frame) const
{
    scene::Project at = whole;
    at.frame = frame;
    return std::to_string(std::hash<std::string>()(elements::momentOf(at)));
}

void KeptRun::judgeSoon()
{
    judgeFrom_ = std::numeric_limits<int>::min();
    judgeSoon_.start(120);
}

void KeptRun::judgeSome()
{
    // A few at a time, so that a hand on a ruler feels nothing of it.
    QElapsedTimer clock;
    clock.start();
    const scene::Project whole = document_.whole();
    auto next = kept_.lower_bound(judgeFrom_);
    for (; next != kept_.end() && clock.elapsed() < 4; ++next)
        states_[next->first] = stateOf(whole, next->first) == next->second.state ? State::There : State::Stale;
    if (next != kept_.end()) {
        judgeFrom_ = next->first;
        judgeSoon_.start(0);
    }
    Q_EMIT changed();
}

void KeptRun::judge()
{
    judgeSoon_.stop();
    states_.clear();
    const scene::Project whole = document_.whole();
    for (const auto& [frame, kept] : kept_)
        states_[frame] = stateOf(whole, frame) == kept.state ? State::There : State::Stale;
    Q_EMIT changed();
}

KeptRun::State KeptRun::state(int frame) const
{
    const auto found = states_.find(frame);
    return found == states_.end() ? State::Missing : found->second;
}

bool KeptRun::isWhole() const
{
    if (judgeSoon_.isActive())
        return false;
    const scene::TimeSettings& t = document_.project().time;
    if (kept_.size() < static_cast<std::size_t>(t.last - t.first + 1))
        return false;
    for (int f = t.first; f <= t.last; ++f)
        if (state(f) != State::There)
            return false;
    return true;
}

QImage KeptRun::image(int frame) const
{
    const auto found = kept_.find(frame);
    return found != kept_.end() && state(frame) == State::There ? found->second.image : QImage();
}

std::size_t KeptRun::bytes() const
{
    std::size_t all = 0;
    for (const auto& [frame, kept] : kept_)
        all += static_cast<std::size_t>(kept.image.sizeInBytes());
    return all;
}

void KeptRun::clear()
{
    cancel();
    kept_.clear();
    states_.clear();
    Q_EMIT changed();
}

void KeptRun::cancel()
{
    if (job_)
        jobs_.cancel(job_);
}

void KeptRun::draw(int passes)
{
    if (isDrawing())
        return;
    judge();
    const scene::Project whole = document_.whole();
    const scene::TimeSettings& t = whole.time;
    // All of a run are of one size, whatever becomes of the window meanwhile.
    const bool some = std::any_of(states_.begin(), states_.end(),
                                  [](const auto& s) { return s.second == State::There; });
    const QSize size = some ? kept_.begin()->second.image.size() : picture_.size();
    if (!some)
        kept_.clear();
    const std::size_t each = static_cast<std::size_t>(size.width()) * static_cast<std::size_t>(size.height()) * 4;
    // What lies outside the range goes first.
    std::erase_if(kept_, [&](const auto& k) { return k.first < t.first || k.first > t.last; });
    struct Wanted {
        int frame;
        std::string state;
    };
    std::vector<Wanted> wanted;
    std::size_t room = limit / each, there = 0;
    for (const auto& [f, state] : states_)
        if (f >= t.first && f <= t.last && state == State::There)
            ++there;
    for (int f = t.first; f <= t.last && there + wanted.size() < room; ++f)
        if (state(f) != State::There)
            wanted.push_back({f, stateOf(whole, f)});
    if (there + wanted.size() < static_cast<std::size_t>(t.last - t.first + 1))
        Q_EMIT told(say("Pictures of %1 frames fit into the memory for them; the others are not drawn.").arg(room));
    if (wanted.empty())
        return;
    const bool paths = picture_.followsPaths();
    job_ = jobs_.run(
        say("Drawing %1 frames").arg(wanted.size()),
        [this, whole, wanted, size, passes, paths, store = store_](JobControl& job) {
            render::StillSettings settings;
            settings.width = size.width();
            settings.height = size.height();
            settings.samples = passes;
            settings.followsPaths = paths;
            settings.ratios = std::make_shared<render::PathRatios>();
            render::StillSequence sequence;
            for (std::size_t i = 0; i < wanted.size(); ++i) {
                job.check();
                job.report(static_cast<float>(i) / static_cast<float>(wanted.size()),
                           said("frame ") + std::to_string(wanted[i].frame));
                scene::Project now = whole;
                now.frame = wanted[i].frame;
                const auto shots = elements::freezeOpen(now, *store, job, elements::shutterPieces(passes),
                                                        elements::Missing::Told);
                JobControl one; // whose progress is its own
                const render::Layers layers = sequence.next({shots.begin(), shots.end()}, settings, one,
                                                            [&](const render::StillProgress&) { job.check(); });
                QImage image(size, QImage::Format_RGB32);
                std::vector<float> rgb(layers.plate.size());
                for (std::size_t k = 0; k < rgb.size(); ++k)
                    rgb[k] = layers.plate[k] * layers.transmittance[k] + layers.air[k];
                finish::Display(shots.front()->look)
                    .apply(rgb.data(), size.width(), size.height(), image.bits(),
                           static_cast<std::size_t>(image.bytesPerLine()), 4);
                post(this, [this, frame = wanted[i].frame, image, state = wanted[i].state] {
                    kept_[frame] = {image, state};
                    judgeSoon();
                });
            }
        },
        [this] {
            job_ = 0;
            judge();
        },
        [this] {
            job_ = 0;
            judge();
        });
    Q_EMIT changed();
}

void KeptRun::write(const QString& file)
{
    const scene::TimeSettings t = document_.project().time;
    judge();
    if (!isWhole()) {
        Q_EMIT failed(say("Not all frames from first to last are kept as they are now: draw them first."));
        return;
    }
    std::vector<QImage> images;
    for (int f = t.first; f <= t.last; ++f)
        images.push_back(image(f));
    if (!file.contains('#') && !finish::isMovie(file.toStdString())) {
        Q_EMIT failed(
            say("A movie's name ends in .mp4, .mov, .mkv or .webm; numbered pictures need # where the number goes, "
                "such as fog.####.png."));
        return;
    }
    if (file.contains('#')) {
        jobs_.run(
            say("Writing ") + QFileInfo(file).fileName(),
            [images, file, t](JobControl& job) {
                for (std::size_t i = 0; i < images.size(); ++i) {
                    job.check();
                    job.report(static_cast<float>(i) / static_cast<float>(images.size()), "");
                    const QString name = QString::fromStdString(
                        numbered(file.toStdString(), t.first + static_cast<int>(i)));
                    const QString aside = name + ".part.png";
                    QFile::remove(aside);
                    if (!images[i].save(aside, "PNG") || (QFile::exists(name) && !QFile::remove(name)) ||
                        !QFile::rename(aside, name)) {
                        QFile::remove(aside);
                        throw workingError(said("Writing"), name.toStdString(), said("it cannot be written there"),
                                           std::to_string(i) + said(" pictures before it were."));
                    }
                }
            },
            [this, file] { Q_EMIT told(say("Written: ") + file); });
        return;
    }
    jobs_.run(
        say("Writing ") + QFileInfo(file).fileName(),
        [images, file, t](JobControl& job) {
            finish::MovieWriter movie(file.toStdString(), images[0].width(), images[0].height(), t.rate.frames,
                                      t.rate.seconds);
            for (std::size_t i = 0; i < images.size(); ++i) {
                job.check();
                job.report(static_cast<float>(i) / static_cast<float>(images.size()), "");
                movie.add(images[i].constBits(), static_cast<std::size_t>(images[i].bytesPerLine()));
            }
            movie.finish();
        },
        [this, file] { Q_EMIT told(say("Written: ") + file); });
}
} // namespace hygros::app
