#include "render/sun_map.h"

#include "base/random.h"
#include "base/vec.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
constexpr float nothingMet = -1e30f;
constexpr float steepest = 0.03f; ///< cosine to the light

/// The angle of (x, y), −π…π, to 1e-4: a polynomial on the eighth turn (Abramowitz & Stegun 4.4.49, five terms).
F8 angle8(F8 x, F8 y)
{
    const F8 ax = abs8(x), ay = abs8(y);
    const F8 a = min8(ax, ay) / max8(max8(ax, ay), f8(1e-20f)), z = a * a;
    F8 r = ((((z * 0.0208351f - 0.0851330f) * z + 0.1801410f) * z - 0.3302995f) * z + 0.9998660f) * a;
    r = select(ay > ax, 1.57079633f - r, r);
    r = select(x < 0.f, 3.14159265f - r, r);
    return select(y < 0.f, -r, r);
}
} // namespace

SunMap::SunMap(const Box3& bounds, const Vec3& eye, float cell) : bounds_(bounds), eye_(eye)
{
    constexpr int fewest = 512, most = 6144;
    constexpr float turn = 6.28318531f;
    columns_ = std::clamp(static_cast<int>(turn / std::max(1e-6f, cell)), fewest, most) / lanes * lanes;
    cell_ = turn / static_cast<float>(columns_);
    for (int i = 0; i < 8; ++i) {
        const Vec3 corner(i & 1 ? bounds.max.x : bounds.min.x, i & 2 ? bounds.max.y : bounds.min.y,
                          i & 4 ? bounds.max.z : bounds.min.z);
        farthest_ = std::max(farthest_, (corner - eye).length());
    }
    farthest_ = std::max(farthest_ * 1.001f, nearest * 2.f);
    rows_ = static_cast<int>(std::ceil(std::log(farthest_ / nearest) / (longer * cell_))) + 2;
    blocks_ = static_cast<std::size_t>(rows_) * static_cast<std::size_t>(columns_ / lanes);
    cells_.reset(new Block[blocks_]); // not touched before it is looked up
    state_.reset(new std::atomic<std::uint32_t>[blocks_]());
}

void SunMap::begin(std::shared_ptr<const geometry::RayScene> casters, const Vec3& toSun, const Vec2& shift,
                   std::uint32_t seed)
{
    casters_ = std::move(casters);
    axis_ = toSun;
    frameAround(axis_, right_, up_);
    shift_ = shift;
    seed_ = seed;
    ++turn_;
    float low = 1e30f, high = -1e30f;
    for (int i = 0; i < 8; ++i) {
        const Vec3 corner(i & 1 ? bounds_.max.x : bounds_.min.x, i & 2 ? bounds_.max.y : bounds_.min.y,
                          i & 4 ? bounds_.max.z : bounds_.min.z);
        const float w = (corner - eye_).dot(axis_);
        low = std::min(low, w);
        high = std::max(high, w);
    }
    ways_.resize(static_cast<std::size_t>(columns_));
    for (int c = 0; c < columns_; ++c) {
        const float phi = (static_cast<float>(c) + 0.5f - shift_.x) * cell_;
        ways_[static_cast<std::size_t>(c)] = {std::cos(phi), std::sin(phi)};
    }
    const float margin = 1e-3f * (high - low) + 0.01f;
    top_ = high + margin;
    depth_ = high - low + 2.f * margin;
}

void SunMap::look(std::size_t block, Block& out) const
{
    const auto across = static_cast<std::size_t>(columns_ / lanes);
    const float row = static_cast<float>(block / across);
    const Vec2* ways = &ways_[block % across * lanes];
    const float u = nearest * std::exp((row + 0.5f - shift_.y) * longer * cell_);
    geometry::ShadowRays8 rays;
    const Vec3 begin = eye_ + axis_ * top_;
    for (int k = 0; k < lanes; ++k) {
        const Vec3 o = begin + right_ * (u * ways[k].x) + up_ * (u * ways[k].y);
        rays.ox[k] = o.x, rays.oy[k] = o.y, rays.oz[k] = o.z;
        rays.dx[k] = -axis_.x, rays.dy[k] = -axis_.y, rays.dz[k] = -axis_.z;
        rays.reach[k] = depth_;
    }
    if (casters_->moves())
        rays.time = unitFloat(hash32(seed_ ^ hash32(static_cast<std::uint32_t>(block))));
    float far[lanes];
    Vec3 normal[lanes];
    const unsigned met = casters_->nearest8(rays, 0xffu, far, normal);
    for (int k = 0; k < lanes; ++k) {
        out.first[k] = nothingMet, out.right[k] = out.up[k] = 0.f;
        if (!((met >> k) & 1u))
            continue;
        out.first[k] = top_ - far[k];
        // What stands along the light is no plane that goes on: its edge is what casts the shadow.
        const float along = normal[k].dot(axis_);
        if (along * along < steepest * steepest * normal[k].length2())
            continue;
        out.right[k] = -normal[k].dot(right_) / along;
        out.up[k] = -normal[k].dot(up_) / along;
        // Of the plane at the axis, so that a place needs no middle of its cell.
        out.first[k] -= u * (ways[k].x * out.right[k] + ways[k].y * out.up[k]);
    }
}

unsigned SunMap::hidden8(F8 x, F8 y, F8 z, unsigned active) const
{
    x = x - eye_.x, y = y - eye_.y, z = z - eye_.z;
    const F8 a = x * right_.x + y * right_.y + z * right_.z, b = x * up_.x + y * up_.y + z * up_.z,
             w = x * axis_.x + y * axis_.y + z * axis_.z;
    const F8 u = sqrt8(a * a + b * b);
    F8 phi = angle8(a, b) * (1.f / cell_) + shift_.x;
    phi = select(phi < 0.f, phi + static_cast<float>(columns_), phi);
    const F8 row = max8(log8(max8(u, f8(nearest)) * (1.f / nearest)) * (1.f / (longer * cell_)) + shift_.y, f8(0.f));
    const I8 c = toInt(phi), r = toInt(row);
    unsigned hidden = 0;
    const auto across = static_cast<std::size_t>(columns_ / lanes);
    for (int k = 0; k < lanes; ++k) {
        if (!((active >> k) & 1u) || !(u[k] < farthest_))
            continue;
        const int column = c[k] >= columns_ ? c[k] - columns_ : c[k];
        const std::size_t block = static_cast<std::size_t>(std::min(r[k], rows_ - 1)) * across +
                                  static_cast<std::size_t>(column / lanes);
        const Block* cells = &cells_[block];
        Block own;
        std::uint32_t was = state_[block].load(std::memory_order_acquire);
        if (was != 2 * turn_ + 1) {
            if (was != 2 * turn_ && state_[block].compare_exchange_strong(was, 2 * turn_, std::memory_order_acquire)) {
                look(block, cells_[block]);
                state_[block].store(2 * turn_ + 1, std::memory_order_release);
            } else if (was != 2 * turn_ + 1) { // another thread is at it
                look(block, own);
                cells = &own;
            }
        }
        const int at = column % lanes;
        if (w[k] < cells->first[at] + a[k] * cells->right[at] + b[k] * cells->up[at])
            hidden |= 1u << k;
    }
    return hidden;
}
} // namespace hygros::render
