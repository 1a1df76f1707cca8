#pragma once
/// The march through the air, eight rays at once.
///
/// A ray is cut into `segments` pieces that grow with distance and do not depend on the media. In each piece every
/// medium's even part is integrated in closed form and its noise is sampled at one jittered point, so the step
/// size never shows. Lit by:
///  * the sun: its phase function, attenuated by all media on the way, shadowed by the set through the mean of recorded
///  rays.
///    Light scattered before is that of level air with as much above and below (media/level_light.h: all orders, solved
///    once for a height of the sun) in three lobes: what was turned forward still comes from about the sun and casts
///    shadows, what is spread broadly does in part, the rest comes from all around;
///  * the sky: its nine spherical harmonics seen through the phase function, times what level air leaves of an even
///  sky, and
///    by the open share of the sky;
///    Clean air (media::Medium::clean) dims the view by channel and leaves sun and sky as they are;
///  * lamps: eight equi-angular samples each (Kulla & Fajardo 2012) on the ray's way through the cone, and eight on its
///  way
///    past the lamp for what thick air passes on (`Glow`).
#include "media/level_light.h"
#include "render/bodies.h"

#include <cstdint>
#include <span>
#include <vector>

namespace hygros::render {
class LampGlow;

/// Sums a medium keeps for sunlight: what comes straight, and the three lobes of what was scattered before.
inline constexpr int sunSlots = 4;
/// And for the sky's: from where it came, and spread by the air.
inline constexpr int skySlots = 2, allSlots = sunSlots + skySlots;
inline constexpr int maxSegments = 24;
/// What a shot's media, sun and sky come down to for marching. Holds pointers into the shot.
class AirModel {
public:
    explicit AirModel(const shot::Shot& shot) : AirModel(shot, bodiesOf(shot)) {}
    /// `bodies`: of this shot.
    AirModel(const shot::Shot& shot, BodyList bodies);

    const shot::Shot& shot() const { return shot_; }
    std::size_t mediumCount() const { return media_.size(); }
    bool clear() const { return media_.empty() && bodies_.empty(); }
    /// Media with a pattern (noise, ends, ground, mesh), in order; a recording keeps two means a segment for each.
    std::size_t noisyCount() const { return noisy_; }
    bool hasClean() const { return clean_; }
    /// Optical depth of the clean air for green, from the eye of rays that begin at the camera up to t; 0 where they
    /// end in the sky.
    F8 cleanDepth(const media::Ray8& ray, F8 t) const;
    media::DeckSun deckSun() const;
    /// What clean air leaves of each channel over that depth.
    void cleanTint(const media::Ray8& ray, F8 t, F8 tint[3]) const;

