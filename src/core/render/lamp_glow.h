#pragma once
/// What a lamp's light becomes in thick air: its light once the air has turned it, or the set has sent it back.
///
/// Photons leave the lamp and are followed through air and set. A collision leaves
/// the way as it is with the chance that the phase function's forward peak has (delta-M; Wiscombe 1977), and else turns
/// it by what is left of that function; what has only been left on its way counts as the beam's own (MarchedRay,
/// AirModel::depthToLamp8), everything after the first turn is gathered here: fluence and flux by cell of a lattice
/// that is finest at the lamp (widths grow evenly away from it), as multiples of e^(−κr)/r, which leaves little to
/// change from cell to cell. Before there are photons the lattice holds a prior: diffusion from a point
/// (AirModel::diffused), or after an edit what was gathered before, scaled as diffusion changes. Photons outweigh it as
/// they come in.
#include "render/flights.h"
#include "render/surface.h"

#include <memory>
#include <vector>

namespace hygros::render {
class AirModel;

class LampGlow {
public:
    /// Of the shot's lamp `lamp`, around glowOf(lamp).centre. `before` (or null) is that of another air about the same
    /// lamp.
    LampGlow(const AirModel& air, std::size_t lamp, const LampGlow* before);

    /// Follows so many photons more. Not while others read.
    void add(const AirModel& air, const Flights& flights, const SurfaceSampler& sampler, int photons);
    /// So much is known that more would change little.
    bool isSettled() const { return photons_ >= enough; }

    struct Light8 {
        F8 fluence[3]; ///< for an intensity of 1 in each channel [1/m²], or an irradiance of 1 of parallel beams
        F8 half[6];    ///< irradiance, as luminance, of planes that face +x, −x, +y, −y, +z, −z
        F8 luminance() const { return fluence[0] * 0.2126f + fluence[1] * 0.7152f + fluence[2] * 0.0722f; }
        /// What flows along an axis by net.
        F8 flux(int axis) const { return half[2 * axis + 1] - half[2 * axis]; }
        /// Irradiance of a plane that faces `normal`, between those of the axes by the squares of its parts; by
        /// channel.
        void onto(const F8 normal[3], F8 irradiance[3]) const;
    };
    Light8 at8(F8 x, F8 y, F8 z) const;
    std::size_t bytes() const
    {
        return (held_.size() + sums_.size() + prior_.size() + diffused_.size() + parts_.size()) * 4;
    }

private:
    static constexpr int side = 24, high = 18;
    /// Floats a cell: fluence by channel, six half fluxes; the rest is room for whole loads.
    static constexpr std::size_t stride = 12, used = 9;
    static constexpr double enough = 4e5;
    static constexpr float priorWorth = 6000.f; ///< photons
    /// One way of the lattice: cells of equal width in asinh of the distance from the centre.
    struct Axis {
        float from, to; ///< asinh of the ends
        int cells;
        float
        place(float u) const;   ///< of a place 0…cells; here and below in widths of the finest cells from the centre
        F8 at8(F8 place) const; ///< 0…cells
        int cell(float place) const;
    };
    std::size_t cells() const { return std::size_t{side} * high * side; }
    std::size_t index(int x, int y, int z) const
    {
        return (static_cast<std::size_t>(z) * high + static_cast<std::size_t>(y)) * side + static_cast<std::size_t>(x);
    }
    /// A place of a cell, by shares of its width.
    Vec3 placeIn(std::size_t cell, float x, float y, float z) const;
    Vec3 middleOf(std::size_t cell) const { return placeIn(cell, 0.5f, 0.5f, 0.5f); }
    float shape(const Vec3& p) const;
    void follow(const AirModel& air, const Flights& flights, const SurfaceSampler& sampler, Random& random, Vec3 o,
                Vec3 d, Vec3 weight, std::vector<float>& to) const;
    void deposit(const Vec3& p, const Vec3& d, const Vec3& weight, std::vector<float>& to) const;
    void settle();
    void keepMeans();
    void measureParts();
    std::size_t lamp_;
    Vec3 centre_;
    float reach_ = 0.f, finest_ = 1.f, floor_ = 0.f;
    float ground_ = -1e9f; ///< height of what the air lies on beyond the set
    Vec3 groundAlbedo_{0.f};
    Axis axis_[3];
    std::vector<float> sums_, held_, prior_,
        diffused_;             ///< [cell][stride], all but the sums over shape(); diffused_: [cell]
    std::vector<float> room_;  ///< [cell] its volume times the mean of shape()
    std::vector<float> parts_; ///< [cell][8] volumes of its eighths times shape() in them; from the first photons on
    float fall_ = 0.f;         ///< κ [1/m]
    double photons_ = 0.0;
    std::uint32_t batches_ = 0;
};
} // namespace hygros::render
