#include "image/image.h"
#include "support.h"

#include <cmath>
#include <span>

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QStandardPaths>

using namespace hygros;
using test::cli;

class TestCommandLine : public QObject {
    Q_OBJECT
    QTemporaryDir dir_;

    QString projectWith(const char* name, const QByteArray& elements)
    {
        QFile f(dir_.filePath(name));
        if (!f.open(QIODevice::WriteOnly))
            qFatal("cannot write");
        f.write(R"({"format":"hygros-project","version":1,"elements":[)" + elements + "]}");
        return f.fileName();
    }

private Q_SLOTS:
    void firstLightRendersToLayersThatAddUp()
    {
        const QString out = dir_.filePath("a.exr");
        const auto r = cli(
            {"render", test::demo(), "--out", out, "--size", "192x108", "--samples", "4", "--layers", "all"});
        QVERIFY2(r.code == 0, qPrintable(r.err));
        const image::Image in = image::readImage(out.toStdString());
        double most = 0.0, lamp = 0.0;
        int sky = 0;
        for (int y = 0; y < in.height; ++y)
            for (int x = 0; x < in.width; ++x) {
                const float* p = in.at(x, y);
                const auto at = [&](const std::string& n) { return double(p[in.channel(n)]); };
                for (const std::string c : {"R", "G", "B"}) {
                    const double sum = at("plate." + c) * at("transmittance." + c) + at("air." + c);
                    QVERIFY(std::abs(at(c) - sum) <= 1e-3 * std::max(1.0, std::abs(sum)));
                    QVERIFY(std::abs(at("air." + c) - (at("air.sun." + c) + at("air.sky." + c) + at("air.lamp." + c))) <
                            1e-3);
                }
                most = std::max(most, at("R"));
                lamp += at("air.lamp.R");
                sky += at("depth.Z") > 29000.0;
            }
        QVERIFY(most > 0.0 && lamp > 0.0);
        QVERIFY(sky > 1000);
        const auto told = cli({"info", out});
        QVERIFY(told.out.contains("192 × 108") && told.out.contains("air.lamp.G"));
    }

    void settingsMayBeChangedOnTheWay()
    {
        const QString a = dir_.filePath("thick.png"), b = dir_.filePath("clear.png");
        QCOMPARE(cli({"render", test::demo(), "--out", a, "--size", "64x36", "--samples", "1", "--set",
                      "haze.visibility=80 m"})
                     .code,
                 0);
        QCOMPARE(cli({"render", test::demo(), "--out", b, "--size", "64x36", "--samples", "1", "--set", "haze.muted=on",
                      "--set", "mist.muted=on"})
                     .code,
                 0);
        const QImage thick(a), clear(b);
        // Contrast between a near tree and the sky goes when one sees only 80 m.
        const auto spread = [](const QImage& i) {
            int lo = 255, hi = 0;
            for (int x = 0; x < 64; ++x) {
                lo = std::min(lo, qGray(i.pixel(x, 10)));
                hi = std::max(hi, qGray(i.pixel(x, 10)));
            }
            return hi - lo;
        };
        QVERIFY(spread(thick) < spread(clear));
    }

    void theSameProjectGivesTheSamePicture()
    {
        const QString a = dir_.filePath("1.exr"), b = dir_.filePath("2.exr");
        for (const QString& f : {a, b})
            QCOMPARE(cli({"render", test::demo(), "--out", f, "--size", "64x36", "--samples", "2"}).code, 0);
        QVERIFY(image::readImage(a.toStdString()).pixels == image::readImage(b.toStdString()).pixels);
    }

