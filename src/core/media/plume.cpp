#include "media/plume.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {

float FeedMask::at(float u, float v) const
{
    if (width <= 0 || height <= 0)
        return 0.f;
    const float x = std::clamp(u * static_cast<float>(width) - 0.5f, 0.f, static_cast<float>(width - 1)),
                y = std::clamp(v * static_cast<float>(height) - 0.5f, 0.f, static_cast<float>(height - 1));
    const int x0 = static_cast<int>(x), y0 = static_cast<int>(y), x1 = std::min(width - 1, x0 + 1),
              y1 = std::min(height - 1, y0 + 1);
    const auto of = [&](int i, int j) {
        return share[static_cast<std::size_t>(j) * static_cast<std::size_t>(width) + static_cast<std::size_t>(i)];
    };
    const float a = x - static_cast<float>(x0), b = y - static_cast<float>(y0);
    return (of(x0, y0) * (1.f - a) + of(x1, y0) * a) * (1.f - b) + (of(x0, y1) * (1.f - a) + of(x1, y1) * a) * b;
}
} // namespace hygros::media
