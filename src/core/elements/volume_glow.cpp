/// What a volume gives off: light over heat, and the lamps that stand for it.
#include "elements/volume_parts.h"

#include "light/blackbody.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {

/// Colour and opacity of a ramp at a place 0…1.
scene::ColourStop stopAt(const scene::ColourStops& stops, float at)
{
    std::size_t k = 0;
    while (k + 2 < stops.size() && at > stops[k + 1].at)
        ++k;
    const auto &a = stops[k], &b = stops[k + 1];
    const float u = std::clamp((at - a.at) / std::max(1e-6f, b.at - a.at), 0.f, 1.f);
    return {at, lerp(a.colour, b.colour, u), lerp(a.opacity, b.opacity, u)};
}

namespace {
/// Radiance that a metre of a ramp's white gives off at brightness 0 [W/m³/sr].
constexpr float rampRadiance = 1.f;
} // namespace
std::shared_ptr<const std::vector<Vec3>> heatTable(const VolumeSettings& s, float most, float& scale)
{
    constexpr int entries = 256;
    auto table = std::make_shared<std::vector<Vec3>>(entries, Vec3(0.f));
    const float bright = static_cast<float>(std::exp2(s.exposure));
    scale = static_cast<float>(entries - 1) / most;
    for (int i = 1; i < entries; ++i) {
        const float value = most * static_cast<float>(i) / static_cast<float>(entries - 1);
        Vec3 l(0.f);
        if (s.glow == "blackbody") {
            const double kelvin = value * s.kelvin;
            if (kelvin >= s.coldest)
                l = light::blackbodyRadiance(static_cast<float>(kelvin)) * static_cast<float>(s.emissive);
        } else {
            const scene::ColourStop stop = stopAt(s.ramp, value / static_cast<float>(s.rampTop));
            l = stop.colour * (stop.opacity * rampRadiance);
        }
        (*table)[static_cast<std::size_t>(i)] = l * bright;
    }
    return table;
}