    void theLooksGlowGoesIntoAnExrWhereItIsAskedFor()
    {
        const QString plain = dir_.filePath("plain.exr"), glowing = dir_.filePath("glow.exr");
        const QStringList shot{"render",    QString(SOURCE_DIR) + "/demo/lamps.hygros",
                               "--size",    "96x54",
                               "--samples", "1",
                               "--set",     "look.glow=0.4",
                               "--set",     "look.glowReach=0.3",
                               "--out"};
        QCOMPARE(cli(shot + QStringList{plain}).code, 0);
        QCOMPARE(cli(shot + QStringList{glowing, "--glow"}).code, 0);
        const image::Image a = image::readImage(plain.toStdString()), b = image::readImage(glowing.toStdString());
        const int red = a.channel("R");
        QVERIFY(red >= 0 && b.channel("R") == red && a.pixels.size() == b.pixels.size());
        double before = 0.0, after = 0.0;
        float brightest = 0.f, dimmed = 0.f;
        for (int y = 0; y < a.height; ++y)
            for (int x = 0; x < a.width; ++x) {
                before += double(a.at(x, y)[red]);
                after += double(b.at(x, y)[red]);
                if (a.at(x, y)[red] > brightest) {
                    brightest = a.at(x, y)[red];
                    dimmed = b.at(x, y)[red];
                }
            }
        // Light is spread and none is added; the brightest place gave some of its own.
        NEAR(after, before, 0.02);
        QVERIFY2(dimmed < 0.9f * brightest, qPrintable(QString("%1 of %2").arg(double(dimmed)).arg(double(brightest))));
    }

    void anotherFrameDriftsTheMist()
    {
        const QString a = dir_.filePath("f1.exr"), b = dir_.filePath("f50.exr");
        QCOMPARE(cli({"render", test::demo(), "--out", a, "--size", "64x36", "--samples", "1", "--frame", "1"}).code,
                 0);
        QCOMPARE(cli({"render", test::demo(), "--out", b, "--size", "64x36", "--samples", "1", "--frame", "250"}).code,
                 0);
        QVERIFY(image::readImage(a.toStdString()).pixels != image::readImage(b.toStdString()).pixels);
    }

    void badInputEndsWithTwoAndSaysWhy_data()
    {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QString>("says");
        const QString out = dir_.filePath("never.exr");
        const auto renderOf = [&](const QString& p) {
            return QStringList{"render", p, "--out", out, "--size", "32x32", "--samples", "1"};
        };
        QTest::newRow("no project") << renderOf(dir_.filePath("none.hygros")) << "No such file";
        QTest::newRow("damaged") << renderOf(projectWith("damaged.hygros", R"({"id":)")) << "damaged near line 1";
        QTest::newRow("missing mesh")
            << renderOf(projectWith("mesh.hygros", R"({"id":"s","kind":"set","settings":{"file":"gone.glb"}})"))
            << "gone.glb";
        QTest::newRow("negative density")
            << renderOf(projectWith("neg.hygros", R"({"id":"h","kind":"haze","settings":{"visibility":-20}})"))
            << "visibility must lie within";
        QTest::newRow("density not a number")
            << renderOf(projectWith("nan.hygros", R"({"id":"h","kind":"haze","settings":{"visibility":NaN}})"))
            << "damaged";
        QTest::newRow("set nan") << renderOf(test::demo()) + QStringList{"--set", "haze.visibility=nan"}
                                 << "does not understand";
        QTest::newRow("set unknown") << renderOf(test::demo()) + QStringList{"--set", "haze.colour=1"}
                                     << "no parameter";
        QTest::newRow("set nothing") << renderOf(test::demo()) + QStringList{"--set", "haze"} << "PATH=VALUE";
        QTest::newRow("size") << QStringList{"render", test::demo(), "--out", out, "--size", "huge"} << "WIDTHxHEIGHT";
        QTest::newRow("ending") << QStringList{"render", test::demo(), "--out", dir_.filePath("a.bmp")}
                                << ".exr or .png";
        QTest::newRow("folder") << QStringList{"render", test::demo(), "--out",     "/no/where/a.png",
                                               "--size", "32x32",      "--samples", "1"}
                                << "the folder does not exist";
        QTest::newRow("samples") << QStringList{"render", test::demo(), "--out", out, "--samples", "0"} << "samples";
        QTest::newRow("no verb") << QStringList{} << "subcommand";
        QTest::newRow("info") << QStringList{"info", dir_.filePath("none.exr")} << "no such file";
    }
    void badInputEndsWithTwoAndSaysWhy()
    {
        QFETCH(QStringList, arguments);
        QFETCH(QString, says);
        const auto r = cli(arguments);
        QCOMPARE(r.code, 2);
        QVERIFY2(r.err.contains(says), qPrintable(r.err));
        QVERIFY(r.out.isEmpty());
        QVERIFY(!QFile::exists(dir_.filePath("never.exr")));
    }

