/// The seam of simulations: a solver that counts, and the tracers.
#include "base/error.h"
#include "base/frame_store.h"
#include "sim/bake.h"
#include "sim/tracers.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <cstring>

using namespace hygros;
namespace fs = std::filesystem;

namespace {
/// Adds up the seconds it has been stepped, and remembers at which frames.
struct Count final : sim::State {
    double seconds = 0.0;
    std::int64_t steps = 0;
};
class Counter final : public sim::Solver {
public:
    std::shared_ptr<const sim::State> begin(const shot::Shot&) const override { return std::make_shared<Count>(); }
    std::shared_ptr<const sim::State> step(const sim::State& from, const shot::Shot&, double seconds,
                                           JobControl& job) const override
    {
        if (cancelAt > 0 && ++taken == cancelAt)
            job.cancel();
        auto next = std::make_shared<Count>(static_cast<const Count&>(from));
        next->seconds += seconds;
        ++next->steps;
        return next;
    }
    int stepsAFrame(const sim::State&, const shot::Shot&, double) const override { return pieces; }
    std::string write(const sim::State& state) const override
    {
        const auto& c = static_cast<const Count&>(state);
        std::string bytes(16, '\0');
        std::memcpy(bytes.data(), &c.seconds, 8);
        std::memcpy(bytes.data() + 8, &c.steps, 8);
        return bytes;
    }
    std::shared_ptr<const sim::State> read(std::span<const char> bytes) const override
    {
        if (bytes.size() != 16)
            throw inputError("Reading", "count", "it is not one");
        auto c = std::make_shared<Count>();
        std::memcpy(&c->seconds, bytes.data(), 8);
        std::memcpy(&c->steps, bytes.data() + 8, 8);
        return c;
    }
    int pieces = 1, cancelAt = 0;
    mutable int taken = 0;
};

std::shared_ptr<shot::Shot> airOf(const media::Wind& wind, const media::Tracers& tracers)
{
    auto s = std::make_shared<shot::Shot>();
    s->scene = test::emptyScene();
    s->airflow.winds = {wind};
    s->airflow.tracers = {tracers};
    return s;
}
media::Wind evenWind(const Vec3& velocity)
{
    media::Wind w;
    w.velocity = velocity;
    w.pattern = media::gustPattern(10.f, 1);
    return w;
}
} // namespace

class TestSolver : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    sim::BakeOrder order(int last = 10) const
    {
        sim::BakeOrder o;
        o.element = "count";
        o.last = last;
        o.frameSeconds = 0.5;
        o.shotAt = [this](double frame) {
            asked_.push_back(frame);
            return std::make_shared<shot::Shot>();
        };
        o.originsAt = [](int) { return Origins{{"what", 1}}; };
        return o;
    }
    Count kept(const FrameStore& store, int frame) const
    {
        return static_cast<const Count&>(*Counter().read(store.read("count", frame).bytes()));
    }
    mutable std::vector<double> asked_;

