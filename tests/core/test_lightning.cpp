/// Lightning: how a channel winds and branches, when it flashes, how much light it gives.
#include "elements/kinds.h"
#include "light/lightning.h"
#include "render/live.h"
#include "render/still.h"
#include "support.h"

#include <cmath>

using namespace hygros;
using light::Bolt;

class TestLightning : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;

    static scene::Project night()
    {
        scene::Project p = elements::newProject();
        p.find("shot")->set("position", Vec3(0.f, 2.f, 0.f));
        p.find("shot")->set("aim", Vec3(0.f, 120.f, -600.f));
        p.find("sun")->muted = true;
        scene::Element& e = p.add(*elements::findKind("lightning"), "Strike");
        e.set("position", Vec3(30.f, 300.f, -600.f));
        e.set("aim", Vec3(0.f, 0.f, -600.f));
        e.set("first", 0.2);
        return p;
    }
    static double lightOf(const shot::Shot& shot)
    {
        double sum = 0.0;
        for (const light::Lamp& l : shot.lamps)
            sum += double(luminance(l.intensity)) / double(light::intensityPerFlux(l));
        return sum;
    }

private Q_SLOTS:
    void aChannelWindsAsWasMeasured()
    {
        for (const float winding : {8.f, 16.f, 24.f}) {
            double turn = 0.0;
            int count = 0;
            for (std::uint32_t seed = 1; seed < 40; ++seed) {
                const Vec3 from(0.f, 2000.f, 0.f), to(300.f, 0.f, -100.f);
                const Bolt bolt = light::boltBetween(from, to, 0.f, radians(double(winding)), seed);
                QCOMPARE(bolt.pieces.front().from, from);
                QCOMPARE(bolt.pieces.back().to, to);
                for (std::size_t i = 1; i < bolt.pieces.size(); ++i) {
                    const auto &a = bolt.pieces[i - 1], &b = bolt.pieces[i];
                    QCOMPARE(a.to, b.from);
                    turn += std::acos(
                        std::clamp(double((a.to - a.from).normalized().dot((b.to - b.from).normalized())), -1.0, 1.0));
                    ++count;
                }
                QVERIFY(bolt.length > (to - from).length() && bolt.length < 2.f * (to - from).length());
            }
            NEAR(turn / count * 180.0 / double(pi), winding, 0.15);
        }
    }

    void branchesHangOnItAndThinOut()
    {
        std::size_t few = 0, many = 0;
        for (std::uint32_t seed = 1; seed < 20; ++seed) {
            const Bolt none = light::boltBetween(Vec3(0.f, 1000.f, 0.f), Vec3(0.f), 0.f, 0.28f, seed),
                       some = light::boltBetween(Vec3(0.f, 1000.f, 0.f), Vec3(0.f), 1.f, 0.28f, seed),
                       more = light::boltBetween(Vec3(0.f, 1000.f, 0.f), Vec3(0.f), 2.f, 0.28f, seed);
            few += some.pieces.size();
            many += more.pieces.size();
            QVERIFY(std::all_of(none.pieces.begin(), none.pieces.end(), [](const auto& p) { return p.isMain; }));
            for (std::size_t i = 0; i < some.pieces.size(); ++i) {
                const auto& p = some.pieces[i];
                QVERIFY(p.isMain ? p.share == 1.f : p.share < 0.5f && p.share > 0.f);
                // Each goes on from another.
                const bool joined = i == 0 ||
                                    std::any_of(some.pieces.begin(), some.pieces.begin() + std::ptrdiff_t(i),
                                                [&](const auto& q) { return q.to == p.from || q.from == p.from; });
                QVERIFY(joined);
            }
        }
        QVERIFY(many > few);
        QVERIFY(light::boltBetween(Vec3(1.f), Vec3(1.f), 1.f, 0.3f, 1).pieces.empty());
    }

    void strokesAndStrikesComeInTheirTimes()
    {
        double strokes = 0.0, gap = 0.0;
        int gaps = 0;
        for (std::uint32_t seed = 0; seed < 2000; ++seed) {
            const auto all = light::strokesOf(1.0, 3.5, seed);
            QVERIFY(all[0].isFirst && all[0].at == 1.0 && all[0].share == 1.f);
            strokes += double(all.size());
            for (std::size_t i = 1; i < all.size(); ++i, ++gaps) {
                gap += all[i].at - all[i - 1].at;
                QVERIFY(all[i].at > all[i - 1].at && all[i].share < 1.f && !all[i].isFirst);
            }
        }
        NEAR(strokes / 2000.0, 3.5, 0.05);
        NEAR(gap / gaps, 0.06 * std::exp(0.125), 0.05);
        // A minute's mean is what was asked, whatever part is asked for.
        double count = 0.0;
        for (std::uint32_t seed = 0; seed < 200; ++seed)
            count += double(light::strikesBetween(0.0, 0.2, 0.0, 60.0, seed).size());
        NEAR(count / 200.0, 1.0 + 12.0, 0.05);
        const auto all = light::strikesBetween(2.0, 0.5, 0.0, 100.0, 3),
                   part = light::strikesBetween(2.0, 0.5, 30.0, 60.0, 3);
        for (const double t : part)
            QVERIFY(std::find(all.begin(), all.end(), t) != all.end());
        // All of a flash is seen in the frames that follow it.
        double sum = 0.0;
        for (int f = 0; f < 100; ++f)
            sum += light::flashBetween(0.04 * f - 0.03, 0.04 * f + 0.01, 0.05) * 0.04;
        NEAR(sum, 1.0, 1e-6);
    }

    void itsFramesGiveTheLightOfItsStrokes()
    {
        scene::Project p = night();
        scene::Element& e = *p.find("strike");
        e.set("strokes", 1.0);
        e.set("glow", 0.03);
        // The shutter is open all the time: nothing of it is lost.
        p.time.shutterAngle = 360.0;
        double joules = 0.0;
        int lit = 0;
        for (int f = 1; f <= 25; ++f) {
            p.frame = f;
            const auto shot = elements::freeze(p, store_, job_);
            const double now = lightOf(*shot);
            joules += now / p.time.rate.perSecond();
            lit += now > 0.0;
            QCOMPARE(shot->sparks.size(), std::size_t(now > 0.0 ? 1 : 0));
        }
        NEAR(joules, 350e3 * 0.35, 0.02);
        QVERIFY(lit > 1 && lit < 16);
        // None before it strikes.
        p.frame = 4;
        QCOMPARE(lightOf(*elements::freeze(p, store_, job_)), 0.0);
        // It flickers: with more strokes it is bright again later.
        e.set("strokes", 5.0);
        e.set("glow", 0.005);
        std::vector<double> all;
        for (int f = 5; f <= 25; ++f) {
            p.frame = f;
            all.push_back(lightOf(*elements::freeze(p, store_, job_)));
        }
        int rises = 0;
        for (std::size_t i = 1; i < all.size(); ++i)
            rises += all[i] > 2.0 * all[i - 1] + 1.0;
        QVERIFY(rises >= 2);
    }

    void itIsSeenWhereItIsAndLightsTheHaze()
    {
        scene::Project p = night();
        p.frame = 6;
        p.add(*elements::findKind("haze"), "Haze").set("visibility", 20000.0);
        const auto struck = elements::freeze(p, store_, job_);
        QVERIFY(!struck->sparks.empty() && struck->lamps.size() >= 4);
        const int w = 240, h = 160;
        render::StillSettings settings;
        settings.samples = 2;
        settings.width = w;
        settings.height = h;
        const render::Layers layers = render::renderStill({struck}, settings, job_);
        // Where its ends are there is light, far brighter than beside them.
        const geometry::View view(struck->camera, w, h);
        Vec2 low, high;
        float depth = 0.f;
        QVERIFY(view.project(Vec3(0.f, 0.f, -600.f), low, depth) &&
                view.project(Vec3(30.f, 300.f, -600.f), high, depth));
        const auto brightestIn = [&](int y, int x0, int x1) {
            float most = 0.f;
            int where = -1;
            for (int x = std::max(0, x0); x < std::min(w, x1); ++x)
                if (const float v = layers.air[(std::size_t(y) * std::size_t(w) + std::size_t(x)) * 3 + 1]; v > most) {
                    most = v;
                    where = x;
                }
            return std::pair(most, where);
        };
        const int row = int(0.5f * (low.y + high.y));
        const auto [bright, at] = brightestIn(row, 0, w);
        QVERIFY(std::abs(float(at) - 0.5f * (low.x + high.x)) < 40.f);
        const float beside = layers.air[(std::size_t(row) * std::size_t(w) + 3) * 3 + 1];
        QVERIFY(beside > 0.f && bright > 20.f * beside);
        // Thunder is told.
        QVERIFY(std::any_of(struck->notes.begin(), struck->notes.end(), [](const shot::Note& n) {
            return n.text.find("thunder 1.7") != std::string::npos && !n.isTrouble;
        }));
    }

    void anEditOfTheAirLooksAtNothingAnew()
    {
        // A strike is made at each freezing; where it comes to the same, the picture goes on.
        scene::Project p = night();
        p.frame = 6;
        scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
        haze.set("visibility", 20000.0);
        const auto before = elements::freeze(p, store_, job_), again = elements::freeze(p, store_, job_);
        QVERIFY(!before->sparks.empty());
        QVERIFY(render::changeBetween(*before, *again) == render::Change::None);
        p.find("haze")->set("visibility", 15000.0);
        QVERIFY(render::changeBetween(*before, *elements::freeze(p, store_, job_)) == render::Change::Air);
        p.find("strike")->set("energy", 200.0);
        QVERIFY(render::changeBetween(*before, *elements::freeze(p, store_, job_)) == render::Change::Light);
    }

    void endsInOnePlaceAreAnswered()
    {
        scene::Project p = night();
        p.find("strike")->set("aim", Vec3(30.f, 300.f, -600.f));
        p.frame = 6;
        const auto shot = elements::freeze(p, store_, job_);
        QVERIFY(shot->lamps.empty() && shot->sparks.empty());
        QVERIFY(shot->notes.front().text.find("one place") != std::string::npos);
    }
};

QTEST_GUILESS_MAIN(TestLightning)
#include "test_lightning.moc"