    /// Optical depth from points to the sun through all media. `modulation` holds one factor per noisy medium for
    /// its part of the way; null takes the noise's mean.
    F8 sunDepth(F8 x, F8 y, F8 z, const F8* modulation) const;
    /// Mean noise of medium `index` on the way from points to the sun, from two points; `u` in [0, 1) places the
    /// second.
    F8 sunPathModulation(std::size_t index, F8 x, F8 y, F8 z, F8 nearModulation, F8 u) const;
    struct LightWays {
        F8 sunDepth;              ///< optical depth to the sun
        F8 turned, broad, around; ///< of sunlight that was scattered before (media::LevelShares)
        F8 straight, sky;         ///< what is left of the sky's light: from where it came, and spread by the air
    };
    /// What reaches surfaces.
    struct SurfaceWays {
        F8 sun;     ///< of sunlight that comes from the sun: straight, or turned by less than one can see
        F8 diffuse; ///< irradiance by sunlight that the air has scattered, per what the sun gives a plane that faces it
        F8 sky;     ///< what is left of the sky's light that comes from where it came from
        F8 around;  ///< irradiance by what the air has spread of it, per what a level surface gets without air
    };
    /// `normal`: of eight surfaces; as lightWays() for the rest.
    SurfaceWays surfaceWays(F8 x, F8 y, F8 z, const F8 normal[3], const F8* modulation, float* kept = nullptr) const;
    /// From one look at what lies above points. `kept` (or null): [keptCount()][8] what does not depend on the media's
    /// densities at these points, the ground's height and what bodies keep (Body::Kept); looked up where it holds
    /// `unkept`, else read.
    LightWays lightWays(F8 x, F8 y, F8 z, const F8* modulation, float* kept = nullptr) const;
    std::size_t keptCount() const { return kept_; }
    static constexpr float unkept = Body::Kept::unkept;
    /// Optical depth of a straight way between two points, noise left out.
    float depthBetween(const Vec3& a, const Vec3& b) const;
    /// The same for eight points and their targets.
    F8 depthTo(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z) const;
    /// Straight ways through the air: optical depth, the part of it that turns light from its way (σs·(1 − g),
    /// similarity), and the part that swallows it, by channel.
    struct Ways {
        F8 depth{}, turned{}, absorbed[3]{};
        F8 reduced(int c) const { return turned + absorbed[c]; }
    };
    Ways waysTo(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z) const;
    /// What air around a lamp passes on more than once, as light from one place of the power that the lamp sends out.
    struct Glow {
        Vec3 centre{0.f};
        float power = 0.f; ///< flux ÷ 4π per unit of the lamp's intensity; 0: the air is too thin to pass on anything
        float near =
            0.f; ///< mean of 1 ÷ (reduced depth to where air or the way ends + 0.71), over all directions but down
        float floor = -1e9f;                   ///< height of what lies below [m]
        float lowest = -1e9f;                  ///< height of the lowest place that is met from it within reach [m]
        float way = 1.f;                       ///< metres that its light goes before it meets the set
        std::shared_ptr<const LampGlow> found; ///< by photons; null: diffusion stands for it
    };
    void setGlow(std::size_t lamp, std::shared_ptr<const LampGlow> found) { glows_[lamp].found = std::move(found); }
    /// Fluence at eight points by diffusion from the lamp (Grosjean 1956, as in d'Eon & Irving 2011, with reduced
    /// coefficients), the ground taken as an absorber by an image of the source below it, other ends of the air by the
    /// closed form of a ball; in thin air the once scattered light of `way` metres. Per intensity of 1; `outward`:
    /// three times the share of it that flows away from the lamp.
    void diffused(std::size_t lamp, F8 x, F8 y, F8 z, F8 fluence[3], F8& outward) const;
    const Glow& glowOf(std::size_t lamp) const { return glows_[lamp]; }
    static constexpr float glowReach = 40.f; ///< followed to here [m]
    /// Optical depth of the ways from points to a lamp, light that is only turned forward counted as arriving; 0 where
    /// the air does not dim its light.
    F8 depthToLamp8(const light::Lamp& lamp, F8 x, F8 y, F8 z) const;
    float depthToLamp(const light::Lamp& lamp, const Vec3& p) const
    {
        return depthToLamp8(lamp, f8(p.x), f8(p.y), f8(p.z))[0];
    }

