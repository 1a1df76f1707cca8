/// Brackets: values between two ends, projects with them, tiles that are what a still is, the sheet and its letters.
#include "elements/bracket.h"

#include "finish/contact_sheet.h"
#include "finish/display.h"
#include "image/image.h"
#include "render/sheet.h"
#include "render/still.h"
#include "support.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::test;
using elements::bracketAxis;
using elements::BracketBy;
using elements::bracketed;

class TestBracket : public QObject {
    Q_OBJECT
    QTemporaryDir dir_;
    Store store_;
    /// A wall of fog before the sky, a bulb in it.
    static scene::Project project()
    {
        scene::Project p = elements::newProject();
        scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
        haze.set("visibility", 400.0);
        scene::Element& bulb = p.add(*elements::findKind("bulb"), "Lamp");
        bulb.set("position", Vec3(0.f, 1.7f, -12.f));
        return p;
    }
    static std::vector<double> numbers(const elements::BracketAxis& axis)
    {
        std::vector<double> out;
        for (const scene::Value& v : axis.values)
            out.push_back(std::get<double>(v));
        return out;
    }
    static double mean(const std::vector<float>& rgb)
    {
        double sum = 0.0;
        for (const float v : rgb)
            sum += double(v);
        return sum / static_cast<double>(rgb.size());
    }

private Q_SLOTS:
    void evenStepsAndFactorsAndStops()
    {
        const scene::Project p = project();
        const auto even = bracketAxis(p, {"haze.visibility", BracketBy::Even, "100 m", "0.5 km", 5});
        QCOMPARE(numbers(even), (std::vector<double>{100, 200, 300, 400, 500}));
        QCOMPARE(even.label, std::string("Haze: visibility"));
        QCOMPARE(even.shown[2], std::string("300 m"));
        QCOMPARE(even.words(), std::string("Haze: visibility from 100 m to 500 m"));
        const auto factors = numbers(bracketAxis(p, {"haze.visibility", BracketBy::Factors, "50", "800", 5}));
        const std::vector<double> doubled{50, 100, 200, 400, 800};
        for (std::size_t i = 0; i < 5; ++i)
            NEAR(factors[i], doubled[i], 1e-12);
        // About the present 400 m.
        const auto stops = numbers(bracketAxis(p, {"haze.visibility", BracketBy::Stops, "-1", "1", 3}));
        QCOMPARE(stops, (std::vector<double>{200, 400, 800}));
        // Of an exposure stops are added; falling ranges run down.
        const auto exposure = bracketAxis(p, {"look.exposure", BracketBy::Stops, "2", "-2", 3});
        const double now = std::get<double>(p.find("look")->value("exposure"));
        QCOMPARE(numbers(exposure), (std::vector<double>{now + 2, now, now - 2}));
    }
    void choicesSwitchesAndFrames()
    {
        const scene::Project p = project();
        const auto with = bracketAxis(p, {"haze.muted", BracketBy::Choices, "", "", 5});
        QCOMPARE(with.shown, (std::vector<std::string>{"with", "without"}));
        QVERIFY(bracketed(p, with, 1, store_).find("haze")->muted);
        QVERIFY(!bracketed(p, with, 0, store_).find("haze")->muted);
        const auto frames = bracketAxis(p, {"frame", BracketBy::Frames, "1", "9", 5});
        QCOMPARE(frames.shown, (std::vector<std::string>{"1", "3", "5", "7", "9"}));
        QCOMPARE(bracketed(p, frames, 3, store_).frame, 7.0);
        // As many as there are, each once.
        QCOMPARE(bracketAxis(p, {"frame", BracketBy::Frames, "1", "3", 12}).size(), std::size_t(3));
        for (const scene::Element& e : p.elements)
            for (const scene::Parameter& q : e.kind->parameters)
                if (q.type == scene::ValueType::Choice) {
                    const auto axis = bracketAxis(p, {e.id + "." + q.id, BracketBy::Choices, "", "", 2});
                    QCOMPARE(axis.size(), q.choices.size());
                }
    }
    void theRangeThatItBeginsWithCanBeHad()
    {
        // For every kind and each of its settings.
        scene::Project p;
        for (const elements::Kind& k : elements::kinds())
            p.add(k, k.label);
        int count = 0;
        for (const scene::Element& e : p.elements)
            for (const scene::Parameter& q : e.kind->parameters) {
                const std::string path = e.id + "." + q.id;
                if (elements::bracketWays(p, path).empty())
                    continue;
                const elements::BracketWish wish = elements::bracketBegin(p, path);
                const auto axis = elements::bracketAxis(p, wish);
                QVERIFY2(axis.size() >= 2, path.c_str());
                for (const scene::Value& v : axis.values)
                    QVERIFY2(q.checked(v) == v, path.c_str());
                ++count;
            }
        QVERIFY(count > 300);
    }
    void aKeyedSettingIsHeldAndOthersMove()
    {
        scene::Project p = project();
        scene::Track track;
        track.put(scene::keyAt(1, 1000.0, scene::Way::Linear));
        track.put(scene::keyAt(11, 2000.0, scene::Way::Linear));
        p.find("haze")->setTrack("visibility", track);
        p.find("haze")->setTrack("albedo", {});
        const auto axis = bracketAxis(p, {"haze.visibility", BracketBy::Even, "100", "200", 2});
        const scene::Project one = bracketed(p, axis, 1, store_);
        QVERIFY(!one.find("haze")->track("visibility"));
        QCOMPARE(std::get<double>(one.find("haze")->value("visibility")), 200.0);
        QVERIFY(p.find("haze")->track("visibility"));
    }
    void whatCannotBeSteppedIsSaid()
    {
        const scene::Project p = project();
        const auto axis = [&](const std::string& path, BracketBy by, const std::string& from, const std::string& to,
                              int count = 5) {
            return bracketAxis(p, {path, by, from, to, count});
        };
        THROWS_SAYING(axis("fog.top", BracketBy::Even, "1", "2"), "there is no element 'fog'");
        THROWS_SAYING(axis("haze.thickness", BracketBy::Even, "1", "2"), "no setting 'thickness'");
        THROWS_SAYING(axis("haze.visibility", BracketBy::Even, "1 kg", "2"), "is no value for it");
        THROWS_SAYING(axis("haze.visibility", BracketBy::Even, "300", "300"), "both ends are the same");
        THROWS_SAYING(axis("haze.visibility", BracketBy::Factors, "0", "300"), "above 0");
        THROWS_SAYING(axis("haze.visibility", BracketBy::Even, "1e-9", "300"), "its values go from");
        THROWS_SAYING(axis("haze.visibility", BracketBy::Even, "100", "300", 1), "from 2 to");
        THROWS_SAYING(axis("haze.visibility", BracketBy::Frames, "1", "3"), "cannot be stepped so");
        THROWS_SAYING(axis("haze.muted", BracketBy::Even, "0", "1"), "by choices");
        THROWS_SAYING(axis("frame", BracketBy::Frames, "1", "1e9"), "within");
    }

