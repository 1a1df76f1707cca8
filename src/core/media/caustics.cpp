#include "media/caustics.h"

#include "geometry/water_surface.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
constexpr float perUnit = 2048.f; ///< light as it is kept: up to 32 times the even one
constexpr float sunRadius = 0.00465f;
Vec2 perMetre(const Vec3& d) { return Vec2(d.x, d.z) / std::max(0.02f, std::abs(d.y)); }
} // namespace

Caustics::Caustics(Waves waves, float level, const Vec2& centre, const Vec3& toSun)
    : waves_(std::move(waves)), level_(level), centre_(centre), toSun_(toSun),
      scales_(std::make_unique<std::array<Scale, scales>>())
{
    const Vec3 up(0.f, 1.f, 0.f), along = -toSun;
    in_ = perMetre(geometry::refracted(along, up));
    out_ = perMetre(Vec3(along.x, -along.y, along.z));
}

float Caustics::distanceOf(int plane) const { return nearest * std::exp2(0.5f * static_cast<float>(plane)); }

std::size_t Caustics::bytes() const
{
    // What may come of it.
    const std::size_t side = cells + 2 * margin;
    return sizeof *this + scales * (side * side * sizeof(Ray) + planes * std::size_t(cells) * cells * 2);
}

void Caustics::throwFrom(Scale& scale, float cell) const
{
    constexpr int side = cells + 2 * margin;
    scale.rays.resize(std::size_t(side) * side);
    const Vec3 up(0.f, 1.f, 0.f), along = -toSun_;
    const float flatDown = toSun_.y * (1.f - geometry::mirroredByWater(toSun_.y)),
                flatUp = toSun_.y * geometry::mirroredByWater(toSun_.y);
    for (int j = 0; j < side; ++j)
        for (int i = 0; i < side; ++i) {
            Ray& r = scale.rays[std::size_t(j) * side + std::size_t(i)];
            const Vec2 from((static_cast<float>(i - margin) + 0.5f) * cell,
                            (static_cast<float>(j - margin) + 0.5f) * cell);
            const float half = 0.5f * cell * cells;
            const SwellSample s = waves_(centre_ - Vec2(half) + from, 1.5f * cell);
            const Vec3 n = s.normal();
            const float c = std::max(0.f, n.dot(toSun_)), mirrored = geometry::mirroredByWater(c),
                        // Of the light that a level piece would get: as it leans, and as it is drawn out.
                much = std::max(0.f, s.jacobian()) * c / std::max(0.1f, n.y);
            r.from = from + Vec2(s.dx, s.dz);
            r.height = s.height;
            r.in = perMetre(geometry::refracted(along, n));
            const Vec3 out = along - n * (2.f * along.dot(n));
            r.out = perMetre(out);
            r.down = much * (1.f - mirrored) / flatDown;
            r.up = out.y > 0.05f ? much * mirrored / flatUp : 0.f;
        }
}

