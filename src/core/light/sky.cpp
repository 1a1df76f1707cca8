#include "light/sky.h"

#include "base/parallel.h"
#include "media/phase.h"

#include <algorithm>
#include <cmath>

namespace hygros::light {
namespace {
constexpr float earth = 6.36e6f, roof = 6.46e6f;
const Vec3 airScattering(5.802e-6f, 13.558e-6f, 33.1e-6f), ozone(0.650e-6f, 1.881e-6f, 0.085e-6f);
constexpr float aerosolScattering = 3.996e-6f, aerosolExtinction = 4.440e-6f, aerosolG = 0.8f;
/// Sunlight outside the atmosphere: 133 klx, its colour that of 5800 K relative to the display's white.
const Vec3 sunAbove = Vec3(1.05f, 0.99f, 0.96f) * (133000.f / 683.f);

struct Densities {
    float air, aerosol, ozone;
};
Densities densitiesAt(float height)
{
    return {std::exp(-height / 8000.f), std::exp(-height / 1200.f),
            std::max(0.f, 1.f - std::abs(height - 25000.f) / 15000.f)};
}
Vec3 expOf(const Vec3& v) { return {std::exp(-v.x), std::exp(-v.y), std::exp(-v.z)}; }

/// Distance from a point at radius r, cosine mu to the vertical, to the sphere of radius R (outer crossing).
float toSphere(float r, float mu, float sphere)
{
    const float d = r * r * (mu * mu - 1.f) + sphere * sphere;
    return d < 0.f ? -1.f : -r * mu + std::sqrt(d);
}

/// Transmittance from radius r to the top of the air along cosine mu.
Vec3 transmittance(float r, float mu, float turbidity, float ozoneShare)
{
    const float planet = r * r * (mu * mu - 1.f) + earth * earth;
    if (mu < 0.f && planet >= 0.f && -r * mu - std::sqrt(planet) > 0.f)
        return Vec3(0.f); // the ground is in the way
    const float length = toSphere(r, mu, roof);
    constexpr int steps = 24;
    Vec3 depth(0.f);
    float before = 0.f;
    for (int i = 0; i < steps; ++i) {
        const float u = static_cast<float>(i + 1) / steps, after = length * u * u, t = 0.5f * (before + after);
        const Densities d = densitiesAt(std::sqrt(r * r + t * t + 2.f * r * mu * t) - earth);
        depth += (airScattering * d.air + Vec3(aerosolExtinction * turbidity * d.aerosol) +
                  ozone * (ozoneShare * d.ozone)) *
                 (after - before);
        before = after;
    }
    return expOf(depth);
}

/// The first nine real spherical harmonics at a unit vector (y up, plain Cartesian order).
std::array<float, 9> harmonicsAt(const Vec3& d)
{
    return {0.282095f,
            0.488603f * d.y,
            0.488603f * d.z,
            0.488603f * d.x,
            1.092548f * d.x * d.y,
            1.092548f * d.y * d.z,
            0.315392f * (3.f * d.z * d.z - 1.f),
            1.092548f * d.x * d.z,
            0.546274f * (d.x * d.x - d.y * d.y)};
}
constexpr std::array<int, 9> bandOf{0, 1, 1, 1, 2, 2, 2, 2, 2};
} // namespace

Sky::Sky(const SkySettings& s) : settings_(s), air_(azimuths * elevations), aerosol_(azimuths * elevations)
{
    const float ce = std::cos(s.elevation), se = std::sin(s.elevation);
    sunDirection_ = Vec3(std::sin(s.azimuth) * ce, se, -std::cos(s.azimuth) * ce);
    // The moon: magnitude by phase angle after Allen (Astrophysical Quantities); full it is 1/400 000 of the sun, a
    // little warmer.
    Vec3 above = sunAbove * s.strength;
    if (s.body == SkySettings::Body::Moon) {
        const float phase = std::acos(std::clamp(2.f * s.moonLit - 1.f, -1.f, 1.f)) * (180.f / pi);
        above = above * Vec3(1.12f, 1.f, 0.82f) *
                (2.5e-6f * std::pow(10.f, -0.4f * (0.026f * phase + 4e-9f * phase * phase * phase * phase)));
    } else if (s.body == SkySettings::Body::None) {
        above = Vec3(0.f);
    }
    night_ = Vec3(0.8f, 1.f, 1.25f) * (2e-4f / 683.f * s.stars * s.strength * s.skyStrength);
    const float eye = earth + 50.f;
    sunIrradiance_ = above * transmittance(eye, se, s.turbidity, s.ozone);

    const float mie = aerosolScattering * s.turbidity;
    parallelFor(elevations, [&](std::size_t row) {
        // Rows are dense near the horizon, where the colour changes fastest.
        const float v = (static_cast<float>(row) + 0.5f) / elevations, elevation = v * v * pi * 0.5f;
        const float mu = std::sin(elevation), horizontal = std::cos(elevation);
        const float length = toSphere(eye, mu, roof);
        for (int column = 0; column < azimuths; ++column) {
            const float phi = (static_cast<float>(column) + 0.5f) / azimuths * pi;
            const float cosine = mu * se + horizontal * ce * std::cos(phi);
            constexpr int steps = 32;
            Vec3 depth(0.f), air(0.f), aerosol(0.f);
            float before = 0.f;
            for (int i = 0; i < steps; ++i) {
                const float u = static_cast<float>(i + 1) / steps, after = length * u * u;
                const float dt = after - before, t = 0.5f * (before + after);
                before = after;
                const float r = std::sqrt(eye * eye + t * t + 2.f * eye * mu * t);
                const Densities d = densitiesAt(r - earth);
                const Vec3 sigma = airScattering * d.air + Vec3(aerosolExtinction * s.turbidity * d.aerosol) +
                                   ozone * (s.ozone * d.ozone);
                const Vec3 toEye = expOf(depth + sigma * (0.5f * dt));
                depth += sigma * dt;
                const Vec3 sun = transmittance(r, (eye * se + t * cosine) / r, s.turbidity, s.ozone);
                // Second and later orders: what was scattered once lights the air again, evenly. The share is
                // the mean optical depth of the column the light came through, bounded.
                const Vec3 again = airScattering * (8000.f * d.air * 1.6f);
                const Vec3 spread = Vec3(1.f) + again * Vec3(1.5f);
                air += airScattering * (d.air * dt) * toEye * sun * spread;
                aerosol += Vec3(mie * d.aerosol * dt) * toEye * sun;
            }
            air_[row * azimuths + static_cast<unsigned>(column)] = air * above * s.skyStrength;
            aerosol_[row * azimuths + static_cast<unsigned>(column)] = aerosol * above * s.skyStrength;
        }
    });

    if (s.panorama)
        usePanorama();
    harmonics_.fill(Vec3(0.f)), withoutSun_.fill(Vec3(0.f)); // Imath vectors start undefined
    // Project the upper half, find the ground's light from it, add the lower half.
    constexpr int rings = 48, spokes = 96;
    const auto project = [&](bool upper, const Vec3& ground, std::array<Vec3, 9>& to) {
        for (int i = 0; i < rings; ++i) {
            const float y = (static_cast<float>(i) + 0.5f) / rings * (upper ? 1.f : -1.f);
            const float r = std::sqrt(1.f - y * y);
            for (int j = 0; j < spokes; ++j) {
                const float a = (static_cast<float>(j) + 0.5f) / spokes * 2.f * pi;
                const Vec3 d(r * std::cos(a), y, r * std::sin(a));
                const Vec3 l = upper || panorama_ ? lookup(d) : ground;
                const auto h = harmonicsAt(d);
                for (unsigned k = 0; k < 9; ++k)
                    to[k] += l * (h[k] * 2.f * pi / (rings * spokes));
            }
        }
    };
    Vec3 skyOnGround(0.f);
    for (int i = 0; i < rings; ++i)
        for (int j = 0; j < spokes; ++j) {
            const float y = (static_cast<float>(i) + 0.5f) / rings, r = std::sqrt(1.f - y * y);
            const float a = (static_cast<float>(j) + 0.5f) / spokes * 2.f * pi;
            skyOnGround += lookup(Vec3(r * std::cos(a), y, r * std::sin(a))) * (y * 2.f * pi / (rings * spokes));
        }
    onLevel_ = skyOnGround;
    groundBySun_ = s.groundAlbedo * sunIrradiance_ * (std::max(0.f, sunDirection_.y) * (1.f / pi));
    ground_ = s.groundAlbedo * skyOnGround * (1.f / pi) + groundBySun_;
    project(true, ground_, harmonics_);
    withoutSun_ = harmonics_;
    project(false, ground_, harmonics_);
    project(false, s.groundAlbedo * skyOnGround * (1.f / pi), withoutSun_);
    Vec3 told(0.f);
    for (int i = 0; i < rings; ++i)
        for (int j = 0; j < spokes; ++j) {
            const float y = (static_cast<float>(i) + 0.5f) / rings, r = std::sqrt(1.f - y * y);
            const float a = (static_cast<float>(j) + 0.5f) / spokes * 2.f * pi;
            told += evened(Vec3(r * std::cos(a), y, r * std::sin(a))) * (y * 2.f * pi / (rings * spokes));
        }
    for (int c = 0; c < 3; ++c)
        evenedScale_[c] = told[c] > 0.f ? skyOnGround[c] / told[c] : 1.f;
}

void Sky::usePanorama()
{
    const SkySettings& s = settings_;
    turnCos_ = std::cos(s.panoramaTurn);
    turnSin_ = std::sin(s.panoramaTurn);
    panorama_ = s.panorama;
    sunIrradiance_ = Vec3(0.f);
    if (!s.panoramaSun)
        return;
    Panorama::Sun sun;
    panorama_ = s.panorama->withoutSun(sun);
    if (sun.found) {
        sunDirection_ = fromPicture(sun.direction);
        sunIrradiance_ = sun.irradiance * s.strength;
    }
}

Vec3 Sky::samplePanorama(float u, float v, float& pdf) const { return fromPicture(panorama_->sample(u, v, pdf)); }
float Sky::panoramaPdf(const Vec3& d) const { return panorama_->pdf(intoPicture(d)); }

Vec3 Sky::lookup(const Vec3& d) const
{
    if (panorama_)
        return panorama_->radiance(intoPicture(d)) * (settings_.strength * settings_.skyStrength);
    const float elevation = std::asin(std::clamp(d.y, 0.f, 1.f));
    const float row = std::clamp(std::sqrt(elevation / (pi * 0.5f)) * elevations - 0.5f, 0.f, elevations - 1.f);
    const float sunHorizontal = std::sqrt(
        std::max(1e-12f, sunDirection_.x * sunDirection_.x + sunDirection_.z * sunDirection_.z));
    const float horizontal = std::sqrt(std::max(1e-12f, d.x * d.x + d.z * d.z));
    const float c = (d.x * sunDirection_.x + d.z * sunDirection_.z) / (sunHorizontal * horizontal);
    const float column = std::clamp(std::acos(std::clamp(c, -1.f, 1.f)) / pi * azimuths - 0.5f, 0.f, azimuths - 1.f);
    const int r0 = static_cast<int>(row), c0 = static_cast<int>(column);
    const int r1 = std::min(r0 + 1, elevations - 1), c1 = std::min(c0 + 1, azimuths - 1);
    const float fr = row - static_cast<float>(r0), fc = column - static_cast<float>(c0);
    const auto at = [&](const std::vector<Vec3>& t) {
        const auto cell = [&](int rr, int cc) { return t[static_cast<unsigned>(rr * azimuths + cc)]; };
        return lerp(lerp(cell(r0, c0), cell(r0, c1), fc), lerp(cell(r1, c0), cell(r1, c1), fc), fr);
    };
    const float cosine = d.dot(sunDirection_);
    return at(air_) * media::rayleigh(cosine) + at(aerosol_) * media::henyeyGreenstein(cosine, aerosolG) + night_;
}

Vec3 Sky::radiance(const Vec3& d) const
{
    if (d.y >= 0.f || panorama_)
        return lookup(d);
    // The ground in the distance fades into the sky's own horizon over two degrees.
    const float fade = std::min(1.f, -d.y / 0.035f);
    Vec3 level(d.x, 0.f, d.z);
    return lerp(lookup(level.normalized()), ground_, fade * fade * (3.f - 2.f * fade));
}

float Sky::ring(float sine) const
{
    constexpr int places = 24;
    const float level = std::sqrt(std::max(0.f, 1.f - sine * sine));
    float sum = 0.f;
    for (int i = 0; i < places; ++i) {
        const float a = (static_cast<float>(i) + 0.5f) * (2.f * pi / places);
        sum += luminance(lookup(Vec3(level * std::cos(a), sine, level * std::sin(a)))) / places;
    }
    return sum;
}

Vec3 Sky::diskRadiance(const Vec3& d) const
{
    const float c = d.dot(sunDirection_);
    const float sunRadius = this->sunRadius();
    if (c < std::cos(sunRadius))
        return Vec3(0.f);
    // Limb darkening I(μ)/I(1) = 1 − 0.6(1 − μ), whose mean over the disk is 0.8.
    const float sine = std::sqrt(std::max(0.f, 1.f - c * c)) / std::sin(sunRadius);
    const float mu = std::sqrt(std::max(0.f, 1.f - sine * sine));
    return sunIrradiance_ * ((1.f - 0.6f * (1.f - mu)) / (0.8f * pi * sunRadius * sunRadius));
}

Vec3 Sky::irradiance(const Vec3& n) const
{
    // Cosine-lobe convolution factors π, 2π/3, π/4 (Ramamoorthi & Hanrahan 2001).
    static constexpr std::array<float, 3> lobe{pi, 2.f * pi / 3.f, pi / 4.f};
    const auto h = harmonicsAt(n);
    Vec3 e(0.f);
    for (unsigned k = 0; k < 9; ++k)
        e += harmonics_[k] * (h[k] * lobe[static_cast<unsigned>(bandOf[k])]);
    return {std::max(0.f, e.x), std::max(0.f, e.y), std::max(0.f, e.z)};
}

Vec3 Sky::scattered(const Vec3& d, float g) const
{
    // A Henyey–Greenstein lobe has the Legendre coefficients g^l, so band l is simply scaled by g^l.
    const std::array<float, 3> lobe{1.f, g, g * g};
    const auto h = harmonicsAt(d);
    Vec3 l(0.f);
    for (unsigned k = 0; k < 9; ++k)
        l += harmonics_[k] * (h[k] * lobe[static_cast<unsigned>(bandOf[k])]);
    return {std::max(0.f, l.x), std::max(0.f, l.y), std::max(0.f, l.z)};
}

Vec3 Sky::evened(const Vec3& d) const
{
    if (d.y <= 0.f)
        return ground_;
    constexpr float g = 0.8f;
    const std::array<float, 3> lobe{1.f, g, g * g};
    const auto h = harmonicsAt(d);
    Vec3 l(0.f);
    for (unsigned k = 0; k < 9; ++k)
        l += withoutSun_[k] * (h[k] * lobe[static_cast<unsigned>(bandOf[k])]);
    return Vec3(std::max(0.f, l.x), std::max(0.f, l.y), std::max(0.f, l.z)) * evenedScale_;
}

void Sky::scattered8(F8 x, F8 y, F8 z, float g, F8 out[3]) const
{
    const F8 h[9] = {f8(0.282095f),
                     0.488603f * y,
                     0.488603f * z,
                     0.488603f * x,
                     1.092548f * x * y,
                     1.092548f * y * z,
                     0.315392f * (3.f * z * z - 1.f),
                     1.092548f * x * z,
                     0.546274f * (x * x - y * y)};
    const std::array<float, 3> lobe{1.f, g, g * g};
    for (int c = 0; c < 3; ++c) {
        F8 l = f8(0.f);
        for (unsigned k = 0; k < 9; ++k)
            l += h[k] * (withoutSun_[k][c] * lobe[static_cast<unsigned>(bandOf[k])]);
        out[c] = max8(l, f8(0.f));
    }
}
} // namespace hygros::light
