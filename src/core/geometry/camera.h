#pragma once
/// A pinhole camera by focal length and sensor width.
#include "base/vec.h"

#include <cmath>

namespace hygros::geometry {

struct Camera {
    Vec3 position{0, 1.7f, 0}, aim{0, 1.7f, -10};
    float focalMm = 35.f, sensorMm = 36.f; ///< sensor width
    bool operator==(const Camera& o) const
    {
        return position == o.position && aim == o.aim && focalMm == o.focalMm && sensorMm == o.sensorMm;
    }
};

/// The camera for one picture size: rays and projection. x runs right, y runs down, in pixels; pixel (0, 0)
/// covers [0, 1) × [0, 1). The sensor's width spans the picture's width.
class View {
public:
    View(const Camera& camera, int width, int height) : position_(camera.position), width_(width), height_(height)
    {
        forward_ = camera.aim - camera.position;
        forward_ = forward_.length2() > 1e-12f ? forward_.normalized() : Vec3(0, 0, -1);
        right_ = forward_.cross(Vec3(0, 1, 0));
        right_ = right_.length2() > 1e-10f ? right_.normalized() : Vec3(1, 0, 0);
        up_ = right_.cross(forward_);
        halfWidth_ = 0.5f * camera.sensorMm / camera.focalMm;
        perPixel_ = 2.f * halfWidth_ / static_cast<float>(width);
    }
    Vec3 direction(float x, float y) const { return unnormalized(x, y).normalized(); }
    Vec3 unnormalized(float x, float y) const
    {
        return forward_ + right_ * ((x - 0.5f * static_cast<float>(width_)) * perPixel_) -
               up_ * ((y - 0.5f * static_cast<float>(height_)) * perPixel_);
    }
    /// Pixel position of a point and its depth along the axis; false when it lies behind the camera.
    bool project(const Vec3& point, Vec2& pixel, float& depth) const
    {
        const Vec3 v = point - position_;
        depth = v.dot(forward_);
        if (depth <= 1e-4f)
            return false;
        pixel = Vec2(v.dot(right_) / depth / perPixel_ + 0.5f * static_cast<float>(width_),
                     -v.dot(up_) / depth / perPixel_ + 0.5f * static_cast<float>(height_));
        return true;
    }
    const Vec3& position() const { return position_; }
    const Vec3& forward() const { return forward_; }
    const Vec3& right() const { return right_; }
    const Vec3& up() const { return up_; }
    int width() const { return width_; }
    int height() const { return height_; }
    /// Angle of one pixel at the picture's centre [rad].
    float pixelAngle() const { return perPixel_; }

private:
    Vec3 position_, forward_, right_, up_;
    float halfWidth_ = 0.f, perPixel_ = 0.f;
    int width_, height_;
};
} // namespace hygros::geometry
