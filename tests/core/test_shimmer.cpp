/// Heat haze: how far hot air displaces what stands behind it.
#include "elements/bake.h"
#include "render/shimmer.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>

using namespace hygros;
using render::Shimmer;
namespace fs = std::filesystem;

namespace {
/// Air that grows warmer from left to right, in a box of the given depth before the eye: 4 m wide and high.
media::HotAir wedge(float depth, float nearest, float from, float to)
{
    constexpr int wide = 64, high = 64;
    const int deep = std::max(8, static_cast<int>(depth / 0.0625f) / 8 * 8);
    std::vector<float> values(std::size_t(wide) * high * std::size_t(deep));
    std::vector<media::BrickGrid::Block> blocks;
    float* at = values.data();
    for (int bx = 0; bx < wide / 8; ++bx)
        for (int by = 0; by < high / 8; ++by)
            for (int bz = 0; bz < deep / 8; ++bz, at += 512) {
                for (int i = 0; i < 512; ++i)
                    at[i] = from + (to - from) * float(bx * 8 + i / 64) / wide;
                blocks.push_back({bx, by, bz, at, 0.f});
            }
    JobControl job;
    media::HotAir hot;
    hot.id = "hot";
    hot.temperature = media::BrickGrid::fromBlocks(blocks, job);
    Mat4 scale, move;
    scale.setScale(Vec3(0.0625f));
    move.setTranslation(Vec3(-2.f, -2.f, -nearest - depth));
    hot.toIndex = (scale * move).inverse();
    return hot;
}
shot::Shot before(float wall)
{
    shot::Shot s;
    s.camera.position = Vec3(0.f);
    s.camera.aim = Vec3(0.f, 0.f, -1.f);
    s.camera.focalMm = 50.f;
    auto set = std::make_shared<geometry::SetGeometry>();
    geometry::Mesh m;
    m.positions = {Vec3(-900, -900, -wall), Vec3(900, -900, -wall), Vec3(900, 900, -wall), Vec3(-900, 900, -wall)};
    m.normals.assign(4, Vec3(0, 0, 1));
    m.indices = {0, 1, 2, 0, 2, 3};
    set->meshes.push_back(m);
    set->materials.emplace_back();
    set->triangles = 2;
    JobControl job;
    s.scene = std::make_shared<const geometry::RayScene>(
        std::vector<geometry::PlacedSet>{geometry::PlacedSet{set, Mat4()}}, job);
    return s;
}
} // namespace

