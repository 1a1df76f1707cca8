#pragma once
/// The solver of plumes (media::Plume in a shot) behind the seam.
#include "sim/smoke/gas.h"
#include "sim/solver.h"

#include <map>
#include <mutex>

namespace hygros::sim {

struct PlumeState final : State {
    std::shared_ptr<const Gas> gas;
    std::map<std::string, Mat4> feeds;         ///< where they stood
    std::shared_ptr<const PlumeState> preview; ///< of a plume that keeps to one
};

/// Where in a plume's written state the OpenVDB stream begins. `feeds` gets where they stood, `preview` the written
/// state of the one that it keeps to. Throws an input Error.
std::size_t headOf(std::span<const char> bytes, std::map<std::string, Mat4>* feeds = nullptr,
                   std::span<const char>* preview = nullptr);

class PlumeSolver final : public Solver {
public:
    explicit PlumeSolver(std::string element);
    ~PlumeSolver() override;
    std::shared_ptr<const State> begin(const shot::Shot& shot) const override;
    std::shared_ptr<const State> step(const State& from, const shot::Shot& shot, double seconds,
                                      JobControl& job) const override;
    /// What keeps to a preview has that stepped first, just as it would be by itself.
    std::shared_ptr<const State> advance(std::shared_ptr<const State> from, const ShotWithin& shotAt,
                                         double frameSeconds, JobControl& job) const override;
    bool goesOn(const State& state, const shot::Shot& shot) const override; ///< the same box and voxels
    /// No way longer than four cells.
    int stepsAFrame(const State& from, const shot::Shot& shot, double frameSeconds) const override;
    std::string write(const State& state) const override;
    std::shared_ptr<const State> read(std::span<const char> bytes) const override;
    std::shared_ptr<const State> rounded(std::shared_ptr<const State> state) const override;

    /// About how much a cell in use takes while it is stepped.
    static constexpr double bytesACell = 275.0;
    /// Bytes that the cells in use may take together; else a bake ends with an Error. Four fifths of the machine's
    /// memory without.
    void setMemoryLimit(double bytes) { memoryLimit_ = bytes; }
    /// Cells of the box of a plume; throws an input Error with what to do where there would be too many.
    static Lattice latticeOf(const media::Plume& plume);

private:
    struct Work;
    const media::Plume& plume(const shot::Shot& shot) const;
    std::shared_ptr<PlumeState> stepped(const PlumeState& before, const media::Plume& p, const shot::Airflow& airflow,
                                        double seconds, Work& work, const Guide& guide, JobControl& job) const;
    std::string element_;
    double memoryLimit_;
    std::unique_ptr<Work> work_, previewWork_;
};
} // namespace hygros::sim
