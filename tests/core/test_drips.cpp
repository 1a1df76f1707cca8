/// Drips: where rain comes off roofs, how often, and how it falls.
#include "geometry/runoff.h"
#include "media/drips.h"
#include "render/rain.h"
#include "render/still.h"
#include "support.h"

#include <QTemporaryDir>
#include <cmath>
#include <fstream>

using namespace hygros;
using geometry::Drip;
namespace fs = std::filesystem;

namespace {
/// Corners of a box, as a mesh.
void box(geometry::Mesh& m, const Vec3& low, const Vec3& high, float riseOverX = 0.f)
{
    const auto first = static_cast<std::uint32_t>(m.positions.size());
    for (int i = 0; i < 8; ++i) {
        Vec3 p(i & 1 ? high.x : low.x, i & 2 ? high.y : low.y, i & 4 ? high.z : low.z);
        p.y += riseOverX * (p.x - low.x);
        m.positions.push_back(p);
        m.normals.push_back(Vec3(0, 1, 0));
    }
    for (const auto& [a, b, c, d] :
         {std::array<unsigned, 4>{0, 1, 3, 2}, {4, 6, 7, 5}, {0, 4, 5, 1}, {2, 3, 7, 6}, {0, 2, 6, 4}, {1, 5, 7, 3}})
        for (const unsigned i : {a, b, c, a, c, d})
            m.indices.push_back(first + i);
}
std::shared_ptr<geometry::SetGeometry> setOf(const geometry::Mesh& m)
{
    auto set = std::make_shared<geometry::SetGeometry>();
    set->meshes.push_back(m);
    set->materials.emplace_back();
    set->triangles = m.indices.size() / 3;
    return set;
}
geometry::Mesh yard()
{
    geometry::Mesh m;
    box(m, Vec3(-30, -1, -30), Vec3(30, 0, 30));
    return m;
}
} // namespace

class TestDrips : public QObject {
    Q_OBJECT
    JobControl job_;

    std::vector<Drip> drips(const geometry::Mesh& m)
    {
        return geometry::dripsOf(geometry::RayScene({{setOf(m), Mat4()}}, job_), Vec3(0.f), job_);
    }

private Q_SLOTS:
    void aRoofDripsFromItsLowerEdge()
    {
        // A shed roof of 4 m by 3 m on nothing, falling toward −X from 3.8 m to 3 m.
        geometry::Mesh m = yard();
        box(m, Vec3(-2, 2.95f, -1.5f), Vec3(2, 3, 1.5f), 0.2f);
        const std::vector<Drip> all = drips(m);
        QVERIFY(!all.empty());
        float catches = 0.f, lower = 0.f;
        for (const Drip& d : all) {
            catches += d.catches;
            const bool atLower = d.at.x < -1.97f;
            if (atLower) {
                lower += d.catches;
                QVERIFY2(std::abs(d.at.y - 2.95f) < 0.06f, qPrintable(QString::number(d.at.y)));
                NEAR(d.fall, d.at.y, 1e-3);
            }
            QVERIFY(std::abs(d.at.x) < 2.1f && std::abs(d.at.z) < 1.6f);
        }
        NEAR(catches, 12.f, 0.04); // all that falls onto it comes off it
        QVERIFY2(lower > 0.85f * catches, qPrintable(QString::number(lower / catches)));
    }

    void wallsDoNotDripAndGroundDoesNot()
    {
        QVERIFY(drips(yard()).empty());
        geometry::Mesh m = yard();
        box(m, Vec3(-2, 0, -2), Vec3(2, 3, 2)); // a block that stands: water runs down its faces
        QVERIFY2(drips(m).empty(), qPrintable(QString::number(drips(m).size())));
        // A lintel across two of them drips where it is free below.
        geometry::Mesh gate = yard();
        box(gate, Vec3(-3, 0, -0.5f), Vec3(-2, 2.5f, 0.5f));
        box(gate, Vec3(2, 0, -0.5f), Vec3(3, 2.5f, 0.5f));
        box(gate, Vec3(-3, 2.5f, -0.5f), Vec3(3, 2.7f, 0.5f));
        const std::vector<Drip> under = drips(gate);
        QVERIFY(!under.empty());
        for (const Drip& d : under) {
            QVERIFY2(std::abs(d.at.x) < 2.2f, qPrintable(QString::number(d.at.x)));
            NEAR(d.at.y, 2.5f, 0.03);
        }
    }

