#pragma once
/// Sunlight that waves gather under them and throw on what stands over them.
///
/// Light goes from even places of the waves, bent (Snell) or mirrored, to level planes under and over them, and what
/// falls on a plane is counted in cells: nothing is added or lost, so the mean over a plane is 1 (M. Shah, J. Konttinen
/// & S. Pattanaik, Caustics mapping, IEEE Trans. Vis. Comput. Graph. 13, 2007). Planes and cells are worked out when
/// they are first asked for.
#include "media/swell_field.h"

#include <array>
#include <functional>
#include <memory>
#include <mutex>

namespace hygros::media {

class Caustics {
public:
    /// The waves at a place of the still plane, without those shorter than a width.
    using Waves = std::function<SwellSample(const Vec2&, float width)>;
    /// Around `centre`; `toSun` is unit and up. May be asked by several threads.
    Caustics(Waves waves, float level, const Vec2& centre, const Vec3& toSun);
    /// Light that comes to a level plane through a place, to what would come from flat water. 1 far away.
    float at(const Vec3& place) const;
    std::size_t bytes() const;

    static constexpr float deepest = 32.f; ///< farther from the level it is even [m]

private:
    static constexpr int cells = 256, scales = 3, planes = 15, margin = 48;
    static constexpr std::array<float, scales> cellOf{0.025f, 0.1f, 0.4f}; ///< [m]
    static constexpr float nearest = 0.25f;                                ///< plane [m]; each 1.41 times as far
    struct Ray {
        Vec2 from;      ///< where it is thrown off, from its scale's corner [m]
        float height;   ///< there, over the level [m]
        Vec2 in, out;   ///< sideways by metre down, and by metre up
        float down, up; ///< of what flat water sends
    };
    struct Scale {
        std::once_flag once;
        std::vector<Ray> rays;
        std::array<std::once_flag, 2 * planes> onceOf;
        std::array<std::vector<std::uint16_t>, 2 * planes> light; ///< by plane: under it, over it
    };
    void throwFrom(Scale& scale, float cell) const;
    void gather(Scale& scale, float cell, int plane, bool over) const;
    float lookup(Scale& scale, float cell, int plane, bool over, const Vec2& at) const;
    float distanceOf(int plane) const;
    Waves waves_;
    float level_;
    Vec2 centre_;
    Vec3 toSun_;
    Vec2 in_, out_; ///< of flat water, as Ray's
    std::unique_ptr<std::array<Scale, scales>> scales_;
};
} // namespace hygros::media
