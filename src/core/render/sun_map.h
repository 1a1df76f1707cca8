#pragma once
/// Shadows of the set on the air for one pass: what of the sunlight gets down, as one camera sees it.
///
/// A place is told by its position about the axis that runs from the eye toward the sun: the angle φ around it, its
/// distance u from it, and how far along it, w. All places of one (φ, u) lie on one ray of sunlight, and those are lit
/// that lie before what the ray meets first; so a cell in (φ, ln u) needs one ray, however many looks from the air fall
/// into it, where each of these took one. Within a cell what is met goes on as its plane, so that level ground does not
/// shade the air right above it. Equal steps of ln u and of φ are as wide in the picture near as far; a line
/// of sight has one φ (as in epipolar sampling: Engelhardt & Dachsbacher, I3D 2010), so that the edges of shafts, which
/// run along it, are as sharp as cells are narrow in φ. Cells are looked up when they are first asked for.
///
/// One direction of the sun's disc, one shift of the cells and one moment of the shutter (a block of eight cells each)
/// hold for a pass; over the passes they fill disc, cells and time.
#include "base/simd.h"
#include "geometry/ray_scene.h"

#include <atomic>
#include <memory>
#include <vector>

namespace hygros::render {

class SunMap {
public:
    /// What of a frame stays from pass to pass. `cell`: how wide cells are [radians], about a pixel.
    SunMap(const Box3& bounds, const Vec3& eye, float cell);
    SunMap(const SunMap&) = delete;
    SunMap& operator=(const SunMap&) = delete;

    /// For the next pass. `toSun`: unit; `shift`: of cells by a part of their size, each 0…1; `seed`: of the moments.
    void begin(std::shared_ptr<const geometry::RayScene> casters, const Vec3& toSun, const Vec2& shift,
               std::uint32_t seed);
    /// Bit k: whether something that casts shadows stands between the sun and place k. From several threads at once.
    unsigned hidden8(F8 x, F8 y, F8 z, unsigned active) const;
    std::size_t bytes() const { return blocks_ * (sizeof(Block) + sizeof(std::atomic<std::uint32_t>)); }
    /// Cells along φ and along ln u.
    int columns() const { return columns_; }
    int rows() const { return rows_; }

private:
    /// Eight cells along φ: where along the axis something is met first, and how that goes on to the sides.
    struct Block {
        float first[lanes], right[lanes], up[lanes];
    };
    void look(std::size_t block, Block& out) const;

    static constexpr float nearest = 0.1f; ///< places nearer to the axis are as those at this distance [m]
    static constexpr float longer = 12.f;  ///< cells are so many times as long in ln u as wide in φ
    const Box3 bounds_;
    const Vec3 eye_;
    float cell_ = 0.f, farthest_ = 0.f;
    int columns_ = 0, rows_ = 0;
    std::size_t blocks_ = 0;
    std::shared_ptr<const geometry::RayScene> casters_;
    Vec3 axis_{0, 1, 0}, right_{1, 0, 0}, up_{0, 0, 1};
    Vec2 shift_{0.f, 0.f};
    std::vector<Vec2> ways_;        ///< cosine and sine of the middle of each column
    float top_ = 0.f, depth_ = 0.f; ///< where rays begin along the axis, and how far they go [m]
    std::uint32_t seed_ = 0, turn_ = 0;
    std::unique_ptr<Block[]> cells_;
    /// Which turn a block is of: 2·turn while it is looked up by one thread, one more once it is there.
    std::unique_ptr<std::atomic<std::uint32_t>[]> state_;
};
} // namespace hygros::render
