/// Elements in the hand, without a window: parts, doubles, groups, order; recipes of one's own; files that went
/// missing.
#include "scene/arrange.h"
#include "scene/recipe.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using scene::Project;

namespace {
const scene::ElementKind& kind(const char* id) { return *elements::findKind(id); }
std::vector<std::string> order(const Project& p, scene::Family family)
{
    std::vector<std::string> ids;
    for (const scene::Element& e : p.elements)
        if (e.kind->family == family)
            ids.push_back(e.id);
    return ids;
}
using Ids = std::vector<std::string>;
} // namespace

class TestArrange : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void aDoubleStandsBehindAndIsReachedAlike()
    {
        Project p = elements::newProject();
        p.add(kind("fogBank"), "Mist").set("top", 4.0);
        p.add(kind("haze"), "Haze");
        p.add(kind("spot"), "Lamp");
        p.setPath("lamp.reach.mist", "0.5");
        p.setPath("sun.reach.sky/mist", "0");
        const Ids added = scene::duplicate(p, Ids{"mist"});
        QCOMPARE(added, Ids{"mist-2"});
        QCOMPARE(order(p, scene::Family::Air), (Ids{"mist", "mist-2", "haze"}));
        QCOMPARE(p.find("mist-2")->name, std::string("Mist 2"));
        QCOMPARE(std::get<double>(p.find("mist-2")->value("top")), 4.0);
        QCOMPARE(p.find("lamp")->reachTo("mist-2"), 0.5);
        QCOMPARE(p.find("sun")->reachTo("sky/mist-2"), 0.0);
        // The next is called Mist 3, and what there can be only one of stays alone.
        QCOMPARE(p.find(scene::duplicate(p, Ids{"mist-2"}).at(0))->name, std::string("Mist 3"));
        QVERIFY(scene::duplicate(p, Ids{"look", "shot"}).empty());
    }

    void whatIsCopiedTogetherStaysLinked()
    {
        const QTemporaryDir from, to;
        Project p = elements::newProject();
        p.folder = from.path().toStdString();
        scene::Element& smoke = p.add(kind("volume"), "Smoke");
        smoke.set("file", std::string("smoke.vdb"));
        p.add(kind("tint"), "Colours").set("volume", std::string("smoke"));
        p.add(kind("bulb"), "Lamp");
        p.setPath("lamp.reach.smoke", "0.25");
        const std::string text = scene::partToText(p, Ids{"colours", "smoke", "lamp"});
        QVERIFY(QString::fromStdString(text).contains("\"format\": \"hygros-project\""));
        // Into another project that has a Smoke of its own.
        Project other = elements::newProject();
        other.folder = to.path().toStdString();
        other.add(kind("volume"), "Smoke");
        const Ids added = scene::putPart(other, scene::partFromText(text, elements::findKind), {});
        QCOMPARE(added, (Ids{"smoke-2", "colours", "lamp"}));
        QCOMPARE(std::get<std::string>(other.find("colours")->value("volume")), std::string("smoke-2"));
        QCOMPARE(other.find("lamp")->reachTo("smoke-2"), 0.25);
        QCOMPARE(scene::resolved(other, std::get<std::string>(other.find("smoke-2")->value("file"))),
                 scene::resolved(p, "smoke.vdb"));
        THROWS_SAYING(scene::partFromText("hello", elements::findKind), "damaged");
        THROWS_SAYING(scene::partFromText("{\"format\":\"hygros-project\",\"version\":1}", elements::findKind),
                      "no element");
    }

    void groupsMuteSoloAndTravelThroughFiles()
    {
        Project p = elements::newProject();
        for (const char* name : {"A", "B", "C", "D"})
            p.add(kind("fogBank"), name);
        const std::string g = scene::makeGroup(p, Ids{"d", "b"}, "Ground fog");
        // They stand together, where the first of them stood.
        QCOMPARE(order(p, scene::Family::Air), (Ids{"a", "b", "d", "c"}));
        p.setPath(g + ".muted", "on");
        QVERIFY(p.silent(*p.find("b")) && p.silent(*p.find("d")) && !p.silent(*p.find("a")));
        p.setPath(g + ".muted", "off");
        p.setPath(g + ".soloed", "on");
        QVERIFY(!p.silent(*p.find("b")) && p.silent(*p.find("a")));
        THROWS_SAYING(p.setPath(g + ".visibility", "3"), "no parameter");
        p.findGroup(g)->folded = true;
        const Project again = scene::fromJson(scene::toJson(p), "groups", elements::findKind);
        QVERIFY(again.findGroup(g) && again.findGroup(g)->folded && again.findGroup(g)->soloed);
        QCOMPARE(again.findGroup(g)->name, std::string("Ground fog"));
        QCOMPARE(scene::membersOf(again, g), (Ids{"b", "d"}));
        // Doubled as a whole it is another group; one of it joins the old one.
        Project doubled = again;
        const Ids whole = scene::duplicate(doubled, Ids{"b", "d"});
        QVERIFY(doubled.find(whole[0])->group != g && doubled.find(whole[0])->group == doubled.find(whole[1])->group);
        QCOMPARE(doubled.find(scene::duplicate(doubled, Ids{"b"}).at(0))->group, g);
        // Without members it goes.
        scene::dissolveGroup(p, g);
        QVERIFY(p.groups.empty() && p.find("b")->group.empty());
        THROWS_SAYING(scene::fromJson(R"({"format":"hygros-project","version":1,"groups":[{"name":"x"}]})", "g",
                                      elements::findKind),
                      "no id");
    }

    void movingJoinsAndLeavesGroups()
    {
        Project p = elements::newProject();
        for (const char* name : {"A", "B", "C"})
            p.add(kind("veil"), name);
        scene::moveBefore(p, Ids{"c"}, "a");
        QCOMPARE(order(p, scene::Family::Air), (Ids{"c", "a", "b"}));
        scene::moveBefore(p, Ids{"c", "a"}, {});
        QCOMPARE(order(p, scene::Family::Air), (Ids{"b", "c", "a"}));
        const std::string g = scene::makeGroup(p, Ids{"b", "c"}, "G");
        scene::moveBefore(p, Ids{"a"}, "c");
        QCOMPARE(p.find("a")->group, g);
        scene::moveBefore(p, Ids{"a"}, {});
        QVERIFY(p.find("a")->group.empty());
    }

    void aRecipeOfOnesOwnComesBackAsItWas()
    {
        const QTemporaryDir dir;
        Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        scene::Element& bank = p.add(kind("fogBank"), "Bank");
        bank.set("form", std::string("box"));
        bank.set("centre", Vec3(1.f, 2.f, -3.f));
        p.add(kind("bulb"), "Lamp").set("position", Vec3(4.f, 2.f, -3.f));
        scene::Recipe r;
        r.name = "Two things";
        r.help = "a box and a lamp";
        r.picture = "iVBORw0KGgo=";
        r.stands = 5.0;
        r.part = scene::partOf(p, Ids{"bank", "lamp"});
        const auto file = scene::freeRecipeFile(dir.path().toStdString(), r.name);
        QCOMPARE(file.filename().string(), std::string("two-things.hygros-recipe"));
        scene::saveRecipe(r, file);
        QVERIFY(scene::freeRecipeFile(dir.path().toStdString(), r.name) != file);
        const scene::Recipe back = scene::loadRecipe(file, elements::findKind);
        QCOMPARE(back.name, r.name);
        QCOMPARE(back.picture, r.picture);
        Project other = elements::newProject();
        const Ids ids = scene::applyRecipe(other, back, 1.0, Vec3(10.f, 0.f, 0.f));
        // Every place moves, a bank's middle too.
        QCOMPARE(std::get<Vec3>(other.find(ids[0])->value("centre")), Vec3(11.f, 2.f, -3.f));
        QCOMPARE(std::get<Vec3>(other.find(ids[1])->value("position")), Vec3(14.f, 2.f, -3.f));
        r.part = scene::partOf(p, Ids{"sun"});
        THROWS_SAYING(scene::saveRecipe(r, file), "a project has one");
        r.part = {};
        THROWS_SAYING(scene::saveRecipe(r, file), "nothing in it");
    }

    void deepNestingIsRefusedAndValuesAreToldInShort()
    {
        const std::string head = R"({"format":"hygros-project","version":1,"x":)";
        const auto nested = [&](int n) {
            return head + std::string(std::size_t(n), '[') + std::string(std::size_t(n), ']') + "}";
        };
        QVERIFY(scene::fromJson(nested(60), "deep", elements::findKind).unknown.contains("x"));
        THROWS_SAYING(scene::fromJson(nested(150000), "deep", elements::findKind), "64 levels");
        // Brackets inside of texts are none.
        QVERIFY(scene::fromJson(head + "\"" + std::string(500, '[') + "\\\"" + std::string(500, '{') + "\"}", "text",
                                elements::findKind)
                    .unknown.contains("x"));
        std::string list = "[0";
        for (int i = 0; i < 100000; ++i)
            list += ",1";
        QString said;
        try {
            scene::fromJson(
                R"({"format":"hygros-project","version":1,"elements":[{"kind":"haze","id":"h","settings":{"visibility":)" +
                    list + "]}}]}",
                "long", elements::findKind);
        } catch (const std::exception& e) {
            said = e.what();
        }
        QVERIFY2(said.contains("a list of 100001") && said.size() < 200, qPrintable(said.left(300)));
    }

    void aProjectOpensWithoutItsFilesAndFindsThemAgain()
    {
        const QTemporaryDir dir, moved;
        std::ofstream(moved.filePath("a.obj").toStdString()) << "v 0 0 0\nv 1 0 0\nv 0 0 1\nf 1 2 3\n";
        std::ofstream(moved.filePath("b.obj").toStdString()) << "v 0 0 0\nv 1 0 0\nv 0 0 1\nf 1 2 3\n";
        Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.add(kind("set"), "A").set("file", std::string("a.obj"));
        p.add(kind("set"), "B").set("file", std::string("b.obj"));
        p.add(kind("bulb"), "Lamp").set("follows", std::string("a"));
        Store store;
        JobControl job;
        THROWS_SAYING(elements::freeze(p, store, job), "a.obj");
        const auto shot = elements::freeze(p, store, job, elements::Missing::Told);
        QCOMPARE(shot->lamps.size(), std::size_t{1});
        int told = 0;
        for (const shot::Note& n : shot->notes)
            told += n.missing == "file" && QString::fromStdString(n.text).contains(".obj") ? 1 : 0;
        QCOMPARE(told, 2);
        // One is shown where it is; the other lay beside it.
        QCOMPARE(elements::findFiles(p, "a", "file", moved.filePath("a.obj").toStdString()), 2);
        QVERIFY(elements::missingFiles(p).empty());
        QCOMPARE(elements::freeze(p, store, job)->scene->triangles(), std::size_t{2});
    }

    void aSetTooFarOutIsLeftOutWithANote()
    {
        const QTemporaryDir dir;
        const auto write = [&](const char* text) { std::ofstream(dir.filePath("x.obj").toStdString()) << text; };
        const std::filesystem::path file = dir.filePath("x.obj").toStdString();
        Store store;
        JobControl job;
        write("v 0 0 0\nv 1e38 0 0\nv 0 0 1\nf 1 2 3\n");
        THROWS_SAYING(geometry::importSet(file, job), "beyond 10 000 km");
        write("v 0 0 0\nv nan 0 0\nv 0 0 1\nf 1 2 3\n");
        THROWS_SAYING(geometry::importSet(file, job), "x.obj");
        write("v 0 0 0\nv 9000 0 0\nv 0 0 1\nf 1 2 3\n");
        Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.add(kind("set"), "x").set("file", std::string("x.obj"));
        p.setPath("x.scale", "1e6");
        const auto shot = elements::freeze(p, store, job);
        QCOMPARE(shot->scene->triangles(), std::size_t{0});
        QVERIFY(QString::fromStdString(shot->notes.at(0).text).contains("10 000 km"));
    }
};

QTEST_GUILESS_MAIN(TestArrange)
#include "test_arrange.moc"
