#include "weather.h"

#include "elements/kinds.h"
#include "geometry/cover.h"
#include "render/frame.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cmath>
#include <functional>

namespace hygros::bench {
namespace {
constexpr int width = 960, height = 540;
const std::atomic<bool> never{false};

double milliseconds(const std::function<void()>& work)
{
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}
} // namespace

Weather weather(const scene::Project& project)
{
    Weather out;
    Store store;
    JobControl job;
    scene::Project p = project;
    scene::Element& rain = p.add(*elements::findKind("rain"), "Rain");
    rain.set("rate", 50.0);
    rain.set("drawn", std::int64_t(101000)); // of these some are hidden
    const auto shot = elements::freeze(p, store, job);
    std::vector<float> picture(std::size_t(width) * height * 3, 0.5f);
    out.draw = 1e300;
    for (int i = 0; i < 3; ++i)
        out.draw = std::min(out.draw, milliseconds([&] {
                                const render::RainPicture drops(*shot, width, height);
                                drops.addTo(picture);
                                out.drops = double(drops.drops());
                            }));
    // As the window does it, from the default.
    rain.set("drawn", std::int64_t(40000));
    render::Frame frame(elements::freeze(p, store, job), width, height);
    frame.traceSurfaces(0, never);
    std::vector<float> rgb;
    frame.quickPicture(rgb, never);
    out.edit = 1e300;
    for (int i = 0; i < 4; ++i) {
        rain.set("rate", 20.0 + i);
        rain.set("driftSpeed", 1.0 + i);
        out.edit = std::min(out.edit, milliseconds([&] {
                                frame.setAir(elements::freeze(p, store, job), false);
                                frame.quickPicture(rgb, never);
                            }));
    }
    return out;
}

double snowCover(const scene::Project& project)
{
    Store store;
    JobControl job;
    const auto shot = elements::freeze(project, store, job);
    geometry::CoverSettings s;
    s.around = {Vec3(std::round(shot->camera.position.x), 0.f, std::round(shot->camera.position.z) - 8.f)};
    double best = 1e300;
    for (int i = 0; i < 3; ++i)
        best = std::min(best, milliseconds([&] {
                            s.depth = 0.1f + 0.01f * static_cast<float>(i);
                            geometry::coverOf(*shot->scene, s, job);
                        }));
    return best;
}
} // namespace hygros::bench
