#pragma once
/// What moves in water makes waves: a square patch of its surface that goes with it, stepped through time.
///
/// Height and potential of small waves over even ground, each step exact for every wave by itself: it turns at its own
/// frequency (J. Tessendorf, eWave: using an exponential solver on the iWave problem, 2014). What moves pushes aside as
/// much water as it takes the place of: the surface rises where its hull gets deeper and sinks where it leaves, as
/// sources and sinks along a thin ship (J. H. Michell, Phil. Mag. 45, 1898). At walls waves are thrown back: what would
/// stand behind one is its mirror image. At the patch's rim they fade.
#include "base/job.h"
#include "media/swell_field.h"

#include <functional>
#include <vector>

namespace hygros::media {

struct WakeGrid {
    int n = 256;            ///< samples a side, even
    float cell = 0.1f;      ///< [m]
    double depth = 1000.0;  ///< of the water [m]
    float halves = 60.f;    ///< seconds after which half of a wave's height is gone
    float foamHalves = 3.f; ///< and of the foam that it made
    bool operator==(const WakeGrid&) const = default;
};

/// By rows of z; the first sample stands at the corner.
struct WakeState {
    Vec2 corner{0.f};
    std::vector<float> height, potential;
    std::vector<float> foam; ///< how much of it is covered, 0…1
    explicit WakeState(const WakeGrid& grid, const Vec2& at = Vec2(0.f))
        : corner(at), height(std::size_t(grid.n) * std::size_t(grid.n), 0.f), potential(height), foam(height)
    {
    }
    std::size_t bytes() const
    {
        return sizeof *this + (height.size() + potential.size() + foam.size()) * sizeof(float);
    }
};
/// Whether there is water at a place; empty: all over.
using WakeWalls = std::function<bool(float x, float z)>;

/// `before` some seconds later, in a patch at `corner` (whole cells away). `push`: heights that are added first, by
/// sample of the new patch [m]; empty: none.
WakeState stepped(const WakeState& before, const WakeGrid& grid, const Vec2& corner, const std::vector<float>& push,
                  double seconds, const WakeWalls& walls = {});
/// Foam of a state over its patch [m²].
double foamOf(const WakeState& state, const WakeGrid& grid);
/// Energy of it over the density of water [m⁵/s²]: of what is high, and of what moves.
double energyOf(const WakeState& state, const WakeGrid& grid);

/// The surface of a state, to be added to other waves.
class WakePatch {
public:
    /// `choppy` as SwellMoment's.
    WakePatch(const WakeState& state, const WakeGrid& grid, float choppy);
    bool holds(float x, float z) const
    {
        const float u = (x - corner_.x) * perMetre_, v = (z - corner_.y) * perMetre_;
        return u >= 0.f && v >= 0.f && u < side_ && v < side_;
    }
    SwellSample at(float x, float z, float width) const;
    SwellShape shapeAt(float x, float z, float scale) const;
    /// How much of a place is covered with foam, 0…1.
    float foamAt(float x, float z) const;
    float highest() const { return highest_; }
    float lowest() const { return lowest_; }
    std::size_t bytes() const;

private:
    std::vector<float> foam_; ///< by the samples of the finest level
    struct Level {
        int n;
        float perMetre;
        std::vector<F8> all;
        std::vector<SwellShape> shape;
    };
    template <class V, class All> V mixed(float x, float z, float scale, const All& all) const;
    Vec2 corner_;
    float perMetre_ = 1.f, side_ = 0.f, scale_ = 0.f, highest_ = 0.f, lowest_ = 0.f;
    std::vector<Level> levels_;
};
} // namespace hygros::media