void Caustics::gather(Scale& scale, float cell, int plane, bool over) const
{
    const float far = distanceOf(plane);
    std::vector<float> sum(std::size_t(cells) * cells, 0.f);
    for (const Ray& r : scale.rays) {
        // Where it meets the plane, followed back to the level along flat water's way: a place keeps its number.
        const float way = over ? far - r.height : far + r.height;
        const Vec2 at = (r.from + (over ? r.out : r.in) * way - (over ? out_ : in_) * far) / cell - Vec2(0.5f);
        const float fx = std::floor(at.x), fy = std::floor(at.y);
        if (!(fx >= 0.f && fy >= 0.f && fx < cells - 1 && fy < cells - 1))
            continue;
        const float u = at.x - fx, v = at.y - fy, much = over ? r.up : r.down;
        float* to = &sum[static_cast<std::size_t>(fy) * cells + static_cast<std::size_t>(fx)];
        to[0] += much * (1.f - u) * (1.f - v);
        to[1] += much * u * (1.f - v);
        to[cells] += much * (1.f - u) * v;
        to[cells + 1] += much * u * v;
    }
    // Over what the sun's disc blurs, and by a cell that hides the net of rays.
    const float blur = sunRadius * far / cell;
    const int times = std::clamp(static_cast<int>(std::lround(1.f + 2.f * blur * blur)), 1, 12);
    std::vector<float> row(cells);
    const auto smooth = [&](float* first, std::size_t step) {
        for (int i = 0; i < cells; ++i)
            row[std::size_t(i)] = first[std::size_t(i) * step];
        for (int i = 0; i < cells; ++i)
            first[std::size_t(i) * step] = 0.25f * row[std::size_t(std::max(0, i - 1))] + 0.5f * row[std::size_t(i)] +
                                           0.25f * row[std::size_t(std::min(cells - 1, i + 1))];
    };
    for (int k = 0; k < times; ++k) {
        for (int j = 0; j < cells; ++j)
            smooth(&sum[std::size_t(j) * cells], 1);
        for (int i = 0; i < cells; ++i)
            smooth(&sum[std::size_t(i)], cells);
    }
    std::vector<std::uint16_t>& to = scale.light[static_cast<std::size_t>(plane) + (over ? planes : 0)];
    to.resize(sum.size());
    for (std::size_t i = 0; i < sum.size(); ++i)
        to[i] = static_cast<std::uint16_t>(std::min(65535.f, sum[i] * perUnit + 0.5f));
}

float Caustics::lookup(Scale& scale, float cell, int plane, bool over, const Vec2& at) const
{
    std::call_once(scale.once, [&] { throwFrom(scale, cell); });
    const std::size_t which = static_cast<std::size_t>(plane) + (over ? planes : 0);
    std::call_once(scale.onceOf[which], [&] { gather(scale, cell, plane, over); });
    const Vec2 p = at / cell + Vec2(0.5f * cells - 0.5f);
    const float fx = std::clamp(std::floor(p.x), 0.f, float(cells - 2)),
                fy = std::clamp(std::floor(p.y), 0.f, float(cells - 2)), u = std::clamp(p.x - fx, 0.f, 1.f),
                v = std::clamp(p.y - fy, 0.f, 1.f);
    const std::uint16_t* l = &scale.light[which][static_cast<std::size_t>(fy) * cells + static_cast<std::size_t>(fx)];
    return (float(l[0]) * (1.f - u) * (1.f - v) + float(l[1]) * u * (1.f - v) + float(l[cells]) * (1.f - u) * v +
            float(l[cells + 1]) * u * v) *
           (1.f / perUnit);
}

float Caustics::at(const Vec3& place) const
{
    const float high = place.y - level_, far = std::abs(high);
    if (far >= deepest)
        return 1.f;
    const bool over = high > 0.f;
    const Vec2 p = Vec2(place.x, place.z) - (over ? out_ : in_) * far - centre_;
    const float away = std::max(std::abs(p.x), std::abs(p.y));
    // The finest cells that reach so far, and on the last of their way the next.
    int k = 0;
    const auto reach = [](int scale) { return (0.5f * cells - 2.f) * cellOf[std::size_t(scale)]; };
    while (k < scales && away >= reach(k))
        ++k;
    if (k == scales)
        return 1.f;
    const float plane = 2.f * std::log2(std::max(far, 1e-6f) / nearest), inner = 0.75f * reach(k),
                on = std::clamp((away - inner) / (reach(k) - inner), 0.f, 1.f);
    const auto of = [&](int scale) {
        if (scale == scales)
            return 1.f;
        Scale& s = (*scales_)[std::size_t(scale)];
        const float cell = cellOf[std::size_t(scale)];
        if (plane <= 0.f) // from nothing at the level on
            return 1.f + (lookup(s, cell, 0, over, p) - 1.f) * far / nearest;
        const int low = std::min(static_cast<int>(plane), planes - 1);
        const float u = plane - static_cast<float>(low), a = lookup(s, cell, low, over, p),
                    b = low + 1 < planes ? lookup(s, cell, low + 1, over, p) : 1.f;
        return a + (b - a) * std::min(u, 1.f);
    };
    const float own = of(k);
    return on > 0.f ? own + (of(k + 1) - own) * on : own;
}
} // namespace hygros::media
