/// Voxel grids and OpenVDB files: what is read is what was written, and what a ray meets is what is there.
#include "base/error.h"
#include "base/random.h"
#include "base/store.h"
#include "elements/kinds.h"
#include "media/vdb.h"
#include "media/volume.h"
#include "media/volume_export.h"
#include "support.h"

#include <QProcess>
#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using media::BrickGrid;
using Grid = std::shared_ptr<const BrickGrid>;

namespace {
/// A grid from a formula at whole places, and the formula's own trilinear value.
struct Dense {
    std::array<int, 3> low, size;
    std::vector<float> values;
    float at(int x, int y, int z) const
    {
        const int p[3] = {x - low[0], y - low[1], z - low[2]};
        for (std::size_t a = 0; a < 3; ++a)
            if (p[a] < 0 || p[a] >= size[a])
                return 0.f;
        return values[(static_cast<std::size_t>(p[0]) * static_cast<std::size_t>(size[1]) +
                       static_cast<std::size_t>(p[1])) *
                          static_cast<std::size_t>(size[2]) +
                      static_cast<std::size_t>(p[2])];
    }
    double trilinear(const Vec3& p) const
    {
        const int x = static_cast<int>(std::floor(p.x)), y = static_cast<int>(std::floor(p.y)),
                  z = static_cast<int>(std::floor(p.z));
        double total = 0.0;
        for (int k = 0; k < 8; ++k) {
            const int i = k & 1, j = (k >> 1) & 1, l = k >> 2;
            const double u = double(p.x) - x, v = double(p.y) - y, w = double(p.z) - z;
            total += (i ? u : 1 - u) * (j ? v : 1 - v) * (l ? w : 1 - w) * double(at(x + i, y + j, z + l));
        }
        return total;
    }
};
Dense dense(std::array<int, 3> low, std::array<int, 3> size, const std::function<float(int, int, int)>& f)
{
    Dense d{low, size, {}};
    for (int x = 0; x < size[0]; ++x)
        for (int y = 0; y < size[1]; ++y)
            for (int z = 0; z < size[2]; ++z)
                d.values.push_back(f(low[0] + x, low[1] + y, low[2] + z));
    return d;
}
std::shared_ptr<const BrickGrid> gridOf(const Dense& d)
{
    std::vector<std::vector<float>> kept;
    std::vector<BrickGrid::Block> blocks;
    const auto down = [](int v) { return static_cast<int>(std::floor(v / 8.0)); };
    for (int x = down(d.low[0]); x <= down(d.low[0] + d.size[0] - 1); ++x)
        for (int y = down(d.low[1]); y <= down(d.low[1] + d.size[1] - 1); ++y)
            for (int z = down(d.low[2]); z <= down(d.low[2] + d.size[2] - 1); ++z) {
                kept.emplace_back();
                for (int i = 0; i < 512; ++i)
                    kept.back().push_back(d.at(x * 8 + i / 64, y * 8 + i / 8 % 8, z * 8 + i % 8));
                blocks.push_back({x, y, z, nullptr, 0.f});
            }
    for (std::size_t i = 0; i < kept.size(); ++i)
        blocks[i].values = kept[i].data();
    JobControl job;
    return BrickGrid::fromBlocks(blocks, job);
}
Dense puff()
{
    return dense({-13, -5, 3}, {34, 21, 27}, [](int x, int y, int z) {
        const float r = std::sqrt(static_cast<float>((x - 3) * (x - 3) + (y - 4) * (y - 4) * 2 + (z - 16) * (z - 16)));
        return std::max(0.f, 1.f - r / 12.f) * (0.6f + 0.4f * std::sin(static_cast<float>(x * 3 + y * 5 + z * 7)));
    });
}
Dense block()
{
    return dense({0, 0, 0}, {8, 8, 8}, [](int, int, int) { return 1.f; });
}
media::Volume volumeOf(std::shared_ptr<const BrickGrid> grid, const Mat4& toWorld, float sigma)
{
    media::Volume v;
    v.density = std::move(grid);
    v.sigmaT = sigma;
    v.place(toWorld);
    return v;
}
std::filesystem::path pathIn(const QTemporaryDir& dir, const char* name) { return dir.filePath(name).toStdString(); }
std::string bytesOf(const std::filesystem::path& file)
{
    std::ifstream in(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(in), {}};
}
} // namespace

