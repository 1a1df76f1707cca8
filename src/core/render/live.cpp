#include "render/live.h"

#include <algorithm>
#include <new>
#include <tbb/task_arena.h>
#include <utility>

namespace hygros::render {
using shot::Shot;
using Clock = std::chrono::steady_clock;

namespace {
// What is asked here is always what may differ: whatever a struct gains makes a difference until it is listed.

/// Whether two media are alike wherever noise is sampled: they differ at most in how dense and how bright they are.
bool sameNoisePlaces(const media::Medium& a, const media::Medium& next)
{
    media::Medium other = a;
    other.id = next.id;
    other.sigmaT = next.sigmaT;
    other.albedo = next.albedo;
    other.phase = next.phase;
    other.thinning = next.thinning;
    other.ambient = next.ambient;
    other.clean = next.clean;
    other.clear = next.clear;
    other.clearCentre = next.clearCentre;
    return other == next;
}

/// Whether two shots show the same things under the same light: they differ at most in what floats between, in how
/// bright lamps are and what air they light, and in how the picture is shown.
bool sameLight(const Shot& a, const Shot& next)
{
    if (!std::equal(a.lamps.begin(), a.lamps.end(), next.lamps.begin(), next.lamps.end(), light::sameBeam))
        return false;
    Shot other = a;
    other.lamps = next.lamps;
    other.media = next.media;
    static_cast<shot::Bodies&>(other) = next;
    other.veils = next.veils;
    other.hotAir = next.hotAir;
    other.falling = next.falling;
    other.look = next.look;
    other.notes = next.notes;
    other.sources = next.sources;
    other.frame = next.frame;
    other.airflow = next.airflow; // seen by aids alone
    other.airDensity = next.airDensity;
    other.scatteringOrders = next.scatteringOrders;
    for (auto reach : {&Shot::sunReach, &Shot::skyReach}) {
        (other.*reach).media = (next.*reach).media;
        (other.*reach).bodies = (next.*reach).bodies;
    }
    return other == next;
}
} // namespace

Change changeBetween(const Shot& a, const Shot& next)
{
    if (!sameLight(a, next))
        return Change::Light;
    if (!a.lamps.empty() && a.media != next.media) {
        // Lamps that begin to glow in thicker air are looked for in more places.
        const AirModel before(a), after(next);
        for (std::size_t l = 0; l < a.lamps.size(); ++l)
            if (before.glowOf(l).power <= 0.f && after.glowOf(l).power > 0.f)
                return Change::Light;
    }
    std::vector<const media::Medium*> noisyA, noisyB;
    for (const media::Medium& m : a.media)
        if (media::isPatterned(m))
            noisyA.push_back(&m);
    for (const media::Medium& m : next.media)
        if (media::isPatterned(m))
            noisyB.push_back(&m);
    if (!std::equal(noisyA.begin(), noisyA.end(), noisyB.begin(), noisyB.end(),
                    [](const media::Medium* m, const media::Medium* n) { return sameNoisePlaces(*m, *n); }))
        return Change::AirAndNoise;
    Shot other = a;
    other.veils = next.veils; // laid over the finished picture
    other.look = next.look;
    other.notes = next.notes;
    other.sources = next.sources;
    other.frame = next.frame;
    other.airflow = next.airflow; // seen by aids alone
    return other == next ? Change::None : Change::Air;
}

int firstEighths(double seconds, bool follows)
{
    // Two thirds of the width take four ninths of the time, one third a ninth.
    const double longest = follows ? 0.15 : 0.3;
    return seconds <= longest ? 3 : follows || seconds <= longest * 9.0 / 4.0 ? 2 : 1;
}

bool marchesAfter(int pass, int wanted) { return pass < 8 || pass % 2 == 1 || pass + 1 >= wanted; }

double secondsLeft(int traced, int noise, int wanted, double traceSeconds, double marchSeconds)
{
    const int enough = std::min(wanted, Frame::noiseEnough);
    double left = 0.0;
    for (int pass = traced; pass < wanted; ++pass) {
        left += traceSeconds;
        if (!marchesAfter(pass, wanted))
            continue;
        left += marchSeconds;
        ++noise;
    }
    return left + std::max(0, enough - noise) * marchSeconds;
}

double LiveRenderer::secondsLeft(int wanted) const
{
    // Edges that the first passes found are looked at more often later: as much longer as it was lately.
    const double trace = fine_ && fine_->tracedPasses() < laterPass ? std::max(traceSeconds_, firstSeconds_ * growth_)
                                                                    : traceSeconds_;
    return fine_ ? render::secondsLeft(fine_->tracedPasses(), fine_->noisePasses(), wanted, trace, marchSeconds_)
                 : wanted * (traceSeconds_ + 0.5 * marchSeconds_);
}

namespace {
/// The mean of what was lately and what is now: edges are looked at more often after some passes.
void blend(double& lately, double now) { lately = lately > 0.0 ? 0.5 * (lately + now) : now; }
double since(Clock::time_point start) { return std::chrono::duration<double>(Clock::now() - start).count(); }
} // namespace

LiveRenderer::LiveRenderer(std::function<void(const LivePicture&)> onPicture)
    : onPicture_(std::move(onPicture)), thread_([this] {
          // What is looked at goes before what runs beside it (a bake, a run of frames): the cores come here first.
          tbb::task_arena first(tbb::task_arena::automatic, 1, tbb::task_arena::priority::high);
          first.execute([this] { run(); });
      })
{
}

LiveRenderer::~LiveRenderer()
{
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
        stop_ = true;
    }
    wake_.notify_all();
    thread_.join();
}

