/// The generator of the lock at Marl: its tools, and that the place is what the demos count on.
#include "marl.h"
#include "support.h"

#include <map>
#include <set>

using namespace hygros;
using namespace hygros::demo;

namespace {
struct Extent {
    Vec3 lo{1e9f}, hi{-1e9f};
    explicit Extent(const Builder& b)
    {
        for (const Vec3& p : b.positions)
            for (int k = 0; k < 3; ++k) {
                lo[k] = std::min(lo[k], p[k]);
                hi[k] = std::max(hi[k], p[k]);
            }
    }
};
Vec3 faceNormal(const Builder& b, std::size_t triangle)
{
    const Vec3 &p = b.positions[b.indices[triangle * 3]], &q = b.positions[b.indices[triangle * 3 + 1]],
               &r = b.positions[b.indices[triangle * 3 + 2]];
    return (q - p).cross(r - p);
}
/// Normals are unit, indices inside, and faces look where their normals do.
void checkSound(const Builder& b, const char* name)
{
    QVERIFY2(b.positions.size() == b.normals.size() && b.positions.size() == b.uvs.size(), name);
    QVERIFY2(b.indices.size() % 3 == 0, name);
    for (const std::uint32_t i : b.indices)
        QVERIFY2(i < b.positions.size(), name);
    for (std::size_t i = 0; i < b.positions.size(); ++i) {
        QVERIFY2(std::isfinite(b.positions[i].x + b.positions[i].y + b.positions[i].z), name);
        QVERIFY2(std::abs(b.normals[i].length() - 1.f) < 1e-3f, name);
        QVERIFY2(std::isfinite(b.uvs[i].x + b.uvs[i].y), name);
    }
}
} // namespace

