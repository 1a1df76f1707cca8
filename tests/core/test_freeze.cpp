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
