#pragma once
/// Figures of a fire that is played while it is simulated.
#include <string>

namespace hygros::bench {

/// The brazier of a project at preview, simulated from its first frame while its newest frame is drawn at 960×540.
struct Play {
    double rate = 0.0;     ///< simulated seconds a second, once it burns
    double pictures = 0.0; ///< first pictures of a frame a second meanwhile
    double first = 0.0;    ///< seconds until flames are in a picture
    double files = 0.0;    ///< share of the bake that was spent on files
};
Play playFire(const std::string& project);
} // namespace hygros::bench
