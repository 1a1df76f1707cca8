/// Stills that follow each other, and the open shutter.
#include "elements/kinds.h"
#include "finish/deliver.h"
#include "render/still.h"
#include "scene/evaluate.h"
#include "support.h"

#include <cmath>
#include <numeric>

using namespace hygros;
using render::Layers;
using render::Shots;

namespace {
constexpr int wide = 64, high = 40;

/// A beam that sweeps through even haze at night, a drifting bank under it, seen from the side.
scene::Project sweeping()
{
    scene::Project p = elements::newProject();
    p.find("sun")->set("body", std::string("nothing"));
    scene::Element& haze = p.add(*elements::findKind("haze"), "Haze");
    haze.set("form", std::string("uniform"));
    haze.set("visibility", 120.0);
    haze.set("anisotropy", 0.0);
    scene::Element& beacon = p.add(*elements::findKind("spot"), "Beacon");
    beacon.set("position", Vec3(0.f, 3.f, -14.f));
    beacon.set("aim", Vec3(8.f, 3.f, -14.f));
    beacon.set("angle", 14.0);
    beacon.set("power", 60000.0);
    beacon.set("glow", 0.0);  // its own disc is a matter of edges
    beacon.set("sweep", 1.0); // a turn a second: 7 degrees in half a frame
    p.find("shot")->set("position", Vec3(0.f, 12.f, 4.f));
    p.find("shot")->set("aim", Vec3(0.f, 2.f, -14.f));
    return p;
}
render::StillSettings settings(int samples)
{
    render::StillSettings s;
    s.width = wide;
    s.height = high;
    s.samples = samples;
    return s;
}
std::vector<float> greens(const Layers& l)
{
    const std::vector<float> rgb = finish::beautyOf(l);
    std::vector<float> out;
    for (std::size_t i = 1; i < rgb.size(); i += 3)
        out.push_back(rgb[i]);
    return out;
}
/// Root mean square of differences by square blocks, as a share of the mean of b; without the worst fiftieth of them,
/// which lie about the lamp itself, where few paths bring nearly all.
double difference(const std::vector<float>& a, const std::vector<float>& b, int block = 4)
{
    double mean = 0;
    std::vector<double> squares;
    for (int y = 0; y < high; y += block)
        for (int x = 0; x < wide; x += block) {
            double one = 0, other = 0;
            for (int dy = 0; dy < block; ++dy)
                for (int dx = 0; dx < block; ++dx) {
                    one += double(a[static_cast<std::size_t>((y + dy) * wide + x + dx)]);
                    other += double(b[static_cast<std::size_t>((y + dy) * wide + x + dx)]);
                }
            squares.push_back((one - other) * (one - other));
            mean += other;
        }
    const int blocks = wide * high / (block * block);
    std::sort(squares.begin(), squares.end());
    squares.resize(squares.size() * 49 / 50);
    return std::sqrt(std::accumulate(squares.begin(), squares.end(), 0.0) / blocks) / (mean / blocks);
}
Shots open(const scene::Project& p, Store& store, int pieces)
{
    JobControl job;
    const auto all = elements::freezeOpen(p, store, job, pieces);
    return {all.begin(), all.end()};
}
} // namespace

