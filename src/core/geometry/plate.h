#pragma once
/// A picture with its depth, in place of geometry or together with it. Its pixels are never changed.
#include "geometry/camera.h"

#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace hygros::geometry {

/// How the numbers of a depth picture become metres.
struct DepthReading {
    enum class Along { Ray, Axis } along = Along::Ray; ///< distance from the camera, or along its axis
    enum class Unit {
        Metres,        ///< as they stand
        Share,         ///< 0…1 of `maximum`; 1 is the sky
        InvertedShare, ///< 1…0 of `maximum`; 0 is the sky
        Inverse        ///< 1 / metres; 0 is the sky
    } unit = Unit::Metres;
    float maximum = 1000.f; ///< [m], > 0
    float scale = 1.f;      ///< metres of one unit of the file, > 0
    std::string layer;      ///< of the picture: "plate" takes plate.R, plate.G and plate.B; empty: R, G and B
    std::string channel;    ///< of the file; empty: Z, depth.Z, depth, or its only or first channel
    bool resample = false;  ///< a depth of another size than the picture is fitted (nearest value) instead of left out
    bool operator==(const DepthReading&) const = default;
};

struct PlateSource {
    std::filesystem::path picture, depth; ///< absolute; depth may be the same file, or empty: all sky
    DepthReading reading;
    float brightness = 0.f;                ///< stops; 0 leaves the picture as it is
    float focalMm = 35.f, sensorMm = 36.f; ///< of the lens, to turn distances along the axis into distances
    bool operator==(const PlateSource&) const = default;
};

struct Plate {
    int width = 0, height = 0;
    std::vector<float> rgb; ///< linear, as in the file (8- and 16-bit pictures decoded from sRGB), times the brightness
    std::vector<float> depth;       ///< metres along the ray; infinite where there is sky
    std::vector<std::string> notes; ///< what the artist should know of the files
    std::size_t bytes() const { return sizeof *this + (rgb.size() + depth.size()) * sizeof(float); }

    /// Colour and depth for pixel (x, y) of a frame of another size, or of a part of one: the plate's width spans the
    /// whole frame's, centred in height; colours are area means, depths the middle's. The same size copies. Returns a
    /// depth below 0 outside the plate.
    float fitted(int x, int y, int frameWidth, int frameHeight, float colour[3], const PicturePart& part = {}) const;
};

struct SetGeometry;
/// The plate's surface as far as its depth tells it, for casting shadows into the air: in the frame of a camera at the
/// origin that looks along −Z; torn where depth leaps. At most about `cells` quads; null when there is no depth.
std::shared_ptr<const SetGeometry> reliefOf(const Plate& plate, float focalMm, float sensorMm,
                                            std::size_t cells = 200000);

/// Throws an input Error for files that are missing, damaged or hold no RGB. Depths that are negative or not a number
/// are taken as sky and counted in the notes; so are picture values that are not a number, which stay as they are.
std::shared_ptr<Plate> loadPlate(const PlateSource& source);

/// Whether a file has a channel of depth beside its colours (Z, depth.Z …).
bool hasDepth(const std::filesystem::path& file);

/// The least and largest number among files named like `file` but for its last run of digits; nothing when it has no
/// number or there are none.
std::optional<std::pair<int, int>> frameRange(const std::filesystem::path& file);

/// `file` with its last run of digits replaced by `number` in as many places. If there is no such file the nearest
/// earlier (else later) one that exists is taken, or none (an empty path), and `note` says so; `file` itself when it
/// has no number.
enum class Gaps { Hold, Empty };
std::filesystem::path frameOf(const std::filesystem::path& file, int number, std::string& note, Gaps gaps = Gaps::Hold);
} // namespace hygros::geometry
