#pragma once
/// What paths say of the marched light: how much of it there should be, by place in the picture and by its source.
///
/// The march knows where light goes in a picture (shadows, beams, noise, textures) and takes for what was scattered
/// many times a rule; paths know how much there is, and are noisy. Some pixels are looked at by both. Over many of them
/// the two sums give a ratio with a small error, first for the whole picture, then for its parts, each part as far as
/// its own looks say more than noise does: of a part's ratio q with variance v counts q − 1 with the weight
/// 1 − k²v/(q − 1)² where that is positive, k standard errors (the nonnegative garrote, Breiman 1995; a positive-part
/// shrinkage as James & Stein's 1961). It goes on from nothing evenly, so that a little more noise changes a little.
/// Where the march is right nothing is changed, and hardly any noise comes in.
///
/// Colours are judged by themselves, by how far channels are from luminance: what makes looks differ in brightness
/// hardly changes that.
///
/// Few paths may carry most of the light (a low sun in deep haze). Such a one says much about the whole and nothing
/// about its place: places share what looks say up to a brightness, and how much there is together all of it says.
///
/// Places are bins across the picture and by the distance of what is seen (sky apart); surfaces also by the six
/// directions that they can face, with the squares of a normal's components as shares, and mirrors by themselves.
/// Between bins ratios are interpolated.
#include "base/simd.h"
#include "base/vec.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstdint>
#include <utility>
#include <vector>

namespace hygros::render {

class PathRatios {
public:
    enum Source { sun, sky, lamps, all };
    static constexpr int sources = 3;
    /// One colour for each source, and one for their sum.
    struct By {
        std::array<Vec3, sources + 1> of{Vec3(1.f), Vec3(1.f), Vec3(1.f), Vec3(1.f)};
    };
    /// The same as it is kept: three channels of four ratios, then nothing.
    struct Packed {
        F8 v[2] = {f8(0.f), f8(0.f)};
        By unpacked() const;
        float at(int source, int channel) const
        {
            return v[(source * 3 + channel) / lanes][(source * 3 + channel) % lanes];
        }
    };
    /// One pixel by a path and by the march.
    struct Look {
        float x = 0.f, y = 0.f; ///< in the picture, 0…1
        float t = 0.f;          ///< distance of what is seen [m]
        bool isSky = false;     ///< nothing is
        bool surface = false;   ///< its light was looked at, behind the air
        bool mirror = false;    ///< it mirrors
        Vec3 normal{0.f, 1.f, 0.f};
        std::array<Vec3, sources> air, airMarched, set, setMarched; ///< radiance at the eye
        /// The most luminance that counts at its place, by source.
        std::array<float, sources> airMost{1e30f, 1e30f, 1e30f}, setMost{1e30f, 1e30f, 1e30f};
    };
    PathRatios();

    /// Another state: what was found is where the next looks start from.
    void begin();
    /// What was added so far counts less from now on: the march has come to know more since.
    void fade(double share);
    void add(const Look& look);
    /// Ratios by all looks so far.
    void solve();
    /// Whether there is anything but 1.
    bool known() const { return known_; }
    double looks() const { return looks_; }

    std::size_t bytes() const;

private:
    friend class RatioRow;            ///< which looks up what was found
    static constexpr int values = 16; ///< a node, as Packed
    static constexpr int depths = 9;  ///< the last is the sky
    static constexpr int mirrors = 6; ///< after the six faces
    static constexpr int airDown = 8, airAcross = 12, setDown = 4, setAcross = 6;
    struct Sums {
        double n = 0.0, pathsSquared = 0.0, both = 0.0, marchedSquared = 0.0;
        std::array<double, 3> paths{}, marched{};
        std::array<double, 3> squared{}, withLight{}; ///< of paths by channel; times their luminance
        void add(double share, const Vec3& path, const Vec3& march);
        void fade(double share);
    };
    struct Grid {
        int faces, down, across;
        std::vector<Sums> sums;            ///< [node][source], of looks up to their most
        std::array<Sums, sources + 1> all; ///< of looks as they are
        std::vector<float> before, ratios; ///< [node][values]
        std::size_t nodes() const { return static_cast<std::size_t>(faces * depths * down * across); }
        std::size_t at(int f, int d, int y, int x) const
        {
            return static_cast<std::size_t>(((f * depths + d) * down + y) * across + x);
        }
        Grid(int f, int h, int w);
    };
    /// How a level of parts cuts a grid.
    struct Level {
        int faces, down, across;
        int depths; ///< of what is not sky
        bool skyApart;
    };
    static constexpr float nearest = 2.f;   ///< [m] of the first bin of distances
    static constexpr float octaves = 1.45f; ///< of distance between two bins: the last but the sky's is at 2.3 km
    /// Bins by the logarithm of distance, taken straight between powers of two.
    static float depthOf(float t, bool isSky)
    {
        if (isSky)
            return static_cast<float>(depths - 1);
        const float shift = static_cast<float>(std::bit_cast<std::int32_t>(std::max(t, 1e-3f) * (1.f / nearest)));
        return std::clamp((shift * 0x1p-23f - 127.f) * (1.f / octaves), 0.f, static_cast<float>(depths - 2));
    }
    /// The node of `count` before a place of 0…1, never the last, and the share of the next one.
    static std::pair<int, float> between(float v, int count)
    {
        const float at = std::clamp(v * static_cast<float>(count) - 0.5f, 0.f, static_cast<float>(count - 1));
        const int low = std::min(static_cast<int>(at), count - 2);
        return {low, at - static_cast<float>(low)};
    }
    struct Around {
        std::size_t node[8]; ///< of the first face
        float share[8];
    };
    static Around around(const Grid& grid, float x, float y, float depth);
    static void blend(const Grid& grid, const std::vector<float>& from, int face, const Around& at, float share,
                      Packed& out);
    using Sources = std::array<Vec3, sources + 1>; ///< and their sum
    static void count(Grid& grid, int face, const Around& at, float share, const Sources& held, const Sources& marched);
    using Logarithms = std::array<float, 3>; ///< of a ratio, by channel
    /// Returns what the whole comes to, beside what it was `expected` to.
    static Logarithms solve(Grid& grid, int source, double wholeError, const Logarithms& expected,
                            std::initializer_list<Level> levels);

    Grid air_, set_;
    bool known_ = false, knownBefore_ = false; ///< by looks of this state; of one before it
    double looks_ = 0.0;
};
} // namespace hygros::render
