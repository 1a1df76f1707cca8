#include "base/atomic_file.h"
#include "base/error.h"
#include "geometry/camera.h"
#include "geometry/set_rays.h"
#include "support.h"

#include <cstring>
#include <fstream>
#include <random>

using namespace hygros;
using namespace hygros::geometry;

namespace {
const char* const cube = "v -1 0 -1\nv 1 0 -1\nv 1 0 1\nv -1 0 1\nv -1 2 -1\nv 1 2 -1\nv 1 2 1\nv -1 2 1\n"
                         "f 1 2 3 4\nf 8 7 6 5\nf 1 5 6 2\nf 2 6 7 3\nf 3 7 8 4\nf 4 8 5 1\n";
std::shared_ptr<const SetGeometry> import(const QString& file)
{
    JobControl job;
    return importSet(file.toStdString(), job);
}
} // namespace

class TestGeometry : public QObject {
    Q_OBJECT
    QTemporaryDir dir_;
    QString write(const char* name, const QByteArray& bytes)
    {
        const QString file = dir_.filePath(name);
        writeTextAtomically(file.toStdString(), bytes.toStdString());
        return file;
    }

private Q_SLOTS:
    void objCubeHasTwelveTrianglesAndItsSize()
    {
        const auto set = import(write("cube.obj", cube));
        QCOMPARE(set->triangles, 12u);
        QCOMPARE(set->bounds.min, Vec3(-1, 0, -1));
        QCOMPARE(set->bounds.max, Vec3(1, 2, 1));
    }

    void theLockAtMarlIsAPlaceInMetres()
    {
        const auto set = import(QString(SOURCE_DIR) + "/demo/marl.glb");
        QVERIFY(set->triangles > 100000 && set->triangles < 300000);
        QVERIFY(set->bounds.max.y > 50.f && set->bounds.max.y < 400.f);
        const auto water = std::find_if(set->materials.begin(), set->materials.end(),
                                        [](const Material& m) { return m.name == "water"; });
        QVERIFY(water != set->materials.end() && water->roughness < 0.1f);
        QVERIFY(std::count_if(set->materials.begin(), set->materials.end(),
                              [](const Material& m) { return m.texture != nullptr; }) >= 6);
    }

    void brokenFilesAreNamedAndRefused()
    {
        THROWS_SAYING(import(dir_.filePath("none.glb")), "there is no such file");
        THROWS_SAYING(import(write("a.xyz", "x")), "not one that can be read");
        THROWS_SAYING(import(write("garbage.glb", "this is not a glb file at all")), "damaged");
        THROWS_SAYING(import(write("empty.gltf", "{\"asset\":{\"version\":\"2.0\"}}")), "no faces");
        QFile whole(QString(SOURCE_DIR) + "/demo/marl.glb");
        QVERIFY(whole.open(QIODevice::ReadOnly));
        const QByteArray bytes = whole.readAll();
        for (const auto part : {bytes.size() / 3, bytes.size() * 9 / 10, qsizetype(100)})
            THROWS_SAYING(import(write("cut.glb", bytes.left(part))), "Nothing was replaced");
        // An index beyond the vertices, in a file that is otherwise whole.
        const QByteArray buffer = QByteArray(36, '\0') + QByteArray("\x00\x00\x01\x00\x09\x00", 6);
        QByteArray json = "{'asset':{'version':'2.0'},'buffers':[{'byteLength':42,'uri':'data:application/"
                          "octet-stream;base64,DATA'}],"
                          "'bufferViews':[{'buffer':0,'byteLength':36},{'buffer':0,'byteOffset':36,'byteLength':6}],"
                          "'accessors':[{'bufferView':0,'componentType':5126,'count':3,'type':'VEC3'},"
                          "{'bufferView':1,'componentType':5123,'count':3,'type':'SCALAR'}],"
                          "'meshes':[{'primitives':[{'attributes':{'POSITION':0},'indices':1}]}],'nodes':[{'mesh':0}],"
                          "'scenes':[{'nodes':[0]}],'scene':0}";
        json.replace('\'', '"').replace("DATA", buffer.toBase64());
        THROWS_SAYING(import(write("index.gltf", json)), "a vertex that is not there");
    }

