#include "weather.h"

#include "base/random.h"
#include "elements/kinds.h"
#include "geometry/cover.h"
#include "render/frame.h"
#include "sim/particles.h"

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

Particles particles()
{
    constexpr int count = 1'000'000, steps = 4;
    Particles out;
    JobControl job;
    media::Particles p;
    p.id = "particles";
    p.from.form = media::Feed::Form::Box;
    p.from.half = Vec3(6.f, 2.5f, 6.f);
    p.from.toWorld.setTranslation(Vec3(0.f, 2.8f, 0.f));
    p.rate = count / 0.02f;
    p.flat = true;
    p.weight = 0.1f;
    p.ground = 0.f;
    shot::Shot shot;
    shot.scene = std::make_shared<geometry::RayScene>(std::vector<geometry::PlacedSet>{}, job);
    media::Force turbulence;
    turbulence.half = Vec3(12.f);
    turbulence.speed = 1.5f;
    turbulence.pattern = media::gustPattern(4.f, 3);
    shot.airflow.forces = {turbulence};
    media::Wind wind;
    wind.velocity = Vec3(3.f, 0.f, 0.f);
    shot.airflow.winds = {wind};
    shot.airflow.particles = {p};
    const sim::ParticleSolver solver("particles");
    std::shared_ptr<const sim::State> state = solver.step(*solver.begin(shot), shot, 0.02, job);
    shot.airflow.particles[0].rate = 0.f;
    out.step = 1e300;
    for (int i = 0; i < steps; ++i)
        out.step = std::min(out.step, milliseconds([&] { state = solver.step(*state, shot, 0.02, job); }));
    const auto& s = static_cast<const sim::ParticleState&>(*state);
    const auto all = double(s.moving.count + s.lyingCount());
    out.bytes = double(s.bytes()) / all;
    out.stateBytes = 36.0 * all;
    return out;
}

Resting resting(const scene::Project& project)
{
    constexpr std::uint32_t count = 10'000'000;
    Resting out;
    Store store;
    JobControl job;
    auto shot = std::make_shared<shot::Shot>(*elements::freeze(project, store, job));
    auto all = std::make_shared<std::vector<media::Drop>>();
    all->reserve(count);
    Random random(7);
    const Vec3 eye = shot->camera.position;
    for (std::uint32_t i = 0; i < count; ++i) {
        media::Drop d{eye + Vec3(random.range(-40.f, 40.f), -1.5f, random.range(-40.f, 40.f)), Vec3(0.f), 0.006f};
        d.own = hash32(i, 11u);
        d.lies = true;
        all->push_back(d);
    }
    media::Falling f;
    f.form = media::Falling::Form::Balls;
    f.all = all;
    shot->falling = {f};
    out.bytes = double(count) * double(sizeof(media::Drop) + sizeof(sim::Lying));
    out.draw = 1e300;
    for (int i = 0; i < 2; ++i)
        out.draw = std::min(out.draw, milliseconds([&] { const render::RainPicture drops(*shot, width, height); }));
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
