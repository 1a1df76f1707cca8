/// Baked gas at other times than its own.
#include "elements/plume_parts.h"
#include "elements/probe.h"
#include "lattices.h"
#include "sim/smoke/retime.h"
#include "sim/smoke/sharpen.h"
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

    void sharpeningAddsDetailAndKeepsWhatThereIs()
    {
        // A puff in a shear: the eddies that cells hold are as fast as neighbours differ.
        const auto calm = puff(Vec3(24, 12, 12), Vec3(0.f));
        auto sheared = puff(Vec3(24, 12, 12), Vec3(0.f));
        const Lattice l = calm->lattice;
        eachCell(l, [&](int x, int y, int z) { sheared->x.data()[l.at(x, y, z)] = 0.8f * float(y % 4); });
        const auto fineSum = [](const Gas& g) { return std::pair(sootOf(g), heatOf(g)); };
        const auto roughness = [](const Gas& g) { // mean square of the second differences
            const Lattice& fine = g.lattice;
            double sum = 0.0;
            eachCell(fine, [&](int x, int y, int z) {
                const float* v = g.soot.data() + fine.at(x, y, z);
                const double d = double(v[-1] + v[1] - 2.f * v[0]) * 1e3;
                sum += d * d;
            });
            return sum;
        };
        // In air that stands still there is nothing to add.
        const auto still = sharpened(*calm, *calm, 1.f, 0.3, 1, {});
        QCOMPARE(still->lattice.n[0], 2 * l.n[0]);
        NEAR(fineSum(*still).first, fineSum(*calm).first, 5e-3);
        float apart = 0.f;
        eachCell(l, [&](int x, int y, int z) {
            float mean = 0.f;
            for (int k = 0; k < 8; ++k)
                mean += still->soot.data()[still->lattice.at(2 * x + (k & 1), 2 * y + (k >> 1 & 1), 2 * z + (k >> 2))];
            apart = std::max(apart, std::abs(mean / 8.f - calm->soot.data()[l.at(x, y, z)]));
        });
        QVERIFY2(apart < 0.03e-3f, qPrintable(QString::number(apart)));
        const auto sharp = sharpened(*sheared, *sheared, 1.f, 0.3, 1, {});
        QVERIFY2(roughness(*sharp) > 2.0 * roughness(*still),
                 qPrintable(QString("%1, %2").arg(roughness(*sharp)).arg(roughness(*still))));
        // Nothing is made or lost, and nothing overshoots.
        NEAR(fineSum(*sharp).first, fineSum(*calm).first, 0.03);
        NEAR(fineSum(*sharp).second, fineSum(*calm).second, 0.03);
        eachCell(sharp->lattice, [&](int x, int y, int z) {
            const float v = sharp->soot.data()[sharp->lattice.at(x, y, z)];
            QVERIFY(v >= 0.f && v <= 1.0001e-3f);
        });
        // The same again, and from frame to frame no jump: also where a pattern gives way to the next (every 0.4 s).
        const auto same = sharpened(*sheared, *sheared, 1.f, 0.3, 1, {});
        const auto change = [](const Gas& a, const Gas& b) {
            double sum = 0.0;
            eachCell(a.lattice, [&](int x, int y, int z) {
                const auto i = a.lattice.at(x, y, z);
                sum += std::abs(double(a.soot.data()[i] - b.soot.data()[i])) * 1e3;
            });
            return sum;
        };
        QCOMPARE(change(*sharp, *same), 0.0);
        const auto at = [&](double t) { return sharpened(*sheared, *sheared, 1.f, t, 1, {}); };
        const double within = change(*at(0.5), *at(0.54)), across = change(*at(0.38), *at(0.42)),
                     other = change(*sharp, *sharpened(*sheared, *sheared, 1.f, 0.3, 2, {}));
        QVERIFY2(across < 2.0 * within && within < other,
                 qPrintable(QString("%1 %2 %3").arg(within).arg(across).arg(other)));
    }

    void aSharperPlumeIsSeenAndNothingIsBakedAnew()
    {
        scene::Project p = baked();
        scene::Project sharp = p;
        sharp.find("plume")->set("sharpens", 1.0);
        QVERIFY(!alike(seen(sharp, 15), seen(p, 15)));
        FrameStore frames(p.baked);
        QCOMPARE(elements::bakedSpan(sharp, "plume", frames, store_).count(FrameStore::State::Fresh), 21);
        // Together with a retiming as well.
        sharp.find("plume")->set("showSpeed", 0.5);
        QVERIFY(!seen(sharp, 10).empty());
        // Where nothing is baked it says no more than without.
        sharp.frame = 60;
        QVERIFY(elements::freeze(sharp, store_, job_)->volumes.empty());
    }

    void aProbeReadsWhatIsBakedThere()
    {
        scene::Project p = baked();
        scene::Element& probe = p.add(*elements::findKind("probe"), "Probe");
        const auto said = [&](const std::string& words) {
            const auto shot = elements::freeze(p, store_, job_);
            return std::any_of(shot->notes.begin(), shot->notes.end(), [&](const shot::Note& n) {
                return n.element == "probe" && n.text.find(words) != std::string::npos;
            });
        };
        QVERIFY(said("Choose the plume"));
        probe.set("plume", std::string("plume"));
        probe.set("position", Vec3(0.f, 0.25f, 0.f));
        p.frame = 12;
        const auto gas = elements::keptGas(*elements::keptFrame(p, "plume", 12, store_), store_);
        const auto wish = elements::probeWish(p, probe, store_);
        QVERIFY(wish);
        const double kelvin = elements::probed(*gas, *wish);
        const Vec3 cells = (Vec3(0.f, 0.25f, 0.f) - gas->lattice.origin) / gas->lattice.h - Vec3(0.5f);
        NEAR(kelvin, 288.0 + double(valueAt(gas->lattice, gas->heat, cells)), 1e-5);
        QVERIFY(kelvin > 500.0);
        QVERIFY(said("Reads " + elements::probeText(kelvin, wish->quality) + " at frame 12"));
        // Above everything the air is as it is.
        probe.set("position", Vec3(0.f, 40.f, 0.f));
        QCOMPARE(elements::probed(*gas, *elements::probeWish(p, probe, store_)), 288.0);
        probe.set("reads", std::string("smoke"));
        QVERIFY(said("Reads 0 g/m³"));
        p.frame = 40;
        QVERIFY(said("not baked at this frame"));
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