    void aSetStandsInManyPlacesWithOneRayStructure()
    {
        JobControl job;
        const auto set = import(write("many.obj", cube));
        int built = 0;
        std::shared_ptr<const SetRays> kept;
        const auto raysOf = [&](const PlacedSet& p) {
            if (!kept) {
                kept = std::make_shared<const SetRays>(p.set, p.without, job);
                ++built;
            }
            return kept;
        };
        // One as it is; one ten metres aside, turned by 45 degrees and twice as large.
        PlacedSet turned{set, Mat4()};
        Mat4 scale, turn, move;
        scale.setScale(Vec3(2.f));
        turn.rotate(Vec3(0.f, float(M_PI) / 4.f, 0.f));
        move.setTranslation(Vec3(10.f, 0.f, 0.f));
        turned.toWorld = scale * turn * move;
        turned.order = 7;
        const RayScene scene({{set, Mat4()}, turned}, job, raysOf);
        QCOMPARE(built, 1);
        QCOMPARE(scene.triangles(), 24u);
        NEAR(scene.bounds().max.y, 4.0, 1e-5);
        NEAR(scene.bounds().max.x, 10.0 + 2.0 * std::sqrt(2.0), 1e-4);
        Hit hit;
        QVERIFY(scene.trace(Vec3(0, 1, 5), Vec3(0, 0, -1), 0.f, 100.f, hit));
        NEAR(hit.t, 4.0, 1e-5);
        QCOMPARE(int(hit.set), 0);
        // From in front one looks at its edge, whose faces stand at 45 degrees.
        QVERIFY(scene.trace(Vec3(10.3f, 1, 8), Vec3(0, 0, -1), 0.f, 100.f, hit));
        NEAR(hit.t, 8.0 - (2.0 * std::sqrt(2.0) - 0.3), 1e-4);
        NEAR(hit.geometricNormal.x, std::sqrt(0.5), 1e-4);
        NEAR(hit.geometricNormal.z, std::sqrt(0.5), 1e-4);
        QCOMPARE(int(hit.set), 7);
        QVERIFY(scene.occluded(Vec3(10, 1, 8), Vec3(0, 0, -1), 100.f));
        QVERIFY(!scene.occluded(Vec3(5, 1, 8), Vec3(0, 0, -1), 100.f));
        // To stand elsewhere takes nothing but that.
        turned.toWorld = scale * move;
        QVERIFY(
            RayScene({{set, Mat4()}, turned}, job, raysOf).trace(Vec3(10.3f, 1, 8), Vec3(0, 0, -1), 0.f, 100.f, hit));
        NEAR(hit.t, 6.0, 1e-5);
        QCOMPARE(built, 1);
    }

    void eightRaysOfSightMeetWhatEachWould()
    {
        JobControl job;
        const auto set = import(write("eight.obj", cube));
        std::mt19937 random(5);
        const auto u = [&](float lo, float hi) { return std::uniform_real_distribution<float>(lo, hi)(random); };
        std::vector<PlacedSet> sets;
        for (int i = 0; i < 9; ++i) {
            PlacedSet p{set, Mat4()};
            Mat4 turn, move;
            turn.rotate(Vec3(u(0, 3), u(0, 3), u(0, 3)));
            move.setTranslation(Vec3(u(-6, 6), u(-3, 3), u(-12, 0)));
            p.toWorld = turn * move;
            p.order = static_cast<std::uint16_t>(i);
            p.visible = i != 4;
            if (i == 7) {
                p.toWorldLater = p.toWorld;
                (*p.toWorldLater)[3][0] += 3.f;
            }
            sets.push_back(p);
        }
        for (const auto& of : {sets, std::vector<PlacedSet>{{set, Mat4()}}}) {
            const RayScene scene(of, job);
            int met = 0;
            for (int round = 0; round < 200; ++round) {
                SightRays8 rays;
                for (int i = 0; i < 8; ++i) {
                    rays.origin[i] = Vec3(u(-1, 1), u(-1, 1), 8.f);
                    rays.direction[i] = Vec3(u(-0.5f, 0.5f), u(-0.4f, 0.4f), -1.f).normalized();
                    rays.time[i] = u(0, 1);
                }
                const unsigned active = round % 3 ? 0xffu : static_cast<unsigned>(round) & 0xffu;
                // As left by a look at something else, at water's underside say.
                Hit used;
                used.facet = Vec3(1.f);
                used.matte = true;
                used.water = reinterpret_cast<const WaterSurface*>(&used);
                Hit hits[8];
                std::fill_n(hits, 8, used);
                const unsigned found = scene.trace8(rays, active, 1e-3f, 50.f, hits);
                QCOMPARE(found & ~active, 0u);
                for (unsigned i = 0; i < 8; ++i) {
                    Hit alone, again = used;
                    if (!((active >> i) & 1u))
                        continue;
                    if (scene.traceSets(rays.origin[i], rays.direction[i], 1e-3f, 50.f, again, rays.time[i]))
                        QVERIFY(!again.water && again.facet == Vec3(0.f) && !again.matte);
                    QCOMPARE(scene.trace(rays.origin[i], rays.direction[i], 1e-3f, 50.f, alone, rays.time[i]),
                             bool((found >> i) & 1u));
                    if (!((found >> i) & 1u))
                        continue;
                    ++met;
                    NEAR(hits[i].t, alone.t, 1e-5);
                    QCOMPARE(int(hits[i].set), int(alone.set));
                    QVERIFY((hits[i].normal - alone.normal).length() < 1e-4f);
                    QVERIFY(hits[i].material == alone.material);
                    QVERIFY(hits[i].facet == alone.facet && hits[i].matte == alone.matte && !hits[i].water);
                }
            }
            QVERIFY(met > 100);
        }
    }

