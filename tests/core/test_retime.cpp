/// Baked gas at other times than its own.
#include "elements/plume_parts.h"
#include "lattices.h"
#include "sim/smoke/retime.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>

using namespace hygros;
using namespace hygros::sim;
using test::box;
using test::eachCell;
namespace fs = std::filesystem;

namespace {
/// A puff of smoke about a place in cells, in air that moves.
std::shared_ptr<Gas> puff(const Vec3& middle, const Vec3& velocity)
{
    const Lattice l = box(48, 24, 24, 0.1f);
    auto gas = Gas::still(l);
    gas->activity = Activity::whole(l);
    for (int z = 0; z <= 24; ++z)
        for (int y = 0; y <= 24; ++y)
            for (int x = 0; x <= 48; ++x) {
                const auto i = l.at(x, y, z);
                gas->x.data()[i] = velocity.x;
                gas->y.data()[i] = velocity.y;
                gas->z.data()[i] = velocity.z;
                const Vec3 from = Vec3(float(x) + 0.5f, float(y) + 0.5f, float(z) + 0.5f) - middle;
                gas->soot.data()[i] = 1e-3f * std::exp(-from.length2() / 18.f);
                gas->heat.data()[i] = 500.f * std::exp(-from.length2() / 18.f);
            }
    return gas;
}
} // namespace

class TestRetime : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    Store store_;
    JobControl job_;

    scene::Project baked()
    {
        scene::Project p = elements::newProject();
        p.time.last = 21;
        scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
        plume.set("position", Vec3(0.f));
        plume.set("size", Vec3(1.2f, 1.6f, 1.2f));
        plume.set("voxel", 0.05);
        plume.set("detail", std::string("preview"));
        scene::Element& feed = p.add(*elements::findKind("feed"), "Coals");
        feed.set("plume", std::string("plume"));
        feed.set("position", Vec3(0.f, 0.2f, 0.f));
        feed.set("temperature", 1300.0);
        feed.set("smoke", 1.0);
        p.baked = fs::path(folder_.path().toStdString()) / "frames";
        FrameStore frames(p.baked);
        elements::bake(p, "plume", frames, store_, job_);
        return p;
    }
    /// Smoke and heat along a line up through the fire, as frozen at a frame; empty: nothing is shown.
    std::vector<float> seen(scene::Project p, double frame)
    {
        p.frame = frame;
        const auto shot = elements::freeze(p, store_, job_);
        std::vector<float> out;
        for (const media::Volume& v : shot->volumes)
            for (float y = 0.1f; y < 1.5f; y += 0.05f) {
                out.push_back(media::extinction8(v, f8(0.02f), f8(y), f8(0.03f))[0]);
                if (v.glow.heat) {
                    Vec3 at;
                    v.glow.toHeat.multVecMatrix(Vec3(0.02f, y, 0.03f), at);
                    out.push_back(v.glow.heat->sample8(f8(at.x), f8(at.y), f8(at.z))[0]);
                }
            }
        return out;
    }
    static bool alike(const std::vector<float>& a, const std::vector<float>& b)
    {
        if (a.size() != b.size() || a.empty())
            return false;
        float most = 0.f;
        for (std::size_t i = 0; i < a.size(); ++i)
            most = std::max(most, std::abs(a[i] - b[i]) / std::max(1.f, std::abs(b[i])));
        return most < 2e-3f;
    }

