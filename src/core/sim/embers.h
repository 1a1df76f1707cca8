#pragma once
/// Glowing bits that a fire throws up (media::Embers in a shot): born where the fire is fed and lifts them, carried by
/// the plume's baked motion and the wind, falling in it, until they are out or have landed.
///
/// Each has the speed of the air around it within `fall` ÷ g seconds (linear drag, with the speed that it falls at in
/// still air); steps take that relaxation exactly.
#include "sim/solver.h"

#include <vector>

namespace hygros::sim {

struct EmberState final : State {
    struct Ember {
        Vec3 place, velocity;
        float age = 0.f, life = 1.f; ///< [s]
        std::uint32_t number = 0;    ///< in the order of their births
        std::uint32_t hasLanded = 0; ///< 1: it lies where it fell
    };
    std::vector<Ember> embers;
    double born = 0.0; ///< so far, the next one in part
};

class EmberSolver final : public Solver {
public:
    static constexpr double most = 500'000; ///< at a time
    explicit EmberSolver(std::string element) : element_(std::move(element)) {}
    std::shared_ptr<const State> begin(const shot::Shot& shot) const override;
    /// Throws an input Error where there would be more than `most`.
    std::shared_ptr<const State> step(const State& from, const shot::Shot& shot, double seconds,
                                      JobControl& job) const override;
    int stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const override;
    std::string write(const State& state) const override;
    std::shared_ptr<const State> rounded(std::shared_ptr<const State> state) const override { return state; }
    std::shared_ptr<const State> read(std::span<const char> bytes) const override;

private:
    const media::Embers& embers(const shot::Shot& shot) const;
    std::string element_;
};
} // namespace hygros::sim