    void tilesAreWhatAStillIs()
    {
        // Air alone (one frame serves all), the sun's height (each its own), and a lamp's power.
        const scene::Project p = project();
        for (const char* path : {"haze.visibility", "sun.elevation", "lamp.power"}) {
            elements::BracketWish range = elements::bracketBegin(p, path);
            range.count = 3;
            const auto axis = elements::bracketAxis(p, range);
            JobControl job;
            render::SheetWish wish{axis.size(), 64, 36, often(32), {}};
            wish.shot = [&](std::size_t i) {
                return elements::freeze(elements::bracketed(p, axis, i, store_), store_, job);
            };
            std::vector<std::vector<int>> samples(axis.size());
            std::vector<std::vector<float>> last(axis.size());
            std::size_t coarse = 0;
            render::renderSheet(wish, job, [&](render::SheetTile t) {
                QVERIFY2(t.trouble.empty(), t.trouble.c_str());
                QCOMPARE(t.rgb.size(), std::size_t(64 * 36 * 3));
                // All of them coarsely before any of them better.
                if (t.samples > 0)
                    QCOMPARE(coarse, axis.size());
                else
                    ++coarse;
                samples[t.which].push_back(t.samples);
                QCOMPARE(t.isLast, t.samples == wish.samples);
                last[t.which] = t.rgb;
            });
            for (std::size_t i = 0; i < axis.size(); ++i) {
                QVERIFY(std::is_sorted(samples[i].begin(), samples[i].end()));
                QCOMPARE(samples[i].back(), wish.samples);
                const auto shot = elements::freeze(elements::bracketed(p, axis, i, store_), store_, job);
                const render::Layers still = render::renderStill(shot, {64, 36, often(32)}, job);
                std::vector<float> beauty(still.plate.size());
                double apart = 0.0;
                for (std::size_t k = 0; k < beauty.size(); ++k) {
                    beauty[k] = still.plate[k] * still.transmittance[k] + still.air[k];
                    apart += std::abs(double(beauty[k] - last[i][k]));
                }
                QVERIFY2(
                    std::abs(mean(last[i]) / mean(beauty) - 1.0) < within(0.05),
                    qPrintable(QString("%1 %2: %3, still %4").arg(path).arg(i).arg(mean(last[i])).arg(mean(beauty))));
                QVERIFY2(apart / static_cast<double>(beauty.size()) < within(0.1) * mean(beauty),
                         qPrintable(QString("%1 %2: %3").arg(path).arg(i).arg(apart)));
            }
        }
    }
    void aTileThatCannotBeMadeLeavesTheOthers()
    {
        const scene::Project p = project();
        JobControl job;
        render::SheetWish wish{3, 32, 18, 2, {}};
        wish.shot = [&](std::size_t i) {
            if (i == 1)
                throw std::runtime_error("no such file");
            return elements::freeze(p, store_, job);
        };
        int good = 0, bad = 0;
        render::renderSheet(wish, job, [&](const render::SheetTile& t) {
            good += t.isLast && t.trouble.empty();
            bad += t.trouble == "no such file" && t.which == 1 && t.rgb.empty();
        });
        QCOMPARE(good, 2);
        QCOMPARE(bad, 1);
        job.cancel();
        QVERIFY_THROWS_EXCEPTION(Cancelled, render::renderSheet(wish, job, [](const render::SheetTile&) {}));
    }

