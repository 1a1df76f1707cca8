#include "render/still.h"

#include "base/error.h"
#include "render/denoise.h"
#include "render/frame.h"
#include "render/live.h"
#include "render/path_integrator.h"
#include "render/rain.h"
#include "render/shimmer.h"
#include "render/sparks.h"

#include <algorithm>
#include <chrono>
#include <cmath>

namespace hygros::render {
namespace {
using Clock = std::chrono::steady_clock;
double secondsSince(Clock::time_point start) { return std::chrono::duration<double>(Clock::now() - start).count(); }

/// What lies over the rendered picture. Of the middle of the open shutter: a spark is a streak over all of it.
void finishLayers(Layers& layers, const Shots& shots)
{
    const shot::Shot& shot = *shots[shots.size() / 2];
    Shimmer(shot, layers.width, layers.height).bend(layers);
    RainPicture(shot, layers.width, layers.height).addTo(layers);
    SparkPicture(shot, layers.width, layers.height).addTo(layers);
}

} // namespace

Accumulation referenceSums(const Shots& shots, const StillSettings& s, JobControl& job, const Watch& progress)
{
    std::vector<std::unique_ptr<PathIntegrator>> all;
    for (const auto& shot : shots) {
        all.push_back(std::make_unique<PathIntegrator>(shot, s.width, s.height, s.layers));
        // Sums by source cannot be added where there are other sources.
        if (all.back()->gathered().sources != all.front()->gathered().sources)
            throw workingError("Rendering", "", "lights come or go while the shutter is open",
                               "Key their strength and not whether they are there, or close the shutter.");
    }
    // One sum for all: it goes from shot to shot, a pass at each.
    std::size_t turn = 0;
    PathIntegrator& paths = *all.front();
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
            PathIntegrator& here = *all[turn++ % all.size()];
            if (&here != &paths)
                here.gathered() = std::move(paths.gathered());
            if (s.noise > 0.f)
                here.passWhere(s.noise);
            else
                here.pass();
            if (&here != &paths)
                paths.gathered() = std::move(here.gathered());
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

namespace {
/// The mean of layers, which keeps beauty = plate · transmittance + air.
class LayersMean {
public:
    void add(const Layers& l)
    {
        ++count_;
        if (count_ == 1) {
            sum_ = l;
            for (std::size_t i = 0; i < l.plate.size(); ++i)
                sum_.plate[i] *= l.transmittance[i];
            return;
        }
        for (std::size_t i = 0; i < l.plate.size(); ++i)
            sum_.plate[i] += l.plate[i] * l.transmittance[i];
        plus(sum_.transmittance, l.transmittance);
        plus(sum_.air, l.air);
        if (sum_.alpha.empty() != l.alpha.empty()) { // one has a matte in it
            std::vector<float>& own = sum_.alpha;
            if (own.empty())
                own.assign(l.pixels(), static_cast<float>(count_ - 1));
        }
        plus(sum_.alpha, l.alpha.empty() && !sum_.alpha.empty() ? std::vector<float>(l.pixels(), 1.f) : l.alpha);
        for (auto part : {&Layers::airBy, &Layers::setBy, &Layers::shadowBy, &Layers::waterBy})
            for (const Layers::ByLamp& from : l.*part) {
                auto& to = sum_.*part;
                const auto found = std::find_if(to.begin(), to.end(), [&](const auto& t) { return t.id == from.id; });
                if (found == to.end())
                    to.push_back(from);
                else
                    plus(found->air, from.air);
            }
        if (sum_.waterMask.size() == l.waterMask.size())
            plus(sum_.waterMask, l.waterMask);
        sum_.samples += l.samples;
    }
    Layers mean()
    {
        const float one = 1.f / static_cast<float>(count_);
        for (auto part : {&Layers::plate, &Layers::transmittance, &Layers::air, &Layers::alpha, &Layers::waterMask})
            for (float& v : sum_.*part)
                v *= one;
        for (auto part : {&Layers::airBy, &Layers::setBy, &Layers::shadowBy, &Layers::waterBy})
            for (Layers::ByLamp& by : sum_.*part)
                for (float& v : by.air)
                    v *= one;
        for (std::size_t i = 0; i < sum_.plate.size(); ++i)
            sum_.plate[i] = sum_.transmittance[i] > 1e-12f ? sum_.plate[i] / sum_.transmittance[i] : 0.f;
        return std::move(sum_);
    }

private:
    static void plus(std::vector<float>& to, const std::vector<float>& from)
    {
        for (std::size_t i = 0; i < std::min(to.size(), from.size()); ++i)
            to[i] += from[i];
    }
    Layers sum_;
    int count_ = 0;
};
} // namespace

namespace {
/// Water looked at by parts: pictures of these alone, by the same looks as the whole one.
void addWater(Layers& layers, const std::shared_ptr<const shot::Shot>& shot, int passes, int from,
              const StillSettings& s, const PathRatios& ratios, JobControl& job)
{
    const std::atomic<bool> never{false};
    const std::size_t n = layers.pixels();
    const auto part = [&](WaterPart only, const char* said) {
        Frame frame(shot, s.width, s.height, only);
        frame.lookEvenly();
        frame.setFollowsPaths(false);
        if (s.followsPaths && ratios.known())
            frame.holdRatios(ratios);
        frame.drawFrom(from);
        for (int pass = 0; pass < passes; ++pass) {
            frame.trace(pass, never);
            frame.light(never);
            job.check();
            job.report(static_cast<float>(pass + 1) / static_cast<float>(passes), std::string("Water: ") + said);
        }
        return frame.layers();
    };
    const auto behind = [&](const Layers& l) {
        std::vector<float> out(n * 3);
        for (std::size_t i = 0; i < out.size(); ++i)
            out[i] = l.plate[i] * l.transmittance[i];
        return out;
    };
    if (shot->waters.empty()) {
        for (const char* id : {"reflection", "refraction", "foam", "caustics"})
            layers.waterBy.push_back({id, std::vector<float>(n * 3, 0.f)});
        layers.waterMask.assign(n, 0.f);
        return;
    }
    layers.waterBy.push_back({"reflection", behind(part(WaterPart::Reflection, "what it mirrors"))});
    layers.waterBy.push_back({"refraction", behind(part(WaterPart::Refraction, "what shows through it"))});
    layers.waterBy.push_back({"foam", behind(part(WaterPart::Foam, "foam"))});
    std::vector<float> gathered = behind(part(WaterPart::Even, "gathered light"));
    for (std::size_t i = 0; i < gathered.size(); ++i)
        gathered[i] = layers.waterBy[1].air[i] - gathered[i];
    layers.waterBy.push_back({"caustics", std::move(gathered)});
    const Layers mask = part(WaterPart::Mask, "where it is");
    layers.waterMask.resize(n);
    for (std::size_t i = 0; i < n; ++i)
        layers.waterMask[i] = std::clamp(mask.plate[i * 3 + 1], 0.f, 1.f);
}
} // namespace

StillSequence::StillSequence() = default;
StillSequence::~StillSequence() = default;

Layers StillSequence::one(const std::shared_ptr<const shot::Shot>& shot, int passes, int from, const StillSettings& s,
                          JobControl& job, const Watch& progress)
{
    const bool same = frame_ && frame_->width() == s.width && frame_->height() == s.height &&
                      followed_ == s.followsPaths;
    const Change change = same ? changeBetween(*shot_, *shot) : Change::Light;
    if (change == Change::Light) {
        frame_ = std::make_unique<Frame>(shot, s.width, s.height);
        frame_->setFollowsPaths(s.followsPaths);
    } else {
        frame_->setAir(shot, change == Change::AirAndNoise);
    }
    if (s.layers.water)
        frame_->lookEvenly();
    // Also where the set was looked at before: its air is looked at with numbers of its own.
    frame_->drawFrom(from);
    shot_ = shot;
    followed_ = s.followsPaths;
    if (s.ratios)
        frame_->holdRatios(*s.ratios);
    const std::atomic<bool> never{false};
    const auto said = [&](int done) {
        job.check();
        const float share = static_cast<float>(done) / static_cast<float>(passes);
        job.report(share, "Pass " + std::to_string(done) + " of " + std::to_string(passes));
        if (progress)
            progress({share, static_cast<double>(done), 1.f, false});
    };
    for (int pass = frame_->tracedPasses(); pass < passes; ++pass) {
        frame_->trace(pass, never);
        frame_->light(never);
        said(pass + 1);
    }
    // What was kept of the frame before: its noise, or all of its air, is marched anew.
    while (!frame_->isLit() || frame_->noisePasses() < std::min(passes, Frame::noiseEnough)) {
        frame_->light(never);
        said(std::min(passes, frame_->noisePasses()));
    }
    if (s.ratios && !s.ratios->known())
        *s.ratios = frame_->ratios();
    Layers layers = frame_->layers(s.layers);
    if (s.layers.water)
        addWater(layers, shot, passes, from, s, frame_->ratios(), job);
    return layers;
}

Layers StillSequence::next(const Shots& shots, const StillSettings& settings, JobControl& job, const Watch& progress)
{
    const auto count = static_cast<int>(shots.size());
    StillSettings s = settings;
    if (count > 1 && !s.ratios) // what paths say of the first holds for all that the shutter saw
        s.ratios = std::make_shared<PathRatios>();
    LayersMean mean;
    Layers alone;
    for (int i = 0; i < count; ++i) {
        const int passes = std::max(1, s.samples * (i + 1) / count - s.samples * i / count);
        Layers l = one(shots[static_cast<std::size_t>(i)], passes, s.samples * i / count, s, job,
                       [&](const StillProgress& p) {
                           if (progress)
                               progress({(static_cast<float>(i) + p.share) / static_cast<float>(count),
                                         p.samples + s.samples * i / count, 1.f, false});
                       });
        if (count > 1)
            mean.add(l);
        else
            alone = std::move(l);
    }
    Layers layers = count == 1 ? std::move(alone) : mean.mean();
    denoise(layers, {s.denoise}, job);
    finishLayers(layers, shots);
    return layers;
}

Layers renderStill(const Shots& shots, const StillSettings& s, JobControl& job, const Watch& progress)
{
    if (s.air == StillAir::Paths) {
        if (s.layers.water)
            throw workingError("Rendering", "", "the reference does not know water by its parts",
                               "Leave the water's layers out, or use the live integrator.");
        Accumulation sums = referenceSums(shots, s, job, progress);
        denoise(sums, {s.denoise}, job);
        Layers layers = sums.layers();
        finishLayers(layers, shots);
        return layers;
    }
    return StillSequence().next(shots, s, job, progress);
}
} // namespace hygros::render
