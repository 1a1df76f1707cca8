#pragma once
/// Figures of weather on First light; milliseconds, 960×540.
#include "scene/project.h"

namespace hygros::bench {

struct Weather {
    double draw = 0.0; ///< drops of a cloudburst onto a picture, and how many these were
    double drops = 0.0;
    double edit = 0.0; ///< frozen, marched quickly and shown after a change of rate and of wind
};
/// A million leaves in wind and turbulence over the ground.
struct Particles {
    double step = 0.0;       ///< one step [ms]
    double bytes = 0.0;      ///< a particle
    double stateBytes = 0.0; ///< of all that move or lie, as stepped
};
Particles particles();
/// Ten million flakes that lie about the camera, drawn into a picture.
struct Resting {
    double draw = 0.0;  ///< [ms]
    double bytes = 0.0; ///< of the list and of the state that it came from
};
Resting resting(const scene::Project& project);
/// A set of 300 thousand triangles covered with snow anew; milliseconds.
double snowCover(const scene::Project& project);
Weather weather(const scene::Project& project);
} // namespace hygros::bench
