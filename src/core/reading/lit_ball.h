#pragma once
/// A small picture of matter: a ball of it before a bright and a dark field, lit by one lamp from the upper left in
/// front and by an even sky.
#include "media/phase.h"

#include <vector>

namespace hygros::reading {

struct BallOf {
    Vec3 scattering{0.f}, absorption{0.f}; ///< by channel [1/m]
    media::Phase phase;
    float diameter = 1.f; ///< [m]
};
/// RGB of size×size pixels, about 0…1.5 where a white wall in the lamp's light would be 1. Single scattering exactly
/// (both ways straight through the ball), higher orders by octaves of less extinction and blunter phase functions
/// (Wrenninge, Kulla & Lundqvist 2013).
std::vector<float> litBall(const BallOf& ball, int size);
} // namespace hygros::reading
