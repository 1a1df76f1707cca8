/// Water that flies: single drops, what bursts of it hold, and where a project has them.
#include "media/spray.h"

#include "elements/kinds.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>
#include <map>

using namespace hygros;
using namespace hygros::test;
using media::Drop;
using media::SprayBurst;
namespace fs = std::filesystem;

namespace {
/// A block of 2 by 1 by 4 m over its bottom, as an OBJ file's text.
const char* const block = "v -1 0 -2\nv 1 0 -2\nv -1 1 -2\nv 1 1 -2\nv -1 0 2\nv 1 0 2\nv -1 1 2\nv 1 1 2\n"
                          "f 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n";
double waterIn(const std::vector<Drop>& drops)
{
    double sum = 0.0;
    for (const Drop& d : drops)
        sum += double(pi) / 6.0 * std::pow(double(d.diameter), 3.0);
    return sum;
}
} // namespace

class TestSpray : public QObject {
    Q_OBJECT
    JobControl job_;
    QTemporaryDir folder_;

    scene::Project project(double wind, const Vec3& from, const Vec3& to, int frames)
    {
        const fs::path file = fs::path(folder_.path().toStdString()) / "block.obj";
        std::ofstream(file) << block;
        scene::Project p = elements::newProject();
        scene::Element& w = p.add(*elements::findKind("openWater"), "Sea");
        w.set("speed", wind);
        w.set("fetch", 5e4);
        scene::Element& s = p.add(*elements::findKind("set"), "Block");
        s.set("file", file.string());
        s.set("position", from);
        if (from != to) {
            scene::Track t;
            t.put(scene::keyAt(1, from, scene::Way::Linear));
            t.put(scene::keyAt(frames, to, scene::Way::Linear));
            s.motion.put("position", t);
        }
        p.time.last = frames;
        p.frame = frames;
        return p;
    }
    std::vector<Drop> dropsOf(const scene::Project& p, Store& store, std::string* told = nullptr)
    {
        const auto shot = elements::freeze(p, store, job_);
        std::vector<Drop> out;
        for (const media::Falling& f : shot->falling)
            if (f.form == media::Falling::Form::Spray)
                out.insert(out.end(), f.all->begin(), f.all->end());
        for (const shot::Note& n : shot->notes)
            if (told && n.text.find("pray") != std::string::npos)
                *told += n.text;
        return out;
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(folder_.isValid()); }

    void oneFliesAgainstTheAir_data()
    {
        QTest::addColumn<float>("diameter");
        QTest::newRow("fine") << 0.4e-3f;
        QTest::newRow("middling") << 1.5e-3f;
        QTest::newRow("large") << 5e-3f;
    }
    /// Against steps of its law: what slows it is in proportion to its way through the air, and at rest it falls at
    /// its last speed.
    void oneFliesAgainstTheAir()
    {
        QFETCH(float, diameter);
        const Vec3 wind(6.f, 0.f, -2.f), start(1.f, 5.f, 2.f);
        const double last = double(media::rain::speed(diameter * 1e3f)), per = 9.81 / last;
        double x[3] = {0, 0, 0}, v[3] = {1, 5, 2};
        const double w[3] = {6, 0, -2};
        const double dt = 1e-5;
        for (int i = 0; i < 80000; ++i)
            for (int a = 0; a < 3; ++a) {
                v[a] += dt * (per * (w[a] - v[a]) - (a == 1 ? 9.81 : 0.0));
                x[a] += dt * v[a];
            }
        const Drop d = media::flying(Vec3(0.f), start, diameter, 0.8f, wind);
        for (int a = 0; a < 3; ++a) {
            QVERIFY(std::abs(double(d.at[a]) - x[a]) < 2e-3);
            QVERIFY(std::abs(double(d.velocity[a]) - v[a]) < 2e-3);
        }
        const Drop old = media::flying(Vec3(0.f), start, diameter, 60.f, wind);
        NEAR(-double(old.velocity.y), last, 1e-3);
        NEAR(double(old.velocity.x), 6.0, 1e-3);
    }

