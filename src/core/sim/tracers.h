#pragma once
/// Points without weight that the winds carry (media::Tracers in a shot): the smallest solver there is. They begin
/// evenly in a box, live for a while, and begin anew at another place of it, also when they have left it by more than
/// its own size. Stepped by the midpoint rule, in the wind at the end of the step.
#include "sim/solver.h"

#include <vector>

namespace hygros::sim {

struct TracerState final : State {
    struct Point {
        Vec3 place;
        float age = 0.f; ///< [s]
        std::uint32_t lives = 0;
    };
    std::vector<Point> points;
};

class TracerSolver final : public Solver {
public:
    explicit TracerSolver(std::string element) : element_(std::move(element)) {}
    std::shared_ptr<const State> begin(const shot::Shot& shot) const override;
    std::shared_ptr<const State> step(const State& from, const shot::Shot& shot, double seconds,
                                      JobControl& job) const override;
    int stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const override;
    std::string write(const State& state) const override;
    std::shared_ptr<const State> rounded(std::shared_ptr<const State> state) const override { return state; }
    std::shared_ptr<const State> read(std::span<const char> bytes) const override;

private:
    const media::Tracers& tracers(const shot::Shot& shot) const;
    std::string element_;
};
} // namespace hygros::sim
