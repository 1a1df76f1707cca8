#pragma once
/// The live renderer: one worker thread that turns the newest shot into a sequence of better pictures.
///
/// After a change of air: a readable picture from quarter-size air within a tenth of a second, then one march by all
/// that was seen before, then further passes. After a change of camera, set or lamp places: a picture of three eighths
/// the size first. In a large window, where these would take longer, they are smaller, so that what is dragged follows:
/// two eighths or one after a change of place, three after one of air, the whole size as soon as nothing newer comes.
#include "render/frame.h"

#include <array>
#include <condition_variable>
#include <functional>
#include <map>
#include <mutex>
#include <optional>
#include <thread>

namespace hygros::render {

/// How many eighths of the width the first picture after a change of place has, where one of three took `seconds`
/// before; of frames that follow each other it has to be seen as motion.
int firstEighths(double seconds, bool follows);
/// Whether a march follows a traced pass: all at first, later every second one is enough, and after the last.
bool marchesAfter(int pass, int wanted);
/// Seconds until so many samples are `wanted` of a frame that has so many passes and samples of the noise.
double secondsLeft(int traced, int noise, int wanted, double traceSeconds, double marchSeconds);

struct LivePicture {
    int width = 0, height = 0; ///< of rgb; three eighths of the wanted size or less for the first after a camera move
    std::vector<float> rgb;    ///< linear
    shot::Look look;
    int frame = 1;   ///< that it shows
    int samples = 0; ///< passes in it; 0: quick
    int wantedSamples = 0;
    double secondsSinceEdit = 0.0;
    double secondsPerPass = 0.0;
    double secondsLeft = 0.0; ///< until all wanted samples are in, by what passes and marches took lately
    bool isClean = false;     ///< all wanted samples are in
    std::shared_ptr<const std::vector<float>>
        depth;                  ///< metres along the ray for each pixel of rgb; may be null or of an earlier pass
    std::uint64_t revision = 0; ///< which setShot() it answers
    std::string trouble;        ///< why there is no picture of it; all else is empty then
};

/// Which of a frame's recordings a new shot invalidates.
enum class Change { None, Air, AirAndNoise, Light };
Change changeBetween(const shot::Shot& before, const shot::Shot& after);

class LiveRenderer {
public:
    /// `onPicture` is called on the worker thread.
    explicit LiveRenderer(std::function<void(const LivePicture&)> onPicture);
    ~LiveRenderer();
    LiveRenderer(const LiveRenderer&) = delete;
    LiveRenderer& operator=(const LiveRenderer&) = delete;

    /// Returns at once; returns the revision that pictures of this shot will carry.
    std::uint64_t setShot(std::shared_ptr<const shot::Shot> shot, int width, int height);
    void setWantedSamples(int samples);
    /// Of frames from now on: Frame::setFollowsPaths(). The next shot begins anew.
    void setFollowsPaths(bool follows);
    /// Asks for what the named elements alone add; `onContribution` is called on the worker thread when the
    /// picture is not waiting for anything more urgent.
    void wantContributions(std::vector<std::string> media, std::vector<std::string> lamps,
                           std::function<void(const std::string& id, const Frame::Contribution&)> onContribution);
    /// Calls `question` on the worker thread with the frame once it is lit and nothing more urgent waits. A new
    /// question of the same `topic` replaces one that has not been answered.
    void ask(const std::string& topic, std::function<void(const Frame&)> question);
    /// Layers of what has been accumulated so far; waits for the pass in work.
    Layers layers(LayerWish wish = {});
    std::size_t frameBytes();

private:
    void run();
    bool step(std::unique_lock<std::mutex>& lock);
    void publish(std::vector<float> rgb, int width, int height, int samples);

    std::function<void(const LivePicture&)> onPicture_;
    std::mutex mutex_;      ///< guards what setShot and others hand over
    std::mutex frameMutex_; ///< guards the frames
    std::condition_variable wake_;
    std::atomic<bool> stop_{false};
    bool quit_ = false;
    std::shared_ptr<const shot::Shot> next_;
    int nextWidth_ = 0, nextHeight_ = 0;
    std::uint64_t nextRevision_ = 0;
    std::chrono::steady_clock::time_point nextTime_;
    int wanted_ = 64;
    bool followsPaths_ = true, anew_ = false;
    struct Wish {
        std::vector<std::string> media, lamps;
        std::function<void(const std::string&, const Frame::Contribution&)> deliver;
    };
    std::unique_ptr<Wish> wish_;
    std::map<std::string, std::function<void(const Frame&)>> questions_;

    // The worker's own.
    std::shared_ptr<const shot::Shot> shot_;
    std::unique_ptr<Frame> coarse_, fine_; ///< fine_ is null until the coarse one was seen
    std::array<int, 2> fineSize_{8, 8};
    bool fineFollows_ = true;
    bool follows_ = false, mayBeFollowed_ = false; ///< another frame than the shot before; its first picture was seen
    std::optional<Frame::Known> fineKnown_;
    double coarseSeconds_ = 0.0; ///< that the last coarse picture of another light took at three eighths
    double quickSeconds_ = 0.0;  ///< that the last quick picture of the whole size took
    bool quickDue_ = false, fineQuickDue_ = false;
    bool showDue_ = false;                            ///< the picture of another shot is the one that there is
    std::shared_ptr<const std::vector<float>> depth_; ///< of fine_
    int depthPasses_ = 0;                             ///< surface passes in it
    int resumed_ = -1;                                ///< the pass that was begun last, and not ended
    std::uint64_t revision_ = 0;
    std::chrono::steady_clock::time_point editTime_, shownTime_;
    double secondsPerPass_ = 0.0;
    double traceSeconds_ = 0.0, marchSeconds_ = 0.0; ///< that these took lately
    static constexpr int laterPass = 8;
    double firstSeconds_ = 0.0; ///< the shortest of this picture's passes 1 to 3 [s]; 0: none yet
    double growth_ = 1.4;       ///< by how much those from `laterPass` on took longer than that, lately
    /// Of what is left to `wanted` samples.
    double secondsLeft(int wanted) const;
    std::thread thread_;
};
} // namespace hygros::render
