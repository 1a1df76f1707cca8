/// Animation that comes with a set: clips of glTF files, made here by hand.
#include "base/error.h"
#include "elements/kinds.h"
#include "geometry/fbx_check.h"
#include "geometry/set_geometry.h"
#include "support.h"

#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <algorithm>
#include <assimp/Exporter.hpp>
#include <assimp/scene.h>
#include <cmath>
#include <limits>
#include <memory>

using namespace hygros;

namespace {
/// A glTF with one triangle (0,0,0) (1,0,0) (0,1,0) on node 0, and accessors put together one by one.
class Maker {
public:
    Maker()
    {
        add({0, 0, 0, 1, 0, 0, 0, 1, 0}, "VEC3", 3);
        primitive_ = {{"attributes", QJsonObject{{"POSITION", 0}}}};
        nodes_ = {QJsonObject{{"mesh", 0}, {"name", "flag"}}};
    }
    int add(const std::vector<float>& values, const char* type, int width)
    {
        bytes(reinterpret_cast<const char*>(values.data()), static_cast<int>(values.size() * sizeof(float)));
        accessors_.append(QJsonObject{{"bufferView", views_.size() - 1},
                                      {"componentType", 5126},
                                      {"count", static_cast<int>(values.size()) / width},
                                      {"type", type}});
        return static_cast<int>(accessors_.size()) - 1;
    }
    int addBytes(const std::vector<unsigned char>& values)
    {
        bytes(reinterpret_cast<const char*>(values.data()), static_cast<int>(values.size()));
        accessors_.append(QJsonObject{{"bufferView", views_.size() - 1},
                                      {"componentType", 5121},
                                      {"count", static_cast<int>(values.size()) / 4},
                                      {"type", "VEC4"}});
        return static_cast<int>(accessors_.size()) - 1;
    }
    void clip(const char* name, const char* path, const std::vector<float>& times, const std::vector<float>& values,
              int width, const char* way = "LINEAR", int node = 0)
    {
        static const char* const types[] = {"", "SCALAR", "", "VEC3", "VEC4"};
        const int in = add(times, "SCALAR", 1), out = add(values, types[width], width);
        animations_.append(QJsonObject{
            {"name", name},
            {"samplers", QJsonArray{QJsonObject{{"input", in}, {"output", out}, {"interpolation", way}}}},
            {"channels",
             QJsonArray{QJsonObject{{"sampler", 0}, {"target", QJsonObject{{"node", node}, {"path", path}}}}}}});
    }
    QJsonObject primitive_;
    QJsonArray nodes_, skins_, lights_, cameras_;

    std::filesystem::path write(const QString& file) const
    {
        QJsonObject root{{"asset", QJsonObject{{"version", "2.0"}}},
                         {"scenes", QJsonArray{QJsonObject{{"nodes", QJsonArray{0}}}}},
                         {"scene", 0},
                         {"nodes", nodes_},
                         {"meshes", QJsonArray{QJsonObject{{"primitives", QJsonArray{primitive_}}, {"name", "flag"}}}},
                         {"accessors", accessors_},
                         {"bufferViews", views_},
                         {"buffers", QJsonArray{QJsonObject{{"byteLength", static_cast<int>(data_.size())},
                                                            {"uri", "data:application/octet-stream;base64," +
                                                                        QString::fromLatin1(data_.toBase64())}}}}};
        if (!animations_.isEmpty())
            root["animations"] = animations_;
        if (!skins_.isEmpty())
            root["skins"] = skins_;
        if (!lights_.isEmpty())
            root["extensions"] = QJsonObject{{"KHR_lights_punctual", QJsonObject{{"lights", lights_}}}};
        if (!cameras_.isEmpty())
            root["cameras"] = cameras_;
        QFile f(file);
        f.open(QFile::WriteOnly);
        f.write(QJsonDocument(root).toJson());
        return file.toStdString();
    }

private:
    void bytes(const char* from, int size)
    {
        views_.append(QJsonObject{{"buffer", 0}, {"byteOffset", static_cast<int>(data_.size())}, {"byteLength", size}});
        data_.append(from, size);
    }
    QByteArray data_;
    QJsonArray accessors_, views_, animations_;
};

Vec3 corner(const std::shared_ptr<const geometry::SetGeometry>& set, std::size_t i)
{
    return set->meshes.at(0).positions.at(i);
}
bool near(const Vec3& a, const Vec3& b) { return (a - b).length() < 1e-5f; }
} // namespace

