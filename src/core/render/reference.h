#pragma once
/// The reference picture of a window: one worker thread that follows paths until the noise is where it should be, shows
/// what it has now and then, and keeps it in a file, from which the same state goes on later. Where what is shown is
/// denoised, a small picture of some half a second of paths comes first.
#include "render/path_integrator.h"

#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>

namespace hygros::render {

struct ReferenceTask {
    std::shared_ptr<const shot::Shot> shot;
    int width = 0, height = 0;
    float noise = 0.02f;        ///< it ends when Accumulation::noise() is under this, > 0
    float denoise = 0.f;        ///< share of the denoised picture in what is shown, 0…1
    std::filesystem::path kept; ///< empty: not kept
    std::string keptFor;
    std::uint64_t revision = 0;
};

struct ReferencePicture {
    int width = 0, height = 0;
    std::vector<float> rgb; ///< linear
    shot::Look look;
    double paths = 0.0;    ///< a pixel, in the mean
    float noise = 1.f;     ///< of the paths, before anything was denoised
    bool denoised = false; ///< what is shown is
    double light = 0.0;    ///< mean luminance, before anything was denoised
    bool done = false;
    /// A first look, denoised, at a quarter of the wanted size: there before a path was followed for every pixel.
    bool firstLook = false;
    std::uint64_t revision = 0;
    std::string trouble; ///< not empty: it could not be made, or not be kept
};

class ReferenceRenderer {
public:
    /// `onPicture` is called on the worker thread.
    explicit ReferenceRenderer(std::function<void(const ReferencePicture&)> onPicture);
    ~ReferenceRenderer();
    ReferenceRenderer(const ReferenceRenderer&) = delete;
    ReferenceRenderer& operator=(const ReferenceRenderer&) = delete;

    /// Returns at once. The same shot and size again (another goal, another look) goes on with the same paths.
    void start(ReferenceTask task);
    /// Ends the work within about a tile's time; what there is is kept.
    void stop();

private:
    void run();
    void follow(const ReferenceTask& task);
    void lookFirst(const ReferenceTask& task);
    ReferencePicture pictureOf(const ReferenceTask& task, const PathIntegrator& paths, float denoised) const;
    void publish(const ReferenceTask& task, bool done, const std::string& trouble = {});
    void keep(const ReferenceTask& task);

    std::function<void(const ReferencePicture&)> onPicture_;
    std::mutex mutex_;
    std::condition_variable wake_;
    std::atomic<bool> stop_{false};
    bool quit_ = false;
    std::unique_ptr<ReferenceTask> next_;
    // The worker's own.
    std::unique_ptr<PathIntegrator> paths_;
    std::shared_ptr<const shot::Shot> shot_;
    std::string trouble_;
    double kept_ = 0.0; ///< paths when it was last kept
    std::thread thread_;
};
} // namespace hygros::render
