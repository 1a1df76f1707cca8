/// Embers: how they fly, what carries them, and how they are drawn.
#include "elements/bake.h"
#include "light/blackbody.h"
#include "render/frame.h"
#include "render/sparks.h"
#include "sim/embers.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>

using namespace hygros;
using namespace hygros::sim;
namespace fs = std::filesystem;

namespace {
/// Air that moves alike everywhere.
struct Even final : media::Carrier {
    explicit Even(Vec3 v) : velocity(v) {}
    Vec3 at(const Vec3&) const override { return velocity; }
    Vec3 velocity;
};
std::shared_ptr<shot::Shot> shotWith(media::Embers e,
                                     std::shared_ptr<const geometry::RayScene> scene = test::emptyScene())
{
    auto shot = std::make_shared<shot::Shot>();
    shot->scene = std::move(scene);
    e.id = "embers";
    if (e.feeds.empty()) {
        media::Feed f;
        f.form = media::Feed::Form::Ball;
        f.half = Vec3(0.1f);
        f.toWorld.setTranslation(Vec3(2.f, 1.f, 3.f));
        e.feeds = {f};
    }
    shot->airflow.embers = {e};
    return shot;
}
std::vector<EmberState::Ember> flown(const shot::Shot& shot, int steps, double seconds)
{
    const EmberSolver solver("embers");
    JobControl job;
    std::shared_ptr<const State> state = solver.begin(shot);
    for (int i = 0; i < steps; ++i)
        state = solver.step(*state, shot, seconds, job);
    return static_cast<const EmberState&>(*state).embers;
}
/// A spark a hand's breadth before a dark camera.
shot::Shot dark(const media::Spark& spark, float blur = 0.f)
{
    shot::Shot shot;
    shot.scene = test::emptyScene();
    shot.camera.position = Vec3(0.f);
    shot.camera.aim = Vec3(0.f, 0.f, -10.f);
    shot.sparks.push_back({"embers", std::make_shared<const media::SparkList>(std::vector{spark}, blur)});
    return shot;
}
double sumOf(const std::vector<float>& rgb)
{
    double sum = 0.0;
    for (std::size_t i = 0; i < rgb.size(); i += 3)
        sum += double(rgb[i]);
    return sum;
}
} // namespace

class TestEmbers : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    fs::path inside(const char* name) const { return fs::path(folder_.path().toStdString()) / name; }

