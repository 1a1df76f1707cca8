#include "water.h"

#include "base/parallel.h"
#include "elements/kinds.h"
#include "media/open_water.h"
#include "render/frame.h"
#include "scene/project.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <fftw3.h>
#include <functional>
#include <vector>

namespace hygros::bench {
namespace {
constexpr int width = 960, height = 540;
const std::atomic<bool> never{false};

double fastest(int times, const std::function<void()>& work)
{
    double best = 1e300;
    for (int i = 0; i < times; ++i) {
        const auto start = std::chrono::steady_clock::now();
        work();
        best = std::min(best,
                        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count());
    }
    return best;
}

double passOf(const std::shared_ptr<const shot::Shot>& shot)
{
    render::Frame frame(shot, width, height);
    std::vector<float> rgb;
    int pass = 0;
    return fastest(4, [&] {
        frame.trace(pass++, never);
        frame.light(never);
        frame.resolve(rgb);
    });
}
/// So many bare transforms of 512², on all threads.
double bareTransforms(std::size_t planes)
{
    constexpr int n = 512;
    constexpr std::size_t half = std::size_t(n) * (n / 2 + 1), all = std::size_t(n) * n;
    fftwf_complex* in = fftwf_alloc_complex(half * planes);
    float* out = fftwf_alloc_real(all * planes);
    std::fill_n(reinterpret_cast<float*>(in), half * planes * 2, 0.01f);
    const fftwf_plan plan = fftwf_plan_dft_c2r_2d(n, n, in, out, FFTW_ESTIMATE | FFTW_DESTROY_INPUT);
    const double time = fastest(6, [&] {
        parallelFor(planes, [&](std::size_t p) { fftwf_execute_dft_c2r(plan, in + p * half, out + p * all); });
    });
    fftwf_destroy_plan(plan);
    fftwf_free(in);
    fftwf_free(out);
    return time;
}
} // namespace

Against waterField()
{
    JobControl job;
    media::Swell swell;
    swell.wind = 12.0;
    swell.fetch = 1e6;
    swell.shortest = 0.37 * swell.peakLength(); // one tile holds all
    const auto modes = std::make_shared<const media::SwellModes>(swell, 512, 1, job);
    double seconds = 0.0;
    const double own = fastest(8, [&] { media::SwellField(modes, {seconds += 0.04, 0.0, 1.0}, job); });
    return {own, bareTransforms(8)};
}

Against waterWake()
{
    media::WakeGrid grid;
    grid.n = 512;
    media::WakeState state(grid);
    const std::vector<float> push(state.height.size(), 1e-3f);
    const double own = fastest(8, [&] { state = media::stepped(state, grid, Vec2(0.f), push, 0.04); });
    return {own, 2.0 * bareTransforms(1)};
}

Against waterFoam()
{
    JobControl job;
    media::Swell swell;
    swell.wind = 12.0;
    swell.fetch = 1e5;
    const auto modes = std::make_shared<const media::SwellModes>(swell, 512, 1, job);
    double seconds = 0.0;
    std::shared_ptr<const media::SwellField> field;
    const double fieldTime = fastest(5, [&] {
        field = std::make_shared<const media::SwellField>(modes, media::SwellMoment{seconds += 0.04, 0.0, 1.0}, job);
    });
    media::OpenWater::Settings to;
    const double bare = fastest(8, [&] { media::OpenWater(field, to); });
    to.foam = 0.02f;
    to.foamHalves = 2.5f;
    to.crests = Vec2(6.f, 0.f);
    return {fastest(8, [&] { media::OpenWater(field, to); }) - bare, fieldTime};
}

namespace {
/// With its water alone: no boat, no buoy, as much foam as is usual.
scene::Project waterOf(const std::string& estuary)
{
    scene::Project p = scene::loadProject(estuary, elements::findKind);
    std::erase_if(p.elements, [](const scene::Element& e) { return e.id == "tender" || e.id == "buoy"; });
    p.find("water")->set("foam", 1.0);
    return p;
}
} // namespace

Against waterPass(const std::string& estuary)
{
    JobControl job;
    Store store;
    scene::Project p = waterOf(estuary);
    const double own = passOf(elements::freeze(p, store, job));
    p.find("water")->set("speed", 0.0);
    return {own, passOf(elements::freeze(p, store, job))};
}

double waterEdit(const std::string& estuary)
{
    JobControl job;
    Store store;
    scene::Project p = waterOf(estuary);
    double wind = 8.0;
    std::vector<float> rgb;
    return fastest(5, [&] {
        p.find("water")->set("speed", wind += 0.37);
        render::Frame frame(elements::freeze(p, store, job), width * 3 / 8, height * 3 / 8);
        frame.traceSurfaces(0, never);
        frame.quickPicture(rgb, never);
    });
}
} // namespace hygros::bench
