#pragma once
/// Water as files for others: its surface, its maps, and what a buoy on it measures.
#include "elements/kinds.h"

namespace hygros::elements {

struct WaterWish {
    double side = 60.0; ///< of the square that is written [m]
    double cell = 0.25; ///< of its samples [m]; of a height map: of a pixel
    bool tiles = false; ///< of a map: the longest tile of waves alone, whose edges fit each other
};
/// Writes Open water or a Pool at the project's frame: a square ahead of the camera (of a pool what of it is water) as
/// a mesh (.ply, .obj, .glb: metres of the world, with normals), or as maps (.exr: channels "displacement.x", ".y",
/// ".z" from the still plane [m], "normal.x", ".y", ".z", "jacobian", and "foam" 0…1, −Z up; metadata say where and how
/// wide a pixel is). Throws an input Error where the element is none or is not in the picture, or where it would have
/// more than 4096 samples a side; a working Error where the file cannot be written.
void exportWater(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                 const WaterWish& wish, Store& store, JobControl& job);

/// Heights over the still level at a place, by frame; and what they say.
struct Buoy {
    std::vector<double> seconds, heights;
    double significantHeight = 0.0; ///< 4 times their standard deviation [m]
    double meanPeriod = 0.0;        ///< between crossings of their mean upward [s]; 0: there are less than two
    double spectrumHeight = 0.0, spectrumPeriod = 0.0; ///< what the waves' own spectrum says
};
/// Of all frames from one to another, both within the project's range or not. Throws as exportWater.
Buoy buoyAt(const scene::Project& project, const std::string& element, double x, double z, int first, int last,
            Store& store, JobControl& job);
/// The same as a table (.csv: frame, seconds, height), with what it says in its head.
void exportBuoy(const scene::Project& project, const std::string& element, double x, double z, int first, int last,
                const std::filesystem::path& out, Store& store, JobControl& job);
} // namespace hygros::elements
