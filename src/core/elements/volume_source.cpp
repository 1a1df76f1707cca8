/// Where a volume stands, and how fine its grid is.
#include "elements/voxel_source.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
/// How often a grid is halved so that its voxels are at least `wanted` metres.
int halvings(const Mat4& toWorld, double wanted)
{
    double voxel = 1e30;
    for (int a = 0; a < 3; ++a)
        voxel = std::min(voxel, static_cast<double>(Vec3(toWorld[a][0], toWorld[a][1], toWorld[a][2]).length()));
    int times = 0;
    for (; times < 8 && voxel * 1.001 < wanted; ++times)
        voxel *= 2.0;
    return times;
}

/// Where a grid halved so often has its places.
Mat4 halvedPlace(int times)
{
    Mat4 m;
    for (int i = 0; i < times; ++i) {
        Mat4 step;
        step.setScale(Vec3(2.f));
        Mat4 shift;
        shift.setTranslation(Vec3(media::BrickGrid::coarseShift));
        m = step * shift * m;
    }
    return m;
}

PlacedGrid placedGrid(const FreezeContext& c, const scene::Element& element, double shift)
{
    const auto& s = element.as<VolumeSettings>();
    const double frame = c.project.frame + shift;
    PlacedGrid out;
    out.source = voxelSource(c, s);
    VoxelAnswer answer = out.source->at(frame, VoxelGrid::Density);
    if (answer.state == VoxelAnswer::State::NotYet)
        c.note("Frame " + formatNumber(frame) + " of it is not there yet; until then it is left out.");
    if (answer.state != VoxelAnswer::State::There)
        return out;
    out.grid = std::move(answer.grid);
    out.frame = frame;
    if (!out.source->isPlaced())
        return out;
    Mat4 rotation, move;
    out.place.setScale(Vec3(static_cast<float>(s.scale)));
    const auto about = [&](const Vec3& axis, double degrees) {
        Mat4 m;
        m.setAxisAngle(axis, radians(degrees));
        rotation = rotation * m;
    };
    about(Vec3(1, 0, 0), s.pitch);
    about(Vec3(0, 0, 1), s.roll);
    about(Vec3(0, 1, 0), -s.turn);
    move.setTranslation(s.position);
    out.place = out.place * rotation * move;
    if (const auto carrier = carried(c, s.follows))
        out.place = out.place * *carrier;
    return out;
}
} // namespace hygros::elements
