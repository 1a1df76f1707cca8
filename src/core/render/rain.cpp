#include "render/rain.h"

#include "base/parallel.h"
#include "render/streaks.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
constexpr int coarse = 8; ///< pixels along one of the picture's blurred copy
} // namespace

RainPicture::RainPicture(const shot::Shot& shot, int width, int height) : width_(width), height_(height)
{
    if (shot.falling.empty())
        return;
    const std::vector<Streak> streaks = streaksOf(shot, width, height);
    drops_ = streaks.size();
    // By bands of rows, each of which takes its streaks in their order.
    constexpr int band = 12;
    const auto bands = static_cast<std::size_t>((height + band - 1) / band);
    std::vector<std::vector<std::uint32_t>> of(bands);
    for (std::size_t i = 0; i < streaks.size(); ++i) {
        const Streak& s = streaks[i];
        const int first = static_cast<int>(std::floor(std::min(s.from.y, s.to.y) - s.radius - 1.f)) / band,
                  last = static_cast<int>(std::ceil(std::max(s.from.y, s.to.y) + s.radius + 1.f)) / band;
        for (int b = std::max(0, first); b <= std::min(static_cast<int>(bands) - 1, last); ++b)
            of[static_cast<std::size_t>(b)].push_back(static_cast<std::uint32_t>(i));
    }
    std::vector<std::vector<Pixel>> lit(bands);
    parallelFor(bands, [&](std::size_t b) {
        const int top = static_cast<int>(b) * band, bottom = std::min(height, top + band);
        std::vector<Pixel> plane(static_cast<std::size_t>(width) * static_cast<std::size_t>(bottom - top));
        for (const std::uint32_t i : of[b]) {
            const Streak& s = streaks[i];
            const Vec2 way = s.to - s.from;
            const float length = way.length(), r = s.radius;
            const Vec2 along = length > 1e-6f ? way / length : Vec2(0.f);
            // Of a bar with round ends and an edge of a pixel.
            const float area = 2.f * r * length + pi * (r * r + 1.f / 12.f), each = s.cover / area;
            const int y0 = std::max(top, static_cast<int>(std::floor(std::min(s.from.y, s.to.y) - r - 0.5f))),
                      y1 = std::min(bottom, static_cast<int>(std::ceil(std::max(s.from.y, s.to.y) + r + 0.5f)));
            for (int y = y0; y < y1; ++y) {
                const float py = static_cast<float>(y) + 0.5f;
                // Where along the streak this row can be met.
                float u0 = 0.f, u1 = 1.f;
                if (std::abs(way.y) > 1e-6f) {
                    const float a = (py - r - 0.5f - s.from.y) / way.y, c = (py + r + 0.5f - s.from.y) / way.y;
                    u0 = std::clamp(std::min(a, c), 0.f, 1.f);
                    u1 = std::clamp(std::max(a, c), 0.f, 1.f);
                }
                const float xa = s.from.x + way.x * u0, xb = s.from.x + way.x * u1;
                const int x0 = std::max(0, static_cast<int>(std::floor(std::min(xa, xb) - r - 0.5f))),
                          x1 = std::min(width, static_cast<int>(std::ceil(std::max(xa, xb) + r + 0.5f)));
                for (int x = x0; x < x1; ++x) {
                    const Vec2 p(static_cast<float>(x) + 0.5f - s.from.x, py - s.from.y);
                    if (s.along.length2() > 0.f) {
                        const float depth = -std::log(1.f - std::min(0.998f, s.cover * leafIn(s, p)));
                        if (depth > 0.f) {
                            Pixel& to = plane[static_cast<std::size_t>(y - top) * static_cast<std::size_t>(width) +
                                              static_cast<std::size_t>(x)];
                            to.cover += depth;
                            to.opaque += depth;
                            to.light += s.light * depth;
                        }
                        continue;
                    }
                    const float ahead = p.x * along.x + p.y * along.y;
                    const float off = ahead <= 0.f      ? p.length()
                                      : ahead >= length ? (p - way).length()
                                                        : std::abs(p.x * along.y - p.y * along.x);
                    const float weight = std::min(r + 0.5f - off, 1.f);
                    if (weight <= 0.f)
                        continue;
                    Pixel& to = plane[static_cast<std::size_t>(y - top) * static_cast<std::size_t>(width) +
                                      static_cast<std::size_t>(x)];
                    // Of a leaf's share of the pixel nothing comes through.
                    const float depth = s.isOpaque ? -std::log(1.f - std::min(0.998f, each * weight)) : each * weight;
                    to.cover += depth;
                    to.clear += s.isClear ? depth : 0.f;
                    to.opaque += s.isOpaque ? depth : 0.f;
                    to.light += s.light * depth;
                }
            }
        }
        for (std::size_t i = 0; i < plane.size(); ++i)
            if (plane[i].cover > 0.f) {
                plane[i].index = static_cast<std::uint32_t>(
                    static_cast<std::size_t>(top) * static_cast<std::size_t>(width) + i);
                lit[b].push_back(plane[i]);
            }
    });
    for (const auto& some : lit)
        pixels_.insert(pixels_.end(), some.begin(), some.end());
}

float RainPicture::transmittance(int x, int y) const
{
    const auto index = static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(width_) +
                       static_cast<std::uint32_t>(x);
    const auto at = std::lower_bound(pixels_.begin(), pixels_.end(), index,
                                     [](const Pixel& p, std::uint32_t i) { return p.index < i; });
    return at != pixels_.end() && at->index == index ? std::exp(-at->cover) : 1.f;
}

