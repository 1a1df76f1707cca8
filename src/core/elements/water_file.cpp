#include "elements/water_file.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/parallel.h"
#include "geometry/write_mesh.h"
#include "image/image.h"
#include "media/open_water.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::elements {
namespace {
constexpr const char* doing = "Writing water";

/// The element's surface in a frame that was frozen.
const media::OpenWater& waterOf(const scene::Project& project, const std::string& element, const shot::Shot& shot)
{
    const scene::Element* e = project.find(element);
    if (!e)
        throw inputError(doing, element, "there is no such element in the project");
    for (const geometry::PlacedWater& w : shot.waters)
        if (w.element == element)
            return static_cast<const media::OpenWater&>(*w.surface);
    if (e->kind->family != scene::Family::Water)
        throw inputError(doing, element, "it is a " + e->kind->label + "; only Open water and a Pool can be written");
    for (const shot::Note& n : shot.notes)
        if (n.element == element && n.isTrouble)
            throw inputError(doing, element, n.text);
    throw inputError(doing, element, "it is not in the picture at this frame");
}

/// Samples a side, and where the first of them stands.
struct Square {
    int n = 0;
    double cell = 0.0, x0 = 0.0, z0 = 0.0;
    Vec2 at(int i, int j) const { return Vec2(static_cast<float>(x0 + i * cell), static_cast<float>(z0 + j * cell)); }
};
Square squareOf(const WaterWish& wish, const geometry::Camera& camera, const std::filesystem::path& out)
{
    constexpr int most = 4096;
    Square s;
    s.cell = wish.cell;
    s.n = static_cast<int>(std::ceil(wish.side / std::max(1e-6, wish.cell) - 1e-6)) + 1;
    if (!(wish.cell > 0.0) || !(wish.side > 0.0) || s.n > most || s.n < 2)
        throw inputError(doing, out.string(),
                         "it would have " + std::to_string(s.n) + " samples a side: choose another size or cell");
    // Half of it and a little more ahead of the camera, on whole cells of the world.
    Vec3 way = camera.aim - camera.position;
    way.y = 0.f;
    const Vec3 middle = camera.position +
                        (way.length2() > 1e-8f ? way.normalized() : Vec3(0.f)) * static_cast<float>(0.45 * wish.side);
    s.x0 = std::round((double(middle.x) - 0.5 * wish.side) / s.cell) * s.cell;
    s.z0 = std::round((double(middle.z) - 0.5 * wish.side) / s.cell) * s.cell;
    return s;
}

void writeSurface(const std::filesystem::path& out, const media::OpenWater& water, const Square& s, JobControl& job)
{
    geometry::Mesh mesh;
    mesh.name = "water";
    const auto n = static_cast<std::size_t>(s.n);
    mesh.positions.resize(n * n);
    mesh.normals.resize(n * n);
    std::vector<std::uint8_t> holds(n * n, 0);
    parallelFor(n, [&](std::size_t row) {
        for (std::size_t i = 0; i < n && !job.cancelled(); ++i) {
            const Vec2 p = s.at(static_cast<int>(i), static_cast<int>(row));
            const media::SwellSample w = water.at(p, static_cast<float>(s.cell));
            const std::size_t k = row * n + i;
            mesh.positions[k] = Vec3(p.x + w.dx, water.level() + w.height, p.y + w.dz);
            mesh.normals[k] = w.normal();
            holds[k] = water.holds(p);
        }
    });
    job.check();
    std::vector<std::uint32_t> number(n * n, 0);
    std::uint32_t count = 0;
    for (std::size_t k = 0; k < n * n; ++k)
        if (holds[k]) {
            number[k] = count;
            mesh.positions[count] = mesh.positions[k];
            mesh.normals[count++] = mesh.normals[k];
        }
    mesh.positions.resize(count);
    mesh.normals.resize(count);
    for (std::size_t j = 0; j + 1 < n; ++j)
        for (std::size_t i = 0; i + 1 < n; ++i) {
            const std::size_t a = j * n + i, b = a + 1, c = a + n, d = c + 1;
            if (holds[a] && holds[b] && holds[c] && holds[d])
                mesh.indices.insert(mesh.indices.end(),
                                    {number[a], number[c], number[b], number[b], number[c], number[d]});
        }
    if (mesh.indices.empty())
        throw inputError(doing, out.string(), "none of the water lies ahead of the camera within that size");
    geometry::writeMesh(out, mesh, doing);
}

void writeMaps(const std::filesystem::path& out, const media::OpenWater& water, Square s, bool tiles, JobControl& job)
{
    const auto& all = water.field().modes().tiles();
    if (tiles) {
        if (all.empty())
            throw inputError(doing, out.string(), "the water is calm: it has no tile of waves");
        s.n = all.front().n;
        s.cell = all.front().length / s.n;
        s.x0 = s.z0 = 0.0;
    }
    image::Image picture(
        s.n, s.n,
        {"displacement.x", "displacement.y", "displacement.z", "normal.x", "normal.y", "normal.z", "jacobian", "foam"});
    parallelFor(static_cast<std::size_t>(s.n), [&](std::size_t row) {
        for (int x = 0; x < s.n && !job.cancelled(); ++x) {
            const Vec2 p = s.at(x, static_cast<int>(row));
            const media::SwellSample w = tiles ? water.field().at(p.x, p.y, 0.f, 1)
                                               : water.at(p, static_cast<float>(s.cell));
            const Vec3 normal = w.normal();
            // (Foam of an age lies where chance looks for it: the mean of some looks.)
            constexpr int looks = 8;
            float foam = tiles ? water.whiteAt(w.jacobian()) : 0.f;
            for (int k = 0; k < looks && !tiles; ++k)
                foam += water.foamAt(p, static_cast<float>(s.cell), static_cast<std::uint32_t>(k)).cover / looks;
            const std::array<float, 8> values{w.dx, w.height, w.dz, normal.x, normal.y, normal.z, w.jacobian(), foam};
            std::copy(values.begin(), values.end(), picture.at(x, static_cast<int>(row)));
        }
    });
    job.check();
    image::writeExr(out, picture,
                    {{"hygros/x", formatNumber(s.x0, 9)},
                     {"hygros/z", formatNumber(s.z0, 9)},
                     {"hygros/level", formatNumber(double(water.level()), 9)},
                     {"hygros/metresPerPixel", formatNumber(s.cell, 9)}});
}
} // namespace

