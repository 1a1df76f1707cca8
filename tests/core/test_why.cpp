/// Why a pixel is dark or bright, against light that is known; and a part of the picture against the whole.
#include "reading/why.h"

#include "geometry/plate.h"
#include "render/frame.h"
#include "render/still.h"
#include "support.h"

using namespace hygros;
using namespace hygros::test;

class TestWhy : public QObject {
    Q_OBJECT
    static std::string same(const std::string& id) { return id; }
    /// A grey surface 100 m away behind air of an optical depth, lit by sun and sky alike.
    static render::Sounding sounding(double depth, double surface, double air)
    {
        render::Sounding s;
        s.depth = 100.f;
        s.distance = {0.f, 50.f, 100.f};
        for (const float d : s.distance)
            s.transmittance.push_back(static_cast<float>(std::exp(-depth * double(d) / 100.0)));
        const Vec3 all(static_cast<float>(surface));
        s.surface = all;
        s.surfaceBy = {{"own", Vec3(0.f)}, {"sun", all * 0.5f}, {"sky", all * 0.5f}};
        const Vec3 light(static_cast<float>(air));
        s.sunAndSky = {Vec3(0.f), light * 0.5f, light};
        s.elements = {{"mist", std::vector<float>(3, static_cast<float>(depth / 100.0)), s.sunAndSky}};
        return s;
    }
    static const reading::Reason& of(const std::vector<reading::Reason>& all, const std::string& id)
    {
        static const reading::Reason none;
        for (const auto& r : all)
            if (r.element == id)
                return r;
        return none;
    }
    static double bright(const Vec3& c) { return double(luminance(c)); }

private Q_SLOTS:
    void stopsAreThoseOfTheClosedForm()
    {
        // Two thirds of the pixel's light are the air's, so without it it is log2(3) stops darker.
        const reading::Why why = reading::whyOf(sounding(std::log(2.0), 2.0, 2.0), same);
        NEAR(why.luminance, 3.0, 1e-5);
        QCOMPARE(why.gives.front().element, std::string("mist"));
        NEAR(why.gives.front().share, 2.0 / 3.0, 1e-5);
        NEAR(why.gives.front().stops, std::log2(3.0), 1e-4);
        NEAR(of(why.gives, "sun").share, 1.0 / 6.0, 1e-5);
        NEAR(of(why.gives, "sun").stops, -std::log2(1.0 - 1.0 / 6.0), 1e-4);
        // It lets half of the surface's two come through: with all of it there were four.
        QCOMPARE(why.takes.size(), std::size_t(1));
        NEAR(why.takes[0].stops, -std::log2(4.0 / 3.0), 1e-4);
        NEAR(why.takes[0].share, 0.5, 1e-4);
        // All there is.
        const reading::Why alone = reading::whyOf(sounding(0.0, 0.0, 1.0), same);
        QVERIFY(std::isinf(alone.gives.front().stops) && alone.gives.front().share > 0.999);
        QVERIFY(alone.takes.empty());
        QVERIFY(!reading::whyOf({}, same).known());
    }
    void sourcesOfARenderedSurfaceAddUp()
    {
        // A lawn under sun and sky with a lamp over it, in haze.
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("haze"), "Haze").set("visibility", 60.0);
        scene::Element& bulb = p.add(*elements::findKind("bulb"), "Lamp");
        bulb.set("position", Vec3(0.f, 1.f, -4.f));
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 0.f, -6.f));
        Store store;
        JobControl job;
        auto shot = std::make_shared<shot::Shot>(*elements::freeze(p, store, job));
        shot->scene = plate(0.f, 40.f);
        render::Frame frame(shot, 64, 36);
        const std::atomic<bool> never{false};
        for (int pass = 0; pass < often(16); ++pass) {
            frame.trace(pass, never);
            frame.light(never);
        }
        for (const int y : {12, 20, 30}) {
            const render::Sounding s = frame.soundingAt(31, y);
            QVERIFY(s.known() && !s.sky);
            Vec3 sum(0.f);
            for (const auto& by : s.surfaceBy)
                sum += by.light;
            NEAR(bright(sum), bright(s.surface), 1e-3);
            const reading::Why why = reading::whyOf(s, same);
            NEAR(why.luminance, bright(s.surface) * double(s.transmittance.back()) + bright(s.airLight()), 1e-3);
            double shares = 0.0;
            for (const auto& r : why.gives)
                shares += r.share;
            NEAR(shares, 1.0, 0.01);
            QVERIFY(std::is_sorted(why.gives.begin(), why.gives.end(),
                                   [](const auto& a, const auto& b) { return a.stops > b.stops; }));
            QVERIFY(of(why.takes, "haze").stops < -0.01);
        }
        // In the shadow of a roof the sun gives nothing, and that is said.
        p.find("sun")->set("elevation", 80.0);
        p.find("haze")->muted = true; // it would bring the sun's light in from around
        shot = std::make_shared<shot::Shot>(*elements::freeze(p, store, job));
        auto set = std::make_shared<geometry::SetGeometry>();
        geometry::Mesh m;
        for (const float h : {0.f, 6.f})
            for (const Vec3& corner : {Vec3(-30, h, -30), Vec3(30, h, -30), Vec3(30, h, 30), Vec3(-30, h, 30)})
                m.positions.push_back(corner);
        m.normals.assign(8, Vec3(0, 1, 0));
        m.indices = {0, 2, 1, 0, 3, 2, 4, 6, 5, 4, 7, 6};
        set->meshes.push_back(m);
        set->materials.emplace_back();
        set->triangles = 4;
        shot->scene = std::make_shared<const geometry::RayScene>(
            std::vector<geometry::PlacedSet>{geometry::PlacedSet{set, Mat4()}}, job);
        render::Frame dark(shot, 64, 36);
        for (int pass = 0; pass < often(16); ++pass) {
            dark.trace(pass, never);
            dark.light(never);
        }
        const reading::Why why = reading::whyOf(dark.soundingAt(31, 30), same);
        QVERIFY(of(why.gives, "sun").text.empty() || of(why.gives, "sun").text.find("surface") == std::string::npos);
        QVERIFY(std::any_of(why.nothing.begin(), why.nothing.end(),
                            [](const std::string& n) { return n.starts_with("sun gives this surface nothing"); }));
    }

    void aPartIsAPieceOfTheWhole()
    {
        geometry::Camera camera;
        camera.aim = Vec3(3.f, 0.5f, -9.f);
        const geometry::View whole(camera, 640, 360);
        camera.part = {0.25f, 0.5f, 0.25f, 0.25f};
        const geometry::View part(camera, 320, 180); // twice as fine
        QCOMPARE(geometry::Camera().part.isWhole(), true);
        NEAR(part.pixelAngle(), 0.5 * double(whole.pixelAngle()), 1e-5);
        for (const Vec2& at : {Vec2(0, 0), Vec2(160, 90), Vec2(320, 180), Vec2(37.5f, 122.25f)}) {
            const Vec3 a = part.ray(at.x, at.y).direction,
                       b = whole.ray(160.f + 0.5f * at.x, 180.f + 0.5f * at.y).direction;
            QVERIFY((a - b).length() < 1e-5f);
            Vec2 back;
            float depth = 0.f;
            QVERIFY(part.project(part.position() + a * 7.f, back, depth));
            QVERIFY((back - at).length() < 1e-2f);
        }
    }
    void aPartOfThePictureIsThatPieceOfIt_data()
    {
        QTest::addColumn<bool>("paths");
        QTest::addColumn<bool>("follows");
        QTest::addColumn<double>("visibility");
        QTest::newRow("live") << false << false << 80.0;
        QTest::newRow("live, with what paths say") << false << true << 800.0;
        QTest::newRow("paths") << true << false << 80.0;
    }
    void aPartOfThePictureIsThatPieceOfIt()
    {
        QFETCH(bool, paths);
        QFETCH(bool, follows);
        QFETCH(double, visibility);
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("haze"), "Haze").set("visibility", visibility);
        if (follows) { // few paths find a low sun ahead: what they say would be 3 % of chance
            p.find("sun")->set("elevation", 60.0);
            p.find("sun")->set("azimuth", 150.0);
        }
        scene::Element& bulb = p.add(*elements::findKind("bulb"), "Lamp");
        bulb.set("position", Vec3(1.f, 2.f, -9.f));
        p.add(*elements::findKind("rain"), "Rain");
        Store store;
        JobControl job;
        auto shot = std::make_shared<shot::Shot>(*elements::freeze(p, store, job));
        shot->scene = plate(0.f, 40.f);
        const int w = follows ? 128 : 64,
                  h = w / 2; // of the part; what paths say is known the better the more looks there are
        render::StillSettings settings{2 * w, 2 * h, often(paths || follows ? 48 : 32)};
        settings.air = paths ? render::StillAir::Paths : render::StillAir::Live;
        settings.followsPaths = follows;
        const render::Layers whole = render::renderStill(std::shared_ptr<const shot::Shot>(shot), settings, job);
        auto cut = std::make_shared<shot::Shot>(*shot);
        cut->camera.part = {0.5f, 0.25f, 0.5f, 0.5f};
        settings.width = w;
        settings.height = h;
        const render::Layers part = render::renderStill(std::shared_ptr<const shot::Shot>(cut), settings, job);
        // By blocks of 8 by 8 pixels, which noise leaves alone.
        double apart = 0.0, sum = 0.0, own = 0.0;
        std::vector<double> blocks(static_cast<std::size_t>(w * h / 64), 0.0);
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                for (std::size_t c = 0; c < 3; ++c) {
                    const auto value = [&](const render::Layers& l, int px, int py) {
                        const std::size_t i = (static_cast<std::size_t>(py) * static_cast<std::size_t>(l.width) +
                                               static_cast<std::size_t>(px)) *
                                                  3 +
                                              c;
                        return double(l.plate[i] * l.transmittance[i] + l.air[i]);
                    };
                    const double a = value(part, x, y), b = value(whole, w + x, h / 2 + y);
                    blocks[static_cast<std::size_t>(y / 8 * (w / 8) + x / 8)] += a - b;
                    sum += b;
                    own += a;
                }
        for (const double b : blocks)
            apart += std::abs(b);
        QVERIFY2(std::abs(own / sum - 1.0) < within(paths     ? 0.05
                                                    : follows ? 0.02
                                                              : 0.005),
                 qPrintable(QString::number(own / sum)));
        QVERIFY2(apart < within(paths ? 0.25 : 0.04) * sum, qPrintable(QString::number(apart / sum)));
    }
    void aPlateIsCutTheSame()
    {
        geometry::Plate plate;
        plate.width = 8;
        plate.height = 4;
        for (int i = 0; i < 32; ++i) {
            plate.rgb.insert(plate.rgb.end(), 3, static_cast<float>(i));
            plate.depth.push_back(10.f + static_cast<float>(i));
        }
        float a[3], b[3];
        for (int y = 0; y < 4; ++y)
            for (int x = 0; x < 8; ++x) {
                const float whole = plate.fitted(x, y, 8, 4, a);
                // Its right lower quarter, pixel for pixel.
                const float part = x < 4 || y < 2 ? whole
                                                  : plate.fitted(x - 4, y - 2, 4, 2, b, {0.5f, 0.5f, 0.5f, 0.5f});
                QCOMPARE(part, whole);
                if (x >= 4 && y >= 2)
                    QCOMPARE(b[0], a[0]);
            }
    }
};

QTEST_GUILESS_MAIN(TestWhy)
#include "test_why.moc"