private Q_SLOTS:
    void stepsAndPreRollAddUpToTheTime()
    {
        FrameStore store(fs::path(folder_.path().toStdString()) / "steps");
        Counter counter;
        counter.pieces = 4;
        sim::BakeOrder o = order();
        o.first = -2;
        o.last = 3;
        o.preRoll = 6;
        JobControl job;
        QCOMPARE(sim::bake(counter, o, store, job).baked, 6);
        NEAR(kept(store, -2).seconds, 3.0, 1e-9); // six frames of half a second before
        QCOMPARE(kept(store, -2).steps, std::int64_t{24});
        NEAR(kept(store, 3).seconds, 5.5, 1e-9);
        // No frame of the pre-roll is kept, and shots between frames were asked for.
        QCOMPARE(store.contents().at(0).frames.front(), -2);
        QVERIFY(std::find(asked_.begin(), asked_.end(), -2.75) != asked_.end());
        QCOMPARE(job.progress(), 1.f);
    }

    void whatIsCancelledGoesOnFromItsLastFrame()
    {
        FrameStore store(fs::path(folder_.path().toStdString()) / "cancel");
        Counter counter;
        counter.cancelAt = 5;
        {
            JobControl job;
            QVERIFY_THROWS_EXCEPTION(Cancelled, sim::bake(counter, order(), store, job));
        }
        const int done = static_cast<int>(store.contents().at(0).frames.size());
        QVERIFY(done >= 5 && done <= 6);
        counter.cancelAt = 0;
        JobControl job;
        const auto rest = sim::bake(counter, order(), store, job);
        QCOMPARE(rest.resumedAfter, done);
        QCOMPARE(rest.baked, 10 - done);
        NEAR(kept(store, 10).seconds, 4.5, 1e-9);
    }

    void aShorterBakeIsNotALostOne()
    {
        FrameStore store(fs::path(folder_.path().toStdString()) / "shorter");
        JobControl job;
        sim::bake(Counter(), order(8), store, job);
        QCOMPARE(sim::bake(Counter(), order(3), store, job).baked, 0);
        QCOMPARE(store.contents().at(0).frames.size(), std::size_t{8});
        QCOMPARE(sim::freshFrom(store, order(20)), 8);
        // A gap in the middle: all after it is stepped again.
        store.remove("count", 4);
        QCOMPARE(sim::bake(Counter(), order(8), store, job).baked, 5);
    }

    void tracersAreEvenlySpreadAndReborn()
    {
        media::Tracers t;
        t.id = "dots";
        t.centre = Vec3(0.f, 50.f, 0.f);
        t.half = Vec3(10.f, 5.f, 20.f);
        t.count = 8000;
        t.life = 2.f;
        const auto shot = airOf(evenWind(Vec3(1.f, 0.f, 0.f)), t);
        const sim::TracerSolver solver("dots");
        auto state = solver.begin(*shot);
        const auto points = [&] { return static_cast<const sim::TracerState&>(*state).points; };
        Vec3 mean(0.f);
        for (const auto& p : points()) {
            for (int axis = 0; axis < 3; ++axis)
                QVERIFY(std::abs(p.place[axis] - t.centre[axis]) <= t.half[axis]);
            mean += (p.place - t.centre) / 8000.f;
        }
        QVERIFY(mean.length() < 0.5f);
        JobControl job;
        std::size_t reborn = 0;
        for (int i = 0; i < 25; ++i)
            state = solver.step(*state, *shot, 0.04, job);
        for (const auto& p : points()) {
            QVERIFY(p.age >= 0.f && p.age < t.life);
            reborn += p.lives > 0;
        }
        // A second of two: half of them, since not all began at once.
        NEAR(double(reborn) / 8000.0, 0.5, 0.05);
    }

    void whatIsBlownFarAwayComesBackAndNothingGoesUnderground()
    {
        media::Tracers t;
        t.id = "dots";
        t.centre = Vec3(0.f, 2.f, 0.f);
        t.half = Vec3(5.f, 2.f, 5.f);
        t.count = 500;
        t.life = 1e6f;
        media::Wind gale = evenWind(Vec3(40.f, 0.f, 0.f));
        gale.gusts = 12.f;
        const auto shot = airOf(gale, t);
        const sim::TracerSolver solver("dots");
        auto state = solver.begin(*shot);
        QVERIFY(solver.stepsAFrame(*state, *shot, 0.04) > 1);
        JobControl job;
        for (int i = 0; i < 60; ++i)
            state = solver.step(*state, *shot, 0.04, job);
        for (const auto& p : static_cast<const sim::TracerState&>(*state).points) {
            QVERIFY(std::abs(p.place.x) <= 15.f && std::abs(p.place.z) <= 15.f);
            QVERIFY(p.place.y >= 0.f);
        }
        // The same again is the same to the bit.
        auto other = solver.begin(*shot);
        for (int i = 0; i < 60; ++i)
            other = solver.step(*other, *shot, 0.04, job);
        QCOMPARE(solver.write(*other), solver.write(*state));
        QCOMPARE(solver.write(*solver.read(solver.write(*state))), solver.write(*state));
    }

    void damagedStatesAreRefused()
    {
        const sim::TracerSolver solver("dots");
        const auto read = [&](const std::string& bytes) { return solver.read({bytes.data(), bytes.size()}); };
        THROWS_SAYING(read(""), "not what was written");
        THROWS_SAYING(read(std::string(7, 'x')), "not what was written");
        THROWS_SAYING(read(std::string(8, '\x7f')), "not what was written");
        std::string one(28, '\0');
        one[0] = 1;
        const float nan = std::nanf("");
        std::memcpy(one.data() + 12, &nan, 4);
        THROWS_SAYING(read(one), "not a number");
        // An element that is not in the shot.
        THROWS_SAYING(solver.begin(shot::Shot()), "it is muted, or there is no such element");
    }
};
QTEST_APPLESS_MAIN(TestSolver)
#include "test_solver.moc"
