/// What floats: Archimedes, its metacentre, and its motion in waves.
#include "elements/buoy.h"
#include "elements/floats.h"
#include "elements/wakes.h"
#include "media/floating.h"
#include "media/open_water.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
using media::Floating;
using media::Hull;
namespace fs = std::filesystem;

namespace {
constexpr double turn = 6.283185307179586;
/// A box of 6 by 2 m, 1.6 m high, on its bottom at a height, as an OBJ file's text.
std::string box(float bottom)
{
    std::string text;
    for (int i = 0; i < 8; ++i)
        text += "v " + std::to_string(i & 1 ? 1.f : -1.f) + " " + std::to_string(i & 2 ? bottom + 1.6f : bottom) + " " +
                std::to_string(i & 4 ? 3.f : -3.f) + "\n";
    return text + "f 1 3 4 2\nf 5 6 8 7\nf 1 2 6 5\nf 3 7 8 4\nf 1 5 7 3\nf 2 4 8 6\n";
}
} // namespace

class TestFloating : public QObject {
    Q_OBJECT
    Store store_;
    JobControl job_;
    QTemporaryDir folder_;

    scene::Project project(double wind, double mass = 0.0, float bottom = -0.5f)
    {
        const fs::path file = fs::path(folder_.path().toStdString()) / ("box" + std::to_string(bottom) + ".obj");
        std::ofstream(file) << box(bottom);
        scene::Project p = elements::newProject();
        scene::Element& w = p.add(*elements::findKind("openWater"), "Sea");
        w.set("speed", wind);
        w.set("fetch", 2e4);
        scene::Element& s = p.add(*elements::findKind("set"), "Pontoon");
        s.set("file", file.string());
        s.set("floats", true);
        s.set("mass", mass);
        p.time.last = 200;
        return p;
    }
    std::optional<geometry::PlacedSet> placed(scene::Project p, double frame)
    {
        p.frame = frame;
        for (const scene::Element& e : p.elements)
            if (e.name == "Pontoon")
                return elements::placedSet(p, e, store_, job_);
        return std::nullopt;
    }
    static std::string told(const shot::Shot& shot, const char* words)
    {
        for (const shot::Note& n : shot.notes)
            if (n.text.find(words) != std::string::npos)
                return n.text;
        return {};
    }
    /// A hull of that box, `deep` under water.
    static Hull boxHull(double deep)
    {
        Hull h;
        h.volume = 12.0 * deep;
        h.area = 12.0;
        h.along = Vec2(0.f, 1.f);
        h.length = 6.0;
        h.beam = 2.0;
        h.buoyancy = 0.5 * deep;
        h.secondAlong = 2.0 * 216.0 / 12.0;
        h.secondAcross = 6.0 * 8.0 / 12.0;
        return h;
    }
    std::shared_ptr<const media::SwellModes> sea(double wind)
    {
        media::Swell s;
        s.wind = wind;
        s.fetch = 2e4;
        s.shortest = 0.3;
        return std::make_shared<const media::SwellModes>(s, 256, 3u, job_);
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(folder_.isValid()); }

    void aBoxIsSounded()
    {
        const auto set = [&] {
            const fs::path file = fs::path(folder_.path().toStdString()) / "sounded.obj";
            std::ofstream(file) << box(-0.5f);
            return geometry::importSet(file, job_);
        }();
        const geometry::RayScene scene({{set, Mat4()}}, job_);
        const Vec2 corner(-3.975f, -3.975f);
        const Hull h = media::hullOf(elements::draughtOf(scene, 0.f, corner, 160, 0.05f, false), 160, 0.05f, corner);
        const Hull wanted = boxHull(0.5);
        NEAR(h.volume, wanted.volume, 0.03);
        NEAR(h.area, wanted.area, 0.03);
        NEAR(h.length, 6.0, 0.02);
        NEAR(h.beam, 2.0, 0.03);
        NEAR(h.buoyancy, 0.25, 0.01);
        QVERIFY(std::abs(h.along.y) > 0.999f);
        // Its metacentre: B²/(12·T) over the middle of buoyancy.
        NEAR(h.rollArm(0.1), 4.0 / (12.0 * 0.5) - 0.25 - 0.1, 0.04);
    }

    void itSitsAsDeepAsItsWeightAsks_data()
    {
        QTest::addColumn<double>("mass");
        for (const double mass : {2400.0, 6000.0, 12000.0})
            QTest::newRow(qPrintable(QString::number(mass))) << mass;
    }
    void itSitsAsDeepAsItsWeightAsks()
    {
        QFETCH(double, mass);
        // In still water a box of 12 m² goes down by mass/(1000·12): Archimedes.
        const auto p = placed(project(0.0, mass), 1.0);
        QVERIFY(p.has_value());
        const Vec3 bottom = Vec3(0.f, -0.5f, 0.f) * p->toWorld;
        NEAR(double(-bottom.y), mass / 12000.0, 0.01);
        const auto shot = elements::freeze(project(0.0, mass), store_, job_);
        QVERIFY(told(*shot, "It floats").find("rolls in") != std::string::npos);
    }

