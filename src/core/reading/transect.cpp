#include "reading/transect.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace hygros::reading {
namespace {
float levelDepth(const shot::Shot& shot, const Vec3& heading, float distance)
{
    float depth = 0.f;
    for (const media::Medium& m : shot.media)
        depth += media::opticalDepth(m, shot.camera.position, heading, 0.f, distance);
    return depth;
}

/// Crests and troughs between a column's distance and the next one's.
void waterOf(const shot::Shot& shot, const Vec3& heading, Transect& t)
{
    const float none = std::numeric_limits<float>::quiet_NaN();
    t.crest.clear();
    t.trough.clear();
    t.seesUnder = 0.f;
    if (shot.waters.empty())
        return;
    const std::size_t n = t.distance.size();
    t.crest.assign(n, none);
    t.trough.assign(n, none);
    std::vector<std::uint16_t> whose(n, 0xffff);
    parallelFor(n, [&](std::size_t i) {
        constexpr int looks = 12;
        const float from = t.distance[i], to = i + 1 < n ? t.distance[i + 1] : from + from - t.distance[i - 1];
        for (int k = 0; k < looks; ++k) {
            const Vec3 at = shot.camera.position + heading * (from + (to - from) * static_cast<float>(k) / looks);
            for (const geometry::PlacedWater& w : shot.waters) {
                const float top = w.surface->highest() + 0.01f;
                geometry::Hit hit;
                if (!w.surface->trace(Vec3(at.x, top, at.z), Vec3(0, -1, 0), 0.f,
                                      2.f * (top - w.surface->level()) + 1.f, hit))
                    continue;
                const float y = top - hit.t;
                t.crest[i] = std::isnan(t.crest[i]) ? y : std::max(t.crest[i], y);
                t.trough[i] = std::isnan(t.trough[i]) ? y : std::min(t.trough[i], y);
                whose[i] = w.order;
            }
        }
    });
    for (std::size_t i = 0; i < n && t.seesUnder == 0.f; ++i)
        for (const geometry::PlacedWater& w : shot.waters)
            if (!std::isnan(t.crest[i]) && w.order == whose[i]) {
                t.waterLevel = w.surface->level();
                t.seesUnder = w.surface->sight();
            }
}
} // namespace

Vec3 sectionHeading(const shot::Shot& shot, float across)
{
    const geometry::View view(shot.camera, 1000, 1000);
    Vec3 d = view.unnormalized(across * 1000.f, 500.f);
    d.y = 0.f;
    return d.length2() > 1e-10f ? d.normalized() : Vec3(0, 0, -1);
}

float seesTo(const shot::Shot& shot)
{
    const float wanted = std::log(20.f);
    const Vec3 heading = sectionHeading(shot, 0.5f);
    if (levelDepth(shot, heading, 1e5f) < wanted)
        return std::numeric_limits<float>::infinity();
    float lo = 0.f, hi = 1e5f;
    for (int i = 0; i < 50; ++i) {
        const float mid = 0.5f * (lo + hi);
        (levelDepth(shot, heading, mid) < wanted ? lo : hi) = mid;
    }
    return hi;
}

