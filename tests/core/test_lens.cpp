/// Depth of field: the lens against the thin-lens formula, and both integrators against it and each other.
#include "elements/kinds.h"
#include "finish/deliver.h"
#include "geometry/camera.h"
#include "render/still.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using geometry::Camera;

namespace {
constexpr int size = 96;

/// Looking up at a small black board from so far below, before an even sky.
std::shared_ptr<shot::Shot> board(float distance, float half, float focus, float number)
{
    auto s = std::make_shared<shot::Shot>();
    s->scene = test::plate(0.f, half, Vec3(0.f));
    s->setIds = {"board"};
    s->camera = {Vec3(0.f, -distance, 0.f), Vec3(0.f, 0.f, 0.f), 50.f, 36.f};
    s->camera.focus = focus;
    s->camera.lensRadius = number > 0.f ? geometry::lensRadiusOf(50.f, number, focus) : 0.f;
    light::SkySettings sky;
    sky.panorama = std::make_shared<const light::Panorama>(32, 16, std::vector<float>(32 * 16 * 3, 1.f));
    s->sky = std::make_shared<light::Sky>(sky);
    return s;
}
render::Layers seen(const std::shared_ptr<shot::Shot>& s, bool paths, int samples)
{
    render::StillSettings settings;
    settings.width = settings.height = size;
    settings.samples = samples;
    settings.air = paths ? render::StillAir::Paths : render::StillAir::Live;
    JobControl job;
    return render::renderStill(s, settings, job);
}
/// How dark each pixel is against the sky, 0…1.
std::vector<double> darkness(const render::Layers& l)
{
    const std::vector<float> beauty = finish::beautyOf(l);
    double sky = 0.0;
    for (int x = 0; x < size; ++x)
        sky = std::max(sky, double(beauty[static_cast<std::size_t>(x) * 3 + 1]));
    std::vector<double> out;
    for (std::size_t p = 0; p < size * size; ++p)
        out.push_back(1.0 - double(beauty[p * 3 + 1]) / sky);
    return out;
}
/// Variance along x [pixels²] of what is dark.
double variance(const std::vector<double>& dark)
{
    double sum = 0, first = 0, second = 0;
    for (int y = 0; y < size; ++y)
        for (int x = 0; x < size; ++x) {
            const double d = dark[static_cast<std::size_t>(y * size + x)];
            sum += d;
            first += d * x;
            second += d * x * x;
        }
    return second / sum - first / sum * first / sum;
}
} // namespace

