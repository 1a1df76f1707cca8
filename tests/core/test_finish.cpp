#include "base/error.h"
#include "finish/deliver.h"
#include "finish/display.h"
#include "image/image.h"
#include "light/blackbody.h"
#include "support.h"

using namespace hygros;
using namespace hygros::finish;

namespace {
render::Layers sample()
{
    render::Layers l;
    l.width = 5;
    l.height = 3;
    l.samples = 7;
    const std::size_t n = l.pixels();
    l.airBy = {{"sun", std::vector<float>(n * 3)}, {"lamp", std::vector<float>(n * 3)}};
    for (std::size_t i = 0; i < n * 3; ++i) {
        l.plate.push_back(0.1f * static_cast<float>(i));
        l.transmittance.push_back(1.f / (1.f + static_cast<float>(i)));
        l.airBy[0].air[i] = 0.02f * static_cast<float>(i % 7);
        l.airBy[1].air[i] = 0.01f;
        l.air.push_back(l.airBy[0].air[i] + l.airBy[1].air[i]);
    }
    for (std::size_t i = 0; i < n; ++i)
        l.depth.push_back(3.f + static_cast<float>(i));
    return l;
}
} // namespace

class TestFinish : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void withoutACurveTheDisplayIsSrgb()
    {
        const finish::Display d(shot::Look{});
        const auto srgb = [](double c) { return c <= 0.0031308 ? 12.92 * c : 1.055 * std::pow(c, 1 / 2.4) - 0.055; };
        for (const double c : {0.0, 0.001, 0.01, 0.18, 0.5, 0.9, 1.0, 7.0})
            QVERIFY2(std::abs(double(d.encode(static_cast<float>(c))) - srgb(std::min(1.0, c))) < 5e-4,
                     qPrintable(QString::number(c)));
    }

    void exposureIsInStops()
    {
        shot::Look bright;
        bright.exposure = 2.f;
        QVERIFY(std::abs(finish::Display(bright).encode(0.1f) - finish::Display(shot::Look{}).encode(0.4f)) < 1e-3f);
    }

    void neutralPointFollowsTheBlackbody()
    {
        const Vec3 same = whiteGains(6500.f);
        NEAR(same.x, 1.0, 1e-6);
        NEAR(same.z, 1.0, 1e-6);
        // 3000 K light is orange: to look white its red is held back and its blue lifted.
        const Vec3 warm = whiteGains(3000.f);
        QVERIFY(warm.x < 1.f && warm.z > 1.5f);
        NEAR(luminance(light::blackbodyColour(3000.f)), 1.0, 0.01);
    }

    void curvePassesItsPointsAndNeverFalls()
    {
        const std::vector<Vec2> p{{-8, 0}, {-3, 0.02f}, {0, 0.18f}, {0.2f, 0.7f}, {3, 0.71f}, {6, 1}};
        for (const Vec2& q : p)
            QVERIFY(std::abs(monotoneCurve(p, q.x) - q.y) < 1e-5f);
        float before = -1.f;
        for (float x = -10.f; x < 9.f; x += 0.01f) {
            const float y = monotoneCurve(p, x);
            QVERIFY(y >= before - 1e-6f && y >= 0.f && y <= 1.f);
            before = y;
        }
    }

    void ditherKeepsTheMeanAndLeavesNoSteps()
    {
        // A very slow ramp: with plain rounding columns would be flat for dozens of pixels.
        constexpr int w = 512, h = 64;
        std::vector<float> ramp(w * h * 3);
        for (int i = 0; i < w * h * 3; ++i)
            ramp[static_cast<std::size_t>(i)] = 0.2f + 0.01f * static_cast<float>((i / 3) % w) / w;
        const auto shown = displayed(shot::Look{}, ramp, w, h);
        const finish::Display d(shot::Look{});
        for (int x = 0; x < w; x += 16) {
            double mean = 0.0;
            for (int k = 0; k < 16 * h; ++k)
                mean += shown[static_cast<std::size_t>(((k / 16) * w + x + k % 16) * 3)] / (16.0 * h);
            const double wanted = 255.0 * double(d.encode(ramp[static_cast<std::size_t>((x + 8) * 3)]));
            QVERIFY2(std::abs(mean - wanted) < 0.25, qPrintable(QString("%1 against %2").arg(mean).arg(wanted)));
        }
        for (const float bad : {std::nanf(""), -1.f, -std::numeric_limits<float>::infinity()}) {
            const std::vector<float> pixel(3, bad);
            QCOMPARE(displayed(shot::Look{}, pixel, 1, 1)[0], std::uint8_t(0));
        }
    }

    void exrHoldsEveryLayerUnderItsName()
    {
        QTemporaryDir dir;
        const std::filesystem::path file = dir.filePath("a.exr").toStdString();
        deliverExr(file, sample(), {"Test", 4, {}, true});
        const image::Image in = image::readImage(file);
        for (const char* name : {"R", "G", "B", "A", "plate.R", "plate.B", "transmittance.G", "air.R", "air.sun.R",
                                 "air.lamp.B", "depth.Z"})
            QVERIFY2(in.channel(name) >= 0, name);
        for (int y = 0; y < in.height; ++y)
            for (int x = 0; x < in.width; ++x) {
                const float* p = in.at(x, y);
                const auto at = [&](const char* n) { return p[in.channel(n)]; };
                QVERIFY(std::abs(at("R") - (at("plate.R") * at("transmittance.R") + at("air.R"))) < 1e-5f);
                QVERIFY(std::abs(at("air.G") - (at("air.sun.G") + at("air.lamp.G"))) < 1e-6f);
            }
        QCOMPARE(in.at(4, 2)[in.channel("depth.Z")], 17.f);
        const auto facts = image::imageFacts(file);
        QVERIFY(std::any_of(facts.metadata.begin(), facts.metadata.end(),
                            [](const auto& m) { return m.first == "hygros/frame" && m.second == "4"; }));
    }

    void pngIsThePictureAsShown()
    {
        QTemporaryDir dir;
        const QString file = dir.filePath("a.png");
        deliverPng(file.toStdString(), sample(), {"Test", 1, {}, false});
        const QImage png(file);
        QCOMPARE(png.size(), QSize(5, 3));
        QVERIFY(png.pixelColor(4, 2).red() > png.pixelColor(0, 0).red());
    }

    void badPicturesAreRefusedWithTheirName()
    {
        QTemporaryDir dir;
        THROWS_SAYING(image::readImage(dir.filePath("none.exr").toStdString()), "there is no such file");
        QFile f(dir.filePath("bad.exr"));
        QVERIFY(f.open(QIODevice::WriteOnly));
        f.write("v/1\x01 not an exr");
        f.close();
        THROWS_SAYING(image::readImage(f.fileName().toStdString()), "bad.exr");
        THROWS_SAYING(deliverExr("/nowhere/at/all/a.exr", sample(), {}), "the folder does not exist");
    }
};
QTEST_GUILESS_MAIN(TestFinish)
#include "test_finish.moc"
