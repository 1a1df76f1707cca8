#pragma once
/// Light that a cloud deck scatters many times, by height in it and by the depth to the sun.
///
/// Clouds side by side light each other, let light out of their flanks and shade each other: no rule of a point's own
/// depth tells how bright it is. So a piece of the deck, as its noise makes it, is solved once on a lattice: scaled
/// transport (what is scattered straight on counts as not scattered: extinction (1 − ωg)σ, isotropic; van de Hulst
/// 1980, "similarity") by discrete directions (double Gauss, two slopes up and two down, four headings; Carlson &
/// Lathrop 1968) and repeated scattering, edges of the piece joined. What is kept are means of cells alike: as high in
/// the deck, as deep to the sun. They hold anywhere in the deck, so nothing depends on the camera.
#include "base/simd.h"
#include "media/deck.h"

#include <vector>

namespace hygros::media {

class DeckDiffusion {
public:
    /// `deck` is settled; its drift and its boiling change nothing here. `sun` is the direction to the sun.
    DeckDiffusion(const CloudDeck& deck, const Vec3& sun);

    /// Mean radiance from all directions: of the sun of irradiance 1 across its way [1/sr], of an even sky of radiance
    /// 1 above, of ground of radiance 1 below. Light that comes straight counts in all three.
    struct Means {
        F8 sun, sky, ground;
    };
    /// By channel (0…2), share of the height (0…1) and optical depth to the sun (≥ 0, not scaled).
    Means at8(int channel, F8 height, F8 depth) const;
    std::size_t bytes() const { return values_.size() * sizeof(float); }

private:
    static constexpr int layers = 8, depths = 9; ///< depths are 2ⁿ − 1
    static constexpr int sources = 3;
    std::size_t at(int channel, int source) const
    {
        return static_cast<std::size_t>(((channels_ > 1 ? channel : 0) * sources + source) * (layers + 1) * depths);
    }
    int channels_ = 1;          ///< 1 where all colours are scattered alike
    std::vector<float> values_; ///< [channel][source][layer][depth]; the last layer and depth are there twice
};

/// Depth to the sun from points in a deck, by four looks, each twice as far from the one before; `up` is the sine of
/// the sun's height, at least 0.03; `jitter` 0…1 moves them within their shares of the way.
F8 deckSunDepth8(const CloudDeck& deck, F8 x, F8 y, F8 z, const Vec3& sun, float up, F8 jitter);
} // namespace hygros::media
