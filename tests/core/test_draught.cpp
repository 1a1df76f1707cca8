/// A fire's draught on banks of mist: against closed forms, against the simulation, and from a project to its picture's
/// air.
#include "base/random.h"
#include "elements/bake.h"
#include "elements/plume_parts.h"
#include "media/medium.h"
#include "scene/evaluate.h"
#include "sim/smoke/rising.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>

using namespace hygros;
using media::Draught;
using media::Draughts;
namespace fs = std::filesystem;

namespace {
float chance(std::uint32_t& seed) { return unitFloat(hash32(17u, seed++, 5u)); }
float modulationAt(const media::Noise& noise, const Draughts* draughts, const Vec3& p)
{
    const F8 x = f8(p.x), y = f8(p.y), z = f8(p.z);
    return (draughts ? media::drawnModulation8(noise, *draughts, x, y, z) : media::modulation8(noise, x, y, z))[0];
}
/// A fire on a disc of half a metre, and mist round it.
scene::Project burning(double draught)
{
    scene::Project p = elements::newProject();
    p.time.last = 40;
    scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
    plume.set("position", Vec3(2.f, 0.f, -3.f));
    plume.set("size", Vec3(3.2f, 5.f, 3.2f));
    plume.set("voxel", 0.1);
    plume.set("detail", std::string("shot"));
    plume.set("keeps", 0.0);
    plume.set("obstacles", false);
    plume.set("draught", draught);
    scene::Element& feed = p.add(*elements::findKind("feed"), "Coals");
    feed.set("plume", std::string("plume"));
    feed.set("form", std::string("disc"));
    feed.set("position", Vec3(2.f, 0.2f, -3.f));
    feed.set("size", Vec3(0.6f, 0.2f, 0.6f));
    feed.set("temperature", 700.0);
    feed.set("fuel", 0.0);
    feed.set("rate", 25.0);
    feed.set("contrast", 0.0);
    scene::Element& mist = p.add(*elements::findKind("fogBank"), "Mist");
    mist.set("visibility", 20.0);
    mist.set("top", 4.0);
    mist.set("base", -1.0);
    mist.set("scale", 1.5);
    mist.set("contrast", 0.8);
    mist.set("driftSpeed", 0.0);
    return p;
}
std::shared_ptr<const shot::Shot> frozen(scene::Project project, int frame, Store& store)
{
    JobControl job;
    project.frame = frame;
    return elements::freeze(project, store, job);
}
const media::Medium& mistOf(const shot::Shot& shot)
{
    for (const media::Medium& m : shot.media)
        if (m.shape == media::Shape::Layer)
            return m;
    throw std::runtime_error("no mist");
}
QString notesOf(const shot::Shot& shot)
{
    QString all;
    for (const shot::Note& n : shot.notes)
        all += QString::fromStdString(n.text) + "\n";
    return all;
}
} // namespace

class TestDraught : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    scene::Project fire_;

