/// A fine run of a plume keeps to its preview; how a puff of it grows.
#include "base/random.h"
#include "elements/bake.h"
#include "lattices.h"
#include "sim/smoke/plume.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>

using namespace hygros;
using namespace hygros::sim;
namespace fs = std::filesystem;

namespace {
/// A small fire that sways: fed unevenly, in a turbulent wind's stead by its own swirls.
scene::Project fire()
{
    scene::Project p = elements::newProject();
    p.time.last = 48;
    scene::Element& plume = p.add(*elements::findKind("plume"), "Plume");
    plume.set("size", Vec3(1.6f, 2.4f, 1.6f));
    plume.set("voxel", 0.05);
    plume.set("cooling", 3000.0);
    plume.set("sooting", 1.0);
    scene::Element& feed = p.add(*elements::findKind("feed"), "Coals");
    feed.set("plume", std::string("plume"));
    feed.set("temperature", 1300.0);
    feed.set("fuel", 0.8);
    feed.set("size", Vec3(0.5f, 0.1f, 0.5f));
    feed.set("contrast", 1.4);
    feed.set("noiseScale", 0.25);
    feed.set("change", 4.0);
    return p;
}

constexpr int across = 64, up = 96, block = 8;
/// Smoke looked through from the front, as a picture over the plume's box, by means of 8×8 pixels [g/m²].
std::vector<double> seenFrom(const Gas& gas)
{
    const Lattice& l = gas.lattice;
    std::vector<double> column(std::size_t(across * up), 0.0);
    const float pixel = 1.6f / across;
    for (int y = 0; y < up; ++y)
        for (int x = 0; x < across; ++x) {
            const int cx = int(std::floor((-0.8f + (float(x) + 0.5f) * pixel - l.origin.x) / l.h)),
                      cy = int(std::floor(((float(y) + 0.5f) * pixel - l.origin.y) / l.h));
            for (int z = 0; z < l.n[2]; ++z)
                column[std::size_t(y * across + x)] += 1e3 * double(gas.soot.data()[l.at(cx, cy, z)] * l.h);
        }
    std::vector<double> blocks;
    for (int y = 0; y < up; y += block)
        for (int x = 0; x < across; x += block) {
            double sum = 0.0;
            for (int j = 0; j < block; ++j)
                for (int i = 0; i < block; ++i)
                    sum += column[std::size_t((y + j) * across + x + i)];
            blocks.push_back(sum / (block * block));
        }
    return blocks;
}

struct Run {
    std::vector<std::vector<double>> pictures; ///< by frame
    std::shared_ptr<const PlumeState> last;
};
Run run(scene::Project project, const char* detail, double keeps, int frames)
{
    project.find("plume")->set("detail", std::string(detail));
    project.find("plume")->set("keeps", keeps);
    Store store;
    JobControl job;
    const PlumeSolver solver("plume");
    const auto shotAt = [&](double frame) {
        project.frame = frame;
        return elements::freeze(project, store, job);
    };
    std::shared_ptr<const State> state = solver.begin(*shotAt(1));
    Run out;
    for (int frame = 1; frame < frames; ++frame) {
        state = solver.advance(
            std::move(state), [&](double share) { return shotAt(frame + share); }, 1.0 / 24.0, job);
        state = solver.rounded(std::move(state));
        out.pictures.push_back(seenFrom(*static_cast<const PlumeState&>(*state).gas));
    }
    out.last = std::static_pointer_cast<const PlumeState>(state);
    return out;
}
/// Of all blocks of all frames.
double correlation(const Run& a, const Run& b)
{
    double n = 0, sa = 0, sb = 0, saa = 0, sbb = 0, sab = 0;
    for (std::size_t f = 0; f < a.pictures.size(); ++f)
        for (std::size_t i = 0; i < a.pictures[f].size(); ++i) {
            const double x = a.pictures[f][i], y = b.pictures[f][i];
            n += 1;
            sa += x;
            sb += y;
            saa += x * x;
            sbb += y * y;
            sab += x * y;
        }
    return (n * sab - sa * sb) / std::sqrt((n * saa - sa * sa) * (n * sbb - sb * sb));
}
} // namespace

class TestGuide : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;

