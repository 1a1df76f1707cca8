/// Particles: how they fall, bounce, slide and lie; hail.
#include "base/error.h"
#include "base/random.h"
#include "elements/bake.h"
#include "elements/points_file.h"
#include "media/splash.h"
#include "render/rain.h"
#include "render/streaks.h"
#include "sim/air_lattice.h"
#include "sim/particles.h"
#include "support.h"

#include <QTemporaryDir>
#include <array>
#include <cmath>
#include <cstring>
#include <fstream>
#include <sstream>

using namespace hygros;
using namespace hygros::sim;
namespace fs = std::filesystem;

/// Within an amount.
#define WITHIN(value, wish, off)                                                                                       \
    QVERIFY2(std::abs(double(value) - double(wish)) <= double(off),                                                    \
             qPrintable(QString("%1 for %2").arg(double(value)).arg(double(wish))))

namespace {
constexpr double g = 9.81;

media::Particles some(const Vec3& place, const Vec3& half = Vec3(0.001f))
{
    media::Particles p;
    p.id = "particles";
    p.from.form = media::Feed::Form::Box;
    p.from.half = half;
    p.from.toWorld.setTranslation(place);
    p.rate = 50.f;
    return p;
}
/// A board 40 m wide that climbs to the east at an angle.
std::shared_ptr<const geometry::RayScene> board(double degrees, std::vector<geometry::PlacedSet>* placed = nullptr)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    const auto s = static_cast<float>(std::sin(degrees * 0.01745329)),
               c = static_cast<float>(std::cos(degrees * 0.01745329));
    geometry::Mesh mesh;
    for (const auto& [u, w] : {std::pair{-20.f, -20.f}, {20.f, -20.f}, {20.f, 20.f}, {-20.f, 20.f}}) {
        mesh.positions.push_back(Vec3(u * c, u * s, w));
        mesh.normals.push_back(Vec3(-s, c, 0.f));
    }
    mesh.indices = {0, 2, 1, 0, 3, 2};
    set->meshes = {mesh};
    set->materials.resize(1);
    for (const Vec3& p : mesh.positions)
        set->bounds.extendBy(p);
    const std::vector<geometry::PlacedSet> sets{{set, Mat4()}};
    if (placed)
        *placed = sets;
    JobControl job;
    return std::make_shared<geometry::RayScene>(sets, job);
}
std::shared_ptr<shot::Shot> shotWith(const media::Particles& p,
                                     std::shared_ptr<const geometry::RayScene> scene = test::emptyScene())
{
    auto shot = std::make_shared<shot::Shot>();
    shot->scene = std::move(scene);
    shot->airflow.particles = {p};
    return shot;
}
std::shared_ptr<const ParticleState> flown(const shot::Shot& shot, int steps, double seconds,
                                           const std::function<void(const ParticleState&)>& each = {})
{
    const ParticleSolver solver("particles");
    JobControl job;
    std::shared_ptr<const State> state = solver.begin(shot);
    for (int i = 0; i < steps; ++i) {
        state = solver.step(*state, shot, seconds, job);
        if (each)
            each(static_cast<const ParticleState&>(*state));
    }
    return std::static_pointer_cast<const ParticleState>(state);
}
} // namespace

class TestParticles : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    fs::path inside(const char* name) const { return fs::path(folder_.path().toStdString()) / name; }