private Q_SLOTS:
    void betweenTwoFramesItIsOnItsWay()
    {
        // Five cells on in half a second: at the middle there is one puff, not two faint ones.
        const auto before = puff(Vec3(14, 12, 12), Vec3(1, 0, 0)), after = puff(Vec3(19, 12, 12), Vec3(1, 0, 0));
        const auto middle = between(before, after, 0.5f, 0.5f, {});
        const auto wanted = puff(Vec3(16.5f, 12, 12), Vec3(0.f));
        const Lattice& l = before->lattice;
        float apart = 0.f;
        eachCell(l, [&](int x, int y, int z) {
            apart = std::max(apart, std::abs(middle->soot.data()[l.at(x, y, z)] - wanted->soot.data()[l.at(x, y, z)]));
        });
        QVERIFY2(apart < 0.05e-3f, qPrintable(QString::number(apart)));
        // The wind carries it as well.
        media::Wind wind;
        wind.velocity = Vec3(1.f, 0.f, 0.f);
        wind.ground = -1e4f;
        wind.reference = 1e4f;
        const auto blown = between(puff(Vec3(14, 12, 12), Vec3(0.f)), puff(Vec3(19, 12, 12), Vec3(0.f)), 0.5f, 0.5f,
                                   {wind});
        NEAR(blown->soot.data()[l.at(16, 12, 12)], wanted->soot.data()[l.at(16, 12, 12)], 0.2);
        QCOMPARE(between(before, after, 0.f, 0.5f, {}), std::shared_ptr<const Gas>(before));
        // Of another lattice: the nearer.
        auto other = Gas::still(box(16, 16, 16));
        QCOMPARE(between(before, other, 0.2f, 0.5f, {}), std::shared_ptr<const Gas>(before));
        QCOMPARE(between(before, other, 0.8f, 0.5f, {}), std::shared_ptr<const Gas>(other));
    }

    void aFadeIsAShareOfEach()
    {
        const auto one = puff(Vec3(14, 12, 12), Vec3(0.f)), other = puff(Vec3(30, 12, 12), Vec3(0.f));
        const auto both = mixed(one, other, 0.3f);
        const Lattice& l = one->lattice;
        eachCell(l, [&](int x, int y, int z) {
            const auto i = l.at(x, y, z);
            const float wanted = one->heat.data()[i] * 0.3f + other->heat.data()[i] * 0.7f;
            QVERIFY(std::abs(both->heat.data()[i] - wanted) < 1e-3f);
        });
        // What is seen of it is what is seen of its written form.
        const std::string bytes = written(*one, 288.f);
        const SeenGas a = seenGas(*one, 288.f, job_), b = seenGas({bytes.data(), bytes.size()}, job_);
        QVERIFY(std::abs(a.temperature.values->most() - b.temperature.values->most()) < 1.f);
        QVERIFY(std::abs(a.density.values->most() - b.density.values->most()) < 2e-3f);
        QVERIFY(a.density.toWorld.equalWithAbsError(b.density.toWorld, 1e-5f));
    }

    void speedAndOffsetChooseTheFrame()
    {
        scene::Project p = baked();
        const auto own = [&](double frame) { return seen(p, frame); };
        scene::Project slow = p;
        slow.find("plume")->set("showSpeed", 0.5);
        QVERIFY(alike(seen(slow, 9), own(5)));
        QVERIFY(alike(seen(slow, 19), own(10)));
        const auto half = seen(slow, 10); // between 5 and 6
        QVERIFY(!half.empty() && !alike(half, own(5)) && !alike(half, own(6)));
        scene::Project late = p;
        late.find("plume")->set("showFrom", 8 / p.time.rate.perSecond());
        QVERIFY(alike(seen(late, 4), own(12)));
        QVERIFY(seen(late, 20).empty()); // over
        late.find("plume")->set("showEnds", std::string("hold"));
        QVERIFY(alike(seen(late, 20), own(21)));
        scene::Project back = p;
        back.find("plume")->set("showSpeed", -1.0);
        back.find("plume")->set("showFrom", 20 / p.time.rate.perSecond());
        QVERIFY(alike(seen(back, 6), own(16)));
        // Nothing of it is simulated anew.
        FrameStore frames(p.baked);
        QCOMPARE(elements::bakedSpan(slow, "plume", frames, store_).count(FrameStore::State::Fresh), 21);
        // What it would show and is not there, it says.
        frames.remove("plume", 7);
        slow.frame = 13;
        const auto shot = elements::freeze(slow, store_, job_);
        QVERIFY(std::any_of(shot->notes.begin(), shot->notes.end(), [](const shot::Note& n) {
            return n.text.find("Frame 7, which is shown here, is not baked") != std::string::npos;
        }));
    }

    void keysOnTheSpeedMakeACurve()
    {
        scene::Project p = baked();
        scene::Project held = p;
        scene::Element& plume = *held.find("plume");
        const scene::Parameter& speed = *scene::findParameter(plume.kind->parameters, "showSpeed");
        QVERIFY(speed.keyable);
        scene::Track track;
        for (const auto& [frame, value] : {std::pair(1.0, 2.0), std::pair(6.0, 0.0)}) {
            scene::Key key;
            key.frame = frame;
            key.value = value;
            key.way = scene::Way::Hold;
            track.keys.push_back(key);
        }
        plume.setTrack("showSpeed", track);
        // Twice as fast for five frames, then it stands.
        QVERIFY(alike(seen(held, 4), seen(p, 7)));
        QVERIFY(alike(seen(held, 6), seen(p, 11)));
        QVERIFY(alike(seen(held, 15), seen(p, 11)));
    }

    void aLoopComesRoundWithoutALeap()
    {
        scene::Project p = baked();
        const double rate = p.time.rate.perSecond();
        p.find("plume")->set("showEnds", std::string("loop"));
        p.find("plume")->set("showFade", 5 / rate);
        // Twenty frames long, of which five are faded: it comes round every fifteen.
        QVERIFY(alike(seen(p, 1), seen(p, 16)));
        QVERIFY(alike(seen(p, 4), seen(p, 19)));
        scene::Project plain = p;
        plain.find("plume")->set("showEnds", std::string("nothing"));
        QVERIFY(alike(seen(p, 1), seen(plain, 6)));
        // From frame to frame toward the seam it changes far less than by a cut.
        const auto apart = [](const std::vector<float>& a, const std::vector<float>& b) {
            double sum = 0.0;
            for (std::size_t i = 0; i < std::min(a.size(), b.size()); ++i)
                sum += std::abs(double(a[i] - b[i]));
            return sum;
        };
        const double cut = apart(seen(plain, 20), seen(plain, 6));
        for (int frame = 10; frame < 18; ++frame) {
            const double step = apart(seen(p, frame), seen(p, frame + 1));
            QVERIFY2(step < 0.5 * cut,
                     qPrintable(QString("%1 after frame %2, a cut %3").arg(step).arg(frame).arg(cut)));
        }
    }
};
QTEST_GUILESS_MAIN(TestRetime)
#include "test_retime.moc"
