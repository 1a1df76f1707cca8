#pragma once
/// What a camera ray meets, split by where its light comes from, so that it can be lit again through other air
/// without tracing anything.
#include "base/random.h"
#include "render/brdf.h"
#include "render/costs.h"
#include "shot/shot.h"

#include <optional>
#include <span>

namespace hygros::render {

/// Reflected light of one surface point toward the viewer, by source. `sun` is per unit of the sun's irradiance,
/// `lamps[i]` per unit of lamp i's axial intensity; both include shadows of the set, not of the air. `sky` and
/// `emitted` are radiance [W/m²/sr].
/// `open` is what comes back of an irradiance of 1 from where the surface is open to the outside, whatever its colours;
/// and `facing` the normals it comes from, weighted by its luminance.
struct LightParts {
    Vec3 emitted{0.f}, sun{0.f}, sky{0.f}, open{0.f}, facing{0.f};
    LightParts& operator+=(const LightParts& o)
    {
        emitted += o.emitted;
        sun += o.sun;
        sky += o.sky;
        open += o.open;
        facing += o.facing;
        return *this;
    }
    LightParts operator*(const Vec3& by) const
    {
        // The normals' weight is a luminance.
        const float was = luminance(open), now = luminance(open * by);
        return {emitted * by, sun * by, sky * by, open * by, was > 0.f ? facing * (now / was) : facing};
    }
    LightParts operator-(const LightParts& o) const
    {
        return {emitted - o.emitted, sun - o.sun, sky - o.sky, open - o.open, facing - o.facing};
    }
    /// The mean normal; upward where nothing is open.
    Vec3 normal() const { return facing.length2() > 1e-20f ? facing.normalized() : Vec3(0, 1, 0); }
};

struct SurfaceSample {
    float t = 0.f; ///< distance [m]; Shot::farDistance for the sky
    LightParts light;
    Vec3 normal{0.f};  ///< zero for the sky
    Vec3 diffuse{0.f}; ///< diffuse albedo
    /// Set for mirror-like surfaces: what the mirrored ray meets, already weighted by `reflectance`.
    struct Mirror {
        Vec3 point, direction;
        Vec3 reflectance{0.f};
        float t = 0.f; ///< along the mirrored ray
        LightParts light;
    };
    std::optional<Mirror> mirror;
};

/// Random numbers of one sample: blue-noise tile, turned from pass to pass.
struct PixelRandom {
    int x, y;
    std::uint32_t pass;
    float time = 0.f; ///< of the open shutter, 0…1
    float operator()(std::uint32_t purpose) const { return BlueNoise::tile().at(x, y, purpose, pass); }
};

/// Purposes of random numbers; each use has its own so that none follows another. Pairs begin at odd numbers.
enum Purpose : std::uint32_t {
    purposeAirJitter = 1,
    purposePixel = 3,
    purposeSun = 5,
    purposeSky = 7,
    purposeLens = 121,  ///< and the next
    purposeLit = 124,   ///< whether what blocks the sky is in the sun; 128 behind a mirror
    purposeTime = 126,  ///< of the open shutter
    purposeMirror = 4,  ///< added to the two above behind a mirror
    purposeAirSky = 13, ///< and up to 15 more
    purposeAirSun = 29, ///< and up to 47 more
    purposeLamp = 77,   ///< and the lamp's number
};

/// What of water is looked at alone; all else is black then.
enum class WaterPart {
    All,        ///< the picture as it is
    Reflection, ///< what it mirrors
    Refraction, ///< what comes up out of it
    Even,       ///< the same, with sunlight that it does not gather
    Foam,
    Mask ///< 1 where it is water
};

/// Whether the sun is seen from what was met, where that was asked before.
enum class SunSeen : std::int8_t { Unknown, Seen, Hidden };

/// What goes along with a look at a surface.
struct Aside {
    double* clock = nullptr; ///< ticks spent on each of the shot's lamps are added
    SunSeen sun = SunSeen::Unknown;
    float pixelAngle = 0.f; ///< of the eye's own rays; 0: snow does not glitter
};

class SurfaceSampler {
public:
    explicit SurfaceSampler(const shot::Shot& shot, WaterPart only = WaterPart::All);
    WaterPart only() const { return only_; }
    /// What a camera ray meets; false for the sky.
    bool meets(const Vec3& origin, const Vec3& direction, geometry::Hit& hit, float time = 0.f) const;
    static bool isMirror(const geometry::Hit& hit);
    /// The water that the eye is in; null: none. What it sees is told by meetsFromEye() and shadedFromEye().
    const geometry::WaterSurface* eyeIn() const { return eyeIn_; }
    bool meetsFromEye(const Vec3& origin, const Vec3& direction, geometry::Hit& hit, float time = 0.f) const;
    /// Eight looks from the eye: bit i of the answer where one met something.
    unsigned meetFromEye8(const geometry::SightRays8& rays, unsigned active, geometry::Hit hits[8]) const;
    /// What the sun's shadow rays of eight of them say, those of `met`; they are as shade() would ask one by one.
    void lookToSun8(const geometry::SightRays8& rays, const PixelRandom random[8], const geometry::Hit hits[8],
                    unsigned met, SunSeen seen[8]) const;
    /// As far as one looks in water [m].
    static float reachUnder(const geometry::WaterSurface& water);
    /// Colour of what was met `along` metres away under `angle` a pixel, texture included.
    static Vec3 baseColour(const geometry::Hit& hit, float angle, float along, float facing);
    /// Light of sparks that a mirrored ray meets before `limit`; `before`: how far its place is from the eye [m].
    Vec3 meetsSparks(const Vec3& origin, const Vec3& direction, float limit, float pixelAngle, float before,
                     float& distance) const;
    /// The glowing source of one of the lamps in `which` before distance t, which becomes its own; its place in
    /// `which`, −1 for none. `radiance` is per unit of its intensity.
    int meetsLamp(const Vec3& origin, const Vec3& direction, float pixelAngle, std::span<const std::uint16_t> which,
                  float& t, Vec3& radiance) const;
    std::span<const std::uint16_t> everyLamp() const { return everyLamp_; }
    /// Lamps broad enough for a mirror to show their image; of all others it has a highlight. Never both, which would
    /// be their light twice.
    static bool hasImage(const light::Lamp& lamp);
    std::span<const std::uint16_t> imagedLamps() const { return imagedLamps_; }
    /// The light of what was met (`hit` null: the sky). `lamps` receives one colour for each of the lamps in `which`,
    /// `mirrorLamps` for all of the shot's; pixelAngle chooses texture detail.
    SurfaceSample shaded(const geometry::Hit* hit, const Vec3& origin, const Vec3& direction, float pixelAngle,
                         const PixelRandom& random, std::span<const std::uint16_t> which, std::span<Vec3> lamps,
                         std::span<Vec3> mirrorLamps, const Aside& aside = {}) const;
    /// The same of what a look from the eye met: within water where that is in it.
    SurfaceSample shadedFromEye(const geometry::Hit* hit, const Vec3& origin, const Vec3& direction, float pixelAngle,
                                const PixelRandom& random, std::span<const std::uint16_t> which, std::span<Vec3> lamps,
                                std::span<Vec3> mirrorLamps, const Aside& aside = {}) const
    {
        if (!eyeIn_)
            return shaded(hit, origin, direction, pixelAngle, random, which, lamps, mirrorLamps, aside);
        SurfaceSample s = shadedUnder(hit, origin, direction, pixelAngle, random, which, lamps, mirrorLamps);
        if (only_ != WaterPart::All)
            keepPart(hit, s, lamps, mirrorLamps);
        return s;
    }
    /// Both at once.
    SurfaceSample sample(const Vec3& origin, const Vec3& direction, float pixelAngle, const PixelRandom& random,
                         std::span<Vec3> lamps, std::span<Vec3> mirrorLamps) const
    {
        geometry::Hit hit;
        const bool met = meetsFromEye(origin, direction, hit);
        return shadedFromEye(met ? &hit : nullptr, origin, direction, pixelAngle, random, everyLamp_, lamps,
                             mirrorLamps);
    }

private:
    SurfaceSample wholly(const geometry::Hit* hit, const Vec3& origin, const Vec3& direction, float pixelAngle,
                         const PixelRandom& random, std::span<const std::uint16_t> which, std::span<Vec3> lamps,
                         std::span<Vec3> mirrorLamps, const Aside& aside) const;
    /// Leaves of a sample what is looked at.
    void keepPart(const geometry::Hit* met, SurfaceSample& sample, std::span<Vec3> lamps,
                  std::span<Vec3> mirrorLamps) const;
    LightParts shade(const geometry::Hit& hit, const Vec3& point, const Vec3& direction, const Vec3& baseColour,
                     const PixelRandom& random, std::uint32_t purposeShift, std::span<const std::uint16_t> which,
                     std::span<Vec3> lamps, const Aside& aside = {}) const;
    Vec3 background(const Vec3& direction, bool withDisk) const;
    Vec3 towardSunFor(const PixelRandom& random, std::uint32_t shift) const;
    /// Light that something in water sends toward a look in it, there.
    LightParts lightUnder(const geometry::WaterSurface& water, const geometry::Hit& hit, const Vec3& place,
                          const Vec3& base, const PixelRandom& random, std::span<const std::uint16_t> which,
                          std::span<Vec3> lamps) const;
    /// Light that the water itself sends back along a way in it.
    LightParts scatteredUnder(const geometry::WaterSurface& water, const Vec3& origin, const Vec3& direction, float far,
                              const PixelRandom& random, std::span<const std::uint16_t> which,
                              std::span<Vec3> lamps) const;
    /// The ground that shows through water that is looked at from above, and its light.
    struct Ground {
        geometry::Hit hit;
        Vec3 way;
    };
    std::optional<Ground> groundUnder(const geometry::Hit& hit, const Vec3& point, const Vec3& direction,
                                      float time) const;
    void addGround(const Ground& ground, const geometry::Hit& hit, const Vec3& point, const Vec3& direction,
                   float pixelAngle, const PixelRandom& random, std::span<const std::uint16_t> which,
                   std::span<Vec3> lamps, SurfaceSample& sample) const;
    SurfaceSample shadedUnder(const geometry::Hit* hit, const Vec3& origin, const Vec3& direction, float pixelAngle,
                              const PixelRandom& random, std::span<const std::uint16_t> which, std::span<Vec3> lamps,
                              std::span<Vec3> mirrorLamps) const;
    const shot::Shot& shot_;
    const WaterPart only_;
    const bool evenReach_ = shot_.setReach().even;
    const geometry::WaterSurface* eyeIn_ = shot_.scene->waterAround(shot_.camera.position);
    std::vector<std::uint16_t> everyLamp_, imagedLamps_;
    static constexpr float openOfBlocking =
        0.7f; ///< of what stands in the sky's way: how open it is itself, in the mean
    Vec3 sunTangent_, sunBitangent_;
};

/// A direction inside the sun's disk for u, v in [0, 1).
Vec3 towardSun(const light::Sky& sky, const Vec3& tangent, const Vec3& bitangent, float u, float v);
} // namespace hygros::render
