#pragma once
/// What is in water, and the colour of what comes back up out of it.
///
/// Pure water takes light by R. M. Pope & E. S. Fry, Absorption spectrum (380–700 nm) of pure water, Appl. Opt. 36,
/// 1997; what is dissolved and floats in it adds to that. What comes back is told by absorption and the part that is
/// scattered back (H. R. Gordon et al., J. Geophys. Res. 93, 1988), and over ground that shows by Z. Lee et al.
/// (Hyperspectral remote sensing for shallow waters, Appl. Opt. 37, 1998): what is lost on the way down and up again.
#include "base/vec.h"

#include <string>
#include <vector>

namespace hygros::media {

struct WaterBody {
    Vec3 absorption{0.34f, 0.057f, 0.009f}; ///< of red, green and blue: 650, 550, 450 nm [1/m]
    Vec3 back{0.f};                         ///< scattered back [1/m]
    bool operator==(const WaterBody&) const = default;
    /// Share of light from above that comes out of it again, as of a matte surface: no ground in sight.
    Vec3 deep() const;
    /// Over matte ground of a colour; light goes down `down` and up `metres`.
    Vec3 over(const Vec3& ground, float metres, float down) const;
    /// As far as a black disc can be seen level under it (S. Q. Duntley, Light in the sea, JOSA 53, 1963: contrast
    /// falls with the sum of all that is lost); by the green [m].
    float sight() const;
};
/// A kind of water by name, and all there are: "clear", "coast", "lake", "pond", "silt", "peat".
struct WaterType {
    std::string id, label;
    WaterBody body;
};
const std::vector<WaterType>& waterTypes();
} // namespace hygros::media
