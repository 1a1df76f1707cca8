/// Where a volume's voxels come from: files and their sequences, shapes; and where they stand.
#include "elements/volume_parts.h"

#include "base/error.h"
#include "geometry/plate.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
/// The file of this frame; empty where there is none for it.
std::filesystem::path fileOf(const FreezeContext& c, const VolumeSettings& s, int shift)
{
    const std::filesystem::path file = scene::resolved(c.project, s.file);
    if (!s.sequence)
        return file;
    int number = static_cast<int>(std::floor((c.project.frame - 1 + shift) * s.speed)) + 1 + static_cast<int>(s.offset);
    if (const auto range = geometry::frameRange(file)) {
        const auto [first, last] = *range;
        if (s.ends == "loop")
            number = first + ((number - first) % (last - first + 1) + last - first + 1) % (last - first + 1);
        else if (s.ends == "nothing" && (number < first || number > last))
            return {};
        number = std::clamp(number, first, last);
    }
    std::string note;
    const std::filesystem::path found = geometry::frameOf(file, number, note);
    if (!note.empty())
        c.note(note);
    return found;
}

struct ShapeKey {
    explicit ShapeKey(const ShapeSource& s) : source(s)
    {
        if (s.object) {
            object = s.object->set;
            source.object->set.reset();
        }
    }
    Identity object;
    ShapeSource source;
    bool operator==(const ShapeKey&) const = default;
};
struct MovedKey {
    std::string name, velocity;
    double seconds;
    float power;
    bool operator==(const MovedKey&) const = default;
};

std::shared_ptr<const media::LoadedGrid> shapeOf(const FreezeContext& c, const VolumeSettings& s)
{
    ShapeSource shape;
    using Body = ShapeSource::Body;
    shape.body = s.source == "object"     ? Body::Object
                 : s.source == "box"      ? Body::Box
                 : s.source == "cylinder" ? Body::Cylinder
                                          : Body::Ball;
    if (shape.body == Body::Object) {
        const scene::Element* object = c.project.find(s.object);
        shape.object = object ? placedSet(c, *object) : std::nullopt;
        if (!shape.object) {
            c.note(s.object.empty() ? "Choose the set object that becomes fog; until then it is left out."
                                    : "There is no set object '" + s.object + "'; it is left out.");
            return nullptr;
        }
    } else {
        shape.size = s.size;
    }
    shape.voxel = static_cast<float>(s.voxel);
    shape.edge = static_cast<float>(s.edge);
    shape.hollow = static_cast<float>(s.hollow);
    if (s.curve != scene::CurvePoints{{0.f, 0.f}, {1.f, 1.f}})
        shape.curve = s.curve;
    shape.noise.contrast = static_cast<float>(s.contrast);
    shape.noise.scale = static_cast<float>(s.scaleNoise);
    shape.noise.octaves = static_cast<int>(s.octaves);
    shape.noise.seed = static_cast<std::uint32_t>(s.seed);
    return c.store.get(
        ShapeKey(shape), [&] { return std::make_shared<const media::LoadedGrid>(voxelsOf(shape, c.job)); }, &c.job);
}
} // namespace

std::shared_ptr<const media::LoadedGrid> gridOf(const FreezeContext& c, const std::filesystem::path& file,
                                                const std::string& name)
{
    FileVersion was;
    auto kept = keptGrid(c.store, file, name, c.job, &was);
    c.cameFrom(was);
    return kept;
}

std::shared_ptr<const media::LoadedGrid> movedGrid(const FreezeContext& c, const std::filesystem::path& file,
                                                   const std::string& name, const std::string& velocity, double seconds,
                                                   float power)
{
    return c.read(file, MovedKey{name, velocity, seconds, power}, [&] {
        return std::make_shared<const media::LoadedGrid>(
            media::motionBlurred(file, name, velocity, seconds, c.job, power));
    });
}

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

double shutterSeconds(const FreezeContext& c, const VolumeSettings& s)
{
    return s.shutter * s.velocityScale / c.project.framesPerSecond;
}

std::string velocityOf(const FreezeContext& c, const VolumeSettings& s, const std::filesystem::path& file)
{
    const std::string name = s.velocity.empty() ? media::guessedGrid(*keptVolumeFile(c.store, file, c.job), "velocity")
                                                : s.velocity;
    if (name.empty())
        c.note("None of the file's grids is known to be a velocity; choose one, or it is not blurred by its motion.");
    return name;
}

PlacedGrid placedGrid(const FreezeContext& c, const scene::Element& element, int shift)
{
    const auto& s = element.as<VolumeSettings>();
    PlacedGrid out;
    if (s.source == "file") {
        if (s.file.empty()) {
            c.note("Choose an OpenVDB file; until then it is left out.");
            return out;
        }
        out.file = fileOf(c, s, shift);
        if (out.file.empty())
            return out;
        const auto listed = keptVolumeFile(c.store, out.file, c.job);
        const auto& grids = *listed;
        const std::string name = s.density.empty() ? media::guessedGrid(grids, "density") : s.density;
        if (name.empty() && grids.size() != 1) {
            c.note("None of the file's grids is known to be a density; choose one.");
            return out;
        }
        const std::string moving = s.shutter > 0.0 ? velocityOf(c, s, out.file) : "";
        out.grid = moving.empty()
                       ? gridOf(c, out.file, name)
                       : movedGrid(c, out.file, name.empty() ? grids.front().name : name, moving, shutterSeconds(c, s));
    } else {
        out.grid = shapeOf(c, s);
        if (!out.grid || s.source == "object")
            return out; // an object's fog stays where its object is
    }
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
    if (!s.follows.empty()) {
        if (const auto frame = frameOf(c, s.follows))
            out.place = out.place * *frame;
        else
            c.note("The set it goes with is not there; its place is taken as it stands.");
    }
    return out;
}
} // namespace hygros::elements
