#include "fire.h"

#include "elements/bake.h"
#include "render/live.h"
#include "scene/project.h"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <condition_variable>
#include <filesystem>
#include <mutex>
#include <thread>
#include <unistd.h>

namespace hygros::bench {
namespace {
double since(std::chrono::steady_clock::time_point t)
{
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - t).count();
}
} // namespace

Play playFire(const std::string& file)
{
    constexpr int width = 960, height = 540, last = 75, warm = 25;
    scene::Project p = scene::loadProject(file, elements::findKind);
    p.find("brazier")->set("detail", std::string("preview"));
    p.find("brazier")->set("voxel", 0.03); // as the recipe has it
    const auto folder = std::filesystem::temp_directory_path() / ("hygros-bench-" + std::to_string(::getpid()));
    p.baked = folder;
    FrameStore frames(folder);
    Store store;
    std::mutex mutex;
    std::condition_variable came;
    int shown = 0;
    float hottest = 0.f;
    render::LiveRenderer live([&](const render::LivePicture& picture) {
        float most = 0.f;
        for (std::size_t i = 0; i < picture.rgb.size(); i += 3)
            most = std::max(most, picture.rgb[i] - 3.f * picture.rgb[i + 2]);
        const std::lock_guard lock(mutex);
        shown = picture.frame;
        hottest = most;
        came.notify_all();
    });
    live.setWantedSamples(1);
    const auto show = [&](int frame) {
        scene::Project now = p;
        now.frame = frame;
        JobControl job;
        live.setShot(elements::freeze(now, store, job, elements::Missing::Told), width, height);
        std::unique_lock lock(mutex);
        came.wait_for(lock, std::chrono::seconds(20), [&] { return shown == frame; });
        return hottest;
    };
    const float without = show(0); // what is bright without a fire; sets are loaded
    std::atomic<int> newest{0};
    Play out;
    const auto began = std::chrono::steady_clock::now();
    std::thread bakes([&] {
        JobControl job;
        elements::BakeWishes wishes;
        wishes.last = last;
        wishes.kept = [&](int frame) { newest = frame; };
        const auto done = elements::bake(p, "brazier", frames, store, job, wishes);
        out.files = done.fileSeconds / std::max(1e-6, done.seconds);
    });
    int at = 0, pictures = 0;
    std::chrono::steady_clock::time_point from = began;
    int first = 0;
    while (at < last) {
        const int next = newest;
        if (next == at) {
            std::this_thread::sleep_for(std::chrono::milliseconds(2));
            continue;
        }
        at = next;
        const float bright = show(at);
        if (out.first == 0.0 && bright > 1.5f * without + 1.f)
            out.first = since(began);
        if (at < warm) {
            from = std::chrono::steady_clock::now();
            first = at;
        } else {
            ++pictures;
        }
    }
    const double seconds = since(from);
    bakes.join();
    out.rate = double(last - first) / p.time.rate.perSecond() / seconds;
    out.pictures = double(pictures) / seconds;
    std::filesystem::remove_all(folder);
    return out;
}
} // namespace hygros::bench
