#pragma once
/// Rain and snow as they fall: how large drops and flakes are, how fast, what they take from light; and which of them
/// are drawn one by one.
///
/// Sizes: J. S. Marshall & W. McK. Palmer, The distribution of raindrops with size, J. Meteorol. 5, 1948:
/// N(D) = 8000·exp(−Λ·D) a cubic metre and millimetre, Λ = 4.1·R^(−0.21) a millimetre, R in mm/h. Speeds: R. Gunn & G.
/// D. Kinzer, The terminal velocity of fall for water droplets in stagnant air, J. Meteorol. 6, 1949. Drops are far
/// larger than waves of light: each takes twice its section (H. C. van de Hulst, Light scattering by small particles,
/// 1957), half of it by bending light at its rim.
#include "base/vec.h"
#include "geometry/strewn.h"
#include "media/phase.h"

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

namespace hygros::media {

namespace rain {
inline constexpr float perVolume = 8000.f;             ///< N₀ [1/m³/mm]
inline constexpr float smallest = 0.1f, largest = 6.f; ///< of the drops that count [mm]
float slope(float millimetresAnHour);                  ///< Λ [1/mm]
/// The law was fitted to sizes: drops of it that fall at their speeds bring 0.8 to 1.25 times the rate. All numbers of
/// drops are multiplied with this, so that what lands is what was asked for.
float brings(float rate);
float speed(float millimetres);                            ///< at which a drop of that diameter falls [m/s]
float numberBetween(float rate, float from, float to);     ///< drops a cubic metre, diameters in mm
float extinctionBetween(float rate, float from, float to); ///< of these [1/m]
/// Light bent at the rim and straight through on one side, mirrored and turned about inside on the other.
inline constexpr Phase phase{0.97f, 0.5f, 0.62f, 0.f};
} // namespace rain

/// Snow: flakes by the size they melt to, N(D) = N₀·exp(−Λ·D), N₀ = 3800·R^(−0.87) [1/m³/mm], Λ = 2.55·R^(−0.48)
/// [1/mm], R in mm/h of water (K. L. S. Gunn & J. S. Marshall, The distribution with size of aggregate snowflakes, J.
/// Meteorol. 15, 1958).
namespace snow {
inline constexpr float smallest = 0.3f, largest = 6.f; ///< melted diameters that count [mm]
float perVolume(float rate);                           ///< N₀
float slope(float rate);                               ///< Λ
/// How large a flake is that melts to a drop of that diameter, for flakes of a density (of water 1) [mm].
float flake(float melted, float density);
float numberBetween(float rate, float from, float to); ///< flakes a cubic metre
/// Their extinction: twice the section of flakes of that density [1/m].
float extinctionBetween(float rate, float from, float to, float density);
} // namespace snow

/// Things that fall at an even speed through air that carries them, with a place for each at any time. Those of a class
/// stand in cells that fall and drift as a whole, so that only what is in sight is ever worked out.
struct Falling {
    std::string id;
    enum class Form {
        Drops,  ///< clear: they hold the world upside down
        Flakes, ///< white: they give light to all sides alike, and take what their section covers
        Leaves, ///< opaque and flat, with an outline; they tumble
        Balls,  ///< opaque and matte
        Spray,  ///< white water: light goes in and out of it to all sides, most of it onward
    } form = Form::Drops;
    geometry::LeafShape shape = geometry::LeafShape::Broad; ///< of leaves
    std::array<Vec3, geometry::Strewn::tints> colours = {Vec3(0.f), Vec3(0.f), Vec3(0.f),
                                                         Vec3(0.f)}; ///< of leaves, balls
    float tumble = 0.f;                                              ///< how often a leaf turns over [1/s]
    float flutter = 0.f;                                             ///< how far one swings to each side [m]
    float flutterRate = 0.f;                                         ///< how often [1/s]
    struct Class {
        float diameter = 0.f; ///< [m]
        float number = 0.f;   ///< a cubic metre
        float speed = 0.f;    ///< down [m/s]
        float reach = 0.f;    ///< from the eye, as far as which they are drawn [m]
        bool operator==(const Class&) const = default;
    };
    std::vector<Class> classes;
    Vec3 wind{0.f}; ///< that carries them, level [m/s]
    /// When and where they are: seconds that they have fallen, and how far the wind has carried them; once more as it
    /// was a loop before, for a share of them.
    struct Moment {
        double seconds = 0.0;
        Vec3 carried{0.f};
        float share = 1.f;
        bool operator==(const Moment&) const = default;
    };
    std::vector<Moment> moments;
    float ground = -1e4f, top = 1e4f; ///< heights between which they fall [m]
    float splashes = 0.f;             ///< how much of them bursts up again where they land; 1: as on stone
    float bounce = 0.f;               ///< share of their speed with which they leap up again where they land
    /// Those that were simulated, beside the classes; null: none.
    std::shared_ptr<const std::vector<struct Drop>> all;
    float blur = 0.f; ///< seconds of their way that are seen at once
    std::uint32_t seed = 1;
    /// Of those in `all`, these have come to the ground of late.
    std::shared_ptr<const std::vector<struct Landing>> landed;
    bool operator==(const Falling&) const = default;
};

/// One of them.
struct Drop {
    Vec3 at, velocity;
    float diameter = 0.f;  ///< [m]
    float share = 1.f;     ///< of it that is drawn: less toward the end of its reach
    std::uint32_t own = 0; ///< a number that stays its own
    float turned = 0.f;    ///< of leaves: how far it has turned over [rad]
    bool lies = false;     ///< flat on the ground
    float age = -1.f;      ///< of simulated ones: since it began [s]
};
/// All of a class and a moment in a box of the world; the same whatever box they are asked for in.
void dropsIn(const Falling& falling, std::size_t ofClass, std::size_t moment, const Vec3& low, const Vec3& high,
             std::vector<Drop>& out);
/// One that has landed, were there level ground at a height.
struct Landing {
    Vec3 at{0.f};
    float age = 0.f;      ///< since then [s]
    float diameter = 0.f; ///< [m]
    float speed = 0.f;    ///< down [m/s]
};
/// All of a class and a moment that landed between two places of the ground not longer ago than `lasts` [s].
void landingsIn(const Falling& falling, std::size_t ofClass, std::size_t moment, const Vec3& low, const Vec3& high,
                float height, float lasts, std::vector<Landing>& out);
} // namespace hygros::media