    void aBurstHoldsItsWater()
    {
        SprayBurst b;
        b.velocity = Vec3(0.f, 6.f, 0.f);
        b.volume = 1e-4f;
        b.age = 0.2f;
        b.lasts = 0.f;
        media::SpraySettings s;
        s.level = -100.f;
        std::vector<Drop> all;
        media::sprayOf({b}, s, all);
        QVERIFY2(all.size() > 20000, qPrintable(QString::number(all.size())));
        NEAR(waterIn(all), 1e-4, 0.05);
        NEAR(double(all.size()), media::sprayDrops(1e-4), 0.01);
        // Fewer that stand for all of them cover as much.
        s.most = 2000;
        std::vector<Drop> some;
        media::sprayOf({b}, s, some);
        QVERIFY(some.size() > 1800 && some.size() < 2200);
        const auto covers = [](const std::vector<Drop>& drops) {
            double sum = 0.0;
            for (const Drop& d : drops)
                sum += double(d.diameter) * double(d.diameter);
            return sum;
        };
        NEAR(covers(some), covers(all), 0.06);
    }
    void eachGoesItsWay()
    {
        SprayBurst b;
        b.velocity = Vec3(1.f, 4.f, 0.f);
        b.volume = 1e-5f;
        b.age = 0.3f;
        media::SpraySettings s;
        s.wind = Vec3(3.f, 0.f, 0.f);
        std::vector<Drop> now, later;
        media::sprayOf({b}, s, now);
        constexpr float dt = 0.01f;
        b.age += dt;
        media::sprayOf({b}, s, later);
        std::map<std::uint32_t, Drop> by;
        for (const Drop& d : later)
            by[d.own] = d;
        int met = 0;
        for (const Drop& d : now)
            if (const auto it = by.find(d.own); it != by.end()) {
                ++met;
                const Vec3 way = it->second.at - d.at, mean = (d.velocity + it->second.velocity) * (0.5f * dt);
                QVERIFY((way - mean).length() < 2e-3f);
                QCOMPARE(d.diameter, it->second.diameter);
            }
        QVERIFY(met > int(now.size()) * 9 / 10);
        for (const Drop& d : now)
            QVERIFY(d.at.y >= 0.f || d.velocity.y >= 0.f);
        // All have come down, or nearly, at the end.
        b.age = media::sprayLasts;
        std::vector<Drop> none;
        media::sprayOf({b}, s, none);
        QVERIFY(none.empty());
    }
    void theShareThatIsFollowedChangesSteadily()
    {
        // What waves throw up at a hull: a large burst every twelfth of a second, some of them much larger.
        const media::SpraySettings s;
        const auto at = [](double seconds) {
            std::vector<SprayBurst> all;
            for (int k = -60; k < 120; ++k) {
                SprayBurst b;
                b.velocity = Vec3(0.f, k % 5 == 0 ? 4.f : 1.f, 0.f);
                b.volume = k % 5 == 0 ? 8e-3f : 1e-3f;
                b.age = static_cast<float>(seconds - k / 12.0);
                b.lasts = 1.f / 12.f;
                b.own = static_cast<std::uint32_t>(k + 100);
                all.push_back(b);
            }
            return all;
        };
        double before = 0.0;
        for (int frame = 0; frame < 96; ++frame) {
            const std::vector<SprayBurst> all = at(frame / 24.0);
            const double share = media::sprayShare(all, s);
            if (before > 0.0)
                QVERIFY2(share < 1.6 * before && before < 1.6 * share,
                         qPrintable(QString("%1: %2 after %3").arg(frame).arg(share).arg(before)));
            before = share;
        }
        // Where all is down already no more is looked through than may be: it was some fifty million here.
        std::vector<SprayBurst> down(300, at(0.0)[1]);
        for (SprayBurst& b : down) {
            b.volume = 5e-4f;
            b.age = 1.4f;
        }
        const double tried = 300.0 * media::sprayDrops(5e-4) * media::sprayShare(down, s);
        QVERIFY2(tried < 1.01 * media::sprayTried * double(s.most), qPrintable(QString::number(tried)));
        QVERIFY(tried > 0.9 * media::sprayTried * double(s.most));
        // In calm water little is thrown and all of it is followed.
        down.resize(1);
        QCOMPARE(media::sprayShare(down, s), 1.0);
    }
    void hangsByTheWind()
    {
        NEAR(visibilityOfExtinction(media::sprayMist(25.0)), 1000.0, 1e-6);
        QVERIFY(visibilityOfExtinction(media::sprayMist(8.0)) > 3e4);
        QCOMPARE(media::sprayMist(0.0), 0.0);
    }