    void asMuchDripsAsFallsOn()
    {
        const Drip d{Vec3(0, 3, 0), 3.f, 0.3f};
        media::DripSettings s;
        s.rate = 6.f;
        const double volume = 3.14159265 / 6.0 * std::pow(double(media::dripDiameter), 3.0);
        NEAR(volume / media::dripEvery(d, s), 6e-3 / 3600.0 * 0.3, 1e-5);
        // Counted over 200 s.
        std::vector<media::Drop> drops;
        std::vector<media::Landing> landed;
        media::dripsAt({d}, s, 300.0, 0.0, 200.f, drops, landed);
        NEAR(double(landed.size()), 200.0 / media::dripEvery(d, s), 0.02);
        s.rate = 0.f;
        QVERIFY(!std::isfinite(media::dripEvery(d, s)));
    }

    void oneHangsFallsAndBursts()
    {
        // A slow edge, looked at every hundredth of a second over the way of some drops.
        const Drip d{Vec3(1, 3, 2), 3.f, 0.02f};
        media::DripSettings s;
        s.rate = 10.f;
        s.splashes = 1.f;
        bool hung = false, burst = false;
        float fastest = 0.f;
        for (int i = 0; i < 600; ++i) {
            std::vector<media::Drop> drops;
            std::vector<media::Landing> landed;
            media::dripsAt({d}, s, 20.0 + 0.01 * i, 0.0, 0.5f, drops, landed);
            for (const media::Drop& drop : drops) {
                hung = hung || (drop.velocity.length() == 0.f && std::abs(drop.at.y - 3.f) < 0.01f);
                burst = burst || (drop.diameter < 0.5f * media::dripDiameter && drop.at.y < 0.6f);
                if (drop.age >= 0.f && drop.diameter > 0.5f * media::dripDiameter) {
                    fastest = std::max(fastest, -drop.velocity.y);
                    // Near its beginning as a stone, then held by the air: slower, and never above its last speed.
                    const float stone = 3.f - 4.905f * drop.age * drop.age;
                    QVERIFY(drop.at.y >= stone - 1e-4f && drop.at.y <= stone + 0.4f);
                }
            }
        }
        QVERIFY(hung && burst);
        QVERIFY2(fastest > 6.3f && fastest < 7.67f, qPrintable(QString::number(fastest))); // 7.67: without air
    }

    void aLoopCloses()
    {
        std::vector<Drip> all;
        for (int i = 0; i < 40; ++i)
            all.push_back({Vec3(0.2f * static_cast<float>(i), 2.f, 0.f), 2.f, 0.005f * static_cast<float>(1 + i)});
        media::DripSettings s;
        s.rate = 8.f;
        const auto at = [&](double seconds) {
            std::vector<media::Drop> drops;
            std::vector<media::Landing> landed;
            media::dripsAt(all, s, seconds, 4.0, 0.5f, drops, landed);
            return drops;
        };
        const auto first = at(0.7), last = at(4.7), other = at(1.1);
        QCOMPARE(first.size(), last.size());
        QVERIFY(!first.empty());
        for (std::size_t i = 0; i < first.size(); ++i)
            QVERIFY((first[i].at - last[i].at).length() < 1e-4f && first[i].own == last[i].own);
        QVERIFY(other.size() != first.size() || (other[0].at - first[0].at).length() > 1e-3f);
    }

    void rainOnASetDripsInThePicture()
    {
        // The roof from before as a file, rain over it: drops under its edge, where no rain itself falls.
        QTemporaryDir folder;
        const fs::path file = fs::path(folder.path().toStdString()) / "roof.obj";
        std::ofstream(file)
            << "o roof\nv -20 0 -20\nv 20 0 -20\nv 20 0 20\nv -20 0 20\nv -3 3 -3\nv 3 3.9 -3\nv 3 3.9 1\n"
               "v -3 3 1\nf 4 3 2 1\nf 8 7 6 5\n";
        scene::Project p = elements::newProject();
        p.add(*elements::findKind("rain"), "Rain").set("rate", 10.0);
        p.add(*elements::findKind("set"), "Roof").set("file", file.string()); // after it: the order is no matter
        p.find("shot")->set("position", Vec3(0.f, 1.7f, 6.f));
        p.find("shot")->set("aim", Vec3(-3.f, 2.f, -1.f));
        Store store;
        const auto shot = elements::freeze(p, store, job_);
        QCOMPARE(shot->falling.size(), std::size_t(2));
        QVERIFY(shot->falling[1].all && shot->falling[1].all->size() > 10);
        bool told = false;
        for (const shot::Note& n : shot->notes)
            told = told || n.text.find("edges drip") != std::string::npos;
        QVERIFY(told);
        // The same moment is the same shot; another is another.
        QVERIFY(*elements::freeze(p, store, job_) == *shot);
        p.frame = 4;
        QVERIFY(!(*elements::freeze(p, store, job_) == *shot));
        const std::string rain = shot->falling[0].id;
        p.frame = 1;
        p.find(rain)->set("drips", 0.0);
        QCOMPARE(elements::freeze(p, store, job_)->falling.size(), std::size_t(1));
    }
};

QTEST_GUILESS_MAIN(TestDrips)
#include "test_drips.moc"
