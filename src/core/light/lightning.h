#pragma once
/// Lightning: the way of a channel through the air, and when its strokes flash.
///
/// A leader comes down in steps, each turned a little from the last: the mean turn that was measured is 16° from one
/// piece to the next (R. D. Hill, Analysis of irregular paths of lightning channels, J. Geophys. Res. 73, 1968), at
/// every scale of it. Here a way between two ends is halved again and again, the middle put aside by chance so that the
/// pieces turn by that mean; branches leave it downward, each such a way of its own, and branch again. The first
/// return stroke lights all of it, later ones the channel alone; three to five follow each other about 60 ms apart,
/// each weaker (V. A. Rakov & M. A. Uman, Lightning, 2003). The visible light of a stroke: 3.5·10⁵ J (C. Guo & E. P.
/// Krider, The optical and radiation field signatures produced by lightning return strokes, J. Geophys. Res. 87, 1982:
/// 2.3·10⁹ W for 158 µs).
#include "base/vec.h"

#include <cstdint>
#include <vector>

namespace hygros::light {

struct Bolt {
    struct Piece {
        Vec3 from, to;
        float share = 1.f; ///< of the channel's brightness a metre
        bool isMain = true;
    };
    std::vector<Piece> pieces; ///< the channel's own first, from its beginning to its end
    float length = 0.f;        ///< of the channel [m]
};
/// `branches`: 0 none, 1 as many as to the ground, more beyond. `winding`: mean turn between pieces [rad].
Bolt boltBetween(const Vec3& from, const Vec3& to, float branches, float winding, std::uint32_t seed);

struct Stroke {
    double at = 0.0;   ///< [s]
    float share = 1.f; ///< of the first one's light
    bool isFirst = true;
};
/// Strokes of a strike that begins at a time; `count` on average.
std::vector<Stroke> strokesOf(double at, double count, std::uint32_t seed);
/// When strikes begin between two times: one at `first`, then by chance at a mean rate [1/s] (as rain on a roof: no
/// strike knows of another). The same for the same seed, whatever is asked for.
std::vector<double> strikesBetween(double first, double rate, double from, double to, std::uint32_t seed);

/// Mean light between two times of a flash at 0 that dies away by `glow` seconds (to 1/e), a unit of its energy [1/s].
double flashBetween(double from, double to, double glow);
} // namespace hygros::light
