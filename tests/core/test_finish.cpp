#include "base/error.h"
#include "finish/deliver.h"
#include "finish/display.h"
#include "finish/glow.h"
#include "image/colour_table.h"
#include "image/image.h"
#include "light/blackbody.h"
#include "support.h"

#include <QElapsedTimer>
#include <QTemporaryDir>
#include <fstream>
#include <random>
#include <sstream>

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

/// The text of a table whose entries are `map` of red, green and blue, each 0 to 1.
template <class Map> std::string cube(int edge, const Map& map, const std::string& more = {})
{
    std::ostringstream text;
    text.precision(9);
    text << "TITLE \"made up\"\n" << more << "LUT_3D_SIZE " << edge << '\n';
    for (int i = 0; i < edge * edge * edge; ++i) {
        const auto at = [&](int k) { return double(k % edge) / (edge - 1); };
        for (const double v : map(at(i), at(i / edge), at(i / edge / edge)))
            text << v << ' ';
        text << '\n';
    }
    return text.str();
}
/// Always the same one of a number.
Vec3 anyColour(int which)
{
    std::mt19937 random(static_cast<unsigned>(which) + 1u);
    std::uniform_real_distribution<float> any(0.f, 1.f);
    const float r = any(random), g = any(random), b = any(random);
    return {r, g, b};
}
Vec3 through(const image::ColourTable& table, const Vec3& colour)
{
    F8 c[3] = {f8(colour.x), f8(colour.y), f8(colour.z)};
    table.apply(c);
    return {c[0][7], c[1][7], c[2][7]};
}
} // namespace

