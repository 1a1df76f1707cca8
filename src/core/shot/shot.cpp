#include "shot/shot.h"

#include <algorithm>

namespace hygros::shot {

Shot::SetReach Shot::setReach() const
{
    const auto same = [&](const std::vector<float>& of, float& value) {
        value = of.empty() ? 1.f : of.front();
        return std::all_of(of.begin(), of.end(), [&](float v) { return v == value; }) &&
               (value == 1.f || of.size() >= setIds.size());
    };
    SetReach r;
    r.even = same(sunReach.sets, r.sun) & same(skyReach.sets, r.sky);
    if (!r.even)
        r.sun = r.sky = 1.f;
    return r;
}

float groundLevel(const Shot& shot)
{
    float level = std::min(0.f, shot.camera.position.y - 1.7f);
    if (shot.scene && shot.scene->triangles() > 0)
        level = std::min(level, shot.scene->bounds().min.y);
    for (const media::Volume& v : shot.volumes)
        level = std::min(level, v.bounds.min.y);
    for (const media::Medium& m : shot.media)
        switch (m.shape) {
        case media::Shape::Layer: level = std::min(level, m.base); break;
        case media::Shape::Box:
        case media::Shape::Sphere:
        case media::Shape::Cylinder: level = std::min(level, m.centre.y - m.half.y); break;
        default: break;
        }
    return level;
}
} // namespace hygros::shot