    void whatMovesIsWhereItIsAtThatTime()
    {
        JobControl job;
        PlacedSet moving{import(write("moving.obj", cube)), Mat4()};
        Mat4 later;
        later.setTranslation(Vec3(8.f, 0.f, 0.f));
        moving.toWorldLater = later;
        const RayScene scene({moving}, job);
        QVERIFY(scene.moves());
        QVERIFY(!RayScene({{moving.set, Mat4()}}, job).moves());
        NEAR(scene.bounds().max.x, 9.0, 1e-5);
        Hit hit;
        for (const float time : {0.f, 0.25f, 0.5f, 1.f}) {
            const Vec3 there(8.f * time, 1.f, 5.f),
                elsewhere(8.f * (1.f - time) + (time == 0.5f ? 2.f : 0.f), 1.f, 5.f);
            QVERIFY(scene.trace(there, Vec3(0, 0, -1), 0.f, 100.f, hit, time));
            NEAR(hit.t, 4.0, 1e-5);
            NEAR(hit.geometricNormal.z, 1.0, 1e-5);
            QVERIFY(scene.occluded(there, Vec3(0, 0, -1), 100.f, time));
            QVERIFY(!scene.trace(elsewhere, Vec3(0, 0, -1), 0.f, 100.f, hit, time));
            ShadowRays8 rays;
            for (int i = 0; i < 8; ++i) {
                const Vec3& o = i < 4 ? there : elsewhere;
                rays.ox[i] = o.x, rays.oy[i] = o.y, rays.oz[i] = o.z;
                rays.dx[i] = rays.dy[i] = 0.f, rays.dz[i] = -1.f, rays.reach[i] = 100.f;
            }
            rays.time = time;
            QCOMPARE(scene.occluded8(rays, 0xffu), 0x0fu);
        }
    }

    void whatCastsShadowsAndWhatIsSeenAreToldApart()
    {
        JobControl job;
        PlacedSet seen{import(write("seen.obj", cube)), Mat4()}, casts = seen;
        seen.casts = false;
        casts.visible = false;
        casts.toWorld.setTranslation(Vec3(6.f, 0.f, 0.f));
        const RayScene scene({seen, casts}, job);
        Hit hit;
        const Vec3 toSeen(0, 1, 5), toCasting(6, 1, 5), ahead(0, 0, -1);
        QVERIFY(scene.trace(toSeen, ahead, 0.f, 100.f, hit) && !scene.occluded(toSeen, ahead, 100.f));
        QVERIFY(!scene.trace(toCasting, ahead, 0.f, 100.f, hit) && scene.occluded(toCasting, ahead, 100.f));
        QVERIFY(!scene.blocked(toSeen, ahead, 100.f, hit) && scene.blocked(toCasting, ahead, 100.f, hit));
        NEAR(hit.t, 4.0, 1e-5);
    }

    void importCanBeCancelled()
    {
        JobControl job;
        job.cancel();
        bool cancelled = false;
        try {
            importSet((QString(SOURCE_DIR) + "/demo/marl.glb").toStdString(), job);
        } catch (const Cancelled&) {
            cancelled = true;
        }
        QVERIFY(cancelled);
    }

    void raysMeetWhatStandsInTheirWay()
    {
        const auto scene = test::plate(2.f, 5.f);
        Hit hit;
        QVERIFY(scene->trace(Vec3(1, 10, 1), Vec3(0, -1, 0), 0.f, 100.f, hit));
        NEAR(hit.t, 8.0, 1e-5);
        QVERIFY(hit.normal.y > 0.99f);
        QVERIFY(!scene->trace(Vec3(9, 10, 1), Vec3(0, -1, 0), 0.f, 100.f, hit));
        QVERIFY(scene->occluded(Vec3(0, 0, 0), Vec3(0, 1, 0), 5.f));
        QVERIFY(!scene->occluded(Vec3(0, 0, 0), Vec3(0, 1, 0), 1.9f));
        ShadowRays8 rays;
        for (int i = 0; i < 8; ++i) {
            rays.ox[i] = static_cast<float>(i) * 1.5f;
            rays.oy[i] = 0.f;
            rays.oz[i] = rays.dx[i] = rays.dz[i] = 0.f;
            rays.dy[i] = 1.f;
            rays.reach[i] = 10.f;
        }
        QCOMPARE(scene->occluded8(rays, 0xffu), 0x0fu);
        QCOMPARE(scene->occluded8(rays, 0x03u), 0x03u);
    }