class TestClips : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;
    QString path(const char* name) const { return folder_.filePath(name); }
    std::shared_ptr<const geometry::SetGeometry> at(const std::filesystem::path& file, int clip, double seconds) const
    {
        JobControl job;
        return geometry::posedSet(geometry::importSet(file, job), file, clip, seconds, job);
    }

private Q_SLOTS:
    void nodesMoveTurnAndGrow()
    {
        Maker m;
        const float half = std::sqrt(0.5f);
        m.clip("move", "translation", {1, 3}, {0, 0, 0, 4, 2, 0}, 3);
        m.clip("turn", "rotation", {0, 2}, {0, 0, 0, 1, 0, half, 0, half}, 4); // a quarter about Y
        m.clip("grow", "scale", {0, 1}, {1, 1, 1, 3, 3, 3}, 3, "STEP");
        // Cubic: from 0 to 1 with slopes 0 is 3u² − 2u³.
        m.clip("ease", "translation", {0, 2}, {0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0}, 3, "CUBICSPLINE");
        const auto file = m.write(path("moves.gltf"));
        JobControl job;
        const auto set = geometry::importSet(file, job);
        QCOMPARE(set->clips.size(), std::size_t{4});
        QCOMPARE(set->clips[1].name, std::string("turn"));
        QCOMPARE(set->clips[0].seconds, 3.0);
        QVERIFY(near(corner(set, 1), Vec3(1, 0, 0)));
        QVERIFY(near(corner(at(file, 0, 2.0), 1), Vec3(3, 1, 0)));
        QVERIFY(near(corner(at(file, 0, 0.0), 1), Vec3(1, 0, 0))); // before the first key
        QVERIFY(near(corner(at(file, 0, 9.0), 1), Vec3(5, 2, 0)));
        // Half of a quarter turn, along the arc: cos and sin of 45 degrees.
        QVERIFY(near(corner(at(file, 1, 1.0), 1), Vec3(half, 0, -half)));
        QVERIFY(near(corner(at(file, 2, 0.99), 1), Vec3(1, 0, 0)));
        QVERIFY(near(corner(at(file, 2, 1.0), 1), Vec3(3, 0, 0)));
        QVERIFY(near(corner(at(file, 3, 0.5), 0), Vec3(0.15625f, 0, 0)));
        QCOMPARE(geometry::posedSet(set, file, 7, 1.0, job), set); // no such clip: the set itself, not a pose of it
    }

    void skinsAndMorphTargetsAreSetUp()
    {
        Maker m;
        // Its third corner hangs half on each of two joints; one of them rises by 2.
        const int joints = m.addBytes({0, 0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0}),
                  weights = m.add({1, 0, 0, 0, 1, 0, 0, 0, 0.5f, 0.5f, 0, 0}, "VEC4", 4),
                  target = m.add({0, 0, 1, 0, 0, 1, 0, 0, 1}, "VEC3", 3);
        m.primitive_["attributes"] = QJsonObject{{"POSITION", 0}, {"JOINTS_0", joints}, {"WEIGHTS_0", weights}};
        m.primitive_["targets"] = QJsonArray{QJsonObject{{"POSITION", target}}};
        m.nodes_ = {QJsonObject{{"mesh", 0}, {"skin", 0}, {"children", QJsonArray{1, 2}}}, QJsonObject{},
                    QJsonObject{}};
        m.skins_ = {QJsonObject{{"joints", QJsonArray{1, 2}}}};
        m.clip("rise", "translation", {0, 1}, {0, 0, 0, 0, 2, 0}, 3, "LINEAR", 2);
        m.clip("bulge", "weights", {0, 1}, {0, 1}, 1);
        const auto file = m.write(path("skin.gltf"));
        QVERIFY(near(corner(at(file, 0, 1.0), 2), Vec3(0, 2, 0))); // 1 and half of 2
        QVERIFY(near(corner(at(file, 0, 1.0), 1), Vec3(1, 0, 0)));
        QVERIFY(near(corner(at(file, 1, 0.25), 1), Vec3(1, 0, 0.25f)));
    }

    void whatIsDamagedIsLeftOutAndSaid_data()
    {
        QTest::addColumn<std::vector<float>>("times");
        QTest::addColumn<std::vector<float>>("values");
        QTest::addColumn<QString>("why");
        const float nan = std::numeric_limits<float>::quiet_NaN();
        QTest::newRow("times that are no numbers")
            << std::vector<float>{0, nan} << std::vector<float>(6) << "do not rise";
        QTest::newRow("unsorted") << std::vector<float>{2, 1} << std::vector<float>(6) << "do not rise";
        QTest::newRow("values that are no numbers")
            << std::vector<float>{0, 1} << std::vector<float>{0, 0, 0, nan, 0, 0} << "are not numbers";
        QTest::newRow("too few values") << std::vector<float>{0, 1, 2} << std::vector<float>(6) << "too few values";
    }
    void whatIsDamagedIsLeftOutAndSaid()
    {
        QFETCH(std::vector<float>, times);
        QFETCH(std::vector<float>, values);
        QFETCH(QString, why);
        Maker m;
        m.clip("good", "translation", {0, 1}, {0, 0, 0, 1, 0, 0}, 3);
        m.clip("bad", "translation", times, values, 3);
        m.clip("astray", "translation", {0, 1}, std::vector<float>(6), 3, "LINEAR", 77);
        JobControl job;
        const auto set = geometry::importSet(m.write(path("bad.gltf")), job);
        QCOMPARE(set->clips.size(), std::size_t{1});
        QVERIFY2(set->trouble.find("'bad'") != std::string::npos &&
                     set->trouble.find(why.toStdString()) != std::string::npos &&
                     set->trouble.find("moves a node that is not there") != std::string::npos,
                 set->trouble.c_str());
    }

    void aMillionKeysAreRead()
    {
        Maker m;
        std::vector<float> times(1'000'000), values(3'000'000, 0.f);
        for (std::size_t i = 0; i < times.size(); ++i) {
            times[i] = static_cast<float>(i) * 0.001f;
            values[3 * i] = times[i];
        }
        m.clip("long", "translation", times, values, 3);
        const auto file = m.write(path("long.gltf"));
        QVERIFY(std::abs(corner(at(file, 0, 500.5), 0).x - 500.5f) < 0.01f);
    }

    void aSetMovesWithItsClipInTheShot()
    {
        Maker m;
        m.clip("move", "translation", {0, 2}, {0, 0, 0, 4, 0, 0}, 3);
        m.write(path("moves.gltf"));
        scene::Project p = elements::newProject();
        p.folder = folder_.path().toStdString();
        Store store;
        const elements::Kind& kind = *elements::findKind("set");
        kind.bring(p, path("moves.gltf").toStdString(), "moves.gltf", {}, store);
        QVERIFY(std::get<bool>(p.elements.back().value("plays")));
        const std::string id = p.elements.back().id;
        JobControl job;
        const auto left = [&](double frame) { // where the triangle begins
            p.frame = frame;
            return double(elements::freeze(p, store, job)->scene->bounds().min.x);
        };
        NEAR(left(1) + 1.0, 1.0, 1e-5);
        NEAR(left(26), 2.0, 1e-4);   // a second on
        NEAR(left(38.5), 3.0, 1e-4); // between two frames
        NEAR(left(76), 2.0, 1e-4);   // three seconds: it has come again
        p.find(id)->set("clipEnds", std::string("hold"));
        NEAR(left(76), 4.0, 1e-4);
        p.find(id)->set("clipEnds", std::string("swing"));
        NEAR(left(64), 4.0 - 2.0 * (63.0 / 25.0 - 2.0), 1e-3);
        p.find(id)->set("clipSpeed", 0.5);
        NEAR(left(26), 1.0, 1e-4);
        p.find(id)->set("clip", std::int64_t{4});
        const auto shot = elements::freeze(p, store, job);
        QVERIFY(shot->notes.at(0).text.find("only 1 clip;") != std::string::npos);
    }

    void lampsAndTheCameraOfAFileGoWithTheirParts()
    {
        Maker m;
        const auto carries = [](const char* name, double x, QJsonObject more) {
            more["name"] = name;
            more["translation"] = QJsonArray{x, 2.0, 0.0};
            return more;
        };
        const auto light = [](int which) {
            return QJsonObject{{"extensions", QJsonObject{{"KHR_lights_punctual", QJsonObject{{"light", which}}}}}};
        };
        m.nodes_ = {
            QJsonObject{{"mesh", 0}, {"name", "boat"}, {"children", QJsonArray{1, 2, 3, 4}}},
            carries("mast", 1.0, light(0)), carries("bow", 2.0, light(1)),
            carries("eye", 3.0,
                    QJsonObject{{"camera", 0}, {"rotation", QJsonArray{0.0, 0.0, std::sin(0.1), std::cos(0.1)}}}),
            carries("sky", 0.0, light(2))};
        m.lights_ = {QJsonObject{{"type", "point"}, {"intensity", 250.0}, {"color", QJsonArray{1.0, 0.5, 0.25}}},
                     QJsonObject{{"type", "spot"},
                                 {"name", "lamp"},
                                 {"intensity", 9000.0},
                                 {"spot", QJsonObject{{"innerConeAngle", 0.2}, {"outerConeAngle", 0.4}}}},
                     QJsonObject{{"type", "directional"}, {"intensity", 3.0}}};
        m.cameras_ = {QJsonObject{{"type", "perspective"},
                                  {"perspective", QJsonObject{{"yfov", 0.5}, {"znear", 0.1}, {"aspectRatio", 2.0}}}}};
        const float half = std::sqrt(0.5f);
        m.clip("sails", "translation", {0, 1}, {0, 0, 0, 10, 0, 0}, 3);
        m.clip("turns", "rotation", {0, 1}, {0, 0, 0, 1, 0, half, 0, half}, 4);
        m.write(path("boat.gltf"));
        scene::Project p = elements::newProject();
        p.folder = folder_.path().toStdString();
        Store store;
        JobControl job;
        elements::findKind("set")->bring(p, path("boat.gltf").toStdString(), "boat.gltf", {}, store);
        const std::string set = p.elements.back().id;
        p.find(set)->set("position", Vec3(0, 0, 5));
        p.find(set)->set("unit", std::string("centimetres"));
        p.find(set)->set("clipEnds", std::string("hold"));
        const elements::Taken taken = elements::takeFromFile(p, set, store, 1.5);
        QCOMPARE(taken.lamps.size(), std::size_t{2});
        QVERIFY(taken.camera);
        QCOMPARE(taken.distant, 1);
        QCOMPARE(elements::takeFromFile(p, set, store, 1.5).lamps.size(), std::size_t{0}); // not twice
        const auto lampAt = [&](std::size_t i, double frame) {
            p.frame = frame;
            return elements::freeze(p, store, job)->lamps.at(i);
        };
        QVERIFY(near(lampAt(0, 1).position, Vec3(0.01f, 0.02f, 5)));
        QVERIFY(near(lampAt(1, 1).position, Vec3(0.02f, 0.02f, 5)));
        QVERIFY(near(lampAt(1, 1).direction, Vec3(0, 0, -1)));
        NEAR(std::acos(double(lampAt(1, 1).cosOuter)), 0.4, 1e-4);
        NEAR(std::acos(double(lampAt(1, 1).cosInner)), 0.2, 1e-4);
        QVERIFY(near(lampAt(1, 26).position, Vec3(0.12f, 0.02f, 5))); // a second on: ten of the file's units
        const auto first = elements::freeze(p, store, job);
        QVERIFY(near(first->camera.position, Vec3(0.13f, 0.02f, 5)));
        QVERIFY(near((first->camera.aim - first->camera.position).normalized(), Vec3(0, 0, -1)));
        // Its node is turned by 0.2 rad against the clock, as seen from behind.
        NEAR(double(first->camera.roll), -0.2, 1e-5);
        // tan(half the height) times the file's own aspect is half the sensor by the focal length.
        NEAR(double(first->camera.focalMm), 18.0 / (std::tan(0.25) * 2.0), 1e-3);
        // Turned by a quarter about the vertical: what looked along −Z looks along −X.
        p.find(set)->set("clip", std::int64_t{2});
        QVERIFY(near(lampAt(1, 26).position, Vec3(0, 0.02f, 4.98f)));
        QVERIFY(near(lampAt(1, 26).direction, Vec3(-1, 0, 0)));
        // Let go, it stays where it stands; a part that is not there is said.
        elements::setValue(p, taken.lamps[1], "follows", std::string(), store);
        QVERIFY(near(lampAt(1, 26).position, Vec3(0, 0.02f, 4.98f)));
        elements::setValue(p, taken.lamps[1], "follows", set + "/rudder", store);
        const auto shot = elements::freeze(p, store, job);
        QVERIFY(std::any_of(shot->notes.begin(), shot->notes.end(), [](const shot::Note& n) {
            return n.text.find("part of the set that it goes with is not there") != std::string::npos;
        }));
        // Looked from elsewhere, the camera keeps riding on its part.
        geometry::Camera from;
        from.position = Vec3(1, 2, 3);
        from.aim = Vec3(1, 2, -3);
        from.roll = 0.2f;
        elements::lookFrom(p, from, store);
        QVERIFY(near(elements::freeze(p, store, job)->camera.position, Vec3(1, 2, 3)));
        NEAR(double(elements::freeze(p, store, job)->camera.roll), 0.2, 1e-5);
        QCOMPARE(std::get<std::string>(elements::cameraOf(p)->value("follows")), set + "/eye");
    }

    void clipsOfFbxFilesPlay()
    {
        // A board that moves by (2, 0, 4) in a second and turns by a quarter about the vertical, with a bone that lifts
        // its last corner; written by the library's own writer.
        auto* scene = new aiScene;
        scene->mRootNode = new aiNode("root");
        auto *board = new aiNode("board"), *bone = new aiNode("bone");
        scene->mRootNode->addChildren(1, &board);
        scene->mRootNode->addChildren(1, &bone);
        scene->mNumMaterials = 1;
        scene->mMaterials = new aiMaterial* [1] { new aiMaterial };
        auto* mesh = new aiMesh;
        mesh->mPrimitiveTypes = aiPrimitiveType_TRIANGLE;
        mesh->mName = "board";
        mesh->mNumVertices = 3;
        mesh->mVertices = new aiVector3D[3]{{0, 0, 0}, {1, 0, 0}, {0, 1, 0}};
        mesh->mNormals = new aiVector3D[3]{{0, 0, 1}, {0, 0, 1}, {0, 0, 1}};
        mesh->mNumFaces = 1;
        mesh->mFaces = new aiFace[1];
        mesh->mFaces[0].mNumIndices = 3;
        mesh->mFaces[0].mIndices = new unsigned[3]{0, 1, 2};
        scene->mNumMeshes = 1;
        scene->mMeshes = new aiMesh* [1] { mesh };
        board->mNumMeshes = 1;
        board->mMeshes = new unsigned[1]{0};
        auto* channel = new aiNodeAnim;
        channel->mNodeName = "board";
        channel->mNumPositionKeys = channel->mNumRotationKeys = 2;
        channel->mPositionKeys = new aiVectorKey[2]{{0.0, {0, 0, 0}}, {1.0, {2, 0, 4}}};
        const float quarter = pi / 2;
        channel->mRotationKeys = new aiQuatKey[2]{{0.0, aiQuaternion()},
                                                  {1.0, aiQuaternion(aiVector3D(0, 1, 0), quarter)}};
        channel->mNumScalingKeys = 1;
        channel->mScalingKeys = new aiVectorKey[1]{{0.0, {1, 1, 1}}};
        auto* clip = new aiAnimation;
        clip->mName = "sway";
        clip->mDuration = 1.0; // seconds, as the writer takes them
        clip->mTicksPerSecond = 1.0;
        clip->mNumChannels = 1;
        clip->mChannels = new aiNodeAnim* [1] { channel };
        scene->mNumAnimations = 1;
        scene->mAnimations = new aiAnimation* [1] { clip };
        Assimp::Exporter exporter;
        const std::unique_ptr<aiScene> owner(scene);
        QVERIFY2(exporter.Export(scene, "fbxa", qPrintable(path("board.fbx"))) == AI_SUCCESS,
                 exporter.GetErrorString());
        const std::filesystem::path file = path("board.fbx").toStdString();
        JobControl job;
        const auto set = geometry::importSet(file, job);
        QCOMPARE(set->clips.size(), std::size_t{1});
        NEAR(set->clips[0].seconds, 1.0, 0.05);
        // The file may count in centimetres: distances are held against the board's own edge.
        const auto edge = [](const auto& s) { return (corner(s, 1) - corner(s, 0)).length(); };
        const auto moved = [&](double seconds) {
            const auto posed = at(file, 0, seconds);
            return (corner(posed, 0) - corner(set, 0)) * (1.f / edge(set));
        };
        QVERIFY(edge(set) > 0.f);
        QVERIFY((moved(0.0)).length() < 1e-3f);
        QVERIFY((moved(0.5) - Vec3(1, 0, 2)).length() < 0.05f);
        QVERIFY((moved(1.0) - Vec3(2, 0, 4)).length() < 0.01f);
        const auto posed = at(file, 0, 1.0);
        QVERIFY(near((corner(posed, 1) - corner(posed, 0)).normalized(), Vec3(0, 0, -1)));
        const auto& parts = posed->parts;
        QVERIFY(std::any_of(parts.begin(), parts.end(), [](const geometry::Part& p) { return p.name == "board"; }));
    }

    void modelsThatHangOnThemselvesAreRefused_data()
    {
        // Two floors of one model each, and what hangs on what.
        QTest::addColumn<QByteArray>("links");
        QTest::addColumn<int>("models");
        QTest::addColumn<QString>("said");
        QTest::addColumn<QByteArray>("kind");
        const auto link = [](int child, int parent) {
            return QByteArray::number(child) + " " + QByteArray::number(parent) + "\n";
        };
        QTest::newRow("well") << link(1, 0) + link(2, 1) + link(3, 1) + link(3, 2) << 3 << QString()
                              << QByteArray("OO");
        QTest::newRow("on itself") << link(1, 0) + link(1, 1) << 1 << QString("in a circle") << QByteArray("OO");
        // Whatever is no link of a property is followed as one of objects.
        QTest::newRow("on itself by another kind")
            << link(1, 0) + link(1, 1) << 1 << QString("in a circle") << QByteArray("OP:O");
        QTest::newRow("properties of each other") << link(1, 2) + link(2, 1) << 2 << QString() << QByteArray("PP");
        QTest::newRow("two on each other")
            << link(1, 0) + link(1, 2) + link(2, 1) << 2 << QString("in a circle") << QByteArray("OO");
        QTest::newRow("a circle apart") << link(1, 0) + link(2, 3) + link(3, 2) << 3 << QString("in a circle")
                                        << QByteArray("OO");
        QByteArray chain, doubled;
        for (int i = 1; i <= 1500; ++i)
            chain += link(i, i - 1);
        QTest::newRow("a chain") << chain << 1500 << QString("more than 1000 deep") << QByteArray("OO");
        // Each of two on both of the two above: a thousand million places.
        doubled = link(1, 0) + link(2, 0);
        for (int i = 3; i < 60; i += 2)
            doubled += link(i, i - 2) + link(i, i - 1) + link(i + 1, i - 2) + link(i + 1, i - 1);
        QTest::newRow("on several") << doubled << 60 << QString("more than a million places") << QByteArray("OO");
    }
    void modelsThatHangOnThemselvesAreRefused()
    {
        QFETCH(QByteArray, links);
        QFETCH(int, models);
        QFETCH(QString, said);
        QFETCH(QByteArray, kind);
        const auto check = [&](const QByteArray& bytes, const char* name) {
            QFile f(path(name));
            QVERIFY(f.open(QIODevice::WriteOnly) && f.write(bytes) == bytes.size());
            f.close();
            const std::filesystem::path file = path(name).toStdString();
            if (said.isEmpty()) {
                geometry::checkFbx(file);
            } else {
                THROWS_SAYING(geometry::checkFbx(file), said);
                JobControl job;
                THROWS_SAYING(geometry::importSet(file, job), said);
            }
        };
        QByteArray text = "; FBX 7.4.0 project file\nFBXHeaderExtension:  {\n\tFBXVersion: 7400\n}\nObjects:  {\n";
        for (int i = 1; i <= models; ++i)
            text += "\tModel: " + QByteArray::number(i) + ", \"Model::m\", \"Mesh\" {\n\t\tVersion: 232\n\t}\n";
        text += "}\nConnections:  {\n";
        for (const QByteArray& line : links.trimmed().split('\n'))
            text += "\tC: \"" + kind + "\"," + line.split(' ')[0] + "," + line.split(' ')[1] + "\n";
        check(text + "}\n", "text.fbx");
        // The same with binary records, narrow and wide.
        for (const quint32 version : {7400u, 7500u}) {
            const int wide = version < 7500 ? 4 : 8;
            const auto number = [](quint64 v, int bytes) {
                return QByteArray(reinterpret_cast<const char*>(&v), bytes);
            };
            const auto record = [&](qsizetype at, const QByteArray& key, int count, const QByteArray& values,
                                    const auto& inner) {
                const qsizetype head = 3 * wide + 1 + key.size() + values.size();
                const QByteArray within = inner(at + head);
                return number(quint64(at + head + within.size()), wide) + number(quint64(count), wide) +
                       number(quint64(values.size()), wide) + number(quint64(key.size()), 1) + key + values + within;
            };
            const auto nothing = [](qsizetype) { return QByteArray(); };
            QByteArray out = QByteArray(20, 'x') + QByteArray("\0\x1a\0", 3) + number(version, 4);
            out += record(out.size(), "Objects", 0, {}, [&](qsizetype at) {
                QByteArray all;
                for (int i = 1; i <= models; ++i)
                    all += record(at + all.size(), "Model", 1, "L" + number(quint64(i), 8), nothing);
                return all + QByteArray(3 * wide + 1, 0);
            });
            out += record(out.size(), "Connections", 0, {}, [&](qsizetype at) {
                QByteArray all;
                for (const QByteArray& line : links.trimmed().split('\n'))
                    all += record(at + all.size(), "C", 3,
                                  "S" + number(quint64(kind.size()), 4) + kind + "L" +
                                      number(line.split(' ')[0].toULongLong(), 8) + "L" +
                                      number(line.split(' ')[1].toULongLong(), 8),
                                  nothing);
                return all + QByteArray(3 * wide + 1, 0);
            });
            check(out + QByteArray(3 * wide + 1, 0), "binary.fbx");
        }
        const QString was = said;
        said = "more than 64 deep";
        check("Objects: " + QByteArray(100, '{'), "deep.fbx");
    }
};
QTEST_APPLESS_MAIN(TestClips)
#include "test_clips.moc"
