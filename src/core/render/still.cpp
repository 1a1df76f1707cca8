#include "render/still.h"

#include "render/denoise.h"
#include "render/frame.h"
#include "render/path_integrator.h"

#include <chrono>
#include <cmath>

namespace hygros::render {
namespace {
using Clock = std::chrono::steady_clock;
double secondsSince(Clock::time_point start) { return std::chrono::duration<double>(Clock::now() - start).count(); }

} // namespace

Accumulation referenceSums(std::shared_ptr<const shot::Shot> shot, const StillSettings& s, JobControl& job,
                           const std::function<void(const StillProgress&)>& progress)
{
    PathIntegrator paths(std::move(shot), s.width, s.height, s.layers);
    StillProgress now;
    if (!s.kept.empty())
        now.resumed = paths.gathered().resume(s.kept, s.keptFor);
    const auto start = Clock::now();
    auto saved = start;
    const auto keep = [&] {
        if (!s.kept.empty())
            paths.gathered().save(s.kept, s.keptFor);
        saved = Clock::now();
    };
    const auto isDone = [&] {
        now.samples = paths.gathered().meanPaths();
        if (s.noise > 0.f)
            now.noise = paths.gathered().noise();
        const double byNoise = s.noise > 0.f && now.samples >= 8.0
                                   ? std::pow(static_cast<double>(s.noise / std::max(1e-6f, now.noise)), 2.0)
                                   : 0.0;
        const double byTime = s.seconds > 0.0 && now.samples >= 1.0 ? secondsSince(start) / s.seconds : 0.0;
        now.share = static_cast<float>(std::min(1.0, std::max({now.samples / s.samples, byNoise, byTime})));
        return now.samples >= static_cast<double>(s.samples) || byTime >= 1.0 ||
               (s.noise > 0.f && now.samples >= 16.0 && now.noise <= s.noise);
    };
    try {
        while (!isDone()) {
            if (s.noise > 0.f)
                paths.passWhere(s.noise);
            else
                paths.pass();
            job.check();
            std::string said = std::to_string(std::lround(paths.gathered().meanPaths())) + " paths a pixel";
            if (s.noise > 0.f && now.noise < 1.f)
                said += ", noise " + std::to_string(std::lround(now.noise * 1000.f) / 10) + "." +
                        std::to_string(std::lround(now.noise * 1000.f) % 10) + " %";
            job.report(now.share, said);
            if (progress)
                progress(now);
            if (secondsSince(saved) > 60.0)
                keep();
        }
    } catch (const Cancelled&) {
        keep();
        throw;
    }
    keep();
    now.noise = paths.gathered().noise();
    if (progress)
        progress(now);
    return std::move(paths.gathered());
}

Layers renderStill(std::shared_ptr<const shot::Shot> shot, const StillSettings& s, JobControl& job,
                   const std::function<void(const StillProgress&)>& progress)
{
    if (s.air == StillAir::Paths) {
        Accumulation sums = referenceSums(std::move(shot), s, job, progress);
        denoise(sums, {s.denoise}, job);
        return sums.layers();
    }
    Frame frame(std::move(shot), s.width, s.height);
    frame.setFollowsPaths(s.followsPaths);
    if (s.ratios)
        frame.holdRatios(*s.ratios);
    const std::atomic<bool> never{false};
    for (int pass = 0; pass < s.samples; ++pass) {
        frame.trace(pass, never);
        frame.light(never);
        job.check();
        const float share = static_cast<float>(pass + 1) / static_cast<float>(s.samples);
        job.report(share, "Pass " + std::to_string(pass + 1) + " of " + std::to_string(s.samples));
        if (progress)
            progress({share, static_cast<double>(pass + 1), 1.f, false});
    }
    if (s.ratios && !s.ratios->known())
        *s.ratios = frame.ratios();
    Layers layers = frame.layers(s.layers);
    denoise(layers, {s.denoise}, job);
    return layers;
}
} // namespace hygros::render