class TestVolume : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void theGridIsTrilinearEverywhere()
    {
        const Dense d = puff();
        const Grid grid = gridOf(d);
        Random random(5);
        for (int i = 0; i < 4000; ++i) {
            F8 x, y, z;
            for (int k = 0; k < lanes; ++k) {
                x[k] = random.range(-18.f, 26.f);
                y[k] = random.range(-10.f, 20.f);
                z[k] = random.range(-2.f, 36.f);
            }
            const F8 v = grid->sample8(x, y, z);
            for (int k = 0; k < lanes; ++k) {
                const Vec3 p(x[k], y[k], z[k]);
                const double wanted = d.trilinear(p);
                QVERIFY2(
                    std::abs(double(v[k]) - wanted) < 6e-4 * wanted + 1e-5,
                    qPrintable(QString("%1 %2 %3: %4, not %5").arg(x[k]).arg(y[k]).arg(z[k]).arg(v[k]).arg(wanted)));
                QVERIFY(std::abs(grid->sample(p) - v[k]) <= 1e-6f);
            }
        }
        QVERIFY(grid->sample(Vec3(1e6f, 0.f, 0.f)) == 0.f && grid->sample(Vec3(-1e6f)) == 0.f);
    }

    void bricksCoverARayWithoutGapsAndBoundIt()
    {
        const Dense d = puff();
        const Grid grid = gridOf(d);
        Random random(9);
        for (int i = 0; i < 300; ++i) {
            const Vec3 o(random.range(-30, 40), random.range(-30, 40), random.range(-30, 60));
            Vec3 way = Vec3(3, 4, 16) + Vec3(random.range(-9, 9), random.range(-6, 6), random.range(-8, 8)) - o;
            if (i % 5 == 0)
                way[i / 5 % 3] = 0.f;
            way = way.normalized() * random.range(0.5f, 3.f);
            float before = -1.f;
            double covered = 0.0, whole = 0.0;
            grid->overBricks(o, way, 0.f, 200.f, [&](float a, float b, float bound) {
                if (a < before - 1e-3f || b <= a)
                    qFatal("stretches overlap");
                before = b;
                for (int k = 0; k < 100; ++k) {
                    const float v = grid->sample(o + way * (a + (b - a) * (static_cast<float>(k) + 0.5f) / 100.f));
                    if (v > bound)
                        qFatal("above its bound");
                    covered += static_cast<double>(v * (b - a) / 100.f);
                }
                return true;
            });
            constexpr int fine = 20000;
            for (int k = 0; k < fine; ++k)
                whole += static_cast<double>(grid->sample(o + way * (200.f * (static_cast<float>(k) + 0.5f) / fine)) *
                                             (200.f / fine));
            QVERIFY2(std::abs(covered - whole) < 0.01 * whole + 0.01,
                     qPrintable(QString("%1: %2, not %3").arg(i).arg(covered).arg(whole)));
        }
    }

    void halvesKeepWhatThereIs()
    {
        const Dense d = puff();
        const Grid grid = gridOf(d);
        JobControl job;
        const auto half = grid->halved(job);
        double whole = 0.0, halves = 0.0;
        for (const float v : d.values)
            whole += static_cast<double>(v);
        for (int x = -12; x < 20; ++x)
            for (int y = -8; y < 16; ++y)
                for (int z = -2; z < 20; ++z) {
                    const Vec3 p(static_cast<float>(x), static_cast<float>(y), static_cast<float>(z));
                    halves += 8.0 * static_cast<double>(half->sample(p));
                    double mean = 0.0;
                    for (int k = 0; k < 8; ++k)
                        mean += static_cast<double>(d.at(2 * x + (k & 1), 2 * y + ((k >> 1) & 1), 2 * z + (k >> 2))) /
                                8.0;
                    QVERIFY(std::abs(static_cast<double>(half->sample(p)) - mean) < 2e-3);
                }
        QVERIFY(std::abs(halves - whole) < 2e-3 * whole);
        const BrickGrid::Means means = grid->means(9);
        double mass = 0.0;
        for (const float v : means.values)
            mass += static_cast<double>(v) * std::pow(static_cast<double>(means.cell), 3);
        QVERIFY2(std::abs(mass - whole) < 0.02 * whole, qPrintable(QString("%1, not %2").arg(mass).arg(whole)));
    }

    void oddValuesCountAsNothingAndAreCounted()
    {
        Dense d = dense({0, 0, 0}, {8, 8, 8}, [](int, int, int) { return 1.f; });
        d.values[0] = -3.f;
        d.values[1] = std::nanf("");
        d.values[2] = std::numeric_limits<float>::infinity();
        const Grid grid = gridOf(d);
        QCOMPARE(grid->refused(), std::size_t(3));
        QCOMPARE(grid->most(), 1.f);
        QCOMPARE(grid->sample(Vec3(0.f)), 0.f);
        QVERIFY(gridOf(dense({0, 0, 0}, {9, 9, 9}, [](int, int, int) { return 0.f; }))->empty());
        // Two voxels at the ends of the world cannot be indexed, and it says so.
        const BrickGrid::Block far[2] = {{-1000000, -1000000, -1000000, nullptr, 1.f},
                                         {1000000, 1000000, 1000000, nullptr, 1.f}};
        JobControl job;
        THROWS_SAYING(BrickGrid::fromBlocks(far, job), "too far apart");
    }

    void wideRegionsOfOneValueAreStoredOnce()
    {
        std::vector<BrickGrid::Block> blocks;
        for (int x = 0; x < 60; ++x)
            for (int y = 0; y < 60; ++y)
                for (int z = 0; z < 60; ++z)
                    blocks.push_back({x, y, z, nullptr, 0.5f});
        JobControl job;
        const Grid grid = BrickGrid::fromBlocks(blocks, job);
        QVERIFY2(grid->bytes() < std::size_t(50) << 20,
                 qPrintable(QString::number(grid->bytes()))); // 110 million voxels
        QCOMPARE(grid->sample(Vec3(240.5f, 100.25f, 7.f)), 0.5f);
        QCOMPARE(grid->sample(Vec3(-0.5f, 100.f, 100.f)), 0.25f); // half way out
    }

    void aFileComesBackBitForBit()
    {
        const QTemporaryDir dir;
        const Dense d = puff();
        Mat4 place;
        place.setScale(Vec3(0.25f));
        Mat4 turn, move;
        turn.rotate(Vec3(0.3f, -1.1f, 0.2f));
        move.setTranslation(Vec3(5.f, -2.f, 40.f));
        place = place * turn * move;
        media::VdbOut density{"density", d.low, d.size, d.values, false},
            heat{"temperature", d.low, d.size, d.values, false}, velocity{"vel", d.low, d.size, {}, true};
        for (float& v : heat.values)
            v *= 1800.f;
        for (const float v : d.values)
            for (const float part : {v, -v, 2.f * v})
                velocity.values.push_back(part);
        JobControl job;
        media::writeVdb(pathIn(dir, "puff.vdb"), {density, heat, velocity}, place, job);
        const auto grids = media::vdbGrids(pathIn(dir, "puff.vdb"));
        QCOMPARE(grids.size(), std::size_t(3));
        QCOMPARE(media::guessedGrid(grids, "density"), std::string("density"));
        QCOMPARE(media::guessedGrid(grids, "temperature"), std::string("temperature"));
        QCOMPARE(media::guessedGrid(grids, "velocity"), std::string("vel"));
        QCOMPARE(media::guessedGrid(grids, "colour"), std::string());
        const auto loaded = media::loadVdb(pathIn(dir, "puff.vdb"), "density", job);
        std::size_t active = 0;
        for (const float v : d.values)
            active += v != 0.f;
        for (const media::VdbGrid& g : grids) {
            QCOMPARE(g.active, active);
            QVERIFY(std::abs(g.voxel.x - 0.25f) < 1e-6f);
        }
        for (int r = 0; r < 4; ++r)
            for (int c = 0; c < 4; ++c)
                QVERIFY(std::abs(loaded.toWorld[r][c] - place[r][c]) < 1e-5f);
        Random random(3);
        const auto direct = gridOf(d);
        for (int i = 0; i < 2000; ++i) {
            const Vec3 p(random.range(-13, 21), random.range(-5, 16), random.range(3, 30));
            QCOMPARE(loaded.values->sample(p), direct->sample(p));
        }
        const auto vectors = media::loadVdb(pathIn(dir, "puff.vdb"), "vel", job);
        QVERIFY(vectors.more[1] && std::abs(vectors.more[1]->most() - 2.f * direct->most()) < 1e-6f);
        // What a file is missing is said with what it has.
        THROWS_SAYING(media::loadVdb(pathIn(dir, "puff.vdb"), "smoke", job), "'temperature'");
        THROWS_SAYING(media::loadVdb(pathIn(dir, "puff.vdb"), "", job), "none was chosen");
    }

    void damagedFilesAreRefusedAndSaid()
    {
        const QTemporaryDir dir;
        const Dense d = puff();
        JobControl job;
        const auto file = pathIn(dir, "whole.vdb");
        media::writeVdb(file, {{"density", d.low, d.size, d.values, false}}, Mat4(), job);
        const std::string bytes = bytesOf(file);
        const auto write = [&](const char* name, const std::string& content) {
            std::ofstream(pathIn(dir, name), std::ios::binary) << content;
            return pathIn(dir, name);
        };
        THROWS_SAYING(media::vdbGrids(pathIn(dir, "none.vdb")), "no such file");
        THROWS_SAYING(media::vdbGrids(write("empty.vdb", "")), "empty");
        THROWS_SAYING(media::vdbGrids(write("text.vdb", "this is not a volume at all")), "no OpenVDB file");
        THROWS_SAYING(media::vdbGrids(dir.path().toStdString()), "folder");
        for (const double share : {0.02, 0.2, 0.5, 0.9, 0.999})
            THROWS_SAYING(media::loadVdb(
                              write("cut.vdb", bytes.substr(0, static_cast<std::size_t>(double(bytes.size()) * share))),
                              "density", job),
                          "ends too early");
        // Anywhere in the table of contents a wrong number must not bring anything down.
        for (std::size_t i = 8; i < 400 && i < bytes.size(); i += 7) {
            std::string wrong = bytes;
            wrong[i] = static_cast<char>(wrong[i] ^ 0x55);
            try {
                media::vdbGrids(write("wrong.vdb", wrong));
            } catch (const Error& e) {
                QVERIFY(QString(e.what()).contains("wrong.vdb"));
            }
        }
    }

    void aNoteOfLeavesThatClaimsTooMuchIsRefused()
    {
        // It is believed by whoever reads it: gigabytes would be taken for a file of some kilobytes.
        const QTemporaryDir dir;
        const Dense d = puff();
        JobControl job;
        media::writeVdb(pathIn(dir, "whole.vdb"), {{"density", d.low, d.size, d.values, false}}, Mat4(), job);
        const std::string bytes = bytesOf(pathIn(dir, "whole.vdb"));
        const std::string kind = "__delayedload";
        const std::size_t note = bytes.find(kind);
        QVERIFY(note != std::string::npos);
        // Behind its kind: its length, how many leaves, how long the first packed part is.
        for (const auto& [at, value, said] : {std::tuple(std::size_t{8}, 3892314849u, "ends too early"),
                                              std::tuple(std::size_t{4}, 4000000000u, "claims 4000000000 leaves"),
                                              std::tuple(std::size_t{0}, 9u, "larger than its place")}) {
            std::string wrong = bytes;
            std::memcpy(wrong.data() + note + kind.size() + at, &value, sizeof value);
            std::ofstream(pathIn(dir, "wrong.vdb"), std::ios::binary) << wrong;
            THROWS_SAYING(media::vdbGrids(pathIn(dir, "wrong.vdb")), said);
        }
    }

    void filesOfTheFormatsOwnProgramsLoad()
    {
        const QTemporaryDir dir;
        QProcess tool;
        tool.start("vdb_tool", {"-sphere", "radius=1", "dim=64", "-write", dir.filePath("ball.vdb")});
        if (!tool.waitForStarted())
            QSKIP("vdb_tool is not installed");
        QVERIFY(tool.waitForFinished(60000) && tool.exitCode() == 0);
        const auto grids = media::vdbGrids(pathIn(dir, "ball.vdb"));
        QCOMPARE(grids.size(), std::size_t(1));
        QCOMPARE(grids[0].kind, std::string("level set"));
        JobControl job;
        const auto loaded = media::loadVdb(pathIn(dir, "ball.vdb"), "", job);
        QVERIFY(!loaded.notes.empty() && QString::fromStdString(loaded.notes[0]).contains("level set"));
        // Its fog: 1 in the middle, nothing outside, and about a ball's volume.
        const media::Volume v = volumeOf(loaded.values, loaded.toWorld, 1.f);
        QVERIFY(std::abs(media::extinction(v, Vec3(0.f)) - 1.f) < 1e-3f);
        QCOMPARE(media::extinction(v, Vec3(1.2f, 0.f, 0.f)), 0.f);
        F8 a = f8(0.f), b = f8(10.f);
        media::clip8(v, media::ray8(Vec3(0.f, 0.f, 5.f), Vec3(0, 0, -1)), a, b);
        QVERIFY(b[0] > a[0] && a[0] > 3.f && b[0] < 7.f);
    }

    void everyPackingIsReadAndItsCutsAreRefused_data()
    {
        QTest::addColumn<QString>("packing");
        for (const char* codec : {"none", "zip", "blosc", "active"})
            for (const char* bits : {"32", "16"})
                QTest::newRow(qPrintable(QString("%1, %2 bits").arg(codec, bits)))
                    << QString("codec=%1 bits=%2").arg(codec, bits);
    }
    void everyPackingIsReadAndItsCutsAreRefused()
    {
        QFETCH(QString, packing);
        const QTemporaryDir dir;
        QProcess tool;
        tool.start("vdb_tool", QStringList{"-sphere", "radius=1", "dim=48", "-ls2fog", "-write"} + packing.split(' ') +
                                   QStringList{dir.filePath("ball.vdb")});
        if (!tool.waitForStarted())
            QSKIP("vdb_tool is not installed");
        QVERIFY(tool.waitForFinished(60000) && tool.exitCode() == 0);
        JobControl job;
        const auto loaded = media::loadVdb(pathIn(dir, "ball.vdb"), "", job);
        const media::Volume v = volumeOf(loaded.values, loaded.toWorld, 1.f);
        // Half way into the soft rim, whatever the bits.
        QVERIFY(media::extinction(v, Vec3(0.f)) > 0.999f && media::extinction(v, Vec3(1.02f, 0.f, 0.f)) == 0.f);
        const float rim = media::extinction(v, Vec3(0.f, 0.93f, 0.f));
        QVERIFY2(rim > 0.2f && rim < 0.8f, qPrintable(QString::number(rim)));
        const std::string bytes = bytesOf(pathIn(dir, "ball.vdb"));
        for (const double share : {0.3, 0.7, 0.98}) {
            std::ofstream(pathIn(dir, "cut.vdb"), std::ios::binary)
                << bytes.substr(0, static_cast<std::size_t>(double(bytes.size()) * share));
            THROWS_SAYING(media::loadVdb(pathIn(dir, "cut.vdb"), "", job), "ends too early");
        }
        // Bytes turned over anywhere: an error with the file's name, or a grid; never the end of the program.
        Random random(17);
        for (int i = 0; i < 40; ++i) {
            std::string wrong = bytes;
            const auto at = static_cast<std::size_t>(random.next() * static_cast<float>(wrong.size() - 1));
            wrong[at] = static_cast<char>(wrong[at] ^ 0x5a);
            std::ofstream(pathIn(dir, "wrong.vdb"), std::ios::binary) << wrong;
            try {
                media::loadVdb(pathIn(dir, "wrong.vdb"), "", job);
            } catch (const Error& e) {
                QVERIFY(QString(e.what()).contains("wrong.vdb"));
            }
        }
    }

    void theWayToTheSunIsTheIntegralOfWhatLiesOnIt()
    {
        const Grid grid = gridOf(dense({0, 0, 0}, {48, 40, 44}, [](int x, int y, int z) {
            const float r = std::sqrt(
                static_cast<float>((x - 24) * (x - 24) + (y - 20) * (y - 20) + (z - 22) * (z - 22)));
            return std::clamp((17.f - r) / 5.f, 0.f, 1.f);
        }));
        Mat4 place;
        place.setScale(Vec3(0.5f));
        media::Volume v = volumeOf(grid, place, 0.3f);
        for (const Vec3& sun :
             {Vec3(0, 1, 0), Vec3(0.7f, 0.5f, -0.51f).normalized(), Vec3(-0.95f, 0.05f, 0.3f).normalized()}) {
            v.shadow = std::make_shared<media::VolumeShadow>(v, sun);
            Random random(4);
            double worst = 0.0;
            for (int i = 0; i < 400; ++i) {
                const Vec3 p = i % 4 ? Vec3(random.range(3, 21), random.range(2, 18), random.range(3, 19))
                                     : Vec3(12, 10, 11) - sun * 40.f +
                                           Vec3(random.range(-6, 6), 0.f, random.range(-6, 6));
                double exact = 0.0;
                constexpr int fine = 1500;
                for (int k = 0; k < fine; ++k)
                    exact += static_cast<double>(
                                 media::extinction(v, p + sun * (60.f * (static_cast<float>(k) + 0.5f) / fine))) *
                             60.0 / fine;
                const double coarse = static_cast<double>(v.shadow->column8(f8(p.x), f8(p.y), f8(p.z))[0] * v.sigmaT);
                worst = std::max(worst, std::abs(std::exp(-coarse) - std::exp(-exact)));
                const double near = static_cast<double>(
                    media::fineSunDepth8(v, f8(p.x), f8(p.y), f8(p.z), f8(0.5f))[0]);
                worst = std::max(worst, std::abs(std::exp(-near) - std::exp(-exact)));
            }
            QVERIFY2(worst < 0.04, qPrintable(QString("transmittance off by %1").arg(worst)));
            // Beside its shadow there is none.
            const Vec3 aside = Vec3(12, 10, 11) - sun * 40.f + sun.cross(Vec3(0.3f, 0.2f, 0.9f)).normalized() * 14.f;
            QCOMPARE(v.shadow->column8(f8(aside.x), f8(aside.y), f8(aside.z))[0], 0.f);
        }
    }

    void anExportedVolumeIsTheSameInTheWorld()
    {
        const QTemporaryDir dir;
        JobControl job;
        Mat4 place, turn, move;
        place.setScale(Vec3(0.25f));
        turn.rotate(Vec3(0.f, 0.6f, 0.3f));
        move.setTranslation(Vec3(-4.f, 7.f, 2.f));
        media::Volume v = volumeOf(gridOf(puff()), place * turn * move, 0.8f);
        media::Tint t;
        t.to = 12.f;
        t.colours = {Vec3(1.f, 0.2f, 0.1f), Vec3(0.1f, 0.3f, 1.f)};
        v.tints = {t};
        media::exportVolume(v, 0.125f, pathIn(dir, "out.vdb"), job);
        const auto density = media::loadVdb(pathIn(dir, "out.vdb"), "density", job);
        const auto colour = media::loadVdb(pathIn(dir, "out.vdb"), "Cd", job);
        const media::Volume back = volumeOf(density.values, density.toWorld, 0.8f);
        Random random(8);
        int inside = 0;
        for (int i = 0; i < 2000; ++i) {
            Vec3 p(0.f);
            for (int a = 0; a < 3; ++a)
                p[a] = random.range(v.bounds.min[a], v.bounds.max[a]);
            const float was = media::extinction(v, p), is = media::extinction(back, p);
            QVERIFY(std::abs(was - is) < 0.12f); // sampled anew, at half the voxel
            if (was > 0.12f && is > 0.12f) {
                const Vec3 c(colour.values->sample(back.indexOf(p)), colour.more[0]->sample(back.indexOf(p)),
                             colour.more[1]->sample(back.indexOf(p)));
                QVERIFY((c - media::opticsAt(v, p).albedo).length() < 0.05f);
                ++inside;
            }
        }
        QVERIFY(inside > 40);
        // Cancelled, it leaves nothing.
        JobControl gone;
        gone.cancel();
        try {
            media::exportVolume(v, 0.125f, pathIn(dir, "gone.vdb"), gone);
            QFAIL("it went on");
        } catch (const Cancelled&) {
        }
        QVERIFY(!std::filesystem::exists(pathIn(dir, "gone.vdb")));
    }

    void shapesBecomeVoxels()
    {
        scene::Project p = elements::newProject();
        scene::Element& e = p.add(*elements::findKind("volume"), "puff");
        Store store;
        JobControl job;
        const auto frozen = [&] { return elements::freeze(p, store, job); };
        const auto mass = [&](const media::Volume& v) {
            const BrickGrid::Means m = v.density->means(64);
            double total = 0.0;
            for (const float d : m.values)
                total += static_cast<double>(d);
            const float voxel = 1.f / v.indexDirection(Vec3(1, 0, 0)).length();
            return total * std::pow(static_cast<double>(m.cell * voxel), 3);
        };
        e.set("size", Vec3(2.f, 3.f, 4.f));
        e.set("position", Vec3(10.f, 1.f, -5.f));
        e.set("voxel", 0.05);
        e.set("edge", 0.0);
        e.set("contrast", 0.0);
        // What their bodies hold.
        const double pi3 = 3.14159265358979;
        for (const auto& [body, wanted] : {std::pair("box", 24.0), std::pair("cylinder", pi3 * 1.0 * 2.0 * 3.0),
                                           std::pair("ball", pi3 * 4.0 / 3.0 * 1.0 * 1.5 * 2.0)}) {
            e.set("source", std::string(body));
            const auto shot = frozen();
            QVERIFY(shot->notes.empty());
            NEAR(mass(shot->volumes.at(0)), wanted, 0.05);
            // Its foot stands at its position.
            const Box3& b = shot->volumes[0].bounds;
            QVERIFY(std::abs(b.min.y - 1.f) < 0.5f && std::abs((b.min.x + b.max.x) * 0.5f - 10.f) < 0.3f);
        }
        // A soft edge and a hollow middle hold less, wisps about as much.
        const double whole = mass(frozen()->volumes[0]);
        e.set("contrast", 0.8);
        e.set("noiseScale", 0.4);
        NEAR(mass(frozen()->volumes[0]), whole, 0.1);
        e.set("contrast", 0.0);
        e.set("edge", 0.5);
        const double soft = mass(frozen()->volumes[0]);
        e.set("hollow", 0.9);
        const double hollow = mass(frozen()->volumes[0]);
        QVERIFY(soft < 0.8 * whole && hollow < 0.95 * soft && hollow > 0.1 * soft);
        // Too fine voxels are made larger, and that is said.
        e.set("voxel", 0.001);
        QVERIFY(QString::fromStdString(frozen()->notes.at(0).text).contains("no side"));
        // A set object that is not closed is filled as far as it can be told, and said.
        const QTemporaryDir dir;
        p.folder = dir.path().toStdString();
        std::ofstream(pathIn(dir, "tub.obj"))
            << "v 0 0 0\nv 2 0 0\nv 2 0 2\nv 0 0 2\nv 0 1 0\nv 2 1 0\nv 2 1 2\nv 0 1 2\nf 1 2 3 4\nf 1 5 6 2\nf 2 6 7 "
               "3\nf 3 7 8 4\nf 4 8 5 1\n"; // without a lid
        p.add(*elements::findKind("set"), "tub").set("file", std::string("tub.obj"));
        scene::Element& again = *p.find("puff");
        again.set("source", std::string("object"));
        QVERIFY(QString::fromStdString(frozen()->notes.at(0).text).contains("Choose the set object"));
        again.set("object", std::string("tub"));
        again.set("voxel", 0.05);
        again.set("edge", 0.0);
        again.set("hollow", 0.0);
        const auto tub = frozen();
        QVERIFY(QString::fromStdString(tub->notes.at(0).text).contains("not closed"));
        NEAR(mass(tub->volumes.at(0)), 4.0, 0.12);
        QVERIFY(media::extinction(tub->volumes[0], Vec3(1.f, 0.5f, 1.f)) > 0.f &&
                media::extinction(tub->volumes[0], Vec3(3.f, 0.5f, 1.f)) == 0.f);
    }

    void tintsMultiplyTheAlbedoByPlaceDensityAndNoise()
    {
        media::Volume v = volumeOf(gridOf(puff()), Mat4(), 1.f);
        v.albedo = Vec3(0.8f, 0.5f, 1.f);
        media::Tint height;
        height.origin = Vec3(0.f, -5.f, 0.f);
        height.to = 20.f;
        height.colours = {Vec3(1.f, 0.f, 0.5f), Vec3(0.f, 1.f, 0.5f)};
        v.tints = {height};
        for (const float y : {-9.f, -5.f, 0.f, 10.f, 40.f}) {
            const float u = std::clamp((y + 5.f) / 20.f, 0.f, 1.f);
            const Vec3 c = media::opticsAt(v, Vec3(2.f, y, 1.f)).albedo;
            QVERIFY((c - Vec3(0.8f * (1.f - u), 0.5f * u, 0.5f)).length() < 1e-3f);
        }
        // A second one stacks; by density, backward.
        media::Tint dense;
        dense.by = media::Tint::By::Density;
        dense.from = 1.f;
        dense.to = 0.f;
        dense.colours = {Vec3(0.5f), Vec3(1.f)};
        v.tints.push_back(dense);
        const Vec3 p(3.f, 4.f, 16.f);
        const float d = media::extinction(v, p), u = 9.f / 20.f;
        QVERIFY(d > 0.2f);
        QVERIFY(
            (media::opticsAt(v, p).albedo - Vec3(0.8f * (1.f - u), 0.5f * u, 0.5f) * (1.f - 0.5f * std::min(1.f, d)))
                .length() < 2e-3f);
        // Never above all light.
        v.tints = {height};
        v.tints[0].colours.assign(2, Vec3(9.f));
        QCOMPARE(media::opticsAt(v, p).albedo, Vec3(1.f));
        // From the project: the element finds its volume, muted ones do not count.
        const QTemporaryDir dir;
        JobControl job;
        const Dense d8 = block();
        media::writeVdb(pathIn(dir, "a.vdb"), {{"density", d8.low, d8.size, d8.values, false}}, Mat4(), job);
        scene::Project project = elements::newProject();
        project.folder = dir.path().toStdString();
        scene::Element& e = project.add(*elements::findKind("volume"), "smoke");
        e.set("file", std::string("a.vdb"));
        const std::string id = e.id;
        scene::Element& tint = project.add(*elements::findKind("tint"), "rise");
        Store store;
        auto shot = elements::freeze(project, store, job);
        QVERIFY(shot->volumes[0].tints.empty() &&
                QString::fromStdString(shot->notes.at(0).text).contains("Choose the volume"));
        project.find(tint.id)->set("volume", id);
        shot = elements::freeze(project, store, job);
        QCOMPARE(shot->volumes[0].tints.size(), std::size_t(1));
        project.find(tint.id)->muted = true;
        QVERIFY(elements::freeze(project, store, job)->volumes[0].tints.empty());
    }

    void anElementPlacesItsFileInMetres()
    {
        const QTemporaryDir dir;
        JobControl job;
        const Dense d = dense({0, 0, 0}, {16, 16, 16}, [](int, int, int) { return 1.f; });
        Mat4 place;
        place.setScale(Vec3(0.1f));
        media::writeVdb(pathIn(dir, "smoke_0004.vdb"), {{"density", d.low, d.size, d.values, false}}, place, job);
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& e = p.add(*elements::findKind("volume"), "smoke");
        Store store;
        auto shot = elements::freeze(p, store, job);
        QVERIFY(shot->volumes.empty() && QString::fromStdString(shot->notes.at(0).text).contains("Choose"));
        e.set("file", std::string("smoke_0004.vdb"));
        e.set("visibility", 2.995732273553991); // 1 /m
        e.set("position", Vec3(10.f, 2.f, -5.f));
        e.set("scale", 2.0);
        e.set("turn", 90.0);
        shot = elements::freeze(p, store, job);
        QCOMPARE(shot->volumes.size(), std::size_t(1));
        // A side of 1.5 of the file's metres becomes 3, turned clockwise from above: +X goes to +Z.
        QVERIFY(std::abs(media::extinction(shot->volumes[0], Vec3(10.f - 1.5f, 3.5f, -5.f + 1.5f)) - 1.f) < 2e-3f);
        QCOMPARE(media::extinction(shot->volumes[0], Vec3(11.5f, 3.5f, -3.5f)), 0.f);
        // Coarser voxels hold the same matter in the same place.
        e.set("preview", 0.39);
        const auto coarse = elements::freeze(p, store, job);
        QVERIFY(std::abs(1.f / coarse->volumes[0].indexDirection(Vec3(1, 0, 0)).length() - 0.4f) < 1e-3f);
        for (const float y : {2.3f, 3.5f, 4.6f})
            QVERIFY(std::abs(media::extinction(coarse->volumes[0], Vec3(8.5f, y, -3.5f)) - 1.f) < 2e-3f);
        QVERIFY(shot->volumes[0] != coarse->volumes[0]);
        // A file that is gone is an error with its name, and what is frozen stays usable.
        e.set("sequence", false);
        e.set("file", std::string("gone.vdb"));
        THROWS_SAYING(elements::freeze(p, store, job), "gone.vdb");
    }

    void aSequenceStaysWithinTheBound()
    {
        // Sixteen frames of a cloud, each with its shadow, within what three of them need.
        const QTemporaryDir dir;
        JobControl job;
        for (int f = 1; f <= 16; ++f) {
            std::vector<float> values(64 * 64 * 64);
            for (std::size_t i = 0; i < values.size(); ++i)
                values[i] = 0.5f + 0.5f * std::sin(float(i % 977) + float(f));
            media::writeVdb(dir.filePath(QString("c.%1.vdb").arg(f, 4, 10, QChar('0'))).toStdString(),
                            {{"density", {0, 0, 0}, {64, 64, 64}, values, false}}, Mat4(), job);
        }
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& e = p.add(*elements::findKind("volume"), "cloud");
        e.set("file", std::string("c.0001.vdb"));
        e.set("sequence", true);
        Store store(std::size_t{12} << 20);
        std::weak_ptr<const media::BrickGrid> first;
        std::size_t most = 0;
        for (p.frame = 1; p.frame <= 16; ++p.frame) {
            const auto shot = elements::freeze(p, store, job);
            QVERIFY(!shot->volumes.empty());
            if (p.frame == 1)
                first = shot->volumes[0].density;
            most = std::max(most, store.bytes());
        }
        QVERIFY2(most <= store.limit(), qPrintable(QString::number(most)));
        QVERIFY(first.expired()); // nothing else holds on to it
    }

    void aSetIsReadAnewWhenAPictureBesideItChanges()
    {
        const QTemporaryDir dir;
        const auto path = [&](const char* name) { return dir.filePath(name).toStdString(); };
        std::ofstream(path("a.mtl")) << "newmtl one\nKd 1 0 0\n";
        std::ofstream(path("a.obj")) << "mtllib a.mtl\nusemtl one\nv 0 0 0\nv 1 0 0\nv 0 0 1\nf 1 2 3\n";
        Store store;
        JobControl job;
        const auto set = elements::keptSet(store, path("a.obj"), job);
        QCOMPARE(elements::keptSet(store, path("a.obj"), job), set);
        QCOMPARE(set->beside.size(), std::size_t{1});
        std::ofstream(path("a.mtl")) << "newmtl one\nKd 0 0 1\n#\n";
        const auto other = elements::keptSet(store, path("a.obj"), job);
        QVERIFY(other != set);
        const auto& m = other->meshes[0];
        QCOMPARE(other->materials[m.material].baseColour.z, 1.f);
        QCOMPARE(elements::keptSet(store, path("a.obj"), job), other);
    }
};
QTEST_GUILESS_MAIN(TestVolume)
#include "test_volume.moc"