std::vector<light::Lamp> lampsOf(const media::Volume& v)
{
    media::BrickGrid::Means cells = v.glow.heat->means(24);
    const auto [nx, ny, nz] = cells.size;
    const std::size_t count = cells.values.size();
    const Mat4 toWorld = v.glow.toHeat.inverse();
    struct Cell {
        Vec3 at, light; ///< place; radiant intensity by channel
        float power;
    };
    std::vector<Cell> shining;
    std::vector<float> sigma(count);
    std::vector<Vec3> given(count), place(count);
    Vec3 step[3];
    for (int a = 0; a < 3; ++a) {
        Vec3 unit(0.f);
        unit[a] = cells.cell;
        toWorld.multDirMatrix(unit, step[a]);
    }
    const float volume = std::abs(step[0].dot(step[1].cross(step[2])));
    for (std::size_t c = 0; c < count; ++c) {
        const Vec3 corner(static_cast<float>(c % static_cast<std::size_t>(nx)),
                          static_cast<float>(c / static_cast<std::size_t>(nx) % static_cast<std::size_t>(ny)),
                          static_cast<float>(c / static_cast<std::size_t>(nx * ny)));
        // Its mean from 64 places: light rises steeply with heat, so that the mean heat would not do.
        F8 sums[3] = {f8(0.f), f8(0.f), f8(0.f)}, extinction = f8(0.f);
        for (int z = 0; z < 4; ++z)
            for (int half = 0; half < 2; ++half) {
                F8 x8, y8, z8;
                for (int i = 0; i < lanes; ++i) {
                    const Vec3 p = (cells.origin +
                                    (corner + (Vec3(static_cast<float>(i % 4), static_cast<float>(half * 2 + i / 4),
                                                    static_cast<float>(z)) +
                                               Vec3(0.5f)) *
                                                  0.25f) *
                                        cells.cell) *
                                   toWorld;
                    x8[i] = p.x, y8[i] = p.y, z8[i] = p.z;
                }
                F8 l[3];
                media::glow8(v, x8, y8, z8, l);
                for (int ch = 0; ch < 3; ++ch)
                    sums[ch] += l[ch];
                extinction += media::extinction8(v, x8, y8, z8);
            }
        given[c] = Vec3(sum(sums[0]), sum(sums[1]), sum(sums[2])) * (volume / 64.f);
        sigma[c] = sum(extinction) / 64.f * (1.f - luminance(v.albedo) * 0.9f);
        place[c] = (cells.origin + (corner + Vec3(0.5f)) * cells.cell) * toWorld;
    }
    const std::size_t stride[3] = {1, static_cast<std::size_t>(nx),
                                   static_cast<std::size_t>(nx) * static_cast<std::size_t>(ny)};
    for (std::size_t c = 0; c < count; ++c) {
        if (maxComponent(given[c]) <= 0.f)
            continue;
        float out = 0.f;
        for (int a = 0; a < 3; ++a) {
            const auto size = static_cast<std::ptrdiff_t>(cells.size[static_cast<std::size_t>(a)]),
                       own = static_cast<std::ptrdiff_t>(c / stride[a] % static_cast<std::size_t>(size));
            for (const std::ptrdiff_t way : {std::ptrdiff_t(-1), std::ptrdiff_t(1)}) {
                float depth = 0.5f * sigma[c];
                for (std::ptrdiff_t k = own + way; k >= 0 && k < size; k += way)
                    depth += sigma[static_cast<std::size_t>(static_cast<std::ptrdiff_t>(c) +
                                                            (k - own) * static_cast<std::ptrdiff_t>(stride[a]))];
                out += std::exp(-depth * step[a].length()) / 6.f;
            }
        }
        const Vec3 l = given[c] * out;
        shining.push_back({place[c], l, luminance(l)});
    }
    // Halved twice where it is widest, each time at the middle of its power.
    std::vector<std::pair<std::size_t, std::size_t>> parts{{0, shining.size()}};
    for (int round = 0; round < 2; ++round) {
        std::vector<std::pair<std::size_t, std::size_t>> next;
        for (const auto& [from, to] : parts) {
            if (to - from < 2) {
                next.push_back({from, to});
                continue;
            }
            Box3 box;
            float whole = 0.f;
            for (std::size_t i = from; i < to; ++i) {
                box.extendBy(shining[i].at);
                whole += shining[i].power;
            }
            const int axis = static_cast<int>(box.majorAxis());
            std::sort(shining.begin() + static_cast<std::ptrdiff_t>(from),
                      shining.begin() + static_cast<std::ptrdiff_t>(to),
                      [&](const Cell& a, const Cell& b) { return a.at[axis] < b.at[axis]; });
            std::size_t middle = from + 1;
            for (float half = shining[from].power; middle + 1 < to && half < 0.5f * whole; ++middle)
                half += shining[middle].power;
            next.push_back({from, middle});
            next.push_back({middle, to});
        }
        parts = next;
    }
    std::vector<light::Lamp> lamps;
    for (const auto& [from, to] : parts) {
        light::Lamp lamp;
        Vec3 middle(0.f);
        float whole = 0.f, spread = 0.f;
        for (std::size_t i = from; i < to; ++i) {
            lamp.intensity += shining[i].light;
            middle += shining[i].at * shining[i].power;
            whole += shining[i].power;
        }
        if (whole <= 0.f)
            continue;
        lamp.position = middle / whole;
        for (std::size_t i = from; i < to; ++i)
            spread += (shining[i].at - lamp.position).length2() * shining[i].power;
        lamp.id = v.id;
        lamp.shape = light::Lamp::Shape::Sphere;
        lamp.radius = std::max(0.01f, std::sqrt(spread / whole));
        lamp.glow = 0.f; // the volume itself is what one sees
        lamps.push_back(lamp);
    }
    return lamps;
}
} // namespace hygros::elements
