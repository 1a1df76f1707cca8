#include "elements/cover_file.h"

#include "base/error.h"
#include "base/parallel.h"
#include "geometry/write_mesh.h"
#include "image/image.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr const char* doing = "Writing what lies";

void writeHeights(const std::filesystem::path& out, const geometry::PlacedSet& cover,
                  const std::vector<geometry::PlacedSet>& under, double cell, JobControl& job)
{
    constexpr int most = 8192;
    const Box3& box = cover.set->bounds;
    const auto across = [&](int axis) {
        return static_cast<int>(std::ceil(static_cast<double>(box.max[axis] - box.min[axis]) / cell)) + 1;
    };
    const int width = across(0), height = across(2);
    if (width > most || height > most)
        throw inputError(doing, out.string(),
                         "it would have " + std::to_string(width) + " × " + std::to_string(height) +
                             " pixels: choose larger cells");
    const geometry::RayScene snow({cover}, job), bare(under, job);
    image::Image picture(width, height, {"height", "depth"});
    const float top = box.max.y + 1.f, side = static_cast<float>(cell);
    parallelFor(static_cast<std::size_t>(height), [&](std::size_t row) {
        for (int x = 0; x < width; ++x) {
            const Vec3 from(box.min.x + side * static_cast<float>(x), top, box.min.z + side * static_cast<float>(row));
            geometry::Hit hit;
            if (!snow.trace(from, Vec3(0.f, -1.f, 0.f), 0.f, top - box.min.y + 1.f, hit))
                continue;
            float* to = picture.at(x, static_cast<int>(row));
            to[0] = top - hit.t;
            // What it lies on is under it.
            if (bare.trace(Vec3(from.x, to[0] + 1e-3f, from.z), Vec3(0.f, -1.f, 0.f), 0.f, 20.f, hit))
                to[1] = std::max(0.f, hit.t - 1e-3f);
        }
    });
    job.check();
    image::writeExr(out, picture,
                    {{"hygros/x", formatNumber(static_cast<double>(box.min.x), 9)},
                     {"hygros/z", formatNumber(static_cast<double>(box.min.z), 9)},
                     {"hygros/metresPerPixel", formatNumber(cell, 9)}});
}
/// Water that stands about the camera, seen from above: its height and depth, 0 where none does.
image::Image standingWater(const scene::Project& project, const std::string& element,
                           const std::vector<geometry::PlacedSet>& all, double cell, Vec3& corner, Store& store,
                           JobControl& job)
{
    constexpr int most = 4096;
    constexpr double across = 48.0; // m
    const auto size = static_cast<int>(std::ceil(across / cell));
    if (size > most)
        throw inputError(doing, element,
                         "it would have " + std::to_string(size) + " pixels a side: choose larger cells");
    const scene::Element* camera = nullptr;
    for (const scene::Element& e : project.elements)
        if (kindOf(e).isCamera)
            camera = &e;
    const Vec3 eye = camera ? std::get<Vec3>(camera->value("position")) : Vec3(0.f);
    const auto side = static_cast<float>(cell), half = static_cast<float>(0.5 * across);
    corner = Vec3(std::floor((eye.x - half) / side) * side, 0.f, std::floor((eye.z - half) / side) * side);
    const auto scene = keptScene(store, all, job);
    const float top = scene->bounds().isEmpty() ? 0.f : scene->bounds().max.y + 1.f,
                bottom = scene->bounds().isEmpty() ? 0.f : scene->bounds().min.y - 1.f;
    image::Image picture(size, size, {"height", "depth"});
    parallelFor(static_cast<std::size_t>(size), [&](std::size_t row) {
        for (int x = 0; x < size && !job.cancelled(); ++x) {
            Vec3 from = corner +
                        Vec3((static_cast<float>(x) + 0.5f) * side, 0.f, (static_cast<float>(row) + 0.5f) * side);
            from.y = top;
            for (int k = 0; k < 12; ++k) { // under trees as well
                geometry::Hit hit;
                if (!scene->trace(from, Vec3(0.f, -1.f, 0.f), 0.f, from.y - bottom, hit))
                    break;
                from.y -= hit.t;
                const geometry::StandingWater* standing = nullptr; // of the set whose objects are counted there
                for (const geometry::PlacedSet& s : all)
                    if (s.order <= hit.set)
                        standing = s.wetness.standing.get();
                const float depth = standing ? standing->depth(from) : 0.f;
                if (depth > 0.f && hit.geometricNormal.y > 0.985f) {
                    float* to = picture.at(x, static_cast<int>(row));
                    to[0] = from.y + depth;
                    to[1] = depth;
                    break;
                }
                from.y -= 1e-3f;
            }
        }
    });
    job.check();
    return picture;
}

