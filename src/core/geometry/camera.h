#pragma once
/// A camera by focal length, sensor width and, where it has one, its lens.
#include "base/vec.h"

#include <cmath>

namespace hygros::geometry {

/// A part of a camera's picture, in shares of its width and height from the upper left corner.
struct PicturePart {
    float x = 0.f, y = 0.f, width = 1.f, height = 1.f;
    bool operator==(const PicturePart&) const = default;
    bool isWhole() const { return *this == PicturePart(); }
};

struct Camera {
    Vec3 position{0, 1.7f, 0}, aim{0, 1.7f, -10};
    float focalMm = 35.f, sensorMm = 36.f; ///< sensor width
    float lensRadius = 0.f;                ///< of a thin lens [m]; 0: a pinhole. See lensRadiusOf()
    float focus = 10.f;                    ///< what lies this far along the axis is sharp [m]
    float roll = 0.f;      ///< turn about its axis [rad], clockwise as seen from behind it; 0: its rows are level
    PicturePart part = {}; ///< of its picture, which is all that is drawn
    bool operator==(const Camera&) const = default;
};

/// The radius [m] that blurs as a lens of a focal length does at an f-number that is focused at a distance: a point at
/// d has a circle of confusion of c = A·f·|d − s| / (d·(s − f)) on the sensor, A = f ÷ number. (The lens draws out when
/// it is focused near; the picture's framing stays that of the focal length, so the radius takes that up.)
inline float lensRadiusOf(float focalMm, float number, float focus)
{
    const float f = 1e-3f * focalMm, s = focus > 1.05f * f ? focus : 1.05f * f;
    return 0.5f * f / number * s / (s - f);
}

/// What a camera sees at one place of its picture, through one place of its lens, at one time of the frame.
struct SightRay {
    Vec3 origin, direction; ///< of length 1
    float time = 0.f;       ///< 0 when the shutter opens, 1 when it closes
    Vec3 at(float t) const { return origin + direction * t; }
};

/// The camera for one picture size: rays and projection. x runs right, y runs down, in pixels; pixel (0, 0)
/// covers [0, 1) × [0, 1). The sensor's width spans the picture's width; of a camera with a part the size is the
/// part's.
class View {
public:
    View(const Camera& camera, int width, int height) : position_(camera.position), width_(width), height_(height)
    {
        forward_ = camera.aim - camera.position;
        forward_ = forward_.length2() > 1e-12f ? forward_.normalized() : Vec3(0, 0, -1);
        right_ = forward_.cross(Vec3(0, 1, 0));
        right_ = right_.length2() > 1e-10f ? right_.normalized() : Vec3(1, 0, 0);
        up_ = right_.cross(forward_);
        if (camera.roll != 0.f) {
            const Vec3 level = right_, upright = up_;
            const float c = std::cos(camera.roll), s = std::sin(camera.roll);
            right_ = level * c - upright * s;
            up_ = upright * c + level * s;
        }
        halfWidth_ = 0.5f * camera.sensorMm / camera.focalMm;
        perPixel_ = 2.f * halfWidth_ * camera.part.width / static_cast<float>(width);
        middleX_ = (0.5f - camera.part.x) / camera.part.width * static_cast<float>(width);
        middleY_ = (0.5f - camera.part.y) / camera.part.height * static_cast<float>(height);
        lensRadius_ = camera.lensRadius;
        focus_ = camera.focus;
    }
    bool hasLens() const { return lensRadius_ > 0.f; }
    /// Through the lens at (u, v), each in [0, 1), spread evenly over its disc; (0.5, 0.5) is its middle.
    SightRay ray(float x, float y, float u = 0.5f, float v = 0.5f, float time = 0.f) const
    {
        const Vec3 straight = unnormalized(x, y);
        if (lensRadius_ <= 0.f)
            return {position_, straight.normalized(), time};
        // The square onto the disc, rings onto rings (Shirley & Chiu 1997).
        const float a = 2.f * u - 1.f, b = 2.f * v - 1.f;
        float r = 0.f, phi = 0.f;
        if (std::abs(a) > std::abs(b)) {
            r = a;
            phi = 0.25f * pi * (b / a);
        } else if (b != 0.f) {
            r = b;
            phi = 0.5f * pi - 0.25f * pi * (a / b);
        }
        const Vec3 origin = position_ + (right_ * std::cos(phi) + up_ * std::sin(phi)) * (r * lensRadius_);
        return {origin, (position_ + straight * focus_ - origin).normalized(), time};
    }
    /// How far a point so far away spreads, to all sides [pixels].
    float blurRadius(float distance) const { return lensRadius_ * std::abs(1.f / distance - 1.f / focus_) / perPixel_; }
    Vec3 direction(float x, float y) const { return unnormalized(x, y).normalized(); }
    Vec3 unnormalized(float x, float y) const
    {
        return forward_ + right_ * ((x - middleX_) * perPixel_) - up_ * ((y - middleY_) * perPixel_);
    }
    /// Pixel position of a point and its depth along the axis; false when it lies behind the camera.
    bool project(const Vec3& point, Vec2& pixel, float& depth) const
    {
        const Vec3 v = point - position_;
        depth = v.dot(forward_);
        if (depth <= 1e-4f)
            return false;
        pixel = Vec2(v.dot(right_) / depth / perPixel_ + middleX_, -v.dot(up_) / depth / perPixel_ + middleY_);
        return true;
    }
    const Vec3& position() const { return position_; }
    const Vec3& forward() const { return forward_; }
    const Vec3& right() const { return right_; }
    const Vec3& up() const { return up_; }
    int width() const { return width_; }
    int height() const { return height_; }
    /// Where the camera's axis meets the picture [pixels]; of a part it may lie outside.
    Vec2 middle() const { return {middleX_, middleY_}; }
    /// Angle of one pixel at the picture's centre [rad].
    float pixelAngle() const { return perPixel_; }

private:
    Vec3 position_, forward_, right_, up_;
    float halfWidth_ = 0.f, perPixel_ = 0.f, middleX_ = 0.f, middleY_ = 0.f, lensRadius_ = 0.f, focus_ = 0.f;
    int width_, height_;
};

/// The roll [rad] of a camera that looks along a way with a direction upright in its picture; what leans by less than
/// 10⁻⁶ stands level.
inline float rollOf(const Vec3& along, const Vec3& up)
{
    Camera level;
    level.position = Vec3(0.f);
    level.aim = along;
    const View view(level, 1, 1);
    const float roll = std::atan2(up.dot(view.right()), up.dot(view.up()));
    return std::abs(roll) > 1e-6f ? roll : 0.f;
}

/// The camera as a frame carries it: its place, its aim and how it leans.
inline Camera carriedBy(Camera camera, const Mat4& frame)
{
    Vec3 up;
    frame.multDirMatrix(View(camera, 1, 1).up(), up);
    camera.position = camera.position * frame;
    camera.aim = camera.aim * frame;
    camera.roll = rollOf(camera.aim - camera.position, up);
    return camera;
}
} // namespace hygros::geometry
