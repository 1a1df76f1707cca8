#pragma once
/// Time of a project: which frames there are, how many a second, how long the shutter is open.
#include <algorithm>
#include <cmath>
#include <cstdint>
#include <optional>
#include <string>

namespace hygros::scene {

/// Frames a second as an exact fraction: 24000/1001 is what the trade calls 23.976.
struct Rate {
    std::int64_t frames = 25, seconds = 1;
    bool operator==(const Rate&) const = default;
    double perSecond() const { return static_cast<double>(frames) / static_cast<double>(seconds); }
    bool isWhole() const { return frames % seconds == 0; }
};
/// "25", "24000/1001", "23.976" (and 29.97, 47.952, 59.94, 119.88, which mean their fractions of 1001); others as
/// thousandths. Nothing where it is no number from 1 to 1000.
std::optional<Rate> rateOf(const std::string& text);
/// "25", "23.976".
std::string shown(const Rate& rate);

struct TimeSettings {
    static constexpr int farthest = 10'000'000; ///< frames lie within ±this
    int first = 1, last = 100;                  ///< frames that are played and delivered
    Rate rate;
    double shutterAngle = 180.0; ///< share of a frame that the shutter is open [degrees, 0…360]; 0: no motion blur
    double shutterPhase = 0.0;   ///< when it opens, from the frame's own time on [degrees, −360…360]
    double preRoll = 0.0;        ///< what is simulated before the first frame [s]
    double loop = 0.0;           ///< everything that moves by itself comes back after this [s]; 0: never
    bool operator==(const TimeSettings&) const = default;

    /// Frame 1 is at 0 s.
    double seconds(double frame) const { return (frame - 1.0) / rate.perSecond(); }
    double frameAt(double seconds) const { return seconds * rate.perSecond() + 1.0; }
    /// Where in the loop a time lies; the time itself without one [s].
    double looped(double secondsAny) const
    {
        return loop > 0.0 ? secondsAny - std::floor(secondsAny / loop) * loop : secondsAny;
    }
    /// The frame that stands for one within the loop; itself without one.
    double loopedFrame(double frame) const { return loop > 0.0 ? frameAt(looped(seconds(frame))) : frame; }
    /// The nearest rate that goes round whole times in the loop, once at least [1/s]; 0 stays 0, and any without a
    /// loop.
    double fitted(double perSecond) const
    {
        if (loop <= 0.0 || perSecond == 0.0)
            return perSecond;
        return std::copysign(std::max(1.0, std::round(std::abs(perSecond) * loop)) / loop, perSecond);
    }
    /// Throws std::invalid_argument with a sentence for people.
    void check() const;
};
} // namespace hygros::scene