    /// One medium with what the march needs of it worked out. `flat` media depend on height alone: what lies above
    /// a height then gives the way to the sun, the light from the sky and the density along any ray.
    struct MediumData {
        const media::Medium* medium;
        int noisyIndex; ///< −1: no pattern
        int element;    ///< the same number for media of one element
        bool bounded, flat, clean;
        float bound;   ///< of the pattern
        float clear;   ///< rays from the eye meet nothing nearer than this [m]
        float mix;     ///< 0…1 between the two kinds of air of the level solution
        float turning; ///< share of the extinction that turns light from its way: albedo·(1 − g)
        float lost;    ///< share of it that lamps' light does not survive on its way: 1 − albedo·forwardShare()
        float column;  ///< vertical optical depth of all that lies above its base (flat media)
        float sigma, base, top, inverse, up, down, inverseUp, inverseDown, whole, level;
        /// Vertical optical depth above height y (flat media).
        F8 above(F8 y) const;
        /// Extinction at height y (flat media).
        F8 density(F8 y) const;
    };
    std::span<const MediumData> media() const { return media_; }
    const Vec3& sunDirection() const { return sun_; }
    /// Of the sky without air: irradiance of a level surface; and what it is where it comes from all around alike, as
    /// radiance.
    const Vec3& skyOnLevel() const { return skyOnLevel_; }
    const Vec3& skyAround() const { return skyAround_; }

private:
    /// Calls use(medium, optical depth) for what is on the ways.
    template <class Use> void overWays(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z, const Use& use) const;
    Glow glowAround(const light::Lamp& lamp) const;
    /// Optical depth of bodies on straight ways, as Body::depthOn().
    F8 bodiesBetween(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z, const light::Lamp* from) const;
    /// What lies about points: depths above and below, toward the sun, how many decks.
    struct Depths {
        F8 above, below, toSun, airToSun, mix, clouds, throughAir, aside, within;
    };
    F8 sidesOf(const MediumData& d, F8 x, F8 z, F8 up) const;
    Depths depthsAbout(F8 x, F8 y, F8 z, const F8* modulation, float* kept) const;
    F8 columnTo(const MediumData& m, const Vec3& direction, float flatScale, F8 x, F8 y, F8 z) const;
    void solveLevels();
    std::shared_ptr<const media::LevelLight> level_; ///< with sun and air that scatters
    struct Overcast {
        float clouds = 0.f, covered = 0.f; ///< mean depth of all decks; share of the sky that they cover
        media::LevelShares
            by; ///< what is left under cloud, at the bottom of the air, per what is left of a clear sky there
    } overcast_;
    bool skyApart_ = false; ///< what lies above and what lies toward the sun are not in proportion
    float sunScale_ = 1.f;  ///< length of the way to the sun for a metre of height
    const shot::Shot& shot_;
    const BodyList bodies_;
    bool standing_ = false; ///< some bodies stand in the air
    std::size_t kept_ = 0;
    std::vector<MediumData> media_;
    std::vector<Glow> glows_; ///< [lamp]
    std::size_t noisy_ = 0, grounds_ = 0;
    bool clean_ = false;
    float sunOnSets_ = 1.f; ///< strength, where it is the same on all sets; the sky's is in skyOnLevel_
    Vec3 sun_{0, 1, 0}, skyOnLevel_{0.f}, skyAround_{0.f};
};

inline F8 AirModel::MediumData::above(F8 y) const
{
    if (medium->shape == media::Shape::Thinning)
        return whole * exp8(min8((base - y) * inverse, f8(media::deepest)));
    if (medium->shape == media::Shape::Uniform)
        return sigma * max8(f8(0.f), top - y);
    // ∫ smoothstep, up at the base and down below the top.
    const auto rampIntegral = [](F8 u) {
        const F8 c = clamp8(u, 0.f, 1.f);
        return c * c * c * (1.f - 0.5f * c) + max8(u - 1.f, f8(0.f));
    };
    const F8 h = min8(max8(y, f8(base)), f8(top));
    const F8 below = rampIntegral((h - base) * inverseUp) * up - rampIntegral((h - (top - down)) * inverseDown) * down;
    return max8(f8(0.f), whole - sigma * below);
}

/// Distances of the segment boundaries for eight rays of length `end`: a·((1 + end/a)^(i/n) − 1).
struct Segments8 {
    static constexpr float a = 6.f; ///< metres up to which pieces are nearly even
    F8 ratio;                       ///< of successive widths
    F8 first;                       ///< width of piece 0
    Segments8(F8 end, int count);
};

/// How many pieces a ray of `end` metres is worth, of `most` for one to the horizon: a multiple of 3, at least 6.
int segmentsFor(float end, int most);

/// Where in piece `i` the sample lies, 0…1, from the ray's own jitter.
inline F8 pieceJitter(F8 jitter, int i)
{
    const F8 v = jitter + static_cast<float>((static_cast<std::uint32_t>(i) * 2654435769u) >> 8) * 0x1p-24f;
    return v - select(v >= 1.f, f8(1.f), f8(0.f));
}

/// Noise along eight rays, the mean of what was sampled so far: 16 bits (along the view, toward the sun) a segment
/// and noisy medium, per lane. Layout [segment][noisy][2][8]; the value is a share of the noise's bound, at least 1
/// once sampled.
struct NoiseRecord {
    std::uint16_t* means = nullptr;
    bool sample = false; ///< take one more sample; else read
    F8 weight = F8{};    ///< of that sample in the new mean: 1/n for the n-th, 0 leaves a lane's mean
};
/// Adds a sample to the means of eight lanes and gives the new ones. Lanes never sampled before start here. `bound` is
/// what no sample exceeds.
F8 keepNoise(std::uint16_t* means, float bound, F8 modulation, F8 weight);
F8 keptNoise(const std::uint16_t* means, float bound);

/// Eight counts as floats, times a share.
inline F8 countsTimes(const std::uint8_t* counts, float share)
{
    const __m128i raw = _mm_loadl_epi64(reinterpret_cast<const __m128i*>(counts));
    return toFloat(reinterpret_cast<I8>(_mm256_cvtepu8_epi32(raw))) * share;
}

struct AirRays8 {
    media::Ray8 ray;
    bool fromEye = true; ///< the clear space around the camera counts
    F8 end;              ///< [m]
    F8 jitter;           ///< 0…1
    int segments = maxSegments;
    const F8* sunSeen = nullptr; ///< [segment] share of the piece in the sun, 0…1; null: all of it
    const F8* skySeen = nullptr; ///< [segment / 3] share of the sky that is open; null: all of it
    NoiseRecord noise;
    float* kept = nullptr;      ///< [segment] of AirModel::lightWays(), or null
    const F8* bodies = nullptr; ///< [slabCount][bodyPlanes] what bodies add and hide
    int slabCount = 0;
    double* clock = nullptr; ///< [medium] ticks spent on it are added; null: not measured
    /// Up to three depths at which the ray ends with some weight (surfaces inside one pixel); sorted not needed.
    int depths = 1;
    F8 depth[3], weight[3];
};

/// Scalar sums that only need colours put to them; per medium.
struct AirSums8 {
    std::vector<F8> sun;          ///< [medium][slot]
    std::vector<F8> sky;          ///< [medium][slot]
    F8 boundary[maxSegments + 1]; ///< transmittance at piece boundaries, clean air left out
    F8 onward[maxSegments + 1];   ///< optical depth there of what light survives that is turned forward only
    F8 transmittance[3];          ///< at the given depths, clean air left out
    F8 body[3][3]; ///< light of the bodies from sun, sky, and lamps and themselves, by channel, through the air before
                   ///< them
    F8 tinted[2][3]; ///< with clean air: the light from sun and sky by channel, instead of the sums
    void prepare(std::size_t media)
    {
        sun.assign(media * sunSlots, f8(0.f));
        sky.assign(media * skySlots, f8(0.f));
    }
};

/// Marches. If `profile` is given it receives, at every piece boundary after the first, RGB air light so far and the
/// transmittance: [segment][4]; of the light of one medium's element alone when `onlyMedium` ≥ 0.
void marchAir(const AirModel& model, const AirRays8& rays, AirSums8& sums, F8 (*profile)[4] = nullptr,
              int onlyMedium = -1);

/// Colours for the sums: air light from sun and from sky, by channel.
void colourAir(const AirModel& model, const media::Ray8& ray, const AirSums8& sums, F8 sun[3], F8 sky[3],
               int onlyMedium = -1);

/// Eight equi-angular sample distances inside [t0, t1] for lamp position `lamp`, and 1/pdf of each.
void equiAngular8(const Vec3& origin, const Vec3& direction, const Vec3& lamp, float t0, float t1, float jitter, F8& t,
                  F8& inversePdf);
/// Light that one lamp sends along one ray by way of the air: eight equi-angular samples in its cone, near to far.
struct BeamSamples {
    F8 t;        ///< their distances [m]
    F8 light[3]; ///< what each adds, by channel
};
/// A view ray after its march, ready for the lamps beside it.
class MarchedRay {
public:
    /// `boundary` are its transmittances at piece boundaries (stride lanes); `noise` (or null) its lane of a
    /// NoiseRecord's means, `onward` (or null) of AirSums8's. All must outlive it: they are read when a place is first
    /// asked for.
    MarchedRay(const AirModel& model, const Vec3& origin, const Vec3& direction, float end, int segments,
               const float* boundary, const std::uint16_t* noise = nullptr, const float* onward = nullptr);

