#pragma once
/// Water that flies: bursts of drops where something strikes water or water strikes something.
///
/// Each drop flies by itself, with the drag that lets it fall at its last speed in still air (linear in its speed
/// through the air, so that its place at any time is known; its last speed by Gunn & Kinzer, see media/falling.h).
/// Diameters by a log-normal law with a median of 1.1 mm and a spread of 0.5, from 0.3 to 6 mm: what large drops hold
/// most of, as J. Villermaux and others found of sheets that break up (Annu. Rev. Fluid Mech. 39, 2007, for the shape).
#include "media/falling.h"

#include <cstdint>
#include <vector>

namespace hygros::media {

/// Seconds after which none is followed any more.
inline constexpr float sprayLasts = 2.4f;

/// So much water that is thrown at once.
struct SprayBurst {
    Vec3 place{0.f};      ///< where its middle begins
    Vec3 velocity{0.f};   ///< of its middle [m/s]
    float scatter = 0.3f; ///< of single drops, of the speed of the middle
    float wide = 0.1f;    ///< of where they begin [m]
    float volume = 0.f;   ///< [m³]
    float age = 0.f;      ///< since then [s]
    float lasts = 0.1f;   ///< over which it is thrown; drops begin at any moment of that [s]
    std::uint32_t own = 1;
    bool operator==(const SprayBurst&) const = default;
};
struct SpraySettings {
    Vec3 wind{0.f};    ///< [m/s]
    float level = 0.f; ///< at which it is water again [m]
    std::size_t most =
        60'000; ///< drops, about; where there are more each stands for several and covers as much as they
    bool operator==(const SpraySettings&) const = default;
};
/// How many drops so much water becomes, on average.
double sprayDrops(double volume);
/// Which share of their drops is followed (0 to 1): about `most` in the air, and of those that are down already no more
/// than are soon looked through. The same for all bursts, and without leaps as they begin, come down and end, so that
/// what one is made of changes steadily.
double sprayShare(const std::vector<SprayBurst>& bursts, const SpraySettings& settings);
/// Drops that are looked at for one that may be in the air.
inline constexpr double sprayTried = 25.0;
/// Those of all bursts that are in the air.
void sprayOf(const std::vector<SprayBurst>& bursts, const SpraySettings& settings, std::vector<Drop>& out);
/// Where one that began with a velocity is and how fast, `seconds` later.
Drop flying(const Vec3& place, const Vec3& velocity, float diameter, float seconds, const Vec3& wind);
/// What hangs in the air over water so wind-blown, at its surface [1/m]: as white as it is, with one kilometre of sight
/// in a whole gale (25 m/s).
double sprayMist(double wind);
} // namespace hygros::media