private Q_SLOTS:
    void aThermalGrowsInProportionToItsHeight()
    {
        // A puff of warm air that rises by itself: r = α·z, α about a quarter (R. S. Scorer 1957; J. S. Turner 1969).
        if (test::watched)
            QSKIP("it needs all of its steps");
        const Lattice l = test::box(72, 168, 72, 0.05f);
        auto gas = Gas::still(l);
        std::vector<std::uint8_t> on(l.blockCount(), 0);
        const Vec3 middle(1.8f, 0.7f, 1.8f);
        const float radius = 0.4f;
        test::eachCell(l, [&](int x, int y, int z) {
            if ((l.middle(x, y, z) - middle).length() > radius)
                return;
            on[l.block(x / 8, y / 8, z / 8)] = 1;
            // Never quite even, as nothing is.
            gas->heat.data()[l.at(x, y, z)] = 24.f *
                                              (0.5f + unitFloat(hash32(std::uint32_t(x / 2), std::uint32_t(y / 2),
                                                                       std::uint32_t(z / 2))));
        });
        gas->activity = Activity(l, on);
        GasSettings s;
        s.swirling = 0.2f;
        s.closed.fill(false);
        GasStepper stepper(l);
        std::vector<std::pair<double, double>> seen; // height over where it began, radius
        for (int i = 0; i < 150; ++i) {
            auto next = stepper.step(*gas, s, {}, {}, 1.f / 24);
            stepper.recycle(*gas);
            gas = next;
            double heat = 0.0, up = 0.0, mx = 0.0, mz = 0.0, wide = 0.0;
            const auto each = [&](const auto& body) {
                for (int z = 0; z < l.n[2]; ++z)
                    for (int y = 0; y < l.n[1]; ++y)
                        for (int x = 0; x < l.n[0]; ++x)
                            if (const float h = gas->heat.data()[l.at(x, y, z)]; h > 0.f)
                                body(double(h), l.middle(x, y, z));
            };
            each([&](double h, const Vec3& p) {
                heat += h;
                up += h * double(p.y);
                mx += h * double(p.x);
                mz += h * double(p.z);
            });
            up /= heat;
            each([&](double h, const Vec3& p) {
                wide += h * (std::pow(double(p.x) - mx / heat, 2.0) + std::pow(double(p.z) - mz / heat, 2.0));
            });
            seen.push_back({up - double(middle.y), std::sqrt(2.5 * wide / heat)}); // of an even ball its radius
            if (up > 6.5)
                break;
        }
        // By a line through what it is once it has turned over.
        double n = 0, sx = 0, sy = 0, sxx = 0, sxy = 0;
        for (const auto& [z, r] : seen)
            if (z > 4.0 * double(radius)) {
                n += 1;
                sx += z;
                sy += r;
                sxx += z * z;
                sxy += z * r;
            }
        QVERIFY(n > 10);
        const double alpha = (n * sxy - sx * sy) / (n * sxx - sx * sx);
        qInfo("radius grows by %.3f of the height, to %.2f m at %.1f m", alpha, seen.back().second, seen.back().first);
        QVERIFY2(alpha > 0.15 && alpha < 0.35, qPrintable(QString::number(alpha)));
    }

    void theFinalIsThePreviewOnlyFiner()
    {
        const scene::Project project = fire();
        const int frames = test::often(48);
        const Run preview = run(project, "preview", 1.0, frames), kept = run(project, "final", 1.0, frames);
        QCOMPARE(kept.last->gas->lattice.h * 4.f, preview.last->gas->lattice.h);
        // What it keeps to is the preview, number by number.
        QCOMPARE(kept.last->preview->gas->activity.on(), preview.last->gas->activity.on());
        const Lattice& l = preview.last->gas->lattice;
        for (std::size_t i = 0; i < l.size(); ++i)
            QCOMPARE(kept.last->preview->gas->soot.data()[i], preview.last->gas->soot.data()[i]);
        if (test::watched)
            return;
        const Run alone = run(project, "final", 0.0, frames);
        const double with = correlation(preview, kept), without = correlation(preview, alone);
        qInfo("preview and final: %.3f; without guiding %.3f", with, without);
        QVERIFY2(with >= 0.9, qPrintable(QString::number(with)));
        QVERIFY(with > without + 0.05);
    }
};
QTEST_GUILESS_MAIN(TestGuide)
#include "test_guide.moc"
