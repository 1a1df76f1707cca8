#pragma once
/// Sun and clear sky: single scattering in a round atmosphere of air (Rayleigh), aerosol and ozone, with a
/// second order that is spread evenly; computed into a small table when built (about 10 ms). Coefficients after
/// Bruneton & Neyret 2008 and Hillaire 2020, at 680/550/440 nm for R/G/B.
///
/// Radiance in W/m²/sr weighted to luminance (1 W = 683 lm). The aerosol here is the clean high air only; haze
/// near the ground is an element of its own, so that no air counts twice.
#include "base/simd.h"
#include "base/vec.h"

#include <array>
#include <vector>

namespace hygros::light {

struct SkySettings {
    float elevation = 0.12f; ///< of the sun above the horizon [rad], −0.1…π/2
    float azimuth = 0.f;     ///< of the sun, clockwise from −Z seen from above [rad]
    float strength = 1.f;    ///< scales sun and sky together; 1 is the real one (133 klx outside the atmosphere)
    float skyStrength = 1.f; ///< scales the sky alone
    float turbidity = 1.f;   ///< aerosol relative to clean country air
    Vec3 groundAlbedo{0.2f, 0.2f, 0.18f};
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
    /// Half the sun's angular diameter of 0.53° [rad].
    static constexpr float sunRadius = 0.004625f;
    /// Radiance from direction `d` (unit, toward the sky), without the sun's disk. Below the horizon: lit ground.
    Vec3 radiance(const Vec3& d) const;
    /// Radiance of the disk in direction `d`; zero outside it. Its integral over the disk is sunIrradiance().
    Vec3 diskRadiance(const Vec3& d) const;
    /// Irradiance from the whole sphere (sky and lit ground) on a surface with normal `n` [W/m²].
    Vec3 irradiance(const Vec3& n) const;
    /// Mean over directions of radiance × phase function about `d` (a Henyey–Greenstein lobe of mean cosine g):
    /// what one isotropically lit scattering event sends on [W/m²/sr]. From nine spherical harmonics.
    Vec3 scattered(const Vec3& d, float g) const;
    /// scattered() for eight directions, by channel.
    void scattered8(F8 x, F8 y, F8 z, float g, F8 out[3]) const;
    /// Radiance of a matte ground of the given albedo lit by sun and sky.
    const Vec3& groundRadiance() const { return ground_; }

private:
    static constexpr int azimuths = 48, elevations = 48;
    Vec3 lookup(const Vec3& d) const;
    SkySettings settings_;
    Vec3 sunDirection_, sunIrradiance_, ground_{0, 0, 0};
    std::vector<Vec3> air_, aerosol_; ///< scattered light before the phase function; elevation-major
    std::array<Vec3, 9> harmonics_{};
};
} // namespace hygros::light