    void volumesAreToldAndRenderedByBothIntegrators()
    {
        const QString volume = QString(SOURCE_DIR) + "/demo/volumes/fireball.vdb",
                      project = QString(SOURCE_DIR) + "/demo/fireball.hygros";
        const auto told = cli({"info", volume});
        QCOMPARE(told.code, 0);
        QVERIFY2(told.out.contains("temperature") && told.out.contains("0.07 × 0.07") && told.out.contains("MB"),
                 qPrintable(told.out));
        QFile whole(volume), cut(dir_.filePath("cut.vdb"));
        QVERIFY(whole.open(QIODevice::ReadOnly) && cut.open(QIODevice::WriteOnly));
        cut.write(whole.readAll().left(300000));
        cut.close();
        const auto refused = cli({"info", cut.fileName()});
        QVERIFY(refused.code == 2 && refused.err.contains("ends too early"));
        const auto bad = cli(
            {"render", project, "--out", dir_.filePath("x.png"), "--set", "fireball.file=" + cut.fileName()});
        QVERIFY(bad.code == 2 && bad.err.contains("cut.vdb") && !QFile::exists(dir_.filePath("x.png")));
        // A volume goes out as it stands, tints included, and comes back in its place.
        const QString kept = dir_.filePath("signal.vdb"), signals = QString(SOURCE_DIR) + "/demo/signals.hygros";
        QCOMPARE(cli({"volume", signals, "near", "--out", kept, "--voxel", "0.1"}).code, 0);
        const auto written = cli({"info", kept});
        QVERIFY2(written.out.contains("Cd") && written.out.contains("vec3s") && written.out.contains("0.1 × 0.1"),
                 qPrintable(written.out));
        QVERIFY(cli({"volume", signals, "sun", "--out", dir_.filePath("n.vdb")}).err.contains("no volume 'sun'"));
        const auto much = cli({"volume", signals, "near", "--out", dir_.filePath("n.vdb"), "--voxel", "0.001"});
        QVERIFY(much.code == 2 && much.err.contains("million") && !QFile::exists(dir_.filePath("n.vdb")));
        for (const char* integrator : {"live", "reference"}) {
            const QString out = dir_.filePath(QString(integrator) + ".exr");
            const auto r = cli(
                {"render", project, "--out", out, "--size", "64x36", "--samples", "2", "--integrator", integrator});
            QVERIFY2(r.code == 0 && QFile::exists(out), qPrintable(r.err));
        }
        QVERIFY(cli({"render", project, "--out", dir_.filePath("y.exr"), "--integrator", "other"}).code != 0);
    }

    void newerAndTruncatedFilesAreRefused()
    {
        QFile f(dir_.filePath("new.hygros"));
        QVERIFY(f.open(QIODevice::WriteOnly));
        f.write(R"({"format":"hygros-project","version":3,"elements":[]})");
        f.close();
        const auto r = cli({"info", f.fileName()});
        QCOMPARE(r.code, 2);
        QVERIFY(r.err.contains("newer"));
        QFile whole(QString(SOURCE_DIR) + "/demo/marl.glb"), cut(dir_.filePath("cut.glb"));
        QVERIFY(whole.open(QIODevice::ReadOnly) && cut.open(QIODevice::WriteOnly));
        cut.write(whole.read(whole.size() / 2));
        cut.close();
        const auto g = cli({"info", cut.fileName()});
        QCOMPARE(g.code, 2);
        QVERIFY(g.err.contains("truncated"));
    }

    void aPlateGoesThroughUnchangedAndWhatIsOddIsNoted()
    {
        // Plate and air by the command line alone; the depth of another size is left out and said so.
        const QString project = QString(SOURCE_DIR) + "/demo/plate.hygros", out = dir_.filePath("plate.exr");
        const auto r = cli({"render", project, "--out", out, "--layers", "all", "--size", "960x540", "--samples", "1",
                            "--set", "veil.stops=0 #808080 0%; 1 #ffffff 50%"});
        QCOMPARE(r.code, 0);
        QVERIFY2(!r.err.contains("note:"), qPrintable(r.err));
        const image::Image before = image::readImage(std::string(SOURCE_DIR) + "/demo/marl-plate.exr"),
                           after = image::readImage(out.toStdString());
        const int from = before.channel("R"), to = after.channel("plate.R");
        QVERIFY(from >= 0 && to >= 0);
        for (int y = 0; y < 540; y += 7)
            for (int x = 0; x < 960; x += 5)
                QCOMPARE(after.at(x, y)[to], before.at(x, y)[from]);
        image::Image small(8, 8, {"Z"});
        image::writeExr(dir_.filePath("small.exr").toStdString(), small);
        const auto odd = cli({"render", project, "--out", dir_.filePath("odd.png"), "--size", "64x36", "--samples", "1",
                              "--set", "plate.depth=" + dir_.filePath("small.exr")});
        QCOMPARE(odd.code, 0);
        QVERIFY2(odd.err.contains("note: The lock, as it came: The depth is 8×8"), qPrintable(odd.err));
    }