/// A flat piece for every pixel under water.
geometry::Mesh meshOf(const image::Image& water, const Vec3& corner, float cell)
{
    geometry::Mesh mesh;
    for (int y = 0; y < water.height; ++y)
        for (int x = 0; x < water.width; ++x) {
            const float* p = water.at(x, y);
            if (!(p[1] > 0.f))
                continue;
            const auto first = static_cast<std::uint32_t>(mesh.positions.size());
            for (const auto& [i, j] : {std::pair{0, 0}, {0, 1}, {1, 1}, {1, 0}}) {
                mesh.positions.push_back(Vec3(corner.x + static_cast<float>(x + i) * cell, p[0],
                                              corner.z + static_cast<float>(y + j) * cell));
                mesh.normals.push_back(Vec3(0.f, 1.f, 0.f));
            }
            mesh.indices.insert(mesh.indices.end(), {first, first + 1, first + 2, first, first + 2, first + 3});
        }
    return mesh;
}

void exportWater(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                 double cell, const std::vector<geometry::PlacedSet>& all, Store& store, JobControl& job)
{
    Vec3 corner(0.f);
    const image::Image water = standingWater(project, element, all, cell, corner, store, job);
    const geometry::Mesh mesh = meshOf(water, corner, static_cast<float>(cell));
    if (mesh.positions.empty())
        throw inputError(doing, element, "no water stands near the camera at this frame");
    if (geometry::isMeshFile(out))
        return geometry::writeMesh(out, mesh, doing);
    image::writeExr(out, water,
                    {{"hygros/x", formatNumber(static_cast<double>(corner.x) + 0.5 * cell, 9)},
                     {"hygros/z", formatNumber(static_cast<double>(corner.z) + 0.5 * cell, 9)},
                     {"hygros/metresPerPixel", formatNumber(cell, 9)}});
}
} // namespace

void exportCover(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                 double cell, Store& store, JobControl& job)
{
    const scene::Element* e = project.find(element);
    if (!e)
        throw inputError(doing, element, "there is no such element in the project");
    const bool isWater = e->kind->id == "wetGround";
    if (e->kind->id != "snowCover" && !isWater)
        throw inputError(doing, element,
                         "it is a " + e->kind->label + "; only a Snow cover and Wet ground's puddles can be written");
    if (!geometry::isMeshFile(out) && out.extension() != ".exr")
        throw inputError(doing, out.string(),
                         std::string("the file's name must end in ") + geometry::meshFileEndings +
                             " (a mesh) or .exr (a height map)");
    std::vector<geometry::PlacedSet> all = standing(project, store, job);
    if (isWater)
        return exportWater(project, element, out, cell > 0.0 ? cell : 0.1, all, store, job);
    const auto cover = std::find_if(all.begin(), all.end(),
                                    [&](const geometry::PlacedSet& p) { return p.element == element; });
    if (cover == all.end())
        throw inputError(doing, element, "nothing of it lies at this frame");
    if (geometry::isMeshFile(out))
        return geometry::writeMesh(out, cover->set->meshes.at(0), doing);
    std::vector<geometry::PlacedSet> under;
    for (const geometry::PlacedSet& p : all)
        if (kindOf(*project.find(p.element)).stage != Kind::Stage::Ground)
            under.push_back(p);
    writeHeights(out, *cover, under, cell > 0.0 ? cell : 0.1, job);
}
} // namespace hygros::elements
