#include "reading/transect.h"

#include "base/parallel.h"

#include <cmath>
#include <limits>

namespace hygros::reading {
namespace {
Vec3 levelHeading(const shot::Shot& shot)
{
    Vec3 d = shot.camera.aim - shot.camera.position;
    d.y = 0.f;
    return d.length2() > 1e-10f ? d.normalized() : Vec3(0, 0, -1);
}
float levelDepth(const shot::Shot& shot, float distance)
{
    float depth = 0.f;
    for (const media::Medium& m : shot.media)
        depth += media::opticalDepth(m, shot.camera.position, levelHeading(shot), 0.f, distance);
    return depth;
}
} // namespace

float seesTo(const shot::Shot& shot)
{
    const float wanted = std::log(20.f);
    if (levelDepth(shot, 1e5f) < wanted)
        return std::numeric_limits<float>::infinity();
    float lo = 0.f, hi = 1e5f;
    for (int i = 0; i < 50; ++i) {
        const float mid = 0.5f * (lo + hi);
        (levelDepth(shot, mid) < wanted ? lo : hi) = mid;
    }
    return hi;
}

void outlineOf(const shot::Shot& shot, Transect& t)
{
    const float none = std::numeric_limits<float>::quiet_NaN();
    t.highest.assign(t.distance.size(), none);
    t.ground.assign(t.distance.size(), none);
    const Vec3 heading = levelHeading(shot), side = heading.cross(Vec3(0, 1, 0));
    const float third = shot.camera.sensorMm / shot.camera.focalMm / 6.f;
    const Box3& box = shot.scene->bounds();
    if (shot.scene->triangles() == 0)
        return;
    constexpr int across = 15;
    parallelFor(t.distance.size(), [&](std::size_t i) {
        for (int k = 0; k < across; ++k) {
            const float offset = (static_cast<float>(k) / (across - 1) * 2.f - 1.f) * third;
            Vec3 p = shot.camera.position + (heading + side * offset) * t.distance[i];
            p.y = box.max.y + 1.f;
            geometry::Hit hit;
            if (!shot.scene->trace(p, Vec3(0, -1, 0), 0.f, box.max.y - box.min.y + 2.f, hit))
                continue;
            const float y = p.y - hit.t;
            t.highest[i] = std::isnan(t.highest[i]) ? y : std::fmax(t.highest[i], y);
            t.ground[i] = std::isnan(t.ground[i]) ? y : std::fmin(t.ground[i], y);
        }
    });
}

Transect transectOf(const shot::Shot& shot, const TransectGrid& grid)
{
    Transect t;
    const auto columns = static_cast<std::size_t>(grid.columns);
    t.eyeHeight = shot.camera.position.y;
    t.rowHeight = grid.rowHeights;
    for (std::size_t i = 0; i < columns; ++i)
        t.distance.push_back(std::pow(grid.farthest, static_cast<float>(i) / static_cast<float>(columns - 1)));
    for (const float d : t.distance)
        t.transmittance.push_back(std::exp(-levelDepth(shot, d)));
    t.sees = seesTo(shot);
    if (grid.outline)
        outlineOf(shot, t);
    const Vec3 heading = levelHeading(shot);
    for (const media::Medium& m : shot.media) {
        Transect::Sheet sheet{m.id, std::vector<float>(columns * t.rowHeight.size())};
        parallelFor(t.rowHeight.size(), [&](std::size_t r) {
            for (std::size_t c = 0; c < columns; ++c) {
                Vec3 p = shot.camera.position + heading * t.distance[c];
                p.y = t.rowHeight[r];
                sheet.extinction[r * columns + c] = media::extinction(m, p);
            }
        });
        t.sheets.push_back(std::move(sheet));
    }
    return t;
}
} // namespace hygros::reading