void exportWater(const scene::Project& project, const std::string& element, const std::filesystem::path& out,
                 const WaterWish& wish, Store& store, JobControl& job)
{
    const bool isMesh = geometry::isMeshFile(out);
    if (!isMesh && out.extension() != ".exr")
        throw inputError(doing, out.string(),
                         std::string("the file's name must end in ") + geometry::meshFileEndings +
                             " (the surface) or .exr (its maps)");
    const auto shot = freeze(project, store, job);
    const media::OpenWater& water = waterOf(project, element, *shot);
    const Square s = squareOf(wish, shot->camera, out);
    isMesh ? writeSurface(out, water, s, job) : writeMaps(out, water, s, wish.tiles, job);
}

Buoy buoyAt(const scene::Project& project, const std::string& element, double x, double z, int first, int last,
            Store& store, JobControl& job)
{
    Buoy out;
    scene::Project now = project;
    for (int f = first; f <= last; ++f) {
        job.check();
        job.report(static_cast<float>(f - first) / static_cast<float>(std::max(1, last - first)), "Measuring waves");
        now.frame = f;
        const auto shot = freeze(now, store, job);
        const media::OpenWater& water = waterOf(project, element, *shot);
        if (!water.holds(Vec2(static_cast<float>(x), static_cast<float>(z))))
            throw inputError(doing, element, "there is no water at that place");
        out.seconds.push_back(project.time.seconds(f));
        out.heights.push_back(
            double(water.heightAt(static_cast<float>(x), static_cast<float>(z), 1e-3f) - water.level()));
        const media::Swell& swell = water.field().modes().swell();
        out.spectrumHeight = swell.significantHeight();
        out.spectrumPeriod = swell.meanPeriod();
    }
    const auto n = static_cast<double>(out.heights.size());
    double mean = 0.0, square = 0.0;
    for (const double h : out.heights)
        mean += h / n;
    for (const double h : out.heights)
        square += (h - mean) * (h - mean) / n;
    out.significantHeight = 4.0 * std::sqrt(square);
    std::vector<double> crossings;
    for (std::size_t i = 1; i < out.heights.size(); ++i) {
        const double a = out.heights[i - 1] - mean, b = out.heights[i] - mean;
        if (a < 0.0 && b >= 0.0)
            crossings.push_back(out.seconds[i - 1] + a / (a - b) * (out.seconds[i] - out.seconds[i - 1]));
    }
    if (crossings.size() >= 2)
        out.meanPeriod = (crossings.back() - crossings.front()) / static_cast<double>(crossings.size() - 1);
    return out;
}

void exportBuoy(const scene::Project& project, const std::string& element, double x, double z, int first, int last,
                const std::filesystem::path& out, Store& store, JobControl& job)
{
    const Buoy b = buoyAt(project, element, x, z, first, last, store, job);
    std::string text = "# buoy at x " + formatNumber(x, 9) + " m, z " + formatNumber(z, 9) +
                       " m\n# significant height " + formatNumber(b.significantHeight, 4) + " m (the spectrum's " +
                       formatNumber(b.spectrumHeight, 4) + " m), mean period " + formatNumber(b.meanPeriod, 4) +
                       " s (the spectrum's " + formatNumber(b.spectrumPeriod, 4) + " s)\nframe,seconds,height\n";
    for (std::size_t i = 0; i < b.heights.size(); ++i)
        text += std::to_string(first + static_cast<int>(i)) + "," + formatNumber(b.seconds[i], 9) + "," +
                formatNumber(b.heights[i], 6) + "\n";
    writeTextAtomically(out, text);
}
} // namespace hygros::elements