    void aCameraThatGoesWithItLeansWithIt()
    {
        scene::Project p = project(9.0, 6000.0);
        std::string pontoon;
        for (const scene::Element& e : p.elements)
            if (e.name == "Pontoon")
                pontoon = e.id;
        const std::string camera = elements::cameraOf(p)->id;
        p.frame = 40;
        p.find(camera)->set("position", Vec3(0, 2, 0));
        p.find(camera)->set("aim", Vec3(0, 2, -10));
        p.find(camera)->set("roll", 3.0);
        const float before = elements::freeze(p, store_, job_)->camera.roll;
        NEAR(double(before), 3.0 * turn / 360.0, 1e-5);
        // Taken along, it stays as it stood at that frame, and leans with the pontoon at others.
        elements::setValue(p, camera, "follows", pontoon, store_);
        NEAR(double(elements::freeze(p, store_, job_)->camera.roll), double(before), 1e-4);
        float least = 9.f, most = -9.f;
        double first = 0.0;
        for (double frame = 40; frame < 120; frame += 10) {
            p.frame = frame;
            const geometry::Camera c = elements::freeze(p, store_, job_)->camera;
            const auto set = placed(p, frame);
            // The pontoon's deck stays where it is in the camera's picture.
            const geometry::View view(c, 100, 100);
            Vec3 deck;
            set->frame.multDirMatrix(Vec3(1, 0, 0), deck);
            const double tilt = std::atan2(double(deck.dot(view.up())), double(deck.dot(view.right())));
            if (frame == 40)
                first = tilt;
            QVERIFY(std::abs(tilt - first) < 1e-4);
            least = std::min(least, c.roll);
            most = std::max(most, c.roll);
        }
        QVERIFY2(most - least > 0.01f, qPrintable(QString::number(double(most - least))));
        // Set down again it stands as it stood last.
        const float last = elements::freeze(p, store_, job_)->camera.roll;
        elements::setValue(p, camera, "follows", std::string(), store_);
        NEAR(double(elements::freeze(p, store_, job_)->camera.roll), double(last), 1e-4);
    }

    void whatDoesNotFloatSaysSo()
    {
        QVERIFY(!told(*elements::freeze(project(0.0, 25000.0), store_, job_), "would sink").empty());
        QVERIFY(!told(*elements::freeze(project(0.0, 0.0, 2.f), store_, job_), "does not reach the water").empty());
        scene::Project dry = project(0.0);
        std::erase_if(dry.elements, [](const scene::Element& e) { return e.kind->id == "openWater"; });
        QVERIFY(!told(*elements::freeze(dry, store_, job_), "no water that it could float on").empty());
        scene::Project tall = project(0.0);
        for (scene::Element& e : tall.elements)
            if (e.name == "Pontoon")
                e.set("weightAt", 1.0);
        QVERIFY(!told(*elements::freeze(tall, store_, job_), "would turn over").empty());
    }

    void wavesAreTheFieldsOwn()
    {
        // Heights by its waves, against the field at the same places and times, loop and all.
        const auto modes = sea(8.0);
        for (const double loop : {0.0, 8.0}) {
            const Floating waves(*modes, Hull(), 0.0, loop, 1.0);
            double off = 0.0, all = 0.0;
            for (const double seconds : {0.0, 1.7, 5.3}) {
                const media::SwellField field(modes, media::SwellMoment{seconds, loop, 1.0}, job_);
                for (int i = 0; i < 40; ++i) {
                    const Vec2 at(static_cast<float>(i) * 3.7f, static_cast<float>(i % 7) * 5.1f);
                    const double own = waves.heights(at, seconds, 1.0, 1).front(),
                                 wanted = double(field.at(at.x, at.y, 0.f).height);
                    off += (own - wanted) * (own - wanted);
                    all += wanted * wanted;
                }
            }
            QVERIFY2(std::sqrt(off / all) < 0.16, qPrintable(QString::number(std::sqrt(off / all))));
        }
    }

