/// Collecting: what belongs to a file, copies beside a project, nothing lost and nothing written over.
#include "elements/collect.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "support.h"

#include <QDir>
#include <QFile>
#include <QTemporaryDir>

using namespace hygros;
using namespace hygros::test;
namespace fs = std::filesystem;

class TestCollect : public QObject {
    Q_OBJECT
    std::unique_ptr<QTemporaryDir> dir_;
    fs::path at(const std::string& name) const { return fs::path(dir_->path().toStdString()) / name; }
    fs::path write(const std::string& name, const std::string& text) const
    {
        fs::create_directories(at(name).parent_path());
        writeTextAtomically(at(name), text);
        return at(name);
    }
    static std::string text(const fs::path& file) { return readText(file, "Reading"); }
    std::string gltf(const std::string& name, const std::string& buffer) const
    {
        write(name,
              R"({"asset":{"version":"2.0"},"buffers":[{"uri":")" + buffer +
                  R"(","byteLength":4}],"images":[{"uri":"tex/wall%20one.png"},{"uri":"data:image/png;base64,AA"},)"
                  R"({"uri":"../shared/sky.png"},{"uri":"gone.png"}]})");
        return at(name).string();
    }
    scene::Project with(const std::string& file) const
    {
        scene::Project p = elements::newProject();
        p.folder = at("work");
        p.add(*elements::findKind("set"), "House").set("file", file);
        return p;
    }

private Q_SLOTS:
    void init() { dir_ = std::make_unique<QTemporaryDir>(); }

    void companionsAreFound()
    {
        const std::string house = gltf("far/house/house.gltf", "house.bin");
        write("far/house/house.bin", "1234");
        write("far/house/tex/wall one.png", "wall");
        write("far/shared/sky.png", "sky");
        const auto all = elements::withCompanions(house);
        QCOMPARE(all.size(), std::size_t(4));
        QCOMPARE(all[0], fs::path(house));
        QVERIFY(std::find(all.begin(), all.end(), at("far/shared/sky.png")) != all.end());
        // An OBJ with its materials; options before a texture's name.
        write("obj/a.obj", "mtllib b.mtl\r\nv 0 0 0\n");
        write("obj/b.mtl", "newmtl x\nmap_Kd -s 2 2 2 brick.png\nmap_Bump brick bump.png\n");
        write("obj/brick.png", "b");
        write("obj/brick bump.png", "c");
        QCOMPARE(elements::withCompanions(at("obj/a.obj")).size(), std::size_t(4));
        // All frames of a numbered one, and nothing else.
        for (const char* n : {"fog.0001.vdb", "fog.0002.vdb", "fog.0010.vdb", "fog.x.vdb", "fog.0003.exr"})
            write(std::string("vdb/") + n, n);
        QCOMPARE(elements::withCompanions(at("vdb/fog.####.vdb")).size(), std::size_t(3));
        // Damaged and missing ones have none.
        write("bad.gltf", "{ not json");
        QCOMPARE(elements::withCompanions(at("bad.gltf")).size(), std::size_t(1));
        QVERIFY(elements::withCompanions(at("none.gltf")).empty());
    }
    void allOfItIsCopiedAndNamedFromTheProject()
    {
        const std::string house = gltf("far/house/house.gltf", "house.bin");
        write("far/house/house.bin", "1234");
        write("far/house/tex/wall one.png", "wall");
        write("far/shared/sky.png", "sky");
        scene::Project p = with(house);
        // The same file once more, one that lies beside the project, and one that is not there.
        p.add(*elements::findKind("set"), "Again").set("file", house);
        write("work/own.obj", "v 0 0 0\n");
        p.add(*elements::findKind("set"), "Own").set("file", std::string("own.obj"));
        p.add(*elements::findKind("set"), "Lost").set("file", std::string("../lost.glb"));
        JobControl job;
        const elements::Collected told = elements::collect(p, at("work/shot.hygros"), job);
        QCOMPARE(told.copied, 4);
        QCOMPARE(told.there, 1);
        QCOMPARE(told.missing, std::vector<std::string>{at("lost.glb").string()});
        const auto named = [&](const char* id) { return std::get<std::string>(p.find(id)->value("file")); };
        QCOMPARE(named("house"), std::string("shot-files/house/house/house.gltf"));
        QCOMPARE(named("again"), named("house"));
        QCOMPARE(named("own"), std::string("own.obj"));
        QCOMPARE(named("lost"), std::string("../lost.glb"));
        // What it needs stands where it is looked for.
        QCOMPARE(text(at("work/shot-files/house/shared/sky.png")), std::string("sky"));
        QCOMPARE(text(at("work/shot-files/house/house/tex/wall one.png")), std::string("wall"));
        QCOMPARE(elements::withCompanions(scene::resolved(p, named("house"))).size(), std::size_t(4));
        // Once more there is nothing to do.
        const elements::Collected again = elements::collect(p, at("work/shot.hygros"), job);
        QCOMPARE(again.copied, 0);
        QCOMPARE(again.there, 5);
    }
    void nothingIsWrittenOverAndAFailureLeavesTheProject()
    {
        write("far/a.obj", "first");
        scene::Project p = with(at("far/a.obj").string());
        write("work/shot-files/house/a.obj", "somebody's own");
        JobControl job;
        elements::collect(p, at("work/shot.hygros"), job);
        QCOMPARE(text(at("work/shot-files/house/a.obj")), std::string("somebody's own"));
        QCOMPARE(std::get<std::string>(p.find("house")->value("file")), std::string("shot-files/house-2/a.obj"));
        QCOMPARE(text(at("work/shot-files/house-2/a.obj")), std::string("first"));
        // Where no folder can be made.
        write("other/taken-files", "a file in the way");
        scene::Project q = with(at("far/a.obj").string());
        const std::string before = scene::toJson(q);
        QVERIFY_THROWS_EXCEPTION(Error, elements::collect(q, at("other/taken.hygros"), job));
        QCOMPARE(scene::toJson(q), before);
        job.cancel();
        QVERIFY_THROWS_EXCEPTION(Cancelled, elements::collect(q, at("else/b.hygros"), job));
        QCOMPARE(scene::toJson(q), before);
    }
    void theCommandMakesAFolderThatCanBeHandedOn()
    {
        const QString demo = QString(SOURCE_DIR) + "/demo/first-light.hygros", out = dir_->filePath("handed/on.hygros");
        const Ran ran = cli({"collect", demo, "--out", out});
        QVERIFY2(ran.code == 0, qPrintable(ran.err));
        QVERIFY(ran.out.contains("files copied"));
        // Moved as a whole it still is what it was.
        QVERIFY(QDir(dir_->path()).rename("handed", "moved"));
        const QString moved = dir_->filePath("moved/on.hygros");
        const Ran info = cli({"info", moved, "--strict"});
        QVERIFY2(info.code == 0, qPrintable(info.err));
        const scene::Project p = scene::loadProject(moved.toStdString(), elements::findKind);
        int files = 0;
        for (const scene::Element& e : p.elements)
            for (const scene::Parameter& q : e.kind->parameters)
                if (q.type == scene::ValueType::File && !std::get<std::string>(e.value(q.id)).empty()) {
                    const fs::path file = scene::resolved(p, std::get<std::string>(e.value(q.id)));
                    QVERIFY(file.string().starts_with(dir_->filePath("moved").toStdString()) && fs::exists(file));
                    ++files;
                }
        QVERIFY(files > 0);
        QCOMPARE(cli({"collect", dir_->filePath("none.hygros")}).code, 2);
    }
};

QTEST_GUILESS_MAIN(TestCollect)
#include "test_collect.moc"