    void groundFogCleanAirAndADeckRenderByTheCommandLine()
    {
        const QString out = dir_.filePath("valley.exr");
        const auto r = cli({"render", QString(SOURCE_DIR) + "/demo/valley-inversion.hygros", "--out", out, "--layers",
                            "all", "--size", "96x54", "--samples", "2"});
        QCOMPARE(r.code, 0);
        const image::Image in = image::readImage(out.toStdString());
        double red = 0.0, blue = 0.0;
        for (int y = 0; y < 54; ++y)
            for (int x = 0; x < 96; ++x)
                for (const float v : std::span(in.at(x, y), in.channels.size()))
                    QVERIFY(std::isfinite(v));
        for (int x = 0; x < 96; ++x) { // the far hills: blue is lost before red
            red += double(in.at(x, 24)[in.channel("transmittance.R")]);
            blue += double(in.at(x, 24)[in.channel("transmittance.B")]);
        }
        QVERIFY(red > 1.2 * blue && blue > 0.0);
    }

    void parametersAreListedWithUnitRangeAndDefault()
    {
        const auto text = cli({"params"});
        QCOMPARE(text.code, 0);
        QVERIFY(text.out.contains("fogBank") && text.out.contains("visibility") && text.out.contains("extinction"));
        const auto json = QJsonDocument::fromJson(cli({"params", "--json"}).out.toUtf8()).array();
        QVERIFY(json.size() > 40);
        for (const auto& p : json) {
            const auto o = p.toObject();
            QVERIFY2(!o["id"].toString().isEmpty() && o.contains("default") && !o["help"].toString().isEmpty(),
                     qPrintable(o["id"].toString()));
        }
    }

    void lampsWithDamagedFilesShineWithoutThemAndSaySo()
    {
        QTemporaryDir folder;
        const QString broken = folder.filePath("broken.ies"), out = folder.filePath("night.exr");
        QFile file(broken);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("IESNA:LM-63-2002\nTILT=NONE\n1 1000 1 3 1 1 2 0 0 0\n1 1 10\n0 45 90\n0\n100 nan 0\n");
        file.close();
        const test::Ran ran = cli({"render",    QString(SOURCE_DIR) + "/demo/first-light.hygros",
                                   "--size",    "48x27",
                                   "--samples", "1",
                                   "--layers",  "lamps",
                                   "--out",     out,
                                   "--set",     "lamp.profile=" + broken,
                                   "--set",     "lamp.gobo=picture",
                                   "--set",     "lamp.goboFile=" + folder.filePath("none.png"),
                                   "--set",     "sun.panorama=" + broken,
                                   "--set",     "lamp.reach.haze=0"});
        QCOMPARE(ran.code, 0);
        for (const char* words :
             {"photometric file", "not finite", "no such file", "shines without it", "computed sky stands in"})
            QVERIFY2(ran.err.contains(words), qPrintable(ran.err));
        const image::Image picture = image::readImage(out.toStdString());
        for (const float v : picture.pixels)
            QVERIFY(std::isfinite(v));
        // Excluded from the haze it still lights the mist and the set.
        double air = 0.0, set = 0.0;
        for (int y = 0; y < picture.height; ++y)
            for (int x = 0; x < picture.width; ++x) {
                air += double(picture.at(x, y)[picture.channel("air.lamp.G")]);
                set += double(picture.at(x, y)[picture.channel("set.lamp.G")]);
            }
        QVERIFY(air > 0.0 && set > 0.0);
        QCOMPARE(cli({"render", QString(SOURCE_DIR) + "/demo/first-light.hygros", "--out", out, "--set",
                      "lamp.reach.nowhere=0"})
                     .code,
                 2);
        QCOMPARE(
            cli({"render", QString(SOURCE_DIR) + "/demo/first-light.hygros", "--out", out, "--holdout", "nobody"}).code,
            2);
    }