class TestStill : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aBlurredBeamIsTheMeanOfItsSubFrames_data()
    {
        QTest::addColumn<bool>("paths");
        QTest::newRow("live") << false;
        QTest::newRow("reference") << true;
    }
    void aBlurredBeamIsTheMeanOfItsSubFrames()
    {
        QFETCH(bool, paths);
        scene::Project p = sweeping();
        p.frame = 4;
        Store store;
        JobControl job;
        render::StillSettings s = settings(test::often(paths ? 192 : 48));
        s.followsPaths = false;
        s.air = paths ? render::StillAir::Paths : render::StillAir::Live;
        const Shots shots = open(p, store, 16);
        QCOMPARE(shots.size(), std::size_t{16});
        const auto blurred = greens(render::renderStill(shots, s, job));
        // 32 moments of their own, each as if it were a sharp frame.
        std::vector<float> mean(blurred.size(), 0.f);
        scene::Project moment = p;
        render::StillSettings each = s;
        each.samples = std::max(1, s.samples / (paths ? 16 : 8)); // under a watcher there are few
        for (int i = 0; i < 32; ++i) {
            moment.frame = p.frame + 0.5 * (i + 0.5) / 32.0;
            auto shot = std::make_shared<shot::Shot>(*elements::freeze(moment, store, job));
            shot->frame = 100 + i; // paths that are drawn anew
            const auto one = greens(render::renderStill(std::shared_ptr<const shot::Shot>(shot), each, job));
            for (std::size_t k = 0; k < mean.size(); ++k)
                mean[k] += one[k] / 32.f;
        }
        const double apart = difference(blurred, mean, paths ? 8 : 4); // for the noise of paths
        moment.frame = p.frame;
        const double sharp = difference(greens(render::renderStill(elements::freeze(moment, store, job), s, job)),
                                        mean);
        // (Paths: 25,000 of them in a block are still 3 % apart from draw to draw.)
        QVERIFY2(apart < test::within(paths ? 0.07 : 0.02), qPrintable(QString::number(apart)));
        const auto total = [](const std::vector<float>& v) { return std::accumulate(v.begin(), v.end(), 0.0); };
        NEAR(total(blurred), total(mean), test::within(0.02));
        QVERIFY2(sharp > 0.2, qPrintable(QString::number(sharp))); // it moved
    }

    void whatDoesNotMoveIsOneShot()
    {
        scene::Project p = sweeping();
        Store store;
        p.find("beacon")->set("sweep", 0.0);
        QCOMPARE(open(p, store, 16).size(), std::size_t{1});
        p.find("beacon")->set("sweep", 1.0);
        QCOMPARE(open(p, store, 1).size(), std::size_t{1});
        p.time.shutterAngle = 0.0;
        QCOMPARE(open(p, store, 16).size(), std::size_t{1});
        p.time.shutterAngle = 360.0;
        QCOMPARE(open(p, store, 16).size(), std::size_t{16});
        // A wind alone is not seen.
        p.find("beacon")->set("sweep", 0.0);
        p.add(*elements::findKind("wind"), "Gale");
        QCOMPARE(open(p, store, 16).size(), std::size_t{1});
    }

    void aMeanKeepsItsLayersTogether()
    {
        scene::Project p = sweeping();
        p.add(*elements::findKind("bulb"), "Bulb").set("position", Vec3(0.f, 3.f, -10.f));
        Store store;
        JobControl job;
        render::StillSettings s = settings(8);
        s.layers = {true, true, true};
        const Layers l = render::renderStill(open(p, store, 4), s, job);
        const auto beauty = finish::beautyOf(l);
        std::vector<float> parts(beauty.size(), 0.f);
        for (const auto& list : {l.setBy, l.airBy})
            for (const Layers::ByLamp& by : list)
                for (std::size_t i = 0; i < parts.size(); ++i)
                    parts[i] += by.air[i];
        for (std::size_t i = 0; i < parts.size(); ++i)
            QVERIFY2(std::abs(parts[i] - beauty[i]) < 1e-3f * (1.f + std::abs(beauty[i])),
                     qPrintable(QString("%1 %2").arg(double(parts[i])).arg(double(beauty[i]))));
    }

    void aSequenceIsWhatItsFramesAreAlone()
    {
        // Drift under a still camera: what was seen before serves, and is no other picture for it.
        scene::Project p = elements::newProject();
        scene::Element& bank = p.add(*elements::findKind("fogBank"), "Mist");
        bank.set("contrast", 0.9);
        bank.set("scale", 4.0);
        bank.set("driftSpeed", 5.0);
        p.time.shutterAngle = 0.0;
        Store store;
        JobControl job;
        render::StillSettings s = settings(test::often(64));
        s.followsPaths = false;
        render::StillSequence sequence;
        std::vector<float> before;
        for (const int frame : {1, 6, 11}) {
            p.frame = frame;
            const auto shot = elements::freeze(p, store, job);
            const auto next = greens(sequence.next(shot, s, job)), alone = greens(render::renderStill(shot, s, job));
            QVERIFY2(difference(next, alone) < test::within(0.01),
                     qPrintable(QString::number(difference(next, alone))));
            QVERIFY(before.empty() || difference(next, before) > 0.02);
            before = next;
        }
        // The camera moves: all of it is new.
        p.find("shot")->set("position", Vec3(3.f, 1.7f, 8.f));
        const auto shot = elements::freeze(p, store, job);
        const auto next = greens(sequence.next(shot, s, job)), alone = greens(render::renderStill(shot, s, job));
        QVERIFY(difference(next, alone) < 1e-6);
    }
};
QTEST_APPLESS_MAIN(TestStill)
#include "test_still.moc"