    void lettersAreWhereTheyAreWrittenAndAsWideAsTold()
    {
        const std::string text = "Visibility 640 m · µ°é";
        const int w = finish::textWidth(text, 16.f);
        QVERIFY(w > 100 && w < 260);
        QVERIFY(finish::textWidth(text + "x", 16.f) > w);
        NEAR(finish::textWidth(text, 32.f), 2 * w, 0.02);
        finish::Pixels page(320, 60, {10, 10, 10});
        finish::write(page, text, 20, 12, 16.f, {250, 250, 250});
        int left = 999, right = 0, top = 999, bottom = 0;
        for (int y = 0; y < 60; ++y)
            for (int x = 0; x < 320; ++x)
                if (page.rgb[static_cast<std::size_t>(3 * (y * 320 + x))] > 130) {
                    left = std::min(left, x);
                    right = std::max(right, x);
                    top = std::min(top, y);
                    bottom = std::max(bottom, y);
                }
        QVERIFY2(left >= 19 && left <= 24 && right > 20 + w - 12 && right <= 21 + w,
                 qPrintable(QString::number(right)));
        QVERIFY2(top >= 12 && bottom <= 12 + finish::lineHeight(16.f),
                 qPrintable(QString("%1 %2").arg(top).arg(bottom)));
        // Shortened it fits, and its letters stay whole.
        const std::string cut = finish::shortened("µµµµµµµµµµ", 16.f, 60);
        QVERIFY(finish::textWidth(cut, 16.f) <= 60 && cut.ends_with("…"));
        QVERIFY(!QString::fromStdString(cut).contains(QChar(QChar::ReplacementCharacter)));
        QCOMPARE(finish::shortened("short", 16.f, 60), std::string("short"));
        // Over the edge nothing happens.
        finish::write(page, text, 300, 50, 16.f, {250, 250, 250});
        finish::write(page, "\xff\xc3", -30, -30, 16.f, {250, 250, 250});
    }
    void theSheetHoldsItsTilesAndLeavesTheBadOneGrey()
    {
        std::vector<finish::Pixels> tiles;
        for (int i = 0; i < 6; ++i)
            tiles.emplace_back(160, 90, std::array<std::uint8_t, 3>{static_cast<std::uint8_t>(40 * i), 200, 0});
        tiles[2].rgb.clear();
        QCOMPARE(finish::sheetColumns(6, 16.0 / 9.0), 3);
        QCOMPARE(finish::sheetColumns(4, 16.0 / 9.0), 2);
        QCOMPARE(finish::sheetColumns(1, 16.0 / 9.0), 1);
        QCOMPARE(finish::sheetColumns(5, 0.2), 5);
        const auto count = [&](const finish::Pixels& sheet, int red) {
            std::size_t n = 0;
            for (std::size_t i = 0; i < sheet.rgb.size(); i += 3)
                n += sheet.rgb[i] == red && sheet.rgb[i + 1] == 200 && sheet.rgb[i + 2] == 0;
            return n;
        };
        for (const bool crossed : {false, true}) {
            finish::SheetWords words{"Mist: visibility", "frame 1", {"a", "b", "c", "d", "e", "f"}, {}};
            if (crossed)
                words = {"", "", {"one", "two", "three"}, {"upper", "lower"}};
            const finish::Pixels sheet = finish::contactSheet(tiles, words);
            QVERIFY(sheet.width > 3 * 160 && sheet.width < 4 * 160 && sheet.height > 180 && sheet.height < 330);
            for (int i = 0; i < 6; ++i)
                QCOMPARE(count(sheet, 40 * i), std::size_t(i == 2 ? 0 : 160 * 90));
        }
    }
    void theCommandWritesASheet()
    {
        const QString file = dir_.filePath("fog.hygros"), out = dir_.filePath("sheet.png");
        scene::saveProject(project(), file.toStdString());
        const Ran ran = cli({"bracket", file, "--over", "haze.visibility", "--from", "50 m", "--to", "5 km", "--steps",
                             "3", "--across", "sun.muted", "--out", out, "--size", "96x54", "--samples", "2",
                             "--json"});
        QVERIFY2(ran.code == 0, qPrintable(ran.err));
        const QImage sheet(out);
        QVERIFY(sheet.width() > 3 * 96 && sheet.height() > 2 * 54);
        const QJsonObject told = QJsonDocument::fromJson(ran.out.toUtf8()).object();
        const QJsonArray tiles = told["tiles"].toArray();
        QCOMPARE(tiles.size(), 6);
        NEAR(tiles[1].toObject()["haze.visibility"].toDouble(), 500.0, 1e-9);
        QCOMPARE(tiles[4].toObject()["sun.muted"].toBool(), true);
        QCOMPARE(told["width"].toInt(), sheet.width());
        // Without sun and sky there is less light.
        QVERIFY(tiles[0].toObject()["meanLight"].toDouble() > tiles[3].toObject()["meanLight"].toDouble());
        // What is asked wrongly writes nothing.
        const QString no = dir_.filePath("no.png");
        for (const QStringList& wrong : {QStringList{"--over", "haze.top"},
                                         {"--over", "haze.visibility", "--by", "even", "--from", "5"},
                                         {"--over", "haze.visibility", "--across", "haze.visibility"},
                                         {"--over", "haze.visibility", "--steps", "99"},
                                         {"--over", "haze.visibility", "--across-from", "3"}}) {
            const Ran bad = cli(QStringList{"bracket", file, "--out", no, "--samples", "1"} + wrong);
            QVERIFY2(bad.code == 2 && !bad.err.isEmpty(), qPrintable(wrong.join(" ") + bad.err));
            QVERIFY(!QFile::exists(no));
        }
        QCOMPARE(cli({"bracket", file, "--over", "haze.visibility", "--out", dir_.filePath("no.exr")}).code, 2);
    }
};

QTEST_GUILESS_MAIN(TestBracket)
#include "test_bracket.moc"
