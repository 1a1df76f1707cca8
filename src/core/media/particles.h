#pragma once
/// Things that are thrown or let go and then fly by their own weight and drag, bounce, slide and lie; as a shot
/// describes them. sim/particles.h steps them; what is drawn of a baked frame is a Falling.
#include "media/plume.h"

namespace hygros::media {

struct Particles {
    std::string id;
    Feed from;        ///< where they begin: its form, place and mask
    float rate = 0.f; ///< that begin a second, ≥ 0

    // Each one's own: its diameter is log-normal about `size`.
    float size = 0.02f;    ///< median diameter [m], > 0
    float spread = 0.f;    ///< standard deviation of ln(diameter)
    bool flat = false;     ///< tumbling leaves, by their weight a square metre; else balls of a density
    float weight = 1000.f; ///< of balls [kg/m³]; of what is flat [kg/m²]
    float life = 0.f;      ///< mean time until one is gone [s]; 0: it stays

    // How it begins.
    Vec3 velocity{0.f};  ///< [m/s, world]
    float outward = 0.f; ///< along the normals of where it begins, or away from its middle [m/s]
    float scatter = 0.f; ///< standard deviation of each component beside that [m/s]

    // Where it meets something.
    bool lands = true;     ///< else it goes on through
    float bounce = 0.3f;   ///< share of the speed into a surface with which it leaves it, 0…1
    float friction = 0.5f; ///< Coulomb's; slopes steeper than its arc tangent let it slide
    float lies = 0.f;      ///< seconds after which what lies is gone; 0: it stays
    float ground = -1e9f;  ///< height of the level ground beyond the set [m]

    std::vector<geometry::PlacedSet> obstacles; ///< all that the shot's rays meet

    std::shared_ptr<const Carrier> before, after; ///< a plume that carries them at two frames; null: none
    double frameBefore = 0.0;                     ///< the frame of `before`; `after` is one on
    double frame = 0.0;                           ///< now
    float pace = 1.f;                             ///< seconds of the plume a second
    std::uint32_t seed = 1;
    bool operator==(const Particles&) const = default;
};

/// How fast a difference of speed from the air around dies away [1/s], in air of 1.2 kg/m³. Balls: L. Schiller & A.
/// Naumann 1933, C = 24/Re·(1 + 0.15·Re^0.687), not under 0.44; what is flat and tumbles: C = 1.2 of its area.
float dragRate(bool flat, float weight, float diameter, float speed);
/// How fast one falls in still air: where its drag is its weight [m/s].
float terminalSpeed(bool flat, float weight, float diameter);
/// Where the thing that begins at three shares of 0…1 does so, in the world; `normal` becomes which way is outward.
/// Nothing where a mask has none (then others are to be tried) or there is no surface.
bool beginsAt(const Feed& from, float u, float v, float w, Vec3& place, Vec3& normal);
} // namespace hygros::media