private Q_SLOTS:
    void initTestCase()
    {
        fire_ = burning(1.0);
        fire_.baked = fs::path(folder_.path().toStdString()) / "frames";
        Store store;
        JobControl job;
        FrameStore frames(fire_.baked);
        QCOMPARE(elements::bake(fire_, "plume", frames, store, job).baked, 40);
    }

    void aPatternComesFromWhereThatMuchAirWas()
    {
        // Air that is drawn level toward a middle by k/r was at √(r² + 2·k·t) a time t before.
        media::Noise noise;
        noise.scale = 40.f; // reaches far beyond the places that are looked at
        noise.contrast = 0.9f;
        Draughts d;
        d.fires.push_back({Vec3(3.f, 1.f, -2.f), 0.3f, {6.f, 6.f}, {0.f, 0.f}, 0.f, {}});
        std::uint32_t seed = 1;
        int moved = 0;
        for (int i = 0; i < 200; ++i) {
            const float turn = 6.2831853f * chance(seed), r = 0.5f + 6.f * chance(seed), up = 3.f * chance(seed);
            const Vec3 way(std::cos(turn), 0.f, std::sin(turn));
            const float height = up + d.fires[0].depth(), far = std::sqrt(r * r + 6.f * std::pow(height, 2.f / 3));
            const Vec3 at = d.fires[0].foot + Vec3(0.f, up, 0.f);
            const float drawn = modulationAt(noise, &d, at + way * r),
                        was = modulationAt(noise, nullptr, at + way * far);
            QVERIFY2(std::abs(drawn - was) < 0.01f, qPrintable(QString("%1 %2").arg(double(drawn)).arg(double(was))));
            moved += std::abs(drawn - modulationAt(noise, nullptr, at + way * r)) > 0.01f;
        }
        QVERIFY(moved > 100);
    }

    void itsMeanAndContrastStay()
    {
        media::Noise noise;
        noise.scale = 2.f;
        noise.contrast = 0.8f;
        for (const float turned : {0.f, 0.3f, 0.5f, 0.8f, 1.f}) {
            Draughts d;
            d.turned = turned;
            d.fires.push_back({Vec3(0.f), 0.3f, {0.6f, 1.8f}, {0.f, 0.4f}, 0.f, {}});
            std::uint32_t seed = 9;
            double sum = 0, sum2 = 0, plain = 0, plain2 = 0, most = 0;
            const int places = test::often(40000);
            for (int i = 0; i < places; ++i) {
                // Over a disc that the draught reaches, at any height: many cells of the pattern.
                const float turn = 6.2831853f * chance(seed), r = 1.f + 8.f * std::sqrt(chance(seed));
                const Vec3 at(r * std::cos(turn), 40.f * chance(seed), r * std::sin(turn));
                const double a = double(modulationAt(noise, &d, at)), b = double(modulationAt(noise, nullptr, at));
                sum += a, sum2 += a * a, plain += b, plain2 += b * b;
                most = std::max(most, a);
            }
            const double n = places, mean = sum / n, other = plain / n;
            qInfo("turned %.1f: mean %.3f (%.3f), deviation %.3f (%.3f)", double(turned), mean, other,
                  std::sqrt(sum2 / n - mean * mean), std::sqrt(plain2 / n - other * other));
            NEAR(mean, other, test::within(0.04));
            NEAR(std::sqrt(sum2 / n - mean * mean), std::sqrt(plain2 / n - other * other), test::within(0.1));
            QVERIFY(most <= double(media::modulationBound(noise)) + 1e-4);
        }
    }

    void warmAirDriesAMistAsThePlumeLawSays()
    {
        // 50 kW: B = g·Q/(ρ·cp·T).
        const double flux = 9.81 * 50e3 / (1.2 * 1005 * 288), sigma = 0.1;
        Draughts d;
        Draught fire;
        fire.radius = 0.3f;
        fire.warmth = float(std::pow(flux, 2.0 / 3) * double(Draught::warms) / (double(Draught::dries) * sigma));
        d.fires = {fire};
        const auto left = [&](float x, float y) { return double(media::undried8(d, f8(x), f8(y), f8(0.f))[0]); };
        for (const float y : {1.f, 4.f, 12.f, 30.f}) {
            // Even profiles of the law: radius, speed, and what warmth carries that flux.
            const double alpha = 0.12, h = double(y + fire.depth()), b = 1.2 * alpha * h;
            const double w = 5 / (6 * alpha) * std::cbrt(9 * alpha * flux / (10 * M_PI)) / std::cbrt(h);
            const double warmer = flux / (M_PI * b * b * w) * 288 / 9.81;
            NEAR(left(0.f, y), std::exp(-warmer / (20 * sigma)), 0.01);
            NEAR(left(float(b), y), std::exp(-warmer * std::exp(-1) / (20 * sigma)), 0.01);
        }
        NEAR(left(20.f, 2.f), 1.0, 1e-5);
        NEAR(left(0.f, -3.f), 1.0, 1e-3); // under it there is nothing warm
        // In a wind the warm air goes along.
        d.fires[0].lean = Vec2(0.5f, 0.f);
        QVERIFY(left(5.f, 4.f) < 0.9 && left(-5.f, 4.f) > 0.99);
    }

    void aGasSaysHowStronglyItRises()
    {
        sim::Lattice l;
        l.n = {32, 40, 32};
        l.h = 0.1f;
        l.origin = Vec3(-1.f, 2.f, 4.f);
        const auto gas = sim::Gas::still(l);
        gas->activity = sim::Activity::whole(l);
        // A column of half a metre, 144 K warmer, at 3 m/s, over the third level.
        const Vec3 middle(0.6f, 0.f, 5.6f);
        for (int z = 0; z < l.n[2]; ++z)
            for (int y = 3; y < l.n[1]; ++y)
                for (int x = 0; x < l.n[0]; ++x) {
                    const Vec3 off = l.middle(x, y, z) - middle;
                    if (off.x * off.x + off.z * off.z < 0.25f) {
                        gas->heat.data()[l.at(x, y, z)] = 144.f;
                        gas->y.data()[l.at(x, y, z)] = gas->y.data()[l.at(x, y + 1, z)] = 3.f;
                    }
                }
        const sim::Rising r = sim::risingOf(*gas, 288.f);
        NEAR(r.buoyancy, 9.81 * 144 / 432 * 3 * M_PI * 0.25, 0.03);
        NEAR(r.radius, 0.5, 0.03);
        QVERIFY((r.foot - Vec3(0.6f, 2.3f, 5.6f)).length() < 0.02f);
        QCOMPARE(sim::risingOf(*sim::Gas::still(l), 288.f).buoyancy, 0.0);
    }

    void itDrawsAsTheSimulationDoes()
    {
        // How much air a simulated plume takes in on its way up, by how much more goes through a higher level.
        sim::Lattice l;
        l.n = {40, 64, 40};
        l.h = 0.1f;
        l.origin = Vec3(-2.f, 0.f, -2.f);
        sim::GasStepper stepper(l);
        auto gas = sim::Gas::still(l);
        sim::GasSettings settings;
        settings.swirling = 0.3f;
        sim::Inflow in;
        in.heat = 300.f;
        in.rate = 30.f;
        for (int z = 0; z < l.n[2]; ++z)
            for (int x = 0; x < l.n[0]; ++x)
                if (const Vec3 at = l.middle(x, 1, z); std::hypot(at.x, at.z) < 0.35f)
                    in.cells.push_back({{std::int16_t(x), 1, std::int16_t(z)}, 1.f});
        const std::size_t fed = in.cells.size();
        double taken = 0.0, law = 0.0;
        const int frames = test::often(240);
        for (int i = 0; i < frames; ++i) {
            for (std::size_t k = 0; k < fed; ++k) // never quite even
                in.cells[k].second = 2.f * unitFloat(hash32(7u, std::uint32_t(k), std::uint32_t(i / 4)));
            auto next = stepper.step(*gas, settings, {in}, {}, 1.f / 24);
            stepper.recycle(*gas);
            gas = next;
            if (i < frames / 2)
                continue;
            const sim::Rising rising = sim::risingOf(*gas, 288.f);
            const auto through = [&](int y) {
                double sum = 0.0;
                for (int z = 0; z < l.n[2]; ++z)
                    for (int x = 0; x < l.n[0]; ++x)
                        sum += std::max(0.0, double(gas->y.data()[l.at(x, y, z)])) * 0.01;
                return sum;
            };
            taken += through(40) - through(15);
            const double depth = double(rising.radius / Draught::widens), foot = double(rising.foot.y);
            law += 2 * M_PI * double(Draught::draws) * 0.6 * std::cbrt(rising.buoyancy) *
                   (std::pow(4.0 - foot + depth, 5.0 / 3) - std::pow(1.5 - foot + depth, 5.0 / 3));
        }
        qInfo("takes in %.3f m3/s simulated, %.3f by the law", taken / (frames / 2), law / (frames / 2));
        if (!test::watched)
            QVERIFY(taken > 0.6 * law && taken < 1.6 * law);
    }

    void aBankNearAFireIsDrawnAndDriedAndTheRestLeft()
    {
        Store store;
        scene::Project off = fire_;
        off.find("plume")->set("draught", 0.0);
        const auto with = frozen(fire_, 40, store), without = frozen(off, 40, store);
        const media::Medium &a = mistOf(*with), &b = mistOf(*without);
        QCOMPARE(a.draughts.fires.size(), std::size_t{1});
        QVERIFY(!b.draughts.any());
        const Vec3 foot = a.draughts.fires[0].foot;
        QVERIFY((foot - Vec3(2.f, foot.y, -3.f)).length() < 0.15f && foot.y < 0.5f);
        // Over it hardly anything is left, a metre beside it all of it moved, ten cells away all as it was.
        double over = 0, overPlain = 0, beside = 0;
        for (int k = 0; k < 200; ++k) {
            const Vec3 p = foot + Vec3(0.f, 0.2f + 0.01f * float(k), 0.f);
            over += double(media::extinction(a, p));
            overPlain += double(media::extinction(b, p));
            const float turn = 6.2831853f * float(k) / 200;
            const Vec3 ring = foot + Vec3(2.f * std::cos(turn), 0.8f, 2.f * std::sin(turn));
            beside += std::abs(double(media::extinction(a, ring)) / double(b.sigmaT) -
                               double(media::extinction(b, ring)) / double(b.sigmaT)) /
                      200;
            const Vec3 away = foot + Vec3(15.f * std::cos(turn), 0.8f, 15.f * std::sin(turn));
            NEAR(media::extinction(a, away), media::extinction(b, away), 1e-4);
        }
        qInfo("over it %.3f of what was, beside it changed by %.3f", over / overPlain, beside);
        QVERIFY(over < 0.1 * overPlain);
        QVERIFY(beside > 0.03);
        // From frame to frame it moves on, evenly.
        const auto next = frozen(fire_, 39, store);
        QVERIFY(mistOf(*next).draughts.fires[0].drawn[0] != a.draughts.fires[0].drawn[0]);
        // Twice as strong by its number.
        scene::Project more = fire_;
        more.find("plume")->set("draught", 2.0);
        NEAR(mistOf(*frozen(more, 40, store)).draughts.fires[0].warmth, 2.0 * double(a.draughts.fires[0].warmth), 1e-4);
        // A fire that is shown at twice the pace draws twice as fast and is no warmer.
        scene::Project faster = fire_;
        faster.find("plume")->set("pace", 2.0);
        const auto fast = frozen(faster, 40, store);
        NEAR(mistOf(*fast).draughts.fires[0].warmth, a.draughts.fires[0].warmth, 1e-4);
        NEAR(mistOf(*fast).draughts.period, 0.5 * double(a.draughts.period), 1e-4);
    }

    void aLoopCloses()
    {
        Store store;
        scene::Project p = fire_;
        p.time.loop = 1.6;
        const auto first = frozen(p, 1, store), again = frozen(p, 41, store);
        const Draughts &a = mistOf(*first).draughts, &b = mistOf(*again).draughts;
        QVERIFY(a.any() && b.any());
        NEAR(p.time.loop / double(a.period), std::round(p.time.loop / double(a.period)), 1e-5);
        std::uint32_t seed = 3;
        for (int i = 0; i < 50; ++i) {
            const Vec3 at(2.f + 6.f * (chance(seed) - 0.5f), 3.f * chance(seed), -3.f + 6.f * (chance(seed) - 0.5f));
            NEAR(media::extinction(mistOf(*first), at), media::extinction(mistOf(*again), at), 1e-3);
        }
    }

    void whatIsNotThereIsSaid()
    {
        Store store;
        // Haze is left as it is.
        scene::Project haze = fire_;
        haze.remove("mist");
        scene::Element& even = haze.add(*elements::findKind("haze"), "Haze");
        QVERIFY(!even.id.empty());
        const auto shot = frozen(haze, 20, store);
        QVERIFY2(notesOf(*shot).contains("no bank of mist"), qPrintable(notesOf(*shot)));
        for (const media::Medium& m : shot->media)
            QVERIFY(!m.draughts.any());
        // Not baked: nothing is moved, and it is told that it is not baked.
        QTemporaryDir elsewhere;
        scene::Project bare = burning(1.0);
        bare.baked = fs::path(elsewhere.path().toStdString()) / "frames";
        const auto none = frozen(bare, 20, store);
        QVERIFY(!mistOf(*none).draughts.any());
        QVERIFY2(notesOf(*none).contains("baked", Qt::CaseInsensitive), qPrintable(notesOf(*none)));
    }
};

QTEST_GUILESS_MAIN(TestDraught)
#include "test_draught.moc"
