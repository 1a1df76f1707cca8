#pragma once
/// Cloud decks: a layer aloft, to the horizon, with gaps and its own shadow.
///
/// Density is noise of a large scale above a threshold that leaves `coverage` of the sky covered and rises with height
/// for heaped clouds; its surface is moved in and out by heaps within heaps, creased noise of five sizes. There is no
/// period; what a sample stands for more than of these fades, and the longer it is the softer its edge, so that nothing
/// shimmers far away. Under a cloud that brings it what falls hangs in streaks that lag behind and thin out.
#include "base/simd.h"
#include "base/vec.h"
#include "media/medium.h"

#include <memory>
#include <string>
#include <vector>

namespace hygros::media {

class DeckDiffusion;
class DeckShadow;

struct CloudDeck {
    std::string id;
    float base = 1200.f, thickness = 400.f; ///< [m]
    float coverage = 0.5f;                  ///< share of the sky covered, 0…1
    float sigmaT = 0.03f;                   ///< extinction of its densest parts [1/m]
    Vec3 albedo{1, 1, 1};
    Phase phase;
    float ambient = 1.f;
    float heaped = 0.7f;               ///< 0: an even sheet; 1: flat below and rounded above
    float scale = 900.f, fine = 120.f; ///< size of clouds and of wisps [m]
    float erosion = 0.5f;              ///< how far heaps and wisps break up the edges, 0…1
    float gathered = 0.f;              ///< 0: clouds stand evenly; 1: close in some places and hardly in others
    float rolls = 0.f;                 ///< 1: rolls five times as long as wide
    float heading = 0.f;               ///< of these, clockwise from −Z seen from above [rad]
    float ragged = 0.f;                ///< how unevenly its underside hangs, 0…1
    float floor = 0.f;                 ///< share of its height under the cloud that holds what falls from it, 0…0.9
    float fallout = 0.f;               ///< how thick that is, of the densest cloud
    std::uint32_t seed = 1;
    Vec3 offset{0, 0, 0};           ///< metres it has drifted
    float evolution = 0.f;          ///< as Noise::evolution
    NoiseLoop loop;                 ///< of both its noises
    float threshold = 0.f;          ///< of the large noise; set by settle()
    float bySun = 1.f, bySky = 1.f; ///< reach of the sun and of the sky to it; 1 is physical
    float meanColumn = 0.f;         ///< mean optical depth straight up; set by settle()
    float evenColumn = 0.f; ///< that of an even sheet that lets as much light through as its clouds do; set by settle()
    std::shared_ptr<const DeckShadow> shadow;       ///< null: casts none
    std::shared_ptr<const DeckDiffusion> diffusion; ///< null: what is scattered more than once is left out

    /// Finds the threshold that gives the coverage and the mean column, from samples of the noise.
    void settle();
    bool operator==(const CloudDeck&) const = default;
};

/// Density 0…1 of the deck's densest; `step` is how far the samples lie apart [m].
F8 deckDensity8(const CloudDeck& deck, F8 x, F8 y, F8 z, F8 step);

/// Sunlight that comes down through a deck, on two square grids in the plane of its base: a fine one for what is near
/// the eye, where every wisp counts, and a wide one; the mean beyond that.
class DeckShadow {
public:
    /// `sun` is the direction to the sun, `eye` where the grid is wanted.
    DeckShadow(const CloudDeck& deck, const Vec3& sun, const Vec3& eye);
    /// Optical depth to the sun from points; inside the deck by the share of it that is above.
    F8 depth8(F8 x, F8 y, F8 z) const;
    /// The same from below the deck, and the share of it that lies above height y.
    F8 whole8(F8 x, F8 y, F8 z) const;
    F8 above8(F8 y) const;
    float mean() const { return mean_; } ///< transmittance
    std::size_t bytes() const { return (wide_.through.size() + near_.through.size()) * sizeof(float); }

private:
    struct Grid {
        int size;   ///< a side
        float cell; ///< [m]
        float x0 = 0.f, z0 = 0.f;
        std::vector<float> through; ///< [z][x]
    };
    void fill(Grid& grid, const CloudDeck& deck, const Vec3& eye, int steps) const;
    float base_, thickness_, slopeX_, slopeZ_, mean_ = 1.f;
    Grid wide_{320, 87.774f, 0.f, 0.f, {}}, near_{192, 5.f, 0.f, 0.f, {}};
};

/// What rays gather from all decks: light from the sun and from the sky and around [W/m²/sr], what comes through, and
/// at which distance most of it is.
struct DeckLight8 {
    F8 sun[3], sky[3], through, distance;
};
/// What lights a deck.
struct DeckSun {
    Vec3 direction, irradiance; ///< of the sun
    Vec3 zenith;                ///< mean radiance of the sky above
    Vec3 ground, groundBySun;   ///< of the ground below as the sky lights it, and as the sun does
    int orders = 3;             ///< as Shot::scatteringOrders
};
/// Light scattered once goes by the phase function. Turned often by little, it comes as HG(gⁿ) after n events (its
/// moments multiply), of which a way of optical depth T has e⁻ᵀTⁿ/n!; what of that goes straight on in scaled
/// transport, gⁿ, is spread so about its way, and the rest comes by the deck's diffusion. Marches decks front to back
/// up to `end`; `jitter` 0…1 by ray. Distances stay below `horizon`.
void lightDecks8(const std::vector<CloudDeck>& decks, const DeckSun& sun, const Ray8& ray, F8 end, F8 jitter,
                 float horizon, DeckLight8& out);
/// How far decks are followed where nothing stands before them [m].
inline constexpr float deckDistance = 1.5e5f;
} // namespace hygros::media