class TestShimmer : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aRayBendsAsTheIndexSays()
    {
        // n − 1 = 2.77e-4 · 288.15 / T: in four metres of air from 400 K to 1200 K.
        constexpr float depth = 4.f, nearest = 8.f, wall = 100.f;
        shot::Shot s = before(wall);
        s.hotAir = {wedge(depth, nearest, 400.f, 1200.f)};
        const Shimmer shimmer(s, 640, 360);
        QVERIFY(!shimmer.isEmpty());
        const geometry::View view(s.camera, 640, 360);
        const double kelvin = 400.0 + 800.0 * (32.0 / 64.0), slope = 800.0 / 4.0; // in the middle; [K/m]
        const double bend = -2.77e-4 * 288.15 / (kelvin * kelvin) * slope * double(depth),
                     behind = 1.0 - (double(nearest) + 0.5 * double(depth)) / double(wall),
                     wanted = bend * behind / double(view.pixelAngle());
        NEAR(shimmer.at(320, 180).x, wanted, 0.06); // the ends of the box fall off over a voxel
        QVERIFY(std::abs(shimmer.at(320, 180).y) < 0.02 * std::abs(shimmer.at(320, 180).x));
        // As strong as asked for, and by the picture's size.
        s.hotAir[0].strength = 3.f;
        NEAR(Shimmer(s, 640, 360).at(320, 180).x, 3.0 * wanted, 0.06);
        NEAR(Shimmer(s, 1280, 720).at(640, 360).x, 6.0 * wanted, 0.06);
        // A wall right behind it is hardly displaced, one before it not at all.
        shot::Shot close = before(12.5f);
        close.hotAir = {wedge(depth, nearest, 400.f, 1200.f)};
        close.hotAir[0].strength = 40.f;
        NEAR(Shimmer(close, 640, 360).at(320, 180).x, 40.0 * bend / double(view.pixelAngle()) * (1.0 - 10.0 / 12.5),
             0.07);
        shot::Shot hidden = before(5.f);
        hidden.hotAir = {wedge(depth, nearest, 400.f, 1200.f)};
        QVERIFY(Shimmer(hidden, 640, 360).isEmpty());
        // Air no warmer than what is around bends nothing.
        s.hotAir = {wedge(depth, nearest, 100.f, 287.f)};
        QVERIFY(Shimmer(s, 640, 360).isEmpty());
    }

    void whatIsBehindIsDisplacedAndNothingElse()
    {
        shot::Shot s = before(100.f);
        s.hotAir = {wedge(4.f, 8.f, 400.f, 1200.f)};
        s.hotAir[0].strength = 60.f;
        constexpr int w = 320, h = 180;
        const Shimmer shimmer(s, w, h);
        const float by = shimmer.at(w / 2, h / 2).x;
        QVERIFY2(std::abs(by) > 2.f, qPrintable(QString::number(by)));
        std::vector<float> picture(std::size_t(w * h) * 3);
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                for (int c = 0; c < 3; ++c)
                    picture[std::size_t((y * w + x) * 3 + c)] = float(x) + 1000.f * float(c);
        auto bent = picture;
        shimmer.bend(bent, 3);
        for (int c = 0; c < 3; ++c)
            NEAR(bent[std::size_t((h / 2 * w + w / 2) * 3 + c)], float(w / 2) + by + 1000.f * float(c), 1e-3);
        // Beside the warm air nothing moves.
        QCOMPARE(bent[std::size_t((h / 2 * w + 2) * 3)], picture[std::size_t((h / 2 * w + 2) * 3)]);
    }

    void aPlumesHazeIsInTheDeliveredPictureToo()
    {
        QTemporaryDir folder;
        Store store;
        JobControl job;
        scene::Project p = elements::newProject();
        p.time.last = 12;
        scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
        plume.set("position", Vec3(0.f));
        plume.set("size", Vec3(1.6f, 2.4f, 1.6f));
        plume.set("voxel", 0.05);
        plume.set("detail", std::string("preview"));
        plume.set("glow", std::string("none"));
        plume.set("sooting", 0.0);
        scene::Element& feed = p.add(*elements::findKind("feed"), "Coals");
        feed.set("plume", std::string("plume"));
        feed.set("position", Vec3(0.f, 0.3f, 0.f));
        feed.set("temperature", 1300.0);
        p.find("shot")->set("position", Vec3(0.f, 1.f, 5.f));
        p.find("shot")->set("aim", Vec3(0.f, 1.f, 0.f));
        p.baked = fs::path(folder.path().toStdString()) / "frames";
        FrameStore frames(p.baked);
        elements::bake(p, "plume", frames, store, job);
        p.frame = 12;
        const auto none = elements::freeze(p, store, job);
        QVERIFY(none->hotAir.empty());
        p.find("plume")->set("shimmers", 30.0);
        const auto hazy = elements::freeze(p, store, job);
        QCOMPARE(hazy->hotAir.size(), std::size_t(1));
        QVERIFY(!Shimmer(*hazy, 320, 180).isEmpty());
        // Layers are bent alike, so that they still make up the picture.
        render::StillSettings s;
        s.width = 160;
        s.height = 90;
        s.samples = 1;
        const render::Layers a = render::renderStill(render::Shots{{none}}, s, job),
                             b = render::renderStill(render::Shots{{hazy}}, s, job);
        QVERIFY(a.plate != b.plate);
        render::Layers straight = a;
        Shimmer(*hazy, 160, 90).bend(straight);
        QCOMPARE(straight.plate, b.plate);
        QCOMPARE(straight.transmittance, b.transmittance);
        // Frozen without a bake it is not there.
        p.frame = 40;
        QVERIFY(elements::freeze(p, store, job)->hotAir.empty());
    }
};
QTEST_GUILESS_MAIN(TestShimmer)
#include "test_shimmer.moc"
