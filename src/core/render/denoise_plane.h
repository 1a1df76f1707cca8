#pragma once
/// Planes that filters run over.
#include "base/simd.h"

#include <algorithm>
#include <cstring>
#include <vector>

namespace hygros::render {

/// A plane of numbers with a margin all around, edges repeated.
class Plane {
public:
    Plane() = default;
    Plane(int width, int height, int margin)
        : width_(width), height_(height), margin_(margin), stride_((width + 2 * margin + 15) & ~7),
          values_(static_cast<std::size_t>(stride_ * (height + 2 * margin) + 16), 0.f)
    {
    }
    float* row(int y) { return &values_[static_cast<std::size_t>((y + margin_) * stride_ + margin_)]; }
    const float* row(int y) const { return &values_[static_cast<std::size_t>((y + margin_) * stride_ + margin_)]; }
    void extend()
    {
        for (int y = -margin_; y < height_ + margin_; ++y) {
            const float* from = row(std::clamp(y, 0, height_ - 1));
            float* to = row(y);
            if (to != from)
                std::copy(from, from + width_, to);
            for (int x = 1; x <= margin_; ++x) {
                to[-x] = from[0];
                to[width_ - 1 + x] = from[width_ - 1];
            }
        }
    }
    template <class Value> void fill(const Value& value)
    {
        for (int y = 0; y < height_; ++y)
            for (int x = 0; x < width_; ++x)
                row(y)[x] = value(static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) +
                                  static_cast<std::size_t>(x));
        extend();
    }

private:
    int width_ = 0, height_ = 0, margin_ = 0, stride_ = 0;
    std::vector<float> values_;
};
} // namespace hygros::render
