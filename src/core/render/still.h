#pragma once
/// Stills: a picture of a given size, without a window.
#include "base/job.h"
#include "render/accumulation.h"
#include "render/path_ratios.h"
#include "shot/shot.h"

#include <filesystem>
#include <functional>
#include <memory>
#include <vector>

namespace hygros::render {

enum class StillAir {
    Live, ///< the live integrator, as in the window
    Paths ///< the reference integrator: all orders of scattering, unbiased; noisier and slower
};

struct StillSettings {
    int width = 960, height = 540;
    int samples = 64; ///< passes; of the reference: paths a pixel, in the mean
    StillAir air = StillAir::Live;
    LayerWish layers = {};
    /// Of the reference, where above 0: paths go where the picture is still noisy, and it ends early once its noise
    /// (Accumulation::noise) is under this.
    float noise = 0.f;
    double seconds =
        0.0; ///< of the reference, where above 0: it ends when they are over, with at least one path a pixel
    /// Of the reference: sums are kept in this file, and those in it that belong to `keptFor` (elements::stateOf) are
    /// gone on from; empty: not kept.
    std::filesystem::path kept = {};
    std::string keptFor = {};
    float denoise = 0.f;      ///< share of the denoised picture (denoise.h), 0…1; what is kept stays as it is
    bool followsPaths = true; ///< of the live picture: Frame::setFollowsPaths()
    /// Of the live picture in a sequence: what paths say of its first frame is written here and holds for the others
    /// (Frame::holdRatios()). Null: a picture by itself.
    std::shared_ptr<PathRatios> ratios = nullptr;
};

/// What a still has reached.
struct StillProgress {
    float share = 0.f; ///< of the way to its end
    double samples = 0.0;
    float noise = 1.f;    ///< of the reference, 1 while it is not known
    bool resumed = false; ///< it went on from kept sums
};

/// What stands before the camera while its shutter is open: shots at times spread evenly over that, or one where
/// nothing moves. The picture is their mean.
struct Shots : std::vector<std::shared_ptr<const shot::Shot>> {
    using std::vector<std::shared_ptr<const shot::Shot>>::vector;
    Shots(std::shared_ptr<const shot::Shot> one) { push_back(std::move(one)); }
    template <class T> Shots(std::shared_ptr<T> one) { push_back(std::move(one)); }
};
using Watch = std::function<void(const StillProgress&)>;

/// The reference's sums for settings with StillAir::Paths, nothing denoised: for sequences, whose frames denoise each
/// other. Each pass of paths goes to another of the shots.
Accumulation referenceSums(const Shots& shots, const StillSettings& settings, JobControl& job,
                           const Watch& progress = {});

/// `progress` is called after each pass. Throws Cancelled (kept sums are written first).
Layers renderStill(const Shots& shots, const StillSettings& settings, JobControl& job, const Watch& progress = {});

/// Live stills that follow each other: what was seen of camera, set and light serves the next one as long as these
/// stay; only what moves is looked at anew.
class StillSequence {
public:
    StillSequence();
    ~StillSequence();
    Layers next(const Shots& shots, const StillSettings& settings, JobControl& job, const Watch& progress = {});

private:
    Layers one(const std::shared_ptr<const shot::Shot>& shot, int passes, int from, const StillSettings& settings,
               JobControl& job, const Watch& progress);
    std::unique_ptr<class Frame> frame_;
    std::shared_ptr<const shot::Shot> shot_;
    bool followed_ = true;
};
} // namespace hygros::render
