#include "sim/bake.h"

#include "base/error.h"
#include "base/units.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <future>

namespace hygros::sim {
namespace {
/// "2 min left", from how long so much of it took.
class TimeLeft {
public:
    std::string after(int done, int of) const
    {
        const std::chrono::duration<double> passed = std::chrono::steady_clock::now() - began_;
        if (done < 1 || passed.count() < 1.0)
            return {};
        const double left = passed.count() / done * (of - done);
        return left < 90.0 ? ", " + formatQuantity(std::ceil(left), Quantity::Time) + " left"
                           : ", " + std::to_string(std::lround(left / 60.0)) + " min left";
    }

private:
    std::chrono::steady_clock::time_point began_ = std::chrono::steady_clock::now();
};
} // namespace

std::string changeAt(int frame) { return "other settings before frame " + std::to_string(frame); }

std::optional<int> frameOfChange(const std::string& origin)
{
    const std::string_view begin = "other settings before frame ";
    int frame = 0;
    if (!origin.starts_with(begin))
        return std::nullopt;
    const char* end = origin.data() + origin.size();
    const auto read = std::from_chars(origin.data() + begin.size(), end, frame);
    return read.ec == std::errc() && read.ptr == end ? std::optional(frame) : std::nullopt;
}

std::shared_ptr<const State> Solver::advance(std::shared_ptr<const State> from, const ShotWithin& shotAt,
                                             double frameSeconds, JobControl& job) const
{
    const int pieces = std::clamp(stepsAFrame(*from, *shotAt(0.0), frameSeconds), 1, 1000);
    for (int i = 1; i <= pieces; ++i) {
        job.check();
        from = step(*from, *shotAt(i == pieces ? 1.0 : double(i) / pieces), frameSeconds / pieces, job);
    }
    return from;
}

int freshFrom(const FrameStore& store, const BakeOrder& order)
{
    int fresh = 0;
    while (order.first + fresh <= order.last) {
        const int frame = order.first + fresh;
        if (store.look(order.element, frame, order.originsAt(frame)).state != FrameStore::State::Fresh)
            break;
        ++fresh;
    }
    return fresh;
}

BakeResult bake(const Solver& solver, const BakeOrder& order, FrameStore& store, JobControl& job)
{
    BakeResult result;
    const auto began = std::chrono::steady_clock::now();
    const auto since = [](std::chrono::steady_clock::time_point t) {
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - t).count();
    };
    result.resumedAfter = freshFrom(store, order);
    if (order.first + result.resumedAfter > order.last)
        return result;
    std::shared_ptr<const State> state;
    // A frame that is whole by its head may be damaged further on.
    while (!state && result.resumedAfter > 0) {
        const int frame = order.first + result.resumedAfter - 1;
        try {
            state = solver.read(store.read(order.element, frame).bytes());
        } catch (const Error&) {
            store.remove(order.element, frame);
            --result.resumedAfter;
        }
    }
    int steps = state ? order.last - (order.first + result.resumedAfter) + 1
                      : order.preRoll + order.last - order.first + 1;
    int done = 0;
    const TimeLeft left;
    const auto tell = [&](int frame) {
        job.check();
        job.report(static_cast<float>(done) / static_cast<float>(std::max(1, steps)),
                   (frame < order.first ? "pre-roll, frame " : "frame ") + std::to_string(frame) + " of " +
                       std::to_string(order.last) + left.after(done, steps));
    };
    Origins came; // of changes on the way
    // One frame is written while the next is stepped.
    std::future<void> writes;
    const auto written = [&] {
        if (writes.valid())
            writes.get(); // what it threw is thrown here
    };
    const auto keep = [&](int frame) {
        const auto from = std::chrono::steady_clock::now();
        written();
        // Going on from what is kept, as after a stop: both come to the same.
        state = solver.rounded(std::move(state));
        Origins origins = order.originsAt(frame);
        origins.insert(came.begin(), came.end());
        ++result.baked;
        writes = std::async(std::launch::async, [&, frame, origins, kept = state] {
            store.write(order.element, frame, origins, solver.write(*kept), order.mayGo);
            if (order.kept)
                order.kept(frame);
        });
        result.fileSeconds += since(from);
    };
    int at = order.first + result.resumedAfter - 1;
    const auto begin = [&] {
        at = order.first - order.preRoll;
        tell(at);
        state = solver.begin(*order.shotAt(at));
        done = 1;
        steps = order.preRoll + order.last - order.first + 1;
        if (at == order.first)
            keep(at);
    };
    if (!state)
        begin();
    while (at < order.last) {
        tell(at + 1);
        if (order.changes && order.changes(at + 1)) {
            if (solver.goesOn(*state, *order.shotAt(at))) {
                came[changeAt(at + 1)] = 1;
            } else {
                came.clear();
                begin();
                continue;
            }
        }
        state = solver.advance(
            std::move(state), [&](double share) { return order.shotAt(share < 1.0 ? at + share : at + 1.0); },
            order.frameSeconds, job);
        ++at;
        ++done;
        if (at >= order.first)
            keep(at);
    }
    const auto from = std::chrono::steady_clock::now();
    written();
    result.fileSeconds += since(from);
    job.report(1.f, "baked");
    result.seconds = since(began);
    return result;
}
} // namespace hygros::sim
