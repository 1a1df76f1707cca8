#include "elements/points_file.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "elements/bake.h"
#include "media/vdb_inside.h"
#include "sim/embers.h"
#include "sim/particles.h"

#include <cmath>
#include <fstream>
#include <openvdb/points/PointConversion.h>

namespace hygros::elements {
namespace {
namespace vdb = openvdb;
constexpr const char* doing = "Writing points";

struct Points {
    std::vector<Vec3> places, velocities;
    std::vector<float> radii;
    std::vector<std::int32_t> ids, lies;
    void add(const Vec3& place, const Vec3& velocity, float radius, std::uint32_t id, bool isLying)
    {
        places.push_back(place);
        velocities.push_back(velocity);
        radii.push_back(radius);
        ids.push_back(static_cast<std::int32_t>(id));
        lies.push_back(isLying);
    }
};

Points pointsOf(const scene::Element& e, const BakedFrame& frame)
{
    Points out;
    const Payload payload = frame.read();
    if (e.kind->id == "embers") {
        const auto state = sim::EmberSolver(e.id).read(payload.bytes());
        const double size = std::get<double>(e.value("size"));
        for (const auto& one : static_cast<const sim::EmberState&>(*state).embers)
            out.add(one.place, one.velocity, static_cast<float>(0.5 * size), one.number, one.hasLanded != 0);
        return out;
    }
    const auto state = sim::ParticleSolver(e.id).read(payload.bytes());
    const auto& all = static_cast<const sim::ParticleState&>(*state);
    const auto& m = all.moving;
    for (std::size_t i = 0; i < m.count; ++i)
        out.add(Vec3(m.x[i], m.y[i], m.z[i]), Vec3(m.u[i], m.v[i], m.w[i]), 0.5f * m.size[i], m.number[i], false);
    for (const auto& some : all.lying)
        for (const sim::Lying& l : *some)
            out.add(l.place, Vec3(0.f), 0.5f * l.size, l.number, true);
    return out;
}

void writePly(const std::filesystem::path& out, const Points& p)
{
    writeAtomically(out, [&](const std::filesystem::path& to) {
        std::ofstream file(to, std::ios::binary);
        file << "ply\nformat binary_little_endian 1.0\ncomment metres, Y up\nelement vertex " << p.places.size()
             << "\n";
        for (const char* name : {"x", "y", "z", "vx", "vy", "vz", "radius"})
            file << "property float " << name << "\n";
        file << "property int id\nproperty int lies\nend_header\n";
        for (std::size_t i = 0; i < p.places.size(); ++i) {
            const float numbers[7] = {p.places[i].x,     p.places[i].y,     p.places[i].z, p.velocities[i].x,
                                      p.velocities[i].y, p.velocities[i].z, p.radii[i]};
            const std::int32_t more[2] = {p.ids[i], p.lies[i]};
            file.write(reinterpret_cast<const char*>(numbers), sizeof numbers);
            file.write(reinterpret_cast<const char*>(more), sizeof more);
        }
        if (!file.flush())
            throw workingError(doing, to.string(), "the file could not be written (is the disk full?)");
    });
}

void writeVdb(const std::filesystem::path& out, const Points& p)
{
    namespace points = vdb::points;
    vdb::initialize();
    std::vector<vdb::Vec3f> places, velocities;
    for (const Vec3& v : p.places)
        places.emplace_back(v.x, v.y, v.z);
    for (const Vec3& v : p.velocities)
        velocities.emplace_back(v.x, v.y, v.z);
    const points::PointAttributeVector<vdb::Vec3f> at(places);
    constexpr int inVoxel = 8;
    const float voxel = points::computeVoxelSize(at, inVoxel);
    const auto transform = vdb::math::Transform::createLinearTransform(
        std::isfinite(voxel) && voxel > 1e-4f ? double(voxel) : 0.1);
    const auto index = vdb::tools::createPointIndexGrid<vdb::tools::PointIndexGrid>(at, *transform);
    const auto pointTree = points::createPointDataGrid<points::NullCodec, points::PointDataGrid>(*index, at,
                                                                                                 *transform);
    const auto add = [&](const char* name, const auto& values) {
        using Value = typename std::decay_t<decltype(values)>::value_type;
        points::appendAttribute(pointTree->tree(), name, points::TypedAttributeArray<Value>::attributeType());
        const points::PointAttributeVector<Value> wrapped(values);
        points::populateAttribute<points::PointDataTree, vdb::tools::PointIndexTree,
                                  points::PointAttributeVector<Value>>(pointTree->tree(), index->tree(), name, wrapped);
    };
    add("v", velocities);
    add("pscale", p.radii);
    add("id", p.ids);
    add("lies", p.lies);
    pointTree->setName("points");
    writeAtomically(out, [&](const std::filesystem::path& to) {
        try {
            vdb::io::File file(to.string());
            file.write({pointTree});
            file.close();
        } catch (const vdb::Exception& e) {
            throw workingError(doing, to.string(), e.what());
        }
    });
}
} // namespace

std::size_t exportPoints(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                         Store& store, JobControl& job)
{
    const scene::Element* e = project.find(element);
    if (!e)
        throw inputError(doing, element, "there is no such element in the project");
    if (e->kind->id != "particles" && e->kind->id != "embers")
        throw inputError(doing, element,
                         "it is a " + e->kind->label + "; only Particles and Embers can be written as points");
    const std::string extension = out.extension().string();
    if (extension != ".ply" && extension != ".vdb")
        throw inputError(doing, out.string(), "the file's name must end in .ply or .vdb");
    const auto frame = keptFrame(project, element, project.frameNumber(), store);
    if (!frame)
        throw inputError(doing, element, "frame " + std::to_string(project.frameNumber()) + " is not baked",
                         "Bake it first.");
    const Points points = pointsOf(*e, *frame);
    if (points.places.empty())
        throw inputError(doing, element, "there are none at frame " + std::to_string(project.frameNumber()));
    job.check();
    extension == ".ply" ? writePly(out, points) : writeVdb(out, points);
    return points.places.size();
}
} // namespace hygros::elements
