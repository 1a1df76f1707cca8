/// Plates with depth: conventions, sizes, damage, sequences; bit-exact without air, equal to geometry with it.
#include "base/error.h"
#include "finish/deliver.h"
#include "geometry/plate.h"
#include "image/image.h"
#include "render/still.h"
#include "support.h"

#include <cmath>
#include <cstring>
#include <limits>

using namespace hygros;
using geometry::DepthReading;
using geometry::PlateSource;

class TestPlate : public QObject {
    Q_OBJECT
    QTemporaryDir dir_;
    std::filesystem::path path(const char* name) const { return dir_.filePath(name).toStdString(); }
    /// A picture of smooth colours with a depth channel.
    void write(const char* name, int w, int h, const std::function<float(int, int)>& depth, const char* channel = "Z")
    {
        image::Image out(w, h, {"R", "G", "B", channel});
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x) {
                float* p = out.at(x, y);
                p[0] = 0.1f + 0.013f * static_cast<float>(x) + 1e-6f;
                p[1] = 0.37f / (1.f + static_cast<float>(y));
                p[2] = static_cast<float>((x * 7 + y * 13) % 31) * 0.0317f;
                p[3] = depth(x, y);
            }
        image::writeExr(path(name), out);
    }
    PlateSource source(const char* name)
    {
        PlateSource s;
        s.picture = s.depth = path(name);
        return s;
    }
    scene::Project projectWith(const char* name)
    {
        scene::Project p = elements::newProject();
        p.folder = dir_.path().toStdString();
        p.add(*elements::findKind("plate"), "plate").set("picture", std::string(name));
        p.find("shot")->set("position", Vec3(0, 2, 0));
        p.find("shot")->set("aim", Vec3(0, 1.5f, -10));
        return p;
    }
    render::Layers still(const scene::Project& p, int w, int h, int samples = 3)
    {
        JobControl job;
        Store store;
        render::StillSettings settings;
        settings.followsPaths = false; // plates and sets as they are marched, to a hundredth
        settings.width = w;
        settings.height = h;
        settings.samples = samples;
        return render::renderStill(elements::freeze(p, store, job), settings, job);
    }

