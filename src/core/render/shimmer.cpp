#include "render/shimmer.h"

#include "base/parallel.h"
#include "geometry/camera.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
/// Deflection of a ray up to a distance, to the right and up, times the share of its way that lies beyond [rad].
Vec2 deflection(const media::HotAir& hot, const Vec3& o, const Vec3& d, const Vec3& right, const Vec3& up, float length)
{
    constexpr int mostGroups = 64;
    const auto direction = [&](const Vec3& v) {
        Vec3 out;
        hot.toIndex.multDirMatrix(v, out);
        return out;
    };
    const Vec3 from = o * hot.toIndex, along = direction(d);
    const float voxel = 1.f / std::max(1e-6f, along.length());
    float first = 0.f, last = -1.f;
    hot.temperature->overBricks(from, along, 0.f, length, [&](float a, float b, float bound) {
        if (bound <= hot.around)
            return true;
        first = last < 0.f ? a : first;
        last = b;
        return true;
    });
    if (!(last > first))
        return Vec2(0.f);
    const int groups = std::clamp(static_cast<int>(std::ceil((last - first) / (voxel * lanes))), 1, mostGroups);
    const float step = (last - first) / static_cast<float>(groups * lanes);
    const F8 ramp{0.5f, 1.5f, 2.5f, 3.5f, 4.5f, 5.5f, 6.5f, 7.5f};
    const float most = media::HotAir::refractivity * media::HotAir::at;
    Vec2 out(0.f);
    for (int g = 0; g < groups; ++g) {
        const F8 t = first + (ramp + static_cast<float>(g * lanes)) * step;
        const auto index = [&](const Vec3& beside) {
            const Vec3 b = direction(beside * voxel);
            const F8 kelvin = hot.temperature->sample8(from.x + b.x + along.x * t, from.y + b.y + along.y * t,
                                                       from.z + b.z + along.z * t);
            return most / max8(kelvin, f8(hot.around));
        };
        const F8 beyond = max8(1.f - t * (1.f / length), f8(0.f)) * (step / (2.f * voxel));
        out.x += sum((index(right) - index(right * -1.f)) * beyond);
        out.y += sum((index(up) - index(up * -1.f)) * beyond);
    }
    return out * hot.strength;
}
} // namespace

Shimmer::Shimmer(const shot::Shot& shot, int width, int height)
{
    constexpr float least = 0.02f; // a shift that is not seen [pixels]
    const geometry::View view(shot.camera, width, height);
    Imath::Box2f part;
    for (const media::HotAir& hot : shot.hotAir) {
        if (!hot.temperature || hot.temperature->empty() || hot.strength <= 0.f)
            continue;
        const Box3& box = hot.temperature->bounds();
        const Mat4 toWorld = hot.toIndex.inverse();
        for (int c = 0; c < 8; ++c) {
            const Vec3 corner(c & 1 ? box.max.x : box.min.x, c & 2 ? box.max.y : box.min.y,
                              c & 4 ? box.max.z : box.min.z);
            Vec2 pixel;
            float depth = 0.f;
            if (view.project(corner * toWorld, pixel, depth)) {
                part.extendBy(pixel);
            } else { // around the eye
                part.extendBy(Vec2(0.f));
                part.extendBy(Vec2(static_cast<float>(width), static_cast<float>(height)));
            }
        }
    }
    if (part.isEmpty())
        return;
    const auto within = [](float v, int most) {
        return static_cast<int>(std::clamp(v, 0.f, static_cast<float>(most)));
    };
    x0_ = within(part.min.x - 2.f * cell, width) / cell * cell;
    y0_ = within(part.min.y - 2.f * cell, height) / cell * cell;
    cellsX_ = (within(part.max.x + 2.f * cell, width) - x0_) / cell + 1;
    cellsY_ = (within(part.max.y + 2.f * cell, height) - y0_) / cell + 1;
    if (cellsX_ < 2 || cellsY_ < 2)
        return;
    width_ = width;
    height_ = height;
    std::vector<Vec2> shift(static_cast<std::size_t>(cellsX_) * static_cast<std::size_t>(cellsY_), Vec2(0.f));
    const Vec3 eye = view.position(), right = view.right(), up = view.up();
    parallelFor(static_cast<std::size_t>(cellsY_), [&](std::size_t row) {
        for (int i = 0; i < cellsX_; ++i) {
            const Vec3 d = view.direction(static_cast<float>(x0_ + i * cell) + 0.5f,
                                          static_cast<float>(y0_ + static_cast<int>(row) * cell) + 0.5f);
            Vec2& s = shift[row * static_cast<std::size_t>(cellsX_) + static_cast<std::size_t>(i)];
            float length = -1.f;
            for (const media::HotAir& hot : shot.hotAir) {
                if (!hot.temperature || hot.temperature->empty() || hot.strength <= 0.f)
                    continue;
                bool meets = false;
                hot.temperature->overBricks(
                    eye * hot.toIndex,
                    [&] {
                        Vec3 out;
                        hot.toIndex.multDirMatrix(d, out);
                        return out;
                    }(),
                    0.f, shot::Shot::farDistance,
                    [&](float, float, float bound) {
                        meets = bound > hot.around;
                        return !meets;
                    });
                if (!meets)
                    continue;
                if (length < 0.f) {
                    geometry::Hit hit;
                    length = shot.scene->trace(eye, d, 1e-3f, shot::Shot::farDistance, hit) ? hit.t
                                                                                            : shot::Shot::farDistance;
                }
                const Vec2 by = deflection(hot, eye, d, right, up, length);
                s += Vec2(by.x, -by.y) / view.pixelAngle();
            }
        }
    });
    if (std::any_of(shift.begin(), shift.end(), [&](const Vec2& s) { return s.length() > least; }))
        shift_ = std::move(shift);
}

