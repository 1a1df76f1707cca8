#pragma once
/// Waves of what moves in water: any set with keys or a clip that reaches its level.
#include "elements/kinds.h"
#include "media/spray.h"
#include "media/wake.h"

namespace hygros::geometry {
class Basin;
}

namespace hygros::elements {

struct WakeWish {
    double level = 0.0, depth = 100.0; ///< of the water [m]
    double strength = 1.0;             ///< heights times this
    double choppy = 1.0;
    double foamHalves = 2.5;                      ///< of foam [s]
    int samples = 256;                            ///< a side of each patch
    std::shared_ptr<const geometry::Basin> basin; ///< whose walls throw them back; null: none do
};
/// A patch for each at the frame, stepped from the first frame on where it is not kept from before. What moves before
/// the first frame is not known: it begins at rest.
std::vector<std::shared_ptr<const media::WakePatch>> wakesOf(const FreezeContext& c, const WakeWish& wish);

/// Bursts of water that such sets throw up where they strike it, of those that may still be in the air at the frame:
/// at bows that are fast enough, and around what comes down into it.
std::vector<media::SprayBurst> thrownBySets(const FreezeContext& c, const WakeWish& wish, double frame);

/// How deep a set stands under a level, by samples of a square of n a side from a corner on [m]; softly at its edges,
/// so that it does not leap from sample to sample as it moves.
std::vector<float> draughtOf(const geometry::RayScene& set, float level, const Vec2& corner, int n, float cell,
                             bool softly = true);
} // namespace hygros::elements
