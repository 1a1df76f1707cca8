/// Time, keys and stirs: rates, interpolation by tables, loops, what follows what, files.
#include "base/random.h"
#include "media/noise.h"
#include "scene/arrange.h"
#include "scene/evaluate.h"
#include "scene/track_json.h"
#include "support.h"

#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::scene;

namespace {
Parameter plain(double low = -1e300, double high = 1e300)
{
    Parameter p;
    p.id = p.label = "value";
    p.hard(low, high);
    p.fallback = 0.0;
    return p;
}
Track keyed(std::initializer_list<std::pair<double, double>> keys, Way way = Way::Smooth)
{
    Track t;
    for (const auto& [frame, value] : keys)
        t.keys.push_back(keyAt(frame, value, way));
    return t;
}
double at(const Track& t, double frame, const Parameter& p = plain())
{
    return std::get<double>(keyedValue(p, t, frame, -1.0));
}
Project withHaze()
{
    Project p = elements::newProject();
    p.add(*elements::findKind("haze"), "Haze");
    return p;
}
double hazeAt(const Project& p, double frame)
{
    return std::get<double>(evaluated(p, frame).find("haze")->value("visibility"));
}
} // namespace

class TestMotion : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void ratesAreExactFractions_data()
    {
        QTest::addColumn<QString>("text");
        QTest::addColumn<qint64>("frames");
        QTest::addColumn<qint64>("seconds");
        QTest::newRow("whole") << "25" << qint64(25) << qint64(1);
        QTest::newRow("film on television") << "23.976" << qint64(24000) << qint64(1001);
        QTest::newRow("the same, short") << "23.98" << qint64(24000) << qint64(1001);
        QTest::newRow("video") << "29.97" << qint64(30000) << qint64(1001);
        QTest::newRow("fast") << "59.94" << qint64(60000) << qint64(1001);
        QTest::newRow("as a fraction") << "48000/2002" << qint64(24000) << qint64(1001);
        QTest::newRow("another") << "12.5" << qint64(25) << qint64(2);
    }
    void ratesAreExactFractions()
    {
        QFETCH(QString, text);
        QFETCH(qint64, frames);
        QFETCH(qint64, seconds);
        const auto rate = rateOf(text.toStdString());
        QVERIFY(rate);
        QCOMPARE(qint64(rate->frames), frames);
        QCOMPARE(qint64(rate->seconds), seconds);
        QVERIFY(rateFromJson(rateToJson(*rate)) == *rate);
    }

    void badTimesAreRefusedWithWords()
    {
        for (const char* bad : {"0", "-25", "1/0", "0/1", "1e9", "nan", "fast", "25/0.5", ""})
            QVERIFY2(!rateOf(bad), bad);
        TimeSettings t;
        t.last = t.first - 1;
        THROWS_SAYING(t.check(), "must not come before");
        t = {};
        t.shutterAngle = 400.0;
        THROWS_SAYING(t.check(), "shutter");
        t = {};
        t.loop = std::numeric_limits<double>::quiet_NaN();
        THROWS_SAYING(t.check(), "loop");
        const auto open = [](const QString& keys) {
            const QString text = R"({"format": "hygros-project", "version": 2, )" + keys + "}";
            return fromJson(text.toStdString(), "it", elements::findKind);
        };
        THROWS_SAYING(open(R"("framesPerSecond": 0)"), "framesPerSecond must lie within 1 to 1000");
        THROWS_SAYING(open(R"("time": {"first": 10, "last": 2})"), "must not come before");
        THROWS_SAYING(open(R"("time": {"first": 1.5})"), "whole number");
        THROWS_SAYING(open(R"("time": [1])"), "must be an object");
        THROWS_SAYING(open(R"("time": {"loop": null})"), "must be a number");
        QCOMPARE(open(R"("framesPerSecond": 23.976)").time.rate.seconds, std::int64_t(1001));
        QCOMPARE(open(R"("time": {"first": -20, "last": -5})").time.first, -20);
    }

    void smoothKeysFollowTheTableWorkedOutByHand()
    {
        // Keys 0, 1, 4, 4, 2 at frames 1, 2, 3, 4, 6. Secants 1, 3, 0, −1; slopes by the parabola through three keys
        // 1, 2, 0, 0, −1: a first or last key has its stretch's own, a level stretch makes both its ends level.
        // Between 2 and 3: α = 2/3, β = 0, within the circle; at its middle (1 + 4)/2 + (2 − 0)/8 = 2.75.
        const Track t = keyed({{1, 0}, {2, 1}, {3, 4}, {4, 4}, {6, 2}});
        const struct {
            double frame, value;
        } table[] = {{1, 0},      {2, 1},   {3, 4},    {4, 4},           {6, 2},      {1.5, 0.375},
                     {2.5, 2.75}, {3.5, 4}, {5, 3.25}, {1.25, 0.203125}, {2.25, 1.75}};
        for (const auto& row : table)
            NEAR(at(t, row.frame), row.value, 1e-12);
    }

    void noValueLeavesTheRangeOfItsTwoKeys()
    {
        Random random(5);
        for (int round = 0; round < 300; ++round) {
            Track t;
            double frame = 1.0;
            for (int k = 0; k < 8; ++k) {
                frame += 0.2 + 30.0 * double(random.next()) * double(random.next());
                t.keys.push_back(keyAt(frame, std::exp(8.0 * double(random.next())) * (k % 3 ? 1.0 : -1.0)));
            }
            for (std::size_t k = 0; k + 1 < t.keys.size(); ++k) {
                const double a = std::get<double>(t.keys[k].value), b = std::get<double>(t.keys[k + 1].value),
                             slack = 1e-9 * (std::abs(a) + std::abs(b));
                double before = a;
                for (int i = 1; i <= 20; ++i) {
                    const double v = at(t, t.keys[k].frame + (t.keys[k + 1].frame - t.keys[k].frame) * i / 20.0);
                    QVERIFY(v >= std::min(a, b) - slack && v <= std::max(a, b) + slack);
                    QVERIFY(b >= a ? v >= before - slack : v <= before + slack); // and it does not turn
                    before = v;
                }
            }
        }
    }

    void waysAndSlopesByHand()
    {
        Track t = keyed({{0, 0}, {10, 20}}, Way::Linear);
        NEAR(at(t, 2.5), 5.0, 1e-12);
        t.keys[0].way = Way::Hold;
        NEAR(at(t, 9.999), 0.0, 1e-12);
        NEAR(at(t, 10), 20.0, 1e-12);
        // Level at both ends: 3u² − 2u³ of the way.
        t.keys[0].way = Way::Smooth;
        t.keys[0].out = t.keys[1].in = Vec3(0.f);
        NEAR(at(t, 2.5), 20.0 * (3 * 0.0625 - 2 * 0.015625), 1e-12);
        // Wanted so, it overshoots.
        t.keys[0].out = Vec3(12.f);
        QVERIFY(at(t, 6) > 20.0);
        const auto slopes = slopesAt(plain(), t, 0);
        QCOMPARE(slopes[1].x, 12.f);
    }

    void beyondTheKeys_data()
    {
        QTest::addColumn<int>("how");
        QTest::addColumn<double>("frame");
        QTest::addColumn<double>("value");
        // Keys 0 and 10 at frames 10 and 20, evenly.
        const auto row = [](const char* name, Beyond how, double frame, double value) {
            QTest::addRow("%s, %g", name, frame) << int(how) << frame << value;
        };
        row("hold", Beyond::Hold, 3, 0);
        row("hold", Beyond::Hold, 99, 10);
        row("go on", Beyond::GoOn, 5, -5);
        row("go on", Beyond::GoOn, 25, 15);
        row("repeat", Beyond::Repeat, 23, 3);
        row("repeat", Beyond::Repeat, 7, 7);
        row("repeat", Beyond::Repeat, -1007, 3);
        row("swing", Beyond::Swing, 23, 7);
        row("swing", Beyond::Swing, 33, 3);
        row("swing", Beyond::Swing, 7, 3);
        row("swing", Beyond::Swing, -3, 7);
    }
    void beyondTheKeys()
    {
        QFETCH(int, how);
        QFETCH(double, frame);
        QFETCH(double, value);
        Track t = keyed({{10, 0}, {20, 10}}, Way::Linear);
        t.before = t.after = Beyond(how);
        NEAR(at(t, frame), value, 1e-9);
    }

    void switchesChoicesAndCurvesChangeToo()
    {
        Parameter toggle = plain();
        toggle.type = ValueType::Switch;
        Track t;
        t.keys = {keyAt(1, false, Way::Smooth), keyAt(5, true, Way::Smooth)};
        QCOMPARE(std::get<bool>(keyedValue(toggle, t, 4.9, true)), false);
        QCOMPARE(std::get<bool>(keyedValue(toggle, t, 5.0, false)), true);
        Parameter curve = plain();
        curve.type = ValueType::Curve;
        t.keys = {keyAt(0, CurvePoints{{0, 0}, {1, 1}}, Way::Linear),
                  keyAt(4, CurvePoints{{0, 0}, {0.5f, 1}, {1, 1}}, Way::Linear)};
        const auto half = std::get<CurvePoints>(keyedValue(curve, t, 2, {}));
        QCOMPARE(half.size(), std::size_t(3));
        QCOMPARE(half[1].y, 0.75f);
        Parameter colour = plain(0, 1e6);
        colour.type = ValueType::Colour;
        t.keys = {keyAt(0, Vec3(1, 0, 0), Way::Linear), keyAt(4, Vec3(0, 0, 1), Way::Linear)};
        QCOMPARE(std::get<Vec3>(keyedValue(colour, t, 1, {})), Vec3(0.75f, 0.f, 0.25f));
    }

    void manyKeysAreFoundFast()
    {
        Track t;
        for (int i = 0; i < int(Track::mostKeys); ++i)
            t.keys.push_back(keyAt(double(i), double(i % 7), Way::Linear));
        checkTrack(plain(), t);
        QElapsedTimer clock;
        clock.start();
        double sum = 0.0;
        for (int i = 0; i < 100000; ++i)
            sum += at(t, i + 0.5);
        QVERIFY(sum > 0.0 && clock.elapsed() < 3000);
        t.keys.push_back(keyAt(1e6, 0.0, Way::Linear));
        THROWS_SAYING(checkTrack(plain(), t), "is the most");
    }

    void stirsStayWithinTheirAmountAndCloseTheirLoop_data()
    {
        QTest::addColumn<int>("kind");
        for (int k = 0; k < 3; ++k)
            QTest::addRow("kind %d", k) << k;
    }
    void stirsStayWithinTheirAmountAndCloseTheirLoop()
    {
        QFETCH(int, kind);
        TimeSettings time;
        time.loop = 10.0; // 250 frames
        double most = 0.0, moved = 0.0;
        for (int seed = 1; seed <= 5; ++seed) {
            Stir s;
            s.kind = Stir::Kind(kind);
            s.rate = 0.37;
            s.rough = 1.0;
            s.seed = seed;
            for (double f = 1.0; f < 251.0; f += 0.5) {
                const double v = stirAt(s, f, time, 1);
                most = std::max(most, std::abs(v));
                moved = std::max(moved, std::abs(v - stirAt(s, 1.0, time, 1)));
                NEAR(stirAt(s, f + 250.0, time, 1) + 10.0, v + 10.0, 1e-12);
                NEAR(stirAt(s, f - 500.0, time, 1) + 10.0, v + 10.0, 1e-12);
            }
        }
        QVERIFY(most <= 1.0 && moved > 0.4);
    }

    void swayHasItsRateAndItsSeed()
    {
        // Its energy lies about the rate: crossings of zero a second are some two times that.
        TimeSettings time;
        Stir s;
        s.rough = 0.0;
        s.rate = 2.0;
        int crossings = 0;
        double square = 0.0;
        constexpr int n = 25 * 400;
        for (int f = 0; f < n; ++f) {
            const double a = stirAt(s, f * 0.25, time, 0), b = stirAt(s, (f + 1) * 0.25, time, 0);
            crossings += a * b < 0.0;
            square += a * a / n;
        }
        const double seconds = n * 0.25 / 25.0;
        QVERIFY2(crossings / seconds > 2.0 && crossings / seconds < 6.0,
                 qPrintable(QString::number(crossings / seconds)));
        NEAR(std::sqrt(square), 0.35, 0.15);
        Stir other = s;
        other.seed = 2;
        QVERIFY(stirAt(other, 9, time, 0) != stirAt(s, 9, time, 0));
        QVERIFY(stirAt(s, 9, time, 1) != stirAt(s, 9, time, 0)); // x, y and z go their own ways
    }

    void stirsLieOverKeysWithinTheHardRange()
    {
        Project p = withHaze();
        Element& e = *p.find("haze");
        Track t = keyed({{1, 100}, {51, 200}}, Way::Linear);
        Stir ramp;
        ramp.kind = Stir::Kind::Ramp;
        ramp.amount = Vec3(-500.f);
        ramp.from = 1;
        ramp.to = 51;
        t.stirs = {ramp};
        e.setTrack("visibility", t);
        NEAR(hazeAt(p, 1), 100.0, 1e-9);
        NEAR(hazeAt(p, 26), std::max(150.0 - 250.0, findParameter(e.kind->parameters, "visibility")->hardMin), 1e-9);
        QVERIFY(evaluated(p, 26).find("haze")->motion.empty());
        QCOMPARE(evaluated(p, 12.5).frame, 12.5);
    }

    void oneParameterFollowsAnother()
    {
        Project p = withHaze();
        p.add(*elements::findKind("haze"), "Second");
        p.find("haze")->setTrack("visibility", keyed({{1, 1000}, {11, 2000}}, Way::Linear));
        Track follow;
        Stir s;
        s.kind = Stir::Kind::Follows;
        s.amount = Vec3(0.5f);
        s.source = "haze.visibility";
        follow.stirs = {s};
        p.find("second")->set("visibility", 300.0);
        p.find("second")->setTrack("visibility", follow);
        checkFollows(p);
        const auto second = [&](double f) {
            return std::get<double>(evaluated(p, f).find("second")->value("visibility"));
        };
        NEAR(second(6), 300.0 + 750.0, 1e-9);
        // Round and round is refused, also from a file.
        follow.stirs[0].source = "second.visibility";
        p.find("haze")->setTrack("visibility", follow);
        THROWS_SAYING(checkFollows(p), "follows itself");
        QVERIFY(std::isfinite(second(6)));
        THROWS_SAYING(fromJson(toJson(p), "it", elements::findKind), "follows itself");
        // Doubled together, the doubles follow each other.
        follow.stirs[0].source = "haze.visibility";
        p.find("haze")->setTrack("visibility", {});
        p.find("second")->setTrack("visibility", follow);
        const auto doubles = duplicate(p, std::vector<std::string>{"haze", "second"});
        QCOMPARE(p.find(doubles[1])->track("visibility")->stirs[0].source, doubles[0] + ".visibility");
        // Without what it follows it is itself.
        p.remove("haze");
        NEAR(second(6), 300.0, 1e-9);
    }

    void motionComesBackFromJson()
    {
        Project p = withHaze();
        p.time = {-10, 90, {24000, 1001}, 120.0, -60.0, 2.5, 4.0};
        Element& e = *p.find("haze");
        Track t = keyed({{-3.5, 800}, {48, 500}});
        t.keys[0].way = Way::Linear;
        t.keys[1].in = Vec3(-2.5f);
        t.after = Beyond::Swing;
        Stir s;
        s.amount = Vec3(20.f);
        s.rate = 0.4;
        s.seed = 7;
        t.stirs = {s};
        e.setTrack("visibility", t);
        Track camera;
        camera.keys = {keyAt(1, Vec3(1, 2, 3), Way::Smooth)};
        p.find("shot")->setTrack("position", camera);
        const std::string text = toJson(p);
        const Project back = fromJson(text, "it", elements::findKind);
        QVERIFY(back.time == p.time);
        QVERIFY(*back.find("haze")->track("visibility") == t);
        QVERIFY(*back.find("shot")->track("position") == camera);
        QCOMPARE(toJson(back), text);
        // The version says that an older program would lose something.
        QVERIFY(text.find("\"version\": 2") != std::string::npos);
        QVERIFY(toJson(withHaze()).find("\"version\": 1") != std::string::npos);
    }

    void damagedMotionIsRefusedWithWords_data()
    {
        QTest::addColumn<QString>("motion");
        QTest::addColumn<QString>("said");
        QTest::newRow("no object") << "[]"
                                   << "motion must be an object";
        QTest::newRow("keys") << R"({"visibility": {"keys": 3}})"
                              << "must be a list";
        QTest::newRow("no frame") << R"({"visibility": {"keys": [{"value": 3}]}})"
                                  << "frame and value";
        QTest::newRow("no number") << R"({"visibility": {"keys": [{"frame": null, "value": 3}]}})"
                                   << "must be a number";
        QTest::newRow("far") << R"({"visibility": {"keys": [{"frame": 1e300, "value": 3}]}})"
                             << "no frame that there is";
        QTest::newRow("twice") << R"({"visibility": {"keys": [{"frame": 2, "value": 3}, {"frame": 2, "value": 5}]}})"
                               << "two keys at frame 2";
        QTest::newRow("range") << R"({"visibility": {"keys": [{"frame": 2, "value": -3}]}})"
                               << "must lie within";
        QTest::newRow("type") << R"({"visibility": {"keys": [{"frame": 2, "value": "fog"}]}})"
                              << "must be a number";
        QTest::newRow("way") << R"({"visibility": {"keys": [{"frame": 2, "value": 9, "way": "odd"}]}})"
                             << "smooth, linear, hold";
        QTest::newRow("stir") << R"({"visibility": {"stirs": [{"kind": "odd", "amount": 1}]}})"
                              << "sway, swing, pulse, ramp, follows";
        QTest::newRow("stir's amount") << R"({"visibility": {"stirs": [{"kind": "sway", "amount": "much"}]}})"
                                       << "number or three";
    }
    void damagedMotionIsRefusedWithWords()
    {
        QFETCH(QString, motion);
        QFETCH(QString, said);
        const QString text =
            R"({"format": "hygros-project", "version": 2, "elements": [{"id": "haze", "kind": "haze", "motion": )" +
            motion + "}]}";
        THROWS_SAYING(fromJson(text.toStdString(), "it", elements::findKind), said);
    }
    void unsortedKeysAreSortedAndUnknownOnesKept()
    {
        const std::string text =
            R"({"format": "hygros-project", "version": 2, "elements": [{"id": "haze", "kind": "haze",
            "motion": {"visibility": {"keys": [{"frame": 9, "value": 300}, {"frame": 2, "value": 500}]},
                       "later": {"keys": [1]}}}]})";
        const Project p = fromJson(text, "it", elements::findKind);
        QCOMPARE(p.find("haze")->track("visibility")->keys.front().frame, 2.0);
        QVERIFY(toJson(p).find("\"later\"") != std::string::npos);
    }

    void keysFromTheCommandLine()
    {
        QTemporaryDir dir;
        Project p = withHaze();
        p.setPath("haze.visibility@48", "800 m");
        p.setPath("haze.visibility@1", "2 km");
        NEAR(hazeAt(p, 48), 800.0, 1e-12);
        p.setPath("haze.visibility@48.5", "900 m");
        QCOMPARE(p.find("haze")->track("visibility")->keys.size(), std::size_t(3));
        THROWS_SAYING(p.setPath("haze.visibility@soon", "1 km"), "is no frame");
        THROWS_SAYING(p.setPath("haze.muted@3", "on"), "cannot change over time");
        THROWS_SAYING(p.setPath("haze.visibility@3", "-1 km"), "must lie within");
        const std::string file = dir.filePath("keyed.hygros").toStdString();
        saveProject(p, file);
        const auto told = test::cli({"info", QString::fromStdString(file)});
        QCOMPARE(told.code, 0);
        QVERIFY2(told.out.contains("visibility over time: 1 = 2 km, 48 = 800 m"), qPrintable(told.out));
        const auto json = test::cli({"info", "--json", QString::fromStdString(file)});
        QVERIFY(json.out.contains("\"keys\""));
        // Rendered at two frames the pictures differ as two settings do.
        const auto render = [&](const QStringList& more) {
            const QString out = dir.filePath("out.png");
            const auto ran = test::cli(
                QStringList{"render", QString::fromStdString(file), "--out", out, "--size", "32x24", "--samples", "2"} +
                more);
            return ran.code == 0 ? QImage(out) : QImage();
        };
        const QImage first = render({"--frame", "1"}), later = render({"--frame", "48"}),
                     set = render({"--frame", "48", "--set", "haze.visibility@48=2 km", "--set",
                                   "haze.visibility@1=2 km", "--set", "haze.visibility@48.5=2 km"});
        QVERIFY(!first.isNull() && first != later);
        QVERIFY(first == set);
    }

    void anEditWhereOneStandsBecomesAKey()
    {
        Project p = withHaze();
        p.find("haze")->setTrack("visibility", keyed({{1, 1000}, {11, 2000}}, Way::Linear));
        const auto edited = [&](double frame, double value, std::optional<double> from = {}) {
            Project next = posed(p, frame);
            next.find("haze")->set("visibility", value);
            next.find("haze")->set("thinning", 77.0);
            return withKeys(p, next, frame, from);
        };
        Project a = edited(6, 1200.0);
        QCOMPARE(a.find("haze")->track("visibility")->keys.size(), std::size_t(3));
        NEAR(hazeAt(a, 6), 1200.0, 1e-9);
        QCOMPARE(a.find("haze")->track("visibility")->at(6)->way, Way::Linear);
        QVERIFY(!a.find("haze")->track("thinning"));
        QCOMPARE(std::get<double>(a.find("haze")->value("thinning")), 77.0);
        // As it was: no key.
        QCOMPARE(edited(6, 1500.0).find("haze")->track("visibility")->keys.size(), std::size_t(2));
        // Recorded: the old value where recording began, the new one here.
        a = edited(6, 1200.0, 2.0);
        const double before = std::get<double>(p.find("haze")->value("thinning"));
        QCOMPARE(a.find("haze")->track("thinning")->keys.size(), std::size_t(2));
        QCOMPARE(std::get<double>(a.find("haze")->track("thinning")->at(2)->value), before);
        QCOMPARE(std::get<double>(a.find("haze")->track("thinning")->at(6)->value), 77.0);
        // What stirs add is not in the key, and a stirred setting without keys stays one.
        Track stirred;
        Stir s;
        s.kind = Stir::Kind::Ramp;
        s.amount = Vec3(300.f);
        s.from = s.to = 1;
        stirred.stirs = {s};
        p.find("haze")->set("visibility", 1000.0);
        p.find("haze")->setTrack("visibility", stirred);
        a = edited(6, 1400.0);
        QVERIFY(a.find("haze")->track("visibility")->keys.empty());
        NEAR(std::get<double>(a.find("haze")->value("visibility")), 1100.0, 1e-9);
        // Of a double too.
        Project next = posed(p, 6);
        const auto doubles = duplicate(next, std::vector<std::string>{"haze"});
        a = withKeys(p, next, 6, {});
        NEAR(std::get<double>(a.find(doubles[0])->value("visibility")), 1000.0, 1e-9);
    }

    void everythingThatMovesByItselfClosesTheLoop()
    {
        Project p = elements::newProject();
        p.time.loop = 8.0; // 200 frames
        p.add(*elements::findKind("fogBank"), "Bank");
        p.find("bank")->set("boil", 0.3);
        p.find("bank")->set("contrast", 1.0);
        p.add(*elements::findKind("cloudDeck"), "Deck");
        p.add(*elements::findKind("spot"), "Lamp");
        p.find("lamp")->set("changes", std::string("fire"));
        p.find("lamp")->set("sweep", 0.17);
        Track sun;
        Stir s;
        s.kind = Stir::Kind::Swing;
        s.amount = Vec3(1.f);
        s.rate = 0.1;
        sun.stirs = {s};
        p.find("sun")->setTrack("azimuth", sun);
        Store store;
        JobControl job;
        const auto at = [&](double frame) {
            p.frame = frame;
            return elements::freeze(p, store, job);
        };
        const auto first = at(1), half = at(101), last = at(200.999), again = at(201);
        QVERIFY(first->media == again->media && first->lamps == again->lamps);
        QVERIFY(first->decks.at(0).offset == again->decks.at(0).offset && first->decks[0].loop == again->decks[0].loop);
        QVERIFY(first->sky->sunDirection() == again->sky->sunDirection());
        QVERIFY(!(first->media == half->media) && !(first->lamps == half->lamps));
        // And nothing jumps where it closes; halfway the fog is another one.
        double jump = 0.0, moved = 0.0;
        for (int i = 0; i < 500; ++i) {
            const Vec3 q(7.3f * float(i % 10), 1.f, 9.1f * float(i / 10));
            const auto v = [&](const auto& shot) { return double(media::modulation(shot->media.at(0).noise, q)); };
            jump = std::max(jump, std::abs(v(last) - v(again)));
            moved = std::max(moved, std::abs(v(half) - v(first)));
        }
        QVERIFY2(jump < 0.02 && moved > 0.5, qPrintable(QString("%1, %2").arg(jump).arg(moved)));
    }

    void aPatternKeepsItsContrastOnTheWayRound()
    {
        for (const float cells : {0.1f, 0.4f, 1.f, 7.f}) {
            media::Noise n;
            n.scale = 10.f;
            n.contrast = 1.f;
            const auto spread = [&] {
                double sum = 0.0, square = 0.0;
                Random random(3);
                constexpr int count = 20000;
                for (int i = 0; i < count; ++i) {
                    const double v = double(media::octaves(
                        n, Vec3(random.range(-900, 900), random.range(-900, 900), random.range(-900, 900))));
                    sum += v / count;
                    square += v * v / count;
                }
                return std::sqrt(square - sum * sum);
            };
            const double before = spread();
            n.loop.back = Vec3(10.f * cells, 0.f, 0.f);
            n.loop.turned = 0.5f;
            NEAR(spread(), before, 0.12);
        }
    }

    void metresAndPlacesOfKeysGoAlong()
    {
        Project from = elements::newProject(), to = elements::newProject();
        from.add(*elements::findKind("bulb"), "Lamp");
        Track t;
        t.keys = {keyAt(1, Vec3(1, 2, 3)), keyAt(9, Vec3(3, 2, 3))};
        t.keys[1].out = Vec3(1, 0, 0);
        from.find("lamp")->setTrack("position", t);
        Putting how;
        how.scale = 2.0;
        how.move = Vec3(10, 0, 0);
        const auto ids = putPart(to, partOf(from, std::vector<std::string>{"lamp"}), how);
        const Track& moved = *to.find(ids[0])->track("position");
        QCOMPARE(std::get<Vec3>(moved.keys[1].value), Vec3(16, 4, 6));
        QCOMPARE(moved.keys[1].out->x, 2.f);
    }
};

QTEST_APPLESS_MAIN(TestMotion)
#include "test_motion.moc"
