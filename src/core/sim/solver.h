#pragma once
/// The seam behind which everything lies that is stepped through time. A solver is values in, values out: it sees
/// frozen shots, and a state that never changes once it is made. It knows neither files nor frames nor jobs' threads;
/// sim/bake.h runs it and keeps what it makes.
#include "base/job.h"
#include "shot/shot.h"

#include <functional>
#include <memory>
#include <span>
#include <string>

namespace hygros::sim {

/// What a solver knows at one time.
struct State {
    virtual ~State() = default;
};

/// The shot at a share of a frame's time: 0 where it begins, 1 where it ends.
using ShotWithin = std::function<std::shared_ptr<const shot::Shot>(double share)>;

class Solver {
public:
    virtual ~Solver() = default;
    /// How it begins, in the shot of its first frame.
    virtual std::shared_ptr<const State> begin(const shot::Shot& shot) const = 0;
    /// So many seconds on, to the time of `shot`. The same state and shot give the same result, whatever the number of
    /// threads.
    virtual std::shared_ptr<const State> step(const State& from, const shot::Shot& shot, double seconds,
                                              JobControl& job) const = 0;
    /// A whole frame on, by as many equal steps as it takes. Whoever overrides this steps more than one thing.
    virtual std::shared_ptr<const State> advance(std::shared_ptr<const State> from, const ShotWithin& shotAt,
                                                 double frameSeconds, JobControl& job) const;
    /// Into how many equal steps a frame is cut.
    virtual int stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const;
    /// Whether a state can be gone on from in a shot that was changed; else it begins anew.
    virtual bool goesOn(const State& state, const shot::Shot& shot) const;
    /// A state as bytes, and back; read() throws an input Error for what is not one.
    virtual std::string write(const State& state) const = 0;
    virtual std::shared_ptr<const State> read(std::span<const char> bytes) const = 0;
    /// The state as it would be read back: a bake goes on from this, so that one that was stopped comes to the same.
    virtual std::shared_ptr<const State> rounded(std::shared_ptr<const State> state) const;
};

inline std::shared_ptr<const State> Solver::rounded(std::shared_ptr<const State> state) const
{
    return read(write(*state));
}
inline bool Solver::goesOn(const State&, const shot::Shot&) const { return true; }
inline int Solver::stepsAFrame(const State&, const shot::Shot&, double) const { return 1; }
} // namespace hygros::sim