std::uint64_t LiveRenderer::setShot(std::shared_ptr<const Shot> shot, int width, int height)
{
    std::uint64_t revision;
    {
        const std::lock_guard lock(mutex_);
        next_ = std::move(shot);
        nextWidth_ = std::max(8, width);
        nextHeight_ = std::max(8, height);
        nextTime_ = Clock::now();
        revision = ++nextRevision_;
        stop_ = true;
    }
    wake_.notify_all();
    return revision;
}

void LiveRenderer::setWantedSamples(int samples)
{
    {
        const std::lock_guard lock(mutex_);
        wanted_ = samples;
    }
    wake_.notify_all();
}

void LiveRenderer::setFollowsPaths(bool follows)
{
    const std::lock_guard lock(mutex_);
    anew_ = anew_ || follows != followsPaths_;
    followsPaths_ = follows;
}

void LiveRenderer::wantContributions(std::vector<std::string> media, std::vector<std::string> lamps,
                                     std::function<void(const std::string&, const Frame::Contribution&)> deliver)
{
    {
        const std::lock_guard lock(mutex_);
        wish_ = std::make_unique<Wish>(Wish{std::move(media), std::move(lamps), std::move(deliver)});
    }
    wake_.notify_all();
}

void LiveRenderer::ask(const std::string& topic, std::function<void(const Frame&)> question)
{
    {
        const std::lock_guard lock(mutex_);
        questions_[topic] = std::move(question);
    }
    wake_.notify_all();
}

Layers LiveRenderer::layers(LayerWish wish)
{
    const std::lock_guard lock(frameMutex_);
    if (!fine_ || !fine_->isLit())
        return {};
    Layers layers = fine_->layers(wish);
    fine_->shimmer().bend(layers);
    fine_->rain().addTo(layers);
    fine_->sparks().addTo(layers);
    return layers;
}

std::size_t LiveRenderer::frameBytes()
{
    const std::lock_guard lock(frameMutex_);
    return (fine_ ? fine_->bytes() : 0) + (coarse_ ? coarse_->bytes() : 0);
}

void LiveRenderer::publish(std::vector<float> rgb, int width, int height, int samples)
{
    LivePicture p;
    p.width = width;
    p.height = height;
    p.rgb = std::move(rgb);
    p.look = shot_->look;
    p.frame = shot_->frame;
    p.samples = samples;
    p.revision = revision_;
    p.secondsPerPass = secondsPerPass_;
    {
        const std::lock_guard lock(mutex_);
        p.wantedSamples = wanted_;
    }
    p.secondsLeft = secondsLeft(p.wantedSamples);
    if (fine_ && width == fine_->width() && height == fine_->height() && fine_->surfacePasses() > 0) {
        // Distances hardly change after a few passes.
        if (!depth_ || fine_->surfacePasses() >= 2 * depthPasses_) {
            auto depth = std::make_shared<std::vector<float>>(static_cast<std::size_t>(width) *
                                                              static_cast<std::size_t>(height));
            for (int y = 0; y < height; ++y)
                for (int x = 0; x < width; ++x)
                    (*depth)[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) +
                             static_cast<std::size_t>(x)] = fine_->depthAt(x, y);
            depth_ = depth;
            depthPasses_ = fine_->surfacePasses();
        }
        p.depth = depth_;
    }
    p.isClean = samples >= p.wantedSamples;
    shownTime_ = Clock::now();
    p.secondsSinceEdit = std::chrono::duration<double>(shownTime_ - editTime_).count();
    onPicture_(p);
}

namespace {
/// What a picture of this frame counts as: the lesser of what was traced and what was sampled of the noise.
int samplesOf(const Frame& frame, int wanted)
{
    const int noise = frame.noisePasses() >= std::min(wanted, Frame::noiseEnough) ? wanted : frame.noisePasses();
    return std::max(1, std::min(frame.tracedPasses(), noise));
}
} // namespace

