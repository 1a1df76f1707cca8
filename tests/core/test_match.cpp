/// Match: what a picture of the same place was made with is found again from its planes.
#include "reading/match.h"

#include "base/error.h"
#include "base/random.h"
#include "elements/kinds.h"
#include "finish/display.h"
#include "render/frame.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
using reading::MatchWishes;
using scene::Project;

class TestMatch : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;
    static constexpr int width = 240, height = 135;

    /// Three walls that share the picture's width: near at the left, far at the right. Random by a seed.
    Project place(std::uint32_t seed, double visibility, double exposure, double neutral)
    {
        Random random(seed);
        const std::filesystem::path file = (folder_.path() + "/walls" + QString::number(seed) + ".obj").toStdString();
        std::ofstream out(file);
        const double far[] = {8.0 + 6.0 * double(random.next()), 50.0 + 40.0 * double(random.next()),
                              250.0 + 200.0 * double(random.next())};
        for (int i = 0; i < 3; ++i) {
            const double z = far[i], left = z * (-0.6 + 0.4 * i), right = left + 0.38 * z;
            out << "v " << left << " -" << z << " -" << z << "\nv " << right << " -" << z << " -" << z << "\nv "
                << right << " " << z << " -" << z << "\nv " << left << " " << z << " -" << z << "\n";
        }
        out << "f 1 2 3 4\nf 5 6 7 8\nf 9 10 11 12\n";
        out.close();
        Project p = elements::newProject();
        p.add(*elements::findKind("set"), "Walls").set("file", file.string());
        scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
        haze.id = "haze";
        haze.set("form", std::string("uniform"));
        haze.set("visibility", visibility);
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 1.7f, -10.f));
        p.find("sun")->set("elevation", 25.0 + 20.0 * double(random.next()));
        p.find("sun")->set("azimuth", 150.0 + 60.0 * double(random.next())); // behind the camera
        p.find("look")->set("exposure", exposure);
        p.find("look")->set("white", neutral);
        return p;
    }
    /// As it is shown, BGRA.
    std::vector<std::uint8_t> shown(const Project& p)
    {
        const auto shot = elements::freeze(p, store_, job_);
        const std::atomic<bool> never{false};
        render::Frame frame(shot, width, height);
        frame.setFollowsPaths(false);
        frame.drawFrom(100);
        for (int i = 0; i < 6; ++i) {
            frame.trace(i, never);
            frame.light(never);
        }
        std::vector<float> rgb;
        frame.resolve(rgb);
        std::vector<std::uint8_t> out(std::size_t(width) * height * 4);
        finish::Display(shot->look).apply(rgb.data(), width, height, out.data(), std::size_t(width) * 4, 4);
        return out;
    }
    reading::ShownTones tones(const std::vector<std::uint8_t>& picture)
    {
        // The middles of what is seen of the walls: a sliver of sky in a box is enough to be a fifth off.
        const auto box = [&](float x) {
            return reading::toneOf(picture, width, height, {x - 0.08f, 0.2f, x + 0.08f, 0.8f});
        };
        return {box(0.15f), box(0.49f), box(0.84f)};
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(folder_.isValid()); }

    void toneOfABox()
    {
        // Left half middle grey as encoded, right half its double in light.
        std::vector<std::uint8_t> p;
        for (int y = 0; y < 10; ++y)
            for (int x = 0; x < 20; ++x) {
                const auto v = static_cast<std::uint8_t>(x < 10 ? 118 : 161); // 0.181, 0.356
                p.insert(p.end(), {v, v, v, 255});
            }
        const auto left = reading::toneOf(p, 20, 10, {0.f, 0.f, 0.5f, 1.f}),
                   right = reading::toneOf(p, 20, 10, {0.5f, 0.f, 1.f, 1.f}), both = reading::toneOf(p, 20, 10, {});
        QVERIFY(std::abs(left.stops) < 0.02f && std::abs(right.stops - 0.985f) < 0.02f);
        QVERIFY(std::abs(both.stops - 0.5f * (left.stops + right.stops)) < 1e-4f);
        QCOMPARE(both.pixels, std::size_t(200));
        NEAR(left.u, 0.1978, 0.002); // D65
        NEAR(left.v, 0.4683, 0.002);
        QCOMPARE(reading::toneOf(p, 20, 10, {0.5f, 0.5f, 0.5f, 0.9f}).pixels, std::size_t(0));
    }

    void findsAgainWhatAPictureWasMadeWith_data()
    {
        QTest::addColumn<int>("seed");
        QTest::addColumn<double>("off");
        QTest::newRow("thicker") << 1 << 0.3;
        QTest::newRow("thinner") << 2 << 5.0;
        QTest::newRow("much thinner") << 3 << 20.0;
        QTest::newRow("as it is") << 4 << 1.0;
    }
    void findsAgainWhatAPictureWasMadeWith()
    {
        QFETCH(int, seed);
        QFETCH(double, off);
        Random random(static_cast<std::uint32_t>(seed) * 77u);
        const double visibility = 300.0 + 900.0 * double(random.next()), exposure = -6.5 + 1.5 * double(random.next()),
                     neutral = 4800.0 + 2500.0 * double(random.next());
        const auto wanted = tones(shown(place(static_cast<std::uint32_t>(seed), visibility, exposure, neutral)));
        const Project now = place(static_cast<std::uint32_t>(seed), visibility * off, exposure + 1.2, 6500.0);
        MatchWishes wishes;
        wishes.element = "haze";
        wishes.borders = {25.f, 160.f};
        const reading::Match m = reading::match(now, wanted, wishes, store_, job_);
        qInfo() << "visibility" << *m.visibility << "of" << visibility << "exposure" << *m.exposure << "of" << exposure
                << "neutral" << *m.neutral << "of" << neutral << "misses" << m.missAfter << m.colourAfter;
        QVERIFY2(m.missAfter < 0.06 && m.missAfter < m.missBefore, qPrintable(QString::number(m.missAfter)));
        QVERIFY(m.colourAfter < 0.004 && m.colourAfter <= m.colourBefore);
        NEAR(*m.visibility, visibility, 0.1);
        QVERIFY(std::abs(*m.exposure - exposure) < 0.15); // it goes with that
        NEAR(1e6 / *m.neutral, 1e6 / neutral, 0.04);
        // What it says is what it gives.
        Project after = now;
        for (const auto& [path, value] : m.settings)
            after.setPath(path, value);
        const auto then = tones(shown(after));
        for (std::size_t i = 0; i < 3; ++i)
            QVERIFY(std::abs(then[i].stops - wanted[i].stops) < 0.12f);
    }

    void fitsOnlyWhatIsWished()
    {
        const auto wanted = tones(shown(place(5, 500.0, -5.0, 5500.0)));
        const Project now = place(5, 500.0, -6.0, 6500.0);
        MatchWishes wishes;
        wishes.borders = {25.f, 160.f};
        wishes.neutral = false;
        const reading::Match m = reading::match(now, wanted, wishes, store_, job_);
        QVERIFY(m.exposure && !m.neutral && !m.visibility);
        QCOMPARE(m.settings.size(), std::size_t(1));
        QVERIFY(std::abs(*m.exposure + 5.0) < 0.1);
    }

    void refusesWhatCannotBeMatched()
    {
        const Project p = place(6, 500.0, -5.0, 6500.0);
        const auto wanted = tones(shown(p));
        const auto says = [&](const reading::ShownTones& t, MatchWishes w) {
            try {
                reading::match(p, t, w, store_, job_);
            } catch (const Error& e) {
                return QString(e.what());
            }
            return QString();
        };
        MatchWishes none;
        none.exposure = none.neutral = false;
        QVERIFY(says(wanted, none).contains("nothing is to be fitted"));
        MatchWishes sun;
        sun.element = "sun";
        sun.borders = {25.f, 160.f};
        QVERIFY(says(wanted, sun).contains("no visibility"));
        reading::ShownTones one{};
        one[0] = wanted[0];
        QVERIFY(says(one, {}).contains("fewer than two planes"));
        MatchWishes beyond;
        beyond.borders = {5000.f, 6000.f}; // all of it is foreground
        QVERIFY(says(wanted, beyond).contains("fewer than two planes"));
        JobControl stopped;
        stopped.cancel();
        QVERIFY_THROWS_EXCEPTION(Cancelled, reading::match(p, wanted, {}, store_, stopped));
    }
};

QTEST_MAIN(TestMatch)
#include "test_match.moc"