void outlineOf(const shot::Shot& shot, float column, Transect& t)
{
    const float none = std::numeric_limits<float>::quiet_NaN();
    t.highest.assign(t.distance.size(), none);
    t.ground.assign(t.distance.size(), none);
    const Vec3 heading = sectionHeading(shot, column), side = heading.cross(Vec3(0, 1, 0));
    const float third = shot.camera.part.width * shot.camera.sensorMm / shot.camera.focalMm / 6.f;
    const Box3& box = shot.scene->bounds();
    if (shot.plate) {
        // Of a plate what its depth says: every pixel of the middle third at its own distance and height.
        const geometry::Plate& plate = *shot.plate;
        const geometry::PicturePart& part = shot.camera.part;
        geometry::Camera all = shot.camera;
        all.part = {};
        const geometry::View view(all, plate.width, plate.height);
        const float middle = (part.x + column * part.width) * static_cast<float>(plate.width),
                    reach = part.width * static_cast<float>(plate.width) / 6.f;
        for (int y = 0; y < plate.height; y += 2)
            for (int x = std::max(0, static_cast<int>(middle - reach));
                 x < std::min(plate.width, static_cast<int>(middle + reach)); x += 2) {
                const float d = plate.depth[static_cast<std::size_t>(y) * static_cast<std::size_t>(plate.width) +
                                            static_cast<std::size_t>(x)];
                if (d >= shot::Shot::farDistance)
                    continue;
                const Vec3 p = view.direction(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f) * d;
                const float level = std::hypot(p.x, p.z), h = shot.camera.position.y + p.y;
                const auto i = static_cast<std::size_t>(std::lower_bound(t.distance.begin(), t.distance.end(), level) -
                                                        t.distance.begin());
                if (i == 0 || i >= t.distance.size())
                    continue;
                t.highest[i] = std::isnan(t.highest[i]) ? h : std::fmax(t.highest[i], h);
                t.ground[i] = std::isnan(t.ground[i]) ? h : std::fmin(t.ground[i], h);
            }
    }
    waterOf(shot, heading, t);
    if (shot.scene->triangles() == 0)
        return;
    constexpr int across = 15;
    parallelFor(t.distance.size(), [&](std::size_t i) {
        for (int k = 0; k < across; ++k) {
            const float offset = (static_cast<float>(k) / (across - 1) * 2.f - 1.f) * third;
            Vec3 p = shot.camera.position + (heading + side * offset) * t.distance[i];
            p.y = box.max.y + 1.f;
            geometry::Hit hit;
            if (!shot.scene->traceSets(p, Vec3(0, -1, 0), 0.f, box.max.y - box.min.y + 2.f, hit))
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
    for (std::size_t i = 0; i < columns; ++i) {
        const float u = static_cast<float>(i) / static_cast<float>(columns - 1);
        t.distance.push_back(grid.logarithmic ? grid.nearest * std::pow(grid.farthest / grid.nearest, u)
                                              : grid.nearest + (grid.farthest - grid.nearest) * u);
    }
    const Vec3 heading = sectionHeading(shot, grid.across);
    for (const float d : t.distance)
        t.transmittance.push_back(std::exp(-levelDepth(shot, heading, d)));
    t.sees = seesTo(shot);
    if (grid.outline)
        outlineOf(shot, grid.across, t);
    const auto add = [&](const std::string& id, const auto& extinctionAt) {
        std::vector<float> values(columns * t.rowHeight.size());
        parallelFor(t.rowHeight.size(), [&](std::size_t r) {
            for (std::size_t c = 0; c < columns; ++c) {
                Vec3 p = shot.camera.position + heading * t.distance[c];
                p.y = t.rowHeight[r];
                values[r * columns + c] = extinctionAt(p);
            }
        });
        // A haze with clean air in it is two media of one element.
        for (Transect::Sheet& sheet : t.sheets)
            if (sheet.id == id) {
                for (std::size_t i = 0; i < values.size(); ++i)
                    sheet.extinction[i] += values[i];
                return;
            }
        t.sheets.push_back({id, std::move(values)});
    };
    for (const media::Medium& m : shot.media)
        add(m.id, [&](const Vec3& p) { return media::extinction(m, p); });
    for (const media::CloudDeck& d : shot.decks)
        add(d.id,
            [&](const Vec3& p) { return d.sigmaT * media::deckDensity8(d, f8(p.x), f8(p.y), f8(p.z), f8(d.fine))[0]; });
    for (const media::Volume& v : shot.volumes)
        add(v.id, [&](const Vec3& p) { return media::extinction(v, p); });
    return t;
}
} // namespace hygros::reading