Vec2 Shimmer::at(int x, int y) const
{
    if (isEmpty())
        return Vec2(0.f);
    const float u = static_cast<float>(x - x0_) / cell, v = static_cast<float>(y - y0_) / cell;
    if (u < 0.f || v < 0.f || u > static_cast<float>(cellsX_ - 1) || v > static_cast<float>(cellsY_ - 1))
        return Vec2(0.f);
    const int i = std::min(cellsX_ - 2, static_cast<int>(u)), j = std::min(cellsY_ - 2, static_cast<int>(v));
    const float a = u - static_cast<float>(i), b = v - static_cast<float>(j);
    const Vec2* s =
        &shift_[static_cast<std::size_t>(j) * static_cast<std::size_t>(cellsX_) + static_cast<std::size_t>(i)];
    return (s[0] * (1.f - a) + s[1] * a) * (1.f - b) + (s[cellsX_] * (1.f - a) + s[cellsX_ + 1] * a) * b;
}

void Shimmer::bend(std::vector<float>& picture, int channels) const
{
    if (isEmpty() || picture.empty())
        return;
    const std::vector<float> straight = picture;
    const auto count = static_cast<std::size_t>(channels), wide = static_cast<std::size_t>(width_);
    parallelFor(static_cast<std::size_t>(std::min(height_ - y0_, cellsY_ * cell)), [&](std::size_t row) {
        const int y = y0_ + static_cast<int>(row);
        for (int x = x0_; x < std::min(width_, x0_ + cellsX_ * cell); ++x) {
            const Vec2 s = at(x, y);
            if (s.x == 0.f && s.y == 0.f)
                continue;
            const float fx = std::clamp(static_cast<float>(x) + s.x, 0.f, static_cast<float>(width_ - 1)),
                        fy = std::clamp(static_cast<float>(y) + s.y, 0.f, static_cast<float>(height_ - 1));
            const auto ix = static_cast<std::size_t>(fx), iy = static_cast<std::size_t>(fy),
                       jx = std::min(wide - 1, ix + 1), jy = std::min(static_cast<std::size_t>(height_) - 1, iy + 1);
            const float a = fx - static_cast<float>(ix), b = fy - static_cast<float>(iy);
            for (std::size_t c = 0; c < count; ++c) {
                const auto of = [&](std::size_t i, std::size_t j) { return straight[(j * wide + i) * count + c]; };
                picture[(static_cast<std::size_t>(y) * wide + static_cast<std::size_t>(x)) * count + c] =
                    (of(ix, iy) * (1.f - a) + of(jx, iy) * a) * (1.f - b) +
                    (of(ix, jy) * (1.f - a) + of(jx, jy) * a) * b;
            }
        }
    });
}

void Shimmer::bend(Layers& layers) const
{
    for (std::vector<float>* of : {&layers.plate, &layers.transmittance, &layers.air})
        bend(*of, 3);
    bend(layers.alpha, 1);
    bend(layers.waterMask, 1);
    for (auto* list : {&layers.airBy, &layers.setBy, &layers.shadowBy, &layers.waterBy})
        for (Layers::ByLamp& one : *list)
            bend(one.air, 3);
}
} // namespace hygros::render
