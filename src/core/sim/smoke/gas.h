#pragma once
/// A body of hot gas that moves by itself: incompressible but where it burns, on the cells of a lattice that are in
/// use. Metres, seconds, kelvin; temperatures are counted from that of the air around.
#include "base/job.h"
#include "media/force.h"
#include "media/plume.h"
#include "sim/smoke/advect.h"
#include "sim/smoke/pressure.h"

#include <optional>

namespace hygros::sim {

using media::GasSettings;

/// What flows in at a cell: its contents go toward these by `rate`, the more the larger its share.
struct Inflow {
    float heat = 0.f, soot = 0.f, fuel = 0.f; ///< [K], [kg/m³], share
    Vec3 velocity{0.f};
    bool pushes = false;                                              ///< the velocity counts
    float rate = 10.f;                                                ///< [1/s]
    std::vector<std::pair<std::array<std::int16_t, 3>, float>> cells; ///< and how much of each it takes
    std::vector<Vec3> beside;                                         ///< velocity over and above, by cell; empty: none
};

/// At one time; never changed once it is made.
struct Gas {
    /// How much of the last step's pressure acts once more in the next; at 1 what is stirred by it never dies away.
    static constexpr float mirrored = 0.8f;
    Lattice lattice;
    Activity activity;
    Field x, y, z;          ///< velocity on the faces, beside the ambient one [m/s]
    Field heat, soot, fuel; ///< [K] over the air, [kg/m³], share
    Field pressure;         ///< what the last step took from the velocity, by its differences [m/s]
    float seconds = 0.f;    ///< length of the last step
    double letGo = 0.0;     ///< soot that was too thin to be kept, so far [kg]
    float fastest = 0.f;    ///< of the velocity's components [m/s]
    int iterations = 0;     ///< of the last pressure
    float residual = 0.f;

    static std::shared_ptr<Gas> still(const Lattice& lattice);
    std::size_t bytes() const;
};
/// Soot in it [kg].
double sootOf(const Gas& gas);
/// Heat, as kelvin times cubic metres.
double heatOf(const Gas& gas);
/// Root mean square of the divergence in what is in use [1/s].
double divergenceOf(const Gas& gas);

/// Another gas whose large motion one keeps to: what that is over the width of its cells becomes that of the other. By
/// differences between what both are at that width, so that smaller motion stays (M. B. Nielsen & B. B. Christensen,
/// Improved variational guiding of smoke animations, 2010, have the same aim by an energy).
struct Guide {
    const Gas* before = nullptr; ///< where the frame begins, and where it ends
    const Gas* after = nullptr;
    float share = 0.f; ///< of the way from one to the other
    float keeps = 1.f; ///< 0…1
};

/// Steps gases of one lattice; keeps what it can use again. One thread at a time.
class GasStepper {
public:
    explicit GasStepper(const Lattice& lattice);
    /// What is solid; its velocity is 0. By Lattice::at(), empty: nothing.
    void setSolids(std::vector<std::uint8_t> solid);
    std::shared_ptr<Gas> step(const Gas& from, const GasSettings& settings, const std::vector<Inflow>& inflows,
                              const Ambient& ambient, float seconds, const std::vector<media::Force>& forces = {},
                              const Guide& guide = {});
    /// Blocks that a gas and what flows into it need for a step. A room is needed as a whole: what is not in use is as
    /// good as open air.
    Activity needed(const Gas& gas, const std::vector<Inflow>& inflows) const;
    /// Takes the arrays of a gas that is needed no more.
    void recycle(Gas& gas);

private:
    /// `correction`: of the soot, before anything else.
    void react(Gas& gas, const GasSettings& s, const std::vector<Inflow>& inflows, float seconds, float correction,
               float* growth);
    void push(Gas& gas, const GasSettings& s, const std::vector<Inflow>& inflows, const AmbientAt& ambient,
              float seconds);
    void exert(Gas& gas, const media::Force& force, const AmbientAt& ambient, float seconds);
    void swirl(Gas& gas, const GasSettings& s, float seconds);
    void thicken(Gas& gas, const GasSettings& s, float seconds);
    void follow(Gas& gas, const Guide& guide, float seconds) const;
    void project(Gas& gas, const GasSettings& s, const AmbientAt& ambient, const float* growth, float seconds);
    void findRooms();
    void edges(Gas& gas) const;
    void calmInflow(Gas& gas, float seconds) const;

    Lattice lattice_;
    FieldPool pool_;
    PressureSolver pressure_;
    std::optional<Activity> setUpFor_;
    std::array<bool, 6> closed_{};
    CellKinds cells_;
    std::vector<std::uint8_t> solid_;
    std::vector<std::int32_t> rooms_; ///< by block: the room that it belongs to, −1: none; empty without any
    std::int32_t roomCount_ = 0;
};
} // namespace hygros::sim
