#pragma once
/// Sun and clear sky: single scattering in a round atmosphere of air (Rayleigh), aerosol and ozone, with a
/// second order that is spread evenly; computed into a small table when built (about 10 ms). Coefficients after
/// Bruneton & Neyret 2008 and Hillaire 2020, at 680/550/440 nm for R/G/B.
///
/// Radiance in W/m²/sr weighted to luminance (1 W = 683 lm). The aerosol here is the clean high air only; haze
/// near the ground is an element of its own, so that no air counts twice.
#include "base/simd.h"
#include "base/vec.h"
#include "light/panorama.h"

#include <array>
#include <vector>

namespace hygros::light {

struct SkySettings {
    float elevation = 0.12f; ///< of the sun above the horizon [rad], −0.1…π/2
    float azimuth = 0.f;     ///< of the sun, clockwise from −Z seen from above [rad]
    float strength = 1.f;    ///< scales sun and sky together; 1 is the real one (133 klx outside the atmosphere)
    float skyStrength = 1.f; ///< scales the sky alone
    float turbidity = 1.f;   ///< aerosol relative to clean country air
    float ozone = 1.f;       ///< of the high air, relative to the usual
    Vec3 groundAlbedo{0.2f, 0.2f, 0.18f};
    float disk = 1.f; ///< width of the disk relative to the real 0.53°
    /// What stands in the sky. The moon is the sun's light 1/400 000 as strong when full (0.3 lx), and lights the air
    /// as the sun does.
    enum class Body { Sun, Moon, None } body = Body::Sun;
    float moonLit = 1.f; ///< lit share of the moon's disk, 0…1
    float stars = 1.f;   ///< glow of the night sky itself, relative to 2·10⁻⁴ cd/m²
    /// A picture of the sky instead of the computed one; its values are radiance times `strength`.
    std::shared_ptr<const Panorama> panorama;
    float panoramaTurn = 0.f; ///< clockwise from above [rad]
    bool panoramaSun = true;  ///< the picture's sun is taken out of it and shines as a sun of its own
    bool operator==(const SkySettings&) const = default;
};

class Sky {
public:
    explicit Sky(const SkySettings& settings);
    const SkySettings& settings() const { return settings_; }
    /// Unit vector toward the sun's centre.
    const Vec3& sunDirection() const { return sunDirection_; }
    /// Irradiance of the sun on a surface facing it at the ground, before any haze element [W/m²].
    const Vec3& sunIrradiance() const { return sunIrradiance_; }
    /// Half the real sun's angular diameter of 0.53° [rad], and of the one here.
    static constexpr float realRadius = 0.004625f;
    float sunRadius() const { return realRadius * settings_.disk; }
    bool hasSun() const { return sunIrradiance_.x + sunIrradiance_.y + sunIrradiance_.z > 0.f; }
    /// The picture the sky is from, its sun taken out; null when it is computed.
    const Panorama* panorama() const { return panorama_.get(); }
    /// A direction of the panorama by brightness, as the scene sees it, and its density; and that of a direction.
    Vec3 samplePanorama(float u, float v, float& pdf) const;
    float panoramaPdf(const Vec3& d) const;
    /// Radiance from direction `d` (unit, toward the sky), without the sun's disk. Below the horizon: lit ground.
    Vec3 radiance(const Vec3& d) const;
    /// Radiance of the disk in direction `d`; zero outside it. Its integral over the disk is sunIrradiance().
    Vec3 diskRadiance(const Vec3& d) const;
    /// Irradiance from the whole sphere (sky and lit ground) on a surface with normal `n` [W/m²].
    Vec3 irradiance(const Vec3& n) const;
    /// Mean over directions of radiance × phase function about `d` (a Henyey–Greenstein lobe of mean cosine g):
    /// what one isotropically lit scattering event sends on [W/m²/sr]. From nine spherical harmonics.
    Vec3 scattered(const Vec3& d, float g) const;
    /// The sky's own radiance about a direction, smooth, so that a few directions tell irradiance: its cosine-weighted
    /// mean over the upper half is what a level surface gets ÷ π. Below the horizon: the lit ground.
    Vec3 evened(const Vec3& d) const;
    /// The same for eight directions, by channel, the ground lit by the sky alone: what the sun's light on the ground
    /// sends up, air counts with the sun's (media/level_light.h).
    void scattered8(F8 x, F8 y, F8 z, float g, F8 out[3]) const;
    /// Mean radiance over azimuths at a height above the horizon whose sine is `sine`, to luminance.
    float ring(float sine) const;
    /// Irradiance of a level surface by the sky alone [W/m²].
    const Vec3& onLevel() const { return onLevel_; }
    /// Mean luminance over all directions, the ground lit by the sky alone.
    float meanRadiance() const { return luminance(withoutSun_[0]) * 0.282095f; }
    /// Radiance of a matte ground of the given albedo lit by sun and sky.
    const Vec3& groundRadiance() const { return ground_; }
    /// What of that is the sun's own light.
    const Vec3& groundBySun() const { return groundBySun_; }
    std::size_t bytes() const { return sizeof *this + (air_.size() + aerosol_.size()) * sizeof(Vec3); }

private:
    static constexpr int azimuths = 48, elevations = 48;
    Vec3 lookup(const Vec3& d) const;
    /// Turned from the scene into the picture, or back.
    Vec3 intoPicture(const Vec3& d) const
    {
        return {d.x * turnCos_ + d.z * turnSin_, d.y, d.z * turnCos_ - d.x * turnSin_};
    }
    Vec3 fromPicture(const Vec3& d) const
    {
        return {d.x * turnCos_ - d.z * turnSin_, d.y, d.z * turnCos_ + d.x * turnSin_};
    }
    void usePanorama();
    std::shared_ptr<const Panorama> panorama_;
    float turnCos_ = 1.f, turnSin_ = 0.f;
    Vec3 night_{0.f}; ///< radiance of the starry floor
    SkySettings settings_;
    Vec3 sunDirection_, sunIrradiance_, ground_{0, 0, 0}, groundBySun_{0, 0, 0};
    std::vector<Vec3> air_, aerosol_; ///< scattered light before the phase function; elevation-major
    Vec3 evenedScale_{1.f}, onLevel_{0.f};
    std::array<Vec3, 9> harmonics_{}, withoutSun_{}; ///< the second: the ground lit by the sky alone
};
} // namespace hygros::light
