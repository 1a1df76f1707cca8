#pragma once
/// How a parameter changes over time: keys, and stirs that are laid over it.
#include "scene/parameter.h"
#include "scene/time.h"

#include <array>
#include <map>
#include <memory>
#include <optional>

namespace hygros::scene {

/// How a value gets from one key to the next.
enum class Way { Smooth, Linear, Hold };
/// What it is before the first key and after the last one.
enum class Beyond { Hold, GoOn, Repeat, Swing };

struct Key {
    double frame = 1.0;
    Value value;
    Way way = Way::Smooth; ///< of the stretch that begins here
    /// Slopes set by hand [units of the value a frame], of what comes in and what goes out; numbers use x alone.
    std::optional<Vec3> in = std::nullopt, out = std::nullopt;
    bool operator==(const Key&) const = default;
};

Key keyAt(double frame, Value value, Way way = Way::Smooth);

/// A change laid over a value, by components of numbers, points and colours.
struct Stir {
    enum class Kind {
        Sway,   ///< noise within ±amount, of frequencies about `rate`; `rough` adds faster ones
        Swing,  ///< a sine of `rate` and `phase`
        Pulse,  ///< rises to amount and falls again, `rate` times a second, up for `width` of the time
        Ramp,   ///< from 0 to amount, eased, over `from`…`to` [frames]
        Follows ///< amount times the value of `source` ("element.parameter")
    };
    Kind kind = Kind::Sway;
    Vec3 amount{0.f};   ///< by component [units of the value]; numbers use x alone
    double rate = 1.0;  ///< [1/s]
    double phase = 0.0; ///< [degrees]
    double rough = 0.3; ///< 0…1
    double width = 0.3; ///< 0…1
    double from = 1.0, to = 25.0;
    std::int64_t seed = 1;
    std::string source;
    bool operator==(const Stir&) const = default;
};
/// What a stir adds at a time, ÷ amount: −1…1 (a pulse, a ramp: 0…1). With a loop, what repeats has periods that fit
/// into it whole times. Not for Follows.
double stirAt(const Stir& stir, double frame, const TimeSettings& time, int component);

struct Track {
    static constexpr std::size_t mostKeys = 100'000;
    std::vector<Key> keys; ///< frames rising
    Beyond before = Beyond::Hold, after = Beyond::Hold;
    std::vector<Stir> stirs;
    bool operator==(const Track&) const = default;
    bool empty() const { return keys.empty() && stirs.empty(); }

    /// The key within a thousandth of a frame; null without.
    const Key* at(double frame) const;
    /// Puts one there, or takes its place.
    void put(Key key);
    /// False where there is none.
    bool removeAt(double frame);
    /// The nearest key's frame after (`forward`) or before a frame.
    std::optional<double> next(double frame, bool forward) const;
};

/// Tracks by parameter id, shared between copies until one is changed: copying costs a pointer.
class Motion {
public:
    using Tracks = std::map<std::string, std::shared_ptr<const Track>>;
    bool empty() const { return !tracks_; }
    Tracks::const_iterator begin() const { return all().begin(); }
    Tracks::const_iterator end() const { return all().end(); }
    /// Null where there is none.
    std::shared_ptr<const Track> of(const std::string& parameter) const;
    void put(const std::string& parameter, Track track);
    void remove(const std::string& parameter);
    void clear() { tracks_.reset(); }

private:
    const Tracks& all() const;
    Tracks& own();
    std::shared_ptr<const Tracks> tracks_;
};

/// Whether it can be keyed and stirred: a stir needs numbers.
bool mayBeKeyed(const Parameter& parameter);
bool mayBeStirred(const Parameter& parameter);
/// Whether a value between two keys lies between theirs; else it is that of the one before (switches, choices).
bool isBlended(const Parameter& parameter);

/// What keys say at a frame, without stirs; `otherwise` where there are none. Smooth stretches are monotone cubics
/// (F. N. Fritsch, R. E. Carlson, Monotone Piecewise Cubic Interpolation, SIAM J. Numer. Anal. 17, 1980): no value
/// leaves the range of its two keys, but by slopes set by hand. Curves and ramps are blended as wholes.
Value keyedValue(const Parameter& parameter, const Track& track, double frame, const Value& otherwise);

/// The slopes that a key's stretches have there [units a frame]: of what comes in, of what goes out.
std::array<Vec3, 2> slopesAt(const Parameter& parameter, const Track& track, std::size_t key);

/// Brought into the hard range, whole where it must be.
Value limited(const Parameter& parameter, const Value& value);

/// Throws std::invalid_argument with a sentence for people: keys in order, finite, of the parameter's type and range;
/// stirs with finite numbers.
void checkTrack(const Parameter& parameter, const Track& track);
} // namespace hygros::scene
