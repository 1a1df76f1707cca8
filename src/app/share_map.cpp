#include "app/share_map.h"

#include <algorithm>
#include <cmath>
#include <map>

namespace hygros::app {
namespace {
double light(std::span<const float> rgb, std::size_t pixel)
{
    return 0.2126 * double(rgb[pixel * 3]) + 0.7152 * double(rgb[pixel * 3 + 1]) + 0.0722 * double(rgb[pixel * 3 + 2]);
}

/// A Gaussian along one axis; edges are repeated.
void even(std::vector<float>& v, int width, int height, bool down)
{
    constexpr int reach = 4;
    constexpr float sigma = 1.6f;
    std::vector<float> out(v.size());
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            float sum = 0.f, weights = 0.f;
            for (int k = -reach; k <= reach; ++k) {
                const int px = down ? x : std::clamp(x + k, 0, width - 1),
                          py = down ? std::clamp(y + k, 0, height - 1) : y;
                const float w = std::exp(-0.5f * static_cast<float>(k * k) / (sigma * sigma));
                sum += w * v[static_cast<std::size_t>(py * width + px)];
                weights += w;
            }
            out[static_cast<std::size_t>(y * width + x)] = sum / weights;
        }
    v = std::move(out);
}
} // namespace

ShareMap ShareMap::of(int width, int height, std::span<const float> part, int wholeWidth, int wholeHeight,
                      std::span<const float> whole)
{
    ShareMap map{width, height, std::vector<float>(static_cast<std::size_t>(width * height), 0.f)};
    if (width < 2 || height < 2 || wholeWidth < 1 || wholeHeight < 1)
        return map;
    std::vector<float> all(map.share.size());
    for (int y = 0; y < height; ++y)
        for (int x = 0; x < width; ++x) {
            const int x0 = x * wholeWidth / width, x1 = std::max(x0 + 1, (x + 1) * wholeWidth / width);
            const int y0 = y * wholeHeight / height, y1 = std::max(y0 + 1, (y + 1) * wholeHeight / height);
            double sum = 0.0;
            int count = 0;
            for (int py = y0; py < std::min(y1, wholeHeight); ++py)
                for (int px = x0; px < std::min(x1, wholeWidth); ++px, ++count)
                    sum += light(whole, static_cast<std::size_t>(py * wholeWidth + px));
            const auto at = static_cast<std::size_t>(y * width + x);
            all[at] = static_cast<float>(sum / std::max(1, count));
            map.share[at] = static_cast<float>(light(part, at));
        }
    for (std::vector<float>* v : {&map.share, &all}) {
        even(*v, width, height, false);
        even(*v, width, height, true);
    }
    for (std::size_t i = 0; i < all.size(); ++i)
        map.share[i] = all[i] > 0.f ? map.share[i] / all[i] : 0.f;
    return map;
}

std::vector<std::vector<QPointF>> ShareMap::lines(float level) const
{
    // Marching squares between the cells' middles: every crossing of a cell's side is one point, known by that side.
    std::map<int, QPointF> points;
    std::multimap<int, int> joined;
    const auto at = [&](int x, int y) { return share[static_cast<std::size_t>(y * width + x)]; };
    const auto crossing = [&](int x, int y, bool down) {
        const int side = (y * width + x) * 2 + (down ? 1 : 0);
        const float a = at(x, y), b = down ? at(x, y + 1) : at(x + 1, y);
        const double u = std::clamp(double((level - a) / (b - a)), 0.0, 1.0);
        points[side] = QPointF((x + 0.5 + (down ? 0.0 : u)) / width, (y + 0.5 + (down ? u : 0.0)) / height);
        return side;
    };
    for (int y = 0; y + 1 < height; ++y)
        for (int x = 0; x + 1 < width; ++x) {
            const bool a = at(x, y) >= level, b = at(x + 1, y) >= level, c = at(x + 1, y + 1) >= level,
                       d = at(x, y + 1) >= level;
            std::vector<int> sides;
            if (a != b)
                sides.push_back(crossing(x, y, false));
            if (b != c)
                sides.push_back(crossing(x + 1, y, true));
            if (c != d)
                sides.push_back(crossing(x, y + 1, false));
            if (d != a)
                sides.push_back(crossing(x, y, true));
            for (std::size_t k = 0; k + 1 < sides.size(); k += 2) {
                joined.emplace(sides[k], sides[k + 1]);
                joined.emplace(sides[k + 1], sides[k]);
            }
        }
    std::vector<std::vector<QPointF>> out;
    const auto take = [&](int from) {
        const auto next = joined.find(from);
        if (next == joined.end())
            return -1;
        const int to = next->second;
        joined.erase(next);
        const auto [first, last] = joined.equal_range(to);
        for (auto i = first; i != last; ++i)
            if (i->second == from) {
                joined.erase(i);
                break;
            }
        return to;
    };
    // Open ends first, then what closes.
    for (const bool open : {true, false})
        for (const auto& [start, point] : points) {
            if (joined.count(start) == 0 || (open && joined.count(start) != 1))
                continue;
            std::vector<QPointF> line{point};
            for (int side = take(start); side >= 0; side = take(side))
                line.push_back(points[side]);
            if (line.size() > 3)
                out.push_back(std::move(line));
        }
    return out;
}
} // namespace hygros::app
