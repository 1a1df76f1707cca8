#pragma once
/// Waves of a Swell over the plane at one moment: square tiles that repeat, each with the waves of a range of lengths
/// (J. Tessendorf, Simulating ocean water, SIGGRAPH courses 2001). The longest tile is so wide that what repeats in a
/// view is hard to see, the others hold what is shorter; none has waves of another's.
#include "base/job.h"
#include "base/simd.h"
#include "media/swell.h"

#include <memory>
#include <vector>

namespace hygros::media {

/// What waves there are in each tile, whatever the moment.
class SwellModes {
public:
    struct Tile {
        int n = 0;                                 ///< samples a side, a power of 2
        double length = 1.0;                       ///< of a side [m]
        double from = 0.0, to = 0.0;               ///< wavenumbers of the waves in it [1/m]
        std::vector<float> re, im, reBack, imBack; ///< amplitudes along k, and of what comes against it, by row of kz
        std::vector<float> frequency;              ///< [1/s]
    };
    /// `finest`: samples a side of the longest tile (128 to 1024). Throws Cancelled.
    SwellModes(const Swell& swell, int finest, std::uint32_t seed, JobControl& job);
    const Swell& swell() const { return swell_; }
    const std::vector<Tile>& tiles() const { return tiles_; }
    /// Variance of slope of all that is shorter than a wave, in the tiles or not.
    float slopeVarianceUnder(float wave) const;
    std::size_t bytes() const;

private:
    Swell swell_;
    std::vector<Tile> tiles_;
    std::vector<float> slopes_; ///< by lengths in half octaves from 1 mm on
};

struct SwellMoment {
    double seconds = 0.0; ///< times the pace of the waves' time
    double loop = 0.0;    ///< seconds in which all closes, times the same; 0: it does not
    double choppy = 1.0;  ///< how much waves lean together at their crests: 1 as water does, 0 not at all
    bool operator==(const SwellMoment&) const = default;
};

/// At a place of the still plane.
struct SwellSample {
    float height = 0.f;
    float dx = 0.f, dz = 0.f;           ///< how far what was there has moved sideways [m]
    float slopeX = 0.f, slopeZ = 0.f;   ///< of the height over the still plane
    float xx = 0.f, zz = 0.f, xz = 0.f; ///< how the way sideways changes over x and z
    /// How much wider or narrower the surface is there than the plane; under 0 it folds over itself.
    float jacobian() const { return (1.f + xx) * (1.f + zz) - xz * xz; }
    /// Unit, up.
    Vec3 normal() const
    {
        const Vec3 a(1.f + xx, slopeX, xz), b(xz, slopeZ, 1.f + zz), n = b.cross(a);
        const float l = n.length();
        return l > 1e-9f && n.y > 0.f ? n / l : Vec3(0.f, 1.f, 0.f);
    }
};

/// Height, and how far sideways: x, z; the fourth is nothing.
typedef float SwellShape __attribute__((vector_size(16)));

/// Samples that are written before they are read.
template <class V> class Samples {
public:
    explicit Samples(std::size_t count) : all_(std::make_unique_for_overwrite<V[]>(count)), count_(count) {}
    V& operator[](std::size_t i) { return all_[i]; }
    const V& operator[](std::size_t i) const { return all_[i]; }
    V* data() { return all_.get(); }
    const V* data() const { return all_.get(); }
    std::size_t size() const { return count_; }

private:
    std::unique_ptr<V[]> all_;
    std::size_t count_;
};

class SwellField {
public:
    /// Throws Cancelled.
    SwellField(std::shared_ptr<const SwellModes> modes, const SwellMoment& moment, JobControl& job);
    const SwellModes& modes() const { return *modes_; }
    const std::shared_ptr<const SwellModes>& modesShared() const { return modes_; }
    /// Without what is shorter than `width` [m], and by the first so many tiles alone.
    SwellSample at(float x, float z, float width, std::size_t tiles = 99) const;
    /// Where it stands there by the first so many tiles alone; `scale`: log2 of the width. Faster.
    SwellShape shapeAt(float x, float z, float scale, std::size_t tiles) const;
    std::size_t tiles() const { return tiles_.size(); }
    /// The most that tiles from one on can add up or down to the height of those before [m].
    float restOf(std::size_t tile) const { return rest_[tile]; }
    /// How many metres along a way (unit) from a place, its height over the level, the longest tile stays under it;
    /// what other tiles add is taken as `more`. At most `far`; 0: it may meet a wave at once.
    float clearOf(const Vec3& place, const Vec3& way, float more, float far) const;
    /// The smallest way that this finds [m].
    float nearest() const { return bounds_.empty() ? 1e9f : bounds_.front().cell; }
    /// The highest and lowest that it can reach [m].
    float highest() const { return highest_; }
    float lowest() const { return lowest_; }
    /// Share of the surface with a jacobian under a limit, of all tiles together (0: what folds over).
    float shareUnder(float jacobian) const;
    /// What share would fold over were the ways sideways so many times as long.
    float foldedAt(float times) const;
    /// Jacobians of so many places spread all over.
    std::vector<float> jacobians(float width, std::size_t places) const;
    /// Variance of slope of all that at() leaves out for that width, in the tiles or not.
    float slopeVarianceUnder(float width) const;
    std::size_t bytes() const;

private:
    struct Level {
        int n;
        float perMetre;
        Samples<F8> all;           ///< numbers of a SwellSample, in its order
        Samples<SwellShape> shape; ///< the first three of them
    };
    struct Tile {
        float scale;          ///< log2 of what a sample covers [m]
        float scaleOfLongest; ///< log2 of its longest wave [m]
        std::vector<Level> levels;
    };
    /// The most that the longest tile rises to in squares of it.
    struct Bound {
        int n;
        float cell;
        std::vector<float> most;
    };
    void bound();
    void judge();
    std::shared_ptr<const SwellModes> modes_;
    std::vector<Tile> tiles_;
    std::vector<Vec3> stretches_;  ///< xx, zz, xz of places all over
    std::vector<float> jacobians_; ///< of these, sorted
    std::vector<float> rest_;      ///< by tile
    std::vector<Bound> bounds_;    ///< the finest first
    float highest_ = 0.f, lowest_ = 0.f;
};
} // namespace hygros::media