class TestDemo : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aBoxHasItsSizeAndLooksOutward()
    {
        for (const float bevel : {0.004f, 0.02f, 0.2f}) {
            Builder b;
            b.box(Vec3(1, 2, 3), Vec3(2, 4, 6), bevel);
            const Extent e(b);
            for (int k = 0; k < 3; ++k)
                NEAR(e.hi[k] - e.lo[k], 2.0 * (k + 1), 1e-5);
            checkSound(b, "box");
            for (std::size_t t = 0; t < b.indices.size() / 3; ++t) {
                const Vec3 n = faceNormal(b, t);
                if (n.length() > 1e-7f)
                    QVERIFY(n.dot(b.positions[b.indices[t * 3]] - Vec3(1, 2, 3)) > 0.f);
            }
        }
    }

    void aTurnedBoxKeepsItsVolume()
    {
        const auto volume = [](const Builder& b) {
            double v = 0.0;
            for (std::size_t t = 0; t < b.indices.size(); t += 3) {
                const Vec3 &p = b.positions[b.indices[t]], &q = b.positions[b.indices[t + 1]],
                           &r = b.positions[b.indices[t + 2]];
                v += double(p.dot(q.cross(r))) / 6.0;
            }
            return v;
        };
        Builder straight, turned;
        straight.box(Vec3(0, 0, 0), Vec3(1, 2, 3), 0.05f);
        turned.box(Vec3(5, 1, -2), Vec3(1, 2, 3), 0.05f, 0.7f, 0.3f);
        QVERIFY(volume(straight) > 5.5 && volume(straight) < 6.0);
        NEAR(volume(turned), volume(straight), 1e-3);
    }

    void aTubeIsRoundAndAsThickAsAsked()
    {
        Builder b;
        b.tube(Vec3(0, 0, 0), Vec3(0, 3, 0), 0.5f, 0.2f, 24);
        checkSound(b, "tube");
        const Extent e(b);
        NEAR(e.hi.y - e.lo.y, 3.0, 0.02);
        for (const Vec3& p : b.positions) {
            const float wanted = 0.5f + (0.2f - 0.5f) * std::clamp(p.y / 3.f, 0.f, 1.f);
            QVERIFY(std::hypot(p.x, p.z) < wanted + 0.01f);
        }
    }

    void aQuadFacesItsCorners()
    {
        Builder b;
        b.quad(Vec3(0, 0, 0), Vec3(1, 0, 0), Vec3(1, 1, 0), Vec3(0, 1, 0));
        QCOMPARE(b.indices.size(), 6u);
        QVERIFY(faceNormal(b, 0).z * b.normals[0].z > 0.f);
        Builder leaf;
        leaf.blade(Vec3(0, 0, 0), Vec3(0.1f, 0.5f, 0), 0.02f);
        checkSound(leaf, "blade");
        NEAR(Extent(leaf).hi.y, 0.5, 1e-5);
    }

    void tiledNoiseRepeatsWithoutASeam()
    {
        for (int i = 0; i < 200; ++i) {
            const float x = 0.37f * static_cast<float>(i), y = 0.11f * static_cast<float>(i);
            QVERIFY(std::abs(tiledNoise(x, y, 8, 3) - tiledNoise(x + 8.f, y, 8, 3)) < 1e-4f);
            QVERIFY(std::abs(tiledNoise(x, y, 8, 3) - tiledNoise(x, y + 16.f, 8, 3)) < 1e-4f);
            const float v = tiledClouds(x, y, 8, 3), g = groundNoise(x, y, 4);
            QVERIFY(v >= 0.f && v <= 1.f && g >= -1.f && g <= 1.f);
            QVERIFY(std::abs(groundNoise(x, y, 4) - groundNoise(x + 1e-3f, y, 4)) < 0.02f);
        }
    }

    void texturesAreWholePicturesWithContrast()
    {
        const auto pictures = paintTextures();
        QCOMPARE(pictures.size(), static_cast<std::size_t>(pictureCount));
        std::set<std::string> names;
        for (const Picture& p : pictures) {
            QVERIFY(names.insert(p.name).second);
            QCOMPARE(p.rgb.size(), static_cast<std::size_t>(p.size * p.size * 3));
            const auto [lo, hi] = std::minmax_element(p.rgb.begin(), p.rgb.end());
            QVERIFY2(*hi - *lo > 30, p.name.c_str());
            // Left edge continues the right one: no seam larger than inside.
            double seam = 0.0, inside = 0.0;
            const auto at = [&](int x, int y) {
                return double(p.rgb[static_cast<std::size_t>((y * p.size + x) * 3 + 1)]);
            };
            for (int y = 0; y < p.size; ++y) {
                seam += std::abs(at(0, y) - at(p.size - 1, y));
                inside += std::abs(at(p.size / 2, y) - at(p.size / 2 - 1, y));
            }
            if (p.name != "planks") // a joint lies on the edge
                QVERIFY2(seam < 4.0 * inside + 6.0 * p.size, p.name.c_str());
        }
    }

    void everyPartOfTheLockIsSound()
    {
        const Marl m = whole();
        std::size_t triangles = 0;
        std::set<std::string> names;
        for (const Builder& b : m.meshes()) {
            checkSound(b, b.surface.name.c_str());
            QVERIFY2(names.insert(b.surface.name).second, b.surface.name.c_str());
            QVERIFY2(!b.indices.empty(), b.surface.name.c_str());
            QVERIFY(b.surface.roughness > 0.f && b.surface.roughness <= 1.f);
            triangles += b.indices.size() / 3;
        }
        QVERIFY2(triangles > 100000 && triangles < 300000, qPrintable(QString::number(triangles)));
    }

    void waterIsLevelAndTheBanksStandOverIt()
    {
        const Marl m = whole();
        const Extent water(m.water);
        QVERIFY(std::abs(water.hi.y) < 0.2f && water.hi.y - water.lo.y < 1.f);
        QVERIFY(water.lo.z < -300.f);
        for (float z = -20.f; z > -300.f; z -= 13.f)
            QVERIFY(groundHeight(canalLeft - 2.f, z) > 0.1f && groundHeight(canalLeft - 2.f, z) < 1.5f);
    }

    void postsStandEveryTwentyMetresAndOneIsLit()
    {
        Marl m;
        raiseLampPosts(m);
        std::map<int, int> perPost;
        for (const Vec3& p : m.iron.positions) {
            const float place = (-p.z - 10.f) / 20.f;
            QVERIFY(std::abs(place - std::round(place)) < 0.05f);
            ++perPost[static_cast<int>(std::round(place))];
        }
        QVERIFY(perPost.size() >= 15);
        QVERIFY(!m.litGlass.indices.empty());
        for (const Vec3& p : m.litGlass.positions)
            QVERIFY(std::abs(p.z + 10.f) < 0.5f);                               // the nearest
        QVERIFY(m.litGlass.surface.emission.x > m.litGlass.surface.emission.z); // warm
    }

    void poplarsReachFourHundredMetresInTwoRows()
    {
        Marl m;
        plantPoplars(m);
        float farthest = 0.f, tallest = 0.f;
        int left = 0, right = 0;
        for (const Vec3& p : m.bark.positions) {
            farthest = std::min(farthest, p.z);
            tallest = std::max(tallest, p.y);
            (p.x < canalLeft ? left : right) += 1;
        }
        QVERIFY(farthest < -380.f && farthest > -430.f);
        QVERIFY(tallest > 10.f && tallest < 35.f);
        QVERIFY(left > 1000 && right > 1000);
    }

    void theSameCodeBuildsTheSamePlace()
    {
        const Marl a = whole(), b = whole();
        const auto left = a.meshes(), right = b.meshes();
        QCOMPARE(left.size(), right.size());
        for (std::size_t i = 0; i < left.size(); ++i) {
            QVERIFY(left[i].positions == right[i].positions);
            QVERIFY(left[i].indices == right[i].indices);
        }
    }

    void whatIsWrittenIsReadBack()
    {
        QTemporaryDir dir;
        Builder b;
        b.surface.name = "crate";
        b.surface.colour = Vec3(0.4f, 0.3f, 0.2f);
        b.surface.roughness = 0.55f;
        b.surface.emission = Vec3(3.f, 2.f, 1.f);
        b.box(Vec3(0, 1, 0), Vec3(2, 2, 2), 0.f);
        const std::string file = dir.filePath("crate.glb").toStdString();
        writeGlb(file, {b}, {});
        JobControl job;
        const auto set = geometry::importSet(file, job);
        QCOMPARE(set->triangles, b.indices.size() / 3);
        QCOMPARE(set->materials.size(), 1u);
        const geometry::Material& m = set->materials[0];
        QCOMPARE(m.name, std::string("crate"));
        NEAR(m.roughness, 0.55, 1e-6);
        NEAR(m.baseColour.x, 0.4, 1e-6);
        NEAR(m.emission.x, 3.0, 1e-5);
        NEAR(m.emission.z, 1.0, 1e-5);
        QVERIFY((set->bounds.max - Vec3(1, 2, 1)).length() < 1e-5f);
    }

private:
    static Marl whole()
    {
        Marl m;
        layGround(m);
        buildLock(m);
        buildHut(m);
        buildBoat(m);
        buildBridge(m);
        raiseLampPosts(m);
        plantPoplars(m);
        sowGrass(m);
        return m;
    }
};
QTEST_APPLESS_MAIN(TestDemo)
#include "test_demo.moc"