    void cameraProjectsWhereItsRaysGo()
    {
        const Camera camera{Vec3(1, 2, 3), Vec3(5, 1, -20), 50.f, 36.f};
        const View view(camera, 960, 540);
        for (const auto& [x, y] : {std::pair(0.5f, 0.5f), std::pair(480.f, 270.f), std::pair(900.f, 33.f)}) {
            Vec2 pixel(0.f, 0.f);
            float depth = 0.f;
            QVERIFY(view.project(camera.position + view.direction(x, y) * 17.f, pixel, depth));
            QVERIFY(std::abs(pixel.x - x) < 0.01f && std::abs(pixel.y - y) < 0.01f);
        }
        // 36 mm behind 50 mm: 39.6° across.
        const float across = std::acos(view.direction(0, 270).dot(view.direction(960, 270)));
        NEAR(across * 180 / pi, 39.5978, 1e-4);
        Vec2 pixel(0.f, 0.f);
        float depth = 0.f;
        QVERIFY(!view.project(Vec3(-3, 3, 26), pixel, depth));
    }

    void plyIsReadInAllItsFormsAndRefusedWhenTorn()
    {
        const QTemporaryDir dir;
        const auto path = (dir.path() + "/quad.ply").toStdString();
        JobControl job;
        const auto write = [&](const std::string& bytes) {
            std::ofstream(path, std::ios::binary | std::ios::trunc) << bytes;
        };
        const auto header = [](const char* form, const char* corners) {
            return std::string("ply\nformat ") + form +
                   " 1.0\ncomment made up\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\n"
                   "property uchar red\nelement face 1\nproperty list uchar " +
                   corners + " vertex_indices\nend_header\n";
        };
        const auto whole = [&] {
            const auto set = importSet(path, job);
            QCOMPARE(set->triangles, std::size_t{2}); // a quad as a fan
            QCOMPARE(set->meshes[0].positions[2], Vec3(2, 0, -3));
            QVERIFY(set->meshes[0].normals[0].y > 0.99f);
        };
        write(header("ascii", "int") + "0 0 0 1\n2 0 0 2\n2 0 -3 3\n0 0 -3 4\n4 0 1 2 3\n");
        whole();
        for (const bool big : {false, true}) {
            std::string body;
            const auto put = [&](auto value) {
                char raw[sizeof(value)];
                std::memcpy(raw, &value, sizeof(value));
                if (big)
                    std::reverse(raw, raw + sizeof(value));
                body.append(raw, sizeof(value));
            };
            for (const Vec3& p : {Vec3(0, 0, 0), Vec3(2, 0, 0), Vec3(2, 0, -3), Vec3(0, 0, -3)}) {
                for (int c = 0; c < 3; ++c)
                    put(p[c]);
                put(std::uint8_t{9});
            }
            put(std::uint8_t{4});
            for (std::uint32_t i = 0; i < 4; ++i)
                put(i);
            const std::string all = header(big ? "binary_big_endian" : "binary_little_endian", "uint") + body;
            write(all);
            whole();
            write(all.substr(0, all.size() - 3));
            THROWS_SAYING(importSet(path, job), "ends early");
        }
        std::string many = header("binary_little_endian", "uint");
        many.replace(many.find("vertex 4"), 8, "vertex 4000000000000");
        write(many);
        THROWS_SAYING(importSet(path, job), "fewer bytes");
        write(header("ascii", "int") + "0 0 0 1\n2 0 0 2\n2 0 -3 3\n0 0 -3 4\n4 0 1 2 77\n");
        THROWS_SAYING(importSet(path, job), "not there");
    }

