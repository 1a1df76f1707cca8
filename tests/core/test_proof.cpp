/// What differs between two states, in words; and proofs in a project's file.
#include "elements/kinds.h"
#include "scene/differences.h"
#include "scene/proof.h"
#include "support.h"

#include <QTemporaryDir>
#include <fstream>

using namespace hygros;
using namespace hygros::test;
using scene::Project;

class TestProof : public QObject {
    Q_OBJECT
    QTemporaryDir folder_;

    static Project project()
    {
        Project p = elements::newProject();
        p.add(*elements::findKind("fogBank"), "Fog bank").set("top", 4.0);
        p.add(*elements::findKind("bulb"), "Bulb");
        return p;
    }
    static QStringList told(const Project& a, const Project& b)
    {
        QStringList out;
        for (const scene::Difference& d : scene::differencesBetween(a, b))
            out << QString::fromStdString(d.text);
        return out;
    }
    static std::string idOf(const Project& p, const char* name)
    {
        for (const scene::Element& e : p.elements)
            if (e.name == name)
                return e.id;
        return {};
    }
    static std::shared_ptr<const scene::Proof> proof(const char* note, const Project& state)
    {
        scene::Proof p;
        p.note = note;
        p.time = "2031-05-04T12:00:00";
        p.samples = 12;
        p.picture = "cGljdHVyZQ==";
        p.state = state;
        p.state.frame = 7;
        return std::make_shared<const scene::Proof>(std::move(p));
    }

private Q_SLOTS:
    void nothingDiffers() { QCOMPARE(told(project(), project()), QStringList()); }

    void settingsAreTold()
    {
        const Project a = project();
        Project b = a;
        const std::string fog = idOf(a, "Fog bank"), bulb = idOf(a, "Bulb");
        b.find(fog)->set("top", 6.5);
        QCOMPARE(told(a, b), QStringList("Fog bank: top 4 m → 6.5 m"));
        QCOMPARE(scene::differencesBetween(a, b)[0].element, fog);
        // Back again it is told the other way round.
        QCOMPARE(told(b, a), QStringList("Fog bank: top 6.5 m → 4 m"));
        b = a;
        b.find(fog)->muted = true;
        b.find(fog)->name = "Bank on the water";
        QCOMPARE(told(a, b), QStringList({"Fog bank is now called “Bank on the water”", "Bank on the water: muted"}));
        QCOMPARE(told(b, a), QStringList({"Bank on the water is now called “Fog bank”", "Fog bank: no longer muted"}));
        // Values that look alike at first are told apart.
        b = a;
        b.find(fog)->set("top", 4.0004);
        QVERIFY2(told(a, b).value(0).contains("4.0004"), qPrintable(told(a, b).value(0)));
        b = a;
        b.find(bulb)->setReach(fog, 0.5);
        QCOMPARE(told(a, b), QStringList("Bulb: reach to Fog bank 100 % → 50 %"));
        // Of labels that a kind has twice it is said which.
        b = a;
        b.find("shot")->set("position", Vec3(1.f, 2.f, 3.f));
        QVERIFY2(told(a, b).value(0).contains("1 2 3"), qPrintable(told(a, b).value(0)));
    }
    void elementsComeAndGo()
    {
        const Project a = project();
        Project b = a;
        b.remove(idOf(a, "Bulb"));
        b.add(*elements::findKind("haze"), "Haze");
        QCOMPARE(told(a, b),
                 QStringList({"Haze (Haze) is new",
                              "Bulb (" + QString::fromStdString(elements::findKind("bulb")->label) + ") is gone"}));
    }
    void motionAndTimeAreTold()
    {
        const Project a = project();
        Project b = a;
        const std::string fog = idOf(a, "Fog bank");
        scene::Track t;
        t.put(scene::keyAt(1, 4.0));
        t.put(scene::keyAt(20, 8.0));
        b.find(fog)->setTrack("top", t);
        QCOMPARE(told(a, b), QStringList("Fog bank: top changes over time now"));
        QCOMPARE(told(b, a), QStringList("Fog bank: top stays the same over time now, 4 m"));
        Project c = b;
        t.put(scene::keyAt(30, 2.0));
        c.find(fog)->setTrack("top", t);
        QCOMPARE(told(b, c), QStringList("Fog bank: top changes otherwise over time"));
        b = a;
        b.time.last = 240;
        b.time.loop = 4.0;
        b.frame = 50; // where one looks is no difference
        QCOMPARE(told(a, b), QStringList({"Time: last frame 100 → 240", "Time: loop none → 4 s"}));
    }

    void theyComeBackFromTheFile()
    {
        const Project a = project();
        Project saved = a;
        Project other = a;
        other.find(idOf(a, "Fog bank"))->set("top", 9.0);
        const std::filesystem::path file = (folder_.path() + "/kept.hygros").toStdString();
        scene::putProofs(saved, {proof("Thick", other), proof("First", a)}, file.parent_path());
        scene::saveProject(saved, file);
        Project read = scene::loadProject(file, elements::findKind);
        const auto proofs = scene::takeProofs(read, elements::findKind);
        QCOMPARE(proofs.size(), std::size_t(2));
        QCOMPARE(proofs[0].note, std::string("Thick"));
        QCOMPARE(proofs[0].samples, 12);
        QCOMPARE(proofs[0].picture, std::string("cGljdHVyZQ=="));
        QCOMPARE(proofs[0].state.frameNumber(), 7);
        QCOMPARE(proofs[0].state.folder, read.folder);
        QCOMPARE(told(proofs[0].state, a), QStringList("Fog bank: top 9 m → 4 m"));
        // The project is the same with and without them.
        QCOMPARE(scene::toJson(read), scene::toJson(a));
        QVERIFY(scene::takeProofs(read, elements::findKind).empty());
    }
    void oneThatCannotBeReadHarmsNothing()
    {
        const std::filesystem::path file = (folder_.path() + "/harmed.hygros").toStdString();
        Project saved = project();
        scene::putProofs(saved, {proof("Good", project())}, file.parent_path());
        saved.unknown["proofs"].push_back({{"note", "of a later version"}, {"state", {{"format", "other"}}}});
        saved.unknown["proofs"].push_back(17);
        scene::saveProject(saved, file);
        Project read = scene::loadProject(file, elements::findKind);
        std::vector<std::shared_ptr<const scene::Proof>> kept;
        for (scene::Proof& p : scene::takeProofs(read, elements::findKind))
            kept.push_back(std::make_shared<const scene::Proof>(std::move(p)));
        QCOMPARE(kept.size(), std::size_t(3));
        QVERIFY(kept[0]->isReadable() && !kept[1]->isReadable() && !kept[2]->isReadable());
        // And they are still there when it is saved again.
        scene::putProofs(read, kept, file.parent_path());
        QCOMPARE(read.unknown["proofs"][1]["note"].get<std::string>(), std::string("of a later version"));
        QCOMPARE(read.unknown["proofs"][2].get<int>(), 17);
    }
    void filesInThemFollowTheProject()
    {
        Project p = project();
        p.folder = "/somewhere/shots";
        p.add(*elements::findKind("set"), "Set").set("file", std::string("lock.glb"));
        Project saved = p;
        scene::putProofs(saved, {proof("Here", p)}, "/somewhere/else");
        const auto& elements = saved.unknown["proofs"][0]["state"]["elements"];
        QCOMPARE(elements.back()["settings"]["file"].get<std::string>(), std::string("../shots/lock.glb"));
    }
};

QTEST_GUILESS_MAIN(TestProof)
#include "test_proof.moc"
