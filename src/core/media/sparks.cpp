#include "media/sparks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace hygros::media {
namespace {
constexpr std::uint32_t few = 4; ///< that are not divided any more
constexpr float spread = 0.7f;   ///< of a ray's width to each side
} // namespace

SparkList::SparkList(std::vector<Spark> all, float blur) : all_(std::move(all)), blur_(blur)
{
    order_.resize(all_.size());
    std::iota(order_.begin(), order_.end(), 0u);
    if (!all_.empty())
        divide(0, static_cast<std::uint32_t>(all_.size()));
}

std::size_t SparkList::bytes() const
{
    return sizeof *this + all_.size() * (sizeof(Spark) + sizeof(std::uint32_t)) + nodes_.size() * sizeof(Node);
}

void SparkList::divide(std::uint32_t first, std::uint32_t count)
{
    Box3 places, bounds;
    for (std::uint32_t i = first; i < first + count; ++i) {
        const Spark& s = all_[order_[i]];
        const Vec3 half = s.velocity * (0.5f * blur_);
        places.extendBy(s.at);
        bounds.extendBy(s.at - half);
        bounds.extendBy(s.at + half);
    }
    Node node;
    node.centre = bounds.center();
    node.first = first;
    node.count = count;
    for (std::uint32_t i = first; i < first + count; ++i) {
        const Spark& s = all_[order_[i]];
        const Vec3 half = s.velocity * (0.5f * blur_), to = s.at - node.centre;
        node.radius = std::max(node.radius, std::max((to - half).length(), (to + half).length()) + s.radius);
    }
    const std::size_t own = nodes_.size();
    nodes_.push_back(node);
    if (count <= few)
        return;
    const Vec3 size = places.size();
    const int axis = size.x >= size.y && size.x >= size.z ? 0 : size.y >= size.z ? 1 : 2;
    const std::uint32_t half = count / 2;
    const auto begin = order_.begin() + first;
    std::nth_element(begin, begin + half, begin + count,
                     [&](std::uint32_t a, std::uint32_t b) { return all_[a].at[axis] < all_[b].at[axis]; });
    divide(first, half);
    nodes_[own].second = static_cast<std::uint32_t>(nodes_.size());
    divide(first + half, count - half);
}

Vec3 SparkList::along(const Vec3& o, const Vec3& d, float limit, float angle, float before, float& distance) const
{
    Vec3 total(0.f);
    if (nodes_.empty())
        return total;
    float weights = 0.f, ways = 0.f;
    const auto widthAt = [&](float t) { return spread * angle * std::max(0.f, before + t); };
    const auto meet = [&](const Spark& s) {
        const Vec3 way = s.velocity * blur_, to = s.at - o;
        const float length = way.length();
        // Where the ray comes closest to the streak's line.
        float t = to.dot(d), along = 0.f;
        const Vec3 unit = length > 0.f ? way / length : Vec3(0.f);
        if (length > 0.f) {
            const float b = d.dot(unit), f = to.dot(unit), rest = std::max(1e-6f, 1.f - b * b);
            along = std::clamp(b * (t - b * f) / rest - f, -0.5f * length, 0.5f * length);
            t = (to + unit * along).dot(d);
        }
        if (t <= 1e-3f || t >= limit)
            return;
        const float wide = std::max(s.radius, widthAt(t));
        if ((o + d * t - s.at - unit * along).length2() > wide * wide || !(wide > 0.f))
            return;
        // As much as the disc that it is at each moment, over the streak as it is seen.
        const float seen = 2.f * wide * way.cross(d).length() + pi * wide * wide;
        const Vec3 light = s.radiance * (pi * s.radius * s.radius / seen);
        const float weight = light.x + light.y + light.z;
        total += light;
        weights += weight;
        ways += weight * t;
    };
    std::array<std::uint32_t, 64> open; // no deeper: each half is a half
    std::size_t count = 0;
    open[count++] = 0;
    while (count > 0) {
        const std::uint32_t at = open[--count];
        const Node& node = nodes_[at];
        const Vec3 to = node.centre - o;
        const float t = to.dot(d), reach = node.radius + widthAt(t + node.radius);
        if (t + node.radius < 0.f || t - node.radius > limit || (to - d * t).length2() > reach * reach)
            continue;
        if (node.second) {
            open[count++] = node.second;
            open[count++] = at + 1;
            continue;
        }
        for (std::uint32_t i = node.first; i < node.first + node.count; ++i)
            meet(all_[order_[i]]);
    }
    if (weights > 0.f)
        distance = ways / weights;
    return total;
}
} // namespace hygros::media
