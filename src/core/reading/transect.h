#pragma once
/// The Transect's numbers: a section of the air along the camera's view, by distance and height.
#include "shot/shot.h"

#include <vector>

namespace hygros::reading {

struct Transect {
    /// Distances of the columns [m].
    std::vector<float> distance;
    /// Highest and lowest surface within the view's middle third at each distance [m]; not-a-number where there is
    /// none.
    std::vector<float> highest, ground;
    /// Water along the section: its crests and troughs at each distance, not-a-number where there is none; the level of
    /// the nearest, and how far down from there something can be made out [m]; 0: no water. It is not in `highest` and
    /// `ground`.
    std::vector<float> crest, trough;
    float waterLevel = 0.f, seesUnder = 0.f;
    /// Transmittance from the camera along its heading, level; noise left out. By column, all media together.
    std::vector<float> transmittance;
    /// Where transmittance falls to 5 % [m]; infinite if it does not within 100 km.
    float sees = 0.f;
    float eyeHeight = 0.f;

    /// Extinction with noise on a grid: rows × columns, row 0 lowest, one sheet a medium [1/m].
    struct Sheet {
        std::string id;
        std::vector<float> extinction;
    };
    std::vector<Sheet> sheets;
    std::vector<float> rowHeight; ///< [m]
};

struct TransectGrid {
    int columns = 240;
    float nearest = 1.f, farthest = 4000.f; ///< [m]
    bool logarithmic = true;                ///< distances by equal factors, else by equal steps
    float across = 0.5f;                    ///< the picture's column the section goes through, 0…1 of its width
    std::vector<float> rowHeights;
    bool outline = true; ///< trace the set's outline too; else highest and ground stay empty
};

Transect transectOf(const shot::Shot& shot, const TransectGrid& grid);
/// Level direction of the section through a column of the picture.
Vec3 sectionHeading(const shot::Shot& shot, float across);
/// The set's outline alone, and the water's; it changes with what stands there and camera only.
void outlineOf(const shot::Shot& shot, float across, Transect& transect);
/// Distance at which the level transmittance from the camera is 5 %.
float seesTo(const shot::Shot& shot);
} // namespace hygros::reading
