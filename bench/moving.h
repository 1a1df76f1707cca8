#pragma once
/// Figures of what moves: the next frame, frames in sequence, baked frames.
#include "scene/project.h"

namespace hygros::bench {

struct Beside {
    double value = 0.0, peer = 0.0; ///< milliseconds
};
/// Time of frame `by` frames on as the window makes it: frozen, marched quickly, shown; 960×540.
double nextFrame(const scene::Project& project, int by);
/// A later still of a sequence under a still camera (drifting air) and the first one; 480×270.
Beside sequenceStill(const scene::Project& project);
/// A still of a sequence under a moving camera, its shutter open, and a sharp still by itself of as many samples.
Beside sequenceMoving(const scene::Project& project);
/// Reading a baked frame of 200 MB, and reading the bytes of such a file.
Beside storeRead();
} // namespace hygros::bench
