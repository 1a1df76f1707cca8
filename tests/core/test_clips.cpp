/// Animation that comes with a set: clips of glTF files, made here by hand.
#include "base/error.h"
#include "elements/kinds.h"
#include "geometry/set_geometry.h"
#include "support.h"

#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>
#include <QTemporaryDir>
#include <cmath>
#include <limits>

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
    QJsonArray nodes_, skins_;

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
};
QTEST_APPLESS_MAIN(TestClips)
#include "test_clips.moc"
