#pragma once
/// What bursts up where a drop lands: a crown of small drops that fly on their own.
///
/// On hard ground a drop throws up small ones of a tenth to a third of its width, at about 60° and a tenth to a third
/// of the speed at which it came (A. L. Yarin, Drop impact dynamics, Annu. Rev. Fluid Mech. 38, 2006, for the range);
/// the larger and faster it is the more of them. They fall as stones do: over so short a way the air does not matter.
#include "media/falling.h"

namespace hygros::media {

inline constexpr float splashLasts = 0.25f;      ///< seconds after which none is in the air any more
inline constexpr float splashSmallest = 1.6e-3f; ///< of drops that splash [m]

/// Hail and the like: where one is that came down on a surface `age` seconds ago and leaps on, each time with the share
/// `bounce` of its speed (and a little aside); false: it lies by now.
bool leapOf(const Vec3& place, const Vec3& normal, const Vec3& velocity, float diameter, float age, float bounce,
            std::uint32_t seed, Drop& out);
/// Seconds after which such a one lies.
float leapsLast(float speed, float bounce);
/// The small drops of one that landed `age` seconds ago at `place` on a surface that faces `normal`, coming at `speed`;
/// `share`: 1 as on stone, less on what is soft. The same for the same seed.
void splashOf(const Vec3& place, const Vec3& normal, float diameter, float speed, float age, float share,
              std::uint32_t seed, std::vector<Drop>& out);
} // namespace hygros::media
