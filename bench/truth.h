#pragma once
/// Live pictures held against path-traced ones on scenes that are drawn by chance, so that nobody has tuned on them.
#include "base/store.h"
#include "scene/project.h"

#include <array>
#include <filesystem>
#include <string>
#include <vector>

namespace hygros::truth {

/// The scene of a seed: sun, moon or panorama; haze, banks of every form, decks, volumes; lamps of every kind; bare
/// ground, boards and boxes, or the lock at Marl; a camera among them. `folder` takes the files it needs; `demo` holds
/// the set of Marl.
scene::Project scene(std::uint64_t seed, const std::filesystem::path& folder, const std::filesystem::path& demo);

/// One layer: its mean by channel, live and reference, and how its blocks of 8×8 pixels compare.
struct Compared {
    std::string layer;
    std::array<double, 3> live{}, reference{};
    double share = 0.0; ///< of the picture's light in the reference, by luminance
    double near = 1.0;  ///< share within a fifth of its blocks that the reference knows
    double told = 1.0;  ///< share of blocks that it knows, to 7 % of them
    double worst() const;
};
struct Result {
    std::uint64_t seed = 0;
    std::string what;   ///< the scene in words
    double noise = 0.0; ///< of the reference, 95 of 100 blocks are under it
    double error = 0.0; ///< standard error of its mean light, as a share
    double seconds = 0.0;
    std::vector<Compared> layers; ///< "picture" first
    int width = 0, height = 0;
    std::vector<float> live, reference; ///< RGB
};
struct Settings {
    int width = 64, height = 48, passes = 64, paths = 20000; ///< passes: of a finished picture in the window
    double seconds = 15.0;                                   ///< a reference takes at most
    bool followsPaths = true;                                ///< of the live picture
    float noise = 0.02f;
};
Result compare(const scene::Project& project, std::uint64_t seed, const Settings& settings);
/// Largest |live ÷ reference − 1| of a channel of the picture.
double worstOf(const Result& r);
} // namespace hygros::truth
