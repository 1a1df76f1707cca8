#include "render/still.h"

#include "render/frame.h"
#include "render/path_integrator.h"

namespace hygros::render {

Layers renderStill(std::shared_ptr<const shot::Shot> shot, const StillSettings& s, JobControl& job,
                   const std::function<void(float, int)>& progress)
{
    const auto after = [&](int pass) {
        job.check();
        const float share = static_cast<float>(pass) / static_cast<float>(s.samples);
        job.report(share, "Pass " + std::to_string(pass) + " of " + std::to_string(s.samples));
        if (progress)
            progress(share, pass);
    };
    if (s.air == StillAir::Paths) {
        PathIntegrator paths(std::move(shot), s.width, s.height);
        for (int pass = 0; pass < s.samples; ++pass) {
            paths.pass(pass);
            after(pass + 1);
        }
        return paths.layers();
    }
    Frame frame(std::move(shot), s.width, s.height);
    const std::atomic<bool> never{false};
    for (int pass = 0; pass < s.samples; ++pass) {
        frame.trace(pass, never);
        frame.light(never);
        after(pass + 1);
    }
    return frame.layers(s.layers);
}
} // namespace hygros::render
