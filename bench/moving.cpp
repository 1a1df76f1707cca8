#include "moving.h"

#include "base/frame_store.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "render/frame.h"
#include "render/still.h"

#include <chrono>
#include <cmath>
#include <fcntl.h>
#include <functional>
#include <unistd.h>

namespace hygros::bench {
namespace {
double milliseconds(const std::function<void()>& work)
{
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}
render::StillSettings sequenceSettings()
{
    render::StillSettings s;
    s.width = 480;
    s.height = 270;
    s.samples = 16;
    s.ratios = std::make_shared<render::PathRatios>();
    return s;
}
} // namespace

double nextFrame(const scene::Project& project, int by)
{
    constexpr int width = 960, height = 540;
    const std::atomic<bool> never{false};
    scene::Project now = project;
    Store store;
    JobControl job;
    auto shot = elements::freeze(now, store, job);
    render::Frame frame(shot, width, height);
    std::vector<float> rgb;
    std::vector<std::uint8_t> screen(width * height * 4);
    const finish::Display display(shot->look);
    frame.traceSurfaces(0, never);
    frame.quickPicture(rgb, never);
    double best = 1e300;
    for (int i = 0; i < 8; ++i)
        best = std::min(best, milliseconds([&] {
                            now.frame += by;
                            frame.setAir(elements::freeze(now, store, job), true);
                            frame.quickPicture(rgb, never);
                            display.apply(rgb.data(), width, height, screen.data(), static_cast<std::size_t>(width) * 4,
                                          4);
                        }));
    return best;
}

Beside sequenceStill(const scene::Project& project)
{
    scene::Project now = project;
    now.time.shutterAngle = 0.0;
    Store store;
    JobControl job;
    const render::StillSettings s = sequenceSettings();
    render::StillSequence sequence;
    elements::freeze(now, store, job);
    Beside figures;
    figures.peer = milliseconds([&] { sequence.next(elements::freeze(now, store, job), s, job); });
    figures.value = 1e300;
    for (int i = 0; i < 3; ++i) {
        now.frame += 1.0;
        figures.value = std::min(figures.value,
                                 milliseconds([&] { sequence.next(elements::freeze(now, store, job), s, job); }));
    }
    return figures;
}

Beside sequenceMoving(const scene::Project& project)
{
    scene::Project now = project;
    scene::Element& shot = *elements::cameraOf(now);
    scene::Track track;
    const Vec3 from = std::get<Vec3>(shot.value("position"));
    track.keys = {scene::keyAt(1, from, scene::Way::Linear),
                  scene::keyAt(25, from + Vec3(0.5f, 0.f, 0.f), scene::Way::Linear)};
    shot.setTrack("position", track);
    Store store;
    JobControl job;
    const render::StillSettings s = sequenceSettings();
    render::StillSequence sequence;
    Beside figures{1e300, 1e300};
    for (int i = 0; i < 3; ++i) {
        now.frame += 1.0;
        const double moving = milliseconds([&] {
            const auto open = elements::freezeOpen(now, store, job, elements::shutterPieces(s.samples));
            sequence.next({open.begin(), open.end()}, s, job);
        });
        if (i > 0) // the first asks paths how much light there is
            figures.value = std::min(figures.value, moving);
        const double still = milliseconds([&] { render::renderStill(elements::freeze(now, store, job), s, job); });
        figures.peer = std::min(figures.peer, still);
    }
    return figures;
}

Beside storeRead()
{
    const auto folder = std::filesystem::temp_directory_path() / ("hygros-bench-" + std::to_string(::getpid()));
    FrameStore store(folder);
    const std::string payload(200'000'000, 'v');
    store.write("matter", 1, {{"a", 1}}, {payload.data(), payload.size()});
    Beside figures{1e300, 1e300};
    for (int i = 0; i < 5; ++i) {
        figures.peer = std::min(figures.peer, milliseconds([&] {
                                    const int fd = ::open(store.fileOf("matter", 1).c_str(), O_RDONLY);
                                    const std::unique_ptr<char[]> bytes(new char[payload.size()]);
                                    std::size_t done = 0;
                                    for (ssize_t got = 1; got > 0 && done < payload.size();
                                         done += static_cast<std::size_t>(std::max<ssize_t>(0, got)))
                                        got = ::read(fd, bytes.get() + done, payload.size() - done);
                                    ::close(fd);
                                }));
        figures.value = std::min(figures.value, milliseconds([&] { store.read("matter", 1); }));
    }
    store.purge();
    return figures;
}
} // namespace hygros::bench