class TestLens : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void theCircleOfConfusionIsThatOfAThinLens_data()
    {
        QTest::addColumn<double>("distance");
        QTest::newRow("1.2 m") << 1.2;
        QTest::newRow("5 m") << 5.0;
        QTest::newRow("80 m") << 80.0;
    }
    void theCircleOfConfusionIsThatOfAThinLens()
    {
        QFETCH(double, distance);
        const double f = 0.05, s = 2.0, number = 2.0, aperture = f / number;
        const double wanted = aperture * f * std::abs(distance - s) / (distance * (s - f)); // on the sensor [m]
        Camera camera{Vec3(0.f), Vec3(0.f, 0.f, -1.f), 50.f, 36.f};
        camera.focus = 2.f;
        camera.lensRadius = geometry::lensRadiusOf(50.f, 2.f, 2.f);
        const geometry::View view(camera, 1000, 600);
        double most = 0.0;
        for (int i = 0; i < 64; ++i) {
            // Through the lens's rim: where the ray of the middle pixel meets the plane at that distance.
            const float u = 0.5f + 0.5f * std::cos(0.1f * static_cast<float>(i)),
                        v = 0.5f + 0.5f * std::sin(0.1f * static_cast<float>(i));
            const geometry::SightRay ray = view.ray(500.f, 300.f, u, v);
            const Vec3 there = ray.at((static_cast<float>(distance) + ray.origin.z) / -ray.direction.z);
            Vec2 pixel(0.f);
            float depth = 0.f;
            QVERIFY(view.project(there, pixel, depth));
            most = std::max(most, std::hypot(double(pixel.x) - 500.0, double(pixel.y) - 300.0));
        }
        NEAR(2.0 * most * 0.036 / 1000.0, wanted, 0.01);
        NEAR(2.0 * double(view.blurRadius(static_cast<float>(distance))) * 0.036 / 1000.0, wanted, 0.01);
    }

    void aBlurredBoardHasTheWidthOfItsCircle_data()
    {
        QTest::addColumn<bool>("paths");
        QTest::addColumn<double>("distance");
        QTest::addColumn<double>("focus");
        for (const bool paths : {false, true}) {
            const char* const by = paths ? "reference" : "live";
            QTest::addRow("%s, before the focus", by) << paths << 2.0 << 4.0;
            QTest::addRow("%s, behind it", by) << paths << 4.0 << 2.5;
            QTest::addRow("%s, in it", by) << paths << 3.0 << 3.0;
        }
    }
    void aBlurredBoardHasTheWidthOfItsCircle()
    {
        QFETCH(bool, paths);
        QFETCH(double, distance);
        QFETCH(double, focus);
        // Boards of the same size in the picture: 12 pixels.
        const auto perMetre = double(size) / 0.72 / distance;
        const float half = static_cast<float>(6.0 / perMetre);
        const auto shot = board(static_cast<float>(distance), half, static_cast<float>(focus), 1.4f);
        const double f = 0.05, c = f / 1.4 * f * std::abs(distance - focus) / (distance * (focus - f)),
                     pixels = c / 0.036 * size;
        // A disc of width c has a variance of c²/16 along an axis, a square of width w one of w²/12, and so has the
        // pixel's own filter, a tent of two pixels' width, of 1/6.
        const double wanted = pixels * pixels / 16.0 + 144.0 / 12.0 + 1.0 / 6.0;
        const auto dark = darkness(seen(shot, paths, paths ? 400 : 64));
        const double got = variance(dark);
        QVERIFY2(std::abs(std::sqrt(got / wanted) - 1.0) < 0.03,
                 qPrintable(QString("%1, wanted %2").arg(got).arg(wanted)));
        double sum = 0.0; // what is blurred is spread, and stays as much
        for (const double d : dark)
            sum += d;
        NEAR(sum, 144.0, 0.03);
    }

    void liveAndReferenceAgreePixelByPixel()
    {
        const auto shot = board(2.f, 0.08f, 5.f, 1.f);
        const auto live = darkness(seen(shot, false, 96)), paths = darkness(seen(shot, true, 600));
        double worst = 0.0, squares = 0.0;
        for (int y = 1; y < size - 1; ++y)
            for (int x = 1; x < size - 1; ++x) {
                double a = 0, b = 0; // by 3×3 pixels, for the noise
                for (int dy = -1; dy <= 1; ++dy)
                    for (int dx = -1; dx <= 1; ++dx) {
                        a += live[static_cast<std::size_t>((y + dy) * size + x + dx)] / 9.0;
                        b += paths[static_cast<std::size_t>((y + dy) * size + x + dx)] / 9.0;
                    }
                worst = std::max(worst, std::abs(a - b));
                squares += (a - b) * (a - b);
            }
        QVERIFY2(worst < 0.04 && std::sqrt(squares / (size * size)) < 0.01,
                 qPrintable(QString("%1 %2").arg(worst).arg(std::sqrt(squares / (size * size)))));
    }

    void theSwitchIsBackToSharp()
    {
        scene::Project p = elements::newProject();
        Store store;
        JobControl job;
        const auto sharp = elements::freeze(p, store, job);
        QCOMPARE(sharp->camera.lensRadius, 0.f);
        p.find("shot")->set("blurs", true);
        p.find("shot")->set("focus", 3.0);
        p.find("shot")->set("number", 2.0);
        const auto soft = elements::freeze(p, store, job);
        NEAR(soft->camera.lensRadius, 0.5 * 0.035 / 2.0 * 3.0 / (3.0 - 0.035), 1e-5);
        QCOMPARE(soft->camera.focus, 3.f);
        p.find("shot")->set("blurs", false);
        QVERIFY(elements::freeze(p, store, job)->camera == sharp->camera);
    }
};
QTEST_APPLESS_MAIN(TestLens)
#include "test_lens.moc"
