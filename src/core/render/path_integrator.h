#pragma once
/// The yardstick: path-traced air and surfaces, unbiased in the media.
///
/// Free flights by delta tracking against the media's majorant along the ray (Woodcock 1965), light through air by
/// ratio tracking (Novák, Selle & Jarosz 2014), all media at once: a collision picks a medium in proportion to its
/// extinction. Sun, sky and lamps by next-event estimation at every vertex; Russian roulette after the 8th. Surfaces
/// scatter once more in a diffuse lobe. Slow: meant for stills and for measuring the live integrator.
#include "base/random.h"
#include "geometry/camera.h"
#include "render/layers.h"
#include "render/surface.h"

namespace hygros::render {

class PathIntegrator {
public:
    PathIntegrator(std::shared_ptr<const shot::Shot> shot, int width, int height);
    /// Adds one path a pixel.
    void pass(int pass);
    Layers layers() const;

    /// Light arriving at `origin` from `direction`: one path. `fromAir` is the part whose first event was in the air.
    Vec3 radiance(Vec3 origin, Vec3 direction, float pixelAngle, const PixelRandom& surfaces, Random& random, Vec3& fromAir,
                  float& transmittance, float& depth) const;

    /// Replaces sun and sky by the same radiance from everywhere (the white furnace).
    void setUniformSurroundings(float radiance) { uniform_ = radiance; }

private:
    /// Unbiased transmittance over a segment.
    float through(const Vec3& origin, const Vec3& direction, float length, Random& random) const;
    /// Distance to the first collision before `limit`, and the medium; false if none.
    bool collide(const Vec3& origin, const Vec3& direction, float limit, Random& random, float& t, std::size_t& medium) const;
    Vec3 lightAt(const Vec3& point, const Vec3& incoming, std::size_t medium, Random& random) const;
    Vec3 environment(const Vec3& direction, bool withDisk) const;
    /// Light that volumes give off on a flight that goes this far.
    Vec3 glowAlong(const Vec3& origin, const Vec3& direction, float length, Random& random) const;
    const media::Phase& phaseOf(std::size_t medium) const;
    Vec3 albedoOf(std::size_t medium, const Vec3& point) const;
    float lampReach(const light::Lamp& lamp, std::size_t medium) const;

    std::shared_ptr<const shot::Shot> shot_;
    int width_, height_;
    SurfaceSampler sampler_;
    std::vector<float> sum_, air_, through_, depth_;
    int passes_ = 0;
    float uniform_ = -1.f;
    Vec3 sunTangent_, sunBitangent_;
};
} // namespace hygros::render
