#pragma once
/// What a plume and a feed are set to. For plume.cpp and feed.cpp alone.
#include "elements/volume_parts.h"

namespace hygros::elements {

constexpr float airAround = 288.f; ///< temperature of the air [K]

struct PlumeSettings final : VolumeSettings {
    PlumeSettings()
    {
        source = "baked";
        // A gram of soot in a cubic metre has an extinction of 8.7 m²/g (Mulholland & Croarkin 2000).
        visibility = visibilityConstant / 8.7;
        albedo = Vec3(0.6f, 0.6f, 0.6f);
        glow = "blackbody";
        coldest = 800.0;
        emissive = 0.6;
        size = Vec3(4.f, 8.f, 4.f);
        voxel = 0.1;
    }
    double pace = 1.0, buoyancy = 1.0, thinning = 6.0, cooling = 1200.0, burning = 4.0, burnHeat = 1500.0,
           ignition = 600.0, sooting = 0.6, expansion = 1.0, swirling = 0.15, viscosity = 0.0;
    bool ground = true, obstacles = true;
    std::string detail = "shot", showEnds = "nothing";
    double keeps = 1.0, sharpens = 0.0, shimmers = 0.0, draught = 0.0, showSpeed = 1.0, showFrom = 0.0, showFade = 0.5;
    static constexpr double previewCells = 2.0; ///< voxels of the preview
    /// How large voxels are [m].
    double cell() const { return voxel * (detail == "preview" ? previewCells : detail == "final" ? 0.5 : 1.0); }
    std::shared_ptr<scene::Settings> clone() const override { return std::make_shared<PlumeSettings>(*this); }
};

struct FeedSettings : scene::SettingsOf<FeedSettings> {
    std::string plume, form = "disc", object, material, painted, particles, mask, follows;
    Vec3 position{0.f, 0.2f, 0.f}, size{0.5f, 0.1f, 0.5f};
    double turn = 0.0, temperature = 900.0, smoke = 0.0, fuel = 1.0, rate = 12.0, speed = 0.0, heading = 0.0,
           climb = 90.0, contrast = 0.6, scaleNoise = 0.12, change = 3.0, outward = 0.0, begins = 0.0, lasts = 0.0;
    bool within = false;
    std::int64_t seed = 1;
};
} // namespace hygros::elements
