#pragma once
/// The solver of plumes (media::Plume in a shot) behind the seam.
#include "sim/smoke/gas.h"
#include "sim/solver.h"

#include <map>
#include <mutex>

namespace hygros::sim {

struct PlumeState final : State {
    std::shared_ptr<const Gas> gas;
    std::map<std::string, Mat4> feeds; ///< where they stood
};

/// Where in a plume's written state the OpenVDB stream begins; `feeds` gets where they stood. Throws an input Error.
std::size_t headOf(std::span<const char> bytes, std::map<std::string, Mat4>* feeds = nullptr);

class PlumeSolver final : public Solver {
public:
    explicit PlumeSolver(std::string element);
    ~PlumeSolver() override;
    std::shared_ptr<const State> begin(const shot::Shot& shot) const override;
    std::shared_ptr<const State> step(const State& from, const shot::Shot& shot, double seconds,
                                      JobControl& job) const override;
    bool goesOn(const State& state, const shot::Shot& shot) const override; ///< the same box and voxels
    /// No way longer than four cells.
    int stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const override;
    std::string write(const State& state) const override;
    std::shared_ptr<const State> read(std::span<const char> bytes) const override;
    std::shared_ptr<const State> rounded(std::shared_ptr<const State> state) const override;

    /// Cells of the box of a plume; throws an input Error with what to do where there would be too many.
    static Lattice latticeOf(const media::Plume& plume);

private:
    struct Work;
    const media::Plume& plume(const shot::Shot& shot) const;
    std::string element_;
    std::unique_ptr<Work> work_;
};
} // namespace hygros::sim
