#pragma once
/// Flights of light through everything in a shot that scatters or absorbs, unbiased: free paths by delta tracking
/// against local bounds (Woodcock 1965), by channel where extinction is coloured (media/tracking.h), and transmittance
/// by ratio tracking (Novák, Selle & Jarosz 2014). Media are bound by stretches of the ray, bodies
/// (render/bodies.h) as each kind likes; the nearest collision of all is the one that happens.
#include "render/bodies.h"

namespace hygros::render {

class Flights {
public:
    /// Keeps a reference to the shot.
    explicit Flights(const shot::Shot& shot);

    /// Scatterers are numbered: media, then bodies.
    std::size_t scatterers() const { return scatterers_; }
    /// Extinction by channel at a point [1/m]. Clean air counts only where `clean` says so: what comes from sun and sky
    /// has come through it.
    Vec3 extinction(std::size_t scatterer, const Vec3& point, bool clean) const;
    media::Optics opticsAt(std::size_t scatterer, const Vec3& point, bool clean) const;
    const media::Phase& phase(std::size_t scatterer) const;
    /// Strength of a lamp, of the sun or of the sky in a scatterer; 1 is physical.
    float reach(const light::Lamp& lamp, std::size_t scatterer) const;
    float reach(const shot::Shot::SkyReach& reach, std::size_t scatterer) const;

    /// The first collision before `limit`; false if there is none. `weight` is what the flight carries: changed where
    /// extinction is coloured.
    struct Collision {
        float t = 0.f;
        std::size_t scatterer = 0;
    };
    bool collide(const Vec3& origin, const Vec3& direction, float limit, bool clean, Vec3& weight, Random& random,
                 Collision& out) const;
    /// What comes through by channel. `shades`: as a shadow on something else, where a volume's shadow dial counts.
    Vec3 through(const Vec3& origin, const Vec3& direction, float length, bool clean, bool shades,
                 Random& random) const;
    /// Light that volumes give off on a way that nothing is met on: one random place in every brick crossed. `asLight`:
    /// what lights other things.
    Vec3 glowAlong(const Vec3& origin, const Vec3& direction, float length, bool asLight, Random& random) const
    {
        return glow(origin, direction, length, asLight, random, nullptr);
    }
    /// The same on any way up to `limit`, dimmed by what is between.
    Vec3 glowThrough(const Vec3& origin, const Vec3& direction, float limit, bool clean, bool asLight,
                     Random& random) const;
    /// Whether extinction differs by channel somewhere: a flight's weight then changes on its way, and glow is to be
    /// taken by glowThrough().
    bool isColoured() const { return coloured_; }
    /// Density over distance of a collision, up to a factor by noise: for weights between ways of sampling, which only
    /// need to agree.
    float roughDensity(const Vec3& origin, const Vec3& direction, float t, bool clean) const;

private:
    /// `plain`: with media that are plain.
    template <class Each>
    void overPieces(const Vec3& o, const Vec3& d, float length, bool clean, bool plain, const Each& each) const;
    Vec3 glow(const Vec3& o, const Vec3& d, float length, bool asLight, Random& random,
              const bool* dimmedWithClean) const;
    /// The kind of body that a scatterer beyond the media is of; `k` becomes its number there.
    const Body& bodyOf(std::size_t& k) const;
    const shot::Shot& shot_;
    std::size_t media_, scatterers_;
    BodyList bodies_;
    std::vector<std::uint8_t> plain_; ///< of a medium: what comes through it has a closed form that is exact
    bool coloured_ = false;
    bool clean_ = false; ///< there is clean air
};
} // namespace hygros::render
