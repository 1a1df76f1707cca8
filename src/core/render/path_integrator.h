#pragma once
/// The reference integrator: path-traced air and surfaces, unbiased.
///
/// What lies behind the air is looked at by every path (an estimate of what comes through times its direct light), what
/// happens in the air and all further light by flights (flights.h) from event to event. Light comes in by next-event
/// estimation at every vertex: the sun; lamps, by chance in proportion to what they give; what volumes give off and
/// panoramas by brightness, balanced with the directions the vertex itself draws (multiple importance sampling, Veach &
/// Guibas 1995). Lamps are also looked for on the first flights themselves, at equi-angular distances (Kulla & Fajardo
/// 2012) balanced with free paths, so that a beam in thin air is found. Surfaces reflect in a matte and a GGX lobe;
/// glowing surfaces are seen and light nothing (lamps do, as live); what is smoother than Brdf::mirrorRoughness
/// mirrors. Russian roulette after the 8th event. The quick beams' own rule (Lamp::quick), deck layers of higher orders
/// and the dials Medium::ambient are the live picture's alone.
#include "geometry/camera.h"
#include "render/accumulation.h"
#include "render/flights.h"
#include "render/glow_sampler.h"
#include "render/surface.h"

#include <atomic>

namespace hygros::render {

class PathIntegrator {
public:
    PathIntegrator(std::shared_ptr<const shot::Shot> shot, int width, int height, LayerWish wish = {});
    /// Adds one path a pixel. False, with some pixels a path ahead, if `stop` was set meanwhile.
    bool pass(const std::atomic<bool>* stop = nullptr);
    /// Adds one path to the pixels of tiles whose error is above `noise`, and now and then to all.
    bool passWhere(float noise, const std::atomic<bool>* stop = nullptr);
    const Accumulation& gathered() const { return sums_; }
    Accumulation& gathered() { return sums_; }
    Layers layers() const { return sums_.layers(); }
    /// Mean of all paths so far: RGB.
    std::vector<float> picture() const;

    /// One path's light arriving at `origin` from `direction`.
    struct PathLight {
        Vec3 set{0.f}, air{0.f}; ///< of paths whose first event was on a surface, in the air
        Vec3 seen{0.f};          ///< part of `set`: the sun's disk, lamps and glowing surfaces seen themselves
        Vec3 through{0.f};       ///< by channel: what comes through the air to the surface
        float depth = 0.f;       ///< of the surface [m]
        float airDepth = -1.f;   ///< of the first event, if it was in the air [m]
        Vec3 albedo{0.f}, normal{0.f};
        bool matte = false;
        bool lampSeen = false; ///< the surface is a lamp's own
        int events = 0;        ///< in the air and on surfaces
    };
    PathLight light(const Vec3& origin, const Vec3& direction, float pixelAngle, Random& random) const;
    /// A ray of sight by itself.
    struct Probe {
        Vec3 origin, direction;
        float pixelAngle = 0.f;
        float time = 0.f;                      ///< of the open shutter, 0…1
        bool onPlate = false;                  ///< it ends on a plate, whose own light is left out,
        float limit = shot::Shot::farDistance; ///< here [m]
    };
    /// `setBy`, `airBy` (or null): a colour for each of gathered().sources, to which the path's light is added.
    PathLight light(const Probe& probe, Random& random, float* setBy, float* airBy) const;

    /// Replaces sun, sky and ground by the same radiance from everywhere (the white furnace).
    void setUniformSurroundings(float radiance) { uniform_ = radiance; }
    /// Without equi-angular distances, for comparison.
    void setLooksForBeams(bool looks) { looksForBeams_ = looks; }

private:
    struct Walk;
    struct BeamSearch;
    void path(Walk& walk, Vec3 origin, Vec3 direction, float limit, const Vec3* beyond) const;
    void searchBeams(Walk& walk, const BeamSearch& beams, const Vec3& o, const Vec3& d, float limit, bool clean) const;
    BeamSearch beamsAlong(const Vec3& o, const Vec3& d, float limit) const;
    void lightAir(Walk& walk, const Vec3& p, const Vec3& d, std::size_t scatterer, const BeamSearch* beams, float t,
                  const Vec3& from, bool clean) const;
    void lightSurface(Walk& walk, const geometry::Hit& hit, const Brdf& brdf, const Vec3& p, const Vec3& d) const;
    /// From a place in water along a way on to where it comes out, which `origin` and `direction` become; false: it
    /// ends there.
    bool underWater(Walk& walk, const geometry::WaterSurface& water, Vec3& origin, Vec3& direction) const;
    void lightInWater(Walk& walk, const geometry::WaterSurface& water, const Vec3& p, const geometry::Hit* hit,
                      const Vec3& diffuse) const;
    Vec3 environment(const Vec3& direction, bool withDisk) const;
    bool meetsGround(const Vec3& o, const Vec3& d, geometry::Hit& hit) const;
    bool passOver(const std::vector<bool>* tiles, const std::atomic<bool>* stop);
    void samplePixel(int x, int y);

    std::shared_ptr<const shot::Shot> shot_;
    geometry::View view_;
    SurfaceSampler sampler_;
    Flights flights_;
    GlowSampler glow_;
    Accumulation sums_;
    std::vector<std::size_t> lampSource_; ///< of each lamp, in sums_.sources
    std::size_t sunSource_ = 0, skySource_ = 0, matterSource_ = 0, ownSource_ = 0;
    std::vector<std::uint16_t> everyLamp_;
    std::vector<float> plateColour_, plateDepth_; ///< as Frame's: by pixel; empty without a plate
    float uniform_ = -1.f;
    float groundLevel_ = 0.f;
    geometry::Material ground_; ///< of the plane that the air lies on beyond the set
    bool looksForBeams_ = true;
    int rounds_ = 0;
    Vec3 sunTangent_, sunBitangent_;
};
} // namespace hygros::render
