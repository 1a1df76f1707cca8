#pragma once
/// What the kinds around voxel volumes share: the volume itself, tints over it, combinations of two, scattered copies.
#include "elements/air.h"

#include "elements/volume_shape.h"
#include "media/vdb_tools.h"

namespace hygros::elements {

/// Of every kind whose matter is a volume.
struct VolumeSettings : scene::Settings, AirSettings {
    VolumeSettings()
    {
        visibility = 20.0;
        albedo = Vec3(0.9f, 0.9f, 0.9f);
        anisotropy = 0.5;
    }
    std::string source = "file", file, density, heat, object;
    Vec3 size{4.f, 3.f, 4.f};
    double voxel = 0.08, edge = 0.4, hollow = 0.0, scaleNoise = 1.2, contrast = 0.6;
    std::int64_t octaves = 4, seed = 1;
    scene::CurvePoints curve{{0.f, 0.f}, {1.f, 1.f}};
    scene::CurvePoints densityCurve{{0.f, 0.f}, {1.f, 1.f}}, scatteringCurve{{0.f, 1.f}, {1.f, 1.f}},
        absorptionCurve{{0.f, 1.f}, {1.f, 1.f}};
    std::string linking = "albedo";
    double scatters = 0.5, absorbs = 0.05;
    Vec3 scatterColour{1.f, 1.f, 1.f}, absorbColour{1.f, 1.f, 1.f};
    bool sequence = false;
    std::string ends = "hold", gaps = "hold", velocity;
    double shutter = 0.0, velocityScale = 1.0;
    std::int64_t offset = 0;
    double speed = 1.0;
    Vec3 position{0.f, 0.f, 0.f};
    double turn = 0.0, pitch = 0.0, roll = 0.0, scale = 1.0, preview = 0.0;
    std::string follows;
    double shadows = 1.0;
    std::string glow = "none";
    double kelvin = 1.0, coldest = 700.0, emissive = 0.1, exposure = 0.0;
    scene::ColourStops ramp{{0.f, Vec3(0.f), 0.f},
                            {0.2f, Vec3(0.4f, 0.05f, 0.01f), 1.f},
                            {0.6f, Vec3(1.f, 0.35f, 0.06f), 1.f},
                            {1.f, Vec3(1.f, 0.8f, 0.5f), 1.f}};
    double rampTop = 1.0, lights = 1.0;
};

struct TintSettings : scene::SettingsOf<TintSettings> {
    std::string volume, by = "height";
    scene::ColourStops colours{{0.f, Vec3(1.f, 0.35f, 0.2f), 1.f}, {1.f, Vec3(0.3f, 0.4f, 1.f), 1.f}};
    double share = 1.0;
    std::string onto = "scattering", object;
    Vec3 origin{0.f, 0.f, 0.f}, axis{0.f, 1.f, 0.f};
    double first = 0.0, last = 10.0, firstValue = 0.0, lastValue = 1.0, scale = 2.0;
    std::int64_t octaves = 3, seed = 1;
};

struct CombinationSettings : scene::SettingsOf<CombinationSettings> {
    std::string volume, other, how = "union";
    double radius = 0.5, voxel = 0.5;
    bool hides = true;
};

struct CopiesSettings : scene::SettingsOf<CopiesSettings> {
    std::string volume, onto = "box", object;
    std::int64_t count = 12, seed = 1, lag = 0;
    Vec3 centre{0.f, 0.f, 0.f}, size{40.f, 0.f, 40.f};
    double turn = 360.0, smallest = 0.7, largest = 1.3, lift = 0.0;
    bool upright = true, original = false;
};

/// Colour and opacity of a ramp at a place 0…1.
scene::ColourStop stopAt(const scene::ColourStops& stops, float at);
/// A tint as the renderer takes it.
media::Tint tintOf(const FreezeContext& c, const TintSettings& s, const media::Volume& v);

/// A volume's grid of this frame, from wherever it comes, and where it stands.
class VoxelSource;
struct PlacedGrid {
    std::shared_ptr<VoxelSource> source; ///< never null (voxel_source.h)
    double frame = 0.0;
    std::shared_ptr<const media::LoadedGrid> grid;
    Mat4 place; ///< from the grid's own world to the shot's
};
/// Null grid where something is missing, which is noted. `shift` counts frames from the project's.
PlacedGrid placedGrid(const FreezeContext& c, const scene::Element& element, double shift = 0.0);
/// How often a grid is halved so that its voxels are at least `wanted` metres, and where a grid halved so often has its
/// places.
int halvings(const Mat4& toWorld, double wanted);
Mat4 halvedPlace(int times);
/// A volume element as it stands in the shot, its look and tints included; nothing where it holds nothing. Combinations
/// are done.
std::optional<media::Volume> builtVolume(const FreezeContext& c, const scene::Element& element, double shift = 0.0);

/// Light over the heat grid's value from 0 to `most`, as media::Glow::table.
std::shared_ptr<const std::vector<Vec3>> heatTable(const VolumeSettings& s, float most, float& scale);
/// Lamps that stand for what a volume gives off: its light gathered into up to four balls where it comes from, dimmed
/// by its own matter on the way out as the mean of six directions says.
std::vector<light::Lamp> lampsOf(const media::Volume& v);
/// Puts a built volume into the shot, with its shadow and the lamps that stand for its glow.
void contributeVolume(FreezeContext& c, media::Volume v, float lights, bool coarseShadow = false);
} // namespace hygros::elements
