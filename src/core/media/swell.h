#pragma once
/// Waves that wind makes on water: how much of which length runs where.
///
/// Spectrum over frequency: JONSWAP (K. Hasselmann et al., Measurements of wind-wave growth and swell decay during the
/// Joint North Sea Wave Project, Dtsch. Hydrogr. Z. Suppl. A8, 1973) with its peak and level by wind and fetch; over so
/// much water that they have grown as far as that wind can bring them: Pierson & Moskowitz (J. Geophys. Res. 69, 1964).
/// Over shallow ground by S. A. Kitaigorodskii's factor (J. Phys. Oceanogr. 5, 1975; E. Bouws et al., TMA, J. Geophys.
/// Res. 90, 1985). Over direction: M. A. Donelan, J. Hamilton & W. H. Hui (Phil. Trans. A 315, 1985) with M. L.
/// Banner's tail (J. Phys. Oceanogr. 20, 1990), as C. Horvath gathers them (Empirical directional wave spectra for
/// computer graphics, DigiPro 2015). Frequency and length: ω² = (g·k + s·k³)·tanh(k·depth), s the skin's pull over
/// density.
#include "base/vec.h"

#include <cstdint>

namespace hygros::media {

inline constexpr double gravityOfWaves = 9.81; ///< [m/s²]
inline constexpr double skinOfWater = 7.28e-5; ///< surface tension over density, at 20 °C [m³/s²]
/// ω of waves of a wavenumber k [1/m] over ground so deep [m]; and how fast it grows with k (group speed) [m/s].
double frequencyOf(double k, double depth);
double groupSpeedOf(double k, double depth);
/// k of waves of a frequency ω [1/s].
double wavenumberOf(double frequency, double depth);

struct Swell {
    double wind = 8.0;      ///< 10 m over the water [m/s]
    double toward = 0.0;    ///< where it blows: 0 is −Z, clockwise seen from above [rad]
    double fetch = 5e4;     ///< length of water that it blows over [m]
    double depth = 1000.0;  ///< [m]
    double narrow = 1.0;    ///< how closely waves keep to the wind's way; 1: as they do
    double opposing = 0.0;  ///< share of their energy that runs against it, 0…1
    double shortest = 0.02; ///< waves shorter than this are left out of what is drawn one by one [m]
    double strength = 1.0;  ///< heights times this
    /// A second one from elsewhere: its significant height, the length of its waves, where it runs.
    double otherHeight = 0.0, otherLength = 60.0, otherToward = 0.0;
    bool operator==(const Swell&) const = default;

    /// Energy over frequency [m²·s], of the wind's waves alone, and of both together.
    double windWaves(double frequency) const;
    double energy(double frequency) const;
    /// Where most of the wind's waves are [1/s].
    double peak() const;
    /// Over frequency and direction: its integral over all directions is energy() [m²·s/rad].
    double energy(double frequency, double toward) const;
    /// Variance over the plane of wavenumbers, x toward +X and z toward +Z [m⁴].
    double density(double kx, double kz) const;
    /// What of that does not depend on the direction: of the wind's waves and the other's over the plane, and how
    /// narrow the wind's are.
    struct Ring {
        double own = 0.0, other = 0.0, narrow = 1.0;
    };
    Ring ring(double k) const;
    double density(const Ring& ring, double toward) const;
    /// Variance of height of waves between two wavenumbers [m²]; and of slope, both axes together.
    double variance(double from, double to) const;
    double slopeVariance(double from, double to) const;
    /// 4·√variance of all.
    double significantHeight() const;
    /// Mean period between crossings of the level upward, √(m0/m2) of what is longer than the shortest [s].
    double meanPeriod() const;
    /// Length of waves at the peak of all [m].
    double peakLength() const;
};

/// Share of a sea that is white by wind (E. C. Monahan & I. O'Muircheartaigh, Optimal power-law description of oceanic
/// whitecap coverage dependence on wind speed, J. Phys. Oceanogr. 10, 1980): 3.84·10⁻⁶·U^3.41.
double whiteShare(double wind);
} // namespace hygros::media