    void raysThroughALensMeetWhereItIsFocused()
    {
        Camera camera{Vec3(1, 2, 3), Vec3(5, 1, -20), 50.f, 36.f};
        camera.focus = 8.f;
        const SightRay pinhole = View(camera, 960, 540).ray(700.f, 60.f, 0.9f, 0.1f, 0.25f);
        QCOMPARE(pinhole.origin, camera.position);
        QCOMPARE(pinhole.time, 0.25f);
        camera.lensRadius = 0.02f;
        const View view(camera, 960, 540);
        const Vec3 sharp = camera.position + view.unnormalized(700.f, 60.f) * 8.f;
        double second = 0.0;
        constexpr int n = 32;
        for (int i = 0; i < n; ++i)
            for (int j = 0; j < n; ++j) {
                const SightRay r = view.ray(700.f, 60.f, (float(i) + 0.5f) / n, (float(j) + 0.5f) / n);
                const Vec3 away = r.origin - camera.position;
                QVERIFY(away.length() <= 0.02f + 1e-6f && std::abs(away.dot(view.forward())) < 1e-6f);
                QVERIFY((sharp - r.origin).cross(r.direction).length() < 1e-5f);
                QVERIFY(std::abs(r.direction.length() - 1.f) < 1e-5f);
                second += double(away.length2());
            }
        // An even disc: the mean of the squares is R²/2.
        NEAR(second / (n * n), 0.0002, 5e-3);
    }

    void aRolledCameraLeans()
    {
        Camera camera{Vec3(0, 2, 10), Vec3(0, 2, 0), 36.f, 36.f};
        camera.roll = 0.3f;
        const View view(camera, 1000, 600);
        // Clockwise as seen from behind: what stands on the horizon at the right goes up in the picture.
        Vec2 right, middle;
        float depth = 0.f;
        QVERIFY(view.project(Vec3(3, 2, 0), right, depth) && view.project(camera.aim, middle, depth));
        NEAR(double(right.x - middle.x), 300.0 * std::cos(0.3), 1e-4);
        NEAR(double(middle.y - right.y), 300.0 * std::sin(0.3), 1e-4);
        // What a pixel sees is where it is drawn.
        camera.aim = Vec3(4, -1, -3);
        const View aside(camera, 1000, 600);
        for (const Vec2& p : {Vec2(12.5f, 30.5f), Vec2(900.5f, 77.5f), Vec2(400.5f, 580.5f)}) {
            Vec2 back;
            QVERIFY(aside.project(camera.position + aside.direction(p.x, p.y) * 7.f, back, depth));
            QVERIFY((back - p).length() < 0.01f);
        }
        QVERIFY(std::abs(aside.up().dot(aside.right())) < 1e-6f && std::abs(aside.up().length() - 1.f) < 1e-6f);
        NEAR(double(geometry::rollOf(aside.forward(), aside.up())), 0.3, 1e-5);
        QCOMPARE(geometry::rollOf(Vec3(1, 0.5f, 2), Vec3(0, 1, 0)), 0.f);
        // Carried by a frame that leans by itself about the same way; there and back it is the same.
        Camera level{Vec3(0, 0, 0), Vec3(0, 0, -5), 36.f, 36.f};
        Mat4 leans;
        leans.setAxisAngle(Vec3(0, 0, -1), 0.2f);
        NEAR(double(geometry::carriedBy(level, leans).roll), 0.2, 1e-5);
        Mat4 any, moved;
        any.setAxisAngle(Vec3(0.3f, 0.8f, -0.5f).normalized(), 0.7f);
        moved.setTranslation(Vec3(3, -2, 8));
        any = any * moved;
        const Camera there = geometry::carriedBy(camera, any), again = geometry::carriedBy(there, any.inverse());
        NEAR(double(again.roll), 0.3, 1e-4);
        QVERIFY((again.aim - camera.aim).length() < 1e-4f);
    }

    void textureIsLinearAndFadesToItsMeanFarAway()
    {
        std::vector<std::uint8_t> checks;
        for (int y = 0; y < 64; ++y)
            for (int x = 0; x < 64; ++x)
                for (int c = 0; c < 3; ++c)
                    checks.push_back((x / 8 + y / 8) % 2 ? 255 : 0);
        const Texture t(64, 64, checks);
        QVERIFY(t.sample(Vec2(12.f / 64, 4.f / 64), 0.f).x > 0.99f);
        QVERIFY(t.sample(Vec2(4.f / 64, 4.f / 64), 0.f).x < 0.01f);
        QVERIFY(std::abs(t.sample(Vec2(0.3f, 0.7f), 1.f).x - 0.2140f) < 0.01f); // sRGB 0.5
        QCOMPARE(t.sample(Vec2(-3.f + 12.f / 64, 7.f + 4.f / 64), 0.f).x, t.sample(Vec2(12.f / 64, 4.f / 64), 0.f).x);
    }
};
QTEST_APPLESS_MAIN(TestGeometry)
#include "test_geometry.moc"
