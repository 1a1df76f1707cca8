/// What freezing makes of sets and of what refers to them: objects in Reach, and what goes with a set.
#include "elements/kinds.h"
#include "render/live.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>

using namespace hygros;

class TestFreeze : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void reachGoesDownToTheObjectsOfASetAndToTheirShadows()
    {
        const QTemporaryDir dir;
        std::ofstream(dir.filePath("yard.obj").toStdString())
            << "o floor\nv -9 0 -9\nv 9 0 -9\nv 9 0 9\nv -9 0 9\nf 1 4 3 2\n"
               "o post_1\nv -1 1 -1\nv 1 1 -1\nv 0 1 1\nf 5 6 7\no post_2\nv 3 1 -1\nv 5 1 -1\nv 4 1 1\nf 8 9 10\n";
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.add(*elements::findKind("set"), "yard").set("file", std::string("yard.obj"));
        scene::Element& bulb = p.add(*elements::findKind("bulb"), "bulb");
        bulb.set("position", Vec3(0.f, 3.f, 0.f));
        Store store;
        JobControl job;
        const auto frozen = [&] { return elements::freeze(p, store, job); };
        const auto whole = frozen();
        QCOMPARE(whole->setIds, (std::vector<std::string>{"yard/floor", "yard/post"}));
        p.setPath("bulb.reach.yard/post", "0");
        p.setPath("bulb.reach.yard", "0.5");
        auto shot = frozen();
        QCOMPARE(shot->lamps[0].setReach, (std::vector<float>{0.5f, 0.f}));
        const auto shaded = [&](const shot::Shot& s) {
            return s.shadowsOf(s.lamps[0]).occluded(Vec3(0.f, 0.1f, 0.f), Vec3(0, 1, 0), 2.5f);
        };
        QVERIFY(shaded(*shot)); // dark, but still in the way
        p.setPath("bulb.reachShadows", "on");
        shot = frozen();
        QVERIFY(!shaded(*shot));
        QVERIFY(!shot->sunShadows && shot->scene->occluded(Vec3(0.f, 0.1f, 0.f), Vec3(0, 1, 0), 2.5f));
        QCOMPARE(int(render::changeBetween(*whole, *shot)), int(render::Change::Light));
        // The sun alike.
        p.setPath("sun.reach.yard/post", "0");
        p.setPath("sun.reachShadows", "on");
        shot = frozen();
        QVERIFY(shot->sunShadows && !shot->shadowsOfSun().occluded(Vec3(0.f, 0.1f, 0.f), Vec3(0, 1, 0), 2.5f));
        // Through a file, and gone with its set.
        const auto again = scene::fromJson(scene::toJson(p), "yard", elements::findKind);
        QCOMPARE(again.find("bulb")->reachTo("yard/post"), 0.0);
        THROWS_SAYING(p.setPath("bulb.reach.nowhere/post", "0"), "nowhere");
        p.remove("yard");
        QVERIFY(p.find("bulb")->reach.empty() && p.find("sun")->reach.empty());
    }

    void objectsAreScatteredAsInstances()
    {
        const QTemporaryDir dir;
        // A floor, a steep bank beside it, and a rock: a roof of half a metre's side, 0.4 m high, somewhere else.
        std::ofstream(dir.filePath("yard.obj").toStdString())
            << "o floor\nv -9 0 -9\nv 9 0 -9\nv 9 0 9\nv -9 0 9\nf 1 4 3 2\n"
               "o bank\nv 9 0 -9\nv 10 9 -9\nv 10 9 9\nv 9 0 9\nf 5 6 7 8\n"
               "o rock\nv 50 2 50\nv 50.5 2 50\nv 50.5 2 50.5\nv 50 2 50.5\nv 50.25 2.4 50.25\n"
               "f 9 13 10\nf 10 13 11\nf 11 13 12\nf 12 13 9\n";
        scene::Project p = elements::newProject();
        p.folder = dir.path().toStdString();
        p.add(*elements::findKind("set"), "yard").set("file", std::string("yard.obj"));
        scene::Element& rocks = p.add(*elements::findKind("objectCopies"), "rocks");
        Store store;
        JobControl job;
        const auto frozen = [&] { return elements::freeze(p, store, job); };
        const auto noteOf = [&] {
            std::string all;
            const auto made = frozen();
            for (const shot::Note& n : made->notes)
                if (n.element == "rocks")
                    all += n.text;
            return all;
        };
        QVERIFY2(noteOf().find("Choose the set") != std::string::npos, noteOf().c_str());
        p.setPath("rocks.set", "yard");
        p.setPath("rocks.part", "stone");
        QVERIFY(noteOf().find("floor, bank, rock") != std::string::npos);
        // One, where it is put: twice as large, its tip over the middle of its foot.
        for (const auto& [path, value] :
             {std::pair("rocks.part", "rock"), std::pair("rocks.count", "1"), std::pair("rocks.turn", "0"),
              std::pair("rocks.smallest", "2"), std::pair("rocks.largest", "2"), std::pair("rocks.lift", "0.1 m")})
            p.setPath(path, value);
        rocks.set("centre", Vec3(-3.f, 0.f, 2.f));
        rocks.set("size", Vec3(0.f));
        auto shot = frozen();
        QVERIFY(noteOf().empty());
        geometry::Hit hit;
        QVERIFY(shot->scene->trace(Vec3(-3.001f, 5.f, 2.002f), Vec3(0, -1, 0), 0.f, 100.f, hit));
        NEAR(hit.t, 5.0 - 0.9, 0.005);
        QCOMPARE(QString::fromStdString(shot->setIds[hit.set]), QString("rocks"));
        QVERIFY(shot->scene->trace(Vec3(-3.f, 5.f, 2.6f), Vec3(0, -1, 0), 0.f, 100.f, hit));
        QCOMPARE(QString::fromStdString(shot->setIds[hit.set]), QString("yard/floor"));
        // Many on the floor: none hang on the bank, they count as one in Reach, and another seed is another scatter.
        for (const auto& [path, value] :
             {std::pair("rocks.onto", "surface"), std::pair("rocks.ground", "yard"), std::pair("rocks.count", "300"),
              std::pair("rocks.smallest", "0.5"), std::pair("rocks.largest", "1.5"), std::pair("rocks.lift", "0"),
              std::pair("rocks.turn", "360"), std::pair("rocks.groundPart", "floor")})
            p.setPath(path, value);
        const auto covered = [&](const shot::Shot& s) {
            std::vector<bool> out;
            for (int i = 0; i < 80 * 80; ++i) {
                const Vec3 from(-8.9f + 0.22f * static_cast<float>(i % 80), 8.f,
                                -8.9f + 0.22f * static_cast<float>(i / 80));
                out.push_back(s.scene->trace(from, Vec3(0, -1, 0), 0.f, 100.f, hit) && s.setIds[hit.set] == "rocks");
            }
            return out;
        };
        shot = frozen();
        QCOMPARE(shot->setIds, (std::vector<std::string>{"yard/floor", "yard/bank", "yard/rock", "", "", "rocks"}));
        const auto here = covered(*shot);
        // 300 of about a quarter of a square metre on 324 m².
        const auto share = double(std::count(here.begin(), here.end(), true)) / double(here.size());
        QVERIFY2(share > 0.12 && share < 0.32, qPrintable(QString::number(share)));
        QVERIFY(covered(*frozen()) == here);
        p.setPath("rocks.seed", "2");
        QVERIFY(covered(*frozen()) != here);
        p.setPath("rocks.groundPart", "bank");
        QVERIFY(noteOf().find("flat enough") != std::string::npos);
        p.setPath("rocks.steepest", "90 deg");
        QVERIFY(noteOf().empty());
        // The model may be silent; without it there is nothing to copy.
        p.setPath("rocks.groundPart", "floor");
        p.find("yard")->muted = true;
        shot = frozen();
        QVERIFY(shot->scene->triangles() > 0);
        QCOMPARE(shot->setIds, (std::vector<std::string>{"", "", "rocks"}));
        // Through a file.
        const auto again = scene::fromJson(scene::toJson(p), "yard", elements::findKind);
        QCOMPARE(std::get<std::string>(again.find("rocks")->value("groundPart")), std::string("floor"));
        p.remove("yard");
        QVERIFY(noteOf().find("Choose the set") != std::string::npos);
    }

    void aFogBankGoesWithTheSetItIsFixedTo()
    {
        scene::Project p = elements::newProject();
        const QTemporaryDir dir;
        p.folder = dir.path().toStdString();
        std::ofstream(dir.filePath("boat.obj").toStdString()) << "v -1 0 -1\nv 1 0 -1\nv 0 0 1\nf 1 2 3\n";
        scene::Element& boat = p.add(*elements::findKind("set"), "boat");
        boat.set("file", std::string("boat.obj"));
        boat.set("position", Vec3(10.f, 0.f, 0.f));
        boat.set("turn", 90.0);
        scene::Element& bank = p.add(*elements::findKind("fogBank"), "smoke");
        bank.set("form", std::string("box"));
        bank.set("centre", Vec3(2.f, 1.f, 0.f));
        bank.set("size", Vec3(8.f, 2.f, 1.f));
        bank.set("edge", 0.0);
        bank.set("contrast", 0.0);
        bank.set("follows", std::string("boat"));
        Store store;
        JobControl job;
        const auto shot = elements::freeze(p, store, job);
        // Turned by a quarter its long side lies along z, two metres from the boat's middle.
        const auto frame = *elements::frameOf(p, "boat", store, job);
        Vec3 middle;
        frame.multVecMatrix(Vec3(2.f, 1.f, 0.f), middle);
        QVERIFY((shot->media[0].centre - middle).length() < 1e-4f && std::abs(std::abs(middle.z) - 2.f) < 1e-4f);
        QVERIFY(media::profile(shot->media[0], middle + Vec3(0, 0, 3.5f)) > 0.99f);
        QVERIFY(media::profile(shot->media[0], middle + Vec3(3.5f, 0, 0)) < 0.01f);
    }
};

QTEST_GUILESS_MAIN(TestFreeze)
#include "test_freeze.moc"
