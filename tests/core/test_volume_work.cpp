/// What is done to voxel grids before they are seen: combining, blurring, moving, scattering; and how their look is
/// told.
#include "base/error.h"
#include "base/random.h"
#include "elements/kinds.h"
#include "media/vdb_tools.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <numeric>
#include <openvdb/io/File.h>
#include <openvdb/openvdb.h>
#include <tbb/task_arena.h>

using namespace hygros;
using media::GridStep;
using How = media::GridStep::How;

namespace {
/// A box of one value from `low`, as a grid of voxels of `voxel` metres.
std::shared_ptr<const media::LoadedGrid> box(std::array<int, 3> low, std::array<int, 3> size, float value,
                                             float voxel = 1.f)
{
    std::map<std::array<int, 3>, std::vector<float>> bricks;
    const auto down = [](int v) { return static_cast<int>(std::floor(v / 8.0)); };
    for (int x = low[0]; x < low[0] + size[0]; ++x)
        for (int y = low[1]; y < low[1] + size[1]; ++y)
            for (int z = low[2]; z < low[2] + size[2]; ++z) {
                auto& b = bricks[{down(x), down(y), down(z)}];
                b.resize(512, 0.f);
                b[static_cast<std::size_t>(((x & 7) * 8 + (y & 7)) * 8 + (z & 7))] = value;
            }
    std::vector<media::BrickGrid::Block> blocks;
    for (const auto& [at, values] : bricks)
        blocks.push_back({at[0], at[1], at[2], values.data(), 0.f});
    JobControl job;
    auto out = std::make_shared<media::LoadedGrid>();
    out->values = media::BrickGrid::fromBlocks(blocks, job);
    out->toWorld.setScale(Vec3(voxel));
    return out;
}
double valueAt(const media::LoadedGrid& g, const Vec3& world)
{
    return static_cast<double>(g.values->sample(world * g.toWorld.inverse()));
}
/// ∫ value dV [m³], by whole voxels.
double mass(const media::LoadedGrid& g)
{
    double total = 0.0;
    g.values->eachBrick([&](int, int, int, const float* v) { total += std::accumulate(v, v + 512, 0.0); });
    const Mat4& m = g.toWorld;
    const Vec3 a(m[0][0], m[0][1], m[0][2]), b(m[1][0], m[1][1], m[1][2]), c(m[2][0], m[2][1], m[2][2]);
    return total * static_cast<double>(std::abs(a.dot(b.cross(c))));
}
media::LoadedGrid after(const std::shared_ptr<const media::LoadedGrid>& base, GridStep step)
{
    JobControl job;
    return media::worked(*base, base->toWorld, {step}, job);
}
GridStep with(How how, const std::shared_ptr<const media::LoadedGrid>& other)
{
    GridStep s;
    s.how = how;
    s.other = other;
    s.otherToWorld = other->toWorld;
    return s;
}
std::filesystem::path pathIn(const QTemporaryDir& dir, const char* name)
{
    return (dir.path() + "/" + name).toStdString();
}
std::vector<float> filled(int n, float v) { return std::vector<float>(static_cast<std::size_t>(n), v); }

/// A project with one volume from a cube of ones, 1.6 m a side, and a sun.
struct Stage {
    QTemporaryDir dir;
    scene::Project project = elements::newProject();
    Store store;
    JobControl job;
    std::string id;
    Stage()
    {
        Mat4 place;
        place.setScale(Vec3(0.1f));
        media::writeVdb(pathIn(dir, "cube.vdb"), {{"density", {0, 0, 0}, {16, 16, 16}, filled(4096, 1.f), false}},
                        place, job);
        project.folder = dir.path().toStdString();
        scene::Element& e = project.add(*elements::findKind("volume"), "smoke");
        e.set("file", std::string("cube.vdb"));
        id = e.id;
    }
    scene::Element& volume() { return *project.find(id); }
    scene::Element& add(const char* kind) { return project.add(*elements::findKind(kind), kind); }
    std::shared_ptr<const shot::Shot> shot() { return elements::freeze(project, store, job); }
};

/// Two dark smokes one behind the other over a field, bright haze between and around them.
scene::Project twoSmokes(const QTemporaryDir& dir)
{
    QFile obj(dir.path() + "/field.obj");
    if (obj.open(QIODevice::WriteOnly))
        obj.write("v -4000 0 -4000\nv 4000 0 -4000\nv 4000 0 4000\nv -4000 0 4000\nf 1 4 3 2\n");
    obj.close();
    scene::Project p = elements::newProject();
    p.folder = dir.path().toStdString();
    p.add(*elements::findKind("set"), "field").set("file", std::string("field.obj"));
    for (int k = 0; k < 2; ++k) {
        scene::Element& smoke = p.add(*elements::findKind("volume"), "smoke");
        smoke.set("source", std::string("box"));
        smoke.set("size", Vec3(6.f, 5.f, k == 0 ? 5.f : 8.f));
        smoke.set("voxel", 0.3);
        smoke.set("edge", 0.6);
        smoke.set("contrast", 0.0);
        smoke.set("visibility", k == 0 ? 9.0 : 12.0);
        smoke.set("albedo", Vec3(k == 0 ? 0.25f : 0.5f));
        smoke.set("anisotropy", 0.2);
        smoke.set("position", Vec3(k == 0 ? -1.5f : 1.5f, 2.6f, k == 0 ? -9.f : -17.f));
    }
    scene::Element& haze = p.add(*elements::findKind("haze"), "haze");
    haze.set("visibility", 150.0);
    haze.set("thinning", 30.0);
    haze.set("anisotropy", 0.0);
    p.setPath("sun.elevation", "50");
    p.setPath("shot.position", "0 2.2 0");
    p.setPath("shot.aim", "0 2.2 -10");
    return p;
}
} // namespace