class TestFinish : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void lengthsThatAFileCannotHoldAreRefusedAtOnce()
    {
        QTemporaryDir folder;
        const std::filesystem::path png = folder.filePath("a.png").toStdString(),
                                    exr = folder.filePath("a.exr").toStdString();
        image::writePng(png, 4, 4, std::vector<std::uint8_t>(48, 90));
        image::writeExr(exr, image::Image(4, 4, {"R", "G", "B"}));
        QCOMPARE(image::readImage(png).width, 4);
        QCOMPARE(image::readImage(exr).width, 4);
        const auto with = [](const std::filesystem::path& file, std::size_t at, const char* four) {
            std::fstream f(file, std::ios::in | std::ios::out | std::ios::binary);
            f.seekp(static_cast<std::streamoff>(at));
            f.write(four, 4);
        };
        const auto says = [](const std::filesystem::path& file) {
            QElapsedTimer clock;
            clock.start();
            try {
                image::readImage(file);
            } catch (const Error& e) {
                return clock.elapsed() < 1000 ? QString(e.what()) : QString("late");
            }
            return QString();
        };
        with(png, 33, "\x7f\xff\xff\x00"); // the piece after IHDR
        QVERIFY2(says(png).contains("longer than the file"), qPrintable(says(png)));
        // The first attribute: its name and type end with a zero each, then comes its length.
        std::ifstream in(exr, std::ios::binary);
        const std::string bytes{std::istreambuf_iterator<char>(in), std::istreambuf_iterator<char>()};
        with(exr, bytes.find('\0', bytes.find('\0', 8) + 1) + 1, "\xff\xff\xff\x7f");
        QVERIFY2(says(exr).contains("longer than the file"), qPrintable(says(exr)));
        // A size of 20000 × 20000 in a hundred bytes.
        image::writePng(png, 4, 4, std::vector<std::uint8_t>(48, 90));
        std::fstream wide(png, std::ios::in | std::ios::out | std::ios::binary);
        wide.seekp(16);
        wide.write("\x00\x00\x4e\x20\x00\x00\x4e\x20", 8);
        wide.close();
        QVERIFY(!says(png).isEmpty() && says(png) != "late");
    }

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

    void brightColoursPaleAndDimOnesStay()
    {
        shot::Look look;
        look.curve = {{-9.f, 0.f}, {-2.f, 0.045f}, {0.f, 0.19f}, {2.f, 0.56f}, {4.f, 0.88f}, {6.5f, 1.f}};
        const auto shown = [&](Vec3 colour, float pales) {
            look.pales = pales;
            std::vector<float> rgb;
            for (int i = 0; i < 9; ++i) // a row that is no whole number of registers
                rgb.insert(rgb.end(), {colour.x, colour.y, colour.z});
            const auto out = displayed(look, rgb, 9, 1);
            return Vec3(out[24], out[25], out[26]);
        };
        // Light of a flame far above white: flat yellow by channels alone; pale with it, and still warm.
        const Vec3 flame(40.f, 12.f, 0.02f);
        QVERIFY(shown(flame, 0.f).z < 60.f);
        const Vec3 pale = shown(flame, 1.f);
        QVERIFY2(pale.z > 90.f, qPrintable(QString::number(double(pale.z))));
        QVERIFY(pale.x >= pale.y && pale.y > pale.z);
        // Below white the same colour, but for what the curve's bend does to it.
        for (const Vec3& c : {Vec3(0.1f, 0.05f, 0.02f), Vec3(0.02f, 0.06f, 0.1f), Vec3(0.15f)}) {
            const Vec3 before = shown(c, 0.f), after = shown(c, 1.f);
            for (int k = 0; k < 3; ++k)
                QVERIFY2(std::abs(before[k] - after[k]) < 9.f,
                         qPrintable(QString("%1 %2").arg(double(before[k])).arg(double(after[k]))));
        }
        // Grey stays grey, at any brightness; black, negative and not-a-number stay black.
        for (float v = 0.001f; v < 100.f; v *= 1.7f)
            QVERIFY((shown(Vec3(v), 1.f) - shown(Vec3(v), 0.f)).length() < 2.5f);
        QVERIFY(shown(Vec3(-1.f, std::nanf(""), 0.f), 1.f).length() < 2.f);
        look.pales = 0.f;
        const float plain = finish::Display(look).encode(0.7f);
        look.pales = 0.8f;
        QVERIFY(std::abs(finish::Display(look).encode(0.7f) - plain) < 2e-3f);
    }

    void glowKeepsTheLightAndFallsAway()
    {
        shot::Look look;
        look.glow = 0.3f;
        look.glowFrom = 1.f;
        look.glowReach = 0.1f;
        const int w = 320, h = 270;
        std::vector<float> rgb(static_cast<std::size_t>(w * h) * 3, 0.f);
        const auto at = [&](const std::vector<float>& p, int x, int y) {
            return p[static_cast<std::size_t>((y * w + x) * 3)];
        };
        rgb[static_cast<std::size_t>((135 * w + 160) * 3)] = 1000.f;
        const auto out = glowing(look, rgb.data(), w, h);
        double before = 0.0, after = 0.0;
        for (std::size_t i = 0; i < rgb.size(); i += 3) {
            before += double(rgb[i]);
            after += double(out[i]);
        }
        NEAR(after, before, 1e-4 * before);
        // What leaves the pixel is the share of what lies above the threshold, less the finest circle.
        QVERIFY(at(out, 160, 135) < 1000.f - 0.1f * 998.f && at(out, 160, 135) > 690.f);
        // It falls by about r^-2.5, with no ring and the same to all sides.
        float last = at(out, 163, 135);
        for (int r = 4; r < 100; ++r) {
            const float now = at(out, 160 + r, 135);
            QVERIFY2(now <= last * 1.05f,
                     qPrintable(QString("%1: %2 after %3").arg(r).arg(double(now)).arg(double(last))));
            last = now;
        }
        const double slope = std::log(double(at(out, 164, 135) / at(out, 180, 135))) / std::log(20.0 / 4.0);
        QVERIFY2(slope > 1.8 && slope < 3.2, qPrintable(QString::number(slope)));
        NEAR(at(out, 160, 135 + 16) / at(out, 160 + 16, 135), 1.0, 0.1);
        // Only red light came: only red light goes.
        QCOMPARE(out[static_cast<std::size_t>((135 * w + 170) * 3 + 1)], 0.f);
        // Even light is even, whatever its brightness; what is dimmer than the threshold does not glow.
        const std::vector<float> bright(rgb.size(), 9.f), dim(rgb.size(), 1.5f);
        for (const float v : glowing(look, bright.data(), w, h))
            QVERIFY(std::abs(v - 9.f) < 1e-3f);
        QCOMPARE(glowing(look, dim.data(), w, h), dim);
        // Broken light does not spread.
        std::vector<float> broken = dim;
        broken[3000] = std::numeric_limits<float>::infinity();
        broken[6000] = -1e9f;
        QCOMPARE(glowing(look, broken.data(), w, h), broken);
        QCOMPARE(glowing(look, dim.data(), 1, 1).size(), std::size_t(3));
    }

    void glowIsTheSameAtAnySize()
    {
        shot::Look look;
        look.glow = 0.5f;
        look.glowReach = 0.15f;
        const auto around = [&](int scale) { // of a bright square, in the middle of its right, a twentieth away
            const int w = 160 * scale, h = 90 * scale;
            std::vector<float> rgb(static_cast<std::size_t>(w * h) * 3, 0.f);
            for (int y = 40 * scale; y < 50 * scale; ++y)
                for (int x = 75 * scale; x < 85 * scale; ++x)
                    for (int c = 0; c < 3; ++c)
                        rgb[static_cast<std::size_t>((y * w + x) * 3 + c)] = 50.f;
            const auto out = glowing(look, rgb.data(), w, h);
            double sum = 0.0;
            for (int y = 44 * scale; y < 46 * scale; ++y)
                for (int x = 90 * scale; x < 92 * scale; ++x)
                    sum += double(out[static_cast<std::size_t>((y * w + x) * 3)]);
            return sum / (4.0 * scale * scale);
        };
        const double small = around(6), large = around(12);
        QVERIFY(small > 0.05);
        NEAR(large / small, 1.0, 0.12);
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

    // --- colour tables --------------------------------------------------------------------------------------------

    void aTableMakesOneColourOfAnother()
    {
        // A linear map of colours passes a lattice unchanged, wherever a colour lies in it; beyond its domain the edge.
        const auto map = [](double r, double g, double b) {
            return std::array<double, 3>{0.7 * r + 0.2 * g + 0.1 * b, 0.1 * r + 0.6 * g + 0.05,
                                         0.3 * b + 0.3 * g + 0.2};
        };
        const auto table = image::ColourTable::parse(cube(5, map, "DOMAIN_MIN -0.5 0 0\nDOMAIN_MAX 1.5 2 1\n"),
                                                     "a.cube");
        QCOMPARE(table->edge(), 5);
        QCOMPARE(table->title(), std::string("made up"));
        const auto within = [](double v, double from, double to) {
            return std::clamp((v - from) / (to - from), 0.0, 1.0);
        };
        for (int i = 0; i < 500; ++i) {
            const Vec3 c = anyColour(i) * 3.f - Vec3(1.f);
            const Vec3 out = through(*table, c);
            const auto wanted = map(within(double(c.x), -0.5, 1.5), within(double(c.y), 0, 2),
                                    within(double(c.z), 0, 1));
            for (int k = 0; k < 3; ++k)
                QVERIFY(std::abs(double(out[k]) - wanted[static_cast<std::size_t>(k)]) < 2e-6);
        }
        QVERIFY(std::isfinite(through(*table, Vec3(std::nanf(""), 1e30f, -1e30f)).length()));
    }

    void betweenItsEntriesATableGoesByTetrahedra()
    {
        // Any numbers; the tetrahedron found by ordering the parts, its corners one by one.
        const auto entry = [](int r, int g, int b) { return anyColour(r + 7 * g + 49 * b); };
        const auto table = image::ColourTable::parse(
            cube(7,
                 [&](double r, double g, double b) {
                     const Vec3 c = entry(int(std::lround(r * 6)), int(std::lround(g * 6)), int(std::lround(b * 6)));
                     return std::array<double, 3>{double(c.x), double(c.y), double(c.z)};
                 }),
            "a.cube");
        for (int i = 0; i < 500; ++i) {
            // Some with parts that are alike, some on the last corner.
            Vec3 c = i == 0 ? Vec3(1.f) : anyColour(i + 1000);
            if (i % 5 == 1)
                c.y = c.x;
            if (i % 7 == 1)
                c.z = c.y;
            int cell[3];
            std::array<std::pair<float, int>, 3> parts;
            for (int k = 0; k < 3; ++k) {
                cell[k] = std::min(5, static_cast<int>(c[k] * 6.f));
                parts[static_cast<std::size_t>(k)] = {c[k] * 6.f - static_cast<float>(cell[k]), k};
            }
            std::sort(parts.begin(), parts.end(), std::greater<>());
            Vec3 wanted = entry(cell[0], cell[1], cell[2]) * (1.f - parts[0].first);
            for (std::size_t k = 0; k < 3; ++k) {
                ++cell[parts[k].second];
                wanted = wanted +
                         entry(cell[0], cell[1], cell[2]) * (parts[k].first - (k < 2 ? parts[k + 1].first : 0.f));
            }
            QVERIFY((through(*table, c) - wanted).length() < 1e-5f);
        }
        // Greys come of greys alone, though all around them is wild.
        const auto grey = image::ColourTable::parse(
            cube(7,
                 [&](double r, double g, double b) {
                     const Vec3 c = r == g && g == b ? Vec3(float(r * r)) : entry(int(r * 6), int(g * 6), int(b * 6));
                     return std::array<double, 3>{double(c.x), double(c.y), double(c.z)};
                 }),
            "a.cube");
        for (float v = 0.f; v < 1.f; v += 0.013f) {
            const Vec3 out = through(*grey, Vec3(v));
            QVERIFY(std::abs(out.x - out.y) < 1e-6f && std::abs(out.y - out.z) < 1e-6f);
        }
    }

    void curvesOfATableComeBeforeItsLattice()
    {
        std::string text = "\xef\xbb\xbf# a remark\r\nLUT_1D_SIZE 3\r\nLUT_1D_INPUT_RANGE 0 4\r\n\r\n"
                           "0 0 0\r\n.25 5e-1 +1 # the middle\r\n1 1e+0 1e-999\r\n";
        const auto curves = image::ColourTable::parse(text, "a.cube");
        QCOMPARE(curves->curveEntries(), 3);
        QCOMPARE(curves->edge(), 0);
        QVERIFY((through(*curves, Vec3(1.f, 2.f, 3.f)) - Vec3(0.125f, 0.5f, 0.5f)).length() < 1e-6f);
        QVERIFY((through(*curves, Vec3(9.f, -1.f, 4.f)) - Vec3(1.f, 0.f, 0.f)).length() < 1e-6f);
        // Then a lattice that turns channels over, of what the curves give.
        text.insert(text.find("\r\n\r\n") + 2, "LUT_3D_SIZE 2\r\n");
        for (int i = 0; i < 8; ++i)
            text += std::to_string(1 - (i & 1)) + " " + std::to_string(1 - (i >> 1 & 1)) + " " +
                    std::to_string(1 - (i >> 2)) + "\n";
        const auto both = image::ColourTable::parse(text, "a.cube");
        QVERIFY((through(*both, Vec3(1.f, 2.f, 3.f)) - Vec3(0.875f, 0.5f, 0.5f)).length() < 1e-6f);
    }

    void tablesThatAreNoneAreRefused_data()
    {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("says");
        const QString two = "LUT_3D_SIZE 2\n", row = "0 0 0\n";
        QTest::newRow("empty") << ""
                               << "tells no size";
        QTest::newRow("a picture") << "\x89PNG\r\n\x1a\n"
                                   << "begin before the table's size";
        QTest::newRow("words") << "Dear all,\n"
                               << "“Dear” is not known (line 1)";
        QTest::newRow("short") << two + row.repeated(7) << "ends after 7 of 8 lines";
        QTest::newRow("long") << two + row.repeated(9) << "more numbers than the table's size tells (line 10)";
        QTest::newRow("two numbers") << two + "0 0\n"
                                     << "where a number should stand is “” (line 2)";
        QTest::newRow("four numbers") << two + "0 0 0 0\n"
                                      << "more than 3 numbers";
        QTest::newRow("no number") << two + "0 zero 0\n"
                                   << "where a number should stand is “zero 0”";
        QTest::newRow("with commas") << two + "0,5 0,5 0,5\n"
                                     << "where a number should stand is “,5";
        QTest::newRow("infinite") << two + "0 inf 0\n"
                                  << "is not finite";
        QTest::newRow("beyond numbers") << two + "0 1e999 0\n"
                                        << "is not finite";
        QTest::newRow("large") << "LUT_3D_SIZE 1000000\n"
                               << "no number from 2 to 129";
        QTest::newRow("not whole") << "LUT_1D_SIZE 2.5\n"
                                   << "no number from 2 to 65536";
        QTest::newRow("negative") << "LUT_3D_SIZE -4\n"
                                  << "no number from 2 to 129";
        QTest::newRow("twice") << two + two << "told twice";
        QTest::newRow("no domain") << "DOMAIN_MIN 0 1 0\n" + two + row.repeated(8) << "its domain is empty";
        QTest::newRow("late word") << two + row + "TITLE x\n"
                                   << "where numbers should go on is “TITLE”";
    }
    void tablesThatAreNoneAreRefused()
    {
        QFETCH(QString, text);
        QFETCH(QString, says);
        try {
            image::ColourTable::parse(text.toStdString(), "a.cube");
            QFAIL("it was read");
        } catch (const Error& e) {
            QVERIFY2(QString(e.what()).contains(says), e.what());
            QVERIFY(QString(e.what()).contains("'a.cube'"));
        }
    }

    void theDisplayPassesItsTableLast()
    {
        shot::Look plain;
        plain.curve = {{-9.f, 0.f}, {-2.f, 0.045f}, {0.f, 0.19f}, {2.f, 0.56f}, {4.f, 0.88f}, {6.5f, 1.f}};
        plain.exposure = 1.5f;
        plain.white = 5000.f;
        const auto same = [](double r, double g, double b) { return std::array<double, 3>{r, g, b}; };
        const auto turned = [](double r, double g, double b) { return std::array<double, 3>{1 - r, 0.5 * g, b}; };
        const auto bytes = [](const shot::Look& look) {
            std::vector<float> rgb;
            for (int i = 0; i < 13; ++i)
                for (const float v : {0.02f, 0.3f, 0.9f})
                    rgb.push_back(v * std::exp2(static_cast<float>(i) * 0.5f - 3.f));
            return displayed(look, rgb, 13, 1);
        };
        for (const float pales : {0.f, 0.7f}) {
            plain.pales = pales;
            const auto without = bytes(plain);
            shot::Look with = plain;
            with.table = image::ColourTable::parse(cube(9, same), "same");
            const auto unchanged = bytes(with);
            with.table = image::ColourTable::parse(cube(9, turned), "turned");
            const auto all = bytes(with);
            with.tableShare = 0.5f;
            const auto half = bytes(with);
            for (std::size_t i = 0; i < without.size(); ++i) {
                const double was = without[i], wanted = i % 3 == 0 ? 255 - was : i % 3 == 1 ? 0.5 * was : was;
                QVERIFY(std::abs(double(unchanged[i]) - was) <= 1.0);
                QVERIFY2(std::abs(double(all[i]) - wanted) <= 1.6,
                         qPrintable(QString("%1 %2").arg(all[i]).arg(wanted)));
                QVERIFY(std::abs(double(half[i]) - 0.5 * (was + wanted)) <= 1.6);
            }
            // What is told of one value is what a grey shows.
            with.white = 6500.f;
            QVERIFY(std::abs(double(finish::Display(with).encode(0.2f)) * 255.0 -
                             displayed(with, std::vector<float>(3, 0.2f), 1, 1)[1]) <= 1.0);
        }
    }

    void aTableOfLightTakesTheCurvesPlace()
    {
        using Takes = shot::Look::TableTakes;
        shot::Look look;
        look.curve = {{-1.f, 0.f}, {1.f, 1.f}}; // not looked at
        look.pales = 1.f;
        look.table = image::ColourTable::parse(cube(2,
                                                    [](double r, double g, double b) {
                                                        return std::array<double, 3>{r, g, b};
                                                    }),
                                               "same");
        look.tableTakes = Takes::Stops;
        look.tableFrom = -8.f;
        look.tableTo = 4.f;
        for (const double stops : {-9.0, -8.0, -3.5, 0.0, 2.0, 4.0, 7.0})
            QVERIFY(std::abs(double(finish::Display(look).encode(static_cast<float>(0.18 * std::exp2(stops)))) -
                             std::clamp((stops + 8.0) / 12.0, 0.0, 1.0)) < 2e-5);
        QCOMPARE(finish::Display(look).encode(0.f), 0.f);
        look.exposure = 3.f;
        QVERIFY(std::abs(finish::Display(look).encode(0.18f) - 11.f / 12.f) < 2e-5f);
        // Published: middle grey is 0.4136 in ACEScct, 0 is 0.0729; greys stay grey on the way to its primaries.
        look.exposure = 0.f;
        look.tableTakes = Takes::AcesCct;
        QVERIFY(std::abs(finish::Display(look).encode(0.18f) - 0.4135884f) < 2e-5f);
        QVERIFY(std::abs(finish::Display(look).encode(0.f) - 0.0729055f) < 1e-5f);
        QVERIFY(std::abs(finish::Display(look).encode(0.004f) - (10.5402377f * 0.004f + 0.0729055f)) < 1e-5f);
        // Red of Rec. 709 in AP1 is 0.613, 0.070, 0.021.
        const auto red = displayed(look, {1.f, 0.f, 0.f}, 1, 1);
        const double wanted[] = {0.6131, 0.0702, 0.0206};
        for (std::size_t k = 0; k < 3; ++k)
            QVERIFY(std::abs(double(red[k]) - 255.0 * (std::log2(wanted[k]) + 9.72) / 17.52) < 1.1);
    }
};
QTEST_GUILESS_MAIN(TestFinish)
#include "test_finish.moc"