    const AirModel& model;
    const Vec3 origin, direction;
    const float end; ///< [m]
    /// Eight places on it.
    struct Places {
        const MarchedRay& on;
        F8 t, x, y, z;
        F8 piece; ///< boundaries before it, and how far beyond the last of them
        F8 view;  ///< transmittance to them, clean air left out
        F8 wide;  ///< the same with light that is turned forward on its way counted as arriving
        /// Extinction of medium k without its pattern; its pattern (from the march's means if these are known and
        /// `sampled`).
        F8 even(std::size_t k) const;
        F8 pattern(std::size_t k, bool sampled = true) const;
        /// Clean air before them.
        void tint(F8 light[3]) const;
    };
    Places at(F8 t) const;

private:
    void read() const;
    static constexpr std::size_t fewNoisy = 4, stride = maxSegments + 8;
    const int segments_;
    const float* boundary_;
    const std::uint16_t* noise_;
    const float* onward_;
    mutable bool read_ = false;
    mutable float scale_ = 0.f;
    alignas(32) mutable float depth_[stride];          ///< optical depth at the boundaries
    alignas(32) mutable float edge_[stride];           ///< where these lie [m]
    alignas(32) mutable float kept_[stride];           ///< of it onward
    alignas(32) mutable float few_[fewNoisy * stride]; ///< [noisy][piece] mean pattern
    mutable std::vector<float> many_;
};

/// `lit` are the samples' lit counts and `share` one over how often they were looked at. False where the lamp adds
/// nothing.
bool beamSamples(const MarchedRay& ray, std::size_t lamp, float jitter, const std::uint8_t* lit, float share,
                 BeamSamples& out);
/// The samples' sum for a ray that ends at each of up to three depths with its weight.
Vec3 beamLight(const MarchedRay& ray, std::size_t lamp, float jitter, const std::uint8_t* lit, float share, int depths,
               const float* depth, const float* weight);
/// The same for the lamp's glow: light that was turned before (LampGlow, or diffusion where there is none). Quick beams
/// have none.
bool glowSamples(const MarchedRay& ray, std::size_t lamp, float jitter, BeamSamples& out);
Vec3 glowLight(const MarchedRay& ray, std::size_t lamp, float jitter, int depths, const float* depth,
               const float* weight);
/// One shadow ray for each of beamLight's samples: bit i is set where sample i is lit; 0xff where the ray misses the
/// cone.
std::uint8_t beamVisibility(const shot::Shot& shot, std::size_t lamp, const Vec3& origin, const Vec3& direction,
                            float end, float jitter);
} // namespace hygros::render