void LiveRenderer::run()
{
    std::unique_lock lock(mutex_);
    while (!quit_) {
        std::string trouble;
        try {
            if (!step(lock))
                wake_.wait(lock);
            continue;
        } catch (const std::bad_alloc&) {
            trouble = "There is not enough memory for the picture. Make it smaller, or use coarser volumes.";
        } catch (const std::exception& e) {
            trouble = std::string("The picture could not be made: ") + e.what();
        }
        // The next shot begins with nothing of this one.
        if (lock.owns_lock())
            lock.unlock();
        {
            const std::lock_guard frames(frameMutex_);
            fine_.reset();
            coarse_.reset();
            depth_.reset();
            shot_.reset();
        }
        LivePicture none;
        none.trouble = trouble;
        none.revision = revision_;
        onPicture_(none);
        if (!lock.owns_lock())
            lock.lock();
    }
}

/// One unit of work; false when there is nothing to do. `lock` is held on entry and on return.
bool LiveRenderer::step(std::unique_lock<std::mutex>& lock)
{
    // Making a shot ready may take longer than the next one needs to come: its first picture is tried all the same.
    const bool taken = next_ != nullptr;
    if (next_) {
        const auto incoming = std::move(next_);
        next_ = nullptr;
        const int width = nextWidth_, height = nextHeight_;
        const bool anew = std::exchange(anew_, false), followsPaths = followsPaths_;
        revision_ = nextRevision_;
        editTime_ = nextTime_;
        stop_ = false;
        lock.unlock();
        {
            const std::lock_guard frames(frameMutex_);
            const bool resized = !fine_ || fine_->width() != width || fine_->height() != height;
            const Change change = resized || anew || !shot_ ? Change::Light : changeBetween(*shot_, *incoming);
            // The same things in other light, seen from elsewhere or standing elsewhere begin with what paths said
            // before: the picture does not leap while something is dragged.
            std::optional<Frame::Known> known;
            if (followsPaths && fine_ && fine_->ratios().known() && shot_ && shot_->setIds == incoming->setIds)
                known = fine_->known();
            else if (followsPaths && !fine_ && shot_ && shot_->setIds == incoming->setIds)
                known = std::move(fineKnown_); // the next one came before it was made
            // What is not seen (a wind, what is baked of tracers, notes) leaves the picture as it is.
            const bool alike = change == Change::None && fine_->isLit() && shot_->look == incoming->look &&
                               shot_->veils == incoming->veils;
            follows_ = shot_ && shot_->frame != incoming->frame;
            shot_ = incoming;
            if (alike) {
                showDue_ = true;
            } else if (change == Change::Light) {
                fine_.reset();
                depth_.reset();
                depthPasses_ = 0;
                const int eighths = firstEighths(coarseSeconds_, follows_);
                coarse_ = std::make_unique<Frame>(incoming, std::max(8, width * eighths / 8),
                                                  std::max(8, height * eighths / 8));
                fineSize_ = {width, height};
                fineFollows_ = followsPaths;
                fineKnown_ = std::move(known);
                fineQuickDue_ = true;
                if (fineKnown_)
                    coarse_->beginWith(*fineKnown_);
            } else {
                // Also without a change of air: the look may be new.
                if (coarse_)
                    coarse_->setAir(incoming, change == Change::AirAndNoise);
                fine_->setAir(incoming, change == Change::AirAndNoise);
            }
            quickDue_ = quickDue_ || !alike;
        }
        lock.lock();
    }
    if (!shot_)
        return false;
    // Frames that are played come one after another, as does what is dragged in a large window: the next is worth more
    // than a finer picture of this one.
    if (std::exchange(mayBeFollowed_, false) && !quickDue_ && !fine_)
        wake_.wait_for(lock, std::chrono::milliseconds(120), [this] { return next_ || quit_; });
    if ((next_ && !(taken && quickDue_)) || quit_)
        return true;
    const int wanted = wanted_;
    lock.unlock();
    bool worked = true;
    {
        const std::unique_lock frames(frameMutex_);
        std::vector<float> rgb;
        const auto show = [&] {
            fine_->resolve(rgb);
            publish(std::move(rgb), fine_->width(), fine_->height(), samplesOf(*fine_, wanted));
        };
        // (With its picture, which takes a part of it.)
        const auto march = [&] {
            const auto start = Clock::now();
            if (!fine_->light(stop_))
                return;
            show();
            blend(marchSeconds_, since(start));
        };
        if (std::exchange(showDue_, false) && !quickDue_) {
            show();
        } else if (quickDue_) {
            constexpr double follows = 0.12; // what takes longer lags behind the hand
            // A small picture is not broken off by the next shot: while something is dragged there would be none.
            static const std::atomic<bool> never{false};
            if (fine_ && fine_->surfacePasses() > 0 && coarse_ && coarse_->surfacePasses() > 0 &&
                quickSeconds_ > follows) {
                if (coarse_->quickPicture(rgb, never)) {
                    publish(std::move(rgb), coarse_->width(), coarse_->height(), 0);
                    quickDue_ = false;
                    fineQuickDue_ = true;
                }
            } else if (fine_ && fine_->surfacePasses() > 0) {
                const auto start = Clock::now();
                if (fine_->quickPicture(rgb, quickSeconds_ > follows ? stop_ : never)) {
                    quickSeconds_ = std::chrono::duration<double>(Clock::now() - start).count();
                    publish(std::move(rgb), fine_->width(), fine_->height(), 0);
                    quickDue_ = fineQuickDue_ = false;
                }
            } else {
                const auto start = Clock::now();
                if (coarse_->traceSurfaces(0, never) && coarse_->quickPicture(rgb, never)) {
                    // As long as it would take at three eighths.
                    const double share = 8.0 * coarse_->width() / fineSize_[0] / 3.0;
                    coarseSeconds_ = std::chrono::duration<double>(Clock::now() - start).count() / (share * share);
                    publish(std::move(rgb), coarse_->width(), coarse_->height(), 0);
                    quickDue_ = false;
                    // (To make ready what a large one needs cannot be broken off.)
                    mayBeFollowed_ = follows_ || fineSize_[0] * fineSize_[1] > 1'500'000;
                }
            }
        } else if (!fine_) { // only once there is something to look at
            fine_ = std::make_unique<Frame>(shot_, fineSize_[0], fineSize_[1]);
            fine_->setFollowsPaths(fineFollows_);
            if (fineKnown_)
                fine_->beginWith(*fineKnown_);
            fineKnown_.reset();
        } else if (fineQuickDue_) {
            if (fine_->traceSurfaces(0, stop_)) {
                const auto start = Clock::now();
                if (fine_->quickPicture(rgb, stop_)) {
                    quickSeconds_ = std::chrono::duration<double>(Clock::now() - start).count();
                    publish(std::move(rgb), fine_->width(), fine_->height(), 0);
                    fineQuickDue_ = false;
                }
            }
        } else if (fine_->tracedPasses() > 0 && !fine_->isLit()) {
            // Everything seen so far serves the new air at once; what is still missing in noise comes with it.
            march();
        } else if (fine_->tracedPasses() < wanted) {
            const auto start = Clock::now();
            const int pass = fine_->tracedPasses();
            const bool whole = resumed_ != pass; // one that was broken off before took less now
            resumed_ = pass;
            if (fine_->trace(pass, stop_)) {
                if (whole) {
                    const double took = since(start);
                    blend(traceSeconds_, took);
                    if (pass < 2)
                        firstSeconds_ = pass == 1 ? took : 0.0;
                    else if (pass < 4)
                        firstSeconds_ = std::min(firstSeconds_, took);
                    else if (pass >= laterPass && firstSeconds_ > 0.0)
                        blend(growth_, std::clamp(took / firstSeconds_, 1.0, 4.0));
                }
                resumed_ = -1;
                secondsPerPass_ = traceSeconds_ + marchSeconds_;
                if (marchesAfter(pass, wanted))
                    march();
            }
        } else if (fine_->noisePasses() < std::min(wanted, render::Frame::noiseEnough)) {
            march();
        } else if (fine_->pathsLeft()) {
            // What an edit has changed, paths tell as long as the picture is looked at.
            constexpr int together = 2;
            bool done = true;
            for (int i = 0; i < together && done && fine_->pathsLeft(); ++i)
                done = fine_->followPaths(stop_);
            if (done)
                show();
        } else {
            worked = false;
        }
    }
    lock.lock();
    if (!questions_.empty() && !next_ && !quit_ && fine_ && fine_->isLit()) {
        const auto questions = std::move(questions_);
        questions_.clear();
        lock.unlock();
        {
            const std::unique_lock frames(frameMutex_);
            for (const auto& [topic, question] : questions)
                question(*fine_);
        }
        lock.lock();
        worked = true;
    }
    if (wish_ && !next_ && !quit_ && fine_ && fine_->isLit()) {
        const auto wish = std::move(wish_);
        wish_ = nullptr;
        lock.unlock();
        for (const auto& [ids, isLamp] : {std::pair(&wish->media, false), std::pair(&wish->lamps, true)})
            for (const std::string& id : *ids) {
                if (stop_)
                    break;
                Frame::Contribution c;
                {
                    const std::unique_lock frames(frameMutex_);
                    c = isLamp ? fine_->lampAlone(id) : fine_->mediumAlone(id);
                }
                wish->deliver(id, c);
            }
        lock.lock();
        worked = true;
    }
    // A stop that came between steps, and not with a new shot, is spent.
    if (!next_ && !quit_)
        stop_ = false;
    return worked || next_;
}
} // namespace hygros::render
