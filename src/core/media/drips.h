#pragma once
/// Drops that hang from edges, grow, and fall.
///
/// One comes off when its weight is more than its skin holds: at edges and leaves that is a drop of about 5 mm,
/// whatever the rain (T. Tate, On the magnitude of a drop of liquid formed under different circumstances, Phil. Mag.
/// 27, 1864; A. J. Moss & T. W. Green, Erosive effects of the large water drops that fall from plants, Aust. J. Soil
/// Res. 25, 1987). How often is what the edge gets of the rain, by volume. They fall against the drag of their last
/// speed v: v·tanh(g·t/v).
#include "geometry/runoff.h"
#include "media/falling.h"

namespace hygros::media {

inline constexpr float dripDiameter = 4.8e-3f; ///< [m]

struct DripSettings {
    float rate = 0.f;   ///< of the rain [mm/h]
    float share = 1.f;  ///< of what edges get that drips
    Vec3 wind{0.f};     ///< [m/s]
    float splashes = 1; ///< as media::Falling::splashes
    std::uint32_t seed = 1;
    bool operator==(const DripSettings&) const = default;
};
/// Seconds from one drop to the next at an edge that catches so much; infinite: none ever.
double dripEvery(const geometry::Drip& drip, const DripSettings& settings);
/// Those that hang, fall or burst up again at a time, and what landed within `lasts` seconds before. `loop`: length of
/// it in which all closes [s]; 0: none.
void dripsAt(const std::vector<geometry::Drip>& drips, const DripSettings& settings, double seconds, double loop,
             float lasts, std::vector<Drop>& out, std::vector<Landing>& landed);
} // namespace hygros::media
