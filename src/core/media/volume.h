#pragma once
/// Voxel volumes placed in the world, and how much of them lies between a point and the sun.
#include "base/content.h"
#include "media/brick_grid.h"
#include "media/medium.h"
#include "media/phase.h"

#include <string>

namespace hygros::media {

class VolumeShadow;

/// Light that hot matter gives off, by the value of its heat grid.
struct Glow {
    std::shared_ptr<const BrickGrid> heat; ///< null: it does not glow
    Mat4 toHeat;                           ///< from the world to the heat grid's index space, row vectors
    float scale = 1.f;                     ///< table places a unit of the grid
    float lights = 1.f;                    ///< strength of it as light on everything else; 1 is physical
    /// Radiance it gains a metre, by heat·scale from 0 on [W/m³/sr]; the last entry holds beyond. The first is 0.
    Content<std::vector<Vec3>> table;
    bool operator==(const Glow&) const = default;
};

/// Colours laid over a volume's albedo.
struct Tint {
    enum class By {
        Axis,    ///< metres along `direction` from `origin`
        Point,   ///< metres from `origin`
        Density, ///< the grid's value
        Heat,    ///< the heat grid's value; without one nothing changes
        Noise,   ///< 0…1 by `noise`
        Surface, ///< metres from a set object's surface, by `distance`; without it nothing changes
    } by = By::Axis;
    Vec3 origin{0.f}, direction{0.f, 1.f, 0.f};
    float from = 0.f, to = 1.f; ///< where the first and the last colour lie; may run backward, not equal
    media::Noise noise;
    std::shared_ptr<const BrickGrid> distance; ///< metres from the surface, near the volume
    Mat4 toDistance;                           ///< from the world to its index space, row vectors
    float farthest = 0.f; ///< what the grid lacks to the distance: it holds `farthest` minus the distance, and 0 beyond
    /// Evenly from first to last; at least two. Onto scattering: what the albedo is multiplied with. Onto absorption:
    /// what a mean free path of the volume lets through beside its own dimming, over 0.
    std::vector<Vec3> colours;
    enum class Onto { Scattering, Absorption } onto = Onto::Scattering;
    bool operator==(const Tint&) const = default;
};

/// Scattering and absorption where the grid has a value, as factors on what they would be.
struct Remap {
    static constexpr int entries = 65;
    float most = 1.f;                                      ///< grid value of the last entry, > 0; it holds beyond
    std::array<float, entries> scattering{}, absorption{}; ///< evenly from 0, ≥ 0
    bool operator==(const Remap&) const = default;
};

struct Volume {
    std::string id; ///< the element it came from
    std::shared_ptr<const BrickGrid> density;
    Mat4 toIndex;           ///< from the world to the grid's index space, row vectors
    Box3 bounds;            ///< of what is not empty, world [m]
    float sigmaT = 1.f;     ///< extinction where the grid is 1 [1/m]
    Vec3 spectrum{1, 1, 1}; ///< extinction by channel, as a share of sigmaT
    Vec3 albedo{1, 1, 1};
    Content<Remap> remap; ///< null: scattering and absorption follow the density
    Phase phase;
    float ambient = 1.f;            ///< as Medium::ambient
    float bySun = 1.f, bySky = 1.f; ///< reach of the sun and of the sky to it; 1 is physical
    float shadowShare = 1.f;        ///< of its extinction that shades others; 1 is physical
    Glow glow;
    std::vector<Tint> tints;                    ///< one after the other
    std::shared_ptr<const VolumeShadow> shadow; ///< null: there is no sun

    /// Sets toIndex and bounds from where the grid's index space lies in the world. Throws Error where that cannot be
    /// inverted.
    void place(const Mat4& toWorld);
    bool operator==(const Volume&) const = default;
    Vec3 indexOf(const Vec3& p) const { return p * toIndex; }
    /// Direction in index space of a unit direction of the world: as long as the voxels a metre.
    Vec3 indexDirection(const Vec3& d) const
    {
        Vec3 out;
        toIndex.multDirMatrix(d, out);
        return out;
    }
};

/// Whether extinction is the same for all channels everywhere.
bool isGrey(const Volume& v);
/// Largest extinction of any channel, as a share of sigmaT and the grid's value.
float mostRelative(const Volume& v);
/// Extinction of a channel of relative extinction 1 at eight points [1/m].
F8 extinction8(const Volume& v, F8 x, F8 y, F8 z);
F8 density8(const Volume& v, F8 x, F8 y, F8 z); ///< the same per sigmaT
float extinction(const Volume& v, const Vec3& p);
/// What each channel's extinction is of that, and its albedo there: spectrum, remap and tints counted. `extinction` is
/// extinction8() of the place.
void optics8(const Volume& v, F8 x, F8 y, F8 z, F8 extinction, F8 relative[3], F8 albedo[3]);
/// The same at one place.
struct Optics {
    Vec3 extinction, albedo; ///< [1/m]
};
Optics opticsAt(const Volume& v, const Vec3& p);
/// Extinction by channel relative to sigmaT and the grid, roughly meant over the volume.
Vec3 meanRelative(const Volume& v);
/// Light given off at eight points, by channel [W/m³/sr].
void glow8(const Volume& v, F8 x, F8 y, F8 z, F8 out[3]);
/// Shrinks [t0, t1] to the volume's bounds; t1 == t0 where they are missed.
void clip8(const Volume& v, const Ray8& ray, F8& t0, F8& t1);

/// Calls body(t0, t1, extinction bound) for the stretches of a ray [m] where there may be something, in order, until it
/// returns false.
template <class Body>
void overVolume(const Volume& v, const Vec3& o, const Vec3& d, float t0, float t1, const Body& body)
{
    const float most = v.sigmaT * mostRelative(v);
    v.density->overBricks(v.indexOf(o), v.indexDirection(d), t0, t1,
                          [&](float a, float b, float bound) { return body(a, b, bound * most); });
}

/// Metres of a volume's grid value on the way to the sun, on a lattice in the sun's own frame: summed along its
/// columns, so that nothing blurs from cell to cell. What a volume is made of (its extinction) does not matter to it.
class VolumeShadow {
public:
    /// `sun` is the direction to the sun.
    VolumeShadow(const Volume& volume, const Vec3& sun, int cells = most);
    /// ∫ grid value ds from eight points to the sun, from anywhere in the world; trilinear in the lattice.
    F8 column8(F8 x, F8 y, F8 z) const;
    /// A lattice cell's side [m]; never less than a voxel.
    float cell() const { return cell_; }
    std::size_t bytes() const { return columns_.size() * sizeof(float); }
    const Vec3& sun() const { return sun_; }
    static constexpr int most = 112; ///< cells along the longest side

private:
    Vec3 sun_, right_, up_;
    std::array<int, 3> size_{2, 2, 2}; ///< columns across and up, levels toward the sun
    Vec3 origin_{0.f};                 ///< of column (0, 0) and the lowest level, in the sun's frame [m]
    float cell_ = 1.f;
    std::vector<float> columns_; ///< [up][across][level]: from that level to the sun
};
/// Optical depth from eight points to the sun: two looks at the volume itself nearby, the shadow beyond.
F8 fineSunDepth8(const Volume& v, F8 x, F8 y, F8 z, F8 jitter);
} // namespace hygros::media