private Q_SLOTS:
    void asManyAreBornAsWasAskedAndTheyGoOut()
    {
        media::Embers e;
        e.rate = 100.f;
        e.life = 1.f;
        e.scatter = 0.f;
        const auto shot = shotWith(e);
        QCOMPARE(flown(*shot, 5, 0.04).size(), std::size_t{20}); // the youngest of all live 0.4 s
        // Lives are even between 0.4 and 1.6 of the mean: their number settles at rate times mean.
        const auto many = flown(*shot, 100, 0.04);
        QVERIFY2(std::abs(double(many.size()) - 100.0) < 12.0, qPrintable(QString::number(many.size())));
        for (const auto& one : many)
            QVERIFY(one.age < one.life && one.life >= 0.4f && one.life <= 1.6f);
        // Born where the fire is fed.
        for (const auto& one : flown(*shot, 1, 0.0101))
            QVERIFY((one.place - Vec3(2.f, 1.f, 3.f)).length() < 0.1f + 0.002f);
    }

    void aloneTheyFallAsFastAsTheyShould()
    {
        media::Embers e;
        e.rate = 20.f;
        e.life = 100.f;
        e.scatter = 0.f;
        e.fall = 0.7f;
        const auto shot = shotWith(e);
        for (const auto& one : flown(*shot, 50, 0.05)) {
            if (one.age < 0.6f)
                continue;
            NEAR(one.velocity.y, -0.7, 1e-3);
            // From rest by dv/dt = −g − v·g/fall: y = −fall·(t − τ·(1 − e^(−t/τ))).
            const double tau = 0.7 / 9.81,
                         way = 0.7 * (double(one.age) - tau * (1.0 - std::exp(-double(one.age) / tau)));
            QVERIFY(std::abs(double(one.place.y) - 1.0 + way) < 0.1 + 0.01);
        }
    }

    void thePlumeAndTheWindCarryThem()
    {
        media::Embers e;
        e.rate = 20.f;
        e.life = 100.f;
        e.scatter = 0.f;
        e.fall = 0.1f;
        e.pace = 2.f;
        e.before = std::make_shared<Even>(Vec3(0.f, 1.f, 0.f));
        e.after = std::make_shared<Even>(Vec3(0.f, 3.f, 0.f));
        e.frame = 10.25;
        e.frameBefore = 10.0;
        auto shot = shotWith(e);
        media::Wind wind;
        wind.velocity = Vec3(0.5f, 0.f, 0.f);
        wind.reference = 1.f;
        wind.ground = -1000.f;
        shot->airflow.winds = {wind};
        for (const auto& one : flown(*shot, 30, 0.04))
            if (one.age > 0.3f) {
                NEAR(one.velocity.y, 2.0 * 1.5 - 0.1, 1e-3);
                NEAR(one.velocity.x, wind.mean(one.place.y).x, 0.02);
            }
    }

    void whereTheyLandTheyStay()
    {
        media::Embers e;
        e.rate = 30.f;
        e.life = 100.f;
        e.fall = 1.f;
        e.scatter = 0.5f;
        const auto shot = shotWith(e, test::plate(0.25f, 50.f));
        int landed = 0;
        for (const auto& one : flown(*shot, 100, 0.04)) {
            QVERIFY(one.place.y > 0.25f);
            landed += int(one.hasLanded);
            if (one.hasLanded)
                QVERIFY(one.place.y < 0.26f && one.velocity.length() == 0.f);
        }
        QVERIFY(landed > 50);
    }

    void aBakeRidesThePlumesFrames()
    {
        scene::Project p = elements::newProject();
        p.time.last = 8;
        scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
        plume.set("size", Vec3(1.2f, 1.6f, 1.2f));
        plume.set("voxel", 0.05);
        plume.set("detail", std::string("preview"));
        scene::Element& feed = p.add(*elements::findKind("feed"), "Coals");
        feed.set("plume", std::string("plume"));
        feed.set("temperature", 1300.0);
        scene::Element& embers = p.add(*elements::findKind("embers"), "Embers");
        embers.set("rate", 400.0);
        embers.set("scatter", 0.0);
        embers.set("fall", 0.05);
        p.baked = inside("frames");
        Store store;
        JobControl job;
        const auto says = [&](const char* words) {
            const auto shot = elements::freeze(p, store, job);
            return std::any_of(shot->notes.begin(), shot->notes.end(), [&](const shot::Note& n) {
                return n.element == "embers" && n.text.find(words) != std::string::npos;
            });
        };
        QVERIFY(says("Choose the plume"));
        p.find("embers")->set("plume", std::string("plume"));
        p.frame = 8;
        QVERIFY(says("not baked"));
        FrameStore frames(p.baked);
        QCOMPARE(elements::bake(p, "embers", frames, store, job).baked, 8);
        // The plume came first, by itself.
        QCOMPARE(elements::bakedSpan(p, "plume", frames, store).count(FrameStore::State::Fresh), 8);
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->sparks.size(), std::size_t{1});
        float highest = 0.f;
        for (const media::Spark& s : shot->sparks[0].all->all()) {
            highest = std::max(highest, s.velocity.y);
            QVERIFY(s.radiance.x > s.radiance.y && s.radiance.y > s.radiance.z); // red before all
        }
        QVERIFY2(highest > 0.3f, qPrintable(QString::number(highest))); // it rises with the gas
        // How they look is no part of it; what carries them is.
        const auto state = [&] { return elements::bakedSpan(p, "embers", *elements::frameStoreOf(p, store), store); };
        p.find("embers")->set("temperature", 1800.0);
        QCOMPARE(state().count(FrameStore::State::Fresh), 8);
        p.find("coals")->set("fuel", 0.4);
        QCOMPARE(state().count(FrameStore::State::Fresh), 0);
        QVERIFY(state().why.find("the bake of plume") != std::string::npos ||
                state().why.find("coals.fuel") != std::string::npos);
        // The same whether it was stopped or not.
        FrameStore parts(inside("parts"));
        elements::bake(p, "embers", parts, store, job, {4});
        elements::bake(p, "embers", parts, store, job);
        FrameStore whole(inside("whole"));
        elements::bake(p, "embers", whole, store, job);
        const Payload a = whole.read("embers", 8), b = parts.read("embers", 8);
        QVERIFY(std::equal(a.bytes().begin(), a.bytes().end(), b.bytes().begin(), b.bytes().end()));
    }

    void damagedOnesAreRefused()
    {
        const EmberSolver solver("embers");
        auto state = std::make_shared<EmberState>();
        state->embers.resize(3);
        state->born = 7.5;
        const std::string bytes = solver.write(*state);
        const auto read = [&](const std::string& b) { return solver.read(std::span<const char>(b.data(), b.size())); };
        QCOMPARE(static_cast<const EmberState&>(*read(bytes)).born, 7.5);
        QCOMPARE(static_cast<const EmberState&>(*read(bytes)).embers.size(), std::size_t{3});
        for (std::size_t cut = 0; cut < bytes.size(); cut += 7)
            THROWS_SAYING(read(bytes.substr(0, cut)), "not what was written");
        std::string wrong = bytes;
        const float nan = std::nanf("");
        std::memcpy(wrong.data() + 16, &nan, sizeof nan);
        THROWS_SAYING(read(wrong), "not a number");
        media::Embers many;
        many.rate = 1e6f;
        many.life = 60.f;
        THROWS_SAYING(flown(*shotWith(many), 1, 0.04), "half a million");
    }

    void aSparkSendsWhatItsSurfaceSends()
    {
        media::Spark spark;
        spark.at = Vec3(0.01f, 0.02f, -2.f);
        spark.radius = 0.002f;
        spark.radiance = Vec3(100.f);
        // In pixels its disc has the area π·(r ÷ d ÷ pixel)², however small it is and wherever it stands.
        for (const int width : {320, 960}) {
            const int height = width / 2;
            const double pixel = 36.0 / 35.0 / width, area = double(pi) * std::pow(0.002 / 2.0 / pixel, 2.0);
            std::vector<float> still(std::size_t(width * height * 3), 0.f), moved = still;
            render::SparkPicture(dark(spark), width, height).addTo(still);
            NEAR(sumOf(still), 100.0 * area, 1e-3);
            // Along a streak the same light is spread out.
            spark.velocity = Vec3(4.f, -1.f, 0.f);
            render::SparkPicture(dark(spark, 0.02f), width, height).addTo(moved);
            NEAR(sumOf(moved), 100.0 * area, 1e-3);
            QVERIFY(*std::max_element(moved.begin(), moved.end()) <
                    0.5f * *std::max_element(still.begin(), still.end()));
            const double wide = std::hypot(4.0, 1.0) * 0.02 / 2.0 / pixel;
            int lit = 0;
            for (std::size_t i = 0; i < moved.size(); i += 3)
                lit += moved[i] > 0.f;
            QVERIFY2(lit > wide && lit < 6.0 * wide + 20.0, qPrintable(QString("%1 for %2").arg(lit).arg(wide)));
            spark.velocity = Vec3(0.f);
        }
    }

    void aRayFindsThoseThatItMeets()
    {
        // The same as asking each by itself, and over all directions each gives what its disc does.
        Random random(7);
        const auto any = [&](float half) {
            return Vec3(random.range(-half, half), random.range(-half, half), random.range(-half, half));
        };
        std::vector<media::Spark> all;
        for (int i = 0; i < 400; ++i) {
            media::Spark s{any(5.f), i % 3 ? any(20.f) : Vec3(0.f), random.range(0.001f, 0.2f), any(1.f)};
            for (int c = 0; c < 3; ++c)
                s.radiance[c] = std::abs(s.radiance[c]);
            all.push_back(s);
        }
        const media::SparkList list(all, 0.1f);
        QVERIFY(list == media::SparkList(all, 0.1f) && !(list == media::SparkList(all, 0.2f)));
        int met = 0;
        for (int i = 0; i < 3000; ++i) {
            const Vec3 o = any(8.f), d = any(1.f).normalized();
            const float limit = random.range(1.f, 20.f), angle = i % 2 ? 0.f : 0.004f;
            Vec3 sum(0.f);
            float at = -1.f, own = 0.f;
            for (const media::Spark& s : all)
                sum += media::SparkList({s}, 0.1f).along(o, d, limit, angle, 3.f, own);
            const Vec3 found = list.along(o, d, limit, angle, 3.f, at);
            for (int c = 0; c < 3; ++c)
                NEAR(found[c], sum[c], 1e-4);
            met += sum.x > 0.f;
            QVERIFY((sum.x > 0.f) == (at >= 0.f) && at < limit);
        }
        QVERIFY2(met > 100, qPrintable(QString::number(met)));
        // A picture of one at 4 m, thinner and thicker than a ray is wide.
        for (const float radius : {0.001f, 0.05f}) {
            const media::SparkList one({{Vec3(0.f, 0.f, -4.f), Vec3(3.f, 2.f, 0.f), radius, Vec3(10.f)}}, 0.1f);
            constexpr float step = 0.0008f;
            double whole = 0.0;
            for (float x = -0.1f; x < 0.1f; x += step)
                for (float y = -0.1f; y < 0.1f; y += step) {
                    float at = 0.f;
                    whole += double(one.along(Vec3(0.f), Vec3(x, y, -1.f).normalized(), 100.f, 0.004f, 0.f, at).x);
                }
            NEAR(whole * double(step) * double(step), 10.0 * double(pi) * double(radius * radius) / 16.0, 0.02);
        }
        float at = 0.f;
        QCOMPARE(media::SparkList({}, 0.1f).along(Vec3(0.f), Vec3(0, 0, -1), 10.f, 0.f, 0.f, at), Vec3(0.f));
    }

    void aFrameDrawsThemAsTheyAreNow()
    {
        media::Spark spark;
        spark.at = Vec3(0.f, 0.f, -5.f);
        spark.radius = 0.05f;
        spark.radiance = Vec3(10.f);
        auto shot = std::make_shared<shot::Shot>(dark(spark));
        render::Frame frame(shot, 64, 32);
        const std::atomic<bool> never{false};
        QVERIFY(frame.traceSurfaces(0, never));
        const auto light = [&] {
            std::vector<float> rgb;
            frame.quickPicture(rgb, never);
            return sumOf(rgb);
        };
        const double bright = light();
        QVERIFY(bright > 0.0);
        const auto change = [&](const auto& how) {
            auto next = std::make_shared<shot::Shot>(frame.shot());
            how(*next);
            frame.setAir(next, false);
        };
        change([](shot::Shot& s) { s.look.exposure = 3.f; }); // touches none of it
        NEAR(light(), bright, 1e-5);
        change([](shot::Shot& s) {
            media::Medium haze;
            haze.id = "haze";
            haze.sigmaT = 0.2f;
            haze.albedo = Vec3(0.f);
            s.media = {haze};
        });
        NEAR(light(), bright * std::exp(-0.2 * 5.0), 0.03);
        change([](shot::Shot& s) { s.sparks.clear(); });
        QVERIFY(light() < 1e-6 * bright);
    }

    void whatLiesBeforeASparkDimsOrHidesIt()
    {
        media::Spark spark;
        spark.at = Vec3(0.f, 0.f, -5.f);
        spark.radius = 0.01f;
        spark.radiance = Vec3(10.f);
        const auto light = [&](const shot::Shot& shot) {
            std::vector<float> rgb(std::size_t(200 * 100 * 3), 0.f);
            render::SparkPicture(shot, 200, 100).addTo(rgb);
            return sumOf(rgb);
        };
        shot::Shot shot = dark(spark);
        const double clear = light(shot);
        media::Medium haze;
        haze.id = "haze";
        haze.sigmaT = 0.2f;
        shot.media = {haze};
        NEAR(light(shot), clear * std::exp(-0.2 * 5.0), 0.02);
        shot = dark(spark);
        shot.camera.position = Vec3(0.f, 3.f, -5.f); // above it
        shot.camera.aim = Vec3(0.f, 0.f, -5.01f);
        QVERIFY(light(shot) > 0.0);
        shot.scene = test::plate(1.f, 5.f);
        QCOMPARE(light(shot), 0.0);
        // Behind the camera, and beyond its edges.
        spark.at = Vec3(0.f, 0.f, 5.f);
        QCOMPARE(light(dark(spark)), 0.0);
        spark.at = Vec3(50.f, 0.f, -5.f);
        QCOMPARE(light(dark(spark)), 0.0);
    }
};
QTEST_GUILESS_MAIN(TestEmbers)
#include "test_embers.moc"