class TestVolumeWork : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void volumesCombineValueByValue()
    {
        // A box of 0.5 from −8 to 8 and one of 0.8 from 0 to 16 in other voxels: what each way makes of the three
        // regions.
        const auto a = box({-8, -8, -8}, {17, 17, 17}, 0.5f), b = box({0, -16, -16}, {33, 33, 33}, 0.8f, 0.5f);
        const Vec3 onlyA(-5, 0, 0), both(4, 0, 0), onlyB(12, 0, 0);
        const auto check = [&](How how, double first, double middle, double last) {
            const media::LoadedGrid g = after(a, with(how, b));
            NEAR(valueAt(g, onlyA), first, 2e-3);
            NEAR(valueAt(g, both), middle, 2e-3);
            NEAR(valueAt(g, onlyB), last, 2e-3);
        };
        check(How::Union, 0.5, 0.8, 0.8);
        check(How::Add, 0.5, 1.3, 0.8);
        check(How::Multiply, 0.0, 0.4, 0.0);
        check(How::Cut, 0.5, 0.1, 0.0);
        check(How::Inside, 0.0, 0.4, 0.0);
        // Turned and moved, the other lies where it is placed.
        GridStep turned = with(How::Cut, box({-2, -8, -2}, {5, 17, 5}, 1.f));
        Mat4 turn;
        turn.setAxisAngle(Vec3(0, 0, 1), static_cast<float>(M_PI / 2));
        turned.otherToWorld = turned.other->toWorld * turn;
        const media::LoadedGrid g = after(a, turned);
        NEAR(valueAt(g, Vec3(6, 0, 0)), 0.0, 2e-3);
        NEAR(valueAt(g, Vec3(0, 6, 0)), 0.5, 2e-3);
        // With nothing: a union stays, a product is nothing.
        const auto nothing = std::make_shared<media::LoadedGrid>(
            after(a, with(How::Multiply, box({400, 0, 0}, {4, 4, 4}, 1.f))));
        QVERIFY(nothing->values->empty());
        NEAR(mass(after(a, with(How::Union, nothing))), mass(*a), 1e-3 * mass(*a));
        QVERIFY(after(a, with(How::Inside, nothing)).values->empty());
        JobControl job;
        job.cancel();
        THROWS_SAYING(media::worked(*a, a->toWorld, {with(How::Union, b)}, job), "cancelled");
    }

    void blurKeepsTheMassAndSpreadsByItsSize()
    {
        const auto a = box({-2, -2, -2}, {5, 5, 5}, 1.f, 0.5f);
        GridStep blur;
        blur.how = How::Blur;
        blur.amount = 2.f;
        const media::LoadedGrid g = after(a, blur);
        NEAR(mass(g) / mass(*a), 1.0, 0.01);
        // Its variance along x grows by the blur's.
        const auto variance = [](const media::LoadedGrid& l) {
            double sum = 0.0, square = 0.0;
            l.values->eachBrick([&](int x, int, int, const float* v) {
                for (int i = 0; i < 512; ++i) {
                    const double p = (x * 8 + i / 64) * 0.5;
                    sum += static_cast<double>(v[i]);
                    square += static_cast<double>(v[i]) * p * p;
                }
            });
            return square / sum;
        };
        NEAR(std::sqrt(variance(g) - variance(*a)), 2.0, 0.25);
        // Less than a voxel: as it was.
        blur.amount = 0.1f;
        NEAR(valueAt(after(a, blur), Vec3(0.f)), 1.0, 1e-3);
    }

    void resamplingKeepsMassAndPlace()
    {
        const auto a = box({-20, 3, -7}, {40, 24, 31}, 0.7f, 0.25f);
        for (const float voxel : {0.1f, 0.25f, 0.6f, 1.f}) {
            GridStep step;
            step.how = How::Resample;
            step.amount = voxel;
            const media::LoadedGrid g = after(a, step);
            NEAR(static_cast<double>(Vec3(g.toWorld[0][0], g.toWorld[0][1], g.toWorld[0][2]).length()),
                 static_cast<double>(voxel), 1e-5);
            NEAR(mass(g) / mass(*a), 1.0, 0.06);
            NEAR(valueAt(g, Vec3(0.f, 3.5f, 2.f)), 0.7, 3e-3);
            QVERIFY(valueAt(g, Vec3(0.f, 9.f, 2.f)) == 0.0);
        }
        GridStep fine;
        fine.how = How::Resample;
        fine.amount = 1e-3f;
        THROWS_SAYING(after(a, fine), "400 million");
        // A curve over the values: half of the largest becomes a quarter of it.
        GridStep curve;
        curve.how = How::Curve;
        curve.curve = {Vec2(0.f, 0.f), Vec2(0.5f, 0.25f), Vec2(1.f, 1.f)};
        const auto two = std::make_shared<media::LoadedGrid>(
            after(box({0, 0, 0}, {8, 8, 8}, 2.f), with(How::Union, box({16, 0, 0}, {8, 8, 8}, 1.f))));
        const media::LoadedGrid bent = after(two, curve);
        NEAR(valueAt(bent, Vec3(4.f)), 2.0, 3e-3);
        NEAR(valueAt(bent, Vec3(20.f, 4.f, 4.f)), 0.5, 3e-3);
    }

    void motionSpreadsMatterAlongItsWayAndLosesNone()
    {
        const QTemporaryDir dir;
        JobControl job;
        Mat4 place;
        place.setScale(Vec3(0.1f));
        std::vector<float> velocity;
        for (int i = 0; i < 512; ++i)
            velocity.insert(velocity.end(), {20.f, 0.f, -5.f});
        media::writeVdb(
            pathIn(dir, "puff.vdb"),
            {{"density", {0, 0, 0}, {8, 8, 8}, filled(512, 1.f), false}, {"vel", {0, 0, 0}, {8, 8, 8}, velocity, true}},
            place, job);
        const media::LoadedGrid sharp = media::loadVdb(pathIn(dir, "puff.vdb"), "density", job);
        const media::LoadedGrid blurred = media::motionBlurred(pathIn(dir, "puff.vdb"), "density", "vel", 0.1, job);
        NEAR(mass(blurred) / mass(sharp), 1.0, 2e-3);
        // 2 m long along x where it was 0.8: a plateau of 0.4 in the middle, nothing beyond half a shutter's way, no
        // gaps.
        for (float x = -0.2f; x <= 0.9f; x += 0.05f) {
            const double t = (static_cast<double>(x) - 0.35) / 20.0; // the time at which the middle is here
            NEAR(valueAt(blurred, Vec3(x, 0.35f, 0.35f - 5.f * static_cast<float>(t))), 0.4, 0.06);
        }
        QVERIFY(valueAt(blurred, Vec3(-1.15f, 0.35f, 0.6f)) < 0.02);
        QCOMPARE(valueAt(blurred, Vec3(2.2f, 0.35f, 0.f)), 0.0);
        // Grids that are not there or are of the wrong kind.
        THROWS_SAYING(media::motionBlurred(pathIn(dir, "puff.vdb"), "density", "speed", 0.1, job), "speed");
        THROWS_SAYING(media::motionBlurred(pathIn(dir, "puff.vdb"), "density", "density", 0.1, job), "vectors");
        // The element: a share of a frame.
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& e = p.add(*elements::findKind("volume"), "puff");
        e.set("file", std::string("puff.vdb"));
        e.set("shutter", 1.0);
        e.set("velocityScale", 2.5); // 25 frames a second: a tenth of a second in all
        Store store;
        const auto shot = elements::freeze(p, store, job);
        QVERIFY(shot->notes.empty());
        NEAR(static_cast<double>(shot->volumes.at(0).density->most()), static_cast<double>(blurred.values->most()),
             1e-3);
        e.set("velocity", std::string("none of it"));
        THROWS_SAYING(elements::freeze(p, store, job), "none of it");
    }

    void heatIsSpreadSoThatWhatItSendsOutStaysTheSame()
    {
        const QTemporaryDir dir;
        JobControl job;
        Mat4 place;
        place.setScale(Vec3(0.1f));
        std::vector<float> velocity, heat;
        for (int i = 0; i < 512; ++i) {
            velocity.insert(velocity.end(), {0.f, 12.f, 0.f});
            heat.push_back(1200.f + static_cast<float>(i % 7) * 100.f);
        }
        media::writeVdb(pathIn(dir, "ember.vdb"),
                        {{"density", {0, 0, 0}, {8, 8, 8}, filled(512, 1.f), false},
                         {"temperature", {0, 0, 0}, {8, 8, 8}, heat, false},
                         {"vel", {0, 0, 0}, {8, 8, 8}, velocity, true}},
                        place, job);
        const auto fourth = [](const media::LoadedGrid& g) {
            double sum = 0.0;
            g.values->eachBrick([&](int, int, int, const float* v) {
                for (int i = 0; i < 512; ++i)
                    sum += std::pow(double(v[i]), 4.0);
            });
            return sum;
        };
        const media::LoadedGrid sharp = media::loadVdb(pathIn(dir, "ember.vdb"), "temperature", job);
        const media::LoadedGrid blurred = media::motionBlurred(pathIn(dir, "ember.vdb"), "temperature", "vel", 0.1, job,
                                                               4.f);
        NEAR(fourth(blurred) / fourth(sharp), 1.0, 5e-3);
        QVERIFY(blurred.values->most() < 0.95f * sharp.values->most());
        QVERIFY(valueAt(blurred, Vec3(0.35f, 0.9f, 0.35f)) > 700.0 && valueAt(sharp, Vec3(0.35f, 0.9f, 0.35f)) == 0.0);
        // The element's glow is that of the moving heat.
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& e = p.add(*elements::findKind("volume"), "ember");
        e.set("file", std::string("ember.vdb"));
        e.set("glow", std::string("blackbody"));
        Store store;
        NEAR(elements::freeze(p, store, job)->volumes.at(0).glow.heat->most(), sharp.values->most(), 1e-3);
        e.set("shutter", 1.0);
        e.set("velocityScale", 2.5);
        NEAR(elements::freeze(p, store, job)->volumes.at(0).glow.heat->most(), blurred.values->most(), 1e-3);
        // Written anew in other voxels it keeps its speed: in the shot's metres.
        e.set("shutter", 0.0);
        e.set("scale", 2.0);
        e.set("position", Vec3(5.f, 0.f, -3.f));
        elements::exportVolume(p, e.id, pathIn(dir, "out.vdb"), 0.25f, store, job);
        openvdb::initialize();
        openvdb::io::File f(pathIn(dir, "out.vdb").string());
        f.open();
        const auto speed = openvdb::gridPtrCast<openvdb::Vec3SGrid>(f.readGrid("vel"));
        const openvdb::Vec3s v = speed->tree().getValue(
            openvdb::Coord::round(speed->worldToIndex(openvdb::Vec3d(5.7, 0.7, -2.3))));
        NEAR(v.y(), 12.0 * 2.5 * 2.0, 1e-3);
        QVERIFY(std::abs(v.x()) < 1e-4f && std::abs(v.z()) < 1e-4f);
        QVERIFY(speed->tree()
                    .getValue(openvdb::Coord::round(speed->worldToIndex(openvdb::Vec3d(5.7, 3.5, -2.3))))
                    .length() == 0.f);
        NEAR(media::loadVdb(pathIn(dir, "out.vdb"), "temperature", job).values->most(), 1800.0, 0.05);
    }

    void combinationsAreElementsInTheOrderOfTheirCards()
    {
        Stage s;
        scene::Element& other = s.add("volume");
        const std::string cutter = other.id;
        other.set("source", std::string("box"));
        other.set("size", Vec3(0.8f, 0.8f, 4.f));
        other.set("voxel", 0.05);
        other.set("edge", 0.0);
        other.set("contrast", 0.0);
        other.set("position", Vec3(0.8f, 0.4f, 0.8f));
        QCOMPARE(s.shot()->volumes.size(), std::size_t(2));
        const std::string how = s.add("combination").id;
        QVERIFY(QString::fromStdString(s.shot()->notes.at(0).text).contains("Choose the volume"));
        s.project.find(how)->set("volume", s.id);
        QVERIFY(QString::fromStdString(s.shot()->notes.at(0).text).contains("another"));
        s.project.find(how)->set("other", cutter);
        s.project.find(how)->set("how", std::string("cut"));
        auto shot = s.shot();
        QVERIFY(shot->notes.empty());
        QCOMPARE(shot->volumes.size(), std::size_t(1)); // the cutter is a part now
        const float sigma = shot->volumes[0].sigmaT;
        QVERIFY(media::extinction(shot->volumes[0], Vec3(0.8f, 0.8f, 0.8f)) < 0.01f * sigma);
        NEAR(media::extinction(shot->volumes[0], Vec3(0.2f, 0.2f, 0.8f)), sigma, 3e-3 * double(sigma));
        s.project.find(how)->set("hides", false);
        QCOMPARE(s.shot()->volumes.size(), std::size_t(2));
        // A blur after the cut fills part of the hole; muted, it does not.
        const std::string blur = s.add("combination").id;
        s.project.find(blur)->set("volume", s.id);
        s.project.find(blur)->set("how", std::string("blur"));
        s.project.find(blur)->set("radius", 0.3);
        const float softened = media::extinction(s.shot()->volumes[0], Vec3(0.8f, 0.8f, 0.8f)) / sigma;
        QVERIFY2(softened > 0.1f && softened < 0.6f, qPrintable(QString::number(double(softened))));
        s.project.find(blur)->muted = true;
        QVERIFY(media::extinction(s.shot()->volumes[0], Vec3(0.8f, 0.8f, 0.8f)) < 0.01f * sigma);
        // Exported, the combination is in the file.
        elements::exportVolume(s.project, s.id, pathIn(s.dir, "cut.vdb"), 0.1f, s.store, s.job);
        const media::LoadedGrid back = media::loadVdb(pathIn(s.dir, "cut.vdb"), "density", s.job);
        QVERIFY(valueAt(back, Vec3(0.8f, 0.8f, 0.8f)) < 0.01 && valueAt(back, Vec3(0.2f, 0.2f, 0.8f)) > 0.99);
    }

    void copiesAreScatteredBySeedAndShareTheirMemory()
    {
        Stage s;
        const std::string id = s.add("copies").id;
        QVERIFY(QString::fromStdString(s.shot()->notes.at(0).text).contains("Choose the volume"));
        const auto set = [&](const char* what, const scene::Value& v) { s.project.find(id)->set(what, v); };
        set("volume", s.id);
        set("count", std::int64_t(20));
        set("centre", Vec3(100.f, 5.f, -50.f));
        set("size", Vec3(40.f, 0.f, 20.f));
        set("smallest", 0.5);
        set("largest", 2.0);
        const auto shot = s.shot();
        QCOMPARE(shot->volumes.size(), std::size_t(20)); // the volume itself is not seen
        float least = 1e9f, most = 0.f;
        for (const media::Volume& v : shot->volumes) {
            QCOMPARE(v.id, id);
            QCOMPARE(v.density.get(), shot->volumes[0].density.get());
            const Vec3 middle = (v.bounds.min + v.bounds.max) * 0.5f;
            QVERIFY(std::abs(middle.x - 100.f) < 22.f && std::abs(middle.z + 50.f) < 12.f &&
                    std::abs(v.bounds.min.y - 5.f) < 0.25f);
            const float size = 0.1f * v.indexDirection(Vec3(0, 1, 0)).length();
            least = std::min(least, 1.f / size);
            most = std::max(most, 1.f / size);
        }
        QVERIFY(least > 0.49f && most < 2.02f && most > 1.5f * least);
        // The same seed, the same scatter; another, another.
        QCOMPARE(s.shot()->volumes[7].toIndex, shot->volumes[7].toIndex);
        set("seed", std::int64_t(2));
        QVERIFY(s.shot()->volumes[7].toIndex != shot->volumes[7].toIndex);
        set("original", true);
        QCOMPARE(s.shot()->volumes.size(), std::size_t(21));
        // Muted copies give the volume back.
        s.project.find(id)->muted = true;
        QCOMPARE(s.shot()->volumes.size(), std::size_t(1));
        s.project.find(id)->muted = false;
        set("original", false);
        set("onto", std::string("surface"));
        QVERIFY(QString::fromStdString(s.shot()->notes.at(0).text).contains("Choose the set object"));
    }

    void copiesStandOnASetsSurface()
    {
        Stage s;
        // A slope: from (0, 0) up to 10 m at x = 10.
        QFile obj(s.dir.path() + "/slope.obj");
        QVERIFY(obj.open(QIODevice::WriteOnly));
        obj.write("v 0 0 0\nv 10 10 0\nv 10 10 -10\nv 0 0 -10\nf 1 2 3\nf 1 3 4\n");
        obj.close();
        scene::Element& set = s.add("set");
        const std::string slope = set.id;
        set.set("file", std::string("slope.obj"));
        scene::Element& copies = s.add("copies");
        copies.set("volume", s.id);
        copies.set("onto", std::string("surface"));
        copies.set("object", slope);
        copies.set("count", std::int64_t(30));
        copies.set("smallest", 0.1);
        copies.set("largest", 0.1);
        const std::string id = copies.id;
        const auto shot = s.shot();
        QCOMPARE(shot->volumes.size(), std::size_t(30));
        for (const media::Volume& v : shot->volumes) {
            const Vec3 foot((v.bounds.min.x + v.bounds.max.x) * 0.5f, v.bounds.min.y, 0.f);
            QVERIFY2(std::abs(foot.y - foot.x) < 0.05f,
                     qPrintable(QString("%1 %2").arg(double(foot.x)).arg(double(foot.y))));
        }
        // Off the surface they lean by its slope: their own up is (−1, 1, 0)/√2.
        s.project.find(id)->set("upright", false);
        const auto leaning = s.shot();
        for (const media::Volume& v : leaning->volumes) {
            Vec3 up;
            v.toIndex.inverse().multDirMatrix(Vec3(0, 1, 0), up);
            QVERIFY((up.normalized() - Vec3(-1, 1, 0).normalized()).length() < 1e-3f);
        }
    }

    void sequencesHoldLoopOrEnd()
    {
        const QTemporaryDir dir;
        JobControl job;
        for (const int n : {3, 4, 6})
            media::writeVdb(pathIn(dir, ("s_000" + std::to_string(n) + ".vdb").c_str()),
                            {{"density", {0, 0, 0}, {8, 8, 8}, filled(512, static_cast<float>(n)), false}}, Mat4(),
                            job);
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& e = p.add(*elements::findKind("volume"), "s");
        e.set("file", std::string("s_0003.vdb"));
        e.set("sequence", true);
        Store store;
        // Value of the grid by frame: 0 where there is nothing.
        const auto at = [&](int frame) {
            p.frame = frame;
            const auto shot = elements::freeze(p, store, job);
            return shot->volumes.empty() ? 0 : static_cast<int>(std::lround(shot->volumes[0].density->most()));
        };
        const auto notes = [&](int frame) {
            p.frame = frame;
            return elements::freeze(p, store, job)->notes.size();
        };
        QCOMPARE(at(1), 3);
        QCOMPARE(at(4), 4);
        QCOMPARE(at(99), 6);
        QCOMPARE(notes(99), std::size_t(0)); // held on purpose
        QCOMPARE(at(5), 4);                  // missing: the one before, and said
        QCOMPARE(notes(5), std::size_t(1));
        e.set("ends", std::string("loop"));
        QCOMPARE(at(7), 3);
        QCOMPARE(at(8), 4);
        QCOMPARE(at(2), 6);
        QCOMPARE(at(-1), 3);
        e.set("ends", std::string("nothing"));
        QCOMPARE(at(7), 0);
        QCOMPARE(at(2), 0);
        QCOMPARE(at(6), 6);
        e.set("ends", std::string("loop"));
        e.set("speed", -1.0);
        QCOMPARE(at(1), 3 + ((1 - 3) % 4 + 4) % 4 == 5 ? 4 : at(1));
    }

    void linkingLeavesTheLookAndDensityKeepsWhatItSays()
    {
        Stage s;
        s.volume().set("visibility", 2.995732273553991 / 2.0); // 2 /m
        s.volume().set("albedo", Vec3(0.8f, 0.5f, 0.6f));
        const auto look = elements::lookOf(s.volume());
        NEAR(look.scattering.x, 1.6f, 1e-5);
        NEAR(look.absorption.y, 1.0f, 1e-5);
        for (const char* way : {"scattering", "free", "albedo", "free", "scattering", "albedo"}) {
            for (const auto& [id, value] : elements::relinked(s.volume(), way))
                s.volume().set(id, value);
            QCOMPARE(std::get<std::string>(s.volume().value("linking")), std::string(way));
            const auto now = elements::lookOf(s.volume());
            QVERIFY2((now.scattering - look.scattering).length() < 1e-3f &&
                         (now.absorption - look.absorption).length() < 1e-3f,
                     way);
        }
        // Twice as dense: by each way.
        const auto albedo = elements::denserLook(s.volume(), "albedo", 2.0),
                   scattering = elements::denserLook(s.volume(), "scattering", 2.0),
                   freely = elements::denserLook(s.volume(), "free", 2.0);
        QVERIFY((albedo.scattering - look.scattering * 2.f).length() < 1e-3f &&
                (albedo.absorption - look.absorption * 2.f).length() < 1e-3f);
        QVERIFY((scattering.scattering - look.scattering).length() < 1e-3f);
        NEAR(luminance(scattering.scattering + scattering.absorption), 4.f, 1e-3);
        QVERIFY((freely.scattering - look.scattering * 2.f).length() < 1e-3f &&
                (freely.absorption - look.absorption).length() < 1e-3f);
        // Free, coloured by channel: the shot has it so.
        for (const auto& [id, value] : elements::relinked(s.volume(), "free"))
            s.volume().set(id, value);
        s.volume().set("scatters", 1.0);
        s.volume().set("absorbs", 2.0);
        s.volume().set("scatterColour", Vec3(1.f));
        s.volume().set("absorbColour", Vec3(0.1f, 0.5f, 1.f));
        const auto shot = s.shot();
        const media::Optics o = media::opticsAt(shot->volumes.at(0), Vec3(0.8f));
        QVERIFY((o.extinction - Vec3(1.2f, 2.f, 3.f)).length() < 5e-3f);
        QVERIFY((o.extinction * o.albedo - Vec3(1.f)).length() < 5e-3f);
        // Density as the thickness that hides: 99 % over 3 m.
        const auto thickness = [&] {
            const elements::VolumeLook own = elements::lookOf(s.volume());
            return luminance(own.scattering + own.absorption);
        };
        s.project.setPath(s.id + ".linking", "albedo");
        s.project.setPath(s.id + ".opaque", "3");
        const float sigma = thickness();
        NEAR(std::exp(-3.f * sigma), 0.01f, 1e-4);
        s.project.setPath(s.id + ".halfOpaque", "1.5");
        const float thinner = thickness();
        NEAR(std::exp(-1.5f * thinner), 0.5f, 1e-3);
    }

    void curvesAndLobesReachTheShot()
    {
        Stage s;
        s.volume().set("scatteringCurve", scene::CurvePoints{{0.f, 1.f}, {1.f, 0.5f}});
        s.volume().set("spread", std::string("two"));
        s.volume().set("anisotropy", 0.7);
        s.volume().set("secondAnisotropy", -0.4);
        s.volume().set("secondShare", 0.25);
        const auto shot = s.shot();
        const media::Volume& v = shot->volumes.at(0);
        QVERIFY(v.remap != nullptr);
        const media::Optics o = media::opticsAt(v, Vec3(0.8f));
        NEAR(luminance(o.extinction * o.albedo), 0.5f * v.sigmaT * luminance(v.albedo), 2e-3);
        NEAR(v.phase.meanCosine(), 0.75f * 0.7f - 0.25f * 0.4f, 1e-4);
        // The curve of the density itself.
        s.volume().set("scatteringCurve", scene::CurvePoints{{0.f, 1.f}, {1.f, 1.f}});
        s.volume().set("densityCurve", scene::CurvePoints{{0.f, 0.f}, {1.f, 0.3f}});
        const auto bent = s.shot();
        QVERIFY(bent->volumes.at(0).remap == nullptr);
        NEAR(static_cast<double>(bent->volumes[0].density->most()), 0.3, 2e-3);
    }

    void tintsCountFromASetsSurface()
    {
        Stage s;
        QFile obj(s.dir.path() + "/wall.obj");
        QVERIFY(obj.open(QIODevice::WriteOnly));
        obj.write("v 0 -5 -5\nv 0 5 -5\nv 0 5 5\nv 0 -5 5\nf 1 2 3\nf 1 3 4\n"); // the plane x = 0
        obj.close();
        scene::Element& wall = s.add("set");
        wall.set("file", std::string("wall.obj"));
        const std::string wallId = wall.id;
        scene::Element& tint = s.add("tint");
        tint.set("volume", s.id);
        tint.set("by", std::string("surface"));
        tint.set("first", 0.0);
        tint.set("last", 1.0);
        tint.set("colours", scene::ColourStops{{0.f, Vec3(1.f, 0.f, 0.f), 1.f}, {1.f, Vec3(0.f, 1.f, 0.f), 1.f}});
        const std::string id = tint.id;
        QVERIFY(QString::fromStdString(s.shot()->notes.at(0).text).contains("surface"));
        s.project.find(id)->set("object", wallId);
        s.volume().set("albedo", Vec3(1.f));
        const auto shot = s.shot();
        QVERIFY(shot->notes.empty());
        for (const float x : {0.2f, 0.5f, 0.8f, 1.3f}) {
            const Vec3 c = media::opticsAt(shot->volumes.at(0), Vec3(x, 0.8f, 0.8f)).albedo;
            const float u = std::min(1.f, x);
            QVERIFY2((c - Vec3(1.f - u, u, 0.f)).length() < 0.06f,
                     qPrintable(QString("%1: %2 %3").arg(double(x)).arg(double(c.x)).arg(double(c.y))));
        }
    }

    void untouchedGridsAreCopiedBitByBit()
    {
        Stage s;
        // Values that halves cannot hold, a velocity with negative parts, a turned place.
        std::vector<float> density, velocity;
        Random random(5);
        for (int i = 0; i < 1000; ++i) {
            density.push_back(random.next() * 3.f);
            for (int c = 0; c < 3; ++c)
                velocity.push_back(random.range(-4.f, 4.f));
        }
        Mat4 place, turn;
        place.setScale(Vec3(0.2f));
        turn.setAxisAngle(Vec3(0, 1, 0), 0.6f);
        media::writeVdb(
            pathIn(s.dir, "own.vdb"),
            {{"density", {-3, 2, 5}, {10, 10, 10}, density, false}, {"vel", {-3, 2, 5}, {10, 10, 10}, velocity, true}},
            place * turn, s.job);
        s.volume().set("file", std::string("own.vdb"));
        s.volume().set("position", Vec3(7.f, 1.f, -2.f));
        s.volume().set("scale", 2.0);
        elements::exportVolume(s.project, s.id, pathIn(s.dir, "copy.vdb"), 0.f, s.store, s.job);
        openvdb::initialize();
        const std::function<openvdb::GridBase::Ptr(const char*, const char*)> gridOfFile = [&](const char* file,
                                                                                               const char* name) {
            openvdb::io::File f(pathIn(s.dir, file).string());
            f.open();
            return f.readGrid(name);
        };
        const auto a = openvdb::gridPtrCast<openvdb::FloatGrid>(gridOfFile("own.vdb", "density")),
                   b = openvdb::gridPtrCast<openvdb::FloatGrid>(gridOfFile("copy.vdb", "density"));
        QCOMPARE(a->activeVoxelCount(), b->activeVoxelCount());
        for (auto it = a->cbeginValueOn(); it; ++it)
            QVERIFY(std::bit_cast<std::uint32_t>(*it) ==
                    std::bit_cast<std::uint32_t>(b->tree().getValue(it.getCoord())));
        const auto v = openvdb::gridPtrCast<openvdb::Vec3SGrid>(gridOfFile("own.vdb", "vel")),
                   w = openvdb::gridPtrCast<openvdb::Vec3SGrid>(gridOfFile("copy.vdb", "vel"));
        for (auto it = v->cbeginValueOn(); it; ++it)
            QVERIFY(*it == w->tree().getValue(it.getCoord()));
        // It stands where it stands in the shot.
        const openvdb::Vec3d was = a->indexToWorld(openvdb::Coord(1, 4, 9)),
                             is = b->indexToWorld(openvdb::Coord(1, 4, 9));
        QVERIFY((is - (was * 2.0 + openvdb::Vec3d(7, 1, -2))).length() < 1e-4);
        // Asked for another voxel it is sampled anew.
        elements::exportVolume(s.project, s.id, pathIn(s.dir, "coarse.vdb"), 0.8f, s.store, s.job);
        NEAR(media::vdbGrids(pathIn(s.dir, "coarse.vdb")).at(0).voxel.x, 0.8f, 1e-5);
        THROWS_SAYING(elements::exportVolume(s.project, "nobody", pathIn(s.dir, "x.vdb"), 0.f, s.store, s.job),
                      "nobody");
    }

    void aSparseFileOfABillionVoxelsTakesLittleMemory()
    {
        const QTemporaryDir dir;
        openvdb::initialize();
        openvdb::FloatGrid::Ptr grid = openvdb::FloatGrid::create(0.f);
        grid->setName("density");
        grid->setGridClass(openvdb::GRID_FOG_VOLUME);
        grid->setTransform(openvdb::math::Transform::createLinearTransform(0.1));
        auto to = grid->getAccessor();
        // Puffs in the corners and here and there of a box of 1024³.
        Random random(8);
        for (int k = 0; k < 60; ++k) {
            const openvdb::Coord at(k < 8 ? (k & 1) * 1015 : static_cast<int>(random.next() * 1015.f),
                                    k < 8 ? (k >> 1 & 1) * 1015 : static_cast<int>(random.next() * 1015.f),
                                    k < 8 ? (k >> 2) * 1015 : static_cast<int>(random.next() * 1015.f));
            for (int i = 0; i < 8; ++i)
                for (int j = 0; j < 8; ++j)
                    for (int l = 0; l < 8; ++l)
                        to.setValue(at.offsetBy(i, j, l), 1.f);
        }
        const auto box = grid->evalActiveVoxelBoundingBox();
        QVERIFY(double(box.dim().x()) * box.dim().y() * box.dim().z() > 1e9);
        openvdb::io::File file(pathIn(dir, "sparse.vdb").string());
        file.write({grid});
        file.close();
        JobControl job;
        const media::LoadedGrid loaded = media::loadVdb(pathIn(dir, "sparse.vdb"), "density", job);
        QVERIFY2(loaded.values->bytes() < std::size_t(64) << 20, qPrintable(QString::number(loaded.values->bytes())));
        NEAR(valueAt(loaded, Vec3(0.35f)), 1.0, 1e-3);
        QCOMPARE(valueAt(loaded, Vec3(1.3f, 0.35f, 0.35f)), 0.0);
        // A ray through all of it walks its few bricks.
        int met = 0;
        loaded.values->overBricks(Vec3(-5.f, 3.5f, 3.5f), Vec3(1, 0, 0), 0.f, 2000.f,
                                  [&](float, float, float) { return ++met < 1000; });
        QVERIFY(met >= 2 && met < 100);
    }

    void coarseVoxelsAndDensityKeepTheLook()
    {
        // A soft ball of smoke: preview at four times the voxel, and double density with its albedo kept.
        const QTemporaryDir dir;
        JobControl job;
        constexpr int n = 64;
        media::VdbOut out{"density", {0, 0, 0}, {n, n, n}, {}, false};
        for (int i = 0; i < n * n * n; ++i) {
            const float r = (Vec3(static_cast<float>(i / n / n), static_cast<float>(i / n % n),
                                  static_cast<float>(i % n)) -
                             Vec3(31.5f))
                                .length() /
                            31.5f;
            out.values.push_back(std::max(0.f, 1.f - r * r));
        }
        Mat4 place;
        place.setScale(Vec3(0.05f));
        media::writeVdb(pathIn(dir, "ball.vdb"), {out}, place, job);
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.find("shot")->set("position", Vec3(1.6f, 1.6f, 12.f));
        p.find("shot")->set("aim", Vec3(1.6f, 1.6f, 0.f));
        scene::Element& e = p.add(*elements::findKind("volume"), "ball");
        e.set("file", std::string("ball.vdb"));
        e.set("albedo", Vec3(0.9f));
        e.set("visibility", 2.0);
        Store store;
        const auto picture = [&](bool& good) {
            render::StillSettings settings{64, 36, 12};
            settings.followsPaths = false; // the matter's affair, to a hundredth
            const render::Layers l = render::renderStill(elements::freeze(p, store, job), settings, job);
            good = true;
            return l;
        };
        const auto light = [](const render::Layers& l) { return std::accumulate(l.air.begin(), l.air.end(), 0.0); };
        bool good = false;
        const render::Layers full = picture(good);
        // At twice the voxel its own light stays within 3 %, at four times (16 voxels across) the picture does.
        p.find(e.id)->set("preview", 0.1);
        const render::Layers finer = picture(good);
        QVERIFY2(std::abs(light(finer) / light(full) - 1.0) < 0.03,
                 qPrintable(QString::number(light(finer) / light(full))));
        p.find(e.id)->set("preview", 0.2);
        const render::Layers preview = picture(good);
        const auto whole = [](const render::Layers& l) {
            double sum = 0.0;
            for (std::size_t i = 0; i < l.air.size(); ++i)
                sum += static_cast<double>(l.air[i] + l.plate[i] * l.transmittance[i]);
            return sum;
        };
        QVERIFY2(std::abs(whole(preview) / whole(full) - 1.0) < 0.03,
                 qPrintable(QString::number(whole(preview) / whole(full))));
        p.find(e.id)->set("preview", 0.0);
        // Brightness per opacity where it is thin (its rim): both double, their ratio stays.
        const auto rim = [&](const render::Layers& l) {
            double air = 0.0, hidden = 0.0;
            for (std::size_t i = 0; i < l.pixels(); ++i)
                if (l.transmittance[i * 3 + 1] < 0.995f && l.transmittance[i * 3 + 1] > 0.85f) {
                    air += static_cast<double>(l.air[i * 3 + 1]);
                    hidden += 1.0 - static_cast<double>(l.transmittance[i * 3 + 1]);
                }
            return air / hidden;
        };
        p.find(e.id)->set("visibility", 200.0);
        const double thin = rim(picture(good));
        p.find(e.id)->set("visibility", 100.0);
        const double twice = rim(picture(good));
        NEAR(twice / thin, 1.0, 0.05);
    }

    void depthsAlongRaysAreWithoutBias()
    {
        // A ramp from 0 to 1 over a box: the integral along any chord is known, and the mean over random starts meets
        // it.
        std::vector<media::BrickGrid::Block> blocks;
        std::vector<std::vector<float>> kept;
        kept.reserve(64);
        for (int b = 0; b < 64; ++b) {
            std::vector<float> v(512);
            for (int i = 0; i < 512; ++i)
                v[static_cast<std::size_t>(i)] = static_cast<float>((b / 16) * 8 + i / 64) / 31.f;
            kept.push_back(std::move(v));
            blocks.push_back({b / 16, b / 4 % 4, b % 4, kept.back().data(), 0.f});
        }
        JobControl job;
        const std::shared_ptr<const media::BrickGrid> grid = media::BrickGrid::fromBlocks(blocks, job);
        const Vec3 d = Vec3(0.8f, 0.3f, 0.2f).normalized();
        const Vec3 from(2.f, 5.f, 6.f);
        // Inside, x runs from 2 to 2 + 0.8·t/|…|: the mean value times the length.
        const float length = 25.f;
        const double wanted = (2.0 + 0.5 * static_cast<double>(d.x * length)) / 31.0 * static_cast<double>(length);
        double mean = 0.0;
        for (int k = 0; k < 400; ++k) {
            const double one = static_cast<double>(
                grid->integral(from, d, 0.f, length, 0.5f, (static_cast<float>(k) + 0.5f) / 400.f));
            mean += one / 400.0;
            NEAR(one / wanted, 1.0, 0.03); // the ends alone differ
        }
        NEAR(mean / wanted, 1.0, 1e-3);
        // It stops where that is enough, and finds nothing where there is nothing.
        QVERIFY(grid->integral(from, d, 0.f, length, 1.f, 0.5f, 1.f) >= 1.f);
        QCOMPARE(grid->integral(Vec3(-50.f, 5.f, 5.f), Vec3(0, 1, 0), 0.f, 100.f, 1.f, 0.5f), 0.f);
    }

    void airBetweenTwoSmokesIsInItsPlace()
    {
        // What stands between what, and their places swapped by half, is told by the reference, by place.
        const QTemporaryDir dir;
        const scene::Project p = twoSmokes(dir);
        Store store;
        JobControl job;
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->volumes.size(), std::size_t{2});
        render::StillSettings live;
        live.width = 48;
        live.height = 32;
        live.samples = test::often(64); // a finished picture of the window
        // With as many paths as there, where a picture of 960×540 follows 8100 a pass: four times those of so small a
        // one.
        live.ratios = std::make_shared<render::PathRatios>();
        render::StillSettings paths = live;
        paths.air = render::StillAir::Paths;
        paths.samples = test::often(900);
        const render::Layers a = render::renderStill(shot, live, job), b = render::renderStill(shot, paths, job);
        double worst = 0.0, both[2] = {0.0, 0.0};
        // Above the ground, where air and smokes are all there is to see.
        for (int by = 0; by < 2; ++by)
            for (int bx = 0; bx < 6; ++bx) {
                double sum[2] = {0.0, 0.0};
                for (int y = by * 8; y < by * 8 + 8; ++y)
                    for (int x = bx * 8; x < bx * 8 + 8; ++x) {
                        const auto at = static_cast<std::size_t>((y * 48 + x) * 3 + 1);
                        sum[0] += double(a.plate[at] * a.transmittance[at] + a.air[at]);
                        sum[1] += double(b.plate[at] * b.transmittance[at] + b.air[at]);
                    }
                worst = std::max(worst, std::abs(sum[0] / sum[1] - 1.0));
                both[0] += sum[0];
                both[1] += sum[1];
            }
        qInfo("worst place %.3f, mean %.3f", worst, both[0] / both[1]);
        NEAR(both[0] / both[1], 1.0, test::within(0.05));
        QVERIFY2(worst < test::within(0.05), qPrintable(QString::number(worst)));
    }

    void theSamePictureComesOutHoweverLibrariesLeaveTheProcessor()
    {
        // Some set it to take the smallest numbers for nothing, some do not: no path may end sooner for it.
        const QTemporaryDir dir;
        const scene::Project p = twoSmokes(dir);
        Store store;
        JobControl job;
        const auto shot = elements::freeze(p, store, job);
        render::StillSettings s;
        s.width = 24;
        s.height = 16;
        s.samples = 6;
        s.air = render::StillAir::Paths;
        const unsigned before = _mm_getcsr();
        std::vector<float> pictures[2];
        for (int k = 0; k < 2; ++k) {
            _mm_setcsr(k == 0 ? before & ~0x8040u : before | 0x8040u);
            // Cores that are asked for now work as this one does.
            tbb::task_arena arena;
            arena.initialize();
            pictures[k] = arena.execute([&] { return render::renderStill(shot, s, job).air; });
        }
        _mm_setcsr(before);
        QVERIFY(pictures[0] == pictures[1]);
    }

    void lightOfAVolumeIsToldBySourceAsPathsTellIt()
    {
        // Haze and ground lit by the sun light the smokes from everywhere, as the sky does; it is the sun's light all
        // the same. The march by itself, without what paths say of it.
        const QTemporaryDir dir;
        const scene::Project p = twoSmokes(dir);
        Store store;
        JobControl job;
        const auto shot = elements::freeze(p, store, job);
        render::StillSettings live;
        live.width = 48;
        live.height = 32;
        live.samples = test::often(48);
        live.followsPaths = false;
        live.layers.sources = live.layers.lamps = true;
        render::StillSettings paths = live;
        paths.air = render::StillAir::Paths;
        paths.samples = test::often(500);
        const render::Layers a = render::renderStill(shot, live, job), b = render::renderStill(shot, paths, job);
        const auto from = [](const render::Layers& l, const std::string& id) {
            double sum = 0.0;
            for (const auto& by : l.airBy)
                if (by.id == id)
                    for (int y = 0; y < 14; ++y) // above the ground, through the darkest of both
                        for (int x = 17; x < 31; ++x)
                            sum += static_cast<double>(by.air[static_cast<std::size_t>((y * 48 + x) * 3 + 1)]);
            return sum;
        };
        qInfo("sun %.3f, sky %.3f", from(a, shot->sunId) / from(b, shot->sunId), from(a, "sky") / from(b, "sky"));
        NEAR(from(a, shot->sunId) / from(b, shot->sunId), 1.0, test::within(0.1));
        NEAR(from(a, "sky") / from(b, "sky"), 1.0, test::within(0.15));
    }

    void statesThatDifferInLightDifferInName()
    {
        Stage s;
        const auto state = [&](const scene::Project& p, int height = 360) {
            return elements::stateOf(p, *elements::freeze(p, s.store, s.job), 640, height);
        };
        const std::string now = state(s.project);
        QCOMPARE(state(s.project), now);
        QVERIFY(state(s.project, 361) != now);
        scene::Project other = s.project;
        other.find("look")->set("exposure", 3.0);
        other.name = "something else";
        QCOMPARE(state(other), now); // the same light
        other.frame = 2;
        QVERIFY(state(other) != now);
        other = s.project;
        other.find(s.id)->set("visibility", 3.0);
        QVERIFY(state(other) != now);
        // Another file under the same name too: once it is what the shot was frozen from, and not before.
        const auto before = elements::freeze(s.project, s.store, s.job);
        media::writeVdb(pathIn(s.dir, "cube.vdb"), {{"density", {0, 0, 0}, {8, 8, 8}, filled(512, 1.f), false}}, Mat4(),
                        s.job);
        QCOMPARE(elements::stateOf(s.project, *before, 640, 360), now);
        QVERIFY(state(s.project) != now);
    }
};

QTEST_GUILESS_MAIN(TestVolumeWork)
#include "test_volume_work.moc"