std::vector<Vec3> RainPicture::worldOf(const std::vector<float>& rgb) const
{
    const int w = (width_ + coarse - 1) / coarse, h = (height_ + coarse - 1) / coarse;
    const auto at = [&](int x, int y) {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(w) + static_cast<std::size_t>(x);
    };
    std::vector<Vec3> narrow(static_cast<std::size_t>(w) * static_cast<std::size_t>(h), Vec3(0.f));
    for (int y = 0; y < h; ++y)
        for (int x = 0; x < w; ++x) {
            Vec3 sum(0.f);
            float count = 0.f;
            for (int j = y * coarse; j < std::min(height_, y * coarse + coarse); ++j)
                for (int i = x * coarse; i < std::min(width_, x * coarse + coarse); ++i, count += 1.f) {
                    const float* p = &rgb[(static_cast<std::size_t>(j) * static_cast<std::size_t>(width_) +
                                           static_cast<std::size_t>(i)) *
                                          3];
                    sum += Vec3(p[0], p[1], p[2]);
                }
            narrow[at(x, y)] = sum / std::max(1.f, count);
        }
    // Three boxes one after the other are about as a bell, a sixth of the picture wide.
    const int r = std::max(1, w / 12);
    std::vector<Vec3> wide = narrow, row(static_cast<std::size_t>(std::max(w, h)));
    for (int pass = 0; pass < 3; ++pass)
        for (const bool across : {true, false})
            for (int line = 0; line < (across ? h : w); ++line) {
                const int n = across ? w : h;
                const auto of = [&](int k) -> Vec3& {
                    return wide[across ? at(std::clamp(k, 0, n - 1), line) : at(line, std::clamp(k, 0, n - 1))];
                };
                Vec3 sum(0.f);
                for (int k = -r; k <= r; ++k)
                    sum += of(k);
                for (int k = 0; k < n; ++k) {
                    row[static_cast<std::size_t>(k)] = sum / static_cast<float>(2 * r + 1);
                    sum += of(k + r + 1) - of(k - r);
                }
                for (int k = 0; k < n; ++k)
                    of(k) = row[static_cast<std::size_t>(k)];
            }
    std::vector<Vec3> out;
    out.reserve(pixels_.size());
    for (const Pixel& p : pixels_) {
        const float x = (static_cast<float>(p.index % static_cast<std::uint32_t>(width_)) + 0.5f) / coarse - 0.5f,
                    y = (static_cast<float>(p.index / static_cast<std::uint32_t>(width_)) + 0.5f) / coarse - 0.5f;
        const int i = std::clamp(static_cast<int>(x), 0, std::max(0, w - 2)),
                  j = std::clamp(static_cast<int>(y), 0, std::max(0, h - 2));
        const float a = std::clamp(x - static_cast<float>(i), 0.f, 1.f),
                    b = std::clamp(y - static_cast<float>(j), 0.f, 1.f);
        const auto between = [&](const std::vector<Vec3>& v) {
            const int ii = std::min(w - 1, i + 1), jj = std::min(h - 1, j + 1);
            return (v[at(i, j)] * (1.f - a) + v[at(ii, j)] * a) * (1.f - b) +
                   (v[at(i, jj)] * (1.f - a) + v[at(ii, jj)] * a) * b;
        };
        out.push_back(between(narrow) * (rimShare * (1.f - p.opaque / p.cover)) +
                      between(wide) * ((1.f - rimShare) * fromPicture * p.clear / p.cover));
    }
    return out;
}

void RainPicture::addTo(std::vector<float>& rgb) const
{
    if (isEmpty())
        return;
    const std::vector<Vec3> world = worldOf(rgb);
    for (std::size_t k = 0; k < pixels_.size(); ++k) {
        const Pixel& p = pixels_[k];
        const float left = std::exp(-p.cover);
        const Vec3 light = (world[k] + p.light / p.cover) * (1.f - left);
        for (std::size_t c = 0; c < 3; ++c) {
            float& v = rgb[std::size_t{p.index} * 3 + c];
            v = v * left + light[static_cast<int>(c)];
        }
    }
}

void RainPicture::addTo(Layers& layers) const
{
    if (isEmpty())
        return;
    std::vector<float> beauty(layers.pixels() * 3);
    for (std::size_t i = 0; i < beauty.size(); ++i)
        beauty[i] = layers.plate[i] * layers.transmittance[i] + layers.air[i];
    const std::vector<Vec3> world = worldOf(beauty);
    Layers::ByLamp own{"rain", std::vector<float>(layers.pixels() * 3, 0.f)};
    for (std::size_t k = 0; k < pixels_.size(); ++k) {
        const Pixel& p = pixels_[k];
        const float left = std::exp(-p.cover);
        const Vec3 light = (world[k] + p.light / p.cover) * (1.f - left);
        for (std::size_t c = 0; c < 3; ++c) {
            const std::size_t i = std::size_t{p.index} * 3 + c;
            layers.transmittance[i] *= left;
            own.air[i] = light[static_cast<int>(c)];
            layers.air[i] = layers.air[i] * left + own.air[i];
            for (auto* list : {&layers.airBy, &layers.setBy, &layers.shadowBy, &layers.waterBy})
                for (Layers::ByLamp& one : *list)
                    one.air[i] *= left;
        }
        if (!layers.alpha.empty()) // what a matte holds open is covered by so much
            layers.alpha[p.index] = 1.f - (1.f - layers.alpha[p.index]) * left;
    }
    layers.airBy.push_back(std::move(own));
}
} // namespace hygros::render