private Q_SLOTS:
    void theyFallAsFastAsWeightAndDragHaveIt()
    {
        // Stokes: ρ·g·D²/(18·μ); Newton: the drag coefficient is 0.44.
        NEAR(media::terminalSpeed(false, 1000.f, 2e-5f), 1000.0 * g * 4e-10 / (18.0 * 1.8e-5), 0.012);
        NEAR(media::terminalSpeed(false, 900.f, 0.05f), std::sqrt(4.0 * 900.0 * g * 0.05 / (3.0 * 0.44 * 1.2)), 0.01);
        // Sand of 0.2 mm: within a tenth of R. I. Ferguson & M. Church's law for grains (2004), 1.46 m/s in air.
        NEAR(media::terminalSpeed(false, 2650.f, 2e-4f), 1.46, 0.1);
        // What is simulated comes to the same, whatever its step.
        for (const double dt : {0.01, 0.08})
            for (const bool flat : {false, true}) {
                media::Particles p = some(Vec3(0.f, 0.f, 0.f));
                p.flat = flat;
                p.weight = flat ? 0.1f : 900.f;
                p.size = 0.004f;
                const auto shot = shotWith(p);
                const double speed = double(media::terminalSpeed(flat, p.weight, p.size));
                int seen = 0;
                const auto state = flown(*shot, int(6.0 / dt), dt);
                for (std::size_t i = 0; i < state->moving.count; ++i)
                    if (state->moving.age[i] > 4.f) {
                        ++seen;
                        NEAR(state->moving.v[i], -speed, 0.01);
                    }
                QVERIFY(seen > 50);
            }
    }

    void whatIsHeavyFliesAsStonesDo()
    {
        media::Particles p = some(Vec3(0.f, 2.f, 0.f));
        p.size = 0.2f;
        p.weight = 20000.f;
        p.velocity = Vec3(6.f, 8.f, 0.f);
        const auto shot = shotWith(p);
        const auto state = flown(*shot, 25, 0.04);
        QCOMPARE(state->moving.count, std::size_t{50});
        for (std::size_t i = 0; i < state->moving.count; ++i) {
            const auto t = double(state->moving.age[i]);
            WITHIN(state->moving.x[i], 6.0 * t, 0.13); // it begins a radius off the middle
            WITHIN(state->moving.y[i], 2.0 + 8.0 * t - 0.5 * g * t * t, 0.13);
        }
    }

    void theWindTakesThemAlong()
    {
        media::Particles p = some(Vec3(0.f, 50.f, 0.f));
        p.flat = true;
        p.weight = 0.05f;
        auto shot = shotWith(p);
        media::Wind wind;
        wind.velocity = Vec3(7.f, 0.f, 0.f);
        wind.ground = -1000.f;
        shot->airflow.winds = {wind};
        const auto state = flown(*shot, 40, 0.05);
        for (std::size_t i = 0; i < state->moving.count; ++i)
            if (state->moving.age[i] > 1.5f)
                WITHIN(state->moving.u[i], wind.mean(state->moving.y[i]).x, 0.15);
        // A wind past all measure ends far away, not in numbers that are none.
        shot->airflow.winds[0].velocity = Vec3(1e4f, 0.f, 0.f);
        const auto gone = flown(*shot, 400, 0.05);
        for (std::size_t i = 0; i < gone->moving.count; ++i)
            QVERIFY(std::isfinite(gone->moving.x[i]) && std::abs(gone->moving.x[i]) <= 1e5f);
    }

    void theyLeapAgainByWhatTheyKeepOfTheirSpeed()
    {
        media::Particles p = some(Vec3(0.f, 2.f, 0.f));
        p.rate = 1.f / 0.01f;
        p.weight = 20000.f;
        p.size = 0.1f;
        p.bounce = 0.6f;
        const auto scene = board(0.0, &p.obstacles);
        const auto shot = shotWith(p, scene);
        // Its foot falls from 2 m, but for the radius that it begins off its middle, and comes to e²·2 m again.
        float highest = 0.f;
        bool hasLanded = false;
        std::uint32_t first = 0;
        flown(*shot, 1500, 0.001, [&](const ParticleState& s) {
            for (std::size_t i = 0; i < s.moving.count; ++i)
                if (s.moving.number[i] == 1) {
                    first = 1;
                    hasLanded = hasLanded || s.moving.v[i] > 0.f;
                    if (hasLanded)
                        highest = std::max(highest, s.moving.y[i] - 0.05f);
                }
        });
        QCOMPARE(first, 1u);
        WITHIN(highest, 0.36 * 1.95, 0.36 * 0.06);
    }

    void onASlopeTheySlideOrHold()
    {
        // Down a board of 30°: g·(sin − µ·cos); over 31° of friction nothing moves.
        for (const double friction : {0.2, 0.7}) {
            media::Particles p = some(Vec3(6.f, 6.f * 0.57735f + 0.06f, 0.f));
            p.weight = 20000.f;
            p.size = 0.05f;
            p.bounce = 0.f;
            p.friction = static_cast<float>(friction);
            p.rate = 100.f;
            const auto scene = board(30.0, &p.obstacles);
            const auto shot = shotWith(p, scene);
            const auto state = flown(*shot, 100, 0.01);
            if (friction > 0.6) {
                QVERIFY(state->lyingCount() > 50);
                for (const auto& list : state->lying)
                    for (const Lying& l : *list) {
                        WITHIN(l.place.x, 6.0, 0.3);
                        NEAR(facingOf(l.facing).y, std::cos(30.0 * 0.01745329), 0.01);
                    }
                continue;
            }
            QCOMPARE(state->lyingCount(), std::size_t{0});
            const double pull = g * (0.5 - friction * std::cos(30.0 * 0.01745329));
            for (std::size_t i = 0; i < state->moving.count; ++i)
                if (state->moving.age[i] > 0.6f) {
                    const double speed = std::hypot(double(state->moving.u[i]), double(state->moving.v[i]));
                    // It fell a few centimetres first.
                    QVERIFY2(std::abs(speed - pull * double(state->moving.age[i])) < 0.45,
                             qPrintable(QString("%1 for %2").arg(speed).arg(pull * double(state->moving.age[i]))));
                }
        }
    }

    void noneIsLostAndWhatLiesIsCounted()
    {
        media::Particles p = some(Vec3(0.f, 3.f, 0.f), Vec3(2.f, 1.f, 2.f));
        p.rate = 4000.f;
        p.flat = true;
        p.weight = 0.3f;
        p.bounce = 0.1f;
        p.ground = 0.f; // beyond the board of 40 m
        const auto shot = shotWith(p);
        const auto state = flown(*shot, 100, 0.05);
        QCOMPARE(state->moving.count + state->lyingCount(), std::size_t{20000});
        QVERIFY2(state->lyingCount() > 10000, qPrintable(QString::number(state->lyingCount())));
        QVERIFY(state->bytes() <= 20000u * 48u);
        for (const auto& list : state->lying)
            for (const Lying& l : *list)
                QVERIFY(std::abs(l.place.y) < 0.01f);
        // What lies goes after its time.
        media::Particles q = p;
        q.lies = 0.5f;
        const auto fewer = flown(*shotWith(q), 100, 0.05);
        QVERIFY(fewer->lyingCount() > 500 && fewer->lyingCount() < 2500); // 4000 a second for half a second
    }

    void theirSizesDifferAsTheyShould()
    {
        media::Particles p = some(Vec3(0.f), Vec3(1.f));
        p.rate = 20000.f;
        p.size = 0.01f;
        p.spread = 0.5f;
        const auto state = flown(*shotWith(p), 1, 1.0);
        double sum = 0.0, square = 0.0;
        for (std::size_t i = 0; i < state->moving.count; ++i) {
            const double l = std::log(double(state->moving.size[i]) / 0.01);
            sum += l;
            square += l * l;
        }
        const auto n = double(state->moving.count);
        WITHIN(sum / n, 0.0, 0.015);
        NEAR(std::sqrt(square / n), 0.5, 0.02);
    }

    void aLatticeGivesTheSameAir()
    {
        shot::Airflow airflow;
        media::Force f;
        f.half = Vec3(4.f);
        f.pattern = media::gustPattern(3.f, 7);
        f.speed = 2.f;
        airflow.forces = {f};
        media::Wind wind;
        wind.velocity = Vec3(3.f, 0.f, 0.f);
        airflow.winds = {wind};
        const AirMotion air{airflow, nullptr, nullptr};
        std::vector<float> x, y, z;
        Random random(3);
        for (int i = 0; i < 400000; ++i) {
            x.push_back(random.range(-2.f, 2.f));
            y.push_back(random.range(0.5f, 3.f));
            z.push_back(random.range(-2.f, 2.f));
        }
        const AirLattice lattice(air, std::array{Places{x, y, z}});
        QVERIFY(lattice.isUsed());
        double off = 0.0, all = 0.0;
        for (std::size_t i = 0; i < 8000; i += 8) {
            F8 a[3], b[3];
            lattice.at8(load8(&x[i]), load8(&y[i]), load8(&z[i]), a);
            air.at8(load8(&x[i]), load8(&y[i]), load8(&z[i]), b);
            for (int c = 0; c < 3; ++c) {
                const F8 d = a[c] - b[c], v = c == 0 ? b[c] - 3.f : b[c];
                off += double(sum(d * d));
                all += double(sum(v * v));
            }
        }
        QVERIFY2(std::sqrt(off / all) < 0.06, qPrintable(QString::number(std::sqrt(off / all))));
        // And one place by itself is what the shot's air says.
        const Vec3 p(x[0], y[0], z[0]), own = media::airAt(airflow.winds, airflow.forces, p);
        F8 direct[3];
        air.at8(f8(p.x), f8(p.y), f8(p.z), direct);
        for (int c = 0; c < 3; ++c)
            WITHIN(direct[c][0], own[c], 1e-4);
    }

    void whatIsWrittenComesBackAndNothingElse()
    {
        media::Particles p = some(Vec3(0.f, 1.f, 0.f), Vec3(1.f));
        p.rate = 300.f;
        p.ground = 0.f;
        const auto state = flown(*shotWith(p), 30, 0.05);
        QVERIFY(state->moving.count > 0 && state->lyingCount() > 0);
        const ParticleSolver solver("particles");
        const std::string bytes = solver.write(*state);
        const auto back = solver.read(bytes);
        QCOMPARE(solver.write(*back), bytes);
        QVERIFY_EXCEPTION_THROWN(solver.read(std::span(bytes).first(bytes.size() - 1)), Error);
        QVERIFY_EXCEPTION_THROWN(solver.read(std::span(bytes).first(3)), Error);
        std::string broken = bytes;
        broken[0] = char(broken[0] + 1);
        QVERIFY_EXCEPTION_THROWN(solver.read(broken), Error);
        broken = bytes;
        for (std::size_t i = 32; i < 36; ++i)
            broken[i] = char(0x7f); // a place past all measure
        QVERIFY_EXCEPTION_THROWN(solver.read(broken), Error);
    }

    void tooManyAndNowhereAreRefused()
    {
        media::Particles p = some(Vec3(0.f));
        p.rate = 1e9f;
        QVERIFY_EXCEPTION_THROWN(flown(*shotWith(p), 1, 0.04), Error);
        p.rate = 10.f;
        p.from.form = media::Feed::Form::Points;
        p.from.points = std::make_shared<std::vector<media::FeedPoint>>();
        QVERIFY_EXCEPTION_THROWN(flown(*shotWith(p), 10, 0.04), Error);
        QVERIFY_EXCEPTION_THROWN(ParticleSolver("other").begin(*shotWith(p)), Error);
    }

    void aBakeGoesOnToTheSameAndIsDrawn()
    {
        scene::Project p = elements::newProject();
        p.time.last = 12;
        p.find("shot")->set("position", Vec3(0.f, 1.5f, 6.f));
        p.find("shot")->set("aim", Vec3(0.f, 1.f, 0.f));
        scene::Element& e = p.add(*elements::findKind("particles"), "Particles");
        e.set("position", Vec3(0.f, 1.5f, 0.f));
        e.set("rate", 400.0);
        p.baked = inside("frames");
        Store store;
        JobControl job;
        FrameStore frames(p.baked);
        elements::BakeWishes half;
        half.last = 5;
        QCOMPARE(elements::bake(p, "particles", frames, store, job, half).baked, 5);
        QCOMPARE(elements::bake(p, "particles", frames, store, job).baked, 7);
        scene::Project q = p;
        q.baked = inside("at once");
        FrameStore atOnce(q.baked);
        QCOMPARE(elements::bake(q, "particles", atOnce, store, job).baked, 12);
        const auto bytesOf = [](const FrameStore& f) {
            const Payload payload = f.read("particles", 12);
            return std::string(payload.bytes().data(), payload.bytes().size());
        };
        QVERIFY(bytesOf(frames) == bytesOf(atOnce));
        p.frame = 12;
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->falling.size(), std::size_t{1});
        QVERIFY(shot->falling[0].all->size() > 150);
        const render::RainPicture picture(*shot, 320, 180);
        QVERIFY2(picture.drops() > 100, qPrintable(QString::number(picture.drops())));
        // As points for others: the same number in both forms.
        const std::size_t count = shot->falling[0].all->size();
        QCOMPARE(elements::exportPoints(p, "particles", inside("points.ply"), store, job), count);
        QCOMPARE(elements::exportPoints(p, "particles", inside("points.vdb"), store, job), count);
        std::ifstream file(inside("points.ply"), std::ios::binary);
        std::stringstream text;
        text << file.rdbuf();
        const std::string bytes = text.str(), end = "end_header\n";
        QVERIFY(bytes.find("element vertex " + std::to_string(count) + "\n") != std::string::npos);
        const std::size_t head = bytes.find(end) + end.size();
        QCOMPARE(bytes.size() - head, count * 36);
        float first[3];
        std::memcpy(first, bytes.data() + head, sizeof first);
        QCOMPARE(Vec3(first[0], first[1], first[2]), (*shot->falling[0].all)[0].at);
        QVERIFY(fs::file_size(inside("points.vdb")) > count * 20);
        QVERIFY_EXCEPTION_THROWN(elements::exportPoints(p, "particles", inside("points.obj"), store, job), Error);
        QVERIFY_EXCEPTION_THROWN(elements::exportPoints(p, "sun", inside("sun.ply"), store, job), Error);
        p.frame = 40;
        QVERIFY_EXCEPTION_THROWN(elements::exportPoints(p, "particles", inside("none.ply"), store, job), Error);
        QVERIFY(!fs::exists(inside("none.ply")));
        std::vector<float> rgb(320 * 180 * 3, 1.f);
        const auto before = rgb;
        picture.addTo(rgb);
        QVERIFY(rgb != before);
    }

    void objectsOfASetFlyAndLie()
    {
        // A brick of 0.2 × 0.1 × 0.1 and a slab that stays out of it, over a floor.
        std::ofstream(inside("brick.obj")) << "o brick\nv 5 0 5\nv 5.2 0 5\nv 5.2 0 5.1\nv 5 0 5.1\n"
                                              "v 5 0.1 5\nv 5.2 0.1 5\nv 5.2 0.1 5.1\nv 5 0.1 5.1\n"
                                              "f 4 3 2 1\nf 5 6 7 8\nf 1 2 6 5\nf 2 3 7 6\nf 3 4 8 7\nf 4 1 5 8\n"
                                              "o slab\nv 0 0 0\nv 3 0 0\nv 3 0 3\nf 9 10 11\n";
        std::ofstream(inside("floor.obj")) << "v -20 0 -20\nv 20 0 -20\nv 20 0 20\nv -20 0 20\nf 4 3 2 1\n";
        scene::Project p = elements::newProject();
        p.time.last = 40;
        p.find("shot")->set("position", Vec3(0.f, 1.5f, 6.f));
        p.find("shot")->set("aim", Vec3(0.f, 0.5f, 0.f));
        p.add(*elements::findKind("set"), "Floor").set("file", inside("floor.obj").string());
        scene::Element& brick = p.add(*elements::findKind("set"), "Bricks");
        brick.set("file", inside("brick.obj").string());
        brick.muted = true; // its own place does not matter
        scene::Element& e = p.add(*elements::findKind("particles"), "Rubble");
        e.set("position", Vec3(0.f, 2.f, 0.f));
        e.set("what", std::string("objects"));
        e.set("shown", brick.id);
        e.set("part", std::string("brick"));
        e.set("diameter", 0.3);
        e.set("spread", 0.0);
        e.set("rate", 50.0);
        p.baked = inside("rubble");
        Store store;
        JobControl job;
        FrameStore frames(p.baked);
        QCOMPARE(elements::bake(p, e.id, frames, store, job).baked, 40);
        p.frame = 40;
        const auto shot = elements::freeze(p, store, job);
        QVERIFY(shot->falling.empty());
        const auto state = sim::ParticleSolver(e.id).read(frames.read(e.id, 40).bytes());
        const auto& all = static_cast<const sim::ParticleState&>(*state);
        QVERIFY(all.moving.count > 10 && all.lyingCount() > 10);
        // Each is there once: twelve triangles of the brick and two of the floor.
        QCOMPARE(shot->scene->triangles(), (all.moving.count + all.lyingCount()) * 12 + 2);
        QVERIFY(shot->scene->moves());
        // One that lies is met where it lies, on the floor, and tells whose it is.
        int met = 0;
        for (const auto& some : all.lying)
            for (const sim::Lying& l : *some) {
                geometry::Hit hit;
                QVERIFY(shot->scene->trace(l.place + Vec3(0.f, 0.02f, 0.f), Vec3(0, -1, 0), 0.f, 10.f, hit));
                if (shot->setIds.at(hit.set).rfind(e.id, 0) == 0)
                    ++met;
                QVERIFY(hit.t < 0.18f);
            }
        QVERIFY(met > 5);
        // Flying ones turn, and are where they fly.
        for (std::size_t i = 0; i < all.moving.count; ++i) {
            const Vec3 at(all.moving.x[i], all.moving.y[i], all.moving.z[i]);
            geometry::Hit hit;
            QVERIFY(shot->scene->trace(at, Vec3(1, 0, 0), 0.f, 1.f, hit, 0.5f)); // from within it
            QVERIFY2(hit.t < 0.2f, qPrintable(QString::number(double(hit.t))));
        }
        // What flies is no obstacle to what is baked, and baking again comes to the same.
        for (const media::Particles& flying : shot->airflow.particles)
            QCOMPARE(flying.obstacles.size(), std::size_t{1});
        const std::string before(frames.read(e.id, 30).bytes().data(), frames.read(e.id, 30).bytes().size());
        frames.purge(e.id);
        elements::bake(p, e.id, frames, store, job);
        QVERIFY(before == std::string(frames.read(e.id, 30).bytes().data(), frames.read(e.id, 30).bytes().size()));
        // How they look does not turn the bake stale; what is not there is said.
        const auto says = [&](const char* words) {
            const auto now = elements::freeze(p, store, job);
            return std::any_of(now->notes.begin(), now->notes.end(), [&](const shot::Note& n) {
                return n.element == e.id && n.text.find(words) != std::string::npos;
            });
        };
        QVERIFY(says("Each is seen as an object") && !says("stale"));
        e.set("part", std::string());
        QVERIFY(!says("stale"));
        e.set("part", std::string("door"));
        QVERIFY(says("no object 'door'"));
        e.set("shown", std::string());
        QVERIFY(says("Choose the set"));
    }

    void oneUnderThePointerTellsOfItself()
    {
        shot::Shot shot;
        shot.scene = test::emptyScene();
        shot.camera.position = Vec3(0.f);
        shot.camera.aim = Vec3(0.f, 0.f, -10.f);
        media::Drop d{Vec3(0.5f, 0.2f, -4.f), Vec3(0.f, -3.f, 0.f), 0.05f};
        d.age = 2.5f;
        media::Falling f;
        f.id = "leaves";
        f.form = media::Falling::Form::Leaves;
        f.all = std::make_shared<std::vector<media::Drop>>(
            std::vector{d, media::Drop{Vec3(0.5f, 0.2f, -9.f), Vec3(0.f), 0.02f}});
        shot.falling = {f};
        const geometry::View view(shot.camera, 320, 180);
        Vec2 at;
        float depth = 0.f;
        QVERIFY(view.project(d.at, at, depth));
        const auto seen = render::dropAt(shot, 320, 180, at, 3.f);
        QVERIFY(seen);
        QCOMPARE(seen->element, std::string("leaves"));
        QCOMPARE(seen->drop.diameter, 0.05f);
        QCOMPARE(seen->drop.age, 2.5f);
        NEAR(seen->distance, double(d.at.length()), 1e-4);
        QVERIFY(!render::dropAt(shot, 320, 180, at + Vec2(60.f, 0.f), 3.f));
        // Of rain too: where a drop is drawn, one is found that falls as fast as it should.
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("rain"), "Rain").set("driftSpeed", 0.0);
        Store store;
        JobControl job;
        const auto rain = elements::freeze(p, store, job);
        int found = 0;
        for (int y = 20; y < 100; y += 16)
            for (int x = 10; x < 320; x += 16)
                if (const auto drop = render::dropAt(*rain, 320, 180, Vec2(float(x), float(y)), 2.f)) {
                    ++found;
                    NEAR(drop->drop.velocity.length(), double(media::rain::speed(drop->drop.diameter * 1e3f)), 0.12);
                }
        QVERIFY(found > 10);
    }

    void farAwayOneStandsForMany()
    {
        // A sheet of lying balls far away covers as much whether all are drawn or some that stand for all.
        shot::Shot shot;
        shot.scene = test::emptyScene();
        shot.camera.position = Vec3(0.f, 40.f, 0.f);
        shot.camera.aim = Vec3(0.f, 0.f, 0.01f);
        auto all = std::make_shared<std::vector<media::Drop>>();
        Random random(5);
        constexpr int count = 200000;
        for (int i = 0; i < count; ++i) {
            media::Drop d{Vec3(random.range(-5.f, 5.f), 0.f, random.range(-5.f, 5.f)), Vec3(0.f), 0.004f};
            d.own = hash32(static_cast<std::uint32_t>(i), 11u);
            d.lies = true;
            all->push_back(d);
        }
        media::Falling f;
        f.form = media::Falling::Form::Balls;
        f.all = all;
        shot.falling = {f};
        const int w = 320, h = 180;
        const render::RainPicture picture(shot, w, h);
        QVERIFY(picture.drops() > 1000 && picture.drops() < count / 3);
        double taken = 0.0;
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                taken += 1.0 - double(picture.transmittance(x, y));
        const geometry::View view(shot.camera, w, h);
        const double pixel = 40.0 * double(view.pixelAngle()), wish = count * 3.14159 * 4e-6 / (pixel * pixel);
        // Where they overlap less is taken than in sum: the sheet is 2.5 % covered.
        WITHIN(taken / wish, 1.0, 0.05);
    }

    void hailBringsWhatItShouldAndLeaps()
    {
        scene::Project p = elements::newProject();
        scene::Element& e = p.add(*elements::findKind("hail"), "Hail");
        e.set("rate", 60.0);
        e.set("size", 0.02);
        Store store;
        JobControl job;
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->falling.size(), std::size_t{1});
        const media::Falling& f = shot->falling[0];
        double brings = 0.0;
        for (const media::Falling::Class& c : f.classes)
            brings += double(c.number) * 3.14159265 / 6.0 * std::pow(double(c.diameter), 3.0) * double(c.speed);
        NEAR(brings * 3600.0 * 1000.0, 60.0, 0.05);
        // A leap: as high as its speed says, and it ends.
        media::Drop d{Vec3(0.f), Vec3(0.f)};
        float highest = 0.f;
        const float lasts = media::leapsLast(20.f, 0.3f);
        for (float age = 0.f; age < lasts; age += 0.005f)
            if (media::leapOf(Vec3(0.f), Vec3(0.f, 1.f, 0.f), Vec3(0.f, -20.f, 0.f), 0.02f, age, 0.3f, 9u, d)) {
                QVERIFY(d.at.y >= -1e-3f);
                highest = std::max(highest, d.at.y);
            }
        QVERIFY2(highest > 0.8f && highest < 2.3f, qPrintable(QString::number(highest))); // (6 m/s)²/2g is 1.83
        QVERIFY(
            !media::leapOf(Vec3(0.f), Vec3(0.f, 1.f, 0.f), Vec3(0.f, -20.f, 0.f), 0.02f, 1.2f * lasts, 0.3f, 9u, d));
    }
};

QTEST_GUILESS_MAIN(TestParticles)
#include "test_particles.moc"
