#include "media/vdb_inside.h"

#include "base/atomic_file.h"

#include <cctype>
#include <map>
#include <openvdb/io/Stream.h>
#include <openvdb/tools/LevelSetUtil.h>
#include <optional>
#include <sstream>
#include <tbb/task_arena.h>

namespace hygros::media {
namespace {
std::string kindOf(const vdb::GridBase& grid)
{
    switch (grid.getGridClass()) {
    case vdb::GRID_FOG_VOLUME: return "fog";
    case vdb::GRID_LEVEL_SET: return "level set";
    case vdb::GRID_STAGGERED: return "staggered";
    default: return "unknown";
    }
}

double sizeOf(double v) { return v; }
double sizeOf(float v) { return static_cast<double>(v); }
double sizeOf(std::int32_t v) { return v; }
template <class T> double sizeOf(const vdb::math::Vec3<T>& v) { return static_cast<double>(v.length()); }

template <class Grid> void measure(const Grid& grid, VdbGrid& out)
{
    bool first = true;
    for (auto it = grid.cbeginValueOn(); it; ++it) {
        const double v = sizeOf(*it);
        out.least = first ? v : std::min(out.least, v);
        out.most = first ? v : std::max(out.most, v);
        first = false;
    }
}

/// Calls use(grid) with its real type where it is one of numbers or vectors.
template <class Use> bool typed(const vdb::GridBase::Ptr& base, const Use& use)
{
    const auto as = [&]<class Grid>(Grid*) {
        if (!base->isType<Grid>())
            return false;
        use(*vdb::gridPtrCast<Grid>(base));
        return true;
    };
    return as(static_cast<vdb::FloatGrid*>(nullptr)) || as(static_cast<vdb::Vec3SGrid*>(nullptr)) ||
           as(static_cast<vdb::DoubleGrid*>(nullptr)) || as(static_cast<vdb::Int32Grid*>(nullptr)) ||
           as(static_cast<vdb::Vec3DGrid*>(nullptr));
}

Vec3 worldOf(const vdb::math::Transform& t, const vdb::Vec3d& p)
{
    const vdb::Vec3d w = t.indexToWorld(p);
    return {static_cast<float>(w.x()), static_cast<float>(w.y()), static_cast<float>(w.z())};
}

VdbGrid described(const vdb::GridBase::Ptr& grid)
{
    VdbGrid g;
    g.name = grid->getName();
    g.type = grid->valueType();
    if (grid->saveFloatAsHalf() && (g.type == "float" || g.type == "vec3s"))
        g.type = g.type == "float" ? "half" : "vec3 of half";
    g.kind = kindOf(*grid);
    const vdb::Vec3d v = grid->voxelSize();
    g.voxel = Vec3(static_cast<float>(v.x()), static_cast<float>(v.y()), static_cast<float>(v.z()));
    g.active = grid->activeVoxelCount();
    g.bytes = grid->memUsage();
    g.vector = grid->valueType().starts_with("vec3");
    const vdb::CoordBBox box = grid->evalActiveVoxelBoundingBox();
    if (!box.empty()) {
        Box3 world;
        for (int k = 0; k < 8; ++k)
            world.extendBy(worldOf(grid->transform(), vdb::Vec3d(k & 1 ? box.max().x() + 0.5 : box.min().x() - 0.5,
                                                                 k & 2 ? box.max().y() + 0.5 : box.min().y() - 0.5,
                                                                 k & 4 ? box.max().z() + 0.5 : box.min().z() - 0.5)));
        g.low = world.min;
        g.high = world.max;
    }
    typed(grid, [&](auto& real) { measure(real, g); });
    return g;
}

} // namespace

std::vector<VdbGrid> vdbGrids(const std::filesystem::path& path)
{
    return opened(path, [&](vdb::io::File& file, const std::set<std::string>& unknown) {
        std::vector<VdbGrid> out;
        for (auto name = file.beginName(); name != file.endName(); ++name)
            out.push_back(described(unknown.count(name.gridName()) ? file.readGridMetadata(name.gridName())
                                                                   : file.readGrid(name.gridName())));
        return out;
    });
}

LoadedGrid loadVdb(const std::filesystem::path& path, const std::string& wanted, JobControl& job)
{
    return opened(path, [&](vdb::io::File& file, const std::set<std::string>& unknown) {
        std::vector<std::string> names;
        for (auto name = file.beginName(); name != file.endName(); ++name)
            names.push_back(name.gridName());
        std::string list;
        for (const std::string& n : names)
            list += (list.empty() ? "'" : ", '") + n + "'";
        if (names.empty())
            throw inputError(doing, path.string(), "there is no grid in it");
        if (wanted.empty() && names.size() > 1)
            throw inputError(doing, path.string(), "there are several grids in it and none was chosen",
                             "Choose one of " + list + ".");
        if (!wanted.empty() && std::find(names.begin(), names.end(), wanted) == names.end())
            throw inputError(doing, path.string(), "there is no grid '" + wanted + "' in it",
                             "There are " + list + ".");
        if (unknown.count(wanted.empty() ? names.front() : wanted))
            throw inputError(doing, path.string(),
                             "grid '" + (wanted.empty() ? names.front() : wanted) +
                                 "' holds neither plain numbers nor vectors on an even lattice",
                             "Convert it to a grid of numbers.");
        job.report(0.05f, "reading " + path.filename().string());
        vdb::GridBase::Ptr grid = file.readGrid(wanted.empty() ? names.front() : wanted);
        job.check();
        LoadedGrid out;
        const vdb::math::Transform& place = grid->transform();
        if (!place.isLinear())
            throw inputError(doing, path.string(), "grid '" + grid->getName() + "' lies in a tapering frame",
                             "Resample it to an even lattice.");
        const vdb::Mat4d m = place.baseMap()->getAffineMap()->getMat4();
        for (int r = 0; r < 4; ++r)
            for (int c = 0; c < 4; ++c) {
                if (!std::isfinite(m(r, c)))
                    throw inputError(doing, path.string(),
                                     "the place of grid '" + grid->getName() + "' is not a number");
                out.toWorld[r][c] = static_cast<float>(m(r, c));
            }
        job.report(0.5f, "preparing " + grid->getName());
        const bool known = typed(grid, [&](auto& real) {
            using Grid = std::decay_t<decltype(real)>;
            if constexpr (std::is_same_v<Grid, vdb::FloatGrid>)
                if (real.getGridClass() == vdb::GRID_LEVEL_SET) {
                    vdb::tools::sdfToFogVolume(real);
                    out.notes.push_back("'" + real.getName() + "' is a level set; it was turned into fog.");
                }
            out.values = bricksOf(real, 0, job);
            if constexpr (vdb::VecTraits<typename Grid::ValueType>::IsVec)
                for (int c = 1; c < 3; ++c)
                    out.more[c - 1] = bricksOf(real, c, job);
        });
        if (!known)
            throw inputError(doing, path.string(),
                             "grid '" + grid->getName() + "' holds " + grid->valueType() +
                                 ", which is neither numbers nor vectors");
        if (out.values->refused() > 0 && !out.more[0])
            out.notes.push_back(std::to_string(out.values->refused()) + " values of '" + grid->getName() +
                                "' are negative or not a number; they count as 0.");
        if (out.values->empty() && (!out.more[0] || (out.more[0]->empty() && out.more[1]->empty())))
            out.notes.push_back("'" + grid->getName() + "' is empty.");
        // Freeing a hundred thousand leaves takes a while, and nobody waits for it.
        tbb::this_task_arena::enqueue([old = std::move(grid)] { static_cast<void>(old); });
        return out;
    });
}

std::string guessedGrid(const std::vector<VdbGrid>& grids, const std::string& what)
{
    static const std::map<std::string, std::vector<std::string>> names{
        {"density", {"density", "dens", "smoke", "soot", "fog", "cloud"}},
        {"temperature", {"temperature", "temp", "heat"}},
        {"emission", {"emission", "flame", "flames", "fire", "burn", "fuel"}},
        {"velocity", {"velocity", "vel", "v"}},
        {"colour", {"color", "colour", "cd", "albedo", "rgb"}},
    };
    const auto known = names.find(what);
    if (known == names.end())
        return {};
    const bool vector = what == "velocity" || what == "colour";
    const auto lower = [](std::string s) {
        for (char& c : s)
            c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return s;
    };
    for (const std::string& name : known->second)
        for (const VdbGrid& g : grids)
            if (g.vector == vector && lower(g.name) == name)
                return g.name;
    for (const std::string& name : known->second)
        for (const VdbGrid& g : grids)
            if (name.size() > 2 && g.vector == vector && lower(g.name).find(name) != std::string::npos)
                return g.name;
    if (what != "density")
        return {};
    std::string only;
    for (const VdbGrid& g : grids)
        if (!g.vector) {
            if (!only.empty())
                return {};
            only = g.name;
        }
    return only;
}

namespace {
void writeGrids(const std::filesystem::path& path, const vdb::GridPtrVec& grids, JobControl& job)
{
    job.report(0.7f, "writing " + path.filename().string());
    try {
        writeAtomically(path, [&](const std::filesystem::path& temporary) {
            vdb::io::File file(temporary.string());
            file.setCompression(vdb::io::COMPRESS_BLOSC | vdb::io::COMPRESS_ACTIVE_MASK);
            file.write(grids);
            file.close();
        });
    } catch (const vdb::Exception& e) {
        throw workingError("Writing volumes to", path.string(), e.what(), "What was there before was kept.");
    }
    job.report(1.f, "written");
}
} // namespace

void writeVdb(const std::filesystem::path& path, const std::vector<VdbOut>& grids, const Mat4& toWorld, JobControl& job,
              bool half, float background)
{
    start();
    vdb::GridPtrVec out;
    vdb::Mat4d place;
    for (int r = 0; r < 4; ++r)
        for (int c = 0; c < 4; ++c)
            place(r, c) = static_cast<double>(toWorld[r][c]);
    for (std::size_t n = 0; n < grids.size(); ++n) {
        const VdbOut& g = grids[n];
        job.report(0.7f * static_cast<float>(n) / static_cast<float>(grids.size()), "gathering " + g.name);
        vdb::GridBase::Ptr made;
        const auto fill = [&](const auto& created, const auto& valueAt, const auto& counts) {
            auto to = created->getAccessor();
            std::size_t i = 0;
            for (int x = 0; x < g.size[0]; ++x) {
                job.check();
                for (int y = 0; y < g.size[1]; ++y)
                    for (int z = 0; z < g.size[2]; ++z, ++i)
                        if (counts(i))
                            to.setValue(vdb::Coord(g.low[0] + x, g.low[1] + y, g.low[2] + z), valueAt(i));
            }
            made = created;
        };
        if (g.vector)
            fill(
                vdb::Vec3SGrid::create(),
                [&](std::size_t i) { return vdb::Vec3s(g.values[i * 3], g.values[i * 3 + 1], g.values[i * 3 + 2]); },
                [&](std::size_t i) {
                    return std::abs(g.values[i * 3]) > background || std::abs(g.values[i * 3 + 1]) > background ||
                           std::abs(g.values[i * 3 + 2]) > background;
                });
        else
            fill(
                vdb::FloatGrid::create(), [&](std::size_t i) { return g.values[i]; },
                [&](std::size_t i) { return std::abs(g.values[i]) > background; });
        made->setName(g.name);
        made->setGridClass(vdb::GRID_FOG_VOLUME);
        made->setSaveFloatAsHalf(half);
        made->setTransform(vdb::math::Transform::createLinearTransform(place));
        made->insertMeta("creator", vdb::StringMetadata("Hygros"));
        out.push_back(made);
    }
    writeGrids(path, out, job);
}

void copyVdb(const std::filesystem::path& from, const std::filesystem::path& to, const Mat4& place, JobControl& job)
{
    vdb::Mat4d moved;
    for (int r = 0; r < 4; ++r)
        for (int c = 0; c < 4; ++c)
            moved(r, c) = static_cast<double>(place[r][c]);
    vdb::GridPtrVec grids;
    opened(from, [&](vdb::io::File& file, const std::set<std::string>& unknown) {
        for (auto name = file.beginName(); name != file.endName(); ++name) {
            if (unknown.count(name.gridName()))
                continue;
            job.report(0.1f, "reading " + name.gridName());
            job.check();
            grids.push_back(file.readGrid(name.gridName()));
            if (place != Mat4())
                grids.back()->transform().postMult(moved);
        }
        return 0;
    });
    writeGrids(to, grids, job);
}
} // namespace hygros::media
