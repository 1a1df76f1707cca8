#pragma once
/// Runs a solver over frames and puts them into the frame store, once for all solvers: pre-roll, steps between frames,
/// going on where it stopped, cancel, time left.
#include "base/frame_store.h"
#include "sim/solver.h"

#include <functional>
#include <optional>

namespace hygros::sim {

struct BakeOrder {
    std::string element;
    int first = 1, last = 100; ///< the first is where it begins; all through the last are baked
    int preRoll = 0;           ///< frames stepped before the first, not kept
    double frameSeconds = 1.0 / 24.0;
    std::function<std::shared_ptr<const shot::Shot>(double frame)> shotAt; ///< fractions are asked for too
    std::function<Origins(int frame)> originsAt;
    FrameStore::MayGo mayGo; ///< what may be removed when the store is full
    /// Asked before each frame is stepped: whether shotAt and originsAt answer otherwise from now on. The bake goes on
    /// from where it is, or begins anew where its solver cannot; what it keeps from there has the origin
    /// changeAt(frame) as well, so that it is not fresh.
    std::function<bool(int frame)> changes = {};
    std::function<void(int frame)> kept = {}; ///< told of each frame that is on disk
};

struct BakeResult {
    int resumedAfter = 0; ///< frames that were fresh already, from the first on
    int baked = 0;
    double seconds = 0.0, fileSeconds = 0.0; ///< all of it; of these, spent on what is written and read
};

/// The name of an origin: settings were others before a frame.
std::string changeAt(int frame);
/// The frame of such a name; nothing for others.
std::optional<int> frameOfChange(const std::string& origin);

/// How many frames are fresh without a gap, from the first on.
int freshFrom(const FrameStore& store, const BakeOrder& order);

/// Bakes what is not fresh. Each frame is kept as soon as it is done: who cancels, or is stopped, goes on from there.
/// Throws Cancelled, and Errors of the store that say what was kept.
BakeResult bake(const Solver& solver, const BakeOrder& order, FrameStore& store, JobControl& job);
} // namespace hygros::sim
