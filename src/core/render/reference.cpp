#include "render/reference.h"

#include "render/denoise.h"
#include "render/rain.h"
#include "render/shimmer.h"
#include "render/sparks.h"

#include <chrono>

namespace hygros::render {
using Clock = std::chrono::steady_clock;
namespace {
double secondsSince(Clock::time_point t) { return std::chrono::duration<double>(Clock::now() - t).count(); }
} // namespace

ReferenceRenderer::ReferenceRenderer(std::function<void(const ReferencePicture&)> onPicture)
    : onPicture_(std::move(onPicture)), thread_([this] { run(); })
{
}

ReferenceRenderer::~ReferenceRenderer()
{
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
        stop_ = true;
    }
    wake_.notify_all();
    thread_.join();
}

void ReferenceRenderer::start(ReferenceTask task)
{
    {
        const std::lock_guard lock(mutex_);
        next_ = std::make_unique<ReferenceTask>(std::move(task));
        stop_ = true;
    }
    wake_.notify_all();
}

void ReferenceRenderer::stop()
{
    const std::lock_guard lock(mutex_);
    next_.reset();
    stop_ = true;
}

void ReferenceRenderer::run()
{
    std::unique_lock lock(mutex_);
    while (!quit_) {
        if (!next_) {
            wake_.wait(lock);
            continue;
        }
        const auto task = std::move(next_);
        next_ = nullptr;
        stop_ = false;
        lock.unlock();
        try {
            follow(*task);
        } catch (const std::exception& e) {
            ReferencePicture p;
            p.revision = task->revision;
            p.trouble = e.what();
            onPicture_(p);
        }
        lock.lock();
    }
}

void ReferenceRenderer::keep(const ReferenceTask& task)
{
    const double paths = paths_->gathered().meanPaths();
    if (task.kept.empty() || paths <= kept_)
        return;
    kept_ = paths;
    try {
        paths_->gathered().save(task.kept, task.keptFor);
    } catch (const std::exception& e) {
        trouble_ = e.what(); // the picture goes on all the same
    }
}

ReferencePicture ReferenceRenderer::pictureOf(const ReferenceTask& task, const PathIntegrator& paths,
                                              float denoised) const
{
    const Accumulation& sums = paths.gathered();
    ReferencePicture p;
    p.width = sums.width;
    p.height = sums.height;
    p.look = task.shot->look;
    p.paths = sums.meanPaths();
    p.noise = sums.noise();
    p.revision = task.revision;
    p.rgb = paths.picture();
    for (std::size_t i = 0; i < p.rgb.size(); i += 3)
        p.light += static_cast<double>(luminance(Vec3(p.rgb[i], p.rgb[i + 1], p.rgb[i + 2]))) * 3.0 /
                   static_cast<double>(p.rgb.size());
    p.denoised = denoised > 0.f;
    if (p.denoised) {
        Accumulation filtered = sums;
        JobControl job;
        denoise(filtered, {denoised, 6, 2}, job);
        for (std::size_t i = 0; i < p.rgb.size(); ++i)
            p.rgb[i] = (filtered.set[i] + filtered.air[i] + (filtered.veils.empty() ? 0.f : filtered.veils[i])) /
                       std::max(1.f, filtered.paths[i / 3]);
    }
    Shimmer(*task.shot, p.width, p.height).bend(p.rgb, 3);
    RainPicture(*task.shot, p.width, p.height).addTo(p.rgb);
    SparkPicture(*task.shot, p.width, p.height).addTo(p.rgb);
    return p;
}

void ReferenceRenderer::publish(const ReferenceTask& task, bool done, const std::string& trouble)
{
    ReferencePicture p = pictureOf(task, *paths_, paths_->gathered().meanPaths() >= 4.0 ? task.denoise : 0.f);
    p.done = done;
    p.trouble = trouble;
    onPicture_(p);
}

void ReferenceRenderer::lookFirst(const ReferenceTask& task)
{
    constexpr int smaller = 4, leastWidth = 320;
    constexpr double seconds = 0.4, fewest = 2.0, most = 16.0;
    if (task.denoise <= 0.f || task.width < leastWidth || task.height < leastWidth / 2)
        return;
    const auto start = Clock::now();
    PathIntegrator small(task.shot, task.width / smaller, task.height / smaller);
    const auto paths = [&] { return small.gathered().meanPaths(); };
    while (!stop_ && (paths() < fewest || (paths() < most && secondsSince(start) < seconds)))
        small.pass(&stop_);
    if (stop_)
        return;
    ReferencePicture p = pictureOf(task, small, 1.f);
    p.firstLook = true;
    p.noise = 1.f;
    p.light = 0.0; // too few to say
    onPicture_(p);
}

void ReferenceRenderer::follow(const ReferenceTask& task)
{
    if (!paths_ || shot_ != task.shot || paths_->gathered().width != task.width ||
        paths_->gathered().height != task.height) {
        paths_ = std::make_unique<PathIntegrator>(task.shot, task.width, task.height);
        shot_ = task.shot;
        kept_ = 0.0;
        trouble_.clear();
        if (!task.kept.empty()) {
            try {
                if (paths_->gathered().resume(task.kept, task.keptFor))
                    kept_ = paths_->gathered().meanPaths();
            } catch (const std::exception& e) {
                trouble_ = e.what();
            }
        }
        if (paths_->gathered().meanPaths() < 1.0)
            lookFirst(task);
    }
    Clock::time_point shown, saved = Clock::now();
    double cost = 0.0; // of showing
    for (;;) {
        const double paths = paths_->gathered().meanPaths();
        const bool done = paths >= 16.0 && paths_->gathered().noise() <= task.noise;
        // Shown at once, then so seldom that showing takes a small part of the time.
        if (paths >= 1.0 && (done || secondsSince(shown) > std::max(0.4, 6.0 * cost))) {
            const auto start = Clock::now();
            publish(task, done, trouble_);
            cost = secondsSince(start);
            shown = Clock::now();
        }
        if (done || stop_)
            break;
        paths_->passWhere(task.noise, &stop_);
        if (secondsSince(saved) > 30.0) {
            keep(task);
            saved = Clock::now();
        }
    }
    keep(task);
}
} // namespace hygros::render