    void whatComesDownIntoWaterSplashes()
    {
        Store store;
        // From 2 m up at 5 m/s: in the water since a fifth of a second.
        scene::Project p = project(0.0, Vec3(0.f, 2.f, -10.f), Vec3(0.f, -0.5f, -10.f), 13);
        p.frame = 13;
        std::string told;
        const std::vector<Drop> drops = dropsOf(p, store, &told);
        QVERIFY2(drops.size() > 300, qPrintable(QString::number(drops.size())));
        QVERIFY(QString::fromStdString(told).contains("in the air, of"));
        // Around it and not through it, higher than it was, on all sides.
        int sides[4] = {0, 0, 0, 0};
        float highest = 0.f;
        for (const Drop& d : drops) {
            const float x = d.at.x, z = d.at.z + 10.f;
            highest = std::max(highest, d.at.y);
            ++sides[std::abs(x) > 0.5f * std::abs(z) ? (x > 0.f ? 0 : 1) : (z > 0.f ? 2 : 3)];
        }
        QVERIFY(highest > 0.4f);
        QVERIFY(highest < 3.f);
        for (const int n : sides)
            QVERIFY2(n > int(drops.size()) / 12, qPrintable(QString::number(n)));
        // The same by itself as after the frames before it.
        Store other;
        for (p.frame = 10; p.frame < 13; ++p.frame)
            (void)dropsOf(p, other);
        const std::vector<Drop> again = dropsOf(p, other);
        QCOMPARE(again.size(), drops.size());
        for (std::size_t i = 0; i < drops.size(); ++i)
            QVERIFY(again[i].at == drops[i].at);
        for (scene::Element& e : p.elements)
            if (e.kind->id == "openWater")
                e.set("spray", 0.0);
        QVERIFY(dropsOf(p, other).empty());
    }
    void whatIsLetDownSlowlyDoesNot()
    {
        Store store;
        QVERIFY(dropsOf(project(0.0, Vec3(0.f, 0.5f, -10.f), Vec3(0.f, -0.5f, -10.f), 50), store).empty());
        // Nor what comes down fast over it, and does not reach it.
        QVERIFY(dropsOf(project(0.0, Vec3(0.f, 4.f, -10.f), Vec3(0.f, 0.2f, -10.f), 13), store).empty());
    }
    void aFastBowThrowsItUp()
    {
        Store store;
        const std::vector<Drop> fast = dropsOf(project(0.0, Vec3(0.f, -0.4f, 10.f), Vec3(0.f, -0.4f, -14.f), 101),
                                               store);
        QVERIFY2(fast.size() > 100, qPrintable(QString::number(fast.size())));
        // At its bow, which has come to z = −16, and behind that.
        int ahead = 0, near = 0;
        for (const Drop& d : fast) {
            ahead += d.at.z < -19.f;
            near += std::abs(d.at.z + 15.f) < 3.f;
        }
        QVERIFY2(ahead < int(fast.size()) / 40, qPrintable(QString::number(ahead)));
        QVERIFY(near > int(fast.size()) / 2);
        QVERIFY(dropsOf(project(0.0, Vec3(0.f, -0.4f, 0.f), Vec3(0.f, -0.4f, -3.f), 101), store).empty());
    }
    void wavesRunUpAtWhatStands()
    {
        Store store;
        const Vec3 at(0.f, -0.6f, -10.f);
        QVERIFY(dropsOf(project(0.0, at, at, 50), store).empty());
        // Wind toward +X: at its side toward −X. Over a second or two, as waves come in.
        int windward = 0, lee = 0;
        for (int f = 1; f <= 100; f += 9) {
            scene::Project p = project(8.9, at, at, f);
            for (scene::Element& e : p.elements)
                if (e.kind->id == "openWater")
                    e.set("heading", 90.0);
            for (const Drop& d : dropsOf(p, store))
                if (std::abs(d.at.z + 10.f) < 3.5f && std::abs(d.at.x) < 4.f && d.age < 0.06f)
                    ++(d.at.x < -0.6f ? windward : lee);
        }
        QVERIFY2(windward > 200, qPrintable(QString::number(windward)));
        QVERIFY2(lee < windward / 2, qPrintable(QString::number(lee)));
    }
    void aLoopCloses()
    {
        Store store;
        const Vec3 at(0.f, -0.6f, -10.f);
        scene::Project p = project(14.0, at, at, 200);
        p.time.loop = 4.0;
        p.frame = 5;
        const std::vector<Drop> first = dropsOf(p, store);
        p.frame = 105;
        const std::vector<Drop> second = dropsOf(p, store);
        QVERIFY(!first.empty());
        QCOMPARE(first.size(), second.size());
        for (std::size_t i = 0; i < first.size(); ++i)
            QVERIFY((first[i].at - second[i].at).length() < 1e-3f);
    }
};

QTEST_GUILESS_MAIN(TestSpray)
#include "test_spray.moc"