    void aMovingDemoClosesItsLoop()
    {
        const QString demo = QString(SOURCE_DIR) + "/demo/first-light-moving.hygros";
        const auto frame = [&](int number) {
            const QString out = dir_.filePath("moving.exr");
            const auto ran = cli({"render", demo, "--out", out, "--size", "96x54", "--samples", "4", "--frame",
                                  QString::number(number)});
            return ran.code == 0 ? image::readImage(out.toStdString()).pixels : std::vector<float>();
        };
        const auto first = frame(1), half = frame(126), again = frame(251);
        QVERIFY(!first.empty() && first.size() == half.size() && first.size() == again.size());
        double closed = 0.0, moved = 0.0;
        for (std::size_t i = 0; i < first.size(); ++i) {
            closed = std::max(closed, std::abs(double(first[i] - again[i])));
            moved += std::abs(double(first[i] - half[i])) / double(first.size());
        }
        QVERIFY2(closed < 1e-3 && moved > 1e-3, qPrintable(QString("%1, %2").arg(closed).arg(moved)));
    }

    void moviesAreWrittenOrRefusedWithWords()
    {
        const QString demo = QString(SOURCE_DIR) + "/demo/first-light-moving.hygros", out = dir_.filePath("fog.mp4");
        const QStringList small{"--size", "64x36", "--samples", "1"};
        auto ran = cli(QStringList{"render", demo, "--out", out} + small);
        QCOMPARE(ran.code, 2);
        QVERIFY2(ran.err.contains("a movie needs --frames"), qPrintable(ran.err));
        ran = cli(QStringList{"render", demo, "--out", dir_.filePath("fog.gif"), "--frames", "1-2"} + small);
        QCOMPARE(ran.code, 2);
        // Without the program.
        QProcess p;
        QProcessEnvironment bare = QProcessEnvironment::systemEnvironment();
        bare.insert("PATH", "/nowhere");
        p.setProcessEnvironment(bare);
        p.start(CLI, QStringList{"render", demo, "--out", out, "--frames", "1-2"} + small);
        QVERIFY(p.waitForFinished(60000));
        QCOMPARE(p.exitCode(), 3);
        QVERIFY(QString(p.readAllStandardError()).contains("ffmpeg, which writes movies, is not installed"));
        if (QStandardPaths::findExecutable("ffmpeg").isEmpty())
            QSKIP("without ffmpeg no movie is written");
        ran = cli(QStringList{"render", demo, "--out", dir_.filePath("no/such/folder/fog.mp4"), "--frames", "1-2"} +
                  small);
        QCOMPARE(ran.code, 3);
        QVERIFY2(ran.err.contains("ffmpeg says"), qPrintable(ran.err));
        ran = cli(QStringList{"render", demo, "--out", out, "--frames", "1-3"} + small);
        QVERIFY2(ran.code == 0, qPrintable(ran.err));
        p.setProcessEnvironment(QProcessEnvironment::systemEnvironment());
        p.start("ffprobe", {"-v", "error", "-count_frames", "-show_entries",
                            "stream=width,height,nb_read_frames,r_frame_rate", "-of", "csv=p=0", out});
        QVERIFY(p.waitForFinished());
        QCOMPARE(QString(p.readAllStandardOutput()).trimmed(), QString("64,36,25/1,3"));
        QCOMPARE(QDir(dir_.path()).entryList({"*part*"}, QDir::Files | QDir::Hidden).size(), 0);
    }

    void projectSchemaKnowsEveryParameter()
    {
        QFile f(QString(SOURCE_DIR) + "/docs/project.schema.json");
        QVERIFY(f.open(QIODevice::ReadOnly));
        const auto schema = QJsonDocument::fromJson(f.readAll()).object();
        for (const elements::Kind& k : elements::kinds()) {
            const auto settings =
                schema["$defs"].toObject()[QString::fromStdString(k.id)].toObject()["properties"].toObject();
            for (const scene::Parameter& p : k.parameters)
                QVERIFY2(settings.contains(QString::fromStdString(p.id)),
                         qPrintable(QString::fromStdString(k.id + "." + p.id)));
        }
    }
};
QTEST_GUILESS_MAIN(TestCommandLine)
#include "test_command_line.moc"
