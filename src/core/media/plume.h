#pragma once
/// A body of simulated gas as a shot describes it: how it behaves, what feeds it, what stands in its way. What is seen
/// of it is a Volume, of a baked frame.
#include "geometry/ray_scene.h"
#include "media/noise.h"

#include <array>
#include <memory>
#include <string>
#include <vector>

namespace hygros::media {

struct GasSettings {
    static constexpr float viscosityOfAir = 1.5e-5f; ///< at 288 K [m²/s]
    float around = 288.f;                            ///< temperature of the air [K]
    float buoyancy = 1.f;                            ///< 1 is physical: g·(1 − around/T) up
    float weight = 1.f;                              ///< of its soot; 1 is physical: g·soot/1.2 kg/m³ down
    float thinning = 0.f;                            ///< half-life of the soot [s]; 0: it stays
    float cooling = 0.f;     ///< loss at `hottest` [K/s]; by the fourth power of the temperature below
    float hottest = 1800.f;  ///< [K] over the air
    float ignition = 300.f;  ///< fuel burns above [K] over the air
    float burning = 4.f;     ///< share of the fuel a second
    float heat = 1500.f;     ///< that a full share of fuel gives [K]
    float sooting = 1e-3f;   ///< soot that a full share of fuel leaves [kg/m³]
    float expansion = 1.f;   ///< 1 is physical: by the ratio of temperatures
    float viscosity = 0.f;   ///< kinematic; heat and fuel spread by it too [m²/s]
    float swirling = 0.f;    ///< vorticity confinement; 1 doubles a swirl in a quarter of a second if nothing takes it
    float tolerance = 1e-4f; ///< of the pressure's residual
    std::array<bool, 6> closed{false, false, true, false, false, false}; ///< walls of the box: low x, high x, low y, …
    bool operator==(const GasSettings&) const = default;
};

/// A place of a surface that feeds, in the feed's own metres.
struct FeedPoint {
    Vec3 at, normal; ///< the normal has length 1
};

/// How much of a form feeds, seen from above: over its width from left to right and its depth from back to front.
struct FeedMask {
    int width = 0, height = 0;
    std::vector<float> share; ///< 0…1, back row first
    /// At a place of the form, both 0…1 over it; even between the middles.
    float at(float u, float v) const;
};

/// What feeds a plume.
struct Feed {
    std::string id;
    enum class Form { Ball, Box, Disc, Line, Points } form = Form::Ball;
    Mat4 toWorld;     ///< from its own metres: place and turn
    Vec3 half{0.25f}; ///< of a ball, a box, a disc (lying, its height over all); a line lies along x, as thick as high
    std::shared_ptr<const std::vector<FeedPoint>> points; ///< of Form::Points
    float heat = 0.f, soot = 0.f, fuel = 0.f;             ///< what flows in: [K] over the air, [kg/m³], share
    float rate = 10.f;                                    ///< how fast a cell becomes like it [1/s]
    Vec3 velocity{0.f};                                   ///< world [m/s]
    float outward = 0.f; ///< and away from its middle, of a disc and a line from their axes, of points along the normal
                         ///< [m/s]
    bool pushes = false; ///< these count
    Noise noise;         ///< contrast 0: even
    std::shared_ptr<const FeedMask> mask = {}; ///< of a box, a disc or a ball; null: all of it
    bool operator==(const Feed&) const = default;
};

/// How something moves the air, by place [m/s, world].
class Carrier {
public:
    virtual ~Carrier() = default;
    virtual Vec3 at(const Vec3& place) const = 0;
};

struct Plume {
    std::string id;
    Vec3 floor{0.f}; ///< middle of the floor of the box that it may fill [m]
    Vec3 size{4.f};  ///< of that box [m]
    float voxel = 0.1f;
    float pace = 1.f; ///< seconds of the gas a second
    GasSettings gas;
    std::vector<Feed> feeds;
    std::vector<geometry::PlacedSet> obstacles;
    /// The same in larger voxels, whose large motion this one keeps to; none: it goes its own way.
    std::vector<Plume> preview;
    float keeps = 1.f; ///< how much so, 0…1
    bool operator==(const Plume&) const = default;
};
} // namespace hygros::media
