#include "render/sparks.h"

#include "base/parallel.h"
#include "geometry/camera.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
/// Light that falls into pixels around a place, each by how much of it a disc covers; `whole` in radiance times pixels.
void disc(const Vec2& at, float radius, const Vec3& whole, int width, int height,
          std::vector<std::pair<std::uint32_t, Vec3>>& to)
{
    // Never smaller than what a pixel's filter spreads a point over.
    const float r = std::max(radius, 0.6f);
    const int x0 = static_cast<int>(std::floor(at.x - r - 0.5f)), x1 = static_cast<int>(std::ceil(at.x + r + 0.5f)),
              y0 = static_cast<int>(std::floor(at.y - r - 0.5f)), y1 = static_cast<int>(std::ceil(at.y + r + 0.5f));
    float sum = 0.f;
    const auto covers = [&](int x, int y) {
        const float d = std::hypot(static_cast<float>(x) + 0.5f - at.x, static_cast<float>(y) + 0.5f - at.y);
        return std::clamp(r + 0.5f - d, 0.f, 1.f);
    };
    for (int y = y0; y < y1; ++y)
        for (int x = x0; x < x1; ++x)
            sum += covers(x, y);
    if (!(sum > 0.f))
        return;
    for (int y = std::max(0, y0); y < std::min(height, y1); ++y)
        for (int x = std::max(0, x0); x < std::min(width, x1); ++x)
            if (const float c = covers(x, y); c > 0.f)
                to.push_back(
                    {static_cast<std::uint32_t>(y) * static_cast<std::uint32_t>(width) + static_cast<std::uint32_t>(x),
                     whole * (c / sum)});
}
/// What comes through the air (noise left out) and the volumes on a way; green stands for all channels.
float clearness(const shot::Shot& shot, const Vec3& o, const Vec3& d, float length)
{
    constexpr int most = 256; // places in a volume
    float depth = 0.f;
    for (const media::Medium& m : shot.media)
        depth += media::opticalDepth(m, o, d, 0.f, length);
    for (const media::Volume& v : shot.volumes) {
        float t0 = 0.f, t1 = length;
        for (int a = 0; a < 3; ++a) {
            const float inverse = 1.f / (std::abs(d[a]) > 1e-9f ? d[a] : 1e-9f);
            const float low = (v.bounds.min[a] - o[a]) * inverse, high = (v.bounds.max[a] - o[a]) * inverse;
            t0 = std::max(t0, std::min(low, high));
            t1 = std::min(t1, std::max(low, high));
        }
        if (!(t1 > t0))
            continue;
        const float voxel = 1.f / v.indexDirection(d).length();
        const int groups = std::clamp(static_cast<int>((t1 - t0) / (voxel * lanes)) + 1, 1, most / lanes);
        const float step = (t1 - t0) / static_cast<float>(groups * lanes);
        for (int g = 0; g < groups; ++g) {
            F8 t;
            for (int k = 0; k < lanes; ++k)
                t[k] = t0 + (static_cast<float>(g * lanes + k) + 0.5f) * step;
            depth += sum(media::extinction8(v, o.x + d.x * t, o.y + d.y * t, o.z + d.z * t)) * step;
        }
    }
    return std::exp(-depth);
}
} // namespace

SparkPicture::SparkPicture(const shot::Shot& shot, int width, int height)
{
    if (shot.sparks.empty())
        return;
    constexpr int mostPlaces = 400; // along a streak
    const geometry::View view(shot.camera, width, height);
    const Vec3 eye = view.position();
    struct One {
        const media::Spark* spark;
        float blur;
    };
    std::vector<One> all;
    for (const media::Sparks& s : shot.sparks)
        for (const media::Spark& spark : s.all->all())
            all.push_back({&spark, s.all->blur()});
    std::vector<std::vector<std::pair<std::uint32_t, Vec3>>> lit(all.size());
    parallelFor(all.size(), [&](std::size_t i) {
        const media::Spark& spark = *all[i].spark;
        const Vec3 half = spark.velocity * (0.5f * all[i].blur);
        Vec2 from, to, middle;
        float depth = 0.f, unused = 0.f;
        if (!view.project(spark.at, middle, depth) || !view.project(spark.at - half, from, unused) ||
            !view.project(spark.at + half, to, unused))
            return;
        const float length = (to - from).length(), radius = spark.radius / (depth * view.pixelAngle()),
                    blur = view.blurRadius(depth);
        const float margin = radius + blur + length;
        if (middle.x < -margin || middle.y < -margin || middle.x > static_cast<float>(width) + margin ||
            middle.y > static_cast<float>(height) + margin || !(radius > 0.f))
            return;
        const Vec3 way = spark.at - eye;
        const float distance = way.length();
        if (distance < 1e-3f || shot.scene->occluded(eye, way / distance, distance * 0.9999f))
            return;
        // At each moment it covers a disc; over the shutter these lie along its way.
        const Vec3 whole = spark.radiance * clearness(shot, eye, way / distance, distance) * (pi * radius * radius);
        const float wide = std::hypot(radius, blur);
        const int places = std::clamp(static_cast<int>(std::ceil(length / std::max(0.5f, wide))) + 1, 1, mostPlaces);
        for (int k = 0; k < places; ++k) {
            const float u = places == 1 ? 0.5f : static_cast<float>(k) / static_cast<float>(places - 1);
            disc(from + (to - from) * u, wide, whole / static_cast<float>(places), width, height, lit[i]);
        }
    });
    std::vector<std::pair<std::uint32_t, Vec3>> every;
    for (const auto& one : lit)
        every.insert(every.end(), one.begin(), one.end());
    std::stable_sort(every.begin(), every.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [index, light] : every)
        if (!pixels_.empty() && pixels_.back().index == index)
            pixels_.back().light += light;
        else
            pixels_.push_back({index, light});
}

void SparkPicture::addTo(std::vector<float>& rgb) const
{
    for (const Pixel& p : pixels_)
        for (std::size_t c = 0; c < 3; ++c)
            rgb[std::size_t{p.index} * 3 + c] += p.light[static_cast<int>(c)];
}

void SparkPicture::addTo(Layers& layers) const
{
    if (isEmpty())
        return;
    layers.airBy.push_back({"sparks", std::vector<float>(layers.pixels() * 3, 0.f)});
    addTo(layers.airBy.back().air);
    addTo(layers.air);
}
} // namespace hygros::render
