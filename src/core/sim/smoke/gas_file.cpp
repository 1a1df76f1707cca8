#include "sim/smoke/gas_file.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/parallel.h"
#include "base/simd.h"

#include <openvdb/io/Stream.h>
#include <openvdb/openvdb.h>
#include <sstream>

namespace hygros::sim {
namespace {
constexpr const char* doing = "Reading a baked gas";
constexpr float grams = 1000.f;
using openvdb::Coord;
using openvdb::FloatGrid;
using openvdb::VectorGrid;

Error damaged(const std::string& why) { return inputError(doing, "frame", why, "Bake it again."); }

struct Blocks {
    const Lattice& l;
    template <class Body> void each(const std::vector<std::uint8_t>& on, const Body& body) const
    {
        const auto b = l.blocks();
        for (int bz = 0; bz < b[2]; ++bz)
            for (int by = 0; by < b[1]; ++by)
                for (int bx = 0; bx < b[0]; ++bx)
                    if (on[l.block(bx, by, bz)])
                        body(bx * 8, by * 8, bz * 8);
    }
};

template <class Grid, class Get>
typename Grid::Ptr gridOf(const Gas& gas, const char* name, const std::vector<std::uint8_t>& on, const Get& get)
{
    typename Grid::Ptr grid = Grid::create();
    grid->setName(name);
    grid->setGridClass(openvdb::GRID_FOG_VOLUME);
    grid->setSaveFloatAsHalf(true);
    openvdb::Mat4d toWorld = openvdb::Mat4d::identity();
    toWorld.setToScale(openvdb::Vec3d(static_cast<double>(gas.lattice.h)));
    const Vec3 first = gas.lattice.middle(0, 0, 0);
    toWorld.postTranslate(
        openvdb::Vec3d(static_cast<double>(first.x), static_cast<double>(first.y), static_cast<double>(first.z)));
    grid->setTransform(openvdb::math::Transform::createLinearTransform(toWorld));
    Blocks{gas.lattice}.each(on, [&](int x, int y, int z) {
        auto* leaf = grid->tree().touchLeaf(Coord(x, y, z));
        leaf->setValuesOn();
        auto* values = leaf->buffer().data();
        for (int i = 0; i < 8; ++i)
            for (int j = 0; j < 8; ++j)
                for (int k = 0; k < 8; ++k)
                    values[(i * 8 + j) * 8 + k] = get(gas.lattice.at(x + i, y + j, z + k));
    });
    return grid;
}
/// Floats as a half file has them, so that going on from it is going on from what was.
openvdb::GridPtrVec gridsOf(std::span<const char> bytes, openvdb::MetaMap::Ptr* meta = nullptr)
{
    openvdb::initialize();
    try {
        std::istringstream in(std::string(bytes.data(), bytes.size()), std::ios_base::binary);
        openvdb::io::Stream stream(in);
        if (meta)
            *meta = stream.getMetadata();
        const auto grids = stream.getGrids();
        if (!grids)
            throw damaged("it holds no grids");
        return *grids;
    } catch (const openvdb::Exception& e) {
        throw damaged(std::string("it is damaged (") + e.what() + ")");
    } catch (const std::bad_alloc&) { // of a size that nobody wrote
        throw damaged("it is damaged (a size in it is none)");
    } catch (const std::length_error&) {
        throw damaged("it is damaged (a size in it is none)");
    }
}
template <class Grid> typename Grid::Ptr named(const openvdb::GridPtrVec& grids, const char* name)
{
    for (const auto& g : grids)
        if (g->getName() == name)
            if (auto typed = openvdb::gridPtrCast<Grid>(g))
                return typed;
    throw damaged(std::string("it has no grid '") + name + "'");
}
float number(const openvdb::MetaMap& meta, const char* name)
{
    const auto m = meta.getMetadata<openvdb::FloatMetadata>(name);
    if (!m)
        throw damaged(std::string("it does not say its ") + name);
    return m->value();
}
} // namespace

std::string written(const Gas& gas, float around)
{
    openvdb::initialize();
    const auto on = gas.activity.on(), ends = gas.activity.withEnds(gas.lattice);
    const auto from = [](const Field& f) { return [data = f.data()](std::ptrdiff_t i) { return data[i]; }; };
    openvdb::GridPtrVec grids(5);
    const auto soot = [data = gas.soot.data()](std::ptrdiff_t i) { return data[i] * grams; };
    parallelFor(grids.size(), [&](std::size_t which) {
        switch (which) {
        case 0:
            grids[4] = gridOf<openvdb::Vec3SGrid>(gas, "vel", ends, [&](std::ptrdiff_t i) {
                return openvdb::Vec3s(gas.x.data()[i], gas.y.data()[i], gas.z.data()[i]);
            });
            break;
        case 1: grids[0] = gridOf<FloatGrid>(gas, "density", on, soot); break;
        case 2: grids[1] = gridOf<FloatGrid>(gas, "temperature", on, from(gas.heat)); break;
        case 3: grids[2] = gridOf<FloatGrid>(gas, "fuel", on, from(gas.fuel)); break;
        default: grids[3] = gridOf<FloatGrid>(gas, "pressure", on, from(gas.pressure));
        }
    });
    grids.back()->setGridClass(openvdb::GRID_STAGGERED);
    grids[0]->insertMeta("unit", openvdb::StringMetadata("g/m3"));
    grids[1]->insertMeta("unit", openvdb::StringMetadata("K over the air"));
    grids[4]->insertMeta("unit", openvdb::StringMetadata("m/s"));
    openvdb::MetaMap meta;
    meta.insertMeta("voxel", openvdb::FloatMetadata(gas.lattice.h));
    meta.insertMeta("around", openvdb::FloatMetadata(around));
    meta.insertMeta("let go", openvdb::DoubleMetadata(gas.letGo));
    meta.insertMeta("fastest", openvdb::FloatMetadata(gas.fastest));
    meta.insertMeta("step", openvdb::FloatMetadata(gas.seconds));
    meta.insertMeta("size",
                    openvdb::Vec3IMetadata(openvdb::Vec3i(gas.lattice.n[0], gas.lattice.n[1], gas.lattice.n[2])));
    meta.insertMeta("origin", openvdb::Vec3SMetadata(
                                  openvdb::Vec3s(gas.lattice.origin.x, gas.lattice.origin.y, gas.lattice.origin.z)));
    std::ostringstream out(std::ios_base::binary);
    openvdb::io::Stream stream(out);
    stream.setCompression(openvdb::io::COMPRESS_ACTIVE_MASK | openvdb::io::COMPRESS_BLOSC);
    stream.write(grids, meta);
    // The library marks each stream by a random number; the same gas is to be the same bytes.
    std::string bytes = std::move(out).str();
    constexpr std::size_t mark = 8 + 4 + 4 + 4 + 1;
    const std::string none = "00000000-0000-0000-0000-000000000000";
    if (bytes.size() > mark + none.size())
        std::copy(none.begin(), none.end(), bytes.begin() + mark);
    return bytes;
}

void roundAsWritten(Gas& gas)
{
    const Lattice& l = gas.lattice;
    const auto round8 = [](F8 v) {
        const F8 r = _mm256_cvtph_ps(_mm256_cvtps_ph(v, _MM_FROUND_TO_NEAREST_INT | _MM_FROUND_NO_EXC));
        return select(abs8(r) < 1e30f, r, f8(0.f)); // too large for a half, or not a number
    };
    const auto all = [&](const std::vector<std::uint8_t>& on, Field& field, float times) {
        const auto b = l.blocks();
        parallelFor(static_cast<std::size_t>(b[1]) * static_cast<std::size_t>(b[2]), [&](std::size_t line) {
            const int by = static_cast<int>(line) % b[1], bz = static_cast<int>(line) / b[1];
            for (int bx = 0; bx < b[0]; ++bx)
                if (on[l.block(bx, by, bz)])
                    for (int z = 0; z < Lattice::side; ++z)
                        for (int y = 0; y < Lattice::side; ++y) {
                            float* v = field.data() +
                                       l.at(bx * Lattice::side, by * Lattice::side + y, bz * Lattice::side + z);
                            store8(v, times == 1.f ? round8(load8(v)) : round8(load8(v) * times) / times);
                        }
        });
    };
    for (Field* f : {&gas.heat, &gas.fuel, &gas.pressure})
        all(gas.activity.on(), *f, 1.f);
    all(gas.activity.on(), gas.soot, grams);
    const auto ends = gas.activity.withEnds(l);
    for (Field* f : {&gas.x, &gas.y, &gas.z})
        all(ends, *f, 1.f);
}

std::shared_ptr<Gas> readGas(std::span<const char> bytes)
{
    openvdb::MetaMap::Ptr meta;
    const auto grids = gridsOf(bytes, &meta);
    Lattice l;
    l.h = number(*meta, "voxel");
    const auto size = meta->getMetadata<openvdb::Vec3IMetadata>("size");
    const auto origin = meta->getMetadata<openvdb::Vec3SMetadata>("origin");
    if (!size || !origin || !(l.h > 0.f))
        throw damaged("it does not say its size");
    for (int a = 0; a < 3; ++a) {
        const int n = size->value()[a];
        if (n < 8 || n % 8 != 0 || n > 4096)
            throw damaged("its size is no size");
        l.n[static_cast<std::size_t>(a)] = n;
        l.origin[a] = origin->value()[a];
    }
    // Cells are kept one by one: a box that so few bytes cannot have come from takes memory for nothing.
    constexpr std::size_t most = std::size_t{1} << 28, cellsAByte = 30000;
    if (l.size() > most || l.size() > cellsAByte * bytes.size())
        throw damaged("its size is no size");
    auto gas = Gas::still(l);
    gas->fastest = number(*meta, "fastest");
    if (const auto step = meta->getMetadata<openvdb::FloatMetadata>("step"))
        gas->seconds = step->value();
    if (const auto letGo = meta->getMetadata<openvdb::DoubleMetadata>("let go"))
        gas->letGo = letGo->value();
    const auto place = [&](const auto& values, const auto& put) {
        for (auto leaf = values->tree().cbeginLeaf(); leaf; ++leaf) {
            const Coord o = leaf->origin();
            if (o.x() < 0 || o.y() < 0 || o.z() < 0 || o.x() >= l.n[0] || o.y() >= l.n[1] || o.z() >= l.n[2])
                throw damaged("it has voxels outside of its box");
            for (int i = 0; i < 8; ++i)
                for (int j = 0; j < 8; ++j)
                    for (int k = 0; k < 8; ++k)
                        put(l.at(o.x() + i, o.y() + j, o.z() + k),
                            leaf->getValue(static_cast<openvdb::Index>((i * 8 + j) * 8 + k)));
        }
    };
    const auto into = [](Field& f) {
        return [data = f.data()](std::ptrdiff_t i, float v) { data[i] = std::isfinite(v) ? v : 0.f; };
    };
    const auto density = named<FloatGrid>(grids, "density");
    std::vector<std::uint8_t> on(l.blockCount(), 0);
    place(density,
          [data = gas->soot.data()](std::ptrdiff_t i, float v) { data[i] = std::isfinite(v) ? v / grams : 0.f; });
    for (auto leaf = density->tree().cbeginLeaf(); leaf; ++leaf)
        on[l.block(leaf->origin().x() / 8, leaf->origin().y() / 8, leaf->origin().z() / 8)] = 1;
    gas->activity = Activity(l, std::move(on));
    place(named<FloatGrid>(grids, "temperature"), into(gas->heat));
    place(named<FloatGrid>(grids, "fuel"), into(gas->fuel));
    place(named<FloatGrid>(grids, "pressure"), into(gas->pressure));
    place(named<openvdb::Vec3SGrid>(grids, "vel"), [&](std::ptrdiff_t i, const openvdb::Vec3s& v) {
        gas->x.data()[i] = std::isfinite(v[0]) ? v[0] : 0.f;
        gas->y.data()[i] = std::isfinite(v[1]) ? v[1] : 0.f;
        gas->z.data()[i] = std::isfinite(v[2]) ? v[2] : 0.f;
    });
    return gas;
}

namespace {
/// Of a number over the air; what is no warmer than the air is 0.
float absolute(float over, float around) { return over > 0.5f ? over + around : 0.f; }
} // namespace

void exportGas(std::span<const char> bytes, const std::filesystem::path& file)
{
    openvdb::MetaMap::Ptr meta;
    openvdb::GridPtrVec grids = gridsOf(bytes, &meta);
    const float around = number(*meta, "around");
    const auto heat = named<FloatGrid>(grids, "temperature");
    for (auto value = heat->beginValueOn(); value; ++value)
        value.setValue(absolute(*value, around));
    heat->insertMeta("unit", openvdb::StringMetadata("K"));
    writeAtomically(file, [&](const std::filesystem::path& aside) {
        try {
            openvdb::io::File out(aside.string());
            out.setCompression(openvdb::io::COMPRESS_ACTIVE_MASK | openvdb::io::COMPRESS_BLOSC);
            out.write(grids, *meta);
            out.close();
        } catch (const openvdb::Exception& e) {
            throw workingError("Exporting a volume to", file.string(), e.what());
        }
    });
}

SeenGas seenGas(std::span<const char> bytes, JobControl& job)
{
    openvdb::MetaMap::Ptr meta;
    const auto grids = gridsOf(bytes, &meta);
    const float around = number(*meta, "around");
    const auto load = [&](const char* name, bool warm) {
        const FloatGrid::Ptr grid = named<FloatGrid>(grids, name);
        std::vector<float> values;
        std::vector<media::BrickGrid::Block> blocks;
        values.resize(static_cast<std::size_t>(grid->tree().leafCount()) * 512);
        float* at = values.data();
        for (auto leaf = grid->tree().cbeginLeaf(); leaf; ++leaf, at += 512) {
            for (openvdb::Index i = 0; i < 512; ++i) {
                const float v = leaf->getValue(i);
                at[i] = warm ? absolute(v, around) : v;
            }
            blocks.push_back({leaf->origin().x() / 8, leaf->origin().y() / 8, leaf->origin().z() / 8, at, 0.f});
        }
        media::LoadedGrid out;
        out.values = media::BrickGrid::fromBlocks(blocks, job);
        const auto h = static_cast<float>(grid->voxelSize()[0]);
        const auto first = grid->indexToWorld(Coord(0, 0, 0));
        Mat4 scale, move;
        scale.setScale(Vec3(h));
        move.setTranslation(
            Vec3(static_cast<float>(first[0]), static_cast<float>(first[1]), static_cast<float>(first[2])));
        out.toWorld = scale * move;
        return out;
    };
    return {load("density", false), load("temperature", true)};
}
} // namespace hygros::sim