    void heaveAnswersAtItsPeriod()
    {
        // In long waves it goes with the water; shaken at its own period it heaves the most, and that period is the
        // linear one, 2π·√(m/(ρ·g·A)) with the water that goes along.
        const Hull h = boxHull(0.5);
        const double with = 1000.0 * (0.5 * 12.0) + 1000.0 * turn / 16.0 * 4.0 * 6.0;
        NEAR(h.heavePeriod(), turn * std::sqrt(with / (1000.0 * 9.81 * 12.0)), 0.1);
        // A swell from elsewhere alone, longer and longer.
        const auto answer = [&](double length) {
            media::Swell s;
            s.wind = 0.0;
            s.otherHeight = 0.5;
            s.otherLength = length;
            s.shortest = 0.5;
            const media::SwellModes modes(s, 256, 5u, job_);
            const Floating body(modes, h, 0.2, 0.0, 1.0), water(modes, Hull(), 0.0, 0.0, 1.0);
            double own = 0.0, bare = 0.0;
            for (int i = 0; i < 300; ++i) {
                const double t = 0.37 * i;
                own += std::pow(double(body.at(Vec2(3.f, 4.f), Vec2(0.f), t).heave), 2.0);
                bare += std::pow(water.heights(Vec2(3.f, 4.f), t, 1.0, 1).front(), 2.0);
            }
            return std::sqrt(own / bare);
        };
        NEAR(answer(200.0), 1.0, 0.06);
        const double natural = 9.81 * std::pow(h.heavePeriod(), 2.0) / turn; // length of waves of that period
        QVERIFY(answer(0.4 * natural) < 0.5);                                // short ones pass under it
    }

    void itsDeckLeansWithTheWater()
    {
        // Small beside the waves it rides their slope, to which the field's normal agrees.
        const auto modes = sea(12.0);
        Hull chip;
        chip.volume = 1e-4;
        chip.area = 0.01;
        chip.length = chip.beam = 0.1;
        chip.buoyancy = 0.005;
        chip.secondAlong = chip.secondAcross = 0.1 * 0.001 / 12.0;
        const Floating body(*modes, chip, -0.02, 0.0, 1.0);
        double both = 0.0, own = 0.0, field2 = 0.0;
        const media::SwellField field(modes, media::SwellMoment{2.0, 0.0, 1.0}, job_);
        for (int i = 0; i < 60; ++i) {
            const Vec2 at(static_cast<float>(i) * 2.9f, 7.f);
            const media::SwellSample s = field.at(at.x, at.y, 0.6f); // of the longer ones
            const media::Afloat a = body.at(at, Vec2(0.f), 2.0);
            both += double(s.slopeX * a.slope.x + s.slopeZ * a.slope.y);
            own += double(a.slope.length2());
            field2 += double(s.slopeX * s.slopeX + s.slopeZ * s.slopeZ);
        }
        QVERIFY2(both / std::sqrt(own * field2) > 0.85, qPrintable(QString::number(both / std::sqrt(own * field2))));
        NEAR(own / field2, 1.0, 0.35);
    }

    void aBoatOfAProjectIsLifted()
    {
        // Over some frames the pontoon goes up and down, leans, and comes back after a loop; the same at any time
        // asked.
        scene::Project p = project(9.0);
        double low = 1e9, high = -1e9, lean = 0.0;
        for (int f = 1; f <= 120; f += 5) {
            const auto at = placed(p, f);
            QVERIFY(at.has_value());
            const Vec3 middle = Vec3(0.f, 0.f, 0.f) * at->toWorld;
            Vec3 up;
            at->toWorld.multDirMatrix(Vec3(0.f, 1.f, 0.f), up);
            low = std::min(low, double(middle.y));
            high = std::max(high, double(middle.y));
            lean = std::max(lean, double(std::hypot(up.x, up.z)));
            NEAR(up.length(), 1.f, 1e-4);
        }
        QVERIFY2(high - low > 0.1 && high - low < 3.0, qPrintable(QString::number(high - low)));
        QVERIFY(lean > 0.01 && lean < 0.7);
        p.time.loop = 2.0;
        const double rate = p.time.rate.perSecond();
        QVERIFY((placed(p, 1.0)->toWorld[3][1] - placed(p, 1.0 + 2.0 * rate)->toWorld[3][1]) == 0.f);
        QVERIFY(*placed(p, 17.0) == *placed(p, 17.0));
    }

    void aBuoyMeasuresWhatTheSpectrumSays()
    {
        scene::Project p = project(8.0);
        scene::Element& b = p.add(*elements::findKind("buoy"), "Buoy");
        b.set("position", Vec3(12.f, 0.f, -9.f));
        const auto wish = elements::buoyWish(p, b);
        QVERIFY(wish.has_value());
        const auto measured = elements::buoyMeasured(*wish, store_, job_);
        NEAR(measured->height, wish->swell.significantHeight(), 0.15);
        NEAR(measured->period, wish->swell.meanPeriod(), 0.15);
        const auto heights = elements::buoyHeights(*wish, store_, job_);
        QCOMPARE(heights.size(), std::size_t(200));
        QVERIFY(*std::max_element(heights.begin(), heights.end()) > 0.05);
        const auto shot = elements::freeze(p, store_, job_);
        QVERIFY(told(*shot, "the spectrum says").find("mean period") != std::string::npos);
        QVERIFY(!elements::buoyWish(p, p.elements.front()));
        std::erase_if(p.elements, [](const scene::Element& e) { return e.kind->id == "openWater"; });
        QVERIFY(!told(*elements::freeze(p, store_, job_), "no water that it could lie on").empty());
    }
};

QTEST_GUILESS_MAIN(TestFloating)
#include "test_floating.moc"