private Q_SLOTS:
    void withAllAirMutedTheOutputIsThePlateBitForBit()
    {
        write("lock.exr", 40, 30, [](int x, int y) {
            return y < 8 ? std::numeric_limits<float>::infinity()
                         : 5.f + static_cast<float>(x) + 40.f / static_cast<float>(y);
        });
        scene::Project p = projectWith("lock.exr");
        p.add(*elements::findKind("haze"), "haze").set("visibility", 60.0);
        p.find("haze")->muted = true;
        const render::Layers l = still(p, 40, 30, 5);
        const image::Image original = image::readImage(path("lock.exr"));
        const std::vector<float> beauty = finish::beautyOf(l);
        for (std::size_t i = 0; i < l.pixels(); ++i)
            for (std::size_t c = 0; c < 3; ++c) {
                QCOMPARE(std::memcmp(&beauty[i * 3 + c], &original.pixels[i * 4 + c], 4), 0);
                QCOMPARE(std::memcmp(&l.plate[i * 3 + c], &original.pixels[i * 4 + c], 4), 0);
                QCOMPARE(l.transmittance[i * 3 + c], 1.f);
            }
        // With air the plate still goes out as it came, and the picture is plate × transmittance + air.
        p.find("haze")->muted = false;
        const render::Layers hazy = still(p, 40, 30, 3);
        for (std::size_t i = 0; i < hazy.pixels(); ++i)
            QCOMPARE(std::memcmp(&hazy.plate[i * 3], &original.pixels[i * 4], 12), 0);
        const std::size_t near = 29 * 40 + 3;
        NEAR(hazy.transmittance[near * 3],
             std::exp(-extinctionOfVisibility(60.0) * double(original.pixels[near * 4 + 3])), 0.02);
        QVERIFY(hazy.transmittance[5 * 40 * 3] < 0.01f); // the sky is infinitely far
    }

    void theAirCoversThePlatesSkyAsMuchAsAsked()
    {
        write("half.exr", 32, 24, [](int, int y) { return y < 12 ? 0.f : 20.f; });
        scene::Project p = projectWith("half.exr");
        p.add(*elements::findKind("haze"), "haze").set("visibility", 100.0);
        for (const double share : {1.0, 0.4, 0.0}) {
            p.find("plate")->set("sky", share);
            const render::Layers l = still(p, 32, 24, 2);
            const std::size_t sky = 4 * 32 + 16, ground = 20 * 32 + 16;
            NEAR(l.transmittance[sky * 3], 1.0 - share, 0.01);
            NEAR(l.transmittance[ground * 3], std::exp(-extinctionOfVisibility(100.0) * 20.0), 0.02);
            if (share == 0.0)
                QCOMPARE(l.air[sky * 3], 0.f);
        }
    }

    void depthIsReadByItsConvention_data()
    {
        QTest::addColumn<QString>("unit");
        QTest::addColumn<double>("stored");
        QTest::addColumn<double>("metres"); ///< below 0: sky
        QTest::newRow("metres") << "metres" << 37.5 << 37.5;
        QTest::newRow("metres, none") << "metres" << 0.0 << -1.0;
        QTest::newRow("share") << "0–1" << 0.25 << 125.0;
        QTest::newRow("share, sky") << "0–1" << 1.0 << -1.0;
        QTest::newRow("inverted") << "1–0" << 0.75 << 125.0;
        QTest::newRow("inverted, sky") << "1–0" << 0.0 << -1.0;
        QTest::newRow("one over") << "1/metres" << 0.02 << 50.0;
        QTest::newRow("one over, sky") << "1/metres" << 0.0 << -1.0;
    }
    void depthIsReadByItsConvention()
    {
        QFETCH(QString, unit);
        QFETCH(double, stored);
        QFETCH(double, metres);
        write("one.exr", 16, 12, [&](int, int) { return static_cast<float>(stored); });
        scene::Project p = projectWith("one.exr");
        p.find("plate")->set("unit", unit.toStdString());
        p.find("plate")->set("maximum", 500.0);
        JobControl job;
        Store store;
        const auto shot = elements::freeze(p, store, job);
        const float d = shot->plate->depth[77];
        if (metres < 0.0)
            QVERIFY(std::isinf(d));
        else
            NEAR(d, metres, 1e-5);
    }

    void depthAlongTheAxisBecomesDepthAlongTheRay()
    {
        write("axis.exr", 64, 48, [](int, int) { return 10.f; });
        PlateSource s = source("axis.exr");
        s.reading.along = DepthReading::Along::Axis;
        s.focalMm = 18.f;
        s.sensorMm = 36.f; // 90° across
        const auto plate = geometry::loadPlate(s);
        geometry::Camera camera;
        camera.focalMm = 18.f;
        const geometry::View view(camera, 64, 48);
        for (const auto& [x, y] : {std::pair(0, 0), std::pair(31, 23), std::pair(63, 40)}) {
            const float ray = view.unnormalized(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f).length();
            NEAR(plate->depth[static_cast<std::size_t>(y * 64 + x)], 10.0 * double(ray), 1e-5);
        }
    }

    void badDepthsAreCountedAndTakenAsSky()
    {
        write("bad.exr", 16, 8, [](int x, int y) { return y == 0 ? std::nanf("") : y == 1 && x < 4 ? -3.f : 12.f; });
        const auto plate = geometry::loadPlate(source("bad.exr"));
        QCOMPARE(plate->notes.size(), std::size_t{1});
        QVERIFY(QString::fromStdString(plate->notes[0]).startsWith("20 depths"));
        QVERIFY(std::isinf(plate->depth[3]) && std::isinf(plate->depth[16]));
        NEAR(plate->depth[40], 12.0, 1e-6);
        scene::Project p = projectWith("bad.exr");
        p.add(*elements::findKind("haze"), "haze");
        for (const float v : still(p, 16, 8, 1).air)
            QVERIFY(std::isfinite(v));
    }

    void aDepthOfAnotherSizeIsLeftOutUntilItMayBeFitted()
    {
        write("big.exr", 32, 16, [](int, int) { return 9.f; });
        write("small.exr", 16, 8, [](int x, int) { return 1.f + static_cast<float>(x); });
        PlateSource s = source("big.exr");
        s.depth = path("small.exr");
        const auto without = geometry::loadPlate(s);
        QVERIFY(QString::fromStdString(without->notes.at(0)).contains("16×8") &&
                QString::fromStdString(without->notes.at(0)).contains("fit depth"));
        QVERIFY(std::isinf(without->depth[100]));
        s.reading.resample = true;
        const auto fitted = geometry::loadPlate(s);
        QVERIFY(QString::fromStdString(fitted->notes.at(0)).contains("resampled"));
        for (int x = 0; x < 32; ++x)
            NEAR(fitted->depth[static_cast<std::size_t>(x)], 1 + x / 2, 1e-6);
    }

    void missingAndDamagedFilesAreNamed()
    {
        THROWS_SAYING(geometry::loadPlate(source("nowhere.exr")), "there is no such file");
        QFile junk(dir_.filePath("junk.exr"));
        QVERIFY(junk.open(QFile::WriteOnly));
        junk.write("this is no picture");
        junk.close();
        THROWS_SAYING(geometry::loadPlate(source("junk.exr")), "junk.exr");
        write("fine.exr", 16, 8, [](int, int) { return 1.f; });
        QFile whole(dir_.filePath("fine.exr"));
        QVERIFY(whole.open(QFile::ReadOnly));
        const QByteArray bytes = whole.readAll();
        QFile cut(dir_.filePath("cut.exr"));
        QVERIFY(cut.open(QFile::WriteOnly));
        cut.write(bytes.left(bytes.size() / 2));
        cut.close();
        THROWS_SAYING(geometry::loadPlate(source("cut.exr")), "cut.exr");
        PlateSource s = source("fine.exr");
        s.reading.channel = "distance";
        THROWS_SAYING(geometry::loadPlate(s), "It has: ");
    }

    void eightBitPicturesAreDecodedAndGreyDepthIsRead()
    {
        image::writePng(path("p.png"), 4, 2, std::vector<std::uint8_t>(24, 188));
        std::vector<std::uint8_t> grey(24, 51);
        image::writePng(path("d.png"), 4, 2, grey);
        PlateSource s;
        s.picture = path("p.png");
        s.depth = path("d.png");
        s.reading.unit = DepthReading::Unit::Share;
        s.reading.maximum = 100.f;
        s.brightness = 2.f;
        const auto plate = geometry::loadPlate(s);
        NEAR(plate->rgb[5], 4.0 * 0.5029, 1e-3); // 188/255 in sRGB, two stops up
        NEAR(plate->depth[3], 20.0, 1e-5);
    }

    void numberedFramesFollowTheFrame()
    {
        for (const int n : {7, 8, 10})
            write(qPrintable(QString("shot.%1.exr").arg(n, 4, 10, QChar('0'))), 8, 8,
                  [n](int, int) { return static_cast<float>(n); });
        std::string note;
        QCOMPARE(geometry::frameOf(path("shot.0007.exr"), 8, note).filename().string(), std::string("shot.0008.exr"));
        QVERIFY(note.empty());
        QCOMPARE(geometry::frameOf(path("shot.0007.exr"), 9, note).filename().string(), std::string("shot.0008.exr"));
        QVERIFY(QString::fromStdString(note).contains("Frame 9") && QString::fromStdString(note).contains("missing"));
        QCOMPARE(geometry::frameOf(path("shot.0007.exr"), 2, note).filename().string(), std::string("shot.0007.exr"));
        QCOMPARE(geometry::frameOf(path("still.exr"), 2, note).filename().string(), std::string("still.exr"));
        scene::Project p = projectWith("shot.0007.exr");
        p.find("plate")->set("sequence", true);
        p.find("plate")->set("offset", std::int64_t{6});
        JobControl job;
        Store store;
        for (const auto& [frame, wanted] : {std::pair(1, 7.0), std::pair(2, 8.0), std::pair(4, 10.0)}) {
            p.frame = frame;
            NEAR(elements::freeze(p, store, job)->plate->depth[9], wanted, 1e-6);
        }
        p.frame = 3;
        const auto gap = elements::freeze(p, store, job);
        NEAR(gap->plate->depth[9], 8.0, 1e-6);
        QCOMPARE(gap->notes.size(), std::size_t{1});
        p.find("plate")->set("gaps", std::string("nothing"));
        const auto empty = elements::freeze(p, store, job);
        QVERIFY(!empty->plate);
        QVERIFY(empty->notes.at(0).text.find("is missing; it is left out") != std::string::npos);
        // Within the project's loop of two frames the third is the first again.
        p.time.loop = 2.0 / p.time.rate.perSecond();
        NEAR(elements::freeze(p, store, job)->plate->depth[9], 7.0, 1e-6);
    }

    void aSmallerFrameTakesMeansAndKeepsTheLens()
    {
        write("wide.exr", 64, 32, [](int x, int) { return static_cast<float>(x + 1); });
        const auto plate = geometry::loadPlate(source("wide.exr"));
        float colour[3];
        NEAR(plate->fitted(4, 8, 32, 16, colour), 10.0, 1e-6);
        double mean = 0.0;
        for (const int y : {16, 17})
            for (const int x : {8, 9})
                mean += double(plate->rgb[static_cast<std::size_t>(y * 64 + x) * 3 + 2]) / 4;
        NEAR(colour[2], mean, 1e-5);
        // A taller frame has no plate above and below it.
        QVERIFY(plate->fitted(4, 0, 64, 64, colour) < 0.f);
        QVERIFY(plate->fitted(4, 32, 64, 64, colour) > 0.f);
    }

    void theSameHazeOnPlateAndGeometryAgrees()
    {
        // The lock rendered with haze; then its own plate and depth as a file, under the same haze.
        scene::Project lock = scene::loadProject(test::demo().toStdString(), elements::findKind);
        lock.remove("lamp");
        lock.remove("mist");
        const render::Layers truth = still(lock, 192, 108, 12);
        image::Image out(192, 108, {"R", "G", "B", "Z"});
        for (std::size_t i = 0; i < truth.pixels(); ++i) {
            for (std::size_t c = 0; c < 3; ++c)
                out.pixels[i * 4 + c] = truth.plate[i * 3 + c];
            out.pixels[i * 4 + 3] = truth.depth[i] >= shot::Shot::farDistance * 0.999f
                                        ? std::numeric_limits<float>::infinity()
                                        : truth.depth[i];
        }
        image::writeExr(path("marl.exr"), out);
        scene::Project plate = lock;
        plate.remove("marl");
        plate.add(*elements::findKind("plate"), "plate").set("picture", path("marl.exr").string());
        const render::Layers with = still(plate, 192, 108, 12);
        const auto a = finish::beautyOf(truth), b = finish::beautyOf(with);
        double difference = 0.0, sum = 0.0;
        std::size_t count = 0;
        for (std::size_t y = 1; y + 1 < 108; ++y)
            for (std::size_t x = 1; x + 1 < 192; ++x) {
                // Antialiased edges: a pixel whose neighbours lie elsewhere.
                const std::size_t i = y * 192 + x;
                bool edge = false;
                for (const std::size_t j : {i - 1, i + 1, i - 192, i + 192})
                    edge = edge || std::abs(std::log(truth.depth[i] / truth.depth[j])) > 0.25f;
                // And twigs before the sky: several distances in one pixel, told by a transmittance that belongs to
                // none.
                if (edge || std::abs(double(truth.transmittance[i * 3] - with.transmittance[i * 3])) > 0.004)
                    continue;
                ++count;
                for (std::size_t c = 0; c < 3; ++c) {
                    difference += std::abs(double(a[i * 3 + c] - b[i * 3 + c]));
                    sum += double(a[i * 3 + c]);
                }
            }
        qInfo("plate against geometry: %.2f %% over %zu pixels", 100.0 * difference / sum, count);
        QVERIFY(count > 8000);
        QVERIFY(difference < 0.02 * sum);
    }

    void aMatteHoldsThePictureOpenAndStillShades()
    {
        scene::Project p = scene::loadProject(test::demo().toStdString(), elements::findKind);
        p.find("marl")->set("matte", true);
        p.remove("haze");
        p.remove("mist");
        p.remove("lamp");
        const render::Layers l = still(p, 96, 54, 4);
        QVERIFY(!l.alpha.empty());
        for (std::size_t i = 90 * 54 - 96; i < l.pixels(); i += 7) { // the ground in front
            QVERIFY(l.alpha[i] < 1e-3f);
            QCOMPARE(l.plate[i * 3], 0.f);
        }
        NEAR(l.alpha[30], 1.0, 1e-5); // the sky above
        // Fog before it covers the hole.
        p.add(*elements::findKind("haze"), "haze").set("visibility", 20.0);
        const render::Layers foggy = still(p, 96, 54, 2);
        const std::size_t at = 50 * 96 + 48;
        NEAR(foggy.alpha[at], 1.0 - double(foggy.transmittance[at * 3]), 1e-3);
        QVERIFY(foggy.air[at * 3] > 0.f);
    }

    void setsAreSeenOrCastShadowsAsAsked()
    {
        scene::Project p = elements::newProject();
        p.folder = dir_.path().toStdString();
        QFile ply(dir_.filePath("roof.ply"));
        QVERIFY(ply.open(QFile::WriteOnly));
        ply.write("ply\nformat ascii 1.0\nelement vertex 4\nproperty float x\nproperty float y\nproperty float "
                  "z\nelement face 2\n"
                  "property list uchar int vertex_indices\nend_header\n-400 300 -400\n400 300 -400\n400 300 400\n-400 "
                  "300 400\n3 0 2 1\n3 0 3 2\n");
        ply.close();
        scene::Element& roof = p.add(*elements::findKind("set"), "roof");
        roof.set("file", std::string("roof.ply"));
        roof.set("unit", std::string("centimetres"));
        JobControl job;
        Store store;
        double distance = 0.0;
        const auto sees = [&] {
            const auto s = elements::freeze(p, store, job);
            geometry::Hit hit;
            const bool seen = s->scene->trace(Vec3(0), Vec3(0, 1, 0), 0.f, 100.f, hit);
            distance = seen ? double(hit.t) : 0.0;
            return std::pair(seen, s->scene->occluded(Vec3(0), Vec3(0, 1, 0), 100.f));
        };
        QCOMPARE(sees(), std::pair(true, true));
        NEAR(distance, 3.0, 1e-4); // 300 cm
        p.find("roof")->set("visible", false);
        QCOMPARE(sees(), std::pair(false, true));
        p.find("roof")->set("visible", true);
        p.find("roof")->set("casts", false);
        QCOMPARE(sees(), std::pair(true, false));
        p.find("roof")->muted = true;
        QCOMPARE(sees(), std::pair(false, false));
        p.find("roof")->muted = false;
        // A four-millimetre roof is asked about; so is one of kilometres.
        p.find("roof")->set("scale", 0.0005);
        QVERIFY(QString::fromStdString(elements::freeze(p, store, job)->notes.at(0).text).contains("4 mm across"));
        p.find("roof")->set("scale", 1.0);
        p.find("roof")->set("unit", std::string("metres"));
        p.find("roof")->set("scale", 50.0);
        QVERIFY(QString::fromStdString(elements::freeze(p, store, job)->notes.at(0).text).contains("across"));
        // Faceless files are refused.
        QFile points(dir_.filePath("points.ply"));
        QVERIFY(points.open(QFile::WriteOnly));
        points.write("ply\nformat ascii 1.0\nelement vertex 2\nproperty float x\nproperty float y\nproperty float "
                     "z\nend_header\n0 0 0\n1 1 1\n");
        points.close();
        THROWS_SAYING(geometry::importSet(points.fileName().toStdString(), job), "points.ply");
    }
};

QTEST_GUILESS_MAIN(TestPlate)
#include "test_plate.moc"
